package mariadb

import (
	"compress/gzip"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"

	"vividperch/core/quad"
)

// mark begins every backup: it tells whose the file is, before anything in it is believed.
const mark = "-- Vivid Perch, backup of an instance\n"

// Attach to the server that runs on a folder already, if there is one. It may be asked for dumps; it belongs
// to whoever started it, and is not to be stopped.
func Attach(dir string) (*Server, bool) {
	dir, err := filepath.Abs(dir)
	if err != nil {
		return nil, false
	}
	pid, err := os.ReadFile(filepath.Join(dir, "mariadb.pid"))
	if err != nil {
		return nil, false
	}
	line, err := os.ReadFile(filepath.Join("/proc", strings.TrimSpace(string(pid)), "cmdline"))
	if err != nil {
		return nil, false
	}
	s := &Server{dir: dir}
	mine := false
	for _, arg := range strings.Split(string(line), "\x00") {
		if socket, ok := strings.CutPrefix(arg, "--socket="); ok {
			s.socket = socket
		}
		mine = mine || arg == "--datadir="+filepath.Join(dir, "mariadb")
	}
	return s, mine && s.socket != ""
}

// Dump writes everything the database holds to a file that must not be there yet: SQL, compressed. The file
// appears whole or not at all.
func (s *Server) Dump(ctx context.Context, path string) (err error) {
	if _, err := os.Lstat(path); err == nil {
		return quad.Faultf("file-there", path, "is there already; a backup overwrites nothing")
	}
	out, err := os.CreateTemp(filepath.Dir(path), ".backup-*")
	if err != nil {
		return quad.Faultf("no-folder", path, "cannot be written: %v", err)
	}
	defer func() {
		out.Close()
		_ = os.Remove(out.Name()) // gone already when it has its name
	}()
	zip := gzip.NewWriter(out)
	if _, err := io.WriteString(zip, mark); err != nil {
		return err
	}
	cmd := exec.CommandContext(ctx, "mariadb-dump", "--no-defaults", "--socket="+s.socket, "--user=root", "--single-transaction", "--hex-blob", "perch")
	cmd.Stdout = zip
	var said strings.Builder
	cmd.Stderr = &said
	if err := cmd.Run(); err != nil {
		return quad.Faultf("mariadb-dump", path, "the database cannot be backed up: %s", reason([]byte(said.String())))
	}
	if err := errors.Join(zip.Close(), out.Sync(), out.Close()); err != nil {
		return err
	}
	return os.Rename(out.Name(), path)
}

// staged is the database that a backup is read into before it takes the place of what is there.
const staged = "perch_restored"

// Stage reads a backup into a database of its own and gives that database's data source name, to be looked at.
// What is kept is not touched. A file that is damaged or not a backup is a Fault.
func (s *Server) Stage(ctx context.Context, path string) (dsn string, err error) {
	in, err := os.Open(path)
	if err != nil {
		return "", quad.Faultf("no-file", path, "cannot be opened")
	}
	defer in.Close()
	zip, err := gzip.NewReader(in)
	if err != nil {
		return "", quad.Faultf("no-backup", path, "is not a backup")
	}
	first := make([]byte, len(mark))
	if _, err := io.ReadFull(zip, first); err != nil || string(first) != mark {
		return "", quad.Faultf("no-backup", path, "is not a backup of this program")
	}
	// A file may say anything, so a user who may touch nothing but the new database reads it, and the client
	// may touch no file and start nothing.
	password, err := random(16)
	if err != nil {
		return "", err
	}
	if err := s.execute(ctx, fmt.Sprintf(`DROP DATABASE IF EXISTS %[1]s; CREATE DATABASE %[1]s CHARACTER SET utf8mb4;
		GRANT ALL ON %[1]s.* TO 'perch'@'127.0.0.1';
		CREATE OR REPLACE USER '%[1]s'@'localhost' IDENTIFIED BY '%[2]s'; GRANT ALL ON %[1]s.* TO '%[1]s'@'localhost';`, staged, password)); err != nil {
		return "", err
	}
	cmd := exec.CommandContext(ctx, "mariadb", "--no-defaults", "--sandbox", "--binary-mode", "--socket="+s.socket, "--user="+staged, "--database="+staged)
	cmd.Env = append(os.Environ(), "MYSQL_PWD="+password)
	cmd.Stdin = zip
	out, err := cmd.CombinedOutput()
	if err != nil {
		return "", quad.Faultf("damaged", path, "cannot be read as a backup: %s", reason(out))
	}
	// The client stops reading where the file breaks off and is content; the checksum at its end is not.
	if _, err := io.Copy(io.Discard, zip); err != nil {
		return "", quad.Faultf("damaged", path, "is damaged: %v", err)
	}
	if err := s.execute(ctx, fmt.Sprintf("DROP USER '%s'@'localhost';", staged)); err != nil {
		return "", err
	}
	return strings.TrimSuffix(s.DSN, "/perch") + "/" + staged, nil
}

// Swap puts the staged database in the place of what is kept, which is gone afterwards. The tables change
// places in one statement: a kill leaves the one or the other, whole.
func (s *Server) Swap(ctx context.Context) error {
	var moves []string
	for _, way := range [][2]string{{"perch", "perch_replaced"}, {staged, "perch"}} {
		tables, err := s.tables(ctx, way[0])
		if err != nil {
			return err
		}
		for _, t := range tables {
			moves = append(moves, fmt.Sprintf("%s.`%s` TO %s.`%s`", way[0], t, way[1], t))
		}
	}
	if len(moves) == 0 {
		return quad.Faultf("no-backup", "", "the backup holds no tables")
	}
	if err := s.execute(ctx, "DROP DATABASE IF EXISTS perch_replaced; CREATE DATABASE perch_replaced CHARACTER SET utf8mb4; RENAME TABLE "+strings.Join(moves, ", ")); err != nil {
		return err
	}
	return s.execute(ctx, "DROP DATABASE perch_replaced; DROP DATABASE "+staged)
}

func (s *Server) tables(ctx context.Context, database string) ([]string, error) {
	cmd := exec.CommandContext(ctx, "mariadb", "--no-defaults", "--socket="+s.socket, "--user=root", "--batch", "--skip-column-names", "--execute=SHOW TABLES FROM "+database)
	out, err := cmd.Output()
	if err != nil {
		return nil, quad.Faultf("mariadb", database, "the tables cannot be listed: %v", err)
	}
	return strings.Fields(string(out)), nil
}

func (s *Server) execute(ctx context.Context, sql string) error {
	cmd := exec.CommandContext(ctx, "mariadb", "--no-defaults", "--socket="+s.socket, "--user=root")
	cmd.Stdin = strings.NewReader(sql)
	if out, err := cmd.CombinedOutput(); err != nil {
		return quad.Faultf("mariadb", "", "the database refused: %s", reason(out))
	}
	return nil
}
