package log

import (
	"fmt"
	"slices"
	"strings"

	"hollen/internal/core/flour"
	"hollen/internal/core/learn"
	"hollen/internal/core/roll"
	"hollen/internal/store"
)

// question is one thing Hollen asks, where asking pays; it can be sent away for good.
type question struct{ Key, Head, Text, To, Do string }

// askOf is the first question the log asks that has not been sent away; nil where there is none.
func askOf(log *learn.Log, set store.LogSettings, name func(string) string) *question {
	for _, q := range log.Questions() {
		key := q.What + ":" + q.Of
		if slices.Contains(set.Away, key) {
			continue
		}
		id, own := strings.CutPrefix(q.Of, flour.OwnPrefix)
		switch q.What {
		case learn.AskMoisture:
			return &question{key, fmt.Sprintf("Weigh the moisture of %s?", name(q.Of)),
				"Its last two batches felt off the same way. Fifty grams of it, dried in the oven, " +
					"tell what it holds, and the plan guesses no more.", "/cabinet/lots", "To its lot"}
		case learn.AskEggs:
			return &question{key, "Weigh ten of these eggs?", "Twice on end they weighed otherwise than their class " +
				"says. Ten, cracked " +
				"and weighed, and every plan counts with yours.", "/cabinet/eggs/new", "To the eggs"}
		case learn.AskSheets:
			machine, to := q.Of, "/cabinet/machines"
			if m, ok := roll.Find(q.Of); ok {
				machine = m.Name
			}
			if own {
				machine, to = "your machine", "/cabinet/machines/"+id+"/calibrate"
			}
			return &question{key, fmt.Sprintf("Measure three sheets of %s?", machine),
				"Two makings on end its sheets came out otherwise than the dial says.", to,
				"To its stops"}
		}
	}
	return nil
}
