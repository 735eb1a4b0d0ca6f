package batch

import (
	"html/template"
	"strconv"
	"strings"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/draw"
	"hollen/internal/web/page"
)

// terms are the words of the glossary that the labels of figures are.
var terms = map[string]string{"formula.hw": "working-hydration", "room.moisture": "moisture", "knead.school": "school",
	"rest.min": "relaxation", "roll.sheet": "sheet", "cut.trim": "trimmings", "dry.window": "leather",
	"dry.nest": "nest", "cut.across": "ribbon"}

// HTML is the figure with its reason and what is to be said about it.
func (f Fig) HTML() template.HTML {
	var m page.Markup
	m.Raw(`<div class="fig`)
	if f.Warn {
		m.Raw(" is-warn")
	}
	m.Raw(`" data-fig="`, page.Esc(f.Key), `"><div class="lab">`)
	if term, ok := terms[f.Key]; ok {
		m.Raw(`<a class="term" href="/glossary#`, term, `">`, page.Esc(f.Label), `</a>`)
	} else {
		m.Raw(page.Esc(f.Label))
	}
	m.Raw(`</div><div class="num">`, page.Esc(f.Number))
	if f.Unit != "" {
		m.Raw(`<span class="unit">`, page.Esc(f.Unit), `</span>`)
	}
	m.Raw(`</div>`)
	if f.Why != "" {
		m.Raw(`<p class="why">`, page.Esc(f.Why), `</p>`)
	}
	writeNotes(&m, f.Notes)
	return m.Raw(`</div>`).HTML()
}

// writeNotes writes what is to be said, a line each.
func writeNotes(m *page.Markup, notes []plan.Note) {
	for _, n := range notes {
		class := "remark"
		switch {
		case n.Level == plan.Warning:
			class = "warn"
		case strings.HasPrefix(n.Head, "From ") || strings.HasPrefix(n.Head, "By "): // where it comes from: a reason
			class = "remark deep"
		}
		m.Raw(`<div class="`, class, `" data-note="`, page.Esc(n.Code), `"><b>`, page.Esc(n.Head), `</b> `)
		if n.Level == plan.Warning || n.Set != "" {
			m.Raw(page.Esc(n.Text))
		} else {
			m.Raw(`<span class="deep">`, page.Esc(n.Text), `</span>`)
		}
		if strings.HasPrefix(n.Code, plan.LearnedCode) {
			m.Raw(` <a href="/log/learned">What stands behind it</a>`)
		}
		if n.Set != "" {
			m.Raw(` <button class="btn btn-line take" name="set"`).Attr("value", n.Set).Raw(`>`, page.Esc(n.Offer),
				`</button>`)
		}
		m.Raw(`</div>`)
	}
}

// WayRows are the solver's answers, a row each.
func (v *formulaView) WayRows() template.HTML {
	var m page.Markup
	ways, number := v.Ways(), func(v float64, unit string) string { return strconv.FormatFloat(v, 'f', 1, 64) + unit }
	mass := func(g float64) string {
		if g == 0 {
			return "none"
		}
		return v.In.Grams(g)
	}
	yolks := v.WithYolks()
	others := 0
	for _, w := range ways {
		m.Raw("<tr")
		switch {
		case w.On:
			m.Raw(` class="on"`)
		case others > 0: // one other way is enough at first
			m.Raw(` class="deep"`)
		default:
			others++
		}
		m.Raw(`><td class="val">`, page.Esc(w.Words), `</td><td class="r deep">`, number(w.EggPct, " %"), `</td>`)
		if yolks {
			m.Raw(`<td class="r deep">`, strconv.FormatFloat(w.YolkPct, 'f', 0, 64), ` %</td><td class="r deep">`,
				mass(w.WhitesG), `</td>`)
		}
		m.Raw(`<td class="r">`, mass(w.TopG), `</td><td class="r val deep">`, number(w.Hw, ""),
			`</td><td class="deep"><span class="sw"`)
		m.Attr("style", "--dough:"+page.TintOnly.FindString(w.Colour)).
			Raw("></span></td>\n<td").Flag(`class="deep"`, w.On).Raw(">", page.Esc(w.Apart),
			`</td><td class="r">`)
		if !w.On {
			m.Raw(`<button class="btn btn-line take" name="set"`).Attr("value", w.Set).Raw("\naria-label=\"Take ",
				page.Esc(w.Words), `">Take</button>`)
		}
		m.Raw("</td></tr>\n")
	}
	return m.HTML()
}

// CostRows are what the batch costs, a row each.
func (v *formulaView) CostRows() template.HTML {
	var m page.Markup
	sign := page.Esc(v.Plan.Cost.Currency)
	for _, l := range v.Plan.Cost.Lines {
		m.Raw("<tr><td>", page.Esc(l.Name), `</td><td class="r">`, page.Esc(l.Much), `</td><td class="r">`, sign, " ",
			page.Esc(l.Price.String()), " / ", page.Esc(l.Unit),
			"</td>\n<td class=\"r val\">", sign, " ", page.Esc(l.Cost.Rounded().String()), "</td></tr>\n")
	}
	return m.HTML()
}

// IntoRows are what goes into the dough, a row each.
func (v *formulaView) IntoRows() template.HTML {
	var m page.Markup
	row := func(name string, g float64) {
		m.Raw(`<tr><th scope="row">`, page.Esc(name), `</th><td class="r val">`, page.Esc(v.In.Grams(g)),
			"</td></tr>\n")
	}
	for _, x := range v.Plan.DoughParts() {
		row(x.Word, x.G)
	}
	return m.HTML()
}

// A part of the dough is named on the bar where it has room, with its figures where there is more.
const (
	roomForName    = .04
	roomForFigures = .2
)

// MadeOfBar is the dough's composition as a bar.
func (v *formulaView) MadeOfBar() template.HTML {
	var m page.Markup
	for _, c := range v.MadeOf() {
		m.Raw(`<span class="`, c.Class, `" style="--w:`, strconv.FormatFloat(100*c.Share, 'f', 1, 64), `%">`)
		if c.Share > roomForName {
			m.Raw(page.Esc(c.Name))
		}
		if c.Share > roomForFigures {
			m.Raw(" <small>", page.Esc(v.In.Grams(c.G)), ", ", page.NoDecimals(100*c.Share), " %</small>")
		}
		m.Raw("</span>")
	}
	return m.HTML()
}

// MadeOfRest says the parts of the dough that have no room for figures on the bar.
func (v *formulaView) MadeOfRest() string {
	var out []string
	for _, c := range v.MadeOf()[2:] {
		out = append(out, c.Name+" "+v.In.Grams(c.G)+" ("+page.NoDecimals(100*c.Share)+" %)")
	}
	return strings.Join(out, ", ")
}

// Listed are the dough's ingredients as a label lists them, allergens set off.
func (v *formulaView) Listed() template.HTML {
	var m page.Markup
	for i, x := range v.Ingredients() {
		if i > 0 {
			m.Raw(", ")
		}
		if x.Allergen {
			m.Raw("<b>", page.Esc(x.Name), "</b>")
		} else {
			m.Raw(page.Esc(x.Name))
		}
		if x.Share >= .005 {
			m.Raw(" ", page.NoDecimals(100*x.Share), " %")
		} else {
			m.Raw(" under 1 %")
		}
	}
	return m.HTML()
}

// RungRows are the passes of the ladder, a row each.
func (v rollView) RungRows() template.HTML {
	var m page.Markup
	span, pin := page.NoDecimals(v.BenchSpan()), v.Plan.Pinned()
	for _, r := range v.Rungs() {
		m.Raw("<tr")
		switch {
		case r.Last:
			m.Raw(` class="last"`)
		case r.Over:
			m.Raw(` class="over"`)
		}
		if m.Raw("><td"); !pin {
			m.Raw(` class="deep"`)
		}
		m.Raw(">", r.N, "</td>")
		if !pin {
			m.Raw(`<td class="val" translate="no">`, page.Esc(r.Label), "</td><td class=\"deep\">", r.Gap, "</td>")
		}
		m.Raw(`<td class="val">`, r.Sheet, `</td><td class="deep">`, r.Thinner, `</td><td class="txt">`, page.Esc(r.Note),
			`</td><td class="deep">`,
			r.Time, `</td><td class="val">`,
			r.Length, `</td><td class="run"><i style="--mm:`, page.NoDecimals(r.MM), ";--span:", span,
			"\"></i></td></tr>\n")
	}
	return m.HTML()
}

// Row is a nutrient in the raw dough and in a portion.
func (n Nutrient) Row() template.HTML {
	var m page.Markup
	return m.Raw("<tr><td>", page.Esc(n.Name), `</td><td class="r val">`, page.Esc(n.Per100), `</td><td class="r">`,
		page.Esc(n.PerPortion), "</td></tr>").HTML()
}

// HTML is the control as it stands in the rail; lean, what of it changes with the figures.
func (c Control) HTML() template.HTML {
	var m page.Markup
	m.Raw(`<div`)
	switch {
	case c.Lean:
	case c.Deep:
		m.Raw(` class="ctl deep" data-live="hidden"`)
	default:
		m.Raw(` class="ctl" data-live="hidden"`)
	}
	m.Attr("id", "c-"+c.ID).Flag("hidden", c.Hidden).Raw(">")
	switch {
	case c.Lean:
		if c.Hint != "" {
			m.Raw(`<i id="h-`, c.ID, `">`, page.Esc(c.Hint), `</i>`)
		}
		m.Raw(string(c.Field("")))
		if c.Error != "" {
			m.Raw(`<p id="e-`, c.ID, `">`, page.Esc(c.Error), `</p>`)
		}
	case c.Kind == request.Flag:
		m.Raw(`<label class="tick"><input type="hidden"`).Attr("name", c.Path).Raw(` value="">`, string(c.Field("")),
			" ", page.Esc(c.Label),
			`</label>`).Raw(string(c.Err()))
	default:
		m.Raw(`<label`).Attr("for", c.ID).Raw(">", page.Esc(c.Label), `<span class="hint" id="h-`, c.ID,
			`" data-live="text">`, page.Esc(c.Hint), `</span></label>`)
		writeBoxed(&m, c)
		m.Raw(string(c.Err()))
	}
	return m.Raw(`</div>`).HTML()
}

// writeBoxed writes the field with what stands round it.
func writeBoxed(m *page.Markup, c Control) {
	switch c.Kind {
	case request.Price:
		m.Raw(`<div class="plain-box slim"><small>`, page.Esc(c.Sign), `</small>`, string(c.Field("")), `<small>`,
			page.Esc(c.Unit), `</small></div>`)
	case request.Number, request.Whole:
		if c.Plain {
			m.Raw(`<div class="plain-box">`, string(c.Field("")), `<small>`, page.Esc(c.Unit), `</small></div>`)
			return
		}
		step := func(by, word, sign string) {
			m.Raw(`<button type="submit" name="step"`).Attr("value", c.Path+"="+by).Attr("aria-label",
				c.Label+": "+word).Attr("data-step", by).Raw(">", sign,
				`</button>`)
		}
		m.Raw(`<div class="stepper">`)
		step("-1", "less", "−")
		m.Raw(`<span class="box">`, string(c.Field("")))
		if c.Unit != "" {
			m.Raw(`<small>`, page.Esc(c.Unit), `</small>`)
		}
		m.Raw(`</span>`)
		step("1", "more", "+")
		m.Raw(`</div>`)
		if c.Slider {
			at := c.Value
			if at == "" {
				at = c.Auto
			}
			m.Raw(`<input type="range" class="slide"`).Attr("data-for", c.ID).Attr("aria-label",
				c.Label+", slide").Attr("min", c.Min).Attr("max", c.SlideMax).
				Attr("step", c.Step).Attr("value", at).Raw(">")
		}
	default:
		m.Raw(string(c.Field("")))
	}
}

// Err is where the error of the control is told.
func (c Control) Err() template.HTML {
	var m page.Markup
	if c.Lean {
		if c.Error == "" {
			return ""
		}
		return m.Raw(`<p id="e-`, c.ID, `">`, page.Esc(c.Error), `</p>`).HTML()
	}
	return m.Raw(`<p class="err" id="e-`, c.ID, `" data-live="text" role="alert">`, page.Esc(c.Error), `</p>`).HTML()
}

// Field is the field itself; label is its name where no label stands beside it.
func (c Control) Field(label string) template.HTML {
	var m page.Markup
	invalid := func() *page.Markup {
		if c.Error != "" {
			m.Attr("aria-invalid", "true").Attr("aria-describedby", "e-"+c.ID)
		}
		return &m
	}
	if c.Lean { // no field, only what one would hold: the page has the field. Figures stand in i, words in b.
		tag := "b"
		if c.Kind == request.Number || c.Kind == request.Whole || c.Kind == request.Price {
			tag = "i"
		}
		m.Raw("<", tag).Attr("id", c.ID).Attr("data-value", c.Value)
		if c.Auto != "" {
			m.Attr("data-auto", c.Auto)
		}
		return invalid().Raw("></", tag, ">").HTML()
	}
	named := func(tag string) {
		m.Raw("<", tag).Attr("id", c.ID).Attr("name", c.Path)
	}
	labelled := func() {
		if label != "" {
			m.Attr("aria-label", label)
		}
	}
	if c.Kind == request.Choice {
		named("select")
		labelled()
		m.Attr("class", "form-select")
		invalid().Raw(">", string(c.Options), "</select>")
		return m.HTML()
	}
	named("input")
	if c.Kind == request.Flag {
		m.Attr("type", "checkbox").Attr("value", "yes").Flag("checked", c.Value != "")
		return m.Raw(">").HTML()
	}
	m.Attr("value", c.Value).Attr("autocomplete", "off")
	labelled()
	switch c.Kind {
	case request.Moment:
		m.Attr("type", "datetime-local").Attr("class", "form-control line")
	case request.Date:
		m.Attr("type", "date").Attr("class", "form-control line")
	case request.Text:
		m.Attr("class", "form-control line")
		if c.Auto != "" {
			m.Attr("placeholder", c.Auto)
		}
	case request.Price:
		m.Attr("inputmode", "decimal").Attr("placeholder", c.Auto).Attr("data-live", "placeholder")
	default:
		m.Attr("inputmode", "decimal")
		if c.Optional {
			m.Attr("placeholder", c.Auto).Attr("data-live", "placeholder")
		}
		m.Attr("data-min", c.Min).Attr("data-max", c.Max).Attr("data-by", c.Step)
	}
	return invalid().Raw(">").HTML()
}

// slot writes one line of a group: what it is beside how much. unit stands after how much; much takes its
// place where nothing is typed, as of the first flour's share. Of what can be weighed instead, one is shown.
func (l Line) slot(id, unit string, much template.HTML) template.HTML {
	var m page.Markup
	lean := l.What.Lean
	m.Raw(`<div`).Attr("id", id)
	if !lean {
		m.Raw(` class="slot" data-live="hidden"`)
	}
	m.Flag("hidden", !l.Show).Raw(">", string(l.What.Field(l.What.Label)))
	if much == "" {
		much = l.Much.Field(l.Much.Label)
	}
	box := func(id, unit string, hidden bool, much template.HTML) {
		switch {
		case lean && id == "":
			m.Raw(string(much))
			return
		case lean:
			m.Raw(`<i`).Attr("id", id).Flag("hidden", hidden).Raw("></i>", string(much))
			m.Raw(`<i`).Attr("id", "u-"+id).Raw(">", page.Esc(unit), "</i>")
			return
		}
		m.Raw(`<span class="box"`)
		if id != "" {
			m.Attr("id", id).Raw(` data-live="hidden"`).Flag("hidden", hidden)
		}
		switch m.Raw(">", string(much)); {
		case id != "": // what is measured in cups has its own unit
			m.Raw(`<small`).Attr("id", "u-"+id).Raw(` data-live="text">`, page.Esc(unit), `</small>`)
		case unit != "":
			m.Raw(`<small>`, page.Esc(unit), `</small>`)
		}
		m.Raw(`</span>`)
	}
	if l.Mass == nil {
		box("", unit, false, much)
	} else {
		box(id+"-share", unit, !l.Mass.Hidden, much)
		box(id+"-mass", l.Mass.Unit, l.Mass.Hidden, l.Mass.Field(l.Mass.Label+", "+l.Mass.Unit))
	}
	return m.Raw(`</div>`).HTML()
}

// Slot is the line on the page; its id begins with the kind of line.
func (l Line) Slot(kind string) template.HTML {
	return l.slot("c-"+kind+string(rune('0'+l.N)), l.Much.Unit, "")
}

// HTML is the line of a further shape: what, how much of it counted in what, and where its pieces end.
func (l ShareLine) HTML() template.HTML {
	var m page.Markup
	id, lean := "c-share"+string(rune('0'+l.N)), l.What.Lean
	m.Raw(`<div`).Attr("id", id)
	if !lean {
		m.Raw(` class="slot share" data-live="hidden"`)
	}
	m.Flag("hidden", !l.Show).Raw(">", string(l.What.Field(l.What.Label)))
	if lean {
		m.Raw(`<i`).Attr("id", id+"-much").Flag("hidden", !l.Named).Raw(`></i>`, string(l.Much.Field("")),
			string(l.By.Field("")), string(l.Stop.Field("")))
		return m.Raw(`</div>`).HTML()
	}
	m.Raw(`<span class="much" data-live="hidden"`).Attr("id", id+"-much").Flag("hidden",
		!l.Named).Raw(`><span class="box">`, string(l.Much.Field(l.Much.Label)),
		`</span>`, string(l.By.Field(l.By.Label)), `<span class="box"><small>to</small>`,
		string(l.Stop.Field(l.Stop.Label)), `</span></span>`)
	return m.Raw(`</div>`).HTML()
}

// HTML is the line of a strip: its colour, how wide, and the bare base after it.
func (l StripLine) HTML() template.HTML {
	return twoPart("c-strip"+string(rune('0'+l.N)), l.Line, "wide", l.Much, "bare", l.Gap)
}

// Errs is where the errors of the line are told.
func (l StripLine) Errs() template.HTML { return l.Line.Errs() + l.Gap.Err() }

// twoPart is a line with two figures under what it is.
func twoPart(id string, l Line, a string, one Control, b string, two Control) template.HTML {
	var m page.Markup
	m.Raw(`<div`).Attr("id", id)
	if !l.What.Lean {
		m.Raw(` class="slot share" data-live="hidden"`)
	}
	m.Flag("hidden", !l.Show).Raw(">", string(l.What.Field(l.What.Label)))
	if l.What.Lean {
		return m.Raw(`<i`).Attr("id", id+"-much").Flag("hidden", !l.Named).Raw(`></i>`, string(one.Field("")),
			string(two.Field("")), `</div>`).HTML()
	}
	return m.Raw(`<span class="much two" data-live="hidden"`).Attr("id", id+"-much").Flag("hidden",
		!l.Named).Raw(`><span class="box"><small>`, page.Esc(a), `</small>`,
		string(one.Field(one.Label)), `</span><span class="box"><small>`, page.Esc(b), `</small>`,
		string(two.Field(two.Label)), `</span></span></div>`).HTML()
}

// Errs is where the errors of the line are told.
func (l ShareLine) Errs() template.HTML { return l.Line.Errs() + l.By.Err() + l.Stop.Err() }

// Weighed is the line of a check-weighing: when, and how much.
func (l Line) Weighed() template.HTML {
	var m page.Markup
	lean := l.What.Lean
	m.Raw(`<div`).Attr("id", "c-check"+string(rune('0'+l.N)))
	if !lean {
		m.Raw(` class="weighed" data-live="hidden"`)
	}
	m.Flag("hidden", !l.Show).Raw(">", string(l.What.Field(l.What.Label)))
	much := string(l.Much.Field(l.Much.Label + ", " + l.Much.Unit))
	if !lean {
		much = `<span class="plain-box slim">` + much + `<small>` + page.Esc(l.Much.Unit) + `</small></span>`
	}
	return m.Raw(much, string(l.Errs()), `</div>`).HTML()
}

// Errs is where the errors of the line are told.
func (l Line) Errs() template.HTML {
	errs := l.What.Err() + l.Much.Err()
	if l.Mass != nil {
		errs += l.Mass.Err()
	}
	return errs
}

// CarriedHTML are the fields of the stations that are not open.
func (v *batchView) CarriedHTML() template.HTML {
	var m page.Markup
	for _, x := range v.Carried() {
		m.Hidden(x.Path, x.Value)
	}
	return m.HTML()
}

// along is the whole form of a batch in fields that are not shown, for a page that stands beside it.
func (s *Room) along(v *batchView) template.HTML {
	whole := *v
	whole.At = "" // every field rides along
	var m page.Markup
	for _, x := range [][2]string{{"db", s.Store.Identity()}, {"version", strconv.Itoa(v.Version)},
		{"units", string(v.In)}, {"at", string(v.At)}, {"name", v.Request.Name}, {"stood", v.Stood()}} {
		m.Hidden(x[0], x[1])
	}
	return m.Raw(string(whole.CarriedHTML())).HTML()
}

// Spine is the row of stations.
func (v *batchView) Spine() template.HTML {
	var m page.Markup
	m.Raw("<ol>")
	for _, s := range v.Stations() {
		m.Raw(`<li><button class="station" name="at"`).Attr("value", string(s.Key)).Attr("accesskey", strconv.Itoa(s.N))
		if s.Current {
			m.Raw(` aria-current="step"`)
		}
		m.Raw(`><span class="in">`)
		switch {
		case s.Errors > 0:
			m.Raw(`<span class="flag">? `, strconv.Itoa(s.Errors),
				`<span class="visually-hidden"> to put right</span></span>`)
		case s.Warnings > 0:
			m.Raw(`<span class="flag">! `, strconv.Itoa(s.Warnings),
				`<span class="visually-hidden"> to look at</span></span>`)
		}
		m.Raw(`<span class="n">`, strconv.Itoa(s.N), `</span><span class="name">`, page.Esc(s.Name),
			`</span><span class="key">`, page.Esc(s.Figure),
			`</span></span></button></li>`)
	}
	strip := v.Plan.Summary().Strip
	return m.Raw("</ol>", draw.Strip(&strip)).HTML()
}
