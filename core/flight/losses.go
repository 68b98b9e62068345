package flight

import (
	"math"
	"sync"

	"vividperch/core/linkloss"
	"vividperch/core/quad"
)

// LossAsk is where a radio is lost, again and again, and how often for each policy.
type LossAsk struct {
	Out
	// From is where the wind comes from, seen from home along the way out, deg: 0 blows from the quad to home, 180 from home to the quad.
	From  float64
	Times int
	// Set is the policy that the settings mean, whatever the board holds yet.
	Set quad.Policy
}

// LossPoint is where and how one of them ended.
type LossPoint struct {
	Along  float64 `json:"along" unit:"m"` // from home towards where the radio was lost
	Aside  float64 `json:"aside" unit:"m"` // to the right of that
	Speed  float64 `json:"speed" unit:"m/s"`
	Energy float64 `json:"energy" unit:"J"`
	After  float64 `json:"after" unit:"s"` // the radio was gone
	Down   bool    `json:"down"`           // it came down at all
}

// LossScatter is what a policy makes of them.
type LossScatter struct {
	Policy quad.Policy `json:"policy"`
	Words  string      `json:"words"` // of the first
	Points []LossPoint `json:"points"`
	// Half of them come down within Half of home, 95 % within Most, and 95 % within Drifts of where the radio was lost.
	Half   float64 `json:"half" unit:"m"`
	Most   float64 `json:"most" unit:"m"` // 95 %
	Drifts float64 `json:"drifts" unit:"m"`
	Speed  float64 `json:"speed" unit:"m/s"` // at the ground, the median
	Energy float64 `json:"energy" unit:"J"`
	After  float64 `json:"after" unit:"s"`
	Up     int     `json:"up"`  // of them that were still in the air at the end
	Set    bool    `json:"set"` // it is what the settings say
	// Homeless was flown as if it had taken off before it knew where it was: its home was never set.
	Homeless bool    `json:"homeless"`
	Away     float64 `json:"away" unit:"m"` // of where the radio was lost
}

// NoWayHome says why a return is not among what was flown.
const NoWayHome = "A way home is not set here: what it would do is not made up."

// policies in the order in which they are compared.
var policies = []quad.Policy{quad.PolicyDrop, quad.PolicyLand, quad.PolicyReturn}

// Losses flies the loss of the radio at a place with each policy, in the input's wind, with other gusts and other errors of the senses each time. stop is
// asked between two flights; true ends it with a Fault.
func Losses(in Input, ask LossAsk, stop func() bool) ([]LossScatter, error) {
	in.Site = in.Site.blowsFrom(ask.From) // north is from home to the quad
	in.OnLoss = quad.LossSilence
	set := in.Settings.Policy
	type way struct {
		policy   quad.Policy
		homeless bool
	}
	var asked []way
	for _, policy := range policies {
		if policy != quad.PolicyReturn || set == policy { // else how it would come home is not told
			asked = append(asked, way{policy: policy})
		}
	}
	if set == quad.PolicyReturn && in.Actual.Place.Fixed {
		asked = append(asked, way{set, true})
	}
	out, faults := make([]LossScatter, len(asked)), make([]error, len(asked))
	var all sync.WaitGroup
	for i, w := range asked {
		all.Go(func() {
			one := in
			one.Settings.Policy = w.policy
			one.Actual.Place.Fixed = in.Actual.Place.Fixed && !w.homeless
			if out[i], faults[i] = scatter(one, ask, stop); faults[i] == nil {
				out[i].Set, out[i].Homeless = w.policy == ask.Set && !w.homeless, w.homeless
			}
		})
	}
	all.Wait()
	for _, err := range faults {
		if err != nil {
			return nil, err
		}
	}
	return out, nil
}

// scatter of one policy.
func scatter(in Input, ask LossAsk, stop func() bool) (LossScatter, error) {
	out := LossScatter{Policy: in.Settings.Policy, Away: ask.Away, Points: []LossPoint{}}
	for i := range ask.Times {
		if stop != nil && stop() {
			return out, quad.Faultf("cancelled", "", "it was cancelled")
		}
		in.Seed = uint64(1 + i)
		var last, before State
		touched := false
		run, err := Fly(in, Flight{Scenario: LostFarOut, Card: HoverCard, Hand: Steady, Out: &ask.Out}, Watching{Stop: stop, Rate: 100, Record: func(s State) {
			if !touched && s.Height < 0.03 && s.Time > 1 {
				touched, before = true, last
			}
			if !touched {
				last = s
			}
		}})
		if err != nil {
			return out, err
		}
		if i == 0 {
			out.Words = run.Summary.Sentence
		}
		if !touched {
			before = last
			out.Up++
		}
		v := before.Velocity
		speed := math.Sqrt(v[0]*v[0] + v[1]*v[1] + v[2]*v[2])
		out.Points = append(out.Points, LossPoint{
			Along: round2(before.North), Aside: round2(before.East), Speed: round2(speed), Energy: math.Round(in.Mass*speed*speed*50) / 100,
			After: round2(before.Time - run.Lost), Down: touched,
		})
	}
	out.sum(ask.Away)
	return out, nil
}

// sum up the points of those that came down.
func (l *LossScatter) sum(away float64) {
	of := func(get func(LossPoint) float64) []float64 {
		var list []float64
		for _, p := range l.Points {
			if p.Down {
				list = append(list, get(p))
			}
		}
		return list
	}
	at := func(list []float64, share float64) float64 { return round2(ranked(list, share)) }
	home := of(func(p LossPoint) float64 { return math.Hypot(p.Along, p.Aside) })
	l.Half, l.Most = at(home, 0.5), at(home, 0.95)
	l.Drifts = at(of(func(p LossPoint) float64 { return math.Hypot(p.Along-away, p.Aside) }), 0.95)
	l.Speed, l.Energy, l.After = at(of(func(p LossPoint) float64 { return p.Speed }), 0.5), at(of(func(p LossPoint) float64 { return p.Energy }), 0.5), at(of(func(p LossPoint) float64 { return p.After }), 0.5)
}

// Ground is what lies under and over a flight.
type Ground struct {
	People bool    // under it or beside it
	Roof   bool    // over it
	Soft   bool    // to fall onto
	Clear  float64 // m around home; 0 nobody told
}

// Advice on what to do without a radio, with its reason. A pilot may know better.
type Advice struct {
	Policy quad.Policy `json:"policy"`
	Why    string      `json:"why"`
}

// Recommend a policy for a ground by what was flown there. Under a roof a climb is a crash, and by people what turns is worse than what falls; a return is
// right where it comes down at home, inside of what is clear; a descent is for soft ground, and where it is soft itself.
func Recommend(list []LossScatter, g Ground) Advice {
	by := map[quad.Policy]*LossScatter{}
	for i := range list {
		if !list[i].Homeless {
			by[list[i].Policy] = &list[i]
		}
	}
	home, land := by[quad.PolicyReturn], by[quad.PolicyLand]
	comes := home != nil && home.Up == 0 && home.Most <= math.Max(10, g.Clear) && home.Most < home.Away
	lands := land != nil && land.Up == 0 && land.Speed <= linkloss.LandsHard
	switch {
	case g.Roof:
		return Advice{quad.PolicyDrop, "Under a roof a climb is a crash, and nothing knows where it is: it stops its motors."}
	case g.People && comes:
		return Advice{quad.PolicyReturn, "It leaves the people: 95 % come down within " + quad.Quantity(math.Round(home.Most), "m") + " of home. It must fly higher than all of them."}
	case g.People:
		return Advice{quad.PolicyDrop, "By people what turns and drifts is worse than what falls: it stops its motors where it is. Better still, do not fly over them."}
	case comes && home.Speed <= linkloss.LandsHard:
		return Advice{quad.PolicyReturn, "95 % come down within " + quad.Quantity(math.Round(home.Most), "m") + " of home, at " + quad.Quantity(round1(home.Speed), "m/s") + "."}
	case lands && g.Soft:
		return Advice{quad.PolicyLand, "Over soft ground it comes down at " + quad.Quantity(round1(land.Speed), "m/s") + ", " + quad.Quantity(math.Round(land.Drifts), "m") + " from where it was at most."}
	case land != nil && g.Soft:
		return Advice{quad.PolicyDrop, "Descending it would strike at " + quad.Quantity(round1(land.Speed), "m/s") + " and drift on the way: falling it comes down where it is."}
	}
	return Advice{quad.PolicyDrop, "No way home that it comes back by, and nothing soft to descend onto: falling it comes down where it is."}
}

func round1(x float64) float64 { return math.Round(x*10) / 10 }
