package sticks

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"vividperch/core/quad"
)

// cardHead names the columns of a radio plan as CSV. A row's first column says what it is about: model, stick, trim, switch, mix.
var cardHead = []string{"what", "name", "channel", "positions", "rest", "when lost", "travel (%)", "springs", "gain", "from channel", "weight (%)", "alone", "trim (µs)"}

// between positions of a switch.
const between = " / "

// WriteCard writes the part of a radio plan that is set at the radio by hand: model, order, travel, trims, switches and mixes, as
// CSV. The phrase is never among it.
func WriteCard(p quad.RadioPlan) []byte {
	var out bytes.Buffer
	w := csv.NewWriter(&out)
	row := func(cells map[string]string) {
		line := make([]string, len(cardHead))
		for i, h := range cardHead {
			line[i] = cells[h]
		}
		_ = w.Write(line) // to memory
	}
	_ = w.Write(cardHead)
	row(map[string]string{"what": "model", "name": p.Model, "travel (%)": plain(p.Travel)})
	for _, a := range quad.Axes {
		c := quad.ChannelIn(p.Order, a)
		row(map[string]string{"what": "stick", "name": string(a), "channel": whole(c), "trim (µs)": plain(p.Trims.Of(a))})
	}
	for _, name := range quad.SortedKeys(p.Switches) {
		s := p.Switches[name]
		row(map[string]string{"what": "switch", "name": name, "channel": whole(s.Channel), "positions": strings.Join(s.Positions, between), "rest": s.Rest, "when lost": s.Lost, "travel (%)": plain(s.Travel), "springs": yes(s.Springs), "gain": yes(s.Gain)})
	}
	for _, name := range quad.SortedKeys(p.Mixes) {
		m := p.Mixes[name]
		row(map[string]string{"what": "mix", "name": name, "channel": whole(m.To), "from channel": whole(m.From), "weight (%)": plain(m.Weight), "alone": yes(m.Alone)})
	}
	w.Flush()
	return out.Bytes()
}

func plain(x float64) string {
	if x == 0 {
		return ""
	}
	return strconv.FormatFloat(x, 'f', -1, 64)
}

func whole(n int) string {
	if n == 0 {
		return ""
	}
	return strconv.Itoa(n)
}

func yes(b bool) string {
	if b {
		return "yes"
	}
	return ""
}

// mostCard is how long a card may be, bytes.
const mostCard = 100 << 10

// ReadCard reads a plan from CSV as WriteCard writes it, or from JSON as the plan of a quad has it, onto what is there: what the
// card does not tell, such as the phrase and what belongs to the link, stays. A line that cannot be is a Fault there.
func ReadCard(raw []byte, onto quad.RadioPlan) (quad.RadioPlan, error) {
	if len(raw) > mostCard {
		return onto, quad.Faultf("too-large", "", "is larger than 100 kB")
	}
	if bytes.HasPrefix(bytes.TrimSpace(raw), []byte("{")) {
		return readJSON(raw, onto)
	}
	return readCSV(raw, onto)
}

func readJSON(raw []byte, onto quad.RadioPlan) (quad.RadioPlan, error) {
	out := onto
	out.Switches, out.Mixes = nil, nil
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&out); err != nil {
		return onto, quad.Faultf("not-json", "", "is no radio plan: %v", err)
	}
	out.Phrase = onto.Phrase // no card carries one
	return out, fits(out)
}

func readCSV(raw []byte, onto quad.RadioPlan) (quad.RadioPlan, error) {
	out := onto
	out.Switches, out.Mixes, out.Trims = map[string]quad.SwitchPlan{}, map[string]quad.MixPlan{}, quad.StickTrims{}
	r := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(raw, []byte("\xef\xbb\xbf"))))
	r.FieldsPerRecord = -1
	head, err := r.Read()
	if err != nil || !slices.Contains(head, "what") || !slices.Contains(head, "name") {
		return onto, quad.Faultf("no-card", "line 1", "is no card of a radio plan: its first line names the columns, among them what and name")
	}
	order := []byte("????")
	for {
		cells, err := r.Read()
		if err == io.EOF {
			break
		}
		if err != nil {
			line := 0
			if p, ok := errors.AsType[*csv.ParseError](err); ok {
				line = p.StartLine
			}
			return onto, quad.Faultf("bad-line", fmt.Sprintf("line %d", line), "cannot be read as a line of a table")
		}
		line, _ := r.FieldPos(0)
		at := fmt.Sprintf("line %d", line)
		c := card{at: at, cells: map[string]string{}}
		for i, h := range head {
			if i < len(cells) {
				c.cells[h] = strings.TrimSpace(cells[i])
			}
		}
		if err := c.onto(&out, order); err != nil {
			return onto, err
		}
	}
	if len(out.Mixes) == 0 {
		out.Mixes = nil
	}
	if ValidOrder(string(order)) {
		out.Order = string(order)
	} else if string(order) != "????" {
		return onto, quad.Faultf("bad-order", "", "the four sticks are not on channels 1 to 4, one each")
	}
	return out, fits(out)
}

// fits says whether every figure of a plan can be.
func fits(p quad.RadioPlan) error {
	for _, f := range quad.Leaves(p, "radio") {
		raw, err := json.Marshal(f.Value)
		if err != nil {
			return quad.Faultf("not-finite", string(f.Path), "is not a number")
		}
		if err := quad.Fits(f.Path, raw); err != nil {
			return err
		}
	}
	for name := range p.Switches {
		if quad.Longer(name, 40) {
			return quad.Faultf("bad-name", "", "a switch's name has at most 40 characters")
		}
	}
	return nil
}

type card struct {
	at    string
	cells map[string]string
}

func (c card) figure(column string, to *float64) error {
	text := c.cells[column]
	if text == "" {
		return nil
	}
	x, err := strconv.ParseFloat(text, 64)
	if err != nil {
		return quad.Faultf("not-a-number", c.at, "%s is %q, which is not a number", column, quad.Clip(text, 60))
	}
	*to = x
	return nil
}

func (c card) whole(column string, to *int) error {
	text := c.cells[column]
	if text == "" {
		return nil
	}
	n, err := strconv.Atoi(text)
	if err != nil || n < 0 || n > 18 {
		return quad.Faultf("no-channel", c.at, "%s is %q, but must be a channel from 1 to 18", column, quad.Clip(text, 60))
	}
	*to = n
	return nil
}

func (c card) yes(column string, to *bool) error {
	switch c.cells[column] {
	case "", "no":
	case "yes":
		*to = true
	default:
		return quad.Faultf("not-yes", c.at, "%s is %q, but must be yes or nothing", column, quad.Clip(c.cells[column], 60))
	}
	return nil
}

func first(list ...error) error {
	for _, err := range list {
		if err != nil {
			return err
		}
	}
	return nil
}

func (c card) onto(p *quad.RadioPlan, order []byte) error {
	name := c.cells["name"]
	if name == "" && c.cells["what"] != "model" {
		return quad.Faultf("no-name", c.at, "has no name")
	}
	switch c.cells["what"] {
	case "model":
		p.Model = name
		return c.figure("travel (%)", &p.Travel)
	case "stick":
		axis, channel := quad.Axis(name), 0
		trim := map[quad.Axis]*float64{quad.Roll: &p.Trims.Roll, quad.Pitch: &p.Trims.Pitch, quad.Throttle: &p.Trims.Throttle, quad.Yaw: &p.Trims.Yaw}[axis]
		if trim == nil {
			return quad.Faultf("no-stick", c.at, "there is no stick %q", quad.Clip(name, 60))
		}
		if err := first(c.whole("channel", &channel), c.figure("trim (µs)", trim)); err != nil {
			return err
		}
		if channel > 4 {
			return quad.Faultf("bad-order", c.at, "sticks are sent on channels 1 to 4")
		}
		if channel > 0 {
			if order[channel-1] != '?' {
				return quad.Faultf("bad-order", c.at, "channel %d has a stick already", channel)
			}
			order[channel-1] = axis.Letter()
		}
		return nil
	case "switch":
		if _, twice := p.Switches[name]; twice {
			return quad.Faultf("twice", c.at, "the switch %q is there twice", quad.Clip(name, 60))
		}
		s := quad.SwitchPlan{Rest: c.cells["rest"], Lost: c.cells["when lost"]}
		for position := range strings.SplitSeq(c.cells["positions"], strings.TrimSpace(between)) {
			if position = strings.TrimSpace(position); position != "" {
				s.Positions = append(s.Positions, position)
			}
		}
		if len(s.Positions) > 12 {
			return quad.Faultf("too-many", c.at, "has %d positions; no switch has as many", len(s.Positions))
		}
		for _, at := range []string{s.Rest, s.Lost} {
			if at != "" && !slices.Contains(s.Positions, at) {
				return quad.Faultf("no-position", c.at, "stands at %q, which is none of its positions", quad.Clip(at, 60))
			}
		}
		err := first(c.whole("channel", &s.Channel), c.figure("travel (%)", &s.Travel), c.yes("springs", &s.Springs), c.yes("gain", &s.Gain))
		p.Switches[name] = s
		return err
	case "mix":
		if _, twice := p.Mixes[name]; twice {
			return quad.Faultf("twice", c.at, "the mix %q is there twice", quad.Clip(name, 60))
		}
		var m quad.MixPlan
		err := first(c.whole("channel", &m.To), c.whole("from channel", &m.From), c.figure("weight (%)", &m.Weight), c.yes("alone", &m.Alone))
		p.Mixes[name] = m
		return err
	}
	return quad.Faultf("unknown-row", c.at, "is about %q; rows are about model, stick, switch or mix", quad.Clip(c.cells["what"], 60))
}
