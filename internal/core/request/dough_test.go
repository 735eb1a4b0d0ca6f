package request

import "testing"

func TestSameDough(t *testing.T) {
	a, b := Default(), Default()
	b.Room.RH, b.Cut.Shape, b.Amount.Portions, b.Flours[0].OpenDays = .3, "pappardelle", 9, 30
	if !SameDough(&a, &b) {
		t.Error("another room and shape make another dough")
	}
	for name, change := range map[string]func(*Request){
		"share":    func(r *Request) { r.Flours[0].Share = .5 },
		"style":    func(r *Request) { r.Eggs.Style = "no-egg" },
		"salt":     func(r *Request) { r.Salt = .01 },
		"addition": func(r *Request) { r.Additions = []AdditionPart{{Addition: "spinach", Share: .1}} },
		"own":      func(r *Request) { r.Amount.By = ByOwn },
		"flours":   func(r *Request) { r.Flours = append(r.Flours, FlourPart{Flour: "semola-fine"}) },
	} {
		c := Default()
		if change(&c); SameDough(&a, &c) || SameDough(&c, &a) {
			t.Errorf("%s: the same dough", name)
		}
	}
}
