package standin

import (
	"math"
	"strconv"
	"strings"

	"vividperch/core/firmware"
	"vividperch/core/flight"
	"vividperch/core/quad"
)

// meaning is what the raw settings of a line make the board do. It is written here a second time, apart from
// the dictionaries, so that a wrong unit in one of them shows.
type meaning struct {
	control               flight.Settings
	ports                 map[string]string
	bauds                 map[string]float64 // kBd, by port
	language              string             // frame, both or train
	strength              string             // none, channel, pin or frame
	strengthOn            int
	inverted              bool
	telemetry             bool
	beeper                quad.Range
	cells                 int
	warn                  float64 // V per cell
	land                  float64
	scale                 float64 // of the voltage, against what it should be: 1 shows the truth
	video                 float64 // MHz
	milliwatt             float64
	levelRoll, levelPitch float64 // deg, taken for level
	reversed              map[string]bool
	bothWays              map[string]bool    // of the speed controllers: told of reversible thrust
	switching             map[string]float64 // kHz, of the speed controllers that the line tells
	protocol              string
	frame                 float64 // µs on the throttle wire
	loop                  float64 // Hz
	poles                 int
	barometer, satellite  bool
	compass               bool
	// What no eye, ear or meter reaches, by names of the stand-in's own: what else switches mean, figures, and words.
	windows map[string]quad.Range
	figures map[string]float64
	words   map[string]string
}

// family is what a firmware line's boards do by themselves, which no dictionary tells.
type family struct {
	line string
	// means takes raw settings for what they make a board do. after says whether the version is that one or a later one.
	means func(r raws, after func(version string) bool) meaning
	// levels are the settings that say how the board hangs when its pilot calls that level, deg.
	levels func(roll, pitch float64) map[string]string
	// compasses are the settings that hold the zero of its compass, µT; nil where it has none.
	compasses func(zero [3]float64) map[string]string
	// faces are the settings that hold what six faces told it of its accelerometer; nil where it wants level alone.
	faces func(told toldFaces) map[string]string
}

// families that the stand-in speaks for: one entry a line.
var families = []family{
	{"Marram", marramMeaning, marramLevels, nil, nil},
	{"Spindrift", spindriftMeaning, spindriftLevels, spindriftCompasses, nil},
	{"Shingle", shingleMeaning, shingleLevels, shingleCompasses, shingleFaces},
}

func familyOf(line string) *family {
	for i := range families {
		if families[i].line == line {
			return &families[i]
		}
	}
	return nil
}

// mean takes raw settings of a build for what they make its board do.
func meanOf(b *firmware.Build, settings map[string]string) meaning {
	return familyOf(b.Line.Name).means(raws{settings, b.Line.Separator}, func(version string) bool {
		step := firmware.StepBetween("", version, "", b.Version.Version)
		return step == firmware.SameVersion || step == firmware.Within || step == firmware.Major
	})
}

// digital is the time of one throttle frame on the wire, µs: 16 bits, and with an answer 30 µs and 21 bits at 5/4
// of the rate.
func digital(kilobit float64, answers bool) float64 {
	t := 16 / kilobit * 1000
	if answers {
		t += 30 + 21/(1.25*kilobit)*1000
	}
	return t
}

// raws are settings as the line writes them.
type raws struct {
	of        map[string]string
	separator string
}

func (r raws) word(name string) string { return r.of[name] }

func (r raws) number(name string) float64 { return figure(r.of[name]) }

// figure of a text; writes are checked against the facts, so it holds no other.
func figure(text string) float64 {
	x, err := strconv.ParseFloat(text, 64)
	if err != nil {
		return 0
	}
	return x
}

func (r raws) words(name string) []string { return strings.Split(r.of[name], r.separator) }

func (r raws) parts(name string) []float64 {
	var out []float64
	for _, p := range r.words(name) {
		out = append(out, figure(p))
	}
	return out
}

func (r raws) bit(name string, bit int) bool { return int(r.number(name))>>bit&1 == 1 }

// span of a stick channel: three µs, taken for the low end, the centre and the high end.
func (r raws) span(name string) quad.Ends {
	p := r.parts(name)
	return quad.Ends{Low: p[0], Centre: p[1], High: p[2]}
}

// usualSpeed that a whole figure of kilobaud stands for: those in use are multiples of 9.6 kBd, told without what is behind the point.
func usualSpeed(told float64) float64 {
	for n := 1.0; n <= 96; n++ {
		if math.Floor(9.6*n) == told {
			return 9.6 * n
		}
	}
	return told
}

func whole(x float64) string { return strconv.Itoa(int(math.Round(x))) }

// boardTilt is the lean beyond which a board does not arm whose line has no setting for it, deg.
const boardTilt = 25.0

// answers has other rates and limits answer the hands while a channel is inside a range. One on no channel answers never.
func (m *meaning) answers(when quad.Range, roll, pitch, yaw quad.Rates, lean, most float64) {
	if when.Channel > 0 {
		m.control.Others = append(m.control.Others, flight.Profile{When: when, Rates: [3]quad.Rates{roll, pitch, yaw}, AngleLimit: lean, Limit: most})
	}
}
