// Package core holds the sums; this test holds the rule of what they may import.
package core

import (
	"os/exec"
	"slices"
	"strings"
	"testing"
)

// forbidden are standard packages with a clock, a disk, a network or a page behind them.
var forbidden = []string{"net", "net/http", "os", "os/exec", "database/sql", "html/template", "text/template", "log",
	"log/slog", "io/fs", "embed",
	"math/rand"}

func deps(t *testing.T, pattern string) map[string][]string {
	t.Helper()
	out, err := exec.Command("go", "list", "-f", "{{.ImportPath}} {{join .Imports \" \"}}", pattern).CombinedOutput()
	if err != nil {
		t.Fatalf("go list: %v\n%s", err, out)
	}
	all := map[string][]string{}
	for _, line := range strings.Split(strings.TrimSpace(string(out)), "\n") {
		f := strings.Fields(line)
		all[f[0]] = f[1:]
	}
	return all
}

// Arrows run one way: core never looks up, and draw looks at nothing but core.
func TestImportsRunOneWay(t *testing.T) {
	core := deps(t, "hollen/internal/core/...")
	if len(core) < 10 {
		t.Fatalf("only %d packages found", len(core))
	}
	for pkg, imports := range core {
		for _, i := range imports {
			own := strings.HasPrefix(i, "hollen/")
			switch {
			case own && !strings.HasPrefix(i, "hollen/internal/core/"):
				t.Errorf("%s imports %s: core never looks up", pkg, i)
			case !own && strings.Contains(strings.Split(i, "/")[0], ".") && !strings.HasPrefix(i, "gonum.org/"):
				t.Errorf("%s imports %s: core takes the standard library and gonum only", pkg, i)
			}
			for _, f := range forbidden {
				if i == f {
					t.Errorf("%s imports %s: core has no I/O and no clock", pkg, i)
				}
			}
		}
	}
	form := "hollen/internal/web/form"
	for _, i := range deps(t, form)[form] {
		if strings.Contains(i, "gin") || i == "hollen/internal/web" {
			t.Errorf("%s imports %s: a form knows no page", form, i)
		}
	}
	rooms := deps(t, "hollen/internal/web/...")
	if len(rooms) < 10 {
		t.Fatalf("only %d packages of pages found", len(rooms))
	}
	// A room looks at what all pages share and at forms, never at another room; the server alone knows them all.
	shared := map[string][]string{"form": nil, "static": nil, "page": {"form", "static"}}
	for pkg, imports := range rooms {
		room, ok := strings.CutPrefix(pkg, "hollen/internal/web/")
		if !ok {
			continue // the server
		}
		may, isShared := shared[room]
		if !isShared {
			may = []string{"page", "form"}
		}
		for _, i := range imports {
			to, ok := strings.CutPrefix(i, "hollen/internal/web")
			if ok && !slices.Contains(may, strings.TrimPrefix(to, "/")) {
				t.Errorf("%s imports %s: it may look at %v alone", pkg, i, may)
			}
		}
	}
	for _, i := range deps(t, "hollen/internal/workshop")["hollen/internal/workshop"] {
		if strings.HasPrefix(i, "hollen/internal/web") || strings.Contains(i, "gin") {
			t.Errorf("workshop imports %s: it knows no page", i)
		}
	}
	lower := []string{"hollen/internal/draw", "hollen/internal/exchange", "hollen/internal/store"}
	for _, pkg := range lower {
		for _, i := range deps(t, pkg)[pkg] {
			if strings.HasPrefix(i, "hollen/") && !strings.HasPrefix(i, "hollen/internal/core/") &&
				i != "hollen/internal/clock" {
				t.Errorf("%s imports %s: it may look at core and the clock alone", pkg, i)
			}
		}
	}
}
