package roll

import (
	"math"
	"strings"
	"testing"
)

// What is seen through a sheet calibrates the whole dial, as far as its weight goes: nothing where it says what the
// gaps say, half the way for a guessed dial, next to nothing beside a measured sheet.
func TestSeenThroughASheet(t *testing.T) {
	const spring = .08
	guess := Machine{Key: "own-1", Name: "A", Tool: "roller", WidthMM: 140, SpeedMMPerS: 100, FeedMM: 15,
		Stops: GuessStops([]string{"1", "2", "3", "4", "5", "6", "7"}), GapsGuessed: true}
	at := 4
	for name, off := range map[string]float64{"as guessed": 1, "a quarter wider": 1.25, "a fifth finer": .8} {
		m := guess
		mm, within := ByHand.MM()
		m.Stops[at].GapMM = mm / (1 + spring) / off // the hand shows there, so the gap is off times what was guessed
		f, err := Calibrate(m, []Measure{SeenAt(m.Stops[at].Label, ByHand)}, spring)
		if err != nil {
			t.Fatal(err)
		}
		w, prior := (mm/within)*(mm/within), 1/(GuessedWithin*GuessedWithin)
		want := math.Exp(math.Log(off) * w / (w + prior))
		if math.Abs(f.K[0]-want) > 1e-3 || f.K[0] != f.K[at] || f.Measured[at] || f.Error >= GuessedWithin {
			t.Errorf("%s: k %v, want %v; within %v", name, f.K, want, f.Error)
		}
		both, err := Calibrate(m, []Measure{SeenAt(m.Stops[3].Label, ByHand), SeenAt(m.Stops[at].Label, ByPrint)},
			spring)
		if err != nil || both.Error >= f.Error {
			t.Errorf("%s: two readings are within %v, one within %v: %v", name, both.Error, f.Error, err)
		}
		sheet := Measure{Stop: m.Stops[2].Label, SheetMM: m.Stops[2].GapMM * (1 + spring) * 1.1}
		alone, err := Calibrate(m, []Measure{sheet}, spring)
		if err != nil {
			t.Fatal(err)
		}
		beside, err := Calibrate(m, []Measure{SeenAt(m.Stops[at].Label, ByHand), sheet}, spring)
		if err != nil || beside.K[at] != alone.K[at] {
			t.Errorf("%s: beside a measured sheet %v, alone %v: %v", name, beside.K, alone.K, err)
		}
	}
	for words, points := range map[string][]Measure{
		"no such stop": {SeenAt("12", ByHand)},
		"look again":   {SeenAt("5", ByHand), SeenAt("4", ByPrint)},
	} {
		if _, err := Calibrate(guess, points, spring); err == nil || !strings.Contains(err.Error(), words) {
			t.Errorf("%+v: %v", points, err)
		}
	}
}
