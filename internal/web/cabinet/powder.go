package cabinet

import (
	"fmt"
	"net/url"
	"strings"

	"hollen/internal/core/addition"
	"hollen/internal/core/field"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// powderView is the sum of fresh vegetable and powder.
type powderView struct {
	Vegetables     []request.Option
	Of             string
	Want, Water    string // as typed: g of powder, % of water
	WantErr, WErr  string
	WaterAuto      string
	FreshG, WantG  float64
	Own            int     // dryings of it written down
	OwnFreshG      float64 // by them
	OwnShare, Sure float64
	For            string // flour that much powder serves
}

// These are asked of a powder: the share of water in the vegetable, and the powder wanted, g.
var (
	waterField = field.Field{Unit: "%", Kind: field.Number, Min: .5, Max: .98, Show: 100, Optional: true}
	wantField  = field.Field{Unit: string(measure.G), Kind: field.Number, Min: 1, Max: 20000}
)

// readPowder works the sum out for what was asked; nothing asked is 30 g of spinach powder.
func readPowder(in measure.System, own []addition.Yield, q url.Values) *powderView {
	v := &powderView{Of: addition.Vegetables()[0].Key, Want: "30"}
	var veg addition.Vegetable
	for _, x := range addition.Vegetables() {
		v.Vegetables = append(v.Vegetables, request.Option{Key: x.Key, Name: x.Name})
		if x.Key == v.Of || x.Key == q.Get("of") {
			veg = x
		}
	}
	v.Of = veg.Key
	if q.Has("want") {
		v.Want = q.Get("want")
	}
	v.Water, v.WaterAuto = q.Get("water"), fmt.Sprintf("%.1f", 100*veg.WaterShare)
	water, n := 0., 0.
	v.WErr, v.WantErr = field.Refusal(waterField.Set(&water, v.Water)), field.Refusal(wantField.Set(&n, v.Want))
	if v.WErr+v.WantErr != "" {
		return v
	}
	if water == 0 {
		water = veg.WaterShare
	}
	v.WantG, v.FreshG = n, addition.FreshG(n, water)
	var mine []addition.Yield
	for _, y := range own {
		if strings.EqualFold(y.Of, veg.Name) {
			mine = append(mine, y)
		}
	}
	if v.Own = len(mine); v.Own > 0 {
		v.OwnShare = addition.MeanShare(mine)
		v.OwnFreshG = n / v.OwnShare
	}
	v.Sure = addition.PowderG(1, water)
	v.For = fmt.Sprintf("%s to %s", in.Grams(n/.05), in.Grams(n/.02))
	return v
}
