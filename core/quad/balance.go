package quad

import "math"

// PackPlace is the name among [Parts.Placed] of where the pack sits.
const PackPlace = "pack"

// Balance is where the centre of gravity lies, from the middle between the motors.
type Balance struct {
	Ahead float64 `json:"ahead" unit:"mm" label:"Ahead of the middle" least:"-300" most:"300" because:"beyond the arms nothing flies"`
	Right float64 `json:"right" unit:"mm" label:"Right of the middle" least:"-300" most:"300" because:"beyond the arms nothing flies"`
}

// Rounded to the millimetre.
func (b Balance) Rounded() Balance { return Balance{math.Round(b.Ahead), math.Round(b.Right)} }

// Words of it, by its sides.
func (b Balance) Words() string {
	ahead, right := "ahead of", "right of"
	if b.Ahead < 0 {
		ahead = "behind"
	}
	if b.Right < 0 {
		right = "left of"
	}
	switch {
	case b.Ahead == 0 && b.Right == 0:
		return "in the middle"
	case b.Right == 0:
		return Quantity(max(b.Ahead, -b.Ahead), "mm") + " " + ahead + " the middle"
	case b.Ahead == 0:
		return Quantity(max(b.Right, -b.Right), "mm") + " " + right + " the middle"
	}
	return Quantity(max(b.Ahead, -b.Ahead), "mm") + " " + ahead + " and " + Quantity(max(b.Right, -b.Right), "mm") + " " + right + " the middle"
}

// BalanceWith a pack in, as the placed parts make it: motors and whatever has no place lie about the middle, and balance each other. ok is false where
// nobody told where the pack sits, or what the rest weighs: of the heaviest thing unknown there is no centre.
func (p Parts) BalanceWith(pack Pack) (b Balance, ok bool) {
	at, told := p.Placed[PackPlace]
	total := p.Frame.Mass + pack.Mass
	if !told || !(p.Frame.Mass > 0) || !(pack.Mass > 0) {
		return b, false
	}
	ahead, right := pack.Mass*at.Ahead, pack.Mass*at.Right
	for _, name := range SortedKeys(p.Placed) {
		if x := p.Placed[name]; name != PackPlace {
			ahead, right = ahead+x.Mass*x.Ahead, right+x.Mass*x.Right
		}
	}
	return Balance{ahead / total, right / total}, true
}

// Heaviest of the assigned packs, by name; ok is false when none is assigned.
func (p Parts) Heaviest() (string, Pack, bool) {
	var best string
	for _, name := range SortedKeys(p.Packs) {
		if best == "" || p.Packs[name].Mass > p.Packs[best].Mass {
			best = name
		}
	}
	return best, p.Packs[best], best != ""
}

// BalanceHeaviest is [Parts.BalanceWith] the heaviest of the assigned packs.
func (p Parts) BalanceHeaviest() (Balance, bool) {
	_, pack, _ := p.Heaviest()
	return p.BalanceWith(pack)
}
