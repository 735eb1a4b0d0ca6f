package web

import (
	"errors"
	"fmt"
	"maps"
	"math"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"hollen/internal/core/flour"
	"hollen/internal/core/plan"
)

// newShare is the share a flour starts with when it is first picked.
const newShare = .2

// noFlour is a slot of the blend that holds no flour: kept as usual, not named.
func noFlour() plan.FlourPart {
	f := plan.Default().Flours[0]
	f.Flour, f.Share = "", 0
	return f
}

// slots returns the flours with the empty slots the page has room for.
func slots(flours []plan.FlourPart) []plan.FlourPart {
	out := slices.Clone(flours)
	for len(out) < plan.MaxFlours {
		out = append(out, noFlour())
	}
	return out
}

// form is what a maker typed, bound to a request. Where a field is not allowed the request
// keeps the last good value and the typed text is kept beside its error.
type form struct {
	Request plan.Request
	Slots   []plan.FlourPart           // the blend as the page shows it, empty slots included
	Typed   map[string]string          // path -> text, for fields in error
	Errors  map[string]plan.FieldError // path -> what is wrong
}

// asSaved is the form of a request nobody has typed into.
func asSaved(r plan.Request) form { return form{Request: r, Slots: slots(r.Flours)} }

// bind applies posted values to base. It honours two more keys: "set" puts values into
// fields (path=value&…) and "step" moves one by a step (path=1 or path=-1), as the page's
// buttons send when no script runs. own are the flours of the cabinet.
func bind(base plan.Request, v url.Values, own ...flour.Flour) form {
	v = maps.Clone(v)
	f := form{Request: base, Slots: slots(base.Flours), Typed: map[string]string{}, Errors: map[string]plan.FieldError{}}
	for _, set := range v["set"] {
		if q, err := url.ParseQuery(set); err == nil {
			maps.Copy(v, q)
		}
	}
	r := &f.Request
	r.Flours = f.Slots // bound in place, emptied of what is not named below
	for _, field := range plan.Fields(plan.MaxFlours) {
		typed, ok := v[field.Path]
		if !ok {
			continue
		}
		text := typed[len(typed)-1]
		slot, part := slotOf(field.Path)
		switch {
		case part == "share" && (slot == 0 || f.Slots[slot].Flour == ""):
			continue // the first flour takes the rest; no flour has no share
		case part == "share" && text == "" && f.Slots[slot].Share == 0:
			f.Slots[slot].Share = newShare
			continue
		case part == "share":
			text = f.gramsAsShare(text)
		case part == "flour" && slot > 0 && text == "":
			f.Slots[slot].Flour, f.Slots[slot].Share, f.Slots[slot].Own = "", 0, nil
			continue
		case part == "flour" && strings.HasPrefix(text, flour.OwnPrefix):
			f.pickOwn(slot, field, text, own)
			continue
		}
		if err := field.Set(r, text); err != nil {
			f.refuse(err, typed[len(typed)-1])
		} else if part == "flour" {
			f.Slots[slot].Own = nil
		}
	}
	f.step(v.Get("step"))
	for path := range f.Errors {
		if !r.Amount.Counts(path) {
			delete(f.Errors, path) // what was typed stays, but nothing hangs on it
		}
	}
	f.blend(base)
	f.check(base)
	return f
}

// anew, behind an own flour's key, takes its figures from the cabinet once more.
const anew = "@now"

// pickOwn puts a flour of the cabinet into a slot, as it is now. A batch that holds it
// already keeps the figures it was made with, unless they are asked for anew.
func (f *form) pickOwn(slot int, field plan.Field, text string, own []flour.Flour) {
	key, fresh := strings.CutSuffix(text, anew)
	at := &f.Slots[slot]
	if at.Own != nil && at.Own.Key == key && !fresh {
		return
	}
	for _, x := range own {
		if x.Key == key {
			at.Flour, at.Own = key, &x
			if fresh {
				f.Typed[field.Path] = text // the form asks for it until it is saved
			}
			return
		}
	}
	f.refuse(plan.FieldError{Path: field.Path, Label: field.Label, Value: text, Allowed: "this flour is not in the cabinet any more; pick another"}, text)
}

// slotOf returns which slot of the blend a path is about and which part of it, "" for the
// other paths.
func slotOf(path string) (slot int, part string) {
	rest, ok := strings.CutPrefix(path, "flours.")
	if !ok {
		return 0, ""
	}
	n, part, _ := strings.Cut(rest, ".")
	slot, err := strconv.Atoi(n)
	if err != nil {
		return 0, ""
	}
	return slot, part
}

// gramsAsShare reads "200 g" as a share, in %, of the flour in all; other text is left as
// it is.
func (f *form) gramsAsShare(text string) string {
	g, ok := strings.CutSuffix(strings.TrimSpace(text), "g")
	n, isNumber := plan.ParseNumber(g)
	if !ok || !isNumber {
		return text
	}
	p, err := plan.Make(f.whole())
	if err != nil {
		return text
	}
	return strconv.FormatFloat(100*n/(p.Formula.FlourG-p.Formula.Pick.FlourAddG), 'f', 4, 64)
}

// blend makes the shares add up: the first flour takes what the others leave. When they
// leave less than its least, the blend goes back to base and the error says so.
func (f *form) blend(base plan.Request) {
	first, _ := plan.FieldAt("flours.0.share")
	rest := 1.
	for i := 1; i < len(f.Slots); i++ {
		if f.Slots[i].Flour == "" {
			continue
		}
		if f.Slots[i].Share == 0 {
			f.Slots[i].Share = newShare
		}
		rest -= f.Slots[i].Share
	}
	if rest < first.Min-1e-9 {
		f.Errors[first.Path] = plan.FieldError{Path: first.Path, Label: first.Label, Value: fmt.Sprintf("%.0f %%", 100*(1-rest)),
			Allowed: "the other flours may make 99 % at most, the first takes the rest"}
		for i := 1; i < len(f.Slots); i++ {
			if f.Slots[i].Flour != "" {
				p := fmt.Sprintf("flours.%d.share", i)
				field, _ := plan.FieldAt(p)
				f.Typed[p] = field.Get(&plan.Request{Flours: f.Slots})
			}
		}
		f.Request.Flours = slices.Clone(base.Flours)
		return
	}
	f.Slots[0].Share = math.Round(rest*1e6) / 1e6
	f.Request = f.whole()
}

// whole returns the request without the empty slots.
func (f *form) whole() plan.Request {
	r := f.Request
	r.Flours = nil
	sum := 0.
	for _, x := range f.Slots {
		if x.Flour != "" {
			r.Flours = append(r.Flours, x)
			sum += x.Share
		}
	}
	r.Flours[0].Share += 1 - sum
	return r
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
	if !ok || !known || err != nil || n != 1 && n != -1 || field.Step == 0 {
		return
	}
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
