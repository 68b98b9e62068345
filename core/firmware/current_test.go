package firmware_test

import (
	"math"
	"testing"

	"vividperch/core/firmware"
	"vividperch/core/power"
	"vividperch/core/quad"
)

// Every shipped line says how its boards are told what flows, each by settings that all its versions have; what a model writes is read back as that model, to what the line can hold.
func TestCurrentMetersOfLines(t *testing.T) {
	kinds := map[power.ScaleKind]bool{}
	for _, name := range []string{"Marram", "Shingle", "Spindrift"} {
		l, ok := firmware.FindLine(name)
		if !ok || !l.Current.Told() || l.Current.Unit == "" {
			t.Fatalf("%s: %+v", name, l.Current)
		}
		kinds[l.Current.Kind] = true
		for _, v := range l.Versions {
			b, err := firmware.Find(name, v.Version)
			if err != nil {
				t.Fatal(err)
			}
			truth := power.CurrentModel{Idle: 0.46, Slope: 31.4, Bend: l.Current.Bend}
			lines, err := b.ModelSettings(truth)
			if err != nil {
				t.Fatalf("%s %s: %v", name, v.Version, err)
			}
			held := quad.Board{Settings: map[string]string{}}
			for _, s := range lines {
				held.Settings[s.Name] = s.Value
			}
			scale, ok1 := l.Current.Held(held, l.Current.Scale)
			zero, ok2 := l.Current.Held(held, l.Current.Zero)
			got := l.Current.Model(scale, zero)
			if !ok1 || !ok2 || !(math.Abs(got.Idle-truth.Idle) <= 0.006) || !(math.Abs(got.Slope-truth.Slope) <= 0.03) || got.Bend != truth.Bend {
				t.Errorf("%s %s: %+v as %v", name, v.Version, got, lines)
			}
			if _, err := b.ScaleSetting(1e9); err == nil {
				t.Errorf("%s %s: a scale that it cannot hold is taken", name, v.Version)
			}
		}
	}
	if len(kinds) != 2 {
		t.Errorf("scales of one kind alone: %v", kinds)
	}
}
