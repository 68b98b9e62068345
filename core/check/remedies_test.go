package check_test

import (
	"strings"
	"testing"

	"vividperch/core/check"
	"vividperch/core/quad"
	"vividperch/demo"
)

// badness ranks what stands by how bad it is.
var badness = map[check.Weight]int{check.Stop: 3, check.Fix: 2, check.Note: 1}

// seenAgain sees the outputs again that a remedy turns round, as its pilot must.
func seenAgain(t *testing.T, k *quad.Known, r check.Remedy) {
	for _, e := range r.Edits {
		if e.Path == "sheet.craft.rotation" {
			put(t, k, "readings.firstFlight.propellers", "{}") // others must be fitted, and noted
		}
		letter, ok := strings.CutSuffix(strings.TrimPrefix(string(e.Path), "sheet.motors.outputs."), ".reversed")
		seen := k.Readings.Motors.Outputs[letter]
		if !ok || seen == nil {
			continue
		}
		put(t, k, quad.Path("readings.motors.outputs."+letter), `{"corner":"`+string(seen.Value.Corner)+`","spin":"`+string(seen.Value.Spin.Opposite())+`"}`)
	}
}

// reveals are remedies that note what is so: what stood against it all along may show by them.
var reveals = map[string]bool{
	"link.identities: Note it in the parts": true, "motors.layout: Tell it as it is built": true,
	"senses.heading: Tell it that the compass is turned by 90°": true, // by a board of another family: this one has no compass to be told of
}

func identityOf(f check.Finding) string { return f.Rule + ", " + f.Subject }

// Every remedy that the program offers to carry out is carried out, in every fixture that brings it up, and written to the board. Then its
// finding is gone, and nothing is there that is worse than what was.
func TestRemediesHelp(t *testing.T) {
	base := sound(t)
	tried := 0
	for _, f := range fixtures {
		if f.weight == "" {
			continue
		}
		k := f.known(t, base)
		before := check.All(k, check.Context{Now: today}).Findings
		worst := map[string]int{}
		for _, x := range before {
			worst[identityOf(x)] = badness[x.Weight]
		}
		for _, x := range before {
			if x.Rule != f.rule {
				continue
			}
			for _, r := range x.Remedies {
				if len(r.Edits) == 0 && !r.Write {
					continue
				}
				tried++
				mended := k
				for _, e := range r.Edits {
					if err := quad.Set(&mended, e.Path, []byte(e.Value)); err != nil {
						t.Errorf("%s, %s: %q puts %s at %s: %v", f.rule, f.name, r.Words, e.Value, e.Path, err)
					}
					if err := quad.Fits(e.Path, []byte(e.Value)); err != nil {
						t.Errorf("%s, %s: %q: %v", f.rule, f.name, r.Words, err)
					}
				}
				seenAgain(t, &mended, r)
				if err := mended.Meant().Valid(); err != nil {
					t.Errorf("%s, %s: %q: %v", f.rule, f.name, r.Words, err)
				}
				// A board that can be written holds what the sheet says now.
				if mended.Board.Understood && mended.Board.Read() {
					_ = demo.Write(&mended, today) // a sheet that this line cannot hold stays unwritten, which a rule says
				}
				for _, after := range check.All(mended, check.Context{Now: today}).Findings {
					id := identityOf(after)
					switch was, there := worst[id]; {
					case id == identityOf(x) && after.Title == x.Title:
						t.Errorf("%s, %s: after %q it still says %q (%s)", f.rule, f.name, r.Words, after.Title, after.Figures)
					case reveals[f.rule+": "+r.Words]:
					case (!there || badness[after.Weight] > was) && badness[after.Weight] > badness[x.Weight]:
						t.Errorf("%s, %s: %q brings the %s %q (%s)", f.rule, f.name, r.Words, after.Weight, after.Title, after.Figures)
					case !there && badness[after.Weight] == badness[x.Weight]:
						t.Errorf("%s, %s: %q brings another %s, %q (%s)", f.rule, f.name, r.Words, after.Weight, after.Title, after.Figures)
					}
				}
			}
		}
	}
	if tried < 40 {
		t.Errorf("only %d remedies were tried", tried)
	}
}
