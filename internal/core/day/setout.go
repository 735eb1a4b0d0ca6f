package day

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/rules"
	"hollen/internal/core/schedule"
)

// Need is what a day takes of one thing, over all its batches.
type Need struct {
	Kind  NeedKind `json:"kind"`
	Name  string   `json:"name"`
	Lot   string   `json:"lot,omitempty"`
	MassG float64  `json:"mass_g,omitempty"`
	Whole int      `json:"whole,omitempty"` // eggs
	Yolks int      `json:"yolks,omitempty"` // more of them, alone
	Note  string   `json:"note,omitempty"`
	Short bool     `json:"short,omitempty"` // there is less than that, or it is past its day
	limit float64
	best  string
}

// NeedKind is what kind of thing is needed.
type NeedKind string

// Kinds of things a day needs.
const (
	NeedFlour NeedKind = "flour"
	NeedEggs  NeedKind = "eggs"
	NeedElse  NeedKind = "else"
)

// SetOut adds up what the plans of a day need: flour by kind and lot, eggs by class, the rest by name. Date is the day,
// by which
// what is past its day is pointed out; so is what a full container does not hold.
func SetOut(plans []*plan.Plan, date string) []Need {
	var out []Need
	add := func(n Need) {
		at := slices.IndexFunc(out, func(o Need) bool { return o.Kind == n.Kind && o.Name == n.Name && o.Lot == n.Lot })
		if at < 0 {
			out = append(out, n)
			return
		}
		out[at].MassG = out[at].MassG + n.MassG
		out[at].Whole = out[at].Whole + n.Whole
		out[at].Yolks = out[at].Yolks + n.Yolks
	}
	for _, p := range plans {
		f := &p.Formula
		for i, x := range f.Flours {
			n := Need{Kind: NeedFlour, Name: x.Name, MassG: x.MassG}
			if i < len(p.Request.Flours) {
				if lot := p.Request.Flours[i].LotKept; lot != nil {
					n.Lot = lot.Name
					n.limit = 1000 * lot.ContainerKG
					n.best = lot.BestBefore
				}
			}
			add(n)
		}
		if f.Pick.Whole+f.Pick.Yolks > 0 {
			add(Need{Kind: NeedEggs, Name: p.Request.Eggs.Kind().Name, Whole: f.Pick.Whole, Yolks: f.Pick.Yolks})
		}
		for _, e := range p.Request.Eggs.Also {
			add(Need{Kind: NeedEggs, Name: e.Kind().Name, Whole: int(math.Round(e.Count))})
		}
		for _, x := range p.DoughParts() {
			if x.Key != "eggs" && !strings.HasPrefix(x.Key, "flour.") && !x.WorkedIn {
				add(Need{Kind: NeedElse, Name: x.Name, MassG: x.G})
			}
		}
		parts := p.FillingParts()
		if made := p.FillingMade(); made != "" {
			add(Need{Kind: NeedElse, Name: fmt.Sprintf("Filling of %s for %s", measure.DayWords(made), p.Request.Name),
				MassG: p.Cut.FillTotalG})
			continue
		}
		for _, x := range parts {
			add(Need{Kind: NeedElse, Name: x.Name, MassG: x.G})
		}
		if p.Cut.FillTotalG > 0 && len(parts) == 0 {
			add(Need{Kind: NeedElse, Name: "Filling for " + p.Request.Name, MassG: p.Cut.FillTotalG})
		}
	}
	for i := range out {
		n := &out[i]
		if n.limit > 0 && n.MassG > n.limit {
			n.Short, n.Note = true, fmt.Sprintf("a full container holds %.0f kg", n.limit/1000)
		}
		if _, err := measure.Day(n.best); err == nil && n.best < date {
			n.Short, n.Note = true, "best before "+n.best
		}
	}
	return out
}

// Chill lets every dough that rests in the room rest in the fridge instead: longer at the least, and for as long as a
// day.
func Chill(d *schedule.Day, ru rules.Day) {
	colder := map[int]bool{}
	for i := range d.Lags {
		l := &d.Lags[i]
		if l.What != schedule.Resting || d.Tasks[l.B.Task].Kind != schedule.Roll {
			continue
		}
		l.What = schedule.InCold
		l.Min = max(l.Min, ru.ColdLeastMin+ru.TemperMin)
		l.Max = max(ru.ColdMostMin, l.Max)
		if b := d.Tasks[l.A.Task].Batch; !colder[b] {
			colder[b] = true
			d.Holds = append(d.Holds, schedule.Hold{From: l.A, To: l.B, Store: AtFridge, Quantity: 1})
		}
	}
	d.Lags = slices.DeleteFunc(d.Lags, func(l schedule.Lag) bool {
		return l.What == schedule.Warm && colder[d.Tasks[l.A.Task].Batch] && d.Tasks[l.A.Task].Kind != schedule.Roll
	})
	d.Waits = slices.DeleteFunc(d.Waits, func(w schedule.Wait) bool { return colder[d.Tasks[w.A].Batch] })
	d.KeepNeeds()
}
