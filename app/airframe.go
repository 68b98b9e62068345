package app

import (
	"context"

	"vividperch/core/airframe"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// AirframeView is what the station of the airframe draws.
type AirframeView struct {
	Airframe airframe.Summary     `json:"airframe"` // what the parts come to
	Corners  []motors.CornerState `json:"corners"`
}

// Airframe of a quad.
func (a *App) Airframe(ctx context.Context, id int64) (*AirframeView, error) {
	return figures(ctx, a, id, airframeOf)
}

func airframeOf(k quad.Known) *AirframeView {
	return &AirframeView{airframe.Summarize(k.Parts, weightOf(k)), motors.Corners(k)}
}

// weightOf a quad as it was weighed, g; 0 when nobody did.
func weightOf(k quad.Known) float64 {
	if w := k.Readings.Airframe.Weight; w != nil {
		return w.Value
	}
	return 0
}
