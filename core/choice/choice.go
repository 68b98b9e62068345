// Package choice searches motors, propellers and packs for a quad by what a pilot wishes of it, and keeps those of which none is better in everything.
package choice

import (
	"cmp"
	"math"
	"slices"

	"vividperch/core/airframe"
	"vividperch/core/catalogue"
	"vividperch/core/power"
	"vividperch/core/quad"
)

// Wish of a quad; a goal of 0 is none, and its axis counts all the same unless it is left out.
type Wish struct {
	HoverDuty float64 `json:"hoverDuty" unit:"%"` // at most
	Minutes   float64 `json:"minutes" unit:"min"` // of hover to 80 % of the capacity, at least
	Ratio     float64 `json:"ratio" unit:"1"`     // times its weight that it lifts, at least
	Mass      float64 `json:"mass" unit:"g"`      // at most
	// Without are axes that do not matter.
	Without []Axis `json:"without,omitempty" enum:"hoverDuty,minutes,ratio,mass"`
}

// Axis of a wish.
type Axis string

// The axes.
const (
	HoverDuty Axis = "hoverDuty"
	Minutes   Axis = "minutes"
	Ratio     Axis = "ratio"
	Mass      Axis = "mass"
)

// Axes in their order.
var Axes = []Axis{HoverDuty, Minutes, Ratio, Mass}

// Found is one motor with one propeller on one pack, and what that comes to on this quad.
type Found struct {
	Motor     string  `json:"motor"`
	Propeller string  `json:"propeller"`
	Pack      string  `json:"pack"`
	HoverDuty float64 `json:"hoverDuty" unit:"%"`
	Minutes   float64 `json:"minutes" unit:"min"`
	Ratio     float64 `json:"ratio" unit:"1"`
	Mass      float64 `json:"mass" unit:"g"`
	PeakMotor float64 `json:"peakMotor" unit:"A"`
	PeakPack  float64 `json:"peakPack" unit:"A"`
	// Meets says that every goal is met; Short is by how much they are missed together, each as a share of itself.
	Meets bool    `json:"meets"`
	Short float64 `json:"short" unit:"1"`
}

func (f *Found) value(a Axis) float64 {
	switch a {
	case HoverDuty:
		return -f.HoverDuty
	case Minutes:
		return f.Minutes
	case Ratio:
		return f.Ratio
	}
	return -f.Mass
}

// LeftOut is why some combinations are not among those that could be on the quad.
type LeftOut struct {
	Why   string `json:"why"`
	Count int    `json:"count"`
}

// Choices of a search.
type Choices struct {
	Tried int       `json:"tried"`
	Could int       `json:"could"` // be on this quad
	Left  []LeftOut `json:"left"`
	// Front are those of which no other is better on one axis and as good on all, those first that meet the wish best; at most MostFront of Fronts.
	Front  []Found `json:"front"`
	Fronts int     `json:"fronts"`
	// Others are some of the rest, spread over all of them, for the picture.
	Others []Found `json:"others"`
	Is     *Found  `json:"is,omitempty"` // what is on it now
}

// What an answer has at most.
const (
	MostFront  = 300
	mostOthers = 400
)

// reasons for which a combination is left out, in the order in which they are looked at.
var reasons = []string{
	"the propeller is too large for the arms", "a part takes fewer cells, or more", "it does not hover", "the motor would draw more than it is rated for", "the speed controllers carry less", "the pack gives less",
	"the tips would run too fast", "the motors would overheat in a hover",
}

type motor struct {
	name                      string
	kt, ohm, none, peak, mass float64
}

type propeller struct {
	name                   string
	at                     quad.Propeller
	thrust, torque, across float64
}

// Search the parts for a quad that weighs some grams with its heaviest pack (0 is by its parts). Motors of which no mass is told weigh what is usual for their
// propeller. Unknown parts of the quad are no reason to leave anything out. A wish without an axis, or a quad of which nothing is told, is a Fault.
func Search(p quad.Parts, layout quad.Layout, weighed float64, list []catalogue.Entry, w Wish) (*Choices, error) {
	axes := slices.DeleteFunc(slices.Clone(Axes), func(a Axis) bool { return slices.Contains(w.Without, a) })
	if len(axes) < 2 {
		return nil, quad.Faultf("no-axes", "without", "two axes at least are wanted: with one there is a best, and nothing to choose")
	}
	_, heaviest, _ := p.Heaviest()
	bare := p.Frame.Mass
	if weighed > 0 {
		bare = weighed - heaviest.Mass
	}
	if bare -= 4 * airframe.MotorMass(p); !(bare > 0) {
		return nil, quad.Faultf("not-told", "parts.frame.mass", "what it weighs without pack is not told, or is less than its motors weigh")
	}
	motors, propellers, packs := partsOf(list)
	out := &Choices{Left: []LeftOut{}, Front: []Found{}, Others: []Found{}}
	counts := make([]int, len(reasons))
	apart, extra := airframe.BetweenMotors(layout, p.Frame), power.IdleCurrent(p)
	var could []Found
	for _, b := range propellers {
		for _, m := range motors {
			mass := m.mass
			if mass == 0 {
				mass = airframe.UsualMotorMass(b.across)
			}
			for _, pack := range packs {
				out.Tried++
				f := Found{Motor: m.name, Propeller: b.name, Pack: pack.name}
				why := f.come(&p, apart, extra, (bare+4*mass+pack.at.Mass)/1000, mass, &m, &b, &pack.at)
				if why >= 0 {
					counts[why]++
					continue
				}
				f.meet(w)
				could = append(could, f)
			}
		}
	}
	for i, n := range counts {
		if n > 0 {
			out.Left = append(out.Left, LeftOut{reasons[i], n})
		}
	}
	out.Could = len(could)
	front := Front(could, axes)
	out.Fronts = len(front)
	far := farFromBest(front, axes)
	slices.SortStableFunc(front, func(a, b Found) int { return cmp.Or(cmp.Compare(a.Short, b.Short), cmp.Compare(far(&a), far(&b))) })
	out.Front = front[:min(MostFront, len(front))]
	for i := 0; i < len(could); i += 1 + len(could)/mostOthers {
		out.Others = append(out.Others, could[i])
	}
	if s := airframe.Summarize(p, weighed); s.Known && s.HoverDuty > 0 {
		is := Found{Motor: p.Motor.Name, Propeller: p.Propeller.Name, Pack: s.Pack, HoverDuty: s.HoverDuty, Minutes: s.Minutes, Ratio: s.Ratio, Mass: s.Mass, PeakMotor: s.PeakMotor, PeakPack: s.PeakPack}
		is.meet(w)
		out.Is = &is
	}
	return out, nil
}

// farFromBest is how far one of some is from the best on every axis together, each axis from its best to its worst of them as one: those in the middle of a front, that give
// up a little everywhere, are the nearest.
func farFromBest(list []Found, axes []Axis) func(*Found) float64 {
	best, span := map[Axis]float64{}, map[Axis]float64{}
	for _, a := range axes {
		low, high := math.Inf(1), math.Inf(-1)
		for i := range list {
			x := list[i].value(a)
			low, high = math.Min(low, x), math.Max(high, x)
		}
		best[a], span[a] = high, math.Max(1e-9, high-low)
	}
	return func(f *Found) float64 {
		far := 0.0
		for _, a := range axes {
			x := (best[a] - f.value(a)) / span[a]
			far += x * x
		}
		return far
	}
}

type pack struct {
	name string
	at   quad.Pack
}

func partsOf(list []catalogue.Entry) (motors []motor, propellers []propeller, packs []pack) {
	for _, e := range list {
		if e.Kind != catalogue.Motor && e.Kind != catalogue.Propeller && e.Kind != catalogue.Pack {
			continue
		}
		// Put on nothing, with what it does not tell estimated.
		p, err := catalogue.Put(quad.Parts{}, e)
		if err != nil {
			continue
		}
		switch e.Kind {
		case catalogue.Motor:
			m := p.Motor
			if d, err := airframe.NewDrive(quad.Parts{Motor: m, Propeller: quad.Propeller{Diameter: 100, Thrust: 0.1, Power: 0.1}}, quad.Pack{}, 1, airframe.Density); err == nil {
				motors = append(motors, motor{name: e.Name, kt: d.Constant, ohm: d.Resistance, none: d.NoLoad, peak: m.PeakCurrent, mass: m.Mass})
			}
		case catalogue.Propeller:
			if d, err := airframe.NewDrive(quad.Parts{Motor: quad.Motor{KV: 1000, Resistance: 100}, Propeller: p.Propeller}, quad.Pack{}, 1, airframe.Density); err == nil {
				propellers = append(propellers, propeller{e.Name, p.Propeller, d.ThrustPer, d.TorquePer, p.Propeller.Diameter})
			}
		case catalogue.Pack:
			for name, at := range p.Packs {
				if at.Cells > 0 && at.Capacity > 0 && at.Mass > 0 {
					packs = append(packs, pack{name, at})
				}
			}
		}
	}
	return motors, propellers, packs
}

// fits says whether a pack has cells for every part that it feeds.
func fits(p *quad.Parts, cells int) bool {
	over := func(most int) bool { return most > 0 && cells > most }
	return !over(p.SpeedController.CellsMax) && !over(p.Board.CellsMax) && !over(p.Video.CellsMax) && cells >= p.SpeedController.CellsMin
}

// come to its figures at a mass (kg), of which each motor has some (g); why is the reason for which it is left out, or -1.
func (f *Found) come(p *quad.Parts, apart, extra, mass, motorMass float64, m *motor, b *propeller, pack *quad.Pack) (why int) {
	if apart > 0 && b.across+airframe.TipsApart > apart {
		return 0
	}
	if !fits(p, pack.Cells) {
		return 1
	}
	cells := float64(pack.Cells)
	d := airframe.Drive{Constant: m.kt, Resistance: m.ohm, NoLoad: m.none, ThrustPer: b.thrust, TorquePer: b.torque, Diameter: b.across / 1000, PackVoltage: airframe.RestCell * cells, PackOhm: pack.Resistance / 1000, Motors: 4}
	h, ok := d.Hover(mass)
	if !ok {
		return 2
	}
	f.HoverDuty, f.Mass, f.Ratio = 100*h.Duty, 1000*mass, d.ThrustToWeight(mass)
	f.Minutes = airframe.Minutes(*pack, h.PackCurrent+extra)
	d.PackVoltage = airframe.FullCell * cells
	peak := d.At(1)
	f.PeakMotor, f.PeakPack = peak.Current, peak.PackCurrent
	carries := p.SpeedController.Continuous
	switch can := pack.Discharge * pack.Capacity / 1000; {
	case m.peak > 0 && peak.Current > m.peak:
		return 3
	case carries > 0 && peak.Current*airframe.Spare > carries:
		return 4
	case can > 0 && peak.PackCurrent > airframe.OverloadStop*can:
		return 5
	case d.TipMach(peak.Rotation) > airframe.TipMachFix:
		return 6
	}
	if heat := airframe.NewHeat(d, motorMass); heat.Steady(h.Current, h.Rotation).Winding > airframe.WindingWarm {
		return 7
	}
	return -1
}

// meet a wish, or fall short of it.
func (f *Found) meet(w Wish) {
	for _, goal := range []struct {
		short float64
		told  bool
	}{
		{f.HoverDuty/w.HoverDuty - 1, w.HoverDuty > 0}, {1 - f.Minutes/w.Minutes, w.Minutes > 0}, {1 - f.Ratio/w.Ratio, w.Ratio > 0}, {f.Mass/w.Mass - 1, w.Mass > 0},
	} {
		if goal.told {
			f.Short += math.Max(0, goal.short)
		}
	}
	f.Meets = f.Short == 0
}

// Front are those of some of which no other is better on one axis and as good on all the others; of equals the first. Sorted by the first axis, each has only those
// before it to be worse than.
func Front(list []Found, axes []Axis) []Found {
	type row struct {
		at [4]float64
		of int
	}
	rows := make([]row, len(list))
	for i := range list {
		rows[i].of = i
		for k, a := range axes {
			rows[i].at[k] = list[i].value(a)
		}
	}
	slices.SortStableFunc(rows, func(a, b row) int {
		for k := range axes {
			if c := cmp.Compare(b.at[k], a.at[k]); c != 0 {
				return c
			}
		}
		return 0
	})
	var kept []row
	var out []Found
next:
	for _, r := range rows {
		// Those that beat one beat the next like it: the last to beat is asked first.
		for i := range kept {
			k := &kept[i]
			if k.at[0] >= r.at[0] && k.at[1] >= r.at[1] && k.at[2] >= r.at[2] && k.at[3] >= r.at[3] {
				if i > 0 {
					kept[i], kept[i-1] = kept[i-1], kept[i]
				}
				continue next
			}
		}
		kept, out = append(kept, r), append(out, list[r.of])
	}
	return out
}
