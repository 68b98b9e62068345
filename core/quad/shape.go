package quad

import "reflect"

// Shaped is one leaf that can exist, with "*" standing for the key of a map.
type Shaped struct {
	Path Path
	Field
}

// Shape lists every leaf that Known can hold, in order.
func Shape() []Shaped {
	var out []Shaped
	shape(reflect.TypeFor[Known](), "", Field{}, &out)
	return out
}

func shape(t reflect.Type, at Path, f Field, out *[]Shaped) {
	switch {
	case isReading(t):
		value, _ := t.Elem().FieldByName("Value")
		f.Read = true
		*out = append(*out, Shaped{at, f.as(value.Type)})
	case t.Kind() == reflect.Struct && t != timeType:
		for _, p := range partsOf(t).list {
			if p.name != "" && p.name != "-" && !p.apart {
				shape(p.told.Type, join(at, Path(p.name)), f.holds(&p), out)
			}
		}
	case t.Kind() == reflect.Map:
		shape(t.Elem(), join(at, "*"), f, out)
	default:
		*out = append(*out, Shaped{at, f.as(t)})
	}
}

func join(at, next Path) Path {
	switch {
	case at == "":
		return next
	case next == "":
		return at
	}
	return at + "." + next
}

// Matches says whether p, which may hold "*" for map keys, can lie under root, which has real keys.
func (p Path) Matches(root Path) bool {
	mine, its := p.segments(), root.segments()
	if len(its) > len(mine) {
		return false
	}
	for i, seg := range its {
		if mine[i] != "*" && mine[i] != seg {
			return false
		}
	}
	return true
}
