package app_test

import (
	"bufio"
	"bytes"
	"context"
	"io"
	"maps"
	"net"
	"reflect"
	"sync"
	"testing"

	"vividperch/app"
	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/core/quad"
	"vividperch/demo/benchtest"
)

// relayBefore is a line to a device on which something happens before the first message of a method goes on. It gives its address.
func relayBefore(t *testing.T, device string, method string, happens func()) string {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { l.Close() })
	var once sync.Once
	wanted := []byte(`"method":"` + method + `"`)
	serve := func(near net.Conn) {
		defer near.Close()
		far, err := net.Dial("tcp", device)
		if err != nil {
			return
		}
		defer far.Close()
		go func() {
			_, _ = io.Copy(near, far)
			near.Close()
		}()
		for lines := bufio.NewReader(near); ; {
			line, err := lines.ReadBytes('\n')
			if bytes.Contains(line, wanted) {
				once.Do(happens)
			}
			if _, e := far.Write(line); err != nil || e != nil {
				return
			}
		}
	}
	go func() {
		for {
			near, err := l.Accept()
			if err != nil {
				return
			}
			go serve(near)
		}
	}()
	return l.Addr().String()
}

// Whatever is under way when another quad comes onto the bench ends there: the other board is not written, and nothing is kept of it.
func TestAnotherQuadInTheMiddleOfAWrite(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	other := benchtest.Kit(t, "godwit")
	device := benchtest.ServeShelf(t, benchtest.Dunlin(t), other)
	var hand *client.Device
	var there map[string]string
	happened := make(chan struct{})
	power := func(on bool) error {
		_, err := hand.Call(context.Background(), protocol.MethodSet, protocol.Things{Pack: &on})
		return err
	}
	dial := func() {
		var err error
		if hand, err = client.Dial(context.Background(), device, benchtest.Token, func(protocol.Live) {}); err != nil {
			t.Error(err)
		}
		t.Cleanup(hand.Close)
	}
	var b *app.Bench
	b, _ = w.benchAt(relayBefore(t, device, protocol.MethodWrite, func() {
		defer close(happened)
		if err := power(false); err != nil {
			t.Error(err)
		}
		if err := hand.Place(context.Background(), other.Name); err != nil {
			t.Error(err)
		}
		w.until("there", func() bool { return b.Status().Connected && b.Status().Board.Quad == other.Name })
		dial()
		if err := power(true); err != nil {
			t.Error(err)
		}
		var err error
		if there, err = hand.Settings(context.Background()); err != nil {
			t.Error(err)
		}
	}))
	dial()
	w.set(b, protocol.Things{Pack: yes()})
	before, board := w.view(id), w.board(id)
	w.edit(id, "sheet.feel.angleLimit", "40")
	if _, err := w.WriteBoard(t.Context(), id); code(err) != "device-away" {
		t.Errorf("written while another came: %v", err)
	}
	<-happened
	now, err := hand.Settings(t.Context())
	if err != nil || len(there) == 0 || !maps.Equal(now, there) {
		t.Errorf("the other board was written: %v, %v", now, err)
	}
	// What the board held was saved before, and is all that was kept.
	after := w.view(id)
	if saved := w.saved(id); len(saved) != 1 || saved[0].Why != "before writing the sheet" {
		t.Errorf("saved %+v", saved)
	}
	if b := w.board(id); len(b.Changes) != 1 || !reflect.DeepEqual(after.Line[0].Readings, before.Line[0].Readings) || b.Version != board.Version {
		t.Errorf("kept: %+v", b)
	}
}

// A hold is of the quad it began with: renewed on after another took its place, it turns nothing there.
func TestAnotherQuadInTheMiddleOfAHold(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	other := benchtest.Kit(t, "godwit")
	device := benchtest.ServeShelf(t, benchtest.Dunlin(t), other)
	b, hand := w.benchAt(device)
	w.set(b, protocol.Things{Pack: yes()})
	spin := protocol.Motion{Kind: "spin", Output: "A", Level: 8}
	hold := func() error { return w.Hold(t.Context(), id, spin) }
	w.until("turning", func() bool {
		if err := hold(); err != nil {
			t.Fatal(err)
		}
		l, err := hand.Call(t.Context(), protocol.MethodLook, nil)
		return err == nil && turns(l)
	})
	w.place(b, other.Name)
	w.set(b, protocol.Things{Pack: yes()})
	for range 5 {
		if err := hold(); code(err) != "other-quad" {
			t.Errorf("held on: %v", err)
		}
	}
	hand, err := client.Dial(t.Context(), device, benchtest.Token, func(protocol.Live) {})
	if err != nil {
		t.Fatal(err)
	}
	defer hand.Close()
	l, err := hand.Call(t.Context(), protocol.MethodLook, nil)
	if err != nil || l.Motion != "" || turns(l) {
		t.Errorf("the other one turns: %+v, %v", l, err)
	}
}

func turns(l protocol.Live) bool {
	for _, c := range []quad.Corner{quad.FrontLeft, quad.FrontRight, quad.RearLeft, quad.RearRight} {
		if l.Corners[c].Turning {
			return true
		}
	}
	return false
}
