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

// toWrite lists what must be written so that the board holds the sheet.
func toWrite(k quad.Known) ([]firmware.Change, error) {
	if !k.Board.Read() {
		return nil, quad.Faultf("no-board", "board", "read the board first")
	}
	line, ok := firmware.FindLine(k.Board.Line)
	if !ok {
		return nil, quad.Faultf("no-dictionary", "board.line", "no dictionary for %s", k.Board.Line)
	}
	want, err := line.Dictionary.Encode(k.Sheet)
	if err != nil {
		return nil, err
	}
	return firmware.Changes(k.Board.Settings, want), nil
}

// WriteBoard writes the sheet's differences to the board, reads everything back and compares raw. The sheet
// becomes a revision first.
func (a *App) WriteBoard(ctx context.Context, id int64) (*QuadView, error) {
	b, err := a.Bench()
	if err != nil {
		return nil, err
	}
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	d, err := b.connected()
	if err != nil {
		return nil, err
	}
	if !b.busy.TryLock() {
		return nil, quad.Faultf("busy", "board", "the bench is busy with something else")
	}
	defer b.busy.Unlock()
	is, err := d.Identify(ctx)
	if err != nil {
		return nil, err
	}
	if is.Bootloader || is.Target != o.known.Board.Target || is.Line != o.known.Board.Line || is.Version != o.known.Board.Version {
		return nil, quad.Faultf("other-board", "board", "the board on the bench is not the one that was read back; identify it first")
	}
	now, err := d.Settings(ctx)
	if err != nil {
		return nil, err
	}
	fresh := o.known
	fresh.Board.Settings = whole(now, o.known.Board.Settings)
	changes, err := toWrite(fresh)
	if err != nil {
		return nil, err
	}
	failed := writeAll(ctx, d, changes)
	after, err := d.Settings(ctx)
	if err != nil {
		if failed != nil {
			err = failed // the first thing that went wrong tells more
		}
		return nil, err
	}
	// Whatever the board holds now is what is known of it, also when a write was refused half way.
	var c book.Change
	if _, err := a.settle(o, &c, "before writing to the board"); err != nil {
		return nil, err
	}
	e, err := a.entry(book.KindBoard, "board", boardEntry{is.Target, is.Line, is.Version, whole(after, fresh.Board.Settings)})
	if err != nil {
		return nil, err
	}
	c.Entries = []book.Entry{e}
	v, err := a.draft(ctx, id, c)
	if err == nil {
		err = failed
	}
	for _, w := range changes {
		if err == nil && after[w.Name] != w.After {
			err = quad.Faultf("not-written", w.Name, "the board still holds %s after %s was written", after[w.Name], w.After)
		}
	}
	if err != nil {
		return nil, err
	}
	return v, nil
}

// writeAll changes one after the other; the first that is refused ends it and is named.
func writeAll(ctx context.Context, d *client.Device, changes []firmware.Change) error {
	for i, c := range changes {
		if err := d.Write(ctx, c.Name, c.After); err != nil {
			f := quad.AsFault(err)
			return quad.Faultf(f.Code, c.Name, "%s; %d of %d settings were written before", f.Sentence, i, len(changes))
		}
	}
	return nil
}

// ImageView is what an image says of itself and whether it fits.
type ImageView struct {
	Target  string `json:"target"`
	Line    string `json:"line"`
	Version string `json:"version"`
	Bytes   int    `json:"bytes"`
	Gaps    int    `json:"gaps"`
	CRC     string `json:"crc"`
	Fits    bool   `json:"fits"`
	Says    string `json:"says"`
}

// CheckImage reads an Intel HEX image and judges it against the quad's board.
func (a *App) CheckImage(ctx context.Context, id int64, text []byte) (*ImageView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	img, err := firmware.ParseHex(text)
	if err != nil {
		return nil, err
	}
	v := DescribeImage(img)
	if v.Fits {
		if _, err := img.ForBoard(o.known.Parts.Board.Target, firmware.BoardMemory); err != nil {
			v.Fits, v.Says = false, err.Error()
		}
	}
	return v, nil
}

// DescribeImage tells what an image is, without a board to compare with.
func DescribeImage(img firmware.Image) *ImageView {
	v := &ImageView{Bytes: img.Size(), Gaps: len(img.Gaps())}
	h, err := img.Header()
	if err == nil {
		err = img.Fits(firmware.BoardMemory)
	}
	v.Target, v.Line, v.Version, v.CRC = h.Target, h.Line, h.Version, hex8(h.CRC)
	v.Fits, v.Says = err == nil, "The image is whole and fits the board."
	if err != nil {
		v.Says = err.Error()
	}
	return v
}

func hex8(x uint32) string {
	const digits = "0123456789ABCDEF"
	var out [8]byte
	for i := range out {
		out[i] = digits[x>>(28-4*i)&15]
	}
	return string(out[:])
}

const flashBlock = 2048

// Flash writes an image to the board on the bench: save, erase, write, verify, restart, identify. The
// settings store is not touched. A failure leaves the board in its bootloader, from where Flash begins
// again; the reason is kept in the flash state for every page.
func (a *App) Flash(ctx context.Context, id int64, text []byte) (*QuadView, error) {
	b, err := a.Bench()
	if err != nil {
		return nil, err
	}
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	img, err := firmware.ParseHex(text)
	if err != nil {
		return nil, err
	}
	if _, err := img.ForBoard(o.known.Parts.Board.Target, firmware.BoardMemory); err != nil {
		return nil, err
	}
	if l, _, err := b.look(); err == nil && l.Board == "running" {
		// Whatever comes, what was there is saved first. A board in its bootloader has been saved before.
		if _, err := a.Take(ctx, id, "readings.firmware.backup"); err != nil {
			return nil, err
		}
	}
	if !b.busy.TryLock() {
		return nil, quad.Faultf("busy", "board", "the bench is busy with something else")
	}
	err = b.flashImage(ctx, img, o.known.Parts.Board.Target)
	b.busy.Unlock()
	if err != nil {
		says := err.Error()
		if f := quad.AsFault(err); f != nil {
			says = f.Sentence
		}
		b.setFlash(FlashState{Step: "failed", Says: "Stopped: " + says + ". The board waits in its bootloader, its saved settings are untouched; flash again to go on."})
		return nil, err
	}
	if _, err := a.Note(ctx, id, "flash", "image written and verified"); err != nil {
		return nil, err
	}
	v, err := a.Take(ctx, id, "readings.firmware.identity")
	if err != nil {
		return nil, err
	}
	b.setFlash(FlashState{Step: "done", Percent: 100, Says: "Written, verified and identified."})
	return v, nil
}

func (b *Bench) setFlash(f FlashState) {
	b.mu.Lock()
	defer b.mu.Unlock()
	b.flash = &f
	b.send(LiveFrame{Kind: "flash", Flash: &f})
}

func (b *Bench) flashImage(ctx context.Context, img firmware.Image, target string) error {
	d, err := b.connected()
	if err != nil {
		return err
	}
	is, err := d.Identify(ctx)
	if err != nil {
		return err
	}
	if is.Target != target {
		return quad.Faultf("target-mismatch", "board", "the board on the bench is %s, the quad's is %s; nothing was written", is.Target, target)
	}
	b.setFlash(FlashState{Step: "erasing", Percent: 2})
	if err := d.Do(ctx, protocol.MethodBoot, nil); err != nil {
		return err
	}
	if err := d.Do(ctx, protocol.MethodErase, protocol.Erase{Keep: true}); err != nil {
		return err
	}
	size, done, began := img.Size(), 0, time.Now()
	for _, s := range img.Segments {
		for at := 0; at < len(s.Data); at += flashBlock {
			end := min(at+flashBlock, len(s.Data))
			if err := d.Do(ctx, protocol.MethodBlock, protocol.Block{Address: s.Address + uint32(at), Data: s.Data[at:end]}); err != nil {
				return err
			}
			done += end - at
			share := float64(done) / float64(size)
			b.setFlash(FlashState{Step: "writing", Percent: 5 + 85*share, Left: time.Since(began).Seconds() * (1 - share) / share})
		}
	}
	b.setFlash(FlashState{Step: "verifying", Percent: 92})
	sum, err := d.Verify(ctx)
	if err != nil {
		return err
	}
	if want := imageSum(img); sum != want {
		return quad.Faultf("verify-failed", "board", "what the board holds is not what was written (%d bytes of %d, other CRC)", sum.Bytes, want.Bytes)
	}
	b.setFlash(FlashState{Step: "restarting", Percent: 97})
	return d.Do(ctx, protocol.MethodReboot, nil)
}

// imageSum is what a board must answer once it holds the image.
func imageSum(img firmware.Image) protocol.Sum {
	crc := crc32.NewIEEE()
	for _, s := range img.Segments {
		crc.Write(s.Data)
	}
	return protocol.Sum{Bytes: img.Size(), CRC: crc.Sum32()}
}

// BackupView is one saved settings list, whole and as what differs from the line's defaults.
type BackupView struct {
	Name    string    `json:"name"`
	At      time.Time `json:"at"`
	All     string    `json:"all"`
	Changed string    `json:"changed"` // the same as All for a line whose defaults are not known
}

// Backups of a quad's board, newest first.
func (a *App) Backups(ctx context.Context, id int64) ([]BackupView, error) {
	list, err := a.keep.Find(ctx, a.pilot, id, book.KindBackup)
	if err != nil {
		return nil, err
	}
	out := []BackupView{}
	for _, e := range list {
		var b backupEntry
		if err := json.Unmarshal(e.Body, &b); err != nil {
			return nil, err
		}
		v := BackupView{Name: e.Name, At: e.At, All: string(firmware.WriteList(b.Settings, nil))}
		v.Changed = v.All
		if line, ok := firmware.FindLine(b.Line); ok {
			v.Changed = string(firmware.WriteList(b.Settings, line.Facts.Defaults()))
		}
		out = append(out, v)
	}
	return out, nil
}

// ReadList takes a pasted settings list as the board's read-back, for a quad without a bench. The list is
// read whole before anything is kept; all faults are told at once.
func (a *App) ReadList(ctx context.Context, id int64, text []byte) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	b, faults := firmware.BoardFromList(o.known.Sheet.Firmware, text, a.now())
	if len(faults) > 0 {
		return nil, listFault(faults)
	}
	e, err := a.readBack(b)
	if err != nil {
		return nil, err
	}
	return a.draft(ctx, id, book.Change{Entries: []book.Entry{e}})
}

// readBack keeps what a board holds.
func (a *App) readBack(b quad.Board) (book.Entry, error) {
	return a.entry(book.KindBoard, "board", boardEntry{b.Target, b.Line, b.Version, b.Settings})
}
