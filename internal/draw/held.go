package draw

import (
	"fmt"
	"math"

	"hollen/internal/core/measure"
	"hollen/internal/core/practice"
)

// scene begins a free picture with its board, y mm above the foot.
func (p *pen) scene(title string, w Width, deskH, handH float64) *Scene {
	p.k = 2.15
	s := &Scene{Title: title, W: 760, H: deskH, Class: "free"}
	if w.hand() {
		p.k, s.W, s.H = 1.08, 340, handH
	}
	p.s = s
	return s
}

// HeldSheet draws a sheet from the words said of it: its edges, what shows through it, beside how many leaves it is as
// thick, whether the last pass tore it.
func HeldSheet(shown []practice.Shown, torn bool, w Width) string {
	p := &pen{wanders: wandersOf(shown), id: fmt.Sprintf("sheet%d", w.size())}
	head := "The sheet on its board"
	if torn {
		head += ", torn"
	}
	s := p.scene(said(head, shown), w, 360, 200)
	p.x, p.y = s.W/2, s.H*.44
	p.s.Rect("board", 0, 0, s.W, s.H)
	for i := range 7 {
		p.line("grain", .4, "M"+p.at(-150+float64(i*41%60), -68+float64(i)*26)+"h"+num(p.k*(70+float64(i*53%90))))
	}
	edges := wordOf(shown, practice.Edges, 0)
	p.behind(wordOf(shown, practice.Seen, -1))
	jag := []float64{.6, 4, 11}[edges]
	var pts []point
	const long, wide, n = 118., 46., 30
	edge := func(side float64) {
		for i := 0; i <= n; i++ {
			x := side * (-long + 2*long*float64(i)/n)
			y := side * wide
			pts = append(pts, point{x, y + jag*(p.wander()-.5)*2})
		}
		for i := 1; i < 6; i++ { // the end
			pts = append(pts, point{side*long + jag*.6*(p.wander()-.5), side * wide * (1 - float64(i)/3)})
		}
	}
	edge(1)
	edge(-1)
	body := p.smooth(pts)
	p.line([]string{"held thin", "held", "held thick", "held"}[min(3, wordOf(shown, practice.Seen, 3))], .7, body)
	p.clip(body)
	for i := range 5 { // rolled this way
		p.line("roll-line", .4, "M"+p.at(-104+20*p.wander(), -34+17*float64(i))+"h"+num(p.k*(60+90*p.wander())))
	}
	p.unclip()
	if edges == 2 {
		for range 12 {
			x, side := -110+220*p.wander(), float64(1-2*int(2*p.wander()))
			p.line(
				"crumb",
				.5,
				"M"+p.at(x, side*(wide+8+8*p.wander()))+"l"+p.by(5, -2)+"l"+p.by(4, 3)+"l"+p.by(-6, 2)+"Z",
			)
		}
	}
	if torn {
		var hole []point
		for i := range 14 {
			a, r := 2*math.Pi*float64(i)/14, 12+7*p.wander()
			hole = append(hole, point{30 + 1.7*r*math.Cos(a), -4 + r*math.Sin(a)})
		}
		p.line("hole", .7, p.smooth(hole))
	}
	p.leaves(wordOf(shown, practice.Leaves, -1), s)
	return s.SVG()
}

// behind is what lies under the sheet to be seen through it: print, or a hand.
func (p *pen) behind(seen int) {
	switch seen {
	case 0:
		p.s.Rect("paper-under", p.x-p.k*64, p.y-p.k*60, p.k*128, p.k*120)
		for i := range 13 {
			for at := -58.; at < 50; {
				word := 5 + 12*p.wander()
				p.line("print", 1.3, "M"+p.at(at, -54+9*float64(i))+"h"+num(p.k*min(word, 58-at)))
				at += word + 3.4
			}
		}
	case 1:
		d := "M" + p.at(-22, 64) + "C" + p.at(-30, 30) + " " + p.at(-34, 18) + " " + p.at(-36, 6) // wrist and palm
		for i, f := range []struct{ x, top, w float64 }{{-30, -40, 12}, {-12, -56, 13}, {6, -52, 13}, {24, -36, 11}} {
			if i > 0 {
				d += "L" + p.at(f.x-f.w/2, -4)
			} else {
				d += "L" + p.at(f.x-f.w/2, 0)
			}
			d += "L" + p.at(
				f.x-f.w/2,
				f.top,
			) + "Q" + p.at(
				f.x,
				f.top-11,
			) + " " + p.at(
				f.x+f.w/2,
				f.top,
			) + "L" + p.at(
				f.x+f.w/2,
				-6,
			)
		}
		d += "L" + p.at(
			33,
			8,
		) + "Q" + p.at(
			50,
			-14,
		) + " " + p.at(
			58,
			-6,
		) + "Q" + p.at(
			62,
			2,
		) + " " + p.at(
			44,
			26,
		) + "Q" + p.at(
			30,
			44,
		) +
			" " + p.at(
			26,
			64,
		) + "Z"
		p.s.Path("hand-under", d)
	}
}

// leaves are the sheet's edge, enlarged, beside as many leaves of paper.
func (p *pen) leaves(word int, s *Scene) {
	if word < 0 {
		return
	}
	n := word + 4
	leaf := 3.2
	if s.W < 500 {
		leaf = 1.9
	}
	x, foot := s.W*.60, s.H-10
	s.Text("e q", x-8, foot-4, "its edge, enlarged")
	for i := range n {
		s.Rect("leaf", x+s.W*.16, foot-leaf*float64(i+1)+.4, s.W*.13, leaf-.8)
	}
	s.Rect("held", x, foot-leaf*float64(n), s.W*.13, leaf*float64(n))
	s.Text("b", x+s.W*.31, foot-4, fmt.Sprint(n))
}

// Hung draws what dries from the words said of it: a sheet over its rod, or ribbons in their nest, damp, dry or
// brittle.
func Hung(shown []practice.Shown, cut bool, w Width) string {
	if cut {
		return nest(shown, w)
	}
	p := &pen{wanders: wandersOf(shown), id: fmt.Sprintf("hung%d", w.size())}
	s := p.scene(said("The sheet over its rod", shown), w, 360, 200)
	p.x, p.y = s.W/2, p.k*22
	leather := wordOf(shown, practice.Leather, 1)
	p.line("rod", 5, "M"+p.at(-140, 0)+"H"+num(p.x+p.k*140))
	for i := range 2 {
		x0, side := -84+92*float64(i), 1.
		sag := []float64{7, 2.5, 0}[leather]
		left, right, foot := x0, x0+76, 112.
		if leather == 0 { // two that cling lean to one another
			side = float64(1 - 2*i)
		}
		lean := sag * side * 2.2
		pts := []point{
			{left, -3},
			{right, -3},
			{right + .4*lean, 30},
			{right + lean, 70 + sag},
			{right + lean - sag, foot + sag},
			{
				(left+right)/2 + lean,
				foot + 2.4*sag,
			},
			{left + lean + sag, foot + sag},
			{left + lean, 70 + sag},
			{left + .4*lean, 30},
		}
		d := "M" + p.at(pts[0].x, pts[0].y) + "L" + p.at(pts[1].x, pts[1].y)
		for _, q := range pts[2:] {
			d += "L" + p.at(q.x, q.y)
		}
		p.line("held", .8, d+"Z")
		p.hungFace(leather, left, right, foot, lean)
	}
	return s.SVG()
}

// hungFace is how the face of a hanging sheet looks: a gleam where damp, a bend where dry, cracks where brittle.
func (p *pen) hungFace(leather int, left, right, foot, lean float64) {
	switch leather {
	case 0:
		p.line("gleam", 2.2, "M"+p.at(left+14, 14)+"q"+p.by(4+lean*.2, 30)+" "+p.by(3+lean*.4, 66))
		p.line("gleam", 1.4, "M"+p.at(left+24, 20)+"q"+p.by(3+lean*.2, 22)+" "+p.by(2+lean*.3, 40))
		p.line("lump-line", .5, "M"+p.at(left+8, foot-8)+"q"+p.by(30, 12)+" "+p.by(60, 0))
	case 1:
		for i := range 3 {
			p.line("roll-line", .4, "M"+p.at(left+16+18*float64(i), 12)+"v"+num(p.k*(foot-26)))
		}
		p.line("lump-line", .6, "M"+p.at(left+2, foot-16)+"q"+p.by(18, -8)+" "+p.by(36, 0)+"t"+p.by(36, 0))
	case 2:
		for i := range 6 {
			y := 16 + 17*float64(i)
			p.crackTo(left, y, left+5+20*p.wander(), y+14*(p.wander()-.5))
			p.crackTo(right, y+7, right-5-20*p.wander(), y+7+14*(p.wander()-.5))
		}
		p.line("crumb", .5, "M"+p.at(left+20, foot+14)+"l"+p.by(8, -4)+"l"+p.by(5, 6)+"l"+p.by(-9, 3)+"Z")
		p.line("crumb", .5, "M"+p.at(right-16, foot+18)+"l"+p.by(7, -3)+"l"+p.by(3, 6)+"l"+p.by(-7, 2)+"Z")
	}
}

// crackTo is a crack from the edge in.
func (p *pen) crackTo(x, y, tx, ty float64) {
	p.line("crack-line", 1.1, "M"+p.at(x, y)+"L"+p.at((x+tx)/2, (y+ty)/2+2)+"L"+p.at(tx, ty))
}

// nest is ribbons wound up: clung together, loose, or snapped.
func nest(shown []practice.Shown, w Width) string {
	p := &pen{wanders: wandersOf(shown), id: fmt.Sprintf("nest%d", w.size())}
	s := p.scene(said("The cut ribbons in their nest", shown), w, 360, 200)
	p.x, p.y = s.W/2, s.H*.54
	p.s.Rect("board", 0, 0, s.W, s.H)
	leather := wordOf(shown, practice.Leather, 1)
	wide := []float64{8.4, 6.2, 6.2}[leather]
	flat := []float64{.52, .60, .62}[leather]
	p.oval("shadow-under", 4, 8, 104, 62*flat/.6, 0)
	for ring := range 7 {
		r := 96 - 12.4*float64(ring)
		turn := 38 * float64(ring)
		var pts []point
		for i := 0; i <= 34; i++ {
			a := (turn + 11.2*float64(i)) * math.Pi / 180
			j := 1 + []float64{.015, .05, .03}[leather]*math.Sin(3*a+float64(ring)) + .02*(p.wander()-.5)
			pts = append(pts, point{r * j * math.Cos(a), r*j*flat*math.Sin(a) - 3.2*float64(ring)})
		}
		if leather == 2 && ring%2 == 1 { // snapped
			p.ribbon(pts[:14], wide)
			p.ribbon(pts[17:], wide)
			continue
		}
		if leather == 0 && ring%2 == 1 { // it clings to the one outside it: no edge between them
			p.line("ribbon", wide+5, p.along(pts))
			continue
		}
		p.ribbon(pts, wide)
	}
	switch leather {
	case 0:
		p.line("gleam", 2.6, "M"+p.at(-70, -26)+"q"+p.by(22, -26)+" "+p.by(62, -28))
		p.line("gleam", 1.6, "M"+p.at(-44, 12)+"q"+p.by(10, 16)+" "+p.by(40, 18))
	case 2:
		for i := range 9 {
			x, y := -120+240*p.wander(), 46+18*p.wander()
			p.line("crumb", .5, "M"+p.at(x, y)+"l"+p.by(8, -2+float64(i%3))+"l"+p.by(1, 4)+"l"+p.by(-8, 1)+"Z")
		}
	}
	return s.SVG()
}

// ribbon is one ribbon along points.
func (p *pen) ribbon(pts []point, wide float64) {
	d := p.along(pts)
	p.line("ribbon-edge", wide+1.2, d)
	p.line("ribbon", wide, d)
	p.line("ribbon-lit", wide*.22, d)
}

// Bitten draws a ribbon bitten through, from the words said of it: a hard line inside, tender, or soft.
func Bitten(shown []practice.Shown, w Width) string {
	p := &pen{wanders: wandersOf(shown), id: fmt.Sprintf("bitten%d", w.size())}
	s := p.scene(said("A ribbon bitten through, enlarged", shown), w, 360, 200)
	p.x, p.y = s.W*.5, s.H*.58
	tooth := wordOf(shown, practice.Tooth, -1)
	half := []float64{15, 18, 24, 15}[(tooth+4)%4] // of its thickness, it swells
	sag := []float64{2, 7, 20, 2}[(tooth+4)%4]
	const wide = 82.
	face := func(shrink float64) (out []point) { // the bitten face, rounded at its ends, scalloped by teeth
		const n = 40
		for i := range n {
			a := 2 * math.Pi * float64(i) / n
			x := (wide - shrink) * power(math.Cos(a), .45)
			y := (half - shrink) * power(math.Sin(a), .6)
			tooth := 1.6 * math.Abs(math.Sin(x/13))
			out = append(out, point{x, y + sag*(x/wide)*(x/wide) - tooth*(1-math.Abs(y)/half)})
		}
		return out
	}
	d := "M" + p.at(
		-wide,
		sag-half*.4,
	) + "C" + p.at(
		-wide+10,
		-34,
	) + " " + p.at(
		-wide+36,
		-66,
	) + " " + p.at(
		-wide+66,
		-78,
	) + "L" +
		p.at(
			wide+48,
			-78,
		) + "C" + p.at(
		wide+26,
		-64,
	) + " " + p.at(
		wide+6,
		-34,
	) + " " + p.at(
		wide,
		sag-half*.4,
	) + "V" +
		num(
			p.y+p.k*(sag+half*.3),
		) + "H" + num(
		p.x-p.k*wide,
	) + "Z"
	p.line("cooked", .9, d)
	p.clip(d)
	for i := range 4 {
		x := -wide + 24 + 40*float64(i)
		p.line(
			"gleam",
			[]float64{1, 1.6, 2.6, 1}[(tooth+4)%4],
			"M"+p.at(x, -6)+"C"+p.at(x+10, -34)+" "+p.at(x+30, -62)+" "+p.at(x+50, -76),
		)
	}
	p.unclip()
	p.line("bite-face", .9, p.smooth(face(0)))
	p.bitten(tooth, face(0), wide, half, sag)
	if tooth >= 0 {
		words := []string{"a pale, hard line in the middle", "the middle a shade paler",
			"one colour through, swollen"}[tooth]
		p.line("dim", .4, "M"+p.at(0, 2)+"L"+p.at(22, half+sag*.2+16)+"h"+num(p.k*8))
		s.Text("", p.x+p.k*33, p.y+p.k*(half+sag*.2+16)+4, words)
	}
	return s.SVG()
}

// bitten is what a bitten face shows by its word.
func (p *pen) bitten(tooth int, face []point, wide, half, sag float64) {
	switch tooth {
	case 0: // the hard line: pale, sharp, right through
		p.line("core", .6, p.smooth(coreOf(face, wide, half, .72, .30)))
		p.line("core-line", 1.8, "M"+p.at(-wide*.6, sag*.36)+"Q"+p.at(0, -1)+" "+p.at(wide*.6, sag*.36))
	case 1:
		p.line("core faint", .4, p.smooth(coreOf(face, wide, half, .5, .16)))
	case 2:
		for i := range 6 {
			x := -70 + 28*float64(i)
			p.line(
				"drop",
				.5,
				"M"+p.at(
					x,
					sag*(x/wide)*(x/wide)+half+4+7*p.wander(),
				)+"q"+p.by(
					-4,
					6,
				)+" "+p.by(
					0,
					9,
				)+"q"+p.by(
					4,
					-3,
				)+" "+
					p.by(
						0,
						-9,
					)+"Z",
			)
		}
	}
}

// coreOf is a face drawn in to a share of its width and of its thickness.
func coreOf(face []point, wide, half, across, thick float64) (out []point) {
	for _, q := range face {
		mid := 0.
		if q.y > half || q.y < -half {
			mid = q.y - math.Copysign(half, q.y)
		}
		out = append(out, point{q.x * across, (q.y-mid)*thick + mid*across})
	}
	return out
}

// PracticeDough draws what a call or a phase shows: the dough, its sheet, what dries, or what is bitten.
func PracticeDough(in measure.System, at practice.View, shown []practice.Shown, w Width) string {
	switch at.Kind {
	case practice.AsSheet:
		return HeldSheet(shown, at.Torn, w)
	case practice.AsHung, practice.AsNest:
		return Hung(shown, at.Kind == practice.AsNest, w)
	case practice.AsBite:
		return Bitten(shown, w)
	}
	return Lump(in, shown, w)
}
