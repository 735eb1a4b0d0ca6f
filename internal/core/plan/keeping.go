package plan

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"hollen/internal/core/cook"
	"hollen/internal/core/egg"
	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
)

// KeepPlan is where the batch is kept and until when, by the kitchen's clock: of all its shapes what keeps shortest,
// and each by
// itself. It is the one place that says what may be kept, how and how long; page, sheet, label and bench read it.
type KeepPlan struct {
	Where    cook.Place `json:"where"` // "" when it is cooked the same day
	MadeAt   string     `json:"made_at"`
	FromDays float64    `json:"from_days"` // usual advice
	ToDays   float64    `json:"to_days"`
	Days     float64    `json:"days"`   // that counts
	UseBy    string     `json:"use_by"` // as MadeAt; "" when the day it was made is not known, or where it is not kept
	Fridge   string     `json:"fridge_use_by"`
	Freezer  string     `json:"freezer_use_by"`
	Dough    string     `json:"dough_use_by"`
	Own      bool       `json:"own"` // by the maker's own plan
	Parts    []Kept     `json:"parts"`
}

// Kept is what may be kept of one shape.
type Kept struct {
	Where cook.Place `json:"where"` // as KeepPlan's
	Days  float64    `json:"days"`
	UseBy string     `json:"use_by"`           // "" where it is not known, or not kept
	No    string     `json:"not,omitempty"`    // why it must not be kept there, a sentence; "" where it may be
	Since string     `json:"counts,omitempty"` // from when the days count, where that is not known yet
}

// keep works out until when it keeps, by the kitchen's clock as planned.
func (p *Plan) keep() {
	p.Keep = p.KeepAfter(p.Dry.OutMin, "")
}

// KeepAfter is the keeping of a batch that was out of the fridge for so many minutes, and was made at a moment,
// yyyy-mm-ddThh:mm; ""
// is the moment that was planned.
func (p *Plan) KeepAfter(outMin float64, madeAt string) KeepPlan {
	r, ru := &p.Request, &p.rules.Safety
	o := KeepPlan{Where: r.KeptIn(), MadeAt: cmp.Or(madeAt, r.Keep.MadeAt, r.MadeOn), Parts: []Kept{}}
	raw := r.AnyKeepsAsRaw()
	o.FromDays, o.ToDays = cook.Days(*ru, o.Where, raw)
	o.Days = o.ToDays
	if r.Keep.Days != nil {
		o.Days, o.Own = *r.Keep.Days, true
	}
	late := p.tooLong(outMin)
	by := func(days float64) string {
		if late != "" {
			return ""
		}
		return measure.Later(o.MadeAt, days)
	}
	_, fridge := cook.Days(*ru, cook.Fridge, raw)
	_, freezer := cook.Days(*ru, cook.Freezer, raw)
	o.Fridge, o.Freezer = by(fridge), by(freezer)
	if filling := p.fillingBy(); filling != "" && o.Fridge != "" {
		o.Fridge = min(o.Fridge, filling)
	}
	o.Dough = by(p.rules.Knead.KeepMin / 60 / 24)
	for _, x := range p.Cut.Parts() {
		o.Parts = append(o.Parts, p.kept(&o, x, late))
	}
	for i, k := range o.Parts { // what keeps shortest stands for all
		if i == 0 || k.UseBy != "" && (o.UseBy == "" || k.UseBy < o.UseBy) {
			o.UseBy = k.UseBy
		}
	}
	if o.Where == "" {
		o.UseBy = ""
	}
	return o
}

// keptNot are the reasons why shapes of the batch must not be kept as is wished, each once, the shape named where there
// are several.
func (p *Plan) keptNot() (out []string) {
	for i, k := range p.Keep.Parts {
		if k.No == "" {
			continue
		}
		say := k.No
		if len(p.Keep.Parts) > 1 {
			say = p.Cut.Parts()[i].Shape.Name + ": " + measure.Uncapital(k.No)
		}
		if !slices.Contains(out, say) {
			out = append(out, say)
		}
	}
	return out
}

// FridgeWords are how long the batch keeps in the fridge, in one statement for every page and paper.
func (p *Plan) FridgeWords() string {
	s := &p.rules.Safety
	if p.Request.AnyKeepsAsRaw() {
		return "no longer than " + measure.Days(s.RawFillDays)
	}
	return fmt.Sprintf("%.0f–%.0f hours", 24*s.FridgeLowDays, 24*s.FridgeDays)
}

// tooLong says that a dough was out of the fridge longer than usual advice gives it; "" where it was not, or nothing in
// it spoils.
func (p *Plan) tooLong(outMin float64) string {
	if !p.Perishable() || outMin <= p.discardAt() {
		return ""
	}
	return fmt.Sprintf("%s out of the fridge; past %s usual advice is to throw it away.", measure.Minutes(outMin),
		measure.Minutes(p.discardAt()))
}

// kept is what may be kept of one shape. Drying to keep has no part in the clock of the egg: it lies for hours as a
// matter of course, and its
// days count from the weight it keeps at.
func (p *Plan) kept(o *KeepPlan, x *CutPart, late string) Kept {
	k := Kept{Where: o.Where}
	_, k.Days = cook.Days(p.rules.Safety, k.Where, p.Request.KeepsAsRaw(x.Shape))
	if o.Own {
		k.Days = o.Days
	}
	from := o.MadeAt
	switch {
	case k.Where == cook.Shelf && x.Shape.Traits().Filling:
		k.No = "A filling does not dry through: freeze it, or cook it fresh."
	case k.Where == cook.Shelf:
		d := p.Dry.ToKeep
		if d == nil { // kept on the shelf without being asked to dry
			break
		}
		if from = d.keptFrom(); from == "" {
			k.Since = "the day it weighs " + p.in.Grams(d.TargetG)
			if d.Never {
				k.No = "This air never dries it so far."
			}
		}
	case late != "":
		k.No = late
	case x.Filling != nil && p.fillingPast() != "":
		k.No = p.fillingPast()
	}
	if k.No == "" && from != "" {
		k.UseBy = measure.Later(from, k.Days)
		if by := p.fillingBy(); x.Filling != nil && k.Where != cook.Freezer && by != "" {
			k.UseBy = min(k.UseBy, by)
		}
	}
	return k
}

// keptFrom is the moment the weight it keeps at was first read, yyyy-mm-ddThh:mm; "" before that.
func (d *KeepDry) keptFrom() string {
	if d.KeptAt != "" {
		return d.KeptAt
	}
	for _, x := range d.Checks {
		if x.G <= d.TargetG+.5 {
			return x.At
		}
	}
	return ""
}

// Perishable says whether the food clock counts: for egg, milk and fillings.
func (p *Plan) Perishable() bool {
	f := &p.Formula
	return p.HasEgg() || f.TopG > 0 && p.Request.Eggs.TopUp == egg.TopMilk || p.Request.Filled() ||
		slices.ContainsFunc(f.Additions, func(a Added) bool {
			return strings.Contains(strings.ToLower(a.Allergen),
				"milk")
		})
}

// HasEgg says whether there is egg in the dough, as eggs or in something added: egg white binds flours without gluten.
func (p *Plan) HasEgg() bool {
	f := &p.Formula
	return f.WholeG+f.YolkG > 0 || slices.ContainsFunc(f.Additions, func(a Added) bool { return isEgg(a.Allergen) })
}

// isEgg says whether an allergen, as it is written on a label, is egg.
func isEgg(allergen string) bool { return strings.Contains(strings.ToLower(allergen), "egg") }

// Unrested says whether the maker wants no rest at all. Then one note says what that does, and no
// other scolds for it.
func (p *Plan) Unrested() bool {
	if p.ask.Own != nil {
		return p.restsMin() == 0
	}
	return p.Request.Rest.Min != nil && *p.Request.Rest.Min == 0
}

// beforeFridgeC is how warm the dough is when it goes into the fridge, °C.
func (p *Plan) beforeFridgeC() float64 {
	before := p.way
	for i, st := range p.way.Steps {
		if st.By == knead.InFridge {
			before.Steps = p.way.Steps[:i]
		}
	}
	track := p.model.Follow(p.ask, before, 1)
	return track[len(track)-1].TempC
}

// KeepLabel is how the i-th shape is kept, as label and sheet say it, and until when: a moment as UseBy, "" where none
// is known or it is
// not to be kept; counts says from when it would count.
func (p *Plan) KeepLabel(i int) (keep, useBy, counts string) {
	k := p.Keep.Parts[i]
	if k.No != "" {
		return "Not to be kept: " + measure.Uncapital(k.No), "", ""
	}
	if k.Since != "" {
		counts = measure.Days(k.Days) + " from " + k.Since
	}
	switch k.Where {
	case cook.Freezer:
		keep = p.in.Prose("Keep frozen at {−18 °C}. Cook from frozen, do not refreeze.")
	case cook.Shelf:
		keep = "Keep dry, cool and closed."
	default:
		keep = p.in.Prose("Keep at {5 °C} or less.")
	}
	return keep, k.UseBy, counts
}

// CookLabel is how the i-th shape is cooked by how it is sold: fresh, dried or frozen; what is raw inside is not timed
// by taste.
func (p *Plan) CookLabel(i int) string {
	x := p.Cut.Parts()[i]
	if x.Shape.Traits().Sheets {
		return "Cut as you like, then boil in salted water; cook through."
	}
	how := "Boil in salted water"
	if p.Keep.Parts[i].Where == cook.Freezer {
		how = "Boil from frozen in salted water"
	}
	from, _ := p.SoldTime(x)
	if p.rawIn(x) {
		return fmt.Sprintf("%s for at least %s, until no pink is left and it steams inside: cook through, %s at the "+
			"centre.", how, measure.MinSec(from), p.CentreC())
	}
	return fmt.Sprintf("%s, taste from %s; cook through.", how, measure.MinSec(from))
}
