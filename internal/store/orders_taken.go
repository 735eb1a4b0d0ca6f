package store

import (
	"context"
	"strings"
	"time"
)

// Taken is which recipe a customer got for the same words before.
type Taken struct {
	Who, What string
	RecipeID  uint64
	Name      string
	Day       string // the last time, yyyy-mm-dd
}

// takenDays is how far back it is looked what a customer took.
const takenDays = 400

// TakenBefore returns, for customers and the words they used, the recipe in use that served them last before a day, by
// who and what in small letters; those that never took any are not in it.
func (s *Store) TakenBefore(ctx context.Context, orders []Order, before string) (map[[2]string]Taken, error) {
	var pairs [][]any
	for _, o := range orders {
		pairs = append(pairs, []any{o.Who, o.What})
	}
	out := map[[2]string]Taken{}
	if len(pairs) == 0 {
		return out, nil
	}
	since := before
	if t, err := time.Parse(time.DateOnly, before); err == nil {
		since = t.AddDate(0, 0, -takenDays).Format(time.DateOnly)
	}
	var rows []Taken
	err := s.db.WithContext(ctx).Table("orders").
		Select("orders.who, orders.what, recipes.id AS recipe_id, recipes.name, DATE_FORMAT(orders.day, "+
			"'%Y-%m-%d') AS day").
		Joins("JOIN batches ON batches.id = orders.batch").
		Joins("JOIN recipes ON recipes.id = batches.recipe_id AND recipes.retired_at IS NULL").
		Where("(orders.who, orders.what) IN ? AND orders.day BETWEEN ? AND ? AND orders.day < ? AND "+
			"NOT orders.gone", pairs, since, before, before).
		Order("orders.day, orders.id").Scan(&rows).Error
	for _, r := range rows {
		out[takenKey(r.Who, r.What)] = r
	}
	return out, err
}

func takenKey(who, what string) [2]string {
	return [2]string{strings.ToLower(who), strings.ToLower(what)}
}

// TakenKey is the key of an order in what TakenBefore returns.
func (o *Order) TakenKey() [2]string { return takenKey(o.Who, o.What) }
