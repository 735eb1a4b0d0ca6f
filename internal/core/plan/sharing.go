package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"hollen/internal/core/cut"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// EndsAt is where the pieces of one shape end otherwise than the others.
type EndsAt struct {
	Stop    string  `json:"stop"` // "" under a pin
	SheetMM float64 `json:"sheet_mm"`
	MinEach float64 `json:"minutes_a_piece"`
	// on what comes after the common way: easy, firm, bold, tearing; "" where nothing does
	Word     string  `json:"word"`
	Earlier  bool    `json:"earlier"`
	LengthMM float64 `json:"sheet_length_mm"`
	WidthMM  float64 `json:"sheet_width_mm"`
}

// ropeAfter says whether the i-th shape is formed from dough set aside, where others are cut from sheets.
func (p *Plan) ropeAfter(i int) bool {
	return i > 0 && !p.shape.Traits().Rope && p.Request.Cut.Also[i-1].Kind().Traits().Rope
}

// sheeted counts the shapes that share the sheets.
func (p *Plan) sheeted() (n int) {
	for i := range p.Request.Shapes() {
		if !p.ropeAfter(i) {
			n++
		}
	}
	return n
}

// dividedG returns the dough that is divided, g.
func (p *Plan) dividedG() float64 { return p.Formula.Dough.MassG * (1 - p.rules.Dough.BowlLossShare) }

// usualPieces is into how many pieces so much dough is divided, unless said otherwise.
func (p *Plan) usualPieces() float64 {
	return request.Or(p.Request.Roll.Pieces, max(1, math.Round(p.Formula.FlourG/p.pieceFlourG())))
}

// pieceFlourG is about how much flour a piece holds, g: more on a wide machine, which rolls no strip as short as a
// thumb.
func (p *Plan) pieceFlourG() float64 {
	ru, f := &p.rules.Roll, &p.Formula
	if p.Pinned() || p.Roped() {
		return ru.PieceFlourG
	}
	dough, density := usualDough, usualDensity // g to a gram of flour, g/mL
	if f.FlourG > 0 && f.Dough.MassG > 0 {
		dough, density = f.Dough.MassG/f.FlourG, f.Dough.DensityGPerML
	}
	return max(ru.PieceFlourG, density*p.machine.WidthMM*ru.PieceHighMM*ru.PieceLongMM/1000/dough)
}

// aPiece is that as one says it, g: to 5 where the machine asks for more than usual.
func (p *Plan) aPiece() float64 {
	if g := p.pieceFlourG(); g > p.rules.Roll.PieceFlourG {
		return 5 * math.Round(g/5)
	}
	return p.rules.Roll.PieceFlourG
}

// usualDensity is about that of a dough, g/mL.
const usualDensity = 1.21

// askedG returns what is asked of a further shape, g: of what it makes where it is counted in portions, otherwise
// of dough. pieceG is a piece of the divided dough.
func (p *Plan) askedG(x request.ShapePart, pieceG float64) float64 {
	switch x.By {
	case request.ShareByGrams:
		return x.Portions
	case request.ShareByPieces:
		return x.Portions * pieceG
	case request.ShareByHandful:
		return x.Portions * p.rules.Cut.HandfulG
	}
	return x.Portions * x.Kind().PortionG
}

// setAside returns the dough kept from the sheets for what is formed from ropes, g, by shape: whole pieces of
// it; less where the dough does not go round, so that one piece at least is left to roll.
func (p *Plan) setAside() []float64 {
	out := make([]float64, len(p.Request.Cut.Also)+1)
	all, n := p.dividedG(), p.usualPieces()
	sum := 0.
	for i, x := range p.Request.Cut.Also {
		if !p.ropeAfter(i + 1) {
			continue
		}
		one := p.Request.Sized(i + 1).PieceG
		out[i+1] = one * math.Ceil(p.askedG(x, all/n)/one-1e-9)
		sum += out[i+1]
	}
	if most := all * (1 - 1/max(n, 2)); sum > most {
		for i := range out {
			out[i] *= most / sum
		}
	}
	return out
}

// asideG is all dough set aside, g.
func (p *Plan) asideG() (g float64) {
	for _, x := range p.setAside() {
		g += x
	}
	return g
}

// ends works out where the pieces of every shape end, that is said to end otherwise than the others.
func (p *Plan) ends(l *roll.Lay, o *RollPlan) []*EndsAt {
	out := make([]*EndsAt, len(p.Request.Cut.Also)+1)
	for i, x := range p.Request.Cut.Also {
		if x.Stop == "" || x.Kind().Traits().Rope || l.RopeMM > 0 {
			continue
		}
		stop, mm := -1, 0.
		if l.Pin {
			mm, _ = measure.ParseNumber(x.Stop)
		} else if stop = slices.IndexFunc(p.machine.Stops,
			func(s roll.Stop) bool { return s.Label == x.Stop }); stop < 0 {
			continue
		}
		passes, minutes := l.EndAt(&o.Progression, stop, mm)
		e := &EndsAt{MinEach: minutes, SheetMM: passes[len(passes)-1].OutMM, Earlier: len(passes) < len(o.Passes)}
		if !l.Pin {
			e.Stop = x.Stop
		}
		worst := 0.
		for _, y := range passes[min(len(passes), len(o.Passes)):] {
			if y.Easy > 0 && y.Reduction/y.Easy > worst {
				worst, e.Word = y.Reduction/y.Easy, l.Word(y)
			}
		}
		out[i+1] = e
	}
	return out
}

// endOf is where the pieces of the i-th shape end otherwise than the others; nil where they do not.
func (p *Plan) endOf(i int) *EndsAt {
	if i < len(p.ended) {
		return p.ended[i]
	}
	return nil
}

// sheetsFor returns the sheets as the i-th shape has them: of its own thickness, and as long as that makes them,
// halved to the bench.
func (p *Plan) sheetsFor(i int, s cut.Sheets) cut.Sheets {
	e := p.endOf(i)
	if e == nil {
		return s
	}
	density := p.Formula.Dough.DensityGPerML
	if p.Pinned() {
		across := min(p.machine.WidthMM, p.machine.BoardLengthMM, p.machine.BoardWidthMM)
		x := roll.SheetOf(p.Request.Roll.Outline, s.MassG, density, e.SheetMM, across)
		s.LengthMM, s.WidthMM = x.LengthMM, x.WidthMM
		return s
	}
	s.LengthMM = roll.LengthMM(s.MassG, density, s.WidthMM, e.SheetMM)
	for bench := p.Request.Roll.BenchMM; bench > 0 && s.LengthMM > bench; {
		s.Count = 2 * s.Count
		s.LengthMM = s.LengthMM / 2
		s.MassG = s.MassG / 2
	}
	return s
}

// Got is what a part gives of what is asked of it, g: of what it makes, or of dough where it was asked so.
func (x *CutPart) Got() float64 {
	if x.asDough {
		return x.DoughG + x.TrimG
	}
	return x.MadeG
}

// AskedWords say what is asked of a part: "4 portions", "300 g of dough", "a handful", "the rest".
func (p *Plan) AskedWords(i int) string {
	x := p.Cut.Parts()[i]
	if i == 0 {
		if x.WantsG == 0 {
			return "the rest"
		}
		return fmt.Sprintf("%.0f", x.WantsG/x.PortionG) + " portions"
	}
	asked := p.Request.Cut.Also[i-1]
	n := measure.Trim(asked.Portions)
	switch asked.By {
	case request.ShareByGrams:
		return p.in.Grams(asked.Portions) + " of dough"
	case request.ShareByPieces:
		return n + map[bool]string{true: " piece", false: " pieces"}[asked.Portions == 1]
	case request.ShareByHandful:
		if asked.Portions == 1 {
			return "a handful"
		}
		return n + " handfuls"
	}
	return n + map[bool]string{true: " portion", false: " portions"}[asked.Portions == 1]
}

// endWords say which pieces end elsewhere, and what is set aside; "" where all go one way.
func (p *Plan) endWords() string {
	var out, aside []string
	for i, x := range p.Cut.Parts() {
		name := strings.ToLower(x.Shape.Name)
		if p.ropeAfter(i) {
			aside = append(aside, fmt.Sprintf("set %s aside, covered, for %s", p.in.Grams(x.DoughG+x.TrimG), name))
		}
		switch e := p.endOf(i); {
		case e != nil && e.Stop != "":
			out = append(out, fmt.Sprintf("for %s stop at %s, %s", name, e.Stop, p.in.MM(e.SheetMM, 2)))
		case e != nil:
			out = append(out, fmt.Sprintf("for %s at %s", name, p.in.MM(e.SheetMM, 2)))
		}
	}
	if words := strings.Join(append(aside, out...), "; "); words != "" {
		return measure.Capital(words) + "."
	}
	return ""
}
