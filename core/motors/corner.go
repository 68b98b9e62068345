package motors

import "vividperch/core/quad"

// Verdict on one corner.
type Verdict string

const (
	Unseen      Verdict = "unseen"
	Unplanned   Verdict = "unplanned" // seen, and no rotation plan says which way it should turn
	AsWanted    Verdict = "asWanted"
	Against     Verdict = "against"     // turns against the plan
	OtherOutput Verdict = "otherOutput" // another output drives it than the sheet says
)

// CornerState is what is planned and what was seen at one corner.
type CornerState struct {
	Corner  quad.Corner `json:"corner"`
	Wants   quad.Spin   `json:"wants"`
	Planned string      `json:"planned"` // the output that the sheet has here
	Output  string      `json:"output"`  // the output that was seen to move it, or nothing
	Spin    quad.Spin   `json:"spin"`    // as seen
	Hand    quad.Spin   `json:"hand"`    // of the propeller noted as fitted, or nothing
	Verdict Verdict     `json:"verdict" enum:"unseen,unplanned,asWanted,against,otherOutput"`
}

// Corners compares plan and readings corner by corner, in the order of quad.Corners.
func Corners(k quad.Known) []CornerState {
	out := make([]CornerState, len(quad.Corners))
	rotation := k.Sheet.Craft.Rotation
	for i, c := range quad.Corners {
		s := CornerState{Corner: c, Wants: rotation.Wants(c), Verdict: Unseen}
		for letter, plan := range k.Sheet.Motors.Outputs {
			if plan.Corner == c && (s.Planned == "" || letter < s.Planned) {
				s.Planned = letter
			}
		}
		if m := k.Readings.FirstFlight.Propellers[string(c)]; m != nil {
			s.Hand = m.Value.Hand
		}
		for _, letter := range quad.SortedKeys(k.Readings.Motors.Outputs) {
			if m := k.Readings.Motors.Outputs[letter]; m != nil && m.Value.Corner == c && s.Output == "" {
				s.Output, s.Spin = letter, m.Value.Spin
			}
		}
		switch {
		case s.Output == "":
		case s.Wants == "":
			s.Verdict = Unplanned
		case s.Spin != s.Wants:
			s.Verdict = Against
		case s.Output != s.Planned:
			s.Verdict = OtherOutput
		default:
			s.Verdict = AsWanted
		}
		out[i] = s
	}
	return out
}
