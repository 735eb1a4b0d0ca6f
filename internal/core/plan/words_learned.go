package plan

import (
	"fmt"
	"math"
	"strings"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// LearnedCode begins the code of every note that says what the log has moved.
const LearnedCode = "learned_"

// whoWanted are the batches and small doughs something is learned from.
func whoWanted(h *rules.LearnedPoints) string {
	var who string
	switch n := h.N - h.Doughs; {
	case n == 1:
		who = "Your one batch"
	case n > 1:
		who = fmt.Sprintf("Your %d batches", n)
	}
	switch {
	case h.Doughs > 0 && who != "":
		who += " and small doughs"
	case h.Doughs > 0:
		who = "Your small doughs"
	}
	return who
}

// adviseLearned says beside each number what the log moves it by.
func (p *Plan) adviseLearned() {
	l := &p.rules.Learned
	if h := l.Hw; h.N > 0 {
		head := fmt.Sprintf("%s wanted %.1f points more than the book", whoWanted(&h), h.Points)
		word := "more"
		if h.Points < 0 {
			word = "less"
			head = strings.Replace(head, fmt.Sprintf("%.1f points more", h.Points), fmt.Sprintf("%.1f points less",
				-h.Points), 1)
		}
		var causes []string
		for i, part := range h.Parts {
			if names := []string{"kitchen", "this flour", "this lot", "maker", "eggs",
				"season"}; math.Abs(part) >= .05 && i < len(names) {
				causes = append(causes, names[i]+" "+strings.Replace(fmt.Sprintf("%+.1f", part), "-", "−", 1))
			}
		}
		text := "Right within"
		if len(causes) > 0 {
			text = "(" + strings.Join(causes, ", ") + "), right within"
		} else {
			head += "."
		}
		text += fmt.Sprintf(" %.1f nine times in ten", h.Within)
		if water := math.Abs(h.Points) * p.Formula.Blend.F14G / 100; water >= .5 {
			text += fmt.Sprintf(": %s %s water here", p.in.Whole(math.Round(water)), word)
		}
		text += "."
		p.note(request.AtFormula, "formula.hw", Remark, "learned_hw", head, "%s", text)
		p.adviseLast(h.Last)
	}
	by := func(s request.Stage, field, code string, x rules.LearnedBy, slower, sooner string) {
		if x.N == 0 || math.Abs(x.By-1) < .02 { // as the book says, to the hand
			return
		}
		words := fmt.Sprintf(slower, percent(x.By-1))
		if x.By < 1 {
			words = fmt.Sprintf(sooner, percent(1-x.By))
		}
		p.note(s, field, Remark, code, Looks(x.N), "%s; nine times in ten between %s and %s of the book’s.", words,
			percent(x.From), percent(x.To))
	}
	for _, g := range l.Gaps {
		if g.Stop == p.Roll.TargetStop && g.N > 0 && !p.Roped() && math.Abs(g.By-1) >= .01 {
			word := "more"
			if g.By < 1 {
				word = "less"
			}
			p.note(request.AtRoll, "roll.sheet", Remark, "learned_gap", fmt.Sprintf("By %s of this machine",
				measure.Plural(g.N, "sheet", "sheets")),
				"stop %s gives %.0f %% %s than its gap says, within %.0f %%.", g.Stop, 100*math.Abs(g.By-1), word,
				100*g.Within)
		}
	}
	by(request.AtKnead, "knead.min", "learned_knead", l.Knead, "Your hands need %s longer than the book",
		"Your hands are %s sooner done than the book")
	by(request.AtRest, "rest.min", "learned_rest", l.Rest,
		"This dough relaxes more slowly than the book says: %s longer",
		"This dough relaxes sooner than the book says: %s shorter")
	by(request.AtDry, "dry.window", "learned_dry", l.Dry, "Leather comes %s later here than by the book",
		"Leather comes %s sooner here than by the book")
	by(request.AtCook, "cook.time", "learned_cook", l.Cook, "To your taste it stays in the pot %s longer",
		"To your taste it comes out %s sooner")
	by(request.AtRoll, "roll.pieces", "learned_loss", l.Loss, "%s more than the book’s stays on bowl and board",
		"%s less than the book’s stays on bowl and board")
	by(request.AtCut, "cut.scraps", "learned_trim", l.Trim, "Your trimmings come to %s more than the layout’s",
		"Your trimmings come to %s less than the layout’s")
	if s := l.Shrink; s.N > 0 && p.Cut.LengthMM > 0 && math.Abs(s.Share-p.rules.Learn.ShrinkShare) >= .005 {
		long := p.in.Long(p.Cut.LengthMM)
		p.note(request.AtCut, "cut.nests", Remark, "learned_shrink", Looks(s.N),
			"Your ribbons pull in %s, give or take %.1f: for %s in the end, cut %s.", percent(s.Share), 100*s.Within,
			long, p.in.Long(p.Cut.LengthMM/(1-s.Share)))
	}
	by(request.AtCut, "cut.scraps", "learned_hands", l.Hands, "Cutting and forming take you %s longer than the book",
		"Cutting and forming take you %s less than the book")
}

// adviseLast says what the newest word on a dough has changed here, where that is a gram of water or more.
func (p *Plan) adviseLast(last *rules.LastWord) {
	if last == nil || last.Felt < -2 || last.Felt > 2 {
		return
	}
	said, err := time.Parse(time.DateOnly, last.On)
	if err != nil {
		return
	}
	water := last.Points * p.Formula.Blend.F14G / 100
	if math.Abs(water) < 1 {
		return
	}
	when := "on " + said.Format("2 January")
	if on, err := time.Parse(time.DateOnly, p.Request.MadeOn); err == nil {
		switch days := int(on.Sub(said).Hours() / 24); {
		case days == 0:
			when = "earlier today"
		case days == 1:
			when = "yesterday"
		case days > 1 && days < 7:
			when = "on " + said.Format("Monday")
		}
	}
	word := "more"
	if water < 0 {
		word = "less"
	}
	felt := []string{"Too dry", "A little dry", "Right", "A little wet", "Too wet"}[last.Felt+2]
	p.note(
		request.AtFormula,
		"formula.hw",
		Remark,
		"learned_last",
		felt+" "+when+":",
		"%s %s water than without that.",
		p.in.Whole(math.Round(math.Abs(water))),
		word,
	)
}

// Looks says what something stands on.
func Looks(n int) string {
	if n == 1 {
		return "From one look."
	}
	return fmt.Sprintf("From %d looks.", n)
}

func percent(share float64) string { return fmt.Sprintf("%.0f %%", 100*share) }
