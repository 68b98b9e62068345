package flight_test

import (
	"math"
	"strings"
	"testing"

	"vividperch/core/airframe"
	"vividperch/core/feel"
	"vividperch/core/firmware"
	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/demo/worldtest"
)

// A borrowed feel answers the same stick alike: an error is taken back as quickly as on the lender, its curve is the lender's, and full stick lifts as many times its weight.
func TestBorrowedFeelAnswersAlike(t *testing.T) {
	lender, own := worldtest.Demo(t, "turnstone"), worldtest.Demo(t, "dunlin")
	got := flight.Borrow(flight.Lent{Known: lender, Whole: true}, own)
	with := own
	with.Sheet.Feel = got.Feel
	loops := func(k quad.Known) [3]feel.Loop {
		in, err := flight.Meant(k)
		if err != nil {
			t.Fatal(err)
		}
		in.CellVolt = airframe.RestCell
		out, err := flight.LoopsOf(in)
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	a, b := loops(lender), loops(with)
	for i := range a {
		x, y := feel.Quickness(a[i].Gains.Proportional, a[i].Authority), feel.Quickness(b[i].Gains.Proportional, b[i].Authority)
		if !(math.Abs(x/y-1) <= 0.01) {
			t.Errorf("axis %d: an error is taken back at %.1f 1/s there, %.1f here", i, x, y)
		}
	}
	theirs, err := flight.OnOneStick(lender, 0.01)
	if err != nil {
		t.Fatal(err)
	}
	ours, err := flight.OnOneStick(with, 0.01)
	if err != nil {
		t.Fatal(err)
	}
	before, err := flight.OnOneStick(own, 0.01)
	if err != nil {
		t.Fatal(err)
	}
	off := func(x, y []float64) (sum float64) {
		for i := range x {
			sum += math.Abs(x[i] - y[i])
		}
		return sum / float64(len(x))
	}
	t.Logf("on one stick it was %.1f deg/s from the lender on average, and is %.1f", off(theirs, before), off(theirs, ours))
	if off(theirs, ours) > 0.5*off(theirs, before)+8 {
		t.Errorf("borrowed it is %.1f deg/s from the lender on average, before %.1f", off(theirs, ours), off(theirs, before))
	}
}

// What cannot be carried is said: gains without the quad that they turn, filters, and thrust that there is not.
func TestBorrowSaysWhatIsLeft(t *testing.T) {
	own := worldtest.Demo(t, "whimbrel")
	list := worldtest.Demo(t, "dunlin")
	list.Sheet.Feel.Filters.Gyro.Cutoff, list.Sheet.Feel.ThrottleLimit = 200, 100
	bare := flight.Borrow(flight.Lent{Known: list}, own)
	whole := flight.Borrow(flight.Lent{Known: list, Whole: true}, own)
	says := func(b flight.Borrowed, what string) string {
		for _, l := range b.Left {
			if l.What == what {
				return l.Why
			}
		}
		return ""
	}
	if bare.Feel.RollGains != own.Sheet.Feel.RollGains || !strings.Contains(says(bare, "The gains"), "parts") || says(bare, "The throttle") == "" {
		t.Errorf("without its parts: gains %+v, left %+v", bare.Feel.RollGains, bare.Left)
	}
	if whole.Feel.RollGains == own.Sheet.Feel.RollGains || says(whole, "The gains") != "" || says(whole, "The filters") == "" || says(whole, "All of its thrust") == "" || whole.Feel.Filters != own.Sheet.Feel.Filters {
		t.Errorf("with its parts: gains %+v, left %+v", whole.Feel.RollGains, whole.Left)
	}
	none := list
	none.Sheet.Feel = quad.FeelSheet{}
	empty := flight.Borrow(flight.Lent{Known: none, Whole: true}, own)
	if empty.Feel.Roll != own.Sheet.Feel.Roll || says(empty, "The curves") == "" || says(empty, "The gains") == "" {
		t.Errorf("of a quad that tells nothing: %+v", empty.Left)
	}
}

// Starting gains are what is usual, for a quad as strong as the one they are usual for; for every demo quad they are flown and do not shake.
func TestStartingGains(t *testing.T) {
	for _, name := range []string{"dunlin", "sanderling", "whimbrel", "godwit", "turnstone", "knot"} {
		k := worldtest.Demo(t, name)
		b, err := firmware.Find(k.Sheet.Firmware.Line, k.Sheet.Firmware.Version)
		if err != nil {
			t.Fatal(err)
		}
		usual, err := b.Usual()
		if err != nil {
			t.Fatal(err)
		}
		gains := [3]quad.Gains{usual.Feel.RollGains, usual.Feel.PitchGains, usual.Feel.YawGains}
		got, err := flight.StartingGains(k, gains, [3]float64(b.Line.Reference))
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		t.Logf("%s: %+v", name, got)
		for _, f := range got.Flown {
			if f.Shakes || f.Share < 0.98*feel.SharesFew {
				t.Errorf("%s with %s: %+v", name, f.Pack, f)
			}
		}
		// The same loop gain as on the reference, with the pack that turns it the hardest.
		most := 0.0
		list, _ := airframe.FedByEach(k.Parts, airframe.FullCell)
		for _, f := range list {
			in, err := flight.Meant(k)
			if err != nil {
				t.Fatal(err)
			}
			loops, err := flight.LoopsOf(in.With(f.Pack, airframe.FullCell))
			if err != nil {
				t.Fatal(err)
			}
			most = math.Max(most, loops[0].Authority)
		}
		if x, y := got.Gains[0].Proportional*most/got.Held, gains[0].Proportional*b.Line.Reference[0]; !(math.Abs(x/y-1) <= 0.02) {
			t.Errorf("%s: loop gain %.1f, of the reference %.1f", name, x, y)
		}
	}
}

// Every preset is flown on every demo quad that can be flown: it lands the first hover, its curve is the quad's own family, and full stick lifts what it says.
func TestPresetsOnEveryDemoQuad(t *testing.T) {
	flown := 0
	for _, name := range []string{"dunlin", "sanderling", "whimbrel", "godwit", "turnstone", "knot"} {
		for _, p := range feel.Presets() {
			k := worldtest.Demo(t, name)
			with, err := flight.WithPreset(k, p)
			if err != nil {
				t.Errorf("%s, %s: %v", name, p.Name, err)
				continue
			}
			k.Sheet.Feel = with
			in, err := flight.Meant(k)
			if err != nil {
				t.Logf("%s is not told enough to be flown: %v", name, err)
				continue
			}
			run, err := flight.Rehearse(in, flight.HoverCard, nil)
			if err != nil {
				t.Fatal(err)
			}
			flown++
			if run.Summary.Outcome != string(flight.Landed) {
				t.Errorf("%s, %s: %s", name, p.Name, run.Summary.Sentence)
			}
			if p.Lifts > 0 && with.ThrottleLimit < 100 {
				list, _ := airframe.FedByEach(k.Parts, airframe.RestCell)
				heaviest, pack, _ := airframe.Heaviest(k.Parts)
				for _, f := range list {
					if f.Name != heaviest {
						continue
					}
					if lifts := f.Drive.Lifts(in.Settings.Idle+with.ThrottleLimit/100*(1-in.Settings.Idle), in.With(pack, airframe.RestCell).Mass); !(math.Abs(lifts/p.Lifts-1) <= 0.03) {
						t.Errorf("%s, %s: full stick lifts %.2f times its weight, want %.2f", name, p.Name, lifts, p.Lifts)
					}
				}
			}
			for i, r := range [3]quad.Rates{with.Roll, with.Pitch, with.Yaw} {
				want := [3]quad.Rates{p.Roll, p.Pitch, p.Yaw}[i]
				if apart := feel.Between(quad.CentrePeak, want, with.Family, r); apart.Share > 0.15 {
					t.Errorf("%s, %s, axis %d: %.0f %% off", name, p.Name, i, 100*apart.Share)
				}
			}
		}
	}
	if flown < 16 {
		t.Errorf("only %d were flown", flown)
	}
}

// The spectrum of a hover shows each rotor where it turns, and behind a notch there hardly any of it.
func TestSpectrumShowsTheRotors(t *testing.T) {
	k := worldtest.Demo(t, "dunlin")
	in, err := flight.Meant(k)
	if err != nil {
		t.Fatal(err)
	}
	s, err := flight.SpectrumOf(in)
	if err != nil {
		t.Fatal(err)
	}
	at := int(math.Round(s.Rotors/s.Every)) - 1
	peak := func(x []float64) (most float64) {
		for i := at - 3; i <= at+3; i++ {
			most = math.Max(most, x[i])
		}
		return most
	}
	floor := 0.0
	for i := at + 60; i < at+120; i++ {
		floor += s.Raw[i] / 60
	}
	if peak(s.Raw) < 5*floor {
		t.Errorf("at %v Hz the gyro shows %.4f deg/s, beside it %.4f", s.Rotors, peak(s.Raw), floor)
	}
	in.Settings.Filters.Notch = quad.Notch{On: quad.On, Centre: s.Rotors, Width: 40}
	notched, err := flight.SpectrumOf(in)
	if err != nil {
		t.Fatal(err)
	}
	if peak(notched.Filtered) > 0.25*peak(s.Filtered) {
		t.Errorf("behind a notch %.4f deg/s, without %.4f", peak(notched.Filtered), peak(s.Filtered))
	}
}
