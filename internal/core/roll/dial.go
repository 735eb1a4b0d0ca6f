package roll

import (
	"math"
	"regexp"
	"strconv"
	"strings"

	"hollen/internal/core/measure"
)

// The gaps of a dial nobody has measured: from the widest stop of a roller to its finest, mm, falling
// by the same share from stop to stop. Source: the middle of the machines of their kind.
const (
	GuessWidestMM = 5.0
	GuessFinestMM = .6
)

// GuessedWithin is how far a guessed gap may be off, share: the rollers Hollen ships with lie within
// it. Source: house.
const GuessedWithin = .25

// MostStops is how many stops a machine may have.
const MostStops = 40

// dialWords are the ways a dial is said: from 9 to 1, 0-9, 7 to 1 in halves.
var dialWords = regexp.MustCompile(`(?i)^\s*(?:from\s+)?([0-9]{1,2}|[a-z])\s*(?:to|-|–|\.\.\.?|…)\s*` +
	`([0-9]{1,2}|[a-z])(\s+(?:in|by)\s+(?:halves|half|0[.,]5))?\s*$`)

// ReadDial reads the labels of a dial, the widest first, from its ends: "from 9 to 1", "0–9", "a to g", "7 to 1 in
// halves". The error says what is read.
func ReadDial(text string) ([]string, error) {
	m := dialWords.FindStringSubmatch(text)
	refused := measure.Faultf("dial", "%q is no dial; the label of the widest stop and of the finest are read, as in "+
		"from 9 to 1, or from 7 to 1 in halves",
		strings.TrimSpace(text))
	if m == nil {
		return nil, refused
	}
	from, numbered := position(m[1])
	to, alike := position(m[2])
	if numbered != alike || from == to || !numbered && m[3] != "" {
		return nil, refused
	}
	step, count := 1., math.Abs(to-from)+1
	if m[3] != "" {
		step, count = .5, 2*math.Abs(to-from)+1
	}
	if count > MostStops {
		return nil, measure.Faultf("dial", "that is %.0f stops; a machine may have 2 to %d", count, MostStops)
	}
	if to < from {
		step = -step
	}
	var out []string
	for i := range int(count) {
		at := from + step*float64(i)
		if numbered {
			out = append(out, strconv.FormatFloat(at, 'f', -1, 64))
		} else {
			out = append(out, string(rune(at)))
		}
	}
	return out, nil
}

// position is where a label stands, and whether it is a number.
func position(label string) (at float64, numbered bool) {
	if n, err := strconv.Atoi(label); err == nil {
		return float64(n), true
	}
	return float64(strings.ToUpper(label)[0]), false
}

// GuessStops are stops of those labels, the widest first, with the gaps a roller of so many has, about:
// good to GuessedWithin. For 2 labels or more.
func GuessStops(labels []string) []Stop {
	fall := math.Pow(GuessFinestMM/GuessWidestMM, 1/float64(len(labels)-1))
	gaps := make([]float64, len(labels))
	for i := range gaps {
		gaps[i] = math.Round(100*GuessWidestMM*math.Pow(fall, float64(i))) / 100
	}
	return stops(gaps, func(i int) string { return labels[i] })
}

// DialWords say the dial of a machine whose gaps are guessed, as it is typed; "" of any other.
func (m Machine) DialWords() string {
	if !m.GapsGuessed || len(m.Stops) < 2 {
		return ""
	}
	words := "from " + m.Widest() + " to " + m.Finest()
	if strings.Contains(m.Stops[1].Label, ".") {
		words += " in halves"
	}
	return words
}

// Within is how far a gap of it that nobody measured may be off, share.
func (m Machine) Within() float64 {
	if m.GapsGuessed {
		return GuessedWithin
	}
	return Unmeasured
}

// believed are the bounds of a believable calibration: wider where the gaps themselves were guessed.
func (m Machine) believed() (least, most float64) {
	if m.GapsGuessed {
		return KMin * (1 - GuessedWithin), KMax * (1 + GuessedWithin)
	}
	return KMin, KMax
}
