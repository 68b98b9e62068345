package app

import (
	"context"
	"fmt"

	"vividperch/core/link"
	"vividperch/core/quad"
)

// LinkImageView is what an image for a receiver or a radio module says of itself, whether it may go on this quad's, and how it gets there.
type LinkImageView struct {
	link.Image
	Words string `json:"words"` // its CRC-32, and how much it is
	link.Judged
	Label string          `json:"label,omitempty"` // of what must be told first
	Ways  []link.FlashWay `json:"ways"`            // that the facts of the link know
}

// CheckLinkImage reads an Intel HEX image for a receiver or a radio module and judges it against the quad's.
func (a *App) CheckLinkImage(ctx context.Context, id int64, text []byte) (*LinkImageView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	img, err := link.ReadImage(text)
	if err != nil {
		return nil, err
	}
	v := &LinkImageView{Image: img, Words: fmt.Sprintf("%s, CRC-32 %08X", quad.Count(img.Bytes, "byte", "bytes"), img.CRC), Judged: img.Judge(o.known.Meant()), Ways: []link.FlashWay{}}
	if v.Asks != "" {
		f, err := quad.FieldAt(v.Asks)
		if err != nil {
			return nil, err
		}
		v.Label = f.Label
	}
	if g, known := link.GearOf(img.Link, o.known.Pilot.Gear); known {
		v.Ways = nonNil(g.FlashWays(img.End))
	}
	return v, nil
}
