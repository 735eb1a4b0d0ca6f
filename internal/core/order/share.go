package order

import (
	"cmp"
	"fmt"
	"math"
	"slices"
)

// Wanted is an order as its share is reckoned: when it is due, and how many portions it comes to.
type Wanted struct {
	ID       uint64
	Due      int // min
	Portions float64
	Said     Amount
}

// Shares says what each order gets of so many portions, in the order they were given: the earliest due is filled first,
// of equals the one with the lesser number. What is within the share that is enough of all of them fills all.
func Shares(made, enough float64, all []Wanted) []float64 {
	got := make([]float64, len(all))
	sum := 0.
	turn := make([]int, len(all))
	for i, w := range all {
		sum += w.Portions
		turn[i] = i
	}
	if made >= sum*enough {
		for i, w := range all {
			got[i] = w.Portions
		}
		return got
	}
	slices.SortStableFunc(turn, func(a, b int) int {
		return cmp.Or(cmp.Compare(all[a].Due, all[b].Due), cmp.Compare(all[a].ID, all[b].ID))
	})
	for _, i := range turn {
		got[i] = min(all[i].Portions, max(0, made))
		made -= got[i]
	}
	return got
}

// ShortWords say in the order's own unit what it lacks: "gets 5 of 8 portions, 3 short"; "" where it gets all, or what
// it lacks is less than what is enough.
func (w Wanted) ShortWords(got, enough float64) string {
	if w.Portions <= 0 || got >= w.Portions*enough {
		return ""
	}
	gets := Amount{w.Said.N * got / w.Portions, w.Said.Unit}
	switch w.Said.Unit {
	case Grams:
		gets.N = 10 * math.Floor(gets.N/10)
	case Pieces:
		gets.N = math.Floor(gets.N + 1e-9)
	default:
		gets.N = math.Floor(10*gets.N+1e-9) / 10
	}
	lacks := Amount{math.Round(100*(w.Said.N-gets.N)) / 100, w.Said.Unit}
	return fmt.Sprintf("gets %s of %s, %s short", gets.Text(), w.Said.Words(), lacks.Text())
}
