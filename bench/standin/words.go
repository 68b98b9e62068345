package standin

import (
	"math"
	"strconv"
)

func whole(x float64) string { return strconv.Itoa(int(math.Round(x))) }
