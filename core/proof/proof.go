// Package proof derives the state of every station from what is known, what was signed and what happened
// since, and judges release. Nothing here is stored: it is worked out again whenever it is asked.
package proof

import (
	"reflect"
	"slices"
	"strings"
	"sync"
	"time"

	"vividperch/core/check"
	"vividperch/core/quad"
)

// Signature of a pilot under one station: every leaf the station relied on with a fingerprint of its value.
type Signature struct {
	Station  check.Station        `json:"station"`
	At       time.Time            `json:"at"`
	By       string               `json:"by"`
	Revision int                  `json:"revision"`
	Relied   map[quad.Path]string `json:"relied"`
}

// State of a station.
type State string

const (
	NotBegun State = "notBegun" // no reading of its own yet, nothing signed
	Open     State = "open"     // work has begun, something is missing
	HasFix   State = "fix"
	HasStop  State = "stop"
	Ready    State = "ready" // everything is there but the signature
	Proven   State = "proven"
	Stale    State = "stale" // was proven
	Skipped  State = "skipped"
)

// Standing of one station: its state with everything that made it so.
type Standing struct {
	Station  check.Station `json:"station"`
	State    State         `json:"state" enum:"notBegun,open,fix,stop,ready,proven,stale,skipped"`
	Word     string        `json:"word"`
	Stops    int           `json:"stops"`
	Fixes    int           `json:"fixes"`
	Notes    int           `json:"notes"`
	Asks     []check.Ask   `json:"asks"`
	Accepted int           `json:"accepted"` // fixes that the pilot accepted with a reason; they do not count in Fixes
	Findings []Judged      `json:"findings"`
	Why      []string      `json:"why"`      // why it is stale or skipped
	Relies   []quad.Path   `json:"-"`        // the paths its rules declare, and what was exercised
	Subjects []string      `json:"subjects"` // of these, in words
	MaySign  bool          `json:"maySign"`
	SignedBy string        `json:"signedBy,omitempty"`
	SignedAt *time.Time    `json:"signedAt,omitempty"`
}

// Relies is the union of what a station's rules read and of what was exercised while its readings were taken. The list is shared: do not change it.
func Relies(s check.Station) []quad.Path { return relies()[s] }

// relies of every station, worked out once: the rules do not change while a program runs.
var relies = sync.OnceValue(func() map[check.Station][]quad.Path {
	all := map[check.Station][]quad.Path{}
	add := func(s check.Station, paths []quad.Path) {
		out := all[s]
		for _, p := range paths {
			if !slices.ContainsFunc(out, func(q quad.Path) bool { return p.Under(q) }) {
				out = slices.DeleteFunc(out, func(q quad.Path) bool { return q.Under(p) })
				out = append(out, p)
			}
		}
		all[s] = out
	}
	for _, r := range check.Rules() {
		add(r.Station, r.Reads)
	}
	for _, info := range check.Line {
		add(info.ID, info.ID.Exercised())
	}
	for _, out := range all {
		slices.Sort(out)
	}
	return all
})

// Sign fingerprints what a station relies on, as it is known now.
func Sign(s check.Station, k quad.Known, at time.Time, by string, revision int) Signature {
	return Signature{Station: s, At: at, By: by, Revision: revision, Relied: fingerprints(Relies(s), k)}
}

// Changed lists, in words, what differs from what was signed.
func (sig Signature) Changed(k quad.Known) []string {
	return changed(Relies(sig.Station), sig.Relied, k)
}

// fingerprints every leaf below some paths.
func fingerprints(paths []quad.Path, k quad.Known) map[quad.Path]string {
	out := map[quad.Path]string{}
	for _, l := range LeavesBelow(paths, k) {
		out[l.Path] = quad.HashValue(l.Value)
	}
	return out
}

// LeavesBelow some paths, and nothing else: what a rule that declares them sees.
func LeavesBelow(paths []quad.Path, k quad.Known) []quad.Leaf {
	return slices.DeleteFunc(quad.Leaves(quad.Mask(k, paths), ""), func(l quad.Leaf) bool {
		return !slices.ContainsFunc(paths, func(p quad.Path) bool { return l.Path.Under(p) })
	})
}

// changed lists, in words, what differs below some paths from fingerprints taken before. A leaf that was not
// fingerprinted counts as its default in the format of that time, so a program that knows more leaves makes
// nothing stale.
func changed(paths []quad.Path, before map[quad.Path]string, k quad.Known) []string {
	var out []string
	seen := map[quad.Path]bool{}
	for _, l := range LeavesBelow(paths, k) {
		seen[l.Path] = true
		was, taken := before[l.Path]
		if taken && was == quad.HashValue(l.Value) || !taken && isDefault(l) {
			continue
		}
		out = append(out, name(l.Path)+" changed"+where(l.Path))
	}
	for _, p := range quad.SortedKeys(before) {
		if !seen[p] {
			out = append(out, name(p)+" is gone"+where(p))
		}
	}
	return out
}

// isDefault says whether a leaf holds what a quad has that never heard of it. A reading is never that: it was
// taken.
func isDefault(l quad.Leaf) bool {
	v := reflect.ValueOf(l.Value)
	switch {
	case l.Read:
		return false
	case !v.IsValid():
		return true
	case v.Kind() == reflect.Slice:
		return v.Len() == 0
	}
	return v.IsZero() || l.Value == any(quad.PortNothing)
}

// name of a place in the pilot's words; what an older program kept there has none any more.
func name(p quad.Path) string {
	if f, err := quad.FieldAt(p); err == nil && f.Label != "" {
		return f.Label
	}
	return "What an older program kept"
}

func where(p quad.Path) string {
	if p.Under("board") {
		return " on the board"
	}
	return ""
}

// Skip tells whether a station does not apply to a quad, and why.
func Skip(s check.Station, k quad.Known) (why string, skip bool) {
	if s == check.Picture && !k.Parts.Video.Fitted {
		return "No video is fitted.", true
	}
	return "", false
}

// Case is everything that the states depend on.
type Case struct {
	Known      quad.Known
	Context    check.Context
	Signatures map[check.Station]Signature // the newest of each station
	Accepted   []Acceptance                // the newest of each finding
}

// Standings of all stations in the order of the line.
func Standings(c Case) []Standing {
	report := check.All(c.Known, c.Context)
	out := make([]Standing, 0, len(check.Line))
	for _, info := range check.Line {
		out = append(out, standing(info.ID, c, report))
	}
	return out
}

func standing(s check.Station, c Case, report check.Report) Standing {
	st := Standing{Station: s, Relies: Relies(s), Subjects: Subjects(s)}
	if why, skip := Skip(s, c.Known); skip {
		st.State, st.Why, st.Word = Skipped, []string{why}, "skipped"
		return st
	}
	for _, f := range report.Findings {
		if f.Station != s {
			continue
		}
		j := Judged{Finding: f, Accepted: accepted(c.Accepted, f, c.Known)}
		st.Findings = append(st.Findings, j)
		switch {
		case f.Weight == check.Stop:
			st.Stops++
		case j.Accepted != nil:
			st.Accepted++
		case f.Weight == check.Fix:
			st.Fixes++
		default:
			st.Notes++
		}
	}
	for _, a := range report.Asks {
		if a.Station == s {
			st.Asks = append(st.Asks, a)
		}
	}
	sig, signed := c.Signatures[s]
	if signed {
		st.SignedBy, st.SignedAt = sig.By, &sig.At
		st.Why = sig.Changed(c.Known)
		for _, a := range st.Asks {
			reason := a.Label + " is missing"
			if a.Why != "" {
				reason = a.Label + ": " + a.Why
			}
			st.Why = append(st.Why, reason)
		}
	}
	switch {
	case st.Stops > 0:
		st.State, st.Word = HasStop, quad.Count(st.Stops, "stop", "stops")
	case st.Fixes > 0:
		st.State, st.Word = HasFix, quad.Count(st.Fixes, "fix", "fixes")
	case signed && len(st.Why) == 0:
		st.State, st.Word = Proven, "proven"
	case signed:
		st.State, st.Word = Stale, "prove again"
	case len(st.Asks) == 0:
		st.State, st.Word = Ready, "to sign"
	case begun(s, c.Known):
		st.State, st.Word = Open, quad.Count(len(st.Asks), "check missing", "checks missing")
	default:
		st.State, st.Word = NotBegun, "not begun"
	}
	st.MaySign = st.State != Proven && MaySign(st) == nil
	return st
}

// subject of the readings that belong to a station.
func subject(s check.Station) quad.Path {
	parts := strings.Split(string(s), "-")
	for i := 1; i < len(parts); i++ {
		parts[i] = strings.ToUpper(parts[i][:1]) + parts[i][1:]
	}
	name := strings.Join(parts, "")
	switch s {
	case check.PowerWatch:
		name = "watch"
	case check.LinkLoss:
		name = "loss"
	}
	return quad.Path("readings." + name)
}

// Subject of the readings that belong to a station: the subtree they live under.
func Subject(s check.Station) quad.Path { return subject(s) }

func begun(s check.Station, k quad.Known) bool {
	own := subject(s)
	for _, l := range quad.Leaves(k.Readings, "readings") {
		if l.Path.Under(own) {
			return true
		}
	}
	return false
}

// MaySign says whether a station can be signed now; the error tells what stands against it.
func MaySign(st Standing) error {
	switch {
	case st.State == Skipped:
		return quad.Faultf("skipped", string(st.Station), "this quad does not need the station: %s", strings.Join(st.Why, " "))
	case st.Stops > 0:
		return quad.Faultf("stop-stands", string(st.Station), "a stop is open: %s", st.Findings[0].Title)
	case st.Fixes > 0:
		return quad.Faultf("fix-open", string(st.Station), "a fix is open: %s", firstOf(st.Findings, check.Fix))
	case len(st.Asks) > 0 && st.Asks[0].Path.Under("readings"):
		return quad.Faultf("reading-missing", string(st.Station), "a reading is missing: %s", st.Asks[0].Label)
	case len(st.Asks) > 0:
		return quad.Faultf("reading-missing", string(st.Station), "nobody told it yet: %s", st.Asks[0].Label)
	}
	return nil
}

func firstOf(list []Judged, w check.Weight) string {
	for _, f := range list {
		if f.Weight == w && f.Accepted == nil {
			return f.Title
		}
	}
	return ""
}

// Scope of a release.
type Scope string

const (
	Hover  Scope = "hover"  // in sight
	Free   Scope = "free"   // free flight
	Return Scope = "return" // relying on return
)

// MayRelease says whether a scope can be released now: every station proven or skipped. The error names what
// stands against it. Free flight and return need proofs in flight that are not kept yet, so they are
// refused with that reason.
func MayRelease(scope Scope, standings []Standing) error {
	switch scope {
	case Hover:
	case Free:
		return quad.Faultf("not-proven-in-flight", string(scope), "free flight needs the hover throttle measured in flight")
	case Return:
		return quad.Faultf("not-proven-in-flight", string(scope), "relying on return needs hold and return flown in sight")
	default:
		return quad.Faultf("unknown-scope", string(scope), "there is no such release")
	}
	var against []string
	for _, st := range standings {
		if st.State != Proven && st.State != Skipped {
			against = append(against, st.Station.Info().Name+" ("+st.Word+")")
		}
	}
	if len(against) > 0 {
		return quad.Faultf("not-proven", string(scope), "not released: %s", strings.Join(against, ", "))
	}
	return nil
}

// Midnight is the local midnight at which a release given at a time ends.
func Midnight(at time.Time) time.Time {
	y, m, d := at.Date()
	return time.Date(y, m, d+1, 0, 0, 0, 0, at.Location())
}
