package firmware

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"
	"time"

	"vividperch/core/quad"
)

const talkative = `
line: Sedge
versions: [{version: 3.1.0}]
shape: {comments: ["%"], lines: [{line: "let {name} be {value}"}]}
console:
  baud: 250000
  open: {send: "hello\r", await: "ok>"}
  identity: {send: "who\r", await: "ok>", line: "{line} {version} on {target} no. {number}"}
  read: {send: "tell all\r", await: "ok>"}
  write: {await: "ok>", refused: ["what?", "too"]}
  keep: {send: "thus keep\r", closes: true}
settings:
  - {name: idle, kind: whole, min: 0, max: 200, default: "50"}
  - {name: lean, kind: whole, min: 10, max: 80, default: "45"}
  - {name: title, kind: text, default: ""}
entries:
  - {kind: scalar, setting: idle, path: sheet.motors.idle, factor: 10}
  - {kind: scalar, setting: lean, path: sheet.feel.angleLimit}
`

// listener is a board at the other end of a cable, as a board behaves: written here apart from the conversation.
type listener struct {
	says  string // who it is
	held  map[string]string
	kept  map[string]string
	echo  bool
	drops map[string]bool // settings that it takes and does not hold
	late  time.Duration   // of every answer
	slow  int             // bytes each millisecond; 0 is all at once
	hush  string          // to what it says nothing at all
	raw   map[string]string
	pull  int // the cable is pulled at this many bytes of answers; 0 is never
	ends  string

	deaf    bool          // the cable is pulled as it is told to keep: it never hears that
	forgets bool          // it says that it keeps what was written, and does not
	asleep  time.Duration // that it takes to start anew, in which it hears nothing
	stays   bool          // it never comes back
	is      string        // who is there after it started anew; nothing for itself

	in, out string
	from    time.Duration
	given   int
	gone    bool
	up      time.Duration // when it runs again
}

// restart is the board as it comes back: with what it kept, or what it held in the beginning.
func (l *listener) restart(at time.Duration) {
	held := newListener().held
	held["title"] = l.held["title"]
	maps.Copy(held, l.kept)
	l.held, l.in, l.out, l.gone, l.deaf, l.up = held, "", "", false, false, at+l.asleep
	if l.is != "" {
		l.says = l.is
	}
}

func newListener() *listener {
	return &listener{says: "Sedge 3.1.0 on REED4 no. 77", held: map[string]string{"idle": "50", "lean": "45", "title": "ok> and on"}, kept: map[string]string{}, drops: map[string]bool{}, raw: map[string]string{}, ends: "\r\n"}
}

func (l *listener) hear(text string, at time.Duration) {
	if at < l.up {
		return
	}
	l.in += text
	for {
		line, rest, whole := strings.Cut(l.in, "\r")
		if !whole {
			return
		}
		l.in = rest
		if l.from < at {
			l.from = at + l.late
		}
		if l.echo {
			l.out += line + l.ends
		}
		if line == l.hush {
			continue
		}
		if raw, told := l.raw[line]; told {
			l.out += raw
			continue
		}
		switch {
		case line == "hello":
			l.out += "Sedge at your service" + l.ends
		case line == "who":
			l.out += l.says + l.ends
		case line == "tell all":
			for _, name := range slices.Sorted(maps.Keys(l.held)) {
				l.out += "let " + name + " be " + l.held[name] + l.ends
			}
		case strings.HasPrefix(line, "let "):
			name, value, _ := strings.Cut(strings.TrimPrefix(line, "let "), " be ")
			switch _, known := l.held[name]; {
			case !known:
				l.out += "what?" + l.ends
			case value == "70":
				l.out += "Too much" + l.ends
			case !l.drops[name]:
				l.held[name] = value
			}
		case line == "thus keep":
			if l.deaf {
				l.out, l.gone = "", true
				return
			}
			if !l.forgets {
				l.kept = maps.Clone(l.held)
			}
			l.out += "kept" + l.ends
			l.gone = true
			return
		}
		l.out += "ok>"
	}
}

// says what of its answers has arrived by a time; closed once it has ended the connection, or the cable is out.
func (l *listener) tell(at time.Duration) (heard []byte, closed bool) {
	n := len(l.out)
	switch {
	case at < l.from:
		n = 0
	case l.slow > 0:
		n = min(n, int((at-l.from)/time.Millisecond)*l.slow-0)
	}
	if l.slow > 0 && n > 0 {
		l.from = at
	}
	if l.pull > 0 && l.given+n >= l.pull {
		return nil, true
	}
	l.given += n
	heard, l.out = []byte(l.out[:n]), l.out[n:]
	return heard, l.gone && l.out == ""
}

// talk lets a conversation and a board go on until one of them has nothing more to say, and gives how long it took.
func talk(t *testing.T, c *Conversation, l *listener, from time.Duration) time.Duration {
	t.Helper()
	at := from
	for ; at < from+10*time.Minute; at += 10 * time.Millisecond {
		heard, closed := l.tell(at)
		if send := c.Step(at, heard); send != "" {
			l.hear(send, at)
		}
		if closed {
			c.Closed()
			if c.Apart() && !l.stays {
				l.restart(at)
				c.Opened()
			}
		}
		if c.Fault() != nil || c.Stage() == StageDone {
			return at
		}
	}
	t.Fatal("it never ends")
	return at
}

func sedge(t testing.TB) *Line {
	t.Helper()
	l, err := Taught(talkative)
	if err != nil {
		t.Fatal(err)
	}
	return l
}

// Whatever a sound console does beside answering (it echoes, it is slow, late, ends its lines in another way, greets unasked), its board is
// identified, read whole, written and read again, and keeps what was written. A prompt within a value ends no answer.
func TestConversation(t *testing.T) {
	for name, habit := range map[string]func(*listener){
		"plain": func(*listener) {}, "echoes": func(l *listener) { l.echo = true }, "slow": func(l *listener) { l.slow = 1 }, "late": func(l *listener) { l.late = 2 * time.Second },
		"bare line ends": func(l *listener) { l.ends = "\n" }, "old line ends": func(l *listener) { l.ends = "\r" },
		"speaks unasked":        func(l *listener) { l.out = "boot 1.2\r\nready\r\nok>" },
		"the prompt is a value": func(l *listener) { l.held["title"] = "ok>" },
		"starts slowly":         func(l *listener) { l.asleep = 8 * time.Second },
		"all of it":             func(l *listener) { l.echo, l.slow, l.late = true, 2, time.Second },
	} {
		t.Run(name, func(t *testing.T) {
			board := newListener()
			habit(board)
			title := board.held["title"]
			c, err := Converse(sedge(t))
			if err != nil {
				t.Fatal(err)
			}
			at := talk(t, c, board, 0)
			if f := c.Fault(); f != nil {
				t.Fatal(f)
			}
			if want := (quad.Identity{Line: "Sedge", Version: "3.1.0", Target: "REED4", Serial: "77"}); c.Is() != want {
				t.Errorf("it is %+v", c.Is())
			}
			held := c.Settings()
			if want := map[string]string{"idle": "50", "lean": "45", "title": title}; !maps.Equal(held, want) {
				t.Fatalf("read %v, want %v", held, want)
			}
			if err := c.Write(c.Is(), held, []Change{{Name: "idle", Before: "50", After: "60"}, {Name: "lean", Before: "45", After: "35"}}); err != nil {
				t.Fatal(err)
			}
			talk(t, c, board, at)
			if f := c.Fault(); f != nil {
				t.Fatal(f)
			}
			if want := map[string]string{"idle": "60", "lean": "35", "title": title}; !maps.Equal(board.kept, want) || !maps.Equal(c.Settings(), want) {
				t.Errorf("it keeps %v, and is read as %v", board.kept, c.Settings())
			}
			want := c.console.Sends([]string{"let idle be 60", "let lean be 35"})
			if got := c.Sent(); !slices.Equal(got, want) {
				t.Errorf("sent %q, shown were %q", got, want)
			}
		})
	}
}

// What goes wrong ends the conversation with a sentence; nothing is kept then, and nothing is sent any more.
func TestConversationsThatEnd(t *testing.T) {
	change := []Change{{Name: "idle", Before: "50", After: "60"}, {Name: "lean", Before: "45", After: "35"}}
	for _, c := range []struct {
		name, code string
		spoil      func(*listener)
		write      []Change
	}{
		{"no board at all", "no-answer", func(l *listener) { l.hush = "hello" }, nil},
		{"it does not say what it is", "not-known", func(l *listener) { l.says = "I am a kettle" }, nil},
		{"another family", "other-line", func(l *listener) { l.says = "Rush 3.1.0 on REED4 no. 77" }, nil},
		{"a version that nobody knows", "unknown-version", func(l *listener) { l.says = "Sedge 9.1.0 on REED4 no. 77" }, nil},
		{"no settings", "empty", func(l *listener) { l.raw["tell all"] = "ok>" }, nil},
		{"nonsense", "not-text", func(l *listener) { l.raw["tell all"] = "\xff\xfe\x00\nok>" }, nil},
		{"a line that is no setting", "not-a-setting", func(l *listener) { l.raw["tell all"] = "let idle be 50\nsegmentation\nok>" }, nil},
		{"half a list", "no-answer", func(l *listener) { l.raw["tell all"] = "let idle be 50\nlet lea" }, nil},
		{"it talks for ever", "too-much", func(l *listener) { l.raw["tell all"] = strings.Repeat("let idle be 50\n", 200_000) }, nil},
		{"a value that it refuses", "refused", func(*listener) {}, []Change{{Name: "idle", Before: "50", After: "60"}, {Name: "lean", Before: "45", After: "70"}}},
		{"a setting that it does not know any more", "refused", func(l *listener) { l.raw["let lean be 35"] = "What?\nok>" }, change},
		{"a value that it takes and does not hold", "not-held", func(l *listener) { l.drops["lean"] = true }, change},
		{"it never hears that it is to keep it", "not-held", func(l *listener) { l.deaf = true }, change},
		{"it says that it keeps it, and does not", "not-held", func(l *listener) { l.forgets = true }, change},
		{"it refuses to keep it", "refused", func(l *listener) { l.raw["thus keep"] = "too full\nok>" }, change},
		{"silence in the middle of writing", "no-answer", func(l *listener) { l.hush = "let lean be 35" }, change},
	} {
		t.Run(c.name, func(t *testing.T) {
			board := newListener()
			c.spoil(board)
			talked, err := Converse(sedge(t))
			if err != nil {
				t.Fatal(err)
			}
			at := talk(t, talked, board, 0)
			if c.write != nil && talked.Fault() == nil {
				if err := talked.Write(talked.Is(), talked.Settings(), c.write); err != nil {
					t.Fatal(err)
				}
				at = talk(t, talked, board, at)
			}
			f := talked.Fault()
			if f == nil || f.Code != c.code || f.Sentence == "" {
				t.Fatalf("ended with %v", f)
			}
			if len(board.kept) > 0 {
				t.Errorf("it kept %v", board.kept)
			}
			if more := talked.Step(at+time.Minute, []byte("ok>")); more != "" || talked.Write(talked.Is(), talked.Settings(), change) == nil {
				t.Errorf("it goes on with %q", more)
			}
		})
	}
}

// A cable that is pulled at any byte ends it: the board keeps all of the changes or none, and where the conversation ends without a fault it keeps
// them.
func TestCablePulledAtAnyByte(t *testing.T) {
	whole, sure := 0, 0
	for pull := 1; ; pull++ {
		board := newListener()
		board.pull, board.slow = pull, 7
		c, err := Converse(sedge(t))
		if err != nil {
			t.Fatal(err)
		}
		at := talk(t, c, board, 0)
		wrote := false
		if c.Fault() == nil {
			if err := c.Write(c.Is(), c.Settings(), []Change{{Name: "idle", Before: "50", After: "60"}, {Name: "lean", Before: "45", After: "35"}}); err != nil {
				t.Fatal(err)
			}
			wrote = true
			talk(t, c, board, at)
		}
		if f := c.Fault(); f != nil && f.Code != "cable" && f.Code != "not-held" {
			t.Fatalf("pulled at %d: %v", pull, f)
		}
		kept := board.kept["idle"] == "60" && board.kept["lean"] == "35"
		if len(board.kept) > 0 && !kept {
			t.Fatalf("pulled at %d it keeps %v", pull, board.kept)
		}
		if c.Fault() == nil && wrote {
			if sure++; !kept {
				t.Fatalf("pulled at %d it is said to keep what it does not", pull)
			}
		}
		if whole = board.given; c.Fault() == nil && board.pull > whole {
			break
		}
		if pull > 2000 {
			t.Fatal("it never came through")
		}
	}
	if whole < 250 || sure == 0 {
		t.Errorf("only %d bytes went over the cable, %d times it came through", whole, sure)
	}
}

// Another board behind the same port, or one that holds something else by now, is not written.
func TestOnlyWhatWasSeenIsWritten(t *testing.T) {
	c, err := Converse(sedge(t))
	if err != nil {
		t.Fatal(err)
	}
	change := []Change{{Name: "idle", Before: "50", After: "60"}}
	if c.Write(quad.Identity{}, nil, change) == nil {
		t.Error("it writes before it has read")
	}
	talk(t, c, newListener(), 0)
	other := c.Is()
	other.Serial = "78"
	for _, bad := range []struct {
		is   quad.Identity
		held map[string]string
		what []Change
		code string
	}{
		{other, c.Settings(), change, "other-board"},
		{c.Is(), map[string]string{"idle": "55"}, change, "changed"},
		{c.Is(), c.Settings(), []Change{{Name: "idle", Before: "50", After: "60\rthus keep"}}, "not-a-value"},
		{c.Is(), c.Settings(), nil, "not-now"},
	} {
		if f := quad.AsFault(c.Write(bad.is, bad.held, bad.what)); f == nil || f.Code != bad.code {
			t.Errorf("%+v: %v, want %s", bad.what, f, bad.code)
		}
	}
	if c.Stage() != StageDone {
		t.Errorf("after what was refused it is at %s", c.Stage())
	}
}

// Consoles that nobody could talk by are refused at their place.
func TestConsolesThatAreNone(t *testing.T) {
	for was, is := range map[string][2]string{
		"baud: 250000":        {"baud: 0", "console.baud"},
		`send: "who\r"`:       {`send: ""`, "console.identity"},
		`send: "tell all\r"`:  {`send: " "`, "console.read"},
		`send: "thus keep\r"`: {`send: "keep\bx"`, "console.keep"},
		`line: "{line} {version} on {target} no. {number}"`: {`line: "{line} {version} no. {number}"`, "console.identity"},
		`refused: ["what?", "too"]`:                         {`refused: ["what?", " "]`, "console.write"},
		`write: {await`:                                     {`write: {send: "save\r", await`, "console.write"},
		`await: "ok>", line`:                                {`await: "ok\n>", line`, "console.identity"},
		`open: {send`:                                       {`open: {within: 90, send`, "console.open"},
		`read: {send`:                                       {`read: {closes: true, send`, "console.read"},
	} {
		text := strings.Replace(talkative, was, is[0], 1)
		if text == talkative {
			t.Fatalf("%q is not there", was)
		}
		if f := quad.AsFault(errOf(Taught(text))); f == nil || f.Place != is[1] {
			t.Errorf("%s: %v, want a fault at %s", is[0], f, is[1])
		}
	}
	if _, err := Converse(mustLine(t, "Shingle")); quad.AsFault(err) == nil || quad.AsFault(err).Code != "no-console" {
		t.Errorf("of a family without one: %v", err)
	}
}

func errOf(_ *Line, err error) error { return err }

func mustLine(t *testing.T, name string) *Line {
	t.Helper()
	l, ok := FindLine(name)
	if !ok {
		t.Fatal(name)
	}
	return l
}

// A board that was told to keep what was written is believed only once it was read again: where it does not come back, where another one does,
// or the cable is out before that, the conversation says that it is not known.
func TestKeptIsWhatIsReadAgain(t *testing.T) {
	change := []Change{{Name: "idle", Before: "50", After: "60"}}
	for name, c := range map[string]struct {
		spoil func(*listener)
		code  string
		kept  bool // in truth
	}{
		"sound":             {func(*listener) {}, "", true},
		"it stays away":     {func(l *listener) { l.stays = true }, "not-back", true},
		"it never wakes":    {func(l *listener) { l.asleep = time.Hour }, "no-answer", true},
		"another comes":     {func(l *listener) { l.is = "Sedge 3.1.0 on REED4 no. 78" }, "other-board", true},
		"it has forgotten":  {func(l *listener) { l.forgets = true }, "not-held", false},
		"it was never told": {func(l *listener) { l.deaf = true }, "not-held", false},
	} {
		t.Run(name, func(t *testing.T) {
			board := newListener()
			c.spoil(board)
			talked, err := Converse(sedge(t))
			if err != nil {
				t.Fatal(err)
			}
			at := talk(t, talked, board, 0)
			if err := talked.Write(talked.Is(), talked.Settings(), change); err != nil {
				t.Fatal(err)
			}
			talk(t, talked, board, at)
			code := ""
			if f := talked.Fault(); f != nil {
				code = f.Code
			}
			if code != c.code || (board.kept["idle"] == "60") != c.kept {
				t.Errorf("ended with %v; the board keeps %v", talked.Fault(), board.kept)
			}
		})
	}
}

// Whatever arrives whenever, a conversation ends, and sends nothing but what was shown.
func FuzzConversation(f *testing.F) {
	f.Add([]byte("ok>\x00Sedge 3.1.0 on REED4 no. 77\nok>\x00let idle be 50\nok>\x00ok>\x00let idle be 60\nok>\x00kept"), uint16(90))
	f.Add([]byte("hello\r\nok>"), uint16(2000))
	f.Add([]byte("ok>\x00Sedge 3.1.0 on REED4 no. 77\nok>\x00let idle be 50\nok>\x00ok>\x00let idle be 60\nok>\x00gone\x00back\x00ok>\x00Sedge 3.1.0 on REED4 no. 77\nok>\x00let idle be 60\nok>"), uint16(90))
	f.Fuzz(func(t *testing.T, answers []byte, pause uint16) {
		c, err := Converse(sedge(t))
		if err != nil {
			t.Fatal(err)
		}
		shown := c.console.Sends([]string{"let idle be 60"})
		at := time.Duration(0)
		for i, part := range strings.Split(string(answers), "\x00") {
			if i > 40 {
				break
			}
			for range 3 {
				if send := strings.TrimSpace(c.Step(at, nil)); send != "" && !slices.Contains(shown, send) {
					t.Fatalf("sent %q", send)
				}
				at += time.Duration(pause) * time.Millisecond
			}
			switch part {
			case "gone":
				c.Closed()
			case "back":
				c.Opened()
			}
			c.Step(at, []byte(part))
			if taken, of := c.Written(); c.Stage() == StageDone && c.Fault() == nil && of > 0 && (taken < of || c.Settings()["idle"] != "60") {
				t.Fatalf("done, with %d of %d written and %v held", taken, of, c.Settings())
			}
			if c.Stage() == StageDone && c.Fault() == nil {
				_ = c.Write(c.Is(), c.Settings(), []Change{{Name: "idle", Before: c.Settings()["idle"], After: "60"}})
			}
		}
		for n := 0; c.Fault() == nil && c.Stage() != StageDone; n++ {
			if at += time.Second; n > 2000 {
				t.Fatalf("it hangs at %s", c.Stage())
			}
			c.Step(at, nil)
		}
		_ = fmt.Sprint(c.Sent(), c.Text(), c.Settings())
	})
}
