package power

import (
	"math"

	"vividperch/core/quad"
)

// ComesOn is one device that comes on, and what the lead then carries.
type ComesOn struct {
	Device string  `json:"device"`
	Adds   float64 `json:"adds" unit:"A"` // from the pack
	Sum    float64 `json:"sum" unit:"A"`
}

// regulator is the share of what a rail takes from the pack that comes out of it.
const regulator = 0.85

// usualCell is a cell's voltage while a quad is on the bench, V.
const usualCell = 3.8

// Steps of current as the devices of a quad come on one after the other, from its board on: each draws from the pack what its data has, or what its rail's regulator takes for it.
// What draws nothing that anybody told is left out.
func Steps(p quad.Parts) []ComesOn {
	out := []ComesOn{}
	add := func(device string, amps float64) {
		if amps > 0 {
			sum := amps
			if len(out) > 0 {
				sum += out[len(out)-1].Sum
			}
			out = append(out, ComesOn{device, amps, sum})
		}
	}
	add("board", p.Board.IdleDraw/1000)
	add("speed controllers", p.SpeedController.IdleDraw/1000)
	add("receiver", p.Receiver.IdleDraw/1000)
	if p.Video.Fitted {
		add("video transmitter", p.Video.IdleDraw/1000)
	}
	_, pack, _ := p.Heaviest()
	volts := usualCell * float64(pack.Cells)
	for _, name := range quad.SortedKeys(p.Devices) {
		if name == "receiver" && p.Receiver.IdleDraw > 0 || name == "video" && p.Video.IdleDraw > 0 {
			continue // told of itself
		}
		amps := p.Devices[name].Draw / 1000
		if rail := p.Board.Rails[p.Wires[name].Rail]; rail.Volts > 0 && volts > rail.Volts {
			amps *= rail.Volts / (regulator * volts)
		}
		add(name, amps)
	}
	return out
}

// IdleCurrent is what the whole quad should draw at rest, disarmed, in A.
func IdleCurrent(p quad.Parts) float64 {
	list := Steps(p)
	if len(list) == 0 {
		return 0
	}
	return list[len(list)-1].Sum
}

// Deviation is where the current first goes another way than it should.
type Deviation struct {
	Step  int    `json:"step"` // from 0
	Words string `json:"words"`
}

// littleStep is what no meter in series tells from nothing, A.
const littleStep = 0.015

// FirstDeviation looks through what was measured (A) as the devices came on, in their order, and names the first that draws what it should not: as much more or less that the later ones
// cannot be judged. ok is false where all of it is as expected.
func FirstDeviation(steps []ComesOn, measured []float64) (d Deviation, ok bool) {
	before := 0.0
	for i := range min(len(steps), len(measured)) {
		adds, want := measured[i]-before, steps[i].Adds
		before = measured[i]
		much, little := adds > want*IdleFix+littleStep, adds < want*0.5-littleStep
		name := "the " + steps[i].Device
		switch {
		case much && adds > want*IdleStop+littleStep:
			return Deviation{i, quad.Upper(name) + " draws " + quad.Quantity(round(adds), "A") + " where " + quad.Quantity(round(want), "A") + " is expected. Power off now: look for bridged pads and wrong polarity at its supply, then try it on a supply of its own."}, true
		case much:
			return Deviation{i, quad.Upper(name) + " draws " + quad.Quantity(round(adds), "A") + " where " + quad.Quantity(round(want), "A") + " is expected. Feel whether it or its regulator gets warm; leave it off and go on with the next."}, true
		case little:
			return Deviation{i, quad.Upper(name) + " hardly draws anything: " + quad.Quantity(round(math.Max(0, adds)), "A") + " where " + quad.Quantity(round(want), "A") + " is expected. Is it fed, and the right way round?"}, true
		}
	}
	return Deviation{}, false
}

func round(x float64) float64 { return math.Round(100*x) / 100 }
