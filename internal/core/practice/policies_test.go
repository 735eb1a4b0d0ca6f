package practice

import (
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"strconv"
	"testing"
)

// many is how many doughs are tried: HOLLEN_PRACTICE of them, where that is set, for the published figures.
func many(usual int) int {
	if n, err := strconv.Atoi(os.Getenv("HOLLEN_PRACTICE")); err == nil && n > 0 {
		return n
	}
	return usual
}

// theNovices is how somebody works who was never shown.
var theNovices = way{
	first:  .5,
	bias:   1.6,
	dose:   1.6,
	smooth: 2,
	arms:   6,
	rest:   8. / 30,
	poke:   1,
	edges:  2,
	skip:   1,
	thin:   .72,
	tooth:  2,
	late:   50,
}

// downTo takes every stop to the plan's, folding where it tears.
func downTo(h *hands, mend bool) {
	for h.Dough.Stop < h.k.Last {
		h.do(DoPass, 0)
		if h.Torn && mend && h.Dough.Folds < 8 {
			h.do(DoFold, 1)
		}
	}
}

func toThePlate(h *hands, dry, s float64) {
	if dry > 0 && !h.k.Before { // what is not dried is dusted as it is cut
		h.do(DoDust, 0)
	}
	h.do(DoEnd, 0)
	if h.k.Before && dry > 0 {
		h.do(DoDry, dry)
	}
	h.do(DoCut, 0)
	h.do(DoCook, max(5, math.Round(s)))
	h.do(DoDrain, 0)
}

func restAndOn(h *hands) {
	if h.Dough.Credit == 0 {
		h.do(DoRest, 30)
	}
	h.do(DoRoll, 0)
	h.do(DoFold, 2)
	h.do(DoDust, 0)
	downTo(h, false)
	toThePlate(h, 11, h.k.potS(.03))
}

// policies are ways to work a dough: the doctor's, the recipe's, and every way to cheat that was thought of.
var policies = map[string]func(h *hands, rng *rand.Rand){
	"doctor": func(h *hands, _ *rand.Rand) { h.work(theDoctors) },
	"recipe": func(h *hands, _ *rand.Rand) {
		h.do(DoKnead, 10)
		h.do(DoWrap, 0)
		h.do(DoRest, 30)
		h.do(DoRoll, 0)
		h.do(DoFold, 2)
		h.do(DoDust, 0)
		downTo(h, true)
		toThePlate(h, 11, h.k.potS(.03))
	},
	"novice": func(h *hands, _ *rand.Rand) { h.work(theNovices) },
	"chance": func(h *hands, rng *rand.Rand) {
		for range 1 + rng.IntN(6) {
			switch a := rng.Float64(); {
			case a < .5:
				h.do(DoKnead, []float64{2, 5}[rng.IntN(2)])
			case a < .65:
				h.do(DoWater, 8)
			case a < .8:
				h.do(DoFlour, 15)
			default:
				h.do(DoCover, 10)
			}
		}
		h.do(DoWrap, 0)
		if n := []float64{0, 10, 20, 30, 60}[rng.IntN(5)]; n > 0 {
			h.do(DoRest, n)
		}
		h.do(DoRoll, 0)
		h.do(DoFold, float64(1+rng.IntN(4)))
		if rng.IntN(2) == 0 {
			h.do(DoDust, 0)
		}
		for end := 6 + rng.IntN(3); h.Dough.Stop < end-1; {
			h.do(DoPass, min([]float64{0, 0, 1, 2}[rng.IntN(4)], float64(end-2-h.Dough.Stop), 2))
		}
		h.do(DoEnd, 0)
		if n := []float64{0, 5, 10, 20, 40}[rng.IntN(5)]; n > 0 {
			h.do(DoDry, n)
		}
		h.do(DoCut, 0)
		h.do(DoCook, []float64{60, 90, 120, 180, 240}[rng.IntN(5)])
		h.do(DoDrain, 0)
	},
	"nothing": func(h *hands, _ *rand.Rand) {
		h.do(DoWrap, 0)
		h.do(DoRoll, 0)
		h.do(DoFold, 1)
		downTo(h, false)
		toThePlate(h, 0, 89)
	},
	"forever": func(h *hands, _ *rand.Rand) {
		for range 4 {
			h.do(DoKnead, 15)
		}
		h.do(DoWrap, 0)
		restAndOn(h)
	},
	"sleeper": func(h *hands, _ *rand.Rand) {
		h.do(DoKnead, 10)
		h.do(DoWrap, 0)
		h.do(DoRest, 230)
		restAndOn(h)
	},
	"asker": func(h *hands, _ *rand.Rand) {
		for range 30 {
			for _, s := range []Sign{Flex, Stick, Spring, Window} {
				_ = h.Do(Act{Do: DoLook, Sign: s})
			}
		}
		h.work(theDoctors)
	},
	"dripper": func(h *hands, _ *rand.Rand) {
		h.do(DoKnead, 3)
		for ok, n := 0, 0; n < 60 && ok < 3; n++ {
			h.Batch.look(Feel, 1000+n)
			h.Dough.clock(h.k.Rules.Practice.LookMin, true)
			switch f := h.Word(Feel); {
			case f == 2:
				ok++
			case f < 2:
				h.do(DoWater, 1)
				ok = 0
			default:
				h.do(DoFlour, 1)
				ok = 0
			}
			h.do(DoKnead, .5)
		}
		w := theDoctors
		w.first = .5
		h.work(w)
	},
	"seesaw": func(h *hands, _ *rand.Rand) {
		h.do(DoKnead, 3)
		for range 15 {
			h.do(DoWater, 8)
			h.do(DoKnead, .5)
			h.do(DoFlour, 14)
			h.do(DoKnead, .5)
		}
		h.work(theDoctors)
	},
}

func mean(v []float64) (m, se float64) {
	for _, x := range v {
		m += x / float64(len(v))
	}
	for _, x := range v {
		se += (x - m) * (x - m)
	}
	return m, math.Sqrt(se / float64(max(1, len(v)-1)) / float64(len(v)))
}

// The doctor by words alone keeps more than the recipe to the letter, and no way to cheat keeps more than the doctor.
func TestPolicies(t *testing.T) {
	for _, before := range []bool{true, false} {
		k := NewKitchen(book(t, before))
		n := many(250)
		got := map[string][3]float64{}
		for level := 1; level <= 3; level++ {
			for _, who := range []string{"doctor", "recipe", "novice", "chance", "nothing", "forever", "sleeper",
				"asker",
				"dripper", "seesaw"} {
				each := n
				if who != "doctor" && who != "recipe" && who != "novice" && who != "chance" {
					each = max(60, n/5)
				}
				var v []float64
				for seed := range each {
					x, err := k.Fold(uint64(seed), level, nil, false)
					if err != nil {
						t.Fatal(err)
					}
					policies[who](&hands{x, theDoctors}, source(uint64(seed), hash(who)))
					if x.Phase != Over {
						t.Fatalf("%s does not end: %s, %v", who, x.Phase, x.Acts)
					}
					points, _ := x.Points()
					v = append(v, points)
					if math.IsNaN(points) || points < 0 || points > 100 {
						t.Fatalf("%s: %v points", who, points)
					}
				}
				m, se := mean(v)
				row := got[who]
				row[level-1] = m
				got[who] = row
				if n > 250 {
					fmt.Printf("before %v level %d %-8s %.1f (%.1f)\n", before, level, who, m, se)
				}
			}
		}
		t.Log(before, got)
		doctor := got["doctor"]
		leasts := []float64{3, 10, 15}
		if !before { // without drying before the cut the recipe has less to get wrong
			leasts = []float64{-.5, 3, 9}
		}
		for i, least := range leasts {
			if doctor[i]-got["recipe"][i] < least {
				t.Errorf("level %d: the doctor %.1f, the recipe %.1f", i+1, doctor[i], got["recipe"][i])
			}
			if i > 0 && doctor[i-1]-doctor[i] < 2 {
				t.Errorf("level %d is no harder: %.1f after %.1f", i+1, doctor[i], doctor[i-1])
			}
			for who, v := range got {
				least := .5
				if i > 0 {
					least = 2
				}
				if who != "doctor" && who != "recipe" && doctor[i]-v[i] < least {
					t.Errorf("level %d: %s keeps %.1f, the doctor %.1f", i+1, who, v[i], doctor[i])
				}
			}
		}
	}
}
