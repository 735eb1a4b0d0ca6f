package page

import (
	"html/template"
	"strconv"
	"strings"

	"hollen/internal/core/measure"
)

// The pieces that stand on a page dozens of times are written here, not in templates: a page is
// worked out at every change of a field, and most of that was html/template. Everything that is
// not written here passes through esc.

// Markup writes escaped HTML.
type Markup struct{ strings.Builder }

// Esc escapes text for HTML.
var Esc = template.HTMLEscapeString

// Raw writes what is written in this file.
func (m *Markup) Raw(parts ...string) *Markup {
	for _, p := range parts {
		m.WriteString(p)
	}
	return m
}

// Attr writes an attribute.
func (m *Markup) Attr(name, value string) *Markup { return m.Raw(" ", name, `="`, Esc(value), `"`) }

// Flag writes an attribute without a value, if on.
func (m *Markup) Flag(name string, on bool) *Markup {
	if on {
		m.Raw(" ", name)
	}
	return m
}

// HTML is what was written.
func (m *Markup) HTML() template.HTML { return template.HTML(m.String()) }

// NoDecimals is a number without decimals.
func NoDecimals(v float64) string { return strconv.FormatFloat(v, 'f', 0, 64) }

// UnitHTML is a number with its unit set smaller.
func UnitHTML(number, unit string) template.HTML {
	var m Markup
	return m.Raw(Esc(number), `<span class="unit">`, Esc(unit), `</span>`).HTML()
}

func massHTML(in measure.System, g float64) template.HTML { return UnitHTML(in.Mass(g)) }

func sizeHTML(in measure.System, v float64, u measure.Unit, digits int) template.HTML {
	return UnitHTML(in.Number(v, u, digits))
}

// Hidden writes a field that is not shown.
func (m *Markup) Hidden(name, value string) *Markup {
	return m.Raw(`<input type="hidden"`).Attr("name", name).Attr("value", value).Raw(">")
}
