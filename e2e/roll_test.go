package e2e

import (
	"testing"

	"hollen/internal/demo"
)

// A machine with falling labels is added, measured by a weighed square, and taken: the plan
// moves with it. The target is dragged and the stop follows.
func TestOwnMachine(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit("/cabinet/machines/new?like=motor-9")
	b.enter("#w-name", "Quay motor")
	b.click(".asks-go .btn-go")
	b.until("the shelf", "document.querySelector('.things')?.textContent.includes('Quay motor')")
	b.visit(batch(demo.Saturday) + "?at=roll")
	b.pick("#f-roll-machine", "own-19")
	sheet := "document.querySelector('#sheet .stack .num').textContent"
	b.until("the new machine", "document.querySelector('#h-f-roll-machine').textContent === 'widest is 9'")
	before := eval[string](b, sheet)
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")

	b.visit("/cabinet/machines/19/calibrate")
	eval[bool](b, "document.querySelector('input[name=t7]').value = '14.2 g'; true") // 1.17 mm where 1.03 is given
	b.click(".asks-go .btn-line")
	b.until("the fit", "document.querySelector('.calibrated').textContent.includes('measured: 1.17 mm')")
	b.click(".asks-go .btn-go")
	b.until("kept", "document.querySelector('.things')?.textContent.includes('1 stop')")

	b.visit(batch(demo.Saturday) + "?at=formula")
	b.click("#stale button")
	b.until("taken", settledState+" === '"+notSaved+"'")
	b.click("#spine li:nth-child(5) button")
	b.until("another sheet",
		sheet+" !== '"+before+"' && document.querySelector('#sheet').textContent.includes('measured, within')")
	eval[bool](b, "(() => { const s = document.querySelector('.slide[data-for=f-roll-target_mm]'); s.value = 2; "+
		"s.dispatchEvent(new "+
		"Event('input', {bubbles: true})); return true })()")
	b.until("a stop nearer 2 mm", "Number("+sheet+".replace('mm', '')) > 1.5")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	if r := saved(t, s, demo.Number(demo.Saturday)).Request.Roll; r.Own == nil || len(r.Own.Calibrated) != 1 ||
		r.TargetMM == nil {
		t.Errorf("%+v", r)
	}
}
