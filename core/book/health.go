package book

import (
	"math"
	"time"

	"vividperch/core/power"
	"vividperch/core/quad"
)

// Wear is what the life of a pack says of it.
type Wear struct {
	// Retire says that it should fly no more; Look that it should be looked at. Words give the reason, or that it is well; empty where nothing was measured.
	Retire bool   `json:"retire"`
	Look   bool   `json:"look"`
	Words  string `json:"words"`
	// Until is about when its resistance will be what it retires by, as it has grown so far; zero where nobody can tell.
	Until *time.Time `json:"until,omitempty"`
}

// By which a pack is judged, as shares of what it was when new, and between its cells.
const (
	resistanceRetires, resistanceLook = 2.0, 1.5
	capacityRetires, capacityLook     = 0.7, 0.8
	spreadRetires, spreadLook         = 100.0, 30.0 // mV, at rest
	storedLow, storedHigh             = 3.7, 3.9    // V a cell at rest, put away
	storedHarms                       = 3.3         // V, below which it was
)

// Worn judges a pack by what was told of it and what was measured since, newest first. What it was when new is what was told, or the first that was measured.
func (p Pack) Worn() Wear {
	var w Wear
	say := func(retire bool, words string) {
		if retire && !w.Retire || w.Words == "" {
			w.Words = words
		}
		w.Retire, w.Look = w.Retire || retire, true
	}
	now, measured := p.Now(), false
	var newest PackMeasured
	for i := len(p.Health) - 1; i >= 0; i-- {
		h := p.Health[i]
		if h.Withdrawn != "" {
			continue
		}
		measured = true
		if h.Spread > 0 {
			newest.Spread = h.Spread
		}
		if h.Stored > 0 {
			newest.Stored = h.Stored
		}
	}
	if !measured {
		return w
	}
	fresh := p.fresh()
	if r := now.Resistance / fresh.Resistance; fresh.Resistance > 0 && r >= resistanceLook {
		say(r >= resistanceRetires, "Its resistance is "+quad.Number(math.Round(100*r)/100)+" times what it was: it sags sooner, and gets warm.")
	}
	if c := now.Capacity / fresh.Capacity; fresh.Capacity > 0 && now.Capacity > 0 && c <= capacityLook {
		say(c <= capacityRetires, "It holds "+quad.Number(math.Round(100*c))+" % of what it held.")
	}
	if newest.Spread >= spreadLook {
		say(newest.Spread >= spreadRetires, "Its cells are "+quad.Quantity(newest.Spread, "mV")+" apart at rest: the weakest is empty before the alarm knows.")
	}
	switch s := newest.Stored; {
	case s > 0 && s < storedHarms:
		say(true, "A cell was put away at "+quad.Quantity(s, "V")+": below "+quad.Quantity(storedHarms, "V")+" it is harmed for good.")
	case s > storedHigh:
		say(false, "It was put away at "+quad.Quantity(s, "V")+" a cell: full it ages in days. 3.8 V is what it keeps at.")
	case s > 0 && s < storedLow:
		say(false, "It was put away at "+quad.Quantity(s, "V")+" a cell: charge it to 3.8 V.")
	}
	if w.Retire {
		w.Words = "Retire it. " + w.Words
	}
	if w.Words == "" {
		w.Words = "It is well."
	}
	w.Until = p.worn(fresh.Resistance)
	return w
}

// Believes refuses a measurement that cannot be of this pack: more charge put back than it can have given.
func (p Pack) Believes(m PackMeasured) error {
	if p.Told.Capacity > 0 && m.Capacity > power.GivesAtMost*p.Told.Capacity {
		return quad.Faultf("above-capacity", "capacity", "a charger cannot put %s back into a pack of %s: another pack, or two of them", quad.Quantity(m.Capacity, "mAh"), quad.Quantity(p.Told.Capacity, "mAh"))
	}
	return nil
}

// fresh is a pack as it was when new, as far as that is known.
func (p Pack) fresh() quad.Pack {
	out := p.Told
	for i := len(p.Health) - 1; i >= 0; i-- {
		h := p.Health[i]
		if h.Withdrawn != "" {
			continue
		}
		if out.Resistance == 0 {
			out.Resistance = h.Resistance
		}
		if out.Capacity == 0 {
			out.Capacity = h.Capacity
		}
	}
	return out
}

// worn is when the straight line of least squares through the resistances that were measured reaches what it retires by; nil where they are fewer than three, lie within a fortnight, do
// not grow, or have got there.
func (p Pack) worn(fresh float64) *time.Time {
	var x, y []float64
	var last time.Time
	for i := len(p.Health) - 1; i >= 0; i-- {
		if h := p.Health[i]; h.Withdrawn == "" && h.Resistance > 0 {
			x, y = append(x, h.At.Sub(p.Health[len(p.Health)-1].At).Hours()/24), append(y, h.Resistance)
			last = h.At
		}
	}
	if len(x) < 3 || x[len(x)-1]-x[0] < 14 || fresh <= 0 {
		return nil
	}
	var mx, my, sxx, sxy float64
	for i := range x {
		mx, my = mx+x[i]/float64(len(x)), my+y[i]/float64(len(x))
	}
	for i := range x {
		sxx, sxy = sxx+(x[i]-mx)*(x[i]-mx), sxy+(x[i]-mx)*(y[i]-my)
	}
	by := sxy / sxx // mΩ a day
	left := resistanceRetires*fresh - (my + by*(x[len(x)-1]-mx))
	if by <= 0 || left <= 0 || left/by > 3650 {
		return nil
	}
	at := last.Add(time.Duration(left / by * 24 * float64(time.Hour))).Truncate(24 * time.Hour)
	return &at
}
