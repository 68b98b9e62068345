package check

import (
	"strings"

	"vividperch/core/airframe"
	"vividperch/core/motors"
	"vividperch/core/power"
	"vividperch/core/quad"
)

// Good says in words what a good reading looks like at a path: worked out for this quad as far as what is known of it tells, or else as it is
// for any; nothing for what is no reading.
func Good(k quad.Known, p quad.Path) string {
	f, err := quad.FieldAt(p)
	if err != nil || !f.Read {
		return ""
	}
	if own := goodHere(k, p); own != "" {
		return own
	}
	return f.Good
}

// goodHere is what a good reading looks like on this very quad; nothing where too little is known of it.
func goodHere(k quad.Known, p quad.Path) string {
	meant := k.Sheet
	switch {
	case p == "readings.airframe.weight":
		if _, pack, ok := airframe.Heaviest(k.Parts); ok && k.Parts.Frame.Mass > 0 && pack.Mass > 0 {
			return "Near " + q(1000*airframe.Mass(k.Parts, pack, 0), "g") + ", which its parts come to."
		}
	case p == "readings.firstPower.leadResistance":
		if c := k.Parts.Capacitor.Together(); c > 0 {
			return "It climbs while you watch, to some " + q(quad.Significant(power.Climb(c)/1000), "kΩ") + " more in the ten seconds that its " + q(c, "µF") + " fill, or until it stays."
		}
	case p == "readings.firstPower.idleCurrent":
		if want := power.IdleCurrent(k.Parts); want > 0 {
			return "About " + q(round2(want), "A") + ", which its devices draw, steady; up to " + q(round2(want*power.IdleFix), "A") + " is no fault."
		}
	case p == "readings.firmware.identity":
		if is := meant.Firmware; is.Target != "" && is.Version != "" {
			return is.Target + ", " + is.Line + " " + is.Version + ", as your settings have it."
		}
	case p.Under("readings.motors.outputs"):
		if plan, known := meant.Motors.Outputs[lastOf(p)]; known && plan.Corner != "" && meant.Craft.Rotation != "" {
			return quad.Upper(plan.Corner.Words()) + ", turning " + meant.Craft.Rotation.Wants(plan.Corner).Words() + "."
		}
	case p == "readings.motors.startsAt" || p.Under("readings.motors.starts"):
		if idle := meant.Motors.Idle; idle > motors.IdleMargin {
			return "Under " + q(idle-motors.IdleMargin, "%") + ": your idle throttle of " + q(idle, "%") + " then turns them safely."
		}
	case p == "readings.motors.layout":
		if meant.Craft.Layout != "" {
			return "Your settings say " + quad.Words(meant.Craft.Layout, "") + "."
		}
	case p == "readings.senses.level":
		most, _ := Limit(k, "level")
		return "Within " + q(most, "deg") + " of 0 and 0."
	case p == "readings.link.range":
		least, _ := Limit(k, "linkQuality")
		return "At least " + q(least, "%") + ", in whichever direction you stand."
	case p == "readings.firstFlight.wind":
		most, _ := Limit(k, "wind")
		return "Under " + q(most, "m/s") + " for a first hover: leaves move, branches do not."
	case p == "readings.loss.response":
		switch l := meant.Loss; {
		case l.Guard > 0 && l.Policy == quad.PolicyDrop:
			return "All four stop, " + q(l.Guard, "s") + " after the radio is off."
		case l.Guard > 0 && l.Policy.Descends():
			return "All four go to the landing throttle, " + q(l.Guard, "s") + " after the radio is off."
		}
	case p == "readings.picture.frequency":
		if mhz := meant.Picture.Frequency; mhz > 0 {
			return q(mhz, "MHz") + ", as your settings have it, and nobody else on it."
		}
	case p.Under("readings.firstFlight.propellers"):
		if hand := meant.Craft.Rotation.Wants(quad.Corner(lastOf(p))); hand != "" {
			return "One that is made to turn " + hand.Words() + ", lettering up, the nut tight."
		}
	}
	return ""
}

// lastOf a path's names.
func lastOf(p quad.Path) string { return string(p[strings.LastIndexByte(string(p), '.')+1:]) }
