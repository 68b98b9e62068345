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
	// Sheet is what the dictionary makes of Settings: only mapped paths are set.
	Sheet Sheet `json:"sheet"`
}

// Read says whether there has been a read-back at all.
func (b Board) Read() bool { return b.Target != "" || b.Line != "" }

// Known is everything a rule may look at. A leaf that is not known has its zero value; a reading that has
// not been taken is nil.
type Known struct {
	Sheet    Sheet     `json:"sheet"`
	Parts    Parts     `json:"parts"`
	Radio    RadioPlan `json:"radio"`
	Limits   Limits    `json:"limits"`
	Board    Board     `json:"board"`
	Readings Readings  `json:"readings"`
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
	Low    float64 `json:"low" unit:"µs" label:"Low end"`
	Centre float64 `json:"centre" unit:"µs" label:"Centre"`
	High   float64 `json:"high" unit:"µs" label:"High end"`
}

// Actual is how the quad really is.
type Actual struct {
	Outputs   map[string]OutputActual `json:"outputs"` // by letter
	Hands     map[Corner]Spin         `json:"hands"`   // direction in which the fitted propeller pushes down
	TiltRoll  float64                 `json:"tiltRoll" unit:"deg" label:"Sensor tilt, right side down"`
	TiltPitch float64                 `json:"tiltPitch" unit:"deg" label:"Sensor tilt, nose up"`
	Sticks    map[Axis]Ends           `json:"sticks"`
}

// Observed is an Actual from readings. Assumed lists what had to be taken for granted, in words.
type Observed struct {
	Actual
	Assumed []string `json:"assumed"`
}

// Observe builds the Observed quad from what is known. Outputs not seen are taken as the sheet has them,
// propellers not seen as matched to the wanted direction, an unread level as level, sticks as 1000-1500-2000.
func Observe(k Known) Observed {
	o := Observed{Actual: Actual{Outputs: map[string]OutputActual{}, Hands: map[Corner]Spin{}, Sticks: map[Axis]Ends{}}}
	for _, letter := range SortedKeys(k.Sheet.Motors.Outputs) {
		plan := k.Sheet.Motors.Outputs[letter]
		if r := k.Readings.Motors.Outputs[letter]; r != nil {
			o.Outputs[letter] = OutputActual{Corner: r.Value.Corner, Spin: r.Value.Spin}
			continue
		}
		o.Outputs[letter] = OutputActual{Corner: plan.Corner, Spin: k.Sheet.Craft.Rotation.Wants(plan.Corner)}
		o.Assumed = append(o.Assumed, "output "+letter+" drives "+plan.Corner.Words()+" and turns as the layout wants")
	}
	for _, c := range Corners {
		if r := k.Readings.FirstFlight.Propellers[string(c)]; r != nil {
			o.Hands[c] = r.Value
			continue
		}
		o.Hands[c] = k.Sheet.Craft.Rotation.Wants(c)
		o.Assumed = append(o.Assumed, "the propeller "+c.Words()+" is of the hand the layout wants")
	}
	if r, p := k.Readings.Senses.LevelRoll, k.Readings.Senses.LevelPitch; r != nil && p != nil {
		o.TiltRoll, o.TiltPitch = r.Value, p.Value
	} else {
		o.Assumed = append(o.Assumed, "the board's level is level")
	}
	for _, a := range Axes {
		if r := k.Readings.Sticks.Axes[string(a)]; r != nil {
			o.Sticks[a] = r.Value.Ends
			continue
		}
		o.Sticks[a] = Ends{Low: 1000, Centre: 1500, High: 2000}
		o.Assumed = append(o.Assumed, "the "+string(a)+" stick reaches 1000 to 2000 µs")
	}
	return o
}
