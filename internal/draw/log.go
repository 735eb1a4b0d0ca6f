package draw

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/measure"
)

// Dot is one making on a chart of the log.
type Dot struct {
	At     time.Time
	X      float64 // what it is drawn over, where that is not time
	Y      float64
	Of     string // which flour, by its name
	Hollow bool   // it hardly counts
}

// mostKinds is how many flours a chart tells apart; the rest are alike.
const mostKinds = 6

// kindsOf are the flours of dots by how many they have, the most first.
func kindsOf(dots []Dot) (out []string) {
	n := map[string]int{}
	for _, d := range dots {
		if n[d.Of]++; n[d.Of] == 1 {
			out = append(out, d.Of)
		}
	}
	slices.SortStableFunc(out, func(a, b string) int { return n[b] - n[a] })
	if len(out) > mostKinds {
		out = append(out[:mostKinds-1], "others")
	}
	return out
}

// spot draws a dot of the k-th flour: each has a form as well as a colour.
func spot(s *Scene, k int, hollow bool, x, y float64) {
	class := fmt.Sprintf("kind k%d", k)
	if hollow {
		class += " hollow"
	}
	const r = 5.
	switch k {
	case 0:
		s.Circle(class, x, y, r)
	case 1:
		s.Rect(class, x-r+.6, y-r+.6, 2*r-1.2, 2*r-1.2)
	case 2:
		s.Path(class, fmt.Sprintf("M%s %sl6.2 10.6h-12.4z", num(x), num(y-6.6)))
	case 3:
		s.Path(class, fmt.Sprintf("M%s %sl6.4 6.4 -6.4 6.4 -6.4 -6.4z", num(x), num(y-6.4)))
	case 4:
		s.Path(class, fmt.Sprintf("M%s %sl-6.2 -10.6h12.4z", num(x), num(y+6.6)))
	default:
		s.Path(class, fmt.Sprintf("M%s %sv3.4h3.4v3.2h-3.4v3.4h-3.2v-3.4h-3.4v-3.2h3.4v-3.4z", num(x+1.6), num(y-5)))
	}
}

// running is the median of the dots round each, in their order over x.
func running(dots []Dot, over func(d *Dot) float64) (out []Dot) {
	const round = 4
	all := slices.Clone(dots)
	slices.SortStableFunc(all, func(a, b Dot) int { return cmp.Compare(over(&a), over(&b)) })
	for i := range all {
		part := slices.Clone(all[max(0, i-round):min(len(all), i+round+1)])
		slices.SortFunc(part, func(a, b Dot) int { return cmp.Compare(a.Y, b.Y) })
		d := all[i]
		d.Y = part[len(part)/2].Y
		out = append(out, d)
	}
	return out
}

// Log draws one figure of the log over time, to scale: makings as small dots, each flour with a form and a colour of
// its own, their running median as a line, the plan's expectation as a thin line at want, what is learned by now as a
// short bracket from low to high at the right; none where they are the same. Empty for no dots.
func Log(title, unit string, dots []Dot, want float64, wantWord string, low, high float64, width Width) string {
	if len(dots) == 0 {
		return ""
	}
	from, to := dots[0].At, dots[0].At
	for _, d := range dots {
		if d.At.Before(from) {
			from = d.At
		}
		if d.At.After(to) {
			to = d.At
		}
	}
	over := ruled{from: 0, to: math.Max(to.Sub(from).Hours(), 24), of: func(d *Dot) float64 {
		return d.At.Sub(
			from).Hours()
	}}
	for _, t := range months(from, to, marksIn(width)) {
		over.marks = append(over.marks, mark{t.Sub(from).Hours(), t.Format("2 Jan")})
	}
	return chart(title, unit, dots, over, want, wantWord, [2]float64{low, high}, width)
}

// LogOver draws the same over another figure of each making, X.
func LogOver(title, unit string, dots []Dot, xUnit string, want float64, wantWord string, width Width) string {
	if len(dots) == 0 {
		return ""
	}
	over := ruled{from: math.Inf(1), to: math.Inf(-1), of: func(d *Dot) float64 { return d.X }, name: xUnit}
	for _, d := range dots {
		over.from, over.to = math.Min(over.from, d.X), math.Max(over.to, d.X)
	}
	step := niceStep(math.Max(over.to-over.from, 1e-6), float64(marksIn(width)))
	over.from, over.to = step*math.Floor(over.from/step), step*math.Ceil(over.to/step+1e-9)
	if over.to <= over.from {
		over.to = over.from + step
	}
	for v := over.from; v <= over.to+1e-9; v += step {
		over.marks = append(over.marks, mark{v, axis(v)})
	}
	return chart(title, unit, dots, over, want, wantWord, [2]float64{want, want}, width)
}

// mark is a value written under a chart.
type mark struct {
	v     float64
	words string
}

// ruled is what a chart runs over.
type ruled struct {
	from, to float64
	of       func(d *Dot) float64
	marks    []mark
	name     string
}

// marksIn is how many values stand under a chart of that width, about.
func marksIn(width Width) int {
	if width.hand() {
		return 3
	}
	return 6
}

// chart draws dots over what they run over; within is the bracket at the right, none where both are the same.
func chart(title, unit string, dots []Dot, over ruled, want float64, wantWord string, within [2]float64,
	width Width) string {
	const (
		top    = 32.
		bottom = 206.
		few    = 8 // dots, of which no line is drawn
	)
	left, right := 60., width.units()-46
	if width.hand() {
		left = 34
		right = width.units() - 4
	}
	low, high := within[0], within[1]
	least, most := math.Min(want, low), math.Max(want, high)
	for _, d := range dots {
		least, most = math.Min(least, d.Y), math.Max(most, d.Y)
	}
	step := niceStep(most-least, 5)
	none := least >= 0 // of a figure that is never under nought
	least, most = step*math.Floor(least/step-.2), step*math.Ceil(most/step+.2)
	if none {
		least = max(least, 0)
	}
	x := func(v float64) float64 { return left + 20 + (v-over.from)/(over.to-over.from)*(right-left-50) }
	y := func(v float64) float64 { return bottom - (v-least)/(most-least)*(bottom-top) }
	s := &Scene{
		Title: title + ": " + measure.Plural(len(dots), "making", "makings"),
		W:     width.units(),
		H:     bottom + 62,
		Class: "scale-down",
	}
	for v := least; v <= most+1e-9; v += step {
		s.Path("hair", fmt.Sprintf("M%s %sH%s", num(left), num(y(v)), num(right)))
		s.Text("e q", left-8, y(v)+4, axis(v))
	}
	s.Path("ink", fmt.Sprintf("M%s %sH%s", num(left), num(y(want)), num(right)))
	if !width.hand() {
		s.Text("e q", right+46, y(want)+4, wantWord)
	}
	kinds := kindsOf(dots)
	for i := range dots {
		d := &dots[i]
		k := slices.Index(kinds, d.Of)
		if k < 0 {
			k = len(kinds) - 1
		}
		spot(s, k, d.Hollow, x(over.of(d)), y(d.Y))
	}
	if len(dots) >= few {
		line := ""
		for i, d := range running(dots, over.of) {
			line += map[bool]string{true: "M", false: "L"}[i == 0] + num(x(over.of(&d))) + " " + num(y(d.Y))
		}
		s.Path("median", line)
	}
	if high > low {
		at := right - 8
		s.Path("ink", fmt.Sprintf("M%s %sh8V%sh-8", num(at), num(y(high)), num(y(low))))
	}
	for _, m := range over.marks {
		s.Path("ink", fmt.Sprintf("M%s %sv6", num(x(m.v)), num(bottom)))
		s.Text("m q", x(m.v), bottom+22, m.words)
	}
	s.Text("q", 0, 14, unit)
	if over.name != "" {
		s.Text("e q", right, bottom+40, over.name)
	}
	s.keyTo(kinds, wantWord, len(dots) >= few, [2]float64{left, right}, bottom+48, width, over.name != "")
	return s.SVG()
}

// keyTo writes what the dots and lines of a chart are, under it from y on, in as many lines as it needs between two
// edges; named says that the axis has a name there.
func (s *Scene) keyTo(kinds []string, wantWord string, median bool, edges [2]float64, y float64, width Width,
	named bool) {
	const line = 19.
	left, right := edges[0], edges[1]
	at := left
	if named && width.hand() {
		y += line
	}
	entry := func(words string, sign, room float64) (x float64) {
		wide := sign + 7.2*float64(len([]rune(words))) + room
		if at > left && at+wide > right+room {
			at = left
			y += line
		}
		x = at
		at += wide
		return x
	}
	for k, name := range kinds {
		if name == "" {
			continue
		}
		x := entry(name, 16, 24)
		spot(s, k, false, x+5, y)
		s.Named("q", x+16, y+5, name)
	}
	stroke := func(class, words string, room float64) {
		x := entry(words, 28, room)
		s.Path(class, fmt.Sprintf("M%s %sh22", num(x), num(y)))
		s.Text("q", x+28, y+5, words)
	}
	if wantWord != "" && width.hand() {
		stroke("ink", wantWord, 24)
	}
	if median {
		stroke("median", "the middle of nine", 0)
	}
	s.H = y + 14
}

// axis is a value of an axis, no finer than it is.
func axis(v float64) string {
	if math.Abs(v) < 1e-9 {
		return "0"
	}
	return strings.Replace(num(v), "-", "−", 1)
}

// niceStep is a step of 1, 2 or 5 times a power of ten that divides a span about n times.
func niceStep(span float64, n float64) float64 {
	raw := math.Max(span, 1e-6) / n
	ten := math.Pow(10, math.Floor(math.Log10(raw)))
	for _, m := range []float64{1, 2, 5} {
		if m*ten >= raw {
			return m * ten
		}
	}
	return 10 * ten
}

// months are days to write under a chart: so many steps of them, evenly.
func months(from, to time.Time, most int) (out []time.Time) {
	days := to.Sub(from).Hours() / 24
	if days < 1 {
		return []time.Time{from}
	}
	n := int(math.Min(float64(most), math.Max(1, math.Floor(days))))
	for i := range n + 1 {
		out = append(out, from.Add(time.Duration(float64(i)*days*24/float64(n))*time.Hour))
	}
	return out
}

// Factor is what is learned of one thing against the book: 1 is as the book has it, From to To nine times in ten.
type Factor struct {
	Name         string
	By, From, To float64
	N            int // makings behind it
}

// Factors draws what is learned as bars, to one scale in per cent of the book: the range, a mark at the middle, and how
// many makings stand behind it. Empty for none.
func Factors(all []Factor, width Width) string {
	if len(all) == 0 {
		return ""
	}
	const top = 30.
	left, right := 330., width.units()-76
	row, words := 34., 0.
	if width.hand() { // the name stands over its bar
		left, right = 20, width.units()-20
		row, words = 52, 18
	}
	least, most := 1., 1.
	for _, f := range all {
		least, most = min(least, f.From, f.By), max(most, f.To, f.By)
	}
	step := niceStep(100*(most-least), 6)
	lo, hi := step*math.Floor(100*least/step), step*math.Ceil(100*most/step)
	x := func(share float64) float64 { return left + (100*share-lo)/(hi-lo)*(right-left) }
	high := row * float64(len(all))
	s := &Scene{Title: "Minutes and hands, in per cent of the book’s", W: width.units(),
		H: top + high + 10, Class: "scale-down"}
	upright := func(class string, x float64) {
		if words == 0 {
			s.Path(class, fmt.Sprintf("M%s %sv%s", num(x), num(top), num(high)))
			return
		}
		for i := range all { // beside its bar alone: it crosses no name
			s.Path(class, fmt.Sprintf("M%s %sv%s", num(x), num(top+row*float64(i)+26), num(row-28)))
		}
	}
	for v := lo; v <= hi+1e-9; v += step {
		upright("hair", x(v/100))
		s.Text("m q", x(v/100), top-8, axis(v)+" %")
	}
	upright("ink", x(1))
	for i, f := range all {
		y := top + row*(float64(i)+.5)
		s.Named("", 0, y+5-words, clip(f.Name, 42))
		s.Rect("range", x(f.From), y-5+words/2, max(x(f.To)-x(f.From), 2), 10)
		s.Rect("dough", x(f.By)-4, y-9+words/2, 8, 18)
		s.Text("e q", s.W, y+5-words, fmt.Sprintf("from %d", f.N))
	}
	return s.SVG()
}
