package flight

import (
	"encoding/csv"
	"io"
	"math"
	"strconv"

	"vividperch/core/quad"
)

// traceColumns of a recorded flight, each with its unit.
var traceColumns = func() []string {
	out := []string{"time (s)"}
	each := func(unit string, names ...string) {
		for _, n := range names {
			out = append(out, n+" ("+unit+")")
		}
	}
	each("deg/s", "gyro roll", "gyro pitch", "gyro yaw", "filtered roll", "filtered pitch", "filtered yaw", "setpoint roll", "setpoint pitch", "setpoint yaw")
	for _, c := range quad.Corners {
		each("%", "motor "+c.Words())
	}
	each("%", "throttle")
	each("V", "pack")
	each("A", "pack")
	for _, c := range quad.Corners {
		each("rpm", "rotation "+c.Words())
	}
	each("m/s²", "acceleration ahead", "acceleration right", "acceleration down")
	each("deg", "roll", "pitch")
	each("m", "north", "east", "height")
	return out
}()

// Trace writes a flight as CSV, one row to a moment, in the columns of recorded flights.
type Trace struct {
	to  *csv.Writer
	row []string
}

// NewTrace begins one with its head.
func NewTrace(w io.Writer) (*Trace, error) {
	t := &Trace{to: csv.NewWriter(w)}
	return t, t.to.Write(traceColumns)
}

// Row adds a moment. What goes wrong is told by Close.
func (t *Trace) Row(s State) {
	t.row = t.row[:0]
	put := func(places int, scale float64, x ...float64) {
		p := math.Pow10(places)
		for _, v := range x {
			t.row = append(t.row, strconv.FormatFloat(math.Round(v*scale*p)/p+0, 'f', -1, 64))
		}
	}
	put(6, 1, s.Time)
	put(2, 1, s.Gyro[:]...)
	put(2, 1, s.Filtered[:]...)
	put(2, 1, s.Setpoint[:]...)
	put(2, 100, s.Duty[:]...)
	put(2, 100, s.Throttle)
	put(3, 1, s.Volts, s.Amps)
	put(0, 1, s.Rotors[:]...)
	put(3, 1, s.Accel[:]...)
	put(2, 1, s.Roll, s.Pitch)
	put(3, 1, s.North, s.East, s.Height)
	_ = t.to.Write(t.row) // a csv.Writer keeps its error
}

// Close writes what is left and gives the first error of all of it.
func (t *Trace) Close() error {
	t.to.Flush()
	return t.to.Error()
}
