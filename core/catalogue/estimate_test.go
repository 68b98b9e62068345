package catalogue

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

// The closed form solves its own equation, and agrees with a sum over forty rings of the blade, each with the momentum of its own air.
func TestThrustIsWhatRingsAddUpTo(t *testing.T) {
	for _, s := range []Shape{{254, 114, 2}, {127, 109, 3}, {76, 76, 3}, {40, 30, 4}, {180, 100, 2}} {
		got, ok := s.Thrust()
		if !ok {
			t.Fatalf("%+v has no thrust", s)
		}
		sigma := float64(s.Blades) * chord / math.Pi
		sum, rings := 0.0, 40
		for i := range rings {
			r := (float64(i) + 0.5) / float64(rings) // of the radius
			angle := math.Atan(s.Pitch/(math.Pi*s.Diameter*r)) + noLift/r
			// Momentum of a ring against its lift, by halving: 4 λ² r = (σ a / 2) (angle - λ/r) r².
			low, high := 0.0, angle*r
			for range 80 {
				inflow := (low + high) / 2
				if 4*inflow*inflow*r < sigma*liftSlope/2*(angle-inflow/r)*r*r {
					low = inflow
				} else {
					high = inflow
				}
			}
			sum += 4 * low * low * r / float64(rings)
		}
		want := ends * sum * math.Pow(math.Pi, 3) / 4
		if !(math.Abs(got.Value-want) <= 0.15*want) {
			t.Errorf("%+v: %.4f, by rings %.4f", s, got.Value, want)
		}
		if got.Low >= got.Value || got.High <= got.Value {
			t.Errorf("%+v has no band: %+v", s, got)
		}
	}
	for _, s := range []Shape{{}, {127, 0, 3}, {127, 400, 3}, {127, 100, 0}, {math.NaN(), 100, 3}} {
		if e, ok := s.Thrust(); ok {
			t.Errorf("%+v: %+v", s, e)
		}
	}
}

// What is estimated of parts whose figures are known lies near those, and grows the way it must.
func TestEstimatesAgainstKnownParts(t *testing.T) {
	for _, c := range []struct {
		name      string
		stator    Stator
		kv, ohm   float64 // mΩ
		shape     Shape
		thrust    float64
		cells     int
		mah, rate float64
		packOhm   float64
		mass      float64
	}{
		{"5 inch", Stator{22, 7}, 1700, 55, Shape{127, 109, 3}, 0.18, 6, 1300, 120, 22, 215},
		{"plus trainer", Stator{22, 12}, 920, 110, Shape{254, 114, 2}, 0.11, 3, 2200, 30, 16, 180},
		{"3 inch", Stator{14, 7}, 3600, 120, Shape{76, 64, 3}, 0.16, 4, 650, 90, 38, 75},
		{"6 inch", Stator{25, 8}, 1150, 70, Shape{152, 76, 2}, 0.12, 6, 2200, 60, 18, 340},
	} {
		r, _ := c.stator.Resistance(c.kv)
		if c.ohm < r.Low || c.ohm > r.High {
			t.Errorf("%s: winding %.0f mΩ is outside of %.0f to %.0f", c.name, c.ohm, r.Low, r.High)
		}
		ct, _ := c.shape.Thrust()
		if c.thrust < ct.Low || c.thrust > ct.High {
			t.Errorf("%s: thrust %.3f is outside of %.3f to %.3f", c.name, c.thrust, ct.Low, ct.High)
		}
		p, _ := PackResistance(c.cells, c.mah, c.rate)
		if c.packOhm < p.Low || c.packOhm > p.High {
			t.Errorf("%s: pack %.0f mΩ is outside of %.0f to %.0f", c.name, c.packOhm, p.Low, p.High)
		}
		m, _ := PackMass(c.cells, c.mah)
		if c.mass < m.Low || c.mass > m.High {
			t.Errorf("%s: pack %.0f g is outside of %.0f to %.0f", c.name, c.mass, m.Low, m.High)
		}
	}
	one, _ := (Stator{22, 7}).Resistance(1700)
	twice, _ := (Stator{22, 7}).Resistance(3400)
	if !(math.Abs(one.Value/twice.Value-4) <= 1e-9) {
		t.Errorf("half the turns of twice the wire: %.1f against %.1f mΩ", one.Value, twice.Value)
	}
}

// Only what nobody told is estimated, and it is said what that was.
func TestFilledLeavesWhatIsTold(t *testing.T) {
	var p quad.Parts
	p.Motor.KV, p.Motor.Resistance, p.Propeller.Diameter = 1700, 61, 127
	got, est := Filled(p, Shape{127, 109, 3}, Stator{22, 7})
	if got.Motor.Resistance != 61 || got.Propeller.Diameter != 127 {
		t.Errorf("%+v", got)
	}
	for _, path := range []quad.Path{"parts.propeller.thrust", "parts.propeller.power", "parts.motor.idleCurrent", "parts.motor.timeConstant"} {
		x, err := quad.Get(quad.Known{Parts: got}, path)
		if e, there := est[path]; !there || err != nil || x == 0.0 || e.Low > e.Value || e.High < e.Value {
			t.Errorf("%s: %+v, %v", path, est[path], x)
		}
	}
	if _, there := est["parts.motor.resistance"]; there || len(est) != 4 {
		t.Errorf("%v", est)
	}
	if _, est := Filled(quad.Parts{}, Shape{}, Stator{}); len(est) != 0 {
		t.Errorf("of nothing: %v", est)
	}
}

// The time constant by the propeller alone is within its band of what the shipped motors have, each with the propeller that its stator suits
// best; a propeller that is changed changes an estimated one, and none that was told.
func TestTimeConstant(t *testing.T) {
	off, of := 0, 0
	for _, e := range Shipped() {
		part, ok := e.decoded()
		m, motor := part.(quad.Motor)
		if !ok || !motor || m.TimeConst == 0 {
			continue
		}
		size := math.Pow(e.Stator.Width/statorWide, 1/statorPower)
		est, _ := TimeConstant(size)
		of++
		if m.TimeConst < est.Low || m.TimeConst > est.High {
			off++
		}
	}
	if of < 40 || off > of/10 {
		t.Errorf("%d of %d motors are outside the band", off, of)
	}
	var p quad.Parts
	for _, e := range []Entry{
		{Kind: Motor, Name: "bare", Part: []byte(`{"kv":1700,"resistance":55}`)},
		{Kind: Propeller, Name: "5 in", Part: []byte(`{"diameter":127,"thrust":0.1,"power":0.05}`)},
		{Kind: Propeller, Name: "6 in", Part: []byte(`{"diameter":152.4,"thrust":0.1,"power":0.05}`)},
	} {
		var err error
		if p, err = Put(p, e); err != nil {
			t.Fatal(err)
		}
	}
	if p.Motor.TimeConst != 36 || p.EstimateAt(lagPath) != "estimate, 19.8 to 52.2 ms" {
		t.Errorf("with 6 in: %v ms, %q", p.Motor.TimeConst, p.EstimateAt(lagPath))
	}
	p.Motor.TimeConst = 28
	if p, _ = Put(p, Entry{Kind: Propeller, Name: "5 in", Part: []byte(`{"diameter":127,"thrust":0.1,"power":0.05}`)}); p.Motor.TimeConst != 28 {
		t.Errorf("a told one became %v ms", p.Motor.TimeConst)
	}
}
