package main

import (
	"errors"
	"fmt"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"

	"vividperch/api"
	"vividperch/app"
	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/demo/benchtest"
	"vividperch/store/mariadb/mariadbtest"
)

// done is what was answered with success, and what was asked last without an answer.
type done struct {
	notes   []string // of events and flights, each kept for ever
	weights []int    // asked, in order; the last answered one or a later must stand
	weight  int      // index of the last answered
	idles   []int
	idle    int
	signed  int // signatures answered
}

type shownFlight struct {
	ID          int64
	Notes, Site string
	Minutes     float64
}

// pages through all of what gathers.
func pages[V any](t *testing.T, p *program, path string, see func(V) (before int64, more bool)) {
	t.Helper()
	for before, more := int64(0), true; more; {
		var v V
		if status, err := p.ask("GET", fmt.Sprintf("%s?before=%d", path, before), nil, &v); err != nil || status != http.StatusOK {
			t.Fatalf("%s cannot be read: %d, %v", path, status, err)
		}
		before, more = see(v)
	}
}

type shownQuad struct {
	Version int64
	Meant   struct {
		Sheet struct{ Motors struct{ Idle float64 } }
	}
	Line []struct {
		ID       string
		SignedAt *time.Time
		Readings []struct {
			Path  string
			Value any
		}
	}
}

// act does one random thing and notes it when, and only when, it was answered with success. The error says
// that something it was done through is gone.
func (d *done) act(p *program, n int) (gone error) {
	ok := func(status int, err error) bool {
		if status == http.StatusServiceUnavailable {
			gone = errors.New("the database is away")
		}
		if status == http.StatusInternalServerError {
			gone = errors.New("the answer was 500")
		}
		return err == nil && status == http.StatusOK
	}
	if err := d.one(p, n, ok); err != nil {
		return err
	}
	return gone
}

func (d *done) one(p *program, n int, ok func(int, error) bool) error {
	switch n % 5 { // each in its turn: a short run must hold some of every kind
	case 0:
		note := fmt.Sprintf("event %d", n)
		status, err := p.ask("POST", "/api/quads/1/event", map[string]any{"event": "remount", "note": note}, nil)
		if ok(status, err) {
			d.notes = append(d.notes, note)
		}
		return err
	case 1:
		note := fmt.Sprintf("flight %d", n)
		status, err := p.ask("POST", "/api/quads/1/flights", map[string]any{"site": note, "pack": "grey", "minutes": n, "drawn": 1, "lowest": 22, "notes": note}, nil)
		if ok(status, err) {
			d.notes = append(d.notes, note)
		}
		return err
	case 2:
		d.weights = append(d.weights, 600+n)
		status, err := p.ask("POST", "/api/quads/1/type", map[string]any{"path": "readings.airframe.weight", "value": 600 + n}, nil)
		if ok(status, err) {
			d.weight = len(d.weights) - 1
		}
		return err
	case 3:
		var q shownQuad
		if status, err := p.ask("GET", "/api/quads/1", nil, &q); !ok(status, err) {
			return err
		}
		d.idles = append(d.idles, n)
		status, err := p.ask("POST", "/api/quads/1/edit", map[string]any{"version": q.Version, "values": []any{map[string]any{"path": "sheet.motors.idle", "value": 4 + float64(n)/1000}}}, nil)
		if ok(status, err) {
			d.idle = len(d.idles) - 1
		}
		return err
	}
	status, err := p.ask("POST", "/api/quads/1/sign", map[string]any{"station": "wiring", "seen": ""}, nil)
	if ok(status, err) {
		d.signed++
	}
	return err
}

// check compares what stands with what was answered.
func (d *done) check(t *testing.T, p *program) {
	t.Helper()
	var q shownQuad
	if status, err := p.ask("GET", "/api/quads/1", nil, &q); err != nil || status != http.StatusOK {
		t.Fatalf("the quad cannot be read after the kill: %d, %v", status, err)
	}
	var notes []string
	pages(t, p, "/api/quads/1/events", func(v struct {
		Events []struct {
			ID   int64
			Note string
		}
		More bool
	}) (before int64, more bool) {
		for _, e := range v.Events {
			notes, before = append(notes, e.Note), e.ID
		}
		return before, v.More
	})
	var flights []shownFlight
	pages(t, p, "/api/quads/1/flights", func(v struct {
		Flights []shownFlight
		More    bool
	}) (before int64, more bool) {
		for _, f := range v.Flights {
			flights, before = append(flights, f), f.ID
		}
		return before, v.More
	})
	for _, f := range flights {
		notes = append(notes, f.Notes)
		// A flight is there whole or not at all.
		if n, _ := strconv.Atoi(strings.TrimPrefix(f.Notes, "flight ")); f.Site != f.Notes || f.Minutes != float64(n) {
			t.Errorf("half a flight: %+v", f)
		}
	}
	for _, n := range d.notes {
		if !slices.Contains(notes, n) {
			t.Errorf("%s was answered with success and is gone", n)
		}
	}
	stands := func(what string, value float64, asked []int, last int, of func(int) float64) {
		if len(asked) == 0 {
			return
		}
		for _, n := range asked[last:] {
			if of(n) == value {
				return
			}
		}
		t.Errorf("%s is %v, but %v was answered with success and only %v asked since", what, value, of(asked[last]), asked[last:])
	}
	for _, s := range q.Line {
		for _, r := range s.Readings {
			if x, ok := r.Value.(float64); ok && r.Path == "readings.airframe.weight" {
				stands("the weight", x, d.weights, d.weight, func(n int) float64 { return float64(n) })
			}
		}
		if s.ID == "wiring" && s.SignedAt == nil {
			t.Error("a signature is gone")
		}
	}
	stands("idle", q.Meant.Sheet.Motors.Idle, d.idles, d.idle, func(n int) float64 { return 4 + float64(n)/1000 })
}

// drawn is a source of chance whose seed is told, and can be given again in PERCH_SEED.
func drawn(t *testing.T) *rand.Rand {
	t.Helper()
	seed := uint64(time.Now().UnixNano())
	if s := os.Getenv("PERCH_SEED"); s != "" {
		var err error
		if seed, err = strconv.ParseUint(s, 10, 64); err != nil {
			t.Fatal(err)
		}
	}
	t.Logf("PERCH_SEED=%d", seed)
	return rand.New(rand.NewPCG(seed, 1))
}

// kills there are in all: 25 every day, 1,000 in the long run.
func kills(everyDay int) int {
	if long {
		return everyDay * 40
	}
	return everyDay
}

func (d *done) meant(t *testing.T, n int) {
	t.Helper()
	t.Logf("%d acts tried, %d events and flights, %d weights, %d edits, %d signatures answered", n, len(d.notes), d.weight, d.idle, d.signed)
	if len(d.notes) == 0 || d.signed == 0 {
		t.Error("too little was answered for the test to mean something")
	}
}

// The server is killed at random moments while readings, edits, proofs, events and flights are written: every
// act that was answered with success is there, none is half there.
func TestKilledServerLosesNothing(t *testing.T) {
	t.Parallel()
	r := drawn(t)
	db := mariadbtest.Fresh(t)
	d := &done{weights: []int{715}, idles: []int{1500}}
	n := 0
	for k := range kills(15) {
		p := start(t, t.TempDir(), "--bench", "none", "--database", db)
		d.check(t, p)
		kill := time.AfterFunc(time.Duration(20+r.IntN(250))*time.Millisecond, func() { _ = p.cmd.Process.Kill() })
		before := n
		for {
			n++
			if err := d.act(p, n); err != nil {
				break // the server is gone
			}
		}
		kill.Stop()
		p.kill()
		if t.Failed() {
			t.Fatalf("after kill %d", k+1)
		}
		if n-before < 1 {
			t.Errorf("nothing was tried before kill %d", k+1)
		}
	}
	p := start(t, t.TempDir(), "--bench", "none", "--database", db)
	d.check(t, p)
	p.kill()
	d.meant(t, n)
}

// The database is killed under the server, or both are killed at once: the server starts its database again
// by itself, and what was answered with success is there.
func TestKilledDatabaseLosesNothing(t *testing.T) {
	t.Parallel()
	r := drawn(t)
	data := t.TempDir()
	p := start(t, data, "--bench", "none")
	d := &done{weights: []int{715}, idles: []int{1500}}
	n := 0
	for k := range kills(10) {
		answers(t, p)
		d.check(t, p)
		if n++; d.act(p, n) != nil { // however busy the machine is, something is answered between two kills
			t.Logf("act %d before kill %d was not answered", n, k+1)
		}
		both := k%3 == 2
		kill := time.AfterFunc(time.Duration(20+r.IntN(250))*time.Millisecond, func() {
			killDatabase(data)
			if both {
				_ = p.cmd.Process.Kill()
			}
		})
		for {
			n++
			if err := d.act(p, n); err != nil {
				break
			}
		}
		kill.Stop()
		if both {
			p.kill()
			p = start(t, data, "--bench", "none")
		}
		if t.Failed() {
			t.Fatalf("after kill %d", k+1)
		}
	}
	answers(t, p)
	d.check(t, p)
	d.meant(t, n)
	if err := p.cmd.Process.Signal(syscall.SIGTERM); err != nil {
		t.Fatal(err)
	}
	if err := p.cmd.Wait(); err != nil {
		t.Errorf("asked to end, it ended with %v", err)
	}
}

// answers waits until the program has its database again.
func answers(t *testing.T, p *program) {
	t.Helper()
	for end := time.Now().Add(60 * time.Second); ; time.Sleep(10 * time.Millisecond) {
		status, err := p.ask("GET", "/api/hangar", nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		if status == http.StatusOK {
			return
		}
		if time.Now().After(end) {
			t.Fatalf("the database does not come back: %d", status)
		}
	}
}

// killDatabase of a data folder at once, when it runs.
func killDatabase(data string) {
	raw, err := os.ReadFile(filepath.Join(data, "mariadb.pid"))
	if err != nil {
		return
	}
	if pid, err := strconv.Atoi(strings.TrimSpace(string(raw))); err == nil {
		_ = syscall.Kill(pid, syscall.SIGKILL)
	}
}

// relay passes bytes between server and bench until it is cut, and then nothing, without closing.
type relay struct {
	address string
	cut     atomic.Bool
}

func newRelay(t *testing.T, to string) *relay {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { l.Close() })
	r := &relay{address: l.Addr().String()}
	pass := func(dst io.Writer, src io.Reader) {
		buf := make([]byte, 32<<10)
		for {
			n, err := src.Read(buf)
			if err != nil {
				return
			}
			if r.cut.Load() {
				continue
			}
			if _, err := dst.Write(buf[:n]); err != nil {
				return
			}
		}
	}
	go func() {
		for {
			a, err := l.Accept()
			if err != nil {
				return
			}
			b, err := net.Dial("tcp", to)
			if err != nil {
				a.Close()
				return
			}
			t.Cleanup(func() { a.Close(); b.Close() })
			go pass(b, a)
			go pass(a, b)
		}
	}()
	return r
}

// Whatever is killed while a motor spins (the page, the page's thread, the server, its thread, the line to the
// bench), the device's commanded output is zero within 250 ms.
func TestSpinningStopsWhateverIsKilled(t *testing.T) {
	t.Parallel()
	db := mariadbtest.Fresh(t)
	for _, c := range []struct {
		name string
		kill func(page *websocket.Conn, p *program, line *relay)
	}{
		{"page", func(page *websocket.Conn, _ *program, _ *relay) { page.CloseNow() }},
		{"page hangs", func(*websocket.Conn, *program, *relay) {}},
		{"server", func(_ *websocket.Conn, p *program, _ *relay) { _ = p.cmd.Process.Kill() }},
		{"server hangs", func(_ *websocket.Conn, p *program, _ *relay) { _ = p.cmd.Process.Signal(syscall.SIGSTOP) }},
		{"socket to the bench", func(_ *websocket.Conn, _ *program, line *relay) { line.cut.Store(true) }},
	} {
		t.Run(c.name, func(t *testing.T) { spinAndKill(t, db, c.kill) })
	}
}

func spinAndKill(t *testing.T, db string, kill func(*websocket.Conn, *program, *relay)) {
	address := benchtest.Serve(t, benchtest.Dunlin(t), false)
	line := newRelay(t, address)
	p := start(t, t.TempDir(), "--database", db, "--bench", line.address, "--token", benchtest.Token)
	ctx := t.Context()
	// The watcher looks at the device itself, past server and relay.
	watcher, err := client.Dial(ctx, address, benchtest.Token, nil)
	if err != nil {
		t.Fatal(err)
	}
	defer watcher.Close()
	look := func() protocol.Live {
		seen, err := watcher.Call(ctx, protocol.MethodLook, nil)
		if err != nil {
			t.Fatal(err)
		}
		return seen
	}
	on := true
	if _, err := watcher.Call(ctx, protocol.MethodSet, protocol.Things{Pack: &on}); err != nil {
		t.Fatal(err)
	}
	page, _, err := websocket.Dial(ctx, strings.Replace(p.address, "http", "ws", 1)+"/api/live", nil)
	if err != nil {
		t.Fatal(err)
	}
	defer page.CloseNow()
	refused := make(chan struct{}, 1)
	go func() { // a page reads what it is sent
		for {
			var f app.LiveFrame
			if wsjson.Read(ctx, page, &f) != nil {
				return
			}
			// A renewal from before the board ran may have been refused too; only the last one asks for Q.
			if f.Kind == "refused" && strings.Contains(f.Says, `"Q"`) {
				refused <- struct{}{}
			}
		}
	}()
	// The hand holds: the page renews every 100 ms until the corner is seen turning.
	id := p.quad(t, "Dunlin")
	spin := api.Said{Kind: "motion", Quad: id, Motion: &protocol.Motion{Kind: "spin", Output: "A", Level: 6}}
	turns := func() bool {
		for _, c := range look().Corners {
			if c.Turning {
				return true
			}
		}
		return false
	}
	for end := time.Now().Add(15 * time.Second); ; time.Sleep(100 * time.Millisecond) {
		if err := wsjson.Write(ctx, page, spin); err != nil {
			t.Fatal(err)
		}
		if turns() {
			break
		}
		if time.Now().After(end) {
			t.Fatal("nothing ever turned")
		}
	}
	// One renewal more, and behind it one that is refused: its refusal says that nothing is under way any more.
	for _, m := range []api.Said{spin, {Kind: "motion", Quad: id, Motion: &protocol.Motion{Kind: "spin", Output: "Q"}}} {
		if err := wsjson.Write(ctx, page, m); err != nil {
			t.Fatal(err)
		}
	}
	<-refused
	before := look()
	if before.Motion != "spin" {
		t.Fatalf("it does not spin: %+v", before)
	}
	kill(page, p, line)
	for {
		now := look()
		took := now.Time - before.Time // on the device's own clock, ms
		if now.Motion == "" {
			t.Logf("stopped after %d ms", took)
			return
		}
		if took > protocol.LeaseMillis {
			t.Fatalf("%d ms after the kill it is still commanded to spin", took)
		}
		time.Sleep(time.Millisecond)
	}
}
