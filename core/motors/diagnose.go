package motors

import (
	"fmt"

	"vividperch/core/quad"
)

// Order names how outputs and corners are exchanged.
type Order string

// Orders. Neighbours and opposites are meant by the way round the frame, so they hold for every layout.
const (
	AsPlanned     Order = "asPlanned"
	Opposite      Order = "opposite"      // two outputs of one spin, across the middle
	Neighbours    Order = "neighbours"    // two next to each other, of unlike spin
	TwoPairs      Order = "twoPairs"      // two exchanges at once
	RingOfThree   Order = "ringOfThree"   // three moved on in turn
	RingOfFour    Order = "ringOfFour"    // all four moved on in turn
	NotAnExchange Order = "notAnExchange" // not all seen yet, or two drive one corner
)

// Correction is the shortest way from what was seen to a quad that flies.
type Correction struct {
	Problems []Problem
	Order    Order
	// Remap gives each output the corner where it was seen; only those that change are listed.
	Remap map[string]quad.Corner
	// Reverse lists the outputs whose direction must change, in alphabetical order.
	Reverse []string
	// Declare is set when declaring the other rotation is part of the shortest way: it takes the place of more than half of the
	// reversals, and wants propellers of the other hand on every corner.
	Declare quad.Rotation
	// Refit lists the corners whose propeller, as it was noted, is then of the wrong hand, in the order of quad.Corners.
	Refit []quad.Corner
	// Doubtful lists corners that two outputs were seen to drive: a reading must be wrong.
	Doubtful []quad.Corner
}

// Other rotation of the two.
func Other(r quad.Rotation) quad.Rotation {
	if r == quad.FrontLeftClockwise {
		return quad.FrontLeftCounterClockwise
	}
	return quad.FrontLeftClockwise
}

// Correct compares seen outputs, and propellers where their hand was noted, with the plan. Outputs not seen are left as they are. Where
// two ways take as many acts, the one without a declaration is given.
func Correct(plan map[string]quad.OutputPlan, rotation quad.Rotation, seen map[string]quad.MotorSeen, hands map[quad.Corner]quad.Spin) Correction {
	out := Correction{Remap: map[string]quad.Corner{}, Order: orderOf(plan, seen)}
	at := map[quad.Corner]int{}
	for _, letter := range quad.SortedKeys(seen) {
		s := seen[letter]
		at[s.Corner]++
		if at[s.Corner] == 2 {
			out.Doubtful = append(out.Doubtful, s.Corner)
		}
		want := rotation.Wants(s.Corner)
		p := Problem{Output: letter, Meant: plan[letter].Corner, Corner: s.Corner, Spin: s.Spin, Want: want, Place: plan[letter].Corner != s.Corner, Turn: s.Spin != want}
		if p.Place {
			out.Remap[letter] = s.Corner
		}
		if p.Place || p.Turn {
			out.Problems = append(out.Problems, p)
		}
	}
	out.Reverse, out.Refit = turnsFor(rotation, seen, hands)
	if len(plan) == 4 && len(seen) == 4 && len(out.Doubtful) == 0 {
		if reverse, refit := turnsFor(Other(rotation), seen, hands); 1+len(reverse)+len(refit) < len(out.Reverse)+len(out.Refit) {
			out.Declare, out.Reverse, out.Refit = Other(rotation), reverse, refit
		}
	}
	return out
}

// turnsFor a rotation: the outputs to reverse, and the corners whose noted propeller then does not fit.
func turnsFor(rotation quad.Rotation, seen map[string]quad.MotorSeen, hands map[quad.Corner]quad.Spin) (reverse []string, refit []quad.Corner) {
	for _, letter := range quad.SortedKeys(seen) {
		if s := seen[letter]; s.Spin != rotation.Wants(s.Corner) {
			reverse = append(reverse, letter)
		}
	}
	for _, c := range quad.Corners {
		if hand, noted := hands[c]; noted && hand != rotation.Wants(c) {
			refit = append(refit, c)
		}
	}
	return reverse, refit
}

// orderOf four seen outputs against the plan.
func orderOf(plan map[string]quad.OutputPlan, seen map[string]quad.MotorSeen) Order {
	if len(plan) != 4 || len(seen) != 4 {
		return NotAnExchange
	}
	to := [4]int{-1, -1, -1, -1}
	hit := [4]bool{}
	for letter, p := range plan {
		s, ok := seen[letter]
		from, at := p.Corner.Index(), s.Corner.Index()
		if !ok || from < 0 || at < 0 || hit[at] || to[from] >= 0 {
			return NotAnExchange
		}
		to[from], hit[at] = at, true
	}
	moved := []int{}
	back := true
	for i, k := range to {
		if i != k {
			moved = append(moved, i)
			back = back && to[k] == i
		}
	}
	switch {
	case len(moved) == 0:
		return AsPlanned
	case len(moved) == 2 && moved[0]+moved[1] == 3: // front left and rear right, front right and rear left
		return Opposite
	case len(moved) == 2:
		return Neighbours
	case len(moved) == 3:
		return RingOfThree
	case back:
		return TwoPairs
	}
	return RingOfFour
}

// ActKind is what kind of thing an act is.
type ActKind string

// Kinds of acts.
const (
	ActRemap   ActKind = "remap"
	ActReverse ActKind = "reverse"
	ActDeclare ActKind = "declare"
	ActRefit   ActKind = "refit"
)

// Act is one thing to do, with what it changes on the sheet.
type Act struct {
	Kind  ActKind   `json:"kind" enum:"remap,reverse,declare,refit"`
	Words string    `json:"words"`
	Path  quad.Path `json:"path,omitempty"` // on the sheet; nothing for a propeller
	Value string    `json:"value,omitempty"`
}

// List of a correction's acts, in the order to do them. plan has what is set now.
func (c Correction) List(plan map[string]quad.OutputPlan) []Act {
	out := []Act{}
	for _, letter := range quad.SortedKeys(c.Remap) {
		corner := c.Remap[letter]
		out = append(out, Act{ActRemap, fmt.Sprintf("Give output %s the %s corner, where it was seen", letter, corner.Words()), quad.Path("sheet.motors.outputs." + letter + ".corner"), string(corner)})
	}
	if c.Declare != "" {
		out = append(out, Act{ActDeclare, "Declare the other rotation: front left " + c.Declare.Wants(quad.FrontLeft).Words(), "sheet.craft.rotation", string(c.Declare)})
	}
	for _, letter := range c.Reverse {
		to := "true"
		if plan[letter].Reversed {
			to = "false"
		}
		out = append(out, Act{ActReverse, "Reverse output " + letter + " in its speed controller, or swap any two of its three motor wires, pack out", quad.Path("sheet.motors.outputs." + letter + ".reversed"), to})
	}
	for _, corner := range c.Refit {
		out = append(out, Act{Kind: ActRefit, Words: "Fit the propeller of the other hand " + corner.Words()})
	}
	return out
}

// Story of an order in words: what flight makes of it.
func (o Order) Story() string {
	switch o {
	case Opposite:
		return "Two outputs of one spin are exchanged across the middle: the axis that runs between them is fed back the wrong way round. It flips at lift-off."
	case Neighbours:
		return "Two neighbouring outputs are exchanged: one axis and yaw are answered by each other. It flips, and turns as it does."
	case TwoPairs:
		return "Two pairs of outputs are exchanged at once: an axis or two are fed back the wrong way. It flips at lift-off."
	case RingOfThree, RingOfFour:
		return "The outputs are moved round: every axis is answered by another. It flips at lift-off."
	}
	return ""
}

// RotationsSeen are the rotation plans to choose from, by what was seen of outputs: the one that most motors agree with, both where as many
// speak for either.
func RotationsSeen(seen map[string]quad.MotorSeen) []quad.Rotation {
	both := []quad.Rotation{quad.FrontLeftClockwise, quad.FrontLeftCounterClockwise}
	var agree [2]int
	for _, s := range seen {
		for i, r := range both {
			if s.Spin == r.Wants(s.Corner) {
				agree[i]++
			}
		}
	}
	switch {
	case agree[0] > agree[1]:
		return both[:1]
	case agree[1] > agree[0]:
		return both[1:]
	}
	return both
}
