package request

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"hollen/internal/core/measure"
)

// Measures are amounts as they were measured out, in cups, spoons, pinches: each by the path of its field, with what
// it may weigh. It is one line, so that it can be carried and compared as any field: "flours.0.share = 2 cups | 250 |
// 280 | 300; …".
type Measures string

// Said is one amount as it was measured out. Masses in g.
type Said struct {
	Path string // of the field
	Text string // "2 cups"
	LowG float64
	G    float64 // it is counted as
	High float64
}

// MostMeasures bounds the line, letters; MeasuresPath is the path of its field.
const (
	MostMeasures = 1200
	MeasuresPath = "measures"
)

// All returns the amounts, in order; an error where the line cannot be read.
func (m Measures) All() (out []Said, err error) {
	for _, entry := range strings.Split(string(m), ";") {
		if strings.TrimSpace(entry) == "" {
			continue
		}
		path, rest, ok := strings.Cut(entry, "=")
		parts := strings.Split(rest, "|")
		if !ok || len(parts) != 4 {
			return nil, fmt.Errorf("%q: a path = as it was said | g at least | g | g at most is read", entry)
		}
		s := Said{Path: strings.TrimSpace(path), Text: strings.TrimSpace(parts[0])}
		for i, at := range []*float64{&s.LowG, &s.G, &s.High} {
			if *at, err = strconv.ParseFloat(strings.TrimSpace(parts[i+1]), 64); err != nil {
				return nil, fmt.Errorf("%q: %w", entry, err)
			}
		}
		if !s.sound() {
			return nil, fmt.Errorf("%q: its grams rise from the least to the most, up to 50,000", entry)
		}
		out = append(out, s)
	}
	return out, nil
}

// sound says whether an amount may be kept: it says something, and its grams rise.
func (s *Said) sound() bool {
	return s.Text != "" && s.LowG > 0 && s.LowG <= s.G && s.G <= s.High && s.High <= 50000
}

// measures is the line of them.
func measures(all []Said) Measures {
	var out []string
	figure := func(v float64) string { return strconv.FormatFloat(math.Round(100*v)/100, 'f', -1, 64) }
	for _, s := range all {
		text := strings.Map(func(c rune) rune {
			if strings.ContainsRune("=|;", c) || c < ' ' {
				return ' '
			}
			return c
		}, s.Text)
		out = append(out, fmt.Sprintf("%s = %s | %s | %s | %s", s.Path, strings.TrimSpace(text), figure(s.LowG),
			figure(s.G),
			figure(s.High)))
	}
	return Measures(strings.Join(out, "; "))
}

// Measure keeps an amount as it was measured out, in place of what was said of its field before.
func (r *Request) Measure(s Said) {
	if !s.sound() {
		return
	}
	all, _ := r.Measures.All()
	var kept []Said
	for _, x := range all {
		if x.Path != s.Path && r.counts(x) {
			kept = append(kept, x)
		}
	}
	if line := measures(append(kept, s)); len(line) <= MostMeasures {
		r.Measures = line
	}
}

// Measured are the amounts that stand as they were measured out: those whose field still holds what they were counted
// as. What has been weighed, stepped or scaled since is a figure again.
func (r *Request) Measured() (out []Said) {
	all, _ := r.Measures.All()
	for _, s := range all {
		if r.counts(s) {
			out = append(out, s)
		}
	}
	return out
}

// MeasuredAt is the amount of a field as it was measured out; false where it is a figure.
func (r *Request) MeasuredAt(path string) (Said, bool) {
	for _, s := range r.Measured() {
		if s.Path == path {
			return s, true
		}
	}
	return Said{}, false
}

// sameG is how near an amount must be to what it was counted as, share and g.
const sameShare, sameG = .004, .06

func (r *Request) counts(s Said) bool {
	g, ok := r.massAt(s.Path)
	return ok && math.Abs(g-s.G) <= max(sameG, sameShare*s.G)
}

// massAt is what a field that can be measured out holds, g: false for any other, and where flour is not named.
func (r *Request) massAt(path string) (g float64, ok bool) {
	flourG, named := r.Amount.NamedFlourG()
	if !named {
		return 0, false
	}
	group := ""
	slot := 0
	part := ""
	if f, is := FieldAt(path); is {
		group = f.Group
		slot = f.Slot
		part = f.Part
	}
	switch {
	case path == "amount.flour_g":
		return flourG, true
	case path == "eggs.liquid_g":
		return Or(r.Eggs.LiquidG, 0), true
	case path == "oil_share":
		return r.Oil * flourG, true
	case path == "salt_share":
		return r.Salt * flourG, true
	case group == "flours" && part == "share" && slot < len(r.Flours):
		return r.Flours[slot].Share * flourG, true
	case group == "additions" && part == "share" && slot < len(r.Additions):
		return r.Additions[slot].Share * flourG, true
	}
	return 0, false
}

// WithMasses is the request with other masses of what was measured out, by the paths of their fields, everything else
// weighing what it weighs; nothing in it is measured out any more.
func (r Request) WithMasses(g map[string]float64) Request {
	flourG, _ := r.Amount.NamedFlourG()
	at := func(path string, is float64) float64 {
		if other, ok := g[path]; ok {
			return other
		}
		return is
	}
	oil, salt := at("oil_share", r.Oil*flourG), at("salt_share", r.Salt*flourG)
	flours, additions := append([]FlourPart{}, r.Flours...), append([]AdditionPart{}, r.Additions...)
	total := at("amount.flour_g", flourG) // of all flours as they are shared out, unless one was measured by itself
	times, sum := total/flourG, 0.
	for i := range flours {
		flours[i].Share = at(fmt.Sprintf("flours.%d.share", i), flours[i].Share*flourG*times)
		sum += flours[i].Share
	}
	for i := range flours {
		flours[i].Share /= sum
	}
	for i := range additions {
		additions[i].Share = at(fmt.Sprintf("additions.%d.share", i), additions[i].Share*flourG) / sum
	}
	r.Flours = flours
	r.Additions = additions
	r.Oil = oil / sum
	r.Salt = salt / sum
	if r.Amount.By == ByEaters {
		r.Amount.By = ByFlour
	}
	r.Amount.FlourG = sum
	if r.Eggs.LiquidG != nil {
		liquid := at("eggs.liquid_g", *r.Eggs.LiquidG)
		r.Eggs.LiquidG = &liquid
	}
	r.Measures = ""
	return r
}

// Words are the amounts as one reads them: "2 cups (250–300 g)".
func (m Measures) Words(in measure.System) string {
	all, _ := m.All()
	var out []string
	for _, s := range all {
		out = append(out, s.Words(in))
	}
	return strings.Join(out, ", ")
}

// Words are the amount with what it may weigh: "2 cups (250–300 g, 280 counted)".
func (s Said) Words(in measure.System) string { return s.Text + " (" + s.Weighs(in) + ")" }

// Weighs is what it may weigh, and what it is counted as.
func (s Said) Weighs(in measure.System) string {
	if s.High-s.LowG < 2*sameG {
		return in.Grams(s.G)
	}
	low, _ := in.Mass(s.LowG)
	high, unit := in.Mass(s.High)
	is, _ := in.Mass(s.G)
	return fmt.Sprintf("%s–%s %s, %s counted", low, high, unit, is)
}
