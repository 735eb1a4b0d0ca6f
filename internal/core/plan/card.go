package plan

import (
	"fmt"
	"math"
	"strings"
	"time"

	"hollen/internal/core/egg"
	"hollen/internal/core/measure"
)

// Amount is one line to weigh out or count.
type Amount struct {
	What string `json:"what"`
	Much string `json:"much"` // "540 g", "9 eggs"
	Note string `json:"note,omitempty"`
	Line string `json:"line"` // the same as a recipe says it: "7 eggs (EU large, 420 g without shells)"
}

// Now is the amount that is read first, of what is split what goes in at once.
func (a Amount) Now() string {
	now, _, _ := strings.Cut(a.Much, " + ")
	return strings.TrimSuffix(now, " now")
}

// Then is what of it stays out; "" where all goes in at once.
func (a Amount) Then() string {
	if _, then, split := strings.Cut(a.Much, " + "); split {
		return "+ " + then
	}
	return ""
}

// forTheDough returns what is weighed out for the dough, in the order of work.
func (p *Plan) forTheDough() []Amount {
	f, r := &p.Formula, &p.Request
	var out []Amount
	add := func(what, much, note, line string) { out = append(out, Amount{what, much, note, line}) }
	plain := func(what, much string) { add(what, much, "", much+" "+strings.ToLower(what)) }
	// Parts poured later or held back have lines of their own, so they are left out here.
	now, held := p.in.Whole(math.Round(p.Room.FlourG)-math.Round(f.HeldBackG)), p.in.Whole(math.Round(f.HeldBackG))
	for i, x := range f.Flours {
		much, name := p.muchOf(fmt.Sprintf("flour.%d", i+1), x.Share*p.Room.FlourG), x.Name
		if low := strings.ToLower(name); !strings.Contains(low, "flour") && !strings.Contains(low, "semol") {
			name += " flour"
		}
		line := much + " " + name
		if i == 0 && f.HeldBackG > 0 {
			line += fmt.Sprintf(" (hold %s of all flour back)", held)
		}
		if len(f.Flours) > 1 || f.HeldBackG == 0 {
			note := ""
			if i == 0 && f.HeldBackG > 0 {
				note = "of all flour " + now + " now, " + held + " held back"
			}
			if f.OpenG > f.FlourG && len(f.Flours) == 1 {
				note = "about " + p.in.Grams(f.FlourG) + " goes in"
			}
			add(x.Name, much, note, line)
		} else {
			add(x.Name, now+" now + "+held+" held back", much+" in all", line)
		}
	}
	out = append(out, p.eggAmounts()...)
	if also := p.AlsoWords(); also != "" {
		add("With them", also, p.in.Grams(f.AlsoG), fmt.Sprintf("%s eggs (%s without shells)", also,
			p.in.Grams(f.AlsoG)))
	}
	pour, keep := math.Round(p.Room.PourG), math.Round(p.Room.KeepG)
	if r.Eggs.TopUp != egg.TopNone && pour+keep > 0 {
		much, line := p.in.Whole(pour)+" now", p.in.Whole(pour+keep)+" "+p.TopWord()
		switch {
		case pour == 0:
			much = p.in.Whole(keep) + " by the board"
			line += " (by the board, only if the dough asks)"
		case keep > 0:
			much += " + " + p.in.Whole(keep) + " by the board"
			line += fmt.Sprintf(" (%s of it by the board, only if the dough asks)", p.in.Whole(keep))
		}
		if said := p.asSaid("top"); said != "" {
			much, line = said, said+" "+p.TopWord()
		}
		if f.OpenLiquidG > f.TopG {
			line += " (about " + p.in.Grams(f.TopG) + " goes in)"
		}
		add(measure.Capital(p.TopWord()), much, "", line)
	}
	for _, x := range p.Weighed() {
		plain(x.Name, p.muchOf(x.Key, x.G))
	}
	if n := p.BowlLoads(); n > 1 {
		add("Each load of the bowl", fmt.Sprintf("%d loads", n), p.loadWords(), "")
	}
	return out
}

// eggAmounts are the lines of the eggs: counted, or beaten and weighed.
func (p *Plan) eggAmounts() (out []Amount) {
	f := &p.Formula
	count := EggWords(f.Pick.Whole, f.Pick.Yolks)
	switch {
	case f.Pick.Beaten:
		add := func(what, of string, n int, one, many string, g, left float64) {
			if g <= .05 {
				return
			}
			note := "crack " + measure.Plural(n, one, many)
			if left >= .5 {
				note += fmt.Sprintf(", %s left", p.in.Grams(left))
			}
			out = append(out, Amount{what, p.fineGrams(g), note, fmt.Sprintf("%s %s (%s)", p.fineGrams(g), of, note)})
		}
		add("Egg, beaten", "beaten egg", f.Pick.Whole, "egg", "eggs", f.Pick.WholeG-f.AlsoG, f.Pick.LeftG)
		add("Yolk", "egg yolk", f.Pick.Yolks, "egg", "eggs", f.Pick.YolkG, f.Pick.LeftYolkG)
	case f.Weighed():
		g := p.in.Grams(f.Pick.EggG)
		out = append(out, Amount{"Egg, beaten", g, "about " + count, fmt.Sprintf("%s beaten egg (about %s)", g, count)})
	case f.Pick.Whole+f.Pick.Yolks > 0:
		g, note := p.in.Grams(f.Pick.EggG-f.AlsoG), ""
		if f.Pick.WhitesG > 0 {
			note = p.in.Grams(f.Pick.WhitesG) + " of white left over"
		}
		out = append(out, Amount{"Eggs, " + p.EggClass().Name, count, strings.TrimSuffix(g+" beaten; "+note, "; "),
			fmt.Sprintf("%s (%s, %s without shells)", count, p.EggClass().Name, g)})
	}
	return out
}

// filling is the line of the filling.
func (p *Plan) filling() Amount {
	what := "Filling"
	if n := p.Request.Cut.Filling.Called(); n != "" {
		what = "Filling: " + n
	}
	much, note := p.in.Grams(p.Cut.FillTotalG), p.in.Grams(p.fillEach())+" in each"
	return Amount{what, much, note, fmt.Sprintf("%s %s (%s)", much, strings.Replace(strings.ToLower(what), "filling: ",
		"filling of ", 1), note)}
}

// fillEach is the filling of one piece of the first filled shape, g.
func (p *Plan) fillEach() float64 {
	for _, x := range p.Cut.Parts() {
		if x.Filling != nil {
			return x.Filling.PieceG
		}
	}
	return 0
}

// cutCard is the cut of a part in a line.
func (p *Plan) cutCard(x *CutPart) string {
	if x.Count == 0 {
		return "None fits: " + strings.ToLower(x.Shape.Name) + "."
	}
	return measure.Capital(strings.ToLower(x.Shape.Name)) + families[x.Shape.Family].card(p, x)
}

// Code is the batch code that stands on sheet and label: the day it is made, its month in letters so that
// nobody reads it two ways, and the number of the batch, "28NOV26-7"; only the number where the day is not said.
func (p *Plan) Code(id uint64) string {
	if t, err := time.Parse(time.DateOnly, p.Request.MadeOn); err == nil {
		return fmt.Sprintf("%s-%d", strings.ToUpper(t.Format("02Jan06")), id)
	}
	return fmt.Sprint(id)
}
