package main

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"golang.org/x/sys/unix"

	"hollen/internal/demo"
)

// No command makes a database where there is none to work on, by a slip of the pen least of all.
func TestCommandsWantADatabase(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "tpyo")
	good := filepath.Join(t.TempDir(), "good.zip")
	if err := os.WriteFile(good, []byte("what was good"), 0o600); err != nil {
		t.Fatal(err)
	}
	t.Setenv("HOLLEN_PASSWORD", "three otters and a gull")
	for _, args := range [][]string{{"backup", good}, {"backup", good, "--less"}, {"remake"}, {"refit"}, {"user",
		"list"}, {"user", "add", "Kate"},
		{"device", "list"}, {"device", "add", "a-scale"}, {"restore", "--beside", good}} {
		code, out, errs := call("", append(args, "--data", dir)...)
		if code != exitFailed || out != "" ||
			!strings.Contains(errs, "there is no database in "+dir) && args[0] != "restore" {
			t.Errorf("%v: %d %q %q", args, code, out, errs)
		}
	}
	if _, err := os.Stat(dir); err == nil {
		t.Errorf("%s has been made", dir)
	}
	if b, _ := os.ReadFile(good); string(b) != "what was good" {
		t.Errorf("the file that was there: %q", b)
	}
}

// A workshop’s folder is never the demo’s: neither served as it nor emptied. A backup takes the place of none unless
// told, and of one with more
// in it only when told so.
func TestNoCommandLosesAWorkshop(t *testing.T) {
	work, shown := t.TempDir(), t.TempDir()
	file := filepath.Join(work, "all.zip")
	t.Run("a workshop", func(t *testing.T) {
		serving(t, "http://", "serve", "--data", work, "--log", filepath.Join(work, "log"))
		if code, out, errs := call("", "device", "add", "bench-scale", "--data", work); code != 0 {
			t.Fatalf("%d %s %s", code, out, errs)
		}
	})
	t.Setenv("HOLLEN_PASSWORD", "three otters and a gull")
	if code, _, errs := call("", "user", "add", "Kate", "--data", work); code != exitFailed ||
		!strings.Contains(errs, "somebody has to keep") {
		t.Errorf("a first account that makes: %d %q", code, errs)
	}
	for _, args := range [][]string{{"demo"}, {"demo", "--fresh"}} {
		code, out, errs := call("", append(args, "--data", work)...)
		if code != exitFailed || out != "" || !strings.Contains(errs, "the demo did not make") {
			t.Errorf("%v: %d %q %q", args, code, out, errs)
		}
	}
	if _, out, errs := call("", "device", "list", "--data", work); !strings.Contains(out, "bench-scale") {
		t.Errorf("after both: %q %q", out, errs)
	}
	t.Run("the demo", func(t *testing.T) {
		serving(t, "http://", "demo", "--data", shown, "--log", filepath.Join(shown, "log"))
		if code, out, errs := call("", "backup", file, "--data", shown); code != 0 ||
			!strings.Contains(out, fmt.Sprint(len(demo.Batches()))+" batches") ||
			!strings.Contains(out, "of "+shown) {
			t.Errorf("%d %s %s", code, out, errs)
		}
	})
	was, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	text := filepath.Join(work, "notes.txt")
	if err := os.WriteFile(text, []byte("notes"), 0o600); err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		file, flag, want string
	}{{file, "", "--replace replaces it"}, {file, "--replace", "batches for 0"}, {text, "", "no backup of Hollen’s"},
		{text, "--less", "no backup of Hollen’s"}} {
		args := []string{"backup", c.file, "--data", work}
		if c.flag != "" {
			args = append(args, c.flag)
		}
		code, out, errs := call("", args...)
		if code != exitFailed || out != "" || !strings.Contains(errs, c.want) {
			t.Errorf("%v: %d %q %q", args, code, out, errs)
		}
	}
	if now, _ := os.ReadFile(file); string(now) != string(was) {
		t.Error("the backup that was there is another")
	}
	if code, out, errs := call("", "backup", file, "--data", work, "--less"); code != 0 ||
		!strings.Contains(out, "of "+work) {
		t.Errorf("%d %q %q", code, out, errs)
	}
	if left, _ := filepath.Glob(filepath.Join(work, "*.part")); len(left) > 0 {
		t.Errorf("left: %v", left)
	}
	// What is served as one's own is one's own, the demo's folder, too.
	t.Run("taken over", func(t *testing.T) {
		serving(t, "http://", "serve", "--data", shown, "--log", filepath.Join(shown, "log"))
	})
	if code, _, errs := call("", "demo", "--fresh", "--data", shown); code != exitFailed ||
		!strings.Contains(errs, "the demo did not make") {
		t.Errorf("%d %q", code, errs)
	}
}

// On a terminal a password is asked for twice and not shown; a first account that does not keep is refused.
func TestPasswordOnATerminal(t *testing.T) {
	master, err := os.OpenFile("/dev/ptmx", os.O_RDWR, 0)
	if err != nil {
		t.Skip("no terminals here")
	}
	defer master.Close()
	n, err := unix.IoctlGetInt(int(master.Fd()), unix.TIOCGPTN)
	if err == nil {
		err = unix.IoctlSetPointerInt(int(master.Fd()), unix.TIOCSPTLCK, 0)
	}
	if err != nil {
		t.Skip("no terminals here")
	}
	tty, err := os.OpenFile(fmt.Sprintf("/dev/pts/%d", n), os.O_RDWR|unix.O_NOCTTY, 0)
	if err != nil {
		t.Skip("no terminals here")
	}
	defer tty.Close()
	seen := make(chan string, 1)
	go func() {
		b := make([]byte, 1000)
		n, _ := master.Read(b)
		seen <- string(b[:n])
	}()
	ask := func(words ...string) (string, error) {
		var asked lines
		type said struct {
			word string
			err  error
		}
		done := make(chan said, 1)
		ctx, stop := context.WithTimeout(context.Background(), 20*time.Second)
		defer stop()
		go func() {
			word, err := password(ctx, tty, &asked, "")
			done <- said{word, err}
		}()
		for i, l := range words {
			for range 500 { // until it is asked for, and the terminal shows nothing any more
				state, err := unix.IoctlGetTermios(int(tty.Fd()), unix.TCGETS)
				if strings.Count(asked.String(), ":") == i+1 && err == nil && state.Lflag&unix.ECHO == 0 {
					break
				}
				time.Sleep(10 * time.Millisecond)
			}
			_, _ = master.WriteString(l + "\n")
		}
		s := <-done
		return s.word, s.err
	}
	if word, err := ask("three otters and a gull", "three otters and a gull"); err != nil ||
		word != "three otters and a gull" {
		t.Errorf("%q %v", word, err)
	}
	if word, err := ask("three otters and a gull", "three otters and a gul"); err == nil || word != "" ||
		!strings.Contains(err.Error(), "not the same") {
		t.Errorf("%q %v", word, err)
	}
	select {
	case s := <-seen:
		if strings.Contains(s, "otters") {
			t.Errorf("shown: %q", s)
		}
	default:
	}
}
