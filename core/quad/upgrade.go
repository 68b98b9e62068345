package quad

import (
	"bytes"
	"encoding/json"
)

// upgrades holds, at index N-1, the pure step from format N to N+1. A step works on the decoded JSON, because
// the Go types know only the newest format. A field it adds gets the value that keeps what the quad did
// before, so that no upgrade makes a proof stale.
var upgrades = [Format - 1]func(map[string]any){
	upgradeTo2,
	upgradeTo3,
	upgradeTo4,
}

// upgradeTo4 adds how the radio's model sends, how the link's strength reaches the board, and the antennas. Not told, they
// change nothing: what is not known of a link is not judged.
func upgradeTo4(m map[string]any) {
	put := func(group map[string]any, names ...string) {
		for _, name := range names {
			group[name] = ""
		}
	}
	link := within(m, "sheet", "link")
	put(link, "strength")
	link["strengthChannel"] = 0
	receiver := within(m, "parts", "receiver")
	put(receiver, "region", "polarisation", "strength")
	receiver["gain"], receiver["frame"], receiver["strengthChannel"] = 0, 0, 0
	module := within(m, "parts", "radioModule")
	put(module, "region", "polarisation")
	module["external"], module["gain"] = false, 0
	radio := within(m, "radio")
	put(radio, "model", "modules", "phrase")
	radio["number"], radio["channels"], radio["telemetry"], radio["rate"] = 0, 0, false, 0
	radio["alarms"] = map[string]any{"strength": 0, "strengthLast": 0, "quality": 0, "qualityLast": 0}
}

// upgradeTo3 adds the hardware layout of the speed controllers' firmware, which none asks for, and what ports can do:
// until now every port could send and receive.
func upgradeTo3(m map[string]any) {
	within(m, "parts", "speedController")["layout"] = ""
	ports := within(m, "parts", "board", "ports")
	for name := range ports {
		p := within(ports, name)
		p["send"], p["receive"] = true, true
	}
}

// upgradeTo2 adds the binding phrase and the thresholds of one's own; unset, both change nothing.
func upgradeTo2(m map[string]any) {
	within(m, "sheet", "link")["phrase"] = ""
	unset := func() map[string]any { return map[string]any{"value": 0, "reason": ""} }
	within(m, "limits")["thresholds"] = map[string]any{
		"currentSpare": unset(), "tipSpeed": unset(), "linkQuality": unset(), "level": unset(), "wind": unset(), "drift": unset(),
	}
}

// within finds a group by its names and makes it where it is not there. What is no group is left in its
// place and the answer goes nowhere: decoding refuses it afterwards.
func within(m map[string]any, names ...string) map[string]any {
	for _, name := range names {
		next, ok := m[name].(map[string]any)
		if !ok {
			next = map[string]any{}
			if m[name] == nil {
				m[name] = next
			}
		}
		m = next
	}
	return m
}

// upgraded brings bytes of an older format to the newest. Bytes of the newest come back as they are; a
// newer format, or none, is a Fault; what is no group of names is left for decoding to refuse.
func upgraded(raw []byte) ([]byte, error) {
	var e struct {
		Format *json.Number `json:"format"`
	}
	if json.Unmarshal(raw, &e) != nil {
		return raw, nil
	}
	format := int64(0)
	if e.Format != nil {
		n, err := e.Format.Int64()
		if err != nil {
			return nil, Faultf("no-format", "format", "has no whole format number")
		}
		format = n
	}
	switch {
	case format > Format:
		return nil, Faultf("newer-format", "format", "was written by a newer program (format %d; this one reads up to %d)", format, Format)
	case format < 1:
		return nil, Faultf("no-format", "format", "has no format number; this program reads 1 to %d", Format)
	case format == Format:
		return raw, nil
	}
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.UseNumber() // a figure must come out as it went in
	var m map[string]any
	if err := dec.Decode(&m); err != nil {
		return raw, nil
	}
	if dec.More() {
		return raw, nil
	}
	for _, step := range upgrades[format-1:] {
		step(m)
	}
	m["format"] = Format
	out, err := json.Marshal(m)
	if err != nil {
		return nil, Faultf("not-json", "", "cannot be upgraded: %v", err)
	}
	return out, nil
}
