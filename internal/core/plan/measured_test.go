package plan

import (
	"strings"
	"testing"

	"hollen/internal/core/addition"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// Of several measured amounts the one named as deciding is the one whose spread by itself moves the dough most: a spoon
// of water before a nearly level cup, and the cup before a nearly level spoon.
func TestWhatDecidesTheDough(t *testing.T) {
	eggs, liquid := 2., 30.
	for _, c := range []struct {
		flour, water float64 // how far either way, g
		by           string
	}{{10, 8, "water"}, {10, 4, "Soft wheat 00"}, {40, 8, "Soft wheat 00"}} {
		r := request.Default()
		r.Amount.By, r.Amount.FlourG = request.ByOwn, 300
		r.Eggs.FixWhole, r.Eggs.LiquidG = &eggs, &liquid
		r.Measure(request.Said{Path: "flours.0.share", Text: "2 cups", LowG: 300 - c.flour, G: 300,
			High: 300 + c.flour})
		r.Measure(request.Said{Path: "eggs.liquid_g", Text: "2 tbsp", LowG: 30 - c.water, G: 30, High: 30 + c.water})
		p, err := Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		if b := p.Formula.Band; b == nil || !strings.EqualFold(b.By, c.by) {
			t.Errorf("±%v g of flour and ±%v g of water: %+v, want %s to decide", c.flour, c.water, b, c.by)
		}
	}
}

// What may stick is told what helps in this air: to dry it first where it dries, and never that where it does not.
func TestMayStickInAnyAir(t *testing.T) {
	for _, rh := range []float64{.3, .45, .7, .9, .97} {
		r := request.Default()
		r.Additions = []request.AdditionPart{{Addition: firstPuree(t), Share: .12}}
		r.Room.RH = rh
		p, err := Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		for _, n := range p.Notes {
			if n.Code != "may_stick" {
				continue
			}
			offers := strings.Contains(n.Text, "let the sheet dry first")
			if offers != p.Dry.Leather.Will || (n.Offer != "") != p.Dry.Leather.Will ||
				strings.Contains(n.Text, "or and") {
				t.Errorf("at %.0f %%: will dry %v, said %q, offered %q", 100*rh, p.Dry.Leather.Will, n.Text, n.Offer)
			}
		}
		if !p.has(Note{Code: "may_stick", Level: Remark}) {
			t.Errorf("at %.0f %% a purée is not said to stick", 100*rh)
		}
	}
}

func firstPuree(t *testing.T) string {
	t.Helper()
	for _, k := range addition.Shipped() {
		if k.Kind == addition.Puree {
			return k.Key
		}
	}
	t.Fatal("no purée")
	return ""
}
