package cabinet

import (
	"context"
	"fmt"
	"net/http"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"hollen/internal/clock"
	"hollen/internal/core/measure"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// careView is what the house says of its data: backups, room on the disk, who may sign in.
type careView struct {
	Last   string // when the last backup was made, "" without any
	Missed bool   // a night was missed
	Kept   int    // backups
	Here   bool   // backups are made by themselves
	Done   bool   // one has just been made
	Uses   string // room the database takes
	Free   string // on its disk
	Low    bool   // little is left
	SignIn bool

	Damaged, Ahead string // files that are no backups, or are dated after now
}

// lowOn is under how much free room on a disk it is said, bytes.
const lowOn = 1 << 30

// care reads it.
func (s *Room) care(ctx context.Context, done bool) *careView {
	dir := s.backups
	v := &careView{Here: dir != "", SignIn: s.SignIn, Done: done}
	if size, err := s.Store.Size(ctx); err == nil {
		v.Uses = bytesWords(uint64(size))
	}
	if dir == "" {
		return v
	}
	kept := store.LookedAt(dir, s.Now())
	last := kept.Last
	v.Kept, v.Missed = kept.Whole, last.IsZero() || s.Now().Sub(last) > store.MissedAfter
	v.Damaged, v.Ahead = strings.Join(kept.Damaged, ", "), strings.Join(kept.Ahead, ", ")
	if !last.IsZero() {
		v.Last = ageWords(s.Now().Sub(last))
	}
	var fs syscall.Statfs_t
	if syscall.Statfs(filepath.Dir(dir), &fs) == nil {
		free := uint64(fs.Bavail) * uint64(fs.Bsize)
		v.Free, v.Low = bytesWords(free), free < lowOn
	}
	return v
}

// bytesWords are bytes as people say them.
func bytesWords(n uint64) string {
	switch {
	case n >= 10<<30:
		return fmt.Sprintf("%d GB", n>>30)
	case n >= 1<<30:
		return fmt.Sprintf("%.1f GB", float64(n)/(1<<30))
	}
	return fmt.Sprintf("%d MB", (n+1<<19)>>20)
}

// ageWords is how long ago something was.
func ageWords(d time.Duration) string {
	switch {
	case d < 2*time.Minute:
		return "just now"
	case d < 2*time.Hour:
		return fmt.Sprintf("%d minutes ago", int(d.Minutes()))
	case d < 48*time.Hour:
		return fmt.Sprintf("%d hours ago", int(d.Hours()))
	}
	return measure.Plural(int(d.Hours()/24), "day", "days") + " ago"
}

// backupFor is how long writing a backup may take.
const backupFor = 10 * time.Minute

// DownloadBackup hands out everything, without passwords.
func (s *Room) DownloadBackup(c *page.Visit) error {
	ctx, cancel := context.WithTimeout(context.WithoutCancel(c.Request.Context()), backupFor)
	defer cancel()
	_ = http.NewResponseController(c.Writer).SetWriteDeadline(clock.Deadline(backupFor))
	c.Header("Content-Type", "application/zip")
	c.Header("Content-Disposition", fmt.Sprintf("attachment; filename=\"hollen-%s.zip\"",
		s.Now().Format(time.DateOnly)))
	if _, err := s.Store.Backup(ctx, c.Writer, false); err != nil {
		if !c.Writer.Written() {
			c.Header("Content-Disposition", "inline")
			return err
		}
		s.Log.Error("backup", "err", err) // a file that is cut off lacks its list, and is none
		return nil
	}
	s.Audit(c, "backup", "downloaded")
	return nil
}

// BackUp makes one of the nightly backups now.
func (s *Room) BackUp(c *page.Visit) error {
	if s.backups == "" {
		return page.Refuse(http.StatusNotFound, "Backups are not made by themselves here.",
			"“hollen backup FILE” makes one.")
	}
	ctx, cancel := context.WithTimeout(context.WithoutCancel(c.Request.Context()), backupFor)
	defer cancel()
	_ = http.NewResponseController(c.Writer).SetWriteDeadline(clock.Deadline(backupFor))
	if _, err := s.Store.BackupTo(ctx, s.backups); err != nil {
		return err
	}
	s.Audit(c, "backup", "made")
	c.Redirect(http.StatusSeeOther, "/cabinet/house?backup=1")
	return nil
}
