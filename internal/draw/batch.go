package draw

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/cut"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
)

// Strip draws the dough along the stations, from the side: heap, lump, the steps of the
// stops used, the ribbons across one sheet, dried and cooked. It is a picture of the order
// of work and only the counts are to scale.
func Strip(p *plan.Strip) string {
	const base, right = 88., 1600.
	s := &Scene{}
	var b strings.Builder
	b.WriteString("M6 88L12 71 21 49 30 34 39 20 48 14 57 17 66 23 75 28 84 34 93 36 102 40 111 35 120 27 129 20 138 " +
		"17 147 19 165 21 192 23 " +
		"237 26 300 30 400 33 600 41 792 48")
	n := float64(max(len(p.StopsMM), 1))
	for i, k := range p.StopsMM {
		x := 800 + 200*float64(i)/n
		// Square root, so that the last steps can still be told apart.
		y := base - 40*math.Sqrt(k/p.FirstMM)
		fmt.Fprintf(&b, "L%s %s %s %s", num(x+4), num(y), num(x+200/n-4), num(y))
	}
	b.WriteString("L1000 88Z")
	if p.Egg {
		fmt.Fprintf(&s.body, `<ellipse class="yolk-dome" cx="100" cy="36" rx="15" ry="20"/>`)
	}
	s.Path("body", b.String())
	s.Path("lit", "M420 40C560 44 700 49 792 54L792 59C700 55 560 52 420 49Z")
	if draw := stripEnds[p.Family]; draw != nil {
		for i, at := range []stripAt{{1012, 1}, {1212, .92}, {1412, 1.2}} {
			draw(s, p, i, at)
		}
	}
	return fmt.Sprintf(`<svg class="strip" viewBox="0 0 %g 92" preserveAspectRatio="none" aria-hidden="true">%s</svg>`,
		right, s.body.String())
}

// stripAt is a place of the strip: its left, and how large a piece is there against as it is cut.
type stripAt struct{ x, large float64 }

// stripEnds draws the pasta as it is cut, dried and cooked (0, 1, 2), by family; a test holds the table complete.
var stripEnds = map[cut.Family]func(s *Scene, p *plan.Strip, stage int, at stripAt){
	cut.Ribbon: func(s *Scene, p *plan.Strip, stage int, at stripAt) {
		switch stage {
		case 0: // across one sheet
			across := min(p.Across, 60)
			w := 182 / float64(max(across, 1))
			for i := range across {
				s.Rect("body", at.x+float64(i)*w, 79.5, w*.72, 8.5)
			}
		case 1:
			s.Path("body", wave(at.x, 180, 6, 7, 81.25, 5.5))
		default:
			s.Path("body", wave(at.x, 180, 4, 16, 81.5, 5))
		}
	},
	cut.Piece:  func(s *Scene, p *plan.Strip, _ int, at stripAt) { stripPieces(s, p, 3, at) },
	cut.Formed: func(s *Scene, p *plan.Strip, _ int, at stripAt) { stripPieces(s, p, 4, at) },
	cut.Filled: func(s *Scene, p *plan.Strip, _ int, at stripAt) { stripPieces(s, p, 6, at) },
	cut.Undecided: func(s *Scene, _ *plan.Strip, _ int, at stripAt) { // a stack of three
		for i := range 3 {
			s.Rect("body", at.x+10+6*float64(i), 78+3.5*float64(i), 150, 2.5)
		}
	},
}

// stripPieces draws pieces in a row, so high from their middle.
func stripPieces(s *Scene, p *plan.Strip, high float64, at stripAt) {
	n := min(p.PerSheet, 8)
	w := 182 / float64(max(n, 1))
	for i := range n {
		fmt.Fprintf(&s.body, `<ellipse class="body" cx="%s" cy="%s" rx="%s" ry="%s"/>`, num(at.x+(float64(i)+.5)*w),
			num(90-high*at.large), num(min(.36*w, 12)*at.large), num(high*at.large))
	}
}

// wave is a ribbon of n waves from x over width w, of height amp and thickness t at y.
func wave(x, w float64, n int, amp, y, t float64) string {
	half := w / float64(n) / 2
	var b strings.Builder
	fmt.Fprintf(&b, "M%s %s", num(x), num(y))
	for i := range n {
		fmt.Fprintf(&b, "q%s %s %s 0", num(half), num(amp*sign(i)), num(2*half))
	}
	fmt.Fprintf(&b, "l0 %s", num(t))
	for i := range n {
		fmt.Fprintf(&b, "q%s %s %s 0", num(-half), num(amp*sign(n-1-i)), num(-2*half))
	}
	return b.String() + "Z"
}

func sign(i int) float64 {
	if i%2 == 0 {
		return -1
	}
	return 1
}

// maxEggs is how many eggs or yolks are drawn one by one.
const maxEggs = 14

// eggsOf draws the eggs, yolks and top-up of the pick.
func eggsOf(p *plan.Plan, width Width) string {
	f := &p.Formula
	s := &Scene{Title: plan.EggWords(f.Pick.Whole, f.Pick.Yolks) + ", " + p.In().Grams(f.TopG) + " of " + p.TopWord(),
		W: 590, Y: -4, H: 100,
		Class: "scale-down"}
	room := 560.
	if width.hand() {
		s.W, room = width.units(), width.units()-20
	}
	eggs, yolks := min(f.Pick.Whole, maxEggs), min(f.Pick.Yolks, maxEggs)
	if f.TopG > 0 {
		room -= 100
	}
	if f.AlsoG > 0 {
		room -= 18 + 11.5*float64(len(p.AlsoWords())+2)
	}
	if f.Pick.Whole > maxEggs || f.Pick.Yolks > maxEggs {
		room -= 90
	}
	// Icons shrink together until they fit.
	k := min(1, room/max(1, float64(eggs)*38+float64(yolks)*34))
	x := 4.
	group := func(n, drawn int, one, many string, grams, step float64, icon func(x float64)) {
		if n == 0 {
			return
		}
		start := x
		for range drawn {
			icon(x)
			x += step * k
		}
		if n > drawn {
			s.Text("q", x+2, 34, fmt.Sprintf("and %d more", n-drawn))
			x += 88
		}
		s.Text("big", start, 72, measure.Plural(n, one, many))
		s.Text("", start, 91, p.In().Grams(grams))
		x = max(x, start+100) + 18
	}
	group(f.Pick.Whole, eggs, "egg", "eggs", f.WholeG-f.AlsoG, 38, func(x float64) {
		s.Path("shell", fmt.Sprintf("M%s %sc%s 0 %s %s %s %sa%s %s 0 0 1 %s 0c0 %s %s %s %s %sz", num(x+16*k),
			num(46-43*k),
			num(9*k), num(16*k), num(16*k), num(16*k), num(27*k), num(16*k), num(15*k), num(-32*k), num(-11*k),
			num(7*k), num(-27*k), num(16*k), num(-27*k)))
		s.Circle("yolk-in", x+16*k, 46-16*k, 7.5*k)
	})
	if f.AlsoG > 0 { // of other sizes, not drawn
		s.Text("big", x, 72, "+ "+p.AlsoWords())
		s.Text("", x, 91, p.In().Grams(f.AlsoG))
		x += 18 + 11.5*float64(len(p.AlsoWords())+2)
	}
	one, many := "extra yolk", "extra yolks"
	if f.Pick.Whole == 0 {
		one, many = "yolk", "yolks"
	}
	group(f.Pick.Yolks, yolks, one, many, f.YolkG, 34, func(x float64) { s.Circle("yolk-out", x+14*k, 46-16*k, 13*k) })
	if f.TopG > 0 {
		s.Path("drop", fmt.Sprintf("M%s 7c8 12 13 18 13 25a13 13 0 0 1 -26 0c0 -7 5 -13 13 -25z", num(x+13)))
		s.Text("big", x, 72, p.In().Grams(f.TopG))
		s.Text("", x, 91, p.TopWord())
	} else if f.Pick.Whole+f.Pick.Yolks == 0 {
		s.Text("big", x, 72, "No egg, no liquid")
	}
	return s.SVG()
}
