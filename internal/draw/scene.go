// Package draw turns results into SVG pictures, to scale. It is pure: the same result gives
// the same picture. Colours and type come from the page's style sheet by class.
package draw

import (
	"fmt"
	"html"
	"strconv"
	"strings"
)

// Scene is a picture under way. X runs right, Y down, in picture units.
type Scene struct {
	Title      string // what the picture shows, for those who do not see it
	X, Y, W, H float64
	Class      string // besides "draw"
	body       strings.Builder
}

// deep is the class of what a page shows with its second layer alone; on paper and in a file it stands.
const deep = "deep"

// Width is how wide a picture is drawn, picture units, so that its letters are of one size in the column it gets.
// The zero value is a desk's.
type Width float64

// A desk’s column, a tablet’s, a phone’s.
const Desk, Tablet, Hand Width = 926, 720, 340

// units is the width as a figure.
func (w Width) units() float64 {
	if w == 0 {
		return float64(Desk)
	}
	return float64(w)
}

// hand says whether a picture of that width is a phone’s: fewer numbers, names and words under it.
func (w Width) hand() bool { return w.units() < 500 }

// InWidths draws a picture for a desk, a tablet and a hand; the page shows the one that fits the column it stands in.
// "" where there is none.
func InWidths(of func(Width) string) string {
	desk := of(Desk)
	if desk == "" {
		return ""
	}
	tablet := of(Tablet)
	if tablet == desk {
		return `<div class="sizes"><div class="at-desk at-tablet">` + desk + `</div><div class="at-hand">` + of(Hand) +
			"</div></div>"
	}
	return `<div class="sizes"><div class="at-desk">` + desk + `</div><div class="at-tablet">` + tablet +
		`</div><div class="at-hand">` + of(Hand) + "</div></div>"
}

// PaperUnits is how many picture units make a millimetre on paper: letters of 13 are 3 mm there.
const PaperUnits = 13 / 3.

// num writes a coordinate to a hundredth, without needless digits.
func num(v float64) string {
	s := strconv.FormatFloat(v, 'f', 2, 64)
	s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	if s == "-0" || s == "" {
		return "0"
	}
	return s
}

// Rect adds a rectangle.
func (s *Scene) Rect(class string, x, y, w, h float64) {
	fmt.Fprintf(&s.body, `<rect class="%s" x="%s" y="%s" width="%s" height="%s"/>`, class, num(x), num(y),
		num(max(w, 0)), num(max(h, 0)))
}

// Circle adds a circle.
func (s *Scene) Circle(class string, x, y, r float64) {
	fmt.Fprintf(&s.body, `<circle class="%s" cx="%s" cy="%s" r="%s"/>`, class, num(x), num(y), num(r))
}

// Path adds a path of SVG path data.
func (s *Scene) Path(class, d string) {
	fmt.Fprintf(&s.body, `<path class="%s" d="%s"/>`, class, d)
}

// Text adds text at its baseline; class m centres it, e ends it there.
func (s *Scene) Text(class string, x, y float64, text string) {
	fmt.Fprintf(&s.body, `<text class="%s" x="%s" y="%s">%s</text>`, class, num(x), num(y), html.EscapeString(text))
}

// Named adds a text that is the maker's own, to the letter: what stands on a dial.
func (s *Scene) Named(class string, x, y float64, text string) {
	fmt.Fprintf(&s.body, `<text class="%s" x="%s" y="%s" data-own="">%s</text>`, class, num(x), num(y),
		html.EscapeString(text))
}

// Upright adds centred text that reads from below.
func (s *Scene) Upright(class string, x, y float64, text string) {
	fmt.Fprintf(&s.body, `<text class="%s" transform="translate(%s %s) rotate(-90)">%s</text>`, class, num(x), num(y),
		html.EscapeString(text))
}

// Across adds a horizontal measure from x1 to x2 with a text above its middle.
func (s *Scene) Across(x1, x2, y float64, text string) {
	s.Path("dim", fmt.Sprintf("M%s %sH%sM%s %sv8M%s %sv8", num(x1), num(y), num(x2), num(x1), num(y-4), num(x2),
		num(y-4)))
	if text != "" {
		s.Text("m", (x1+x2)/2, y-6, text)
	}
}

// Down adds a vertical measure from y1 to y2.
func (s *Scene) Down(x, y1, y2 float64) {
	s.Path("dim", fmt.Sprintf("M%s %sV%sM%s %sh8M%s %sh8", num(x), num(y1), num(y2), num(x-4), num(y1), num(x-4),
		num(y2)))
}

// The text of a picture, in its units, and the smallest and largest it is shown at, px: narrower a picture scrolls
// within itself, wider it stands at the left.
const textUnits, textPX, textMostPX = 13., 11., 13.8

// SVG returns the picture. What it hatches it takes from the page.
func (s *Scene) SVG() string {
	var b strings.Builder
	fmt.Fprintf(&b,
		`<div class="chart"><svg class="%s" viewBox="%s %s %s %s" style="min-width:%.0fpx;max-width:%.0fpx" `+
			`role="img"><title>%s</title>`,
		strings.TrimSpace("draw "+s.Class), num(s.X), num(s.Y), num(s.W), num(s.H), s.W*textPX/textUnits,
		s.W*textMostPX/textUnits,
		html.EscapeString(s.Title))
	b.WriteString(s.body.String())
	b.WriteString("</svg></div>")
	return b.String()
}
