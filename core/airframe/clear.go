package airframe

import (
	"math"

	"vividperch/core/quad"
)

// Clearances of what is placed from a propeller, mm: under the first it touches as the blade flaps, under the second as an arm bends.
const (
	ClearStop = 0.0
	ClearFix  = 5.0
)

// Gap between the circle of a propeller and what is nearest to it: another propeller's, or a placed thing.
type Gap struct {
	Corner quad.Corner `json:"corner"`
	// Other is the corner of another propeller, Thing the name of what is placed; one of the two.
	Other quad.Corner `json:"other,omitempty"`
	Thing string      `json:"thing,omitempty"`
	Gap   float64     `json:"gap" unit:"mm"` // negative is overlap
	// From the circle's edge to the other, ahead and right of the middle.
	From [2]float64 `json:"from" unit:"mm"`
	To   [2]float64 `json:"to" unit:"mm"`
}

// Clearances between the four circles, each pair once, and from each thing that is placed to the circle that is nearest to it. The circles lie in the
// motor plane.
func Clearances(p quad.Parts, layout quad.Layout) []Gap {
	r := p.Propeller.Diameter / 2
	if !(r > 0) || p.Frame.ArmFront == 0 && p.Frame.ArmSide == 0 {
		return nil
	}
	var at [4][2]float64 // mm
	for i, s := range Spots(layout, p.Frame) {
		at[i] = [2]float64{1000 * s.X, 1000 * s.Y}
	}
	var out []Gap
	for i := range at {
		for k := range i {
			apart := math.Hypot(at[i][0]-at[k][0], at[i][1]-at[k][1])
			out = append(out, Gap{Corner: quad.Corners[k], Other: quad.Corners[i], Gap: apart - 2*r, From: towards(at[k], at[i], r), To: towards(at[i], at[k], r)})
		}
	}
	for _, name := range quad.SortedKeys(p.Placed) {
		x := p.Placed[name]
		best := Gap{Gap: math.Inf(1)}
		for i := range at {
			gap, near := fromDisc(at[i], r, x)
			if gap < best.Gap {
				best = Gap{Corner: quad.Corners[i], Thing: name, Gap: gap, From: towards(at[i], near, r), To: near}
			}
		}
		out = append(out, best)
	}
	return out
}

// towards is the point of a circle about a, with radius r, on the way to b.
func towards(a, b [2]float64, r float64) [2]float64 {
	d := math.Hypot(b[0]-a[0], b[1]-a[1])
	if d == 0 {
		return [2]float64{a[0] + r, a[1]}
	}
	return [2]float64{a[0] + r*(b[0]-a[0])/d, a[1] + r*(b[1]-a[1])/d}
}

// fromDisc is how far a box is from a flat disc in the motor plane, mm, and the box's point that is nearest to its axis, seen from above. What reaches into the
// disc is as far in as the blades would cut.
func fromDisc(at [2]float64, r float64, x quad.Thing) (gap float64, near [2]float64) {
	near = [2]float64{
		math.Max(x.Ahead-x.Long/2, math.Min(at[0], x.Ahead+x.Long/2)),
		math.Max(x.Right-x.Wide/2, math.Min(at[1], x.Right+x.Wide/2)),
	}
	beside := math.Hypot(near[0]-at[0], near[1]-at[1]) - r
	over := math.Max(x.Above-x.High/2, -(x.Above + x.High/2)) // above it, or below
	switch {
	case beside > 0 && over > 0:
		return math.Hypot(beside, over), near
	case over > 0:
		return over, near
	}
	return beside, near
}

// Weighs is one line of a mass budget.
type Weighs struct {
	Name string  `json:"name"`
	Mass float64 `json:"mass" unit:"g"`
	// Protects is what carries nothing and drives nothing.
	Protects bool `json:"protects"`
}

// Budget of the mass with a pack in: the motors, what is placed, the pack, and what of the frame's told mass is left for everything else. Left is
// negative where the parts that are told weigh more than all of it.
func Budget(p quad.Parts, pack quad.Pack) (list []Weighs, left float64) {
	left = p.Frame.Mass
	add := func(name string, mass float64, protects bool) {
		if mass > 0 {
			list, left = append(list, Weighs{name, mass, protects}), left-mass
		}
	}
	add("four motors", 4*p.Motor.Mass, false)
	for _, name := range quad.SortedKeys(p.Placed) {
		if name != quad.PackPlace {
			add(name, p.Placed[name].Mass, p.Placed[name].Protects)
		}
	}
	if pack.Mass > 0 {
		list = append(list, Weighs{quad.PackPlace, pack.Mass, false})
	}
	return list, left
}

// Protection is what only protects: its mass in g, and what that costs in a hover at resting voltage.
type Protection struct {
	Mass    float64
	Duty    [2]float64 // of hover, with and without
	Minutes [2]float64 // to 80 % of the capacity, with and without
}

// ProtectionShare of its minutes is what protection may cost before it is worth a word, and from where it flies for its protection's sake.
const (
	ProtectionShare = 0.08
	ProtectionMost  = 0.2
)

// Protects tells what protection costs a quad that weighs some grams with it; ok is false where none is placed, or it does not hover.
func Protects(p quad.Parts, weighed float64) (out Protection, ok bool) {
	for _, x := range p.Placed {
		if x.Protects {
			out.Mass += x.Mass
		}
	}
	with, without := Summarize(p, weighed), Summarize(p, weighed-out.Mass)
	out.Duty, out.Minutes = [2]float64{with.HoverDuty, without.HoverDuty}, [2]float64{with.Minutes, without.Minutes}
	return out, out.Mass > 0 && weighed > out.Mass && with.HoverDuty > 0
}

// Misfit is a part that does not go where it is meant to.
type Misfit struct {
	What    string // in words, as "the board's holes"
	Has     float64
	Wants   float64
	Path    quad.Path
	Against quad.Path
}

// fitsWithin is how much two patterns of holes may differ, mm.
const fitsWithin = 0.6

// Misfits of the parts and the frame, as far as both tell: holes that do not meet, a camera or a stack that is too large.
func Misfits(p quad.Parts) []Misfit {
	var out []Misfit
	holes := func(what string, has, wants float64, at, against quad.Path) {
		if has > 0 && wants > 0 && math.Abs(has-wants) > fitsWithin {
			out = append(out, Misfit{what, has, wants, at, against})
		}
	}
	room := func(what string, has, most float64, at, against quad.Path) {
		if has > 0 && most > 0 && has > most+fitsWithin {
			out = append(out, Misfit{what, has, most, at, against})
		}
	}
	holes("the board's holes", p.Board.Holes, p.Frame.StackHoles, "parts.board.holes", "parts.frame.stackHoles")
	holes("the speed controllers' holes", p.SpeedController.Holes, p.Frame.StackHoles, "parts.speedController.holes", "parts.frame.stackHoles")
	holes("the motors' bolt circle", p.Motor.Circle, p.Frame.MotorCircle, "parts.motor.circle", "parts.frame.motorCircle")
	room("the camera", p.Video.CameraWide, p.Frame.CameraRoom, "parts.video.cameraWide", "parts.frame.cameraRoom")
	room("the stack", p.Placed["stack"].High, p.Frame.StackRoom, "parts.placed.stack.high", "parts.frame.stackRoom")
	return out
}

// ScrewHolds is how many millimetres of thread hold a motor at least.
const ScrewHolds = 2.0

// Screws tells how far the motors' screws go into their threads, mm; ok is false where one of the two is not told.
func Screws(p quad.Parts) (into float64, ok bool) {
	return p.Motor.Screw - p.Frame.ArmThick, p.Motor.Screw > 0 && p.Frame.ArmThick > 0
}

// usualThings are what usually sits on a quad, and where: of one whose motors stand 113 mm from the middle. What each weighs only a scale tells.
var usualThings = []struct {
	name string
	at   quad.Thing
}{
	{quad.PackPlace, quad.Thing{Above: 26, Long: 78, Wide: 40, High: 38}},
	{"stack", quad.Thing{Above: -9, Long: 38, Wide: 38, High: 20}},
	{"camera", quad.Thing{Ahead: 52, Above: -8, Long: 22, Wide: 19, High: 19}},
	{"receiver", quad.Thing{Ahead: -38, Right: -6, Above: -14, Long: 16, Wide: 11, High: 4}},
	{"video", quad.Thing{Ahead: -40, Right: 8, Above: -8, Long: 22, Wide: 20, High: 6}},
	{"antenna", quad.Thing{Ahead: -62, Above: 14, Long: 16, Wide: 16, High: 58}},
	{"capacitor", quad.Thing{Ahead: -58, Right: 14, Above: -10, Long: 20, Wide: 10, High: 10}},
	{"strap", quad.Thing{Above: 26, Long: 20, Wide: 44, High: 42}},
}

// usualReach is how far the motors of that quad stand from the middle, mm.
const usualReach = 113.0

// Offer is something that usually sits on a quad, and where it would.
type Offer struct {
	Name  string     `json:"name"`
	Thing quad.Thing `json:"thing"`
}

// Offers are the usual things that have no place yet on a quad of this size; a camera and what sends its picture only where there is video.
func Offers(p quad.Parts) []Offer {
	by := math.Hypot(p.Frame.ArmFront, p.Frame.ArmSide) / usualReach
	if by == 0 {
		by = 1
	}
	out := []Offer{}
	for _, u := range usualThings {
		if _, there := p.Placed[u.name]; there || !p.Video.Fitted && (u.name == "camera" || u.name == "video") {
			continue
		}
		t := u.at
		for _, x := range []*float64{&t.Ahead, &t.Right, &t.Above, &t.Long, &t.Wide, &t.High} {
			*x = math.Round(*x * by)
		}
		out = append(out, Offer{u.name, t})
	}
	return out
}
