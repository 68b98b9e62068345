package client

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"net"
	"strings"
	"testing"
	"time"

	"vividperch/bench/protocol"
	"vividperch/core/quad"
)

// liar is a device that answers every line as told; an empty answer is silence.
func liar(t testing.TB, answer func(n int, line string) string) string {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { l.Close() })
	go func() {
		for {
			conn, err := l.Accept()
			if err != nil {
				return
			}
			go func() {
				defer conn.Close()
				in := bufio.NewScanner(conn)
				for n := 1; in.Scan(); n++ {
					if _, err := io.WriteString(conn, answer(n, in.Text())); err != nil {
						return
					}
				}
			}()
		}
	}()
	return l.Addr().String()
}

func result(n int, body string) string {
	return fmt.Sprintf(`{"jsonrpc":"2.0","id":%d,"result":%s}`+"\n", n, body)
}

const welcome = `{"device":"a board","protocol":1,"outputs":["A"],"switches":[]}`

// after greets honestly and answers the next call as given.
func after(body string) func(int, string) string {
	return func(n int, _ string) string {
		if n == 1 {
			return result(1, welcome)
		}
		if strings.HasPrefix(body, "raw:") {
			return body[4:]
		}
		return result(n, body)
	}
}

func code(err error) string {
	if f := quad.AsFault(err); f != nil {
		return f.Code
	}
	return fmt.Sprint(err)
}

// A device that lies gives a clear sentence within the time limit, and nothing is believed.
func TestLyingDevices(t *testing.T) {
	t.Parallel()
	huge := strings.Repeat("x", protocol.MaxLine+10)
	for _, c := range []struct {
		name string
		body string
		ask  func(context.Context, *Device) error
		want string
	}{
		{"an identity that says nothing", `{"target":""}`, func(ctx context.Context, d *Device) error { _, err := d.Identify(ctx, ""); return err }, "device-nonsense"},
		{"an identity of another shape", `[1,2]`, func(ctx context.Context, d *Device) error { _, err := d.Identify(ctx, ""); return err }, "device-nonsense"},
		{"an endless name", `{"target":"` + huge[:5000] + `"}`, func(ctx context.Context, d *Device) error { _, err := d.Identify(ctx, ""); return err }, "device-nonsense"},
		{"no settings", `{"settings":{}}`, func(ctx context.Context, d *Device) error { _, err := d.Settings(ctx); return err }, "device-nonsense"},
		{"a figure no quad can show", `{"volts":1e30}`, func(ctx context.Context, d *Device) error { _, err := d.Call(ctx, "look", nil); return err }, "device-nonsense"},
		{"a word for a figure", `{"value":"many"}`, func(ctx context.Context, d *Device) error { _, err := d.Meter(ctx, "volts"); return err }, "device-nonsense"},
		{"nothing at all", "raw:", func(ctx context.Context, d *Device) error { _, err := d.Identify(ctx, ""); return err }, "device-slow"},
		{"no JSON", "raw:hello there\n", func(ctx context.Context, d *Device) error { _, err := d.Identify(ctx, ""); return err }, "device-error"},
		{"a line without end", "raw:" + huge, func(ctx context.Context, d *Device) error { _, err := d.Identify(ctx, ""); return err }, "device-error"},
		{"the answer to another call", "raw:" + result(99, `{"target":"X"}`), func(ctx context.Context, d *Device) error { _, err := d.Identify(ctx, ""); return err }, "device-slow"},
		{"a refusal", `raw:{"jsonrpc":"2.0","id":2,"error":{"code":-32001,"message":"not now"}}` + "\n", func(ctx context.Context, d *Device) error { return d.Write(ctx, "a", "b") }, "device-refused"},
		{"an error of its own", `raw:{"jsonrpc":"2.0","id":2,"error":{"code":-1,"message":"` + huge[:2000] + `"}}` + "\n", func(ctx context.Context, d *Device) error { return d.Write(ctx, "a", "b") }, "device-error"},
	} {
		t.Run(c.name, func(t *testing.T) {
			t.Parallel()
			d, err := Dial(t.Context(), liar(t, after(c.body)), "x", nil)
			if err != nil {
				t.Fatal(err)
			}
			defer d.Close()
			began := time.Now()
			err = c.ask(t.Context(), d)
			if code(err) != c.want {
				t.Errorf("got %v, want %s", err, c.want)
			}
			if took := time.Since(began); took > Patience+time.Second {
				t.Errorf("took %v", took)
			}
			if len(fmt.Sprint(err)) > 400 {
				t.Errorf("says %d characters", len(fmt.Sprint(err)))
			}
		})
	}
}

func TestDialRefuses(t *testing.T) {
	t.Parallel()
	for name, c := range map[string]struct {
		answer func(int, string) string
		want   string
	}{
		"another protocol": {func(n int, _ string) string { return result(n, `{"protocol":2}`) }, "other-protocol"},
		"thousands of outputs": {func(n int, _ string) string {
			return result(n, `{"protocol":1,"outputs":["`+strings.Repeat(`A","`, 50)+`A"]}`)
		}, "device-nonsense"},
		"silence": {func(int, string) string { return "" }, "device-slow"},
	} {
		if _, err := Dial(t.Context(), liar(t, c.answer), "x", nil); code(err) != c.want {
			t.Errorf("%s: got %v, want %s", name, err, c.want)
		}
	}
	for _, address := range []string{"192.0.2.7:80", "example.org:80", "nonsense", ":80"} {
		if _, err := Dial(t.Context(), address, "x", nil); code(err) != "not-loopback" {
			t.Errorf("%s: got %v", address, err)
		}
	}
	if _, err := Dial(t.Context(), "127.0.0.1:1", "x", nil); code(err) != "device-away" {
		t.Errorf("nobody there: %v", err)
	}
}

// Live messages that cannot be are dropped; sound ones come through.
func TestOnlySoundLiveMessagesComeThrough(t *testing.T) {
	t.Parallel()
	got := make(chan protocol.Live, 8)
	note := func(body string) string { return `{"jsonrpc":"2.0","method":"live","params":` + body + "}\n" }
	address := liar(t, func(n int, _ string) string {
		return result(n, welcome) + note(`{"volts":1e9}`) + note(`"text"`) + note(`{"channels":[`+strings.Repeat("1500,", 40)+`1500]}`) + note(`{"compass":[1,2,3,4]}`) + note(`{"heading":1e9}`) + note(`{"satellites":99999999}`) + `{"jsonrpc":"2.0","method":"other"}` + "\n" + note(`{"sequence":7,"volts":24}`)
	})
	d, err := Dial(t.Context(), address, "x", func(l protocol.Live) { got <- l })
	if err != nil {
		t.Fatal(err)
	}
	defer d.Close()
	select {
	case l := <-got:
		if l.Sequence != 7 {
			t.Errorf("first through: %+v", l)
		}
	case <-time.After(3 * time.Second):
		t.Error("the sound message did not come through")
	}
}

// Whatever a device sends, the client neither crashes nor hangs.
func FuzzDevice(f *testing.F) {
	f.Add([]byte(result(2, `{"target":"X","line":"L","version":"1"}`)))
	f.Add([]byte(`{"jsonrpc":"2.0","id":2,"error":{"code":0}}` + "\n"))
	f.Add([]byte(`{"jsonrpc":"2.0","method":"live","params":{"corners":{"":{}},"gates":[{}]}}` + "\n"))
	f.Add([]byte("}\n\n\x00"))
	f.Fuzz(func(t *testing.T, raw []byte) {
		d, err := Dial(context.Background(), liar(t, after("raw:"+string(raw))), "x", func(protocol.Live) {})
		if err != nil {
			return // the greeting itself was honest, but what followed may have ended it
		}
		defer d.Close()
		ctx, cancel := context.WithTimeout(context.Background(), 50*time.Millisecond)
		defer cancel()
		if id, err := d.Identify(ctx, ""); err == nil && id.Target == "" {
			t.Errorf("%q became an identity that says nothing", raw)
		}
	})
}

// A device that becomes another one, in a message or in an answer, is let go at once; what it says then reaches nobody.
func TestAnotherDeviceOnTheSameLineIsLetGo(t *testing.T) {
	const mark = `{"target":"HARRIER4","serial":"2041","quad":"Dunlin"}`
	hello := strings.Replace(welcome, `"switches":[]`, `"switches":[],"board":`+mark, 1)
	for name, other := range map[string]string{
		"of another number": `{"target":"HARRIER4","serial":"3000","quad":"Dunlin"}`, "of another kind": `{"target":"OLDPIER","serial":"2041","quad":"Dunlin"}`,
		"another quad": `{"target":"HARRIER4","serial":"2041","quad":"Godwit"}`, "that does not tell any more": `{}`,
	} {
		for _, way := range []string{"message", "answer"} {
			address := liar(t, func(n int, _ string) string {
				switch {
				case n == 1:
					return result(1, hello) + `{"jsonrpc":"2.0","method":"live","params":{"mark":` + mark + `,"pack":true}}` + "\n"
				case way == "message":
					return `{"jsonrpc":"2.0","method":"live","params":{"mark":` + other + `,"usb":true}}` + "\n"
				}
				return result(n, `{"mark":`+other+`}`)
			})
			seen := make(chan protocol.Live, 10)
			d, err := Dial(t.Context(), address, "token", func(l protocol.Live) { seen <- l })
			if err != nil {
				t.Fatal(err)
			}
			if l := <-seen; !l.Pack {
				t.Errorf("%s: %+v", name, l)
			}
			if _, err := d.Call(t.Context(), protocol.MethodLook, nil); err == nil {
				t.Errorf("%s, by %s: it is believed", name, way)
			}
			<-d.Closed()
			select {
			case l := <-seen:
				t.Errorf("%s, by %s: %+v was passed on", name, way, l)
			default:
			}
		}
	}
}
