package web

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"html"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"

	"hollen/internal/core/bench"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/exchange"
)

// saidWay is a way of making pasta as somebody would say it: what is typed, and what of it must stand as said.
type saidWay struct {
	name  string
	typed string   // "path=text", parted by " & "
	steps []string // "key: head: words" of the plan’s steps, in order; what a step’s text holds
	not   []string // words that stand nowhere in the steps
	warns string   // the codes of every warning there is, for they are true
}

// own begins an amount as it is made: so much flour, so many eggs.
func own(flour, eggs string) string {
	return "amount.by=own & g.flours.0.share=" + flour + " & eggs.fix_whole_eggs=" + eggs
}

func kneadWay(steps ...string) string {
	out := []string{"knead.by=own"}
	for i, s := range steps {
		parts := strings.Split(s, " ")
		out = append(out, fmt.Sprintf("knead.own_steps.%d.do=%s", i, parts[0]), fmt.Sprintf("knead.own_steps.%d.min=%s",
			i, parts[1]))
		if len(parts) > 2 {
			out = append(out, fmt.Sprintf("knead.own_steps.%d.add=%s", i, strings.Join(parts[2:], " ")))
		}
	}
	return strings.Join(out, " & ")
}

func rollWay(steps ...string) string {
	out := []string{"roll.by=own"}
	for i, s := range steps {
		for j, part := range strings.Split(s, " ") {
			if name := []string{"stop", "passes", "fold", "first", "rest_min"}[j]; part != "-" {
				out = append(out, fmt.Sprintf("roll.own_passes.%d.%s=%s", i, name, part))
			}
		}
	}
	return strings.Join(out, " & ")
}

// saidWays are made-up ways of many kitchens.
var saidWays = []saidWay{
	{name: "three eggs to 300 g, cut as it comes", typed: own("300 g", "3"),
		steps: []string{"mix.1: Mix: 300 g", "cut.1: Cut:"}, not: []string{"leather", "Dry the"}},
	{name: "two cups and three eggs", typed: own("2 cups", "3"),
		steps: []string{"mix.1: Mix: 2 cups"}},
	{name: "cups, a spoon of oil, a pinch of salt", typed: own("3 cups", "4") +
		" & g.oil_share=1 tbsp & g.salt_share=a pinch", steps: []string{"mix.1: Mix: 3 cups"}},
	{name: "a generous cup of water to semola", typed: "amount.by=own & flours.0.flour=semola-fine & " +
		"g.flours.0.share=400 g & eggs.style=none & eggs.liquid_g=3/4 cup", not: []string{"eggs"}},
	{name: "fourteen yolks to 350 g", typed: "amount.by=own & g.flours.0.share=350 & eggs.style=yolk & " +
		"eggs.fix_whole_eggs=0 & eggs.fix_extra_yolks=14"},
	{name: "no egg at all, under a pin", typed: "amount.by=own & flours.0.flour=semola-fine & g.flours.0.share=500 & " +
		"eggs.style=none & eggs.liquid_g=240 & roll.machine=pin-board"},
	{name: "water a little at a time until it comes together", typed: "amount.by=own & flours.0.flour=semola-fine & " +
		"g.flours.0.share=400 & eggs.style=none & eggs.liquid_g=260 & eggs.liquid_open=yes",
		steps: []string{"mix.1: Mix: Let it take water a little at a time until it comes together"}},
	{name: "flour until it takes no more", typed: own("600", "5") + " & amount.flour_open=yes",
		steps: []string{"mix.1: Mix: Let it take flour until it takes no more"}},
	{name: "sheet dried a quarter of an hour before the cut", typed: own("400", "4") +
		" & dry.sheet.by=said & dry.sheet.min=15",
		steps: []string{"dry.1: Dry the sheet: 15 min, as you say, on a rack"}},
	{name: "sheet on a board until it cuts cleanly", typed: own("400", "4") +
		" & dry.sheet.by=worked_out & dry.on=board",
		steps: []string{"dry.1: To leather: Right from"}},
	{name: "ribbons on a floured board for ten to thirty minutes", typed: own("400", "4") +
		" & dry.pieces.by=said & dry.pieces.min=10 & dry.pieces.to_min=30",
		steps: []string{"cut.1: Cut:", "pieces.1: Dry the ribbons: 10 to 30 min, as you say, on a floured board"},
		not:   []string{"leather"}},
	{name: "in nests, moving air, until they are firm", typed: own("400", "4") +
		" & dry.pieces.by=worked_out & dry.pieces.on=nest & dry.pieces.air=fan",
		steps: []string{"pieces.1: Dry the nests: In nests on a tray, in moving air"}},
	{name: "hung overnight", typed: own("400", "4") + " & dry.pieces.by=said & dry.pieces.min=10 h & " +
		"dry.pieces.on=rack",
		steps: []string{"pieces.1: Dry the ribbons: 10 h 00, as you say, on a rack"}},
	{name: "dried before packing, into the fridge", typed: own("400", "4") +
		" & keep.where=fridge & dry.packing.by=said & dry.packing.min=20",
		steps: []string{"cut.1: Cut:", "packing.1: Dry before packing: 20 min", "keep.1: Keep:"}},
	{name: "45 seconds in the pot", typed: own("400", "4") + " & cook.min=45 s",
		steps: []string{"cook.1: Cook: 45 s, by your own clock"}},
	{name: "two to three minutes, 12 g of salt to a litre, in 4 litres", typed: own("400", "4") +
		" & cook.min=2 & cook.to_min=3 & cook.salt_share=1.2 & cook.water_l=4",
		steps: []string{"water.1: Water on: 4.0 L into the pot",
			"cook.1: Cook: 2 min 00 to 3 min 00, by your own clock"}},
	{name: "quadretti in broth", typed: own("200", "2") + " & cut.shape=quadretti & cook.in=broth",
		steps: []string{"water.1: Broth on: of broth", "cook.1: Cook: It is served in the broth"}},
	{name: "maltagliati in the soup, scraps and all", typed: own("200", "2") +
		" & cut.shape=maltagliati & cook.in=soup",
		steps: []string{"water.1: Soup on: The soup hot", "cook.1: Cook: It drinks of the soup"}},
	{name: "two shapes of one dough, each its own", typed: own("500", "5") +
		" & dry.pieces.by=said & dry.pieces.min=20 & " +
		"cook.min=2 & cut.also.0.shape=quadretti & cut.also.0.portions=2 & cut.also.0.width_mm=50 & " +
		"cut.also.0.dry_min=0 & cut.also.0.cook_min=1",
		steps: []string{"pieces.1: Dry the tagliatelle: 20 min", "cook.1: Cook: tagliatelle: 2 min 00",
			"cook.2: Cook: quadretti: 1 min 00"}},
	{name: "a pot of three shapes", typed: "cut.also.0.shape=pappardelle & cut.also.0.portions=3 & " +
		"cut.also.1.shape=maltagliati & cut.also.1.portions=2",
		steps: []string{"cook.1: Cook: pappardelle:", "cook.2: Cook: maltagliati:", "cook.3: Cook: tagliatelle:"}},
	{name: "stops 1, 3 and 5, once each", typed: own("400", "4") + " & roll.machine=mixer-8 & " + rollWay("1 1", "3 1",
		"5 1"),
		steps: []string{"roll.1: Roll: stops 1 3 5"}},
	{name: "a typed stop with no passes is one pass", typed: own("400", "4") + " & roll.machine=mixer-8 & " +
		rollWay("1", "3", "5", "6"), steps: []string{"roll.1: Roll: 4 passes"}},
	{name: "a rest before a pass", typed: own("400", "4") + " & " + rollWay("0 2 thirds", "2 1", "4 1 - rest 10", "6 1",
		"7 1"),
		steps: []string{"roll.1: Roll:"}},
	{name: "a belt", typed: own("400", "4") + " & " + rollWay("0 1", "1 2 - belt", "2 2", "4 2", "6 2", "7 1")},
	{name: "pinned to 8 mm, then rollers", typed: own("400", "4") + " & " + rollWay("8_mm 1", "2 1", "4 1", "6 1",
		"7 1")},
	{name: "a mixer twice, an egg between, if it is dry", typed: own("500", "5") + " & bench.hook_g=1500 & " +
		kneadWay("mix_mixer 2", "mix_mixer 3 an egg, if it is dry", "hook 6", "rest 30"),
		steps: []string{"mix.1: Mix:", "mix.2: Mix on: Add an egg, if it is dry", "knead.1: Hook", "rest.1: Rest"}},
	{name: "shared out, by one person", typed: own("500", "5") + " & " + kneadWay("mix 5", "hand 8", "rest 30") +
		" & knead.own_steps.1.hands=shared", steps: []string{"knead.1: Knead by hand:", "rest.1: Rest"}},
	{name: "kneaded short, folded long", typed: own("400", "4") + " & " + kneadWay("mix 5", "hand 3", "rest 20") +
		" & " +
		rollWay("0 6 thirds", "1 1", "2 1", "3 1", "4 1", "5 1", "6 1", "7 1")},
	{name: "kneaded four fifths, left overnight", typed: own("400", "4") + " & " + kneadWay("mix 5", "hand 6",
		"fridge 720",
		"temper 30")},
	{name: "spinach, by the spoon", typed: own("400", "3") + " & additions.0.addition=spinach & " +
		"g.additions.0.share=4 tbsp"},
	{name: "ravioli with raw meat, ten minutes", typed: own("400", "4") +
		" & cut.shape=ravioli & cut.filling.name=pork & " +
		"cut.filling.kind=raw_meat & cut.filling.allergens=none & cook.min=10",
		steps: []string{"cook.1: Cook: 10 min 00, by your own clock"}},
	{name: "ravioli, the sheet dried first all the same", typed: own("400", "4") +
		" & cut.shape=ravioli & cut.filling.name=ricotta & cut.filling.allergens=milk & dry.sheet.by=said & " +
		"dry.sheet.min=5",
		steps: []string{"dry.1: Dry the sheet: 5 min"}},
	{name: "cavatelli, dried in the air for two hours", typed: "amount.by=own & flours.0.flour=semola-fine & " +
		"g.flours.0.share=400 & eggs.style=none & eggs.liquid_g=190 & cut.shape=cavatelli & dry.pieces.by=said & " +
		"dry.pieces.min=120", steps: []string{"pieces.1: Dry the pieces: 2 h 00, as you say"}},
	{name: "trimmings cooked with the rest", typed: own("400", "4") + " & cut.trimmings=cooked",
		steps: []string{"cook.1: Cook: maltagliati, from the trimmings:"}},
	// What is true is warned of all the same.
	{name: "two cups and eight eggs", typed: own("2 cups", "8"), warns: "no_sheet"},
	{name: "ravioli with raw meat, one minute", typed: own("400", "4") +
		" & cut.shape=ravioli & cut.filling.name=pork & " +
		"cut.filling.kind=raw_meat & cut.filling.allergens=none & cook.min=1",
		steps: []string{"cook.1: Cook: 1 min 00, by your own clock"}, warns: "own_raw"},
	{name: "from the widest to the finest at once", typed: own("400", "4") + " & " + rollWay("0 1", "8 1"),
		warns: "own_tears"},
	{name: "until it cuts cleanly, in fog", typed: own("400", "4") + " & room.rh=96 & dry.sheet.by=worked_out",
		not: []string{"leather"}, warns: "will_not_dry"},
}

// What a maker says is followed to the letter, typed into the form or written in a document, from the bowl to the pot:
// on the batch, on the sheet and at the bench. Every warning there is is listed here, for it is true.
func TestWaysToTheLetter(t *testing.T) {
	if len(saidWays) < 30 {
		t.Fatalf("%d ways", len(saidWays))
	}
	s := newSite(t)
	warnings := map[string]int{}
	for _, w := range saidWays {
		at, b := s.planned(func(r *request.Request) { r.Name = w.name })
		v := s.typed(b.ID)
		v.Set("was_amount", string(b.Request.Amount.By))
		if strings.Contains(w.typed, "amount.by=own") { // as one does: first the choice, then what is typed
			v.Set("amount.by", "own")
			s.wants(s.ask("POST", at+"/save", v), 303)
			v = s.typed(b.ID)
			v.Set("was_amount", "own")
		}
		s.type_(v, w.typed)
		if got := s.ask("POST", at+"/save", v); got.Code != 303 {
			errs := regexp.MustCompile(`role="alert">([^<]+)<`).FindAllStringSubmatch(got.Body.String(), -1)
			t.Errorf("%s: %d, %v", w.name, got.Code, errs)
			continue
		}
		kept, err := s.store.Get(context.Background(), b.ID)
		if err != nil {
			t.Fatal(err)
		}
		r := kept.Request.Request
		p := mustPlan(t, r)
		// The document says the same.
		doc, err := json.Marshal(r)
		if err != nil {
			t.Fatal(err)
		}
		read, err := exchange.ReadRequest(rules.Default(), bytes.NewReader(doc))
		if err != nil || len(request.Changes(r, read)) > 0 {
			t.Errorf("%s: read from its document: %v, %v", w.name, err, request.Changes(r, read))
			continue
		}
		if again := mustPlan(t, read); !slices.EqualFunc(p.Steps, again.Steps, func(a, b plan.Step) bool {
			return a.Text == b.Text && a.Min == b.Min
		}) {
			t.Errorf("%s: its document is planned otherwise", w.name)
		}
		s.asSaid(w, at, p)
		var codes []string
		for _, n := range p.Notes {
			if n.Level == plan.Warning {
				codes = append(codes, n.Code)
				warnings[n.Code]++
			}
		}
		slices.Sort(codes)
		if got := strings.Join(codes, " "); got != w.warns {
			t.Errorf("%s: warned of %q, want %q: %+v", w.name, got, w.warns, p.Notes)
		}
	}
	t.Logf("%d ways, warnings: %v", len(saidWays), warnings)
}

// type_ puts what is typed into a form.
func (s site) type_(v url.Values, typed string) {
	s.Helper()
	for _, x := range strings.Split(typed, " & ") {
		path, text, ok := strings.Cut(x, "=")
		if !ok {
			s.Fatalf("%q", x)
		}
		v.Set(path, strings.ReplaceAll(text, "_mm", " mm"))
	}
}

// asSaid holds the steps of a plan, its sheet and its bench against what was said.
func (s site) asSaid(w saidWay, at string, p *plan.Plan) {
	s.Helper()
	all, next := "", 0
	sheet := words(html.UnescapeString(s.ask("GET", at+"/sheet", nil).Body.String()))
	steps := bench.Steps(p)
	for _, x := range p.Steps {
		all += x.Head + ". " + x.Text + "\n"
		if next == len(w.steps) {
			continue
		}
		want := strings.SplitN(w.steps[next], ": ", 3)
		if x.Key != want[0] {
			continue
		}
		said := x.Head + ": " + x.Text
		for _, part := range want[1:] {
			part = strings.TrimSuffix(part, ":")
			if !strings.Contains(strings.ToLower(said), strings.ToLower(part)) {
				s.Errorf("%s: %s says %q, not %q", w.name, x.Key, said, part)
			}
		}
		next++
		if x.Brief != "" && !strings.Contains(strings.ToLower(sheet), strings.ToLower(words(x.Head))) {
			s.Errorf("%s: the sheet has no %q: %s", w.name, x.Head, sheet)
		}
		onBench := slices.IndexFunc(steps, func(b bench.Step) bool { return b.Of == x.Key || b.Key == x.Key })
		if kept := p.Keep.Where != "" && x.Station == request.AtCook; onBench < 0 && !kept {
			s.Errorf("%s: the bench has no %s", w.name, x.Key)
		} else if x.Station == request.AtDry && x.Min > 0 && steps[onBench].Min != x.Min {
			s.Errorf("%s: at the bench %s takes %v min, not %v", w.name, x.Key, steps[onBench].Min, x.Min)
		}
	}
	if next < len(w.steps) {
		s.Errorf("%s: no step %q in\n%s", w.name, w.steps[next], all)
	}
	for _, not := range append(w.not, "%!") {
		if strings.Contains(all, not) {
			s.Errorf("%s: its steps say %q:\n%s", w.name, not, all)
		}
	}
	if r := &p.Request; len(p.Dry.Moments) == 0 && strings.Contains(all, "leather") || r.Dry.Sheet.By == "" &&
		strings.Contains(all, "To leather") {
		s.Errorf("%s: dried though nobody says so", w.name)
	}
}
