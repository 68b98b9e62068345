package app

import (
	"context"
	"encoding/json"
	"hash/crc32"
	"time"

	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/core/book"
	"vividperch/core/firmware"
	"vividperch/core/quad"
)

// FlashAsk is what a pilot wants written.
type FlashAsk struct {
	Image []byte // Intel HEX
	// Whole erases the settings along with the program. They are saved before, or nothing is erased.
	Whole bool
	// Output whose speed controller is meant; empty is the board.
	Output string
}

// FlashStep is where a flash stands.
type FlashStep string

const (
	FlashSaving     FlashStep = "saving"
	FlashErasing    FlashStep = "erasing"
	FlashWriting    FlashStep = "writing"
	FlashVerifying  FlashStep = "verifying"
	FlashRestarting FlashStep = "restarting"
	FlashDone       FlashStep = "done"
	FlashStopped    FlashStep = "stopped" // by the pilot
	FlashFailed     FlashStep = "failed"
)

// FlashState is how far a flash has come.
type FlashState struct {
	Step    FlashStep `json:"step" enum:"saving,erasing,writing,verifying,restarting,done,stopped,failed"`
	Output  string    `json:"output,omitempty"` // of the speed controller
	Percent float64   `json:"percent" unit:"%"`
	Left    float64   `json:"left" unit:"s"`
	Resumed bool      `json:"resumed"` // goes on where an earlier one ended
	Says    string    `json:"says"`
}

const flashBlock = 2048

// Flash writes an image to the board on the bench, or to one of its speed controllers: save, erase, write, verify,
// restart, identify. What was there is saved before anything is erased, in a row of its own, so that at no moment
// the settings are gone. A failure or a stop leaves the device in its bootloader; the same image again goes on where
// it ended, as far as what is written there is sound.
func (a *App) Flash(ctx context.Context, id int64, ask FlashAsk) (*QuadView, error) {
	b, o, err := a.atBench(ctx, id)
	if err != nil {
		return nil, err
	}
	img, err := firmware.ParseHex(ask.Image)
	if err != nil {
		return nil, err
	}
	f := &flashing{app: a, bench: b, quad: id, ask: ask, image: img, target: o.known.Parts.Board.Target}
	if ask.Output != "" {
		f.target = o.known.Parts.SpeedController.Layout
	}
	if f.header, err = img.ForBoard(f.target); err != nil {
		return nil, err
	}
	// It waits for a reading that is being taken; nobody wants it flashed once more after a flash.
	if !b.flashing.CompareAndSwap(false, true) {
		return nil, quad.Faultf("busy", "board", "it is being flashed already")
	}
	defer b.flashing.Store(false)
	done, err := b.turn(ctx, "board", queue)
	if err != nil {
		return nil, err
	}
	defer done()
	if f.device, err = a.own(ctx, b, o); err != nil {
		return nil, err
	}
	if ask.Output != "" {
		live, err := b.callOn(ctx, f.device, protocol.MethodLook, nil)
		if err != nil {
			return nil, err
		}
		if live.Propellers {
			return nil, quad.Faultf("propellers-on", "board", "take the propellers off first: a speed controller that starts anew can turn its motor")
		}
	}
	running, stop := context.WithCancel(ctx)
	defer stop()
	b.stopBy(stop)
	defer b.stopBy(nil)
	if err := f.run(running); err != nil {
		f.ended(ctx, err, running.Err() != nil && ctx.Err() == nil)
		return nil, err
	}
	if err := f.keep(ctx); err != nil {
		f.report(FlashFailed, 100, 0, "It is written and verified, but it did not say what it is: "+quad.Explain(err)+" Give it power and identify it.")
		return nil, err
	}
	f.report(FlashDone, 100, 0, "Written, verified and identified.")
	return a.Quad(ctx, id)
}

// StopFlash ends the flash that runs, if one does.
func (b *Bench) StopFlash() error {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.stop == nil {
		return quad.Faultf("nothing-runs", "board", "nothing is being flashed")
	}
	b.stop()
	return nil
}

func (b *Bench) stopBy(stop context.CancelFunc) {
	b.mu.Lock()
	defer b.mu.Unlock()
	b.stop = stop
}

func (b *Bench) setFlash(f FlashState) {
	b.mu.Lock()
	defer b.mu.Unlock()
	b.flash = &f
	b.send(LiveFrame{Kind: FrameFlash, Flash: &f})
}

type flashing struct {
	app     *App
	bench   *Bench
	device  *client.Device
	quad    int64
	ask     FlashAsk
	image   firmware.Image
	header  firmware.Header
	target  string
	resumed bool
}

func (f *flashing) which() protocol.Which { return protocol.Which{Output: f.ask.Output} }

func (f *flashing) report(step FlashStep, percent, left float64, words string) {
	f.bench.setFlash(FlashState{Step: step, Output: f.ask.Output, Percent: percent, Left: left, Resumed: f.resumed, Says: words})
}

// ended tells every page why it ended and where that leaves the device.
func (f *flashing) ended(ctx context.Context, err error, stopped bool) {
	step, says := FlashFailed, "Stopped: "+quad.Explain(err)
	if fault := quad.AsFault(err); fault != nil {
		says = "Stopped: " + fault.Sentence + "."
	}
	if stopped {
		step, says = FlashStopped, "Stopped, because you said so."
	}
	says += " Your settings are saved."
	if id, err := f.device.Identify(ctx, f.ask.Output); err != nil || id.Bootloader {
		what := "The board"
		if f.ask.Output != "" {
			what = "Speed controller " + f.ask.Output
		}
		says += " " + what + " waits in its bootloader; flash again to go on."
	}
	f.report(step, 0, 0, says)
}

func (f *flashing) run(ctx context.Context) error {
	is, err := f.device.Identify(ctx, f.ask.Output)
	if err != nil {
		return err
	}
	if is.Target != f.target {
		return quad.Faultf("target-mismatch", "board", "what is on the bench is %s, the quad's is %s; nothing was written", is.Target, f.target)
	}
	if err := f.save(ctx, is); err != nil {
		return err
	}
	if err := f.bench.holds(f.device); err != nil {
		return err
	}
	from := 0
	if is.Bootloader {
		if from, err = f.writtenAlready(ctx); err != nil {
			return err
		}
	} else if err := f.device.Do(ctx, protocol.MethodBoot, f.which()); err != nil {
		return err
	}
	if f.resumed = from > 0; !f.resumed {
		f.report(FlashErasing, 2, 0, "")
		if err := f.device.Do(ctx, protocol.MethodErase, protocol.Erase{Which: f.which(), Keep: !f.ask.Whole}); err != nil {
			return err
		}
	}
	if err := f.write(ctx, from); err != nil {
		return err
	}
	f.report(FlashVerifying, 92, 0, "")
	sum, err := f.device.Verify(ctx, f.ask.Output)
	if err != nil {
		return err
	}
	if want := sumOf(f.image.Bytes()); sum != want {
		return quad.Faultf("verify-failed", "board", "what is written there is not the image (%d bytes of %d, or other ones)", sum.Bytes, want.Bytes)
	}
	f.report(FlashRestarting, 97, 0, "")
	return f.device.Do(ctx, protocol.MethodReboot, f.which())
}

// save what a running board holds. One that waits in its bootloader cannot list its settings: then they must have been
// saved before, or they are not to be erased.
func (f *flashing) save(ctx context.Context, is protocol.Identity) error {
	f.report(FlashSaving, 0, 0, "")
	if !is.Bootloader {
		words := "before flashing " + f.header.Line + " " + f.header.Version
		if f.ask.Output != "" {
			words += " to speed controller " + f.ask.Output
		}
		return f.app.saveBoard(ctx, f.bench, f.quad, words)
	}
	if !f.ask.Whole {
		return nil
	}
	for before := int64(0); ; {
		saved, err := f.app.keep.Entries(ctx, f.app.pilot, f.quad, book.KindBackup, before, pageLength)
		if err != nil {
			return err
		}
		for _, e := range saved {
			var b boardEntry
			if before = e.ID; json.Unmarshal(e.Body, &b) == nil && b.Target == f.target {
				return nil
			}
		}
		if len(saved) < pageLength {
			break
		}
	}
	return quad.Faultf("not-saved", "board", "nothing of this board was ever saved, so its settings are not erased; flash it with its settings kept")
}

// writtenAlready is how many bytes of the image, in whole blocks, an interrupted flash left there soundly.
func (f *flashing) writtenAlready(ctx context.Context) (int, error) {
	sum, err := f.device.Verify(ctx, f.ask.Output)
	if err != nil {
		return 0, err
	}
	bytes := f.image.Bytes()
	if sum.Bytes == 0 || sum.Bytes > len(bytes) || sumOf(bytes[:sum.Bytes]) != sum {
		return 0, nil
	}
	done := 0
	for b := range f.image.Blocks(flashBlock) {
		if b.Offset+len(b.Data) > sum.Bytes {
			break
		}
		done = b.Offset + len(b.Data)
	}
	return done, nil
}

func (f *flashing) write(ctx context.Context, from int) error {
	size, began := f.image.Size(), time.Now()
	for b := range f.image.Blocks(flashBlock) {
		if b.Offset < from {
			continue
		}
		if err := f.device.Do(ctx, protocol.MethodBlock, protocol.Block{Which: f.which(), Address: b.Address, Data: b.Data}); err != nil {
			return err
		}
		done := b.Offset + len(b.Data)
		left := time.Since(began).Seconds() * float64(size-done) / float64(max(1, done-from))
		f.report(FlashWriting, 5+85*float64(done)/float64(size), left, "")
		if err := ctx.Err(); err != nil {
			return quad.Faultf("stopped", "board", "you stopped it")
		}
	}
	return nil
}

// keep what is there now: the event, and what the device says of itself.
func (f *flashing) keep(ctx context.Context) error {
	if err := f.bench.holds(f.device); err != nil {
		return err
	}
	words := f.header.Line + " " + f.header.Version + " written and verified"
	path := quad.Path("readings.firmware.identity")
	if f.ask.Output != "" {
		words += ", speed controller " + f.ask.Output
		path = quad.Path("readings.firmware.speedControllers." + f.ask.Output)
	} else if _, err := f.app.Note(ctx, f.quad, "flash", words); err != nil {
		return err
	}
	return f.app.take(ctx, f.bench, f.quad, path)
}

// sumOf is what a device must answer once it holds these bytes.
func sumOf(data []byte) protocol.Sum {
	return protocol.Sum{Bytes: len(data), CRC: crc32.ChecksumIEEE(data)}
}
