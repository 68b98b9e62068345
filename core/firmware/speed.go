package firmware

import (
	"fmt"

	"vividperch/core/quad"
)

// ControllerState is one speed controller as it was asked.
type ControllerState struct {
	Output string `json:"output"`
	Asked  bool   `json:"asked"`
	quad.SpeedIdentity
	// Unlike says that it differs in version or switching from what most of those asked have; of two that differ, the
	// later letter.
	Unlike bool `json:"unlike"`
}

// Controllers of a quad in the order of its outputs; none when they have no firmware that could be asked.
func Controllers(k quad.Known) []ControllerState {
	out := []ControllerState{}
	if k.Parts.SpeedController.Layout == "" {
		return out
	}
	key := func(s quad.SpeedIdentity) string { return fmt.Sprint(s.Version, " ", s.Switching) }
	count := map[string]int{}
	usual := ""
	for _, letter := range k.Parts.Board.Outputs {
		c := ControllerState{Output: letter}
		if r := k.Readings.Firmware.SpeedControllers[letter]; r != nil {
			c.Asked, c.SpeedIdentity = true, r.Value
			if is := key(r.Value); usual == "" || count[is]+1 > count[usual] {
				usual = is
			}
			count[key(r.Value)]++
		}
		out = append(out, c)
	}
	for i, c := range out {
		out[i].Unlike = c.Asked && key(c.SpeedIdentity) != usual
	}
	return out
}
