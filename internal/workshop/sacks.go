package workshop

import (
	"context"
	"errors"
	"slices"
	"sync"
	"time"

	"hollen/internal/clock"
	"hollen/internal/core/bench"
	"hollen/internal/core/flour"
	"hollen/internal/core/learn"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/core/sack"
	"hollen/internal/store"
)

// airs keeps what was read of the air, until it is older than a mean.
type airs struct {
	mu       sync.Mutex
	from     time.Time // the oldest that was asked for
	readings []sack.Reading
	checked  clock.Watch
	cab      *store.Cabinet // as it was read last
	cabRead  clock.Watch
	known    map[knownSack]lotFollowed
	since    map[time.Time]*sack.Air // the air since a moment, in order
	then     map[plannedLot]plannedAs
}

// knownSack is what the moisture of a sack follows from.
type knownSack struct {
	lot  string
	at   int64 // in steps of airEvery
	day  string
	room sack.Room
	cab  *store.Cabinet
	air  *sack.Air // as it was read, before the room
	log  int       // its stamp
}

// plannedLot is a lot as a making was planned with it.
type plannedLot struct {
	making uint64
	lot    string
}

// lotFollowed is a sack that was followed.
type lotFollowed struct {
	learned  rules.LearnedSack
	moisture *sack.Moisture
	ok       bool
}

// mostKnown is how many are kept: a slider drawn across a page.
const mostKnown = 200

// airEvery is how long readings are used before they are read again: what is new by then moves no sack.
const airEvery = 5 * time.Minute

// oldestAir is how far back the air of a sack is followed: after that it has forgotten where it began.
const oldestAir = 400 * 24 * time.Hour

// lots is the cabinet whose lots are followed, read again when it may have changed; nil where it cannot be read.
func (w *Workshop) lots(ctx context.Context) *store.Cabinet {
	a := &w.airs
	a.mu.Lock()
	defer a.mu.Unlock()
	if a.cab != nil && a.cabRead.Taken() < learnEvery {
		return a.cab
	}
	cab, err := w.Store.Cabinet(ctx)
	if err != nil {
		return a.cab
	}
	a.cabRead = clock.Start()
	if old := a.cab; old != nil && len(old.Lots) == len(cab.Lots) && (len(cab.Lots) == 0 ||
		&old.Lots[0] == &cab.Lots[0]) {
		return old // as it was
	}
	a.cab = &cab
	return a.cab
}

// LotsChanged has the lots read anew when they are next asked for.
func (w *Workshop) LotsChanged() {
	w.airs.mu.Lock()
	w.airs.cab = nil
	w.airs.mu.Unlock()
}

// airSince returns the air since a moment, in order; whoever calls it holds the airs.
func (w *Workshop) airSince(ctx context.Context, opened time.Time) (*sack.Air, error) {
	all, err := w.readAir(ctx, opened)
	if err != nil {
		return nil, err
	}
	a := &w.airs
	if a.since[opened] == nil {
		readings := slices.DeleteFunc(slices.Clone(all), func(r sack.Reading) bool { return r.At.Before(opened) })
		a.since[opened] = sack.NewAir(w.Rules.Measure, readings, sack.Room{})
	}
	return a.since[opened], nil
}

// readAir returns what was read of the air since a moment: a sensor's means, and what was typed for makings.
func (w *Workshop) readAir(ctx context.Context, from time.Time) ([]sack.Reading, error) {
	a := &w.airs
	now := w.Now()
	if oldest := now.Add(-oldestAir); from.Before(oldest) {
		from = oldest
	}
	if a.readings != nil && !from.Before(a.from) && a.checked.Taken() < airEvery {
		return a.readings, nil
	}
	ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), learnWait)
	defer cancel()
	means, err := w.Store.RoomMeans(ctx, from, now)
	if err != nil {
		return nil, err
	}
	out := make([]sack.Reading, 0, len(means))
	for _, m := range means {
		out = append(out, sack.Reading{At: m.At, TempC: m.TempC, RH: m.RH, Sensor: m.Device})
	}
	log, _ := w.Learned(ctx)
	for _, e := range log.Entries() {
		if e.RH > 0 && e.Began.After(from) {
			out = append(out, sack.Reading{At: e.Began, TempC: e.TempC, RH: e.RH})
		}
	}
	a.readings = out
	a.from = from
	a.checked = clock.Start()
	a.since = map[time.Time]*sack.Air{}
	return out, nil
}

// Sack is a lot as a sack, with the air it stands in; nothing where nobody said when it was opened.
type Sack struct {
	Lot  *flour.Lot
	Kind flour.Flour
	sack.Sack
	Air  *sack.Air
	Read bool // something was measured of it or of its air since it was opened
	as   *sack.Air
}

// SackOf returns a lot as a sack in a room whose air stands for what nobody read; nil where nobody said when it was
// opened.
func (w *Workshop) SackOf(ctx context.Context, lot *flour.Lot, kind flour.Flour, room sack.Room) (*Sack, error) {
	ru := w.Rules
	s, ok := sack.OfLot(ru.Flour, ru.Measure, lot, kind)
	if !ok {
		return nil, nil
	}
	w.airs.mu.Lock()
	defer w.airs.mu.Unlock()
	air, err := w.airSince(ctx, s.Kept[0].At)
	if err != nil {
		return nil, err
	}
	measured := len(s.Kept) > 1 || len(s.Weighed)+len(s.Dried)+len(s.Measured) > 0
	return &Sack{Lot: lot, Kind: kind, Sack: s, Air: air.In(room), Read: measured || air.Read(), as: air}, nil
}

// sacks are the lots of a request of which something was measured, on its day.
func (w *Workshop) sacks(ctx context.Context, r *request.Request, cab *store.Cabinet) (out []rules.LearnedSack) {
	for i := range r.Flours {
		if f := w.follow(ctx, r, i, cab); f.ok {
			out = append(out, f.learned)
		}
	}
	return out
}

// FollowedLot is the moisture of the i-th flour of a request through the air its lot stood in; nil where nothing of it
// was measured.
func (w *Workshop) FollowedLot(ctx context.Context, r *request.Request, i int) *sack.Moisture {
	if cab := w.lots(ctx); cab != nil {
		return w.follow(ctx, r, i, cab).moisture
	}
	return nil
}

// follow follows the lot of the i-th flour to the day of the request.
func (w *Workshop) follow(ctx context.Context, r *request.Request, i int, cab *store.Cabinet) (out lotFollowed) {
	f := r.Flours[i]
	lot := cab.Lot(f.Lot)
	if lot == nil || f.MeasuredWB != nil {
		return out
	}
	room := sack.Room{TempC: r.Room.TempC, RH: r.Room.RH}
	s, err := w.SackOf(ctx, lot, f.Kind(), room)
	if err != nil {
		w.Log.Warn("air", "err", err) // the plan goes by steady air
		return out
	}
	now := w.Now()
	at, ahead := w.moment(r, now)
	if s == nil || !s.Read || !at.After(s.Kept[0].At) {
		return out
	}
	key := knownSack{f.Lot, at.Unix() / int64(airEvery.Seconds()), r.MadeOn, room, cab, s.as, w.LogStamp()}
	a := &w.airs
	a.mu.Lock()
	known, ok := a.known[key]
	a.mu.Unlock()
	if ok {
		return known
	}
	l := rules.LearnedSack{Lot: f.Lot}
	if ahead {
		l.Ahead = "room"
		if s.Air.Repeat(now) {
			l.Ahead = "week"
		}
	}
	ru := w.Rules
	m := s.Moisture(ru.Flour, ru.Measure, s.Air, at)
	l.WB, l.SD = m.WB, m.SD
	l.From, l.Held = string(m.From), m.Held
	l.SteadyWB = m.SteadyWB
	l.Since = m.Since.Local().Format(time.DateOnly)
	l.Bridged = m.Bridge.Hours() / 24
	w.since(ctx, s, &l, &m, at)
	out = lotFollowed{l, &m, true}
	a.mu.Lock()
	if a.known == nil || len(a.known) >= mostKnown {
		a.known = map[knownSack]lotFollowed{}
	}
	a.known[key] = out
	a.mu.Unlock()
	return out
}

// moment is when a request is made: now on its day, noon of another; ahead says that it is still to come.
func (w *Workshop) moment(r *request.Request, now time.Time) (at time.Time, ahead bool) {
	day := w.onDay(r)
	y, m, d := now.Date()
	today := time.Date(y, m, d, 0, 0, 0, 0, now.Location())
	switch noon := day.Add(12 * time.Hour); {
	case day.Before(today):
		return noon, false
	case !day.Before(today.AddDate(0, 0, 1)):
		return noon, true
	}
	return now, false
}

// since corrects a moisture by what has changed since the last batch of the lot somebody said a word of: the log has
// taken up what was wrong with the level then.
func (w *Workshop) since(ctx context.Context, s *Sack, l *rules.LearnedSack, now *sack.Moisture, at time.Time) {
	log, set := w.Learned(ctx)
	if set.Off {
		return
	}
	all := log.Residues()
	i := slices.IndexFunc(all, func(r learn.Residue) bool {
		return r.Evidence.Lot == s.Lot.Name && r.Began.Before(at)
	})
	if i < 0 || all[i].Began.Before(s.Kept[0].At) {
		return
	}
	ru := w.Rules
	then, sd, ok := s.Since(ru.Flour, ru.Measure, s.Air, now, all[i].Began)
	if !ok {
		return
	}
	planned, ok := w.planned(ctx, all[i].Making, s.Lot.Key)
	if !ok {
		return
	}
	// What its last batch was off is carried on as it was: nothing adds up over batches.
	if l.OffWB = planned.off; !planned.followed {
		l.OffWB = planned.wb - then
	}
	d := sack.Drift{WB: now.Level + l.OffWB}
	l.WB, l.Held = d.Shown(ru.Flour)
	l.ChangeSD = sd
}

// plannedAs is what a making's plan took a lot to hold: its moisture, share, and where its sack was followed how far
// off its level it was reckoned.
type plannedAs struct {
	wb, off  float64
	followed bool
}

// planned is what a making's plan took a lot to hold; false where it had none of it.
func (w *Workshop) planned(ctx context.Context, making uint64, lot string) (out plannedAs, ok bool) {
	a := &w.airs
	a.mu.Lock()
	defer a.mu.Unlock()
	key := plannedLot{making, lot}
	if out, ok = a.then[key]; ok {
		return out, out.wb > 0
	}
	m, err := w.Store.Making(ctx, making)
	if err != nil {
		return out, false
	}
	if p, err := m.Plan(); err == nil {
		for i, f := range p.Request.Flours {
			if f.Lot == lot {
				out.wb = p.Formula.Flours[i].Moisture.NowWB
			}
		}
	}
	if s := m.Rules.Learned.Sack(lot); s != nil {
		out.off, out.followed = s.OffWB, true
	}
	if a.then == nil || len(a.then) > 1000 {
		a.then = map[plannedLot]plannedAs{}
	}
	a.then[key] = out
	return out, out.wb > 0
}

// weighsSack says whether an event may change what is known of a sack.
func weighsSack(e bench.Event) bool {
	switch e.Says.(type) {
	case bench.SackWeighed, bench.TakenBack:
		return true
	}
	return false
}

// noteSacks has the history of every lot say what a making's bench says of its sack, and nothing it does not say any
// more; again where another window kept the lot meanwhile.
func (w *Workshop) noteSacks(ctx context.Context, making uint64) (err error) {
	for range 4 {
		if err = w.noteSacksOnce(ctx, making); !errors.Is(err, store.ErrChanged) {
			return err
		}
	}
	return err
}

func (w *Workshop) noteSacksOnce(ctx context.Context, making uint64) error {
	_, run, _, err := w.Makings.At(ctx, making)
	if err != nil {
		return err
	}
	said := map[string][]flour.LotEvent{}
	for _, e := range run.State.Remarks {
		if x, ok := e.Says.(bench.SackWeighed); ok {
			kind := flour.LotWeighed
			if x.When == bench.SackTaken {
				kind = flour.LotTaken
			}
			said[x.Lot] = append(said[x.Lot], flour.LotEvent{At: e.At.UTC().Truncate(time.Millisecond), Kind: kind,
				G:     x.G,
				StepG: benchStepG, By: e.By, Making: making})
		}
	}
	things, err := w.Store.Things(ctx, false)
	if err != nil {
		return err
	}
	for _, t := range things {
		l, is := t.Value.(flour.Lot)
		if !is {
			continue
		}
		was := slices.Clone(l.History)
		l.History = slices.DeleteFunc(slices.Clone(l.History),
			func(e flour.LotEvent) bool { return e.Making == making })
		for _, e := range said[l.Name] {
			l.Add(e)
		}
		same := func(a, b flour.LotEvent) bool {
			at := a.At.Equal(b.At)
			a.At = b.At
			return at && a == b
		}
		if slices.EqualFunc(was, l.History, same) {
			continue
		}
		if _, err := w.Store.Keep(ctx, store.LotKind, t.ID, t.Version, l); err != nil {
			return err
		}
		w.LotsChanged()
	}
	return nil
}

// benchStepG is the step of a scale at the bench, g.
const benchStepG = 1
