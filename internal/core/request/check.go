package request

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/cook"
	"hollen/internal/core/egg"
	"hollen/internal/core/measure"
	"hollen/internal/core/rules"
)

// Counts says whether the field of that path counts: of the amounts only the one By names
// does, every other field always.
func (a Amount) Counts(path string) bool {
	if path == "amount.flour_g" && a.By == ByOwn {
		return true
	}
	by, ok := map[string]By{"amount.portions": ByPortions, "amount.dough_g": ByDough, "amount.flour_g": ByFlour,
		"amount.egg_g": ByEggs, "amount.eaters": ByEaters,
		"amount.flour_each_g": ByEaters}[path]
	return !ok || by == a.By
}

// Check returns a joined FieldError for everything in r that is not allowed; ru says what keeping
// is usual.
func (r *Request) Check(ru rules.Rules) error {
	var errs []error
	if _, err := r.Measures.All(); err != nil {
		errs = append(errs, wrong(MeasuresPath, "As it was measured out", string(r.Measures), err.Error()))
	}
	if r.Format != Format {
		errs = append(errs, wrong("format", "Format", r.Format, "only "+Format+" is"))
	}
	for _, g := range groups {
		n := g.length(r)
		if n < g.Least || n > g.Most {
			errs = append(errs, wrong(g.Name, g.Label, fmt.Sprint(n), fmt.Sprintf(g.TooMany, g.Most)))
		}
		for i := range min(n, g.Most) {
			if g.Missing != "" && !g.holds(r, i) {
				errs = append(errs, wrong(g.Path(i, g.Head), g.Label, "", g.Missing))
			}
		}
	}
	if n := len(r.Flours); n < 1 || n > MaxFlours {
		return errors.Join(errs...)
	}
	sum := 0.
	for _, f := range r.Flours {
		sum += f.Share
	}
	for _, f := range Fields() {
		if !f.Has(r) || !r.Amount.Counts(f.Path) {
			continue // a figure that does not count may be anything
		}
		if own := f.KeptBy(r); own != nil {
			if err := own.sound(f.Get(r)); err != nil {
				errs = append(errs, wrong(f.Path, f.Label, f.Get(r), err.Error()))
			}
		} else if err := f.Check(r); err != nil {
			errs = append(errs, err)
		}
	}
	if len(errs) == 0 {
		if math.Abs(sum-1) > .001 {
			errs = append(errs, wrong("flours", "Flours", fmt.Sprintf("%.4g", sum), "the shares must add up to 1"))
		}
		errs = append(errs, r.Roll.checkOwn()...)
		if c := r.Eggs.Kind(); c.YolkG > .7*c.EdibleG {
			errs = append(errs, wrong("eggs.own_yolk_g", "Your yolk", fmt.Sprintf("%g", c.YolkG),
				fmt.Sprintf("at most 70 %% of the egg, %g g, is yolk", c.EdibleG)))
		}
		if g, named := r.Amount.NamedFlourG(); named && (g < 50 || g > 50000) {
			errs = append(errs, wrong("amount.flour_each_g", "Flour for each", fmt.Sprintf("%g", r.Amount.EachG),
				fmt.Sprintf("50 to 50,000 g in all is allowed; this makes %g g", g)))
		}
		if r.Amount.By == ByEggs && r.Eggs.Style == egg.NoEgg {
			errs = append(errs, wrong("amount.by", "Make it by", string(r.Amount.By),
				"a dough without egg goes by portions, dough or flour"))
		}
		if from, errF := measure.At(r.Clock.From); errF == nil {
			if to, errT := measure.At(r.Clock.RollAt); errT == nil && !to.After(from) {
				errs = append(errs, wrong("clock.roll_at", "I roll at", r.Clock.RollAt,
					"it must be after the start, "+r.Clock.From))
			}
		}
		if f := r.Cut.Filling; r.Filled() && f.MadeOn != "" && r.MadeOn != "" && f.MadeOn > r.MadeOn {
			errs = append(errs, wrong("cut.filling.made_on", "Filling made on", f.MadeOn,
				"the day of the batch, "+r.MadeOn+", or a day before it is allowed"))
		}
		errs = append(errs, r.checkCut()...)
		errs = append(errs, r.checkKeep(ru)...)
		errs = append(errs, r.checkRanges()...)
	}
	return errors.Join(errs...)
}

// checkCut returns what is wrong with the shapes together.
func (r *Request) checkCut() (errs []error) {
	s := r.Sized(0)
	if lo, hi := r.Lengths(); s.Traits().Lengths && lo > hi {
		errs = append(errs, wrong("cut.max_length_mm", "Longest ribbon", fmt.Sprintf("%g", hi),
			fmt.Sprintf("it cannot be under the shortest ribbon, %g mm", lo)))
	} else if err := s.Check(); err != nil {
		first := measure.Faults(err)[0]
		f, ok := FieldAt("cut." + first.Field)
		if !ok {
			f, _ = FieldAt("cut.shape")
		}
		errs = append(errs, wrong(f.Path, f.Label, f.Get(r), first.Text))
	}
	rest := r.Amount.Portions
	for i, x := range r.Cut.Also {
		at := func(part string) string { return fmt.Sprintf("cut.also.%d.%s", i, part) }
		if other := x.Kind(); s.Traits().Rope && !other.Traits().Rope {
			errs = append(errs, wrong(at("shape"), "Another shape", x.Shape,
				"a shape that is cut from sheets goes first, what is formed from a rope after it"))
		}
		if most := shareMost[x.By]; x.Portions > most {
			errs = append(errs, wrong(at("portions"), "How much", fmt.Sprintf("%g", x.Portions),
				fmt.Sprintf("at most %g is allowed", most)))
		}
		errs = append(errs, r.Roll.checkStop(x.Stop, at("stop"), "It ends at")...)
		if x.By != ShareByPortions {
			continue
		}
		if rest -= x.Portions; rest < 1 && r.Amount.By == ByPortions {
			errs = append(errs, wrong(at("portions"), "Portions", fmt.Sprintf("%g", x.Portions),
				fmt.Sprintf("of %g portions in all at least one stays for the first shape", r.Amount.Portions)))
			break
		}
	}
	return errs
}

// shareMost is the most of a further shape, by what it is counted in.
var shareMost = map[ShareBy]float64{ShareByPortions: 400, ShareByGrams: 60000, ShareByPieces: 60, ShareByHandful: 400}

// checkStop returns what is wrong with a stop of the machine, or mm under a pin; "" is none.
func (r *Roll) checkStop(stop, path, label string) []error {
	var labels []string
	for _, s := range r.Kind().Stops {
		labels = append(labels, s.Label)
	}
	allowed := "a stop of this machine is allowed: " + strings.Join(labels, ", ")
	ok := stop == "" || slices.Contains(labels, stop)
	if len(labels) == 0 && stop != "" {
		mm, read := measure.ParseNumber(stop)
		ok, allowed = read && mm >= pinThinMM && mm <= pinThickMM, fmt.Sprintf("%g to %d mm is allowed under a pin",
			pinThinMM, pinThickMM)
	}
	if ok {
		return nil
	}
	return []error{wrong(path, label, stop, allowed)}
}

// checkRanges returns the ranges of minutes whose end comes before their beginning.
func (r *Request) checkRanges() (errs []error) {
	check := func(path, label string, from, to *float64) {
		if from != nil && to != nil && *to < *from {
			errs = append(errs, wrong(path, label, fmt.Sprintf("%g", *to),
				fmt.Sprintf("%g min, the beginning of the range, or longer is allowed, or empty", *from)))
		}
	}
	check("dry.sheet.to_min", "Sheet, to", r.Dry.Sheet.Min, r.Dry.Sheet.ToMin)
	check("dry.pieces.to_min", "Pieces, to", r.Dry.Pieces.Min, r.Dry.Pieces.ToMin)
	check("dry.packing.to_min", "Packing, to", r.Dry.Packing.Min, r.Dry.Packing.ToMin)
	check("cook.to_min", "To", r.Cook.Min, r.Cook.ToMin)
	for i, x := range r.Cut.Also {
		check(fmt.Sprintf("cut.also.%d.cook_to_min", i), "In the pot, to", x.PotMin, x.PotToMin)
	}
	return errs
}

// checkKeep returns what is wrong with keeping and check-weighing.
func (r *Request) checkKeep(ru rules.Rules) (errs []error) {
	if d, where := r.Keep.Days, r.KeptIn(); d != nil && where != "" && strings.TrimSpace(r.Keep.Note) == "" {
		if _, usual := cook.Days(ru.Safety, where, r.AnyKeepsAsRaw()); *d > usual {
			errs = append(errs, wrong("keep.note", "Your reason", "",
				fmt.Sprintf("longer than the usual %s needs your own reason, noted here",
					measure.Days(usual))))
		}
	}
	last := time.Time{}
	for i, x := range r.Dry.Log {
		at, err := measure.At(x.At)
		if err != nil {
			continue
		}
		if !at.After(last) {
			errs = append(errs, wrong(fmt.Sprintf("dry.checks.%d.at", i), "Weighed at", x.At,
				"each weighing is later than the one before it"))
		}
		last = at
	}
	return errs
}

// PinMM reads "8 mm": what a sheet is rolled to by hand, before or between the stops of a machine; false for
// what is a stop.
func PinMM(stop string) (mm float64, ok bool) {
	number, found := strings.CutSuffix(stop, "mm")
	if !found {
		return 0, false
	}
	return measure.ParseNumber(strings.TrimSpace(number))
}

// pinMM are the thinnest and thickest a pin may be said to roll to, mm.
const pinThinMM, pinThickMM = .3, 40

// checkOwn returns the errors of an own way down: its stops are those of the machine, or under a pin
// millimetres.
func (r *Roll) checkOwn() (errs []error) {
	if !r.IsOwn() {
		return nil
	}
	group, _ := GroupNamed("roll.own_passes")
	rolled := len(r.Kind().Stops) == 0
	for i, s := range r.Steps {
		if mm, pin := PinMM(s.Stop); pin && len(r.Kind().Stops) > 0 && mm >= pinThinMM && mm <= pinThickMM {
			continue
		}
		rolled = true
		for _, err := range r.checkStop(s.Stop, group.Path(i, "stop"), fmt.Sprintf("Line %d, stop", i+1)) {
			if e, ok := err.(FieldError); ok && len(r.Kind().Stops) > 0 {
				e.Allowed += "; or under a pin, as in 8 mm"
				err = e
			}
			errs = append(errs, err)
		}
	}
	if !rolled {
		errs = append(errs, wrong(group.Path(0, "stop"), "Line 1, stop", r.Steps[0].Stop,
			"one line at least goes through a stop; a pin alone is a machine of its own"))
	}
	return errs
}
