package check_test

import (
	"strings"
	"testing"

	"vividperch/core/check"
	"vividperch/core/quad"
)

// Every reading says in a sentence how it is taken by hand, and what a good one looks like.
func TestEveryReadingSaysHowAndWhatIsGood(t *testing.T) {
	said := map[string]quad.Path{}
	for _, s := range quad.Shape() {
		f, err := quad.FieldAt(s.Path)
		if err != nil || !f.Read || strings.HasPrefix(string(s.Path), "board.") {
			continue
		}
		for _, words := range []string{f.How, check.Good(quad.Known{}, s.Path)} {
			if words == "" || words[0] < 'A' || words[0] > 'Z' || !strings.ContainsAny(words[len(words)-1:], ".?") {
				t.Errorf("%s says %q, which is no sentence", s.Path, words)
			}
			if other, twice := said[words]; twice {
				t.Errorf("%s and %s say the same: %q", s.Path, other, words)
			}
			said[words] = s.Path
		}
	}
	if len(said) < 90 {
		t.Errorf("only %d sentences", len(said))
	}
}

// Where this quad tells enough, what is good is told in its own figures; the rules find nothing in such a reading.
func TestGoodIsOfThisQuad(t *testing.T) {
	k := sound(t)
	for p, want := range map[quad.Path]string{
		"readings.airframe.weight":                   "Near 710 g, which its parts come to.",
		"readings.firstPower.leadResistance":         "It climbs while you watch, to some 10 kΩ more in the ten seconds that its 1000 µF fill, or until it stays.",
		"readings.firstPower.idleCurrent":            "About 0.44 A, which its devices draw, steady; up to 0.57 A is no fault.",
		"readings.firmware.identity":                 "HARRIER4, Marram 7.0.2, as your settings have it.",
		"readings.motors.outputs.A":                  "Front right, turning counter-clockwise.",
		"readings.motors.startsAt":                   "Under 4 %: your idle throttle of 5.5 % then turns them safely.",
		"readings.motors.layout":                     "Your settings say x.",
		"readings.senses.level":                      "Within 0.5° of 0 and 0.",
		"readings.loss.response":                     "All four stop, 1 s after the radio is off.",
		"readings.picture.frequency":                 "5780 MHz, as your settings have it, and nobody else on it.",
		"readings.firstFlight.propellers.frontLeft":  "One that is made to turn clockwise, lettering up, the nut tight.",
		"readings.firstFlight.propellers.frontRight": "One that is made to turn counter-clockwise, lettering up, the nut tight.",
		"sheet.motors.idle":                          "",
		"nowhere":                                    "",
	} {
		if got := check.Good(k, p); got != want {
			t.Errorf("%s: %q, want %q", p, got, want)
		}
	}
	own := k
	own.Limits.Thresholds.Level = quad.Own{Value: 1.5, Reason: "a bent plate"}
	if got := check.Good(own, "readings.senses.level"); got != "Within 1.5° of 0 and 0." {
		t.Errorf("by this quad's own limit: %q", got)
	}
	if got := check.Good(quad.Known{}, "readings.airframe.weight"); got != "Within a tenth of the sum of its parts." {
		t.Errorf("of nothing known: %q", got)
	}
}
