package store

import (
	"compress/gzip"
	"context"
	"database/sql"
	"errors"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"testing"
	"testing/fstest"

	"vividperch/core/book"
	"vividperch/core/quad"
	"vividperch/store/mariadb"
)

// later is the shipped migrations and one more, as the next version of the program would have.
func later(t *testing.T) fs.FS {
	t.Helper()
	all := fstest.MapFS{
		"migrations/90000_later.sql": {Data: []byte("-- +goose Up\nALTER TABLE quad ADD COLUMN colour VARCHAR(20) NOT NULL DEFAULT '';\n-- +goose Down\nALTER TABLE quad DROP COLUMN colour;\n")},
	}
	shipped, err := migrations.ReadDir("migrations")
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range shipped {
		raw, err := migrations.ReadFile("migrations/" + f.Name())
		if err != nil {
			t.Fatal(err)
		}
		all["migrations/"+f.Name()] = &fstest.MapFile{Data: raw}
	}
	return all
}

// A database that holds something is backed up before it is migrated, and left alone when that fails; a
// program that is older than the database refuses it.
func TestBackupBeforeMigrating(t *testing.T) {
	dir := t.TempDir()
	db, err := mariadb.Start(t.Context(), dir, 0)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Stop()
	taken := 0
	backup := func(ctx context.Context) error {
		taken++
		return db.Dump(ctx, filepath.Join(dir, "before.sql.gz"))
	}
	s, err := open(t.Context(), db.DSN, migrations, backup)
	if err != nil {
		t.Fatal(err)
	}
	pilot, err := s.Pilot(t.Context(), "who was here before")
	if err != nil {
		t.Fatal(err)
	}
	s.Close()
	if taken != 0 {
		t.Error("an empty database was backed up")
	}
	fails := func(context.Context) error { return errors.New("the disk is full") }
	if _, err := open(t.Context(), db.DSN, later(t), fails); quad.AsFault(err) == nil || quad.AsFault(err).Code != "no-backup" {
		t.Errorf("a failed backup: %v", err)
	}
	s, err = open(t.Context(), db.DSN, migrations, backup)
	if err != nil {
		t.Fatalf("after a failed backup the database must be as it was: %v", err)
	}
	s.Close()
	s, err = open(t.Context(), db.DSN, later(t), backup)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	if again, err := s.Pilot(t.Context(), "who was here before"); err != nil || again != pilot {
		t.Errorf("after the migration: %d, %v", again, err)
	}
	raw, err := unpacked(filepath.Join(dir, "before.sql.gz"))
	if err != nil || taken != 1 || !strings.Contains(string(raw), "who was here before") {
		t.Errorf("backed up %d times, %v", taken, err)
	}
	if _, err := open(t.Context(), db.DSN, migrations, backup); quad.AsFault(err) == nil || quad.AsFault(err).Code != "newer-database" {
		t.Errorf("an older program on a newer database: %v", err)
	}
}

func unpacked(path string) ([]byte, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	zip, err := gzip.NewReader(f)
	if err != nil {
		return nil, err
	}
	return io.ReadAll(zip)
}

// A database that a program of each earlier version filled is migrated forward, and everything in it can
// still be read. The dumps were made by the programs of their time; they are never made again.
func TestFilledDatabasesMigrate(t *testing.T) {
	dumps, err := filepath.Glob("testdata/version-*.sql")
	if err != nil || len(dumps) == 0 {
		t.Fatalf("no dumps: %v", err)
	}
	db, err := mariadb.Start(t.Context(), t.TempDir(), 0)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Stop()
	for _, dump := range dumps {
		dsn, err := db.Create(t.Context())
		if err != nil {
			t.Fatal(err)
		}
		raw, err := os.ReadFile(dump)
		if err != nil {
			t.Fatal(err)
		}
		load, err := sql.Open("mysql", dsn+"?multiStatements=true")
		if err != nil {
			t.Fatal(err)
		}
		_, text, _ := strings.Cut(string(raw), "\n") // the client's own first line
		if _, err := load.ExecContext(t.Context(), text); err != nil {
			t.Fatalf("%s: %v", dump, err)
		}
		load.Close()
		s, err := open(t.Context(), dsn, migrations, func(context.Context) error { return nil })
		if err != nil {
			t.Fatalf("%s: %v", dump, err)
		}
		pilot, err := s.Pilot(t.Context(), "the pilot")
		if err != nil {
			t.Fatal(err)
		}
		quads, err := s.Covers(t.Context(), pilot)
		if err != nil || len(quads) != 2 || quads[0].Name != "Dunlin" {
			t.Fatalf("%s: %+v, %v", dump, quads, err)
		}
		f, err := s.Load(t.Context(), pilot, quads[0].ID)
		if err != nil {
			t.Fatal(err)
		}
		if m, err := quad.ReadMeant(f.Body); err != nil || m.Sheet.Motors.Idle != 6.5 {
			t.Errorf("%s: your settings say idle %v, %v", dump, m.Sheet.Motors.Idle, err)
		}
		said, newest := "", int64(0)
		for _, e := range f.Newest {
			newest = max(newest, e.ID)
		}
		for _, kind := range []string{book.KindFlight, book.KindEvent} {
			happened, err := s.Entries(t.Context(), pilot, quads[0].ID, kind, 0, 9)
			if err != nil {
				t.Fatal(err)
			}
			for _, e := range happened {
				said, newest = said+string(e.Body), max(newest, e.ID)
			}
		}
		if f.Flights != 1 || f.Last < newest {
			t.Errorf("%s: its cover tells of %d flights and of entry %d as its newest, where there is %d", dump, f.Flights, f.Last, newest)
		}
		if !strings.Contains(said, "it flew") || !strings.Contains(said, "a tree") {
			t.Errorf("%s: what happened is %s", dump, said)
		}
		list, err := s.Revisions(t.Context(), pilot, quads[0].ID, 0, 9)
		if err != nil || len(list) != 2 || list[0].Who != "the pilot" {
			t.Errorf("%s: revisions %+v, %v", dump, list, err)
		}
		// Packs of quads became the pilot's: of two of a name the older quad's, whatever its name is written with.
		packs, _, err := s.Packs(t.Context(), pilot)
		first := []book.Pack{{Name: "green", Told: quad.Pack{Cells: 6, Capacity: 1300, Discharge: 120, Resistance: 21, Mass: 211}}, {Name: "grey", Told: quad.Pack{Cells: 6, Capacity: 1300, Discharge: 120, Resistance: 18, Mass: 215}}, {Name: "long", Told: quad.Pack{Cells: 3, Capacity: 3300, Discharge: 30, Resistance: 24, Mass: 260}}}
		want := map[string][]book.Pack{"version-1.sql": first, "version-2.sql": first, "version-4.sql": {}, "version-7.sql": []book.Pack{{Name: "grey", Told: quad.Pack{Cells: 6, Capacity: 1300, Discharge: 120, Resistance: 18, Mass: 215}}, {Name: `it's "odd"`, Told: quad.Pack{Cells: 6, Capacity: 1500}}, {Name: "small", Told: quad.Pack{Cells: 1, Capacity: 450}}}}[filepath.Base(dump)]
		if err != nil || !reflect.DeepEqual(packs, want) {
			t.Errorf("%s: packs %+v, %v", dump, packs, err)
		}
		if wants, version, err := s.Wants(t.Context(), pilot); err != nil || string(wants) != "{}" || version != 1 {
			t.Errorf("%s: wants %s, version %d, %v", dump, wants, version, err)
		}
		s.Close()
	}
}
