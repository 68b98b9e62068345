package firmware

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"vividperch/core/quad"
)

// Console says how one talks with boards of a line over a serial port: what to send, and what to await. All of it is text, as the line's
// dictionary tells it; what a list looks like is told by its shape.
type Console struct {
	// Baud is the speed of the port.
	Baud float64 `json:"baud" yaml:"baud" unit:"Bd"`
	// Open wakes the console, Identity asks who the board is, Read for its whole list. Write is how a changed line is answered; Keep has the
	// board keep what was written.
	Open     ConsoleStep `json:"open" yaml:"open"`
	Identity ConsoleStep `json:"identity" yaml:"identity"`
	Read     ConsoleStep `json:"read" yaml:"read"`
	Write    ConsoleStep `json:"write" yaml:"write"`
	Keep     ConsoleStep `json:"keep" yaml:"keep"`
	// Shape of the list as the console prints it and takes its lines, where that is another one than that of the family's files.
	Shape *Shape `json:"shape,omitempty" yaml:"shape,omitempty"`

	identity *template
}

// ConsoleStep is one thing sent and what comes back.
type ConsoleStep struct {
	// Send as it stands, its line end with it; of Write the line end alone, which follows each line.
	Send string `json:"send,omitempty" yaml:"send,omitempty"`
	// Await is the line that ends an answer: the prompt of the console, alone on the last line. Without one the answer ends in silence.
	Await string `json:"await,omitempty" yaml:"await,omitempty"`
	// Line of an answer that says who the board is, with {line}, {version}, {target} and {number}.
	Line string `json:"line,omitempty" yaml:"line,omitempty"`
	// Refused are words of an answer that says that a line was not taken.
	Refused []string `json:"refused,omitempty" yaml:"refused,omitempty"`
	// Closes says that the board ends the connection by it.
	Closes bool `json:"closes,omitempty" yaml:"closes,omitempty"`
	// Within is how long it may be silent before that is no answer; 0 is five seconds.
	Within float64 `json:"within,omitempty" yaml:"within,omitempty" unit:"s"`
}

// Limits of a console.
const (
	usualSilence  = 5 * time.Second
	mostSilence   = 60.0 // s
	mostSent      = 200  // bytes of one step
	slowest       = 1200 // Bd
	fastestSerial = 10_000_000
)

// build works out what does not change, and refuses what nobody could talk by.
func (c *Console) build() error {
	if !(c.Baud >= slowest && c.Baud <= fastestSerial) {
		return quad.Faultf("bad-console", "console.baud", "a serial port goes at %d to %d Bd", slowest, fastestSerial)
	}
	for _, s := range []struct {
		name  string
		step  ConsoleStep
		asked bool // it is nothing without something to send
	}{{"open", c.Open, false}, {"identity", c.Identity, true}, {"read", c.Read, true}, {"write", c.Write, false}, {"keep", c.Keep, true}} {
		at := "console." + s.name
		switch {
		case s.asked && strings.TrimSpace(s.step.Send) == "":
			return quad.Faultf("bad-console", at, "says nothing to send")
		case len(s.step.Send) > mostSent || strings.ContainsFunc(s.step.Send, func(r rune) bool { return r != '\r' && r != '\n' && r != '\t' && r < ' ' || r == 0x7f }):
			return quad.Faultf("bad-console", at, "sends one line of text, of up to %d bytes", mostSent)
		case strings.ContainsAny(s.step.Await, "\r\n") || len(s.step.Await) > mostSent:
			return quad.Faultf("bad-console", at, "awaits a text within one line, of up to %d bytes", mostSent)
		case !(s.step.Within >= 0 && s.step.Within <= mostSilence):
			return quad.Faultf("bad-console", at, "waits for up to %.0f s", mostSilence)
		case slices.ContainsFunc(s.step.Refused, func(w string) bool { return strings.TrimSpace(w) == "" }) || len(s.step.Refused) > mostMarks:
			return quad.Faultf("bad-console", at, "a refusal is told by up to %d words", mostMarks)
		case s.step.Closes && s.name != "keep":
			return quad.Faultf("bad-console", at, "only keep ends a connection")
		}
	}
	if c.Shape != nil {
		if err := c.Shape.build(); err != nil {
			return err
		}
	}
	if strings.Trim(c.Write.Send, "\r\n") != "" {
		return quad.Faultf("bad-console", "console.write", "what is written is the list's own line; send holds its line end alone")
	}
	var err error
	if c.identity, err = readTemplate(c.Identity.Line, "console.identity", "line", "version", "target", "number", "*"); err != nil {
		return err
	}
	for _, hole := range []string{"line", "version", "target"} {
		if !c.identity.has(hole) {
			return quad.Faultf("bad-console", "console.identity", "its line needs {line}, {version} and {target}: without them nobody knows which board it is")
		}
	}
	return nil
}

// ending of a written line.
func (c *Console) ending() string {
	if c.Write.Send == "" {
		return "\r"
	}
	return c.Write.Send
}

// who answers, by the first line that fits; ok is false where none does.
func (c *Console) who(answer string) (is quad.Identity, ok bool) {
	for line := range strings.Lines(answer) {
		line = strings.TrimSpace(line)
		at, fits := c.identity.find(line)
		if !fits {
			continue
		}
		told := func(hole string) string { s := at[hole]; return line[s.from:s.to] }
		is = quad.Identity{Line: told("line"), Version: told("version"), Target: told("target")}
		if c.identity.has("number") {
			is.Serial = told("number")
		}
		return is, true
	}
	return is, false
}

// Stage of a conversation.
type Stage string

const (
	StageOpen      Stage = "open"
	StageIdentity  Stage = "identity"
	StageRead      Stage = "read"
	StageWrite     Stage = "write"
	StageReadAgain Stage = "readAgain"
	StageKeep      Stage = "keep"
	StageConfirm   Stage = "confirm"
	StageDone      Stage = "done"
)

// Enum implements [quad.Enumeration].
func (Stage) Enum() []string {
	return []string{string(StageOpen), string(StageIdentity), string(StageRead), string(StageWrite), string(StageReadAgain), string(StageKeep), string(StageConfirm), string(StageDone)}
}

// words of a stage, for a sentence about what it failed in.
func (s Stage) words() string {
	switch s {
	case StageOpen:
		return "to being woken"
	case StageIdentity:
		return "when it was asked what it is"
	case StageRead, StageReadAgain:
		return "when it was asked for its settings"
	case StageWrite:
		return "to a line that was written"
	case StageConfirm:
		return "after it started anew; read it again to see whether it kept what was written"
	}
	return "when it was told to keep what was written"
}

// Sends are the texts that a conversation would send, in their order, line ends left out: what a pilot is shown before anything is sent.
func (c *Console) Sends(commands []string) []string {
	out := []string{}
	add := func(text string) {
		if text = strings.TrimSpace(text); text != "" {
			out = append(out, text)
		}
	}
	add(c.Open.Send)
	add(c.Identity.Send)
	add(c.Read.Send)
	if len(commands) > 0 {
		for _, line := range commands {
			add(line)
		}
		add(c.Read.Send)
		add(c.Keep.Send)
		if c.Keep.Closes { // it starts anew, and is asked whether it kept it
			add(c.Open.Send)
			add(c.Identity.Send)
			add(c.Read.Send)
		}
	}
	return out
}

// silence that a step bears.
func (s ConsoleStep) silence() time.Duration {
	if s.Within == 0 {
		return usualSilence
	}
	return time.Duration(s.Within * float64(time.Second))
}

// fault of a conversation in a stage.
func (s Stage) fault(code, format string, args ...any) *quad.Fault {
	return quad.Faultf(code, string(s), "%s", fmt.Sprintf(format, args...))
}
