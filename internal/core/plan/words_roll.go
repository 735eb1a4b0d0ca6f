package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// explainRoll gives the reasons of the way down.
func (p *Plan) explainRoll() {
	o := &p.Roll
	ru := &p.rules
	say := p.say
	if p.Roped() {
		say("roll.sheet", "The wall of the formed piece; it is what dries and cooks.")
		say("roll.pieces", "%s a rope of %s, %s long.", p.in.Grams(o.RolledG), p.in.MM(p.lay.RopeMM, measure.Shortest),
			p.in.Long(o.LengthMM))
		say("roll.time", "%s rolled to ropes%s.", measure.Plural(o.Pieces, "piece", "pieces"), inTurn(o.Pieces,
			"; cover what waits"))
		say("roll.mode", "No sheet: cut ropes under the palms, from the middle outwards.")
		return
	}
	how := fmt.Sprintf("About %s of flour each", p.in.G(p.aPiece(), 0))
	switch {
	case p.Request.Roll.Pieces != nil:
		how = "As you divide it"
	case o.Suited:
		how = fmt.Sprintf("%d, not the usual one to %s of flour, so that more of the dough becomes pasta", o.Pieces,
			p.in.G(p.aPiece(), 0))
		if p.lay.Pin {
			how = "More than the board asks for, so that more of the dough becomes pasta"
		}
	case o.Larger:
		how = fmt.Sprintf("Larger than usual, so that %s fits", p.in.MM(p.leastAlong(), measure.Shortest))
	case p.lay.Pin:
		how = fmt.Sprintf("As few as a board of %s takes", p.in.Joined(" by ", measure.MM, measure.Shortest,
			p.machine.BoardLengthMM, p.machine.BoardWidthMM))
	case p.Request.Roll.Divide == request.DivideByBench:
		how = fmt.Sprintf("So that one sheet is no longer than the bench, %s", p.in.MM(p.Request.Roll.BenchMM,
			measure.Shortest))
	}
	if p.lay.Pin {
		say("roll.sheet", "As thin as the pin is taken: see your hand through it, then print.")
		say("roll.pieces", "%s; %s is a sheet of about %s.", how, p.in.Grams(o.RolledG), p.in.Long(o.LengthMM))
		say("roll.time", "%s of rolling and a short pause after each, %s%s.", measure.Plural(len(o.Passes), "stage",
			"stages"),
			measure.Plural(o.Pieces, "sheet", "sheets"), inTurn(o.Pieces, ""))
		say("roll.mode", "From the middle outwards, a quarter turn between; it rests half a minute when it pulls "+
			"back. A straight bottle will do for a pin.")
		if o.Own {
			say("roll.mode", "%s", p.ownDownWords())
		}
		return
	}
	sure := fmt.Sprintf("generic gaps, so within %.0f %%", 100*o.Sure)
	if p.machine.GapsGuessed {
		sure = fmt.Sprintf("guessed from the dial, so within %.0f %%", 100*o.Sure)
	}
	if len(p.machine.Calibrated) > 0 {
		sure = fmt.Sprintf("by what was seen through it, so within %.0f %%", 100*o.Sure)
	}
	if o.Calibrated {
		sure = fmt.Sprintf("measured, within %.0f %%", 100*o.Sure)
	}
	say("roll.sheet", "Stop %s leaves %s (%s): this dough springs back %.0f %% of the gap. %s is wanted.", o.TargetStop,
		p.in.MM(o.SheetMM, 2), sure,
		100*o.Spring, p.in.MM(o.TargetMM, 2))
	say("roll.pieces", "%s; %s covers about %s of a sheet %s wide.", how, p.in.Grams(o.RolledG),
		p.in.Long(o.LengthMM*float64(o.Sheets)),
		p.in.MM(o.Machine.WidthMM, 0))
	say("roll.time", "%s at %s/s and %.0f seconds of handling a pass, %s%s.", measure.Plural(len(o.Passes), "pass",
		"passes"),
		p.in.MM(o.Machine.SpeedMMPerS, 0), ru.Roll.HandlingS, measure.Plural(o.Pieces, "piece", "pieces"),
		inTurn(o.Pieces, ""))
	if o.WaitMin >= 1 {
		say("roll.wait", "The last piece waits %s under the bowl; past ten minutes a piece relaxes further and rolls "+
			"the easier.", measure.Minutes(o.WaitMin))
	}
	say("roll.mode", "%s", p.modeWords())
}

// inTurn follows a number of pieces: several come one after the other, and what else is said of those that wait.
func inTurn(pieces int, waiting string) string {
	if pieces < 2 {
		return ""
	}
	return ", one after the other" + waiting
}

// modeWords says how the stops are taken.
func (p *Plan) modeWords() string {
	if p.Roll.Own {
		return p.ownDownWords()
	}
	var skipped []string
	used := map[int]bool{}
	last := 0
	for _, x := range p.Roll.Passes {
		used[x.Stop], last = true, x.Stop
	}
	for i := range last {
		if !used[i] {
			skipped = append(skipped, p.Roll.Machine.Stops[i].Label)
		}
	}
	if len(skipped) == 0 {
		return fmt.Sprintf("Every stop to %s, none left out.", p.Roll.TargetStop)
	}
	verb := "are"
	if len(skipped) == 1 {
		verb = "is"
	}
	return fmt.Sprintf("Left out: %s, which %s easy for this dough.", strings.Join(skipped, ", "), verb)
}

func (p *Plan) adviseRoll() {
	o := &p.Roll
	p.adviseOwnDown()
	switch {
	case p.Roped():
	case p.lay.Pin:
		p.advisePin()
	default:
		p.adviseStops()
	}
	if d := p.Dry.Leather; d.Will && !p.Roped() {
		// A sheet that waits on the board dries on one face: twice as long as on the rack.
		open := d.ToMin
		if p.Request.Dry.On != request.OnBoard {
			open *= 2
		}
		if wait := o.MinutesAll - o.TimeMin; o.Pieces > 1 && wait > open {
			p.note(
				request.AtRoll,
				"roll.time",
				Warning,
				"skin",
				"The first sheet skins over.",
				"It would wait %s on the board and stays right for %s. Cut after %s, or cover what waits.",
				measure.Minutes(wait),
				measure.Minutes(open),
				everyPiece(int(open/o.TimeMin)),
			)
		}
	}
	if p.lay.Pin {
		head, them := "Board and pin.", "them"
		if p.Roped() {
			head, them = "The board.", "it"
		}
		p.note(request.AtRoll, "roll.sheet", Caution, "board", head,
			"Scrape and wash %s hot after raw dough, dry %s standing; wood needs no oil that spoils.", them, them)
		return
	}
	p.note(request.AtRoll, "roll.sheet", Caution, "rollers", "Fingers, hair, sleeves, rings.",
		"Keep them from the rollers; unplug or take the crank off before fitting or cleaning. No water on rollers "+
			"unless the maker says so.")
}

// adviseStops is the advice on the way down a machine.
func (p *Plan) adviseStops() {
	o := &p.Roll
	for _, x := range o.Passes {
		if !o.Own && x.Easy > 0 && x.Reduction > x.Easy+1e-9 {
			p.overEasy(x)
			break
		}
	}
	stops := o.Machine.Stops
	first, last := stops[0].TrueMM(), stops[len(stops)-1].TrueMM()
	mm := func(v float64) string { n, _ := p.in.Number(v, measure.MM, 2); return n }
	side := "thicker"
	if o.MissMM < 0 {
		side = "thinner"
	}
	switch miss := math.Abs(o.MissMM); {
	case o.Own: // said among the comments on the own way
	case o.TargetMM < last*(1+o.Spring) && miss > .1*o.TargetMM:
		p.note(request.AtRoll, "roll.sheet", Warning, "too_fine", "Finer than this machine goes.",
			"Its last stop leaves %s; %s is wanted.",
			p.in.MM(o.SheetMM, 2), mm(o.TargetMM))
	case o.TargetMM > first*(1+o.Spring) && miss > .1*o.TargetMM:
		p.note(request.AtRoll, "roll.sheet", Warning, "too_thick", "Thicker than this machine’s widest stop.",
			"It leaves %s; roll it with a pin instead.", p.in.MM(o.SheetMM, 2))
	case miss > .12*o.TargetMM:
		way := fmt.Sprintf("a second pass at stop %s takes a little more off", o.TargetStop)
		if last := o.Passes[len(o.Passes)-1]; o.MissMM < 0 && last.Stop > 0 {
			before := stops[last.Stop-1]
			way = fmt.Sprintf("stop %s would leave %s", before.Label, mm(before.TrueMM()*(1+o.Spring)))
		}
		p.note(
			request.AtRoll,
			"roll.sheet",
			Remark,
			"between_stops",
			"Between two stops.",
			"%s is %s %s than the %s wanted; %s.",
			p.in.MM(o.SheetMM, 2),
			mm(math.Abs(o.MissMM)),
			side,
			mm(o.TargetMM),
			way,
		)
	}
	if p.Formula.feel.Grade <= -3 {
		p.note(request.AtRoll, "roll.sheet", Warning, "too_stiff", "Too stiff for this machine.",
			"So dry it strains crank and motor: Formula says what brings it in. Else pin it thinner first, and feed "+
				"smaller pieces.")
	} else if p.Rest.T > 2*p.rules.Knead.ReadyT && !p.Unrested() {
		p.note(request.AtRoll, "roll.sheet", Warning, "too_stiff", "Too tense for this machine.",
			"It strains crank and motor: Rest says how much longer it wants. Else pin it thinner first, and feed "+
				"smaller pieces.")
	}
	if !o.Calibrated && p.Request.Roll.Own == nil {
		p.note(request.AtRoll, "roll.sheet", Remark, "generic", "A generic machine.",
			"Your own may be off by %.0f %%. Keep it in the cabinet and measure a sheet or two: three leaves of "+
				"office paper are {0.3 mm}, a {100 by "+
				"100 mm} square of %s is %s.",
			100*roll.Unmeasured, p.in.G(o.SheetMM*p.Formula.Dough.DensityGPerML*10, 1), p.in.MM(o.SheetMM, 2))
	} else if !o.Calibrated && len(p.machine.Calibrated) > 0 {
		p.note(request.AtRoll, "roll.sheet", Remark, "seen", "Seen through, not measured.",
			"The gaps go by what was seen through a sheet, so it may be off by %.0f %%. A sheet or two measured in "+
				"the cabinet says it better.", 100*o.Sure)
	} else if !o.Calibrated && p.machine.GapsGuessed {
		p.note(request.AtRoll, "roll.sheet", Remark, "guessed", "The gaps are guessed.",
			"Only the dial is known, so the sheet may be off by %.0f %%: go by a hand or print seen through it, and "+
				"measure three sheets when there is time.",
			100*o.Sure)
	} else if !o.Calibrated {
		p.note(request.AtRoll, "roll.sheet", Remark, "unmeasured", "Not measured yet.",
			"The gaps are as given. Measure a sheet or two in the cabinet; until then the sheet may be off by %.0f %%.",
			100*roll.Unmeasured)
	}
}

// easier names what makes a pass easy: the stop before it twice, a rest, or finer stops, whichever does.
func (p *Plan) easier(x roll.Pass) string {
	var ways []string
	l := p.lay
	if i := x.Stop - x.Skipped - 1; i >= 0 && l.Verdict(1-x.OutMM/l.Sheet(l.Machine.Stops[i].TrueMM(), 2),
		x.Easy) == roll.Safe {
		ways = append(ways, fmt.Sprintf("take stop %s twice", l.Machine.Stops[i].Label))
	}
	if l.T = min(l.T, l.ReadyT); l.Verdict(x.Reduction, l.Easy(x.GapMM)) == roll.Safe {
		ways = append(ways, "rest the sheet ten minutes")
	}
	if x.Skipped > 0 {
		ways = append(ways, "leave no stop out")
	}
	return strings.Join(append(ways, "use a machine with finer stops"), ", or ")
}

// overEasy is the advice on a pass that takes more than is easy: a bold one is worth knowing, a
// tearing one asks for a change.
func (p *Plan) overEasy(x roll.Pass) {
	level, head := Remark, fmt.Sprintf("Stop %s is a bold step.", x.Label)
	if p.lay.SurelyTears(x) {
		level, head = Warning, fmt.Sprintf("Stop %s may tear it.", x.Label)
	}
	p.note(request.AtRoll, "roll.sheet", level, "over", head,
		"%.0f %% off where %.0f %% is easy. %s.", 100*x.Reduction, 100*x.Easy, measure.Capital(p.easier(x)))
}

// advisePin is the advice on a sheet under the pin.
func (p *Plan) advisePin() {
	o, m := &p.Roll, p.machine
	mm := func(v float64) string { n, _ := p.in.Number(v, measure.MM, measure.Shortest); return n }
	if !o.FitsBoard {
		p.note(request.AtRoll, "roll.sheet", Warning, "board_small", "The board is too small.",
			"A sheet of %s where the board has %s by %s: divide it, or let the edge hang over and roll it in halves; "+
				"the overhang lets its weight help.",
			p.in.Long(o.LengthMM), mm(m.BoardLengthMM), mm(m.BoardWidthMM))
	}
	if across := min(o.WidthMM, o.LengthMM); across > m.WidthMM+1 {
		p.note(request.AtRoll, "roll.sheet", Remark, "pin_short", "Wider than the pin.",
			"%s of sheet under a pin of %s: roll from the middle outwards, turning it a little each time.",
			p.in.Long(across), mm(m.WidthMM))
	}
}

// StopWords are the stops of a way down, one after the other: "0 2 5 7".
func StopWords(passes []roll.Pass) string {
	var out []string
	for i, x := range passes {
		if i == 0 || x.Label != passes[i-1].Label {
			out = append(out, x.Label)
		}
	}
	if len(out) > 7 {
		return out[0] + " to " + out[len(out)-1]
	}
	return strings.Join(out, " ")
}

// ownDownWords is the maker's own way down set beside Hollen's.
func (p *Plan) ownDownWords() string {
	o, h := &p.Roll, p.Hollens()
	stops := func(x []roll.Pass) string {
		if p.lay.Pin {
			return measure.Plural(len(x), "stage", "stages")
		}
		return StopWords(x) + " in " + measure.Plural(len(x), "pass", "passes")
	}
	takes := func(w *roll.Progression) string { return strings.TrimSuffix(measure.MinSec(60*w.TimeMin), " 00") }
	return fmt.Sprintf("Your own way, as you say it: %s, %s a piece. Worked out it would be %s: %s, %s at %s.",
		stops(o.Passes), takes(&o.Progression),
		stops(h.Passes), takes(h), p.in.Long(h.LengthMM), p.in.MM(h.SheetMM, 2))
}

// FirstWords is what is done to the sheet before a pass, "" nothing.
func FirstWords(x roll.Pass) string {
	switch x.First {
	case roll.Halve:
		return "halve first"
	case roll.Quarter:
		return "cut in four first"
	case roll.TrimFirst:
		return "trim it square first"
	case roll.TurnIt:
		return "a quarter turn first"
	case roll.Belt:
		return "join its ends to a belt first, and cut it open when it is long enough"
	case roll.LayOn:
		return "lay the strips on first"
	case roll.Wait:
		if x.RestMin > 0 {
			return "let it rest " + measure.Exactly(x.RestMin) + " first"
		}
		return "let it rest first"
	}
	if x.Halved {
		return "halve first"
	}
	return ""
}

// FirstShort is what is done to the sheet before a pass of an own way, in a word or two; "" nothing, or halving, which
// is said by itself.
func FirstShort(x roll.Pass) string {
	if x.First == roll.Wait && x.RestMin > 0 {
		return "rest " + measure.Exactly(x.RestMin)
	}
	return map[roll.First]string{roll.TrimFirst: "trim", roll.Belt: "belt, cut open at last", roll.LayOn: "strips on",
		roll.TurnIt: "quarter turn", roll.Quarter: "in four", roll.Wait: "rest"}[x.First]
}

// PassSigns say by what the i-th pass of a piece is right: a fold by its place among the folds, a thin sheet of plain
// dough by what is seen through it.
func (p *Plan) PassSigns(i int) []string {
	all := p.Roll.Passes
	x := all[i]
	if x.Fold > 0 {
		nth, folds := 0, 0
		for j, y := range all {
			if y.Fold > 0 {
				if folds++; j <= i {
					nth++
				}
			}
		}
		switch {
		case nth == folds:
			return []string{"Silky, one colour, straight edges: it stretches, and springs back."}
		case nth == 1:
			return []string{"Ragged edges and streaks are normal now."}
		}
		return []string{"Smoother from fold to fold, the edges straighter."}
	}
	out := []string{"Straight edges, the full width, one colour."}
	if len(p.Formula.Additions) > 0 {
		return out
	}
	for _, seen := range roll.Seens() {
		if mm, _ := seen.MM(); x.OutMM <= mm && x.InMM > mm {
			out = append(out, "About here "+seen.Words()+".")
		}
	}
	return out
}

// Word is one word on a pass: easy, firm, bold or tearing; "" where that is not asked.
func (p *Plan) Word(x roll.Pass) string {
	if p.lay.Pin {
		return ""
	}
	return p.lay.Word(x)
}

// adviseOwnDown comments on the maker's own way down; none of it changes it.
func (p *Plan) adviseOwnDown() {
	o, r := &p.Roll, &p.Request.Roll
	if r.By == request.WayOwn && len(r.Steps) == 0 && !p.Roped() {
		p.note(request.AtRoll, "roll.sheet", Remark, "no_passes", "No pass of your own yet.",
			"Until there is one, the way down is worked out.")
	}
	if !o.Own {
		return
	}
	var bold, tearing []string
	untouched := ""
	for i, x := range o.Passes {
		to := x.Label
		if i > 0 && o.Passes[i-1].Label != x.Label {
			to = o.Passes[i-1].Label + " to " + x.Label
		}
		switch p.Word(x) {
		case roll.Bold:
			bold = append(bold, to+" "+offWords(x))
		case roll.Tearing:
			tearing = append(tearing, to+" "+offWords(x))
		}
		if !p.lay.Pin && x.Stop >= 0 && x.Fold == 0 && x.Nth == 1 && x.OutMM >= x.InMM-1e-9 && untouched == "" {
			untouched = x.Label
		}
	}
	if len(tearing) > 0 {
		p.note(request.AtRoll, "roll.sheet", Warning, "own_tears", "It may tear.",
			"%s: one more pass before it, or a stop between, spares the sheet.",
			measure.Capital(measure.List(tearing)))
	} else if len(bold) > 0 {
		p.note(request.AtRoll, "roll.sheet", Remark, "own_bold", "Bold, and done.",
			"%s: keep the sheet dusted and feed it straight.",
			measure.Capital(measure.List(bold)))
	}
	if untouched != "" {
		p.note(request.AtRoll, "roll.sheet", Remark, "untouched", "Nothing to press.",
			"At stop %s the sheet is thinner than the gap: it goes through as it is.", untouched)
	}
	if i := slices.IndexFunc(o.Passes, func(x roll.Pass) bool { return x.Stop >= 0 }); i > 0 && !p.lay.Pin {
		if x, most := o.Passes[i], p.rules.Roll.PressedGaps; x.InMM > most*x.GapMM+1e-9 && x.Fold == 0 {
			p.note(request.AtRoll, "roll.sheet", Remark, "pinned_thick", "Thick for the first stop.",
				"Pinned to %s it is more than %.0f times the gap of stop %s: "+
					"pin it to %s, or begin wider.", p.in.MM(x.InMM, measure.Shortest), most, x.Label,
				p.in.MM(most*x.GapMM,
					0))
		}
	}
	if x, ok := o.LaidOn(); ok && !p.lay.Pin {
		s := &r.Stripes
		p.note(request.AtRoll, "roll.sheet", Remark, "lay_on", "Strips of which dough?",
			"Strips of %s are laid on before stop %s, and the sheet is counted with them: %s after it. They are of a "+
				"second dough, or of this one: a second dough for this batch says how much it takes.",
			p.in.MM(s.StripeMM, 2), x.Label, p.in.MM(x.OutMM, 2))
	}
	p.adviseOwnLong()
	if o.TargetMM > 0 && math.Abs(o.SheetMM-o.TargetMM) > ownMiss*o.TargetMM {
		than, bite := "thicker", "more bite"
		if o.SheetMM < o.TargetMM {
			than, bite = "thinner", "less bite"
		}
		p.note(request.AtRoll, "roll.sheet", Remark, "own_sheet", fmt.Sprintf("%s than usual.", measure.Capital(than)),
			"%s where %s is usual for %s: %s.",
			p.in.MM(o.SheetMM, 2), p.in.MM(o.TargetMM, 2), strings.ToLower(p.shape.Name), bite)
	}
}

// offWords says how much a pass takes off, and how much is easy.
func offWords(x roll.Pass) string {
	off, easy := fmt.Sprintf("%.0f", 100*x.Reduction), fmt.Sprintf("%.0f", 100*x.Easy)
	if off == easy {
		return "(" + off + " % off, just over what is easy)"
	}
	return "(" + off + " % off, " + easy + " % is easy)"
}

// ownMiss is by how much the sheet of an own way may miss the usual before it is said, share. Source: house.
const ownMiss = .12

// adviseOwnLong says where a sheet of the maker's own way outgrows the bench.
func (p *Plan) adviseOwnLong() {
	bench := p.Request.Roll.BenchMM
	if p.lay.Pin || bench == 0 {
		return
	}
	for _, x := range p.Roll.Passes {
		if x.First == roll.Belt {
			return // a belt runs round
		}
		if x.LengthMM > bench {
			p.note(request.AtRoll, "roll.sheet", Remark, "own_long", "Longer than the bench.",
				"At stop %s it is %s long on a bench of %s: halve it before, or catch it folded.",
				x.Label, p.in.Long(x.LengthMM), p.in.Long(bench))
			return
		}
	}
}
