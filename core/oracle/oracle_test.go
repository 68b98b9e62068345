package oracle

import (
	"encoding/json"
	"maps"
	"math"
	"math/rand/v2"
	"runtime"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"vividperch/core/airframe"
	"vividperch/core/check"
	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/core/sticks"
	"vividperch/demo"
)

// sound is the oracle of all these tests, made once: whoever changes one of its quads clones it first.
var sound = sync.OnceValues(func() (*Oracle, error) {
	k, err := demo.Sound(time.Date(2026, 5, 4, 10, 0, 0, 0, time.UTC))
	if err != nil {
		return nil, err
	}
	return New([]Base{{Name: "Dunlin", Known: k}})
})

func oracleOf(t testing.TB) *Oracle {
	t.Helper()
	o, err := sound()
	if err != nil {
		t.Fatal(err)
	}
	return o
}

func kindsFor(t testing.TB) []kind { return oracleOf(t).kinds }

// tableFor tries so many quads of an ask, several at a time.
func tableFor(t *testing.T, ask Ask, count, workers int) Table {
	t.Helper()
	o := oracleOf(t)
	results, next := make([]Result, count), make(chan int)
	var wait sync.WaitGroup
	for range workers {
		wait.Go(func() {
			for i := range next {
				var err error
				if results[i], err = o.Try(ask, i); err != nil {
					t.Error(err)
				}
			}
		})
	}
	for i := range count {
		next <- i
	}
	close(next)
	wait.Wait()
	return TableOf(results)
}

// A quad that passes the rules and ends badly in the model is the worst there is: none does, of those drawn here. perch oracle draws more.
func TestRulesAndFlightAgree(t *testing.T) {
	table := tableFor(t, Ask{Seed: 3, MissesOnly: !long}, drawn, runtime.GOMAXPROCS(0))
	for _, m := range table.Misses {
		t.Errorf("%s, %v, passes and %s: %+v (seed %d)", m.Kind, m.Changes, m.Ending, m.Flown, m.Seed)
	}
	if table.Flown < drawn/4 || table.Stopped < drawn/4 || table.Open > drawn/10 {
		t.Errorf("of %d %d flew, %d were stopped, %d are open: they try too little", table.Count, table.Flown, table.Stopped, table.Open)
	}
	if long && 50*len(table.FalseAlarms) > table.Named {
		t.Errorf("%d of %d stops that name a consequence are not shown by the flight", len(table.FalseAlarms), table.Named)
	}
}

// What is drawn from is sound: no stop, no fix, and nothing asked that nobody answers.
func TestKindsAreSound(t *testing.T) {
	for _, one := range kindsFor(t) {
		w := one.world.clone()
		report, err := w.judged()
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range report.Findings {
			// One throttle for every pack and charge never lands softly: that it is known is all that can be wished for.
			if f.Weight != check.Note && f.Rule != "link-loss.land-throttle" {
				t.Errorf("%s: %s %s: %s", one.name, f.Weight, f.Title, f.Figures)
			}
		}
		for _, a := range report.Asks {
			t.Errorf("%s: asks %s", one.name, a.Path)
		}
	}
}

// Each ending is seen where there is one: quads that are spoiled so far that nobody doubts it, flown whatever the rules say.
func TestEndingsAreSeen(t *testing.T) {
	kinds := kindsFor(t)
	of := func(name string) world {
		i := slices.IndexFunc(kinds, func(k kind) bool { return k.name == name })
		return kinds[i].world.clone()
	}
	for _, c := range []struct {
		name  string
		kind  string
		spoil func(w *world)
		want  Ending
	}{
		{"as it is", "Dunlin, 5 in", func(*world) {}, ""},
		{"the board turned half round", "Dunlin, 5 in", func(w *world) { w.is.board.Yaw = 180 }, TipsOver},
		{"no room at all", "Dunlin, 5 in", func(w *world) { w.is.clear = 0.01 }, LeavesCircle},
		{"landing at a throttle that climbs", "Dunlin, 5 in, landing", func(w *world) { w.k.Sheet.Loss.LandThrottle = 70 }, Climbs},
		{"homing as it is", "Dunlin, 5 in, homing", func(*world) {}, ""},
		{"homing with a compass that is off", "Dunlin, 5 in, homing", func(w *world) { w.is.place.HeadingOff = 40 }, FliesAway},
		{"homing without a home", "Dunlin, 5 in, homing", func(w *world) { w.is.place.Fixed = false }, LeavesCircle},
		{"homing under the tops", "Dunlin, 5 in, homing", func(w *world) { w.is.obstacle = 34 }, StrikesHard},
		{"homing, and refused with a throttle that climbs", "Dunlin, 5 in, homing", func(w *world) { w.k.Sheet.Loss.LandThrottle, w.is.place.Fixed = 70, false }, Climbs},
		{"motors of a few grams", "Dunlin, 5 in", func(w *world) { w.k.Parts.Motor.Mass, w.is.weight = 4, 1500 }, Overheats},
		{"packs for half a minute", "Dunlin, 5 in", func(w *world) {
			w.k.Parts.Packs = maps.Clone(w.k.Parts.Packs)
			for name, p := range w.k.Parts.Packs {
				p.Capacity = 35
				w.k.Parts.Packs[name] = p
			}
		}, RunsLow},
		{"a gain for thirteen times the inertia", "Dunlin, 5 in", func(w *world) {
			g := &w.k.Sheet.Feel.RollGains
			g.Proportional *= 13
		}, Shakes},
		{"its weight over its front motors", "Dunlin, 5 in", func(w *world) { w.is.centre.Ahead = 76 }, TipsOver},
		{"a receiver that repeats what it heard last", "Dunlin, 5 in", func(w *world) {
			w.is.onLoss = quad.LossHold
			w.is.wind, w.is.gust = 12, 12
		}, LeavesCircle},
	} {
		w := of(c.kind)
		c.spoil(&w)
		if err := w.write(); err != nil {
			t.Fatal(err)
		}
		list := w.flights(rand.New(rand.NewPCG(4, 4)))
		var got []Ending
		for _, f := range list {
			end, _, err := w.fly(f)
			if err != nil {
				t.Fatalf("%s: %v", c.name, err)
			}
			if end != "" {
				got = append(got, end)
			}
		}
		if c.want == "" && len(got) > 0 || c.want != "" && !slices.Contains(got, c.want) {
			t.Errorf("%s: ends %v, want %q", c.name, got, c.want)
		}
	}
}

// It arms by itself in each of the ways that it can, and in none while it is sound.
func TestArmingByItselfIsSeen(t *testing.T) {
	for _, c := range []struct {
		name  string
		spoil func(w *world)
		want  string
	}{
		{"as it is", func(*world) {}, ""},
		{"a mix that brings another switch onto its channel", func(w *world) {
			w.k.Radio.Mixes = map[string]quad.MixPlan{"odd": {From: 7, To: 5, Weight: 200}}
		}, "by the left face switch at beeper"},
		{"another switch that really sends on its channel", func(w *world) {
			w.is.switches["left face"] = quad.SwitchSeen{Channel: 5, Positions: map[string]float64{"quiet": 1000, "beeper": 2000}}
			delete(w.is.switches, "left shoulder")
			w.k.Radio.Switches = map[string]quad.SwitchPlan{"left face": w.k.Radio.Switches["left face"], "right shoulder": w.k.Radio.Switches["right shoulder"]}
		}, "by the left face switch at beeper"},
		{"presets that disarm while the switch is on", func(w *world) { w.is.onLoss = quad.LossPreset }, "when the radio comes back, its arm switch still on"},
	} {
		w := kindsFor(t)[0].world.clone()
		c.spoil(&w)
		if err := w.write(); err != nil {
			t.Fatal(err)
		}
		if got, _, err := w.armsByItself(); err != nil || got != c.want {
			t.Errorf("%s: arms %q, %v; want %q", c.name, got, err, c.want)
		}
	}
}

// What the radio sends is worked out twice, here and by the switchboard that rules and page go by: the same for every mix that is no loop.
func TestPulsesAgreeWithTheSwitchboard(t *testing.T) {
	one := kindsFor(t)[0].world
	r := rand.New(rand.NewPCG(9, 9))
	compared := 0
	for range 2000 {
		w := one.clone()
		w.k.Radio.Mixes = map[string]quad.MixPlan{}
		for _, name := range []string{"a", "b", "c"}[:r.IntN(4)] {
			w.k.Radio.Mixes[name] = quad.MixPlan{From: 5 + r.IntN(6), To: 5 + r.IntN(6), Weight: float64(-100 + 25*r.IntN(9)), Alone: r.IntN(4) == 0}
		}
		k := w.known()
		b := sticks.NewSwitchboard(k)
		if len(b.Loop) > 0 {
			continue
		}
		at := w.atRest()
		for name, s := range w.k.Radio.Switches {
			at[name] = s.Positions[r.IntN(len(s.Positions))]
		}
		got := w.pulses(at)
		for c := 5; c <= 12; c++ {
			want, driven := b.Pulse(c, at)
			if driven && got[c-1] != want {
				t.Fatalf("channel %d with %v and mixes %v: %v, the switchboard says %v", c, at, w.k.Radio.Mixes, got[c-1], want)
			}
			compared++
		}
	}
	if compared < 5000 {
		t.Errorf("only %d compared", compared)
	}
}

// The same ask gives the same table, however many are tried at a time.
func TestTheSameAskGivesTheSameTable(t *testing.T) {
	first := ""
	for _, workers := range []int{1, 3} {
		raw, err := json.Marshal(tableFor(t, Ask{Seed: 5}, 12, workers))
		if err != nil {
			t.Fatal(err)
		}
		if first == "" {
			first = string(raw)
		}
		if string(raw) != first {
			t.Errorf("%d at a time: %s, one by one %s", workers, raw, first)
		}
	}
}

// undrawn are leaves that rules read and that no change draws, with the reason.
var undrawn = map[string]string{
	"board":                          "it holds what your settings say, or what it said before a change that was not written",
	"fleet":                          "other quads: a taken number, which no flight shows",
	"today":                          "a day is no change of a quad",
	"pilot":                          "your own limits are drawn as the quad's own",
	"sheet.link.phrase":              "secret; whether it is shared shows as channels that move",
	"radio.phrase":                   "secret; the same",
	"sheet.firmware.other":           "settings without a subject",
	"readings.firmware.backup":       "what was saved, which no flight shows",
	"readings.firstFlight.rehearsal": "flown by the model itself",
	"readings.senses.faces":          "what an accelerometer makes of level is drawn as a level error",
	"readings.loss.line":             "as the rehearsal, along a line",
	"readings.firstFlight.home":      "where it takes off; nothing returns yet",
	"readings.loss.response":         "follows from what the receiver puts out and the board does",
	"readings.loss.rearms":           "the same",
	"readings.loss.beeper":           "a noise, which no flight shows",
	"readings.benchProof":            "follows from motors, sticks and gates",
	"readings.watch.boardVolts":      "follows from the pack",
	"readings.watch.meterVolts":      "follows from the pack",
	"readings.motors.startsAt":       "follows from where each motor starts",
	"readings.firstFlight.gust":      "drawn with the wind",
}

// A leaf that rules look at and no change ever draws would never be tried against the flight.
func TestEveryLeafIsDrawn(t *testing.T) {
	kinds := kindsFor(t)
	var wanted [][]string
	for _, s := range quad.Shape() {
		read := slices.ContainsFunc(check.Rules(), func(rule check.Rule) bool {
			return slices.ContainsFunc(rule.Reads, func(p quad.Path) bool { return s.Path.Matches(p) || p.Matches(s.Path) || s.Path.Touches(p) })
		})
		listed := false
		for root := range undrawn {
			listed = listed || s.Path.Under(quad.Path(root))
		}
		if read && !listed && !strings.HasSuffix(string(s.Path), ".reason") {
			wanted = append(wanted, strings.Split(string(s.Path), "."))
		}
	}
	if len(wanted) < 150 {
		t.Errorf("only %d leaves are looked at", len(wanted))
	}
	covers := func(drawn []string) func(leaf []string) bool {
		return func(leaf []string) bool {
			for i, seg := range drawn {
				if i >= len(leaf) || leaf[i] != "*" && leaf[i] != seg {
					return i >= len(leaf)
				}
			}
			return true // all of it was drawn together, as a pack or a switch
		}
	}
	r := rand.New(rand.NewPCG(7, 7))
	seen := map[quad.Path]bool{}
	for n := 0; n < 40000 && len(wanted) > 0; n++ {
		w := kinds[r.IntN(len(kinds))].world.clone()
		if c, ok := w.change(r); ok && !seen[c.Path] {
			seen[c.Path] = true
			wanted = slices.DeleteFunc(wanted, covers(strings.Split(string(c.Path), ".")))
		}
	}
	for _, leaf := range wanted {
		t.Errorf("%s is read by a rule and never drawn", strings.Join(leaf, "."))
	}
}

// A hundred beginners' first hovers, in still air and in the strongest wind that anything is flown in, stay inside the circle that is
// told; and the circle is not told so wide that it says nothing.
func TestBeginnersStayInsideTheCircle(t *testing.T) {
	r := rand.New(rand.NewPCG(14, 4))
	widest := 0.0
	for i, k := range kindsFor(t) {
		for n := range 5 {
			w := k.world.clone()
			w.is.wind = []float64{0, 0, 3, 5, windMost}[n]
			w.is.gust = math.Min(1.3*w.is.wind, gustMost)
			w.is.clear = 1e9 // how far it gets is looked at here
			told, err := w.bound()
			if err != nil {
				t.Fatalf("%s: no circle is told: %v", k.name, err)
			}
			names := quad.SortedKeys(w.k.Parts.Packs)
			s := sortie{Flight: flight.Hover(flight.HoverCard), hand: "beginner", pack: names[r.IntN(len(names))], cell: []float64{airframe.FullCell, airframe.LowCell}[(i+n)%2], seed: r.Uint64(), wind: 2 * math.Pi * r.Float64()}
			s.Hand = flight.Beginner
			in, err := w.input(w.k.Parts.Packs[s.pack], s.cell, s.seed)
			if err != nil {
				t.Fatal(err)
			}
			in.Site.WindNorth, in.Site.WindEast = -w.is.wind*math.Cos(s.wind), -w.is.wind*math.Sin(s.wind)
			var seen track
			if _, err := flight.Fly(in, s.Flight, flight.Watching{Rate: recorded, Record: seen.see}); err != nil {
				t.Fatal(err)
			}
			if seen.far > told {
				t.Errorf("%s in %.0f m/s: %.1f m away, the circle is told as %.1f m", k.name, w.is.wind, seen.far, told)
			}
			widest = math.Max(widest, told)
		}
	}
	if widest > 30 {
		t.Errorf("a circle of %.0f m is told for a first hover", widest)
	}
}
