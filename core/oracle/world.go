package oracle

import (
	"maps"
	"math"

	"vividperch/core/airframe"
	"vividperch/core/firmware"
	"vividperch/core/flight"
	"vividperch/core/linkloss"
	"vividperch/core/motors"
	"vividperch/core/quad"
	"vividperch/core/senses"
	"vividperch/core/sticks"
)

// Base is a sound quad to draw from: everything read, written and rehearsed, and nothing against it.
type Base struct {
	Name  string
	Known quad.Known
}

// world is one quad as it is meant, as its board holds it, and as it really is.
type world struct {
	kind    string
	changes []Change
	k       quad.Known    // meant and held; its readings are what was answered so far
	asked   []quad.Path   // what the sound quad is asked, so that the rules need not ask for it all anew
	truths  quad.Readings // of what nothing else here tells, such as an ohmmeter's figure
	is      actual
	tries   bool // its trial is flown, see triedEach
}

// actual is how a quad really is, as far as what is meant does not make it so.
type actual struct {
	wired     map[string]quad.OutputActual // before a speed controller is told to reverse
	hands     map[quad.Corner]quad.Spin
	tilt      [2]float64 // deg of roll and pitch by which its calibration is off
	board     quad.Mount
	layout    quad.Layout                // as built; nothing is as it is meant
	switches  map[string]quad.SwitchSeen // that send something else than planned
	channels  map[quad.Axis]int          // of sticks that arrive elsewhere than planned
	ends      map[quad.Axis]quad.Ends    // of sticks that run otherwise than the radio's travel and trim make them
	weight    float64                    // g without a pack
	centre    quad.Balance               // where it balances
	wind      float64                    // m/s
	gust      float64                    // m/s
	clear     float64                    // m
	onLoss    quad.LossOutput
	place     quad.PlaceActual // but for what the board was told of its compass
	turned    float64          // deg that the compass is turned on its mount
	variation float64          // deg of declination where it flies
	obstacle  float64          // m, what stands between it and home
	unwritten bool             // the board holds what it held before the changes
}

func (a actual) clone() actual {
	a.wired, a.hands, a.switches, a.channels, a.ends = maps.Clone(a.wired), maps.Clone(a.hands), maps.Clone(a.switches), maps.Clone(a.channels), maps.Clone(a.ends)
	return a
}

// write makes the board hold the sheet.
func (w *world) write() error {
	b, err := firmware.Written(w.k, today)
	if err == nil {
		w.k.Board = b
	}
	return err
}

// actualQuad is what flies: as wired, and as the board and its speed controllers were told.
func (w *world) actualQuad() quad.Actual {
	held := w.k.Board.Sheet
	out := quad.Actual{Outputs: map[string]quad.OutputActual{}, Hands: w.is.hands, Board: w.is.board, Layout: w.k.Sheet.Craft.Layout, Sticks: map[quad.Axis]quad.Ends{}, Channels: map[quad.Axis]int{}}
	// What it shows on a plate comes of how it lies, and of a calibration that was made as it lay before.
	roll, pitch := senses.Between(held.Senses.Mount(), w.is.board).Shows(0, 0)
	out.TiltRoll, out.TiltPitch = math.Remainder(math.Round(10*(roll+w.is.tilt[0]))/10, 360), math.Round(10*(pitch+w.is.tilt[1]))/10
	out.Place, out.Centre = w.is.place, w.is.centre
	out.Place.Horizontal = w.k.Limits.FieldThere()
	out.Place.HeadingOff = math.Remainder(w.is.place.HeadingOff+w.is.turned-held.Senses.CompassTurned+held.Senses.Declination-w.is.variation, 360)
	if !held.Senses.Satellite || w.k.Parts.Wires["satellite"].Port == "" {
		out.Place.Satellites, out.Place.Fixed = 0, false
	}
	if w.is.layout != "" {
		out.Layout = w.is.layout
	}
	for letter, o := range w.is.wired {
		if held.Motors.Outputs[letter].Reversed {
			o.Spin = o.Spin.Opposite()
		}
		o.BothWays, o.Switching = held.Motors.Outputs[letter].BothWays, held.Motors.Outputs[letter].Switching
		out.Outputs[letter] = o
	}
	for _, a := range quad.Axes {
		travel, trim := w.k.Radio.Travel, w.k.Radio.Trims.Of(a)
		e := quad.Ends{Low: 1500 - 5*travel + trim, Centre: 1500 + trim, High: 1500 + 5*travel + trim}
		if other, ok := w.is.ends[a]; ok {
			e = other
		}
		out.Sticks[a], out.Channels[a] = e, quad.ChannelIn(w.k.Radio.Order, a)
		if c, ok := w.is.channels[a]; ok {
			out.Channels[a] = c
		}
	}
	return out
}

// switches as they really send.
func (w *world) switches() map[string]quad.SwitchSeen {
	out := map[string]quad.SwitchSeen{}
	for name, plan := range w.k.Radio.Switches {
		if len(plan.Positions) > 0 {
			out[name] = sticks.Planned(plan)
		}
		if other, ok := w.is.switches[name]; ok {
			out[name] = other
		}
	}
	return out
}

// atRest is where every switch lies when nobody has touched it.
func (w *world) atRest() map[string]string {
	at := map[string]string{}
	for name, s := range w.k.Radio.Switches {
		at[name] = s.Rest
	}
	return at
}

// weighed in g, with the heaviest pack.
func (w *world) weighed() float64 {
	_, pack, _ := airframe.Heaviest(w.k.Parts)
	return math.Round(w.is.weight + pack.Mass)
}

func reading[T any](v T) *quad.Reading[T] {
	return &quad.Reading[T]{Value: v, Origin: quad.OriginTyped, At: today, Revision: 1}
}

// answers are what a pilot who looks well would say to every question: the sound quad's answers, but for what this quad makes otherwise.
func (w *world) answers() quad.Readings {
	out := w.truths
	// What is answered is put together of these maps, and must not be written into those that other quads share.
	out.Firmware.SpeedControllers, out.Wiring.Answers = maps.Clone(out.Firmware.SpeedControllers), maps.Clone(out.Wiring.Answers)
	real, held := w.actualQuad(), w.k.Board.Sheet
	out.Airframe.Weight, out.Airframe.Balance = reading(w.weighed()), reading(w.is.centre)
	out.Motors.Outputs, out.Motors.Starts = map[string]*quad.Reading[quad.MotorSeen]{}, map[string]*quad.Reading[quad.MotorStart]{}
	worst := 0.0
	for letter, o := range real.Outputs {
		out.Motors.Outputs[letter] = reading(quad.MotorSeen{Corner: o.Corner, Spin: o.Spin, Reversible: held.Motors.Reversible})
		seen := quad.MotorStart{Starts: o.StopsAt + startsAbove, Stops: o.StopsAt}
		if held.Motors.Reversible {
			seen.BackStarts, seen.BackStops = seen.Starts, seen.Stops
		}
		out.Motors.Starts[letter] = reading(seen)
		worst = math.Max(worst, o.StopsAt+startsAbove)
	}
	out.Motors.StartsAt = reading(worst)
	out.Motors.Layout = reading(real.Layout)
	out.FirstFlight.Propellers = map[string]*quad.Reading[quad.Fitted]{}
	for c, hand := range real.Hands {
		out.FirstFlight.Propellers[string(c)] = reading(quad.Fitted{Hand: hand, PackOut: true})
	}
	out.Senses.Level = reading(quad.Level{Roll: real.TiltRoll, Pitch: real.TiltPitch})
	out.Senses.BoardLies = reading(senses.Rounded(real.Board))
	out.Sticks.Axes = map[string]*quad.Reading[quad.StickAxis]{}
	for _, a := range quad.Axes {
		e := real.Sticks[a]
		s := quad.StickAxis{Channel: real.Channels[a], Ends: e, Jitter: 0.5}
		if e.Low > e.High {
			s.Ends.Low, s.Ends.High, s.Reversed = e.High, e.Low, true
		}
		out.Sticks.Axes[string(a)] = reading(s)
	}
	out.Sticks.Switches = map[string]*quad.Reading[quad.SwitchSeen]{}
	for name, s := range w.switches() {
		out.Sticks.Switches[name] = reading(s)
	}
	w.answerPlace(&out, real.Place)
	w.answerLoss(&out)
	w.answerBench(&out, real)
	out.FirstFlight.Wind, out.FirstFlight.Gust, out.FirstFlight.Clear = reading(w.is.wind), reading(w.is.gust), reading(w.is.clear)
	_, pack, _ := airframe.Heaviest(w.k.Parts)
	out.Watch.BoardVolts, out.Watch.MeterVolts = reading(math.Round(39.8*float64(pack.Cells))/10), reading(math.Round(39.8*float64(pack.Cells))/10)
	return out
}

// startsAbove is how much more throttle (%) a motor needs to start than to keep turning.
const startsAbove = 0.4

// answerPlace with what a pilot reads of how it finds its way.
func (w *world) answerPlace(out *quad.Readings, is quad.PlaceActual) {
	held := w.k.Board.Sheet.Senses
	seen := func(known float64) quad.HeadingSeen {
		shown := known
		if is.Backwards {
			shown = -known
		}
		return quad.HeadingSeen{Shown: math.Round(10*math.Mod(shown+is.HeadingOff+720, 360)) / 10, Known: known, Turned: held.CompassTurned, Added: held.Declination}
	}
	out.Senses.Heading, out.Senses.HeadingAside = reading(seen(60)), reading(seen(150))
	out.Senses.Faces = reading(quad.FacesRun{})
	out.Senses.Interference = reading(quad.Disturbance{AtHover: is.Disturbs})
	out.Senses.Satellites = reading(quad.Sky{Satellites: is.Satellites, Dilution: is.Dilution})
	out.Senses.HomeKnown = reading(is.Fixed)
	out.Senses.Heights = reading(quad.HeightRest{Noise: is.HeightNoise, Drift: is.HeightDrift, Jump: is.HeightJump})
	out.Loss.Obstacle = reading(w.is.obstacle)
}

func (w *world) answerLoss(out *quad.Readings) {
	held := w.k.Board.Sheet
	out.Loss.Output = reading(w.is.onLoss)
	stops := quad.LossResponse{Motors: quad.NeverStopped}
	rearms := false
	disarms := !w.armedBy(linkloss.Presets(w.known()))
	switch {
	case w.is.onLoss == quad.LossSilence && held.Loss.Policy.Descends():
		stops = quad.LossResponse{Motors: quad.WentOver}
	case w.is.onLoss == quad.LossSilence:
		stops = quad.LossResponse{Motors: quad.StoppedAfter, After: math.Round(100*(held.Loss.Guard+0.2)) / 100}
	case w.is.onLoss == quad.LossPreset && disarms:
		stops = quad.LossResponse{Motors: quad.StoppedAfter, After: 0.3}
		rearms = true // the switch went off and comes on again with the radio
	}
	out.Loss.Beeper = reading(true)
	out.Loss.Response, out.Loss.Rearms = reading(stops), reading(rearms)
	asSet := quad.StoppedAfter
	if w.k.Sheet.Loss.Policy.Descends() {
		asSet = quad.WentOver
	}
	out.BenchProof.RadioOff = reading(stops.Motors == asSet)
}

// known with every switch captured, for those who ask what it sends.
func (w *world) known() quad.Known {
	k := w.k
	k.Readings.Sticks.Switches = map[string]*quad.Reading[quad.SwitchSeen]{}
	for name, s := range w.switches() {
		k.Readings.Sticks.Switches[name] = reading(s)
	}
	return k
}

func (w *world) armedBy(channels quad.Pulses) bool {
	arm := w.k.Board.Sheet.Sticks.Arm
	return arm.Used() && arm.Channel <= len(channels) && arm.Holds(channels[arm.Channel-1])
}

func (w *world) answerBench(out *quad.Readings, real quad.Actual) {
	held := w.k.Board.Sheet
	_, _, yaw := motors.Mix(held.Craft.Layout, held.Craft.Rotation)
	against, twist := true, 0.0
	for letter, o := range real.Outputs {
		k := held.Motors.Outputs[letter].Corner.Index()
		if k < 0 {
			continue
		}
		// A command to turn clockwise speeds up what turns counter-clockwise: the frame turns against its rotors.
		speedsUp := yaw[k] > 0
		against = against && speedsUp == (o.Spin == quad.CounterClockwise)
		if o.Spin == quad.CounterClockwise {
			twist += yaw[k]
		} else {
			twist -= yaw[k]
		}
	}
	e := real.Sticks[quad.Yaw]
	out.BenchProof.FrameYaw = reading(against)
	out.BenchProof.StickYaw = reading(twist > 0 && e.High > e.Low && real.Channels[quad.Yaw] == quad.ChannelIn(held.Sticks.Order, quad.Yaw))
	out.BenchProof.GateRefuses = reading(!w.armsRaised(real))
}

// armsRaised says whether a quarter of throttle above its rest counts as at rest.
func (w *world) armsRaised(real quad.Actual) bool {
	held, e := w.k.Board.Sheet, real.Sticks[quad.Throttle]
	return sticks.RestOf(held.Sticks, held.Motors.Reversible).Holds(sticks.Through(held.Sticks.Ranges.Throttle, w.throttleAt(e, 0.25)))
}

// throttleAt is the pulse of the throttle a share of its way up from where it rests.
func (w *world) throttleAt(e quad.Ends, share float64) float64 {
	rest := e.Low
	if w.k.Board.Sheet.Motors.Reversible {
		rest = e.Centre
	}
	return rest + share*(e.High-rest)
}

// input of a flight as it really is, with one of its packs.
func (w *world) input(pack quad.Pack, cell float64, seed uint64) (flight.Input, error) {
	in, err := flight.NewLossInput(w.known())
	if err != nil {
		return in, err
	}
	in.Pack, in.CellVolt, in.Seed = pack, cell, seed
	in.Mass = airframe.MassWith(w.k.Parts, pack, w.weighed())
	in.Actual, in.OnLoss = w.actualQuad(), w.is.onLoss
	in.Site.WindNorth, in.Site.Gust = -w.is.wind, flight.GustsOf(w.is.wind, w.is.gust)
	return in, nil
}
