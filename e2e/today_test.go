package e2e

import (
	"fmt"
	"strings"
	"testing"

	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// replied is the figure of one part of the first page's answer.
func replied(part string) string {
	return fmt.Sprintf("[...document.querySelectorAll('#answer li')].find((x) => x.firstChild.textContent === %q)"+
		"?.querySelector('b').textContent", part)
}

// In a kitchen that has nothing yet, the sentence stands answered, follows what is typed, saves nothing, and leads
// by two taps to the flour that is to be weighed.
func TestFromNothingToTheFlour(t *testing.T) {
	t.Parallel()
	s := storetest.Open(t)
	base := served(t, s)
	for _, width := range []int64{1280, 390} {
		b := open(t, browser(t), base, width, 844)
		b.visit("/")
		empty := eval[float64](b, "document.querySelectorAll('.today .below section').length")
		if empty != 0 && width == 1280 {
			t.Errorf("an empty kitchen shows %.0f lists", empty)
		}
		flour := eval[string](b, replied("flour"))
		b.enter("#f-amount-portions", "8")
		b.until("the answer for eight", answerFor(8))
		if more := eval[string](b, replied("flour")); more == flour || !strings.HasSuffix(more, " g") {
			t.Errorf("%d: flour is %q for 3 and %q for 8", width, flour, more)
		}
		eval[bool](b, "(document.querySelector('[data-step=\"-1\"]').click(), true)")
		b.until("the answer for seven", answerFor(7))
		b.enter("#f-amount-portions", "no")
		b.until("what is wrong", "document.querySelector('#answer .err')?.textContent.startsWith('Portions')")
		b.enter("#f-amount-portions", "2")
		b.until("the answer for two", answerFor(2))
		if eval[float64](b, "document.documentElement.scrollWidth - innerWidth") > 0 {
			t.Errorf("%d: wider than the screen", width)
		}
		b.visit("/") // it is remembered
		b.until("two again", "document.querySelector('#f-amount-portions').value === '2'")
		if had := len(saidOf(t, s)); width == 1280 && had > 0 {
			t.Errorf("asking saved %d batches", had)
		}
		b.button(".doors", "To the bench")
		b.until("the bench", "document.querySelector('#bench')?.dataset.step")
		b.click(onward)
		b.until("the flour to weigh", "document.querySelector('#bench').textContent.includes('Into the bowl')")
	}
	demo, _ := serve(t)
	b := open(t, browser(t), demo, wide, high)
	b.visit("/")
	b.until("what goes on", "document.querySelector('.under-way .clock')")
	was := eval[string](b, "document.querySelector('.under-way .clock').textContent")
	b.until("it runs", fmt.Sprintf("document.querySelector('.under-way .clock').textContent !== %q", was))
}

// saidOf are the batches of a store.
func saidOf(t *testing.T, s *store.Store) []store.Batch {
	t.Helper()
	all, _, err := s.List(t.Context(), store.Query{})
	if err != nil {
		t.Fatal(err)
	}
	return all
}

// answerFor says, in the page, that the first page answers for so many.
func answerFor(n int) string {
	return fmt.Sprintf("document.querySelector('#answer [aria-label^=\"The answer for %d \"]')", n)
}
