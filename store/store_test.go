package store_test

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"sync"
	"testing"
	"time"

	"vividperch/core/book"
	"vividperch/core/quad"
	"vividperch/store"
	"vividperch/store/mariadb"
	"vividperch/store/mariadb/mariadbtest"
)

func TestMain(m *testing.M) { mariadbtest.Main(m) }

func open(t testing.TB) *store.Store {
	t.Helper()
	s, err := store.Open(t.Context(), mariadbtest.Server.DSN, nil)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	return s
}

var body = func() []byte {
	raw, err := quad.Canonical(quad.Meant{})
	if err != nil {
		panic(err)
	}
	return raw
}()

// first state of a quad.
func first(words string) book.Whole {
	return book.Whole{Quad: book.Quad{Name: "Dunlin", Words: words, Head: 1}, Made: time.Now(), Revisions: []book.Revision{{Number: 1, Body: body, Why: "made", Who: "somebody", At: time.Now()}}}
}

func made(t testing.TB, s *store.Store) (pilot, id int64) {
	t.Helper()
	pilot, err := s.Pilot(t.Context(), "a pilot of "+t.Name())
	if err != nil {
		t.Fatal(err)
	}
	id, err = s.Bring(t.Context(), pilot, first("a wader"))
	if err != nil {
		t.Fatal(err)
	}
	return pilot, id
}

func entry(kind, name, value string) book.Entry {
	return book.Entry{Kind: kind, Name: name, Body: json.RawMessage(value), At: time.Now()}
}

func TestActKeepsAllOfIt(t *testing.T) {
	t.Parallel()
	s := open(t)
	pilot, id := made(t, s)
	edit := quad.Edit{Path: "sheet.motors.idle", Before: json.RawMessage("0"), After: json.RawMessage("6")}
	version, head, err := s.Act(t.Context(), pilot, id, book.Change{Version: 1, SetDraft: true, Edits: []quad.Edit{edit}})
	if err != nil || version != 2 || head != 1 {
		t.Fatalf("version %d, head %d, %v", version, head, err)
	}
	f, err := s.Load(t.Context(), pilot, id)
	if err != nil || len(f.Edits) != 1 || string(f.Edits[0].After) != "6" {
		t.Fatalf("%+v, %v", f.Quad, err)
	}
	// A revision empties the draft and comes with its entries.
	version, head, err = s.Act(t.Context(), pilot, id, book.Change{Version: 2, Revision: body, Why: "before signing", Entries: []book.Entry{
		entry(book.KindReading, "readings.airframe.weight", `{"value":700}`), entry(book.KindEvent, "crash", `{"event":"crash"}`),
	}})
	if err != nil || version != 3 || head != 2 {
		t.Fatalf("version %d, head %d, %v", version, head, err)
	}
	if f, _ = s.Load(t.Context(), pilot, id); len(f.Edits) != 0 || len(f.Newest) != 2 || f.Last != f.Newest[1].ID || f.Head != 2 {
		t.Errorf("%+v", f)
	}
	list, err := s.Revisions(t.Context(), pilot, id, 0, 9)
	if err != nil || len(list) != 2 || list[0].Number != 2 || list[0].Hash != quad.Hash(body) {
		t.Errorf("%+v, %v", list, err)
	}
}

// The newest of a name counts, and only it comes back; the older stay where they are.
func TestNewestCounts(t *testing.T) {
	t.Parallel()
	s := open(t)
	pilot, id := made(t, s)
	for i := range 5 {
		for _, name := range []string{"readings.a", "readings.b"} {
			if _, _, err := s.Act(t.Context(), pilot, id, book.Change{Entries: []book.Entry{entry(book.KindReading, name, fmt.Sprint(i))}}); err != nil {
				t.Fatal(err)
			}
		}
	}
	f, err := s.Load(t.Context(), pilot, id)
	if err != nil || len(f.Newest) != 2 || string(f.Newest[0].Body) != "4" || string(f.Newest[1].Body) != "4" {
		t.Errorf("%+v, %v", f.Newest, err)
	}
	all, err := s.Entries(t.Context(), pilot, id, book.KindReading, 0, 99)
	if err != nil || len(all) != 10 {
		t.Errorf("%d of 10 are kept, %v", len(all), err)
	}
}

// Of two tabs that saw the same version, one wins and the other is told; adding a reading never clashes.
func TestSecondTabIsTold(t *testing.T) {
	t.Parallel()
	s := open(t)
	pilot, id := made(t, s)
	var wins, told int
	var mu sync.Mutex
	var all sync.WaitGroup
	for i := range 8 {
		all.Add(1)
		go func() {
			defer all.Done()
			_, _, err := s.Act(context.Background(), pilot, id, book.Change{Version: 1, SetDraft: true, Edits: []quad.Edit{{Path: "sheet.motors.idle", Before: json.RawMessage("0"), After: json.RawMessage(fmt.Sprint(i))}}})
			mu.Lock()
			defer mu.Unlock()
			switch {
			case err == nil:
				wins++
			case errors.Is(err, book.ErrChanged):
				told++
			default:
				t.Errorf("%v", err)
			}
		}()
	}
	all.Wait()
	if wins != 1 || told != 7 {
		t.Errorf("%d won, %d were told", wins, told)
	}
	for i := range 8 {
		if _, _, err := s.Act(t.Context(), pilot, id, book.Change{Version: 1, Entries: []book.Entry{entry(book.KindReading, "readings.a", fmt.Sprint(i))}}); err != nil {
			t.Errorf("a reading was refused: %v", err)
		}
	}
}

// A change that fails in its middle leaves nothing behind.
func TestHalfAChangeIsNone(t *testing.T) {
	t.Parallel()
	s := open(t)
	pilot, id := made(t, s)
	tooLong := entry(book.KindEvent, "crash", `{}`)
	tooLong.Name = string(make([]byte, 300))
	_, _, err := s.Act(t.Context(), pilot, id, book.Change{Version: 1, Revision: body, Entries: []book.Entry{entry(book.KindReading, "readings.a", "1"), tooLong}})
	if err == nil {
		t.Fatal("a name of 300 characters was kept")
	}
	f, err := s.Load(t.Context(), pilot, id)
	if err != nil || f.Head != 1 || f.Version != 1 || len(f.Newest) != 0 {
		t.Errorf("half of it stayed: %+v, %v", f, err)
	}
}

func TestOthersQuadsAreNotThere(t *testing.T) {
	t.Parallel()
	s := open(t)
	pilot, id := made(t, s)
	other, err := s.Pilot(t.Context(), "somebody else")
	if err != nil || other == pilot {
		t.Fatal(err)
	}
	if _, err := s.Load(t.Context(), other, id); !errors.Is(err, book.ErrNoQuad) {
		t.Errorf("load: %v", err)
	}
	if _, _, err := s.Act(t.Context(), other, id, book.Change{}); !errors.Is(err, book.ErrNoQuad) {
		t.Errorf("act: %v", err)
	}
	if list, err := s.Revisions(t.Context(), other, id, 0, 9); err != nil || len(list) != 0 {
		t.Errorf("revisions: %v, %v", list, err)
	}
	if _, err := s.Bring(t.Context(), pilot, first("")); quad.AsFault(err) == nil || quad.AsFault(err).Code != "name-taken" {
		t.Errorf("the same name twice: %v", err)
	}
	if _, err := s.Bring(t.Context(), other, first("")); err != nil {
		t.Errorf("another pilot may use the name: %v", err)
	}
}

// One owner at a time, whoever asks first; it comes free when let go, and when it runs out.
func TestLease(t *testing.T) {
	t.Parallel()
	s := open(t)
	pilot, _ := made(t, s)
	device := "127.0.0.1:1 of " + t.Name()
	lease := func(owner string, length time.Duration) bool {
		held, err := s.Lease(t.Context(), pilot, device, owner, length)
		if err != nil {
			t.Fatal(err)
		}
		return held
	}
	a, b := fmt.Sprintf("%032d", 1), fmt.Sprintf("%032d", 2)
	if !lease(a, time.Minute) || lease(b, time.Minute) || !lease(a, time.Minute) {
		t.Error("the first must hold it, and renew it, and the second must not get it")
	}
	if err := s.EndLease(t.Context(), device, b); err != nil || lease(b, time.Minute) {
		t.Error("who does not hold it cannot let it go")
	}
	if err := s.EndLease(t.Context(), device, a); err != nil || !lease(b, time.Millisecond) {
		t.Error("let go, it must be free")
	}
	deadline := time.Now().Add(3 * time.Second)
	for !lease(a, time.Minute) {
		if time.Now().After(deadline) {
			t.Fatal("run out, it must be free")
		}
	}
}

// Migrating an up-to-date database changes nothing, and every table has its owner.
func TestEveryRowHasAnOwner(t *testing.T) {
	t.Parallel()
	open(t)
	open(t) // a second time over the same database
	db, err := sql.Open("mysql", mariadbtest.Server.DSN)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	for _, table := range []string{"quad", "revision", "entry", "lease"} {
		var n int
		err := db.QueryRow(`SELECT COUNT(*) FROM information_schema.key_column_usage
			WHERE table_schema = DATABASE() AND table_name = ? AND column_name = 'pilot_id' AND referenced_table_name = 'pilot'`, table).Scan(&n)
		if err != nil || n != 1 {
			t.Errorf("%s has no pilot: %d, %v", table, n, err)
		}
	}
}

// What an act confirmed is there after the database was killed at once.
func TestConfirmedSurvivesAKill(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	db, err := mariadb.Start(t.Context(), dir, 0)
	if err != nil {
		t.Fatal(err)
	}
	s, err := store.Open(t.Context(), db.DSN, nil)
	if err != nil {
		t.Fatal(err)
	}
	pilot, id := made(t, s)
	for i := range 20 {
		if _, _, err := s.Act(t.Context(), pilot, id, book.Change{Entries: []book.Entry{entry(book.KindReading, fmt.Sprint("readings.", i), "1")}}); err != nil {
			t.Fatal(err)
		}
	}
	db.Kill()
	s.Close()
	if db, err = mariadb.Start(t.Context(), dir, 0); err != nil {
		t.Fatal(err)
	}
	defer db.Stop()
	if s, err = store.Open(t.Context(), db.DSN, nil); err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	if f, err := s.Load(t.Context(), pilot, id); err != nil || len(f.Newest) != 20 {
		t.Errorf("%d of 20 are there, %v", len(f.Newest), err)
	}
}

func TestOpenSaysWhatIsWrong(t *testing.T) {
	t.Parallel()
	for dsn, want := range map[string]string{"::": "bad-database", "perch:x@tcp(127.0.0.1:1)/perch": "database-away"} {
		if _, err := store.Open(t.Context(), dsn, nil); quad.AsFault(err) == nil || quad.AsFault(err).Code != want {
			t.Errorf("%s: %v", dsn, err)
		}
	}
}

// A quad that is brought brings all of it: entries, and the lines taught; one that the pilot taught himself stays his.
func TestBroughtWhole(t *testing.T) {
	t.Parallel()
	s := open(t)
	pilot, err := s.Pilot(t.Context(), t.Name())
	if err != nil {
		t.Fatal(err)
	}
	if err := s.SetDictionary(t.Context(), pilot, book.Dictionary{Line: "Ours", Body: "mine"}); err != nil {
		t.Fatal(err)
	}
	w := first("")
	w.Taught = map[string]string{"Ours": "theirs", "Theirs": "theirs"}
	for i := range 250 { // more than go in one batch
		w.Entries = append(w.Entries, entry(book.KindReading, fmt.Sprintf("readings.%d", i), "1"))
	}
	id, err := s.Bring(t.Context(), pilot, w)
	if err != nil {
		t.Fatal(err)
	}
	back, err := s.Whole(t.Context(), pilot, id)
	if err != nil || len(back.Entries) != 250 || len(back.Revisions) != 1 {
		t.Errorf("%d entries, %d revisions, %v", len(back.Entries), len(back.Revisions), err)
	}
	lines, err := s.Dictionaries(t.Context(), pilot)
	if err != nil || len(lines) != 2 || lines[0].Body != "mine" || lines[1].Body != "theirs" {
		t.Errorf("%+v, %v", lines, err)
	}
}

// What a pilot keeps counts up by one with every change, so that a window which saw an older one is told.
func TestVersionsCountUp(t *testing.T) {
	t.Parallel()
	s := open(t)
	pilot, err := s.Pilot(t.Context(), t.Name())
	if err != nil {
		t.Fatal(err)
	}
	_, before, err := s.Wants(t.Context(), pilot)
	if err != nil {
		t.Fatal(err)
	}
	if err := s.SetWants(t.Context(), pilot, before, []byte("{}")); err != nil {
		t.Fatal(err)
	}
	if _, after, err := s.Wants(t.Context(), pilot); err != nil || after != before+1 {
		t.Errorf("wants went from %d to %d, %v", before, after, err)
	}
	for version := range int64(3) {
		if err := s.SetDictionary(t.Context(), pilot, book.Dictionary{Line: "Ours", Body: "mine", Version: version}); err != nil {
			t.Fatalf("on version %d: %v", version, err)
		}
		if lines, err := s.Dictionaries(t.Context(), pilot); err != nil || len(lines) != 1 || lines[0].Version != version+1 {
			t.Errorf("%+v, %v; wanted version %d", lines, err, version+1)
		}
	}
	gone, stop := context.WithCancel(t.Context())
	stop()
	if err := s.SetWants(gone, pilot, before+1, []byte("{}")); err == nil || errors.Is(err, book.ErrChanged) {
		t.Errorf("a write that did not come through is no change by another: %v", err)
	}
	if err := s.SetDictionary(gone, pilot, book.Dictionary{Line: "New", Body: "mine"}); err == nil {
		t.Error("nothing was kept, and nothing was said")
	}
}

// A taught line goes along with a quad that names it, be it in one revision of several or in one reading only, and with no other.
func TestTaughtLinesGoAlongWhereTheyAreNamed(t *testing.T) {
	t.Parallel()
	s := open(t)
	pilot, err := s.Pilot(t.Context(), t.Name())
	if err != nil {
		t.Fatal(err)
	}
	for _, line := range []string{"Revised", "Read", "Neither"} {
		if err := s.SetDictionary(t.Context(), pilot, book.Dictionary{Line: line, Body: line}); err != nil {
			t.Fatal(err)
		}
	}
	w := first("")
	w.Revisions = append([]book.Revision{{Number: 1, Body: json.RawMessage(`{"line":"Revised"}`), Why: "made", Who: "somebody", At: time.Now()}}, book.Revision{Number: 2, Body: body, Why: "other", Who: "somebody", At: time.Now()})
	w.Quad.Head = 2
	w.Entries = []book.Entry{entry(book.KindReading, "readings.a", `{"line":"Read"}`), entry(book.KindReading, "readings.b", "1")}
	id, err := s.Bring(t.Context(), pilot, w)
	if err != nil {
		t.Fatal(err)
	}
	back, err := s.Whole(t.Context(), pilot, id)
	if err != nil || !maps.Equal(back.Taught, map[string]string{"Revised": "Revised", "Read": "Read"}) {
		t.Errorf("%v, %v", back.Taught, err)
	}
}

// Several windows that each begin something new at once wait for each other's gaps, and the server takes one of them back: it is made again,
// and nobody hears of it.
func TestNobodyHearsOfADeadlock(t *testing.T) {
	t.Parallel()
	s := open(t)
	var all sync.WaitGroup
	for window := range 8 {
		pilot, err := s.Pilot(t.Context(), fmt.Sprintf("%s %d", t.Name(), window))
		if err != nil {
			t.Fatal(err)
		}
		all.Go(func() {
			for n := range 25 {
				if err := s.SetDictionary(t.Context(), pilot, book.Dictionary{Line: fmt.Sprintf("line %d", n), Body: "taught"}); err != nil {
					t.Errorf("window %d, line %d: %v", window, n, err)
					return
				}
			}
			if lines, err := s.Dictionaries(t.Context(), pilot); err != nil || len(lines) != 25 {
				t.Errorf("window %d kept %d of 25, %v", window, len(lines), err)
			}
		})
	}
	all.Wait()
}
