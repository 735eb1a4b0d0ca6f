package web

import (
	"fmt"
	"html/template"
	"math"
	"net/url"
	"slices"
	"strings"

	"hollen/internal/core/addition"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
	"hollen/internal/core/plan"
	"hollen/internal/store"
)

// batchView is everything the batch page shows.
type batchView struct {
	ID        uint64
	Version   int // the version the form was opened at
	At        plan.Stage
	Req       plan.Request // as the form stands, errors at their last good value
	Plan      *plan.Plan
	Typed     map[string]string
	Errors    map[string]plan.FieldError
	Unsaved   bool
	Saved     bool    // just saved
	Conflict  []Clash // what another window saved meanwhile
	Newer     int     // its version
	Gone      bool    // deleted meanwhile
	Lean      bool    // of each choice only the option chosen: the page has the others
	Rooms     []roomRow
	Cabinet   store.Cabinet // what may be picked from
	PartnerID *uint64
	Doctor    *consultation // at the doctor's alone
	Partner   *partnerView  // the other dough of this batch, nil when there is none
	slots     []Slot        // worked out once, by Slots
	adds      []Line        // by Adds
	auto      map[string]string
	units     system
	page      plan.Request // Req with the empty slots of the blend
}

func newView(id uint64, version int, at string, saved plan.Request, f form) (*batchView, error) {
	p, err := plan.Make(f.Request)
	if err != nil {
		return nil, err
	}
	v := &batchView{ID: id, Version: version, At: plan.AtFormula, Req: f.Request, Plan: p, Typed: f.Typed, Errors: f.Errors, auto: automatic(p), units: f.units}
	v.page = f.Page
	for _, s := range plan.Stages() {
		if string(s) == at {
			v.At = s
		}
	}
	if at == string(atDoctor) {
		v.At = atDoctor
	}
	v.Unsaved = len(f.Errors) > 0 || len(plan.Changes(saved, f.Request)) > 0
	return v, nil
}

// Units is the system the form is shown in.
func (v *batchView) Units() system { return v.units }

// Station is one station of the spine.
type Station struct {
	N        int
	Key      plan.Stage
	Name     string
	Figure   string
	Warnings int
	Errors   int
	Current  bool
}

// Stations returns the spine.
func (v *batchView) Stations() []Station {
	var out []Station
	for i, s := range plan.Stages() {
		x := Station{i + 1, s, stationNames[s], keyFigure(v.Plan, s), v.Plan.Warnings(s), 0, s == v.At}
		for path := range v.Errors {
			if f, ok := plan.FieldAt(path); ok && f.Stage == s && path != "name" {
				x.Errors++
			}
		}
		out = append(out, x)
	}
	return out
}

// Control is one field as it stands in the rail.
type Control struct {
	Path, Label, Unit, Sign      string
	Kind                         plan.Kind
	Optional, Slider, Hidden     bool
	SlideMax                     string
	Lean                         bool // the page has the control: its value and words suffice
	ID, Value, Auto, Hint, Error string
	Min, Max, Step               string
	Options                      template.HTML // of a choice, the value selected
}

// options writes the options of a choice.
func options(f plan.Field, value string, own ...plan.Option) template.HTML {
	if f.Kind != plan.Choice {
		return ""
	}
	var b strings.Builder
	list := append(own, f.Options...)
	if len(f.Options) > 0 && f.Options[0].Key == "" { // nothing stands first
		list = slices.Concat(f.Options[:1], own, f.Options[1:])
	}
	for _, o := range list {
		b.WriteString(`<option value="`)
		b.WriteString(template.HTMLEscapeString(o.Key))
		if o.Key == value {
			b.WriteString(`" selected>`)
		} else {
			b.WriteString(`">`)
		}
		b.WriteString(template.HTMLEscapeString(o.Name))
		b.WriteString("</option>")
	}
	return template.HTML(b.String())
}

// Carried is a field of a station that is not open: its value rides along.
type Carried struct{ Path, Value string }

// Carried returns the fields that no open control shows.
func (v *batchView) Carried() []Carried {
	var out []Carried
	for _, f := range plan.Fields() {
		if f.Path != "name" && f.Path != "flours.0.share" && (f.Stage != v.At || f.Group == "acts") {
			out = append(out, Carried{f.Path, v.value(v.units.in(f))})
		}
	}
	return out
}

// value returns what stands in a field: what was typed, also when it is not allowed.
func (v *batchView) value(f plan.Field) string {
	if typed, ok := v.Typed[f.Path]; ok {
		return typed
	}
	if got := f.Get(&v.page); got != "0" || f.Group == "" || f.Min == 0 {
		return got
	}
	return "" // of an empty slot
}

// Ctl returns the control of a field; hint stands beside its label.
func (v *batchView) Ctl(path, hint string) Control {
	f, _ := plan.FieldAt(path)
	f = v.units.in(f)
	c := Control{Path: path, Label: f.Label, Unit: f.Unit, Kind: f.Kind, Optional: f.Optional,
		ID: "f-" + strings.ReplaceAll(path, ".", "-"), Hint: hint, Auto: v.units.auto(f, v.auto[path]), Value: v.value(f)}
	if c.Lean = v.Lean; !c.Lean {
		c.Min, c.Max, c.Step = f.ShownBounds()
		c.Options = options(f, c.Value, v.cabinet(f)...)
	}
	if f.Kind == plan.Price {
		c.Sign = v.Req.Prices.Currency
	}
	if e, ok := v.Errors[path]; ok {
		c.Error = e.ForPage()
	}
	return c
}

// cabinet lists what of the workshop's own may stand in a field: what is in the cabinet, and
// what this batch was made with that is there no more.
func (v *batchView) cabinet(f plan.Field) []plan.Option {
	var out []plan.Option
	for _, x := range offers(v.Cabinet, f, &v.page) {
		out = append(out, plan.Option{Key: x.Key, Name: x.Name})
	}
	has := f.KeptBy(&v.page)
	if has == nil {
		return out
	}
	if s := v.stale(f); s != nil {
		out = append(out, plan.Option{Key: s.Key, Name: s.Name + ", newest figures"})
	}
	if typed := v.Typed[f.Path]; typed == has.Key+anew {
		out = append(out, plan.Option{Key: typed, Name: has.Name + ", newest figures"})
	}
	if !slices.ContainsFunc(out, func(o plan.Option) bool { return o.Key == has.Key }) {
		out = append(out, plan.Option{Key: has.Key, Name: has.Name + ", retired"})
	}
	return out
}

// Stale is a thing of this batch whose figures have changed in the cabinet since.
type Stale struct{ Key, Name, Set string }

// stale returns how to take what stands in f anew, nil when it is as the cabinet has it.
func (v *batchView) stale(f plan.Field) *Stale {
	has := f.KeptBy(&v.page)
	if has == nil {
		return nil
	}
	for _, x := range offers(v.Cabinet, f, &v.page) {
		if x.Key == has.Key && !plan.Same(x, *has) {
			return &Stale{x.Key + anew, has.Name, url.Values{f.Path: {x.Key + anew}}.Encode()}
		}
	}
	return nil
}

// Stale returns the things of this batch to take anew, if the maker likes.
func (v *batchView) Stale() (out []Stale) {
	for _, f := range plan.Fields() {
		if s := v.stale(f); s != nil {
			out = append(out, *s)
		}
	}
	return out
}

// Slide is Ctl with a slider under it.
func (v *batchView) Slide(path, hint string) Control {
	c := v.Ctl(path, hint)
	c.Slider, c.SlideMax = true, c.Max
	return c
}

// SlideTo is Slide with a nearer end than what is allowed.
func (v *batchView) SlideTo(path, hint, most string) Control {
	c := v.Slide(path, hint)
	c.SlideMax = most
	return c
}

// When is Ctl, hidden unless show holds.
func (v *batchView) When(show bool, path, hint string) Control {
	c := v.Ctl(path, hint)
	c.Hidden = !show && c.Error == ""
	return c
}

// Slot is one line of the blend.
type Slot struct {
	N                            int
	Flour, Share, Lot, Price     Control
	Kept, Days, KG, Wet          Control
	Named, Shown, InLot, HasLots bool
	Name, LotWords               string
	G                            float64
}

// Slots returns the lines of the blend: those with a flour, and one more to pick.
func (v *batchView) Slots() []Slot {
	if v.slots == nil {
		v.slots = v.lineUp()
	}
	return v.slots
}

func (v *batchView) lineUp() []Slot {
	var out []Slot
	open, used := true, 0
	for i, x := range v.page.Flours {
		p := fmt.Sprintf("flours.%d.", i)
		s := Slot{N: i, Flour: v.Ctl(p+"flour", ""), Share: v.Ctl(p+"share", ""), Named: x.Flour != "", Shown: x.Flour != "" || open, InLot: x.LotKept != nil}
		if s.Named && used < len(v.Plan.Formula.Flours) {
			s.Name, s.G = v.Plan.Formula.Flours[used].Name, v.Plan.Formula.Flours[used].MassG
			used++
		} else {
			open = false
			s.Share.Value = v.Typed[p+"share"]
		}
		s.Lot, s.Price = v.Ctl(p+"lot", ""), v.Ctl(p+"price_per_kg", s.Name)
		s.HasLots = x.Lot != "" || slices.ContainsFunc(v.Cabinet.Lots, func(l flour.Lot) bool { return l.Flour == x.Flour })
		s.Kept, s.Days, s.KG, s.Wet = v.Ctl(p+"kept", s.Name), v.Ctl(p+"open_days", ""), v.Ctl(p+"container_kg", ""), v.Ctl(p+"measured_moisture_wb", "%, or 20/17.6")
		for _, c := range []*Control{&s.Kept, &s.Days, &s.KG} {
			c.Hidden = s.InLot && c.Error == ""
		}
		if l := x.LotKept; l != nil {
			s.LotWords = fmt.Sprintf("%g kg, %s", l.ContainerKG, strings.ToLower(optionName(plan.Keepings(), string(l.How))))
			if l.OpenedOn != "" {
				s.LotWords += ", open since " + l.OpenedOn
				if v.page.MadeOn != "" {
					s.LotWords += ": " + plan.Plural(int(x.OpenDays), "day", "days")
				}
			}
			if l.BestBefore != "" {
				s.LotWords += "; best before " + l.BestBefore
			}
		}
		out = append(out, s)
	}
	return out
}

// Line is one addition or one other class of eggs: what it is and how much.
type Line struct {
	N           int
	What, Much  Control
	Price       Control
	Named, Show bool
	G           float64
	Usual       string
}

// Adds returns the lines of the additions: those that hold one, and one more to pick.
func (v *batchView) Adds() []Line {
	if v.adds != nil {
		return v.adds
	}
	var out []Line
	open, used := true, 0
	for i, x := range v.page.Additions {
		p := fmt.Sprintf("additions.%d.", i)
		l := Line{N: i, What: v.Ctl(p+"addition", ""), Much: v.Ctl(p+"share", ""), Price: v.Ctl(p+"price_per_kg", ""), Named: x.Addition != "", Show: x.Addition != "" || open}
		if open = l.Named; l.Named {
			kind := x.Kind()
			l.Usual = fmt.Sprintf("usual %.3g–%.3g %%", 100*kind.LowShare, 100*kind.HighShare)
			l.Price.Label, l.Price.Hint = kind.Name, ""
			if used < len(v.Plan.Formula.Additions) {
				l.G = v.Plan.Formula.Additions[used].MassG
				used++
			}
		}
		out = append(out, l)
	}
	v.adds = out
	return out
}

// lines returns n lines of a group, those that hold something and one more to fill; what and much
// are the parts of a field's path, named says whether a line holds anything.
func (v *batchView) lines(group, what, much string, n int, named func(i int) bool) []Line {
	out := make([]Line, n)
	open := true
	for i := range out {
		p := fmt.Sprintf("%s.%d.", group, i)
		out[i] = Line{N: i, What: v.Ctl(p+what, ""), Much: v.Ctl(p+much, ""), Named: named(i), Show: named(i) || open}
		open = out[i].Named
	}
	return out
}

// Alsos returns the lines of other eggs.
func (v *batchView) Alsos() []Line {
	return v.lines("eggs.also", "class", "count", len(v.page.Eggs.Also), func(i int) bool { return v.page.Eggs.Also[i].Class != "" })
}

// ErrorCount is how many fields are in error.
func (v *batchView) ErrorCount() int { return len(v.Errors) }

// Fig is a computed figure with its reason and what is to be said about it.
type Fig struct {
	Label, Number, Unit, Why string
	Notes                    []plan.Note
	Warn                     bool
}

// Fig returns the figure whose reason and notes go by key.
func (v *batchView) Fig(label, number, unit, key string) Fig {
	f := Fig{Label: label, Number: number, Unit: unit, Why: v.Plan.Why[key], Notes: v.Notes(key)}
	for _, n := range f.Notes {
		f.Warn = f.Warn || n.Level == plan.Warning
	}
	return f
}

// Mass is Fig for a mass in g.
func (v *batchView) Mass(label string, g float64, key string) Fig {
	n, unit, _ := strings.Cut(plan.Grams(g), " ")
	return v.Fig(label, n, unit, key)
}

// Notes returns the warnings and remarks on the figures named, warnings first.
func (v *batchView) Notes(keys ...string) []plan.Note {
	var out []plan.Note
	for _, n := range v.Plan.At(v.At) {
		if n.Level != plan.Caution && slices.Contains(keys, n.Field) {
			out = append(out, n)
		}
	}
	return out
}

// Cautions returns the safety notes of the open station.
func (v *batchView) Cautions() []plan.Note {
	var out []plan.Note
	for _, n := range v.Plan.At(v.At) {
		if n.Level == plan.Caution {
			out = append(out, n)
		}
	}
	return out
}

// Why returns the reason of a figure.
func (v *batchView) Why(key string) string { return v.Plan.Why[key] }

// Way is one row of the ways there.
type Way struct {
	Words, Apart string // the eggs; what sets it apart
	EggPct, TopG float64
	YolkPct      float64 // extra yolk in the egg, %
	WhitesG      float64 // left over
	Hw           float64
	Colour       string
	Set          string // what takes it
	On           bool
}

// Ways returns the answer taken and the alternatives.
func (v *batchView) Ways() []Way {
	f := &v.Plan.Formula
	free := f.FlourG - f.Pick.FlourAddG
	picks := append([]egg.Solution{f.Pick}, f.Eggs.Alternatives...)
	var out []Way
	for i, s := range picks {
		w := Way{Words: wayWords(v.Plan, s, i == 0), EggPct: 100 * s.EggG / (free + s.FlourAddG), TopG: s.TopG, YolkPct: 100 * s.YolkShare, WhitesG: s.WhitesG,
			Hw: s.Hw, Colour: v.Plan.TintOf(s).Face, On: i == 0, Apart: v.Plan.FeelOf(s),
			Set: fmt.Sprintf("eggs.fix_whole_eggs=%d&eggs.fix_extra_yolks=%d", s.Whole, s.Yolks)}
		switch {
		case s.Name == egg.OwnAnswer:
			w.Set, w.Apart = "eggs.fix_whole_eggs=&eggs.fix_extra_yolks=", "Hollen’s own answer"
		case s.FlourAddG > 0:
			w.Apart = "flour +" + plan.Grams(s.FlourAddG) + " to suit the eggs"
		case s.Name != "" && s.MissPts == 0:
			w.Apart = s.Name
		case s.Name != "":
			w.Apart = s.Name + ", " + w.Apart
		}
		out = append(out, w)
	}
	return out
}

// FlourToEggs is the other answer to a top-up: the eggs stay, and the flour is what they bring
// to its target by themselves.
type FlourToEggs struct {
	Flour, Less string
	EggPct      float64
	Set         string
}

// FlourToEggs returns that answer, nil where no liquid goes in or the style lives by it.
func (v *batchView) FlourToEggs() *FlourToEggs {
	f := &v.Plan.Formula
	if style := v.Req.Eggs.Style; f.TopG == 0 || f.Weighed() || f.Pick.EggG == 0 || style == egg.WholeWater || style == egg.NoEgg {
		return nil
	}
	g := math.Round(v.Plan.FlourFor(f.WholeG, f.YolkG))
	if g < 50 {
		return nil
	}
	return &FlourToEggs{Flour: plan.Grams(g), Less: plan.Grams(f.FlourG - g), EggPct: 100 * f.Pick.EggG / g,
		Set: fmt.Sprintf("amount.by=flour&amount.flour_g=%.0f&eggs.fix_whole_eggs=%d&eggs.fix_extra_yolks=%d", g, f.Pick.Whole, f.Pick.Yolks)}
}

// CardFlourG is the flour that goes into the well, g, by the bench card: what was left over
// does not change the card.
func (v *batchView) CardFlourG() float64 { return v.Plan.Room.FlourG - v.Plan.Formula.HeldBackG }

// CardFlours is how the flours of the card are weighed.
func (v *batchView) CardFlours() string {
	var out []string
	for _, x := range v.Plan.Formula.Flours {
		out = append(out, plan.Grams(x.Share*v.Plan.Room.FlourG)+" "+strings.ToLower(x.Name))
	}
	return strings.Join(out, ", ")
}

// howItGoesIn says at which hand's turn an addition goes in.
var howItGoesIn = map[addition.Kind]string{addition.Puree: "cooled, beaten into the eggs", addition.Powder: "sifted into the flour", addition.Herb: "chopped fine, kneaded in", addition.Liquid: "with the eggs"}

// How says how an addition goes in.
func (v *batchView) How(k addition.Kind) string { return howItGoesIn[k] }

// WithYolks says whether any way there takes extra yolks, and so leaves whites.
func (v *batchView) WithYolks() bool {
	return slices.ContainsFunc(v.Ways(), func(w Way) bool { return w.WhitesG > 0 })
}

// wayWords names one of the solver's answers; the one taken may be in grams.
func wayWords(p *plan.Plan, s egg.Solution, taken bool) string {
	if taken && p.Formula.Weighed() {
		return plan.Grams(s.EggG) + " beaten"
	}
	return plan.EggWords(s.Whole, s.Yolks)
}

// Composition is a share of the dough's mass for the bar.
type Composition struct {
	Class, Name string
	G, Share    float64
}

// MadeOf returns what the dough is made of, in falling order of mass.
func (v *batchView) MadeOf() []Composition {
	d := v.Plan.Formula.Dough
	return []Composition{
		{"c-carb", "Starch and fibre", d.CarbG, d.CarbG / d.MassG}, {"c-water", "Water", d.WaterG, d.WaterShare},
		{"c-protein", "Protein", d.ProteinG, d.ProteinG / d.MassG}, {"c-fat", "Fat", d.FatG, d.FatG / d.MassG}, {"c-ash", "Ash", d.AshG, d.AshG / d.MassG},
	}
}

// WorkFigure is the kneading of the way, in as few words as a figure has.
func (v *batchView) WorkFigure() string {
	if w := v.Plan.Knead.Way; w.Turns > 1 {
		return fmt.Sprintf("%d × %.0f", w.Turns, w.KneadMin)
	}
	return fmt.Sprintf("%.3g", v.Plan.Knead.Way.WorkMin)
}

// RestFigure is the last rest: minutes, or hours and minutes.
func (v *batchView) RestFigure() string {
	if m := v.Plan.Rest.Min; m < 120 {
		return fmt.Sprintf("%.0f", m)
	}
	return plan.Minutes(v.Plan.Rest.Min)
}

// RestUnit is the unit of RestFigure.
func (v *batchView) RestUnit() string {
	if v.Plan.Rest.Min < 120 {
		return "min"
	}
	return ""
}

// SchoolName names the school the batch is kneaded by.
func (v *batchView) SchoolName() string { return schoolNames[v.Plan.Knead.School] }

// schoolNames are the schools in a word or two.
var schoolNames = map[knead.School]string{knead.Long: "Long", knead.Turns: "In turns", knead.Short: "Short", knead.Hook: "Hook", knead.Processor: "Processor"}

// EggG is the edible egg of the pick, g.
func (v *batchView) EggG() float64 { return v.Plan.Formula.WholeG + v.Plan.Formula.YolkG }

// EggPct is egg to flour, %.
func (v *batchView) EggPct() float64 { return 100 * v.EggG() / v.Plan.Formula.FlourG }

// Correction is what the room asks for, g, with its sign.
func (v *batchView) Correction() string {
	c := v.Plan.Room.CorrectionG
	switch {
	case c >= .05:
		return "+" + strings.TrimSuffix(plan.Grams(c), " g")
	case c <= -.05:
		return "−" + strings.TrimSuffix(plan.Grams(-c), " g")
	}
	return "0"
}

// PourNow is what is poured at once, whole g: an estimate is not weighed in tenths. Where
// part of the top-up is kept by the board the two add up to it; in damp air all of it is
// poured and what is kept comes on top.
func (v *batchView) PourNow() float64 {
	r := &v.Plan.Room
	if r.KeepG == 0 || r.CorrectionG <= 0 {
		return math.Round(r.PourG)
	}
	return math.Round(r.LiquidG) - v.KeepBy()
}

// KeepBy is what stands by the board, whole g.
func (v *batchView) KeepBy() float64 { return math.Round(v.Plan.Room.KeepG) }

// EggPlanned is what the eggs of the plan weigh before they are cracked, g.
func (v *batchView) EggPlanned() float64 { return eggsPlanned(v.Plan) }

// Rescale is what to do about eggs that weigh otherwise than planned.
type Rescale struct{ Weighed, Planned, Now, Flour, Set string }

// Rescale returns the two answers to the eggs' true weight, nil when it is as planned.
func (v *batchView) Rescale() *Rescale {
	f := &v.Plan.Formula
	if f.PlannedEggG == 0 || math.Abs(f.PlannedEggG-f.Pick.EggG) < .5 {
		return nil
	}
	r := &Rescale{Weighed: plan.Grams(f.Pick.EggG), Planned: plan.Grams(f.PlannedEggG), Flour: plan.Grams(v.Plan.FlourForEggs(f.Pick.EggG)),
		Now: "The flour stays: nothing to add.", Set: fmt.Sprintf("amount.by=eggs&amount.egg_g=%.1f&eggs.cracked_g=", f.Pick.EggG)}
	switch {
	case f.TopG > 0:
		r.Now = "The flour stays: " + plan.Grams(f.TopG) + " of " + v.Plan.TopWord() + " in all makes it up."
	case f.Pick.FlourAddG > 0:
		r.Now = "The eggs stay: " + plan.Grams(f.Pick.FlourAddG) + " more flour takes them up."
	}
	return r
}
