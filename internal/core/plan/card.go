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
}

// forTheDough returns what is weighed out for the dough, in the order of work.
func (p *Plan) forTheDough() []Amount {
	f, r := &p.Formula, &p.Request
	var out []Amount
	add := func(what, much, note string) { out = append(out, Amount{what, much, note}) }
	for i, x := range f.Flours {
		note := ""
		if i == 0 {
			note = fmt.Sprintf("of all flour hold %s back", p.in.Grams(f.HeldBackG))
		}
		add(x.Name, p.in.Grams(x.Share*p.Room.FlourG), note)
	}
	switch {
	case f.Weighed():
		add("Egg, beaten", p.in.Grams(f.Pick.EggG), "about "+EggWords(f.Pick.Whole, f.Pick.Yolks))
	case f.Pick.Whole+f.Pick.Yolks > 0:
		note := ""
		if f.Pick.WhitesG > 0 {
			note = p.in.Grams(f.Pick.WhitesG) + " of white left over"
		}
		add("Eggs, "+p.EggClass().Name, EggWords(f.Pick.Whole, f.Pick.Yolks), strings.TrimSuffix(p.in.Grams(f.Pick.EggG-f.AlsoG)+" beaten; "+note, "; "))
	}
	if also := p.AlsoWords(); also != "" {
		add("With them", also, p.in.Grams(f.AlsoG))
	}
	pour, keep := math.Round(p.Room.PourG), math.Round(p.Room.KeepG)
	if r.Eggs.TopUp != egg.TopNone && pour+keep > 0 {
		note := ""
		switch {
		case pour == 0:
			pour, note = keep, "kept in reach, in case"
		case keep > 0:
			note = fmt.Sprintf("and %s by the board", p.in.Whole(keep))
		}
		add(measure.Capital(p.TopWord()), p.in.Whole(pour), note)
	}
	if f.SaltG > 0 {
		add("Salt", p.in.Grams(f.SaltG), "")
	}
	if f.OilG > 0 {
		add("Oil", p.in.Grams(f.OilG), "")
	}
	for _, a := range f.Additions {
		add(a.Name, p.in.Grams(a.MassG), "")
	}
	return out
}

// filling is the line of the filling.
func (p *Plan) filling() Amount {
	what := "Filling"
	if n := p.Request.Cut.Filling.Name; n != "" {
		what = "Filling: " + n
	}
	return Amount{what, p.in.Grams(p.Cut.FillTotalG), p.in.Grams(p.fillEach()) + " in each"}
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

// Code is the batch code that stands on sheet and label: the day it is made and the number of
// the batch, "281126-7"; only the number where the day is not said.
func (p *Plan) Code(id uint64) string {
	if t, err := time.Parse(time.DateOnly, p.Request.MadeOn); err == nil {
		return fmt.Sprintf("%s-%d", t.Format("020106"), id)
	}
	return fmt.Sprint(id)
}
