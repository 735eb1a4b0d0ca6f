package batch

import (
	"fmt"
	"html/template"
	"slices"
	"strconv"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/web/page"
)

// kneadView is kneading and resting.
type kneadView struct{ *batchView }

// WorkFigure is the kneading of the way, in as few words as a figure has.
func (v kneadView) WorkFigure() string {
	return v.Plan.KneadWords()
}

// Own says whether the maker's own steps are asked for.
func (v kneadView) Own() bool { return v.Page.Knead.By == request.KneadOwn }

// Flattened says whether the maker presses the dough flat for one of the rests.
func (v kneadView) Flattened() bool {
	return v.Own() && slices.ContainsFunc(v.Page.Knead.Steps,
		func(s request.KneadStep) bool { return s.Cover == request.CoverFlat && s.Do.Rests() })
}

// OwnLine is one of the maker's own steps as it is built.
type OwnLine struct {
	N                          int
	Do, Min, Cover, Hands, Add Control
	Held                       bool
}

// OwnLines are the lines of the maker's own steps.
func (v kneadView) OwnLines() (out []OwnLine) {
	group, _ := request.GroupNamed("knead.own_steps")
	for i := range group.Most {
		s := v.Page.Knead.Steps[i]
		l := OwnLine{N: i, Do: v.Control(group.Path(i, "do")), Min: v.Control(group.Path(i, "min")),
			Cover: v.Control(group.Path(i, "cover")),
			Hands: v.Control(group.Path(i, "hands")), Add: v.Control(group.Path(i, "add")), Held: group.Holds(&v.Page,
				i)}
		l.Add.Auto = "nothing added before"
		l.Cover.Hidden = !s.Do.Rests()
		l.Hands.Hidden = s.Do.Rests() || s.Do.Mixes() || !l.Held
		out = append(out, l)
	}
	return out
}

// OwnStep is the line on the page: what is done, how long, how it lies or who does it, and the keys that
// move, repeat and take it out.
func (l OwnLine) OwnStep() template.HTML {
	var m page.Markup
	n := strconv.Itoa(l.N)
	m.Raw(`<div id="c-own`, n, `"`)
	if !l.Do.Lean {
		m.Raw(` class="own-step" data-live="hidden"`)
	}
	m.Flag("hidden", !l.Held).Raw(">", string(l.Do.Field(l.Do.Label)))
	if l.Do.Lean {
		m.Raw(string(l.Min.Field("")))
	} else {
		m.Raw(`<div class="own-row"><span class="box">`, string(l.Min.Field(l.Min.Label)), `<small>min</small></span>`)
	}
	for _, c := range []Control{l.Cover, l.Hands, l.Add} {
		m.Raw(`<div id="c-`, c.ID, `"`)
		if !c.Lean {
			m.Raw(` data-live="hidden"`)
		}
		m.Flag("hidden", c.Hidden && c.Error == "").Raw(">", string(c.Field(c.Label)), `</div>`)
	}
	if !l.Do.Lean {
		m.Raw(`</div><div class="own-keys">`)
		writeLineKeys(&m, "knead.own_steps", n, l.Do.Label)
		m.Raw(`</div>`)
	}
	return m.Raw(string(l.Do.Err()), string(l.Min.Err()), `</div>`).HTML()
}

// AddKey is a key that adds a step.
type AddKey struct {
	Do   request.KneadDo
	Name string
}

// AddKeys are the keys that add a step.
func (v kneadView) AddKeys() []AddKey {
	return []AddKey{{request.DoHand, "knead"}, {request.DoRest, "rest"}, {request.DoFridge, "fridge"}, {request.DoHook,
		"mixer"}, {request.DoPause, "pause"},
		{request.DoMix, "mix"}}
}

// SchoolLabel is over the name of the school.
func (v kneadView) SchoolLabel() string {
	if v.Plan.Knead.Own {
		return "Kneaded"
	}
	return "School"
}

// CoolFigure is how long the dough takes in the fridge until it reads 7 °C.
func (v kneadView) CoolFigure() string {
	if v.Plan.Rest.CoolMin < 0 {
		return "never"
	}
	return measure.Minutes(v.Plan.Rest.CoolMin)
}

// RestFigure is the last rest: minutes, or hours and minutes.
func (v kneadView) RestFigure() string {
	if m := v.Plan.Rest.Min; m < 120 { // whole minutes
		return fmt.Sprintf("%.0f", m)
	}
	return measure.Minutes(v.Plan.Rest.Min)
}

// RestUnit is the unit of RestFigure.
func (v kneadView) RestUnit() string {
	if v.Plan.Rest.Min < 120 {
		return "min"
	}
	return ""
}

// SchoolName names the school the batch is kneaded by.
func (v kneadView) SchoolName() string {
	if v.Plan.Knead.Own {
		return "As I do it"
	}
	return v.Plan.Knead.School.Traits().Short
}

func kneadKey(p *plan.Plan) string {
	if w := p.KneadWords(); strings.ContainsAny(w, "×+") {
		return w + " min"
	}
	return measure.Exactly(p.Knead.Way.WorkMin)
}

func restKey(p *plan.Plan) string { return measure.Minutes(p.Rest.Min) }
