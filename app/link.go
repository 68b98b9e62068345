package app

import (
	"context"
	"encoding/json"

	"vividperch/core/book"
	"vividperch/core/inquiry"
	"vividperch/core/link"
	"vividperch/core/quad"
)

// LinkView is what the station of the link works out beyond what the line shows.
type LinkView struct {
	Link   string          `json:"link"`
	Gear   *link.Gear      `json:"gear"` // nil when nothing is known of the link
	Own    bool            `json:"own"`  // the pilot changed what is known of it
	Says   string          `json:"says"` // why there is no budget, or nothing
	Path   link.Path       `json:"path"`
	Budget *link.Budget    `json:"budget"`
	Rates  []link.Budget   `json:"rates"`  // the same path at every packet rate, slowest first
	Curve  []link.Arrival  `json:"curve"`  // strength over distance at the rate that is set
	Alarms quad.LinkAlarms `json:"alarms"` // to begin with, at the rate that is set
	Track  *link.Reach     `json:"track"`  // the one that was kept last
	// Number of this quad in its radio, the others that have it too, and the lowest that nobody has; 0 is none.
	Number int      `json:"number"`
	Same   []string `json:"same"`
	Free   int      `json:"free"`
	Hears  bool     `json:"hears"` // by the versions, bands and regions that the parts name
}

// Link works out the budget over a path and what stands around it.
func (a *App) Link(ctx context.Context, id int64, p link.Path) (*LinkView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	k := o.known
	v := &LinkView{Link: k.Parts.Receiver.Link, Path: p, Rates: []link.Budget{}, Curve: []link.Arrival{}, Number: k.Radio.Number, Same: nonNil(link.SameNumber(k.Meant().Neighbour(), k.Fleet)), Hears: link.Compare(k.Parts.RadioModule, k.Parts.Receiver).Hears()}
	g, err := gearOf(k)
	if err != nil {
		v.Says = quad.Explain(err)
		return v, nil
	}
	v.Gear, v.Own, v.Free = &g, k.Pilot.Gear[g.Link] != "", link.FreeNumber(g, k.Meant().Neighbour(), k.Fleet)
	v.Alarms = link.Alarms(g.Rate(k.Radio.Rate, k.Radio.Channels).Sensitivity)
	b, err := link.BudgetOf(g, k, p)
	if err != nil {
		v.Says = quad.Explain(err)
		return v, nil
	}
	v.Budget, v.Rates, v.Curve = &b, b.Over(g, k.Parts.Receiver.Frame, p), b.Curve()
	v.Track, err = a.keptTrack(ctx, id)
	return v, err
}

func gearOf(k quad.Known) (link.Gear, error) {
	g, known := link.GearOf(k.Parts.Receiver.Link, k.Pilot.Gear)
	if !known {
		return g, unknownLink(k.Parts.Receiver.Link)
	}
	return g, nil
}

// Why it will not bind: where the answers given so far have led, and what to look at next.
func (a *App) Why(ctx context.Context, id int64, given map[link.QuestionID]string) (*inquiry.Inquiry, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	g, err := gearOf(o.known)
	if err != nil {
		return nil, err
	}
	in, err := link.Inquire(g, given)
	return &in, err
}

// PhrasesAsk are phrases to be compared; an empty one was not typed and stays as it is.
type PhrasesAsk struct {
	Module, Receiver string
}

// Phrases keeps the fingerprints of phrases, never the phrases.
func (a *App) Phrases(ctx context.Context, id int64, ask PhrasesAsk) (*QuadView, error) {
	var list []newReading
	for _, end := range []struct {
		path   quad.Path
		phrase string
	}{{"readings.link.modulePhrase", ask.Module}, {"readings.link.receiverPhrase", ask.Receiver}} {
		if end.phrase == "" {
			continue
		}
		p, err := link.Print(end.phrase)
		if err != nil {
			return nil, err
		}
		raw, err := asReading(end.path, p)
		if err != nil {
			return nil, err
		}
		list = append(list, newReading{path: end.path, value: raw, origin: quad.OriginTyped})
	}
	if len(list) == 0 {
		return nil, quad.Faultf("no-phrase", "", "there is no phrase to take a fingerprint of")
	}
	if err := a.keepReadings(ctx, id, "comparison of phrases", list...); err != nil {
		return nil, err
	}
	return a.Quad(ctx, id)
}

func asReading(at quad.Path, value any) (json.RawMessage, error) {
	raw, err := json.Marshal(value)
	if err != nil {
		return nil, quad.Faultf("not-finite", string(at), "holds a figure that is not a number")
	}
	return raw, nil
}

// Track measures a track with strengths against the quad's budget, and keeps nothing.
func (a *App) Track(ctx context.Context, id int64, raw []byte, p link.Path) (*link.Reach, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	return measured(o.known, raw, p)
}

func measured(k quad.Known, raw []byte, p link.Path) (*link.Reach, error) {
	g, err := gearOf(k)
	if err != nil {
		return nil, err
	}
	b, err := link.BudgetOf(g, k, p)
	if err != nil {
		return nil, err
	}
	t, err := link.ReadTrack(raw)
	if err != nil {
		return nil, err
	}
	r, err := link.Measure(b, t)
	if err != nil {
		return nil, err
	}
	r.Flown = link.Thin(r.Flown, mostPoints)
	return &r, nil
}

// mostPoints of a track that are kept and drawn: more than a drawing has places for.
const mostPoints = 600

// KeepTrack keeps what a track says as a reading, and its points thinned out beside it.
func (a *App) KeepTrack(ctx context.Context, id int64, raw []byte, p link.Path) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	r, err := measured(o.known, raw, p)
	if err != nil {
		return nil, err
	}
	value, err := asReading("readings.link.track", r.LinkTrack)
	if err != nil {
		return nil, err
	}
	e, err := a.entry(book.KindTrack, "track", r)
	if err != nil {
		return nil, err
	}
	reading := newReading{path: "readings.link.track", value: value, origin: quad.OriginTyped, input: quad.Hash(raw)}
	if err := a.keepWith(ctx, id, "track", []book.Entry{e}, reading); err != nil {
		return nil, err
	}
	return a.Quad(ctx, id)
}

// keptTrack is the last one, or nil.
func (a *App) keptTrack(ctx context.Context, id int64) (*link.Reach, error) {
	list, err := a.keep.NewestOf(ctx, a.pilot, id, book.KindTrack, "")
	if err != nil || len(list) == 0 {
		return nil, err
	}
	var r link.Reach
	if err := json.Unmarshal(list[len(list)-1].Body, &r); err != nil {
		return nil, err
	}
	return &r, nil
}
