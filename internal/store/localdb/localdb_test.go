package localdb

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"sync"
	"testing"
)

// The folder keeps its data and its password from one start to the next, and one process
// has it at a time.
func TestStartStopStart(t *testing.T) {
	ctx, dir := context.Background(), filepath.Join(t.TempDir(), "data with a space")
	s, err := Start(ctx, dir)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Stop()
	if !answers(ctx, s.DSN) {
		t.Fatal("does not answer")
	}
	var busy *BusyError
	if _, err := Start(ctx, dir); !errors.As(err, &busy) {
		t.Errorf("second start: %v", err)
	}
	if err := Reset(dir); !errors.As(err, &busy) {
		t.Errorf("reset while in use: %v", err)
	}
	password, _ := os.ReadFile(filepath.Join(dir, "password"))
	s.Stop()
	s.Stop()
	if answers(ctx, s.DSN) {
		t.Error("still answers after Stop")
	}
	again, err := Start(ctx, dir)
	if err != nil {
		t.Fatal(err)
	}
	again.Stop()
	if now, _ := os.ReadFile(filepath.Join(dir, "password")); len(password) != 32 || string(now) != string(password) {
		t.Error("the password has changed")
	}
	if err := Reset(dir); err != nil {
		t.Fatal(err)
	}
	if _, err := os.Stat(filepath.Join(dir, "mariadb")); err == nil {
		t.Error("reset keeps the database files")
	}
}

// Servers that start side by side do not touch each other's temporary files.
func TestStartTogether(t *testing.T) {
	var wg sync.WaitGroup
	for range 3 {
		dir := t.TempDir()
		wg.Go(func() {
			s, err := Start(context.Background(), dir)
			if err != nil {
				t.Error(err)
				return
			}
			s.Stop()
		})
	}
	wg.Wait()
}

func TestStartGivesUp(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	if _, err := Start(ctx, t.TempDir()); err == nil {
		t.Error("starts although it was called off")
	}
	file := filepath.Join(t.TempDir(), "file")
	if err := os.WriteFile(file, nil, 0o600); err != nil {
		t.Fatal(err)
	}
	if _, err := Start(context.Background(), file); err == nil {
		t.Error("starts in a file")
	}
}
