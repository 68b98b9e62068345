package wiring

import (
	"math"

	"vividperch/core/quad"
)

// toSpare is the share of a rail's current that must stay free.
const toSpare = 0.2

// Spare current of a rail that gives draws, mA, when a fifth is kept free; negative when it is too much.
func Spare(r quad.Rail, draws float64) float64 { return r.Most - draws*(1+toSpare) }

// railSuits says whether a rail has a voltage that a device takes, and is quiet where that is wanted. The pack's own rail has what its cells give, from
// 3.3 to 4.2 V each.
func railSuits(p quad.Parts, rail string, d quad.Device) bool {
	r, ok := p.Board.Rails[rail]
	if !ok {
		return false
	}
	if d.Quiet && !r.Quiet {
		return false
	}
	if r.Volts > 0 {
		return r.Volts >= d.Least && r.Volts <= d.Most
	}
	for _, pack := range p.Packs {
		if 3.3*float64(pack.Cells) < d.Least || 4.2*float64(pack.Cells) > d.Most {
			return false
		}
	}
	return len(p.Packs) > 0
}

// RailState is a rail with what hangs on it.
type RailState struct {
	Rail    string   `json:"rail"`
	Volts   float64  `json:"volts" unit:"V"`
	Most    float64  `json:"most" unit:"mA"`
	Draws   float64  `json:"draws" unit:"mA"`
	Spare   float64  `json:"spare" unit:"mA"` // with a fifth kept free; negative is too much
	USB     bool     `json:"usb"`
	Devices []string `json:"devices"`
	Wrong   []string `json:"wrong"` // devices that do not take its voltage or its noise
}

// Rails of a quad, in order.
func Rails(p quad.Parts) []RailState {
	devices := Devices(p)
	out := []RailState{}
	for _, name := range quad.SortedKeys(p.Board.Rails) {
		r := p.Board.Rails[name]
		s := RailState{Rail: name, Volts: r.Volts, Most: r.Most, USB: r.USB, Devices: []string{}, Wrong: []string{}}
		for _, device := range quad.SortedKeys(devices) {
			if p.Wires[device].Rail != name {
				continue
			}
			s.Devices = append(s.Devices, device)
			s.Draws += devices[device].Draw
			if devices[device].Most > 0 && !railSuits(p, name, devices[device]) {
				s.Wrong = append(s.Wrong, device)
			}
		}
		s.Spare = Spare(r, s.Draws)
		out = append(out, s)
	}
	return out
}

const mu0over2Pi = 0.2 // µT·m/A: mu0 / 2 pi

// FieldOfLead is the field of one straight wire at a distance, µT: B = mu0 I / (2 pi r). Current in A, distance in mm.
func FieldOfLead(current, distance float64) float64 { return mu0over2Pi * current / (distance / 1000) }

// FieldOfPair is about the field of two parallel wires that carry the same current out and back, µT, far from them:
// B = mu0 I s / (2 pi r²), r from the nearer wire. Current in A, spacing and distance in mm.
func FieldOfPair(current, spacing, distance float64) float64 {
	r := distance / 1000
	return mu0over2Pi * current * (spacing / 1000) / (r * r)
}

// twistedShare of a pair's field that is left when it is twisted: neighbouring turns undo each other.
const twistedShare = 0.1

// CompassState is the field that the battery lead makes at a device with a compass.
type CompassState struct {
	Device string  `json:"device"`
	Field  float64 `json:"field" unit:"µT"` // at hover current
	Site   float64 `json:"site" unit:"µT"`  // horizontal, of the earth
	Apart  float64 `json:"apart" unit:"mm"`
	Needs  float64 `json:"needs" unit:"mm"` // distance at which it stays under a tenth of the site's
}

// Compasses of a quad at a current through its battery lead, A.
func Compasses(p quad.Parts, l quad.Limits, current float64) []CompassState {
	devices := Devices(p)
	site := l.FieldThere()
	share := 1.0
	if p.BatteryLead.Twisted {
		share = twistedShare
	}
	out := []CompassState{}
	for _, name := range quad.SortedKeys(devices) {
		d := devices[name]
		if !d.Magnetic {
			continue
		}
		c := CompassState{Device: name, Site: site, Apart: d.Apart}
		s := p.BatteryLead.Spacing
		if s > 0 {
			c.Needs = 1000 * math.Sqrt(share*mu0over2Pi*current*s/1000/(site/10))
		} else {
			c.Needs = 1000 * mu0over2Pi * current / (site / 10) // nothing is known of its pair: as one wire
		}
		switch {
		case d.Apart <= 0:
		case s > 0:
			c.Field = share * FieldOfPair(current, s, d.Apart)
		default:
			c.Field = FieldOfLead(current, d.Apart)
		}
		out = append(out, c)
	}
	return out
}

// satelliteFromVideo is how far a satellite receiver should be from a video transmitter, mm: a builder's figure, because the
// satellites are a millionth of a millionth of what the transmitter sends beside it.
const satelliteFromVideo = 50.0

// NearVideo lists the satellite receivers that are noted nearer to the video transmitter than they should be, and how far
// that is, mm.
func NearVideo(p quad.Parts) (near []string, needs float64) {
	devices := Devices(p)
	for _, name := range quad.SortedKeys(devices) {
		if d := devices[name]; d.Function == quad.PortSatellite && d.Video > 0 && d.Video < satelliteFromVideo {
			near = append(near, name)
		}
	}
	return near, satelliteFromVideo
}
