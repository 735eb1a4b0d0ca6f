package day

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/core/schedule"
)

// builder turns batches into tasks.
type builder struct {
	day  *schedule.Day
	ru   rules.Day
	shop *Shop
	ends map[uint64][]int // by batch: the tasks that end it
}

// of is one batch on its way into tasks.
type of struct {
	*builder
	at    int
	id    uint64
	p     *plan.Plan
	class int
	made  schedule.Point // the dough is ready for what comes next
	first int            // the task from which its warm minutes count, −1: none yet
	told  int            // of those gone before it, min
	keys  []string
	min   float64
	turns int
}

// Class is what a dough leaves on the roller: 0 egg-free, 1 pale, 2 dark.
func Class(ru rules.Day, p *plan.Plan) int {
	for _, a := range p.Formula.Additions {
		if a.ColourWay >= ru.DarkFrom {
			return 2
		}
	}
	if !p.HasEgg() {
		return 0
	}
	return 1
}

// up is whole minutes, never fewer than needed.
func up(minutes float64) int { return max(1, int(math.Ceil(minutes-1e-9))) }

// job adds the tasks of one batch.
func (b *builder) job(at int, j *Job, p *plan.Plan) {
	j.Letter = Letters(at)
	j.Name = p.Request.Name
	j.DoughG = p.Formula.Dough.MassG
	j.Portions = p.Formula.Portions
	j.Class = Class(b.ru, p)
	j.Shape = p.Cut.Shape.Name
	j.Face = p.Formula.Colour.Face
	j.Edge = p.Formula.Colour.Edge
	if j.Left {
		return
	}
	o := &of{builder: b, at: at, id: j.Batch, p: p, class: j.Class, first: -1}
	if p.Cut.AllDoughG > 0 && (p.Roped() || p.Pinned()) || b.shop.Rollers == 0 {
		o.class = schedule.NoRoller
	}
	if j.Part == FromCold {
		o.made = schedule.StartOf(-1)
	} else {
		o.knead()
	}
	if j.Part == DoughOnly {
		b.ends[j.Batch] = append(b.ends[j.Batch], o.made.Task)
		return
	}
	o.roll(j)
}

// task adds one and returns its place.
func (o *of) task(kind schedule.Kind, name string, minutes float64, keys []string) int {
	n := 1
	for _, t := range o.day.Tasks {
		if t.Batch == o.at && t.Kind == kind {
			n++
		}
	}
	t := schedule.Task{Key: fmt.Sprintf("%d.%s.%d", o.id, kind, n), Name: name, Kind: kind, Keys: keys, Batch: o.at,
		Hands: kind != schedule.Machine, Class: schedule.NoRoller,
		To: schedule.NoLimit / 8}
	for _, h := range o.shop.People {
		m := minutes * float64(h.Pace) / 100
		if kind == schedule.Machine {
			m = minutes
		}
		t.Minutes = append(t.Minutes, up(m))
		for _, c := range h.Cannot {
			if c == kind {
				t.Minutes[len(t.Minutes)-1] = -1
			}
		}
	}
	if len(t.Minutes) == 0 {
		t.Minutes = []int{up(minutes)}
	}
	if kind == schedule.Roll {
		t.Class = o.class
		if o.class >= 0 && o.shop.Rollers > 1 {
			t.Class = schedule.NoRoller
			o.day.Holds = append(o.day.Holds, schedule.Hold{From: schedule.StartOf(len(o.day.Tasks)),
				To: schedule.EndOf(len(o.day.Tasks)), Store: AtRollers, Quantity: 1})
		}
	}
	o.day.Tasks = append(o.day.Tasks, t)
	return len(o.day.Tasks) - 1
}

func (o *of) lag(a, b schedule.Point, lo, hi int, what schedule.LagKind) {
	o.day.Lags = append(o.day.Lags, schedule.Lag{A: a, B: b, Min: lo, Max: max(lo, hi), What: what})
}

// knead adds mixing, kneading and the turns, up to the last rest.
func (o *of) knead() {
	var rest struct{ lo, hi int }
	add := func() {
		if len(o.keys) == 0 {
			return
		}
		name := "Mix and knead"
		if o.turns > 0 {
			name = "Knead again"
		}
		i := o.task(schedule.Knead, name, max(o.min, .5), o.keys)
		if o.first < 0 {
			o.first = i
		}
		if o.turns > 0 {
			o.lag(o.made, schedule.StartOf(i), rest.lo, rest.hi, schedule.Resting)
		}
		o.turns++
		o.made = schedule.EndOf(i)
		o.keys = nil
		o.min = 0
	}
	steps := o.p.Steps
	last := 0
	for i, s := range steps {
		if s.Station == request.AtKnead {
			last = i
		}
	}
	for _, s := range steps[:last+1] {
		switch {
		case strings.HasPrefix(s.Key, "fold."): // its passes are the roller’s
		case s.Station == request.AtRest:
			add()
			rest.lo, rest.hi = up(s.Min), max(up(s.Min)+o.ru.TurnMoreMin, up(s.MostMin))
		case s.Runs && o.shop.Mixers > 0:
			o.machine(s, &rest.lo, &rest.hi)
		case s.Station == request.AtKnead:
			o.keys, o.min = append(o.keys, s.Key), o.min+s.Min
		}
	}
	add()
}

// machine adds a kneading by the mixer: somebody fills it, then it runs.
func (o *of) machine(s plan.Step, lo, hi *int) {
	name := "Fill the mixer"
	if o.made.Task > 0 && o.turns > 0 && len(o.keys) == 0 && o.day.Tasks[o.made.Task].Kind == schedule.Machine &&
		*lo == 0 {
		// the same bowl, at its next speed
		t := &o.day.Tasks[o.made.Task]
		for k := range t.Minutes {
			t.Minutes[k] += up(s.Min)
		}
		t.Keys = append(t.Keys, s.Key)
		return
	}
	i := o.task(schedule.Knead, name, max(o.min, float64(o.ru.MixerHandsMin)), o.keys)
	if o.first < 0 {
		o.first = i
	}
	if o.turns > 0 {
		o.lag(o.made, schedule.StartOf(i), *lo, *hi, schedule.Resting)
	}
	m := o.task(schedule.Machine, "Mixer", s.Min, []string{s.Key})
	o.lag(schedule.EndOf(i), schedule.StartOf(m), 0, 0, schedule.Directly)
	o.day.Holds = append(o.day.Holds, schedule.Hold{From: schedule.StartOf(i), To: schedule.EndOf(m), Store: AtMixer,
		Quantity: 1})
	o.made = schedule.EndOf(m)
	o.keys = nil
	o.min = 0
	o.turns++
	*lo, *hi = 0, 0
}

// lastRest is the rest before the roller: its least and most, the part of it in the fridge, and what is told of warm
// minutes after that.
func (o *of) lastRest() (lo, hi, coldLo, warmAfter int) {
	steps := o.p.Steps
	last := 0
	for i, s := range steps {
		if s.Station == request.AtKnead && !strings.HasPrefix(s.Key, "fold.") {
			last = i
		}
	}
	var least, most, cold, after float64
	for _, s := range steps[last+1:] {
		if s.Station != request.AtRest {
			continue
		}
		least, most = least+s.Min, most+max(s.Min, s.MostMin)
		if s.Cold {
			cold, after = cold+s.Min, 0
		} else {
			after += s.Min
		}
	}
	if cold > 0 {
		return up(least), min(up(most), max(o.ru.ColdMostMin, up(least))), up(cold), up(max(after, 0))
	}
	return up(least), int(most), 0, 0
}

// roll adds everything from the rest on.
func (o *of) roll(j *Job) {
	p, r := o.p, &o.p.Roll
	n := max(1, r.Pieces)
	each := r.MinutesAll / float64(n)
	pack := p.Cut.AllMin / float64(n)
	airLo, airHi := o.airs()
	if airLo == 0 || j.Cooked { // packed as it is cut
		pack += o.ru.PackMin
	}
	dryLo, dryHi := 0., float64(o.ru.SheetWaitMin)
	var keys []string
	for _, s := range p.Steps {
		switch kind, _, _ := strings.Cut(s.Key, "."); {
		case kind == "dry":
			dryLo, dryHi = s.LeastMin, s.MostMin+float64(o.ru.SheetWaitMin)
		case kind == "cut":
			keys = append(keys, s.Key)
		}
	}
	if p.Roped() {
		dryHi = max(dryHi, float64(o.ru.RopeWaitMin))
	}
	parts := Split(n, each, pack, dryLo, dryHi)
	var rolls, packs []int
	done := 0
	for k, pieces := range parts {
		name := "Roll"
		if p.Roped() {
			name = "Ropes"
		}
		if len(parts) > 1 {
			name = fmt.Sprintf("%s, pieces %d to %d", name, done+1, done+pieces)
			if pieces == 1 {
				name = fmt.Sprintf("Roll piece %d", done+1)
			}
		}
		done += pieces
		i := o.task(schedule.Roll, name, each*float64(pieces), []string{"roll.1", "fold.1"})
		c := o.task(schedule.Cut, p.Cut.Shape.Traits().CutHead, pack*float64(pieces), keys)
		if len(parts) > 1 {
			o.day.Tasks[i].Pieces, o.day.Tasks[c].Pieces = [2]int{done - pieces + 1, done}, [2]int{done - pieces + 1,
				done}
		}
		lo, hi := Apart(pieces, each, pack, dryLo, dryHi)
		// where even so few pieces wait longer for one pair of hands
		hi = max(hi, lo, up(each*float64(pieces)*o.slowest()))
		what := schedule.Drying
		if dryLo <= 0 {
			what = schedule.Directly
		}
		o.lag(schedule.StartOf(i), schedule.StartOf(c), lo, hi, what)
		if k > 0 {
			o.lag(schedule.EndOf(rolls[k-1]), schedule.StartOf(i), 0, schedule.NoLimit, schedule.InOrder)
			o.lag(schedule.EndOf(packs[k-1]), schedule.StartOf(c), 0, schedule.NoLimit, schedule.InOrder)
		}
		rolls, packs = append(rolls, i), append(packs, c)
		if m := p.Dry.RodM * float64(pieces) / float64(n); m > 0 && dryLo > 0 && p.Request.Dry.On != request.OnBoard {
			o.day.Holds = append(o.day.Holds, schedule.Hold{From: schedule.StartOf(i), To: schedule.StartOf(c),
				Store: AtRack, Quantity: up(10 * m)})
		}
	}
	o.rested(j, rolls)
	o.filled(rolls[0])
	end, last := packs[len(packs)-1], packs[len(packs)-1]
	switch {
	case j.Cooked:
		end = o.pot(end, airLo)
	case airLo > 0:
		end = o.packLater(packs, airLo, airHi, n)
		last = end
	}
	o.trays(packs, parts, end)
	o.ends[j.Batch] = append(o.ends[j.Batch], end)
	o.warm(rolls[0], last, airLo)
}

// packLater adds the packing of n pieces of dough after what is cut has dried. What is cut first dries on until the
// last of it is right.
func (o *of) packLater(packs []int, airLo, airHi, n int) int {
	end := o.task(schedule.Cut, "Pack", o.ru.PackMin*float64(n), []string{plan.KeepStep})
	for i, c := range packs {
		most := schedule.NoLimit
		if i == len(packs)-1 {
			most = airHi
		}
		o.lag(schedule.EndOf(c), schedule.StartOf(end), airLo, most, schedule.Drying)
	}
	return end
}

// airs is how long it dries between the cut and the pot, or the packing: at least, and at most.
func (o *of) airs() (lo, hi int) {
	least, most := 0., 0.
	for _, when := range []plan.Moment{plan.PiecesDry, plan.BeforePacked} {
		from, to := 0., 0.
		for _, s := range o.p.Steps {
			if d := o.p.Dry.Moment(s.Key); d != nil && d.When == when {
				from, to = max(from, s.LeastMin), max(to, s.MostMin)
			}
		}
		least, most = least+from, most+to
	}
	if most == 0 {
		return 0, 0
	}
	return up(least), up(most) + o.ru.SheetWaitMin
}

// rested binds the rest between the dough and every part of the rolling.
func (o *of) rested(j *Job, rolls []int) {
	lo, hi, cold, after := o.lastRest()
	if o.made.Task < 0 { // it has lain in the fridge since another day
		o.told = after
		return
	}
	what := schedule.Resting
	if cold > 0 {
		what = schedule.InCold
		o.first = -1
		o.told = after
		o.day.Holds = append(o.day.Holds, schedule.Hold{From: o.made, To: schedule.StartOf(rolls[0]), Store: AtFridge,
			Quantity: 1})
	}
	for _, i := range rolls {
		o.lag(o.made, schedule.StartOf(i), lo, max(hi, lo), what)
	}
}

// filled adds the filling, made and cooled before the roller is wanted.
func (o *of) filled(roll int) {
	if o.p.Cut.FillTotalG <= 0 || o.p.FillingMade() != "" {
		return
	}
	f := o.task(schedule.Filling, "Make the filling", o.p.Cut.FillMin, []string{plan.FillingStep})
	o.lag(schedule.EndOf(f), schedule.StartOf(roll), o.ru.FillingCoolMin, o.ru.FillingKeepMin, schedule.Cooling)
	o.day.Holds = append(o.day.Holds, schedule.Hold{From: schedule.EndOf(f), To: schedule.StartOf(roll),
		Store: AtFridge, Quantity: 1})
}

// trays holds the trays that what is cut lies on, until it is packed or cooked; what needs more than there are goes in
// turns.
func (o *of) trays(packs, parts []int, end int) {
	all := 0
	for _, n := range parts {
		all += n
	}
	for k, c := range packs {
		need := min(o.shop.Trays, int(math.Ceil(float64(o.p.Dry.Trays*parts[k])/float64(all))))
		if need <= 0 {
			continue
		}
		until := schedule.EndOf(c)
		if o.day.Tasks[end].Kind == schedule.Pot {
			until = schedule.StartOf(end)
		}
		o.day.Holds = append(o.day.Holds, schedule.Hold{From: schedule.StartOf(c), To: until, Store: AtTrays,
			Quantity: need})
	}
}

// pot adds the pot for what is cooked the same day, after it has dried for so long.
func (o *of) pot(packed, dries int) int {
	minutes, keys := 0., []string{}
	for _, t := range o.p.Cook.Turns {
		minutes += float64(t.Loads) * (t.ToS/60 + o.ru.PotMin)
		keys = append(keys, t.Key)
	}
	i := o.task(schedule.Pot, "Cook", max(minutes, o.ru.PotMin), keys)
	o.lag(schedule.EndOf(packed), schedule.StartOf(i), dries, dries+o.ru.CookWaitMin, schedule.Waiting)
	o.day.Holds = append(o.day.Holds, schedule.Hold{From: schedule.StartOf(i), To: schedule.EndOf(i), Store: AtPot,
		Quantity: 1})
	return i
}

// warm bounds the minutes the dough is out of the fridge: it should be packed within the caution, and must be within
// the
// time after which usual advice gives up egg dough.
func (o *of) warm(roll, packed, dries int) {
	from := o.first
	if from < 0 {
		from = roll
	}
	soft, hard := int(o.p.Dry.CautionAt)-o.told, int(o.p.Dry.DiscardAt)-o.told
	if o.class == 0 || soft <= 0 {
		return // no egg in it: its clock is the maker’s
	}
	o.day.Waits = append(o.day.Waits, schedule.Wait{A: from, B: packed, Limit: soft})
	least := dries // said by the maker: it is counted, and not forbidden
	for _, t := range []int{roll, packed} {
		least += o.day.Tasks[t].Minutes[0]
	}
	if hard > 0 {
		o.lag(schedule.StartOf(from), schedule.EndOf(packed), 0, max(hard, 2*least), schedule.Warm)
	}
}

// Apart is the least and the most between the start of rolling and the start of packing, when every piece dries for a
// while
// in the window: piece j is ready at (j+1)·each and packed from j·pack on; min.
func Apart(n int, each, pack, dryLo, dryHi float64) (lo, hi int) {
	d := float64(n-1) * (each - pack)
	return int(math.Ceil(dryLo + each + max(0, d) - 1e-9)), int(math.Floor(dryHi + each - pack + min(0, d) + 1e-9))
}

// mostParts is in how many parts a dough is rolled at most: more of them nobody keeps in mind.
const mostParts = 4

// slowest is the pace of the slowest person.
func (o *of) slowest() float64 {
	pace := 100
	for _, h := range o.shop.People {
		pace = max(pace, h.Pace)
	}
	return float64(pace) / 100
}

// Split is in how many parts of how many pieces a dough is rolled, so that none of them waits too long for its packing.
func Split(n int, each, pack, dryLo, dryHi float64) []int {
	most := n
	if lo, hi := Apart(n, each, pack, dryLo, dryHi); lo > hi || float64(n)*each > float64(hi) {
		for most = n; most > 1; most-- {
			if lo, hi := Apart(most, each, pack, dryLo, dryHi); lo <= hi && float64(most)*each <= float64(hi) {
				break
			}
		}
	}
	parts := min(mostParts, (n+most-1)/most)
	out := make([]int, parts)
	for i := range out {
		out[i] = n/parts + min(1, max(0, n%parts-i))
	}
	return out
}
