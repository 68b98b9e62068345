package standin

import (
	"math"
	"slices"

	"vividperch/bench/protocol"
	"vividperch/core/power"
)

// KitSupply is what is wrong between the battery's plug and the devices; zero is a sound quad.
type KitSupply struct {
	Short    float64            `json:"short"`    // Ω across the lead; 0 is none
	Charged  float64            `json:"charged"`  // V that were left in its capacitor
	Jumps    bool               `json:"jumps"`    // the meter at hand changes its range by itself
	Reversed bool               `json:"reversed"` // the lead's poles are soldered the wrong way round
	Draws    map[string]float64 `json:"draws"`    // A that a device draws beyond its own: bridged pads, or one that is hurt
	Weak     []string           `json:"weak"`     // devices whose regulator gives way as they come on
}

// supply is how the lead is fed and measured now.
type supply struct {
	limiter bool
	off     map[string]bool // devices that are unplugged
	charge  float64         // V in the capacitor, while no pack is in
	burning int             // ms of a current that burns
	burnt   bool
	probes  protocol.Probes
	since   int64 // ms at which the probes were put on
}

// asSoldered is how a quad comes onto the bench: all of it plugged in, no limiter in the lead, nothing burnt yet.
func (d *Device) asSoldered() {
	d.supply = supply{off: map[string]bool{}, charge: d.kit.Supply.Charged}
}

const (
	meterSends   = 0.0001 // A that an ohmmeter sends
	leadLeaks    = 25_000 // Ω of everything beside the capacitor
	atOnce       = 200    // ms after which a figure can be read
	limits       = 1.0    // A that a limiter lets through
	reversedBy   = 60.0   // A through a board that is fed backwards
	burns        = 15.0   // A at rest that burn something
	burnsIn      = 1500   // ms until they have
	jumpsFrom    = 4000.0 // Ω at which a meter of its own range changes it
	jumpLasts    = 600    // ms until it has found the next
	limitedVolts = 0.8    // V that are left behind a limiter that holds back
	weakDraws    = 0.002  // A of a device whose supply gives way
	drainedLeft  = 0.002  // V that a resistor leaves in a capacitor
)

// farads of the capacitor on the lead.
func (d *Device) farads() float64 {
	if c := d.kit.Parts.Capacitor.Together(); c > 0 {
		return c * 1e-6
	}
	return 470e-6
}

// leak is what lies beside the capacitor, Ω.
func (d *Device) leak() float64 {
	if s := d.kit.Supply.Short; s > 0 {
		return 1 / (1/s + 1.0/leadLeaks)
	}
	return leadLeaks
}

// charges the capacitor by an ohmmeter for a millisecond: what it sends, less what leaks away.
func (d *Device) charges(volts float64) float64 {
	dt, c, r := 0.001, d.farads(), d.leak()
	if dt > r*c { // a short takes all of it at once
		return meterSends * r
	}
	return volts + dt*(meterSends-volts/r)/c
}

// ohmsAfter the probes have been on for so many ms, by the charge that is in the capacitor now.
func (d *Device) ohmsAfter(ms int) float64 {
	v := d.supply.charge
	for range ms {
		v = d.charges(v)
	}
	return v / meterSends
}

// pole is what a meter shows from the plug's plus to the board's plus, Ω.
func (d *Device) pole() float64 {
	if d.kit.Supply.Reversed {
		return 1e8
	}
	return 0.2
}

// feeds lets a millisecond pass for what feeds the quad.
func (d *Device) feeds() {
	s := &d.supply
	switch {
	case d.pack:
		s.probes.Where = ""
		if !s.limiter && d.wants() > burns && d.motion.Kind == "" {
			if s.burning++; s.burning >= burnsIn {
				s.burnt = true
			}
		}
	case s.probes.Where == protocol.HeldLead:
		s.charge = d.charges(s.charge)
		s.burning = 0
	default:
		s.burning = 0
	}
}

// metered is what the meter's display has while its probes are held, nil while they are not.
func (d *Device) metered() *protocol.MeterSeen {
	s := d.supply
	if s.probes.Where == "" {
		return nil
	}
	seen := &protocol.MeterSeen{Where: s.probes.Where, Since: d.now - s.since}
	switch s.probes.Where {
	case protocol.HeldLead:
		seen.Ohms = s.charge / meterSends
		if d.kit.Supply.Jumps && !s.probes.Fixed {
			// As it passes the end of a range it shows nothing that can be used until the next one has settled.
			rises := (meterSends - s.charge/d.leak()) / d.farads() / meterSends // Ω/s
			if past := (seen.Ohms - jumpsFrom) / math.Max(rises, 1) * 1000; past >= 0 && past < jumpLasts {
				seen.Ohms *= 0.3
			}
		}
	case protocol.HeldFrame:
		seen.Ohms = d.kit.Meter.Frame * 1000
	case protocol.HeldPolarity:
		seen.Ohms = d.pole()
	}
	seen.Ohms = round(seen.Ohms*(1+0.002*d.rng.NormFloat64()), 1)
	return seen
}

// wants is the current that the quad would draw at rest from a pack that gives whatever is wanted, A.
func (d *Device) wants() float64 {
	k := d.kit
	switch {
	case k.Supply.Reversed:
		return reversedBy
	case k.Supply.Short > 0:
		return math.Min(k.Meter.Volts/k.Supply.Short, 200)
	}
	steps := power.Steps(k.Parts)
	if len(steps) == 0 {
		return k.Meter.Idle
	}
	sum := 0.0
	for _, s := range steps {
		if d.supply.off[s.Device] {
			continue
		}
		if d.weak(s.Device) {
			sum += weakDraws
			continue
		}
		sum += s.Adds*k.Meter.Idle/steps[len(steps)-1].Sum + k.Supply.Draws[s.Device]
	}
	return sum
}

func (d *Device) weak(device string) bool { return slices.Contains(d.kit.Supply.Weak, device) }

// limited says that the limiter holds the current back, and nothing behind it runs.
func (d *Device) limited() bool { return d.pack && d.supply.limiter && d.wants() > limits }

// alive says whether what feeds the board lets it run.
func (d *Device) alive() bool {
	if d.supply.burnt {
		return false
	}
	return !d.pack || !d.limited() && !d.kit.Supply.Reversed && d.kit.Supply.Short == 0
}

// connected says whether a device is plugged in and its supply holds.
func (d *Device) connected(device string) bool { return !d.supply.off[device] && !d.weak(device) }

func (d *Device) probe(p protocol.Probes) error {
	switch p.Where {
	case "", protocol.HeldLead, protocol.HeldFrame, protocol.HeldPolarity:
	default:
		return refuse("there is nothing to hold the probes at %q", p.Where)
	}
	if d.pack && p.Where != "" {
		return refuse("take the pack out before you measure resistance")
	}
	d.supply.probes, d.supply.since = p, d.now
	return nil
}

func (d *Device) drain(nothing) error {
	if d.pack {
		return refuse("take the pack out first")
	}
	d.supply.charge = drainedLeft
	d.supply.probes = protocol.Probes{}
	return nil
}

func (d *Device) plug(p protocol.Plug) error {
	for i, s := range power.Steps(d.kit.Parts) {
		if s.Device != p.Device {
			continue
		}
		if i == 0 {
			return refuse("the %s is soldered in: everything else hangs on it", s.Device)
		}
		if p.In {
			delete(d.supply.off, p.Device)
		} else {
			d.supply.off[p.Device] = true
		}
		return nil
	}
	return refuse("nothing named %q hangs on it", p.Device)
}
