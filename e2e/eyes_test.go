package e2e

import (
	"fmt"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/chromedp/chromedp"

	"hollen/internal/demo"
)

// small lists what is pressed and is under 24 px, but for links within a sentence.
const small = `(() => [...document.querySelectorAll("button, select, summary, input:not([type=hidden]), a[href], textarea")]
	.filter((e) => e.offsetParent && !e.matches(".visually-hidden, .skip") && !(e.localName === "a" && getComputedStyle(e).display === "inline"))
	.map((e) => [e.type === "checkbox" || e.type === "radio" ? e.closest("label") ?? e : e, e])
	.filter(([b]) => { const r = b.getBoundingClientRect(); return r.width > 0 && Math.min(r.width, r.height) < 24 })
	.map(([b, e]) => (e.id || e.getAttribute("aria-label") || e.textContent).trim().slice(0, 30) + " " + ["width", "height"].map((k) =>
		Math.round(b.getBoundingClientRect()[k])).join("×")))()`

// misnamed lists what is called otherwise than it reads.
const misnamed = `(() => {
	const plain = (s) => s.toLowerCase().replace(/[^\p{L}\p{N} ]/gu, " ").replace(/\s+/g, " ").trim();
	return [...document.querySelectorAll("[aria-label]")].filter((e) => e.offsetParent && e.matches("button, a, input, select, summary"))
		.filter((e) => { const seen = plain(e.innerText ?? "");
			return /\p{L}/u.test(seen) && e.localName !== "select" && !plain(e.getAttribute("aria-label")).includes(seen) })
		.map((e) => e.getAttribute("aria-label") + " reads " + e.innerText);
})()`

// astray lists words that stand in no part of the page with a name, which nobody reaches from part to part.
const astray = `(() => {
	const parts = "header, nav, main, aside, footer, section[aria-label], section[aria-labelledby], " +
		"form[aria-label], " +
		"[role=region], [role=status], [role=alert], [role=search], [aria-live], dialog, .skip, script, style, svg";
	const all = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT), out = [];
	for (let n; (n = all.nextNode()); ) {
		const e = n.parentElement;
		const seen = e.checkVisibility?.({ visibilityProperty: true }) && !e.matches(".visually-hidden");
		if (!n.data.trim() || !seen || e.closest(parts)) continue;
		out.push((e.closest("[id], [class]")?.outerHTML.slice(0, 40) ?? "") + " … " + n.data.trim().slice(0, 30));
	}
	return out.slice(0, 6);
})()`

// pale lists words that stand out too little from what is under them: 4.5 to 1, of large words 3 to 1.
const pale = `(() => {
	const pen = document.createElement("canvas").getContext("2d", { willReadFrequently: true });
	const read = new Map(), grounds = new Map(); // a colour is read once, and what is under an element
	const rgba = (css) => {
		if (read.has(css)) return read.get(css);
		pen.clearRect(0, 0, 1, 1); pen.fillStyle = "#000"; pen.fillStyle = css; pen.fillRect(0, 0, 1, 1);
		const d = pen.getImageData(0, 0, 1, 1).data, c = [d[0], d[1], d[2], d[3] / 255];
		read.set(css, c);
		return c;
	};
	const over = (a, b) => [0, 1, 2].map((i) => a[i] * a[3] + b[i] * (1 - a[3])).concat(1);
	const light = (c) => { const [r, g, b] = c.map((v) => { v /= 255; return v <= .03928 ? v / 12.92 : ((v + .055) / 1.055) ** 2.4 });
		return .2126 * r + .7152 * g + .0722 * b };
	const under = (e) => { // null where a picture is
		if (!e) return [255, 255, 255, 1];
		if (!grounds.has(e)) {
			const s = getComputedStyle(e), below = s.backgroundImage === "none" && under(e.parentElement);
			grounds.set(e, below ? over(rgba(s.backgroundColor), below) : null);
		}
		return grounds.get(e);
	};
	const out = new Map();
	for (const e of document.querySelectorAll("body *")) {
		if (e.closest("svg, .visually-hidden, [hidden], .skip, dialog:not([open]), option") || !e.offsetParent) continue;
		const text = [...e.childNodes].filter((n) => n.nodeType === 3).map((n) => n.data.trim()).join("");
		if (!text) continue;
		const s = getComputedStyle(e), bg = under(e);
		if (!bg || s.visibility === "hidden" || parseFloat(s.fontSize) === 0) continue;
		const fg = over(rgba(s.color), bg), [a, b] = [light(fg), light(bg)].sort((x, y) => y - x), ratio = (a + .05) / (b + .05);
		const large = parseFloat(s.fontSize) >= 24 || parseFloat(s.fontSize) >= 18.66 && s.fontWeight >= 700;
		if (ratio < (large ? 3 : 4.5)) out.set(e.className + " " + text.slice(0, 24), ratio.toFixed(2));
	}
	return [...out].map(([k, v]) => k + " " + v).slice(0, 6);
})()`

// low lists what is pressed on a tablet and is under a thumb's width.
const low = `[...document.querySelectorAll("button, .btn, select, summary, .slide")]
	.filter((e) => e.offsetParent && !e.classList.contains("visually-hidden") && e.id !== "keys-open")
	.map((e) => [e, e.getBoundingClientRect()])
	.filter(([e, r]) => Math.min(r.height, r.width) < (e.matches(".slide") ? 32 : 40))
	.map(([e, r]) => (e.getAttribute("aria-label") || e.textContent || e.id).trim().slice(0, 40) + " " +
		["width", "height"].map((k) => Math.round(r[k])).join("×"))`

// nameless lists fields and keys nobody can call.
const nameless = `[...document.querySelectorAll("input:not([type=hidden]), select, button")]
	.filter((e) => !e.labels?.length && !e.getAttribute("aria-label") && !e.textContent.trim())
	.map((e) => e.outerHTML.slice(0, 90))`

// sideways lists what makes a page scroll sideways.
const sideways = `(() => { const out = ` + wider + `, over = document.documentElement.scrollWidth - innerWidth;
	return out.length > 0 || over <= 0 ? out : [over + " too wide"] })()`

// looks is what is looked for on every page, and at which widths.
var looks = []struct {
	what, js string
	widths   []int64
}{
	{"scrolls sideways", sideways, widths},
	{"draws words under 11 px", tiny, []int64{390}},
	{"cuts off what is chosen", cutOff, []int64{tabletW, 1024, wide}},
	{"is too small to press", small, []int64{320, 390, tabletW, wide}},
	{"is called otherwise than it reads", misnamed, []int64{320, 390, tabletW, wide}},
	{"is lower than a thumb", low, []int64{tabletW}},
	{"has no name", nameless, []int64{tabletW}},
	{"stands in no part of the page", astray, []int64{wide}},
	{"is pale by day", pale, []int64{wide}},
}

// thumbed says whether a page is one a maker works on with floury hands: there every key is a thumb wide.
func thumbed(path string) bool {
	return strings.HasPrefix(path, "/batches") || strings.HasPrefix(path, "/cabinet") || path == "/" ||
		path == "/import" ||
		path == "/rooms" || path == "/recipe" || strings.HasPrefix(path, "/compare?")
}

// Every page, from the narrowest phone to a laptop: nothing scrolls sideways or is cut off, what is pressed is large
// enough
// and called as it reads, every word stands in a named part of the page and, by day and in the dark, out from its
// ground.
func TestEveryPage(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	var told sync.Map
	var paths []string
	for _, p := range pages() {
		paths = append(paths, p.paths...)
	}
	const tabs = 6 // each is closed after a while, two are open at a time
	for n := range tabs {
		t.Run(fmt.Sprint(n), func(t *testing.T) {
			t.Parallel()
			b := open(t, browser(t), base, wide, high)
			for i := n; i < len(paths); i += tabs {
				lookAt(t, b, paths[i], &told)
			}
			for _, scheme := range []string{"light", "dark"}[n%2 : n%2+1] {
				b.media("prefers-color-scheme", scheme)
				b.visit(batch(demo.Saturday) + "?at=roll")
				b.pick("#f-roll-by", "own")
				b.until("the own way", "document.querySelector('.tap-stops')")
				for _, x := range eval[[]string](b, pale) {
					t.Errorf("an own way is pale, %s: %s", scheme, x)
				}
			}
		})
	}
}

// lookAt looks at one page at all widths; what is told of one page already is not told again.
func lookAt(t *testing.T, b *tab, path string, told *sync.Map) {
	t.Helper()
	tell := func(what string, found []string) {
		for _, x := range found {
			if _, known := told.LoadOrStore(what+x, true); !known {
				t.Errorf("%s %s: %s", path, what, strings.Join(strings.Fields(x), " "))
			}
		}
	}
	b.media("prefers-color-scheme", "light")
	b.visit(path)
	for _, width := range widths {
		b.do(chromedp.EmulateViewport(width, tabletH))
		var which []string
		js := "["
		for _, l := range looks {
			if slices.Contains(l.widths, width) && (l.js != low || thumbed(path)) {
				which, js = append(which, l.what), js+l.js+",\n"
			}
		}
		for i, found := range eval[[][]string](b, settled+js+"]))") {
			tell(fmt.Sprintf("at %d %s", width, which[i]), found)
		}
	}
	b.media("prefers-color-scheme", "dark")
	tell("is pale in the dark", eval[[]string](b, pale))
}
