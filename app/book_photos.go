package app

import (
	"bytes"
	"context"
	"encoding/json"
	"image"
	"image/jpeg"
	_ "image/png" // photos may come as PNG too
	"strings"
	"time"

	"vividperch/core/book"
	"vividperch/core/quad"
)

// photoEntry is how a photo is kept; the entry's name is its note.
type photoEntry struct {
	JPEG []byte `json:"jpeg"`
}

// PhotoView is a photo in the book, without the picture itself.
type PhotoView struct {
	ID   int64     `json:"id"`
	Note string    `json:"note"`
	At   time.Time `json:"at"`
}

const (
	// mostPixels of a photo. The page makes larger ones smaller before it sends them.
	mostPixels = 4e6
	// mostPhotos of a quad: with them its archive stays below book.ArchiveLimit.
	mostPhotos = 60
	// mostBytes of a photo as it is kept.
	mostBytes = 350_000
)

// AddPhoto puts a JPEG or PNG into the book, with a few words. It is kept as a JPEG made anew, so that the
// place it was taken at, which cameras write into the file, is not kept.
func (a *App) AddPhoto(ctx context.Context, id int64, raw []byte, note string) ([]PhotoView, error) {
	note = strings.TrimSpace(note)
	if quad.Longer(note, 190) {
		return nil, quad.Faultf("too-long", "note", "a photo's note has at most 190 characters")
	}
	size, kind, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil || kind != "jpeg" && kind != "png" {
		return nil, quad.Faultf("not-a-picture", "photo", "is not a JPEG or PNG picture")
	}
	if float64(size.Width)*float64(size.Height) > mostPixels {
		return nil, quad.Faultf("too-large", "photo", "has %d x %d pixels; 4 million are the most", size.Width, size.Height)
	}
	picture, _, err := image.Decode(bytes.NewReader(raw))
	if err != nil {
		return nil, quad.Faultf("not-a-picture", "photo", "is damaged: %v", err)
	}
	var out bytes.Buffer
	if err := jpeg.Encode(&out, picture, &jpeg.Options{Quality: 82}); err != nil {
		return nil, err
	}
	if out.Len() > mostBytes {
		return nil, quad.Faultf("too-large", "photo", "takes %d kB; %d are the most", out.Len()/1000, mostBytes/1000)
	}
	there, err := a.Photos(ctx, id)
	if err != nil {
		return nil, err
	}
	if len(there) >= mostPhotos {
		return nil, quad.Faultf("too-many", "photo", "this quad has %d photos, which are the most", mostPhotos)
	}
	e, err := a.entry(book.KindPhoto, note, photoEntry{out.Bytes()})
	if err != nil {
		return nil, err
	}
	if err := a.write(ctx, id, book.Change{Entries: []book.Entry{e}}); err != nil {
		return nil, err
	}
	return a.Photos(ctx, id)
}

// Photos of a quad, newest first.
func (a *App) Photos(ctx context.Context, id int64) ([]PhotoView, error) {
	list, err := a.keep.Titles(ctx, a.pilot, id, book.KindPhoto)
	if err != nil {
		return nil, err
	}
	out := []PhotoView{}
	for _, e := range list {
		out = append(out, PhotoView{e.ID, e.Name, e.At})
	}
	return out, nil
}

// Photo as a JPEG file.
func (a *App) Photo(ctx context.Context, id, photo int64) ([]byte, error) {
	e, err := a.keep.Entry(ctx, a.pilot, id, photo)
	if err != nil {
		return nil, err
	}
	var p photoEntry
	if e.Kind != book.KindPhoto {
		return nil, book.ErrNoEntry
	}
	if err := json.Unmarshal(e.Body, &p); err != nil {
		return nil, err
	}
	return p.JPEG, nil
}
