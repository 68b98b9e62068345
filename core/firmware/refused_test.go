package firmware

import (
	"strings"
	"testing"

	"vividperch/core/quad"
)

// What a dictionary says and nobody could mean is refused at the setting's name.
func TestDictionariesThatAreRefused(t *testing.T) {
	const head = "line: Refused\nversions: [{version: 1.0.0}, {version: 2.0.0}]\n"
	const settings = `settings:
  - {name: idle, kind: whole, min: 0, max: 200, default: "50"}
  - {name: title, kind: text, default: ""}
  - {name: shape, kind: word, words: [cross, plus], default: cross}
  - {name: rates, kind: list, items: 2, min: 0, max: 900, default: "1:2"}
`
	for name, c := range map[string]struct{ file, at string }{
		"a figure of a text":           {head + settings + "entries: [{kind: scalar, setting: title, path: sheet.motors.idle}]\n", "title"},
		"a figure of a word":           {head + settings + "entries: [{kind: scalar, setting: shape, path: sheet.motors.idle}]\n", "shape"},
		"bits of a word":               {head + settings + "entries: [{kind: bits, setting: shape, paths: [sheet.link.inverted]}]\n", "shape"},
		"a record of a figure":         {head + settings + "entries: [{kind: record, setting: idle, fields: [{path: sheet.motors.idle}]}]\n", "idle"},
		"a word of a list":             {head + settings + "entries: [{kind: enumeration, setting: rates, path: sheet.craft.layout, words: {x: \"1:2\"}}]\n", "rates"},
		"a factor of 0":                {head + settings + "entries: [{kind: scalar, setting: idle, path: sheet.motors.idle, factor: 0}]\n", "idle"},
		"a field's factor of 0":        {head + settings + "entries: [{kind: record, setting: rates, fields: [{path: sheet.feel.roll.centre}, {path: sheet.feel.roll.peak, factor: 0}]}]\n", "rates"},
		"per 0":                        {head + settings + "entries: [{kind: scalar, setting: idle, path: sheet.motors.loopRate, per: 0}]\n", "idle"},
		"per beside a factor":          {head + settings + "entries: [{kind: scalar, setting: idle, path: sheet.motors.loopRate, per: 1000000, factor: 2}]\n", "idle"},
		"one place and several":        {head + settings + "entries: [{kind: scalar, setting: idle, path: sheet.motors.idle, paths: [sheet.motors.loopRate]}]\n", "idle"},
		"a table without rows":         {head + settings + "entries: [{kind: table, setting: shape, paths: [sheet.craft.layout]}]\n", "shape"},
		"a table of what cannot be":    {head + settings + "entries: [{kind: table, setting: shape, paths: [sheet.craft.layout], table: {round: [x]}}]\n", "shape"},
		"a row that is too short":      {head + settings + "entries: [{kind: table, setting: shape, paths: [sheet.craft.layout, sheet.motors.loopRate], table: {cross: [x]}}]\n", "shape"},
		"a row with a word for none":   {head + settings + "entries: [{kind: table, setting: shape, paths: [sheet.craft.layout], table: {cross: [round]}}]\n", "sheet.craft.layout"},
		"a row with a figure for one":  {head + settings + "entries: [{kind: table, setting: shape, paths: [sheet.craft.layout], table: {cross: [4]}}]\n", "sheet.craft.layout"},
		"a record of nothing":          {head + settings + "entries: [{kind: record, setting: rates, fields: [{}, {}]}]\n", "rates"},
		"bound to what nobody knows":   {head + "settings: [{name: tuned, kind: whole, min: 0, max: 9, default: \"0\", bound: moon}]\n", "tuned"},
		"a gate that there is none":    {head + "gates: [{name: sesame, signal: one tone}]\n" + settings, "gates.0"},
		"a word that it never was":     {head + "settings:\n  - {name: a, kind: word, words: [cut], default: cut, until: 2.0.0}\n  - {name: b, kind: word, words: [cut], default: cut, since: 2.0.0, was: {name: a, words: {glide: cut}}}\n", "b"},
		"a word that it cannot be":     {head + "settings:\n  - {name: a, kind: word, words: [cut], default: cut, until: 2.0.0}\n  - {name: b, kind: word, words: [cut], default: cut, since: 2.0.0, was: {name: a, words: {cut: descend}}}\n", "b"},
		"what it was, by nothing":      {head + "settings:\n  - {name: a, kind: whole, min: 0, max: 9, default: \"0\", until: 2.0.0}\n  - {name: b, kind: whole, min: 0, max: 9, default: \"0\", since: 2.0.0, was: {name: a, factor: 0}}\n", "b"},
		"a second document":            {head + settings + "---\n" + head + settings, "line 8"},
		"a separator that is no short": {head + "settings: [{name: a, kind: list, items: 2, min: 0, max: 9, default: \"1:2\", separator: \"" + strings.Repeat("-", 9) + "\"}]\n", "a"},
	} {
		_, err := Taught(c.file)
		if f := quad.AsFault(err); f == nil || f.Place != c.at {
			t.Errorf("%s: %v", name, err)
		}
	}
	if _, err := Taught("# before it\n---\n" + head + settings); err != nil {
		t.Errorf("one document with its mark: %v", err)
	}
}
