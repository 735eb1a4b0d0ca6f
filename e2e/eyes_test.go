package e2e

import (
	"strings"
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
	const parts = "header, nav, main, aside, footer, section[aria-label], section[aria-labelledby], form[aria-label], " +
		"[role=region], [role=status], [role=alert], [role=search], [aria-live], dialog, .skip, script, style, svg";
	const all = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT), out = [];
	for (let n; (n = all.nextNode()); ) {
		const e = n.parentElement;
		if (!n.data.trim() || e.closest(parts) || !e.checkVisibility?.({ visibilityProperty: true }) || e.matches(".visually-hidden")) continue;
		out.push((e.closest("[id], [class]")?.outerHTML.slice(0, 40) ?? "") + " … " + n.data.trim().slice(0, 30));
	}
	return out.slice(0, 6);
})()`

// pale lists words that stand out too little from what is under them: 4.5 to 1, of large words 3 to 1.
const pale = `(() => {
	const pen = document.createElement("canvas").getContext("2d", { willReadFrequently: true });
	const rgba = (css) => { pen.clearRect(0, 0, 1, 1); pen.fillStyle = "#000"; pen.fillStyle = css; pen.fillRect(0, 0, 1, 1);
		const d = pen.getImageData(0, 0, 1, 1).data;
		return [d[0], d[1], d[2], d[3] / 255] };
	const over = (a, b) => [0, 1, 2].map((i) => a[i] * a[3] + b[i] * (1 - a[3])).concat(1);
	const light = (c) => { const [r, g, b] = c.map((v) => { v /= 255; return v <= .03928 ? v / 12.92 : ((v + .055) / 1.055) ** 2.4 });
		return .2126 * r + .7152 * g + .0722 * b };
	const under = (e) => { const all = []; for (let p = e; p; p = p.parentElement) { const s = getComputedStyle(p); if (s.backgroundImage !== "none") return null;
		all.push(rgba(s.backgroundColor)) } return all.reverse().reduce((b, a) => over(a, b), [255, 255, 255, 1]) };
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

// Every page, at four widths: what is pressed is large enough and called as it reads; by day and in the dark every word
// stands out from its ground.
func TestForEveryEyeAndHand(t *testing.T) {
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	told := map[string]bool{}
	check := func(path, what, js string) {
		t.Helper()
		for _, x := range eval[[]string](b, js) {
			if key := what + x; !told[key] {
				told[key] = true
				t.Errorf("%s: %s: %s", path, what, strings.Join(strings.Fields(x), " "))
			}
		}
	}
	for _, scheme := range []string{"light", "dark"} {
		b.media("prefers-color-scheme", scheme)
		for _, p := range pages() {
			for _, path := range p.paths {
				b.visit(path)
				if scheme == "light" {
					check(path, "in no part of the page", astray)
					for _, width := range []int64{320, 390, tabletW, wide} {
						b.do(chromedp.EmulateViewport(width, tabletH))
						check(path, "too small to press", small)
						check(path, "called otherwise than it reads", misnamed)
					}
				}
				check(path, "pale, "+scheme, pale)
			}
		}
		b.visit(batch(demo.Saturday) + "?at=roll")
		b.pick("#f-roll-by", "own")
		b.until("the own way", "document.querySelector('.tap-stops')")
		check("an own way", "pale, "+scheme, pale)
	}
}
