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

// Desk is how wide a picture for a desk is, picture units.
const Desk = 926.

// Narrow is how wide a picture for a hand is, picture units: a phone’s column, its letters as large as at a desk.
const Narrow = 340.

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

// The smallest text of a picture, in its units, and the smallest it is shown at, px: narrower a picture scrolls
// within itself.
const textUnits, textPX = 13., 11.

// SVG returns the picture. What it hatches it takes from the page.
func (s *Scene) SVG() string {
	var b strings.Builder
	fmt.Fprintf(&b,
		`<div class="chart"><svg class="%s" viewBox="%s %s %s %s" style="min-width:%.0fpx" `+
			`role="img"><title>%s</title>`,
		strings.TrimSpace("draw "+s.Class), num(s.X), num(s.Y), num(s.W), num(s.H), s.W*textPX/textUnits,
		html.EscapeString(s.Title))
	b.WriteString(s.body.String())
	b.WriteString("</svg></div>")
	return b.String()
}
