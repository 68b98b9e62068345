package trace

import (
	"errors"
	"io"
	"math"

	"vividperch/core/quad"
)

// A throttle cut is a fall from cutFrom to cutTo, % of full, in less than cutWithin, s; what follows is watched for cutWatch.
const (
	cutFrom   = 30.0
	cutTo     = 15.0
	cutWithin = 0.4
	cutWatch  = 1.0
	cutRows   = 20 // the fewest rows of a second that show anything of what shakes
)

// Cuts is what hard throttle cuts in a recorded flight show.
type Cuts struct {
	Count int       `json:"count" unit:"count"`
	By    float64   `json:"by" unit:"deg/s"` // rotation that nobody asked for in the second after, one sigma over all cuts, about the worst axis
	Axis  quad.Axis `json:"axis"`
	First float64   `json:"first" unit:"s"`
}

// AfterCuts reads a recorded flight for its hard throttle cuts and how it shakes after them: the gyro's rotation less what was asked,
// about the mean of each second. Rows may be a millisecond apart or twenty, not more.
func AfterCuts(r io.Reader) (Cuts, error) {
	in, err := NewReader(r, "time", "throttle", "gyro roll", "gyro pitch", "gyro yaw", "setpoint roll", "setpoint pitch", "setpoint yaw")
	if err != nil {
		return Cuts{}, err
	}
	var out Cuts
	var sums, squares, worst [3]float64
	rows, total := 0, 0
	high, until := math.Inf(-1), math.Inf(-1) // when the throttle was up last; when the present watch ends
	watching := false
	done := func() {
		if watching = false; rows < cutRows {
			return
		}
		out.Count++
		total += rows
		for i := range worst {
			worst[i] += squares[i] - sums[i]*sums[i]/float64(rows)
		}
	}
	row := make([]float64, 8)
	for {
		err := in.Next(row)
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return Cuts{}, err
		}
		now, throttle := row[0], row[1]
		if watching && (now >= until || throttle > cutFrom) {
			done()
		}
		if !watching && throttle <= cutTo && now-high < cutWithin {
			watching, until, rows, sums, squares = true, now+cutWatch, 0, [3]float64{}, [3]float64{}
			if high = math.Inf(-1); out.Count == 0 {
				out.First = now
			}
		}
		if throttle >= cutFrom {
			high = now
		}
		if watching {
			rows++
			for i := range sums {
				x := row[2+i] - row[5+i]
				sums[i] += x
				squares[i] += x * x
			}
		}
	}
	if watching {
		done()
	}
	if out.Count == 0 {
		return Cuts{}, quad.Faultf("no-cut", "trace", "it has no hard throttle cut: from above %.0f to below %.0f %% within %.1f s, and a second of flight after it", cutFrom, cutTo, cutWithin)
	}
	for i, axis := range []quad.Axis{quad.Roll, quad.Pitch, quad.Yaw} {
		if by := math.Sqrt(math.Max(0, worst[i]) / float64(total)); by > out.By || i == 0 {
			out.By, out.Axis = by, axis
		}
	}
	out.By = math.Round(out.By*10) / 10
	return out, nil
}
