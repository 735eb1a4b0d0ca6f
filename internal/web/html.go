package web

import (
	"html/template"
	"strconv"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/draw"
)

// The pieces that stand on a page dozens of times are written here, not in templates: a page is
// worked out at every change of a field, and most of that was html/template. Everything that is
// not written here passes through esc.

// markup writes escaped HTML.
type markup struct{ strings.Builder }

var esc = template.HTMLEscapeString

// raw writes what is written in this file.
func (m *markup) raw(parts ...string) *markup {
	for _, p := range parts {
		m.WriteString(p)
	}
	return m
}

// attr writes an attribute.
func (m *markup) attr(name, value string) *markup { return m.raw(" ", name, `="`, esc(value), `"`) }

// flag writes an attribute without a value, if on.
func (m *markup) flag(name string, on bool) *markup {
	if on {
		m.raw(" ", name)
	}
	return m
}

func (m *markup) html() template.HTML { return template.HTML(m.String()) }

// HTML is the figure with its reason and what is to be said about it.
func (f Fig) HTML() template.HTML {
	var m markup
	m.raw(`<div class="fig`)
	if f.Warn {
		m.raw(" is-warn")
	}
	m.raw(`"><div class="lab">`, esc(f.Label), `</div><div class="num">`, esc(f.Number))
	if f.Unit != "" {
		m.raw(`<span class="unit">`, esc(f.Unit), `</span>`)
	}
	m.raw(`</div>`)
	if f.Why != "" {
		m.raw(`<p class="why">`, esc(f.Why), `</p>`)
	}
	writeNotes(&m, f.Notes)
	return m.raw(`</div>`).html()
}

// writeNotes writes what is to be said, a line each.
func writeNotes(m *markup, notes []plan.Note) {
	for _, n := range notes {
		class := "remark"
		if n.Level == plan.Warning {
			class = "warn"
		}
		m.raw(`<div class="`, class, `"><b>`, esc(n.Head), `</b> `, esc(n.Text))
		if strings.HasPrefix(n.Code, plan.LearnedCode) {
			m.raw(` <a href="/log/learned">What stands behind it</a>`)
		}
		m.raw(`</div>`)
	}
}

// WayRows are the solver's answers, a row each.
func (v *formulaView) WayRows() template.HTML {
	var m markup
	ways, number := v.Ways(), func(v float64, unit string) string { return strconv.FormatFloat(v, 'f', 1, 64) + unit }
	mass := func(g float64) string {
		if g == 0 {
			return "none"
		}
		return v.In.Grams(g)
	}
	yolks := v.WithYolks()
	for _, w := range ways {
		m.raw("<tr")
		if w.On {
			m.raw(` class="on"`)
		}
		m.raw(`><td class="val">`, esc(w.Words), `</td><td class="r">`, number(w.EggPct, " %"), `</td>`)
		if yolks {
			m.raw(`<td class="r">`, strconv.FormatFloat(w.YolkPct, 'f', 0, 64), ` %</td><td class="r">`,
				mass(w.WhitesG), `</td>`)
		}
		m.raw(`<td class="r">`, mass(w.TopG), `</td><td class="r val">`, number(w.Hw, ""), `</td><td><span class="sw"`)
		m.attr("style", "--dough:"+tintOnly.FindString(w.Colour)).raw("></span></td>\n<td>", esc(w.Apart),
			`</td><td class="r">`)
		if !w.On {
			m.raw(`<button class="btn btn-line take" name="set"`).attr("value", w.Set).raw("\naria-label=\"Take ",
				esc(w.Words), `">Take</button>`)
		}
		m.raw("</td></tr>\n")
	}
	return m.html()
}

// CostRows are what the batch costs, a row each.
func (v *formulaView) CostRows() template.HTML {
	var m markup
	sign := esc(v.Plan.Cost.Currency)
	for _, l := range v.Plan.Cost.Lines {
		m.raw("<tr><td>", esc(l.Name), `</td><td class="r">`, esc(l.Much), `</td><td class="r">`, sign, " ",
			esc(l.Price.String()), " / ", esc(l.Unit),
			"</td>\n<td class=\"r val\">", sign, " ", esc(l.Cost.Rounded().String()), "</td></tr>\n")
	}
	return m.html()
}

// IntoRows are what goes into the dough, a row each.
func (v *formulaView) IntoRows() template.HTML {
	var m markup
	row := func(name string, g float64) {
		m.raw(`<tr><th scope="row">`, esc(name), `</th><td class="r val">`, esc(v.In.Grams(g)), "</td></tr>\n")
	}
	f := &v.Plan.Formula
	for _, x := range f.Flours {
		row(x.Name, x.MassG)
	}
	for _, x := range []struct {
		name string
		g    float64
	}{{v.Plan.EggWords(), v.EggG()}, {v.Plan.TopWord(), f.TopG}, {"salt", f.SaltG}, {"oil", f.OilG}} {
		if x.g != 0 {
			row(x.name, x.g)
		}
	}
	for _, x := range f.Additions {
		row(strings.ToLower(x.Name), x.MassG)
	}
	return m.html()
}

// A part of the dough is named on the bar where it has room, with its figures where there is more.
const (
	roomForName    = .04
	roomForFigures = .2
)

// MadeOfBar is the dough's composition as a bar.
func (v *formulaView) MadeOfBar() template.HTML {
	var m markup
	for _, c := range v.MadeOf() {
		m.raw(`<span class="`, c.Class, `" style="--w:`, strconv.FormatFloat(100*c.Share, 'f', 1, 64), `%">`)
		if c.Share > roomForName {
			m.raw(esc(c.Name))
		}
		if c.Share > roomForFigures {
			m.raw(" <small>", esc(v.In.Grams(c.G)), ", ", whole(100*c.Share), " %</small>")
		}
		m.raw("</span>")
	}
	return m.html()
}

// MadeOfRest says the parts of the dough that have no room for figures on the bar.
func (v *formulaView) MadeOfRest() string {
	var out []string
	for _, c := range v.MadeOf()[2:] {
		out = append(out, c.Name+" "+v.In.Grams(c.G)+" ("+whole(100*c.Share)+" %)")
	}
	return strings.Join(out, ", ")
}

// Listed are the dough's ingredients as a label lists them, allergens set off.
func (v *formulaView) Listed() template.HTML {
	var m markup
	for i, x := range v.Ingredients() {
		if i > 0 {
			m.raw(", ")
		}
		if x.Allergen {
			m.raw("<b>", esc(x.Name), "</b>")
		} else {
			m.raw(esc(x.Name))
		}
		if x.Share >= .005 {
			m.raw(" ", whole(100*x.Share), " %")
		} else {
			m.raw(" under 1 %")
		}
	}
	return m.html()
}

func whole(v float64) string { return strconv.FormatFloat(v, 'f', 0, 64) }

// RungRows are the passes of the ladder, a row each.
func (v rollView) RungRows() template.HTML {
	var m markup
	span, pin := whole(v.BenchSpan()), v.Plan.Pinned()
	for _, r := range v.Rungs() {
		m.raw("<tr")
		switch {
		case r.Last:
			m.raw(` class="last"`)
		case r.Over:
			m.raw(` class="over"`)
		}
		m.raw("><td>", r.N, "</td>")
		if !pin {
			m.raw(`<td class="val" translate="no">`, esc(r.Label), "</td><td>", r.Gap, "</td>")
		}
		m.raw(`<td class="val">`, r.Sheet, "</td><td>", r.Thinner, `</td><td class="txt">`, esc(r.Note), "</td><td>",
			r.Time, `</td><td class="val">`,
			r.Length, `</td><td class="run"><i style="--mm:`, whole(r.MM), ";--span:", span, "\"></i></td></tr>\n")
	}
	return m.html()
}

// Row is a nutrient in the raw dough and in a portion.
func (n Nutrient) Row() template.HTML {
	var m markup
	return m.raw("<tr><td>", esc(n.Name), `</td><td class="r val">`, esc(n.Per100), `</td><td class="r">`,
		esc(n.PerPortion), "</td></tr>").html()
}

// unitHTML is a number with its unit set smaller.
func unitHTML(number, unit string) template.HTML {
	var m markup
	return m.raw(esc(number), `<span class="unit">`, esc(unit), `</span>`).html()
}

func massHTML(in measure.System, g float64) template.HTML { return unitHTML(in.Mass(g)) }

func sizeHTML(in measure.System, v float64, u measure.Unit, digits int) template.HTML {
	return unitHTML(in.Number(v, u, digits))
}

// HTML is the control as it stands in the rail; lean, what of it changes with the figures.
func (c Control) HTML() template.HTML {
	var m markup
	m.raw(`<div`)
	if !c.Lean {
		m.raw(` class="ctl" data-live="hidden"`)
	}
	m.attr("id", "c-"+c.ID).flag("hidden", c.Hidden).raw(">")
	switch {
	case c.Lean:
		if c.Hint != "" {
			m.raw(`<i id="h-`, c.ID, `">`, esc(c.Hint), `</i>`)
		}
		m.raw(string(c.Field("")))
		if c.Error != "" {
			m.raw(`<p id="e-`, c.ID, `">`, esc(c.Error), `</p>`)
		}
	case c.Kind == request.Flag:
		m.raw(`<label class="tick"><input type="hidden"`).attr("name", c.Path).raw(` value="">`, string(c.Field("")),
			" ", esc(c.Label),
			`</label>`).raw(string(c.Err()))
	default:
		m.raw(`<label`).attr("for", c.ID).raw(">", esc(c.Label), `<span class="hint" id="h-`, c.ID,
			`" data-live="text">`, esc(c.Hint), `</span></label>`)
		writeBoxed(&m, c)
		m.raw(string(c.Err()))
	}
	return m.raw(`</div>`).html()
}

// writeBoxed writes the field with what stands round it.
func writeBoxed(m *markup, c Control) {
	switch c.Kind {
	case request.Price:
		m.raw(`<div class="plain-box slim"><small>`, esc(c.Sign), `</small>`, string(c.Field("")), `<small>`,
			esc(c.Unit), `</small></div>`)
	case request.Number, request.Whole:
		if c.Plain {
			m.raw(`<div class="plain-box">`, string(c.Field("")), `<small>`, esc(c.Unit), `</small></div>`)
			return
		}
		step := func(by, word, sign string) {
			m.raw(`<button type="submit" name="step"`).attr("value", c.Path+"="+by).attr("aria-label",
				c.Label+": "+word).attr("data-step", by).raw(">", sign,
				`</button>`)
		}
		m.raw(`<div class="stepper">`)
		step("-1", "less", "−")
		m.raw(`<span class="box">`, string(c.Field("")))
		if c.Unit != "" {
			m.raw(`<small>`, esc(c.Unit), `</small>`)
		}
		m.raw(`</span>`)
		step("1", "more", "+")
		m.raw(`</div>`)
		if c.Slider {
			at := c.Value
			if at == "" {
				at = c.Auto
			}
			m.raw(`<input type="range" class="slide"`).attr("data-for", c.ID).attr("aria-label",
				c.Label+", slide").attr("min", c.Min).attr("max", c.SlideMax).
				attr("step", c.Step).attr("value", at).raw(">")
		}
	default:
		m.raw(string(c.Field("")))
	}
}

// Err is where the error of the control is told.
func (c Control) Err() template.HTML {
	var m markup
	if c.Lean {
		if c.Error == "" {
			return ""
		}
		return m.raw(`<p id="e-`, c.ID, `">`, esc(c.Error), `</p>`).html()
	}
	return m.raw(`<p class="err" id="e-`, c.ID, `" data-live="text" role="alert">`, esc(c.Error), `</p>`).html()
}

// Field is the field itself; label is its name where no label stands beside it.
func (c Control) Field(label string) template.HTML {
	var m markup
	invalid := func() *markup {
		if c.Error != "" {
			m.attr("aria-invalid", "true").attr("aria-describedby", "e-"+c.ID)
		}
		return &m
	}
	if c.Lean { // no field, only what one would hold: the page has the field. Figures stand in i, words in b.
		tag := "b"
		if c.Kind == request.Number || c.Kind == request.Whole || c.Kind == request.Price {
			tag = "i"
		}
		m.raw("<", tag).attr("id", c.ID).attr("data-value", c.Value)
		if c.Auto != "" {
			m.attr("data-auto", c.Auto)
		}
		return invalid().raw("></", tag, ">").html()
	}
	named := func(tag string) {
		m.raw("<", tag).attr("id", c.ID).attr("name", c.Path)
	}
	labelled := func() {
		if label != "" {
			m.attr("aria-label", label)
		}
	}
	if c.Kind == request.Choice {
		named("select")
		labelled()
		m.attr("class", "form-select")
		invalid().raw(">", string(c.Options), "</select>")
		return m.html()
	}
	named("input")
	if c.Kind == request.Flag {
		m.attr("type", "checkbox").attr("value", "yes").flag("checked", c.Value != "")
		return m.raw(">").html()
	}
	m.attr("value", c.Value).attr("autocomplete", "off")
	labelled()
	switch c.Kind {
	case request.Moment:
		m.attr("type", "datetime-local").attr("class", "form-control line")
	case request.Date:
		m.attr("type", "date").attr("class", "form-control line")
	case request.Text:
		m.attr("class", "form-control line")
	case request.Price:
		m.attr("inputmode", "decimal").attr("placeholder", c.Auto).attr("data-live", "placeholder")
	default:
		m.attr("inputmode", "decimal")
		if c.Optional {
			m.attr("placeholder", c.Auto).attr("data-live", "placeholder")
		}
		m.attr("data-min", c.Min).attr("data-max", c.Max).attr("data-by", c.Step)
	}
	return invalid().raw(">").html()
}

// slot writes one line of a group: what it is beside how much. unit stands after how much; much takes its
// place where nothing is typed, as of the first flour's share. Of what can be weighed instead, one is shown.
func (l Line) slot(id, unit string, much template.HTML) template.HTML {
	var m markup
	lean := l.What.Lean
	m.raw(`<div`).attr("id", id)
	if !lean {
		m.raw(` class="slot" data-live="hidden"`)
	}
	m.flag("hidden", !l.Show).raw(">", string(l.What.Field(l.What.Label)))
	if much == "" {
		much = l.Much.Field(l.Much.Label)
	}
	box := func(id, unit string, hidden bool, much template.HTML) {
		switch {
		case lean && id == "":
			m.raw(string(much))
			return
		case lean:
			m.raw(`<i`).attr("id", id).flag("hidden", hidden).raw("></i>", string(much))
			return
		}
		m.raw(`<span class="box"`)
		if id != "" {
			m.attr("id", id).raw(` data-live="hidden"`).flag("hidden", hidden)
		}
		if m.raw(">", string(much)); unit != "" {
			m.raw(`<small>`, esc(unit), `</small>`)
		}
		m.raw(`</span>`)
	}
	if l.Mass == nil {
		box("", unit, false, much)
	} else {
		box(id+"-share", unit, !l.Mass.Hidden, much)
		box(id+"-mass", l.Mass.Unit, l.Mass.Hidden, l.Mass.Field(l.Mass.Label+", "+l.Mass.Unit))
	}
	return m.raw(`</div>`).html()
}

// Slot is the line on the page; its id begins with the kind of line.
func (l Line) Slot(kind string) template.HTML {
	return l.slot("c-"+kind+string(rune('0'+l.N)), l.Much.Unit, "")
}

// HTML is the line of a further shape: what, how much of it counted in what, and where its pieces end.
func (l ShareLine) HTML() template.HTML {
	var m markup
	id, lean := "c-share"+string(rune('0'+l.N)), l.What.Lean
	m.raw(`<div`).attr("id", id)
	if !lean {
		m.raw(` class="slot share" data-live="hidden"`)
	}
	m.flag("hidden", !l.Show).raw(">", string(l.What.Field(l.What.Label)))
	if lean {
		m.raw(`<i`).attr("id", id+"-much").flag("hidden", !l.Named).raw(`></i>`, string(l.Much.Field("")),
			string(l.By.Field("")), string(l.Stop.Field("")))
		return m.raw(`</div>`).html()
	}
	m.raw(`<span class="much" data-live="hidden"`).attr("id", id+"-much").flag("hidden",
		!l.Named).raw(`><span class="box">`, string(l.Much.Field(l.Much.Label)),
		`</span>`, string(l.By.Field(l.By.Label)), `<span class="box"><small>to</small>`,
		string(l.Stop.Field(l.Stop.Label)), `</span></span>`)
	return m.raw(`</div>`).html()
}

// HTML is the line of a strip: its colour, how wide, and the bare base after it.
func (l StripLine) HTML() template.HTML {
	return twoPart("c-strip"+string(rune('0'+l.N)), l.Line, "wide", l.Much, "bare", l.Gap)
}

// Errs is where the errors of the line are told.
func (l StripLine) Errs() template.HTML { return l.Line.Errs() + l.Gap.Err() }

// twoPart is a line with two figures under what it is.
func twoPart(id string, l Line, a string, one Control, b string, two Control) template.HTML {
	var m markup
	m.raw(`<div`).attr("id", id)
	if !l.What.Lean {
		m.raw(` class="slot share" data-live="hidden"`)
	}
	m.flag("hidden", !l.Show).raw(">", string(l.What.Field(l.What.Label)))
	if l.What.Lean {
		return m.raw(`<i`).attr("id", id+"-much").flag("hidden", !l.Named).raw(`></i>`, string(one.Field("")),
			string(two.Field("")), `</div>`).html()
	}
	return m.raw(`<span class="much two" data-live="hidden"`).attr("id", id+"-much").flag("hidden",
		!l.Named).raw(`><span class="box"><small>`, esc(a), `</small>`,
		string(one.Field(one.Label)), `</span><span class="box"><small>`, esc(b), `</small>`,
		string(two.Field(two.Label)), `</span></span></div>`).html()
}

// Errs is where the errors of the line are told.
func (l ShareLine) Errs() template.HTML { return l.Line.Errs() + l.By.Err() + l.Stop.Err() }

// Weighed is the line of a check-weighing: when, and how much.
func (l Line) Weighed() template.HTML {
	var m markup
	lean := l.What.Lean
	m.raw(`<div`).attr("id", "c-check"+string(rune('0'+l.N)))
	if !lean {
		m.raw(` class="weighed" data-live="hidden"`)
	}
	m.flag("hidden", !l.Show).raw(">", string(l.What.Field(l.What.Label)))
	much := string(l.Much.Field(l.Much.Label + ", " + l.Much.Unit))
	if !lean {
		much = `<span class="plain-box slim">` + much + `<small>` + esc(l.Much.Unit) + `</small></span>`
	}
	return m.raw(much, string(l.Errs()), `</div>`).html()
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
	var m markup
	for _, x := range v.Carried() {
		m.hidden(x.Path, x.Value)
	}
	return m.html()
}

// hidden writes a field that is not shown.
func (m *markup) hidden(name, value string) *markup {
	return m.raw(`<input type="hidden"`).attr("name", name).attr("value", value).raw(">")
}

// along is the whole form of a batch in fields that are not shown, for a page that stands beside it.
func (s *Server) along(v *batchView) template.HTML {
	whole := *v
	whole.At = "" // every field rides along
	var m markup
	for _, x := range [][2]string{{"db", s.store.Identity()}, {"version", strconv.Itoa(v.Version)},
		{"units", string(v.In)}, {"at", string(v.At)}, {"name", v.Request.Name}, {"stood", v.Stood()}} {
		m.hidden(x[0], x[1])
	}
	return m.raw(string(whole.CarriedHTML())).html()
}

// Spine is the row of stations.
func (v *batchView) Spine() template.HTML {
	var m markup
	m.raw("<ol>")
	for _, s := range v.Stations() {
		m.raw(`<li><button class="station" name="at"`).attr("value", string(s.Key)).attr("accesskey", strconv.Itoa(s.N))
		if s.Current {
			m.raw(` aria-current="step"`)
		}
		m.raw(`><span class="in">`)
		switch {
		case s.Errors > 0:
			m.raw(`<span class="flag">? `, strconv.Itoa(s.Errors),
				`<span class="visually-hidden"> to put right</span></span>`)
		case s.Warnings > 0:
			m.raw(`<span class="flag">! `, strconv.Itoa(s.Warnings),
				`<span class="visually-hidden"> to look at</span></span>`)
		}
		m.raw(`<span class="n">`, strconv.Itoa(s.N), `</span><span class="name">`, esc(s.Name),
			`</span><span class="key">`, esc(s.Figure),
			`</span></span></button></li>`)
	}
	strip := v.Plan.Summary().Strip
	return m.raw("</ol>", draw.Strip(&strip)).html()
}
