package motors

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/quad"
)

// idleTolerance is how much short of the margin is none, % of range: figures are read to a tenth.
const idleTolerance = 0.05

// Idle is what the idle search comes to.
type Idle struct {
	Known  bool    `json:"known"`            // every output was raised and lowered, or the worst of them was typed
	Least  float64 `json:"least" unit:"%"`   // at which every motor starts and keeps turning
	Worst  string  `json:"worst,omitempty"`  // the output that needs it
	Wanted float64 `json:"wanted" unit:"%"`  // with the margin
	Set    float64 `json:"set" unit:"%"`     // on the sheet
	Enough bool    `json:"enough"`           // what is set leaves the margin, or nothing is known against it
	Turns  float64 `json:"turns" unit:"rpm"` // at the idle that is set
	Lifts  float64 `json:"lifts" unit:"g"`   // all four at that idle
	Share  float64 `json:"share" unit:"%"`   // of the weight; 0 when it is not known
	Runs   []Run   `json:"runs"`
	// Backward are the outputs whose start turning backward is yet to be seen, where thrust is reversible.
	Backward []string `json:"backward"`
	// Late is the output whose motor starts far later than the others: something holds it.
	Late string `json:"late,omitempty"`
}

// Run is where one output's motor was seen to start, and to stop again.
type Run struct {
	Output string `json:"output"`
	quad.MotorStart
}

// IdleOf a quad, from where each of its motors starts and stops; where not all were run down, from the one figure for all of them.
func IdleOf(k quad.Known) Idle {
	out := Idle{Set: k.Sheet.Motors.Idle, Runs: []Run{}, Backward: []string{}}
	whole := len(k.Sheet.Motors.Outputs) > 0
	for _, letter := range quad.SortedKeys(k.Sheet.Motors.Outputs) {
		r := k.Readings.Motors.Starts[letter]
		if k.Sheet.Motors.Reversible && (r == nil || r.Value.BackStarts <= 0) {
			out.Backward = append(out.Backward, letter)
		}
		if r == nil {
			whole = false
			continue
		}
		out.Runs = append(out.Runs, Run{letter, r.Value})
		if least := r.Value.Least(); least > out.Least {
			out.Least, out.Worst = least, letter
		}
	}
	out.Late = Late(k.Readings.Motors.Starts)
	if out.Known = whole; !whole {
		out.Least, out.Worst = 0, ""
		if r := k.Readings.Motors.StartsAt; r != nil {
			out.Known, out.Least = true, r.Value
		}
	}
	if out.Known {
		out.Wanted = math.Round((out.Least+IdleMargin)*10) / 10
	}
	out.Enough = !out.Known || out.Set >= out.Least+IdleMargin-idleTolerance
	_, pack, ok := airframe.Heaviest(k.Parts)
	if !ok {
		return out
	}
	d, err := airframe.NewDrive(k.Parts, pack, airframe.RestCell*float64(pack.Cells), airframe.Density)
	if err != nil {
		return out
	}
	p := d.At(out.Set / 100)
	out.Turns = math.Round(p.Rotation * 30 / math.Pi)
	out.Lifts = math.Round(4 * p.Thrust / airframe.Gravity * 1000)
	if w := k.Readings.Airframe.Weight; w != nil && w.Value > 0 {
		out.Share = math.Round(1000*out.Lifts/w.Value) / 10
	}
	return out
}

// lateBy is how many times the mean of the others a motor needs to start before something is in its way.
const lateBy = 1.5

// Late is the output whose motor needs far more throttle to start than the others do, of three at least: something holds it. None when
// all are alike.
func Late(starts map[string]*quad.Reading[quad.MotorStart]) string {
	var letters []string
	sum := 0.0
	for _, letter := range quad.SortedKeys(starts) {
		if r := starts[letter]; r != nil {
			letters = append(letters, letter)
			sum += r.Value.Starts
		}
	}
	for _, letter := range letters {
		at, others := starts[letter].Value.Starts, float64(len(letters)-1)
		if others >= 2 && at > lateBy*(sum-at)/others {
			return letter
		}
	}
	return ""
}
