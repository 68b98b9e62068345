package flight

import (
	"math"

	"vividperch/core/feel"
	"vividperch/core/motors"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// controller is the part that the board's settings describe. One call is one loop.
type controller struct {
	s         Settings
	turned    [2]float64    // cosine and sine of how far the mount is from where the settings have it
	channel   [4]int        // of roll, pitch, throttle, yaw, counted from 0
	mix       [4][3]float64 // per output in alphabetical order
	tiltRoll  float64
	tiltPitch float64

	armed      bool
	hindered   bool    // something outside the flight keeps it from arming, such as a USB cable
	heard      bool    // a frame has come since power-up
	wantedOff  bool    // the arm switch has been seen off since power-up
	lost       float64 // s since the last frame
	inLoss     bool
	integral   [3]float64
	lastRate   [3]float64
	seen       [3]float64 // rad/s, after the filter
	want       [3]float64 // deg/s
	slow       [3]float64 // low-passed change of rotation, deg/s²
	last       Sticks
	asked      command // what the last frame meant
	gesture    gesture
	rest       sticks.Rest // of the throttle
	way        float64     // that the rotors turn with reversible thrust: 1 forward, -1 backward
	slowCutoff float64     // Hz, of slow
}

const (
	integralMost = 0.2  // share of full throttle the integral may hold
	derivativeHz = 80.0 // low-pass on the change of rotation, where the line does not tell
)

func newController(in Input) controller {
	c := controller{s: in.Settings, tiltRoll: in.Actual.TiltRoll * math.Pi / 180, tiltPitch: in.Actual.TiltPitch * math.Pi / 180}
	if c.slowCutoff = in.Settings.DerivativeCutoff; c.slowCutoff == 0 {
		c.slowCutoff = derivativeHz
	}
	c.rest = sticks.RestOf(quad.SticksSheet{IdleBelow: in.Settings.IdleBelow}, in.Settings.Reverses)
	off := (in.Actual.BoardYaw - in.Settings.BoardYaw) * math.Pi / 180
	c.turned = [2]float64{math.Cos(off), math.Sin(off)}
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
	rest             bool       // throttle counts as at rest
	arm, level       bool
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
		arm:      held(c.s.Arm, s),
		level:    held(c.s.SelfLevel, s),
		firm:     c.s.Firm || held(c.s.Authority, s),
	}
	if !cmd.level && held(c.s.Blended, s) && c.s.Blend > 0 {
		cmd.blend = max(0, 1-max(math.Abs(cmd.roll), math.Abs(cmd.pitch))/c.s.Blend)
	}
	if c.s.Reverses {
		cmd.throttle = 2*cmd.throttle - 1 // from full down through rest to full up
	} else {
		cmd.throttle = c.s.Curve.At(cmd.throttle)
	}
	// Stick forward is positive and lowers the nose.
	cmd.rates = [3]float64{feel.Rate(c.s.Family, c.s.Rates[0], cmd.roll), -feel.Rate(c.s.Family, c.s.Rates[1], cmd.pitch), feel.Rate(c.s.Family, c.s.Rates[2], cmd.yaw)}
	return cmd
}

func held(r quad.Range, s *Sticks) bool {
	return r.Channel >= 1 && r.Channel <= len(s.Channels) && r.Holds(s.Channels[r.Channel-1])
}

// loop runs the controller once, h seconds after the last time, on the board of a stepper, and gives the duty of each output: 0..1,
// and -1..1 with reversible thrust.
func (c *controller) loop(in *Sticks, of *Stepper, h float64) [4]float64 {
	of.sensors.read(of)
	// The sensors turn with the board: what it takes for roll is partly pitch when the mount is not as set.
	cos, sin := c.turned[0], c.turned[1]
	g := &of.sensors.gyro
	rates := [3]float64{cos*g[0] + sin*g[1], cos*g[1] - sin*g[0], g[2]}
	if c.s.GyroCutoff > 0 {
		share := lowPass(c.s.GyroCutoff, h)
		for i := range rates {
			rates[i] = c.seen[i] + share*(rates[i]-c.seen[i])
		}
	}
	c.seen = rates
	if in.Heard {
		if *in != c.last {
			c.last, c.asked = *in, c.read(in)
		}
		c.heard, c.lost = true, 0
		if c.inLoss && !c.asked.arm {
			c.inLoss = false // coming back needs the switch off once, else it would arm by itself
		}
	} else {
		c.lost += h
	}
	cmd := c.asked
	if c.lost > c.s.Guard {
		c.inLoss = true
	}
	if c.inLoss {
		switch c.s.Policy {
		case quad.PolicyLand:
			cmd = command{throttle: c.s.LandPush, arm: c.armed, level: true}
		default:
			cmd, c.gesture = command{rest: true}, gesture{}
		}
	}
	if c.s.ByStick {
		c.gesture.follow(&cmd, rates, h)
	}
	c.arm(cmd, of)
	if !c.armed {
		c.integral, c.slow, c.want = [3]float64{}, [3]float64{}, [3]float64{}
		c.lastRate = rates
		return [4]float64{}
	}
	return c.drive(cmd, of, rates, h)
}

// lean is the attitude as the board sees it, rad: turned as it is on its mount, and off by its level error.
func (c *controller) lean(of *Stepper) (roll, pitch float64) {
	r, p := of.tilt()
	return c.turned[0]*r + c.turned[1]*p + c.tiltRoll, c.turned[0]*p - c.turned[1]*r + c.tiltPitch
}

func (c *controller) arm(cmd command, of *Stepper) {
	if !cmd.arm {
		c.armed = false
		c.wantedOff = c.wantedOff || c.heard
		return
	}
	if c.armed || c.hindered || !c.wantedOff || c.inLoss || !cmd.rest {
		return
	}
	roll, pitch := c.lean(of)
	c.armed = math.Acos(math.Cos(roll)*math.Cos(pitch))*degrees <= c.s.ArmTilt
}

// lowPass is the share of the way that a first-order filter with a cutoff in Hz goes in h seconds.
func lowPass(cutoff, h float64) float64 { return h / (h + 1/(2*math.Pi*cutoff)) }

const degrees = 180 / math.Pi

func (c *controller) drive(cmd command, of *Stepper, rates [3]float64, h float64) [4]float64 {
	want := cmd.rates
	if share := cmd.blend; cmd.level || share > 0 {
		if cmd.level {
			share = 1
		}
		roll, pitch := c.lean(of)
		want[0] += share * (c.s.Pull*(cmd.roll*c.s.Lean-roll*degrees) - want[0])
		want[1] += share * (c.s.Pull*(-cmd.pitch*c.s.Lean-pitch*degrees) - want[1])
	}
	c.want = want
	share := lowPass(c.slowCutoff, h)
	var out [3]float64
	for i := range out {
		rate := rates[i] * degrees
		g := &c.s.Gains[i]
		e := want[i] - rate
		c.slow[i] += share * ((rate-c.lastRate[i]*degrees)/h - c.slow[i])
		if cmd.rest && !cmd.firm {
			c.integral[i] = 0
		} else {
			c.integral[i] = max(-integralMost, min(integralMost, c.integral[i]+g.Integral/100*e*h))
		}
		out[i] = g.Proportional/100*e + c.integral[i] - g.Derivative/100*c.slow[i]
	}
	c.lastRate = rates
	if cmd.rest && !cmd.firm {
		out = [3]float64{} // without authority at idle it keeps still on the ground, and falls as it hangs in the air
	}
	if c.s.Reverses {
		return c.bothWays(cmd.throttle, out)
	}
	return c.mixed(motors.Duty(cmd.throttle, c.s.Idle, c.s.Limit), 1, out)
}

// bothWays turns all rotors forward from the middle of the throttle up and backward below it, each way from its idle to full. Just
// about the middle they keep the way they had.
func (c *controller) bothWays(throttle float64, out [3]float64) [4]float64 {
	if math.Abs(throttle) > 0.02 || c.way == 0 {
		c.way = 1
		if throttle < 0 {
			c.way = -1
		}
	}
	return c.mixed(motors.Duty(max(0, throttle*c.way), c.s.Idle, c.s.Limit), c.way, out)
}

// mixed spreads a collective duty and a command about each axis over the outputs, all of them turning one way.
func (c *controller) mixed(base, way float64, out [3]float64) [4]float64 {
	var duty [4]float64
	low, high := math.Inf(1), math.Inf(-1)
	for i := range duty {
		m := &c.mix[i]
		// More duty backward pushes down more: seen from above the signs of roll, pitch and yaw all turn over.
		duty[i] = way * (m[0]*out[0] + m[1]*out[1] + m[2]*out[2])
		low, high = min(low, duty[i]), max(high, duty[i])
	}
	if high-low > 1-c.s.Idle { // more than the range: keep the proportions
		k := (1 - c.s.Idle) / (high - low)
		for i := range duty {
			duty[i] *= k
		}
		high *= k
	}
	base = min(base, 1-high)
	for i := range duty {
		duty[i] = way * max(c.s.Idle, min(1, base+duty[i]))
	}
	return duty
}
