// Package app holds the use cases: what a pilot does. It declares the interfaces it needs, in core types
// only, and keeps no truth of its own: what a call confirmed is in the database before it returns.
package app

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"encoding/json"
	"slices"
	"time"

	"vividperch/core/book"
	"vividperch/core/check"
	"vividperch/core/firmware"
	"vividperch/core/proof"
	"vividperch/core/quad"
	"vividperch/core/site"
)

// Keeper keeps what a pilot did.
type Keeper interface {
	Covers(ctx context.Context, pilot int64) ([]book.Cover, error)
	Load(ctx context.Context, pilot, id int64) (book.File, error)
	Whole(ctx context.Context, pilot, id int64) (book.Whole, error)
	Bring(ctx context.Context, pilot int64, w book.Whole) (int64, error)
	Fleet(ctx context.Context, pilot int64, only ...int64) ([]book.Other, error)
	Act(ctx context.Context, pilot, id int64, c book.Change) (version int64, head int, err error)
	Retire(ctx context.Context, pilot, id, version int64, retired bool) error
	Delete(ctx context.Context, pilot, id, version int64) error
	Revisions(ctx context.Context, pilot, id int64, before, most int) ([]book.Revision, error)
	Revision(ctx context.Context, pilot, id int64, number int) (book.Revision, error)
	Wants(ctx context.Context, pilot int64) (wants []byte, version int64, err error)
	SetWants(ctx context.Context, pilot, version int64, wants []byte) error
	Entries(ctx context.Context, pilot, id int64, kind string, before int64, most int) ([]book.Entry, error)
	EntriesOf(ctx context.Context, pilot, id int64, kind, name string, before int64, most int) ([]book.Entry, error)
	NewestOf(ctx context.Context, pilot, id int64, kind, prefix string) ([]book.Entry, error)
	NewestNamed(ctx context.Context, pilot, id int64, kind string, names []string) ([]book.Entry, error)
	Titles(ctx context.Context, pilot, id int64, kind string) ([]book.Entry, error)
	Entry(ctx context.Context, pilot, id, entry int64) (book.Entry, error)
	Owners(ctx context.Context, pilot, but int64) ([]book.Owner, error)
	Dictionaries(ctx context.Context, pilot int64) ([]book.Dictionary, error)
	SetDictionary(ctx context.Context, pilot int64, d book.Dictionary) error
	PartsVersion(ctx context.Context, pilot int64) (int64, error)
	OwnParts(ctx context.Context, pilot int64) (parts []book.OwnPart, version int64, err error)
	ChangeOwnParts(ctx context.Context, pilot, version int64, put, drop []book.OwnPart) error
	Packs(ctx context.Context, pilot int64) (packs []book.Pack, version int64, err error)
	AdoptPacks(ctx context.Context, pilot int64, packs map[string]quad.Pack) error
	SetPack(ctx context.Context, pilot, version int64, name string, told quad.Pack) error
	MeasurePack(ctx context.Context, pilot, version int64, name string, m book.PackMeasured, at time.Time) error
	WithdrawPackReading(ctx context.Context, pilot, version int64, name string, reading int64, why string) error
	ForgetPack(ctx context.Context, pilot, version int64, name string) error
	Sites(ctx context.Context, pilot int64) ([]book.Site, error)
	Site(ctx context.Context, pilot, id int64) (book.Site, error)
	SiteNamed(ctx context.Context, pilot int64, name string) (book.Site, error)
	AddSite(ctx context.Context, pilot int64, name string, m site.Map) (id int64, err error)
	ChangeSite(ctx context.Context, pilot, id, version int64, m site.Map) error
	ForgetSite(ctx context.Context, pilot, id, version int64) error
	KnownColumns(ctx context.Context, pilot int64, purpose, heads string) ([]byte, error)
	LearnColumns(ctx context.Context, pilot int64, purpose, heads string, columns []byte) error
	Lease(ctx context.Context, pilot int64, device, owner string, length time.Duration) (bool, error)
	EndLease(ctx context.Context, device, owner string) error
}

// App serves one pilot.
type App struct {
	keep         Keeper
	pilot        int64
	who          string
	now          func() time.Time
	bench        *Bench
	runs         runCache
	emptiedPacks emptiedCache
	lines        lineCache
	fleet        neighbours
	shelf        shelf
	judged       judgedQuads
}

// New app. The clock is an argument so that tests can move it; bench may be nil.
func New(keep Keeper, pilot int64, who string, now func() time.Time) *App {
	return &App{keep: keep, pilot: pilot, who: who, now: now}
}

// boardEntry is how a read-back is kept, and a saved settings list.
type boardEntry struct {
	quad.Identity
	Settings map[string]string `json:"settings"`
	// Before is what the board was and held before its last change of board, line or version.
	Before *firmware.Before `json:"before,omitempty"`
}

func (b boardEntry) board(taught map[string]string, at time.Time) quad.Board {
	r := firmware.ReadBack{Is: b.Identity, Settings: b.Settings, Taught: taught[b.Line], At: at}
	if b.Before != nil {
		r.Before = *b.Before
	}
	return firmware.Board(r)
}

// opened is a quad with everything worked out that the use cases go by.
type opened struct {
	file     book.File
	saved    quad.Meant       // the head revision
	known    quad.Known       // with the draft's edits
	events   []check.Happened // the newest of each kind: readings fall by it
	signed   map[check.Station]proof.Signature
	accepted []proof.Acceptance
	releases []Release        // the newest of each scope
	before   *firmware.Before // what the board was before its last change of board, line or version
	mark     quad.Mark        // of the quad's own board, as far as it is known
	old      []oldReading     // readings that do not fit any more
}

func (a *App) open(ctx context.Context, id int64) (*opened, error) {
	f, err := a.keep.Load(ctx, a.pilot, id)
	if err != nil {
		return nil, err
	}
	o, err := openFile(f)
	if err != nil {
		return nil, err
	}
	o.known.Fleet, err = a.fleet.of(ctx, f.Others, a.others)
	return o, err
}

func openFile(f book.File) (*opened, error) {
	o := &opened{file: f, signed: map[check.Station]proof.Signature{}}
	var err error
	if o.saved, err = quad.ReadMeant(f.Body); err != nil {
		return nil, err
	}
	meant, err := quad.Apply(o.saved, f.Edits)
	if err != nil {
		return nil, err
	}
	o.known = quad.Known{Sheet: meant.Sheet, Parts: meant.Parts, Radio: meant.Radio, Limits: meant.Limits}
	if err := json.Unmarshal(f.Wants, &o.known.Pilot); err != nil {
		return nil, err
	}
	var counting []book.Entry
	for _, e := range f.Newest {
		e, counts, err := e.Counting()
		if err != nil {
			return nil, err
		}
		if counts {
			counting = append(counting, e)
		}
	}
	if counting, err = asKeptNow(counting); err != nil {
		return nil, err
	}
	for _, e := range counting {
		if err := o.take(e); err != nil {
			return nil, err
		}
	}
	o.replaced()
	return o, nil
}

func (o *opened) take(e book.Entry) error {
	switch e.Kind {
	case book.KindReading:
		return o.takeReading(e)
	case book.KindBoard:
		var b boardEntry
		if err := json.Unmarshal(e.Body, &b); err != nil {
			return err
		}
		o.known.Board, o.before = b.board(o.file.Taught, e.At), b.Before
	case book.KindMark:
		return json.Unmarshal(e.Body, &o.mark)
	case book.KindSignature:
		var s proof.Signature
		if err := json.Unmarshal(e.Body, &s); err != nil {
			return err
		}
		o.signed[s.Station] = s
	case book.KindAcceptance:
		var a proof.Acceptance
		if err := json.Unmarshal(e.Body, &a); err != nil {
			return err
		}
		o.accepted = append(o.accepted, a)
	case book.KindEvent:
		var h check.Happened
		if err := json.Unmarshal(e.Body, &h); err != nil {
			return err
		}
		o.events = append(o.events, h)
	case book.KindRelease:
		var r Release
		if err := json.Unmarshal(e.Body, &r); err != nil {
			return err
		}
		o.releases = append(o.releases, r)
	}
	return nil
}

// takeReading puts a reading into what is known, when it still fits. One that does not is shown as old: no rule sees it.
func (o *opened) takeReading(e book.Entry) error {
	var kept struct {
		Value json.RawMessage `json:"value"`
	}
	path := quad.Path(e.Name)
	if err := json.Unmarshal(e.Body, &kept); err != nil {
		return quad.DecodeFault(err, e.Name)
	}
	why := quad.Admit(path, kept.Value)
	if why == nil {
		return quad.Set(&o.known, path, e.Body)
	}
	o.old = append(o.old, oldReading{path, kept.Value, e.At, quad.Sentence(quad.AsFault(why).Sentence)})
	return nil
}

// oldReading is one that does not fit any more.
type oldReading struct {
	path  quad.Path
	value json.RawMessage
	at    time.Time
	why   string
}

func (a *App) standings(o *opened) []proof.Standing { return o.standingsAt(a.now()) }

func (o *opened) standingsAt(now time.Time) []proof.Standing {
	return proof.Standings(proof.Case{Known: o.known, Context: check.Context{Now: now, Events: o.events}, Signatures: o.signed, Accepted: o.accepted})
}

// entry of some kind, now.
func (a *App) entry(kind, name string, body any) (book.Entry, error) {
	raw, err := json.Marshal(body)
	if err != nil {
		return book.Entry{}, quad.Faultf("not-finite", name, "holds a figure that is not a number")
	}
	return book.Entry{Kind: kind, Name: name, Body: raw, At: a.now()}, nil
}

// settle adds to a change the revision that an edited draft must become before anything relies on it, and
// gives the number that the change's entries belong to.
func (a *App) settle(o *opened, c *book.Change, why string) (int, error) {
	if len(o.file.Edits) == 0 {
		return o.file.Head, nil
	}
	body, err := quad.Canonical(o.known.Meant())
	if err != nil {
		return 0, err
	}
	c.Version, c.Revision, c.Why, c.Who = o.file.Version, body, why, a.who
	return o.file.Head + 1, nil
}

func (a *App) write(ctx context.Context, id int64, c book.Change) error {
	if a.bench != nil && slices.ContainsFunc(c.Entries, func(e book.Entry) bool { return e.Kind == book.KindMark }) {
		defer a.bench.distrust() // it may be another quad's board now that turns
	}
	for i := range c.Entries {
		c.Entries[i].At = c.Entries[0].At // what was made in one act is known by its time
	}
	_, _, err := a.keep.Act(ctx, a.pilot, id, c)
	return err
}

func token() string {
	var b [16]byte
	if _, err := rand.Read(b[:]); err != nil {
		panic(err) // the system has no randomness: nothing safe can be done
	}
	return hex.EncodeToString(b[:])
}
