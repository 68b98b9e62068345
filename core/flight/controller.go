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

	armed     bool
	hindered  bool    // something outside the flight keeps it from arming, such as a USB cable
	heard     bool    // a frame has come since power-up
	wantedOff bool    // the arm switch has been seen off since power-up
	lost      float64 // s since the last frame
	inLoss    bool
	integral  [3]float64
	lastRate  [3]float64
	slow      [3]float64 // low-passed change of rotation, deg/s²
	last      Sticks
	asked     command // what the last frame meant
	gesture   gesture
	rest      sticks.Rest // of the throttle
}

const (
	integralMost = 0.2  // share of full throttle the integral may hold
	derivativeHz = 80.0 // low-pass on the change of rotation
)

func newController(in Input) controller {
	c := controller{s: in.Settings, tiltRoll: in.Actual.TiltRoll * math.Pi / 180, tiltPitch: in.Actual.TiltPitch * math.Pi / 180}
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
	throttle         float64    // 0..1
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
		cmd.throttle = max(0, 2*cmd.throttle-1)
	}
	// Stick forward is positive and lowers the nose.
	cmd.rates = [3]float64{feel.Rate(c.s.Family, c.s.Rates[0], cmd.roll), -feel.Rate(c.s.Family, c.s.Rates[1], cmd.pitch), feel.Rate(c.s.Family, c.s.Rates[2], cmd.yaw)}
	return cmd
}

func held(r quad.Range, s *Sticks) bool {
	return r.Channel >= 1 && r.Channel <= len(s.Channels) && r.Holds(s.Channels[r.Channel-1])
}

// loop runs the controller once, h seconds after the last time, and gives the duty of each output. Roll and
// pitch are the true attitude in rad, rates the true rotation in rad/s.
func (c *controller) loop(in *Sticks, roll, pitch float64, rates [3]float64, h float64) [4]float64 {
	// The sensors turn with the board: what it takes for roll is partly pitch when the mount is not as set.
	cos, sin := c.turned[0], c.turned[1]
	roll, pitch = cos*roll+sin*pitch, cos*pitch-sin*roll
	rates[0], rates[1] = cos*rates[0]+sin*rates[1], cos*rates[1]-sin*rates[0]
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
	c.arm(cmd, roll, pitch)
	if !c.armed {
		c.integral, c.slow = [3]float64{}, [3]float64{}
		c.lastRate = rates
		return [4]float64{}
	}
	return c.drive(cmd, roll, pitch, rates, h)
}

func (c *controller) arm(cmd command, roll, pitch float64) {
	if !cmd.arm {
		c.armed = false
		c.wantedOff = c.wantedOff || c.heard
		return
	}
	if c.armed || c.hindered || !c.wantedOff || c.inLoss || !cmd.rest {
		return
	}
	c.armed = math.Acos(math.Cos(roll+c.tiltRoll)*math.Cos(pitch+c.tiltPitch))*degrees <= c.s.ArmTilt
}

const degrees = 180 / math.Pi

func (c *controller) drive(cmd command, roll, pitch float64, rates [3]float64, h float64) [4]float64 {
	want := cmd.rates
	if share := cmd.blend; cmd.level || share > 0 {
		if cmd.level {
			share = 1
		}
		want[0] += share * (c.s.Pull*(cmd.roll*c.s.Lean-(roll+c.tiltRoll)*degrees) - want[0])
		want[1] += share * (c.s.Pull*(-cmd.pitch*c.s.Lean-(pitch+c.tiltPitch)*degrees) - want[1])
	}
	share := h / (h + 1/(2*math.Pi*derivativeHz))
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
	base := motors.Duty(cmd.throttle, c.s.Idle, c.s.Limit)
	var duty [4]float64
	low, high := math.Inf(1), math.Inf(-1)
	for i := range duty {
		m := &c.mix[i]
		duty[i] = m[0]*out[0] + m[1]*out[1] + m[2]*out[2]
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
		duty[i] = max(c.s.Idle, min(1, base+duty[i]))
	}
	return duty
}
