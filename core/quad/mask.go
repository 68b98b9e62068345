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
	dst, src := reflect.ValueOf(&out).Elem(), reflect.ValueOf(&k).Elem()
	for _, p := range paths {
		copyPath(dst, src, string(p))
	}
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
		if i, ok := fieldsOf(src.Type())[seg]; ok {
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

// DropReadings returns k without those readings under the given paths that keep refuses. What k shares with
// others is not written to.
func DropReadings(k Known, paths []Path, keep func(at time.Time) bool) Known {
	root := reflect.ValueOf(&k.Readings).Elem()
	for _, p := range paths {
		if rest, ok := strings.CutPrefix(string(p), "readings"); ok {
			drop(root, strings.TrimPrefix(rest, "."), keep)
		}
	}
	return k
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
			if i, ok := fieldsOf(v.Type())[seg]; ok {
				drop(v.Field(i), rest, keep)
			}
			return
		}
		for i := range v.NumField() {
			drop(v.Field(i), "", keep)
		}
	case reflect.Map:
		if v.IsNil() {
			return
		}
		fresh := cloneMap(v)
		for it := v.MapRange(); it.Next(); {
			if seg == "" || seg == it.Key().String() {
				item := reflect.New(v.Type().Elem()).Elem()
				item.Set(it.Value())
				drop(item, "", keep)
				if item.IsZero() {
					item = reflect.Value{} // no entry at all, as if it had never been taken
				}
				fresh.SetMapIndex(it.Key(), item)
			}
		}
		v.Set(fresh)
	}
}
