package store_test

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"regexp"
	"slices"
	"strings"
	"testing"

	"hollen/internal/account"
	"hollen/internal/core/bench"
	"hollen/internal/core/day"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/demo/demotest"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// workshop is one with something of every kind: a day's work with days and orders, makings, deleted batches and what
// was made of them, a
// retired flour that a batch was made with, devices, settings of the log, accounts.
func workshop(t *testing.T) *store.Store {
	t.Helper()
	s, _ := demotest.Store(t, demo.Day)
	ctx := context.Background()
	old := demo.Scenario(rules.Default(), demo.Day).Batches[0].Request.Flours[0].Kind()
	old.Name, old.ProteinPct = "Wind 00", 11.25
	id, err := s.Keep(ctx, store.FlourKind, 0, 0, old)
	if err != nil {
		t.Fatal(err)
	}
	first, err := s.Get(ctx, 1)
	if err != nil {
		t.Fatal(err)
	}
	r := first.Request.Request
	old.Key = store.Key(id)
	r.Name, r.Flours = "By the old flour", slices.Clone(r.Flours[:1])
	r.Flours[0].Flour, r.Flours[0].Own = old.Key, &old
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	b, err := s.Create(ctx, p)
	if err != nil {
		t.Fatal(err)
	}
	twin, err := s.Create(ctx, p)
	if err != nil {
		t.Fatal(err)
	}
	m, err := s.Begin(ctx, b, p, storetest.Now())
	_, e2 := s.AddEvents(
		ctx,
		m.ID,
		[]bench.Event{
			{ID: "one", At: storetest.Now(), Says: bench.Noted{Text: "x"}},
			{ID: "two", At: storetest.Now(), Says: bench.Ended{}},
		},
	)
	if err := errors.Join(err, e2, s.Delete(ctx, twin.ID), s.Delete(ctx, 3), s.Retire(ctx, store.FlourKind, id, true),
		s.ChangeLogSettings(ctx, func(l *store.LogSettings) {
			l.Left, l.Away, l.Flours = []uint64{1}, []string{"x"}, []string{"own-1 + wholemeal"}
		})); err != nil {
		t.Fatal(err)
	}
	hash, err := account.Hash(ctx, "a heron on the quay")
	_, e1 := s.AddAccount(ctx, "Linde", "keeps", hash)
	_, e2 = s.AddDevice(ctx, "bench", "scale")
	_, e3 := s.AddPicture(ctx, 1, []byte{0xff, 0xd8, 0, 1})
	if err := errors.Join(err, e1, e2, e3, s.HearRoom(ctx, "room", 20, .5, storetest.Now())); err != nil {
		t.Fatal(err)
	}
	return s
}

// anonymous are the rows of a document with what numbers stand for in their place, sorted: the same workshop under
// other numbers gives the same.
func anonymous(t *testing.T, docs map[string]string) map[string][]string {
	t.Helper()
	rows := func(name string) (out []map[string]any) {
		for _, l := range strings.Split(strings.TrimSpace(docs[name+".jsonl"]), "\n") {
			var row map[string]any
			if l == "" {
				continue
			}
			if err := json.Unmarshal([]byte(l), &row); err != nil {
				t.Fatal(err)
			}
			out = append(out, row)
		}
		return out
	}
	stands := map[string]map[string]string{}
	learn := func(table string, of ...string) {
		stands[table] = map[string]string{"0": "0"}
		for _, r := range rows(table) {
			words := table
			for _, c := range of {
				words += fmt.Sprint(" ", r[c])
			}
			stands[table][fmt.Sprint(r["id"])] = words
		}
	}
	stands["cabinet"] = map[string]string{}
	for _, r := range rows("cabinet") {
		f := r["figures"].(map[string]any)
		stands["cabinet"][fmt.Sprint(r["id"])] = fmt.Sprint(r["kind"], " ", f["name"], f["of"], f["protein_pct"])
	}
	learn("batches", "created_at", "name")
	learn("makings", "began")
	learn("recipes", "created_at", "name")
	learn("standing_orders", "weekday", "who", "what", "due")
	bare := regexp.MustCompile(`\bown-\d+\b`)
	own, task := regexp.MustCompile(`"own-(\d+)"`), regexp.MustCompile(`"(\d+)(\.[a-z]+\.\d+)"`)
	batch, left := regexp.MustCompile(`"batch":(\d+)`), regexp.MustCompile(`"(left_out|ticked)":\[([0-9,]*)\]`)
	// A number that stands for a row, whichever document it is in.
	of := map[string]string{
		"batch_id":   "batches",
		"partner_id": "",
		"batch":      "batches",
		"making_id":  "makings",
		"standing":   "standing_orders",
		"maker_id":   "cabinet",
		"recipe_id":  "recipes",
	}
	out := map[string][]string{}
	for name := range docs {
		table := strings.TrimSuffix(name, ".jsonl")
		if table == name || slices.Contains([]string{"accounts", "audits", "log_settings", "workshops"}, table) {
			continue
		}
		for _, r := range rows(table) {
			if table != "making_events" && table != "rooms" {
				delete(r, "id")
			}
			if table == "rooms" {
				delete(r, "id")
			}
			delete(r, "kept")
			delete(r, "once")
			for c, to := range of {
				if c == "partner_id" { // of the same table
					to = table
				}
				if v, is := r[c].(float64); is {
					r[c] = stands[to][fmt.Sprint(v)]
				}
			}
			line, err := json.Marshal(r)
			if err != nil {
				t.Fatal(err)
			}
			text := own.ReplaceAllStringFunc(
				string(line),
				func(m string) string { return `"` + stands["cabinet"][own.FindStringSubmatch(m)[1]] + `"` },
			)
			if table == "days" || table == "day_versions" {
				text = strings.ReplaceAll(text, `\"`, `"`)
			}
			text = task.ReplaceAllStringFunc(text, func(m string) string {
				x := task.FindStringSubmatch(m)
				return stands["batches"][x[1]] + x[2]
			})
			if strings.HasPrefix(table, "day") {
				text = regexp.MustCompile(`"batch":(\d{1,9}),"version"`).
					ReplaceAllStringFunc(text, func(m string) string {
						return stands["batches"][batch.FindStringSubmatch(m)[1]]
					})
			}
			text = left.ReplaceAllString(text, "$1")
			text = bare.ReplaceAllStringFunc(
				text,
				func(m string) string { return stands["cabinet"][strings.TrimPrefix(m, "own-")] },
			)
			out[table] = append(out[table], text)
		}
		slices.Sort(out[table])
	}
	return out
}

// Put beside what is there, a backup adds all that is not, row by row the same, under numbers of its own here. Asked
// for a preview it writes
// nothing; a second time it finds everything there.
func TestRestoreBeside(t *testing.T) {
	s, ctx := workshop(t), context.Background()
	raw := backedUp(t, s, true)
	dsn := storetest.DSN(t)
	here, err := store.Open(ctx, dsn, storetest.Now)
	if err != nil {
		t.Fatal(err)
	}
	defer here.Close()
	// keys are others here
	if _, err := here.Keep(ctx, store.FlourKind, 0, 0, flour.Flour{Name: "Another", ProteinPct: 14.5}); err != nil {
		t.Fatal(err)
	}
	was := anonymous(t, documents(t, backedUp(t, here, true)))
	beside := func(preview bool) store.Beside {
		t.Helper()
		b, err := store.RestoreBeside(
			ctx,
			dsn,
			storetest.Now,
			bytes.NewReader(raw),
			int64(len(raw)),
			store.BesideOptions{Preview: preview},
		)
		if err != nil {
			t.Fatal(err)
		}
		return b
	}
	would := beside(true)
	if is := anonymous(t, documents(t, backedUp(t, here, true))); !reflect.DeepEqual(was, is) {
		t.Error("a preview writes")
	}
	did := beside(false)
	if !reflect.DeepEqual(would.Kinds, did.Kinds) || did.Kind("deleted batches").Added != 2 ||
		did.Kind("makings").Added != 3 ||
		len(did.Clashes) > 0 {
		t.Errorf("would %s; did %s", would.Words(true), did.Words(false))
	}
	for _, want := range []string{"deleted batches: 2 added", "days: ", "orders of the week: ", "House: 1 added",
		"settings of the log: 1 added", "devices: 1 added",
		"accounts: 1 left out", "pictures: 1 added"} {
		if !strings.Contains(did.Words(false), want) {
			t.Errorf("%q is not said: %s", want, did.Words(false))
		}
	}
	theirs, ours := anonymous(t, documents(t, raw)), anonymous(t, documents(t, backedUp(t, here, true)))
	for table, rows := range theirs {
		for _, r := range rows {
			if !slices.Contains(ours[table], r) {
				t.Errorf("%s: %.600s is not here", table, r)
				break
			}
		}
		if more := len(ours[table]) - len(rows); more != 0 && (table != "cabinet" || more != 1) {
			t.Errorf("%s: %d rows, and %d here", table, len(rows), len(ours[table]))
		}
	}
	set, _, err := here.LogSettings(ctx)
	cab, e := here.Cabinet(ctx)
	if err = errors.Join(err, e); err != nil || len(set.Left) != 1 ||
		!slices.Equal(set.Flours, []string{cab.Flours[1].Key + " + wholemeal"}) {
		t.Errorf("%+v, %v", set, err)
	}
	for range 2 {
		again := beside(false)
		for _, k := range again.Kinds {
			if k.Added > 0 || len(k.Others) > 0 {
				t.Errorf("once more: %s", again.Words(false))
				break
			}
		}
	}
	if is := anonymous(t, documents(t, backedUp(t, here, true))); !reflect.DeepEqual(ours, is) {
		t.Error("putting it beside once more writes")
	}
}

// A flour retired at home stays what it is, though another has its number here; so does what was learned of it. What
// here is called the same with
// other figures stays, and is said.
func TestBesideKnowsThingsByWhatTheyAre(t *testing.T) {
	s, ctx := workshop(t), context.Background()
	raw := backedUp(t, s, false)
	dsn := storetest.DSN(t)
	here, err := store.Open(ctx, dsn, storetest.Now)
	if err != nil {
		t.Fatal(err)
	}
	defer here.Close()
	things, err := s.Things(ctx, true)
	if err != nil {
		t.Fatal(err)
	}
	most := uint64(0)
	for _, x := range things {
		most = max(most, x.ID)
	}
	for i := range most + 3 { // so that every number is taken
		if _, err := here.Keep(ctx, store.FlourKind, 0, 0, flour.Flour{Name: fmt.Sprint("Strong ", i),
			ProteinPct: 15}); err != nil {
			t.Fatal(err)
		}
	}
	did, err := store.RestoreBeside(
		ctx,
		dsn,
		storetest.Now,
		bytes.NewReader(raw),
		int64(len(raw)),
		store.BesideOptions{},
	)
	if err != nil {
		t.Fatal(err)
	}
	list, _, err := here.List(ctx, store.Query{Words: "old flour"})
	if err != nil || len(list) != 1 {
		t.Fatalf("%d, %v; %s", len(list), err, did.Words(false))
	}
	b, err := here.Get(ctx, list[0].ID)
	if err != nil {
		t.Fatal(err)
	}
	things, err = here.Things(ctx, true)
	f := b.Request.Flours[0]
	i := slices.IndexFunc(things, func(x store.Thing) bool { return store.Key(x.ID) == f.Flour })
	if err != nil || i < 0 || !things[i].Retired || things[i].Value.(flour.Flour).Name != "Wind 00" || f.Own == nil ||
		f.Own.Key != f.Flour ||
		f.Own.Name != "Wind 00" {
		t.Errorf("it is made with %s, %+v", f.Flour, f.Own)
	}
	made, err := here.MadeOf(ctx, b.ID)
	if err != nil || len(made) != 0 { // its making has not been ended by the store
		t.Errorf("%d, %v", len(made), err)
	}
	m, err := here.Makings(ctx, b.ID)
	if err != nil || len(m) != 1 || m[0].Request.Flours[0].Flour != f.Flour {
		t.Errorf("%d makings, %v", len(m), err)
	}
}

// Of a day, an order or the House said otherwise here, nothing is written until somebody has said which it is to be;
// then it is that.
func TestBesideAsks(t *testing.T) {
	s, ctx := workshop(t), context.Background()
	raw := backedUp(t, s, false)
	dsn := storetest.DSN(t)
	if _, err := store.Restore(ctx, dsn, storetest.Now, bytes.NewReader(raw), int64(len(raw))); err != nil {
		t.Fatal(err)
	}
	here, err := store.Open(ctx, dsn, storetest.Now)
	if err != nil {
		t.Fatal(err)
	}
	defer here.Close()
	days, err := here.Days(ctx, "2000-01-01", "2100-01-01")
	if err != nil || len(days) == 0 {
		t.Fatalf("%d days, %v", len(days), err)
	}
	date := days[0].Date
	week, err := here.Week(ctx)
	if err != nil || len(week) == 0 {
		t.Fatal(err)
	}
	house, err := here.House(ctx)
	if err != nil {
		t.Fatal(err)
	}
	changed := days[0].Sheet
	changed.Shop.Trays += 7
	portions := week[0].Portions
	week[0].Portions += 11
	school := house.School
	house.School = "another"
	if _, err := here.SaveDay(ctx, date, days[0].Version, changed); err != nil {
		t.Fatal(err)
	}
	if err := errors.Join(here.SaveStanding(ctx, week[0]), here.SaveHouse(ctx, house.House, house.Version,
		false)); err != nil {
		t.Fatal(err)
	}
	put := func(side *bool) (store.Beside, error) {
		return store.RestoreBeside(
			ctx,
			dsn,
			storetest.Now,
			bytes.NewReader(raw),
			int64(len(raw)),
			store.BesideOptions{Decide: func(store.Clash) (bool, bool) {
				return side != nil && *side, side != nil
			}},
		)
	}
	says := func() (trays int, ordered float64, school knead.School) {
		d, err1 := here.Day(ctx, date)
		w, err2 := here.Week(ctx)
		h, err3 := here.House(ctx)
		if err := errors.Join(err1, err2, err3); err != nil {
			t.Fatal(err)
		}
		return d.Shop.Trays, w[slices.IndexFunc(w, func(o store.Standing) bool { return o.ID == week[0].ID })].Portions,
			h.School
	}
	b, err := put(nil)
	if !errors.Is(err, store.ErrClashes) || len(b.Clashes) != 3 {
		t.Fatalf("%v: %s", err, b.Words(true))
	}
	no, yes := false, true
	if _, err := put(&no); err != nil {
		t.Fatal(err)
	}
	if trays, ordered, p := says(); trays != changed.Shop.Trays || ordered != portions+11 || p != "another" {
		t.Errorf("left as it is here: %d %g %s", trays, ordered, p)
	}
	if _, err := put(&yes); err != nil {
		t.Fatal(err)
	}
	if trays, ordered, p := says(); trays != changed.Shop.Trays-7 || ordered != portions || p != school {
		t.Errorf("the backup’s: %d %g %s", trays, ordered, p)
	}
	d, err := here.Day(ctx, date)
	if err != nil || !d.CanUndo {
		t.Errorf("the day taken over cannot be taken back: %v", err)
	}
	if b, err := put(nil); err != nil || len(b.Clashes) > 0 {
		t.Errorf("nothing is asked any more: %v, %s", err, b.Words(false))
	}
}

// A new machine whose first account has been made takes a backup; the account stays and signs in as before, also where
// the backup has one of
// its name. One that holds anything else takes none.
func TestRestoreKeepsTheFirstAccount(t *testing.T) {
	s, ctx := workshop(t), context.Background()
	raw := backedUp(t, s, true)
	for _, name := range []string{"Orla", "linde"} {
		dsn := storetest.DSN(t)
		here, err := store.Open(ctx, dsn, storetest.Now)
		if err != nil {
			t.Fatal(err)
		}
		hash, err := account.Hash(ctx, "a seal on the sand")
		if err != nil {
			t.Fatal(err)
		}
		if _, err := here.AddAccount(ctx, name, "keeps", hash); err != nil {
			t.Fatal(err)
		}
		if err := here.Audited(ctx, store.Audit{Who: name, What: "made", Detail: "first"}); err != nil {
			t.Fatal(err)
		}
		done, err := store.Restore(ctx, dsn, storetest.Now, bytes.NewReader(raw), int64(len(raw)))
		if err != nil || done.Kept != name {
			t.Fatalf("%v %q", err, done.Kept)
		}
		a, err := here.AccountNamed(ctx, name)
		right, e := account.Verify(ctx, a.Password, "a seal on the sand")
		if err != nil || e != nil || !right || a.Role != "keeps" || !strings.EqualFold(a.Maker, name) {
			t.Errorf("%s cannot sign in as before: %v %+v", name, err, a)
		}
		is, was := documents(t, backedUp(t, here, true)), documents(t, raw)
		for doc := range was {
			if !slices.Contains(
				[]string{"hollen-backup.json", "accounts.jsonl", "audits.jsonl", "cabinet.jsonl"},
				doc,
			) &&
				is[doc] != was[doc] {
				t.Errorf("%s: %.300s", doc, is[doc])
			}
		}
		if !strings.HasPrefix(is["cabinet.jsonl"], was["cabinet.jsonl"]) ||
			!strings.Contains(is["audits.jsonl"], `"first"`) {
			t.Error("the cabinet or the trail is another")
		}
		if _, err := store.Restore(ctx, dsn, storetest.Now, bytes.NewReader(raw), int64(len(raw))); !errors.Is(
			err,
			store.ErrNotEmpty,
		) {
			t.Errorf("once more: %v", err)
		}
		here.Close()
	}
	for what, put := range map[string]func(*store.Store) error{
		"room":  func(s *store.Store) error { return s.SaveRoom(ctx, store.Room{Name: "x", TempC: 20, RH: .5}) },
		"house": func(s *store.Store) error { return s.SaveHouse(ctx, request.DefaultHouse(), 0, false) },
		"day": func(s *store.Store) error {
			_, err := s.SaveDay(ctx, "2026-05-02", 0, day.Sheet{Shop: day.DefaultShop(rules.Default().Day)})
			return err
		},
	} {
		dsn := storetest.DSN(t)
		here, err := store.Open(ctx, dsn, storetest.Now)
		if err != nil {
			t.Fatal(err)
		}
		if err := put(here); err != nil && what != "house" {
			t.Fatal(err)
		}
		if _, err := store.Restore(ctx, dsn, storetest.Now, bytes.NewReader(raw), int64(len(raw))); what != "house" &&
			!errors.Is(err, store.ErrNotEmpty) {
			t.Errorf("%s: %v", what, err)
		}
		here.Close()
	}
}
