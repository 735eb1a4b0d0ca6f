package plan

import (
	"slices"
	"testing"

	"hollen/internal/core/egg"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// Egg white that binds a flour without gluten is egg: it is named raw, the food clock counts it, and the roller is not
// free of egg after it.
func TestEggWhiteIsEgg(t *testing.T) {
	r := request.Default()
	r.Eggs.Style, r.Flours[0].Flour = egg.NoEgg, "rice"
	if p, err := Make(rules.Default(), r); err != nil || p.HasEgg() || p.Perishable() || !warnedOf(p, "raw_egg",
		"Raw flour.") {
		t.Fatalf("rice and water: %v, egg %v", err, p.HasEgg())
	}
	white := request.AdditionPart{Addition: "egg-white"}
	white.Share = white.Kind().StartShare()
	r.Additions = []request.AdditionPart{white}
	p, err := Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	if !p.HasEgg() || !p.Perishable() || !warnedOf(p, "raw_egg", "Raw egg and flour.") {
		t.Errorf("with egg white: egg %v, perishable %v, %+v", p.HasEgg(), p.Perishable(), p.Notes)
	}
}

// warnedOf says whether a note of that code begins so.
func warnedOf(p *Plan, code, head string) bool {
	return slices.ContainsFunc(p.Notes, func(n Note) bool { return n.Code == code && n.Head == head })
}
