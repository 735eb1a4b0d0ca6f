package plan_test

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strconv"
	"strings"
	"testing"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
)

// The maker's own way down that is the worked-out one, pass by pass, gives that plan byte for byte.
func TestOwnWayDownThatIsHollensIsHollens(t *testing.T) {
	rng := rand.New(rand.NewPCG(12, 3))
	n := 0
	for range 400 {
		r := anyRequest(rng)
		r.Roll.LastTwice = false
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			continue
		}
		own := p.Request
		own.Amount.By, own.Amount.FlourG = request.ByFlour, p.Formula.FlourG-p.Formula.Pick.FlourAddG
		pieces := float64(p.Roll.Pieces)
		own.Roll.Pieces = &pieces
		free, err := plan.Make(rules.Default(), own)
		if err != nil {
			continue // less flour than may be named
		}
		if own.Roll.By, own.Roll.Steps = request.WayOwn, free.OwnPasses(); len(own.Roll.Steps) == 0 {
			continue // ropes
		}
		got, err := plan.Make(rules.Default(), own)
		if err != nil {
			t.Fatal(err)
		}
		isTheSame(t, fmt.Sprintf("%+v %+v", own.Knead, own.Roll), free, got)
		n++
	}
	if n < 300 {
		t.Errorf("%d compared", n)
	}
}

// anyPasses are passes in any order and number, at those stops or under a pin.
func anyPasses(rng *rand.Rand, stops []roll.Stop) (out []request.RollStep) {
	for range 1 + rng.IntN(request.MaxPasses) {
		s := request.RollStep{Passes: float64(1 + rng.IntN(3)),
			Fold:  pick(rng, request.NoFold, request.NoFold, request.FoldHalf, request.FoldThree, request.FoldBook),
			First: pick(rng, roll.JustOn, roll.JustOn, roll.Wait, roll.TrimFirst, roll.TurnIt, roll.Belt, roll.LayOn)}
		if rng.IntN(20) == 0 {
			s.First = roll.Halve
		}
		if s.First == roll.Wait {
			s.RestMin = float64(rng.IntN(30))
		}
		if s.Stop = strconv.FormatFloat(math.Round(100*(.4+10*rng.Float64()))/100, 'f', -1, 64); len(stops) > 0 {
			s.Stop = stops[rng.IntN(len(stops))].Label
		}
		out = append(out, s)
	}
	return out
}

// Two thousand ways down in any order are followed to the letter: every pass at its stop, folded and
// halved as it is said, and no sheet gets thicker but by a fold.
func TestOwnWayDownIsTakenLiterally(t *testing.T) {
	rng := rand.New(rand.NewPCG(12, 4))
	for i := range 2000 {
		r := request.Default()
		r.Amount.Portions = float64(1 + rng.IntN(12))
		r.Roll.Machine = pick(rng, "hand-crank-10", "mixer-8", "motor-9", "sheeter-mm", "pin-board")
		stops := r.Roll.Kind().Stops
		r.Roll.By = request.WayOwn
		r.Roll.Steps = anyPasses(rng, stops)
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		at, sheets, rested := 0, 1, 0.
		for _, s := range r.Roll.Steps {
			for k := range int(s.Passes) {
				x := p.Roll.Passes[at]
				if k == 0 && s.First == roll.Halve {
					sheets *= 2
				}
				layers := map[request.OwnFold]int{request.FoldHalf: 2, request.FoldThree: 3,
					request.FoldBook: 4}[s.Fold]
				if len(stops) > 0 && x.Label != s.Stop || x.Fold != layers || x.Sheets != sheets || k == 0 &&
					x.First != s.First {
					t.Fatalf("%d: pass %d is %+v, said %+v", i, at+1, x, s)
				}
				if len(stops) == 0 && strconv.FormatFloat(x.OutMM, 'f', -1, 64) != s.Stop {
					t.Fatalf("%d: rolled to %v, said %s", i, x.OutMM, s.Stop)
				}
				if len(stops) > 0 && x.OutMM > max(1, float64(layers))*x.InMM+1e-9 {
					t.Fatalf("%d: pass %d makes %.3f of %.3f", i, at+1, x.OutMM, x.InMM)
				}
				at++
			}
			rested += s.RestMin
		}
		if at != len(p.Roll.Passes) {
			t.Fatalf("%d: %d passes planned, %d said", i, len(p.Roll.Passes), at)
		}
		takes := rested
		for _, x := range p.Roll.Passes {
			takes += x.TimeS / 60
		}
		if math.Abs(takes-p.Roll.TimeMin) > 1e-6*takes {
			t.Fatalf("%d: %.2f min planned, %.2f by the passes and rests", i, p.Roll.TimeMin, takes)
		}
	}
}

// Ways as they are done, and what is said of each.
func TestOwnWaysDownReadAsTheyAreDone(t *testing.T) {
	at := func(stop string, passes float64, fold request.OwnFold) request.RollStep {
		return request.RollStep{Stop: stop, Passes: passes, Fold: fold}
	}
	flat := func(passes float64, stops ...string) (out []request.RollStep) {
		for _, s := range stops {
			out = append(out, at(s, passes, ""))
		}
		return out
	}
	then := func(a request.RollStep, more []request.RollStep) []request.RollStep {
		return append([]request.RollStep{a}, more...)
	}
	for _, c := range []struct {
		name, machine string
		steps         []request.RollStep
		passes        int
		key           string
		codes         string // of the notes on it, in order
		says          string
	}{
		{"two stops left out each time, several passes at those used", "hand-crank-10", flat(3, "0", "3", "6"), 9,
			"0 3 6", "own_bold own_sheet", "bold"},
		{"one pass from the widest to 4", "hand-crank-10", flat(1, "0", "4"), 2, "0 4", "own_tears own_sheet",
			"It may tear."},
		{"every second stop of eight, once", "mixer-8", flat(1, "1", "3", "5"), 3, "1 3 5", "own_sheet", ""},
		{"twice at every stop, not to the finest", "hand-crank-10", flat(2, "0", "1", "2", "3", "4", "5", "6", "7"), 16,
			"0 to 7", "", ""},
		{"folds at the first and the second stop", "hand-crank-10", append([]request.RollStep{at("0", 1, ""), at("0", 2,
			"half"), at("1", 1, ""), at("1", 1, "half")},
			flat(3, "2", "3", "4", "5", "6", "7", "8")...), 26, "0 to 8", "own_long own_sheet", ""},
		{"refolded in three on the way, halved", "hand-crank-10", []request.RollStep{at("0", 2, ""), at("2", 2, ""),
			at("4", 2, ""), at("0", 1, "thirds"),
			at("2", 2, ""), at("4", 2, ""), {Stop: "6", Passes: 2, First: roll.Halve}, at("7", 2, "")}, 15, "0 to 7",
			"", "Halve first"},
		{"a belt, twice through at every stop", "hand-crank-10", then(request.RollStep{Stop: "1", Passes: 2,
			First: roll.Belt},
			flat(2, "2", "3", "4", "5", "6", "7")), 14,
			"1 2 3 4 5 6 7", "", "Join its ends to a belt first, and cut it open when it is long enough"},
		{"back to a wider stop", "hand-crank-10", flat(1, "0", "2", "4", "1", "6", "7", "8"), 7, "0 2 4 1 6 7 8",
			"untouched own_long", "goes through as it is"},
	} {
		r := request.Default()
		r.Roll.Machine, r.Roll.By, r.Roll.Steps = c.machine, request.WayOwn, c.steps
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Errorf("%s: %v", c.name, err)
			continue
		}
		var codes []string
		for _, n := range p.Notes {
			if strings.HasPrefix(n.Code, "own_") || n.Code == "untouched" {
				codes = append(codes, n.Code)
			}
		}
		if got := strings.Join(codes, " "); len(p.Roll.Passes) != c.passes || plan.StopWords(p.Roll.Passes) != c.key ||
			got != c.codes {
			t.Errorf("%s: %d passes, %s, notes %q: %+v", c.name, len(p.Roll.Passes), plan.StopWords(p.Roll.Passes), got,
				p.Notes)
		}
		all := sameBut(t, p)
		for _, x := range p.Passes(1) {
			all += x.Text
		}
		for _, x := range p.Roll.Passes {
			all += p.Word(x)
		}
		if !strings.Contains(all, c.says) || !p.Roll.Own || !strings.Contains(p.Why["roll.mode"], "Your own way") {
			t.Errorf("%s: own %v; nothing says %q; %s", c.name, p.Roll.Own, c.says, p.Why["roll.mode"])
		}
	}
}

// Under a pin: folded like a letter three times, pauses, halved; and what a pin will not roll to.
func TestOwnWayUnderAPin(t *testing.T) {
	r := request.Default()
	r.Amount.By, r.Amount.FlourG = request.ByFlour, 200
	r.Roll.Machine, r.Roll.By = "pin-board", request.WayOwn
	r.Roll.Steps = []request.RollStep{{Stop: "10", Passes: 1}, {Stop: "8", Passes: 3, Fold: request.FoldThree},
		{Stop: "3", Passes: 1, First: roll.Wait, RestMin: 5},
		{Stop: "1.2", Passes: 1, First: roll.Halve}, {Stop: "0,8", Passes: 1}}
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	if len(p.Roll.Passes) != 7 || p.Roll.Layers != 27 || p.Roll.SheetMM != .8 || p.Roll.Sheets != 2 ||
		p.Roll.Passes[1].PacketMM != 30 {
		t.Errorf("%+v", p.Roll.Progression)
	}
	for stop, ok := range map[string]bool{"0.3": true, "40": true, "0.2": false, "41": false, "thin": false,
		"": false} {
		r.Roll.Steps[2].Stop = stop
		_, err := plan.Make(rules.Default(), r)
		if (err == nil) != ok {
			t.Errorf("to %q: %v", stop, err)
		}
	}
	r.Roll.Machine = "hand-crank-10"
	r.Roll.Steps = []request.RollStep{{Stop: "12", Passes: 1}}
	_, err = plan.Make(rules.Default(), r)
	if e := request.Errors(err); len(e) != 1 || e[0].Path != "roll.own_passes.0.stop" || !strings.Contains(e[0].Allowed,
		"0, 1, 2") {
		t.Errorf("a stop the machine has not: %v", err)
	}
}

// A rest on the way softens the dough: what follows springs back less.
func TestARestOnTheWayDown(t *testing.T) {
	r := request.Default()
	none := 0.
	r.Rest.Min = &none
	r.Roll.By = request.WayOwn
	r.Roll.Steps = []request.RollStep{{Stop: "0", Passes: 1}, {Stop: "4", Passes: 1}}
	straight, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	r.Roll.Steps = []request.RollStep{{Stop: "0", Passes: 1}, {Stop: "4", Passes: 1, First: roll.Wait, RestMin: 20}}
	rested, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	a, b := straight.Roll.Passes[1], rested.Roll.Passes[1]
	if b.OutMM >= a.OutMM || b.Easy <= a.Easy || rested.Roll.TimeMin < straight.Roll.TimeMin+19.9 {
		t.Errorf("%+v\n%+v, %.1f and %.1f min", a, b, straight.Roll.TimeMin, rested.Roll.TimeMin)
	}
}

// A pin comes first, then the rollers: the sheet is as thick as the pin leaves it, and a pin alone is a machine of
// its own.
func TestPinThenRollers(t *testing.T) {
	r := request.Default()
	r.Roll.By = request.WayOwn
	down := func(stops ...string) (out []request.RollStep) {
		for _, s := range stops {
			out = append(out, request.RollStep{Stop: s, Passes: 1})
		}
		return out
	}
	r.Roll.Steps = down("8 mm", "0", "3", "3", "1.1 mm", "7")
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	o := &p.Roll
	if len(o.Passes) != 6 || o.PressedMM != 8 || o.Passes[0].OutMM != 8 || o.Passes[1].InMM != 8 ||
		o.Passes[4].OutMM != 1.1 || o.TargetStop != "7" ||
		plan.StopWords(o.Passes) != "8 mm 0 3 1.1 mm 7" || p.Passes(1)[0].Head != "Under the pin" {
		t.Errorf("%s, pressed to %g: %+v", plan.StopWords(o.Passes), o.PressedMM, o.Passes)
	}
	if s := p.Summary(); len(s.Strip.StopsMM) != 5 || s.Strip.FirstMM != 8 {
		t.Errorf("%+v", s.Strip)
	}
	for _, x := range o.Passes { // of one dough all the way
		if g := x.OutMM * x.LengthMM * o.WidthMM * p.Formula.Dough.DensityGPerML / 1000; math.Abs(
			g/o.RolledG-1) > 1e-6 {
			t.Errorf("%s: %.2f g of %.2f", x.Label, g, o.RolledG)
		}
	}
	// Too thick for where it begins is said, and ends under the pin if that is said last.
	r.Roll.Steps = down("15 mm", "4", "0.9 mm")
	if p, err = plan.Make(rules.Default(), r); err != nil || p.Roll.SheetMM != .9 || p.Roll.TargetStop != "4" ||
		!slices.ContainsFunc(p.Notes, func(n plan.Note) bool { return n.Code == "pinned_thick" }) {
		t.Errorf("%+v, %v", p.Roll, err)
	}
	for _, steps := range [][]request.RollStep{down("8 mm"), down("80 mm", "0"), down("0.1 mm", "3")} {
		r.Roll.Steps = steps
		var fe request.FieldError
		if _, err := plan.Make(rules.Default(), r); !errors.As(err, &fe) || fe.Path != "roll.own_passes.0.stop" {
			t.Errorf("%+v: %v", steps, err)
		}
	}
}
