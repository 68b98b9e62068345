package book

import (
	"vividperch/core/power"
	"vividperch/core/quad"
)

// highestCell is the voltage of a cell charged as high as any is charged, V.
const highestCell = 4.5

// Believable refuses what was told of a flight and cannot be of its pack: more charge than it holds (mAh), a voltage higher than it is ever
// charged to (V). What was not told, and a pack of which nothing is known, refuse nothing.
func Believable(pack quad.Pack, drawn, lowest *float64) error {
	if drawn != nil && pack.Capacity > 0 && *drawn > power.GivesAtMost*pack.Capacity {
		return quad.Faultf("too-much", "drawn", "a pack of %s does not give %s", quad.Quantity(pack.Capacity, "mAh"), quad.Quantity(*drawn, "mAh"))
	}
	if lowest != nil && pack.Cells > 0 && *lowest > highestCell*float64(pack.Cells) {
		return quad.Faultf("too-high", "lowest", "a pack of %s is never at %s", quad.Count(pack.Cells, "cell", "cells"), quad.Quantity(*lowest, "V"))
	}
	return nil
}
