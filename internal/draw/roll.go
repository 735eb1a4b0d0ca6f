package draw

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/roll"
)

// RollScale is the picture units a millimetre of gap or sheet takes in RollSide.
const RollScale = 5.

// RollSide draws the way down from the side: the sheet between the rollers of every stop
// used, heights to one scale, stops not used as outlines; for a hand those used alone. Along the bench it is not to
// scale. Of a pin it draws the board.
func RollSide(p *plan.Plan, across Width) string {
	if len(p.Roll.Machine.Stops) == 0 {
		return PinAbove(p, across)
	}
	d := newRollers(&p.Roll, across)
	s := &Scene{Title: rollTitle(p), Y: -16, W: d.width, H: d.floor + d.under() + 16, Class: "scale-down"}
	if h := p.Hollens(); h != nil {
		s.H += 20
		d.feels(s, p)
		s.Y, s.H = s.Y-thinAbove, s.H+thinAbove
		d.hollens(s, h)
	}
	d.sheet(s)
	d.rollers(s)
	s.Path("ink", fmt.Sprintf("M0 %sH%g", num(d.floor), d.width))
	d.table(s, p.In(), p.Hollens() != nil)
	s.Text("q", 0, d.mid-10, "pressed to")
	s.Text("b", 0, d.mid+10, p.In().MM(math.Round(p.Roll.PressedMM), 0))
	bar, words := RollBar(p)
	s.Down(d.width-6, d.mid-bar/2*RollScale, d.mid+bar/2*RollScale)
	if across.hand() { // the words lie above the rollers
		s.Text("e q", d.width, -2, words)
	} else {
		s.Text("e q", d.width-14, d.mid+4, words)
	}
	return s.SVG()
}

// under is how high what stands under the picture is.
func (d *rollers) under() float64 {
	if d.usedAlone {
		return 64
	}
	return 104
}

// rollers is where the stops of a machine stand in the picture, and what they do to the sheet.
type rollers struct {
	o           *plan.RollPlan
	stops       []roll.Stop
	used        map[int]int // stop -> passes
	last        int         // the last stop used, -1 of none
	in, out     map[int]float64
	at, wide    []float64 // the middle of each stop, and the room it takes
	width, left float64
	mid, floor  float64 // heights of the sheet's middle and of the table under it
	radius      float64
	usedAlone   bool    // for a hand
	room        float64 // of a stop used, picture units
	turn        int     // of the figures that stand in two rows by turns
}

// byTurns returns how far down a figure of so many units stands: where the stops are closer than that, every other one
// a line lower.
func (d *rollers) byTurns(wide float64) float64 {
	if d.room > wide {
		return 0
	}
	d.turn++
	return 15 * float64((d.turn-1)%2)
}

func newRollers(o *plan.RollPlan, across Width) *rollers {
	right := 58.
	d := &rollers{o: o, stops: o.Machine.Stops, used: map[int]int{}, last: -1, in: map[int]float64{},
		out: map[int]float64{}, width: across.units(), left: 92,
		usedAlone: across.hand()}
	if across.hand() {
		d.left = 74
		right = 14
	}
	for _, x := range o.Passes {
		if d.used[x.Stop] == 0 {
			d.in[x.Stop] = x.InMM
		}
		d.used[x.Stop]++
		d.out[x.Stop] = x.OutMM
		d.last = max(d.last, x.Stop)
	}
	d.wide = make([]float64, len(d.stops))
	d.at = make([]float64, len(d.stops))
	sum := 0.
	for i := range d.stops {
		if d.wide[i] = .62; across.hand() {
			d.wide[i] = 0
		}
		if d.used[i] > 0 {
			d.wide[i] = 1
		}
		if i == 0 && !across.hand() {
			d.wide[i] = 1.25
		}
		sum += d.wide[i]
	}
	unit := (d.width - d.left - right) / sum
	d.radius = min(23, unit*.3)
	d.room = unit
	half := RollScale * max(o.PressedMM, d.stops[0].TrueMM()+2*d.radius*2/RollScale) / 2
	d.mid = half + 6
	d.floor = d.mid + half + 10
	x := d.left
	for i := range d.stops {
		d.wide[i] *= unit
		d.at[i] = x + d.wide[i]/2
		x += d.wide[i]
	}
	return d
}

// sheet draws the dough: flat at its thickness, narrowing over a short wedge at each stop used.
func (d *rollers) sheet(s *Scene) {
	var upper, lower []string
	point := func(x, mm float64) {
		upper = append(upper, num(x)+" "+num(d.mid-mm*RollScale/2))
		lower = append(lower, num(x)+" "+num(d.mid+mm*RollScale/2))
	}
	point(d.left-16, d.o.PressedMM)
	end := d.left
	for i := range d.stops {
		if d.used[i] == 0 {
			continue
		}
		point(d.at[i]-d.radius*.8, d.in[i])
		point(d.at[i], d.stops[i].TrueMM())
		point(d.at[i]+d.radius*.5, d.out[i])
		end = d.at[i] + d.wide[i]*.5
	}
	point(end, d.o.SheetMM)
	slices.Reverse(lower)
	s.Path("dough", "M"+strings.Join(upper, "L")+"L"+strings.Join(lower, "L")+"Z")
}

// rollers draws the pair of every stop, those not used as outlines.
func (d *rollers) rollers(s *Scene) {
	for i, st := range d.stops {
		gap := st.TrueMM() * RollScale / 2
		if d.used[i] == 0 && d.usedAlone {
			continue
		}
		if d.used[i] == 0 {
			small := d.radius * .78
			for _, side := range []float64{-1, 1} {
				s.Circle("ghost", d.at[i], d.mid+side*(gap+small), small)
			}
			continue
		}
		for _, side := range []float64{-1, 1} {
			s.Circle("metal", d.at[i], d.mid+side*(gap+d.radius), d.radius)
			s.Circle("hub", d.at[i], d.mid+side*(gap+d.radius), 4)
		}
		if d.used[i] > 1 {
			words := fmt.Sprintf("%d passes", d.used[i])
			if d.usedAlone {
				words = fmt.Sprintf("%d ×", d.used[i])
			}
			s.Text("m b", d.at[i], -2, words)
		}
	}
}

// thinAbove is the room for Hollen's own way above the picture.
const thinAbove = 26.

// hollens draws the way down as it would be worked out, thin, above the maker's own: a point at every stop it uses.
func (d *rollers) hollens(s *Scene, h *roll.Progression) {
	const y = -30.
	used := map[int]bool{}
	first, last := len(d.stops), 0
	for _, x := range h.Passes {
		used[x.Stop] = true
		first, last = min(first, x.Stop), max(last, x.Stop)
	}
	s.Path("ink thin", fmt.Sprintf("M%s %sH%s", num(d.at[first]), num(y), num(d.at[last])))
	for i := range d.stops {
		if used[i] && d.wide[i] > 0 {
			s.Circle("pip", d.at[i], y, 4)
		}
	}
	s.Text("q", 0, y+4, "worked out")
}

// feels writes the one word on each stop under its figures: that of its boldest pass, tearing in red.
func (d *rollers) feels(s *Scene, p *plan.Plan) {
	y := d.floor + d.under() - 1
	if d.usedAlone {
		y += 14
		s.H += 16
	}
	d.turn = 0
	s.Text("q", 0, y, "Feels")
	order := []string{"", "easy", "firm", roll.Bold, roll.Tearing}
	for i := range d.stops {
		most := 0
		for _, x := range d.o.Passes {
			if x.Stop == i {
				most = max(most, slices.Index(order, p.Word(x)))
			}
		}
		if class := "m s"; most > 0 {
			if order[most] == roll.Tearing {
				class = "m b red-line-text"
			}
			s.Text(class, d.at[i], y+d.byTurns(50), order[most])
		}
	}
}

// StopsAcross is where the stops stand in the picture of the way down: the room before the first, of each
// and after the last, all in one unit.
func StopsAcross(p *plan.Plan) []float64 {
	d := newRollers(&p.Roll, Desk)
	out := []float64{d.left}
	sum := d.left
	for _, w := range d.wide {
		out = append(out, math.Round(w))
		sum += w
	}
	return append(out, d.width-sum)
}

// table writes the figures of every stop under it; own says that words of the own way follow.
func (d *rollers) table(s *Scene, in measure.System, own bool) {
	row := func(i int) float64 { return d.floor + 21 + 20.5*float64(i) }
	deep := deep
	if own { // words stand under it
		deep = ""
	}
	for i, t := range []string{"Stop", "Sheet, " + in.Name(measure.MM)} {
		s.Text("q", 0, row(i), t)
	}
	if d.usedAlone {
		d.tableAtHand(s, in, row)
		return
	}
	s.Text("q "+deep, 0, row(2), "Thinner by")
	s.Text("q "+deep, 0, row(3), "Gap, "+in.Name(measure.MM))
	for i, st := range d.stops {
		x, gap := d.at[i], GapMM(in, st.TrueMM())
		if d.used[i] == 0 {
			s.Named("m q", x, row(0), st.Label)
			s.Text("m q "+deep, x, row(3), gap)
			if i < d.last {
				s.Text("m s q", x, row(1), "skip")
			}
			continue
		}
		s.Named("m big", x, row(0)+1, st.Label)
		s.Text("m "+deep, x, row(3), gap)
		sheet, thinner := SheetMM(in, d.out[i]), fmt.Sprintf("%.0f %%", 100*(1-d.out[i]/d.in[i]))
		if i == 0 {
			sheet, thinner = SheetMM(in, d.in[i])+" to "+sheet, "flat"
			if d.o.Folds > 0 {
				thinner = measure.Plural(d.o.Folds, "fold", "folds")
			}
		}
		s.Text("m b", x, row(1), sheet)
		s.Text("m "+deep, x, row(2), thinner)
	}
	if n := len(d.stops); n-1-d.last > 1 {
		x := (d.at[d.last+1] + d.at[n-1]) / 2
		s.Text("m s q", x, row(1), "not used")
		s.Text("m s q "+deep, x, row(2), "finer")
	}
}

// tableAtHand writes stop and sheet of every stop used; the rest stands in the way down under it.
func (d *rollers) tableAtHand(s *Scene, in measure.System, row func(int) float64) {
	d.turn = 0
	for i, st := range d.stops {
		if d.used[i] > 0 {
			s.Named("m b", d.at[i], row(0)+1, st.Label)
			s.Text("m", d.at[i], row(1)+d.byTurns(38), SheetMM(in, d.out[i]))
		}
	}
}

// RollBar is the scale of the side view: a bar of so many mm, and what it is called.
func RollBar(p *plan.Plan) (mm float64, words string) {
	if _, by, _, turned := p.In().Turn(measure.MM); turned {
		return .2 / by, "0.2 " + p.In().Name(measure.MM)
	}
	return 5, "5 mm"
}

// SheetMM writes a thickness to a hundredth, ten and over to the whole, without its unit.
func SheetMM(in measure.System, mm float64) string {
	if mm >= 9.995 {
		return in.Bare(mm, measure.MM, 0)
	}
	return in.Bare(mm, measure.MM, 2)
}

// GapMM writes a gap to two figures, without its unit.
func GapMM(in measure.System, mm float64) string {
	if _, _, _, turned := in.Turn(measure.MM); turned {
		return in.Bare(mm, measure.MM, 2)
	}
	return fmt.Sprintf("%.2g", mm)
}

func rollTitle(p *plan.Plan) string {
	return fmt.Sprintf("Side view of the way down: from %s to %s in %s", p.In().MM(p.Roll.PressedMM, 0),
		p.In().MM(p.Roll.SheetMM, 2),
		measure.Plural(len(p.Roll.Passes), "pass", "passes"))
}
