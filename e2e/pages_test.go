package e2e

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"

	"hollen/internal/core/request"
	"hollen/internal/demo"
	"hollen/internal/web"
)

// page is one address as it is routed, and what of it is looked at; none of what is no page.
type page struct {
	route string
	paths []string
}

// pages are all addresses that answer GET; a test holds the table complete, and every check of pages walks it.
func pages() []page {
	stations := []string{}
	for _, st := range request.Stages() {
		for _, id := range []int{1, 3, 4, 6, 8, 9, 10} { // stripes, a pin, wide ribbons, by the clock, filled, mixed, formed
			stations = append(stations, fmt.Sprintf("/batches/%d?at=%s", id, st))
		}
	}
	stations = append(stations, batch(demo.Saturday)+"?at=doctor", batch(demo.Saturday)+"?at=doctor&doctor.sign=sticks")
	of := func(paths ...string) []string { return paths }
	return []page{
		{"/", of("/")}, {"/recipe", of("/recipe")}, {"/compare", of("/compare", "/compare?a=7&b=6")}, {"/import", of("/import")}, {"/rooms", of("/rooms")},
		{"/cabinet", nil}, // leads to the first shelf
		{"/cabinet/:shelf", of("/cabinet/flours", "/cabinet/lots", "/cabinet/eggs", "/cabinet/additions", "/cabinet/powders", "/cabinet/machines",
			"/cabinet/shapes", "/cabinet/ways")},
		{"/cabinet/:shelf/new", of("/cabinet/flours/new", "/cabinet/machines/new", "/cabinet/shapes/new")},
		{"/cabinet/:shelf/:id", of("/cabinet/flours/1", "/cabinet/lots/2", "/cabinet/machines/8", "/cabinet/shapes/9", "/cabinet/ways/10")},
		{"/cabinet/:shelf/:id/calibrate", of("/cabinet/machines/8/calibrate")}, {"/cabinet/house", of("/cabinet/house")},
		{"/batches/new", of("/batches/new", "/batches/new?as=own")}, {"/batches/:id", stations},
		{"/batches/:id/beside/:what", of(batch(demo.Saturday)+"/beside/tool", batch(demo.Saturday)+"/beside/cut")},
		{"/batches/:id/sheet", of(batch(demo.Saturday) + "/sheet")}, {"/batches/:id/label", of(batch(demo.Lantern) + "/label")},
		// Leads back to the batch, or no page.
		{"/batches/:id/work", nil}, {"/batches/:id/save", nil}, {"/batches/:id/edits", nil}, {"/healthz", nil}, {"/static/*path", nil},
		{"/cabinet/export.json", nil}, {"/cabinet/:shelf/export.json", nil}, {"/batches/:id/request.json", nil}, {"/batches/:id/plan.json", nil},
		{"/batches/:id/recipe.json", nil}, {"/batches/:id/cut.svg", nil}, {"/batches/:id/ladder.svg", nil},
	}
}

// Every address stands in the table of pages, so that none is left out of what is checked of all.
func TestEveryPageIsChecked(t *testing.T) {
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
	const inside = (e) => { for (let p = e.parentElement; p; p = p.parentElement) if (/auto|scroll|hidden|clip/.test(getComputedStyle(p).overflowX)) return true; return false };
	return [...document.querySelectorAll("body *")].filter((e) => e.getBoundingClientRect().right > innerWidth + .5 && !inside(e))
		.map((e) => e.tagName.toLowerCase() + (e.id ? "#" + e.id : "") + "." + String(e.className.baseVal ?? e.className).replaceAll(" ", ".") + " " +
			Math.round(e.getBoundingClientRect().right)).slice(0, 4)
})()`

// No page scrolls sideways, from the narrowest phone to a laptop.
func TestNothingScrollsSideways(t *testing.T) {
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	for _, p := range pages() {
		for _, path := range p.paths {
			b.visit(path)
			for _, width := range widths {
				b.do(chromedp.EmulateViewport(width, tabletH))
				if out := eval[[]string](b, wider); len(out) > 0 {
					t.Errorf("%s at %d: %s", path, width, strings.Join(out, ", "))
				} else if over := eval[float64](b, "document.documentElement.scrollWidth - innerWidth"); over > 0 {
					t.Errorf("%s at %d: %.0f too wide", path, width, over)
				}
			}
		}
	}
}
