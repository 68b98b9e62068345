package check_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"reflect"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"vividperch/core/check"
	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/demo"
)

func ruleByID(t testing.TB, id string) check.Rule {
	t.Helper()
	i := slices.IndexFunc(check.Rules(), func(r check.Rule) bool { return r.ID == id })
	if i < 0 {
		t.Fatalf("there is no rule %s", id)
	}
	return check.Rules()[i]
}

func (f fixture) known(t testing.TB, from quad.Known) quad.Known {
	t.Helper()
	k := from
	for _, p := range quad.SortedKeys(f.set) {
		put(t, &k, p, f.set[p])
	}
	if f.board {
		must(t, demo.Write(&k, today))
	}
	if f.fly {
		// Flown once, for whoever asks; and tried only where it is about what the trial comes to.
		once, _ := rehearsed.LoadOrStore(f.rule+f.name, sync.OnceValues(func() (*quad.Reading[quad.Rehearsal], error) {
			if f.tried {
				return flight.Rehearsed(k, today.Add(-time.Hour))
			}
			return flight.RehearsedWith(k, today.Add(-time.Hour), flight.Trial{Flown: 1, Farthest: 2}) // one that went well
		}))
		r, err := once.(func() (*quad.Reading[quad.Rehearsal], error))()
		must(t, err)
		k.Readings.FirstFlight.Rehearsal = r
	}
	return k
}

var rehearsed sync.Map

func must(t testing.TB, err error) {
	t.Helper()
	if err != nil {
		t.Fatal(err)
	}
}

func TestFixtures(t *testing.T) {
	base := sound(t)
	for _, f := range fixtures {
		report := check.Run([]check.Rule{ruleByID(t, f.rule)}, f.known(t, base), check.Context{Now: today})
		what := f.rule + ", " + f.name
		switch {
		case f.weight != "":
			if !slices.ContainsFunc(report.Findings, func(x check.Finding) bool {
				return x.Weight == f.weight && strings.Contains(x.Title+"\n"+x.Figures, f.says)
			}) {
				t.Errorf("%s: want a %s with %q, got %s", what, f.weight, f.says, describe(report))
			}
		case f.ask != "":
			if !slices.ContainsFunc(report.Asks, func(a check.Ask) bool { return a.Path == f.ask }) {
				t.Errorf("%s: want an ask for %s, got %s", what, f.ask, describe(report))
			}
		case len(report.Findings)+len(report.Asks) > 0:
			t.Errorf("%s: want silence, got %s", what, describe(report))
		}
	}
}

// What a finding says that flight would show can be flown with the very quad that it is found on.
func TestFindingsLeadToTheirConsequence(t *testing.T) {
	base := sound(t)
	led := map[flight.Fault]bool{}
	for _, f := range fixtures {
		if f.weight == "" {
			continue
		}
		k := f.known(t, base)
		for _, one := range check.Run([]check.Rule{ruleByID(t, f.rule)}, k, check.Context{Now: today}).Findings {
			if one.Shows == "" {
				continue
			}
			if _, err := flight.Consider(k, one.Shows, nil); err != nil {
				t.Errorf("%s, %s: %q leads to %s: %v", f.rule, f.name, one.Title, one.Shows, err)
			}
			led[one.Shows] = true
		}
	}
	for _, fault := range flight.Faults() {
		if !led[fault] {
			t.Errorf("no finding leads to %s", fault)
		}
	}
}

func describe(r check.Report) string {
	var out []string
	for _, f := range r.Findings {
		out = append(out, fmt.Sprintf("%s %q %q", f.Weight, f.Title, f.Figures))
	}
	for _, a := range r.Asks {
		out = append(out, "ask "+string(a.Path))
	}
	if len(out) == 0 {
		return "silence"
	}
	return strings.Join(out, "; ")
}

// Every rule fires and, where it reads a reading, asks in some fixture; on the sound quad all are silent but
// the two notes that Dunlin's motors and propellers earn.
func TestEveryRuleHasItsFixtures(t *testing.T) {
	fires, asks := map[string]bool{}, map[string]bool{}
	for _, f := range fixtures {
		fires[f.rule] = fires[f.rule] || f.weight != ""
		asks[f.rule] = asks[f.rule] || f.ask != ""
	}
	stations := map[check.Station]bool{}
	comparing := 0
	for _, r := range check.Rules() {
		stations[r.Station] = true
		if subjects(r) > 1 {
			comparing++
		}
		if onlyAsks := r.ID == "firmware.saved" || r.ID == "airframe.told"; !fires[r.ID] && !(onlyAsks && asks[r.ID]) {
			t.Errorf("%s fires in no fixture", r.ID)
		}
		told := r.ID == "power-watch.heat" || r.ID == "power-watch.current" // what only a flight, or motors under load, can tell is waited for by nothing
		if !told && slices.ContainsFunc(r.Reads, func(p quad.Path) bool { return p.Under("readings") }) && !asks[r.ID] && !strings.HasSuffix(r.ID, ".board-differs") {
			t.Errorf("%s reads a reading and asks in no fixture", r.ID)
		}
	}
	if len(check.Rules()) < 25 || comparing < 10 || len(stations) != len(check.Line) {
		t.Errorf("%d rules, %d of them comparing two subjects, over %d stations", len(check.Rules()), comparing, len(stations))
	}
	report := check.All(sound(t), check.Context{Now: today})
	for _, f := range report.Findings {
		if f.Rule != "airframe.pack-current" && f.Rule != "airframe.tip-speed" {
			t.Errorf("on the sound quad %s says %s: %s", f.Rule, f.Title, f.Figures)
		}
	}
	if len(report.Asks) > 0 {
		t.Errorf("on the sound quad something is asked: %s", describe(report))
	}
}

// subjects a rule reads: the second part of each path, such as motors or firmware.
func subjects(r check.Rule) int {
	seen := map[string]bool{}
	for _, p := range r.Reads {
		parts := strings.Split(string(p), ".")
		if len(parts) > 1 {
			seen[parts[1]] = true
		}
	}
	return len(seen)
}

// candidates to put at a leaf, as JSON.
func candidates(l quad.Leaf, r *rand.Rand) []string {
	switch x := l.Value.(type) {
	case float64:
		return []string{"0", "1", fmt.Sprint(x * 3), fmt.Sprint(x / 3), fmt.Sprint(-x - 1), fmt.Sprintf("%.3f", x*(0.7+0.6*r.Float64()))}
	case int:
		return []string{"0", "1", fmt.Sprint(x + 1), fmt.Sprint(x * 3), "5", "7", "2"}
	case bool:
		return []string{"true", "false"}
	}
	if f, err := quad.FieldAt(l.Path); err == nil && len(f.OneOf) > 0 && f.Type.Kind() == reflect.String {
		var out []string
		for _, w := range f.OneOf {
			out = append(out, `"`+w+`"`)
		}
		return out
	}
	switch l.Value.(type) {
	case string:
		return []string{`""`, `"x"`, `"3"`, `"5.0.0"`}
	case []string:
		return []string{`[]`, `["x = 1"]`, `["note.light = 1"]`}
	case time.Time:
		return nil
	}
	out := []string{"null", "{}"}
	// Of what has several figures, each another one.
	raw, err := json.Marshal(l.Value)
	var figures map[string]any
	if err == nil && json.Unmarshal(raw, &figures) == nil {
		for _, name := range slices.Sorted(maps.Keys(figures)) {
			if x, ok := figures[name].(float64); ok {
				other := maps.Clone(figures)
				other[name] = x + 7
				changed, err := json.Marshal(other)
				if err == nil {
					out = append(out, string(changed))
				}
			}
		}
	}
	return out
}

// mutate puts random values at random leaves.
func mutate(k quad.Known, r *rand.Rand) quad.Known {
	leaves := quad.Leaves(k, "")
	for range 1 + r.IntN(6) {
		l := leaves[r.IntN(len(leaves))]
		list := candidates(l, r)
		if l.Read {
			list = append(list, "null")
		}
		if len(list) == 0 {
			continue
		}
		raw := list[r.IntN(len(list))]
		if l.Read && raw != "null" {
			raw = `{"value":` + raw + `,"origin":"typed","at":"2026-05-04T10:00:00Z","revision":1}`
		}
		_ = quad.Set(&k, l.Path, []byte(raw)) // a value that does not fit is left out
	}
	return k
}

// A rule that looked at something it does not declare would make a proof rely on less than it does.
func TestRulesSeeOnlyWhatTheyDeclare(t *testing.T) {
	base := sound(t)
	r := rand.New(rand.NewPCG(5, 5))
	for n := range 1000 {
		k := mutate(base, r)
		for _, rule := range check.Rules() {
			full, masked := rule.Judge(k), rule.Judge(quad.Mask(k, rule.Sees()))
			if !reflect.DeepEqual(full, masked) {
				t.Fatalf("quad %d: %s judges %s, masked to what it declares %s", n, rule.ID, describe(report(full)), describe(report(masked)))
			}
		}
	}
}

// inside is how the model's own names of places look; nobody but a program needs them.
var inside = regexp.MustCompile(`(?i)\b(sheet|parts|board|radio|readings|pilot|book)\.[a-z]+[A-Za-z.]*\b`)

// A pilot reads what a place is called, never what the model calls it: of every fixture, and of quads with anything anywhere, nothing
// too, which is where errors are told in a finding.
func TestNoFindingNamesAPlaceAsTheModelDoes(t *testing.T) {
	base := sound(t)
	r := rand.New(rand.NewPCG(8, 8))
	var quads []quad.Known
	for _, f := range fixtures {
		quads = append(quads, f.known(t, base))
	}
	for range 500 {
		quads = append(quads, mutate(base, r))
	}
	for _, l := range quad.Leaves(base, "") {
		k := base
		raw, err := json.Marshal(reflect.Zero(reflect.TypeOf(l.Value)).Interface())
		must(t, err)
		if quad.Set(&k, l.Path, raw) == nil {
			quads = append(quads, k)
		}
	}
	said := 0
	for _, k := range quads {
		for _, f := range check.Run(check.Rules(), k, check.Context{Now: today}).Findings {
			said++
			for _, words := range append([]string{f.Title, f.Figures, f.Why}, remedies(f)...) {
				if at := inside.FindString(words); at != "" {
					t.Errorf("%s says %q: %s", f.Rule, at, words)
				}
			}
		}
	}
	if said < 1000 {
		t.Errorf("only %d findings", said)
	}
}

func remedies(f check.Finding) []string {
	var out []string
	for _, r := range f.Remedies {
		out = append(out, r.Words)
	}
	return out
}

// The same holds of a rule that somebody else brings.
func TestABroughtRuleSeesOnlyWhatItDeclares(t *testing.T) {
	var seen quad.Known
	rule := check.Rule{ID: "brought", Station: check.Airframe, Reads: []quad.Path{"sheet.watch.cells"}, Judge: func(k quad.Known) check.Result {
		seen = k
		return check.Result{}
	}}
	k := sound(t)
	check.Run([]check.Rule{rule}, k, check.Context{Now: today})
	if seen.Sheet.Watch.Cells != k.Sheet.Watch.Cells || seen.Sheet.Watch.WarnPerCell != 0 {
		t.Errorf("it sees %+v", seen.Sheet.Watch)
	}
}

func TestStationsAreNumberedAlongTheLine(t *testing.T) {
	for i, l := range check.Line {
		if l.ID.Number() != i+1 || l.ID.Info() != l {
			t.Errorf("%s is number %d, %+v", l.ID, l.ID.Number(), l.ID.Info())
		}
	}
	if check.Station("roof").Number() != 0 {
		t.Error("a station that is none has a number")
	}
}

// A corner of which nobody knows which way its motor turns hides none of the others.
func TestAHandIsJudgedWhereTheSpinWasSeen(t *testing.T) {
	k := sound(t)
	put(t, &k, "sheet.craft.rotation", `""`)
	for _, output := range []quad.Path{"A", "C", "D"} {
		put(t, &k, "readings.motors.outputs."+output, "null")
	}
	put(t, &k, "readings.motors.outputs.B", `{"corner":"rearLeft","spin":"clockwise"}`)
	f := check.Run([]check.Rule{ruleByID(t, "first-flight.propellers")}, k, check.Context{Now: today}).Findings
	if len(f) != 1 || !strings.HasPrefix(f[0].Title, "Rear left") {
		t.Errorf("found %+v", f)
	}
}

// How fast a stick off its centre makes it drift is told where its drag is known, and no figure stands for what nobody told.
func TestDriftIsToldWhereTheDragIsKnown(t *testing.T) {
	k := sound(t)
	put(t, &k, "readings.sticks.axes.roll", `{"channel":1,"ends":{"low":1000,"centre":1509,"high":2000}}`)
	why := func() string {
		f := check.Run([]check.Rule{ruleByID(t, "sticks.centre")}, k, check.Context{Now: today}).Findings
		if len(f) != 1 {
			t.Fatalf("found %+v", f)
		}
		return f[0].Why
	}
	if w := why(); !strings.Contains(w, "m/s") {
		t.Error(w)
	}
	put(t, &k, "parts.frame.dragArea", "0")
	if w := why(); strings.Contains(w, "m/s") || !strings.HasSuffix(w, "drifts off.") {
		t.Error(w)
	}
}

func report(r check.Result) check.Report {
	out := check.Report{Findings: r.Findings}
	for _, p := range r.Asks {
		out.Asks = append(out.Asks, check.Ask{Path: p})
	}
	return out
}

// A path that no change can make matter makes proofs stale for nothing.
func TestEveryDeclaredPathMatters(t *testing.T) {
	base := sound(t)
	r := rand.New(rand.NewPCG(6, 6))
	for _, rule := range check.Rules() {
		bases := []quad.Known{base}
		for _, f := range fixtures {
			if f.rule == rule.ID {
				bases = append(bases, f.known(t, base))
			}
		}
		for _, p := range rule.Reads {
			if !matters(rule, p, bases, r) {
				t.Errorf("%s declares %s, but no change there changes what it says in any fixture", rule.ID, p)
			}
		}
	}
}

func matters(rule check.Rule, p quad.Path, bases []quad.Known, r *rand.Rand) bool {
	for _, k := range bases {
		before := rule.Judge(quad.Mask(k, rule.Sees()))
		differs := func(path quad.Path, raw string) bool {
			changed := k
			return quad.Set(&changed, path, []byte(raw)) == nil && !reflect.DeepEqual(rule.Judge(quad.Mask(changed, rule.Sees())), before)
		}
		if differs(p, "null") {
			return true
		}
		for _, l := range quad.Leaves(k, "") {
			if !l.Path.Under(p) {
				continue
			}
			for _, raw := range candidates(l, r) {
				if l.Read && raw != "null" {
					raw = `{"value":` + raw + `,"origin":"typed","at":"2026-05-04T10:00:00Z","revision":1}`
				}
				if differs(l.Path, raw) {
					return true
				}
			}
			if l.Read && differs(l.Path, "null") {
				return true
			}
		}
	}
	return false
}

func TestReadingsAgeByTimeAndEvent(t *testing.T) {
	k := sound(t)
	asked := func(c check.Context) []quad.Path {
		var out []quad.Path
		for _, a := range check.All(k, c).Asks {
			out = append(out, a.Path)
			if a.Why == "" {
				t.Errorf("%s is asked again without saying why", a.Path)
			}
		}
		return out
	}
	if got := asked(check.Context{Now: today}); len(got) > 0 {
		t.Errorf("today nothing is old, but %v", got)
	}
	// Readings good for a day end at local midnight, not after 24 hours.
	zone := time.FixedZone("spit", 2*3600)
	night := time.Date(2026, 5, 4, 23, 59, 0, 0, zone)
	if got := asked(check.Context{Now: night}); len(got) > 0 {
		t.Errorf("just before midnight nothing is old, but %v", got)
	}
	got := asked(check.Context{Now: night.Add(2 * time.Minute)})
	for _, p := range []quad.Path{"readings.loss.response", "readings.benchProof.frameYaw", "readings.firstFlight.wind", "readings.firstFlight.rehearsal"} {
		if !slices.Contains(got, p) {
			t.Errorf("after midnight %s must be taken again; asked were %v", p, got)
		}
	}
	if slices.Contains(got, "readings.loss.output") || slices.Contains(got, "readings.motors.outputs.A") {
		t.Errorf("what is good for longer is asked again: %v", got)
	}
	if got := asked(check.Context{Now: today, Events: []check.Happened{{Event: check.Solder, At: today.Add(-time.Minute)}}}); !slices.Contains(got, "readings.firstPower.leadResistance") || slices.Contains(got, "readings.senses.gyroStill") {
		t.Errorf("soldering makes asked %v", got)
	}
	if got := asked(check.Context{Now: today, Events: []check.Happened{{Event: check.Solder, At: today.Add(-2 * time.Hour)}}}); len(got) > 0 {
		t.Errorf("soldering before the readings were taken changes nothing, but %v", got)
	}
}

func BenchmarkFindings(b *testing.B) {
	k := sound(b)
	c := check.Context{Now: today}
	for b.Loop() {
		check.All(k, c)
	}
	b.ReportMetric(float64(b.Elapsed().Microseconds())/1000/float64(b.N), "ms/check")
}
