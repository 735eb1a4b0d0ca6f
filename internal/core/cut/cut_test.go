package cut

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"math"
	"math/rand"
	"slices"
	"testing"

	"hollen/internal/core/rules"
)

var house = rules.Default().Cut

// bruteAlong looks for the best division of a length by trying every count.
func bruteAlong(use, a, b, c float64) (int, float64) {
	best, n := math.Inf(1), 0
	for k := 1; float64(k)*a <= use+1e-6; k++ {
		if each := use / float64(k); each <= b+1e-9 && math.Abs(each-c) < best-1e-9 {
			best, n = math.Abs(each-c), k
		}
	}
	if n > 0 {
		return n, use / float64(n)
	}
	for k := 1; float64(k)*a <= use+1e-6; k++ {
		n = k
	}
	if n == 0 {
		return 0, 0
	}
	return n, b
}

func TestAlongEqualsBruteForce(t *testing.T) {
	rnd := rand.New(rand.NewSource(1))
	for range 20000 {
		use, a := 50+rnd.Float64()*2500, 100+rnd.Float64()*300
		b := a + rnd.Float64()*200
		c := a + rnd.Float64()*(b-a)
		n, each := Along(use, a, b, c)
		wn, weach := bruteAlong(use, a, b, c)
		if n != wn || math.Abs(each-weach) > 1e-6 {
			t.Fatalf("%v in %v–%v (%v): %d × %v, want %d × %v", use, a, b, c, n, each, wn, weach)
		}
	}
}

// lies checks that what is cut lies on the sheet, within the trims, apart from each other,
// and that its area and the trimmings make up the sheet.
func lies(t *testing.T, s Sheets, o *Layout, gap, perPiece float64) {
	t.Helper()
	cut := o.Cutouts()
	if len(cut) != o.PerSheet {
		t.Fatalf("%d drawn, %d counted: %+v", len(cut), o.PerSheet, o)
	}
	area := 0.
	for i, a := range cut {
		const eps = 1e-6
		area += a.Area()
		if a.X < house.TrimEndMM-eps || a.Y < house.TrimSideMM-eps || a.X+a.W > s.LengthMM-house.TrimEndMM+eps ||
			a.Y+a.H > s.WidthMM-house.TrimSideMM+eps {
			t.Fatalf("%+v is off the sheet %+v", a, s)
		}
		for _, b := range cut[:i] {
			apart := max(a.X-b.X-b.W, b.X-a.X-a.W, a.Y-b.Y-b.H, b.Y-a.Y-a.H) // of the boxes
			if a.Round {
				apart = math.Hypot(a.X-b.X, a.Y-b.Y) - a.W
			}
			if apart < gap-eps {
				t.Fatalf("%+v and %+v are %v apart, not %v", a, b, apart, gap)
			}
		}
	}
	if perPiece == 1 && s.Count > 0 { // every sheet alike
		trim := o.TrimG / (float64(s.Count) * s.MassG) * s.LengthMM * s.WidthMM
		if all := s.LengthMM * s.WidthMM; math.Abs(area+trim-all) > .001*all {
			t.Fatalf("areas: %v + %v of %v", area, trim, all)
		}
	}
	if math.Abs(o.DoughG+o.TrimG-float64(s.Count)*s.MassG) > 1e-6 || o.TrimG < -1e-9 {
		t.Fatalf("masses: %v + %v of %v", o.DoughG, o.TrimG, float64(s.Count)*s.MassG)
	}
}

func randomSheets(rnd *rand.Rand) Sheets {
	return Sheets{Count: 1 + rnd.Intn(12), LengthMM: 100 + rnd.Float64()*1100, WidthMM: 60 + rnd.Float64()*250,
		MassG: 20 + rnd.Float64()*300}
}

func TestRibbonsLie(t *testing.T) {
	rnd := rand.New(rand.NewSource(2))
	for range 1000 {
		s := randomSheets(rnd)
		c := RibbonCut{Tool: Knife, WidthMM: 2 + rnd.Float64()*30, MinMM: 250, MaxMM: 350, NestG: 110, FoldMM: 40 +
			rnd.Float64()*60}
		use := s.WidthMM - 2*house.TrimSideMM
		if rnd.Intn(2) == 0 {
			c.Tool, c.CutterMM = Cutter, 60+rnd.Float64()*150
			use = min(use, c.CutterMM)
		}
		o := Ribbons(house, s, c)
		across := 0
		for x := c.WidthMM; x <= use+1e-9; x += c.WidthMM {
			across++
		}
		along, _ := bruteAlong(s.LengthMM-2*house.TrimEndMM, 250, 350, 300)
		if o.PerSheet != across*along {
			t.Fatalf("%+v %+v: %d, counted %d × %d", s, c, o.PerSheet, across, along)
		}
		lies(t, s, &o, 0, 1)
		if o.Count == 0 {
			continue
		}
		if o.Nests*o.PerNest+o.LastNest != o.Count || math.Abs(o.NestG-110) > o.OneG/2+1e-9 && o.PerNest > 1 {
			t.Fatalf("nests: %+v", o)
		}
		if c.Tool == Knife && (o.KnifeCuts != o.Across+1 || float64(o.Layers)*c.FoldMM < o.LengthMM-1e-6 ||
			float64(o.Layers-1)*c.FoldMM >= o.LengthMM ||
			o.Strokes != o.KnifeCuts*o.Along*s.Count) {
			t.Fatalf("knife: %+v", o)
		}
	}
	if o := Ribbons(house, Sheets{2, 200, 140, 30}, RibbonCut{Tool: Knife, WidthMM: 7, MinMM: 250, MaxMM: 350,
		NestG: 110, FoldMM: 60}); o.Count != 0 ||
		o.TrimG != 60 {
		t.Errorf("a sheet too short: %+v", o)
	}
}

// count lays rounds row by row, each row straight below the last or nested in it, by every
// number of nested rows and in any order of the two: an independent count.
func count(l, w, d, gap float64) int {
	p := d + gap
	row := func(shift float64) (n int) {
		for x := shift; x+d <= l+1e-9; x += p {
			n++
		}
		return n
	}
	full, shifted := row(0), row(p/2)
	var best int
	var lay func(y float64, off bool, n int)
	seen := map[[2]int]bool{}
	lay = func(y float64, off bool, n int) {
		key := [2]int{int(math.Round(y * 1e3)), n << 1}
		if off {
			key[1]++
		}
		if seen[key] || y+d > w+1e-9 {
			return
		}
		seen[key] = true
		if off {
			n += shifted
		} else {
			n += full
		}
		best = max(best, n)
		lay(y+p, off, n)
		lay(y+p*math.Sqrt(3)/2, !off, n)
	}
	lay(0, false, 0)
	return best
}

func TestPackingIsTheBest(t *testing.T) {
	rnd := rand.New(rand.NewSource(3))
	for range 1500 {
		s := randomSheets(rnd)
		c := PieceCut{Outline: Round, Tool: Ring, WidthMM: 25 + rnd.Float64()*70}
		useL, useW := s.usable(house)
		want := max(count(useL, useW, c.WidthMM, house.RingGapMM), count(useW, useL, c.WidthMM, house.RingGapMM))
		o := Pieces(house, s, c)
		if o.PerSheet != want {
			t.Fatalf("%g × %g, rounds of %g: %d, want %d", useL, useW, c.WidthMM, o.PerSheet, want)
		}
		lies(t, s, &o, house.RingGapMM, 1)
		grid := c
		grid.Pattern = Grid
		if g := Pieces(house, s, grid); g.PerSheet > o.PerSheet || o.Count > 0 && g.Pattern == Staggered {
			t.Fatalf("a grid of %d beats %d", g.PerSheet, o.PerSheet)
		}
	}
}

func TestRectanglesLie(t *testing.T) {
	rnd := rand.New(rand.NewSource(4))
	for range 1500 {
		s := randomSheets(rnd)
		c := PieceCut{Outline: Rectangle, Tool: []Tool{Knife, Wheel}[rnd.Intn(2)], WidthMM: 20 + rnd.Float64()*60}
		c.LongMM = c.WidthMM * (1 + rnd.Float64())
		c.Close = []Close{"", FoldedSheet, TwoSheets, FoldedPiece}[rnd.Intn(4)]
		gap := c.Tool.gap(house)
		a, b := c.LongMM, c.WidthMM
		if c.Close == FoldedSheet {
			b *= 2
		}
		steps := func(l, a float64) (n int) {
			for x := 0.; x+a <= l+1e-9; x += a + gap {
				n++
			}
			return n
		}
		sheet := func(l, w float64) int {
			l, w = l-2*house.TrimEndMM, w-2*house.TrimSideMM
			return max(steps(l, a)*steps(w, b), steps(l, b)*steps(w, a))
		}
		o := Pieces(house, s, c)
		want, per := sheet(s.LengthMM, s.WidthMM)*s.Count, 1.
		if c.Close == TwoSheets {
			want, per = sheet(s.LengthMM, s.WidthMM)*(s.Count/2)+s.Count%2*sheet(s.LengthMM/2, s.WidthMM), 2
		}
		if o.Count != want {
			t.Fatalf("%+v %+v: %d, want %d", s, c, o.Count, want)
		}
		if o.PerSheet > 0 && o.Count > 0 {
			lies(t, s, &o, gap, per)
		}
		o.Fill(house, c, .7, nil, 0, 0)
		if math.Abs(o.MadeG-o.DoughG-o.Filling.PieceG*float64(o.Count)) > 1e-6 || o.Filling.TotalG < o.FillG {
			t.Fatalf("filling: %+v", o.Filling)
		}
	}
}

func TestFillingByTheTable(t *testing.T) {
	for _, c := range []struct {
		PieceCut
		want float64
	}{
		{PieceCut{Outline: Rectangle, Close: TwoSheets, WidthMM: 50}, 6.55},
		{PieceCut{Outline: Rectangle, Close: FoldedSheet, WidthMM: 36}, 2.35},
		{PieceCut{Outline: Rectangle, Close: FoldedPiece, WidthMM: 36}, 2.35 / 2},
		{PieceCut{Outline: Rectangle, Close: FoldedPiece, WidthMM: 48}, .63 * 32 * 32 / 2 * 8.64 / 1000},
		{PieceCut{Outline: Round, Close: FoldedPiece, WidthMM: 80}, .63 * math.Pi * 32 * 32 / 2 * 10 / 1000},
		{PieceCut{Outline: Round, Close: TwoSheets, WidthMM: 60}, .63 * math.Pi * 22 * 22 * 10 / 1000},
	} {
		if g, _ := FillG(house, c.PieceCut); math.Abs(g-c.want) > .01 {
			t.Errorf("%+v: %.3f g, want %.3f", c.PieceCut, g, c.want)
		}
	}
}

func TestFormedAddUp(t *testing.T) {
	o := FormPieces(house, 500, 1.2, 1.4, 12, 20)
	if o.Count != 357 || math.Abs(o.DoughG+o.TrimG-500) > 1e-9 || math.Abs(o.Rope.LengthM-500/1.2/(math.Pi*36)) > 1e-6 {
		t.Errorf("%+v %+v", o, o.Rope)
	}
	if slice := o.Rope.SliceMM * float64(o.Count) / 1000; slice > o.Rope.LengthM || slice < .99*o.Rope.LengthM {
		t.Errorf("%d slices take %v m of %v", o.Count, slice, o.Rope.LengthM)
	}
}

// Every gram of trimmings ends in shapes or is left over, and no piece takes more than a fifth.
func TestWorkBackKeepsMass(t *testing.T) {
	rnd := rand.New(rand.NewSource(5))
	for range 500 {
		n, g, trim := 1+rnd.Intn(20), 50+rnd.Float64()*300, rnd.Float64()*.6
		b := WorkBack(house, n, g, trim)
		shapes := float64(n)*g*(1-trim) + b.MoreG
		if math.Abs(shapes+b.LeftG-float64(n)*g) > 1e-6 || b.BackG > float64(n-1)*house.BackShare*g+1e-9 {
			t.Fatalf("%d × %g, %g: %+v", n, g, trim, b)
		}
	}
	if b := WorkBack(house, 2, 100, .1); math.Abs(b.BackG-10) > 1e-9 || math.Abs(b.LeftG-11) > 1e-9 {
		t.Errorf("%+v", b)
	}
}

func TestShareIsTheBest(t *testing.T) {
	rnd := rand.New(rand.NewSource(6))
	for range 400 {
		n, k := rnd.Intn(14), 2+rnd.Intn(3)
		want, per := make([]float64, k), make([]float64, k)
		for i := range want {
			want[i], per[i] = 50+rnd.Float64()*900, 60+rnd.Float64()*200
		}
		pairs := rnd.Intn(k)
		yield := func(i, m int) float64 {
			if i == pairs {
				m -= m % 2
			}
			return per[i] * float64(m)
		}
		at := Share(n, want, yield)
		worth := func(at []int) (worst, off float64) {
			for i := range at {
				worst = max(worst, 1-yield(i, at[i])/want[i])
				off += math.Abs(yield(i, at[i]) - want[i])
			}
			return worst, off
		}
		worst, off := worth(at)
		sum := 0
		for _, m := range at {
			sum += m
		}
		var look func(at []int, left int)
		look = func(at []int, left int) {
			if len(at) == k-1 {
				if w, o := worth(append(at, left)); w < worst-1e-9 || math.Abs(w-worst) < 1e-9 && o < off-1e-6 {
					t.Fatalf("%d sheets for %v: %v is better than %v", n, want, append(at, left), worst)
				}
				return
			}
			for m := 0; m <= left; m++ {
				look(append(at[:len(at):len(at)], m), left-m)
			}
		}
		if look(nil, n); sum != n {
			t.Fatalf("%v shares %d", at, n)
		}
	}
	// Too many ways to look at each: still all shared out, and near.
	want := []float64{9000, 5000, 3000, 1500}
	at := Share(150, want, func(k, m int) float64 { return float64(m) * 123 })
	for i, m := range at {
		if math.Abs(float64(m)*123/want[i]-1) > .15 {
			t.Errorf("%v for %v", at, want)
		}
	}
}

func TestLibraryIsSound(t *testing.T) {
	keys := map[string]bool{}
	for _, s := range Shipped() {
		if err := s.Check(); err != nil || keys[s.Key] || s.Sauce == "" || s.Dough == "" {
			t.Errorf("%s: %v", s.Key, err)
		}
		keys[s.Key] = true
	}
	for name, spoil := range map[string]func(*Shape){
		"no name": func(s *Shape) { s.Name = "" }, "two lines": func(s *Shape) { s.Name = "a\nb" },
		"not a number": func(s *Shape) { s.WidthMM = math.NaN() },
		"family":       func(s *Shape) { s.Family = "soup" }, "tool": func(s *Shape) { s.Tool = Ring },
		"lengths": func(s *Shape) { s.MaxLengthMM = 100 },
		"purpose": func(s *Shape) { s.Purpose = "" },
	} {
		s, _ := Find("tagliatelle")
		if spoil(&s); s.Check() == nil {
			t.Errorf("%s passes", name)
		}
	}
}

// Every family has its row and every part of it, and takes some shape that ships.
func TestEveryFamilyHasItsRow(t *testing.T) {
	file, err := parser.ParseFile(token.NewFileSet(), "families.go", nil, 0)
	if err != nil {
		t.Fatal(err)
	}
	named := 0
	ast.Inspect(file, func(n ast.Node) bool {
		if c, ok := n.(*ast.ValueSpec); ok && c.Type != nil && fmt.Sprint(c.Type) == "Family" {
			named++
		}
		return true
	})
	if named != len(families) {
		t.Errorf("%d families, %d rows", named, len(families))
	}
	for _, row := range families {
		if row.Name == "" || row.One == "" || row.Many == "" || row.CutHead == "" || row.check == nil ||
			len(row.Reads) == 0 && !row.Sheets {
			t.Errorf("%s: %+v", row.Family, row)
		}
		if !slices.ContainsFunc(Shipped(), func(s Shape) bool { return s.Family == row.Family && s.Check() == nil }) {
			t.Errorf("no shape of %s", row.Family)
		}
	}
}
