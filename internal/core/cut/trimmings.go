package cut

import "hollen/internal/core/rules"

// Back is trimmings kneaded into the next piece.
type Back struct {
	BackG float64 `json:"worked_back_g"` // over all pieces
	LeftG float64 `json:"left_g"`        // what the limits or the last piece leave over
	MoreG float64 `json:"more_g"`        // shapes gained by it, not counted in the plan
}

// WorkBack follows trimmings from piece to piece: each of pieces pieces of pieceG g loses the
// share trim of its mass, and the next takes up at most a fifth of its own mass of it, and
// nothing that has gone round twice already. Every gram ends in shapes or is left over.
func WorkBack(r rules.Cut, pieces int, pieceG, trim float64) Back {
	var o Back
	const rounds = 2          // times a trimming may be kneaded in
	var waits [rounds]float64 // trimmings that have gone round 0 and 1 times, g
	for range pieces {
		room := r.BackShare * pieceG
		in := [rounds + 1]float64{pieceG}
		for k, g := range waits {
			take := min(g, room)
			room -= take
			in[k+1] = take
			o.BackG += take
			o.MoreG += take * (1 - trim)
			o.LeftG += g - take
		}
		waits = [rounds]float64{}
		for k, g := range in {
			if k < rounds {
				waits[k] = g * trim
			} else {
				o.LeftG += g * trim
			}
		}
	}
	for _, g := range waits {
		o.LeftG += g
	}
	return o
}
