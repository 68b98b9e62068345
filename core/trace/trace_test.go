package trace

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"math"
	"strings"
	"testing"

	"vividperch/core/quad"
)

func TestReaderFindsColumns(t *testing.T) {
	const file = "\ufeff\"Gyro roll (deg/s)\",time (s),  Throttle (%) \r\n1.5,0,10\r\n\r\n-2,0.001,\"20\"\r\n"
	r, err := NewReader(strings.NewReader(file), "time", "throttle", "gyro roll", "throttle")
	if err != nil {
		t.Fatal(err)
	}
	row := make([]float64, 4)
	for _, want := range [][4]float64{{0, 10, 1.5, 10}, {0.001, 20, -2, 20}} {
		if err := r.Next(row); err != nil || [4]float64(row) != want {
			t.Errorf("%v, %v, want %v", row, err, want)
		}
	}
	if err := r.Next(row); !errors.Is(err, io.EOF) {
		t.Errorf("at its end: %v", err)
	}
}

func TestReaderRefuses(t *testing.T) {
	for _, c := range []struct{ name, file, code string }{
		{"nothing", "", "no-trace"},
		{"a head that is none", "time,\"thr", "no-trace"},
		{"a column short", "time,other\n0,1\n", "no-column"},
		{"a word", "time,throttle\n0,full\n", "no-number"},
		{"no number", "time,throttle\n0,NaN\n", "no-number"},
		{"more than anything", "time,throttle\n0,1e300\n", "no-number"},
		{"a row short", "time,throttle\n0\n", "short-row"},
		{"time that runs back", "time,throttle\n1,0\n0.5,0\n", "time-back"},
		{"a line without end", "time,throttle\n0," + strings.Repeat("1", longestLine) + "\n", "long-row"},
		{"a head without end", strings.Repeat("t", longestLine+1), "long-row"},
	} {
		r, err := NewReader(strings.NewReader(c.file), "time", "throttle")
		row := make([]float64, 2)
		for err == nil {
			err = r.Next(row)
		}
		if f := quad.AsFault(err); f == nil || f.Code != c.code || f.Place != "trace" {
			t.Errorf("%s: %v", c.name, err)
		}
	}
}

// A file that never ends is read as far as one may be, in a few kilobytes of memory.
func TestReaderEnds(t *testing.T) {
	r, err := NewReader(io.MultiReader(strings.NewReader("time\n"), endless{}), "time")
	row := make([]float64, 1)
	for err == nil {
		err = r.Next(row)
	}
	if f := quad.AsFault(err); f == nil || f.Code != "too-long" {
		t.Error(err)
	}
}

type endless struct{}

func (endless) Read(to []byte) (int, error) {
	for i := range to {
		to[i] = '1'
		if i%1024 == 0 {
			to[i] = '\n'
		}
	}
	for i := 1; i < len(to); i++ {
		if i%1024 > 3 {
			to[i] = ' '
		}
	}
	return len(to), nil
}

// made writes a flight whose throttle is cut at each of some moments, and which then shakes with an amplitude about one axis.
func made(rate, lasts float64, axis int, amplitude float64, cuts ...float64) string {
	var b bytes.Buffer
	b.WriteString("time (s),gyro roll (deg/s),gyro pitch (deg/s),gyro yaw (deg/s),setpoint roll (deg/s),setpoint pitch (deg/s),setpoint yaw (deg/s),throttle (%)\n")
	for n := range int(lasts * rate) {
		at := float64(n) / rate
		throttle, shake := 50.0, 0.0
		for _, c := range cuts {
			if at >= c && at < c+1.5 {
				throttle, shake = 5, amplitude*math.Sin(2*math.Pi*20*(at-c))
			}
		}
		gyro := [3]float64{30, -4, 0} // as asked: it turns all the while
		gyro[axis] += shake
		fmt.Fprintf(&b, "%g,%g,%g,%g,%g,%g,%g,%g\n", at, gyro[0], gyro[1], gyro[2], 30.0, -3.0, 0.0, throttle)
	}
	return b.String()
}

// A sine of 20 Hz has a sigma of its amplitude over the root of two, however many cuts and whatever steady error there is.
func TestAfterCuts(t *testing.T) {
	for axis, name := range []quad.Axis{quad.Roll, quad.Pitch, quad.Yaw} {
		for _, rate := range []float64{200, 1000} {
			got, err := AfterCuts(strings.NewReader(made(rate, 9, axis, 40, 2, 5)))
			if err != nil || got.Count != 2 || got.Axis != name || got.First != 2 || !(math.Abs(got.By-40/math.Sqrt2) <= 0.1) {
				t.Errorf("%s at %v Hz: %+v, %v", name, rate, got, err)
			}
		}
	}
	for name, file := range map[string]string{
		"no cut":                  made(500, 5, 0, 40),
		"cut as the flight ends":  made(500, 5, 0, 40, 4.99),
		"too few rows to tell it": made(10, 9, 0, 40, 2),
	} {
		if _, err := AfterCuts(strings.NewReader(file)); quad.AsFault(err) == nil || quad.AsFault(err).Code != "no-cut" {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// A throttle that is closed slowly is no cut.
func TestSlowlyClosedIsNoCut(t *testing.T) {
	var b strings.Builder
	b.WriteString("time,throttle,gyro roll,gyro pitch,gyro yaw,setpoint roll,setpoint pitch,setpoint yaw\n")
	for n := range 3000 {
		fmt.Fprintf(&b, "%g,%g,0,0,0,0,0,0\n", float64(n)/1000, math.Max(0, 60-25*float64(n)/1000))
	}
	if _, err := AfterCuts(strings.NewReader(b.String())); quad.AsFault(err) == nil {
		t.Errorf("%v", err)
	}
}

func FuzzAfterCuts(f *testing.F) {
	f.Add(made(100, 4, 1, 10, 2))
	f.Add("time,throttle\n")
	f.Add("time,throttle,gyro roll,gyro pitch,gyro yaw,setpoint roll,setpoint pitch,setpoint yaw\n0,1e308,1e308,0,0,-1e308,0,0\n")
	f.Fuzz(func(t *testing.T, file string) {
		got, err := AfterCuts(strings.NewReader(file))
		if err == nil && (got.Count < 1 || !(got.By >= 0)) {
			t.Errorf("%+v", got)
		}
		if err != nil && quad.AsFault(err) == nil {
			t.Errorf("not a fault: %v", err)
		}
	})
}

// Ten minutes at 2 kHz in 14 columns.
func BenchmarkAfterCuts(b *testing.B) {
	row := strings.Repeat(",12.345", 6)
	var file bytes.Buffer
	file.WriteString("time,gyro roll,gyro pitch,gyro yaw,setpoint roll,setpoint pitch,setpoint yaw,throttle,a,b,c,d,e,f\n")
	for n := range 600 * 2000 {
		throttle := 50
		if n%20000 > 18000 {
			throttle = 5
		}
		fmt.Fprintf(&file, "%.4f,1.5,2.25,-3.125,1,2,-3,%d%s\n", float64(n)/2000, throttle, row)
	}
	b.SetBytes(int64(file.Len()))
	for b.Loop() {
		if _, err := AfterCuts(bytes.NewReader(file.Bytes())); err != nil {
			b.Fatal(err)
		}
	}
	b.ReportMetric(b.Elapsed().Seconds()/float64(b.N), "s/trace")
}
