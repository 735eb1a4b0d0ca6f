package cabinet

import (
	"cmp"
	"fmt"
	"net/http"
	"net/url"
	"strings"

	"hollen/internal/core/field"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// calibrateView is the page on which a machine's sheets are measured.
type calibrateView struct {
	ID              uint64
	Machine         roll.Machine
	Rows            []stopRow
	Spring, Density string // as typed, %, g/mL
	Errors          map[string]string
	Fit             *roll.Fit
	History         []pastRow
}

// stopRow is one stop: its gap, what was measured, what the fit says.
type stopRow struct {
	Label, Key, Gap, Typed, Error string
	Read                          string // what was typed, as mm
	K, Sheet                      string
	Measured                      bool
}

type pastRow struct{ On, Words string }

// usualSpring and usualDensity stand in an empty form: a rested egg dough.
const (
	usualSpring  = "8"
	usualDensity = "1.214"
)

// machineAt returns the machine an address names, or shows why there is none.
func (s *Room) machineAt(c *page.Visit) (store.Thing, roll.Machine, error) {
	t, err := s.thing(c, machineShelf, c.Param("id"))
	if err != nil {
		return t, roll.Machine{}, err
	}
	m, is := t.Value.(roll.Machine)
	if !is || len(m.Stops) == 0 {
		return t, m, page.Refuse(http.StatusNotFound, "A pin has no stops to measure.",
			"The sheet is as thin as you roll it.")
	}
	return t, m, nil
}

// calibrateOf is the page of a machine, filled in with the newest set measured.
func calibrateOf(id uint64, m roll.Machine) calibrateView {
	v := calibrateView{ID: id, Machine: m, Spring: usualSpring, Density: usualDensity, Errors: map[string]string{}}
	known := map[string]string{}
	for _, x := range m.Calibrated {
		known[x.Stop] = cmp.Or(string(x.By), fmt.Sprintf("%g", x.SheetMM))
	}
	if m.SpringThen > 0 {
		v.Spring = fmt.Sprintf("%.3g", 100*m.SpringThen)
	}
	for i, st := range m.Stops {
		r := stopRow{Label: st.Label, Key: fmt.Sprintf("t%d", i), Gap: fmt.Sprintf("%g", st.GapMM)}
		r.Typed = known[st.Label]
		v.Rows = append(v.Rows, r)
	}
	for i := len(m.History) - 1; i >= 0; i-- {
		var words []string
		for _, x := range m.History[i].Measured {
			said := fmt.Sprintf("%s: %.2f mm", x.Stop, x.SheetMM)
			if x.By != "" {
				said = x.Stop + ": " + x.By.Words()
			}
			words = append(words, said)
		}
		v.History = append(v.History, pastRow{measure.DayWords(m.History[i].On), strings.Join(words, ", ")})
	}
	return v
}

// OpenCalibrate shows the stops of a machine, to be measured.
func (s *Room) OpenCalibrate(c *page.Visit) error {
	t, m, err := s.machineAt(c)
	if err != nil {
		return err
	}
	v := calibrateOf(t.ID, m)
	if len(m.Calibrated) == 0 { // as the dough says from whose page this was opened
		for key, into := range map[string]*string{"spring": &v.Spring, "density": &v.Density} {
			if _, ok := measure.ParseNumber(c.Query(key)); ok {
				*into = c.Query(key)
			}
		}
	}
	if len(m.Calibrated) > 0 {
		v.fit(m.Calibrated, m.SpringThen)
	}
	s.Render(c, http.StatusOK, "calibrate", "Measure "+m.Name, v)
	return nil
}

// sheetMM reads a thickness as it is measured: 0.92, "9 leaves" of office paper, or "10.9 g",
// the mass of a square of 100 by 100 mm.
func sheetMM(typed string, density float64) (float64, bool) {
	text := strings.ToLower(strings.TrimSpace(typed))
	if number, _, paper := strings.Cut(text, "lea"); paper {
		n, ok := measure.ParseNumber(number)
		return roll.FromPaper(n), ok
	}
	if g, ok := measure.ParseMass(text); ok {
		return roll.SquareMM(g, density, 100, 100), true
	}
	mm, err := measure.Read(text, measure.MM, nil)
	return mm, err == nil
}

// seenIn reads what is seen through a sheet: "hand", "my hand shows", "print"; "" where it is something else.
func seenIn(typed string) roll.Seen {
	text := strings.ToLower(typed)
	for _, by := range roll.Seens() {
		if strings.Contains(text, string(by)) {
			return by
		}
	}
	return ""
}

// fit fills in what measured sheets say.
func (v *calibrateView) fit(points []roll.Measure, spring float64) {
	m := v.Machine
	f, err := roll.Calibrate(m, points, spring)
	if err != nil {
		v.Errors["fit"] = err.Error()
		return
	}
	v.Fit = &f
	for i := range v.Rows {
		r := &v.Rows[i]
		r.Measured, r.K = f.Measured[i], fmt.Sprintf("%.2f", f.K[i])
		r.Sheet = fmt.Sprintf("%.2f", f.Stops[i].TrueMM()*(1+spring))
	}
}

// These are asked beside measured sheets: how much they had sprung back (a share) and how dense the dough is (g/mL).
var (
	springField  = field.Field{Unit: "%", Kind: field.Number, Max: .6, Show: 100}
	densityField = field.Field{Unit: "g/mL", Kind: field.Number, Min: 1, Max: 1.4}
)

// read takes a posted set of sheets.
func (v *calibrateView) read(values url.Values) (points []roll.Measure, spring float64) {
	v.Spring, v.Density = values.Get("spring"), values.Get("density")
	density := 0.
	for key, err := range map[string]error{"spring": springField.Set(&spring, v.Spring),
		"density": densityField.Set(&density, v.Density)} {
		if err != nil {
			v.Errors[key] = field.Refusal(err)
		}
	}
	for i := range v.Rows {
		r := &v.Rows[i]
		r.Typed = values.Get(r.Key)
		if strings.TrimSpace(r.Typed) == "" {
			continue
		}
		if by := seenIn(r.Typed); by != "" {
			at, within := by.MM()
			r.Read = fmt.Sprintf("%s, about %g mm, give or take %g", by.Words(), at, within)
			points = append(points, roll.SeenAt(r.Label, by))
			continue
		}
		t, ok := sheetMM(r.Typed, density)
		if !ok || t < .2 || t > 40 {
			r.Error = request.FieldError{Value: r.Typed, Allowed: "0.2 to 40 mm, leaves of paper, g of a square, " +
				"or hand or print is allowed, or empty"}.ForPage()
			v.Errors[r.Key] = r.Error
			continue
		}
		r.Read = fmt.Sprintf("%.2f mm", t)
		points = append(points, roll.Measure{Stop: r.Label, SheetMM: t})
	}
	return points, spring
}

// Calibrate fits a posted set, and keeps it when that was asked for.
func (s *Room) Calibrate(c *page.Visit) error {
	t, m, err := s.machineAt(c)
	if err != nil {
		return err
	}
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	v := calibrateOf(t.ID, m)
	points, spring := v.read(values)
	if len(v.Errors) == 0 {
		v.fit(points, spring)
	}
	if len(v.Errors) > 0 {
		s.Render(c, http.StatusUnprocessableEntity, "calibrate", "Measure "+m.Name, v)
		return nil
	}
	if values.Get("keep") == "" {
		s.Render(c, http.StatusOK, "calibrate", "Measure "+m.Name, v)
		return nil
	}
	ctx := c.Request.Context()
	if _, err := s.Store.Keep(ctx, store.MachineKind, t.ID, t.Version, m.Apply(*v.Fit, points, spring,
		s.Today())); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/cabinet/machines")
	return nil
}
