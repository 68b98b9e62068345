package api_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"slices"
	"testing"
	"time"

	"vividperch/api"
	"vividperch/app"
	"vividperch/core/book"
	"vividperch/demo"
	"vividperch/demo/worldtest"
	"vividperch/store"
	"vividperch/store/mariadb/mariadbtest"
)

// What has gathered in the database of a pilot who has flown for years.
const (
	grownQuads     = 200
	grownFlights   = 20_000
	grownReadings  = 5_000 // taken again and again
	grownRevisions = 500
)

// grown database: a hangar full of quads, each with its readings, the first of them flown and measured for years. Seeded.
func grown(b *testing.B) (base string, quads []int64) {
	b.Helper()
	keep, err := store.Open(b.Context(), mariadbtest.Fresh(b), nil)
	if err != nil {
		b.Fatal(err)
	}
	b.Cleanup(keep.Close)
	pilot, err := keep.Pilot(b.Context(), "a pilot of many years")
	if err != nil {
		b.Fatal(err)
	}
	r := rand.New(rand.NewPCG(2026, 1))
	now := time.Now()
	k, err := demo.Sound(now.Add(-time.Hour))
	if err != nil {
		b.Fatal(err)
	}
	for i := range grownQuads {
		k.Radio.Number, k.Sheet.Motors.Idle = i%64, 4+4*r.Float64()
		w := worldtest.Whole(b, fmt.Sprintf("Dunlin %d", i), k, now.Add(-time.Hour))
		if i == 0 {
			gather(b, &w, now)
		}
		id, err := keep.Bring(b.Context(), pilot, w)
		if err != nil {
			b.Fatal(err)
		}
		quads = append(quads, id)
	}
	handler, err := api.New(app.New(keep, pilot, "a pilot", time.Now), api.Options{})
	if err != nil {
		b.Fatal(err)
	}
	s := httptest.NewServer(handler)
	b.Cleanup(s.Close)
	return s.URL, quads
}

func gather(b *testing.B, w *book.Whole, now time.Time) {
	b.Helper()
	before := func(n int) time.Time { return now.Add(-time.Duration(n) * time.Hour) }
	var old []book.Entry
	for n := range grownFlights {
		old = append(old, worldtest.Entry(b, book.KindFlight, "flight", before(grownFlights-n), app.Flight{At: before(grownFlights - n), Site: "Gravel field", Pack: "grey", Minutes: 3, Scope: "hover"}))
	}
	for n := range grownReadings {
		e := w.Entries[n%(len(w.Entries)-1)]
		e.At = before(grownReadings - n)
		old = append(old, e)
	}
	w.Entries = append(old, w.Entries...)
	for w.Head < grownRevisions {
		r := w.Revisions[0]
		w.Head++
		r.Number, r.Why, r.At = w.Head, "for the wind", before(grownRevisions-w.Head)
		w.Revisions = append(w.Revisions, r)
	}
}

// Neither the hangar nor a quad, nor a flight that is noted, is slow for what has gathered: the 90th percentile of as many tries as are
// made, after a warm-up, is what is promised.
func BenchmarkGrown(b *testing.B) {
	base, quads := grown(b)
	first := fmt.Sprintf("%s/api/quads/%d", base, quads[0])
	do := func(b *testing.B, method, url, body string) answer {
		b.Helper()
		a := ask(b, method, url, body)
		if a.status != http.StatusOK {
			b.Fatalf("%s %s: %d %s", method, url, a.status, a.body)
		}
		return a
	}
	flown := `{"site":"Gravel field","pack":"grey","minutes":3,"notes":""}`
	edited := func(b *testing.B) {
		b.Helper()
		v := quadAt(b, fmt.Sprintf("%s/api/quads/%d", base, quads[1]))
		do(b, "POST", fmt.Sprintf("%s/api/quads/%d/edit", base, quads[1]), fmt.Sprintf(`{"version":%d,"values":[{"path":"sheet.motors.idle","value":%v}]}`, v.Version, 4+float64(v.Version%40)/10))
	}
	for _, one := range []struct {
		name   string
		before func(*testing.B)
		do     func(*testing.B)
	}{
		{name: "hangar", do: func(b *testing.B) { do(b, "GET", base+"/api/hangar", "") }},
		{name: "hangar after an edit", before: edited, do: func(b *testing.B) { do(b, "GET", base+"/api/hangar", "") }},
		{name: "quad", do: func(b *testing.B) { do(b, "GET", first, "") }},
		{name: "station", do: func(b *testing.B) { do(b, "GET", first+"/motors", "") }},
		{name: "flight noted", do: func(b *testing.B) { do(b, "POST", first+"/flights", flown) }},
		{name: "flights", do: func(b *testing.B) { do(b, "GET", first+"/flights?before=9000", "") }},
		{name: "revisions", do: func(b *testing.B) { do(b, "GET", first+"/revisions?before=300", "") }},
		{name: "fleet", do: func(b *testing.B) { do(b, "GET", base+"/api/fleet", "") }},
	} {
		b.Run(one.name, func(b *testing.B) {
			one.do(b)
			var took []time.Duration
			for b.Loop() {
				if one.before != nil {
					one.before(b)
				}
				began := time.Now()
				one.do(b)
				took = append(took, time.Since(began))
			}
			slices.Sort(took)
			b.ReportMetric(float64(took[(len(took)*9-1)/10].Microseconds())/1000, "p90-ms")
			b.ReportMetric(0, "ns/op")
		})
	}
}

func quadAt(t testing.TB, url string) (v struct{ Version int64 }) {
	t.Helper()
	if err := json.Unmarshal([]byte(ask(t, http.MethodGet, url, "").body), &v); err != nil {
		t.Fatal(err)
	}
	return v
}
