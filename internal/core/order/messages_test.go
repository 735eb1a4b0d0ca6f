package order

import (
	"fmt"
	"os"
	"strings"
	"testing"
)

// TestMessages: sixty messages in six languages are read right or asked about, and none is read wrong.
func TestMessages(t *testing.T) {
	raw, err := os.ReadFile("testdata/messages.txt")
	if err != nil {
		t.Fatal(err)
	}
	n := 0
	for line := range strings.Lines(string(raw)) {
		if line = strings.TrimSpace(line); line == "" || line[0] == '#' {
			continue
		}
		n++
		message, want, _ := strings.Cut(line, " | ")
		all, wrong := Read(message, today)
		if want == "?" {
			if len(all) > 0 || len(wrong) == 0 {
				t.Errorf("%s: not asked: %+v", message, all)
			}
			continue
		}
		var got []string
		for _, a := range all {
			when := Clock(a.When.Due)
			if a.When.Date != "" {
				when = a.When.Date + " " + when
			}
			got = append(got, fmt.Sprintf("%s/%s/%s/%s/%s", a.Who, a.What, a.Amount.Text(), when, a.Note))
		}
		want = strings.ReplaceAll(want, " pezzi/", " pieces/")
		if said := strings.Join(got, " + "); said != want || len(wrong) > 0 {
			t.Errorf("%s\n\tread %s %v\n\twant %s", message, said, wrong, want)
		}
	}
	if n < 60 {
		t.Errorf("%d messages", n)
	}
}
