package power_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"vividperch/core/columns"
	"vividperch/core/power"
	"vividperch/core/quad"
)

func flown(t testing.TB, text string) ([]power.Given, bool, error) {
	table, err := columns.Read([]byte(text))
	if err != nil {
		t.Skip(err)
	}
	rows, _ := table.Take(power.FlownColumns, columns.Guess(table.Head, power.FlownColumns))
	return power.ReadFlown(rows)
}

func TestFlownTables(t *testing.T) {
	rows := func(head string, row func(i int) string) string {
		var b strings.Builder
		b.WriteString(head + "\n")
		for i := range 1200 {
			b.WriteString(row(i) + "\n")
		}
		return b.String()
	}
	ms := rows("time (ms),pack (V),pack (A)", func(i int) string { return fmt.Sprintf("%d,%.2f,%.1f", 5000+i*20, 16-0.001*float64(i), 11.0) })
	got, sorted, err := flown(t, ms)
	if err != nil || !sorted || got[0].Time != 0 || !(math.Abs(got[len(got)-1].Time-23.98) <= 0.1) || len(got) > 245 || got[0].Amps != 11 {
		t.Errorf("milliseconds: %d samples, %v, %v", len(got), sorted, err)
	}
	if err := power.OfCells(got, 4); err != nil {
		t.Error(err)
	}
	for cells, code := range map[int]string{6: "other-cells", 3: "other-cells", 0: "no-cells"} {
		if f := quad.AsFault(power.OfCells(got, cells)); f == nil || f.Code != code {
			t.Errorf("%d cells: %v", cells, f)
		}
	}
	back := rows("time (s);voltage", func(i int) string { return fmt.Sprintf("%.2f;%.2f", 30-0.02*float64(i), 15.0) })
	if got, sorted, err = flown(t, back); err != nil || sorted || got[1].Time <= got[0].Time {
		t.Errorf("backwards: %v, %v", sorted, err)
	}
	for name, c := range map[string][2]string{
		"seconds that are milliseconds": {rows("time,volts", func(i int) string { return fmt.Sprintf("%d,15", i*20) }), "too-long"},
		"two seconds":                   {rows("time,volts", func(i int) string { return fmt.Sprintf("%.4f,15", 0.0015*float64(i)) }), "too-short"},
		"no voltage":                    {rows("time,volts", func(i int) string { return fmt.Sprintf("%.1f,0", 0.1*float64(i)) }), "no-volts"},
	} {
		if _, _, err := flown(t, c[0]); quad.AsFault(err) == nil || quad.AsFault(err).Code != c[1] {
			t.Errorf("%s: %v, want %s", name, err, c[1])
		}
	}
}

func FuzzFlown(f *testing.F) {
	f.Add("time (s),pack (V),pack (A)\n0,16.4,3\n10,16.1,12\n25,15.2,60\n40,14.9,11\n")
	f.Add("t;v\n1e308;1e308\n-1e308;1\n0;2\n")
	f.Add("time\tvolts\nx\ty\n")
	f.Fuzz(func(t *testing.T, text string) {
		got, _, err := flown(t, text)
		if err != nil {
			if quad.AsFault(err) == nil || quad.AsFault(err).Sentence == "" {
				t.Errorf("refused without a word: %v", err)
			}
			return
		}
		r := power.Flown{Given: got, Cells: 4, Land: 3.3}.Replay(power.Alarm{PerCell: 3.5, Delay: 2, Repeat: 5})
		if math.IsNaN(r.Seconds+r.Energy+r.Charge) || r.Seconds < 0 {
			t.Errorf("%+v", r)
		}
	})
}
