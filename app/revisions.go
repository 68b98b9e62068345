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

// RevisionView is one saved state with what it changed.
type RevisionView struct {
	Number int      `json:"number"`
	Who    string   `json:"who"`
	Why    string   `json:"why"`
	At     string   `json:"at"`
	Tag    string   `json:"tag"`
	Words  []string `json:"words"`
}

// RevisionsPage is a page of the saved states, newest first.
type RevisionsPage struct {
	Revisions []RevisionView `json:"revisions"`
	More      bool           `json:"more"`
}

// Revisions of a quad before the one of that number, newest first, each in words against the one before it; before 0 stands for the newest.
func (a *App) Revisions(ctx context.Context, id int64, before int) (*RevisionsPage, error) {
	list, err := a.keep.Revisions(ctx, a.pilot, id, before, pageLength+1)
	if err != nil {
		return nil, err
	}
	tags, err := a.tags(ctx, id)
	if err != nil {
		return nil, err
	}
	shown, more := page(list)
	out := &RevisionsPage{Revisions: make([]RevisionView, len(shown)), More: more}
	var older *quad.Meant
	for i, r := range slices.Backward(list) {
		m, err := quad.ReadMeant(r.Body)
		if err != nil {
			return nil, err
		}
		if i < len(shown) {
			v := RevisionView{Number: r.Number, Who: r.Who, Why: r.Why, At: r.At.Format(time.RFC3339), Tag: tags[r.Number], Words: []string{}}
			if older != nil {
				v.Words = differenceWords(*older, m)
			}
			out.Revisions[i] = v
		}
		older = &m
	}
	return out, nil
}

// tagEntry is how a tag is kept; the entry's name is the revision's number.
type tagEntry struct {
	Tag string `json:"tag"`
}

// tags of a quad's revisions by their numbers: as many as a pilot gave.
func (a *App) tags(ctx context.Context, id int64) (map[int]string, error) {
	list, err := a.keep.NewestOf(ctx, a.pilot, id, book.KindTag, "")
	if err != nil {
		return nil, err
	}
	out := map[int]string{}
	for _, e := range list {
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
func (a *App) Tag(ctx context.Context, id int64, number int, tag string) error {
	tag = strings.TrimSpace(tag)
	if quad.Longer(tag, 60) {
		return quad.Faultf("tag-too-long", "tag", "a tag has at most 60 characters")
	}
	if _, err := a.keep.Revision(ctx, a.pilot, id, number); err != nil {
		return err
	}
	e, err := a.entry(book.KindTag, strconv.Itoa(number), tagEntry{tag})
	if err != nil {
		return err
	}
	return a.write(ctx, id, book.Change{Entries: []book.Entry{e}})
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
	return a.draft(ctx, id, o.edited(version, edits))
}
