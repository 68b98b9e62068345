package firmware

import (
	"slices"
	"strings"
	"testing"
	"time"

	"vividperch/core/quad"
)

// bound settings of each line, written here a second time, apart from its facts: what is measured on a board must never go to another
// because somebody forgot a word in a file. "x" for every axis or part.
var bound = map[string]map[Measured]string{
	"Marram": {
		"level": "found.level.roll found.level.pitch found.level.done", "gyro": "found.gyro.roll found.gyro.pitch found.gyro.yaw",
		"volts": "volt.scale", "current": "amp.scale amp.zero",
	},
	"Spindrift": {
		"level": "level-roll-cd level-pitch-cd level-found", "gyro": "gyro-zero", "compass": "compass-zero compass-gain compass-found",
		"volts": "volt-gain", "current": "amp-gain amp-zero",
	},
	"Shingle": {
		"level": "LevelRoll LevelPitch LevelDone AccelScaleX AccelScaleY AccelScaleZ AccelZeroX AccelZeroY AccelZeroZ AccelDone", "gyro": "GyroX GyroY GyroZ",
		"compass": "CompassX CompassY CompassZ CompassPerAmpX CompassPerAmpY CompassPerAmpZ CompassDone",
		"volts":   "VoltGain", "current": "AmpGain AmpZero",
	},
}

func TestBoundSettingsAreTheOnesListedApart(t *testing.T) {
	for _, name := range LineNames() {
		l, _ := FindLine(name)
		for _, v := range l.Versions {
			b, err := l.At(v.Version)
			if err != nil {
				t.Fatal(err)
			}
			got := map[Measured][]string{}
			for _, s := range b.Facts.Settings {
				if s.Bound != "" {
					got[s.Bound] = append(got[s.Bound], s.Name)
				}
			}
			for what, names := range bound[name] {
				want := strings.Fields(names)
				slices.Sort(want)
				slices.Sort(got[what])
				// An older version may lack some of them, and has none besides.
				for _, n := range got[what] {
					if !slices.Contains(want, n) {
						t.Errorf("%s %s: %s is said to be measured (%s), and is not listed", name, v.Version, n, what)
					}
				}
				if v.Version == l.Versions[len(l.Versions)-1].Version && !slices.Equal(got[what], want) {
					t.Errorf("%s %s: measured for %s are %v, listed %v", name, v.Version, what, got[what], want)
				}
				delete(got, what)
			}
			if len(got) > 0 {
				t.Errorf("%s %s: %v are not listed at all", name, v.Version, got)
			}
		}
	}
}

// Two boards without a number are not the same board: what was measured on one is not the other's.
func TestBoardsWithoutANumberAreNotTheSame(t *testing.T) {
	b, err := Find("Marram", "7.0.2")
	if err != nil {
		t.Fatal(err)
	}
	settings := b.Facts.Defaults()
	settings["found.level.roll"] = "12"
	for _, c := range []struct {
		before, now string
		elsewhere   bool
	}{{"2041", "2041", false}, {"2041", "3000", true}, {"", "", true}, {"2041", "", true}, {"", "2041", true}} {
		is := quad.Identity{Target: "HARRIER4", Line: "Marram", Version: "7.0.2", Serial: c.now}
		was := is
		was.Serial = c.before
		board := Board(ReadBack{Is: is, Settings: settings, Before: Before{Is: was, Settings: settings}, At: time.Unix(0, 0)})
		if got := slices.Contains(board.Elsewhere, "found.level.roll"); got != c.elsewhere {
			t.Errorf("numbers %q and %q: measured elsewhere %v", c.before, c.now, got)
		}
		if same := was.SameBoard(is); same == c.elsewhere {
			t.Errorf("numbers %q and %q: the same board %v", c.before, c.now, same)
		}
	}
}
