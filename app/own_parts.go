package app

import (
	"context"
	"encoding/json"
	"slices"
	"strings"
	"sync"

	"vividperch/core/book"
	"vividperch/core/catalogue"
	"vividperch/core/columns"
	"vividperch/core/quad"
)

// shelf remembers the pilot's own parts until they change: they are looked through at every letter that he types.
type shelf struct {
	mu      sync.Mutex
	read    bool
	version int64
	list    []catalogue.Entry
}

// onShelf are the pilot's own parts, as of a version. What cannot be read any more is left out.
func (a *App) onShelf(ctx context.Context) ([]catalogue.Entry, int64, error) {
	s := &a.shelf
	s.mu.Lock()
	defer s.mu.Unlock()
	version, err := a.keep.PartsVersion(ctx, a.pilot)
	if err != nil || s.read && s.version == version {
		return s.list, version, err
	}
	kept, version, err := a.keep.OwnParts(ctx, a.pilot)
	if err != nil {
		return nil, 0, err
	}
	var list []catalogue.Entry
	for _, p := range kept {
		var e catalogue.Entry
		if json.Unmarshal([]byte(p.Body), &e) == nil && e.Check() == nil {
			list = append(list, e)
		}
	}
	s.read, s.version, s.list = true, version, list
	return list, version, nil
}

// entryNamed finds an entry of a kind by its name.
func entryNamed(list []catalogue.Entry, kind catalogue.Kind, name string) (catalogue.Entry, bool) {
	i := slices.IndexFunc(list, func(e catalogue.Entry) bool { return e.Kind == kind && e.Name == name })
	if i < 0 {
		return catalogue.Entry{}, false
	}
	return list[i], true
}

// soldAs is a part by its name as the pilot's own have it, or the catalogue that ships.
func soldAs(own []catalogue.Entry, kind catalogue.Kind, name string) (catalogue.Entry, bool) {
	if e, ok := entryNamed(own, kind, name); ok {
		return e, true
	}
	return catalogue.Find(kind, name)
}

// findPart by its name: among the pilot's own, in the catalogue that ships, on one of his quads.
func (a *App) findPart(ctx context.Context, kind catalogue.Kind, name string) (catalogue.Entry, bool, error) {
	own, _, err := a.onShelf(ctx)
	if err != nil {
		return catalogue.Entry{}, false, err
	}
	if own, err = a.withPacks(ctx, kind, own); err != nil {
		return catalogue.Entry{}, false, err
	}
	if e, ok := soldAs(own, kind, name); ok {
		return e, true, nil
	}
	fitted, err := a.fittedParts(ctx, kind)
	if err != nil {
		return catalogue.Entry{}, false, err
	}
	e, ok := entryNamed(fitted, kind, name)
	return e, ok, nil
}

// mostFound parts are offered at a time: more than an eye goes through.
const mostFound = 40

// Catalogue finds parts of a kind by what was typed: the pilot's own, those that he has on a quad already, then what ships. Of several of one name the
// first is offered. Until something is typed, it is those that suit a wish.
func (a *App) Catalogue(ctx context.Context, kind catalogue.Kind, typed string, wish catalogue.Wish) ([]catalogue.Entry, error) {
	own, _, err := a.onShelf(ctx)
	if err != nil {
		return nil, err
	}
	if own, err = a.withPacks(ctx, kind, own); err != nil {
		return nil, err
	}
	fitted, err := a.fittedParts(ctx, kind)
	if err != nil {
		return nil, err
	}
	all := slices.Clone(own)
	for _, more := range [][]catalogue.Entry{fitted, catalogue.Shipped()} {
		for _, e := range more {
			if e.Kind != kind {
				continue
			}
			if _, there := entryNamed(own, kind, e.Name); !there {
				all = append(all, e)
			}
		}
	}
	if strings.TrimSpace(typed) == "" { // until he types, what suits is enough
		all = slices.DeleteFunc(all, func(e catalogue.Entry) bool { return !e.Suits(wish) })
	}
	return nonNil(catalogue.Search(all, kind, typed, mostFound)), nil
}

// withPacks are entries of a kind with the pilot's packs before them, where packs are meant.
func (a *App) withPacks(ctx context.Context, kind catalogue.Kind, list []catalogue.Entry) ([]catalogue.Entry, error) {
	if kind != catalogue.Pack {
		return list, nil
	}
	packs, _, _, err := a.packs(ctx)
	if err != nil {
		return nil, err
	}
	var out []catalogue.Entry
	for _, p := range packs {
		raw, err := json.Marshal(p.Now())
		if err != nil {
			return nil, err
		}
		out = append(out, catalogue.Entry{Kind: kind, Name: p.Name, Words: "your pack", Part: raw})
	}
	return append(out, list...), nil
}

// fittedParts of a kind are those on the pilot's quads that do not ship, each once, as it is on the first of them.
func (a *App) fittedParts(ctx context.Context, kind catalogue.Kind) ([]catalogue.Entry, error) {
	lenders, err := a.lenders(ctx)
	if err != nil {
		return nil, err
	}
	var out []catalogue.Entry
	for _, q := range lenders {
		for _, e := range catalogue.PartsOf(q.parts, kind) {
			if _, ships := catalogue.Find(kind, e.Name); ships {
				continue
			}
			if _, twice := entryNamed(out, kind, e.Name); !twice {
				e.Words = "as on " + q.name
				out = append(out, e)
			}
		}
	}
	return out, nil
}

// ShelfView is the pilot's own catalogue.
type ShelfView struct {
	Version int64         `json:"version"`
	Parts   []OwnPartView `json:"parts"`
}

// OwnPartView is one part of it.
type OwnPartView struct {
	Kind    catalogue.Kind     `json:"kind" enum:"frame,motor,propeller,speedController,board,pack,receiver,radioModule,video,satellite"`
	Name    string             `json:"name"`
	Words   string             `json:"words"`
	Figures []catalogue.Figure `json:"figures"`
	// Cells of a table that would be read as this part, by the fields of its kind.
	Cells map[string]string `json:"cells"`
	On    []string          `json:"on"` // quads that have one of this name
}

// OwnParts are the pilot's own catalogue, each with which of his quads has one of its name.
func (a *App) OwnParts(ctx context.Context) (*ShelfView, error) {
	list, version, err := a.onShelf(ctx)
	if err != nil {
		return nil, err
	}
	lenders, err := a.lenders(ctx)
	if err != nil {
		return nil, err
	}
	type same struct {
		kind catalogue.Kind
		name string
	}
	on := map[same][]string{}
	for _, q := range lenders {
		for _, p := range partsNamed(q.parts) {
			on[same{p.Kind, p.Name}] = append(on[same{p.Kind, p.Name}], q.name)
		}
	}
	v := &ShelfView{Version: version, Parts: []OwnPartView{}}
	for _, e := range list {
		v.Parts = append(v.Parts, OwnPartView{e.Kind, e.Name, e.Words, e.Figures(), e.Cells(), nonNil(on[same{e.Kind, e.Name}])})
	}
	return v, nil
}

// PartsAsk is what a pilot brings for his own catalogue.
type PartsAsk struct {
	// Kind of the parts of a table, or of one that is typed. A file says it of each.
	Kind catalogue.Kind
	// Text of a table with one line of heads, or of a file of parts as PartsFile gives it.
	Text string
	// Columns says what each column is, by the keys of its fields; empty where that is known or to be guessed.
	Columns []string
	// Typed is one part instead of a text: cells by the keys of the kind's fields.
	Typed map[string]string
}

// PartsRead is what would become of it.
type PartsRead struct {
	Table    bool              `json:"table"`
	Fields   []columns.Heading `json:"fields"`
	Head     []string          `json:"head"`
	Columns  []string          `json:"columns"`
	Known    bool              `json:"known"` // the columns are as the pilot said before of the same heads
	Rows     [][]string        `json:"rows"`  // the first few
	Count    int               `json:"count"` // of the parts that would be kept
	Replaces []string          `json:"replaces"`
	Faults   []LineFault       `json:"faults"`
}

// LineFault is what is wrong at a place of a text.
type LineFault struct {
	Place string `json:"place"`
	Says  string `json:"says"`
}

// ofParts names what columns are remembered for, by the kind of part.
func ofParts(kind catalogue.Kind) string { return "parts " + string(kind) }

// columnsOf a table, as the pilot said them before of the same heads for that purpose, or as they are guessed.
func (a *App) columnsOf(ctx context.Context, purpose string, t columns.Table, fields []columns.Heading) (list []string, known bool, err error) {
	raw, err := a.keep.KnownColumns(ctx, a.pilot, purpose, t.Known())
	if err != nil {
		return nil, false, err
	}
	if json.Unmarshal(raw, &list) == nil && len(list) == len(t.Head) {
		return list, true, nil
	}
	return columns.Guess(t.Head, fields), false, nil
}

// readParts of what a pilot brings: those that can be kept, and what cannot.
func (a *App) readParts(ctx context.Context, ask PartsAsk) (v *PartsRead, parts []catalogue.Entry, heads string, faults []*quad.Fault, err error) {
	v = &PartsRead{Fields: nonNil(catalogue.Fields(ask.Kind)), Head: []string{}, Columns: []string{}, Rows: [][]string{}, Replaces: []string{}, Faults: []LineFault{}}
	if len(ask.Typed) == 0 && strings.HasPrefix(strings.TrimSpace(ask.Text), "{") {
		parts, faults = catalogue.ReadFile([]byte(ask.Text))
		return v, parts, "", faults, nil
	}
	if len(v.Fields) == 0 {
		return nil, nil, "", nil, quad.Faultf("no-kind", "kind", "say of what kind they are")
	}
	var t columns.Table
	if len(ask.Typed) > 0 {
		t.Lines = []int{1}
		t.Rows = [][]string{{}}
		for _, key := range quad.SortedKeys(ask.Typed) {
			t.Head, t.Rows[0] = append(t.Head, key), append(t.Rows[0], strings.TrimSpace(ask.Typed[key]))
		}
		v.Columns = t.Head
	} else {
		if t, err = columns.Read([]byte(ask.Text)); err != nil {
			return nil, nil, "", nil, err
		}
		v.Table, v.Head, v.Rows, heads = true, t.Head, t.Rows[:min(len(t.Rows), 5)], t.Known()
		if v.Columns = ask.Columns; len(v.Columns) == 0 {
			if v.Columns, v.Known, err = a.columnsOf(ctx, ofParts(ask.Kind), t, v.Fields); err != nil {
				return nil, nil, "", nil, err
			}
		}
	}
	rows, faults := t.Take(v.Fields, v.Columns)
	for _, row := range rows {
		e, err := catalogue.FromRow(ask.Kind, row)
		if _, twice := entryNamed(parts, e.Kind, e.Name); err == nil && twice {
			err = quad.Faultf("twice", "", "%q is there twice", e.Name)
		}
		if err != nil {
			f := quad.AsFault(err)
			faults = append(faults, quad.Faultf(f.Code, "line "+quad.Number(float64(row.Line)), "%s", strings.TrimSuffix(quad.Explain(err), ".")))
			continue
		}
		parts = append(parts, e)
	}
	return v, parts, heads, faults, nil
}

// mostFaults are told of one text; more say nothing new.
const mostFaults = 50

// ReadParts works out what a table, a file or a typed part would become, and keeps nothing.
func (a *App) ReadParts(ctx context.Context, ask PartsAsk) (*PartsRead, error) {
	v, parts, _, faults, err := a.readParts(ctx, ask)
	if err != nil {
		return nil, err
	}
	own, _, err := a.onShelf(ctx)
	if err != nil {
		return nil, err
	}
	v.Count = len(parts)
	for _, e := range parts {
		if _, there := entryNamed(own, e.Kind, e.Name); there {
			v.Replaces = append(v.Replaces, e.Name)
		}
	}
	for _, f := range faults[:min(len(faults), mostFaults)] {
		v.Faults = append(v.Faults, LineFault{quad.Upper(f.Place), quad.Sentence(f.Sentence)})
	}
	return v, nil
}

// KeepParts puts what a pilot brings into his own catalogue. Of a table the rows that cannot be read are left out; a file or a typed part is
// kept whole or not at all. What the columns of a table are is remembered by its heads.
func (a *App) KeepParts(ctx context.Context, version int64, ask PartsAsk) (*ShelfView, error) {
	v, parts, heads, faults, err := a.readParts(ctx, ask)
	if err != nil {
		return nil, err
	}
	if len(faults) > 0 && (!v.Table || len(parts) == 0) {
		return nil, listFault(faults)
	}
	own, _, err := a.onShelf(ctx)
	if err != nil {
		return nil, err
	}
	more := 0
	put := make([]book.OwnPart, len(parts))
	for i, e := range parts {
		if _, there := entryNamed(own, e.Kind, e.Name); !there {
			more++
		}
		body, err := json.Marshal(e)
		if err != nil {
			return nil, err
		}
		put[i] = book.OwnPart{Kind: string(e.Kind), Name: e.Name, Body: string(body)}
	}
	if len(own)+more > catalogue.MostOwn {
		return nil, quad.Faultf("too-many", "", "with these you would have %d parts of your own, but %d at most are kept", len(own)+more, catalogue.MostOwn)
	}
	if err := a.keep.ChangeOwnParts(ctx, a.pilot, version, put, nil); err != nil {
		return nil, err
	}
	if heads != "" {
		raw, err := json.Marshal(v.Columns)
		if err != nil {
			return nil, err
		}
		if err := a.keep.LearnColumns(ctx, a.pilot, ofParts(ask.Kind), heads, raw); err != nil {
			return nil, err
		}
	}
	return a.OwnParts(ctx)
}

// ForgetPart takes a part out of the pilot's own catalogue. Quads that have it keep theirs.
func (a *App) ForgetPart(ctx context.Context, version int64, kind catalogue.Kind, name string) (*ShelfView, error) {
	if err := a.keep.ChangeOwnParts(ctx, a.pilot, version, nil, []book.OwnPart{{Kind: string(kind), Name: name}}); err != nil {
		return nil, err
	}
	return a.OwnParts(ctx)
}

// PartsFile is the pilot's own catalogue as a file.
func (a *App) PartsFile(ctx context.Context) ([]byte, error) {
	list, _, err := a.onShelf(ctx)
	if err != nil {
		return nil, err
	}
	if len(list) == 0 {
		return nil, quad.Faultf("no-parts", "", "there is none of your own yet")
	}
	return catalogue.File(list)
}
