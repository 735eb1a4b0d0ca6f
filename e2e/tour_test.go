package e2e

import (
	"fmt"
	"os"
	"regexp"
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

// tasks are the twelve of docs/tour.md, each from the first page to the answer on the screen.
var tasks = []struct {
	what string
	do   func(u *tourist)
}{
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
		u.button("Something wrong?")
		u.until("the signs", "document.querySelector('.seen')")
		u.button("Sticks to hand")
		u.until("the causes", "document.querySelector('.findings')")
	}},
	{"The sheet for the bench, on A4", func(u *tourist) {
		u.open(demo.Saturday)
		u.button("Batch sheet")
		u.at("the sheet", "document.querySelector('.paper')")
	}},
	{"A label for the ravioli, allergens of the filling on it", func(u *tourist) {
		u.open(demo.Lantern)
		u.tap(".head .menu summary")
		u.button("Label")
		u.at("the label", "document.querySelector('.label')?.textContent.includes('milk')")
	}},
	{"Take back what I saved by mistake", func(u *tourist) {
		u.open(demo.Saturday)
		u.tap("#c-f-amount-flour_g [data-step='1']")
		u.until("not saved", settledState+" === '"+notSaved+"'")
		u.save()
		u.tap(".head .menu summary")
		u.button("Versions")
		u.at("the versions", "document.querySelectorAll('.things tbody tr').length >= 2")
		u.button("Take it back")
		u.at("as it was", "document.querySelector('.things tbody tr')?.textContent.includes('Flour in all 1,000 g, "+
			"was 1,050 g')")
	}},
}

// list goes to the list of batches.
func (u *tourist) list() {
	u.t.Helper()
	u.tap(".nav-wide a[href='/batches']")
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

// counted is a row of the table in docs/tour.md: number, task, taps and fields now.
var counted = regexp.MustCompile(`(?m)^\| (\d+) \| ([^|]+) \| (\d+) taps?(?:, (\d+) fields?)? \|`)

// The twelve tasks of the tour are done as it says, in as many taps and fields.
func TestTour(t *testing.T) {
	t.Parallel() // it waits more than it works
	text, err := os.ReadFile("../docs/tour.md")
	if err != nil {
		t.Fatal(err)
	}
	rows := counted.FindAllStringSubmatch(string(text), -1)
	if len(rows) != len(tasks) {
		t.Errorf("docs/tour.md counts %d tasks, there are %d", len(rows), len(tasks))
	}
	base, _ := serve(t)
	br := browser(t)
	for i, task := range tasks {
		u := &tourist{tab: open(t, br, base, wide, high)}
		u.plainly()
		u.visit("/")
		task.do(u)
		got := fmt.Sprintf("%d taps, %d fields", u.taps, u.fields)
		t.Logf("%d %s: %s", i+1, task.what, got)
		if i >= len(rows) {
			continue
		}
		fields := rows[i][4]
		if fields == "" {
			fields = "0"
		}
		if said := rows[i][3] + " taps, " + fields + " fields"; strings.TrimSpace(rows[i][2]) != task.what ||
			said != got {
			t.Errorf("docs/tour.md says %q takes %s; %q takes %s", rows[i][2], said, task.what, got)
		}
	}
}
