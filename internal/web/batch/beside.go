package batch

import (
	"html/template"
	"net/http"

	"hollen/internal/core/cut"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/web/page"
)

// besideView is this batch as it stands beside the same by another tool, or worked out.
type besideView struct {
	*batchView
	compareView
	Head, Words string
	Along       template.HTML
}

// The tools a batch is set beside with: what a learner has at hand.
const besideMachine, besidePin = "hand-crank-10", "pin-board"

// twoTools is one batch by two tools: which it is set beside, and what the two are called.
type twoTools struct {
	head, words  string
	change       func(*request.Request)
	nameA, nameB string
}

// besideOf returns the other way of a batch by its name in an address: tool, cut or worked; false where
// there is none.
func besideOf(what string, p *plan.Plan) (twoTools, bool) {
	switch what {
	case "tool":
		b := twoTools{head: "Machine and pin", words: "The same dough, rolled by a machine and under a pin: what " +
			"each gives, and why.", nameA: p.Roll.Machine.Name,
			nameB: "Pin and board", change: func(r *request.Request) {
				r.Roll.Machine = besidePin
				r.Roll.Own = nil
				r.Roll.By = ""
			}}
		if p.Pinned() {
			b.nameB, b.change = "Hand crank, ten stops", func(r *request.Request) {
				r.Roll.Machine = besideMachine
				r.Roll.Own = nil
				r.Roll.By = ""
			}
		}
		return b, !p.Roped()
	case "cut":
		b := twoTools{head: "Cutter and knife", words: "The same sheets, cut by the machine’s cutter and by knife: " +
			"what each gives, and why.", nameA: "The cutter",
			nameB: "The knife", change: func(r *request.Request) { r.Cut.Tool = cut.Knife }}
		if p.Cut.KnifeCuts > 0 {
			b.nameA = "The knife"
			b.nameB = "The cutter"
			b.change = func(r *request.Request) { r.Cut.Tool = cut.Cutter }
		}
		return b, p.Cut.Ribboned()
	case "worked":
		return twoTools{head: "Yours and worked out", words: "The same dough by your own steps, and as Hollen would " +
				"work it out.", nameA: "As you do it",
				nameB: "Worked out", change: func(r *request.Request) { r.Knead.By, r.Roll.By = "", "" }},
			p.Request.Knead.Own() || p.Request.Roll.IsOwn()
	}
	return twoTools{}, false
}

// ShowBeside shows a batch, as its form stands, beside the same by another tool.
func (s *Room) ShowBeside(c *page.Visit) error {
	a, err := s.askSound(c)
	if err != nil {
		return err
	}
	b, ok := besideOf(c.Param("what"), a.view.Plan)
	if !ok {
		return page.Refuse(http.StatusNotFound, "There is no other way to set beside this one.",
			"Ropes are rolled by hand, and only ribbons have a cutter.")
	}
	r := request.Pruned(a.view.Request)
	b.change(&r)
	other, err := plan.MakeIn(a.view.In, s.RulesOf(c.Request.Context(), &r), r)
	if err != nil {
		return s.FailPlan(c, a.batch.ID, err)
	}
	v := besideView{a.view, compareView{A: a.view.Plan, B: other, NameA: b.nameA, NameB: b.nameB}, b.head, b.words,
		s.along(a.view)}
	v.set()
	s.Render(c, http.StatusOK, "beside", b.head+": "+v.Request.Name, v)
	return nil
}
