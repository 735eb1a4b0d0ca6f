package print

import (
	"fmt"
	"html/template"
	"math"
	"net/http"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/core/request"
	"hollen/internal/draw"
	"hollen/internal/web/page"
)

// sheetView is a page that is printed: the batch as the form stands, carried along so that the
// paper can be changed.
type sheetView struct {
	*page.BatchForm
	ID     uint64
	Place  string
	Papers []page.Paper
	Paper  page.Paper
	Code   string
	Here   string     // this page's address
	Part   int        // of the shapes, the one on the label
	MadeOf *page.Made // as it was made; nil: as it is planned
	laid   *plan.Striped
	label  recipe.Label // of its recipe; who makes it as the house says, where the recipe does not
	Weight string       // printed on the label, as typed; "": a line to write on
	Wrong  string       // what is wrong with that
	Shares []share      // the orders it serves
}

// sheetOf reads the batch the page is of; GET asks for it as it is saved.
func (s *Room) sheetOf(c *page.Visit, papers []page.Paper) (sheetView, error) {
	b, err := s.form(c)
	if err != nil {
		return sheetView{}, err
	}
	key := c.Query("paper")
	if k := c.PostForm("paper"); k != "" {
		key = k
	}
	made, err := s.paperMade(c, b)
	if err != nil {
		return sheetView{}, err
	}
	if made != nil {
		b.Plan = made.Plan
	}
	v := sheetView{BatchForm: b, ID: b.Batch.ID, Place: s.Place(c), Papers: papers, Paper: page.PaperOf(papers, key),
		Code: b.Plan.Code(b.Batch.ID), Here: c.Request.URL.Path, MadeOf: made}
	if b.Other != nil && !b.Plan.Pinned() {
		v.laid, _ = b.Plan.Striped() // what cannot be laid is said on the page of the batch
	}
	return v, nil
}

// ShowSheet shows the batch sheet.
func (s *Room) ShowSheet(c *page.Visit) error {
	v, err := s.sheetOf(c, page.SheetPapers)
	if err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "sheet", "Batch sheet: "+v.Request.Name, v)
	return nil
}

// Style tints the sheet and sets how large its type is.
func (v sheetView) Style() template.CSS {
	return page.Tinted(v.Plan.Formula.Colour) + template.CSS(fmt.Sprintf(";--fit:%.2f", v.fit()))
}

// The type of the sheet is as large as the page allows, within what is legible.
const (
	largestFit, smallestFit = 1.1, .5
	emMM                    = 12 * 25.4 / 72 // an em of the sheet at a fit of 1, mm
	boxMM, boxEm            = 5.6, 2.2       // a box to tick: the smaller of the two, mm and em
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
	h := lines(v.Request.Name, 2.4, wideMM-60)*2.45 + 1.2 + lines(v.Sum(), .9, wideMM)*1.1
	weigh, steps := 1.75, 1.75
	box := math.Min(boxMM/em, boxEm) + .6/em // of a line, em
	for _, x := range v.Plan.ToWeigh() {
		text := lines(x.What, 1.05, 35) * 1.18
		for _, note := range []string{x.Then(), x.Note} {
			if note != "" {
				text += lines(note, .86, 35) * 1.04
			}
		}
		weigh += math.Max(math.Max(text, lines(x.Now(), 1.9, 34)*1.75), box) + .68
	}
	for _, x := range v.Plan.Card() {
		steps += math.Max(1.43*lines(x.Head+measure.Minutes(x.Min), 1.17, wideMM-118)+lines(x.Brief, .86,
			wideMM-118)*1.04, box) + .52
	}
	h += math.Max(weigh, steps)
	mm := 0.
	if v.StripeWords() != "" {
		h += lines(v.StripeWords(), .95, wideMM)*1.16 + .75
	}
	if !v.Plan.Roped() {
		chip := 3.2
		for _, x := range v.Plan.Roll.Passes {
			if x.Halved {
				chip = max(chip, 4.2)
			}
			if plan.FirstShort(x) != "" {
				chip = 7
			}
		}
		row := math.Floor((wideMM + 1.6) / (chip*em + 1.6))
		h += 1.75 + math.Ceil(float64(len(v.Plan.Roll.Passes))/math.Max(row, 1))*4.1 + 1.75
		c := &v.Plan.Cut
		if len(c.Also) > 0 {
			h += lines(v.Plan.SharedWords(), .7, wideMM-40) * .9
		}
		picture := 0.
		for _, x := range c.Parts() {
			picture = max(picture, v.pictureHighMM(x))
		}
		mm += math.Ceil(float64(len(c.Also)+1)/2) * (picture + 5)
	}
	care := 0
	for _, n := range v.Cautions() {
		care += len([]rune(n.Head+n.Text)) + 2
	}
	warn := 0
	for _, n := range v.Warned() {
		warn += len([]rune(n.Head+n.Text)) + 2
	}
	if warn > 0 {
		h += lines(strings.Repeat("x", warn), .8, wideMM)*.96 + .4
	}
	keep := ""
	for _, k := range v.KeptLines() {
		keep += k.Name + k.Keep + k.UseBy + ":  Use by ."
	}
	h += lines("Contains ."+v.Contains()+keep, 1.1, wideMM-8)*1.35 + .7 + lines(strings.Repeat("x", care), .7,
		wideMM)*.85 + 2.9
	return (h+6*.75)*em + mm + 3
}

// PictureMM is how wide the sheet of a part is drawn, mm: hardly higher than a thumb is long, two side by side
// where there are several.
func (v sheetView) PictureMM(x *plan.CutPart) float64 {
	thumb, widest := 32., 165.
	if len(v.Plan.Cut.Also) > 0 {
		thumb, widest = 27, 92
	}
	long, wide := x.SheetMM()
	scale := (thumb*draw.PaperUnits - draw.SheetAround) / wide
	return math.Floor(min(widest, (draw.SheetBeside+long*scale)/draw.PaperUnits))
}

// pictureHighMM is how high the picture of a part is on paper, mm.
func (v sheetView) pictureHighMM(x *plan.CutPart) float64 {
	long, wide := x.SheetMM()
	scale := draw.SheetScale(long, wide, draw.Width(v.PictureMM(x)*draw.PaperUnits))
	return (draw.SheetAround + wide*scale) / draw.PaperUnits
}

// Sum is the batch in a line.
func (v sheetView) Sum() string {
	return fmt.Sprintf("%.1f portions; %s of dough; room %s, %.0f %%; working hydration %.1f, %s",
		v.Plan.Formula.Portions,
		v.In.Grams(v.Plan.Formula.Dough.MassG),
		v.In.C(v.Request.Room.TempC, 0), 100*v.Request.Room.RH, v.Plan.Formula.Dough.Hw, v.Plan.Formula.Feel)
}

// StripeWords say how a second dough is laid on, "" where there is none.
func (v sheetView) StripeWords() string {
	if v.laid == nil {
		return ""
	}
	other := v.Other.Plan
	return v.laid.Words(other.Request.Name + " (batch " + other.Code(v.Other.ID) + ")")
}

// Chip is one pass of the ladder in short.
type Chip struct {
	Stop, Sheet, Note string
}

// Chips returns the ladder in short, one chip to a pass.
func (v sheetView) Chips() (out []Chip) {
	for i, x := range v.Plan.Roll.Passes {
		c := Chip{x.Label, v.thin(x.OutMM), ""}
		switch {
		case x.Fold > 0:
			c.Note = x.Folding()
		case x.Halved:
			c.Note = "halve first"
		case x.Easy == 0 && i > 0 && !v.Plan.Pinned():
			c.Note = "flat"
		}
		if first := plan.FirstShort(x); first != "" {
			c.Note = strings.TrimSuffix(first+", "+c.Note, ", ")
		}
		if v.Plan.Pinned() {
			c.Stop = "pin"
		}
		out = append(out, c)
	}
	return out
}

// thin is a thickness without its unit, as short as it can be.
func (v sheetView) thin(mm float64) string {
	if v.In == measure.Customary {
		return v.In.Bare(mm, measure.MM, 2)
	}
	return measure.Trim(mm)
}

// Req is the request as the form stands.
func (v sheetView) Req() *request.Request { return &v.Request }

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

// Warned returns the warnings of every station, each once: what stands on the page must not be missing on paper.
func (v sheetView) Warned() (out []plan.Note) {
	seen := map[string]bool{}
	for _, n := range v.Plan.Notes {
		if n.Level == plan.Warning && !seen[n.Head+n.Text] {
			seen[n.Head+n.Text] = true
			out = append(out, n)
		}
	}
	return out
}

// Day is the day it is made, as a maker reads it; "" when it is not said.
func (v sheetView) Day() string {
	if t, err := time.Parse(time.DateOnly, v.Plan.Request.MadeOn); err == nil {
		return t.Format("Monday 2 January 2006")
	}
	return ""
}

// Contains lists the allergens of the batch, those of a dough laid on it as stripes too.
func (v sheetView) Contains() string {
	return strings.Join(v.withStripes(v.Plan.Formula.Allergens), ", ")
}

// withStripes adds the allergens of the other dough where it is laid on as stripes.
func (v sheetView) withStripes(own []string) []string {
	out := slices.Clone(own)
	if v.laid == nil {
		return out
	}
	laid := slices.Clone(v.Other.Plan.Formula.Allergens)
	if third := v.laid.Third; third != nil && third.Of.Allergen != "" {
		laid = append(laid, third.Of.Allergen)
	}
	for _, a := range laid {
		if !slices.Contains(out, a) {
			out = append(out, a)
		}
	}
	return out
}
