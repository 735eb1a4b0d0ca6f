package plan

import (
	"slices"
	"strconv"

	"hollen/internal/core/cook"
	"hollen/internal/core/dough"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// ownDown is the maker's own way down on this machine; nil where it is worked out, and of ropes.
func (p *Plan) ownDown() (out []roll.OwnStep) {
	r := &p.Request.Roll
	if !r.IsOwn() || p.shape.Traits().Rope {
		return nil
	}
	for _, s := range r.Steps {
		o := roll.OwnStep{Passes: int(s.Passes), Layers: s.Fold.Layers(), First: s.First, RestMin: s.RestMin,
			Dust: s.Dust}
		if p.machine.Tool == dough.Pin {
			o.MM, _ = measure.ParseNumber(s.Stop)
		} else {
			o.Stop = slices.IndexFunc(p.machine.Stops, func(x roll.Stop) bool { return x.Label == s.Stop })
			if mm, pin := request.PinMM(s.Stop); o.Stop < 0 && pin {
				o.Stop, o.MM = roll.ByPin, mm
			}
		}
		out = append(out, o)
	}
	return out
}

// OwnPasses is the way down of the plan as a maker would say it, to change a line of; what a list holds
// at most.
func (p *Plan) OwnPasses() (out []request.RollStep) {
	if p.Request.Roll.IsOwn() {
		return slices.Clone(p.Request.Roll.Steps)
	}
	folds := map[int]request.OwnFold{2: request.FoldHalf, 3: request.FoldThree, 4: request.FoldBook}
	sheets := 1
	for _, x := range p.Roll.Passes {
		s := request.RollStep{Stop: x.Label, Passes: 1, Fold: folds[x.Fold]}
		if p.lay.Pin {
			s.Stop = strconv.FormatFloat(x.OutMM, 'f', -1, 64)
		}
		switch x.Sheets / sheets {
		case 1:
		case 2:
			s.First = roll.Halve
		default:
			s.First = roll.Quarter
		}
		sheets = x.Sheets
		if n := len(out); n > 0 && s.First == "" && out[n-1].Stop == s.Stop && out[n-1].Fold == s.Fold {
			out[n-1].Passes++
			continue
		}
		out = append(out, s)
	}
	if p.Roped() || len(out) > request.MaxPasses {
		return nil
	}
	return out
}

// Hollens is the way down as it would be worked out for the same pieces, beside the maker's own; nil
// where that is the way.
func (p *Plan) Hollens() *roll.Progression {
	if !p.Roll.Own {
		return nil
	}
	l := p.lay
	l.Own = nil
	w := l.Plan()
	return &w
}

// PassAt is the pass at the stop of that label that ends a piece there, under a pin at that many mm; false where there
// is no
// such stop.
func (p *Plan) PassAt(label string) (roll.Pass, bool) {
	stop, mm := -1, 0.
	if p.lay.Pin {
		mm, _ = measure.ParseNumber(label)
	} else {
		stop = slices.IndexFunc(p.machine.Stops, func(s roll.Stop) bool { return s.Label == label })
	}
	if p.Roped() || p.lay.Pin && mm < .3 || !p.lay.Pin && stop < 0 {
		return roll.Pass{}, false
	}
	passes, _ := p.lay.EndAt(&p.Roll.Progression, stop, mm)
	if len(passes) == 0 {
		return roll.Pass{}, false
	}
	return passes[len(passes)-1], true
}

// DryAs is when a drying is right where the sheet is so many times as thick as planned, min from and to; the maker's
// own minutes stay as they are. -1 where it will not dry.
func (p *Plan) DryAs(d *Drying, times float64) (from, to float64) {
	if d.Own {
		return d.Min, d.ToMin
	}
	thick := p.Cut.Parts()[d.Parts[0]].thickMM * times
	if w := p.rateOf(thick, d.Air, p.faces(d.On)).From(p.rules.Dry, d.gone, d.Right.Loss); w.Will {
		return w.FromMin, w.ToMin
	}
	return -1, -1
}

// PotAs is when the i-th shape is tasted where its sheet is so many times as thick as planned and has lost that share
// of its mass, s from and
// to.
func (p *Plan) PotAs(part int, times, loss float64) (from, to float64) {
	if from, to, said := p.ownPotS(p.PotPart(part)); said {
		return from, to
	}
	x := *p.PotPart(part)
	x.thickMM *= times
	t := p.timeOf(&x, loss)
	mid := t.DriedS
	if p.Cook.Frozen {
		mid = t.FrozenS
	}
	if times == 1 { // the sheet is as planned, and as little known
		return p.potRange(&x, mid)
	}
	return cook.Range(p.cookRules(&x), mid, p.rawIn(&x))
}
