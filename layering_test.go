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
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
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

// rooms that the table in docs/architecture.md names, each with those it may reach; nil stands for everything.
func rooms(t *testing.T) map[string][]string {
	t.Helper()
	text, err := os.ReadFile("docs/architecture.md")
	if err != nil {
		t.Fatal(err)
	}
	named := regexp.MustCompile("`([a-z0-9/]+)`")
	names := func(cell string) []string {
		list := []string{}
		for _, m := range named.FindAllStringSubmatch(cell, -1) {
			list = append(list, m[1])
		}
		return list
	}
	may := map[string][]string{}
	_, table, _ := strings.Cut(string(text), "| folder | what lives there | may reach |\n")
	for line := range strings.Lines(table) {
		cells := strings.Split(strings.Trim(strings.TrimSpace(line), "|"), "|")
		if len(cells) != 3 {
			break
		}
		for _, room := range names(cells[0]) {
			may[room] = append(names(cells[2]), room)
			if strings.TrimSpace(cells[2]) == "everything" {
				may[room] = nil
			}
		}
	}
	if len(may) < 10 {
		t.Fatalf("the table names %d rooms only", len(may))
	}
	return may
}

// Knowledge points downwards only, transitively: what a room's packages reach inside this module is what the table says. Every package
// lives in a room of the table; where one lies inside another, the inner one counts.
func TestRoomsReachDownwardsOnly(t *testing.T) {
	may := rooms(t)
	reaches := map[string][]string{}
	for _, p := range packages(t) {
		if p.ImportPath == "vividperch" {
			continue // this test
		}
		room := ""
		for r := range may {
			if under(p.ImportPath, r) && len(r) > len(room) {
				room = r
			}
		}
		if room == "" {
			t.Errorf("%s lives in no room of docs/architecture.md", p.ImportPath)
			continue
		}
		reaches[room] = append(reaches[room], p.Deps...)
		for _, d := range p.Deps {
			in := func(r string) bool { return under(d, r) }
			if may[room] != nil && strings.HasPrefix(d, "vividperch/") && !slices.ContainsFunc(may[room], in) {
				t.Errorf("%s reaches %s; %s may reach %s only", p.ImportPath, d, room, strings.Join(may[room], ", "))
			}
		}
	}
	for room, allowed := range may {
		for _, a := range allowed {
			if a != room && !slices.ContainsFunc(reaches[room], func(d string) bool { return under(d, a) }) {
				t.Errorf("docs/architecture.md lets %s reach %s, which it does not", room, a)
			}
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

// A station is found by its one name: whoever has its instrument on the page has its rules, its use cases and its routes beside it.
func TestAStationIsFoundByItsName(t *testing.T) {
	t.Parallel()
	registry, err := os.ReadFile("ui/src/stations/registry.ts")
	if err != nil {
		t.Fatal(err)
	}
	found := regexp.MustCompile(`import\('\./([a-z-]+)/station'\)`).FindAllStringSubmatch(string(registry), -1)
	if len(found) < 8 {
		t.Fatalf("only %d instruments are registered", len(found))
	}
	for _, m := range found {
		name := m[1]
		if !strings.Contains(string(registry), "'"+name+"': later(") && !strings.Contains(string(registry), "  "+name+": later(") {
			t.Errorf("the instrument in stations/%s is not that of a station of this name", name)
		}
		plain := strings.ReplaceAll(name, "-", "")
		for _, file := range []string{"core/check/" + plain + ".go", "app/" + plain + ".go", "api/" + plain + ".go"} {
			if _, err := os.Stat(file); err != nil {
				t.Errorf("%s has an instrument and no %s", name, file)
			}
		}
	}
}

// What a pilot reads is said in the words of the glossary: what was said before stands nowhere on the page, in a sentence of the core or on
// the command line.
func TestOldWordsAreGone(t *testing.T) {
	t.Parallel()
	glossary, err := os.ReadFile("docs/words.md")
	if err != nil {
		t.Fatal(err)
	}
	var old []string
	for _, row := range strings.Split(string(glossary), "\n") {
		cells := strings.Split(row, "|")
		if len(cells) < 5 || strings.Contains(cells[1], "---") || strings.TrimSpace(cells[1]) == "word" {
			continue
		}
		for _, m := range regexp.MustCompile("`([^`]+)`").FindAllStringSubmatch(cells[3], -1) {
			old = append(old, m[1])
		}
	}
	if len(old) < 25 {
		t.Fatalf("the glossary names only %d old words", len(old))
	}
	said := func(file, text string) {
		for _, word := range old {
			if strings.Contains(text, word) {
				t.Errorf("%s says %q: %s", file, word, strings.TrimSpace(text))
			}
		}
	}
	for _, root := range []string{"ui/src", "core", "app", "bench", "cmd"} {
		err := filepath.WalkDir(root, func(file string, _ fs.DirEntry, err error) error {
			switch {
			case err != nil:
				return err
			case strings.HasSuffix(file, ".tsx") || strings.HasSuffix(file, ".facts.yaml") || strings.HasPrefix(file, "core/link/gear/"):
				raw, err := os.ReadFile(file)
				if err != nil {
					return nil // a folder
				}
				for _, line := range strings.Split(string(raw), "\n") {
					if shown := strings.TrimSpace(line); !strings.HasPrefix(shown, "//") && !strings.HasPrefix(shown, "*") && !strings.HasPrefix(shown, "/*") && !strings.HasPrefix(shown, "#") {
						said(file, line)
					}
				}
			case strings.HasSuffix(file, ".go") && !strings.HasSuffix(file, "_test.go"):
				source, err := parser.ParseFile(token.NewFileSet(), file, nil, 0)
				if err != nil {
					return err
				}
				ast.Inspect(source, func(n ast.Node) bool {
					if l, is := n.(*ast.BasicLit); is && l.Kind == token.STRING && !strings.Contains(l.Value, "Vivid Perch, ") {
						said(file, l.Value)
					}
					return true
				})
			}
			return nil
		})
		if err != nil {
			t.Fatal(err)
		}
	}
}
