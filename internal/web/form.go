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
	"time"

	"hollen/internal/core/flour"
	"hollen/internal/core/plan"
	"hollen/internal/store"
)

// newShare is the share a flour starts with when it is first picked.
const newShare = .2

// noFlour is a slot of the blend that holds no flour: kept as usual, not named.
func noFlour() plan.FlourPart {
	f := plan.Default().Flours[0]
	f.Flour, f.Share = "", 0
	return f
}

// padded returns r with the empty slots the page has room for.
func padded(r plan.Request) plan.Request {
	r.Flours, r.Additions, r.Eggs.Also = slices.Clone(r.Flours), slices.Clone(r.Additions), slices.Clone(r.Eggs.Also)
	for len(r.Flours) < plan.MaxFlours {
		r.Flours = append(r.Flours, noFlour())
	}
	for len(r.Additions) < plan.MaxAdditions {
		r.Additions = append(r.Additions, plan.AdditionPart{})
	}
	for len(r.Eggs.Also) < plan.MaxAlso {
		r.Eggs.Also = append(r.Eggs.Also, plan.EggCount{})
	}
	for r.Cut.Also = slices.Clone(r.Cut.Also); len(r.Cut.Also) < plan.MaxShapes; {
		r.Cut.Also = append(r.Cut.Also, plan.ShapePart{})
	}
	for r.Dry.Log = slices.Clone(r.Dry.Log); len(r.Dry.Log) < plan.MaxChecks; {
		r.Dry.Log = append(r.Dry.Log, plan.DryCheck{})
	}
	for r.Acts = slices.Clone(r.Acts); len(r.Acts) < plan.MaxActs; {
		r.Acts = append(r.Acts, plan.Act{})
	}
	return r
}

// form is what a maker typed, bound to a request. Where a field is not allowed the request
// keeps the last good value and the typed text is kept beside its error.
type form struct {
	Request plan.Request
	Page    plan.Request               // the same with its empty slots, as the page shows it
	Typed   map[string]string          // path -> text, for fields in error
	Errors  map[string]plan.FieldError // path -> what is wrong
	units   system
}

// asSaved is the form of a request nobody has typed into.
func asSaved(r plan.Request, u system) form { return form{Request: r, Page: padded(r), units: u} }

// heads name the field of each group that says what stands in a slot; "" there empties it.
var heads = map[string]string{"flours": "flour", "additions": "addition", "eggs.also": "class", "acts": "kind", "cut.also": "shape", "dry.checks": "at"}

// bind applies posted values to base. It honours two more keys: "set" puts values into
// fields (path=value&…) and "step" moves one by a step (path=1 or path=-1), as the page's
// buttons send; what is set is metric, what is typed and stepped is in the system u shows.
// cab is what may be picked from.
func bind(base plan.Request, v url.Values, cab store.Cabinet, u system) form {
	f := form{Request: base, Page: padded(base), Typed: map[string]string{}, Errors: map[string]plan.FieldError{}, units: u}
	sets := url.Values{}
	for _, set := range v["set"] {
		if q, err := url.ParseQuery(set); err == nil {
			maps.Copy(sets, q)
		}
	}
	was := f.Page
	for _, field := range plan.Fields() {
		typed, ok := v[field.Path]
		if text, isSet := sets[field.Path]; isSet {
			f.set(field, text[len(text)-1], cab)
		} else if shown := u.in(field); ok && (!shown.Rounded || typed[len(typed)-1] != shown.Get(&was)) {
			f.set(shown, typed[len(typed)-1], cab) // what was rounded for the page stays what it is
		}
	}
	f.fillSlots(base)
	if was := v.Get("was_shape"); was != "" {
		f.freshShape(was)
	}
	f.step(v.Get("step"))
	for path := range f.Errors {
		if !f.Page.Amount.Counts(path) {
			delete(f.Errors, path) // what was typed stays, but nothing hangs on it
		}
	}
	f.blend(base)
	f.check(base)
	f.fallBack(base)
	return f
}

// set puts typed text into one field of the page.
func (f *form) set(field plan.Field, typed string, cab store.Cabinet) {
	r, text := &f.Page, typed
	group, slot, part := slotOf(field)
	switch {
	case part == heads[group] && group != "":
		if text == "" && (group != "flours" || slot > 0) {
			f.empty(group, slot)
			return
		}
	case group != "" && f.isEmpty(group, slot):
		return // what stands beside nothing
	case group == "flours" && part == "share" && slot == 0:
		return // the first flour takes the rest
	case (part == "share" || part == "count" || part == "portions") && text == "" && field.Get(r) == "0":
		return // it starts with what is usual
	case group == "acts" && part == "stage" && text == "":
		return
	case group == "flours" && part == "share":
		text = f.gramsAsShare(text)
	case part == "measured_moisture_wb":
		text = f.dryingAsMoisture(text)
	}
	var err error
	if strings.HasPrefix(text, flour.OwnPrefix) && field.Kind == plan.Choice {
		err = f.pick(field, text, cab)
	} else {
		err = field.Set(r, text)
	}
	if err != nil {
		f.refuse(err, typed)
	}
}

// anew, behind the key of a thing of the workshop's own, takes its figures from the cabinet
// once more.
const anew = "@now"

// pick puts a thing of the cabinet into a field, as it is now. A batch that holds it already
// keeps the figures it was made with, unless they are asked for anew.
func (f *form) pick(field plan.Field, text string, cab store.Cabinet) error {
	key, fresh := strings.CutSuffix(text, anew)
	if has := field.KeptBy(&f.Page); has != nil && has.Key == key && !fresh {
		return nil
	}
	for _, x := range offers(cab, field, &f.Page) {
		if x.Key == key && field.Pick(&f.Page, key, x.Value) {
			if fresh {
				f.Typed[field.Path] = text // the form asks for it until it is saved
			}
			return nil
		}
	}
	return plan.FieldError{Path: field.Path, Label: field.Label, Value: text, Allowed: "it is not in the cabinet any more, or does not go here; pick another"}
}

// offers returns what of the cabinet a field may hold: lots only of the flour beside it.
func offers(cab store.Cabinet, field plan.Field, r *plan.Request) (out []plan.Kept) {
	group, slot, part := slotOf(field)
	switch {
	case group == "flours" && part == "flour":
		for _, x := range cab.Flours {
			out = append(out, plan.Kept{Key: x.Key, Name: x.Name, Value: x})
		}
	case group == "flours" && part == "lot":
		for _, x := range cab.Lots {
			if x.Flour == r.Flours[slot].Flour {
				out = append(out, plan.Kept{Key: x.Key, Name: x.Name, Value: x})
			}
		}
	case group == "additions" && part == "addition":
		for _, x := range cab.Additions {
			out = append(out, plan.Kept{Key: x.Key, Name: x.Name, Value: x})
		}
	case field.Path == "cut.shape", group == "cut.also" && part == "shape":
		for _, x := range cab.Shapes {
			out = append(out, plan.Kept{Key: x.Key, Name: x.Sized(), Value: x})
		}
	case field.Path == "roll.machine":
		for _, x := range cab.Machines {
			out = append(out, plan.Kept{Key: x.Key, Name: x.Name, Value: x})
		}
	case group == "eggs.also" && part == "class", field.Path == "eggs.class":
		for _, x := range cab.Eggs {
			out = append(out, plan.Kept{Key: x.Key, Name: fmt.Sprintf("%s, %.1f g", x.Name, x.EdibleG), Value: x})
		}
	}
	return out
}

// isEmpty says whether a slot of a group holds nothing.
func (f *form) isEmpty(group string, slot int) bool {
	switch group {
	case "flours":
		return f.Page.Flours[slot].Flour == ""
	case "additions":
		return f.Page.Additions[slot].Addition == ""
	case "acts":
		return f.Page.Acts[slot].Kind == ""
	case "cut.also":
		return f.Page.Cut.Also[slot].Shape == ""
	case "dry.checks":
		return f.Page.Dry.Log[slot].At == ""
	}
	return f.Page.Eggs.Also[slot].Class == ""
}

// empty clears a slot of a group; a flour's keeping stays for the next one.
func (f *form) empty(group string, slot int) {
	switch group {
	case "flours":
		x := &f.Page.Flours[slot]
		x.Flour, x.Share, x.Own, x.Lot, x.LotKept, x.PricePerKG = "", 0, nil, "", nil, nil
	case "additions":
		f.Page.Additions[slot] = plan.AdditionPart{}
	case "acts":
		f.Page.Acts[slot] = plan.Act{}
	case "cut.also":
		f.Page.Cut.Also[slot] = plan.ShapePart{}
	case "dry.checks":
		f.Page.Dry.Log[slot] = plan.DryCheck{}
	default:
		f.Page.Eggs.Also[slot] = plan.EggCount{}
	}
}

// fillSlots gives what was picked anew its usual amount, and flours the keeping of their lots.
func (f *form) fillSlots(base plan.Request) {
	was := padded(base)
	for i := range f.Page.Flours {
		f.Page.Flours[i].Settle(f.Page.MadeOn)
	}
	for i := range f.Page.Additions {
		a, b := &f.Page.Additions[i], was.Additions[i]
		if other := a.Addition != b.Addition; a.Addition != "" && (a.Share == 0 || other && a.Share == b.Share) {
			a.Share = a.Kind().StartShare()
		}
	}
	for i := range f.Page.Acts {
		if a := &f.Page.Acts[i]; a.Kind != "" && a.Stage == "" {
			a.Stage = plan.AtKnead
		}
	}
	for i := range f.Page.Cut.Also {
		if x := &f.Page.Cut.Also[i]; x.Shape != "" && x.Portions == 0 {
			x.Portions = 1
		}
	}
	for i := range f.Page.Eggs.Also {
		if e := &f.Page.Eggs.Also[i]; e.Class != "" && e.Count == 0 {
			e.Count = 1
		}
	}
}

// freshShape forgets what was changed of the former shape when another is picked: a width for
// ribbons is none for ravioli. was is the shape the form was drawn with.
func (f *form) freshShape(was string) {
	c := &f.Page.Cut
	if c.Shape == was {
		return
	}
	for _, path := range []string{"cut.width_mm", "cut.long_mm", "cut.min_length_mm", "cut.max_length_mm", "cut.nest_g", "cut.piece_g", "cut.filling.piece_g"} {
		delete(f.Errors, path)
		delete(f.Typed, path)
	}
	c.Width, c.Long, c.Min, c.Max, c.NestG, c.PieceG, c.Filling.PieceG, c.Tool = nil, nil, nil, nil, nil, nil, nil, ""
}

// slotOf returns which group a field belongs to, which slot of it and which part; no group
// for the other fields.
func slotOf(field plan.Field) (group string, slot int, part string) {
	if field.Group == "" {
		return "", 0, ""
	}
	n, part, _ := strings.Cut(strings.TrimPrefix(field.Path, field.Group+"."), ".")
	slot, err := strconv.Atoi(n)
	if err != nil {
		return "", 0, ""
	}
	return field.Group, slot, part
}

// gramsAsShare reads "200 g" or "7 oz" as a share, in %, of the flour in all; other text is left as
// it is.
func (f *form) gramsAsShare(text string) string {
	text = strings.TrimSpace(text)
	g, ok := strings.CutSuffix(text, "g")
	k := 1.
	if !ok {
		g, ok = strings.CutSuffix(text, "oz")
		k = 1 / customaryUnits["g"].by
	}
	n, isNumber := plan.ParseNumber(g)
	if n *= k; !ok || !isNumber {
		return text
	}
	p, err := plan.Make(f.whole())
	if err != nil {
		return text
	}
	return strconv.FormatFloat(100*n/(p.Formula.FlourG-p.Formula.Pick.FlourAddG), 'f', 4, 64)
}

// dryingAsMoisture reads "20/17.6", a sample before and after drying, as its moisture in %;
// other text is left as it is.
func (f *form) dryingAsMoisture(text string) string {
	before, after, ok := strings.Cut(text, "/")
	a, okA := plan.ParseNumber(before)
	b, okB := plan.ParseNumber(after)
	m, err := flour.LossOnDrying(a, b)
	if !ok || !okA || !okB || err != nil {
		return text
	}
	return strconv.FormatFloat(100*m, 'f', 2, 64)
}

// blend makes the shares add up: the first flour takes what the others leave. When they
// leave less than its least, the blend goes back to base and the error says so.
func (f *form) blend(base plan.Request) {
	first, _ := plan.FieldAt("flours.0.share")
	slots := f.Page.Flours
	rest := 1.
	for i := 1; i < len(slots); i++ {
		if slots[i].Flour == "" {
			continue
		}
		if slots[i].Share == 0 {
			slots[i].Share = newShare
		}
		rest -= slots[i].Share
	}
	if rest < first.Min-1e-9 {
		f.Errors[first.Path] = plan.FieldError{Path: first.Path, Label: first.Label, Value: fmt.Sprintf("%.0f %%", 100*(1-rest)),
			Allowed: "the other flours may make 99 % at most, the first takes the rest"}
		for i := 1; i < len(slots); i++ {
			if slots[i].Flour != "" {
				p := fmt.Sprintf("flours.%d.share", i)
				field, _ := plan.FieldAt(p)
				f.Typed[p] = field.Get(&f.Page)
			}
		}
		f.Request = f.whole()
		f.Request.Flours = slices.Clone(base.Flours)
		return
	}
	slots[0].Share = math.Round(rest*1e6) / 1e6
	f.Request = f.whole()
}

// whole returns the request without the empty slots.
func (f *form) whole() plan.Request {
	r := f.Page
	r.Flours = slices.DeleteFunc(slices.Clone(r.Flours), func(x plan.FlourPart) bool { return x.Flour == "" })
	r.Additions = slices.DeleteFunc(slices.Clone(r.Additions), func(x plan.AdditionPart) bool { return x.Addition == "" })
	r.Eggs.Also = slices.DeleteFunc(slices.Clone(r.Eggs.Also), func(x plan.EggCount) bool { return x.Class == "" })
	r.Acts = slices.DeleteFunc(slices.Clone(r.Acts), func(x plan.Act) bool { return x.Kind == "" })
	r.Cut.Also = slices.DeleteFunc(slices.Clone(r.Cut.Also), func(x plan.ShapePart) bool { return x.Shape == "" })
	r.Dry.Log = slices.DeleteFunc(slices.Clone(r.Dry.Log), func(x plan.DryCheck) bool { return x.At == "" })
	sum := 0.
	for _, x := range r.Flours {
		sum += x.Share
	}
	r.Flours[0].Share += 1 - sum
	return r
}

// notPast refuses a time to roll that has just been set and is over by the kitchen's clock.
func (f *form) notPast(base plan.Request, now time.Time) {
	field, _ := plan.FieldAt("clock.roll_at")
	wish := field.Get(&f.Request)
	at, err := plan.At(wish)
	if err != nil || wish == field.Get(&base) {
		return
	}
	if clock, err := plan.At(now.Format("2006-01-02T15:04")); err == nil && at.Before(clock) {
		f.refuse(plan.FieldError{Path: field.Path, Label: field.Label, Value: wish, Allowed: "it is past: the clock here says " + clock.Format("15:04 on 2 January")}, wish)
		f.back(field, base)
	}
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
	field = f.units.in(field)
	n, err := strconv.Atoi(by)
	if !ok || !known || err != nil || n != 1 && n != -1 || field.Step == 0 {
		return
	}
	from := field.Get(&f.Page)
	if from == "" {
		if p, err := plan.Make(f.whole()); err == nil {
			from = f.units.auto(field, automatic(p)[path])
		}
	}
	next, ok := field.Stepped(from, n)
	if !ok {
		return
	}
	delete(f.Errors, path)
	delete(f.Typed, path)
	if err := field.Set(&f.Page, next); err != nil {
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
		f.back(field, base)
		if f.Request.Check() != nil {
			// Its partner is to blame as well: both go back.
			for _, p := range []string{"cut.shape", "cut.min_length_mm", "cut.max_length_mm"} {
				partner, _ := plan.FieldAt(p)
				if typed := partner.Get(&f.Request); typed != partner.Get(&base) {
					f.Typed[p] = typed
				}
				f.back(partner, base)
			}
		}
	}
}

// fallBack takes base for whatever is still not allowed; the page shows what was typed, and
// the figures are those of the last good request.
func (f *form) fallBack(base plan.Request) {
	if f.Request.Check() != nil {
		f.Request = base
	}
}

// back puts a field back to what it is in base.
func (f *form) back(field plan.Field, base plan.Request) {
	was := field.Get(&base)
	_ = field.Set(&f.Request, was) // it stood there before
	_ = field.Set(&f.Page, was)
}

func unjoin(err error) []error {
	if j, ok := err.(interface{ Unwrap() []error }); ok {
		return j.Unwrap()
	}
	return []error{err}
}

// merge puts what changed from base to mine onto theirs. Where both changed a field, mine
// stands; flours, additions and other eggs are each taken whole. The list tells what happened
// meanwhile.
func merge(base, mine, theirs plan.Request) (merged plan.Request, meanwhile []Clash) {
	merged = theirs
	ours, groups := map[string]plan.Change{}, map[string]bool{}
	for _, c := range plan.Changes(base, mine) {
		ours[c.Field.Path] = c
		groups[c.Field.Group] = true
		if kept := c.Field.KeptBy(&mine); kept != nil && c.Field.Group == "" {
			c.Field.Pick(&merged, kept.Key, kept.Value)
		} else if c.Field.Group == "" {
			_ = c.Field.Set(&merged, c.To)
		}
	}
	delete(groups, "")
	if groups["flours"] {
		merged.Flours = slices.Clone(mine.Flours)
	}
	if groups["additions"] {
		merged.Additions = slices.Clone(mine.Additions)
	}
	if groups["acts"] {
		merged.Acts = slices.Clone(mine.Acts)
	}
	if groups["cut.also"] {
		merged.Cut.Also = slices.Clone(mine.Cut.Also)
	}
	if groups["dry.checks"] {
		merged.Dry.Log = slices.Clone(mine.Dry.Log)
	}
	if groups["eggs.also"] {
		merged.Eggs.Also = slices.Clone(mine.Eggs.Also)
	}
	for _, c := range plan.Changes(base, theirs) {
		x := Clash{Label: c.Field.Label, Was: c.FromShown, Theirs: c.ToShown}
		if o, both := ours[c.Field.Path]; both && o.To != c.To {
			x.Mine = o.ToShown
		} else if groups[c.Field.Group] {
			x.Mine = c.FromShown
		}
		meanwhile = append(meanwhile, x)
	}
	return merged, meanwhile
}

// Clash is one thing another window changed meanwhile, and what is kept of ours.
type Clash struct{ Label, Was, Theirs, Mine string }
