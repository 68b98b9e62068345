package api_test

import (
	"encoding/json"
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"vividperch/app"
	"vividperch/core/check"
	"vividperch/core/quad"
)

var (
	seed   = flag.Uint64("seed", 1, "of the requests that are made up")
	rounds = flag.Int("rounds", 3, "over all operations")
)

// schema is what of a JSON Schema is needed to make values that fit it, or nearly.
type schema struct {
	Ref        string            `json:"$ref"`
	Type       any               `json:"type"`
	Enum       []any             `json:"enum"`
	Properties map[string]schema `json:"properties"`
	Items      *schema           `json:"items"`
	Additional json.RawMessage   `json:"additionalProperties"`
}

type document struct {
	Paths map[string]map[string]struct {
		RequestBody struct {
			Content map[string]struct {
				Schema schema `json:"schema"`
			} `json:"content"`
		} `json:"requestBody"`
	} `json:"paths"`
	Components struct {
		Schemas map[string]schema `json:"schemas"`
	} `json:"components"`
}

// maker makes bodies for requests: most fit their schema, some in all but one place.
type maker struct {
	random  *rand.Rand
	schemas map[string]schema
	words   []string // that mean something here: paths, stations, outputs, switches
	version int64    // of the quad, so that edits get past the question who came first
}

var odd = []any{nil, true, -1, 0, 1e308, -1e-308, 9007199254740993, "", "\x00", "%s%n", strings.Repeat("ä", 700), []any{}, map[string]any{}, []any{nil, []any{1}}, map[string]any{"": "", "low": "high"}}

func pick[T any](m *maker, from []T) T { return from[m.random.IntN(len(from))] }

func (m *maker) value(name string, s schema, depth int) any {
	if s.Ref != "" {
		s = m.schemas[s.Ref[strings.LastIndex(s.Ref, "/")+1:]]
	}
	if depth > 6 || m.random.IntN(20) == 0 {
		return pick(m, odd)
	}
	if len(s.Enum) > 0 {
		return pick(m, s.Enum)
	}
	kind, _ := s.Type.(string)
	switch kind {
	case "boolean":
		return m.random.IntN(2) == 0
	case "integer":
		if name == "version" && m.random.IntN(4) > 0 {
			return m.version
		}
		return m.random.IntN(5000) - 100
	case "number":
		return (m.random.Float64() - 0.3) * 3000
	case "string":
		if strings.Contains(name, "At") {
			return time.Unix(m.random.Int64N(1<<33), 0).UTC().Format(time.RFC3339)
		}
		return pick(m, m.words)
	case "array":
		list := []any{}
		for range m.random.IntN(4) {
			list = append(list, m.value("", *s.Items, depth+1))
		}
		return list
	case "object":
		made := map[string]any{}
		for k, p := range s.Properties {
			if m.random.IntN(12) > 0 {
				made[k] = m.value(k, p, depth+1)
			}
		}
		var rest schema
		if json.Unmarshal(s.Additional, &rest) == nil && rest.Type != nil {
			for range m.random.IntN(4) {
				made[pick(m, m.words)] = m.value("", rest, depth+1)
			}
		}
		return made
	}
	return m.any(3) // the schema leaves it open
}

// any JSON value, no deeper than depth.
func (m *maker) any(depth int) any {
	switch k := m.random.IntN(6); {
	case k == 0 && depth > 0:
		made := map[string]any{}
		for range m.random.IntN(4) {
			made[pick(m, m.words)] = m.any(depth - 1)
		}
		return made
	case k == 1 && depth > 0:
		return []any{m.any(depth - 1), m.any(depth - 1)}
	case k == 2:
		return pick(m, m.words)
	case k == 3:
		return m.random.IntN(2000)
	case k == 4:
		return m.random.Float64() * 10
	}
	return pick(m, odd)
}

// Whatever is asked of any operation, the answer is the operation's or a problem with a sentence, never a failure of
// ours; and the quad can still be opened afterwards. The requests are made from the API's own document;
// go test ./api -run TestNoRequestMakesItFailUnraced -seed 7 -rounds 200 makes others, and more.
func TestNoRequestMakesItFailUnraced(t *testing.T) {
	t.Parallel()
	if raced {
		t.Skip("one thing after another: run without the race detector")
	}
	raw, err := os.ReadFile("openapi.gen.json")
	if err != nil {
		t.Fatal(err)
	}
	var d document
	if err := json.Unmarshal(raw, &d); err != nil {
		t.Fatal(err)
	}
	s, a, id := server(t)
	benchOn(t, a)
	m := &maker{random: rand.New(rand.NewPCG(*seed, 0)), schemas: d.Components.Schemas}
	m.words = []string{"A", "B", "Q", "left shoulder", "armed", "safe", "roll", "hover", "crash", "grey", ":00000001FF", "set nothing = 7", "frontLeft", "no such thing", ""}
	for _, st := range check.Line {
		m.words = append(m.words, string(st.ID))
	}
	for _, f := range quad.Shape() {
		m.words = append(m.words, strings.ReplaceAll(string(f.Path), "*", "A"))
	}
	var ops []string
	for path, methods := range d.Paths {
		for method := range methods {
			ops = append(ops, strings.ToUpper(method)+" "+path)
		}
	}
	slices.Sort(ops)
	statuses := map[int]int{}
	view := fmt.Sprintf("%s/api/quads/%d", s.URL, id)
	open := func() (v app.QuadView) {
		t.Helper()
		got := ask(t, "GET", view, "")
		if err := json.Unmarshal([]byte(got.body), &v); got.status != 200 || err != nil {
			t.Fatalf("the quad does not open any more: %d %s", got.status, got.body)
		}
		return v
	}
	for round := range *rounds {
		for _, op := range ops {
			method, path, _ := strings.Cut(op, " ")
			url := s.URL + strings.ReplaceAll(path, "{id}", fmt.Sprint(id))
			if strings.HasSuffix(path, "/delete") {
				url = s.URL + strings.ReplaceAll(path, "{id}", "99999998") // the quad is wanted afterwards
			}
			if m.random.IntN(15) == 0 {
				url = s.URL + strings.ReplaceAll(path, "{id}", pick(m, []string{"0", "-1", "99999999", "x", "9223372036854775808", "%00"}))
			}
			body := ""
			if content, has := d.Paths[path][strings.ToLower(method)].RequestBody.Content["application/json"]; has {
				m.version = open().Version
				made, err := json.Marshal(m.value("", content.Schema, 0))
				if err != nil {
					t.Fatal(err)
				}
				if body = string(made); m.random.IntN(20) == 0 {
					body = body[:m.random.IntN(len(body)+1)]
				}
			}
			got := ask(t, method, url, body)
			statuses[got.status]++
			switch {
			case got.status < 400:
			case got.status == 503 || got.status == 504:
				// The bench may truly be away for a moment: a board that restarts does not answer.
				if p := got.problem(t); !strings.HasPrefix(p.Code, "device-") {
					t.Errorf("round %d: %s %s: %d %s", round, op, body, got.status, got.body)
				}
			case got.status > 499:
				t.Errorf("round %d: %s %s: %d %s", round, op, body, got.status, got.body)
			default:
				if p := got.problem(t); p.Detail == "" || p.Code == "" {
					t.Errorf("round %d: %s %s: a problem without a sentence: %s", round, op, body, got.body)
				}
			}
		}
		open()
	}
	t.Logf("seed %d, answers by status: %v", *seed, statuses)
	if statuses[200] < 5**rounds || statuses[422] < 5**rounds {
		t.Errorf("the requests do not reach both sides of the checks: %v", statuses)
	}
}
