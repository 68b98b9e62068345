package feel

import (
	_ "embed"
	"sync"

	"github.com/goccy/go-yaml"

	"vividperch/core/quad"
)

// Preset is a starting point, for a purpose.
type Preset struct {
	Name  string     `json:"name"`
	For   string     `json:"for"`
	Roll  quad.Rates `json:"roll"` // centre-peak
	Pitch quad.Rates `json:"pitch"`
	Yaw   quad.Rates `json:"yaw"`
	Lifts float64    `json:"lifts" unit:"1"` // at full stick, times its weight; 0 all of it
	Lean  float64    `json:"lean" unit:"deg"`
}

//go:embed presets.yaml
var presetFile []byte

// Presets that ship, the gentlest first.
var Presets = sync.OnceValue(func() []Preset {
	var out []Preset
	if err := yaml.UnmarshalWithOptions(presetFile, &out, yaml.Strict()); err != nil {
		panic("core/feel/presets.yaml: " + err.Error())
	}
	return out
})

// Rates of the preset in a family.
func (p Preset) Rates(family quad.RateFamily) (out [3]quad.Rates) {
	for i, r := range [3]quad.Rates{p.Roll, p.Pitch, p.Yaw} {
		out[i], _ = Convert(quad.CentrePeak, r, family)
	}
	return out
}
