package app

import (
	"context"
	"math"
	"slices"
	"strconv"

	"vividperch/core/airframe"
	"vividperch/core/check"
	"vividperch/core/feel"
	"vividperch/core/firmware"
	"vividperch/core/flight"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// BorrowKind is where a feel is borrowed from.
type BorrowKind string

const (
	BorrowQuad    BorrowKind = "quad"    // another of the pilot's
	BorrowArchive BorrowKind = "archive" // of a quad, as it was downloaded
	BorrowList    BorrowKind = "list"    // of a board's settings: without its parts
	BorrowTyped   BorrowKind = "typed"   // rates alone
	BorrowPreset  BorrowKind = "preset"  // a starting point that ships
)

// BorrowAsk is a feel to be borrowed.
type BorrowAsk struct {
	Kind   BorrowKind `json:"kind" enum:"quad,archive,list,typed,preset"`
	Quad   int64      `json:"quad,omitempty"`
	Text   string     `json:"text,omitempty" maxLength:"2000000"` // of an archive or a list
	Preset string     `json:"preset,omitempty" maxLength:"60"`
	Typed  *TypedFeel `json:"typed,omitempty"`
}

// TypedFeel is what a pilot types of another quad.
type TypedFeel struct {
	Family quad.RateFamily `json:"family" enum:"centrePeak,compounding,straightExpo"`
	Roll   quad.Rates      `json:"roll"`
	Pitch  quad.Rates      `json:"pitch"`
	Yaw    quad.Rates      `json:"yaw"`
}

// BorrowView is a borrowed feel beside this quad's own.
type BorrowView struct {
	From    string         `json:"from"`
	Carried []CarriedFeel  `json:"carried"`
	Left    []flight.Left  `json:"left"`
	Edits   []check.Edit   `json:"edits"`
	Apart   [3]feel.Apart  `json:"apart"` // of the curves, theirs to ours, about roll, pitch and yaw
	Stick   []float64      `json:"stick" unit:"1"`
	Every   float64        `json:"every" unit:"s"`
	Theirs  []float64      `json:"theirs" unit:"deg/s"` // none where it cannot be flown
	Before  []float64      `json:"before" unit:"deg/s"`
	After   []float64      `json:"after" unit:"deg/s"`
	Margins []BorrowMargin `json:"margins"`
}

// CarriedFeel is one figure that is carried.
type CarriedFeel struct {
	Path  quad.Path `json:"path"`
	Label string    `json:"label"`
	Was   string    `json:"was"`
	Now   string    `json:"now"`
}

// BorrowMargin is how much the borrowed gains keep in hand about one axis, with the pack that turns it the hardest.
type BorrowMargin struct {
	Axis  motors.Turn `json:"axis" enum:"roll,pitch,yaw"`
	Share float64     `json:"share" unit:"1"`
	Few   bool        `json:"few"`
}

// stickEvery so many seconds a flight on one stick is drawn.
const stickEvery = 0.01

// Borrow a feel for a quad, and fly both on one stick. Nothing is kept.
func (a *App) Borrow(ctx context.Context, id int64, ask BorrowAsk) (*BorrowView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	k := o.known
	v := &BorrowView{Carried: []CarriedFeel{}, Left: []flight.Left{}, Edits: []check.Edit{}, Stick: []float64{}, Theirs: []float64{}, Before: []float64{}, After: []float64{}, Margins: []BorrowMargin{}, Every: stickEvery}
	var with quad.FeelSheet
	var lent flight.Lent
	if ask.Kind == BorrowPreset {
		list := feel.Presets()
		i := slices.IndexFunc(list, func(p feel.Preset) bool { return p.Name == ask.Preset })
		if i < 0 {
			return nil, quad.Faultf("no-preset", ask.Preset, "there is no such starting point")
		}
		v.From = list[i].Name
		if with, err = flight.WithPreset(k, list[i]); err != nil {
			return nil, err
		}
		for n, r := range with.Rates() {
			v.Apart[n] = feel.Between(quad.CentrePeak, [3]quad.Rates{list[i].Roll, list[i].Pitch, list[i].Yaw}[n], with.Family, r)
		}
	} else {
		if lent, v.From, err = a.lender(ctx, o, ask); err != nil {
			return nil, err
		}
		got := flight.Borrow(lent, k)
		with, v.Apart, v.Left = got.Feel, got.Apart, append(v.Left, got.Left...)
	}
	v.carry(k.Sheet.Feel, with)
	after := k
	after.Sheet.Feel = with
	for i := range int(math.Round(flight.OneStickLasts/stickEvery)) + 1 {
		v.Stick = append(v.Stick, flight.OneStick(float64(i)*stickEvery))
	}
	flown := func(k quad.Known) []float64 {
		if x, err := flight.OnOneStick(k, stickEvery); err == nil {
			return x
		}
		return []float64{} // what it lacks is told elsewhere
	}
	v.Before, v.After = flown(k), flown(after)
	if lent.Whole {
		v.Theirs = flown(lent.Known)
	}
	v.margins(after)
	return v, nil
}

// lender of a feel, and its name.
func (a *App) lender(ctx context.Context, o *opened, ask BorrowAsk) (flight.Lent, string, error) {
	switch ask.Kind {
	case BorrowQuad:
		if ask.Quad == o.file.ID {
			return flight.Lent{}, "", quad.Faultf("itself", "", "it has its own feel already")
		}
		other, err := a.open(ctx, ask.Quad)
		if err != nil {
			return flight.Lent{}, "", err
		}
		return flight.Lent{Known: other.known, Whole: true}, other.file.Name, nil
	case BorrowArchive:
		k, _, err := OpenArchive([]byte(ask.Text))
		if err != nil {
			return flight.Lent{}, "", err
		}
		return flight.Lent{Known: k, Whole: true}, "an archive", nil
	case BorrowTyped:
		if ask.Typed == nil {
			return flight.Lent{}, "", quad.Faultf("nothing-typed", "", "type its rates first")
		}
		var k quad.Known
		t := ask.Typed
		k.Sheet.Feel = quad.FeelSheet{Family: t.Family, Roll: t.Roll, Pitch: t.Pitch, Yaw: t.Yaw}
		for i, r := range [3]quad.Rates{t.Roll, t.Pitch, t.Yaw} {
			if err := feel.Sound(t.Family, r, quad.Path(motors.Turns[i])); err != nil {
				return flight.Lent{}, "", err
			}
		}
		return flight.Lent{Known: k}, "what you typed", nil
	}
	head := firmware.HeadOf([]byte(ask.Text))
	is := head
	if is.Line == "" {
		is = o.known.Sheet.Firmware.Is()
	}
	b, faults := firmware.BoardFromList(is, o.file.Taught[is.Line], []byte(ask.Text), a.now())
	if b.Line == "" && len(faults) > 0 {
		return flight.Lent{}, "", faults[0]
	}
	return flight.Lent{Known: quad.Known{Sheet: b.Sheet}}, "a list of " + is.Line + " " + is.Version, nil
}

// carry lists what is otherwise than before, and puts it into edits.
func (v *BorrowView) carry(was, with quad.FeelSheet) {
	before := quad.Leaves(was, "sheet.feel")
	for i, l := range quad.Leaves(with, "sheet.feel") {
		if l.Value == before[i].Value {
			continue
		}
		words := before[i].Words()
		if before[i].Untold {
			words = "not told"
		}
		v.Carried = append(v.Carried, CarriedFeel{l.Path, l.Label, words, l.Words()})
		v.Edits = append(v.Edits, check.Edit{Path: l.Path, Value: plain(l.Value)})
	}
}

// plain is a value as an edit writes it.
func plain(x any) string {
	switch x := x.(type) {
	case float64:
		return quad.Number(x)
	case int:
		return quad.Number(float64(x))
	case bool:
		if x {
			return "true"
		}
		return "false"
	case quad.RateFamily:
		return strconv.Quote(string(x))
	}
	return ""
}

func (v *BorrowView) margins(k quad.Known) {
	list := flight.LoopsOfEach(&k, k.Weight(), airframe.FullCell)
	for i, axis := range motors.Turns {
		if m, _, ok := flight.InHand(list, i); ok {
			v.Margins = append(v.Margins, BorrowMargin{axis, shown(m).Share, m.Few()})
		}
	}
}
