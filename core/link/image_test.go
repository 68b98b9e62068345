package link

import (
	"strings"
	"testing"

	"vividperch/core/firmware"
	"vividperch/core/quad"
)

func imageText(t testing.TB, of Image) []byte {
	t.Helper()
	img, err := BuildImage(of, 0x1000, []byte(strings.Repeat("program ", 40)))
	if err != nil {
		t.Fatal(err)
	}
	return firmware.WriteHex(img)
}

// sound is an image that fits the quad of linked.
var soundImage = Image{End: EndReceiver, Target: "TW-DART", Link: "Tidewire", Version: "6.2.0", Region: "Boathouse"}

func linked() quad.Meant {
	var m quad.Meant
	m.Parts.Receiver = quad.Receiver{Link: "Tidewire", Version: "6.1.0", Target: "TW-DART", Region: "Boathouse"}
	m.Parts.RadioModule = quad.RadioModule{Link: "Tidewire", Version: "6.2.1", Target: "TW-ESTUARY", Region: "Boathouse"}
	m.Sheet.Link.Phrase = "low tide"
	return m
}

// An image comes back as it was built, whichever end it is for.
func TestImagesComeBack(t *testing.T) {
	for _, of := range []Image{soundImage, {End: EndModule, Target: "GR-1", Link: "Groyne", Version: "2.0.11", Print: "AB2Z"}} {
		got, err := ReadImage(imageText(t, of))
		if err != nil {
			t.Fatal(err)
		}
		got.Bytes, got.CRC = 0, 0
		if got != of {
			t.Errorf("built %+v, read %+v", of, got)
		}
	}
}

// What is no image for an end of a link is refused with what it is.
func TestImagesThatAreNone(t *testing.T) {
	board, err := firmware.BuildImage(firmware.Header{Target: "HARRIER4", Line: "Marram", Version: "7.1.0"}, 0, []byte("program"))
	if err != nil {
		t.Fatal(err)
	}
	sound := string(imageText(t, soundImage))
	lines := strings.Split(strings.TrimSpace(sound), "\n")
	payload := firmware.WriteHex(firmware.Image{Segments: []firmware.Segment{{Address: 0, Data: []byte(strings.Repeat("nothing of the kind ", 10))}}})
	other, err := BuildImage(soundImage, 0, []byte("program"))
	if err != nil {
		t.Fatal(err)
	}
	other.Segments[0].Data[8] = 'X'
	damaged, err := BuildImage(soundImage, 0, []byte("program"))
	if err != nil {
		t.Fatal(err)
	}
	damaged.Segments[0].Data[firmware.HeaderSize] ^= 1
	for code, text := range map[string]string{
		"image-for-board": string(firmware.WriteHex(board)), "hex-no-header": string(payload), "hex-cut": strings.Join(lines[:3], "\n"), "hex-mark": "an image",
		"hex-crc": string(firmware.WriteHex(damaged)),
	} {
		if _, err := ReadImage([]byte(text)); err == nil || quad.AsFault(err).Code != code {
			t.Errorf("%s: %v", code, err)
		}
	}
	if _, err := ReadImage(firmware.WriteHex(other)); err == nil || quad.AsFault(err).Code != "hex-no-header" {
		t.Errorf("for neither end: %v", err)
	}
}

// An image goes on the part that it is for and on no other; what it makes of the other end and of the phrase is told.
func TestImagesAreJudged(t *testing.T) {
	told, err := Print("low tide")
	if err != nil {
		t.Fatal(err)
	}
	with := func(change func(*Image)) Image { img := soundImage; change(&img); return img }
	for name, c := range map[string]struct {
		img   Image
		quad  func(*quad.Meant)
		fits  bool
		says  string
		with  string
		asked quad.Path
	}{
		"sound":                      {soundImage, nil, true, "It is for this receiver.", "From 6.1.0 to 6.2.0.", ""},
		"the same again":             {with(func(i *Image) { i.Version = "6.1.0" }), nil, true, "", "It is the version that the receiver has", ""},
		"another link":               {with(func(i *Image) { i.Link = "Groyne" }), nil, false, "It is for Groyne; the receiver is Tidewire.", "", ""},
		"other hardware":             {with(func(i *Image) { i.Target = "TW-PLUG" }), nil, false, "never start again", "", ""},
		"hardware that nobody told":  {soundImage, func(m *quad.Meant) { m.Parts.Receiver.Target = "" }, false, "Say what hardware", "", "parts.receiver.target"},
		"another region":             {with(func(i *Image) { i.Region = "Spit" }), nil, false, "for the region Spit", "", ""},
		"a region that nobody told":  {with(func(i *Image) { i.Region = "Spit" }), func(m *quad.Meant) { m.Parts.Receiver.Region = "" }, true, "", "", ""},
		"no version":                 {with(func(i *Image) { i.Version = "newest" }), nil, false, "is no version", "", ""},
		"another major":              {with(func(i *Image) { i.Version = "5.9.0" }), nil, true, "", "The radio module has 6.2.1: another major version does not hear this one. Bring it to 5.x", ""},
		"no phrase":                  {soundImage, nil, true, "", "must be told the shared phrase", ""},
		"no phrase, and none wanted": {soundImage, func(m *quad.Meant) { m.Sheet.Link.Phrase = "" }, true, "", "must be bound anew", ""},
		"the phrase":                 {with(func(i *Image) { i.Print = told.Exact }), nil, true, "", "carries the phrase of your settings", ""},
		"another phrase":             {with(func(i *Image) { i.Print = "AAAA" }), nil, true, "", "would not find each other", ""},
		"the module's":               {with(func(i *Image) { i.End, i.Target = EndModule, "TW-ESTUARY" }), nil, true, "It is for this radio module.", "From 6.2.1 to 6.2.0.", ""},
		"the module's on a receiver": {with(func(i *Image) { i.End = EndModule }), nil, false, "the radio module is TW-ESTUARY", "", ""},
	} {
		m := linked()
		if c.quad != nil {
			c.quad(&m)
		}
		got := c.img.Judge(m)
		if got.Fits != c.fits || !strings.Contains(got.Says, c.says) || !strings.Contains(strings.Join(got.With, " "), c.with) || got.Asks != c.asked {
			t.Errorf("%s: %+v", name, got)
		}
		if strings.Contains(got.Says+strings.Join(got.With, " "), "low tide") {
			t.Errorf("%s: tells the phrase", name)
		}
	}
}

// The facts of every link say how an image gets onto both of its ends; facts that say it wrongly are refused.
func TestWaysOfImages(t *testing.T) {
	for _, name := range Shipped() {
		g, _ := GearOf(name, nil)
		for _, of := range []End{EndReceiver, EndModule} {
			if len(g.FlashWays(of)) == 0 {
				t.Errorf("%s: no way onto the %s", g.Link, of.Words())
			}
		}
	}
	for name, bad := range map[string][]FlashWay{
		"images.1.end": {{End: "radio", Way: FlashByPage, Words: "x", Steps: []string{"y"}}}, "images.1.way": {{End: EndModule, Way: "air", Words: "x", Steps: []string{"y"}}},
		"images.1.words": {{End: EndModule, Way: FlashByPage, Steps: []string{"y"}}}, "images.1.steps": {{End: EndModule, Way: FlashByPage, Words: "x"}},
		"images.1.steps.1": {{End: EndModule, Way: FlashByPage, Words: "x", Steps: []string{""}}}, "images": make([]FlashWay, 13),
	} {
		g, _ := GearOf("Tidewire", nil)
		g.Images = bad
		if err := g.check(); err == nil || quad.AsFault(err).Place != name {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// Whatever a file holds, it is read or refused, and judged without a panic.
func FuzzReadImage(f *testing.F) {
	f.Add(imageText(f, soundImage))
	f.Add([]byte(":00000001FF"))
	f.Fuzz(func(t *testing.T, text []byte) {
		img, err := ReadImage(text)
		if err != nil {
			return
		}
		img.Judge(linked())
		img.Judge(quad.Meant{})
	})
}
