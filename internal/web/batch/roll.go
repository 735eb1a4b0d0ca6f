package batch

import (
	"fmt"
	"html/template"
	"math"
	"net/url"
	"strconv"
	"strings"

	"hollen/internal/core/doctor"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/draw"
	"hollen/internal/web/page"
)

// rollView is the way down.
type rollView struct{ *batchView }

// WidestWords say which end of the dial is the wide one.
func (v rollView) WidestWords() string {
	if v.Plan.Roped() {
		return "not for this shape"
	}
	if v.Plan.Pinned() {
		return "pin and board"
	}
	return "widest is " + v.Plan.Roll.Machine.Widest()
}

// MeasureAt is where the sheets of this machine are measured, with spring and density of this dough filled in;
// a machine that is nobody's yet is kept first. "" where there are no stops.
func (v rollView) MeasureAt() string {
	o, key := &v.Plan.Roll, v.Request.Roll.Machine
	if v.Plan.Pinned() || v.Plan.Roped() {
		return ""
	}
	if id, own := strings.CutPrefix(key, "own-"); own {
		return fmt.Sprintf("/cabinet/machines/%s/calibrate?spring=%.1f&density=%.3f", url.PathEscape(id), 100*o.Spring,
			v.Plan.Formula.Dough.DensityGPerML)
	}
	return "/cabinet/machines/new?like=" + url.QueryEscape(key)
}

// TargetWords say at which stop the target is met.
func (v rollView) TargetWords() string {
	if v.Plan.Pinned() {
		return ""
	}
	return "stop " + v.Plan.Roll.TargetStop
}

// Own says whether the maker's own way down is asked for.
func (v rollView) Own() bool { return v.Page.Roll.By == request.WayOwn && !v.Plan.Roped() }

// PassLine is one line of the maker's own way down as it is built.
type PassLine struct {
	N                                     int
	Stop, Passes, Fold, First, Rest, Dust Control
	Held                                  bool
}

// OwnLines are the lines of the maker's own way down.
func (v rollView) OwnLines() (out []PassLine) {
	group, _ := request.GroupNamed("roll.own_passes")
	for i := range group.Most {
		at := func(part string) Control { return v.Control(group.Path(i, part)) }
		l := PassLine{i, at("stop"), at("passes"), at("fold"), at("first"), at("rest_min"), at("dust"),
			group.Holds(&v.Page, i)}
		l.Rest.Hidden = v.Page.Roll.Steps[i].First != roll.Wait
		out = append(out, l)
	}
	return out
}

// OwnPass is the line on the page: the stop, how often, how folded, what is done before, and the keys
// that move, repeat and take it out.
func (l PassLine) OwnPass() template.HTML {
	var m page.Markup
	n := strconv.Itoa(l.N)
	m.Raw(`<div id="c-pass`, n, `"`)
	if !l.Stop.Lean {
		m.Raw(` class="own-step" data-live="hidden"`)
	}
	m.Flag("hidden", !l.Held).Raw(">")
	if l.Stop.Lean {
		m.Raw(string(l.Stop.Field("")), string(l.Passes.Field("")))
	} else {
		m.Raw(`<div class="pass-at">`, string(l.Stop.Field(l.Stop.Label)), `<span class="box"><small>×</small>`,
			string(l.Passes.Field(l.Passes.Label)), `</span></div>`)
		m.Raw(`<div class="own-keys">`)
		writeLineKeys(&m, "roll.own_passes", n, "Line "+strconv.Itoa(l.N+1))
		m.Raw(`</div>`)
	}
	m.Raw(string(l.Fold.Field(l.Fold.Label)), string(l.First.Field(l.First.Label)))
	m.Raw(`<div id="c-`, l.Rest.ID, `"`)
	if !l.Rest.Lean {
		m.Raw(` class="pass-at" data-live="hidden"`)
	}
	m.Flag("hidden", l.Rest.Hidden && l.Rest.Error == "").Raw(">")
	if l.Rest.Lean {
		m.Raw(string(l.Rest.Field("")))
	} else {
		m.Raw(`<span class="box">`, string(l.Rest.Field(l.Rest.Label)), `<small>min</small></span>`)
	}
	m.Raw(`</div>`)
	if l.Dust.Lean {
		m.Raw(string(l.Dust.Field("")))
	} else {
		m.Raw(`<label class="tick"><input type="hidden"`).Attr("name", l.Dust.Path).Raw(` value="">`,
			string(l.Dust.Field("")), ` dust it</label>`)
	}
	return m.Raw(string(l.Stop.Err()), string(l.Passes.Err()), string(l.Rest.Err()), `</div>`).HTML()
}

// writeLineKeys are the keys that move, repeat and take out a line of a list.
func writeLineKeys(m *page.Markup, group, n, name string) {
	for _, k := range [][3]string{{"up", "↑", "earlier"}, {"down", "↓", "later"}, {"again", "+", "once more"}, {"out",
		"×", "take out"}} {
		m.Raw(`<button class="btn btn-line" name="list"`).Attr("value", group+":"+k[0]+":"+n).Attr("aria-label",
			name+": "+k[2]).Raw(">", k[1], "</button>")
	}
}

// StopColumn is a stop with the lines of the maker's own way that go through it.
type StopColumn struct {
	Label string
	Chips []PassChip
	Last  int // its last line
}

// PassChip is one line of the way at a stop: a tap folds it.
type PassChip struct {
	N           int
	Mark, Label string
}

// Across is how wide the columns of the stops are, as the picture above them has them.
func (v rollView) Across() template.CSS {
	var b strings.Builder
	for _, w := range draw.StopsAcross(v.Plan) {
		fmt.Fprintf(&b, "%.0ffr ", w)
	}
	return template.CSS(b.String())
}

// Columns are the stops to tap; nil where the way down is worked out, or there is no stop.
func (v rollView) Columns() (out []StopColumn) {
	if !v.Own() || v.Plan.Pinned() {
		return nil
	}
	marks := map[request.OwnFold]string{request.NoFold: "—", request.FoldHalf: "½", request.FoldThree: "⅓",
		request.FoldBook: "¼"}
	words := map[request.OwnFold]string{request.NoFold: "flat", request.FoldHalf: "in half",
		request.FoldThree: "in three", request.FoldBook: "ends to the middle"}
	for _, s := range v.Plan.Roll.Machine.Stops {
		c := StopColumn{Label: s.Label}
		for i, x := range v.Page.Roll.Steps {
			if x.Stop != s.Label {
				continue
			}
			mark := marks[x.Fold]
			if x.Passes > 1 {
				mark += fmt.Sprintf(" ×%.0f", x.Passes)
			}
			c.Chips, c.Last = append(c.Chips, PassChip{i, mark, fmt.Sprintf("Line %d at stop %s, %s: fold", i+1,
				s.Label, words[x.Fold])}), i
		}
		out = append(out, c)
	}
	return out
}

// Skips are the stops that could be left out, none of a pin.
func (v rollView) Skips() []roll.Skip { return v.Plan.Roll.Skips }

// SetUp is what is done before the first pass.
func (v rollView) SetUp() []string {
	var out []string
	for _, s := range roll.SetUp(v.Plan.Roll.Machine.Motor) {
		out = append(out, strings.ToUpper(s[:1])+s[1:]+".")
	}
	return out
}

// LayerWords is how many layers the folds lay; past 500 nobody counts.
func (v rollView) LayerWords() string {
	if n := v.Plan.Roll.Layers; n <= 500 {
		return measure.Thousands(n)
	}
	return "hundreds of"
}

// DustWords say how much to dust, with what, at which pass.
func (v rollView) DustWords() string {
	words, soft := "The least that works, in the flour of the dough: a breath before the folds, then only where it drags.",
		"Both faces before every pass: this dough is soft."
	if v.Plan.Pinned() {
		words, soft = "The least that works, in the flour of the dough: a breath on the board, then only where it drags.",
			"Both faces at every turn: this dough is soft."
	}
	switch f := &v.Plan.Formula; {
	case f.Dough.FatPct >= v.Plan.Rules().Roll.CarefulFatPct && v.Plan.Pinned():
		words = "None at first: so much yolk does not stick. A breath of flour once it is thin."
	case f.Dough.FatPct >= v.Plan.Rules().Roll.CarefulFatPct:
		words = "None at first: so much yolk does not stick. A breath of flour from the middle stops on."
	case f.Target.Outside(f.Dough.Hw) > 0:
		words = soft
	case v.Plan.Roll.Machine.Motor:
		words = "Both faces, thinly, before each pass: a motor does not wait for a dragging sheet."
	}
	if v.Plan.Dusting().Allergen == "" && v.Plan.Dusting().Name != "" {
		return words + " For cut ribbons rice flour, which falls off again; shake them before the pot."
	}
	return words + " For cut ribbons semola or rice flour, which fall off again; shake them before the pot."
}

// rollSign is a sign at the roller with what to do now.
type rollSign struct {
	doctor.Sign
	Look template.HTML
	Do   string
}

// RollSigns are the signs that show at the roller and hardly elsewhere, with the first thing
// to do about each for this dough.
func (v rollView) RollSigns() (out []rollSign) {
	patient := v.Plan.Patient()
	for _, s := range doctor.Search(string(request.AtRoll), "", patient.On) {
		if s.Stages[0] != string(request.AtRoll) && s.Key != "snaps-back" {
			continue
		}
		if found := s.Ask(patient, nil); len(found) > 0 {
			out = append(out, rollSign{s, template.HTML(draw.Sign(s.Look)), found[0].Do})
		}
	}
	return out
}

// stripesView is how the other dough of a batch is laid on this one, with its picture.
type stripesView struct {
	*plan.Striped
	Other   *partnerView
	Error   string
	Picture template.HTML
}

// Stripes is how the other dough of this batch is joined as stripes, nil where there is none
// or a pin rolls.
func (v rollView) Stripes() *stripesView {
	if v.Partner == nil || v.Plan.Pinned() {
		return nil
	}
	laid, err := v.Plan.Striped()
	if err != nil {
		var said []string
		for _, f := range measure.Faults(err) {
			said = append(said, measure.Capital(f.Text)+".")
		}
		return &stripesView{Error: strings.Join(said, " ")}
	}
	pattern := draw.Pattern{In: v.In, Laid: laid.Laid, Joined: laid.Joined, FinalMM: laid.FinalMM,
		WideMM:  v.Plan.Roll.WidthMM,
		Colours: map[roll.Colour]string{roll.OtherDough: v.Partner.Plan.Formula.Colour.Face}}
	if laid.Third != nil {
		pattern.Colours[roll.ThirdColour] = laid.Third.Colour.Face
	}
	return &stripesView{Striped: laid, Other: v.Partner, Picture: template.HTML(pattern.SVG())}
}

// StripLine is one strip of a pattern on the page.
type StripLine struct {
	Line
	Gap Control
}

// Strips returns the lines of the pattern.
func (v rollView) Strips() (out []StripLine) {
	for i, l := range v.lines("roll.stripes.strips", "width_mm") {
		out = append(out, StripLine{l, v.Control(fmt.Sprintf("roll.stripes.strips.%d.gap_mm", i))})
	}
	return out
}

// Patterned says whether the strips are said one by one.
func (v rollView) Patterned() bool { return len(v.Request.Roll.Stripes.Strips) > 0 }

// Rung is one pass of the ladder.
type Rung struct {
	N, Label, Gap, Sheet, Thinner, Length, Time string
	Note                                        string
	MM                                          float64
	Over, Last                                  bool
}

// Rungs returns the ladder, pass by pass.
func (v rollView) Rungs() []Rung {
	var out []Rung
	passes := v.Plan.Roll.Passes
	for i, x := range passes {
		r := Rung{N: fmt.Sprint(i + 1), Label: x.Label, Gap: draw.GapMM(v.In, x.GapMM), Sheet: v.In.Bare(x.OutMM,
			measure.MM, 2), MM: x.LengthMM,
			Last: i == len(passes)-1}
		r.Length, _, _ = strings.Cut(v.In.Long(x.LengthMM), " ")
		r.Time = fmt.Sprintf("%.0f s", x.TimeS)
		if x.Sheets > 1 {
			r.Length = fmt.Sprintf("%d × %s", x.Sheets, r.Length)
		}
		if v.Plan.Pinned() {
			r.Thinner = fmt.Sprintf("%.0f %%", 100*x.Reduction)
		}
		if x.Easy > 0 {
			r.Thinner, r.Over = fmt.Sprintf("%.0f %%", 100*x.Reduction), x.Reduction > x.Easy+1e-9
		}
		r.Note = strings.Join(v.rungNotes(i, x, r.Over), "; ")
		out = append(out, r)
	}
	return out
}

// rungNotes are what is said of the i-th pass; over where it thins by more than is easy.
func (v rollView) rungNotes(i int, x roll.Pass, over bool) []string {
	var notes []string
	switch {
	case x.Fold > 0:
		notes = append(notes, "fold "+x.Folding())
		if x.PressMM > 0 {
			notes = append(notes, "press it to "+v.In.MM(x.PressMM, measure.Shortest)+" first")
		}
	case x.Stop == roll.ByPin:
		notes = append(notes, "under the pin")
	case v.Plan.Pinned() && i == 0:
		notes = append(notes, "from the middle")
	case v.Plan.Pinned() && i == len(v.Plan.Roll.Passes)-1:
		notes = append(notes, "as thin as wanted")
	case v.Plan.Pinned():
		notes = append(notes, "quarter turn, pause")
	case i == 0:
		notes = append(notes, "as pressed")
	case x.Easy == 0:
		notes = append(notes, "flat")
	case x.Nth == 2:
		notes = append(notes, "again")
	}
	if x.Halved {
		notes = append(notes, "halve first")
	}
	for _, s := range v.Plan.Roll.Skips {
		if s.Stop == x.Stop && x.Nth == 1 && s.Verdict != roll.Tearing && v.Request.Roll.Mode == roll.EveryStop {
			notes = append(notes, map[string]string{roll.Safe: "may be skipped",
				roll.Bold: "bold to skip"}[s.Verdict])
		}
	}
	if x.Skipped > 0 {
		var past []string
		for _, s := range v.Plan.Roll.Machine.Stops[x.Stop-x.Skipped : x.Stop] {
			past = append(past, s.Label)
		}
		notes = append(notes, "past "+strings.Join(past, ", "))
	}
	if x.Easy > 0 {
		ru := v.Plan.Rules().Roll
		if x.OutMM <= ru.PrintMM && x.InMM > ru.PrintMM {
			notes = append(notes, "print shows")
		} else if x.OutMM <= ru.HandMM && x.InMM > ru.HandMM {
			notes = append(notes, "a hand shows")
		}
	}
	if word := v.Plan.Word(x); v.Plan.Roll.Own && word != "" {
		notes = append(notes, word)
	}
	if x.Dust {
		notes = append(notes, "dust it")
	}
	if first := plan.FirstWords(x); x.First != "" && !x.Halved && first != "" {
		notes = append(notes, first)
	}
	if over {
		notes = append(notes, fmt.Sprintf("easy: %.0f %%", 100*x.Easy))
	}
	return notes
}

// BenchTicks returns the numbers over the ladder's last column, as per cent of its width.
func (v rollView) BenchTicks() (out []struct{ At, Number float64 }) {
	_, by, _, _ := v.In.Turn(measure.MM)
	span := v.BenchSpan() * by
	step := math.Pow(10, math.Floor(math.Log10(span/2)))
	for span/step > 5 {
		step *= 2
	}
	for n := 0.; n < v.BenchMM()*by*.86; n += step {
		out = append(out, struct{ At, Number float64 }{100 * n / span, n})
	}
	return out
}

// BenchWords are the length of the bench, or of a pin's board, without its unit.
func (v rollView) BenchWords() string {
	if v.In == measure.Customary {
		return v.In.Bare(v.BenchMM(), measure.MM, 0)
	}
	return measure.Thousands(v.BenchMM())
}

// BarWords say how high the bar beside the rollers is.
func (v rollView) BarWords() string {
	_, words := draw.RollBar(v.Plan)
	return words
}

// BenchSpan is the length the ladder's last column stands for, mm.
func (v rollView) BenchSpan() float64 { return v.BenchMM() * 7 / 6 }

// BenchMM is the length of the bench, or of a pin's board, mm.
func (v rollView) BenchMM() float64 {
	if v.Plan.Pinned() {
		return max(v.Plan.Roll.Machine.BoardLengthMM, v.Plan.Roll.Machine.BoardWidthMM)
	}
	return v.Request.Roll.BenchMM
}

// BenchAt is where the bench ends in that column, per cent.
func (v rollView) BenchAt() float64 { return 100 * 6. / 7 }

func rollKey(p *plan.Plan) string {
	stops := p.Roll.Machine.Stops
	if p.Roped() {
		return "rope of " + p.In().MM(p.Roll.WidthMM, measure.Shortest)
	}
	if len(stops) == 0 {
		return fmt.Sprintf("%s · %s", p.In().MM(math.Round(10*p.Roll.SheetMM)/10, measure.Shortest),
			measure.Plural(len(p.Roll.Passes), "stage", "stages"))
	}
	if p.Roll.Own {
		return fmt.Sprintf("%s · %s", plan.StopWords(p.Roll.Passes), measure.Plural(len(p.Roll.Passes), "pass",
			"passes"))
	}
	return fmt.Sprintf("%s to %s · %d passes", stops[0].Label, p.Roll.TargetStop, len(p.Roll.Passes))
}
