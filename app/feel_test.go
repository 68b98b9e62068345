package app_test

import (
	"encoding/json"
	"math"
	"strings"
	"testing"

	"vividperch/app"
	"vividperch/core/check"
	"vividperch/core/feel"
	"vividperch/core/flight"
	"vividperch/core/motors"
	"vividperch/core/quad"
	"vividperch/demo"
)

func tried(pairs ...string) (out app.Tried) {
	for i := 0; i < len(pairs); i += 2 {
		out = append(out, app.SetValue{Path: quad.Path(pairs[i]), Value: json.RawMessage(pairs[i+1])})
	}
	return out
}

// as values to be tried.
func asTried(edits []check.Edit) (out app.Tried) {
	for _, e := range edits {
		out = append(out, app.SetValue{Path: e.Path, Value: json.RawMessage(e.Value)})
	}
	return out
}

// A curve is drawn by a handle, the other axis with it; converted and back it is within a hundredth; and what is taken is what was drawn.
func TestCurvesAreDrawnAndConverted(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	ask := func(a app.CurveAsk) *app.CurvesOf {
		t.Helper()
		v, err := w.FeelCurves(t.Context(), id, a)
		if err != nil {
			t.Fatal(err)
		}
		return v
	}
	v := ask(app.CurveAsk{Ghost: "before", Drag: &app.CurveDrag{Axis: motors.TurnRoll, Handle: feel.HandleCentre, Rate: 30, With: motors.TurnPitch}, Turns: true})
	roll, pitch, yaw := v.Axes[0], v.Axes[1], v.Axes[2]
	if !(math.Abs(roll.Handles[0].Rate-30) <= 1.5) || pitch.Rates != roll.Rates || yaw.Rates.Centre != 120 || len(v.Edits) != 6 || roll.Apart == nil || roll.Apart.By >= 0 || roll.Turn == nil || roll.Turn.Seconds < 0.4 {
		t.Fatalf("%+v, turn %+v, edits %+v", roll, roll.Turn, v.Edits)
	}
	soft := asTried(v.Edits)
	there := ask(app.CurveAsk{Tried: soft, To: quad.StraightExpo})
	if there.Family != quad.StraightExpo || there.Axes[0].Apart == nil || there.Axes[0].Apart.Share == 0 {
		t.Fatalf("%+v", there.Axes[0].Apart)
	}
	back := ask(app.CurveAsk{Tried: append(soft, asTried(there.Edits)...), To: quad.CentrePeak})
	if apart := feel.Between(quad.CentrePeak, roll.Rates, quad.CentrePeak, back.Axes[0].Rates); apart.Share > 0.02 {
		t.Errorf("there and back it is %.1f %% off: %+v", 100*apart.Share, back.Axes[0].Rates)
	}
	if old := ask(app.CurveAsk{Tried: soft, Ghost: "revision 1"}).Axes[0]; old.Apart == nil || old.Apart.By >= 0 || len(old.Ghost) != len(old.Points) {
		t.Errorf("against the first revision: %+v", old.Apart)
	}
	// What the settings themselves were put into goes back to exactly these.
	other := ask(app.CurveAsk{To: quad.Compounding})
	if own := ask(app.CurveAsk{Tried: asTried(other.Edits), To: quad.CentrePeak}); own.Axes[0].Rates != (quad.Rates{Centre: 140, Peak: 670, Bend: 0.4}) {
		t.Errorf("there and back the settings became %+v", own.Axes[0].Rates)
	}
	if _, err := w.Told(t.Context(), id, "readings.sticks.axes.roll", json.RawMessage(`{"channel":1,"ends":{"low":1050,"centre":1500,"high":1980},"jitter":2}`)); err != nil {
		t.Fatal(err)
	}
	if short := ask(app.CurveAsk{}).Axes[0]; !(math.Abs(short.Reaches-0.9) <= 0.01) || short.Fullest >= 600 || short.Least != 4 {
		t.Errorf("a stick that falls short: %+v", short)
	}
	for _, c := range []struct {
		ask  app.CurveAsk
		code string
	}{
		{app.CurveAsk{Tried: tried("sheet.feel.roll.peak", "100")}, "peak-below-centre"},
		{app.CurveAsk{Tried: tried("sheet.feel.roll.bend", "1.4")}, "out-of-range"},
		{app.CurveAsk{Tried: tried("sheet.feel.family", `"round"`)}, "not-allowed"},
		{app.CurveAsk{At: "sheet.feel.fourth"}, "no-profile"},
		{app.CurveAsk{Ghost: "revision 99"}, "no-revision"},
		{app.CurveAsk{Tried: tried("readings.airframe.weight", "1")}, "not-settable"},
	} {
		if _, err := w.FeelCurves(t.Context(), id, c.ask); err == nil || c.code != "not-allowed" && code(err) != c.code {
			t.Errorf("%+v: %v (%s), want %s", c.ask, err, code(err), c.code)
		}
	}
	off := ask(app.CurveAsk{Drag: &app.CurveDrag{Axis: motors.TurnYaw, Handle: feel.HandlePeak, Rate: 9000}})
	if !strings.Contains(off.Held, "off the picture") || off.Axes[2].Rates.Peak != 2000 {
		t.Errorf("%q, %+v", off.Held, off.Axes[2].Rates)
	}
}

// The throttle is told as stick and as duty, compressed and cut off; put where the hand wants it, it hovers there.
func TestThrottleIsPutWhereTheHandWantsIt(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	v, err := w.FeelThrottle(t.Context(), id, app.FeelThrottleAsk{HoverAt: 50})
	if err != nil {
		t.Fatal(err)
	}
	if len(v.Other) == 0 || v.Cut || v.Dead != 0 || len(v.Hover) != 2 || len(v.Packs) != 4 {
		t.Fatalf("%+v", v)
	}
	moved, err := w.FeelThrottle(t.Context(), id, app.FeelThrottleAsk{Tried: asTried(v.Hover), HoverAt: 50})
	if err != nil {
		t.Fatal(err)
	}
	// The line that is drawn goes through its weight at half the stick.
	for i, p := range moved.Points {
		if p.Stick == 50 && !(math.Abs(p.Lifts-1) <= 0.03) {
			t.Errorf("half the stick lifts %v times its weight", moved.Points[i].Lifts)
		}
	}
	straight, err := w.FeelThrottle(t.Context(), id, app.FeelThrottleAsk{Tried: asTried(v.Straight)})
	if err != nil || straight.Uneven >= v.Uneven || straight.Uneven != v.StraightLeft {
		t.Errorf("strays by %v, straightened by %v, told %v: %v", v.Uneven, straight.Uneven, v.StraightLeft, err)
	}
	evened, err := w.FeelThrottle(t.Context(), id, app.FeelThrottleAsk{Tried: asTried(v.Even)})
	if err != nil || evened.Uneven >= v.Uneven || evened.Uneven != v.EvenLeft || evened.Fully <= v.Fully || v.Counts != 1 || evened.Counts <= 1 || evened.Packs[0].Stick >= v.Packs[0].Stick || len(evened.Even) != 0 {
		t.Errorf("strays by %v, evened out by %v, told %v; full stick %v, was %v; a correction counts %v times: %v", v.Uneven, evened.Uneven, v.EvenLeft, evened.Fully, v.Fully, evened.Counts, err)
	}
	cut, err := w.FeelThrottle(t.Context(), id, app.FeelThrottleAsk{Tried: tried("sheet.feel.throttleCut", "true")})
	if err != nil || cut.Dead != 40 || cut.Fully != v.Fully || cut.Points[30].Lifts <= v.Points[30].Lifts {
		t.Errorf("cut off at 60 %%: %v dead, %v duty at the top, %v", cut.Dead, cut.Fully, err)
	}
}

// What the page says of the gains is what the rule says of them: enough, little and none in hand; one cell more takes it.
func TestGainsAreToldAsTheyAreJudged(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	if _, err := w.Told(t.Context(), id, "readings.airframe.weight", json.RawMessage("710")); err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		tried  app.Tried
		weight check.Weight
		title  string
	}{
		{nil, "", ""},
		{tried("sheet.feel.rollGains.proportional", "0.34"), check.Fix, "Roll has little in hand before it oscillates"},
		{tried("sheet.feel.rollGains.proportional", "0.6"), check.Stop, "Roll oscillates by itself"},
		{tried("sheet.feel.rollGains.proportional", "0.27"), "", ""},
		{append(tried("sheet.feel.rollGains.proportional", "0.27"), tried("parts.packs.green.cells", "8")...), check.Fix, "Roll has little in hand before it oscillates"},
	} {
		v, err := w.Gains(t.Context(), id, app.GainsAsk{Tried: c.tried, Axis: motors.TurnRoll})
		if err != nil {
			t.Fatal(err)
		}
		if v.Weight != c.weight || len(v.Gains) != 4 || v.Gains[0].More == nil || (len(c.tried) > 0) != (v.Before != nil) || v.Start == nil {
			t.Errorf("%v: %s at %v times, want %s; %d gains, before %v, start %v", c.tried, v.Weight, v.Worst.Share, c.weight, len(v.Gains), v.Before != nil, v.Start != nil)
		}
		// The rule, of the same settings.
		q, err := w.Quad(t.Context(), id)
		if err != nil {
			t.Fatal(err)
		}
		values := make([]app.SetValue, len(c.tried))
		copy(values, c.tried)
		if len(values) > 0 {
			if q, err = w.Edit(t.Context(), id, q.Version, values); err != nil {
				t.Fatal(err)
			}
		}
		found := ""
		for _, p := range q.Line {
			for _, f := range p.Findings {
				if f.Rule == "feel.oscillates" && f.Subject == "roll" {
					found = f.Title
				}
			}
		}
		if found != c.title {
			t.Errorf("%v: the rule says %q, want %q", c.tried, found, c.title)
		}
		if len(values) > 0 {
			if _, err := w.Undo(t.Context(), id, q.Version); err != nil {
				t.Fatal(err)
			}
		}
	}
}

// Filters: the delays that are listed sum to the whole, each is left out where it is off, and the spectrum has a line where the rotors turn.
func TestFiltersAreListedByWhatTheyCost(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	v, err := w.FeelFilters(t.Context(), id, app.FiltersAsk{Tried: tried("sheet.feel.filters.notch", `{"on":"on","centre":180,"width":40}`, "sheet.feel.filters.searching", `{"count":1,"from":150,"to":400}`,
		"sheet.feel.recording", `{"purpose":"filters","medium":"card","share":4,"raw":"on"}`)})
	if err != nil {
		t.Fatal(err)
	}
	sum := 0.0
	for _, d := range v.Delays {
		sum += d.Delay
	}
	if len(v.Delays) != 3 || !(math.Abs(sum-v.Total) <= 0.02) || len(v.Sits) != 2 || v.Spectra == nil || v.Slow {
		t.Errorf("%+v sum to %v, told %v; sits %v", v.Delays, sum, v.Total, v.Sits)
	}
	if r := v.Records; r.Rate != 1000 || r.Needs <= 1000 || r.Minutes != 0 {
		t.Errorf("%+v", r)
	}
	slow, err := w.FeelFilters(t.Context(), id, app.FiltersAsk{Tried: tried("sheet.feel.filters.gyro.cutoff", "10")})
	if err != nil || !slow.Slow || slow.Total < 10 {
		t.Errorf("a cutoff of 10 Hz: %v ms, slow %v, %v", slow.Total, slow.Slow, err)
	}
}

// A feel is borrowed from another quad, from a list that tells no parts, from an archive, from what is typed and from what ships; nonsense is refused.
func TestFeelsAreBorrowed(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	_, own, err := w.Archive(t.Context(), id, true)
	if err != nil {
		t.Fatal(err)
	}
	other, err := w.Import(t.Context(), own, "Lender")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := w.Edit(t.Context(), other, w.view(other).Version, tried("sheet.feel.roll.peak", "500", "sheet.feel.rollGains.proportional", "0.06", "sheet.feel.filters.gyro.cutoff", "120")); err != nil {
		t.Fatal(err)
	}
	v, err := w.Borrow(t.Context(), id, app.BorrowAsk{Kind: app.BorrowQuad, Quad: other})
	if err != nil {
		t.Fatal(err)
	}
	now := map[quad.Path]string{}
	for _, c := range v.Carried {
		now[c.Path] = c.Now
	}
	if now["sheet.feel.roll.peak"] != "500 °/s" || now["sheet.feel.rollGains.proportional"] == "" || len(v.Left) != 1 || v.Left[0].What != "The filters" || len(v.Theirs) != len(v.Stick) || len(v.After) != len(v.Stick) {
		t.Errorf("carried %v, left %+v, %d %d %d", now, v.Left, len(v.Theirs), len(v.After), len(v.Stick))
	}
	_, raw, err := w.Archive(t.Context(), other, true)
	if err != nil {
		t.Fatal(err)
	}
	if same, err := w.Borrow(t.Context(), id, app.BorrowAsk{Kind: app.BorrowArchive, Text: string(raw)}); err != nil || len(same.Carried) != len(v.Carried) {
		t.Errorf("from its archive: %v", err)
	}
	list, err := w.Borrow(t.Context(), id, app.BorrowAsk{Kind: app.BorrowList, Text: "turn.roll = 200:800:20\n"})
	if err != nil {
		t.Fatal(err)
	}
	bare := false
	for _, l := range list.Left {
		bare = bare || l.What == "The gains" && strings.Contains(l.Why, "parts")
	}
	if !bare || len(list.Theirs) != 0 {
		t.Errorf("from a list: %+v", list.Left)
	}
	typed, err := w.Borrow(t.Context(), id, app.BorrowAsk{Kind: app.BorrowTyped, Typed: &app.TypedFeel{Family: quad.Compounding, Roll: quad.Rates{Centre: 200, Peak: 700, Bend: 0.2}, Pitch: quad.Rates{Centre: 200, Peak: 700, Bend: 0.2}, Yaw: quad.Rates{Centre: 150, Peak: 500}}})
	if err != nil || typed.Apart[0].Share == 0 || typed.Apart[0].Share > 0.1 {
		t.Errorf("typed: %+v, %v", typed, err)
	}
	preset, err := w.Borrow(t.Context(), id, app.BorrowAsk{Kind: app.BorrowPreset, Preset: "indoors"})
	if err != nil || len(preset.Edits) < 8 {
		t.Errorf("preset: %v", err)
	}
	for _, a := range []app.BorrowAsk{
		{Kind: app.BorrowQuad, Quad: id}, {Kind: app.BorrowQuad, Quad: 999}, {Kind: app.BorrowArchive, Text: "{"}, {Kind: app.BorrowList, Text: "turn.shape = round\n"}, {Kind: app.BorrowTyped}, {Kind: app.BorrowPreset, Preset: "mine"},
		{Kind: app.BorrowTyped, Typed: &app.TypedFeel{Family: quad.CentrePeak, Roll: quad.Rates{Centre: 700, Peak: 300}}},
	} {
		if _, err := w.Borrow(t.Context(), id, a); err == nil {
			t.Errorf("%+v is borrowed from", a)
		}
	}
}

// What the station offers: families that the firmware holds, ghosts of other profiles and of revisions, leans, and no self-tune where the firmware has none.
func TestFeelOffers(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	v, err := w.Feel(t.Context(), id)
	if err != nil {
		t.Fatal(err)
	}
	if v.Tune != nil || len(v.Presets) != 4 || len(v.Families) != 3 || !v.Families[1].Held || !v.Holds.Cut || len(v.Lean.Leans) != 16 || v.Lean.Leans[8].Speed < v.Lean.Leans[4].Speed {
		t.Errorf("%+v", v)
	}
	for i, l := range v.Lean.Leans {
		if want := 9.80665 * math.Tan(l.Lean*math.Pi/180); !(math.Abs(l.Pulls-want) <= 0.01) {
			t.Errorf("lean %d pulls %v, want %v", i, l.Pulls, want)
		}
	}
	if len(feel.Symptoms()) != len(v.Symptoms) || flight.OneStickLasts != 1.6 {
		t.Error("what is offered is not what is known")
	}
}

// A board that tunes itself: what must be so before is told, and what it found is what it holds otherwise than the settings.
func TestSelfTuneIsAnActWithConditions(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.create("godwit")
	v, err := w.Feel(t.Context(), id)
	if err != nil {
		t.Fatal(err)
	}
	if v.Tune == nil || v.Tune.Ready || !v.Tune.Saved || len(v.Tune.Conditions) != 5 || len(v.Tune.Found) != 0 || len(v.Tune.Steps) < 4 {
		t.Fatalf("%+v", v.Tune)
	}
	for path, value := range map[quad.Path]string{"readings.firstFlight.wind": "2", "readings.firstFlight.clear": "40"} {
		if _, err := w.Told(t.Context(), id, path, json.RawMessage(value)); err != nil {
			t.Fatal(err)
		}
	}
	w.edit(id, "sheet.feel.angleLimit", "31")
	if open, err := w.Feel(t.Context(), id); err != nil || open.Tune.Saved {
		t.Errorf("with changes that are not saved: %+v, %v", open.Tune, err)
	}
	if _, err := w.Save(t.Context(), id, w.view(id).Version, "before the tune"); err != nil {
		t.Fatal(err)
	}
	q, err := demo.Load("godwit")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := w.ReadList(t.Context(), id, append(q.List(), []byte("\nRollHoldP,0.07\n")...), false); err != nil {
		t.Fatal(err)
	}
	v, err = w.Feel(t.Context(), id)
	if err != nil {
		t.Fatal(err)
	}
	met := map[bool]int{}
	for _, c := range v.Tune.Conditions {
		met[c.Met]++
	}
	if met[true] != 4 || !v.Tune.Saved || v.Tune.Revision != 2 || len(v.Tune.Found) == 0 || v.Tune.Found[0].Path != "sheet.feel.rollGains.proportional" || !(math.Abs(v.Tune.Found[0].Value-0.07/0.573) <= 0.001) {
		t.Errorf("%+v", v.Tune)
	}
}

func BenchmarkFeel(b *testing.B) {
	w := newWorld(b)
	id := w.dunlin()
	for name, ask := range map[string]func() error{
		"curve": func() error {
			_, err := w.FeelCurves(b.Context(), id, app.CurveAsk{Drag: &app.CurveDrag{Axis: motors.TurnRoll, Handle: feel.HandleShape, Rate: 300}})
			return err
		},
		"convert": func() error { _, err := w.FeelCurves(b.Context(), id, app.CurveAsk{To: quad.Compounding}); return err },
		"step":    func() error { _, err := w.Gains(b.Context(), id, app.GainsAsk{Axis: motors.TurnRoll}); return err },
	} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if err := ask(); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
