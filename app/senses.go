package app

import (
	"context"

	"vividperch/core/airframe"
	"vividperch/core/senses"
)

// LevelPlate makes a plate level with the shims at hand, and tells the board's own error from it. Nothing is kept.
func (a *App) LevelPlate(_ context.Context, ask senses.PlateAsk) (*senses.Plate, error) {
	p, err := ask.Level(airframe.Gravity)
	if err != nil {
		return nil, err
	}
	return &p, nil
}
