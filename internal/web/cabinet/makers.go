package cabinet

import (
	"hollen/internal/core/request"
	"hollen/internal/store"
)

var makerShelf = shelf{Path: "makers", Name: "Makers", One: "A maker", Kind: store.MakerKind,
	Lead: "Whoever works at the bench. A name is picked there with one tap and stands by what those hands did; it " +
		"is not handed on with the rest.",
	Heads: []column{
		{"note", false},
	},
	form: func(c desk, v any, like string) ([]entry, func() (any, error), string) {
		m, _ := v.(request.Maker)
		return []entry{textEntry("name", "Name", "as it is called across the room", 1, request.MaxMaker, &m.Name),
			textEntry("note", "Note", "", 0, 120, &m.Note)}, func() (any, error) { return m, m.Check() }, ""
	},
	cells: func(c desk, v any) []string {
		m := v.(request.Maker)
		return []string{m.Name, m.Note}
	}}
