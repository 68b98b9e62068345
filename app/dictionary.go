package app

import (
	"context"
	"strings"
	"time"

	"vividperch/core/book"
	"vividperch/core/firmware"
	"vividperch/core/quad"
)

// taught dictionaries of the pilot, as files, by line.
func (a *App) taught(ctx context.Context) (map[string]string, error) {
	list, err := a.keep.Dictionaries(ctx, a.pilot)
	if err != nil {
		return nil, err
	}
	out := make(map[string]string, len(list))
	for _, d := range list {
		out[d.Line] = d.Body
	}
	return out, nil
}

// DictionaryView is a dictionary that the product has or that the pilot taught.
type DictionaryView struct {
	Line     string             `json:"line"`
	Versions []firmware.Version `json:"versions"`
	Settings int                `json:"settings"` // of the newest version
	Mapped   int                `json:"mapped"`   // places of the sheet that it maps to
	Taught   bool               `json:"taught"`
	Version  int64              `json:"version"` // of the taught file, for changing it
	File     string             `json:"file"`    // of a taught one
	At       time.Time          `json:"at"`
	Broken   string             `json:"broken"` // why it cannot be read any more, or nothing
}

// mostDictionaries a pilot may teach, and how large each may be, bytes.
const (
	mostDictionaries = 30
	mostDictionary   = 400 << 10
)

// Dictionaries lists all lines that are known, the pilot's own first.
func (a *App) Dictionaries(ctx context.Context) ([]DictionaryView, error) {
	own, err := a.keep.Dictionaries(ctx, a.pilot)
	if err != nil {
		return nil, err
	}
	out := []DictionaryView{}
	for _, d := range own {
		l, err := firmware.Taught(d.Body)
		v := DictionaryView{Line: d.Line, Taught: true, Version: d.Version, File: d.Body, At: d.At, Versions: []firmware.Version{}}
		if err != nil {
			v.Broken = quad.Explain(err)
		} else {
			v.describe(l)
		}
		out = append(out, v)
	}
	for _, name := range firmware.LineNames() {
		l, _ := firmware.FindLine(name)
		v := DictionaryView{Line: name}
		v.describe(l)
		out = append(out, v)
	}
	return out, nil
}

func (v *DictionaryView) describe(l *firmware.Line) {
	b := l.Newest()
	v.Versions, v.Settings, v.Mapped = l.Versions, len(b.Facts.Settings), len(b.Dictionary.Paths())
}

// TeachAsk is a lesson as the page sends it: the list as text, and how its settings map.
type TeachAsk struct {
	Line      string           `json:"line"`
	Version   string           `json:"version"`
	Separator string           `json:"separator"`
	List      string           `json:"list"`
	Entries   []firmware.Entry `json:"entries"`
	// Bound names settings that are measured on this very board, each with what gives them.
	Bound map[string]firmware.Measured `json:"bound"`
	// Shape of its lines, as the shape of a dictionary file; empty for the usual one, or for one that is guessed where that reads nothing.
	Shape string `json:"shape"`
}

// TeachView is a lesson before it is kept: what each setting may mean, the file that comes of the entries, and what
// a list loses through it.
type TeachView struct {
	Settings []firmware.Listed           `json:"settings"`
	Guesses  map[string][]firmware.Guess `json:"guesses"`
	Places   []PlaceView                 `json:"places"`
	File     string                      `json:"file"`
	Fault    string                      `json:"fault"` // why no file comes of it, or nothing
	At       string                      `json:"at"`    // setting or path of the fault
	Loses    []firmware.Remark           `json:"loses"`
	Tells    []firmware.Told             `json:"tells"` // what each mapped place comes to be
	Back     string                      `json:"back"`  // the list as it comes back through the sheet
	Shape    string                      `json:"shape"` // how its lines look, as it was told or guessed; empty for the usual one
}

// PlaceKind is what a place of the sheet holds.
type PlaceKind string

const (
	PlaceFigure PlaceKind = "figure"
	PlaceWord   PlaceKind = "word"
	PlaceYesNo  PlaceKind = "yesNo"
)

// PlaceView is a place of the sheet that a setting can map to.
type PlaceView struct {
	Path  quad.Path `json:"path"`
	Label string    `json:"label"`
	Unit  string    `json:"unit"`
	OneOf []string  `json:"oneOf"`
	Kind  PlaceKind `json:"kind" enum:"figure,word,yesNo"`
	Words string    `json:"words"` // what the sheet says there
}

// Lesson works out what a lesson would become, and keeps nothing. The quad's sheet gives hints; it may be any.
func (a *App) Lesson(ctx context.Context, id int64, ask TeachAsk) (*TeachView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	shape, list, err := lessonList(ask)
	if err != nil {
		return nil, err
	}
	if len(list.Settings) == 0 {
		return nil, errEmptyList
	}
	v := &TeachView{Settings: list.Settings, Guesses: firmware.GuessMeanings(list.Settings, ask.Separator, o.known.Sheet), Places: placesOf(o.known.Sheet), Loses: []firmware.Remark{}, Tells: []firmware.Told{}}
	if shape != nil {
		if v.Shape, err = shape.Text(); err != nil {
			return nil, err
		}
	}
	v.File, err = firmware.Lesson{Line: ask.Line, Version: ask.Version, Separator: ask.Separator, Shape: shape, Settings: list.Settings, Entries: ask.Entries, Bound: ask.Bound}.File()
	if err != nil {
		v.Fault = quad.Explain(err)
		if f := quad.AsFault(err); f != nil {
			v.At = f.Place
		}
		return v, nil
	}
	l, err := firmware.Taught(v.File)
	if err != nil {
		return nil, err
	}
	v.Loses, v.Tells = nonNil(firmware.Unclear(l, list.Settings)), nonNil(l.Tells(list.Settings))
	return v, v.through(l, []byte(ask.List))
}

// lessonList is the list that a lesson is about, with how its lines look where that is not as usual: as it was told, or as it seems.
func lessonList(ask TeachAsk) (*firmware.Shape, firmware.List, error) {
	text := []byte(ask.List)
	if strings.TrimSpace(ask.Shape) == "" {
		list, err := firmware.ReadList(text)
		if err == nil || quad.AsFault(err).Code != "not-a-setting" {
			return nil, list, err
		}
		guessed := firmware.GuessShape(text)
		list, err = guessed.List(text)
		return &guessed, list, err
	}
	shape, err := firmware.ReadShape(ask.Shape)
	if err != nil {
		return nil, firmware.List{}, err
	}
	list, err := shape.List(text)
	return shape, list, err
}

// through the sheet and back.
func (v *TeachView) through(l *firmware.Line, text []byte) error {
	settings := map[string]string{}
	b := l.Newest()
	list, err := b.ReadList(text)
	if err != nil {
		return err
	}
	for _, s := range list.Settings {
		settings[s.Name] = s.Value
	}
	sheet, err := b.Dictionary.Decode(settings)
	if err != nil {
		return err
	}
	back, _ := b.Dictionary.EncodeAll(sheet, settings)
	if v.Back = string(firmware.WriteList(back, nil)); l.Shape != nil {
		out, err := b.EditList(text, back)
		v.Back = string(out)
		return err
	}
	return nil
}

// placesOf the sheet that a dictionary can map to, with the items that the quad has.
func placesOf(s quad.Sheet) []PlaceView {
	out := []PlaceView{}
	for _, l := range quad.Leaves(struct {
		Sheet quad.Sheet `json:"sheet"`
	}{s}, "") {
		f, err := quad.FieldAt(l.Path)
		if err != nil || l.Path.Under("sheet.firmware") || l.Private != "" {
			continue
		}
		v := PlaceView{Path: l.Path, Label: l.Label, Unit: l.Unit, OneOf: nonNil(f.OneOf), Kind: PlaceWord, Words: l.Words()}
		switch l.Value.(type) {
		case float64, int:
			v.Kind = PlaceFigure
		case bool:
			v.Kind = PlaceYesNo
		}
		out = append(out, v)
	}
	return out
}

// Teach keeps a dictionary, as a file made by a lesson or written by hand. version is the one the pilot saw, 0 for a
// new one.
func (a *App) Teach(ctx context.Context, version int64, file string) ([]DictionaryView, error) {
	if len(file) > mostDictionary {
		return nil, quad.Faultf("too-large", "file", "a dictionary has at most 400 kB")
	}
	if strings.TrimSpace(file) == "" {
		return nil, quad.Faultf("empty", "file", "there is nothing in it")
	}
	l, err := firmware.Taught(file)
	if err != nil {
		return nil, err
	}
	own, err := a.keep.Dictionaries(ctx, a.pilot)
	if err != nil {
		return nil, err
	}
	if version == 0 && len(own) >= mostDictionaries {
		return nil, quad.Faultf("too-many", "", "there are %d dictionaries already; take one away first", len(own))
	}
	if err := a.keep.SetDictionary(ctx, a.pilot, book.Dictionary{Line: l.Name, Body: file, Version: version}); err != nil {
		return nil, err
	}
	return a.Dictionaries(ctx)
}

// Forget takes a taught dictionary away. Lists of its line are kept, and cannot be read until it is taught again.
func (a *App) Forget(ctx context.Context, version int64, line string) ([]DictionaryView, error) {
	if version == 0 {
		return nil, quad.Faultf("no-dictionary", "line", "there is no dictionary of your own for %q", line)
	}
	if err := a.keep.SetDictionary(ctx, a.pilot, book.Dictionary{Line: line, Version: version}); err != nil {
		return nil, err
	}
	return a.Dictionaries(ctx)
}
