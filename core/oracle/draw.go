package oracle

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"

	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// draw a quad: a sound one of any kind, with none to three changes.
func draw(kinds []kind, r *rand.Rand) *world {
	w := kinds[r.IntN(len(kinds))].world.clone()
	n := []int{0, 1, 1, 1, 1, 2, 2, 2, 3, 3}[r.IntN(10)]
	for range n {
		w.spoil(r)
	}
	return &w
}

// spoil a quad in one way: a leaf of what is meant, or something about how it really is. One that its board cannot hold is drawn anew.
func (w *world) spoil(r *rand.Rand) {
	for range 20 {
		try := w.clone()
		c, ok := try.change(r)
		if !ok {
			continue
		}
		if c.Path.Under("sheet") && (r.IntN(12) == 0 || c.Path.Under("sheet.firmware")) {
			try.is.unwritten = true // another firmware is flashed, not written
			c.What += ", not written to the board"
		}
		if !try.is.unwritten && try.write() != nil {
			continue
		}
		try.changes = append(slices.Clone(w.changes), c)
		*w = try
		return
	}
}

// change one thing, of any sort; ok is false where what was drawn cannot be.
func (w *world) change(r *rand.Rand) (Change, bool) {
	switch r.IntN(10) {
	case 0, 1, 2, 3:
		return w.changeLeaf(r, flies)
	case 4, 5, 6:
		return w.changeLeaf(r, func(quad.Path) bool { return true })
	case 7, 8:
		return w.changeReal(r)
	}
	return w.changeSet(r)
}

// names are leaves that only tell one thing from another.
var names = []quad.Path{"sheet.link.phrase", "radio.phrase", "pilot.gear"}

// flies says whether the flight model looks at a leaf, or whoever holds the sticks goes by it.
func flies(p quad.Path) bool {
	for _, root := range []quad.Path{
		"sheet.craft", "sheet.sticks", "sheet.motors", "sheet.senses", "sheet.feel", "sheet.loss", "parts.frame", "parts.motor", "parts.propeller", "parts.packs",
		"radio.order", "radio.travel", "radio.trims", "radio.switches", "radio.mixes",
	} {
		if p.Under(root) {
			return true
		}
	}
	return false
}

func (w *world) changeLeaf(r *rand.Rand, wanted func(quad.Path) bool) (Change, bool) {
	var leaves []quad.Leaf
	// What is meant, and what the pilot wants of every quad.
	for root, of := range map[quad.Path]any{"sheet": w.k.Sheet, "parts": w.k.Parts, "radio": w.k.Radio, "limits": w.k.Limits, "pilot": w.k.Pilot} {
		for _, l := range quad.Leaves(of, root) {
			if wanted(l.Path) && !slices.ContainsFunc(names, l.Path.Under) {
				leaves = append(leaves, l)
			}
		}
	}
	slices.SortFunc(leaves, func(a, b quad.Leaf) int { return strings.Compare(string(a.Path), string(b.Path)) })
	l := leaves[r.IntN(len(leaves))]
	raw, ok := altered(r, l)
	if !ok || quad.Set(&w.k, l.Path, []byte(raw)) != nil || quad.Fits(l.Path, json.RawMessage(raw)) != nil {
		return Change{}, false
	}
	return Change{Path: l.Path, What: fmt.Sprintf("%v, now %s", l.Value, raw)}, true
}

// altered is another value of a leaf, as JSON: near it, far from it, at an end of its range, or none at all.
func altered(r *rand.Rand, l quad.Leaf) (string, bool) {
	f, err := quad.FieldAt(l.Path)
	if err != nil {
		return "", false
	}
	v := reflect.ValueOf(l.Value)
	switch v.Kind() {
	case reflect.Bool:
		return fmt.Sprint(!v.Bool()), true
	case reflect.Float64:
		x := anotherFigure(r, v.Float(), f.Allowed)
		return trimmed(x), x != v.Float()
	case reflect.Int:
		x := math.Round(anotherFigure(r, float64(v.Int()), f.Allowed))
		if r.IntN(2) == 0 {
			x = float64(v.Int()) + float64(1-2*r.IntN(2))
		}
		return trimmed(x), x != float64(v.Int())
	case reflect.String:
		word := v.String()
		other := word + "x"
		switch {
		case len(f.OneOf) > 0:
			other = f.OneOf[r.IntN(len(f.OneOf))]
		case l.Path.Matches("sheet.sticks.order") || l.Path.Matches("radio.order"):
			order := []byte("AETR")
			r.Shuffle(4, func(i, j int) { order[i], order[j] = order[j], order[i] })
			other = string(order)
		case r.IntN(3) == 0:
			other = ""
		}
		raw, err := json.Marshal(other)
		return string(raw), err == nil && other != word
	case reflect.Slice:
		raw, err := json.Marshal(l.Value)
		var list []string
		if err != nil || json.Unmarshal(raw, &list) != nil || len(list) == 0 {
			return "", false
		}
		list = slices.Delete(list, 0, 1)
		raw, err = json.Marshal(list)
		return string(raw), err == nil
	}
	return "", false
}

func trimmed(x float64) string { return fmt.Sprintf("%.6g", x) }

func anotherFigure(r *rand.Rand, x float64, allowed *quad.Allowed) float64 {
	least, most := 0.0, math.Max(1, 4*math.Abs(x))
	if allowed != nil {
		least, most = allowed.Least, allowed.Most
	}
	switch r.IntN(8) {
	case 0, 1, 2:
		x *= []float64{0.5, 0.8, 0.93, 1.08, 1.3, 2}[r.IntN(6)]
	case 3, 4:
		step := math.Max(math.Min(1, (most-least)/1000), 0.1*math.Abs(x))
		x += []float64{-1, 1}[r.IntN(2)] * step
	case 5:
		x = 0
	case 6:
		x = least + (most-least)*r.Float64()
	default:
		x *= math.Pow(10, 2*r.Float64()-1)
	}
	return math.Max(least, math.Min(most, quad.Significant(x)))
}

// changeReal makes the quad other than everything that is meant of it.
func (w *world) changeReal(r *rand.Rand) (Change, bool) {
	a := &w.is
	letters, axes := quad.SortedKeys(a.wired), quad.Axes
	switches := quad.SortedKeys(w.k.Radio.Switches)
	letter, axis := letters[r.IntN(len(letters))], axes[r.IntN(len(axes))]
	corner := quad.Corners[r.IntN(len(quad.Corners))]
	what := func(p quad.Path, format string, args ...any) (Change, bool) {
		return Change{Path: p, What: fmt.Sprintf(format, args...)}, true
	}
	end := func() quad.Ends { return w.actualQuad().Sticks[axis] }
	if w.k.Board.Sheet.Loss.Policy == quad.PolicyReturn && r.IntN(2) == 0 {
		return w.changePlace(r)
	}
	switch r.IntN(32) { // from the last one on the answers that nothing else tells
	case 0:
		other := letters[r.IntN(len(letters))]
		x, y := a.wired[letter], a.wired[other]
		x.Corner, y.Corner = y.Corner, x.Corner
		a.wired[letter], a.wired[other] = x, y
		return Change{Path: quad.Path("readings.motors.outputs." + letter), What: "outputs " + letter + " and " + other + " exchanged"}, letter != other
	case 1:
		o := a.wired[letter]
		o.Spin = o.Spin.Opposite()
		a.wired[letter] = o
		return what(quad.Path("readings.motors.outputs."+letter), "the motor of output %s wired to turn the other way", letter)
	case 2:
		a.hands[corner] = a.hands[corner].Opposite()
		return what(quad.Path("readings.firstFlight.propellers."+string(corner)), "the propeller %s of the other hand", corner.Words())
	case 3:
		i := r.IntN(2)
		a.tilt[i] = []float64{0.6, 1.5, 3, 5, 8, 12, 20, 45, 180}[r.IntN(9)] * float64(1-2*r.IntN(2))
		return what("readings.senses.level", "the board shows %v° on a level plate", a.tilt)
	case 4:
		of, half := []*float64{&a.board.Yaw, &a.board.Yaw, &a.board.Roll, &a.board.Pitch}[r.IntN(4)], 360.0
		*of = math.Remainder(*of+[]float64{5, 15, 45, 90, 180, 270}[r.IntN(6)], half)
		if r.IntN(6) == 0 {
			a.layout = []quad.Layout{quad.LayoutX, quad.LayoutWide, quad.LayoutPlus}[r.IntN(3)]
			return what("readings.motors.layout", "its arms stand as %s", a.layout)
		}
		return what("readings.senses.boardLies", "the board lies %s", a.board.Words())
	case 5:
		o := a.wired[letter]
		o.StopsAt = math.Round(10*o.StopsAt*(0.5+2*r.Float64())) / 10
		a.wired[letter] = o
		return what(quad.Path("readings.motors.starts."+letter), "output %s stands still below %v %%", letter, o.StopsAt)
	case 6:
		e := end()
		e.Low, e.High = e.High, e.Low
		a.ends[axis] = e
		return what(quad.Path("readings.sticks.axes."+string(axis)), "%s runs backwards", axis)
	case 7:
		e := end()
		by := []float64{10, 20, 60, 150, 300}[r.IntN(5)]
		if r.IntN(2) == 0 {
			e.Low += by
		} else {
			e.High -= by
		}
		a.ends[axis] = e
		return what(quad.Path("readings.sticks.axes."+string(axis)), "%s runs from %v to %v µs", axis, e.Low, e.High)
	case 8:
		e := end()
		e.Centre += []float64{3, 6, 15, 50, 120}[r.IntN(5)] * float64(1-2*r.IntN(2))
		a.ends[axis] = e
		return what(quad.Path("readings.sticks.axes."+string(axis)), "%s rests at %v µs", axis, e.Centre)
	case 9:
		a.channels[axis] = 1 + r.IntN(8)
		return what(quad.Path("readings.sticks.axes."+string(axis)), "%s arrives on channel %d", axis, a.channels[axis])
	case 10:
		a.weight += []float64{-200, -60, -15, 20, 60, 200, 600}[r.IntN(7)]
		if w.weighed() < 20 {
			return Change{}, false
		}
		return what("readings.airframe.weight", "it weighs %v g", w.weighed())
	case 11:
		a.wind = math.Round(15 * r.Float64())
		a.gust = math.Max(a.wind, math.Round(a.wind+8*r.Float64()))
		return what("readings.firstFlight.wind", "wind of %v m/s, gusts of %v", a.wind, a.gust)
	case 12:
		a.clear = []float64{5, 10, 15, 20, 25, 40, 80}[r.IntN(7)]
		return what("readings.firstFlight.clear", "%v m are clear", a.clear)
	case 13:
		other := []quad.LossOutput{quad.LossHold, quad.LossPreset}[r.IntN(2)]
		a.onLoss = other
		return what("readings.loss.output", "without a radio the receiver puts out %s", other)
	case 14, 15:
		name := switches[r.IntN(len(switches))]
		s := w.switches()[name]
		positions := quad.SortedKeys(s.Positions)
		if len(positions) == 0 {
			return Change{}, false
		}
		at := positions[r.IntN(len(positions))]
		fresh := quad.SwitchSeen{Channel: s.Channel, Positions: map[string]float64{}}
		for p, us := range s.Positions {
			fresh.Positions[p] = us
		}
		fresh.Positions[at] = math.Round(math.Max(900, math.Min(2100, 900+1200*r.Float64())))
		a.switches[name] = fresh
		return what(quad.Path("readings.sticks.switches."+name), "%s at %s sends %v µs", name, at, fresh.Positions[at])
	case 16:
		name := switches[r.IntN(len(switches))]
		s := w.switches()[name]
		s.Channel = 5 + r.IntN(8)
		a.switches[name] = s
		return what(quad.Path("readings.sticks.switches."+name), "%s arrives on channel %d", name, s.Channel)
	case 17:
		reach := math.Max(w.k.Parts.Frame.ArmFront, w.k.Parts.Frame.ArmSide)
		of := []*float64{&a.centre.Ahead, &a.centre.Ahead, &a.centre.Right}[r.IntN(3)]
		*of = math.Round(reach * []float64{0.03, 0.06, 0.1, 0.15, 0.2, 0.3, 0.5}[r.IntN(7)] * float64(1-2*r.IntN(2)))
		return what("readings.airframe.balance", "it balances %s", a.centre.Words())
	}
	return w.changeTruth(r)
}

// changePlace makes the quad know less well where it is and where north is.
func (w *world) changePlace(r *rand.Rand) (Change, bool) {
	a, p := &w.is, &w.is.place
	what := func(at quad.Path, format string, args ...any) (Change, bool) {
		return Change{Path: at, What: fmt.Sprintf(format, args...)}, true
	}
	sign := float64(1 - 2*r.IntN(2))
	switch r.IntN(10) {
	case 0, 1:
		p.HeadingOff = sign * []float64{3, 6, 9, 12, 16, 20, 30, 60, 120}[r.IntN(9)]
		return what("readings.senses.heading", "its heading is off by %v°", p.HeadingOff)
	case 2:
		a.turned = []float64{45, 90, 180, 270}[r.IntN(4)]
		return what("readings.senses.heading", "its compass is turned by %v°", a.turned)
	case 3:
		if a.variation = sign * math.Round(14*r.Float64()); r.IntN(3) == 0 {
			p.Backwards = true
			return what("readings.senses.headingAside", "its compass lies on its back")
		}
		return what("readings.senses.heading", "the declination is %v°", a.variation)
	case 4:
		p.Disturbs = []float64{0.8, 1.8, 3, 6, 16}[r.IntN(5)]
		return what("readings.senses.interference", "a hover moves the compass by %v µT", p.Disturbs)
	case 5:
		p.Satellites = r.IntN(14)
		return what("readings.senses.satellites", "%d satellites", p.Satellites)
	case 6:
		p.Dilution = []float64{1.5, 2.5, 4, 7, 15}[r.IntN(5)]
		return what("readings.senses.satellites", "a dilution of %v", p.Dilution)
	case 7:
		p.Fixed = false
		return what("readings.senses.homeKnown", "it takes off before it knows home")
	case 8:
		p.HeightNoise, p.HeightDrift, p.HeightJump = math.Round(20*r.Float64())/20, sign*math.Round(8*r.Float64()), -sign*math.Round(4*r.Float64())
		return what("readings.senses.heights", "its height trembles by %v, drifts by %v and jumps by %v m", p.HeightNoise, p.HeightDrift, p.HeightJump)
	default:
		a.obstacle = math.Round(40 * r.Float64())
		return what("readings.loss.obstacle", "something %v m high stands in its way home", a.obstacle)
	}
}

// changeTruth makes an answer another one that no part of the model tells: a meter's figure, a pilot's yes.
func (w *world) changeTruth(r *rand.Rand) (Change, bool) {
	k := quad.Known{Readings: w.truths}
	if r.IntN(3) == 0 {
		one := sometimes[r.IntN(len(sometimes))]
		raw := one.values[r.IntN(len(one.values))]
		if quad.Enter(&k, one.path, json.RawMessage(raw), today) != nil {
			return Change{}, false
		}
		w.truths = k.Readings
		return Change{Path: one.path, What: "is " + raw}, true
	}
	leaves := quad.Leaves(k.Readings, "readings")
	leaves = slices.DeleteFunc(leaves, func(l quad.Leaf) bool { return slices.ContainsFunc(told, l.Path.Under) })
	l := leaves[r.IntN(len(leaves))]
	raw, err := json.Marshal(l.Value)
	if err != nil {
		return Change{}, false
	}
	var v any
	if json.Unmarshal(raw, &v) != nil {
		return Change{}, false
	}
	f, err := quad.FieldAt(l.Path)
	if err != nil {
		return Change{}, false
	}
	before := string(raw)
	raw, err = json.Marshal(anotherAnswer(r, v, f))
	if err != nil || string(raw) == before || quad.Enter(&k, l.Path, raw, today) != nil {
		return Change{}, false
	}
	w.truths = k.Readings
	return Change{Path: l.Path, What: "is " + string(raw)}, true
}

// sometimes are answers that a sound quad has none of.
var sometimes = []struct {
	path   quad.Path
	values []string
}{
	{"readings.motors.hot", []string{`"rearLeft"`, `"none"`}},
	{"readings.motors.load", []string{`{"load":40,"loop":4000}`, `{"load":85,"loop":4000}`, `{"load":60,"loop":8000}`}},
	{"readings.motors.trial", []string{`{"before":24,"tried":48,"was":9,"is":6}`, `{"before":24,"tried":48,"was":6,"is":9}`}},
	{"readings.link.track", []string{`{"points":300,"farthest":900,"missing":14,"spread":3,"slope":1}`, `{"points":300,"farthest":900,"missing":2,"spread":3,"slope":1}`}},
	{"readings.link.modulePhrase", []string{`{"exact":"aaaa","loose":"aaaa"}`}},
	{"readings.link.receiverPhrase", []string{`{"exact":"bbbb","loose":"bbbb"}`}},
	{"readings.firstFlight.hover", []string{`{"stick":38,"volts":22.5,"pack":"grey"}`, `{"stick":60,"volts":22.5,"pack":"grey"}`}},
	{"readings.watch.current", []string{`{"idle":0.4,"output":25,"amps":9}`, `{"idle":4,"output":25,"amps":9}`}},
	{"readings.watch.heat", []string{`{"frontLeft":41,"frontRight":42,"rearLeft":40,"rearRight":41,"air":20}`, `{"frontLeft":41,"frontRight":42,"rearLeft":70,"rearRight":41,"air":20}`}},
	{"readings.watch.discovered", []string{"true", "false"}},
	{"readings.wiring.answers.camera", []string{"true", "false"}},
	{"readings.senses.videoTrial", []string{`{"pairs":3,"lost":3,"least":1,"most":5}`, `{"pairs":3,"lost":1,"least":-1,"most":3}`}},
}

// told are readings that follow from how the quad is: see answers.
var told = []quad.Path{
	"readings.airframe.weight", "readings.airframe.balance", "readings.motors.outputs", "readings.motors.starts", "readings.motors.startsAt", "readings.firstFlight.propellers", "readings.firstFlight.wind", "readings.firstFlight.gust",
	"readings.firstFlight.clear", "readings.firstFlight.rehearsal", "readings.senses.level", "readings.senses.boardLies", "readings.senses.heading", "readings.senses.headingAside",
	"readings.senses.interference", "readings.senses.satellites", "readings.senses.homeKnown", "readings.senses.heights", "readings.motors.layout", "readings.sticks", "readings.loss",
	"readings.benchProof", "readings.watch.boardVolts", "readings.watch.meterVolts",
}

func anotherAnswer(r *rand.Rand, v any, f quad.Field) any {
	switch x := v.(type) {
	case bool:
		return !x
	case float64:
		return anotherFigure(r, x, f.Allowed)
	case string:
		if len(f.OneOf) > 0 {
			return f.OneOf[r.IntN(len(f.OneOf))]
		}
		return x + "x"
	case map[string]any:
		keys := quad.SortedKeys(x)
		if len(keys) == 0 {
			return v
		}
		key := keys[r.IntN(len(keys))]
		x[key] = anotherAnswer(r, x[key], quad.Field{})
	}
	return v
}

// changeSet adds or takes away what has a name: a pack, a switch, a mix, an output, a device.
func (w *world) changeSet(r *rand.Rand) (Change, bool) {
	set := func(p quad.Path, raw string) (Change, bool) {
		return Change{Path: p, What: "now " + raw}, quad.Set(&w.k, p, []byte(raw)) == nil
	}
	pick := func(list ...string) string { return list[r.IntN(len(list))] }
	switch r.IntN(10) {
	case 0:
		return set("parts.packs.heavy", fmt.Sprintf(`{"cells":%d,"capacity":%d,"discharge":60,"resistance":%d,"mass":%d}`, 2+r.IntN(5), 500+100*r.IntN(40), 8+r.IntN(40), 60+10*r.IntN(60)))
	case 1:
		names := quad.SortedKeys(w.k.Parts.Packs)
		if len(names) < 2 {
			return Change{}, false
		}
		return set(quad.Path("parts.packs."+names[r.IntN(len(names))]), "null")
	case 2:
		names := quad.SortedKeys(w.k.Radio.Switches)
		return set(quad.Path("radio.switches."+names[r.IntN(len(names))]), "null")
	case 3:
		return set("radio.mixes.odd", fmt.Sprintf(`{"from":%d,"to":%d,"weight":%d,"alone":%v}`, 1+r.IntN(8), 1+r.IntN(8), -100+25*r.IntN(9), r.IntN(4) == 0))
	case 4:
		letters := quad.SortedKeys(w.k.Sheet.Motors.Outputs)
		return set(quad.Path("sheet.motors.outputs."+letters[r.IntN(len(letters))]), "null")
	case 5:
		return set("radio.switches.spare", fmt.Sprintf(`{"channel":%d,"positions":["a","b","c"],"rest":%q,"springs":%v}`, 5+r.IntN(6), pick("a", "b", "c", ""), r.IntN(3) == 0))
	case 6:
		functions := sticks.FunctionPaths()
		from := 900 + 50*r.IntN(20)
		return set(functions[r.IntN(len(functions))], fmt.Sprintf(`{"channel":%d,"from":%d,"to":%d}`, 1+r.IntN(10), from, from+50+50*r.IntN(12)))
	case 7:
		w.k.Sheet.Link.Strength, w.k.Sheet.Link.StrengthChannel = quad.StrengthChannel, 1+r.IntN(quad.MostChannels)
		return Change{Path: "sheet.link", What: "now the strength on a channel"}, true
	case 8:
		w.k.Parts.Board.Rails = map[string]quad.Rail{"5V": {Volts: 5, Most: float64(300 + 100*r.IntN(20)), USB: r.IntN(2) == 0, Quiet: r.IntN(2) == 0}}
		w.k.Parts.Board.Buses = []string{"1"}
		if r.IntN(2) == 0 {
			return Change{Path: quad.Path(pick("parts.board.rails", "parts.board.buses")), What: "a rail and a bus more"}, true
		}
		return set("parts.devices.camera", fmt.Sprintf(`{"draw":%d,"least":4.5,"most":5.5,"quiet":%v}`, 100+50*r.IntN(10), r.IntN(2) == 0))
	default:
		return set("parts.wires.camera", `{"port":"4","rail":"5V","leads":{"output":{"colour":"green","length":80}}}`)
	}
}
