package firmware

import (
	"math"
	"strconv"

	"vividperch/core/power"
	"vividperch/core/quad"
)

// CurrentMeter is how the boards of a line are told what flows: by two settings, which mean one thing with a current sensor and another without. Without one a board reckons from the output u of
// its motors (0 to 1): I = zero/ToAmp + scale/ToSlope (u + Bend u²).
type CurrentMeter struct {
	Scale string `json:"scale"`
	Zero  string `json:"zero"`
	// Kind and Unit are of the scale with a sensor.
	Kind power.ScaleKind `json:"kind"`
	Unit string          `json:"unit"`
	// ToAmp is how much of the zero is an ampere, ToSlope how much of the scale.
	ToAmp   float64 `json:"toAmp"`
	ToSlope float64 `json:"toSlope"`
	Bend    float64 `json:"bend"`
}

// Told says whether a line says how its boards are told what flows.
func (c CurrentMeter) Told() bool { return c.Scale != "" && c.ToAmp > 0 && c.ToSlope > 0 }

// Held is the figure that a board holds in one of the two settings; ok is false where it was not read.
func (c CurrentMeter) Held(b quad.Board, setting string) (x float64, ok bool) {
	raw, there := b.Settings[setting]
	if !there {
		return 0, false
	}
	x, err := strconv.ParseFloat(raw, 64)
	return x, err == nil && !math.IsNaN(x) && !math.IsInf(x, 0)
}

// Model that a board without a sensor reckons by, from what it holds in the two settings.
func (c CurrentMeter) Model(scale, zero float64) power.CurrentModel {
	return power.CurrentModel{Idle: zero / c.ToAmp, Slope: scale / c.ToSlope, Bend: c.Bend}
}

// SettingLine is one setting as a list has it.
type SettingLine struct {
	Name  string `json:"name"`
	Value string `json:"value"`
}

// ModelSettings make a board of this build reckon by a model. A figure that the line cannot hold is a Fault.
func (b *Build) ModelSettings(m power.CurrentModel) ([]SettingLine, error) {
	c := b.Line.Current
	scale, err := b.holds(c.Scale, m.Slope*c.ToSlope)
	if err != nil {
		return nil, err
	}
	zero, err := b.holds(c.Zero, m.Idle*c.ToAmp)
	return []SettingLine{{c.Scale, scale}, {c.Zero, zero}}, err
}

// ScaleSetting is the line for a sensor's scale. A figure that the line cannot hold is a Fault.
func (b *Build) ScaleSetting(scale float64) (SettingLine, error) {
	raw, err := b.holds(b.Line.Current.Scale, scale)
	return SettingLine{b.Line.Current.Scale, raw}, err
}

// holds a figure as a setting writes it, rounded to what it can.
func (b *Build) holds(name string, x float64) (string, error) {
	s := b.Facts.Find(name)
	if s == nil {
		return "", quad.Faultf("no-setting", name, "this version has no setting %s", name)
	}
	places := 0
	if s.Kind == SettingDecimal {
		places = s.Places
	}
	return s.Canonical(strconv.FormatFloat(x, 'f', places, 64))
}
