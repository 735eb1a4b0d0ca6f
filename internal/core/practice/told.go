package practice

import (
	"cmp"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strings"

	"hollen/internal/core/doctor"
	"hollen/internal/core/measure"
)

// Lesson is what is said after a call, from what is known of it: figures with units stand in braces.
type Lesson struct {
	Sign  string         // what the signs meant
	Act   doctor.Finding // what would have been best, and why
	Price string         // what the difference was
	Safe  string         // the cheap mistake, where there is one
}

// remedy is where the doctor has the words of an option: a sign's cause by the answer it is likeliest under.
type remedy struct{ sign, answers string }

var remedies = map[string]remedy{
	"shaggy knead": {"apart", ""}, "shaggy water": {"apart", "dry=very"}, "shaggy flour": {"sticks", "wet=very"},
	"water water-step": {"cracks", "kneaded=enough dry=little"}, "water water-two": {"cracks", "kneaded=enough dry=very"},
	"water flour-step": {"sticks", "wet=little"}, "water flour-two": {"sticks", "wet=very"},
	"kneaded water-step": {"cracks", "kneaded=enough dry=little"}, "rested more": {"snaps-back", ""},
	"rested water-step": {"cracks", "kneaded=enough dry=little"}, "skin pare": {"skin", ""},
	"skin water-step": {"cracks", "kneaded=enough dry=little"}, "folds twice": {"ragged", ""}, "folds five": {"first-pass", ""},
	"folds mist": {"first-pass", "feels=dry"}, "step wait": {"snaps-back", ""}, "dry damp": {"brittle", ""},
}

// gramsIn are the grams of a text that are set in braces, so that it can be read in ounces, too.
var gramsIn = regexp.MustCompile(`([0-9][0-9.]*) g\b`)

// finding is what the doctor says of an option of a call.
func (b *Base) finding(c Call, o Option) doctor.Finding {
	key := string(c) + " " + o.Key
	f := doctor.Finding{Do: o.Name + "."}
	if cause, ok := doctor.Right(string(c), o.Key); ok {
		f = cause.Measured(b.Patient())
	} else if r, ok := remedies[key]; ok {
		sign, _ := doctor.Find(r.sign)
		answers := map[string]string{}
		for pair := range strings.FieldsSeq(r.answers) {
			q, a, _ := strings.Cut(pair, "=")
			answers[q] = a
		}
		found := sign.Ask(b.Patient(), answers)
		f = found[0]
	}
	for _, s := range []*string{&f.Why, &f.Do, &f.Expect, &f.Stop, &f.Instead} {
		*s = measure.Capital(gramsIn.ReplaceAllString(*s, "{$1 g}"))
	}
	return f
}

// hundred turns shares into whole numbers that add up to a hundred.
func hundred(shares []float64) []int {
	out, left := make([]int, len(shares)), 100
	order := make([]int, len(shares))
	for i, s := range shares {
		out[i] = int(100 * s)
		left -= out[i]
		order[i] = i
	}
	slices.SortStableFunc(order, func(i, j int) int {
		return cmp.Compare(100*shares[j]-float64(out[j]), 100*shares[i]-float64(out[i]))
	})
	for i := range left {
		out[order[i%len(order)]]++
	}
	return out
}

// pointsWords writes points as finely as they are known.
func pointsWords(v float64) string {
	switch n := math.Round(v); {
	case v < .95:
		return "less than a point"
	case n == 1:
		return "1 point"
	default:
		return fmt.Sprintf("%.0f points", n)
	}
}

// Lesson is what is said after a call: after is what was done before it.
func (b *Base) Lesson(c *CallOf, options []Option, after string, v Verdict) Lesson {
	l := Lesson{Act: b.finding(c.Key, options[v.Best]), Price: price(options, v)}
	var are []string
	verb := "are "
	for i, n := range hundred(v.Shares) {
		if n > 0 {
			if n == 1 && len(are) == 0 {
				verb = "is "
			}
			are = append(are, fmt.Sprintf("%d %s%s", n, verb, c.classes.words[i]))
			verb = ""
		}
	}
	l.Sign = fmt.Sprintf("Of a hundred doughs that show this, %s, %s.", after, measure.List(are))
	if v.Safe >= 0 && v.Safe < len(options) {
		l.Safe = fmt.Sprintf("Not sure? “%s” is the cheap mistake: at worst it costs %s, anything else %s.",
			options[v.Safe].Name, pointsWords(v.SafeMost), pointsWords(v.OtherMost))
	}
	return l
}

// price says what the difference was between what was chosen and what was best.
func price(options []Option, v Verdict) string {
	best, chosen := options[v.Best].Name, options[v.Chosen].Name
	if v.Chosen == v.Best {
		next := nextBest(v.Sums, v.Best)
		more := v.Sums[next] - v.Sums[v.Best]
		return fmt.Sprintf("What you chose loses the least. “%s” would have cost %s more%s.", options[next].Name, pointsWords(more),
			where(v.Expected[next], v.Expected[v.Best], more))
	}
	if v.Either {
		return fmt.Sprintf("Either was right: “%s” or “%s”, there is less than half a point between them.", chosen, best)
	}
	return fmt.Sprintf("“%s” loses %s more than “%s”%s.", chosen, pointsWords(v.Regret), best,
		where(v.Expected[v.Chosen], v.Expected[v.Best], v.Regret))
}

func nextBest(sums []float64, best int) int {
	next := -1
	for o := range sums {
		if o != best && (next < 0 || sums[o] < sums[next]) {
			next = o
		}
	}
	return next
}

// where says where the most of a difference is lost.
func where(more, less Lost, by float64) string {
	most := Part(0)
	for i := range parts {
		if more[i]-less[i] > more[most]-less[most] {
			most = i
		}
	}
	switch share := (more[most] - less[most]) / by; {
	case by < .95:
		return ""
	case share > .85:
		return ", " + most.Words()
	}
	return ", most of it " + most.Words()
}

// LostWords say where a finished dough lost its points, the most first: what was off, and what that cost.
func (x *Batch) LostWords() (out []string) {
	l := x.Dough.Lost()
	order := make([]Part, parts)
	for i := range order {
		order[i] = Part(i)
	}
	slices.SortStableFunc(order, func(a, b Part) int { return cmp.Compare(l[b], l[a]) })
	for _, p := range order {
		if l[p] >= .5 {
			out = append(out, fmt.Sprintf("%s: %s.", x.lostTo(p), pointsWords(max(1, l[p]))))
		}
	}
	return out
}

// lostTo says what was off in a part.
func (x *Batch) lostTo(p Part) string {
	d := &x.Dough
	over := func(dry, wet string, v float64) string {
		if v < 0 {
			return dry
		}
		return wet
	}
	switch p {
	case LostWater:
		return fmt.Sprintf("%s by {%.0f g} of water", over("Too dry", "Too wet", d.Dev), math.Abs(d.Dev)*x.k.waterPoint)
	case LostKnead:
		return fmt.Sprintf("Worked to %.0f of a hundred; 90 are enough", 100*d.D())
	case LostSheet:
		return fmt.Sprintf("The sheet was {%.2f mm} %s", math.Abs(d.MM-x.k.AimMM), over("too thin", "too thick", d.MM-x.k.AimMM))
	case LostHoles:
		return "A hole was rolled on"
	case LostFlakes:
		return "A skin was folded in"
	case LostTense:
		return "Rolled before it was rested: the ribbons pulled in"
	case LostCut:
		return over("The ribbons hung together", "The ribbons snapped", d.Brittle-d.Weld)
	case LostBite:
		return fmt.Sprintf("Cooked %.0f s too %s", math.Abs(x.PotS-d.NeedS()), over("short", "long", x.PotS-d.NeedS()))
	case LostWaste:
		return fmt.Sprintf("{%.0f g} thrown away", d.WasteG)
	case LostMinutes:
		return fmt.Sprintf("%.0f minutes longer than the plan", d.Min-x.k.PlanMin)
	case LostHands:
		return fmt.Sprintf("%.0f minutes of hands more than the plan", d.Hands-x.k.PlanHandsMin)
	}
	_, past, discard := x.FoodWords()
	if discard {
		return past
	}
	return "Out of the fridge past the usual caution"
}

// FoodWords say how long the dough has been out of the fridge and what that means; discard is true past the point where
// it is to be thrown away.
func (x *Batch) FoodWords() (clock, means string, discard bool) {
	caution, limit := x.Dough.limits()
	out := x.Dough.Out
	clock = fmt.Sprintf("%.0f min out of the fridge, caution at %.0f", out, caution)
	fine, soon, past := doctor.WaitWords(caution, limit)
	switch {
	case out > limit:
		return clock, past, true
	case out > caution:
		return clock, soon, false
	}
	return clock, fine, false
}
