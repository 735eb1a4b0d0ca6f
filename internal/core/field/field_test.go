package field

import (
	"errors"
	"strings"
	"testing"

	"hollen/internal/core/cost"
	"hollen/internal/core/measure"
)

// Whatever a place is, what is shown of it reads back as it stands, and what is not allowed leaves it as it was.
func TestEveryKindOfPlace(t *testing.T) {
	type word string
	mass, share, minutes, said := 250., .125, 8, word("b")
	price, on := cost.Money(0), true
	var maybe *float64
	var perhaps *cost.Money
	for _, x := range []struct {
		f                   Field
		at                  any
		shown, typed, after string
		bad, allowed        string
	}{
		{Field{Kind: Number, Unit: "g", Min: 10, Max: 20000}, &mass, "250", "1 kg 200 g", "1200", "5",
			"10 to 20,000 g is allowed"},
		{Field{Kind: Number, Unit: "%", Max: .2, Show: 100}, &share, "12.5", "7", "7", "21", "0 to 20 % is allowed"},
		{Field{Kind: Whole, Unit: "min", Min: 1, Max: 60}, &minutes, "8", "half an hour", "30", "8.5",
			"1 to 60 min, whole is allowed"},
		{Field{Kind: Number, Unit: "g", Min: 1, Max: 9, Optional: true}, &maybe, "", "4", "4", "x",
			"1 to 9 g, or empty is allowed"},
		{Field{Kind: Price, Optional: true}, &price, "", "1.25", "1.25", "-1", "0 to 1,000,000 with"},
		{Field{Kind: Price, Optional: true}, &perhaps, "", "2", "2.00", "much", "0 to 1,000,000 with"},
		{Field{Kind: Flag}, &on, "yes", "", "", "", ""},
		{Field{Kind: Choice, Options: []Option{{"a", "A"}, {"b", "B"}}}, &said, "b", "a", "a", "c", "one of a, b"},
		{Field{Kind: Text, Max: 5}, &said, "a", "five5", "five5", "longer", "at most 5 letters on one line"},
		{Field{Kind: Text, Min: 1, Max: 9, Lines: true}, &said, "five5", "a\nb", "a\nb", "", "1 to 9 letters"},
		{Field{Kind: Date}, &said, "a\nb", "2026-11-28", "2026-11-28", "28.11.", "a date from 2000 to 2100"},
		{Field{Kind: Moment}, &said, "2026-11-28", "2026-11-28T09:30", "2026-11-28T09:30", "soon", "a day and a time"},
	} {
		if got := x.f.Get(x.at); got != x.shown {
			t.Errorf("%+v is shown as %q, want %q", x.f, got, x.shown)
		}
		if err := x.f.Set(x.at, x.typed); err != nil || x.f.Get(x.at) != x.after {
			t.Errorf("%q typed into %+v gives %q, %v; want %q", x.typed, x.f, x.f.Get(x.at), err, x.after)
		}
		if err := x.f.Check(x.at); err != nil {
			t.Errorf("%+v: what was taken is not allowed: %v", x.f, err)
		}
		if x.allowed == "" {
			continue
		}
		wrong, is := errors.AsType[Error](x.f.Set(x.at, x.bad))
		if !is || !strings.HasPrefix(wrong.Allowed, x.allowed) || wrong.Value != x.bad {
			t.Errorf("%q typed into %+v: %+v, want %q", x.bad, x.f, wrong, x.allowed)
		}
		if got := x.f.Get(x.at); got != x.after {
			t.Errorf("%+v was %q before what is not allowed, and is %q", x.f, x.after, got)
		}
	}
}

// A number of what, asks the field; it does not guess.
func TestFieldAsks(t *testing.T) {
	g := 1.
	f := Field{Kind: Number, Unit: "g", Max: 1000}
	if wrong, is := errors.AsType[Error](f.Set(&g, "half")); !is || !strings.Contains(wrong.ForPage(), "of what?") {
		t.Errorf("%+v", wrong)
	}
}

// In ounces and inches a field keeps its bounds, and what is shown comes back within half of its last digit.
func TestFieldsTurn(t *testing.T) {
	for _, f := range []Field{{Kind: Number, Unit: "g", Max: 5000, Step: 5}, {Kind: Number, Unit: "mm", Min: 35,
		Max: 2000, Rounded: true, Digits: 2}, {Kind: Number, Unit: "°C", Min: 2, Max: 45, Step: 1}} {
		us := f.In(measure.Customary)
		if us.Unit == f.Unit || us.Min != f.Min || us.Max != f.Max {
			t.Errorf("%+v", us)
		}
		for v := max(f.Min, 1); v < f.Max; v *= 1.37 {
			var back float64
			if err := us.Set(&back, us.Get(&v)); err != nil || back < v*.99 || back > v*1.01+.3 {
				t.Errorf("%g %s is shown as %s %s and comes back as %g, %v", v, f.Unit, us.Get(&v), us.Unit, back, err)
			}
		}
	}
}

// What is shown rounded and comes back untouched stays what it is, however often.
func TestUntouchedStays(t *testing.T) {
	for _, f := range []Field{{Kind: Number, Unit: "g", Max: 5000, Step: 5},
		{Kind: Number, Unit: "mm", Max: 2000, Step: 1},
		{Kind: Number, Unit: "kg", Max: 50, Step: .5}, {Kind: Number, Unit: "°C", Min: 2, Max: 45, Step: 1}} {
		us := f.In(measure.Customary)
		for v := .37; v < f.Max; v *= 1.31 {
			if v < f.Min {
				continue
			}
			is := v
			for range 25 {
				if err := us.Set(&is, us.Get(&is)); err != nil {
					t.Fatal(err)
				}
			}
			if is != v {
				t.Errorf("%g %s has become %g", v, f.Unit, is)
			}
		}
	}
}
