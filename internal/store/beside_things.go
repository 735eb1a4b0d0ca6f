package store

import (
	"cmp"
	"encoding/json"
	"slices"
	"strings"
)

// rooms puts rooms beside; one of a name that is there stays as it is here.
func (c *besides) rooms() error {
	theirs, err := c.theirs("rooms", "ORDER BY id")
	if err != nil {
		return err
	}
	ours, err := c.ours("rooms", "ORDER BY id")
	if err != nil {
		return err
	}
	k := c.kind(roomKind)
	for _, r := range theirs {
		i := slices.IndexFunc(ours, func(o line) bool { return strings.EqualFold(o.text("name"), r.text("name")) })
		switch {
		case i >= 0 && ours[i].text("temp_c") == r.text("temp_c") && ours[i].text("rh") == r.text("rh"):
			k.Had++
		case i >= 0:
			k.Others = append(k.Others, r.text("name"))
		case len(ours) >= MostRooms:
			k.Left, k.Why = k.Left+1, "as many are kept as can be"
		default:
			if _, err := c.put("rooms", r); err != nil {
				return err
			}
			ours, k.Added = append(ours, r), k.Added+1
		}
	}
	return nil
}

// thingHere is a thing of the cabinet by what it is.
type thingHere struct {
	key, kind, name, of, doc string
	retired                  bool
}

// itself stands in a thing’s figures for its own key, which is another here.
const itself = "own-"

// thingIn reads what a row of the cabinet is; one that cannot be read has no name.
func thingIn(l line, keys map[string]string) thingHere {
	t := thingHere{key: Key(l.id("id")), kind: l.text("kind"), retired: l["retired_at"] != nil}
	t.doc = rekeyed(rekeyed(l.text("figures"), map[string]string{t.key: itself}), keys)
	var said struct {
		Name, Of string
		Flour    json.RawMessage
	}
	_ = json.Unmarshal([]byte(t.doc), &said)
	t.name = cmp.Or(said.Name, said.Of)
	if Kind(t.kind) == LotKind { // a delivery is one of its flour
		t.of = string(said.Flour)
	}
	return t
}

// is says whether both are the same thing by name.
func (t thingHere) is(o thingHere) bool {
	return t.kind == o.kind && t.of == o.of && t.name != "" && strings.EqualFold(t.name, o.name)
}

// rank has flours come before the deliveries that name them, and both before ways, which name anything.
func rank(kind string) int {
	switch Kind(kind) {
	case FlourKind:
		return 0
	case WayKind:
		return 2
	}
	return 1
}

// things puts things of the cabinet beside, retired ones as such, and notes which key each has here. One is there
// already where kind, name and figures are the same, or, in use on both sides, kind and name: the one here stays as it
// is then, and batches keep the figures they
// were made with.
func (c *besides) things() error {
	theirs, err := c.theirs("cabinet", "ORDER BY id")
	if err != nil {
		return err
	}
	here, err := c.ours("cabinet", "ORDER BY retired_at IS NOT NULL, id")
	if err != nil {
		return err
	}
	var ours []thingHere
	for _, l := range here {
		ours = append(ours, thingIn(l, nil))
	}
	slices.SortStableFunc(
		theirs,
		func(a, b line) int { return cmp.Compare(rank(a.text("kind")), rank(b.text("kind"))) },
	)
	k := c.kind(thingKind)
	for _, l := range theirs {
		t := thingIn(l, c.keys)
		i := slices.IndexFunc(ours, func(o thingHere) bool { return o.kind == t.kind && sameJSON(o.doc, t.doc) })
		if i < 0 && !t.retired {
			i = slices.IndexFunc(ours, func(o thingHere) bool { return !o.retired && o.is(t) })
			if i >= 0 {
				k.Others = append(k.Others, t.name)
			}
		} else if i >= 0 {
			k.Had++
		}
		if i >= 0 {
			c.keys[t.key] = ours[i].key
			continue
		}
		if len(ours) >= maxThings {
			return ErrTooMany
		}
		id, err := c.put("cabinet", l.as(map[string]any{"figures": t.doc}))
		if err != nil {
			return err
		}
		if doc := strings.ReplaceAll(t.doc, `"`+itself+`"`, `"`+Key(id)+`"`); doc != t.doc {
			if err := c.db.Exec("UPDATE cabinet SET figures = ? WHERE id = ?", doc, id).Error; err != nil {
				return err
			}
		}
		c.keys[t.key], k.Added = Key(id), k.Added+1
		t.key = Key(id)
		ours = append(ours, t)
	}
	return nil
}

// house puts the workshop’s name and what new batches start from beside.
func (c *besides) house() error {
	theirs, err := c.theirs("workshops", "")
	if err != nil || len(theirs) == 0 {
		return err
	}
	ours, err := c.ours("workshops", "")
	if err != nil {
		return err
	}
	t, k := theirs[0].as(nil), c.kind(houseKind)
	if t["house"] != nil {
		t["house"] = rekeyed(t.text("house"), c.keys)
	}
	if len(ours) == 0 {
		k.Added++
		return c.db.Exec(
			"INSERT INTO workshops (id, name, house, version) VALUES (1, ?, ?, 1)",
			t["name"],
			t["house"],
		).Error
	}
	o := ours[0]
	name, house := t["name"], t["house"]
	if t.text("name") == "" {
		name = o["name"]
	}
	if house == nil {
		house = o["house"]
	}
	here := line{"name": name, "house": house}
	switch {
	case here.text("name") == o.text("name") && sameJSON(here.text("house"), o.text("house")):
		k.Had++
		return nil
	case (o.text("name") == "" || here.text("name") == o.text("name")) && (o["house"] == nil ||
		sameJSON(here.text("house"), o.text("house"))):
		k.Added++
	case !c.settled("house", "what new batches start from (House)"):
		return nil
	}
	return c.db.Exec("UPDATE workshops SET name = ?, house = ?, version = version + 1", name, house).Error
}

// counts puts what of the log counts beside: what is said of single makings goes with them, the rest where nothing is
// said of it here.
func (c *besides) counts() error {
	theirs, _, err := c.from.LogSettings(c.ctx)
	if err != nil {
		k := c.kind(countsKind)
		k.Left, k.Why = 1, "they cannot be read"
		return nil //nolint:nilerr // told
	}
	here := func(ids []uint64) (out []uint64) {
		for _, id := range ids {
			if to, ok := c.making[id]; ok {
				out = append(out, to)
			}
		}
		return out
	}
	var t, o, bare LogSettings
	t = theirs
	t.Left, t.Ticked = here(t.Left), here(t.Ticked)
	for _, labels := range []*[]string{&t.Flours, &t.Away} { // a flour goes by its key there: own-1 + wholemeal
		*labels = slices.Clone(*labels)
		for i, x := range *labels {
			(*labels)[i] = bareKey.ReplaceAllStringFunc(x, func(key string) string { return cmp.Or(c.keys[key], key) })
		}
	}
	if o, _, err = c.into.LogSettings(c.ctx); err != nil {
		k := c.kind(countsKind)
		k.Left, k.Why = 1, "those here cannot be read"
		return nil //nolint:nilerr // told
	}
	says := func(l LogSettings) LogSettings { return LogSettings{Off: l.Off, Flours: l.Flours, Since: l.Since} }
	same := func(a, b LogSettings) bool {
		return a.Off == b.Off && slices.Equal(a.Flours, b.Flours) && a.Since.Equal(b.Since)
	}
	take, asked := false, false
	switch {
	case same(says(t), bare), same(says(t), says(o)):
	case same(says(o), bare):
		take = true
	default:
		take, asked = c.settled("log", "what of the log counts"), true
	}
	more := func(of, with []uint64) bool {
		return slices.ContainsFunc(with, func(id uint64) bool { return !slices.Contains(of, id) })
	}
	changed := take || more(o.Left, t.Left) || more(o.Ticked, t.Ticked) ||
		slices.ContainsFunc(t.Away, func(a string) bool { return !slices.Contains(o.Away, a) })
	if k := c.kind(countsKind); changed && !asked {
		k.Added++
	} else if !asked && !same(says(t), bare) {
		k.Had++
	}
	if !changed {
		return nil
	}
	return c.into.ChangeLogSettings(c.ctx, func(l *LogSettings) {
		if take {
			l.Off = t.Off
			l.Flours = t.Flours
			l.Since = t.Since
		}
		l.Left = append(l.Left, t.Left...)
		l.Ticked = append(l.Ticked, t.Ticked...)
		l.Away = append(l.Away, t.Away...)
		for _, ids := range []*[]uint64{&l.Left, &l.Ticked} {
			slices.Sort(*ids)
			*ids = slices.Compact(*ids)
		}
		slices.Sort(l.Away)
		l.Away = slices.Compact(l.Away)
	})
}

// devices puts devices beside; one of a name that is there stays as it is here.
func (c *besides) devices() error {
	theirs, err := c.theirs("devices", "ORDER BY name")
	if err != nil {
		return err
	}
	k := c.kind(deviceKind)
	for _, d := range theirs {
		ours, err := c.ours("devices", "WHERE name = ?", d["name"])
		switch {
		case err != nil:
			return err
		case len(ours) > 0 && ours[0].text("kind") != d.text("kind"):
			k.Others = append(k.Others, d.text("name"))
		case len(ours) > 0:
			k.Had++
		default:
			if _, err := c.put("devices", d); err != nil {
				return err
			}
			k.Added++
		}
	}
	return nil
}

// air puts the means of the room’s air beside.
func (c *besides) air() error {
	list := c.table("room_means").list()
	done := c.db.Exec(
		"INSERT IGNORE INTO room_means (" + list + ") SELECT " + list + " FROM " + c.from.table("room_means"),
	)
	k := c.kind(airKind)
	k.Added = int(done.RowsAffected)
	k.Had = c.out.Backup.Rows["room_means"] - k.Added
	return done.Error
}

// practised puts what browsers have practised beside; what accounts have is of people of another database.
func (c *besides) practised() error {
	k := c.kind(practiceKind)
	theirs, err := c.theirs("practice_rounds", "ORDER BY id")
	if err != nil {
		return err
	}
	for _, r := range theirs {
		if !strings.HasPrefix(r.text("who"), "b") {
			k.Left, k.Why = k.Left+1, "of accounts, who are said here"
			continue
		}
		ours, err := c.ours(
			"practice_rounds",
			"WHERE who = ? AND seed = ? AND began = ?",
			r["who"],
			r["seed"],
			r["began"],
		)
		if err != nil {
			return err
		}
		if len(ours) > 0 {
			k.Had++
			continue
		}
		var batch any
		if id, known := c.batch[r.id("batch_id")]; known {
			batch = id
		}
		if _, err := c.put("practice_rounds", r.as(map[string]any{"batch_id": batch,
			"request": rekeyed(r.text("request"), c.keys)})); err != nil {
			return err
		}
		k.Added++
	}
	list := c.table("practice_calls").list()
	return c.db.Exec("INSERT IGNORE INTO practice_calls (" + list + ") SELECT " + list + " FROM " +
		c.from.table("practice_calls") + " WHERE who LIKE 'b%'").Error
}
