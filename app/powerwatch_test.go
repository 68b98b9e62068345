package app_test

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"vividperch/app"
	"vividperch/core/book"
	"vividperch/core/flight"
	"vividperch/core/power"
	"vividperch/core/quad"
)

// What is drawn of the power watch is what the core says of the quad: its thresholds in the pack's own volts, its routes, how far it reaches, and what the life of a pack says.
func TestPowerWatchIsDrawnAsItIsJudged(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	v := figures(w, id, w.PowerWatch)
	if len(v.Packs) != 2 || v.Packs[1].Name != "grey" || !v.Packs[1].Heaviest || !(math.Abs(v.Packs[1].Warns-21) <= 1e-9) || !v.Packs[1].Fits || v.Packs[1].Seconds < 300 {
		t.Fatalf("%+v", v.Packs)
	}
	if v.Reach == nil || v.Reach.Told || len(v.Reach.Ways) != 1 || v.Reach.Ways[0].Metres < 500 {
		t.Errorf("%+v", v.Reach)
	}
	if m := v.Meter; !m.Told || m.Kind != power.ScaleDivides || m.Held == nil || *m.Held != 400 || !(math.Abs(m.Idle-0.44) <= 0.011) || len(m.Steps) != 5 || m.Steps[4].Amps <= m.Steps[0].Amps {
		t.Errorf("%+v", v.Meter)
	}
	for path, value := range map[quad.Path]string{
		"readings.firstFlight.wind": "5", "readings.watch.heard": "true", "readings.watch.route": `"sounder"`,
		"readings.watch.heat":    `{"frontLeft":44,"frontRight":46,"rearLeft":67,"rearRight":45,"air":18}`,
		"readings.watch.current": `{"idle":0.45,"output":30,"amps":7.4}`,
	} {
		if _, err := w.Told(t.Context(), id, path, json.RawMessage(value)); err != nil {
			t.Fatal(path, err)
		}
	}
	packs, err := w.Packs(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	if _, err := w.MeasurePack(t.Context(), packs.Version, "grey", book.PackMeasured{Capacity: 1900}); code(err) != "above-capacity" {
		t.Errorf("a charger that puts more back than it holds: %v", err)
	}
	if _, err := w.MeasurePack(t.Context(), packs.Version, "grey", book.PackMeasured{Resistance: 40}); err != nil {
		t.Fatal(err)
	}
	v = figures(w, id, w.PowerWatch)
	if len(v.Reach.Ways) != 3 || !v.Reach.Told || v.Reach.Ways[1].Metres <= v.Reach.Ways[0].Metres {
		t.Errorf("in a wind: %+v", v.Reach)
	}
	if !v.Routes[2].Proven || v.Routes[0].Proven || v.Heat == nil || v.Heat.Hover < 20 || v.Meter.Model == nil || !(math.Abs(v.Meter.Model.At(0.3)-7.4) <= 1e-9) {
		t.Errorf("%+v, %+v, %+v", v.Routes, v.Heat, v.Meter.Model)
	}
	if !v.Packs[1].Wear.Retire || v.Packs[0].Wear.Words != "" {
		t.Errorf("wear: %+v, %+v", v.Packs[1].Wear, v.Packs[0].Wear)
	}
}

func TestAlarmOverAFlight(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	ask := app.AlarmAsk{Pack: "grey", Effort: flight.Punching, Alarm: power.Alarm{PerCell: 3.56}, Leave: 45}
	v, err := w.Alarm(t.Context(), id, ask)
	if err != nil {
		t.Fatal(err)
	}
	if v.Ended || v.Replayed.False == 0 || !v.Replayed.True || v.Replayed.Seconds > 45 || len(v.Flight) != 900 || v.Windings[0] < 40 || v.Distance < 1000 {
		t.Errorf("it lasts %v s, %+v, %v, %v m", v.Lasts, v.Replayed, v.Windings, v.Distance)
	}
	if v.Advised == nil || v.Advises.Seconds < 45 || v.Advises.False >= v.Replayed.False {
		t.Errorf("advised %+v: %+v", v.Advised, v.Advises)
	}
	ask.Alarm, ask.Brief = *v.Advised, true
	brief, err := w.Alarm(t.Context(), id, ask)
	if err != nil || brief.Map != nil || len(brief.Flight) > 0 || brief.Replayed.Seconds != v.Advises.Seconds {
		t.Errorf("in brief: %+v, %v", brief, err)
	}

	var csv strings.Builder
	csv.WriteString("Time (ms);Battery voltage (V);Current (A)\n")
	for i := range 3000 {
		fmt.Fprintf(&csv, "%d;%.2f;%.1f\n", i*100, 25-0.0018*float64(i), 11.5)
	}
	ask = app.AlarmAsk{Pack: "grey", Text: csv.String(), Alarm: power.Alarm{PerCell: 3.5}, Leave: 20}
	if v, err = w.Alarm(t.Context(), id, ask); err != nil || v.Table == nil || !v.Sorted || !(math.Abs(v.Lasts-299.9) <= 0.2) || !v.Replayed.True || !(math.Abs(v.Replayed.At-222.3) <= 0.5) {
		t.Fatalf("a recorded flight: %+v, %v", v, err)
	}
	for name, c := range map[string]struct {
		ask  app.AlarmAsk
		code string
	}{
		"no such pack":  {app.AlarmAsk{Pack: "pink"}, "no-pack"},
		"another pack":  {app.AlarmAsk{Pack: "grey", Text: strings.NewReplacer(";2", ";1", ";19", ";11").Replace(csv.String())}, "other-cells"},
		"not a table":   {app.AlarmAsk{Pack: "grey", Text: "\x00"}, "not-a-table"},
		"a short table": {app.AlarmAsk{Pack: "grey", Text: "time (s),volts\n1,24\n2,24\n"}, "too-short"},
	} {
		if _, err := w.Alarm(t.Context(), id, c.ask); code(err) != c.code {
			t.Errorf("%s: %v, want %s", name, err, c.code)
		}
	}
	w.edit(id, "parts.packs.grey.cells", "0")
	if _, err := w.Alarm(t.Context(), id, app.AlarmAsk{Pack: "grey", Effort: flight.Hovering}); code(err) != "no-cells" {
		t.Errorf("a pack of no cells: %v", err)
	}
}

// A line that divides gets a smaller scale where the charger says more; a model is written in the line's own units; a decimal that slipped is named before anything is kept.
func TestCurrentIsFound(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	packs := []power.Charged{{Logged: 900, Put: 1000}, {Logged: 850, Put: 940}, {Logged: 910, Put: 1015}}
	s, err := w.CurrentScale(t.Context(), id, app.ScaleAsk{Was: 400, Kind: power.ScaleDivides, Packs: packs})
	if err != nil || s.Setting == nil || s.Setting.Name != "amp.scale" || s.Setting.Value != "360" || s.Scaled.Packs != 3 {
		t.Errorf("%+v, %v", s, err)
	}
	if _, err := w.CurrentScale(t.Context(), id, app.ScaleAsk{Was: 400, Kind: power.ScaleDivides, Packs: []power.Charged{{Logged: 900, Put: 1800}}}); code(err) != "above-capacity" {
		t.Errorf("above what it holds: %v", err)
	}
	m, err := w.CurrentModel(t.Context(), id, app.ModelAsk{Idle: 4.4, Loaded: []power.Drawn{{Output: 30, Amps: 7.4}}})
	if err != nil || len(m.Slips) != 1 || m.Slips[0].Times != 0.1 {
		t.Errorf("a slipped decimal: %+v, %v", m, err)
	}
	m, err = w.CurrentModel(t.Context(), id, app.ModelAsk{Idle: 0.45, Loaded: []power.Drawn{{Output: 30, Amps: 7.4}}})
	if err != nil || len(m.Slips) != 0 || m.Model.Bend != 0.5 || len(m.Settings) != 2 || m.Settings[1].Value != "45" || len(m.Curve) != 26 {
		t.Errorf("%+v, %v", m, err)
	}
	if m, err = w.CurrentModel(t.Context(), id, app.ModelAsk{Idle: 0.45, Loaded: []power.Drawn{{Output: 30, Amps: 74}}}); err != nil || len(m.Slips) != 1 {
		t.Errorf("one under load: %+v, %v", m, err)
	}
	if _, err = w.CurrentModel(t.Context(), id, app.ModelAsk{Idle: 0.45, Free: true, Loaded: []power.Drawn{{Output: 30, Amps: 7.4}}}); code(err) != "too-near" {
		t.Errorf("a free bend of one reading: %v", err)
	}
}

// A motor that turns against the plan tips a rehearsal over; the pack is flown empty all the same.
func TestAlarmWithAQuadThatTipsOver(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	if _, err := w.Told(t.Context(), id, "readings.motors.outputs.B", json.RawMessage(`{"corner":"rearLeft","spin":"clockwise"}`)); err != nil {
		t.Fatal(err)
	}
	if _, err := w.Told(t.Context(), id, "readings.sticks.axes.throttle", json.RawMessage(`{"channel":3,"ends":{"low":1060,"centre":1500,"high":1940},"reversed":false,"jitter":0.5}`)); err != nil {
		t.Fatal(err)
	}
	v, err := w.Alarm(t.Context(), id, app.AlarmAsk{Pack: "green", Effort: flight.Cruising, Alarm: power.Alarm{PerCell: 3.7, Delay: 3}, Leave: 45})
	if err != nil || v.Ended || v.Lasts < 300 {
		t.Errorf("it lasts %+v, %v", v, err)
	}
}
