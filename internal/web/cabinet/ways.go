package cabinet

import (
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

var wayShelf = shelf{Path: "ways", Name: "Ways", One: "A way of your own", Kind: store.WayKind,
	Lead: "A way of kneading, or down the stops, under a name. A batch takes it literally at Knead or at Roll; there " +
		"any way that is built can be " +
		"kept, too. What new batches start with is chosen under House.",
	Heads: []column{
		{"of", false}, {"made on", false}, {"step by step", false},
	},
	form: func(c desk, v any, like string) ([]entry, func() (any, error), string) {
		w, own := v.(request.Way)
		if !own {
			w = request.Way{Of: request.WayOfKneading}
		}
		lines := w.Lines()
		steps := areaEntry("lines", "Step by step", "one to a line: “Knead by hand, 8 min”, “3, 2 passes”", 1, 2400,
			&lines)
		steps.asTyped = true
		machine := textEntry("machine", "Made on", "of a way down: the kind of machine", 0, 60, &w.Machine)
		return []entry{textEntry("name", "Name", "", 1, 60, &w.Name), choiceEntry("of", "It is a way", (*string)(&w.Of),
				request.WayKinds()...), machine, steps}, func() (any, error) {
				if err := w.ReadLines(lines); err != nil {
					return w, err
				}
				return w, w.Check()
			}, ""
	},
	cells: func(c desk, v any) []string {
		w := v.(request.Way)
		of := map[request.WayOf]string{request.WayOfKneading: "kneading", request.WayDown: "the way down"}[w.Of]
		return []string{w.Name, of, w.Machine, page.Shortened(w.Words(), 120)}
	}}

// wayOptions are the kept ways of a kind, to choose what new batches start with.
func wayOptions(cab store.Cabinet, of request.WayOf, none string) []request.Option {
	out := []request.Option{{Key: "", Name: none}}
	for _, w := range cab.Ways {
		if w.Of == of {
			out = append(out, request.Option{Key: w.Key, Name: w.Name})
		}
	}
	return out
}
