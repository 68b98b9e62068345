package main

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"

	"vividperch/app"
	"vividperch/core/firmware"
	"vividperch/core/flight"
	"vividperch/demo"
	"vividperch/store/mariadb/mariadbtest"
)

// TestMain lets the test binary be the program itself: run again with this variable set, it is perch.
func TestMain(m *testing.M) {
	if os.Getenv("PERCH_TEST_IS_PROGRAM") != "" {
		main()
		return
	}
	mariadbtest.Main(m)
}

func command(ctx context.Context, args ...string) *exec.Cmd {
	cmd := exec.CommandContext(ctx, os.Args[0], args...)
	cmd.Env = append(os.Environ(), "PERCH_TEST_IS_PROGRAM=1")
	return cmd
}

// perch runs a command to its end.
func perch(t *testing.T, args ...string) (code int, out, said string) {
	t.Helper()
	ctx, cancel := context.WithTimeout(t.Context(), 20*time.Second)
	defer cancel()
	cmd := command(ctx, args...)
	var stdout, stderr bytes.Buffer
	cmd.Stdout, cmd.Stderr = &stdout, &stderr
	err := cmd.Run()
	var ended *exec.ExitError
	if err != nil && !errors.As(err, &ended) {
		t.Fatal(err)
	}
	return cmd.ProcessState.ExitCode(), stdout.String(), stderr.String()
}

func file(t *testing.T, name string, content []byte) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	if err := os.WriteFile(path, content, 0o600); err != nil {
		t.Fatal(err)
	}
	return path
}

// The findings and asks of the demo's quads, by rule: a rule that begins or ceases to fire shows here.
func TestCheckEqualsTheGoldenList(t *testing.T) {
	t.Parallel()
	for name, want := range map[string]int{"dunlin": 0, "sanderling": 0, "whimbrel": exitStop} {
		code, out, said := perch(t, "check", "--demo", name, "--json")
		if code != want {
			t.Errorf("%s: exit %d, want %d: %s", name, code, want, said)
		}
		var report struct {
			Findings []struct{ Rule, Weight string }
			Asks     []struct{ Rule, Path string }
		}
		if err := json.Unmarshal([]byte(out), &report); err != nil {
			t.Fatal(err)
		}
		var lines []string
		for _, f := range report.Findings {
			lines = append(lines, f.Weight+" "+f.Rule)
		}
		for _, a := range report.Asks {
			lines = append(lines, "ask "+a.Rule+" "+a.Path)
		}
		got := strings.Join(lines, "\n") + "\n"
		golden := filepath.Join("testdata", name+".golden")
		if os.Getenv("PERCH_WRITE_GOLDEN") != "" {
			if err := os.WriteFile(golden, []byte(got), 0o644); err != nil {
				t.Fatal(err)
			}
		}
		kept, err := os.ReadFile(golden)
		if err != nil || string(kept) != got {
			t.Errorf("%s is judged otherwise than %s (%v):\n%s", name, golden, err, got)
		}
	}
}

// A sheet from a file, with readings, a board's list and a made-up truth, judged without a database.
func TestCheckFromFiles(t *testing.T) {
	t.Parallel()
	q, err := demo.Load("dunlin")
	if err != nil {
		t.Fatal(err)
	}
	raw, err := json.Marshal(q.Meant)
	if err != nil {
		t.Fatal(err)
	}
	sheet := file(t, "dunlin.json", raw)
	readings := file(t, "readings.yaml", []byte("- {path: readings.motors.outputs.B, value: {corner: rearLeft, spin: clockwise}}\n"))
	if code, out, _ := perch(t, "check", sheet, "--readings", readings); code != exitStop || !strings.Contains(out, "Rear left turns clockwise") {
		t.Errorf("exit %d: %s", code, out)
	}
	board := file(t, "board.txt", []byte("lean.limit = 300\n"))
	if code, out, _ := perch(t, "check", sheet, "--board", board); code != exitStop || !strings.Contains(out, "Settings: 50°. Board: 30°.") {
		t.Errorf("exit %d: %s", code, out)
	}
	code, out, _ := perch(t, "rehearse", sheet, "--json")
	var run struct {
		Summary struct{ Outcome string }
		Frames  []any
		Assumed []string
	}
	if err := json.Unmarshal([]byte(out), &run); err != nil || code != 0 || run.Summary.Outcome != "landed" || len(run.Frames) != 0 || len(run.Assumed) == 0 {
		t.Errorf("exit %d, %v: %.300s", code, err, out)
	}
	if code, out, _ := perch(t, "rehearse", sheet, "--readings", readings); code != exitStop || !strings.Contains(out, "tips to the rear left") || !strings.Contains(out, "assumed: ") {
		t.Errorf("exit %d: %s", code, out)
	}
	// Every scenario, as figures and as a trace; one fault with and without it; made-up truths; what cannot be flown.
	for _, s := range flight.Scripts {
		if slices.Contains([]flight.Scenario{flight.InvertedHover, flight.RadioLost, flight.LostFarOut, flight.PositionHold}, s.Scenario) {
			continue
		}
		code, out, _ := perch(t, "rehearse", sheet, "--scenario", string(s.Scenario), "--json", "--wind", "2")
		var run struct {
			Scenario string
			Good     bool
			Figures  []any
		}
		if err := json.Unmarshal([]byte(out), &run); err != nil || code != 0 || run.Scenario != string(s.Scenario) || !run.Good || len(run.Figures) < 8 {
			t.Errorf("%s: exit %d, %v: %.300s", s.Scenario, code, err, out)
		}
		if code, out, _ := perch(t, "rehearse", sheet, "--scenario", string(s.Scenario), "--csv", "--rate", "50"); code != 0 || !strings.HasPrefix(out, "time (s),gyro roll (deg/s)") || strings.Count(out, "\n") < 300 {
			t.Errorf("%s: exit %d, a trace of %d lines", s.Scenario, code, strings.Count(out, "\n"))
		}
	}
	if code, out, _ := perch(t, "rehearse", sheet, "--readings", readings, "--shows", "spin"); code != exitStop || !strings.Contains(out, "without it: It lifts") {
		t.Errorf("exit %d: %s", code, out)
	}
	actual := file(t, "actual.json", []byte(`{"hands":{"frontRight":"clockwise"}}`))
	if code, out, _ := perch(t, "rehearse", sheet, "--actual", actual); code != exitStop || !strings.Contains(out, "tips to the front right") {
		t.Errorf("exit %d: %s", code, out)
	}
	for _, args := range [][]string{{"--scenario", "loop"}, {"--shows", "gremlins"}, {"--shows", "order"}, {"--csv", "--rate", "1e9"}, {"--actual", file(t, "bad.json", []byte(`{"tiltRoll":"much"}`))}} {
		if code, _, _ := perch(t, append([]string{"rehearse", sheet}, args...)...); code == 0 || code == exitStop {
			t.Errorf("%v: exit %d", args, code)
		}
	}
	if code, out, _ := perch(t, "rehearse", "--list"); code != 0 || !strings.Contains(out, "--shows oneWay") {
		t.Errorf("exit %d: %s", code, out)
	}
}

func TestHex(t *testing.T) {
	t.Parallel()
	img, err := firmware.BuildImage(firmware.Header{Target: "HARRIER4", Line: "Marram", Version: "7.0.2"}, 0x08008000, make([]byte, 5000))
	if err != nil {
		t.Fatal(err)
	}
	text := firmware.WriteHex(img)
	code, out, _ := perch(t, "hex", file(t, "good.hex", text), "--json")
	var v struct {
		Target, CRC string
		Bytes       int
		Fits        bool
	}
	if err := json.Unmarshal([]byte(out), &v); err != nil || code != 0 || v.Target != "HARRIER4" || v.Bytes != 5064 || !v.Fits {
		t.Errorf("exit %d, %v: %s", code, err, out)
	}
	plain := firmware.WriteHex(firmware.Image{Segments: []firmware.Segment{{Address: 0x08008000, Data: make([]byte, 500)}}})
	if code, out, _ := perch(t, "hex", file(t, "plain.hex", plain)); code != exitStop || !strings.Contains(out, "does not say what it is for; 500 bytes") || strings.Contains(out, " , ") {
		t.Errorf("an image without a header: exit %d: %s", code, out)
	}
	flipped := bytes.Clone(text)
	flipped[bytes.IndexByte(text, '\n')+15] ^= 1
	if code, _, said := perch(t, "hex", file(t, "flipped.hex", flipped)); code != exitUnreadable || !strings.Contains(said, "line 2: the checksum is") {
		t.Errorf("exit %d: %s", code, said)
	}
	img.Segments[0].Address = 0x08000000
	if code, out, _ := perch(t, "hex", file(t, "boot.hex", firmware.WriteHex(img))); code != exitStop || !strings.Contains(out, "overwrite the bootloader") {
		t.Errorf("exit %d: %s", code, out)
	}
}

func TestProof(t *testing.T) {
	t.Parallel()
	code, out, _ := perch(t, "proof", "--matrix")
	if code != 0 || !regexp.MustCompile(`(?m)^change sheet\.watch\.warnPerCell +power-watch$`).MatchString(out) || !strings.Contains(out, "event  crash") || !strings.Contains(out, "days   1 ") {
		t.Errorf("exit %d: %.500s", code, out)
	}
	// What falls with what is decided, not left to chance: a difference is to be read.
	const golden = "testdata/matrix.golden"
	if os.Getenv("PERCH_WRITE_GOLDEN") != "" {
		if err := os.WriteFile(golden, []byte(out), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	if kept, err := os.ReadFile(golden); err != nil || string(kept) != out {
		t.Errorf("the matrix is another than %s (%v); PERCH_WRITE_GOLDEN=1 writes it anew", golden, err)
	}
	code, out, _ = perch(t, "proof", "--demo", "dunlin", "--json")
	var list []struct{ Station, State string }
	if err := json.Unmarshal([]byte(out), &list); err != nil || code != 0 || len(list) != 14 || list[0].State != "ready" || list[6].State != "notBegun" {
		t.Errorf("exit %d, %v: %+v", code, err, list)
	}
}

// Readings and a settings list given beside a quad of the demo world, or an archive, take the place of what it holds.
func TestFilesBesideADemoQuad(t *testing.T) {
	t.Parallel()
	readings := file(t, "r.yaml", []byte("- {path: readings.senses.gyroStill, value: 40}\n"))
	if code, out, _ := perch(t, "check", "--demo", "dunlin"); code != 0 || strings.Contains(out, "40 °/s") {
		t.Fatalf("exit %d: %.200s", code, out)
	}
	if code, out, said := perch(t, "check", "--demo", "dunlin", "--readings", readings); code != exitStop || !strings.Contains(out, "40 °/s") {
		t.Errorf("exit %d, %s: %.300s", code, said, out)
	}
	list := file(t, "board.txt", []byte("lean.limit = 300\n"))
	if code, out, said := perch(t, "check", "--demo", "dunlin", "--board", list); code != exitStop || !strings.Contains(out, "Board: 30°.") {
		t.Errorf("exit %d, %s: %.300s", code, said, out)
	}
}

// What cannot be read ends with 2 and one sentence at its place.
func TestUnreadableInput(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		name string
		args []string
		says string
	}{
		{"no file", []string{"check", "/nowhere/at/all"}, "cannot be opened"},
		{"nothing named", []string{"check"}, "name a sheet file"},
		{"no YAML", []string{"check", file(t, "a.yaml", []byte("sheet: [1,"))}, "cannot be read as YAML"},
		{"a wrong type", []string{"check", file(t, "b.yaml", []byte("sheet: {motors: {idle: fast}}"))}, "sheet.motors.idle: wants a number, but holds a word"},
		{"an unknown name", []string{"check", file(t, "c.yaml", []byte("sheet: {motor: {}}"))}, `does not know the name "motor"`},
		{"a word that is none", []string{"check", file(t, "d.yaml", []byte("sheet: {craft: {layout: ring}}"))}, `sheet.craft.layout: is "ring"`},
		{"anchors", []string{"check", file(t, "e.yaml", []byte("a: &a [1]\nb: *a"))}, "anchor"},
		{"too large", []string{"hex", file(t, "f.hex", make([]byte, 4<<20))}, "larger than"},
		{"a folder", []string{"check", t.TempDir()}, "is a folder"},
		{"no readings beside a demo quad", []string{"check", "--demo", "dunlin", "--readings", "/nowhere/r.yaml"}, "/nowhere/r.yaml: cannot be opened"},
		{"readings of no form", []string{"check", "--demo", "dunlin", "--readings", file(t, "r1.yaml", []byte("- {path: 7"))}, "r1.yaml"},
		{"a reading that does not fit", []string{"check", "--demo", "dunlin", "--readings", file(t, "r2.yaml", []byte("- {path: readings.motors.hot, value: banana}"))}, `r2.yaml readings.motors.hot: is "banana"`},
		{"no settings list beside a demo quad", []string{"check", "--demo", "dunlin", "--board", "/nowhere/list"}, "/nowhere/list: cannot be opened"},
		{"a list of another line", []string{"check", "--demo", "dunlin", "--board", file(t, "l.txt", []byte("no.such = 1\n"))}, "l.txt"},
		{"an actual quad that is not there", []string{"rehearse", "--demo", "dunlin", "--actual", "/nowhere/a.yaml"}, "cannot be opened"},
		{"no log", []string{"trace", "/nowhere/log.csv"}, "/nowhere/log.csv: cannot be opened"},
		{"a log that is none", []string{"trace", file(t, "t.csv", []byte("a,b\n1,2\n"))}, "t.csv"},
		{"no image", []string{"hex", "/nowhere/i.hex"}, "/nowhere/i.hex: cannot be opened"},
		{"a list that is not there", []string{"list", "/nowhere/l.txt"}, "/nowhere/l.txt: cannot be opened"},
		{"a list of a family nobody knows", []string{"list", file(t, "l2.txt", []byte("a = 1\n"))}, "says no firmware family that is known here"},
		{"a dictionary that is not there", []string{"list", sandbar + ".list", "--dictionary", "/nowhere/d.yaml"}, "/nowhere/d.yaml: cannot be opened"},
		{"a dictionary of no form", []string{"list", sandbar + ".list", "--dictionary", file(t, "d2.yaml", []byte("line: [1"))}, "d2.yaml"},
		{"a place that is none", []string{"list", sandbar + ".list", "--dictionary", sandbar + ".dictionary.yaml", "--set", "sheet.motor.idle=6"}, "sheet.motor"},
		{"a value that does not fit", []string{"list", sandbar + ".list", "--dictionary", sandbar + ".dictionary.yaml", "--set", "sheet.motors.idle=fast"}, "sheet.motors.idle"},
		{"an unknown command", []string{"fly"}, "fly"},
		{"a demo that is none", []string{"check", "--demo", "heron"}, "heron"},
	} {
		code, out, said := perch(t, c.args...)
		if code != exitUnreadable || !strings.Contains(said, c.says) || strings.Contains(said, "goroutine") {
			t.Errorf("%s: exit %d, said %q, printed %.100q", c.name, code, said, out)
		}
	}
}

// program is a running server.
type program struct {
	cmd     *exec.Cmd
	address string
}

func start(t *testing.T, data string, args ...string) *program {
	t.Helper()
	cmd := command(context.Background(), append([]string{"serve", "--data", data, "--port", "0"}, args...)...)
	out, err := cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	cmd.Stderr = os.Stderr
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	p := &program{cmd: cmd}
	t.Cleanup(func() {
		if cmd.ProcessState == nil {
			_ = cmd.Process.Kill()
			_ = cmd.Wait()
		}
	})
	lines := bufio.NewScanner(out)
	for lines.Scan() {
		if _, at, ok := strings.Cut(lines.Text(), "is at "); ok {
			p.address = at
			go func() { _, _ = io.Copy(io.Discard, out) }()
			return p
		}
	}
	t.Fatal("the program ended without an address")
	return nil
}

func (p *program) kill() {
	_ = p.cmd.Process.Kill()
	_ = p.cmd.Wait()
}

func (p *program) ask(method, path string, body any, into any) (int, error) {
	raw, err := json.Marshal(body)
	if err != nil {
		return 0, err
	}
	req, err := http.NewRequest(method, p.address+path, bytes.NewReader(raw))
	if err != nil {
		return 0, err
	}
	req.Header.Set("Content-Type", "application/json")
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		return 0, err
	}
	defer res.Body.Close()
	all, err := io.ReadAll(res.Body)
	if err != nil {
		return 0, err // the answer did not arrive whole: it was not confirmed
	}
	if into != nil && res.StatusCode == http.StatusOK {
		err = json.Unmarshal(all, into)
	}
	return res.StatusCode, err
}

// quad of the demo world, by its name.
func (p *program) quad(t *testing.T, name string) int64 {
	t.Helper()
	var hangar app.HangarView
	if status, err := p.ask("GET", "/api/hangar", nil, &hangar); err != nil || status != 200 {
		t.Fatalf("the hangar answers with %d, %v", status, err)
	}
	for _, q := range hangar.Quads {
		if q.Name == name {
			return q.ID
		}
	}
	t.Fatalf("there is no %s in the hangar", name)
	return 0
}

// get gives an answer as it came.
func (p *program) get(path string) (int, string, error) {
	res, err := http.Get(p.address + path)
	if err != nil {
		return 0, "", err
	}
	defer res.Body.Close()
	raw, err := io.ReadAll(res.Body)
	return res.StatusCode, string(raw), err
}

// The program with a database of its own: started, refused a second time, and asked to end.
func TestServeOnItsOwn(t *testing.T) {
	t.Parallel()
	data := t.TempDir()
	p := start(t, data, "--bench", "none")
	type listed struct{ Quads []struct{ Name string } }
	var hangar listed
	if status, err := p.ask("GET", "/api/hangar", nil, &hangar); err != nil || status != 200 || len(hangar.Quads) != len(demo.Names) {
		t.Errorf("hangar %d, %v: %+v", status, err, hangar)
	}
	if code, _, said := perch(t, "serve", "--data", data, "--port", "0", "--bench", "none"); code != exitUnreadable || !strings.Contains(said, "runs already at "+p.address) {
		t.Errorf("a second one on the same folder: exit %d, %s", code, said)
	}
	// A busy port makes another be picked.
	_, port, _ := strings.Cut(strings.TrimPrefix(p.address, "http://"), ":")
	other := start(t, t.TempDir(), "--bench", "none", "--database", mariadbtest.Server.DSN, "--port", port)
	if other.address == p.address || !strings.HasPrefix(other.address, "http://127.0.0.1:") {
		t.Errorf("the other one is at %s", other.address)
	}
	other.kill()
	if err := p.cmd.Process.Signal(syscall.SIGTERM); err != nil {
		t.Fatal(err)
	}
	if err := p.cmd.Wait(); err != nil {
		t.Errorf("asked to end, it ended with %v", err)
	}
	if left, _ := os.ReadDir(filepath.Join(data, "mariadb")); len(left) == 0 {
		t.Error("its data is gone")
	}
	if _, err := os.Stat(filepath.Join(data, "mariadb.pid")); err == nil {
		t.Error("its database still runs")
	}
	// What was there is there again, and the demo world is not loaded twice.
	again := start(t, data, "--bench", "none")
	hangar = listed{}
	if _, err := again.ask("GET", "/api/hangar", nil, &hangar); err != nil || len(hangar.Quads) != len(demo.Names) {
		t.Errorf("after a restart: %+v, %v", hangar, err)
	}
	if err := again.cmd.Process.Signal(syscall.SIGTERM); err != nil {
		t.Fatal(err)
	}
	_ = again.cmd.Wait()
	fresh := start(t, data, "--bench", "none", "--fresh", "--no-demo")
	hangar = listed{}
	if _, err := fresh.ask("GET", "/api/hangar", nil, &hangar); err != nil || len(hangar.Quads) != 0 {
		t.Errorf("afresh and without the demo world: %+v, %v", hangar, err)
	}
	_ = fresh.cmd.Process.Signal(syscall.SIGTERM)
	_ = fresh.cmd.Wait()
}

// What the model flies can be read back as the recorded flight that it is written as.
func TestTraceOfTheModelIsRead(t *testing.T) {
	t.Parallel()
	code, flown, said := perch(t, "rehearse", "--demo", "dunlin", "--scenario", "dive", "--csv")
	if code != 0 {
		t.Fatal(said)
	}
	log := file(t, "dive.csv", []byte(flown))
	if code, out, said := perch(t, "trace", log); code != 0 || !strings.Contains(out, "hard throttle cut") || !strings.Contains(out, "°/s about ") {
		t.Errorf("%d %s %s", code, out, said)
	}
	var cuts struct {
		Count int
		By    float64
		First float64
	}
	if _, out, _ := perch(t, "trace", log, "--json"); json.Unmarshal([]byte(out), &cuts) != nil || cuts.Count < 1 || cuts.By <= 0 || cuts.First <= 0 {
		t.Errorf("%s", out)
	}
	if code, _, said := perch(t, "trace", file(t, "none.csv", []byte("a,b\n1,2\n"))); code == 0 || !strings.Contains(said, `no column named "time"`) {
		t.Errorf("%d %s", code, said)
	}
}
