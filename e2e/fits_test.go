package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
)

// No page is wider than a laptop, a tablet or, of the batch page, a telephone.
func TestPagesFit(t *testing.T) {
	base, _ := serve(t)
	b := open(t, browser(t), base, 1280, 800)
	paths := []string{"/", "/batches/new", "/compare?a=7&b=6", "/recipe", "/cabinet/flours", "/cabinet/flours/new", "/cabinet/lots", "/cabinet/eggs", "/cabinet/additions",
		"/cabinet/powders", "/cabinet/machines", "/cabinet/machines/8/calibrate", "/cabinet/house", "/rooms"}
	for _, station := range []string{"formula", "room", "knead", "rest", "roll", "cut", "dry", "cook", "doctor"} {
		for _, id := range []string{"1", "3", "6"} {
			paths = append(paths, "/batches/"+id+"?at="+station)
		}
	}
	for _, path := range paths {
		b.visit(path)
		for _, width := range []int64{1280, 1024, 820} {
			b.do(chromedp.EmulateViewport(width, 900))
			if over := eval[float64](b, "document.documentElement.scrollWidth - innerWidth"); over > 0 {
				t.Errorf("%s at %d is %.0f wider than the screen: %s", path, width, over, eval[string](b,
					`[...document.querySelectorAll("main *")].filter((e) => !e.closest(".scroll, svg, .visually-hidden") && e.getBoundingClientRect().right > innerWidth + 1).slice(0, 4).map((e) => e.tagName + "." + e.className + " " + e.textContent.trim().slice(0, 30)).join("; ")`))
			}
		}
	}
}
