package plan

import (
	"fmt"

	"hollen/internal/core/request"
)

// explain writes the one plain sentence behind every figure.
func (p *Plan) explain() {
	p.Why = map[string]string{}
	p.explainFlour()
	p.explainFormula()
	p.explainRoom()
	p.explainKnead()
	p.explainRest()
	p.explainRoll()
	if also := p.endWords(); also != "" {
		p.Why["roll.pieces"] += " " + also
	}
	p.explainCut()
	p.explainDry()
	p.explainCook()
}

// say sets the sentence behind a figure.
func (p *Plan) say(key, format string, a ...any) { p.Why[key] = p.in.Prose(fmt.Sprintf(format, a...)) }

// Level says how a note is meant.
type Level string

// The levels: a Warning asks for a change or a decision, a Remark is worth knowing, a
// Caution is about safety.
const (
	Warning Level = "warning"
	Remark  Level = "remark"
	Caution Level = "caution"
)

// Note is a piece of advice beside the figure it concerns. Advice never forbids.
type Note struct {
	Stage request.Stage `json:"stage"`
	Field string        `json:"field"` // the figure, as the keys of Why
	Level Level         `json:"level"`
	Code  string        `json:"code"`
	Head  string        `json:"head"`
	Text  string        `json:"text"`
	// what is offered, as a key says it, and what of the request it would set, as a query: "dry.sheet.by=worked_out"
	Offer string `json:"offer,omitempty"`
	Set   string `json:"set,omitempty"`
}

// At returns the notes of a stage, warnings first, then remarks, then cautions.
func (p *Plan) At(s request.Stage) []Note {
	var out []Note
	for _, l := range []Level{Warning, Remark, Caution} {
		for _, n := range p.Notes {
			if n.Stage == s && n.Level == l {
				out = append(out, n)
			}
		}
	}
	return out
}

// Warnings returns how many warnings stand at a stage.
func (p *Plan) Warnings(s request.Stage) int {
	n := 0
	for _, x := range p.Notes {
		if x.Stage == s && x.Level == Warning {
			n++
		}
	}
	return n
}

func (p *Plan) note(s request.Stage, field string, l Level, code, head, format string, a ...any) {
	p.Notes = append(p.Notes, Note{Stage: s, Field: field, Level: l, Code: code, Head: head,
		Text: p.in.Prose(fmt.Sprintf(format, a...))})
}

// advise gathers the notes of every stage.
func (p *Plan) advise() {
	p.Notes = []Note{}
	p.adviseFormula()
	p.adviseRoom()
	p.adviseKnead()
	p.adviseRest()
	p.adviseRoll()
	p.adviseCut()
	p.adviseDry()
	p.adviseCook()
	p.adviseLearned()
}
