package draw

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/practice"
)

// pen draws a dough freely: millimetres on the board at scale k, from an origin, with wander of its own that follows
// from what was said of the dough and nothing else.
type pen struct {
	s       *Scene
	k       float64 // units a mm
	x, y    float64 // of the origin, units
	wanders uint32
	id      string // of what is cut out and masked, alone on a page
}

// point is a place, mm.
type point struct{ x, y float64 }

// wander is a number of 0 to 1, the next.
func (p *pen) wander() float64 {
	p.wanders = p.wanders*1664525 + 1013904223
	return float64(p.wanders) / (1 << 32)
}

// at writes a place in picture units.
func (p *pen) at(x, y float64) string { return num(p.x+p.k*x) + " " + num(p.y+p.k*y) }

// by writes a way from where the pen is.
func (p *pen) by(x, y float64) string { return num(p.k*x) + " " + num(p.k*y) }

// smooth is a closed curve through points.
func (p *pen) smooth(pts []point) string {
	n := len(pts)
	var b strings.Builder
	b.WriteString("M" + p.at(pts[0].x, pts[0].y))
	for i := range pts {
		p0, p1, p2, p3 := pts[(i-1+n)%n], pts[i], pts[(i+1)%n], pts[(i+2)%n]
		b.WriteString(
			"C" + p.at(p1.x+(p2.x-p0.x)/6, p1.y+(p2.y-p0.y)/6) + " " + p.at(p2.x-(p3.x-p1.x)/6, p2.y-(p3.y-p1.y)/6) +
				" " + p.at(p2.x, p2.y),
		)
	}
	return b.String() + "Z"
}

// along is an open line through points, corners rounded.
func (p *pen) along(pts []point) string {
	var b strings.Builder
	b.WriteString("M" + p.at(pts[0].x, pts[0].y))
	for i := 1; i < len(pts)-1; i++ {
		m := point{(pts[i].x + pts[i+1].x) / 2, (pts[i].y + pts[i+1].y) / 2}
		b.WriteString("Q" + p.at(pts[i].x, pts[i].y) + " " + p.at(m.x, m.y))
	}
	last := pts[len(pts)-1]
	return b.String() + "L" + p.at(last.x, last.y)
}

// line adds a line so many mm thick.
func (p *pen) line(class string, mm float64, d string) {
	fmt.Fprintf(&p.s.body, `<path class="%s" stroke-width="%s" d="%s"/>`, class, num(mm*p.k), d)
}

// oval adds an oval.
func (p *pen) oval(class string, x, y, rx, ry, turn float64) {
	fmt.Fprintf(&p.s.body, `<ellipse class="%s" cx="%s" cy="%s" rx="%s" ry="%s" transform="rotate(%s %s)"/>`, class,
		num(p.x+p.k*x), num(p.y+p.k*y), num(p.k*rx), num(p.k*ry), num(turn), strings.Replace(p.at(x, y), " ", ",", 1))
}

// wordOf is which word of a sign was said, def where none was.
func wordOf(shown []practice.Shown, s practice.Sign, def int) int {
	for _, o := range shown {
		if o.Sign == s {
			return o.Word
		}
	}
	return def
}

// wandersOf begins the wander from the words said: the same words, the same picture.
func wandersOf(shown []practice.Shown) uint32 {
	h := uint32(2166136261)
	for _, o := range shown {
		for _, c := range []byte(o.Sign) {
			h = (h ^ uint32(c)) * 16777619
		}
		h = (h ^ uint32(o.Word+1)) * 16777619
	}
	return h
}

// said is a picture's title: what it shows, in the words it was drawn from.
func said(head string, shown []practice.Shown) string {
	var of []string
	for _, o := range shown {
		if l := practice.LookOf(o.Sign); l != nil {
			of = append(of, l.Name+" "+o.Sign.Word(o.Word))
		}
	}
	if len(of) == 0 {
		return head
	}
	return head + ": " + strings.Join(of, "; ")
}

// board is the wooden board from one end of the picture to the other, y mm below the origin.
func (p *pen) board(y float64) {
	left, right, foot := -p.x/p.k, (p.s.W-p.x)/p.k, (p.s.H-p.y)/p.k
	p.s.Rect("board", 0, p.y+p.k*y, p.s.W, p.s.H-p.y-p.k*y)
	p.line("board-edge", .5, "M"+p.at(left, y)+"L"+p.at(right, y))
	grain := []struct{ x, y, long float64 }{{.02, .26, .3}, {.43, .5, .3}, {.05, .74, .2}, {.66, .8, .3}, {.8, .3, .14}}
	for _, g := range grain {
		p.line("grain", .4, "M"+p.at(left+g.x*(right-left), y+g.y*(foot-y))+"h"+num(p.k*g.long*(right-left)))
	}
}

// clip begins what is drawn inside a path alone; end it with unclip.
func (p *pen) clip(d string) {
	fmt.Fprintf(&p.s.body, `<clipPath id="c%s"><path d="%s"/></clipPath><g clip-path="url(#c%s)">`, p.id, d, p.id)
}

func (p *pen) unclip() { p.s.body.WriteString("</g>") }

// power is |v|^e with v's sign.
func power(v, e float64) float64 { return math.Copysign(math.Pow(math.Abs(v), e), v) }
