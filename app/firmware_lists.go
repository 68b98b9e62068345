package app

import (
	"context"
	"fmt"
	"maps"

	"vividperch/core/book"
	"vividperch/core/firmware"
	"vividperch/core/quad"
)

// ReadList takes a pasted settings list as the board's read-back, for a quad without a bench. The list is
// read whole before anything is kept; all faults are told at once.
func (a *App) ReadList(ctx context.Context, id int64, text []byte) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	is := o.known.Sheet.Firmware.Is()
	b, faults := firmware.BoardFromList(is, o.file.Taught[is.Line], text, a.now())
	if len(faults) > 0 {
		return nil, listFault(faults)
	}
	e, err := a.readBack(b)
	if err != nil {
		return nil, err
	}
	mark, err := a.markEntry(o, b.Is().Mark())
	if err != nil {
		return nil, err
	}
	return a.draft(ctx, id, book.Change{Entries: append([]book.Entry{e}, mark...)})
}

// readBack keeps what a board holds.
func (a *App) readBack(b quad.Board) (book.Entry, error) {
	return a.entry(book.KindBoard, "board", boardEntry{Identity: b.Is(), Settings: b.Settings})
}

// ListView is what a settings list holds against the quad's board, before anything is taken from it.
type ListView struct {
	Is       quad.Identity     `json:"is"` // what the list says it is from
	Lines    int               `json:"lines"`
	Fitting  int               `json:"fitting"` // settings that fit as they are
	Remarks  []firmware.Remark `json:"remarks"`
	Hinders  int               `json:"hinders"`  // remarks that stand against taking it as it is
	Changes  []WriteView       `json:"changes"`  // what of it the board holds otherwise
	Unknown  bool              `json:"unknown"`  // its line is none that the product knows: it can be taught
	Carry    bool              `json:"carry"`    // it is from another version or line: keep it, and carry it over
	Convert  int               `json:"convert"`  // of the lines that hinder, those that are taken under their new names
	Measured int               `json:"measured"` // lines left out, because they were measured elsewhere
}

// ReviewList reads a settings list whole against the board, and takes nothing.
func (a *App) ReviewList(ctx context.Context, id int64, text []byte) (*ListView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	v, _, err := a.readList(o, text)
	return v, err
}

func boardOf(k quad.Known) quad.Identity {
	if k.Board.Read() {
		return k.Board.Is()
	}
	return k.Sheet.Firmware.Is()
}

// readList against the board. The settings are those that fit, with the ones that are called otherwise now under
// their new names.
func (a *App) readList(o *opened, text []byte) (*ListView, map[string]string, error) {
	list, err := firmware.ReadList(text)
	if err != nil {
		return nil, nil, err
	}
	if len(list.Settings) == 0 {
		return nil, nil, quad.Faultf("empty-list", "", "there is no setting in it: one to a line, as name = value or as a table with commas")
	}
	is := boardOf(o.known)
	v := &ListView{Is: list.Is, Lines: len(list.Settings), Remarks: []firmware.Remark{}, Changes: []WriteView{}}
	v.Carry = list.Is.Line != "" && list.Is.Line != is.Line
	line := is.Line
	if list.Is.Line != "" {
		line = list.Is.Line
	}
	if _, known := firmware.FindLine(line); !known && o.file.Taught[line] == "" {
		v.Unknown = true
		return v, nil, nil
	}
	if step := firmware.StepBetween(line, list.Is.Version, is.Line, is.Version); list.Is.Version != "" && step != firmware.SameVersion {
		v.Carry = true
	}
	build, err := firmware.For(quad.Board{Line: is.Line, Version: is.Version, Dictionary: o.file.Taught[is.Line]})
	if err != nil {
		return nil, nil, err
	}
	settings, remarks := build.Review(list, is)
	v.Fitting = len(settings)
	for _, r := range remarks {
		v.Remarks = append(v.Remarks, r)
		switch {
		case r.Code == firmware.RemarkRenamed && r.Name != "" && settings[r.Name] == "":
			settings[r.Name] = r.Value
			v.Convert++
		case r.Code == firmware.RemarkBound:
			v.Measured++
		}
		if r.Hinders {
			v.Hinders++
		}
	}
	for _, c := range build.Changes(o.known.Board.Settings, settings) {
		v.Changes = append(v.Changes, WriteView(c))
	}
	return v, settings, nil
}

// TakeList puts a settings list on the sheet, in one act that can be undone; nothing is written to the board by it. A
// list against which something stands is refused, unless the pilot leaves out the lines that do not fit; what stands
// against the whole list is never passed over.
func (a *App) TakeList(ctx context.Context, id, version int64, text []byte, leaveOut bool) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	v, settings, err := a.readList(o, text)
	if err != nil {
		return nil, err
	}
	for _, r := range v.Remarks {
		if r.Hinders && (r.Line == 0 || !leaveOut) {
			return nil, quad.Faultf("list-hinders", place(r.Line), "%s", r.Says)
		}
	}
	if v.Unknown {
		return nil, quad.Faultf("no-dictionary", "", "what these settings mean is not known; describe their firmware family first")
	}
	is := boardOf(o.known)
	build, err := firmware.For(quad.Board{Line: is.Line, Version: is.Version, Dictionary: o.file.Taught[is.Line]})
	if err != nil {
		return nil, err
	}
	sheet, err := build.Load(o.known.Sheet, settings)
	if err != nil {
		return nil, err
	}
	return a.takeSheet(ctx, o, version, sheet)
}

func place(line int) string {
	if line == 0 {
		return ""
	}
	return fmt.Sprintf("line %d", line)
}

// KeepList saves a settings list beside those saved from the board, so that it can be carried over. What it is from
// stands at its head, or the pilot says it.
func (a *App) KeepList(ctx context.Context, id int64, text []byte, is quad.Identity, why string) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	list, err := firmware.ReadList(text)
	if err != nil {
		return nil, err
	}
	for _, s := range []struct{ own, said *string }{{&list.Is.Target, &is.Target}, {&list.Is.Line, &is.Line}, {&list.Is.Version, &is.Version}} {
		if *s.own == "" {
			*s.own = *s.said
		}
	}
	build, err := firmware.For(quad.Board{Line: list.Is.Line, Version: list.Is.Version, Dictionary: o.file.Taught[list.Is.Line]})
	if err != nil {
		return nil, err
	}
	given, faults := build.Facts.CheckList(list.Settings)
	if len(faults) > 0 {
		return nil, listFault(faults)
	}
	settings := build.Facts.Defaults()
	maps.Copy(settings, given)
	if quad.Longer(why, 120) {
		return nil, quad.Faultf("too-long", "why", "a few words: up to 120 characters")
	}
	_, e, err := a.backup(list.Is, settings, o.file.Taught, orWhy(why))
	if err != nil {
		return nil, err
	}
	return a.draft(ctx, id, book.Change{Entries: []book.Entry{e}})
}

func orWhy(why string) string {
	if why == "" {
		return "brought in as a list"
	}
	return why
}
