package app_test

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"vividperch/app"
	"vividperch/bench/protocol"
	"vividperch/core/link"
	"vividperch/core/quad"
)

// groyne turns a quad into one with a receiver number.
func (w *world) groyne(id int64, number int) {
	w.t.Helper()
	for path, value := range map[string]string{"parts.receiver.link": `"Groyne"`, "parts.radioModule.link": `"Groyne"`, "parts.radioModule.external": "true", "radio.number": fmt.Sprint(number)} {
		w.edit(id, quad.Path(path), value)
	}
}

// A number that another quad of the same radio has is found in the draft, before anything is saved, and the free one that is
// offered clears it on both.
func TestNumbersClashOverTheFleetUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	one, two := w.bare(), w.create("sanderling")
	w.groyne(one, 7)
	w.groyne(two, 7)
	w.edit(two, "parts.radioModule.name", `"Estuary internal"`) // the same radio as the first one's
	const title = "Another quad has this receiver number"
	if got := w.findings(one, "link"); !slices.Contains(got, title) {
		t.Fatalf("no clash in %v", got)
	}
	v, err := w.Link(t.Context(), one, link.UsualPath)
	if err != nil || v.Free != 1 || len(v.Same) != 1 {
		t.Fatalf("%+v, %v", v, err)
	}
	f, err := w.Fleet(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	i := slices.IndexFunc(f.Modules, func(m app.ModuleView) bool { return m.Link == "Groyne" })
	if i < 0 || len(f.Modules[i].Clashes) != 1 || len(f.Modules[i].Members) != 2 {
		t.Fatalf("%+v", f)
	}
	w.edit(one, "radio.number", fmt.Sprint(v.Free))
	for _, id := range []int64{one, two} {
		if got := w.findings(id, "link"); slices.Contains(got, title) {
			t.Errorf("still a clash: %v", got)
		}
	}
}

// An update of a module names the quads that would no longer hear it, and its last step leaves nobody deaf.
func TestUpdatePlanOverTheFleet(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	w.bare()
	ask := app.PlanAsk{Name: "Estuary internal", Link: "Tidewire", To: "7.0.0"}
	p, err := w.UpdatePlan(t.Context(), ask)
	if err != nil || !slices.Equal(p.Orphans, []string{"Dunlin"}) || len(p.Moves[len(p.Moves)-1].Deaf) != 0 {
		t.Errorf("%+v, %v", p, err)
	}
	for to, want := range map[app.PlanAsk]string{
		{Name: "Estuary internal", Link: "Tidewire", To: "new"}: "bad-version", {Name: "another", Link: "Tidewire", To: "7.0.0"}: "no-module", {Link: "Nothing", To: "7.0.0"}: "unknown-link",
	} {
		if _, err := w.UpdatePlan(t.Context(), to); code(err) != want {
			t.Errorf("%+v: %v, wanted %s", to, err, want)
		}
	}
}

// A pilot's own facts of a link count at once, from a second window no change is lost, and what is forgotten gives way to what
// is shipped.
func TestOwnGearUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.bare()
	list, err := w.Gear(t.Context())
	if err != nil || len(list.Links) != 2 || list.Links[0].Own {
		t.Fatalf("%+v, %v", list, err)
	}
	file := strings.Replace(link.ShippedFile("Tidewire"), "sensitivity: -105", "sensitivity: -99", 1)
	changed, err := w.SetGear(t.Context(), list.Version, file)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := w.SetGear(t.Context(), list.Version, file); code(err) != "changed" {
		t.Errorf("a second window overwrote: %v", err)
	}
	w.edit(id, "radio.rate", "500")
	v, err := w.Link(t.Context(), id, link.UsualPath)
	if err != nil || !v.Own || v.Budget.Rate.Sensitivity != -99 {
		t.Errorf("%+v, %v", v, err)
	}
	// 6 dB less of sensitivity halve the range: 10^(6/20) = 1.995.
	if _, err := w.ForgetGear(t.Context(), changed.Version, "Tidewire"); err != nil {
		t.Fatal(err)
	}
	shipped, err := w.Link(t.Context(), id, link.UsualPath)
	if err != nil || shipped.Own || !(math.Abs(shipped.Budget.Safe/v.Budget.Safe-math.Pow(10, 6.0/20)) <= 1e-9) {
		t.Errorf("%+v, %v", shipped, err)
	}
	for _, file := range []string{"link: [", "link: Tidewire", "", "link: X\nrates: many"} {
		if _, err := w.SetGear(t.Context(), changed.Version+1, file); quad.AsFault(err) == nil {
			t.Errorf("%q: %v, wanted a fault with its place", file, err)
		}
	}
	if _, err := w.ForgetGear(t.Context(), changed.Version+1, "Groyne"); code(err) != "no-gear" {
		t.Errorf("what is shipped was forgotten: %v", err)
	}
	version := changed.Version + 1
	for i := 1; i <= 21; i++ {
		more, err := w.SetGear(t.Context(), version, strings.Replace(file, "link: Tidewire", fmt.Sprintf("link: Creek %d", i), 1))
		if i > 20 {
			if code(err) != "too-many" {
				t.Errorf("link %d: %v", i, err)
			}
			continue
		}
		if err != nil {
			t.Fatalf("link %d: %v", i, err)
		}
		version = more.Version
	}
}

// Phrases that differ in a capital only are told apart, and neither is anywhere in what is kept.
func TestPhrasesAreComparedWithoutBeingKeptUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	const a, b = "Herons at the weir", "herons at the weir"
	if _, err := w.Phrases(t.Context(), id, app.PhrasesAsk{Module: a}); err != nil {
		t.Fatal(err)
	}
	if _, err := w.Phrases(t.Context(), id, app.PhrasesAsk{Receiver: b}); err != nil {
		t.Fatal(err)
	}
	if got := w.findings(id, "link"); !slices.Contains(got, "The two phrases differ in capitals or spaces only") {
		t.Errorf("not found: %v", got)
	}
	raw, err := json.Marshal(w.view(id))
	if err != nil {
		t.Fatal(err)
	}
	for _, kept := range []string{string(raw), string(w.archive(id, true))} {
		if strings.Contains(strings.ToLower(kept), b) {
			t.Error("the phrase is in what is kept")
		}
	}
	if _, err := w.Phrases(t.Context(), id, app.PhrasesAsk{}); code(err) != "no-phrase" {
		t.Errorf("nothing was compared: %v", err)
	}
	if _, err := w.Phrases(t.Context(), id, app.PhrasesAsk{Module: a, Receiver: a}); err != nil {
		t.Fatal(err)
	}
	if got := w.findings(id, "link"); len(got) != 0 {
		t.Errorf("still found: %v", got)
	}
}

// trackOf strengths that are what the budget gives less so many dB.
func trackOf(b link.Budget, less float64) string {
	var out strings.Builder
	out.WriteString("time (s),distance (m),strength (dBm)\n")
	for i := range 100 {
		d := 20 + 8*float64(i)
		fmt.Fprintf(&out, "%d,%g,%.1f\n", i, d, b.At(d)-less)
	}
	return out.String()
}

// A track is measured before it is kept, is judged once it is kept, and comes along in an archive; a broken one changes nothing.
func TestTrackIsMeasuredThenKeptUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	v, err := w.Link(t.Context(), id, link.UsualPath)
	if err != nil || v.Track != nil {
		t.Fatalf("%+v, %v", v, err)
	}
	text := []byte(trackOf(*v.Budget, 18))
	r, err := w.Track(t.Context(), id, text, link.UsualPath)
	if err != nil || !(math.Abs(r.Missing-18) <= 0.1) || len(r.Causes) == 0 {
		t.Fatalf("%+v, %v", r, err)
	}
	if v, err = w.Link(t.Context(), id, link.UsualPath); err != nil || v.Track != nil {
		t.Errorf("measuring kept it: %+v, %v", v.Track, err)
	}
	if _, err := w.KeepTrack(t.Context(), id, text, link.UsualPath); err != nil {
		t.Fatal(err)
	}
	if v, err = w.Link(t.Context(), id, link.UsualPath); err != nil || v.Track == nil || len(v.Track.Flown) != 100 {
		t.Errorf("it was not kept: %+v, %v", v.Track, err)
	}
	if got := w.findings(id, "link"); len(got) == 0 {
		t.Error("18 dB are missing and nothing is found")
	}
	other, err := w.Import(t.Context(), w.archive(id, false), "Dunlin once more")
	if err != nil {
		t.Fatal(err)
	}
	if v, err = w.Link(t.Context(), other, link.UsualPath); err != nil || v.Track == nil || v.Track.Missing != 18 {
		t.Errorf("the archive lost it: %+v, %v", v.Track, err)
	}
	before := w.view(id).Seen
	for text, want := range map[string]string{"": "no-track", "a,b\n1,2\n": "no-track", "distance,strength\n1,x\n": "not-a-number", "distance,strength\n20,-70\n": "short-track", "<gpx": "bad-line"} {
		if _, err := w.KeepTrack(t.Context(), id, []byte(text), link.UsualPath); code(err) != want {
			t.Errorf("%q: %v, wanted %s", text, err, want)
		}
	}
	if w.view(id).Seen != before {
		t.Error("a broken track changed something")
	}
}

// What the bench can tell of the link is taken from it: labels, fingerprints, and a range check at its distance and power only.
func TestLinkReadingsFromTheBench(t *testing.T) {
	t.Parallel()
	w := linked(t, "Tidewire", "phraseLoose")
	w.things(protocol.Things{Pack: yes(), Radio: yes()})
	for _, path := range []quad.Path{"readings.link.module", "readings.link.receiver", "readings.link.modulePhrase", "readings.link.receiverPhrase"} {
		if _, err := w.Take(t.Context(), w.id, path); err != nil {
			t.Errorf("%s: %v", path, err)
		}
	}
	if got := w.findings(w.id, "link"); !slices.Contains(got, "The two phrases differ in capitals or spaces only") {
		t.Errorf("not found: %v", got)
	}
	w.mend("phraseLoose")
	w.until("the channels arrive", func() bool { return len(w.live().Channels) > 0 })
	take := func(want string) {
		t.Helper()
		if _, err := w.Take(t.Context(), w.id, "readings.link.range"); want != "" && code(err) != want || want == "" && err != nil {
			t.Errorf("%v, wanted %q", err, want)
		}
	}
	take("too-near")
	far, low, most := 25.0, 10.0, 25.0
	w.radio(protocol.RadioSet{Distance: &far})
	take("too-strong")
	w.radio(protocol.RadioSet{Power: &most}) // the lowest power there is
	w.until("it is seen", func() bool { return w.live().Link.Power == most })
	take("")
	w.radio(protocol.RadioSet{Power: &low})
	w.until("it is seen", func() bool { return w.live().Link.Power == low })
	take("")
	if m := w.view(w.id).Line[4]; !slices.ContainsFunc(m.Readings, func(r app.ReadingView) bool { return r.Path == "readings.link.range" && r.Origin == quad.OriginDevice }) {
		t.Errorf("%+v", m.Readings)
	}
}
