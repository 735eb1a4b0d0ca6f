package day

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/order"
)

// Like is what an order may be made like: a recipe, or a batch that is of none. The zero value is nothing.
type Like struct {
	ID     uint64
	Recipe bool
}

// recipeMark begins a recipe’s number as forms write it.
const recipeMark = "recipe-"

// String is the number as forms write it: recipe-7, or 7 of a batch.
func (l Like) String() string {
	if l.Recipe {
		return recipeMark + strconv.FormatUint(l.ID, 10)
	}
	return strconv.FormatUint(l.ID, 10)
}

// ReadLike reads what String wrote; an error where it names nothing.
func ReadLike(s string) (Like, error) {
	number, recipe := strings.CutPrefix(s, recipeMark)
	id, err := strconv.ParseUint(number, 10, 63)
	if err == nil && id == 0 {
		err = strconv.ErrRange
	}
	return Like{id, recipe}, err
}

// Proposal is a batch the orders of a day need: one dough for all of them that ask for the same.
type Proposal struct {
	Source   Like     // what it is made like; nothing: nothing was found, or the maker is asked
	Fits     []Known  // that it may be made like, the likeliest first
	Ask      string   // why the maker is asked; "" where nothing is in doubt
	What     string   // as the orders call it
	Orders   []uint64 // that it serves
	Who      []string
	Notes    []string
	Said     []order.Amount // of each of them
	Portions float64        // of all of them; what is said otherwise counts once it is known what it is made like
	Due      int            // the first of them
	Made     float64        // it makes; what is over is to spare
}

// Known is a recipe, or a batch of none, that an order may be made like.
type Known struct {
	Like
	Name, Shape string
	Kept        string   // fridge, freezer, shelf; "" where it is cooked the same day
	Names       []string // what a recipe is called besides
}

// lasting says whether a batch is dried or frozen: nothing an order gets without asking for it.
func (k Known) lasting() bool { return k.Kept == "freezer" || k.Kept == "shelf" }

// Propose finds what orders are to be made like: those asking for the same are made of one dough, scaled to the sum.
// Recipes go before batches of none, which come the newest first; alike says whether two are the same thing. An order
// with a note stands by itself, and its maker is asked: what is written there may not go with the dough.
func Propose(wants []Want, known []Known, alike func(a, b Like) bool) (out []Proposal) {
	for _, w := range wants {
		if len(w.Jobs) > 0 {
			continue
		}
		f := Find(w.What, known)
		source, ask := f.One(alike)
		if w.Note != "" {
			source, ask = Like{}, "It has a note: "+w.Note
		}
		at := slices.IndexFunc(out, func(p Proposal) bool {
			return w.Note == "" && len(p.Notes) == 0 && (source != Like{} && p.Source == source || source == Like{} &&
				strings.EqualFold(p.What, w.What))
		})
		if at < 0 {
			out = append(out, Proposal{Source: source, Fits: f.Fits, Ask: ask, What: w.What, Due: w.Due})
			at = len(out) - 1
		}
		p := &out[at]
		if w.Note != "" {
			p.Notes = append(p.Notes, w.Note)
		}
		p.Orders = append(p.Orders, w.ID)
		p.Who = append(p.Who, w.Who)
		p.Said = append(p.Said, w.Asked())
		p.Portions = p.Portions + w.Count
		p.Due = min(p.Due, w.Due)
	}
	return out
}

// Found is what words may mean among what is known.
type Found struct {
	Fits   []Known // recipes, else batches, the newest first
	Nearly bool    // spelt nearly so: proposed, never taken
	Kept   string  // the order asks for it kept so: freezer, shelf
}

// Find finds what words mean: a recipe before a batch of none. Of each those of that name or other name, else those of
// that shape, before others those that are called by it, else those whose shape, then whose name or shape, holds all of
// the words, else those whose shape is spelt nearly so. What is dried or frozen comes after what is not.
func Find(what string, known []Known) Found {
	var kinds [2][]Known
	for _, k := range known {
		at := 1
		if k.Recipe {
			at = 0
		}
		kinds[at] = append(kinds[at], k)
	}
	whole := order.Fold(what)
	if whole == "" {
		return Found{}
	}
	place, bare := order.Keeping(whole)
	for _, want := range []string{whole, bare} {
		for _, all := range kinds {
			if place != "" && want == bare && want != whole {
				all = slices.DeleteFunc(slices.Clone(all), func(k Known) bool { return k.Kept != place })
			}
			if fits := meant(want, all); len(fits) > 0 {
				return Found{Fits: fits, Kept: place}
			}
		}
	}
	for _, all := range kinds {
		if fits := chosen(all, func(k Known) bool {
			name := order.Fold(k.Shape)
			return !order.OtherShape(bare, name) && nearly([]rune(bare), []rune(name))
		}); len(fits) > 0 {
			return Found{fits, true, place}
		}
	}
	return Found{Nearly: true}
}

// meant are those that folded words mean.
func meant(want string, known []Known) []Known {
	named := func(k Known) bool { return strings.Contains(order.Fold(k.Name), want) }
	holds := func(text string) bool {
		text = " " + order.Fold(text)
		for _, w := range strings.Fields(want) {
			if !strings.Contains(text, " "+w) {
				return false
			}
		}
		return true
	}
	for _, fits := range []func(Known) bool{
		func(k Known) bool {
			return order.Fold(k.Name) == want ||
				slices.ContainsFunc(k.Names, func(n string) bool { return order.Fold(n) == want })
		},
		func(k Known) bool { return order.Fold(k.Shape) == want && named(k) },
		func(k Known) bool { return order.Fold(k.Shape) == want },
		func(k Known) bool { return holds(k.Shape) },
		func(k Known) bool { return holds(k.Name + " " + k.Shape) },
	} {
		if all := chosen(known, fits); len(all) > 0 {
			return all
		}
	}
	return nil
}

// chosen are those that fit, the dried or frozen ones last.
func chosen(known []Known, fits func(Known) bool) (out []Known) {
	var last []Known
	for _, k := range known {
		switch {
		case !fits(k):
		case k.lasting():
			last = append(last, k)
		default:
			out = append(out, k)
		}
	}
	return append(out, last...)
}

// MostCompared is how many batches that fit are looked at for whether they are the same thing made again.
const MostCompared = 40

// One is the one that is meant, nothing and why where its maker is asked: several differ, it is spelt otherwise, or all
// there is is dried or frozen.
func (f Found) One(alike func(a, b Like) bool) (like Like, ask string) {
	if len(f.Fits) == 0 {
		return Like{}, "Nothing here is called that."
	}
	first := f.Fits[0]
	switch {
	case f.Nearly:
		return Like{}, "Is that " + strings.ToLower(first.Shape) + "?"
	case first.lasting() && first.Kept != f.Kept:
		return Like{}, "What fits is dried or frozen."
	}
	for _, k := range f.Fits[1:min(len(f.Fits), MostCompared)] {
		if k.lasting() && k.Kept != f.Kept {
			break
		}
		if alike != nil && !alike(first.Like, k.Like) {
			return Like{}, "Several fit, and differ."
		}
	}
	return first.Like, ""
}

// nearly says whether two words of at least six letters are alike but for two letters: left out, put in, or others.
func nearly(a, b []rune) bool {
	if len(a) < 6 || len(b) < 6 || len(a)-len(b) > 2 || len(b)-len(a) > 2 {
		return false
	}
	row := make([]int, len(b)+1)
	for j := range row {
		row[j] = j
	}
	for i := range a {
		before := row[0]
		row[0] = i + 1
		for j := range b {
			other := before
			if a[i] != b[j] {
				other++
			}
			before = row[j+1]
			row[j+1] = min(other, row[j]+1, before+1)
		}
	}
	return row[len(b)] <= 2
}

// Words is the proposal in a sentence.
func (p *Proposal) Words() string {
	who := measure.List(p.Who)
	text := fmt.Sprintf("%s for %s, the first at %s.", order.Sum(p.Said), who, Time(p.Due))
	if len(p.Who) == 1 {
		text = fmt.Sprintf("%s for %s at %s.", order.Sum(p.Said), who, Time(p.Due))
	}
	if spare := p.Made - p.Portions; spare >= .05 {
		of := ""
		if slices.ContainsFunc(p.Said, func(a order.Amount) bool { return a.Unit != order.Portions }) {
			of = " portions"
		}
		text += fmt.Sprintf(" It makes %s%s: %s to spare.", number(p.Made), of, number(spare))
	}
	return text
}

// number writes portions: whole where they are, else to a tenth.
func number(v float64) string { return strconv.FormatFloat(math.Round(10*v)/10, 'f', -1, 64) }
