// Package mariadbtest gives tests a MariaDB server of their own: started once for a test binary, thrown away
// with it.
package mariadbtest

import (
	"context"
	"fmt"
	"os"
	"testing"

	"vividperch/store/mariadb"
)

// Server that Main started.
var Server *mariadb.Server

// Main starts the server, runs the tests of a package and ends with their code. Call it from TestMain.
func Main(m *testing.M) {
	os.Exit(run(m))
}

func run(m *testing.M) int {
	dir, err := os.MkdirTemp("", "perch-test-")
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer os.RemoveAll(dir)
	Server, err = mariadb.Start(context.Background(), dir, 0)
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer Server.Stop()
	return m.Run()
}

// Fresh makes an empty database on the server and gives its data source name.
func Fresh(t testing.TB) string {
	t.Helper()
	dsn, err := Server.Create(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	return dsn
}
