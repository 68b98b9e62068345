// Package book is what is kept of a quad: its revisions and draft, and the rows that are only ever added:
// readings, read-backs, signatures, events, releases, flights, backups.
package book

import (
	"encoding/json"
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
	Edits   []quad.Edit
	Undone  []quad.Edit
}

// Entry is a row that is only ever added. The newest of a kind and name counts.
type Entry struct {
	ID   int64
	Kind string
	Name string
	Body json.RawMessage
	At   time.Time
}

// Kinds of entries.
const (
	KindReading    = "reading"
	KindBoard      = "board"
	KindSignature  = "signature"
	KindEvent      = "event"
	KindRelease    = "release"
	KindFlight     = "flight"
	KindBackup     = "backup"
	KindAcceptance = "acceptance"
)

// File is a quad with its newest revision and its entries.
type File struct {
	Quad
	Body    []byte  // canonical, of the head revision
	Newest  []Entry // of each reading, the board, each signature and each acceptance
	History []Entry // every event, release and flight, oldest first
}

// Change is what one act of a pilot writes, all of it or nothing.
type Change struct {
	Version int64 // the quad's version that the act was based on
	// Edits and Undone replace the draft when SetDraft is set.
	SetDraft bool
	Edits    []quad.Edit
	Undone   []quad.Edit
	// Revision is a new head, canonical; the draft is then empty.
	Revision []byte
	Why      string
	Entries  []Entry
}

// Revision is one saved state.
type Revision struct {
	Number int
	Hash   string
	Why    string
	At     time.Time
	Body   []byte
}

// ErrNoQuad is returned where the pilot has no such quad.
var ErrNoQuad = quad.Faultf("no-quad", "", "there is no such quad")

// ErrChanged is returned where somebody else changed the quad since it was read.
var ErrChanged = quad.Faultf("changed", "", "the quad was changed in another window; look at it again")
