// Package trace reads recorded flights: CSV with a head of named columns, one row to a moment. Files come from anywhere and may be long,
// so they are read row by row and never kept.
package trace

import (
	"bufio"
	"bytes"
	"encoding/csv"
	"errors"
	"io"
	"math"
	"strconv"
	"strings"

	"vividperch/core/quad"
)

// Limit of a file, bytes.
const Limit = 256 << 20

// longestLine of a file, bytes: a hundred columns fit several times.
const longestLine = 64 << 10

// most that any figure of a flight can be, in whatever unit: squares of it still add up.
const most = 1e9

// Reader gives some columns of a file.
type Reader struct {
	lines *bufio.Scanner
	at    []int // of each wanted column
	last  int   // the highest of them
	time  float64
	row   int
}

// NewReader reads the head of a file and finds the wanted columns in it, by their names without the unit in brackets. The first must be
// the time in seconds, which may not run back. A column that is missing is a [quad.Fault] with the code no-column.
func NewReader(r io.Reader, wanted ...string) (*Reader, error) {
	out := &Reader{lines: bufio.NewScanner(&bounded{r, Limit}), time: math.Inf(-1), row: 1}
	out.lines.Buffer(make([]byte, 4<<10), longestLine)
	if !out.lines.Scan() {
		if err := out.wrong(); err != nil {
			return nil, err
		}
		return nil, quad.Faultf("no-trace", "trace", "the file is empty")
	}
	head, err := csv.NewReader(strings.NewReader(strings.TrimPrefix(out.lines.Text(), "\ufeff"))).Read()
	if err != nil {
		return nil, quad.Faultf("no-trace", "trace", "its first line is no head of columns")
	}
	where := map[string]int{}
	for i, name := range head {
		name, _, _ = strings.Cut(name, "(")
		name = strings.ToLower(strings.TrimSpace(name))
		if _, twice := where[name]; !twice {
			where[name] = i
		}
	}
	for _, name := range wanted {
		i, ok := where[name]
		if !ok {
			return nil, quad.Faultf("no-column", "trace", "it has no column named %q", name)
		}
		out.at, out.last = append(out.at, i), max(out.last, i)
	}
	return out, nil
}

// Next puts the wanted columns of the next row into to, which must be as long as they are many. At the end of the file it gives
// [io.EOF]; a row that cannot be read is a Fault that names its line.
func (r *Reader) Next(to []float64) error {
	for {
		if !r.lines.Scan() {
			if err := r.wrong(); err != nil {
				return err
			}
			return io.EOF
		}
		r.row++
		if len(bytes.TrimSpace(r.lines.Bytes())) > 0 {
			break
		}
	}
	rest := r.lines.Bytes()
	for i, left := 0, len(r.at); left > 0; i++ {
		field, more, found := bytes.Cut(rest, []byte{','})
		for k, at := range r.at {
			if at != i {
				continue
			}
			x, err := strconv.ParseFloat(string(bytes.Trim(field, " \"\r\t")), 64)
			if err != nil || !(math.Abs(x) <= most) {
				return quad.Faultf("no-number", "trace", "line %d: %q is no figure of a flight", r.row, clipped(field))
			}
			to[k] = x
			left--
		}
		if rest = more; !found && left > 0 {
			return quad.Faultf("short-row", "trace", "line %d ends after %d columns", r.row, i+1)
		}
	}
	if to[0] < r.time {
		return quad.Faultf("time-back", "trace", "line %d: the time runs back from %s to %s", r.row, quad.Quantity(r.time, "s"), quad.Quantity(to[0], "s"))
	}
	r.time = to[0]
	return nil
}

// bounded refuses to read on where a file is longer than any may be.
type bounded struct {
	from io.Reader
	left int64
}

func (b *bounded) Read(to []byte) (int, error) {
	if b.left <= 0 {
		return 0, quad.Faultf("too-long", "trace", "the file is longer than %d MB; cut it, or record less often", Limit>>20)
	}
	n, err := b.from.Read(to[:min(int64(len(to)), b.left)])
	b.left -= int64(n)
	return n, err
}

func (r *Reader) wrong() error {
	switch err := r.lines.Err(); {
	case err == nil:
		return nil
	case errors.Is(err, bufio.ErrTooLong):
		return quad.Faultf("long-row", "trace", "line %d is longer than any row of a trace", r.row+1)
	default:
		return err
	}
}

func clipped(field []byte) string {
	if len(field) > 20 {
		return string(field[:20]) + "…"
	}
	return string(field)
}
