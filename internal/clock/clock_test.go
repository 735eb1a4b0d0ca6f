package clock

import (
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"
)

// The program has one clock: nothing but this package, the stand-ins for devices and the starting of the private server
// asks the machine.
func TestOneClock(t *testing.T) {
	out, err := exec.Command("go", "list", "-f", `{{$d := .Dir}}{{range .GoFiles}}{{$d}}/{{.}}{{"\n"}}{{end}}`,
		"hollen/...").
		Output()
	if err != nil {
		t.Fatal(err)
	}
	asks := regexp.MustCompile(`\btime\.(Now|Since|Until)\b`)
	seen := 0
	for _, file := range strings.Fields(string(out)) {
		dir := filepath.ToSlash(filepath.Dir(file))
		if strings.HasSuffix(dir, "/internal/clock") || strings.HasSuffix(dir, "/device/sim") ||
			strings.HasSuffix(dir, "/store/localdb") {
			continue
		}
		seen++
		if at := asks.FindString(read(t, file)); at != "" {
			t.Errorf(
				"%s asks %s: dates go by the clock that was handed in, durations by clock.Start",
				filepath.Base(file),
				at,
			)
		}
	}
	if seen < 100 {
		t.Errorf("only %d files were read", seen)
	}
}

func TestForTests(t *testing.T) {
	t.Setenv(At, "2028-02-29T10:00:00Z")
	c, err := ForTests()
	if err != nil {
		t.Fatal(err)
	}
	if got := c().UTC().Format(time.DateOnly); got != "2028-02-29" {
		t.Errorf("the clock says %s", got)
	}
	t.Setenv(At, "soon")
	if _, err := ForTests(); err == nil {
		t.Error("“soon” is taken for a moment")
	}
}

func read(t *testing.T, file string) string {
	t.Helper()
	b, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	return string(b)
}
