package power

import (
	"testing"

	"vividperch/core/quad"
)

// A constant-current meter on a capacitor climbs by about 1/C: 1 kΩ a second on 1000 µF. A short does not.
func TestShorted(t *testing.T) {
	for _, c := range []struct {
		name string
		r    quad.Resistance
		want bool
	}{
		{"climbs, then stays", quad.Resistance{AtOnce: 140, After: 8200}, false},
		{"a solder bridge", quad.Resistance{AtOnce: 0.4, After: 0.4}, true},
		{"low but rising", quad.Resistance{AtOnce: 3, After: 90}, false},
		{"half shorted, still", quad.Resistance{AtOnce: 60, After: 62}, true},
		{"no capacitor, high", quad.Resistance{AtOnce: 4000, After: 4000}, false},
	} {
		if got := Shorted(c.r); got != c.want {
			t.Errorf("%s: %v", c.name, got)
		}
	}
}

func TestIdleCurrentIsTheSumOfWhatIsFitted(t *testing.T) {
	p := quad.Parts{Board: quad.BoardPart{IdleDraw: 110}, SpeedController: quad.SpeedController{IdleDraw: 90}, Receiver: quad.Receiver{IdleDraw: 45}, Video: quad.Video{IdleDraw: 190}}
	if got := IdleCurrent(p); got != 0.245 {
		t.Errorf("without video %v A", got)
	}
	p.Video.Fitted = true
	if got := IdleCurrent(p); got != 0.435 {
		t.Errorf("with video %v A", got)
	}
}
