package web

import (
	"errors"
	"maps"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"hollen/internal/core/plan"
)

// pageFlours is how many flours the batch page shows.
const pageFlours = 2

// secondShare is the share the first flour keeps when a second one is first picked.
const secondShare = .8

// noFlour is the second flour of a batch that has none: kept as usual, not named.
func noFlour() plan.FlourPart {
	f := plan.Default().Flours[0]
	f.Flour, f.Share = "", 0
	return f
}

// form is what a maker typed, bound to a request. Where a field is not allowed the request
// keeps the last good value and the typed text is kept beside its error.
type form struct {
	Request plan.Request
	Typed   map[string]string          // path -> text, for fields in error
	Errors  map[string]plan.FieldError // path -> what is wrong
}

// bind applies posted values to base. It honours two more keys: "set" puts values into
// fields (path=value&…) and "step" moves one by a step (path=1 or path=-1), as the page's
// buttons send when no script runs.
func bind(base plan.Request, v url.Values) form {
	v = maps.Clone(v)
	f := form{Request: base, Typed: map[string]string{}, Errors: map[string]plan.FieldError{}}
	r := &f.Request
	r.Flours = slices.Clone(base.Flours)
	single := len(r.Flours) == 1
	if single {
		r.Flours = append(r.Flours, noFlour())
	}
	for _, set := range v["set"] {
		if q, err := url.ParseQuery(set); err == nil {
			maps.Copy(v, q)
		}
	}
	noSecond := single
	if _, ok := v["flours.1.flour"]; ok {
		noSecond = v.Get("flours.1.flour") == ""
	}
	for _, field := range plan.Fields(len(r.Flours)) {
		typed, ok := v[field.Path]
		switch {
		case !ok || field.Path == "flours.1.share":
			continue
		case noSecond && (strings.HasPrefix(field.Path, "flours.1.") || field.Path == "flours.0.share"):
			continue
		}
		if err := field.Set(r, typed[len(typed)-1]); err != nil {
			f.refuse(err, typed[len(typed)-1])
		}
	}
	f.step(v.Get("step"))
	switch {
	case noSecond || len(r.Flours) == 2 && r.Flours[1].Flour == "":
		r.Flours = r.Flours[:1]
		r.Flours[0].Share = 1
	case len(r.Flours) == 2:
		if r.Flours[0].Share > .995 {
			r.Flours[0].Share = secondShare
		}
		r.Flours[1].Share = 1 - r.Flours[0].Share
	}
	f.check(base)
	return f
}

func (f *form) refuse(err error, typed string) {
	var fe plan.FieldError
	if errors.As(err, &fe) {
		f.Errors[fe.Path], f.Typed[fe.Path] = fe, typed
	}
}

// step moves one field by its step, from the value shown.
func (f *form) step(s string) {
	path, by, ok := strings.Cut(s, "=")
	field, known := plan.FieldAt(path)
	n, err := strconv.Atoi(by)
	if !ok || !known || err != nil || n != 1 && n != -1 || field.Step == 0 || len(f.Request.Flours) < 2 && strings.HasPrefix(path, "flours.1") {
		return
	}
	old := f.Request
	old.Flours = slices.Clone(old.Flours)
	from := field.Get(&f.Request)
	if from == "" {
		if p, err := plan.Make(f.whole()); err == nil {
			from = automatic(p)[path]
		}
	}
	next, ok := field.Stepped(from, n)
	if !ok {
		return
	}
	delete(f.Errors, path)
	delete(f.Typed, path)
	if err := field.Set(&f.Request, next); err != nil {
		f.refuse(err, next)
	}
}

// whole returns the request without an empty second flour.
func (f *form) whole() plan.Request {
	r := f.Request
	if len(r.Flours) == 2 && r.Flours[1].Flour == "" {
		r.Flours = []plan.FlourPart{r.Flours[0]}
		r.Flours[0].Share = 1
	}
	return r
}

// check looks at what concerns several fields at once. A field it blames goes back to what
// it was in base, its text kept.
func (f *form) check(base plan.Request) {
	err := f.Request.Check()
	if err == nil {
		return
	}
	for _, e := range unjoin(err) {
		var fe plan.FieldError
		if !errors.As(e, &fe) {
			continue
		}
		field, ok := plan.FieldAt(fe.Path)
		if !ok {
			continue
		}
		f.refuse(fe, field.Get(&f.Request))
		if back := field.Get(&base); field.Set(&f.Request, back) == nil && f.Request.Check() != nil {
			// Its partner is to blame as well: both go back.
			for _, p := range []string{"cut.shape", "cut.min_length_mm", "cut.max_length_mm"} {
				partner, _ := plan.FieldAt(p)
				if typed := partner.Get(&f.Request); typed != partner.Get(&base) {
					f.Typed[p] = typed
				}
				_ = partner.Set(&f.Request, partner.Get(&base))
			}
		}
	}
}

func unjoin(err error) []error {
	if j, ok := err.(interface{ Unwrap() []error }); ok {
		return j.Unwrap()
	}
	return []error{err}
}

// merge puts what changed from base to mine onto theirs. Where both changed a field, mine
// stands; both lists tell what happened.
func merge(base, mine, theirs plan.Request) (merged plan.Request, meanwhile []Clash) {
	merged = theirs
	merged.Flours = slices.Clone(theirs.Flours)
	ours := map[string]plan.Change{}
	for _, c := range plan.Changes(base, mine) {
		ours[c.Field.Path] = c
	}
	floursMine := false
	for path := range ours {
		floursMine = floursMine || strings.HasPrefix(path, "flours.")
	}
	if floursMine {
		merged.Flours = slices.Clone(mine.Flours)
	}
	for _, c := range ours {
		if !strings.HasPrefix(c.Field.Path, "flours.") {
			_ = c.Field.Set(&merged, c.To)
		}
	}
	for _, c := range plan.Changes(base, theirs) {
		x := Clash{Label: c.Field.Label, Was: c.FromShown, Theirs: c.ToShown}
		if o, both := ours[c.Field.Path]; both && o.To != c.To {
			x.Mine = o.ToShown
		} else if floursMine && strings.HasPrefix(c.Field.Path, "flours.") {
			x.Mine = c.Field.Say(c.From)
		}
		meanwhile = append(meanwhile, x)
	}
	return merged, meanwhile
}

// Clash is one thing another window changed meanwhile, and what is kept of ours.
type Clash struct{ Label, Was, Theirs, Mine string }
