package practice

import (
	"fmt"
	"math"
	"strconv"

	"hollen/internal/core/rules"
)

// Form is how it is practised.
type Form string

// The forms.
const (
	OneCall    Form = "call"  // six calls, half a minute each
	WholeBatch Form = "batch" // from the board to the plate
	FindFault  Form = "fault" // one thing went wrong early
	Guessing   Form = "guess" // a number, and how sure
	FromLog    Form = "log"   // moments of the own makings
)

// Drills and Guesses are how many make a sitting.
const (
	Drills  = 6
	Guesses = 10
)

// Acts of a sitting: what was answered, and that one goes on.
const (
	DoChoose Do = "choose" // N: of the options
	DoSay    Do = "say"    // N: the number guessed; Sign: how sure
	DoOn     Do = "on"
)

// Sitting is calls one after the other, folded over what was answered.
type Sitting struct {
	Seed    uint64
	Level   int
	Calls   []Call
	Acts    []Act
	At      int   // the drill that stands there, from 0
	Told    bool  // it has been answered
	Over    bool  // all have
	Drill   Drill // that one
	Verdict Verdict
	Lesson  Lesson
	Before  []Verdict // of those answered, in order
}

// seedOf is the seed of the n-th dough of a sitting.
func seedOf(seed uint64, n int) uint64 { return seed + uint64(n)*0x9e3779b97f4a7c15 }

// Choice says whether an answer is one of n.
func Choice(a Act, n int) error {
	if a.Do != DoChoose || a.N != math.Trunc(a.N) || !(a.N >= 0 && a.N < float64(n)) {
		return ActError{
			string(a.Do) + " " + strconv.FormatFloat(a.N, 'g', 4, 64),
			fmt.Sprintf("one of the %d answers is allowed", n),
		}
	}
	return nil
}

// next moves a sitting of n on by an act: whether it answers what stands there. An answer to what is answered, and
// going on without one, are refused.
func next(a Act, at *int, told, over *bool, n int) (answers bool, err error) {
	switch {
	case *over:
		return false, ActError{string(a.Do), "this sitting is over"}
	case a.Do == DoOn && *told:
		*told = false
		*at++
		return false, nil
	case a.Do == DoOn:
		return false, ActError{string(a.Do), "answer this one first"}
	case *told:
		return false, ActError{string(a.Do), "that one is answered; go on to the next"}
	}
	*told = true
	*over = *at == n-1
	return true, nil
}

// Sit folds a sitting. An act that is not allowed gives an ActError and the sitting up to it.
func (k *Kitchen) Sit(seed uint64, level int, calls []Call, acts []Act) (*Sitting, error) {
	s := &Sitting{Seed: seed, Level: level, Calls: calls}
	s.Drill = k.Drill(seed, calls[0], level)
	for _, a := range acts {
		if err := s.Do(k, a); err != nil {
			return s, err
		}
	}
	return s, nil
}

// Do does one act of a sitting.
func (s *Sitting) Do(k *Kitchen, a Act) error {
	if a.Do == DoChoose {
		if err := Choice(a, len(s.Drill.Options)); err != nil {
			return err
		}
	} else if a.Do != DoOn {
		return ActError{string(a.Do), "an answer is wanted here"}
	}
	answers, err := next(a, &s.At, &s.Told, &s.Over, len(s.Calls))
	if err != nil {
		return err
	}
	s.Acts = append(s.Acts, a)
	if !answers {
		s.Drill = k.Drill(seedOf(s.Seed, s.At), s.Calls[s.At], s.Level)
		return nil
	}
	s.Verdict = s.Drill.Judge(int(a.N))
	s.Lesson = k.Lesson(s.Drill.Call, s.Drill.Options, s.Drill.Context.Kneaded, s.Verdict)
	s.Before = append(s.Before, s.Verdict)
	return nil
}

// GuessSitting is guesses one after the other, folded over what was said.
type GuessSitting struct {
	Seed  uint64
	Level int
	Acts  []Act
	At    int
	Told  bool
	Over  bool
	Guess Guess
	Last  Guessed
	All   []Guessed
}

// widthOf is the width of a word.
func widthOf(word Sign) (Width, bool) {
	for w := Close; w <= Rough; w++ {
		if Sign(w.Words()) == word {
			return w, true
		}
	}
	return 0, false
}

// SitGuessing folds a sitting of guesses, as Sit does.
func (k *Kitchen) SitGuessing(seed uint64, level int, acts []Act) (*GuessSitting, error) {
	s := &GuessSitting{Seed: seed, Level: level, Guess: k.Guess(seed, 0, level)}
	for _, a := range acts {
		if err := s.Do(k, a); err != nil {
			return s, err
		}
	}
	return s, nil
}

// Do does one act of it.
func (s *GuessSitting) Do(k *Kitchen, a Act) error {
	w, known := widthOf(a.Sign)
	switch {
	case a.Do == DoSay && !(a.N >= s.Guess.Low && a.N <= s.Guess.High):
		return ActError{
			strconv.FormatFloat(a.N, 'g', 4, 64),
			fmt.Sprintf("%g to %g %s is allowed", s.Guess.Low, s.Guess.High,
				s.Guess.Unit),
		}
	case a.Do == DoSay && !known:
		return ActError{string(a.Sign), "say how sure you are: close, fair or rough"}
	case a.Do != DoSay && a.Do != DoOn:
		return ActError{string(a.Do), "a number is wanted here"}
	}
	answers, err := next(a, &s.At, &s.Told, &s.Over, Guesses)
	if err != nil {
		return err
	}
	s.Acts = append(s.Acts, a)
	if !answers {
		s.Guess = k.Guess(s.Seed, s.At, s.Level)
		return nil
	}
	r := &k.Rules.Practice
	score, inside := Score(r.Guess, r.GuessShare, a.N, s.Guess.Truth, w)
	s.Last = Guessed{N: a.N, Width: w, Inside: inside, Score: score, Miss: math.Abs(math.Log(a.N / s.Guess.Truth))}
	s.All = append(s.All, s.Last)
	return nil
}

// Range is what a guess so wide would have covered.
func Range(r *rules.Practice, n float64, w Width) (from, to float64) {
	half := math.Exp(r.Guess[w])
	return n / half, n * half
}
