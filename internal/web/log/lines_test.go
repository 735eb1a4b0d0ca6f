package log

import (
	"strings"
	"testing"

	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
)

// The dividing is one line, and each piece is one: neither swallows the other.
func TestDividingAndPiecesAreLines(t *testing.T) {
	p, err := plan.Make(rules.Default(), demo.Batch(demo.Chandler))
	if err != nil {
		t.Fatal(err)
	}
	run := bench.Run(p, demo.Day, nil)
	var divides, pieces []string
	for _, l := range madeLines(&run, measure.Metric) {
		switch {
		case strings.HasPrefix(l.Head, "Divide"):
			divides = append(divides, l.Head+" "+l.Planned)
		case strings.HasPrefix(l.Head, "Piece"):
			pieces = append(pieces, l.Head)
		}
	}
	if len(divides) != 1 || !strings.HasPrefix(divides[0], "Divide, 5 pieces") || !strings.HasSuffix(divides[0],
		" g each") {
		t.Errorf("the dividing: %q", divides)
	}
	if len(pieces) != p.Roll.Pieces || !strings.HasPrefix(pieces[0], "Piece 1, ") {
		t.Errorf("the pieces: %q", pieces)
	}
}
