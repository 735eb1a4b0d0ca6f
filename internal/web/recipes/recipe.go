package recipes

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/form"
	"hollen/internal/web/page"
)

// recipeView is a recipe.
type recipeView struct {
	In       measure.System
	ID       uint64
	Version  int
	Name     string
	NameBox  string // the name as it is typed
	Box      string // what a box holds, as it is typed
	Names    string
	Label    recipe.Label
	Retired  bool
	With     *batchRow // the recipe whose dough goes together with its
	Without  string    // what it is made of that the cabinet offers no more
	Twin     bool      // another in use bears its name
	Plan     *plan.Plan
	Own      bool // at the maker's word: whole eggs lead
	Figures  []figure
	Holds    []figure // what it says otherwise than a usual batch
	Made     string
	Batches  []batchRow
	Versions []versionRow
	Much     string
	Unit     string
	For      string
	Once     string
	Errors   map[string]string
}

// Mistyped says whether anything typed of names and label is not allowed.
func (v recipeView) Mistyped() bool {
	for _, key := range []string{"name", "other_names", "product", "made_by", "may_contain", "box_g"} {
		if v.Errors[key] != "" {
			return true
		}
	}
	return false
}

// figure is one line of what a recipe holds.
type figure struct{ Label, Value string }

// batchRow is a batch of the recipe.
type batchRow struct {
	ID         uint64
	Name, When string
}

// versionRow is a version of the recipe, and what it changed.
type versionRow struct {
	Version           int
	When, By, Changed string
	Now               bool
}

// ShowRecipe shows a recipe.
func (s *Room) ShowRecipe(c *page.Visit) error {
	return s.show(c, http.StatusOK, map[string]string{}, "", "portions", s.Today())
}

func (s *Room) show(c *page.Visit, status int, errs map[string]string, much, unit, day string) error {
	r, err := s.recipe(c)
	if err != nil {
		return err
	}
	p, _, err := s.planned(c, r.Request.Request)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	v := recipeView{In: c.Units, ID: r.ID, Version: r.Version, Name: r.Name, Names: strings.Join(r.Besides.V.Names,
		", "),
		Retired: r.RetiredAt != nil, Plan: p, Own: p.AsMade(), Much: much, Unit: unit, For: day, Errors: errs}
	v.NameBox, v.Label = r.Name, r.Besides.V.Label
	if g := r.Besides.V.BoxG; g > 0 {
		v.Box = c.Units.Grams(g)
	}
	if posted, err := s.Posted(c); err == nil && posted.Has("other_names") { // what was typed stands
		v.NameBox, v.Names, v.Box = posted.Get("name"), posted.Get("other_names"), posted.Get("box_g")
		for key, at := range labelLines(&v.Label) {
			*at = posted.Get(key)
		}
	}
	v.figures()
	v.holds(c.Units, r.Request.Request)
	made, err := s.Store.RecipesMade(ctx, []uint64{r.ID})
	if err != nil {
		return err
	}
	v.Made = madeWords(made[r.ID])
	if r.PartnerID != nil {
		if with, err := s.Store.RecipeByID(ctx, *r.PartnerID); err == nil {
			v.With = &batchRow{ID: with.ID, Name: with.Name}
		}
	}
	cab, err := c.Cabinet()
	if err != nil {
		return err
	}
	v.Without = form.Retired(cab, &r.Request.Request)
	same, err := s.Store.RecipesNamed(ctx, r.Name)
	if err != nil {
		return err
	}
	v.Twin = same > 1
	batches, err := s.Store.BatchesOf(ctx, r.ID, 12)
	if err != nil {
		return err
	}
	for _, b := range batches {
		when := measure.DayWords(b.Request.MadeOn)
		if b.Request.MadeOn == "" {
			when = "no day named"
		}
		v.Batches = append(v.Batches, batchRow{b.ID, b.Row.Name, when})
	}
	if err := s.versions(c, &v, r); err != nil {
		return err
	}
	s.Render(c, status, "recipepage", "Recipe: "+r.Name, v)
	return nil
}

// figures are what a recipe makes, in short.
func (v *recipeView) figures() {
	p, f := v.Plan, &v.Plan.Formula
	add := func(label, value string) {
		if value != "" {
			v.Figures = append(v.Figures, figure{label, value})
		}
	}
	add("Flour", v.In.Grams(f.FlourG))
	if f.Pick.EggG > 0 {
		add("Eggs", p.EggWords())
	}
	if p.Room.LiquidG > .5 {
		add(measure.Capital(p.TopWord()), v.In.Whole(p.Room.LiquidG))
	}
	if ratio, is := recipe.RatioOf(&p.Request); is {
		add("As a ratio", ratio.Words(v.In))
	}
	add("Makes", fmt.Sprintf("%.1f portions, %s of dough", f.Portions, v.In.Grams(f.Dough.MassG)))
	if d := p.Dry.ToKeep; d != nil && d.RawG > 0 && d.TargetG < d.RawG {
		add("A portion as sold", v.In.Grams(f.PortionG*d.TargetG/d.RawG)+", dried")
	}
	add("Kneading and rest", measure.Minutes(p.Knead.Min)+" + "+measure.Minutes(p.Rest.Min))
	if !p.Pinned() && !p.Roped() && len(p.Roll.Passes) > 0 {
		add("Rolled to", "stop "+p.Roll.Passes[len(p.Roll.Passes)-1].Label+", "+v.In.MM(p.Roll.SheetMM, 2))
	}
	add("Cut as", p.Cut.Shape.Name)
}

// holds are what a recipe says otherwise than a usual batch, in the order of work.
func (v *recipeView) holds(in measure.System, r request.Request) {
	for _, ch := range request.ChangesIn(in, request.Default(), r) {
		if recipe.PartOf(ch.Field) == recipe.OfRecipe && ch.From != ch.To && ch.Field.Path != "name" {
			v.Holds = append(v.Holds, figure{ch.Field.Label, ch.ToShown})
		}
	}
}

// versions fills in the versions.
func (s *Room) versions(c *page.Visit, v *recipeView, r store.Recipe) error {
	all, by, err := s.Store.RecipeVersions(c.Request.Context(), r.ID)
	if err != nil {
		return err
	}
	for i, x := range all {
		row := versionRow{Version: x.Version, When: measure.TimeWords(x.UpdatedAt.Local()), By: by[i],
			Now:     x.Version == r.Version,
			Changed: "kept"}
		if i+1 < len(all) {
			row.Changed = changed(c.Units, all[i+1], x)
		}
		v.Versions = append(v.Versions, row)
	}
	return nil
}

// changed says what a version changed of the one before.
func changed(in measure.System, was, is store.Recipe) string {
	var out []string
	for _, ch := range request.ChangesIn(in, was.Request.Request, is.Request.Request) {
		out = append(out, fmt.Sprintf("%s: %s, was %s", ch.Field.Label, ch.ToShown, ch.FromShown))
	}
	out = append(out, is.Besides.V.Differs(was.Besides.V)...)
	if len(out) == 0 {
		return "as before"
	}
	const most = 6
	if more := len(out) - most; more > 0 {
		out = append(out[:most], fmt.Sprintf("and %d more", more))
	}
	return strings.Join(out, "; ")
}

// MakeRecipe makes a batch of a recipe: so much of it, for a day.
func (s *Room) MakeRecipe(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	r, err := s.recipe(c)
	if err != nil {
		return err
	}
	errs := map[string]string{}
	much, unit, day := strings.TrimSpace(values.Get("much")), values.Get("unit"), strings.TrimSpace(values.Get("for"))
	want, said := wanted(c.Units, much, unit)
	want.Exactly = values.Get("exactly") != ""
	if said != "" {
		errs["much"] = said
	}
	if _, err := measure.Day(day); day != "" && err != nil {
		errs["for"] = "This needs a day, from 2000 to 2100, as 2026-11-28; or none."
	}
	if r.RetiredAt != nil {
		errs["much"] = "This recipe is retired; take it into use again first."
	}
	if len(errs) > 0 {
		return s.show(c, http.StatusUnprocessableEntity, errs, much, unit, day)
	}
	p, now, err := s.planned(c, r.Request.Request)
	if err != nil {
		return err
	}
	scaled, _, err := recipe.Scale(now, p, want)
	if err != nil {
		return err
	}
	scaled.MadeOn = day
	q, err := plan.MakeIn(c.Units, s.RulesOf(c.Request.Context(), &scaled), scaled)
	if err != nil {
		errs["much"] = measure.Capital(err.Error()) + "."
		return s.show(c, http.StatusUnprocessableEntity, errs, much, unit, day)
	}
	second, with, err := s.second(c, r, q.Formula.FlourG/p.Formula.FlourG, day)
	if err != nil {
		return err
	}
	var b store.Batch
	ctx, once := c.Request.Context(), page.OnceOf(values)
	err = s.Store.Atomically(ctx, func(in *store.Store) (err error) {
		if b, err = in.CreateOf(ctx, once, q, r.ID, r.Version); err != nil || second == nil || b.PartnerID != nil {
			return err
		}
		other, err := in.CreateOf(ctx, "", second, with.ID, with.Version)
		if err != nil {
			return err
		}
		return in.TieBatches(ctx, b.ID, other.ID)
	})
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/batches/%d", b.ID))
	return nil
}

// second is the plan of the dough that goes together with a recipe's, by the same factor, and the recipe it is of; nil
// where there is none, or it is gone.
func (s *Room) second(c *page.Visit, r store.Recipe, factor float64, day string) (*plan.Plan, store.Recipe, error) {
	if r.PartnerID == nil {
		return nil, store.Recipe{}, nil
	}
	with, err := s.Store.RecipeByID(c.Request.Context(), *r.PartnerID)
	if errors.Is(err, store.ErrNotFound) {
		return nil, with, nil
	}
	if err != nil {
		return nil, with, err
	}
	p, now, err := s.planned(c, with.Request.Request)
	if err != nil {
		return nil, with, err
	}
	scaled, _, err := recipe.Scale(now, p, recipe.Want{Times: factor})
	if err != nil {
		return nil, with, err
	}
	scaled.MadeOn = day
	q, err := plan.MakeIn(c.Units, s.RulesOf(c.Request.Context(), &scaled), scaled)
	if err != nil {
		err = page.Refuse(http.StatusUnprocessableEntity, "Its second dough, "+with.Name+", cannot be made so.",
			err.Error(),
			page.WayOn{To: fmt.Sprintf("/recipes/%d", r.ID), Name: r.Name})
	}
	return q, with, err
}

// The most that may be asked for at once.
const mostPortions, mostDoughG, mostEggs = 400, 60000, 2000

// wanted reads how much is wanted; said is what is wrong with it.
func wanted(in measure.System, much, unit string) (w recipe.Want, said string) {
	switch unit {
	case "portions":
		n, ok := measure.ParseNumber(much)
		if w.Portions = n; !ok || !(n >= .5 && n <= mostPortions) {
			return w, fmt.Sprintf("½ to %d portions is allowed.", mostPortions)
		}
	case "dough", "flour":
		n, err := measure.Read(much, measure.G, func(n float64) float64 {
			if _, by, _, turned := in.Turn(measure.G); turned {
				return n / by
			}
			return n
		})
		at := &w.DoughG
		if unit == "flour" {
			at = &w.FlourG
		}
		if *at = n; err != nil || !(n >= 80 && n <= mostDoughG) {
			return w, in.Prose(fmt.Sprintf("{80–%d g} of %s is allowed.", mostDoughG, unit))
		}
	case "eggs":
		n, ok := measure.ParseNumber(much)
		if w.Eggs = n; !ok || !(n >= 1 && n <= mostEggs) || n != float64(int(n)) {
			return w, fmt.Sprintf("1 to %d whole eggs is allowed.", mostEggs)
		}
	default:
		return w, "Portions, dough, flour or eggs is allowed."
	}
	return w, ""
}

// ChangeRecipe renames a recipe, or says its other names.
func (s *Room) ChangeRecipe(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	r, err := s.recipe(c)
	if err != nil {
		return err
	}
	version, _ := strconv.Atoi(values.Get("version"))
	next := r.Request.Request
	next.Name = strings.Join(strings.Fields(values.Get("name")), " ")
	besides := r.Besides.V
	names, nameErr := recipe.ReadNames(values.Get("other_names"))
	besides.Names = names
	for key, at := range labelLines(&besides.Label) {
		if values.Has(key) {
			*at = strings.Join(strings.Fields(values.Get(key)), " ")
		}
	}
	boxErr := readBox(c.Units, values, &besides)
	p, planErr := plan.Make(s.RulesOf(c.Request.Context(), &next), next)
	errs := map[string]string{}
	for _, f := range slices.Concat(measure.Faults(nameErr), measure.Faults(boxErr), measure.Faults(besides.Check())) {
		errs[f.Field] = measure.Capital(f.Text) + "."
	}
	if planErr != nil {
		errs["name"] = measure.Capital(planErr.Error()) + "."
	}
	if len(errs) > 0 {
		return s.show(c, http.StatusUnprocessableEntity, errs, "", "portions", s.Today())
	}
	if _, err := s.Store.SaveRecipe(c.Request.Context(), r.ID, version, p, besides); err != nil {
		return err
	}
	return s.back(c, r.ID)
}

// readBox reads what a box holds; empty where it is not sold by boxes.
func readBox(in measure.System, values url.Values, b *recipe.Besides) error {
	text := strings.TrimSpace(values.Get("box_g"))
	if !values.Has("box_g") {
		return nil
	}
	if b.BoxG = 0; text == "" {
		return nil
	}
	g, err := measure.Read(text, measure.G, func(n float64) float64 {
		if _, by, _, turned := in.Turn(measure.G); turned {
			return n / by
		}
		return n
	})
	if err != nil {
		return measure.Faultf("box_g", "a weight as 500 g is allowed; empty where it is not sold by boxes")
	}
	b.BoxG = g
	return nil
}

// labelLines are the lines of a label by the names of their boxes.
func labelLines(l *recipe.Label) map[string]*string {
	return map[string]*string{"product": &l.Product, "made_by": &l.MadeBy, "may_contain": &l.MayContain}
}

// TakeBack makes an earlier version of a recipe the newest.
func (s *Room) TakeBack(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	r, err := s.recipe(c)
	if err != nil {
		return err
	}
	n, _ := strconv.Atoi(c.Param("version"))
	old, err := s.Store.RecipeAt(c.Request.Context(), r.ID, n)
	if errors.Is(err, store.ErrNotFound) {
		return none()
	}
	if err != nil {
		return err
	}
	p, err := plan.Make(s.RulesOf(c.Request.Context(), &old.Request.Request), old.Request.Request)
	if err != nil {
		return page.Refuse(http.StatusUnprocessableEntity, "That version cannot be worked out any more.", err.Error())
	}
	opened, _ := strconv.Atoi(values.Get("version"))
	if _, err := s.Store.SaveRecipe(c.Request.Context(), r.ID, opened, p, old.Besides.V); err != nil {
		return err
	}
	return s.back(c, r.ID)
}

// RetireRecipe puts a recipe away, RestoreRecipe takes it into use again.
func (s *Room) RetireRecipe(c *page.Visit) error { return s.retire(c, true) }

// RestoreRecipe takes a recipe into use again.
func (s *Room) RestoreRecipe(c *page.Visit) error { return s.retire(c, false) }

func (s *Room) retire(c *page.Visit, away bool) error {
	r, err := s.recipe(c)
	if err != nil {
		return err
	}
	if err := s.Store.RetireRecipe(c.Request.Context(), r.ID, away); err != nil {
		return err
	}
	return s.back(c, r.ID)
}

func (s *Room) back(c *page.Visit, id uint64) error {
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/recipes/%d", id))
	return nil
}
