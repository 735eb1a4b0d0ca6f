package doctor

import (
	"math"
	"strings"
	"testing"
)

// 800 g of 14 % flour aimed at 42.5, moisture 12.5 %.
var batch = Dough{F14G: 800, MoistureWB: .125, BasisWB: .14, Hw: 41, TargetHw: 42.5, OutMin: 40, CautionMin: 120,
	DiscardMin: 240}

// The amounts, by hand: 1.2 points of 800 g are 9.6 g of water, in two goes; as flour
// 9.6/(0.875/0.86·1.425 − 1) = 21.34 g.
func TestAmounts(t *testing.T) {
	for _, c := range []struct {
		sign, question, answer string
		act                    Kind
		amount                 float64
		steps                  int
		says                   string
	}{
		{"cracks", "dry", "little", Water, 9.6, 2, "2 times 4.8 g of water"},
		{"cracks", "dry", "very", Water, 19.2, 3, "3 times 6.4 g of water"},
		{"apart", "dry", "very", Water, 19.2, 3, "3 times 6.4 g"},
		{"sandy", "rested", "enough", Water, 9.6, 2, "4.8 g of water"},
		{"sandy", "rested", "short", Rest, 20, 1, "20 minutes"},
		{"first-pass", "feels", "dry", Water, 6.4, 1, "6.4 g of water"},
		{"sticks", "wet", "little", Flour, 21.340, 2, "2 times 11 g of flour"},
		{"sticks", "wet", "very", Flour, 42.680, 3, "3 times 14 g of flour"},
		{"wraps", "wet", "little", Flour, 21.340, 2, "11 g of flour"},
		{"hard", "rested", "short", Rest, 15, 1, "15 minutes"},
		{"interrupted", "lay", "cold", Rest, 20, 1, "20 minutes"},
		{"snaps-back", "", "", Rest, 10, 1, "10 minutes"},
	} {
		s, ok := Find(c.sign)
		if !ok {
			t.Fatal(c.sign)
		}
		f := s.Ask(batch, map[string]string{c.question: c.answer})[0]
		if f.Act != c.act || math.Abs(f.Amount-c.amount) > .001 || f.Steps != c.steps || !strings.Contains(f.Do,
			c.says) || c.question != "" && !f.Likely {
			t.Errorf("%s, %s %s: %+v", c.sign, c.question, c.answer, f)
		}
	}
	if f := mustFind(t, "cracks").Ask(batch,
		map[string]string{"dry": "little"})[0]; f.Instead != "12 g of beaten egg or 11 g of milk do the "+
		"same; oil is a poor fix (48 g)." {
		t.Errorf("%q", f.Instead)
	}
}

func mustFind(t *testing.T, key string) Sign {
	t.Helper()
	s, ok := Find(key)
	if !ok {
		t.Fatal(key)
	}
	return s
}

// Every sign is whole: at most two questions, every condition answerable, no amount left in
// braces, reachable from each of its stages and by a word of its name.
func TestEverySignIsWhole(t *testing.T) {
	stages := map[string]bool{}
	for _, s := range Signs() {
		if len(s.Questions) > 2 || len(s.Causes) == 0 || len(s.Stages) == 0 || s.Look == "" {
			t.Errorf("%s: %+v", s.Key, s)
		}
		for _, c := range s.Causes {
			if key, answer, ok := strings.Cut(c.If, "="); ok {
				found := false
				for _, q := range s.Questions {
					for _, a := range q.Answers {
						found = found || q.Key == key && a.Key == answer
					}
				}
				if !found {
					t.Errorf("%s: nothing answers %q", s.Key, c.If)
				}
			}
		}
		for _, q := range append(s.Questions, Question{}) {
			for _, a := range append(q.Answers, Answer{}) {
				all := s.Ask(batch, map[string]string{q.Key: a.Key})
				if len(all) == 0 {
					t.Errorf("%s, %s %s: no cause is left", s.Key, q.Key, a.Key)
				}
				for _, f := range all {
					if f.Why == "" || f.Do == "" || strings.Contains(f.Do, "{") || strings.Contains(f.Do, "NaN") ||
						f.Act != Nothing && f.Amount <= 0 {
						t.Errorf("%s: %+v", s.Key, f)
					}
				}
			}
		}
		for _, stage := range s.Stages {
			stages[stage] = true
			if !has(Search(stage, "", Anything), s.Key) {
				t.Errorf("%s is not found at %s", s.Key, stage)
			}
		}
		if !has(Search("", strings.ToUpper(strings.Fields(s.Name)[len(strings.Fields(s.Name))-1]), Anything), s.Key) {
			t.Errorf("%s is not found by its name", s.Key)
		}
	}
	// Nothing of rollers reaches a pin, and no sign is left without a cause on either.
	for _, on := range []On{Rollers, Pin} {
		d := batch
		d.On = on
		for _, s := range Search("", "", on) {
			found := s.Ask(d, nil)
			text := s.Name
			for _, f := range found {
				text += f.Why + f.Do + f.Expect + f.Stop
			}
			if len(found) == 0 || on == Pin && (strings.Contains(text, "roller") || strings.Contains(text, "a stop ") ||
				strings.Contains(text, "widest stop") ||
				strings.Contains(text, "crank")) {
				t.Errorf("%s on %s: %s", s.Key, on, text)
			}
		}
	}
	for _, stage := range []string{"formula", "room", "knead", "rest", "roll", "cut", "dry", "cook"} {
		if !stages[stage] {
			t.Errorf("nothing can go wrong at %s", stage)
		}
	}
	if got := Search("", "ravioli", Anything); len(got) != 1 || got[0].Key != "bursts" {
		t.Errorf("ravioli: %+v", got)
	}
	if len(Search("", "xylophone", Anything)) != 0 {
		t.Error("a word that means nothing finds something")
	}
}

func has(list []Sign, key string) bool {
	for _, s := range list {
		if s.Key == key {
			return true
		}
	}
	return false
}

// What stands ready goes in first, and only the rest is more.
func TestReserveFirst(t *testing.T) {
	d := batch
	d.ReserveWaterG, d.ReserveFlourG = 6, 40
	s, _ := Find("cracks")
	if f := s.Ask(d, map[string]string{"dry": "little"})[0]; f.Ready != 6 || f.Steps != 1 ||
		f.Do != "Wet your hands and knead in the 6 g of water by the board, then 3.6 g of water, a minute’s kneading "+
			"between." {
		t.Errorf("%+v", f)
	}
	s, _ = Find("sticks")
	if f := s.Ask(d, map[string]string{"wet": "little"})[0]; f.Steps != 1 || !strings.Contains(f.Do,
		"21 g of the flour held back") {
		t.Errorf("%+v", f)
	}
}

func TestWaited(t *testing.T) {
	for _, c := range []struct {
		minutes float64
		cold    bool
		says    string
		discard bool
	}{{50, false, "90 minutes out of the fridge by now. Under 120: use it now, or put it into the fridge", false},
		{90, false, "130 minutes out of the fridge by now. Past 120: use it now.", false},
		{300, false, "throw it away, and nothing else", true}, {300, true, "40 minutes", false}} {
		if words, discard := batch.Waited(c.minutes, c.cold); !strings.Contains(words, c.says) || discard != c.discard {
			t.Errorf("%v min, cold %v: %q, %v", c.minutes, c.cold, words, discard)
		}
	}
}
