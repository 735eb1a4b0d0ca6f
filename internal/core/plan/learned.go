package plan

import (
	"math"
	"slices"

	"hollen/internal/core/knead"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
)

// Relaxes is how far the model has the dough relax over its rest, ln(T0/Tend), the tension it begins with, and the
// minutes of that
// rest; nought where there is none. What a timed poke says of it is read by these.
func (p *Plan) Relaxes() (x, t0, restMin float64) {
	work := 0.
	for _, s := range p.way.Steps {
		if s.Rests() {
			restMin += s.Min
			continue
		}
		work, restMin = s.Min, 0
	}
	if restMin <= 0 || work <= 0 || p.way.T <= 0 {
		return 0, 0, 0
	}
	t0 = 1 - math.Exp(-work/p.rules.Knead.TensionMin)
	return math.Max(0, math.Log(t0/p.way.T)), t0, restMin
}

// KneadsMin is how long the dough is kneaded as planned, its turns together and the rests between not counted, min.
func (p *Plan) KneadsMin() (minutes float64) {
	for _, s := range p.way.Steps {
		if !s.Rests() {
			minutes += s.Min
		}
	}
	return minutes
}

// RestFloored says whether the dough rests longer than it needs to relax: the least minutes of a rest, its water, or
// its maker has it so.
func (p *Plan) RestFloored() bool {
	const step = 5. // min by which rests are planned
	x, _, rest := p.Relaxes()
	return rest > 0 && p.way.T*math.Exp(step*x/rest) <= p.rules.Knead.ReadyT
}

// Book is the plan of the same request by the same rules, without the factors learned of minutes and seconds: what was
// seen is compared with its
// figures. The water, the gaps and the shares learned stay in it, for the dough was made with them.
func (p *Plan) Book() (*Plan, error) {
	ru := p.made
	ru.Learned.Knead = rules.LearnedBy{}
	ru.Learned.Rest = rules.LearnedBy{}
	ru.Learned.Dry = rules.LearnedBy{}
	ru.Learned.Cook, ru.Learned.Hands = rules.LearnedBy{}, rules.LearnedBy{}
	return MakeIn(p.in, ru, p.Request)
}

// Kneading is how far a dough is kneaded, in work and rest credit, min of hand kneading, when its last kneading ends.
type Kneading struct {
	// so much has it developed after its rest and folds: unrounded, and whatever the school's least minutes are
	NeedMin float64
	DoneMin float64 // as planned
	Floored bool    // the plan stands on more than it needs: the school's least minutes, or what its maker asked for
}

// Kneading returns how far the dough is kneaded; false where its development does not count, or the rest alone does it.
func (p *Plan) Kneading() (k Kneading, counts bool) {
	last := p.lastKneading()
	if last < 0 || p.model.Gluten < p.rules.Flour.GlutenNoSheet || p.way.DFolded >= 1 {
		return k, false
	}
	k.DoneMin = p.model.Worked(p.ask, p.way.Steps[:last+1])
	over := p.model.W63Min * math.Log((1-p.rules.Knead.ReadyD)/(1-p.way.DFolded)) // over what is developed
	k.NeedMin = k.DoneMin - over
	k.Floored = over >= p.model.WorkPerMin(p.way.Steps[last].By)
	return k, k.NeedMin > 0
}

// lastKneading is the place of the last kneading in the way, −1 without any.
func (p *Plan) lastKneading() int {
	last := -1
	for i, s := range p.way.Steps {
		if !s.Rests() {
			last = i
		}
	}
	return last
}

// Kneaded is how far the dough is kneaded when the steps of its way have taken so long, min; those there are no
// minutes of are yet to come.
func (p *Plan) Kneaded(minutes []float64) float64 {
	var steps []knead.Step
	for i, m := range minutes[:min(len(minutes), len(p.way.Steps))] {
		steps = append(steps, p.way.Steps[i].Of(m))
	}
	return p.model.Worked(p.ask, steps)
}

// FlourLabel is what batches of the same flour share: its key, and that of a second one that is a quarter or more.
func FlourLabel(flours []request.FlourPart) string {
	first, second := -1, -1
	for i, f := range flours {
		switch {
		case first < 0 || f.Share > flours[first].Share:
			first, second = i, first
		case second < 0 || f.Share > flours[second].Share:
			second = i
		}
	}
	if first < 0 {
		return ""
	}
	label := flours[first].Flour
	if second >= 0 && flours[second].Share >= .25 {
		label += " + " + flours[second].Flour
	}
	return label
}

// LotLabel is the lot of its first flour, "" where none is named.
func LotLabel(flours []request.FlourPart) string {
	if len(flours) == 0 || flours[0].LotKept == nil {
		return ""
	}
	return flours[0].LotKept.Name
}

// asTrimmed has a shape give what its sheets give here, by the trimmings that were weighed over those of
// the layouts; what they take off a layout has a most.
func (p *Plan) asTrimmed(o *CutPart) {
	more := min((p.rules.Learned.Trim.K()-1)*o.TrimG, p.rules.Learn.MostTrimOff*o.DoughG)
	if more == 0 || o.Count == 0 || o.DoughG == 0 {
		return
	}
	more = max(more, -o.TrimG)
	o.DoughG = o.DoughG - more
	o.MadeG = o.MadeG - more
	o.TrimG = o.TrimG + more
}

// asLearned is a machine with what the log has learned of its gaps since it was last calibrated.
func (p *Plan) asLearned(m roll.Machine) roll.Machine {
	l := &p.rules.Learned
	if len(l.Gaps) == 0 {
		return m
	}
	m.Stops = slices.Clone(m.Stops)
	for i := range m.Stops {
		s := &m.Stops[i]
		if k := l.Gap(s.Label); k != 1 {
			s.K = s.TrueMM() / s.GapMM * k
		}
	}
	for i := 1; i < len(m.Stops); i++ { // a finer stop never gives the thicker sheet
		if m.Stops[i].TrueMM() >= m.Stops[i-1].TrueMM() {
			return p.Request.Roll.Kind()
		}
	}
	return m
}
