package flight

import (
	"math"

	"vividperch/core/motors"
)

// commandDelay is how long (s) a speed controller takes to act on a throttle: the frame, and the next commutation or two.
const commandDelay = 0.002

// signal is the throttle protocol between the board and its speed controllers: it carries a duty in steps, and a slow one not in
// every loop.
type signal struct {
	period float64 // s
	left   float64 // s to the next frame
	steps  float64 // from nothing to full
	step   float64 // the inverse
	queue  [16][4]float64
	at     int
	length int // model steps of delay
}

func newSignal(s Settings, rate int) signal {
	out := signal{period: motors.SignalPeriod(s.Protocol), steps: motors.SignalSteps(s.Protocol)}
	if s.Reverses {
		out.steps /= 2 // half of them for each way
	}
	if out.steps > 0 {
		out.step = 1 / out.steps
		out.length = min(len(out.queue), int(math.Round(commandDelay*float64(rate))))
	}
	return out
}

// carry what is asked to the speed controllers, h seconds after the last time.
func (g *signal) carry(sent, asked *[4]float64, h float64) {
	if g.steps == 0 {
		*sent = *asked
		return
	}
	last := &g.queue[g.at]
	*sent = *last // it was put there a delay ago
	if g.left -= h; g.left > 1e-9 {
		before := g.at - 1
		if before < 0 {
			before = g.length - 1
		}
		*last = g.queue[before]
	} else {
		g.left = max(0, g.left+g.period)
		for i, x := range asked {
			if x < 0 {
				last[i] = -float64(int(0.5-x*g.steps)) * g.step
			} else {
				last[i] = float64(int(0.5+x*g.steps)) * g.step
			}
		}
	}
	if g.at++; g.at == g.length {
		g.at = 0
	}
}
