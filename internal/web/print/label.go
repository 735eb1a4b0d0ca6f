package print

import (
	"cmp"
	"errors"
	"fmt"
	"html/template"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"hollen/internal/core/cook"
	"hollen/internal/core/day"
	"hollen/internal/core/filling"
	"hollen/internal/core/measure"
	"hollen/internal/core/order"
	"hollen/internal/core/plan"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// labelPapers are the papers of a label.
var labelPapers = []page.Paper{{Key: "large", Name: "100 × 70 mm"}, {Key: "small", Name: "62 × 40 mm"}}

// ShowLabel shows the label of a batch.
func (s *Room) ShowLabel(c *page.Visit) error {
	v, err := s.sheetOf(c, labelPapers)
	if err != nil {
		return err
	}
	key := c.Query("part")
	if k := c.PostForm("part"); k != "" {
		key = k
	}
	if n, err := strconv.Atoi(key); err == nil && n >= 0 && n <= len(v.Plan.Cut.Also) {
		v.Part = n
	}
	if err := s.labelled(c, &v); err != nil {
		return err
	}
	if err := s.shared(c, &v); err != nil {
		return err
	}
	v.Weight = strings.TrimSpace(c.DefaultQuery("weight", c.PostForm("weight")))
	v.Wrong = v.weighed()
	s.Render(c, http.StatusOK, "label", "Label: "+v.Request.Name, v)
	return nil
}

// labelled fills in what the recipe of the batch says of its label, and who makes it.
func (s *Room) labelled(c *page.Visit, v *sheetView) error {
	if id := v.Batch.RecipeID; id != nil {
		r, err := s.Store.RecipeByID(c.Request.Context(), *id)
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return err
		}
		v.label = r.Besides.V.Label
	}
	h, err := s.House(c)
	v.label.MadeBy = cmp.Or(v.label.MadeBy, h.MadeBy, v.Place)
	return err
}

// share is an order that the batch serves, as the label of what goes to its customer has it.
type share struct {
	ID    uint64
	Who   string
	Much  string // as it was said
	Marks string // what it is to be without
	MassG float64
	On    bool // the label is for it
}

// shared fills in the orders the batch serves, and the one its label is for, where it is for one.
func (s *Room) shared(c *page.Visit, v *sheetView) error {
	all, err := s.Store.OrdersServed(c.Request.Context(), v.ID)
	if err != nil {
		return err
	}
	want := cmp.Or(c.PostForm("order"), c.Query("order"))
	for i := range all {
		o := &all[i]
		x := share{ID: o.ID, Who: o.Who, Much: o.Said().Words(), Marks: measure.Capital(
			order.MarksWords(order.Marks(o.What, o.Noted())))}
		if a := o.Said(); a.Unit == order.Grams {
			x.MassG = a.N
		}
		if x.On = fmt.Sprint(o.ID) == want; x.On {
			if !c.Request.URL.Query().Has("part") && c.PostForm("part") == "" {
				v.Part = day.PartFor(v.Plan, o.What)
			}
		}
		v.Shares = append(v.Shares, x)
	}
	return nil
}

// For is the order the label is for; nil where it is for nobody in particular.
func (v sheetView) For() *share {
	for i := range v.Shares {
		if v.Shares[i].On {
			return &v.Shares[i]
		}
	}
	return nil
}

// Words say whom it is for, and how much of it.
func (x share) Words() string { return x.Who + ": " + x.Much }

// The least and the most a pack weighs, g.
const leastPackG, mostPackG = 5, 20000

// weighed reads the weight that is printed, and writes it as a label has it; what is wrong with it, "" where nothing
// is.
func (v *sheetView) weighed() string {
	if v.Weight == "" {
		if x := v.For(); x != nil && x.MassG > 0 {
			v.Weight = v.In.Grams(x.MassG)
		}
		return ""
	}
	g, err := measure.Read(v.Weight, measure.G, func(n float64) float64 { return n / v.perUnit() })
	if err != nil || !(g >= leastPackG && g <= mostPackG) {
		return v.In.Prose(fmt.Sprintf("{%d–%d g} is allowed, as in 250 g; empty leaves a line to write on.", leastPackG,
			mostPackG))
	}
	v.Weight = v.In.Grams(g)
	return ""
}

// perUnit is how many of the unit shown a gram is.
func (v *sheetView) perUnit() float64 {
	if _, by, _, turned := v.In.Turn(measure.G); turned {
		return by
	}
	return 1
}

// MadeBy is who makes it, and where, for the label.
func (v sheetView) MadeBy() string { return v.label.MadeBy }

// MayContain are the allergens that may have come to it, beside those it contains; "" where none is said.
func (v sheetView) MayContain() string {
	in, _ := v.Plan.AllergensOf(v.Shape())
	var out []string
	said := v.label.MayContain
	if own := v.Plan.Request.Cut.Filling.Own; own != nil && v.Shape().Filling != nil {
		said += "," + own.MayContain
	}
	for _, a := range filling.Listed(said) {
		if !slices.Contains(in, a) && !slices.Contains(out, a) {
			out = append(out, a)
		}
	}
	return strings.Join(out, ", ")
}

// Energy is what 100 g hold, raw, for the larger label; "" where that is not known.
func (v sheetView) Energy() string {
	if v.Paper.Key == "small" || v.laid != nil {
		return ""
	}
	return v.Plan.EnergyWords(v.Shape())
}

// FillingMade is the day its filling was made, where that is another; "" where it is not.
func (v sheetView) FillingMade() string {
	if v.Shape().Filling == nil {
		return ""
	}
	return labelDate(v.Plan.FillingMade(), false)
}

// Made is when it was made, for the label.
func (v sheetView) Made() string { return labelDate(v.Plan.Keep.MadeAt, false) }

// Missing is what paper would lack, as words; "" where nothing does.
func (v sheetView) Missing() string {
	var out []string
	if v.Request.MadeOn == "" && v.Made() == "" {
		out = append(out, "the day it is made, said at Room: dates and code hang on it")
	}
	filled, f := v.Plan.Request.Filled(), v.Plan.Request.Cut.Filling
	if v.Labels() {
		filled = v.Shape().Shape.Traits().Filling
	}
	if filled && f.Called() == "" {
		out = append(out, "what the filling is, said at Cut")
	}
	unsaid := filling.Unsaid(f.Called(), strings.Join(f.Holds(), ", "))
	if own := f.Own; filled && own != nil && !own.Read {
		out = append(out, "are the filling’s allergens right? Ticked at the filling in the cabinet, once they were "+
			"held "+
			"against the packs")
	}
	if filled && f.Own == nil && f.Allergens == "" && len(unsaid) == 0 {
		out = append(out, "the filling’s allergens, said at Cut: “none” where it has none")
	}
	if filled && len(unsaid) > 0 {
		out = append(out, fmt.Sprintf("is there %s in “%s”? Its allergens, said at Cut, leave that out",
			measure.List(unsaid), f.Called()))
	}
	if filled && !f.Safety().Raw() && filling.SoundsRaw(f.Called()) {
		out = append(out, fmt.Sprintf("does “%s” go in raw? It is marked cooked at Cut", f.Called()))
	}
	return strings.Join(out, "; ")
}

// labelDate is a date of the label, with the time of day where hours count.
func labelDate(at string, hours bool) string {
	t, err := measure.At(at)
	if err != nil {
		hours = false
		if t, err = time.Parse(time.DateOnly, at); err != nil {
			return ""
		}
	}
	if hours {
		return t.Format("2 Jan 2006, 15:04")
	}
	return t.Format("2 Jan 2006")
}

// KeepAt says where and how it is kept, or why it is not, for the label.
func (v sheetView) KeepAt() string {
	if v.MadeOf != nil && v.MadeOf.Thrown != "" {
		return "Thrown away: " + v.MadeOf.Thrown
	}
	keep, _, _ := v.Plan.KeepLabel(v.Part)
	return keep
}

// UseBy is the date of the label: where it is kept, or in the fridge when it is not said; "" where it is not to be
// kept.
func (v sheetView) UseBy() string {
	if v.MadeOf != nil && v.MadeOf.Thrown != "" {
		return ""
	}
	_, by, counts := v.Plan.KeepLabel(v.Part)
	if counts != "" {
		return counts
	}
	return labelDate(by, v.Plan.Keep.Where == cook.Fridge || v.Plan.Keep.Where == "")
}

// KeptLine is how one shape is kept, for the sheet.
type KeptLine struct{ Name, Keep, UseBy string }

// KeptLines are how the batch is kept: one line for all shapes, a line each where they differ; none where it is cooked
// the same day.
func (v sheetView) KeptLines() (out []KeptLine) {
	if v.Plan.Keep.Where == "" && !(v.MadeOf != nil && v.MadeOf.Thrown != "") {
		return nil
	}
	same := true
	for i, x := range v.Plan.Cut.Parts() {
		v.Part = i
		out = append(out, KeptLine{x.Shape.Name, v.KeepAt(), v.UseBy()})
		same = same && out[i].Keep == out[0].Keep && out[i].UseBy == out[0].UseBy
	}
	if same {
		return []KeptLine{{"", out[0].Keep, out[0].UseBy}}
	}
	return out
}

// Labels says whether the page is a label.
func (v sheetView) Labels() bool { return len(v.Papers) > 0 && v.Papers[0] == labelPapers[0] }

// Shape is the shape on the label.
func (v sheetView) Shape() *plan.CutPart { return v.Plan.Cut.Parts()[v.Part] }

// LabelContains lists the allergens of the shape, and Beside those handled beside it.
func (v sheetView) LabelContains() string {
	in, _ := v.Plan.AllergensOf(v.Shape())
	return strings.Join(v.withStripes(in), ", ")
}

// OtherAllergens lists the allergens of another shape's filling, "" when there are none.
func (v sheetView) OtherAllergens() string {
	_, beside := v.Plan.AllergensOf(v.Shape())
	return strings.Join(beside, ", ")
}

// Ingredients returns the list for the label, what is an allergen in bold.
func (v sheetView) Ingredients() template.HTML {
	out := page.Listed(v.Plan.Ingredients(v.Shape()))
	if v.laid != nil {
		out += "; stripes: " + page.Listed(v.stripeIngredients())
	}
	return out
}

// stripeIngredients are those of the dough laid on as stripes, none where there is none.
func (v sheetView) stripeIngredients() []plan.Ingredient {
	if v.laid == nil {
		return nil
	}
	out := v.Other.Plan.Ingredients(&v.Other.Plan.Cut.CutPart)
	if third := v.laid.Third; third != nil {
		out = append(out, plan.Ingredient{Name: third.Of.LabelName(), Allergen: third.Of.Allergen, G: third.ColourG})
	}
	return out
}

// CookWords is how it is cooked, for the label.
func (v sheetView) CookWords() string { return v.Plan.CookLabel(v.Part) }

// LabelName is what the label calls it.
func (v sheetView) LabelName() string {
	if v.Part == 0 && v.label.Product != "" {
		return v.label.Product
	}
	return v.Shape().Shape.Name
}

// labelPoints returns the type of the label before it is fitted, points.
func (v sheetView) labelPoints() float64 {
	if v.Paper.Key == "small" {
		return 5.9
	}
	return 8.6
}

// LabelFit returns how large the type of the label may be so that nothing is cut off; by the
// sizes in the style sheet, and letters .47 of their size wide.
func (v sheetView) LabelFit() float64 {
	wide := 93.
	high := 63.
	title := 1.9
	if v.Paper.Key == "small" {
		wide = 58.
		high = 36.
		title = 1.65
	}
	in := "Ingredients: . Contains ." + v.LabelContains() + v.OtherAllergens()
	if may := v.MayContain(); may != "" {
		in += " May contain: ." + may
	}
	if e := v.Energy(); e != "" {
		in += " 100 g raw: ." + e
	}
	rows := 2.
	if v.FillingMade() != "" {
		rows++
	}
	told := ""
	if x := v.For(); x != nil {
		told = "For " + x.Words() + ". " + x.Marks
	}
	if v.OtherAllergens() != "" {
		in += " Handled beside: ."
	}
	for _, x := range slices.Concat(v.Plan.Ingredients(v.Shape()), v.stripeIngredients()) {
		in += x.Name + x.Allergen + " (), "
		for _, y := range x.Of {
			in += y.Name + y.Allergen + " (), "
		}
	}
	for f := 1.4; f > .3; f -= .02 {
		em := v.labelPoints() * 25.4 / 72 * f
		lines := func(text string, size float64) float64 {
			return math.Max(1, math.Ceil(float64(len([]rune(text)))*.47*size*em/wide))
		}
		h := lines(v.LabelName(), title*1.05)*title + lines(told, 1.1)*1.25 + lines(in, 1)*1.2 + rows*1.45 +
			lines(v.KeepAt()+v.CookWords(), 1.02)*1.2 + lines(v.MadeBy(), .88)*1.1 + 5*.4 + .5
		// A line of two dates: a word and a date each, letters .57 of their size wide.
		dates := (6*.88 + 1.15*float64(max(len(v.Made()), len(v.UseBy()), len(v.Code)))) * .57
		if h*em <= high && dates*em <= (wide-3)/2 {
			return f
		}
	}
	return .3
}

// LabelTooSmall says whether its letters come out lower than food authorities ask for: 1.2 mm,
// .9 on a small pack, of a letter like x, half as high as its type.
func (v sheetView) LabelTooSmall() bool {
	least := 1.2
	if v.Paper.Key == "small" {
		least = .9
	}
	return v.labelPoints()*v.LabelFit()*25.4/72*.5 < least-.01
}
