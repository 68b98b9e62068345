package power

import (
	"cmp"
	"math"
)

// Given is what a pack gave at one moment of a flight, at its lead.
type Given struct {
	Time  float64 `json:"time" unit:"s"`
	Volts float64 `json:"volts" unit:"V"`
	Amps  float64 `json:"amps" unit:"A"`
}

// Flown is a flight with a pack of so many cells that has to be down at a landing voltage under load. Low says that it ended because a cell at rest was as low as one may be; else it
// was over before anybody had to land. What it gave comes in the order of time.
type Flown struct {
	Given []Given
	Cells int
	Land  float64 // V a cell
	Low   bool
}

// Alarm sounds once the voltage has stayed below its threshold for the delay, and again after every repeat for as long as it stays there.
type Alarm struct {
	PerCell float64 `json:"perCell" unit:"V"`
	Delay   float64 `json:"delay" unit:"s"`
	Repeat  float64 `json:"repeat" unit:"s"` // 0 sounds once
}

// Ring is one sounding of an alarm. False says that the voltage came back above the threshold within [comesBack] seconds: the pack only sagged.
type Ring struct {
	At    float64 `json:"at" unit:"s"`
	False bool    `json:"false"`
}

// Replayed is what an alarm would have done over a flight.
type Replayed struct {
	Rings []Ring `json:"rings"`
	False int    `json:"false"`
	// True says that one of them was true, and when the first was; what was left then until the pack had to be down.
	True    bool    `json:"true"`
	At      float64 `json:"at" unit:"s"`
	Seconds float64 `json:"seconds" unit:"s"`
	Energy  float64 `json:"energy" unit:"Wh"`
	Charge  float64 `json:"charge" unit:"mAh"`
	// AtLeast says that the flight ended before the pack had to be down: there was at least so much left.
	AtLeast bool `json:"atLeast"`
}

// comesBack is within how many seconds a voltage that is above the threshold again makes an alarm a false one.
const comesBack = 10.0

// staysDown is for how long a cell under load is below the landing voltage until the pack has to be down, s: shorter is a sag.
const staysDown = 10.0

// DownBy is when it has to be down: the beginning of the first [staysDown] seconds through which no cell is above the landing voltage under load, or its end where that was
// low. ended says that the flight was over before.
func (f Flown) DownBy() (at float64, ended bool) {
	if len(f.Given) == 0 {
		return 0, true
	}
	since := math.NaN()
	for _, s := range f.Given {
		if s.Volts >= f.Land*float64(f.Cells) {
			since = math.NaN()
			continue
		}
		if math.IsNaN(since) {
			since = s.Time
		}
		if s.Time-since >= staysDown {
			return since, false
		}
	}
	return f.Given[len(f.Given)-1].Time, !f.Low
}

// Replay an alarm over it.
func (f Flown) Replay(a Alarm) Replayed {
	out := Replayed{Rings: []Ring{}}
	limit := a.PerCell * float64(f.Cells)
	down, ended := f.DownBy()
	below, next := false, 0.0
	for i, s := range f.Given {
		if s.Volts >= limit {
			below = false
			continue
		}
		if !below {
			below, next = true, s.Time+a.Delay
		}
		if s.Time < next {
			continue
		}
		ring := Ring{At: s.Time, False: recovers(f.Given[i:], limit)}
		out.Rings = append(out.Rings, ring)
		if next = math.Inf(1); a.Repeat > 0 {
			next = s.Time + a.Repeat
		}
		switch {
		case ring.False:
			out.False++
		case !out.True:
			out.True, out.At, out.AtLeast = true, s.Time, ended
			out.Seconds, out.Energy, out.Charge = spent(f.Given[i:], down)
		}
	}
	return out
}

// recovers says whether a voltage is above a limit again soon.
func recovers(flight []Given, limit float64) bool {
	for _, s := range flight {
		if s.Time-flight[0].Time > comesBack {
			return false
		}
		if s.Volts >= limit {
			return true
		}
	}
	return false
}

// spent between the first sample and a moment: seconds, Wh and mAh, by the trapezoidal rule.
func spent(flight []Given, until float64) (seconds, energy, charge float64) {
	for i := 1; i < len(flight) && flight[i].Time <= until; i++ {
		a, b := flight[i-1], flight[i]
		dt := b.Time - a.Time
		energy += dt * (a.Volts*a.Amps + b.Volts*b.Amps) / 2 / 3600
		charge += dt * (a.Amps + b.Amps) / 2 / 3.6
	}
	return math.Max(0, until-flight[0].Time), energy, charge
}

// AlarmMap is what alarms of every threshold and delay would have done: Cells by rows of thresholds, each with its delays.
type AlarmMap struct {
	Thresholds []float64 `json:"thresholds" unit:"V"`
	Delays     []float64 `json:"delays" unit:"s"`
	False      [][]int   `json:"false"`
	// Seconds left at the first true one; below 0 there was none.
	Seconds [][]float64 `json:"seconds" unit:"s"`
}

// Map of alarms over it: thresholds from 3.2 to 3.9 V a cell, delays from none to ten seconds.
func (f Flown) Map() AlarmMap {
	m := AlarmMap{}
	for v := 320; v <= 390; v += 2 {
		m.Thresholds = append(m.Thresholds, float64(v)/100)
	}
	for d := 0; d <= 20; d++ {
		m.Delays = append(m.Delays, float64(d)/2)
	}
	for _, v := range m.Thresholds {
		falses, left := make([]int, len(m.Delays)), make([]float64, len(m.Delays))
		for j, d := range m.Delays {
			r := f.Replay(Alarm{PerCell: v, Delay: d})
			falses[j], left[j] = r.False, -1
			if r.True {
				left[j] = r.Seconds
			}
		}
		m.False, m.Seconds = append(m.False, falses), append(m.Seconds, left)
	}
	return m
}

// asLong is how many seconds more than are wanted an alarm may leave for a false one less: beyond that it only takes flying away.
const asLong = 60.0

// Recommend an alarm of a map that leaves so many seconds: of those that leave at most [asLong] more the one with the fewest false ones, of these the one with the shortest delay, and of these the one that
// lets fly the longest. Where all leave more, the one that leaves the least. ok is false where none leaves as much.
func (m AlarmMap) Recommend(leave float64) (a Alarm, ok bool) {
	better := func(falses int, left, delay float64, than int, thanLeft, thanDelay float64) bool {
		if far, thanFar := left > leave+asLong, thanLeft > leave+asLong; far || thanFar {
			return left < thanLeft
		}
		return cmp.Or(cmp.Compare(falses, than), cmp.Compare(delay, thanDelay), cmp.Compare(left, thanLeft)) < 0
	}
	fewest, least := 0, math.Inf(1)
	for i, v := range m.Thresholds {
		for j, d := range m.Delays {
			if n, s := m.False[i][j], m.Seconds[i][j]; s >= leave && s >= 0 && (!ok || better(n, s, d, fewest, least, a.Delay)) {
				a, fewest, least, ok = Alarm{PerCell: v, Delay: d}, n, s, true
			}
		}
	}
	return a, ok
}
