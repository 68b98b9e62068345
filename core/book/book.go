// Package book is what is kept of a quad: its revisions and draft, and the rows that are only ever added:
// readings, read-backs, signatures, events, releases, flights, backups.
package book

import (
	"encoding/json"
	"fmt"
	"time"

	"vividperch/core/quad"
)

// Quad of a pilot: what stands on its cover, and its draft.
type Quad struct {
	ID      int64
	Name    string
	Words   string
	Head    int   // number of the newest revision
	Version int64 // grows with every change; a writer names the one it saw
	Last    int64 // number of its newest entry, 0 when there is none
	Flights int   // how many are noted
	Retired bool  // it flies no more
	Edits   []quad.Edit
	Undone  []quad.Edit
}

// Cover of a quad is what a list of quads goes by: the draft stays shut.
type Cover struct {
	Quad
	// Rests names what of the pilot's own its judgement rests on beside the quad: his limits, his gear, the lines he taught. It changes with
	// any of them.
	Rests string
}

// Entry is a row that is only ever added. The newest of a kind and name counts.
type Entry struct {
	ID   int64
	Kind string
	Name string
	Body json.RawMessage
	At   time.Time
}

// Newest kinds: of each name only the newest entry counts.
var Newest = []string{KindReading, KindBoard, KindMark, KindSignature, KindAcceptance, KindEvent, KindRelease}

// Kinds of entries.
const (
	KindReading    = "reading"
	KindBoard      = "board"
	KindMark       = "mark" // of the board that is the quad's own
	KindSignature  = "signature"
	KindEvent      = "event"      // named by what happened: readings fall by the newest of its kind
	KindRelease    = "release"    // named by its scope
	KindFlight     = "flight"     // never loaded with the others
	KindCorrection = "correction" // of a flight, named by its time; the newest counts. Never loaded with the others
	KindBackup     = "backup"     // never loaded with the others
	KindAcceptance = "acceptance"
	KindTag        = "tag"   // of a revision, named by its number; the newest counts
	KindPhoto      = "photo" // never loaded with the others
	KindTrack      = "track" // points of strength over distance beside a reading; the newest counts. Never loaded with the others
	// KindChoice is a decision of a carry-over, named by the review and the setting; the newest counts. Never loaded with
	// the others.
	KindChoice = "choice"
)

// File is a quad with its newest revision and its entries.
type File struct {
	Quad
	Body   []byte  // canonical, of the head revision
	Newest []Entry // of each name of each kind in [Newest], in the order they were made
	Latest Entry   // the newest of all, without what it holds; empty where there is none
	Wants  []byte  // what the pilot wants of every quad, as JSON
	// Taught are the dictionaries that the pilot taught, as files, by line.
	Taught map[string]string
	Others []Other // the pilot's other quads, without what they hold
}

// Other quad of a pilot. Where it is only told that there is one, what it holds is left out.
type Other struct {
	ID      int64
	Name    string
	Version int64
	Body    []byte // canonical, of the head revision
	Edits   []quad.Edit
}

// Owner is one of a pilot's quads with the mark of its own board; none is empty.
type Owner struct {
	Quad int64
	Name string
	Mark []byte
}

// Seen names what somebody saw of a quad who looked at it like this: it changes with the draft and with
// every entry.
func (q Quad) Seen() string { return fmt.Sprintf("%d.%d", q.Version, q.Last) }

// Change is what one act of a pilot writes, all of it or nothing.
type Change struct {
	Version int64 // the quad's version that the act was based on
	// Seen, when it is not empty, is what the pilot saw who answers for the act: the quad must stand like that.
	Seen string
	// Edits and Undone replace the draft when SetDraft is set.
	SetDraft bool
	Edits    []quad.Edit
	Undone   []quad.Edit
	// Revision is a new head, canonical; the draft is then empty.
	Revision []byte
	Why      string
	Who      string // saved it; wanted with a Revision
	Entries  []Entry
}

// Revision is one saved state.
type Revision struct {
	Number int
	Hash   string
	Why    string
	Who    string
	At     time.Time
	Body   []byte
}

// Whole is everything that is kept of a quad: all revisions and all entries, oldest first.
type Whole struct {
	Quad
	Made      time.Time
	Taught    map[string]string    // dictionaries that the pilot taught for its lines, as files, by line
	Packs     map[string]quad.Pack // that are on it, for whoever has none of the name; told only where it is brought
	Revisions []Revision
	Entries   []Entry
}

// Dictionary that a pilot taught for a firmware line.
type Dictionary struct {
	Line    string
	Body    string // the file
	Version int64
	At      time.Time
}

// ErrDictionaryChanged is returned where somebody else changed a dictionary since it was read.
var ErrDictionaryChanged = quad.Faultf("changed", "", "the dictionary was changed in another window; look at it again")

// OwnPart is an entry of a pilot's own catalogue.
type OwnPart struct {
	Kind string
	Name string
	Body string // the entry as JSON
	At   time.Time
}

// ErrPartsChanged is returned where somebody else changed a pilot's own parts since they were read.
var ErrPartsChanged = quad.Faultf("changed", "", "your parts were changed in another window; look at them again")

// ErrNoQuad is returned where the pilot has no such quad.
var ErrNoQuad = quad.Faultf("no-quad", "", "there is no such quad")

// ErrNoRevision is returned where the quad has no revision of that number.
var ErrNoRevision = quad.Faultf("no-revision", "", "there is no revision of that number")

// ErrNoEntry is returned where the quad has no such entry.
var ErrNoEntry = quad.Faultf("no-entry", "", "there is no such thing in the book")

// ErrChanged is returned where somebody else changed the quad since it was read.
var ErrChanged = quad.Faultf("changed", "", "the quad was changed in another window; look at it again")
