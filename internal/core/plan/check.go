package plan

import (
	"errors"
	"fmt"
	"math"
	"reflect"
	"strings"
	"time"

	"hollen/internal/core/cook"
	"hollen/internal/core/cut"
	"hollen/internal/core/egg"
	"hollen/internal/core/rules"
)

// Counts says whether the field of that path counts: of the amounts only the one By names
// does, every other field always.
func (a Amount) Counts(path string) bool {
	by, ok := map[string]string{"amount.portions": "portions", "amount.dough_g": "dough", "amount.flour_g": "flour", "amount.egg_g": "eggs"}[path]
	return !ok || by == a.By
}

// Check returns a joined FieldError for everything in r that is not allowed.
func (r *Request) Check() error {
	var errs []error
	if r.Format != RequestFormat {
		errs = append(errs, FieldError{"format", "Format", r.Format, "only " + RequestFormat + " is"})
	}
	if n := len(r.Flours); n < 1 || n > MaxFlours {
		return errors.Join(append(errs, FieldError{"flours", "Flours", fmt.Sprint(n), "1 to 5 flours are allowed"})...)
	}
	sum := 0.
	for _, f := range r.Flours {
		sum += f.Share
	}
	if n := len(r.Additions); n > MaxAdditions {
		errs = append(errs, FieldError{"additions", "Additions", fmt.Sprint(n), fmt.Sprintf("at most %d are allowed", MaxAdditions)})
	}
	if n := len(r.Acts); n > MaxActs {
		errs = append(errs, FieldError{"acts", "Acts", fmt.Sprint(n), fmt.Sprintf("at most %d are recorded", MaxActs)})
	}
	if n := len(r.Cut.Also); n > MaxShapes {
		errs = append(errs, FieldError{"cut.also", "Other shapes", fmt.Sprint(n), fmt.Sprintf("at most %d are allowed", MaxShapes)})
	}
	if n := len(r.Dry.Log); n > MaxChecks {
		errs = append(errs, FieldError{"dry.checks", "Check-weighings", fmt.Sprint(n), fmt.Sprintf("at most %d are allowed", MaxChecks)})
	}
	for i, x := range r.Cut.Also {
		if x.Shape == "" {
			errs = append(errs, FieldError{fmt.Sprintf("cut.also.%d.shape", i), "Another shape", "", "a shape that is not there is left out of the list"})
		}
	}
	for i, a := range r.Acts {
		if a.Kind == "" {
			errs = append(errs, FieldError{fmt.Sprintf("acts.%d.kind", i), "Done", "", "an act that is not there is left out of the list"})
		}
	}
	if n := len(r.Eggs.Also); n > MaxAlso {
		errs = append(errs, FieldError{"eggs.also", "Other eggs", fmt.Sprint(n), fmt.Sprintf("at most %d other classes are allowed", MaxAlso)})
	}
	for _, f := range Fields() {
		if !f.Has(r) || !r.Amount.Counts(f.Path) {
			continue // a figure that does not count may be anything
		}
		if own := f.KeptBy(r); own != nil {
			if err := own.sound(f.Get(r)); err != nil {
				errs = append(errs, FieldError{f.Path, f.Label, f.Get(r), err.Error()})
			}
		} else if err := f.Check(r); err != nil {
			errs = append(errs, err)
		}
	}
	for i, a := range r.Additions {
		if a.Addition == "" {
			errs = append(errs, FieldError{fmt.Sprintf("additions.%d.addition", i), "Addition", "", "an addition that is not there is left out of the list"})
		}
	}
	for i, e := range r.Eggs.Also {
		if e.Class == "" {
			errs = append(errs, FieldError{fmt.Sprintf("eggs.also.%d.class", i), "Other eggs", "", "eggs that are not there are left out of the list"})
		}
	}
	if len(errs) == 0 {
		if math.Abs(sum-1) > .001 {
			errs = append(errs, FieldError{"flours", "Flours", fmt.Sprintf("%.4g", sum), "the shares must add up to 1"})
		}
		if c := r.Eggs.class(); c.YolkG > .7*c.EdibleG {
			errs = append(errs, FieldError{"eggs.own_yolk_g", "Your yolk", fmt.Sprintf("%g", c.YolkG), fmt.Sprintf("at most 70 %% of the egg, %g g, is yolk", c.EdibleG)})
		}
		if r.Amount.By == "eggs" && r.Eggs.Style == egg.NoEgg {
			errs = append(errs, FieldError{"amount.by", "Make it by", r.Amount.By, "a dough without egg goes by portions, dough or flour"})
		}
		if from, errF := At(r.Clock.From); errF == nil {
			if to, errT := At(r.Clock.RollAt); errT == nil && !to.After(from) {
				errs = append(errs, FieldError{"clock.roll_at", "I roll at", r.Clock.RollAt, "it must be after the start, " + r.Clock.From})
			}
		}
		errs = append(errs, r.checkCut()...)
		errs = append(errs, r.checkKeep()...)
	}
	return errors.Join(errs...)
}

// sound returns what is wrong with a thing of the workshop's own that stands under that key.
func (k Kept) sound(key string) error {
	if k.Key != key || !strings.HasPrefix(key, ownPrefix) {
		return fmt.Errorf("its key must be %q, as the field's, and begin with %s", key, ownPrefix)
	}
	return k.check()
}

// Same says whether two kept things have the same figures.
func Same(a, b Kept) bool { return reflect.DeepEqual(a.Value, b.Value) }

// checkCut returns what is wrong with the shapes together.
func (r *Request) checkCut() (errs []error) {
	s := r.sized(0)
	if lo, hi := r.lengths(); s.Family == cut.Ribbon && lo > hi {
		errs = append(errs, FieldError{"cut.max_length_mm", "Longest ribbon", fmt.Sprintf("%g", hi), fmt.Sprintf("it cannot be under the shortest ribbon, %g mm", lo)})
	} else if err := s.Check(); err != nil {
		line, _, _ := strings.Cut(err.Error(), "\n")
		key, text, _ := strings.Cut(line, ": ")
		f, ok := FieldAt("cut." + key)
		if !ok {
			f, _ = FieldAt("cut.shape")
		}
		errs = append(errs, FieldError{f.Path, f.Label, f.Get(r), text})
	}
	rest := r.Amount.Portions
	for i, x := range r.Cut.Also {
		if other := x.Kind(); s.Family == cut.Formed || other.Family == cut.Formed {
			errs = append(errs, FieldError{fmt.Sprintf("cut.also.%d.shape", i), "Another shape", x.Shape, "what is formed from a rope is a batch of its own"})
		}
		if rest -= x.Portions; rest < 1 && r.Amount.By == "portions" {
			errs = append(errs, FieldError{fmt.Sprintf("cut.also.%d.portions", i), "Portions", fmt.Sprintf("%g", x.Portions), fmt.Sprintf("of %g portions in all at least one stays for the first shape", r.Amount.Portions)})
			break
		}
	}
	return errs
}

// checkKeep returns what is wrong with keeping and check-weighing.
func (r *Request) checkKeep() (errs []error) {
	if d, where := r.Keep.Days, r.kept(); d != nil && where != "" && strings.TrimSpace(r.Keep.Note) == "" {
		if _, usual := cook.Days(rules.Default().Safety, where, r.RawFilling()); *d > usual {
			errs = append(errs, FieldError{"keep.note", "Your reason", "", fmt.Sprintf("longer than the usual %s needs your own reason, noted here", days(usual))})
		}
	}
	last := time.Time{}
	for i, x := range r.Dry.Log {
		at, err := At(x.At)
		if err != nil {
			continue
		}
		if !at.After(last) {
			errs = append(errs, FieldError{fmt.Sprintf("dry.checks.%d.at", i), "Weighed at", x.At, "each weighing is later than the one before it"})
		}
		last = at
	}
	return errs
}
