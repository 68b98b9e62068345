package app

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"

	"vividperch/core/book"
	"vividperch/core/firmware"
	"vividperch/core/quad"
)

// ReadList takes a pasted settings list as the board's read-back, for a quad without a bench, and from its head who the board is. save keeps it
// beside the other saved lists, as what was on the board. The list is read whole before anything is kept; all faults are told at once. One that is of another board, line or
// version is refused, as it is where it is looked at.
func (a *App) ReadList(ctx context.Context, id int64, text []byte, save bool) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	entries, readings, _, err := a.listTaken(o, boardOf(o.known), o.file.Taught, text, save)
	if err != nil {
		return nil, err
	}
	if err := a.keepWith(ctx, id, "list", entries, readings...); err != nil {
		return nil, err
	}
	return a.Quad(ctx, id)
}

// listTaken is all that a pilot's list of a board tells, with the board as it is then known.
func (a *App) listTaken(o *opened, is quad.Identity, taught map[string]string, text []byte, save bool) (entries []book.Entry, readings []newReading, b quad.Board, err error) {
	if is.Line == "" { // nobody told what firmware it has: the list may
		is = firmware.HeadOf(text)
	}
	if head, meant := firmware.HeadOf(text), o.known.Sheet.Firmware.Is(); head.Line == is.Line && head.Version == meant.Version && head.Version != "" {
		is.Version = head.Version // flashed elsewhere meanwhile, as was meant, and as its own head tells
	}
	is.Serial = "" // which board of its kind it is, the list says
	build, err := firmware.For(quad.Board{Line: is.Line, Version: is.Version, Dictionary: taught[is.Line]})
	if err != nil {
		return nil, nil, b, err
	}
	list, err := build.ReadList(text)
	if err != nil {
		return nil, nil, b, listFault([]*quad.Fault{quad.AsFault(err)})
	}
	if len(list.Settings) == 0 {
		return nil, nil, b, errEmptyList
	}
	b, faults := firmware.BoardFromList(is, taught[is.Line], text, a.now())
	if len(faults) > 0 {
		return nil, nil, b, listFault(faults)
	}
	_, remarks := build.Review(list, is)
	for _, r := range remarks {
		if r.Line == 0 && r.Hinders {
			return nil, nil, b, quad.Faultf("list-hinders", "", "%s", r.Says)
		}
	}
	e, err := a.readBack(b)
	if err != nil {
		return nil, nil, b, err
	}
	mark, err := a.markEntry(o, b.Is().Mark())
	if err != nil {
		return nil, nil, b, err
	}
	entries = append([]book.Entry{e}, mark...)
	told := func(path quad.Path, value any) error {
		raw, err := json.Marshal(value)
		readings = append(readings, newReading{path: path, value: raw, origin: quad.OriginTyped})
		return err
	}
	if save {
		saved, kept, err := a.backup(b.Is(), b.Settings, taught, orWhy(""), text)
		if err != nil {
			return nil, nil, b, err
		}
		entries = append(entries, kept)
		if err := told(savedList, saved); err != nil {
			return nil, nil, b, err
		}
	}
	if list.Is.Target != "" && list.Is.Line != "" && list.Is.Version != "" {
		err = told("readings.firmware.identity", list.Is)
	}
	return entries, readings, b, err
}

var errEmptyList = quad.Faultf("empty-list", "", "there is no setting in it: one to a line, as name = value or as a table with commas")

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
	is, head := boardOf(o.known), firmware.HeadOf(text)
	line, version := is.Line, is.Version
	if head.Line != "" && head.Line != is.Line {
		line, version = head.Line, head.Version
	}
	// It is read as its own family writes it. What nobody can read is of a family that is not known here, and can be described.
	own, err := firmware.For(quad.Board{Line: line, Version: version, Dictionary: o.file.Taught[line]})
	_, shipped := firmware.FindLine(line)
	unknown := err != nil && !shipped && o.file.Taught[line] == ""
	read := firmware.ReadList
	if err == nil {
		read = own.ReadList
	}
	list, err := read(text)
	if unknown && (err == nil || quad.AsFault(err).Code == "not-a-setting" || quad.AsFault(err).Code == "not-a-table") {
		return &ListView{Is: head, Lines: len(list.Settings), Remarks: []firmware.Remark{}, Changes: []WriteView{}, Unknown: true}, nil, nil
	}
	if err != nil {
		return nil, nil, err
	}
	if len(list.Settings) == 0 {
		return nil, nil, errEmptyList
	}
	v := &ListView{Is: list.Is, Lines: len(list.Settings), Remarks: []firmware.Remark{}, Changes: []WriteView{}}
	v.Carry = list.Is.Line != "" && list.Is.Line != is.Line
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
	head := firmware.HeadOf(text)
	for _, s := range []struct{ own, said *string }{{&head.Target, &is.Target}, {&head.Line, &is.Line}, {&head.Version, &is.Version}} {
		if *s.own == "" {
			*s.own = *s.said
		}
	}
	build, err := firmware.For(quad.Board{Line: head.Line, Version: head.Version, Dictionary: o.file.Taught[head.Line]})
	if err != nil {
		return nil, err
	}
	list, err := build.ReadList(text)
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
	_, e, err := a.backup(head, settings, o.file.Taught, orWhy(why), text)
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
