package app

import (
	"context"
	"fmt"

	"vividperch/core/firmware"
	"vividperch/core/quad"
)

// ImageView is what an image says of itself, whether it fits, and what else a step to it means.
type ImageView struct {
	Target  string `json:"target"`
	Line    string `json:"line"`
	Version string `json:"version"`
	Bytes   int    `json:"bytes"`
	Gaps    int    `json:"gaps"`
	CRC     string `json:"crc"`
	Fits    bool   `json:"fits"`
	Says    string `json:"says"`
	// Step from what is on the board to this image.
	Step firmware.VersionStep `json:"step" enum:"same,within,major,back,line"`
	// Whole says that the settings should be erased along, and why or why not.
	Whole    bool   `json:"whole"`
	WholeWhy string `json:"wholeWhy"`
	// With lists what else must change along with it.
	With []string `json:"with"`
	// Speed is set when it is for the speed controllers, not for the board.
	Speed bool `json:"speed"`
}

// CheckImage reads an Intel HEX image and judges it against the quad's board, or against its speed controllers when
// it is for such.
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
	target := o.known.Parts.Board.Target
	if v.Speed {
		target = o.known.Parts.SpeedController.Layout
	}
	if v.Target != "" { // it says what it is for: whether that is this board goes before whether it fits its own
		if _, err := img.ForBoard(target); err != nil {
			v.Fits, v.Says = false, quad.Explain(err)
		}
	}
	if !v.Speed {
		v.compare(o.known)
	}
	return v, nil
}

// compare an image with what is on the board, or with what the sheet says before the board was read.
func (v *ImageView) compare(k quad.Known) {
	line, version := k.Board.Line, k.Board.Version
	if !k.Board.Read() {
		line, version = k.Sheet.Firmware.Line, k.Sheet.Firmware.Version
	}
	v.Step = firmware.StepBetween(line, version, v.Line, v.Version)
	switch v.Step {
	case firmware.Within, firmware.SameVersion:
		v.WholeWhy = "Within one major version the settings mean the same, and are kept."
	case firmware.Back:
		v.Whole, v.WholeWhy = true, "An older version does not know what newer settings mean."
	case firmware.Major:
		v.Whole, v.WholeWhy = true, "Over a major step the same figures mean other things: erase them, and carry them over one by one from what was saved."
	case firmware.Other:
		v.Whole, v.WholeWhy = true, "Another line knows none of these settings: erase them, and go through your settings."
	}
	l, ok := firmware.FindLine(v.Line)
	if !ok {
		return
	}
	for _, known := range l.Versions {
		// What comes with every version on the way, the newest included.
		if after, upTo := firmware.StepBetween(line, version, l.Name, known.Version), firmware.StepBetween(l.Name, known.Version, l.Name, v.Version); after != firmware.SameVersion && after != firmware.Back && upTo != firmware.Back {
			v.With = append(v.With, known.With...)
		}
	}
	if b, err := l.At(v.Version); err == nil && b.Expires != "" {
		v.With = append(v.With, fmt.Sprintf("It arms until %s; the day after, it refuses.", b.Expires))
	}
}

// DescribeImage tells what an image is, without a board to compare with.
func DescribeImage(img firmware.Image) *ImageView {
	v := &ImageView{Bytes: img.Size(), Gaps: len(img.Gaps()), With: []string{}, Step: firmware.Other}
	h, err := img.Header()
	if err == nil {
		_, err = img.ForBoard(h.Target)
	}
	if m, known := firmware.MemoryOf(h.Target); known == nil {
		v.Speed = m.Speed
	}
	v.Target, v.Line, v.Version, v.CRC = h.Target, h.Line, h.Version, fmt.Sprintf("%08X", h.CRC)
	v.Fits, v.Says = err == nil, "The image is whole and fits the board."
	if err != nil {
		v.Says = quad.Explain(err)
	}
	return v
}
