package standin

import (
	"math"
	"strings"
	"testing"

	"vividperch/core/feel"
	"vividperch/core/quad"
)

// inProfile are the ranges of a profile that is on while the frames of these tests arm, and of one that is not.
var inProfile = map[bool]string{true: `{"channel":5,"from":1500,"to":2100}`, false: `{"channel":7,"from":1500,"to":2100}`}

// profileBehaviour: what a profile tells is flown while its range is on, and else what the first one tells.
func profileBehaviour(t *testing.T, p quad.Path) {
	parts := strings.Split(string(p), ".")
	which, what := parts[2], strings.Join(parts[3:], ".")
	rng := quad.Path("sheet.sticks." + which + "Profile")
	for _, on := range []bool{true, false} {
		set := map[quad.Path]string{
			rng: inProfile[on], "sheet.feel.family": `"centrePeak"`,
			"sheet.feel." + quad.Path(which): `{"roll":{"centre":120,"peak":420,"bend":0.2},"pitch":{"centre":130,"peak":380,"bend":0.1},"yaw":{"centre":90,"peak":250,"bend":0.3},"angleLimit":28,"throttleLimit":64}`,
			"sheet.feel.angleLimit":          "45", "sheet.feel.throttleLimit": "95",
		}
		b := written(t, kit(), set)
		list := feel.Profiles(&b.sheet)
		want := list[0]
		if on {
			want = list[1]
		}
		switch what {
		case "angleLimit":
			s := b.arm()
			for range 3000 {
				s.Step(frame(true, 1, 0, 0.45, 0))
			}
			b.close("lean at full stick, deg", s.State().Roll, want.AngleLimit, 1)
		case "throttleLimit":
			idle := b.sheet.Motors.Idle / 100
			b.close("duty at full stick", b.duties(2, still, frame(false, 0, 0, 1, 0))[0], idle+want.ThrottleLimit/100*(1-idle), 1e-9)
		default:
			axis := map[string]int{"roll": 0, "pitch": 1, "yaw": 2}[parts[3]]
			rates := [3]quad.Rates{want.Roll, want.Pitch, want.Yaw}[axis]
			for _, stick := range []float64{0.5, 1} {
				turned := feel.Rate(b.sheet.Feel.Family, rates, stick)
				b.close(parts[3]+", deg/s", math.Abs(b.turn(axis, stick)), turned, 0.03*turned+1)
			}
		}
	}
}

// chosenBehaviour: just these pulses on just this channel choose the profile.
func chosenBehaviour(t *testing.T, p quad.Path) {
	which := strings.TrimSuffix(strings.Split(string(p), ".")[2], "Profile")
	b := written(t, kit(), map[quad.Path]string{
		quad.Path("sheet.sticks." + which + "Profile"): `{"channel":9,"from":1400,"to":1600}`,
		quad.Path("sheet.feel." + which):               `{"roll":{"centre":120,"peak":420,"bend":0.2},"pitch":{"centre":130,"peak":380,"bend":0.1},"yaw":{"centre":90,"peak":250,"bend":0.3},"angleLimit":28,"throttleLimit":64}`,
		"sheet.feel.throttleLimit":                     "95",
	})
	idle := b.sheet.Motors.Idle / 100
	when := b.sheet.Sticks.SecondProfile
	if which == "third" {
		when = b.sheet.Sticks.ThirdProfile
	}
	for us, limit := range map[float64]float64{when.From - 3: 95, when.From + 3: 64, when.To - 3: 64, when.To + 3: 95} {
		f := frame(false, 0, 0, 1, 0)
		f.Channels[8] = us
		b.close("duty at full stick", b.duties(2, still, f)[0], idle+limit/100*(1-idle), 1e-9)
	}
}

// Where both profiles are on the third counts, and without a radio the first.
func TestWhichProfileCounts(t *testing.T) {
	b := written(t, kit(), map[quad.Path]string{
		"sheet.sticks.secondProfile": inProfile[true], "sheet.sticks.thirdProfile": inProfile[true],
		"sheet.feel.second": `{"roll":{"centre":120,"peak":420,"bend":0.2},"pitch":{"centre":130,"peak":380,"bend":0.1},"yaw":{"centre":90,"peak":250,"bend":0.3},"angleLimit":28,"throttleLimit":64}`,
		"sheet.feel.third":  `{"roll":{"centre":120,"peak":420,"bend":0.2},"pitch":{"centre":130,"peak":380,"bend":0.1},"yaw":{"centre":90,"peak":250,"bend":0.3},"angleLimit":28,"throttleLimit":41}`,
		"sheet.loss.policy": `"land"`, "sheet.loss.landThrottle": "50", "sheet.feel.throttleLimit": "90",
	})
	idle := b.sheet.Motors.Idle / 100
	b.close("both on", b.duties(2, still, frame(false, 0, 0, 1, 0))[0], idle+0.41*(1-idle), 1e-9)
	s := b.body
	silent := frame(false, 0, 0, 1, 0)
	silent.Heard = false
	for range int(1000 * (b.sheet.Loss.Guard + 1)) {
		s.Hold(0, 0, [3]float64{})
		s.Step(silent)
	}
	duty := s.State().Duty
	b.close("descending, of four corners", (duty[0]+duty[1]+duty[2]+duty[3])/4, idle+b.sheet.Loss.LandThrottle/100*0.9*(1-idle), 0.01)
}
