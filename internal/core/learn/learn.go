// Package learn answers: what do the batches that were made say about the next one? Two routines do all of it. Shared
// causes: a number that several causes push together (kitchen, flour, lot, maker, season), each level taking the mean
// of
// what the others leave. Factor: one multiplier, seen exactly or only as "not yet", "already", "between". Both give the
// same answer in any order of batches, and nothing of nothing.
package learn

import (
	"math"

	"hollen/internal/core/rules"
)

// ninety is the half-width, in standard deviations, that nine in ten fall inside.
const ninety = 1.645

// Seen is what one batch says of a number: how far the observation lies from the plan, and the variance of the
// noise in that.
type Seen struct {
	R, V   float64
	Labels []string // a level each; "" is a label of its own
	Day    float64  // days from any beginning
	Small  bool     `json:",omitempty"` // a sitting of small doughs, which share what tells them from big ones
}

// Next is the batch that is to be planned.
type Next struct {
	Labels []string
	Day    float64
}

// Estimate is what the batches say about the next one.
type Estimate struct {
	M      float64   // to add to what the book says
	SD     float64   // its standard deviation
	Within float64   // nine in ten lie so near
	Scale  float64   // how much wider than the book the batches scatter
	Parts  []float64 // of M, by level
	Drift  float64   // of M, by season
	W      []float64 // weight of each batch, 0.001–1; under Doubtful it does not fit the others
	Alpha  []float64 // what each batch pulls with
	N      int
}

// Doubtful is the weight under which a batch does not fit the others and hardly counts.
const Doubtful = .5

// times is how often the weights are gone over.
const times = 3

// Fitted is what batches that share causes say, before it is asked of which next one. It is worked out when the log
// changes; For is cheap.
type Fitted struct {
	causes rules.Causes
	seen   []Seen
	own    float64
	solved solved
}

// Fit weighs batches against each other. Source: a mixed model in closed form with weights against slips;
// C_ij = Σ σ²·[same label] + σ²_drift·e^(−|Δday|/τ).
func Fit(c rules.Causes, seen []Seen) *Fitted {
	f := unfitted(c, seen)
	r, v := make([]float64, len(seen)), make([]float64, len(seen))
	for i := range seen {
		r[i], v[i] = seen[i].R, seen[i].V
	}
	f.solved = solve(r, v, c.Slip, func(i, j int) float64 {
		if i == j && !seen[i].Small {
			return f.own
		}
		if i == j {
			return f.own + c.Bridge
		}
		return f.shares(&seen[i], &seen[j])
	})
	return f
}

// unfitted is a Fitted before its batches are weighed.
func unfitted(c rules.Causes, seen []Seen) *Fitted {
	f := &Fitted{causes: c, seen: seen, own: c.Drift}
	for _, v := range c.Levels {
		f.own += v
	}
	return f
}

// shares is what two batches share.
func (f *Fitted) shares(a, b *Seen) float64 {
	sum := drift(f.causes, a.Day-b.Day)
	if a.Small && b.Small {
		sum += f.causes.Bridge
	}
	for l, v := range f.causes.Levels {
		if same(a.Labels, b.Labels, l) {
			sum += v
		}
	}
	return sum
}

// W is the weight of each batch, 0.001–1.
func (f *Fitted) W() []float64 { return f.solved.w }

// For returns what the batches say about the next one.
func (f *Fitted) For(next Next) Estimate {
	n := Seen{Labels: next.Labels, Day: next.Day}
	e := f.solved.estimate(f.own, func(i int) float64 { return f.shares(&f.seen[i], &n) })
	e.Parts = make([]float64, len(f.causes.Levels))
	for i := range f.seen {
		for l, v := range f.causes.Levels {
			if same(f.seen[i].Labels, n.Labels, l) {
				e.Parts[l] += v * e.Alpha[i]
			}
		}
		e.Drift += drift(f.causes, f.seen[i].Day-n.Day) * e.Alpha[i]
	}
	return e
}

func same(a, b []string, level int) bool {
	return level < len(a) && level < len(b) && a[level] != "" && a[level] == b[level]
}

func drift(c rules.Causes, days float64) float64 {
	if c.Drift == 0 {
		return 0
	}
	return c.Drift * math.Exp(-math.Abs(days)/c.DriftDays)
}

// slips is the share of batches that are slips: a line read wrong, another word said.
const slips = .05

// solved is a log weighed against itself: H = (C + V/W)⁻¹ and α = H·r.
type solved struct {
	h           [][]float64
	alpha, w, v []float64
	scale       float64
}

// solve weighs residuals r with noise v, slips of extra variance b, and what any two batches share.
func solve(r, v []float64, b float64, cov func(i, j int) float64) solved {
	n := len(r)
	o := solved{alpha: make([]float64, n), w: make([]float64, n), v: v, scale: 1}
	if n == 0 {
		return o
	}
	c := make([][]float64, n)
	for i := range c {
		c[i] = make([]float64, n)
		for j := range i + 1 {
			c[i][j] = cov(i, j)
			c[j][i] = c[i][j]
		}
		o.w[i] = 1
	}
	for turn := range times {
		g := make([][]float64, n)
		for i := range g {
			g[i] = append([]float64{}, c[i]...)
			g[i][i] += v[i] / o.w[i]
		}
		o.h = inverse(g)
		for i := range n {
			o.alpha[i] = dot(o.h[i], r)
		}
		if turn == times-1 {
			break
		}
		next := make([]float64, n)
		for i := range n { // how well do the others foresee it?
			e, s2 := o.foreseen(i)
			odds := slips / (1 - slips) * math.Sqrt(s2/(s2+b)) * math.Exp(math.Min(e*e/2*(1/s2-1/(s2+b)), 600))
			next[i] = math.Max(.001, 1/(1+odds))
		}
		copy(o.w, next)
	}
	sum, weights := 10., 10.
	for i := range n {
		e, s2 := o.foreseen(i)
		sum, weights = sum+o.w[i]*e*e/s2, weights+o.w[i]
	}
	o.scale = math.Sqrt(sum / weights)
	return o
}

// estimate is what the batches say of a next one that shares so much with itself, and with each of them.
func (s *solved) estimate(own float64, withNext func(i int) float64) Estimate {
	n := len(s.alpha)
	o := Estimate{N: n, Scale: s.scale, SD: math.Sqrt(own), Within: ninety * math.Sqrt(own), W: s.w, Alpha: s.alpha}
	if n == 0 {
		return o
	}
	cn, left := make([]float64, n), own
	for i := range n {
		cn[i] = withNext(i)
		o.M += cn[i] * s.alpha[i]
	}
	for i := range n {
		left -= cn[i] * dot(s.h[i], cn)
	}
	o.SD = o.Scale * math.Sqrt(math.Max(0, left))
	o.Within = ninety * o.SD * (1 + .2/float64(n))
	return o
}

// foreseen is by how much a batch misses what the others foresee, and the variance of that.
func (s *solved) foreseen(i int) (e, s2 float64) {
	return s.alpha[i] / s.h[i][i], math.Max(1/s.h[i][i]-s.v[i]/s.w[i]+s.v[i], 1e-12)
}

func dot(a, b []float64) (sum float64) {
	for i := range a {
		sum += a[i] * b[i]
	}
	return sum
}

// inverse returns the inverse of a symmetric positive definite matrix by its Cholesky factor; a is used up.
func inverse(a [][]float64) [][]float64 {
	n := len(a)
	for j := range n { // a = L·Lᵀ, L below
		for k := range j {
			a[j][j] -= a[j][k] * a[j][k]
		}
		a[j][j] = math.Sqrt(math.Max(a[j][j], 1e-12))
		for i := j + 1; i < n; i++ {
			a[i][j] = (a[i][j] - dot(a[i][:j], a[j][:j])) / a[j][j]
		}
	}
	l := make([][]float64, n) // L⁻¹, by columns: l[j][i] is its i-th row
	for j := range n {
		l[j] = make([]float64, n)
		l[j][j] = 1 / a[j][j]
		for i := j + 1; i < n; i++ {
			l[j][i] = -dot(a[i][j:i], l[j][j:i]) / a[i][i]
		}
	}
	out := make([][]float64, n)
	for i := range n {
		out[i] = make([]float64, n)
	}
	for i := range n {
		for j := range i + 1 {
			out[i][j] = dot(l[i][i:], l[j][i:])
			out[j][i] = out[i][j]
		}
	}
	return out
}
