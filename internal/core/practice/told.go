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
	"water water-step": {
		"cracks",
		"kneaded=enough dry=little",
	}, "water water-two": {"cracks", "kneaded=enough dry=very"},
	"water flour-step": {"sticks", "wet=little"}, "water flour-two": {"sticks", "wet=very"},
	"kneaded water-step": {"cracks", "kneaded=enough dry=little"},
	"rested water-step":  {"cracks", "kneaded=enough dry=little"}, "skin pare": {"skin", ""},
	"skin water-step": {
		"cracks",
		"kneaded=enough dry=little",
	}, "folds twice": {"ragged", ""}, "folds five": {"first-pass", ""},
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

// Lesson is what is said after a call; kneaded is for how long it was kneaded by then, min, where that tells.
func (b *Base) Lesson(c *CallOf, options []Option, kneaded float64, v Verdict) Lesson {
	l := Lesson{Act: b.finding(c.Key, options[v.Best]), Price: price(options, v, b.Rules.Practice.EitherPoints)}
	var are []string
	verb := "are "
	for i, n := range hundred(v.Shares) {
		if n > 0 {
			if n == 1 && len(are) == 0 {
				verb = "is "
			}
			are = append(are, fmt.Sprintf("%d %s%s", n, verb, v.about.words[i]))
			verb = ""
		}
	}
	at := "at this point"
	if kneaded > 0 {
		at = "after " + minutesWords(kneaded) + " of kneading"
	}
	l.Sign = fmt.Sprintf("Of a hundred doughs that show this %s, %s.", at, measure.List(are))
	if slices.Max(v.Shares) < .85 && v.Safe >= 0 && v.Safe < len(options) {
		l.Safe = fmt.Sprintf("Not sure? “%s” is the cheap mistake: at worst it costs %s, anything else %s.",
			options[v.Safe].Name, pointsWords(v.SafeMost), pointsWords(v.OtherMost))
	}
	return l
}

// price says what the difference was between what was chosen and what was best.
func price(options []Option, v Verdict, either float64) string {
	best, chosen := options[v.Best].Name, options[v.Chosen].Name
	if v.Chosen == v.Best {
		next := nextBest(v.Sums, v.Best)
		more := v.Sums[next] - v.Sums[v.Best]
		if more < either {
			return fmt.Sprintf("What you chose loses the least; “%s” would have been as good.", options[next].Name)
		}
		return fmt.Sprintf(
			"What you chose loses the least. “%s” would have cost %s more%s.",
			options[next].Name,
			pointsWords(more),
			where(v.Expected[next], v.Expected[v.Best], more),
		)
	}
	if v.Either {
		return fmt.Sprintf(
			"Either was right: “%s” or “%s”, there is less than half a point between them.",
			chosen,
			best,
		)
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
		return fmt.Sprintf(
			"The sheet was {%.2f mm} %s",
			math.Abs(d.MM-x.k.AimMM),
			over("too thin", "too thick", d.MM-x.k.AimMM),
		)
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

// Off says what was off with the dough, the most first; figures with units in braces. Nothing where all was as good as
// right.
func (x *Batch) Off() (out []string) {
	h, b := &x.Dough.hid, x.k.Base
	type off struct {
		by   float64 // spreads
		says string
	}
	var all []off
	for c := range causes {
		v, sd := h.at(b, c)
		if z := *v / sd; math.Abs(z) >= .7 {
			all = append(all, off{math.Abs(z), b.offWords(c, *v)})
		}
	}
	if h.slips && h.SlipG != 0 {
		word := "more"
		if h.SlipG < 0 {
			word = "less"
		}
		all = append(
			all,
			off{9, fmt.Sprintf("An egg or a cup was miscounted: {%.0f g} of egg %s.", math.Abs(h.SlipG), word)},
		)
	}
	slices.SortStableFunc(all, func(a, b off) int { return cmp.Compare(b.by, a.by) })
	for _, o := range all {
		out = append(out, o.says)
	}
	return out
}

// offWords say how far a cause was off.
func (b *Base) offWords(c Cause, v float64) string {
	pick := func(below, above string) string {
		if v < 0 {
			return below
		}
		return above
	}
	size := math.Abs(v)
	times := 100 * (math.Exp(v) - 1)
	switch c {
	case OffMoisture:
		return fmt.Sprintf("The flour held %.1f %% of water, not %.1f.", 100*(b.MoistureWB+v), 100*b.MoistureWB)
	case OffAbsorption:
		return fmt.Sprintf("The flour takes up %s than its sheet says: {%.0f g} of water.", pick("less", "more"),
			size*b.Rules.Hydration.AbsorptionWeight*b.waterPoint)
	case OffEgg:
		return fmt.Sprintf("There was {%.0f g} %s egg in the bowl.", size*b.EggG, pick("less", "more"))
	case OffScale:
		return fmt.Sprintf("The scale was {%.0f g} of flour %s.", size*b.FlourG, pick("short", "over"))
	case OffRoom:
		return fmt.Sprintf(
			"The air was %s than the plan had it: %.0f %%.",
			pick("drier", "damper"),
			100*clamp(b.RH+v, .1, .9),
		)
	case OffTemp:
		return fmt.Sprintf("The room was at {%.0f °C}, not {%.0f °C}.", b.TempC+v, b.TempC)
	case OffHand:
		return fmt.Sprintf("A minute of these hands did %.0f %% %s.", math.Abs(times), pick("less", "more"))
	case OffRelax:
		return fmt.Sprintf(
			"It let go %s: %.0f %% %s time.",
			pick("sooner", "more slowly"),
			math.Abs(times),
			pick("less", "more"),
		)
	case OffDry:
		return fmt.Sprintf(
			"It dried %s: %.0f %% %s time.",
			pick("faster", "more slowly"),
			math.Abs(times),
			pick("less", "more"),
		)
	case OffCook:
		return fmt.Sprintf("The pot took %.0f %% %s time.", math.Abs(times), pick("less", "more"))
	}
	return fmt.Sprintf("The rollers stood %.0f %% %s than the dial says.", math.Abs(times), pick("closer", "wider"))
}

// SeedName is what a dough is called once it is opened: the same for the same dough.
func SeedName(seed uint64) string {
	const letters = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789"
	out := make([]byte, 5)
	seed *= 0x9e3779b97f4a7c15 // seeds that are near have names that are not
	for i := range out {
		out[i] = letters[seed>>(5*i)&31]
	}
	return string(out)
}
