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
	"vividperch/core/firmware"
	"vividperch/core/linkloss"
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
	"readings.firstPower.idleCurrent":     metered("current"),
	"readings.firmware.identity":          takeIdentity,
	"readings.firmware.backup":            takeBackup,
	"readings.wiring.receiverAnswers":     powered(func(l protocol.Live) any { return l.ReceiverAnswers }),
	"readings.link.channelsMove":          takeChannelsMove,
	"readings.sticks.axes.":               takeAxis,
	"readings.sticks.switches.":           takeSwitch,
	"readings.motors.outputs.":            takeOutput,
	"readings.motors.startsAt":            takeStartsAt,
	"readings.motors.restStill":           takeRestStill,
	"readings.senses.levelRoll":           running(func(l protocol.Live) any { return l.Roll }),
	"readings.senses.levelPitch":          running(func(l protocol.Live) any { return l.Pitch }),
	"readings.senses.gyroStill":           running(func(l protocol.Live) any { return math.Abs(l.Gyro) }),
	"readings.watch.boardVolts":           powered(func(l protocol.Live) any { return l.BoardVolts }),
	"readings.watch.meterVolts":           metered("volts"),
	"readings.watch.heard":                takeAlarm,
	"readings.loss.output":                takeLossOutput,
	"readings.loss.response":              takeLossResponse,
	"readings.picture.frequency":          powered(func(l protocol.Live) any { return l.VideoFrequency }),
	"readings.benchProof.gateRefuses":     takeGate,
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

// Way tells how a reading is taken besides being typed.
type Way string

const (
	WayNone  Way = "none"
	WayBench Way = "bench" // asked of the bench
	WayHeld  Way = "held"  // asked of the bench while the pilot holds something at the instrument
	WayModel Way = "model" // computed by the flight model; cannot be typed
)

// held readings need something to turn or be armed while they are taken.
var held = []quad.Path{"readings.motors.outputs", "readings.motors.startsAt", "readings.loss.response", "readings.loss.rearms", "readings.benchProof.gateRefuses", "readings.benchProof.radioOff"}

// WayTo a reading.
func WayTo(p quad.Path) Way {
	switch {
	case p == modelReading:
		return WayModel
	case slices.ContainsFunc(held, p.Under):
		return WayHeld
	case takerFor(p) != nil:
		return WayBench
	}
	return WayNone
}

// modelReading is the one that only the flight model gives.
const modelReading = quad.Path("readings.firstFlight.rehearsal")

// Take a reading from the device. The server looks for itself; nothing that a page says is believed.
func (a *App) Take(ctx context.Context, id int64, path quad.Path) (*QuadView, error) {
	b, err := a.Bench()
	if err != nil {
		return nil, err
	}
	take := takerFor(path)
	if take == nil {
		return nil, quad.Faultf("not-from-device", string(path), "the bench cannot tell this; type what you found")
	}
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	if !b.busy.TryLock() {
		return nil, quad.Faultf("busy", string(path), "the bench is busy with another reading")
	}
	defer b.busy.Unlock()
	live, device, err := b.look()
	if err != nil {
		return nil, err
	}
	t := &taking{bench: b, device: device, live: live, known: o.known, path: path, now: a.now(), app: a}
	if err := take(ctx, t); err != nil {
		return nil, err
	}
	if err := a.keepWith(ctx, id, "reading", t.entries, t.readings...); err != nil {
		return nil, err
	}
	return a.Quad(ctx, id)
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

func metered(where string) taker {
	return func(ctx context.Context, t *taking) error {
		x, err := t.device.Meter(ctx, where)
		if err != nil {
			return err
		}
		return t.put(t.path, x)
	}
}

func takeLead(ctx context.Context, t *taking) error {
	first, err := t.device.Meter(ctx, "leadAtOnce")
	if err != nil {
		return err
	}
	after, err := t.device.Meter(ctx, "leadAfter")
	if err != nil {
		return err
	}
	return t.put(t.path, quad.Resistance{AtOnce: first, After: after})
}

func takeIdentity(ctx context.Context, t *taking) error {
	id, err := t.device.Identify(ctx)
	if err != nil {
		return err
	}
	if id.Bootloader {
		return quad.Faultf("in-bootloader", string(t.path), "the board (%s) waits in its bootloader; flash it to go on", id.Target)
	}
	settings, err := t.device.Settings(ctx)
	if err != nil {
		return err
	}
	e, err := t.app.entry(book.KindBoard, "board", boardEntry{id.Target, id.Line, id.Version, whole(settings, t.known.Board.Settings)})
	if err != nil {
		return err
	}
	t.entries = append(t.entries, e)
	return t.put(t.path, quad.Identity{Target: id.Target, Line: id.Line, Version: id.Version})
}

// whole adds to a read-back what the board could not list now, such as the speed controllers without the
// pack, as it was known before.
func whole(settings, before map[string]string) map[string]string {
	for name, value := range before {
		if _, ok := settings[name]; !ok && strings.HasPrefix(name, "esc.") {
			settings[name] = value
		}
	}
	return settings
}

// backupEntry is how a saved settings list is kept.
type backupEntry boardEntry

func takeBackup(ctx context.Context, t *taking) error {
	settings, err := t.device.Settings(ctx)
	if err != nil {
		return err
	}
	id, err := t.device.Identify(ctx)
	if err != nil {
		return err
	}
	changed := len(settings)
	if line, ok := firmware.FindLine(id.Line); ok {
		changed = len(firmware.Changes(line.Facts.Defaults(), settings))
	}
	kept := quad.Backup{Name: id.Target + " " + id.Line + " " + id.Version + ", " + t.now.Format("2006-01-02 15:04"), Settings: len(settings), Changed: changed, Hash: quad.Hash(firmware.WriteList(settings, nil))[:8]}
	e, err := t.app.entry(book.KindBackup, kept.Name, backupEntry{id.Target, id.Line, id.Version, settings})
	if err != nil {
		return err
	}
	t.entries = append(t.entries, e)
	return t.put(t.path, kept)
}

// sweep has the hand move a stick or switch and collects what arrives meanwhile.
func (t *taking) sweep(ctx context.Context, s protocol.Sweep) ([][]float64, error) {
	if !t.live.Radio || len(t.live.Channels) == 0 {
		return nil, quad.Faultf("no-link", string(t.path), "no channels arrive: pack in, radio on")
	}
	began, err := t.device.Call(ctx, protocol.MethodSweep, s)
	if err != nil {
		return nil, err
	}
	var samples [][]float64
	_, _, err = t.bench.until(ctx, 1800*time.Millisecond, func(l protocol.Live) bool {
		// What was seen before the hand moved does not count.
		if n := len(samples); l.Time > began.Time && len(l.Channels) > 0 && (n == 0 || &samples[n-1][0] != &l.Channels[0]) {
			samples = append(samples, l.Channels)
		}
		return false
	})
	if err != nil {
		return nil, err
	}
	return samples, nil
}

func takeChannelsMove(ctx context.Context, t *taking) error {
	samples, err := t.sweep(ctx, protocol.Sweep{Axis: quad.Roll})
	if err != nil {
		return err
	}
	_, moved := sticks.Mover(samples)
	return t.put(t.path, moved > 100)
}

func takeAxis(ctx context.Context, t *taking) error {
	axis := quad.Axis(t.key())
	if !slices.Contains(quad.Axes[:], axis) {
		return quad.Faultf("unknown-path", string(t.path), "there is no stick of that name")
	}
	samples, err := t.sweep(ctx, protocol.Sweep{Axis: axis})
	if err != nil {
		return err
	}
	got, err := sticks.Capture(samples, axis)
	if err != nil {
		return err
	}
	return t.put(t.path, got)
}

func takeSwitch(ctx context.Context, t *taking) error {
	samples, err := t.sweep(ctx, protocol.Sweep{Switch: t.key()})
	if err != nil {
		return err
	}
	var positions []string
	for _, s := range t.device.Welcome().Switches {
		if s.Name == t.key() {
			positions = s.Positions
		}
	}
	got, err := sticks.CaptureSwitch(samples, positions)
	if err != nil {
		return err
	}
	return t.put(t.path, got)
}

func takeOutput(ctx context.Context, t *taking) error {
	l, ok, err := t.bench.until(ctx, 800*time.Millisecond, func(l protocol.Live) bool {
		return l.Motion == "spin" && l.Output == t.key() && turning(l) > 0
	})
	if err != nil {
		return err
	}
	if !ok {
		return quad.Faultf("nothing-turned", string(t.path), "output %s was not seen to turn anything; hold to spin while it is read", t.key())
	}
	if n := turning(l); n > 1 {
		return quad.Faultf("several-turn", string(t.path), "%d corners turn at once; wait until the others stand still", n)
	}
	for c, s := range l.Corners {
		if s.Turning {
			return t.put(t.path, quad.MotorSeen{Corner: c, Spin: s.Spin})
		}
	}
	return nil
}

func turning(l protocol.Live) int {
	n := 0
	for _, c := range l.Corners {
		if c.Turning {
			n++
		}
	}
	return n
}

func takeStartsAt(_ context.Context, t *taking) error {
	t.bench.mu.Lock()
	defer t.bench.mu.Unlock()
	worst := 0.0
	for _, output := range t.device.Welcome().Outputs {
		at, ok := t.bench.starts[output]
		if !ok {
			return quad.Faultf("not-all-started", string(t.path), "output %s was not yet raised from standstill to turning", output)
		}
		worst = math.Max(worst, at)
	}
	return t.put(t.path, math.Round(worst*10)/10)
}

func takeRestStill(ctx context.Context, t *taking) error {
	if !t.live.Pack || t.live.Armed || t.live.Motion != "" {
		return quad.Faultf("not-at-rest", string(t.path), "pack in, disarmed, nothing held: then look")
	}
	_, moved, err := t.bench.until(ctx, 700*time.Millisecond, func(l protocol.Live) bool { return turning(l) > 0 })
	if err != nil {
		return err
	}
	return t.put(t.path, !moved)
}

// takeAlarm raises the warning above the present voltage, listens, and puts it back whatever happens.
func takeAlarm(ctx context.Context, t *taking) error {
	line, ok := firmware.FindLine(t.known.Board.Line)
	if !ok || !t.live.Pack || t.live.Board != "running" {
		return quad.Faultf("pack-out", string(t.path), "connect the pack and read the board first")
	}
	now, err := t.device.Settings(ctx)
	if err != nil {
		return err
	}
	loud := t.known.Sheet
	loud.Watch.WarnPerCell = 4.3
	want, err := line.Dictionary.Encode(loud)
	if err != nil {
		return err
	}
	changes := slices.DeleteFunc(firmware.Changes(now, want), func(c firmware.Change) bool {
		return !strings.HasPrefix(c.Name, line.Dictionary.SettingFor("sheet.watch.warnPerCell"))
	})
	defer func() {
		back, cancel := context.WithTimeout(context.WithoutCancel(ctx), client.Patience)
		defer cancel()
		for _, c := range changes {
			_ = t.device.Write(back, c.Name, c.Before) // the next read-back shows a stop if this failed
		}
	}()
	for _, c := range changes {
		if err := t.device.Write(ctx, c.Name, c.After); err != nil {
			return err
		}
	}
	_, heard, err := t.bench.until(ctx, time.Second, func(l protocol.Live) bool { return l.Beeping })
	if err != nil {
		return err
	}
	return t.put(t.path, heard)
}

func takeLossOutput(ctx context.Context, t *taking) error {
	if !t.live.Radio || len(t.live.Channels) == 0 {
		return quad.Faultf("no-link", string(t.path), "no channels arrive: pack in, radio on")
	}
	if t.live.Armed {
		return quad.Faultf("armed", string(t.path), "disarm first: this looks at the channels only")
	}
	off, on := false, true
	if err := t.bench.Set(ctx, protocol.Things{Radio: &off}); err != nil {
		return err
	}
	defer t.bench.Set(context.WithoutCancel(ctx), protocol.Things{Radio: &on})
	l, _, err := t.bench.until(ctx, 900*time.Millisecond, func(l protocol.Live) bool { return len(l.Channels) == 0 })
	if err != nil {
		return err
	}
	return t.put(t.path, lossOutput(t.live.Channels, l.Channels))
}

// lossOutput judges what arrives without a radio against what arrived last with one.
func lossOutput(before, after []float64) quad.LossOutput {
	if len(after) == 0 {
		return quad.LossSilence
	}
	for i := range after {
		if i < len(before) && math.Abs(after[i]-before[i]) > 20 {
			return quad.LossPreset
		}
	}
	return quad.LossHold
}

// takeLossResponse turns the radio off while the pilot holds it armed, times the motors, turns it on again
// and watches whether it arms by itself.
func takeLossResponse(ctx context.Context, t *taking) error {
	l, ok, err := t.bench.until(ctx, time.Second, func(l protocol.Live) bool { return l.Motion == "arm" && l.Armed && turning(l) > 0 })
	if err != nil {
		return err
	}
	if !ok {
		return quad.Faultf("not-armed", string(t.path), "hold it armed, motors turning, then measure%s", heldBack(l))
	}
	before := l.Channels
	off, on := false, true
	if err := t.bench.Set(ctx, protocol.Things{Radio: &off}); err != nil {
		return err
	}
	defer t.bench.Set(context.WithoutCancel(ctx), protocol.Things{Radio: &on})
	start, _, err := t.bench.look()
	if err != nil {
		return err
	}
	guard := time.Duration(t.known.Sheet.Loss.Guard * float64(time.Second))
	released := false
	var emits quad.LossOutput
	end, stopped, err := t.bench.until(ctx, guard+2500*time.Millisecond, func(l protocol.Live) bool {
		released = released || l.Motion != "arm"
		if emits == "" && l.Time-start.Time > 250 {
			emits = lossOutput(before, l.Channels)
		}
		return turning(l) == 0 || released
	})
	if err != nil {
		return err
	}
	if released {
		return quad.Faultf("let-go", string(t.path), "you let go before the motors had stopped: nothing is known; hold until it says so")
	}
	response := 0.0
	if stopped {
		response = math.Round(float64(end.Time-start.Time)/10) / 100
	}
	if err := t.put("readings.loss.response", response); err != nil {
		return err
	}
	if err := t.put("readings.loss.output", emits); err != nil {
		return err
	}
	if err := t.put("readings.benchProof.radioOff", stopped && response <= t.known.Sheet.Loss.Guard+linkloss.Stop); err != nil {
		return err
	}
	if !stopped {
		return nil // whether it re-arms cannot be seen while it never disarmed
	}
	if err := t.bench.Set(ctx, protocol.Things{Radio: &on}); err != nil {
		return err
	}
	_, rearmed, err := t.bench.until(ctx, 1200*time.Millisecond, func(l protocol.Live) bool {
		released = released || l.Motion != "arm"
		return l.Armed || released
	})
	if err != nil {
		return err
	}
	if released {
		return quad.Faultf("let-go", string(t.path), "you let go before the radio was back: hold until it says so")
	}
	return t.put("readings.loss.rearms", rearmed)
}

func heldBack(l protocol.Live) string {
	for _, g := range l.Gates {
		if g.Holds {
			return ". " + g.Sentence
		}
	}
	return ""
}

// takeGate looks whether a raised throttle keeps it from arming, while the pilot holds the switch on.
func takeGate(ctx context.Context, t *taking) error {
	_, ok, err := t.bench.until(ctx, time.Second, func(l protocol.Live) bool { return l.Motion == "arm" && l.Level >= 20 })
	if err != nil {
		return err
	}
	if !ok {
		return quad.Faultf("not-held", string(t.path), "hold the arm switch on with the throttle up")
	}
	_, armed, err := t.bench.until(ctx, 700*time.Millisecond, func(l protocol.Live) bool { return l.Armed || turning(l) > 0 })
	if err != nil {
		return err
	}
	return t.put(t.path, !armed)
}
