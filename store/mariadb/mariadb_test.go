package mariadb

import (
	"fmt"
	"net"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
)

// Servers that start at the same moment once swept each other's temporary tables away while installing.
func TestServersStartedTogether(t *testing.T) {
	const servers = 6
	var wait sync.WaitGroup
	faults := make([]error, servers)
	for i := range servers {
		dir := filepath.Join(t.TempDir(), fmt.Sprint(i))
		wait.Go(func() {
			s, err := Start(t.Context(), dir, 0)
			if err == nil {
				s.Stop()
			}
			faults[i] = err
		})
	}
	wait.Wait()
	for i, err := range faults {
		if err != nil {
			t.Errorf("server %d: %v", i, err)
		}
	}
}

// A folder whose making was killed half-way is made again rather than taken for a database.
func TestUnfinishedFolderIsMadeAgain(t *testing.T) {
	dir := t.TempDir()
	left := filepath.Join(dir, "mariadb.unfinished", "mysql")
	if err := os.MkdirAll(left, 0o700); err != nil {
		t.Fatal(err)
	}
	s, err := Start(t.Context(), dir, 0)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Stop()
	if _, err := s.Create(t.Context()); err != nil {
		t.Errorf("the database does not answer: %v", err)
	}
	if _, err := os.Stat(filepath.Dir(left)); err == nil {
		t.Error("the unfinished folder is still there")
	}
}

// What the database says on failing reaches the one who started it, not the tool's parting words.
func TestReasonIsTheErrorItself(t *testing.T) {
	said := "Installing ...\n2026-01-01 0:00:00 1 [Warning] odd\nERROR: 1051  Unknown table 'a'\n\nPlease report\nsomewhere\n"
	if got := reason([]byte(said)); got != "ERROR: 1051  Unknown table 'a'" {
		t.Errorf("reason is %q", got)
	}
	if got := reason([]byte("one\ntwo\n")); got != "two" {
		t.Errorf("without an error line the reason is %q", got)
	}
}

func TestBusyPortSaysSo(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	defer l.Close()
	s, err := Start(t.Context(), t.TempDir(), l.Addr().(*net.TCPAddr).Port)
	if err == nil {
		s.Stop()
		t.Fatal("a server started on a port that is taken")
	}
	if !strings.Contains(err.Error(), "database") {
		t.Errorf("the message is %q", err)
	}
}
