package bench

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/bench"
	"hollen/internal/core/cut"
	"hollen/internal/core/doctor"
	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/draw"
	"hollen/internal/store"
)

// benchOffers is what a screen at the bench offers to pick from, so that a tap is enough, also without the server.
type benchOffers struct {
	Makers    []string            `json:"makers"`
	Lots      map[string][]string `json:"lots"` // by the step that weighs their flour
	Eggs      []string            `json:"eggs"`
	Shapes    []offeredShape      `json:"shapes"`
	Stops     []string            `json:"stops"`     // of the machine, the widest first
	Estimates []estimate          `json:"estimates"` // what goes in by splashes and wet hands
	Rules     benchRules          `json:"rules"`
	BenchMM   float64             `json:"bench_mm"`
	Ounces    bool                `json:"ounces"`
	Reading   measure.Table       `json:"reading"` // how what is typed is read
	DoughG    float64             `json:"dough_g"`
	PieceG    float64             `json:"piece_g"`
}

type offeredShape struct {
	Key  string `json:"key"`
	Name string `json:"name"`
}

type estimate struct {
	Name string  `json:"name"`
	Of   string  `json:"of"`
	What string  `json:"what"`
	G    float64 `json:"g"`
	// About is its mass and how far that may be off, in words.
	About string `json:"about"`
}

type benchRules struct {
	Within float64 `json:"within"`
	Share  float64 `json:"share"`
	AloneG float64 `json:"alone_g"`
}

// sheetOff is how far from what a shape wants a sheet may be for it to be offered late, share. Source: house.
const sheetOff = .4

// offersOf is what there is to pick from in a making.
func offersOf(run *bench.Making, cab store.Cabinet) benchOffers {
	p := run.Ahead
	ru := p.Rules().Bench
	o := benchOffers{Makers: []string{}, Lots: map[string][]string{}, Eggs: []string{}, Shapes: []offeredShape{},
		Stops:     []string{},
		Estimates: estimates(p.In(), ru),
		Rules:     benchRules{ru.Within, ru.WithinShare, ru.AloneG}, BenchMM: p.Request.Roll.BenchMM,
		Ounces: p.In() == measure.Customary, Reading: measure.Reading(),
		DoughG: math.Round(p.Formula.Dough.MassG), PieceG: math.Round(p.Roll.PieceG)}
	for _, m := range cab.Makers {
		o.Makers = append(o.Makers, m.Name)
	}
	for i, f := range p.Request.Flours {
		var lots []string
		for _, l := range cab.Lots {
			if l.Flour == f.Flour {
				lots = append(lots, l.Name)
			}
		}
		o.Lots[fmt.Sprintf("weigh.flour.%d", i+1)] = lots
	}
	for _, e := range cab.Eggs {
		o.Eggs = append(o.Eggs, e.Name)
	}
	if !p.Roped() {
		for _, s := range append(cut.Shipped(), cab.Shapes...) {
			if t := s.Traits(); !t.Rope && !t.Filling && math.Abs(s.SheetMM/p.Roll.SheetMM-1) <= sheetOff {
				o.Shapes = append(o.Shapes, offeredShape{s.Key, s.Name + ", " + p.In().MM(s.WidthMM, measure.Shortest)})
			}
		}
		for _, s := range p.Roll.Machine.Stops {
			o.Stops = append(o.Stops, s.Label)
		}
	}
	return o
}

// estimates are what goes in unweighed, by the house's reckoning.
func estimates(in measure.System, ru rules.Bench) (out []estimate) {
	for _, x := range []estimate{{"A splash of water", "splash", "water", ru.SplashG, ""}, {"A spray", "spray", "water",
		ru.SprayG, ""},
		{"Wet hands", "wet_hands", "water", ru.WetHandsG, ""}, {"The board dusted", "dusting", "flour", ru.DustingG,
			""}} {
		x.About = fmt.Sprintf("about %s, give or take %s", in.G(x.G, measure.Shortest), in.G(x.G*ru.GiveOrTake,
			measure.Shortest))
		out = append(out, x)
	}
	return out
}

// benchSign is something one may see at a step, with what narrows it down and what to do about it with this dough.
type benchSign struct {
	Station string `json:"station"`
	Key     string `json:"key"`
	Name    string `json:"name"`
	Look    string `json:"look"` // its small drawing
	// it is about how long it waited: the clock of the egg speaks first
	Waits     bool            `json:"waits,omitempty"`
	Questions []benchQuestion `json:"questions"`
	Findings  []benchFinding  `json:"findings"`
}

type benchQuestion struct {
	Key     string      `json:"key"`
	Text    string      `json:"text"`
	Answers [][2]string `json:"answers"` // key, text
}

type benchFinding struct {
	If     string  `json:"if,omitempty"` // "question=answer" that speaks for it
	Why    string  `json:"why"`
	Do     string  `json:"do"`
	Expect string  `json:"expect"`
	Stop   string  `json:"stop"`
	Act    string  `json:"act,omitempty"`
	Amount float64 `json:"amount,omitempty"` // g, or min
}

// benchSigns are the signs of every station for the dough as it has come to be.
func benchSigns(p *plan.Plan) (out []benchSign) {
	patient := p.Patient()
	for _, st := range request.Stages() {
		for _, sign := range doctor.Search(string(st), "", patient.On) {
			b := benchSign{Station: string(st), Key: sign.Key, Name: sign.Name, Look: draw.Sign(sign.Look),
				Waits: sign.Key == doctor.Interrupted, Questions: []benchQuestion{}}
			for _, q := range sign.Questions {
				if len(q.Answers) == 0 {
					continue // a number of minutes: the bench knows them
				}
				x := benchQuestion{Key: q.Key, Text: q.Text}
				for _, a := range q.Answers {
					x.Answers = append(x.Answers, [2]string{a.Key, a.Text})
				}
				b.Questions = append(b.Questions, x)
			}
			for _, f := range sign.Ask(patient, nil) {
				b.Findings = append(b.Findings, benchFinding{sign.Causes[f.Cause].If, f.Why, f.Do, f.Expect, f.Stop,
					string(f.Act), math.Round(10*f.Amount) / 10})
			}
			if len(b.Findings) > 0 {
				out = append(out, b)
			}
		}
	}
	return out
}

// settleShapes has shapes that are decided be those there are: the workshop's own as they are now. What is no shape is
// refused.
func settleShapes(events []bench.Event, cab store.Cabinet) (sound []bench.Event, refused []refusedEvent) {
	for _, e := range events {
		if into, ok := e.Says.(bench.Shaped); ok {
			into.Own = nil
			_, shipped := cut.Find(into.Shape)
			for i := range cab.Shapes {
				if cab.Shapes[i].Key == into.Shape && !shipped && strings.HasPrefix(into.Shape, flour.OwnPrefix) {
					into.Own = &cab.Shapes[i]
				}
			}
			if into.Own == nil && !shipped {
				refused = append(refused, refusedEvent{e.ID, "that is no shape the workshop has"})
				continue
			}
			e.Says = into
		}
		sound = append(sound, e)
	}
	return sound, refused
}
