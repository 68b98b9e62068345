package flight

import (
	"math"

	"vividperch/core/quad"
)

// Meant is what would fly if everything were as it is meant: the sheet in place of what the board holds, motors, propellers, sticks and sensors right, still air and a
// quiet gyro. It is what a pilot turns his settings over.
func Meant(k quad.Known) (Input, error) {
	k.Board = quad.Board{}
	in, err := NewInput(k)
	if err != nil {
		return in, err
	}
	in = Corrected(in, k.Sheet.Craft.Rotation)
	in.Site, in.Noise = Site{Density: in.Site.Density}, 0
	return in, nil
}

// With a pack of the quad at an open-circuit voltage per cell.
func (in Input) With(pack quad.Pack, cell float64) Input {
	in.Mass += (pack.Mass - in.Pack.Mass) / 1000
	in.Pack, in.CellVolt = pack, cell
	return in
}

// Answered is how a quad answers a step of the rotation that is asked about one axis, in a hover.
type Answered struct {
	Asked     float64   `json:"asked" unit:"deg/s"`
	Rise      float64   `json:"rise" unit:"s"`      // from a tenth of it to nine tenths; 0 where it does not get there
	Overshoot float64   `json:"overshoot" unit:"%"` // beyond it
	Settles   float64   `json:"settles" unit:"s"`   // until it stays within a twentieth of it; 0 where it does not
	Every     float64   `json:"every" unit:"s"`     // from one rotation to the next
	Rotation  []float64 `json:"rotation" unit:"deg/s"`
}

// answersEvery so many seconds a rotation is kept.
const answersEvery = 0.001

// Answer to a step of asked deg/s about roll, pitch or yaw (0, 1, 2), flown for some seconds from a hover.
func Answer(in Input, axis int, asked, seconds float64) (*Answered, error) {
	out := &Answered{Asked: asked, Every: answersEvery}
	err := asking(in, func(float64) [3]float64 { var r [3]float64; r[axis] = asked; return r }, seconds, answersEvery, func(_ float64, rotation [3]float64) bool {
		out.Rotation = append(out.Rotation, round2(rotation[axis]))
		return true
	})
	if err != nil {
		return nil, err
	}
	tenth, most, outside := -1, 0.0, -1
	for i, x := range out.Rotation {
		x /= asked
		if tenth < 0 && x >= 0.1 {
			tenth = i
		}
		if out.Rise == 0 && x >= 0.9 {
			out.Rise = round3(max(1, float64(i-tenth)) * answersEvery)
		}
		if most = max(most, x); math.Abs(x-1) > 0.05 {
			outside = i
		}
	}
	out.Overshoot = round1(100 * max(0, most-1))
	if outside < len(out.Rotation)-1 {
		out.Settles = round3(float64(outside+1) * answersEvery)
	}
	return out, nil
}

// Followed are the rotations (deg/s about roll, pitch and yaw: right side down, nose up, clockwise) with which it answers sticks that move: ask tells what
// they want at a moment in s, and the answer is kept every so many seconds.
func Followed(in Input, ask func(t float64) [3]float64, seconds, every float64) ([][3]float64, error) {
	var out [][3]float64
	err := asking(in, ask, seconds, every, func(_ float64, rotation [3]float64) bool {
		out = append(out, [3]float64{round2(rotation[0]), round2(rotation[1]), round2(rotation[2])})
		return true
	})
	return out, err
}

// Turned is a full turn with the stick held at its stop, from a hover.
type Turned struct {
	Seconds float64 `json:"seconds" unit:"s"`     // for 360°; 0 where it does not get round in the time that is flown
	Reached float64 `json:"reached" unit:"deg/s"` // the fastest within a second
	Late    float64 `json:"late" unit:"s"`        // until nine tenths of what is asked; 0 where it never comes
}

// Of a turn that is flown.
const (
	turnsFor    = 3.0 // s, the longest
	turnReaches = 1.0 // s
)

// Turn about roll, pitch or yaw (0, 1, 2) with asked deg/s, from a hover at its throttle: what the motors' torque makes of the rate at full stick.
func Turn(in Input, axis int, asked float64) (Turned, error) {
	var out Turned
	angle, was := 0.0, 0.0
	err := asking(in, func(float64) [3]float64 { var r [3]float64; r[axis] = asked; return r }, turnsFor, answersEvery, func(t float64, rotation [3]float64) bool {
		now := rotation[axis]
		if t <= turnReaches {
			out.Reached = max(out.Reached, now)
		}
		if out.Late == 0 && t > 0 && now >= 0.9*asked {
			out.Late = t
		}
		if t > 0 {
			step := (was + now) / 2 * answersEvery
			if out.Seconds == 0 && angle+step >= 360 {
				out.Seconds = t - answersEvery*(angle+step-360)/step
			}
			angle += step
		}
		was = now
		return out.Seconds == 0 || t < turnReaches
	})
	out.Seconds, out.Reached, out.Late = math.Round(1000*out.Seconds)/1000, math.Round(out.Reached), math.Round(1000*out.Late)/1000
	return out, err
}

// asking flies from a hover, with what the sticks want told directly, and shows its rotation (deg/s) every so many seconds, until see wants no more.
func asking(in Input, ask func(t float64) [3]float64, seconds, every float64, see func(t float64, rotation [3]float64) bool) error {
	s, err := letGo(in)
	if err != nil {
		return err
	}
	c := &s.control
	per := max(1, int(math.Round(every/s.h)))
	n := int(math.Round(seconds / s.h))
	for i := 0; i <= n; i++ {
		if i%per == 0 {
			t := float64(i) * s.h
			if !see(t, [3]float64{s.now.wx * degrees, s.now.wy * degrees, s.now.wz * degrees}) {
				return nil
			}
			c.asked.rates = ask(t)
		}
		s.fly()
	}
	return nil
}

// letGo is a quad high up in a hover whose throttle stays, whose other sticks ask for nothing, and which neither levels nor navigates. One that does not hover is a Fault.
func letGo(in Input) (*Stepper, error) {
	in = clone(in)
	in.armsBySwitch()
	in.Settings = in.Settings.answering(&in.AtRest)
	in.Settings.Others = nil // no switch moves
	in.Settings.SelfLevel, in.Settings.Blended, in.Settings.Nav = quad.Range{}, quad.Range{}, Navigation{}
	s, err := New(in)
	if err != nil {
		return nil, err
	}
	if p, ok := s.drive.Hover(in.Mass); !ok || in.Settings.output().Throttle(p.Duty) > 1 {
		return nil, quad.Faultf("too-heavy", "readings.airframe.weight", "it does not hover at full throttle")
	}
	p := newFlyer(in, HoverCard, Steady)
	p.hover, p.backHover = s.hovers(in.Mass)
	s.begin(1000, 0, p)
	s.control.heardNow, s.control.asked = true, command{throttle: s.control.s.throttleOf(p.hover), arm: true, firm: true}
	return s, nil
}
