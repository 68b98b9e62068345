package app

import (
	"context"

	"vividperch/bench/protocol"
	"vividperch/core/airframe"
	"vividperch/core/book"
	"vividperch/core/check"
	"vividperch/core/inquiry"
	"vividperch/core/quad"
	"vividperch/core/wiring"
)

// WiringView is what the drawing of the wires shows.
type WiringView struct {
	Pads      []wiring.Pad          `json:"pads"`
	Devices   []DeviceView          `json:"devices"`
	Leads     []wiring.Joint        `json:"leads"`
	Rails     []wiring.RailState    `json:"rails"`
	Compasses []wiring.CompassState `json:"compasses"`
	Suspects  []wiring.Suspect      `json:"suspects"` // when something is silent
}

// Answering tells whether a device was seen to answer.
type Answering string

const (
	AnswersUnknown Answering = "unknown" // nobody looked
	AnswersYes     Answering = "yes"
	AnswersNo      Answering = "no"
)

// DeviceView is one device with what it needs, and whether it was seen to answer.
type DeviceView struct {
	Name string `json:"name"`
	quad.Device
	Wire    quad.Wire `json:"wire"`
	Answers Answering `json:"answers" enum:"unknown,yes,no"`
}

// Wiring of a quad.
func (a *App) Wiring(ctx context.Context, id int64) (*WiringView, error) {
	return figures(ctx, a, id, wiringOf)
}

func wiringOf(k quad.Known) *WiringView {
	v := &WiringView{Pads: nonNil(wiring.Pads(k.Parts.Board)), Devices: []DeviceView{}, Leads: nonNil(wiring.Leads(k.Parts)), Rails: wiring.Rails(k.Parts), Suspects: wiring.Which(k.Parts, k.Sheet.Wiring.Ports, wiring.Seen(k))}
	v.Compasses = wiring.Compasses(k.Parts, k.Limits, airframe.Summarize(k.Parts, k.Weight()).HoverCurrent)
	devices, seen := wiring.Devices(k.Parts), wiring.Seen(k)
	for _, name := range quad.SortedKeys(devices) {
		d := DeviceView{Name: name, Device: devices[name], Wire: k.Parts.Wires[name], Answers: AnswersUnknown}
		if answers, looked := seen[name]; looked {
			d.Answers = map[bool]Answering{true: AnswersYes, false: AnswersNo}[answers]
		}
		v.Devices = append(v.Devices, d)
	}
	return v
}

// PlanView is a way to wire the quad, or why there is none.
type PlanView struct {
	Plan     *wiring.Plan     `json:"plan"`
	Conflict *wiring.Conflict `json:"conflict"`
	Works    bool             `json:"works"` // it is wired and told like that already
}

// PlanWiring finds the way to wire the quad that moves the fewest devices, and changes nothing.
func (a *App) PlanWiring(ctx context.Context, id int64) (*PlanView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	plan, conflict, err := wiring.Solve(o.known.Parts)
	if err != nil {
		return nil, err
	}
	v := &PlanView{Plan: plan, Conflict: conflict}
	if plan != nil {
		v.Works = len(quad.Changes(o.known.Meant(), wiring.Take(o.known.Meant(), plan))) == 0
	}
	return v, nil
}

// TakePlan puts the plan on the drawing and the ports, in one act that can be undone.
func (a *App) TakePlan(ctx context.Context, id, version int64) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	plan, conflict, err := wiring.Solve(o.known.Parts)
	if err != nil {
		return nil, err
	}
	if plan == nil {
		return nil, quad.Faultf("no-plan", "parts.wires", "%s", conflict.Why)
	}
	return a.takeMeant(ctx, o, version, wiring.Take(o.known.Meant(), plan))
}

// Move one device's wires on the drawing: its port is told what it then does, and the one it leaves is told nothing. One
// act.
func (a *App) Move(ctx context.Context, id, version int64, device string, w quad.Wire) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	m, err := wiring.Move(o.known.Meant(), device, w)
	if err != nil {
		return nil, err
	}
	return a.takeMeant(ctx, o, version, m)
}

// takeMeant makes the draft say what is meant now, in one act.
func (a *App) takeMeant(ctx context.Context, o *opened, version int64, meant quad.Meant) (*QuadView, error) {
	edits := quad.Changes(o.known.Meant(), meant)
	if len(edits) == 0 {
		return nil, quad.Faultf("nothing-to-take", "", "it is like that already")
	}
	if err := meant.Valid(); err != nil {
		return nil, err
	}
	for i := range edits {
		if err := quad.Fits(edits[i].Path, edits[i].After); err != nil {
			return nil, err
		}
	}
	return a.draft(ctx, o.file.ID, o.edited(version, edits))
}

// Solder a device on the bench like it is drawn.
func (a *App) Solder(ctx context.Context, id int64, device string) error {
	b, o, err := a.atBench(ctx, id)
	if err != nil {
		return err
	}
	w, ok := o.known.Parts.Wires[device]
	if !ok {
		return quad.Faultf("no-wire", "parts.wires", "there is no wire drawn to the %q", device)
	}
	d, err := a.own(ctx, b, o)
	if err != nil {
		return err
	}
	if _, err := b.callOn(ctx, d, protocol.MethodSolder, protocol.Solder{Device: device, Port: w.Port, Out: w.Out, In: w.In, Rail: w.Rail}); err != nil {
		return err
	}
	e, err := a.entry(book.KindEvent, string(check.Solder), check.Happened{Event: check.Solder, At: a.now(), Note: "the " + device, Bench: true})
	if err != nil {
		return err
	}
	_, err = a.draft(ctx, id, book.Change{Entries: []book.Entry{e}})
	return err
}

// Unseen asks why a computer does not see a board: where the answers given so far have led, and what to look at next.
func (a *App) Unseen(given map[inquiry.QuestionID]string) (*inquiry.Inquiry, error) {
	in, err := wiring.Unseen(given)
	return &in, err
}
