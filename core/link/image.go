package link

import (
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"slices"
	"strings"

	"vividperch/core/firmware"
	"vividperch/core/quad"
)

// End of a link that firmware is for.
type End string

const (
	EndReceiver End = "receiver"
	EndModule   End = "module"
)

// Words for a sentence.
func (e End) Words() string {
	if e == EndModule {
		return "radio module"
	}
	return "receiver"
}

// Image of firmware for one end of a link, as it tells of itself.
type Image struct {
	End     End    `json:"end" enum:"receiver,module"`
	Target  string `json:"target"` // hardware that it is for
	Link    string `json:"link"`
	Version string `json:"version"`
	Region  string `json:"region"` // empty where there is only one
	// Print is the fingerprint of the shared phrase that it carries, see [Print]; empty for one that carries none.
	Print string `json:"print"`
	Bytes int    `json:"bytes"`
	CRC   uint32 `json:"crc"`
}

// The header of 64 bytes at the lowest address of an image: mark, end, target, link, version, region, print, and the CRC-32 (IEEE) of what
// follows it.
const imageMark = "PERCHLNK"

// fields of the header, from and to.
var imageFields = map[string][2]int{"target": {9, 25}, "link": {25, 37}, "version": {37, 45}, "region": {45, 56}, "print": {56, 60}}

// ReadImage reads an Intel HEX image for a receiver or a radio module. One for a board, without a header, or damaged is a Fault.
func ReadImage(text []byte) (Image, error) {
	img, err := firmware.ParseHex(text)
	if err != nil {
		return Image{}, err
	}
	if len(img.Segments) == 0 || len(img.Segments[0].Data) < firmware.HeaderSize {
		return Image{}, quad.Faultf("hex-no-header", "", "is too small to say what it is for")
	}
	raw := img.Segments[0].Data
	if string(raw[:8]) != imageMark {
		if h, err := img.Header(); err == nil {
			return Image{}, quad.Faultf("image-for-board", "", "is for the board %s, not for a receiver or a radio module; flash it at Firmware", h.Target)
		}
		return Image{}, quad.Faultf("hex-no-header", "", "does not say which receiver or radio module it is for")
	}
	word := func(field string) string {
		at := imageFields[field]
		return strings.Map(func(r rune) rune {
			if r < ' ' || r > '~' {
				return -1
			}
			return r
		}, string(raw[at[0]:at[1]]))
	}
	out := Image{Target: word("target"), Link: word("link"), Version: word("version"), Region: word("region"), Print: word("print"), Bytes: img.Size(), CRC: binary.BigEndian.Uint32(raw[60:64])}
	switch raw[8] {
	case 'R':
		out.End = EndReceiver
	case 'M':
		out.End = EndModule
	default:
		return Image{}, quad.Faultf("hex-no-header", "", "does not say whether it is for a receiver or for a radio module")
	}
	return out, img.CheckPayload(out.CRC)
}

// BuildImage puts a header before a payload. Its words must fit the header.
func BuildImage(of Image, address uint32, payload []byte) (firmware.Image, error) {
	raw := make([]byte, firmware.HeaderSize, firmware.HeaderSize+len(payload))
	copy(raw, imageMark)
	raw[8] = 'R'
	if of.End == EndModule {
		raw[8] = 'M'
	}
	for field, word := range map[string]string{"target": of.Target, "link": of.Link, "version": of.Version, "region": of.Region, "print": of.Print} {
		at := imageFields[field]
		if len(word) > at[1]-at[0] {
			return firmware.Image{}, quad.Faultf("header-words", field, "has more than %d bytes", at[1]-at[0])
		}
		copy(raw[at[0]:at[1]], word)
	}
	binary.BigEndian.PutUint32(raw[60:], crc32.ChecksumIEEE(payload))
	return firmware.Image{Segments: []firmware.Segment{{Address: address, Data: append(raw, payload...)}}}, nil
}

// Judged says whether an image may go on a quad's receiver or its radio's module, and what follows from it.
type Judged struct {
	Fits bool   `json:"fits"`
	Says string `json:"says"`
	// Asks names what must be told before it can be said whether it fits.
	Asks quad.Path `json:"asks,omitempty"`
	// With lists what else must be done, or known, along with it.
	With []string `json:"with"`
}

// Judge an image against a quad: its target, link and region must be those of the part that it is for. What another major version or another
// phrase makes of the other end is told, by the shared phrase that the sheet has.
func (img Image) Judge(m quad.Meant) Judged {
	own, other := ends(m, img.End)
	j := Judged{With: []string{}}
	at := quad.Path("parts.receiver.target")
	if img.End == EndModule {
		at = "parts.radioModule.target"
	}
	name := img.End.Words()
	switch {
	case img.Link != own.link && own.link != "":
		j.Says = fmt.Sprintf("It is for %s; the %s is %s.", orUnknown(img.Link), name, own.link)
		return j
	case own.target == "":
		j.Says, j.Asks = fmt.Sprintf("It is for %s. Say what hardware the %s is, as its label has it: on another one it would never start again.", orUnknown(img.Target), name), at
		return j
	case img.Target != own.target:
		j.Says = fmt.Sprintf("It is for %s; the %s is %s. It would never start again.", orUnknown(img.Target), name, own.target)
		return j
	case img.Region != "" && own.region != "" && img.Region != own.region:
		j.Says = fmt.Sprintf("It is for the region %s; the %s is for %s. Power and channels of another region are not allowed where you fly, and the other end would not hear it.", img.Region, name, own.region)
		return j
	}
	if _, ok := Major(img.Version); !ok {
		j.Says = fmt.Sprintf("%q is no version; they look like 6.0.1.", quad.Clip(img.Version, 20))
		return j
	}
	j.Fits, j.Says = true, fmt.Sprintf("It is for this %s.", name)
	tell := func(format string, args ...any) { j.With = append(j.With, fmt.Sprintf(format, args...)) }
	switch before, after := own.version, img.Version; {
	case before == after:
		tell("It is the version that the %s has: %s.", name, after)
	case before != "":
		tell("From %s to %s.", before, after)
	}
	if mine, _ := Major(img.Version); !hears(mine, other.version) {
		tell("The %s has %s: another major version does not hear this one. Bring it to %s too, or nothing binds.", other.name, other.version, majorWords(img.Version))
	}
	switch wanted := printOf(m.Sheet.Link.Phrase); {
	case img.Print == "" && wanted != "":
		tell("It carries no phrase: after it the %s must be told the shared phrase, or be bound anew.", name)
	case img.Print == "":
		tell("It carries no phrase: after it the %s must be bound anew.", name)
	case wanted == "":
		tell("It carries a phrase, fingerprint %s; the settings have none to compare it with.", img.Print)
	case img.Print != wanted:
		tell("It carries another phrase than your settings have (fingerprint %s, not %s): the two ends would not find each other.", img.Print, wanted)
	default:
		tell("It carries the phrase of your settings, fingerprint %s.", img.Print)
	}
	return j
}

// end of a link, as a quad's parts tell it.
type end struct{ name, link, target, version, region string }

func ends(m quad.Meant, of End) (own, other end) {
	v, r := m.Parts.Receiver, m.Parts.RadioModule
	receiver, module := end{"receiver", v.Link, v.Target, v.Version, v.Region}, end{"radio module", r.Link, r.Target, r.Version, r.Region}
	if of == EndModule {
		return module, receiver
	}
	return receiver, module
}

// hears says whether an end with a version, which may not be told, hears one of a major version.
func hears(major uint64, version string) bool {
	other, told := Major(version)
	return !told || other == major
}

func orUnknown(word string) string {
	if word == "" {
		return "something that it does not name"
	}
	return word
}

func majorWords(version string) string {
	major, _ := Major(version)
	return fmt.Sprintf("%d.x", major)
}

func printOf(phrase string) string {
	p, err := Print(phrase)
	if err != nil {
		return ""
	}
	return p.Exact
}

// FlashWay is how an image gets onto one end of a link, step by step, as the facts of the link tell it.
type FlashWay struct {
	End   End       `json:"end" enum:"receiver,module"`
	Way   FlashKind `json:"way" enum:"page,controller,cable"`
	Words string    `json:"words"`
	Steps []string  `json:"steps"`
}

// FlashKind is by what an image is brought over.
type FlashKind string

const (
	FlashByPage       FlashKind = "page"       // its wireless page
	FlashByController FlashKind = "controller" // through the flight controller's cable
	FlashByCable      FlashKind = "cable"      // a cable of its own
)

// FlashWays of one end, in the order of the facts.
func (g Gear) FlashWays(of End) []FlashWay {
	return slices.DeleteFunc(slices.Clone(g.Images), func(w FlashWay) bool { return w.End != of })
}

func (g Gear) checkImages() error {
	if len(g.Images) > 12 {
		return quad.Faultf("bad-gear", "images", "lists more ways than there are")
	}
	for i, w := range g.Images {
		at := fmt.Sprintf("images.%d", i+1)
		switch {
		case w.End != EndReceiver && w.End != EndModule:
			return quad.Faultf("bad-gear", at+".end", "is %q, but must be receiver or module", quad.Clip(string(w.End), 20))
		case w.Way != FlashByPage && w.Way != FlashByController && w.Way != FlashByCable:
			return quad.Faultf("bad-gear", at+".way", "is %q, but must be page, controller or cable", quad.Clip(string(w.Way), 20))
		case w.Words == "" || quad.Longer(w.Words, 80):
			return quad.Faultf("bad-gear", at+".words", "needs 1 to 80 characters")
		case len(w.Steps) == 0 || len(w.Steps) > 20:
			return quad.Faultf("bad-gear", at+".steps", "needs 1 to 20 steps")
		}
		for n, s := range w.Steps {
			if s == "" || quad.Longer(s, 300) {
				return quad.Faultf("bad-gear", fmt.Sprintf("%s.steps.%d", at, n+1), "needs 1 to 300 characters")
			}
		}
	}
	return nil
}
