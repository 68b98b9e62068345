package book

import (
	"bytes"
	"encoding/json"
	"slices"
	"time"

	"vividperch/core/quad"
)

// Withdrawable are the kinds of entries that can be taken back: what somebody did, and not how something is.
var Withdrawable = []string{KindReading, KindSignature, KindAcceptance, KindEvent, KindRelease}

// Withdrawal stands in the place of the entry of its kind and name that counted until then. Nothing is lost: the one that was taken back stays
// before it, and what had counted before that counts again.
type Withdrawal struct {
	Why string    `json:"why"`
	By  string    `json:"by"`
	At  time.Time `json:"at"`
	// Back is what counts again, and BackAt when that was made; nothing where there was nothing.
	Back   json.RawMessage `json:"back,omitempty"`
	BackAt time.Time       `json:"backAt,omitzero"`
}

// withdrawn is the form of a withdrawal's entry; nothing else begins like it.
type withdrawn struct {
	Withdrawal Withdrawal `json:"withdrawal"`
}

var beginsWithdrawn = []byte(`{"withdrawal":`)

// Withdrawal that an entry is, or nil where it is none.
func (e Entry) Withdrawal() (*Withdrawal, error) {
	if !bytes.HasPrefix(bytes.TrimLeft(e.Body, " \t\r\n"), beginsWithdrawn) {
		return nil, nil
	}
	var w withdrawn
	if err := quad.ReadJSON(e.Body, &w); err != nil {
		return nil, err
	}
	return &w.Withdrawal, nil
}

// Counting is the entry that counts where e is the newest of its name: itself, or what a withdrawal brought back; ok is false where it
// brought back nothing.
func (e Entry) Counting() (counts Entry, ok bool, err error) {
	w, err := e.Withdrawal()
	if w == nil || err != nil {
		return e, err == nil, err
	}
	if len(w.Back) == 0 {
		return Entry{}, false, nil
	}
	return Entry{ID: e.ID, Kind: e.Kind, Name: e.Name, Body: w.Back, At: w.BackAt}, true, nil
}

// Past is an entry of some kind and name among those before and after it.
type Past struct {
	Entry
	// Withdrawn is how it was taken back, or nil.
	Withdrawn *Withdrawal
}

// History of one name: its entries without the withdrawals, newest first, each with how it was taken back. list is newest first and may end
// anywhere.
func History(list []Entry) ([]Past, error) {
	var out []Past
	var open []*Withdrawal // that have not met what they took back
	for _, e := range list {
		w, err := e.Withdrawal()
		if err != nil {
			return nil, err
		}
		if w != nil {
			open = append(open, w)
			continue
		}
		p := Past{Entry: e}
		if n := len(open); n > 0 {
			p.Withdrawn, open = open[n-1], open[:n-1]
		}
		out = append(out, p)
	}
	return out, nil
}

// Withdraw the entry that counts among all of its kind and name, newest first: the entry that says so. Nothing that counts, and a kind
// that cannot be taken back, is a Fault.
func Withdraw(list []Entry, why, by string, at time.Time) (Entry, error) {
	past, err := History(list)
	if err != nil {
		return Entry{}, err
	}
	past = slices.DeleteFunc(past, func(p Past) bool { return p.Withdrawn != nil })
	if len(past) == 0 {
		return Entry{}, quad.Faultf("nothing-to-withdraw", "", "there is nothing that could be withdrawn")
	}
	counts := past[0]
	if !slices.Contains(Withdrawable, counts.Kind) {
		return Entry{}, quad.Faultf("not-withdrawable", "", "this cannot be withdrawn: it is how things are")
	}
	w := withdrawn{Withdrawal{Why: why, By: by, At: at}}
	if len(past) > 1 {
		w.Withdrawal.Back, w.Withdrawal.BackAt = past[1].Body, past[1].At
	}
	raw, err := json.Marshal(w)
	return Entry{Kind: counts.Kind, Name: counts.Name, Body: raw, At: at}, err
}
