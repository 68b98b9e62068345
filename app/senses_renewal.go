package app

import (
	"cmp"
	"context"
	"slices"
	"time"

	"vividperch/core/check"
	"vividperch/core/quad"
)

// RenewalView says when a compass is to be found anew by either school, for one quad.
type RenewalView struct {
	Version int64        `json:"version"` // of what the pilot wants
	By      quad.Renewal `json:"by"`
	// Family says that its boards have it by date, whatever its pilot would rather.
	Family bool       `json:"family"`
	Days   int        `json:"days"`            // by date
	Taken  *time.Time `json:"taken,omitempty"` // when it was found
	Due    *time.Time `json:"due,omitempty"`   // by date
	Voided string     `json:"voided"`          // what came after, in words; nothing where nothing did
	Misses string     `json:"misses"`          // what the school that is chosen does not see
}

// Renewal of a quad's compass by both schools.
func (a *App) Renewal(ctx context.Context, id int64) (*RenewalView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	p, version, err := a.wants(ctx)
	if err != nil {
		return nil, err
	}
	v := &RenewalView{Version: version, By: cmp.Or(p.CompassBy, quad.ByDate)}
	dated := o.known
	dated.Pilot.CompassBy = quad.ByDate
	v.Days, v.Family = check.RenewedFor(&dated)
	if m := o.known.Readings.Senses.Compass; m != nil {
		due := check.Expires(m.At, v.Days, a.now().Location())
		v.Taken, v.Due = &m.At, &due
		for _, e := range o.events {
			if e.At.After(m.At) && slices.Contains(check.CompassVoids, e.Event) {
				v.Voided = quad.Upper(e.Event.Words()) + " came after it was found."
			}
		}
	}
	v.Misses = "What moves on the quad without anybody noting it: only a heading against a known direction, or a hold that circles, shows that."
	if v.By == quad.ByDate {
		v.Misses = "Nothing is missed, but days go by that changed nothing: iron on the quad stays as it is until something moves."
	}
	return v, nil
}
