package quad

import (
	"encoding/json"
	"reflect"
	"slices"
	"strings"
)

// Gaps are the places of a sheet, by their paths within it and sorted, that nobody told although a 0, an "off" or a "none" means something
// there: the zero that stands in such a place is nobody's. A place is a leaf or a group that is told as one (the range of a switch). Whatever is
// set in it tells it, 0 too; null makes it a gap again. Places of which 0 means nothing (see [Field.Asked]) need none of this.
type Gaps []Path

var (
	sheetType = reflect.TypeFor[Sheet]()
	gapsType  = reflect.TypeFor[Gaps]()
)

// Gap says whether nobody told what stands at a path, given from the sheet down.
func (s *Sheet) Gap(p Path) bool { return slices.ContainsFunc(s.Gaps, p.Under) }

// AllGaps lists, sorted, every place of the sheet that can be one, as its maps are filled.
func (s *Sheet) AllGaps() Gaps {
	var out Gaps
	gapsIn(reflect.ValueOf(s).Elem(), "", Field{}, &out)
	slices.Sort(out)
	return out
}

func gapsIn(v reflect.Value, at Path, f Field, out *Gaps) {
	if f.Rare && !f.Gap {
		return // nothing there is nothing
	}
	if f.Gap {
		*out = append(*out, at)
		return
	}
	switch v.Kind() {
	case reflect.Struct:
		for i, p := range partsOf(v.Type()).list {
			if !p.apart {
				gapsIn(v.Field(i), join(at, Path(p.name)), f.holds(&p), out)
			}
		}
	case reflect.Map:
		for it := v.MapRange(); it.Next(); {
			key := it.Key().String()
			gapsIn(it.Value(), join(at, Path(key)), f.item(key), out)
		}
	}
}

// told takes what lies under a path, or around it, out of the gaps. What the sheet shares with others is not written to.
func (s *Sheet) told(p Path) {
	s.Tell(p.Touches)
}

// Tell takes out of the gaps those that are said to be told.
func (s *Sheet) Tell(told func(Path) bool) {
	if slices.ContainsFunc(s.Gaps, told) {
		s.Gaps = slices.DeleteFunc(slices.Clone(s.Gaps), told)
	}
}

// untell makes a gap of the place that a path lies in; false says that it lies in none.
func (s *Sheet) untell(p Path) bool {
	for _, place := range s.AllGaps() {
		if !p.Under(place) {
			continue
		}
		f, err := FieldAt(join("sheet", place))
		if err != nil {
			return false
		}
		if set(reflect.ValueOf(s).Elem(), place.segments(), place, asJSON(reflect.Zero(f.Type))) != nil {
			return false
		}
		s.Gaps = append(slices.Clone(s.Gaps), place)
		slices.Sort(s.Gaps)
		return true
	}
	return false
}

// set puts raw into the field of index i of a sheet, or below it, and keeps the gaps in step.
func (s *Sheet) set(i int, segs []string, p Path, raw []byte) error {
	in := Path(strings.Join(segs, "."))
	if nothing(raw) && s.untell(in) {
		return nil
	}
	before := s.Motors.Outputs
	if err := set(reflect.ValueOf(s).Elem().Field(i), segs[1:], p, raw); err != nil {
		return err
	}
	s.told(in)
	for _, letter := range SortedKeys(s.Motors.Outputs) {
		if _, had := before[letter]; !had && !outputAt(letter).Under(in) {
			s.begun(letter, in)
		}
	}
	return nil
}

func outputAt(letter string) Path { return join("motors.outputs", Path(letter)) }

// begun makes gaps of what nobody told of an output that is there from now on, but for what lies at a path.
func (s *Sheet) begun(letter string, but Path) {
	fresh := slices.DeleteFunc(s.AllGaps(), func(p Path) bool { return !p.Under(outputAt(letter)) || p.Touches(but) || s.Gap(p) })
	if len(fresh) > 0 {
		s.Gaps = append(slices.Clone(s.Gaps), fresh...)
		slices.Sort(s.Gaps)
	}
}

// Nought is the value that stands for 0, off or none at a path, as JSON, if nobody told k's sheet what is there; nothing for any other path.
func Nought(k *Known, p Path) json.RawMessage {
	f, err := FieldAt(p)
	if err != nil || !k.Sheet.gapAt(p) {
		return nil
	}
	return asJSON(reflect.Zero(f.Type))
}

// Untell makes a gap of every place that can be one, holds nothing, and is not said to be told.
func (s *Sheet) Untell(toldBy func(Path) bool) {
	s.Gaps = slices.DeleteFunc(s.AllGaps(), func(p Path) bool {
		v, err := Get(s, p)
		return err != nil || v == nil || !reflect.ValueOf(v).IsZero() || toldBy(p)
	})
}

// validGaps says whether the gaps are places that can be one and hold nothing.
func (s *Sheet) validGaps() error {
	if len(s.Gaps) == 0 {
		return nil
	}
	all := s.AllGaps()
	if len(s.Gaps) > len(all) {
		return Faultf("bad-gap", "sheet.gaps", "names more places than the sheet has")
	}
	for i, p := range s.Gaps {
		if _, there := slices.BinarySearch(all, p); !there || i > 0 && s.Gaps[i-1] >= p {
			return Faultf("bad-gap", "sheet.gaps", "names %q, which is no place that nobody could have told, or not in its order", Clip(string(p), 60))
		}
		if v, err := Get(s, p); err != nil || v == nil || !reflect.ValueOf(v).IsZero() {
			return Faultf("bad-gap", string(join("sheet", p)), "is said to be told by nobody, and holds something")
		}
	}
	return nil
}

// gapEdits are the edits that tell, or make gaps of, what a and b differ in by nothing else. made are the edits that make the values alike.
func gapEdits(a, b Sheet, made []Edit) []Edit {
	var out []Edit
	for _, p := range a.Gaps {
		at := join("sheet", p)
		if b.Gap(p) || slices.ContainsFunc(made, func(e Edit) bool { return e.Path.Touches(at) }) {
			continue
		}
		if v, err := Get(&b, p); err == nil && v != nil {
			out = append(out, Edit{Path: at, Before: json.RawMessage("null"), After: asJSON(reflect.ValueOf(v))})
		}
	}
	for _, p := range b.Gaps {
		if !a.Gap(p) {
			before := json.RawMessage("null")
			if v, err := Get(&a, p); err == nil && v != nil {
				before = asJSON(reflect.ValueOf(v))
			}
			out = append(out, Edit{Path: join("sheet", p), Before: before, After: json.RawMessage("null")})
		}
	}
	return out
}

// gapAt says whether nobody told what stands at a path from [Meant] or [Known] down.
func (s *Sheet) gapAt(p Path) bool {
	in, ok := strings.CutPrefix(string(p), "sheet.")
	return ok && s.Gap(Path(in))
}
