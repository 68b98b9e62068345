package api_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"os"
	"regexp"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"

	"vividperch/api"
	"vividperch/app"
	"vividperch/bench/protocol"
	"vividperch/core/quad"
	"vividperch/demo"
	"vividperch/demo/benchtest"
	"vividperch/store"
	"vividperch/store/mariadb/mariadbtest"
)

func TestMain(m *testing.M) { mariadbtest.Main(m) }

// server is the whole program but its commands: database, bench, page.
func server(t *testing.T) (*httptest.Server, *app.App, int64) {
	t.Helper()
	keep, err := store.Open(t.Context(), mariadbtest.Server.DSN, nil)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(keep.Close)
	pilot, err := keep.Pilot(t.Context(), "pilot of "+t.Name())
	if err != nil {
		t.Fatal(err)
	}
	a := app.New(keep, pilot, "a pilot", time.Now)
	q, err := demo.Load("dunlin")
	if err != nil {
		t.Fatal(err)
	}
	id, err := a.Create(t.Context(), q.Name, q.Words, q.Meant)
	if err != nil {
		t.Fatal(err)
	}
	page := fstest.MapFS{"index.html": {Data: []byte(`<!doctype html><title>page</title><meta nonce="{{.Nonce}}">`)}, "assets/a.js": {Data: []byte("1")}}
	handler, err := api.New(a, api.Options{Page: page, Hosts: []string{"perch.local"}})
	if err != nil {
		t.Fatal(err)
	}
	s := httptest.NewServer(handler)
	t.Cleanup(s.Close)
	return s, a, id
}

type answer struct {
	status int
	header http.Header
	body   string
}

func (a answer) problem(t testing.TB) api.Problem {
	t.Helper()
	var p api.Problem
	if err := json.Unmarshal([]byte(a.body), &p); err != nil {
		t.Errorf("not a problem: %d %s", a.status, a.body)
	}
	return p
}

func ask(t testing.TB, method, url, body string, header ...string) answer {
	t.Helper()
	req, err := http.NewRequestWithContext(t.Context(), method, url, strings.NewReader(body))
	if err != nil {
		t.Fatal(err)
	}
	if body != "" {
		req.Header.Set("Content-Type", "application/json")
	}
	for i := 0; i < len(header); i += 2 {
		if header[i] == "Host" {
			req.Host = header[i+1]
		}
		req.Header.Set(header[i], header[i+1])
	}
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		t.Fatal(err)
	}
	defer res.Body.Close()
	raw, err := io.ReadAll(res.Body)
	if err != nil {
		t.Fatal(err)
	}
	return answer{res.StatusCode, res.Header, string(raw)}
}

func TestForeignHostsAndOriginsAreRefused(t *testing.T) {
	t.Parallel()
	s, _, _ := server(t)
	for _, c := range []struct {
		name   string
		header []string
		want   int
	}{
		{"as it is", nil, 200},
		{"by the loopback's name", []string{"Host", "localhost:7460"}, 200},
		{"by a host that was allowed", []string{"Host", "perch.local"}, 200},
		{"a rebound name", []string{"Host", "evil.example"}, 421},
		{"a name that only begins alike", []string{"Host", "localhost.evil.example"}, 421},
		{"its own page", []string{"Origin", s.URL}, 200},
		{"another page", []string{"Origin", "http://evil.example"}, 403},
		{"another port's page", []string{"Origin", "http://127.0.0.1:1"}, 403},
		{"no page at all", []string{"Origin", "null"}, 403},
	} {
		if got := ask(t, "GET", s.URL+"/api/hangar", "", c.header...); got.status != c.want {
			t.Errorf("%s: %d, want %d (%s)", c.name, got.status, c.want, got.body)
		}
	}
	for _, origin := range []string{"http://evil.example", "null"} {
		_, res, err := websocket.Dial(t.Context(), strings.Replace(s.URL, "http", "ws", 1)+"/api/live", &websocket.DialOptions{HTTPHeader: http.Header{"Origin": {origin}}})
		if err == nil || res == nil || res.StatusCode != 403 {
			t.Errorf("the socket let a page of %s in: %v", origin, err)
		}
	}
}

func TestHeaders(t *testing.T) {
	t.Parallel()
	s, _, _ := server(t)
	for _, path := range []string{"/", "/quads/1/motors", "/api/hangar", "/api/nothing", "/assets/a.js"} {
		h := ask(t, "GET", s.URL+path, "").header
		policy := h.Get("Content-Security-Policy")
		for _, want := range []string{"default-src 'none'", "script-src 'self'", "style-src 'self'", "connect-src 'self'", "frame-ancestors 'none'", "base-uri 'none'"} {
			if !strings.Contains(policy, want) {
				t.Errorf("%s: the policy lacks %s: %s", path, want, policy)
			}
		}
		if strings.Contains(policy, "unsafe") || strings.Contains(policy, "*") || strings.Contains(policy, "http") {
			t.Errorf("%s: the policy lets something in: %s", path, policy)
		}
		if h.Get("X-Content-Type-Options") != "nosniff" || h.Get("Referrer-Policy") != "no-referrer" {
			t.Errorf("%s: %v", path, h)
		}
	}
}

// A place in the page can be bookmarked: every path that is no file is the page; what is missing under /api is
// missing.
func TestPage(t *testing.T) {
	t.Parallel()
	s, _, _ := server(t)
	for path, want := range map[string]string{"/": "<title>page", "/quads/7/link-loss": "<title>page", "/assets/a.js": "1", "/../../etc/passwd": "<title>page"} {
		if got := ask(t, "GET", s.URL+path, ""); got.status != 200 || !strings.Contains(got.body, want) {
			t.Errorf("%s: %d %s", path, got.status, got.body)
		}
	}
	if got := ask(t, "HEAD", s.URL+"/quads/7", ""); got.status != 200 || got.body != "" {
		t.Errorf("only its head was asked for: %d %q", got.status, got.body)
	}
	if got := ask(t, "GET", s.URL+"/api/nothing", ""); got.status != 404 {
		t.Errorf("/api/nothing: %d", got.status)
	}
}

// Every answer with the page has a nonce of its own, the same in its policy and in the page, and nobody keeps it.
func TestThePageHasANonceOfItsOwn(t *testing.T) {
	t.Parallel()
	s, _, _ := server(t)
	had := map[string]bool{}
	for range 20 {
		r, err := http.Get(s.URL + "/quads/7")
		if err != nil {
			t.Fatal(err)
		}
		body, err := io.ReadAll(r.Body)
		_ = r.Body.Close()
		if err != nil {
			t.Fatal(err)
		}
		said := regexp.MustCompile(`nonce="([^"]{26})"`).FindSubmatch(body)
		if said == nil {
			t.Fatalf("no nonce in %s", body)
		}
		n := string(said[1])
		if policy := r.Header.Get("Content-Security-Policy"); !strings.Contains(policy, "style-src 'self' 'nonce-"+n+"';") || strings.Contains(policy, "unsafe") || strings.Count(policy, "nonce-") != 1 {
			t.Errorf("nonce %s, policy %s", n, policy)
		}
		if r.Header.Get("Cache-Control") != "no-store" || had[n] {
			t.Errorf("kept by %q, had before: %v", r.Header.Get("Cache-Control"), had[n])
		}
		had[n] = true
	}
	if got := ask(t, "GET", s.URL+"/assets/a.js", ""); strings.Contains(got.body, "nonce") {
		t.Error("what is not the page has a nonce")
	}
}

// A program without its page says so, and its API works; a page that is no template is not served at all.
func TestWithoutAPage(t *testing.T) {
	t.Parallel()
	h, err := api.New(app.New(nil, 1, "a pilot", time.Now), api.Options{})
	if err != nil {
		t.Fatal(err)
	}
	w := httptest.NewRecorder()
	h.ServeHTTP(w, httptest.NewRequest("GET", "http://localhost/quads/1", nil))
	if w.Code != 404 || !strings.Contains(w.Body.String(), "built without its page") {
		t.Errorf("%d %s", w.Code, w.Body)
	}
	if _, err := api.New(app.New(nil, 1, "a pilot", time.Now), api.Options{Page: fstest.MapFS{"index.html": {Data: []byte("{{.Nonce")}}}); err == nil {
		t.Error("a page that is no template is served")
	}
}

// An act that another site's page asks for is refused by what the browser says of it, too.
func TestCrossOriginActsAreRefused(t *testing.T) {
	t.Parallel()
	s, _, id := server(t)
	for _, c := range []struct {
		site   string
		status int
	}{{"same-origin", 200}, {"none", 200}, {"cross-site", 403}, {"same-site", 403}} {
		r, err := http.NewRequest("POST", fmt.Sprintf("%s/api/quads/%d/event", s.URL, id), strings.NewReader(`{"event":"crash","note":"a"}`))
		if err != nil {
			t.Fatal(err)
		}
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set("Sec-Fetch-Site", c.site)
		got, err := http.DefaultClient.Do(r)
		if err != nil {
			t.Fatal(err)
		}
		_ = got.Body.Close()
		if got.StatusCode != c.status {
			t.Errorf("asked %s: %d, want %d", c.site, got.StatusCode, c.status)
		}
	}
}

// Bad input gets a sentence at its place, and nothing above 499.
func TestProblems(t *testing.T) {
	t.Parallel()
	s, _, id := server(t)
	quad := fmt.Sprintf("%s/api/quads/%d", s.URL, id)
	for _, c := range []struct {
		name, url, body string
		status          int
		says            string
	}{
		{"no such quad", s.URL + "/api/quads/999999/sign", `{"station":"motors"}`, 404, "no such quad"},
		{"a quad that is none", s.URL + "/api/quads/first/sign", `{"station":"motors"}`, 422, "integer"},
		{"no JSON", quad + "/sign", `{"station":`, 400, ""},
		{"a missing name", quad + "/sign", `{}`, 422, "station"},
		{"a name too many", quad + "/sign", `{"station":"motors","colour":"red"}`, 422, "unexpected"},
		{"a wrong type", quad + "/type", `{"path":"readings.airframe.weight","value":"many"}`, 422, "not a number with a unit"},
		{"an event that is none", quad + "/event", `{"event":"earthquake"}`, 422, "crash"},
		{"an old version", quad + "/edit", `{"version":77,"values":[{"path":"sheet.motors.idle","value":6}]}`, 409, "another window"},
		{"a device's reading from a page", quad + "/type", `{"path":"readings.airframe.weight","value":7,"origin":"device"}`, 422, "unexpected"},
		{"minutes below nothing", quad + "/flights", `{"site":"a","pack":"b","minutes":-1,"drawn":0,"lowest":0,"notes":""}`, 422, ">="},
		{"an image that is none", quad + "/image", `{"text":":0000\n"}`, 422, "Is too short for a record"},
		{"a list with unknown names", quad + "/list", `{"text":"nope = 1\nmore = 2"}`, 422, "no setting named"},
		{"no bench", quad + "/take", `{"path":"readings.firmware.identity"}`, 503, "without a bench"},
	} {
		got := ask(t, "POST", c.url, c.body)
		p := got.problem(t)
		if got.status != c.status || !strings.Contains(p.Detail, c.says) || p.Status != got.status || p.Detail == "" {
			t.Errorf("%s: %d %s", c.name, got.status, got.body)
		}
	}
}

func TestFiftyMegabytesAreRefused(t *testing.T) {
	t.Parallel()
	s, a, id := server(t)
	before, err := a.Quad(t.Context(), id)
	if err != nil {
		t.Fatal(err)
	}
	body := `{"text":"` + strings.Repeat("x", 50<<20) + `"}`
	began := time.Now()
	got := ask(t, "POST", fmt.Sprintf("%s/api/quads/%d/list", s.URL, id), body)
	if got.status != 413 || !strings.Contains(got.body, "2 MB") {
		t.Errorf("%d %.200s", got.status, got.body)
	}
	if took := time.Since(began); took > 3*time.Second {
		t.Errorf("took %v", took)
	}
	if after, err := a.Quad(t.Context(), id); err != nil || after.Version != before.Version {
		t.Errorf("something changed: %v", err)
	}
}

// The document that the page's types are made from is the one the program serves.
func TestDocumentIsTheOneServed(t *testing.T) {
	t.Parallel()
	s, _, _ := server(t)
	kept, err := os.ReadFile("openapi.gen.json")
	if err != nil {
		t.Fatal(err)
	}
	var a, b any
	if json.Unmarshal(kept, &a) != nil || json.Unmarshal([]byte(ask(t, "GET", s.URL+"/api/openapi.json", "").body), &b) != nil {
		t.Fatal("not JSON")
	}
	x, _ := json.Marshal(a)
	y, _ := json.Marshal(b)
	if !bytes.Equal(x, y) {
		t.Error("run bin/types: the kept document is old")
	}
}

func benchOn(t *testing.T, a *app.App) *app.Bench {
	t.Helper()
	ctx, cancel := context.WithCancel(context.Background())
	b := a.AttachBench(ctx, benchtest.Serve(t, benchtest.Dunlin(t), false), benchtest.Token)
	t.Cleanup(func() { cancel(); b.Wait() })
	for end := time.Now().Add(10 * time.Second); !b.Status().Connected; time.Sleep(5 * time.Millisecond) {
		if time.Now().After(end) {
			t.Fatal("the bench does not connect")
		}
	}
	return b
}

func TestLiveSocketWithoutABench(t *testing.T) {
	t.Parallel()
	s, _, _ := server(t)
	conn, _, err := websocket.Dial(t.Context(), strings.Replace(s.URL, "http", "ws", 1)+"/api/live", nil)
	if err != nil {
		t.Fatal(err)
	}
	defer conn.CloseNow()
	var f app.LiveFrame
	if err := wsjson.Read(t.Context(), conn, &f); err != nil || f.Status == nil || f.Status.Connected || !strings.Contains(f.Status.Says, "without a bench") {
		t.Errorf("%+v, %v", f, err)
	}
}

// One socket carries what the bench shows to the page and what the hand does to the bench.
func TestLiveSocket(t *testing.T) {
	t.Parallel()
	s, a, id := server(t)
	b := benchOn(t, a)
	on := true
	if err := b.Set(t.Context(), protocol.Things{Pack: &on}); err != nil {
		t.Fatal(err)
	}
	conn, _, err := websocket.Dial(t.Context(), strings.Replace(s.URL, "http", "ws", 1)+"/api/live", nil)
	if err != nil {
		t.Fatal(err)
	}
	defer conn.CloseNow()
	next := func(so func(app.LiveFrame) bool) app.LiveFrame {
		t.Helper()
		ctx, cancel := context.WithTimeout(t.Context(), 5*time.Second)
		defer cancel()
		for {
			var f app.LiveFrame
			if err := wsjson.Read(ctx, conn, &f); err != nil {
				t.Fatalf("did not come: %v", err)
			}
			if so(f) {
				return f
			}
		}
	}
	next(func(f app.LiveFrame) bool { return f.Kind == "status" && f.Status.Connected })
	next(func(f app.LiveFrame) bool { return f.Kind == "live" && f.Live.Pack && f.Live.Board == "running" })
	say := func(m any) {
		if err := wsjson.Write(t.Context(), conn, m); err != nil {
			t.Fatal(err)
		}
	}
	for _, nonsense := range []any{7, "hello", map[string]any{"kind": "dance"}, map[string]any{"kind": "motion"}} {
		say(nonsense)
	}
	say(api.Said{Kind: "motion", Quad: id, Motion: &protocol.Motion{Kind: "spin", Output: "Q", Level: 5}})
	if f := next(func(f app.LiveFrame) bool { return f.Kind == "refused" }); !strings.Contains(f.Says, "no output") {
		t.Errorf("refused with %q", f.Says)
	}
	// Another quad's page, and one that names no quad, turn nothing here.
	other, err := a.Create(t.Context(), "Magpie", "", quad.Meant{})
	if err != nil {
		t.Fatal(err)
	}
	for who, want := range map[int64]string{other: "On the bench is Dunlin", 0: "no such quad", id + 1000: "no such quad"} {
		say(api.Said{Kind: "motion", Quad: who, Motion: &protocol.Motion{Kind: "spin", Output: "A", Level: 6}})
		if f := next(func(f app.LiveFrame) bool { return f.Kind == "refused" || f.Kind == "live" && f.Live.Motion != "" }); !strings.Contains(f.Says, want) {
			t.Errorf("quad %d: %+v", who, f)
		}
	}
	say(api.Said{Kind: "motion", Quad: id, Motion: &protocol.Motion{Kind: "spin", Output: "A", Level: 6}})
	next(func(f app.LiveFrame) bool { return f.Kind == "live" && f.Live.Motion == "spin" })
	// A renewal that was held up for longer than a lease must not start anything: the hand may have let go.
	say(api.Said{Kind: "motion", Quad: id, At: 5000, Motion: &protocol.Motion{Kind: "spin", Output: "A", Level: 6}})
	spun := next(func(f app.LiveFrame) bool { return f.Kind == "live" && f.Live.Motion == "spin" }).Live.Time
	next(func(f app.LiveFrame) bool { return f.Kind == "live" && f.Live.Time > spun+600 && f.Live.Motion == "" })
	say(api.Said{Kind: "motion", Quad: id, At: 5000, Motion: &protocol.Motion{Kind: "spin", Output: "A", Level: 6}})
	say(api.Said{Kind: "motion", Quad: id, At: 5001, Motion: &protocol.Motion{Kind: "spin", Output: "Q", Level: 6}})
	for n := 0; n < 5; {
		f := next(func(f app.LiveFrame) bool { return f.Kind == "live" || f.Kind == "refused" })
		if f.Kind == "refused" || f.Live.Motion != "" {
			t.Errorf("a motion that was long under way was passed on: %+v", f)
		}
		n++
	}
	say(api.Said{Kind: "cut"})
	next(func(f app.LiveFrame) bool { return f.Kind == "live" && !f.Live.Pack && f.Live.Motion == "" })
	// With propellers on, nothing that the page says makes anything turn.
	if err := b.Set(t.Context(), protocol.Things{Pack: &on, Propellers: &on}); err != nil {
		t.Fatal(err)
	}
	say(api.Said{Kind: "motion", Quad: id, Motion: &protocol.Motion{Kind: "spin", Output: "A", Level: 6}})
	if f := next(func(f app.LiveFrame) bool { return f.Kind == "refused" }); !strings.Contains(f.Says, "propellers are on") {
		t.Errorf("refused with %q", f.Says)
	}
}

// One address that floods is held up with a sentence; the cut gets through all the same.
func TestFloodIsHeldUpButNeverTheCut(t *testing.T) {
	t.Parallel()
	h, err := api.New(app.New(nil, 1, "a pilot", time.Now), api.Options{})
	if err != nil {
		t.Fatal(err)
	}
	ask := func(path, from string) *http.Response {
		r := httptest.NewRequest(http.MethodPost, path, strings.NewReader("{}"))
		r.Host, r.RemoteAddr = "127.0.0.1", from+":4711"
		r.Header.Set("Content-Type", "application/json")
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		return w.Result()
	}
	var held *http.Response
	for range 5000 {
		if res := ask("/api/bench/level", "10.0.0.1"); res.StatusCode == http.StatusTooManyRequests {
			held = res
			break
		}
	}
	if held == nil {
		t.Fatal("a flood was never held up")
	}
	var p api.Problem
	if err := json.NewDecoder(held.Body).Decode(&p); err != nil || p.Code != "too-many" || held.Header.Get("Retry-After") == "" {
		t.Errorf("%+v, %v", p, err)
	}
	if res := ask("/api/bench/cut", "10.0.0.1"); res.StatusCode == http.StatusTooManyRequests {
		t.Error("the cut was held up")
	}
	if res := ask("/api/bench/level", "10.0.0.2"); res.StatusCode == http.StatusTooManyRequests {
		t.Error("another address is held up too")
	}
}
