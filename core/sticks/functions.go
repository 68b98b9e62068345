package sticks

import (
	"maps"
	"math"
	"slices"
	"strings"

	"vividperch/core/quad"
)

// FunctionID names what a switch can decide.
type FunctionID string

const (
	Arm           FunctionID = "arm"
	LevelSelf     FunctionID = "selfLevel"
	LevelBlended  FunctionID = "blended"
	Beep          FunctionID = "beeper"
	IdleAuthority FunctionID = "authority"
	HoldPlace     FunctionID = "hold"
	ComeHome      FunctionID = "comeHome"
	HoldHeight    FunctionID = "heightHold"
	HoldHeading   FunctionID = "headingHold"
	FlyMission    FunctionID = "mission"
	RightItself   FunctionID = "selfRight"
	SoundMotors   FunctionID = "sounder"
	LightLamp     FunctionID = "lamp"
	RecordCamera  FunctionID = "record"
	MarkRecord    FunctionID = "mark"
	KeepQuiet     FunctionID = "quiet"
	SecondProfile FunctionID = "secondProfile"
	ThirdProfile  FunctionID = "thirdProfile"
)

// Enum implements [quad.Enumeration].
func (FunctionID) Enum() []string {
	var out []string
	for _, f := range everyFunction(quad.SticksSheet{}) {
		out = append(out, string(f.ID))
	}
	return out
}

// Function that the board does while a channel is inside a range.
type Function struct {
	ID   FunctionID `json:"id"`
	Path quad.Path  `json:"path"`
	Name string     `json:"name"`
	On   string     `json:"on"` // in words, what it does inside the range, and outside
	Off  string     `json:"off"`
	Rng  quad.Range `json:"range"`
}

// KeepsFromArming says whether a board will not arm while the function is on, see [Gates].
func (f Function) KeepsFromArming() bool {
	return slices.Contains(holding, f.ID) || f.ID == RightItself
}

// Flies says whether it changes how the quad flies.
func (f Function) Flies() bool { return !slices.Contains(beside, f.ID) }

// beside flying.
var beside = []FunctionID{Beep, SoundMotors, LightLamp, RecordCamera, MarkRecord, KeepQuiet}

// holding are the functions that fly by themselves: the gate of that name looks at them.
var holding = []FunctionID{HoldPlace, ComeHome, FlyMission}

// everyFunction that a sheet may put on a channel, in the order of their weight.
func everyFunction(s quad.SticksSheet) []Function {
	return []Function{
		{Arm, "sheet.sticks.arm", "arm", "armed", "safe", s.Arm},
		{LevelSelf, "sheet.sticks.selfLevel", "self-level", "self-level", "acro", s.SelfLevel},
		{LevelBlended, "sheet.sticks.blended", "blended", "blended", "acro", s.Blended},
		{Beep, "sheet.sticks.beeper", "the beeper", "beeper", "quiet", s.Beeper},
		{IdleAuthority, "sheet.sticks.authority", "authority at idle", "authority at idle", "still at idle", s.Authority},
		{HoldPlace, "sheet.sticks.hold", "position hold", "holds its place", "does not hold its place", s.Hold},
		{ComeHome, "sheet.sticks.comeHome", "come home", "comes home", "stays where it is flown", s.ComeHome},
		{HoldHeight, "sheet.sticks.heightHold", "height hold", "holds its height", "does not hold its height", s.HeightHold},
		{HoldHeading, "sheet.sticks.headingHold", "heading hold", "holds its heading", "does not hold its heading", s.HeadingHold},
		{FlyMission, "sheet.sticks.mission", "mission", "flies its mission", "flies no mission", s.Mission},
		{RightItself, "sheet.sticks.selfRight", "self-right", "self-rights", "does not self-right", s.SelfRight},
		{SoundMotors, "sheet.sticks.sounder", "the sounder", "sounds its motors", "motors silent", s.Sounder},
		{LightLamp, "sheet.sticks.lamp", "the lamp", "lamp on", "lamp off", s.Lamp},
		{RecordCamera, "sheet.sticks.record", "the camera", "camera records", "camera rests", s.Record},
		{MarkRecord, "sheet.sticks.mark", "mark", "marks the recording", "no mark", s.Mark},
		{KeepQuiet, "sheet.sticks.quiet", "quiet", "sounds and lamp off", "sounds and lamp as set", s.Quiet},
		{SecondProfile, "sheet.sticks.secondProfile", "the second profile", "second profile", "not the second profile", s.SecondProfile},
		{ThirdProfile, "sheet.sticks.thirdProfile", "the third profile", "third profile", "not the third profile", s.ThirdProfile},
	}
}

// FunctionPaths are where a sheet has the range of each function, in the order of their weight.
func FunctionPaths() []quad.Path {
	var out []quad.Path
	for _, f := range everyFunction(quad.SticksSheet{}) {
		out = append(out, f.Path)
	}
	return out
}

// offered are functions that a map shows: those of every firmware, what this one can hold, and whatever else is on some channel.
func offered(s quad.SticksSheet, holds func(quad.Path) bool) []Function {
	return slices.DeleteFunc(everyFunction(s), func(f Function) bool {
		return !f.Rng.Used() && !slices.Contains(everywhere, f.ID) && (holds == nil || !holds(f.Path+".channel"))
	})
}

// everywhere are functions that every firmware has.
var everywhere = []FunctionID{Arm, LevelSelf, LevelBlended, Beep, IdleAuthority}

// Functions that a sheet has on some channel, in the order of their weight.
func Functions(s quad.SticksSheet) []Function {
	return slices.DeleteFunc(everyFunction(s), func(f Function) bool { return !f.Rng.Used() })
}

// Arrival of one or more switches that matter for a channel, what arrives, and how far it is from the edges of a range.
type Arrival struct {
	At     map[string]string `json:"at"`
	Pulse  float64           `json:"pulse" unit:"µs"`
	Inside bool              `json:"inside"`
	Margin float64           `json:"margin" unit:"µs"`
}

// Arrivals that the switches with a say on a range's channel can take, by pulse.
func (b Switchboard) Arrivals(r quad.Range) []Arrival {
	var out []Arrival
	b.each(b.Drivers(r.Channel), func(at map[string]string) {
		us, driven := b.Pulse(r.Channel, at)
		if driven {
			out = append(out, Arrival{At: maps.Clone(at), Pulse: us, Inside: r.Holds(us), Margin: Margin(r, us)})
		}
	})
	slices.SortStableFunc(out, func(a, b Arrival) int {
		switch {
		case a.Pulse < b.Pulse:
			return -1
		case a.Pulse > b.Pulse:
			return 1
		}
		return 0
	})
	return out
}

// Margin of a pulse to the nearest edge of a range, µs, whichever side it is on. An edge at the very end of travel (900 and
// 2100 µs) is none: nothing lies beyond it.
func Margin(r quad.Range, us float64) float64 {
	low, high := us-r.From, r.To-us
	if r.From <= 900 {
		low = math.Inf(1)
	}
	if r.To >= 2100 {
		high = math.Inf(1)
	}
	if m := math.Min(low, high); !math.IsInf(m, 1) {
		return m
	}
	return 1200
}

// Overlap of two ranges on one channel: pulses that are in both.
type Overlap struct {
	A, B     Function
	From, To float64 // µs
}

// Overlaps of the functions' ranges, where they are on one channel.
func Overlaps(functions []Function) []Overlap {
	var out []Overlap
	for i, a := range functions {
		for _, b := range functions[i+1:] {
			from, to := max(a.Rng.From, b.Rng.From), min(a.Rng.To, b.Rng.To)
			if a.Rng.Channel == b.Rng.Channel && from <= to {
				out = append(out, Overlap{a, b, from, to})
			}
		}
	}
	return out
}

// Words of where switches stand.
func (p Arrival) Words() string {
	var out []string
	for _, name := range quad.SortedKeys(p.At) {
		out = append(out, name+" at "+p.At[name])
	}
	return strings.Join(out, ", ")
}
