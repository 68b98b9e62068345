package standin

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"vividperch/bench/protocol"
)

// console on a board's USB plug: text that came in, and text that waits to go out.
type console struct {
	in, out string
	due     int64 // ms of the bench's clock when what waits is said
	awake   bool
	gone    bool // it has started anew
	// kept are the settings as they were before something was written that is not kept yet; nil where all is.
	kept map[string]string
}

// tongue is how the boards of a family talk over their console. It is written here a second time, apart from the product's description.
type tongue struct {
	end, prompt             string
	wake, who, recite, keep string
	says                    string // who it is: family, version, target, number
	line                    string // of a setting: name, value
	between                 string
	unknown, unfit          string
}

var consoles = map[string]tongue{
	"Marram":    {"\r", "=>", "#", "which", "every setting", "keep", "%s %s, %s, %s", "%s = %s", "=", "cannot find %s", "cannot: %s"},
	"Spindrift": {"\n", "ready.", "attach", "about", "recite", "remember", "this is %s %s for %s, serial %s", "%s <- %s", "<-", "no such thing as %s", "not that: %s"},
}

// serial takes text that comes over the USB cable, and gives what the board has said since.
func (d *Device) serial(s protocol.Serial) (protocol.Serial, error) {
	c := &d.console
	switch {
	case c.gone:
		*c = console{}
		return protocol.Serial{Gone: true}, nil
	case !d.usb:
		return protocol.Serial{}, refuse("the USB cable is out")
	case d.main.boot:
		return protocol.Serial{}, nil // a bootloader listens to nothing of this
	}
	t, has := consoles[d.build.Line.Name]
	if !has {
		return protocol.Serial{}, nil
	}
	const most = 64 << 10
	if c.in += s.Text; len(c.in) > most {
		c.in = ""
	}
	for {
		line, rest, whole := strings.Cut(c.in, t.end)
		if !whole {
			break
		}
		c.in, c.due = rest, d.now+d.kit.Console.Late
		d.listen(t, strings.TrimSpace(line))
	}
	if d.now < c.due {
		return protocol.Serial{}, nil
	}
	out := c.out
	c.out = ""
	return protocol.Serial{Text: out}, nil
}

// listen takes one line of text: asleep it waits to be woken, awake it answers, and ends with its prompt.
func (d *Device) listen(t tongue, line string) {
	c := &d.console
	say := func(format string, args ...any) { c.out += fmt.Sprintf(format, args...) + "\r\n" }
	if !c.awake && line != t.wake {
		return
	}
	c.awake = true
	say("%s", line) // what it hears it repeats
	name, value, sets := strings.Cut(line, t.between)
	name, value = strings.TrimSpace(name), strings.TrimSpace(value)
	switch {
	case line == t.wake || line == "":
	case line == t.who:
		say(t.says, d.main.line, d.main.version, d.main.target, d.kit.Serial)
	case line == t.recite:
		for _, s := range d.recited() {
			say(t.line, s[0], s[1])
		}
	case line == t.keep:
		say("kept")
		c.kept, c.gone = nil, true
		d.powered = d.now // it starts anew
		d.body.Disarm()
		return
	case sets:
		before := maps.Clone(d.settings)
		switch err := d.write(protocol.Write{Name: name, Value: value}); {
		case d.build.Facts.Find(name) == nil:
			say(t.unknown, name)
		case err != nil:
			say(t.unfit, err)
		case c.kept == nil:
			c.kept = before
		}
	default:
		say(t.unknown, line)
	}
	c.out += t.prompt
}

// recited are all its settings with what they hold, by name.
func (d *Device) recited() [][2]string {
	var out [][2]string
	for _, s := range d.build.Facts.Settings {
		if s.Speed && !d.pack {
			continue // those controllers answer only while the pack is in
		}
		value, told := d.settings[s.Name]
		if !told {
			value = s.Default
		}
		out = append(out, [2]string{s.Name, value})
	}
	slices.SortFunc(out, func(a, b [2]string) int { return strings.Compare(a[0], b[0]) })
	return out
}

// forget what was written over the console and not kept: the board has started anew.
func (d *Device) forget() {
	if kept := d.console.kept; kept != nil {
		d.settings = kept
		_ = d.mean() // it meant something before
	}
	d.console = console{gone: d.console.gone}
}
