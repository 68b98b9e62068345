package link

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

func near(t *testing.T, what string, got, want, tolerance float64) {
	t.Helper()
	if !(math.Abs(got-want) <= tolerance) {
		t.Errorf("%s: %.5g, want %.5g", what, got, want)
	}
}

// Worked examples of an independent script, and the transmission equation written with the wavelength.
func TestBudgetWorkedExamples(t *testing.T) {
	near(t, "free-space loss, 2440 MHz over 1 km", FreeSpaceLoss(2440, 1), 100.20, 0.005)
	near(t, "range, km", Range(100, 3, -108, 20, 2440), 3.47, 0.005)
	near(t, "first zone, m", Fresnel(1.2, 2440), 6.07, 0.005)
	near(t, "horizon, km", Horizon(1.5, 30), 27.6, 0.05)
	for _, d := range []float64{0.01, 0.3, 4} {
		wave := 299792458.0 / 868e6
		near(t, "against the wavelength", FreeSpaceLoss(868, d), 20*math.Log10(4*math.Pi*d*1000/wave), 0.01)
	}
	near(t, "delay at 50 Hz through a pulse train", Delay(50, 20), 30, 1e-9)
	near(t, "delay at 500 Hz", Delay(500, 0), 1, 1e-9)
}

func TestPolarisationLoss(t *testing.T) {
	for _, c := range []struct {
		a, b quad.Polarisation
		want float64
	}{
		{quad.Linear, quad.Linear, 0}, {quad.Linear, quad.Crossed, 20}, {quad.RightHand, quad.LeftHand, 20}, {quad.RightHand, quad.RightHand, 0},
		{quad.Linear, quad.RightHand, 3}, {quad.LeftHand, quad.Crossed, 3}, {"", quad.Linear, 0},
	} {
		if got := PolarisationLoss(c.a, c.b); got != c.want || got != PolarisationLoss(c.b, c.a) {
			t.Errorf("%s and %s lose %v dB, want %v", c.a, c.b, got, c.want)
		}
	}
}

func TestBudgetOf(t *testing.T) {
	g := gear(t, "Tidewire")
	var k quad.Known
	k.Parts.RadioModule = quad.RadioModule{Link: "Tidewire", Band: "2.4 GHz", Power: 100, Gain: 2, Polarisation: quad.Linear}
	k.Parts.Receiver = quad.Receiver{Link: "Tidewire", Band: "2.4 GHz", Gain: 1, Polarisation: quad.Linear, Frame: 2}
	k.Radio.Rate = 250
	b, err := BudgetOf(g, k, UsualPath)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "safe range, m", b.Safe, 3470, 5)
	// At its own range the strength is the margin above the sensitivity, whatever the formula of the range.
	near(t, "strength at the safe range", b.At(b.Safe), -108+20, 0.01)
	near(t, "strength at the least range", b.At(b.Least), -108+10, 0.01)
	near(t, "strength at the farthest", b.At(b.Farthest), -108, 0.01)
	near(t, "delay, ms", b.Delay, 4, 1e-9)
	rates := b.Over(g, 2, UsualPath)
	for i := 1; i < len(rates); i++ {
		if rates[i].Safe >= rates[i-1].Safe || rates[i].Delay >= rates[i-1].Delay {
			t.Error("faster is nearer and fresher")
		}
	}
	k.Parts.Receiver.Polarisation = quad.Crossed
	crossed, _ := BudgetOf(g, k, Path{Body: 6, Ground: 1.5, Air: 30})
	near(t, "20 dB crossed and 6 dB of body cost a factor", b.Safe/crossed.Safe, math.Pow(10, 26.0/20), 1e-6)
	k.Parts.RadioModule.Power = 0
	if _, err := BudgetOf(g, k, UsualPath); quad.AsFault(err) == nil {
		t.Error("a budget without power")
	}
	if a := Alarms(-108); a.Strength != -98 || a.StrengthLast != -103 || a.Quality != 70 || a.QualityLast != 50 {
		t.Errorf("%+v", a)
	}
}
