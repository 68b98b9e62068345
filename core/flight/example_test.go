package flight_test

import (
	"fmt"
	"time"

	"vividperch/core/flight"
	"vividperch/demo"
)

// A sound quad on the ground, step by step: nothing is heard of its radio, so that it stays where it stands.
func ExampleStepper() {
	k, err := demo.Sound(time.Date(2026, 5, 16, 10, 0, 0, 0, time.UTC))
	if err != nil {
		fmt.Println(err)
		return
	}
	in, err := flight.NewInput(k)
	if err != nil {
		fmt.Println(err)
		return
	}
	s, err := flight.New(in)
	if err != nil {
		fmt.Println(err)
		return
	}
	for range 2 * flight.Rate {
		s.Step(flight.Sticks{})
	}
	is := s.State()
	fmt.Printf("after %.1f s armed: %v, front left at %.0f rpm\n", is.Time, is.Armed, is.Rotors[0])
	// Output:
	// after 2.0 s armed: false, front left at 0 rpm
}
