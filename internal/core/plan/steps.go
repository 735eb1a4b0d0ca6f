package plan

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/cook"
	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// Step is one thing to be done, in the one list of steps that everything reads: the Knead and
// Rest stations, the batch sheet, the recipe. Minutes are min, from the moment flour meets water.
type Step struct {
	// Key stays the same as long as the way does: knead.1, rest.2, roll, cut.1. A pass of one
	// piece is roll.3.pass.5.
	Key        string        `json:"key"`
	Station    request.Stage `json:"station"`
	Head       string        `json:"head"`
	Text       string        `json:"text"`
	Brief      string        `json:"brief,omitempty"` // the same for a glance; "" where it belongs to another step
	Amounts    []Amount      `json:"amounts,omitempty"`
	FromMin    float64       `json:"from_min"` // it begins
	Min        float64       `json:"min"`      // it takes, 0 where that is not reckoned
	LeastMin   float64       `json:"least_min"`
	MostMin    float64       `json:"most_min"`
	At         string        `json:"at,omitempty"` // by the clock, when a time to roll is wished for
	Unattended bool          `json:"unattended"`
	Figure     string        `json:"-"`                   // what of it is read from two metres, "" for nothing
	Runs       bool          `json:"-"`                   // in a machine that needs nobody while it turns
	Cold       bool          `json:"cold,omitempty"`      // in the fridge
	InPieces   bool          `json:"in_pieces,omitempty"` // divided before it
	Sign       string        `json:"sign,omitempty"`      // what to look for
	Test       string        `json:"test,omitempty"`      // how to try it
	Caution    string        `json:"caution,omitempty"`
	Piece      int           `json:"piece,omitempty"` // of those the dough is divided into, from 1; 0: all
	Part       int           `json:"part,omitempty"`  // of the pot: the shape, from 0
}

// Since is when the step begins as hours and minutes, or by the clock where that is known.
func (s *Step) Since() string {
	if s.At != "" {
		return s.At
	}
	n, before := int(math.Round(s.FromMin)), ""
	if n < 0 { // before flour meets water
		n, before = -n, "−"
	}
	return fmt.Sprintf("%s%d:%02d", before, n/60, n%60)
}

// Takes is how long the step takes, in words: to the second at the board, "" where that is not reckoned.
func (s *Step) Takes() string {
	switch {
	case s.Min == 0:
		return ""
	case s.Station == request.AtKnead || s.Station == request.AtRest:
		return measure.Exactly(s.Min)
	case s.Min < 1:
		return ""
	}
	return measure.Minutes(s.Min)
}

// list lists the steps of a plan one after the other.
type list struct {
	p       *Plan
	now     float64
	start   time.Time
	clocked bool
	counts  map[string]int
}

// steps lists everything that is done from mixing to the pot.
func (p *Plan) steps() {
	l := &list{p: p, counts: map[string]int{}}
	if p.Clock != nil {
		if start, err := measure.At(p.Clock.StartAt); err == nil {
			l.start, l.clocked = start, true
		}
	}
	p.Steps = nil
	l.filling()
	l.kneading()
	l.rolling()
	l.cutting()
	l.potting()
}

// add lists a step under the next key of its kind; a step without a range takes what it takes.
func (l *list) add(kind string, s Step) {
	l.counts[kind]++
	s.Key = fmt.Sprintf("%s.%d", kind, l.counts[kind])
	s.FromMin = l.now
	if s.MostMin == 0 {
		s.LeastMin, s.MostMin = s.Min, s.Min
	}
	if l.clocked {
		s.At = measure.ClockWords(l.start.Add(time.Duration(math.Round(l.now))*time.Minute), l.start)
	}
	l.now += s.Min
	l.p.Steps = append(l.p.Steps, s)
}

// caution is the first thing a station warns of under those codes; "" when it does not.
func (l *list) caution(s request.Stage, codes ...string) string {
	for _, n := range l.p.Notes {
		if n.Stage == s && n.Level == Caution && slices.Contains(codes, n.Code) {
			return n.Head + " " + n.Text
		}
	}
	return ""
}

// glance is the first sentence of a test: one is enough for a glance.
func glance(test string) string {
	first, _, more := strings.Cut(test, ". ")
	if more {
		first += "."
	}
	return first
}

// kneading lists mixing, kneading and resting by the school.
func (l *list) kneading() {
	p := l.p
	f := &p.Formula
	school := p.mixedBy()
	mixing := l.mixing()
	k := &p.Knead
	parted := "" // on the sheet, which has no row for it
	switch {
	case k.Shared:
		l.add("split", Step{Station: request.AtKnead, Head: "Share it out", Text: fmt.Sprintf(
			"A part of %s to each of %.0f; all knead at the same time.",
			p.in.Grams(f.Dough.MassG/p.Request.Bench.People), p.Request.Bench.People)})
		parted = fmt.Sprintf("%s to each of %.0f, then joined by ten folds. ",
			p.in.Grams(f.Dough.MassG/p.Request.Bench.People), p.Request.Bench.People)
	case k.Loads > 1 && p.BowlLoads() == 1:
		l.add("split", Step{Station: request.AtKnead, Head: "Split", Text: fmt.Sprintf(
			"In %d loads of %s: that is what is kneaded at once here. Cover what waits.", k.Loads,
			p.in.Grams(k.LoadG))})
		parted = fmt.Sprintf("In %d loads of %s. ", k.Loads, p.in.Grams(k.LoadG))
	}
	kneadings := 0
	run := 0.
	waited := 0.
	if own, way := p.ask.Own, p.way.Steps; (own == nil && school.Machine() || own != nil && own.Machine) &&
		len(way) > 0 && !way[0].Rests() &&
		way[0].InTurn() {
		run = mixing // a bowl is filled load by load
	}
	for i, s := range p.way.Steps {
		if s.Rests() {
			s.Min -= waited // the loads that are done rest while the others have their turn
			if waited = max(0, -s.Min); s.Min > 0 {
				l.rest(i, s)
			}
			continue
		}
		if s.By == knead.ByHand {
			kneadings++
		}
		step := p.kneadStep(i, s, kneadings, l.caution(request.AtKnead, "machine"))
		step.Brief, parted = parted+step.Brief, ""
		l.add("knead", step)
		if s.InTurn() {
			run += s.Min
		}
		if i+1 == len(p.way.Steps) || p.way.Steps[i+1].Rests() {
			waited = l.otherLoads(i, run)
			run = 0
		}
	}
	if k.Shared {
		l.add("join", Step{Station: request.AtKnead, Head: "Join", Text: "Lay the parts on each other and fold them " +
			"together ten times."})
	}
	if folds := p.way.Folds; folds > 0 {
		l.add("fold", Step{Station: request.AtKnead, Head: measure.Plural(folds, "folded pass", "folded passes"),
			Text: p.foldWords(), Sign: "Straight edges, no pulling in."})
	}
}

// mixing lists how flour and liquids come together, and returns how long that takes, min.
func (l *list) mixing() float64 {
	p := l.p
	f, ru := &p.Formula, &p.rules.Knead
	school := p.mixedBy()
	mixing, text := ru.MixHandMin, school.Mix
	if school.Machine() {
		mixing = ru.MixMachineMin
	}
	if own := p.ask.Own; own != nil {
		mixing = own.MixMin
	}
	switch {
	case text != "":
	case p.Request.Knead.Mix == request.InBowl:
		text = "%s into a bowl, %s into the middle. Stir from the middle outwards until it hangs together, then turn " +
			"it out. " +
			"%s of flour stays out."
	default:
		text = "A well bigger, and walls higher, than you think: %s, %s. Draw the flour in slowly from inside; " +
			"batter, then a shaggy mass; " +
			"chop it together with the scraper. %s of flour stays out."
	}
	test := "Squeeze a handful: it holds."
	text = fmt.Sprintf(text, p.flourIn(), p.liquidWords(), p.in.Whole(math.Round(f.HeldBackG)))
	if n := p.BowlLoads(); n > 1 { // the bowl takes so much at once, and it is weighed so
		text = fmt.Sprintf("The first of %d loads, weighed by itself: %s. "+school.Mix, n, p.loadWords(), "Its flour",
			"its eggs and liquid", "None")
		text = strings.TrimSuffix(text, " None of flour stays out for later.")
		text = strings.TrimSuffix(text, " None of flour stays out.")
		if f.HeldBackG > 0 {
			text += fmt.Sprintf(" %s of flour stays out of each.", p.in.Whole(math.Round(f.HeldBackG/float64(n))))
		}
	}
	if f.HeldBackG == 0 && p.BowlLoads() == 1 { // nothing stays out
		text = text[:strings.LastIndex(strings.TrimSuffix(text, "."), ". ")+1]
	}
	if f.OpenG > f.FlourG {
		text += fmt.Sprintf(" Let it take flour until it takes no more, at about %s, and weigh what is left.",
			p.in.Grams(f.FlourG))
	}
	if f.OpenLiquidG > f.TopG {
		text += fmt.Sprintf(" Let it take %s a little at a time until it comes together, at about %s, and weigh what "+
			"is left.", p.TopWord(), p.in.Grams(f.TopG))
	}
	first, others := mixing, []request.KneadStep(nil)
	if own := p.ask.Own; own != nil { // two runs of a mixer stay two, with what goes in between
		all := p.Request.Knead.Steps[:mixesFirst(p.Request.Knead.Steps)]
		if len(all) > 1 {
			first, others = all[0].Min, all[1:]
		}
		if len(all) > 0 && all[0].Add != "" {
			text += " " + addWords(all[0].Add)
		}
	}
	l.add("mix", Step{Station: request.AtKnead, Head: "Mix", Text: text,
		Brief: test, Amounts: p.forTheDough(), Min: first, Sign: "Shaggy but together, no dry nests. Keep going: it " +
			"comes together.", Test: test,
		Caution: l.caution(request.AtFormula, "raw_egg")})
	for _, s := range others {
		l.add("mix", Step{Station: request.AtKnead, Head: "Mix on", Text: strings.TrimSpace(addWords(s.Add) +
			" Until it is all one again."), Brief: measure.Minutes(s.Min), Min: s.Min, Test: test,
			Runs: s.Do != request.DoMix})
	}
	return mixing
}

// addWords say what goes in before a step, as the maker put it; "" where nothing does.
func addWords(what string) string {
	if what = strings.TrimSuffix(strings.TrimSpace(what), "."); what == "" {
		return ""
	}
	return "Add " + measure.Uncapital(what) + "."
}

// foldWords says how the fold phase goes.
func (p *Plan) foldWords() string {
	how := "in three like a letter"
	if p.Request.Roll.Fold.Layers() == 2 {
		how = "in half like a book"
	}
	if p.Roll.Own {
		return "At the widest stop, as your way down says: they count as kneading."
	}
	text := fmt.Sprintf("At the widest stop, once flat, then folded %s each time, until the sheet is square, smooth "+
		"and full width.", how)
	for _, x := range p.Roll.Passes {
		if x.PressMM > 0 {
			text += fmt.Sprintf(" Folded it is %s thick: press it to %s first.", p.in.MM(x.PacketMM, 0),
				p.in.MM(x.PressMM, measure.Shortest))
			break
		}
	}
	if p.Formula.Pick.YolkShare > 0 {
		text += " A first pass that falls apart is normal in yolk dough."
	}
	return text
}

// otherLoads lists the turns of the other loads after a run of so many minutes that ends with the i-th
// step of the way, and returns how much of the rest between two kneadings they take.
func (l *list) otherLoads(i int, run float64) (waited float64) {
	k := &l.p.Knead
	if k.LoadTurns < 2 {
		return 0
	}
	if run == 0 {
		return 0
	}
	others := k.LoadTurns - 1
	head, text := "The other loads",
		fmt.Sprintf("The same, one after the other: %s of %s. What is done waits under film.",
			measure.Plural(others, "turn", "turns"), measure.Minutes(run))
	if k.Loads == 2 {
		head, text = "The other load", "The same. The first waits under film."
	}
	l.add("lots", Step{Station: request.AtKnead, Head: head, Text: text, Brief: text, Min: float64(others) * run})
	if !hasWork(l.p.way.Steps[i+1:]) {
		return 0
	}
	return float64(others) * run
}

// hasWork says whether any of the steps is work.
func hasWork(steps []knead.Step) bool {
	return slices.ContainsFunc(steps, func(s knead.Step) bool { return !s.Rests() })
}

// mixedBy is the school whose words tell how flour and liquids come together.
func (p *Plan) mixedBy() *knead.Traits {
	if p.ask.Own == nil {
		return p.Knead.School.Traits()
	}
	for _, s := range p.Request.Knead.Steps[:mixesFirst(p.Request.Knead.Steps)] {
		if school := s.Do.School(); school != knead.Long {
			return school.Traits()
		}
	}
	return knead.Long.Traits()
}

// stopWhenHot says when a machine is stopped for warmth; of a dough that begins warmer what to do before.
func (p *Plan) stopWhenHot(hot string) string {
	if p.Room.ContactC >= p.rules.Knead.MachineHotC {
		return fmt.Sprintf(
			"It begins at %s and should stay under %s: chill flour and liquid first, and stop to cool it.",
			p.in.C(p.Room.ContactC, 0),
			hot,
		)
	}
	return "Stop over " + hot + "."
}

// kneadStep puts the i-th step of the way, one kneading, into words, the n-th by hand.
func (p *Plan) kneadStep(i int, s knead.Step, n int, machine string) Step {
	hot := p.in.C(p.rules.Knead.MachineHotC, 0)
	o := Step{Station: request.AtKnead, Min: s.Min, Caution: machine, Runs: s.By == knead.BySlowHook ||
		s.By == knead.ByHook}
	switch s.By {
	case knead.BySlowHook:
		o.Head, o.Text = "Hook, slow", "First speed, until no flour is loose. Scrape the bowl once."
	case knead.ByHook:
		o.Head, o.Text = "Hook, second speed", p.stopWhenHot(hot)+" Never a hand near the hook while it turns."
		o.Sign, o.Test = "It cleans the bowl and slaps; then it is smooth.", "Poke it: it springs back."
	case knead.ByProcessor:
		o.Head = "Processor"
		o.Text = fmt.Sprintf(
			"%.0f seconds, in bursts, to clumping sand. Longer cooks it. %s Unplug before reaching to the blade.",
			60*s.Min,
			p.stopWhenHot(hot),
		)
		o.Sign, o.Test = "Like wet sand that clumps.", "Pinch it: it sticks together."
	case knead.ByMixing:
		o.Head = "Work it in"
		o.Text = "What comes in on the way, until it is all one again."
		o.Caution = ""
	default:
		var before knead.Tool
		if i > 0 {
			before = p.way.Steps[i-1].By
		}
		w := p.handWords(s, n, before)
		if p.ask.Own == nil {
			w = p.Knead.School.Traits().Hand(n, p.Knead.Way.Turns)
		}
		o.Head = w.Head
		o.Text = w.Text
		o.Sign = w.Feel
		o.Test = w.Test
		o.Caution = ""
	}
	if p.Pinned() && s.By == knead.ByHand && (p.Knead.School == knead.Short && p.ask.Own == nil || p.ask.Own != nil &&
		i == 0 &&
		s.Min <= p.rules.Knead.ShortMaxMin) {
		o.Test = "It flexes once without falling apart."
	}
	if p.model.Gluten < p.rules.Flour.GlutenNoSheet && o.Sign != "" { // nothing in it makes a window, or springs back
		o.Sign, o.Test = "One smooth mass, no dry spots.", "Squeeze a handful: it holds and does not crumble."
	}
	o.Brief = glance(o.Test)
	if add := addWords(s.Adds); add != "" {
		o.Text = add + " " + o.Text
		o.Brief = strings.TrimSpace(add + " " + o.Brief)
	}
	return o
}

// rest lists one rest of the way, the i-th of its steps. From the last one the dough may be
// rolled as soon as it is ready, and no later than the food clock and the fridge allow.
func (l *list) rest(i int, s knead.Step) {
	p := l.p
	last := true
	for _, later := range p.way.Steps[i+1:] {
		last = last && later.Rests()
	}
	wrap := "Film twice, an upturned bowl or a lidded tub: airtight."
	parts := s.Spread && p.ask.ChillG > 0 || s.Lies == string(request.CoverPieces)
	switch {
	case p.ownRest(s) != "":
		wrap = p.ownRest(s)
	case s.Spread && p.ask.ChillG > 0:
		wrap = "Divide it, press each piece flat, and film each: airtight, and it cools and warms through sooner."
	case s.Spread:
		wrap = fmt.Sprintf("Press it %s flat and film it: airtight, and it cools and warms through sooner.",
			p.in.MM(p.ask.FlatMM, 0))
	}
	o := Step{Station: request.AtRest, Head: "Rest in the room", Min: s.Min, Text: wrap, Unattended: true,
		InPieces: parts, Caution: l.caution(request.AtRest,
			"wrap")}
	switch {
	case !last && (s.Lies == "" || s.Lies == string(request.CoverBowl)) && s.By == knead.InRoom:
		o.Head, o.Text = "Rest between turns", "Under the upturned bowl. It softens by itself."
	case s.By == knead.InFridge:
		o.Cold = true
		o.Head, o.Text = "Rest in the fridge", wrap+" Write the time on it."
		o.Sign = "Firm from the cold, even inside; no grey, no skin."
		o.Test = "A thumb mark stays once it has lost the chill."
		o.MostMin = max(s.Min, p.rules.Knead.KeepMin)
		if warm := p.Rest.TemperMin; i == len(p.way.Steps)-1 && p.Rest.TempC < p.rules.Knead.ColdC-.5 && warm > 0 {
			o.Text += fmt.Sprintf(
				" Before it is rolled or shaped it loses its chill in the room, wrapped: about %s.",
				measure.Minutes(warm),
			)
		}
	case s.Tempers || p.ask.Own == nil && i > 0 && p.way.Steps[i-1].By == knead.InFridge:
		o.Head, o.Text = "Out of the fridge", "Still wrapped, or it sweats. Roll it when it no longer feels stiff."
		o.Test = "It gives to the thumb like an earlobe."
	default:
		o.Sign = "A sheen, and softer to the hand: the opposite of the kneading test."
		o.Test = fmt.Sprintf("Poke it: half back in %.0f seconds or slower. Press it flat: it does not snap back.",
			p.rules.Knead.PokeReadyS)
		if p.model.Gluten < p.rules.Flour.GlutenNoSheet { // nothing in it relaxes; the flour drinks
			o.Sign, o.Test = "No dry specks any more: the flour has taken up its water.",
				"Press it: it gives, and keeps the mark."
		}
		o.MostMin = max(s.Min, p.cautionAt()-p.Rest.OutMin+s.Min)
	}
	o.LeastMin = s.Min
	if ready := p.Rest.ReadyAtMin; last && ready >= 0 {
		before := p.way.WaitMin
		for _, done := range p.way.Steps[:i] {
			before += done.Min
		}
		o.LeastMin = min(s.Min, max(0, ready-before))
	}
	if o.MostMin == 0 {
		o.MostMin = s.Min
	}
	o.Brief = strings.TrimSpace("Airtight. " + glance(o.Test))
	l.add("rest", o)
}

// rolling lists the way down, all pieces one after the other.
func (l *list) rolling() {
	p := l.p
	o := &p.Roll
	pieces := fmt.Sprintf("%s of %s", measure.Plural(o.Pieces, "piece", "pieces"), p.in.Grams(o.PieceG))
	head := "Roll"
	text := fmt.Sprintf("%s, to %s, about %s long.", pieces, p.in.MM(o.SheetMM, 2), p.in.Long(o.LengthMM))
	if p.Roped() {
		head, text = "Ropes", fmt.Sprintf("%s, ropes of %s.", pieces, p.in.MM(o.WidthMM, measure.Shortest))
	} else if o.Own && !p.lay.Pin {
		text = fmt.Sprintf("%s %s, %s.", text, wayWords(o.Passes), measure.Plural(len(o.Passes), "pass", "passes"))
	} else if o.Folds > 0 {
		text = fmt.Sprintf("%s First %s at the widest.", text, measure.Plural(o.Folds, "folded pass", "folded passes"))
	}
	if also := p.endWords(); also != "" {
		text += " " + also
	}
	figure := ""
	if p.Roped() {
		figure = p.in.MM(o.WidthMM, measure.Shortest)
	}
	l.add("roll", Step{Station: request.AtRoll, Head: head, Text: text, Brief: text, Figure: figure, Min: o.MinutesAll,
		Caution: l.caution(request.AtRoll, "rollers", "board")})
	l.drying(SheetDries)
}

// drying lists what dries at a moment: what dries at once under one clock each, the longest of them counted on.
func (l *list) drying(when Moment) {
	began, over := l.now, l.now
	for i := range l.p.Dry.Moments {
		d := &l.p.Dry.Moments[i]
		if d.When != when {
			continue
		}
		l.now = began
		s := l.p.dryingWords(d)
		s.Station = request.AtDry
		s.Unattended = true
		s.Brief = s.Text
		s.Min = d.Min
		s.LeastMin = d.Min
		s.MostMin = d.ToMin
		if d.Own && d.ToMin == d.Min { // the window beside it is a remark
			s.MostMin = max(d.Min, min(d.Right.ToMin, d.Min*l.p.rules.Dry.WindowFactor))
		}
		s.Caution = l.caution(request.AtDry, "dried_long")
		l.add(strings.SplitN(d.Key, ".", 2)[0], s)
		over = max(over, l.now)
	}
	l.now = over
}

// wayWords are the stops of the maker's own way down, what comes under the pin before them said so.
func wayWords(passes []roll.Pass) string {
	if n := slices.IndexFunc(passes, func(x roll.Pass) bool { return x.Stop >= 0 }); n > 0 {
		return "Under the pin to " + passes[n-1].Label + ", then stops " + StopWords(passes[n:])
	}
	return "Stops " + StopWords(passes)
}

// pressed says to what a folded packet is pressed before it goes in; "" when it goes in as it is.
func (p *Plan) pressed(x roll.Pass) string {
	if x.PressMM == 0 {
		return ""
	}
	return ", pressed to " + p.in.MM(x.PressMM, measure.Shortest)
}

// Passes lists the passes of one piece, from 1, down the stops or under the pin; their minutes
// count from its first.
func (p *Plan) Passes(piece int) []Step {
	out := make([]Step, len(p.Roll.Passes))
	now := 0.
	for i, x := range p.Roll.Passes {
		text := fmt.Sprintf("To %s, %s long.", p.in.MM(x.OutMM, 2), p.in.Long(x.LengthMM))
		switch {
		case x.Fold > 0:
			text = "Folded " + x.Folding() + p.pressed(x) + ". " + text
		}
		switch first := FirstWords(x); {
		case x.First != "":
			text = measure.Capital(first) + ". " + text
		case x.Halved && x.Fold == 0:
			text = "Halve it first. " + text
		}
		if x.Dust {
			text = "Dust it. " + text
		}
		head := "Under the pin"
		if !p.lay.Pin && x.Stop >= 0 {
			head = "Stop " + x.Label
		}
		minutes := x.TimeS / 60
		out[i] = Step{Key: fmt.Sprintf("roll.%d.pass.%d", piece, i+1), Station: request.AtRoll, Head: head, Text: text,
			FromMin: now,
			Min:     minutes, LeastMin: minutes, MostMin: minutes, Piece: piece}
		now += minutes
	}
	return out
}

// cutting lists the cut of every shape, and what becomes of what is not cooked at once.
func (l *list) cutting() {
	p := l.p
	for _, x := range p.Cut.Parts() {
		text := p.cutCard(x)
		s := Step{Station: request.AtCut, Head: x.Shape.Traits().CutHead, Text: text, Brief: text, Min: x.CutMin,
			Caution: l.caution(request.AtCut, "knife", "cutter")}
		l.add("cut", s)
	}
	l.drying(PiecesDry)
	l.drying(BeforePacked)
	if head, text := p.keepWords(); head != "" {
		l.add("keep", Step{Station: request.AtDry, Head: head, Text: text, Brief: text, Unattended: true,
			Caution: l.caution(request.AtDry, "keep")})
	}
}

// keepWords say how all of it is put away, shape by shape where they differ; no head where it is cooked the same day.
func (p *Plan) keepWords() (head, text string) {
	switch p.Keep.Where {
	case cook.Fridge:
		head, text = "Keep", fmt.Sprintf("Covered at %s or less.", p.in.C(5, 0))
	case cook.Freezer:
		head, text = "Freeze", "On the tray until hard, then bagged, air out, dated."
	case cook.Shelf:
		head, text = "Dry", "In moving air, weighed every hour or two, until it keeps."
		if d := p.Dry.ToKeep; d != nil {
			text = fmt.Sprintf("In moving air to %s, weighed every hour or two.", p.in.Grams(d.TargetG))
		}
	default:
		return "", ""
	}
	say := p.keptNot()
	if !slices.ContainsFunc(p.Keep.Parts, func(k Kept) bool { return k.No == "" }) {
		head, text = "Not to be kept", ""
	}
	return head, strings.TrimSpace(text + " " + strings.Join(say, " "))
}

// FillingStep is the key of the step that makes the filling, KeepStep of the one that puts by what is kept.
const (
	FillingStep = "filling.1"
	KeepStep    = "keep.1"
)

// filling lists the making of the filling: before anything else, early enough to be cool when the roller is wanted.
func (l *list) filling() {
	p := l.p
	g := p.Cut.FillTotalG
	if g <= 0 {
		return
	}
	if p.FillingMade() != "" {
		l.fillingReady()
		return
	}
	cool := float64(p.rules.Day.FillingCoolMin)
	text := fmt.Sprintf("%s for %s, %s in each. Dry enough to hold its shape; then covered into the fridge, %s at "+
		"least before it is used.", p.in.Grams(g),
		p.filledWords(), p.in.Grams(p.fillEach()), measure.Minutes(cool))
	s := Step{Station: request.AtCut, Head: "Make the filling", Text: text, Min: p.Cut.FillMin,
		Amounts: p.fillingAmounts(),
		Brief: fmt.Sprintf("%s in all; covered, cold for %s before it is used.", p.in.Grams(g),
			measure.Minutes(cool)),
		Sign: "A spoonful stands by itself; nothing runs from it.", Caution: l.caution(request.AtCut, "raw_filling")}
	if own := p.Request.Cut.Filling.Own; own != nil {
		s.Figure = p.in.Grams(g)
		s.Text = strings.TrimSpace(own.How + " " + s.Text)
	}
	if p.Request.RawFilling() {
		s.Text += " Keep it cold: it is " + p.Request.Cut.Filling.Safety().Words() + "."
	}
	rolled := p.way.ElapsedMin // from mixing to the roller
	l.now = -(s.Min + max(0, cool-rolled))
	l.add("filling", s)
	l.now = 0
}

// fillingReady lists a filling of an earlier day, taken out when the first sheet is down.
func (l *list) fillingReady() {
	p := l.p
	made := measure.DayWords(p.FillingMade())
	s := Step{Station: request.AtCut, Head: "Filling of " + made, Figure: p.in.Grams(p.Cut.FillTotalG),
		Text: fmt.Sprintf("%s of it for %s, %s in each. It stays covered in the fridge until the first sheet is down.",
			p.in.Grams(p.Cut.FillTotalG), p.filledWords(), p.in.Grams(p.fillEach())),
		Brief:   fmt.Sprintf("%s, made %s; cold until the first sheet is down.", p.in.Grams(p.Cut.FillTotalG), made),
		Amounts: []Amount{p.filling()}, Sign: "It still holds its shape; stir in what has wept, or drain it.",
		Caution: cmp.Or(p.fillingPast(), l.caution(request.AtCut, "raw_filling"))}
	l.add("filling", s)
}

// filledWords count what is filled: "48 ravioli".
func (p *Plan) filledWords() string {
	var out []string
	for _, x := range p.Cut.Parts() {
		if x.Filling != nil && x.Count > 0 {
			out = append(out, x.Shape.Counted(x.Count))
		}
	}
	return measure.List(out)
}

// fillingAmounts are the lines of the filling, and of yolks set in whole.
func (p *Plan) fillingAmounts() []Amount {
	var out []Amount
	for _, x := range p.FillingParts() {
		much := p.in.Grams(x.G)
		note := "for the filling"
		if len(out) == 0 {
			note += ", " + p.Request.Cut.Filling.Called()
		}
		out = append(out, Amount{What: x.Name, Much: much, Note: note,
			Line: much + " " + measure.Uncapital(x.Name) + " (for the filling)"})
	}
	if len(out) == 0 {
		out = append(out, p.filling())
	}
	if n := p.Cut.Yolks; n > 0 {
		out = append(out, Amount{"Yolks, whole", measure.Plural(n, "yolk", "yolks"), "set into the pieces one by one",
			measure.Plural(n, "egg yolk", "egg yolks") + " (whole, set into the pieces)"})
	}
	return out
}

// potting lists the water and the turns of the shapes in the pot, the thinnest last.
func (l *list) potting() {
	p := l.p
	k := &p.Cook
	water := Step{Station: request.AtCook, LeastMin: k.BoilMin, MostMin: k.BoilMin}
	water.Head, water.Text, water.Sign = p.potWords()
	water.Text += l.waterAgain()
	water.Figure = p.in.L(k.InPotL, 1)
	l.add("water", water)
	if p.Keep.Where == "" { // otherwise it is cooked another day
		l.inTime(k.BoilMin)
	}
	for i := range k.Turns {
		l.turn(&k.Turns[i])
	}
}

// waterAgain says that the water serves again where more than one load goes in; "" where one does.
func (l *list) waterAgain() string {
	loads := 0
	for _, t := range l.p.Cook.Turns {
		loads += t.Loads
	}
	if loads < 2 {
		return ""
	}
	return " It serves every load: back to the boil between them, topped up, salt with what is added."
}

// turn lists one shape in the pot.
func (l *list) turn(t *PotTurn) {
	p := l.p
	head, load := "Cook", "all at once"
	if len(p.Cook.Turns) > 1 {
		head = "Cook: " + strings.ToLower(t.Shape)
	}
	if t.Loads > 1 {
		load = fmt.Sprintf("in %d loads of %s", t.Loads, p.in.Grams(t.LoadG))
	}
	text := fmt.Sprintf("%s. %s, %s.", t.doneWords(), p.in.Grams(t.LoadG*float64(t.Loads)), load)
	if t.ThroughS > 0 {
		text += fmt.Sprintf(" It is %s inside: to the centre it is about %s.", t.Raw, measure.MinSec(t.ThroughS))
	}
	text += map[request.CookIn]string{request.InBroth: " It is served in the broth.",
		request.InSoup: " It goes in last, and to the table at once: it drinks of the soup."}[p.Request.Cook.In]
	test := "Bite one from the early end on."
	if t.Raw != "" {
		test = p.centreWords()
	}
	if n := len(p.Cook.Turns); n > 1 && t.Key == p.Cook.Turns[n-1].Key {
		text += " Last, as the thinnest: it waits for nobody."
	}
	l.add("cook", Step{Station: request.AtCook, Head: head, Text: text, Brief: text, LeastMin: t.FromS / 60,
		MostMin: t.ToS / 60, Part: t.Part,
		Sign: "Tender through; floating proves nothing.", Test: test, Caution: l.caution(request.AtCook, "eaters")})
}

// inTime puts the step listed last so many minutes before the end: between the two whose border is nearest.
func (l *list) inTime(before float64) {
	all := l.p.Steps
	last := len(all) - 1
	x := all[last]
	at, off := last, before
	for i := last - 1; i > 0; i-- {
		if o := math.Abs(l.now - before - all[i].FromMin); o < off {
			at, off = i, o
		}
	}
	if at < last {
		x.FromMin, x.At = all[at].FromMin, all[at].At
	}
	copy(all[at+1:], all[at:last])
	all[at] = x
}

// StepsAt returns the steps of a station, in order; of Knead and Rest those of both, which hang
// together.
func (p *Plan) StepsAt(stages ...request.Stage) (out []Step) {
	for _, s := range p.Steps {
		for _, at := range stages {
			if s.Station == at {
				out = append(out, s)
			}
		}
	}
	return out
}

// ToWeigh returns every amount of every step: the dough's first, then a filling's, though that is made before.
func (p *Plan) ToWeigh() (out []Amount) {
	var filling []Amount
	for _, s := range p.Steps {
		if s.Key == FillingStep {
			filling = s.Amounts
			continue
		}
		out = append(out, s.Amounts...)
	}
	return append(out, filling...)
}

// Card returns the steps that stand on the sheet for the bench: not those that belong to others.
func (p *Plan) Card() []Step {
	return slices.DeleteFunc(slices.Clone(p.Steps), func(s Step) bool { return s.Brief == "" && s.Min == 0 })
}

// BeginMin is when the first step begins, min: 0, or before flour meets water where a filling is made first.
func (p *Plan) BeginMin() float64 { return p.Steps[0].FromMin }

// HandsMin is how long hands are at it, min: every step but those that go on by themselves.
func (p *Plan) HandsMin() (minutes float64) {
	for _, s := range p.Steps {
		if !s.Unattended {
			minutes += s.Min
		}
	}
	return minutes
}

// SpanMin is how long everything takes from the first step to the last, min.
func (p *Plan) SpanMin() float64 {
	last := p.Steps[len(p.Steps)-1]
	return last.FromMin + last.Min - p.BeginMin()
}
