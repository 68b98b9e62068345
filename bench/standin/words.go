package standin

import (
	"math"
	"strconv"
)

func whole(x float64) string { return strconv.Itoa(int(math.Round(x))) }

// boardTilt is the lean beyond which a board does not arm whose line has no setting for it, deg.
const boardTilt = 25.0
