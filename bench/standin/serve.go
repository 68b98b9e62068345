package standin

import (
	"bytes"
	"context"
	"crypto/subtle"
	"encoding/json"
	"errors"
	"io"
	"net"
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
	device  *Device
	token   string
	stepped bool

	mu       sync.Mutex
	sessions map[*session]bool
	closed   bool
}

// NewServer for a device. A stepped device's clock stands still between the step calls of its client.
func NewServer(d *Device, token string, stepped bool) *Server {
	return &Server{device: d, token: token, stepped: stepped, sessions: map[*session]bool{}}
}

// framesEvery is the pace of live messages and of the real clock's steps.
const (
	framesEvery = 40 // ms
	clockEvery  = 5 * time.Millisecond
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
	defer s.mu.Unlock()
	s.closed = true
	for c := range s.sessions {
		c.rpc.Stop()
	}
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
			s.device.Advance(min(ms, 500))
			// A lease must not outlast its time by a step of the clock.
			want := clockEvery
			if s.device.leased() {
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
	s.device.mu.Lock()
	live := s.device.live()
	s.device.mu.Unlock()
	s.mu.Lock()
	defer s.mu.Unlock()
	for c := range s.sessions {
		if c.greeted.Load() {
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
	rpc     *jrpc2.Server
	greeted atomic.Bool
	latest  chan protocol.Live // holds the newest that is not sent yet; only broadcast fills it
	ended   chan struct{}
}

func (s *Server) serve(ctx context.Context, conn net.Conn) {
	c := &session{server: s, latest: make(chan protocol.Live, 1), ended: make(chan struct{})}
	_ = conn.SetReadDeadline(time.Now().Add(5 * time.Second)) // a peer that never says hello is let go
	first, err := firstLine(conn)
	if err != nil {
		conn.Close()
		return
	}
	stream := &protocol.LineLimit{ReadWriteCloser: joined{io.MultiReader(first, conn), conn}}
	c.rpc = jrpc2.NewServer(gate{c, conn, s.device.methods(s, c)}, &jrpc2.ServerOptions{AllowPush: true, Concurrency: 1})
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
	s.device.mu.Lock()
	defer s.device.mu.Unlock()
	if s.device.holder == c {
		s.device.rest() // whoever held is gone
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
				time.AfterFunc(50*time.Millisecond, g.c.rpc.Stop)
				return protocol.Welcome{}, jrpc2.Errorf(protocol.CodeToken, "wrong token")
			}
			_ = g.conn.SetReadDeadline(time.Time{})
			g.c.greeted.Store(true)
			return s.device.welcome(), nil
		})
	}
	if !greeted {
		go g.c.rpc.Stop()
		return nil
	}
	return g.methods.Assign(ctx, method)
}

func (d *Device) welcome() protocol.Welcome {
	w := protocol.Welcome{Device: d.kit.Name, StandIn: true, Protocol: protocol.Version, Outputs: quad.SortedKeys(d.kit.Wired)}
	for _, s := range d.kit.Radio.Switches {
		w.Switches = append(w.Switches, protocol.SwitchInfo{Name: s.Name, Positions: s.Positions})
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
		protocol.MethodAdjust:   act(d, d.adjust),
		protocol.MethodLevel:    act(d, d.level),
		protocol.MethodIdentify: ask(d, d.identify),
		protocol.MethodSettings: ask(d, d.list),
		protocol.MethodWrite:    act(d, d.write),
		protocol.MethodMeter:    ask(d, d.meter),
		protocol.MethodBoot:     act(d, d.enterBoot),
		protocol.MethodErase:    act(d, d.erase),
		protocol.MethodBlock:    act(d, d.block),
		protocol.MethodVerify:   ask(d, func(nothing) (protocol.Sum, error) { return d.sum(), d.needBoot() }),
		protocol.MethodReboot:   act(d, d.reboot),
		protocol.MethodStep: handler.New(func(_ context.Context, p protocol.Step) (protocol.Live, error) {
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
