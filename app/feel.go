package app

import (
	"context"
	"encoding/json"
	"math"
	"slices"
	"time"

	"vividperch/core/airframe"
	"vividperch/core/check"
	"vividperch/core/feel"
	"vividperch/core/firmware"
	"vividperch/core/flight"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// FeelView is what the station of the feel offers beside what is tried there.
type FeelView struct {
	Family   quad.RateFamily `json:"family" enum:",centrePeak,compounding,straightExpo"`
	Families []FamilyView    `json:"families"`
	// Ghosts are curves that one may be held against: other profiles, and what was saved before.
	Ghosts []GhostView `json:"ghosts"`
	// Revisions is the number of the newest: one may be held against any of them, beside those that are listed.
	Revisions int           `json:"revisions" unit:"count"`
	Presets   []feel.Preset `json:"presets"`
	// Profiles by which the hands may be answered, the first in front; Symptoms are what a tune is blamed for.
	Profiles []GhostView    `json:"profiles"`
	Symptoms []feel.Symptom `json:"symptoms"`
	Lean     LeanView       `json:"lean"`
	Tune     *TuneView      `json:"tune,omitempty"` // where its firmware finds gains in flight by itself
	Holds    FeelHolds      `json:"holds"`
}

// FamilyView is a rate family, and whether the firmware of the quad has it.
type FamilyView struct {
	Family quad.RateFamily `json:"family" enum:"centrePeak,compounding,straightExpo"`
	Held   bool            `json:"held"`
}

// FeelHolds is what the firmware of the quad can hold of the feel, beside rates and gains.
type FeelHolds struct {
	Curve bool `json:"curve"` // of the throttle
	Cut   bool `json:"cut"`
	Even  bool `json:"even"` // thrust evened out by the board
}

// GhostView is a curve to hold another against.
type GhostView struct {
	Key   string `json:"key"`
	Words string `json:"words"`
}

// LeanView is how fast and how hard it goes by its limit of lean.
type LeanView struct {
	Told   bool         `json:"told"` // drag and weight are, so that speeds are known
	Leans  []LeanAt     `json:"leans"`
	Camera *CameraView  `json:"camera,omitempty"`
	Most   float64      `json:"most" unit:"deg"` // at which full throttle just carries it, with the heaviest pack low
	Packs  []LeanOfPack `json:"packs"`
}

// LeanAt is one lean.
type LeanAt struct {
	Lean  float64 `json:"lean" unit:"deg"`
	Speed float64 `json:"speed" unit:"m/s"` // at which it comes to fly level
	Pulls float64 `json:"pulls" unit:"m/s²"`
	Lifts float64 `json:"lifts" unit:"1"` // times its weight that it needs to keep its height
}

// LeanOfPack is how far it may lean with a pack and keep its height at full throttle.
type LeanOfPack struct {
	Pack string  `json:"pack"`
	Most float64 `json:"most" unit:"deg"`
}

// TuneView is a tune in flight by the board itself, as an act with its conditions.
type TuneView struct {
	Steps      []string               `json:"steps"`
	Settings   []string               `json:"settings"`
	Minutes    float64                `json:"minutes" unit:"min"` // about each axis
	Conditions []flight.TuneCondition `json:"conditions"`
	Ready      bool                   `json:"ready"`
	// Saved says that nothing is unsaved, so that the newest revision holds the gains that it flies now.
	Saved    bool `json:"saved"`
	Revision int  `json:"revision"`
	// Found are the gains that the board held when it was last read, where they are others than the settings'.
	Found []TuneFound `json:"found"`
}

// TuneFound is one gain that the board found.
type TuneFound struct {
	Path  quad.Path `json:"path"`
	Label string    `json:"label"`
	Was   string    `json:"was"`
	Now   string    `json:"now"`
	Value float64   `json:"value" unit:"inherit"`
}

// Feel of a quad.
func (a *App) Feel(ctx context.Context, id int64) (*FeelView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	k := o.known
	v := &FeelView{Family: k.Sheet.Feel.Family, Presets: feel.Presets(), Symptoms: feel.Symptoms(), Lean: leanOf(k), Profiles: []GhostView{}, Ghosts: []GhostView{{"before", "your settings as they are"}}}
	build := a.buildOf(o)
	var held []string
	if build != nil {
		held = build.Dictionary.WordsAt("sheet.feel.family")
		at := func(p quad.Path) bool { return len(build.Dictionary.SettingsFor(p)) > 0 }
		v.Holds = FeelHolds{at("sheet.feel.throttleMiddle"), at("sheet.feel.throttleCut"), at("sheet.motors.linear")}
	}
	for _, f := range quad.RateFamily("").Enum() {
		v.Families = append(v.Families, FamilyView{quad.RateFamily(f), build == nil || slices.Contains(held, f)})
	}
	for _, hands := range feel.AllProfiles(&k.Sheet) {
		if hands.Roll.Peak > 0 {
			v.Profiles = append(v.Profiles, GhostView{string(hands.At), hands.Words})
		}
		if hands.Path != "" && hands.Roll.Peak > 0 {
			v.Ghosts = append(v.Ghosts, GhostView{string(hands.At), hands.Words})
		}
	}
	list, err := a.keep.Revisions(ctx, a.pilot, id, 0, ghostsMost)
	if err != nil {
		return nil, err
	}
	was := ""
	for _, r := range list {
		m, err := quad.ReadMeant(r.Body)
		if err != nil {
			return nil, err
		}
		f := m.Sheet.Feel
		raw, err := json.Marshal([]any{f.Family, f.Roll, f.Pitch, f.Yaw})
		if err != nil {
			return nil, err
		}
		if f.Roll.Peak > 0 && string(raw) != was {
			v.Ghosts = append(v.Ghosts, GhostView{"revision " + quad.Number(float64(r.Number)), "revision " + quad.Number(float64(r.Number)) + ", " + r.At.In(time.Local).Format("2 January 2006")})
		}
		was = string(raw)
	}
	if len(list) > 0 {
		v.Revisions = list[0].Number
	}
	if build != nil && build.Line.Tunes != nil {
		v.Tune = tuneOf(o, build, v.Revisions)
	}
	return v, nil
}

// ghostsMost is how many of the newest revisions are looked through for other curves to list.
const ghostsMost = 12

// buildOf the firmware that is meant; nil where nobody knows it.
func (a *App) buildOf(o *opened) *firmware.Build {
	is := o.known.Sheet.Firmware
	b, err := firmware.For(quad.Board{Line: is.Line, Version: is.Version, Dictionary: o.file.Taught[is.Line]})
	if err != nil {
		return nil
	}
	return b
}

// leanOf a quad: what each lean asks for, and how far it may go with each pack low.
func leanOf(k quad.Known) LeanView {
	v := LeanView{Leans: []LeanAt{}, Packs: []LeanOfPack{}}
	_, pack, _ := airframe.Heaviest(k.Parts)
	mass := airframe.Mass(k.Parts, pack, k.Weight()) * 1000
	for lean := 5.0; lean <= 80; lean += 5 {
		pulls, lifts := feel.Lean(lean, airframe.Gravity)
		one := LeanAt{Lean: lean, Pulls: math.Round(100*pulls) / 100, Lifts: math.Round(100*lifts) / 100, Speed: round1(flight.LevelSpeed(k.Parts, mass, lean))}
		v.Told = v.Told || one.Speed > 0
		v.Leans = append(v.Leans, one)
	}
	list, _ := airframe.FedByEach(k.Parts, airframe.LowCell)
	for _, f := range list {
		most := math.Round(feel.LeanOf(f.Drive.Lifts(1, packMass(k, f.Name))))
		v.Packs = append(v.Packs, LeanOfPack{f.Name, most})
		if v.Most == 0 || most < v.Most {
			v.Most = most
		}
	}
	v.Camera = cameraOf(k.Parts, mass)
	return v
}

// tuneOf a quad whose board finds gains in flight.
func tuneOf(o *opened, b *firmware.Build, revision int) *TuneView {
	k := o.known
	v := &TuneView{Steps: b.Line.Tunes.Steps, Settings: b.Line.Tunes.Settings, Minutes: b.Line.Tunes.Minutes, Found: []TuneFound{}, Saved: len(o.file.Edits) == 0, Revision: revision}
	is := "changes are not saved"
	if v.Saved {
		is = "revision " + quad.Number(float64(revision))
	}
	v.Conditions = append(flight.TuneConditions(k, v.Minutes), flight.TuneCondition{Words: "The gains that fly now are kept as a revision, to go back to", Is: is, Met: v.Saved})
	v.Ready = !slices.ContainsFunc(v.Conditions, func(c flight.TuneCondition) bool { return !c.Met })
	if k.Board.Read() {
		v.found(k, b.Dictionary)
	}
	return v
}

// found lists the gains that the board holds otherwise than the settings, as far as its firmware tells them apart.
func (v *TuneView) found(k quad.Known, d *firmware.Dictionary) {
	for i, gains := range k.Board.Sheet.Feel.Gains() {
		at := "sheet.feel." + quad.Path(motors.Turns[i]) + "Gains"
		before := quad.Leaves(k.Sheet.Feel.Gains()[i], at)
		for j, now := range quad.Leaves(gains, at) {
			if was := before[j]; !d.Alike(now.Path, was.Value, now.Value) {
				v.Found = append(v.Found, TuneFound{now.Path, now.Label, was.Words(), now.Words(), now.Value.(float64)})
			}
		}
	}
}

// Tried is what is tried at the station of the feel, on top of the settings as they are.
type Tried []SetValue

// trying is what is known of a quad with some settings tried.
func (o *opened) trying(tried Tried) (quad.Known, error) {
	k := o.known
	if len(tried) == 0 {
		return k, nil
	}
	meant := k.Meant()
	edits, err := editsFor(meant, tried)
	if err != nil {
		return k, err
	}
	m, err := quad.Apply(meant, edits)
	if err != nil {
		return k, err
	}
	k.Sheet, k.Parts, k.Radio, k.Limits = m.Sheet, m.Parts, m.Radio, m.Limits
	return k, nil
}

// rateEdits put rates at a place.
func rateEdits(at quad.Path, r quad.Rates) []check.Edit {
	return []check.Edit{{Path: at + ".centre", Value: quad.Number(r.Centre)}, {Path: at + ".peak", Value: quad.Number(r.Peak)}, {Path: at + ".bend", Value: quad.Number(r.Bend)}}
}
