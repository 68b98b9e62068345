package firmware

import (
	"bytes"
	"maps"
	"slices"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"vividperch/core/quad"
)

// Conversation with a board through a serial port, one step after the other: it is told what arrives and what time it is, and says what to
// send. It never sends anything but what [Console.Sends] lists. Whatever the other end does, it ends: with what was read, or with a Fault.
//
// A new one wakes the console, asks who the board is and reads its list; then it waits for [Conversation.Write].
type Conversation struct {
	line    *Line
	console *Console
	coming  []exchange
	now     *exchange
	began   time.Duration // of the exchange that is on
	last    time.Duration // when something arrived last
	heard   []byte
	sent    []string
	fault   *quad.Fault

	is      quad.Identity
	text    []byte // the list as the board printed it first
	before  map[string]string
	after   map[string]string
	changes []Change
	written int
	// apart says that the board ended the connection, as it does when it starts anew, and the port is not open again yet.
	apart bool
}

// exchange is one thing that is sent, and what is done with its answer.
type exchange struct {
	stage Stage
	send  string
	step  ConsoleStep
	then  func(answer string) *quad.Fault
	// again is how often it is sent once more where nothing answers: what a board hears while it starts is lost.
	again int
}

// What a conversation bears: an answer that comes at the slowest speed, and how long the line is quiet behind a prompt that is one.
const (
	mostAnswer = mostList + 64<<10
	longest    = 3 * time.Minute
	settled    = 80 * time.Millisecond
	unprompted = 600 * time.Millisecond // of silence, where a console has no prompt
	restart    = time.Minute            // until the port of a board that starts anew is open again
	knocks     = 5                      // at a board that has just started
)

// Converse begins a conversation with a board of a line; a line whose dictionary tells of no console is a Fault.
func Converse(l *Line) (*Conversation, error) {
	if l.Console == nil {
		return nil, quad.Faultf("no-console", "console", "how one talks with boards of %s is not described", l.Name)
	}
	c := &Conversation{line: l, console: l.Console}
	if l.Console.Open.Send != "" || l.Console.Open.Await != "" {
		c.coming = append(c.coming, exchange{stage: StageOpen, send: l.Console.Open.Send, step: l.Console.Open, then: func(string) *quad.Fault { return nil }})
	}
	c.coming = append(c.coming,
		exchange{stage: StageIdentity, send: l.Console.Identity.Send, step: l.Console.Identity, then: c.identified},
		exchange{stage: StageRead, send: l.Console.Read.Send, step: l.Console.Read, then: c.wasRead})
	return c, nil
}

func (c *Conversation) identified(answer string) *quad.Fault {
	is, ok := c.console.who(answer)
	switch {
	case !ok:
		return StageIdentity.fault("not-known", "it does not say what it is: %q", quad.Clip(strings.TrimSpace(answer), 60))
	case is.Line != c.line.Name:
		return StageIdentity.fault("other-line", "it says that it is %s, not %s", quad.Clip(is.Line, 40), c.line.Name)
	}
	if _, err := c.line.At(is.Version); err != nil {
		return quad.AsFault(err)
	}
	c.is = is
	return nil
}

// build of the board's version, with its lists as the console has them.
func (c *Conversation) build() (*Build, error) {
	b, err := c.line.At(c.is.Version)
	if err != nil || c.console.Shape == nil {
		return b, err
	}
	through, line := *b, *b.Line
	line.Shape, through.Line = c.console.Shape, &line
	return &through, nil
}

// list reads an answer as a list of the board's version.
func (c *Conversation) list(answer string) (map[string]string, *quad.Fault) {
	b, err := c.build()
	if err != nil {
		return nil, quad.AsFault(err)
	}
	list, err := b.ReadList([]byte(answer))
	if err != nil {
		return nil, quad.AsFault(err)
	}
	if len(list.Settings) == 0 {
		return nil, StageRead.fault("empty", "it gave no setting at all")
	}
	out := map[string]string{}
	for _, s := range list.Settings {
		out[s.Name] = s.Value
	}
	return out, nil
}

func (c *Conversation) wasRead(answer string) *quad.Fault {
	settings, fault := c.list(answer)
	c.text, c.before = []byte(answer), settings
	return fault
}

// Write some changes, each line by itself, then read all of it again and have the board keep it; one that starts anew by it is read once more. is and held are the board and the settings
// that the pilot saw when he chose the changes: another board behind the port, or one that holds something else by now, is a Fault, and nothing
// is sent.
func (c *Conversation) Write(is quad.Identity, held map[string]string, changes []Change) error {
	if c.fault != nil || c.Stage() != StageDone || c.before == nil || len(changes) == 0 || c.after != nil {
		return quad.Faultf("not-now", "", "nothing can be written now")
	}
	if !c.is.Same(is) {
		return quad.Faultf("other-board", "", "another board is behind this port than the one that was looked at")
	}
	for _, x := range changes {
		if c.before[x.Name] != held[x.Name] {
			return quad.Faultf("changed", x.Name, "the board holds %q by now, not %q; look at it again", quad.Clip(c.before[x.Name], 40), quad.Clip(held[x.Name], 40))
		}
	}
	b, err := c.build()
	if err != nil {
		return err
	}
	for _, x := range changes {
		if f := b.Facts.Find(x.Name); f == nil {
			return quad.Faultf("unknown-setting", quad.Clip(x.Name, 40), "is not a setting of %s %s", c.is.Line, c.is.Version)
		} else if canonical, err := f.Canonical(x.After); err != nil || canonical != x.After || strings.ContainsFunc(x.After, unicode.IsControl) {
			return quad.Faultf("not-a-value", x.Name, "%q is no value of it", quad.Clip(x.After, 40))
		}
	}
	commands, err := b.Commands(changes)
	if err != nil {
		return err
	}
	c.changes = changes
	for _, line := range commands {
		c.coming = append(c.coming, exchange{stage: StageWrite, send: line + c.console.ending(), step: c.console.Write, then: func(answer string) *quad.Fault { return c.taken(line, answer) }})
	}
	c.coming = append(c.coming,
		exchange{stage: StageReadAgain, send: c.console.Read.Send, step: c.console.Read, then: c.readAgain},
		exchange{stage: StageKeep, send: c.console.Keep.Send, step: c.console.Keep, then: c.keeps})
	return nil
}

// keeps says whether the board did not refuse to keep what was written.
func (c *Conversation) keeps(answer string) *quad.Fault {
	if word := c.refusal(answer); word != "" {
		return StageKeep.fault("refused", "it says %q where it was to keep what was written; read it again to see what it holds", quad.Clip(strings.TrimSpace(answer), 60))
	}
	return nil
}

// confirm what the board keeps, once it has started anew: that it is the same one, and holds what was written.
func (c *Conversation) confirm() {
	written := c.is
	open := exchange{stage: StageConfirm, send: c.console.Open.Send, step: c.console.Open, then: func(string) *quad.Fault { return nil }, again: knocks}
	who := exchange{stage: StageConfirm, send: c.console.Identity.Send, step: c.console.Identity, then: func(answer string) *quad.Fault {
		fault := c.identified(answer)
		if fault == nil && !c.is.Same(written) {
			return StageConfirm.fault("other-board", "another board is behind the port than the one that was written; read that one again to see whether it kept what was written")
		}
		return fault
	}}
	if open.send == "" {
		who.again = knocks
	} else {
		c.coming = append(c.coming, open)
	}
	c.coming = append(c.coming, who, exchange{stage: StageConfirm, send: c.console.Read.Send, step: c.console.Read, then: c.kept})
}

// kept compares what the board holds after its new start with what was written.
func (c *Conversation) kept(answer string) *quad.Fault {
	settings, fault := c.list(answer)
	if fault != nil {
		return fault
	}
	c.after = settings
	return c.holds(StageConfirm, "It was told to keep it, and did not")
}

// Lines are some changes as they would be sent, one by one, and what is sent after them.
func (c *Conversation) Lines(changes []Change) ([]string, error) {
	if len(changes) == 0 {
		return nil, nil
	}
	b, err := c.build()
	if err != nil {
		return nil, err
	}
	commands, err := b.Commands(changes)
	if err != nil {
		return nil, err
	}
	whole := c.console.Sends(commands)
	return whole[len(c.console.Sends(nil)):], nil
}

// taken says whether the board took a line.
func (c *Conversation) taken(line, answer string) *quad.Fault {
	if c.refusal(answer) != "" {
		return StageWrite.fault("refused", "it refused %q: %q. Nothing was kept: a new start of the board undoes what was written", quad.Clip(line, 60), quad.Clip(strings.TrimSpace(answer), 60))
	}
	c.written++
	return nil
}

// refusal that an answer has, by its words; nothing where the board took what was sent.
func (c *Conversation) refusal(answer string) string {
	for _, word := range c.console.Write.Refused {
		if strings.Contains(strings.ToLower(answer), strings.ToLower(word)) {
			return word
		}
	}
	return ""
}

func (c *Conversation) readAgain(answer string) *quad.Fault {
	settings, fault := c.list(answer)
	if fault != nil {
		return fault
	}
	c.after = settings
	return c.holds(StageReadAgain, "Nothing was kept: a new start of the board undoes it")
}

// holds says whether what was read last is what was written; so is told with the first that is not.
func (c *Conversation) holds(stage Stage, so string) *quad.Fault {
	b, err := c.build()
	if err != nil {
		return quad.AsFault(err)
	}
	for _, x := range c.changes {
		got, want := c.after[x.Name], x.After
		if f := b.Facts.Find(x.Name); f != nil {
			if canonical, err := f.Canonical(got); err == nil {
				got = canonical
			}
		}
		if got != want {
			return stage.fault("not-held", "it holds %q at %s, where %q was written. %s", quad.Clip(got, 40), x.Name, quad.Clip(want, 40), so)
		}
	}
	return nil
}

// Step tells the conversation what has arrived until a time since it began, and gives what to send now, nothing where it waits. It is to be
// called whenever something arrives, and several times a second while nothing does.
func (c *Conversation) Step(at time.Duration, heard []byte) (send string) {
	if c.fault != nil {
		return ""
	}
	if c.apart {
		if at-c.last > restart {
			c.fail(StageConfirm.fault("not-back", "it started anew and did not come back within a minute; read it again to see whether it kept what was written"))
		}
		return ""
	}
	if len(heard) > 0 {
		c.heard, c.last = append(c.heard, heard...), at
	}
	if len(c.heard) > mostAnswer {
		c.fail(c.stage().fault("too-much", "it does not stop talking; that is no settings list"))
		return ""
	}
	if c.now != nil && c.answered(at) {
		answer, fault := c.answer()
		if fault == nil {
			fault = c.now.then(answer)
		}
		c.now = nil
		if fault != nil {
			c.fail(fault)
			return ""
		}
	}
	switch {
	case c.now == nil && len(c.coming) > 0:
		next := c.coming[0]
		c.now, c.coming = &next, c.coming[1:]
		c.began, c.last, c.heard = at, at, nil // whatever it said unasked is no answer
		if next.send != "" {
			c.sent = append(c.sent, strings.TrimSpace(next.send))
		}
		return next.send
	case c.now == nil:
		c.heard = nil // nobody asked it anything
	case at-c.last > c.now.step.silence() && c.now.again > 0:
		c.now.again--
		c.last, c.heard = at, nil
		return c.now.send
	case at-c.last > c.now.step.silence() || at-c.began > longest:
		c.fail(c.now.stage.fault("no-answer", "it did not answer %s", c.now.stage.words()))
	}
	return ""
}

// Closed tells that the port is gone: the cable was pulled, or the board ended the connection. Where it was told to keep what was written that
// is no proof that it heard it: the conversation then waits for [Conversation.Opened].
func (c *Conversation) Closed() {
	switch {
	case c.fault != nil || c.apart || c.Stage() == StageDone:
	case c.now != nil && c.now.step.Closes:
		c.now, c.apart = nil, true
		c.confirm()
	case c.now != nil && (c.now.stage == StageConfirm || c.now.stage == StageKeep):
		c.fail(c.now.stage.fault("cable", "the connection broke before it was seen that the board keeps what was written; read it again to see what it holds"))
	default:
		says := "the connection broke before anything was written"
		if n := len(c.changes); n > 0 {
			says = "the connection broke with " + quad.Number(float64(c.written)) + " of " + quad.Count(n, "change", "changes") + " written, and nothing kept; read the board again to see what it holds"
		}
		c.fail(c.stage().fault("cable", "%s", says))
	}
}

// Opened tells that the port is open again after the board ended the connection. At any other time it means nothing.
func (c *Conversation) Opened() { c.apart = false }

// Apart says that the port is to be opened again: the board starts anew.
func (c *Conversation) Apart() bool { return c.apart && c.fault == nil }

func (c *Conversation) fail(f *quad.Fault) { c.fault, c.now, c.coming = f, nil, nil }

// answered says whether what was heard is a whole answer: its last line is the prompt alone, and nothing came behind it for a moment.
func (c *Conversation) answered(at time.Duration) bool {
	quiet := at - c.last
	if c.now.step.Await == "" {
		if c.now.step.Closes {
			return quiet >= unprompted && c.refusal(string(c.heard)) != "" // or it says nothing more, and is gone
		}
		return quiet >= unprompted && at-c.began >= unprompted
	}
	if quiet < settled {
		return false
	}
	text := plainEnds(c.heard)
	line := text[bytes.LastIndexByte(text, '\n')+1:]
	return strings.TrimSpace(string(line)) == strings.TrimSpace(c.now.step.Await)
}

// answer is what was heard, without the echo of what was sent and without the prompt.
func (c *Conversation) answer() (string, *quad.Fault) {
	text := plainEnds(c.heard)
	if !utf8.Valid(text) || bytes.IndexByte(text, 0) >= 0 {
		return "", c.now.stage.fault("not-text", "it answers what is no text; is the speed of the port right?")
	}
	if c.now.step.Await != "" {
		text = text[:bytes.LastIndexByte(text, '\n')+1]
	}
	out := string(text)
	first, rest, more := strings.Cut(strings.TrimLeft(out, "\n"), "\n")
	if sent := strings.TrimSpace(c.now.send); sent != "" && strings.TrimSpace(first) == sent {
		if out = rest; !more {
			out = ""
		}
	}
	return out, nil
}

// plainEnds are the line ends of any console as one.
func plainEnds(text []byte) []byte {
	return bytes.ReplaceAll(bytes.ReplaceAll(text, []byte("\r\n"), []byte("\n")), []byte("\r"), []byte("\n"))
}

func (c *Conversation) stage() Stage {
	switch {
	case c.now != nil:
		return c.now.stage
	case len(c.coming) > 0:
		return c.coming[0].stage
	}
	return StageDone
}

// Stage that it is in; done where it waits for nothing.
func (c *Conversation) Stage() Stage { return c.stage() }

// Fault that ended it, or nil.
func (c *Conversation) Fault() *quad.Fault { return c.fault }

// Is what the board said that it is.
func (c *Conversation) Is() quad.Identity { return c.is }

// Text of the list as the board printed it, and its settings; nil until it was read.
func (c *Conversation) Text() []byte { return slices.Clone(c.text) }

// Settings of the board: as they were read last.
func (c *Conversation) Settings() map[string]string {
	if c.after != nil {
		return maps.Clone(c.after)
	}
	return maps.Clone(c.before)
}

// Sent are the texts that were sent so far, line ends left out.
func (c *Conversation) Sent() []string { return slices.Clone(c.sent) }

// Written is how many of the changes the board took, of how many.
func (c *Conversation) Written() (taken, of int) {
	return min(c.written, len(c.changes)), len(c.changes)
}
