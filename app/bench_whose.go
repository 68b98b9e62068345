package app

import (
	"context"
	"encoding/json"
	"strings"
	"sync"
	"time"

	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/core/book"
	"vividperch/core/check"
	"vividperch/core/firmware"
	"vividperch/core/proof"
	"vividperch/core/quad"
)

// BenchFor tells whether what lies on the bench is a quad's own, and when it is not, the way out.
type BenchFor struct {
	Same bool   `json:"same"`
	Says string `json:"says"` // why not, and what to do; nothing when it is the same
	// Place is the quad of the bench that would be the right one, or nothing.
	Place string `json:"place"`
	// Claim is what the pilot may say of the board that lies there: that it is this quad's first, or that it replaced its own.
	Claim Claim `json:"claim" enum:"none,first,replaced"`
	// Falls names the stations that are proven now and that a replaced board would make stale.
	Falls []string `json:"falls"`
}

// Claim is what may be said of a board that a quad does not know.
type Claim string

// The claims.
const (
	ClaimNone     Claim = "none"
	ClaimFirst    Claim = "first"
	ClaimReplaced Claim = "replaced"
)

// replaced lets what was read back from a board go that is the quad's no more: what it was is what was before.
func (o *opened) replaced() {
	was := o.known.Board
	if !was.Read() || !o.mark.Told() || was.Serial == "" || o.mark.Is(was.Is().Mark()) {
		return
	}
	o.before, o.known.Board = &firmware.Before{Is: was.Is(), Settings: was.Settings}, quad.Board{}
}

// whose is a board that lies on the bench, for a quad.
func (a *App) whose(ctx context.Context, o *opened, w protocol.Welcome) (*BenchFor, error) {
	v := &BenchFor{Claim: ClaimNone, Falls: []string{}}
	there, name := w.Board, o.file.Name
	if o.mark.Told() {
		if v.Same = o.mark.Is(there); v.Same {
			return v, nil
		}
		v.Claim = ClaimReplaced
	} else {
		v.Claim = ClaimFirst
	}
	if !there.Told() {
		v.Claim = ClaimNone
		v.Says = "What lies on the bench does not tell which board it is. Type what you find."
		return v, nil
	}
	owner, err := a.ownerOf(ctx, o.file.ID, there)
	if err != nil {
		return nil, err
	}
	// A quad whose board nobody knows yet is the one that the bench has under its name.
	if v.Claim == ClaimFirst && owner == "" && strings.EqualFold(there.Quad, name) {
		v.Same, v.Claim = true, ClaimNone
		return v, nil
	}
	for _, q := range w.Quads {
		if strings.EqualFold(q, name) && q != there.Quad {
			v.Place = q
		}
	}
	is := there.Quad
	if is == "" {
		is = there.Words()
	}
	v.Says = "On the bench is " + is
	if owner != "" && owner != is {
		v.Says += ", the board of " + owner
	}
	switch {
	case owner != "":
		v.Claim = ClaimNone
		v.Says += ". Put " + name + " there, or type it."
	case v.Claim == ClaimReplaced:
		v.Says += " with " + boardWords(there) + "; " + name + " has " + boardWords(o.mark) + ". Put " + name + " there, type it, or say that its board was replaced."
		v.Falls = provenAmong(proof.FallsBy(check.NewBoard), a.standings(o))
	default:
		v.Says += ", and it is not known which board " + name + " has. Put " + name + " there, type it, or say that this is " + name + "."
	}
	return v, nil
}

// ownerOf a board among the pilot's other quads, or nothing.
func (a *App) ownerOf(ctx context.Context, but int64, board quad.Mark) (string, error) {
	owners, err := a.keep.Owners(ctx, a.pilot, but)
	if err != nil {
		return "", err
	}
	for _, o := range owners {
		var m quad.Mark
		if len(o.Mark) > 0 {
			if err := json.Unmarshal(o.Mark, &m); err != nil {
				return "", err
			}
		}
		// A quad whose board nobody knows yet is known to the bench by its name.
		if m.Is(board) || !m.Told() && strings.EqualFold(o.Name, board.Quad) {
			return o.Name, nil
		}
	}
	return "", nil
}

// atBench gives the bench and opens a quad for what may be done there.
func (a *App) atBench(ctx context.Context, id int64) (*Bench, *opened, error) {
	b, err := a.Bench()
	if err != nil {
		return nil, nil, err
	}
	o, err := a.open(ctx, id)
	return b, o, err
}

// BenchFor a quad: whether what lies there is its own. A bench that is away is nobody's.
func (a *App) BenchFor(ctx context.Context, id int64) (*BenchFor, error) {
	b, o, err := a.atBench(ctx, id)
	if err != nil {
		return nil, err
	}
	d, err := b.connected()
	if err != nil {
		return &BenchFor{Says: quad.Sentence(quad.AsFault(err).Sentence), Claim: ClaimNone, Falls: []string{}}, nil
	}
	return a.whose(ctx, o, d.Welcome())
}

// own gives the device on the bench when it is the quad's own, and refuses it otherwise.
func (a *App) own(ctx context.Context, b *Bench, o *opened) (*client.Device, error) {
	d, err := b.connected()
	if err != nil {
		return nil, err
	}
	v, err := a.whose(ctx, o, d.Welcome())
	if err != nil {
		return nil, err
	}
	if !v.Same {
		return nil, v.refused()
	}
	return d, nil
}

// refused is what an act on a bench with another quad is told; why it is not the same is never left unsaid.
func (v *BenchFor) refused() error {
	s := strings.TrimSuffix(v.Says, ".")
	return quad.Faultf("other-quad", "bench", "%s", strings.ToLower(s[:1])+s[1:])
}

// Adopt takes the board on the bench for the quad's own: its first one, or one that replaced it. seen is as for Sign. A replaced
// board makes stale what was measured on the one before.
func (a *App) Adopt(ctx context.Context, id int64, seen string) (*QuadView, error) {
	b, o, err := a.atBench(ctx, id)
	if err != nil {
		return nil, err
	}
	if err := o.asSeen(seen); err != nil {
		return nil, err
	}
	d, err := b.connected()
	if err != nil {
		return nil, err
	}
	v, err := a.whose(ctx, o, d.Welcome())
	switch {
	case err != nil:
		return nil, err
	case v.Same:
		return nil, quad.Faultf("own-already", "bench", "it is %s's own board already", o.file.Name)
	case v.Claim == ClaimNone:
		return nil, v.refused()
	}
	c := book.Change{Seen: seen}
	e, err := a.entry(book.KindMark, "board", d.Welcome().Board)
	if err != nil {
		return nil, err
	}
	c.Entries = append(c.Entries, e)
	if v.Claim == ClaimReplaced {
		note := o.mark.Words() + " was replaced by " + d.Welcome().Board.Words()
		if e, err = a.entry(book.KindEvent, string(check.NewBoard), check.Happened{Event: check.NewBoard, At: a.now(), Note: note}); err != nil {
			return nil, err
		}
		c.Entries = append(c.Entries, e)
	}
	return a.draft(ctx, id, c)
}

// markEntry keeps that a board is the quad's own, when that is news; nil when it is not.
func (a *App) markEntry(o *opened, m quad.Mark) ([]book.Entry, error) {
	if !m.Told() || o.mark.Is(m) {
		return nil, nil
	}
	e, err := a.entry(book.KindMark, "board", m)
	return []book.Entry{e}, err
}

// typedMark is what a typed identity says of the quad's own board.
func (a *App) typedMark(o *opened, path quad.Path, raw json.RawMessage) ([]book.Entry, error) {
	if path != "readings.firmware.identity" {
		return nil, nil
	}
	var is quad.Identity
	if err := quad.ReadJSON(raw, &is); err != nil {
		return nil, err
	}
	return a.markEntry(o, is.Mark())
}

// propellers are fitted with the pack out: where the quad lies on the bench the bench knows, elsewhere the pilot's word at that
// moment counts. What comes back is the reading to be kept.
func (a *App) propellers(ctx context.Context, o *opened, path quad.Path, raw json.RawMessage) (json.RawMessage, error) {
	if !path.Under("readings.firstFlight.propellers") {
		return raw, nil
	}
	var fitted quad.Fitted
	if err := quad.ReadJSON(raw, &fitted); err != nil {
		return nil, err
	}
	if b, none := a.Bench(); none == nil {
		d, err := a.own(ctx, b, o)
		if err == nil {
			l, err := b.callOn(ctx, d, protocol.MethodLook, nil)
			if err != nil {
				return nil, err
			}
			if l.Pack {
				return nil, quad.Faultf("pack-in", string(path), "the pack is in on the bench; take it out before your fingers are at a propeller")
			}
			fitted.PackOut = true
		}
	}
	if !fitted.PackOut {
		return nil, quad.Faultf("pack-in", string(path), "say that the pack is out as you fit it; with a pack in nobody touches a propeller")
	}
	return json.Marshal(fitted)
}

// Hold renews a leased motion once, for a quad that lies on the bench.
func (a *App) Hold(ctx context.Context, id int64, m protocol.Motion) error {
	b, err := a.Bench()
	if err != nil {
		return err
	}
	d, err := b.connected()
	if err != nil {
		return err
	}
	if !b.trusts(d, id) {
		o, err := a.open(ctx, id)
		if err != nil {
			return err
		}
		if d, err = a.own(ctx, b, o); err != nil {
			return err
		}
		b.trust(d, id)
	}
	return b.motion(ctx, d, m)
}

// Level takes the board's present attitude for level, of a quad that lies on the bench.
func (a *App) Level(ctx context.Context, id int64) (*QuadView, error) {
	b, o, err := a.atBench(ctx, id)
	if err != nil {
		return nil, err
	}
	done, err := b.turn(ctx, "readings.senses.level", queue)
	if err != nil {
		return nil, err
	}
	defer done()
	d, err := a.own(ctx, b, o)
	if err != nil {
		return nil, err
	}
	if _, err = b.callOn(ctx, d, protocol.MethodLevel, nil); err != nil {
		return nil, err
	}
	if err := a.take(ctx, b, id, "readings.senses.level"); err != nil {
		return nil, err
	}
	return a.Quad(ctx, id)
}

// trusted remembers for a moment whose the device on the bench is: a hold renews ten times a second.
type trusted struct {
	mu     sync.Mutex
	device *client.Device
	quad   int64
	until  time.Time
}

// trustLasts is for how long another server's doings go unnoticed; what this one writes is noticed at once.
const trustLasts = 10 * time.Second

func (b *Bench) distrust() {
	b.trusted.mu.Lock()
	defer b.trusted.mu.Unlock()
	b.trusted.device = nil
}

func (b *Bench) trusts(d *client.Device, id int64) bool {
	b.trusted.mu.Lock()
	defer b.trusted.mu.Unlock()
	return b.trusted.device == d && b.trusted.quad == id && time.Now().Before(b.trusted.until)
}

func (b *Bench) trust(d *client.Device, id int64) {
	b.trusted.mu.Lock()
	defer b.trusted.mu.Unlock()
	b.trusted.device, b.trusted.quad, b.trusted.until = d, id, time.Now().Add(trustLasts)
}

// boardWords of a mark, without the quad.
func boardWords(m quad.Mark) string {
	m.Quad = ""
	return m.Words()
}
