package quad

import (
	"bytes"
	"encoding/json"
	"io"
	"maps"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
)

// Path addresses a leaf or a subtree: the JSON names from the root of [Known] (or [Meant]) joined by dots.
// An item of a map is addressed by its key: "sheet.motors.outputs.B.reversed". Keys hold no dots.
type Path string

// Under says whether p is root itself or lies below it.
func (p Path) Under(root Path) bool {
	return p == root || len(p) > len(root) && p[len(root)] == '.' && p[:len(root)] == root
}

// Touches says whether one of the two paths lies under the other.
func (p Path) Touches(q Path) bool { return p.Under(q) || q.Under(p) }

func (p Path) segments() []string {
	if p == "" {
		return nil
	}
	return strings.Split(string(p), ".")
}

// SortedKeys of a map with string keys.
func SortedKeys[M ~map[K]V, K ~string, V any](m M) []K {
	return slices.Sorted(maps.Keys(m))
}

var (
	readingType = reflect.TypeFor[reading]()
	timeType    = reflect.TypeFor[time.Time]()
	described   sync.Map // reflect.Type of a struct -> *parts
)

// part is a field of a struct, with what its tags say of it.
type part struct {
	name     string // in JSON; none for what stands in its group itself, "-" for what no path reaches
	inline   bool
	optional bool
	inherits bool  // its unit and its range are those of its group
	apart    bool  // kept with the others, and no path reaches it
	told     Field // by its own tags, outside of any group
}

// parts of a struct, read from its tags once: walking a quad is what every answer begins with.
type parts struct {
	list []part
	by   map[string]int
}

func partsOf(t reflect.Type) *parts {
	if p, ok := described.Load(t); ok {
		return p.(*parts)
	}
	out := &parts{by: map[string]int{}}
	for i := range t.NumField() {
		sf := t.Field(i)
		p := part{
			name: jsonName(sf), apart: sf.Type == gapsType, inline: sf.Anonymous, optional: sf.Tag.Get("optional") != "", inherits: sf.Tag.Get("unit") == "inherit",
			told: Field{Type: sf.Type, Label: sf.Tag.Get("label"), Unit: sf.Tag.Get("unit"), Private: sf.Tag.Get("private"), How: sf.Tag.Get("how"), Good: sf.Tag.Get("good"), Keys: keyWords[sf.Tag.Get("keys")], Asked: sf.Tag.Get("asked") == "yes", Open: sf.Tag.Get("asked") == "later", Gap: sf.Tag.Get("gap") != "", Rare: strings.Contains(sf.Tag.Get("json"), ",omit")},
		}
		if because := sf.Tag.Get("because"); because != "" {
			p.told.Allowed = &Allowed{Least: number(sf.Tag.Get("least")), Most: number(sf.Tag.Get("most")), Because: because, orNothing: sf.Tag.Get("orNothing") != ""}
		}
		if p.name != "" && !p.apart {
			out.by[p.name] = i
		}
		out.list = append(out.list, p)
	}
	described.Store(t, out)
	return out
}

func jsonName(f reflect.StructField) string {
	name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
	return name
}

func isReading(t reflect.Type) bool { return t.Kind() == reflect.Pointer && t.Implements(readingType) }

// Leaf is one value with its address and the tags of its field.
type Leaf struct {
	Path  Path
	Label string
	Unit  string
	Value any // the payload of a reading
	Read  bool
	At    time.Time // of a reading
	From  Origin
	Bench bool
	// Private says what must stay out of exports, logs and differences: "phrase" or "home".
	Private string
	// Untold says that nothing is told there, though something is asked for, or that nobody told the zero that stands there.
	Untold bool
}

// Leaves lists every leaf of a struct (Known, Meant, Sheet, ...), in order, with prefix put before each
// path. Readings not taken are left out; a map contributes what it holds.
func Leaves(root any, prefix Path) []Leaf {
	var out []Leaf
	v := reflect.ValueOf(root)
	for v.Kind() == reflect.Pointer {
		v = v.Elem()
	}
	w := walker{out: &out}
	w.walk(v, prefix, Field{})
	return out
}

// walker gathers leaves. Inside of a sheet it knows its gaps, whose paths begin at sheet.
type walker struct {
	out   *[]Leaf
	sheet Path
	gaps  Gaps
}

// gap says whether nobody told the leaf at a path.
func (w *walker) gap(at Path) bool {
	return len(w.gaps) > 0 && slices.ContainsFunc(w.gaps, func(g Path) bool { return at.Under(join(w.sheet, g)) })
}

func (w *walker) walk(v reflect.Value, at Path, f Field) {
	t := v.Type()
	switch {
	case isReading(t):
		if v.IsNil() {
			return
		}
		r := v.Interface().(reading)
		from, bench := r.origin()
		*w.out = append(*w.out, Leaf{Path: at, Label: f.Label, Unit: f.Unit, Private: f.Private, Value: r.payload(), Read: true, At: r.taken(), From: from, Bench: bench})
	case t.Kind() == reflect.Struct && t != timeType:
		if t == sheetType {
			w.sheet, w.gaps = at, v.FieldByName("Gaps").Interface().(Gaps)
		}
		for i, p := range partsOf(t).list {
			switch {
			case p.inline:
				w.walk(v.Field(i), at, f)
			case p.name != "" && p.name != "-" && !p.apart:
				w.walk(v.Field(i), join(at, Path(p.name)), f.holds(&p))
			}
		}
		if t == sheetType {
			w.gaps = nil
		}
	case t.Kind() == reflect.Map:
		keys := v.MapKeys()
		slices.SortFunc(keys, func(a, b reflect.Value) int { return strings.Compare(a.String(), b.String()) })
		for _, k := range keys {
			w.walk(v.MapIndex(k), at+"."+Path(k.String()), f.item(k.String()))
		}
	default:
		*w.out = append(*w.out, Leaf{Path: at, Label: f.Label, Unit: f.Unit, Private: f.Private, Value: v.Interface(), Untold: (f.Asked || f.Open) && v.IsZero() || w.gap(at)})
	}
}

// Field describes what a path addresses, whether or not it holds a value yet.
type Field struct {
	Type  reflect.Type
	Label string
	Unit  string
	OneOf []string
	Keys  []string // names that the items of a map may have; nil for any
	// How a reading is taken, and what a good one looks like.
	How, Good string
	Read      bool // a reading; Type is that of its value
	// Private is "phrase" or "home" for what must stay out of exports, logs and differences.
	Private string
	// Allowed range of a figure that a pilot sets or types, nil where there is none.
	Allowed *Allowed
	// Asked says that nobody means 0 there, or no word: then it is not known, and asked for. Open says the same of what may stay unknown:
	// a board keeps what it holds, and only a rule that cannot do without asks for it.
	Asked, Open bool
	// Gap says that 0 means something there, so that the sheet keeps apart whether somebody told it: see [Gaps].
	Gap bool
	// Rare says that many quads have nothing there: it is left out of what is kept of them where it is zero.
	Rare bool
}

// Allowed range of a figure, both ends included, in the unit of its leaf, and why.
type Allowed struct {
	Least   float64 `json:"least"`
	Most    float64 `json:"most"`
	Because string  `json:"because"`
	// orNothing lets 0 pass too: it stands for "not set".
	orNothing bool
}

// keyWords by the word of a tag.
var keyWords = map[string][]string{"corner": Corner("").Enum(), "axis": Axis("").Enum()}

// holds describes a part of the group f.
func (f Field) holds(p *part) Field {
	in := p.told
	in.Label = composed(f.Label, in.Label)
	if in.Private == "" {
		in.Private = f.Private
	}
	in.Rare = in.Rare || f.Rare
	if p.inherits {
		in.Unit = f.Unit
		if in.Allowed == nil && f.Allowed != nil {
			a := *f.Allowed
			a.orNothing = true
			in.Allowed = &a
		}
	}
	return in
}

// as describes a field of a type.
func (f Field) as(t reflect.Type) Field {
	f.Type, f.OneOf = t, wordsOf(t)
	return f
}

// item describes one item of a map.
func (f Field) item(key string) Field {
	f.Label, f.Rare = keyed(f.Label, key), false // a map holds what is there
	return f
}

// number in a tag. Tags are ours: a test reads them all.
func number(tag string) float64 {
	x, err := strconv.ParseFloat(tag, 64)
	if err != nil {
		panic(err)
	}
	return x
}

// FieldAt describes a path below Known. Unknown paths give a Fault.
func FieldAt(p Path) (Field, error) {
	t := reflect.TypeFor[Known]()
	var f Field
	for i, seg := range p.segments() {
		switch t.Kind() {
		case reflect.Struct:
			fields := partsOf(t)
			idx, ok := fields.by[seg]
			if !ok {
				return Field{}, unknownPath(p)
			}
			f = f.holds(&fields.list[idx])
			t = f.Type
		case reflect.Map:
			t = t.Elem()
			f = f.item(seg)
		default:
			return Field{}, unknownPath(p)
		}
		if isReading(t) {
			if i != len(p.segments())-1 {
				return Field{}, unknownPath(p)
			}
			value, _ := t.Elem().FieldByName("Value")
			f.Read, t = true, value.Type
		}
	}
	return f.as(t), nil
}

// Untold lists, of some paths, those at which something is asked for and nothing is told in k, and the gaps of its sheet at or around or
// below them.
func Untold(k *Known, paths []Path) []Path {
	out := UntoldGaps(k, paths)
	for _, p := range paths {
		f, err := FieldAt(p)
		if err != nil || !f.Asked {
			continue
		}
		if v, err := Get(k, p); err == nil && (v == nil || reflect.ValueOf(v).IsZero()) {
			out = append(out, p)
		}
	}
	return out
}

// UntoldGaps lists the gaps of k's sheet at, around or below some paths.
func UntoldGaps(k *Known, paths []Path) []Path {
	var out []Path
	for _, gap := range k.Sheet.Gaps {
		if at := join("sheet", gap); slices.ContainsFunc(paths, at.Touches) {
			out = append(out, at)
		}
	}
	return out
}

// composed label of a field inside a labelled group: "Arm, range from".
func composed(group, own string) string {
	switch {
	case group == "":
		return own
	case own == "":
		return group
	}
	return group + ", " + strings.ToLower(own[:1]) + own[1:]
}

// keyed label of a map's item: the key stands where the label has a star, or else behind it. Corners are spelled out, other keys stay as they
// are.
func keyed(label, key string) string {
	if c := Corner(key); c.Index() >= 0 {
		key = c.Words()
	}
	if before, after, found := strings.Cut(label, "*"); found {
		return Upper(before + key + after)
	}
	return strings.TrimSpace(label + " " + key)
}

func unknownPath(p Path) error {
	return Faultf("unknown-path", string(p), "nothing in the quad has this name")
}

// Get returns the value at a path below root (a struct or a pointer to one). A reading that is not taken
// and a map key that is not there give nil.
func Get(root any, p Path) (any, error) {
	v := reflect.ValueOf(root)
	for v.Kind() == reflect.Pointer && !isReading(v.Type()) {
		v = v.Elem()
	}
	v, err := below(v, string(p))
	if err != nil {
		return nil, unknownPath(p)
	}
	if !v.IsValid() || v.Kind() == reflect.Pointer && v.IsNil() {
		return nil, nil
	}
	return v.Interface(), nil
}

// below v at a path of its own: no value at all where a map lacks the key.
func below(v reflect.Value, rest string) (reflect.Value, error) {
	for rest != "" && v.IsValid() {
		seg, more, _ := strings.Cut(rest, ".")
		next, err := step(v, seg, Path(rest))
		if err != nil {
			return reflect.Value{}, err
		}
		v, rest = next, more
	}
	return v, nil
}

func step(v reflect.Value, seg string, p Path) (reflect.Value, error) {
	switch v.Kind() {
	case reflect.Struct:
		i, ok := partsOf(v.Type()).by[seg]
		if !ok {
			return reflect.Value{}, unknownPath(p)
		}
		return v.Field(i), nil
	case reflect.Map:
		return v.MapIndex(reflect.ValueOf(seg).Convert(v.Type().Key())), nil
	}
	return reflect.Value{}, unknownPath(p)
}

// Set decodes raw JSON into the leaf or subtree at p below root, which must be a pointer to a struct. Map
// items are created. A null removes a map item, clears a reading and makes a place of a sheet a gap where it can be one;
// whatever else is set there tells it. Errors are Faults at p.
func Set(root any, p Path, raw []byte) error {
	v := reflect.ValueOf(root)
	if v.Kind() != reflect.Pointer {
		return Faultf("not-settable", string(p), "cannot be changed")
	}
	return set(v.Elem(), p.segments(), p, raw)
}

func set(v reflect.Value, segs []string, p Path, raw []byte) error {
	if len(segs) == 0 {
		if nothing(raw) && v.Kind() != reflect.Pointer && v.Kind() != reflect.Map && v.Kind() != reflect.Slice {
			return Faultf("bad-value", string(p), "cannot be nothing")
		}
		fresh := reflect.New(v.Type())
		dec := json.NewDecoder(bytes.NewReader(raw))
		dec.DisallowUnknownFields()
		if err := dec.Decode(fresh.Interface()); err != nil {
			return DecodeFault(err, string(p))
		}
		if _, err := dec.Token(); err != io.EOF {
			return Faultf("bad-value", string(p), "holds more than one value")
		}
		v.Set(fresh.Elem())
		return nil
	}
	switch v.Kind() {
	case reflect.Struct:
		i, ok := partsOf(v.Type()).by[segs[0]]
		if !ok {
			return unknownPath(p)
		}
		if v.Type() == sheetType {
			return v.Addr().Interface().(*Sheet).set(i, segs, p, raw)
		}
		return set(v.Field(i), segs[1:], p, raw)
	case reflect.Map:
		key := reflect.ValueOf(segs[0]).Convert(v.Type().Key())
		if len(segs) == 1 && nothing(raw) {
			if !v.IsNil() {
				fresh := cloneMap(v)
				fresh.SetMapIndex(key, reflect.Value{})
				v.Set(fresh)
			}
			return nil
		}
		item := reflect.New(v.Type().Elem()).Elem()
		if old := v.MapIndex(key); old.IsValid() {
			item.Set(old)
		}
		if err := set(item, segs[1:], p, raw); err != nil {
			return err
		}
		fresh := cloneMap(v)
		fresh.SetMapIndex(key, item)
		v.Set(fresh)
		return nil
	}
	return unknownPath(p)
}

func nothing(raw []byte) bool { return string(bytes.TrimSpace(raw)) == "null" }

// cloneMap copies one level: snapshots share maps, so a change must never write into a shared one.
func cloneMap(v reflect.Value) reflect.Value {
	fresh := reflect.MakeMapWithSize(v.Type(), v.Len()+1)
	for it := v.MapRange(); it.Next(); {
		fresh.SetMapIndex(it.Key(), it.Value())
	}
	return fresh
}
