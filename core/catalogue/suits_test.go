package catalogue

import (
	"encoding/json"
	"fmt"
	"math"
	"testing"
)

// Whatever size a pilot begins, with a pack that such a quad has, something of every kind is offered to him, and never all that there is.
func TestSomethingSuitsEverySize(t *testing.T) {
	for _, c := range []struct {
		mm    float64
		cells []int
	}{
		{31, []int{1}}, {40, []int{1, 2}}, {51, []int{2, 3}}, {63.5, []int{2, 3, 4}}, {76, []int{3, 4}}, {89, []int{4}}, {102, []int{4, 6}}, {127, []int{4, 6}}, {152, []int{4, 6}}, {178, []int{4, 6}},
		{203, []int{6}}, {229, []int{6}}, {254, []int{6}},
	} {
		for _, cells := range c.cells {
			suits, all := map[Kind]int{}, map[Kind]int{}
			for _, e := range Shipped() {
				all[e.Kind]++
				if e.Suits(Wish{Diameter: c.mm, Cells: cells}) {
					suits[e.Kind]++
				}
			}
			for _, kind := range Kinds {
				if suits[kind] == 0 {
					t.Errorf("%v mm, %d cells: no %s suits", c.mm, cells, kind)
				}
			}
			for _, kind := range []Kind{Frame, Motor, Propeller, Pack} {
				if suits[kind] > all[kind]/2 {
					t.Errorf("%v mm, %d cells: %d of %d are offered as %s", c.mm, cells, suits[kind], all[kind], kind)
				}
			}
		}
	}
}

// What is suited is so by the part's own figures: the cells that it bears, propellers that do not touch, tips that are neither lame nor
// beyond sound. The bounds are worked out here by themselves.
func TestSuitsByItsFigures(t *testing.T) {
	five := Wish{Diameter: 127, Cells: 6}
	entry := func(kind Kind, part string, args ...any) Entry {
		return Entry{Kind: kind, Name: "one", Part: json.RawMessage(fmt.Sprintf(part, args...))}
	}
	lame := 0.4 * 343 / (math.Pi * 0.127) * 60 / 25.2 // rpm/V at 25.2 V whose tips just reach four tenths of the speed of sound
	for _, c := range []struct {
		what string
		e    Entry
		w    Wish
		want bool
	}{
		{"a pack of as many cells", entry(Pack, `{"cells":6}`), five, true},
		{"a pack of another", entry(Pack, `{"cells":4}`), five, false},
		{"any pack where nobody said", entry(Pack, `{"cells":4}`), Wish{Diameter: 127}, true},
		{"controllers for just as many", entry(SpeedController, `{"cellsMin":3,"cellsMax":6}`), five, true},
		{"controllers for one less", entry(SpeedController, `{"cellsMin":3,"cellsMax":5}`), five, false},
		{"controllers for more", entry(SpeedController, `{"cellsMin":8,"cellsMax":12}`), five, false},
		{"controllers that do not tell", entry(SpeedController, `{}`), five, true},
		{"a board for less", entry(Board, `{"cellsMax":4}`), five, false},
		{"video for less", entry(Video, `{"cellsMax":4}`), five, false},
		{"its propeller", entry(Propeller, `{"diameter":127}`), five, true},
		{"a tenth of an inch less", entry(Propeller, `{"diameter":124.5}`), five, true},
		{"half an inch more", entry(Propeller, `{"diameter":140}`), five, false},
		{"arms on which they just clear", entry(Frame, `{"armFront":64.5,"armSide":80}`), five, true},
		{"arms on which they would touch", entry(Frame, `{"armFront":64.4,"armSide":80}`), five, false},
		{"arms for twice the size", entry(Frame, `{"armFront":125,"armSide":125}`), five, false},
		{"a motor just not lame", entry(Motor, `{"kv":%f}`, lame*1.01), five, true},
		{"a lame motor", entry(Motor, `{"kv":%f}`, lame*0.99), five, false},
		{"the same with one cell less known", entry(Motor, `{"kv":%f}`, lame*0.99), Wish{Diameter: 127}, true},
		{"tips beyond sound", entry(Motor, `{"kv":2200}`), five, false},
		{"a receiver", entry(Receiver, `{}`), five, true},
		{"what cannot be read", entry(Motor, `{"kv":"fast"}`), five, false},
	} {
		if got := c.e.Suits(c.w); got != c.want {
			t.Errorf("%s: %v", c.what, got)
		}
	}
}
