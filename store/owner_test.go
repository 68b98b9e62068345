package store_test

import (
	"context"
	"database/sql"
	"errors"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"testing"

	"vividperch/core/book"
	"vividperch/core/quad"
	"vividperch/core/site"
	"vividperch/store"
	"vividperch/store/mariadb"
	"vividperch/store/mariadb/mariadbtest"
)

// Every read that takes a pilot gives nothing of another's: one that is added to the store has to be named here.
func TestNobodyReadsAnothersQuads(t *testing.T) {
	t.Parallel()
	s := open(t)
	pilot, id := made(t, s)
	other, err := s.Pilot(t.Context(), "somebody else than "+t.Name())
	if err != nil {
		t.Fatal(err)
	}
	if _, _, err := s.Act(t.Context(), pilot, id, book.Change{Entries: []book.Entry{
		entry(book.KindReading, "readings.a", "1"), entry(book.KindTag, "1", `{"tag":"x"}`), entry(book.KindMark, "board", `{"serial":"7"}`),
	}}); err != nil {
		t.Fatal(err)
	}
	if err := s.SetDictionary(t.Context(), pilot, book.Dictionary{Line: "Ours", Body: "x"}); err != nil {
		t.Fatal(err)
	}
	if err := s.ChangeOwnParts(t.Context(), pilot, 0, []book.OwnPart{{Kind: "motor", Name: "ours", Body: "{}"}}, nil); err != nil {
		t.Fatal(err)
	}
	if err := s.AdoptPacks(t.Context(), pilot, map[string]quad.Pack{"ours": {Cells: 4}}); err != nil {
		t.Fatal(err)
	}
	if err := s.LearnColumns(t.Context(), pilot, "parts", "heads", []byte("[]")); err != nil {
		t.Fatal(err)
	}
	place, err := s.AddSite(t.Context(), pilot, "ours", site.Map{})
	if err != nil {
		t.Fatal(err)
	}
	mine, err := s.Entries(t.Context(), pilot, id, book.KindReading, 0, 9)
	if err != nil || len(mine) != 1 {
		t.Fatalf("%v, %v", mine, err)
	}
	ctx := t.Context()
	reads := map[string]func(who int64) (int, error){
		"Covers":    func(who int64) (int, error) { l, err := s.Covers(ctx, who); return len(l), err },
		"Load":      func(who int64) (int, error) { f, err := s.Load(ctx, who, id); return len(f.Newest), err },
		"Whole":     func(who int64) (int, error) { w, err := s.Whole(ctx, who, id); return len(w.Entries), err },
		"Fleet":     func(who int64) (int, error) { l, err := s.Fleet(ctx, who); return len(l), err },
		"Owners":    func(who int64) (int, error) { l, err := s.Owners(ctx, who, 0); return len(l), err },
		"Revisions": func(who int64) (int, error) { l, err := s.Revisions(ctx, who, id, 0, 9); return len(l), err },
		"Revision":  func(who int64) (int, error) { r, err := s.Revision(ctx, who, id, 1); return len(r.Body), err },
		"Entries": func(who int64) (int, error) {
			l, err := s.Entries(ctx, who, id, book.KindReading, 0, 9)
			return len(l), err
		},
		"EntriesOf": func(who int64) (int, error) {
			l, err := s.EntriesOf(ctx, who, id, book.KindReading, "readings.a", 0, 9)
			return len(l), err
		},
		"NewestNamed": func(who int64) (int, error) {
			l, err := s.NewestNamed(ctx, who, id, book.KindReading, []string{"readings.a"})
			return len(l), err
		},
		"NewestOf": func(who int64) (int, error) {
			l, err := s.NewestOf(ctx, who, id, book.KindReading, "read")
			return len(l), err
		},
		"Titles":       func(who int64) (int, error) { l, err := s.Titles(ctx, who, id, book.KindTag); return len(l), err },
		"Entry":        func(who int64) (int, error) { e, err := s.Entry(ctx, who, id, mine[0].ID); return len(e.Body), err },
		"Dictionaries": func(who int64) (int, error) { l, err := s.Dictionaries(ctx, who); return len(l), err },
		"OwnParts":     func(who int64) (int, error) { l, _, err := s.OwnParts(ctx, who); return len(l), err },
		"PartsVersion": func(who int64) (int, error) { v, err := s.PartsVersion(ctx, who); return int(v), err },
		"KnownColumns": func(who int64) (int, error) {
			raw, err := s.KnownColumns(ctx, who, "parts", "heads")
			return len(raw), err
		},
		"Sites": func(who int64) (int, error) { l, err := s.Sites(ctx, who); return len(l), err },
		"Site":  func(who int64) (int, error) { l, err := s.Site(ctx, who, place); return len(l.Name), err },
		"SiteNamed": func(who int64) (int, error) {
			l, err := s.SiteNamed(ctx, who, "ours")
			return len(l.Name), err
		},
		"Packs": func(who int64) (int, error) { l, _, err := s.Packs(ctx, who); return len(l), err },
		"Wants": func(who int64) (int, error) {
			raw, _, err := s.Wants(ctx, who)
			return len(raw) - len("{}"), err // his own, which are none
		},
	}
	writes := map[string]bool{"Act": true, "Bring": true, "SetWants": true, "SetDictionary": true, "Lease": true, "Retire": true, "Delete": true, "ChangeOwnParts": true, "LearnColumns": true,
		"AdoptPacks": true, "SetPack": true, "MeasurePack": true, "WithdrawPackReading": true, "ForgetPack": true, "AddSite": true, "ChangeSite": true, "ForgetSite": true}
	if err := s.SetWants(ctx, pilot, 1, []byte(`{"thresholds":{}}`)); err != nil {
		t.Fatal(err)
	}
	kind := reflect.TypeFor[*store.Store]()
	for i := range kind.NumMethod() {
		m := kind.Method(i)
		takesPilot := m.Type.NumIn() > 2 && m.Type.In(2).Kind() == reflect.Int64
		if takesPilot && reads[m.Name] == nil && !writes[m.Name] {
			t.Errorf("%s takes a pilot and is tried nowhere", m.Name)
		}
	}
	for name, read := range reads {
		if n, err := read(pilot); err != nil || n == 0 {
			t.Errorf("%s gives its own pilot %d, %v", name, n, err)
		}
		n, err := read(other)
		if n != 0 || err != nil && !errors.Is(err, book.ErrNoQuad) && !errors.Is(err, book.ErrNoRevision) && !errors.Is(err, book.ErrNoEntry) && !errors.Is(err, book.ErrNoSite) {
			t.Errorf("%s gives another pilot %d, %v", name, n, err)
		}
	}
	if _, _, err := s.Act(ctx, other, id, book.Change{Entries: []book.Entry{entry(book.KindReading, "readings.a", "2")}}); !errors.Is(err, book.ErrNoQuad) {
		t.Errorf("another pilot's act: %v", err)
	}
	if err := s.Retire(ctx, other, id, 1, true); !errors.Is(err, book.ErrNoQuad) {
		t.Errorf("retired by another pilot: %v", err)
	}
	if err := s.Delete(ctx, other, id, 1); !errors.Is(err, book.ErrNoQuad) {
		t.Errorf("deleted by another pilot: %v", err)
	}
}

// A look that has aged is refused under the lock, whatever was added in between: the draft, a reading, an event.
func TestSeenMustStillStand(t *testing.T) {
	t.Parallel()
	s := open(t)
	pilot, id := made(t, s)
	look := func() string {
		f, err := s.Load(t.Context(), pilot, id)
		if err != nil {
			t.Fatal(err)
		}
		return f.Seen()
	}
	act := func(c book.Change) error {
		_, _, err := s.Act(t.Context(), pilot, id, c)
		return err
	}
	saw := look()
	if err := act(book.Change{Seen: saw, Entries: []book.Entry{entry(book.KindReading, "readings.a", "1")}}); err != nil {
		t.Errorf("as it stands: %v", err)
	}
	for name, between := range map[string]book.Change{
		"a reading": {Entries: []book.Entry{entry(book.KindReading, "readings.a", "1")}},
		"an event":  {Entries: []book.Entry{entry(book.KindEvent, "crash", "{}")}},
		"an edit":   {Version: 1, SetDraft: true},
	} {
		saw := look()
		if err := act(between); err != nil {
			t.Fatal(err)
		}
		if err := act(book.Change{Seen: saw, Entries: []book.Entry{entry(book.KindSignature, "airframe", "{}")}}); !errors.Is(err, book.ErrChanged) {
			t.Errorf("%s in between: %v", name, err)
		}
	}
}

// What an act confirms is flushed: by the server that the product starts itself.
func TestEveryCommitIsFlushed(t *testing.T) {
	t.Parallel()
	db, err := sql.Open("mysql", mariadbtest.Server.DSN)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	for name, want := range map[string]string{"innodb_flush_log_at_trx_commit": "1", "innodb_doublewrite": "ON", "foreign_key_checks": "ON"} {
		var got string
		if err := db.QueryRow("SELECT VARIABLE_VALUE FROM information_schema.GLOBAL_VARIABLES WHERE VARIABLE_NAME = ?", name).Scan(&got); err != nil || got != want {
			t.Errorf("%s is %q, %v", name, got, err)
		}
	}
}

// A server that ends, stopped or killed and started again, leaves no socket where others put theirs; of a folder with a long path
// at most one stays, however often it is killed.
func TestNoSocketIsLeft(t *testing.T) {
	folder := t.TempDir()
	t.Setenv("TMPDIR", folder)
	short, err := os.MkdirTemp("/tmp", "p")
	if err != nil {
		t.Fatal(err)
	}
	defer os.RemoveAll(short)
	long := filepath.Join(short, strings.Repeat("a-long-way-down/", 7))
	for _, dir := range []string{short, long} {
		if err := os.MkdirAll(dir, 0o700); err != nil {
			t.Fatal(err)
		}
		for _, end := range []func(*mariadb.Server){(*mariadb.Server).Kill, (*mariadb.Server).Stop} {
			db, err := mariadb.Start(context.Background(), dir, 0)
			if err != nil {
				t.Fatal(err)
			}
			end(db)
		}
	}
	left, err := filepath.Glob(filepath.Join(folder, "*"))
	if err != nil || len(left) > 0 {
		t.Errorf("left: %v, %v", left, err)
	}
}

// Programs that open one empty database at the same moment migrate it once.
func TestOpenedTogether(t *testing.T) {
	t.Parallel()
	db, err := mariadb.Start(t.Context(), t.TempDir(), 0)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Stop()
	failed := make(chan error, 6)
	for range cap(failed) {
		go func() {
			s, err := store.Open(context.Background(), db.DSN, nil)
			if err == nil {
				_, err = s.Pilot(context.Background(), "the pilot")
				s.Close()
			}
			failed <- err
		}()
	}
	for range cap(failed) {
		if err := <-failed; err != nil {
			t.Error(err)
		}
	}
}
