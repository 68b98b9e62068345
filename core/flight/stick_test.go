package flight

import (
	"math"
	"testing"

	"vividperch/core/feel"
	"vividperch/core/quad"
)

// What stick carries it in the model is what the sheet makes of the duty that does, and back.
func TestStickAndDuty(t *testing.T) {
	s := quad.Sheet{}
	s.Motors.Idle, s.Feel.ThrottleLimit, s.Feel.ThrottleMiddle, s.Feel.ThrottleBend = 5.5, 60, -10, 40
	for stick := 0.0; stick <= 1; stick += 0.05 {
		near(t, "stick", StickOf(&s, DutyOf(&s, stick)), stick, 1e-6)
	}
	near(t, "full stick is the limit", DutyOf(&s, 1), 0.055+0.6*0.945, 1e-9)
	if StickOf(&s, 0.9) <= 1 {
		t.Error("a duty over the limit has a stick")
	}
	in := sample()
	st := mustNew(t, in)
	p, _ := st.drive.Hover(in.Mass)
	s.Motors.Idle, s.Feel.ThrottleLimit = 100*in.Settings.Idle, 100*in.Settings.Limit
	in.Settings.Curve = feel.ThrottleCurve{Middle: 0.4, Bend: 0.3}
	st = mustNew(t, in)
	s.Feel.ThrottleMiddle, s.Feel.ThrottleBend = -10, 30
	if hover, _ := st.hovers(in.Mass); !(math.Abs(hover-StickOf(&s, p.Duty)) <= 1e-6) {
		t.Errorf("the model hovers at %.4f of the stick, the sheet says %.4f", hover, StickOf(&s, p.Duty))
	}
}
