package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/feel"
	"vividperch/core/motors"
	"vividperch/core/quad"
	"vividperch/core/senses"
	"vividperch/core/sticks"
)

// controller is the part that the board's settings describe. One call is one loop.
type controller struct {
	s         Settings
	other     *senses.Rotation // what lies otherwise than the settings have it; nil where nothing does
	channel   [4]int           // of roll, pitch, throttle, yaw, counted from 0
	mix       [4][3]float64    // per output in alphabetical order
	tiltRoll  float64          // rad by which its calibration is off, beside how it lies
	tiltPitch float64

	armed     bool
	hindered  bool    // something outside the flight keeps it from arming, such as a USB cable
	heard     bool    // a frame has come since power-up
	wantedOff bool    // the arm switch has been seen off since power-up
	lost      float64 // s since the last frame
	inLoss    bool
	integral  [3]float64
	lastRate  [3]float64
	seen      [3]float64 // rad/s, after the filter
	want      [3]float64 // deg/s
	slow      [3]float64 // low-passed change of rotation, deg/s²
	ahead     [3]float64 // low-passed change of what is wanted, deg/s²
	wanted    [3]float64 // deg/s, one loop ago
	heardNow  bool       // a frame is there for the next loop
	last      Sticks     // the frame read last
	asked     command    // what it meant
	gesture   gesture
	first     Settings    // with the first profile, which counts while the radio is lost; s has what counts now
	chosen    Settings    // with the profile that the frame read last chose
	rest      sticks.Rest // of the throttle
	way       float64     // that the rotors turn with reversible thrust: 1 forward, -1 backward

	// What one loop needs of the settings, worked out once; the time between two loops is always the same.
	gains     [3]quad.Gains // duty per deg/s, per deg and per deg/s²
	h, perH   float64       // s from one loop to the next, and its inverse
	nav       *navigator    // nil where nothing can make it navigate
	seenShare float64       // of the way that the filter goes in one loop
	slowShare float64       // the same of the change of rotation
	leads     bool          // there is a feed-forward gain
	filters   *filters      // behind the first low-passes; nil where there are none
}

// integralMost is the share of full throttle that the integral may hold.
const integralMost = 0.2

// newController that runs every h seconds.
func newController(in Input, d airframe.Drive, h float64) controller {
	c := controller{s: in.Settings.answering(&in.AtRest), first: in.Settings, chosen: in.Settings.answering(&in.AtRest), tiltRoll: in.Actual.TiltRoll * math.Pi / 180, tiltPitch: in.Actual.TiltPitch * math.Pi / 180, h: h, perH: 1 / h}
	c.seenShare, c.slowShare, c.filters = filtersOf(&c.s, 1/h, d, in.Mass)
	for i, g := range c.s.Gains {
		c.gains[i] = quad.Gains{Proportional: g.Proportional / 100, Integral: g.Integral / 100, Derivative: g.Derivative / 100, FeedForward: g.FeedForward / 100}
		c.leads = c.leads || g.FeedForward > 0
	}
	c.rest = sticks.RestOf(quad.SticksSheet{IdleBelow: in.Settings.IdleBelow}, in.Settings.Reverses)
	if other := senses.Between(in.Settings.Board, in.Actual.Board); other.Angle() > 1e-6 {
		c.other = &other
		roll, pitch := other.Shows(0, 0)
		c.tiltRoll, c.tiltPitch = c.tiltRoll-roll*math.Pi/180, c.tiltPitch-pitch*math.Pi/180
	}
	if in.Settings.navigates() {
		n := newNavigator(in, d, h)
		c.nav = &n
	}
	for i, a := range quad.Axes {
		c.channel[i] = quad.ChannelIn(in.Settings.Order, a) - 1
	}
	roll, pitch, yaw := motors.Mix(in.Settings.Layout, in.Settings.Rotation)
	for i, letter := range quad.SortedKeys(in.Settings.Places) {
		k := in.Settings.Places[letter].Index()
		c.mix[i] = [3]float64{roll[k], pitch[k], yaw[k]}
	}
	return c
}

// command of the sticks as the controller understands them.
type command struct {
	roll, pitch, yaw float64    // -1..1
	rates            [3]float64 // deg/s asked of roll (right side down), pitch (nose up) and yaw by the sticks
	throttle         float64    // 0..1, and -1..1 with reversible thrust
	lever            float64    // 0..1 of the throttle stick's way, before any curve
	rest             bool       // throttle counts as at rest
	arm, level       bool
	hold, home       bool
	// blend is how much of self-level is in it, 0..1: all of it at the centre of the sticks, none where blended lets go.
	blend float64
	firm  bool // authority at idle
}

func (c *controller) read(s *Sticks) command {
	var us [4]float64
	for i, a := range quad.Axes {
		us[i] = sticks.Through(c.s.Ranges.Of(a), s.Channels[c.channel[i]])
	}
	cmd := command{
		roll:     sticks.Map(us[0], c.s.Deadband),
		pitch:    sticks.Map(us[1], c.s.Deadband),
		throttle: sticks.MapThrottle(us[2]),
		yaw:      sticks.Map(us[3], c.s.Deadband),
		rest:     c.rest.Holds(us[2]),
		arm:      c.s.Arm.On(&s.Channels),
		level:    c.s.SelfLevel.On(&s.Channels),
		firm:     c.s.Firm || c.s.Authority.On(&s.Channels),
		hold:     c.s.Nav.Hold.On(&s.Channels),
		home:     c.s.Nav.ComeHome.On(&s.Channels),
	}
	if !cmd.level && c.s.Blended.On(&s.Channels) && c.s.Blend > 0 {
		cmd.blend = max(0, 1-max(math.Abs(cmd.roll), math.Abs(cmd.pitch))/c.s.Blend)
	}
	cmd.lever = cmd.throttle
	if c.s.Reverses {
		cmd.throttle = 2*cmd.throttle - 1 // from full down through rest to full up
	} else {
		cmd.throttle = c.s.Curve.At(cmd.throttle)
	}
	if len(c.s.Others) > 0 {
		c.chosen = c.first.answering(&s.Channels)
	}
	// Stick forward is positive and lowers the nose.
	rates := &c.chosen.Rates
	cmd.rates = [3]float64{feel.Rate(c.s.Family, rates[0], cmd.roll), -feel.Rate(c.s.Family, rates[1], cmd.pitch), feel.Rate(c.s.Family, rates[2], cmd.yaw)}
	return cmd
}

// hear what reaches the board: a frame, or none.
func (c *controller) hear(in *Sticks) {
	if c.heardNow = in.Heard; c.heardNow && *in != c.last {
		c.last, c.asked = *in, c.read(in)
	}
}

// loop runs the controller once on the board of a stepper and writes the duty of each output: 0..1, and -1..1 with reversible thrust.
func (c *controller) loop(of *Stepper, duty *[4]float64) {
	of.sensors.read(of)
	g, seen := of.sensors.gyro, &c.seen
	if c.other != nil { // what it takes for roll is partly pitch when the board does not lie as set
		g = c.other.Turn(g)
	}
	if c.filters != nil {
		c.filters.run(&g, &of.rotors)
	}
	seen[0] += c.seenShare * (g[0] - seen[0])
	seen[1] += c.seenShare * (g[1] - seen[1])
	seen[2] += c.seenShare * (g[2] - seen[2])
	if c.heardNow {
		c.heard, c.lost = true, 0
		if c.inLoss && !c.asked.arm {
			c.inLoss = false // coming back needs the switch off once, else it would arm by itself
		}
	} else if c.lost += c.h; c.lost > c.s.Guard {
		c.inLoss = true
	}
	cmd := &c.asked
	if len(c.s.Others) > 0 {
		c.s = c.chosen
		if c.inLoss {
			c.s = c.first
		}
	}
	if c.inLoss {
		switch c.s.Policy {
		case quad.PolicyLand, quad.PolicyReturn: // a return that cannot be flown comes down so
			cmd = &command{throttle: c.s.LandPush, arm: c.armed, level: true}
		default:
			cmd, c.gesture = &command{rest: true}, gesture{}
		}
	}
	if c.s.ByStick {
		byHand := *cmd
		cmd = &byHand
		c.gesture.follow(cmd, c.seen, c.h)
	}
	if c.nav != nil {
		if by := c.nav.steer(c, cmd, of.sensed()); by != nil {
			cmd = by
		}
	}
	was := c.armed
	if c.arm(cmd, of); c.armed && !was && c.nav != nil {
		c.nav.arms(of.sensed())
	}
	if !c.armed {
		c.integral, c.slow, c.want, c.ahead, c.wanted = [3]float64{}, [3]float64{}, [3]float64{}, [3]float64{}, [3]float64{}
		c.lastRate, *duty = c.seen, [4]float64{}
		return
	}
	c.drive(cmd, of, duty)
}

// lean is the attitude as the board sees it, rad: turned as it is on its mount, and off by its level error.
func (c *controller) lean(of *Stepper) (roll, pitch float64) {
	roll, pitch = of.tilt()
	if c.other != nil {
		roll, pitch = c.other.Shows(roll*degrees, pitch*degrees)
		return math.Remainder(roll/degrees+c.tiltRoll, 2*math.Pi), pitch/degrees + c.tiltPitch
	}
	return roll + c.tiltRoll, pitch + c.tiltPitch
}

func (c *controller) arm(cmd *command, of *Stepper) {
	if !cmd.arm {
		c.armed = false
		c.wantedOff = c.wantedOff || c.heard
		return
	}
	if c.armed || c.hindered || !c.wantedOff || c.inLoss || !cmd.rest || cmd.hold || cmd.home {
		return
	}
	roll, pitch := c.lean(of)
	c.armed = math.Acos(math.Cos(roll)*math.Cos(pitch))*degrees <= c.s.ArmTilt
}

const degrees = 180 / math.Pi

func (c *controller) drive(cmd *command, of *Stepper, duty *[4]float64) {
	want := &c.want
	*want = cmd.rates
	if share := cmd.blend; cmd.level || share > 0 {
		if cmd.level {
			share = 1
		}
		roll, pitch := c.lean(of)
		want[0] += share * (c.s.Pull*(cmd.roll*c.s.AngleLimit-roll*degrees) - want[0])
		want[1] += share * (c.s.Pull*(-cmd.pitch*c.s.AngleLimit-pitch*degrees) - want[1])
	}
	// Without authority at idle it keeps still on the ground, and falls as it hangs in the air.
	idle := cmd.rest && !cmd.firm
	var out [3]float64
	for i := range out {
		rate := c.seen[i] * degrees
		change := (c.seen[i] - c.lastRate[i]) * (degrees * c.perH)
		if c.filters != nil {
			change = c.filters.change(i, change)
		}
		c.slow[i] += c.slowShare * (change - c.slow[i])
		if idle {
			c.integral[i] = 0
			continue
		}
		g := &c.gains[i]
		e := want[i] - rate
		sum := c.integral[i] + g.Integral*e*c.h
		if sum > integralMost {
			sum = integralMost
		} else if sum < -integralMost {
			sum = -integralMost
		}
		c.integral[i] = sum
		out[i] = g.Proportional*e + sum - g.Derivative*c.slow[i]
	}
	if c.leads {
		c.lead(&out, idle)
	}
	c.lastRate = c.seen
	if c.s.Reverses {
		c.bothWays(cmd, &out, duty)
		return
	}
	c.mixed(c.s.output().Command(cmd.throttle), 1, cmd.firm, &out, duty)
}

// lead adds what the change of the wanted rotation asks for, low-passed as the change of the rotation is.
func (c *controller) lead(out *[3]float64, idle bool) {
	for i := range out {
		c.ahead[i] += c.slowShare * ((c.want[i]-c.wanted[i])*c.perH - c.ahead[i])
		if !idle {
			out[i] += c.gains[i].FeedForward * c.ahead[i]
		}
	}
	c.wanted = c.want
}

// bothWays turns all rotors forward from the middle of the throttle up and backward below it, each way from its idle to full. Just
// about the middle they keep the way they had.
func (c *controller) bothWays(cmd *command, out *[3]float64, duty *[4]float64) {
	throttle := cmd.throttle
	if math.Abs(throttle) > 0.02 || c.way == 0 {
		c.way = 1
		if throttle < 0 {
			c.way = -1
		}
	}
	c.mixed(c.s.output().Command(max(0, throttle*c.way)), c.way, cmd.firm, out, duty)
}

// mixed spreads a collective command and one about each axis over the outputs, all of them turning one way, and evens out each. Where the command needs
// more than there is above, it is lowered, so that all of it is given. Where it needs more than there is below, that is given only with
// authority at idle (firm), by raising the collective, which lifts; without, what is at idle stays there.
func (c *controller) mixed(base, way float64, firm bool, out *[3]float64, duty *[4]float64) {
	// More duty backward pushes down more: seen from above the signs of roll, pitch and yaw all turn over.
	roll, pitch, yaw := way*out[0], way*out[1], way*out[2]
	low, high := math.Inf(1), math.Inf(-1)
	for i := range duty {
		m := &c.mix[i]
		x := m[0]*roll + m[1]*pitch + m[2]*yaw
		duty[i] = x
		if x < low {
			low = x
		}
		if x > high {
			high = x
		}
	}
	idle := c.s.Idle
	if high-low > 1-idle { // more than the range: keep the proportions
		k := (1 - idle) / (high - low)
		for i := range duty {
			duty[i] *= k
		}
		high, low = high*k, low*k
	}
	if firm && base < idle-low {
		base = idle - low
	}
	if base > 1-high {
		base = 1 - high
	}
	for i, x := range duty {
		x += base
		if x < idle {
			x = idle
		} else if x > 1 {
			x = 1
		}
		if c.s.Even > 0 {
			x = c.s.output().Evened(x)
		}
		duty[i] = way * x
	}
}
