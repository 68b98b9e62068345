//go:build ignore

// Mutants changes one operator of a package at a time and looks whether its tests notice. A mutation tool from the registry finds the places;
// a seeded sample of them is tried here, each in a build of its own over an overlay, so that the checkout is never touched.
//
// usage: go run bin/lib/mutants.go [--seed N] [--count N] [--after N] [--workers N] PACKAGE...
package main

import (
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"
)

// tool that lists the places, at a version that is known to run.
const tool = "github.com/go-gremlins/gremlins/cmd/gremlins@v0.6.0"

// patience with the tests of one mutant: one that hangs is noticed too.
const patience = 4 * time.Minute

type mutant struct {
	Type   string `json:"type"`
	Line   int    `json:"line"`
	Column int    `json:"column"`
	file   string
	from   string
	to     string
	line   string
}

var others = map[string]map[string]string{
	"ARITHMETIC_BASE":       {"+": "-", "-": "+", "*": "/", "/": "*", "%": "*"},
	"CONDITIONALS_BOUNDARY": {"<=": "<", ">=": ">", "<": "<=", ">": ">="},
	"CONDITIONALS_NEGATION": {"==": "!=", "!=": "==", "<=": ">", ">=": "<", "<": ">=", ">": "<="},
	"INCREMENT_DECREMENT":   {"++": "--", "--": "++"},
	"INVERT_LOGICAL":        {"&&": "||", "||": "&&"},
	"INVERT_NEGATIVES":      {"-": "+"},
	"INVERT_LOOPCTRL":       {"break": "continue", "continue": "break"},
	"INVERT_ASSIGNMENTS":    {"+=": "-=", "-=": "+=", "*=": "/=", "/=": "*="},
}

func main() {
	seed := flag.Uint64("seed", 1, "of the sample")
	count := flag.Int("count", 100, "how many a package")
	after := flag.Int("after", 0, "how many of the sample were tried before, in a run that was broken off")
	workers := flag.Int("workers", 2, "how many at a time")
	equivalent := flag.String("equivalent", "docs/mutants.txt", "survivors that no test can notice, a line each, with the reason")
	flag.Parse()
	known := equivalents(*equivalent)
	bad := false
	for _, pkg := range flag.Args() {
		pkg = "./" + filepath.Clean(pkg) // else a package of the standard library is meant
		// Tests that fail as it is would notice everything.
		if out, err := exec.Command("go", "test", "-vet=off", pkg).CombinedOutput(); err != nil {
			fmt.Fprintf(os.Stderr, "mutants: the tests of %s fail as it is: %v\n%s", pkg, err, out)
			os.Exit(2)
		}
		list, err := places(pkg)
		if err != nil {
			fmt.Fprintln(os.Stderr, "mutants:", err)
			os.Exit(2)
		}
		r := rand.New(rand.NewPCG(*seed, 12))
		r.Shuffle(len(list), func(i, j int) { list[i], list[j] = list[j], list[i] })
		list = list[min(*after, len(list)):min(*count, len(list))]
		killed, lived, same := try(pkg, list, *workers, known)
		share := 100 * float64(killed) / float64(max(1, killed+lived))
		fmt.Printf("%s: %d tried, %d noticed, %d not, %d that change nothing: %.0f %%\n", pkg, len(list), killed, lived, same, share)
		bad = bad || share < 85
	}
	if bad {
		os.Exit(1)
	}
}

// equivalents by file and changed line of code.
func equivalents(name string) map[string]bool {
	out := map[string]bool{}
	raw, err := os.ReadFile(name)
	if err != nil {
		return out
	}
	for _, l := range strings.Split(string(raw), "\n") {
		if what, _, ok := strings.Cut(l, " # "); ok {
			out[strings.TrimSpace(what)] = true
		}
	}
	return out
}

func (m mutant) key() string { return m.file + ": " + m.line }

// places of a package's sources where an operator can be another.
func places(pkg string) ([]mutant, error) {
	out, err := os.CreateTemp("", "mutants")
	if err != nil {
		return nil, err
	}
	defer os.Remove(out.Name())
	cmd := exec.Command("go", "run", tool, "unleash", "--dry-run", "--silent", "--invert-logical", "--invert-loopctrl", "--invert-assignments", "-o", out.Name(), pkg)
	cmd.Stderr = os.Stderr
	if err := cmd.Run(); err != nil {
		return nil, fmt.Errorf("list the places of %s: %w", pkg, err)
	}
	var found struct {
		Files []struct {
			Name      string   `json:"file_name"`
			Mutations []mutant `json:"mutations"`
		} `json:"files"`
	}
	raw, err := os.ReadFile(out.Name())
	if err != nil {
		return nil, err
	}
	if err := json.Unmarshal(raw, &found); err != nil {
		return nil, err
	}
	var list []mutant
	for _, f := range found.Files {
		if strings.Contains(f.Name, "/") {
			continue // of a package below
		}
		path := filepath.Join(pkg, f.Name)
		src, err := os.ReadFile(path)
		if err != nil {
			return nil, err
		}
		lines := strings.Split(string(src), "\n")
		for _, m := range f.Mutations {
			m.file = path
			at := lines[m.Line-1][m.Column-1:]
			for from, to := range others[m.Type] {
				if strings.HasPrefix(at, from) && len(from) > len(m.from) {
					m.from, m.to = from, to
				}
			}
			if m.from == "" {
				continue
			}
			m.line = strings.TrimSpace(lines[m.Line-1][:m.Column-1] + m.to + at[len(m.from):])
			list = append(list, m)
		}
	}
	slices.SortFunc(list, func(a, b mutant) int {
		return strings.Compare(fmt.Sprintf("%s %6d %4d %s", a.file, a.Line, a.Column, a.to), fmt.Sprintf("%s %6d %4d %s", b.file, b.Line, b.Column, b.to))
	})
	return list, nil
}

func try(pkg string, list []mutant, workers int, known map[string]bool) (killed, lived, same int) {
	var mu sync.Mutex
	var wait sync.WaitGroup
	next := make(chan mutant)
	for range workers {
		wait.Go(func() {
			for m := range next {
				noticed := notices(pkg, m)
				mu.Lock()
				switch {
				case noticed:
					killed++
				case known[m.key()]:
					same++
				default:
					lived++
					fmt.Printf("not noticed: %s:%d: %s -> %s: %s\n", m.file, m.Line, m.from, m.to, m.line)
				}
				mu.Unlock()
			}
		})
	}
	for _, m := range list {
		next <- m
	}
	close(next)
	wait.Wait()
	return killed, lived, same
}

// notices says whether the package's tests fail with a mutant in it. One that does not build is noticed by the compiler; one that cannot
// be tried, as when the file was changed meanwhile, ends the run: nothing is counted that was not seen.
func notices(pkg string, m mutant) bool {
	dir, err := os.MkdirTemp("", "mutant")
	stopIf(err)
	defer os.RemoveAll(dir)
	src, err := os.ReadFile(m.file)
	stopIf(err)
	lines := strings.Split(string(src), "\n")
	if len(lines) < m.Line || len(lines[m.Line-1]) < m.Column || !strings.HasPrefix(lines[m.Line-1][m.Column-1:], m.from) {
		stopIf(fmt.Errorf("%s was changed while it was tried: begin again on files that stay", m.file))
	}
	l := lines[m.Line-1]
	lines[m.Line-1] = l[:m.Column-1] + m.to + l[m.Column-1+len(m.from):]
	changed := filepath.Join(dir, "changed.go")
	abs, err := filepath.Abs(m.file)
	stopIf(err)
	overlay, err := json.Marshal(map[string]any{"Replace": map[string]string{abs: changed}})
	stopIf(err)
	stopIf(os.WriteFile(changed, []byte(strings.Join(lines, "\n")), 0o600))
	stopIf(os.WriteFile(filepath.Join(dir, "overlay.json"), overlay, 0o600))
	ctx, cancel := context.WithTimeout(context.Background(), patience)
	defer cancel()
	cmd := exec.CommandContext(ctx, "go", "test", "-overlay", filepath.Join(dir, "overlay.json"), "-count=1", "-failfast", "-timeout", patience.String(), pkg)
	cmd.WaitDelay = 5 * time.Second
	return cmd.Run() != nil
}

func stopIf(err error) {
	if err != nil {
		fmt.Fprintln(os.Stderr, "mutants:", err)
		os.Exit(1)
	}
}
