package practice

import (
	"fmt"
	"slices"
	"strings"

	"hollen/internal/core/bench"
	"hollen/internal/core/dry"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/sack"
)

// LogMoment is a moment of a making where something was recorded that tells how the dough was, and what came of it: the
// answers, what the doctor says, what was done.
type LogMoment struct {
	Call    Call     `json:"call"`
	Say     string   `json:"say"` // the dough, and what was done by then; figures with units in braces
	Shown   []Shown  `json:"shown"`
	Answers []string `json:"answers"`
	Doctor  int      `json:"doctor"`
	Did     int      `json:"did"`  // of the answers; −1: not told
	Done    string   `json:"done"` // in words
	Came    string   `json:"came"` // what came of it
}

// afterwards is what happened after a moment of a making.
type afterwards struct {
	added, rested, kneaded bool
	addedWhat              string
	felt                   *int
	ended                  *bench.Ended
}

// afterwardsOf reads the events after one.
func afterwardsOf(events []bench.Event) (a afterwards) {
	for _, e := range events {
		switch x := e.Says.(type) {
		case bench.Added:
			if !a.rested && !a.kneaded && a.addedWhat == "" && x.G > 0 && x.How != "dusting" {
				a.added, a.addedWhat = true, x.Words(measure.Metric)
			}
		case bench.MoreMin:
			if x.Min > 0 {
				a.rested = true
			}
		case bench.PutIn:
			a.rested = a.rested || x.Kind == "rest" || x.Kind == "fridge"
			a.kneaded = a.kneaded || x.Kind == "knead"
		case bench.Felt:
			w := x.Word
			a.felt = &w
		case bench.Ended:
			a.ended = &x
		}
	}
	return a
}

// came says what came of it, "" where nobody said.
func (a afterwards) came() string {
	out := ""
	if a.felt != nil && *a.felt >= -2 && *a.felt <= 2 {
		out = "It was felt to be " + feelWords[*a.felt+2] + " in the end."
	}
	if a.ended != nil {
		switch {
		case a.ended.How == "thrown_away" && a.ended.G == 0:
			out += " All of it was thrown away."
		case a.ended.G > 0:
			out += fmt.Sprintf(" {%.0f g} came out.", a.ended.G)
		}
	}
	return measure.Capital(strings.TrimSpace(out))
}

// Moments are the moments of an ended making that can be practised on.
func Moments(p *plan.Plan, events []bench.Event) (out []LogMoment) {
	gone := takenBack(events)
	var kept []bench.Event
	for _, e := range events {
		if !gone[e.ID] {
			kept = append(kept, e)
		}
	}
	f := &p.Formula
	dough := fmt.Sprintf("{%.0f g} of flour, {%.0f g} of egg", f.FlourG, f.WholeG+f.YolkG)
	for i, e := range kept {
		after := afterwardsOf(kept[i+1:])
		if after.came() == "" {
			continue
		}
		var m LogMoment
		switch x := e.Says.(type) {
		case bench.Poked:
			m = pokeMoment(p, dough, x.S, after)
		case bench.Felt:
			if i == len(kept)-1 || after.felt == nil || !after.added && *after.felt == x.Word {
				continue
			}
			m = feltMoment(dough, x.Word, after)
		case bench.Flexed:
			word := 0
			if x.Bends == "no" {
				word = 1
			}
			m = kneadMoment(p, dough, Shown{Flex, word}, after)
		case bench.Stretched:
			word := 0
			if x.Shines == "yes" {
				word = 1
			}
			m = kneadMoment(p, dough, Shown{Window, word}, after)
		default:
			continue
		}
		m.Came = after.came()
		out = append(out, m)
	}
	return out
}

// Tells says whether something was recorded in a making that a moment can be made of.
func Tells(events []bench.Event) bool {
	for _, e := range events {
		switch e.Says.(type) {
		case bench.Poked, bench.Flexed, bench.Stretched, bench.Felt:
			return true
		}
	}
	return false
}

// takenBack are the events that no longer count.
func takenBack(events []bench.Event) map[string]bool {
	gone := map[string]bool{}
	for _, e := range events {
		if x, is := e.Says.(bench.TakenBack); is {
			gone[x.Of] = true
			gone[e.ID] = true
		}
	}
	return gone
}

func pokeMoment(p *plan.Plan, dough string, s float64, a afterwards) LogMoment {
	cuts := p.Rules().Practice.Poke.Cuts
	word := wordAt(cuts, s)
	m := LogMoment{Call: Rested, Say: fmt.Sprintf("%s; rested about %.0f min by the plan", dough, p.Rest.Min),
		Shown: []Shown{{Poke, word}}, Answers: []string{"Roll it", "Wait 10 more", "Wait 30 more"}}
	switch {
	case word >= 4:
		m.Doctor = 0
	case word >= 2:
		m.Doctor = 1
	default:
		m.Doctor = 2
	}
	m.Did, m.Done = 0, "it was rolled"
	if a.rested {
		m.Did, m.Done = 1, "it was left longer"
	}
	return m
}

func feltMoment(dough string, word int, a afterwards) LogMoment {
	m := LogMoment{Call: Water, Say: dough, Shown: []Shown{{Feel, word + 2}},
		Answers: []string{"Leave it", "Water", "Flour"}, Did: 0, Done: "nothing was added"}
	switch {
	case word < 0:
		m.Doctor = 1
	case word > 0:
		m.Doctor = 2
	}
	if a.added {
		m.Did, m.Done = 1, a.addedWhat
		if strings.Contains(a.addedWhat, "flour") {
			m.Did = 2
		}
	}
	return m
}

func kneadMoment(p *plan.Plan, dough string, shown Shown, a afterwards) LogMoment {
	m := LogMoment{Call: Kneaded, Say: fmt.Sprintf("%s; kneaded about %.0f min by the plan", dough, p.Knead.Min),
		Shown: []Shown{shown}, Answers: []string{"Wrap it", "Knead 3 more", "Water"}, Did: 0, Done: "it was wrapped"}
	bad := shown.Sign == Flex && shown.Word == 1 || shown.Sign == Window && shown.Word == 0
	if bad {
		m.Doctor = 1
	}
	switch {
	case a.kneaded:
		m.Did, m.Done = 1, "it was kneaded on"
	case a.added:
		m.Did, m.Done = 2, a.addedWhat
	}
	return m
}

// LogSitting is moments of a log one after the other, folded over what was answered.
type LogSitting struct {
	Moments []LogMoment
	Acts    []Act
	At      int
	Told    bool
	Over    bool
	Chosen  int
	Right   int // answered as the doctor says
}

// SitLog folds a sitting of moments.
func SitLog(moments []LogMoment, acts []Act) (*LogSitting, error) {
	s := &LogSitting{Moments: moments}
	for _, a := range acts {
		if err := s.Do(a); err != nil {
			return s, err
		}
	}
	return s, nil
}

// Do does one act of it.
func (s *LogSitting) Do(a Act) error {
	if a.Do != DoOn {
		if err := Choice(a, len(s.Moments[s.At].Answers)); err != nil {
			return err
		}
	}
	answers, err := next(a, &s.At, &s.Told, &s.Over, len(s.Moments))
	if err != nil {
		return err
	}
	s.Acts = append(s.Acts, a)
	if answers {
		if s.Chosen = int(a.N); s.Chosen == s.Moments[s.At].Doctor {
			s.Right++
		}
	}
	return nil
}

// PickMoments picks n moments of many, each call as often as can be, by a seed.
func PickMoments(all []LogMoment, seed uint64, n int) []LogMoment {
	rng := source(seed, hash("moments"))
	order := rng.Perm(len(all))
	var out []LogMoment
	for turn := 0; len(out) < min(n, len(all)); turn++ {
		met := map[Call]int{}
		for _, i := range order {
			if met[all[i].Call]++; met[all[i].Call] == turn+1 && len(out) < n {
				out = append(out, all[i])
			}
		}
	}
	return slices.Clip(out)
}

// Lump is one of three to knead and try: how far it is off, points, and the water it is given beside flour and egg, g.
type Lump struct{ Points, WaterG float64 }

// Lumps are the three lumps of a flour and what each is given of flour and beaten egg, g.
func (b *Base) Lumps() (lumps []Lump, flourG, eggG float64) {
	r := &b.Rules.Practice
	lost := dry.BoardLossG(b.Rules, b.TempC, b.RH, r.LumpFlourG) * sack.SmallKneadMin * 60 / b.Rules.Room.BoardSeconds
	for _, points := range r.LumpPoints {
		lumps = append(
			lumps,
			Lump{points, max(0, sack.SmallWaterG(b.Rules, b.AimHw, points, b.MoistureWB, r.LumpFlourG, lost))},
		)
	}
	return lumps, r.LumpFlourG, sack.SmallEggShare * r.LumpFlourG
}
