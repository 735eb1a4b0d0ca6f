package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"hollen/internal/core/request"
)

// Band is where a dough may land whose flour or liquid was measured out in cups and spoons: the working hydration at
// either end of what they hold.
type Band struct {
	LowHw    float64 `json:"low_hw_points"`
	HighHw   float64 `json:"high_hw_points"`
	LowFeel  string  `json:"low_feel"`
	HighFeel string  `json:"high_feel"`
	By       string  `json:"decided_by"` // what decides it most: "soft wheat flour 00"
}

// measured judges amounts by cup and spoon over all they may weigh: the band the dough may land in, and no warning but
// what is true at both of its ends.
func (p *Plan) measured() {
	soft, stiff := map[string]float64{}, map[string]float64{}
	var wide []request.Said
	for _, s := range p.Request.Measured() {
		if s.High-s.LowG < measuredMinG {
			continue
		}
		wide = append(wide, s)
		soft[s.Path], stiff[s.Path] = s.High, s.LowG
		if s.Path == "amount.flour_g" || strings.HasPrefix(s.Path, "flours.") {
			soft[s.Path], stiff[s.Path] = s.LowG, s.High
		}
	}
	if len(wide) == 0 {
		return
	}
	b := Band{By: p.measuredName(p.decides(wide).Path)}
	wet, err := MakeIn(p.in, p.made, p.Request.WithMasses(soft))
	if err != nil {
		return // beyond what a batch may be: it is judged as it is counted
	}
	dry, err := MakeIn(p.in, p.made, p.Request.WithMasses(stiff))
	if err != nil {
		return
	}
	b.LowHw, b.HighHw = dry.Formula.Dough.Hw, wet.Formula.Dough.Hw
	b.LowFeel, b.HighFeel = dry.Formula.Feel, wet.Formula.Feel
	p.Formula.Band = &b
	p.Notes = slices.DeleteFunc(p.Notes, func(n Note) bool {
		return n.Level == Warning && (!dry.has(n) || !wet.has(n))
	})
	p.say("formula.hw", "%s", b.words()+" "+p.Why["formula.hw"])
	if b.LowFeel != b.HighFeel {
		p.note(request.AtFormula, "formula.hw", Remark, "band", "By what the cups hold.",
			"From %.1f, %s, to %.1f, %s. What decides it is %s: weigh it once and it is known.", b.LowHw, b.LowFeel,
			b.HighHw, b.HighFeel, b.By)
	}
}

// decides is the amount whose spread moves the dough most, each taken by itself.
func (p *Plan) decides(all []request.Said) (of request.Said) {
	if len(all) == 1 {
		return all[0]
	}
	most := -1.
	for _, s := range all {
		low, errLow := MakeIn(p.in, p.made, p.Request.WithMasses(map[string]float64{s.Path: s.LowG}))
		high, errHigh := MakeIn(p.in, p.made, p.Request.WithMasses(map[string]float64{s.Path: s.High}))
		if errLow != nil || errHigh != nil {
			continue
		}
		if by := math.Abs(high.Formula.Dough.Hw - low.Formula.Dough.Hw); by > most {
			most, of = by, s
		}
	}
	return of
}

// measuredMinG is from what spread on an amount is judged over it, g. Source: house.
const measuredMinG = .5

// has says whether a plan has a note of the same code and level.
func (p *Plan) has(n Note) bool {
	return slices.ContainsFunc(p.Notes, func(x Note) bool { return x.Code == n.Code && x.Level == n.Level })
}

func (b *Band) words() string {
	return fmt.Sprintf("By what the cups hold it is %.1f to %.1f; %s decides it.", b.LowHw, b.HighHw, b.By)
}

// measuredName is what a field measures out, within a sentence.
func (p *Plan) measuredName(path string) string {
	f, _ := request.FieldAt(path)
	switch {
	case path == "eggs.liquid_g":
		return p.TopWord()
	case path == "oil_share":
		return "the oil"
	case path == "salt_share":
		return "the salt"
	case f.Group == "additions" && f.Slot < len(p.Formula.Additions):
		return lowName(p.Formula.Additions[f.Slot].Name)
	case f.Group == "flours" && f.Slot < len(p.Formula.Flours):
		return p.Formula.Flours[f.Slot].Name
	}
	return "the flour"
}

// Said is an amount of the dough as it was measured out, by the key of its part: flour.1, top, addition.1, salt, oil;
// false where it is weighed.
func (p *Plan) Said(key string) (request.Said, bool) {
	r := &p.Request
	kind, n, _ := strings.Cut(key, ".")
	slot := 0
	if _, err := fmt.Sscanf(n, "%d", &slot); err == nil {
		slot--
	}
	switch kind {
	case "flour":
		if s, ok := r.MeasuredAt(fmt.Sprintf("flours.%d.share", slot)); ok {
			return s, true
		}
		if len(r.Flours) == 1 && p.Formula.OpenG == 0 {
			s, ok := r.MeasuredAt("amount.flour_g")
			return s, ok && math.Abs(s.G-p.Formula.FlourG) < 1
		}
	case "top":
		return r.MeasuredAt("eggs.liquid_g")
	case "addition":
		return r.MeasuredAt(fmt.Sprintf("additions.%d.share", slot))
	case "salt", "oil":
		return r.MeasuredAt(kind + "_share")
	}
	return request.Said{}, false
}

// asSaid is an amount as it was measured out with what it may weigh, "" where it is weighed.
func (p *Plan) asSaid(key string) string {
	if s, ok := p.Said(key); ok {
		return s.Words(p.in)
	}
	return ""
}

// muchOf is an amount as a list has it: as it was measured out with its grams beside, else in grams.
func (p *Plan) muchOf(key string, g float64) string {
	if said := p.asSaid(key); said != "" {
		return said
	}
	return p.in.Grams(g)
}
