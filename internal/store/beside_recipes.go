package store

// recipes puts recipes with all their versions beside: one of the same name that says the same is the one that is here.
func (c *besides) recipes() error {
	theirs, err := c.theirs("recipes", "ORDER BY id")
	if err != nil {
		return err
	}
	k := c.kind(recipeKind)
	for _, r := range theirs {
		doc := rekeyed(r.text("request"), c.keys)
		ours, err := c.ours("recipes", "WHERE name = ? ORDER BY id", r["name"])
		if err != nil {
			return err
		}
		id := uint64(0)
		for _, o := range ours {
			if sameJSON(o.text("request"), doc) && sameJSON(o.text("besides"), r.text("besides")) {
				id = o.id("id")
				break
			}
		}
		if id > 0 {
			c.recipe[r.id("id")] = id
			k.Had++
			continue
		}
		if id, err = c.put("recipes", r.as(map[string]any{"request": doc, "once": nil,
			"partner_id": nil})); err != nil {
			return err
		}
		versions, err := c.theirs("recipe_versions", "WHERE recipe_id = ? ORDER BY version", r.id("id"))
		if err != nil {
			return err
		}
		for _, v := range versions {
			if _, err := c.put("recipe_versions", v.as(map[string]any{"recipe_id": id,
				"request": rekeyed(v.text("request"), c.keys)})); err != nil {
				return err
			}
		}
		c.recipe[r.id("id")] = id
		k.Added++
	}
	return nil
}

// recipePartners has recipes of two doughs go together here.
func (c *besides) recipePartners() error {
	theirs, err := c.theirs("recipes", "WHERE partner_id IS NOT NULL")
	if err != nil {
		return err
	}
	for _, r := range theirs {
		id, with := c.recipe[r.id("id")], c.recipe[r.id("partner_id")]
		if id == 0 || with == 0 {
			continue
		}
		if err := c.db.Exec("UPDATE recipes SET partner_id = ? WHERE id = ? AND partner_id IS NULL", with,
			id).Error; err != nil {
			return err
		}
	}
	return nil
}

// recipeHere is the recipe here that a batch of the backup is of; nil where it is of none.
func (c *besides) recipeHere(batch line) any {
	if id, known := c.recipe[batch.id("recipe_id")]; known {
		return id
	}
	return nil
}

// customers puts the cards of customers beside, and when the house is closed: who is here already has the card that is
// here.
func (c *besides) customers() error {
	theirs, err := c.theirs("customers", "ORDER BY id")
	if err != nil {
		return err
	}
	k := c.kind(customerKind)
	for _, r := range theirs {
		ours, err := c.ours("customers", "WHERE fold = ?", r.text("fold"))
		if err != nil {
			return err
		}
		if len(ours) > 0 {
			k.Had++
			continue
		}
		if _, err := c.put("customers", r.as(nil)); err != nil {
			return err
		}
		k.Added++
	}
	closed, err := c.theirs("closed_days", "ORDER BY id")
	if err != nil {
		return err
	}
	k = c.kind(closedKind)
	for _, r := range closed {
		ours, err := c.ours("closed_days", "WHERE from_day = ? AND until_day = ?", r.text("from_day"),
			r.text("until_day"))
		if err != nil {
			return err
		}
		if len(ours) > 0 {
			k.Had++
			continue
		}
		if _, err := c.put("closed_days", r.as(nil)); err != nil {
			return err
		}
		k.Added++
	}
	return nil
}
