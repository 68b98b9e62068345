package book

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"time"
	"unicode/utf8"

	"vividperch/core/quad"
)

// ArchiveFormat is the number of the archive's form that this program writes. Format 2 added dictionaries; one without
// any is what format 1 was. Format 3 added entries that are withdrawn and flights that are corrected.
const ArchiveFormat = 3

// ArchiveLimit is the largest archive that is read, bytes.
const ArchiveLimit = 32 << 20

// Most things that an archive may hold.
const (
	mostRevisions = 5_000
	mostEntries   = 50_000
	mostTaught    = 20
)

// Archive is a whole quad as one JSON document. What it judged is there for whoever reads it without the
// program; on reading it is judged anew.
type Archive struct {
	Archive   string            `json:"archive"` // always "quad"
	Format    int               `json:"format"`
	Name      string            `json:"name"`
	Words     string            `json:"words"`
	Made      time.Time         `json:"made"`
	Head      int               `json:"head"`
	Edits     []quad.Edit       `json:"edits"`
	Undone    []quad.Edit       `json:"undone"`
	Revisions []ArchiveRevision `json:"revisions"`
	Entries   []ArchiveEntry    `json:"entries"`
	// Dictionaries that a pilot taught for the lines of this quad, as files, by line.
	Dictionaries map[string]string `json:"dictionaries,omitempty"`
	Judged       json.RawMessage   `json:"judged,omitempty"`
}

// ArchiveRevision is a revision with its canonical content.
type ArchiveRevision struct {
	Number int             `json:"number"`
	Hash   string          `json:"hash"`
	Who    string          `json:"who"`
	Why    string          `json:"why"`
	At     time.Time       `json:"at"`
	Meant  json.RawMessage `json:"meant"`
}

// ArchiveEntry is an entry.
type ArchiveEntry struct {
	Kind string          `json:"kind"`
	Name string          `json:"name"`
	At   time.Time       `json:"at"`
	Body json.RawMessage `json:"body"`
}

// WithoutPrivate gives the whole quad without phrases and home coordinates.
func (w Whole) WithoutPrivate() (Whole, error) {
	out := w
	out.Edits, out.Undone, out.Revisions, out.Entries = nil, nil, nil, nil
	for _, r := range w.Revisions {
		body, err := quad.WithoutPrivate(r.Body)
		if err != nil {
			return out, err
		}
		r.Body, r.Hash = body, quad.Hash(body)
		out.Revisions = append(out.Revisions, r)
	}
	for _, e := range w.Edits {
		out.Edits = append(out.Edits, e.WithoutPrivate())
	}
	for _, e := range w.Undone {
		out.Undone = append(out.Undone, e.WithoutPrivate())
	}
	for _, e := range w.Entries {
		if e.Kind == KindReading && quad.Private(quad.Path(e.Name)) {
			continue
		}
		if e.Kind == KindBackup {
			e.Body = withoutText(e.Body)
		}
		out.Entries = append(out.Entries, e)
	}
	return out, nil
}

// withoutText of a list as it was brought in: what a pilot or a program noted in it beside the settings is nobody else's.
func withoutText(body json.RawMessage) json.RawMessage {
	var held map[string]json.RawMessage
	if json.Unmarshal(body, &held) != nil || held["text"] == nil {
		return body
	}
	delete(held, "text")
	if without, err := json.Marshal(held); err == nil {
		return without
	}
	return body
}

// NewArchive of a whole quad. judged is what the program says of just that, as JSON, or nil.
func NewArchive(w Whole, judged json.RawMessage) Archive {
	a := Archive{
		Archive: "quad", Format: ArchiveFormat, Name: w.Name, Words: w.Words, Made: w.Made, Head: w.Head, Dictionaries: w.Taught, Judged: judged,
		Edits: unnumbered(w.Edits), Undone: unnumbered(w.Undone),
		Revisions: []ArchiveRevision{}, Entries: []ArchiveEntry{},
	}
	for _, r := range w.Revisions {
		a.Revisions = append(a.Revisions, ArchiveRevision{r.Number, r.Hash, r.Who, r.Why, r.At, r.Body})
	}
	for _, e := range w.Entries {
		a.Entries = append(a.Entries, ArchiveEntry{e.Kind, e.Name, e.At, e.Body})
	}
	return a
}

// unnumbered edits: numbers of a book mean nothing outside of it.
func unnumbered(edits []quad.Edit) []quad.Edit {
	out := append([]quad.Edit{}, edits...)
	for i := range out {
		out[i].Since = 0
	}
	return out
}

// Write the archive: the same content always gives the same bytes.
func (a Archive) Write() ([]byte, error) {
	var out bytes.Buffer
	enc := json.NewEncoder(&out)
	enc.SetEscapeHTML(false) // what is kept comes out as it is
	if err := enc.Encode(a); err != nil {
		return nil, quad.Faultf("not-finite", "", "holds something that cannot be written: %v", err)
	}
	return out.Bytes(), nil
}

// ReadArchive reads and checks an archive: everything but what only the program's rules can say of it. Faults
// name the place.
func ReadArchive(raw []byte) (Whole, error) {
	if len(raw) > ArchiveLimit {
		return Whole{}, quad.Faultf("too-large", "", "is larger than %d MB", ArchiveLimit>>20)
	}
	if !utf8.Valid(raw) {
		return Whole{}, quad.Faultf("not-text", "", "is not text")
	}
	var a Archive
	if err := quad.ReadJSON(raw, &a); err != nil {
		return Whole{}, err
	}
	switch {
	case a.Archive != "quad":
		return Whole{}, quad.Faultf("no-archive", "archive", "is not the archive of a quad")
	case a.Format > ArchiveFormat:
		return Whole{}, quad.Faultf("newer-format", "format", "was written by a newer program (archive format %d; this one reads up to %d)", a.Format, ArchiveFormat)
	case a.Format < 1:
		return Whole{}, quad.Faultf("no-format", "format", "has no format number; this program reads 1 to %d", ArchiveFormat)
	case a.Name == "" || quad.Longer(a.Name, 80):
		return Whole{}, quad.Faultf("bad-name", "name", "a quad's name has 1 to 80 characters")
	case quad.Longer(a.Words, 200):
		return Whole{}, quad.Faultf("too-long", "words", "has more than 200 characters")
	case len(a.Revisions) > mostRevisions || len(a.Entries) > mostEntries:
		return Whole{}, quad.Faultf("too-large", "", "holds more than %d revisions or %d entries", mostRevisions, mostEntries)
	case len(a.Revisions) == 0 || a.Head != len(a.Revisions):
		return Whole{}, quad.Faultf("no-revision", "head", "names revision %d, but there are %d", a.Head, len(a.Revisions))
	}
	if len(a.Dictionaries) > mostTaught {
		return Whole{}, quad.Faultf("too-large", "dictionaries", "holds more than %d dictionaries", mostTaught)
	}
	w := Whole{Taught: a.Dictionaries, Quad: Quad{Name: a.Name, Words: a.Words, Head: a.Head, Edits: a.Edits, Undone: a.Undone}, Made: a.Made}
	if err := plausible(a.Made, "made"); err != nil {
		return Whole{}, err
	}
	for i, r := range a.Revisions {
		at := fmt.Sprintf("revisions.%d", i)
		if err := r.check(i+1, at); err != nil {
			return Whole{}, err
		}
		w.Revisions = append(w.Revisions, Revision{r.Number, r.Hash, r.Why, r.Who, r.At, r.Meant})
	}
	for i, e := range a.Entries {
		at := fmt.Sprintf("entries.%d", i)
		if err := e.check(at); err != nil {
			return Whole{}, err
		}
		w.Entries = append(w.Entries, Entry{Kind: e.Kind, Name: e.Name, At: e.At, Body: e.Body})
	}
	return w, nil
}

func (r ArchiveRevision) check(number int, at string) error {
	switch {
	case r.Number != number:
		return quad.Faultf("out-of-order", at+".number", "is %d where %d belongs", r.Number, number)
	case quad.Longer(r.Why, 200) || quad.Longer(r.Who, 80):
		return quad.Faultf("too-long", at, "says why in more than 200 or who in more than 80 characters")
	case quad.Hash(r.Meant) != r.Hash:
		return quad.Faultf("damaged", at+".hash", "does not match its content: the file was changed or damaged")
	}
	if _, err := quad.ReadMeant(r.Meant); err != nil {
		f := quad.AsFault(err)
		return quad.Faultf(f.Code, at+".meant."+f.Place, "%s", f.Sentence)
	}
	return plausible(r.At, at+".at")
}

// Kinds that an archive may hold.
var archived = slices.Concat(Newest, []string{KindFlight, KindCorrection, KindBackup, KindTag, KindPhoto, KindChoice, KindTrack})

func (e ArchiveEntry) check(at string) error {
	switch {
	case !slices.Contains(archived, e.Kind):
		return quad.Faultf("unknown-kind", at+".kind", "is none that this program knows")
	case quad.Longer(e.Name, 190):
		return quad.Faultf("too-long", at+".name", "has more than 190 characters")
	case len(e.Body) == 0:
		return quad.Faultf("missing", at+".body", "is missing")
	}
	return plausible(e.At, at+".at")
}

// plausible times are those the database can keep and a pilot can have lived.
func plausible(t time.Time, at string) error {
	if y := t.Year(); y < 1990 || y > 2200 {
		return quad.Faultf("bad-time", at, "is in the year %d", y)
	}
	return nil
}

// File of a whole quad: its head and what counts of its entries.
func (w Whole) File() File {
	f := File{Quad: w.Quad, Wants: []byte("{}"), Taught: w.Taught}
	if n := len(w.Revisions); n > 0 {
		f.Body = w.Revisions[n-1].Body
	}
	last := map[string]int{}
	for i, e := range w.Entries {
		last[e.Kind+" "+e.Name] = i
	}
	for i, e := range w.Entries {
		if slices.Contains(Newest, e.Kind) && last[e.Kind+" "+e.Name] == i {
			f.Newest = append(f.Newest, e)
		}
	}
	return f
}

// Until is the time of the newest thing that is kept.
func (w Whole) Until() time.Time {
	t := w.Made
	for _, r := range w.Revisions {
		if r.At.After(t) {
			t = r.At
		}
	}
	for _, e := range w.Entries {
		if e.At.After(t) {
			t = e.At
		}
	}
	return t
}
