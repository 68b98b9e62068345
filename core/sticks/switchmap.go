package sticks

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"vividperch/core/quad"
)

// SwitchMap is what the switches decide, from the hand outwards: a column for each switch, its positions as the lever lies, and what
// flies at each of them.
type SwitchMap struct {
	Meanings []Function `json:"meanings"` // every one that a switch can have, on a channel or not
	Columns  []Column   `json:"columns"`
	// Loose are the meanings that no column holds: on no channel, or on one that nothing drives.
	Loose []Loose `json:"loose"`
}

// Column of the map: one switch, or one channel that mixes alone drive.
type Column struct {
	Name     string `json:"name"`
	Switch   string `json:"switch"` // empty where no switch drives the channel by itself
	Channel  int    `json:"channel"`
	Captured bool   `json:"captured"` // else its pulses are those of the plan
	Springs  bool   `json:"springs"`
	// Shared names what else drives the channel. A position is no single pulse then, and no meaning can be put on it.
	Shared []string `json:"shared"`
	// Cells from the position that is told first, which lies lowest.
	Cells []Cell `json:"cells"`
	// Marks between the cells: below the lowest, between each two, above the highest; one list more than there are cells.
	Marks [][]MapMark `json:"marks"`
	More  bool        `json:"more"` // it has more cells than are listed
}

// Cell is one position of a switch.
type Cell struct {
	Position string  `json:"position"`
	Low      float64 `json:"low" unit:"µs"` // what arrives: one pulse, or from low to high where something else drives the channel too
	High     float64 `json:"high" unit:"µs"`
	Words    string  `json:"words"` // what the board does, of all that looks at the channel; empty where nothing does
	Rest     bool    `json:"rest"`  // where it lies at power-up
	Lost     bool    `json:"lost"`  // what the receiver sends for it when the radio is gone
	Held     []Held  `json:"held"`  // each meaning of the channel
	// Below and Above are how far what arrives may move before something else is done; nil where nothing changes on that side.
	Below *ToEdge `json:"below,omitempty"`
	Above *ToEdge `json:"above,omitempty"`
	Hold  Hold    `json:"hold" enum:"sure,near,edge"` // of the nearer one
	// Nearer is the side on which it is.
	Nearer Side `json:"nearer" enum:"none,below,above"`
}

// Side of a pulse.
type Side string

const (
	Neither Side = "none"
	Below   Side = "below"
	Above   Side = "above"
)

// Held is one meaning in a cell.
type Held struct {
	Function FunctionID `json:"function"`
	On       Holding    `json:"on" enum:"yes,no,byTurns"`
}

// Holding says whether a meaning is on in a cell.
type Holding string

const (
	On      Holding = "yes"
	Off     Holding = "no"
	ByTurns Holding = "byTurns" // something else that drives the channel decides
)

// ToEdge is the way to an edge, µs, and what happens there.
type ToEdge struct {
	Us    float64 `json:"us" unit:"µs"`
	Words string  `json:"words"`
}

// MarkKind is what stands between two cells.
type MarkKind string

const (
	MarkEdge    MarkKind = "edge"    // a meaning begins or ends
	MarkGap     MarkKind = "gap"     // nothing is on
	MarkOverlap MarkKind = "overlap" // both modes are asked for
	MarkMissed  MarkKind = "missed"  // a meaning lies here, and no position reaches it
)

// MapMark between two cells.
type MapMark struct {
	Kind     MarkKind   `json:"kind" enum:"edge,gap,overlap,missed"`
	Function FunctionID `json:"function,omitempty"` // of an edge, or of what is missed
	Words    string     `json:"words"`
	// From and To are where it lies on the way from the lower cell to the upper one, 0 to 1; the same for an edge.
	From float64 `json:"from"`
	To   float64 `json:"to"`
}

// Loose is a meaning that no column holds.
type Loose struct {
	Function FunctionID `json:"function"`
	Words    string     `json:"words"` // why, where it is on a channel; empty where it is on none
}

// mostCells of a column: more than a hand tells apart.
const mostCells = 12

// ends of what a range can hold, µs.
const lowest, highest = 900.0, 2100.0

// Map of what the switches decide. holds says of a place whether the quad's firmware has a setting for it; where that is not known, nil.
func (b Switchboard) Map(k quad.Known, holds func(quad.Path) bool) SwitchMap {
	m := SwitchMap{Meanings: offered(k.Sheet.Sticks, holds), Columns: []Column{}, Loose: []Loose{}}
	captured := Captured(k)
	functions := Functions(k.Sheet.Sticks)
	on := func(channel int) []Function {
		return slices.DeleteFunc(slices.Clone(functions), func(f Function) bool { return f.Rng.Channel != channel })
	}
	drawn := map[int]bool{}
	column := func(c Column, cells []Cell, drivers []string) {
		drawn[c.Channel] = true
		for _, d := range drivers {
			_, seen := captured[d]
			c.Captured = c.Captured && seen
		}
		if c.More = len(cells) > mostCells; c.More {
			cells = cells[:mostCells]
		}
		c.Cells, c.Marks = append([]Cell{}, cells...), marks(cells, on(c.Channel)) // a list on the wire, also of none
		m.Columns = append(m.Columns, c)
	}
	// pulses of places, all of one cell.
	cell := func(position string, channel int, places []Arrival) Cell {
		out := Cell{Position: position, Low: places[0].Pulse, High: places[len(places)-1].Pulse, Held: []Held{}}
		out.judge(on(channel), places)
		return out
	}
	for _, name := range b.order {
		s, plan := b.switches[name], k.Radio.Switches[name]
		drivers := b.Drivers(s.Channel)
		places := b.Arrivals(quad.Range{Channel: s.Channel, From: lowest, To: highest})
		var cells []Cell
		for _, position := range positionsOf(s, plan) {
			own := slices.DeleteFunc(slices.Clone(places), func(p Arrival) bool { return p.At[name] != position })
			if len(own) == 0 {
				continue
			}
			c := cell(position, s.Channel, own)
			c.Rest, c.Lost = plan.Rest == position, plan.Lost == position
			cells = append(cells, c)
		}
		switches, mixes := b.Onto(s.Channel)
		shared := slices.DeleteFunc(switches, func(n string) bool { return n == name })
		for _, mix := range mixes {
			shared = append(shared, "the mix "+mix)
		}
		column(Column{Name: name, Switch: name, Channel: s.Channel, Captured: true, Springs: plan.Springs, Shared: append([]string{}, shared...)}, cells, drivers)
	}
	for _, mix := range b.mixes {
		if drawn[mix.To] || len(on(mix.To)) == 0 && mix.To <= len(quad.Axes) {
			continue // a stick's own channel that no meaning looks at
		}
		var cells []Cell
		for _, p := range b.Arrivals(quad.Range{Channel: mix.To, From: lowest, To: highest}) {
			cells = append(cells, cell(p.Words(), mix.To, []Arrival{p}))
		}
		_, mixes := b.Onto(mix.To)
		column(Column{Name: fmt.Sprintf("channel %d, mixed", mix.To), Channel: mix.To, Captured: true, Shared: mixes}, cells, b.Drivers(mix.To))
	}
	for _, f := range m.Meanings {
		switch {
		case !f.Rng.Used():
			m.Loose = append(m.Loose, Loose{Function: f.ID})
		case !drawn[f.Rng.Channel]:
			m.Loose = append(m.Loose, Loose{f.ID, fmt.Sprintf("on channel %d, which no switch drives", f.Rng.Channel)})
		}
	}
	return m
}

// positionsOf a switch in the order of its plan; one that was seen with others than are planned has those too, by pulse.
func positionsOf(s quad.SwitchSeen, plan quad.SwitchPlan) []string {
	var out []string
	for _, p := range plan.Positions {
		if _, ok := s.Positions[p]; ok {
			out = append(out, p)
		}
	}
	other := slices.DeleteFunc(quad.SortedKeys(s.Positions), func(p string) bool { return slices.Contains(out, p) })
	slices.SortStableFunc(other, func(a, b string) int { return cmp.Compare(s.Positions[a], s.Positions[b]) })
	return append(out, other...)
}

// judge what a cell holds of the meanings that look at its channel, and how surely.
func (c *Cell) judge(functions []Function, places []Arrival) {
	c.Hold, c.Nearer = Sure, Neither
	for _, f := range functions {
		inside := 0
		for _, p := range places {
			if f.Rng.Holds(p.Pulse) {
				inside++
			}
		}
		h := Held{f.ID, Off}
		switch {
		case inside == len(places):
			h.On = On
		case inside > 0:
			h.On = ByTurns
		}
		c.Held = append(c.Held, h)
	}
	var words []string
	for _, p := range places {
		if w := Does(functions, p.Pulse); w != "" && !slices.Contains(words, w) {
			words = append(words, w)
		}
		below, above := ToEdges(functions, p.Pulse)
		c.Below, c.Above = shorter(c.Below, below), shorter(c.Above, above)
	}
	c.Words = strings.Join(words, " or ")
	nearest := shorter(c.Below, c.Above)
	if nearest == nil {
		return
	}
	c.Hold, c.Nearer = HoldOf(nearest.Us), Above
	if nearest == c.Below {
		c.Nearer = Below
	}
}

func shorter(a, b *ToEdge) *ToEdge {
	if a == nil || b != nil && b.Us < a.Us {
		return b
	}
	return a
}

// Does says what the board does while a pulse arrives on a channel that some functions look at, in words.
func Does(functions []Function, us float64) string {
	words, mode := []string{}, -1
	for _, f := range functions {
		on := f.Rng.Holds(us)
		w := f.Off
		if on {
			w = f.On
		}
		if f.ID != LevelSelf && f.ID != LevelBlended {
			words = append(words, w)
			continue
		}
		// Of the two modes the first that is on is flown.
		switch {
		case mode < 0:
			mode, words = len(words), append(words, w)
		case on && words[mode] == f.Off:
			words[mode] = w
		}
	}
	return strings.Join(words, ", ")
}

// ToEdges from a pulse to the next edge below and above it at which one of some functions changes. An edge at the very end of travel is none:
// nothing lies beyond it.
func ToEdges(functions []Function, us float64) (below, above *ToEdge) {
	for _, f := range functions {
		r, ends, begins := f.Rng, f.On+" ends", f.On+" begins"
		switch {
		case r.Holds(us):
			if r.From > lowest {
				below = shorter(below, &ToEdge{us - r.From, ends})
			}
			if r.To < highest {
				above = shorter(above, &ToEdge{r.To - us, ends})
			}
		case r.From > r.To: // holds nothing; a rule of its own says so
		case us < r.From && r.From > lowest:
			above = shorter(above, &ToEdge{r.From - us, begins})
		case us > r.To && r.To < highest:
			below = shorter(below, &ToEdge{us - r.To, begins})
		}
	}
	return below, above
}

// marks below, between and above some cells: what the functions of their channel do on the way.
func marks(cells []Cell, functions []Function) [][]MapMark {
	out := make([][]MapMark, len(cells)+1)
	for i := range out {
		out[i] = []MapMark{}
	}
	if len(cells) == 0 {
		return out
	}
	reached := func(f Function) bool {
		return slices.ContainsFunc(cells, func(c Cell) bool {
			return slices.ContainsFunc(c.Held, func(h Held) bool { return h.Function == f.ID && h.On != Off })
		})
	}
	var missed, met []Function
	for _, f := range functions {
		if reached(f) {
			met = append(met, f)
		} else {
			missed = append(missed, f)
		}
	}
	for i := 1; i < len(cells); i++ {
		out[i] = crossing(cells[i-1], cells[i], met, functions)
	}
	for _, f := range missed {
		i, at := where(cells, f.Rng)
		words := fmt.Sprintf("%s from %.0f to %.0f µs: no position reaches it", f.On, f.Rng.From, f.Rng.To)
		if f.Rng.From > f.Rng.To {
			words = fmt.Sprintf("%s from %.0f to %.0f µs holds nothing", f.On, f.Rng.From, f.Rng.To)
		}
		out[i] = append(out[i], MapMark{MarkMissed, f.ID, words, at[0], at[1]})
	}
	for _, list := range out {
		slices.SortStableFunc(list, func(x, y MapMark) int { return cmp.Compare(x.From, y.From) })
	}
	return out
}

// where a range lies that no cell reaches: in which list of marks, and at what share of the way there.
func where(cells []Cell, r quad.Range) (i int, at [2]float64) {
	for i := 1; i < len(cells); i++ {
		a, b := gapOf(cells[i-1], cells[i])
		if low, high := min(a, b), max(a, b); r.From >= low && r.To <= high && low < high {
			return i, order(share(a, b, r.From), share(a, b, r.To))
		}
	}
	first, last := cells[0], cells[len(cells)-1]
	if (r.From > first.High) == (first.Low <= last.Low) {
		return len(cells), [2]float64{0.5, 0.5}
	}
	return 0, [2]float64{0.5, 0.5}
}

// gapOf pulses between two cells, from the lower one's to the upper one's.
func gapOf(lower, upper Cell) (a, b float64) {
	if lower.Low > upper.Low {
		return lower.Low, upper.High
	}
	return lower.High, upper.Low
}

func share(a, b, us float64) float64 { return max(0, min(1, (us-a)/(b-a))) }

func order(a, b float64) [2]float64 { return [2]float64{min(a, b), max(a, b)} }

// crossing from one cell to the next: each edge of the functions that some cell meets, the stretches in which nothing is on, and those in
// which both modes are asked for.
func crossing(lower, upper Cell, met, functions []Function) []MapMark {
	a, b := gapOf(lower, upper)
	low, high := min(a, b), max(a, b)
	out := []MapMark{}
	if low >= high || len(functions) == 0 {
		return out
	}
	mark := func(kind MarkKind, f FunctionID, from, to float64, words string) {
		at := order(share(a, b, from), share(a, b, to))
		out = append(out, MapMark{kind, f, words, at[0], at[1]})
	}
	up := a < b
	edge := func(f Function, us float64, begins bool) string {
		if begins {
			return fmt.Sprintf("%s begins at %.0f µs", f.On, us)
		}
		return fmt.Sprintf("%s ends at %.0f µs", f.On, us)
	}
	for _, f := range met {
		if from := f.Rng.From; from > low && from <= high && f.Rng.To >= from {
			mark(MarkEdge, f.ID, from, from, edge(f, from, up))
		}
		if to := f.Rng.To; to >= low && to < high && f.Rng.From <= to {
			mark(MarkEdge, f.ID, to, to, edge(f, to, !up))
		}
	}
	var ranges []quad.Range
	for _, f := range functions {
		ranges = append(ranges, f.Rng)
	}
	for _, g := range Gaps(ranges) {
		// Where it reaches a position, that position itself says what is off.
		if g.From > low && g.To < high {
			mark(MarkGap, "", g.From, g.To, fmt.Sprintf("nothing is on from %.0f to %.0f µs", g.From, g.To))
		}
	}
	for _, o := range Overlaps(met) {
		if from, to := max(o.From, low), min(o.To, high); o.A.ID == LevelSelf && o.B.ID == LevelBlended && from < to {
			mark(MarkOverlap, "", from, to, fmt.Sprintf("%s and %s both from %.0f to %.0f µs: %s wins", o.A.On, o.B.On, from, to, o.A.On))
		}
	}
	return out
}
