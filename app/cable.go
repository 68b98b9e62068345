package app

import (
	"context"
	"encoding/json"
	"maps"
	"time"

	"vividperch/bench/protocol"
	"vividperch/core/book"
	"vividperch/core/firmware"
	"vividperch/core/quad"
)

// Cable is a conversation with the board behind a serial port, for one quad. The page is its pipe: what it hears from the port comes in, what
// goes out is put on it. Everything that is learnt is kept as soon as it is whole. It is not for several goroutines.
type Cable struct {
	app   *App
	id    int64
	line  *firmware.Line
	bench bool // the port is the bench's
	talk  *firmware.Conversation
	began time.Time // by the wall's clock, whatever the book's says
	// kept says what of the conversation is in the book already.
	keptRead, keptWritten bool
	// would be written, as it was found last, and when: a quad is not opened at every tick.
	would   wouldWrite
	foundAt time.Time
}

// wouldWrite is what a board needs to hold the quad's intended settings.
type wouldWrite struct {
	changes []WriteView
	lines   []string
	hinders string
	seen    string
}

// cableLook is how often a conversation looks what would be written by now.
const cableLook = time.Second

// CableAsk is what a pilot says before anything is sent.
type CableAsk struct {
	Family string // of the board's firmware, as he takes it to be
	Bench  bool   // the port is the bench's
	// PropellersOff is his word at that moment.
	PropellersOff bool
}

// CableView is where a conversation has come to.
type CableView struct {
	Stage firmware.Stage `json:"stage"`
	// Baud of the port, and Sends, all that would be sent until the board is read.
	Baud  float64        `json:"baud" unit:"Bd"`
	Sends []string       `json:"sends"`
	Sent  []string       `json:"sent"`
	Is    *quad.Identity `json:"is,omitempty"`
	// Read says how many settings the board has, 0 until they are read and kept.
	Read    int         `json:"read"`
	Changes []WriteView `json:"changes"` // that would be written, each with what the board holds
	Lines   []string    `json:"lines"`   // as they would be sent, and what comes after
	Hinders string      `json:"hinders"` // why nothing can be written
	Seen    string      `json:"seen"`    // of the quad, as the changes are those of
	Written int         `json:"written"`
	Of      int         `json:"of"`
	// Kept says that the board keeps what was written; Apart that it starts anew, and its port is to be opened again to see that.
	Kept  bool   `json:"kept"`
	Apart bool   `json:"apart"`
	Says  string `json:"says"` // what ended it; empty while it goes on
	// Send is to be put on the cable now.
	Send string `json:"send,omitempty"`
}

// cableLine of a family by its name: the pilot's own description before a shipped one.
func (a *App) cableLine(ctx context.Context, family string) (*firmware.Line, error) {
	taught, err := a.taught(ctx)
	if err != nil {
		return nil, err
	}
	return firmware.LineFor(family, taught[family])
}

// Families that have a console, by name.
func (a *App) Families(ctx context.Context) ([]string, error) {
	taught, err := a.taught(ctx)
	if err != nil {
		return nil, err
	}
	out := []string{}
	for _, name := range firmware.LineNames() {
		if l, _ := firmware.FindLine(name); l.Console != nil {
			out = append(out, name)
		}
	}
	for _, name := range quad.SortedKeys(taught) {
		if l, err := firmware.Taught(taught[name]); err == nil && l.Console != nil {
			out = append(out, name)
		}
	}
	return out, nil
}

// Cable begins a conversation with the board behind a port, and gives what it would send. Nothing is sent before the pilot has said that the
// propellers are off.
func (a *App) Cable(ctx context.Context, id int64, ask CableAsk) (*Cable, *CableView, error) {
	if !ask.PropellersOff {
		return nil, nil, quad.Faultf("propellers", "propellersOff", "say first that the propellers are off: a board that is set may turn its motors")
	}
	if _, err := a.open(ctx, id); err != nil {
		return nil, nil, err
	}
	l, err := a.cableLine(ctx, ask.Family)
	if err != nil {
		return nil, nil, err
	}
	talk, err := firmware.Converse(l)
	if err != nil {
		return nil, nil, err
	}
	c := &Cable{app: a, id: id, line: l, bench: ask.Bench, talk: talk, began: time.Now()}
	return c, c.view(""), nil
}

// Begin has time run from now on: the port is open.
func (c *Cable) Begin() { c.began = time.Now() }

// Opened tells that the port is open again after the board started anew.
func (c *Cable) Opened(ctx context.Context) (*CableView, error) {
	c.talk.Opened()
	return c.Step(ctx, nil, false)
}

// Step brings what has arrived at the port since, and whether the port is gone, and gives where it has come to.
func (c *Cable) Step(ctx context.Context, heard []byte, gone bool) (*CableView, error) {
	send := c.talk.Step(time.Since(c.began), heard)
	if gone {
		c.talk.Closed()
	}
	if c.talk.Fault() == nil && c.talk.Stage() == firmware.StageDone {
		written, of := c.talk.Written()
		switch {
		case !c.keptRead && c.talk.Text() != nil:
			if err := c.keep(ctx, "a board by cable"); err != nil {
				return nil, err
			}
			c.keptRead, c.foundAt = true, time.Time{}
		case of > 0 && written > 0 && !c.keptWritten:
			if err := c.keep(ctx, "what was written by cable"); err != nil {
				return nil, err
			}
			c.keptWritten, c.foundAt = true, time.Time{}
		}
	}
	if c.keptRead && time.Since(c.foundAt) >= cableLook {
		if err := c.find(ctx); err != nil {
			return nil, err
		}
	}
	return c.view(send), nil
}

// Write what of the quad's intended settings the board holds otherwise. seen is what the pilot saw of the quad.
func (c *Cable) Write(ctx context.Context, seen string) (*CableView, error) {
	o, err := c.app.open(ctx, c.id)
	if err != nil {
		return nil, err
	}
	if o.file.Seen() != seen {
		return nil, book.ErrChanged
	}
	changes, err := toWrite(o.known)
	if err != nil {
		return nil, err
	}
	if err := c.talk.Write(o.known.Board.Is(), o.known.Board.Settings, changes); err != nil {
		return nil, err
	}
	return c.view(""), nil
}

// keep what was read: the board, its whole list, and that it is the quad's own.
func (c *Cable) keep(ctx context.Context, why string) error {
	o, err := c.app.open(ctx, c.id)
	if err != nil {
		return err
	}
	is, settings := c.talk.Is(), c.talk.Settings()
	if o.mark.Told() && !o.mark.Is(is.Mark()) {
		return quad.Faultf("other-board", "", "behind this port is %s; the quad has %s. Nothing of it was kept: take its own board, or say at the bench or by typing that it was replaced", boardWords(is.Mark()), boardWords(o.mark))
	}
	if owner, err := c.app.ownerOf(ctx, c.id, is.Mark()); err != nil {
		return err
	} else if owner != "" {
		return quad.Faultf("other-board", "", "behind this port is %s, the board of %s. Nothing of it was kept", boardWords(is.Mark()), quad.Clip(owner, 40))
	}
	entry, err := c.app.boardRead(o, is, maps.Clone(settings))
	if err != nil {
		return err
	}
	mark, err := c.app.markEntry(o, is.Mark())
	if err != nil {
		return err
	}
	var text []byte
	if c.line.Console.Shape == nil {
		text = c.talk.Text() // as the family's files have it too
	}
	saved, list, err := c.app.backup(is, settings, o.file.Taught, why, text)
	if err != nil {
		return err
	}
	var readings []newReading
	for path, value := range map[quad.Path]any{"readings.firmware.identity": is, savedList: saved} {
		raw, err := json.Marshal(value)
		if err != nil {
			return err
		}
		readings = append(readings, newReading{path: path, value: raw, origin: quad.OriginCable, bench: c.bench})
	}
	return c.app.keepWith(ctx, c.id, why, append(append([]book.Entry{entry}, mark...), list), readings...)
}

// find what would be written by now.
func (c *Cable) find(ctx context.Context) error {
	o, err := c.app.open(ctx, c.id)
	if err != nil {
		return err
	}
	c.foundAt = time.Now()
	c.would = wouldWrite{seen: o.file.Seen()}
	c.would.changes, c.would.hinders = writes(o.known)
	if c.would.lines, err = c.talk.Lines(changesOf(c.would.changes)); err != nil {
		c.would.hinders = quad.Sentence(quad.AsFault(err).Sentence)
	}
	return nil
}

func (c *Cable) view(send string) *CableView {
	v := &CableView{
		Stage: c.talk.Stage(), Baud: c.line.Console.Baud, Sends: c.line.Console.Sends(nil), Sent: nonNil(c.talk.Sent()), Send: send,
		Changes: nonNil(c.would.changes), Lines: nonNil(c.would.lines), Hinders: c.would.hinders, Seen: c.would.seen, Kept: c.keptWritten, Apart: c.talk.Apart(),
	}
	if is := c.talk.Is(); is.Line != "" {
		v.Is = &is
	}
	if c.keptRead {
		v.Read = len(c.talk.Settings())
	}
	v.Written, v.Of = c.talk.Written()
	if f := c.talk.Fault(); f != nil {
		v.Says = quad.Sentence(f.Sentence)
	}
	return v
}

// BenchSerial puts text on the cable of the board that lies on the bench, and gives what it said since.
func (a *App) BenchSerial(ctx context.Context, text string) (protocol.Serial, error) {
	b, err := a.Bench()
	if err != nil {
		return protocol.Serial{}, err
	}
	d, err := b.connected()
	if err != nil {
		return protocol.Serial{}, err
	}
	return d.Serial(ctx, text)
}
