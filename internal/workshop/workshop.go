// Package workshop is what is known of a workshop besides what its database holds word for word: its makings under way
// as they stand, and what its log has taught. Both are kept in memory by the stamp of what they were read from, so
// that any number of processes may serve one database.
package workshop

import (
	"log/slog"
	"time"

	"hollen/internal/core/rules"
	"hollen/internal/store"
)

// Workshop is a workshop as this process knows it.
type Workshop struct {
	Store   *store.Store
	Rules   rules.Rules // of every plan made here
	Log     *slog.Logger
	Makings *Follower // the makings under way

	learner learner
	airs    airs
}

// New returns the workshop of a store.
func New(s *store.Store, ru rules.Rules, log *slog.Logger) *Workshop {
	s.Log(log)
	return &Workshop{Store: s, Rules: ru, Log: log, Makings: newFollower(s)}
}

// Now is the moment by the store's clock, the only one there is.
func (w *Workshop) Now() time.Time { return w.Store.Now() }
