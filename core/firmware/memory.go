package firmware

import (
	_ "embed" // for the boards' file
	"fmt"
	"sync"

	"vividperch/core/quad"
)

// Memory of a board: where a program may lie. The bootloader begins where the flash does, and its share must never be
// written.
type Memory struct {
	Target string `json:"target"`
	From   uint64 `json:"from"`
	To     uint64 `json:"to"`     // last byte
	BootTo uint64 `json:"bootTo"` // last byte of the bootloader
	// Speed marks a speed controller's.
	Speed bool `json:"speed"`
}

//go:embed boards.yaml
var boardFile []byte

var memories = sync.OnceValues(func() (map[string]Memory, error) {
	var list []Memory
	if err := quad.ReadYAML(boardFile, &list); err != nil {
		return nil, err
	}
	out := map[string]Memory{}
	for _, m := range list {
		out[m.Target] = m
	}
	return out, nil
})

// MemoryOf a board by its target. One that is not known is a Fault: nothing may be written to it.
func MemoryOf(target string) (Memory, error) {
	all, err := memories()
	if err != nil {
		panic(err) // the shipped file is tested; a broken one is a build fault, not input
	}
	m, ok := all[target]
	if !ok {
		return Memory{}, quad.Faultf("unknown-board", "parts.board.target", "the memory of %q is not known, so no image can be checked against it", quad.Clip(target, 40))
	}
	return m, nil
}

// Start of the program area, behind the bootloader.
func (m Memory) Start() uint32 { return uint32(m.BootTo + 1) }

// Room for a program, bytes.
func (m Memory) Room() int { return int(m.To - m.BootTo) }

// Fits checks every byte against flash and bootloader.
func (img Image) Fits(m Memory) error {
	for _, s := range img.Segments {
		at := fmt.Sprintf("address %08X", s.Address)
		if uint64(s.Address) <= m.BootTo && s.End() > m.From {
			return quad.Faultf("hex-bootloader", at, "would overwrite the bootloader of %s (%08X to %08X)", m.Target, m.From, m.BootTo)
		}
		if uint64(s.Address) < m.From {
			return quad.Faultf("hex-range", at, "lies outside the flash of %s (%08X to %08X)", m.Target, m.From, m.To)
		}
		if s.End() > m.To+1 {
			return quad.Faultf("hex-range", at, "runs to %08X, %d bytes past the flash of %s, which ends at %08X: the image is too large for this board", s.End()-1, s.End()-m.To-1, m.Target, m.To)
		}
	}
	return nil
}

// ForBoard checks an image all through: flash range and bootloader, header and CRC, and that its target is the board's.
func (img Image) ForBoard(target string) (Header, error) {
	m, err := MemoryOf(target)
	if err != nil {
		return Header{}, err
	}
	h, err := img.Header()
	if err != nil {
		return Header{}, err
	}
	if h.Target != target {
		return h, quad.Faultf("target-mismatch", "", "the image is built for %s, the board is %s; it must not be written", h.Target, target)
	}
	return h, img.Fits(m)
}

// MadeUp builds an image for a target with so many bytes of made-up program, for the simulated benches and the tests.
func MadeUp(h Header, size int) (Image, error) {
	m, err := MemoryOf(h.Target)
	if err != nil {
		return Image{}, err
	}
	text := []byte(h.Line + " " + h.Version + " for " + h.Target + ", made up. ")
	payload := make([]byte, max(0, size))
	for i := range payload {
		payload[i] = text[i%len(text)] ^ byte(i>>8) // no two blocks alike, so that a swapped one shows
	}
	return BuildImage(h, m.Start(), payload)
}
