package request

import (
	"errors"
	"go/ast"
	"go/parser"
	"go/token"
	"math"
	"math/rand/v2"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"testing"

	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/rules"
)

func ptr(v float64) *float64 { return &v }

// leaves calls visit with the address of every figure, word and flag in v that a maker says,
// and its path; things of the workshop's own are picked, not said.
func leaves(path string, v reflect.Value, visit func(path string, at any)) {
	switch v.Kind() {
	case reflect.Struct:
		for i := range v.NumField() {
			name, _, _ := strings.Cut(v.Type().Field(i).Tag.Get("json"), ",")
			leaves(strings.TrimPrefix(path+"."+name, "."), v.Field(i), visit)
		}
	case reflect.Slice:
		for i := range v.Len() {
			leaves(path+"."+strconv.Itoa(i), v.Index(i), visit)
		}
	default:
		if own := v.Kind() == reflect.Pointer && v.Type().Elem().Kind() == reflect.Struct; !own && path != "format" {
			visit(path, v.Addr().Interface())
		}
	}
}

// Every part of a request that a maker says has its field, of a kind that holds it, and every
// field reads and writes it.
func TestTheTableCoversTheRequest(t *testing.T) {
	r := Padded(Default())
	fields := map[any]Field{}
	for _, f := range Fields() {
		if was, twice := fields[f.at(&r)]; twice {
			t.Errorf("%s and %s are one", was.Path, f.Path)
		}
		fields[f.at(&r)] = f
		if _, ok := FieldAt(f.Path); !ok || f.Label == "" || f.Stage == "" {
			t.Errorf("%s is not found, or not named: %+v", f.Path, f)
		}
	}
	n := 0
	leaves("", reflect.ValueOf(&r).Elem(), func(path string, at any) {
		n++
		f, ok := fields[at]
		if !ok {
			t.Errorf("%s has no field", path)
			return
		}
		kinds := map[Kind]bool{}
		switch v := reflect.ValueOf(at).Elem(); {
		case v.Kind() == reflect.Bool:
			kinds[Flag] = true
		case v.Kind() == reflect.String:
			kinds[Choice], kinds[Text], kinds[Date], kinds[Moment] = true, true, true, true
		case v.Type() == reflect.TypeFor[*float64](), v.Kind() == reflect.Float64:
			kinds[Number], kinds[Whole] = true, true
			if f.Step <= 0 || f.Max <= f.Min {
				t.Errorf("%s: %v to %v in steps of %v", path, f.Min, f.Max, f.Step)
			}
		default:
			kinds[Price] = true
		}
		if !kinds[f.Kind] {
			t.Errorf("%s is %T and its field a %s", path, at, f.Kind)
		}
	})
	if n != len(fields) || n < 100 {
		t.Errorf("%d parts, %d fields", n, len(fields))
	}
}

// Every value of every named choice may be chosen.
func TestEveryValueMayBeChosen(t *testing.T) {
	file, err := parser.ParseFile(token.NewFileSet(), "choices.go", nil, 0)
	if err != nil {
		t.Fatal(err)
	}
	r, options := Padded(Default()), map[string]map[string]bool{}
	for _, f := range Fields() {
		if f.Kind != Choice {
			continue
		}
		of := reflect.TypeOf(f.at(&r)).Elem().Name()
		if options[of] == nil {
			options[of] = map[string]bool{}
		}
		for _, o := range append(slices.Clone(f.Options), f.Gone...) { // also what makings were begun with
			options[of][strconv.Quote(o.Key)] = true
		}
	}
	n := 0
	ast.Inspect(file, func(node ast.Node) bool {
		if c, ok := node.(*ast.ValueSpec); ok && c.Type != nil { // a table has none
			n++
			if of, value := c.Type.(*ast.Ident).Name, c.Values[0].(*ast.BasicLit).Value; !options[of][value] {
				t.Errorf("%s of %s, %s, cannot be chosen", c.Names[0].Name, of, value)
			}
		}
		return true
	})
	if n < 25 {
		t.Errorf("%d choices found", n)
	}
}

// wander is r with some of its fields set to something else that is allowed.
func wander(rng *rand.Rand, r Request, n int) Request {
	fields := Fields()
	for range n {
		f := fields[rng.IntN(len(fields))]
		v := ""
		switch f.Kind {
		case Choice:
			v = f.Options[rng.IntN(len(f.Options))].Key
		case Flag:
			v = []string{"", "yes"}[rng.IntN(2)]
		case Text:
			v = strconv.Itoa(rng.IntN(1000))
		case Number, Whole:
			v, _ = f.Stepped(f.Shown(f.Min), rng.IntN(5))
		}
		if f.Group == "" {
			_ = f.Set(&r, v)
		}
	}
	if rng.IntN(3) == 0 {
		r.Additions = []AdditionPart{{Addition: "spinach", Share: float64(1+rng.IntN(20)) / 100}}
	}
	return r
}

// What one window alone changed is what comes out; of what both changed, each field is mine.
func TestMergeKeepsBoth(t *testing.T) {
	rng := rand.New(rand.NewPCG(7, 9))
	for range 200 {
		base := wander(rng, Default(), 10)
		mine, theirs := wander(rng, base, 6), wander(rng, base, 6)
		if got, told := Merge(measure.Metric, base, mine, base); len(Changes(got, mine)) > 0 || len(told) > 0 {
			t.Fatalf("mine alone: %+v, told %+v", Changes(got, mine), told)
		}
		if got, told := Merge(measure.Metric, base, base, theirs); len(Changes(got, theirs)) > 0 ||
			len(told) != len(Changes(base, theirs)) {
			t.Fatalf("theirs alone: %+v, told %+v", Changes(got, theirs), told)
		}
		got, told := Merge(measure.Metric, base, mine, theirs)
		if len(told) != len(Changes(base, theirs)) {
			t.Fatalf("told %d of %d", len(told), len(Changes(base, theirs)))
		}
		for _, f := range Fields() {
			b, m, o, is := f.Get(&base), f.Get(&mine), f.Get(&theirs), f.Get(&got)
			if want := m; f.Group == "" {
				if m == b {
					want = o
				}
				if is != want {
					t.Fatalf("%s: %q from %q and %q of %q", f.Path, is, m, o, b)
				}
			}
		}
	}
}

func TestStepped(t *testing.T) {
	for from, want := range map[string]string{"44": "45", "44.6": "45", "99": "99"} {
		f, _ := FieldAt("room.rh")
		if got, ok := f.Stepped(from, 1); !ok || got != want {
			t.Errorf("one step up from %s: %s, want %s", from, got, want)
		}
	}
}

func TestCheckNamesEveryField(t *testing.T) {
	r := Default()
	r.Room.RH, r.Amount.Portions, r.Flours[0].Flour, r.Roll.BenchMM = 1.4, 2.5, "sawdust", math.NaN()
	r.Knead.Min = ptr(0)
	err := r.Check(rules.Default())
	for _, want := range []string{"room.rh: “1.4” is not allowed here; 0.05 to 0.99 (a share) is allowed",
		"amount.portions", "whole",
		"flours.0.flour", "sawdust", "roll.bench_mm", "knead.knead_min"} {
		if err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%v does not name %q", err, want)
		}
	}
	r = Default()
	r.Flours[0].Share = .5
	if err := r.Check(rules.Default()); err == nil || !strings.Contains(err.Error(), "add up to 1") {
		t.Errorf("half a flour: %v", err)
	}
	r = Default()
	r.Cut.Min, r.Cut.Max = ptr(400), ptr(200)
	if err := r.Check(rules.Default()); err == nil {
		t.Error("shortest over longest is accepted")
	}
	r.Flours = nil
	if err := r.Check(rules.Default()); err == nil {
		t.Error("no flour is accepted")
	}
}

func TestSetAndGet(t *testing.T) {
	r := Default()
	for _, c := range []struct{ path, typed, want string }{
		{"room.rh", "62", "62"}, {"room.rh", "62,5", "62.5"}, {"amount.flour_g", "1,250", "1250"}, {"amount.flour_g",
			"1 250", "1250"},
		{"amount.flour_g", "1,250.5", "1250.5"}, {"roll.target_mm", "0,9", "0.9"}, {"roll.target_mm", "", ""},
		{"eggs.move_flour", "on", "yes"},
		{"cut.shape", "pappardelle", "pappardelle"},
	} {
		f, ok := FieldAt(c.path)
		if !ok {
			t.Fatal(c.path)
		}
		if err := f.Set(&r, c.typed); err != nil || f.Get(&r) != c.want {
			t.Errorf("%s %q: %q, %v", c.path, c.typed, f.Get(&r), err)
		}
	}
	for _, c := range []struct{ path, typed string }{
		{"room.rh", "0"}, {"room.rh", "100"}, {"room.rh", "1e9"}, {"room.rh", "damp"}, {"room.rh", ""}, {"room.rh",
			"NaN"}, {"room.rh", "0x20"}, {"room.rh", "-5"},
		{"amount.portions", "2.5"}, {"cut.shape", "square"}, {"name", "   "}, {"name", strings.Repeat("x", 81)},
		{"eggs.fix_whole_eggs", "-1"},
	} {
		f, _ := FieldAt(c.path)
		before := f.Get(&r)
		var fe FieldError
		if err := f.Set(&r, c.typed); !errors.As(err, &fe) || f.Get(&r) != before || fe.ForPage() == "" {
			t.Errorf("%s %q: %v, now %q", c.path, c.typed, err, f.Get(&r))
		}
	}
}

func TestChanges(t *testing.T) {
	a, b := Default(), Default()
	b.Flours = append(b.Flours[:1:1], FlourPart{Flour: "semola-fine", Share: .2, Kept: flour.SealedTub, ContainsKG: 1})
	b.Flours[0].Share = .8
	b.Room.RH = .7
	got := map[string]string{}
	for _, c := range Changes(a, b) {
		got[c.Field.Path] = c.FromShown + " → " + c.ToShown
	}
	if got["room.rh"] != "45 % → 70 %" || got["flours.1.flour"] != "none → Durum semola, fine" ||
		got["flours.0.share"] != "100 % → 80 %" {
		t.Errorf("%v", got)
	}
}
