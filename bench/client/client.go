// Package client talks to any device that speaks the bench protocol.
package client

import (
	"context"
	"encoding/json"
	"errors"
	"math"
	"net"
	"slices"
	"sync/atomic"
	"time"

	"github.com/creachadair/jrpc2"
	"github.com/creachadair/jrpc2/channel"

	"vividperch/bench/protocol"
	"vividperch/core/quad"
)

// Patience is how long a device may take to answer one call.
const Patience = 5 * time.Second

// Device is one connection.
type Device struct {
	rpc     *jrpc2.Client
	welcome protocol.Welcome
	closed  chan struct{}
	mark    atomic.Pointer[quad.Mark] // of the board, once it has said hello
}

// Dial connects, says hello and listens for live messages, which are checked and handed to live in order.
// Address must be on loopback.
func Dial(ctx context.Context, address, token string, live func(protocol.Live)) (*Device, error) {
	host, _, err := net.SplitHostPort(address)
	if ip := net.ParseIP(host); err != nil || ip == nil || !ip.IsLoopback() {
		return nil, quad.Faultf("not-loopback", address, "a device must be on this machine (127.0.0.1:port)")
	}
	dialer := net.Dialer{Timeout: Patience}
	conn, err := dialer.DialContext(ctx, "tcp", address)
	if err != nil {
		return nil, quad.Faultf("device-away", address, "no device answers there")
	}
	d := &Device{closed: make(chan struct{})}
	stream := &protocol.LineLimit{ReadWriteCloser: conn}
	d.rpc = jrpc2.NewClient(channel.Line(stream, conn), &jrpc2.ClientOptions{
		OnNotify: func(req *jrpc2.Request) {
			var l protocol.Live
			if req.Method() != protocol.NotifyLive || req.UnmarshalParams(&l) != nil || !sane(l) {
				return
			}
			if mark := d.mark.Load(); mark != nil && l.Mark != *mark {
				// It has become another device: whoever relied on this one must be told that it is gone. The connection cannot be
				// closed from inside its own message.
				go d.Close()
				return
			}
			if live != nil {
				live(l)
			}
		},
		OnStop: func(*jrpc2.Client, error) { close(d.closed) },
	})
	if err := d.call(ctx, protocol.MethodHello, protocol.Hello{Token: token, Protocol: protocol.Version}, &d.welcome); err != nil {
		d.Close()
		return nil, err
	}
	if d.welcome.Protocol != protocol.Version {
		d.Close()
		return nil, quad.Faultf("other-protocol", address, "the device speaks protocol %d, this program %d", d.welcome.Protocol, protocol.Version)
	}
	m := d.welcome.Board
	if len(d.welcome.Outputs) > 16 || len(d.welcome.Switches) > 32 || len(d.welcome.Quads) > 32 || len(m.Target)+len(m.Serial)+len(m.Quad) > 200 {
		d.Close()
		return nil, quad.Faultf("device-nonsense", address, "the device names more outputs or switches than any has")
	}
	d.mark.Store(&d.welcome.Board)
	return d, nil
}

// sane refuses live figures that no quad can show.
func sane(l protocol.Live) bool {
	figures := append(slices.Clone(l.Channels), l.Compass...)
	for _, x := range append(figures, l.Volts, l.Amps, l.Roll, l.Pitch, l.Gyro, l.BoardVolts, l.Load, l.Link.Rate, l.Link.Power, l.Link.Distance, l.Link.Strength, l.Link.Quality, l.Twist, l.Heading, l.Dilution, l.Height, l.Nose, float64(l.Satellites), l.Turns[0], l.Turns[1], l.Turns[2]) {
		if math.IsNaN(x) || math.Abs(x) > 1e5 {
			return false
		}
	}
	for _, ms := range l.Link.Light {
		if ms < 0 || ms > 60000 {
			return false
		}
	}
	return len(l.Compass) <= 3 && len(l.Accel) <= 3 && len(l.Link.Light) <= 32 && len(l.Channels) <= 32 && len(l.Corners) <= 8 && len(l.Gates) <= 32 && len(l.Answers) <= 64 && len(l.Switches) <= 32
}

// Welcome is what the device said of itself.
func (d *Device) Welcome() protocol.Welcome { return d.welcome }

// Closed is closed when the connection ends.
func (d *Device) Closed() <-chan struct{} { return d.closed }

// Close the connection.
func (d *Device) Close() { _ = d.rpc.Close() }

func (d *Device) call(ctx context.Context, method string, params, result any) error {
	ctx, cancel := context.WithTimeout(ctx, Patience)
	defer cancel()
	rsp, err := d.rpc.Call(ctx, method, params)
	if err == nil {
		if result == nil {
			return nil
		}
		if err := rsp.UnmarshalResult(result); err != nil {
			return quad.Faultf("device-nonsense", method, "the device's answer cannot be understood")
		}
		return nil
	}
	var e *jrpc2.Error
	switch {
	case errors.Is(err, context.DeadlineExceeded):
		return quad.Faultf("device-slow", method, "the device did not answer within %s", Patience)
	case errors.As(err, &e) && e.Code == protocol.CodeRefused:
		return quad.Faultf("device-refused", method, "%s", quad.Clip(e.Message, 200))
	case errors.As(err, &e) && e.Code == protocol.CodeToken:
		return quad.Faultf("device-token", method, "the device does not accept this program's token")
	case errors.As(err, &e):
		return quad.Faultf("device-error", method, "the device answers with an error: %s", quad.Clip(e.Message, 200))
	}
	return quad.Faultf("device-away", method, "the connection to the device is gone")
}

// Call a method whose answer is a Live.
func (d *Device) Call(ctx context.Context, method string, params any) (protocol.Live, error) {
	var l protocol.Live
	err := d.call(ctx, method, params, &l)
	switch {
	case err != nil:
	case !sane(l):
		err = quad.Faultf("device-nonsense", method, "the device shows figures that no quad can show")
	case l.Mark != d.welcome.Board:
		d.Close()
		err = quad.Faultf("device-changed", method, "another quad lies on the bench than a moment ago")
	}
	return l, err
}

// Identify the board, or the speed controller of an output.
func (d *Device) Identify(ctx context.Context, output string) (protocol.Identity, error) {
	var id protocol.Identity
	if err := d.call(ctx, protocol.MethodIdentify, protocol.Which{Output: output}, &id); err != nil {
		return id, err
	}
	if id.Target == "" || len(id.Target)+len(id.Line)+len(id.Version)+len(id.Serial) > 200 || math.IsNaN(id.Switching) || id.Switching < 0 || id.Switching > 200 {
		return id, quad.Faultf("device-nonsense", protocol.MethodIdentify, "it does not say what it is")
	}
	if label := d.welcome.Board; output == "" && (label.Target != "" && id.Target != label.Target || !id.Bootloader && id.Serial != label.Serial) {
		return id, quad.Faultf("device-nonsense", protocol.MethodIdentify, "the board says that it is another one than its label does")
	}
	return id, nil
}

// Settings of the board, raw.
func (d *Device) Settings(ctx context.Context) (map[string]string, error) {
	var s protocol.Settings
	if err := d.call(ctx, protocol.MethodSettings, nil, &s); err != nil {
		return nil, err
	}
	if len(s.Settings) == 0 || len(s.Settings) > 5000 {
		return nil, quad.Faultf("device-nonsense", protocol.MethodSettings, "the board lists %d settings", len(s.Settings))
	}
	return s.Settings, nil
}

// Write one raw setting.
func (d *Device) Write(ctx context.Context, name, value string) error {
	return d.call(ctx, protocol.MethodWrite, protocol.Write{Name: name, Value: value}, nil)
}

// Serial puts text on the board's USB cable, and gives what it said since.
func (d *Device) Serial(ctx context.Context, text string) (protocol.Serial, error) {
	var s protocol.Serial
	err := d.call(ctx, protocol.MethodSerial, protocol.Serial{Text: text}, &s)
	return s, err
}

// Labels are what the radio's module and the receiver say they are.
func (d *Device) Labels(ctx context.Context) (module, receiver quad.LinkIdentity, err error) {
	var l protocol.Labels
	if err := d.call(ctx, protocol.MethodLabels, nil, &l); err != nil {
		return module, receiver, err
	}
	for _, x := range []quad.LinkIdentity{l.Module, l.Receiver} {
		if len(x.Link)+len(x.Version)+len(x.Band)+len(x.Region) > 160 {
			return module, receiver, quad.Faultf("device-nonsense", protocol.MethodLabels, "a label says more than any label")
		}
	}
	return l.Module, l.Receiver, nil
}

// Prints are the fingerprints of the phrases that module and receiver hold.
func (d *Device) Prints(ctx context.Context) (module, receiver quad.PhrasePrint, err error) {
	var p protocol.Prints
	if err := d.call(ctx, protocol.MethodPrints, nil, &p); err != nil {
		return module, receiver, err
	}
	for _, x := range []quad.PhrasePrint{p.Module, p.Receiver} {
		if len(x.Exact) > 8 || len(x.Loose) > 8 {
			return module, receiver, quad.Faultf("device-nonsense", protocol.MethodPrints, "what it gives are no fingerprints")
		}
	}
	return p.Module, p.Receiver, nil
}

// Meter reads a probe.
func (d *Device) Meter(ctx context.Context, where string) (float64, error) {
	var f protocol.Figure
	if err := d.call(ctx, protocol.MethodMeter, protocol.Probe{Where: where}, &f); err != nil {
		return 0, err
	}
	if math.IsNaN(f.Value) || math.IsInf(f.Value, 0) {
		return 0, quad.Faultf("device-nonsense", protocol.MethodMeter, "the meter shows no figure")
	}
	return f.Value, nil
}

// Do a method that answers with nothing of interest.
func (d *Device) Do(ctx context.Context, method string, params any) error {
	var ignored json.RawMessage
	return d.call(ctx, method, params, &ignored)
}

// Place another quad on the bench. The connection is closed by it: whoever speaks on says hello to the other quad.
func (d *Device) Place(ctx context.Context, name string) error {
	err := d.Do(ctx, protocol.MethodPlace, protocol.PutOn{Quad: name})
	if err == nil {
		d.Close()
	}
	return err
}

// Verify sums what is written in the program area.
func (d *Device) Verify(ctx context.Context, output string) (protocol.Sum, error) {
	var s protocol.Sum
	err := d.call(ctx, protocol.MethodVerify, protocol.Which{Output: output}, &s)
	if err == nil && s.Bytes < 0 {
		err = quad.Faultf("device-nonsense", protocol.MethodVerify, "the device holds less than nothing")
	}
	return s, err
}
