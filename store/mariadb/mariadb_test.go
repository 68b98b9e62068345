package mariadb

import (
	"fmt"
	"net"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"
)

// Servers that start at the same moment once swept each other's temporary tables away while installing.
func TestServersStartedTogether(t *testing.T) {
	const servers = 4
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

// A database that ends by itself comes back where it was; one that was stopped stays stopped.
func TestKeepStartsItAgain(t *testing.T) {
	s, err := Start(t.Context(), t.TempDir(), 0)
	if err != nil {
		t.Fatal(err)
	}
	kept := make(chan struct{})
	go func() {
		defer close(kept)
		s.Keep(t.Context())
	}()
	before := s.cmd.Process.Pid
	if err := s.cmd.Process.Kill(); err != nil {
		t.Fatal(err)
	}
	deadline := time.Now().Add(30 * time.Second)
	for {
		if _, err := s.Create(t.Context()); err == nil {
			break
		}
		if time.Now().After(deadline) {
			t.Fatal("it did not come back")
		}
		time.Sleep(20 * time.Millisecond)
	}
	s.mu.Lock()
	after := s.cmd.Process.Pid
	s.mu.Unlock()
	if after == before {
		t.Error("it answers, but is the one that was killed")
	}
	s.Stop()
	select {
	case <-kept:
	case <-time.After(20 * time.Second):
		t.Error("a stopped server is still kept")
	}
}

// A server that is stopped the moment it lets in ends at once: it has heard of it.
func TestStoppedAtOnce(t *testing.T) {
	dir := t.TempDir()
	for range 6 {
		s, err := Start(t.Context(), dir, 0)
		if err != nil {
			t.Fatal(err)
		}
		began := time.Now()
		s.Stop()
		if took := time.Since(began); took > 15*time.Second {
			t.Fatalf("it took %v to stop: the signal was lost", took)
		}
	}
}
