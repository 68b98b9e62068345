package quad

// Mark tells one board from all others by what can be read of it without asking its firmware.
type Mark struct {
	Target string `json:"target" label:"Board target"`
	Serial string `json:"serial,omitempty" label:"Number of the board" optional:"yes"`
	// Quad is the name under which a bench knows the quad that it lies in; boards without a number are told apart by it.
	Quad string `json:"quad,omitempty" label:"Quad on the bench" optional:"yes"`
}

// Told says whether the mark tells boards of one kind apart at all.
func (m Mark) Told() bool { return m.Serial != "" || m.Quad != "" }

// Is says whether two marks are one board's. The number decides; two boards without one are the same only where the bench
// names the same quad, and a board with a number is never one without.
func (m Mark) Is(other Mark) bool {
	switch {
	case m.Target != other.Target && m.Target != "" && other.Target != "":
		return false
	case m.Serial != "" || other.Serial != "":
		return m.Serial == other.Serial
	}
	return m.Quad != "" && m.Quad == other.Quad
}

// Words of it, for a sentence.
func (m Mark) Words() string {
	switch {
	case m.Serial != "" && m.Quad != "":
		return m.Quad + " (board " + m.Serial + ")"
	case m.Serial != "":
		return "board " + m.Serial
	case m.Quad != "":
		return m.Quad
	case m.Target != "":
		return "a " + m.Target + " without a number"
	}
	return "a board without a number"
}
