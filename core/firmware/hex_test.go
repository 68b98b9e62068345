package firmware

import (
	"bytes"
	"fmt"
	"hash/crc32"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"vividperch/core/quad"
)

// line of Intel HEX written another way than the writer does: field by field, the checksum by subtraction.
func line(kind byte, address uint16, data ...byte) string {
	sum := int(len(data)) + int(address>>8) + int(address&255) + int(kind)
	out := fmt.Sprintf(":%02X%04X%02X", len(data), address, kind)
	for _, b := range data {
		out += fmt.Sprintf("%02X", b)
		sum += int(b)
	}
	return out + fmt.Sprintf("%02X", (256-sum%256)%256)
}

var end = line(1, 0)

func code(err error) string {
	if f := quad.AsFault(err); f != nil {
		return f.Code + " " + f.Place
	}
	return fmt.Sprint(err)
}

func TestParseHexReadsEveryRecordType(t *testing.T) {
	for _, c := range []struct {
		name  string
		lines []string
		want  []Segment
		start uint32
	}{
		{"data at the bottom", []string{line(0, 0x10, 1, 2, 3)}, []Segment{{0x10, []byte{1, 2, 3}}}, 0},
		{"segment base (02): shifted by four", []string{line(2, 0, 0x12, 0x34), line(0, 0x10, 9)}, []Segment{{0x12350, []byte{9}}}, 0},
		{"linear base (04): the upper half", []string{line(4, 0, 0x08, 0x01), line(0, 0xFFFF, 7)}, []Segment{{0x0801FFFF, []byte{7}}}, 0},
		{"start by segment (03)", []string{line(3, 0, 0, 1, 0, 2), line(0, 0, 5)}, []Segment{{0, []byte{5}}}, 0x00010002},
		{"start by address (05)", []string{line(5, 0, 8, 0, 1, 0x40), line(0, 0, 5)}, []Segment{{0, []byte{5}}}, 0x08000140},
		{"out of order, then joined", []string{line(0, 4, 5, 6), line(0, 0, 1, 2, 3, 4)}, []Segment{{0, []byte{1, 2, 3, 4, 5, 6}}}, 0},
		{"a gap stays a gap", []string{line(0, 0, 1), line(0, 2, 3)}, []Segment{{0, []byte{1}}, {2, []byte{3}}}, 0},
		{"no data at all", nil, nil, 0},
	} {
		img, err := ParseHex([]byte(strings.Join(append(c.lines, end), "\r\n")))
		if err != nil {
			t.Errorf("%s: %v", c.name, err)
			continue
		}
		if !slices.EqualFunc(img.Segments, c.want, func(a, b Segment) bool { return a.Address == b.Address && bytes.Equal(a.Data, b.Data) }) || img.Start != c.start {
			t.Errorf("%s: got %+v", c.name, img)
		}
	}
}

func TestParseHexNamesTheDamage(t *testing.T) {
	good := line(0, 0, 1, 2, 3)
	flipped := strings.Replace(good, "02", "06", 1) // one bit
	for _, c := range []struct {
		name  string
		lines []string
		want  string
	}{
		{"a flipped bit", []string{good, line(0, 3, 9), strings.Replace(line(0, 4, 7), "07", "03", 1), end}, "hex-checksum line 3"},
		{"a flipped bit at once", []string{flipped, end}, "hex-checksum line 1"},
		{"cut short", []string{good}, "hex-cut "},
		{"text after the end", []string{end, good}, "hex-after-end line 2"},
		{"no colon", []string{good[1:], end}, "hex-mark line 1"},
		{"a digit that is none", []string{strings.Replace(good, "03", "0G", 1), end}, "hex-digit line 1"},
		{"half a byte", []string{good[:len(good)-1], end}, "hex-digit line 1"},
		{"shorter than it says", []string{":03000000010203"[:11] + "FA", end}, "hex-length line 1"},
		{"unknown type", []string{line(6, 0, 1), end}, "hex-type line 1"},
		{"two bytes on one place", []string{good, line(0, 2, 9), end}, "hex-overlap address 00000002"},
		{"base of one byte", []string{line(4, 0, 8), end}, "hex-length line 1"},
		{"start of two bytes", []string{line(5, 0, 8, 0), end}, "hex-length line 1"},
		{"two starts", []string{line(5, 0, 8, 0, 0, 0), line(3, 0, 0, 0, 0, 0), end}, "hex-start line 2"},
		{"end with data", []string{line(1, 0, 1)}, "hex-length line 1"},
		{"past the address space", []string{line(4, 0, 0xFF, 0xFF), line(0, 0xFFFF, 1, 2), end}, "hex-range line 2"},
	} {
		if _, err := ParseHex([]byte(strings.Join(c.lines, "\n"))); code(err) != c.want {
			t.Errorf("%s: got %q, want %q", c.name, code(err), c.want)
		}
	}
	if _, err := ParseHex(bytes.Repeat([]byte("\n"), 7<<20)); code(err) != "too-large " {
		t.Errorf("seven megabytes of nothing: %v", err)
	}
}

// One bit of any byte of a record of any type, the checksum's own too, is noticed at its line.
func TestEveryRecordsChecksumCounts(t *testing.T) {
	good := []string{line(2, 0, 0x12, 0x34), line(4, 0, 8, 1), line(3, 0, 0, 1, 0, 2), line(0, 0x10, 1, 2, 3), end}
	alternative := append([]string{line(5, 0, 8, 0, 1, 0x40)}, good[3:]...)
	for _, lines := range [][]string{good, alternative} {
		for n, l := range lines {
			for at := 1; at+1 < len(l); at += 2 {
				var b byte
				if _, err := fmt.Sscanf(l[at:at+2], "%02X", &b); err != nil {
					t.Fatal(err)
				}
				for bit := range 8 {
					if at == 1 {
						continue // the length's own: the line is then too long or too short, which is said first
					}
					damaged := slices.Clone(lines)
					damaged[n] = l[:at] + fmt.Sprintf("%02X", b^1<<bit) + l[at+2:]
					if _, err := ParseHex([]byte(strings.Join(damaged, "\n"))); code(err) != fmt.Sprintf("hex-checksum line %d", n+1) {
						t.Fatalf("%s damaged to %s: %v", l, damaged[n], err)
					}
				}
			}
		}
	}
}

// Sizes just under and just over each limit.
func TestHexLimits(t *testing.T) {
	records := func(bytes int) string {
		var out strings.Builder
		for at := 0; at < bytes; at += 255 {
			if at%0x10000 < 255 || at == 0 {
				fmt.Fprintf(&out, "%s\n", line(4, 0, byte(at>>24), byte(at>>16)))
			}
			fmt.Fprintf(&out, "%s\n", line(0, uint16(at), make([]byte, min(255, bytes-at))...))
		}
		return out.String() + end
	}
	if img, err := ParseHex([]byte(records(maxImage))); err != nil || img.Size() != maxImage {
		t.Errorf("the largest image: %d, %v", img.Size(), err)
	}
	if _, err := ParseHex([]byte(records(maxImage + 1))); !strings.HasPrefix(code(err), "too-large line") {
		t.Errorf("a byte more: %v", err)
	}
	blank := func(n int) []byte { return append(bytes.Repeat([]byte("\n"), n-len(end)), end...) }
	if _, err := ParseHex(blank(3 * maxImage)); err != nil {
		t.Errorf("the longest file: %v", err)
	}
	if _, err := ParseHex(blank(3*maxImage + 1)); code(err) != "too-large " {
		t.Errorf("a byte more: %v", err)
	}
}

func TestHexRoundTrip(t *testing.T) {
	for seed := range uint64(60) {
		r := rand.New(rand.NewPCG(seed, 2))
		var img Image
		at := uint64(r.IntN(1 << 20))
		for range 1 + r.IntN(5) {
			data := make([]byte, 1+r.IntN(70000))
			for i := range data {
				data[i] = byte(r.Uint32())
			}
			img.Segments = append(img.Segments, Segment{uint32(at), data})
			at += uint64(len(data) + 1 + r.IntN(1<<18))
		}
		img.HasStart, img.Start, img.segmented = r.IntN(2) == 0, 0, false
		if img.HasStart {
			img.Start, img.segmented = r.Uint32(), r.IntN(2) == 0
		}
		text := WriteHex(img)
		back, err := ParseHex(text)
		if err != nil {
			t.Fatalf("seed %d: %v", seed, err)
		}
		if !bytes.Equal(WriteHex(back), text) || back.Size() != img.Size() || len(back.Gaps()) != len(img.Segments)-1 {
			t.Fatalf("seed %d: came back different", seed)
		}
	}
}

func sampleImage(t testing.TB) Image {
	t.Helper()
	img, err := BuildImage(Header{Target: "HARRIER4", Line: "Marram", Version: "7.0.2"}, 0x08008000, bytes.Repeat([]byte("shingle "), 500))
	if err != nil {
		t.Fatal(err)
	}
	return img
}

func made(t testing.TB, target string, size int) Image {
	t.Helper()
	img, err := MadeUp(Header{Target: target, Line: "Marram", Version: "7.0.2"}, size)
	if err != nil {
		t.Fatal(err)
	}
	return img
}

// The generator makes an image for every board that is known, up to the last byte of its flash, and not one more.
func TestMadeUpImagesFitTheirBoards(t *testing.T) {
	all, err := memories()
	if err != nil || len(all) < 6 {
		t.Fatalf("only %d targets, %v", len(all), err)
	}
	for target := range all {
		m, err := MemoryOf(target)
		if err != nil {
			t.Fatal(err)
		}
		for _, size := range []int{1, 5000, m.Room() - HeaderSize} {
			img, err := ParseHex(WriteHex(made(t, target, size)))
			if err != nil {
				t.Fatal(err)
			}
			if h, err := img.ForBoard(target); err != nil || h.Target != target || img.Size() != size+HeaderSize {
				t.Errorf("%s with %d bytes: %+v, %v", target, size, h, err)
			}
		}
		if _, err := made(t, target, m.Room()-HeaderSize+1).ForBoard(target); code(err) != fmt.Sprintf("hex-range address %08X", m.Start()) {
			t.Errorf("%s takes a byte too much: %v", target, err)
		}
	}
}

func TestForBoard(t *testing.T) {
	img := sampleImage(t)
	h, err := img.ForBoard("HARRIER4")
	if err != nil || h.Version != "7.0.2" || h.CRC != crc32.ChecksumIEEE(img.Segments[0].Data[HeaderSize:]) {
		t.Errorf("a sound image: %+v, %v", h, err)
	}
	at := func(address uint32) Image {
		m := img
		m.Segments = []Segment{{address, img.Segments[0].Data}}
		return m
	}
	damaged := at(0x08008000)
	damaged.Segments[0].Data = bytes.Clone(damaged.Segments[0].Data)
	damaged.Segments[0].Data[100] ^= 1
	for _, c := range []struct {
		name   string
		img    Image
		target string
		want   string
	}{
		{"another board's", img, "OLDPIER", "target-mismatch "},
		{"over the bootloader", at(0x08007F00), "HARRIER4", "hex-bootloader address 08007F00"},
		{"outside the flash", at(0x0807FF00), "HARRIER4", "hex-range address 0807FF00"},
		{"a byte changed after the header was made", damaged, "HARRIER4", "hex-crc "},
		{"larger than the board", made(t, "OLDPIER", 0x20000), "OLDPIER", "hex-range address 08004000"},
		{"below the flash", at(0x07FFF000), "HARRIER4", "hex-range address 07FFF000"},
		{"a board that is not known", img, "NOWHERE", "unknown-board parts.board.target"},
		{"no header", Image{Segments: []Segment{{0x08008000, make([]byte, 500)}}}, "HARRIER4", "hex-no-header address 08008000"},
		{"nothing", Image{}, "HARRIER4", "hex-no-header "},
	} {
		if _, err := c.img.ForBoard(c.target); code(err) != c.want {
			t.Errorf("%s: got %q, want %q", c.name, code(err), c.want)
		}
	}
	if _, err := BuildImage(Header{Target: strings.Repeat("x", 21)}, 0, nil); code(err) != "header-words " {
		t.Errorf("a target too long: %v", err)
	}
}

func FuzzParseHex(f *testing.F) {
	f.Add(WriteHex(sampleImage(f)))
	f.Add([]byte(line(4, 0, 0xFF, 0xFF) + "\n" + end))
	f.Add([]byte(":"))
	f.Fuzz(func(t *testing.T, text []byte) {
		img, err := ParseHex(text)
		if err != nil {
			if quad.AsFault(err) == nil {
				t.Errorf("%v is not a fault", err)
			}
			return
		}
		_, _ = img.ForBoard("HARRIER4")
		back, err := ParseHex(WriteHex(img))
		if err != nil || back.Size() != img.Size() {
			t.Errorf("what was read does not come back: %v", err)
		}
	})
}
