package store

import "context"

// Raw runs a statement, for tests that need a database no hand could fill.
func (s *Store) Raw(ctx context.Context, statement string) error {
	return s.db.WithContext(ctx).Exec(statement).Error
}
