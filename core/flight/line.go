package flight

import (
	"encoding/json"
	"math"
	"slices"
	"sync"

	"vividperch/core/airframe"
	"vividperch/core/linkloss"
	"vividperch/core/quad"
	"vividperch/core/site"
)

// LineAsk is a line that a pilot means to fly, and where.
type LineAsk struct {
	Map  site.Map  `json:"map"`
	Line site.Line `json:"line"`
	// From is where the wind comes from, deg clockwise from north. How strong it is, the input tells.
	From float64 `json:"from" unit:"deg"`
	// Set is the policy that the settings mean, whatever the board holds yet.
	Set quad.Policy `json:"set"`
}

const (
	// MostLosses of a line by each policy.
	MostLosses = 1000
	voltLevels = 5                      // between full and low, of a pack that empties on the way
	pieces     = 24                     // of a line, each judged by itself
	softTakes  = 2 * linkloss.LandsHard // m/s that soft ground takes: four times the energy of a hard landing
	usable     = 0.8                    // of a pack's charge
	harmful    = 0.02                   // share of losses from which on a piece of a line is one to keep away from
	ownWay     = 20.0                   // m to the side within which something stands in the way home
)

// golden spreads any number of places evenly over a line, one after the other.
const golden = 0.6180339887498949

// lossAt is where on a line the loss of a number lies, a share of its length.
func lossAt(i int) float64 {
	_, share := math.Modf((float64(i) + 0.5) * golden)
	return share
}

// LineRun flies the loss of the radio along a line, more and more of them: each at another place, with other gusts, other errors of its senses and a pack
// that is more or less full. It may be flown on by one at a time.
type LineRun struct {
	in     Input
	ask    LineAsk
	ground *site.Ground
	lost   []Gone
	by     []lineBy
	turns  *LineBack // worked out once
}

type lineBy struct {
	policy quad.Policy
	models [voltLevels]*pathModel
	downs  []Down
}

// NewLineRun of an input along a line. A map or a line that cannot be is a Fault, as is a quad that cannot be computed.
func NewLineRun(in Input, ask LineAsk) (*LineRun, error) {
	if err := ask.Map.Check(); err != nil {
		return nil, err
	}
	if err := (&site.Map{Lines: []site.Line{ask.Line}}).Check(); err != nil {
		return nil, err
	}
	if !(ask.From >= 0 && ask.From <= 360) {
		return nil, quad.Faultf("no-direction", "", "where the wind comes from is told in degrees from north, up to 360")
	}
	in.Site = in.Site.blowsFrom(ask.From)
	r := &LineRun{in: in, ask: ask, ground: site.NewGround(&ask.Map)}
	for _, policy := range policies {
		if policy == quad.PolicyReturn && in.Settings.Policy != policy {
			continue // how it would come home is not told
		}
		by := lineBy{policy: policy}
		for i := range by.models {
			one := in
			one.Settings.Policy = policy
			one.CellVolt = airframe.LowCell + (airframe.FullCell-airframe.LowCell)*(float64(i)+0.5)/voltLevels
			m, err := newPathModel(one)
			if err != nil {
				return nil, err
			}
			by.models[i] = m
		}
		r.by = append(r.by, by)
	}
	return r, nil
}

// LineHash of what is flown along a line with an input; nothing for one with a figure that is none.
func LineHash(in Input, ask LineAsk) string {
	raw, err := json.Marshal(struct {
		In      Input
		Ask     LineAsk
		Version int
	}{in, ask, Version})
	if err != nil {
		return ""
	}
	return quad.Hash(raw)[:16]
}

// FlyTo flies until there are that many losses by each policy, at most a thousand. stop is asked between two; true ends it with a Fault, and what was flown stays.
func (r *LineRun) FlyTo(times int, stop func() bool) error {
	times = min(times, MostLosses)
	for i := len(r.lost); i < times; i++ {
		at, course := r.ask.Line.At(lossAt(i))
		r.lost = append(r.lost, Gone{At: at, Height: r.ask.Line.Height, Course: course, Speed: r.ask.Line.Speed, Top: r.ask.Line.Height})
	}
	for k := range r.by {
		by := &r.by[k]
		from := len(by.downs)
		if from >= times {
			continue
		}
		fresh, stopped := make([]Down, times-from), false
		var all sync.WaitGroup
		var mind sync.Mutex
		const workers = 2
		for w := range workers {
			all.Go(func() {
				for i := from + w; i < times; i += workers {
					if i%32 < workers && stop != nil {
						mind.Lock()
						stopped = stopped || stop()
						end := stopped
						mind.Unlock()
						if end {
							return
						}
					}
					fresh[i-from] = by.models[i%voltLevels].lose(r.lost[i], uint64(1+i), r.ground)
				}
			})
		}
		all.Wait()
		if stopped {
			return quad.Faultf("cancelled", "", "it was cancelled")
		}
		by.downs = append(by.downs, fresh...)
	}
	return nil
}

// End is how one of them ended.
type End string

const (
	OnOpen     End = "open" // on ground of which nothing is told
	OnSoft     End = "soft"
	OnPeople   End = "people"
	InWater    End = "water"
	OnRoof     End = "roof"
	OnObstacle End = "obstacle"
	InTheAir   End = "air" // it did not come down
)

// ends in the order in which they are told.
var ends = []End{OnPeople, OnObstacle, OnRoof, InWater, InTheAir, OnOpen, OnSoft}

// LineEnds is how many ended in one way, and how hard.
type LineEnds struct {
	End    End     `json:"end" enum:"open,soft,people,water,roof,obstacle,air"`
	Count  int     `json:"count"`
	Speed  float64 `json:"speed" unit:"m/s"` // the median
	Energy float64 `json:"energy" unit:"J"`
}

// LineLosses are those by one policy.
type LineLosses struct {
	Policy quad.Policy `json:"policy"`
	Set    bool        `json:"set"` // it is what the settings say
	Ends   []LineEnds  `json:"ends"`
	// Harmless are those that come down on open ground no harder than a landing may be, or on soft ground at twice that speed.
	Harmless int               `json:"harmless"`
	Unharmed float64           `json:"unharmed" unit:"%"` // the share of those
	Median   site.Offset       `json:"median"`
	Regions  []linkloss.Region `json:"regions"` // 50 and 95 %
	Dots     []site.Offset     `json:"dots"`    // where the first of them came down
	Drifts   float64           `json:"drifts" unit:"m"`
	Speed    float64           `json:"speed" unit:"m/s"`
	Energy   float64           `json:"energy" unit:"J"`
	After    float64           `json:"after" unit:"s"`
	// Charge that it takes from the pack since, and of how much the pack holds; 0 where nobody told that.
	Charge float64 `json:"charge" unit:"mAh"`
	OfPack float64 `json:"ofPack" unit:"%"`
}

// count of those that ended in one of some ways; of all of them without any.
func (l *LineLosses) count(of ...End) (n int) {
	for _, e := range l.Ends {
		if len(of) == 0 || slices.Contains(of, e.End) {
			n += e.Count
		}
	}
	return n
}

// share that a number of them is of all, %.
func (l *LineLosses) share(n int) float64 {
	return round1(100 * float64(n) / math.Max(1, float64(l.count())))
}

// Share of them that ended in one of some ways, %.
func (l *LineLosses) Share(of ...End) float64 { return l.share(l.count(of...)) }

// LinePiece is a part of the line, and what comes of losing the radio there with the policy that is set.
type LinePiece struct {
	From   float64 `json:"from" unit:"m"` // along the line
	To     float64 `json:"to" unit:"m"`
	People float64 `json:"people" unit:"%"` // of them come down among people
	Lost   float64 `json:"lost" unit:"%"`   // strike something, or end in water or on a roof, or do not come down

	avoid bool
}

// LineView is what came of a line.
type LineView struct {
	Flown  int          `json:"flown"` // of each policy
	Of     int          `json:"of"`
	Length float64      `json:"length" unit:"m"`
	Losses []LineLosses `json:"losses"`
	Avoid  []LinePiece  `json:"avoid"` // stretches to keep away from, with the worst of each
	Back   LineBack     `json:"back"`
	Advice Advice       `json:"advice"`
	// Tallest is the highest thing in the way home, with what it is called.
	Tallest     float64  `json:"tallest" unit:"m"`
	TallestName string   `json:"tallestName"`
	Lacks       []string `json:"lacks"`
}

// View sums up what was flown.
func (r *LineRun) View() LineView {
	v := LineView{Of: MostLosses, Length: math.Round(r.ask.Line.Length()), Losses: []LineLosses{}, Avoid: []LinePiece{}, Lacks: append([]string{}, r.ask.Map.Lacks()...)}
	v.Tallest, v.TallestName = r.ask.Map.Tallest(&r.ask.Line, ownWay)
	if r.in.Settings.Policy != quad.PolicyReturn {
		v.Lacks = append(v.Lacks, NoWayHome)
	}
	for i := range r.by {
		l := r.sum(&r.by[i])
		v.Flown = len(r.by[i].downs)
		v.Losses = append(v.Losses, l)
		if l.Set {
			v.Avoid = stretches(r.pieces(&r.by[i]))
		}
	}
	if r.turns == nil {
		b := r.back()
		r.turns = &b
	}
	v.Back = *r.turns
	v.Advice = RecommendLine(v.Losses)
	return v
}

// endOf a flight on this ground.
func (r *LineRun) endOf(d *Down) End {
	switch {
	case d.Up:
		return InTheAir
	case d.Struck != nil && d.Struck.Kind == site.Roof:
		return OnRoof
	case d.Struck != nil:
		return OnObstacle
	}
	a := r.ground.Under(d.At)
	if a == nil || a.Kind == site.Roof { // under it, or nobody told how high it is
		return OnOpen
	}
	return map[site.Kind]End{site.People: OnPeople, site.Water: InWater, site.Obstacle: OnObstacle, site.Soft: OnSoft}[a.Kind]
}

// dotsShown of each policy: enough to be seen as a cloud.
const dotsShown = 300

func (r *LineRun) sum(by *lineBy) LineLosses {
	out := LineLosses{Policy: by.policy, Set: by.policy == r.ask.Set, Ends: []LineEnds{}, Dots: []site.Offset{}}
	in := map[End][]*Down{}
	var points []site.Offset
	var east, north, drifts, speeds, after, charge []float64
	for i := range by.downs {
		d := &by.downs[i]
		end := r.endOf(d)
		in[end] = append(in[end], d)
		if end == InTheAir {
			continue
		}
		if end == OnOpen && d.Speed <= linkloss.LandsHard || end == OnSoft && d.Speed <= softTakes {
			out.Harmless++
		}
		points = append(points, d.At)
		east, north, speeds, after = append(east, d.At.East), append(north, d.At.North), append(speeds, d.Speed), append(after, d.After)
		charge = append(charge, d.Charge)
		drifts = append(drifts, math.Hypot(d.At.East-r.lost[i].At.East, d.At.North-r.lost[i].At.North))
		if len(out.Dots) < dotsShown {
			out.Dots = append(out.Dots, site.Offset{East: round1(d.At.East), North: round1(d.At.North)})
		}
	}
	for _, end := range ends {
		list := in[end]
		if len(list) == 0 {
			continue
		}
		var fast []float64
		for _, d := range list {
			fast = append(fast, d.Speed)
		}
		e := LineEnds{End: end, Count: len(list)}
		if end != InTheAir {
			e.Speed = round2(ranked(fast, 0.5))
			e.Energy = math.Round(r.in.Mass * e.Speed * e.Speed / 2)
		}
		out.Ends = append(out.Ends, e)
	}
	out.Unharmed = out.share(out.Harmless)
	out.Median = site.Offset{East: round1(ranked(east, 0.5)), North: round1(ranked(north, 0.5))}
	out.Regions = linkloss.Regions(points, 50, 95)
	out.Drifts, out.Speed, out.After = round1(ranked(drifts, 0.95)), round2(ranked(speeds, 0.5)), round1(ranked(after, 0.5))
	out.Energy = math.Round(r.in.Mass * out.Speed * out.Speed / 2)
	if out.Charge = math.Round(ranked(charge, 0.5)); r.in.Pack.Capacity > 0 {
		out.OfPack = round1(100 * out.Charge / r.in.Pack.Capacity)
	}
	return out
}

// ranked is the figure below which a share of a list lies; 0 of none.
func ranked(list []float64, share float64) float64 {
	if len(list) == 0 {
		return 0
	}
	slices.Sort(list)
	return list[min(len(list)-1, max(0, int(math.Ceil(share*float64(len(list))))-1))]
}

func (r *LineRun) pieces(by *lineBy) []LinePiece {
	length := r.ask.Line.Length()
	var count, people, lost [pieces]float64
	for i := range by.downs {
		k := min(pieces-1, int(lossAt(i)*pieces))
		count[k]++
		switch r.endOf(&by.downs[i]) {
		case OnPeople:
			people[k]++
		case OnObstacle, OnRoof, InWater, InTheAir:
			lost[k]++
		}
	}
	out := make([]LinePiece, pieces)
	for k := range out {
		n := math.Max(1, count[k])
		out[k] = LinePiece{
			From: round1(length * float64(k) / pieces), To: round1(length * float64(k+1) / pieces),
			People: round1(100 * people[k] / n), Lost: round1(100 * lost[k] / n), avoid: people[k]/n > harmful || lost[k]/n > 0.5,
		}
	}
	return out
}

// stretches to keep away from: pieces that are, joined where they follow each other.
func stretches(list []LinePiece) []LinePiece {
	out := []LinePiece{}
	for _, p := range list {
		if !p.avoid {
			continue
		}
		if n := len(out); n > 0 && out[n-1].To == p.From {
			last := &out[n-1]
			last.To, last.People, last.Lost = p.To, math.Max(last.People, p.People), math.Max(last.Lost, p.Lost)
			continue
		}
		out = append(out, p)
	}
	return out
}
