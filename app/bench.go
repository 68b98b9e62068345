package app

import (
	"context"
	"log/slog"
	"math"
	"sync"
	"sync/atomic"
	"time"

	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/core/quad"
)

// Bench is this server's hold on one device. It keeps connecting while the device is away, shares what it
// sees with every subscriber, and forwards what pilots do. It never renews a motion by itself.
type Bench struct {
	address, token string
	keep           Keeper
	pilot          int64
	owner          string

	mu     sync.Mutex
	line   *line // the connection whose messages count
	device *client.Device
	status BenchStatus
	live   protocol.Live
	seenAt time.Time
	subs   map[chan LiveFrame]bool
	spun   *spun              // nil while nothing is held to spin
	starts map[raised]float64 // lowest throttle at which an output was seen to start since power-up
	stops  map[raised]float64 // throttle at which it stood still again as it was lowered
	still  map[raised]bool    // outputs that were seen standing still while being asked to spin
	flash  *FlashState
	guide  *guiding        // of a binding, the last one
	life   context.Context // of the whole hold on the device
	// glimpses are the changes of the receiver's light and the radio's call, oldest first.
	glimpses []glimpse
	stop     context.CancelFunc // ends the flash that runs
	busy     chan struct{}      // holds a token while one longer act goes on at the device
	pulling  bool               // the pack, because something burns
	flashing atomic.Bool        // or waiting to be
	changed  chan struct{}      // closed and renewed with every live frame
	ended    chan struct{}      // closed when nothing of it touches the device or the database any more
	trusted  trusted
}

// line is one connection: what a device says after it has ended, or another device in its place, is nobody's.
type line struct{ device *client.Device } // nil until it has said hello

// BenchStatus tells whether there is a device and whose it is.
type BenchStatus struct {
	Connected bool                  `json:"connected"`
	None      bool                  `json:"none"` // the program was started without one
	Says      string                `json:"says"`
	Device    string                `json:"device"`
	StandIn   bool                  `json:"standIn"`
	Lease     float64               `json:"lease" unit:"ms"` // how long a motion goes on after its last renewal
	Outputs   []string              `json:"outputs"`
	Switches  []protocol.SwitchInfo `json:"switches"`
	Quads     []string              `json:"quads"` // that can be put on the bench
	Board     quad.Mark             `json:"board"` // that lies there
}

// FrameKind is what a frame of the live socket carries.
type FrameKind string

const (
	FrameLive    FrameKind = "live"
	FrameStatus  FrameKind = "status"
	FrameFlash   FrameKind = "flash"
	FrameBinding FrameKind = "binding"
	FrameRefused FrameKind = "refused" // a motion, to the page that asked for it
)

// LiveFrame is one message of the live socket.
type LiveFrame struct {
	Kind    FrameKind      `json:"kind" enum:"live,status,flash,binding,refused"`
	Live    *protocol.Live `json:"live,omitempty"`
	Status  *BenchStatus   `json:"status,omitempty"`
	Flash   *FlashState    `json:"flash,omitempty"`
	Binding *BindingState  `json:"binding,omitempty"`
	Says    string         `json:"says,omitempty"` // refused
}

const (
	leaseLength = 6 * time.Second
	leaseRenew  = 2 * time.Second
	retryEvery  = time.Second
)

// AttachBench gives the app a device to look for. It runs until ctx ends.
func (a *App) AttachBench(ctx context.Context, address, token string) *Bench {
	b := &Bench{address: address, token: token, keep: a.keep, pilot: a.pilot, owner: ownerToken(), subs: map[chan LiveFrame]bool{}, status: BenchStatus{Says: "Looking for the bench"}, busy: make(chan struct{}, 1), changed: make(chan struct{}), ended: make(chan struct{}), life: ctx}
	b.forgetStarts()
	a.bench = b
	go b.run(ctx)
	return b
}

func ownerToken() string { return token() }

// queue is how long an act waits for another one that goes on at the device.
const queue = 20 * time.Second

// turn waits, at most so long, until no other longer act goes on at the device, and keeps others waiting until done is called. A pilot who
// clicks once more, or at something else, waits; he is not refused.
func (b *Bench) turn(ctx context.Context, place string, most time.Duration) (done func(), err error) {
	done = func() { <-b.busy }
	select {
	case b.busy <- struct{}{}:
		return done, nil
	default:
	}
	patience := time.NewTimer(most)
	defer patience.Stop()
	select {
	case b.busy <- struct{}{}:
		return done, nil
	case <-patience.C:
		return nil, quad.Faultf("busy", place, "the bench is busy with something else")
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// Bench of the app; a Fault when there is none.
func (a *App) Bench() (*Bench, error) {
	if a.bench == nil {
		return nil, quad.Faultf("no-bench", "", "this program was started without a bench")
	}
	return a.bench, nil
}

// Wait until the hold on the device has ended, which it does with the context it was attached with.
func (b *Bench) Wait() { <-b.ended }

func (b *Bench) run(ctx context.Context) {
	defer close(b.ended)
	for ctx.Err() == nil {
		if err := b.session(ctx); err != nil {
			says := err.Error()
			if f := quad.AsFault(err); f != nil {
				says = f.Sentence
			}
			b.setStatus(BenchStatus{Says: says}, nil)
		}
		select {
		case <-ctx.Done():
		case <-time.After(retryEvery):
		}
	}
	end, cancel := context.WithTimeout(context.WithoutCancel(ctx), time.Second)
	defer cancel()
	if err := b.keep.EndLease(end, b.address, b.owner); err != nil {
		slog.Debug("end lease", "error", err)
	}
}

// session holds one connection from its hello to its end.
func (b *Bench) session(ctx context.Context) error {
	held, err := b.keep.Lease(ctx, b.pilot, b.address, b.owner, leaseLength)
	if err != nil {
		return err
	}
	if !held {
		return quad.Faultf("device-taken", b.address, "another server has the bench")
	}
	on := &line{}
	b.mu.Lock()
	b.line, b.live, b.glimpses = on, protocol.Live{}, nil // another device may count from another number
	b.forgetStarts()
	b.mu.Unlock()
	d, err := client.Dial(ctx, b.address, b.token, func(l protocol.Live) { b.see(on, l) })
	if err != nil {
		return err
	}
	defer d.Close()
	b.mu.Lock()
	on.device = d
	b.mu.Unlock()
	w := d.Welcome()
	if l, err := d.Call(ctx, protocol.MethodLook, nil); err == nil {
		b.see(on, l)
	}
	b.setStatus(BenchStatus{Connected: true, Says: "connected", Device: w.Device, StandIn: w.StandIn, Outputs: w.Outputs, Switches: w.Switches, Quads: w.Quads, Board: w.Board}, d)
	renew := time.NewTicker(leaseRenew)
	defer renew.Stop()
	for {
		select {
		case <-ctx.Done():
			return nil
		case <-d.Closed():
			return quad.Faultf("device-away", b.address, "the connection to the bench is gone")
		case <-renew.C:
			held, err := b.keep.Lease(ctx, b.pilot, b.address, b.owner, leaseLength)
			if err == nil && !held {
				return quad.Faultf("device-taken", b.address, "another server has taken the bench")
			}
		}
	}
}

func (b *Bench) setStatus(s BenchStatus, d *client.Device) {
	b.mu.Lock()
	defer b.mu.Unlock()
	if s.Outputs == nil {
		s.Outputs, s.Switches = []string{}, []protocol.SwitchInfo{}
	}
	if s.Quads == nil {
		s.Quads = []string{}
	}
	s.Lease = protocol.LeaseMillis
	b.status, b.device = s, d
	b.send(LiveFrame{Kind: FrameStatus, Status: &s})
}

// see takes one live message of a connection. One that was overtaken by the answer to a call is not taken: what it shows is
// past.
func (b *Bench) see(on *line, l protocol.Live) {
	b.mu.Lock()
	defer b.mu.Unlock()
	if on != b.line || l.Sequence < b.live.Sequence {
		return
	}
	b.live, b.seenAt = l, time.Now()
	b.noteStart(l)
	b.pullsWhatBurns(l)
	b.glance(l)
	close(b.changed)
	b.changed = make(chan struct{})
	b.send(LiveFrame{Kind: FrameLive, Live: &l})
}

// raised is an output whose throttle is raised, one way or the other.
type raised struct {
	output   string
	backward bool
}

// widestStep is how far the throttle may have come, in per cent, between the last look at a motor that stood and the first at one that
// turns: what lies further apart, because the hand jumped or the machine was busy with something else, tells nothing of where it starts.
const widestStep = 1.5

// noteStart remembers at which throttle an output that had stood still began to turn, and at which it stood again.
func (b *Bench) noteStart(l protocol.Live) {
	if !l.Pack {
		b.forgetStarts()
	}
	turning := turning(l)
	if l.Motion != protocol.MotionSpin {
		// What stands with nothing held stands: a raise broken off is not taken for a motor that was run down.
		for on := range b.starts {
			b.still[on] = b.still[on] || turning == 0
		}
		b.spun = nil
		return
	}
	on, level := raised{l.Output, l.Level < 0}, math.Abs(l.Level)
	near := b.spun != nil && b.spun.on == on && math.Abs(b.spun.level-level) <= widestStep
	b.spun = &spun{on, level}
	switch {
	case turning == 0 && !b.still[on]:
		if _, started := b.starts[on]; started && level > 0 && near {
			b.stops[on] = level
		}
		b.still[on] = true
	case turning > 0 && b.still[on]:
		delete(b.still, on)
		if near { // else what was measured before stands
			b.starts[on] = level
			delete(b.stops, on)
		}
	}
}

// spun is an output as it was last looked at in the hold that goes on.
type spun struct {
	on    raised
	level float64
}

func (b *Bench) forgetStarts() {
	b.spun, b.starts, b.stops, b.still = nil, map[raised]float64{}, map[raised]float64{}, map[raised]bool{}
}

// send to every subscriber: a slow one loses its oldest frame, never blocks the others.
func (b *Bench) send(f LiveFrame) {
	for ch := range b.subs {
		select {
		case ch <- f:
		default:
			select {
			case <-ch:
			default:
			}
			select {
			case ch <- f:
			default:
			}
		}
	}
}

// Subscribe to what is seen; call the returned function to end it.
func (b *Bench) Subscribe() (<-chan LiveFrame, func()) {
	ch := make(chan LiveFrame, 4)
	b.mu.Lock()
	defer b.mu.Unlock()
	b.subs[ch] = true
	s := b.status
	ch <- LiveFrame{Kind: FrameStatus, Status: &s}
	if s.Connected {
		l := b.live
		ch <- LiveFrame{Kind: FrameLive, Live: &l}
	}
	if b.guide != nil && !b.guide.state.Ended {
		guided := b.guide.state
		ch <- LiveFrame{Kind: FrameBinding, Binding: &guided}
	}
	return ch, func() {
		b.mu.Lock()
		defer b.mu.Unlock()
		delete(b.subs, ch)
	}
}

// Status now.
func (b *Bench) Status() BenchStatus {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.status
}

// look is the newest live message, not older than half a second.
func (b *Bench) look() (protocol.Live, *client.Device, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.device == nil {
		return protocol.Live{}, nil, quad.Faultf("device-away", "", "no bench is connected: %s", b.status.Says)
	}
	return b.live, b.device, nil
}

// Device that is connected.
func (b *Bench) connected() (*client.Device, error) {
	_, d, err := b.look()
	return d, err
}

// until waits until a live message of a device satisfies done, for at most limit of the device's own time.
func (b *Bench) until(ctx context.Context, d *client.Device, limit time.Duration, done func(protocol.Live) bool) (protocol.Live, bool, error) {
	first, _, err := b.look()
	if err != nil {
		return first, false, err
	}
	patience := time.NewTimer(4*limit + client.Patience)
	defer patience.Stop()
	for {
		b.mu.Lock()
		l, next, away := b.live, b.changed, b.device != d
		b.mu.Unlock()
		switch {
		case away:
			return l, false, errDeviceGone
		case done(l):
			return l, true, nil
		case time.Duration(l.Time-first.Time)*time.Millisecond >= limit:
			return l, false, nil
		}
		select {
		case <-next:
		case <-d.Closed():
			return l, false, errDeviceGone
		case <-ctx.Done():
			return l, false, ctx.Err()
		case <-patience.C:
			return l, false, quad.Faultf("device-slow", "", "the bench shows nothing new")
		}
	}
}

// errDeviceGone ends what relied on one device: another one in its place is another quad.
var errDeviceGone = quad.Faultf("device-away", "", "the bench went away meanwhile; nothing of it is kept")

// holds says whether it is still this device that is connected.
func (b *Bench) holds(d *client.Device) error {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.device != d {
		return errDeviceGone
	}
	return nil
}

// Set things of the bench.
func (b *Bench) Set(ctx context.Context, t protocol.Things) error {
	return b.call(ctx, protocol.MethodSet, t)
}

// call what is connected now.
func (b *Bench) call(ctx context.Context, method string, params any) error {
	d, err := b.connected()
	if err != nil {
		return err
	}
	_, err = b.callOn(ctx, d, method, params)
	return err
}

// callOn a device, and no other in its place.
func (b *Bench) callOn(ctx context.Context, d *client.Device, method string, params any) (protocol.Live, error) {
	l, err := d.Call(ctx, method, params)
	if err != nil {
		return l, err
	}
	b.mu.Lock()
	on := b.line
	current := on.device == d
	b.mu.Unlock()
	if current {
		b.see(on, l)
	}
	return l, b.holds(d)
}

// Stick moves a stick or a switch.
func (b *Bench) Stick(ctx context.Context, s protocol.Stick) error {
	return b.call(ctx, protocol.MethodStick, s)
}

// Adjust the radio or the receiver.
func (b *Bench) Adjust(ctx context.Context, s protocol.Adjust) error {
	return b.call(ctx, protocol.MethodAdjust, s)
}

// Radio sets the radio's model and module.
func (b *Bench) Radio(ctx context.Context, s protocol.RadioSet) error {
	return b.call(ctx, protocol.MethodRadio, s)
}

// Receiver does what hands do at the receiver.
func (b *Bench) Receiver(ctx context.Context, s protocol.ReceiverSet) error {
	return b.call(ctx, protocol.MethodReceiver, s)
}

// Cut the power, now.
func (b *Bench) Cut(ctx context.Context) error { return b.call(ctx, protocol.MethodCut, nil) }

// Place another quad on the bench. The connection ends by it and comes back by itself.
func (b *Bench) Place(ctx context.Context, quad string) error {
	d, err := b.connected()
	if err != nil {
		return err
	}
	return d.Place(ctx, quad)
}

// Rest ends every motion.
func (b *Bench) Rest(ctx context.Context) error { return b.call(ctx, protocol.MethodRest, nil) }

// motion renews a leased motion once. It is refused while propellers are on: nothing turns on a bench with
// propellers fitted.
func (b *Bench) motion(ctx context.Context, d *client.Device, m protocol.Motion) error {
	l, now, err := b.look()
	switch {
	case err != nil:
		return err
	case now != d:
		return errDeviceGone
	case l.Propellers:
		return quad.Faultf("propellers-on", "", "the propellers are on; nothing turns on the bench until they are off")
	}
	_, err = d.Call(ctx, protocol.MethodMotion, m)
	return err
}
