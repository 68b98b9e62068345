// Package catalogue knows parts that can be on a quad: an invented catalogue that ships, searched as a pilot types, and estimates of what
// nobody told of a part.
package catalogue

import (
	"cmp"
	"embed"
	"encoding/json"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"
	"sync"
	"unicode"

	"vividperch/core/quad"
)

//go:embed shipped/*.yaml
var shipped embed.FS

// Kind of a part.
type Kind string

const (
	Frame           Kind = "frame"
	Motor           Kind = "motor"
	Propeller       Kind = "propeller"
	SpeedController Kind = "speedController"
	Board           Kind = "board"
	Pack            Kind = "pack"
	Receiver        Kind = "receiver"
	RadioModule     Kind = "radioModule"
	Video           Kind = "video"
	Satellite       Kind = "satellite"
)

// Kinds in the order in which a quad is put together.
var Kinds = []Kind{Frame, Motor, Propeller, SpeedController, Board, Pack, Receiver, RadioModule, Video, Satellite}

// Entry is one part as it is sold. What it does not tell is left at nothing, and is not made up.
type Entry struct {
	Kind  Kind   `json:"kind" enum:"frame,motor,propeller,speedController,board,pack,receiver,radioModule,video,satellite"`
	Name  string `json:"name"`
	Words string `json:"words"`
	// Part is the value at the place of a quad's parts where it goes, without its name.
	Part json.RawMessage `json:"part"`
	// Mass of a motor alone, g; its frame's mass is told with it.
	Mass   float64 `json:"mass,omitempty" unit:"g"`
	Shape  Shape   `json:"shape,omitzero"`
	Stator Stator  `json:"stator,omitzero"`
	// Compass is the second device that a satellite receiver brings, if it brings one.
	Compass json.RawMessage `json:"compass,omitempty"`
}

// row of a shipped file.
type row struct {
	Name    string          `json:"name"`
	Words   string          `json:"words"`
	Part    json.RawMessage `json:"part"`
	Mass    float64         `json:"mass"`
	Shape   Shape           `json:"shape"`
	Stator  Stator          `json:"stator"`
	Compass json.RawMessage `json:"compass"`
}

var files = map[Kind]string{
	Frame: "frames", Motor: "motors", Propeller: "propellers", SpeedController: "speed-controllers", Board: "boards", Pack: "packs",
	Receiver: "receivers", RadioModule: "radio-modules", Video: "video", Satellite: "satellites",
}

// Shipped entries, by kind and name; read once.
var Shipped = sync.OnceValue(func() []Entry {
	var out []Entry
	for _, kind := range Kinds {
		raw, err := shipped.ReadFile("shipped/" + files[kind] + ".yaml")
		if err != nil {
			panic(err) // it is part of the program
		}
		var rows []row
		if err := quad.ReadYAML(raw, &rows); err != nil {
			panic(fmt.Sprintf("%s: %v", kind, err))
		}
		for _, r := range rows {
			out = append(out, Entry{Kind: kind, Name: r.Name, Words: r.Words, Part: r.Part, Mass: r.Mass, Shape: r.Shape, Stator: r.Stator, Compass: r.Compass})
		}
	}
	return out
})

// Find an entry by its kind and name.
func Find(kind Kind, name string) (Entry, bool) {
	list := Shipped()
	i := slices.IndexFunc(list, func(e Entry) bool { return e.Kind == kind && e.Name == name })
	if i < 0 {
		return Entry{}, false
	}
	return list[i], true
}

// Search entries of a kind by what a pilot typed: each of his words must begin one of the entry's, in any order. At most so many, those first
// whose name begins with what was typed, then those of whose name more words are meant, then in the catalogue's order. Nothing typed finds the first ones.
func Search(list []Entry, kind Kind, typed string, most int) []Entry {
	want := wordsOf(typed)
	type found struct {
		e    Entry
		rank int
	}
	var out []found
	for _, e := range list {
		if e.Kind != kind {
			continue
		}
		name := wordsOf(e.Name)
		if Matches(typed, e.Name+" "+e.Words) {
			rank := 0
			for _, w := range want {
				if slices.Contains(name, w) {
					rank++
				}
			}
			if strings.HasPrefix(strings.ToLower(e.Name), strings.ToLower(strings.TrimSpace(typed))) {
				rank += len(want) + 1
			}
			out = append(out, found{e, rank})
		}
	}
	slices.SortStableFunc(out, func(a, b found) int { return cmp.Compare(b.rank, a.rank) })
	list = nil
	for _, f := range out[:min(most, len(out))] {
		list = append(list, f.e)
	}
	return list
}

// Matches says whether each word of what was typed begins a word of a text.
func Matches(typed, text string) bool {
	have := wordsOf(text)
	return !slices.ContainsFunc(wordsOf(typed), func(w string) bool {
		return !slices.ContainsFunc(have, func(h string) bool { return strings.HasPrefix(h, w) })
	})
}

// wordsOf a text in lower case: letters and figures, a point within a figure included.
func wordsOf(text string) []string {
	return strings.FieldsFunc(strings.ToLower(text), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '.' })
}

// single are the kinds of which a quad has one: where it stands among the parts, and its name.
var single = map[Kind]func(*quad.Parts) (part any, name *string){
	Frame:           func(p *quad.Parts) (any, *string) { return &p.Frame, &p.Frame.Name },
	Motor:           func(p *quad.Parts) (any, *string) { return &p.Motor, &p.Motor.Name },
	Propeller:       func(p *quad.Parts) (any, *string) { return &p.Propeller, &p.Propeller.Name },
	SpeedController: func(p *quad.Parts) (any, *string) { return &p.SpeedController, &p.SpeedController.Name },
	Board:           func(p *quad.Parts) (any, *string) { return &p.Board, &p.Board.Name },
	Receiver:        func(p *quad.Parts) (any, *string) { return &p.Receiver, &p.Receiver.Name },
	RadioModule:     func(p *quad.Parts) (any, *string) { return &p.RadioModule, &p.RadioModule.Name },
	Video:           func(p *quad.Parts) (any, *string) { return &p.Video, &p.Video.Name },
}

// NameOf the one part of a kind that a quad has, empty where nobody told it; ok is false for kinds of which it may have several.
func NameOf(p quad.Parts, kind Kind) (name string, ok bool) {
	of, ok := single[kind]
	if !ok {
		return "", false
	}
	_, at := of(&p)
	return *at, true
}

// PartsOf a kind that a quad has, as entries that could be put on another. A device is one by the name that it has there.
func PartsOf(p quad.Parts, kind Kind) []Entry {
	var out []Entry
	add := func(name string, part any) {
		if raw, err := json.Marshal(part); err == nil && name != "" {
			out = append(out, Entry{Kind: kind, Name: name, Part: raw})
		}
	}
	if of, one := single[kind]; one {
		part, name := of(&p)
		add(*name, part)
	}
	if kind == Pack {
		for _, name := range quad.SortedKeys(p.Packs) {
			add(name, p.Packs[name])
		}
	}
	return out
}

// Put an entry on a quad's parts: a copy under its own name, that can be edited like any other. A pack is added to those that are there.
// What a propeller, a motor or a pack does not tell is estimated where its shape tells enough, and noted as such with its band.
func Put(p quad.Parts, e Entry) (quad.Parts, error) {
	if err := put(&p, e); err != nil {
		return p, err
	}
	at, _ := e.Kind.at()
	if e.Kind == Propeller && p.EstimateAt(lagPath) != "" {
		p.Motor.TimeConst = 0 // it was estimated by the propeller before
		p.Estimates = slices.DeleteFunc(slices.Clone(p.Estimates), func(x Estimate) bool { return x.Path == lagPath })
	}
	filled, estimated := Filled(p, e.Shape, e.Stator)
	if e.Kind == Pack {
		at = quad.Path("parts.packs." + e.Name)
		var of map[quad.Path]Estimate
		filled, of = filledPack(filled, e.Name)
		maps.Copy(estimated, of)
	}
	// What was estimated before of what is another part now is none of it.
	filled.Estimates = nil
	for _, x := range p.Estimates {
		if !x.Path.Under(at) {
			filled.Estimates = append(filled.Estimates, x)
		}
	}
	for _, path := range quad.SortedKeys(estimated) {
		filled.Estimates = append(filled.Estimates, estimated[path])
	}
	return filled, nil
}

// lagPath is where the motors' time constant stands.
const lagPath = quad.Path("parts.motor.timeConstant")

func put(p *quad.Parts, e Entry) error {
	if of, one := single[e.Kind]; one {
		part, name := of(p)
		reflect.ValueOf(part).Elem().SetZero()
		if err := quad.ReadJSON(e.Part, part); err != nil {
			return err
		}
		*name = e.Name
		if e.Kind == Motor && p.Motor.Mass == 0 {
			p.Motor.Mass = e.Mass
		}
		return nil
	}
	switch e.Kind {
	case Pack:
		var pack quad.Pack
		if err := quad.ReadJSON(e.Part, &pack); err != nil {
			return err
		}
		p.Packs = with(p.Packs, e.Name, pack)
	case Satellite:
		for name, part := range map[string]json.RawMessage{"satellite": e.Part, "compass": e.Compass} {
			if len(part) == 0 {
				continue
			}
			var d quad.Device
			if err := quad.ReadJSON(part, &d); err != nil {
				return err
			}
			p.Devices = with(p.Devices, name, d)
		}
	default:
		return quad.Faultf("no-kind", string(e.Kind), "is no kind of part")
	}
	return nil
}

// with is a copy of some parts with one more.
func with[T any](list map[string]T, name string, part T) map[string]T {
	out := map[string]T{}
	maps.Copy(out, list)
	out[name] = part
	return out
}
