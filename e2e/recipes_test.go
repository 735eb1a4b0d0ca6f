package e2e

import (
	"context"
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"hollen/internal/store/storetest"
)

// From an empty database: nine recipes are kept, seven of the first page's question, one of a ratio and one with a
// filling of the cabinet; each is made thrice at other amounts; a day of nine is made humid in one act; and what is
// made at the maker's word keeps its ratio to the gram.
func TestNineRecipesFromNothing(t *testing.T) {
	t.Parallel()
	s, ctx := storetest.Open(t), context.Background()
	b := open(t, browser(t), served(t, s), wide, high)
	var recipes []string
	here := func() string { return eval[string](b, "location.pathname") }
	kept := func() {
		b.until("the recipe", "location.pathname.startsWith('/recipes/') && document.querySelector('#much')")
		recipes = append(recipes, here())
	}
	for _, shape := range []string{"tagliatelle", "pappardelle", "tagliolini", "lasagne", "farfalle", "fettuccine",
		"garganelli"} {
		b.visit("/")
		b.pick("#f-cut-shape", shape)
		b.until("the answer", "document.querySelector('#answer li b')")
		b.button(".doors", "Keep as a recipe")
		kept()
	}
	b.visit("/batches/new?as=own")
	b.enter("#f-ratio", "100 g to an egg")
	b.enter("#f-ratio-for", "4 eggs")
	b.enter("#f-name", "Hundred to one")
	b.button(".asks-go", "Make the batch")
	b.until("the batch", "document.querySelector('#spine')")
	keep := func(name string) {
		b.visit(here() + "/recipe")
		b.enter("#name", name)
		b.button("main", "Keep it")
		kept()
	}
	keep("Hundred to one")
	b.visit("/cabinet/fillings/new?like=ricotta-spinach")
	b.enter("#w-name", "ricotta and chard")
	b.button(".asks-go", "Keep it")
	b.until("the shelf", "document.body.textContent.includes('ricotta and chard')")
	b.visit("/batches/new")
	b.pick("#f-cut-shape", "ravioli")
	b.button(".asks-go", "Make the batch")
	b.until("the batch", "document.querySelector('#spine')")
	b.visit(here() + "?at=cut")
	b.pick("#f-cut-filling-of", eval[string](b,
		"[...document.querySelectorAll('#f-cut-filling-of option')].find((x) => x.textContent === 'ricotta and "+
			"chard').value"))
	b.until("what goes in", "document.querySelector('.filling-lines')?.textContent.includes('Ricotta')")
	b.click("#save")
	b.until("it is saved", "document.querySelector('[data-is=saved]')")
	keep("Chard cushions")
	if all, err := s.AllRecipes(ctx); err != nil || len(all) != 9 {
		t.Fatalf("%d recipes, %v", len(all), err)
	}

	date := time.Now().AddDate(0, 0, 4).Format(time.DateOnly)
	var last []uint64
	for _, at := range recipes {
		for i, much := range []string{"8", "12", "30"} {
			b.visit(at)
			b.enter("#much", much)
			if i == 2 {
				eval[bool](b, fmt.Sprintf("document.querySelector('#for').value = %q; true", date))
			}
			b.button(".make", "Make it")
			b.until("the batch", "document.querySelector('#spine')")
			var id uint64
			fmt.Sscanf(here(), "/batches/%d", &id)
			kept, err := s.Get(ctx, id)
			if err != nil {
				t.Fatal(err)
			}
			r := kept.Request.Request
			if at == recipes[7] {
				eggs := *r.Eggs.FixWhole
				if eggs != math.Trunc(eggs) || r.Amount.FlourG != 100*eggs {
					t.Errorf("%s portions: %g g and %g eggs", much, r.Amount.FlourG, eggs)
				}
			} else if fmt.Sprint(r.Amount.Portions) != much {
				t.Errorf("%s, %s portions: %+v", r.Name, much, r.Amount)
			}
			if i == 2 {
				last = append(last, id)
			}
		}
	}

	for _, id := range last {
		b.visit("/days/" + date)
		b.pick("#add-batch", fmt.Sprint(id))
		b.button(".day-add", "Put it on")
		b.until("it is on", fmt.Sprintf("[...document.querySelectorAll('a')].some((x) => x.getAttribute('href') "+
			"=== '/batches/%d')",
			id))
	}
	b.visit("/days/" + date + "/own")
	b.enter("[name='room.rh']", "78")
	b.button(".day-own", "Show what changes")
	b.until("what changes", "document.querySelectorAll('.set-once').length === 9")
	b.button("main", "Set it")
	b.until("the day", "!location.pathname.endsWith('/own')")
	for _, id := range last {
		kept, err := s.Get(ctx, id)
		if r := kept.Request.Request; err != nil || math.Abs(r.Room.RH-.78) > 1e-9 {
			t.Errorf("%s: %g, %v", r.Name, r.Room.RH, err)
		}
	}
	b.visit("/recipes")
	if list := b.text("main"); strings.Count(list, "Make it") < 9 {
		t.Errorf("the list: %.600s", list)
	}

	// A recipe is changed where a batch is, with the script that works it out.
	b.visit(recipes[0] + "/stations?at=rest")
	b.enter("#f-rest-rest_min", "44")
	b.until("it is worked out", "document.querySelector('[data-is=unsaved]')")
	b.click("#save")
	b.until("it is saved", "document.querySelector('[data-is=saved]')")
	if !strings.HasPrefix(here(), recipes[0]+"/stations") {
		t.Errorf("saved, it is at %s", here())
	}
	b.visit(recipes[0])
	if said := b.text("main"); !strings.Contains(said, "44 min") {
		t.Errorf("the recipe: %.500s", said)
	}
}
