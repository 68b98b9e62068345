// Package mariadb runs a MariaDB server of the product's own: on loopback, with its data in one folder.
package mariadb

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"log/slog"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"syscall"
	"time"

	"vividperch/core/quad"
)

// Server that runs.
type Server struct {
	dir string
	DSN string
	// socket on which root is let in from this machine itself
	socket string
	daemon string
	args   []string

	mu      sync.Mutex
	cmd     *exec.Cmd
	done    chan struct{} // closed when cmd has ended
	stopped bool          // on purpose
}

// Start a server on its folder, which is made when it is not there. Port 0 picks a free one. The server
// flushes at every commit, so what was confirmed survives a kill at any moment.
func Start(ctx context.Context, dir string, port int) (*Server, error) {
	daemon, err := exec.LookPath("mariadbd")
	if err != nil {
		if daemon, err = exec.LookPath("/usr/sbin/mariadbd"); err != nil {
			return nil, quad.Faultf("no-mariadb", "", "the MariaDB server is not installed; on Debian: apt-get install mariadb-server")
		}
	}
	dir, err = filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, err
	}
	data := filepath.Join(dir, "mariadb")
	if err := awaitPrevious(ctx, dir, data); err != nil {
		return nil, err
	}
	password, err := secret(filepath.Join(dir, "password"))
	if err != nil {
		return nil, err
	}
	// A starting server sweeps its folder for temporary files, those of any other server there included: each
	// has one of its own.
	temporary := filepath.Join(dir, "temporary")
	if err := os.MkdirAll(temporary, 0o700); err != nil {
		return nil, err
	}
	if _, err := os.Stat(data); err != nil {
		if err := install(ctx, data, temporary); err != nil {
			return nil, err
		}
	}
	if port == 0 {
		if port, err = freePort(); err != nil {
			return nil, err
		}
	}
	setup := filepath.Join(dir, "setup.sql")
	sql := fmt.Sprintf("CREATE DATABASE IF NOT EXISTS perch CHARACTER SET utf8mb4;\nCREATE OR REPLACE USER 'perch'@'127.0.0.1' IDENTIFIED BY '%s';\nGRANT ALL ON perch.* TO 'perch'@'127.0.0.1';\n", password)
	if err := os.WriteFile(setup, []byte(sql), 0o600); err != nil {
		return nil, err
	}
	socket := socketOf(dir)
	s := &Server{
		dir: dir, socket: socket, daemon: daemon, DSN: fmt.Sprintf("perch:%s@tcp(127.0.0.1:%d)/perch", password, port),
		args: []string{
			"--no-defaults", "--datadir=" + data, "--tmpdir=" + temporary, "--socket=" + socket, "--pid-file=" + filepath.Join(dir, "mariadb.pid"),
			"--bind-address=127.0.0.1", fmt.Sprintf("--port=%d", port), "--init-file=" + setup, "--skip-name-resolve", "--skip-log-bin",
			"--innodb-flush-log-at-trx-commit=1", "--innodb-buffer-pool-size=64M", "--innodb-log-file-size=16M", "--performance-schema=OFF", "--max-connections=60",
			"--character-set-server=utf8mb4", "--user=" + userName(), "--log-error=" + filepath.Join(dir, "mariadb.log"),
		},
	}
	if err := s.run(ctx); err != nil {
		s.Stop()
		return nil, err
	}
	return s, nil
}

// longestSocket is what the kernel takes for a socket's path, bytes, with the one that ends it.
const longestSocket = 104

// socketOf a server's folder is in it, so that it goes away with it. A folder whose path is too long for that has one in the temporary folder,
// always the same, so that a server that was killed leaves no more than one.
func socketOf(dir string) string {
	socket := filepath.Join(dir, "mariadb.sock")
	if len(socket) < longestSocket {
		return socket
	}
	sum := sha256.Sum256([]byte(dir))
	return filepath.Join(os.TempDir(), fmt.Sprintf("perch-%x.sock", sum[:6]))
}

// run starts the process and waits until it lets in.
func (s *Server) run(ctx context.Context) error {
	cmd := exec.Command(s.daemon, s.args...)
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true, Pdeathsig: syscall.SIGTERM}
	s.mu.Lock()
	if s.stopped {
		s.mu.Unlock()
		return context.Canceled
	}
	if err := cmd.Start(); err != nil {
		s.mu.Unlock()
		return err
	}
	done := make(chan struct{})
	s.cmd, s.done = cmd, done
	s.mu.Unlock()
	go func() {
		_ = cmd.Wait()
		close(done)
	}()
	return s.ready(ctx, done)
}

// Keep starts the server again, on the same port and folder, whenever it ends by itself, until the context
// ends or Stop is called. It returns when there is nothing more to keep.
func (s *Server) Keep(ctx context.Context) {
	for {
		s.mu.Lock()
		done := s.done
		s.mu.Unlock()
		select {
		case <-ctx.Done():
			return
		case <-done:
		}
		s.mu.Lock()
		stopped := s.stopped
		s.mu.Unlock()
		if stopped || ctx.Err() != nil {
			return
		}
		slog.Warn("the database ended; it is started again")
		if err := s.run(ctx); err != nil {
			slog.Error("the database does not start", "error", err)
			select {
			case <-ctx.Done():
				return
			case <-time.After(time.Second):
			}
		}
	}
}

// awaitPrevious waits until the server of a program that was killed has let go of the folder. It was told to
// stop when its program died, and may still be writing.
func awaitPrevious(ctx context.Context, dir, data string) error {
	raw, err := os.ReadFile(filepath.Join(dir, "mariadb.pid"))
	if err != nil {
		return nil
	}
	pid := strings.TrimSpace(string(raw))
	ctx, cancel := context.WithTimeout(ctx, 30*time.Second)
	defer cancel()
	tick := time.NewTicker(20 * time.Millisecond)
	defer tick.Stop()
	for {
		// The number may long belong to another process: only one that runs on this folder counts.
		line, err := os.ReadFile(filepath.Join("/proc", pid, "cmdline"))
		if err != nil || !strings.Contains(string(line), "--datadir="+data) {
			return nil
		}
		select {
		case <-ctx.Done():
			return quad.Faultf("mariadb-runs", data, "another MariaDB (process %s) holds the database's folder and does not end", pid)
		case <-tick.C:
		}
	}
}

// install makes the system tables beside the place they belong and moves them there whole, so that a kill
// half-way leaves nothing that passes for a database.
func install(ctx context.Context, data, temporary string) error {
	unfinished := data + ".unfinished"
	if err := os.RemoveAll(unfinished); err != nil {
		return err
	}
	cmd := exec.CommandContext(ctx, "mariadb-install-db", "--no-defaults", "--datadir="+unfinished, "--tmpdir="+temporary, "--auth-root-authentication-method=normal", "--skip-test-db", "--user="+userName())
	if out, err := cmd.CombinedOutput(); err != nil {
		return quad.Faultf("mariadb-install", data, "the database's folder cannot be made: %s", reason(out))
	}
	return os.Rename(unfinished, data)
}

// reason is the first line of a tool's output that reports an error, or its last line.
func reason(out []byte) string {
	for line := range strings.Lines(string(out)) {
		if strings.Contains(line, "ERROR") {
			return strings.TrimSpace(line)
		}
	}
	lines := strings.Split(strings.TrimSpace(string(out)), "\n")
	return lines[len(lines)-1]
}

func userName() string {
	if os.Geteuid() == 0 {
		return "root"
	}
	if name := os.Getenv("USER"); name != "" {
		return name
	}
	return fmt.Sprint(os.Geteuid())
}

func secret(path string) (string, error) {
	if raw, err := os.ReadFile(path); err == nil {
		return strings.TrimSpace(string(raw)), nil
	}
	text, err := random(16)
	if err != nil {
		return "", err
	}
	return text, os.WriteFile(path, []byte(text), 0o600)
}

// random text of n bytes in hexadecimal.
func random(n int) (string, error) {
	b := make([]byte, n)
	if _, err := rand.Read(b); err != nil {
		return "", err
	}
	return hex.EncodeToString(b), nil
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

// greets says whether the server at a socket greets. The kernel lets in before the server does, and a server
// that is told to stop before it first lets in may never hear of it.
func greets(socket string) bool {
	conn, err := net.DialTimeout("unix", socket, time.Second)
	if err != nil {
		return false
	}
	defer conn.Close()
	_ = conn.SetReadDeadline(time.Now().Add(5 * time.Second))
	var first [1]byte
	n, _ := conn.Read(first[:])
	return n == 1
}

// ready waits until the server lets in. It asks at the socket, which is opened after the port: whatever answers
// at the port may be a stranger's.
func (s *Server) ready(ctx context.Context, done <-chan struct{}) error {
	ctx, cancel := context.WithTimeout(ctx, 60*time.Second)
	defer cancel()
	tick := time.NewTicker(40 * time.Millisecond)
	defer tick.Stop()
	for {
		if greets(s.socket) {
			return nil
		}
		select {
		case <-done:
			log, _ := os.ReadFile(filepath.Join(s.dir, "mariadb.log"))
			return quad.Faultf("mariadb-ended", s.dir, "the database ended while starting: %s", reason(log))
		case <-ctx.Done():
			return quad.Faultf("mariadb-slow", s.dir, "the database did not come up in time")
		case <-tick.C:
		}
	}
}

// Create makes another, empty database on the server and gives its data source name. Tests use one each.
func (s *Server) Create(ctx context.Context) (string, error) {
	tag, err := random(6)
	if err != nil {
		return "", err
	}
	name := "perch_" + tag
	sql := fmt.Sprintf("CREATE DATABASE %s CHARACTER SET utf8mb4; GRANT ALL ON %s.* TO 'perch'@'127.0.0.1';", name, name)
	if err := s.execute(ctx, sql); err != nil {
		return "", err
	}
	return strings.TrimSuffix(s.DSN, "/perch") + "/" + name, nil
}

// Stop the server and wait until it has written everything.
func (s *Server) Stop() {
	cmd, done := s.halt()
	if cmd == nil {
		return
	}
	_ = cmd.Process.Signal(syscall.SIGTERM)
	select {
	case <-done:
	case <-time.After(20 * time.Second):
		_ = cmd.Process.Kill()
		<-done
	}
}

// Kill it at once, as a power cut would.
func (s *Server) Kill() {
	cmd, done := s.halt()
	if cmd == nil {
		return
	}
	_ = cmd.Process.Kill()
	<-done
	_ = os.Remove(s.socket)
}

func (s *Server) halt() (*exec.Cmd, chan struct{}) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.stopped = true
	return s.cmd, s.done
}
