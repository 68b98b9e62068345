// Package firmware knows firmware images, firmware lines with their settings from version to version, and the
// dictionaries that translate a line's own names and units to the sheet and back.
package firmware

import (
	"embed"
	"fmt"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/Masterminds/semver/v3"

	"vividperch/core/quad"
	"vividperch/core/sticks"
)

//go:embed lines/*.yaml
var lineFiles embed.FS

// Line is a firmware line: what is known of its versions, its settings through all of them, and its dictionary.
type Line struct {
	Name string `json:"line"`
	// Vehicle is the setting that says what kind of craft it is, or nothing. Writing it puts every other setting
	// back to its default, so it is written before any list.
	Vehicle string `json:"vehicle"`
	// Shape of its lists, nil for the usual one.
	Shape *Shape `json:"shape"`
	// Console of its boards, nil where nobody described one.
	Console *Console `json:"console"`
	// Separator stands between the parts of a list.
	Separator string    `json:"separator"`
	Versions  []Version `json:"versions"` // ascending
	// Subjects by the first letters of a setting's name; the longest that fits counts.
	Subjects map[string]string `json:"subjects"`
	// Decides are the first letters of settings that decide arming, flight modes or what happens after a loss.
	Decides  []string `json:"decides"`
	Settings []Era    `json:"settings"`
	// Gates are what keeps its boards from arming, in the order they look, with what lights or tones tell of each.
	Gates []ArmGate `json:"gates"`
	// Control is what its controller does by itself, whatever the settings.
	Control Control `json:"control"`
	// Current is how its boards are told what flows.
	Current CurrentMeter `json:"current"`
	// Reference is the quad that its usual gains are for: how strongly it turns for a whole step of duty, about roll, pitch and yaw, rad/s². Nothing where nobody knows.
	Reference []float64 `json:"reference"`
	// Tunes is how its boards find gains by themselves in flight; nil where they cannot.
	Tunes *SelfTune `json:"tunes"`

	// Entries of the dictionary. A shipped line has them in a file of their own, a taught one in the same.
	Entries []Entry `json:"entries"`

	builds []*Build
	eras   []map[string]*Era // by version, by name
}

// Control of a line: the cutoffs (Hz) of its low-passes on the rotation and on the rotation's change, with settings at
// their defaults, and its own ways of calibration.
type Control struct {
	Gyro       float64 `json:"gyro" unit:"Hz"`
	Derivative float64 `json:"derivative" unit:"Hz"`
	// Faces says that its boards want their accelerometer laid on all six faces before they are levelled.
	Faces bool `json:"faces"`
	// CompassDays is how long its boards take a compass for as it was found, counted in days; 0 for ever.
	CompassDays int `json:"compassDays"`
}

// SelfTune is how a board finds its gains in the air.
type SelfTune struct {
	Minutes float64  `json:"minutes" unit:"min"` // of flight about each axis
	Steps   []string `json:"steps"`
	// Settings say how it goes about it; they belong to no place of a sheet.
	Settings []string `json:"settings"`
}

// ArmGate is one gate of arming and how a board of the line tells that it holds.
type ArmGate struct {
	Name   string `json:"name"`
	Signal string `json:"signal"`
}

// InOrder puts gates as a board of the line looks at them, with its signals. Those that the line does not name stay behind, in the
// order they came.
func (l *Line) InOrder(gates []sticks.Gate) []sticks.Gate {
	place := func(g sticks.Gate) int {
		if i := slices.IndexFunc(l.Gates, func(x ArmGate) bool { return x.Name == g.Name }); i >= 0 {
			return i
		}
		return len(l.Gates)
	}
	out := slices.Clone(gates)
	slices.SortStableFunc(out, func(a, b sticks.Gate) int { return place(a) - place(b) })
	for i := range out {
		if k := place(out[i]); k < len(l.Gates) {
			out[i].Signal = l.Gates[k].Signal
		}
	}
	return out
}

// gateNames are all that can keep a board from arming.
var gateNames = sync.OnceValue(func() []string {
	var out []string
	for _, byStick := range []bool{false, true} {
		for _, g := range sticks.Gates(quad.SticksSheet{ArmByStick: byStick}, sticks.Moment{}) {
			if !slices.Contains(out, g.Name) {
				out = append(out, g.Name)
			}
		}
	}
	return out
})

// Version of a line.
type Version struct {
	Version string `json:"version"`
	Built   string `json:"built"` // day, as 2026-03-14
	// Expires is the day after which the build refuses to arm; empty when it never does.
	Expires string `json:"expires"`
	// With says what else must change along with a step to this version.
	With []string `json:"with"`
}

// Build is a line in one version: what settings there are, and how they map to the sheet.
type Build struct {
	Version
	Line       *Line
	Facts      *Facts
	Dictionary *Dictionary
	index      int
}

// Facts of a line in one version: what settings there are, not what they mean.
type Facts struct {
	Line     string
	Version  string
	Settings []Setting

	byName map[string]*Setting
}

// Find a setting by name, or nil.
func (f *Facts) Find(name string) *Setting { return f.byName[name] }

// Defaults of every setting.
func (f *Facts) Defaults() map[string]string {
	out := make(map[string]string, len(f.Settings))
	for _, s := range f.Settings {
		out[s.Name] = s.Default
	}
	return out
}

// Era is a setting over the versions in which it had one name, kind, unit and range.
type Era struct {
	Setting
	Since string `json:"since"` // first version that has it so; empty: from the beginning
	Until string `json:"until"` // first version that no longer has it so; empty: to the end
	// Each stands for the * in the name, one setting for every word.
	Each []string `json:"each"`
	// Later defaults, each from a version on.
	Later []Later `json:"later"`
	// Was tells what it came from in the version before Since; nil when it is new.
	Was *Was `json:"was"`
	// Instead says what replaces a setting that ends without a successor.
	Instead string `json:"instead"`
	// Why it changed, or what a new one is for.
	Why string `json:"why"`

	since, until int
}

// Later default of a setting.
type Later struct {
	From    string `json:"from"`
	Default string `json:"default"`
	Why     string `json:"why"`
}

// Was tells how a setting's value follows from what it was before: new = (old - offset) * factor, or by words.
type Was struct {
	Name   string            `json:"name"`
	Factor float64           `json:"factor"`
	Offset float64           `json:"offset"`
	Fields []Field           `json:"fields"` // of a list: each part by itself
	Words  map[string]string `json:"words"`  // old word to new one; a word that is missing has no counterpart
	// Part is a second old setting with the hundredths of the first.
	Part string `json:"part"`
	// Take is whole or hundredths: the old value counted hundredths, and this setting takes that share of it.
	Take string `json:"take"`
}

var lines = sync.OnceValues(func() (map[string]*Line, error) {
	out := map[string]*Line{}
	entries, err := lineFiles.ReadDir("lines")
	if err != nil {
		return nil, err
	}
	for _, e := range entries {
		name, isFacts := strings.CutSuffix(e.Name(), ".facts.yaml")
		if !isFacts {
			continue
		}
		facts, err := lineFiles.ReadFile("lines/" + e.Name())
		if err != nil {
			return nil, err
		}
		dictionary, err := lineFiles.ReadFile("lines/" + name + ".dictionary.yaml")
		if err != nil {
			return nil, err
		}
		l, err := ReadLine(facts, dictionary)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", e.Name(), err)
		}
		out[l.Name] = l
	}
	return out, nil
})

// Mapped lists every path of the sheet that some shipped line maps in some version, once.
var Mapped = sync.OnceValue(func() []quad.Path {
	var out []quad.Path
	for _, name := range LineNames() {
		l, _ := FindLine(name)
		for _, b := range l.builds {
			for _, p := range b.Dictionary.Paths() {
				if !slices.Contains(out, p) {
					out = append(out, p)
				}
			}
		}
	}
	return out
})

// LineNames of the shipped firmware lines, in order.
func LineNames() []string {
	all, err := lines()
	if err != nil {
		panic(err) // as in FindLine
	}
	return quad.SortedKeys(all)
}

// FindLine gives a shipped firmware line by name; ok is false for one the product does not know.
func FindLine(name string) (*Line, bool) {
	all, err := lines()
	if err != nil {
		panic(err) // the shipped files are tested; a broken one is a build fault, not input
	}
	l, ok := all[name]
	return l, ok
}

// Find a build of a shipped line. A version between two that are known is read like the older one of the same
// minor version.
func Find(line, version string) (*Build, error) { return For(quad.Board{Line: line, Version: version}) }

// LineFor gives a firmware line as a pilot's own dictionary describes it; without one, the shipped line of that name. A line that is neither is a
// Fault.
func LineFor(name, dictionary string) (*Line, error) {
	if dictionary != "" {
		return Taught(dictionary)
	}
	l, ok := FindLine(name)
	if !ok {
		return nil, quad.Faultf("no-dictionary", "line", "the firmware family %q is not known", quad.Clip(name, 40))
	}
	return l, nil
}

// At gives the line in one version, exactly or as the newest known patch below it. A version whose major and
// minor are not known is a Fault.
func (l *Line) At(version string) (*Build, error) {
	want, err := semver.StrictNewVersion(version)
	if err != nil {
		return nil, quad.Faultf("bad-version", "version", "%q is not a version such as %s", quad.Clip(version, 40), l.Versions[len(l.Versions)-1].Version)
	}
	for _, b := range slices.Backward(l.builds) {
		have := semver.MustParse(b.Version.Version) // checked as the line was read
		if have.Major() == want.Major() && have.Minor() == want.Minor() && !have.GreaterThan(want) {
			return b, nil
		}
	}
	return nil, quad.Faultf("unknown-version", "version", "%s %s is not known; known are %s", l.Name, version, l.versionWords())
}

func (l *Line) versionWords() string {
	var out []string
	for _, v := range l.Versions {
		out = append(out, v.Version)
	}
	return strings.Join(out, ", ")
}

// Newest build of the line.
func (l *Line) Newest() *Build { return l.builds[len(l.builds)-1] }

// Builds of the line, oldest first. The list is shared: do not change it.
func (l *Line) Builds() []*Build { return l.builds }

// VersionStep between two versions.
type VersionStep string

// Steps.
const (
	SameVersion VersionStep = "same"
	Within      VersionStep = "within" // patch or minor
	Major       VersionStep = "major"
	Back        VersionStep = "back" // to an older version
	Other       VersionStep = "line" // to another line, or to a version that cannot be read
)

// StepBetween two builds of whatever line.
func StepBetween(fromLine, from, toLine, to string) VersionStep {
	a, err1 := semver.StrictNewVersion(from)
	b, err2 := semver.StrictNewVersion(to)
	switch {
	case fromLine != toLine || err1 != nil || err2 != nil:
		return Other
	case a.Equal(b):
		return SameVersion
	case b.LessThan(a):
		return Back
	case a.Major() != b.Major():
		return Major
	}
	return Within
}

// DaysLeft until a build expires, counted in whole days from the day of now; ok is false when it never does.
// 0 is the last day on which it arms.
func (v Version) DaysLeft(now time.Time) (days int, ok bool) {
	end, err := time.Parse(time.DateOnly, v.Expires)
	if err != nil {
		return 0, false
	}
	today := time.Date(now.Year(), now.Month(), now.Day(), 0, 0, 0, 0, time.UTC)
	return int(end.Sub(today).Hours() / 24), true
}

// ReadLine reads facts and dictionary and checks one against the other and against the sheet, in every version.
func ReadLine(facts, dictionary []byte) (*Line, error) {
	l := &Line{}
	if err := quad.ReadYAML(facts, l); err != nil {
		return nil, err
	}
	d := &Dictionary{}
	if err := quad.ReadYAML(dictionary, d); err != nil {
		return nil, err
	}
	if d.Line != l.Name {
		return nil, quad.Faultf("other-line", "line", "the dictionary is for %s, the facts are of %s", quad.Clip(d.Line, 40), quad.Clip(l.Name, 40))
	}
	l.Entries = d.Entries
	return l, l.build()
}

const (
	mostVersions = 64
	mostSettings = 5000
)

// build works everything out that does not change any more, and refuses what does not fit together.
func (l *Line) build() error {
	if l.Name == "" || quad.Longer(l.Name, 16) {
		return quad.Faultf("bad-line", "line", "a line has a name of up to 16 characters")
	}
	if len(l.Versions) == 0 || len(l.Versions) > mostVersions {
		return quad.Faultf("no-version", "versions", "a line has 1 to %d versions", mostVersions)
	}
	for i, g := range l.Gates {
		if !slices.Contains(gateNames(), g.Name) {
			return quad.Faultf("bad-line", fmt.Sprintf("gates.%d", i), "%q keeps no board from arming; there are %s", quad.Clip(g.Name, 40), strings.Join(gateNames(), ", "))
		}
	}
	for i, v := range l.Versions {
		at := fmt.Sprintf("versions.%d", i)
		if _, err := semver.StrictNewVersion(v.Version); err != nil {
			return quad.Faultf("bad-version", at, "%q is not a version such as 7.0.2", quad.Clip(v.Version, 40))
		}
		if i > 0 && !semver.MustParse(v.Version).GreaterThan(semver.MustParse(l.Versions[i-1].Version)) {
			return quad.Faultf("bad-version", at, "versions must ascend")
		}
		for _, day := range []string{v.Built, v.Expires} {
			if _, err := time.Parse(time.DateOnly, day); day != "" && err != nil {
				return quad.Faultf("bad-day", at, "%q is not a day such as 2026-03-14", quad.Clip(day, 40))
			}
		}
	}
	if l.Shape != nil {
		if err := l.Shape.build(); err != nil {
			return err
		}
	}
	if l.Console != nil {
		if err := l.Console.build(); err != nil {
			return err
		}
	}
	eras, err := l.expand()
	if err != nil {
		return err
	}
	l.Settings = eras
	l.eras, l.builds = nil, nil
	for i, v := range l.Versions {
		b, err := l.buildAt(i, v)
		if err != nil {
			return err
		}
		l.builds = append(l.builds, b)
	}
	return l.checkHistory()
}

// expand the settings that stand for several, and work out from when to when each is.
func (l *Line) expand() ([]Era, error) {
	var out []Era
	for _, e := range l.Settings {
		var err error
		if e.since, err = l.index(e.Since, 0, e.Name); err != nil {
			return nil, err
		}
		if e.until, err = l.index(e.Until, len(l.Versions), e.Name); err != nil {
			return nil, err
		}
		if e.since >= e.until {
			return nil, quad.Faultf("bad-fact", e.Name, "ends before it begins")
		}
		if e.separator = l.Separator; e.Separator != "" {
			e.separator = e.Separator
		}
		if len(e.Each) == 0 {
			out = append(out, e)
		}
		for _, word := range e.Each {
			one := e
			one.Each, one.Of = nil, word
			one.Name = strings.ReplaceAll(e.Name, "*", word)
			if e.Was != nil {
				was := *e.Was
				was.Name = strings.ReplaceAll(was.Name, "*", word)
				one.Was = &was
			}
			out = append(out, one)
		}
		if len(out) > mostSettings {
			return nil, quad.Faultf("too-many", "settings", "a line has at most %d settings", mostSettings)
		}
	}
	return out, nil
}

func (l *Line) index(version string, unset int, at string) (int, error) {
	if version == "" {
		return unset, nil
	}
	i := slices.IndexFunc(l.Versions, func(v Version) bool { return v.Version == version })
	if i < 0 {
		return 0, quad.Faultf("unknown-version", at, "names the version %q, which the family does not list", quad.Clip(version, 40))
	}
	return i, nil
}

func (l *Line) buildAt(i int, v Version) (*Build, error) {
	f := &Facts{Line: l.Name, Version: v.Version, byName: map[string]*Setting{}}
	eras := map[string]*Era{}
	for k := range l.Settings {
		e := &l.Settings[k]
		if i < e.since || i >= e.until {
			continue
		}
		s := e.Setting
		s.Subject = l.subjectOf(s.Name)
		for _, later := range e.Later {
			from, err := l.index(later.From, 0, s.Name)
			if err != nil {
				return nil, err
			}
			if i >= from {
				s.Default = later.Default
			}
		}
		if err := s.valid(); err != nil {
			return nil, err
		}
		if eras[s.Name] != nil {
			return nil, quad.Faultf("duplicate", s.Name, "is listed twice for version %s", v.Version)
		}
		canonical, err := s.Canonical(s.Default)
		if err != nil {
			return nil, err
		}
		s.Default = canonical
		eras[s.Name] = e
		f.Settings = append(f.Settings, s)
	}
	for k := range f.Settings {
		f.byName[f.Settings[k].Name] = &f.Settings[k]
	}
	d, err := dictionaryAt(l, i, f)
	if err != nil {
		return nil, err
	}
	l.eras = append(l.eras, eras)
	return &Build{Version: v, Line: l, Facts: f, Dictionary: d, index: i}, nil
}

// DecidesBy says whether a setting decides arming, flight modes or what happens after a loss.
func (l *Line) DecidesBy(name string) bool {
	return slices.ContainsFunc(l.Decides, func(prefix string) bool { return strings.HasPrefix(name, prefix) })
}

func (l *Line) subjectOf(name string) string {
	best, subject := -1, "other"
	for prefix, s := range l.Subjects {
		if strings.HasPrefix(name, prefix) && len(prefix) > best {
			best, subject = len(prefix), s
		}
	}
	return subject
}

// checkHistory follows every setting back to what it was.
func (l *Line) checkHistory() error {
	for k := range l.Settings {
		e := &l.Settings[k]
		if e.Was == nil {
			continue
		}
		if e.since == 0 {
			return quad.Faultf("bad-history", e.Name, "was something before the first version")
		}
		for _, name := range e.Was.names() {
			if l.eras[e.since-1][name] == nil {
				return quad.Faultf("bad-history", e.Name, "was %s, which version %s does not have", name, l.Versions[e.since-1].Version)
			}
		}
		old := l.eras[e.since-1][e.Was.Name]
		for _, before := range quad.SortedKeys(e.Was.Words) {
			after := e.Was.Words[before]
			if len(old.Words) > 0 && !slices.Contains(old.Words, before) {
				return quad.Faultf("bad-history", e.Name, "translates %q, which %s never was", quad.Clip(before, 40), e.Was.Name)
			}
			if len(e.Words) > 0 && !slices.Contains(e.Words, after) {
				return quad.Faultf("bad-history", e.Name, "translates %q to %q, which it cannot be", quad.Clip(before, 40), quad.Clip(after, 40))
			}
		}
	}
	for _, b := range l.builds {
		if l.Vehicle != "" && b.Facts.Find(l.Vehicle) == nil {
			return quad.Faultf("bad-line", "vehicle", "version %s has no setting %s", b.Version.Version, quad.Clip(l.Vehicle, 40))
		}
	}
	return nil
}

func (w *Was) names() []string {
	if w.Part != "" {
		return []string{w.Name, w.Part}
	}
	return []string{w.Name}
}
