package quad

import "time"

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
	Line    string    `json:"line" label:"Firmware line read back"`
	Version string    `json:"version" label:"Firmware version read back"`
	ReadAt  time.Time `json:"readAt" label:"Time of the read-back"`
	// Settings are raw, in the line's own names and units.
	Settings map[string]string `json:"settings,omitempty" label:"Raw settings"`
	// Unmapped are those of Settings that have no subject on the sheet and are not measured, as lines of a
	// settings list, sorted.
	Unmapped []string `json:"unmapped,omitempty" label:"Settings without a subject"`
	// Sheet is what the dictionary makes of Settings: only mapped paths are set.
	Sheet Sheet `json:"sheet"`
}

// Read says whether there has been a read-back at all.
func (b Board) Read() bool { return b.Line != "" }

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
}

// Pilot is what one pilot wants of every quad.
type Pilot struct {
	Thresholds Thresholds `json:"thresholds"`
}

// Meant part of what is known.
func (k Known) Meant() Meant {
	return Meant{Sheet: k.Sheet, Parts: k.Parts, Radio: k.Radio, Limits: k.Limits}
}

// OutputActual is what an output of the board really drives.
type OutputActual struct {
	Corner Corner `json:"corner"`
	Spin   Spin   `json:"spin"`
}

// Ends are the pulse lengths a stick axis really gives.
type Ends struct {
	Low    float64 `json:"low" unit:"µs" label:"Low end" least:"0" most:"3000" because:"pulses are between 800 and 2200 µs; 0 is unset"`
	Centre float64 `json:"centre" unit:"µs" label:"Centre" least:"0" most:"3000" because:"pulses are between 800 and 2200 µs; 0 is unset"`
	High   float64 `json:"high" unit:"µs" label:"High end" least:"0" most:"3000" because:"pulses are between 800 and 2200 µs; 0 is unset"`
}

// Actual is how the quad really is.
type Actual struct {
	Outputs   map[string]OutputActual `json:"outputs"` // by letter
	Hands     map[Corner]Spin         `json:"hands"`   // direction in which the fitted propeller pushes down
	TiltRoll  float64                 `json:"tiltRoll" unit:"deg" label:"Sensor tilt, right side down"`
	TiltPitch float64                 `json:"tiltPitch" unit:"deg" label:"Sensor tilt, nose up"`
	BoardYaw  float64                 `json:"boardYaw" unit:"deg" label:"Board turned on its mount, clockwise"`
	Sticks    map[Axis]Ends           `json:"sticks"`   // Low above High when it runs backwards
	Channels  map[Axis]int            `json:"channels"` // on which each stick arrives, from 1
}

// Source of one part of an Observed quad.
type Source string

const (
	Measured Source = "measured" // a reading
	Declared Source = "declared" // what the pilot says is so, in sheet or radio plan
	Assumed  Source = "assumed"  // taken for granted
)

// Observed is an Actual from readings. Sources has one entry for each output ("outputs.A"), propeller
// ("hands.frontLeft"), stick ("sticks.roll"), "level" and "boardYaw". Assumed says in words what had to be
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
// 1000-1500-2000 in the order of the radio plan, the board as turned on its mount as the sheet says.
func Observe(k Known) Observed {
	o := Observed{
		Actual:  Actual{Outputs: map[string]OutputActual{}, Hands: map[Corner]Spin{}, Sticks: map[Axis]Ends{}, Channels: map[Axis]int{}},
		Sources: map[Path]Source{},
	}
	for _, letter := range SortedKeys(k.Sheet.Motors.Outputs) {
		plan := k.Sheet.Motors.Outputs[letter]
		at := Path("outputs." + letter)
		if r := k.Readings.Motors.Outputs[letter]; r != nil {
			o.Outputs[letter], o.Sources[at] = OutputActual{Corner: r.Value.Corner, Spin: r.Value.Spin}, Measured
			continue
		}
		o.Outputs[letter] = OutputActual{Corner: plan.Corner, Spin: k.Sheet.Craft.Rotation.Wants(plan.Corner)}
		o.assume(at, "output "+letter+" drives "+plan.Corner.Words()+" and turns as the layout wants")
	}
	for _, c := range Corners {
		at := Path("hands." + string(c))
		if r := k.Readings.FirstFlight.Propellers[string(c)]; r != nil {
			o.Hands[c], o.Sources[at] = r.Value, Measured
			continue
		}
		o.Hands[c] = k.Sheet.Craft.Rotation.Wants(c)
		o.assume(at, "the propeller "+c.Words()+" is of the hand the layout wants")
	}
	if r, p := k.Readings.Senses.LevelRoll, k.Readings.Senses.LevelPitch; r != nil && p != nil {
		o.TiltRoll, o.TiltPitch, o.Sources["level"] = r.Value, p.Value, Measured
	} else {
		o.assume("level", "the board's level is level")
	}
	o.BoardYaw, o.Sources["boardYaw"] = k.Sheet.Senses.BoardYaw, Declared
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
