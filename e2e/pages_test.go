package e2e

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"

	"hollen/internal/core/request"
	"hollen/internal/demo"
	"hollen/internal/store/storetest"
	"hollen/internal/web"
)

// page is one address as it is routed, and what of it is looked at; none of what is no page.
type page struct {
	route string
	paths []string
}

// today is the date of the workshop’s day, which is under way now.
func today() string { return demo.Date(storetest.Now()) }

// onDay is a task of that day that is to come.
const onDay = "7.roll.1"

// pages are all addresses that answer GET; a test holds the table complete, and every check of pages walks it.
func pages() []page {
	stations := []string{}
	for _, st := range request.Stages() {
		// stripes, a pin, wide ribbons, by the clock, filled, mixed, formed
		for _, id := range []int{1, 3, 4, 6, 8, 9, 10} {
			stations = append(stations, fmt.Sprintf("/batches/%d?at=%s", id, st))
		}
	}
	stations = append(stations, batch(demo.Saturday)+"?at=doctor", batch(demo.Saturday)+"?at=doctor&doctor.sign=sticks")
	of := func(paths ...string) []string { return paths }
	return []page{
		{"/", of("/")}, {"/batches", of("/batches")}, {"/recipe", of("/recipe")},
		{"/compare", of("/compare", "/compare?a=7&b=6")}, {"/import", of("/import")}, {"/rooms", of("/rooms")},
		{"/help", of("/help", "/help?of=batch&at=roll")}, {"/glossary", of("/glossary")},
		{"/accounts", of("/accounts")},
		{"/cabinet", nil}, // leads to the first shelf
		{"/cabinet/:shelf", of("/cabinet/flours", "/cabinet/lots", "/cabinet/eggs", "/cabinet/additions",
			"/cabinet/powders", "/cabinet/machines",
			"/cabinet/shapes", "/cabinet/ways", "/cabinet/makers")},
		{"/cabinet/:shelf/new", of("/cabinet/flours/new", "/cabinet/machines/new", "/cabinet/shapes/new")},
		{"/cabinet/:shelf/:id", of("/cabinet/flours/1", "/cabinet/lots/2", "/cabinet/machines/8", "/cabinet/shapes/9",
			"/cabinet/ways/10")},
		{"/cabinet/:shelf/:id/calibrate", of("/cabinet/machines/8/calibrate")}, {"/cabinet/house",
			of("/cabinet/house")},
		{"/cabinet/:shelf/:id/measure", of("/cabinet/lots/2/measure", "/cabinet/lots/3/measure")},
		{"/cabinet/:shelf/:id/doughs", of("/cabinet/lots/2/doughs")},
		{"/batches/:id/foretold", of(batch(demo.Saturday) + "/foretold")},
		{"/days", of("/days")}, {"/days/:date", of("/days/"+today(), "/days/"+today()+"?task="+onDay)},
		{"/days/:date/orders", of("/days/" + today() + "/orders")},
		{"/days/:date/wall", of("/days/"+today()+"/wall", "/days/"+today()+"/wall?paper=letter")}, {"/days/:date/now",
			of("/days/" + today() + "/now?who=Osk")},
		{"/days/:date/what-if", of("/days/" + today() + "/what-if?with=mixer")}, {"/days/:date/ways", of("/days/" +
			today() + "/ways")},
		{"/days/:date/slips", of("/days/" + today() + "/slips")},
		{"/days/:date/set-out", of("/days/" + today() + "/set-out")}, {"/orders/week", of("/orders/week")},
		{"/customers", of("/customers")}, {"/customers/card", of("/customers/card?name=Pharos")},
		{"/days/:date/stamp", nil},
		{"/days/:date/orders.csv", nil}, {"/days/:date/day.json", nil}, {"/days/:date/day.ics", nil},
		{"/batches/new", of("/batches/new", "/batches/new?as=own")}, {"/batches/:id", stations},
		{"/batches/:id/beside/:what", of(batch(demo.Saturday)+"/beside/tool", batch(demo.Saturday)+"/beside/cut")},
		{"/batches/:id/sheet", of(batch(demo.Saturday) + "/sheet")}, {"/batches/:id/label", of(batch(demo.Lantern) +
			"/label")},
		{"/batches/:id/again", of(batch(demo.Service) + "/again")},
		{"/batches/:id/versions", of(batch(demo.Saturday) + "/versions")}, {"/batches/:id/versions/:version",
			of(batch(demo.Saturday) + "/versions/1")},
		{"/batches/:id/makings", of(batch(demo.Chandler) + "/makings")}, {"/bench/:id", of("/bench/2")},
		{"/bench/:id/screens", of("/bench/2/screens")},
		{"/bench/:id/made", of("/bench/1/made", "/bench/2/made")}, {"/bench/:id/log", of("/bench/1/log")},
		{"/bench/:id/beside", of("/bench/1/beside")}, {"/log/ledger", of("/log/ledger", "/log/ledger?by=shape")},
		{"/batches/:id/log", of(batch(demo.Saturday) + "/log")}, {"/log", of("/log", "/log?find=linguine&felt=-1")},
		{"/log/learned", of("/log/learned")},
		{"/recipes", of("/recipes", "/recipes?find=ribbons&by=shape")}, {"/recipes/:id", of("/recipes/7",
			"/recipes/8")},
		{"/recipes/:id/stations", of("/recipes/7/stations?at=formula", "/recipes/8/stations?at=cut",
			"/recipes/7/stations?at=room")},
		{"/recipes/:id/compare", of("/recipes/7/compare?with=4")},
		{"/recipes/:id/stations/work", nil}, {"/recipes/:id/stations/save", nil}, {"/recipes/:id/stations/edits", nil},
		{"/recipes/gather", of("/recipes/gather")}, {"/batches/:id/recipe", of("/batches/9/recipe")},
		{"/batches/:id/into", of(batch(demo.Saturday) + "/into")}, {"/batches/:id/newer", of(batch(demo.Saturday) +
			"/newer")},
		{"/days/:date/own", of("/days/"+today()+"/own", "/days/"+today()+"/own?room.rh=70&eggs.class=eu-m")},
		{
			"/practice",
			of("/practice", "/practice?call=pot&times=4"),
		}, {"/practice/lumps", of("/practice/lumps?dough=7")},
		{"/practice/:id", of("/practice/1", "/practice/4", "/practice/5")},
		{"/practice/:id/opened", of("/practice/2/opened", "/practice/3/opened")},
		// Leads back to the batch, or no page.
		{"/batches/:id/work", nil}, {"/batches/:id/save", nil}, {"/batches/:id/duplicate", nil}, {"/batches/:id/edits",
			nil}, {"/healthz", nil}, {"/readyz",
			nil}, {"/backup", nil},
		// where nobody signs in they lead on
		{"/sign-in", nil}, {"/unlock", nil}, {"/first/:token", nil}, {"/account", nil},
		{"/static/*path", nil},
		{"/recipes/recipes.json", nil}, {"/recipes/:id/recipe.json", nil}, {"/cabinet/export.json", nil},
		{"/cabinet/:shelf/export.json", nil}, {"/batches/:id/request.json", nil},
		{"/batches/:id/plan.json", nil},
		{"/batches/:id/recipe.json", nil}, {"/batches/:id/cut.svg", nil}, {"/batches/:id/ladder.svg", nil},
		{"/bench/:id/pictures/:n", nil}, {"/log.csv", nil}, {"/log.json", nil}, {"/bench/:id/line", nil},
		{"/bench/:id/made.json", nil}, {"/bench/:id/made.csv", nil},
	}
}

// Every address stands in the table of pages, so that none is left out of what is checked of all.
func TestEveryPageIsChecked(t *testing.T) {
	t.Parallel()
	var known []string
	for _, p := range pages() {
		known = append(known, p.route)
	}
	for _, route := range web.Routes() {
		if !slices.Contains(known, route) {
			t.Errorf("%s is in no table of pages", route)
		}
	}
	for _, route := range known {
		if !slices.Contains(web.Routes(), route) {
			t.Errorf("%s is routed nowhere", route)
		}
	}
}

// widths are those every page is looked at, the narrowest first.
var widths = []int64{320, 390, 640, tabletW, 1024, wide}

// wider lists what sticks out of the window, but for what scrolls within itself.
const wider = `(() => {
	if (document.documentElement.scrollWidth <= innerWidth) return [];
	const inside = (e) => { for (let p = e.parentElement; p; p = p.parentElement)
		if (/auto|scroll|hidden|clip/.test(getComputedStyle(p).overflowX)) return true; return false };
	return [...document.querySelectorAll("body *")].filter((e) => e.getBoundingClientRect().right > innerWidth + .5 && !inside(e))
		.map((e) => e.tagName.toLowerCase() + (e.id ? "#" + e.id : "") + "." + String(e.className.baseVal ?? e.className).replaceAll(" ", ".") + " " +
			Math.round(e.getBoundingClientRect().right)).slice(0, 4)
})()`

// settled waits until what is drawn for its width has been drawn for this one.
const settled = "new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))).then(() => ("

// tiny lists the words of pictures that are drawn under 11 px, but for what is on paper.
const tiny = `[...document.querySelectorAll("svg text")].filter((t) => !t.closest(".paper, .label") && t.getClientRects().length > 0)
	.filter((t) => parseFloat(getComputedStyle(t).fontSize) * Math.abs(t.getScreenCTM().a || t.getScreenCTM().b) < 10.95).map((t) => t.textContent).slice(0, 4)`

// large has the browser write text twice as large as it comes.
var large = chromedp.Flag("blink-settings", "defaultFontSize=32")

// With text twice as large nothing scrolls sideways, and no word lies over another.
func TestLargeText(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t, large), base, wide, high)
	b.visit("/")
	if size := eval[string](b, "getComputedStyle(document.documentElement).fontSize"); size != "32px" {
		t.Fatalf("text is %s", size)
	}
	for _, p := range pages() {
		for _, path := range p.paths {
			// of the stations those of a filled, a mixed and a formed batch, of all of them at length
			if id, at, station := strings.Cut(path, "?at="); station && os.Getenv("HOLLEN_LONG") == "" &&
				!strings.HasPrefix(at, "doctor") &&
				!slices.Contains([]string{"/batches/8", "/batches/9", "/batches/10"}, id) {
				continue
			}
			b.visit(path)
			for _, width := range []int64{640, wide} {
				b.do(chromedp.EmulateViewport(width, tabletH))
				if out := eval[[]string](b, wider); len(out) > 0 {
					t.Errorf("%s at %d with large text: %s", path, width, strings.Join(out, ", "))
				}
				if out := eval[[]string](b, overlaid); len(out) > 0 {
					t.Errorf("%s at %d with large text, one over another: %s", path, width, strings.Join(out, ", "))
				}
			}
		}
	}
}

// overlaid lists words of the head, the stations and the rail that lie over each other, and fields too narrow for what
// stands in them.
const overlaid = `(() => {
	const shown = (e) => e.getClientRects().length > 0 && getComputedStyle(e).visibility !== "hidden" && !e.closest(".visually-hidden");
	const boxes = [...document.querySelectorAll(".head .title, .head .facts, .head .btn, .nav-top a, .nav-top .keys, .station .name, .station .key")].filter(shown)
		.filter((e) => !e.closest(".menu > div")).map((e) => [e, e.getBoundingClientRect()]);
	const out = [];
	for (const [i, [a, r]] of boxes.entries()) for (const [b, s] of boxes.slice(i + 1)) {
		if (a.contains(b) || b.contains(a)) continue;
		const w = Math.min(r.right, s.right) - Math.max(r.left, s.left), h = Math.min(r.bottom, s.bottom) - Math.max(r.top, s.top);
		if (w > 3 && h > 3) out.push(a.textContent.trim().slice(0, 20) + " over " + (b.textContent.trim() || b.value || "").slice(0, 20));
	}
	for (const f of document.querySelectorAll(".stepper input")) if (shown(f) && f.scrollWidth > f.clientWidth + 1) out.push(f.name +
		" shows a part of " + f.value);
	for (const [box, part] of [[".station", ".key"], [".slot", "small"]]) for (const e of document.querySelectorAll(box + " " + part)) {
		const r = e.getBoundingClientRect(), s = e.closest(box).getBoundingClientRect();
		if (shown(e) && (r.bottom > s.bottom + 1 || r.right > s.right + 1)) out.push(e.textContent + " sticks out of its " + box);
	}
	return out.slice(0, 4);
})()`

// Batches are found as one types, sorted and filtered; what is not saved in this tab is marked, and the address is
// one to come back to.
func TestFindingABatch(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	const names = "[...document.querySelectorAll('#found [data-id]:not([hidden]) .name')].map((x) => " +
		"x.firstChild.textContent).join(' | ')"
	b.visit("/batches")
	all := eval[float64](b, "document.querySelectorAll('#found [data-id]').length")
	b.enter("#find", "raviol")
	b.until("ravioli alone", names+" === '"+demo.Lantern+"'")
	if at := eval[string](b, "location.search"); at != "?find=raviol" {
		t.Errorf("the address is %q", at)
	}
	b.visit("/batches?find=raviol")
	b.until("the same again", names+" === '"+demo.Lantern+"' && document.querySelector('#find').value === 'raviol'")
	b.enter("#find", "nothing like it")
	b.until("none", "document.querySelector('#found .none')")
	b.enter("#find", "")
	b.until("all again", fmt.Sprintf("document.querySelectorAll('#found [data-id]').length === %.0f", all))
	b.pick("#find-sort", "name")
	b.until("by name", names+".startsWith('"+demo.Green+"')")
	b.pick("#find-shape", "Tagliatelle")
	b.until("one shape", "[...document.querySelectorAll('#found .quiet')].filter((x) => x.textContent.includes('·'))"+
		".every((x) => x.textContent.startsWith('Tagliatelle'))")
	b.visit(batch(demo.Saturday) + "?at=roll")
	b.enter("#f-roll-bench_mm", "900")
	b.until("not saved", settledState+" === '"+notSaved+"'")
	b.visit("/batches")
	b.until("marked",
		"document.querySelector('#found .draft')?.closest('.name').textContent.startsWith('"+demo.Saturday+"')")
	b.click("#find-unsaved input")
	b.until("that alone", names+" === '"+demo.Saturday+"'")
}

// A station is an entry of the browser's history: Back goes where one was, the title says where that is.
func TestStationsInTheHistory(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday))
	const title = "document.title"
	b.click("#spine li:nth-child(5) button")
	b.until("at the roller", title+".startsWith('Roll: ') && location.search === '?at=roll' && "+
		"document.querySelector('#f-roll-machine')")
	b.enter("#f-roll-bench_mm", "900")
	b.until("changed", settledState+" === '"+notSaved+"'")
	b.click("#spine li:nth-child(6) button")
	b.until("at the cut", title+".startsWith('Cut: ') && document.querySelector('#f-cut-shape')")
	eval[bool](b, "history.back() ?? true")
	b.until("back at the roller, as it was", title+".startsWith('Roll: ') && "+
		"document.querySelector('#f-roll-bench_mm')?.value === '900'")
	eval[bool](b, "history.back() ?? true")
	b.until("back at the formula", title+".startsWith('Formula: ') && document.querySelector('#f-amount-by')")
	eval[bool](b, "history.forward() ?? true")
	b.until("forward again", title+".startsWith('Roll: ') && "+settledState+" === '"+notSaved+"'")
}

// cutOff lists what is chosen in a list that is too narrow for it.
const cutOff = `(() => {
	const pen = document.createElement("canvas").getContext("2d");
	return [...document.querySelectorAll("select")].filter((s) => s.offsetParent && s.selectedOptions[0]).filter((s) => {
		const style = getComputedStyle(s);
		pen.font = style.fontWeight + " " + style.fontSize + " " + style.fontFamily;
		return pen.measureText(s.selectedOptions[0].text).width > s.clientWidth - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight) + 1;
	}).map((s) => s.id + ": " + s.selectedOptions[0].text);
})()`

// Single keys work until they are turned off, and are quiet in fields and on sliders.
func TestSingleKeysAreOptional(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=roll")
	eval[bool](b, "document.querySelector('.slide').focus() ?? true")
	b.do(chromedp.KeyEvent("6"))
	eval[bool](b, "document.activeElement.blur() ?? true")
	if at := eval[string](b, "location.search"); at != "?at=roll" {
		t.Errorf("a key on a slider leads to %q", at)
	}
	b.do(chromedp.KeyEvent("6"))
	b.until("the cut", "location.search === '?at=cut' && document.querySelector('#f-cut-shape')")
	b.do(chromedp.KeyEvent("?"))
	b.until("the list", "document.querySelector('#keys').open")
	b.click("#keys-on")
	b.click("#keys .btn")
	b.do(chromedp.KeyEvent("5"))
	b.visit(batch(demo.Saturday) + "?at=cut")
	eval[bool](b, "document.activeElement.blur() ?? true")
	b.do(chromedp.KeyEvent("5"))
	b.do(chromedp.KeyEvent("b"))
	if at := eval[string](b, "location.pathname + location.search"); at != batch(demo.Saturday)+"?at=cut" {
		t.Errorf("a key that is off leads to %q", at)
	}
}
