package web

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

// learned is the log as it is weighed now; none where it cannot be read, which plans do without.
func (s *Server) learned(ctx context.Context) (*learn.Log, store.LogSettings) {
	l := &s.learner
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.log != nil && l.checked.Taken() < learnEvery {
		return l.log, l.set
	}
	// a change that is overtaken still reads for the next
	ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), learnWait)
	defer cancel()
	stamp, err := s.store.LogStamp(ctx)
	if err == nil && (stamp != l.stamp || l.log == nil) {
		err = l.read(ctx, s.store, s.rules.Learn, &stamp)
	}
	if err != nil {
		s.log.Warn("log", "err", err)
		if l.log == nil {
			l.log, stamp = learn.Read(s.rules.Learn, nil, nil), -1 // read as soon as it can be
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
		l.log, l.set, *stamp = log, set, at
	}
	return err
}

// logChanged has the log weighed anew when it is next asked for.
func (s *Server) logChanged() {
	s.learner.mu.Lock()
	s.learner.checked = clock.Watch{}
	s.learner.mu.Unlock()
}

// learnedBy returns what says of a request what the log has learned of it.
func (s *Server) learnedBy(ctx context.Context) func(*request.Request) rules.Learned {
	return func(r *request.Request) rules.Learned {
		l, set := s.learned(ctx)
		if l.Len() == 0 || set.Off || r.ByTheBook {
			return rules.Learned{}
		}
		out := l.For(r, func() string {
			p, err := plan.Make(s.rules, *r)
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
		return out
	}
}

// onDay is the day a request is made on, today where it names none.
func (s *Server) onDay(r *request.Request) time.Time {
	if t, err := time.ParseInLocation(time.DateOnly, r.MadeOn, time.Local); err == nil {
		return t
	}
	return s.now()
}

// rulesOf are the rules a request is worked out by, with what is learned of it.
func (s *Server) rulesOf(ctx context.Context, r *request.Request) rules.Rules {
	ru := s.rules
	ru.Learned = s.learnedBy(ctx)(r)
	return ru
}
