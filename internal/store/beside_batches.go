package store

import (
	"encoding/json"
	"slices"

	"hollen/internal/core/bench"
)

// batches puts batches with their versions and makings beside, deleted ones as such.
func (c *besides) batches() error {
	theirs, err := c.theirs("batches", "ORDER BY id")
	if err != nil {
		return err
	}
	var used []uint64 // of two that are alike each goes by its own
	for _, b := range theirs {
		k := c.kind(batchKind)
		if b["deleted_at"] != nil {
			k = c.kind(deletedKind)
		}
		was, doc := b.id("id"), rekeyed(b.text("request"), c.keys)
		versions, err := c.theirs("revisions", "WHERE batch_id = ? ORDER BY version", was)
		if err != nil {
			return err
		}
		id, gone, err := c.batchHere(b, doc, versions, used)
		if err != nil {
			return err
		}
		if id > 0 {
			if gone && b["deleted_at"] == nil {
				k.Others = append(k.Others, b.name()+" (deleted here)")
			} else {
				k.Had++
			}
			c.kind(versionKind).Had += len(versions)
		} else {
			if id, err = c.put("batches", b.as(map[string]any{"request": doc, "partner_id": nil,
				"once": nil, "recipe_id": c.recipeHere(b)})); err != nil {
				return err
			}
			for _, v := range versions {
				if _, err := c.put("revisions", v.as(map[string]any{"batch_id": id, "request": rekeyed(v.text(
					"request"), c.keys)})); err != nil {
					return err
				}
			}
			k.Added++
			c.kind(versionKind).Added += len(versions)
		}
		used, c.batch[was] = append(used, id), id
		if err := c.makings(was, id); err != nil {
			return err
		}
	}
	return nil
}

// batchHere returns the batch here that one of the backup is, 0 where it is none: one that is called and says the same,
// or one that began as
// it did and has been what it is. gone: it has been deleted here.
func (c *besides) batchHere(b line, doc string, versions []line, used []uint64) (id uint64, gone bool, err error) {
	ours, err := c.ours("batches", "WHERE name = COALESCE(JSON_VALUE(?, '$.name'), '') AND JSON_EQUALS(request, ?) "+
		"ORDER BY created_at <> ?, deleted_at IS NOT NULL, id", doc, doc, b["created_at"])
	if err != nil {
		return 0, false, err
	}
	for _, o := range ours {
		// One deleted on one side alone is the same only if it began with it.
		if id := o.id("id"); !slices.Contains(used, id) &&
			((o["deleted_at"] != nil) == (b["deleted_at"] != nil) || o.text("created_at") == b.text("created_at")) {
			return id, o["deleted_at"] != nil, nil
		}
	}
	if len(versions) == 0 {
		return 0, false, nil
	}
	born, err := c.ours("batches", "WHERE created_at = ? ORDER BY id", b["created_at"])
	if err != nil {
		return 0, false, err
	}
	for _, o := range born {
		id := o.id("id")
		if slices.Contains(used, id) {
			continue
		}
		since, err := c.ours("revisions", "WHERE batch_id = ? ORDER BY version", id)
		if err != nil {
			return 0, false, err
		}
		if len(since) > 0 && sameJSON(since[0].text("request"), rekeyed(versions[0].text("request"), c.keys)) &&
			slices.ContainsFunc(since, func(v line) bool { return sameJSON(v.text("request"), doc) }) {
			return id, o["deleted_at"] != nil, nil
		}
	}
	return 0, false, nil
}

// name is what a batch is called.
func (l line) name() string {
	var said struct{ Name string }
	_ = json.Unmarshal([]byte(l.text("request")), &said) // what cannot be read has none
	return said.Name
}

// partners has doughs that go together go together here.
func (c *besides) partners() error {
	theirs, err := c.theirs("batches", "WHERE partner_id IS NOT NULL")
	if err != nil {
		return err
	}
	for _, b := range theirs {
		if with := c.batch[b.id("partner_id")]; with > 0 {
			if err := c.db.Exec("UPDATE batches SET partner_id = ? WHERE id = ? AND partner_id IS NULL", with,
				c.batch[b.id("id")]).Error; err != nil {
				return err
			}
		}
	}
	return nil
}

// makings puts the makings of one batch beside, with their events and pictures. One is there already where one began at
// the same moment with the
// same first event, whichever batch it stands at.
func (c *besides) makings(of, here uint64) error {
	theirs, err := c.theirs("makings", "WHERE batch_id = ? ORDER BY id", of)
	if err != nil {
		return err
	}
	k := c.kind(makingKind)
	for _, m := range theirs {
		was := m.id("id")
		events, err := c.theirs("making_events", "WHERE making_id = ? ORDER BY seq", was)
		if err != nil {
			return err
		}
		id, further, err := c.makingHere(m, events, here)
		if err != nil {
			return err
		}
		if id > 0 {
			c.making[was] = id
			if further {
				k.Others = append(k.Others, m.text("began")[:16])
			} else {
				k.Had++
			}
			c.kind(eventKind).Had += len(events)
			continue
		}
		if id, err = c.put("makings", m.as(map[string]any{"batch_id": here, "request": rekeyed(m.text("request"),
			c.keys), "once": nil})); err != nil {
			return err
		}
		c.making[was] = id
		for _, e := range events {
			if _, err := c.putEvent(id, e); err != nil {
				return err
			}
		}
		pictures, err := c.copied("making_pictures", "making_id", was, id)
		if err != nil {
			return err
		}
		k.Added++
		c.kind(eventKind).Added += len(events)
		c.kind(pictureKind).Added += pictures
		if m["ended"] != nil {
			if err := c.summary(id); err != nil {
				return err
			}
		}
	}
	return nil
}

// putEvent keeps an event; its id is a name and not a number.
func (c *besides) putEvent(making uint64, e line) (uint64, error) {
	return 0, c.db.Exec(
		"INSERT INTO making_events (making_id, seq, id, at, arrived, doc) VALUES (?, ?, ?, ?, ?, ?)",
		making,
		e["seq"],
		e["id"],
		e["at"],
		e["arrived"],
		rekeyed(e.text("doc"), c.keys),
	).Error
}

// makingHere returns the making here that one of the backup is, 0 where it is none, and whether the backup’s has gone
// further.
func (c *besides) makingHere(m line, events []line, batch uint64) (id uint64, further bool, err error) {
	ours, err := c.ours("makings", "WHERE began = ? ORDER BY batch_id <> ?, id", m["began"], batch)
	if err != nil {
		return 0, false, err
	}
	for _, o := range ours {
		id := o.id("id")
		first, err := c.ours("making_events", "WHERE making_id = ? ORDER BY seq LIMIT 1", id)
		if err != nil {
			return 0, false, err
		}
		if len(first) == 0 && len(events) == 0 && o.id("batch_id") == batch ||
			len(first) > 0 && len(events) > 0 && first[0].text("id") == events[0].text("id") {
			return id, m.id("seq") > o.id("seq"), nil
		}
	}
	return 0, false, nil
}

// summary makes what lists read of a making that was put beside; one that cannot be read has none, as everywhere.
func (c *besides) summary(id uint64) error {
	m, err := c.into.Making(c.ctx, id)
	if err != nil {
		return err
	}
	p, err := m.Plan()
	if err != nil {
		c.into.log.Warn("beside", "making", id, "err", err)
		return nil
	}
	events, _, err := c.into.Events(c.ctx, id, 0)
	if err != nil {
		c.into.log.Warn("beside", "making", id, "err", err)
		return nil
	}
	run := bench.Run(p, m.Began, events)
	row, err := summaryOf(m, &run, events)
	if err != nil {
		return err
	}
	return c.db.Create(&row).Error
}
