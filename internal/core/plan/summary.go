package plan

import (
	"fmt"
	"strings"

	"hollen/internal/core/cut"
	"hollen/internal/core/dough"
	"hollen/internal/core/measure"
)

// Sums is the version of the sums: it goes up whenever a plan of the same request may come out
// otherwise, so that what was kept of older plans is made anew.
const Sums = 3

// Summary is what a list shows of a plan, so that a list need not make it. Masses g, lengths mm,
// times min.
type Summary struct {
	Sums      int          `json:"sums"`
	Name      string       `json:"name"`
	Shape     string       `json:"shape"`
	WidthMM   float64      `json:"width_mm"`
	Flours    string       `json:"flours"`
	FlourG    float64      `json:"flour_g"`
	Whole     int          `json:"eggs"`
	Yolks     int          `json:"yolks"`
	WeighedG  float64      `json:"egg_g"`  // where the egg was weighed, 0 otherwise
	YolkG     float64      `json:"yolk_g"` // of it yolk, weighed apart
	Beaten    bool         `json:"beaten"` // eggs and yolks are cracked for it, each rounded up
	AlsoWords string       `json:"other_eggs"`
	OtherEgg  bool         `json:"egg_in_what_is_added,omitempty"` // no eggs, but egg white or what else is egg
	TopG      float64      `json:"top_up_g"`
	TopWord   string       `json:"top_up"`
	KneadMin  float64      `json:"knead_min"`
	RestMin   float64      `json:"rest_min"`
	Portions  float64      `json:"portions"`
	DoughG    float64      `json:"dough_g"`
	Colour    dough.Colour `json:"colour"`
	Strip     Strip        `json:"strip"`
}

// Strip is what the picture of a batch from the side is drawn from.
type Strip struct {
	StopsMM  []float64  `json:"stops_mm"` // the sheet each stop used leaves
	FirstMM  float64    `json:"first_mm"`
	Family   cut.Family `json:"family"`
	Across   int        `json:"across"`
	PerSheet int        `json:"per_sheet"`
	Egg      bool       `json:"egg"`
}

// Summary returns what a list shows of p.
func (p *Plan) Summary() Summary {
	f := &p.Formula
	s := Summary{Sums: Sums, Name: p.Request.Name, Shape: p.Cut.Shape.Name, WidthMM: p.Cut.WidthMM,
		Flours: p.flourWords(), FlourG: f.FlourG,
		Whole: f.Pick.Whole, Yolks: f.Pick.Yolks, AlsoWords: p.AlsoWords(), OtherEgg: f.WholeG+f.YolkG == 0 &&
			p.HasEgg(), TopG: f.TopG, TopWord: p.TopWord(), KneadMin: p.Knead.Min, RestMin: p.Rest.Min,
		Portions: f.Portions, DoughG: f.Dough.MassG, Colour: f.Colour}
	if f.Weighed() {
		s.WeighedG = f.Pick.EggG - f.AlsoG
		s.YolkG = f.Pick.YolkG
		s.Beaten = f.Pick.Beaten
	}
	s.Strip = Strip{FirstMM: p.Roll.Passes[0].OutMM, Family: p.Cut.Shape.Family, Across: p.Cut.Across,
		PerSheet: p.Cut.PerSheet,
		Egg:      f.Pick.Whole+f.Pick.Yolks > 0}
	for i, x := range p.Roll.Passes {
		if i == 0 || x.Stop != p.Roll.Passes[i-1].Stop {
			s.Strip.StopsMM = append(s.Strip.StopsMM, 0)
		}
		s.Strip.StopsMM[len(s.Strip.StopsMM)-1] = x.OutMM
	}
	return s
}

// EggWords returns the eggs in whole numbers, or in grams when they were weighed.
func (s *Summary) EggWords(in measure.System) string {
	eggs := EggWords(s.Whole, s.Yolks)
	if s.OtherEgg {
		eggs = "no whole egg"
	}
	switch {
	case s.Beaten && s.WeighedG > 0:
		var out []string
		if g := s.WeighedG - s.YolkG; g > .05 {
			out = append(out, in.Grams(g)+" of beaten egg")
		}
		if s.YolkG > 0 {
			out = append(out, in.Grams(s.YolkG)+" of yolk")
		}
		if s.AlsoWords != "" {
			out = append(out, s.AlsoWords)
		}
		return measure.List(out)
	case s.WeighedG > 0:
		return in.Grams(s.WeighedG) + " of egg, about " + eggs
	case s.AlsoWords == "":
		return eggs
	case s.Whole+s.Yolks == 0:
		return s.AlsoWords
	}
	return eggs + " with " + s.AlsoWords
}

// flourWords names the blend.
func (p *Plan) flourWords() string {
	all := p.Formula.Flours
	if len(all) == 1 {
		return all[0].Name
	}
	out := make([]string, len(all))
	for i, f := range all {
		out[i] = fmt.Sprintf("%.0f %% %s", 100*p.Request.Flours[i].Share, strings.ToLower(f.Name))
	}
	return strings.Join(out, " and ")
}
