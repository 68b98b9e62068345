package firmware_test

import (
	"fmt"
	"time"

	"vividperch/core/firmware"
	"vividperch/demo"
)

// A dictionary says a sheet in the settings of one firmware version, and reads them back.
func ExampleDictionary() {
	k, err := demo.Sound(time.Date(2026, 5, 16, 10, 0, 0, 0, time.UTC))
	if err != nil {
		fmt.Println(err)
		return
	}
	build, err := firmware.For(k.Board)
	if err != nil {
		fmt.Println(err)
		return
	}
	name := build.Dictionary.SettingsFor("sheet.motors.idle")[0]
	k.Sheet.Motors.Idle = 6.5
	settings, err := build.Dictionary.Encode(k.Sheet, k.Board.Settings)
	fmt.Println(name, "was", k.Board.Settings[name], "is", settings[name], err)
	sheet, err := build.Dictionary.Decode(settings)
	fmt.Println(sheet.Motors.Idle, err)
	// Output:
	// out.rest was 55 is 65 <nil>
	// 6.5 <nil>
}
