package app

import (
	"context"
	"encoding/json"
	"slices"
	"strconv"
	"strings"
	"time"

	"vividperch/core/book"
	"vividperch/core/check"
	"vividperch/core/proof"
	"vividperch/core/quad"
)

// SetValue asks that a value, as JSON or as a typed quantity, stand at a path.
type SetValue struct {
	Path  quad.Path       `json:"path"`
	Value json.RawMessage `json:"value"`
}

// Edit changes the draft. All of the values or none; version is the one the pilot saw.
func (a *App) Edit(ctx context.Context, id, version int64, values []SetValue) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	edits, err := editsFor(o.known.Meant(), values)
	if err != nil {
		return nil, err
	}
	return a.draft(ctx, id, book.Change{Version: version, SetDraft: true, Edits: append(o.file.Edits, edits...)})
}

// editsFor makes the edits of one act out of the values that shall stand.
func editsFor(meant quad.Meant, values []SetValue) ([]quad.Edit, error) {
	var edits []quad.Edit
	for i, v := range values {
		if v.Path.Under("readings") || v.Path.Under("board") {
			return nil, quad.Faultf("not-settable", string(v.Path), "is measured, not set")
		}
		raw, err := quad.Typed(v.Path, v.Value)
		if err != nil {
			return nil, err
		}
		e, err := quad.NewEdit(meant, v.Path, raw)
		if err != nil {
			return nil, err
		}
		if meant, err = quad.Apply(meant, []quad.Edit{e}); err != nil {
			return nil, err
		}
		e.Joined = i > 0
		edits = append(edits, e)
	}
	return edits, nil
}

func (a *App) draft(ctx context.Context, id int64, c book.Change) (*QuadView, error) {
	if err := a.write(ctx, id, c); err != nil {
		return nil, err
	}
	return a.Quad(ctx, id)
}

// Undo takes the draft's last act back; Redo makes it again.
func (a *App) Undo(ctx context.Context, id, version int64) (*QuadView, error) {
	f, err := a.keep.Load(ctx, a.pilot, id)
	if err != nil {
		return nil, err
	}
	if len(f.Edits) == 0 {
		return nil, quad.Faultf("nothing-to-undo", "", "there is nothing to undo since the last revision")
	}
	n := quad.LastAct(f.Edits)
	return a.draft(ctx, id, book.Change{Version: version, SetDraft: true, Edits: f.Edits[:n], Undone: append(f.Undone, f.Edits[n:]...)})
}

// Redo makes the act again that was taken back last.
func (a *App) Redo(ctx context.Context, id, version int64) (*QuadView, error) {
	f, err := a.keep.Load(ctx, a.pilot, id)
	if err != nil {
		return nil, err
	}
	if len(f.Undone) == 0 {
		return nil, quad.Faultf("nothing-to-redo", "", "there is nothing to redo")
	}
	n := quad.LastAct(f.Undone)
	return a.draft(ctx, id, book.Change{Version: version, SetDraft: true, Edits: append(f.Edits, f.Undone[n:]...), Undone: f.Undone[:n]})
}

// Save makes a revision of the draft, with the pilot's own words why.
func (a *App) Save(ctx context.Context, id, version int64, why string) (*QuadView, error) {
	why = strings.TrimSpace(why)
	if why == "" || quad.Longer(why, 200) {
		return nil, quad.Faultf("no-reason", "why", "say why in up to 200 characters; a revision without a reason is soon a riddle")
	}
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	if len(o.file.Edits) == 0 {
		return nil, quad.Faultf("nothing-to-save", "", "nothing has changed since revision %d", o.file.Head)
	}
	var c book.Change
	if _, err := a.settle(o, &c, why); err != nil {
		return nil, err
	}
	c.Version = version
	return a.draft(ctx, id, c)
}

// Reconcile tells a pilot whose act came too late where what he saw and what stands now have gone apart, so
// that he can choose place by place. seen is what his window showed, values what he wanted to set.
func (a *App) Reconcile(ctx context.Context, id int64, seen json.RawMessage, values []SetValue) ([]quad.Apart, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	var saw quad.Meant
	if err := quad.ReadJSON(seen, &saw); err != nil {
		return nil, err
	}
	edits, err := editsFor(saw, values)
	if err != nil {
		return nil, err
	}
	return quad.Reconcile(saw, o.known.Meant(), edits)
}

// RevisionView is one saved state with what it changed.
type RevisionView struct {
	Number int      `json:"number"`
	Hash   string   `json:"hash"`
	Who    string   `json:"who"`
	Why    string   `json:"why"`
	At     string   `json:"at"`
	Tag    string   `json:"tag"`
	Words  []string `json:"words"`
}

// mostRevisions are listed at a time.
const mostRevisions = 200

// Revisions of a quad, newest first, each in words against the one before.
func (a *App) Revisions(ctx context.Context, id int64) ([]RevisionView, error) {
	list, err := a.keep.Revisions(ctx, a.pilot, id, mostRevisions+1)
	if err != nil {
		return nil, err
	}
	tags, err := a.tags(ctx, id)
	if err != nil {
		return nil, err
	}
	out := []RevisionView{}
	var older quad.Meant
	for i, r := range slices.Backward(list) {
		m, err := quad.ReadMeant(r.Body)
		if err != nil {
			return nil, err
		}
		v := RevisionView{Number: r.Number, Hash: r.Hash, Who: r.Who, Why: r.Why, At: r.At.Format(time.RFC3339), Tag: tags[r.Number], Words: []string{}}
		if i < len(list)-1 {
			v.Words = differenceWords(older, m)
		}
		older = m
		if i < mostRevisions {
			out = append(out, v)
		}
	}
	slices.Reverse(out)
	return out, nil
}

func differenceWords(a, b quad.Meant) []string {
	out := []string{}
	for _, d := range quad.Compare(a, b) {
		out = append(out, d.Words())
	}
	return out
}

// tagEntry is how a tag is kept; the entry's name is the revision's number.
type tagEntry struct {
	Tag string `json:"tag"`
}

func (a *App) tags(ctx context.Context, id int64) (map[int]string, error) {
	list, err := a.keep.Find(ctx, a.pilot, id, book.KindTag)
	if err != nil {
		return nil, err
	}
	out := map[int]string{}
	for _, e := range slices.Backward(list) {
		var t tagEntry
		n, err := strconv.Atoi(e.Name)
		if err != nil || json.Unmarshal(e.Body, &t) != nil {
			continue // written by no program of ours
		}
		out[n] = t.Tag
	}
	return out, nil
}

// Tag a revision with a few words; none take the tag off.
func (a *App) Tag(ctx context.Context, id int64, number int, tag string) ([]RevisionView, error) {
	tag = strings.TrimSpace(tag)
	if quad.Longer(tag, 60) {
		return nil, quad.Faultf("tag-too-long", "tag", "a tag has at most 60 characters")
	}
	if _, err := a.keep.Revision(ctx, a.pilot, id, number); err != nil {
		return nil, err
	}
	e, err := a.entry(book.KindTag, strconv.Itoa(number), tagEntry{tag})
	if err != nil {
		return nil, err
	}
	if err := a.write(ctx, id, book.Change{Entries: []book.Entry{e}}); err != nil {
		return nil, err
	}
	return a.Revisions(ctx, id)
}

// Comparison of two states of a quad. Number 0 is the draft.
type Comparison struct {
	From        int               `json:"from"`
	To          int               `json:"to"`
	Differences []quad.Difference `json:"differences"`
	// Falls names the stations that are proven now and would have to be proven again if the first were restored.
	Falls []string `json:"falls"`
}

// Compare two states of a quad, each a revision's number or 0 for the draft.
func (a *App) Compare(ctx context.Context, id int64, from, to int) (*Comparison, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	before, err := a.meantAt(ctx, o, from)
	if err != nil {
		return nil, err
	}
	after, err := a.meantAt(ctx, o, to)
	if err != nil {
		return nil, err
	}
	c := &Comparison{From: from, To: to, Differences: nonNil(quad.Compare(before, after))}
	c.Falls = a.wouldFall(o, quad.Changes(o.known.Meant(), before))
	return c, nil
}

// wouldFall names the proven stations that some edits would make stale, in the order of the line.
func (a *App) wouldFall(o *opened, edits []quad.Edit) []string {
	st := a.standings(o)
	var fall []check.Station
	for _, s := range check.Line {
		for _, e := range edits {
			if slices.Contains(proof.Falls(e.Path), s.ID) {
				fall = append(fall, s.ID)
				break
			}
		}
	}
	return provenAmong(fall, st)
}

func (a *App) meantAt(ctx context.Context, o *opened, number int) (quad.Meant, error) {
	if number == 0 {
		return o.known.Meant(), nil
	}
	r, err := a.keep.Revision(ctx, a.pilot, o.file.ID, number)
	if err != nil {
		return quad.Meant{}, err
	}
	return quad.ReadMeant(r.Body)
}

// Restore brings the draft back to a revision, or only what lies under some paths. It is one act, and can be
// undone like any other.
func (a *App) Restore(ctx context.Context, id, version int64, number int, paths []quad.Path) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	then, err := a.meantAt(ctx, o, number)
	if err != nil {
		return nil, err
	}
	edits := quad.Changes(o.known.Meant(), then)
	if len(paths) > 0 {
		edits = slices.DeleteFunc(edits, func(e quad.Edit) bool {
			return !slices.ContainsFunc(paths, func(p quad.Path) bool { return e.Path.Touches(p) })
		})
	}
	if len(edits) == 0 {
		return nil, quad.Faultf("nothing-to-restore", "", "it is already as it was then")
	}
	for i := range edits {
		edits[i].Joined = i > 0
	}
	return a.draft(ctx, id, book.Change{Version: version, SetDraft: true, Edits: append(o.file.Edits, edits...)})
}
