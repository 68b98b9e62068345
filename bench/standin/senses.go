package standin

import (
	"maps"
	"math"
	"strconv"

	"vividperch/bench/protocol"
	"vividperch/core/quad"
)

// KitSenses is what the quad's compass, satellite receiver and barometer are really like, and where it stands. Zero is a sound quad at a usual place.
type KitSenses struct {
	North       float64    `json:"north"`       // µT of the earth's field along the ground; 0 is 18
	Down        float64    `json:"down"`        // µT of it downward; 0 is 45
	Declination float64    `json:"declination"` // deg, east positive
	Aged        [3]float64 `json:"aged"`        // µT of its iron that came since its board last found it
	Warms       float64    `json:"warms"`       // m of height that it loses in its first minute, as it warms
	Lit         float64    `json:"lit"`         // m of height that sun on it makes and takes as clouds pass, in forty seconds
	Iron        [3]float64 `json:"iron"`        // µT that iron and wires on the quad add, in the compass's axes
	Soft        float64    `json:"soft"`        // share by which soft iron stretches the field along the compass's first axis, and shrinks it along its second
	Turned      float64    `json:"turned"`      // deg that the compass is turned on its mount, clockwise
	OnItsBack   bool       `json:"onItsBack"`   // of the compass
	Disturbs    float64    `json:"disturbs"`    // µT to the right for each ampere
	VideoPulls  float64    `json:"videoPulls"`  // µT ahead that the video transmitter's own current adds while it is on
	Noise       float64    `json:"noise"`       // µT, one sigma; 0 is 0.25
	Satellites  float64    `json:"satellites"`  // that it sees once it has looked long enough, the video off; 0 is 15
	VideoCosts  float64    `json:"videoCosts"`  // of them, while the video is on and the receiver stands as it was mounted
	Apart       float64    `json:"apart"`       // mm that it was mounted from the transmitter; 0 is 30
	Cold        float64    `json:"cold"`        // s from power-up in which it finds two thirds of them; 0 is 12
	Trembles    float64    `json:"trembles"`    // m of the height, one sigma; 0 is 0.12
	Drifts      float64    `json:"drifts"`      // m in five minutes
	Jumps       float64    `json:"jumps"`       // m as the motors spin up
}

func or(x, usual float64) float64 {
	if x == 0 {
		return usual
	}
	return x
}

// mountedApart is how far satellite receivers are usually mounted from a video transmitter, mm.
const mountedApart = 30.0

// everyWay is how long a hand takes to turn the quad through every direction, ms, and loops how often it goes round meanwhile.
const (
	everyWay = 16_000
	loops    = 11
)

// field of the earth in the quad's own axes, µT: as it is held and turned, or on the way through every direction.
func (d *Device) field() [3]float64 {
	k := d.kit.Senses
	north, down := or(k.North, 18), or(k.Down, 45)
	if d.sweep.active && d.sweep.kind.Every {
		f := math.Hypot(north, down)
		at := spiral(float64(d.now - d.sweep.from))
		return [3]float64{f * at[0], f * at[1], f * at[2]}
	}
	held := d.held()
	sy, cy := math.Sincos((d.nose - k.Declination) * math.Pi / 180)
	sp, cp := math.Sincos(held[1] * math.Pi / 180)
	sr, cr := math.Sincos(held[0] * math.Pi / 180)
	// Turned about down, then the nose up, then the right side down.
	ahead, right := north*cy, -north*sy
	ahead, down = ahead*cp-down*sp, ahead*sp+down*cp
	return [3]float64{ahead, right*cr + down*sr, down*cr - right*sr}
}

// spiral is the direction from which the field comes in as a hand turns the quad through every direction, so many ms after it began: down from the belly to
// the back, as even as a hand is.
func spiral(since float64) [3]float64 {
	at := max(0, min(1, since/everyWay))
	z := 1 - 2*at
	r, turn := math.Sqrt(max(0, 1-z*z)), 2*math.Pi*loops*at
	return [3]float64{r * math.Cos(turn), r * math.Sin(turn), z}
}

// spiralling is how the quad turns meanwhile, deg/s: of all rotations that bring the field along the spiral, the one with nothing about the field itself.
func spiralling(since float64) [3]float64 {
	a, b := spiral(since-1), spiral(since+1)
	f := spiral(since)
	v := [3]float64{(b[0] - a[0]) * 500, (b[1] - a[1]) * 500, (b[2] - a[2]) * 500} // 1/s
	return [3]float64{degrees(v[1]*f[2] - v[2]*f[1]), degrees(v[2]*f[0] - v[0]*f[2]), degrees(v[0]*f[1] - v[1]*f[0])}
}

// compass is what it shows, µT in its own axes.
func (d *Device) compass(amps float64) [3]float64 {
	k, f := d.kit.Senses, d.field()
	f[1] += k.Disturbs * amps
	if d.video && d.pack {
		f[0] += k.VideoPulls
	}
	s, c := math.Sincos(k.Turned * math.Pi / 180)
	out := [3]float64{c*f[0] + s*f[1], c*f[1] - s*f[0], f[2]}
	if k.OnItsBack {
		out[1], out[2] = -out[1], -out[2]
	}
	out[0], out[1] = out[0]*(1+k.Soft), out[1]*(1-k.Soft)
	for i := range out {
		out[i] += k.Iron[i] + or(k.Noise, 0.25)*d.chance.NormFloat64()
	}
	return out
}

// keeps settings that a board has found by itself.
func (d *Device) keeps(found map[string]string) { maps.Copy(d.settings, found) }

// hasZero says whether its settings hold one that was found on this board: then it is what the iron adds.
func (d *Device) hasZero() bool {
	return d.settings["compass-found"] == "1" || d.settings["CompassDone"] == "1"
}

// learning is what a board that is being turned has seen of its compass: the ends along each axis, which is all that it takes.
type learning struct {
	on        bool
	low, high [3]float64
}

// learns follows the compass while the hand turns it every way, and takes the middles between its ends for its zero in the end.
func (d *Device) learns(seen [3]float64) {
	turning := d.sweep.active && d.sweep.kind.Every
	l := &d.learned
	switch {
	case turning && !l.on:
		*l = learning{on: true, low: seen, high: seen}
	case turning:
		for i := range seen {
			l.low[i], l.high[i] = min(l.low[i], seen[i]), max(l.high[i], seen[i])
		}
	case l.on:
		l.on = false
		for i := range d.zero {
			d.zero[i] = (l.low[i] + l.high[i]) / 2
		}
		if of := familyOf(d.build.Line.Name).compasses; of != nil {
			d.keeps(of(d.zero))
		}
	}
}

// heading that the board makes of its compass, deg: level, less its zero, turned as it was told, with the declination that it was told.
func (d *Device) heading(shown [3]float64) float64 {
	x, y := shown[0]-d.zero[0], shown[1]-d.zero[1]
	return math.Mod(math.Atan2(-y, x)*180/math.Pi-d.means.figures["compass turned, deg"]+d.means.figures["declination, deg"]+720, 360)
}

// whereabouts is what the board's body learns of where it is, the count without what wanders about it.
func (d *Device) whereabouts() quad.PlaceActual {
	is := quad.PlaceActual{Horizontal: or(d.kit.Senses.North, 18), Satellites: 0, Dilution: 99}
	if d.means.satellite && d.pack && d.answers("satellite") {
		is.Satellites = int(max(0, math.Round(d.count())))
		is.Dilution = dilutionOf(is.Satellites)
		is.Fixed = is.Satellites >= 4
	}
	return is
}

// count of satellites that it would see now but for chance.
func (d *Device) count() float64 {
	k := d.kit.Senses
	n := or(k.Satellites, 15) * (1 - math.Exp(-float64(d.now-d.powered)/1000/or(k.Cold, 12)))
	if d.video {
		near := or(k.Apart, mountedApart) / d.apart
		n -= k.VideoCosts * near * near // as its field falls off
	}
	return n
}

func dilutionOf(satellites int) float64 {
	if satellites < 4 {
		return 99
	}
	return round(0.5+6/float64(satellites-2), 2)
}

// sky is how many satellites are seen now, and the horizontal dilution that comes of it.
func (d *Device) sky() (satellites int, dilution float64) {
	satellites = int(max(0, math.Round(d.count()+0.3*d.chance.NormFloat64())))
	return satellites, dilutionOf(satellites)
}

// finds shows what leans on the sky, the earth's field and the air's weight, as far as the board uses them.
func (d *Device) finds(out *protocol.Live, amps float64, turning bool) {
	if d.means.compass {
		shown := d.compass(amps)
		d.learns(shown)
		out.Compass = []float64{round(shown[0], 2), round(shown[1], 2), round(shown[2], 2)}
		out.Heading = round(d.heading(shown), 1)
	}
	if d.means.satellite && d.pack && d.answers("satellite") {
		out.Satellites, out.Dilution = d.sky()
	}
	if d.means.barometer {
		k := d.kit.Senses
		seconds := float64(d.now-d.powered) / 1000
		out.Height = k.Drifts*seconds/300 - k.Warms*(1-math.Exp(-seconds/25)) + k.Lit*math.Sin(2*math.Pi*seconds/40) + or(k.Trembles, 0.12)*d.chance.NormFloat64()
		if turning {
			out.Height += k.Jumps
		}
		out.Height = round(out.Height, 2)
	}
	out.Nose, out.Video, out.Apart = d.nose, d.video, d.apart
}

func spindriftCompasses(zero [3]float64) map[string]string {
	return map[string]string{"compass-zero": whole(10*zero[0]) + " " + whole(10*zero[1]) + " " + whole(10*zero[2]), "compass-found": "1"}
}

func shingleCompasses(zero [3]float64) map[string]string {
	two := func(x float64) string { return strconv.FormatFloat(math.Round(100*x)/100, 'f', -1, 64) }
	return map[string]string{"CompassX": two(zero[0]), "CompassY": two(zero[1]), "CompassZ": two(zero[2]), "CompassDone": "1"}
}
