package firmware

import (
	"bytes"
	"encoding/binary"
	"encoding/hex"
	"fmt"
	"hash/crc32"
	"iter"
	"slices"
	"strings"

	"vividperch/core/quad"
)

// Segment of consecutive bytes in an image.
type Segment struct {
	Address uint32
	Data    []byte
}

// End is the address after the last byte.
func (s Segment) End() uint64 { return uint64(s.Address) + uint64(len(s.Data)) }

// Image is a firmware image as an Intel HEX file holds it. Segments are in ascending order and do not
// touch.
type Image struct {
	Segments []Segment
	Start    uint32 // entry point; meaningful when HasStart
	HasStart bool
	// segmented says that the start was given as CS:IP (type 03), kept so that writing gives it back.
	segmented bool
}

const maxImage = 2 << 20

// ParseHex reads an Intel HEX file: records of types 00 to 05, checksums, overlaps and the end record are
// all checked. Faults name the line.
func ParseHex(text []byte) (Image, error) {
	if len(text) > 3*maxImage {
		return Image{}, quad.Faultf("too-large", "", "is larger than %d MB", 3*maxImage>>20)
	}
	var (
		img   Image
		base  uint32
		ended bool
		parts []Segment
		total int
	)
	for n, line := range bytes.Split(text, []byte("\n")) {
		line = bytes.TrimRight(line, "\r \t")
		if len(line) == 0 {
			continue
		}
		at := fmt.Sprintf("line %d", n+1)
		if ended {
			return Image{}, quad.Faultf("hex-after-end", at, "there is text after the end record")
		}
		kind, address, data, err := record(line, at)
		if err != nil {
			return Image{}, err
		}
		switch kind {
		case 0:
			if total += len(data); total > maxImage {
				return Image{}, quad.Faultf("too-large", at, "the image holds more than %d MB", maxImage>>20)
			}
			full := uint64(base) + uint64(address)
			if full+uint64(len(data)) > 1<<32 {
				return Image{}, quad.Faultf("hex-range", at, "the data runs past the 32-bit address space")
			}
			if len(data) == 0 {
				continue
			}
			if k := len(parts) - 1; k >= 0 && parts[k].End() == full {
				parts[k].Data = append(parts[k].Data, data...)
			} else {
				parts = append(parts, Segment{Address: uint32(full), Data: data})
			}
		case 1:
			if len(data) != 0 {
				return Image{}, quad.Faultf("hex-length", at, "the end record holds data")
			}
			ended = true
		case 2, 4:
			if len(data) != 2 {
				return Image{}, quad.Faultf("hex-length", at, "an address record must hold 2 bytes, not %d", len(data))
			}
			base = uint32(binary.BigEndian.Uint16(data)) << 4
			if kind == 4 {
				base <<= 12
			}
		case 3, 5:
			if len(data) != 4 {
				return Image{}, quad.Faultf("hex-length", at, "a start record must hold 4 bytes, not %d", len(data))
			}
			if img.HasStart {
				return Image{}, quad.Faultf("hex-start", at, "a second start record")
			}
			img.Start, img.HasStart, img.segmented = binary.BigEndian.Uint32(data), true, kind == 3
		default:
			return Image{}, quad.Faultf("hex-type", at, "record type %02X is not one of 00 to 05", kind)
		}
	}
	if !ended {
		return Image{}, quad.Faultf("hex-cut", "", "ends without an end record: the file is cut short")
	}
	slices.SortStableFunc(parts, func(a, b Segment) int {
		if a.Address < b.Address {
			return -1
		}
		if a.Address > b.Address {
			return 1
		}
		return 0
	})
	for _, s := range parts {
		k := len(img.Segments) - 1
		switch {
		case k >= 0 && img.Segments[k].End() > uint64(s.Address):
			return Image{}, quad.Faultf("hex-overlap", fmt.Sprintf("address %08X", s.Address), "two records write the same bytes")
		case k >= 0 && img.Segments[k].End() == uint64(s.Address):
			img.Segments[k].Data = append(img.Segments[k].Data, s.Data...)
		default:
			img.Segments = append(img.Segments, s)
		}
	}
	return img, nil
}

func record(line []byte, at string) (kind byte, address uint16, data []byte, err error) {
	if line[0] != ':' {
		return 0, 0, nil, quad.Faultf("hex-mark", at, "does not begin with a colon")
	}
	raw := make([]byte, hex.DecodedLen(len(line)-1))
	if _, err := hex.Decode(raw, line[1:]); err != nil {
		return 0, 0, nil, quad.Faultf("hex-digit", at, "is not a whole number of hexadecimal bytes")
	}
	if len(raw) < 5 {
		return 0, 0, nil, quad.Faultf("hex-length", at, "is too short for a record")
	}
	if int(raw[0]) != len(raw)-5 {
		return 0, 0, nil, quad.Faultf("hex-length", at, "says it holds %d bytes, but holds %d", raw[0], len(raw)-5)
	}
	var sum byte
	for _, b := range raw {
		sum += b
	}
	if sum != 0 {
		return 0, 0, nil, quad.Faultf("hex-checksum", at, "the checksum is %02X, but the bytes want %02X: the file is damaged", raw[len(raw)-1], raw[len(raw)-1]-sum)
	}
	return raw[3], binary.BigEndian.Uint16(raw[1:3]), raw[4 : len(raw)-1], nil
}

// WriteHex writes an image with 16 bytes to a record.
func WriteHex(img Image) []byte {
	var out strings.Builder
	put := func(kind byte, address uint16, data []byte) {
		raw := append([]byte{byte(len(data)), byte(address >> 8), byte(address), kind}, data...)
		var sum byte
		for _, b := range raw {
			sum += b
		}
		fmt.Fprintf(&out, ":%X%02X\n", raw, -sum)
	}
	upper := uint32(0)
	for _, s := range img.Segments {
		for at := 0; at < len(s.Data); {
			address := s.Address + uint32(at)
			if address>>16 != upper {
				upper = address >> 16
				put(4, 0, []byte{byte(upper >> 8), byte(upper)})
			}
			n := min(16, len(s.Data)-at, int(0x10000-(address&0xFFFF)))
			put(0, uint16(address), s.Data[at:at+n])
			at += n
		}
	}
	if img.HasStart {
		kind := byte(5)
		if img.segmented {
			kind = 3
		}
		put(kind, 0, binary.BigEndian.AppendUint32(nil, img.Start))
	}
	put(1, 0, nil)
	return []byte(out.String())
}

// Size is the number of bytes held.
func (img Image) Size() int {
	n := 0
	for _, s := range img.Segments {
		n += len(s.Data)
	}
	return n
}

// Gap between two segments.
type Gap struct{ From, To uint64 }

// Gaps between the segments, ascending.
func (img Image) Gaps() []Gap {
	var out []Gap
	for i := 1; i < len(img.Segments); i++ {
		out = append(out, Gap{img.Segments[i-1].End(), uint64(img.Segments[i].Address)})
	}
	return out
}

// Header is what an image says of itself: 64 bytes at its lowest address. The CRC-32 (IEEE) covers
// everything after the header, gaps left out.
type Header struct {
	Target  string `json:"target"`
	Line    string `json:"line"`
	Version string `json:"version"`
	CRC     uint32 `json:"crc"`
}

const (
	headerMagic = "PERCHIMG"
	// HeaderSize of every image, whatever its mark, in bytes.
	HeaderSize = 64
)

// Header reads and checks the image's own header.
func (img Image) Header() (Header, error) {
	if len(img.Segments) == 0 || len(img.Segments[0].Data) < HeaderSize {
		return Header{}, quad.Faultf("hex-no-header", "", "is too small to say what it is for")
	}
	raw := img.Segments[0].Data
	if string(raw[:8]) != headerMagic {
		return Header{}, quad.Faultf("hex-no-header", fmt.Sprintf("address %08X", img.Segments[0].Address), "does not say which board, line and version it is for")
	}
	word := func(from, to int) string { return strings.TrimRight(string(raw[from:to]), "\x00") }
	h := Header{Target: word(8, 28), Line: word(28, 44), Version: word(44, 60), CRC: binary.BigEndian.Uint32(raw[60:64])}
	return h, img.CheckPayload(h.CRC)
}

// CheckPayload says whether what follows the header has the CRC-32 that the header tells, gaps left out; an image shorter than a header has none.
func (img Image) CheckPayload(told uint32) error {
	crc := crc32.NewIEEE()
	for i, s := range img.Segments {
		data := s.Data
		if i == 0 {
			data = data[min(HeaderSize, len(data)):]
		}
		crc.Write(data)
	}
	if got := crc.Sum32(); got != told {
		return quad.Faultf("hex-crc", "", "its CRC-32 is %08X, but its header says %08X: the image is damaged", got, told)
	}
	return nil
}

// BuildImage makes an image for a board: the header, then the payload. Words too long for the header are a
// Fault.
func BuildImage(h Header, address uint32, payload []byte) (Image, error) {
	if len(h.Target) > 20 || len(h.Line) > 16 || len(h.Version) > 16 {
		return Image{}, quad.Faultf("header-words", "", "target, line and version must have at most 20, 16 and 16 bytes")
	}
	raw := make([]byte, HeaderSize, HeaderSize+len(payload))
	copy(raw, headerMagic)
	copy(raw[8:28], h.Target)
	copy(raw[28:44], h.Line)
	copy(raw[44:60], h.Version)
	binary.BigEndian.PutUint32(raw[60:], crc32.ChecksumIEEE(payload))
	return Image{Segments: []Segment{{Address: address, Data: append(raw, payload...)}}, Start: address + HeaderSize, HasStart: true}, nil
}

// Block of an image's bytes.
type Block struct {
	Address uint32
	Offset  int // of its first byte among all the image's bytes
	Data    []byte
}

// Blocks of at most size bytes each, in ascending order of address.
func (img Image) Blocks(size int) iter.Seq[Block] {
	return func(yield func(Block) bool) {
		offset := 0
		for _, s := range img.Segments {
			for at := 0; at < len(s.Data); at += size {
				data := s.Data[at:min(at+size, len(s.Data))]
				if !yield(Block{Address: s.Address + uint32(at), Offset: offset, Data: data}) {
					return
				}
				offset += len(data)
			}
		}
	}
}

// Bytes of the image in ascending order of address, gaps left out.
func (img Image) Bytes() []byte {
	out := make([]byte, 0, img.Size())
	for _, s := range img.Segments {
		out = append(out, s.Data...)
	}
	return out
}
