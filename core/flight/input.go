// Package flight flies a quad: rigid body, four rotors with lag and sag, feet on the ground, gyro, and the
// controller that the board's settings describe. It is a stepper: [New], [Stepper.Step], [Stepper.State].
//
// Body axes are forward-right-down, the world is north-east-down with the ground at zero, rotation as seen
// from above. Everything is SI; a sheet's units are converted on the way in. docs/flight-model.md derives
// the equations and lists what each is checked against.
package flight

import (
	"fmt"
	"math"
	"strings"

	"vividperch/core/airframe"
	"vividperch/core/feel"
	"vividperch/core/firmware"
	"vividperch/core/motors"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// Version of the model; it takes part in the hash of every cached or recorded result.
const Version = 13

// Rate of the model's steps when nothing else is asked for, Hz.
const Rate = 1000

// fastest steps that a flight can be asked for, Hz.
const fastest = 8000

// Site is where and in what air it flies.
type Site struct {
	WindNorth float64 `json:"windNorth" unit:"m/s"` // the air moves this way
	WindEast  float64 `json:"windEast" unit:"m/s"`
	Gust      float64 `json:"gust" unit:"m/s"` // strength of the gusts along the wind, one sigma
	Density   float64 `json:"density" unit:"kg/m³"`
}

// Input is everything a flight depends on.
type Input struct {
	Parts    quad.Parts  `json:"parts"`
	Pack     quad.Pack   `json:"pack"`
	CellVolt float64     `json:"cellVolt" unit:"V"` // open circuit, per cell
	Mass     float64     `json:"mass" unit:"kg"`
	Settings Settings    `json:"settings"`
	Actual   quad.Actual `json:"actual"`
	Site     Site        `json:"site"`
	Noise    float64     `json:"noise" unit:"deg/s"` // of the gyro, one sigma
	Seed     uint64      `json:"seed"`               // of the noise
	Ideal    bool        `json:"ideal"`              // no pack resistance, and the air does not answer to the rotors: for comparison with closed forms
	// OnLoss is what the receiver puts out without a radio, and Preset what it holds then, µs by channel.
	OnLoss quad.LossOutput `json:"onLoss"`
	Preset quad.Pulses     `json:"preset" unit:"µs"`
	// AtRest is what arrives while nobody touches a switch, and Mixes what the radio adds to that and to the sticks, each after those
	// onto the channel it takes from.
	AtRest quad.Pulses    `json:"atRest" unit:"µs"`
	Mixes  []quad.MixPlan `json:"mixes"`
	Rate   int            `json:"rate" unit:"Hz"` // of the model's steps; 0 is the usual one
}

func (in Input) rate() int {
	if in.Rate == 0 {
		return Rate
	}
	return in.Rate
}

// Settings are what the controller goes by: the meaning of a board's settings, whoever decoded them.
type Settings struct {
	Order      string                 `json:"order"`
	Arm        quad.Range             `json:"arm"`
	SelfLevel  quad.Range             `json:"selfLevel"`
	Blended    quad.Range             `json:"blended"`
	Blend      float64                `json:"blend"`     // 0..1 of full stick, where blended has let go
	Authority  quad.Range             `json:"authority"` // at idle
	Firm       bool                   `json:"firm"`      // authority at idle in every position
	ArmTilt    float64                `json:"armTilt"`   // deg
	Reverses   bool                   `json:"reverses"`  // reversible thrust: the throttle rests in its middle; below it the rotors turn backward
	ByStick    bool                   `json:"byStick"`   // arms by throttle down and yaw to the right
	Ranges     quad.StickRanges       `json:"ranges"`    // mapped to 1000-1500-2000 µs
	Deadband   float64                `json:"deadband"`  // µs
	IdleBelow  float64                `json:"idleBelow"` // µs
	Layout     quad.Layout            `json:"layout"`
	Rotation   quad.Rotation          `json:"rotation"`
	Places     map[string]quad.Corner `json:"places"` // output -> corner
	Idle       float64                `json:"idle"`   // 0..1
	Limit      float64                `json:"limit"`  // 0..1
	Family     quad.RateFamily        `json:"family"`
	Rates      [3]quad.Rates          `json:"rates"` // roll, pitch, yaw; deg/s
	Gains      [3]quad.Gains          `json:"gains"`
	AngleLimit float64                `json:"angleLimit"`       // deg
	Others     []Profile              `json:"others,omitempty"` // that a switch puts in place of these rates and limits; the last that is on counts
	Pull       float64                `json:"pull"`             // 1/s
	Board      quad.Mount             `json:"board"`            // as it is told to lie
	Guard      float64                `json:"guard"`            // s
	Policy     quad.Policy            `json:"policy"`
	LandPush   float64                `json:"landPush"` // 0..1
	Nav        Navigation             `json:"nav,omitzero"`
	Curve      feel.ThrottleCurve     `json:"curve"`
	LoopRate   float64                `json:"loopRate"` // Hz; 0 is that of the model
	Protocol   quad.ThrottleProtocol  `json:"protocol"` // nothing: duties arrive as they are
	// Filters on what the gyro shows and on its change. What nobody told of the first low-passes is at the line's own cutoffs, Hz; without a line there is none on
	// the gyro, and the usual one on its change.
	Filters      quad.Filters `json:"filters,omitzero"`
	GyroCutoff   float64      `json:"gyroCutoff"`
	ChangeCutoff float64      `json:"changeCutoff"`
	Follows      bool         `json:"follows"` // the speed controllers tell it how fast they turn
	Cut          bool         `json:"cut"`     // the throttle limit stops the stick short
	// Even is how much of a thrust that climbs with the square of the duty each motor has evened out, 0..1.
	Even float64 `json:"even,omitempty"`
}

// loopRate of the controller, Hz. The model runs it no more often than it steps itself.
func (s Settings) loopRate() float64 {
	if s.LoopRate <= 0 {
		return fastest
	}
	return s.LoopRate
}

// output that a throttle comes to.
func (s *Settings) output() motors.Output {
	return motors.Output{Idle: s.Idle, Limit: s.Limit, Cut: s.Cut, Even: s.Even}
}

// Profile of the hands that counts while a channel is inside its range, as long as the radio is there.
type Profile struct {
	When       quad.Range    `json:"when"`
	Rates      [3]quad.Rates `json:"rates"`      // roll, pitch, yaw; deg/s
	AngleLimit float64       `json:"angleLimit"` // deg
	Limit      float64       `json:"limit"`      // 0..1
}

// answering are the settings with the rates and limits of the profile that some pulses choose.
func (s Settings) answering(arrives *quad.Pulses) Settings {
	for _, p := range s.Others {
		if p.When.On(arrives) {
			s.Rates, s.AngleLimit, s.Limit = p.Rates, p.AngleLimit, p.Limit
		}
	}
	return s
}

// SettingsOf takes a sheet (usually a board's, decoded) as the controller's settings.
func SettingsOf(s quad.Sheet) Settings {
	out := Settings{
		Order: s.Sticks.Order, Arm: s.Sticks.Arm, SelfLevel: s.Sticks.SelfLevel,
		Ranges: s.Sticks.Ranges, Deadband: s.Sticks.Deadband, IdleBelow: s.Sticks.IdleBelow,
		Layout: s.Craft.Layout, Rotation: s.Craft.Rotation, Places: map[string]quad.Corner{},
		Idle: s.Motors.Idle / 100, Limit: s.Feel.ThrottleLimit / 100,
		Family: s.Feel.Family, Rates: [3]quad.Rates{s.Feel.Roll, s.Feel.Pitch, s.Feel.Yaw},
		Gains:      [3]quad.Gains{s.Feel.RollGains, s.Feel.PitchGains, s.Feel.YawGains},
		AngleLimit: s.Feel.AngleLimit, Pull: s.Feel.LevelStrength, Board: s.Senses.Mount(),
		Guard: s.Loss.Guard, Policy: s.Loss.Policy, LandPush: s.Loss.LandThrottle / 100,
	}
	out.Blended, out.Blend, out.Authority, out.Firm, out.ArmTilt = s.Sticks.Blended, BlendOf(s.Feel), s.Sticks.Authority, s.Sticks.AuthorityAlways, sticks.ArmTilt(s.Sticks)
	out.LoopRate, out.Protocol, out.Curve = s.Motors.LoopRate, s.Motors.Protocol, feel.CurveOf(s.Feel)
	if line, ok := firmware.FindLine(s.Firmware.Line); ok {
		out.GyroCutoff, out.ChangeCutoff = line.Control.Gyro, line.Control.Derivative
	}
	out.Filters, out.Follows, out.Cut, out.Even = s.Feel.Filters, s.Motors.TwoWay, s.Feel.ThrottleCut, s.Motors.Linear/100
	out.ByStick, out.Reverses = s.Sticks.ArmByStick, s.Motors.Reversible
	out.Nav = Navigation{
		Hold: s.Sticks.Hold, ComeHome: s.Sticks.ComeHome, Way: s.Loss.Way, WayHeight: s.Loss.WayHeight, Speed: s.Loss.HomeSpeed,
		AtHome: s.Loss.AtHome, Near: s.Loss.Near, Satellites: s.Loss.Satellites,
	}
	for letter, plan := range s.Motors.Outputs {
		out.Places[letter] = plan.Corner
	}
	for _, p := range feel.Profiles(&s)[1:] {
		out.Others = append(out.Others, Profile{When: p.When, Rates: [3]quad.Rates{p.Roll, p.Pitch, p.Yaw}, AngleLimit: p.AngleLimit, Limit: p.ThrottleLimit / 100})
	}
	return out
}

// usualBlend is where blended lets go when nobody told, as a share of full stick.
const usualBlend = 0.75

// BlendOf a sheet, as a share of full stick.
func BlendOf(f quad.FeelSheet) float64 {
	if f.Blend > 0 {
		return f.Blend / 100
	}
	return usualBlend
}

// Sticks are what reaches the board in one step.
type Sticks struct {
	Channels quad.Pulses
	Heard    bool // a frame arrived
}

// NewInput puts together what is known: the board's settings as decoded (or the sheet's, when there is no
// read-back), the quad as observed, the heaviest pack at resting voltage, the wind of
// the day when it was read.
func NewInput(k quad.Known) (Input, error) {
	_, pack, ok := airframe.Heaviest(k.Parts)
	if !ok {
		return Input{}, quad.Faultf("no-pack", "parts.packs", "no pack is assigned; nothing flies without one")
	}
	if open := untold(&k); len(open) > 0 {
		f, err := quad.FieldAt(open[0])
		if err != nil {
			return Input{}, err
		}
		more := ""
		if n := len(open) - 1; n > 0 {
			more = ", nor what is set at " + quad.Count(n, "other place", "other places")
		}
		return Input{}, quad.Faultf("not-told", string(open[0]), "%s is not told%s; a flight would go by noughts that are nobody's", strings.ToLower(f.Label), more)
	}
	sheet := k.Sheet
	if k.Board.Read() {
		sheet = k.Board.Sheet
		sheet.Firmware.Line = k.Board.Line
	}
	weight := 0.0
	if k.Readings.Airframe.Weight != nil {
		weight = k.Readings.Airframe.Weight.Value
	}
	actual := quad.Observe(k).Actual
	in := Input{
		Parts: flown(k.Parts), Pack: pack, CellVolt: airframe.RestCell, Mass: airframe.Mass(k.Parts, pack, weight),
		Settings: SettingsOf(sheet), Actual: actual,
		Site: Site{Density: airframe.Density}, Noise: GyroNoise, Seed: 1,
	}
	board := sticks.NewSwitchboard(k)
	in.AtRest, in.Mixes = board.AtRest(k.Radio), board.Mixes()
	if w := k.Readings.FirstFlight.Wind; w != nil {
		in.Site.WindNorth = -w.Value // the nose stands north, into the wind
		in.Site.Gust = GustShare * w.Value
		if g := k.Readings.FirstFlight.Gust; g != nil {
			in.Site.Gust = GustsOf(w.Value, g.Value)
		}
	}
	return in, in.check()
}

// untold are the places that a flight goes by and nobody told. Of a board that was read nothing is untold.
func untold(k *quad.Known) []quad.Path {
	if k.Board.Read() {
		return nil
	}
	out := quad.UntoldGaps(k, goesBy)
	for _, p := range feel.Profiles(&k.Sheet)[1:] {
		out = append(out, quad.Untold(k, []quad.Path{p.At + ".angleLimit", p.At + ".throttleLimit", p.At + ".roll.peak", p.At + ".pitch.peak", p.At + ".yaw.peak"})...)
	}
	return out
}

// goesBy are the places of the sheet that [SettingsOf] takes and of which 0 means something.
var goesBy = []quad.Path{"sheet.feel", "sheet.sticks", "sheet.motors.reversible", "sheet.motors.outputs", "sheet.senses.boardRoll", "sheet.senses.boardPitch", "sheet.senses.boardYaw"}

// Whole says whether a quad has what every flight needs: outputs for four corners, one each, arms, and packs with cells, and settings that
// somebody told.
func Whole(k quad.Known) bool {
	corners := map[quad.Corner]bool{}
	for _, o := range k.Sheet.Motors.Outputs {
		corners[o.Corner] = o.Corner.Index() >= 0
	}
	for _, p := range k.Parts.Packs {
		if p.Cells == 0 {
			return false
		}
	}
	if len(untold(&k)) > 0 {
		return false
	}
	f := k.Parts.Frame
	if f.ArmFront <= 0 || f.ArmSide <= 0 && k.Sheet.Craft.Layout != quad.LayoutPlus {
		return false
	}
	return len(corners) == len(quad.Corners) && len(k.Sheet.Motors.Outputs) == len(quad.Corners) && len(k.Parts.Packs) > 0
}

// GustsOf is how strong gusts are (one sigma, m/s) with a mean wind and a strongest gust of five minutes.
func GustsOf(wind, strongest float64) float64 { return math.Max(0, (strongest-wind)/gustPeak) }

// WithMostCells is an input with the assigned pack of the most cells in place of the heaviest.
func (in Input) WithMostCells(p quad.Parts) Input {
	if _, pack, ok := airframe.MostCells(p); ok {
		in.Mass += (pack.Mass - in.Pack.Mass) / 1000
		in.Pack = pack
	}
	return in
}

// flown keeps what a flight depends on of the parts, so that a new name or nut torque is not another flight.
func flown(p quad.Parts) quad.Parts {
	f, m, b := p.Frame, p.Motor, p.Propeller
	packs := map[string]quad.Pack{} // a trial flies them all
	for name, pack := range p.Packs {
		packs[name] = quad.Pack{Cells: pack.Cells, Capacity: pack.Capacity, Resistance: pack.Resistance, Mass: pack.Mass}
	}
	return quad.Parts{
		Packs:     packs,
		Frame:     quad.Frame{ArmFront: f.ArmFront, ArmSide: f.ArmSide, LegHeight: f.LegHeight, DragArea: f.DragArea},
		Motor:     quad.Motor{KV: m.KV, Resistance: m.Resistance, IdleCurrent: m.IdleCurrent, TimeConst: airframe.Lag(p), Mass: airframe.MotorMass(p)},
		Propeller: quad.Propeller{Diameter: b.Diameter, Thrust: b.Thrust, Power: b.Power, Reversed: b.Reversed},
	}
}

func (in Input) check() error {
	bad := func(path, what string) error { return quad.Faultf("impossible-airframe", path, "%s", what) }
	for _, n := range []struct {
		x    float64
		path string
		what string
	}{
		{in.Mass, "readings.airframe.weight", "the mass must be above zero"},
		{in.Parts.Frame.ArmFront, "parts.frame.armFront", "the arms must have a length"},
		{in.CellVolt * float64(in.Pack.Cells), "parts.packs", "the pack must have cells"},
		{in.Site.Density, "site.density", "the air must have a density"},
	} {
		if !(n.x > 0) || math.IsInf(n.x, 0) {
			return bad(n.path, n.what)
		}
	}
	if in.Rate != 0 && (in.Rate < airRate || in.Rate > fastest) {
		return bad("rate", fmt.Sprintf("the model steps %d to %d times a second", airRate, fastest))
	}
	for _, n := range in.figures() {
		if math.IsNaN(n.x) || math.Abs(n.x) > n.most {
			return bad(n.path, n.what+" must be a figure, and no more than "+quad.Number(n.most))
		}
	}
	if in.Actual.Layout != quad.LayoutPlus && !(in.Parts.Frame.ArmSide > 0) {
		return bad("parts.frame.armSide", "the arms must reach sideways")
	}
	if len(in.Settings.Places) != 4 {
		return bad("sheet.motors.outputs", "four outputs must drive four corners")
	}
	for _, letter := range quad.SortedKeys(in.Settings.Places) {
		at := "sheet.motors.outputs." + letter
		if in.Settings.Places[letter].Index() < 0 {
			return bad(at+".corner", "the output drives no corner")
		}
		if a, ok := in.Actual.Outputs[letter]; !ok || a.Corner.Index() < 0 || a.Spin == "" {
			return bad(at, "nothing is known of what the output drives")
		}
	}
	if !sticks.ValidOrder(in.Settings.Order) {
		return bad("sheet.sticks.order", "the channel order must name A, E, T and R once each")
	}
	return nil
}

// figure of an input that may be anything up to a bound.
type figure struct {
	x, most    float64
	path, what string
}

// figures that a flight goes by and no dictionary or schema has looked at when they come from a file.
func (in Input) figures() []figure {
	set, a := &in.Settings, &in.Actual
	out := []figure{
		{in.Site.WindNorth, 60, "readings.firstFlight.wind", "the wind"}, {in.Site.WindEast, 60, "readings.firstFlight.wind", "the wind"},
		{in.Site.Gust, 40, "readings.firstFlight.gust", "the gusts"}, {in.Noise, 500, "noise", "the gyro's noise"},
		{in.Mass, 25, "readings.airframe.weight", "the mass in kg"}, {in.Site.Density, 5, "site.density", "the air's density"},
		{in.Parts.Frame.DragArea, 1e5, "parts.frame.dragArea", "the drag area"}, {in.Parts.Frame.LegHeight, 1e3, "parts.frame.legHeight", "the legs"},
		{in.Parts.Frame.ArmFront, 1e3, "parts.frame.armFront", "the arms"}, {in.Parts.Frame.ArmSide, 1e3, "parts.frame.armSide", "the arms"},
		{in.Parts.Motor.Mass, 1e4, "parts.motor.mass", "the motors' mass"}, {in.Pack.Capacity, 1e6, "parts.packs", "the pack's capacity"},
		{a.Centre.Ahead, 1e3, "readings.airframe.balance", "where it balances"}, {a.Centre.Right, 1e3, "readings.airframe.balance", "where it balances"},
		{in.Parts.Motor.TimeConst, 1e3, "parts.motor.timeConstant", "the motors' time constant"}, {in.Parts.Propeller.Reversed, 1, "parts.propeller.reversed", "the share of thrust turned backwards"},
		{set.Idle, 1, "sheet.motors.idle", "idle"}, {set.Limit, 1, "sheet.feel.throttleLimit", "the throttle limit"}, {set.Even, 1, "sheet.motors.linear", "what is evened out of the thrust"}, {set.AngleLimit, 90, "sheet.feel.angleLimit", "the angle limit"},
		{set.Pull, 100, "sheet.feel.levelStrength", "the strength of self-level"}, {set.LoopRate, 1e5, "sheet.motors.loopRate", "the loop rate"},
		{set.Guard, 600, "sheet.loss.guard", "the failsafe delay"}, {set.LandPush, 1, "sheet.loss.landThrottle", "the throttle while landing"},
		{set.Curve.Middle, 1, "sheet.feel.throttleMiddle", "the throttle's middle"}, {set.Curve.Bend, 1, "sheet.feel.throttleBend", "the throttle's bend"},
		{a.TiltRoll, 360, "actual.tiltRoll", "the tilt"}, {a.TiltPitch, 360, "actual.tiltPitch", "the tilt"},
		{a.Board.Roll, 720, "actual.board.roll", "the mount"}, {a.Board.Pitch, 720, "actual.board.pitch", "the mount"}, {a.Board.Yaw, 720, "actual.board.yaw", "the mount"},
		{set.Board.Roll, 720, "sheet.senses.boardRoll", "the mount"}, {set.Board.Pitch, 720, "sheet.senses.boardPitch", "the mount"}, {set.Board.Yaw, 720, "sheet.senses.boardYaw", "the mount"},
	}
	place, nav := &a.Place, &set.Nav
	out = append(out,
		figure{place.Dilution, 100, "readings.senses.satellites", "the dilution"}, figure{place.HeadingOff, 360, "readings.senses.heading", "the heading"},
		figure{place.Disturbs, 1e3, "readings.senses.interference", "the interference"}, figure{place.Horizontal, 100, "readings.senses.heading", "the field along the ground"},
		figure{place.HeightNoise, 100, "readings.senses.heights", "the height's noise"}, figure{place.HeightDrift, 1e3, "readings.senses.heights", "the height's drift"}, figure{place.HeightJump, 1e3, "readings.senses.heights", "the height's jump"},
		figure{nav.WayHeight, 1e3, "sheet.loss.wayHeight", "the height on the way home"}, figure{nav.Speed, 40, "sheet.loss.homeSpeed", "the speed on the way home"}, figure{nav.Near, 1e4, "sheet.loss.near", "the distance from which it comes home"})
	for i, p := range set.Others {
		at := [2]string{"sheet.feel.second", "sheet.feel.third"}[min(i, 1)]
		out = append(out, figure{p.Limit, 1, at + ".throttleLimit", "the throttle limit"}, figure{p.AngleLimit, 90, at + ".angleLimit", "the angle limit"})
		for _, r := range p.Rates {
			out = append(out, figure{r.Centre, 1e4, at, "a rate"}, figure{r.Peak, 1e4, at, "a rate"}, figure{r.Bend, 1, at, "a bend"})
		}
	}
	f := &set.Filters
	for at, low := range map[string]quad.LowPass{"gyro": f.Gyro, "gyroSecond": f.GyroSecond, "change": f.Change, "changeSecond": f.ChangeSecond} {
		out = append(out, figure{low.Cutoff, 1e4, "sheet.feel.filters." + at + ".cutoff", "a cutoff"})
	}
	for at, n := range map[string]quad.Notch{"notch": f.Notch, "notchSecond": f.NotchSecond} {
		out = append(out, figure{n.Centre, 1e4, "sheet.feel.filters." + at + ".centre", "a notch"}, figure{n.Width, 1e4, "sheet.feel.filters." + at + ".width", "a notch's width"})
	}
	out = append(out, figure{float64(f.Following.Tones), 10, "sheet.feel.filters.following.tones", "how many multiples are followed"}, figure{f.Following.Least, 1e4, "sheet.feel.filters.following.least", "the lowest followed"},
		figure{f.Following.Width, 1e3, "sheet.feel.filters.following.width", "a notch's width"}, figure{float64(f.Searching.Count), 10, "sheet.feel.filters.searching.count", "how many notches search"},
		figure{f.Searching.From, 1e4, "sheet.feel.filters.searching.from", "a notch"}, figure{f.Searching.To, 1e4, "sheet.feel.filters.searching.to", "a notch"},
		figure{set.GyroCutoff, 1e5, "sheet.firmware.line", "a cutoff"}, figure{set.ChangeCutoff, 1e5, "sheet.firmware.line", "a cutoff"})
	for i, axis := range [3]string{"roll", "pitch", "yaw"} {
		at := "sheet.feel." + axis
		g, r := set.Gains[i], set.Rates[i]
		out = append(out, figure{g.Proportional, 100, at + "Gains.proportional", "a gain"}, figure{g.Integral, 1000, at + "Gains.integral", "a gain"}, figure{g.Derivative, 10, at + "Gains.derivative", "a gain"},
			figure{g.FeedForward, 10, at + "Gains.feedForward", "a gain"},
			figure{r.Centre, 1e4, at + ".centre", "a rate"}, figure{r.Peak, 1e4, at + ".peak", "a rate"}, figure{r.Bend, 1, at + ".bend", "a bend"})
	}
	for _, axis := range quad.Axes {
		e := a.Sticks[axis]
		for _, us := range []float64{e.Low, e.Centre, e.High} {
			out = append(out, figure{us, 3000, "actual.sticks." + string(axis), "a stick's end"})
		}
	}
	for _, letter := range quad.SortedKeys(a.Outputs) {
		out = append(out, figure{a.Outputs[letter].StopsAt, 100, "actual.outputs." + letter + ".stopsAt", "the throttle at which it stops"})
	}
	for _, c := range quad.Corners {
		out = append(out, figure{a.Imbalance[c], 1e4, "actual.imbalance." + string(c), "an imbalance"})
	}
	return out
}
