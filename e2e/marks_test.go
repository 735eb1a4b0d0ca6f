package e2e

import (
	"encoding/json"
	"fmt"
	"math"
	"testing"

	"hollen/internal/core/measure"
	"hollen/internal/demo"
)

// What is typed at the bench is read as the server reads it, word for word.
func TestScriptsReadFiguresAsTheServerDoes(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, 1280, 800)
	b.visit("/bench/2")
	module := eval[string](b, `document.querySelector('script[type=module]').src.replace(/[^/]*$/, "quantity.js")`)
	table, err := json.Marshal(measure.Reading())
	if err != nil {
		t.Fatal(err)
	}
	texts := []string{"2 kg", "1 lb 2 oz", "1,5 kg", "half", "half a kilo", "1/2", "1 1/2", "½ kg", "1½",
		"a kilo and a half", "1 kg 200", "25 kg", "12 cm",
		"3 inches", "1:30", "1:30 h", "90 s", "1 h 30", "12 h", "8 minutes", "an hour", "quarter of an hour",
		"2 hours and a quarter", "1:75", "70 °F", "−18 °C",
		"2 cups", "kg", "1-2", "--3", "1/0", "1,000", "1e3", "", "half a", "54 %", "750 ml", "5 stone", "1 kg -200 g"}
	for _, unit := range []measure.Unit{measure.G, measure.KG, measure.MM, measure.M, measure.L, measure.C, measure.S,
		measure.MIN, measure.H, measure.DAYS, "%", ""} {
		for _, text := range texts {
			js := eval[string](b,
				fmt.Sprintf(`import(%q).then((m) => {
				const { v, ask } = m.reader(%s)(%q, %q, 2);
				return ask ?? String(v);
			})`, module, table, text, unit))
			want := "NaN"
			v, err := measure.Read(text, unit, func(n float64) float64 { return 2 * n })
			if err == nil {
				want = fmt.Sprint(v)
			} else if ask, unclear := err.(measure.Unclear); unclear {
				want = ask.Ask
			}
			var got float64
			if fmt.Sscan(js, &got); js != want && (err != nil || math.Abs(got-v) > 1e-9*math.Max(1, math.Abs(v))) {
				t.Errorf("%q in %q is read as %s, by the server as %s", text, unit, js, want)
			}
		}
	}
}

// A browser in a language with a comma before decimals: its figures are written and read so on the whole page, a
// slider and a stepper write so, and what is saved is the same number.
func TestFiguresInTheReadersWay(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, 1280, 800)
	b.speaks("de-DE")
	b.visit(batch(demo.Saturday) + "?at=roll")
	b.until("the way down with commas", "/0,\\d/.test(document.querySelector('#sheet').innerText)")
	if left := eval[[]string](b, `[...document.querySelectorAll("#sheet, .spine, .head")]
		.flatMap((e) => e.innerText.match(/(?<!stop )\b\d+\.\d{1,2}\b/g) ?? [])`); len(left) > 0 {
		t.Errorf("figures with a point: %v", left)
	}
	eval[bool](b, `(() => { const s = document.querySelector(".slide[data-for=f-roll-target_mm]"); s.value = 1.25;
		s.dispatchEvent(new Event("input", { bubbles: true })); return true })()`)
	b.until("the slider to write a comma", "document.querySelector('#f-roll-target_mm').value === '1,25'")
	b.until("the plan to follow", settledState+" === 'unsaved'")
	b.click("#c-f-roll-target_mm [data-step='1']")
	b.until("the stepper to write a comma", "document.querySelector('#f-roll-target_mm').value === '1,3'")
	b.enter("#f-roll-target_mm", "1,125")
	b.until("the figures in one's own way", "document.querySelector('#said').textContent.includes('mm') || "+
		"document.querySelector('#facts').textContent.includes(',')")
	b.click("#save")
	b.until("it to be saved", "location.search.includes('at=roll') && "+settledState+" === 'saved'")
	if mm := saved(t, s, demo.Number(demo.Saturday)).Request.Roll.TargetMM; mm == nil || *mm != 1.125 {
		t.Errorf("1,125 mm is saved as %v", mm)
	}
	b.visit(batch(demo.Saturday) + "/sheet")
	if !eval[bool](b,
		`/\d,\d/.test(document.body.innerText) && !/(?<!stop )\b\d+\.\d{1,2}\b/.test(document.body.innerText)`) {
		t.Errorf("the sheet does not write figures in the reader's way: %s", b.text(".sheet-page, body"))
	}
}
