package proof_test

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"
	"time"

	"vividperch/core/check"
	"vividperch/core/proof"
	"vividperch/core/quad"
	"vividperch/demo"
)

var morning = time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC)

// signed is the sound quad with every station signed at nine.
func signed(t testing.TB) proof.Case {
	t.Helper()
	k, err := demo.Sound(morning.Add(-time.Hour))
	if err != nil {
		t.Fatal(err)
	}
	c := proof.Case{Known: k, Context: check.Context{Now: morning.Add(time.Hour)}, Signatures: map[check.Station]proof.Signature{}}
	for _, info := range check.Line {
		c.Signatures[info.ID] = proof.Sign(info.ID, k, morning, "a pilot", 1)
	}
	return c
}

func states(c proof.Case) map[check.Station]proof.State {
	out := map[check.Station]proof.State{}
	for _, s := range proof.Standings(c) {
		out[s.Station] = s.State
	}
	return out
}

// fallen lists the stations that are not proven, in the order of the line.
func fallen(c proof.Case) []check.Station {
	var out []check.Station
	st := states(c)
	for _, info := range check.Line {
		if st[info.ID] != proof.Proven {
			out = append(out, info.ID)
		}
	}
	return out
}

func TestSignedStationsAreProven(t *testing.T) {
	if got := fallen(signed(t)); len(got) > 0 {
		t.Errorf("signed, and nothing changed since, but %v are not proven", got)
	}
}

func set(t testing.TB, k *quad.Known, p quad.Path, raw string) {
	t.Helper()
	var err error
	if p.Under("readings") {
		err = quad.Enter(k, p, json.RawMessage(raw), morning.Add(30*time.Minute))
	} else {
		err = quad.Set(k, p, []byte(raw))
	}
	if err != nil {
		t.Fatal(err)
	}
}

// Exactly the stations whose rules read what changed, or that exercised it, fall, no others; the list is worked by hand from what
// each station is about.
func TestChangeMakesExactlyItsStationsFall(t *testing.T) {
	for _, c := range []struct {
		path quad.Path
		raw  string
		want []check.Station
	}{
		{"parts.propeller.nutTorque", "1.4", nil}, // told to the pilot, nothing is computed from it
		{"parts.propeller.thrust", "0.181", []check.Station{check.Airframe, check.Motors, check.Feel, check.PowerWatch, check.LinkLoss, check.FirstFlight}}, // whoever computes thrust
		{"parts.frame.name", `"Tern Six"`, nil},
		{"sheet.watch.warnPerCell", "3.6", []check.Station{check.PowerWatch}},
		{"sheet.picture.frequency", "5800", []check.Station{check.Picture}},
		{"readings.senses.gyroStill", "0.3", []check.Station{check.Senses}},
		{"readings.motors.startsAt", "3.5", []check.Station{check.Motors, check.FirstFlight}},           // below it a motor stands, in the rehearsal too
		{"sheet.motors.loopRate", "2000", []check.Station{check.Motors, check.Feel, check.FirstFlight}}, // the rehearsal flies what drives the motors
		{"parts.capacitor.capacitance", "1200", []check.Station{check.Airframe, check.FirstPower}},
		{"limits.country", `"elsewhere"`, []check.Station{check.FirstFlight}},
		{"board.version", `"7.0.3"`, []check.Station{check.Firmware}},
		// Bench proof armed, turned and lost all of these.
		{"sheet.sticks.arm.from", "1700", []check.Station{check.Sticks, check.LinkLoss, check.BenchProof, check.FirstFlight}},
		{"sheet.motors.outputs.A.corner", `"rearLeft"`, []check.Station{check.Motors, check.BenchProof, check.FirstFlight}},
		{"readings.motors.outputs.A", `{"corner":"rearLeft","spin":"clockwise"}`, []check.Station{check.Motors, check.BenchProof, check.FirstFlight}},
		{"sheet.loss.guard", "0.8", []check.Station{check.LinkLoss, check.BenchProof, check.FirstFlight}},
		{"sheet.senses.boardRoll", "180", []check.Station{check.Senses, check.BenchProof, check.FirstFlight}},
		{"sheet.senses.boardYaw", "90", []check.Station{check.Senses, check.BenchProof, check.FirstFlight}},
		{"parts.motor.name", `"another"`, []check.Station{check.Motors, check.BenchProof}},
		{"parts.receiver.link", `"Groyne"`, []check.Station{check.Wiring, check.Link, check.Sticks, check.LinkLoss, check.BenchProof}},
	} {
		k := signed(t)
		set(t, &k.Known, c.path, c.raw)
		if got := fallen(k); !slices.Equal(got, c.want) {
			t.Errorf("%s = %s: fallen are %v, want %v", c.path, c.raw, got, c.want)
		}
	}
}

// What the matrix says before a change is what the states say after it.
func TestMatrixForetellsWhatFalls(t *testing.T) {
	base := signed(t)
	said := map[quad.Path][]check.Station{}
	for _, r := range proof.Matrix() {
		if r.Kind == "change" {
			said[quad.Path(r.What)] = r.Stations
		}
	}
	if len(said) < 40 {
		t.Fatalf("the matrix lists %d changes only", len(said))
	}
	changes := 0
	for _, l := range quad.Leaves(base.Known.Meant(), "") {
		raw := ""
		switch x := l.Value.(type) {
		case float64:
			raw = quad.Number(x + 1)
		case int:
			raw = quad.Number(float64(x + 1))
		case bool:
			raw = map[bool]string{true: "false", false: "true"}[x]
		default:
			continue
		}
		c := base
		if err := quad.Set(&c.Known, l.Path, []byte(raw)); err != nil {
			t.Fatal(err)
		}
		changes++
		want, fell := proof.Falls(l.Path), fallen(c)
		for _, s := range fell {
			if !slices.Contains(want, s) {
				t.Errorf("changing %s makes %s fall, which the matrix does not say", l.Path, s)
			}
		}
		for _, s := range want {
			if !slices.Contains(fell, s) {
				t.Errorf("changing %s leaves %s proven, the matrix says it falls", l.Path, s)
			}
		}
	}
	if changes < 80 {
		t.Errorf("tried %d changes only", changes)
	}
}

func TestProofsEndWithTheirDayAndWithEvents(t *testing.T) {
	c := signed(t)
	c.Context.Now = time.Date(2026, 5, 5, 0, 1, 0, 0, time.UTC)
	want := []check.Station{check.LinkLoss, check.BenchProof, check.FirstFlight}
	if got := fallen(c); !slices.Equal(got, want) {
		t.Errorf("after midnight %v fall, want %v", got, want)
	}
	for _, e := range []struct {
		event check.Event
		some  []check.Station
		not   []check.Station
	}{
		{check.Crash, []check.Station{check.Airframe, check.FirstPower, check.Link, check.Senses, check.BenchProof, check.FirstFlight, check.Motors, check.Wiring, check.Picture}, []check.Station{check.Feel, check.PowerWatch, check.Firmware, check.Sticks}},
		{check.Solder, []check.Station{check.FirstPower, check.Wiring, check.Motors}, []check.Station{check.Airframe, check.Senses}},
		{check.Flash, []check.Station{check.Firmware, check.Sticks, check.Motors, check.Senses, check.LinkLoss}, []check.Station{check.Airframe, check.FirstPower}},
		{check.NewMount, []check.Station{check.Senses, check.BenchProof}, []check.Station{check.Motors, check.Sticks}},
	} {
		c := signed(t)
		c.Context.Events = []check.Happened{{Event: e.event, At: morning.Add(10 * time.Minute)}}
		got := fallen(c)
		for _, s := range e.some {
			if !slices.Contains(got, s) {
				t.Errorf("%s leaves %s proven", e.event, s)
			}
		}
		for _, s := range e.not {
			if slices.Contains(got, s) {
				t.Errorf("%s makes %s fall", e.event, s)
			}
		}
		// The matrix says the same.
		for _, r := range proof.Matrix() {
			if r.Kind == "event" && r.What == string(e.event) {
				slices.Sort(got)
				said := slices.Sorted(slices.Values(r.Stations))
				if !slices.Equal(got, said) {
					t.Errorf("%s: fallen %v, the matrix says %v", e.event, got, said)
				}
			}
		}
	}
}

// A program that knows more leaves must not make an old proof stale: what was never hashed counts as its
// default.
func TestUpgradeAloneMakesNothingStale(t *testing.T) {
	c := signed(t)
	old := c.Signatures[check.PowerWatch]
	relied := map[quad.Path]string{}
	for p, h := range old.Relied {
		if p != "board.sheet.watch.cells" {
			relied[p] = h
		}
	}
	forgot := old
	forgot.Relied = relied
	c.Signatures = map[check.Station]proof.Signature{check.PowerWatch: forgot}
	if why := forgot.Changed(c.Known); len(why) != 1 {
		t.Errorf("a leaf that was not hashed and is not at its default is a change: %v", why)
	}
	c.Known.Board.Sheet.Watch.Cells = 0
	if why := forgot.Changed(c.Known); len(why) != 0 {
		t.Errorf("at its default it is none: %v", why)
	}
	if why := old.Changed(c.Known); len(why) != 1 || !strings.Contains(why[0], "changed on the board") {
		t.Errorf("hashed and changed: %v", why)
	}
	// A list is at its default while it is empty.
	for _, x := range []struct {
		station check.Station
		list    quad.Path
		changes int
	}{{check.Firmware, "sheet.firmware.other", 0}, {check.Wiring, "parts.board.buses", 0}, {check.Firmware, "parts.board.outputs", 1}} {
		c := signed(t)
		sig := c.Signatures[x.station]
		if _, hashed := sig.Relied[x.list]; !hashed {
			t.Fatalf("%s does not rely on %s", x.station, x.list)
		}
		delete(sig.Relied, x.list)
		if why := sig.Changed(c.Known); len(why) != x.changes {
			t.Errorf("%s was not hashed: %v", x.list, why)
		}
	}
}

func TestStatesOfAStation(t *testing.T) {
	state := func(change func(*proof.Case)) proof.Standing {
		c := signed(t)
		change(&c)
		for _, s := range proof.Standings(c) {
			if s.Station == check.PowerWatch {
				return s
			}
		}
		panic("the station is gone")
	}
	unsign := func(c *proof.Case) { delete(c.Signatures, check.PowerWatch) }
	for _, c := range []struct {
		name   string
		change func(*proof.Case)
		want   proof.State
		may    bool
	}{
		{"signed", func(*proof.Case) {}, proof.Proven, false},
		{"everything there", unsign, proof.Ready, true},
		{"signed, then changed back and forth", func(c *proof.Case) { set(t, &c.Known, "readings.watch.meterVolts", "23.9") }, proof.Proven, false},
		{"signed, then another reading", func(c *proof.Case) { set(t, &c.Known, "readings.watch.meterVolts", "23.8") }, proof.Stale, true},
		{"a fix", func(c *proof.Case) { set(t, &c.Known, "readings.watch.heard", "false") }, proof.HasFix, false},
		{"a stop", func(c *proof.Case) { set(t, &c.Known, "sheet.watch.cells", "5") }, proof.HasStop, false}, // the board holds another
		{"one check missing", func(c *proof.Case) { unsign(c); c.Known.Readings.Watch.Heard = nil }, proof.Open, false},
		{"no reading yet", func(c *proof.Case) { unsign(c); c.Known.Readings.Watch = quad.WatchReadings{} }, proof.NotBegun, false},
	} {
		got := state(c.change)
		if got.State != c.want || got.MaySign != c.may {
			t.Errorf("%s: %s (may sign %v), want %s (%v)", c.name, got.State, got.MaySign, c.want, c.may)
		}
		if (proof.MaySign(got) == nil) != (c.may || c.want == proof.Proven) {
			t.Errorf("%s: MaySign says %v", c.name, proof.MaySign(got))
		}
	}
	c := signed(t)
	c.Known.Parts.Video.Fitted = false
	if s := states(c)[check.Picture]; s != proof.Skipped {
		t.Errorf("without video the picture is %s", s)
	}
}

func TestReleaseByScope(t *testing.T) {
	c := signed(t)
	if err := proof.MayRelease(proof.Hover, proof.Standings(c)); err != nil {
		t.Errorf("everything is proven: %v", err)
	}
	for _, scope := range []proof.Scope{proof.Free, proof.Return, "space"} {
		if proof.MayRelease(scope, proof.Standings(c)) == nil {
			t.Errorf("%s must not be released: it is not proven in flight", scope)
		}
	}
	delete(c.Signatures, check.Motors)
	if err := proof.MayRelease(proof.Hover, proof.Standings(c)); err == nil || !strings.Contains(err.Error(), "Motors (to sign)") {
		t.Errorf("want the unsigned station named, got %v", err)
	}
	zone := time.FixedZone("spit", -3*3600)
	if got := proof.Midnight(time.Date(2026, 12, 31, 22, 0, 0, 0, zone)); !got.Equal(time.Date(2027, 1, 1, 0, 0, 0, 0, zone)) {
		t.Errorf("a release ends at %v", got)
	}
}

// A fix accepted with a reason does not block; it lapses when what its rule reads changes, and no other way.
// Stops and notes are not accepted.
func TestAcceptingAFix(t *testing.T) {
	c := signed(t)
	delete(c.Signatures, check.PowerWatch)
	set(t, &c.Known, "readings.watch.heard", "false")
	watch := func() proof.Standing {
		return proof.Standings(c)[check.PowerWatch.Number()-1]
	}
	st := watch()
	if st.Fixes != 1 || proof.MaySign(st) == nil {
		t.Fatalf("an open fix must block: %+v", st)
	}
	fix := st.Findings[0].Finding
	for reason, want := range map[string]string{"  ": "no-reason", strings.Repeat("x", 501): "reason-too-long"} {
		if _, err := proof.Accept(fix, c.Known, morning, "a pilot", reason); quad.AsFault(err) == nil || quad.AsFault(err).Code != want {
			t.Errorf("%.5q: %v", reason, err)
		}
	}
	for _, w := range []check.Weight{check.Stop, check.Note} {
		other := fix
		other.Weight = w
		if _, err := proof.Accept(other, c.Known, morning, "a pilot", "why not"); err == nil {
			t.Errorf("a %s was accepted", w)
		}
	}
	a, err := proof.Accept(fix, c.Known, morning, "a pilot", "I fly with a second pair of ears")
	if err != nil {
		t.Fatal(err)
	}
	c.Accepted = []proof.Acceptance{a}
	if st = watch(); st.Fixes != 0 || st.Accepted != 1 || st.Findings[0].Accepted == nil || proof.MaySign(st) != nil {
		t.Errorf("accepted, it must not block: %+v", st)
	}
	c.Signatures[check.PowerWatch] = proof.Sign(check.PowerWatch, c.Known, morning, "a pilot", 1)
	if st = watch(); st.State != proof.Proven {
		t.Errorf("signed over an accepted fix it is %s", st.State)
	}
	before := c.Known
	set(t, &c.Known, "readings.watch.meterVolts", "23.8") // another rule's reading
	if st = watch(); st.Accepted != 1 {
		t.Error("it lapsed though nothing changed that its rule reads")
	}
	c.Known = before
	c.Known.Readings.Watch.Heard = nil
	set(t, &c.Known, "readings.watch.heard", "false") // taken again, the same
	if st = watch(); st.Accepted != 1 {
		t.Error("it lapsed though the reading says the same")
	}
	changedCase := signed(t)
	changedCase.Known.Sheet.Loss.Guard = 2
	fixed := proof.Standings(changedCase)[check.LinkLoss.Number()-1]
	var guard check.Finding
	for _, f := range fixed.Findings {
		if f.Rule == "link-loss.guard" {
			guard = f.Finding
		}
	}
	if a, err = proof.Accept(guard, changedCase.Known, morning, "a pilot", "trees all around"); err != nil {
		t.Fatal(err)
	}
	changedCase.Accepted = []proof.Acceptance{a}
	if st := proof.Standings(changedCase)[check.LinkLoss.Number()-1]; st.Fixes != 0 {
		t.Errorf("accepted: %+v", st)
	}
	changedCase.Known.Sheet.Loss.Guard = 2.5
	if st := proof.Standings(changedCase)[check.LinkLoss.Number()-1]; st.Fixes != 1 || st.Accepted != 0 {
		t.Errorf("its input changed, and it did not lapse: %+v", st)
	}
	a.Reason = "" // taken back
	changedCase.Known.Sheet.Loss.Guard = 2
	changedCase.Accepted = []proof.Acceptance{a}
	if st := proof.Standings(changedCase)[check.LinkLoss.Number()-1]; st.Fixes != 1 {
		t.Error("taken back, it must stand again")
	}
}
