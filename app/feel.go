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
	"vividperch/core/picture"
	"vividperch/core/quad"
)

// FeelView is what the station of the feel offers beside what is tried there.
type FeelView struct {
	Family   quad.RateFamily `json:"family" enum:",centrePeak,compounding,straightExpo"`
	Families []FamilyView    `json:"families"`
	// Ghosts are curves that one may be held against: other profiles, and what was saved before.
	Ghosts  []GhostView   `json:"ghosts"`
	Presets []feel.Preset `json:"presets"`
	// Profiles by which the hands may be answered, the first in front; Symptoms are what a tune is blamed for.
	Profiles []GhostView    `json:"profiles"`
	Symptoms []feel.Symptom `json:"symptoms"`
	Lean     LeanView       `json:"lean"`
	Tune     *TuneView      `json:"tune,omitempty"` // where its firmware finds gains in flight by itself
	Holds    FeelHolds      `json:"holds"`
	// Whole says that it is told enough to be flown in the model; Lacks is what is missing then, in words.
	Whole bool   `json:"whole"`
	Lacks string `json:"lacks"`
}

// FamilyView is a rate family, and whether the firmware of the quad has it.
type FamilyView struct {
	Family quad.RateFamily `json:"family" enum:"centrePeak,compounding,straightExpo"`
	Held   bool            `json:"held"`
}

// FeelHolds is what the firmware of the quad can hold of the feel, beside rates and gains.
type FeelHolds struct {
	Curve       bool `json:"curve"` // of the throttle
	Cut         bool `json:"cut"`
	FeedForward bool `json:"feedForward"`
	Recording   bool `json:"recording"`
}

// GhostView is a curve to hold another against.
type GhostView struct {
	Key   string `json:"key"`
	Words string `json:"words"`
}

// LeanView is how fast and how hard it goes by its limit of lean.
type LeanView struct {
	Limit  float64      `json:"limit" unit:"deg"`
	Told   bool         `json:"told"` // drag and weight are, so that speeds are known
	Leans  []LeanAt     `json:"leans"`
	Camera *LeanCamera  `json:"camera,omitempty"`
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

// LeanCamera is a camera that looks up.
type LeanCamera struct {
	Tilt    float64          `json:"tilt" unit:"deg"`
	Speed   float64          `json:"speed" unit:"m/s"` // at which the horizon lies in the middle of its picture
	Horizon *picture.Horizon `json:"horizon,omitempty"`
}

// LeanOfPack is how far it may lean with a pack and keep its height at full throttle.
type LeanOfPack struct {
	Pack string  `json:"pack"`
	Most float64 `json:"most" unit:"deg"`
}

// TuneView is a tune in flight by the board itself, as an act with its conditions.
type TuneView struct {
	Steps      []string        `json:"steps"`
	Settings   []string        `json:"settings"`
	Minutes    float64         `json:"minutes" unit:"min"` // about each axis
	Conditions []TuneCondition `json:"conditions"`
	Ready      bool            `json:"ready"`
	// Saved says that nothing is unsaved, so that the newest revision holds the gains that it flies now.
	Saved    bool `json:"saved"`
	Revision int  `json:"revision"`
	// Found are the gains that the board held when it was last read, where they are others than the settings'.
	Found []TuneFound `json:"found"`
}

// TuneCondition is one thing that must be so before a tune in flight.
type TuneCondition struct {
	Words string `json:"words"`
	Is    string `json:"is"`
	Met   bool   `json:"met"`
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
	v := &FeelView{Family: k.Sheet.Feel.Family, Presets: feel.Presets(), Symptoms: feel.Symptoms(), Lean: leanOf(k, k.Sheet.Feel.AngleLimit), Profiles: []GhostView{}, Ghosts: []GhostView{{"before", "your settings as they are"}}}
	build := a.buildOf(o)
	var held []string
	if build != nil {
		held = build.Dictionary.WordsAt("sheet.feel.family")
		at := func(p quad.Path) bool { return len(build.Dictionary.SettingsFor(p)) > 0 }
		v.Holds = FeelHolds{at("sheet.feel.throttleMiddle"), at("sheet.feel.throttleCut"), at("sheet.feel.rollGains.feedForward"), at("sheet.feel.recording.medium")}
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
	if _, err := flight.Meant(k); err != nil {
		v.Lacks = quad.Explain(err)
	} else {
		v.Whole = true
	}
	if build != nil && build.Line.Tunes != nil {
		head := 0
		if len(list) > 0 {
			head = list[0].Number
		}
		v.Tune = tuneOf(o, build, head)
	}
	return v, nil
}

// ghostsMost is how many revisions are looked through for other curves.
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

// leanOf a quad with a limit of lean in deg.
func leanOf(k quad.Known, limit float64) LeanView {
	v := LeanView{Limit: limit, Leans: []LeanAt{}, Packs: []LeanOfPack{}}
	_, pack, _ := airframe.Heaviest(k.Parts)
	mass := airframe.Mass(k.Parts, pack, weightOf(k)) * 1000
	for lean := 5.0; lean <= 80; lean += 5 {
		one := LeanAt{Lean: lean, Pulls: math.Round(100*airframe.Gravity*math.Tan(lean*math.Pi/180)) / 100, Lifts: math.Round(100/math.Cos(lean*math.Pi/180)) / 100}
		one.Speed = math.Round(10*flight.LevelSpeed(k.Parts, mass, lean)) / 10
		v.Told = v.Told || one.Speed > 0
		v.Leans = append(v.Leans, one)
	}
	for _, name := range quad.SortedKeys(k.Parts.Packs) {
		p := k.Parts.Packs[name]
		d, err := airframe.NewDrive(k.Parts, p, airframe.LowCell*float64(p.Cells), airframe.Density)
		if err != nil || p.Cells == 0 {
			continue
		}
		most := 0.0
		if ratio := d.Lifts(1, packMass(k, name)); ratio > 1 {
			most = math.Round(math.Acos(1/ratio) * 180 / math.Pi)
		}
		v.Packs = append(v.Packs, LeanOfPack{name, most})
		if v.Most == 0 || most < v.Most {
			v.Most = most
		}
	}
	if cam := k.Parts.Video; cam.Fitted && cam.CameraTilt > 0 {
		c := &LeanCamera{Tilt: cam.CameraTilt, Speed: math.Round(10*flight.LevelSpeed(k.Parts, mass, cam.CameraTilt)) / 10}
		if h, ok := picture.HorizonOf(cam.CameraTilt, cam.CameraView); ok {
			c.Horizon = &h
		}
		v.Camera = c
	}
	return v
}

// calmMost is the wind in which a board may look for its gains, m/s: gusts look like its own rocking.
const calmMost = 3.0

// tuneOf a quad whose board finds gains in flight.
func tuneOf(o *opened, b *firmware.Build, revision int) *TuneView {
	k := o.known
	v := &TuneView{Steps: b.Line.Tunes.Steps, Settings: b.Line.Tunes.Settings, Minutes: b.Line.Tunes.Minutes, Found: []TuneFound{}, Saved: len(o.file.Edits) == 0, Revision: revision}
	add := func(words, is string, met bool) { v.Conditions = append(v.Conditions, TuneCondition{words, is, met}) }
	r := k.Readings.FirstFlight.Rehearsal
	flies := r != nil && r.Value.Outcome == string(flight.Landed)
	is := "not rehearsed yet"
	if r != nil {
		is = r.Value.Sentence
	}
	add("It flies already: a tune makes good gains better, and crashes with bad ones", is, flies)
	w := k.Readings.FirstFlight.Wind
	is = "not measured today"
	if w != nil {
		is = quad.Quantity(w.Value, "m/s")
	}
	add("The air is calm, up to "+quad.Quantity(calmMost, "m/s"), is, w != nil && w.Value <= calmMost)
	clear, is := k.Readings.FirstFlight.Clear, "not looked at"
	if clear != nil {
		is = quad.Quantity(clear.Value, "m") + " around"
	}
	add("There is room: 30 m around, nobody below", is, clear != nil && clear.Value >= 30)
	longest, which := 0.0, ""
	for _, name := range quad.SortedKeys(k.Parts.Packs) {
		p := k.Parts.Packs[name]
		if d, err := airframe.NewDrive(k.Parts, p, airframe.RestCell*float64(p.Cells), airframe.Density); err == nil && p.Cells > 0 {
			if seconds, ok := d.Lasts(p, packMass(k, name), 0, k.Sheet.Watch.LandPerCell); ok && seconds/60 > longest {
				longest, which = seconds/60, name
			}
		}
	}
	needs := 3*v.Minutes + 2
	is = "no pack is known to last"
	if which != "" {
		is = which + " hovers for " + quad.Quantity(math.Round(10*longest)/10, "min")
	}
	add("A pack lasts for "+quad.Quantity(needs, "min")+", three axes and the way down; else one axis a pack", is, longest >= needs)
	is = "changes are not saved"
	if v.Saved {
		is = "revision " + quad.Number(float64(revision))
	}
	add("The gains that fly now are kept as a revision, to go back to", is, v.Saved)
	v.Ready = !slices.ContainsFunc(v.Conditions, func(c TuneCondition) bool { return !c.Met })
	if k.Board.Read() {
		v.found(k)
	}
	return v
}

// found lists the gains that the board holds otherwise than the settings.
func (v *TuneView) found(k quad.Known) {
	for i, axis := range []quad.Path{"roll", "pitch", "yaw"} {
		at := "sheet.feel." + axis + "Gains"
		is := [3]quad.Gains{k.Board.Sheet.Feel.RollGains, k.Board.Sheet.Feel.PitchGains, k.Board.Sheet.Feel.YawGains}[i]
		was := [3]quad.Gains{k.Sheet.Feel.RollGains, k.Sheet.Feel.PitchGains, k.Sheet.Feel.YawGains}[i]
		now, before := quad.Leaves(is, at), quad.Leaves(was, at)
		for j := range now {
			x, y := now[j].Value.(float64), before[j].Value.(float64)
			if math.Abs(x-y) > 0.01*math.Max(math.Abs(x), math.Abs(y)) {
				v.Found = append(v.Found, TuneFound{now[j].Path, now[j].Label, before[j].Words(), now[j].Words(), x})
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
