package standin

import (
	"math"
	"strconv"
)

func whole(x float64) string { return strconv.Itoa(int(math.Round(x))) }

// boardTilt is the lean beyond which a board does not arm whose line has no setting for it, deg.
const boardTilt = 25.0

// levels by line: the settings that say how the board hangs when its pilot calls that level, deg.
var levels = map[string]func(roll, pitch float64) map[string]string{
	"Marram": func(roll, pitch float64) map[string]string {
		return map[string]string{"found.level.roll": whole(10 * roll), "found.level.pitch": whole(10 * pitch), "found.level.done": "1"}
	},
	"Spindrift": func(roll, pitch float64) map[string]string {
		return map[string]string{"level-roll-cd": whole(100 * roll), "level-pitch-cd": whole(100 * pitch), "level-found": "1"}
	},
	"Shingle": func(roll, pitch float64) map[string]string {
		radians := func(deg float64) string { return strconv.FormatFloat(math.Round(deg*math.Pi/180*1e4)/1e4, 'f', -1, 64) }
		return map[string]string{"LevelRoll": radians(roll), "LevelPitch": radians(pitch), "LevelDone": "1"}
	},
}
