package practice

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/practice"
	"hollen/internal/store"
)

// phaseHeads are the questions of the phases.
var phaseHeads = map[practice.Phase]string{practice.AtBoard: "At the board", practice.AtRest: "Under its cover",
	practice.AtRolls: "At the rollers", practice.AtRack: "On the rack", practice.InPot: "In the pot"}

// starts are the amounts a key begins with, in its unit.
func starts(k *practice.Kitchen, x *practice.Batch, do practice.Do) float64 {
	switch do {
	case practice.DoKnead:
		return 2
	case practice.DoWater:
		return math.Round(1.2 * k.WaterG())
	case practice.DoFlour:
		return math.Round(1.2 * k.FlourPointG())
	case practice.DoCover:
		return 10
	case practice.DoRest:
		if x.Dough.Credit == 0 {
			return math.Round(k.RestMin)
		}
		return 10
	case practice.DoOpen:
		return 20
	case practice.DoFridge:
		return 30
	case practice.DoWait:
		return 10
	case practice.DoDry:
		return 5
	case practice.DoCook:
		if x.PotS == 0 {
			return 60
		}
		return 15
	}
	return 1
}

// batch fills in a whole batch as it stands.
func (v *roundView) batch(in measure.System, r store.PracticeRound, k *practice.Kitchen) error {
	x, err := k.Fold(r.Seed, r.Level, r.Acts.V, r.AtOnce)
	if err != nil {
		return err
	}
	v.Phase = phaseHeads[x.Phase]
	v.Head = v.Phase + ": what now?"
	v.Minutes = fmt.Sprintf("%.0f", x.Dough.Min)
	clock, means, discard := x.FoodWords()
	if v.Food = clock; discard {
		v.Food, v.FoodWarn = clock+". "+means, true
	}
	v.shown(x.Shown)
	v.Picture = picture(x.View(), x.Shown)
	if x.Torn {
		v.Signs = append(v.Signs, signRow{"at the rollers", "it tore: a hole"})
	}
	if x.Stuck {
		v.Signs = append(v.Signs, signRow{"at the rollers", "it stuck and had to be freed"})
	}
	if x.Phase == practice.AtRolls {
		v.Say = "no sheet yet: press it flat and fold it through the widest stop"
		if s := x.Dough.Stop; s >= 0 {
			v.Say = in.Prose(fmt.Sprintf("at stop %s, the %d. of %d; wanted: {%.1f mm}", k.Labels[s], s+1, len(k.Labels), k.AimMM))
		}
	}
	if x.Phase == practice.InPot && x.PotS > 0 {
		v.Say = fmt.Sprintf("%.0f s in the pot", x.PotS)
	}
	v.Done = doneWords(in, k, x)
	v.looks(k, x)
	v.keys(in, k, x)
	if n := len(x.Made); r.AtOnce && n > 0 && x.Made[n-1].Act == lastAct(x.Acts) {
		m := &x.Made[n-1]
		v.Told = lesson(in, m.Options, k.Lesson(m.Call, m.Options, m.After, m.Verdict), m.Verdict)
		v.ToldHead = v.Told.You
	}
	return nil
}

// lastAct is the last act that was no look, −1: none.
func lastAct(acts []practice.Act) int {
	for i := len(acts) - 1; i >= 0; i-- {
		if acts[i].Do != practice.DoLook {
			return i
		}
	}
	return -1
}

// doneWords tell what was done so far, looks left out.
func doneWords(in measure.System, k *practice.Kitchen, x *practice.Batch) string {
	done := []string{fmt.Sprintf("mixed %.0f min", k.Rules.Practice.MixMin)}
	passes := 0
	flush := func() {
		if passes > 0 {
			done = append(done, measure.Plural(passes, "stop", "stops"))
			passes = 0
		}
	}
	for _, a := range x.Acts {
		if a.Do == practice.DoPass && a.N == 0 {
			passes++
			continue
		}
		flush()
		if a.Do != practice.DoLook {
			done = append(done, k.Words(a))
		}
	}
	flush()
	return in.Prose(strings.Join(done, " · "))
}

// looks are the signs that can be looked at closer.
func (v *roundView) looks(k *practice.Kitchen, x *practice.Batch) {
	for _, s := range practice.Closer(x.Phase) {
		if x.Phase == practice.AtRolls && x.Dough.Stop < 0 && s != practice.Poke && s != practice.Stick {
			continue
		}
		ask := practice.LookOf(s).Ask
		if x.Word(s) >= 0 {
			ask += " again"
		}
		v.Looks = append(v.Looks, lookKey{s, ask, fmt.Sprintf("%.0f s", 60*k.LookMin(s))})
	}
}

// keys are what may be done now.
func (v *roundView) keys(in measure.System, k *practice.Kitchen, x *practice.Batch) {
	n := 0
	for _, kind := range practice.Kinds(x.Phase) {
		o := keyView{Do: kind.Do, Name: kind.Name, Yolk: kind.Yolk, Aside: kind.Aside}
		if !x.Can(kind) {
			continue
		}
		if !kind.Aside {
			n++
			o.Key = n
		}
		if kind.Low > 0 {
			o.Amount = true
			unit, by := kind.Unit, 1.
			if turned, times, _, is := in.Turn(unit); is {
				unit, by = turned, times
			}
			write := func(m float64) string { return strconv.FormatFloat(math.Round(100*m*by)/100, 'f', -1, 64) }
			o.Value, o.Unit = write(starts(k, x, kind.Do)), string(unit)
			o.Low, o.High = write(kind.Low), write(kind.High)
			o.Step = write(kind.Step)
			if by != 1 {
				o.Step = "0.05"
			}
		}
		if kind.Yolk {
			o.Sub = map[practice.Phase]string{practice.AtBoard: "on to the rest", practice.AtRest: "on to the rollers",
				practice.AtRolls: "cut it", practice.AtRack: "on to the pot", practice.InPot: "open the dough"}[x.Phase]
			if x.Phase == practice.AtRolls && k.Before {
				o.Sub = "hang it up"
			}
		}
		v.Keys = append(v.Keys, o)
	}
}
