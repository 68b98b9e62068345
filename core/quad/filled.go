package quad

import "reflect"

// Filled is what is meant with every list and every map that holds nothing as an empty one, for a reader to whom nothing is no list. What
// m shares with others is not written to.
func (m Meant) Filled() Meant {
	v := reflect.New(reflect.TypeFor[Meant]()).Elem()
	v.Set(reflect.ValueOf(m))
	fill(v)
	return v.Interface().(Meant)
}

func fill(v reflect.Value) {
	switch v.Kind() {
	case reflect.Struct:
		if v.Type() == timeType {
			return
		}
		for i := range v.NumField() {
			fill(v.Field(i))
		}
	case reflect.Slice:
		if v.IsNil() {
			v.Set(reflect.MakeSlice(v.Type(), 0, 0))
		}
	case reflect.Map:
		fresh := reflect.MakeMapWithSize(v.Type(), v.Len())
		for it := v.MapRange(); it.Next(); {
			item := reflect.New(v.Type().Elem()).Elem()
			item.Set(it.Value())
			fill(item)
			fresh.SetMapIndex(it.Key(), item)
		}
		v.Set(fresh)
	}
}
