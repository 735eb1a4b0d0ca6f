package web

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/store"
)

// A batch is kept as a recipe, made at another amount, changed, taken back into the recipe, and the recipe's change
// into the batch of before.
func TestARecipeRoundTheKitchen(t *testing.T) {
	s := newSite(t)
	ctx := context.Background()
	const trays = "Counter trays, mixed"
	at := batchAt(trays)
	s.wants(s.ask("GET", at+"/recipe", nil), 200, "Keep as a recipe", `value="Counter trays, mixed"`)
	s.wants(s.ask("POST", at+"/recipe", url.Values{"name": {""}, "other_names": {""}}), 422, `class="err"`)
	w := s.ask("POST", at+"/recipe", url.Values{"name": {"Trays of the week"}, "other_names": {"trays., egg ribbons"}})
	if w.Code != http.StatusSeeOther {
		t.Fatalf("kept: %d %s", w.Code, w.Body)
	}
	recipe := w.Header().Get("Location")
	s.wants(s.ask("GET", recipe, nil), 200, "egg ribbons", "Make it", "Versions")
	s.wants(s.ask("POST", at+"/recipe", url.Values{"name": {"trays of the WEEK"}}), 422, "of that name already",
		"Keep both")
	s.wants(s.ask("GET", "/recipes?find=ribb", nil), 200, "Trays of the week")
	s.wants(s.ask("GET", "/recipes?find=nettles", nil), 200, "Nothing of that name")
	s.wants(s.ask("GET", at, nil), 200, `class="of-recipe off-paper">Of`, "Trays of the week")

	for much, unit := range map[string]string{"": "portions", "-3": "portions", "1e99": "dough", "2.5": "eggs",
		"8": "acres"} {
		s.wants(s.ask("POST", recipe+"/make", url.Values{"much": {much}, "unit": {unit}}), 422, `class="err"`)
	}
	s.wants(s.ask("POST", recipe+"/make", url.Values{"much": {"8"}, "unit": {"portions"}, "for": {"never"}}), 422,
		"needs a day")
	w = s.ask("POST", recipe+"/make", url.Values{"much": {"8"}, "unit": {"portions"}, "for": {"2026-12-02"}})
	batch := w.Header().Get("Location")
	if w.Code != http.StatusSeeOther || !strings.HasPrefix(batch, "/batches/") {
		t.Fatalf("made: %d %s", w.Code, w.Body)
	}
	s.wants(s.ask("GET", batch, nil), 200, `class="of-recipe off-paper">Of`, "Trays of the week")
	var id uint64
	fmt.Sscanf(batch, "/batches/%d", &id)
	b, err := s.store.Get(ctx, id)
	if err != nil || b.RecipeID == nil || b.Request.MadeOn != "2026-12-02" || b.Request.Amount.Portions != 8 {
		t.Fatalf("%+v, %v", b.Request.Amount, err)
	}

	v := s.typed(id)
	v.Set("rest.at", "fridge")
	v.Set("room.temp_c", "27")
	s.wants(s.ask("POST", batch+"/save", v), 303)
	s.wants(s.ask("GET", batch, nil), 200, "Rests in: The fridge, wrapped, not The room, wrapped", "Into the recipe")
	s.wants(s.ask("GET", "/batches", nil), 200, "but Rests in: The fridge, wrapped, not The room, wrapped")
	s.wants(s.ask("GET", batch+"/into", nil), 200, `value="rest.at"`)
	s.wants(s.ask("POST", batch+"/into", url.Values{"version": {"1"}}), 422, "Tick at least one")
	if w := s.ask("POST", batch+"/into", url.Values{"version": {"1"},
		"take": {"rest.at"}}); w.Header().Get("Location") != recipe {
		t.Fatalf("into: %d %s", w.Code, w.Body)
	}
	s.wants(s.ask("POST", batch+"/into", url.Values{"version": {"1"}, "take": {"rest.at"}}), 409, "Another window")
	s.wants(s.ask("GET", recipe, nil), 200, "Rests in: The fridge, wrapped, was The room, wrapped")
	s.wants(s.ask("GET", batch, nil), 200, `class="of-recipe off-paper">Of`, "Trays of the week")

	s.wants(s.ask("GET", at, nil), 200, "The recipe has changed", "version 2")
	s.wants(s.ask("GET", at+"/newer", nil), 200, "Rests in", "Take what changed")
	before, _ := s.store.Get(ctx, demo.Number(trays))
	s.wants(s.ask("POST", at+"/newer", url.Values{"version": {fmt.Sprint(before.Version)}}), 303)
	after, _ := s.store.Get(ctx, demo.Number(trays))
	if after.Request.Rest.At != "fridge" || after.Request.Room != before.Request.Room || *after.RecipeVersion != 2 ||
		after.Request.Amount != before.Request.Amount {
		t.Errorf("taken into the batch: %+v", after.Request.Rest)
	}

	s.wants(s.ask("POST", recipe+"/versions/1/take", url.Values{"version": {"2"}}), 303)
	s.wants(s.ask("GET", recipe, nil), 200, "Rests in: The room, wrapped, was The fridge, wrapped")
	s.wants(s.ask("POST", recipe+"/retire", url.Values{}), 303)
	s.wants(s.ask("GET", recipe, nil), 200, "is retired", "into use again")
	s.wants(s.ask("POST", recipe+"/make", url.Values{"much": {"8"}, "unit": {"portions"}}), 422, "retired")
	s.wants(s.ask("GET", batch, nil), 200, "which is retired")
	s.wants(s.ask("POST", recipe+"/restore", url.Values{}), 303)
	for _, path := range []string{"/recipes/0", "/recipes/x", "/recipes/99999", "/batches/99999/into"} {
		if w := s.ask("GET", path, nil); w.Code != http.StatusNotFound {
			t.Errorf("%s: %d", path, w.Code)
		}
	}
}

// The first page offers the recipes most made, and keeps what it is asked as a recipe: once, however often it is sent;
// what cannot be worked out is asked again with everything as typed.
func TestTodayKnowsRecipes(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", "/", nil), 200, "Made most", `href="/recipes/5#make"`, "Keep as a recipe")
	ask := url.Values{"amount.by": {"portions"}, "amount.portions": {"6"}, "cut.shape": {"pappardelle"},
		"flours.0.flour": {"soft-00"}, "eggs.class": {"eu-l"}, "roll.machine": {"hand-crank-10"}, "whole": {"first"},
		"once": {"KEEPTHEQUESTION"}}
	w := s.ask("POST", "/recipes", ask)
	at := w.Header().Get("Location")
	if w.Code != http.StatusSeeOther || !strings.HasPrefix(at, "/recipes/") {
		t.Fatalf("%d %s", w.Code, w.Body)
	}
	if again := s.ask("POST", "/recipes", ask).Header().Get("Location"); again != at {
		t.Errorf("sent twice: %s and %s", at, again)
	}
	s.wants(s.ask("GET", at, nil), 200, "Pappardelle", "not made yet")
	ask.Set("amount.portions", "-1")
	s.wants(s.ask("POST", "/recipes", ask), 422, `value="-1"`)
}

// Sixty batches from before there were recipes, copies of nine at other amounts, on other days and in other air, are
// kept as nine recipes by ticking; batches, days and orders stay as they were, and what is ordered then is made of
// them.
func TestKeepWhatIsMade(t *testing.T) {
	s, ctx := emptySite(t), context.Background()
	scenario := demo.Scenario(rules.Default(), demo.Day)
	scenario.Recipes = nil
	if _, err := s.store.Seed(ctx, scenario); err != nil {
		t.Fatal(err)
	}
	byTheBook(t, s.store)
	first, err := s.store.BatchesOfNone(ctx, 100)
	if err != nil {
		t.Fatal(err)
	}
	slices.Reverse(first)
	for i := len(first); i < 60; i++ {
		b := first[i%9]
		p, err := plan.Make(rules.Default(), b.Request.Request)
		if err != nil {
			t.Fatal(err)
		}
		r, _, err := recipe.Scale(b.Request.Request, p, recipe.Want{Times: 1 + float64(i%4)/2})
		if err != nil {
			t.Fatal(err)
		}
		r.Name, r.MadeOn, r.Room.RH = b.Row.Name+", copy", "2026-11-20", .4+float64(i%5)/20
		if p, err = plan.Make(rules.Default(), r); err != nil {
			t.Fatal(err)
		}
		if _, err := s.store.Create(ctx, p); err != nil {
			t.Fatal(err)
		}
	}
	date := demo.Date(time.Now())
	look := func() string {
		var all []string
		batches, err := s.store.Newest(ctx, -1)
		if err != nil {
			t.Fatal(err)
		}
		for _, n := range batches {
			b, err := s.store.Get(ctx, n.ID)
			if err != nil {
				t.Fatal(err)
			}
			b.RecipeID, b.RecipeVersion = nil, nil // all that may change
			all = append(all, asJSON(t, b))
		}
		d, err := s.store.Day(ctx, date)
		if err != nil {
			t.Fatal(err)
		}
		o, err := s.store.Orders(ctx, date)
		if err != nil {
			t.Fatal(err)
		}
		week, err := s.store.Week(ctx)
		if err != nil {
			t.Fatal(err)
		}
		return strings.Join(append(all, asJSON(t, d), asJSON(t, o), asJSON(t, week)), "\n")
	}
	before := look()
	_, body := s.got("GET", "/recipes/gather", nil)
	form := url.Values{}
	for _, x := range strings.Split(body, `name="keep" value="`)[1:] {
		form.Add("keep", x[:strings.Index(x, `"`)])
	}
	if n := len(form["keep"]); n != len(first) {
		t.Fatalf("%d groups of %d", n, len(first))
	}
	s.wants(s.ask("POST", "/recipes/gather", url.Values{}), 422, "Tick at least one")
	ticked := form["keep"][:9]
	form["keep"] = ticked
	form.Set("name."+ticked[0], "")
	s.wants(s.ask("POST", "/recipes/gather", form), 422, "Nothing was kept yet", `value="`+ticked[0]+`" checked`)
	form.Set("name."+ticked[0], "The first of them")
	s.wants(s.ask("POST", "/recipes/gather", form), 303)
	if after := look(); after != before {
		t.Errorf("batches, days or orders are otherwise:\n%.600s", after)
	}
	kept, err := s.store.NamedRecipes(ctx)
	if err != nil || len(kept) != 9 {
		t.Fatalf("%d recipes, %v", len(kept), err)
	}
	of := 0
	for _, r := range kept {
		all, err := s.store.BatchesOf(ctx, r.ID, 100)
		if err != nil || len(all) < 5 {
			t.Errorf("%s: %d batches, %v", r.Name, len(all), err)
		}
		of += len(all)
	}
	if rest, err := s.store.BatchesOfNone(ctx, 100); err != nil || of+len(rest) != 60 || len(rest) != len(first)-9 {
		t.Errorf("%d of recipes, %d of none, %v", of, len(rest), err)
	}
	s.wants(s.ask("POST", "/recipes/gather", form), 422, "kept or changed meanwhile")
	s.wants(s.ask("GET", "/recipes", nil), 200, "The first of them")
}

func asJSON(t *testing.T, v any) string {
	t.Helper()
	b, err := json.Marshal(v)
	if err != nil {
		t.Fatal(err)
	}
	return string(b)
}

// All recipes go out in one file, with the things of the cabinet they are made of, and come in at another kitchen once:
// previewed by name and difference, the changed one as the next version of its own.
func TestRecipesOutAndIn(t *testing.T) {
	from, to := newSite(t), emptySite(t)
	ctx := context.Background()
	_, text := from.got("GET", "/recipes/recipes.json", nil)
	_, one := from.got("GET", "/recipes/7/recipe.json", nil)
	if !strings.Contains(text, `"hollen-recipe/1"`) || !strings.Contains(one, `"egg ribbons"`) ||
		strings.Contains(text, `"lot": "`) && !strings.Contains(text, `"lot": ""`) {
		t.Fatalf("%.500s", text)
	}
	sets := func(body string) (out []string) {
		for _, x := range strings.Split(body, `name="take" value="`)[1:] {
			out = append(out, x[:strings.Index(x, `"`)])
		}
		return out
	}
	preview := func(text string) []string {
		w := to.ask("POST", "/import", url.Values{"text": {text}})
		to.wants(w, 200, "Recipes")
		return sets(w.Body.String())
	}
	all := preview(text)
	if len(all) != 9 {
		t.Fatalf("%d to take", len(all))
	}
	to.wants(to.ask("POST", "/import/take", url.Values{"text": {text}, "take": all}), 303)
	here, err := to.store.AllRecipes(ctx)
	there, err2 := from.store.AllRecipes(ctx)
	if err != nil || err2 != nil || len(here) != 9 || len(there) != 9 {
		t.Fatalf("%d of %d, %v, %v", len(here), len(there), err, err2)
	}
	for i := range here {
		for _, d := range recipe.Differences(measure.Metric, there[i].Request.Request, here[i].Request.Request) {
			if d.FromShown != d.ToShown { // numbers of the cabinet are others here
				t.Errorf("%s: %s", here[i].Name, d.Words())
			}
		}
		if asJSON(t, here[i].Besides) != asJSON(t, there[i].Besides) {
			t.Errorf("%s: %+v", here[i].Name, here[i].Besides)
		}
	}
	cab, err := to.store.Cabinet(ctx)
	if err != nil {
		t.Fatal(err)
	}
	names := map[string]bool{}
	for _, f := range cab.Flours {
		if names[f.Name] {
			t.Errorf("%s came twice", f.Name)
		}
		names[f.Name] = true
	}
	if again := preview(text); len(again) != 0 {
		t.Errorf("once more: %v", again)
	}
	changed := strings.Replace(one, `"at": "room"`, `"at": "fridge"`, 1)
	again := preview(changed)
	if len(again) != 1 {
		t.Fatalf("%v", again)
	}
	to.wants(to.ask("POST", "/import", url.Values{"text": {changed}}), 200, "Rests in", "the next version of")
	to.wants(to.ask("POST", "/import/take", url.Values{"text": {changed}, "take": {"recipe.0.99.1"}}), 409,
		"changed meanwhile")
	to.wants(to.ask("POST", "/import/take", url.Values{"text": {changed}, "take": again}), 303)
	if r, found, err := to.store.RecipeCalled(ctx, "tagliatelle"); err != nil || !found || r.Version != 2 ||
		r.Request.Rest.At != "fridge" {
		t.Errorf("%+v, %v, %v", r.Request.Rest, found, err)
	}
	for bad, says := range map[string]string{`{"format":"hollen-recipe/1","recipes":[]}`: "holds no recipe",
		`{"format":"hollen-recipe/1","recipes":[{}]}`:                                        "Recipe 1: it holds no request",
		strings.Replace(one, `"egg ribbons"`, `"a, b"`, 1):                                   "without commas",
		`{"format":"hollen-recipe/1","recipes":[{"request":{"format":"hollen-request/9"}}]}`: "Recipe 1: "} {
		to.wants(to.ask("POST", "/import", url.Values{"text": {bad}}), 422, says)
	}
}

// A day’s room is said once for all its batches that are not begun, looked over before it is done: what was typed for
// one batch stays, what a day has set a day may set again, and what was saved meanwhile is looked over anew.
func TestTheDaysOwn(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	date := after(12)
	path := "/days/" + date
	s.wants(s.ask("POST", path+"/orders", url.Values{"act": {"paste"},
		"text": {"A; tagliatelle; 8; 12:00\nB; pappardelle; 6; 12:30\nC; linguine, no egg; 4; 13:00"}}), 303)
	_, body := s.got("GET", path+"/orders", nil)
	form := url.Values{"act": {"make"}, "source": {"recipe-7", "recipe-4", "recipe-5"}}
	for _, x := range strings.Split(body, `name="orders" value="`)[1:] {
		form.Add("orders", x[:strings.Index(x, `"`)])
	}
	s.wants(s.ask("POST", path+"/orders", form), 303)
	d, err := s.store.Day(ctx, date)
	if err != nil || len(d.Sheet.Jobs) != 3 {
		t.Fatalf("%d batches, %v", len(d.Sheet.Jobs), err)
	}
	at := func(i int) store.Batch {
		b, err := s.store.Get(ctx, d.Sheet.Jobs[i].Batch)
		if err != nil {
			t.Fatal(err)
		}
		return b
	}
	typed := s.typed(at(1).ID)
	typed.Set("room.rh", "35")
	s.wants(s.ask("POST", fmt.Sprintf("/batches/%d/save", at(1).ID), typed), 303)

	boxes := func(rh string) (ticked []string, all int) {
		w := s.ask("GET", path+"/own?room.rh="+rh+"&eggs.class=eu-s", nil)
		s.wants(w, 200, rh+" %")
		for _, x := range strings.Split(w.Body.String(), `name="take" value="`)[1:] {
			all++
			if end := strings.Index(x, `"`); strings.HasPrefix(x[end+1:], " checked") {
				ticked = append(ticked, x[:end])
			}
		}
		return ticked, all
	}
	take := func(rh string, ticked []string, status int, says ...string) {
		s.wants(s.ask("POST", path+"/own", url.Values{"room.rh": {rh}, "eggs.class": {"eu-s"}, "take": ticked}),
			status, says...)
	}
	first, all := boxes("72")
	if len(first) != all-1 || all < 5 {
		t.Fatalf("%d of %d are ticked: %v", len(first), all, first)
	}
	take("72", nil, 422, "Tick what is to change")
	take("720", first, 422, `value="720"`, "nothing was changed")
	take("72", first, 303)
	if a, b, c := at(0).Request, at(1).Request, at(2).Request; a.Room.RH != .72 || b.Room.RH != .35 ||
		c.Room.RH != .72 ||
		a.Eggs.Class != "eu-s" || b.Eggs.Class != "eu-s" || c.Eggs.Class == "eu-s" {
		t.Errorf("%v %v %v, %s %s %s", a.Room, b.Room, c.Room, a.Eggs.Class, b.Eggs.Class, c.Eggs.Class)
	}
	take("72", first, 409, "changed or begun meanwhile")
	again, all := boxes("40")
	if len(again) != 2 || all != 3 {
		t.Errorf("then %v of %d", again, all)
	}
	take("40", again, 303)
	if a, b := at(0).Request.Room.RH, at(1).Request.Room.RH; a != .4 || b != .35 {
		t.Errorf("then %v and %v", a, b)
	}
	for i := range 3 { // what a recipe says is as it was
		if b := at(i); b.RecipeID == nil {
			t.Errorf("%s is of no recipe", b.Row.Name)
		} else if r, err := s.store.RecipeByID(ctx, *b.RecipeID); err != nil ||
			len(recipe.Differences(measure.Metric, r.Request.Request, b.Request.Request)) > 0 {
			t.Errorf("%s differs from its recipe: %v", b.Row.Name, err)
		}
	}
}

// An order that names a batch of a recipe is made of the recipe, together with those that name the recipe.
func TestABatchsNameMeansItsRecipe(t *testing.T) {
	s := newSite(t)
	path := "/days/" + after(9) + "/orders"
	s.wants(s.ask("POST", path, url.Values{"act": {"paste"}, "text": {"A; tagl.; 5; 12:00\nB; " +
		demo.Saturday + "; 4; 12:30"}}), 303)
	_, body := s.got("GET", path, nil)
	if n := strings.Count(body, `name="orders" value="`); n != 1 || !strings.Contains(body,
		`value="recipe-7" selected`) {
		t.Errorf("%d proposals", n)
	}
}

// A recipe is opened and changed at the stations a batch has, without what is a day's; a batch of the same number is
// not
// touched, and of two windows the second is told.
func TestARecipeAtItsStations(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	const at = "/recipes/7/stations"
	before, err := s.store.RecipeByID(ctx, 7)
	if err != nil {
		t.Fatal(err)
	}
	batch, _ := s.store.Get(ctx, 7)
	for _, station := range []string{"formula", "room", "knead", "rest", "roll", "cut", "dry", "cook", "doctor"} {
		w := s.ask("GET", at+"?at="+station, nil)
		s.wants(w, 200, `action="/recipes/7/stations/work"`, `formaction="/recipes/7/stations/save"`,
			"A recipe: what its")
		for _, other := range []string{"/batches/7", "To the bench", "Practise this call", `value="doctor`} {
			if strings.Contains(w.Body.String(), other) {
				t.Errorf("%s: %s stands on it", station, other)
			}
		}
	}
	s.wants(s.ask("GET", at+"?at=room", nil), 200, "A recipe has no room, no day, no maker and no lots")
	s.wants(s.ask("GET", "/recipes/999/stations", nil), 404, "no such recipe")
	v := postOf(before.Version, before.Request.Request)
	v.Set("rest.rest_min", "47")
	v.Set("room.temp_c", "29")
	s.wants(s.ask("POST", at+"/work", v), 200, "Not saved yet")
	if now, _ := s.store.RecipeByID(ctx, 7); now.Version != before.Version {
		t.Error("working it out saved it")
	}
	bad := postOf(before.Version, before.Request.Request)
	bad.Set("rest.rest_min", "soon")
	s.wants(s.ask("POST", at+"/save", bad), 422, `value="soon"`, "is allowed")
	s.wants(s.ask("POST", at+"/save", v), 303)
	now, _ := s.store.RecipeByID(ctx, 7)
	r := now.Request.Request
	if now.Version != before.Version+1 || r.Rest.Min == nil || *r.Rest.Min != 47 || r.Room.TempC == 29 ||
		strings.Join(now.Besides.V.Names, ",") != strings.Join(before.Besides.V.Names, ",") {
		t.Errorf("version %d, %+v, %+v, %v", now.Version, r.Rest, r.Room, now.Besides.V.Names)
	}
	if again := recipe.Of(r); written(again) != written(r) {
		t.Error("the day came into the recipe")
	}
	v.Set("rest.rest_min", "33") // from the version before
	v.Set("salt_share", "1.5")
	s.wants(s.ask("POST", at+"/save", v), 409, "another window saved version 2", `name="version" value="2"`)
	if same, _ := s.store.Get(ctx, 7); same.Version != batch.Version {
		t.Error("the batch of that number was saved")
	}
	s.wants(s.ask("GET", "/recipes/7", nil), 200, "Open at its stations", "47")
}

// A recipe is held against another and against itself as it was, both made for as many.
func TestRecipesCompared(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", "/recipes/7/compare?with=4", nil), 200, "Tagliatelle", "Pappardelle", "What comes out",
		"Every stop", "for 12.")
	s.wants(s.ask("GET", "/recipes/7/compare", nil), 200, "Held against")
	s.wants(s.ask("GET", "/recipes/7/compare?with=v9", nil), 404, "no such recipe")
	s.wants(s.ask("GET", "/recipes/7/compare?with=900", nil), 404, "no such recipe")
	r, _ := s.store.RecipeByID(context.Background(), 7)
	v := postOf(1, r.Request.Request)
	v.Set("rest.rest_min", "55")
	s.wants(s.ask("POST", "/recipes/7/stations/save", v), 303)
	s.wants(s.ask("GET", "/recipes/7/compare?with=v1", nil), 200, "Tagliatelle, version 1", "What they say otherwise",
		"55 min")
}

// A batch of one's own way is said as a ratio, for eggs, portions or flour; kept as a recipe it says the ratio again.
func TestABatchByRatio(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", "/batches/new?as=own", nil), 200, "As a ratio", "For how much")
	form := func(ratio, much string, more ...string) url.Values {
		v := url.Values{"amount.by": {"own"}, "was_amount": {"own"}, "ratio": {ratio}, "ratio_for": {much},
			"flours.0.flour": {"soft-00"}, "eggs.class": {"eu-l"}, "cut.shape": {"tagliatelle"}, "name": {"By ratio"}}
		for i := 0; i+1 < len(more); i += 2 {
			v.Set(more[i], more[i+1])
		}
		return v
	}
	for _, x := range []struct {
		form   url.Values
		flourG float64
		eggs   float64
		yolks  float64
	}{{form("100 g to an egg", "6 eggs"), 600, 6, 0}, {form("a kilo to ten eggs", "8 portions"), 700, 7, 0},
		{form("100 g/egg", "550 g of flour"), 600, 6, 0}, {form("32 g to a yolk", "20 yolks"), 640, 0, 20},
		{form("100 g to an egg", "", "eggs.fix_whole_eggs", "4"), 400, 4, 0},
		{form("100 g to an egg", "", "g.flours.0.share", "500"), 500, 5, 0},
		{form("70:30", "5 eggs"), 700, 5, 0}} {
		w := s.ask("POST", "/batches", x.form)
		at := w.Header().Get("Location")
		var id uint64
		fmt.Sscanf(at, "/batches/%d", &id)
		b, err := s.store.Get(context.Background(), id)
		if err != nil {
			t.Errorf("%v: %d %.300s", x.form, w.Code, words(w.Body.String()))
			continue
		}
		r := b.Request.Request
		if r.Amount.By != "own" || r.Amount.FlourG != x.flourG || *r.Eggs.FixWhole != x.eggs ||
			*r.Eggs.FixYolks != x.yolks {
			t.Errorf("%v: %g g, %g eggs, %g yolks", x.form, r.Amount.FlourG, *r.Eggs.FixWhole, *r.Eggs.FixYolks)
		}
	}
	for _, bad := range [][]string{{"a lot to an egg", "6 eggs"}, {"5 g to an egg", "6 eggs"}, {"100 g to an egg",
		"six"},
		{"100 g to an egg", "2.5 eggs"}, {"100 g to an egg", ""}, {"", "6 eggs"}, {"100 g to an egg",
			"90,000 portions"}} {
		s.wants(s.ask("POST", "/batches", form(bad[0], bad[1])), 422, `class="err"`, `value="`+bad[0]+`"`,
			`value="`+bad[1]+`"`)
	}
	w := s.ask("POST", "/batches", form("100 g to an egg", "6 eggs"))
	kept := s.ask("POST", w.Header().Get("Location")+"/recipe", url.Values{"name": {"Hundred to one"}})
	s.wants(s.ask("GET", kept.Header().Get("Location"), nil), 200, "As a ratio", "100 g of flour to an egg")
	made := s.ask("POST", kept.Header().Get("Location")+"/make", url.Values{"much": {"850"}, "unit": {"flour"}})
	s.wants(s.ask("GET", made.Header().Get("Location"), nil), 200, "900")
}

// A recipe of two doughs is two recipes tied: made by one factor, put on a day, handed on and retired together.
func TestARecipeOfTwoDoughs(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	s.wants(s.ask("GET", "/recipes/1", nil), 200, "Made together with", "Stripes, the green dough")
	straw, _ := s.store.RecipeByID(ctx, 1)
	green, _ := s.store.RecipeByID(ctx, 2)
	flour := func(r request.Request) float64 {
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		return p.Formula.FlourG
	}
	made := s.ask("POST", "/recipes/1/make", url.Values{"much": {"9"}, "unit": {"portions"}, "for": {"2026-12-03"},
		"once": {"abcdefgh12345678"}})
	again := s.ask("POST", "/recipes/1/make", url.Values{"much": {"9"}, "unit": {"portions"}, "for": {"2026-12-03"},
		"once": {"abcdefgh12345678"}})
	if made.Code != 303 || made.Header().Get("Location") != again.Header().Get("Location") {
		t.Fatalf("%d, %v, %v", made.Code, made.Header(), again.Header())
	}
	var id uint64
	fmt.Sscanf(made.Header().Get("Location"), "/batches/%d", &id)
	a, _ := s.store.Get(ctx, id)
	if a.PartnerID == nil {
		t.Fatal("it is made without its second dough")
	}
	b, _ := s.store.Get(ctx, *a.PartnerID)
	if b.RecipeID == nil || *b.RecipeID != 2 || *b.PartnerID != a.ID || b.Request.MadeOn != "2026-12-03" {
		t.Fatalf("%+v", b)
	}
	one := flour(a.Request.Request) / flour(straw.Request.Request)
	if two := flour(b.Request.Request) / flour(green.Request.Request); two < one*.97 || two > one*1.03 {
		t.Errorf("by %.3f and %.3f", one, two)
	}

	date := after(12)
	s.wants(s.ask("POST", "/days/"+date+"/orders", url.Values{"act": {"paste"},
		"text": {"Quay inn; stripes, the straw dough; 6; 12:00"}}), 303)
	_, body := s.got("GET", "/days/"+date+"/orders", nil)
	form := url.Values{"act": {"make"}, "source": {"recipe-1"}}
	for _, x := range strings.Split(body, `name="orders" value="`)[1:] {
		form.Add("orders", x[:strings.Index(x, `"`)])
	}
	if w := s.ask("POST", "/days/"+date+"/orders", form); w.Code != 303 {
		t.Fatalf("%.3000s", words(w.Body.String()))
	}
	d, err := s.store.Day(ctx, date)
	if err != nil || len(d.Sheet.Jobs) != 2 {
		t.Fatalf("%d batches on the day, %v", len(d.Sheet.Jobs), err)
	}
	first, _ := s.store.Get(ctx, d.Sheet.Jobs[0].Batch)
	if first.PartnerID == nil || *first.PartnerID != d.Sheet.Jobs[1].Batch {
		t.Error("the doughs of the day are not tied")
	}

	doc := s.ask("GET", "/recipes/1/recipe.json", nil).Body.String()
	to := emptySite(t)
	w := to.ask("POST", "/import", url.Values{"text": {doc}})
	to.wants(w, 200, "Stripes, the straw dough", "Stripes, the green dough")
	to.wants(to.ask("POST", "/import/take", url.Values{"text": {doc}, "take": boxes(w.Body.String())}), 303)
	to.wants(to.ask("GET", "/recipes/1", nil), 200, "Made together with")
	bad := strings.Replace(doc, `"goes_with": 1`, `"goes_with": 0`, 1)
	to.wants(to.ask("POST", "/import", url.Values{"text": {bad}}), 422, "the place of another recipe")

	s.wants(s.ask("POST", "/recipes/2/retire", nil), 303)
	s.wants(s.ask("GET", "/recipes/1", nil), 200, "This recipe is retired")
	s.wants(s.ask("POST", "/recipes/1/restore", nil), 303)
	s.wants(s.ask("GET", "/recipes/2", nil), 200, `href="#make"`)

	// Two doughs of before are kept as two recipes that go together.
	plain, kept := s.planned(func(r *request.Request) { r.Name = "Bands" })
	s.wants(s.ask("POST", plain+"/partner", s.typed(kept.ID)), 303)
	at := s.ask("POST", plain+"/recipe", url.Values{"name": {"Bands"}}).Header().Get("Location")
	s.wants(s.ask("GET", at, nil), 200, "Made together with")
}
