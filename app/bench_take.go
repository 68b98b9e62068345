package app

import (
	"context"
	"encoding/json"
	"math"
	"slices"
	"strings"
	"time"

	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/core/book"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// taker takes what one path asks for from the device: the reading itself, others that come with it, and
// entries to keep beside them.
type taker func(ctx context.Context, t *taking) error

type taking struct {
	bench  *Bench
	device *client.Device
	live   protocol.Live
	known  quad.Known
	opened *opened
	why    string // in the pilot's words, of what is saved
	path   quad.Path
	now    time.Time
	app    *App

	readings []newReading
	entries  []book.Entry
}

func (t *taking) put(path quad.Path, value any) error {
	raw, err := json.Marshal(value)
	if err != nil {
		return quad.Faultf("device-nonsense", string(path), "the device gave a figure that is not a number")
	}
	t.readings = append(t.readings, newReading{path: path, value: raw, origin: quad.OriginDevice, bench: t.device.Welcome().StandIn})
	return nil
}

// key is the last part of the path: an output's letter, an axis, a switch.
func (t *taking) key() string {
	parts := strings.Split(string(t.path), ".")
	return parts[len(parts)-1]
}

// takers by path; a path that ends in a dot takes everything below it.
var takers = map[quad.Path]taker{
	"readings.firstPower.propellersOff":   seen(func(l protocol.Live) any { return !l.Propellers }),
	"readings.firstPower.antennasOn":      seen(func(l protocol.Live) any { return l.Antenna }),
	"readings.firstPower.leadResistance":  takeLead,
	"readings.firstPower.frameResistance": metered("frame"),
	"readings.firstPower.polarity":        takePolarity,
	"readings.firstPower.idleCurrent":     metered("current"),
	"readings.firmware.identity":          takeIdentity,
	"readings.firmware.backup":            takeBackup,
	"readings.firmware.speedControllers.": takeSpeed,
	"readings.wiring.answers.":            takeAnswer,
	"readings.wiring.receiverAnswers":     powered(func(l protocol.Live) any { return l.ReceiverAnswers }),
	"readings.link.channelsMove":          takeChannelsMove,
	"readings.link.module":                takeLabel,
	"readings.link.receiver":              takeLabel,
	"readings.link.modulePhrase":          takePrint,
	"readings.link.receiverPhrase":        takePrint,
	"readings.link.range":                 takeRange,
	"readings.sticks.axes.":               takeAxis,
	"readings.sticks.switches.":           takeSwitch,
	"readings.motors.outputs.":            takeOutput,
	"readings.motors.startsAt":            takeStartsAt,
	"readings.motors.starts.":             takeStart,
	"readings.motors.layout":              takeLayout,
	"readings.motors.restStill":           takeRestStill,
	"readings.motors.load":                takeLoad,
	"readings.senses.boardLies":           takeBoardLies,
	"readings.senses.level":               takeLevel,
	"readings.senses.compass":             takeCompass,
	"readings.senses.faces":               takeFaces,
	"readings.senses.heading":             takeHeading(60),
	"readings.senses.headingAside":        takeHeading(150),
	"readings.senses.satellites":          takeSky,
	"readings.senses.gyroStill":           running(func(l protocol.Live) any { return math.Abs(l.Gyro) }),
	"readings.watch.boardVolts":           powered(func(l protocol.Live) any { return l.BoardVolts }),
	"readings.watch.meterVolts":           metered("volts"),
	"readings.watch.heard":                takeAlarm,
	"readings.loss.output":                takeLossOutput,
	"readings.loss.beeper":                takeBeeper,
	"readings.loss.response":              takeLossResponse,
	"readings.picture.frequency":          powered(func(l protocol.Live) any { return l.VideoFrequency }),
	"readings.benchProof.gateRefuses":     takeGate,
	"readings.benchProof.frameYaw":        takeFrameYaw,
	"readings.benchProof.stickYaw":        takeStickYaw,
	"readings.benchProof.radioOff":        takeLossResponse,
}

func takerFor(p quad.Path) taker {
	if t, ok := takers[p]; ok {
		return t
	}
	if i := strings.LastIndexByte(string(p), '.'); i > 0 {
		return takers[p[:i+1]]
	}
	return nil
}

// Taken tells how a reading is taken besides being typed.
type Taken string

const (
	TakenNone  Taken = "none"
	TakenBench Taken = "bench" // asked of the bench
	TakenHeld  Taken = "held"  // asked of the bench while the pilot holds something at the instrument
	TakenModel Taken = "model" // computed by the flight model; cannot be typed
)

// held readings need something to turn or be armed while they are taken.
var held = []quad.Path{"readings.motors.outputs", "readings.motors.startsAt", "readings.motors.starts", "readings.loss.response", "readings.loss.rearms", "readings.benchProof"}

// TakenBy is how a reading is taken.
func TakenBy(p quad.Path) Taken {
	switch {
	case p == modelReading, p == lineReading:
		return TakenModel
	case slices.ContainsFunc(held, p.Under):
		return TakenHeld
	case takerFor(p) != nil:
		return TakenBench
	}
	return TakenNone
}

// Readings that only the flight model gives.
const (
	modelReading = quad.Path("readings.firstFlight.rehearsal")
	lineReading  = quad.Path("readings.loss.line")
)

// Take a reading from the device. The server looks for itself; nothing that a page says is believed.
func (a *App) Take(ctx context.Context, id int64, path quad.Path) (*QuadView, error) {
	b, err := a.Bench()
	if err != nil {
		return nil, err
	}
	if takerFor(path) == nil {
		return nil, quad.Faultf("not-from-device", string(path), "the bench cannot tell this; type what you found")
	}
	done, err := b.turn(ctx, string(path), queue)
	if err != nil {
		return nil, err
	}
	defer done()
	if err := a.take(ctx, b, id, path); err != nil {
		return nil, err
	}
	return a.Quad(ctx, id)
}

// take a reading and keep it. The caller holds the bench.
func (a *App) take(ctx context.Context, b *Bench, id int64, path quad.Path) error {
	t, err := a.taking(ctx, b, id, path)
	if err != nil {
		return err
	}
	if err := takerFor(path)(ctx, t); err != nil {
		return err
	}
	if err := b.holds(t.device); err != nil {
		return err
	}
	return a.keepWith(ctx, id, "reading", t.entries, t.readings...)
}

// taking puts together what a taker works with, as it is now.
func (a *App) taking(ctx context.Context, b *Bench, id int64, path quad.Path) (*taking, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	device, err := a.own(ctx, b, o)
	if err != nil {
		return nil, err
	}
	live, err := b.callOn(ctx, device, protocol.MethodLook, nil) // the last message may be older than what was written just now
	if err != nil {
		return nil, err
	}
	return &taking{bench: b, device: device, live: live, known: o.known, opened: o, path: path, now: a.now(), app: a}, nil
}

// until waits for the device that is read, and no other in its place.
func (t *taking) until(ctx context.Context, limit time.Duration, done func(protocol.Live) bool) (protocol.Live, bool, error) {
	return t.bench.until(ctx, t.device, limit, done)
}

// letGo waits until nothing is held and nothing turns, and shows how it is then, or still is. A hold that was let go reaches the bench a
// moment later, and its motor coasts: neither is what turns by itself.
func (t *taking) letGo(ctx context.Context) (protocol.Live, error) {
	now, _, err := t.until(ctx, 1500*time.Millisecond, func(l protocol.Live) bool { return l.Motion == "" && turning(l) == 0 })
	return now, err
}

// call the device that is read.
func (t *taking) call(ctx context.Context, method string, params any) (protocol.Live, error) {
	return t.bench.callOn(ctx, t.device, method, params)
}

// set things of the bench that is read.
func (t *taking) set(ctx context.Context, things protocol.Things) error {
	_, err := t.call(ctx, protocol.MethodSet, things)
	return err
}

// sweep has the hand move a stick or switch and collects what arrives meanwhile.
func (t *taking) sweep(ctx context.Context, s protocol.Sweep) ([]sticks.Sample, error) {
	if !t.live.Radio || len(t.live.Channels) == 0 {
		return nil, quad.Faultf("no-link", string(t.path), "no channels arrive: pack in, radio on")
	}
	began, err := t.device.Call(ctx, protocol.MethodSweep, s)
	if err != nil {
		return nil, err
	}
	var samples []sticks.Sample
	_, _, err = t.until(ctx, 1800*time.Millisecond, func(l protocol.Live) bool {
		at := float64(l.Time)
		// What was seen before the hand moved does not count.
		if n := len(samples); l.Time > began.Time && len(l.Channels) > 0 && (n == 0 || samples[n-1].At < at) {
			samples = append(samples, sticks.Sample{At: at, Channels: l.Channels})
		}
		return false
	})
	if err != nil {
		return nil, err
	}
	return samples, nil
}

// sweeps is how often the bench's hand moves a stick or switch whose movement was not seen whole.
const sweeps = 3

// swept has the hand move a stick or switch, and again where what was heard does not show all of the movement, until get finds in it what
// is read. What did not move at all would not the next time.
func (t *taking) swept(ctx context.Context, s protocol.Sweep, get func([]sticks.Sample) (any, error)) error {
	for again := 1; ; again++ {
		samples, err := t.sweep(ctx, s)
		if err != nil {
			return err
		}
		got, err := get(samples)
		if f := quad.AsFault(err); f != nil && f.Code != sticks.Unmoved && again < sweeps {
			continue
		}
		if err != nil {
			return err
		}
		return t.put(t.path, got)
	}
}

func seen(f func(protocol.Live) any) taker {
	return func(_ context.Context, t *taking) error { return t.put(t.path, f(t.live)) }
}

func running(f func(protocol.Live) any) taker {
	return func(_ context.Context, t *taking) error {
		if t.live.Board != "running" {
			return quad.Faultf("board-off", string(t.path), "the board does not run: connect USB or the pack")
		}
		return t.put(t.path, f(t.live))
	}
}

func powered(f func(protocol.Live) any) taker {
	return func(_ context.Context, t *taking) error {
		if !t.live.Pack || t.live.Board != "running" {
			return quad.Faultf("pack-out", string(t.path), "connect the pack, propellers off")
		}
		return t.put(t.path, f(t.live))
	}
}
