package cut

import (
	"math"
	"slices"
)

// exactWays is the most ways of sharing that are all looked at.
const exactWays = 60000

// Share gives each of several shapes a whole number of n sheets: the least of (largest share
// by which a shape falls short of want; sum of |got − want|; then more for the earlier
// shapes). yield(k, m) is what m sheets give of shape k, g, and does not fall with m. Exact
// while there are at most 60,000 ways; beyond that it starts from the even share and moves one
// sheet at a time while that helps.
func Share(n int, want []float64, yield func(k, m int) float64) []int {
	k := len(want)
	if k == 1 {
		return []int{n}
	}
	got := make([][]float64, k)
	for i := range got {
		got[i] = make([]float64, n+1)
		for m := range got[i] {
			got[i][m] = yield(i, m)
		}
	}
	if ways(n, k) <= exactWays {
		best, bestAt := shortness{math.Inf(1), math.Inf(1)}, []int(nil)
		each(n, make([]int, k), 0, func(at []int) {
			if s := judge(at, got, want); bestAt == nil || s.less(best) {
				best, bestAt = s, slices.Clone(at)
			}
		})
		return bestAt
	}
	return improve(n, want, got)
}

// shortness is how badly a sharing serves, the first figure first.
type shortness struct{ worst, off float64 }

func (a shortness) less(b shortness) bool {
	const eps = 1e-9
	if math.Abs(a.worst-b.worst) > eps {
		return a.worst < b.worst
	}
	return a.off < b.off-eps
}

func judge(at []int, got [][]float64, want []float64) (s shortness) {
	for i, m := range at {
		g := got[i][m]
		s.off += math.Abs(g - want[i])
		if want[i] > 0 {
			s.worst = max(s.worst, 1-g/want[i])
		}
	}
	s.worst = max(s.worst, 0)
	return s
}

// ways returns in how many ways n sheets are shared among k shapes, C(n+k−1, k−1).
func ways(n, k int) float64 {
	w := 1.
	for i := 1; i < k; i++ {
		w = w * float64(n+i) / float64(i)
	}
	return w
}

// each calls f with every way to share n sheets, more for the earlier first.
func each(n int, at []int, i int, f func([]int)) {
	if i == len(at)-1 {
		at[i] = n
		f(at)
		return
	}
	for m := n; m >= 0; m-- {
		at[i] = m
		each(n-m, at, i+1, f)
	}
}

// improve shares by what is wanted and then moves single sheets while it helps.
func improve(n int, want []float64, got [][]float64) []int {
	at := make([]int, len(want))
	sum := 0.
	left := n
	for _, w := range want {
		sum += w
	}
	for i, w := range want {
		at[i] = min(left, int(float64(n)*w/max(sum, 1e-9)))
		left -= at[i]
	}
	at[0] += left
	for now := judge(at, got, want); ; {
		from, to := -1, -1
		for i := range at {
			for j := range at {
				if i == j || at[i] == 0 {
					continue
				}
				at[i]--
				at[j]++
				if s := judge(at, got, want); s.less(now) {
					now = s
					from = i
					to = j
				}
				at[i]++
				at[j]--
			}
		}
		if from < 0 {
			return at
		}
		at[from]--
		at[to]++
	}
}
