package airframe

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"

	"vividperch/core/columns"
	"vividperch/core/quad"
)

// StandRow is one line of a thrust stand: what one motor did with the propeller.
type StandRow struct {
	Rpm    float64 `json:"rpm" unit:"rpm"`
	Thrust float64 `json:"thrust" unit:"N"`
	Duty   float64 `json:"duty" unit:"%"`     // 0 is not told
	Volts  float64 `json:"volts" unit:"V"`    // at the speed controller; 0 is not told
	Amps   float64 `json:"amps" unit:"A"`     // from the supply; 0 is not told
	Torque float64 `json:"torque" unit:"N·m"` // 0 is not told
}

// StandColumns are what the columns of a stand's table can be.
var StandColumns = []columns.Heading{
	{Key: "rpm", Label: "Rotation", Unit: "rpm", Needed: true, Words: []string{"rpm", "speed", "rotation speed"}},
	{Key: "thrust", Label: "Thrust", Unit: "N", Needed: true, Words: []string{"thrust", "force", "pull"}},
	{Key: "duty", Label: "Throttle", Unit: "%", Words: []string{"throttle", "duty", "signal"}},
	{Key: "volts", Label: "Voltage", Unit: "V", Words: []string{"voltage", "volts", "v"}},
	{Key: "amps", Label: "Current", Unit: "A", Words: []string{"current", "amps", "a"}},
	{Key: "torque", Label: "Torque", Unit: "N·m", Words: []string{"torque", "moment"}},
}

// StandRows of a table's rows, in the order of their rotation; sorted says that they were.
func StandRows(rows []columns.Row) (out []StandRow, sorted bool) {
	for _, r := range rows {
		f := r.Figures
		out = append(out, StandRow{f["rpm"], f["thrust"], f["duty"], f["volts"], f["amps"], f["torque"]})
	}
	by := func(a, b StandRow) int { return cmp.Compare(a.Rpm, b.Rpm) }
	sorted = slices.IsSortedFunc(out, by)
	slices.SortStableFunc(out, by)
	return out, sorted
}

// Stand is what the figures of a thrust stand come to.
type Stand struct {
	// Fits of coefficients and winding resistance, each with the band in which it lies 19 times of 20; only what the columns tell.
	Fits []quad.Estimate `json:"fits"`
	Rows []StandRow      `json:"rows"`
	// Thrusts are what the fit says at each row, N, and Off how far the rows scatter about it, as a share of the largest.
	Thrusts []float64 `json:"thrusts" unit:"N"`
	Off     float64   `json:"off" unit:"%"`
}

// slope of y over x through nothing, by least squares, with what it is off by, 19 times of 20: by each row's own scatter (White's estimate of the variance), as that of a
// stand grows with the figure. Two rows at least.
func slope(x, y []float64) (by, within float64) {
	var xx, xy float64
	for i := range x {
		xx, xy = xx+x[i]*x[i], xy+x[i]*y[i]
	}
	by = xy / xx
	left, n := 0.0, float64(len(x))
	for i := range x {
		e := x[i] * (y[i] - by*x[i])
		left += e * e
	}
	t := distuv.StudentsT{Sigma: 1, Nu: n - 1}
	return by, t.Quantile(0.975) * math.Sqrt(left*n/(n-1)) / xx
}

// leastRows of a stand that tell anything.
const leastRows = 4

// FitStand finds a propeller's coefficients by what a stand measured of one motor with it, in air of a density: T over ρ n² D⁴ for the thrust, and for the power either
// the torque that was measured, or that of the motor's current, Kt (I - I0) with I = amps / duty. With duty, volts and amps the winding's resistance follows from d V - ω / KV = R I.
// What cannot be is a Fault that names what is likely meant.
func FitStand(p quad.Parts, rows []StandRow, density float64) (*Stand, error) {
	d := p.Propeller.Diameter / 1000
	if !(d > 0) {
		return nil, quad.Faultf("not-told", "parts.propeller.diameter", "the propeller's diameter is needed")
	}
	var n2, thrust, n3, torque, amps, volts []float64
	kt := 0.0
	if p.Motor.KV > 0 {
		kt = 60 / (2 * math.Pi * p.Motor.KV)
	}
	for _, r := range rows {
		if !(r.Rpm > 0) || !(r.Thrust > 0) {
			continue
		}
		n := r.Rpm / 60
		n2, thrust = append(n2, density*n*n*math.Pow(d, 4)), append(thrust, r.Thrust)
		inMotor := 0.0
		if r.Duty > 1 && r.Amps > 0 {
			inMotor = r.Amps / (r.Duty / 100)
		}
		switch {
		case r.Torque > 0:
			n3, torque = append(n3, density*n*n*math.Pow(d, 5)/(2*math.Pi)), append(torque, r.Torque)
		case inMotor > p.Motor.IdleCurrent && kt > 0:
			n3, torque = append(n3, density*n*n*math.Pow(d, 5)/(2*math.Pi)), append(torque, kt*(inMotor-p.Motor.IdleCurrent))
		}
		if inMotor > 0 && r.Volts > 0 && kt > 0 {
			amps, volts = append(amps, inMotor), append(volts, r.Duty/100*r.Volts-2*math.Pi*n*kt)
		}
	}
	switch most := slices.MaxFunc(append(rows, StandRow{}), func(a, b StandRow) int { return cmp.Compare(a.Duty, b.Duty) }).Duty; {
	case most > 0 && most <= 1:
		return nil, quad.Faultf("other-units", "rows", "the throttle goes to %s at most; is it a share? It is wanted in percent", quad.Number(most))
	case most > 100:
		return nil, quad.Faultf("other-units", "rows", "the throttle goes to %s; is it the pulse's length? It is wanted in percent", quad.Number(most))
	}
	if len(thrust) < leastRows {
		return nil, quad.Faultf("too-few", "rows", "%s with rotation and thrust; %d at least tell a propeller", quad.Count(len(thrust), "row", "rows"), leastRows)
	}
	out := &Stand{Rows: rows, Fits: []quad.Estimate{}}
	put := func(path quad.Path, by, within float64) {
		out.Fits = append(out.Fits, quad.Estimate{Path: path, Value: quad.Significant(by), Low: quad.Significant(max(by-within, by/10)), High: quad.Significant(by + within), By: quad.ByStand})
	}
	ct, within := slope(n2, thrust)
	if err := likely(ct); err != nil {
		return nil, err
	}
	put(banded[0], ct, within)
	if len(torque) >= leastRows {
		if cp, within := slope(n3, torque); quad.Plausible(banded[1], cp) {
			if Merit(quad.Propeller{Thrust: ct, Power: cp}) > 1 {
				return nil, quad.Faultf("impossible", "rows", "by these figures the propeller would push more than its power gives; is the current that of one motor, and the throttle in percent?")
			}
			put(banded[1], cp, within)
		}
	}
	if len(volts) >= leastRows {
		if r, within := slope(amps, volts); r > 0 && quad.Plausible(banded[2], 1000*r) {
			put(banded[2], 1000*r, 1000*within)
		}
	}
	most, off := slices.Max(thrust), 0.0
	for i := range thrust {
		off += (thrust[i] - ct*n2[i]) * (thrust[i] - ct*n2[i])
	}
	out.Off = 100 * math.Sqrt(off/float64(len(thrust))) / most
	for _, r := range rows {
		n := r.Rpm / 60
		out.Thrusts = append(out.Thrusts, ct*density*n*n*math.Pow(d, 4))
	}
	return out, nil
}

// Thrust coefficients of propellers that are made.
const thrustLeast, thrustMost = 0.02, 0.45

// likely says what is likely wrong with a table by which a propeller has a thrust coefficient that none has.
func likely(ct float64) error {
	if ct >= thrustLeast && ct <= thrustMost {
		return nil
	}
	for _, slip := range []struct {
		by    float64 // times what it is
		words string
	}{
		{1000 / Gravity, "is the thrust in grams, and its head says nothing of it? Then write “Thrust (g)” above it"},
		{1 / Gravity, "is the thrust in kilograms? Then write “Thrust (kg)” above it"},
		{4, "is the thrust that of all four motors?"},
		{3600, "is the rotation in turns a second? Then write “Rotation (1/s)” above it"},
	} {
		if x := ct / slip.by; x >= 1.5*thrustLeast && x <= 0.7*thrustMost {
			return quad.Faultf("other-units", "rows", "by these figures the propeller has a thrust coefficient of %s, and none has; %s", quad.Number(quad.Significant(ct)), slip.words)
		}
	}
	return quad.Faultf("impossible", "rows", "by these figures the propeller has a thrust coefficient of %s, and none has; look at the units of thrust and rotation, and at the propeller's diameter", quad.Number(quad.Significant(ct)))
}
