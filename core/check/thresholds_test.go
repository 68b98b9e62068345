package check_test

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"testing"

	"vividperch/core/check"
	"vividperch/core/quad"
)

// verdict of a rule, without its figures: what it finds, how heavy, and what it asks for.
func verdict(rule *check.Rule, sees []quad.Address, k quad.Known) string {
	var masked quad.Known
	quad.MaskTo(&masked, &k, sees)
	r := rule.Judge(masked)
	var out []string
	for _, f := range r.Findings {
		// Figures within a title are what moves; the thing found is the same.
		title := strings.Map(func(c rune) rune {
			if c >= '0' && c <= '9' || c == '.' {
				return -1
			}
			return c
		}, f.Title)
		out = append(out, string(f.Weight)+" "+title)
	}
	for _, p := range r.Asks {
		out = append(out, "asks "+string(p))
	}
	if len(out) == 0 {
		return "nothing"
	}
	slices.Sort(out)
	return strings.Join(slices.Compact(out), "; ")
}

// figures of one leaf that are tried: from its least to its most, closer together near nought.
func ladder(f quad.Field) []float64 {
	least, most := -1000.0, 1000.0
	if a := f.Allowed; a != nil {
		least, most = a.Least, a.Most
	}
	out := []float64{least, most, 0}
	for x := 1e-3; x < 1e6; x *= 1.45 {
		for _, v := range []float64{x, -x} {
			if v > least && v < most {
				out = append(out, v)
			}
		}
	}
	if f.Type.Kind() == reflect.Int {
		for i, x := range out {
			out[i] = math.Round(x)
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// computed are figures that a rule reaches only through the airframe's sums: where they tip a verdict moves with the model, and is the
// airframe's own tests' to hold.
func computed(p quad.Path) bool {
	for _, q := range []quad.Path{"parts.motor.kv", "parts.motor.resistance", "parts.motor.idleCurrent", "parts.motor.timeConstant", "parts.propeller.thrust", "parts.propeller.power", "parts.propeller.diameter", "parts.frame.dragArea"} {
		if p.Under(q) {
			return true
		}
	}
	return false
}

// change from one verdict to another: what goes and what comes.
func change(from, to string) string {
	var out []string
	was, is := strings.Split(from, "; "), strings.Split(to, "; ")
	for _, x := range was {
		if !slices.Contains(is, x) {
			out = append(out, "no more "+x)
		}
	}
	for _, x := range is {
		if !slices.Contains(was, x) {
			out = append(out, x)
		}
	}
	return strings.Join(out, "; ")
}

// thresholds that one rule has along one figure of a quad: where what it says changes, what it says on either side, and what at the figure
// itself, which is told to six digits.
func thresholds(t *testing.T, rule *check.Rule, sees []quad.Address, k quad.Known, p quad.Path, f quad.Field, read bool) []string {
	at := func(x float64) string {
		changed := k
		if f.Type.Kind() == reflect.Int {
			x = math.Round(x)
		}
		raw := strconv.FormatFloat(x, 'g', -1, 64)
		if f.Type.Kind() == reflect.Int {
			raw = strconv.FormatFloat(x, 'f', 0, 64)
		}
		var err error
		if read {
			err = setInReading(&changed, p, raw)
		} else {
			err = quad.Set(&changed, p, []byte(raw))
		}
		if err != nil {
			return "refused"
		}
		return verdict(rule, sees, changed)
	}
	var out []string
	steps := ladder(f)
	before := at(steps[0])
	for i := 1; i < len(steps); i++ {
		low, high, now := steps[i-1], steps[i], at(steps[i])
		if now == before {
			continue
		}
		was := before
		before = now
		for range 60 {
			mid := (low + high) / 2
			if f.Type.Kind() == reflect.Int && high-low <= 1 || high-low <= 1e-9*max(math.Abs(low), math.Abs(high)) {
				break
			}
			if v := at(mid); v == was {
				low = mid
			} else {
				high, now = mid, v
			}
		}
		edge := roundTo(high, 6)
		if math.Abs(edge) < 1e-12 {
			edge = 0 // which stands for what is not set
		}
		if f.Type.Kind() == reflect.Int {
			out = append(out, fmt.Sprintf("%s %s, from %s on: %s", rule.ID, p, quad.Number(high), change(was, now)))
			continue
		}
		below, on, above := at(edge-step(edge, f)), at(edge), at(edge+step(edge, f))
		which := "between"
		switch on {
		case above:
			which = "from"
		case below:
			which = "above"
		}
		if below == above {
			if on != below {
				out = append(out, fmt.Sprintf("%s %s, at %s alone: %s", rule.ID, p, strconv.FormatFloat(edge, 'g', -1, 64), change(below, on)))
			}
			continue
		}
		out = append(out, fmt.Sprintf("%s %s, %s %s on: %s", rule.ID, p, which, strconv.FormatFloat(edge, 'g', -1, 64), change(below, above)))
	}
	return out
}

func step(x float64, f quad.Field) float64 {
	if f.Type.Kind() == reflect.Int {
		return 1
	}
	return max(1e-9, math.Abs(x)*1e-5)
}

func roundTo(x float64, digits int) float64 {
	y, _ := strconv.ParseFloat(strconv.FormatFloat(x, 'g', digits, 64), 64)
	return y
}

// setInReading changes one figure inside a reading, whose path is given down to the figure.
func setInReading(k *quad.Known, p quad.Path, raw string) error {
	parts := strings.Split(string(p), ".")
	for n := len(parts); n > 1; n-- {
		at := quad.Path(strings.Join(parts[:n], "."))
		f, err := quad.FieldAt(at)
		if err != nil || !f.Read {
			continue
		}
		held, err := quad.Get(*k, at)
		if err != nil || held == nil {
			return quad.Faultf("gone", "", "gone")
		}
		var envelope map[string]any
		text, err := json.Marshal(held)
		if err != nil {
			return err
		}
		if err := json.Unmarshal(text, &envelope); err != nil {
			return err
		}
		if n == len(parts) {
			envelope["value"] = json.RawMessage(raw)
		} else {
			in := envelope["value"].(map[string]any)
			for _, key := range parts[n : len(parts)-1] {
				in = in[key].(map[string]any)
			}
			in[parts[len(parts)-1]] = json.RawMessage(raw)
		}
		if text, err = json.Marshal(envelope); err != nil {
			return err
		}
		return quad.Set(k, at, text)
	}
	return quad.Faultf("no-reading", "", "no reading")
}

// numbers of a quad below some paths: figures that are set, and figures inside readings.
func numbers(k quad.Known, paths []quad.Path) map[quad.Path]bool {
	out := map[quad.Path]bool{}
	for _, l := range quad.Leaves(k, "") {
		if !slices.ContainsFunc(paths, l.Path.Under) {
			continue
		}
		if !l.Read {
			switch l.Value.(type) {
			case float64, int:
				out[l.Path] = false
			}
			continue
		}
		if _, single := l.Value.(float64); single {
			out[l.Path] = true
			continue
		}
		slots, err := quad.Slots(l.Path)
		if err != nil {
			continue
		}
		for _, s := range slots {
			if s.Kind == "number" && s.Path != "" {
				out[l.Path+"."+s.Path] = true
			}
		}
	}
	return out
}

func fieldOf(p quad.Path, read bool) (quad.Field, bool) {
	if f, err := quad.FieldAt(p); err == nil {
		return f, true
	}
	if !read {
		return quad.Field{}, false
	}
	parts := strings.Split(string(p), ".")
	for n := len(parts) - 1; n > 1; n-- {
		at := quad.Path(strings.Join(parts[:n], "."))
		slots, err := quad.Slots(at)
		if err != nil {
			continue
		}
		for _, s := range slots {
			if at+"."+s.Path == p {
				f := quad.Field{Type: reflect.TypeFor[float64](), Unit: s.Unit, Allowed: s.Allowed}
				if s.Unit == "count" {
					f.Type = reflect.TypeFor[int]()
				}
				return f, true
			}
		}
	}
	return quad.Field{}, false
}

// alikeAnother says whether a figure is of a placed thing whose thresholds are those of the pack's place, or of the sound quad.
func alikeAnother(p quad.Path, k, base quad.Known) bool {
	rest, placed := strings.CutPrefix(string(p), "parts.placed.")
	name, _, _ := strings.Cut(rest, ".")
	return placed && name != quad.PackPlace && k.Parts.Placed[name] == base.Parts.Placed[name]
}

// Every threshold of every rule, found by trying each figure that it reads from end to end, on the sound quad and on every fixture of the
// rule: where it lies, to six digits, what is said just below, just above and at it. A threshold that moves, or that takes in or leaves
// out its own figure, shows in the list. PERCH_WRITE_GOLDEN=1 writes it anew; read the difference.
func TestThresholdsAreWhereTheyWere(t *testing.T) {
	base := sound(t)
	seen := map[string]bool{}
	var all []string
	for _, rule := range check.Rules() {
		if strings.HasSuffix(rule.ID, ".board-differs") || rule.ID == "first-flight.rehearsal" {
			continue // equality in raw units, and the fingerprint of a flight: neither has a threshold
		}
		sees := quad.AddressesOf(rule.Sees())
		bases := []quad.Known{base}
		for _, f := range fixtures {
			if f.rule == rule.ID && !f.fly {
				bases = append(bases, f.known(t, base))
			}
		}
		for _, k := range bases {
			list := numbers(k, rule.Reads)
			for _, p := range quad.SortedKeys(list) {
				f, ok := fieldOf(p, list[p])
				if !ok || computed(p) || alikeAnother(p, k, base) {
					continue
				}
				for _, found := range thresholds(t, &rule, sees, k, p, f, list[p]) {
					if !seen[found] {
						seen[found] = true
						all = append(all, found)
					}
				}
			}
		}
	}
	slices.Sort(all)
	got := strings.Join(all, "\n") + "\n"
	const golden = "testdata/thresholds.golden"
	if os.Getenv("PERCH_WRITE_GOLDEN") != "" {
		if err := os.WriteFile(golden, []byte(got), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	want, err := os.ReadFile(golden)
	if err != nil {
		t.Fatal(err)
	}
	if got == string(want) {
		return
	}
	had := map[string]bool{}
	for _, l := range strings.Split(string(want), "\n") {
		had[l] = true
	}
	told := 0
	for _, l := range all {
		if !had[l] {
			if told++; told < 12 {
				t.Errorf("new: %s", l)
			}
		}
	}
	for _, l := range strings.Split(string(want), "\n") {
		if l != "" && !seen[l] {
			if told++; told < 24 {
				t.Errorf("gone: %s", l)
			}
		}
	}
}
