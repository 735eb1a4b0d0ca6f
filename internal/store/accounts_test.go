package store_test

import (
	"context"
	"database/sql"
	"errors"
	"testing"

	"hollen/internal/account"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// Of accounts one always keeps the workshop: the first, and where a database of before has none, no other is made until
// one does.
func TestSomebodyKeeps(t *testing.T) {
	ctx, dsn := context.Background(), storetest.DSN(t)
	s, err := store.Open(ctx, dsn, storetest.Now)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	hash, err := account.Hash(ctx, "a heron on the quay")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.AddAccount(ctx, "Osk", "makes", hash); !errors.Is(err, store.ErrFirstKeeps) {
		t.Errorf("the first makes: %v", err)
	}
	linde, err := s.AddAccount(ctx, "Linde", "keeps", hash)
	if err != nil {
		t.Fatal(err)
	}
	pool, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	defer pool.Close()
	if _, err := pool.Exec("UPDATE accounts SET role = 'makes'"); err != nil {
		t.Fatal(err)
	}
	if nobody, err := s.NobodyKeeps(ctx); err != nil || !nobody {
		t.Errorf("%v, %v", nobody, err)
	}
	if _, err := s.AddAccount(ctx, "Osk", "makes", hash); !errors.Is(err, store.ErrFirstKeeps) {
		t.Errorf("beside none that keeps: %v", err)
	}
	if err := s.SetRole(ctx, linde.ID, "keeps"); err != nil {
		t.Error(err)
	}
	if nobody, err := s.NobodyKeeps(ctx); err != nil || nobody {
		t.Errorf("mended: %v, %v", nobody, err)
	}
	if _, err := s.AddAccount(ctx, "Osk", "makes", hash); err != nil {
		t.Error(err)
	}
}
