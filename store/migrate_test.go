package store

import (
	"context"
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"testing/fstest"

	"vividperch/core/quad"
	"vividperch/store/mariadb"
)

// later is the shipped migrations and one more, as the next version of the program would have.
func later(t *testing.T) fs.FS {
	t.Helper()
	first, err := migrations.ReadFile("migrations/00001_first.sql")
	if err != nil {
		t.Fatal(err)
	}
	return fstest.MapFS{
		"migrations/00001_first.sql": {Data: first},
		"migrations/90000_later.sql": {Data: []byte("-- +goose Up\nALTER TABLE quad ADD COLUMN colour VARCHAR(20) NOT NULL DEFAULT '';\n-- +goose Down\nALTER TABLE quad DROP COLUMN colour;\n")},
	}
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
		return db.Dump(ctx, filepath.Join(dir, "before.sql"))
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
	raw, err := os.ReadFile(filepath.Join(dir, "before.sql"))
	if err != nil || taken != 1 || !strings.Contains(string(raw), "who was here before") {
		t.Errorf("backed up %d times, %v", taken, err)
	}
	if _, err := open(t.Context(), db.DSN, migrations, backup); quad.AsFault(err) == nil || quad.AsFault(err).Code != "newer-database" {
		t.Errorf("an older program on a newer database: %v", err)
	}
}
