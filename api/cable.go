package api

import (
	"context"
	"encoding/json"
	"net/http"
	"strconv"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"
	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/bench/protocol"
	"vividperch/core/quad"
)

// CableSaid is what a page sends over a cable's socket: what its port gave, that the port is open, that it is gone, or that the changes shown are to be written.
type CableSaid struct {
	Kind CableSaidKind `json:"kind" enum:"heard,gone,opened,write"`
	// Heard are bytes, each as the character of its number.
	Heard string `json:"heard,omitempty"`
	Seen  string `json:"seen,omitempty"` // of the quad, where something is to be written
}

// CableSaidKind is what a page says of its port.
type CableSaidKind string

const (
	CableHeard  CableSaidKind = "heard"
	CableOpened CableSaidKind = "opened"
	CableGone   CableSaidKind = "gone"
	CableWrite  CableSaidKind = "write"
)

const (
	cableLine = 256 << 10
	// cableTick is how often a conversation looks at the clock while nothing arrives.
	cableTick = 40 * time.Millisecond
)

// bytesOf characters that stand for bytes; others are none that a port can give.
func bytesOf(text string) []byte {
	out := make([]byte, 0, len(text))
	for _, r := range text {
		if r > 0xff {
			r = 0
		}
		out = append(out, byte(r))
	}
	return out
}

// cableSocket carries one conversation with a board behind a page's serial port. It ends with the socket.
func cableSocket(a *app.App) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		conn, err := websocket.Accept(w, r, nil)
		if err != nil {
			return // Accept has answered
		}
		defer conn.CloseNow()
		conn.SetReadLimit(cableLine)
		ctx, cancel := context.WithCancel(r.Context())
		defer cancel()
		tell := func(v *app.CableView) bool {
			write, stop := context.WithTimeout(ctx, writeLimit)
			defer stop()
			return wsjson.Write(write, conn, v) == nil
		}
		refused := func(err error) *app.CableView {
			return &app.CableView{Says: saysOf(err, "It could not be done."), Stage: "done", Sends: []string{}, Sent: []string{}, Changes: []app.WriteView{}, Lines: []string{}}
		}
		q := r.URL.Query()
		id, err := strconv.ParseInt(q.Get("quad"), 10, 64)
		if err != nil {
			tell(refused(quad.Faultf("no-quad", "quad", "there is no such quad")))
			return
		}
		c, v, err := a.Cable(ctx, id, app.CableAsk{Family: q.Get("family"), Bench: q.Get("port") == "bench", PropellersOff: q.Get("propellersOff") == "true"})
		if err != nil {
			tell(refused(err))
			return
		}
		if !tell(v) {
			return
		}
		said := make(chan CableSaid, 16)
		go func() {
			defer cancel()
			for {
				var s CableSaid
				_, raw, err := conn.Read(ctx)
				if err != nil {
					return
				}
				if json.Unmarshal(raw, &s) != nil {
					continue
				}
				select {
				case said <- s:
				case <-ctx.Done():
					return
				}
			}
		}()
		tick := time.NewTicker(cableTick)
		defer tick.Stop()
		// Until the page says that its port is open, nothing is begun and no time runs.
		last, begun := "", false
		for {
			var s CableSaid
			select {
			case <-ctx.Done():
				return
			case s = <-said:
				if !begun {
					c.Begin()
				}
				begun = true
			case <-tick.C:
			}
			if !begun {
				continue
			}
			switch s.Kind {
			case CableWrite:
				v, err = c.Write(ctx, s.Seen)
			case CableOpened:
				v, err = c.Opened(ctx)
			default:
				v, err = c.Step(ctx, bytesOf(s.Heard), s.Kind == CableGone)
			}
			if err != nil {
				tell(refused(err))
				return
			}
			now, err := json.Marshal(v)
			if err != nil {
				return
			}
			if string(now) != last && !tell(v) {
				return
			}
			last = string(now)
		}
	})
}

func cableOperations(h huma.API, a *app.App) {
	get(h, "cableFamilies", "/api/cable/families", "Firmware families whose console is described", func(ctx context.Context, _ *struct{}) (*out[[]string], error) {
		return answer(a.Families(ctx))
	})
	post(h, "benchSerial", "/api/bench/serial", "Text over the cable of the board on the bench, and what it said since", func(ctx context.Context, in *struct{ Body protocol.Serial }) (*out[protocol.Serial], error) {
		return answer(a.BenchSerial(ctx, in.Body.Text))
	})
}
