package standin

import (
	"vividperch/bench/protocol"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// receiverVolts at the supply pads of every receiver that is fed.
const receiverVolts = 5.02

func (d *Device) set(t protocol.Things) error {
	before := d.pack || d.usb
	put := func(to *bool, from *bool) {
		if from != nil {
			*to = *from
		}
	}
	put(&d.pack, t.Pack)
	put(&d.usb, t.USB)
	put(&d.props, t.Propellers)
	put(&d.antenna, t.Antenna)
	put(&d.radio, t.Radio)
	put(&d.video, t.Video)
	put(&d.supply.limiter, t.Limiter)
	if t.Nose != nil {
		d.nose = max(0, min(360, *t.Nose))
	}
	if t.Apart != nil {
		d.apart = max(10, min(500, *t.Apart))
	}
	if t.Shims != nil {
		if err := d.shimmed(*t.Shims); err != nil {
			return err
		}
	}
	if t.TiltRoll != nil {
		d.tilt[0] = max(-180, min(180, *t.TiltRoll))
	}
	if t.TiltPitch != nil {
		d.tilt[1] = max(-90, min(90, *t.TiltPitch))
	}
	d.power(before)
	return nil
}

func (d *Device) stick(s protocol.Stick) error {
	if s.Switch != "" {
		for _, k := range d.kit.Radio.Switches {
			if k.Name == s.Switch {
				if _, ok := k.Pulses[s.Position]; !ok {
					return refuse("the %s switch has no position %q", s.Switch, s.Position)
				}
				if d.means.control.Arm.Used() && k.Channel == d.means.control.Arm.Channel && s.Position != k.Rest {
					return refuse("you cannot arm here: use the hold buttons")
				}
				d.switches[s.Switch] = s.Position
				return nil
			}
		}
		return refuse("the radio has no switch %q", s.Switch)
	}
	if s.Axis.Letter() == 0 {
		return refuse("there is no stick %q", s.Axis)
	}
	d.place[s.Axis] = max(-1, min(1, s.Place))
	return nil
}

func (d *Device) startSweep(s protocol.Sweep) error {
	if !s.MovesFrame() && !d.radio {
		return refuse("the radio is off")
	}
	d.concludesFaces()
	d.sweep = sweeping{kind: s, from: d.now, active: true, back: d.switches[s.Switch]}
	return nil
}

// throttleRest is where a hand puts the throttle to rest.
func (d *Device) throttleRest() float64 { return sticks.RestPlace(d.means.control.Reverses) }

func (d *Device) move(m protocol.Motion) error {
	if !d.pack || !d.running() {
		return refuse("no pack is connected, or the board does not run")
	}
	switch m.Kind {
	case protocol.MotionSpin:
		if _, ok := d.kit.Wired[m.Output]; !ok {
			return refuse("the board has no output %q", m.Output)
		}
		if d.body.State().Armed {
			return refuse("it is armed; one motor cannot be asked for")
		}
		least := 0.0
		if d.means.control.Reverses {
			least = -100
		}
		m.Level = max(least, min(100, m.Level))
	case protocol.MotionArm:
		ok := false
		for _, s := range d.kit.Radio.Switches {
			if _, has := s.Pulses[m.Position]; s.Name == m.Switch && has {
				ok = true
				d.switches[s.Name] = m.Position
			}
		}
		if !ok {
			return refuse("the radio has no switch %q with a position %q", m.Switch, m.Position)
		}
		rest := d.throttleRest()
		d.place[quad.Throttle] = rest + max(0, min(1, m.Level/100))*(1-rest)
	case protocol.MotionGesture:
		if !d.means.control.ByStick {
			return refuse("this board is not armed by stick")
		}
		d.place[quad.Throttle] = d.throttleRest()
		if !d.body.Armed() && d.body.Calibration() == "" {
			d.place[quad.Yaw] = 1
		}
	default:
		return refuse("%q is not a motion", m.Kind)
	}
	if d.motion.Kind != m.Kind || d.motion.Output != m.Output {
		d.holds++
	}
	d.motion, d.until = m, d.now+protocol.LeaseMillis
	return nil
}

func (d *Device) adjust(a protocol.Adjust) error {
	if a.Travel != nil {
		d.travel = max(25, min(125, *a.Travel))
	}
	if a.OnLoss != nil {
		switch *a.OnLoss {
		case quad.LossSilence, quad.LossHold, quad.LossPreset:
			d.onLoss = *a.OnLoss
		default:
			return refuse("%q is not something a receiver can put out", *a.OnLoss)
		}
	}
	return nil
}

func (d *Device) level(nothing) error {
	if err := d.needRunning(); err != nil {
		return err
	}
	d.keeps(familyOf(d.build.Line.Name).levels(d.hangs(d.held())))
	return d.mean()
}

func (d *Device) meter(p protocol.Probe) (protocol.Figure, error) {
	noise := 1 + 0.004*d.rng.NormFloat64()
	at := func(x float64) (protocol.Figure, error) { return protocol.Figure{Value: round(x*noise, 2)}, nil }
	switch p.Where {
	case "leadAtOnce", "leadAfter", "frame", "polarity":
		if d.pack {
			return protocol.Figure{}, refuse("take the pack out before you measure resistance")
		}
	case "current", "volts":
		if !d.pack {
			return protocol.Figure{}, refuse("no pack is connected")
		}
	}
	switch p.Where {
	case "leadAtOnce":
		return at(d.ohmsAfter(atOnce))
	case "leadAfter":
		return at(d.ohmsAfter(10_000))
	case "frame":
		return at(d.kit.Meter.Frame)
	case "polarity":
		return at(d.pole())
	case "current":
		if d.limited() {
			return at(limits)
		}
		return at(d.wants())
	case "volts":
		return protocol.Figure{Value: d.live().Volts}, nil
	case "receiver":
		if !d.fed(d.wires["receiver"]) || d.air.cut {
			return protocol.Figure{}, nil
		}
		return at(receiverVolts)
	}
	return protocol.Figure{}, refuse("there is nothing to measure at %q", p.Where)
}
