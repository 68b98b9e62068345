package standin

import (
	"math"

	"vividperch/bench/protocol"
)

// KitAccel is what the quad's accelerometer is really like, in its own axes ahead, right and down. Zero is a sound one.
type KitAccel struct {
	Offset [3]float64 `json:"offset"` // g
	Gain   [3]float64 `json:"gain"`   // share by which an axis shows too much
	Cross  float64    `json:"cross"`  // share that its first axis has of its second
	Noise  float64    `json:"noise"`  // g, one sigma; 0 is 0.003
}

// KitBench is how the bench top leans that the plate stands on, deg, seen with the nose to the north. Zero is level.
type KitBench struct {
	Roll  float64 `json:"roll"`
	Pitch float64 `json:"pitch"`
}

// faceTime is how long the hand lays it on a face, and laying how much of that the way there takes, ms.
const (
	faceTime = 2_600
	laying   = 700
)

// faces as the hand lays it on them, deg of roll and pitch: belly, back, right side, left side, nose, tail.
var faces = [6][2]float64{{0, 0}, {180, 0}, {90, 0}, {-90, 0}, {0, -90}, {0, 90}}

// facesInOrder is the order in which the hand takes them, another each time.
func (d *Device) facesInOrder() [6]int {
	out := [6]int{0, 1, 2, 3, 4, 5}
	for i := 5; i > 0; i-- {
		j := int(d.sweep.from+int64(7*i)) % (i + 1)
		out[i], out[j] = out[j], out[i]
	}
	return out
}

// laid is how it lies on the way through its six faces.
func (d *Device) laid() [2]float64 {
	since := d.now - d.sweep.from
	k := min(5, int(since/faceTime))
	order := d.facesInOrder()
	to, from := faces[order[k]], [2]float64{}
	if k > 0 {
		from = faces[order[k-1]]
	}
	share := math.Min(1, float64(since-int64(k)*faceTime)/laying)
	return [2]float64{from[0] + share*(to[0]-from[0]), from[1] + share*(to[1]-from[1])}
}

// shim the plate: what is put under a side stays there when the quad is turned on it.
func (d *Device) shimmed(s protocol.Shims) error {
	if !(s.Across >= 10 && s.Across <= 2000 && s.Along >= 10 && s.Along <= 2000) {
		return refuse("a plate is 10 to 2000 mm wide and long")
	}
	roll, pitch := degrees(math.Atan(s.Roll/s.Across)), degrees(math.Atan(s.Pitch/s.Along))
	sin, cos := math.Sincos(d.nose * math.Pi / 180)
	d.shims = [2]float64{cos*roll - sin*pitch, sin*roll + cos*pitch}
	return nil
}

// plate is how the plate leans, with its shims, seen from the quad as its nose points, deg of roll and pitch.
func (d *Device) plate() [2]float64 {
	roll, pitch := d.kit.Bench.Roll+d.shims[0], d.kit.Bench.Pitch+d.shims[1]
	if roll == 0 && pitch == 0 {
		return [2]float64{}
	}
	sin, cos := math.Sincos(d.nose * math.Pi / 180)
	return [2]float64{cos*roll + sin*pitch, cos*pitch - sin*roll}
}

func degrees(radians float64) float64 { return radians * 180 / math.Pi }

// specific is what holds it up, g, along the axes of the accelerometer.
func (d *Device) specific(held [2]float64) [3]float64 {
	sr, cr := math.Sincos(held[0] * math.Pi / 180)
	sp, cp := math.Sincos(held[1] * math.Pi / 180)
	return d.turnedTo.Turn([3]float64{sp, -cp * sr, -cp * cr})
}

// accel is what it shows of that, without its noise, less what the board was told of its faces.
func (d *Device) accel(held [2]float64) [3]float64 {
	is, k := d.specific(held), &d.kit.Accel
	out := is
	out[0] += k.Cross * is[1]
	for i := range out {
		out[i] = out[i]*(1+k.Gain[i]) + k.Offset[i]
		out[i] = (out[i] - d.facesTold.zero[i]) / or(d.facesTold.gain[i], 1)
	}
	return out
}

// lean that the accelerometer's own errors add to what a board shows, deg of roll and pitch.
func (d *Device) accelLeans(held [2]float64) (roll, pitch float64) {
	k := &d.kit.Accel
	if k.Offset == [3]float64{} && k.Gain == [3]float64{} && k.Cross == 0 {
		return 0, 0
	}
	angle := func(v [3]float64) (float64, float64) {
		return degrees(math.Atan2(-v[1], -v[2])), degrees(math.Atan2(v[0], math.Hypot(v[1], v[2])))
	}
	r, p := angle(d.accel(held))
	isR, isP := angle(d.specific(held))
	return math.Remainder(r-isR, 360), p - isP
}

// toldFaces is what the board holds of its accelerometer's six faces.
type toldFaces struct{ zero, gain [3]float64 }

// learnsFaces follows an accelerometer that is laid on all six faces and takes the ends along each axis for 1 g, where its family wants that.
func (d *Device) learnsFaces() {
	l := &d.faced
	since := d.now - d.sweep.from
	on := d.sweep.active && d.sweep.kind.Faces
	switch {
	case on && !l.on:
		*l = learning{on: true}
	case on && since%faceTime > laying+200:
		shown := d.accel(d.held())
		for i := range shown {
			l.low[i], l.high[i] = min(l.low[i], shown[i]), max(l.high[i], shown[i])
		}
	case l.on && !on:
		d.concludesFaces()
	}
}

// concludesFaces takes in what it saw of its faces, where it saw them all: the hand lets go, or begins something else.
func (d *Device) concludesFaces() {
	l := &d.faced
	of := familyOf(d.build.Line.Name).faces
	if !l.on || of == nil || d.now-d.sweep.from < 5*faceTime+laying+300 {
		l.on = false
		return
	}
	l.on = false
	for i := range l.low {
		was := or(d.facesTold.gain[i], 1)
		d.facesTold.zero[i] += was * (l.low[i] + l.high[i]) / 2
		d.facesTold.gain[i] = was * (l.high[i] - l.low[i]) / 2
	}
	d.keeps(of(d.facesTold))
}
