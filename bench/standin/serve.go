package standin

import (
	"bytes"
	"context"
	"crypto/subtle"
	"encoding/json"
	"errors"
	"io"
	"net"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"github.com/creachadair/jrpc2"
	"github.com/creachadair/jrpc2/channel"
	"github.com/creachadair/jrpc2/handler"

	"vividperch/bench/protocol"
	"vividperch/core/quad"
)

// Server lets programs reach a device over loopback TCP.
type Server struct {
	// Hurry is how many times as fast as the wall's the device's clock runs; 0 is once. Set it before Serve.
	Hurry int

	token   string
	stepped bool
	shelf   []*Device

	mu       sync.Mutex
	device   *Device // that lies on the bench
	sessions map[*session]bool
	closed   bool
}

// NewServer for a device, with others that can be put in its place. A stepped device's clock stands still between the
// step calls of its client.
func NewServer(token string, stepped bool, d *Device, others ...*Device) *Server {
	return &Server{device: d, shelf: append([]*Device{d}, others...), token: token, stepped: stepped, sessions: map[*session]bool{}}
}

// onBench is the device that lies there now.
func (s *Server) onBench() *Device {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.device
}

// place another quad on the bench. Everything must be unplugged; every program says hello again afterwards, because
// outputs and switches are others. By is the session that asks: its program closes the connection itself once it has the
// answer, so that no close can overtake it, and is let go if it does not.
func (s *Server) place(by *session, p protocol.PutOn) (struct{}, error) {
	i := slices.IndexFunc(s.shelf, func(d *Device) bool { return d.kit.Name == p.Quad })
	if i < 0 {
		return struct{}{}, refuse("there is no quad %q for this bench", p.Quad)
	}
	now := s.onBench()
	now.mu.Lock()
	live := now.pack || now.usb
	now.mu.Unlock()
	if live {
		return struct{}{}, refuse("take pack and USB out before you put another quad on the bench")
	}
	s.shelf[i].mu.Lock()
	s.shelf[i].asSoldered()
	s.shelf[i].mu.Unlock()
	s.mu.Lock()
	s.device = s.shelf[i]
	s.mu.Unlock()
	s.endSessions(by)
	time.AfterFunc(letGo, by.end)
	return struct{}{}, nil
}

// letGo is when a program that put another quad on the bench is let go if it has not closed its connection by then.
const letGo = time.Second

// endSessions but one, which may be nil.
func (s *Server) endSessions(but *session) {
	s.mu.Lock()
	defer s.mu.Unlock()
	for c := range s.sessions {
		if c != but {
			c.end()
		}
	}
}

// framesEvery is the pace of live messages and of the real clock's steps.
const (
	framesEvery = 40 // ms
	clockEvery  = 5 * time.Millisecond
	// longestTick of the real clock, in ms. On a machine that did not let this program run for longer, the bench runs slower: what was
	// held then could not be renewed either, and no hand is to be blamed for that.
	longestTick = 50
)

// Serve accepts connections until the listener closes or ctx ends.
func (s *Server) Serve(ctx context.Context, l net.Listener) error {
	stop := context.AfterFunc(ctx, func() { l.Close() })
	defer stop()
	if !s.stepped {
		go s.run(ctx)
	}
	for {
		conn, err := l.Accept()
		if err != nil {
			s.closeAll()
			if ctx.Err() != nil || errors.Is(err, net.ErrClosed) {
				return nil
			}
			return err
		}
		go s.serve(ctx, conn)
	}
}

func (s *Server) closeAll() {
	s.mu.Lock()
	s.closed = true
	s.mu.Unlock()
	s.endSessions(nil)
}

// run keeps the device's clock with the wall's and sends live messages.
func (s *Server) run(ctx context.Context) {
	pace := clockEvery
	tick := time.NewTicker(pace)
	defer tick.Stop()
	last, due := time.Now(), 0
	for {
		select {
		case <-ctx.Done():
			return
		case now := <-tick.C:
			ms := int(now.Sub(last).Milliseconds())
			last = last.Add(time.Duration(ms) * time.Millisecond)
			ms = min(ms, longestTick) * max(1, s.Hurry)
			d := s.onBench()
			d.Advance(ms)
			// A lease must not outlast its time by a step of the clock.
			want := clockEvery
			if d.leased() {
				want = time.Millisecond
			}
			if want != pace {
				pace = want
				tick.Reset(pace)
			}
			if due += ms; due >= framesEvery {
				due %= framesEvery
				s.broadcast()
			}
		}
	}
}

func (s *Server) broadcast() {
	d := s.onBench()
	d.mu.Lock()
	live := d.live()
	d.mu.Unlock()
	s.mu.Lock()
	defer s.mu.Unlock()
	for c := range s.sessions {
		if c.greeted.Load() && c.device == d { // else its quad has just been taken from the bench, and it is about to end
			c.offer(live)
		}
	}
}

// offer a live message to a session; one that it has not taken yet is thrown away for it. A peer that stands
// still must never hold up the clock: leases end by it.
func (c *session) offer(live protocol.Live) {
	select {
	case <-c.latest:
	default:
	}
	c.latest <- live
}

// push sends what is offered until the session ends.
func (c *session) push(ctx context.Context) {
	for {
		select {
		case live := <-c.latest:
			if c.rpc.Notify(ctx, protocol.NotifyLive, live) != nil {
				return // a gone peer is noticed by its own session
			}
		case <-c.ended:
			return
		}
	}
}

// joined reads from one place and writes to and closes another.
type joined struct {
	io.Reader
	io.WriteCloser
}

// firstLine reads the line that must be a hello, byte by byte so that nothing after it is taken, and gives it
// back to be read again. Anything else is an error.
func firstLine(r io.Reader) (io.Reader, error) {
	var line []byte
	for b := make([]byte, 1); len(line) < 4096; {
		if _, err := io.ReadFull(r, b); err != nil {
			return nil, err
		}
		if line = append(line, b[0]); b[0] != '\n' {
			continue
		}
		var call struct {
			Method string `json:"method"`
		}
		if json.Unmarshal(line, &call) == nil && call.Method == protocol.MethodHello {
			return bytes.NewReader(line), nil
		}
		break
	}
	return nil, errors.New("the first line is not a hello")
}

type session struct {
	server  *Server
	device  *Device
	conn    net.Conn
	rpc     *jrpc2.Server
	greeted atomic.Bool
	latest  chan protocol.Live // holds the newest that is not sent yet; only broadcast fills it
	ended   chan struct{}
}

// end the session by its connection. Stopping its server of calls while one arrives makes that panic.
func (c *session) end() { _ = c.conn.Close() }

func (s *Server) serve(ctx context.Context, conn net.Conn) {
	c := &session{server: s, device: s.onBench(), conn: conn, latest: make(chan protocol.Live, 1), ended: make(chan struct{})}
	_ = conn.SetReadDeadline(time.Now().Add(5 * time.Second)) // a peer that never says hello is let go
	first, err := firstLine(conn)
	if err != nil {
		conn.Close()
		return
	}
	stream := &protocol.LineLimit{ReadWriteCloser: joined{io.MultiReader(first, conn), conn}}
	c.rpc = jrpc2.NewServer(gate{c, conn, c.device.methods(s, c)}, &jrpc2.ServerOptions{AllowPush: true, Concurrency: 1})
	s.mu.Lock()
	if s.closed {
		s.mu.Unlock()
		conn.Close()
		return
	}
	s.sessions[c] = true
	s.mu.Unlock()
	c.rpc.Start(channel.Line(stream, conn))
	go c.push(ctx)
	_ = c.rpc.Wait()
	close(c.ended)
	s.mu.Lock()
	delete(s.sessions, c)
	s.mu.Unlock()
	c.device.mu.Lock()
	defer c.device.mu.Unlock()
	if c.device.holder == c {
		c.device.rest() // whoever held is gone
	}
}

// gate lets nothing through before a good hello.
type gate struct {
	c       *session
	conn    net.Conn
	methods handler.Map
}

func (g gate) Assign(ctx context.Context, method string) jrpc2.Handler {
	s := g.c.server
	greeted := g.c.greeted.Load()
	if method == protocol.MethodHello {
		return handler.New(func(_ context.Context, h protocol.Hello) (protocol.Welcome, error) {
			if subtle.ConstantTimeCompare([]byte(h.Token), []byte(s.token)) != 1 {
				time.AfterFunc(50*time.Millisecond, g.c.end)
				return protocol.Welcome{}, jrpc2.Errorf(protocol.CodeToken, "wrong token")
			}
			_ = g.conn.SetReadDeadline(time.Time{})
			g.c.greeted.Store(true)
			return s.welcome(g.c.device), nil
		})
	}
	if !greeted || g.c.device != s.onBench() { // what lies there is for whoever says hello to it
		g.c.end()
		return nil
	}
	return g.methods.Assign(ctx, method)
}

func (s *Server) welcome(d *Device) protocol.Welcome {
	w := protocol.Welcome{Device: d.kit.Name + "'s bench", StandIn: true, Protocol: protocol.Version, Outputs: quad.SortedKeys(d.kit.Wired), Board: d.mark(), Layout: d.kit.Built}
	for _, k := range d.kit.Radio.Switches {
		w.Switches = append(w.Switches, protocol.SwitchInfo{Name: k.Name, Positions: k.Positions})
	}
	if len(s.shelf) > 1 {
		for _, other := range s.shelf {
			w.Quads = append(w.Quads, other.kit.Name)
		}
	}
	return w
}

func refuse(format string, args ...any) error {
	return jrpc2.Errorf(protocol.CodeRefused, format, args...)
}

// act wraps a change so that it runs under the lock and answers with what is to be seen after it.
func act[P any](d *Device, f func(P) error) handler.Func {
	return handler.New(func(_ context.Context, p P) (protocol.Live, error) {
		d.mu.Lock()
		defer d.mu.Unlock()
		if err := f(p); err != nil {
			return protocol.Live{}, err
		}
		d.hear()
		return d.live(), nil
	})
}

// blockTakes is how long flash memory takes for a block: whoever pulls the cable half-way needs a half-way.
const blockTakes = 4 * time.Millisecond

func (s *Server) slowly(f handler.Func) handler.Func {
	return func(ctx context.Context, r *jrpc2.Request) (any, error) {
		if !s.stepped {
			time.Sleep(blockTakes)
		}
		return f(ctx, r)
	}
}

func ask[P, R any](d *Device, f func(P) (R, error)) handler.Func {
	return handler.New(func(_ context.Context, p P) (R, error) {
		d.mu.Lock()
		defer d.mu.Unlock()
		return f(p)
	})
}

type nothing struct{}

func (d *Device) methods(s *Server, c *session) handler.Map {
	return handler.Map{
		protocol.MethodLook:  act(d, func(nothing) error { return nil }),
		protocol.MethodSet:   act(d, d.set),
		protocol.MethodStick: act(d, d.stick),
		protocol.MethodSweep: act(d, d.startSweep),
		protocol.MethodMotion: act(d, func(m protocol.Motion) error {
			err := d.move(m)
			if err == nil {
				d.holder = c
			}
			return err
		}),
		protocol.MethodRest: act(d, func(nothing) error { d.rest(); return nil }),
		protocol.MethodCut: act(d, func(nothing) error {
			d.pack = false
			d.power(true)
			return nil
		}),
		protocol.MethodSolder:   act(d, d.solder),
		protocol.MethodAdjust:   act(d, d.adjust),
		protocol.MethodRadio:    act(d, d.setRadio),
		protocol.MethodReceiver: act(d, d.setReceiver),
		protocol.MethodLabels:   ask(d, d.labels),
		protocol.MethodPrints:   ask(d, d.prints),
		protocol.MethodLevel:    act(d, d.level),
		protocol.MethodIdentify: ask(d, d.identify),
		protocol.MethodSettings: ask(d, d.list),
		protocol.MethodWrite:    act(d, d.write),
		protocol.MethodSerial:   ask(d, d.serial),
		protocol.MethodMeter:    ask(d, d.meter),
		protocol.MethodProbes:   act(d, d.probe),
		protocol.MethodDrain:    act(d, d.drain),
		protocol.MethodPlug:     act(d, d.plug),
		protocol.MethodBoot:     act(d, d.enterBoot),
		protocol.MethodErase:    act(d, d.erase),
		protocol.MethodBlock:    s.slowly(act(d, d.block)),
		protocol.MethodVerify:   ask(d, d.verify),
		protocol.MethodReboot:   act(d, d.reboot),
		protocol.MethodPlace: handler.New(func(_ context.Context, p protocol.PutOn) (struct{}, error) {
			return s.place(c, p)
		}),
		protocol.MethodStep: handler.New(func(_ context.Context, p protocol.Pass) (protocol.Live, error) {
			if !s.stepped {
				return protocol.Live{}, refuse("this bench runs by the wall clock")
			}
			d.Advance(max(0, min(p.Millis, 600000)))
			d.mu.Lock()
			defer d.mu.Unlock()
			return d.live(), nil
		}),
	}
}
