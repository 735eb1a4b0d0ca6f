package bench

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
)

// Afterwards is what is said of a making afterwards, in the short form of the log: figures by the line they stand in,
// and
// words. Events makes of it what the bench would have told.
type Afterwards struct {
	Mark string // by which it counts once, however often it is sent
	By   string // the maker
	Felt string // -2 … 2, "" where it is not said
	// Touch is how what dried felt: not yet, leather or brittle; "" where it is not said.
	Touch string
	Next  string // what to do otherwise
	Why   string // it was thrown away; "" where it was not
	Now   time.Time
	// Got are the figures: flour_left, water_added, trim_g, trim_back_g, thrown_g and out_g in g, knead_min, rest_min
	// and dry_min in min, poke_s and pot_s in s, sheet_mm, cut_mm and settled_mm in mm. What is missing is not said.
	Got map[string]float64
}

// touches is how what dries feels, and what that says of its window.
var touches = map[string]string{"not yet": "not yet", "leather": "right", "brittle": "past"}

// KnownOf is what a making knows already of the lines of the form.
func KnownOf(run *Making) map[string]float64 {
	known := map[string]float64{"out_g": run.State.OutG}
	for _, x := range run.Steps {
		d := run.State.Steps[x.Key]
		if d.PokeS > 0 {
			known["poke_s"] = d.PokeS
		}
		if d.MM > 0 {
			known["sheet_mm"] = d.MM
		}
	}
	for _, x := range run.State.Remarks {
		lines, g := linesOf(&x)
		for _, line := range lines {
			known[line] += g
		}
	}
	return known
}

// linesOf are the lines of the form an event counts towards, and with what mass, g; none where it is of no line.
func linesOf(x *Event) ([]string, float64) {
	switch x := x.Says.(type) {
	case Left:
		switch {
		case x.What == "flour":
			return []string{"flour_left"}, x.G
		case x.What == Trimmings && x.Into == KneadedIn:
			return []string{"trim_g", "trim_back_g"}, x.G
		case x.What == Trimmings:
			return []string{"trim_g"}, x.G
		}
	case Added:
		if x.What == "water" {
			return []string{"water_added"}, x.G
		}
	}
	return nil, 0
}

// Forget leaves of what is told only what the making does not know already: nothing counts twice. Same are the lines
// that stand as the form showed them, rounded.
func (t *Afterwards) Forget(run *Making, same []string) {
	all := maps.Clone(t.Got)
	for line, v := range KnownOf(run) {
		if v > 0 && (slices.Contains(same, line) || t.Got[line] == v) {
			delete(t.Got, line)
		}
	}
	trims := []string{"trim_g", "trim_back_g"} // where one of them is told anew, both count
	if slices.ContainsFunc(trims, func(line string) bool { _, anew := t.Got[line]; return anew }) {
		for _, line := range trims {
			if v, said := all[line]; said {
				t.Got[line] = v
			}
		}
	}
	st := &run.State
	if st.Felt != nil && t.Felt == fmt.Sprint(*st.Felt) {
		t.Felt = ""
	}
	if t.Next == st.Next && len(t.Got) == 0 {
		t.Next = ""
	}
}

// Events are what is told as events of the bench. Of a making that went over the bench, st is its state and they come
// beside what is known; of one that did not, st is nil and they go from its beginning on.
func (t *Afterwards) Events(p *plan.Plan, began time.Time, st *State) []Event {
	w := &teller{told: t, began: began}
	steps := Steps(p)
	now := began
	for i := range steps {
		now = w.step(&steps[i], steps, now, st)
	}
	if st != nil { // the last word counts
		if now = st.Ended.Add(time.Second); st.Ended.IsZero() {
			now = t.Now
		}
	}
	w.measured(steps, now)
	if st != nil {
		w.takeBack(st, now)
	}
	w.masses(steps, now)
	w.end(st, now)
	return w.out
}

// teller puts events together.
type teller struct {
	told  *Afterwards
	began time.Time
	out   []Event
}

// say adds an event, at the beginning where it has no moment.
func (w *teller) say(e Event) {
	e.ID, e.By = fmt.Sprintf("l%s-%d", w.told.Mark, len(w.out)+1), w.told.By
	if e.At.IsZero() {
		e.At = w.began
	}
	e.At = e.At.UTC().Truncate(time.Millisecond)
	w.out = append(w.out, e)
}

// step says what is told of one step that was reached at now, and returns when it was over.
func (w *teller) step(s *Step, steps []Step, now time.Time, st *State) time.Time {
	minutes, told := w.minutes(s, steps)
	said := w.seen(s, steps)
	if st != nil { // when it really was
		if now = st.Steps[s.Key].Began; now.IsZero() {
			return now
		}
		if took := st.Steps[s.Key].Took(); took > 0 && !told {
			minutes = took
		}
	}
	end := now.Add(time.Duration(minutes * float64(time.Minute)))
	if st == nil && (told || len(said) > 0) { // what is not said is not known: nothing is learned of it
		w.say(Event{At: now, Says: Started{Step: s.Key}})
	}
	for _, e := range said {
		e.At = end
		w.say(e)
	}
	if st == nil && told {
		w.say(Event{At: end, Says: Done{Step: s.Key}})
	}
	return end
}

// minutes is how long a step took, min, and whether that was told; as planned where it was not.
func (w *teller) minutes(s *Step, steps []Step) (took float64, told bool) {
	got := w.told.Got
	switch {
	case strings.HasPrefix(s.Key, "knead.") && got["knead_min"] > 0: // all kneading, each by its share
		all := 0.
		for i := range steps {
			if strings.HasPrefix(steps[i].Key, "knead.") {
				all += steps[i].PlanMin
			}
		}
		const least = .01
		return got["knead_min"] * s.PlanMin / max(all, least), true
	case s.Key == lastOf(steps, "rest.") && got["rest_min"] > 0:
		return got["rest_min"], true
	case dries(s) && got["dry_min"] > 0:
		return got["dry_min"], true
	case boilsFirst(s) && got["pot_s"] > 0:
		return got["pot_s"] / 60, true
	}
	return s.PlanMin, false
}

// seen is what was tried or looked at in a step.
func (w *teller) seen(s *Step, steps []Step) []Event {
	got := w.told.Got
	switch {
	case s.Key == lastOf(steps, "rest.") && got["poke_s"] > 0:
		return []Event{{Says: Poked{Step: s.Key, S: got["poke_s"]}}}
	case dries(s) && got["dry_min"] > 0 && touches[w.told.Touch] != "":
		return []Event{{Says: Looked{Step: s.Key, Look: touches[w.told.Touch]}}}
	case boilsFirst(s) && got["pot_s"] > 0:
		return []Event{{Says: Looked{Step: s.Key, Look: "right"}}}
	}
	return nil
}

// dries says whether a step waits on the rack.
func dries(s *Step) bool { return s.Station == request.AtDry && s.Kind == Wait }

// boilsFirst says whether a step is the first load in the pot.
func boilsFirst(s *Step) bool { return s.Kind == Pot && strings.HasSuffix(s.Key, "lot.1") }

// measured says how thick the sheet of the first piece came out.
func (w *teller) measured(steps []Step, now time.Time) {
	mm := w.told.Got["sheet_mm"]
	if mm <= 0 {
		return
	}
	for i := range steps {
		s := &steps[i]
		last := i+1 == len(steps) || steps[i+1].Piece != 1 || steps[i+1].Kind != Pass
		if s.Kind == Pass && s.Piece == 1 && last {
			w.say(Event{At: now, Says: Measured{Step: s.Key, MM: mm}})
		}
	}
}

// takeBack takes back what was said before of a line that is told otherwise now.
func (w *teller) takeBack(st *State, now time.Time) {
	for _, x := range st.Remarks {
		lines, _ := linesOf(&x)
		if slices.ContainsFunc(lines, func(line string) bool { _, again := w.told.Got[line]; return again }) {
			w.say(Event{At: now, Says: TakenBack{Of: x.ID}})
		}
	}
}

// masses says what was left and added, how a ribbon pulled in, and how the dough felt.
func (w *teller) masses(steps []Step, now time.Time) {
	got := w.told.Got
	for _, x := range []Left{
		{What: "flour", G: got["flour_left"]},
		{What: Trimmings, G: got["trim_g"] - got["trim_back_g"]},
		{What: Trimmings, Into: KneadedIn, G: got["trim_back_g"]},
	} {
		if x.G > 0 {
			w.say(Event{At: now, Says: x})
		}
	}
	if i := slices.IndexFunc(steps, func(s Step) bool { return s.Kind == Cut }); got["cut_mm"] > 0 && i >= 0 {
		w.say(Event{At: now, Says: Shrunk{Step: steps[i].Key, CutMM: got["cut_mm"], MM: got["settled_mm"]}})
	}
	if g := got["water_added"]; g > 0 {
		w.say(Event{At: now, Says: Added{What: "water", G: g}})
	}
	if i := slices.Index([]string{"-2", "-1", "0", "1", "2"}, w.told.Felt); i >= 0 {
		w.say(Event{At: now, Says: Felt{Word: i - 2}})
	}
}

// end says what came out, what to do otherwise, or why it was thrown away. What is not said anew of a making that is
// known stays.
func (w *teller) end(st *State, now time.Time) {
	t := w.told
	g, weighed := t.Got["out_g"]
	if st != nil && t.Next == "" && !weighed && t.Why == "" {
		return
	}
	x := Ended{G: g, Text: t.Next}
	if weighed {
		x.How = OutWeighed
	}
	if st != nil {
		x.N = st.OutN
		x.Text = cmp.Or(x.Text, st.Next)
		if !weighed && st.OutSaid {
			x.How = OutWeighed
			x.G = st.OutG
		}
	}
	if t.Why != "" {
		x.How = ThrownAway
		x.G = t.Got["thrown_g"]
		x.Text = t.Why
	}
	w.say(Event{At: now, Says: x})
}

// lastOf is the key of the last step of a kind; "" where there is none.
func lastOf(steps []Step, kind string) (key string) {
	for i := range steps {
		if strings.HasPrefix(steps[i].Key, kind) {
			key = steps[i].Key
		}
	}
	return key
}
