package trace_test

import (
	"errors"
	"fmt"
	"io"
	"strings"

	"vividperch/core/trace"
)

// A recorded flight is read row by row: only the columns that are asked for, whatever else the file has.
func ExampleReader() {
	r, err := trace.NewReader(strings.NewReader("time (s), throttle (%), roll (deg)\n0.0, 12, 0.3\n0.1, 55, -1.5\n"), "time", "roll")
	if err != nil {
		fmt.Println(err)
		return
	}
	for row := make([]float64, 2); ; {
		if err := r.Next(row); errors.Is(err, io.EOF) {
			break
		} else if err != nil {
			fmt.Println(err)
			break
		}
		fmt.Println(row)
	}
	// Output:
	// [0 0.3]
	// [0.1 -1.5]
}
