package flight

import (
	"math"

	"vividperch/core/quad"
)

// Scene is one thing that is flown in several modes side by side, from hover, far from the ground.
type Scene string

const (
	SceneTrace Scene = "trace" // more than half a stick and back, then all of it and back
	SceneCatch Scene = "catch" // upset, let go of the sticks
	SceneHang  Scene = "hang"  // upside down with the throttle closed, then asked to turn
)

// Scenes in the order they are shown.
var Scenes = []Scene{SceneTrace, SceneCatch, SceneHang}

// ModeMoment is one moment of a mode's flight.
type ModeMoment struct {
	Time   float64 `json:"time" unit:"s"`
	Roll   float64 `json:"roll" unit:"deg"` // turned since the beginning, over and over
	Height float64 `json:"height" unit:"m"` // above where it began
	East   float64 `json:"east" unit:"m"`   // to the right of where it began
}

// ModeFlight is one scene in one mode.
type ModeFlight struct {
	Mode    string       `json:"mode"` // in words
	Moments []ModeMoment `json:"moments"`
	Most    float64      `json:"most" unit:"deg"` // farthest that it turned
	Tilt    float64      `json:"tilt" unit:"deg"` // from upright, at the end
	Lost    float64      `json:"lost" unit:"m"`   // of height, at the end
	Over    bool         `json:"over"`            // it went upside down
}

// ModesRun is a scene in its modes, with what the roll stick does.
type ModesRun struct {
	Scene   Scene        `json:"scene" enum:"trace,catch,hang"`
	Stick   []float64    `json:"stick" unit:"1"` // of roll, at each moment
	Flights []ModeFlight `json:"flights"`
}

const momentsPerSecond = 50

// scene as it is flown.
type sceneScript struct {
	lasts      float64                 // s
	roll, rate float64                 // it begins with, deg and deg/s
	stick      func(t float64) float64 // of roll
	closed     bool                    // throttle
	flights    []modeSet
}

type modeSet struct {
	name                  string
	level, blended, firms bool
}

var threeModes = []modeSet{{"self-level", true, false, false}, {"blended", false, true, false}, {"acro", false, false, false}}

var scripts = map[Scene]sceneScript{
	SceneTrace: {lasts: 4, flights: threeModes, stick: func(t float64) float64 {
		switch {
		case t >= 0.3 && t < 0.8:
			return 0.6
		case t >= 2 && t < 2.5:
			return 1
		}
		return 0
	}},
	SceneCatch: {lasts: 2.5, roll: 110, rate: 150, flights: threeModes, stick: func(float64) float64 { return 0 }},
	SceneHang: {
		lasts: 1.6, roll: 180, closed: true, flights: []modeSet{{"acro, still at idle", false, false, false}, {"acro, authority at idle", false, false, true}, {"blended, authority at idle", false, true, true}},
		stick: func(t float64) float64 {
			if t >= 0.5 && t < 0.8 {
				return 1
			}
			return 0
		},
	},
}

// FlyModes flies a scene in every mode that it compares, with the settings' rates, gains and limits. The hand, the air and the pack
// are the same in all of them.
func FlyModes(in Input, scene Scene) (*ModesRun, error) {
	script, known := scripts[scene]
	if !known {
		return nil, quad.Faultf("no-scene", string(scene), "there is no such scene")
	}
	in.Noise, in.Site = 0, Site{Density: in.Site.Density}
	hover, err := hoverThrottle(in)
	if err != nil {
		return nil, err
	}
	if script.closed {
		hover = 0
	}
	run := &ModesRun{Scene: scene}
	for i, m := range script.flights {
		f, sticks, err := script.fly(in, m, hover)
		if err != nil {
			return nil, err
		}
		if run.Flights = append(run.Flights, f); i == 0 {
			run.Stick = sticks
		}
	}
	return run, nil
}

// aside is a channel that no stick is on.
const aside = quad.MostChannels

func (sc sceneScript) fly(in Input, m modeSet, throttle float64) (f ModeFlight, sticks []float64, err error) {
	whole := quad.Range{Channel: aside, From: 900, To: 2100}
	in.Settings.SelfLevel, in.Settings.Blended, in.Settings.Authority, in.Settings.Firm = quad.Range{}, quad.Range{}, quad.Range{}, m.firms
	if m.level {
		in.Settings.SelfLevel = whole
	}
	if m.blended {
		in.Settings.Blended = whole
	}
	in.Settings.Arm = whole // held from the beginning
	s, err := New(in)
	if err != nil {
		return f, nil, err
	}
	s.Hold(sc.roll, 0, [3]float64{sc.rate, 0, 0})
	s.control.armed, s.control.heard, s.control.wantedOff = true, true, true
	s.settle(in.Settings.throttleOf(throttle))
	s.Hold(sc.roll, 0, [3]float64{sc.rate, 0, 0})
	began := s.State()
	f.Mode = m.name
	turned := 0.0
	steps := int(sc.lasts * Rate)
	for i := 0; i <= steps; i++ {
		t := float64(i) / Rate
		if i%(Rate/momentsPerSecond) == 0 {
			f.Moments = append(f.Moments, ModeMoment{Time: round2(t), Roll: math.Round(turned*10) / 10, Height: round2(s.State().Height - began.Height), East: round2(s.State().East - began.East)})
			sticks = append(sticks, sc.stick(t))
		}
		s.Step(in.frame(sc.stick(t), throttle))
		turned += s.now.wx * degrees / Rate
		now := s.State()
		f.Most = math.Max(f.Most, math.Abs(turned))
		f.Over = f.Over || now.Tilt > 120 && sc.roll < 90
	}
	end := s.State()
	f.Most, f.Tilt, f.Lost = math.Round(f.Most), math.Round(end.Tilt), round2(began.Height-end.Height)
	return f, sticks, nil
}

// frame with a roll stick and a throttle, both as the board should hear them: the radio is not what is compared.
func (in *Input) frame(roll, throttle float64) Sticks {
	out := Sticks{Heard: true}
	for i := range out.Channels {
		out.Channels[i] = 1500
	}
	put := func(a quad.Axis, x float64) {
		e := in.Settings.Ranges.Of(a)
		if !(e.Low < e.Centre && e.Centre < e.High) {
			e = quad.Ends{Low: 1000, Centre: 1500, High: 2000}
		}
		us := e.Centre + x*(e.High-e.Centre)
		if x < 0 {
			us = e.Centre + x*(e.Centre-e.Low)
		}
		if c := quad.ChannelIn(in.Settings.Order, a); c > 0 {
			out.Channels[c-1] = us
		}
	}
	put(quad.Roll, roll)
	if in.Settings.Reverses {
		put(quad.Throttle, throttle)
	} else {
		put(quad.Throttle, 2*throttle-1)
	}
	return out
}

// settle brings the rotors to the speed of a throttle, without letting the body go anywhere. Where they fall out of step when it is given at once,
// as on a worn pack, it is given slowly, as on the way up there.
func (s *Stepper) settle(throttle float64) {
	before := s.now
	output := s.control.s.output()
	command := output.Command(throttle)
	settle := func(seconds int, share func(at float64) float64) {
		for i := range seconds * Rate {
			s.now = before
			var each [4]float64
			for o := range each {
				m, held := &s.control.mix[o], &s.control.integral
				each[o] = output.Evened(command+m[0]*held[0]+m[1]*held[1]+m[2]*held[2]) * share(float64(i)/Rate)
			}
			s.spin(&each)
		}
		s.now = before
	}
	settle(1, func(float64) float64 { return 1 })
	for i := range s.rotors {
		if s.rotors[i].standing {
			settle(4, func(at float64) float64 { return math.Min(1, at/3) })
			return
		}
	}
}

// hoverThrottle is the stick, 0..1, at which it neither climbs nor sinks.
func hoverThrottle(in Input) (float64, error) {
	s, err := New(in)
	if err != nil {
		return 0, err
	}
	if p, ok := s.drive.Hover(in.Mass); !ok || s.control.s.output().Throttle(p.Duty) > 0.98 {
		return 0, quad.Faultf("too-heavy", "readings.airframe.weight", "it does not hover at full throttle")
	}
	stick, _ := s.hovers(in.Mass)
	return stick, nil
}
