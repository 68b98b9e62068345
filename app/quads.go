package app

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image/jpeg"
	"math"
	"strings"
	"time"

	"vividperch/core/book"
	"vividperch/core/catalogue"
	"vividperch/core/check"
	"vividperch/core/firmware"
	"vividperch/core/link"
	"vividperch/core/proof"
	"vividperch/core/quad"
)

// Create a quad.
func (a *App) Create(ctx context.Context, name, words string, m quad.Meant) (int64, error) {
	return a.create(ctx, name, words, m, nil)
}

// create a quad with what is known of it from the first moment, all of it or nothing.
func (a *App) create(ctx context.Context, name, words string, m quad.Meant, known []book.Entry) (int64, error) {
	name, words = strings.TrimSpace(name), strings.TrimSpace(words)
	if err := named(name); err != nil {
		return 0, err
	}
	if quad.Longer(words, 200) {
		return 0, quad.Faultf("too-long", "words", "describe it in at most 200 characters")
	}
	if err := m.Valid(); err != nil {
		return 0, err
	}
	body, err := quad.Canonical(m)
	if err != nil {
		return 0, err
	}
	return a.keep.Bring(ctx, a.pilot, book.Whole{
		Quad: book.Quad{Name: name, Words: words, Head: 1}, Made: a.now(), Entries: known, Packs: toldPacks(m.Parts),
		Revisions: []book.Revision{{Number: 1, Body: body, Why: "made", Who: a.who, At: a.now()}},
	})
}

// named refuses what is no quad's name.
func named(name string) error {
	if name == "" || quad.Longer(name, 80) {
		return quad.Faultf("bad-name", "name", "a quad's name has 1 to 80 characters")
	}
	return nil
}

// Clone makes another quad that is meant as this one is now, draft included. What was measured, signed or
// flown belongs to the one that it was measured on and stays with it.
func (a *App) Clone(ctx context.Context, id int64, name string) (int64, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return 0, err
	}
	return a.Create(ctx, name, o.file.Words, o.known.Meant())
}

// NewQuad is what a quad can be started from without a bench.
type NewQuad struct {
	Name  string `json:"name"`
	Words string `json:"words"`
	// Parts of each kind as another quad has them; 0 leaves them out.
	Parts PartsOf `json:"parts"`
	// Chosen parts by kind, by their names in the catalogue. One that is not there is kept under its name, and nothing else is known of it.
	Chosen map[catalogue.Kind]string `json:"chosen"`
	// List is a settings list of the board, or nothing: the sheet is then empty.
	List    string `json:"list"`
	Line    string `json:"line"`
	Version string `json:"version"`
	Target  string `json:"target"`
	// Country where it flies, or nothing. What is allowed there is taken from another quad of the pilot that flies there.
	Country string `json:"country"`
	// Diameter of its propellers in mm, cells of its packs and what it is for, as far as the pilot says it before any part.
	Diameter float64 `json:"diameter"`
	Cells    int     `json:"cells"`
	Use      string  `json:"use"`
	// Registration that the place wants on it, RemoteID how it tells who it is in flight; in his words.
	Registration string `json:"registration"`
	RemoteID     string `json:"remoteId"`
}

// words of a quad that is begun: the pilot's, or what he said of it.
func (n NewQuad) words() string {
	if strings.TrimSpace(n.Words) != "" {
		return n.Words
	}
	var out []string
	switch {
	case n.Diameter >= 50:
		out = append(out, quad.Quantity(math.Round(n.Diameter/25.4*10)/10, "inch"))
	case n.Diameter > 0:
		out = append(out, quad.Quantity(n.Diameter, "mm")+" propellers")
	}
	if n.Cells > 0 {
		out = append(out, quad.Count(n.Cells, "cell", "cells"))
	}
	if use := strings.TrimSpace(n.Use); use != "" {
		out = append(out, use)
	}
	return strings.Join(out, ", ")
}

// PartsOf names, for each kind of part, the quad whose part it is.
type PartsOf struct {
	Frame     int64 `json:"frame"`
	Motors    int64 `json:"motors"`
	Propeller int64 `json:"propeller"`
	Power     int64 `json:"power"` // speed controllers, packs, capacitor
	Board     int64 `json:"board"` // with its wiring
	Radio     int64 `json:"radio"` // receiver, module, and how the radio is set up
	Video     int64 `json:"video"`
}

// Begin makes a quad from parts chosen among the pilot's quads and a pasted settings list; what the list says
// becomes the sheet and the board's read-back. Nothing is kept when the list has a fault.
func (a *App) Begin(ctx context.Context, n NewQuad) (int64, error) {
	var m quad.Meant
	if err := a.chooseParts(ctx, &m, n.Parts); err != nil {
		return 0, err
	}
	for _, kind := range catalogue.Kinds {
		if name := strings.TrimSpace(n.Chosen[kind]); name != "" {
			if err := a.choose(ctx, &m, kind, name); err != nil {
				return 0, err
			}
		}
	}
	m.FollowBoard()
	if m.Parts.Propeller.Diameter == 0 {
		m.Parts.Propeller.Diameter = n.Diameter
	}
	if err := a.allowedAt(ctx, &m.Limits, strings.TrimSpace(n.Country)); err != nil {
		return 0, err
	}
	m.Limits.Registration, m.Limits.RemoteID = strings.TrimSpace(n.Registration), strings.TrimSpace(n.RemoteID)
	m.Sheet.Firmware = quad.FirmwareSheet{Line: n.Line, Version: n.Version, Target: n.Target}
	lacks := func(quad.Path) bool { return false }
	if build, err := firmware.Find(n.Line, n.Version); err == nil {
		lacks = build.Lacks
	}
	m.Sheet.Untell(lacks)
	taught, err := a.taught(ctx)
	if err != nil {
		return 0, err
	}
	var known []book.Entry
	if strings.TrimSpace(n.List) != "" {
		entries, readings, b, err := a.listTaken(&opened{}, m.Sheet.Firmware.Is(), taught, []byte(n.List), true)
		if err != nil {
			return 0, err
		}
		m.Sheet = b.Sheet
		m.Sheet.Firmware = quad.FirmwareSheet{Line: b.Line, Version: b.Version, Target: b.Target}
		m.Sheet.Firmware.Other = b.Unmapped
		m.FollowBoard()
		if build, err := firmware.For(b); err == nil && b.Dictionary != "" {
			m.Sheet.Untell(build.Dictionary.Tells) // a family that the pilot teaches may hold more than he taught so far
		}
		known = entries
		for _, r := range readings {
			e, err := a.readingEntry(r, 1)
			if err != nil {
				return 0, err
			}
			known = append(known, e)
		}
	}
	return a.create(ctx, n.Name, n.words(), m, known)
}

// allowedAt puts where a quad flies into its limits, and what another quad of the pilot says is allowed there.
func (a *App) allowedAt(ctx context.Context, l *quad.Limits, country string) error {
	if country == "" {
		return nil
	}
	lenders, err := a.lenders(ctx)
	if err != nil {
		return err
	}
	for _, other := range lenders {
		if strings.EqualFold(other.limits.Country, country) {
			own := l.Thresholds
			*l = other.limits
			l.Thresholds, l.Registration, l.RemoteID = own, "", "" // those are of that quad
			return nil
		}
	}
	l.Country = country
	return nil
}

func (a *App) chooseParts(ctx context.Context, m *quad.Meant, from PartsOf) error {
	opened := map[int64]quad.Meant{}
	for _, part := range []struct {
		id   int64
		take func(quad.Meant)
	}{
		{from.Frame, func(o quad.Meant) { m.Parts.Frame, m.Sheet.Craft = o.Parts.Frame, o.Sheet.Craft }},
		{from.Motors, func(o quad.Meant) { m.Parts.Motor = o.Parts.Motor }},
		{from.Propeller, func(o quad.Meant) { m.Parts.Propeller = o.Parts.Propeller }},
		{from.Power, func(o quad.Meant) {
			m.Parts.SpeedController, m.Parts.Packs, m.Parts.Capacitor = o.Parts.SpeedController, o.Parts.Packs, o.Parts.Capacitor
		}},
		{from.Board, func(o quad.Meant) { m.Parts.Board, m.Parts.Wires = o.Parts.Board, o.Parts.Wires }},
		{from.Radio, func(o quad.Meant) {
			m.Parts.Receiver, m.Parts.RadioModule, m.Radio, m.Limits = o.Parts.Receiver, o.Parts.RadioModule, o.Radio, o.Limits
		}},
		{from.Video, func(o quad.Meant) { m.Parts.Video = o.Parts.Video }},
	} {
		if part.id == 0 {
			continue
		}
		if _, had := opened[part.id]; !had {
			o, err := a.open(ctx, part.id)
			if err != nil {
				return err
			}
			opened[part.id] = o.known.Meant()
		}
		part.take(opened[part.id])
	}
	return nil
}

// choose a part of the catalogue, or of a quad of the pilot; one that neither has is named, and its figures are not known.
func (a *App) choose(ctx context.Context, m *quad.Meant, kind catalogue.Kind, name string) error {
	if name == "" || kind == catalogue.Pack && strings.ContainsAny(name, ".*") { // a pack is addressed by its name
		return quad.Faultf("no-name", string(kind), "a part needs a name; that of a pack has no full stop")
	}
	e, there, err := a.findPart(ctx, kind, name)
	if err != nil {
		return err
	}
	if !there {
		if quad.Longer(name, 60) {
			return quad.Faultf("too-long", string(kind), "a part's name has up to 60 characters")
		}
		e = catalogue.Entry{Kind: kind, Name: name, Part: json.RawMessage("{}")}
	}
	parts, err := catalogue.Put(m.Parts, e)
	m.Parts = parts
	return err
}

// listFault tells the first of some faults of a settings list, and how many more there are.
func listFault(faults []*quad.Fault) error {
	says := faults[0].Sentence
	if n := len(faults) - 1; n > 0 {
		says += " (and " + quad.Number(float64(n)) + " more)"
	}
	return quad.Faultf(faults[0].Code, faults[0].Place, "nothing was taken: %s", says)
}

// judgedStation is what an archive says of a station.
type judgedStation struct {
	Station  check.Station  `json:"station"`
	State    proof.State    `json:"state"`
	Word     string         `json:"word"`
	Findings []proof.Judged `json:"findings"`
}

// Archive gives a quad's name and the whole of it as one JSON document. It judges the quad as it stood when the newest thing in it
// was kept, so the same quad always gives the same bytes. Phrases and home coordinates are left out unless
// private is set.
func (a *App) Archive(ctx context.Context, id int64, private bool) (name string, raw []byte, err error) {
	w, err := a.keep.Whole(ctx, a.pilot, id)
	if err != nil {
		return "", nil, err
	}
	if !private {
		if w, err = w.WithoutPrivate(); err != nil {
			return "", nil, err
		}
	}
	judged, err := judge(w) // after what is private is out: it must not be told by what is said of it
	if err != nil {
		return "", nil, err
	}
	raw, err = book.NewArchive(w, judged).Write()
	return w.Name, raw, err
}

func judge(w book.Whole) (json.RawMessage, error) {
	o, err := openFile(w.File())
	if err != nil {
		return nil, err
	}
	at := w.Until()
	out := struct {
		At       time.Time       `json:"at"`
		Stations []judgedStation `json:"stations"`
	}{at, nil}
	for _, s := range o.standingsAt(at) {
		out.Stations = append(out.Stations, judgedStation{s.Station, s.State, s.Word, nonNil(s.Findings)})
	}
	return json.Marshal(out)
}

// Import brings in a whole quad from an archive, under another name when one is given. All of it or nothing.
func (a *App) Import(ctx context.Context, raw []byte, name string) (int64, error) {
	w, err := book.ReadArchive(raw)
	if err != nil {
		return 0, err
	}
	if name = strings.TrimSpace(name); name != "" {
		if err := named(name); err != nil {
			return 0, err
		}
		w.Name = name
	}
	o, err := readable(w)
	if err != nil {
		if f := quad.AsFault(err); f != nil {
			return 0, f
		}
		return 0, quad.Faultf("damaged", "entries", "cannot be read: %v", err)
	}
	w.Packs = toldPacks(o.known.Parts)
	return a.keep.Bring(ctx, a.pilot, w)
}

// readable opens a whole quad and says whether everything in it can be shown once it is kept.
func readable(w book.Whole) (*opened, error) {
	o, err := openFile(w.File())
	if err != nil {
		return nil, err
	}
	if _, err := quad.Apply(o.known.Meant(), w.Undone); err != nil {
		return nil, err
	}
	for line, text := range w.Taught {
		l, err := firmware.Taught(text)
		if err != nil {
			return nil, err
		}
		if l.Name != line {
			return nil, quad.Faultf("other-line", "dictionaries."+line, "is the dictionary of %s", l.Name)
		}
	}
	for i, e := range w.Entries {
		switch e.Kind {
		case book.KindBackup:
			err = json.Unmarshal(e.Body, &boardEntry{})
		case book.KindChoice:
			err = json.Unmarshal(e.Body, &choiceEntry{})
		case book.KindTag:
			err = json.Unmarshal(e.Body, &tagEntry{})
		case book.KindTrack:
			err = json.Unmarshal(e.Body, &link.Reach{})
		case book.KindCorrection:
			err = json.Unmarshal(e.Body, &correction{})
		case book.KindPhoto:
			var p photoEntry
			if err = json.Unmarshal(e.Body, &p); err == nil {
				_, err = jpeg.DecodeConfig(bytes.NewReader(p.JPEG))
			}
		}
		if err != nil {
			return nil, quad.Faultf("damaged", fmt.Sprintf("entries.%d.body", i), "cannot be read: %v", err)
		}
	}
	return o, nil
}

// Retire a quad that flies no more, or bring it back. Nothing of it is lost; a release of it ends.
func (a *App) Retire(ctx context.Context, id, version int64, retired bool) error {
	return a.keep.Retire(ctx, a.pilot, id, version, retired)
}

// Delete a quad that never flew, for good.
func (a *App) Delete(ctx context.Context, id, version int64) error {
	return a.keep.Delete(ctx, a.pilot, id, version)
}

// OpenArchive gives what an archive knows of its quad, and what happened to it, without a database.
func OpenArchive(raw []byte) (quad.Known, check.Context, error) {
	w, err := book.ReadArchive(raw)
	if err != nil {
		return quad.Known{}, check.Context{}, err
	}
	o, err := openFile(w.File())
	if err != nil {
		return quad.Known{}, check.Context{}, err
	}
	return o.known, check.Context{Events: o.events}, nil
}

// Facts of one finding, for whoever has to find out whether the rule is wrong: what the rule saw and said,
// and nothing else. Phrases and home coordinates are left out.
type Facts struct {
	Rule     string                `json:"rule"`
	Reads    []quad.Path           `json:"reads"`
	Finding  proof.Judged          `json:"finding"`
	Saw      map[quad.Path]any     `json:"saw"`
	Origins  map[quad.Path]Origins `json:"origins"`
	Firmware quad.FirmwareSheet    `json:"firmware"`
	At       time.Time             `json:"at"`
}

// Origins of a reading that a rule saw.
type Origins struct {
	Origin quad.Origin `json:"origin"`
	Bench  bool        `json:"bench"`
	At     time.Time   `json:"at"`
}

// Facts behind a finding that stands now.
func (a *App) Facts(ctx context.Context, id int64, rule, subject string) (*Facts, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	f, err := a.finding(o, rule, subject)
	if err != nil {
		return nil, err
	}
	out := &Facts{Rule: rule, Finding: *f, Reads: proof.ReadsOf(rule), Saw: map[quad.Path]any{}, Origins: map[quad.Path]Origins{}, Firmware: o.known.Sheet.Firmware, At: a.now()}
	for _, l := range proof.LeavesBelow(out.Reads, o.known) {
		if l.Private != "" {
			continue
		}
		out.Saw[l.Path] = l.Value
		if l.Read {
			out.Origins[l.Path] = Origins{l.From, l.Bench, l.At}
		}
	}
	return out, nil
}

// finding that stands now.
func (a *App) finding(o *opened, rule, subject string) (*proof.Judged, error) {
	for _, st := range a.standings(o) {
		for _, f := range st.Findings {
			if f.Rule == rule && f.Subject == subject {
				return &f, nil
			}
		}
	}
	return nil, quad.Faultf("no-finding", rule, "that finding does not stand any more")
}
