package wiring

import (
	"math"
	"math/bits"
	"slices"

	"vividperch/core/quad"
)

// Plan is a way to wire a quad that works.
type Plan struct {
	Places []Placed `json:"places"` // by device
	// Changes is the number of devices that must be moved from where they are soldered now.
	Changes int `json:"changes"`
	// Released lists the pads that lose what they did before, to become software serial.
	Released []Freed `json:"released"`
}

// Placed is where a device goes.
type Placed struct {
	Device string `json:"device"`
	Port   string `json:"port"`
	Bus    string `json:"bus"`
	Rail   string `json:"rail"`
	Moved  bool   `json:"moved"` // from where it is soldered now
	Fresh  bool   `json:"fresh"` // it was not soldered before
}

// Freed is a pad that loses what it did before.
type Freed struct {
	Pad string `json:"pad"`
	Was string `json:"was"`
}

// Scarce is what there is not enough of.
type Scarce string

const (
	ScarcePorts Scarce = "port"
	ScarceBuses Scarce = "bus"
	ScarceRails Scarce = "rail"
)

// Conflict is the smallest set of devices that cannot all be wired.
type Conflict struct {
	Over    Scarce   `json:"over" enum:"port,bus,rail"`
	Devices []string `json:"devices"`
	Why     string   `json:"why"`
}

// most ports and devices that are solved for: beyond, the search would take more than a moment.
const (
	mostPorts   = 16
	mostDevices = 16
)

// Solve finds where every device can be wired so that each gets what it needs, with the fewest devices moved; when there
// is none, the smallest set of devices that stand in each other's way. It finds an assignment whenever one exists: ports
// by dynamic programming over the sets of taken ports, buses and rails by search. Among plans of equally few changes the
// one with the fewest software ports wins, then the lower ports.
//
// More than 16 ports or devices are a Fault.
func Solve(p quad.Parts) (*Plan, *Conflict, error) {
	devices := Devices(p)
	names := quad.SortedKeys(devices)
	if len(names) > mostDevices || len(p.Board.Ports) > mostPorts {
		return nil, nil, quad.Faultf("too-many", "parts.board.ports", "more than %d ports or %d devices cannot be planned", mostPorts, mostDevices)
	}
	s := solver{parts: p, devices: devices, ports: quad.SortedKeys(p.Board.Ports), rails: quad.SortedKeys(p.Board.Rails)}
	var serials, buses, fed []string
	for _, n := range names {
		d := devices[n]
		switch {
		case d.Bus:
			buses = append(buses, n)
		case serial(d):
			serials = append(serials, n)
		}
		if d.Most > 0 {
			fed = append(fed, n)
		}
	}
	onPort, ok := s.assignPorts(serials)
	if !ok {
		return nil, s.smallest(ScarcePorts, serials, func(list []string) bool { _, ok := s.assignPorts(list); return ok }), nil
	}
	onBus, ok := s.assign(buses, p.Board.Buses, func(n string) string { return p.Wires[n].Bus }, s.busTakes)
	if !ok {
		return nil, s.smallest(ScarceBuses, buses, func(list []string) bool {
			_, ok := s.assign(list, p.Board.Buses, func(string) string { return "" }, s.busTakes)
			return ok
		}), nil
	}
	onRail, ok := s.assign(fed, s.rails, func(n string) string { return p.Wires[n].Rail }, s.railTakes)
	if !ok {
		return nil, s.smallest(ScarceRails, fed, func(list []string) bool {
			_, ok := s.assign(list, s.rails, func(string) string { return "" }, s.railTakes)
			return ok
		}), nil
	}
	return s.plan(names, onPort, onBus, onRail), nil, nil
}

type solver struct {
	parts   quad.Parts
	devices map[string]quad.Device
	ports   []string
	rails   []string
}

// assignPorts gives every device a port of its own, at the least cost.
func (s *solver) assignPorts(list []string) (map[string]string, bool) {
	const impossible = math.MaxInt32
	states := 1 << len(s.ports)
	best, from := make([]int, states), make([][]int8, len(list)+1)
	for i := range best {
		best[i] = impossible
	}
	best[0] = 0
	for k, name := range list {
		next := make([]int, states)
		from[k+1] = make([]int8, states)
		for i := range next {
			next[i] = impossible
		}
		for taken, cost := range best {
			if cost == impossible || bits.OnesCount(uint(taken)) != k {
				continue
			}
			for i, port := range s.ports {
				with := taken | 1<<i
				if with == taken {
					continue
				}
				c, ok := s.cost(name, port)
				if ok && cost+c < next[with] {
					next[with] = cost + c
					from[k+1][with] = int8(i)
				}
			}
		}
		best = next
	}
	end, least := -1, impossible
	for taken, cost := range best {
		if cost < least {
			end, least = taken, cost
		}
	}
	if end < 0 {
		return nil, false
	}
	out := map[string]string{}
	for k := len(list); k > 0; k-- {
		i := from[k][end]
		out[list[k-1]] = s.ports[i]
		end &^= 1 << i
	}
	return out, true
}

// cost of a device on a port: a move outweighs everything, then software serial, then what a pad did before.
func (s *solver) cost(device, port string) (int, bool) {
	p := s.parts.Board.Ports[port]
	if cannot(s.devices[device], p) != "" {
		return 0, false
	}
	cost := slices.Index(s.ports, port)
	if p.Soft {
		cost += 1000
	}
	if p.Was != "" {
		cost += 500
	}
	if now := s.parts.Wires[device].Port; now != "" && now != port {
		cost += 100_000
	}
	return cost, true
}

// assign every device one of some places that several may share, with the fewest moved; takes says whether a place can
// hold one more beside those it has.
func (s *solver) assign(list, places []string, now func(string) string, takes func(place string, has []string, device string) bool) (map[string]string, bool) {
	var best map[string]string
	fewest := math.MaxInt
	has := map[string][]string{}
	at := map[string]string{}
	// The most demanding first: it fails early.
	order := slices.Clone(list)
	slices.SortStableFunc(order, func(a, b string) int { return int(s.devices[b].Draw - s.devices[a].Draw) })
	var try func(i, moved int)
	try = func(i, moved int) {
		if moved >= fewest {
			return
		}
		if i == len(order) {
			fewest, best = moved, map[string]string{}
			for k, v := range at {
				best[k] = v
			}
			return
		}
		d := order[i]
		// Where it is now is tried first.
		tries := slices.Clone(places)
		slices.SortStableFunc(tries, func(a, b string) int { return boolean(b == now(d)) - boolean(a == now(d)) })
		for _, place := range tries {
			if !takes(place, has[place], d) {
				continue
			}
			has[place] = append(has[place], d)
			at[d] = place
			try(i+1, moved+boolean(now(d) != "" && now(d) != place))
			has[place] = has[place][:len(has[place])-1]
		}
	}
	try(0, 0)
	return best, best != nil
}

func boolean(b bool) int {
	if b {
		return 1
	}
	return 0
}

func (s *solver) busTakes(_ string, has []string, device string) bool {
	return !slices.ContainsFunc(has, func(other string) bool { return s.devices[other].Address == s.devices[device].Address })
}

func (s *solver) railTakes(rail string, has []string, device string) bool {
	draws := s.devices[device].Draw
	for _, other := range has {
		draws += s.devices[other].Draw
	}
	return railSuits(s.parts, rail, s.devices[device]) && Spare(s.parts.Board.Rails[rail], draws) >= 0
}

// smallest set among devices that cannot all be placed: searched by size, so that none smaller exists.
func (s *solver) smallest(over Scarce, list []string, fits func([]string) bool) *Conflict {
	for size := 1; size <= len(list); size++ {
		for set := range 1 << len(list) {
			if bits.OnesCount(uint(set)) != size {
				continue
			}
			var some []string
			for i, name := range list {
				if set>>i&1 == 1 {
					some = append(some, name)
				}
			}
			if !fits(some) {
				return &Conflict{Over: over, Devices: some, Why: s.why(over, some)}
			}
		}
	}
	return nil
}

func (s *solver) why(over Scarce, some []string) string {
	switch {
	case over == ScarceBuses:
		return "Each bus holds one device of an address, and there are not buses enough."
	case over == ScarceRails && len(some) == 1:
		return "No rail has its voltage, is as quiet as it wants, and has enough current with a fifth to spare."
	case over == ScarceRails:
		return "The rails that suit them do not give enough current for all of them, with a fifth to spare."
	case len(some) == 1:
		return "No port of this board can do what it needs."
	}
	return "There are fewer ports that can do what they need than there are of them."
}

func (s *solver) plan(names []string, onPort, onBus, onRail map[string]string) *Plan {
	out := &Plan{Places: []Placed{}, Released: []Freed{}}
	for _, n := range names {
		w := s.parts.Wires[n]
		pl := Placed{Device: n, Port: onPort[n], Bus: onBus[n], Rail: onRail[n]}
		if pl.Rail == "" {
			pl.Rail = w.Rail // what says nothing of its supply stays on the rail it has
		}
		differs := func(now, then string) bool { return now != "" && then != "" && now != then }
		pl.Moved = differs(w.Port, pl.Port) || differs(w.Bus, pl.Bus) || differs(w.Rail, pl.Rail)
		pl.Fresh = w.Port == "" && pl.Port != "" || w.Bus == "" && pl.Bus != "" || w.Rail == "" && pl.Rail != ""
		out.Changes += boolean(pl.Moved)
		if p := s.parts.Board.Ports[pl.Port]; p.Was != "" && w.Port != pl.Port {
			out.Released = append(out.Released, Freed{Pad: pl.Port, Was: p.Was})
		}
		out.Places = append(out.Places, pl)
	}
	return out
}
