package workshop

import (
	"context"
	"slices"
	"sync"
	"time"

	"hollen/internal/clock"
	"hollen/internal/core/learn"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/store"
)

// learner keeps the newest of the log weighed, until the log changes.
type learner struct {
	mu      sync.Mutex
	log     *learn.Log
	set     store.LogSettings
	stamp   int
	checked clock.Watch
}

// learnEvery is how often it is asked whether another process has logged something.
const learnEvery = time.Second

// learnWait is how long a plan waits for the log: without it, it goes by what was known.
const learnWait = 2 * time.Second

// Learned is the log as it is weighed now; none where it cannot be read, which plans do without.
func (s *Workshop) Learned(ctx context.Context) (*learn.Log, store.LogSettings) {
	l := &s.learner
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.log != nil && l.checked.Taken() < learnEvery {
		return l.log, l.set
	}
	// a change that is overtaken still reads for the next
	ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), learnWait)
	defer cancel()
	stamp, err := s.Store.LogStamp(ctx)
	if err == nil && (stamp != l.stamp || l.log == nil) {
		err = l.read(ctx, s.Store, s.Rules.Learn, &stamp)
	}
	if err != nil {
		s.Log.Warn("log", "err", err)
		if l.log == nil {
			l.log, stamp = learn.Read(s.Rules.Learn, nil, nil), -1 // read as soon as it can be
		} else {
			stamp = l.stamp
		}
	}
	l.stamp, l.checked = stamp, clock.Start()
	return l.log, l.set
}

// read reads the log as it is weighed.
func (l *learner) read(ctx context.Context, st *store.Store, ru rules.Learn, stamp *int) error {
	log, set, at, err := st.Learned(ctx, ru)
	if err == nil {
		l.log = log
		l.set = set
		*stamp = at
	}
	return err
}

// LogChanged has the log weighed anew when it is next asked for.
func (s *Workshop) LogChanged() {
	s.learner.mu.Lock()
	s.learner.checked = clock.Watch{}
	s.learner.mu.Unlock()
}

// LearnedBy returns what says of a request what the log has learned of it.
func (s *Workshop) LearnedBy(ctx context.Context) func(*request.Request) rules.Learned {
	return func(r *request.Request) rules.Learned {
		var sacks []rules.LearnedSack
		if slices.ContainsFunc(r.Flours, func(f request.FlourPart) bool { return f.Lot != "" }) {
			if cab := s.lots(ctx); cab != nil {
				sacks = s.sacks(ctx, r, cab)
			}
		}
		l, set := s.Learned(ctx)
		if l.Empty() || set.Off || r.ByTheBook {
			return rules.Learned{Sacks: sacks}.Rounded()
		}
		out := l.For(r, func() string {
			p, err := plan.Make(s.Rules, *r)
			if err != nil {
				return ""
			}
			return string(p.Knead.School)
		}, learn.Whose{Maker: r.MadeBy, On: s.onDay(r)})
		if slices.Contains(
			set.Flours,
			plan.FlourLabel(r.Flours),
		) { // its water alone: that is what stands beside the key
			out.Hw = rules.LearnedPoints{}
		}
		out.Sacks = sacks
		return out.Rounded()
	}
}

// onDay is the day a request is made on, today where it names none.
func (s *Workshop) onDay(r *request.Request) time.Time {
	if t, err := time.ParseInLocation(time.DateOnly, r.MadeOn, time.Local); err == nil {
		return t
	}
	return s.Now()
}

// RulesOf are the rules a request is worked out by, with what is learned of it.
func (s *Workshop) RulesOf(ctx context.Context, r *request.Request) rules.Rules {
	ru := s.Rules
	ru.Learned = s.LearnedBy(ctx)(r)
	return ru
}

// LogStamp says which state of the log Learned returned last: another number, another log.
func (s *Workshop) LogStamp() int {
	s.learner.mu.Lock()
	defer s.learner.mu.Unlock()
	return s.learner.stamp
}
