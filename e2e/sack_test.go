package e2e

import (
	"context"
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/chromedp/chromedp"

	"hollen/internal/core/flour"
	"hollen/internal/demo"
	"hollen/internal/store"
)

// A sack weighed at the bench stands at its lot; a sample goes into the oven, over a reload, and out again; three small
// doughs are said on a phone; and a batch’s sheet foretells. All by what is pressed.
func TestAKitchenMeasuresItsFlour(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, 820, 1180)
	b.toBench(demo.Lantern)
	b.button("#knuckles", "More")
	b.button("#more-keys", "Weigh the sack")
	b.button("#more-keys", "Flour was taken: spring sack")
	b.enter("#ask-text", "much")
	b.click("#ask-yes")
	b.until("what is read", "document.querySelector('#ask-err').textContent.includes('is read')")
	b.enter("#ask-text", "22 kg 400")
	b.click("#ask-yes")
	b.until("sent", "!document.querySelector('#ask').open && document.querySelector('#unsent').hidden")
	noted := func() bool { // what is still in the page when it is left waits for the next bench
		things, err := s.Things(context.Background(), false)
		return err == nil && slices.ContainsFunc(things, func(x store.Thing) bool {
			l, is := x.Value.(flour.Lot)
			return is && slices.ContainsFunc(l.History, func(e flour.LotEvent) bool { return e.G == 22400 })
		})
	}
	for range 400 {
		if noted() {
			break
		}
		time.Sleep(25 * time.Millisecond)
	}
	b.visit("/cabinet/lots/2/measure")
	b.until("it stands at its lot", "document.querySelector('#main').textContent.includes('22,400 g are left')")

	for _, x := range [][2]string{{"#s-tare_g", "30.2"}, {"#s-before_g", "80.2"}} {
		b.enter(x[0], x[1])
	}
	b.click("form:has(#s-tare_g) .btn")
	b.until("in the oven", "document.querySelector('.in-oven')")
	b.do(chromedp.Reload())
	b.until("still in it", "document.querySelector('.in-oven [data-since]')?.textContent.trim() === '0 min'")
	b.enter("#s-after_g", "74.1")
	b.click("form:has(#s-after_g) .btn-go")
	b.until("12.2 %", "document.querySelector('[data-fig=sack]')?.textContent.startsWith('12.2')")
	b.visit(batch(demo.Lantern) + "?at=room")
	b.until("the plan goes by it", "document.querySelector('#sheet').textContent.includes('What the sack holds')")

	for lot, width := range map[int]int64{3: 820, 2: 390} { // a tablet, a phone
		b.do(chromedp.EmulateViewport(width, 1000))
		b.visit(fmt.Sprintf("/cabinet/lots/%d/doughs", lot))
		b.click("button[value=wrapped]")
		b.until("they rest", "document.querySelectorAll('.feels').length === 3")
		for _, letter := range []string{"A", "B", "C"} {
			b.click(fmt.Sprintf("input[name='said.%s'][value='0']", letter))
		}
		b.click("button[value=said]")
		b.until("what they said", "document.querySelector('.told')?.textContent.includes('This sack wants')")
	}

	b.visit(batch(demo.Saturday) + "/foretold")
	b.until("foretold", "document.querySelectorAll('.tried tbody tr').length >= 4")
	pdf, err := chromedp.Run(b.ctx, chromedp.PrintToPDF(chromedp.PDFPreferCSSPageSize()))
	if err != nil {
		t.Fatal(err)
	}
	if n := len(pdfPage.FindAll(pdf, -1)); n != 1 {
		t.Errorf("the sheet has %d pages", n)
	}
	// Typed back, it is judged.
	b.visit(batch(demo.Saturday) + "/log")
	b.enter("[name=pot_s]", "85")
	b.click(".asks-go .btn-go")
	b.until("logged", "location.pathname.endsWith('/made')")
	b.visit("/log/learned?open=tried")
	b.until("judged", "document.querySelector('.matter[open]')?.textContent.includes('1 of 1 held')")
}

// What may be wrong at a step has its picture, as on the page.
func TestSignsAtTheBenchHavePictures(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.toBench(demo.Lantern)
	for range 8 {
		eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
	}
	b.button("#knuckles", "Something wrong?")
	b.until("signs", "document.querySelectorAll('#more-keys .btn').length > 2")
	if n := eval[int](b, "[...document.querySelectorAll('#more-keys .btn')].filter((x) => "+
		"!x.querySelector('svg.sign') && "+
		"!['In my words', 'Close'].includes(x.textContent)).length"); n != 0 {
		t.Errorf("%d signs have no picture", n)
	}
}
