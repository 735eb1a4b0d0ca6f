package plan

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

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

// StopWords are the stops of a way down, one after the other: "0 2 5 7".
func StopWords(passes []roll.Pass) string {
	var out []string
	for i, x := range passes {
		if i == 0 || x.Label != passes[i-1].Label {
			out = append(out, x.Label)
		}
	}
	if len(out) > 7 {
		return out[0] + " to " + out[len(out)-1]
	}
	return strings.Join(out, " ")
}

// ownDownWords is the maker's own way down set beside Hollen's.
func (p *Plan) ownDownWords() string {
	o, h := &p.Roll, p.Hollens()
	stops := func(x []roll.Pass) string {
		if p.lay.Pin {
			return measure.Plural(len(x), "stage", "stages")
		}
		return StopWords(x) + " in " + measure.Plural(len(x), "pass", "passes")
	}
	takes := func(w *roll.Progression) string { return strings.TrimSuffix(measure.MinSec(60*w.TimeMin), " 00") }
	return fmt.Sprintf("Your own way, as you say it: %s, %s a piece. Worked out it would be %s: %s, %s at %s.",
		stops(o.Passes), takes(&o.Progression),
		stops(h.Passes), takes(h), p.in.Long(h.LengthMM), p.in.MM(h.SheetMM, 2))
}

// FirstWords is what is done to the sheet before a pass, "" nothing.
func FirstWords(x roll.Pass) string {
	switch x.First {
	case roll.Halve:
		return "halve first"
	case roll.Quarter:
		return "cut in four first"
	case roll.TrimFirst:
		return "trim it square first"
	case roll.TurnIt:
		return "a quarter turn first"
	case roll.Belt:
		return "join it to a belt first"
	case roll.LayOn:
		return "lay the strips on first"
	case roll.Wait:
		return "let it rest first"
	}
	if x.Halved {
		return "halve first"
	}
	return ""
}

// Word is one word on a pass: easy, firm, bold or tearing; "" where that is not asked.
func (p *Plan) Word(x roll.Pass) string {
	if p.lay.Pin {
		return ""
	}
	return p.lay.Word(x)
}

// adviseOwnDown comments on the maker's own way down; none of it changes it.
func (p *Plan) adviseOwnDown() {
	o, r := &p.Roll, &p.Request.Roll
	if r.By == request.WayOwn && len(r.Steps) == 0 && !p.Roped() {
		p.note(request.AtRoll, "roll.sheet", Remark, "no_passes", "No pass of your own yet.",
			"Until there is one, the way down is worked out.")
	}
	if !o.Own {
		return
	}
	var bold, tearing []string
	untouched := ""
	for i, x := range o.Passes {
		to := x.Label
		if i > 0 && o.Passes[i-1].Label != x.Label {
			to = o.Passes[i-1].Label + " to " + x.Label
		}
		switch p.Word(x) {
		case roll.Bold:
			bold = append(bold, to+" "+offWords(x))
		case roll.Tearing:
			tearing = append(tearing, to+" "+offWords(x))
		}
		if !p.lay.Pin && x.Stop >= 0 && x.Fold == 0 && x.Nth == 1 && x.OutMM >= x.InMM-1e-9 && untouched == "" {
			untouched = x.Label
		}
	}
	if len(tearing) > 0 {
		p.note(request.AtRoll, "roll.sheet", Warning, "own_tears", "It may tear.",
			"%s: one more pass before it, or a stop between, spares the sheet.",
			measure.Capital(measure.List(tearing)))
	} else if len(bold) > 0 {
		p.note(request.AtRoll, "roll.sheet", Remark, "own_bold", "Bold, and done.",
			"%s: keep the sheet dusted and feed it straight.",
			measure.Capital(measure.List(bold)))
	}
	if untouched != "" {
		p.note(request.AtRoll, "roll.sheet", Remark, "untouched", "Nothing to press.",
			"At stop %s the sheet is thinner than the gap: it goes through as it is.", untouched)
	}
	if i := slices.IndexFunc(o.Passes, func(x roll.Pass) bool { return x.Stop >= 0 }); i > 0 && !p.lay.Pin {
		if x, most := o.Passes[i], p.rules.Roll.PressedGaps; x.InMM > most*x.GapMM+1e-9 && x.Fold == 0 {
			p.note(request.AtRoll, "roll.sheet", Remark, "pinned_thick", "Thick for the first stop.",
				"Pinned to %s it is more than %.0f times the gap of stop %s: "+
					"pin it to %s, or begin wider.", p.in.MM(x.InMM, measure.Shortest), most, x.Label,
				p.in.MM(most*x.GapMM,
					0))
		}
	}
	p.adviseOwnLong()
	if o.TargetMM > 0 && math.Abs(o.SheetMM-o.TargetMM) > ownMiss*o.TargetMM {
		than, bite := "thicker", "more bite"
		if o.SheetMM < o.TargetMM {
			than, bite = "thinner", "less bite"
		}
		p.note(request.AtRoll, "roll.sheet", Remark, "own_sheet", fmt.Sprintf("%s than usual.", measure.Capital(than)),
			"%s where %s is usual for %s: %s.",
			p.in.MM(o.SheetMM, 2), p.in.MM(o.TargetMM, 2), strings.ToLower(p.shape.Name), bite)
	}
}

// offWords says how much a pass takes off, and how much is easy.
func offWords(x roll.Pass) string {
	off, easy := fmt.Sprintf("%.0f", 100*x.Reduction), fmt.Sprintf("%.0f", 100*x.Easy)
	if off == easy {
		return "(" + off + " % off, just over what is easy)"
	}
	return "(" + off + " % off, " + easy + " % is easy)"
}

// ownMiss is by how much the sheet of an own way may miss the usual before it is said, share. Source: house.
const ownMiss = .12

// adviseOwnLong says where a sheet of the maker's own way outgrows the bench.
func (p *Plan) adviseOwnLong() {
	bench := p.Request.Roll.BenchMM
	if p.lay.Pin || bench == 0 {
		return
	}
	for _, x := range p.Roll.Passes {
		if x.First == roll.Belt {
			return // a belt runs round
		}
		if x.LengthMM > bench {
			p.note(request.AtRoll, "roll.sheet", Remark, "own_long", "Longer than the bench.",
				"At stop %s it is %s long on a bench of %s: halve it before, or catch it folded.",
				x.Label, p.in.Long(x.LengthMM), p.in.Long(bench))
			return
		}
	}
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

// LeatherAs is when a sheet of that thickness is at leather, min from and to; -1 where it will not dry.
func (p *Plan) LeatherAs(sheetMM float64) (from, to float64) {
	q := *p
	q.Roll.SheetMM = sheetMM
	faces := p.rules.Dry.RackFaces
	if p.Request.Dry.On == request.OnBoard || p.Roped() {
		faces = p.rules.Dry.BoardFaces
	}
	if w := q.rate(p.Request.Room.Air, faces).At(p.rules.Dry, p.rules.Dry.CutLoss); w.Will {
		return w.FromMin, w.ToMin
	}
	return -1, -1
}

// PotAs is when the i-th shape is tasted where its sheet is so many times as thick as planned and has lost that share
// of its mass, s from and
// to.
func (p *Plan) PotAs(part int, times, loss float64) (from, to float64) {
	x := *p.Cut.Parts()[part]
	x.thickMM *= times
	t := p.timeOf(&x, loss)
	if p.Cook.Frozen {
		return cook.Range(p.cookRules(&x), t.FrozenS, p.rawIn(&x))
	}
	return t.FromS, t.ToS
}

// LossIn is the share of its mass a sheet loses in so many minutes on the rack, as this batch lies.
func (p *Plan) LossIn(minutes float64) float64 { return p.Dry.Rate.LossAt(p.rules.Dry, minutes) }
