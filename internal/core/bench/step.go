// Package bench answers: what does a maker do now, and what has been done? A making is one run through
// a batch: its steps come from the plan, its events from the hands, and its state is the one folded
// over the other. Nothing here knows a clock, a database or a page: the time is handed in.
package bench

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
)

// Kind is what a step asks of the hands.
type Kind string

// The kinds of step.
const (
	SetOut Kind = "set_out" // hands and tools washed, things put ready
	Weigh  Kind = "weigh"   // one line onto the scale
	Work   Kind = "work"    // something attended, with or without minutes
	Wait   Kind = "wait"    // dough lies by itself
	Divide Kind = "divide"  // one piece cut off and weighed
	Pass   Kind = "pass"    // one piece once through the rollers, or one stage under the pin
	Cut    Kind = "cut"     // a shape cut or formed
	Pot    Kind = "pot"     // one load in the pot
	Pack   Kind = "pack"    // covered, labelled, put away
)

// Step is what one screen of the bench shows.
type Step struct {
	Key        string        `json:"key"` // stable as long as the way is: knead.1, roll.3.pass.5
	Of         string        `json:"of"`  // the plan's step it belongs to, "" of none
	Station    request.Stage `json:"station"`
	Kind       Kind          `json:"kind"`
	Head       string        `json:"head"`
	Name       string        `json:"name,omitempty"` // of a pass: the stop, as it is called
	Say        string        `json:"say,omitempty"`
	On         string        `json:"on"`  // what the key to go on says
	Min        float64       `json:"min"` // on its clock, 0 of none
	LeastMin   float64       `json:"least_min"`
	MostMin    float64       `json:"most_min"`
	FromMin    float64       `json:"from_min"` // by the plan it begins, counted from mixing
	PlanMin    float64       `json:"plan_min"` // by the plan it takes
	Unattended bool          `json:"unattended"`
	Sign       []string      `json:"sign,omitempty"` // right when
	Caution    string        `json:"caution,omitempty"`
	WantG      float64       `json:"want_g,omitempty"` // onto the scale, or into a piece
	Counted    bool          `json:"counted,omitempty"`
	Much       string        `json:"much,omitempty"` // the same as it is said
	Piece      int           `json:"piece,omitempty"`
	Pieces     int           `json:"pieces,omitempty"`
	Pass       int           `json:"pass,omitempty"`
	Passes     int           `json:"passes,omitempty"`
	Stop       string        `json:"stop,omitempty"`
	SheetMM    float64       `json:"sheet_mm,omitempty"`
	LengthMM   float64       `json:"length_mm,omitempty"`
	Fold       bool          `json:"fold,omitempty"`    // fold before it
	Halve      bool          `json:"halve,omitempty"`   // the sheet before it
	First      string        `json:"first,omitempty"`   // what else is done to it before, in a word
	Density    float64       `json:"density,omitempty"` // of the dough, where a sheet may be weighed, g/mL
	Count      int           `json:"count,omitempty"`   // nests, pieces or handfuls to make
	CountName  string        `json:"count_name,omitempty"`
	Cold       bool          `json:"cold,omitempty"` // in the fridge
	Own        bool          `json:"own,omitempty"`  // put in by the maker
	// a load of it on the rack: as long as its pieces dry, else until leather
	RackMin float64 `json:"rack_min,omitempty"`
	Then    *Timer  `json:"then,omitempty"` // a clock that runs from its end
	Part    int     `json:"part,omitempty"` // of the pot: the shape, from 0
	// of the pot: raw inside, cooked through and not timed by taste
	Through bool `json:"through,omitempty"`
}

// Timer is a clock to start: its name and length.
type Timer struct {
	Name string  `json:"name"`
	Min  float64 `json:"min"`
}

// Tolerance is how near a reading counts as what is wanted, g: the larger of a gram and one per cent.
func Tolerance(r rules.Bench, wantG float64) float64 { return math.Max(r.Within, r.WithinShare*wantG) }

// Steps returns what is done at the bench for a plan, in order, each with a key that stays as long
// as the way does.
func Steps(p *plan.Plan) []Step {
	b := &builder{p: p, in: p.In(), ru: p.Rules().Bench}
	b.setOut()
	b.filling()
	b.weighing()
	for _, s := range p.Steps {
		switch kind, _, _ := strings.Cut(s.Key, "."); kind {
		case "filling": // it stands before the scale
		case "fold": // its passes come piece by piece
		case "roll":
			b.dividing(s)
			b.rolling(s)
		case "cut":
			b.cutting(s)
		case "water":
			if p.Keep.Where == "" {
				b.add(Step{Key: s.Key, Kind: Work, Then: &Timer{b.p.BoilsWords(), s.LeastMin}}, s)
			}
		case "keep":
			b.add(Step{Key: s.Key, Kind: Pack, Unattended: true}, s)
			b.kept = true
		case "cook":
			if !b.kept {
				b.potting(s)
			}
		default:
			if s.InPieces {
				b.dividing(s)
			}
			x := Step{Key: s.Key, Kind: Work, Min: s.Min, Cold: s.Cold, Say: strings.Replace(s.Text,
				"Divide it, press each", "Press each", 1)}
			if s.Unattended {
				x.Kind = Wait
			}
			b.add(x, s)
		}
	}
	goOn(b.out)
	return b.out
}

type builder struct {
	p    *plan.Plan
	in   measure.System
	ru   rules.Bench
	cuts int
	part func(key, head, say string, g float64, counted string) // a line of the load at hand
	// divided says that the pieces are cut off already: they rest one by one.
	divided bool
	out     []Step
	kept    bool
}

// add lists a step with what the plan says of it; what x says itself stands.
func (b *builder) add(x Step, s plan.Step) {
	x.Of = s.Key
	x.Station = s.Station
	x.Caution = cmp.Or(x.Caution, s.Caution)
	x.Head, x.Say = cmp.Or(x.Head, s.Head), cmp.Or(x.Say, s.Text)
	x.Much = cmp.Or(x.Much, s.Figure)
	if x.PlanMin == 0 && x.FromMin == 0 {
		x.FromMin, x.PlanMin = s.FromMin, s.Min
	}
	if x.LeastMin == 0 && x.Min > 0 {
		x.LeastMin, x.MostMin = s.LeastMin, s.MostMin
	}
	x.Unattended = x.Unattended || s.Unattended
	if x.Sign == nil {
		for _, sign := range []string{s.Sign, s.Test} {
			if sign != "" {
				x.Sign = append(x.Sign, sign)
			}
		}
	}
	b.out = append(b.out, x)
}

// setOut is what is put ready and washed.
func (b *builder) setOut() {
	x := Step{Key: "set_out", Kind: SetOut, Station: request.AtFormula, Head: "Set out and wash",
		Say: "Hands, board, scraper and bowls washed. Rings off, sleeves up."}
	jug := "jug for the eggs"
	if b.p.Formula.Pick.EggG == 0 {
		jug = "jug"
	}
	x.Sign = append(x.Sign, "Scale, bowl for the flour, "+jug+", cloth and film within reach.")
	if !b.p.Pinned() {
		x.Sign = append(x.Sign, roll.SetUp(b.p.Roll.Machine.Motor)[:2]...)
	}
	for i, s := range x.Sign {
		x.Sign[i] = strings.TrimSuffix(measure.Capital(s), ".") + "."
	}
	for _, n := range b.p.Notes {
		if n.Level == plan.Caution && n.Code == "raw_egg" {
			x.Caution = n.Head + " " + n.Text
		}
	}
	b.out = append(b.out, x)
}

// filling is the making of the filling, before the dough is weighed: it must be cold when the sheet is ready.
func (b *builder) filling() {
	for _, s := range b.p.Steps {
		if s.Key == plan.FillingStep {
			x := Step{Key: s.Key, Kind: Work}
			if b.p.FillingMade() == "" {
				b.fillingLines(s)
				x.Then = &Timer{"Filling is cold", float64(b.p.Rules().Day.FillingCoolMin)}
			}
			if s.Figure == "" && len(s.Amounts) > 0 {
				x.Much = s.Amounts[0].Much
			}
			b.add(x, s)
		}
	}
}

// fillingLines are what goes into the filling, each a line onto the scale.
func (b *builder) fillingLines(s plan.Step) {
	parts := b.p.FillingParts()
	for i, f := range parts {
		say := "For the filling, onto what is there."
		if i == 0 {
			say = "For the filling, into a bowl of its own."
		}
		if len(f.Allergens) > 0 {
			say += " Holds " + measure.List(f.Allergens) + "."
		}
		b.weigh(f.Key, f.Name, say, f.G, "")
		if at := len(b.out) - 1; at >= 0 && b.out[at].Key == "weigh."+f.Key {
			last := &b.out[at]
			last.Station, last.Of = s.Station, s.Key
			last.FromMin = s.FromMin
		}
	}
}

// scaled is a mass as a kitchen scale shows it, g: whole, to a tenth under ten.
func (b *builder) scaled(g float64) float64 {
	if g < b.ru.AloneG {
		return math.Round(10*g) / 10
	}
	return math.Round(g)
}

// weigh lists one line onto the scale; nothing of nothing.
func (b *builder) weigh(key, head, say string, g float64, counted string) {
	if g = b.scaled(g); g <= 0 {
		return
	}
	x := Step{Key: "weigh." + key, Kind: Weigh, Station: request.AtFormula, Head: head, Say: say, WantG: g,
		Much: b.in.Grams(g), Counted: counted != ""}
	if counted != "" {
		x.Much = counted
	}
	x.Sign = []string{fmt.Sprintf("From %s to %s.", b.in.Grams(max(0, g-Tolerance(b.ru, g))),
		b.in.Grams(g+Tolerance(b.ru, g)))}
	b.out = append(b.out, x)
}

// weighing lists the lines of the dough, each its own; what is held back and what stands by the board, too.
func (b *builder) weighing() {
	if n := b.p.BowlLoads(); n > 1 {
		for load := range n {
			b.load(load+1, n)
		}
		return
	}
	b.load(1, 1)
}

// LoadKey is the key of a line of the k-th load of a bowl, from 1: the line's own for the first.
func LoadKey(line string, k int) string {
	if k < 2 {
		return line
	}
	return fmt.Sprintf("%s.load.%d", line, k)
}

// load lists the lines of one of n loads: all of the dough where there is one.
func (b *builder) load(k, n int) {
	f, r := &b.p.Formula, &b.p.Room
	part, of := 1/float64(n), ""
	if n > 1 {
		of = fmt.Sprintf("Load %d of %d: ", k, n)
	}
	b.part = func(key, head, say string, g float64, counted string) {
		if n > 1 {
			key = LoadKey(key, k)
			head = of + measure.Uncapital(head)
			counted = ""
		} else if s, ok := b.p.Said(strings.Replace(key, "pour", "top", 1)); ok {
			say = strings.TrimSpace("As you measure it: " + s.Words(b.in) + ". " + say)
		}
		b.weigh(key, head, say, g*part, counted)
	}
	for i, x := range f.Flours {
		say := "Into the bowl for the flour."
		if len(f.Flours) > 1 && i > 0 {
			say = "Onto the flour before it."
		}
		b.part(fmt.Sprintf("flour.%d", i+1), x.Name, say, x.Share*r.FlourG, "")
	}
	b.part("held", "Hold flour back", "Out of what you have just weighed, set this aside: it goes in only if the "+
		"dough asks.", f.HeldBackG, "")
	if f.Pick.EggG > 0 {
		counted := b.p.EggWords()
		if f.Weighed() {
			counted = ""
		}
		head, say := measure.Capital(b.p.EggWords()), "Cracked into the jug, no shell, beaten."
		if n > 1 {
			head, say = "Beaten egg", "Of "+b.p.EggWords()+", beaten together: this much for the load."
		}
		b.part("eggs", head, say, f.Pick.EggG, counted)
	}
	top := measure.Capital(b.p.TopWord())
	jug := "Into the jug."
	if f.Pick.EggG > 0 {
		jug = "Into the jug with the eggs."
	}
	b.part("pour", top+" to pour now", jug, r.PourG, "")
	b.part("board", top+" by the board", "In a cup of its own: in drops, only if it stays dry.", r.KeepG, "")
	for _, x := range b.p.Weighed() {
		b.part(x.Key, x.Name, x.How, x.G, "")
	}
}

// dividing lists the pieces as they are cut off.
func (b *builder) dividing(s plan.Step) {
	o := &b.p.Roll
	if o.Pieces < 2 || b.divided {
		return
	}
	b.divided = true
	for i := range o.Pieces {
		say := "Cut it off and set it on the scale. The rest stays covered."
		if i == o.Pieces-1 {
			say = "What is left is the last piece."
		}
		g := b.scaled(o.PieceG)
		b.out = append(b.out, Step{Key: fmt.Sprintf("divide.%d", i+1), Kind: Divide, Station: s.Station, Of: s.Key,
			FromMin: s.FromMin,
			Head:    fmt.Sprintf("Divide: piece %d of %d", i+1, o.Pieces), Say: say, WantG: g, Much: b.in.Grams(g),
			Piece: i + 1, Pieces: o.Pieces,
			Sign: []string{fmt.Sprintf("From %s to %s.", b.in.Grams(g-Tolerance(b.ru, g)), b.in.Grams(g+Tolerance(b.ru,
				g))),
				"One clean cut; small patches open up in the roller.",
				"Back under the cloth, cut side down."}})
	}
}

// rolling lists every pass of every piece; of ropes, every piece.
func (b *builder) rolling(s plan.Step) {
	o := &b.p.Roll
	each := s.Min / float64(max(1, o.Pieces))
	for piece := 1; piece <= o.Pieces; piece++ {
		from := s.FromMin + float64(piece-1)*each
		if b.p.Roped() {
			b.add(Step{Key: fmt.Sprintf("roll.%d", piece), Kind: Pass, Piece: piece, Pieces: o.Pieces,
				Head:    fmt.Sprintf("Rope %d of %d", piece, o.Pieces),
				FromMin: from, PlanMin: each}, s)
			continue
		}
		passes := b.p.Passes(piece)
		whole := 0.
		for _, x := range passes {
			whole += x.Min
		}
		for i, x := range passes {
			y := o.Passes[i]
			if y.First == roll.Wait && y.RestMin > 0 {
				b.add(Step{Key: x.Key + ".rest", Kind: Wait, Piece: piece, Pieces: o.Pieces,
					Head: "Let the sheet rest", Say: "Covered, dusted, before " + lower(x.Head) + ".",
					FromMin: from + x.FromMin*each/max(whole, 1e-9), PlanMin: 1e-12, Min: y.RestMin,
					LeastMin: y.RestMin, MostMin: y.RestMin, Sign: []string{"It no longer pulls back."}}, s)
			}
			st := Step{Key: x.Key, Kind: Pass, Piece: piece, Pieces: o.Pieces, Pass: i + 1, Passes: len(passes),
				Stop: y.Label, SheetMM: y.OutMM,
				LengthMM: y.LengthMM, Fold: y.Fold > 0, Halve: y.Halved, Density: b.p.Formula.Dough.DensityGPerML,
				First: plan.FirstShort(y), Head: fmt.Sprintf("Piece %d of %d", piece, o.Pieces),
				Name: x.Head, Say: x.Text, FromMin: from +
					x.FromMin*each/max(whole, 1e-9), PlanMin: x.Min * each / max(whole, 1e-9),
				Sign: b.p.PassSigns(i)}
			if i == len(passes)-1 {
				st.Sign = append(st.Sign[1:], fmt.Sprintf("%s thin, about %s long.", b.in.MM(y.OutMM, 2),
					b.in.Long(y.LengthMM)), "Lay it flat, dusted; the next piece from under the cloth.")
			}
			b.add(st, s)
		}
	}
}

// cutting lists a shape, with how many nests, pieces or handfuls it makes.
func (b *builder) cutting(s plan.Step) {
	x := Step{Key: s.Key, Kind: Cut}
	if parts := b.p.Cut.Parts(); b.cuts < len(parts) {
		part := parts[b.cuts]
		x.Count, x.CountName = part.Count, part.Shape.Traits().Many
		if part.Shape.Traits().Lengths {
			x.Count, x.CountName = part.AllNests(), "nests"
		}
		if part.Shape.Traits().Sheets {
			x.CountName = "sheets"
		}
		if d := &b.p.Dry; d.Leather.Will { // some of it may be hung all the same
			x.RackMin = d.Leather.FromMin
		}
		for _, d := range b.p.Dry.Moments {
			if d.When == plan.PiecesDry && slices.Contains(d.Parts, b.cuts) {
				x.RackMin = d.Min
			}
		}
		x.Density = b.p.Formula.Dough.DensityGPerML
	}
	b.cuts++
	b.add(x, s)
}

// potting lists the loads of one shape in the pot, each with its clock.
func (b *builder) potting(s plan.Step) {
	c := &b.p.Cook
	i := slices.IndexFunc(c.Turns, func(t plan.PotTurn) bool { return t.Key == s.Key })
	if i < 0 {
		return
	}
	t, name := &c.Turns[i], "Into the pot"
	if len(c.Turns) > 1 {
		name = t.Shape + " into the pot"
	}
	for n := range t.Loads {
		x := Step{Key: fmt.Sprintf("%s.lot.%d", s.Key, n+1), Kind: Pot, Head: name, Part: t.Part, Through: t.Raw != "",
			Much: b.in.Grams(t.LoadG),
			Say:  "Stir at once. Taste when the clock says so, and every half minute on.", Min: t.FromS / 60,
			LeastMin: t.FromS / 60,
			MostMin:  t.ToS / 60, FromMin: s.FromMin, PlanMin: 1e-12}
		if t.Loads > 1 {
			x.Head = fmt.Sprintf("%s: load %d of %d", name, n+1, t.Loads)
		}
		if t.Own {
			x.Say = "Stir at once. Out by your own clock; taste all the same."
		}
		if t.ThroughS > 0 {
			x.Say = fmt.Sprintf("Stir at once. It is %s inside, and your clock is short: cut one open, no pink, "+
				"steaming, or it goes on to about %s.", t.Raw, measure.MinSec(t.ThroughS))
		} else if x.Through {
			x.Say = fmt.Sprintf("Stir at once. It is %s inside: not out before the clock, however it looks.", t.Raw)
		}
		b.add(x, s)
	}
}

// goOn puts on every key what comes next.
func goOn(steps []Step) {
	for i := range steps {
		if i == len(steps)-1 {
			steps[i].On = "Done, that was all"
			continue
		}
		steps[i].On = "Done, on to " + nextWords(&steps[i], &steps[i+1])
	}
}

// nextWords name the next step as one would call it across the room.
func nextWords(now, next *Step) string {
	switch next.Kind {
	case Weigh:
		switch {
		case now.Kind == Weigh && strings.HasPrefix(next.Key, "weigh.held"):
			return "holding some back"
		case now.Kind == Weigh:
			return lower(next.Head)
		}
		return "the scale"
	case Wait:
		if next.Station == request.AtDry {
			return "the rack"
		}
		return "the rest"
	case Divide:
		if next.Piece > 1 {
			return fmt.Sprintf("piece %d", next.Piece)
		}
		return "dividing"
	case Pass:
		if next.Pass > 1 && now.Kind == Pass {
			switch {
			case next.Stop != "" && next.Stop == now.Stop && strings.HasPrefix(next.Name, "Stop"):
				return "the same stop"
			case strings.HasPrefix(next.Name, "Stop"):
				return lower(next.Name)
			}
			return fmt.Sprintf("%s mm", measure.Trim(math.Round(10*next.SheetMM)/10))
		}
		return fmt.Sprintf("piece %d", next.Piece)
	case Pack:
		return "packing"
	case Pot:
		if _, n, ok := strings.Cut(next.Key, ".lot."); ok && n != "1" {
			return "load " + n
		}
		return "the pot"
	}
	switch kind, _, _ := strings.Cut(next.Key, "."); kind {
	case "mix":
		return "mixing"
	case "knead":
		return "kneading"
	case "split":
		return "splitting it"
	case "lots":
		return "the other loads"
	case "join":
		return "joining it"
	case "filling":
		return "the filling"
	case "water":
		return "the water"
	case "cut":
		return "the cut"
	}
	return lower(next.Head)
}

func lower(s string) string {
	first, rest, _ := strings.Cut(s, " ")
	if strings.ToUpper(first) == first { // a type of flour, a number
		return s
	}
	return strings.TrimSpace(strings.ToLower(first) + " " + rest)
}
