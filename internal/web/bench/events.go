package bench

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"net/http"
	"slices"
	"time"

	"github.com/coder/websocket"
	"github.com/gin-gonic/gin"

	"hollen/internal/account"
	"hollen/internal/clock"
	"hollen/internal/core/bench"
	"hollen/internal/core/doctor"
	"hollen/internal/core/measure"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// State is what a screen at the bench is told. Moments are ms since 1970, by the server's clock.
type State struct {
	Seq     uint64             `json:"seq"`
	Now     int64              `json:"now"`
	Rev     string             `json:"rev"`             // of the steps
	Steps   []bench.Step       `json:"steps,omitempty"` // where they are other than the screen has them
	At      int                `json:"at"`
	Began   int64              `json:"began"`
	Done    []DoneStep         `json:"done"` // by step
	Clocks  []Clock            `json:"clocks"`
	Also    []Clock            `json:"also"`
	Changes []bench.Change     `json:"changes"`
	Remarks []bench.Event      `json:"remarks"`
	Food    benchFood          `json:"food"`
	Shapes  map[int]string     `json:"shapes"` // what pieces become, by piece
	Felt    *int               `json:"felt"`
	Ended   string             `json:"ended"` // by which event
	Went    []bench.ClosedStep `json:"went"`
	Got     []string           `json:"got,omitempty"`     // events of the screen that are kept
	Refused []refusedEvent     `json:"refused,omitempty"` // and those that never will be
	Echo    float64            `json:"echo,omitempty"`    // what a screen sent to measure its clock by
	Scale   *scaleNews         `json:"scale,omitempty"`
}

// DoneStep is what a screen is told of a step.
type DoneStep struct {
	Status string  `json:"status"`
	Began  int64   `json:"began,omitempty"`
	Over   int64   `json:"over,omitempty"`
	G      float64 `json:"g,omitempty"`
	PokeS  float64 `json:"poke_s,omitempty"`
	Made   int     `json:"made,omitempty"` // nests, pieces or handfuls
	MadeG  float64 `json:"made_g,omitempty"`
	MM     float64 `json:"mm,omitempty"`
	Seen   string  `json:"seen,omitempty"`
	Flex   string  `json:"flex,omitempty"`
	Window string  `json:"window,omitempty"`
	Look   string  `json:"look,omitempty"`
	Loss   float64 `json:"loss,omitempty"`
	Shrunk float64 `json:"shrunk,omitempty"`
	// A screen that has lost the server goes on from these.
	Paused  int64   `json:"paused,omitempty"`
	PausedS float64 `json:"paused_s,omitempty"`
	MoreMin float64 `json:"more_min,omitempty"`
	Held    bool    `json:"held,omitempty"`
	Stopped bool    `json:"stopped,omitempty"`
}

// StepTold is what is known of a step, as a screen is told of it.
func StepTold(p *bench.Progress) DoneStep {
	return DoneStep{Status: string(p.Status), Began: stamp(p.Began), Over: stamp(p.Over), G: p.G, PokeS: p.PokeS,
		Made: p.Made, MadeG: p.MadeG, MM: p.MM, Seen: string(p.Seen), Flex: p.Flex, Window: p.Window, Look: p.Look,
		Loss:   p.Loss,
		Shrunk: p.Shrunk, Paused: stamp(p.PausedAt), PausedS: p.PausedS, MoreMin: p.MoreMin, Held: p.Held,
		Stopped: p.Stopped}
}

// benchFood is the food clock: what was used up by a moment, and on from there.
type benchFood struct {
	UsedS      float64 `json:"used_s"`
	Since      int64   `json:"since,omitempty"` // 0: it stands still
	CautionMin float64 `json:"caution_min"`
	DiscardMin float64 `json:"discard_min"`
	Hung       bool    `json:"hung,omitempty"` // it is dried to keep: past the usual advice, and not given up for that
	Fine       string  `json:"fine"`           // what to do before caution, between the two, and past both
	Soon       string  `json:"soon"`
	Past       string  `json:"past"`
}

// foodOf is the food clock with what it says.
func foodOf(run *bench.Making) benchFood {
	f := &run.Food
	out := benchFood{UsedS: f.UsedS, Since: stamp(f.Since), CautionMin: f.CautionMin, DiscardMin: f.DiscardMin,
		Hung: f.Hung}
	if f.CautionMin > 0 {
		out.Fine, out.Soon, out.Past = doctor.WaitWords(f.CautionMin, f.DiscardMin)
	}
	return out
}

// Clock is a clock as a screen is told of it.
type Clock struct {
	ID      string  `json:"id"`
	Step    string  `json:"step,omitempty"`
	Name    string  `json:"name"`
	Of      string  `json:"of,omitempty"` // the batch, of another making
	Making  uint64  `json:"making,omitempty"`
	Began   int64   `json:"began"`
	LengthS float64 `json:"length_s"`
	Paused  int64   `json:"paused,omitempty"`
	PausedS float64 `json:"paused_s,omitempty"`
}

type refusedEvent struct {
	ID  string `json:"id"`
	Why string `json:"why"`
}

func stamp(t time.Time) int64 {
	if t.IsZero() {
		return 0
	}
	return t.UnixMilli()
}

// ClockTold is a clock, as a screen is told of it.
func ClockTold(c bench.Clock) Clock {
	return Clock{ID: c.ID, Step: c.Step, Name: c.Name, Began: stamp(c.Began), LengthS: c.LengthS,
		Paused: stamp(c.Paused), PausedS: c.PausedS}
}

// benchStateOf is a making as a screen is told of it; known is the revision of the steps the screen has.
func (s *Room) benchStateOf(ctx context.Context, id uint64, known string) (State, error) {
	_, run, place, err := s.Makings.At(ctx, id)
	if err != nil {
		return State{}, err
	}
	st := run.State
	out := State{Seq: place, Now: s.Now().UnixMilli(), At: st.Now, Began: stamp(st.Began), Changes: run.Changes,
		Remarks: st.Remarks,
		Felt:    st.Felt, Ended: st.EndedBy,
		Scale: s.scale(), Went: st.Closed[max(0, len(st.Closed)-mostBack):], Clocks: []Clock{},
		Also: []Clock{},
		Food: foodOf(&run), Shapes: map[int]string{}}
	doc, err := json.Marshal(run.Steps)
	if err != nil {
		return out, err
	}
	h := fnv.New32a()
	h.Write(doc)
	if out.Rev = fmt.Sprintf("%x", h.Sum32()); out.Rev != known {
		out.Steps = run.Steps
	}
	for _, x := range run.Steps {
		out.Done = append(out.Done, StepTold(st.Steps[x.Key]))
	}
	for piece, e := range st.Shapes {
		if into, ok := e.Says.(bench.Shaped); ok {
			out.Shapes[piece] = into.Shape
		}
	}
	for _, c := range st.Clocks {
		out.Clocks = append(out.Clocks, ClockTold(c))
	}
	for _, c := range s.Makings.OtherClocks(id) {
		b := ClockTold(c.Clock)
		b.Of, b.Making = c.Name, c.Making
		out.Also = append(out.Also, b)
	}
	return out, nil
}

// mostBack is how many steps a screen can go back without the server.
const mostBack = 60

// MostAtOnce is how many events one message may bring: a long time without the server.
const MostAtOnce = 500

// benchDrift is how far into the future a screen's clock may lie; more is brought back to now.
const benchDrift = 2 * time.Second

// takeEvents keeps what a screen sends: what is well-formed, its time brought into the making's span. The rest is
// refused with the reason, for good.
func (s *Room) takeEvents(ctx context.Context, id uint64, events []bench.Event) (got []string, refused []refusedEvent,
	err error) {
	kept, run, _, err := s.Makings.At(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	if len(events) > MostAtOnce {
		events = events[:MostAtOnce] // the rest is sent again, and comes next
	}
	has := func(step string) bool { return run.State.Steps[step] != nil }
	latest := s.Now().Add(benchDrift)
	var sound []bench.Event
	for _, e := range events {
		if by := store.ByWhom(ctx); by != "" && e.By == "" {
			e.By = by
		}
		if err := e.Check(has); err != nil {
			refused = append(refused, refusedEvent{e.ID, why(err)})
			continue
		}
		e.At = e.At.UTC().Truncate(time.Millisecond)
		if e.At.Before(kept.Began) {
			e.At = kept.Began
		}
		if e.At.After(latest) {
			e.At = latest.UTC().Truncate(time.Millisecond)
		}
		sound = append(sound, e)
		got = append(got, e.ID)
	}
	decides := func(e bench.Event) bool { _, ok := e.Says.(bench.Shaped); return ok }
	if slices.ContainsFunc(sound, decides) {
		cab, err := s.Store.Cabinet(ctx)
		if err != nil {
			return nil, refused, err
		}
		var none []refusedEvent
		sound, none = settleShapes(sound, cab)
		refused = append(refused, none...)
		got = slices.DeleteFunc(got, func(id string) bool {
			return slices.ContainsFunc(none, func(r refusedEvent) bool { return r.ID == id })
		})
	}
	if len(sound) == 0 {
		return got, refused, nil
	}
	if err := s.KeepEvents(ctx, id, sound); err != nil {
		return nil, refused, err
	}
	return got, refused, nil
}

// why is what is wrong with an event, without the name of its field.
func why(err error) string {
	var f measure.Fault
	if errors.As(err, &f) {
		return f.Text
	}
	return err.Error()
}

// fromScreen is what a screen sends.
type fromScreen struct {
	Events []bench.Event `json:"events"`
	Echo   float64       `json:"echo"`
	Rev    string        `json:"rev"`
}

// answerScreen takes what a screen sent and says how the making stands.
func (s *Room) answerScreen(ctx context.Context, id uint64, in fromScreen) (State, error) {
	got, refused, err := s.takeEvents(ctx, id, in.Events)
	if err != nil {
		return State{}, err
	}
	out, err := s.benchStateOf(ctx, id, in.Rev)
	out.Got = got
	out.Refused = refused
	out.Echo = in.Echo
	return out, err
}

// PostEvents takes events by request: where no socket opens.
func (s *Room) PostEvents(c *page.Visit) error {
	id, ok := page.MakingID(c)
	var in fromScreen
	if !ok {
		c.JSON(http.StatusNotFound, gin.H{"error": "There is no such making."})
		return nil
	}
	if err := json.NewDecoder(c.Request.Body).Decode(&in); err != nil {
		c.JSON(http.StatusBadRequest, gin.H{"error": "That is no list of events: " + err.Error()})
		return nil
	}
	out, err := s.answerScreen(c.Request.Context(), id, in)
	switch {
	case errors.Is(err, store.ErrNotFound):
		c.JSON(http.StatusNotFound, gin.H{"error": "There is no such making."})
	case errors.Is(err, store.ErrFull):
		c.JSON(http.StatusTooManyRequests, gin.H{"error": "This making has as many events as it may have."})
	case store.IsFull(err):
		s.Log.Error("bench", "making", id, "err", err)
		c.JSON(http.StatusInsufficientStorage, gin.H{"error": page.DiskFull +
			" The tap is kept here until there is room."})
	case err != nil:
		s.Log.Error("bench", "making", id, "err", err)
		c.JSON(http.StatusServiceUnavailable, gin.H{"error": "The database does not answer."})
	default:
		c.JSON(http.StatusOK, out)
	}
	return nil
}

// silence is how often a screen is told of a scale that says nothing.
const silence = 5 * time.Second

// tellScale tells a screen what the scale says; false where the screen is gone.
func (s *Room) tellScale(ctx context.Context, conn *websocket.Conn) bool {
	sc := s.scale()
	if sc == nil {
		return true
	}
	doc, err := json.Marshal(struct {
		Scale *scaleNews `json:"scale"`
	}{sc})
	return err == nil && conn.Write(ctx, websocket.MessageText, doc) == nil
}

// recheck is how often a socket that stays open makes sure that its page is still signed in.
const recheck = 15 * time.Second

// hear hands on what a screen sends until it is gone, or sends what is nothing.
func hear(ctx context.Context, conn *websocket.Conn, in chan<- fromScreen) {
	for {
		_, message, err := conn.Read(ctx)
		if err != nil {
			return
		}
		var m fromScreen
		if json.Unmarshal(message, &m) != nil {
			return
		}
		select {
		case in <- m:
		case <-ctx.Done():
			return
		}
	}
}

// BenchLine is the line between one screen and its making: taps go up, news come down, over one socket, of which a
// browser allows more than of requests.
func (s *Room) BenchLine(c *page.Visit) error {
	id, ok := page.MakingID(c)
	if !ok {
		c.Status(http.StatusNotFound)
		return nil
	}
	conn, err := websocket.Accept(c.Writer, c.Request, nil) // refuses pages of another origin
	if err != nil {
		s.Log.Info("bench", "err", err)
		return nil
	}
	defer conn.CloseNow()
	conn.SetReadLimit(page.MaxBody)
	ctx, cancel := context.WithCancel(context.WithoutCancel(c.Request.Context()))
	defer cancel()
	sc, leave := s.Makings.Watch(id)
	defer leave()
	ear, deaf := s.Devices.Listen()
	defer deaf()
	checked := clock.Start()
	still := time.NewTicker(silence) // a scale that falls silent says nothing of it
	defer still.Stop()
	in := make(chan fromScreen)
	go func() {
		defer cancel()
		hear(ctx, conn, in)
	}()
	rev := ""
	for {
		var out State
		select {
		case <-ctx.Done():
			return nil
		case m := <-in:
			if len(m.Events) > 0 && !s.StillIn(c.Request, account.Makes) {
				conn.Close(websocket.StatusPolicyViolation, "signed out")
				return nil
			}
			if m.Rev != "" {
				rev = m.Rev
			}
			m.Rev = rev
			once, done := context.WithTimeout(ctx, page.DBTimeout)
			out, err = s.answerScreen(once, id, m)
			done()
		case <-sc.News:
			once, done := context.WithTimeout(ctx, page.DBTimeout)
			out, err = s.benchStateOf(once, id, rev)
			done()
		case <-ear:
			if !s.tellScale(ctx, conn) {
				return nil
			}
			continue
		case <-still.C:
			if checked.Taken() > recheck {
				if checked = clock.Start(); !s.StillIn(c.Request, account.Looks) {
					conn.Close(websocket.StatusPolicyViolation, "signed out")
					return nil
				}
			}
			if !s.tellScale(ctx, conn) {
				return nil
			}
			continue
		}
		if err != nil { // the screen asks anew, and keeps what it has not been told of
			s.Log.Warn("bench", "making", id, "err", err)
			conn.Close(websocket.StatusTryAgainLater, "the database does not answer")
			return nil
		}
		rev = out.Rev
		doc, err := json.Marshal(out)
		if err != nil || conn.Write(ctx, websocket.MessageText, doc) != nil {
			return nil
		}
	}
}
