package quad

import (
	"reflect"
	"strings"
	"time"
)

// Mask returns a copy of k that holds only what lies under the given paths. Paths that do not exist copy
// nothing.
func Mask(k Known, paths []Path) Known {
	var out Known
	MaskTo(&out, &k, AddressesOf(paths))
	return out
}

func copyPath(dst, src reflect.Value, rest string) {
	if rest == "" {
		dst.Set(src)
		return
	}
	seg, rest, _ := strings.Cut(rest, ".")
	switch src.Kind() {
	case reflect.Struct:
		if i, ok := partsOf(src.Type()).by[seg]; ok {
			copyPath(dst.Field(i), src.Field(i), rest)
		}
	case reflect.Map:
		key := reflect.ValueOf(seg).Convert(src.Type().Key())
		from := src.MapIndex(key)
		if !from.IsValid() {
			return
		}
		item := reflect.New(src.Type().Elem()).Elem()
		if old := dst.MapIndex(key); old.IsValid() {
			item.Set(old)
		}
		copyPath(item, from, rest)
		if dst.IsNil() {
			dst.Set(reflect.MakeMap(dst.Type()))
		}
		dst.SetMapIndex(key, item)
	}
}

// Address is a path worked out once, for whoever looks there again and again.
type Address struct {
	index []int  // of the fields from Known down to a map, or to the end
	rest  string // below the map
}

// AddressOf a path below Known; ok is false when there can be nothing.
func AddressOf(p Path) (at Address, ok bool) {
	t, rest := reflect.TypeFor[Known](), string(p)
	for rest != "" && t.Kind() == reflect.Struct {
		seg, below, _ := strings.Cut(rest, ".")
		i, ok := partsOf(t).by[seg]
		if !ok {
			return Address{}, false
		}
		at.index = append(at.index, i)
		t, rest = t.Field(i).Type, below
	}
	if rest != "" && t.Kind() != reflect.Map {
		return Address{}, false
	}
	at.rest = rest
	return at, true
}

// AddressesOf paths; those that can hold nothing are left out.
func AddressesOf(paths []Path) []Address {
	var out []Address
	for _, p := range paths {
		if at, ok := AddressOf(p); ok {
			out = append(out, at)
		}
	}
	return out
}

// In gives the value at an address, or nil for a reading that is not taken and a map key that is not there.
func (p Address) In(k *Known) any {
	v, err := below(reflect.ValueOf(k).Elem().FieldByIndex(p.index), p.rest)
	if err != nil || !v.IsValid() || v.Kind() == reflect.Pointer && v.IsNil() {
		return nil
	}
	return v.Interface()
}

// MaskTo copies into an empty dst what of k lies at some addresses: [Mask] for paths worked out before.
func MaskTo(dst, k *Known, at []Address) {
	to, from := reflect.ValueOf(dst).Elem(), reflect.ValueOf(k).Elem()
	for _, p := range at {
		copyPath(to.FieldByIndex(p.index), from.FieldByIndex(p.index), p.rest)
	}
}

// DropReadings takes those readings under the given paths from k that keep refuses. What k shares with others is not written to.
func DropReadings(k *Known, paths []Path, keep func(at time.Time) bool) {
	root := reflect.ValueOf(&k.Readings).Elem()
	for _, p := range paths {
		if rest, ok := strings.CutPrefix(string(p), "readings"); ok {
			drop(root, strings.TrimPrefix(rest, "."), keep)
		}
	}
}

func drop(v reflect.Value, rest string, keep func(time.Time) bool) {
	if isReading(v.Type()) {
		if !v.IsNil() && !keep(v.Interface().(reading).taken()) {
			v.SetZero()
		}
		return
	}
	seg, rest, _ := strings.Cut(rest, ".")
	switch v.Kind() {
	case reflect.Struct:
		if seg != "" {
			if i, ok := partsOf(v.Type()).by[seg]; ok {
				drop(v.Field(i), rest, keep)
			}
			return
		}
		for i := range v.NumField() {
			drop(v.Field(i), "", keep)
		}
	case reflect.Map:
		var fresh reflect.Value // a copy, once something must go
		for it := v.MapRange(); it.Next(); {
			if seg != "" && seg != it.Key().String() {
				continue
			}
			item := reflect.New(v.Type().Elem()).Elem()
			item.Set(it.Value())
			if drop(item, "", keep); item.Equal(it.Value()) {
				continue
			}
			if !fresh.IsValid() {
				fresh = cloneMap(v)
			}
			if item.IsZero() {
				item = reflect.Value{} // no entry at all, as if it had never been taken
			}
			fresh.SetMapIndex(it.Key(), item)
		}
		if fresh.IsValid() {
			v.Set(fresh)
		}
	}
}
