package wiring

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"vividperch/core/quad"
)

func parts(ports ...quad.PortPart) quad.Parts {
	p := quad.Parts{Wires: map[string]quad.Wire{}, Devices: map[string]quad.Device{}}
	p.Board.Ports = map[string]quad.PortPart{}
	for i, x := range ports {
		p.Board.Ports[fmt.Sprint(i+1)] = x
	}
	return p
}

var whole = quad.PortPart{Send: true, Receive: true}

func plans(list ...quad.PortFunction) map[string]quad.PortPlan {
	out := map[string]quad.PortPlan{}
	for i, f := range list {
		out[fmt.Sprint(i+1)] = quad.PortPlan{Function: f}
	}
	return out
}

func TestClashes(t *testing.T) {
	usb := quad.PortPart{Send: true, Receive: true, USB: true}
	hearing := quad.PortPart{Receive: true}
	slow := quad.PortPart{Send: true, Receive: true, Most: 57.6}
	soft := quad.PortPart{Soft: true}
	receiver := quad.Device{Function: quad.PortReceiver, Talks: true}
	satellite := quad.Device{Function: quad.PortSatellite, Talks: true, Listens: true, Baud: 115.2}
	oneWire := quad.Device{Function: quad.PortTelemetry, OneWire: true}
	compass := quad.Device{Bus: true, Address: 13}
	for _, c := range []struct {
		name    string
		board   quad.Parts
		devices map[string]quad.Device
		wires   map[string]quad.Wire
		ports   map[string]quad.PortPlan
		want    string
	}{
		{"as it should be", parts(usb, whole), map[string]quad.Device{"receiver": receiver}, map[string]quad.Wire{"receiver": {Port: "2"}}, plans(quad.PortConfigure, quad.PortReceiver), ""},
		{"soldered to another port", parts(usb, whole, whole), map[string]quad.Device{"receiver": receiver}, map[string]quad.Wire{"receiver": {Port: "3"}}, plans(quad.PortConfigure, quad.PortReceiver, quad.PortNothing), "deaf receiver 3; nobody receiver 2; "},
		{"two ports for one receiver", parts(whole, whole), map[string]quad.Device{"receiver": receiver}, map[string]quad.Wire{"receiver": {Port: "1"}}, plans(quad.PortReceiver, quad.PortReceiver), "nobody receiver 2; twice receiver 2; "},
		{"nothing soldered", parts(whole, whole), nil, nil, plans(quad.PortNothing, quad.PortSatellite), "nobody satellite 2; "},
		{"not soldered at all", parts(whole), map[string]quad.Device{"satellite": satellite}, nil, plans(quad.PortNothing), "missing satellite ; "},
		{"two on one port", parts(whole), map[string]quad.Device{"a": receiver, "b": receiver}, map[string]quad.Wire{"a": {Port: "1"}, "b": {Port: "1"}}, plans(quad.PortReceiver), "shared b 1; "},
		{"output to output", parts(whole), map[string]quad.Device{"satellite": satellite}, map[string]quad.Wire{"satellite": {Port: "1", Out: "T1", In: "R1"}}, plans(quad.PortSatellite), "crossed satellite 1; "},
		{"on the plug", parts(usb), map[string]quad.Device{"receiver": receiver}, map[string]quad.Wire{"receiver": {Port: "1"}}, plans(quad.PortReceiver), "usb receiver 1; usb  1; "},
		{"the plug told otherwise", parts(usb), nil, nil, plans(quad.PortNothing), "usb  1; "},
		{"cannot send", parts(hearing), map[string]quad.Device{"satellite": satellite}, map[string]quad.Wire{"satellite": {Port: "1"}}, plans(quad.PortSatellite), "sends satellite 1; "},
		{"too slow", parts(slow), map[string]quad.Device{"satellite": satellite}, map[string]quad.Wire{"satellite": {Port: "1"}}, plans(quad.PortSatellite), "slow satellite 1; "},
		{"one wire on a port of two", parts(whole), map[string]quad.Device{"strip": oneWire}, map[string]quad.Wire{"strip": {Port: "1"}}, plans(quad.PortTelemetry), "oneWire strip 1; "},
		{"two wires on one pad", parts(soft), map[string]quad.Device{"satellite": {Function: quad.PortSatellite, Talks: true, Listens: true}}, map[string]quad.Wire{"satellite": {Port: "1"}}, plans(quad.PortSatellite), "oneWire satellite 1; "},
		{"one wire on one pad", parts(soft), map[string]quad.Device{"strip": oneWire}, map[string]quad.Wire{"strip": {Port: "1"}}, plans(quad.PortTelemetry), ""},
		{"too fast for software serial", parts(soft), map[string]quad.Device{"strip": {Function: quad.PortTelemetry, OneWire: true, Baud: 115.2}}, map[string]quad.Wire{"strip": {Port: "1"}}, plans(quad.PortTelemetry), "slow strip 1; "},
		{"two of one address", withBus(parts(), "1", "2"), map[string]quad.Device{"a": compass, "b": compass}, map[string]quad.Wire{"a": {Bus: "1"}, "b": {Bus: "1"}}, nil, "address b 1; "},
		{"two of one address on two buses", withBus(parts(), "1", "2"), map[string]quad.Device{"a": compass, "b": compass}, map[string]quad.Wire{"a": {Bus: "1"}, "b": {Bus: "2"}}, nil, ""},
		{"a bus that is not there", withBus(parts(), "1"), map[string]quad.Device{"a": compass}, map[string]quad.Wire{"a": {Bus: "3"}}, nil, "nobus a 3; "},
		{"several on one bus", withBus(parts(), "1"), map[string]quad.Device{"a": compass, "b": {Bus: true, Address: 118}}, map[string]quad.Wire{"a": {Bus: "1"}, "b": {Bus: "1"}}, nil, ""},
		{"a device that needs no port", parts(usb), map[string]quad.Device{"buzzer": {}}, map[string]quad.Wire{"buzzer": {Port: "9"}}, plans(quad.PortConfigure), ""},
	} {
		c.board.Devices, c.board.Wires = c.devices, c.wires
		got := ""
		for _, x := range Clashes(c.board, c.ports) {
			got += fmt.Sprintf("%s %s %s; ", x.Kind, x.Device, x.Port)
		}
		if got != c.want {
			t.Errorf("%s: %q, want %q", c.name, got, c.want)
		}
	}
}

func withBus(p quad.Parts, buses ...string) quad.Parts {
	p.Board.Buses = buses
	return p
}

// randomBoard with up to so many ports and devices, buses and rails, half of the devices soldered somewhere.
func randomBoard(r *rand.Rand, most int) quad.Parts {
	p := parts()
	yes := func(share float64) bool { return r.Float64() < share }
	for i := range 1 + r.IntN(most) {
		x := quad.PortPart{Inverts: yes(0.4), Send: yes(0.85), Receive: yes(0.85), OneWire: yes(0.2), Direct: yes(0.5), USB: i == 0 && yes(0.7)}
		if yes(0.3) {
			x.Most = []float64{57.6, 115.2, 460.8}[r.IntN(3)]
		}
		if yes(0.2) {
			x = quad.PortPart{Soft: true, Most: 57.6, Was: []string{"", "camera control"}[r.IntN(2)]}
		}
		p.Board.Ports[fmt.Sprint(i+1)] = x
	}
	p.Board.Rails = map[string]quad.Rail{"5V": {Volts: 5, Most: float64(300 + r.IntN(1500)), USB: true, Quiet: yes(0.5)}, "9V": {Volts: 9, Most: float64(300 + r.IntN(1500))}}
	p.Board.Buses = []string{"1", "2"}[:r.IntN(3)]
	functions := []quad.PortFunction{quad.PortReceiver, quad.PortSatellite, quad.PortVideo, quad.PortDisplay, quad.PortTelemetry}
	for i := range 1 + r.IntN(most) {
		d := quad.Device{Function: functions[r.IntN(len(functions))], Talks: yes(0.7), Listens: yes(0.6), Inverted: yes(0.2), Direct: yes(0.1), Quiet: yes(0.1), Draw: float64(20 + r.IntN(400)), Least: []float64{4.5, 4.5, 7}[r.IntN(3)], Most: []float64{5.5, 12}[r.IntN(2)]}
		if yes(0.15) {
			d.OneWire, d.Talks, d.Listens = true, false, false
		}
		if yes(0.3) {
			d.Baud = []float64{9.6, 57.6, 115.2, 420}[r.IntN(4)]
		}
		if yes(0.15) {
			d = quad.Device{Bus: true, Address: 10 + r.IntN(3)}
		}
		if d.Least > d.Most {
			d.Most = d.Least + 1
		}
		name := fmt.Sprint("device ", i)
		p.Devices[name] = d
		if yes(0.5) {
			w := quad.Wire{Rail: []string{"", "5V", "9V"}[r.IntN(3)]}
			if serial(d) {
				w.Port = fmt.Sprint(1 + r.IntN(len(p.Board.Ports)))
			} else if len(p.Board.Buses) > 0 {
				w.Bus = p.Board.Buses[r.IntN(len(p.Board.Buses))]
			}
			p.Wires[name] = w
		}
	}
	return p
}

// every assignment of some devices to places, tried one after the other: the fewest that are moved, or -1 when none works.
// It is written apart from the solver and knows nothing of how that searches.
func every(list, places []string, alone bool, now func(string) string, may func(device, place string, has map[string][]string) bool) int {
	fewest := -1
	has := map[string][]string{}
	var place func(i, moved int)
	place = func(i, moved int) {
		if i == len(list) {
			if fewest < 0 || moved < fewest {
				fewest = moved
			}
			return
		}
		for _, x := range places {
			if alone && len(has[x]) > 0 || !may(list[i], x, has) {
				continue
			}
			more := moved
			if was := now(list[i]); was != "" && was != x {
				more++
			}
			has[x] = append(has[x], list[i])
			place(i+1, more)
			has[x] = has[x][:len(has[x])-1]
		}
	}
	place(0, 0)
	return fewest
}

func bruteForce(p quad.Parts, only []string) (ports, buses, rails int) {
	devices := Devices(p)
	var serials, onBus, fed []string
	for _, n := range quad.SortedKeys(devices) {
		if only != nil && !slices.Contains(only, n) {
			continue
		}
		d := devices[n]
		if d.Bus {
			onBus = append(onBus, n)
		} else if d.Talks || d.Listens || d.OneWire {
			serials = append(serials, n)
		}
		if d.Most > 0 {
			fed = append(fed, n)
		}
	}
	ports = every(serials, quad.SortedKeys(p.Board.Ports), true, func(n string) string { return p.Wires[n].Port }, func(n, port string, _ map[string][]string) bool {
		d, x := devices[n], p.Board.Ports[port]
		if x.USB || d.Direct && !x.Direct || x.Most > 0 && d.Baud > x.Most || d.Inverted && !x.Inverts && !x.Soft {
			return false
		}
		if d.OneWire {
			return x.Soft || x.OneWire
		}
		if x.Soft {
			return !(d.Talks && d.Listens)
		}
		return (!d.Talks || x.Receive) && (!d.Listens || x.Send)
	})
	buses = every(onBus, p.Board.Buses, false, func(n string) string { return p.Wires[n].Bus }, func(n, bus string, has map[string][]string) bool {
		for _, other := range has[bus] {
			if devices[other].Address == devices[n].Address {
				return false
			}
		}
		return true
	})
	rails = every(fed, quad.SortedKeys(p.Board.Rails), false, func(n string) string { return p.Wires[n].Rail }, func(n, rail string, has map[string][]string) bool {
		sum := devices[n].Draw
		for _, other := range has[rail] {
			sum += devices[other].Draw
		}
		x := p.Board.Rails[rail]
		return (x.Quiet || !devices[n].Quiet) && x.Volts >= devices[n].Least && x.Volts <= devices[n].Most && sum*1.2 <= x.Most
	})
	return ports, buses, rails
}

// The solver finds a way whenever there is one, with the fewest devices moved, and else the smallest set that cannot be
// wired: against every assignment there is, on boards of up to 8 ports and 8 devices.
func TestSolveAgainstEveryAssignment(t *testing.T) {
	solved, stuck := 0, map[Scarce]int{}
	for seed := range uint64(800) {
		r := rand.New(rand.NewPCG(seed, 21))
		p := randomBoard(r, 8)
		plan, conflict, err := Solve(p)
		if err != nil {
			t.Fatal(err)
		}
		ports, buses, rails := bruteForce(p, nil)
		if possible := ports >= 0 && buses >= 0 && rails >= 0; possible != (plan != nil) {
			t.Fatalf("seed %d: possible %v, plan %+v, conflict %+v", seed, possible, plan, conflict)
		}
		if plan == nil {
			stuck[conflict.Over]++
			smallestOf(t, seed, p, conflict)
			continue
		}
		solved++
		q := p
		q.Wires = map[string]quad.Wire{}
		moved := [3]int{}
		for _, x := range plan.Places {
			was := p.Wires[x.Device]
			q.Wires[x.Device] = quad.Wire{Port: x.Port, Bus: x.Bus, Rail: x.Rail}
			for i, pair := range [][2]string{{was.Port, x.Port}, {was.Bus, x.Bus}, {was.Rail, x.Rail}} {
				if pair[0] != "" && pair[1] != "" && pair[0] != pair[1] {
					moved[i]++
				}
			}
		}
		if want := [3]int{ports, buses, rails}; moved != want {
			t.Errorf("seed %d: moves %v, %v are enough", seed, moved, want)
		}
		works(t, seed, q)
	}
	if solved < 120 || stuck[ScarcePorts] < 40 || stuck[ScarceRails] < 5 || stuck[ScarceBuses] < 5 {
		t.Errorf("%d solved, stuck %v: the boards do not try the solver", solved, stuck)
	}
}

// works says what still clashes when a plan is soldered and its ports are told so.
func works(t *testing.T, seed uint64, p quad.Parts) {
	t.Helper()
	plan := map[string]quad.PortPlan{}
	for name, part := range p.Board.Ports {
		if plan[name] = (quad.PortPlan{Function: quad.PortNothing}); part.USB {
			plan[name] = quad.PortPlan{Function: quad.PortConfigure}
		}
	}
	for name, w := range p.Wires {
		if w.Port != "" {
			plan[w.Port] = quad.PortPlan{Function: p.Devices[name].Function}
		}
	}
	for _, c := range Clashes(p, plan) {
		if c.Kind != "twice" { // two devices of one function are the builder's wish here
			t.Errorf("seed %d: the plan clashes: %+v", seed, c)
		}
	}
	for _, rail := range Rails(p) {
		if rail.Spare < 0 || len(rail.Wrong) > 0 {
			t.Errorf("seed %d: rail %+v", seed, rail)
		}
	}
}

func smallestOf(t *testing.T, seed uint64, p quad.Parts, c *Conflict) {
	t.Helper()
	stuckWith := func(list []string) bool {
		q := p
		q.Wires = nil
		ports, buses, rails := bruteForce(q, list)
		return map[Scarce]int{ScarcePorts: ports, ScarceBuses: buses, ScarceRails: rails}[c.Over] < 0
	}
	if !stuckWith(c.Devices) {
		t.Errorf("seed %d: %v are no conflict over a %s", seed, c.Devices, c.Over)
	}
	names := quad.SortedKeys(Devices(p))
	for set := range 1 << len(names) {
		var some []string
		for i, n := range names {
			if set>>i&1 == 1 {
				some = append(some, n)
			}
		}
		if len(some) < len(c.Devices) && len(some) > 0 && stuckWith(some) {
			t.Fatalf("seed %d: %v are fewer than %v and cannot be wired either", seed, some, c.Devices)
		}
	}
}

// 200 boards of eight ports and eight devices are planned in far under the promised 5 s.
func TestTwoHundredBoardsInTime(t *testing.T) {
	began := time.Now()
	for seed := range uint64(200) {
		p := randomBoard(rand.New(rand.NewPCG(seed, 33)), 8)
		if _, _, err := Solve(p); err != nil {
			t.Fatal(err)
		}
	}
	took := time.Since(began)
	t.Logf("200 boards in %v", took)
	if took > 5*time.Second {
		t.Errorf("200 boards took %v", took)
	}
}

func TestSolveRefusesWhatWouldTakeForEver(t *testing.T) {
	p := parts()
	for i := range 17 {
		p.Board.Ports[fmt.Sprint(i)] = whole
	}
	if _, _, err := Solve(p); quad.AsFault(err) == nil || quad.AsFault(err).Code != "too-many" {
		t.Errorf("17 ports: %v", err)
	}
}

// Software serial is a last resort, and its former use is released by name.
func TestSolvePrefersRealPorts(t *testing.T) {
	p := parts(quad.PortPart{Send: true, Receive: true, USB: true}, whole, quad.PortPart{Soft: true, Most: 57.6, Was: "camera control"})
	p.Devices = map[string]quad.Device{"receiver": {Function: quad.PortReceiver, Talks: true, Baud: 420}}
	plan, _, err := Solve(p)
	if err != nil || plan.Places[0].Port != "2" || len(plan.Released) != 0 {
		t.Fatalf("%+v, %v", plan, err)
	}
	p.Devices["strip"] = quad.Device{Function: quad.PortTelemetry, OneWire: true, Baud: 19.2}
	if plan, _, err = Solve(p); err != nil || plan.Places[1].Port != "3" || !slices.Equal(plan.Released, []Freed{{"3", "camera control"}}) {
		t.Fatalf("%+v, %v", plan, err)
	}
	p.Devices["strip"] = quad.Device{Function: quad.PortTelemetry, OneWire: true, Baud: 115.2}
	if plan, conflict, _ := Solve(p); plan != nil || conflict.Over != "port" || !slices.Equal(conflict.Devices, []string{"strip"}) {
		t.Errorf("too fast for software serial: %+v, %+v", plan, conflict)
	}
}

// Figures of the check table, and what follows from them.
func TestFieldOfLeads(t *testing.T) {
	close := func(what string, got, want, within float64) {
		t.Helper()
		if !(math.Abs(got-want) <= within) {
			t.Errorf("%s is %.4g, want %.4g", what, got, want)
		}
	}
	close("12 A at 6 cm, one wire, µT", FieldOfLead(12, 60), 40, 0.05)
	close("12 A at 6 cm, a pair 3 mm apart, µT", FieldOfPair(12, 3, 60), 2.0, 0.05)
	// A pair is the difference of its two wires, far away.
	close("the pair by its two wires, µT", FieldOfLead(12, 600)-FieldOfLead(12, 603), FieldOfPair(12, 3, 600), 0.0002)
	p := parts()
	p.BatteryLead.Spacing = 3
	p.Devices = map[string]quad.Device{"compass": {Bus: true, Magnetic: true, Apart: 60}}
	c := Compasses(p, quad.Limits{Field: 19}, 12)[0]
	close("at the compass, µT", c.Field, 2.0, 0.05)
	close("the field at the distance it needs, µT", FieldOfPair(12, 3, c.Needs), 1.9, 1e-9)
	p.BatteryLead.Spacing = 0
	c = Compasses(p, quad.Limits{}, 12)[0]
	close("one wire, the field at the distance it needs, µT", FieldOfLead(12, c.Needs), 2, 1e-9)
}

// The wire that is wrong is among the first two causes in nine of ten cases, and always among those that are told: one
// fault is made on a board, what answers is worked out, and the faults are asked back from that alone.
func TestWhichFindsTheWrongWire(t *testing.T) {
	base := parts(quad.PortPart{Send: true, Receive: true, USB: true}, whole, whole, whole, whole)
	base.Devices = map[string]quad.Device{
		"receiver":  {Function: quad.PortReceiver, Talks: true, Listens: true},
		"satellite": {Function: quad.PortSatellite, Talks: true, Listens: true},
		"goggles":   {Function: quad.PortDisplay, Talks: true, Listens: true},
	}
	base.Wires = map[string]quad.Wire{"receiver": {Port: "2", Rail: "5V"}, "satellite": {Port: "3", Rail: "5V"}, "goggles": {Port: "4", Rail: "9V"}}
	plan := plans(quad.PortConfigure, quad.PortReceiver, quad.PortSatellite, quad.PortDisplay, quad.PortNothing)
	if got := Which(base, plan, Answers(base, plan)); len(got) != 0 {
		t.Errorf("when all answer, suspects are %v", got)
	}
	faults := map[string]func(map[string]quad.Wire){
		"satellite crossed": func(w map[string]quad.Wire) { w["satellite"] = quad.Wire{Port: "3", Out: "T3", In: "R3", Rail: "5V"} },
		"satellite off":     func(w map[string]quad.Wire) { w["satellite"] = quad.Wire{Port: "3", Out: "-", In: "-", Rail: "5V"} },
		"satellite supply":  func(w map[string]quad.Wire) { w["satellite"] = quad.Wire{Port: "3", Rail: "-"} },
		"goggles neighbour": func(w map[string]quad.Wire) { w["goggles"] = quad.Wire{Port: "4", Out: "R5", Rail: "9V"} },
		"receiver exchanged": func(w map[string]quad.Wire) {
			w["receiver"], w["satellite"] = quad.Wire{Port: "3"}, quad.Wire{Port: "2"}
		},
		"satellite exchanged": func(w map[string]quad.Wire) {
			w["satellite"], w["goggles"] = quad.Wire{Port: "4"}, quad.Wire{Port: "3"}
		},
	}
	first := 0
	for name, make := range faults {
		q := base
		q.Wires = map[string]quad.Wire{}
		for k, v := range base.Wires {
			q.Wires[k] = v
		}
		make(q.Wires)
		suspects := Which(base, plan, Answers(q, plan))
		i := slices.IndexFunc(suspects, func(s Suspect) bool {
			return s.Device+" "+s.Kind == name || s.Kind == "exchanged" && fmt.Sprintf("%s exchanged", s.Device) == name || s.Kind == "exchanged" && name == "satellite exchanged" && s.Device == "goggles"
		})
		if i < 0 {
			t.Errorf("%s: not among %v", name, suspects)
		}
		if i == 0 {
			first++
		}
		for _, s := range suspects {
			if s.Says == "" || s.Test == "" || s.Share <= 0 || s.Share > 1 {
				t.Errorf("%s: %+v", name, s)
			}
		}
	}
	if first < 3 { // of one silent device the causes cannot be told apart from here; the likeliest comes first
		t.Errorf("only %d of %d come first", first, len(faults))
	}
	plan["3"] = quad.PortPlan{Function: quad.PortNothing}
	if got := Which(base, plan, map[string]bool{"receiver": true, "satellite": false}); len(got) != 1 || got[0].Kind != "told" {
		t.Errorf("a port that is told nothing: %v", got)
	}
}

// A device on a rail: what it takes, what the rail gives, with a fifth to spare, each just inside and just outside.
func TestRails(t *testing.T) {
	for _, c := range []struct {
		name   string
		device quad.Device
		rail   quad.Rail
		cells  int
		wrong  bool
		spare  float64
	}{
		{"takes what there is", quad.Device{Least: 4.5, Most: 5.5, Draw: 800}, quad.Rail{Volts: 5, Most: 960}, 0, false, 0},
		{"one milliampere too little left", quad.Device{Least: 4.5, Most: 5.5, Draw: 800}, quad.Rail{Volts: 5, Most: 959}, 0, false, -1},
		{"just enough volts", quad.Device{Least: 5, Most: 9}, quad.Rail{Volts: 5, Most: 1000}, 0, false, 1000},
		{"a hundredth too few", quad.Device{Least: 5.01, Most: 9}, quad.Rail{Volts: 5, Most: 1000}, 0, true, 1000},
		{"just not too many", quad.Device{Least: 3, Most: 5}, quad.Rail{Volts: 5, Most: 1000}, 0, false, 1000},
		{"a hundredth too many", quad.Device{Least: 3, Most: 4.99}, quad.Rail{Volts: 5, Most: 1000}, 0, true, 1000},
		{"noisy where it wants quiet", quad.Device{Least: 3, Most: 6, Quiet: true}, quad.Rail{Volts: 5, Most: 1000}, 0, true, 1000},
		{"quiet where it wants quiet", quad.Device{Least: 3, Most: 6, Quiet: true}, quad.Rail{Volts: 5, Most: 1000, Quiet: true}, 0, false, 1000},
		{"the pack's own rail, a full pack just taken", quad.Device{Least: 13.2, Most: 16.8}, quad.Rail{Most: 1000}, 4, false, 1000},
		{"a full pack too much", quad.Device{Least: 13.2, Most: 16.7}, quad.Rail{Most: 1000}, 4, true, 1000},
		{"an empty pack too little", quad.Device{Least: 13.3, Most: 16.8}, quad.Rail{Most: 1000}, 4, true, 1000},
		{"the pack's own rail without a pack", quad.Device{Least: 3, Most: 30}, quad.Rail{Most: 1000}, 0, true, 1000},
	} {
		p := parts(whole)
		c.device.Function = quad.PortVideo
		p.Devices["camera"] = c.device
		p.Wires["camera"] = quad.Wire{Port: "1", Rail: "x"}
		p.Board.Rails = map[string]quad.Rail{"x": c.rail, "other": {Volts: 5, Most: 500}}
		if c.cells > 0 {
			p.Packs = map[string]quad.Pack{"grey": {Cells: c.cells}}
		}
		for _, s := range Rails(p) {
			if s.Rail == "other" {
				if len(s.Devices)+len(s.Wrong) > 0 {
					t.Errorf("%s: %v hang on the other rail", c.name, s.Devices)
				}
				continue
			}
			if got := slices.Contains(s.Wrong, "camera"); got != c.wrong || !(math.Abs(s.Spare-c.spare) <= 1e-9) || !slices.Equal(s.Devices, []string{"camera"}) {
				t.Errorf("%s: wrong %v, spare %v mA, on it %v", c.name, got, s.Spare, s.Devices)
			}
		}
	}
}
