package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp"

	"hollen/internal/demo"
)

// misplaced lists what of a bench’s screen is not where it is to be: the yellow key out of the window, what is said
// under the keys, the figure over its column, and at a desk anything that would have to be scrolled to.
const misplaced = `(() => {
	const out = [], box = (s) => document.querySelector(s).getBoundingClientRect();
	const go = box("#knuckles .btn-go"), keys = box("#knuckles"), main = box("#main"), timer = box(".timer");
	const within = go.top >= 0 && go.left >= 0 && go.bottom <= innerHeight + 1 && go.right <= innerWidth + 1;
	if (!within || go.height < 55) out.push("the yellow key");
	const over = Math.min(main.bottom, keys.bottom) - Math.max(main.top, keys.top);
	const along = Math.min(main.right, keys.right) - Math.max(main.left, keys.left);
	if (over > 1 && along > 1) out.push("the keys over what is said");
	const face = document.querySelector("#face");
	if (face.textContent && face.firstChild) {
		const r = document.createRange();
		r.selectNodeContents(face);
		if (r.getBoundingClientRect().right > timer.right + 2) out.push("the figure");
	}
	if (innerWidth > 1000 && innerHeight > 700) {
		const m = document.querySelector("#main");
		if (m.scrollHeight > m.clientHeight + 2) out.push("cut by " + (m.scrollHeight - m.clientHeight));
	}
	const page = document.documentElement;
	if (page.scrollWidth > innerWidth || page.scrollHeight > innerHeight + 1) out.push("the page scrolls");
	return out;
})()`

// On each kind of step, at six sizes, the yellow key is in view, nothing lies under the keys and the figure keeps to
// its column; at a desk nothing has to be scrolled to. The keys behind More fit with Close in sight.
func TestBenchAtEverySize(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.toBench(demo.Saturday)
	sizes := [][2]int64{{wide, high}, {1180, 820}, {820, 1180}, {390, 844}, {844, 390}, {320, 640}}
	seen := map[string]bool{}
	for range 120 {
		step := eval[string](b, "document.querySelector('#bench').dataset.step")
		if step == "" {
			break
		}
		kind := strings.SplitN(step, ".", 2)[0]
		if mark := kind + eval[string](b, "document.querySelector('#bench').className"); !seen[mark] {
			seen[mark] = true
			for _, s := range sizes {
				b.do(chromedp.EmulateViewport(s[0], s[1]))
				if out := eval[[]string](b, misplaced); len(out) > 0 {
					t.Errorf("%s at %d × %d: %s", step, s[0], s[1], strings.Join(out, ", "))
				}
			}
			b.do(chromedp.EmulateViewport(wide, high))
		}
		b.on(1)
	}
	if len(seen) < 8 {
		t.Errorf("only %d kinds of steps seen: %v", len(seen), seen)
	}
	b.toBench(demo.Saturday)
	for _, s := range sizes {
		b.do(chromedp.EmulateViewport(s[0], s[1]))
		eval[bool](b, "([...document.querySelectorAll('#knuckles button')].find((x) => x.textContent === 'More').click(), "+
			"true)")
		if close := eval[bool](b, "(() => { const r = document.querySelector('#more .close').getBoundingClientRect(); "+
			"return r.height > 50 && r.bottom <= innerHeight + 1 && r.top >= 0; })()"); !close {
			t.Errorf("at %d × %d Close is not in sight", s[0], s[1])
		}
		b.click("#more .close")
	}
}
