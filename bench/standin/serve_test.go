package standin_test

import (
	"bufio"
	"context"
	"fmt"
	"net"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/core/quad"
	"vividperch/demo/benchtest"
)

// serve Dunlin's bench on loopback and give its address.
func serve(t testing.TB, stepped bool) string {
	t.Helper()
	return benchtest.Serve(t, benchtest.Dunlin(t), stepped)
}

func dial(t testing.TB, address string, live func(protocol.Live)) *client.Device {
	t.Helper()
	d, err := client.Dial(t.Context(), address, benchtest.Token, live)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(d.Close)
	return d
}

func step(t testing.TB, d *client.Device, ms int) protocol.Live {
	t.Helper()
	l, err := d.Call(t.Context(), protocol.MethodStep, protocol.Pass{Millis: ms})
	if err != nil {
		t.Fatal(err)
	}
	return l
}

func call(t testing.TB, d *client.Device, method string, params any) protocol.Live {
	t.Helper()
	l, err := d.Call(t.Context(), method, params)
	if err != nil {
		t.Fatalf("%s: %v", method, err)
	}
	return l
}

func on(b bool) *bool { return &b }

// The whole exchange over the socket with the clock stepped: nothing moves between steps.
func TestSteppedOverTheSocket(t *testing.T) {
	d := dial(t, serve(t, true), nil)
	if w := d.Welcome(); !w.StandIn || len(w.Outputs) != 4 || len(w.Switches) != 3 {
		t.Errorf("welcome %+v", w)
	}
	call(t, d, protocol.MethodSet, protocol.Things{Pack: on(true), Radio: on(true)})
	began := step(t, d, 1000)
	if again := call(t, d, protocol.MethodLook, nil); again.Time != began.Time {
		t.Error("time went on without a step")
	}
	call(t, d, protocol.MethodMotion, protocol.Motion{Kind: "spin", Output: "B", Level: 6})
	l := step(t, d, 200)
	if seen := l.Corners[quad.RearLeft]; !seen.Turning || seen.Spin != quad.Clockwise {
		t.Errorf("output B: %+v", seen)
	}
	if l = step(t, d, 60); l.Motion != "" {
		t.Error("the lease did not end with the stepped clock")
	}
	if _, err := d.Call(t.Context(), protocol.MethodMotion, protocol.Motion{Kind: "spin", Output: "Q"}); quad.AsFault(err) == nil || quad.AsFault(err).Code != "device-refused" {
		t.Errorf("an output that is not there: %v", err)
	}
}

func TestWrongTokenAndNoHelloAreLetGo(t *testing.T) {
	address := serve(t, true)
	if _, err := client.Dial(t.Context(), address, "another", nil); quad.AsFault(err) == nil || quad.AsFault(err).Code != "device-token" {
		t.Errorf("a wrong token: %v", err)
	}
	for _, first := range []string{
		`{"jsonrpc":"2.0","id":1,"method":"settings"}`,
		`{"jsonrpc":"2.0","id":1,"method":"motion","params":{"kind":"spin","output":"A","level":9}}`,
		`nonsense`,
	} {
		conn, err := net.Dial("tcp", address)
		if err != nil {
			t.Fatal(err)
		}
		defer conn.Close()
		fmt.Fprintln(conn, first)
		_ = conn.SetReadDeadline(time.Now().Add(3 * time.Second))
		all := bufio.NewReader(conn)
		for {
			line, err := all.ReadString('\n')
			if strings.Contains(line, `"settings":`) || strings.Contains(line, `"corners":`) {
				t.Errorf("%s: answered %s", first, line)
			}
			if err != nil {
				if ne, ok := err.(net.Error); ok && ne.Timeout() {
					t.Errorf("%s: the connection stays open", first)
				}
				break
			}
		}
	}
	dial(t, address, nil) // and the bench still serves
}

func TestWhoeverHeldIsGone(t *testing.T) {
	address := serve(t, true)
	watcher := dial(t, address, nil)
	call(t, watcher, protocol.MethodSet, protocol.Things{Pack: on(true)})
	step(t, watcher, 600)
	call(t, watcher, protocol.MethodMotion, protocol.Motion{Kind: "spin", Output: "A", Level: 6})
	step(t, watcher, 100)
	watcher.Close()
	d := dial(t, address, nil)
	// The stepped clock stood still meanwhile: only the end of the connection can have stopped it.
	deadline := time.Now().Add(2 * time.Second)
	for call(t, d, protocol.MethodLook, nil).Motion != "" {
		if time.Now().After(deadline) {
			t.Fatal("nobody holds it any more, and it still runs")
		}
	}
}

// Two programs at one device: the end of the one that holds nothing leaves the other's hold alone.
func TestAnothersEndLeavesTheHold(t *testing.T) {
	address := serve(t, true)
	holds, other := dial(t, address, nil), dial(t, address, nil)
	call(t, holds, protocol.MethodSet, protocol.Things{Pack: on(true)})
	step(t, holds, 600)
	call(t, other, protocol.MethodLook, nil)
	call(t, holds, protocol.MethodMotion, protocol.Motion{Kind: "spin", Output: "A", Level: 6})
	other.Close()
	<-other.Closed()
	// Whatever the bench does about the end of a connection it has done once it has taken another and let it go as well.
	third := dial(t, address, nil)
	third.Close()
	<-third.Closed()
	dial(t, address, nil)
	if l := step(t, holds, 100); l.Motion != "spin" || !l.Corners[quad.FrontRight].Turning {
		t.Errorf("the hold ended with somebody else's connection: %q, %+v", l.Motion, l.Corners)
	}
}

// Another quad put on the bench ends every connection, and its messages reach nobody who spoke to the one before.
func TestAnotherQuadEndsEveryConnection(t *testing.T) {
	first, second := benchtest.Dunlin(t), benchtest.Kit(t, "godwit")
	address := benchtest.ServeShelf(t, first, second)
	var strange atomic.Int64
	d := dial(t, address, func(l protocol.Live) {
		if l.Mark.Serial != first.Serial {
			strange.Add(1)
		}
	})
	beside := dial(t, address, nil)
	if err := d.Place(t.Context(), second.Name); err != nil {
		t.Fatal(err)
	}
	<-d.Closed()
	<-beside.Closed()
	if strange.Load() > 0 {
		t.Errorf("%d messages of another quad", strange.Load())
	}
	if now := dial(t, address, nil).Welcome().Board; now.Serial != second.Serial || now.Quad != second.Name || now.Target != second.Target {
		t.Errorf("on the bench is %+v", now)
	}
}

// A program that put another quad on the bench and does not close its connection speaks to neither of the two.
func TestWhoPlacedMustSayHelloAnew(t *testing.T) {
	first, second := benchtest.Dunlin(t), benchtest.Kit(t, "godwit")
	d := dial(t, benchtest.ServeShelf(t, first, second), nil)
	if err := d.Do(t.Context(), protocol.MethodPlace, protocol.PutOn{Quad: second.Name}); err != nil {
		t.Fatal(err)
	}
	if _, err := d.Identify(t.Context(), ""); err == nil {
		t.Error("an answer of one of them")
	}
	<-d.Closed()
}

// By the wall clock it sends at least twenty live messages a second, in order.
func TestLiveMessages(t *testing.T) {
	var n, last atomic.Int64
	d := dial(t, serve(t, false), func(l protocol.Live) {
		if int64(l.Sequence) <= last.Load() {
			t.Errorf("message %d after %d", l.Sequence, last.Load())
		}
		last.Store(int64(l.Sequence))
		n.Add(1)
	})
	best := 0.0
	for range 3 { // a machine that is busy with something else may miss it once
		from, began := n.Load(), time.Now()
		for n.Load() < from+30 && time.Since(began) < 5*time.Second {
			time.Sleep(5 * time.Millisecond)
		}
		if best = max(best, float64(n.Load()-from)/time.Since(began).Seconds()); best >= 20 {
			break
		}
	}
	if best < 20 {
		t.Errorf("%.1f messages a second", best)
	}
	if _, err := d.Call(t.Context(), protocol.MethodStep, protocol.Pass{Millis: 10}); err == nil {
		t.Error("a bench by the wall clock was stepped")
	}
}

// Whatever bytes a program sends, the bench lives on and answers the next one.
func FuzzServer(f *testing.F) {
	address := serve(f, true)
	hello := `{"jsonrpc":"2.0","id":1,"method":"hello","params":{"token":"` + benchtest.Token + `","protocol":1}}` + "\n"
	f.Add([]byte(`{"jsonrpc":"2.0","id":2,"method":"set","params":{"pack":true}}`))
	f.Add([]byte(`{"jsonrpc":"2.0","id":2,"method":"motion","params":{"kind":"spin","output":"A","level":1e308}}`))
	f.Add([]byte(`{"jsonrpc":"2.0","id":2,"method":"block","params":{"address":4294967295,"data":"AAAA"}}`))
	f.Add([]byte(`[{"id":null},{}]`))
	f.Add([]byte("\x00\xff{{{"))
	f.Fuzz(func(t *testing.T, raw []byte) {
		conn, err := net.Dial("tcp", address)
		if err != nil {
			t.Fatal(err)
		}
		_, _ = conn.Write(append([]byte(hello), append(raw, '\n')...))
		_ = conn.SetReadDeadline(time.Now().Add(20 * time.Millisecond))
		_, _ = conn.Read(make([]byte, 4096))
		conn.Close()
		d, err := client.Dial(context.Background(), address, benchtest.Token, nil)
		if err != nil {
			t.Fatalf("after %q the bench does not answer: %v", raw, err)
		}
		d.Close()
	})
}
