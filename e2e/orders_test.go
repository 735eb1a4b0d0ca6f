package e2e

import (
	"context"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
)

// An order with an allergy to milk, on a day with a filling of milk, from the message to the slip: in red wherever it
// stands, not made of what holds milk unless it is agreed, ticked on the phone.
func TestAnAllergyFromMessageToSlip(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	ctx := context.Background()
	b := open(t, browser(t), base, wide, high)
	b.expect = []string{"422"}
	date := aDay(t, s, 44)
	at := "/days/" + date
	b.visit(at + "/orders")
	b.enter("#o-text", "40 pieces of lantern ravioli, frozen for the Pharos at noon (milk allergy)")
	b.do(chromedp.KeyEvent("\r6 tagliatelle and 2 kg pappardelle for the Mole tomorrowish"))
	b.click("form[enctype] .btn-line")
	b.until("one read, one asked", "document.querySelectorAll('.orders li').length === 2 && "+
		"document.querySelector('#o-wrong').textContent.includes('Line 2') && "+
		"document.querySelector('#o-text').value.includes('tomorrowish')")
	b.until("the mark", "document.querySelector('.orders .marks .lacks')?.textContent.includes('llergy: milk')")
	eval[bool](b, "[...document.querySelectorAll('[id^=like-]')].forEach((x) => { x.value = 'recipe-8'; }) ?? true")
	b.button(".proposals", "Make this batch")
	b.until("it is refused", "document.querySelector('.proposals .err')?.textContent.includes('it contains milk')")
	if all, _ := s.Orders(ctx, date); all[0].Batch != nil {
		t.Fatal("it is made all the same")
	}
	b.enter("[name=agreed]", "for the guests without it, told by telephone")
	b.button(".proposals", "Make this batch")
	b.until("it is made", "document.querySelector('.orders li') && "+
		"document.querySelectorAll('.proposals li').length === 0")
	if text := b.text(".orders"); !strings.Contains(text, "told by telephone") || !strings.Contains(text,
		"A kitchen with flour and eggs leaves traces") {
		t.Errorf("the order says %q", text)
	}
	red := func(page, sel string) {
		b.visit(at + page)
		b.until("it in red on "+page, "[...document.querySelectorAll('"+sel+"')].some((x) => "+
			"x.textContent.includes('ALLERGY: milk') && getComputedStyle(x).color !== "+
			"getComputedStyle(document.body).color)")
	}
	b.visit(at)
	b.click(".head .acts > form button[value=plan]")
	b.until("the plan", "document.querySelector('.day-lanes')")
	red("/wall", ".lacks")
	red("/set-out", ".lacks")
	red("/slips", ".lacks")
	if slip := b.text(".slip"); !strings.Contains(slip, "40 pieces") || !strings.Contains(slip, "milk") ||
		!strings.Contains(slip, "Use by") {
		t.Errorf("the slip: %q", slip)
	}
	phone := open(t, browser(t), base, 390, 844)
	phone.visit(at + "/now")
	phone.until("it on the phone", "document.querySelector('.due-list .lacks')?.textContent.includes('ALLERGY: milk')")
	phone.click(".due-list button[aria-label^='Packed, the Pharos']")
	phone.until("it is packed", "document.querySelector('.due-list button[aria-pressed=true]')?.textContent === "+
		"'Packed'")
	if all, _ := s.Orders(ctx, date); all[0].State != "packed" {
		t.Errorf("%+v", all[0])
	}
}
