package form

import (
	"fmt"
	"math"
	"net/url"
	"strconv"
	"strings"

	"hollen/internal/core/egg"
	"hollen/internal/core/measure"
	"hollen/internal/core/recipetext"
	"hollen/internal/core/request"
)

// WeightPrefix begins the name under which a share of the flour is typed as a mass. A batch made as the
// maker makes it is weighed, not shared out: what is not touched keeps its grams.
const WeightPrefix = "g."

// The fields in which the doctor is told figures: how long a dough waited, and how much of what it advises.
const (
	DoctorMinutes = "doctor.minutes"
	DoctorAmount  = "doctor.amount."
)

// AnyMass is a field for the mass of something, g, shown to a tenth.
func AnyMass() request.Field {
	f, _ := request.FieldAt("eggs.liquid_g")
	f.Rounded, f.Digits = true, 1
	return f
}

// stuff returns what a field measures, whether it is a mass itself or a share of the flour; false for a
// field nobody measures out.
func (f *Form) stuff(field request.Field) (recipetext.Stuff, bool) {
	r := &f.Page
	switch path := field.Path; {
	case path == "amount.flour_g":
		return recipetext.Stuff{Kind: recipetext.Flour, Flour: r.Flours[0].Kind()}, true
	case path == "eggs.liquid_g" && r.Eggs.TopUp == egg.TopMilk:
		return recipetext.Stuff{Kind: recipetext.Milk}, true
	case path == "eggs.liquid_g":
		return recipetext.Stuff{Kind: recipetext.Water}, true
	case path == "oil_share":
		return recipetext.Stuff{Kind: recipetext.Oil}, true
	case path == "salt_share":
		return recipetext.Stuff{Kind: recipetext.Salt}, true
	case field.Group == "flours" && field.Part == "share":
		return recipetext.Stuff{Kind: recipetext.Flour, Flour: r.Flours[field.Slot].Kind()}, true
	case field.Group == "additions" && field.Part == "share":
		return recipetext.Stuff{Kind: recipetext.Extra, Addition: r.Additions[field.Slot].Kind()}, true
	}
	return recipetext.Stuff{}, false
}

// spooned reads "2 tbsp", "30 ml", "a splash", "half a cup" or "7 oz" of something as grams, the middle of
// what it may be; false for what is none of these. What is no weight is kept as it was said.
func (f *Form) spooned(field request.Field, text string, of recipetext.Stuff) (g float64, ok bool) {
	m := recipetext.Measures{CupML: recipetext.CupMetric}
	if f.with.Typed == measure.Customary {
		m.CupML = recipetext.CupUS
	}
	if of.Kind == recipetext.Flour && f.with.Learned != nil {
		known := f.with.RulesOf(&f.Page).Learned
		if c := known.Cup(of.Flour.Key); c != nil {
			m.CupG, m.CupWithin = c.G, c.Within
		}
	}
	lo, hi, ok := recipetext.Weigh(text, of, m)
	g = (lo + hi) / 2
	if _, weight := measure.Read(text, measure.G, nil); ok && weight != nil {
		f.measured = append(f.measured, request.Said{Path: field.Path, Text: strings.TrimSpace(text), LowG: lo, G: g,
			High: hi})
	}
	return g, ok
}

// keepMeasured keeps what was measured out as it was said, once everything has been read.
func (f *Form) keepMeasured() {
	for _, s := range f.measured {
		f.Page.Measure(s)
	}
}

// asSpooned reads what is measured into a field in its unit: grams, or a share of the flour in %; other
// text is left as it is.
func (f *Form) asSpooned(field request.Field, text string) string {
	of, measured := f.stuff(field)
	if !measured {
		return text
	}
	g, ok := f.spooned(field, text, of)
	switch {
	case !ok:
		return text
	case field.Show == 100:
		return f.gramsAsShare(strconv.FormatFloat(g, 'f', 3, 64) + " g")
	}
	return field.Shown(g)
}

// weighed are the shares that are weighed in a batch made as the maker makes it: of flours, oil, salt,
// additions.
func weighed() (all []request.Field) {
	for _, path := range []string{"oil_share", "salt_share"} {
		field, _ := request.FieldAt(path)
		all = append(all, field)
	}
	for _, name := range []string{"flours", "additions"} {
		group, _ := request.GroupNamed(name)
		for i := range group.Most {
			field, _ := request.FieldAt(group.Path(i, "share"))
			all = append(all, field)
		}
	}
	return all
}

// ShareG is how much a share of the flour is of flourG g in all, g.
func ShareG(field request.Field, r *request.Request, flourG float64) float64 {
	if !field.Has(r) {
		return 0
	}
	n, _ := field.Stored(field.Get(r))
	return n * flourG
}

// weigh takes what is typed as masses: the flour in all is what the flours weigh together, and everything
// that was not touched keeps its grams. was is the page as it was before anything was typed; set says that
// the flour in all has just been set by a button.
func (f *Form) weigh(v url.Values, was *request.Request, set bool) {
	if f.Page.Amount.By != request.ByOwn || v.Get("was_amount") != string(request.ByOwn) {
		return
	}
	mass := AnyMass().In(f.with.Typed)
	total, now := f.drawnFlour(v, was), f.Page.Amount.FlourG
	g, shares := map[string]float64{}, map[string]float64{} // of these, share is said, not mass
	sum, shared := 0., 0.
	for _, field := range weighed() {
		first, flours := field.Path == firstShare, field.Group == "flours"
		drawn := ShareG(field, &f.Page, total)
		if n, ok := field.Stored(v.Get(field.Path)); ok && flours && !first { // also of a flour just taken out
			drawn = n * total
		}
		if first {
			drawn = total
			for i := 1; i < len(f.Page.Flours); i++ {
				other, _ := request.FieldAt(fmt.Sprintf("flours.%d.share", i))
				n, _ := other.Stored(v.Get(other.Path))
				drawn -= n * total
			}
		}
		g[field.Path] = drawn
		if !f.holds(field) {
			continue
		}
		typed, there := v[WeightPrefix+field.Path]
		if p, ok := percent(typed); ok && !first {
			if shares[field.Path] = p; flours {
				shared += p
				continue
			}
		} else if there && typed[len(typed)-1] != mass.Shown(drawn) {
			g[field.Path] = f.massOf(field, typed[len(typed)-1], drawn)
		}
		if flours && set {
			g[field.Path] *= now / max(total, 1e-9)
		}
		if flours && g[field.Path] == 0 && !first { // just picked
			g[field.Path] = math.Round(newShare * total)
		}
		if flours {
			sum += g[field.Path]
		}
	}
	sum /= 1 - min(shared, mostShared)
	for path, p := range shares {
		g[path] = p * sum
	}
	f.weighOut(g, sum)
}

// mostShared is the most of the flour in all that may be said in shares: the first is weighed.
const mostShared = .99

// percent reads "20 %", as it was typed last, as a share.
func percent(typed []string) (share float64, ok bool) {
	if len(typed) == 0 {
		return 0, false
	}
	number, found := strings.CutSuffix(strings.TrimSpace(typed[len(typed)-1]), "%")
	n, ok := measure.ParseNumber(strings.TrimSpace(number))
	return n / 100, found && ok && n >= 0 && n <= 100*mostShared
}

// takeAmounts gives a maker who has just said "as I make it" the amounts that were worked out until then,
// to change. was_amount is how it was when the form was drawn.
func (f *Form) takeAmounts(v url.Values) {
	was := request.By(v.Get("was_amount"))
	if f.Page.Amount.By != request.ByOwn || !v.Has("was_amount") || was == request.ByOwn {
		return
	}
	r := f.withoutEmpty()
	r.Amount.By = was
	p, err := f.plainly(r)
	if err != nil {
		return
	}
	p.AmountsInto(&f.Page)
}

// drawnFlour is the flour in all that the page was drawn with, g.
func (f *Form) drawnFlour(v url.Values, was *request.Request) float64 {
	field, _ := request.FieldAt("amount.flour_g")
	field = field.In(f.with.Typed)
	if typed := v.Get(field.Path); typed != field.Get(was) {
		if n, ok := field.Stored(typed); ok && n > 0 {
			return n
		}
	}
	return was.Amount.FlourG
}

// holds says whether there is anything to weigh: oil and salt always, a flour or an addition once named.
func (f *Form) holds(field request.Field) bool {
	group, slot, _, in := request.GroupOf(field)
	return !in || group.Holds(&f.Page, slot)
}

// massOf reads a typed mass; what cannot be read is refused beside it, and drawn stays. An addition or a
// flour that has just been picked starts with what is usual.
func (f *Form) massOf(field request.Field, typed string, drawn float64) float64 {
	mass := AnyMass().In(f.with.Typed)
	of, _ := f.stuff(field)
	text := strings.TrimSpace(typed)
	if text == "" {
		if field.Group == "" {
			return 0
		}
		return drawn
	}
	g, ok := f.spooned(field, text, of)
	if !ok {
		g, ok = mass.Stored(text)
	}
	if !ok || g < 0 || g > maxWeighedG || g == 0 && field.Group != "" {
		f.refuseMass(field, typed, "a weight is allowed, or a measure as “2 tbsp”, “half a cup”, “a pinch”")
		return drawn
	}
	return g
}

// maxWeighedG is the most of one thing, g.
const maxWeighedG = 50000

func (f *Form) refuseMass(field request.Field, typed, allowed string) {
	f.refuse(request.FieldError{Path: WeightPrefix + field.Path, Label: field.Label, Value: typed, Allowed: allowed},
		typed)
}

// weighOut turns masses into the flour in all and shares of it.
func (f *Form) weighOut(g map[string]float64, flourG float64) {
	in := f.with.Typed
	if amount, _ := request.FieldAt("amount.flour_g"); flourG < amount.Min || flourG > amount.Max {
		first, _ := request.FieldAt(firstShare)
		f.refuseMass(first, AnyMass().In(in).Shown(g[firstShare]), fmt.Sprintf("%s to %s of flour in all is allowed; "+
			"this makes %s", in.Grams(amount.Min),
			in.Grams(amount.Max), in.Grams(flourG)))
		return
	}
	f.Page.Amount.FlourG = math.Round(flourG*1000) / 1000
	for _, field := range weighed() {
		share := g[field.Path] / flourG
		if f.holds(field) && share == 0 && field.Group == "additions" && f.Typed[WeightPrefix+field.Path] == "" {
			f.refuse(request.FieldError{Path: WeightPrefix + field.Path, Label: field.Label,
				Allowed: "how much of it? A weight is read, or a measure as “2 tbsp”, “half a cup”, “a pinch”"}, "")
		}
		if !f.holds(field) || field.Path == firstShare || share == 0 && field.Group != "" {
			continue
		}
		if field.Group == "flours" {
			share = math.Round(share*1e8) / 1e8
		}
		if share < field.Min-1e-9 || share > field.Max+1e-9 {
			f.refuseMass(field, AnyMass().In(in).Shown(g[field.Path]),
				fmt.Sprintf("%s to %s is allowed, %g to %g %% of the flour",
					in.Grams(field.Min*flourG), in.Grams(field.Max*flourG), 100*field.Min, 100*field.Max))
			continue
		}
		if err := field.Set(&f.Page, strconv.FormatFloat(100*share, 'f', -1, 64)); err != nil {
			f.refuse(err, AnyMass().In(in).Shown(g[field.Path]))
		}
	}
}
