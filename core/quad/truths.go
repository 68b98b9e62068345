package quad

import (
	"math"
	"time"
)

// Meant is what the pilot wants the quad to be. A revision is a snapshot of one.
type Meant struct {
	Sheet  Sheet     `json:"sheet"`
	Parts  Parts     `json:"parts"`
	Radio  RadioPlan `json:"radio"`
	Limits Limits    `json:"limits"`
}

// Board is the last read-back of the controller and its speed controllers.
type Board struct {
	Target  string    `json:"target" label:"Board target read back"`
	Line    string    `json:"line" label:"Firmware family read back"`
	Version string    `json:"version" label:"Firmware version read back"`
	Serial  string    `json:"serial,omitempty" label:"Number of the board read back"`
	ReadAt  time.Time `json:"readAt" label:"Time of the read-back"`
	// Settings are raw, in the line's own names and units.
	Settings map[string]string `json:"settings,omitempty" label:"Raw settings"`
	// Unmapped are those of Settings that have no subject on the sheet and are not measured, as lines of a
	// settings list, sorted.
	Unmapped []string `json:"unmapped,omitempty" label:"Settings without a subject"`
	// Sheet is what the dictionary makes of Settings: only mapped paths are set.
	Sheet Sheet `json:"sheet"`
	// Dictionary that the pilot taught for this line, as a file; empty for a line that the product knows.
	Dictionary string `json:"dictionary,omitempty" label:"Dictionary of the firmware family"`
	// Understood says that the line and version are known or taught.
	Understood bool `json:"understood,omitempty" label:"Line and version understood"`
	// Foreign settings are not of this version at all.
	Foreign []string `json:"foreign,omitempty" label:"Settings this version does not have"`
	// Wholesale settings hold the raw value of an older major version, which means something else now.
	Wholesale []string `json:"wholesale,omitempty" label:"Settings loaded as they were"`
	// Unmeasured names what is measured on a board and was not on this one; Elsewhere the settings that hold what was
	// measured on another.
	Unmeasured []string `json:"unmeasured,omitempty" label:"Not measured on this board"`
	Elsewhere  []string `json:"elsewhere,omitempty" label:"Measured on another board"`
}

// Read says whether there has been a read-back at all.
func (b Board) Read() bool { return b.Line != "" }

// Is what the board says it is.
func (b Board) Is() Identity {
	return Identity{Target: b.Target, Line: b.Line, Version: b.Version, Serial: b.Serial}
}

// Known is everything a rule may look at. A leaf that is not known has its zero value; a reading that has
// not been taken is nil.
type Known struct {
	Sheet    Sheet     `json:"sheet"`
	Parts    Parts     `json:"parts"`
	Radio    RadioPlan `json:"radio"`
	Limits   Limits    `json:"limits"`
	Board    Board     `json:"board"`
	Readings Readings  `json:"readings"`
	Pilot    Pilot     `json:"pilot"`
	// Fleet are the pilot's other quads, by name, as far as a rule about this one looks at them.
	Fleet map[string]FleetQuad `json:"fleet,omitempty" label:"Other quad"`
	// Today is the day on which all this is looked at. It goes on by itself, so that no signature keeps it.
	Today time.Time `json:"today" label:"Today"`
}

// Pilot is what one pilot wants of every quad.
type Pilot struct {
	Thresholds Thresholds `json:"thresholds"`
	// Gear is what the pilot changed of a radio link's procedures, rates and lights, by link, as a file.
	Gear map[string]string `json:"gear,omitempty" label:"Own facts of the link"`
	// Shows is what the pilot wants figures shown in; nothing is judged by it.
	Shows Shows `json:"shows,omitzero"`
	// CompassBy is when a compass is to be found anew.
	CompassBy Renewal `json:"compassBy,omitempty" label:"A compass is renewed"`
}

// FleetQuad is what concerns others of one quad.
type FleetQuad struct {
	Link     string `json:"link" label:"Link"`
	Number   int    `json:"number" unit:"count" label:"Receiver number" least:"0" most:"63" because:"radios number up to 63 receivers; 0 is none"`
	Version  string `json:"version" label:"Version of its receiver"`
	Band     string `json:"band" label:"Band"`
	Region   string `json:"region" label:"Region"`
	External bool   `json:"external" label:"Flown with the module in the bay"`
	Module   string `json:"module" label:"Version of its radio module"`
	Radio    string `json:"radio" label:"Radio module"`
}

// Neighbour is how a quad looks to the others of its pilot.
func (m Meant) Neighbour() FleetQuad {
	v, r := m.Parts.Receiver, m.Parts.RadioModule
	return FleetQuad{Link: v.Link, Number: m.Radio.Number, Version: v.Version, Band: v.Band, Region: v.Region, External: r.External, Module: r.Version, Radio: r.Name}
}

// Weight as it was weighed, g, with the heaviest pack; 0 where nobody did.
func (k Known) Weight() float64 {
	if w := k.Readings.Airframe.Weight; w != nil {
		return w.Value
	}
	return 0
}

// Meant part of what is known.
func (k Known) Meant() Meant {
	return Meant{Sheet: k.Sheet, Parts: k.Parts, Radio: k.Radio, Limits: k.Limits}
}

// OutputActual is what an output of the board really drives.
type OutputActual struct {
	Corner Corner `json:"corner"`
	Spin   Spin   `json:"spin"`
	// StopsAt is the throttle under which the motor falls out of step and stands; 0 is not known.
	StopsAt float64 `json:"stopsAt,omitempty" unit:"%" label:"Stands still below"`
	// BothWays says that its speed controller was told of reversible thrust.
	BothWays bool `json:"bothWays,omitempty"`
	// Switching frequency of its speed controller; 0 is not known.
	Switching float64 `json:"switching,omitempty" unit:"kHz"`
}

// Ends are the pulse lengths a stick axis really gives.
type Ends struct {
	Low    float64 `json:"low" unit:"µs" label:"Low end" least:"0" most:"3000" because:"pulses are between 800 and 2200 µs; 0 is unset"`
	Centre float64 `json:"centre" unit:"µs" label:"Centre" least:"0" most:"3000" because:"pulses are between 800 and 2200 µs; 0 is unset"`
	High   float64 `json:"high" unit:"µs" label:"High end" least:"0" most:"3000" because:"pulses are between 800 and 2200 µs; 0 is unset"`
}

// PlaceActual is how well a quad knows where it is and where north is. Zero is a quad that knows both exactly, but has no position.
type PlaceActual struct {
	// Fixed says that it knew its position when it took off, which made that its home.
	Fixed      bool    `json:"fixed,omitempty"`
	Satellites int     `json:"satellites,omitempty" unit:"count"`
	Dilution   float64 `json:"dilution,omitempty" unit:"1" label:"Horizontal dilution"`
	// HeadingOff is by how much what it takes for its heading is clockwise of where its nose points, at rest.
	// Backwards says that the heading runs the other way than the nose turns, as that of a compass on its back.
	Backwards  bool    `json:"backwards,omitempty"`
	HeadingOff float64 `json:"headingOff,omitempty" unit:"deg" label:"Heading off, clockwise"`
	// Disturbs is what the motors' current adds to the right of the nose in hover, beside the field of the place along the ground.
	Disturbs   float64 `json:"disturbs,omitempty" unit:"µT" label:"Interference"`
	Horizontal float64 `json:"horizontal,omitempty" unit:"µT" label:"Field along the ground"`
	// Noise of the barometer, one sigma, what it drifts in five minutes, and its jump as the motors spin up.
	HeightNoise float64 `json:"heightNoise,omitempty" unit:"m" label:"Height noise"`
	HeightDrift float64 `json:"heightDrift,omitempty" unit:"m" label:"Height drift in five minutes"`
	HeightJump  float64 `json:"heightJump,omitempty" unit:"m" label:"Height jump at spin-up"`
}

// Actual is how the quad really is.
type Actual struct {
	Outputs map[string]OutputActual `json:"outputs"` // by letter
	Hands   map[Corner]Spin         `json:"hands"`   // direction in which the fitted propeller pushes down
	// What the board shows while the frame stands level, by how it lies and by its calibration together.
	TiltRoll  float64       `json:"tiltRoll" unit:"deg" label:"Roll shown on a level plate, right side down"`
	TiltPitch float64       `json:"tiltPitch" unit:"deg" label:"Pitch shown on a level plate, nose up"`
	Board     Mount         `json:"board"`
	Layout    Layout        `json:"layout"`   // of the arms, as built
	Sticks    map[Axis]Ends `json:"sticks"`   // Low above High when it runs backwards
	Channels  map[Axis]int  `json:"channels"` // on which each stick arrives, from 1
	Place     PlaceActual   `json:"place,omitzero"`
	// Centre of gravity.
	Centre Balance `json:"centre,omitzero"`
	// Imbalance of what turns at each corner: mass times its distance from the axis.
	Imbalance map[Corner]float64 `json:"imbalance,omitempty" unit:"g·mm" label:"Imbalance"`
}

// Source of one part of an Observed quad.
type Source string

const (
	Measured Source = "measured" // a reading
	Declared Source = "declared" // what the pilot says is so, in sheet or radio plan
	Assumed  Source = "assumed"  // taken for granted
)

// Observed is an Actual from readings. Sources has one entry for each output ("outputs.A"), propeller
// ("hands.frontLeft"), stick ("sticks.roll"), "level", "layout", "centre" and "board". Assumed says in words what had to be
// taken for granted.
type Observed struct {
	Actual
	Sources map[Path]Source `json:"sources"`
	Assumed []string        `json:"assumed"`
}

func (o *Observed) assume(p Path, words string) {
	o.Sources[p] = Assumed
	o.Assumed = append(o.Assumed, words)
}

// Observe builds the Observed quad from what is known. Outputs not seen are taken as the sheet has them,
// propellers not seen as matched to the wanted direction, an unread level as level, sticks not captured as
// 1000-1500-2000 in the order of the radio plan, a board that was not tilted as turned on its mount as the sheet says.
func Observe(k Known) Observed {
	o := Observed{
		Actual:  Actual{Outputs: map[string]OutputActual{}, Hands: map[Corner]Spin{}, Sticks: map[Axis]Ends{}, Channels: map[Axis]int{}},
		Sources: map[Path]Source{},
	}
	for _, letter := range SortedKeys(k.Sheet.Motors.Outputs) {
		plan := k.Sheet.Motors.Outputs[letter]
		at := Path("outputs." + letter)
		out := OutputActual{Corner: plan.Corner, Spin: k.Sheet.Craft.Rotation.Wants(plan.Corner), BothWays: plan.BothWays, Switching: plan.Switching}
		if k.Board.Read() {
			held := k.Board.Sheet.Motors.Outputs[letter]
			out.BothWays, out.Switching = held.BothWays, held.Switching
		}
		if says := k.Readings.Firmware.SpeedControllers[letter]; says != nil && out.Switching == 0 {
			out.Switching = says.Value.Switching
		}
		if s := k.Readings.Motors.Starts[letter]; s != nil {
			out.StopsAt = max(s.Value.Stops, s.Value.BackStops)
		} else if s := k.Readings.Motors.StartsAt; s != nil {
			out.StopsAt = s.Value
		}
		if r := k.Readings.Motors.Outputs[letter]; r != nil {
			out.Corner, out.Spin, o.Sources[at] = r.Value.Corner, r.Value.Spin, Measured
			o.Outputs[letter] = out
			continue
		}
		o.Outputs[letter] = out
		o.assume(at, "output "+letter+" drives "+plan.Corner.Words()+" and turns as the layout wants")
	}
	for _, c := range Corners {
		at := Path("hands." + string(c))
		if r := k.Readings.FirstFlight.Propellers[string(c)]; r != nil {
			o.Hands[c], o.Sources[at] = r.Value.Hand, Measured
			continue
		}
		o.Hands[c] = k.Sheet.Craft.Rotation.Wants(c)
		o.assume(at, "the propeller "+c.Words()+" is of the hand the layout wants")
	}
	if r := k.Readings.Senses.Level; r != nil {
		o.TiltRoll, o.TiltPitch, o.Sources["level"] = r.Value.Roll, r.Value.Pitch, Measured
	} else {
		o.assume("level", "the board's level is level")
	}
	o.Layout, o.Sources["layout"] = k.Sheet.Craft.Layout, Declared
	if r := k.Readings.Motors.Layout; r != nil {
		o.Layout, o.Sources["layout"] = r.Value, Measured
	}
	o.Board, o.Sources["board"] = k.Sheet.Senses.Mount(), Declared
	if r := k.Readings.Senses.BoardLies; r != nil {
		o.Board, o.Sources["board"] = r.Value, Measured
	}
	o.Place = placeSeen(k)
	if r := k.Readings.Airframe.Balance; r != nil {
		o.Centre, o.Sources["centre"] = r.Value, Measured
	} else if by, ok := k.Parts.BalanceHeaviest(); ok {
		o.Centre, o.Sources["centre"] = by, Declared
	} else {
		o.assume("centre", "it balances in the middle")
	}
	for _, a := range Axes {
		at := Path("sticks." + string(a))
		o.Channels[a] = ChannelIn(k.Radio.Order, a)
		if r := k.Readings.Sticks.Axes[string(a)]; r != nil {
			e := r.Value.Ends
			if r.Value.Reversed {
				e.Low, e.High = e.High, e.Low
			}
			o.Sticks[a], o.Channels[a], o.Sources[at] = e, r.Value.Channel, Measured
			continue
		}
		o.Sticks[a] = Ends{Low: 1000, Centre: 1500, High: 2000}
		o.assume(at, "the "+string(a)+" stick reaches 1000 to 2000 µs")
	}
	return o
}

// placeSeen is how well it knows where it is and where north is, as far as that was read; what was not is taken as good.
func placeSeen(k Known) PlaceActual {
	r, told := k.Readings.Senses, k.Sheet.Senses
	if k.Board.Read() {
		told = k.Board.Sheet.Senses
	}
	out := PlaceActual{Fixed: true, Satellites: 12, Dilution: 1, Horizontal: k.Limits.FieldThere()}
	if !told.Satellite {
		out.Fixed, out.Satellites = false, 0
	}
	if s := r.Satellites; s != nil {
		out.Satellites, out.Dilution = s.Value.Satellites, s.Value.Dilution
	}
	if h := r.HomeKnown; h != nil {
		out.Fixed = h.Value
	}
	if h := r.Heading; h != nil {
		out.HeadingOff = h.Value.Off(told)
		if aside := r.HeadingAside; aside != nil {
			if out.Backwards = RunsBackwards(h.Value, aside.Value); out.Backwards {
				// What it then takes for its heading is this, less where the nose points.
				out.HeadingOff = math.Remainder(out.HeadingOff+2*h.Value.Known, 360)
			}
		}
	}
	if d := r.Interference; d != nil {
		out.Disturbs = d.Value.AtHover
	}
	if h := r.Heights; h != nil {
		out.HeightNoise, out.HeightDrift, out.HeightJump = h.Value.Noise, h.Value.Drift, h.Value.Jump
	}
	return out
}

// RunsBackwards says whether a heading turns the other way than the nose does, as that of a compass on its back: from one direction to another it
// moved about as far, the other way. Two directions less than 20 degrees apart, or nearly opposite, do not tell.
func RunsBackwards(a, b HeadingSeen) bool {
	turned, shown := math.Remainder(b.Known-a.Known, 360), math.Remainder(b.Shown-a.Shown, 360)
	return math.Abs(turned) > 20 && math.Abs(turned) < 160 && turned*shown < 0 && math.Abs(shown) > math.Abs(turned)/2
}
