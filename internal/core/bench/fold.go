package bench

import (
	"math"
	"time"

	"hollen/internal/core/request"
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
	Seen     roll.Seen `json:"seen,omitempty"`   // what is seen through it
	Made     int       `json:"made,omitempty"`   // nests, pieces or handfuls
	MadeG    float64   `json:"made_g,omitempty"` // of those that were weighed
	MadeN    int       `json:"made_n,omitempty"` // and how many they were
	Loss     float64   `json:"loss,omitempty"`   // of mass in drying, share
	LossAt   time.Time `json:"loss_at,omitzero"` // when that was weighed
	Shrunk   float64   `json:"shrunk,omitempty"` // of its length a ribbon pulled in, share
	Held     bool      `json:"held,omitempty"`   // waits while a step put in before it is done
	Stopped  bool      `json:"-"`                // left out, since its piece ends before it
}

// Took is how long the step took, pauses apart, min; 0 while it runs.
func (p *Progress) Took() float64 {
	if p.Over.IsZero() || p.Began.IsZero() {
		return 0
	}
	return max(0, p.Over.Sub(p.Began).Minutes()-p.PausedS/60)
}

// counts is how long the step counts to the dough, min: no longer than a step may be said to take.
func (p *Progress) counts() float64 { return min(p.Took(), request.MostStepMin) }

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

// ClosedStep is a tap that closed a step.
type ClosedStep struct {
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
	Closed []ClosedStep `json:"went"`
}

// Fold returns the state of a making begun at a moment, from its steps and its events. The same events
// give the same state in whatever order they come, and however often. Steps of one's own are among the steps.
func Fold(steps []Step, began time.Time, events []Event) State {
	return fold(steps, began, Ordered(events))
}

// folding is a making while its events are brought to bear.
type folding struct {
	*State
	steps []Step
	place map[string]int    // of a step, by its key
	own   map[string]*Clock // clocks that run by themselves, by the event that set them
	order []string          // in which they were set
}

// fold is Fold of events that are in order.
func fold(steps []Step, began time.Time, events []Event) State {
	f := folding{
		State: &State{Began: began, Steps: make(map[string]*Progress, len(steps)), Clocks: []Clock{},
			Remarks: []Event{}, Shapes: map[int]Event{}, Closed: []ClosedStep{}},
		steps: steps,
		place: make(map[string]int, len(steps)),
		own:   map[string]*Clock{},
	}
	for i := range steps {
		p := &Progress{Status: ToDo}
		if steps[i].Own {
			p.Status = Unknown
		}
		f.Steps[steps[i].Key] = p
		f.place[steps[i].Key] = i
	}
	f.start(began)
	for i := range events {
		e := &events[i]
		if e.Says == nil {
			continue
		}
		e.Says.bear(&f, e)
		if _, said := e.Says.(Remark); said {
			f.Remarks = append(f.Remarks, *e)
		}
	}
	f.runs()
	return *f.State
}

// at is what is known of a step; of one the making does not have, what nobody looks at.
func (f *folding) at(step string) *Progress {
	if p := f.Steps[step]; p != nil {
		return p
	}
	return &Progress{}
}

// close has a step be over, done or left out, and the next one run; what starts with its end starts.
func (f *folding) close(step string, as Status, e *Event) {
	i, known := f.place[step]
	p := f.at(step)
	if !known || p.Status == WasDone || p.Status == LeftOut {
		return
	}
	if p.Began.IsZero() {
		p.Began = e.At
	}
	p.resume(e.At)
	p.Status = as
	p.Over = e.At
	f.Closed = append(f.Closed, ClosedStep{e.ID, step})
	if then := f.steps[i].Then; then != nil && as == WasDone {
		f.set(e, then.Name, then.Min)
	}
	f.start(e.At)
}

// set starts a clock of so many minutes that runs by itself.
func (f *folding) set(e *Event, name string, minutes float64) {
	f.own[e.ID] = &Clock{ID: e.ID, Name: name, Began: e.At, LengthS: 60 * minutes}
	f.order = append(f.order, e.ID)
}

// start has the step that is on run from a moment, unless it runs already.
func (f *folding) start(at time.Time) {
	for f.Now < len(f.steps) && f.closed(&f.steps[f.Now]) {
		f.Now++
	}
	if f.Now < len(f.steps) {
		p := f.Steps[f.steps[f.Now].Key]
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

// putIn has the step of one's own of that key come next; what was on waits for it.
func (f *folding) putIn(key string, at time.Time) {
	i, known := f.place[key]
	if !known || f.Steps[key].Status != Unknown {
		return
	}
	f.Steps[key].Status = ToDo
	if i >= f.Now {
		return
	}
	if f.Now < len(f.steps) {
		if p := f.Steps[f.steps[f.Now].Key]; p.Status == Running && p.PausedAt.IsZero() {
			p.PausedAt = at
			p.Held = true
		}
	}
	f.Now = i
	f.start(at)
}

// lastStop has a piece end with a pass: those after it are left out, and those that were for an earlier one come back.
func (f *folding) lastStop(pass string, at time.Time) {
	i, known := f.place[pass]
	if !known || f.steps[i].Kind != Pass {
		return
	}
	for j := range f.steps {
		if f.steps[j].Kind != Pass || f.steps[j].Piece != f.steps[i].Piece {
			continue
		}
		p := f.Steps[f.steps[j].Key]
		switch {
		case j > i && (p.Status == ToDo || p.Status == Running):
			*p = Progress{Status: LeftOut, Over: at, Stopped: true}
		case j <= i && p.Stopped:
			*p = Progress{Status: ToDo}
			f.Now = min(f.Now, j)
		}
	}
	f.start(at)
}

// putBy has so many pieces of dough go no further: the last of those not begun.
func (f *folding) putBy(n int, at time.Time) {
	for ; n > 0; n-- {
		piece := 0
		for i := range f.steps {
			if x := &f.steps[i]; x.Kind == Pass && f.Steps[x.Key].Status == ToDo && !f.begun(f.steps, x.Piece) {
				piece = max(piece, x.Piece)
			}
		}
		if piece == 0 {
			return
		}
		f.PutBy++
		for i := range f.steps {
			p := f.Steps[f.steps[i].Key]
			if f.steps[i].Kind == Pass && f.steps[i].Piece == piece && p.Status == ToDo {
				p.Status = LeftOut
				p.Over = at
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

func (p *Progress) resume(at time.Time) {
	if p.PausedAt.IsZero() {
		return
	}
	p.PausedS += max(0, at.Sub(p.PausedAt).Seconds())
	p.PausedAt = time.Time{}
}

// runs lists the clocks that run: those of steps with minutes, in their order, then clocks of one's own.
func (f *folding) runs() {
	for i := range f.steps {
		x := &f.steps[i]
		p := f.Steps[x.Key]
		if p.Status == Running && x.Min > 0 {
			f.Clocks = append(f.Clocks, Clock{ID: x.Key, Step: x.Key, Name: x.Head, Began: p.Began, LengthS: 60 * max(0,
				x.Min+p.MoreMin), Paused: p.PausedAt,
				PausedS: p.PausedS})
		}
	}
	for _, id := range f.order {
		if c := f.own[id]; c != nil {
			f.Clocks = append(f.Clocks, *c)
		}
	}
}

// Last is the tap that is taken back next, "" where there is none.
func (s *State) Last() string {
	if len(s.Closed) == 0 {
		return ""
	}
	return s.Closed[len(s.Closed)-1].ID
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
func (s *State) end(x Ended, e *Event) {
	s.EndedBy = e.ID
	s.Ended = e.At
	s.OutN = max(0, x.N)
	s.OutG = 0
	s.OutSaid = false
	s.Thrown = false
	s.ThrownG = 0
	s.Why = ""
	s.Next = ""
	if x.How == ThrownAway {
		s.Thrown = true
		s.ThrownG = x.G
		s.Why = x.Text
		return
	}
	s.OutG = x.G
	s.OutSaid = x.G > 0 || x.How == OutWeighed
	s.Next = x.Text
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
