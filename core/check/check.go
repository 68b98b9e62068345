// Package check holds the rules: each compares parts of what is known about a quad and says what disagrees
// with what. A rule never computes; it calls the room of the core that knows.
package check

import (
	"slices"
	"strings"
	"time"

	"vividperch/core/firmware"
	"vividperch/core/flight"
	"vividperch/core/quad"
)

// Weight of a finding.
type Weight string

const (
	Stop Weight = "stop" // going on can injure, destroy or lose control
	Fix  Weight = "fix"  // it would fail later
	Note Weight = "note"
)

// Event that voids readings.
type Event string

const (
	Crash    Event = "crash"
	Repair   Event = "repair"
	Flash    Event = "flash"
	Solder   Event = "solder"
	NewMount Event = "remount"
	// LinkFlash is new firmware in the receiver or in the radio module.
	LinkFlash Event = "linkFlash"
	// Interruption of a first power: what was confirmed before it is confirmed anew. Noted by the act alone.
	Interruption Event = "interruption"
	NewBoard     Event = "board" // noted by the program alone, when a pilot says that the board was replaced
)

// Events a pilot can note, in the order they are offered.
var Events = []Event{Crash, Repair, Solder, Flash, LinkFlash, NewMount}

// voids says whether the event is among those that make readings void. A replaced board was soldered in, runs other
// firmware and sits anew: it counts as all three.
func (e Event) voids(list []Event) bool {
	if e == NewBoard {
		return slices.ContainsFunc([]Event{Solder, Flash, NewMount}, func(part Event) bool { return part.voids(list) })
	}
	return slices.Contains(list, e)
}

// VoidedBy says whether readings of a rule are void after an event.
func (r *Rule) VoidedBy(e Event) bool { return e.voids(r.Voids) }

// Words for a sentence.
func (e Event) Words() string {
	switch e {
	case Crash:
		return "a crash"
	case Repair:
		return "a repair"
	case Flash:
		return "a flash outside this program"
	case LinkFlash:
		return "new firmware in receiver or radio module"
	case Solder:
		return "soldering"
	case NewMount:
		return "swapped parts"
	case Interruption:
		return "an interruption"
	case NewBoard:
		return "another board"
	}
	return string(e)
}

// Edit that a remedy offers: put a value (as JSON) at a path.
type Edit struct {
	Path  quad.Path `json:"path"`
	Value string    `json:"value"`
}

// Remedy is one way out of a finding.
type Remedy struct {
	Words string `json:"words"`
	// Edits to what is meant; empty when hands must do it.
	Edits []Edit `json:"edits,omitempty"`
	// Write is set when the remedy is to write the sheet to the board.
	Write bool `json:"write,omitempty"`
	// Level is set when the remedy is to set how the quad stands on the plate as level; what is read back then is judged.
	Level bool `json:"level,omitempty"`
}

// Finding says what disagrees with what.
type Finding struct {
	Rule    string  `json:"rule"`
	Station Station `json:"station"`
	// Subject is what the finding is about; with the rule it is the finding's identity, whatever its words. A rule that finds
	// several things at the same paths names them; else it is the paths.
	Subject  string      `json:"subject"`
	Weight   Weight      `json:"weight" enum:"stop,fix,note"`
	Title    string      `json:"title"`
	Figures  string      `json:"figures"`
	Why      string      `json:"why"`
	Remedies []Remedy    `json:"remedies"`
	Paths    []quad.Path `json:"paths"`
	// Estimates that the rule leaned on, in words with their bands.
	Estimates []string `json:"estimates,omitempty"`
	// Shows is the fault that the flight model can show with and without, or nothing.
	Shows flight.Fault `json:"shows,omitempty"`
}

// Ask is a reading that a rule lacks.
type Ask struct {
	Rule    string    `json:"rule"`
	Station Station   `json:"station"`
	Path    quad.Path `json:"path"`
	Label   string    `json:"label"`
	How     string    `json:"how"`
	Good    string    `json:"good,omitempty"` // what a good one looks like
	Why     string    `json:"why,omitempty"`  // why it is asked again
}

// Result of one rule: findings, or asks, or both.
type Result struct {
	Findings []Finding
	Asks     []quad.Path
	Again    string // why what it asks for is asked again, where the rule knows
}

func (r *Result) ask(paths ...quad.Path) { r.Asks = append(r.Asks, paths...) }

func (r *Result) find(f Finding) { r.Findings = append(r.Findings, f) }

// Rule judges part of what is known. Judge is handed a copy in which everything outside Reads and By is unknown.
type Rule struct {
	ID      string
	Station Station
	Reads   []quad.Path
	// By is what the rule judges by without relying on it, as the day it is, or how a line writes what it reads: it is
	// handed over, and no signature keeps it.
	By []quad.Path
	// Days a reading stays good for this rule, counted in local calendar days: 1 is the day it was taken.
	// 0 is for ever.
	Days int
	// Renewed readings stay good for Days only where the pilot renews by date; the rest is told by [RenewedFor].
	Renewed bool
	// Voids lists the events after which this rule's readings must be taken again.
	Voids []Event
	// Ages lists those of Reads whose readings Days and Voids are about; nil means all of them.
	Ages  []quad.Path
	Judge func(quad.Known) Result

	at []quad.Address // of what it sees, where that was worked out
}

// Sees is all that Judge is handed: what the rule relies on, and what it judges by.
func (r *Rule) Sees() []quad.Path { return append(slices.Clone(r.Reads), r.By...) }

func (r *Rule) ages() []quad.Path {
	if r.Ages != nil {
		return r.Ages
	}
	return r.Reads
}

// Happened is an event at a time.
type Happened struct {
	Event Event     `json:"event"`
	At    time.Time `json:"at"`
	Note  string    `json:"note,omitempty"`
	// Bench is set where it was done on the bench, and is not only what the pilot says.
	Bench bool `json:"bench,omitempty"`
}

// Context is what judging depends on besides the quad: the time (with the pilot's zone) and what happened.
type Context struct {
	Now    time.Time
	Events []Happened
}

// Report of all rules.
type Report struct {
	Findings []Finding `json:"findings"`
	Asks     []Ask     `json:"asks"`
}

// Rules in the order of the line, in a list of the caller's own.
func Rules() []Rule { return slices.Clone(all()) }

// All runs every rule over what is known.
func All(k quad.Known, c Context) Report { return Run(all(), k, c) }

// Run runs some rules. Findings come in the order of the stations and by weight inside one, asks without
// repetition.
func Run(rules []Rule, k quad.Known, c Context) Report {
	var out Report
	if k.Today.IsZero() && !c.Now.IsZero() {
		k.Today = time.Date(c.Now.Year(), c.Now.Month(), c.Now.Day(), 0, 0, 0, 0, time.UTC)
	}
	asked := map[string]bool{}
	flies := flight.Whole(k)
	var seen quad.Known
	for i := range rules {
		r := &rules[i]
		why := visible(&seen, r, &k, c)
		res := r.Judge(seen)
		if why == "" {
			why = res.Again
		}
		res.ask(quad.UntoldGaps(&k, r.Reads)...) // its zeros are nobody's
		for _, f := range res.Findings {
			// What nobody told is asked for, and not judged.
			if untold := quad.Untold(&k, f.Paths); len(untold) > 0 {
				res.ask(untold...)
				continue
			}
			f.Rule, f.Station = r.ID, r.Station
			if f.Subject == "" {
				f.Subject = subjectOf(f.Paths)
			}
			if len(k.Parts.Estimates) > 0 {
				f.Estimates = k.Parts.EstimateWords(r.Reads)
			}
			if !flies {
				f.Shows = "" // a rule of its own says what is missing
			}
			out.Findings = append(out.Findings, f)
		}
		for _, p := range res.Asks {
			key := string(r.Station) + " " + string(p)
			if asked[key] {
				continue
			}
			asked[key] = true
			a := Ask{Rule: r.ID, Station: r.Station, Path: p, Why: why}
			if f, err := quad.FieldAt(p); err == nil {
				if a.Label, a.How, a.Good = f.Label, f.How, Good(k, p); !f.Read {
					a.How = howTold(p)
				}
			}
			out.Asks = append(out.Asks, a)
		}
	}
	slices.SortStableFunc(out.Findings, func(a, b Finding) int {
		if d := a.Station.Number() - b.Station.Number(); d != 0 {
			return d
		}
		return a.Weight.rank() - b.Weight.rank()
	})
	return out
}

// howTold says where a pilot finds what his quad is or is meant to do.
func howTold(p quad.Path) string {
	switch {
	case p.Under("parts"):
		return "Nobody told it: from its label or its maker's sheet, or fit one of the catalogue at Airframe."
	case p.Under("limits"):
		return "Nobody told it: as the rules of the place allow it."
	case p.Under("radio"):
		return "Nobody told it: as the radio's model is set up."
	}
	return "Nobody told it: as it is set on the board, 0 or off too; a settings list brought in at Firmware tells it with all the others."
}

func subjectOf(paths []quad.Path) string {
	words := make([]string, len(paths))
	for i, p := range paths {
		words[i] = string(p)
	}
	return strings.Join(words, " ")
}

func (w Weight) rank() int { return slices.Index([]Weight{Stop, Fix, Note}, w) }

// visible masks what is known to what the rule declares and takes away readings that time or an event has
// voided; why says so when one was.
func visible(seen *quad.Known, r *Rule, k *quad.Known, c Context) (why string) {
	at := r.at
	if at == nil {
		at = quad.AddressesOf(r.Sees())
	}
	*seen = quad.Known{}
	quad.MaskTo(seen, k, at)
	days := r.Days
	if r.Renewed {
		days, _ = RenewedFor(seen)
	}
	if days == 0 && len(r.Voids) == 0 {
		return ""
	}
	quad.DropReadings(seen, r.ages(), func(at time.Time) bool {
		if days > 0 && !c.Now.Before(Expires(at, days, c.Now.Location())) {
			why = "the last one is from " + at.In(c.Now.Location()).Format("2 January")
			return false
		}
		for _, e := range c.Events {
			if e.At.After(at) && r.VoidedBy(e.Event) {
				why = e.Event.Words() + " came after the last one"
				return false
			}
		}
		return true
	})
	return why
}

// renewedBy is what [RenewedFor] goes by: every rule that is Renewed judges by it.
var renewedBy = []quad.Path{"sheet.firmware.line", "pilot.compassBy"}

// CompassVoids are the events after which a compass is to be found anew, by date or not.
var CompassVoids = []Event{Crash, Repair, NewMount}

// compassDays is how long a compass is usually trusted as it was found, counted in days.
const compassDays = 90

// RenewedFor is for how many days what was found of a compass stays good, counted from the one it was found on, 0 for as long as nothing happens to it;
// and whether the board's family has it so, whatever its pilot would rather.
func RenewedFor(k *quad.Known) (days int, byFamily bool) {
	if l, ok := firmware.FindLine(k.Sheet.Firmware.Line); ok && l.Control.CompassDays > 0 {
		return l.Control.CompassDays, true
	}
	if k.Pilot.CompassBy == quad.ByEvent {
		return 0, false
	}
	return compassDays, false
}

// Expires is the local midnight that ends a reading's last day: that it was taken on is the first.
func Expires(at time.Time, days int, zone *time.Location) time.Time {
	y, m, d := at.In(zone).Date()
	return time.Date(y, m, d+days, 0, 0, 0, 0, zone)
}
