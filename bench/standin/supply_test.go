package standin

import (
	"math"
	"testing"

	"vividperch/bench/protocol"
	"vividperch/core/power"
	"vividperch/core/quad"
)

// held is what a meter shows while its probes are held for so many seconds, ten figures each.
func held(t *testing.T, d *benchUnderTest, p protocol.Probes, seconds int) []power.Ohm {
	t.Helper()
	if err := d.probe(p); err != nil {
		t.Fatal(err)
	}
	var out []power.Ohm
	for range 10 * seconds {
		d.Advance(100)
		m := d.live().Meter
		if m == nil || m.Where != p.Where {
			t.Fatalf("the meter shows %+v", m)
		}
		out = append(out, power.Ohm{Time: float64(m.Since) / 1000, Ohms: m.Ohms})
	}
	return out
}

func unpowered(t *testing.T, wrong KitSupply) *benchUnderTest {
	k := kit()
	k.Parts.Capacitor = quad.Capacitor{Capacitance: 1000, Rating: 35, Resistance: 4, Count: 1}
	k.Parts.Board.IdleDraw, k.Parts.SpeedController.IdleDraw, k.Parts.Receiver.IdleDraw = 110, 90, 50
	k.Meter.Idle, k.Meter.Volts, k.Supply = 0.25, 24, wrong
	d := written(t, k, nil)
	d.pack, d.usb = false, false
	d.power(true)
	d.asSoldered() // as it was before it was set up with power
	return d
}

// The stand-in's capacitor is filled step by step; the product's curve is the closed form. Each fault looks like what it is.
func TestProbesOnTheLead(t *testing.T) {
	good := held(t, unpowered(t, KitSupply{}), protocol.Probes{Where: "lead"}, 10)
	for _, o := range good {
		if want := power.GoodLead(1000, o.Time); !(math.Abs(o.Ohms-want) <= 0.02*want+5) {
			t.Fatalf("%.0f Ω after %.1f s, want %.0f", o.Ohms, o.Time, want)
		}
	}
	for _, c := range []struct {
		name  string
		wrong KitSupply
		probe protocol.Probes
		want  power.LeadShape
	}{
		{"sound", KitSupply{}, protocol.Probes{Where: "lead"}, power.LeadClimbs},
		{"a bridge", KitSupply{Short: 0.4}, protocol.Probes{Where: "lead"}, power.LeadShorted},
		{"charge that was left", KitSupply{Charged: 9}, protocol.Probes{Where: "lead"}, power.LeadCharged},
		{"a range of its own", KitSupply{Jumps: true}, protocol.Probes{Where: "lead"}, power.LeadJumps},
		{"its range held", KitSupply{Jumps: true}, protocol.Probes{Where: "lead", Fixed: true}, power.LeadClimbs},
	} {
		d := unpowered(t, c.wrong)
		if got := power.ShapeOf(held(t, d, c.probe, 10), 1000); got != c.want {
			t.Errorf("%s: %s, want %s", c.name, got, c.want)
		}
	}
	d := unpowered(t, KitSupply{Charged: 9})
	if err := d.drain(nothing{}); err != nil {
		t.Fatal(err)
	}
	if got := power.ShapeOf(held(t, d, protocol.Probes{Where: "lead"}, 10), 1000); got != power.LeadClimbs {
		t.Errorf("drained it is %s", got)
	}
	d.pack = true
	refused(t, "probes on a live lead", d.probe(protocol.Probes{Where: "lead"}))
	refused(t, "probes on the moon", d.probe(protocol.Probes{Where: "moon"}))
}

// What is wrong behind the plug burns without a limiter, and is held back by one.
func TestWhatBurns(t *testing.T) {
	for name, wrong := range map[string]KitSupply{"the wrong way round": {Reversed: true}, "a bridge": {Short: 0.4}} {
		d := unpowered(t, wrong)
		d.supply.limiter, d.pack = true, true
		d.power(false)
		d.Advance(3000)
		if l := d.live(); !l.Limited || l.Amps != limits || l.Board != "off" || l.Smoke {
			t.Errorf("%s behind a limiter: %v A, %s, smoke %v", name, l.Amps, l.Board, l.Smoke)
		}
		d.supply.limiter = false
		d.Advance(burnsIn / 2)
		if l := d.live(); l.Amps < power.Burns || l.Smoke {
			t.Errorf("%s: %v A, smoke %v", name, l.Amps, l.Smoke)
		}
		d.pack = false
		d.Advance(10)
		d.pack = true
		d.Advance(burnsIn / 2)
		if d.live().Smoke {
			t.Errorf("%s: burnt although the pack was out in between", name)
		}
		d.Advance(burnsIn)
		if l := d.live(); !l.Smoke || l.Board != "off" {
			t.Errorf("%s: nothing burns: %+v", name, l.Amps)
		}
	}
}

func TestDevicesComeOn(t *testing.T) {
	d := unpowered(t, KitSupply{Draws: map[string]float64{"receiver": 0.5}, Weak: []string{"speed controllers"}})
	steps := power.Steps(d.kit.Parts)
	for _, s := range steps[1:] {
		if err := d.plug(protocol.Plug{Device: s.Device}); err != nil {
			t.Fatal(err)
		}
	}
	refused(t, "the board pulled", d.plug(protocol.Plug{Device: "board"}))
	refused(t, "a device that is none", d.plug(protocol.Plug{Device: "lamp"}))
	d.pack, d.supply.limiter = true, true
	d.power(false)
	var measured []float64
	for i, s := range steps {
		if i > 0 {
			if err := d.plug(protocol.Plug{Device: s.Device, In: true}); err != nil {
				t.Fatal(err)
			}
		}
		measured = append(measured, d.live().Amps)
	}
	if dev, ok := power.FirstDeviation(steps, measured); !ok || dev.Step != 1 {
		t.Errorf("the first that is off: %+v, %v of %v", dev, ok, measured)
	}
	d.kit.Supply.Weak = nil
	d.supply.off["receiver"] = true
	for i, s := range steps {
		delete(d.supply.off, s.Device)
		d.supply.off["receiver"] = i < 2
		measured[i] = d.live().Amps
		if i == 0 {
			measured[i] = steps[0].Sum
		}
	}
	if dev, ok := power.FirstDeviation(steps, measured); !ok || dev.Step != 2 {
		t.Errorf("the receiver's bridged pads: %+v, %v of %v", dev, ok, measured)
	}
}
