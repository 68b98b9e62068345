package quad

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
)

// The published schema is judged by a validator that knows nothing of ours: sheets of the newest format pass,
// and each kind of mistake is found at its place.
func TestSchemaBySomebodyElsesValidator(t *testing.T) {
	raw, err := Schema()
	if err != nil {
		t.Fatal(err)
	}
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(raw))
	if err != nil {
		t.Fatal(err)
	}
	c := jsonschema.NewCompiler()
	if err := c.AddResource("sheet.json", doc); err != nil {
		t.Fatal(err)
	}
	schema, err := c.Compile("sheet.json")
	if err != nil {
		t.Fatal(err)
	}
	judge := func(text string) error {
		value, err := jsonschema.UnmarshalJSON(strings.NewReader(text))
		if err != nil {
			t.Fatal(err)
		}
		return schema.Validate(value)
	}
	files, err := filepath.Glob("testdata/formats/*.newest")
	if err != nil || len(files) < 2 {
		t.Fatalf("%d sheets to judge, %v", len(files), err)
	}
	sound := ""
	for _, file := range files {
		text, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		if err := judge(string(text)); err != nil {
			t.Errorf("%s: %v", file, err)
		}
		sound = string(text)
	}
	empty, err := Canonical(Meant{})
	if err != nil {
		t.Fatal(err)
	}
	if err := judge(string(empty)); err != nil {
		t.Errorf("an empty quad: %v", err)
	}
	for _, c := range []struct{ old, new, place string }{
		{`"idle":`, `"idle":"much","idling":`, "idl"},
		{`"layout":"`, `"layout":"hexagon `, "layout"},
		{`"throttleLimit":`, `"throttleLimit":1`, "throttleLimit"},
		{`"poles":`, `"poles":0.`, "poles"},
	} {
		bad := strings.Replace(sound, c.old, c.new, 1)
		if bad == sound {
			t.Fatalf("%s is not in the sheet", c.old)
		}
		if err := judge(bad); err == nil || !strings.Contains(err.Error(), c.place) {
			t.Errorf("%s passed or was told elsewhere: %v", c.new, err)
		}
	}
	var units struct {
		Properties struct {
			Parts struct {
				Properties struct {
					Propeller struct {
						Properties struct {
							Diameter struct {
								Unit    string  `json:"x-unit"`
								Maximum float64 `json:"maximum"`
							} `json:"diameter"`
						} `json:"properties"`
					} `json:"propeller"`
				} `json:"properties"`
			} `json:"parts"`
		} `json:"properties"`
	}
	if err := json.Unmarshal(raw, &units); err != nil {
		t.Fatal(err)
	}
	if d := units.Properties.Parts.Properties.Propeller.Properties.Diameter; d.Unit != "mm" || d.Maximum != 1000 {
		t.Errorf("the propeller's diameter is described as %+v", d)
	}
}
