package app

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"vividperch/core/book"
	"vividperch/core/check"
	"vividperch/core/quad"
)

// BackView is the pilot's last act on a quad, and whether it can be taken back.
type BackView struct {
	Words   string `json:"words"`   // what it was; empty where there is none
	Asks    bool   `json:"asks"`    // a reason is wanted, and stays
	Against string `json:"against"` // why it cannot be taken back, as a sentence, or nothing
	Fresh   bool   `json:"fresh"`   // it was made a short while ago
}

// fresh is how long an act is offered to be taken back unasked.
const fresh = 30 * time.Minute

// act is the last thing that was done to a quad: the last act of its draft, or entries that were made together.
type act struct {
	draft   bool
	entries []book.Entry // as they were kept
	at      time.Time
}

// byHand says whether an entry stands and tells of something that the pilot did in this program: what was soldered on the bench is soldered,
// whatever the book says.
func byHand(e book.Entry) bool {
	if w, err := e.Withdrawal(); w != nil || err != nil {
		return false
	}
	var h check.Happened
	return e.Kind != book.KindEvent || json.Unmarshal(e.Body, &h) == nil && !h.Bench
}

// lastAct of a quad, besides what was withdrawn.
func (o *opened) lastAct() act {
	var last book.Entry
	for _, e := range o.file.Newest {
		if e.ID > last.ID && byHand(e) {
			last = e
		}
	}
	if l := o.file.Latest; l.ID > last.ID && !slices.Contains(book.Newest, l.Kind) {
		last = l
	}
	if n := len(o.file.Edits); n > 0 && o.file.Edits[n-1].Since >= last.ID {
		return act{draft: true, at: o.file.Latest.At}
	}
	if last.ID == 0 {
		return act{}
	}
	out := act{entries: []book.Entry{last}, at: last.At}
	for _, e := range o.file.Newest {
		if e.ID != last.ID && e.At.Equal(last.At) && byHand(e) {
			out.entries = append(out.entries, e)
		}
	}
	return out
}

// kept says what a kind of entry is, of those that are not taken back.
var kept = map[string]string{
	book.KindBoard: "reading the board", book.KindMark: "identifying the board", book.KindFlight: "a flight in the book", book.KindCorrection: "a flight's correction", book.KindBackup: "saving the board's settings",
	book.KindTag: "a revision's tag", book.KindPhoto: "a photo", book.KindTrack: "a strength over distance", book.KindChoice: "a choice at the carry-over",
}

// againstWithdrawing an act, as a sentence, or nothing.
func (v act) againstWithdrawing() string {
	for _, e := range v.entries {
		switch {
		case slices.Contains(book.Withdrawable, e.Kind):
		case e.Kind == book.KindFlight:
			return "The last act was a flight in the book: it is corrected there."
		default:
			return fmt.Sprintf("The last act was %s: it is not taken back by a key.", kept[e.Kind])
		}
	}
	return ""
}

// asks says whether taking an act back wants a reason: what a pilot answers for is not taken back in silence.
func (v act) asks() bool {
	return slices.ContainsFunc(v.entries, func(e book.Entry) bool { return e.Kind == book.KindSignature || e.Kind == book.KindEvent })
}

// titleOf an entry in words. leaves are those of the readings.
func titleOf(e book.Entry, leaves []quad.Leaf) string {
	switch e.Kind {
	case book.KindReading:
		i := slices.IndexFunc(leaves, func(l quad.Leaf) bool { return string(l.Path) == e.Name })
		if i < 0 {
			return "a reading"
		}
		return leaves[i].Label + ", " + readingWords(leaves[i])
	case book.KindSignature:
		return "the signature at " + check.Station(e.Name).Info().Name
	case book.KindEvent:
		return check.Event(e.Name).Words()
	case book.KindRelease:
		return "the release"
	case book.KindAcceptance:
		return "an acceptance"
	}
	return kept[e.Kind]
}

func (a *App) backView(o *opened, undo string, leaves []quad.Leaf) BackView {
	v := o.lastAct()
	if v.draft {
		return BackView{Words: undo, Fresh: true}
	}
	if len(v.entries) == 0 {
		return BackView{}
	}
	words := titleOf(v.entries[0], leaves)
	if n := len(v.entries) - 1; n > 0 {
		words += ", and " + quad.Number(float64(n)) + " more"
	}
	return BackView{Words: words, Asks: v.asks(), Against: v.againstWithdrawing(), Fresh: a.now().Sub(v.at) < fresh}
}

// TakeBack the pilot's last act: the last of the draft, or what was measured, signed, accepted or noted last. seen is what he saw of the quad.
func (a *App) TakeBack(ctx context.Context, id int64, seen, why string) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	if err := o.asSeen(seen); err != nil {
		return nil, err
	}
	v := o.lastAct()
	switch against := v.againstWithdrawing(); {
	case v.draft:
		return a.Undo(ctx, id, o.file.Version)
	case len(v.entries) == 0:
		return nil, quad.Faultf("nothing-to-undo", "", "there is nothing that could be taken back")
	case against != "":
		return nil, quad.Faultf("not-withdrawable", "", "%s", strings.TrimSuffix(against, "."))
	}
	if strings.TrimSpace(why) == "" && !v.asks() {
		why = "taken back at once"
	}
	return a.withdraw(ctx, o, why, v.entries)
}

// Did is what a pilot did that he can withdraw by itself.
type Did string

const (
	Measured Did = "reading"
	Signed   Did = "signature"
	Happened Did = "event"
)

// Withdraw what counts of a kind and name, with the reason, which stays: a reading, a signature, something that happened.
func (a *App) Withdraw(ctx context.Context, id int64, kind Did, name, seen, why string) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	if err := o.asSeen(seen); err != nil {
		return nil, err
	}
	return a.withdraw(ctx, o, why, []book.Entry{{Kind: string(kind), Name: name}})
}

func (a *App) withdraw(ctx context.Context, o *opened, why string, list []book.Entry) (*QuadView, error) {
	why = strings.TrimSpace(why)
	if why == "" || quad.Longer(why, 200) {
		return nil, quad.Faultf("no-reason", "why", "say why in up to 200 characters: it stays beside what was withdrawn")
	}
	c := book.Change{Seen: o.file.Seen()}
	for _, e := range list {
		past, err := a.past(ctx, o.file.ID, e.Kind, e.Name)
		if err != nil {
			return nil, err
		}
		w, err := book.Withdraw(past, why, a.who, a.now())
		if err != nil {
			return nil, err
		}
		c.Entries = append(c.Entries, w)
	}
	return a.draft(ctx, o.file.ID, c)
}

// past entries of a kind and name, newest first, as far back as is needed to know what counted before the one that counts.
func (a *App) past(ctx context.Context, id int64, kind, name string) ([]book.Entry, error) {
	var all []book.Entry
	for before := int64(0); ; {
		list, err := a.keep.EntriesOf(ctx, a.pilot, id, kind, name, before, pageLength)
		if err != nil {
			return nil, err
		}
		all = append(all, list...)
		counting, err := book.History(all)
		if err != nil {
			return nil, err
		}
		counting = slices.DeleteFunc(counting, func(p book.Past) bool { return p.Withdrawn != nil })
		if len(counting) > 1 || len(list) < pageLength {
			return all, nil
		}
		before = list[len(list)-1].ID
	}
}

// PastView is one reading of a place among those before and after it.
type PastView struct {
	Words     string         `json:"words"`
	At        time.Time      `json:"at"`
	Counts    bool           `json:"counts"` // it is what is known now
	Withdrawn *WithdrawnView `json:"withdrawn"`
}

// WithdrawnView tells how something was taken back.
type WithdrawnView struct {
	Why string    `json:"why"`
	By  string    `json:"by"`
	At  time.Time `json:"at"`
}

func withdrawnView(w *book.Withdrawal) *WithdrawnView {
	if w == nil {
		return nil
	}
	return &WithdrawnView{w.Why, w.By, w.At}
}

// HistoryPage is what was measured at one place, newest first.
type HistoryPage struct {
	Past []PastView `json:"past"`
	More bool       `json:"more"`
}

// History of one reading, the newest of it: what is withdrawn stands there as well, and why.
func (a *App) History(ctx context.Context, id int64, path quad.Path) (*HistoryPage, error) {
	list, err := a.keep.EntriesOf(ctx, a.pilot, id, book.KindReading, string(path), 0, pageLength+1)
	if err != nil {
		return nil, err
	}
	list, more := page(list)
	past, err := book.History(list)
	if err != nil {
		return nil, err
	}
	v := &HistoryPage{Past: []PastView{}, More: more}
	counts := true
	for _, p := range past {
		v.Past = append(v.Past, PastView{Words: pastWords(path, p.Entry), At: p.At, Counts: counts && p.Withdrawn == nil, Withdrawn: withdrawnView(p.Withdrawn)})
		counts = counts && p.Withdrawn != nil
	}
	return v, nil
}

// pastWords of a reading that was kept; one that no longer fits is told as it was kept.
func pastWords(path quad.Path, e book.Entry) string {
	alone := &opened{}
	if err := alone.takeReading(e); err != nil || len(alone.old) > 0 {
		return quad.Clip(plainWords(e.Body), 120)
	}
	for _, l := range quad.Leaves(alone.known.Readings, "readings") {
		if l.Path == path {
			return readingWords(l)
		}
	}
	return ""
}
