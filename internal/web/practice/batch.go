package practice

import (
	"cmp"
	"fmt"
	"math"
	"slices"
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
	station := r.AtOnce && turned(r.Acts.V) // what its calls meant is said as a station is left
	x, err := k.Fold(r.Seed, r.Level, r.Acts.V, station)
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
	v.Picture = picture(in, x.View(), x.Shown)
	if x.Torn {
		v.Signs = append(v.Signs, signRow{Name: "at the rollers", Word: "it tore: a hole"})
	}
	if x.Stuck {
		v.Signs = append(v.Signs, signRow{Name: "at the rollers", Word: "it stuck and had to be freed"})
	}
	if x.Phase == practice.AtRolls {
		v.Say = "no sheet yet: press it flat and fold it through the widest stop"
		if s := x.Dough.Stop; s >= 0 {
			v.Say = in.Prose(
				fmt.Sprintf("at stop %s, the %d. of %d; wanted: {%.1f mm}", k.Labels[s], s+1, len(k.Labels), k.AimMM),
			)
		}
	}
	if x.Phase == practice.InPot && x.PotS > 0 {
		v.Say = fmt.Sprintf("%.0f s in the pot", x.PotS)
	}
	v.Done = doneWords(in, k, x)
	v.looks(k, x)
	v.keys(in, k, x)
	if station {
		v.station(in, k, x)
	}
	return nil
}

// turned says whether the last act that was no look has left a station.
func turned(acts []practice.Act) bool {
	i := lastAct(acts)
	return i >= 0 &&
		slices.Contains([]practice.Do{practice.DoWrap, practice.DoRoll, practice.DoEnd, practice.DoCut}, acts[i].Do)
}

// station is what is said of a station as it is left: its calls, the one that cost the most first.
func (v *roundView) station(in measure.System, k *practice.Kitchen, x *practice.Batch) {
	last := lastAct(x.Acts)
	for i := range x.Made {
		m := &x.Made[i]
		if m.Phase != phaseOf(x, last) {
			continue
		}
		v.Calls = append(v.Calls, calledView{N: i + 1, At: fmt.Sprintf("%.0f min", m.Min), Call: m.Call.Short,
			Went: went(m.Verdict), regret: m.Regret,
			Lesson: lesson(in, m.Options, k.Lesson(m.Call, m.Options, m.After, m.Verdict), m.Verdict)})
	}
	slices.SortStableFunc(v.Calls, func(a, b calledView) int { return cmp.Compare(b.regret, a.regret) })
	if n := len(v.Calls); n > 0 {
		v.Dear = v.Calls[0].regret >= .95
		v.Others = measure.Plural(n-1, "other call of this station", "other calls of this station")
	}
}

// phaseOf is the phase an act was done in.
func phaseOf(x *practice.Batch, act int) practice.Phase {
	for i := range x.Line {
		if x.Line[i].Act == act && i > 0 {
			return x.Line[i-1].Phase
		}
	}
	return ""
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

// doneWords tell what was done so far: looks left out, the same twice as one.
func doneWords(in measure.System, k *practice.Kitchen, x *practice.Batch) string {
	done := []string{fmt.Sprintf("mixed %.0f min", k.Rules.Practice.MixMin)}
	var same practice.Act
	flush := func() {
		switch {
		case same.Do == "":
		case same.Do == practice.DoPass:
			done = append(done, "down "+measure.Plural(int(same.N), "stop", "stops"))
		default:
			done = append(done, k.Words(same))
		}
		same = practice.Act{}
	}
	for _, a := range x.Acts {
		if a.Do == practice.DoLook {
			continue
		}
		if a.Do == practice.DoPass { // so many stops further
			a.N++
		}
		if a.Do != same.Do {
			flush()
			same = a
			continue
		}
		same.N += a.N
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
		if min := k.LookMin(s); min > k.Rules.Practice.LookMin {
			ask += fmt.Sprintf(", %.0f s", 60*min)
		}
		v.Looks = append(v.Looks, lookKey{s, ask})
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
