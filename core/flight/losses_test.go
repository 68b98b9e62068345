package flight

import (
	"math"
	"strings"
	"testing"

	"vividperch/core/airframe"
	"vividperch/core/linkloss"
	"vividperch/core/quad"
)

// In still air a quad that drops falls as the integration of the same drag does, written apart; one that lands comes down where it was, as hard as the
// balance of its throttle says; one that returns comes down at home.
func TestLossesAreWhatTheirPoliciesSay(t *testing.T) {
	in := navigating()
	ask := LossAsk{Out: Out{Away: 120, Height: 25}, Times: 3, Set: quad.PolicyReturn}
	list, err := Losses(in, ask, nil)
	if err != nil {
		t.Fatal(err)
	}
	by := map[quad.Policy]LossScatter{}
	for _, l := range list {
		if l.Homeless {
			// Taken off before it knew where it was it comes down where the radio went, as it would descending.
			near(t, "homeless, m from home", l.Half, 120, 6)
			continue
		}
		by[l.Policy] = l
		if len(l.Points) != 3 || l.Up > 0 {
			t.Errorf("%s: %+v", l.Policy, l)
		}
	}
	if len(list) != 4 {
		t.Errorf("%d ways", len(list))
	}
	k := airframe.DragOf(in.Parts.Frame, in.Site.Density)
	fall := linkloss.Drop(0, 25, in.Mass, k, airframe.Gravity)
	near(t, "dropped, m/s", by[quad.PolicyDrop].Speed, fall.Speed, 0.1*fall.Speed)
	near(t, "dropped, J", by[quad.PolicyDrop].Energy, fall.Energy, 0.2*fall.Energy)
	near(t, "dropped, m from where", by[quad.PolicyDrop].Drifts, 0, 4)
	near(t, "landed, m from home", by[quad.PolicyLand].Half, 120, 6)
	near(t, "returned, m from home", by[quad.PolicyReturn].Half, 0, 4)
	if by[quad.PolicyReturn].Speed > 1.5 || !by[quad.PolicyReturn].Set || by[quad.PolicyDrop].Set {
		t.Errorf("%+v", by[quad.PolicyReturn])
	}
}

// Wind carries what comes down slowly, along it; where it comes from is told from home.
func TestLossesGoWithTheWind(t *testing.T) {
	in := navigating()
	in.Site.WindNorth = -5
	for _, c := range []struct{ from, along, aside float64 }{{0, -1, 0}, {180, 1, 0}, {90, 0, -1}} {
		list, err := Losses(in, LossAsk{Out: Out{Away: 100, Height: 30}, From: c.from, Times: 2}, nil)
		if err != nil {
			t.Fatal(err)
		}
		for _, l := range list {
			if l.Policy != quad.PolicyLand {
				continue
			}
			p := l.Points[0]
			if d := (p.Along-100)*c.along + p.Aside*c.aside; d < 5 || !(math.Abs((p.Along-100)*c.aside-p.Aside*c.along) <= 0.35*d) {
				t.Errorf("wind from %v°: it comes down %.0f m along and %.0f m aside", c.from, p.Along-100, p.Aside)
			}
		}
	}
}

func TestLossesRefuse(t *testing.T) {
	in := navigating()
	for _, out := range []Out{{Away: -1, Height: 20}, {Away: 20, Height: 0}, {Away: 1e9, Height: 20}, {Away: math.NaN(), Height: 20}} {
		if _, err := Losses(in, LossAsk{Out: out, Times: 1}, nil); quad.AsFault(err) == nil || quad.AsFault(err).Code != "no-place" {
			t.Errorf("%+v: %v", out, err)
		}
	}
	if _, err := Losses(in, LossAsk{Out: Out{Away: 10, Height: 10}, Times: 2}, func() bool { return true }); quad.AsFault(err) == nil || quad.AsFault(err).Code != "cancelled" {
		t.Errorf("cancelled: %v", err)
	}
	in.Settings.Policy = quad.PolicyDrop
	list, err := Losses(in, LossAsk{Out: Out{Away: 10, Height: 10}, Times: 1}, nil)
	if err != nil || len(list) != 2 {
		t.Errorf("without a way home told it is not made up: %d, %v", len(list), err)
	}
}

// What is advised, and that it says why by the figures that were flown.
func TestRecommend(t *testing.T) {
	home := LossScatter{Policy: quad.PolicyReturn, Most: 6, Speed: 0.6, Away: 80}
	lost := LossScatter{Policy: quad.PolicyReturn, Most: 200, Speed: 0.6, Away: 80, Up: 3}
	soft, hard := LossScatter{Policy: quad.PolicyLand, Speed: 3, Drifts: 20}, LossScatter{Policy: quad.PolicyLand, Speed: 12, Drifts: 6}
	for _, c := range []struct {
		name string
		list []LossScatter
		g    Ground
		want quad.Policy
		says string
	}{
		{"an open field", []LossScatter{soft, home}, Ground{Clear: 30}, quad.PolicyReturn, "within 6 m of home"},
		{"under a roof", []LossScatter{soft, home}, Ground{Roof: true, Soft: true}, quad.PolicyDrop, "a climb is a crash"},
		{"over people, and home is sure", []LossScatter{soft, home}, Ground{People: true, Clear: 30}, quad.PolicyReturn, "leaves the people"},
		{"over people, with no way home", []LossScatter{soft}, Ground{People: true, Soft: true}, quad.PolicyDrop, "do not fly over them"},
		{"reeds, and no way home", []LossScatter{soft}, Ground{Soft: true}, quad.PolicyLand, "at 3 m/s"},
		{"reeds, a hard descent", []LossScatter{hard}, Ground{Soft: true}, quad.PolicyDrop, "strike at 12 m/s"},
		{"reeds, a way home that it does not find", []LossScatter{soft, lost}, Ground{Soft: true, Clear: 30}, quad.PolicyLand, "Over soft ground"},
		{"stones", []LossScatter{soft}, Ground{}, quad.PolicyDrop, "nothing soft"},
	} {
		if got := Recommend(c.list, c.g); got.Policy != c.want || !strings.Contains(got.Why, c.says) {
			t.Errorf("%s: %+v", c.name, got)
		}
	}
}
