// Package form answers: what does a posted page say? It binds the fields of a form to a
// request.Request, keeps what was typed beside its error where it is not allowed, and has the
// request worked out, once. It knows fields, groups and units, and nothing of HTTP's handlers.
package form

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
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/store"
)

// newShare is the share a flour starts with when it is first picked.
const newShare = .2

// With is what a form is read with.
type With struct {
	Rules   rules.Rules
	Cabinet store.Cabinet  // what may be picked from
	Typed   measure.System // the units it was typed in
	Shown   measure.System // the units it is shown in
	// Learned is what the workshop's log says of a request; nil where there is none.
	Learned func(*request.Request) rules.Learned
}

// RulesOf are the rules a request is worked out by, with what is learned of it.
func (w *With) RulesOf(r *request.Request) rules.Rules {
	ru := w.Rules
	if w.Learned != nil {
		ru.Learned = w.Learned(r)
	}
	return ru
}

// Form is what a maker typed, bound to a request and worked out. Where a field is not allowed
// the request keeps the last good value and the typed text is kept beside its error.
type Form struct {
	Request request.Request
	Page    request.Request               // the same with its empty slots, as the page shows it
	Plan    *plan.Plan                    // of Request, its words in the units shown
	Typed   map[string]string             // path -> text, for fields in error
	Errors  map[string]request.FieldError // path -> what is wrong
	In      measure.System                // the units shown

	with With

	measured []request.Said // what was typed in cups and spoons
}

// Saved is the form of a request nobody has typed into. A request that is not allowed gives
// joined FieldErrors.
func Saved(r request.Request, w With) (Form, error) {
	f := Form{Request: r, Page: request.Padded(r), In: w.Shown, with: w}
	return f, f.work()
}

// work works the request out.
func (f *Form) work() (err error) {
	f.Plan, err = plan.MakeIn(f.with.Shown, f.with.RulesOf(&f.Request), f.Request)
	return err
}

// plainly works a request out in metric, by the rules of the form.
func (f *Form) plainly(r request.Request) (*plan.Plan, error) {
	return plan.Make(f.with.RulesOf(&r), r)
}

// Bind applies posted values to base, which is allowed. It honours two more keys: "set" puts
// values into fields (path=value&…; path=@name|value for what is typed under that name, or else the
// value) and "step" moves one by a step (path=1 or path=-1), as the
// page's buttons send; "list" moves, repeats, adds and takes out lines of a group; what is set is metric, what is typed
// and stepped is in the units w.Typed.
// now is the kitchen's clock.
func Bind(base request.Request, v url.Values, w With, now time.Time) (Form, error) {
	f := Form{Request: base, Page: request.Padded(base), Typed: map[string]string{},
		Errors: map[string]request.FieldError{}, In: w.Shown, with: w}
	sets := url.Values{}
	for _, set := range v["set"] {
		if q, err := url.ParseQuery(set); err == nil {
			maps.Copy(sets, q)
		}
	}
	was := f.Page
	for _, field := range request.Fields() {
		typed, ok := v[field.Path]
		if text, isSet := sets[field.Path]; isSet {
			value := text[len(text)-1]
			// as it stands in another box, or what that one stands for
			if from, named := strings.CutPrefix(value, "@"); named {
				if from, value, _ = strings.Cut(from, "|"); strings.TrimSpace(v.Get(from)) != "" {
					value = v.Get(from)
				}
			}
			f.set(field, value)
			if _, refused := f.Errors[field.Path]; refused && value != text[len(text)-1] {
				f.leave(field) // what could not be read is not recorded
			}
		} else if shown := field.In(w.Typed); ok && (!shown.Rounded || typed[len(typed)-1] != shown.Get(&was)) {
			f.set(shown, typed[len(typed)-1]) // what was rounded for the page stays what it is
		}
	}
	request.Start(&f.Page, &was)
	if was := v.Get("was_shape"); was != "" {
		f.freshShape(was)
	}
	_, set := sets["amount.flour_g"]
	f.takeAmounts(v)
	f.weigh(v, &was, set)
	f.keepMeasured()
	f.step(v.Get("step"))
	f.takeOver(v)
	f.rearrange(v.Get("list"))
	f.headless(v)
	for path := range f.Errors {
		if !f.Page.Amount.Counts(path) {
			delete(f.Errors, path) // what was typed stays, but nothing hangs on it
		}
	}
	f.blend(base)
	f.notPast(base, now)
	return f, f.settle(base)
}

// settle works the request out. Fields that do not go together go back to what they were in
// base, their text kept; where that is not enough base stands, and the page shows what was typed.
func (f *Form) settle(base request.Request) error {
	err := f.work()
	if err == nil {
		return nil
	}
	for _, e := range request.Errors(err) {
		if field, ok := request.FieldAt(e.Path); ok {
			f.refuse(e, field.Get(&f.Request))
			f.back(field, base)
		}
	}
	if err = f.work(); err == nil {
		return nil
	}
	// Its partner is to blame as well: both go back.
	for _, p := range f.partners() {
		partner, _ := request.FieldAt(p)
		if typed := partner.Get(&f.Request); typed != partner.Get(&base) {
			f.Typed[p] = typed
		}
		f.back(partner, base)
	}
	if f.work() != nil {
		f.Request = base
	}
	return f.work()
}

// partners are the fields an error may come from: stops depend on the machine, lengths on the shape.
func (f *Form) partners() []string {
	for path := range f.Errors {
		if field, ok := request.FieldAt(path); ok && field.Part == "stop" {
			return []string{"roll.machine"}
		}
	}
	return []string{"cut.shape", "cut.min_length_mm", "cut.max_length_mm"}
}

// leave empties the slot a field belongs to.
func (f *Form) leave(field request.Field) {
	if group, slot, _, ok := request.GroupOf(field); ok {
		group.Empty(&f.Page, slot)
	}
}

// set puts typed text into one field of the page.
func (f *Form) set(field request.Field, typed string) {
	r, text := &f.Page, typed
	group, slot, part, inGroup := request.GroupOf(field)
	switch {
	case inGroup && part == group.Head:
		if text == "" && slot >= group.Least {
			group.Empty(r, slot)
			return
		}
	case inGroup && !group.Holds(r, slot):
		return // what stands beside nothing
	case field.Path == firstShare:
		return // the first flour takes the rest
	case text == "" && (part == "share" || part == "count" || part == "portions" || part == "stage" || part == "min") &&
		(field.Get(r) == "0" || part == "stage"):
		return // it starts with what is usual
	case part == "measured_moisture_wb":
		text = dryingAsMoisture(text)
	default:
		text = f.asSpooned(field, text)
	}
	var err error
	if strings.HasPrefix(text, flour.OwnPrefix) && field.Kind == request.Choice {
		err = f.pick(field, text)
	} else {
		err = field.Set(r, text)
	}
	if err != nil {
		f.refuse(err, typed)
	}
}

// firstShare is the share of the first flour, which is never typed.
const firstShare = "flours.0.share"

// freshShape forgets what was changed of the former shape when another is picked: a width for
// ribbons means nothing for ravioli. was is the shape the form was drawn with.
func (f *Form) freshShape(was string) {
	c := &f.Page.Cut
	if c.Shape == was {
		return
	}
	for _, path := range []string{"cut.width_mm", "cut.long_mm", "cut.min_length_mm", "cut.max_length_mm", "cut.nest_g",
		"cut.piece_g", "cut.filling.piece_g"} {
		delete(f.Errors, path)
		delete(f.Typed, path)
	}
	c.Width = nil
	c.Long = nil
	c.Min = nil
	c.Max = nil
	c.NestG = nil
	c.PieceG = nil
	c.Filling.PieceG = nil
	c.Tool = ""
}

// blend makes the shares add up: the first flour takes what the others leave. When they
// leave less than its least, the blend goes back to base and the error says so.
func (f *Form) blend(base request.Request) {
	first, _ := request.FieldAt(firstShare)
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
		f.Errors[first.Path] = request.FieldError{Path: first.Path, Label: first.Label, Value: fmt.Sprintf("%.0f %%",
			100*(1-rest)),
			Allowed: "the other flours may make 99 % at most, the first takes the rest"}
		for i := 1; i < len(slots); i++ {
			if slots[i].Flour != "" {
				p := fmt.Sprintf("flours.%d.share", i)
				field, _ := request.FieldAt(p)
				f.Typed[p] = field.Get(&f.Page)
			}
		}
		f.Request = f.withoutEmpty()
		f.Request.Flours = slices.Clone(base.Flours)
		return
	}
	slots[0].Share = math.Round(rest*1e6) / 1e6
	f.Request = f.withoutEmpty()
}

// withoutEmpty returns the request without the empty slots.
func (f *Form) withoutEmpty() request.Request {
	r := request.Pruned(f.Page)
	if r.Amount.By == request.ByOwn { // what nobody has said how much of is asked, and not counted yet
		r.Additions = slices.DeleteFunc(slices.Clone(r.Additions),
			func(a request.AdditionPart) bool { return a.Share == 0 })
	}
	sum := 0.
	for _, x := range r.Flours {
		sum += x.Share
	}
	r.Flours[0].Share += 1 - sum
	return r
}

// notPast refuses a time to roll that has just been set and is over by the kitchen's clock.
func (f *Form) notPast(base request.Request, now time.Time) {
	field, _ := request.FieldAt("clock.roll_at")
	wish := field.Get(&f.Request)
	at, err := measure.At(wish)
	if err != nil || wish == field.Get(&base) {
		return
	}
	if clock, err := measure.At(now.Format(measure.ClockForm)); err == nil && at.Before(clock) {
		f.refuse(request.FieldError{Path: field.Path, Label: field.Label, Value: wish,
			Allowed: "it is past: the clock here says " +
				clock.Format("15:04 on 2 January")}, wish)
		f.back(field, base)
	}
}

// headless refuses lines that say something and not of what: a weighing without its time, an amount of nothing. Left as
// they are they would
// disappear.
func (f *Form) headless(v url.Values) {
	for name, part := range map[string]string{"dry.checks": "g", "acts": "amount"} {
		group, _ := request.GroupNamed(name)
		for slot := range group.Most {
			typed := strings.TrimSpace(v.Get(group.Path(slot, part)))
			if group.Holds(&f.Page, slot) || typed == "" || strings.Trim(typed, "0., ") == "" {
				continue
			}
			head, ok := request.FieldAt(group.Path(slot, group.Head))
			if _, wrong := f.Errors[head.Path]; !ok || wrong || v.Get(head.Path) != "" {
				continue
			}
			f.refuse(request.FieldError{Path: head.Path, Label: head.Label, Value: "", Allowed: map[string]string{
				"dry.checks": "when was it weighed?",
				"acts":       "what was it that was done?"}[name]}, "")
		}
	}
}

func (f *Form) refuse(err error, typed string) {
	var fe request.FieldError
	if errors.As(err, &fe) {
		f.Errors[fe.Path], f.Typed[fe.Path] = fe, typed
	}
}

// step moves one field by its step, from the value shown.
func (f *Form) step(s string) {
	path, by, ok := strings.Cut(s, "=")
	field, known := request.FieldAt(path)
	field = field.In(f.with.Typed)
	n, err := strconv.Atoi(by)
	if !ok || !known || err != nil || n != 1 && n != -1 || field.Step == 0 {
		return
	}
	from := field.Get(&f.Page)
	if from == "" {
		if p, err := f.plainly(f.withoutEmpty()); err == nil {
			from = shownAs(field, Chosen(p, field))
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

// back puts a field back to what it is in base.
func (f *Form) back(field request.Field, base request.Request) {
	field.Copy(&f.Request, &base)
	field.Copy(&f.Page, &base)
}
