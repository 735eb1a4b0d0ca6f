package e2e

import (
	"context"
	"fmt"
	"testing"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/demo"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// A batch is made and logged, its copy has the correction with its reason; left out, it is gone; while one window logs,
// another plans.
func TestLogCorrectsTheNext(t *testing.T) {
	t.Parallel() // it waits more than it works
	base, st := serve(t)
	err := st.ChangeLogSettings(context.Background(), func(l *store.LogSettings) { l.Off, l.Left = false, []uint64{1} })
	if err != nil {
		t.Fatal(err)
	}
	br := browser(t)
	one, two := open(t, br, base, wide, high), open(t, br, base, tabletW, tabletH)
	one.expect = []string{"422"}
	two.visit(batch(demo.Saturday) + "?at=formula")
	const wanted = "!!document.querySelector('#sheet [data-note^=learned]')"
	if eval[bool](two, wanted) {
		t.Error("nothing is logged, and it has learned something")
	}
	one.visit(batch(demo.Saturday) + "/log")
	eval[bool](one, fmt.Sprintf("(document.querySelector('#l-when').value = %q, true)",
		storetest.Now().Add(-2*time.Hour).Format(measure.ClockForm)))
	eval[bool](one, "(document.querySelector('input[name=felt][value=\"-1\"]').click(), true)")
	one.enter("#l-poke_s", "four")
	one.enter("#l-next", "roll a stop finer")
	one.click(".log-asks .btn-go")
	one.until("what is wrong, by its line",
		"document.querySelector('#l-poke_s-e')?.textContent.trim() && document.querySelector('#l-next').value === "+
			"'roll a stop finer'")
	one.enter("#l-poke_s", "4")
	one.click(".log-asks .btn-go")
	one.until("the making", "location.pathname.endsWith('/made') && document.body.textContent.includes('felt a "+
		"little dry')")
	// The other window goes on planning: its next change counts with it.
	time.Sleep(1100 * time.Millisecond)
	two.enter("#f-amount-flour_g", "1100")
	two.until("the correction, with its reason", wanted)
	// A copy has it, too, and the last word.
	one.visit(batch(demo.Saturday))
	one.until("the last word", "document.querySelector('.last-word')?.textContent.includes('roll a stop finer')")
	one.visit("/log/learned?open=behind")
	one.until("what stands behind it", "document.querySelector('main').textContent.includes('a little dry')")
	one.click("button[name=do][value=leave]")
	one.until("left out, as the first is", "document.querySelectorAll('button[name=do][value=take]').length === 2")
	one.visit(batch(demo.Saturday) + "?at=formula")
	if eval[bool](one, wanted) {
		t.Error("left out, it counts all the same")
	}
	one.button("#messages ~ .last-word", "Seen to")
	one.until("seen to", "!document.querySelector('.last-word')")
}

// A picture far too large is made small in the browser, kept, shown, and taken away again.
func TestPictureOfAMaking(t *testing.T) {
	t.Parallel() // it waits more than it works
	base, st := serve(t)
	b := open(t, browser(t), base, tabletW, tabletH)
	b.visit("/bench/1/made")
	b.until("the key", "document.querySelector('#picture') && !document.querySelector('.add-picture').hidden")
	eval[bool](b, `(async () => {
		const c = document.createElement("canvas");
		c.width = 3200; c.height = 2400;
		const g = c.getContext("2d");
		for (let i = 0; i < 4000; i++) { // too much to be small by itself
			g.fillStyle = "hsl(" + (i * 47) % 360 + " 70% 50%)";
			g.fillRect((i * 131) % 3200, (i * 197) % 2400, 60, 40);
		}
		const blob = await new Promise((done) => c.toBlob(done, "image/png"));
		const all = new DataTransfer();
		all.items.add(new File([blob], "sheet.png", { type: "image/png" }));
		const field = document.getElementById("picture");
		field.files = all.files;
		field.dispatchEvent(new Event("change", { bubbles: true }));
		return true;
	})()`)
	b.until("the picture", "document.querySelector('.gallery img')?.complete && document.querySelector('.gallery "+
		"img').naturalWidth > 0")
	if w := eval[float64](b, "document.querySelector('.gallery img').naturalWidth"); w > 1600 {
		t.Errorf("it is %.0f points wide", w)
	}
	doc, err := st.Picture(context.Background(), 1, 1)
	if err != nil || len(doc) > store.MaxPicture {
		t.Errorf("%d bytes, %v", len(doc), err)
	}
	b.button(".gallery", "Take it away")
	b.until("taken away", "!document.querySelector('.gallery')")
}
