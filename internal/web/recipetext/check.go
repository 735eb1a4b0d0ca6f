package recipetext

import (
	"cmp"
	"fmt"
	"html/template"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"hollen/internal/core/dough"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipetext"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
	"hollen/internal/draw"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// recipeView is the recipe check.
type recipeView struct {
	once              string // the mark of its form
	Text              string
	Picks             []pickView // what a recipe leaves unsaid
	Lines             []recipetext.Line
	Sum               recipetext.Sum
	Target            dough.Target
	LowFeel, HighFeel string
	Error             string
	Left              string // what the weighed batch cannot take
	Next              string // the one thing to do
	Gluten            string // what little or no gluten means; "" where there is enough
	In                measure.System
	own               []roll.Machine
	rules             rules.Rules
}

// machine is what the recipe is rolled on.
func (v *recipeView) machine() (m roll.Machine, own bool) {
	key := v.chosen("machine")
	if i := slices.IndexFunc(v.own, func(m roll.Machine) bool { return m.Key == key }); i >= 0 {
		return v.own[i], true
	}
	m, _ = roll.Find(key)
	return m, false
}

// Span is a mass between two, its unit apart; one figure where they come to the same.
func (v recipeView) Span(lo, hi float64) template.HTML { return page.UnitHTML(v.span(lo, hi)) }

// SpanWords is Span in one.
func (v recipeView) SpanWords(lo, hi float64) string {
	n, unit := v.span(lo, hi)
	return n + " " + unit
}

func (v recipeView) span(lo, hi float64) (number, unit string) {
	a, unit := v.In.Mass(lo)
	b, unitB := v.In.Mass(hi)
	switch {
	case a == b:
		return a, unit
	case unit != unitB || strings.Contains(b, " "):
		return a + " " + unit + " – " + b, unitB
	}
	return a + "–" + b, unit
}

// HwSpan is the working hydration between two.
func (v recipeView) HwSpan() string {
	a, b := spoken(v.Sum.LowHw), spoken(v.Sum.HighHw)
	if a == b {
		return a
	}
	return a + "–" + b
}

// spoken is a figure in whole numbers, tenths under ten.
func spoken(v float64) string {
	n, _ := measure.Metric.Mass(v)
	return n
}

// pickView is one choice of the recipe check.
type pickView struct {
	Name, Label string
	Options     []request.Option
	Chosen      string
}

// exampleRecipe stands in the empty form.
const exampleRecipe = "2 cups all-purpose flour\n3 large eggs\na spoon of olive oil\na pinch of salt"

// readRecipe reads the posted form; anything but the choices offered counts as the first. The
// workshop's own machines stand first.
func readRecipe(in measure.System, v url.Values, cab store.Cabinet) recipeView {
	eggs := []request.Option{{Key: "", Name: "Not said"}}
	for _, c := range egg.Classes() {
		eggs = append(eggs, request.Option{Key: c.Key, Name: in.Prose(fmt.Sprintf("%s, {%g g}", c.Name, c.EdibleG))})
	}
	machine, _ := request.FieldAt("roll.machine")
	var machines []request.Option
	for _, m := range cab.Machines {
		machines = append(machines, request.Option{Key: m.Key, Name: m.Name})
	}
	machines = append(machines, machine.Options...)
	view := recipeView{In: in, Text: v.Get("text"), Picks: []pickView{
		{"cup", "A cup is", []request.Option{{Key: "us", Name: "US, 237 mL"}, {Key: "metric", Name: "Metric, 250 mL"}},
			""},
		{"fill", "Flour gets into it", []request.Option{{Key: "", Name: "Not said"}, {Key: "spooned",
			Name: "Spooned in, levelled"},
			{Key: "dipped", Name: "Dipped into the bag"}, {Key: "packed", Name: "Packed or shaken down"}}, ""},
		{"eggs", "Eggs are", eggs, ""},
		{"machine", "Rolled on", machines, ""},
	}, own: cab.Machines}
	for i := range view.Picks {
		p := &view.Picks[i]
		p.Chosen = p.Options[0].Key
		for _, o := range p.Options {
			if o.Key == v.Get(p.Name) {
				p.Chosen = o.Key
			}
		}
	}
	return view
}

func (v *recipeView) chosen(name string) string {
	for _, p := range v.Picks {
		if p.Name == name {
			return p.Chosen
		}
	}
	return ""
}

// work reads the lines, adds them up and sets them against the band.
func (v *recipeView) work(r rules.Rules) {
	v.rules = r
	m := recipetext.Measures{CupML: recipetext.CupUS, Fill: recipetext.Fill(v.chosen("fill")),
		EggClass: v.chosen("eggs"), US: v.chosen("cup") == "us"}
	if !m.US {
		m.CupML = recipetext.CupMetric
	}
	v.Lines = recipetext.Parse(v.Text, m)
	v.Sum = recipetext.Add(r, m.US, v.Lines)
	if v.Sum.FlourLowG == 0 {
		v.Error = "No flour was found. Begin each line with an amount, as in “2 cups flour”."
		return
	}
	if n := len(v.Sum.Flours); n > request.MaxFlours {
		v.Left = fmt.Sprintf("The weighed batch takes the first %d of %d flours.", request.MaxFlours, n)
	}
	if n := len(v.Sum.Extras); n > request.MaxAdditions {
		v.Left += fmt.Sprintf(" It takes the first %d of %d additions.", request.MaxAdditions, n)
	}
	parts := make([]flour.Part, 0, len(v.Sum.Flours))
	for _, p := range v.Sum.Flours {
		f, _ := flour.Find(p.Key)
		parts = append(parts, flour.Part{Flour: f, MassG: p.G, Moisture: flour.Moisture{
			NowWB: r.Flour.MilledMoistureWB}})
	}
	share := 0.
	if e := v.Sum.WholeG + v.Sum.YolkG; e > 0 {
		share = v.Sum.YolkG / e
	}
	machine, _ := v.machine()
	v.Target = dough.Aim(r.Hydration, machine.Tool, flour.Mix(r.Flour, parts).AbsorptionPct, false, false, share)
	v.Next, v.Gluten = v.nextStep(), v.glutenWords()
	v.LowFeel, v.HighFeel = v.Target.Feel(r.Hydration, v.Sum.LowHw).Words, v.Target.Feel(r.Hydration,
		v.Sum.HighHw).Words
}

// nextStep is what to do with a recipe in ranges: the flour its eggs want, weighed, or what else brings
// it right.
func (v *recipeView) nextStep() string {
	p, err := plan.Make(v.rules, v.Request())
	if err != nil {
		return ""
	}
	f := &p.Formula
	much := v.In.Grams(f.FlourG)
	lo := v.Sum.FlourLowG
	hi := v.Sum.FlourHighG
	hold := fmt.Sprintf("hold %s of it back and work that in only if it sticks", v.In.Grams(math.Round(f.HeldBackG)))
	with, eggs := p.EggWords(), p.EggWords()
	if f.WholeG+f.YolkG == 0 {
		with = v.In.Grams(f.TopG) + " of " + p.TopWord()
		eggs = with
	} else if g := math.Round(f.TopG); g >= 1 {
		with += ", with " + v.In.Whole(g) + " of " + p.TopWord() + " by the board"
	}
	switch out := f.Target.Outside(f.Dough.Hw); {
	case out < 0:
		return fmt.Sprintf("Weigh %s of flour to %s, and work in %s of water, a little at a time.", much, eggs,
			v.In.Whole(math.Round(f.TopG+(f.Target.Hw-f.Dough.Hw)*f.Blend.F14G/100)))
	case out > 0:
		want, beyond := math.Round(p.FlourFor(f.WholeG, f.YolkG)), ""
		if hi > lo && want > hi {
			beyond = ", more than the cups hold"
		}
		instead := "."
		if own := f.Eggs.Alternatives; len(own) > 0 {
			instead = plan.EggWords(own[0].Whole, own[0].Yolks)
			if own[0].Beaten {
				instead = v.In.Whole(math.Round(own[0].EggG)) + " of beaten egg"
			}
			if instead == eggs {
				instead = "."
			} else {
				instead = fmt.Sprintf("; or keep %s and take %s.", much, instead)
			}
		}
		if math.Abs(want-f.FlourG) < 3 { // so much flour is weighed to them already
			return fmt.Sprintf(
				"Weigh %s of flour to %s: it stays soft, %.0f where %.0f is aimed at. Dust as it needs.",
				much,
				eggs,
				f.Dough.Hw,
				f.Target.Hw,
			)
		}
		return fmt.Sprintf("Weigh %s of flour to %s%s%s", v.In.Grams(want), eggs, beyond, instead)
	}
	return fmt.Sprintf("Weigh %s of flour to %s; %s. That is %.0f, inside the sweet spot.", much, with, hold,
		f.Dough.Hw)
}

// Ruler is the recipe's range against the band.
func (v recipeView) Ruler() draw.Ruler {
	t, s := v.Target, v.Sum
	lo := 4 * math.Floor(max(0, min(t.Low-6, s.LowHw-2))/4)
	hi := 4 * math.Ceil(min(140, max(t.High+6, s.HighHw+2))/4)
	step := 4.
	for (hi-lo)/step > 14 {
		step *= 2
	}
	return draw.Ruler{Title: fmt.Sprintf("Working hydration from %.0f to %.0f, the band is %.1f to %.1f", s.LowHw,
		s.HighHw, t.Low, t.High), Min: lo,
		Max: hi, Step: step, Widest: 820,
		Left: "firm, crumbles", Right: "soft, clings", Bands: []draw.Band{{From: t.Low, To: t.High, Class: "dough"}},
		Edges: true,
		Spans: []draw.Band{{From: s.LowHw, To: s.HighHw}},
		Marks: []draw.Mark{{At: s.MiddleHw, Text: fmt.Sprintf("%.0f to %.0f", s.LowHw, s.HighHw)}},
		Foot:  "The bar is where this recipe may land, the marker its middle. Working water in % of the flour."}
}

// Request is the weighed batch: the middle of the flour, the eggs as counted, and water to
// the target.
func (v recipeView) Request() request.Request {
	s := v.Sum
	r := request.Default()
	r.Name = "From a recipe"
	if name := recipetext.Title(v.Text); name != "" {
		r.Name = cutName(name)
	}
	m, own := v.machine()
	if r.Roll.Machine = m.Key; own {
		r.Roll.Own = &m
	}
	total := (s.FlourLowG + s.FlourHighG) / 2
	r.Amount.By, r.Amount.FlourG = "flour", min(max(math.Round(total/5)*5, 50), 50000)
	r.Flours = nil
	rest := 1.
	for _, p := range s.Flours[:min(len(s.Flours), request.MaxFlours)] {
		part := request.Default().Flours[0]
		part.Flour, part.Share = p.Key, max(.01, math.Round(1e4*p.G/total)/1e4)
		r.Flours = append(r.Flours, part)
		rest -= part.Share
	}
	r.Flours[0].Share += rest
	if r.Eggs.Class = cmp.Or(s.EggClass, v.chosen("eggs")); r.Eggs.Class == "" {
		r.Eggs.Class = "eu-l"
		if v.chosen("cup") == "us" {
			r.Eggs.Class = "us-l"
		}
	}
	class, _ := egg.Find(r.Eggs.Class)
	count := func(n, g, each float64) *float64 {
		if n == 0 {
			n = g / each
		}
		n = math.Round(n)
		return &n
	}
	r.Eggs.FixWhole, r.Eggs.FixYolks = count(s.Wholes, s.WholeG, class.EdibleG), count(s.Yolks, s.YolkG, class.YolkG)
	for _, o := range s.Others { // of another class, as the recipe has them
		n := math.Round(o.N)
		if n > 0 && *r.Eggs.FixWhole >= n {
			*r.Eggs.FixWhole -= n
			r.Eggs.Also = append(r.Eggs.Also, request.EggCount{Class: o.Class, Count: n})
		}
	}
	switch {
	case s.WholeG+s.YolkG == 0:
		r.Eggs.Style = egg.NoEgg
		r.Eggs.FixWhole = nil
		r.Eggs.FixYolks = nil
	case s.WholeG == 0:
		r.Eggs.Style = egg.YolksOnly
	case s.YolkG > 0:
		r.Eggs.Style = egg.Rich
	}
	if s.MilkG > s.WaterG {
		r.Eggs.TopUp = egg.TopMilk
	}
	add := func(key string, g float64) {
		share := math.Round(1e4*g/total) / 1e4
		if f, _ := request.FieldAt("additions.0.share"); len(r.Additions) < request.MaxAdditions && share >= f.Min {
			r.Additions = append(r.Additions, request.AdditionPart{Addition: key, Share: min(share, f.Max)})
		}
	}
	for _, x := range s.Extras {
		add(x.Key, x.G)
	}
	add("egg-white", s.WhiteG)
	if s.WaterG > s.MilkG {
		add("milk", s.MilkG)
	}
	r.Salt, r.Oil = min(.025, math.Round(1e4*s.SaltG/total)/1e4), min(.05, math.Round(1e4*s.OilG/total)/1e4)
	v.suitFlour(&r)
	if s.Portions > 0 {
		dough := r.Amount.FlourG + s.WholeG + s.YolkG + s.WhiteG + s.WaterG + s.MilkG + s.OilG
		f, _ := request.FieldAt("amount.portion_g")
		g := min(max(math.Round(dough/s.Portions), f.Min), f.Max)
		r.Amount.PortionG = &g
	}
	return r
}

// Written is the batch as the recipe has it, at its word: the middle of what it measures, every egg and spoon
// as written; nothing is brought to a target.
func (v recipeView) Written() request.Request {
	s, r := v.Sum, v.Request()
	total := 0.
	for _, p := range s.Flours[:len(r.Flours)] {
		total += p.G
	}
	r.Amount.By, r.Amount.FlourG = request.ByOwn, math.Round(min(max(total, 50), 50000))
	for i := range r.Flours {
		r.Flours[i].Share = s.Flours[i].G / total
	}
	r.Eggs.Style, r.Eggs.TopUp = egg.WholeEggs, egg.TopWater
	class := r.Eggs.Kind()
	count := func(n, g, each float64) (about float64, weighed bool) {
		if n == 0 {
			n = g / each
		}
		about = math.Round(n)
		return about, about != n
	}
	wholes, weighedWholes := count(s.Wholes, s.WholeG, class.EdibleG)
	yolks, weighedYolks := count(s.Yolks, s.YolkG, class.YolkG)
	r.Eggs.FixWhole = someOf(wholes)
	r.Eggs.FixYolks = someOf(yolks)
	r.Eggs.CrackedG = nil
	r.Eggs.LiquidG = nil
	if weighedWholes || weighedYolks {
		r.Eggs.CrackedG = someOf(math.Round(s.WholeG + s.YolkG))
	}
	r.Additions = r.Additions[:0]
	add := func(key string, g float64) {
		if f, _ := request.FieldAt("additions.0.share"); len(r.Additions) < request.MaxAdditions && g/total >= f.Min {
			r.Additions = append(r.Additions, request.AdditionPart{Addition: key, Share: min(g/total, f.Max)})
		}
	}
	liquid := s.WaterG
	if liquid == 0 && s.MilkG > 0 {
		r.Eggs.TopUp, liquid = egg.TopMilk, s.MilkG
	} else {
		add("milk", s.MilkG)
	}
	r.Eggs.LiquidG = someOf(math.Round(10*liquid) / 10)
	for _, x := range s.Extras {
		add(x.Key, x.G)
	}
	add("egg-white", s.WhiteG)
	oil, _ := request.FieldAt("oil_share")
	salt, _ := request.FieldAt("salt_share")
	r.Oil, r.Salt = min(oil.Max, s.OilG/total), min(salt.Max, s.SaltG/total)
	return r
}

// someOf is v, nil for nothing of it.
func someOf(v float64) *float64 {
	if v == 0 {
		return nil
	}
	return &v
}

// suitFlour weighs the flour to the eggs the recipe counts, where so much may be in its cups.
func (v recipeView) suitFlour(r *request.Request) {
	s := v.Sum
	if s.FlourHighG-s.FlourLowG < 1 || s.WaterG+s.MilkG > 0 || s.WholeG+s.YolkG == 0 {
		return
	}
	p, err := plan.Make(v.rules, *r)
	if err != nil {
		return
	}
	if g := math.Round(p.FlourFor(p.Formula.WholeG, p.Formula.YolkG)); g >= s.FlourLowG && g <= s.FlourHighG {
		r.Amount.FlourG = g
	}
}

// cutName cuts a recipe's name to what a batch's may be.
func cutName(name string) string {
	f, _ := request.FieldAt("name")
	if most := int(f.Max); most > 0 && utf8.RuneCountInString(name) > most {
		return strings.TrimSpace(string([]rune(name)[:most]))
	}
	return name
}

// OpenRecipe asks for the text of a recipe.
func (s *Room) OpenRecipe(c *page.Visit) error {
	cab, err := c.Cabinet()
	if err != nil {
		return err
	}
	v := readRecipe(c.Units, nil, cab)
	v.Text = exampleRecipe
	v.work(s.Rules)
	s.Render(c, http.StatusOK, "recipe", "Recipe check", v)
	return nil
}

// postedRecipe reads and works out a posted recipe.
func (s *Room) postedRecipe(c *page.Visit) (recipeView, error) {
	values, err := s.Posted(c)
	if err != nil {
		return recipeView{}, err
	}
	cab, err := c.Cabinet()
	if err != nil {
		return recipeView{}, err
	}
	v := readRecipe(c.Units, values, cab)
	v.once = page.OnceOf(values)
	v.work(s.Rules)
	return v, nil
}

// CheckRecipe reads it, and says what it makes; it keeps nothing.
func (s *Room) CheckRecipe(c *page.Visit) error {
	v, err := s.postedRecipe(c)
	if err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "recipe", "Recipe check", v)
	return nil
}

// WeighRecipe keeps the batch weighed to its aim and opens it; keepRecipe the batch as it is written.
func (s *Room) WeighRecipe(c *page.Visit) error { return s.makeRecipe(c, false) }

// KeepRecipe makes the batch at its word.
func (s *Room) KeepRecipe(c *page.Visit) error { return s.makeRecipe(c, true) }

func (s *Room) makeRecipe(c *page.Visit, written bool) error {
	v, err := s.postedRecipe(c)
	if err != nil {
		return err
	}
	var p *plan.Plan
	if v.Error == "" {
		var err error
		r := v.Request()
		if written {
			r = v.Written()
		}
		if p, err = plan.Make(s.Rules, r); err != nil {
			v.Error = "It cannot be weighed: " + err.Error()
		}
	}
	if v.Error != "" {
		s.Render(c, http.StatusUnprocessableEntity, "recipe", "Recipe check", v)
		return nil
	}
	ctx := c.Request.Context()
	if written && v.once != "" { // one form makes either, and both if it is asked to
		v.once = "w" + v.once[1:]
	}
	b, err := s.Store.CreateOnce(ctx, v.once, p)
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/batches/"+strconv.FormatUint(b.ID, 10))
	return nil
}

// glutenWords say that there is little or no gluten in the flours, and what that means; "" where there is enough.
func (v recipeView) glutenWords() string {
	var all, gluten float64
	without := []string{}
	for _, x := range v.Sum.Flours {
		f, ok := flour.Find(x.Key)
		if !ok {
			continue
		}
		all, gluten = all+x.G, gluten+x.G*f.GlutenFactor
		if f.GlutenFactor == 0 {
			without = append(without, strings.ToLower(f.Name))
		}
	}
	switch ru := v.rules.Flour; {
	case all <= 0 || gluten/all >= ru.GlutenNoSheet:
		return ""
	case gluten == 0:
		return fmt.Sprintf("There is no gluten in %s: nothing holds a sheet together. Add egg white or another "+
			"binder, or roll it thick with a pin and patch by hand.",
			measure.List(without))
	case len(without) > 0:
		return fmt.Sprintf("There is no gluten in %s, and too little in all for a machine’s sheet: add a binder, or "+
			"roll it thick with a pin.", measure.List(without))
	}
	return "There is too little gluten in all for a machine’s sheet: add a binder, or roll it thick with a pin."
}
