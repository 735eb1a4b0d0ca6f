package draw

import (
	"fmt"
	"math"

	"hollen/internal/core/measure"
	"hollen/internal/core/practice"
)

// lump is a dough as it lies on the board, by the words said of it; what was not looked at is as usual.
type lump struct {
	feel    int  // −2 much too dry … 2 much too wet
	surface int  // 0 rough, 1 even, 2 smooth
	cracks  bool //
	stick   int  // 0 lets go, 1 clings, 2 smears
	skin    int  // 0 moist, 1 dry to the touch, 2 a crust
	dent    int  // 0 stays, 1 comes back slowly, 2 springs back; −1: not pressed
	soft    bool // gives like an earlobe
	hard    bool
	w, h    float64 // mm
	pts     []point
}

// Lump draws a dough on its board from the words said of it, to scale: its outline by the surface, its height by the
// feel, cracks, threads, a skin and the dent of a thumb where they were seen. How the dough really is it does not know.
func Lump(in measure.System, shown []practice.Shown, w Width) string {
	l := lumpOf(shown)
	p := &pen{k: 2.15, wanders: wandersOf(shown), id: fmt.Sprintf("lump%d", w.size())}
	s := &Scene{Title: said("The dough on its board", shown), W: 760, H: 360, Class: "free"}
	if w.hand() {
		p.k, s.W, s.H = 1.2, 340, 200
	}
	p.s, p.x, p.y = s, s.W/2, s.H-p.k*34
	p.board(2)
	p.shape(&l)
	p.shadow(&l)
	if l.stick == 2 {
		p.smear(&l)
	}
	body := p.smooth(l.pts)
	p.line("lump", .8, body)
	p.clip(body)
	p.volume(&l)
	p.light(&l)
	p.dry(&l)
	p.cracks(&l)
	p.dent(&l)
	p.unclip()
	p.line("lump-rim", .8, body)
	p.crumbs(&l)
	p.threads(&l)
	across := math.Round(l.w/10) * 10
	p.s.Across(p.x-p.k*across/2, p.x+p.k*across/2, s.H-8, "")
	p.s.Text("m q", p.x, s.H-14, "about "+in.Long(across))
	return s.SVG()
}

// size tells two sizes of one picture apart.
func (w Width) size() int {
	if w.hand() {
		return 1
	}
	return 0
}

// lumpOf reads the words.
func lumpOf(shown []practice.Shown) lump {
	l := lump{feel: wordOf(shown, practice.Feel, 2) - 2, surface: wordOf(shown, practice.Surface, 1),
		cracks: wordOf(
			shown,
			practice.Flex,
			0,
		) == 1, stick: wordOf(shown, practice.Stick, 0), skin: wordOf(shown, practice.Skin, 0),
		dent: wordOf(shown, practice.Spring, -1)}
	if poke := wordOf(shown, practice.Poke, -1); poke >= 0 { // a slow poke leaves its dent for longer
		l.dent = 2
		if poke >= 2 {
			l.dent = 1
		}
		if poke >= 5 {
			l.dent = 0
		}
	}
	give := wordOf(shown, practice.Give, -1)
	l.soft, l.hard = give == 0, give == 2
	return l
}

// shape works out the outline.
func (p *pen) shape(l *lump) {
	wet := float64(max(0, l.feel))
	l.w = 180
	if l.feel > 0 {
		l.w *= 1 + .06*wet + .03*float64(l.stick)
	}
	l.h = l.w * []float64{.64, .60, .54, .46, .38}[l.feel+2]
	switch {
	case l.soft:
		l.w *= 1.08
		l.h = l.w * .36
	case l.hard:
		l.h *= 1.06
	}
	jag := []float64{.055, .022, .006}[l.surface] * (1 + .25*max(0, -float64(l.feel)))
	fine := []float64{1.1, .7, .2}[l.surface]
	side, top := .88, .92
	if l.feel > 0 || l.soft {
		side, top = .92, .80
	}
	var ph [4]float64
	for i := range ph {
		ph[i] = 6 * p.wander()
	}
	const n = 48
	for i := range n {
		a := 2 * math.Pi * float64(i) / n
		c, sn := math.Cos(a+math.Pi), math.Sin(a+math.Pi)
		x, y := l.w/2*power(c, side), 5*sn*(1+.5*min(1, wet))
		if sn <= 0 {
			y = -l.h * math.Pow(-sn, top)
			slow := .5*math.Sin(2*a+ph[0]) + .35*math.Sin(3*a+ph[1]) + .25*math.Sin(5*a+ph[2])
			quick := .35*math.Sin(9*a+ph[3]) + (p.wander()-.5)*fine
			k := 1 + jag*(slow+quick)
			x *= k
			y *= k
		}
		l.pts = append(l.pts, point{x, y})
	}
}

// shadow hatches the board under it.
func (p *pen) shadow(l *lump) {
	d := ""
	for i := range 9 {
		d += "M" + p.at(-l.w*.34+float64(i)*l.w*.112, 8+float64(i*7%3)) + "l" + p.by(l.w*.09, 3)
	}
	p.line("shadow", .5, d)
}

// smear is what it leaves where it lay.
func (p *pen) smear(l *lump) {
	var pts []point
	for i := range 20 {
		a := 2 * math.Pi * float64(i) / 20
		pts = append(pts, point{math.Cos(a) * l.w * (.60 + .05*p.wander()), 5 + math.Sin(a)*7*(1+.4*p.wander())})
	}
	p.line("smear", .4, p.smooth(pts))
}

// volume is its round body: lines towards the shaded side, broken where the surface is.
func (p *pen) volume(l *lump) {
	fmt.Fprintf(&p.s.body, `<linearGradient id="g%s" x1="0" y1="0" x2="1" y2="1"><stop offset=".4" stop-color="#000"/>`+
		`<stop offset="1" stop-color="#fff"/></linearGradient><mask id="m%s"><rect x="0" y="0" width="%s" height="%s" `+
		`fill="url(#g%s)"/></mask><g mask="url(#m%s)">`, p.id, p.id, num(p.s.W), num(p.s.H), p.id, p.id)
	broken := []string{"9 6 4 7 13 5", "26 5 9 6", ""}[l.surface]
	for k := 1; k <= 10; k++ {
		s := 1 - .058*float64(k)
		dx, dy := -l.w*.010*float64(k), -l.h*.012*float64(k)
		var pts []point
		for _, q := range l.pts {
			pts = append(pts, point{q.x*s + dx, (q.y+2)*s + dy - 1})
		}
		dash := ""
		if broken != "" {
			dash = fmt.Sprintf(` stroke-dasharray="%s" stroke-dashoffset="%s"`, broken, num(30*p.wander()))
		}
		fmt.Fprintf(
			&p.s.body,
			`<path class="contour" stroke-width="%s"%s d="%s"/>`,
			num((.62-.035*float64(k))*p.k),
			dash,
			p.smooth(pts),
		)
	}
	p.s.body.WriteString("</g>")
}

// light is where it shines: whole, broken or not at all.
func (p *pen) light(l *lump) {
	x, y := -l.w*.20, -l.h*.66
	switch {
	case l.skin == 2:
	case l.surface == 2 || l.feel > 0:
		d := "M" + p.at(
			x-l.w*.16,
			y+l.h*.20,
		) + "C" + p.at(
			x-l.w*.13,
			y-l.h*.06,
		) + " " + p.at(
			x+l.w*.04,
			y-l.h*.17,
		) + " " +
			p.at(
				x+l.w*.20,
				y-l.h*.13,
			) + "C" + p.at(
			x+l.w*.08,
			y-l.h*.04,
		) + " " + p.at(
			x-l.w*.04,
			y+l.h*.06,
		) + " " +
			p.at(
				x-l.w*.16,
				y+l.h*.20,
			) + "Z"
		p.s.Path("lit", d)
		if l.feel > 0 { // wet: a second gleam
			p.line(
				"gleam",
				1.4+.5*float64(l.feel),
				"M"+p.at(x+l.w*.26, y-l.h*.10)+"q"+p.by(l.w*.05, l.h*.01)+" "+p.by(l.w*.10, l.h*.06),
			)
		}
	case l.surface == 1:
		for i := range 3 {
			t := float64(i) / 2
			p.oval("lit", x-l.w*.10+t*l.w*.22, y+l.h*.12-t*l.h*.20, l.w*.040, l.h*.030, -38+t*16)
		}
	default: // rough: lumps and hollows
		for range 22 {
			a, r := math.Pi*p.wander(), .25+.62*p.wander()
			bx, by, w := -math.Cos(a)*l.w/2*r, -math.Sin(a)*l.h*r*.92, l.w*(.022+.03*p.wander())
			p.line("lump-line", .6, "M"+p.at(bx-w, by)+"q"+p.by(w, -w*.9)+" "+p.by(2*w, w*.1))
			p.line("lit-line", .8, "M"+p.at(bx-w*.7, by-w*.15)+"q"+p.by(w*.7, -w*.6)+" "+p.by(1.4*w, w*.05))
		}
	}
}

// dry is a dry face: paler, then scales.
func (p *pen) dry(l *lump) {
	if l.skin == 0 {
		return
	}
	in := .86
	if l.skin == 2 {
		in = .66
	}
	var pts []point
	for i := range 27 {
		a := math.Pi * (1 + float64(i)/26)
		pts = append(pts, point{math.Cos(a) * l.w * .53, math.Sin(a) * l.h * 1.06})
	}
	for i := 26; i >= 0; i-- {
		a, q := math.Pi*(1+float64(i)/26), in+.04*math.Sin(float64(i)*1.7)
		pts = append(pts, point{math.Cos(a) * l.w * .5 * q, math.Sin(a)*l.h*q*.98 + 2})
	}
	p.s.Path([]string{"", "dry-face", "dry-face crust"}[l.skin], p.smooth(pts))
	if l.skin < 2 {
		return
	}
	for i := range 22 {
		a, r := math.Pi*(1.04+.92*float64(i)/21), .72+.24*float64(i*37%11)/11
		s := l.w * .04
		at := p.at(math.Cos(a)*l.w/2*r, math.Sin(a)*l.h*r)
		p.line(
			"lump-line",
			.6,
			"M"+at+"l"+p.by(s*(.6+.5*p.wander()), -s*.3*p.wander())+"l"+p.by(s*.3, s*(.5+.3*p.wander()))+"M"+
				at+"l"+p.by(-s*.4, s*.5),
		)
	}
}

// cracks are open, wide at the edge, running in, with a branch.
func (p *pen) cracks(l *lump) {
	if !l.cracks {
		return
	}
	for i := range 7 {
		a := math.Pi*(1.10+.80*float64(i)/6) + (p.wander()-.5)*.12
		p.crack(math.Cos(a)*l.w*.505, math.Sin(a)*l.h, l.w*(.10+.10*p.wander()), 3.4+1.6*p.wander())
	}
}

func (p *pen) crack(x, y, long, wide float64) {
	dir := math.Atan2(-y*.55-2, -x*.55) + (p.wander()-.5)*.7
	const steps = 5
	var one, other []string
	branch := ""
	for k := 0; k <= steps; k++ {
		nx, ny := math.Cos(dir+math.Pi/2), math.Sin(dir+math.Pi/2)
		one = append(one, p.at(x+nx*wide/2, y+ny*wide/2))
		other = append(other, p.at(x-nx*wide/2, y-ny*wide/2))
		x += math.Cos(dir) * long / steps
		y += math.Sin(dir) * long / steps
		dir += (p.wander() - .5) * 1.1
		wide *= .66
		if k == 2 {
			b := dir + .7 + .3*p.wander()
			branch = "M" + p.at(x, y) + "l" + p.by(math.Cos(b)*long*.3, math.Sin(b)*long*.3) + "l" +
				p.by(math.Cos(b+.5)*long*.14, math.Sin(b+.5)*long*.14)
		}
	}
	d := "M" + one[0]
	for _, q := range one[1:] {
		d += "L" + q
	}
	for i := len(other) - 1; i >= 0; i-- {
		d += "L" + other[i]
	}
	p.s.Path("crack", d+"Z")
	p.line("crack-line", .7, branch)
}

// dent is where the thumb was.
func (p *pen) dent(l *lump) {
	x, y, r := l.w*.13, -l.h*.46, 14.
	switch l.dent {
	case -1:
	case 2:
		p.line("lump-line", .5, "M"+p.at(x-6, y-1)+"q"+p.by(6, -4)+" "+p.by(12, 0))
	default:
		edge := .8
		if l.dent == 1 {
			r *= .78
		} else {
			edge = 1.4
		}
		p.oval("dent", x, y, r, r*.74, 0)
		arc := func(x0, y0, rx, ry float64, sweep int, dx, dy float64) string {
			return "M" + p.at(x0, y0) + "a" + p.by(rx, ry) + " 0 0 " + fmt.Sprint(sweep) + " " + p.by(dx, dy)
		}
		p.line("crack-line", edge, arc(x-r*.86, y-r*.1, r, r*.74, 1, 1.6*r, -.22*r))
		p.line("lit-line", .9, arc(x-r*.5, y+r*.42, r*.8, r*.5, 0, 1.1*r, 0))
	}
}

// crumbs are what it does not take up.
func (p *pen) crumbs(l *lump) {
	n := 0
	switch {
	case l.surface == 0:
		n = 13
	case l.feel < -1:
		n = 9
	case l.feel < 0:
		n = 5
	}
	for i := range n {
		side := float64(1 - 2*(i%2))
		x, y, s := side*(l.w*.51+l.w*.16*p.wander()), 5+9*p.wander(), 1.4+2.6*p.wander()
		p.line("crumb", .5, "M"+p.at(x-s, y)+"l"+p.by(.7*s, -s)+"l"+p.by(1.1*s, .3*s)+"l"+p.by(-.3*s, .9*s)+"Z")
	}
}

// threads hold it to the board.
func (p *pen) threads(l *lump) {
	for i := range []int{0, 3, 7}[l.stick] {
		side := float64(1 - 2*(i%2))
		x, long := side*l.w*(.44+.05*p.wander()), 10+10*p.wander()
		p.line("thread", .5+.5*p.wander(), "M"+p.at(x, -4)+"q"+p.by(4*side, 6)+" "+p.by(long*side, 10+3*p.wander()))
	}
}
