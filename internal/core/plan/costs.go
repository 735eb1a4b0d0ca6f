package plan

import (
	"math"

	"hollen/internal/core/cost"
	"hollen/internal/core/egg"
	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
)

// cost is what the batch costs and what of it can be sold.
func (p *Plan) cost() {
	r, f := &p.Request, &p.Formula
	c := CostPlan{Currency: r.Prices.Currency, Lines: []CostLine{}, Unpriced: []string{}}
	line := func(name, much, unit string, price *cost.Money, of func(cost.Money) cost.Money) {
		if price == nil {
			c.Unpriced = append(c.Unpriced, name)
			return
		}
		c.Lines = append(c.Lines, CostLine{name, much, *price, unit, of(*price)})
	}
	byMass := func(name string, g float64, price *cost.Money) {
		if g > 0 {
			line(name, p.in.Grams(g), "kg", price, func(m cost.Money) cost.Money { return m.Per(g) })
		}
	}
	byCount := func(name, much string, c egg.Class, n float64) {
		price := r.Prices.EggEach
		if c.PriceEach > 0 {
			price = &c.PriceEach
		}
		line(name, much, "egg", price, func(m cost.Money) cost.Money { return m.Times(n) })
	}
	eggs := func() {
		for _, e := range p.eggsUsed() {
			byCount(e.class.Name+" eggs", measure.Thousands(e.n), e.class, e.n)
		}
	}
	counted := false
	for _, x := range p.DoughParts() {
		switch {
		case x.Key == "eggs":
			eggs()
			counted = true
		case x.Key == "egg": // worked in: what it is of an egg
			byCount(p.task.Class.Name+" eggs worked in", p.in.Grams(x.G), p.task.Class, x.G/p.task.Class.EdibleG)
		case x.Free:
		case x.WorkedIn:
			byMass(x.Name+" worked in", x.G, x.Price)
		default:
			byMass(x.Name, x.G, x.Price)
		}
	}
	if !counted { // yolks that are set into pieces alone
		eggs()
	}
	if r.Prices.Filling != nil {
		line("Filling and sauce", p.fillWords(p.Cut.FillTotalG), "batch", r.Prices.Filling,
			func(m cost.Money) cost.Money { return m })
	}
	if r.Prices.Filling == nil {
		for _, x := range p.FillingParts() {
			if !x.Free {
				byMass(x.Name, x.G, x.Price)
			}
		}
	}
	c.HandsMin = p.handsMin()
	if r.Prices.WageHour != nil {
		line("Hands", measure.Minutes(c.HandsMin), "hour", r.Prices.WageHour,
			func(m cost.Money) cost.Money { return m.Times(math.Round(c.HandsMin) / 60) })
	}
	for _, l := range c.Lines {
		c.Total += l.Cost
	}
	c.InG = f.Dough.MassG + p.Room.BoardLossG + p.Cut.YolksG
	c.SellableG = p.Cut.AllMadeG
	c.PerPortion, c.PerKG = c.Total.Over(f.Portions), c.Total.Over(c.SellableG/1000)
	c.Yield = c.SellableG / f.FlourG
	p.Cost = c
}

// eggsUsed lists the eggs cracked by class: whole ones and, for yolks in the dough or set into pieces,
// those separated.
func (p *Plan) eggsUsed() (out []struct {
	class egg.Class
	n     float64
}) {
	add := func(c egg.Class, n float64) {
		if n > 0 {
			out = append(out, struct {
				class egg.Class
				n     float64
			}{c, n})
		}
	}
	add(p.task.Class, float64(p.Formula.Pick.Whole+p.Formula.Pick.Yolks+p.Cut.Yolks))
	if p.Formula.AlsoG > 0 {
		for _, e := range p.Request.Eggs.Also {
			add(e.Kind(), e.Count)
		}
	}
	return out
}

func (p *Plan) fillWords(g float64) string {
	if g == 0 {
		return ""
	}
	return p.in.Grams(g)
}

// handsMin is the work of all hands, min: mixing, kneading every load, rolling and cutting.
func (p *Plan) handsMin() float64 {
	work, loads := 0., float64(p.Knead.Loads)
	if p.Knead.Shared {
		loads = p.Request.Bench.People
	}
	for _, s := range p.way.Steps {
		if s.By == knead.ByHand || s.By == knead.ByProcessor || s.By == knead.ByMixing {
			if s.InTurn() || p.Knead.Shared {
				work += loads * s.Min
			} else {
				work += s.Min
			}
		}
	}
	return p.mixMin() + work + p.Roll.MinutesAll + p.Cut.AllMin
}
