package link

import (
	"fmt"
	"slices"

	"vividperch/core/quad"
)

// WayKind of binding.
type WayKind string

const (
	Phrase WayKind = "phrase"
	Button WayKind = "button"
	Cycles WayKind = "cycles"
)

// Way of binding: steps, each with what shows that it is done.
type Way struct {
	Kind  WayKind `json:"kind" enum:"phrase,button,cycles"`
	Words string  `json:"words"`
	Steps []Step  `json:"steps"`
}

// Hands are where a step is done.
type Hands string

const (
	AtRadio    Hands = "radio"
	AtReceiver Hands = "receiver"
	AtQuad     Hands = "quad"
)

// Step of a way.
type Step struct {
	Where Hands  `json:"where" enum:"radio,receiver,quad"`
	Words string `json:"words"`
	Until Sight  `json:"until"`
	// Traps are what shows that something was done in the wrong order while this step is waited for.
	Traps []Trap `json:"traps,omitempty"`
}

// Trap leads back to a step, counted from 1.
type Trap struct {
	When  Sight  `json:"when"`
	Words string `json:"words"`
	Back  int    `json:"back"`
}

// Sight is something an eye can tell at the bench.
type Sight string

const (
	RadioOn           Sight = "radioOn"
	RadioOff          Sight = "radioOff"
	RadioCalling      Sight = "radioCalling" // it binds
	RadioSilent       Sight = "radioSilent"  // it does not
	PackIn            Sight = "packIn"
	PackOut           Sight = "packOut"
	ButtonHeld        Sight = "buttonHeld"
	PhrasesAgree      Sight = "phrasesAgree"
	ChannelsMove      Sight = "channelsMove"
	ReceiverOff       Sight = "receiverOff"
	ReceiverSearching Sight = "receiverSearching"
	ReceiverStranger  Sight = "receiverStranger"
	ReceiverBinding   Sight = "receiverBinding"
	ReceiverPage      Sight = "receiverPage"
	ReceiverBound     Sight = "receiverBound"
)

// Sights that there are.
var Sights = []Sight{
	RadioOn, RadioOff, RadioCalling, RadioSilent, PackIn, PackOut, ButtonHeld, PhrasesAgree, ChannelsMove,
	ReceiverOff, ReceiverSearching, ReceiverStranger, ReceiverBinding, ReceiverPage, ReceiverBound,
}

func (g Gear) checkWays() error {
	for i, w := range g.Ways {
		at := fmt.Sprintf("ways.%d", i+1)
		if !slices.Contains([]WayKind{Phrase, Button, Cycles}, w.Kind) {
			return quad.Faultf("bad-gear", at+".kind", "is %q, but must be phrase, button or cycles", w.Kind)
		}
		if len(w.Steps) == 0 || len(w.Steps) > 20 {
			return quad.Faultf("bad-gear", at+".steps", "needs 1 to 20 steps")
		}
		for j, s := range w.Steps {
			place := fmt.Sprintf("%s.steps.%d", at, j+1)
			if s.Words == "" {
				return quad.Faultf("bad-gear", place+".words", "says nothing")
			}
			if !slices.Contains([]Hands{AtRadio, AtReceiver, AtQuad}, s.Where) {
				return quad.Faultf("bad-gear", place+".where", "is %q, but must be radio, receiver or quad", s.Where)
			}
			if !slices.Contains(Sights, s.Until) {
				return quad.Faultf("bad-gear", place+".until", "is %q, which nobody can see", s.Until)
			}
			for n, t := range s.Traps {
				if !slices.Contains(Sights, t.When) {
					return quad.Faultf("bad-gear", fmt.Sprintf("%s.traps.%d.when", place, n+1), "is %q, which nobody can see", t.When)
				}
				if t.Back < 1 || t.Back > j+1 {
					return quad.Faultf("bad-gear", fmt.Sprintf("%s.traps.%d.back", place, n+1), "leads to step %d, but must lead to this one or one before", t.Back)
				}
			}
		}
	}
	return nil
}

// Seen at the bench at one moment.
type Seen struct {
	Radio, Calling, Pack, Button bool
	PhrasesAgree, ChannelsMove   bool
	Light                        State
}

// Shows says whether a sight is there.
func (s Seen) Shows(what Sight) bool {
	switch what {
	case RadioOn:
		return s.Radio
	case RadioOff:
		return !s.Radio
	case RadioCalling:
		return s.Calling
	case RadioSilent:
		return !s.Calling
	case PackIn:
		return s.Pack
	case PackOut:
		return !s.Pack
	case ButtonHeld:
		return s.Button
	case PhrasesAgree:
		return s.PhrasesAgree
	case ChannelsMove:
		return s.ChannelsMove
	case ReceiverOff:
		return s.Light == Off
	case ReceiverSearching:
		return s.Light == Searching
	case ReceiverStranger:
		return s.Light == Stranger
	case ReceiverBinding:
		return s.Light == Binding
	case ReceiverPage:
		return s.Light == OnPage
	case ReceiverBound:
		return s.Light == Bound
	}
	return false
}

// Progress along a way. Step is the one that is waited for, from 0; at the number of steps it is done. Says is why it was led
// back, until the next step is done.
type Progress struct {
	Step int    `json:"step"`
	Says string `json:"says"`
}

// Done with all steps.
func (w Way) Done(p Progress) bool { return p.Step >= len(w.Steps) }

// Follow takes what is seen now. Whatever the way is and whatever is seen, the answer is a step of it or its end.
func (w Way) Follow(p Progress, s Seen) Progress {
	for n := 0; n <= len(w.Steps); n++ { // a trap may lead to a step that is done already, never round and round
		if p.Step < 0 || w.Done(p) {
			return Progress{Step: min(max(p.Step, 0), len(w.Steps)), Says: p.Says}
		}
		step := w.Steps[p.Step]
		if s.Shows(step.Until) {
			says := p.Says
			if n == 0 && p.Step > 0 {
				says = ""
			}
			p = Progress{Step: p.Step + 1, Says: says}
			continue
		}
		led := false
		for _, t := range step.Traps {
			if s.Shows(t.When) {
				if t.Back-1 == p.Step {
					return Progress{Step: p.Step, Says: t.Words}
				}
				p, led = Progress{Step: t.Back - 1, Says: t.Words}, true
				break
			}
		}
		if !led {
			return p
		}
	}
	return p
}
