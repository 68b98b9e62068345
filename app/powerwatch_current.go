package app

import (
	"context"
	"math"

	"vividperch/core/firmware"
	"vividperch/core/power"
	"vividperch/core/quad"
)

// ScaleAsk is a current sensor's scale to be found from what chargers put back.
type ScaleAsk struct {
	Was   float64         `json:"was"`
	Kind  power.ScaleKind `json:"kind" enum:"multiplies,divides"`
	Packs []power.Charged `json:"packs" maxItems:"40"`
	Pack  string          `json:"pack,omitempty" maxLength:"60"` // which was flown; empty is the largest
	// Idle is what a board without a sensor adds for itself, A; 0 where it has one.
	Idle float64 `json:"idle,omitempty" unit:"A" minimum:"0" maximum:"50"`
}

// ScaleView is what comes of it, and how the line says it.
type ScaleView struct {
	Scaled  *power.Scaled         `json:"scaled"`
	Setting *firmware.SettingLine `json:"setting,omitempty"`
	Says    string                `json:"says"` // why it cannot be set
}

// CurrentScale from charger figures.
func (a *App) CurrentScale(ctx context.Context, id int64, ask ScaleAsk) (*ScaleView, error) {
	return figuresOr(ctx, a, id, func(k quad.Known) (*ScaleView, error) {
		capacity := k.Parts.Packs[ask.Pack].Capacity
		if ask.Pack == "" {
			for _, p := range k.Parts.Packs {
				capacity = math.Max(capacity, p.Capacity)
			}
		}
		s, err := power.ScaleBy(ask.Kind, ask.Was, ask.Packs, capacity, ask.Idle)
		if err != nil {
			return nil, err
		}
		v := &ScaleView{Scaled: s}
		if b, ok := buildOf(k); ok {
			line, err := b.ScaleSetting(s.Scale)
			if f := quad.AsFault(err); f != nil {
				v.Says = quad.Sentence(f.Sentence)
			} else if err == nil {
				v.Setting = &line
			}
		}
		return v, nil
	})
}

// buildOf a quad's board, where its line says how it is told what flows.
func buildOf(k quad.Known) (*firmware.Build, bool) {
	board := k.Board
	if !board.Read() {
		board.Line, board.Version = k.Sheet.Firmware.Line, k.Sheet.Firmware.Version
	}
	b, err := firmware.For(board)
	return b, err == nil && b.Line.Current.Told()
}

// ModelAsk is a board's model of the current to be found from readings.
type ModelAsk struct {
	Idle   float64       `json:"idle" unit:"A" minimum:"0" maximum:"50"`
	Loaded []power.Drawn `json:"loaded" maxItems:"40"`
	Free   bool          `json:"free"` // finds the bend too; else it is the line's own
}

// ModelView is the model, how far off it may be, and what a reading may have slipped by.
type ModelView struct {
	Model *power.CurrentModel `json:"model"`
	// Curve over the output, with the band that 95 % of readings lie in.
	Curve    []ModelPoint           `json:"curve"`
	Slips    []power.Slip           `json:"slips"`
	Settings []firmware.SettingLine `json:"settings"`
	Says     string                 `json:"says"` // why they cannot be set
}

// ModelPoint of a curve.
type ModelPoint struct {
	Output float64 `json:"output" unit:"%"`
	Amps   float64 `json:"amps" unit:"A"`
	Least  float64 `json:"least" unit:"A"`
	Most   float64 `json:"most" unit:"A"`
}

// CurrentModel from readings at rest and under load. A decimal that slipped is named, and nothing is kept.
func (a *App) CurrentModel(ctx context.Context, id int64, ask ModelAsk) (*ModelView, error) {
	return figuresOr(ctx, a, id, func(k quad.Known) (*ModelView, error) {
		v := &ModelView{Curve: []ModelPoint{}, Slips: []power.Slip{}, Settings: []firmware.SettingLine{}}
		if s, ok := power.Slipped("at rest it draws", ask.Idle, power.IdleCurrent(k.Parts)); ok {
			v.Slips = append(v.Slips, s)
		}
		for _, d := range ask.Loaded {
			for _, e := range expectedAt(k, []float64{d.Output}) {
				if s, ok := power.Slipped("at "+quad.Quantity(d.Output, "%")+" it draws", d.Amps, e.Amps); ok {
					v.Slips = append(v.Slips, s)
				}
			}
		}
		b, told := buildOf(k)
		bend := 1.0
		if told {
			bend = b.Line.Current.Bend
		}
		if ask.Free {
			bend = math.NaN()
		}
		m, err := power.FitCurrent(ask.Idle, ask.Loaded, bend)
		if err != nil {
			return nil, err
		}
		v.Model = m
		for u := 0.0; u <= 100; u += 4 {
			least, most := m.Band(u / 100)
			v.Curve = append(v.Curve, ModelPoint{u, m.At(u / 100), least, most})
		}
		if !told {
			return v, nil
		}
		own := *m
		if ask.Free { // what its board can hold is its own bend
			if fit, err := power.FitCurrent(ask.Idle, ask.Loaded, b.Line.Current.Bend); err == nil {
				own = *fit
			}
		}
		lines, err := b.ModelSettings(own)
		if f := quad.AsFault(err); f != nil {
			v.Says = quad.Sentence(f.Sentence)
		} else if err == nil {
			v.Settings = lines
		}
		return v, nil
	})
}
