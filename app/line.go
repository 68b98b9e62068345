package app

import (
	"context"
	"encoding/json"
	"reflect"
	"slices"
	"strings"
	"time"

	"vividperch/core/check"
	"vividperch/core/firmware"
	"vividperch/core/motors"
	"vividperch/core/proof"
	"vividperch/core/quad"
)

// ReadingView is one reading as the ledger shows it.
type ReadingView struct {
	Path   quad.Path   `json:"path"`
	Label  string      `json:"label"`
	Words  string      `json:"words"`
	Value  any         `json:"value"`
	Origin quad.Origin `json:"origin"`
	Bench  bool        `json:"bench"`
	At     time.Time   `json:"at"`
	Entry
}

// Entry tells how a reading can be taken: from the bench, and what to fill in when it is typed.
type Entry struct {
	Way   Taken       `json:"way" enum:"none,bench,held,model"`
	Slots []quad.Slot `json:"slots"`
}

// AskView is what is still wanted: a reading, or what nobody told.
type AskView struct {
	check.Ask
	Entry
	// Nought is the value to set where there is 0, off or none; nothing where that is no answer.
	Nought json.RawMessage `json:"nought,omitempty"`
	// Left is the value that the firmware has where nobody changed it, and LeftWords what that is; nothing where that is not known.
	Left      json.RawMessage `json:"left,omitempty"`
	LeftWords string          `json:"leftWords,omitempty"`
}

// leftBy gives what the firmware of a quad has at a place of its settings where nobody changed it. Only the families that the product knows tell.
func leftBy(is quad.FirmwareSheet) func(quad.Path) (json.RawMessage, string) {
	usual, known := quad.Known{}, false
	return func(p quad.Path) (json.RawMessage, string) {
		if !p.Under("sheet") {
			return nil, ""
		}
		if !known {
			build, err := firmware.Find(is.Line, is.Version)
			if err != nil {
				return nil, ""
			}
			if usual.Sheet, err = build.Usual(); err != nil {
				return nil, ""
			}
			known = true
			usual.Sheet.Untell(build.Dictionary.Tells)
		}
		v, err := quad.Get(&usual, p)
		f, named := quad.FieldAt(p)
		if err != nil || v == nil || named != nil || len(quad.Untold(&usual, []quad.Path{p})) > 0 || f.Open && reflect.ValueOf(v).IsZero() {
			return nil, ""
		}
		raw, err := json.Marshal(v)
		if err != nil {
			return nil, ""
		}
		words := quad.Words(v, f.Unit)
		if r, ranged := v.(quad.Range); ranged && !r.Used() {
			words = "no channel"
		} else if f.Type.Kind() == reflect.Struct {
			words = "as it comes"
		}
		return raw, words
	}
}

// Perch is a station on the wire.
type Perch struct {
	check.StationInfo
	Number int `json:"number"`
	proof.Standing
	Asks     []AskView     `json:"asks"`
	Readings []ReadingView `json:"readings"`
	Meant    []quad.Path   `json:"meant"` // what it relies on, told in the quad's leaves
	Noted    []AskView     `json:"noted"` // readings that nothing asks for and that may be noted
	Old      []OldView     `json:"old"`   // readings that do not fit any more; nothing is judged by them
	Limits   []LimitView   `json:"limits"`
	// Estimates that it leans on, in words with their bands.
	Estimates []string `json:"estimates"`
}

// OldView is a reading that does not fit any more: it is kept and shown, and no rule sees it.
type OldView struct {
	Path  quad.Path `json:"path"`
	Label string    `json:"label"`
	Words string    `json:"words"` // as it was kept
	At    time.Time `json:"at"`
	Why   string    `json:"why"`
	Entry
}

// MeantView is one leaf of what is meant that a station relies on. How it is typed, [App.Slots] tells.
type MeantView struct {
	Path  quad.Path `json:"-"` // its key among the leaves
	Label string    `json:"label"`
	Words string    `json:"words"`
	// Falls names the stations that are proven now and would have to be proven again after a change here.
	Falls []string `json:"falls"`
}

// DraftView tells what stands in the draft.
type DraftView struct {
	Words []string `json:"words"`
	Redo  string   `json:"redo"` // what would be made again, or nothing
}

// QuadView is the line of one quad: every station with its ledger, the draft, what to do next. What an instrument draws is asked for at its
// station.
type QuadView struct {
	ID       int64      `json:"id"`
	Name     string     `json:"name"`
	Words    string     `json:"words"`
	Revision int        `json:"revision"`
	Version  int64      `json:"version"`
	Seen     string     `json:"seen"` // names this look at the quad; a signature is for what was seen
	Draft    DraftView  `json:"draft"`
	Meant    quad.Meant `json:"meant"`
	Line     []Perch    `json:"line"`
	// Leaves are the places of what is meant that a station of the line relies on, by path.
	Leaves  map[quad.Path]MeantView `json:"leaves"`
	Release *Release                `json:"release"`
	Against string                  `json:"against"` // why hover cannot be released now, as a sentence, or nothing
	Back    BackView                `json:"back"`
	Next    []proof.Todo            `json:"next"` // what to do, in order
}

// Quad shows one quad.
func (a *App) Quad(ctx context.Context, id int64) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	return a.view(o)
}

// figures that a station draws of what is known of a quad.
func figures[T any](ctx context.Context, a *App, id int64, of func(quad.Known) T) (T, error) {
	return figuresOr(ctx, a, id, func(k quad.Known) (T, error) { return of(k), nil })
}

// figuresOr is the same of what may refuse.
func figuresOr[T any](ctx context.Context, a *App, id int64, of func(quad.Known) (T, error)) (none T, err error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return none, err
	}
	return of(o.known)
}

func (a *App) view(o *opened) (*QuadView, error) {
	st := a.standings(o)
	k := o.known
	v := &QuadView{
		ID: o.file.ID, Name: o.file.Name, Words: o.file.Words, Revision: o.file.Head, Version: o.file.Version, Seen: o.file.Seen(),
		Meant: k.Meant().Filled(), Release: a.standing(o, st), Next: proof.Next(st),
	}
	if o.file.Retired {
		v.Against = quad.Sentence(errRetired.Sentence)
	} else if err := proof.MayRelease(proof.Hover, st); err != nil {
		v.Against = quad.Sentence(quad.AsFault(err).Sentence)
	}
	var undo string
	var err error
	if v.Draft, undo, err = draftView(o); err != nil {
		return nil, err
	}
	v.Leaves = map[quad.Path]MeantView{}
	leaves, meant := quad.Leaves(k.Readings, "readings"), meantViews(k.Parts, o.ofInterest(quad.Leaves(k.Meant(), "")), st)
	v.Back = a.backView(o, undo, leaves)
	left := leftBy(k.Sheet.Firmware)
	for i, s := range st {
		p := Perch{StationInfo: s.Station.Info(), Number: i + 1, Standing: s, Readings: []ReadingView{}, Meant: []quad.Path{}}
		p.Findings, p.Why, p.Asks = nonNil(p.Findings), nonNil(p.Why), []AskView{}
		for _, ask := range s.Asks {
			one := AskView{Ask: ask, Entry: entryFor(k, ask.Path), Nought: quad.Nought(&k, ask.Path)}
			one.Left, one.LeftWords = left(ask.Path)
			p.Asks = append(p.Asks, one)
		}
		own := proof.Subject(s.Station)
		for _, l := range leaves {
			if l.Path.Under(own) {
				p.Readings = append(p.Readings, ReadingView{Path: l.Path, Label: l.Label, Words: readingWords(l), Value: l.Value, Origin: l.From, Bench: l.Bench, At: l.At, Entry: entryFor(k, l.Path)})
			}
		}
		p.Old = oldAt(o, s.Station)
		p.Limits = limitsOf(k, s.Station)
		p.Noted = notedAt(k, s.Station)
		p.Estimates = nonNil(k.Parts.EstimateWords(s.Relies))
		for _, m := range meantBy(s, meant) {
			p.Meant, v.Leaves[m.Path] = append(p.Meant, m.Path), m
		}
		v.Line = append(v.Line, p)
	}
	v.in(k.Pilot.Shows)
	return v, nil
}

// oldAt lists the readings of a station that do not fit any more. One whose place nothing knows any more is shown at the first station.
func oldAt(o *opened, s check.Station) []OldView {
	out := []OldView{}
	for _, r := range o.old {
		f, err := quad.FieldAt(r.path)
		mine := r.path.Under(proof.Subject(s))
		if known := slices.ContainsFunc(check.Line, func(i check.StationInfo) bool { return r.path.Under(proof.Subject(i.ID)) }); !known {
			mine = s == check.Line[0].ID
		}
		if !mine {
			continue
		}
		v := OldView{Path: r.path, Label: f.Label, Words: quad.Clip(plainWords(r.value), 120), At: r.at, Why: r.why, Entry: Entry{Way: TakenNone, Slots: []quad.Slot{}}}
		if err == nil {
			v.Entry = entryFor(o.known, r.path)
		} else {
			v.Label = "A reading that this program no longer knows"
		}
		out = append(out, v)
	}
	return out
}

// plainWords of a value that nothing here can read any more.
func plainWords(raw json.RawMessage) string {
	return strings.Join(strings.FieldsFunc(string(raw), func(r rune) bool { return strings.ContainsRune(`{}[]",`, r) }), " ")
}

// notedAt lists the readings of a station that no rule asks for and that have not been taken.
func notedAt(k quad.Known, s check.Station) []AskView {
	out := []AskView{}
	for _, p := range quad.SortedKeys(proof.Unjudged) {
		if proof.Unjudged[p].Station != s || !p.Under("readings") {
			continue
		}
		f, err := quad.FieldAt(p)
		if taken, _ := quad.Get(k, p); err != nil || taken != nil {
			continue
		}
		out = append(out, AskView{Ask: check.Ask{Station: s, Path: p, Label: f.Label, How: f.How, Good: check.Good(k, p)}, Entry: entryFor(k, p)})
	}
	return out
}

// holdsOf says of a place whether a firmware has a setting for it; nil where that firmware is not known. The dictionary is the pilot's own, if
// he described one.
func holdsOf(is quad.FirmwareSheet, dictionary string) func(quad.Path) bool {
	build, err := firmware.For(quad.Board{Line: is.Line, Version: is.Version, Dictionary: dictionary})
	if err != nil {
		return nil
	}
	return func(p quad.Path) bool { return len(build.Dictionary.SettingsFor(p)) > 0 }
}

// ofInterest leaves out what nobody told of what is meant and its firmware could not hold, and the ends of ranges that are on no channel.
func (o *opened) ofInterest(leaves []quad.Leaf) []quad.Leaf {
	is := o.known.Sheet.Firmware
	holds := holdsOf(is, o.file.Taught[is.Line])
	unused := map[quad.Path]bool{}
	for _, l := range leaves {
		if at, ok := strings.CutSuffix(string(l.Path), ".channel"); ok && l.Path.Under("sheet.sticks") && l.Value == 0 {
			unused[quad.Path(at)] = true
		}
	}
	return slices.DeleteFunc(leaves, func(l quad.Leaf) bool {
		if !l.Path.Under("sheet") || !reflect.ValueOf(l.Value).IsZero() {
			return false
		}
		at := quad.Path(l.Path[:strings.LastIndexByte(string(l.Path), '.')])
		if unused[at] && !strings.HasSuffix(string(l.Path), ".channel") {
			return true
		}
		f, told := quad.FieldAt(l.Path)
		return told == nil && f.Rare && (holds == nil || !holds(l.Path))
	})
}

// meantViews of leaves of what is meant, each worked out once for all the stations that rely on it. Lists cannot be typed in one slot and
// are left out; a threshold is shown, and set with its reason, by itself; an estimate is told where its figure stands, and
// what is placed where the quad is taken apart.
func meantViews(parts quad.Parts, leaves []quad.Leaf, st []proof.Standing) []MeantView {
	out := make([]MeantView, 0, len(leaves))
	for _, l := range leaves {
		if !l.Typed() || l.Path.Under("limits.thresholds") || l.Path.Under("parts.estimates") || l.Path.Under("parts.placed") {
			continue
		}
		words := l.Words()
		if estimate := parts.EstimateAt(l.Path); estimate != "" {
			words += " (" + estimate + ")"
		}
		out = append(out, MeantView{Path: l.Path, Label: l.Label, Words: words, Falls: provenAmong(proof.Falls(l.Path), st)})
	}
	return out
}

// meantBy lists what a station relies on, and what is told there and not judged.
func meantBy(s proof.Standing, all []MeantView) []MeantView {
	out := []MeantView{}
	for _, m := range all {
		if slices.ContainsFunc(s.Relies, m.Path.Under) || proof.Unjudged[m.Path].Station == s.Station {
			out = append(out, m)
		}
	}
	return out
}

// provenAmong names those of some stations that are proven.
func provenAmong(list []check.Station, st []proof.Standing) []string {
	out := []string{}
	for _, s := range list {
		if st[s.Number()-1].State == proof.Proven {
			out = append(out, s.Info().Name)
		}
	}
	return out
}

// entryFor a reading. The positions of a switch are the ones its plan names.
func entryFor(k quad.Known, p quad.Path) Entry {
	list, err := quad.Slots(p)
	if p == savedList {
		list = nil
	}
	if err != nil {
		return Entry{Way: TakenNone, Slots: []quad.Slot{}}
	}
	if p.Under("readings.sticks.switches") {
		name := string(p[strings.LastIndexByte(string(p), '.')+1:])
		for _, pos := range k.Radio.Switches[name].Positions {
			list = append(list, quad.Slot{Path: quad.Path("positions." + pos), Label: "Sent when " + pos, Unit: "µs", Kind: quad.SlotNumber})
		}
	}
	return Entry{Way: TakenBy(p), Slots: nonNil(list)}
}

func nonNil[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// draftView tells what stands in the draft, and in words what its last act changed.
func draftView(o *opened) (v DraftView, undo string, err error) {
	now := o.known.Meant()
	v = DraftView{Words: differenceWords(o.saved, now)}
	if len(o.file.Edits) > 0 {
		before, err := quad.Apply(o.saved, o.file.Edits[:quad.LastAct(o.file.Edits)])
		if err != nil {
			return v, "", err
		}
		undo = actWords(before, now)
	}
	if len(o.file.Undone) > 0 {
		after, err := quad.Apply(now, o.file.Undone[quad.LastAct(o.file.Undone):])
		if err != nil {
			return v, "", err
		}
		v.Redo = actWords(now, after)
	}
	return v, undo, nil
}

// actWords say in one line what an act changed.
func actWords(before, after quad.Meant) string {
	words := differenceWords(before, after)
	switch len(words) {
	case 0:
		return "a change that changed nothing"
	case 1:
		return words[0]
	}
	return words[0] + ", and " + quad.Number(float64(len(words)-1)) + " more"
}

// readingWords says a reading's value in a few words.
func readingWords(l quad.Leaf) string {
	switch x := l.Value.(type) {
	case quad.MotorSeen:
		return x.Corner.Words() + ", " + x.Spin.Words()
	case quad.StickAxis:
		words := "channel " + quad.Number(float64(x.Channel)) + ", " + quad.Number(x.Ends.Low) + " · " + quad.Number(x.Ends.Centre) + " · " + quad.Number(x.Ends.High) + " µs"
		if x.Reversed {
			words += ", backwards"
		}
		return words
	case quad.SwitchSeen:
		words := "channel " + quad.Number(float64(x.Channel))
		for _, p := range quad.SortedKeys(x.Positions) {
			words += ", " + p + " " + quad.Number(x.Positions[p])
		}
		return words + " µs"
	case quad.Resistance:
		return quad.Quantity(x.AtOnce, "Ω") + ", after 10 s " + quad.Quantity(x.After, "Ω")
	case quad.Identity:
		words := x.Target + ", " + x.Line + " " + x.Version
		if x.Serial != "" {
			words += ", number " + x.Serial
		}
		return words
	case quad.SpeedIdentity:
		return x.Layout + " " + x.Version + ", " + quad.Quantity(x.Switching, "kHz") + answers(x.Replies)
	case quad.SwitchingTrial:
		words := quad.Quantity(x.Tried, "kHz") + " for " + quad.Quantity(x.Before, "kHz")
		if flown, _ := motors.Compared(x); flown {
			return words + ": shakes by " + quad.Quantity(x.Is, "deg/s") + ", before by " + quad.Quantity(x.Was, "deg/s")
		}
		return words + ", not compared yet"
	case quad.Backup:
		return x.Name + ", " + quad.Number(float64(x.Settings)) + " settings, " + quad.Number(float64(x.Changed)) + " changed"
	case quad.Rehearsal:
		return x.Sentence
	case quad.LossOutput:
		return string(x)
	}
	return quad.Words(l.Value, l.Unit)
}

func answers(replies bool) string {
	if replies {
		return ", answers with its rotation"
	}
	return ""
}
