package main

import (
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
)

// end asks a program to end and waits for it.
func (p *program) end(t *testing.T) {
	t.Helper()
	if err := p.cmd.Process.Signal(syscall.SIGTERM); err != nil {
		t.Fatal(err)
	}
	if err := p.cmd.Wait(); err != nil {
		t.Errorf("asked to end, it ended with %v", err)
	}
}

func (p *program) archive(t *testing.T, id string) string {
	t.Helper()
	status, raw, err := p.get("/api/quads/" + id + "/archive?private=true")
	if err != nil || status != 200 {
		t.Fatalf("archive: %d, %v", status, err)
	}
	return raw
}

// write a file of its own folder.
func write(t *testing.T, name string, raw []byte) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	if err := os.WriteFile(path, raw, 0o600); err != nil {
		t.Fatal(err)
	}
	return path
}

// An instance is backed up while it runs, restored into another folder and into its own, and is the same to
// the last byte; a file that is no backup changes nothing.
func TestBackupAndRestore(t *testing.T) {
	t.Parallel()
	data, elsewhere := t.TempDir(), t.TempDir()
	backup := filepath.Join(t.TempDir(), "all.sql.gz")
	p := start(t, data, "--bench", "none")
	if status, err := p.ask("POST", "/api/quads/1/event", map[string]any{"event": "crash", "note": "before the backup"}, nil); err != nil || status != 200 {
		t.Fatalf("%d, %v", status, err)
	}
	want := p.archive(t, "1")
	if code, out, said := perch(t, "backup", backup, "--data", data); code != 0 || !strings.Contains(out, backup) {
		t.Fatalf("backup of a running instance: exit %d, %s%s", code, out, said)
	}
	if code, _, said := perch(t, "backup", backup, "--data", data); code != exitUnreadable || !strings.Contains(said, "overwrites nothing") {
		t.Errorf("over a file that is there: exit %d, %s", code, said)
	}
	if code, _, said := perch(t, "restore", backup, "--data", data); code != exitUnreadable || !strings.Contains(said, "in use") {
		t.Errorf("under a running program: exit %d, %s", code, said)
	}
	// The archive is judged by the command line as the program judges it.
	archive := write(t, "dunlin.quad.json", []byte(want))
	if code, out, said := perch(t, "check", archive); code != 0 || !strings.Contains(out, "a crash has happened since") && !strings.Contains(out, "ask ") {
		t.Errorf("check of the archive: exit %d, %s%s", code, out, said)
	}
	sheet := write(t, "sheet.yaml", []byte("sheet: {motors: {idle: 5}}"))
	other := write(t, "other.yaml", []byte("sheet: {motors: {idle: 6}}"))
	if code, out, said := perch(t, "diff", sheet, other); code != exitStop || out != "Idle throttle: 5 % becomes 6 %  [sheet.motors.idle]\n" {
		t.Errorf("diff of two sheets: exit %d, %s%s", code, out, said)
	}
	if code, out, _ := perch(t, "diff", archive, archive, "--json"); code != 0 || out != "[]\n" {
		t.Errorf("diff of an archive with itself: exit %d, %s", code, out)
	}
	if code, _, said := perch(t, "check", write(t, "bad.quad.json", []byte(strings.Replace(want, `"idle":`, `"idle":1`, 1)))); code != exitUnreadable || !strings.Contains(said, "changed or damaged") {
		t.Errorf("check of a damaged archive: exit %d, %s", code, said)
	}
	if status, err := p.ask("POST", "/api/quads/1/event", map[string]any{"event": "repair", "note": "after the backup"}, nil); err != nil || status != 200 {
		t.Fatalf("%d, %v", status, err)
	}
	after := p.archive(t, "1")
	p.end(t)

	whole, err := os.ReadFile(backup)
	if err != nil {
		t.Fatal(err)
	}
	for name, path := range map[string]string{
		"cut short": write(t, "a.sql.gz", whole[:len(whole)-400]), "no backup": write(t, "b.sql.gz", []byte("DROP DATABASE perch;")), "not there": "/nowhere/at/all",
	} {
		if code, _, said := perch(t, "restore", path, "--data", data); code != exitUnreadable || said == "" {
			t.Errorf("%s: exit %d, %s", name, code, said)
		}
	}
	p = start(t, data, "--bench", "none")
	if got := p.archive(t, "1"); got != after {
		t.Error("a file that is no backup changed something")
	}
	p.end(t)

	for _, folder := range []string{elsewhere, data} {
		if code, out, said := perch(t, "restore", backup, "--data", folder); code != 0 || !strings.Contains(out, "Restored 6 quads") {
			t.Fatalf("restore to %s: exit %d, %s%s", folder, code, out, said)
		}
		p = start(t, folder, "--bench", "none")
		if got := p.archive(t, "1"); got != want {
			t.Errorf("in %s it came back different", folder)
		}
		p.end(t)
	}
	kept, err := filepath.Glob(filepath.Join(data, "before-restore-*.sql.gz"))
	if err != nil || len(kept) != 1 {
		t.Fatalf("what was there before: %v, %v", kept, err)
	}
	if code, _, said := perch(t, "restore", kept[0], "--data", elsewhere); code != 0 {
		t.Fatalf("exit %d, %s", code, said)
	}
	p = start(t, elsewhere, "--bench", "none")
	if got := p.archive(t, "1"); got != after {
		t.Error("what was there before the restore came back different")
	}
	p.end(t)
}
