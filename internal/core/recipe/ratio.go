package recipe

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// Ratio is a recipe said as flour to egg: "100 g to an egg", "a kilo to ten eggs", "70 : 30".
type Ratio struct {
	FlourG      float64 // to so many eggs and yolks
	Eggs, Yolks float64
	// ByMass is how many times as much flour as egg, by weight; 0 where eggs are counted.
	ByMass float64
}

// The bounds of a ratio. Source: house: what still becomes a dough, and beyond what anybody makes.
const (
	leastByMass, mostByMass = .8, 6
	leastPerEgg, mostPerEgg = 40, 400 // g of flour to an egg
	leastPerYolk, mostYolk  = 12, 120 // g of flour to a yolk
	mostRatioFlourG         = 50000
	mostRatioEggs           = 1000
)

// counts are numbers as people say them.
var counts = map[string]string{"a": "1", "an": "1", "one": "1", "two": "2", "three": "3", "four": "4", "five": "5",
	"six": "6", "seven": "7", "eight": "8", "nine": "9", "ten": "10", "eleven": "11", "twelve": "12", "dozen": "12",
	"fifteen": "15", "twenty": "20", "thirty": "30", "forty": "40", "fifty": "50"}

var (
	parts    = regexp.MustCompile(`^([\d.,]+) ?(?::|/|to) ?([\d.,]+)$`)
	counted  = regexp.MustCompile(`^([\d.,]+)? ?(?:whole )?(egg yolk|egg|yolk)s?$`)
	joining  = regexp.MustCompile(` ?(?:\band\b|\+|,|\bplus\b) ?`)
	dividing = regexp.MustCompile(` ?(?:\bto\b|\bper\b|\bfor\b|/|:|\bon\b|=) ?`)
)

// errRatio says how a ratio may be said.
var errRatio = measure.Faultf("ratio", "“100 g to an egg”, “1 kg to 10 eggs”, “30 g to a yolk” or “70 : 30” is allowed")

// ReadRatio reads a ratio as people say it: flour to eggs, eggs to flour, or the parts by weight, flour first. The
// error says what is allowed.
func ReadRatio(text string) (r Ratio, err error) {
	text = strings.Join(strings.Fields(strings.ToLower(text)), " ")
	text = strings.NewReplacer(" of flour", "", " flour", "", "kilos", "kg", "kilo", "kg").Replace(text)
	words := strings.Fields(text)
	for i, w := range words {
		if n, is := counts[w]; is {
			words[i] = n
		}
	}
	text = strings.Join(words, " ")
	if m := parts.FindStringSubmatch(text); m != nil {
		flour, ok := measure.ParseNumber(m[1])
		eggs, also := measure.ParseNumber(m[2])
		if !ok || !also || eggs <= 0 {
			return r, errRatio
		}
		r.ByMass = flour / eggs
		return r, r.check()
	}
	sides := dividing.Split(text, 2)
	if len(sides) != 2 {
		return r, errRatio
	}
	if strings.Contains(sides[0], "egg") || strings.Contains(sides[0], "yolk") {
		sides[0], sides[1] = sides[1], sides[0]
	}
	flour := strings.TrimSpace(sides[0])
	if flour == "kg" {
		flour = "1 kg"
	}
	g, ok := measure.ParseMass(flour)
	if !ok {
		return r, errRatio
	}
	r.FlourG = g
	for _, side := range joining.Split(strings.TrimSpace(sides[1]), -1) {
		m := counted.FindStringSubmatch(strings.TrimSpace(side))
		if m == nil {
			return r, errRatio
		}
		n := 1.
		if m[1] != "" {
			if n, ok = measure.ParseNumber(m[1]); !ok {
				return r, errRatio
			}
		}
		if m[2] == "egg" {
			r.Eggs += n
		} else {
			r.Yolks += n
		}
	}
	return r, r.check()
}

// check says what of a ratio becomes no dough.
func (r Ratio) check() error {
	if r.ByMass != 0 {
		if !(r.ByMass >= leastByMass && r.ByMass <= mostByMass) {
			return measure.Faultf("ratio", "%.3g parts of flour to one of egg; %g to %g is allowed, flour first",
				r.ByMass,
				float64(leastByMass), float64(mostByMass))
		}
		return nil
	}
	whole := r.Eggs == math.Trunc(r.Eggs) && r.Yolks == math.Trunc(r.Yolks)
	if !whole || r.Eggs < 0 || r.Yolks < 0 || r.Eggs+r.Yolks < 1 || r.Eggs+r.Yolks > mostRatioEggs ||
		!(r.FlourG <= mostRatioFlourG) {
		return measure.Faultf("ratio", "whole eggs or yolks, 1 to %d, to at most %d kg of flour are allowed",
			mostRatioEggs,
			mostRatioFlourG/1000)
	}
	// A yolk counts as the share of an egg that its least flour is of an egg's.
	least := leastPerEgg*r.Eggs + leastPerYolk*r.Yolks
	most := mostPerEgg*r.Eggs + mostYolk*r.Yolks
	if !(r.FlourG >= least && r.FlourG <= most) {
		return measure.Faultf("ratio", "%.4g g of flour to %s; %.4g to %.4g g is allowed", r.FlourG, r.eggWords(),
			least, most)
	}
	return nil
}

// eggWords are the eggs of a ratio: "an egg", "8 eggs and 4 yolks".
func (r Ratio) eggWords() string {
	var out []string
	add := func(n float64, one, many, article string) {
		switch {
		case n == 1 && len(out) == 0:
			out = append(out, article+" "+one)
		case n > 0:
			out = append(out, measure.Plural(int(n), one, many))
		}
	}
	add(r.Eggs, "egg", "eggs", "an")
	add(r.Yolks, "yolk", "yolks", "a")
	return measure.List(out)
}

// Words say the ratio: "100 g of flour to an egg", "70 : 30, flour to egg by weight".
func (r Ratio) Words(in measure.System) string {
	if r.ByMass != 0 {
		share := 100 * r.ByMass / (1 + r.ByMass)
		return strconv.FormatFloat(math.Round(10*share)/10, 'f', -1, 64) + " : " +
			strconv.FormatFloat(math.Round(10*(100-share))/10, 'f', -1, 64) + ", flour to egg by weight"
	}
	return fmt.Sprintf("%s of flour to %s", in.Grams(r.FlourG), r.eggWords())
}

// Onto gives a request the amounts of the ratio at the maker's word, once: so many eggs as it names, or one egg of the
// request's class, and the flour to them. Scale makes as much of it as is wanted.
func (r Ratio) Onto(of request.Request) request.Request {
	out := of
	eggs, yolks, flour := r.Eggs, r.Yolks, r.FlourG
	if r.ByMass != 0 {
		eggs, yolks = 1, 0
		flour = r.ByMass * out.Eggs.Kind().EdibleG
	}
	// A ratio of one egg is too small a dough to be worked out: ten of it are the same.
	if flour < 500 {
		eggs, yolks, flour = 10*eggs, 10*yolks, 10*flour
	}
	out.Amount.By, out.Amount.FlourG = request.ByOwn, flour
	out.Eggs.FixWhole, out.Eggs.FixYolks = &eggs, &yolks
	out.Eggs.CrackedG = nil
	return out
}

// RatioOf is the ratio of flour to egg of what is made at the maker's word; false where no egg is counted in it, or
// where its flour is to no whole number of grams an egg.
func RatioOf(r *request.Request) (Ratio, bool) {
	if r.Amount.By != request.ByOwn || r.Eggs.FixWhole == nil && r.Eggs.FixYolks == nil {
		return Ratio{}, false
	}
	out := Ratio{FlourG: r.Amount.FlourG, Eggs: request.Or(r.Eggs.FixWhole, 0), Yolks: request.Or(r.Eggs.FixYolks, 0)}
	if n := out.Eggs + out.Yolks; n > 0 && (out.Eggs == 0 || out.Yolks == 0) {
		out.FlourG, out.Eggs, out.Yolks = out.FlourG/n, out.Eggs/n, out.Yolks/n
	}
	return out, out.check() == nil
}
