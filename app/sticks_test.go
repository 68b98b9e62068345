package app_test

import (
	"encoding/json"
	"math"
	"slices"
	"strings"
	"testing"

	"vividperch/app"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// moved are samples of a radio at the browser of which one channel was moved: high, let go, low, let go.
func moved(channel int, low, centre, high float64) []sticks.Sample {
	var out []sticks.Sample
	for i := range 200 {
		s := []float64{1500, 1500, 1000, 1500, 1000, 1000}
		at := centre
		switch phase := i / 50; phase {
		case 0:
			at = centre + (high-centre)*math.Min(1, float64(i%50)/25)
		case 2:
			at = centre + (low-centre)*math.Min(1, float64(i%50)/25)
		}
		s[channel-1] = at
		out = append(out, sticks.Sample{At: 25 * float64(i), Channels: s})
	}
	return out
}

// A stick and a switch captured from a radio at the browser are kept as such, and are judged like those from the bench; what is no
// capture keeps nothing.
func TestCaptureFromTheBrowser(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.bare()
	v, err := w.Capture(t.Context(), id, "readings.sticks.axes.yaw", moved(4, 1060, 1500, 1940), nil)
	if err != nil {
		t.Fatal(err)
	}
	i := slices.IndexFunc(v.Line[5].Readings, func(r app.ReadingView) bool { return r.Path == "readings.sticks.axes.yaw" })
	if yaw := figures(w, id, w.Sticks).Axes[3]; i < 0 || v.Line[5].Readings[i].Origin != quad.OriginRadio || yaw.Channel != 4 || yaw.Reaches {
		t.Fatalf("%+v", yaw)
	}
	steps := []sticks.Sample{}
	for i := range 60 {
		steps = append(steps, sticks.Sample{At: 25 * float64(i), Channels: []float64{1500, 1500, 1000, 1500, []float64{1000, 2000}[i/30], 1000}})
	}
	if _, err = w.Capture(t.Context(), id, "readings.sticks.switches.left shoulder", steps, nil); err != nil {
		t.Fatal(err)
	}
	columns := figures(w, id, w.Sticks).Switches.Map.Columns
	i = slices.IndexFunc(columns, func(c sticks.Column) bool { return c.Name == "left shoulder" })
	if c := columns[i]; !c.Captured || c.Cells[1].Position != "armed" || c.Cells[1].Low != 2000 || c.Cells[1].Words != "armed" {
		t.Errorf("%+v", c)
	}
	seen := w.view(id).Seen
	for _, c := range []struct {
		path    quad.Path
		samples []sticks.Sample
		want    string
	}{
		{"readings.sticks.axes.roll", nil, "too-few-samples"},
		{"readings.sticks.axes.roll", moved(1, 1500, 1500, 1500), "nothing-moved"},
		{"readings.sticks.axes.nose", moved(1, 1000, 1500, 2000), "unknown-path"},
		{"readings.sticks.switches.nobody's", moved(1, 1000, 1500, 2000), "no-switch"},
		{"readings.airframe.weight", moved(1, 1000, 1500, 2000), "unknown-path"},
		{"readings.sticks.axes.roll", []sticks.Sample{{Channels: []float64{math.NaN()}}}, "no-pulse"},
		{"readings.sticks.axes.roll", []sticks.Sample{{Channels: []float64{1e9}}}, "no-pulse"},
		{"readings.sticks.axes.roll", []sticks.Sample{{Channels: []float64{2300, 700}}}, "too-few-samples"}, // the widest that are any
		{"readings.sticks.axes.roll", []sticks.Sample{{Channels: []float64{2301}}}, "no-pulse"},
		{"readings.sticks.axes.roll", []sticks.Sample{{Channels: []float64{699}}}, "no-pulse"},
		{"readings.sticks.axes.roll", []sticks.Sample{{Channels: make([]float64, 30)}}, "too-many"},
		{"readings.sticks.axes.roll", []sticks.Sample{{At: math.Inf(1)}}, "no-time"},
		{"readings.sticks.axes.roll", []sticks.Sample{{At: 2}, {At: 1}}, "no-time"},
		{"readings.sticks.axes.roll", make([]sticks.Sample, 5000), "too-many"},
	} {
		if _, err := w.Capture(t.Context(), id, c.path, c.samples, nil); code(err) != c.want {
			t.Errorf("%s: %v, wanted %s", c.path, err, c.want)
		}
	}
	if w.view(id).Seen != seen {
		t.Error("what was no capture changed something")
	}
}

// What is proposed is taken as one edit and leaves no stop among the switches; one undo takes it back.
func TestProposedPlanIsTaken(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.bare()
	before := w.view(id)
	if taste := figures(w, id, w.Sticks).Switches.Taste; !taste.LevelAtTop || taste.Blended {
		t.Errorf("Dunlin levels at the high end and flies no blended: %+v", taste)
	}
	p, err := w.ProposePlan(t.Context(), id, sticks.Taste{LevelAtTop: true})
	if err != nil || len(p.Edits) < 4 || len(p.Words) != 3 {
		t.Fatalf("%+v, %v", p, err)
	}
	var values []app.SetValue
	for _, e := range p.Edits {
		values = append(values, app.SetValue{Path: e.Path, Value: e.Value})
	}
	v, err := w.Edit(t.Context(), id, before.Version, values)
	if err != nil {
		t.Fatal(err)
	}
	flies := map[sticks.Mode]bool{}
	for _, c := range figures(w, id, w.Sticks).Switches.Combinations {
		flies[c.Flies] = true
	}
	if !flies[sticks.SelfLevel] || !flies[sticks.Acro] || v.Meant.Sheet.Sticks.Arm.Channel != 5 {
		t.Errorf("%v", flies)
	}
	back, err := w.Undo(t.Context(), id, v.Version)
	if err != nil || back.Meant.Sheet.Sticks != before.Meant.Sheet.Sticks {
		t.Errorf("one undo did not take it back: %v", err)
	}
}

// The radio's plan goes out as a card and comes back changed; a card with a mistake changes nothing; mixes that go round are taken
// and told.
func TestRadioCard(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.bare()
	text, err := w.RadioCard(t.Context(), id)
	if err != nil || !strings.Contains(text, "left shoulder") {
		t.Fatalf("%s, %v", text, err)
	}
	before := w.view(id)
	take := func(text string) (*app.QuadView, error) {
		return w.TakeRadioCard(t.Context(), id, w.view(id).Version, []byte(text))
	}
	if _, err := take(text); code(err) != "nothing-new" {
		t.Errorf("the same again: %v", err)
	}
	if _, err := take(text + "mix,m,5,,,,,,,6,heavy,,\n"); quad.AsFault(err) == nil || !strings.HasPrefix(quad.AsFault(err).Place, "line ") {
		t.Errorf("a mix without a weight: %v", err)
	}
	if w.view(id).Seen != before.Seen {
		t.Error("a card with a mistake changed something")
	}
	v, err := take(text + "mix,one,9,,,,,,,8,50,,\nmix,two,8,,,,,,,9,50,,\n")
	if err != nil {
		t.Fatal(err)
	}
	if loop := figures(w, id, w.Sticks).Switches.Loop; !slices.Equal(loop, []string{"one", "two"}) {
		t.Fatalf("%+v", loop)
	}
	if got := w.findings(id, "sticks"); !slices.Contains(got, "Mixes of the radio go round") {
		t.Errorf("not told: %v", got)
	}
	if _, err := w.Undo(t.Context(), id, v.Version); err != nil {
		t.Fatal(err)
	}
	raw, err := json.Marshal(map[string]any{"order": "TAER", "switches": before.Meant.Radio.Switches})
	if err != nil {
		t.Fatal(err)
	}
	if v, err = take(string(raw)); err != nil || v.Meant.Radio.Order != "TAER" || v.Meant.Radio.Model != "Dunlin" {
		t.Errorf("%+v, %v", v.Meant.Radio, err)
	}
	if _, err := w.TakeRadioCard(t.Context(), id, before.Version, []byte(text)); code(err) != "changed" {
		t.Errorf("a second window's card: %v", err)
	}
}

// A meaning put on a position is one edit; a radio's worn dial is found and left out of a capture.
func TestMeaningsAndWornDials(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.bare()
	v, err := w.Assign(t.Context(), id, w.view(id).Version, "beeper", "left face", []string{"quiet"})
	if err != nil || v.Meant.Sheet.Sticks.Beeper != (quad.Range{Channel: 7, From: 900, To: 1500}) {
		t.Fatalf("%+v, %v", v, err)
	}
	if _, err := w.Assign(t.Context(), id, v.Version-1, "beeper", "left face", []string{"beeper"}); code(err) != "changed" {
		t.Errorf("a second window's: %v", err)
	}
	if _, err := w.Assign(t.Context(), id, v.Version, "beeper", "left face", []string{"middle"}); code(err) != "no-position" {
		t.Errorf("a position that is none: %v", err)
	}
	worn := func(samples []sticks.Sample) []sticks.Sample {
		for i := range samples {
			samples[i].Channels = append(samples[i].Channels, 1500+490*math.Sin(float64(i)/7))
		}
		return samples
	}
	rest := worn(moved(1, 1500, 1500, 1500))
	moves := worn(moved(1, 1100, 1500, 1900))
	health, err := w.RadioHealth(t.Context(), rest, moves)
	if err != nil || health[0].State != "sound" || health[1].State != "dead" || health[6].State != "spinning" {
		t.Fatalf("%+v, %v", health, err)
	}
	if _, err = w.Capture(t.Context(), id, "readings.sticks.axes.roll", moves, []int{7}); err != nil || figures(w, id, w.Sticks).Axes[0].Channel != 1 {
		t.Errorf("%v", err)
	}
	if _, err := w.RadioHealth(t.Context(), []sticks.Sample{{Channels: []float64{math.Inf(1)}}}, moves); code(err) != "no-pulse" {
		t.Errorf("no pulse: %v", err)
	}
}
