package web

import (
	"testing"

	"hollen/internal/core/request"
)

// No two ways there are called the same, whatever is fixed, weighed or entered as made.
func TestWaysThereAreToldApart(t *testing.T) {
	whole := func(n float64) func(r *request.Request) {
		return func(r *request.Request) { r.Eggs.FixWhole = &n }
	}
	both := func(n, yolks float64) func(r *request.Request) {
		return func(r *request.Request) { r.Eggs.FixWhole, r.Eggs.FixYolks = &n, &yolks }
	}
	for _, set := range []func(r *request.Request){
		func(r *request.Request) {}, whole(2), whole(3), whole(4), whole(5), both(3, 2), both(4, 1),
		func(r *request.Request) { r.Eggs.ByWeight = true },
		func(r *request.Request) { r.Amount.By = request.ByOwn },
		func(r *request.Request) { cracked := 230.; r.Eggs.CrackedG = &cracked },
	} {
		for flour := 300.; flour <= 500; flour += 20 {
			r := request.Default()
			r.Amount.By, r.Amount.FlourG = request.ByFlour, flour
			set(&r)
			seen := map[string]bool{}
			for _, w := range (&formulaView{batchView: newViewOf(t, r)}).Ways() {
				if seen[w.Words] {
					t.Errorf("%g g of flour: two ways called %q", flour, w.Words)
				}
				seen[w.Words] = true
			}
		}
	}
}
