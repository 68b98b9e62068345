package quad_test

import (
	"fmt"

	"vividperch/core/quad"
)

// One address serves whoever sets, reads, compares or names a place of a quad.
func ExamplePath() {
	var k quad.Known
	idle := quad.Path("sheet.motors.idle")
	if err := quad.Set(&k, idle, []byte("5.5")); err != nil {
		fmt.Println(err)
	}
	is, _ := quad.Get(k, idle)
	what, _ := quad.FieldAt(idle)
	fmt.Println(what.Label, is, what.Unit)
	fmt.Println(idle.Under("sheet.motors"), idle.Under("sheet.mot"))
	fmt.Println(quad.Set(&k, "sheet.motors.idel", []byte("5.5")))
	// Output:
	// Idle throttle 5.5 %
	// true false
	// sheet.motors.idel: nothing in the quad has this name
}
