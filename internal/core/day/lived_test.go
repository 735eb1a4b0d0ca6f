package day_test

import (
	"errors"
	"slices"
	"testing"
	"time"

	"hollen/internal/core/day"
	"hollen/internal/core/schedule"
	"hollen/internal/demo"
)

// A day is changed by its rules: what has begun stays, what is pinned stays where others move, moved again it is free,
// and what is told of it counts at once.
func TestLived(t *testing.T) {
	names := []string{demo.Saturday, demo.Service, demo.Chandler}
	d, jobs := put(t, two(), nil, names...)
	a, err := d.Plan()
	if err != nil {
		t.Fatal(err)
	}
	s := &day.Sheet{Shop: two(), Jobs: jobs}
	s.Take(d, a)
	l := &day.Lived{Sheet: s, Shown: s.Slots, Facts: make([]schedule.Fact, len(s.Slots)),
		Begun: make([]bool, len(s.Slots)), Now: s.Slots[s.Task("1.knead.1")].Start - 30, Live: true}
	said := &day.Narrator{Day: d, Jobs: jobs, Slots: s.Slots}
	puts := 0
	again := func([]day.Wish) (*schedule.Day, error) {
		puts++
		other, _ := put(t, two(), nil, names...)
		return other, nil
	}
	var no *day.Refused
	roll := s.Task("2.roll.1")
	was := s.Slots[roll]
	to := was.Start + 10
	if err := l.Move(said, "2.roll.1", to, "Osk", again); err != nil {
		t.Fatal(err)
	}
	l.Shown = s.Slots
	w := s.Wish("2.roll.1")
	if !w.Pinned || w.At != to || w.By != "Osk" || s.Slots[roll].Start != to || s.Proved || puts > 0 {
		t.Errorf("%+v at %+v, put together %d times", w, s.Slots[roll], puts)
	}
	// Moved again its pin is lifted first; another move leaves it where it is.
	if err := l.Move(said, "2.roll.1", to+10, "", again); err != nil || puts != 1 || s.Slots[roll].Start != to+10 {
		t.Errorf("%v, put together %d times, at %d", err, puts, s.Slots[roll].Start)
	}
	l.Shown = s.Slots
	if err := l.Move(said, "3.roll.1", s.Slots[s.Task("3.roll.1")].Start+15, "", again); err == nil &&
		s.Slots[roll].Start != to+10 {
		t.Errorf("pinned at %d, moved to %d by another", to+10, s.Slots[roll].Start)
	}
	l.Shown = s.Slots
	l.LetGo("2.roll.1")
	if w := s.Wish("2.roll.1"); w.Pinned || w.By != "" {
		t.Errorf("let go, and %+v", w)
	}
	l.Pin("1.knead.1")
	if w := s.Wish("1.knead.1"); !w.Pinned || w.By != "Linde" || w.At != l.Shown[s.Task("1.knead.1")].Start {
		t.Errorf("pinned: %+v", w)
	}
	l.NotBy("1.knead.1", []string{"Linde"}, 540, 0)
	if w := s.Wish("1.knead.1"); w.Pinned || w.NotBefore != 540 || !slices.Equal(w.NotBy, []string{"Linde"}) {
		t.Errorf("not by whom it is pinned to: %+v", w)
	}
	s.Wish("1.cut.1").By = "Fenna"
	s.Forget()
	if w := s.Wish("1.cut.1"); w.By != "" {
		t.Errorf("nobody of that name is there: %+v", w)
	}
	// What is past or begun is not moved; what is told counts.
	if err := l.Move(said, "1.cut.1", l.Now-5, "", again); !errors.As(err, &no) || no.Nearest != day.Time(l.Now) {
		t.Errorf("into the past: %v", err)
	}
	if err := l.Move(said, "9.cut.1", l.Now+50, "", again); !errors.As(err, &no) {
		t.Errorf("a task that is not there: %v", err)
	}
	l.Now = l.Shown[s.Task("1.knead.1")].Start + 4
	if err := l.Mark("1.knead.1", "begun"); err != nil || s.Marks["1.knead.1"].Began != l.Now {
		t.Errorf("%v, %+v", err, s.Marks)
	}
	l.Facts = s.Facts(nil, time.Date(2026, 11, 28, 0, 0, 0, 0, time.UTC), l.Now)
	l.Begun = day.Begun(l.Facts)
	if err := l.Move(said, "1.knead.1", l.Now+60, "", again); !errors.As(err, &no) {
		t.Errorf("begun, and moved: %v", err)
	}
	knead := l.Facts[s.Task("1.knead.1")]
	other, _ := put(t, two(), nil, names[:2]...) // without the third
	s.Jobs = jobs[:2]
	if err := l.Again(other, 2000); err != nil || len(s.Slots) != len(other.Tasks) ||
		s.Slots[s.Task("1.knead.1")].Start != knead.Start || len(other.Faults(s.Slots)) > 0 {
		t.Errorf("%v: kneading at %+v, began %+v; %+v", err, s.Slots[s.Task("1.knead.1")], knead,
			other.Faults(s.Slots))
	}
	l.Shown = s.Slots
	if err := l.Mark("1.knead.1", "done"); err != nil || s.Marks["1.knead.1"].Done <= s.Marks["1.knead.1"].Began {
		t.Errorf("%v, %+v", err, s.Marks)
	}
	if err := l.Mark("1.knead.1", "not"); err != nil || len(s.Marks) > 0 {
		t.Errorf("%v, %+v", err, s.Marks)
	}
	if err := l.Mark("1.knead.1", "sung"); !errors.As(err, &no) {
		t.Error("sung, and taken")
	}
	l.Live = false
	if err := l.Mark("1.knead.1", "done"); !errors.As(err, &no) {
		t.Error("told of another day")
	}
}
