package proof_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"vividperch/core/check"
	"vividperch/core/proof"
	"vividperch/core/quad"
	"vividperch/demo"
)

func judged(s check.Station, w check.Weight, title string, accepted bool) proof.Judged {
	j := proof.Judged{Finding: check.Finding{Rule: string(s) + ".x", Subject: title, Station: s, Weight: w, Title: title}}
	if accepted {
		j.Accepted = &proof.Acceptance{Reason: "so be it"}
	}
	return j
}

// What is to be done, in the order to do it in: stops wherever they are, then proofs that fell, then along the line.
func TestNextInOrder(t *testing.T) {
	ask := func(s check.Station, label string) check.Ask {
		return check.Ask{Station: s, Path: quad.Path("readings." + label), Label: label}
	}
	st := []proof.Standing{
		{Station: check.Airframe, State: proof.HasFix, Findings: []proof.Judged{
			judged(check.Airframe, check.Fix, "small capacitor", false), judged(check.Airframe, check.Fix, "soft pack", true), judged(check.Airframe, check.Note, "fast tips", false),
		}},
		{Station: check.FirstPower, State: proof.Ready, MaySign: true},
		{Station: check.Firmware, State: proof.Proven, MaySign: false},
		{Station: check.Wiring, State: proof.Stale, Why: []string{"soldering came after"}, MaySign: true},
		{Station: check.Link, State: proof.Stale, Asks: []check.Ask{ask(check.Link, "channels move")}},
		{Station: check.Sticks, State: proof.Open, Asks: []check.Ask{ask(check.Sticks, "roll")}},
		{Station: check.Motors, State: proof.HasStop, Findings: []proof.Judged{judged(check.Motors, check.Stop, "wrong way", false), judged(check.Motors, check.Stop, "board differs", false)}},
		{Station: check.FirstFlight, State: proof.HasStop, Findings: []proof.Judged{judged(check.FirstFlight, check.Stop, "board differs", false)}},
	}
	want := []proof.Todo{
		{Station: check.Motors, Kind: "stop", Words: "wrong way", Rule: "motors.x"},
		{Station: check.Motors, Kind: "stop", Words: "board differs", Rule: "motors.x"}, // once, though two stations find it
		{Station: check.Wiring, Kind: "prove", Words: "Look at Wiring again and sign it: soldering came after"},
		{Station: check.Link, Kind: "prove", Words: "channels move", Path: "readings.channels move"},
		{Station: check.Airframe, Kind: "fix", Words: "small capacitor", Rule: "airframe.x"},
		{Station: check.FirstPower, Kind: "sign", Words: "Sign First power"},
		{Station: check.Sticks, Kind: "reading", Words: "roll", Path: "readings.roll"},
	}
	if got := proof.Next(st); !slices.Equal(got, want) {
		t.Errorf("got\n%+v, want\n%+v", got, want)
	}
}

// An acceptance stands for one subject of one rule, whatever its words; one from before subjects were kept stands for its title. It lapses
// with anything that its rule reads, and stands for no stop.
func TestAcceptanceIsOfRuleAndSubject(t *testing.T) {
	c := signed(t)
	set(t, &c.Known, "readings.senses.level", `{"roll":2,"pitch":0}`)
	find := func(c proof.Case) proof.Judged {
		for _, f := range proof.Standings(c)[check.Senses.Number()-1].Findings {
			if f.Rule == "senses.level" {
				return f
			}
		}
		t.Fatal("a level that is off finds nothing")
		return proof.Judged{}
	}
	f := find(c)
	a, err := proof.Accept(f.Finding, c.Known, morning, "a pilot", "  a gravel field ")
	if err != nil || a.Reason != "a gravel field" || a.Subject != f.Subject || a.By != "a pilot" {
		t.Fatalf("%+v, %v", a, err)
	}
	for _, x := range []struct {
		name   string
		change func(*proof.Acceptance)
		stands bool
	}{
		{"as it was accepted", func(*proof.Acceptance) {}, true},
		{"worded otherwise since", func(a *proof.Acceptance) { a.Title = "The level was off" }, true},
		{"of another subject", func(a *proof.Acceptance) { a.Subject = "pitch alone" }, false},
		{"of another rule", func(a *proof.Acceptance) { a.Rule = "senses.still" }, false},
		{"taken back", func(a *proof.Acceptance) { a.Reason = "" }, false},
		{"of old, by its title", func(a *proof.Acceptance) { a.Subject = "" }, true},
		{"of old, by another title", func(a *proof.Acceptance) { a.Subject, a.Title = "", "The level was off" }, false},
	} {
		one := a
		x.change(&one)
		c.Accepted = []proof.Acceptance{one}
		st := proof.Standings(c)[check.Senses.Number()-1]
		if got := find(c).Accepted != nil; got != x.stands || st.Accepted != map[bool]int{true: 1}[x.stands] || st.Fixes != map[bool]int{false: 1}[x.stands] {
			t.Errorf("%s: stands %v; %d accepted, %d open", x.name, got, st.Accepted, st.Fixes)
		}
	}
	c.Accepted = []proof.Acceptance{a}
	set(t, &c.Known, "readings.senses.level", `{"roll":2.5,"pitch":0}`)
	if find(c).Accepted != nil {
		t.Error("it outlives what it was about")
	}
	for _, x := range []struct {
		weight check.Weight
		reason string
		code   string
	}{{check.Stop, "why not", "stop-stands"}, {check.Note, "why not", "only-a-note"}, {check.Fix, " \n", "no-reason"}, {check.Fix, string(make([]rune, 501)), "reason-too-long"}, {check.Fix, string(make([]rune, 500)), ""}} {
		g := f.Finding
		g.Weight = x.weight
		_, err := proof.Accept(g, c.Known, morning, "a pilot", x.reason)
		got := ""
		if fault := quad.AsFault(err); fault != nil {
			got = fault.Code
		}
		if got != x.code {
			t.Errorf("a %s for %d characters: %q, want %q", x.weight, len(x.reason), got, x.code)
		}
	}
}

// A reading kept in another zone ends with the day of where it is judged, whichever way the zones lie; a release ends at the pilot's own
// midnight.
func TestDaysAreTheJudgesOwn(t *testing.T) {
	east, west := time.FixedZone("east", 10*3600), time.FixedZone("west", -9*3600)
	for _, x := range []struct {
		name   string
		kept   time.Time
		judged time.Time
		good   bool
	}{
		{"kept in the west on the 3rd, which is the 4th in the east", time.Date(2026, 5, 3, 20, 0, 0, 0, west), time.Date(2026, 5, 4, 23, 59, 0, 0, east), true},
		{"the same, a minute after the east's midnight", time.Date(2026, 5, 3, 20, 0, 0, 0, west), time.Date(2026, 5, 5, 0, 0, 0, 0, east), false},
		{"kept in the east on the 5th, which is the 4th in the west", time.Date(2026, 5, 5, 9, 0, 0, 0, east), time.Date(2026, 5, 4, 23, 59, 0, 0, west), true},
		{"the same, after the west's midnight", time.Date(2026, 5, 5, 9, 0, 0, 0, east), time.Date(2026, 5, 5, 0, 0, 0, 0, west), false},
		{"kept in UTC late, judged in the east next day", time.Date(2026, 5, 4, 13, 59, 0, 0, time.UTC), time.Date(2026, 5, 5, 0, 0, 0, 0, east), false},
		{"kept in UTC a minute later, which is the east's next day", time.Date(2026, 5, 4, 14, 0, 0, 0, time.UTC), time.Date(2026, 5, 5, 23, 59, 59, 0, east), true},
	} {
		c := signed(t)
		c.Known.Readings.FirstFlight.Wind.At = x.kept
		c.Context.Now = x.judged
		asked := slices.ContainsFunc(check.All(c.Known, c.Context).Asks, func(a check.Ask) bool { return a.Path == "readings.firstFlight.wind" })
		if asked == x.good {
			t.Errorf("%s: asked again %v", x.name, asked)
		}
	}
	for _, zone := range []*time.Location{east, west, time.UTC} {
		at := time.Date(2026, 12, 31, 23, 59, 59, 0, zone)
		if got, want := proof.Midnight(at), time.Date(2027, 1, 1, 0, 0, 0, 0, zone); !got.Equal(want) {
			t.Errorf("%s: until %v, want %v", at, got, want)
		}
	}
}

// Who may not sign is told what stands against it first: the stop, or the fix that is open, not one that was accepted or a mere note.
func TestMaySignNamesWhatStands(t *testing.T) {
	fix, other := judged(check.Airframe, check.Fix, "small capacitor", true), judged(check.Airframe, check.Fix, "soft pack", false)
	note := judged(check.Airframe, check.Note, "fast tips", false)
	for _, x := range []struct {
		st   proof.Standing
		want string
	}{
		{proof.Standing{State: proof.Ready}, ""},
		{proof.Standing{State: proof.HasFix, Fixes: 1, Findings: []proof.Judged{fix, other, note}}, "a fix is open: soft pack"},
		{proof.Standing{State: proof.HasFix, Fixes: 1, Findings: []proof.Judged{note, other}}, "a fix is open: soft pack"},
		{proof.Standing{State: proof.HasStop, Stops: 1, Fixes: 1, Findings: []proof.Judged{judged(check.Airframe, check.Stop, "no pack", false), other}}, "a stop is open: no pack"},
		{proof.Standing{State: proof.Open, Asks: []check.Ask{{Path: "readings.airframe.weight", Label: "Weight"}}}, "a reading is missing: Weight"},
		{proof.Standing{State: proof.Open, Asks: []check.Ask{{Path: "sheet.motors.idle", Label: "Idle throttle"}}}, "nobody told it yet: Idle throttle"},
		{proof.Standing{State: proof.Skipped, Why: []string{"No video is fitted."}}, "this quad does not need the station: No video is fitted."},
	} {
		got := ""
		if f := quad.AsFault(proof.MaySign(x.st)); f != nil {
			got = f.Sentence
		}
		if got != x.want {
			t.Errorf("%+v: %q, want %q", x.st.State, got, x.want)
		}
	}
}

// The matrix, against what the rules declare, put together another way: every length of days once, every station in it once, in whatever
// order; and every event as the readings of the sound quad fall.
func TestMatrixIsWhatTheRulesDeclare(t *testing.T) {
	days := map[string]map[check.Station]bool{}
	for _, r := range check.Rules() {
		if r.Days < 1 {
			continue
		}
		length := quad.Number(float64(r.Days))
		if days[length] == nil {
			days[length] = map[check.Station]bool{}
		}
		days[length][r.Station] = true
	}
	seen := 0
	for _, row := range proof.Matrix() {
		if row.Kind != "days" {
			continue
		}
		seen++
		want := days[row.What]
		if len(want) != len(row.Stations) || len(want) == 0 {
			t.Errorf("%s days: %v, want %v", row.What, row.Stations, want)
		}
		for _, s := range row.Stations {
			if !want[s] {
				t.Errorf("%s days: %s, which no rule says", row.What, s)
			}
			delete(want, s) // a second time it is not there any more
		}
	}
	if seen != len(days) {
		t.Errorf("%d lengths in the matrix, %d in the rules", seen, len(days))
	}
}

// Why a proof fell is said in the pilot's words: by the label of what changed, by what is missing, and by why it is asked again.
func TestWhyAProofFell(t *testing.T) {
	why := func(change func(*proof.Case)) []string {
		c := signed(t)
		change(&c)
		return proof.Standings(c)[check.PowerWatch.Number()-1].Why
	}
	for _, x := range []struct {
		name   string
		change func(*proof.Case)
		want   string
	}{
		{"changed", func(c *proof.Case) { set(t, &c.Known, "readings.watch.meterVolts", "23.8") }, "Pack voltage by meter changed"},
		{"missing", func(c *proof.Case) { c.Known.Readings.Watch.Heard = nil }, "The alarm was heard is missing"},
		{"gone", func(c *proof.Case) { c.Known.Readings.Watch.Heard = nil }, "The alarm was heard is gone"},
		{"on the board", func(c *proof.Case) { c.Known.Board.Sheet.Watch.Cells = 3 }, "Cells the alarm counts on changed on the board"},
		{"kept by an older program", func(c *proof.Case) {
			c.Signatures[check.PowerWatch].Relied["sheet.watch.belief"] = "once"
		}, "What an older program kept is gone"},
	} {
		got := why(x.change)
		if !slices.Contains(got, x.want) {
			t.Errorf("%s: %q, want %q", x.name, got, x.want)
		}
		if slices.ContainsFunc(got, func(w string) bool { return strings.ContainsAny(w, ".") }) {
			t.Errorf("%s: a path stands before the pilot: %q", x.name, got)
		}
	}
}

// Every station's readings live where the model keeps them, and every rule tells what it reads, the first no less than the last.
func TestEveryStationHasItsReadings(t *testing.T) {
	k := signed(t).Known
	for _, s := range check.Line {
		if s.ID != check.Feel && s.ID != check.FirstFlight && !slices.ContainsFunc(quad.Leaves(k.Readings, "readings"), func(l quad.Leaf) bool { return l.Path.Under(proof.Subject(s.ID)) }) {
			t.Errorf("%s: nothing is kept under %s", s.ID, proof.Subject(s.ID))
		}
	}
	for _, r := range check.Rules() {
		if got := proof.ReadsOf(r.ID); !slices.Equal(got, r.Reads) {
			t.Errorf("%s reads %v, want %v", r.ID, got, r.Reads)
		}
	}
	if got := proof.ReadsOf("no.such"); got != nil {
		t.Errorf("a rule that is not there reads %v", got)
	}
}

// What a station counts is what it lists: every finding is a stop, a fix, an accepted one or a note.
func TestStandingsCountTheirFindings(t *testing.T) {
	q, err := demo.Load("dunlin")
	if err != nil {
		t.Fatal(err)
	}
	k, err := q.Known(morning)
	if err != nil {
		t.Fatal(err)
	}
	notes := 0
	for _, st := range proof.Standings(proof.Case{Known: k, Context: check.Context{Now: morning}}) {
		count := map[check.Weight]int{}
		for _, f := range st.Findings {
			count[f.Weight]++
		}
		notes += count[check.Note]
		if word := map[bool]string{true: "1 stop", false: quad.Number(float64(st.Stops)) + " stops"}[st.Stops == 1]; st.State == proof.HasStop && st.Word != word {
			t.Errorf("%s: %q, want %q", st.Station, st.Word, word)
		}
		if st.Stops != count[check.Stop] || st.Fixes != count[check.Fix] || st.Notes != count[check.Note] || st.Accepted != 0 {
			t.Errorf("%s: %d stops, %d fixes, %d notes, %d accepted of %v", st.Station, st.Stops, st.Fixes, st.Notes, st.Accepted, count)
		}
	}
	if notes == 0 {
		t.Error("no note at all: this shows nothing")
	}
}
