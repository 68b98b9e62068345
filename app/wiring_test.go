package app_test

import (
	"testing"

	"vividperch/bench/protocol"
	"vividperch/core/check"
	"vividperch/core/quad"
	"vividperch/demo/benchtest"
)

// The drawing and the port table are one: what moves on the one moves on the other, in one act that can be undone; a pad
// that is not there changes nothing.
func TestWiresMoveWithTheirPorts(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.create("godwit")
	before := w.view(id)
	v, err := w.Move(t.Context(), id, before.Version, "satellite", quad.Wire{Port: "5", Out: "R6", Rail: "5V"})
	if err != nil {
		t.Fatal(err)
	}
	ports := v.Meant.Sheet.Wiring.Ports
	if ports["6"].Function != quad.PortSatellite || ports["5"].Function != quad.PortNothing || v.Meant.Parts.Wires["satellite"].Port != "6" {
		t.Errorf("ports %v, wire %+v", ports, v.Meant.Parts.Wires["satellite"])
	}
	if lead := v.Meant.Parts.Wires["satellite"].Leads["output"]; lead.Colour != "green" {
		t.Errorf("what was noted of the wire is gone: %+v", lead)
	}
	if v, err = w.Undo(t.Context(), id, v.Version); err != nil || v.Meant.Parts.Wires["satellite"].Port != "5" || v.Meant.Sheet.Wiring.Ports["5"].Function != quad.PortSatellite {
		t.Errorf("one act, one undo: %v", err)
	}
	for _, c := range []struct {
		device string
		wire   quad.Wire
		want   string
	}{
		{"satellite", quad.Wire{Out: "R9"}, "no-pad"},
		{"satellite", quad.Wire{Port: "9"}, "no-port"},
		{"satellite", quad.Wire{Port: "6", Rail: "12V"}, "no-pad"},
		{"kettle", quad.Wire{Port: "6"}, "no-device"},
		{"satellite", before.Meant.Parts.Wires["satellite"], "nothing-to-take"},
	} {
		if _, err := w.Move(t.Context(), id, w.view(id).Version, c.device, c.wire); code(err) != c.want {
			t.Errorf("%s to %+v: %v, want %s", c.device, c.wire, err, c.want)
		}
	}
	if _, err := w.Move(t.Context(), id, 1, "satellite", quad.Wire{Port: "6"}); code(err) != "changed" {
		t.Errorf("from a window that saw another drawing: %v", err)
	}
}

// Godwit by the plan: fewest changes, drawn, soldered, written, heard.
func TestGodwitByThePlan(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.create("godwit")
	b, _ := w.bench(benchtest.Kit(t, "godwit"))
	plan, err := w.PlanWiring(t.Context(), id)
	if err != nil || plan.Conflict != nil || plan.Works || plan.Plan.Changes != 2 {
		t.Fatalf("%+v, %v", plan, err)
	}
	if _, err := w.TakePlan(t.Context(), id, w.view(id).Version); err != nil {
		t.Fatal(err)
	}
	if plan, err = w.PlanWiring(t.Context(), id); err != nil || !plan.Works || plan.Plan.Changes != 0 {
		t.Errorf("once drawn: %+v, %v", plan, err)
	}
	w.edit(id, "parts.receiver.telemetry", "true")
	for _, d := range []string{"receiver", "satellite", "goggle link"} {
		if err := w.Solder(t.Context(), id, d); err != nil {
			t.Fatal(err)
		}
	}
	w.set(b, protocol.Things{Pack: yes(), USB: yes()})
	if err := w.Solder(t.Context(), id, "receiver"); code(err) != "device-refused" {
		t.Errorf("soldering under power: %v", err)
	}
	if _, err := w.Take(t.Context(), id, "readings.firmware.identity"); err != nil {
		t.Fatal(err)
	}
	if _, err := w.WriteBoard(t.Context(), id); err != nil {
		t.Fatal(err)
	}
	for _, p := range []quad.Path{"readings.wiring.receiverAnswers", "readings.wiring.answers.satellite", "readings.wiring.answers.goggle link"} {
		if _, err := w.Take(t.Context(), id, p); err != nil {
			t.Fatal(err)
		}
	}
	for _, d := range figures(w, id, w.Wiring).Devices {
		if !d.Bus && d.Answers != "yes" {
			t.Errorf("%s: %s", d.Name, d.Answers)
		}
	}
	if titles := w.findings(id, check.Wiring); len(titles) > 0 {
		t.Errorf("findings at Wiring: %q", titles)
	}
	// Too little current for all of them: the smallest set that cannot be fed, and nothing is drawn.
	w.edit(id, "parts.board.rails.9V.most", "1000")
	if plan, err = w.PlanWiring(t.Context(), id); err != nil || plan.Plan != nil || plan.Conflict.Over != "rail" || len(plan.Conflict.Devices) != 1 || plan.Conflict.Devices[0] != "goggle link" {
		t.Errorf("%+v, %v", plan, err)
	}
	if _, err := w.TakePlan(t.Context(), id, w.view(id).Version); code(err) != "no-plan" {
		t.Errorf("taking a plan that is none: %v", err)
	}
}
