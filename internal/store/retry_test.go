package store

import (
	"errors"
	"fmt"
	"testing"

	"github.com/go-sql-driver/mysql"
)

// A transaction the server gave up on is tried again, any other failure is final.
func TestAgain(t *testing.T) {
	for _, c := range []struct {
		number    uint16
		failFirst int
		calls     int
		fails     bool
	}{{deadlock, 2, 3, false}, {lockTimeout, 1, 2, false}, {deadlock, 99, attempts, true}, {duplicateKey, 99, 1, true},
		{deadlock, 0, 1, false}} {
		calls := 0
		err := again(func() error {
			if calls++; calls <= c.failFirst {
				return fmt.Errorf("saving: %w", &mysql.MySQLError{Number: c.number})
			}
			return nil
		})
		if calls != c.calls || (err != nil) != c.fails {
			t.Errorf("%+v: %d calls, %v", c, calls, err)
		}
	}
	if err := again(func() error { return ErrDeleted }); !errors.Is(err, ErrDeleted) {
		t.Error(err)
	}
}
