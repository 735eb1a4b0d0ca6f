package store

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"hollen/internal/core/day"
)

// batchKey is the number a batch of the backup has here; one that is nowhere any more gets one that nothing here has.
func (c *besides) batchKey(id uint64) uint64 {
	if to := c.batch[id]; to > 0 {
		return to
	}
	return 1<<40 + id
}

// dayDoc is a day’s document with numbers and keys as they are here.
func (c *besides) dayDoc(doc string) (string, error) {
	var sheet day.Sheet
	if err := read([]byte(doc), &sheet); err != nil {
		return "", err
	}
	sheet.Renumber(c.batchKey)
	out, err := json.Marshal(sheet)
	return rekeyed(string(out), c.keys), err
}

// days puts days beside, with the versions they can be taken back to.
func (c *besides) days() error {
	theirs, err := c.theirs("days", "ORDER BY day")
	if err != nil {
		return err
	}
	k := c.kind(dayKind)
	for _, d := range theirs {
		date := d.text("day")[:len("2006-01-02")]
		doc, err := c.dayDoc(d.text("doc"))
		if err != nil {
			k.Left, k.Why = k.Left+1, "what was kept cannot be read"
			continue
		}
		ours, err := c.ours("days", "WHERE day = ?", date)
		if err != nil {
			return err
		}
		switch {
		case len(ours) == 0:
			if err := c.newDay(d, date, doc); err != nil {
				return err
			}
			k.Added++
			continue
		case c.sameDay(doc, ours[0].text("doc")):
			k.Had++
			continue
		case c.settled("day "+date, "the day of "+date):
			version := int(ours[0].id("version"))
			if err := putDay(c.ctx, c.db, date, version, version, raw(doc)); err != nil {
				return err
			}
		}
	}
	return nil
}

// sameDay says whether the day here says what the backup’s says.
func (c *besides) sameDay(theirs, ours string) bool {
	var sheet day.Sheet
	if read([]byte(ours), &sheet) != nil {
		return false
	}
	out, err := json.Marshal(sheet)
	return err == nil && sameJSON(theirs, string(out))
}

// newDay keeps a day that is not there, and its versions that can be read.
func (c *besides) newDay(d line, date, doc string) error {
	if _, err := c.put("days", d.as(map[string]any{"day": date, "doc": doc})); err != nil {
		return err
	}
	versions, err := c.theirs("day_versions", "WHERE day = ? ORDER BY version", date)
	if err != nil {
		return err
	}
	if err := c.db.Exec("DELETE FROM day_versions WHERE day = ?", date).Error; err != nil { // of a day that is gone
		return err
	}
	for _, v := range versions {
		if doc, err := c.dayDoc(v.text("doc")); err == nil {
			if _, err := c.put("day_versions", v.as(map[string]any{"day": date, "doc": doc})); err != nil {
				return err
			}
		}
	}
	return nil
}

// said is what an order says, apart from its numbers.
var said = []string{"portions", "amount", "unit", "due", "note", "gone"}

func same(a, b line, columns ...string) bool {
	return !slices.ContainsFunc(columns, func(x string) bool { return !strings.EqualFold(a.text(x), b.text(x)) })
}

// clashing is one row that was found under the same names with something else.
func clashing(l line, when string) string {
	return fmt.Sprintf("%s for %s, %s", l.text("what"), l.text("who"), when)
}

// weekOrders puts orders of the week beside.
func (c *besides) weekOrders() error {
	return c.ordersOf("standing_orders", standingKind, "weekday", MostStanding, c.standing)
}

// orders puts orders of days beside.
func (c *besides) orders() error {
	return c.ordersOf("orders", orderKind, "day", 2*MostOrders, map[uint64]uint64{})
}

var weekdays = []string{"Sundays", "Mondays", "Tuesdays", "Wednesdays", "Thursdays", "Fridays", "Saturdays"}

// ordersOf puts orders of one table beside, at most so many at a time. One is there already where it says the same in
// all; where the same is
// ordered for the same otherwise, it is asked. Of two that say the same each goes by its own.
func (c *besides) ordersOf(name, kind, when string, most int, numbers map[uint64]uint64) error {
	theirs, err := c.theirs(name, "ORDER BY id")
	if err != nil {
		return err
	}
	here, err := c.ours(name, "ORDER BY id")
	if err != nil {
		return err
	}
	at, there := map[string][]line{}, map[string]int{}
	for _, o := range here {
		at[o.text(when)] = append(at[o.text(when)], o)
		there[o.text(when)]++
	}
	k, columns := c.kind(kind), said
	if name == "standing_orders" {
		columns = said[:5]
	}
	// take finds one that is the same by those columns and not yet spoken for.
	take := func(l line, by ...string) (line, bool) {
		all := at[l.text(when)]
		i := slices.IndexFunc(all, func(o line) bool { return same(o, l, by...) })
		if i < 0 {
			return nil, false
		}
		o := all[i]
		at[l.text(when)] = slices.Delete(slices.Clone(all), i, i+1)
		numbers[l.id("id")] = o.id("id")
		return o, true
	}
	var left []line
	for _, l := range theirs {
		if l["batch"] != nil {
			l["batch"] = c.batchKey(l.id("batch"))
		}
		if l["standing"] != nil {
			if to := c.standing[l.id("standing")]; to > 0 {
				l["standing"] = to
			} else {
				l["standing"] = nil
			}
		}
		if _, had := take(l, append([]string{"who", "what", "batch", "standing"}, columns...)...); had {
			k.Had++
			continue
		}
		left = append(left, l)
	}
	for _, l := range left {
		by := []string{"who", "what"}
		if l["standing"] != nil {
			by = []string{"standing"}
		}
		o, known := take(l, by...)
		if known {
			if c.settled(fmt.Sprintf("%s %d", kind, o.id("id")), clashing(l, dayWords(l, when))) {
				if err := c.overwrite(name, o, l); err != nil {
					return err
				}
			}
			continue
		}
		if there[l.text(when)] >= most {
			k.Left, k.Why = k.Left+1, "as many are kept as can be"
			continue
		}
		id, err := c.put(name, l.as(map[string]any{"once": nil}))
		if err != nil {
			return err
		}
		numbers[l.id("id")] = id
		there[l.text(when)]++
		k.Added++
	}
	return nil
}

// dayWords is the day of an order, or the weekday of a standing one.
func dayWords(l line, when string) string {
	if when == "weekday" {
		return weekdays[l.id(when)%7]
	}
	return l.text(when)[:len("2006-01-02")]
}

// overwrite has an order here say what the backup’s says.
func (c *besides) overwrite(name string, ours, theirs line) error {
	set, args := []string{}, []any{}
	for _, col := range c.table(name).columns {
		if col.name != "id" && col.name != "version" && col.name != "once" {
			set, args = append(set, quoted(col.name)+" = ?"), append(args, theirs[col.name])
		}
	}
	return c.db.Exec(
		"UPDATE "+quoted(name)+" SET "+strings.Join(set, ", ")+", version = version + 1 WHERE id = ?",
		append(args, ours["id"])...).Error
}
