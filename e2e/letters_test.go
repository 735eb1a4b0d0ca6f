package e2e

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"

	"hollen/internal/core/request"
	"hollen/internal/demo"
)

// faint lists the letters of drawings that stand out too little from what lies under them: the nearest shape with a
// colour, or the ground of the page.
const faint = `(() => {
	const canvas = Object.assign(document.createElement("canvas"), { width: 1, height: 1 });
	const pen = canvas.getContext("2d", { willReadFrequently: true });
	const read = new Map();
	const rgba = (css) => {
		if (!read.has(css)) {
			pen.clearRect(0, 0, 1, 1); pen.fillStyle = "#000"; pen.fillStyle = css; pen.fillRect(0, 0, 1, 1);
			const d = pen.getImageData(0, 0, 1, 1).data;
			read.set(css, [d[0], d[1], d[2], d[3] / 255]);
		}
		return read.get(css);
	};
	const over = (a, b, k = 1) => [0, 1, 2].map((i) => a[i] * a[3] * k + b[i] * (1 - a[3] * k)).concat(1);
	const light = (c) => {
		const [r, g, b] = c.map((v) => (v / 255 <= .03928 ? v / 255 / 12.92 : ((v / 255 + .055) / 1.055) ** 2.4));
		return .2126 * r + .7152 * g + .0722 * b };
	const out = new Map();
	for (const svg of document.querySelectorAll("svg.draw")) {
		if (!svg.checkVisibility()) continue;
		svg.scrollIntoView({ block: "center", behavior: "instant" });
		for (const t of svg.querySelectorAll("text")) {
			if (!t.textContent.trim() || !t.checkVisibility()) continue;
			const box = t.getBoundingClientRect(), x = box.left + box.width / 2, y = box.top + box.height / 2;
			if (x < 0 || y < 0 || x >= innerWidth || y >= innerHeight) continue;
			const under = document.elementsFromPoint(x, y).filter((e) => !e.closest("text") && e !== t);
			let ground = [255, 255, 255, 1];
			for (const e of under.reverse()) {
				const s = getComputedStyle(e);
				if (e instanceof SVGGraphicsElement && !(e instanceof SVGSVGElement)) {
					if (s.fill !== "none" && !s.fill.startsWith("url")) ground = over(rgba(s.fill), ground, s.fillOpacity * s.opacity);
				} else if (s.backgroundColor) ground = over(rgba(s.backgroundColor), ground);
			}
			const ink = over(rgba(getComputedStyle(t).fill), ground);
			const [a, b] = [light(ink), light(ground)].sort((p, q) => q - p), ratio = (a + .05) / (b + .05);
			if (ratio < 4.5) out.set(t.textContent.slice(0, 20) + " (" + t.getAttribute("class") + ")", ratio.toFixed(1));
		}
	}
	return [...out].map(([k, v]) => k + " " + v).slice(0, 8);
})()`

// Letters in drawings stand out from what is under them, dough or ground, in the light and in the dark.
func TestLettersOnDrawings(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, 2400)
	var paths []string
	for i, r := range demo.Batches() {
		if os.Getenv("HOLLEN_LONG") != "" || r.Name == demo.Lantern {
			for _, st := range request.Stages() {
				paths = append(paths, fmt.Sprintf("/batches/%d?at=%s", i+1, st))
			}
		}
	}
	paths = append(paths, "/days/"+today(), "/bench/1/made", "/log", "/log/learned")
	for _, scheme := range []string{"light", "dark"} {
		b.media("prefers-color-scheme", scheme)
		for _, path := range paths {
			b.visit(path)
			if out := eval[[]string](b, faint); len(out) > 0 {
				t.Errorf("%s, %s: %s", path, scheme, strings.Join(out, "; "))
			}
		}
	}
}

// ill lists drawings wider than their box, or with letters too small or too large to read: 12 to 16 px, the figure that
// counts to 20. That there is none to look at is a fault, too.
const ill = `[...document.querySelectorAll(".chart > svg.draw:not(.day-lanes)")].flatMap((s) => {
	if (!s.checkVisibility()) return [];
	const out = [], r = s.getBoundingClientRect(), k = r.width / s.viewBox.baseVal.width;
	const room = s.parentElement.clientWidth;
	const name = (s.querySelector("title")?.textContent ?? "").slice(0, 30);
	if (r.width > room + 1) out.push(name + " is " + Math.round(r.width) + " in " + room);
	for (const t of s.querySelectorAll("text")) {
		if (!t.checkVisibility()) continue;
		const px = parseFloat(getComputedStyle(t).fontSize) * k;
		const most = t.matches(".big") ? 20 : 16, says = name + ": “" + t.textContent.slice(0, 16);
		if (px < 11.9 || px > most) out.push(says + "” of " + px.toFixed(1) + " px");
		const b = t.getBoundingClientRect();
		if (b.left < r.left - 2 || b.right > r.right + 2) out.push(says + "” is out");
	}
	return out;
}).concat(document.querySelector(".chart > svg.draw") ? [] : ["no drawing"]).slice(0, 5)`

// What is drawn for a desk and for a hand fits its box at four widths, its letters of a size to read.
func TestDrawingsFit(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	names := []string{demo.Service}
	if os.Getenv("HOLLEN_LONG") != "" {
		names = append(names, demo.Saturday, demo.Lantern, demo.Supper)
	}
	pages := []string{"/log/learned", "/bench/1/made", "/recipe"}
	for _, name := range names {
		for _, at := range []request.Stage{request.AtFormula, request.AtRoom, request.AtKnead, request.AtDry,
			request.AtRoll, request.AtCut, request.AtCook} {
			pages = append(pages, fmt.Sprintf("%s?at=%s", batch(name), at))
		}
	}
	for _, path := range pages {
		b.visit(path)
		for _, width := range []int64{360, 390, 820, 1280} {
			b.do(chromedp.EmulateViewport(width, 900))
			if out := eval[[]string](b, ill); len(out) > 0 {
				t.Errorf("%s at %d: %s", path, width, strings.Join(out, "; "))
			}
		}
	}
}

// On a phone no table is wider than its page: what has no room is cards.
func TestTablesFitAPhone(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, 390, 844)
	for _, path := range []string{"/log", "/log/ledger", "/log/learned?open=behind", "/cabinet/flours", "/cabinet/lots",
		"/cabinet/machines/8/calibrate", "/cabinet/lots/2/measure", "/compare?a=7&b=6", batch(demo.Saturday) +
			"/versions", batch(demo.Counter) + "?at=cut", batch(demo.Lantern) + "?at=dry", "/bench/1/made",
		"/days/" + today()} {
		b.visit(path)
		wide := eval[[]string](b, `[...document.querySelectorAll("table")].filter((t) => t.checkVisibility() &&
			t.getBoundingClientRect().right > innerWidth + 1).map((t) => t.getAttribute("aria-label") ??
			t.caption?.textContent ?? t.className)`)
		if len(wide) > 0 {
			t.Errorf("%s: %s", path, strings.Join(wide, "; "))
		}
		if n := eval[int](b, "document.querySelectorAll('table').length"); n == 0 && !strings.HasPrefix(path,
			"/batches") {
			t.Errorf("%s has no table", path)
		}
	}
}
