package app

import (
	"context"
	"math"
	"slices"
	"strconv"
	"strings"

	"vividperch/core/check"
	"vividperch/core/feel"
	"vividperch/core/flight"
	"vividperch/core/motors"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// CurveAsk is what a pilot does with his curves: settings that he tries, and, on top, a handle that he draws or a family that he would have them in.
type CurveAsk struct {
	Tried Tried     `json:"tried" maxItems:"60"`
	At    quad.Path `json:"at,omitempty"` // of the profile; nothing is the first
	// Drag draws a handle of one axis, or of all three alike.
	Drag *CurveDrag `json:"drag,omitempty"`
	// To converts all that the profile has into another family.
	To quad.RateFamily `json:"to,omitempty" enum:"centrePeak,compounding,straightExpo"`
	// Ghost is the key of a curve to hold them against.
	Ghost string `json:"ghost,omitempty" maxLength:"40"`
	// Turns flies a full turn about each axis, too; left out while a handle is on its way.
	Turns bool `json:"turns,omitempty"`
}

// CurveDrag is a handle that is drawn to a rotation.
type CurveDrag struct {
	Axis   motors.Turn `json:"axis" enum:"roll,pitch,yaw"`
	Handle feel.Handle `json:"handle" enum:"centre,shape,peak"`
	Rate   float64     `json:"rate" unit:"deg/s"`
	// With is another axis that goes along, roll with pitch; nothing moves it alone.
	With motors.Turn `json:"with,omitempty" enum:"roll,pitch,yaw"`
}

// CurvesOf are the curves of three axes as they are tried.
type CurvesOf struct {
	Family quad.RateFamily `json:"family" enum:",centrePeak,compounding,straightExpo"`
	Axes   []AxisCurve     `json:"axes"`
	Most   float64         `json:"most" unit:"deg/s"` // the fastest of what is drawn
	// Edits are what the drag or the conversion comes to, to be tried on.
	Edits []check.Edit `json:"edits"`
	// Held says what kept a handle from going all the way; nothing where it went.
	Held string `json:"held"`
}

// AxisCurve is one axis.
type AxisCurve struct {
	Axis    motors.Turn   `json:"axis" enum:"roll,pitch,yaw"`
	At      quad.Path     `json:"at"` // of its rates
	Rates   quad.Rates    `json:"rates"`
	Points  []float64     `json:"points" unit:"deg/s"` // at even steps from the stick's centre to its end
	Handles []CurveHandle `json:"handles"`
	Ghost   []float64     `json:"ghost" unit:"deg/s"` // at the same steps; none where there is none
	// Apart is this curve against its ghost, or against what it was converted from.
	Apart *feel.Apart `json:"apart,omitempty"`
	Slope float64     `json:"slope" unit:"deg/s"` // at the centre, for the whole way
	// Least is the least move of this stick that radio and link tell apart, or that it makes by itself; Step is what it asks for about the centre, and Fine whether nobody notices.
	Least float64        `json:"least" unit:"µs"`
	Step  float64        `json:"step" unit:"deg/s"`
	Fine  bool           `json:"fine"`
	Turn  *flight.Turned `json:"turn,omitempty"` // at full stick, in the model
	// Reaches is how far this stick gets, as it was captured, of its whole way, and Fullest the rotation there; 0 where nobody captured it.
	Reaches float64 `json:"reaches" unit:"1"`
	Fullest float64 `json:"fullest" unit:"deg/s"`
}

// CurveHandle is one place by which a curve is held.
type CurveHandle struct {
	Handle feel.Handle `json:"handle" enum:"centre,shape,peak"`
	Stick  float64     `json:"stick" unit:"1"`
	Rate   float64     `json:"rate" unit:"deg/s"`
}

// Steps of a curve from the centre of the stick to its end.
const bentSteps = 40

// FeelCurves of a quad as they are tried.
func (a *App) FeelCurves(ctx context.Context, id int64, ask CurveAsk) (*CurvesOf, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	k, err := o.trying(ask.Tried)
	if err != nil {
		return nil, err
	}
	at := ask.At
	if at == "" {
		at = "sheet.feel"
	}
	hands := feel.AllProfiles(&k.Sheet)
	i := slices.IndexFunc(hands, func(h feel.Hands) bool { return h.At == at })
	if i < 0 {
		return nil, quad.Faultf("no-profile", string(at), "there is no such profile")
	}
	f := k.Sheet.Feel
	if f.Family == "" {
		return nil, quad.Faultf("not-told", "sheet.feel.family", "the rate family is not told: a rate means nothing without one")
	}
	rates := hands[i].Rates()
	v := &CurvesOf{Family: f.Family, Edits: []check.Edit{}, Axes: []AxisCurve{}}
	for n, axis := range motors.Turns {
		if err := feel.Sound(f.Family, rates[n], at+"."+quad.Path(axis)); err != nil {
			return nil, err
		}
	}
	was, wasFamily, haunted := rates, f.Family, false
	if ask.Ghost != "" {
		if was, wasFamily, haunted, err = a.ghost(ctx, o, ask.Ghost, at); err != nil {
			return nil, err
		}
	}
	if ask.To != "" && ask.To != f.Family {
		was, wasFamily, haunted = rates, f.Family, true
		v.Family = ask.To
		v.Edits = append(v.Edits, check.Edit{Path: "sheet.feel.family", Value: strconv.Quote(string(ask.To))})
		for _, h := range hands { // the family is one for all
			for n, r := range h.Rates() {
				if r.Peak == 0 {
					continue
				}
				to := backTo(o.known.Sheet, h.At, n, f.Family, r, ask.To)
				if h.At == at {
					rates[n] = to
				}
				v.Edits = append(v.Edits, rateEdits(h.At+"."+quad.Path(motors.Turns[n]), to)...)
			}
		}
	}
	if d := ask.Drag; d != nil {
		for n, axis := range motors.Turns {
			if axis != d.Axis && axis != d.With {
				continue
			}
			var held string
			rates[n], held = feel.Bent(v.Family, rates[n], d.Handle, d.Rate)
			if axis == d.Axis {
				v.Held = held
			}
			v.Edits = append(v.Edits, rateEdits(at+"."+quad.Path(axis), rates[n])...)
		}
	}
	for n, axis := range motors.Turns {
		v.axis(k, at, axis, rates[n])
		if one := &v.Axes[n]; haunted && was[n].Peak > 0 {
			apart := feel.Between(wasFamily, was[n], v.Family, rates[n])
			one.Apart, one.Ghost = &apart, curveOf(wasFamily, was[n])
			v.Most = max(v.Most, slices.Max(one.Ghost))
		}
	}
	if ask.Turns {
		in, err := flight.Meant(k)
		if err != nil {
			return v, nil // what it lacks the view of the station says
		}
		for n := range v.Axes {
			turn, err := flight.Turn(in, n, rates[n].Peak)
			if err == nil && rates[n].Peak > 0 {
				v.Axes[n].Turn = &turn
			}
		}
	}
	return v, nil
}

// backTo another family: a curve that is what the quad's own settings were put into goes back to exactly these; of any other the nearest is found.
func backTo(own quad.Sheet, at quad.Path, axis int, family quad.RateFamily, r quad.Rates, to quad.RateFamily) quad.Rates {
	if own.Feel.Family == to {
		for _, h := range feel.AllProfiles(&own) {
			was := h.Rates()[axis]
			if there, _ := feel.Convert(to, was, family); h.At == at && there == r {
				return was
			}
		}
	}
	out, _ := feel.Convert(family, r, to)
	return out
}

func curveOf(family quad.RateFamily, r quad.Rates) []float64 {
	out := make([]float64, bentSteps+1)
	for i := range out {
		out[i] = math.Round(10*feel.Rate(family, r, float64(i)/bentSteps)) / 10
	}
	return out
}

func (v *CurvesOf) axis(k quad.Known, at quad.Path, axis motors.Turn, r quad.Rates) {
	one := AxisCurve{Axis: axis, At: at + "." + quad.Path(axis), Rates: r, Points: curveOf(v.Family, r), Ghost: []float64{}, Slope: math.Round(feel.Slope(v.Family, r)), Least: check.LeastMove(k, quad.Axis(axis))}
	one.Step = math.Round(100*feel.StepOf(v.Family, r, one.Least)) / 100
	one.Fine = one.Step <= feel.NoticedStep
	if m := k.Readings.Sticks.Axes[string(axis)]; m != nil {
		ends, whole := m.Value.Ends, k.Sheet.Sticks.Ranges.Of(quad.Axis(axis))
		way := func(us float64) float64 {
			return math.Abs(sticks.Map(sticks.Through(whole, us), k.Sheet.Sticks.Deadband))
		}
		one.Reaches = math.Round(1000*math.Min(way(ends.Low), way(ends.High))) / 1000
		one.Fullest = math.Round(feel.Rate(v.Family, r, one.Reaches))
	}
	for _, h := range []feel.Handle{feel.HandleCentre, feel.HandleShape, feel.HandlePeak} {
		one.Handles = append(one.Handles, CurveHandle{h, h.Place(), math.Round(10*feel.Rate(v.Family, r, h.Place())) / 10})
	}
	v.Most = max(v.Most, slices.Max(one.Points))
	v.Axes = append(v.Axes, one)
}

// ghost is the curves that a key names: as they were before, of another profile, or of a revision.
func (a *App) ghost(ctx context.Context, o *opened, key string, at quad.Path) (rates [3]quad.Rates, family quad.RateFamily, there bool, err error) {
	sheet := o.known.Sheet
	if number, is := strings.CutPrefix(key, "revision "); is {
		n, err := strconv.Atoi(number)
		if err != nil {
			return rates, "", false, quad.Faultf("no-revision", "", "there is no revision of that number")
		}
		r, err := a.keep.Revision(ctx, a.pilot, o.file.ID, n)
		if err != nil {
			return rates, "", false, err
		}
		m, err := quad.ReadMeant(r.Body)
		if err != nil {
			return rates, "", false, err
		}
		sheet = m.Sheet
	}
	for _, h := range feel.AllProfiles(&sheet) {
		if key == string(h.At) || !strings.HasPrefix(key, "sheet.") && h.At == at { // another profile, or the same one at another time
			return h.Rates(), sheet.Feel.Family, true, nil
		}
	}
	return rates, "", false, quad.Faultf("no-profile", key, "there is no such profile")
}
