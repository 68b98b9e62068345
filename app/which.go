package app

import (
	"context"
	"strings"

	"vividperch/core/catalogue"
)

// WhichView is a quad that has what was looked for.
type WhichView struct {
	ID   int64       `json:"id"`
	Name string      `json:"name"`
	Has  []WhichHave `json:"has"`
}

// WhichHave is one thing that it has: a part by its kind, or the firmware of its board.
type WhichHave struct {
	Kind  string `json:"kind"`
	Words string `json:"words"`
}

// Firmwares are found beside the kinds of parts.
const haveFirmware = "firmware"

// Which of the pilot's quads has a part, a link or a firmware of some name or version: each word that is typed begins a word of it. Retired
// quads are found too. Nothing typed finds nothing.
func (a *App) Which(ctx context.Context, typed string) ([]WhichView, error) {
	out := []WhichView{}
	if strings.TrimSpace(typed) == "" {
		return out, nil
	}
	lenders, err := a.lenders(ctx)
	if err != nil {
		return nil, err
	}
	for _, q := range lenders {
		v := WhichView{ID: q.id, Name: q.name}
		for _, h := range havesOf(q) {
			if catalogue.Matches(typed, h.Words) {
				v.Has = append(v.Has, h)
			}
		}
		if len(v.Has) > 0 {
			out = append(out, v)
		}
	}
	return out, nil
}

// havesOf a quad, in words: every named part with what tells it from others, and its firmware.
func havesOf(q lender) []WhichHave {
	var out []WhichHave
	for _, p := range partsNamed(q.parts) {
		words := p.Name
		switch p.Kind {
		case catalogue.Receiver:
			words = together(p.Name, q.parts.Receiver.Link, q.parts.Receiver.Version)
		case catalogue.RadioModule:
			words = together(p.Name, q.parts.RadioModule.Link, q.parts.RadioModule.Version)
		case catalogue.Board:
			words = together(p.Name, q.parts.Board.Target)
		}
		if words != "" {
			out = append(out, WhichHave{string(p.Kind), words})
		}
	}
	if is := q.firmware; is.Line != "" {
		out = append(out, WhichHave{haveFirmware, together(is.Line, is.Version, is.Target)})
	}
	return out
}

// together are words that are told, each once.
func together(list ...string) string {
	var out []string
	for _, w := range list {
		if w != "" && !strings.Contains(strings.Join(out, " "), w) {
			out = append(out, w)
		}
	}
	return strings.Join(out, " ")
}
