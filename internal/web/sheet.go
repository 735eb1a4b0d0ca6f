package web

import (
	"fmt"
	"html/template"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"hollen/internal/core/cook"
	"hollen/internal/core/plan"
	"hollen/internal/draw"
)

// paper is what a page is printed on.
type paper struct{ Key, Name string }

// The papers of the batch sheet and of the label.
var (
	sheetPapers = []paper{{"a4", "A4"}, {"letter", "US letter"}}
	labelPapers = []paper{{"large", "100 × 70 mm"}, {"small", "62 × 40 mm"}}
)

func paperOf(list []paper, key string) paper {
	for _, p := range list {
		if p.Key == key {
			return p
		}
	}
	return list[0]
}

// sheetView is a page that is printed: the batch as the form stands, carried along so that the
// paper can be changed.
type sheetView struct {
	*batchView
	Place  string
	Papers []paper
	Paper  paper
	Code   string
	At     string // where the form's other buttons lead back to
	Here   string // this page's address
	Part   int    // of the shapes, the one on the label
}

// sheetOf reads the batch the page is of; GET asks for it as it is saved.
func (s *Server) sheetOf(c *gin.Context, papers []paper) (sheetView, bool) {
	a, ok := s.askSound(c)
	if !ok {
		return sheetView{}, false
	}
	s.loadPartner(c, a.view)
	back := string(a.view.At)
	a.view.At = "" // every field rides along
	key := c.Query("paper")
	if k := c.PostForm("paper"); k != "" {
		key = k
	}
	return sheetView{a.view, s.place(c), papers, paperOf(papers, key), a.view.Plan.Code(a.batch.ID), back, c.Request.URL.Path, 0}, true
}

func (s *Server) showSheet(c *gin.Context) {
	if v, ok := s.sheetOf(c, sheetPapers); ok {
		s.render(c, http.StatusOK, "sheet", "Batch sheet: "+v.Req.Name, v)
	}
}

func (s *Server) showLabel(c *gin.Context) {
	if v, ok := s.sheetOf(c, labelPapers); ok {
		key := c.Query("part")
		if k := c.PostForm("part"); k != "" {
			key = k
		}
		if n, err := strconv.Atoi(key); err == nil && n >= 0 && n <= len(v.Plan.Cut.Also) {
			v.Part = n
		}
		s.render(c, http.StatusOK, "label", "Label: "+v.Req.Name, v)
	}
}

// Style tints the sheet and sets how large its type is.
func (v sheetView) Style() template.CSS {
	return doughStyle(v.Plan) + template.CSS(fmt.Sprintf(";--fit:%.2f", v.fit()))
}

// The type of the sheet is as large as the page allows, within what is legible.
const (
	largestFit, smallestFit = 1.1, .5
	emMM                    = 12 * 25.4 / 72 // an em of the sheet at a fit of 1, mm
)

// fit returns how large the type may be so that the sheet stays on one page.
func (v sheetView) fit() float64 {
	wide, high := 190., 277.
	if v.Paper.Key == "letter" {
		wide, high = 195.9, 259.
	}
	for f := largestFit; f > smallestFit; f -= .02 {
		if v.heightMM(f, wide) <= high-5 {
			return f
		}
	}
	return smallestFit
}

// heightMM estimates the height of the sheet at a fit, rather too much than too little, mm. It
// goes by the sizes in the style sheet; letters are reckoned .42 of their size wide.
func (v sheetView) heightMM(f, wideMM float64) float64 {
	em := emMM * f
	lines := func(text string, size, mm float64) float64 { // of text of that size, em, in so many mm
		return math.Max(1, math.Ceil(float64(len([]rune(text)))*.42*size*em/mm))
	}
	h := lines(v.Req.Name, 2.4, wideMM-60)*2.45 + 1.2 + lines(v.Sum(), .9, wideMM)*1.1
	weigh, steps := 1.75, 1.75
	for _, x := range v.Plan.ToWeigh() {
		text := lines(x.What, 1.05, 35) * 1.18
		if x.Note != "" {
			text += lines(x.Note, .86, 35) * 1.04
		}
		weigh += math.Max(text, lines(x.Much, 1.9, 34)*1.75) + .68
	}
	for _, x := range v.Plan.Card() {
		steps += 1.43*lines(x.Head+plan.Minutes(x.Min), 1.17, wideMM-118) + lines(x.Text, .86, wideMM-118)*1.04 + .52
	}
	h += math.Max(weigh, steps)
	mm := 0.
	if v.StripeWords() != "" {
		h += lines(v.StripeWords(), .95, wideMM)*1.16 + .75
	}
	if !v.Roped() {
		chip := 3.2
		for _, x := range v.Plan.Roll.Passes {
			if x.Halved {
				chip = 4.2
			}
		}
		row := math.Floor((wideMM + 1.6) / (chip*em + 1.6))
		h += 1.75 + math.Ceil(float64(len(v.Plan.Roll.Passes))/math.Max(row, 1))*4.1 + 1.75
		c := &v.Plan.Cut
		if len(c.Also) > 0 {
			h += lines(v.Plan.SharedWords(), .7, wideMM-40) * .9
		}
		picture := v.PictureMM() * (62 + c.SheetWidthMM*draw.SheetScale(c.SheetLengthMM, c.SheetWidthMM)) / 926
		mm += math.Ceil(float64(len(c.Also)+1)/2) * (picture + 5)
	}
	care := 0
	for _, n := range v.Cautions() {
		care += len([]rune(n.Head+n.Text)) + 2
	}
	keep := ""
	if v.Plan.Keep.Where != "" {
		keep = v.KeepAt() + v.UseBy() + " Use by ."
	}
	h += lines("Contains ."+v.Contains()+keep, 1.1, wideMM-8)*1.35 + .7 + lines(strings.Repeat("x", care), .7, wideMM)*.85 + 2.9
	return (h+6*.75)*em + mm + 3
}

// PictureMM is how wide a sheet is drawn, mm: never higher than a thumb is long, two side by side
// where there are several.
func (v sheetView) PictureMM() float64 {
	const thumb, widest = 27, 165
	c := &v.Plan.Cut
	wide := min(widest, thumb*926/(62+c.SheetWidthMM*draw.SheetScale(c.SheetLengthMM, c.SheetWidthMM)))
	if len(c.Also) > 0 {
		wide = min(wide, 92)
	}
	return wide
}

// Sum is the batch in a line.
func (v sheetView) Sum() string {
	return fmt.Sprintf("%.1f portions; %s of dough; room %.0f °C, %.0f %%; working hydration %.1f, %s", v.Plan.Formula.Portions, plan.Grams(v.Plan.Formula.Dough.MassG),
		v.Req.Room.TempC, 100*v.Req.Room.RH, v.Plan.Formula.Dough.Hw, v.Plan.Formula.Feel)
}

// StripeWords say how a second dough is laid on, "" where there is none.
func (v sheetView) StripeWords() string {
	s := v.Stripes()
	if s == nil || s.Error != "" {
		return ""
	}
	return fmt.Sprintf("Stripes of %s (batch %s): base to %.2f mm, stripes to %.2f, %g mm wide, one every %g mm; join with one pass at stop %s.",
		s.Other.Plan.Request.Name, s.Other.Plan.Code(s.Other.ID), s.Laid.BaseMM, s.Laid.StripeMM, s.Laid.WidthMM, s.Laid.PitchMM, s.Joined.Label)
}

// Chip is one pass of the ladder in short.
type Chip struct {
	Stop, Sheet, Note string
}

// Chips returns the ladder in short, one chip to a pass.
func (v sheetView) Chips() (out []Chip) {
	for i, x := range v.Plan.Roll.Passes {
		c := Chip{x.Label, plan.Trim(x.OutMM), ""}
		switch {
		case x.Fold == 3:
			c.Note = "in three"
		case x.Fold == 2:
			c.Note = "in half"
		case x.Halved:
			c.Note = "halve first"
		case x.Easy == 0 && i > 0 && !v.Pin():
			c.Note = "flat"
		}
		if v.Pin() {
			c.Stop = "pin"
		}
		out = append(out, c)
	}
	return out
}

// Cautions returns the safety notes of every station, each once.
func (v sheetView) Cautions() (out []plan.Note) {
	seen := map[string]bool{}
	for _, n := range v.Plan.Notes {
		if n.Level == plan.Caution && !seen[n.Code] {
			seen[n.Code] = true
			out = append(out, n)
		}
	}
	return out
}

// Day is the day it is made, as a maker reads it; "" when it is not said.
func (v sheetView) Day() string {
	if t, err := time.Parse(time.DateOnly, v.Req.MadeOn); err == nil {
		return t.Format("Monday 2 January 2006")
	}
	return ""
}

// Made is when it was made, for the label.
func (v sheetView) Made() string { return labelDate(v.Plan.Keep.MadeAt, false) }

// labelDate is a date of the label, with the time of day where hours count.
func labelDate(at string, hours bool) string {
	t, err := plan.At(at)
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

// Contains lists the allergens of the batch, those of a dough laid on it as stripes too.
func (v sheetView) Contains() string {
	return strings.Join(v.withStripes(v.Plan.Formula.Allergens), ", ")
}

// withStripes adds the allergens of the other dough where it is laid on as stripes.
func (v sheetView) withStripes(own []string) []string {
	out := slices.Clone(own)
	if v.StripeWords() != "" {
		for _, a := range v.Partner.Plan.Formula.Allergens {
			if !slices.Contains(out, a) {
				out = append(out, a)
			}
		}
	}
	return out
}

// KeepAt says where and how it is kept, for the label.
func (v sheetView) KeepAt() string {
	switch v.Plan.Keep.Where {
	case cook.Freezer:
		return "Keep frozen at −18 °C. Cook from frozen, do not refreeze."
	case cook.Shelf:
		return "Keep dry, cool and closed."
	}
	return "Keep at 5 °C or less."
}

// UseBy is the date of the label: where it is kept, or in the fridge when it is not said.
func (v sheetView) UseBy() string {
	switch v.Plan.Keep.Where {
	case "":
		return labelDate(v.Plan.Keep.Fridge, true)
	case cook.Fridge:
		return labelDate(v.Plan.Keep.UseBy, true)
	}
	return labelDate(v.Plan.Keep.UseBy, false)
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

// Beside lists the allergens of another shape's filling, "" when there are none.
func (v sheetView) Beside() string {
	_, beside := v.Plan.AllergensOf(v.Shape())
	return strings.Join(beside, ", ")
}

// Ingredients returns the list for the label, what is an allergen in bold.
func (v sheetView) Ingredients() template.HTML {
	listed := func(all []plan.Ingredient) string {
		var out []string
		for _, x := range all {
			out = append(out, boldAllergen(x))
		}
		return strings.Join(out, ", ")
	}
	out := listed(v.Plan.Ingredients(v.Shape()))
	if v.StripeWords() != "" {
		out += "; stripes: " + listed(v.stripeIngredients())
	}
	return template.HTML(out)
}

// stripeIngredients are those of the dough laid on as stripes, none where there is none.
func (v sheetView) stripeIngredients() []plan.Ingredient {
	if v.StripeWords() == "" {
		return nil
	}
	return v.Partner.Plan.Ingredients(&v.Partner.Plan.Cut.CutPart)
}

// boldAllergen sets the allergen off in an ingredient: within its name where it stands there, in
// brackets after it otherwise.
func boldAllergen(x plan.Ingredient) string {
	esc := template.HTMLEscapeString
	if x.Allergen == "" {
		return esc(x.Name)
	}
	if i := strings.Index(strings.ToLower(x.Name), strings.ToLower(x.Allergen)); i >= 0 && len(strings.ToLower(x.Name)) == len(x.Name) {
		return esc(x.Name[:i]) + "<b>" + esc(x.Name[i:i+len(x.Allergen)]) + "</b>" + esc(x.Name[i+len(x.Allergen):])
	}
	return esc(x.Name) + " (<b>" + esc(x.Allergen) + "</b>)"
}

// CookWords is how it is cooked, for the label.
func (v sheetView) CookWords() string {
	from := v.Plan.Cook.FromS
	if v.Part > 0 {
		from = v.Plan.Cook.Also[v.Part-1].FromS
	}
	return "Boil in salted water, taste from " + plan.MinSec(from) + "; cook through."
}

// LabelName is what the label calls it.
func (v sheetView) LabelName() string { return v.Shape().Shape.Name }

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
	wide, high, title := 93., 63., 1.9
	if v.Paper.Key == "small" {
		wide, high, title = 58., 36., 1.65
	}
	in := "Ingredients: . Contains ." + v.LabelContains() + v.Beside()
	if v.Beside() != "" {
		in += " Handled beside: ."
	}
	for _, x := range slices.Concat(v.Plan.Ingredients(v.Shape()), v.stripeIngredients()) {
		in += x.Name + x.Allergen + " (), "
	}
	for f := 1.; f > .3; f -= .02 {
		em := v.labelPoints() * 25.4 / 72 * f
		lines := func(text string, size float64) float64 {
			return math.Max(1, math.Ceil(float64(len([]rune(text)))*.47*size*em/wide))
		}
		h := lines(v.LabelName(), title*1.05)*title + lines(in, 1)*1.2 + 2*1.45 + lines(v.KeepAt()+v.CookWords(), 1.02)*1.2 + lines(v.Place, .88)*1.1 + 5*.4 + .5
		if h*em <= high {
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
