package picture

import (
	"testing"

	"vividperch/core/quad"
)

func TestAllowed(t *testing.T) {
	l := quad.Limits{VideoLow: 5725, VideoHigh: 5875, VideoPower: 25}
	for _, c := range []struct {
		mhz, mw          float64
		l                quad.Limits
		frequency, power bool
	}{
		{5780, 25, l, true, true}, {5725, 25, l, true, true}, {5724, 26, l, false, false}, {5876, 1, l, false, true},
		{5780, 25, quad.Limits{}, false, false}, // limits that nobody stated allow nothing
	} {
		if f, p := Allowed(quad.PictureSheet{Frequency: c.mhz, Power: c.mw}, c.l); f != c.frequency || p != c.power {
			t.Errorf("%v MHz, %v mW: %v, %v", c.mhz, c.mw, f, p)
		}
	}
}
