package app

import (
	"context"

	"vividperch/core/airframe"
	"vividperch/core/flight"
	"vividperch/core/motors"
	"vividperch/core/picture"
	"vividperch/core/power"
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
	return &AirframeView{airframe.Summarize(k.Parts, k.Weight()), motors.Corners(k)}
}

// ApartView is a quad taken apart, to scale.
type ApartView struct {
	// Spots of the motors, mm ahead and right of the middle, in the order front left, front right, rear left, rear right.
	Spots  [4][2]float64         `json:"spots" unit:"mm"`
	Placed map[string]quad.Thing `json:"placed"`
	Gaps   []airframe.Gap        `json:"gaps"`
	Least  float64               `json:"least" unit:"mm"` // that a thing should keep from a propeller
	Budget []airframe.Weighs     `json:"budget"`
	// Rest is what is left of the mass without pack for everything that is not listed, negative where the list weighs more than that.
	Rest float64 `json:"rest" unit:"g"`
	Mass float64 `json:"mass" unit:"g"` // with the heaviest pack in; as weighed where that was done
	Pack string  `json:"pack"`          // the heaviest
	// Centre of gravity as the placed parts make it, and as it was measured; absent where nobody told.
	Centre   *quad.Balance `json:"centre,omitempty"`
	Measured *quad.Balance `json:"measured,omitempty"`
	// Tilted is what the centre costs each motor: the measured one, but while things are tried elsewhere.
	Tilted     *TiltedView      `json:"tilted,omitempty"`
	Protection *ProtectionView  `json:"protection,omitempty"`
	Camera     *CameraView      `json:"camera,omitempty"`
	Offers     []airframe.Offer `json:"offers"`
}

// TiltedView is what a centre of gravity costs in a hover, by corner.
type TiltedView struct {
	Share   [4]float64 `json:"share" unit:"%"`
	Duty    [4]float64 `json:"duty" unit:"%"`
	Current [4]float64 `json:"current" unit:"A"`
	Hardest int        `json:"hardest"`
	Costs   float64    `json:"costs" unit:"%"` // more current from the pack than in the middle
}

// ProtectionView is what protection costs, with it and without.
type ProtectionView struct {
	Mass    float64    `json:"mass" unit:"g"`
	Duty    [2]float64 `json:"duty" unit:"%"`
	Minutes [2]float64 `json:"minutes" unit:"min"`
}

// CameraView is what a camera's tilt is good for.
type CameraView struct {
	Tilt float64 `json:"tilt" unit:"deg"`
	View float64 `json:"view" unit:"deg"` // 0 is not told
	// Speed at which the horizon lies level in the picture, m/s; 0 where it cannot be said.
	Speed   float64          `json:"speed" unit:"m/s"`
	Horizon *picture.Horizon `json:"horizon,omitempty"`
}

// Apart is a quad taken apart, with its things where they are, or where they are being tried; nothing tried is as they are.
func (a *App) Apart(ctx context.Context, id int64, tried map[string]quad.Thing) (*ApartView, error) {
	if len(tried) > mostPlaced {
		return nil, quad.Faultf("too-many", "placed", "up to %d things are placed on a quad", mostPlaced)
	}
	return figures(ctx, a, id, func(k quad.Known) *ApartView {
		if tried != nil {
			k.Parts.Placed = tried
		}
		return apartOf(k, tried != nil)
	})
}

const mostPlaced = 40

func apartOf(k quad.Known, trying bool) *ApartView {
	p, layout := k.Parts, k.Sheet.Craft.Layout
	name, pack, _ := p.Heaviest()
	weight := k.Weight()
	list, rest := airframe.Budget(p, pack)
	v := &ApartView{
		Placed: p.Placed, Gaps: nonNil(airframe.Clearances(p, layout)), Least: airframe.ClearFix, Budget: nonNil(list), Rest: rest,
		Mass: 1000 * airframe.Mass(p, pack, weight), Pack: name, Offers: airframe.Offers(p),
	}
	if v.Placed == nil {
		v.Placed = map[string]quad.Thing{}
	}
	for i, s := range airframe.Spots(layout, p.Frame) {
		v.Spots[i] = [2]float64{1000 * s.X, 1000 * s.Y}
	}
	centre, told := p.BalanceWith(pack)
	if told {
		byParts := centre
		v.Centre = &byParts
	}
	if m := k.Readings.Airframe.Balance; m != nil {
		if v.Measured = &m.Value; !told || !trying {
			centre, told = m.Value, true
		}
	}
	if d, err := airframe.NewDrive(p, pack, airframe.RestCell*float64(pack.Cells), airframe.Density); err == nil && told && v.Mass > 0 {
		if t, ok := d.Tilts(layout, p.Frame, centre, v.Mass/1000); ok {
			out := &TiltedView{Current: t.Current, Hardest: t.Hardest, Costs: 100 * (t.Costs - 1)}
			for i := range t.Share {
				out.Share[i], out.Duty[i] = 100*t.Share[i], 100*t.Duty[i]
			}
			v.Tilted = out
		}
	}
	if c, ok := airframe.Protects(p, v.Mass); ok {
		v.Protection = &ProtectionView{c.Mass, c.Duty, c.Minutes}
	}
	v.Camera = cameraOf(p, v.Mass)
	return v
}

// cameraOf a quad of a mass in g; nil where none looks up.
func cameraOf(p quad.Parts, mass float64) *CameraView {
	if !p.Video.Fitted || p.Video.CameraTilt <= 0 {
		return nil
	}
	c := &CameraView{Tilt: p.Video.CameraTilt, View: p.Video.CameraView}
	if p.Frame.DragArea > 0 && mass > 0 {
		c.Speed = flight.LevelSpeed(p, mass, c.Tilt)
	}
	if h, ok := picture.HorizonOf(c.Tilt, c.View); ok {
		c.Horizon = &h
	}
	return c
}

// CurvesView is what the drive does over its duty, with every pack.
type CurvesView struct {
	Curves []CurveView `json:"curves"`
	// Estimated figures that they lean on, in words with their bands.
	Estimated []string `json:"estimated"`
	Note      float64  `json:"note" unit:"1"` // tip speeds over Mach from which they are noted, and too fast
	Fix       float64  `json:"fix" unit:"1"`
	// Measured is the hover that was measured in flight; absent where it was not. Corrected is what the propeller's thrust coefficient would then be.
	Measured  *quad.HoverSeen `json:"measured,omitempty"`
	Corrected *CorrectedView  `json:"corrected,omitempty"`
}

// CorrectedView is a thrust coefficient by a measured hover, beside the one that is told.
type CorrectedView struct {
	Is   float64       `json:"is" unit:"1"`
	Told quad.Estimate `json:"told"`
}

// CurveView is one curve, with its hover as a stick.
type CurveView struct {
	airframe.Curve
	Full   airframe.Figures `json:"full"`             // at full duty on a full pack
	Stick  float64          `json:"stick" unit:"%"`   // of hover at rest; 0 where it does not hover
	Lowest float64          `json:"lowest" unit:"%"`  // stick of hover with the pack at its landing voltage
	Warmth float64          `json:"warmth" unit:"°C"` // of the windings in a steady hover; 0 where it does not hover
	Bears  float64          `json:"bears" unit:"s"`   // full throttle from there on
	Lasts  float64          `json:"lasts" unit:"min"` // of hover from full until it is to land
}

// Curves of a quad.
func (a *App) Curves(ctx context.Context, id int64) (*CurvesView, error) {
	return figures(ctx, a, id, curvesOf)
}

func curvesOf(k quad.Known) *CurvesView {
	p, weight := k.Parts, k.Weight()
	v := &CurvesView{
		Curves: []CurveView{}, Note: airframe.TipMachNote, Fix: airframe.TipMachFix,
		Estimated: nonNil(p.EstimateWords([]quad.Path{"parts.propeller", "parts.motor", "parts.packs"})),
	}
	stick := func(duty float64) float64 { return 100 * flight.StickOf(&k.Sheet, duty/100) }
	for _, name := range quad.SortedKeys(p.Packs) {
		c, ok := airframe.CurveWith(p, name, airframe.RestCell, weight)
		if !ok {
			continue
		}
		one := CurveView{Curve: c}
		if c.Hover != nil {
			one.Stick = stick(c.Hover.Duty)
		}
		pack, idle := p.Packs[name], power.IdleCurrent(p)
		if low, err := airframe.NewDrive(p, pack, airframe.LowCell*float64(pack.Cells), airframe.Density); err == nil {
			if h, ok := low.Hover(c.Mass / 1000); ok {
				one.Lowest = stick(100 * h.Duty)
			}
		}
		if d, err := airframe.NewDrive(p, pack, airframe.FullCell*float64(pack.Cells), airframe.Density); err == nil {
			one.Full = d.Figures(d.At(1), pack, idle)
			if h, ok := d.Heats(p, c.Mass/1000); ok {
				one.Warmth, one.Bears = min(h.Hover.Winding, 999), h.Bears
			}
			if s, ok := d.Lasts(pack, c.Mass/1000, idle, k.Sheet.Watch.LandPerCell); ok {
				one.Lasts = s / 60
			}
		}
		v.Curves = append(v.Curves, one)
	}
	if m := k.Readings.FirstFlight.Hover; m != nil {
		v.Measured = &m.Value
		if d, mass, duty, ok := flight.HoverMeasured(k); ok {
			if e, ok := d.ThrustByHover(p.Propeller.Thrust, mass, duty, hoverTold); ok {
				v.Corrected = &CorrectedView{Is: p.Propeller.Thrust, Told: e}
			}
		}
	}
	return v
}

// hoverTold is within what a duty by a measured hover is right, as a share of full.
const hoverTold = 0.015
