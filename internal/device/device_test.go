package device

import (
	"strings"
	"testing"
	"time"
)

func TestReadings(t *testing.T) {
	for line, ok := range map[string]bool{`{"g":541.5,"at":"2026-11-28T09:00:00Z"}`: true, `{"g":0}`: true,
		`{"g":1e9}`: false, `{}`: false, `x`: false,
		``: false, `{"g":"much"}`: false,
		`{"g":1,"at":"0001-01-01T00:00:00Z"}`: false, `{"g":1,"at":"9999-12-31T00:00:00Z"}`: false,
		`{"g":1,"at":null}`: true} {
		if _, err := Read(Scale, []byte(line)); (err == nil) != ok {
			t.Errorf("%s: %v", line, err)
		}
	}
	for line, ok := range map[string]bool{`{"t_c":21.3,"rh":0.44}`: true, `{"t_c":21.3}`: false,
		`{"t_c":21.3,"rh":44}`: false, `{"t_c":210,"rh":0.4}`: false} {
		if _, err := Read(Room, []byte(line)); (err == nil) != ok {
			t.Errorf("%s: %v", line, err)
		}
	}
}

// Steady is half a gram either way for a second and a half; a flood is passed over; who is silent is silent, not
// nought.
func TestHub(t *testing.T) {
	var h Hub
	now := time.Date(2026, 11, 28, 9, 0, 0, 0, time.UTC)
	if _, ok := h.Of(Scale); ok {
		t.Error("nobody has spoken")
	}
	ear, stop := h.Listen()
	defer stop()
	say := func(g float64, after time.Duration) Latest {
		now = now.Add(after)
		h.Hear("bench", Scale, Reading{G: &g}, now)
		l, _ := h.Of(Scale)
		return l
	}
	for i := range 15 {
		if l := say(500+.4*float64(i%2), 100*time.Millisecond); l.Steady {
			t.Errorf("steady after %d readings", i+1)
		}
	}
	if l := say(500.2, 100*time.Millisecond); !l.Steady {
		t.Error("1.5 s within half a gram is steady")
	}
	if l := say(512, 100*time.Millisecond); l.Steady {
		t.Error("steady as it jumps")
	}
	select {
	case <-ear:
	default:
		t.Error("nobody was told")
	}
	taken := 0
	g := 5.
	for range 200 {
		if h.Hear("bench", Scale, Reading{G: &g}, now) {
			taken++
		}
	}
	if taken > MostASecond {
		t.Errorf("%d readings taken at once", taken)
	}
	l, _ := h.Of(Scale)
	if l.Silent(now.Add(9*time.Second)) || !l.Silent(now.Add(11*time.Second)) || *l.Read.G != 5 {
		t.Errorf("%+v", l)
	}
	if !strings.Contains(string(Scale), "scale") || Room.Silent() != 10*time.Minute {
		t.Error("a room may be silent for ten minutes")
	}
}
