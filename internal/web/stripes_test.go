package web

import (
	"testing"

	"hollen/internal/demo"
)

// A pattern of three colours is told strip by strip, on the page, the batch sheet and the label, with the
// allergens of everything laid on.
func TestThreeColours(t *testing.T) {
	s := newSite(t)
	at := batchAt(demo.Straw)
	v := s.typed(demo.Number(demo.Straw))
	v.Set("was_at", "roll")
	for path, typed := range map[string]string{"0.colour": "other", "0.width_mm": "14", "0.gap_mm": "6",
		"1.colour": "third", "1.width_mm": "5", "1.gap_mm": "12"} {
		v.Set("roll.stripes.strips."+path, typed)
	}
	s.wants(s.ask("POST", at+"/work", v), 200, "A strip is of the third colour: say what colours it", "Not so.")
	v.Set("roll.stripes.third_colour", "ink")
	s.wants(s.ask("POST", at+"/work", v), 200, "For the third colour knead", "cuttlefish ink",
		"14 mm of the other dough, 6 mm bare, 5 mm of the third colour, 12 mm bare",
		"every 37 mm", "after the last")
	v.Set("roll.stripes.mirrored", "yes")
	s.wants(s.ask("POST", at+"/work", v), 200, "every 74 mm")
	v.Set("roll.stripes.laid", "along")
	s.wants(s.ask("POST", at+"/work", v), 200, "along the base", "strips along the sheet keep their width")
	v.Set("roll.stripes.laid", "lattice")
	v.Set("roll.stripes.stripe_mm", "0.2")
	s.wants(s.ask("POST", at+"/work", v), 200, "across the base and along it")
	v.Set("roll.stripes.laid", "")
	v.Set("roll.stripes.stripe_mm", "0.5")
	s.wants(s.ask("POST", at+"/save", v), 303)
	s.wants(s.ask("GET", at+"/sheet", nil), 200, "Lay in turn, across the base", "molluscs")
	s.wants(s.ask("GET", at+"/label", nil), 200, "molluscs")
	for path, typed := range map[string]string{"roll.stripes.strips.0.width_mm": "0",
		"roll.stripes.strips.1.gap_mm": "wide", "roll.stripes.strips.0.colour": "pink"} {
		v := s.typed(demo.Number(demo.Straw))
		v.Set("was_at", "roll")
		v.Set(path, typed)
		s.wants(s.ask("POST", at+"/work", v), 200, `aria-invalid="true"`)
	}
}
