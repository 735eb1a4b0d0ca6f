package e2e

import (
	"context"
	"fmt"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"hollen/internal/demo"
)

// tourist is a new user who counts: a tap is a click, a choice from a list is two, a field typed into is counted apart.
type tourist struct {
	*tab
	taps, fields int
}

func (u *tourist) tap(sel string) {
	u.t.Helper()
	u.taps++
	u.click(sel)
}

// button taps the button of that text.
func (u *tourist) button(text string) {
	u.t.Helper()
	u.taps++
	find := fmt.Sprintf("[...document.querySelectorAll('button, a.btn')].find((x) => x.offsetParent && "+
		"x.textContent.trim().startsWith(%q))", text)
	u.until("the button "+text, find)
	eval[bool](u.tab, "("+find+".click(), true)")
}

func (u *tourist) choose(sel, value string) {
	u.t.Helper()
	u.taps += 2
	u.pick(sel, value)
}

func (u *tourist) fill(sel, typed string) {
	u.t.Helper()
	u.fields++
	u.enter(sel, typed)
}

// station goes to the nth station.
func (u *tourist) station(n int, name string) {
	u.t.Helper()
	u.tap(fmt.Sprintf("#spine li:nth-child(%d) button", n))
	u.until("the station "+name, "document.title.startsWith('"+name+"')")
}

// at waits until the page is at an address and whole.
func (u *tourist) at(what, condition string) {
	u.t.Helper()
	u.until(what, "document.readyState === 'complete' && "+condition)
}

func (u *tourist) save() {
	u.t.Helper()
	u.tap("#save")
	u.until("saved", settledState+" === 'saved'")
}

// task is what a maker wants, and how it is done.
type task struct {
	what string
	do   func(u *tourist)
}

// tasks are the twelve of the first hour, each from the first page to the answer on the screen.
var tasks = []task{
	{"Tagliatelle for four, worked out", func(u *tourist) {
		u.fill("#f-amount-portions", "4")
		u.until("eggs for four", answerFor(4)+" && "+
			"document.querySelector('#answer li b').textContent.endsWith(' g')")
	}},
	{"My own recipe: 400 g flour, 4 eggs, a spoon of oil", func(u *tourist) {
		u.button("As I make it")
		u.at("its amounts", "document.querySelector('#f-g-flours-0-share')")
		u.fill("#f-g-flours-0-share", "400")
		u.fill("#f-eggs-fix_whole_eggs", "4")
		u.fill("#f-g-oil_share", "1 tbsp")
		u.tap(".asks-go .btn-go")
		u.at("what each part brings", "document.querySelector('#sheet svg.draw')")
	}},
	{"A fifth of semola in the ravioli dough: what changes?", func(u *tourist) {
		u.open(demo.Lantern)
		u.choose("#f-flours-1-flour", "semola-fine")
		u.until("what it came to", "!document.querySelector('#said').hidden")
	}},
	{"The kitchen is drier today: 35 %", func(u *tourist) {
		u.open(demo.Saturday)
		u.station(2, "Room")
		u.fill(humidity, "35")
		u.until("more water", "document.querySelector('#said').textContent.includes('water')")
	}},
	{"Find the linguine without egg", func(u *tourist) {
		u.list()
		u.fill("#find", "lingu")
		u.until("it alone", "document.querySelectorAll('#found [data-id]').length === 1")
		u.tap("#found .open")
		u.at("the batch", "document.querySelector('#title')?.textContent.includes('linguine')")
	}},
	{"Saturday’s batch again, for another day", func(u *tourist) {
		u.list()
		u.tap("a[aria-label='Duplicate " + demo.Saturday + "']")
		u.at("for which day", "document.querySelector('#f-for')")
		u.fields++
		eval[bool](u.tab, "(document.querySelector('#f-for').value = '2026-12-05', true)")
		u.tap(".asks-go .btn-go")
		u.at("the copy", "document.querySelector('[name=made_on]')?.value === '2026-12-05'")
	}},
	{"My machine goes from 9 to 1, gaps unknown", func(u *tourist) {
		u.open(demo.Saturday)
		u.station(5, "Roll")
		u.tap(".measure a[href$='#w-dial']")
		u.at("the machine", "document.querySelector('#w-dial')")
		u.fill("#w-name", "The red one")
		u.fill("#w-dial", "from 9 to 1")
		u.tap(".asks-go .btn-go")
		u.at("it is kept", "document.querySelector('.things')?.textContent.includes('gaps guessed')")
	}},
	{"Pappardelle for three from the same dough", func(u *tourist) {
		u.open(demo.Saturday)
		u.station(6, "Cut")
		u.choose("#f-cut-also-0-shape", "pappardelle")
		u.fill("#f-cut-also-0-portions", "3")
		u.until("both shapes", "document.querySelector('#sheet').textContent.includes('Pappardelle, from above')")
	}},
	{"The dough sticks: what now?", func(u *tourist) {
		u.open(demo.Saturday)
		u.act("Something wrong?")
		u.until("the signs", "document.querySelector('.seen')")
		u.button("Sticks to hand")
		u.until("the causes", "document.querySelector('.findings')")
	}},
	{"The sheet for the bench, on A4", func(u *tourist) {
		u.open(demo.Saturday)
		u.act("Batch sheet")
		u.at("the sheet", "document.querySelector('.paper')")
	}},
	{"A label for the ravioli, allergens of the filling on it", func(u *tourist) {
		u.open(demo.Lantern)
		u.act("Label")
		u.at("the label", "document.querySelector('.label')?.textContent.includes('milk')")
	}},
	{"Take back what I saved by mistake", func(u *tourist) {
		u.open(demo.Saturday)
		u.tap("#c-f-amount-flour_g [data-step='1']")
		u.until("not saved", settledState+" === '"+notSaved+"'")
		u.save()
		u.act("Versions")
		u.at("the versions", "document.querySelectorAll('.things tbody tr').length >= 2")
		u.button("Take it back")
		u.at("as it was", "document.querySelector('.things tbody tr')?.textContent.includes('Flour in all 1,000 g, "+
			"was 1,050 g')")
	}},
}

// go to a word of the navigation, under the menu where it is folded.
func (u *tourist) goes(word string) {
	u.t.Helper()
	link := "a.go[href='" + map[string]string{"Today": "/", "Days": "/days", "Batches": "/batches", "Log": "/log",
		"Cabinet": "/cabinet"}[word] + "']"
	if eval[bool](u.tab, "Boolean(document.querySelector('.nav-fold')?.checkVisibility())") {
		u.tap(".nav-fold summary")
		u.tap(".nav-fold " + link)
	} else {
		u.tap(".nav-wide " + link)
	}
}

// act presses a key of the page’s head, under More where it is folded.
func (u *tourist) act(words string) {
	u.t.Helper()
	find := func(within string) string {
		return fmt.Sprintf("[...document.querySelectorAll('%s')].find((x) => x.checkVisibility() && "+
			"x.textContent.trim().startsWith(%q))", within, words)
	}
	u.until("a head", "document.readyState === 'complete' && document.querySelector('.head')")
	key := find(".head .acts > :is(a, button), .head .acts > form button")
	if !eval[bool](u.tab, "Boolean("+key+")") {
		u.tap(".head .menu summary")
		key = find(".head .menu > div > :is(a, button), .head .menu form button")
		u.until("the key "+words, key)
	}
	u.taps++
	eval[bool](u.tab, "("+key+".click(), true)")
}

// list goes to the list of batches.
func (u *tourist) list() {
	u.t.Helper()
	if short := ".below a[href='/batches']"; eval[bool](u.tab, "Boolean(document.querySelector(\""+short+"\"))") {
		u.tap(short)
	} else {
		u.goes("Batches")
	}
	u.at("the list", "document.querySelector('#found')")
}

// open opens a batch from the list.
func (u *tourist) open(name string) {
	u.t.Helper()
	u.list()
	u.taps++
	find := fmt.Sprintf("[...document.querySelectorAll('#found .open')].find((x) => "+
		"x.querySelector('.name').firstChild.textContent === %q)", name)
	u.until(name, find)
	eval[bool](u.tab, "("+find+".click(), true)")
	u.at("the batch",
		"document.querySelector('#spine') && document.querySelector('#title').textContent.includes('"+name+"')")
}

// further are eighteen more, of the days after.
var further = []task{
	{"What I have is four eggs", func(u *tourist) {
		u.goes("Batches")
		u.act("New batch")
		u.at("the form", "document.querySelector('#f-much')")
		u.fill("#f-much", "4 eggs")
		u.tap(".asks-go .btn-go")
		u.at("the batch", "document.querySelector('#spine li .key')?.textContent.trim() === '4 eggs'")
	}},
	{"Saturday’s batch to the bench", func(u *tourist) {
		u.open(demo.Saturday)
		u.act("To the bench")
		u.at("the bench", "document.querySelector('#bench')?.dataset.step")
	}},
	{"The room as in January", func(u *tourist) {
		u.open(demo.Saturday)
		u.station(2, "Room")
		u.button("January")
		u.until("its air", "document.querySelector('"+humidity+"').value === '34'")
	}},
	{"Why this much water?", func(u *tourist) {
		u.open(demo.Saturday)
		u.tap(".rail .layer")
		u.until("the reason", "document.querySelector('[data-fig=\"formula.hw\"] .why').checkVisibility()")
	}},
	{"I roll it my way: one pass less", func(u *tourist) {
		u.open(demo.Saturday)
		u.station(5, "Roll")
		u.choose("#f-roll-by", "own")
		u.until("its keys", "document.querySelector('.tap-stop .less')")
		u.tap(".tap-stop:nth-child(4) button.less, .tap-stop:nth-child(5) button.less")
		u.until("the word on it", "document.querySelector('#said').textContent.includes('Roll')")
	}},
	{"The ribbons dry for twenty minutes", func(u *tourist) {
		u.open(demo.Saturday)
		u.station(7, "Dry")
		u.choose("#f-dry-pieces-by", "said")
		u.fill("#f-dry-pieces-min", "20")
		u.until("it is a step", "document.querySelector('#spine li:nth-child(7) .key').textContent.includes('20')")
	}},
	{"It cooks for three minutes, whatever you say", func(u *tourist) {
		u.open(demo.Saturday)
		u.station(8, "Cook")
		u.fill("#f-cook-min", "3")
		u.until("as said", "document.querySelector('#spine li:nth-child(8) .key').textContent.includes('3 min')")
	}},
	{"An order for tomorrow", func(u *tourist) {
		u.goes("Days")
		u.at("the days", "document.querySelector('.days .on + li a')")
		u.tap(".days .on + li a")
		u.act("Orders")
		u.at("its orders", "document.querySelector('.new-order')")
		u.fill(".new-order input[name=who]", "Harbour office")
		u.fill(".new-order input[name=what]", "tagliatelle")
		u.fill(".new-order input[name=portions]", "6")
		u.fill(".new-order input[name=when]", "12:00")
		u.tap(".new-order .btn-go")
		u.at("it stands", "document.querySelectorAll('.orders > li').length > 1")
	}},
	{"Today planned anew", func(u *tourist) {
		u.tap(".today a[href^='/days/']")
		u.at("the day", "document.querySelector('.day-lanes')")
		u.act("Plan anew")
		u.at("anew", "document.querySelector('.head button[value=undo]')")
	}},
	{"A task five minutes later", func(u *tourist) {
		u.tap(".today a[href^='/days/']")
		u.at("the day", "document.querySelector('.day-lanes')")
		u.taps++
		eval[bool](u.tab, "(document.querySelector('.day-bar[data-task]:not(.done, .running)').dispatchEvent(new "+
			"MouseEvent('click', { bubbles: true, cancelable: true })), true)")
		u.until("what can be done with it", "document.querySelector('.day-task.beside .later')")
		u.tap(".day-task .later button[value='5']")
		u.at("it is moved, or why not", "document.querySelector('.head button[value=undo], #day-says .told')")
	}},
	{"How did the last making go?", func(u *tourist) {
		u.goes("Log")
		u.at("the log", "document.querySelector('.log th a')")
		u.tap(".log th a")
		u.at("the making", "document.querySelector('table.made')")
	}},
	{"It felt a little dry: keep that", func(u *tourist) {
		u.goes("Log")
		u.at("the log", "document.querySelector('.log th a')")
		u.tap(".log th a")
		u.act("Log it")
		u.at("the form", "document.querySelector('.feels')")
		u.tap(".feels input[value='-1']")
		u.tap(".asks-go .btn-go")
		u.at("kept", "document.querySelector('.head .facts')?.textContent.includes('a little dry')")
	}},
	{"A flour of my own, with its price", func(u *tourist) {
		u.goes("Cabinet")
		u.at("the cabinet", "document.querySelector('.shelves')")
		u.act("A flour of your own")
		u.at("the form", "document.querySelector('#w-name')")
		u.fill("#w-name", "Spit mill 0")
		u.fill("#w-price_per_kg", "1.40")
		u.tap(".asks-go .btn-go")
		u.at("it stands there", "document.querySelector('main').textContent.includes('Spit mill 0')")
	}},
	{"In ounces, please", func(u *tourist) {
		u.tap(".units button")
		u.at("ounces", "document.querySelector('#answer')?.textContent.includes('oz')")
	}},
	{"What does working hydration mean?", func(u *tourist) {
		u.open(demo.Saturday)
		u.tap("[data-fig=\"formula.hw\"] a.term")
		u.at("the word", "location.pathname === '/glossary' && document.querySelector('#working-hydration')")
	}},
	{"Saturday’s batch beside another", func(u *tourist) {
		u.open(demo.Saturday)
		u.act("Compare")
		u.at("the form", "document.querySelector('#k-b')")
		u.choose("#k-b", fmt.Sprint(demo.Number(demo.Saltmarsh)))
		u.tap(".compare-in .btn-go")
		u.at("side by side", "document.querySelector('table.compared')")
	}},
	{"A copy of everything, to be safe", func(u *tourist) {
		if eval[bool](u.tab, "Boolean(document.querySelector('.house-menu')?.checkVisibility())") {
			u.tap(".house-menu summary")
		} else {
			u.tap(".nav-fold summary")
		}
		u.until("the key", "[...document.querySelectorAll('a[href=\"/backup\"]')].some((a) => a.checkVisibility())")
		u.taps++ // and the file comes
	}},
	{"Grandmother’s recipe, in cups", func(u *tourist) {
		u.button("From a recipe text")
		u.at("the text", "document.querySelector('#r-text')")
		u.fill("#r-text", "2 cups flour\n3 eggs\n1 pinch salt")
		u.button("Make it as written")
		u.at("the batch", "document.querySelector('#spine')")
	}},
}

// counted is a row of a table in docs/tour.md: number, task, and what is said of its taps and fields.
var counted = regexp.MustCompile(`(?m)^\| (\d+) \| ([^|]+) \| (\d+) taps?(?:, (\d+) fields?)? \|` +
	`(?: (\d+) \| (\d+) \| (\d+) \|)?`)

// rowsOf are the rows of docs/tour.md, by their task.
func rowsOf(t *testing.T) map[string][]int {
	t.Helper()
	text, err := os.ReadFile("../docs/tour.md")
	if err != nil {
		t.Fatal(err)
	}
	out := map[string][]int{}
	for _, row := range counted.FindAllStringSubmatch(string(text), -1) {
		var n []int
		for _, digits := range row[3:] {
			x, _ := strconv.Atoi(digits)
			n = append(n, x)
		}
		out[strings.TrimSpace(row[2])] = n
	}
	return out
}

// did does a task from the first page and returns its taps and fields.
func did(t *testing.T, br context.Context, base string, task task, width, height int64) (taps, fields int) {
	t.Helper()
	u := &tourist{tab: open(t, br, base, width, height)}
	u.plainly()
	u.visit("/")
	task.do(u)
	t.Logf("%s at %d: %d taps, %d fields", task.what, width, u.taps, u.fields)
	return u.taps, u.fields
}

// The twelve tasks of the first hour are done as the tour says, in as many taps and fields.
func TestTour(t *testing.T) {
	t.Parallel() // it waits more than it works
	rows := rowsOf(t)
	base, _ := serve(t)
	br := browser(t)
	for _, task := range tasks {
		taps, fields := did(t, br, base, task, wide, high)
		if said := rows[task.what]; len(said) < 2 || said[0] != taps || said[1] != fields {
			t.Errorf("docs/tour.md says %q takes %v; it takes %d taps, %d fields", task.what, said, taps, fields)
		}
	}
}

// All thirty are done at a desk, on a tablet and on a phone, none in more than one and a half times the taps that were
// meant. In short, as many at a desk as fit beside the rest.
func TestThirtyTasks(t *testing.T) {
	t.Parallel()
	rows := rowsOf(t)
	sizes := [][2]int64{{wide, high}, {820, 1180}, {390, 844}}
	all := append(slices.Clone(tasks), further...)
	if os.Getenv("HOLLEN_LONG") == "" {
		sizes, all = sizes[2:], further[:6]
	}
	column := map[int64]int{wide: 2, 820: 3, 390: 4}
	for _, size := range sizes {
		base, _ := serve(t)
		for _, task := range all {
			t.Run(fmt.Sprintf("%s at %d", task.what, size[0]), func(t *testing.T) {
				taps, _ := did(t, browser(t), base, task, size[0], size[1])
				said := rows[task.what]
				if len(said) < 2 || 2*taps > 3*said[0] {
					t.Errorf("%d taps, %v were meant", taps, said)
				} else if at := column[size[0]]; said[2] > 0 && said[at] != taps {
					t.Errorf("%d taps, docs/tour.md says %d", taps, said[at])
				}
			})
		}
	}
}
