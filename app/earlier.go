package app

import (
	"encoding/json"
	"slices"

	"vividperch/core/book"
	"vividperch/core/quad"
)

// The level was two readings until both ways of it became one.
const (
	levelWhole = "readings.senses.level"
	levelRoll  = "readings.senses.levelRoll"
	levelPitch = "readings.senses.levelPitch"
)

// asKeptNow gives the entries that count in the shapes that this program reads. What an earlier one kept as it was measured is neither asked for
// again, nor does a proof fall that relied on it. list is in the order in which they were made, and stays as it is.
func asKeptNow(list []book.Entry) ([]book.Entry, error) {
	isHalf := func(e book.Entry) bool {
		return e.Kind == book.KindReading && (e.Name == levelRoll || e.Name == levelPitch)
	}
	var halves []book.Entry
	for _, e := range list {
		switch {
		case isHalf(e):
			halves = append(halves, e)
		case e.Kind == book.KindReading && e.Name == levelWhole:
			// What was measured since stands for it.
			return slices.DeleteFunc(slices.Clone(list), isHalf), nil
		}
	}
	if len(halves) < 2 {
		return list, nil
	}
	joined, relied, err := joinLevel(halves[0], halves[1])
	if err != nil {
		return nil, err
	}
	var out []book.Entry
	for _, e := range list {
		switch {
		case e.ID == halves[0].ID:
		case e.ID == halves[1].ID:
			out = append(out, joined)
		default:
			if e.Kind == book.KindSignature || e.Kind == book.KindAcceptance {
				if e.Body, err = relyOn(e.Body, relied); err != nil {
					return nil, err
				}
			}
			out = append(out, e)
		}
	}
	return out, nil
}

// joinLevel makes one reading of two halves, taken when the later one was. relied are the fingerprints of the halves, and of both together.
func joinLevel(first, later book.Entry) (joined book.Entry, relied map[string]string, err error) {
	value := map[string]float64{}
	body := map[string]any{}
	for _, e := range []book.Entry{first, later} {
		var half struct {
			Value float64 `json:"value"`
		}
		if err := json.Unmarshal(e.Body, &half); err != nil {
			return joined, nil, quad.DecodeFault(err, e.Name)
		}
		value[e.Name] = half.Value
	}
	if err := json.Unmarshal(later.Body, &body); err != nil {
		return joined, nil, quad.DecodeFault(err, later.Name)
	}
	whole := quad.Level{Roll: value[levelRoll], Pitch: value[levelPitch]}
	body["value"] = whole
	joined = later
	joined.Name = levelWhole
	joined.Body, err = json.Marshal(body)
	return joined, map[string]string{levelWhole: quad.HashValue(whole), levelRoll: quad.HashValue(whole.Roll), levelPitch: quad.HashValue(whole.Pitch)}, err
}

// relyOn the whole instead of its halves, in the body of what relied on these halves. One that relied on others stays, and falls by it.
func relyOn(body json.RawMessage, relied map[string]string) (json.RawMessage, error) {
	var all map[string]json.RawMessage
	var on map[string]string
	if err := json.Unmarshal(body, &all); err != nil {
		return nil, quad.DecodeFault(err, "relied")
	}
	if err := json.Unmarshal(all["relied"], &on); err != nil || on[levelRoll] != relied[levelRoll] || on[levelPitch] != relied[levelPitch] {
		return body, nil
	}
	delete(on, levelRoll)
	delete(on, levelPitch)
	on[levelWhole] = relied[levelWhole]
	raw, err := json.Marshal(on)
	if err != nil {
		return nil, err
	}
	all["relied"] = raw
	return json.Marshal(all)
}
