// Package vividperch_test holds what must be true of the house as a whole.
package vividperch_test

import (
	"encoding/json"
	"errors"
	"go/ast"
	"go/parser"
	"go/token"
	"io"
	"io/fs"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

type pkg struct {
	ImportPath string
	Deps       []string
}

func packages(t *testing.T) []pkg {
	t.Helper()
	out, err := exec.Command("go", "list", "-json=ImportPath,Deps", "./...").Output()
	if err != nil {
		t.Fatalf("go list: %v", err)
	}
	var list []pkg
	dec := json.NewDecoder(strings.NewReader(string(out)))
	for {
		var p pkg
		if err := dec.Decode(&p); errors.Is(err, io.EOF) {
			return list
		} else if err != nil {
			t.Fatal(err)
		}
		list = append(list, p)
	}
}

func under(path, room string) bool {
	return path == "vividperch/"+room || strings.HasPrefix(path, "vividperch/"+room+"/")
}

// Knowledge points downwards only, transitively: what a room's packages may reach inside this module.
func TestRoomsReachDownwardsOnly(t *testing.T) {
	may := map[string][]string{
		"core":           {"core"},
		"bench/protocol": {"bench/protocol", "core"},
		"bench/client":   {"bench/client", "bench/protocol", "core"},
		"bench/standin":  {"bench/standin", "bench/protocol", "core"},
		"store":          {"store", "core"},
		"app":            {"app", "bench/client", "bench/protocol", "core"},
		"api":            {"api", "app", "bench/client", "bench/protocol", "core"},
		"demo":           {"demo", "bench/standin", "bench/protocol", "core"},
	}
	seen := map[string]bool{}
	for _, p := range packages(t) {
		for room, allowed := range may {
			if !under(p.ImportPath, room) {
				continue
			}
			seen[room] = true
			for _, d := range p.Deps {
				ok := !strings.HasPrefix(d, "vividperch/")
				for _, a := range allowed {
					ok = ok || under(d, a)
				}
				if !ok {
					t.Errorf("%s reaches %s; %s may reach %s only", p.ImportPath, d, room, strings.Join(allowed, ", "))
				}
			}
		}
	}
	for room := range may {
		if !seen[room] {
			t.Errorf("there is no room %s any more", room)
		}
	}
}

// The core is pure computation: no network, files, processes or databases, and few libraries.
func TestCoreReachesNothingOutside(t *testing.T) {
	libraries := []string{"github.com/goccy/go-yaml", "github.com/Masterminds/semver/v3", "gonum.org/v1/gonum"}
	for _, p := range packages(t) {
		if !under(p.ImportPath, "core") {
			continue
		}
		for _, d := range p.Deps {
			if strings.HasPrefix(d, "net/") || d == "net" || d == "os/exec" || d == "database/sql" || d == "log/slog" {
				t.Errorf("%s reaches %s", p.ImportPath, d)
			}
			first, _, _ := strings.Cut(d, "/")
			if !strings.Contains(first, ".") || strings.HasPrefix(d, "vividperch/") {
				continue
			}
			ok := false
			for _, l := range libraries {
				ok = ok || d == l || strings.HasPrefix(d, l+"/")
			}
			if !ok {
				t.Errorf("%s reaches the library %s", p.ImportPath, d)
			}
		}
	}
}

// Time is an argument and nothing runs on after a call; files come in as bytes.
func TestCoreHasNoClockFilesOrGoroutines(t *testing.T) {
	forbidden := map[string][]string{"time": {"Now", "Since", "Sleep", "After", "NewTimer", "NewTicker"}, "os": {"Open", "ReadFile", "WriteFile", "Create"}}
	err := filepath.WalkDir("core", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		files := token.NewFileSet()
		f, err := parser.ParseFile(files, path, nil, 0)
		if err != nil {
			return err
		}
		ast.Inspect(f, func(n ast.Node) bool {
			switch x := n.(type) {
			case *ast.GoStmt:
				t.Errorf("%s: starts a goroutine", files.Position(x.Pos()))
			case *ast.SelectorExpr:
				if room, ok := x.X.(*ast.Ident); ok {
					for _, name := range forbidden[room.Name] {
						if x.Sel.Name == name {
							t.Errorf("%s: calls %s.%s", files.Position(x.Pos()), room.Name, name)
						}
					}
				}
			}
			return true
		})
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
}
