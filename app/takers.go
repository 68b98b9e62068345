package app

import (
	"context"
	"math"
	"slices"
	"time"

	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/core/book"
	"vividperch/core/firmware"
	"vividperch/core/quad"
	"vividperch/core/senses"
	"vividperch/core/sticks"
)

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
	id, err := t.device.Identify(ctx, "")
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
	is := identity(id)
	b := boardEntry{Identity: is, Settings: settings, Before: t.opened.before}
	was := t.known.Board
	if was.Is().Same(is) {
		if build, err := firmware.For(was); err == nil {
			build.AddSpeed(settings, was.Settings)
		}
	} else if was.Read() {
		b.Before = &firmware.Before{Is: was.Is(), Settings: was.Settings}
	}
	e, err := t.app.entry(book.KindBoard, "board", b)
	if err != nil {
		return err
	}
	mark, err := t.app.markEntry(t.opened, t.device.Welcome().Board)
	if err != nil {
		return err
	}
	t.entries = append(append(t.entries, e), mark...)
	return t.put(t.path, is)
}

func identity(id protocol.Identity) quad.Identity {
	return quad.Identity{Target: id.Target, Line: id.Line, Version: id.Version, Serial: id.Serial}
}

// takeLayout looks at the frame from above.
func takeLayout(_ context.Context, t *taking) error { return t.put(t.path, t.device.Welcome().Layout) }

// takeSpeed asks one speed controller what it is.
func takeSpeed(ctx context.Context, t *taking) error {
	if !t.live.Pack {
		return quad.Faultf("pack-out", string(t.path), "the speed controllers answer only while the pack is in; propellers off")
	}
	id, err := t.device.Identify(ctx, t.key())
	if err != nil {
		return err
	}
	if id.Bootloader {
		return quad.Faultf("in-bootloader", string(t.path), "speed controller %s (%s) waits in its bootloader; flash it to go on", t.key(), id.Target)
	}
	return t.put(t.path, quad.SpeedIdentity{Layout: id.Target, Version: id.Version, Switching: id.Switching, Replies: id.Replies})
}

// takeAnswer looks whether the board hears a device.
func takeAnswer(_ context.Context, t *taking) error {
	if !t.live.Pack || t.live.Board != "running" {
		return quad.Faultf("pack-out", string(t.path), "connect the pack, propellers off")
	}
	answers, there := t.live.Answers[t.key()]
	if !there {
		return quad.Faultf("not-from-device", string(t.path), "the bench has no %s; type what you found", t.key())
	}
	return t.put(t.path, answers)
}

func takeBackup(ctx context.Context, t *taking) error {
	settings, err := t.device.Settings(ctx)
	if err != nil {
		return err
	}
	id, err := t.device.Identify(ctx, "")
	if err != nil {
		return err
	}
	kept, e, err := t.app.backup(identity(id), settings, t.opened.file.Taught, t.why)
	if err != nil {
		return err
	}
	t.entries = append(t.entries, e)
	return t.put(t.path, kept)
}

// backup of what a board holds, and its row.
func (a *App) backup(is quad.Identity, settings, taught map[string]string, why string) (quad.Backup, book.Entry, error) {
	changed := len(settings)
	if build, err := firmware.For(quad.Board{Line: is.Line, Version: is.Version, Dictionary: taught[is.Line]}); err == nil {
		changed = len(build.Changes(build.Facts.Defaults(), settings))
	}
	kept := quad.Backup{Name: is.Target + " " + is.Line + " " + is.Version + ", " + a.now().Format("2006-01-02 15:04"), Settings: len(settings), Changed: changed, Hash: firmware.Fingerprint(settings)}
	e, err := a.entry(book.KindBackup, kept.Name, backupEntry{boardEntry{Identity: is, Settings: settings}, why})
	return kept, e, err
}

func takeChannelsMove(ctx context.Context, t *taking) error {
	samples, err := t.sweep(ctx, protocol.Sweep{Axis: quad.Roll})
	if err != nil {
		return err
	}
	_, moved := sticks.Mover(samples)
	return t.put(t.path, moved > 100)
}

// takeLabel asks both ends of the link what they are and keeps the one that is asked for.
func takeLabel(ctx context.Context, t *taking) error {
	module, receiver, err := t.device.Labels(ctx)
	if err != nil {
		return err
	}
	if t.key() == "module" {
		return t.put(t.path, module)
	}
	return t.put(t.path, receiver)
}

func takePrint(ctx context.Context, t *taking) error {
	module, receiver, err := t.device.Prints(ctx)
	if err != nil {
		return err
	}
	if t.key() == "receiverPhrase" {
		module = receiver
	}
	if module.Exact == "" {
		return quad.Faultf("no-phrase", string(t.path), "it holds no phrase")
	}
	return t.put(t.path, module)
}

// Thirty paces, m, and the most that a module sends on its lowest power, mW: what a range check is taken at.
const (
	thirtyPaces = 20.0
	lowestPower = 25.0
)

func takeRange(_ context.Context, t *taking) error {
	l := t.live.Link
	switch {
	case !t.live.Radio || len(t.live.Channels) == 0:
		return quad.Faultf("no-link", string(t.path), "no channels arrive: pack in, radio on")
	case l.Distance < thirtyPaces:
		return quad.Faultf("too-near", string(t.path), "the radio is %s away; carry it thirty paces (%s) from the quad", quad.Quantity(math.Round(l.Distance*10)/10, "m"), quad.Quantity(thirtyPaces, "m"))
	case l.Power > lowestPower:
		return quad.Faultf("too-strong", string(t.path), "the module sends with %s; put it to its lowest power, %s at most", quad.Quantity(l.Power, "mW"), quad.Quantity(lowestPower, "mW"))
	}
	return t.put(t.path, l.Quality)
}

func takeAxis(ctx context.Context, t *taking) error {
	axis := quad.Axis(t.key())
	if !slices.Contains(quad.Axes[:], axis) {
		return quad.Faultf("unknown-path", string(t.path), "there is no stick of that name")
	}
	return t.swept(ctx, protocol.Sweep{Axis: axis}, func(samples []sticks.Sample) (any, error) { return sticks.Capture(samples, axis) })
}

// takeBoardLies has the hand put the nose down, the right side down, and turn the frame to the right, and takes from the turns that the
// board shows how it lies. A move that was not seen whole, as on a busy machine, is made again.
func takeBoardLies(ctx context.Context, t *taking) error {
	if t.live.Board != "running" {
		return quad.Faultf("board-off", string(t.path), "the board does not run: connect USB or the pack")
	}
	now, err := t.letGo(ctx)
	if err != nil {
		return err
	}
	if now.Armed || now.Motion != "" {
		return quad.Faultf("armed", string(t.path), "let go first: nothing may turn while the frame is tilted")
	}
	var moved [3][3]float64
	var lies quad.Mount
	for range framesMoved {
		for i, move := range []protocol.Sweep{{Nose: true}, {Side: true}, {Frame: true}} {
			if moved[i], err = t.turned(ctx, move); err != nil {
				return err
			}
		}
		if lies, err = senses.Lies(moved[0], moved[1], moved[2], t.known.Board.Sheet.Senses.Mount()); err == nil {
			return t.put(t.path, senses.Rounded(lies))
		}
	}
	return err
}

// framesMoved is how often the frame is moved at most, and frameLooked how long each move is watched: until it lies flat again.
const (
	framesMoved = 3
	frameLooked = 1800 * time.Millisecond
)

// turned is how far the frame had turned at most about what the board takes for ahead, right and down, deg, while the hand moved it.
func (t *taking) turned(ctx context.Context, move protocol.Sweep) ([3]float64, error) {
	rest, last := t.live, t.live
	if _, err := t.call(ctx, protocol.MethodSweep, move); err != nil {
		return rest.Turns, err
	}
	var now, most [3]float64
	_, _, err := t.until(ctx, frameLooked, func(l protocol.Live) bool {
		for i := range now {
			now[i] += ((l.Turns[i]+last.Turns[i])/2 - rest.Turns[i]) * float64(l.Time-last.Time) / 1000
		}
		if last = l; square(now) > square(most) {
			most = now
		}
		return false
	})
	return most, err
}

func square(v [3]float64) float64 { return v[0]*v[0] + v[1]*v[1] + v[2]*v[2] }

func takeSwitch(ctx context.Context, t *taking) error {
	var positions []string
	for _, s := range t.device.Welcome().Switches {
		if s.Name == t.key() {
			positions = s.Positions
		}
	}
	return t.swept(ctx, protocol.Sweep{Switch: t.key()}, func(samples []sticks.Sample) (any, error) { return sticks.CaptureSwitch(samples, positions) })
}

func takeOutput(ctx context.Context, t *taking) error {
	l, ok, err := t.until(ctx, 800*time.Millisecond, func(l protocol.Live) bool {
		return l.Motion == protocol.MotionSpin && l.Output == t.key() && turning(l) > 0
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
			return t.put(t.path, quad.MotorSeen{Corner: c, Spin: s.Spin, Reversible: t.known.Sheet.Motors.Reversible})
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
		at, ok := t.bench.starts[raised{output: output}]
		if !ok {
			return quad.Faultf("not-all-started", string(t.path), "output %s was not yet raised from standstill to turning", output)
		}
		worst = math.Max(worst, at)
	}
	return t.put(t.path, math.Round(worst*10)/10)
}

// takeStart keeps where one motor was seen to start and, lowered again, to stop.
func takeStart(_ context.Context, t *taking) error {
	t.bench.mu.Lock()
	defer t.bench.mu.Unlock()
	output := t.key()
	var seen quad.MotorStart
	ways := []struct {
		backward      bool
		starts, stops *float64
		words         string
	}{{false, &seen.Starts, &seen.Stops, ""}, {true, &seen.BackStarts, &seen.BackStops, " backward"}}
	if !t.known.Board.Sheet.Motors.Reversible {
		ways = ways[:1]
	}
	for _, way := range ways {
		on := raised{output, way.backward}
		starts, up := t.bench.starts[on]
		stops, down := t.bench.stops[on]
		if !up || !down {
			return quad.Faultf("not-run-down", string(t.path), "output %s was not yet raised%s until it turned and lowered until it stood", output, way.words)
		}
		*way.starts, *way.stops = math.Round(starts*10)/10, math.Round(stops*10)/10
	}
	return t.put(t.path, seen)
}

// takeLoad reads what the board shows of its processor while it flies as far as a bench lets it.
func takeLoad(_ context.Context, t *taking) error {
	if !t.live.Armed {
		return quad.Faultf("not-armed", string(t.path), "arm it at idle, propellers off: what flies takes more than what waits")
	}
	return t.put(t.path, quad.LoopLoad{Load: t.live.Load, Loop: t.known.Board.Sheet.Motors.LoopRate})
}

// takeRestStill looks at motors that nothing drives.
func takeRestStill(ctx context.Context, t *taking) error {
	now, err := t.letGo(ctx)
	if err != nil {
		return err
	}
	if !now.Pack || now.Armed || now.Motion != "" {
		return quad.Faultf("not-at-rest", string(t.path), "pack in, disarmed, nothing held: then look")
	}
	_, moved, err := t.until(ctx, 700*time.Millisecond, func(l protocol.Live) bool { return turning(l) > 0 })
	if err != nil {
		return err
	}
	return t.put(t.path, !moved)
}

// takeAlarm raises the warning above the present voltage, listens, and puts it back whatever happens.
func takeAlarm(ctx context.Context, t *taking) error {
	build, err := firmware.For(t.known.Board)
	if err != nil {
		return err
	}
	if !t.live.Pack || t.live.Board != "running" {
		return quad.Faultf("pack-out", string(t.path), "connect the pack and read the board first")
	}
	now, err := t.device.Settings(ctx)
	if err != nil {
		return err
	}
	loud := t.known.Sheet
	loud.Watch.WarnPerCell = 4.3
	want, err := build.Dictionary.Encode(loud, now)
	if err != nil {
		return err
	}
	alarm := build.Dictionary.SettingsFor("sheet.watch.warnPerCell")
	changes := slices.DeleteFunc(build.Changes(now, want), func(c firmware.Change) bool { return !slices.Contains(alarm, c.Name) })
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
	_, heard, err := t.until(ctx, time.Second, func(l protocol.Live) bool { return l.Beeping })
	if err != nil {
		return err
	}
	return t.put(t.path, heard)
}
