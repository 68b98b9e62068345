package app_test

import (
	"encoding/json"
	"testing"

	"vividperch/bench/protocol"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// What is written to one speed controller is its own settings and nothing else; what all held before is kept.
func TestWriteOneSpeedController(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	b := w.attach()
	w.edit(id, "sheet.motors.outputs.B.reversed", "true")
	w.edit(id, "sheet.motors.outputs.C.reversed", "true")
	w.edit(id, "sheet.feel.angleLimit", "40")
	if _, err := w.WriteOutput(t.Context(), id, "B"); code(err) != "device-refused" {
		t.Errorf("writing without power: %v", err)
	}
	if err := b.Set(t.Context(), protocol.Things{Pack: yes()}); err != nil {
		t.Fatal(err)
	}
	if _, err := w.WriteOutput(t.Context(), id, "B"); err != nil {
		t.Fatal(err)
	}
	left := map[string]bool{}
	for _, c := range w.board(id).Changes {
		left[c.Name] = true
	}
	if left["esc.B.turn"] || !left["esc.C.turn"] || len(left) != 2 {
		t.Errorf("after writing B alone there is still to write: %v", left)
	}
	if list := w.saved(id); len(list) == 0 || list[0].Why != "before writing the speed controller of output B" {
		t.Errorf("kept before: %+v", list)
	}
	if _, err := w.WriteOutput(t.Context(), id, "B"); code(err) != "nothing-to-write" {
		t.Errorf("written twice: %v", err)
	}
	if _, err := w.WriteOutput(t.Context(), id, "no such"); code(err) != "nothing-to-write" {
		t.Errorf("an output that is not there: %v", err)
	}
}

// A motor that is raised until it turns and lowered until it stands has both noted; one that is only raised is short of the other.
func TestRunDownIsNoted(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	b := w.attach()
	if err := b.Set(t.Context(), protocol.Things{Pack: yes()}); err != nil {
		t.Fatal(err)
	}
	// A hand that holds, long enough for the bench to be looked at a dozen times.
	level := func(to float64) {
		t.Helper()
		renewed := 0
		w.until("held", func() bool {
			if err := w.Hold(t.Context(), id, protocol.Motion{Kind: "spin", Output: "A", Level: to}); err != nil {
				t.Fatal(err)
			}
			renewed++
			return renewed == 80
		})
	}
	var err error
	for range 5 { // a hold that a busy machine broke is made anew, all of it
		level(2)
		level(3.4)
		if _, err := w.Take(t.Context(), id, "readings.motors.starts.A"); code(err) != "not-run-down" {
			t.Errorf("only raised: %v", err)
		}
		level(3.1) // turning it needs less
		if _, err := w.Take(t.Context(), id, "readings.motors.starts.A"); code(err) != "not-run-down" {
			t.Errorf("lowered, and still turning: %v", err)
		}
		level(2.5)
		if _, err = w.Take(t.Context(), id, "readings.motors.starts.A"); err == nil {
			break
		}
		if err := b.Rest(t.Context()); err != nil {
			t.Fatal(err)
		}
	}
	if err != nil {
		t.Fatal(err)
	}
	if idle := figures(w, id, w.Motors).Idle; len(idle.Runs) != 1 || idle.Runs[0].Starts != 3.4 || idle.Runs[0].Stops != 2.5 || idle.Known {
		t.Errorf("%+v", idle)
	}
}

// The view lists the fewest acts, and putting them on the sheet leaves none.
func TestActsOfTheViewUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	for letter, raw := range map[string]string{
		"A": `{"corner":"frontLeft","spin":"clockwise"}`, "B": `{"corner":"rearLeft","spin":"clockwise"}`,
		"C": `{"corner":"frontRight","spin":"counterClockwise"}`, "D": `{"corner":"rearRight","spin":"clockwise"}`,
	} {
		if _, err := w.Type(t.Context(), id, quad.Path("readings.motors.outputs."+letter), json.RawMessage(raw)); err != nil {
			t.Fatal(err)
		}
	}
	acts := figures(w, id, w.Motors).Acts
	if len(acts) != 3 {
		t.Fatalf("%+v", acts)
	}
	for _, a := range acts {
		raw := a.Value
		if a.Kind == motors.ActRemap {
			raw = `"` + raw + `"`
		}
		w.edit(id, a.Path, raw)
	}
	left := figures(w, id, w.Motors).Acts
	if len(left) != 1 || left[0].Kind != motors.ActReverse {
		t.Errorf("the board's share is done; B is still seen to turn wrong until it is seen again: %+v", left)
	}
	if m, err := w.Motors(t.Context(), id); err != nil || len(m.Signs) != 7 || len(m.Frames) != 4 {
		t.Errorf("%+v, %v", m, err)
	}
}
