package bench

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
)

func ownKey(id string) string { return "own." + id }

// withOwn returns the steps with those the maker put in, each before the step it was put in before; the steps
// themselves where there are none.
func withOwn(p *plan.Plan, steps []Step, events []Event) []Step {
	out := steps
	for _, e := range events {
		put, ok := e.Says.(PutIn)
		if !ok || len(out) > MostSteps {
			continue
		}
		at := len(out)
		if put.Before != "" {
			if at = slices.IndexFunc(out, func(s Step) bool { return s.Key == put.Before }); at < 0 {
				continue
			}
		}
		out = slices.Insert(slices.Clone(out), at, ownStep(p, ownKey(e.ID), put, out, at))
	}
	if len(out) > len(steps) {
		goOn(out)
	}
	return out
}

// MostSteps is how many steps a making may come to have.
const MostSteps = 2000

// ownStep is the step of that key that is put in before the one at that place.
func ownStep(p *plan.Plan, key string, put PutIn, steps []Step, at int) Step {
	near := Step{Station: request.AtKnead}
	if len(steps) > 0 {
		near = steps[min(at, len(steps)-1)]
	}
	s := Step{Key: key, Own: true, Station: near.Station, Kind: Work, Head: strings.TrimSpace(put.Text),
		Min: max(0, put.Min), FromMin: near.FromMin,
		Say: "Put in on the way."}
	switch put.Kind {
	case OwnKnead:
		s.Station = request.AtKnead
	case OwnRest, OwnFridge:
		s.Station = request.AtRest
		s.Kind = Wait
		s.Unattended = true
		s.Cold = put.Kind == OwnFridge
	case OwnLay:
		s.Station, s.Own = request.AtRoll, true
		s.Say = "When both doughs are rolled: strips cut and laid on the base, both sides trimmed, one light pass of " +
			"the pin."
		if j, err := p.Join(); err == nil {
			s.Say += fmt.Sprintf(" Then once through at stop %s, to %s.", j.Label, p.In().MM(j.SheetMM, 2))
		}
		s.Sign = []string{"The strips lie flat and do not slide.", "Both doughs are as thick as planned: measure one " +
			"of each."}
	case OwnPass:
		s.Kind = Pass
		s.Station = request.AtRoll
		s.Min = 0
		s.Name = "Stop " + s.Head
		s.Piece = put.Piece
		s.Pieces = p.Roll.Pieces
		s.Stop = s.Head
		s.Head = fmt.Sprintf("Piece %d of %d", put.Piece, p.Roll.Pieces)
		if x, ok := p.PassAt(s.Stop); ok {
			s.SheetMM = x.OutMM
			s.LengthMM = x.LengthMM
			s.Density = p.Formula.Dough.DensityGPerML
			s.Say = fmt.Sprintf("To %s, %s long.", p.In().MM(x.OutMM, 2), p.In().Long(x.LengthMM))
		}
	}
	s.LeastMin, s.MostMin = s.Min, s.Min
	return s
}

// LayStrips is the event that has strips of a second dough laid on once both are rolled: after the last pass, before
// what follows.
func LayStrips(steps []Step, began time.Time) Event {
	put := PutIn{Kind: OwnLay, Text: "Lay the strips"}
	for i, s := range steps {
		if s.Kind == Pass && i+1 < len(steps) {
			put.Before = steps[i+1].Key
		}
	}
	return Event{ID: "lay-strips", At: began, Says: put}
}
