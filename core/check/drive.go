package check

import (
	"vividperch/core/airframe"
	"vividperch/core/quad"
)

// driveFor the heaviest pack at rest voltage; ok is false when parts are missing.
func driveFor(p quad.Parts, volts float64) (airframe.Drive, quad.Pack, bool) {
	_, pack, ok := airframe.Heaviest(p)
	if !ok {
		return airframe.Drive{}, pack, false
	}
	d, err := airframe.NewDrive(p, pack, volts*float64(pack.Cells), airframe.Density)
	return d, pack, err == nil
}

// driveReads is what airframe.NewDrive and airframe.Heaviest look at.
var driveReads = []quad.Path{"parts.motor.kv", "parts.motor.resistance", "parts.motor.idleCurrent", "parts.propeller.diameter", "parts.propeller.thrust", "parts.propeller.power", "parts.packs"}

func reads(more ...quad.Path) []quad.Path { return append(more, driveReads...) }

// weighedAndFed is what it weighs, g, and its drive as each full pack feeds it; it asks or says what is missing where ok is false.
func (r *Result) weighedAndFed(k quad.Known) (weight float64, list []airframe.Fed, ok bool) {
	if weight, ok = r.weighed(k); !ok {
		return 0, nil, false
	}
	if list, ok = airframe.FedByEach(k.Parts, airframe.FullCell); !ok {
		*r = missingDrive(k)
	}
	return weight, list, ok
}

func missingDrive(k quad.Known) Result {
	var r Result
	_, _, ok := airframe.Heaviest(k.Parts)
	_, err := airframe.NewDrive(k.Parts, quad.Pack{}, 1, 1)
	f := Finding{
		Weight:   Stop,
		Title:    "Parts are missing that every figure needs",
		Figures:  "No pack is assigned.",
		Why:      "Without them nothing about thrust, current or flight can be said.",
		Remedies: by("Fill in the parts"),
		Paths:    []quad.Path{"parts.packs"},
	}
	switch {
	case ok && err != nil:
		f.Figures = quad.Explain(err)
		f.Paths = []quad.Path{quad.Path(quad.AsFault(err).Place)}
	case ok:
		f.Title, f.Figures, f.Why = "It cannot lift itself", "Full throttle does not carry its weight.", "It will not leave the ground."
	}
	r.find(f)
	return r
}
