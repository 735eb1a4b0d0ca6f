package plan_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"hollen/internal/core/egg"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// sentence is one text of a plan and where it stands.
type sentence struct{ at, text string }

// said are all the sentences of a plan.
func said(p *plan.Plan) (out []sentence) {
	add := func(at, text string) {
		if text != "" {
			out = append(out, sentence{at, text})
		}
	}
	for k, w := range p.Why {
		add("why "+k, w)
	}
	for _, n := range p.Notes {
		add("note "+n.Code, n.Head)
		add("note "+n.Code, n.Text)
	}
	for _, s := range append(p.Steps, p.Passes(1)...) {
		add(s.Key, s.Text)
		add(s.Key, s.Sign)
		add(s.Key, s.Test)
		add(s.Key, s.Caution)
	}
	add("free", p.FreeWords())
	add("purpose", p.PurposeWords())
	return out
}

// wrong are what no sentence may hold.
var wrong = []struct{ what, pattern string }{
	{"a broken figure", `NaN|Inf\b|%!|\d[eE][+-]\d`},
	{"a figure finer than anything is known", `\d\.\d{3,}`},
	{"a figure finer than it is known, from a hundred on", `\b\d{3,}\.\d+ (?:mm|g|min)\b`},
	{"less than nothing",
		`[−-]\d[\d.,]* (?:g|mm|min|points|portions|ribbons)\b.{0,20}\b(?:less|more|left|over)\b` +
			`|(?:^|[^\d.])0(?:\.0)? points\b`},
	{"one of many",
		`(?:^|[^\d.,])1 (?:eggs|yolks|minutes|passes|pieces|portions|loads|sheets|ribbons|nests|turns|stages|layers|` +
			`lengths|cuts|rows|` +
			`days|people|pairs)\b`},
	{"many of one",
		`(?:^|[^\d.,])(?:[2-9]|\d{2,}) (?:egg|yolk|minute|pass|piece|portion|load|sheet|ribbon|nest|turn|` +
			`stage|layer|length|row|day)\b`},
	{"a double space, or stop", `  |\.\.|,,| \.| ,|;;|: :|\. \.`},
	{"the same word twice",
		`(?i)\b(eggs|the|of|to|and|a|is|in|it|flour|water|min|g|mm) ` +
			`(?:eggs|the|of|to|and|a|is|in|it|flour|water|min|g|mm)\b`},
	{"braces", `[{}]`},
}

var twice = regexp.MustCompile(`(?i)\b([a-z]+) ([a-z]+)\b`)

// The sentences of 300 plans say what the figures say: no broken, raw or needless figure, nothing less
// than nothing, the right number; the arithmetic named in words is right; and nothing is advised that
// is already so, or that belongs to rollers where there is a pin.
func TestSentencesAgreeWithFigures(t *testing.T) {
	patterns := wrongPatterns()
	rnd := rand.New(rand.NewPCG(300, 11))
	read := 0
	for plans := 0; plans < 300; {
		r := anyRequest(rnd)
		if rnd.IntN(4) == 0 {
			rest := float64(rnd.IntN(4)) * 20
			r.Rest.Min = &rest
		}
		if rnd.IntN(4) == 0 {
			pieces := float64(1 + rnd.IntN(12))
			r.Roll.Pieces = &pieces
		}
		if rnd.IntN(5) == 0 {
			eggs := float64(1 + rnd.IntN(9))
			r.Eggs.FixWhole = &eggs
		}
		if rnd.IntN(5) == 0 {
			r.Additions = []request.AdditionPart{{Addition: pick(rnd, "spinach", "ink", "cocoa", "saffron", "herbs",
				"beet-powder"), Share: .04}}
		}
		if rnd.IntN(6) == 0 {
			r.Keep.Where, r.Dry.Keep = pick(rnd, request.Default().Keep.Where, "fridge", "freezer"), rnd.IntN(3) == 0
		}
		if r.Check(rules.Default()) != nil {
			continue
		}
		p := made(t, r)
		plans++
		what := fmt.Sprintf("%d: %s %s %s %s %s", plans, r.Flours[0].Flour, r.Eggs.Style, r.Knead.School,
			r.Roll.Machine, r.Cut.Shape)
		read += reads(t, what, p, patterns)
		alreadySo(t, what, r, p)
		sums(t, what, p)
		onceEach(t, what, p)
		if t.Failed() && plans > 40 {
			break
		}
	}
	if read < 20000 {
		t.Errorf("only %d sentences were read", read)
	}
}

func wrongPatterns() []*regexp.Regexp {
	patterns := make([]*regexp.Regexp, len(wrong))
	for i, w := range wrong {
		patterns[i] = regexp.MustCompile(w.pattern)
	}
	return patterns
}

// reads reads every sentence of a plan, and returns how many there are.
func reads(t *testing.T, what string, p *plan.Plan, patterns []*regexp.Regexp) (read int) {
	t.Helper()
	for _, s := range said(p) {
		read++
		for i, re := range patterns {
			if m := re.FindString(s.text); m != "" && (wrong[i].what != "the same word twice" || same(m)) {
				t.Errorf("%s: %s holds %s, %q: %s", what, s.at, wrong[i].what, m, s.text)
			}
		}
		if strings.HasPrefix(s.at, "note") && !strings.HasSuffix(s.text, ".") && !strings.HasSuffix(s.text, "?") {
			t.Errorf("%s: %s does not end: %s", what, s.at, s.text)
		}
		if p.Pinned() && regexp.MustCompile(`\broller|\bstop \d|widest|folded pass`).MatchString(s.text) &&
			s.at != "why formula.band" {
			t.Errorf("%s: %s speaks of rollers under a pin: %s", what, s.at, s.text)
		}
	}
	return read
}

// What is said of ways of the maker's own reads as well: kneading in any steps, down in any passes.
func TestSentencesOfOwnWays(t *testing.T) {
	patterns, rnd, read := wrongPatterns(), rand.New(rand.NewPCG(300, 12)), 0
	for plans := 0; plans < 200; {
		r := anyRequest(rnd)
		if plans%3 != 0 {
			r.Knead.By, r.Knead.Steps = request.KneadOwn, anySteps(rnd)
			for i := range r.Knead.Steps {
				r.Knead.Steps[i].Min = math.Ceil(r.Knead.Steps[i].Min)
			}
		}
		if plans%4 == 0 { // amounts as they are said, not too far off
			whole, liquid := math.Round(r.Amount.FlourG/110), float64(rnd.IntN(20))
			r.Amount.By, r.Eggs.Style, r.Eggs.FixWhole, r.Eggs.LiquidG = request.ByOwn, egg.WholeEggs, &whole, &liquid
		}
		if plans%3 != 1 {
			r.Roll.By, r.Roll.Steps = request.WayOwn, anyPasses(rnd, r.Roll.Kind().Stops)
		}
		if r.Check(rules.Default()) != nil {
			continue
		}
		p := made(t, r)
		plans++
		what := fmt.Sprintf("%d: %+v %+v", plans, r.Knead.Steps, r.Roll.Steps)
		read += reads(t, what, p, patterns)
		for _, s := range p.Passes(1) {
			for i, re := range patterns {
				if m := re.FindString(s.Text); m != "" && (wrong[i].what != "the same word twice" || same(m)) {
					t.Errorf("%s: a pass holds %s, %q: %s", what, wrong[i].what, m, s.Text)
				}
			}
		}
		onceEach(t, what, p)
		if t.Failed() {
			break
		}
	}
	if read < 10000 {
		t.Errorf("only %d sentences were read", read)
	}
}

// same says whether a pair of words is one word twice.
func same(pair string) bool {
	m := twice.FindStringSubmatch(pair)
	return m != nil && strings.EqualFold(m[1], m[2])
}

// alreadySo holds the advice against what is chosen.
func alreadySo(t *testing.T, what string, r request.Request, p *plan.Plan) {
	t.Helper()
	for _, n := range p.Notes {
		for says, so := range map[string]bool{
			"Rest it in the fridge":        p.Rest.Cold,
			"eggs from the fridge":         r.Eggs.From == request.FromFridge || p.Formula.WholeG+p.Formula.YolkG == 0,
			"mm flat it takes":             r.Rest.Wrapped == request.PressedFlat,
			"pieces it takes":              r.Rest.Wrapped == request.InPieces,
			"if divided":                   r.Rest.Wrapped == request.InPieces,
			"in turns, with":               p.Knead.School == "turns",
			"let a fan blow":               r.Room.Air == "fan",
			"a dough with egg":             p.Formula.WholeG+p.Formula.YolkG == 0 && !r.Filled(),
			"side by side":                 p.Knead.LoadTurns == 1,
			"leave the salt out":           r.Salt == 0,
			"or freeze it":                 r.Keep.Where == "freezer" && !r.Dry.Keep,
			"leave no stop out":            r.Roll.Mode == "every",
			"Work in the flour held back.": true, // it is counted already
		} {
			if so && strings.Contains(n.Text, says) {
				t.Errorf("%s: %s advises what is so: %s", what, n.Code, n.Text)
			}
		}
	}
}

// number reads a figure of a sentence.
func number(s string) float64 {
	v, err := strconv.ParseFloat(strings.ReplaceAll(s, ",", ""), 64)
	if err != nil {
		return math.NaN()
	}
	return v
}

// groups returns the figures a pattern finds in a text, nil where it is not there.
func groups(pattern, text string) (out []float64) {
	m := regexp.MustCompile(pattern).FindStringSubmatch(text)
	for i := range m {
		if i > 0 {
			out = append(out, number(m[i]))
		}
	}
	return out
}

// sums does the arithmetic that is named in words.
func sums(t *testing.T, what string, p *plan.Plan) {
	t.Helper()
	f, off := &p.Formula, func(got, want, tol float64, text string) {
		t.Helper()
		if !(math.Abs(got-want) <= tol) {
			t.Errorf("%s: %.4g where it comes to %.4g: %s", what, got, want, text)
		}
	}
	// Now and held back are all; now and by the board are what is poured and kept.
	for _, a := range p.ToWeigh() {
		if g := groups(`^([\d,]+) g now \+ ([\d,]+) g held back$`, a.Much); g != nil {
			off(g[0]+g[1], groups(`^([\d,.]+) g in all$`, a.Note)[0], .6, a.Much+", "+a.Note)
			off(g[0]+g[1], p.Room.FlourG, .6, a.Much)
		}
		if g := groups(`^([\d,]+) g now \+ ([\d,]+) g by the board$`, a.Much); g != nil {
			off(g[0], p.Room.PourG, .51, a.Much)
			off(g[1], p.Room.KeepG, .51, a.Much)
		}
		if g := groups(`crack (\d+) eggs?, ([\d,.]+) g left`, a.Note); g != nil && a.What == "Egg, beaten" {
			off(number(strings.Fields(a.Much)[0])+g[1], g[0]*p.EggClass().EdibleG, 1.1, a.Much+", "+a.Note)
		}
	}
	for k, text := range p.Why {
		switch k {
		case "formula.flour":
			if g := groups(`^([\d.]+) portions? of ([\d,.]+) g raw comes? to ([\d,.]+) g`, text); g != nil {
				off(g[2], g[0]*g[1], 1, text)
			}
		case "formula.hw":
			if g := groups(`^([\d,.]+) g of water in the liquids, less ([\d,.]+) g the dry flour drinks, to ([\d,.]+) g of flour at 14 %: ([\d.]*\d)`,
				text); g != nil {
				off(g[3], 100*(g[0]-g[1])/g[2], .15+(60+.6*g[3])/g[2], text)
			}
			if g := groups(`: ([\d.]*\d)\. The fat feels like ([\d.]+) more`, text); g != nil {
				off(g[0]+g[1], f.Dough.Hw, .11, text)
			}
		case "formula.held_back":
			if g := groups(`: ([\d.]+) without it, ([\d.]*\d) with`, text); g != nil {
				off(g[1], f.Dough.Hw, .06, text)
				if g[0] <= g[1] {
					t.Errorf("%s: less flour makes it drier: %s", what, text)
				}
			}
		case "cut.nests":
			if g := groups(`^([\d,]+) ribbons? makes? a nest of ([\d,.]+) g: ([\d,]+) nests?, and (?:a short one of )?(\d+)`, text); g != nil {
				off(g[0]*g[2]+g[3], float64(p.Cut.Count), 0, text)
				off(g[1], g[0]*p.Cut.OneG, .6, text)
			}
		case "cut.ribbons":
			if g := groups(`^([\d,]+) across, ([\d,]+) lengths?, ([\d,]+) sheets?\.`, text); g != nil {
				off(g[0]*g[1]*g[2], float64(p.Cut.Count), 0, text)
			}
		case "cut.trim":
			if g := groups(`: (\d+) % of`, text); g != nil && p.Cut.Count > 0 {
				off(g[0], 100*p.Cut.TrimG/(p.Cut.TrimG+p.Cut.DoughG), .51, text)
			}
		case "room.worth":
			if g := groups(`([\d,]+) g of beaten egg, or ([\d,]+) g of milk`, text); g != nil && p.Room.KeepG > 3 {
				off(g[0]/g[1], 1.28/1.13, .25, text)
			}
		}
	}
	sumsOfNotes(t, what, p, off)
}

// sumsOfNotes is sums for the notes and the steps.
func sumsOfNotes(t *testing.T, what string, p *plan.Plan, off func(got, want, tol float64, text string)) {
	t.Helper()
	for _, n := range p.Notes {
		if g := groups(`^([\d,.]+) g in (\d+) loads of ([\d,.]+) g`, n.Text); g != nil {
			off(g[0], g[1]*g[2], g[1], n.Text)
		}
		if g := groups(`^([\d,.]+) g where ([\d,.]+) g fits: (\d+) loads of ([\d,.]+) g`, n.Text); g != nil {
			off(g[0], g[2]*g[3], g[2], n.Text)
			if g[3] > g[1]+.5 {
				t.Errorf("%s: a load is more than fits: %s", what, n.Text)
			}
		}
		if g := groups(`(\d+) % where (\d+) % is wanted`, n.Text); g != nil && g[0] == g[1] {
			t.Errorf("%s: as much as is wanted: %s", what, n.Text)
		}
		if g := groups(`(\d+) % off where (\d+) % is easy`, n.Text); g != nil && g[0] < g[1] {
			t.Errorf("%s: %s", what, n.Text)
		}
	}
	// The steps follow one another, and the minutes are those of the way.
	at := 0.
	for _, s := range p.Steps {
		if s.Key == plan.FillingStep {
			if s.FromMin+s.Min > 0 {
				t.Errorf("%s: the filling is not ready before flour meets water", what)
			}
			continue
		}
		if math.Abs(s.FromMin-at) > 1e-6 {
			t.Errorf("%s: %s begins at %.2f, the one before ends at %.2f", what, s.Key, s.FromMin, at)
		}
		at = s.FromMin + s.Min
		if s.Key == "roll.1" && math.Abs(s.FromMin-p.Knead.Way.ElapsedMin) > .01+math.Abs(
			5-p.Knead.Way.Steps[0].Min)*0 && p.Knead.LoadTurns == 1 {
			t.Errorf("%s: rolled after %.1f min, the way takes %.1f", what, s.FromMin, p.Knead.Way.ElapsedMin)
		}
	}
}

// onceEach holds that a matter has one note: no code twice at a station, no text twice.
func onceEach(t *testing.T, what string, p *plan.Plan) {
	t.Helper()
	codes, texts := map[string]bool{}, map[string]bool{}
	for _, n := range p.Notes {
		if key := string(n.Stage) + n.Code + n.Head; codes[key] {
			t.Errorf("%s: %s is said twice", what, n.Code)
		} else if codes[key] = true; texts[n.Text] && n.Text != "" {
			t.Errorf("%s: twice: %s", what, n.Text)
		}
		texts[n.Text] = true
	}
	feel := 0
	for _, n := range p.Notes {
		if n.Code == "firm" || n.Code == "soft" || n.Code == "no_sheet" {
			feel++
		}
	}
	if feel > 1 {
		t.Errorf("%s: %d notes on how wet it is", what, feel)
	}
	if p.Unrested() {
		for _, n := range p.Notes {
			if n.Level == plan.Warning && (n.Code == "tension" || n.Code == "uptake") {
				t.Errorf("%s: no rest was wished for, and %s scolds", what, n.Code)
			}
		}
	}
}
