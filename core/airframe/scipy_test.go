package airframe

import (
	"bytes"
	"encoding/json"
	"math"
	"os/exec"
	"testing"

	"vividperch/core/quad"
)

// peer solves the same equations by root finding, without eliminating any of them: motor current, pack voltage and rotation at once.
const peer = `
import json, math, sys
from scipy import optimize
g = json.load(sys.stdin)
kt = 60 / (2 * math.pi * g["kv"])
out = []
for duty in g["duties"]:
    def off(x):
        w, amps, volts = x
        n = w / (2 * math.pi)
        torque = g["cp"] * 1.225 * n**2 * g["d"]**5 / (2 * math.pi)
        return [duty * volts - kt * w - g["ohm"] * amps, kt * (amps - g["none"]) - torque, (g["open"] - 4 * duty * amps * g["pack"] - volts)]
    w, amps, volts = optimize.fsolve(off, [duty * g["open"] / kt * 0.7, 5 + 40 * duty, g["open"] * 0.9], xtol=1e-13)
    n = w / (2 * math.pi)
    out.append([w, amps, volts, g["ct"] * 1.225 * n**2 * g["d"]**4])
json.dump(out, sys.stdout)
`

// Operating points against those that SciPy finds from the bare equations, where it is installed.
func TestOperatingPointsAgainstSciPy(t *testing.T) {
	python := ""
	for _, p := range []string{"python3", "/usr/bin/python3"} { // the distribution's own may stand behind another
		if exec.Command(p, "-c", "import scipy").Run() == nil {
			python = p
			break
		}
	}
	if python == "" {
		t.Skip("SciPy is not installed here")
	}
	for _, c := range []struct {
		kv, ohm, none, d, ct, cp, open, pack float64
	}{
		{1700, 0.055, 1.1, 0.127, 0.18, 0.12, 25.2, 0.018}, {920, 0.11, 0.6, 0.254, 0.11, 0.045, 11.4, 0.024}, {22000, 0.112, 1.2, 0.04, 0.154, 0.0865, 4.2, 0.02}, {640, 0.062, 1.2, 0.229, 0.12, 0.052, 22.2, 0.03},
	} {
		duties := []float64{0.15, 0.3, 0.5, 0.8, 1}
		raw, err := json.Marshal(map[string]any{"kv": c.kv, "ohm": c.ohm, "none": c.none, "d": c.d, "ct": c.ct, "cp": c.cp, "open": c.open, "pack": c.pack, "duties": duties})
		if err != nil {
			t.Fatal(err)
		}
		cmd := exec.Command(python, "-c", peer)
		cmd.Stdin = bytes.NewReader(raw)
		said, err := cmd.Output()
		if err != nil {
			t.Fatal(err)
		}
		var want [][4]float64
		if err := json.Unmarshal(said, &want); err != nil {
			t.Fatal(err)
		}
		d, err := NewDrive(quad.Parts{Motor: quad.Motor{KV: c.kv, Resistance: 1000 * c.ohm, IdleCurrent: c.none}, Propeller: quad.Propeller{Diameter: 1000 * c.d, Thrust: c.ct, Power: c.cp}}, quad.Pack{Resistance: 1000 * c.pack}, c.open, Density)
		if err != nil {
			t.Fatal(err)
		}
		for i, duty := range duties {
			p := d.At(duty)
			for k, got := range [4]float64{p.Rotation, p.Current, p.PackVoltage, p.Thrust} {
				if !(math.Abs(got-want[i][k]) <= 1e-7*math.Max(1, math.Abs(want[i][k]))) {
					t.Errorf("KV %g at %.2f: figure %d is %.9g, SciPy has %.9g", c.kv, duty, k, got, want[i][k])
				}
			}
		}
	}
}
