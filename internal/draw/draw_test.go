package draw

import (
	"encoding/xml"
	"fmt"
	"io"
	"maps"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"hollen/internal/core/cut"
	"hollen/internal/core/doctor"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
)

func plans(t *testing.T) []*plan.Plan {
	t.Helper()
	var out []*plan.Plan
	for _, r := range demo.Batches() {
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		out = append(out, p)
	}
	return out
}

// rect is a drawn rectangle by class.
type rect struct{ x, y, w, h float64 }

func rects(t *testing.T, svg, class string) []rect {
	t.Helper()
	var out []rect
	re := regexp.MustCompile(`<rect class="` + class +
		`" x="([-\d.]+)" y="([-\d.]+)" width="([-\d.]+)" height="([-\d.]+)"`)
	for _, m := range re.FindAllStringSubmatch(svg, -1) {
		var v [4]float64
		for i := range v {
			var err error
			if v[i], err = strconv.ParseFloat(m[i+1], 64); err != nil {
				t.Fatal(err)
			}
		}
		out = append(out, rect{v[0], v[1], v[2], v[3]})
	}
	return out
}

func TestPicturesAreWellFormed(t *testing.T) {
	for _, p := range plans(t) {
		strip := p.Summary().Strip
		p.Request.Name = `<script>alert("x")</script>`
		all := map[string]string{}
		for name, of := range Pictures {
			for _, w := range []Width{Desk, Tablet, Hand} {
				if svg := of(p, w); svg != "" {
					all[fmt.Sprintf("%s, %.0f wide", name, w)] = svg
				}
			}
		}
		maps.Copy(all, map[string]string{"strip": Strip(&strip), "roll": RollSide(p, Desk),
			"sheet":  SheetAbove(p, &p.Cut.CutPart, Desk),
			"corner": Corner(p, &p.Cut.CutPart), "drying": (&Drying{Title: "a < b", Minutes: 40, MaxLoss: .14,
				Lines: []Line{{Name: "<as it lies>", Points: []Point{{0, 0}, {40, .1}}}, {Name: "", Points: []Point{{0,
					0}}}},
				Levels: []Level{{Loss: .03, Words: "cuts & more"}}, From: 5, To: 9, Window: "<5>"}).SVG(),
			"nests": Nests(&p.Cut.CutPart),
			"cut":   CutFile(p, &p.Cut.CutPart, "<m>"), "ladder": LadderFile(p, "]]>"),
			"track": (&Track{Title: "a < b", Minutes: 60, Lines: []Line{{Name: "x & y", Max: 1, Points: []Point{{0, 0},
				{60, 2}}}}, From: 20, To: 60,
				Window: "<right>", Limits: []Limit{{At: 30, Words: "<late>"}}, Steps: []Stretch{{To: 60,
					Words: "<rest> 60 min"}}}).SVG(),
			"steps": (&Steps{Title: "a < b", Parts: []Step{{"<x>", 3}, {"y", -1}}, Total: "<sum>", Band: [2]float64{1,
				2}}).SVG(),
			"ruler": (&Ruler{Title: "a < b", Max: 10, Step: 2, Bands: []Band{{From: 2, To: 4, Class: "dough"}},
				Marks: []Mark{{At: 3, Text: "3 & more"}}}).SVG()})
		for name, svg := range all {
			d := xml.NewDecoder(strings.NewReader(svg))
			for {
				_, err := d.Token()
				if err == io.EOF {
					break
				}
				if err != nil {
					t.Fatalf("%s of %s: %v", name, p.Request.Name, err)
				}
			}
			if strings.Contains(svg, "NaN") || strings.Contains(svg, "Inf") || strings.Contains(svg, "<script") {
				t.Errorf("%s: %.200s", name, svg)
			}
			if name != "strip" && !strings.Contains(svg, "<title>") {
				t.Errorf("%s has no title", name)
			}
		}
	}
}

// numbers reads every number of a text.
func numbers(t *testing.T, text string) (out []float64) {
	t.Helper()
	for _, m := range regexp.MustCompile(`-?[\d.]+`).FindAllString(text, -1) {
		v, err := strconv.ParseFloat(m, 64)
		if err != nil {
			t.Fatal(err)
		}
		out = append(out, v)
	}
	return out
}

// The sheet from above is true to scale: sheet, trims, ribbons and pieces from the same numbers.
func TestSheetIsToScale(t *testing.T) {
	for _, p := range plans(t) {
		for _, x := range p.Cut.Parts() {
			if len(x.Cutouts()) == 0 {
				continue
			}
			svg, c := SheetAbove(p, x, Desk), p.Cut
			k := SheetScale(c.SheetLengthMM, c.SheetWidthMM, Desk)
			whole := rects(t, svg, "trim")[0]
			same := func(what string, got, want float64) {
				t.Helper()
				if math.Abs(got-want) > .03 {
					t.Errorf("%s: %s is %.2f, want %.2f", p.Request.Name, what, got, want)
				}
			}
			same("length", whole.w, c.SheetLengthMM*k)
			same("width", whole.h, c.SheetWidthMM*k)
			if x.Shape.Family != cut.Ribbon {
				d := regexp.MustCompile(`class="dough" d="([^"]*)"`).FindStringSubmatch(svg)[1]
				pieces := strings.Split(strings.TrimPrefix(d, "M"), "M")
				if len(pieces) != x.PerSheet {
					t.Fatalf("%s: %d pieces drawn of %d", p.Request.Name, len(pieces), x.PerSheet)
				}
				for i, o := range x.Cutouts() {
					n := numbers(t, pieces[i])
					if o.Round {
						same("a round's left", n[0]-whole.x, o.X*k)
						same("a round's middle", n[1]-whole.y, (o.Y+o.H/2)*k)
						same("a round's radius", n[2], o.W/2*k)
					} else {
						same("a piece's left", n[0]-whole.x, o.X*k)
						same("a piece's length", n[2], o.W*k)
						same("a piece's width", n[3], o.H*k)
					}
				}
				continue
			}
			ribbons := rects(t, svg, "dough bare")[0]
			same("ribbons along", ribbons.w, float64(x.Along)*x.LengthMM*k)
			same("ribbons across", ribbons.h, float64(x.Across)*x.WidthMM*k)
			same("end trim", ribbons.x-whole.x, x.EndTrimMM*k)
			same("side trim", ribbons.y-whole.y, x.SideTrimMM*k)
			same("other end", whole.x+whole.w-ribbons.x-ribbons.w, x.EndTrimMM*k)
			lines := strings.Count(regexp.MustCompile(`class="dough-line(?: fine)?" d="([^"]*)"`).FindStringSubmatch(
				svg)[1], "M")
			if lines != x.Across+1 {
				t.Errorf("%s: %d lines for %d ribbons", p.Request.Name, lines, x.Across)
			}
		}
	}
}

// Every shape of the library is drawn, on every machine, and the piece from the side is as wide
// and as high as it is.
func TestEveryShapeIsDrawn(t *testing.T) {
	for _, m := range roll.Shipped() {
		for _, shape := range cut.Shipped() {
			r := request.Default()
			r.Cut.Shape, r.Roll.Machine = shape.Key, m.Key
			p, err := plan.Make(rules.Default(), r)
			if err != nil {
				t.Fatal(err)
			}
			x := &p.Cut.CutPart
			strip := p.Summary().Strip
			svg := Strip(&strip) + SheetAbove(p, x, Desk) + Nests(x) + CutFile(p, x, "") + LadderFile(p, "")
			if x.KnifeCuts > 0 {
				svg += RolledUp(p, x)
			}
			if x.Filling != nil {
				side := Section(p, x)
				svg += side
				n := numbers(t, regexp.MustCompile(`class="dough" d="([^"]*)"`).FindStringSubmatch(side)[1])
				if wide := n[2] - n[0]; math.Abs(wide-shape.WidthMM*SectionScale) > .03 {
					t.Errorf("%s is drawn %.2f wide", shape.Name, wide/SectionScale)
				}
			}
			if strings.Contains(svg, "NaN") || strings.Contains(svg, "Inf") || strings.Contains(svg, "<use") {
				t.Errorf("%s on %s: %.300s", shape.Name, m.Name, svg)
			}
		}
	}
}

// In the side view every gap between rollers and the sheet's ends are RollScale high a mm.
func TestRollSideIsToScale(t *testing.T) {
	circle := regexp.MustCompile(`<circle class="metal" cx="([\d.]+)" cy="([-\d.]+)" r="([\d.]+)"`)
	for _, p := range plans(t) {
		if len(p.Roll.Machine.Stops) == 0 {
			continue // a pin: see TestPinAboveIsToScale
		}
		svg := RollSide(p, Desk)
		var gaps []float64
		m := circle.FindAllStringSubmatch(svg, -1)
		for i := 0; i+1 < len(m); i += 2 {
			up, _ := strconv.ParseFloat(m[i][2], 64)
			down, _ := strconv.ParseFloat(m[i+1][2], 64)
			r, _ := strconv.ParseFloat(m[i][3], 64)
			gaps = append(gaps, (down-up-2*r)/RollScale)
		}
		used := p.Summary().Strip.StopsMM
		if len(gaps) != len(used) {
			t.Fatalf("%s: %d pairs of rollers for %d stops", p.Request.Name, len(gaps), len(used))
		}
		i := -1
		last := -1
		for _, x := range p.Roll.Passes {
			if x.Stop != last {
				i, last = i+1, x.Stop
				if math.Abs(gaps[i]-x.GapMM) > .01 {
					t.Errorf("%s stop %s: drawn %.2f mm, is %.2f", p.Request.Name, x.Label, gaps[i], x.GapMM)
				}
			}
		}
		ys := regexp.MustCompile(`class="dough" d="M[\d.]+ ([-\d.]+)L.* ([-\d.]+)Z"`).FindStringSubmatch(svg)
		up, _ := strconv.ParseFloat(ys[1], 64)
		down, _ := strconv.ParseFloat(ys[2], 64)
		if math.Abs((down-up)/RollScale-p.Roll.PressedMM) > .01 {
			t.Errorf("%s: the lump is drawn %.2f mm, is %.2f", p.Request.Name, (down-up)/RollScale, p.Roll.PressedMM)
		}
	}
}

func TestCurveIsLinear(t *testing.T) {
	c := Curve{Title: "falls", Points: []Point{{20, 30}, {55, 10}, {90, -10}}, Today: Point{55, 10}}
	svg := c.SVG()
	m := regexp.MustCompile(`class="curve" d="M([\d.]+) ([\d.]+)L([\d.]+) ([\d.]+)L([\d.]+) ([\d.]+)"`).FindStringSubmatch(svg)
	if m == nil {
		t.Fatal(svg)
	}
	var v [6]float64
	for i := range v {
		v[i], _ = strconv.ParseFloat(m[i+1], 64)
	}
	if math.Abs(v[2]-(v[0]+v[4])/2) > .02 || math.Abs(v[3]-(v[1]+v[5])/2) > .02 || v[1] >= v[5] {
		t.Errorf("not a straight fall: %v", v)
	}
	if !strings.Contains(svg, `<circle class="yolk" cx="`+num(v[2])+`" cy="`+num(v[3])+`"`) {
		t.Error("today's point is not on the line")
	}
}

func TestRulerIsLinear(t *testing.T) {
	r := Ruler{Min: 20, Max: 60}
	if mid := r.x(40); math.Abs(mid-(r.x(20)+r.x(60))/2) > 1e-9 || r.x(10) != r.x(20) || r.x(99) != r.x(60) {
		t.Errorf("%v %v %v", r.x(20), mid, r.x(60))
	}
}

// The board, the sheet and its measure are to one scale, for a disc and a rectangle.
func TestPinAboveIsToScale(t *testing.T) {
	for _, o := range []roll.Outline{roll.Disc, roll.Rectangle} {
		r := request.Default()
		r.Roll.Machine, r.Roll.Outline = "pin-board", o
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		svg := PinAbove(p, Desk)
		board := rects(t, svg, "ground")[0]
		k := board.w / p.Roll.Machine.BoardLengthMM
		if math.Abs(board.h/k-p.Roll.Machine.BoardWidthMM) > .5 {
			t.Errorf("the board is %.0f by %.0f", board.w/k, board.h/k)
		}
		long := 0.
		if o == roll.Disc {
			m := regexp.MustCompile(`<circle class="dough" [^>]*r="([\d.]+)"`).FindStringSubmatch(svg)
			if m == nil {
				t.Fatal("no disc")
			}
			radius, _ := strconv.ParseFloat(m[1], 64)
			long = 2 * radius / k
		} else {
			sheet := rects(t, svg, "dough")[0]
			long = sheet.w / k
			if area := sheet.w * sheet.h / k / k; math.Abs(
				area*p.Roll.SheetMM*p.Formula.Dough.DensityGPerML/1000/p.Roll.RolledG-1) > .02 {
				t.Errorf("the sheet weighs %.0f g, %.0f are rolled",
					area*p.Roll.SheetMM*p.Formula.Dough.DensityGPerML/1000, p.Roll.RolledG)
			}
		}
		if math.Abs(long-p.Roll.LengthMM) > 1 {
			t.Errorf("%s: %.0f mm drawn, %.0f planned", o, long, p.Roll.LengthMM)
		}
	}
}

// A pattern is drawn as wide as it is laid, as the joining leaves it, and as it is after the last pass: every
// colour, mirrored or not, along and across.
func TestPatternsAreToScale(t *testing.T) {
	p, err := plan.Make(rules.Default(), request.Default())
	if err != nil {
		t.Fatal(err)
	}
	rects := func(svg, colour string) (w, h []float64) {
		for _, m := range regexp.MustCompile(`style="fill:`+colour+`" x="[\d.]+" y="[\d.]+" width="([\d.]+)" height="([\d.]+)"`).FindAllStringSubmatch(svg, -1) {
			a, _ := strconv.ParseFloat(m[1], 64)
			b, _ := strconv.ParseFloat(m[2], 64)
			w, h = append(w, a), append(h, b)
		}
		return w, h
	}
	const other, third = "#aabbcc", "#112233"
	of := func(st roll.Stripes) (Pattern, string) {
		t.Helper()
		p.Request.Roll.Stripes = st
		j, err := p.Join()
		if err != nil {
			t.Fatal(err)
		}
		d := Pattern{Laid: st, Joined: j, FinalMM: p.Roll.SheetMM, WideMM: 140, Colours: map[roll.Colour]string{
			roll.OtherDough: other, roll.ThirdColour: third}}
		return d, d.SVG()
	}
	st := roll.Stripes{BaseMM: 1.8, StripeMM: .5, WidthMM: 20, PitchMM: 50}
	d, svg := of(st)
	w, _ := rects(svg, other)
	n := len(w) / 3
	if on := d.Joined.SheetMM / d.FinalMM; n < 2 || math.Abs(w[n]/w[0]-d.Joined.Stripe) > .02 ||
		math.Abs(w[2*n]/w[n]-on) > .02 {
		t.Errorf("%v, joined %+v, then %.2f", w, d.Joined, on)
	}
	// Three colours, unequal, mirrored: forth and back.
	st.Strips = []roll.Strip{{Colour: roll.OtherDough, WidthMM: 20, GapMM: 10}, {Colour: roll.ThirdColour, WidthMM: 5,
		GapMM: 15}}
	st.Mirror, st.Third = true, "beet-powder"
	_, svg = of(st)
	w, _ = rects(svg, other)
	x, _ := rects(svg, third)
	if len(w) != len(x) || math.Abs(w[0]/x[0]-4) > .01 {
		t.Errorf("%v and %v", w, x)
	}
	// A lattice is drawn both ways; along it the widths are those laid, in every row.
	st = roll.Stripes{BaseMM: 1.8, StripeMM: .2, WidthMM: 6, PitchMM: 30, Lay: roll.LaidLattice}
	_, svg = of(st)
	_, h := rects(svg, other)
	thin, high := slices.Min(h), slices.Max(h)
	if len(h) < 12 || math.Abs(thin/high-6/140.) > .003 {
		t.Errorf("%.2f of %.2f", thin, high)
	}
}

// Every family of shapes is drawn on the strip.
func TestEveryFamilyIsDrawn(t *testing.T) {
	for _, f := range cut.Families() {
		if stripEnds[f] == nil {
			t.Errorf("%s is not drawn", f)
		}
	}
	if len(stripEnds) != len(cut.Families()) {
		t.Errorf("%d drawn, %d families", len(stripEnds), len(cut.Families()))
	}
}

// A day is drawn to scale, every bar where its minutes are, and whatever stands in a name stays text.
func TestDayToScale(t *testing.T) {
	d := Day{Title: "A day", From: 480, To: 840, Now: 600, NowWords: "10:00", Lanes: []DayLane{{Name: `<b>&"`,
		Own: true, Bars: []DayBar{
			{From: 500, To: 540, Letter: "A", Words: "roll, pieces 1 to 3", Says: `A <"&>`, Task: "1.roll.1",
				CleanBefore: 10}, {From: 520, To: 560, Letter: "B"}}}},
		Flags: []DayFlag{{At: 700, Words: "11:40 a"}, {At: 705, Words: "11:45 b", Late: true}, {At: 839,
			Words: "13:59 c"}}}
	svg := d.SVG()
	if err := xml.Unmarshal([]byte(svg), new(struct{})); err != nil {
		t.Fatalf("%v\n%s", err, svg)
	}
	k := d.scale()
	for _, want := range []string{fmt.Sprintf(`x="%s"`, num(dayLabel+20*k)), fmt.Sprintf(`width="%s"`, num(40*k)),
		fmt.Sprintf("M%s",
			num(dayLabel+120*k)), "is-late"} {
		if !strings.Contains(svg, want) {
			t.Errorf("no %s in the picture", want)
		}
	}
	if n := len(rows(d.Lanes[0].Bars)); n != 2 {
		t.Errorf("two at once in %d rows", n)
	}
	if flags, _ := d.placed(func(m float64) float64 { return m }); flags[0].top == flags[1].top ||
		flags[2].left >= 839 {
		t.Errorf("flags over each other: %+v", flags)
	}
}

// Every sign has a drawing of its own.
func TestSignsDiffer(t *testing.T) {
	seen := map[string]string{}
	for _, s := range doctor.Signs() {
		if Sign(s.Look) == "" {
			t.Errorf("%s has no drawing", s.Name)
		}
		if other, twice := seen[s.Look]; twice {
			t.Errorf("%s looks as %s", s.Name, other)
		}
		seen[s.Look] = s.Name
	}
}
