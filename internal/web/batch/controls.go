package batch

import (
	"cmp"
	"html/template"
	"net/url"
	"slices"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/web/form"
	"hollen/internal/web/page"
)

// Control is one field as it stands in the rail.
type Control struct {
	Path, Label, Unit, Sign      string
	Kind                         request.Kind
	Optional, Slider, Hidden     bool
	SlideMax                     string
	Plain                        bool // a number without a stepper
	Lean                         bool // the page has the control: its value and words suffice
	Deep                         bool // behind the first layer of its station
	ID, Value, Auto, Hint, Error string
	Min, Max, Step               string
	Options                      template.HTML // of a choice, the value selected
}

// hinted is c with a word beside its label.
func (c Control) hinted(hint string) Control {
	c.Hint = hint
	return c
}

// options writes the options of a choice.
func (v *batchView) options(f request.Field, value string, own ...request.Option) template.HTML {
	if f.Kind != request.Choice {
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
		b.WriteString(template.HTMLEscapeString(v.In.Prose(o.Name)))
		b.WriteString("</option>")
	}
	return template.HTML(b.String())
}

// Carried is a field of a station that is not open: its value rides along.
type Carried struct{ Path, Value string }

// Carried returns the fields that no open control shows.
func (v *batchView) Carried() []Carried {
	var out []Carried
	for _, f := range request.Fields() {
		if f.Path == "name" || f.Path == "flours.0.share" || f.Stage == v.At && f.Group != "acts" &&
			f.Path != request.MeasuresPath {
			continue
		}
		if group, slot, part, ok := request.GroupOf(f); ok && group.Rows && part != group.Head && !group.Holds(&v.Page,
			slot) {
			continue // what stands beside nothing
		}
		// After a change the page is sent only the values that differ from those it sent.
		if now := v.value(f.In(v.In)); !v.Lean || now != v.posted.Get(f.Path) {
			out = append(out, Carried{f.Path, now})
		}
	}
	return out
}

// value returns what stands in a field: what was typed, also when it is not allowed.
func (v *batchView) value(f request.Field) string {
	if typed, ok := v.Typed[f.Path]; ok {
		return typed
	}
	if got := f.Get(&v.Page); got != "0" || f.Group == "" || f.Min == 0 {
		return got
	}
	return "" // of an empty slot
}

// Ctl is a control on the page; hint stands beside its label.
func (v *batchView) Ctl(path, hint string) template.HTML {
	c := v.Control(path)
	c.Hint = cmp.Or(c.Hint, hint)
	return c.HTML()
}

// Control returns the control of a field.
func (v *batchView) Control(path string) Control {
	f, _ := request.FieldAt(path)
	f = f.In(v.In)
	c := Control{Path: path, Label: f.Label, Unit: f.Unit, Kind: f.Kind, Optional: f.Optional,
		ID: "f-" + strings.ReplaceAll(path, ".", "-"), Auto: v.Auto(f), Value: v.value(f)}
	if c.Lean = v.Lean; !c.Lean {
		c.Min, c.Max, c.Step = f.ShownBounds()
		c.Options = v.options(f, c.Value, v.cabinet(f)...)
	}
	if s, is := v.Page.MeasuredAt(path); is && v.Typed[path] == "" {
		c.Value, c.Hint = s.Text, s.Weighs(v.In)
	}
	c.Hidden = v.theDays(f)
	if f.Kind == request.Price {
		c.Sign = v.Request.Prices.Currency
	}
	if e, ok := v.Errors[path]; ok {
		c.Error = e.ForPage()
	}
	return c
}

// Weighed is the control of a share of the flour typed as a mass, in a batch made as the maker makes it.
func (v *batchView) Weighed(path, hint string) Control {
	f, _ := request.FieldAt(path)
	mass := form.AnyMass().In(v.In)
	name := form.WeightPrefix + path
	c := Control{Path: name, Label: strings.TrimSuffix(strings.TrimSuffix(f.Label, ", share"), ", of flour"),
		Unit: mass.Unit, Kind: request.Number, Plain: true,
		ID: "f-" + strings.ReplaceAll(name, ".", "-"), Hint: hint, Lean: v.Lean, Hidden: !v.Plan.AsMade()}
	c.Min, c.Max, c.Step = mass.ShownBounds()
	if g := form.ShareG(f, &v.Page, v.Page.Amount.FlourG); g > 0 || f.Group == "" {
		c.Value = mass.Shown(g)
	}
	if s, is := v.Page.MeasuredAt(path); is {
		c.Value = s.Text
		c.Hint = s.Weighs(v.In)
		c.Unit = ""
	}
	if typed, ok := v.Typed[name]; ok {
		c.Value = typed
	}
	if e, ok := v.Errors[name]; ok {
		c.Error = e.ForPage()
	}
	return c
}

// cabinet lists what of the workshop's own may stand in a field: what is in the cabinet, and
// and what this batch was made with that has left the cabinet since.
func (v *batchView) cabinet(f request.Field) []request.Option {
	var out []request.Option
	for _, x := range form.Offers(v.Cabinet, f, &v.Page) {
		out = append(out, request.Option{Key: x.Key, Name: x.Name})
	}
	has := f.KeptBy(&v.Page)
	if has == nil {
		return out
	}
	if s := v.stale(f); s != nil {
		out = append(out, request.Option{Key: s.Key, Name: s.Name + ", newest figures"})
	}
	if typed := v.Typed[f.Path]; typed == has.Key+form.Anew {
		out = append(out, request.Option{Key: typed, Name: has.Name + ", newest figures"})
	}
	if !slices.ContainsFunc(out, func(o request.Option) bool { return o.Key == has.Key }) {
		out = append(out, request.Option{Key: has.Key, Name: has.Name + ", retired"})
	}
	return out
}

// Stale is a thing of this batch whose figures have changed in the cabinet since.
type Stale struct{ Key, Name, Set string }

// stale returns how to take what stands in f form.Anew, nil when it is as the cabinet has it.
func (v *batchView) stale(f request.Field) *Stale {
	has := f.KeptBy(&v.Page)
	if has == nil {
		return nil
	}
	for _, x := range form.Offers(v.Cabinet, f, &v.Page) {
		if x.Key == has.Key && !request.Same(x, *has) {
			return &Stale{x.Key + form.Anew, has.Name, url.Values{f.Path: {x.Key + form.Anew}}.Encode()}
		}
	}
	return nil
}

// Stale returns the things of this batch to take form.Anew, if the maker likes.
func (v *batchView) Stale() (out []Stale) {
	for _, f := range request.Fields() {
		if s := v.stale(f); s != nil {
			out = append(out, *s)
		}
	}
	return out
}

// Slide is Ctl with a slider under it.
func (v *batchView) Slide(path, hint string) template.HTML { return v.SlideTo(path, hint, "") }

// SlideTo is Slide with a nearer end than what is allowed, in metric units.
func (v *batchView) SlideTo(path, hint, most string) template.HTML {
	c := v.Control(path)
	c.Hint = hint
	c.Slider = true
	c.SlideMax = c.Max
	if f, ok := request.FieldAt(path); ok && most != "" {
		if stored, ok := f.Stored(most); ok {
			c.SlideMax = f.In(v.In).Shown(stored)
		}
	}
	return c.HTML()
}

// When is Ctl, hidden unless show holds.
func (v *batchView) When(show bool, path, hint string) template.HTML {
	c := v.Control(path)
	c.Hint, c.Hidden = cmp.Or(c.Hint, hint), c.Hidden || !show && c.Error == ""
	return c.HTML()
}

// usual is what a new batch has in its fields.
var usual = request.Default()

// More is Ctl behind the first layer of the station, unless something is said there.
func (v *batchView) More(path, hint string) template.HTML { return v.MoreWhen(true, path, hint) }

// MoreWhen is More, hidden unless show holds.
func (v *batchView) MoreWhen(show bool, path, hint string) template.HTML {
	c := v.Control(path)
	c.Hint, c.Hidden = cmp.Or(c.Hint, hint), c.Hidden || !show && c.Error == ""
	f, _ := request.FieldAt(path)
	c.Deep = f.Get(&v.Page) == f.Get(&usual)
	return c.HTML()
}

// Line is one line of a group: what it is and how much.
type Line struct {
	N          int
	What, Much Control
	Mass       *Control // how much by weight, of what may be weighed
	Named      bool     // something stands in it
	Show       bool     // that, or the next to fill
	Note       string
}

// lines returns the lines of a group, those that hold something and one more to fill; much is
// the part of a slot that says how much.
func (v *batchView) lines(name, much string) []Line {
	var out []Line
	for _, g := range request.Groups() {
		if g.Name != name {
			continue
		}
		open := true
		for i := range g.Most {
			named := g.Holds(&v.Page, i)
			out = append(out, Line{N: i, What: v.Control(g.Path(i, g.Head)), Much: v.Control(g.Path(i, much)),
				Named: named, Show: named || open})
			open = named
		}
	}
	return out
}

// ErrorCount is how many fields are in error.
func (v *batchView) ErrorCount() int { return len(v.Errors) }

// Fig is a computed figure with its reason and what is to be said about it.
type Fig struct {
	Label, Number, Unit, Why string
	Key                      string // by which its reason goes
	Notes                    []plan.Note
	Warn                     bool
}

// Fig is the figure whose reason and notes go by key, on the page. Figures within the label
// stand in braces.
func (v *batchView) Fig(label, number, unit, key string) template.HTML {
	f := Fig{Label: v.In.Prose(label), Number: number, Unit: unit, Why: v.Plan.Why[key], Key: key,
		Notes: v.notes(key)}
	for _, n := range f.Notes {
		f.Warn = f.Warn || n.Level == plan.Warning
	}
	return f.HTML()
}

// Mass is Fig for a mass in g.
func (v *batchView) Mass(label string, g float64, key string) template.HTML {
	n, unit := v.In.Mass(g)
	return v.Fig(label, n, unit, key)
}

// Size is Fig for a measure in a unit, so many decimals of a metric one.
func (v *batchView) Size(label string, x float64, unit measure.Unit, digits int, key string) template.HTML {
	n, name := v.In.Number(x, unit, digits)
	return v.Fig(label, n, name, key)
}

// Notes are the warnings and remarks on the figures named, on the page, warnings first.
func (v *batchView) Notes(keys ...string) template.HTML {
	var m page.Markup
	writeNotes(&m, v.notes(keys...))
	return m.HTML()
}

func (v *batchView) notes(keys ...string) []plan.Note {
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
