package flight

import (
	"encoding/json"
	"strings"

	"vividperch/core/quad"
)

// aspects of what a flight depends on, each by the words in which a pilot knows it. Together they are all of an input: whatever changes the
// hash of one changes at least one of them.
var aspects = []struct {
	words string
	of    func(in Input, s Settings) any
}{
	{"the parts", func(in Input, _ Settings) any { return in.Parts }},
	{"the pack", func(in Input, _ Settings) any { return []any{in.Pack, in.CellVolt} }},
	{"the weight", func(in Input, _ Settings) any { return in.Mass }},
	{"where it balances", func(in Input, _ Settings) any { return in.Actual.Centre }},
	{"the wind", func(in Input, _ Settings) any { return in.Site }},
	{"what the motors and propellers do", func(in Input, s Settings) any {
		return []any{in.Actual.Outputs, in.Actual.Hands, in.Actual.Imbalance, in.Actual.Layout, s.Layout, s.Rotation, s.Places, s.Reverses}
	}},
	{"how the board lies, or its level", func(in Input, s Settings) any {
		return []any{in.Actual.TiltRoll, in.Actual.TiltPitch, in.Actual.Board, s.Board}
	}},
	{"how the sticks arrive", func(in Input, s Settings) any {
		return []any{in.Actual.Sticks, in.Actual.Channels, s.Order, s.Ranges, s.Deadband, s.IdleBelow}
	}},
	{"the switches", func(in Input, s Settings) any {
		return []any{in.AtRest, in.Mixes, s.Arm, s.SelfLevel, s.Blended, s.Blend, s.Authority, s.Firm, s.ArmTilt, s.ByStick}
	}},
	{"the gains", func(_ Input, s Settings) any { return []any{s.Gains, s.AngleLimit, s.Pull} }},
	{"the rates", func(_ Input, s Settings) any {
		if len(s.Others) == 0 {
			return []any{s.Family, s.Rates}
		}
		return []any{s.Family, s.Rates, s.Others}
	}},
	{"the throttle", func(_ Input, s Settings) any {
		out := []any{s.Idle, s.Limit, s.Cut, s.Curve, s.Protocol}
		if s.Even != 0 {
			out = append(out, s.Even)
		}
		return out
	}},
	{"the filters", func(in Input, s Settings) any {
		return []any{s.LoopRate, s.Filters, s.GyroCutoff, s.ChangeCutoff, s.Follows, in.Noise}
	}},
	{"what happens without a radio", func(in Input, s Settings) any { return []any{in.OnLoss, in.Preset, s.Guard, s.Policy, s.LandPush} }},
	{"how it navigates", func(in Input, s Settings) any {
		if !in.navigatesIn(FirstHover) {
			return nil
		}
		return []any{in.Actual.Place, s.Nav}
	}},
	{"the model of flight", func(in Input, _ Settings) any { return []any{Version, in.Seed, in.Ideal, in.Rate} }},
}

// aspectDigits is how much of an aspect's own hash is kept: enough to tell whether it is another.
const aspectDigits = 4

// Fingerprint of the first hover with an input: its hash, and behind it that of each of its aspects, so that it can be told later what has
// changed. An input with a figure that is none has none.
func Fingerprint(in Input, card Card) string {
	hash := HashInput(in, card)
	if hash == "" {
		return ""
	}
	out := strings.Builder{}
	out.WriteString(hash + " ")
	for _, a := range aspects {
		raw, err := json.Marshal(a.of(in, in.Settings))
		if err != nil {
			return ""
		}
		out.WriteString(quad.Hash(raw)[:aspectDigits])
	}
	return out.String()
}

// Since tells whether a first hover would be flown with something else than what was fingerprinted, and what that is, in words. Of one that was
// kept without its aspects it is not known what.
func Since(kept string, in Input, card Card) (changed bool, what []string) {
	now := Fingerprint(in, card)
	hash, was, _ := strings.Cut(kept, " ")
	nowHash, is, _ := strings.Cut(now, " ")
	if hash == nowHash && hash != "" {
		return false, nil
	}
	if len(was) != len(is) || len(is) != aspectDigits*len(aspects) {
		return true, nil
	}
	for i, a := range aspects {
		if from := i * aspectDigits; was[from:from+aspectDigits] != is[from:from+aspectDigits] {
			what = append(what, a.words)
		}
	}
	return true, what
}
