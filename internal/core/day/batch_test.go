package day_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/day"
	"hollen/internal/core/egg"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/core/schedule"
	"hollen/internal/demo"
)

// put puts batches of the workshop on a day, each with an order of its own.
func put(t testing.TB, shop day.Shop, change func(*day.Job), names ...string) (*schedule.Day, []day.Job) {
	t.Helper()
	ru := rules.Default()
	var jobs []day.Job
	var plans []*plan.Plan
	var wants []day.Want
	for i, name := range names {
		r := demo.Batch(strings.TrimSuffix(strings.TrimSuffix(name, ", in green"), ", no egg at all"))
		switch { // the same batch of another colour
		case strings.HasSuffix(name, ", in green"):
			spinach := request.AdditionPart{Addition: "spinach"}
			spinach.Share = spinach.Kind().StartShare()
			r.Additions = []request.AdditionPart{spinach}
		case strings.HasSuffix(name, ", no egg at all"):
			r.Eggs.Style, r.Eggs.FixWhole, r.Eggs.FixYolks, r.Eggs.Also = egg.NoEgg, nil, nil, nil
		}
		p, err := plan.Make(ru, r)
		if err != nil {
			t.Fatal(err)
		}
		j := day.Job{Batch: uint64(i + 1)}
		if change != nil {
			change(&j)
		}
		jobs, plans = append(jobs, j), append(plans, p)
		wants = append(wants, day.Want{ID: uint64(i + 1), Who: name, Due: 16 * 60, Jobs: []uint64{j.Batch}})
	}
	return day.Put(ru.Day, shop, jobs, plans, nil, wants), jobs
}

func two() day.Shop {
	shop := day.DefaultShop(rules.Default().Day)
	shop.People = []day.Hand{{Name: "Linde", Pace: 100}, {Name: "Osk", Pace: 110,
		Cannot: []schedule.Kind{schedule.Knead}}}
	return shop
}

// Every batch of the workshop becomes tasks that can be planned alone, with its minutes kept, and nobody does what they
// do not do.
func TestBatchesBecomeTasks(t *testing.T) {
	for _, r := range demo.Batches() {
		d, jobs := put(t, two(), nil, r.Name)
		p, _ := plan.Make(rules.Default(), r)
		if err := d.Check(); err != nil {
			t.Fatalf("%s: %v", r.Name, err)
		}
		roll := 0
		for _, x := range d.Tasks {
			if x.Kind == schedule.Roll {
				roll += x.Minutes[0]
			}
			if x.Kind == schedule.Knead && x.Minutes[1] != -1 {
				t.Errorf("%s: Osk kneads", r.Name)
			}
		}
		if off := float64(roll) - p.Roll.MinutesAll; off < 0 || off > 4 {
			t.Errorf("%s: %d min of rolling for %.1f", r.Name, roll, p.Roll.MinutesAll)
		}
		a, err := d.Plan()
		if err != nil || !a.Proved || len(d.Faults(a.Slots)) > 0 {
			t.Errorf("%s alone: %v %v", r.Name, err, d.Explain(500, func(d *schedule.Day,
				_ int) *schedule.Day {
				return d
			}))
			continue
		}
		rest := slices.IndexFunc(d.Lags, func(l schedule.Lag) bool {
			return l.What == schedule.Resting ||
				l.What == schedule.InCold
		})
		if rest < 0 || float64(d.Lags[rest].Min) < p.Rest.Min-.01 {
			t.Errorf("%s: rests %+v, the plan says %.0f", r.Name, d.Lags[rest], p.Rest.Min)
		}
		if jobs[0].Letter != "A" || jobs[0].DoughG != p.Formula.Dough.MassG {
			t.Errorf("%s: %+v", r.Name, jobs[0])
		}
	}
}

// Whenever packing begins within its lag, every piece has dried as long as it must and no longer than it may.
func TestPiecesDryWithinTheirWindow(t *testing.T) {
	for n := 1; n <= 12; n++ {
		for _, c := range [][4]float64{{5, 2, 10, 25}, {2, 5, 10, 25}, {3, 3, 0, 15}, {1.5, 4.2, 7, 40}, {4, 1, 12,
			30}} {
			each, pack, lo, hi := c[0], c[1], c[2], c[3]
			from, to := day.Apart(n, each, pack, lo, hi)
			for s := from; s <= to; s++ {
				for j := range n {
					dried := float64(s) + float64(j)*pack - float64(j+1)*each
					if dried < lo-1e-9 || dried+pack > hi+1e-9 {
						t.Fatalf("n %d %v at %d: piece %d dries %.1f to %.1f", n, c, s, j+1, dried, dried+pack)
					}
				}
			}
			parts := day.Split(n, each, pack, lo, hi)
			sum := 0
			for _, p := range parts {
				sum += p
			}
			if sum != n || len(parts) > 4 {
				t.Errorf("%d pieces in parts %v", n, parts)
			}
		}
	}
}

// A dark dough comes after pale ones and an egg-free one before both, where nothing stands against it.
func TestLightBeforeDark(t *testing.T) {
	shop := two()
	shop.People = shop.People[:1]
	d, jobs := put(t, shop, nil, demo.Saturday, demo.Saturday+", in green", demo.Saturday+", no egg at all")
	a, err := d.Plan()
	if err != nil {
		t.Fatal(err)
	}
	first := map[string]int{}
	for i, x := range d.Tasks {
		if x.Kind == schedule.Roll {
			if at, seen := first[jobs[x.Batch].Letter]; !seen || a.Slots[i].Start < at {
				first[jobs[x.Batch].Letter] = a.Slots[i].Start
			}
		}
	}
	if !(first["C"] < first["A"] && first["A"] < first["B"]) {
		t.Errorf("rolled at %v; classes %d %d %d", first, jobs[0].Class, jobs[1].Class, jobs[2].Class)
	}
}

// A dough for another day ends in the fridge, and one from there needs no kneading; a mixer holds its bowl; a second
// roller needs no cleaning; the fridge instead of the counter leaves room.
func TestParts(t *testing.T) {
	d, _ := put(t, two(), func(j *day.Job) { j.Part = day.DoughOnly }, demo.Service)
	if slices.ContainsFunc(d.Tasks, func(x schedule.Task) bool { return x.Kind != schedule.Knead }) {
		t.Errorf("only the dough: %+v", d.Tasks)
	}
	d, _ = put(t, two(), func(j *day.Job) { j.Part = day.FromCold }, demo.Service)
	if slices.ContainsFunc(d.Tasks, func(x schedule.Task) bool { return x.Kind == schedule.Knead }) {
		t.Errorf("from the fridge: %+v", d.Tasks)
	}
	d, _ = put(t, two(), func(j *day.Job) { j.Cooked = true }, demo.Service)
	if !slices.ContainsFunc(d.Tasks, func(x schedule.Task) bool { return x.Kind == schedule.Pot }) {
		t.Error("cooked, without a pot")
	}
	shop := two()
	shop.Rollers = 2
	d, _ = put(t, shop, nil, demo.Saturday, demo.Chandler)
	a, err := d.Plan()
	if err != nil || slices.ContainsFunc(a.Slots, func(s schedule.Slot) bool { return s.CleanMin > 0 }) {
		t.Errorf("two rollers: %v", err)
	}
	d, _ = put(t, two(), nil, demo.Saturday)
	day.Chill(d, rules.Default().Day)
	i := slices.IndexFunc(d.Lags, func(l schedule.Lag) bool { return l.What == schedule.InCold })
	if i < 0 || d.Lags[i].Min < 120 || d.Lags[i].Max < 1440 {
		t.Errorf("in the fridge: %+v", d.Lags)
	}
}

// What is moved by hand stands where it was put, breaks nothing, and takes with it only what has to follow.
func TestMove(t *testing.T) {
	d, _ := put(t, two(), nil, demo.Saturday, demo.Service, demo.Chandler)
	a, err := d.Plan()
	if err != nil {
		t.Fatal(err)
	}
	none := make([]bool, len(a.Slots))
	moved, refused := 0, 0
	for i := range d.Tasks {
		for _, by := range []int{-700, -60, -25, -5, 5, 15, 30, 90, 300} {
			to := a.Slots[i].Start + by
			slots, no := d.Move(a.Slots, none, i, to, schedule.Nobody)
			if no != nil {
				refused++
				if no.Nearest >= 0 {
					if _, again := d.Move(a.Slots, none, i, no.Nearest, schedule.Nobody); again != nil {
						t.Errorf("task %d: %d is said to be possible, and is not", i, no.Nearest)
					}
				}
				continue
			}
			moved++
			if slots[i].Start != to || len(d.Faults(slots)) > 0 {
				t.Errorf("task %d to %d: %+v %+v", i, to, slots[i], d.Faults(slots))
			}
		}
	}
	if moved < 20 || refused < 10 {
		t.Errorf("%d moved, %d refused", moved, refused)
	}
	begun := slices.Clone(none)
	begun[0] = true
	if slots, _ := d.Move(a.Slots, begun, 1, a.Slots[1].Start+5, schedule.Nobody); slots != nil &&
		slots[0] != a.Slots[0] {
		t.Error("what has begun was moved")
	}
}

// What a day needs is what its batches need together.
func TestSetOut(t *testing.T) {
	var plans []*plan.Plan
	flour, eggs := 0., 0
	for _, name := range []string{demo.Saturday, demo.Service, demo.Chandler, demo.Lantern} {
		p, err := plan.Make(rules.Default(), demo.Batch(name))
		if err != nil {
			t.Fatal(err)
		}
		plans = append(plans, p)
		flour, eggs = flour+p.Formula.FlourG, eggs+p.Formula.Pick.Whole+p.Formula.Pick.Yolks
	}
	g, n := 0., 0
	for _, x := range day.SetOut(plans, "2026-11-28") {
		if x.Kind == day.NeedFlour {
			g += x.MassG
		}
		n += x.Whole + x.Yolks
	}
	if math.Abs(g-flour) > .01 || n != eggs {
		t.Errorf("%.1f g and %d eggs, want %.1f and %d", g, n, flour, eggs)
	}
	for _, x := range day.SetOut(plans, "2030-01-01") {
		if x.Lot != "" && !x.Short {
			t.Errorf("%s is long past its day: %+v", x.Lot, x)
		}
	}
}

// known is a batch of no recipe.
func known(id uint64, name, shape, kept string) day.Known {
	return day.Known{Like: day.Like{ID: id}, Name: name, Shape: shape, Kept: kept}
}

// A recipe goes before any batch, by its name and by what it is called besides; of several the maker is asked.
func TestRecipesGoFirst(t *testing.T) {
	recipe := func(id uint64, name, shape string, names ...string) day.Known {
		return day.Known{Like: day.Like{ID: id, Recipe: true}, Name: name, Shape: shape, Names: names}
	}
	there := []day.Known{recipe(1, "Egg ribbons", "Tagliatelle", "tagl."), recipe(2, "Green ribbons", "Tagliatelle"),
		recipe(3, "Tortellini", "Tortellini"), known(9, "Tagliatelle for Saturday", "Tagliatelle", ""),
		known(8, "Nastri", "Pappardelle", "")}
	never := func(a, b day.Like) bool { return false }
	for what, want := range map[string]day.Like{"Tagl.": {ID: 1, Recipe: true}, "green ribbons": {ID: 2, Recipe: true},
		"tagliatelle": {}, "nastri": {ID: 8}, "tortelloni": {}, "tagliatelle for saturday": {ID: 9}} {
		f := day.Find(what, there)
		if got, ask := f.One(never); got != want || got == (day.Like{}) && ask == "" {
			t.Errorf("%s: %v, %q", what, got, ask)
		}
	}
	for _, l := range []day.Like{{ID: 7}, {ID: 12, Recipe: true}} {
		if got, err := day.ReadLike(l.String()); got != l || err != nil {
			t.Errorf("%v: %v, %v", l, got, err)
		}
	}
	for _, bad := range []string{"", "recipe-", "x", "recipe-0", "-1"} {
		if _, err := day.ReadLike(bad); err == nil {
			t.Errorf("%q names something", bad)
		}
	}
}

// Orders for the same come from one dough; what nothing is known of is asked about.
func TestPropose(t *testing.T) {
	there := []day.Known{known(9, "Counter trays, mixed", "Tagliatelle", "fridge"),
		known(7, "Tagliatelle for Saturday", "Tagliatelle", ""), known(6, "Yolk tagliolini for service", "Tagliolini",
			"")}
	wants := []day.Want{{ID: 1, Who: "A", What: "tagliatelle", Count: 8, Due: 800}, {ID: 2, Who: "B",
		What: "yolk tagliolini", Count: 5, Due: 700},
		{ID: 3, Who: "C", What: "Tagliatelle", Count: 4, Due: 700}, {ID: 4, Who: "D", What: "gnocchi", Count: 2,
			Due: 700},
		{ID: 5, Who: "E", What: "tagliatelle for saturday", Count: 3, Due: 900}, {ID: 6, Who: "F", What: "tagliatelle",
			Count: 3, Due: 900, Jobs: []uint64{3}}}
	all := func(a, b day.Like) bool { return true }
	got := day.Propose(wants, there, all)
	if len(got) != 3 || got[0].Source.ID != 7 || got[0].Portions != 15 || got[0].Due != 700 || got[1].Source.ID != 6 ||
		got[2].Source.ID != 0 {
		t.Errorf("%+v", got)
	}
	for what, want := range map[string]uint64{"taglia": 9, "tag": 9, "trofie": 0, "lasagnette": 0, "taglatelle": 0,
		"Tagliattele": 0} {
		if got, _ := day.Find(what, there).One(all); got.ID != want {
			t.Errorf("%s: %v, not %d", what, got, want)
		}
	}
	// proposed, never taken
	for what, want := range map[string]uint64{"taglatelle": 9, "Tagliattele": 9, "talgiolini": 6} {
		if f := day.Find(what, there); !f.Nearly || len(f.Fits) == 0 || f.Fits[0].ID != want {
			t.Errorf("%s: %+v", what, f)
		}
	}
}

// Of several that fit and differ the maker is asked, also of a note, and nothing dried or frozen is taken for what
// was ordered; the same made many times is one thing, however long ago it was made first.
func TestProposeAsks(t *testing.T) {
	there := []day.Known{known(90, "Tagliatelle, dried", "Tagliatelle", "shelf"),
		known(80, "Frozen tagliatelle", "Tagliatelle", "freezer")}
	for id := uint64(79); id > 2; id-- {
		there = append(there, known(id, fmt.Sprintf("Linguine %d", id), "Linguine", ""))
	}
	there = append(there, known(2, "Tagliatelle", "Tagliatelle", ""),
		known(1, "Tagliatelle", "Tagliatelle", ""))
	same := func(a, b day.Like) bool { return true }
	one := func(what string, alike func(a, b day.Like) bool) day.Proposal {
		return day.Propose([]day.Want{{ID: 1, Who: "A", What: what, Count: 8}}, there, alike)[0]
	}
	if p := one("tagliatelle", same); p.Source.ID != 2 {
		t.Errorf("dried for fresh: %+v", p)
	}
	if p := one("tagliatelle", func(a, b day.Like) bool { return false }); p.Source.ID != 0 || p.Ask == "" ||
		len(p.Fits) < 2 || p.Fits[0].ID != 2 {
		t.Errorf("two that differ: %+v", p)
	}
	if p := one("frozen tagliatelle", same); p.Source.ID != 80 {
		t.Errorf("frozen, and said so: %+v", p)
	}
	if p := one("Tagliatelle (secche)", same); p.Source.ID != 90 {
		t.Errorf("dried, and said so: %+v", p)
	}
	if p := one("dried linguine", same); p.Source.ID != 0 || p.Ask == "" {
		t.Errorf("there are none dried: %+v", p)
	}
	there = append(there, known(95, "Tortellini", "Tortellini", ""))
	if p := one("tortelloni", same); p.Source.ID != 0 || p.Ask != "Nothing here is called that." {
		t.Errorf("tortelloni: %+v", p)
	}
	for words, is := range map[string]uint64{"TAGLIATELLES.": 2, "tagliatelle,": 2} { // case, points, a last s
		if p := one(words, same); p.Source.ID != is {
			t.Errorf("%s: %+v", words, p)
		}
	}
	noted := day.Propose([]day.Want{{ID: 1, Who: "A", What: "linguine", Count: 8}, {ID: 2, Who: "B", What: "linguine",
		Count: 2, Note: "vegan! no egg"},
		{ID: 3, Who: "C", What: "linguine", Count: 2}}, there, same)
	if len(noted) != 2 || noted[0].Portions != 10 || noted[1].Source.ID != 0 || noted[1].Notes[0] != "vegan! no egg" ||
		!strings.Contains(noted[1].Ask, "vegan") {
		t.Errorf("%+v", noted)
	}
}

// A minute of the day is what the clock on the wall says, also where it is put forward meanwhile.
func TestMinutesByTheWallClock(t *testing.T) {
	where := time.FixedZone("quay", 3600)
	if zone, err := time.LoadLocation("Europe/Rome"); err == nil {
		where = zone
	}
	midnight := time.Date(2026, 3, 29, 0, 0, 0, 0, where) // at two it is three
	for _, at := range []time.Time{time.Date(2026, 3, 29, 8, 30, 0, 0, where), time.Date(2026, 3, 29, 1, 59, 0, 0,
		where), time.Date(2026, 3, 30, 1, 5,
		0, 0, where)} {
		minutes := day.MinuteOf(midnight, at)
		if want := 60*at.Hour() + at.Minute(); minutes%1440 != want || minutes/1440 != at.Day()-29 {
			t.Errorf("%v is minute %d", at, minutes)
		}
		if back := day.At(midnight, minutes); !back.Equal(at) {
			t.Errorf("minute %d is %v, not %v", minutes, back, at)
		}
	}
}

// Moved in time as a whole, a day keeps everything between its tasks.
func TestShift(t *testing.T) {
	d, jobs := put(t, two(), nil, demo.Saturday, demo.Chandler)
	a, err := d.Plan()
	if err != nil {
		t.Fatal(err)
	}
	s := day.Sheet{Shop: two(), Jobs: jobs}
	s.Take(d, a)
	c := s.Copy()
	c.Shift(95)
	if len(c.Day.Faults(c.Slots)) > 0 || c.Slots[0].Start != s.Slots[0].Start+95 || c.Shop.OpenAt != s.Shop.OpenAt+95 {
		t.Errorf("%+v", c.Day.Faults(c.Slots))
	}
	if s.Slots[0] != a.Slots[0] || s.Shop.OpenAt != two().OpenAt {
		t.Error("the copy and what it was made of are one")
	}
}

// What the bench knows of a dough that lies in its rest is what the day counts with: its kneading done when it was
// done, the roll to come; without the bench the same can be said by hand; and what comes later says that what comes
// before was done.
func TestFacts(t *testing.T) {
	now := time.Date(2026, 11, 28, 11, 0, 0, 0, time.UTC)
	midnight := now.Truncate(24 * time.Hour)
	sc := demo.Scenario(rules.Default(), demo.Day)
	made := sc.Makings(now, sc.Batches)[1]
	run := bench.Run(made.Plan, made.Began, made.Events)
	d, jobs := put(t, two(), nil, demo.Service)
	a, err := d.Plan()
	if err != nil {
		t.Fatal(err)
	}
	s := day.Sheet{Shop: two(), Jobs: jobs}
	s.Take(d, a)
	facts := s.Facts(map[uint64]day.Made{1: {Steps: run.Steps, State: run.State}}, midnight, 660)
	if knead, roll := facts[s.Task("1.knead.1")], facts[s.Task("1.roll.1")]; !knead.Done || knead.End < 645 ||
		knead.End > 655 ||
		knead.Start >= knead.End || roll.Begun {
		t.Errorf("kneading %+v, rolling %+v", knead, roll)
	}
	// A making gone through from end to end has done every task, each when its steps were.
	whole := sc.Makings(now, sc.Batches)[0]
	ran := bench.Run(whole.Plan, whole.Began, whole.Events)
	linguine, of := put(t, two(), nil, demo.Chandler)
	b, err := linguine.Plan()
	if err != nil {
		t.Fatal(err)
	}
	l := day.Sheet{Shop: two(), Jobs: of}
	l.Take(linguine, b)
	last := -2000
	for i, f := range l.Facts(map[uint64]day.Made{1: {Steps: ran.Steps, State: ran.State}}, midnight, 660) {
		if !f.Done || f.Start < last || f.End <= f.Start || f.End-f.Start > 3*b.Slots[i].Min {
			t.Errorf("%s: %+v, planned %+v", linguine.Tasks[i].Key, f, b.Slots[i])
		}
		last = f.Start
	}
	s.Marks = map[string]day.Mark{"1.roll.1": {Began: 600}}
	facts = s.Facts(nil, midnight, 660)
	if knead, roll := facts[s.Task("1.knead.1")], facts[s.Task("1.roll.1")]; !knead.Done || knead.End > 600 ||
		!roll.Begun || roll.Done || roll.End < 660 {
		t.Errorf("said by hand: kneading %+v, rolling %+v", knead, roll)
	}
	kept, _, err := d.Slip(a.Slots, facts, 660, 500)
	if err != nil || kept.Slots[s.Task("1.cut.1")].Start < 660 {
		t.Errorf("%v %+v", err, kept)
	}
}

// Egg dough that is planned to be out of the fridge for longer than it should be is spoken of, with its times, until it
// is packed; a dough without egg is not.
func TestLongOutOfTheFridgeIsSaid(t *testing.T) {
	never := func(int) bool { return false }
	d, jobs := put(t, two(), nil, demo.Saturday, demo.Saturday+", no egg at all")
	a, err := d.Plan()
	if err != nil {
		t.Fatal(err)
	}
	said := day.Narrator{Day: d, Jobs: jobs, Slots: a.Slots}
	if out := said.Out(never); len(out) > 0 {
		t.Errorf("planned in time: %q", out)
	}
	w := d.Waits[0]
	if len(d.Waits) != 1 || d.Tasks[w.A].Batch != 0 {
		t.Fatalf("%+v", d.Waits)
	}
	said.Slots[w.B].Start = said.Slots[w.A].Start + 179 - said.Slots[w.B].Min
	from, to := said.Slots[w.A].Start, said.Slots[w.A].Start+179
	want := jobs[0].Letter + ", " + jobs[0].Name + ": its egg dough is out of the fridge from " + day.Time(from) +
		" to " + day.Time(to) +
		", 2 h 59 in all, and should be packed within 2 h 00."
	if out := said.Out(never); len(out) != 1 || out[0] != want {
		t.Errorf("said %q, not %q", out, want)
	}
	if out := said.Out(func(task int) bool { return task == w.B }); len(out) > 0 {
		t.Errorf("packed already: %q", out)
	}
}
