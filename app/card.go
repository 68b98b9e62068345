package app

import (
	"context"

	"vividperch/core/airframe"
	"vividperch/core/flight"
	"vividperch/core/linkloss"
	"vividperch/core/proof"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// CardView is what the field card says of a quad beside its line.
type CardView struct {
	Steps    []string         `json:"steps"` // of the first flight
	Site     SiteView         `json:"site"`
	Loss     []linkloss.Stage `json:"loss"`
	Switches sticks.SwitchMap `json:"switches"`
	Profiles []ProfileView    `json:"profiles"` // those that the switches choose among
	Airframe airframe.Summary `json:"airframe"`
	Today    *CardLine        `json:"today,omitempty"` // the line that is meant to be flown
}

// Card of a quad, for the field.
func (a *App) Card(ctx context.Context, id int64) (*CardView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	v := cardOf(o.known, a.standings(o))
	v.Today, err = a.cardLine(ctx, o.known)
	return v, err
}

func cardOf(k quad.Known, st []proof.Standing) *CardView {
	return &CardView{
		Steps: flight.HoverCard.Steps(k.Sheet.Motors.Reversible), Site: siteOf(k, st), Loss: stagesOf(k),
		Switches: sticks.NewSwitchboard(k).Map(k, nil), Profiles: profilesOf(k, nil), Airframe: airframe.Summarize(k.Parts, k.Weight()),
	}
}
