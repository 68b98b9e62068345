package wiring

import (
	"testing"

	"vividperch/core/quad"
)

// Two ends of a line understand each other within four per cent of the faster; one that nobody noted may be any.
func TestSameSpeed(t *testing.T) {
	for _, c := range []struct {
		a, b float64
		same bool
	}{{115.2, 115.2, true}, {100, 96, true}, {96, 100, true}, {100, 95.9, false}, {57.6, 115.2, false}, {0, 115.2, true}, {420, 0, true}} {
		if got := SameSpeed(c.a, c.b); got != c.same {
			t.Errorf("%v and %v kBd: %v", c.a, c.b, got)
		}
	}
	if got := SpeedOf(quad.Receiver{Speed: 250, Language: quad.SerialFrame}); got != 250 {
		t.Errorf("told 250 kBd it speaks at %v", got)
	}
	if got := SpeedOf(quad.Receiver{Language: quad.SerialFrame}); got != quad.SerialFrame.Speed() || got == 0 {
		t.Errorf("as is usual for its language it speaks at %v", got)
	}
}

// What keeps a device from being heard, one thing at a time: on a port that is told so it is.
func TestWhatKeepsADeviceFromBeingHeard(t *testing.T) {
	device := quad.Device{Function: quad.PortSatellite, Talks: true, Listens: true, Baud: 115.2}
	port := quad.PortPart{Receive: true, Send: true, Most: 115.2}
	told := quad.PortPlan{Function: quad.PortSatellite, Baud: 115.2}
	wire := quad.Wire{Port: "1", Rail: "five"}
	for name, c := range map[string]struct {
		change func(d *quad.Device, p *quad.PortPart, told *quad.PortPlan, w *quad.Wire)
		heard  bool
	}{
		"as it should be":        {func(*quad.Device, *quad.PortPart, *quad.PortPlan, *quad.Wire) {}, true},
		"a port without a limit": {func(_ *quad.Device, p *quad.PortPart, _ *quad.PortPlan, _ *quad.Wire) { p.Most = 0 }, true},
		"faster than its port":   {func(_ *quad.Device, p *quad.PortPart, _ *quad.PortPlan, _ *quad.Wire) { p.Most = 115 }, false},
		"told another function": {func(_ *quad.Device, _ *quad.PortPart, told *quad.PortPlan, _ *quad.Wire) {
			told.Function = quad.PortVideo
		}, false},
		"told another speed":              {func(_ *quad.Device, _ *quad.PortPart, told *quad.PortPlan, _ *quad.Wire) { told.Baud = 57.6 }, false},
		"inverted, on a port that is not": {func(d *quad.Device, _ *quad.PortPart, _ *quad.PortPlan, _ *quad.Wire) { d.Inverted = true }, false},
		"inverted, on one that inverts": {func(d *quad.Device, p *quad.PortPart, _ *quad.PortPlan, _ *quad.Wire) {
			d.Inverted, p.Inverts = true, true
		}, true},
		"wants direct access": {func(d *quad.Device, _ *quad.PortPart, _ *quad.PortPlan, _ *quad.Wire) { d.Direct = true }, false},
		"wants direct access, and has it": {func(d *quad.Device, p *quad.PortPart, _ *quad.PortPlan, _ *quad.Wire) {
			d.Direct, p.Direct = true, true
		}, true},
		"without a supply":           {func(_ *quad.Device, _ *quad.PortPart, _ *quad.PortPlan, w *quad.Wire) { w.Rail = "-" }, false},
		"crossed":                    {func(_ *quad.Device, _ *quad.PortPart, _ *quad.PortPlan, w *quad.Wire) { w.Out, w.In = "T1", "R1" }, false},
		"a port that only sends":     {func(_ *quad.Device, p *quad.PortPart, _ *quad.PortPlan, _ *quad.Wire) { p.Receive = false }, false},
		"one that only listens":      {func(d *quad.Device, _ *quad.PortPart, _ *quad.PortPlan, _ *quad.Wire) { d.Talks = false }, true},
		"that, on a port that hears": {func(d *quad.Device, p *quad.PortPart, _ *quad.PortPlan, _ *quad.Wire) { d.Talks, p.Send = false, false }, false},
		"on no port":                 {func(_ *quad.Device, _ *quad.PortPart, _ *quad.PortPlan, w *quad.Wire) { w.Port = "" }, false},
	} {
		d, p, plan, w := device, port, told, wire
		c.change(&d, &p, &plan, &w)
		parts := quad.Parts{Devices: map[string]quad.Device{"locator": d}, Wires: map[string]quad.Wire{"locator": w}}
		parts.Board.Ports = map[string]quad.PortPart{"1": p}
		got := Answers(parts, map[string]quad.PortPlan{"1": plan})
		if heard, looked := got["locator"]; !looked || heard != c.heard {
			t.Errorf("%s: heard %v, looked at %v", name, heard, looked)
		}
	}
	// What needs no port, and what has no function, are not looked at.
	parts := quad.Parts{Devices: map[string]quad.Device{"compass": {Bus: true, Talks: true, Function: quad.PortSatellite}, "spare": {Talks: true, Function: quad.PortNothing}, "untold": {Talks: true}}}
	if got := Answers(parts, nil); len(got) != 0 {
		t.Errorf("%v", got)
	}
}

// Where a device goes that was somewhere else, or nowhere: moved is what changes its place, fresh what had none, and the same place is neither.
func TestMovedAndFresh(t *testing.T) {
	for name, c := range map[string]struct {
		was          quad.Wire
		port, rail   string
		moved, fresh bool
	}{
		"the same":                  {quad.Wire{Port: "1", Rail: "five"}, "1", "five", false, false},
		"another port":              {quad.Wire{Port: "1", Rail: "five"}, "2", "five", true, false},
		"another rail":              {quad.Wire{Port: "1", Rail: "five"}, "1", "nine", true, false},
		"without a wire until now":  {quad.Wire{}, "2", "five", false, true},
		"a rail that nobody told":   {quad.Wire{Port: "1"}, "1", "five", false, true},
		"a rail of which none says": {quad.Wire{Port: "1", Rail: "five"}, "1", "", false, false},
	} {
		s := &solver{parts: quad.Parts{Wires: map[string]quad.Wire{"locator": c.was}}}
		rails := map[string]string{"locator": c.rail}
		got := s.plan([]string{"locator"}, map[string]string{"locator": c.port}, nil, rails)
		if len(got.Places) != 1 || got.Places[0].Moved != c.moved || got.Places[0].Fresh != c.fresh || got.Changes != boolean(c.moved) {
			t.Errorf("%s: %+v", name, got)
		}
	}
	s := &solver{parts: quad.Parts{Wires: map[string]quad.Wire{"locator": {Port: "1"}}}}
	s.parts.Board.Ports = map[string]quad.PortPart{"1": {Was: "a lamp"}, "2": {Was: "a sounder"}}
	if got := s.plan([]string{"locator"}, map[string]string{"locator": "2"}, nil, nil); len(got.Released) != 1 || got.Released[0] != (Freed{"2", "a sounder"}) {
		t.Errorf("what is given up for it: %+v", got.Released)
	}
	if got := s.plan([]string{"locator"}, map[string]string{"locator": "1"}, nil, nil); len(got.Released) != 0 {
		t.Errorf("where it stays: %+v", got.Released)
	}
}

// Why a set of devices cannot all be placed, told by what is scarce and by how many they are.
func TestWhyTheyCannotAllBePlaced(t *testing.T) {
	s := &solver{}
	said := map[string]bool{}
	for _, c := range []struct {
		over Scarce
		some []string
	}{{ScarceBuses, []string{"a", "b"}}, {ScarceRails, []string{"a"}}, {ScarceRails, []string{"a", "b"}}, {ScarcePorts, []string{"a"}}, {ScarcePorts, []string{"a", "b"}}} {
		said[s.why(c.over, c.some)] = true
	}
	if len(said) != 5 || !said["No port of this board can do what it needs."] || !said["No rail has its voltage, is as quiet as it wants, and has enough current with a fifth to spare."] {
		t.Errorf("%v", said)
	}
	if got := s.why(ScarceBuses, []string{"a"}); got != "Each bus holds one device of an address, and there are not buses enough." {
		t.Errorf("one on a bus: %q", got)
	}
}
