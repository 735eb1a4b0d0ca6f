package bench

import (
	"math"
	"time"

	"hollen/internal/core/roll"
)

// Status is how far a step is.
type Status string

// The ways a step can be.
const (
	ToDo    Status = "to_do"
	Running Status = "running"
	WasDone Status = "done"
	Unknown Status = "unknown" // a step of one's own, before it is put in
	LeftOut Status = "skipped"
)

// Progress is what is known of one step.
type Progress struct {
	Status   Status    `json:"status"`
	Began    time.Time `json:"began,omitzero"`
	Over     time.Time `json:"over,omitzero"`
	PausedAt time.Time `json:"paused_at,omitzero"` // zero unless it is paused now
	PausedS  float64   `json:"paused_s,omitempty"` // in pauses that are over, s
	MoreMin  float64   `json:"more_min,omitempty"` // altered by hand
	G        float64   `json:"g,omitempty"`        // weighed
	Scale    bool      `json:"scale,omitempty"`
	PokeS    float64   `json:"poke_s,omitempty"`
	Look     string    `json:"look,omitempty"`
	Flex     string    `json:"flex,omitempty"`   // yes: it bends without cracking
	Window   string    `json:"window,omitempty"` // yes: light shines through before it tears
	MM       float64   `json:"mm,omitempty"`     // measured, by whatever it was
	Made     int       `json:"made,omitempty"`   // nests, pieces or handfuls
	MadeG    float64   `json:"made_g,omitempty"` // of those that were weighed
	MadeN    int       `json:"made_n,omitempty"` // and how many they were
	Loss     float64   `json:"loss,omitempty"`   // of mass in drying, share
	LossAt   time.Time `json:"loss_at,omitzero"` // when that was weighed
	Shrunk   float64   `json:"shrunk,omitempty"` // of its length a ribbon pulled in, share
	Held     bool      `json:"held,omitempty"`   // waits while a step put in before it is done
	stopped  bool      // left out, since its piece ends before it
}

// Took is how long the step took, pauses apart, min; 0 while it runs.
func (p *Progress) Took() float64 {
	if p.Over.IsZero() || p.Began.IsZero() {
		return 0
	}
	return max(0, p.Over.Sub(p.Began).Minutes()-p.PausedS/60)
}

// Clock is two moments and a length. It outlives whatever draws it.
type Clock struct {
	ID      string    `json:"id"` // the step's key, or the event that started it
	Step    string    `json:"step,omitempty"`
	Name    string    `json:"name"`
	Began   time.Time `json:"began"`
	LengthS float64   `json:"length_s"`
	Paused  time.Time `json:"paused,omitzero"`
	PausedS float64   `json:"paused_s,omitempty"`
}

// LeftS is what is left on the clock at a moment, s; under nought what it is over.
func (c *Clock) LeftS(at time.Time) float64 {
	if !c.Paused.IsZero() && c.Paused.Before(at) {
		at = c.Paused
	}
	return c.LengthS - (at.Sub(c.Began).Seconds() - c.PausedS)
}

// Went is a tap that closed a step.
type Went struct {
	ID   string `json:"id"`
	Step string `json:"step"`
}

// State is a making as it stands.
type State struct {
	Began time.Time            `json:"began"`
	Steps map[string]*Progress `json:"steps"`
	// the step that is on, by its place; as many as there are when all are done
	Now     int     `json:"now"`
	Clocks  []Clock `json:"clocks"`
	Remarks []Event `json:"remarks"` // what was said, named, added, left, put by, packed
	// what pieces are to become, by piece, where that was decided on the way
	Shapes  map[int]Event `json:"shapes"`
	PutBy   int           `json:"put_by"`         // pieces
	Felt    *int          `json:"felt,omitempty"` // the last word
	Ended   time.Time     `json:"ended,omitzero"`
	EndedBy string        `json:"ended_by,omitempty"` // the event
	OutG    float64       `json:"out_g,omitempty"`
	OutSaid bool          `json:"out_said,omitempty"` // OutG was weighed, also where it is nought
	OutN    int           `json:"out_n,omitempty"`    // pieces, where they were counted
	Thrown  bool          `json:"thrown,omitempty"`   // it ended thrown away
	ThrownG float64       `json:"thrown_g,omitempty"` // 0: all of it
	Why     string        `json:"why,omitempty"`      // it was thrown away
	Next    string        `json:"next,omitempty"`     // what to do otherwise
	Damaged int           `json:"damaged,omitempty"`  // events that were kept and cannot be read
	// the taps that went on, in order; the last is the one to take back
	Went []Went `json:"went"`
}

// Fold returns the state of a making begun at a moment, from its steps and its events. The same events
// give the same state in whatever order they come, and however often. Steps of one's own are among the steps.
func Fold(steps []Step, began time.Time, events []Event) State {
	return fold(steps, began, Ordered(events))
}

// fold is Fold of events that are in order.
func fold(steps []Step, began time.Time, events []Event) State {
	s := State{Began: began, Steps: make(map[string]*Progress, len(steps)), Clocks: []Clock{}, Remarks: []Event{},
		Shapes: map[int]Event{}, Went: []Went{}}
	for i := range steps {
		s.Steps[steps[i].Key] = &Progress{Status: ToDo}
		if steps[i].Own {
			s.Steps[steps[i].Key].Status = Unknown
		}
	}
	own := map[string]*Clock{}
	var order []string
	place := make(map[string]int, len(steps))
	for i := range steps {
		place[steps[i].Key] = i
	}
	s.start(steps, began)
	for _, e := range events {
		s.take(&e, steps, place, own, &order)
	}
	s.clocks(steps, own, order)
	return s
}

// start has the step that is on run from a moment, unless it runs already.
func (s *State) start(steps []Step, at time.Time) {
	for s.Now < len(steps) && s.closed(&steps[s.Now]) {
		s.Now++
	}
	if s.Now < len(steps) {
		p := s.Steps[steps[s.Now].Key]
		switch {
		case p.Status == ToDo:
			p.Status, p.Began = Running, at
		case p.Held:
			p.resume(at)
		}
		p.Held = false
	}
}

func (s *State) closed(x *Step) bool {
	st := s.Steps[x.Key].Status
	return st == WasDone || st == LeftOut || st == Unknown
}

// putIn has a step of one's own come next; what was on waits for it.
func (s *State) putIn(e *Event, steps []Step, place map[string]int) {
	key := ownKey(e.ID)
	i, known := place[key]
	if !known || s.Steps[key].Status != Unknown {
		return
	}
	s.Steps[key].Status = ToDo
	if i >= s.Now {
		return
	}
	if s.Now < len(steps) {
		if p := s.Steps[steps[s.Now].Key]; p.Status == Running && p.PausedAt.IsZero() {
			p.PausedAt, p.Held = e.At, true
		}
	}
	s.Now = i
	s.start(steps, e.At)
}

// lastStop has a piece end with a pass: those after it are left out, and those that were for an earlier one come back.
func (s *State) lastStop(e *Event, steps []Step, place map[string]int) {
	i, known := place[e.Step]
	if !known || steps[i].Kind != Pass {
		return
	}
	for j := range steps {
		if steps[j].Kind != Pass || steps[j].Piece != steps[i].Piece {
			continue
		}
		p := s.Steps[steps[j].Key]
		switch {
		case j > i && (p.Status == ToDo || p.Status == Running):
			*p = Progress{Status: LeftOut, Over: e.At, stopped: true}
		case j <= i && p.stopped:
			*p = Progress{Status: ToDo}
			s.Now = min(s.Now, j)
		}
	}
	s.start(steps, e.At)
}

// putBy has pieces of dough go no further: the last of those not begun.
func (s *State) putBy(e *Event, steps []Step) {
	for n := e.N; n > 0; n-- {
		piece := 0
		for i := range steps {
			if x := &steps[i]; x.Kind == Pass && s.Steps[x.Key].Status == ToDo && !s.begun(steps, x.Piece) {
				piece = max(piece, x.Piece)
			}
		}
		if piece == 0 {
			return
		}
		s.PutBy++
		for i := range steps {
			if p := s.Steps[steps[i].Key]; steps[i].Kind == Pass && steps[i].Piece == piece && p.Status == ToDo {
				p.Status, p.Over = LeftOut, e.At
			}
		}
	}
}

// begun says whether a piece has been in the rollers.
func (s *State) begun(steps []Step, piece int) bool {
	for i := range steps {
		if x := &steps[i]; x.Kind == Pass && x.Piece == piece && (s.Steps[x.Key].Status == WasDone ||
			s.Steps[x.Key].Status == Running) {
			return true
		}
	}
	return false
}

// take brings one event to bear.
func (s *State) take(e *Event, steps []Step, place map[string]int, own map[string]*Clock, order *[]string) {
	p := s.Steps[e.Step]
	if p == nil {
		p = &Progress{} // of no step: nobody looks at it
	}
	switch e.What {
	case Damaged:
		s.Damaged++
		s.Remarks = append(s.Remarks, *e)
	case Weighed:
		p.G, p.Scale = e.G, e.Scale
	case Started:
		if p.Status == ToDo {
			p.Status, p.Began = Running, e.At
		}
	case Done, Skipped:
		i, known := place[e.Step]
		if !known || p.Status == WasDone || p.Status == LeftOut {
			return
		}
		if p.Began.IsZero() {
			p.Began = e.At
		}
		p.resume(e.At)
		p.Status, p.Over = WasDone, e.At
		if e.What == Skipped {
			p.Status = LeftOut
		}
		s.Went = append(s.Went, Went{e.ID, e.Step})
		if then := steps[i].Then; then != nil && e.What == Done {
			own[e.ID] = &Clock{ID: e.ID, Name: then.Name, Began: e.At, LengthS: 60 * then.Min}
			*order = append(*order, e.ID)
		}
		s.start(steps, e.At)
	case Paused:
		if p.Status == Running && p.PausedAt.IsZero() {
			p.PausedAt = e.At
		}
	case Resumed:
		p.resume(e.At)
	case Minutes:
		if c := own[e.Of]; c != nil {
			c.LengthS = max(0, c.LengthS+60*e.Min)
		} else {
			p.MoreMin += e.Min
		}
	case Clocked:
		own[e.ID] = &Clock{ID: e.ID, Name: e.Text, Began: e.At, LengthS: 60 * e.Min}
		*order = append(*order, e.ID)
	case Unclock:
		delete(own, e.Of)
	case PutIn:
		s.putIn(e, steps, place)
	case LastStop:
		s.lastStop(e, steps, place)
	case PutBy:
		if e.Text == "dough" {
			s.putBy(e, steps)
		}
	case Poked, Looked, Measured, Flexed, Windowed, Dried, Made, Shrunk:
		i := place[e.Step]
		p.measure(e, &steps[i])
	case Shaped:
		s.Shapes[e.N] = *e
	case Felt:
		s.Felt = &e.N
	case Ended:
		s.end(e)
	}
	switch e.What {
	case Added, Left, Seen, Noted, Packed, Named, PutBy:
		s.Remarks = append(s.Remarks, *e)
	}
}

// measure notes what was tried or measured at a step.
func (p *Progress) measure(e *Event, x *Step) {
	switch e.What {
	case Poked:
		p.PokeS = e.S
	case Looked:
		p.Look = e.Text
	case Flexed:
		p.Flex = e.Text
	case Windowed:
		p.Window = e.Text
	case Shrunk:
		p.Shrunk = 1 - e.MM/e.FromMM
	case Dried:
		p.Loss, p.LossAt = min(.9, 1-e.G/max(e.FromG, e.G)), e.At
	case Made:
		p.Made = max(0, p.Made+e.N)
		if e.G > 0 && e.N > 0 {
			p.MadeG, p.MadeN = p.MadeG+e.G, p.MadeN+e.N
		}
	case Measured:
		switch {
		case e.MM > 0:
			p.MM = e.MM
		case e.N > 0:
			p.MM = roll.FromPaper(float64(e.N))
		case x.Density > 0:
			p.MM = roll.SquareMM(e.G, x.Density, SquareMM, SquareMM)
		}
	}
}

func (p *Progress) resume(at time.Time) {
	if p.PausedAt.IsZero() {
		return
	}
	p.PausedS += max(0, at.Sub(p.PausedAt).Seconds())
	p.PausedAt = time.Time{}
}

// clocks lists what runs: steps with minutes, in their order, then clocks of one's own.
func (s *State) clocks(steps []Step, own map[string]*Clock, order []string) {
	for i := range steps {
		x := &steps[i]
		p := s.Steps[x.Key]
		if p.Status == Running && x.Min > 0 {
			s.Clocks = append(s.Clocks, Clock{ID: x.Key, Step: x.Key, Name: x.Head, Began: p.Began, LengthS: 60 * max(0,
				x.Min+p.MoreMin), Paused: p.PausedAt,
				PausedS: p.PausedS})
		}
	}
	for _, id := range order {
		if c := own[id]; c != nil {
			s.Clocks = append(s.Clocks, *c)
		}
	}
}

// Last is the tap that is taken back next, "" where there is none.
func (s *State) Last() string {
	if len(s.Went) == 0 {
		return ""
	}
	return s.Went[len(s.Went)-1].ID
}

// All says whether every step is done or left out.
func (s *State) All(steps []Step) bool { return s.Now >= len(steps) }

// DoneShare is how much of the steps is done, 0 to 1.
func (s *State) DoneShare(steps []Step) float64 {
	if len(steps) == 0 {
		return 1
	}
	return math.Min(1, float64(s.Now)/float64(len(steps)))
}

// end takes how a making ended. An ending that says nothing of what came out was not weighed, as all endings were
// before that could be said;
// one that says nought had nothing come out.
func (s *State) end(e *Event) {
	s.EndedBy = e.ID
	s.Ended = e.At
	s.OutN = max(0, e.N)
	s.OutG = 0
	s.OutSaid = false
	s.Thrown = false
	s.ThrownG = 0
	s.Why = ""
	s.Next = ""
	if e.Of == ThrownAway {
		s.Thrown = true
		s.ThrownG = e.G
		s.Why = e.Text
		return
	}
	s.OutG = e.G
	s.OutSaid = e.G > 0 || e.Of == OutWeighed
	s.Next = e.Text
}

// PutAway is when what was made was packed, in the pot or ended, whichever came first of these for good; the beginning
// where none has.
func (m *Making) PutAway() time.Time {
	at := m.State.Began
	for i := range m.Steps {
		if x := m.State.Steps[m.Steps[i].Key]; (m.Steps[i].Kind == Pack || m.Steps[i].Kind == Pot) &&
			x.Status == WasDone && x.Over.After(at) {
			at = x.Over
		}
	}
	if at.Equal(m.State.Began) && !m.State.Ended.IsZero() {
		at = m.State.Ended
	}
	return at
}
