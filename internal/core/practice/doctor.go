package practice

import (
	"fmt"
	"math"
	"slices"
	"strings"
)

// way is how somebody works by words alone: the doctor's marks, or a learner's own.
type way struct {
	first   float64 // min kneaded before anything is judged
	bias    float64 // points added to what the feel says
	dose    float64 // times the amount
	smooth  int     // of surface and dent together, where kneading stops
	arms    float64 // min at which the arms stop
	rest    float64 // times the plan's
	poke    int     // word of the poke to roll from
	edges   int     // word of the edges to go down from
	skip    int     // stops left out
	thin    float64 // times what the paper says
	dry     float64 // min on the rack before a touch
	leather int     // word to cut from
	tooth   int     // word to drain from
	late    float64 // s after that
}

// theDoctors is the doctor's way.
var theDoctors = way{first: 3, dose: 1, smooth: 4, arms: 18, rest: 1, poke: 4, thin: 1, dry: 8, leather: 1, tooth: 1}

// feelPoints is how far off each of the five words is, points.
func (k *Kitchen) feelPoints(word int) float64 { return k.Rules.Learn.FeelPoints[word] }

// hands work a batch by words alone.
type hands struct {
	*Batch
	way
}

// ask looks at a sign, at the price of a look where it does not stand there.
func (h *hands) ask(s Sign) int {
	if w := h.Word(s); w >= 0 {
		return w
	}
	_ = h.Do(Act{Do: DoLook, Sign: s})
	return max(0, h.Word(s))
}

func (h *hands) do(d Do, n float64) { _ = h.Do(Act{Do: d, N: n}) }

// DoctorsWay works the dough of a seed by the doctor's table: looks, then acts in small steps, each kneaded in first;
// the words alone are known to it.
func (k *Kitchen) DoctorsWay(seed uint64, level int) *Batch {
	x, _ := k.Fold(seed, level, nil, false)
	x.work(theDoctors)
	return x
}

// work goes from the board to the plate in a way.
func (x *Batch) work(w way) {
	h := &hands{x, w}
	h.board()
	h.resting()
	h.rolling()
	h.drying()
	h.cooking()
}

func (h *hands) board() {
	h.do(DoKnead, h.first)
	for range 6 {
		f := h.k.feelPoints(h.ask(Feel)) + h.bias
		if h.Dough.Work < 4 {
			f = .5*f + .25*float64(h.ask(Stick)-h.ask(Flex))
		}
		if math.Abs(f) < .9 {
			break
		}
		points := .8
		if math.Abs(f) >= 2 {
			points = 1.6
		}
		points = min(math.Abs(f), points) * h.dose
		if f < 0 {
			h.do(DoWater, math.Max(1, points*h.k.waterPoint))
		} else {
			h.do(DoFlour, math.Max(1, points*h.k.flourPoint))
		}
		h.do(DoKnead, 1.5)
	}
	for n := 0; n < 14 && h.Dough.Tired < h.arms; n += 2 {
		if h.ask(Surface)+h.ask(Spring) >= h.smooth {
			break
		}
		h.do(DoKnead, 2)
	}
	h.do(DoWrap, 0)
}

func (h *hands) resting() {
	h.do(DoRest, math.Max(1, math.Round(h.rest*h.k.RestMin)))
	if f := h.ask(Feel); h.bias == 0 && (f == 0 || f == 4) {
		if f == 0 {
			h.do(DoWater, 1.2*h.k.waterPoint)
		}
		h.do(DoRest, 15)
	}
	for range 5 {
		if h.ask(Poke) >= h.poke {
			break
		}
		h.do(DoRest, 10)
	}
	if h.ask(Skin) > 0 {
		h.do(DoPare, 0)
	}
	h.do(DoRoll, 0)
}

func (h *hands) rolling() {
	if h.ask(Stick) > 0 {
		h.do(DoDust, 0)
	}
	h.do(DoFold, 2)
	for range 8 {
		if h.ask(Edges) <= h.edges {
			break
		}
		h.do(DoFold, 1)
	}
	last := len(h.k.Gaps) - 1
	for tears := 0; h.Dough.Stop < last; {
		out := min(h.skip, 2, last-h.Dough.Stop-1)
		h.do(DoPass, float64(out))
		if h.Torn { // fold it and take every stop again
			h.skip = 0
			if tears++; tears > 5 {
				break
			}
			h.do(DoFold, 1)
			continue
		}
		if h.Stuck {
			h.do(DoDust, 0)
		}
		if i := h.Dough.Stop; i >= h.k.Last-2 {
			mm := float64(h.ask(Leaves)+leafLeast) * paperMM * h.thin
			if i == last ||
				math.Abs(math.Log(mm/h.k.AimMM)) <= math.Abs(math.Log(mm*h.k.Gaps[i+1]/h.k.Gaps[i]/h.k.AimMM)) {
				break
			}
		}
	}
	h.do(DoDust, 0)
	h.do(DoEnd, 0)
}

func (h *hands) drying() {
	if h.k.Before {
		if h.dry > 0 {
			h.do(DoDry, h.dry)
		}
		for range 8 {
			if h.ask(Leather) >= h.leather {
				break
			}
			h.do(DoDry, 3)
		}
	} else if h.ask(Stick) > 1 || h.dry == 0 && h.leather > 0 { // dusted, it need not dry unless it is too soft
		for range 8 {
			if h.ask(Leather) >= h.leather {
				break
			}
			h.do(DoDry, 5)
		}
	}
	h.do(DoCut, 0)
}

func (h *hands) cooking() {
	at := 5 * math.Round(.75*h.k.potS(h.Dough.X)/5)
	h.do(DoCook, max(5, at))
	for range 12 {
		if h.ask(Tooth) >= h.tooth {
			break
		}
		h.do(DoCook, 12)
	}
	if h.late >= 5 {
		h.do(DoCook, h.late)
	}
	h.do(DoDrain, 0)
}

// table is the doctor's table of one call: the option by the words shown, no sums.
func table(b *Base, c Call, x Context, shown []Shown) string {
	word := func(s Sign) int {
		i := slices.IndexFunc(shown, func(o Shown) bool { return o.Sign == s })
		if i < 0 {
			return -1
		}
		return shown[i].Word
	}
	switch c {
	case Shaggy:
		return shaggyTable(x, word(Feel), word(Stick))
	case Water:
		if f := word(Feel); x.Key == "4" && (f == 1 || f == 3) {
			return "leave"
		}
		return []string{"water-two", "water-step", "leave", "flour-step", "flour-two"}[word(Feel)]
	case Kneaded:
		switch {
		case word(Surface) == 0:
			return "five"
		case word(Surface)+word(Spring) < 4:
			return "more"
		}
		return "enough"
	case Rested:
		switch p := word(Poke); {
		case p >= 4:
			return "enough"
		case p >= 2:
			return "more"
		}
		return "long"
	case SkinFound:
		if word(Skin) == 0 {
			return "enough"
		}
		return "pare"
	case Folds:
		switch e := word(Edges); {
		case e == 2:
			return "five"
		case e == 0 && x.Key == "10":
			return "enough"
		}
		return "twice"
	case Step:
		if word(Poke) < 4 {
			return "wait"
		}
		return "next"
	case Thin:
		return thinTable(b, x, word(Leaves))
	case Dry:
		return dryTable(b, x, word(Leather))
	}
	if word(Tooth) == 0 {
		return "more"
	}
	return "enough"
}

func shaggyTable(x Context, feel, stick int) string {
	if x.Key == "2" || x.Key == "4" {
		switch {
		case feel == 0 && stick == 0:
			return "water"
		case feel == 4 && stick == 2:
			return "flour"
		}
	}
	return "knead"
}

func thinTable(b *Base, x Context, leaves int) string {
	stop := b.Last
	if x.Key != fmt.Sprint(b.Last) {
		stop = b.Last - 1
	}
	best, off := 0, math.Inf(1)
	for j, key := range []string{"enough", "finer", "two"} {
		i := min(stop+j, len(b.Gaps)-1)
		o := math.Abs(math.Log(float64(leaves+leafLeast) * paperMM * b.Gaps[i] / b.Gaps[stop] / b.AimMM))
		if key != "" && o < off-1e-9 {
			best, off = j, o
		}
	}
	return []string{"enough", "finer", "two"}[best]
}

func dryTable(b *Base, x Context, leather int) string {
	if !b.Before && !strings.HasSuffix(x.Key, "bare") && leather < 2 {
		return "enough"
	}
	return []string{"more", "enough", "damp"}[leather]
}
