package airframe

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"vividperch/core/columns"
	"vividperch/core/quad"
)

var standParts = quad.Parts{Motor: quad.Motor{KV: 1700, Resistance: 55, IdleCurrent: 1.1}, Propeller: quad.Propeller{Diameter: 127, Thrust: 0.18, Power: 0.12}}

// sweep of a stand whose motor does what the drive says, each figure off by a share of itself.
func sweep(t *testing.T, p quad.Parts, off float64, r *rand.Rand) []StandRow {
	t.Helper()
	d, err := NewDrive(p, quad.Pack{}, 24, Density)
	if err != nil {
		t.Fatal(err)
	}
	d.Motors = 1
	var out []StandRow
	shake := func(x float64) float64 { return x * (1 + off*r.NormFloat64()) }
	for duty := 0.2; duty <= 1; duty += 0.05 {
		at := d.At(duty)
		out = append(out, StandRow{Rpm: at.Rotation * 30 / math.Pi, Thrust: shake(at.Thrust), Duty: 100 * duty, Volts: 24, Amps: shake(duty * at.Current)})
	}
	return out
}

func fitOf(s *Stand, path quad.Path) quad.Estimate {
	for _, f := range s.Fits {
		if f.Path == path {
			return f
		}
	}
	return quad.Estimate{}
}

// What the drive was made of comes back, and in 400 noisy sweeps the truth lies within the band as often as it says.
func TestStandGivesBackWhatItWasMadeOf(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 1))
	s, err := FitStand(standParts, sweep(t, standParts, 0, r), Density)
	if err != nil {
		t.Fatal(err)
	}
	for path, want := range map[quad.Path]float64{"parts.propeller.thrust": 0.18, "parts.propeller.power": 0.12, "parts.motor.resistance": 55} {
		near(t, string(path), fitOf(s, path).Value, want, 1e-3*want)
	}
	for i, row := range sweep(t, standParts, 0, r) {
		near(t, "thrust by the fit", s.Thrusts[i], row.Thrust, 1e-3*row.Thrust)
	}
	// Every other row a tenth of the largest above, the rest as much below: they scatter by a tenth.
	rows := sweep(t, standParts, 0, r)
	most, largest := rows[len(rows)-1].Thrust, 0.0
	for i := range rows {
		rows[i].Thrust += 0.1 * most * float64(1-2*(i%2))
		largest = math.Max(largest, rows[i].Thrust)
	}
	if s, err := FitStand(standParts, rows, Density); err != nil || !(math.Abs(s.Off-10*most/largest) <= 0.2) {
		t.Errorf("scattered by a tenth of %v, it is off by %v %%: %v", most, s.Off, err)
	}
	in := 0
	for range 400 {
		s, err := FitStand(standParts, sweep(t, standParts, 0.03, r), Density)
		if err != nil {
			t.Fatal(err)
		}
		if f := fitOf(s, "parts.propeller.thrust"); f.Low <= 0.18 && 0.18 <= f.High {
			in++
		}
	}
	// The scatter grows with the figure, for which the band is a little narrow.
	if share := float64(in) / 400; share < 0.88 || share > 0.99 {
		t.Errorf("the truth lies in %.1f %% of the bands", 100*share)
	}
}

func TestStandsThatCannotBe(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 2))
	spoilt := func(with func(*StandRow)) []StandRow {
		rows := sweep(t, standParts, 0, r)
		for i := range rows {
			with(&rows[i])
		}
		return rows
	}
	for _, c := range []struct {
		rows []StandRow
		says string
	}{
		{spoilt(func(x *StandRow) { x.Thrust *= 1000 / Gravity }), "in grams"},
		{spoilt(func(x *StandRow) { x.Thrust /= Gravity }), "in kilograms"},
		{spoilt(func(x *StandRow) { x.Thrust *= 4 }), "all four motors"},
		{spoilt(func(x *StandRow) { x.Rpm /= 60 }), "turns a second"},
		{spoilt(func(x *StandRow) { x.Duty /= 100 }), "is it a share?"},
		{spoilt(func(x *StandRow) { x.Duty = 1000 + 10*x.Duty }), "the pulse's length"},
		{spoilt(func(x *StandRow) { x.Amps /= 4 }), "push more than its power gives"},
		{spoilt(func(x *StandRow) { x.Thrust *= 1e7 }), "look at the units"},
		{sweep(t, standParts, 0, r)[:3], "3 rows"},
		{nil, "0 rows"},
	} {
		if _, err := FitStand(standParts, c.rows, Density); err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("wanted %q, got %v", c.says, err)
		}
	}
	if _, err := FitStand(quad.Parts{}, sweep(t, standParts, 0, r), Density); quad.AsFault(err) == nil || quad.AsFault(err).Place != "parts.propeller.diameter" {
		t.Errorf("without a diameter: %v", err)
	}
}

// A table with heads of its own, units in them, out of order.
func TestStandRowsOfATable(t *testing.T) {
	table, err := columns.Read([]byte("Throttle (%),RPM,Thrust (g),Current (A),Voltage (V)\n60,20000,700,9,23.8\n20,8000,100,1,24\n40,15000,400,4,23.9\n"))
	if err != nil {
		t.Fatal(err)
	}
	rows, faults := table.Take(StandColumns, columns.Guess(table.Head, StandColumns))
	if len(faults) > 0 {
		t.Fatal(faults)
	}
	got, sorted := StandRows(rows)
	if sorted || len(got) != 3 || got[0].Rpm != 8000 || got[2].Duty != 60 {
		t.Errorf("%+v, sorted %v", got, sorted)
	}
	near(t, "grams as newtons", got[1].Thrust, 0.4*Gravity, 1e-9)
	near(t, "current", got[2].Amps, 9, 0)
}

// Whatever table is brought, it is fitted with finite figures or refused in a sentence.
func FuzzStand(f *testing.F) {
	f.Add("RPM,Thrust (g),Throttle (%),Current (A),Voltage (V)\n8000,82,20,1.1,24\n15600,312,40,6.4,23.9\n22800,668,60,19.5,23.6\n29000,1080,80,39,23.1\n")
	f.Add("rpm;thrust\n1e308;1e308\n1;1\n2;2\n3;3\n")
	f.Add("rpm\tthrust\ttorque\n0\t0\t0\n")
	f.Fuzz(func(t *testing.T, text string) {
		table, err := columns.Read([]byte(text))
		if err != nil {
			return
		}
		rows, _ := table.Take(StandColumns, columns.Guess(table.Head, StandColumns))
		list, _ := StandRows(rows)
		s, err := FitStand(standParts, list, Density)
		if err != nil {
			if quad.AsFault(err) == nil || quad.AsFault(err).Sentence == "" {
				t.Errorf("refused without a word: %v", err)
			}
			return
		}
		for _, e := range s.Fits {
			if math.IsNaN(e.Value+e.Low) || math.IsInf(e.Value+e.Low, 0) || e.Low > e.Value {
				t.Errorf("%+v", e)
			}
		}
	})
}
