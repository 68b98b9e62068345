package standin

import (
	"math"
	"strconv"

	"vividperch/core/sticks"
)

var sticksLetters = sticks.Letters

func whole(x float64) string { return strconv.Itoa(int(math.Round(x))) }
