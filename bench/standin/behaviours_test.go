package standin

import (
	"fmt"
	"math"
	"math/cmplx"
	"strconv"
	"strings"
	"testing"

	"vividperch/bench/protocol"
	"vividperch/core/feel"
	"vividperch/core/flight"
	"vividperch/core/quad"
)

// behaviours has, for every path that the dictionary maps, what the board must do for it.
var behaviours = map[quad.Path]func(t *testing.T, p quad.Path){
	"sheet.feel.roll.peak":   rateBehaviour(0, "roll", "670", "400"),
	"sheet.feel.pitch.peak":  rateBehaviour(1, "pitch", "600", "350"),
	"sheet.feel.yaw.peak":    rateBehaviour(2, "yaw", "500", "300"),
	"sheet.feel.roll.centre": curveBehaviour(0), "sheet.feel.pitch.centre": curveBehaviour(1), "sheet.feel.yaw.centre": curveBehaviour(2),
	"sheet.feel.roll.bend": curveBehaviour(0), "sheet.feel.pitch.bend": curveBehaviour(1), "sheet.feel.yaw.bend": curveBehaviour(2),
	"sheet.feel.family":             curveBehaviour(0),
	"sheet.feel.second.roll.centre": profileBehaviour, "sheet.feel.second.roll.peak": profileBehaviour, "sheet.feel.second.roll.bend": profileBehaviour,
	"sheet.feel.second.pitch.centre": profileBehaviour, "sheet.feel.second.pitch.peak": profileBehaviour, "sheet.feel.second.pitch.bend": profileBehaviour,
	"sheet.feel.second.yaw.centre": profileBehaviour, "sheet.feel.second.yaw.peak": profileBehaviour, "sheet.feel.second.yaw.bend": profileBehaviour,
	"sheet.feel.second.angleLimit": profileBehaviour, "sheet.feel.second.throttleLimit": profileBehaviour,
	"sheet.sticks.secondProfile.channel": chosenBehaviour, "sheet.sticks.secondProfile.from": chosenBehaviour, "sheet.sticks.secondProfile.to": chosenBehaviour,
	"sheet.feel.third.roll.centre": profileBehaviour, "sheet.feel.third.roll.peak": profileBehaviour, "sheet.feel.third.roll.bend": profileBehaviour,
	"sheet.feel.third.pitch.centre": profileBehaviour, "sheet.feel.third.pitch.peak": profileBehaviour, "sheet.feel.third.pitch.bend": profileBehaviour,
	"sheet.feel.third.yaw.centre": profileBehaviour, "sheet.feel.third.yaw.peak": profileBehaviour, "sheet.feel.third.yaw.bend": profileBehaviour,
	"sheet.feel.third.angleLimit": profileBehaviour, "sheet.feel.third.throttleLimit": profileBehaviour,
	"sheet.sticks.thirdProfile.channel": chosenBehaviour, "sheet.sticks.thirdProfile.from": chosenBehaviour, "sheet.sticks.thirdProfile.to": chosenBehaviour,

	"sheet.feel.rollGains.proportional": gainBehaviour(0, "rollGains"), "sheet.feel.pitchGains.proportional": gainBehaviour(1, "pitchGains"), "sheet.feel.yawGains.proportional": gainBehaviour(2, "yawGains"),
	"sheet.feel.rollGains.integral": gainBehaviour(0, "rollGains"), "sheet.feel.pitchGains.integral": gainBehaviour(1, "pitchGains"), "sheet.feel.yawGains.integral": gainBehaviour(2, "yawGains"),
	"sheet.feel.rollGains.derivative": gainBehaviour(0, "rollGains"), "sheet.feel.pitchGains.derivative": gainBehaviour(1, "pitchGains"), "sheet.feel.yawGains.derivative": gainBehaviour(2, "yawGains"),

	"sheet.feel.angleLimit": func(t *testing.T, p quad.Path) {
		for _, limit := range []string{"25", "42"} {
			b := written(t, kit(), map[quad.Path]string{p: limit})
			s := b.arm()
			for range 3000 {
				s.Step(frame(true, 1, 0, 0.3, 0))
			}
			b.close("lean at full stick, deg", s.State().Roll, b.sheet.Feel.AngleLimit, 1)
		}
	},
	"sheet.feel.levelStrength": func(t *testing.T, p quad.Path) {
		for _, strength := range []string{"4", "9"} {
			b := written(t, kit(), map[quad.Path]string{p: strength})
			// Leaning by 10 deg it asks for strength times 10 deg/s back; the proportional part shows it.
			s := b.arm()
			s.Hold(10, 0, [3]float64{})
			s.Step(frame(true, 0, 0, 0.3, 0))
			want := -b.sheet.Feel.LevelStrength * 10 * (b.sheet.Feel.RollGains.Proportional + b.sheet.Feel.RollGains.Integral*0.001) / 100
			b.close("differential, share", -differential(s.State().Duty, 0), -want, 2e-4)
		}
	},
	"sheet.feel.throttleLimit": func(t *testing.T, p quad.Path) {
		for _, limit := range []string{"60", "85"} {
			b := written(t, kit(), map[quad.Path]string{p: limit})
			duty := b.duties(2, still, frame(false, 0, 0, 1, 0))
			idle := b.sheet.Motors.Idle / 100
			b.close("duty at full stick", duty[0], idle+b.sheet.Feel.ThrottleLimit/100*(1-idle), 1e-9)
		}
	},
	"sheet.feel.throttleMiddle": func(t *testing.T, p quad.Path) {
		for _, middle := range []string{"-15", "10"} {
			b := written(t, kit(), map[quad.Path]string{p: middle})
			idle, share := b.sheet.Motors.Idle/100, 0.5+b.sheet.Feel.ThrottleMiddle/100
			b.close("duty at half stick", b.duties(2, still, frame(false, 0, 0, 0.5, 0))[0], idle+share*b.sheet.Feel.ThrottleLimit/100*(1-idle), 1e-9)
		}
	},
	"sheet.feel.throttleBend": func(t *testing.T, p quad.Path) {
		for _, bend := range []string{"20", "60"} {
			b := written(t, kit(), map[quad.Path]string{p: bend})
			// Three quarters of the stick is half of the way up from the middle: (1-e)/2 + e/8 of it remain.
			idle, e := b.sheet.Motors.Idle/100, b.sheet.Feel.ThrottleBend/100
			share := 0.5 + 0.5*((1-e)/2+e/8)
			b.close("duty at three quarters", b.duties(2, still, frame(false, 0, 0, 0.75, 0))[0], idle+share*b.sheet.Feel.ThrottleLimit/100*(1-idle), 1e-9)
		}
	},
	"sheet.feel.throttleCut": func(t *testing.T, p quad.Path) {
		for told, share := range map[string]float64{"true": 0.5, "false": 0.3} { // half the stick, of a limit of 60 %
			b := written(t, kit(), map[quad.Path]string{p: told, "sheet.feel.throttleLimit": "60"})
			idle := b.sheet.Motors.Idle / 100
			b.close("duty at half stick", b.duties(2, still, frame(false, 0, 0, 0.5, 0))[0], idle+share*(1-idle), 1e-9)
			b.close("duty at full stick", b.duties(2, still, frame(false, 0, 0, 1, 0))[0], idle+0.6*(1-idle), 1e-9)
		}
	},
	"sheet.motors.linear": func(t *testing.T, p quad.Path) {
		for _, told := range []string{"40", "100"} {
			b := written(t, kit(), map[quad.Path]string{p: told, "sheet.feel.throttleLimit": "90"})
			idle, e := b.sheet.Motors.Idle/100, b.sheet.Motors.Linear/100
			for _, stick := range []float64{0, 0.2, 0.5, 1} {
				// Above idle u, of which e u² + (1-e) u is what the stick asks for.
				u := (b.duties(2, still, frame(false, 0, 0, stick, 0))[0] - idle) / (1 - idle)
				b.close("asked for at "+strconv.FormatFloat(stick, 'g', -1, 64), e*u*u+(1-e)*u, 0.9*stick, 1e-9)
			}
		}
	},
	"sheet.feel.rollGains.feedForward": leadBehaviour(0, "rollGains"), "sheet.feel.pitchGains.feedForward": leadBehaviour(1, "pitchGains"), "sheet.feel.yawGains.feedForward": leadBehaviour(2, "yawGains"),
	"sheet.feel.filters.gyro.kind":           filterBehaviour(`"off"`),
	"sheet.feel.filters.gyro.cutoff":         filterBehaviour("40"),
	"sheet.feel.filters.gyroSecond.kind":     filterBehaviour(`"second"`),
	"sheet.feel.filters.gyroSecond.cutoff":   filterBehaviour("30", "sheet.feel.filters.gyroSecond.kind", `"second"`),
	"sheet.feel.filters.change.kind":         filterBehaviour(`"off"`),
	"sheet.feel.filters.change.cutoff":       filterBehaviour("40"),
	"sheet.feel.filters.changeSecond.kind":   filterBehaviour(`"second"`),
	"sheet.feel.filters.changeSecond.cutoff": filterBehaviour("30", "sheet.feel.filters.changeSecond.kind", `"second"`),
	"sheet.feel.filters.notch.on":            filterBehaviour(`"on"`, "sheet.feel.filters.notch.centre", "30"),
	"sheet.feel.filters.notch.centre":        filterBehaviour("28", "sheet.feel.filters.notch.on", `"on"`),
	"sheet.feel.filters.notch.width":         filterBehaviour("20", "sheet.feel.filters.notch.on", `"on"`, "sheet.feel.filters.notch.centre", "30"),
	"sheet.feel.filters.notchSecond.on":      filterBehaviour(`"on"`, "sheet.feel.filters.notchSecond.centre", "30"),
	"sheet.feel.filters.notchSecond.centre":  filterBehaviour("28", "sheet.feel.filters.notchSecond.on", `"on"`),
	"sheet.feel.filters.following.on": func(t *testing.T, p quad.Path) {
		for _, told := range []quad.OnOff{quad.On, quad.Off} {
			if got := written(t, kit(), map[quad.Path]string{p: `"` + string(told) + `"`}).means.control.Filters.Following.On; got != told {
				t.Errorf("told %s it is %s", told, got)
			}
		}
	},
	"sheet.feel.filters.following.tones": meant("2", func(m meaning) float64 { return float64(m.control.Filters.Following.Tones) }, 2),
	"sheet.feel.filters.following.least": meant("120", func(m meaning) float64 { return m.control.Filters.Following.Least }, 120),
	"sheet.feel.filters.following.width": meant("30", func(m meaning) float64 { return m.control.Filters.Following.Width }, 30),
	"sheet.feel.filters.searching.count": meant("2", func(m meaning) float64 { return float64(m.control.Filters.Searching.Count) }, 2),
	"sheet.feel.filters.searching.from":  meant("150", func(m meaning) float64 { return m.control.Filters.Searching.From }, 150),
	"sheet.feel.filters.searching.to":    meant("400", func(m meaning) float64 { return m.control.Filters.Searching.To }, 400),
	"sheet.feel.recording.medium":        wordBehaviour("writes to", map[string]string{`"nothing"`: "off", `"chip"`: "chip", `"card"`: "card"}),
	"sheet.feel.recording.share":         figureBehaviour("writes one of", "4", 4),
	"sheet.feel.recording.raw":           wordBehaviour("keeps unfiltered", map[string]string{`"on"`: "yes", `"off"`: "no"}),
	"sheet.motors.idle": func(t *testing.T, p quad.Path) {
		for _, idle := range []string{"4.5", "7"} {
			b := written(t, kit(), map[quad.Path]string{p: idle})
			b.close("duty at rest", b.duties(2, still, frame(false, 0, 0, 0, 0))[2], b.sheet.Motors.Idle/100, 1e-9)
		}
	},
	"sheet.craft.layout": func(t *testing.T, p quad.Path) {
		// A roll command reaches front and rear alike in the cross layout, the side arms alone in the plus one.
		for layout, want := range map[string][4]bool{`"x"`: {true, true, true, true}, `"wideX"`: {true, true, true, true}, `"plus"`: {false, true, true, false}} {
			b := written(t, kit(), map[quad.Path]string{p: layout})
			duty := b.duties(2, still, frame(false, 0.2, 0, 0.3, 0))
			quiet := b.duties(2, still, frame(false, 0, 0, 0.3, 0))
			for i := range duty {
				if moves := math.Abs(duty[i]-quiet[i]) > 1e-4; moves != want[i] {
					t.Errorf("%s: a roll command moves %s: %v", layout, quad.Corners[i], moves)
				}
			}
		}
	},
	"sheet.craft.rotation": func(t *testing.T, p quad.Path) {
		for rotation, sign := range map[string]float64{`"frontLeftClockwise"`: 1, `"frontLeftCounterClockwise"`: -1} {
			b := written(t, kit(), map[quad.Path]string{p: rotation})
			// To turn clockwise, the counter-clockwise rotors must work harder: with front left clockwise these
			// are front right and rear left.
			if d := differential(b.duties(2, still, frame(false, 0, 0, 0.3, 0.2)), 2); d*sign <= 0 {
				t.Errorf("%s: yaw right gives %v", rotation, d)
			}
		}
	},
	"sheet.motors.outputs.A.corner": placeBehaviour, "sheet.motors.outputs.B.corner": placeBehaviour, "sheet.motors.outputs.C.corner": placeBehaviour, "sheet.motors.outputs.D.corner": placeBehaviour,
	"sheet.motors.outputs.A.switching": switchingBehaviour("A"), "sheet.motors.outputs.B.switching": switchingBehaviour("B"), "sheet.motors.outputs.C.switching": switchingBehaviour("C"), "sheet.motors.outputs.D.switching": switchingBehaviour("D"),

	"sheet.motors.outputs.A.bothWays": bothWaysBehaviour("A"), "sheet.motors.outputs.B.bothWays": bothWaysBehaviour("B"), "sheet.motors.outputs.C.bothWays": bothWaysBehaviour("C"), "sheet.motors.outputs.D.bothWays": bothWaysBehaviour("D"),
	"sheet.motors.reversible": func(t *testing.T, p quad.Path) {
		all := map[quad.Path]string{p: "true"}
		for _, l := range []string{"A", "B", "C", "D"} {
			all[quad.Path("sheet.motors.outputs."+l+".bothWays")] = "true"
		}
		b := written(t, kit(), all)
		idle := b.sheet.Motors.Idle / 100
		// From the middle of the stick up it turns forward, below it backward, each way from idle to full.
		for _, c := range []struct{ stick, want float64 }{{0.75, idle + 0.5*b.sheet.Feel.ThrottleLimit/100*(1-idle)}, {0.25, -idle - 0.5*b.sheet.Feel.ThrottleLimit/100*(1-idle)}} {
			s := b.body
			s.Hold(0, 0, [3]float64{})
			off := frame(false, 0, 0, 0.5, 0)
			off.Channels[4] = 1000
			s.Step(off)
			s.Step(frame(false, 0, 0, 0.5, 0))
			if !s.Armed() {
				t.Fatal("it does not arm at mid throttle")
			}
			for range 3 {
				s.Step(frame(false, 0, 0, c.stick, 0))
			}
			sum := 0.0
			for _, d := range s.State().Duty {
				sum += d / 4
			}
			b.close("mean duty, a quarter of the stick from its middle", sum, c.want, 2e-3)
		}
	},
	"sheet.motors.outputs.A.reversed": reverseBehaviour("A"), "sheet.motors.outputs.B.reversed": reverseBehaviour("B"), "sheet.motors.outputs.C.reversed": reverseBehaviour("C"), "sheet.motors.outputs.D.reversed": reverseBehaviour("D"),

	"sheet.motors.protocol": func(t *testing.T, p quad.Path) {
		for protocol, want := range map[string]string{`"pulse"`: "pulse", `"shortPulse"`: "short", `"digital"`: "bits"} {
			if b := written(t, kit(), map[quad.Path]string{p: protocol}); b.means.protocol != want {
				t.Errorf("%s gives %s on the wire", protocol, b.means.protocol)
			}
		}
	},
	"sheet.motors.bitRate":  wireBehaviour,
	"sheet.motors.twoWay":   wireBehaviour,
	"sheet.motors.loopRate": meant("2000", func(m meaning) float64 { return m.loop }, 2000),
	"sheet.motors.poles":    meant("12", func(m meaning) float64 { return float64(m.poles) }, 12),

	"sheet.wiring.ports.1.function": portBehaviour("1", "satellite"), "sheet.wiring.ports.2.function": portBehaviour("2", "receiver"),
	"sheet.wiring.ports.3.function": portBehaviour("3", "receiver"), "sheet.wiring.ports.4.function": portBehaviour("4", "receiver"),

	"sheet.wiring.ports.5.function": portBehaviour("5", "receiver"), "sheet.wiring.ports.6.function": portBehaviour("6", "receiver"),

	"sheet.sticks.order": func(t *testing.T, p quad.Path) {
		// With TAER the first channel is the throttle: raising it raises every motor.
		b := written(t, kit(), map[quad.Path]string{p: `"TAER"`})
		f := flight.Sticks{Heard: true, Channels: quad.Pulses{1000, 1500, 1500, 1500, 1000, 1000}}
		b.body.Hold(0, 0, [3]float64{})
		b.body.Step(f)
		f.Channels[4] = 1900
		b.body.Step(f)
		f.Channels[0] = 1400
		b.body.Step(f)
		idle := b.sheet.Motors.Idle / 100
		b.close("duty", b.body.State().Duty[0], idle+0.4*(1-idle), 1e-9)
	},
	"sheet.link.inverted": func(t *testing.T, p quad.Path) {
		for _, receiver := range []bool{false, true} {
			for _, told := range []bool{false, true} {
				k := kit()
				k.Receiver.Inverted = receiver
				if l := written(t, k, map[quad.Path]string{p: fmt.Sprint(told)}).live(); l.ReceiverAnswers != (receiver == told) || (len(l.Channels) > 0) != (receiver == told) {
					t.Errorf("receiver inverted %v, told %v: answers %v", receiver, told, l.ReceiverAnswers)
				}
			}
		}
	},
	"sheet.link.language": func(t *testing.T, p quad.Path) {
		for _, speaks := range []quad.Language{quad.SerialFrame, quad.TwoWaySerial, quad.PulseTrain} {
			for _, told := range []quad.Language{quad.SerialFrame, quad.TwoWaySerial, quad.PulseTrain} {
				k := kit()
				k.Receiver.Language = speaks
				if l := written(t, k, map[quad.Path]string{p: `"` + string(told) + `"`}).live(); l.ReceiverAnswers != (speaks == told) || (len(l.Channels) > 0) != (speaks == told) {
					t.Errorf("it speaks %s and the board was told %s: answers %v", speaks, told, l.ReceiverAnswers)
				}
			}
		}
		k := kit()
		k.Receiver.Language, k.Receiver.Speed = quad.TwoWaySerial, 400 // a twentieth slower: the tenth bit is half a bit late
		if written(t, k, map[quad.Path]string{p: `"twoWaySerial"`}).live().ReceiverAnswers {
			t.Error("it is understood at another speed")
		}
	},
	"sheet.link.strength": func(t *testing.T, p quad.Path) {
		for source, want := range map[quad.StrengthSource]string{quad.StrengthNone: "none", quad.StrengthChannel: "channel", quad.StrengthAnalog: "pin", quad.StrengthSerial: "frame"} {
			t.Run(string(source), func(t *testing.T) {
				channel := "0"
				if source == quad.StrengthChannel {
					channel = "9"
				}
				b := written(t, kit(), map[quad.Path]string{p: `"` + string(source) + `"`, "sheet.link.strengthChannel": channel})
				if b.means.strength != want {
					t.Errorf("told %s it takes the strength from %s", source, b.means.strength)
				}
			})
		}
	},
	"sheet.link.strengthChannel": func(t *testing.T, p quad.Path) {
		for _, channel := range []string{"1", "11", "18"} {
			b := written(t, kit(), map[quad.Path]string{p: channel, "sheet.link.strength": `"channel"`})
			if b.means.strength != "channel" || fmt.Sprint(b.means.strengthOn) != channel {
				t.Errorf("told channel %s it takes the strength from %s %d", channel, b.means.strength, b.means.strengthOn)
			}
		}
	},
	"sheet.wiring.ports.1.baud": speedBehaviour("1"), "sheet.wiring.ports.2.baud": speedBehaviour("2"), "sheet.wiring.ports.3.baud": speedBehaviour("3"),
	"sheet.wiring.ports.4.baud": speedBehaviour("4"), "sheet.wiring.ports.5.baud": speedBehaviour("5"), "sheet.wiring.ports.6.baud": speedBehaviour("6"),
	"sheet.link.telemetry":         meant("true", func(m meaning) float64 { return flag(m.telemetry) }, 1),
	"sheet.senses.barometer":       meant("false", func(m meaning) float64 { return flag(m.barometer) }, 0),
	"sheet.senses.satellite":       meant("true", func(m meaning) float64 { return flag(m.satellite) }, 1),
	"sheet.sticks.ranges.roll.low": rangeBehaviour, "sheet.sticks.ranges.roll.centre": rangeBehaviour, "sheet.sticks.ranges.roll.high": rangeBehaviour,
	"sheet.sticks.ranges.pitch.low": rangeBehaviour, "sheet.sticks.ranges.pitch.centre": rangeBehaviour, "sheet.sticks.ranges.pitch.high": rangeBehaviour,
	"sheet.sticks.ranges.throttle.low": rangeBehaviour, "sheet.sticks.ranges.throttle.centre": rangeBehaviour, "sheet.sticks.ranges.throttle.high": rangeBehaviour,
	"sheet.sticks.ranges.yaw.low": rangeBehaviour, "sheet.sticks.ranges.yaw.centre": rangeBehaviour, "sheet.sticks.ranges.yaw.high": rangeBehaviour,

	"sheet.sticks.deadband": func(t *testing.T, p quad.Path) {
		b := written(t, kit(), map[quad.Path]string{p: "12"})
		inside := b.duties(2, still, frame(false, 11.0/500, 0, 0.3, 0))
		outside := b.duties(2, still, frame(false, 14.0/500, 0, 0.3, 0))
		if differential(inside, 0) != 0 || differential(outside, 0) == 0 {
			t.Errorf("11 µs off gives %v, 14 µs off %v", differential(inside, 0), differential(outside, 0))
		}
	},
	"sheet.sticks.idleBelow": func(t *testing.T, p quad.Path) {
		for level, want := range map[float64]bool{5.9: true, 6.1: false} { // per cent of throttle: 1059 and 1061 µs
			b := written(t, kit(), map[quad.Path]string{p: "1060"})
			m := armMotion
			m.Level = level
			if got := b.hold(m, 300).Armed; got != want {
				t.Errorf("with the throttle at %v %% it arms: %v", level, got)
			}
		}
	},
	"sheet.sticks.arm.channel": func(t *testing.T, p quad.Path) {
		c := map[quad.Path]string{p: "8"}
		if armsAt(t, c, 5, 1900) || !armsAt(t, c, 8, 1900) {
			t.Error("it must arm from channel 8, and from no other")
		}
	},
	"sheet.sticks.arm.from": func(t *testing.T, p quad.Path) {
		c := map[quad.Path]string{p: "1625"}
		if armsAt(t, c, 5, 1622) || !armsAt(t, c, 5, 1628) {
			t.Error("it must arm from 1625 µs on")
		}
	},
	"sheet.sticks.arm.to": func(t *testing.T, p quad.Path) {
		c := map[quad.Path]string{p: "1925"}
		if armsAt(t, c, 5, 1928) || !armsAt(t, c, 5, 1922) {
			t.Error("it must arm up to 1925 µs")
		}
	},
	"sheet.sticks.selfLevel.channel": levelBehaviour, "sheet.sticks.selfLevel.from": levelBehaviour, "sheet.sticks.selfLevel.to": levelBehaviour,
	"sheet.sticks.blended.channel": blendedBehaviour, "sheet.sticks.blended.from": blendedBehaviour, "sheet.sticks.blended.to": blendedBehaviour,
	"sheet.sticks.armByStick": func(t *testing.T, p quad.Path) {
		for told, want := range map[string]bool{"true": true, "false": false} {
			b := written(t, kit(), map[quad.Path]string{p: told})
			for range 40 {
				if err := b.move(protocol.Motion{Kind: "gesture"}); (err == nil) != want {
					t.Fatalf("told %s: %v", told, err)
				}
				b.Advance(100)
			}
			if got := b.live().Armed; got != want {
				t.Errorf("told %s, throttle down and yaw to the right arm it: %v", told, got)
			}
		}
	},
	"sheet.sticks.authority.channel": authorityBehaviour, "sheet.sticks.authority.from": authorityBehaviour, "sheet.sticks.authority.to": authorityBehaviour,
	"sheet.sticks.authorityAlways": func(t *testing.T, p quad.Path) {
		for told, want := range map[string]bool{"true": true, "false": false} {
			if got := correctsAtRest(t, map[quad.Path]string{p: told}, 1000); got != want {
				t.Errorf("told %s, at rest it corrects: %v", told, got)
			}
		}
	},
	"sheet.sticks.armTilt": func(t *testing.T, p quad.Path) {
		for lean, want := range map[float64]bool{39: true, 41: false} {
			b := written(t, kit(), map[quad.Path]string{p: "40"})
			b.tilt[0] = lean
			if got := b.hold(armMotion, 300).Armed; got != want {
				t.Errorf("leaning by %v° it arms: %v", lean, got)
			}
		}
	},
	"sheet.feel.blend": func(t *testing.T, p quad.Path) {
		// Beyond its share of the stick nothing of self-level is left: leaning or not, it asks for the same.
		for _, blend := range []string{"40", "60"} {
			for over, want := range map[float64]bool{-0.03: true, 0.03: false} {
				b := written(t, kit(), map[quad.Path]string{p: blend, "sheet.sticks.blended": `{"channel": 8, "from": 1400, "to": 1600}`})
				f := frame(false, b.sheet.Feel.Blend/100+over, 0, 0.3, 0)
				f.Channels[7] = 1500
				if levels := b.levelsAt(f); levels != want {
					t.Errorf("lets go at %s %%, %v beyond it levels: %v", blend, over, levels)
				}
			}
		}
	},
	"sheet.sticks.armUnchecked": func(t *testing.T, p quad.Path) {
		for told, want := range map[string]bool{"true": true, "false": false} {
			b := written(t, kit(), map[quad.Path]string{p: told})
			m := armMotion
			m.Level = 30 // % of throttle
			if got := b.hold(m, 300).Armed; got != want {
				t.Errorf("unchecked %s, with the throttle up it arms: %v", told, got)
			}
		}
	},
	"sheet.sticks.armPause": figureBehaviour("arms again, s", "0.7", 0.7),
	"sheet.loss.landTime":   figureBehaviour("settles for, s", "12.5", 12.5),
	"sheet.loss.back":       figureBehaviour("believes after, s", "1.5", 1.5),
	"sheet.loss.rearm":      figureBehaviour("arms after a loss, s", "12", 12),
	"sheet.loss.near":       figureBehaviour("home from, m", "25", 25),
	"sheet.loss.way": func(t *testing.T, p quad.Path) {
		for _, way := range []quad.HomeWay{quad.WayAsIs, quad.WaySet, quad.WayHighest} {
			if got := written(t, kit(), map[quad.Path]string{p: `"` + string(way) + `"`}).means.control.Nav.Way; got != way {
				t.Errorf("told %s it comes home %s", way, got)
			}
		}
	},
	"sheet.loss.atHome": func(t *testing.T, p quad.Path) {
		for _, at := range []quad.AtHome{quad.HomeLands, quad.HomeDrops} {
			if got := written(t, kit(), map[quad.Path]string{p: `"` + string(at) + `"`}).means.control.Nav.AtHome; got != at {
				t.Errorf("told %s, at home it %s", at, got)
			}
		}
	},
	"sheet.loss.wayHeight":        meant("35", func(m meaning) float64 { return m.control.Nav.WayHeight }, 35),
	"sheet.loss.homeSpeed":        meant("7.5", func(m meaning) float64 { return m.control.Nav.Speed }, 7.5),
	"sheet.loss.satellites":       meant("9", func(m meaning) float64 { return float64(m.control.Nav.Satellites) }, 9),
	"sheet.senses.compass":        meant("true", func(m meaning) float64 { return flag(m.compass) }, 1),
	"sheet.senses.compassTurned":  figureBehaviour("compass turned, deg", "270", 270),
	"sheet.senses.declination":    figureBehaviour("declination, deg", "-2.5", -2.5),
	"sheet.motors.sag":            figureBehaviour("sag, share", "55", 0.55),
	"sheet.motors.room":           figureBehaviour("room, share", "7", 0.07),
	"sheet.motors.beeps":          figureBehaviour("loud, share", "65", 0.65),
	"sheet.motors.loopSpare":      figureBehaviour("spare, share", "20", 0.2),
	"sheet.motors.loopShare":      figureBehaviour("once in", "4", 4),
	"sheet.motors.boost":          figureBehaviour("kick, share", "45", 0.45),
	"sheet.motors.most":           figureBehaviour("up to, share", "95", 0.95),
	"sheet.motors.least":          figureBehaviour("from, share", "12", 0.12),
	"sheet.motors.lag":            figureBehaviour("late, share", "3", 0.03),
	"sheet.motors.bus.bitRate":    figureBehaviour("bus, kbit/s", "800", 800),
	"sheet.motors.bus.node":       figureBehaviour("bus, own number", "11", 11),
	"sheet.motors.bus.first":      figureBehaviour("bus, first", "2", 2),
	"sheet.motors.bus.count":      figureBehaviour("bus, how many", "4", 4),
	"sheet.motors.bus.timeout":    figureBehaviour("bus, silent ms", "250", 250),
	"sheet.loss.carriesOn":        figureBehaviour("goes on", "true", 1, "false", 0),
	"sheet.motors.outputs.A.trim": figureBehaviour("more on A, share", "-1.5", -0.015, "2", 0.02),
	"sheet.motors.outputs.A.lead": figureBehaviour("ahead on A, deg", "22", 22),
	"sheet.motors.outputs.B.trim": figureBehaviour("more on B, share", "-1.5", -0.015, "2", 0.02),
	"sheet.motors.outputs.B.lead": figureBehaviour("ahead on B, deg", "22", 22),
	"sheet.motors.outputs.C.trim": figureBehaviour("more on C, share", "-1.5", -0.015, "2", 0.02),
	"sheet.motors.outputs.C.lead": figureBehaviour("ahead on C, deg", "22", 22),
	"sheet.motors.outputs.D.trim": figureBehaviour("more on D, share", "-1.5", -0.015, "2", 0.02),
	"sheet.motors.outputs.D.lead": figureBehaviour("ahead on D, deg", "22", 22),
	"sheet.motors.bus.used":       wordBehaviour("bus", map[string]string{`true`: "1", `false`: "0"}),
	"sheet.sticks.armFix":         wordBehaviour("wants a fix", map[string]string{`true`: "yes", `false`: "no"}),
	"sheet.loss.crashStops":       wordBehaviour("crash", map[string]string{`true`: "1", `false`: "0"}),
	"sheet.loss.battery":          wordBehaviour("pack empty", map[string]string{`"nothing"`: "0", `"land"`: "1", `"return"`: "2", `"drop"`: "3"}),
	"sheet.loss.estimate":         wordBehaviour("lost its place", map[string]string{`"nothing"`: "0", `"land"`: "1", `"return"`: "2", `"drop"`: "3"}),
	"sheet.loss.fence":            wordBehaviour("at the fence", map[string]string{`"nothing"`: "0", `"land"`: "1", `"return"`: "2", `"drop"`: "3"}),
	"sheet.loss.ground":           wordBehaviour("ground lost", map[string]string{`"nothing"`: "0", `"land"`: "1", `"return"`: "2", `"drop"`: "3"}),
	"sheet.loss.during.roll":      wordBehaviour("while silent, roll", map[string]string{`"keep"`: "keep", `"rest"`: "rest", `"set"`: "set"}),
	"sheet.loss.during.pitch":     wordBehaviour("while silent, pitch", map[string]string{`"keep"`: "keep", `"rest"`: "rest", `"set"`: "set"}),
	"sheet.loss.during.throttle":  wordBehaviour("while silent, push", map[string]string{`"keep"`: "keep", `"rest"`: "rest", `"set"`: "set"}),
	"sheet.loss.during.yaw":       wordBehaviour("while silent, yaw", map[string]string{`"keep"`: "keep", `"rest"`: "rest", `"set"`: "set"}),
	"sheet.loss.during.switches":  wordBehaviour("while silent, aux", map[string]string{`"keep"`: "keep", `"rest"`: "rest", `"set"`: "set"}),
	"sheet.sticks.hold.channel":   windowBehaviour("hold"), "sheet.sticks.hold.from": windowBehaviour("hold"), "sheet.sticks.hold.to": windowBehaviour("hold"),
	"sheet.sticks.comeHome.channel": windowBehaviour("home"), "sheet.sticks.comeHome.from": windowBehaviour("home"), "sheet.sticks.comeHome.to": windowBehaviour("home"),
	"sheet.sticks.mission.channel": windowBehaviour("mission"), "sheet.sticks.mission.from": windowBehaviour("mission"), "sheet.sticks.mission.to": windowBehaviour("mission"),
	"sheet.sticks.heightHold.channel": windowBehaviour("height"), "sheet.sticks.heightHold.from": windowBehaviour("height"), "sheet.sticks.heightHold.to": windowBehaviour("height"),
	"sheet.sticks.headingHold.channel": windowBehaviour("heading"), "sheet.sticks.headingHold.from": windowBehaviour("heading"), "sheet.sticks.headingHold.to": windowBehaviour("heading"),
	"sheet.sticks.selfRight.channel": windowBehaviour("self-right"), "sheet.sticks.selfRight.from": windowBehaviour("self-right"), "sheet.sticks.selfRight.to": windowBehaviour("self-right"),
	"sheet.sticks.sounder.channel": windowBehaviour("sounder"), "sheet.sticks.sounder.from": windowBehaviour("sounder"), "sheet.sticks.sounder.to": windowBehaviour("sounder"),
	"sheet.sticks.lamp.channel": windowBehaviour("lamp"), "sheet.sticks.lamp.from": windowBehaviour("lamp"), "sheet.sticks.lamp.to": windowBehaviour("lamp"),
	"sheet.sticks.record.channel": windowBehaviour("camera"), "sheet.sticks.record.from": windowBehaviour("camera"), "sheet.sticks.record.to": windowBehaviour("camera"),
	"sheet.sticks.mark.channel": windowBehaviour("mark"), "sheet.sticks.mark.from": windowBehaviour("mark"), "sheet.sticks.mark.to": windowBehaviour("mark"),
	"sheet.sticks.quiet.channel": windowBehaviour("quiet"), "sheet.sticks.quiet.from": windowBehaviour("quiet"), "sheet.sticks.quiet.to": windowBehaviour("quiet"),
	"sheet.sticks.beeper.channel": beeperBehaviour, "sheet.sticks.beeper.from": beeperBehaviour, "sheet.sticks.beeper.to": beeperBehaviour,

	// As far askew as it still arms on its feet.
	"sheet.senses.boardRoll":  lies("20", quad.Mount{Roll: 20}),
	"sheet.senses.boardPitch": lies("-20", quad.Mount{Pitch: -20}),
	"sheet.senses.boardYaw": func(t *testing.T, p quad.Path) {
		k := kit()
		k.Mount.Yaw = 90
		for told, axis := range map[string]int{"90": 0, "0": 1} {
			b := written(t, k, map[quad.Path]string{p: told})
			duty := b.duties(2, func(int) [3]float64 { return [3]float64{60, 0, 0} }, frame(false, 0, 0, 0.3, 0))
			for a := range 2 {
				if answers := math.Abs(differential(duty, a)) > 1e-3; answers != (a == axis) {
					t.Errorf("turned by 90, told %s: a roll is answered on axis %d: %v", told, a, answers)
				}
			}
		}
	},
	"sheet.watch.cells": func(t *testing.T, p quad.Path) {
		for cells, want := range map[string]bool{"6": false, "8": true} { // 24 V are 4 V or 3 V a cell, 3.5 warns
			if got := written(t, kit(), map[quad.Path]string{p: cells}).live().Beeping; got != want {
				t.Errorf("%s cells: beeps %v", cells, got)
			}
		}
	},
	"sheet.watch.warnPerCell": func(t *testing.T, p quad.Path) {
		for warn, want := range map[string]bool{"3.97": false, "4.03": true} {
			if got := written(t, kit(), map[quad.Path]string{p: warn}).live().Beeping; got != want {
				t.Errorf("warns below %s V, 4 V a cell: beeps %v", warn, got)
			}
		}
	},
	"sheet.watch.landPerCell": meant("3.27", func(m meaning) float64 { return m.land }, 3.27),
	"sheet.loss.guard": func(t *testing.T, p quad.Path) {
		for _, guard := range []string{"0.4", "1.2"} {
			b := written(t, kit(), map[quad.Path]string{p: guard})
			b.hold(armMotion, 500)
			b.radio = false
			began := b.now
			for b.now-began < 3000 && !b.live().Loss {
				b.hold(armMotion, 10)
			}
			b.close("noticed after, s", float64(b.now-began)/1000, b.sheet.Loss.Guard, 0.02)
		}
	},
	"sheet.loss.policy":       policyBehaviour,
	"sheet.loss.landThrottle": policyBehaviour,
	"sheet.picture.frequency": func(t *testing.T, p quad.Path) {
		if got := written(t, kit(), map[quad.Path]string{p: "5805"}).live().VideoFrequency; got != 5805 {
			t.Errorf("transmits on %v MHz", got)
		}
	},
	"sheet.picture.power": meant("25", func(m meaning) float64 { return m.milliwatt }, 25),
}

// figureBehaviour: what is told is the figure that the board goes by, in its own unit. Pairs of what is told and what it makes of it.
func figureBehaviour(name string, pairs ...any) func(*testing.T, quad.Path) {
	return func(t *testing.T, p quad.Path) {
		for i := 0; i < len(pairs); i += 2 {
			b := written(t, kit(), map[quad.Path]string{p: pairs[i].(string)})
			want, err := strconv.ParseFloat(fmt.Sprint(pairs[i+1]), 64)
			if err != nil {
				t.Fatal(err)
			}
			got, known := b.means.figures[name]
			if !known {
				t.Fatalf("the board knows nothing of %q", name)
			}
			b.close(name, got, want, 1e-9)
		}
	}
}

// wordBehaviour: what is told is the word that the board goes by.
func wordBehaviour(name string, of map[string]string) func(*testing.T, quad.Path) {
	return func(t *testing.T, p quad.Path) {
		for told, want := range of {
			if got := written(t, kit(), map[quad.Path]string{p: told}).means.words[name]; got != want {
				t.Errorf("told %s, %s is %q, want %q", told, name, got, want)
			}
		}
	}
}

// windowBehaviour: the board takes just these pulses on just this channel for it.
func windowBehaviour(name string) func(*testing.T, quad.Path) {
	return func(t *testing.T, p quad.Path) {
		parts := strings.Split(string(p), ".")
		at := quad.Path(strings.Join(parts[:len(parts)-1], "."))
		want := quad.Range{Channel: 9, From: 1800, To: 2100}
		b := written(t, kit(), map[quad.Path]string{at: `{"channel": 9, "from": 1800, "to": 2100}`})
		// What keeps a board from arming while it is on does.
		blocks := map[string]bool{"hold": true, "home": true, "mission": true, "self-right": true}[name]
		k := kit()
		k.Radio.Switches[2].Channel = 8
		for us, on := range map[float64]bool{1900: true, 1500: false} {
			k.Radio.Switches[2].Pulses["beeper"] = us
			d := written(t, k, map[quad.Path]string{at: `{"channel": 8, "from": 1800, "to": 2100}`})
			if err := d.stick(protocol.Stick{Switch: "beep", Position: "beeper"}); err != nil {
				t.Fatal(err)
			}
			d.Advance(50)
			if armed := d.hold(armMotion, 300).Armed; armed == (blocks && on) {
				t.Errorf("with %s at %v µs it arms: %v", name, us, armed)
			}
		}
		got := b.means.windows[name]
		if got.Channel != want.Channel || !(math.Abs(got.From-want.From) <= 13) || !(math.Abs(got.To-want.To) <= 13) { // the coarsest count is 25 µs
			t.Errorf("%s is on at %+v, want %+v", name, got, want)
		}
	}
}

func flag(b bool) float64 {
	if b {
		return 1
	}
	return 0
}

func still(int) [3]float64 { return [3]float64{} }

// meant checks what the board makes of a setting that an eye, an ear or a meter does not reach.
func meant(value string, of func(meaning) float64, want float64) func(*testing.T, quad.Path) {
	return func(t *testing.T, p quad.Path) {
		b := written(t, kit(), map[quad.Path]string{p: value})
		b.close(string(p), of(b.means), want, 1e-9)
	}
}

// rateBehaviour: the figure written is the rotation turned at full stick.
func rateBehaviour(axis int, name string, peaks ...string) func(*testing.T, quad.Path) {
	return func(t *testing.T, p quad.Path) {
		for _, peak := range peaks {
			b := written(t, kit(), map[quad.Path]string{p: peak, quad.Path("sheet.feel." + name + ".centre"): "100"})
			want, _ := quad.Get(b.sheet, quad.Path(strings.TrimPrefix(string(p), "sheet.")))
			b.close("turned, deg/s", math.Abs(b.turn(axis, 1)), want.(float64), 0.02*want.(float64))
		}
	}
}

// curveBehaviour: between centre and end it turns as the sheet's curve says, in every family.
func curveBehaviour(axis int) func(*testing.T, quad.Path) {
	return func(t *testing.T, _ quad.Path) {
		name := [3]string{"roll", "pitch", "yaw"}[axis]
		at := quad.Path("sheet.feel." + name)
		for _, family := range []quad.RateFamily{quad.CentrePeak, quad.StraightExpo, quad.Compounding} {
			for _, bend := range []string{"0.2", "0.6"} {
				b := written(t, kit(), map[quad.Path]string{"sheet.feel.family": `"` + string(family) + `"`, at + ".centre": "150", at + ".peak": "500", at + ".bend": bend})
				rates := [3]quad.Rates{b.sheet.Feel.Roll, b.sheet.Feel.Pitch, b.sheet.Feel.Yaw}[axis]
				want := feel.Rate(family, rates, 0.5)
				b.close(string(family)+" at half stick, deg/s", math.Abs(b.turn(axis, 0.5)), want, 0.03*want+1)
			}
		}
	}
}

// nearlyNone is a proportional gain that is told, but too small for any line to hold: a nought would be none that anybody told.
const nearlyNone = "0.000001"

// gainBehaviour: differential throttle per rotation error, its integral and the rotation's change, each in
// the sheet's unit.
func gainBehaviour(axis int, name string) func(*testing.T, quad.Path) {
	return func(t *testing.T, _ quad.Path) {
		at := quad.Path("sheet.feel." + name)
		with := func(p, i, d string) *benchUnderTest {
			return written(t, kit(), map[quad.Path]string{at + ".proportional": p, at + ".integral": i, at + ".derivative": d})
		}
		rate := func(x float64) [3]float64 {
			var r [3]float64
			r[axis] = x
			return r
		}
		up := frame(false, 0, 0, 0.4, 0)
		// 40 deg/s too fast: 40 times the gain, in per cent, against it.
		b := with("0.08", "0", "0")
		b.close(name+" proportional", differential(b.duties(60, func(int) [3]float64 { return rate(-40) }, up), axis), 40*0.08/100, 1e-6)
		// 10 deg/s for half a second are 5 deg.
		b = with(nearlyNone, "0.2", "0")
		b.close(name+" integral", differential(b.duties(500, func(int) [3]float64 { return rate(-10) }, up), axis), 5*0.2/100, 1e-4)
		// 2000 deg/s faster every second, long enough for its low-pass.
		b = with(nearlyNone, "0", "0.001")
		b.close(name+" derivative", differential(b.duties(60, func(n int) [3]float64 { return rate(-2 * float64(n)) }, up), axis), 2000*0.001/100, 1e-4)
	}
}

// leadBehaviour: with the stick on its way across its travel, the duty leads by the gain times what it asks for more each second.
func leadBehaviour(axis int, name string) func(*testing.T, quad.Path) {
	return func(t *testing.T, p quad.Path) {
		at := quad.Path("sheet.feel." + name)
		b := written(t, kit(), map[quad.Path]string{at + ".proportional": nearlyNone, at + ".integral": "0", at + ".derivative": "0", p: "0.0004", "sheet.feel.family": `"straightExpo"`,
			quad.Path("sheet.feel."+strings.TrimSuffix(name, "Gains")) + ".peak": "500", quad.Path("sheet.feel."+strings.TrimSuffix(name, "Gains")) + ".bend": "0", "sheet.sticks.deadband": "0"})
		s := b.arm()
		sign := [3]float64{1, -1, 1}[axis] // stick forward lowers the nose
		for n := range 120 {
			x := float64(n) / 500
			stick := [3][3]float64{{x, 0, 0}, {0, x, 0}, {0, 0, x}}[axis]
			s.Hold(0, 0, [3]float64{})
			s.Step(frame(false, stick[0], stick[1], 0.4, stick[2]))
		}
		// A five-hundredth of 500 deg/s each millisecond are 1000 deg/s².
		b.close(name+" ahead", sign*differential(s.State().Duty, axis), 1000*0.0004/100, 1e-4)
	}
}

// filterBehaviour: of a rotation that swings 25 times a second, just that much comes through to the motors that the sheet's filters let through.
func filterBehaviour(on string, more ...string) func(*testing.T, quad.Path) {
	return func(t *testing.T, p quad.Path) {
		changes := map[quad.Path]string{p: on}
		for i := 0; i < len(more); i += 2 {
			changes[quad.Path(more[i])] = more[i+1]
		}
		derivative := strings.Contains(string(p), ".change")
		changes["sheet.feel.rollGains.integral"], changes["sheet.feel.rollGains.derivative"], changes["sheet.feel.rollGains.proportional"] = "0", "0", "0.08"
		if derivative {
			changes["sheet.feel.rollGains.derivative"], changes["sheet.feel.rollGains.proportional"] = "0.001", nearlyNone
		}
		b := written(t, kit(), changes)
		s := b.arm()
		const hertz, rate = 25.0, 1000.0
		var sin, cos float64
		for n := range 2000 {
			sn, cs := math.Sincos(2 * math.Pi * hertz * float64(n) / rate)
			s.Hold(0, 0, [3]float64{20 * sn})
			s.Step(frame(false, 0, 0, 0.4, 0))
			if d := differential(s.State().Duty, 0); n >= 1000 {
				sin, cos = sin+d*sn/500, cos+d*cs/500
			}
		}
		set := flight.SettingsOf(b.sheet)
		rotation, change := set.Fixed(rate)
		want := cmplx.Abs(rotation.At(hertz, rate)) * 20 * 0.08 / 100
		if derivative {
			step := cmplx.Abs(1 - cmplx.Rect(1, -2*math.Pi*hertz/rate))
			want = cmplx.Abs(rotation.At(hertz, rate)*change.At(hertz, rate)) * step * rate * 20 * 0.001 / 100
		}
		b.close("comes through", math.Hypot(sin, cos), want, 0.02*want)
	}
}

// placeBehaviour: the board answers a roll through the outputs that it thinks are on that side.
func placeBehaviour(t *testing.T, _ quad.Path) {
	b := written(t, kit(), map[quad.Path]string{"sheet.motors.outputs.A.corner": `"frontLeft"`, "sheet.motors.outputs.C.corner": `"frontRight"`, "sheet.motors.outputs.B.corner": `"rearRight"`, "sheet.motors.outputs.D.corner": `"rearLeft"`})
	duty := b.duties(2, still, frame(false, 0.3, 0, 0.3, 0))
	// A really is front right; the board takes it for front left, which a roll to the right speeds up.
	if !(duty[1] > duty[0] && duty[3] > duty[2]) {
		t.Errorf("duties by corner %v: the outputs are not where they were said to be", duty)
	}
}

// switchingBehaviour: the speed controller says that it switches so, and at a higher rate slows down later.
func switchingBehaviour(letter string) func(*testing.T, quad.Path) {
	return func(t *testing.T, p quad.Path) {
		last := -1.0
		for _, kilohertz := range []string{"24", "48", "96"} {
			k := kit()
			k.SpeedControllers = map[string]KitSpeed{letter: {Layout: "CW60", Line: "Causeway", Version: "3.1.0", Switching: 24}}
			b := written(t, k, map[quad.Path]string{p: kilohertz})
			b.usb = true
			if id, err := b.identify(protocol.Which{Output: letter}); err != nil || quad.Number(id.Switching) != kilohertz {
				t.Errorf("told %s kHz it says %v kHz, %v", kilohertz, id.Switching, err)
			}
			corner := b.kit.Wired[letter].Corner
			b.hold(protocol.Motion{Kind: "spin", Output: letter, Level: 9}, 600)
			b.rest()
			b.Advance(40)
			if left := b.live().Corners[corner].Pace; left <= last {
				t.Errorf("at %s kHz it is down to %v after 40 ms, at the one below to %v", kilohertz, left, last)
			} else {
				last = left
			}
		}
	}
}

// bothWaysBehaviour: with the board told of reversible thrust a speed controller that was told too turns slowly at little throttle, and
// one that was not turns at half of it.
func bothWaysBehaviour(letter string) func(*testing.T, quad.Path) {
	return func(t *testing.T, p quad.Path) {
		for told, fast := range map[string]bool{"true": false, "false": true} {
			b := written(t, kit(), map[quad.Path]string{"sheet.motors.reversible": "true", p: told})
			l := b.hold(protocol.Motion{Kind: "spin", Output: letter, Level: 6}, 500)
			if seen := l.Corners[b.kit.Wired[letter].Corner]; !seen.Turning || (seen.Pace > 0.5) != fast {
				t.Errorf("told %s: turning %v, pace %v", told, seen.Turning, seen.Pace)
			}
		}
	}
}

func reverseBehaviour(letter string) func(*testing.T, quad.Path) {
	return func(t *testing.T, p quad.Path) {
		for told, turned := range map[string]bool{"false": false, "true": true} {
			b := written(t, kit(), map[quad.Path]string{p: told})
			l := b.hold(protocol.Motion{Kind: "spin", Output: letter, Level: 6}, 500)
			w := b.kit.Wired[letter]
			want := w.Spin
			if turned {
				want = want.Opposite()
			}
			if seen := l.Corners[w.Corner]; !seen.Turning || seen.Spin != want {
				t.Errorf("reversed %s: %s is seen turning %v %s", told, w.Corner, seen.Turning, seen.Spin)
			}
		}
	}
}

// rangeBehaviour: a stick that stops short, mapped by its own ends, is answered as one that does not.
func rangeBehaviour(t *testing.T, p quad.Path) {
	axis := quad.Axis(strings.Split(string(p), ".")[3])
	at := quad.Path("sheet.sticks.ranges." + string(axis))
	duties := func(changes map[quad.Path]string, us float64) [4]float64 {
		b := written(t, kit(), changes)
		f := frame(false, 0, 0, 0.3, 0)
		f.Channels[quad.ChannelIn("AETR", axis)-1] = us
		return b.duties(2, still, f)
	}
	short := map[quad.Path]string{at: `{"low": 1080, "centre": 1520, "high": 1900}`}
	for got, whole := range map[float64]float64{1080: 1000, 1300: 1250, 1520: 1500, 1615: 1625, 1900: 2000} {
		a, b := duties(short, got), duties(nil, whole)
		for i := range a {
			if !(math.Abs(a[i]-b[i]) <= 1e-9) {
				t.Errorf("%v µs on a channel from 1080 to 1900 give %v, %v µs on a whole one %v", got, a, whole, b)
				break
			}
		}
	}
}

func wireBehaviour(t *testing.T, _ quad.Path) {
	for _, c := range []struct {
		rate, twoWay string
		want         float64
	}{{"300", "true", 139.33}, {"600", "false", 26.67}} {
		b := written(t, kit(), map[quad.Path]string{"sheet.motors.bitRate": c.rate, "sheet.motors.twoWay": c.twoWay})
		b.close("frame on the wire, µs", b.means.frame, c.want, 0.01)
	}
}

func portBehaviour(port, function string) func(*testing.T, quad.Path) {
	return func(t *testing.T, p quad.Path) {
		k := kit()
		k.Receiver.Port = port
		if function != "receiver" { // the first port cannot be a receiver's while it configures: its word is checked
			if b := written(t, k, map[quad.Path]string{p: `"` + function + `"`}); b.means.ports[port] != function {
				t.Errorf("port %s does %s", port, b.means.ports[port])
			}
		}
		if on := written(t, k, map[quad.Path]string{p: `"receiver"`}).live(); !on.ReceiverAnswers {
			t.Errorf("a receiver on port %s is not heard", port)
		}
		if off := written(t, k, map[quad.Path]string{p: `"nothing"`}).live(); off.ReceiverAnswers {
			t.Errorf("port %s is told nothing and hears a receiver", port)
		}
	}
}

// speedBehaviour: a device on the port is heard at its own speed, and at no other.
func speedBehaviour(port string) func(*testing.T, quad.Path) {
	return func(t *testing.T, p quad.Path) {
		for _, speaks := range []float64{57.6, 115.2, 230.4} {
			for _, told := range []float64{57.6, 115.2, 230.4} {
				k := kit()
				k.Receiver.Port = "-" // it is not in the way
				k.Parts.Devices = map[string]quad.Device{"sky": {Function: quad.PortSatellite, Talks: true, Baud: speaks}}
				k.Wires = map[string]quad.Wire{"sky": {Port: port}}
				b := written(t, k, map[quad.Path]string{quad.Path("sheet.wiring.ports." + port + ".function"): `"satellite"`, p: fmt.Sprint(told)})
				if got := b.live().Answers["sky"]; got != (speaks == told) {
					t.Errorf("it speaks at %v kBd and port %s was told %v: answers %v", speaks, port, told, got)
				}
			}
		}
	}
}

func levelBehaviour(t *testing.T, _ quad.Path) {
	changes := map[quad.Path]string{"sheet.sticks.selfLevel": `{"channel": 8, "from": 1400, "to": 1600}`}
	for us, want := range map[float64]bool{1397: false, 1403: true, 1597: true, 1603: false} {
		b := written(t, kit(), changes)
		s := b.arm()
		f := frame(false, 0, 0, 0.3, 0)
		f.Channels[7] = us
		s.Hold(12, 0, [3]float64{})
		s.Step(f)
		if levels := differential(s.State().Duty, 0) != 0; levels != want {
			t.Errorf("at %v µs it levels: %v", us, levels)
		}
	}
}

// levelsAt says whether, with these sticks, it asks for something else when it leans.
func (b *benchUnderTest) levelsAt(f flight.Sticks) bool {
	asks := func(lean float64) float64 {
		if err := b.mean(); err != nil {
			b.Fatal(err)
		}
		s := b.arm()
		s.Hold(lean, 0, [3]float64{})
		s.Step(f)
		return differential(s.State().Duty, 0)
	}
	return math.Abs(asks(12)-asks(0)) > 1e-9
}

func blendedBehaviour(t *testing.T, _ quad.Path) {
	changes := map[quad.Path]string{"sheet.sticks.blended": `{"channel": 8, "from": 1400, "to": 1600}`}
	for us, want := range map[float64]bool{1395: false, 1405: true, 1595: true, 1605: false} {
		b := written(t, kit(), changes)
		f := frame(false, 0.1, 0, 0.3, 0)
		f.Channels[7] = us
		if levels := b.levelsAt(f); levels != want {
			t.Errorf("at %v µs it levels: %v", us, levels)
		}
	}
}

// correctsAtRest says whether a rotation is answered while the throttle rests, with a pulse on channel 8.
func correctsAtRest(t *testing.T, changes map[quad.Path]string, us float64) bool {
	t.Helper()
	b := written(t, kit(), changes)
	f := frame(false, 0, 0, 0, 0)
	f.Channels[7] = us
	return differential(b.duties(3, func(int) [3]float64 { return [3]float64{60, 0, 0} }, f), 0) != 0
}

func authorityBehaviour(t *testing.T, _ quad.Path) {
	changes := map[quad.Path]string{"sheet.sticks.authority": `{"channel": 8, "from": 1400, "to": 1600}`}
	for us, want := range map[float64]bool{1395: false, 1405: true, 1595: true, 1605: false} {
		if got := correctsAtRest(t, changes, us); got != want {
			t.Errorf("at %v µs, at rest it corrects: %v", us, got)
		}
	}
}

func beeperBehaviour(t *testing.T, _ quad.Path) {
	for us, want := range map[float64]bool{1597: false, 1603: true, 1797: true, 1803: false} {
		k := kit()
		k.Radio.Switches[2].Channel, k.Radio.Switches[2].Pulses["beeper"] = 8, us
		b := written(t, k, map[quad.Path]string{"sheet.sticks.beeper": `{"channel": 8, "from": 1600, "to": 1800}`})
		if err := b.stick(protocol.Stick{Switch: "beep", Position: "beeper"}); err != nil {
			t.Fatal(err)
		}
		b.Advance(50)
		if got := b.live().Beeping; got != want {
			t.Errorf("at %v µs it beeps: %v", us, got)
		}
	}
}

func policyBehaviour(t *testing.T, _ quad.Path) {
	for _, c := range []struct {
		policy, throttle string
		runs             bool
	}{{"drop", "22", false}, {"land", "22", true}, {"land", "35", true}} {
		b := written(t, kit(), map[quad.Path]string{"sheet.loss.policy": `"` + c.policy + `"`, "sheet.loss.landThrottle": c.throttle})
		b.hold(armMotion, 500)
		b.radio = false
		b.hold(armMotion, 2500)
		duty := b.body.State().Duty[0]
		want := 0.0
		if c.runs {
			idle := b.sheet.Motors.Idle / 100
			want = idle + b.sheet.Loss.LandThrottle/100*b.sheet.Feel.ThrottleLimit/100*(1-idle)
		}
		b.close(c.policy+" at "+c.throttle+" %", duty, want, 1e-6)
	}
}

// lies holds that a board which lies some way, and was told so, answers a roll of the frame about the right axis and the right way; and
// one that was not told answers at least one axis the wrong way.
func lies(told string, mount quad.Mount) func(*testing.T, quad.Path) {
	return func(t *testing.T, p quad.Path) {
		plain := written(t, kit(), nil)
		k := kit()
		k.Mount = mount
		for _, raw := range []string{told, "0"} {
			b, same := written(t, k, map[quad.Path]string{p: raw}), true
			for axis := range 3 {
				turn := func(int) [3]float64 {
					var v [3]float64
					v[axis] = 60
					return v
				}
				want, got := differential(plain.duties(2, turn, frame(false, 0, 0, 0.3, 0)), axis), differential(b.duties(2, turn, frame(false, 0, 0, 0.3, 0)), axis)
				same = same && math.Abs(got-want) < 1e-9
			}
			if same != (raw == told) {
				t.Errorf("lies %s, told %s: answers as one that lies flat: %v", mount.Words(), raw, same)
			}
		}
	}
}
