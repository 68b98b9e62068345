package standin

import (
	"maps"
	"math"
	"math/rand/v2"
	"slices"
	"sync"

	"vividperch/bench/protocol"
	"vividperch/core/firmware"
	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/core/senses"
	"vividperch/core/sticks"
	"vividperch/core/wiring"
)

// Device is one simulated bench. Its clock is stepped by Advance, in milliseconds; nothing moves by itself.
type Device struct {
	mu  sync.Mutex
	kit Kit
	rng *rand.Rand
	now int64 // ms

	pack, usb, props, antenna, radio bool
	main                             *program
	speed                            map[string]*program // by output
	calls                            int                 // of a bootloader, so far
	settings                         map[string]string
	wires                            map[string]quad.Wire // as soldered
	devices                          map[string]quad.Device
	build                            *firmware.Build
	means                            meaning

	air       *air
	travel    float64
	onLoss    quad.LossOutput
	place     map[quad.Axis]float64
	slack     map[quad.Axis]float64 // the side from which a stick came to rest: 1, -1
	switches  map[string]string
	sweep     sweeping
	chance    *rand.Rand // of what the compass, the sky and the barometer show
	nose      float64    // deg that the nose points from north
	video     bool       // on, where there is a pack
	zero      [3]float64
	learned   learning
	faced     learning // of the accelerometer, on its faces
	facesTold toldFaces
	apart     float64    // mm from its satellite receiver to the video transmitter
	shims     [2]float64 // deg that they lift the plate, seen with the nose to the north
	console   console
	tilt      [2]float64
	tiltWas   [2]float64
	turning   [3]float64      // deg/s that the frame turns at now
	turnedTo  senses.Rotation // what the board makes of how the frame lies and turns
	pace      [4]float64      // of the motors a moment ago, rad/s, slowed
	twist     float64         // of the frame in the hand, -1 to 1, clockwise positive
	movedAt   int64           // ms at which the frame was last turned
	supply    supply

	motion   protocol.Motion
	until    int64     // ms at which the motion's lease ends
	holds    uint64    // motions that have begun
	holder   *session  // that renewed the motion last
	heard    []float64 // the last channels the receiver had from the radio
	channels []float64 // what the board hears now
	powered  int64     // when the board started
	body     *flight.Stepper
	sequence uint64
}

type sweeping struct {
	kind   protocol.Sweep
	from   int64
	active bool
	back   string // position to leave a switch in
}

const (
	sweepTime  = 1600 // ms
	settleTime = 400  // ms after power-up until the gyro has settled
)

// New device on a kit. The seed drives jitter and meter noise.
func New(kit Kit, seed uint64) (*Device, error) {
	build, err := firmware.Find(kit.Line, kit.Version)
	if err != nil {
		return nil, quad.Faultf("kit", "line", "no stand-in speaks for %s %s: %v", kit.Line, kit.Version, err)
	}
	if familyOf(kit.Line) == nil {
		return nil, quad.Faultf("kit", "line", "no stand-in speaks for %s", kit.Line)
	}
	kit = kit.clone()
	d := &Device{
		kit: kit, rng: rand.New(rand.NewPCG(seed, 7)),
		settings: build.Facts.Defaults(), build: build, travel: kit.Radio.Travel, onLoss: kit.Receiver.OnLoss,
		place: map[quad.Axis]float64{quad.Throttle: -1}, slack: map[quad.Axis]float64{}, switches: map[string]string{}, antenna: true, video: true, chance: rand.New(rand.NewPCG(seed, 8)),
	}
	d.main, d.speed = newPrograms(kit)
	d.asSoldered()
	d.wires, d.devices = soldered(kit), wiring.Devices(kit.Parts)
	if d.air, err = newAir(kit, d.rng); err != nil {
		return nil, err
	}
	for letter, speed := range kit.SpeedControllers {
		// What it says it switches at is what its settings hold, where the line reaches them.
		if s := build.Dictionary.Setting(quad.Path("sheet.motors.outputs." + letter + ".switching")); s != nil {
			if raw, err := s.Canonical(quad.Number(speed.Switching)); err == nil {
				d.settings[s.Name] = raw
			}
		}
	}
	for name, raw := range kit.Settings {
		s := build.Facts.Find(name)
		if s == nil {
			return nil, quad.Faultf("kit", "settings", "%s %s has no setting named %q", kit.Line, kit.Version, name)
		}
		if d.settings[name], err = s.Canonical(raw); err != nil {
			return nil, err
		}
	}
	for _, s := range kit.Radio.Switches {
		d.switches[s.Name] = s.Rest
	}
	d.apart = or(kit.Senses.Apart, mountedApart)
	if d.hasZero() {
		for i, x := range kit.Senses.Iron {
			d.zero[i] = x - kit.Senses.Aged[i]
		}
	}
	return d, d.mean()
}

// mean takes the settings for what they mean and rebuilds the body that the board controls.
func (d *Device) mean() error {
	d.means = meanOf(d.build, d.settings)
	a := quad.Actual{Outputs: map[string]quad.OutputActual{}, Hands: map[quad.Corner]quad.Spin{}}
	for letter, w := range d.kit.Wired {
		if d.means.reversed[letter] {
			w.Spin = w.Spin.Opposite()
		}
		w.BothWays, w.Switching = d.means.bothWays[letter], d.means.switching[letter]
		a.Outputs[letter] = w
		a.Hands[w.Corner] = w.Spin
	}
	// The settings' zero of level is what the board subtracts; what is left is what it shows wrongly.
	a.Board, a.Layout = d.kit.Mount, d.kit.Built
	d.turnedTo = senses.Between(d.means.control.Board, d.kit.Mount)
	a.TiltRoll, a.TiltPitch = d.shows([2]float64{})
	in := flight.Input{
		Parts: d.kit.Parts, Pack: quad.Pack{Cells: d.kit.Cells, Resistance: 20}, CellVolt: d.kit.Meter.Volts / float64(d.kit.Cells),
		Mass: 0.7, Settings: d.means.control, Actual: a, Site: flight.Site{Density: 1.225},
	}
	body, err := flight.New(in)
	if err != nil {
		return err
	}
	d.body = body
	return nil
}

func (d *Device) running() bool { return (d.pack || d.usb) && !d.main.boot && d.alive() }

// Advance the clock by whole milliseconds.
func (d *Device) Advance(ms int) {
	d.mu.Lock()
	defer d.mu.Unlock()
	for range ms {
		d.tick()
	}
}

// leased says whether a motion runs.
func (d *Device) leased() bool {
	d.mu.Lock()
	defer d.mu.Unlock()
	return d.motion.Kind != ""
}

func (d *Device) tick() {
	defer d.feel()
	d.now++
	if d.motion.Kind != "" && d.now >= d.until {
		d.rest()
	}
	d.feeds()
	d.moveHand()
	d.air.tick(d.now, d.radio, d.fed(d.wires["receiver"]))
	d.hear()
	d.body.Hinder(d.usb || len(d.kit.Hinders) > 0 || d.switchedOn("hold", "home", "mission", "self-right"))
	if d.now%100 == 0 {
		d.body.Sense(d.whereabouts())
	}
	held := d.held()
	d.body.Hold(held[0], held[1], d.turned())
	if !d.running() || !d.pack {
		d.body.Disarm()
		d.body.Spin([4]float64{})
		return
	}
	if d.motion.Kind == protocol.MotionSpin {
		var duty [4]float64
		for i, letter := range quad.SortedKeys(d.kit.Wired) {
			if p := d.speed[letter]; p != nil && p.boot {
				continue // it waits in its bootloader
			}
			if letter == d.motion.Output && math.Abs(d.motion.Level) >= d.holdsAt(letter) {
				duty[i] = d.motion.Level / 100
			}
		}
		d.body.Spin(duty)
		return
	}
	var in flight.Sticks
	if len(d.channels) == 8 {
		in.Heard = true
		copy(in.Channels[:], d.channels)
	}
	if d.now-d.powered < settleTime {
		in.Heard = false // it takes no stick while its gyro settles
	}
	d.body.Step(in)
	if d.motion.Kind == protocol.MotionGesture && d.body.Armed() {
		d.place[quad.Yaw] = 0 // the hand lets the stick go
	}
	if d.motion.Kind != protocol.MotionArm && d.motion.Kind != protocol.MotionGesture && d.body.Armed() {
		// The bench's interlock: nothing turns that nobody holds, whatever the switches say.
		d.body.Disarm()
		d.body.Spin([4]float64{})
	}
}

// holdsAt is the throttle from which a motor turns, %: more to start it than to keep it turning.
func (d *Device) holdsAt(letter string) float64 {
	starts := d.kit.StartsAt[letter]
	if back := d.kit.BackStartsAt[letter]; back > 0 && d.motion.Level < 0 {
		starts = back
	}
	if math.Abs(d.body.State().Rotors[d.kit.Wired[letter].Corner.Index()]) < 60 {
		return starts
	}
	if stops := d.kit.StopsAt[letter]; stops > 0 && d.motion.Level >= 0 {
		return stops
	}
	return starts - usualHold
}

// usualHold is how much less than its start a motor needs to keep turning, % of throttle.
const usualHold = 0.6

// turned is the rotation that the hand gives the frame in this millisecond, deg/s.
func (d *Device) turned() [3]float64 {
	var out [3]float64
	held := d.held()
	for i := range held {
		if by := held[i] - d.tiltWas[i]; by != 0 {
			out[i] = max(-500, min(500, 1000*by))
			d.movedAt = d.now
		}
	}
	d.tiltWas = held
	if d.sweep.active && d.sweep.kind.Every {
		out = spiralling(float64(d.now - d.sweep.from))
		d.movedAt = d.now
	}
	if at := d.swept(); d.sweep.active && d.sweep.kind.Frame {
		// To the right and back again, as a wrist turns.
		out[2] = handTurns * math.Sin(2*math.Pi*at)
		d.movedAt = d.now
	}
	d.turning = out
	return out
}

// shows is the lean (deg of roll and pitch) that the board makes of how the frame leans: seen from where it lies, less its zero of level.
func (d *Device) shows(held [2]float64) (roll, pitch float64) {
	roll, pitch = d.hangs(held)
	return math.Remainder(roll-d.means.levelRoll, 360), pitch - d.means.levelPitch
}

// hangs is the lean (deg of roll and pitch) that its accelerometer tells, before any zero of level.
func (d *Device) hangs(held [2]float64) (roll, pitch float64) {
	roll, pitch = d.turnedTo.Shows(held[0], held[1])
	byRoll, byPitch := d.accelLeans(held)
	return roll + byRoll, pitch + byPitch
}

// held is how the hand holds the frame, deg of roll and pitch.
func (d *Device) held() [2]float64 {
	plate := d.plate()
	out := [2]float64{d.tilt[0] + plate[0], d.tilt[1] + plate[1]}
	if at := d.swept(); d.sweep.active {
		lean := handLeans * math.Min(1, 1.6*math.Sin(math.Pi*at))
		switch {
		case d.sweep.kind.Nose:
			out[1] -= lean
		case d.sweep.kind.Side:
			out[0] += lean
		case d.sweep.kind.Faces:
			return d.laid()
		}
	}
	return out
}

// handLeans is how far a hand points the nose down, or puts the right side down, deg.
const handLeans = 30.0

// handTurns is how fast a hand turns the frame, deg/s.
const handTurns = 90.0

// swept is how far the hand's movement has come, 0 to 1.
func (d *Device) swept() float64 {
	lasts := float64(sweepTime)
	switch {
	case d.sweep.kind.Every:
		lasts = everyWay
	case d.sweep.kind.Faces:
		lasts = float64(len(faces) * faceTime)
	}
	return float64(d.now-d.sweep.from) / lasts
}

// What a hand feels: the reaction of the rotors' changing speed. A bell without a propeller has little drag, so that nothing else pulls.
const (
	feltFor  = 60.0  // ms over which a hand feels a pull
	firmPull = 400.0 // rad/s² of all four together that is a firm one
)

// feel how the frame pulls: against the sense in which the motors speed up.
func (d *Device) feel() {
	s := d.body.State()
	sum := 0.0
	for i, c := range quad.Corners {
		speed := s.Rotors[i] * math.Pi / 30
		for letter, w := range d.kit.Wired {
			if w.Corner != c {
				continue
			}
			spin := w.Spin
			if d.means.reversed[letter] {
				spin = spin.Opposite()
			}
			if spin == quad.CounterClockwise {
				speed = -speed
			}
		}
		sum += (speed - d.pace[i]) / feltFor * 1000
		d.pace[i] += (speed - d.pace[i]) / feltFor
	}
	d.twist = max(-1, min(1, -sum/firmPull))
}

// rest ends the leased motion: an arm switch that was held springs back, the throttle falls.
func (d *Device) rest() {
	if d.motion.Kind == protocol.MotionArm {
		for _, s := range d.kit.Radio.Switches {
			if s.Name == d.motion.Switch {
				d.switches[s.Name] = s.Rest
			}
		}
	}
	if d.motion.Kind == protocol.MotionArm || d.motion.Kind == protocol.MotionGesture {
		d.place[quad.Throttle] = d.throttleRest()
		if d.motion.Kind == protocol.MotionGesture {
			d.place[quad.Yaw] = 0
		}
		// The commanded output must be zero at once even when no radio can carry the switch.
		d.body.Disarm()
	}
	d.motion = protocol.Motion{}
}

func (d *Device) moveHand() {
	if !d.sweep.active {
		return
	}
	at := d.swept()
	if at >= 1 {
		d.sweep.active = false
		at = 1
	}
	if d.sweep.kind.MovesFrame() {
		return // the frame is moved, no stick: see turned and held
	}
	if a := d.sweep.kind.Axis; a != "" {
		// To the high end and let go, then to the low one and let go; dwelling everywhere. The throttle has no
		// spring: it goes from its low end to the high one and back.
		switch {
		case at < 0.35:
			d.place[a], d.slack[a] = min(1, 1.6*math.Sin(math.Pi*at/0.35)), 1
		case at < 0.5 || at >= 0.85:
			d.place[a] = 0
		default:
			d.place[a], d.slack[a] = -min(1, 1.6*math.Sin(math.Pi*(at-0.5)/0.35)), -1
		}
		if a == quad.Throttle {
			d.place[a] = max(-1, min(1, -1.3*math.Cos(2*math.Pi*max(0, min((at-0.12)/0.73, 1)))))
		}
		return
	}
	for _, s := range d.kit.Radio.Switches {
		if s.Name == d.sweep.kind.Switch {
			k := min(int(at*float64(len(s.Positions))), len(s.Positions)-1)
			d.switches[s.Name] = s.Positions[k]
			if at == 1 {
				d.switches[s.Name] = d.sweep.back
			}
		}
	}
}

// hear works out what reaches the board: the radio's channels, or what the receiver makes of their absence.
func (d *Device) hear() {
	linked := d.air.linked(d.radio)
	if linked {
		d.heard = d.sent()
	}
	d.channels = nil
	if !d.running() || !d.pack || !d.receiverConnected() {
		return // the receiver's rail is fed by the pack only
	}
	switch {
	case linked:
		d.channels = d.heard
	case d.heard == nil || d.onLoss == quad.LossSilence:
	case d.onLoss == quad.LossHold:
		d.channels = d.heard
	case d.onLoss == quad.LossPreset:
		d.channels = []float64{1500, 1500, 1000, 1500, 1000, 1000, 1000, 1000}
	}
}

func (d *Device) receiverConnected() bool { return d.answers("receiver") && !d.air.mute }

// sent is what the radio puts on the air.
func (d *Device) sent() []float64 {
	out := []float64{1500, 1500, 1500, 1500, 1500, 1500, 1500, 1500}
	for _, a := range quad.Axes {
		centre := d.kit.Radio.Centre[a]
		if centre == 0 {
			centre = 1500
		}
		reach := 500.0
		if slices.Contains(d.kit.Radio.Short, a) {
			reach *= d.travel / 100
		}
		c := quad.ChannelIn(d.kit.Radio.Order, a) - 1
		if c < 0 {
			continue
		}
		out[c] = math.Round(10*(centre+reach*d.place[a]+d.slack[a]*d.kit.Radio.Slack/2+d.kit.Radio.Jitter*d.rng.NormFloat64())) / 10
	}
	for _, s := range d.kit.Radio.Switches {
		if s.Channel >= 1 && s.Channel <= 8 {
			out[s.Channel-1] = s.Pulses[d.switches[s.Name]]
		}
	}
	return out
}

// mark of the board, as its label has it.
func (d *Device) mark() quad.Mark {
	return quad.Mark{Target: d.kit.Target, Serial: d.kit.Serial, Quad: d.kit.Name}
}

// live is what can be seen now. The caller holds the lock.
func (d *Device) live() protocol.Live {
	s := d.body.State()
	d.sequence++
	out := protocol.Live{
		Sequence: d.sequence, Mark: d.mark(), Time: d.now, Pack: d.pack, USB: d.usb, Propellers: d.props, Antenna: d.antenna, Radio: d.radio,
		Board: "off", Channels: []float64{}, Travel: d.travel, OnLoss: d.onLoss,
		TiltRoll: d.tilt[0], TiltPitch: d.tilt[1],
		Sticks: maps.Clone(d.place), Switches: maps.Clone(d.switches), Corners: map[quad.Corner]protocol.CornerSeen{}, Gates: []sticks.Gate{},
		Motion: d.motion.Kind, Output: d.motion.Output, Level: d.motion.Level, Holds: d.holds, Twist: round(d.twist, 3),
	}
	out.Link = d.air.seen()
	for i, c := range quad.Corners {
		pace := math.Abs(s.Rotors[i])
		seen := protocol.CornerSeen{Turning: pace > 60, Pace: math.Min(1, pace/12000)}
		for letter, w := range d.kit.Wired {
			if w.Corner == c && seen.Turning {
				seen.Spin = w.Spin
				if d.means.reversed[letter] != (s.Rotors[i] < 0) {
					seen.Spin = w.Spin.Opposite()
				}
			}
		}
		out.Corners[c] = seen
	}
	if d.pack {
		out.Amps = round(d.wants()+math.Min(s.Amps, 80), 2)
		out.Volts = round(d.kit.Meter.Volts-0.02*out.Amps, 2)
		if out.Limited = d.limited(); out.Limited {
			out.Amps, out.Volts = limits, limitedVolts
		}
	}
	out.Limiter, out.Smoke, out.Meter, out.Unplugged = d.supply.limiter, d.supply.burnt, d.metered(), quad.SortedKeys(d.supply.off)
	switch {
	case d.main.boot && (d.pack || d.usb):
		out.Board = "bootloader"
	case d.running():
		out.Board = "running"
		d.boardShows(&out, s)
	}
	return out
}

// idleLoad of a board's processor without its loop, %.
const idleLoad = 10.0

func (d *Device) boardShows(out *protocol.Live, s flight.State) {
	out.Armed, out.Loss = s.Armed, d.body.InLoss()
	out.Home = s.Armed && d.body.KnowsHome()
	if d.channels != nil {
		out.Channels = d.channels
	}
	out.Roll, out.Pitch = d.shows(d.held())
	out.Roll, out.Pitch = round(out.Roll, 1), round(out.Pitch, 1)
	out.Gyro = round(d.kit.Gyro, 2)
	d.finds(out, s.Amps, s.Rotors[0] != 0)
	d.learnsFaces()
	if !d.sweep.active || !d.sweep.kind.Every { // how it hangs then nobody says
		shown := d.accel(d.held())
		out.Accel = make([]float64, 3)
		for i, x := range shown {
			out.Accel[i] = round(x+or(d.kit.Accel.Noise, 0.003)*d.chance.NormFloat64(), 4)
		}
	}
	out.Turns = d.turnedTo.Turn(d.turning)
	for i, x := range out.Turns {
		out.Turns[i] = round(x, 2)
	}
	out.Load = round(min(99, idleLoad+d.kit.loopLoad()*d.means.loop/1000), 0)
	out.BoardVolts = round(out.Volts*d.means.scale/d.kit.VoltScale, 2)
	out.ReceiverAnswers = d.pack && d.receiverConnected()
	out.Answers = map[string]bool{}
	for name := range d.wires {
		if device, ok := d.devices[name]; ok && !device.Bus && device.Function != "" {
			out.Answers[name] = d.fed(d.wires[name]) && d.answers(name)
		}
	}
	if d.pack && d.connected("video transmitter") {
		out.VideoFrequency = d.means.video
	}
	if c := d.means.cells; c > 0 && d.pack {
		out.Beeping = out.BoardVolts/float64(c) < d.means.warn
	}
	if b := d.means.beeper; b.Used() && len(d.channels) == 8 && b.Channel <= 8 {
		out.Beeping = out.Beeping || b.Holds(d.channels[b.Channel-1])
	}
	c := d.means.control
	out.Calibration = d.body.Calibration()
	out.Gates = d.build.Line.InOrder(sticks.Gates(quad.SticksSheet{Order: c.Order, Arm: c.Arm, ArmByStick: c.ByStick, IdleBelow: c.IdleBelow, Ranges: c.Ranges, ArmTilt: c.ArmTilt}, sticks.Moment{
		Channels: d.channels, Linked: len(d.channels) == 8, Tilt: math.Acos(math.Cos(out.Roll*math.Pi/180)*math.Cos(out.Pitch*math.Pi/180)) * 180 / math.Pi,
		Still: d.now-max(d.powered, d.movedAt) >= settleTime, USB: d.usb, Pack: d.pack, InLoss: d.body.InLoss(), ArmAtStart: d.body.OnAtStart(), Armed: out.Armed, Calibration: out.Calibration,
		NeverCalibrated: d.hinders("calibration"), NoFix: d.hinders("fix"), HoldOn: d.hinders("hold") || d.switchedOn("hold", "home", "mission"), Expired: d.hinders("expired"), SelfRight: d.hinders("selfRight") || d.switchedOn("self-right"), Overload: d.hinders("overload"),
	}))
}

// switchedOn says whether a switch has one of these on, as the board hears it.
func (d *Device) switchedOn(names ...string) bool {
	for _, name := range names {
		if w := d.means.windows[name]; w.Channel > 0 && w.Channel <= len(d.channels) && d.channels[w.Channel-1] >= w.From && d.channels[w.Channel-1] <= w.To {
			return true
		}
	}
	return false
}

// hinders says whether the kit has something of that name in the way of arming.
func (d *Device) hinders(name string) bool { return slices.Contains(d.kit.Hinders, name) }

func round(x float64, places int) float64 {
	p := math.Pow(10, float64(places))
	return math.Round(x*p) / p
}

// power follows what feeds the board: from nothing it starts anew.
func (d *Device) power(before bool) {
	if now := d.pack || d.usb; now && !before {
		d.forget()
		d.powered = d.now
		if !d.main.erased {
			d.main.boot = false // a whole program starts by itself
		}
		d.body.Disarm()
	}
	if !d.pack {
		d.rest()
		for _, p := range d.speed {
			p.boot = p.boot && p.erased
		}
	}
}
