package batch

import (
	"math"
	"net/url"
	"strings"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/core/request"
	"hollen/internal/web/form"
)

// The fields of a ratio stand in the form of a new batch alone: what is made of them is flour and eggs at the maker's
// word.
const (
	ratioField    = "ratio"
	ratioForField = "ratio_for"
)

// byRatio gives a new batch the flour and eggs of a ratio, for as much as is wanted; false where none is said.
func (f *newForm) byRatio(values url.Values, with form.With, now time.Time) (ruled bool, err error) {
	f.ratio.Value, f.ratioFor.Value = strings.TrimSpace(values.Get(ratioField)), strings.TrimSpace(
		values.Get(ratioForField))
	if f.ratio.Value == "" {
		if f.ratioFor.Value != "" {
			f.ratio.Error = "Say the ratio, as in 100 g to an egg; or flour and eggs below."
		}
		return false, nil
	}
	ratio, err := recipe.ReadRatio(f.ratio.Value)
	if err != nil {
		for _, fault := range measure.Faults(err) {
			f.ratio.Error = measure.Capital(fault.Text) + "."
		}
		return true, nil
	}
	want := f.ratioWant(values)
	if f.ratioFor.Error != "" || len(f.Errors) > 0 {
		return true, nil
	}
	r := ratio.Onto(f.Request)
	p, err := plan.MakeIn(with.Shown, with.Rules, r)
	if err == nil {
		var scaled recipe.Scaled
		if r, scaled, err = recipe.Scale(r, p, want); err == nil {
			f.eggs = int(scaled.Eggs)
		}
	}
	if err == nil {
		_, err = plan.Make(with.Rules, r)
	}
	if err != nil {
		f.ratioFor.Error = measure.Capital(err.Error()) + "."
		return true, nil
	}
	f.Form, err = form.Bind(r, url.Values{}, with, now)
	return true, err
}

// ratioWant reads how much of a ratio is wanted: as it is said beside it, or by the flour or the eggs that are said
// below.
func (f *newForm) ratioWant(values url.Values) (w recipe.Want) {
	eggs, yolks := request.Or(f.Page.Eggs.FixWhole, 0), request.Or(f.Page.Eggs.FixYolks, 0)
	text := strings.ToLower(f.ratioFor.Value)
	if text == "" {
		switch w = (recipe.Want{Eggs: eggs + yolks}); {
		case w.Eggs > 0:
		case strings.TrimSpace(values.Get(form.WeightPrefix+"flours.0.share")) != "":
			w.FlourG = f.Page.Amount.FlourG
		default:
			f.ratioFor.Error = "Say for how many eggs or portions, or for how much flour."
		}
		return w
	}
	if eggs+yolks > 0 {
		f.ratioFor.Error = "Eggs are said below, too: leave one of the two empty."
		return w
	}
	figure, of := text, ""
	for _, word := range []string{"of flour", "flour", "portions", "portion", "servings", "serving", "eggs", "egg",
		"yolks",
		"yolk"} {
		if rest, has := strings.CutSuffix(text, word); has {
			figure, of = strings.TrimSpace(rest), word
			break
		}
	}
	n, isNumber := measure.ParseNumber(figure)
	g, isMass := measure.ParseMass(figure)
	switch {
	case isMass && (of == "" || strings.HasSuffix(of, "flour")):
		w.FlourG = g
	case isNumber && strings.HasPrefix(of, "por"), isNumber && strings.HasPrefix(of, "ser"):
		w.Portions = n
	case isNumber && n == math.Trunc(n) && (strings.HasPrefix(of, "egg") || strings.HasPrefix(of, "yolk")):
		w.Eggs = n
	}
	if most := 1000.; !(w.FlourG+w.Portions+w.Eggs > 0) || w.Portions > 400 || w.Eggs > most || w.FlourG > 50*most {
		f.ratioFor.Error = "As in 6 eggs, 8 portions, or " + f.In.Grams(600) +
			" of flour: whole eggs to 1,000, portions " +
			"to 400, flour to " + f.In.KG(50, 0) + "."
	}
	return w
}
