package proof

import (
	"slices"
	"strings"
	"time"

	"vividperch/core/check"
	"vividperch/core/quad"
)

// Acceptance of one fix by the pilot, with the reason. It lapses when anything changes that the finding's rule
// reads.
type Acceptance struct {
	Rule    string               `json:"rule"`
	Subject string               `json:"subject,omitempty"` // of the finding; without one it was kept when findings were known by their title
	Title   string               `json:"title"`             // as it was when it was accepted
	Reason  string               `json:"reason"`
	By      string               `json:"by"`
	At      time.Time            `json:"at"`
	Relied  map[quad.Path]string `json:"relied"`
}

// Judged is a finding, and whether the pilot accepted it.
type Judged struct {
	check.Finding
	Accepted *Acceptance `json:"accepted,omitempty"`
}

// longestReason that is kept, characters.
const longestReason = 500

// Accept a fix as it stands. A stop is never accepted, a note needs no accepting, and a reason must be given.
func Accept(f check.Finding, k quad.Known, at time.Time, by, reason string) (Acceptance, error) {
	reason = strings.TrimSpace(reason)
	switch {
	case f.Weight == check.Stop:
		return Acceptance{}, quad.Faultf("stop-stands", f.Rule, "a stop cannot be accepted: %s", f.Title)
	case f.Weight != check.Fix:
		return Acceptance{}, quad.Faultf("only-a-note", f.Rule, "a note stands against nothing; it needs no accepting")
	case reason == "":
		return Acceptance{}, quad.Faultf("no-reason", "reason", "say why it may stay so; whoever reads the proof wants to know")
	case quad.Longer(reason, longestReason):
		return Acceptance{}, quad.Faultf("reason-too-long", "reason", "the reason has more than %d characters", longestReason)
	}
	return Acceptance{Rule: f.Rule, Subject: f.Subject, Title: f.Title, Reason: reason, By: by, At: at, Relied: fingerprints(ReadsOf(f.Rule), k)}, nil
}

// of says whether it is the acceptance of a finding.
func (a *Acceptance) of(f check.Finding) bool {
	if a.Rule != f.Rule {
		return false
	}
	if a.Subject == "" {
		return a.Title == f.Title
	}
	return a.Subject == f.Subject
}

// accepted finds the acceptance that still holds for a finding, or nil.
func accepted(list []Acceptance, f check.Finding, k quad.Known) *Acceptance {
	if f.Weight != check.Fix {
		return nil
	}
	for i := range list {
		a := &list[i]
		if a.of(f) && a.Reason != "" && len(changed(ReadsOf(a.Rule), a.Relied, k)) == 0 {
			return a
		}
	}
	return nil
}

// ReadsOf a rule: the paths it declares. The list is shared: do not change it.
func ReadsOf(rule string) []quad.Path {
	i := slices.IndexFunc(check.Rules(), func(r check.Rule) bool { return r.ID == rule })
	if i < 0 {
		return nil // a rule of an older program: whatever it found is not found any more
	}
	return check.Rules()[i].Reads
}
