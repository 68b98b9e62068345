package power

import (
	"testing"

	"vividperch/core/quad"
)

// A constant-current meter on a capacitor climbs by about 1/C: 1 kΩ a second on 1000 µF. A short does not.
func TestShorted(t *testing.T) {
	for _, c := range []struct {
		name        string
		r           quad.Resistance
		capacitance float64
		want        bool
	}{
		{"climbs, then stays", quad.Resistance{AtOnce: 140, After: 8200}, 1000, false},
		{"a solder bridge", quad.Resistance{AtOnce: 0.4, After: 0.4}, 1000, true},
		{"a bridge that warms", quad.Resistance{AtOnce: 0.2, After: 1.4}, 1000, true},
		{"a bridge beside a meter's own drift", quad.Resistance{AtOnce: 3, After: 5}, 1000, true},
		{"low but rising, as no capacitor does", quad.Resistance{AtOnce: 40, After: 60}, 1000, true},
		{"low and slow, as a great one does", quad.Resistance{AtOnce: 3, After: 90}, 10000, false},
		{"the same, where nobody told of a capacitor", quad.Resistance{AtOnce: 3, After: 90}, 0, true},
		{"half shorted, still", quad.Resistance{AtOnce: 60, After: 62}, 1000, true},
		{"no capacitor, high", quad.Resistance{AtOnce: 4000, After: 4000}, 0, false},
	} {
		if got := Shorted(c.r, c.capacitance); got != c.want {
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
