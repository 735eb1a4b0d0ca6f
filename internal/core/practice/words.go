package practice

import (
	"fmt"
	"math"
)

// minutes writes minutes of an act: "2 min", "half a minute".
func minutesWords(n float64) string {
	if n == .5 {
		return "half a minute"
	}
	return fmt.Sprintf("%g min", math.Round(10*n)/10)
}

// Words say what an act was, as a cook would note it; figures with units in braces.
func (b *Base) Words(a Act) string {
	switch a.Do {
	case DoKnead:
		return "kneaded " + minutesWords(a.N)
	case DoWater:
		return fmt.Sprintf("water {%.0f g}", a.N)
	case DoFlour:
		return fmt.Sprintf("flour {%.0f g}", a.N)
	case DoCover:
		return "wrapped for " + minutesWords(a.N)
	case DoWrap:
		return "kneaded enough"
	case DoRest:
		return "rested " + minutesWords(a.N)
	case DoOpen:
		return "uncovered for " + minutesWords(a.N)
	case DoFridge:
		return "in the fridge " + minutesWords(a.N)
	case DoPare:
		return "pared, damped, wrapped"
	case DoRoll:
		return "rested enough"
	case DoFold:
		return times("folded", a.N)
	case DoPass:
		if a.N > 0 {
			return times("left a stop out", a.N)
		}
		return "the next stop"
	case DoWait:
		return "covered for " + minutesWords(a.N)
	case DoDust:
		return "dusted"
	case DoEnd:
		return "thin enough"
	case DoDry:
		return "dried " + minutesWords(a.N)
	case DoDamp:
		return "damp cloth"
	case DoCut:
		return "dry enough"
	case DoCook:
		return fmt.Sprintf("cooked %.0f s", a.N)
	case DoDrain:
		return "drained"
	}
	if l := LookOf(a.Sign); l != nil {
		return l.Name
	}
	return string(a.Do)
}

func times(what string, n float64) string {
	switch n {
	case 1:
		return what + " once"
	case 2:
		return what + " twice"
	}
	return fmt.Sprintf("%s %.0f times", what, n)
}
