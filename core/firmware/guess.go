package firmware

import (
	"math"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"vividperch/core/quad"
)

// Guess of what one or several settings of an unknown line mean.
type Guess struct {
	Entry
	// Score from 0 to 1: how well names, values and ranges fit.
	Score float64 `json:"score"`
	Why   string  `json:"why"`
}

// notSure is the most that a guess scores which a pilot has to look at, whatever speaks for it.
const notSure = 0.55

const farFrom = " It would be far from what other families have there."

// mostGuesses are offered for one setting.
const mostGuesses = 3

// factors that lines count in: as it is, tenths to ten-thousandths, tens, fifths (half a per cent of a stick's travel),
// shares of 1, radians, halves and doubles.
var factors = []float64{1, 10, 100, 1000, 10000, 1e5, 0.1, 0.01, 0.001, 0.2, 20, 0.5, 2, math.Pi / 180, math.Pi / 18000}

// seldom says that a factor is one of the odder: a figure that is possible as it is does not want it.
func seldom(f float64) bool { return f == 0.2 || f == 20 || f == 0.5 || f == 2 }

// GuessMeanings offers, for every setting of a list, what it may map to on the sheet, best first and at most three each;
// none where nothing fits well enough. The sheet is what the quad is meant to be: a figure on it that a setting holds in
// some usual unit is a good hint, and so is a name.
func GuessMeanings(list []Listed, separator string, s quad.Sheet) map[string][]Guess {
	places := guessable(s)
	out := make(map[string][]Guess, len(list))
	for _, l := range list {
		own := tokens(l.Name)
		if _, figure, _, ok := figureIn(l.Value); ok {
			l.Value = figure
		}
		var found []Guess
		if parts := strings.Split(l.Value, separator); separator != "" && len(parts) > 1 {
			found = guessGroups(l.Name, parts, own, places)
		} else {
			for i := range places {
				if g, ok := places[i].guess(l.Name, l.Value, own); ok {
					found = append(found, g)
				}
			}
		}
		slices.SortStableFunc(found, func(a, b Guess) int {
			switch {
			case a.Score > b.Score:
				return -1
			case a.Score < b.Score:
				return 1
			}
			return 0
		})
		out[l.Name] = found[:min(mostGuesses, len(found))]
	}
	return out
}

// place on the sheet that a setting may map to.
type place struct {
	path  quad.Path
	field quad.Field
	names [][]string // words that name it, and others for the same
	value any
}

func guessable(s quad.Sheet) []place {
	var out []place
	for _, leaf := range quad.Leaves(struct {
		Sheet quad.Sheet `json:"sheet"`
	}{s}, "") {
		f, err := quad.FieldAt(leaf.Path)
		if err != nil || leaf.Path.Under("sheet.firmware") || leaf.Path == "sheet.link.phrase" {
			continue
		}
		p := place{path: leaf.Path, field: f, value: leaf.Value}
		for _, word := range tokens(strings.TrimPrefix(string(leaf.Path), "sheet.")) {
			p.names = append(p.names, append([]string{word}, alsoCalled[word]...))
		}
		out = append(out, p)
	}
	return out
}

// alsoCalled are words that settings lists use for the words of the sheet.
var alsoCalled = map[string][]string{
	"roll": {"aileron"}, "pitch": {"elevator"}, "yaw": {"rudder"}, "throttle": {"push", "thrust", "gas"},
	"motors": {"motor", "out", "output", "esc"}, "outputs": {"output", "out", "motor", "seat"}, "corner": {"place", "seat", "position"},
	"idle": {"rest", "lowest", "minimum"}, "reversed": {"turn", "turned", "direction", "reverse"}, "two": {"reply", "answer", "both"}, "way": {}, "poles": {"magnets"}, "loop": {"pid"},
	"rate": {"hz", "hertz", "frequency"}, "protocol": {"signal", "wire", "kind"}, "bit": {"kbit", "bits"},
	"arm": {"arming", "armed"}, "self": {}, "level": {"angle", "stabilise"}, "beeper": {"beep", "buzzer", "sound"},
	"channel": {"ch"}, "from": {"low", "start", "least"}, "to": {"high", "end", "most"}, "deadband": {"dead", "rest"},
	"order": {"map", "sequence"}, "below": {"low", "rest"}, "peak": {"most", "max", "full"}, "centre": {"mid", "middle", "sensitivity"}, "bend": {"expo", "curve"},
	"proportional": {"p"}, "integral": {"i"}, "derivative": {"d"}, "gains": {"hold", "gain", "pid"},
	"limit": {"most", "max"}, "strength": {"pull", "gain"}, "cells": {"cell"}, "warn": {"warning", "low"}, "land": {"critical", "empty"}, "per": {}, "cell": {"volt", "volts", "voltage"},
	"guard": {"wait", "delay", "time"}, "policy": {"plan", "action", "then", "procedure"}, "loss": {"failsafe", "quiet", "lost"},
	"picture": {"video", "view"}, "frequency": {"mhz", "hz"}, "power": {"mw", "milliwatt"}, "board": {"mount"}, "barometer": {"baro"}, "satellite": {"gps", "position"},
	"inverted": {"invert", "inverse"}, "telemetry": {"reply"}, "ports": {"port", "serial", "uart"}, "function": {"job", "does"}, "family": {"shape", "curve", "kind"},
	"layout": {"shape", "kind", "frame"}, "rotation": {"spin", "whirl", "turning"}, "feel": {"turn", "rates"}, "ranges": {"travel", "span"}, "watch": {"battery", "volt", "alarm"},
}

var wordBoundary = regexp.MustCompile(`[A-Z]?[a-z]+|[A-Z]+|\d+`)

// tokens of a name: its words in lower case, at capitals, marks and figures.
func tokens(name string) []string {
	var out []string
	for _, w := range wordBoundary.FindAllString(name, -1) {
		out = append(out, strings.ToLower(w))
	}
	return out
}

// named is how well a setting's words fit a place: the share of its words that name the place, and of the place's that
// are named.
func (p *place) named(own []string) float64 {
	if len(own) == 0 {
		return 0
	}
	hits, named := 0, 0.0
	for _, w := range own {
		for _, names := range p.names {
			if i := slices.Index(names, w); i >= 0 {
				hits++
				named++
				if i > 0 {
					named -= 0.2 // another word for it
				}
				break
			}
		}
	}
	last := 0.0
	if n := len(p.names); n > 0 && slices.ContainsFunc(own, func(w string) bool { return slices.Contains(p.names[n-1], w) }) {
		last = 0.15 // the last word of a path tells most
	}
	return min(1, 0.85*named/float64(len(own))*float64(min(hits, len(p.names)))/math.Max(1, math.Min(3, float64(len(p.names))))+last)
}

const worthwhile = 0.3

func (p *place) guess(setting, raw string, own []string) (Guess, bool) {
	g := Guess{Entry: Entry{Setting: setting, Path: p.path}}
	name := p.named(own)
	switch p.value.(type) {
	case float64, int:
		x, err := strconv.ParseFloat(raw, 64)
		if err != nil {
			return g, false
		}
		g.Kind = EntryScalar
		scale, fit, why := p.scale(x)
		g.Factor, g.Offset, g.Per = scale.Factor, scale.Offset, scale.Per
		g.Score = 0.62*name + fit
		g.Why = reasons(name, why)
		if Odd(p.path, scale.figure(x)) { // what is far from anything plausible is never sure
			g.Score = math.Min(g.Score, notSure)
			g.Why += farFrom
		}
	case bool:
		g.Kind, g.Words = EntryEnumeration, yesOrNo(raw)
		if g.Words == nil {
			return g, false
		}
		g.Score, g.Why = 0.75*name, reasons(name, "")
	default:
		g.Kind = EntryEnumeration
		word := wordOf(p.value)
		switch {
		case len(p.field.OneOf) == 0 && raw == word && word != "":
			g.Score, g.Why = 0.5+0.5*name, reasons(name, "it holds what your settings say")
		case len(p.field.OneOf) == 0:
			g.Score, g.Why = 0.7*name, reasons(name, "")
		default:
			if g.Words = wordsFor(raw, word, p.field.OneOf); len(g.Words) == 0 {
				return g, false
			}
			g.Score, g.Why = 0.75*name, reasons(name, "")
			for w, r := range g.Words {
				if !strings.EqualFold(w, r) { // the name tells where it belongs, but not that its word means what your settings say
					g.Score = math.Min(g.Score, notSure)
					g.Why += " Look whether its word means that."
				}
			}
		}
	}
	return g, g.Score >= worthwhile
}

func wordOf(v any) string {
	if r := reflect.ValueOf(v); r.Kind() == reflect.String {
		return r.String()
	}
	return ""
}

// wordsFor a setting with words: the one that the list holds stands for what the sheet says.
func wordsFor(raw, word string, oneOf []string) map[string]string {
	out := map[string]string{}
	for _, w := range oneOf {
		if strings.EqualFold(w, raw) {
			out[w] = raw
			return out
		}
	}
	if slices.Contains(oneOf, word) {
		out[word] = raw
	}
	return out
}

func yesOrNo(raw string) map[string]string {
	for _, pair := range [][2]string{{"0", "1"}, {"off", "on"}, {"no", "yes"}, {"false", "true"}, {"OFF", "ON"}, {"normal", "reversed"}, {"disabled", "enabled"}} {
		if raw == pair[0] || raw == pair[1] {
			return map[string]string{"false": pair[0], "true": pair[1]}
		}
	}
	return nil
}

// micro is how many microseconds a second has.
const micro = 1e6

// scale finds the factor with which a raw figure is what the sheet says, or at least a figure that the place allows. fit
// counts up to 0.38.
func (p *place) scale(x float64) (f Field, fit float64, why string) {
	v, _ := number(p.value)
	a := p.field.Allowed
	likely := a != nil && x >= a.Least && x <= a.Most && x > v/20 && x < 20*v
	if v != 0 {
		for _, f := range factors {
			if seldom(f) && likely {
				continue
			}
			if math.Abs(x-v*f) <= 1e-6*math.Abs(x)+1e-9 || f != 1 && x != 0 && math.Abs(x-math.Round(v*f)) < 1e-9 && math.Abs(x) >= 10 {
				fit = 0.38
				if v == 1 || v == math.Trunc(v) && math.Abs(v) < 10 {
					fit = 0.2 // small whole figures are equal by chance
				}
				return Field{Factor: f}, fit, "it holds what your settings say" + scaleWords(f)
			}
		}
		// A pause in microseconds for a rate.
		if p.field.Unit == "Hz" && x >= 10 && x == math.Round(micro/v) {
			return Field{Per: micro}, 0.38, "it holds what your settings say, as the pause in microseconds"
		}
		// Half per cents, or per cents, of a stick's travel from 1000 µs.
		if p.field.Unit == "µs" {
			for _, f := range []float64{0.2, 0.1} {
				if math.Abs(x-(v-1000)*f) < 1e-9 && x != 0 {
					return Field{Factor: f, Offset: 1000}, 0.38, "it holds what your settings say, counted from 1000 µs"
				}
			}
		}
	}
	if a == nil {
		return Field{Factor: 1}, 0, ""
	}
	for _, f := range []float64{1, 10, 100, 0.01, 1000} {
		if y := x / f; y >= a.Least && y <= a.Most && (v == 0 || y > v/20 && y < 20*v) {
			return Field{Factor: f}, 0.1, "its figure is possible there" + scaleWords(f)
		}
	}
	return Field{Factor: 1}, 0, ""
}

func scaleWords(f float64) string {
	if f == 1 {
		return ""
	}
	return " times " + strconv.FormatFloat(f, 'g', 6, 64)
}

func reasons(name float64, value string) string {
	switch {
	case name >= 0.5 && value != "":
		return "The name fits, and " + value + "."
	case name >= 0.5:
		return "The name fits."
	case value != "":
		return strings.ToUpper(value[:1]) + value[1:] + "."
	}
	return "The name fits a little."
}

// groups of the sheet that lines write as one list of figures, in their order.
var guessedGroups = [][]string{{"channel", "from", "to"}, {"low", "centre", "high"}, {"centre", "peak", "bend"}, {"proportional", "integral", "derivative"}}

// guessGroups offers what a list of figures may be: all the figures of one group.
func guessGroups(setting string, parts, own []string, places []place) []Guess {
	byPath := map[quad.Path]*place{}
	for i := range places {
		byPath[places[i].path] = &places[i]
	}
	var out []Guess
	for i := range places {
		parent, last, _ := cutLast(places[i].path)
		for _, group := range guessedGroups {
			if len(group) != len(parts) || last != group[0] || byPath[parent+"."+quad.Path(group[1])] == nil {
				continue
			}
			g := Guess{Entry: Entry{Kind: EntryRecord, Setting: setting}}
			fits, name, odd := 0.0, 0.0, false
			for k, key := range group {
				p := byPath[parent+"."+quad.Path(key)]
				x, err := strconv.ParseFloat(parts[k], 64)
				if p == nil || err != nil {
					fits = -1
					break
				}
				f, fit, _ := p.scale(x)
				f.Path = p.path
				g.Fields, odd = append(g.Fields, f), odd || Odd(p.path, f.figure(x))
				fits += fit / float64(len(group))
				whole := place{names: p.names[:len(p.names)-1]}
				name = math.Max(name, whole.named(own))
			}
			if fits < 0 {
				continue
			}
			g.Score = 0.62*name + fits
			why := ""
			if fits > 0.3 {
				why = "its figures are what your settings say"
			}
			g.Why = reasons(name, why)
			if odd {
				g.Score = math.Min(g.Score, notSure)
				g.Why += farFrom
			}
			if g.Score >= worthwhile {
				out = append(out, g)
			}
		}
	}
	return out
}

func cutLast(p quad.Path) (parent quad.Path, last string, ok bool) {
	i := strings.LastIndexByte(string(p), '.')
	if i < 0 {
		return "", string(p), false
	}
	return p[:i], string(p[i+1:]), true
}
