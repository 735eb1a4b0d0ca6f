package learn

import (
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// world is how a kitchen truly is, times the book; water in points, what ribbons pull in as a share more.
type world struct {
	knead, rest, dry, cook, hands, loss, trim, gap float64
	water, shrink                                  float64
	// exact; words: a look every so often; end: at the end of what is planned alone
	look string
	rng  *rand.Rand // nil: nothing is off by chance
}

func asBook() world {
	return world{knead: 1, rest: 1, dry: 1, cook: 1, hands: 1, loss: 1, trim: 1, gap: 1, look: "exact"}
}

// off is a factor by chance, of a spread of its logarithm.
func (w *world) off(spread float64) float64 {
	if w.rng == nil {
		return 1
	}
	return math.Exp(spread * w.rng.NormFloat64())
}

// made goes through a making in that kitchen: what is looked at, weighed and measured on the way.
func (w *world) made(t *testing.T, p *plan.Plan, began time.Time) []bench.Event {
	t.Helper()
	book, err := p.Book()
	if err != nil {
		t.Fatal(err)
	}
	now, n := began, 0
	var out []bench.Event
	say := func(e bench.Event, after float64) {
		n++
		e.ID, e.By = fmt.Sprint("e", n), "Ada"
		e.At = now.Add(time.Duration(after * float64(time.Minute)))
		out = append(out, e)
	}
	steps, byBook := bench.Steps(p), bench.Steps(book)
	kneadings := 0
	for i := range steps {
		if strings.HasPrefix(steps[i].Key, "knead.") {
			kneadings++
		}
	}
	// right says of a step when something is right, that long in; it returns how long the step took.
	right := func(key string, at, planned, every float64) float64 {
		switch w.look {
		case "exact":
			say(bench.Event{Says: bench.Looked{Step: key, Look: "right"}}, at)
			return math.Max(at, planned)
		case "end":
			if at <= planned {
				say(bench.Event{Says: bench.Looked{Step: key, Look: "right"}}, planned)
				return planned
			}
			say(bench.Event{Says: bench.Looked{Step: key, Look: "not yet"}}, planned)
			planned += every
		default:
			planned = every
		}
		for ; planned < at; planned += every {
			say(bench.Event{Says: bench.Looked{Step: key, Look: "not yet"}}, planned)
		}
		say(bench.Event{Says: bench.Looked{Step: key, Look: "right"}}, planned)
		return planned
	}
	sum := p.Formula.Dough.MassG * (1 - w.loss*w.off(.4)*p.Rules().Dough.BowlLossShare)
	for i := range steps {
		s := &steps[i]
		took := s.PlanMin
		switch {
		case s.Key == fmt.Sprintf("knead.%d", kneadings):
			if k, ok := book.Kneading(); ok {
				var minutes []float64
				for _, x := range p.Knead.Way.Steps {
					minutes = append(minutes, x.Min)
					if len(minutes) > 1 && x.Rests() && kneadings == 1 {
						break
					}
				}
				last := 0
				for j, x := range p.Knead.Way.Steps {
					if !x.Rests() {
						last = j
					}
				}
				need := k.NeedMin * w.knead * w.off(.15)
				at := 0.
				for at < 200 && p.Kneaded(append(slices.Clone(minutes[:last]), at)) < need {
					at += .01
				}
				took = right(s.Key, at, s.PlanMin, 1)
			}
		case s.Station == request.AtRest && s.Kind == bench.Wait && s.PlanMin > 5:
			if x, t0, rest := p.Relaxes(); x > 0 && rest > 0 {
				tension := t0 * math.Exp(-x*p.Rules().Learned.Rest.K()/w.rest*w.off(.1))
				say(bench.Event{Says: bench.Poked{Step: s.Key, S: math.Min(60, .75/tension)}}, took)
			}
		case s.Station == request.AtDry && s.Kind == bench.Wait:
			took = right(s.Key, w.dry*w.off(.2)*book.Dry.Moment(s.Key).Right.FromMin, s.PlanMin, 2)
		case s.Kind == bench.Pot && !s.Through:
			took = right(s.Key, w.cook*w.off(.12)*p.BookPotS(s.Part)/60, s.PlanMin, .25)
		case s.Kind == bench.Pass && s.SheetMM > 0:
			moved := 1.
			for j, x := range p.Roll.Machine.Stops {
				if x.Label == s.Stop {
					moved = x.TrueMM() / p.Request.Roll.Kind().Stops[j].TrueMM()
				}
			}
			if s.Piece == 1 && s.Pass == s.Passes {
				say(bench.Event{Says: bench.Measured{Step: s.Key, MM: s.SheetMM / moved * w.gap * w.off(.02)}}, took)
			}
		case s.Kind == bench.Divide:
			say(bench.Event{Says: bench.Weighed{Step: s.Key, G: sum / float64(p.Roll.Pieces)}}, took)
		case s.Kind == bench.Cut:
			for j := range byBook {
				if byBook[j].Key == s.Key {
					took = w.hands * w.off(.2) * byBook[j].PlanMin
				}
			}
		}
		now = now.Add(time.Duration(took * float64(time.Minute)))
		say(bench.Event{Says: bench.Done{Step: s.Key}}, 0)
		if s.Kind == bench.Cut && p.Cut.LengthMM > 100 {
			say(
				bench.Event{Says: bench.Shrunk{Step: s.Key, CutMM: 1000, MM: 1000 * (1 - (p.Rules().Learn.ShrinkShare +
					w.shrink + .01*(w.off(1)-1)*0))}},
				0,
			)
		}
	}
	if laid := p.Cut.LaidTrimG(); laid > 0 {
		say(bench.Event{Says: bench.Left{What: bench.Trimmings, G: laid * w.trim * w.off(.2)}}, 0)
	}
	short := p.Formula.Target.Hw - p.Rules().Learned.Hw.Points + w.water - p.Formula.Dough.Hw // points it lacks
	if w.rng != nil {
		short += .6 * w.rng.NormFloat64()
	}
	say(bench.Event{Says: bench.Felt{Word: int(math.Max(-2, math.Min(2, math.Round(-short/1.2))))}}, 0)
	say(bench.Event{Says: bench.Ended{How: bench.OutWeighed, G: math.Round(p.Cut.AllMadeG)}}, 1)
	return out
}

// lived goes through so many makings of a request in a kitchen, each planned with what those before it taught, two days
// apart; it returns the makings
// and what the log says after each.
func (w *world) lived(t *testing.T, r request.Request, makings int) (all []Entry, says []rules.Learned) {
	t.Helper()
	ru := rules.Default()
	r.MadeBy = "Ada"
	first := time.Date(2026, 6, 1, 9, 0, 0, 0, time.UTC)
	school := "long"
	for n := range makings {
		on := first.AddDate(0, 0, 2*n)
		now := ru
		if n > 0 {
			now.Learned = says[n-1]
		}
		p, err := plan.Make(now, r)
		if err != nil {
			t.Fatal(err)
		}
		school = string(p.Knead.School)
		events := w.made(t, p, on)
		run := bench.Run(p, on, events)
		all = append(all, Entry{Making: uint64(n + 1), Summary: run.Summary(events)})
		says = append(
			says,
			Read(
				ru.Learn,
				all,
				nil,
			).For(&r, func() string { return school }, Whose{Maker: "Ada", On: on.AddDate(0, 0, 2)}),
		)
	}
	return all, says
}

// Requests whose makings say something of each cause: a ribbon of semola by the cutter, another of strong flour, one by
// the knife, one in a mixer, and
// ravioli.
func ribbonOf(flour string) request.Request {
	r := request.Default()
	r.Roll.Machine, r.Amount.By, r.Amount.Portions = "hand-crank-10", request.ByPortions, 8
	r.Flours = slices.Clone(r.Flours)
	r.Flours[0].Flour = flour
	r.Dry.Sheet.By = request.DryWorked // it says something of drying
	return r
}

func byHook(r request.Request) request.Request {
	r.Knead.School = "hook"
	most := 3000.
	r.Bench.HookG = &most
	return r
}

func byKnife(r request.Request) request.Request {
	r.Cut.Tool = "knife"
	return r
}

func shaped(r request.Request, shape string) request.Request {
	r.Cut.Shape = shape
	return r
}

// closed is one number the log learns, and the kitchen that is true of.
type closed struct {
	cause string
	r     request.Request
	set   func(w *world, truth float64)
	is    func(all []Entry, l *rules.Learned) float64
}

func closedLoops() []closed {
	by := func(of func(l *rules.Learned) rules.LearnedBy) func([]Entry, *rules.Learned) float64 {
		return func(_ []Entry, l *rules.Learned) float64 { k := of(l); return k.K() }
	}
	kneads := by(func(l *rules.Learned) rules.LearnedBy { return l.Knead })
	hands := by(func(l *rules.Learned) rules.LearnedBy { return l.Hands })
	semola := ribbonOf("semola-fine")
	return []closed{
		{"knead", semola, func(w *world, v float64) { w.knead = v }, kneads},
		{"knead, hook", byHook(semola), func(w *world, v float64) { w.knead = v }, kneads},
		{
			"rest",
			ribbonOf("strong"),
			func(w *world, v float64) { w.rest = v },
			by(func(l *rules.Learned) rules.LearnedBy { return l.Rest }),
		},
		{
			"dry",
			semola,
			func(w *world, v float64) { w.dry = v },
			by(func(l *rules.Learned) rules.LearnedBy { return l.Dry }),
		},
		{
			"cook",
			semola,
			func(w *world, v float64) { w.cook = v },
			by(func(l *rules.Learned) rules.LearnedBy { return l.Cook }),
		},
		{"hands", semola, func(w *world, v float64) { w.hands = v }, hands},
		{"hands, knife", byKnife(semola), func(w *world, v float64) { w.hands = v }, hands},
		{"hands, ravioli", shaped(ribbonOf("soft-00"), "ravioli"), func(w *world, v float64) { w.hands = v }, hands},
		{
			"loss",
			semola,
			func(w *world, v float64) { w.loss = v },
			by(func(l *rules.Learned) rules.LearnedBy { return l.Loss }),
		},
		{
			"trimmings",
			semola,
			func(w *world, v float64) { w.trim = v },
			by(func(l *rules.Learned) rules.LearnedBy { return l.Trim }),
		},
		{"gap", semola, func(w *world, v float64) { w.gap = v }, func(all []Entry, l *rules.Learned) float64 {
			sheets := all[len(all)-1].Evidence.Sheets
			return l.Gap(sheets[len(sheets)-1].Stop)
		}},
	}
}

// truths are what a kitchen may be times the book: all of them in a long run, else two of three for the i-th cause, the
// next two for the next.
func truths(i int) []float64 {
	if os.Getenv("HOLLEN_LONG") != "" {
		return []float64{.7, .85, 1, 1.15, 1.3, 1.5}
	}
	return [][]float64{{.7, 1.5}, {1, 1.5}, {.7, 1}}[i%3]
}

// In a closed loop of 25 makings without chance every exact look ends within 3 % of the truth, or of the stated clamp,
// and stays there.
func TestClosedLoop(t *testing.T) {
	for i, c := range closedLoops() {
		line := ""
		for _, truth := range truths(i) {
			w, want := asBook(), truth
			if c.set(&w, truth); c.cause == "gap" {
				want = math.Max(ru.Gap.Low, math.Min(ru.Gap.High, truth))
			}
			all, says := w.lived(t, c.r, 25)
			was, is := c.is(all[:14], &says[13]), c.is(all, &says[24])
			line += fmt.Sprintf(" %.3g→%.3f", truth, is)
			if math.Abs(is/want-1) > .03 || math.Abs(is/was-1) > .02 {
				t.Errorf("%s: truth %.2f, after 14 makings %.3f, after 25 %.3f", c.cause, truth, was, is)
			}
		}
		t.Logf("%s:%s", c.cause, line)
	}
	for _, truth := range []float64{-2, 0, 2} { // in words: half a word is .6 points
		w := asBook()
		w.water = truth
		_, says := w.lived(t, ribbonOf("soft-00"), 25)
		if is := says[24].Hw.Points; math.Abs(is-truth) > .6 || math.Abs(is-says[13].Hw.Points) > .3 {
			t.Errorf("water: truth %.1f points, after 14 makings %.2f, after 25 %.2f", truth, says[13].Hw.Points, is)
		}
	}
	for _, truth := range []float64{-.02, 0, .02} {
		w := asBook()
		w.shrink = truth
		_, says := w.lived(t, ribbonOf("soft-00"), 25)
		if is, want := says[24].Shrink.Share, ru.ShrinkShare+truth; math.Abs(is/want-1) > .03 {
			t.Errorf("ribbons pull in %.3f, learned %.4f", want, is)
		}
	}
}

// Where somebody only looks every so often the factor ends within half of what lies between two looks.
func TestClosedLoopInWords(t *testing.T) {
	for i, c := range closedLoops() {
		within := map[string]float64{"knead": .06, "knead, hook": .09, "dry": .12, "cook": .09}[c.cause]
		if within == 0 {
			continue
		}
		for _, truth := range truths(i) {
			w := asBook()
			c.set(&w, truth)
			w.look = "words"
			all, says := w.lived(t, c.r, 25)
			if is := c.is(all, &says[24]); math.Abs(is/truth-1) > within {
				t.Errorf("%s: truth %.2f, after 25 makings %.3f", c.cause, truth, is)
			}
		}
	}
}

// What a school’s least minutes, or the least rest, hide is not learned: who looks at the end alone is left between
// the truth and the book, and one
// whose dough is as the book says is left alone.
func TestClosedLoopOnAFloor(t *testing.T) {
	for cause, set := range map[string]func(w *world, v float64){"knead": func(w *world, v float64) { w.knead = v },
		"rest": func(w *world, v float64) { w.rest = v }} {
		for _, truth := range []float64{.7, 1} {
			w := asBook()
			set(&w, truth)
			w.look = "end"
			r := ribbonOf("semola-fine") // rests 30 min at least
			if cause == "knead" {
				r = ribbonOf("soft-00") // is kneaded 8 min at least
			}
			all, says := w.lived(t, r, 25)
			hidden := false
			for _, x := range Read(ru, all, nil).Says(all[24].Began) {
				hidden = hidden || x.What == cause && x.Unseen > 0 && x.BelowMin == map[string]float64{"knead": 8,
					"rest": 30}[cause]
			}
			if !hidden && (cause == "knead" || truth < 1) { // as the book has it a dough is not quite relaxed by then
				t.Errorf("%s: truth %.2f: nothing says below how many minutes nothing is seen", cause, truth)
			}
			is := map[string]float64{"knead": says[24].Knead.K(), "rest": says[24].Rest.K()}[cause]
			if is < truth*.97 || is > 1.03 {
				t.Errorf("%s: truth %.2f, learned %.3f", cause, truth, is)
			}
		}
	}
}

// Hands learned on one shape move another by the kitchen and the maker alone, and no further with more makings; what is
// learned of one family, flour,
// place or machine moves no other.
func TestNothingLeaks(t *testing.T) {
	w := asBook()
	w.hands, w.cook, w.dry, w.rest, w.gap = 1.5, 1.3, 1.3, 1.2, 1.1
	all, _ := w.lived(t, ribbonOf("semola-fine"), 25)
	on := all[24].Began.AddDate(0, 0, 2)
	other := shaped(ribbonOf("soft-00"), "ravioli")
	other.Roll.Machine, other.Dry.On = "motor-9", request.OnBoard
	for n := range all {
		l := Read(ru, all[:n+1], nil).For(&other, long, Whose{Maker: "Ada", On: on})
		if k := l.Hands.K(); k > 1.36 || n == 24 && k < 1.28 {
			t.Errorf("after %d makings of tagliatelle in a kitchen of 1.5 ravioli take %.3f", n+1, k)
		}
		for name, learned := range map[string]int{"cook": l.Cook.N, "dry": l.Dry.N, "rest": l.Rest.N,
			"gaps": len(l.Gaps)} {
			if learned > 0 {
				t.Fatalf("%s of tagliatelle moves ravioli", name)
			}
		}
	}
}

// By chance, as kitchens and looks scatter, the truth lies inside the stated nine in ten in at least 85 of a hundred
// kitchens. HOLLEN_LONG=1 goes
// through 200 of each.
func TestClosedLoopByChance(t *testing.T) {
	kitchens, makings := 200, 10
	if os.Getenv("HOLLEN_LONG") == "" {
		t.Skip("200 kitchens of each cause take minutes: HOLLEN_LONG=1")
	}
	spread := map[string]float64{
		"knead":          .25,
		"knead, hook":    .25,
		"rest":           .25,
		"dry":            .3,
		"cook":           .15,
		"hands":          .3,
		"hands, knife":   .3,
		"hands, ravioli": .3,
		"loss":           .4,
		"trimmings":      .25,
	}
	inside := map[string]func(l *rules.Learned) rules.LearnedBy{
		"knead":     func(l *rules.Learned) rules.LearnedBy { return l.Knead },
		"rest":      func(l *rules.Learned) rules.LearnedBy { return l.Rest },
		"dry":       func(l *rules.Learned) rules.LearnedBy { return l.Dry },
		"cook":      func(l *rules.Learned) rules.LearnedBy { return l.Cook },
		"hands":     func(l *rules.Learned) rules.LearnedBy { return l.Hands },
		"loss":      func(l *rules.Learned) rules.LearnedBy { return l.Loss },
		"trimmings": func(l *rules.Learned) rules.LearnedBy { return l.Trim },
	}
	rng := rand.New(rand.NewPCG(27, 1))
	for _, c := range closedLoops() {
		of := inside[strings.Split(c.cause, ",")[0]]
		if of == nil {
			continue
		}
		in, off := 0, 0.
		for range kitchens {
			w := asBook()
			w.rng = rng
			truth := math.Exp(spread[c.cause] * rng.NormFloat64())
			c.set(&w, truth)
			_, says := w.lived(t, c.r, makings)
			k := of(&says[makings-1])
			if k.N == 0 && math.Abs(truth-1) < .5 || k.From <= truth && truth <= k.To {
				in++
			}
			off += math.Abs(math.Log(k.K()/truth)) / float64(kitchens)
		}
		t.Logf("%s: %d %% inside, %.3f off after %d makings", c.cause, 100*in/kitchens, off, makings)
		if in < kitchens*85/100 {
			t.Errorf("%s: the truth is inside the stated in %d of %d", c.cause, in, kitchens)
		}
	}
}
