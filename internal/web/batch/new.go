package batch

import (
	"fmt"
	"maps"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/egg"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/store"
	"hollen/internal/web/form"
	"hollen/internal/web/page"
)

// newBatchView is the form for a new batch: the few things that cannot be guessed, or all that goes in.
type newBatchView struct {
	*formulaView
	Own  bool      // as the maker makes it
	Kept []Carried // typed before the other way was chosen
	Much much      // how much is asked for
	Call string    // what it is called unless it is given a name
	// Ratio is the way of one's own said as flour to egg, RatioFor how much of it, each with what is wrong with it.
	Ratio, RatioFor typedText
}

// typedText is what stands in a field of a new batch's form alone, and what is wrong with it.
type typedText struct{ Value, Error string }

// newForm is what was typed for a new batch, bound.
type newForm struct {
	form.Form
	Own  bool // as the maker makes it
	Much much

	asked request.Amount // before flour moved to suit eggs
	eggs  int            // the amount was said in so many eggs, 0 where it was not

	ratio, ratioFor typedText
}

// Slots are three lines of flour, all there to be filled.
func (v newBatchView) Slots() []Slot {
	slots := v.formulaView.Slots()[:3]
	for i := range slots {
		slots[i].Shown = true
	}
	return slots
}

// Adds are the lines of what goes in besides, all there to be filled.
func (v newBatchView) Adds() []Add {
	adds := v.formulaView.Adds()
	for i := range adds {
		adds[i].Show = true
	}
	return adds
}

// Mass is the unit masses are typed in.
func (v newBatchView) Mass() string { return form.AnyMass().In(v.In).Unit }

// askedOfNew are the fields a new batch asks for; askedOfOwn those of one made as its maker makes it.
var askedOfNew = []string{"name", "amount.by", "amount.portions", "amount.dough_g", "amount.flour_g", "amount.eaters",
	"flours.0.flour", "eggs.class", "cut.shape", "roll.machine", muchField, ofField}

var askedOfOwn = []string{"name", "amount.by", "amount.flour_open", "flours.0.flour", "flours.1.flour",
	"flours.2.flour", "eggs.class", "eggs.fix_whole_eggs",
	"eggs.fix_extra_yolks", "eggs.cracked_g", "eggs.top_up", "eggs.liquid_g", "additions.0.addition",
	"additions.1.addition", "additions.2.addition",
	"cut.shape", "roll.machine"}

// unnamed is the name of a batch until it has one.
const unnamed = "New batch"

// blank is what a new batch starts from, in that house.
func blank(h store.House) request.Request {
	r := request.Default()
	r.Name = unnamed
	h.Start(&r)
	return r
}

// goTheHouseWay gives a new batch the ways the house goes: of kneading, and down the stops of the machine it
// asks for, where it goes there.
func goTheHouseWay(r *request.Request, h store.House, cab store.Cabinet, asked url.Values) {
	if w := cab.Way(h.KneadWay); w != nil {
		w.Take(r)
	}
	machine, own := r.Roll.Kind(), r.Roll.Own
	if key := asked.Get("roll.machine"); key != "" {
		machine, _ = roll.Find(key)
		own = nil
		for i, m := range cab.Machines {
			if m.Key == key {
				machine, own = m, &cab.Machines[i]
			}
		}
	}
	if w := cab.Way(h.RollWay); w != nil && machine.Key != "" && w.Goes(machine) {
		r.Roll.Machine, r.Roll.Own = machine.Key, own
		w.Take(r)
	}
}

// newForm binds what was typed for a new batch.
func (s *Room) newForm(c *page.Visit, values url.Values) (f newForm, err error) {
	with, err := s.with(c, c.Units)
	if err != nil {
		return f, err
	}
	house, err := s.House(c)
	if err != nil {
		return f, err
	}
	start := blank(house)
	with.Cabinet.Begin(house.House, &start)
	start.MadeOn = s.Today()
	f.Own = values.Get("amount.by") == string(request.ByOwn)
	fields := askedOfNew
	if f.Own {
		start.Amount.By = request.ByOwn
		fields = askedOfOwn
	}
	asked := url.Values{}
	for _, k := range fields {
		if v, has := values[k]; has {
			asked[k] = v
		}
	}
	if strings.TrimSpace(asked.Get("name")) == "" {
		asked.Del("name") // it is called after what it is
	}
	var wrong *request.FieldError
	if values.Has(muchField) && !f.Own {
		f.Much, f.eggs, wrong = takeMuch(values, asked)
	}
	asked.Set("step", values.Get("step"))
	goTheHouseWay(&start, house, with.Cabinet, asked)
	if f.Own {
		asked.Set("was_amount", string(request.ByOwn))
		for k, v := range values {
			if strings.HasPrefix(k, form.WeightPrefix) {
				asked[k] = v
			}
		}
	}
	if f.Form, err = form.Bind(start, asked, with, s.Now()); err == nil {
		err = f.suitEggs(values, with, s.Now())
	}
	ruled := false
	if err == nil && f.Own {
		ruled, err = f.byRatio(values, with, s.Now())
	}
	if err != nil {
		return f, page.Refuse(http.StatusInternalServerError, "The form cannot be shown.", err.Error())
	}
	f.faults(asked, wrong, ruled)
	return f, nil
}

// suitEggs moves the flour to the eggs that were counted, or to whole ones where those come first.
func (f *newForm) suitEggs(values url.Values, with form.With, now time.Time) (err error) {
	f.asked = f.Request.Amount
	if len(f.Errors) > 0 || f.Own {
		return nil
	}
	r, ok := f.Request, false
	switch {
	case f.eggs > 0:
		if r, ok = f.Plan.OfEggs(f.eggs); !ok {
			f.Errors[muchField] = request.FieldError{Path: muchField, Label: "How much", Value: f.Much.Value,
				Allowed: fmt.Sprintf("as many eggs as go into %s to %s of flour; a dough without egg is asked for by "+
					"portions, dough or flour", f.In.Grams(50), f.In.KG(50, 0))}
		}
	case values.Get("whole") == "first":
		r, ok = wholeFirst(r, f.Plan)
	}
	if ok {
		f.Form, err = form.Bind(r, url.Values{}, with, now)
	}
	return err
}

// faults puts what is wrong with the amount beside its one field, and asks for the flour of one's own way.
func (f *newForm) faults(asked url.Values, wrong *request.FieldError, ruled bool) {
	if wrong != nil {
		f.Errors[muchField] = *wrong
	}
	if of := amountAt(f.Much.Of); f.Much.Of != "" {
		if e, bad := f.Errors[of.Path]; bad {
			e.Value = f.Much.Value
			f.Errors[muchField] = e
		}
	} else {
		f.Much = muchOf(&f.Page, f.In)
		if of := amountAt(f.Much.Of); f.Typed[of.Path] != "" {
			f.Much.Value = f.Typed[of.Path]
			f.Errors[muchField] = f.Errors[of.Path]
		}
	}
	if e, bad := f.Errors[muchField]; bad {
		f.Much.Error = e.ForPage()
	}
	if first := form.WeightPrefix + "flours.0.share"; f.Own && !ruled && strings.TrimSpace(asked.Get(first)) == "" {
		f.Typed[first] = ""
		f.Errors[first] = request.FieldError{Path: first, Label: "Flour", Allowed: "say how much flour goes in"}
	}
}

// wholeFirst returns the request with the flour of the nearest batch of whole eggs, where eggs would be weighed. With
// one egg that may be half as much again: nobody cracks a part of one.
func wholeFirst(r request.Request, p *plan.Plan) (request.Request, bool) {
	const most, enough = 1.7, .95
	s, flourG, ok := p.WholeBatch()
	if ok && flourG < enough*p.Formula.FlourG && s.Whole > 0 && r.Eggs.Style != egg.WholeWater { // nobody goes short
		flourG = math.Round(p.FlourFor(s.WholeG*float64(s.Whole+1)/float64(s.Whole), s.YolkG))
	}
	if by := flourG / p.Formula.FlourG; !ok || s.EggG == 0 || !p.Formula.Pick.Beaten || by > most || by < 1/most {
		return r, false
	}
	r.Amount.By, r.Amount.FlourG = request.ByFlour, flourG
	return r, true
}

// NewBatch shows the form, filled in as this device last asked; what was typed before the other way was chosen comes
// along.
func (s *Room) NewBatch(c *page.Visit) error {
	values := c.Request.URL.Query()
	fresh := len(values) == 0 || len(values) == 1 && values.Has("as")
	if fresh {
		maps.Copy(values, s.remembered(c))
	}
	switch own := values.Get("as") == "own"; {
	case own:
		values.Set("amount.by", string(request.ByOwn))
	case values.Get("amount.by") == string(request.ByOwn):
		values.Set("amount.by", string(request.ByPortions))
	}
	f, err := s.newForm(c, values)
	if err != nil {
		return err
	}
	if first := form.WeightPrefix + "flours.0.share"; fresh || strings.TrimSpace(values.Get(first)) == "" {
		delete(f.Errors, first) // not said yet
	}
	return s.showNew(c, http.StatusOK, f, values)
}

// unshown are the values typed for the fields of the other way.
func unshown(values url.Values, own bool) (out []Carried) {
	shown, other := askedOfNew, askedOfOwn
	if own {
		shown, other = other, shown
	}
	for _, k := range other {
		if !slices.Contains(shown, k) && values.Get(k) != "" {
			out = append(out, Carried{k, values.Get(k)})
		}
	}
	for k := range values {
		if !own && strings.HasPrefix(k, form.WeightPrefix) && values.Get(k) != "" {
			out = append(out, Carried{k, values.Get(k)})
		}
	}
	slices.SortFunc(out, func(a, b Carried) int { return strings.Compare(a.Path, b.Path) })
	return out
}

func (s *Room) showNew(c *page.Visit, status int, f newForm, values url.Values) error {
	v := newView(0, 0, "", f.Request, f.Form)
	cab, err := c.Cabinet()
	if err != nil {
		return err
	}
	v.Cabinet = cab
	out := newBatchView{formulaView: &formulaView{batchView: v}, Own: f.Own, Kept: unshown(values, f.Own), Much: f.Much,
		Call: f.calledAfter(), Ratio: f.ratio, RatioFor: f.ratioFor}
	s.Render(c, status, "new", "New batch", out)
	return nil
}

// CreateBatch makes the batch of the form, and opens it.
func (s *Room) CreateBatch(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	f, err := s.newForm(c, values)
	if err != nil {
		return err
	}
	switch {
	case values.Get("step") != "":
		return s.showNew(c, http.StatusOK, f, values)
	case len(f.Errors) > 0 || f.ratio.Error+f.ratioFor.Error != "":
		return s.showNew(c, http.StatusUnprocessableEntity, f, values)
	}
	if strings.TrimSpace(values.Get("name")) == "" {
		if err := s.call(c, &f); err != nil {
			return err
		}
	}
	s.remember(c, &f.Page, f.asked.By == request.ByPortions)
	ctx := c.Request.Context()
	b, err := s.Store.CreateOnce(ctx, page.OnceOf(values), f.Plan)
	if err != nil {
		return err
	}
	if values.Get("then") == "bench" {
		now := s.Now()
		if id, twice := s.BegunJustNow(ctx, b.ID, f.Plan, now); twice {
			c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bench/%d", id))
			return nil
		}
		m, err := s.Store.Begin(ctx, b, f.Plan, now)
		if err != nil {
			return err
		}
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bench/%d", m.ID))
		return nil
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/batches/%d", b.ID))
	return nil
}

// call gives a batch the name of what it is.
func (s *Room) call(c *page.Visit, f *newForm) error {
	with, err := s.with(c, c.Units)
	if err != nil {
		return err
	}
	f.Form, err = form.Bind(f.Request, url.Values{"name": {f.calledAfter()}}, with, s.Now())
	return err
}
