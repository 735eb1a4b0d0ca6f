package log

import (
	"testing"

	"hollen/internal/core/learn"
	"hollen/internal/core/rules"
)

func TestWhatAFloorHidesIsSaid(t *testing.T) {
	name := func(label string) string { return label }
	for want, x := range map[string]learn.Saying{
		"Kneading (long: one kneading, one rest): nothing learned yet. 3 batches were smooth at the end of their " +
			"kneading, which was longer than they need by the book: " +
			"not seen below 8 min.": {What: "knead", Of: "long", Unseen: 3, BelowMin: 8},
		"Rest of soft: 90 % of the book’s, nine times in ten 80 to 101 %, from 2. One batch was relaxed at the end " +
			"of its rest, " +
			"which was longer than it needs by the book: not seen below 20 min.": {
			What: "rest", Of: "soft", Unseen: 1, BelowMin: 20, LearnedBy: rules.LearnedBy{N: 2, By: .9, From: .8,
				To: 1.01}},
		"Leather (still air): 110 % of the book’s, nine times in ten 100 to 121 %, from 4.": {
			What: "dry", Of: "still", LearnedBy: rules.LearnedBy{N: 4, By: 1.1, From: 1, To: 1.21}},
	} {
		if got := sayWords(x, name); got != want {
			t.Errorf("said %q,\nnot %q", got, want)
		}
	}
}
