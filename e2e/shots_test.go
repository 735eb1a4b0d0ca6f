package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"

	"hollen/internal/demo"
)

// TestShots draws the pictures of docs/screenshots from the demo data when HOLLEN_SHOTS
// names the folder.
func TestShots(t *testing.T) {
	dir := os.Getenv("HOLLEN_SHOTS")
	if dir == "" {
		t.Skip("HOLLEN_SHOTS names no folder")
	}
	base := logged(t)
	br := browser(t)
	views := []struct{ name, path string }{{"today", "/"}, {"recipes", "/recipes"},
		{"cabinet", "/cabinet/flours"}, {"bench", "/bench/2"},
		{
			"day",
			"/days/" + today(),
		}, {"recipe", "/recipe"}, {"log", "/log"}, {"practice", "/practice/5"}, {"doctor", batch(demo.Saturday) +
			"?at=doctor"},
		{"sheet", batch(demo.Saturday) + "/sheet"}}
	for _, s := range []string{"formula", "room", "knead", "rest", "roll", "cut", "dry", "cook"} {
		path := batch(demo.Saturday) + "?at="
		if s == "rest" {
			path = batch(demo.Service) + "?at=" // by the clock
		}
		views = append(views, struct{ name, path string }{s, path + s})
	}
	shoot := func(name string, width, height int64, path string) {
		b := open(t, br, base, width, height)
		b.plainly()
		b.visit(path)
		b.until("the fonts", "document.fonts.status === 'loaded'")
		if os.Getenv("HOLLEN_SHOTS_WHOLE") != "" {
			height = int64(eval[float64](b, "Math.max(document.documentElement.scrollHeight, 400)"))
			b.do(chromedp.EmulateViewport(width, height))
		}
		png, err := chromedp.Run(b.ctx, chromedp.CaptureScreenshot())
		if err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(filepath.Join(dir, name+".png"), png, 0o644); err != nil {
			t.Fatal(err)
		}
		if over := eval[float64](b, "document.documentElement.scrollWidth - innerWidth"); over > 0 {
			t.Errorf("%s at %d: %.0f units wider than the screen", name, width, over)
		}
	}
	if err := os.MkdirAll(dir, 0o755); err != nil {
		t.Fatal(err)
	}
	for _, v := range views {
		shoot(v.name, 1280, 800, v.path)
	}
	shoot("phone", 390, 844, batch(demo.Saturday)+"?at=formula")
}
