package draw

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
)

// RollScale is the picture units a millimetre of gap or sheet takes in RollSide.
const RollScale = 5.

// RollSide draws the way down from the side: the sheet between the rollers of every stop
// used, heights to one scale, stops not used as outlines. Along the bench it is not to scale.
// Of a pin it draws the board.
func RollSide(p *plan.Plan) string {
	const width, left, right = 926., 92., 58.
	o := &p.Roll
	stops := o.Machine.Stops
	if len(stops) == 0 {
		return PinAbove(p)
	}
	used := map[int]int{} // stop -> passes
	in, out := map[int]float64{}, map[int]float64{}
	for _, x := range o.Passes {
		if used[x.Stop] == 0 {
			in[x.Stop] = x.InMM
		}
		used[x.Stop]++
		out[x.Stop] = x.OutMM
	}
	weights, sum := make([]float64, len(stops)), 0.
	for i := range stops {
		weights[i] = .62
		if used[i] > 0 {
			weights[i] = 1
		}
		if i == 0 {
			weights[i] = 1.25
		}
		sum += weights[i]
	}
	unit := (width - left - right) / sum
	radius := min(23, unit*.3)
	half := RollScale * max(o.PressedMM, stops[0].TrueMM()+2*radius*2/RollScale) / 2
	mid := half + 6
	floor := mid + half + 10
	s := &Scene{Title: rollTitle(p), Y: -16, W: width, H: floor + 104 + 16, Class: "scale-down"}

	at := make([]float64, len(stops))
	x := left
	for i := range stops {
		at[i] = x + unit*weights[i]/2
		x += unit * weights[i]
	}
	// The sheet: flat at its thickness, narrowing over a short wedge at each stop used.
	var upper, lower []string
	point := func(x, mm float64) {
		upper = append(upper, num(x)+" "+num(mid-mm*RollScale/2))
		lower = append(lower, num(x)+" "+num(mid+mm*RollScale/2))
	}
	point(left-16, o.PressedMM)
	end := left
	for i := range stops {
		if used[i] == 0 {
			continue
		}
		point(at[i]-radius*.8, in[i])
		point(at[i], stops[i].TrueMM())
		point(at[i]+radius*.5, out[i])
		end = at[i] + unit*weights[i]*.5
	}
	point(end, o.SheetMM)
	for i, j := 0, len(lower)-1; i < j; i, j = i+1, j-1 {
		lower[i], lower[j] = lower[j], lower[i]
	}
	s.Path("dough", "M"+strings.Join(upper, "L")+"L"+strings.Join(lower, "L")+"Z")

	for i, st := range stops {
		gap := st.TrueMM() * RollScale / 2
		if used[i] > 0 {
			for _, side := range []float64{-1, 1} {
				s.Circle("metal", at[i], mid+side*(gap+radius), radius)
				s.Circle("hub", at[i], mid+side*(gap+radius), 4)
			}
			if used[i] > 1 {
				s.Text("m b", at[i], -2, fmt.Sprintf("%d passes", used[i]))
			}
			continue
		}
		small := radius * .78
		for _, side := range []float64{-1, 1} {
			s.Circle("ghost", at[i], mid+side*(gap+small), small)
		}
	}
	s.Path("ink", fmt.Sprintf("M0 %sH%g", num(floor), width))
	row := func(i int) float64 { return floor + 21 + 20.5*float64(i) }
	for i, t := range []string{"Stop", "Gap, mm", "Sheet, mm", "Thinner by"} {
		s.Text("q", 0, row(i), t)
	}
	last := -1
	for i := range stops {
		if used[i] > 0 {
			last = i
		}
	}
	for i, st := range stops {
		if used[i] == 0 {
			s.Text("m q", at[i], row(0), st.Label)
			s.Text("m q", at[i], row(1), fmt.Sprintf("%.2g", st.TrueMM()))
			if i < last {
				s.Text("m s q", at[i], row(2), "skip")
			}
			continue
		}
		s.Text("m big", at[i], row(0)+1, st.Label)
		s.Text("m", at[i], row(1), fmt.Sprintf("%.2g", st.TrueMM()))
		if i == 0 {
			s.Text("m b", at[i], row(2), sheetMM(in[i])+" to "+sheetMM(out[i]))
		} else {
			s.Text("m b", at[i], row(2), sheetMM(out[i]))
		}
		if i == 0 {
			words := "flat"
			if o.Folds > 0 {
				words = measure.Plural(o.Folds, "fold", "folds")
			}
			s.Text("m", at[i], row(3), words)
		} else {
			s.Text("m", at[i], row(3), fmt.Sprintf("%.0f %%", 100*(1-out[i]/in[i])))
		}
	}
	if last < len(stops)-1 {
		x := (at[last+1] + at[len(stops)-1]) / 2
		if len(stops)-1-last > 1 {
			s.Text("m s q", x, row(2), "not used:")
			s.Text("m s q", x, row(3), "finer")
		}
	}
	s.Text("q", 0, mid-10, "pressed to")
	s.Text("b", 0, mid+10, fmt.Sprintf("%.0f mm", math.Round(o.PressedMM)))
	// The scale: five millimetres.
	s.Down(width-6, mid-2.5*RollScale, mid+2.5*RollScale)
	s.Text("e q", width-14, mid+4, "5 mm")
	return s.SVG()
}

// sheetMM writes a thickness to a hundredth, ten and over to the whole.
func sheetMM(mm float64) string {
	if mm >= 9.995 {
		return fmt.Sprintf("%.0f", mm)
	}
	return fmt.Sprintf("%.2f", mm)
}

func rollTitle(p *plan.Plan) string {
	return fmt.Sprintf("Side view of the way down: from %.0f mm to %.2f mm in %s", p.Roll.PressedMM, p.Roll.SheetMM,
		measure.Plural(len(p.Roll.Passes), "pass", "passes"))
}
