package cabinet

import (
	"errors"
	"fmt"
	"html/template"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"hollen/internal/core/dry"
	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/core/sack"
	"hollen/internal/draw"
	"hollen/internal/store"
	"hollen/internal/web/page"
	"hollen/internal/workshop"
)

// sackView is what is known of a lot, what would help most, and where it is measured.
type sackView struct {
	ID      uint64
	Version int
	Lot     flour.Lot
	Flour   string
	In      measure.System
	Now     *sack.Moisture // nil where nobody said when it was opened
	Picture template.HTML
	From    string
	Steady  string
	Air     string // what is to be said of the readings
	Gains   []gainRow
	Week    []weekRow
	WeekOf  string
	InOven  *ovenView
	Rows    []lotRow
	Form    map[string]string // as it was typed
	Errors  map[string]string
	Stale   bool // another window kept it meanwhile
}

// Within is nine in ten of what it holds, points of moisture.
func (v *sackView) Within() string { return fmt.Sprintf("%.1f", 100*sack.Within(v.Now.SD)) }

// Keepings are the ways of keeping flour.
func (v *sackView) Keepings() []request.Option { return request.Keepings() }

// sackBox is one box of the page's forms.
type sackBox struct{ ID, Name, Label, Value, Unit, Error string }

// sackFuncs are what the template of a sack is put together with; of tells a box from another of the same name.
var sackFuncs = template.FuncMap{"wordAt": func(i int) string { return strconv.Itoa(i - 2) },
	"sackBox": func(v *sackView, name, label, of string) sackBox {
		b := sackBox{ID: name + of, Name: name, Label: label, Value: v.Form[name], Unit: v.In.Name(measure.G),
			Error: v.Errors[name]}
		if name == "step_g" { // a scale is a scale in grams
			b.Unit = string(measure.G)
			if b.Value == "" {
				b.Value = map[string]string{"weigh": "1", "dry": "0.1"}[of]
			}
		}
		return b
	}}

// gainRow is something that would help.
type gainRow struct{ What, Costs, Brings, To, Do string }

// weekRow is a day to come.
type weekRow struct{ Day, WB, Grams string }

// ovenView is a sample that is being dried.
type ovenView struct {
	Since     string
	Minutes   int
	SampleG   string
	At        string // as a clock counts from it
	DoneAfter int    // minutes after which it is weighed
}

// lotRow is something that happened to the lot.
type lotRow struct{ When, Words, By, At, Kind string }

// ovenMin is how long a sample dries before it is weighed the first time, min. Source: 130 °C, spread thin.
const ovenMin = 60

// lotAt returns the lot an address names, with its flour.
func (s *Room) lotAt(c *page.Visit) (store.Thing, flour.Lot, desk, error) {
	cab, err := s.desk(c)
	if err != nil {
		return store.Thing{}, flour.Lot{}, cab, err
	}
	id := c.Param("id")
	if c.Param("shelf") != lotShelf.Path { // nothing else is measured so
		id = ""
	}
	t, err := s.thing(c, lotShelf, id)
	if err != nil {
		return t, flour.Lot{}, cab, err
	}
	l, _ := t.Value.(flour.Lot)
	return t, l, cab, nil
}

// postedOfLot is what was sent to a lot's page, and the lot.
func (s *Room) postedOfLot(c *page.Visit) (values url.Values, t store.Thing, l flour.Lot, cab desk, err error) {
	if values, err = s.Posted(c); err == nil {
		t, l, cab, err = s.lotAt(c)
	}
	return values, t, l, cab, err
}

// OpenSack shows what is known of a lot, and asks for what may be measured.
func (s *Room) OpenSack(c *page.Visit) error {
	t, l, cab, err := s.lotAt(c)
	if err != nil {
		return err
	}
	v, err := s.sackOf(c, t, l, cab)
	if err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "sack", l.Name, v)
	return nil
}

// flourOf is the flour of a lot: the workshop's own, or the shipped one.
func flourOf(cab desk, key string) flour.Flour {
	for _, f := range cab.Flours {
		if f.Key == key {
			return f
		}
	}
	f, _ := flour.Find(key)
	return f
}

// The dough, the flour and the scale a sack is judged by where no batch is at hand.
const usualHw, usualFlourG, kitchenStepG = 42.3, 500, .1

// sackOf is the page of a lot.
func (s *Room) sackOf(c *page.Visit, t store.Thing, l flour.Lot, cab desk) (*sackView, error) {
	kind := flourOf(cab, l.Flour)
	v := &sackView{ID: t.ID, Version: t.Version, Lot: l, Flour: kind.Name, In: cab.In, Form: map[string]string{},
		Errors: map[string]string{}}
	for i := len(l.History) - 1; i >= 0; i-- {
		v.Rows = append(v.Rows, lotRowOf(cab.In, &l.History[i]))
	}
	now := s.Now()
	if e := l.InOven(); e != nil {
		v.InOven = &ovenView{Since: e.At.Local().Format("15:04"), Minutes: int(now.Sub(e.At).Minutes()),
			SampleG: cab.In.G(e.SampleG, measure.Shortest), At: strconv.FormatInt(e.At.UnixMilli(), 10),
			DoneAfter: ovenMin}
	}
	room, err := s.usualRoom(c)
	if err != nil {
		return nil, err
	}
	k, err := s.SackOf(c.Request.Context(), &l, kind, room)
	if err != nil || k == nil {
		return v, err
	}
	ru := s.Rules
	m := k.Moisture(ru.Flour, ru.Measure, k.Air, now)
	v.Now = &m
	v.Picture = template.HTML(draw.InWidths(func(w draw.Width) string { return draw.Sack(&m, w) }))
	v.From = fromWords(&m, k.Read)
	v.Steady = fmt.Sprintf("Steady air of %s and %.0f %% would say %.1f %%.", cab.In.C(room.TempC, 0), 100*room.RH,
		100*m.SteadyWB)
	v.Air = airWords(ru.Flour, k.Air, &m)
	own := slices.ContainsFunc(cab.Flours, func(f flour.Flour) bool { return f.Key == l.Flour })
	log, _ := s.Learned(c.Request.Context())
	said := false
	for _, r := range log.Residues() {
		said = said || r.Evidence.Lot == l.Name
	}
	for _, g := range sack.Gains(ru.Flour, ru.Measure, sack.Known{WB: m.WB, SD: m.SD, StartSD: m.StartSD(),
		KG: k.Kept[len(k.Kept)-1].KG, StepG: kitchenStepG, Hw: usualHw, FromSheet: own, MayBeTaught: !said},
		ru.Hydration.AbsorptionWeight) {
		if r, ok := gainRowOf(cab.In, g, l.Flour); ok {
			if g.Help == sack.SmallDoughs {
				r.To = fmt.Sprintf("/cabinet/lots/%d/doughs", t.ID)
			}
			v.Gains = append(v.Gains, r)
		}
	}
	s.week(v, k, &m, room, now)
	return v, nil
}

// usualRoom is the air that stands for what nobody read: what the sensor says, else the middle one of the named rooms.
func (s *Room) usualRoom(c *page.Visit) (sack.Room, error) {
	if l, ok := s.Devices.Of("room"); ok && !l.Silent(s.Now()) {
		return sack.Room{TempC: *l.Read.TempC, RH: *l.Read.RH}, nil
	}
	rooms, err := s.Store.Rooms(c.Request.Context())
	if err != nil || len(rooms) == 0 {
		return sack.Room{TempC: 22, RH: .45}, err
	}
	r := rooms[len(rooms)/2]
	return sack.Room{TempC: r.TempC, RH: r.RH}, nil
}

// fromWords say where a moisture comes from.
func fromWords(m *sack.Moisture, read bool) string {
	day := m.Since.Local().Format("Mon 2 Jan")
	switch {
	case m.From == sack.ByScale:
		return "by its own weight on " + day + ", and the air since then"
	case m.From == sack.ByOven:
		return "dried on " + day + ", and the air since then"
	case m.From == sack.BySaying:
		return "measured on " + day + ", and the air since then"
	case read:
		return "it followed the air since it was opened on " + day
	}
	return "opened on " + day + ", in air nobody read"
}

// airWords say what is to be said of the readings.
func airWords(ru rules.Flour, a *sack.Air, m *sack.Moisture) string {
	var out []string
	if d := math.Round(m.Bridge.Hours() / 24); d >= 1 {
		out = append(out, "For "+measure.Days(d)+" nobody read the air; the room above stands for them.")
	}
	if a.Sunny > 0 {
		out = append(out, fmt.Sprintf("%s with the sensor in the sun: of them its vapour was kept, not its humidity.",
			measure.Plural(a.Sunny, "mean", "means")))
	}
	if n := len(a.Apart); n > 0 {
		out = append(out, fmt.Sprintf("On %s somebody typed air that is far from what the sensor said: which is right?",
			a.Apart[n-1].Local().Format("Mon 2 Jan, 15:04")))
	}
	if m.Held {
		out = append(out, fmt.Sprintf("Beyond %.1f–%.1f %% it is not believed without measuring.",
			100*ru.EstimateLowWB, 100*ru.EstimateHighWB))
	}
	return strings.Join(out, " ")
}

// leastGain is the smallest gain worth a line, points. Source: house.
const leastGain = .1

// gainRowOf is a gain in words; false where it is not worth a line.
func gainRowOf(in measure.System, g sack.Gain, flourKey string) (r gainRow, ok bool) {
	if g.From-g.To < leastGain {
		return r, false
	}
	r.Brings = fmt.Sprintf("%.1f → %.1f points", g.From, g.To)
	minutes := func() string {
		out := measure.Minutes(g.HandsMin) + " of hands"
		if g.AllMin > g.HandsMin {
			out += ", " + measure.Minutes(g.AllMin) + " in all"
		}
		if g.FlourG > 0 {
			out += ", " + in.G(g.FlourG, measure.Shortest) + " of flour"
		}
		return out
	}
	switch g.Help {
	case sack.AskMiller:
		r = gainRow{"Ask the miller for its absorption", "a question", r.Brings,
			"/cabinet/flours/new?like=" + url.QueryEscape(flourKey), "Put it in"}
	case sack.DryASmall:
		r = gainRow{"Dry a sample in the oven, once a sack", minutes(), r.Brings, "#dry", "Dry one"}
	case sack.WeighSack:
		r = gainRow{"Weigh the sack when flour is taken, and before it is taken again", minutes() + " each time",
			r.Brings,
			"#weigh", "Weigh it"}
	case sack.SmallDoughs:
		r = gainRow{"Three small doughs, where the first batch must not fail", minutes() + ", rolled afterwards",
			r.Brings,
			"", "Set them out"}
	case sack.SayWord:
		r = gainRow{"Say how the dough of a batch felt", "a tap at the bench", r.Brings, "/batches", "To a batch"}
	}
	return r, true
}

// week fills in the days to come.
func (s *Room) week(v *sackView, k *workshop.Sack, m *sack.Moisture, room sack.Room, now time.Time) {
	ru := s.Rules
	v.WeekOf = fmt.Sprintf("air of %s and %.0f %%", v.In.C(room.TempC, 0), 100*room.RH)
	air := k.Air.In(room)
	if air.Repeat(now) {
		v.WeekOf = "the air of the last seven days once more"
	}
	water := func(byWB float64) float64 { return sack.WaterG(ru.Flour, usualHw, usualFlourG, byWB) }
	lost := func(at time.Time) float64 {
		c, rh, _ := air.At(at)
		return dry.BoardLossG(ru, c, rh, usualFlourG)
	}
	for d := 1; d <= 7; d++ {
		at := now.Add(time.Duration(d) * 24 * time.Hour)
		then := k.Moisture(ru.Flour, ru.Measure, air, at)
		g := water(m.WB-then.WB) + lost(at) - lost(now)
		within := 0.
		if _, sd, ok := k.Since(ru.Flour, ru.Measure, air, &then, now); ok {
			within = water(sack.Within(sd))
		}
		v.Week = append(v.Week, weekRow{at.Local().Format("Mon 2 Jan"), fmt.Sprintf("%.1f %%", 100*then.WB),
			moreOrLess(v.In, g, within)})
	}
}

// moreOrLess is so much more or less water, g, with its range; whole grams.
func moreOrLess(in measure.System, g, within float64) string {
	words := "as today"
	switch r := math.Round(g); {
	case r > 0:
		words = in.G(r, 0) + " more"
	case r < 0:
		words = in.G(-r, 0) + " less"
	}
	if math.Round(within) >= 1 {
		words += ", give or take " + in.G(math.Round(within), 0)
	}
	return words
}

// lotRowOf is an event in words.
func lotRowOf(in measure.System, e *flour.LotEvent) lotRow {
	r := lotRow{When: measure.TimeWords(e.At.Local()), By: e.By, At: e.At.Format(time.RFC3339Nano),
		Kind: string(e.Kind)}
	switch e.Kind {
	case flour.LotTaken:
		r.Words = "Flour was taken: " + in.Grams(e.G) + " are left"
	case flour.LotWeighed:
		r.Words = "Weighed before taking: " + in.Grams(e.G)
	case flour.LotMoved:
		r.Words = map[flour.Keeping]string{flour.SealedTub: "Tipped into a sealed tub",
			flour.PaperBag: "Folded into a paper bag",
			flour.OpenBin:  "Tipped into an open bin", flour.Sifted: "Sifted out"}[e.How] + ", " + in.Grams(e.G)
	case flour.LotDoughs:
		r.Words = "Three small doughs were wrapped"
	case flour.LotInOven:
		r.Words = in.G(e.SampleG, measure.Shortest) + " went into the oven"
	case flour.LotDried:
		r.Words = fmt.Sprintf("%s lost %s in the oven: %.1f %%", in.G(e.SampleG, measure.Shortest),
			in.G(e.LostG, measure.Shortest), 100*e.LostG/e.SampleG)
	}
	return r
}

// lotForm reads what was typed of a lot.
type lotForm struct {
	in     measure.System
	values url.Values
	errs   map[string]string
}

// g reads a mass within bounds, g.
func (f *lotForm) g(name, what string, least, most float64) float64 {
	text := strings.TrimSpace(f.values.Get(name))
	_, by, _, _ := f.in.Turn(measure.G)
	v, err := measure.Read(text, measure.G, func(n float64) float64 { return n / by })
	if err != nil || !(v >= least && v <= most) {
		f.errs[name] = fmt.Sprintf("%s: %s to %s is allowed.", what, f.in.Grams(least), f.in.Grams(most))
	}
	return v
}

// step is the scale's step, g.
func (f *lotForm) step() float64 {
	v, ok := measure.ParseNumber(f.values.Get("step_g"))
	if !ok || !(v >= .001 && v <= 100) {
		f.errs["step_g"] = "What the scale shows at least, 0.001 to 100 g."
	}
	return v
}

// MeasureSack keeps what was measured of a lot.
func (s *Room) MeasureSack(c *page.Visit) error {
	values, t, l, cab, err := s.postedOfLot(c)
	if err != nil {
		return err
	}
	f := &lotForm{in: cab.In, values: values, errs: map[string]string{}}
	e := flour.LotEvent{At: s.Now().UTC().Truncate(time.Millisecond)}
	if c.Who != nil {
		e.By = c.Who.Maker
	}
	s.readEvent(f, values.Get("do"), &e, &l, flourOf(cab, l.Flour))
	if len(f.errs) == 0 {
		if values.Get("do") == "remove" {
			at, err := time.Parse(time.RFC3339Nano, values.Get("at"))
			if err != nil || !l.Remove(at, flour.LotEventKind(values.Get("kind"))) {
				return page.Refuse(http.StatusNotFound, "That is not in its history any more.",
					"Another window may have taken it out.")
			}
		} else {
			l.Add(e)
			if e.Kind == flour.LotMoved {
				l.How = e.How
			}
		}
		if err := l.Check(); err != nil {
			f.errs["all"] = err.Error()
		}
	}
	stale := false
	if len(f.errs) == 0 {
		_, err := s.Store.Keep(c.Request.Context(), store.LotKind, t.ID, t.Version, l)
		if err == nil {
			s.LotsChanged()
			c.Redirect(http.StatusSeeOther, fmt.Sprintf("/cabinet/lots/%d/measure", t.ID))
			return nil
		}
		if !errors.Is(err, store.ErrChanged) {
			return err
		}
		stale = true
		if t, l, cab, err = s.lotAt(c); err != nil {
			return err
		}
	}
	was, _ := t.Value.(flour.Lot)
	v, err := s.sackOf(c, t, was, cab)
	if err != nil {
		return err
	}
	v.Errors, v.Stale = f.errs, stale
	for name := range values {
		v.Form[name] = values.Get(name)
	}
	s.Render(c, http.StatusUnprocessableEntity, "sack", was.Name, v)
	return nil
}

// readEvent reads what is to be kept into e; what is wrong stands in the form's errors.
func (s *Room) readEvent(f *lotForm, do string, e *flour.LotEvent, l *flour.Lot, kind flour.Flour) {
	ru := s.Rules
	switch do {
	case "taken", "weighed":
		e.Kind = flour.LotEventKind(do)
		e.G = f.g("g", "What is in it", 50, 1e6)
		e.StepG = f.step()
		if do == "weighed" && len(f.errs) == 0 {
			s.spilt(f, e, l, kind)
		}
	case "moved":
		e.Kind, e.How = flour.LotMoved, flour.Keeping(f.values.Get("kept"))
		e.G = f.g("moved_g", "What is in it", 50, 1e6)
	case "oven":
		e.Kind = flour.LotInOven
		e.TareG = f.g("tare_g", "The tin alone", 0, 1e5)
		before := f.g("before_g", "With the flour in it", 0, 1e5)
		e.StepG = f.step()
		e.SampleG = before - e.TareG
		if len(f.errs) == 0 { // as if it lost what flour loses: what is wrong is asked before it is dried
			f.blame(sack.Oven{TareG: e.TareG, BeforeG: before, AfterG: before - .125*e.SampleG,
				StepG: e.StepG}.Read(ru.Measure))
		}
	case "dried":
		was := l.InOven()
		if was == nil {
			f.errs["all"] = "Nothing of it is in the oven."
			return
		}
		after := f.g("after_g", "Tin and flour", 0, 1e5)
		if len(f.errs) == 0 {
			f.blame(sack.Oven{TareG: was.TareG, BeforeG: was.TareG + was.SampleG, AfterG: after,
				StepG: was.StepG}.Read(ru.Measure))
		}
		e.Kind = flour.LotDried
		e.SampleG, e.StepG = was.SampleG, was.StepG
		e.LostG = math.Round(1000*(was.TareG+was.SampleG-after)) / 1000
	case "remove":
	default:
		f.errs["all"] = "Nothing was asked."
	}
}

// blame puts an error of the oven beside its field.
func (f *lotForm) blame(_, _ float64, err error) {
	if fault := (measure.Fault{}); errors.As(err, &fault) {
		f.errs[fault.Field] = measure.Capital(f.in.Prose(fault.Text)) + "."
	} else if err != nil {
		f.errs["all"] = err.Error()
	}
}

// spilt asks back a weighing that no closed sack comes to; asked again with the same figure it stands.
func (s *Room) spilt(f *lotForm, e *flour.LotEvent, l *flour.Lot, kind flour.Flour) {
	ru := s.Rules
	k, ok := sack.OfLot(ru.Flour, ru.Measure, l, kind)
	if !ok || len(k.Weighed) == 0 || f.values.Get("sure") == f.values.Get("g") {
		return
	}
	last := k.Weighed[len(k.Weighed)-1]
	if !last.After {
		return
	}
	if err := k.Spilt(ru.Measure, last, sack.Weighing{At: e.At, G: e.G, StepG: e.StepG}, k.StartWB); err != nil {
		if fault := (measure.Fault{}); errors.As(err, &fault) {
			f.errs["g"] = measure.Capital(fault.Text) + "; kept once more as it is, it stands."
		}
	}
}
