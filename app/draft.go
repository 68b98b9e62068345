package app

import (
	"context"
	"encoding/json"
	"strings"

	"vividperch/core/book"
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
	return a.draft(ctx, id, o.edited(version, edits))
}

// editsFor makes the edits of one act out of the values that shall stand.
func editsFor(meant quad.Meant, values []SetValue) ([]quad.Edit, error) {
	var edits []quad.Edit
	for _, v := range values {
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
		edits = append(edits, e)
	}
	return edits, nil
}

// edited is the change that adds the edits of one act to the draft.
func (o *opened) edited(version int64, edits []quad.Edit) book.Change {
	for i := range edits {
		edits[i].Joined, edits[i].Since = i > 0, o.file.Last
	}
	return book.Change{Version: version, SetDraft: true, Edits: append(o.file.Edits, edits...)}
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
func (a *App) Reconcile(ctx context.Context, id int64, seen json.RawMessage, values []SetValue) ([]quad.Disagreement, error) {
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

func differenceWords(a, b quad.Meant) []string {
	out := []string{}
	for _, d := range quad.Compare(a, b) {
		out = append(out, d.Words())
	}
	return out
}
