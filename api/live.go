package api

import (
	"context"
	"encoding/json"
	"net/http"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"
	"golang.org/x/time/rate"

	"vividperch/app"
	"vividperch/bench/protocol"
	"vividperch/core/quad"
)

// SaidKind is what a page asks for over the live socket.
type SaidKind string

const (
	SaidMotion SaidKind = "motion"
	SaidRest   SaidKind = "rest" // the hold ended
	SaidCut    SaidKind = "cut"
)

// Said is what a page sends over the live socket. A motion is renewed by the page for as long as the pilot
// holds; the server passes each renewal on and never makes one up.
type Said struct {
	Kind   SaidKind         `json:"kind" enum:"motion,rest,cut"`
	Quad   int64            `json:"quad,omitempty"` // whose motors are to turn
	Motion *protocol.Motion `json:"motion,omitempty"`
	// At is the page's own clock in ms, of which only differences count.
	At float64 `json:"at,omitempty"`
}

// ages tells how long a page's messages have been under way, from the page's clock and the server's: the
// quickest one so far is taken to have taken no time.
type ages struct {
	began time.Time
	least float64
	known bool
}

// of a message that arrives now, ms; 0 for one without a clock.
func (a *ages) of(at float64) float64 {
	if at == 0 {
		return 0
	}
	lag := float64(time.Since(a.began).Microseconds())/1000 - at
	if !a.known || lag < a.least {
		a.least, a.known = lag, true
	}
	return lag - a.least
}

const (
	socketLine = 4 << 10
	writeLimit = 2 * time.Second
	// motionsPerSecond of one page: five times what a hand needs.
	motionsPerSecond = 50
)

// saysOf an error what a pilot is told over a socket: its sentence where it is a Fault, else what is always true.
func saysOf(err error, always string) string {
	if f := quad.AsFault(err); f != nil {
		return sentence(f.Sentence)
	}
	return always
}

// liveSocket streams what the bench shows and takes motions. Origin is checked by the guard before.
func liveSocket(a *app.App) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		conn, err := websocket.Accept(w, r, nil)
		if err != nil {
			return // Accept has answered
		}
		defer conn.CloseNow()
		conn.SetReadLimit(socketLine)
		b, err := a.Bench()
		if err != nil {
			withoutBench(r.Context(), conn, err)
			return
		}
		ctx, cancel := context.WithCancel(r.Context())
		defer cancel()
		frames, leave := b.Subscribe()
		defer leave()
		refused := make(chan string, 4)
		moved := false
		pace := rate.NewLimiter(motionsPerSecond, motionsPerSecond)
		age := ages{began: time.Now()}
		go func() {
			defer cancel()
			for {
				var s Said
				_, raw, err := conn.Read(ctx)
				if err != nil {
					return
				}
				if json.Unmarshal(raw, &s) != nil {
					continue
				}
				if s.Kind == SaidMotion && !pace.Allow() {
					continue // a hand renews ten times a second; what floods is not heard, and its lease ends
				}
				if s.Kind == SaidMotion {
					if moved = true; age.of(s.At) > protocol.LeaseMillis {
						continue // held up under way: whoever sent it may have let go long since
					}
				}
				if err := hear(ctx, a, b, s); err != nil {
					select {
					case refused <- saysOf(err, "The bench did not do it."):
					default:
					}
				}
			}
		}()
		for {
			var f app.LiveFrame
			select {
			case <-ctx.Done():
				if moved {
					// The page is gone: say so at once instead of letting the lease run out.
					end, stop := context.WithTimeout(context.Background(), time.Second)
					_ = b.Rest(end)
					stop()
				}
				return
			case f = <-frames:
			case says := <-refused:
				f = app.LiveFrame{Kind: app.FrameRefused, Says: says}
			}
			write, stop := context.WithTimeout(ctx, writeLimit)
			err := wsjson.Write(write, conn, f)
			stop()
			if err != nil {
				return
			}
		}
	})
}

// withoutBench tells a page once that there is no bench, and holds the line, so that the page knows that the
// program is there.
func withoutBench(ctx context.Context, conn *websocket.Conn, why error) {
	status := app.BenchStatus{None: true, Says: sentence(quad.AsFault(why).Sentence), Outputs: []string{}, Switches: []protocol.SwitchInfo{}}
	if wsjson.Write(ctx, conn, app.LiveFrame{Kind: app.FrameStatus, Status: &status}) == nil {
		<-conn.CloseRead(ctx).Done()
	}
}

func hear(ctx context.Context, a *app.App, b *app.Bench, s Said) error {
	switch {
	case s.Kind == SaidMotion && s.Motion != nil:
		return a.Hold(ctx, s.Quad, *s.Motion)
	case s.Kind == SaidRest:
		return b.Rest(ctx)
	case s.Kind == SaidCut:
		return b.Cut(ctx)
	}
	return nil
}
