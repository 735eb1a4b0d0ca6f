package store

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

// Nightly backups: so many that are whole are kept, and a night was missed when the last is older than this.
const (
	KeptBackups = 14
	MissedAfter = 30 * time.Hour
)

// backupName begins the name of a backup that was made by itself.
const backupName = "hollen-"

const backupStamp = "2006-01-02T15-04-05Z"

// BackupTo writes a backup into a folder, whole or not at all, and keeps the newest of those made so.
func (s *Store) BackupTo(ctx context.Context, dir string) (file string, err error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return "", err
	}
	file = filepath.Join(dir, backupName+s.now().UTC().Format(backupStamp)+".zip")
	if _, err := s.BackupFile(ctx, file, true, nil); err != nil {
		return "", err
	}
	if !verifiedFile(file) {
		return "", fmt.Errorf("backup: %s is not whole when it is read again: %w", file, ErrBackup)
	}
	thin(dir, s.now())
	return file, nil
}

// BackupFile writes a backup to a file, whole or not at all: beside it first, and in its place where may, if there is
// one, does not object.
func (s *Store) BackupFile(ctx context.Context, file string, secrets bool, may func(Backup) error) (b Backup,
	err error) {
	tmp, err := os.OpenFile(file+".part", os.O_WRONLY|os.O_CREATE|os.O_TRUNC, 0o600)
	if err != nil {
		return b, err
	}
	b, err = s.Backup(ctx, tmp, secrets)
	if err = errors.Join(err, tmp.Sync(), tmp.Close()); err != nil {
		err = fmt.Errorf("backup: %w", err)
	} else if may != nil {
		err = may(b)
	}
	if err == nil {
		err = os.Rename(file+".part", file)
	}
	if err != nil {
		_ = os.Remove(file + ".part")
	}
	return b, err
}

// Backups are the names of the backups made by themselves in a folder, the oldest first.
func Backups(dir string) (out []string) {
	all, _ := os.ReadDir(dir)
	for _, f := range all {
		if _, ok := backupTime(f.Name()); ok {
			out = append(out, f.Name())
		}
	}
	slices.Sort(out)
	return out
}

func backupTime(name string) (time.Time, bool) {
	stamp, ok := strings.CutPrefix(strings.TrimSuffix(name, ".zip"), backupName)
	t, err := time.Parse(backupStamp, stamp)
	return t, ok && err == nil && strings.HasSuffix(name, ".zip")
}

// backupAt is the hour of the night backups are made at, by the clock here.
const backupAt = 3

// nextBackup is when the next one is due: at once where none has been made since it was last due, at night otherwise.
func nextBackup(last, now time.Time) time.Time {
	night := func(days int) time.Time {
		return time.Date(now.Year(), now.Month(), now.Day()+days, backupAt, 0, 0, 0, now.Location())
	}
	due, next := night(0), night(1)
	if due.After(now) {
		due, next = night(-1), night(0)
	}
	if last.Before(due) {
		return now
	}
	return next
}

// Nightly makes a backup every night until ctx ends, and one soon after it begins where the last is too old. What fails
// is told and tried
// again within the hour.
func (s *Store) Nightly(ctx context.Context, dir string, settle time.Duration) {
	wait := settle
	for {
		select {
		case <-ctx.Done():
			return
		case <-time.After(wait):
		}
		if err := s.ClearLeft(ctx, dir); err != nil && ctx.Err() == nil {
			s.log.Warn("clearing what was left", "err", err)
		}
		now := s.now()
		if due := nextBackup(LookedAt(dir, now).Last, now); due.After(now) {
			wait = min(due.Sub(now), time.Hour) // a clock may be put right meanwhile
			continue
		}
		if _, err := s.BackupTo(ctx, dir); err != nil && ctx.Err() == nil {
			s.log.Error("nightly backup", "err", err)
		}
		wait = time.Hour
	}
}

// Size is how much room the database takes, bytes.
func (s *Store) Size(ctx context.Context) (n int64, err error) {
	err = s.db.WithContext(ctx).Raw("SELECT COALESCE(SUM(data_length + index_length), 0) FROM " +
		"information_schema.tables " +
		"WHERE table_schema = DATABASE()").Scan(&n).Error
	return n, err
}
