package check_test

import (
	"fmt"
	"time"

	"vividperch/core/check"
	"vividperch/demo"
)

// Every rule over what is known of a quad of the demo world, of which one reading was not taken and another is too little.
func ExampleRun() {
	now := time.Date(2026, 5, 16, 10, 0, 0, 0, time.UTC)
	k, err := demo.Sound(now)
	if err != nil {
		fmt.Println(err)
		return
	}
	k.Readings.Motors.RestStill = nil
	k.Readings.FirstFlight.Clear.Value = 5
	report := check.Run(check.Rules(), k, check.Context{Now: now})
	for _, f := range report.Findings {
		if f.Weight == check.Stop {
			fmt.Println("stop:", f.Title)
		}
	}
	for _, a := range report.Asks {
		fmt.Println("wanted:", a.Label)
	}
	// Output:
	// stop: It is too narrow here
	// wanted: Nothing spins at rest
}
