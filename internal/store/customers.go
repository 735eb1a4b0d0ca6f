package store

import (
	"context"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hollen/internal/core/order"
)

// Customer is somebody who orders, of whom there is a card: what goes with each of their orders, when they pause.
type Customer struct {
	ID          uint64 `gorm:"primaryKey"`
	Fold        string // the name as order.Fold has it, of which there is one
	Name        string
	Always      string // goes with every order of theirs, as a note does: "nut allergy"
	Remark      string // for whoever takes the orders
	PausedFrom  string // yyyy-mm-dd, "": they do not pause
	PausedUntil string // the last day of it
	Version     int
}

// Pauses says whether a customer pauses on a day.
func (c *Customer) Pauses(date string) bool {
	return c.PausedFrom != "" && date >= c.PausedFrom && (c.PausedUntil == "" || date <= c.PausedUntil)
}

// Closed is when the house is closed: the orders of every week do not stand on those days.
type Closed struct {
	ID       uint64 `gorm:"primaryKey"`
	FromDay  string // yyyy-mm-dd
	UntilDay string // the last day of it
	Why      string
}

func (Closed) TableName() string { return "closed_days" }

// MostCustomers is how many cards there may be, and MostClosed how many times a house is closed.
const (
	MostCustomers = 2000
	MostClosed    = 200
)

// Customers returns the customers there are cards of, by name.
func (s *Store) Customers(ctx context.Context) (out []Customer, err error) {
	err = s.db.WithContext(ctx).Order("name, id").Limit(MostCustomers).Find(&out).Error
	return out, err
}

// CustomerNamed returns the card of a customer; a new one, without a number, where there is none.
func (s *Store) CustomerNamed(ctx context.Context, name string) (Customer, error) {
	var rows []Customer
	err := s.db.WithContext(ctx).Where("fold = ?", order.Fold(name)).Limit(1).Find(&rows).Error
	if err != nil || len(rows) == 0 {
		return Customer{Name: name, Fold: order.Fold(name)}, err
	}
	return rows[0], nil
}

// SaveCustomer keeps a card: a new one, or in place of that version of it; ErrChanged when it was kept anew meanwhile.
func (s *Store) SaveCustomer(ctx context.Context, c Customer) error {
	c.Fold = order.Fold(c.Name)
	if c.ID == 0 {
		var n int64
		if err := s.db.WithContext(ctx).Model(&Customer{}).Count(&n).Error; err != nil {
			return err
		}
		if n >= MostCustomers {
			return ErrTooMany
		}
		c.Version = 1
		done := s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&c)
		if done.Error == nil && done.RowsAffected == 0 {
			return ErrChanged
		}
		return done.Error
	}
	done := s.db.WithContext(ctx).Model(&Customer{}).Where("id = ? AND version = ?", c.ID, c.Version).
		Updates(map[string]any{"always": c.Always, "remark": c.Remark, "paused_from": c.PausedFrom,
			"paused_until": c.PausedUntil, "version": c.Version + 1})
	return s.changed(ctx, done, &Customer{}, c.ID)
}

// Forgotten stands for the name of a customer who wished it to be taken out.
const Forgotten = "(name taken out)"

// ForgetCustomer takes a customer's name out everywhere: of orders, those of the week, and their card. What was
// ordered,
// how much and for when, stays. It returns of how many orders.
func (s *Store) ForgetCustomer(ctx context.Context, name string) (n int64, err error) {
	fold := order.Fold(name)
	if fold == "" || name == Forgotten {
		return 0, ErrNotFound
	}
	err = s.transact(ctx, func(tx *gorm.DB) error {
		n = 0
		for _, table := range []string{"orders", "standing_orders"} {
			var names []string
			if err := tx.Table(table).Distinct().Pluck("who", &names).Error; err != nil {
				return err
			}
			for _, who := range names {
				if order.Fold(who) != fold {
					continue
				}
				set := map[string]any{"who": Forgotten, "note": "", "version": gorm.Expr("version + 1")}
				if table == "orders" {
					set["agreed"], set["agreed_by"] = "", ""
				}
				done := tx.Table(table).Where("who = ?", who).Updates(set)
				if done.Error != nil {
					return done.Error
				}
				n += done.RowsAffected
			}
		}
		return tx.Where("fold = ?", fold).Delete(&Customer{}).Error
	})
	return n, err
}

// CustomerOrders returns the last orders of a customer, the newest first, and what they take every week.
func (s *Store) CustomerOrders(ctx context.Context, name string, n int) (out []Order, week []Standing, err error) {
	fold := order.Fold(name)
	var names []string
	err = s.db.WithContext(ctx).Raw("SELECT DISTINCT who FROM orders UNION SELECT DISTINCT who FROM standing_orders").
		Scan(&names).Error
	if err != nil {
		return nil, nil, err
	}
	var same []string
	for _, who := range names {
		if order.Fold(who) == fold {
			same = append(same, who)
		}
	}
	if len(same) == 0 {
		return nil, nil, nil
	}
	err = s.db.WithContext(ctx).Select("*, DATE_FORMAT(day, '%Y-%m-%d') AS day").Where("who IN ? AND NOT gone", same).
		Order("orders.day DESC, due").Limit(n).Find(&out).Error
	if err != nil {
		return nil, nil, err
	}
	err = s.db.WithContext(ctx).Where("who IN ?", same).Order("(weekday + 6) % 7, due").Find(&week).Error
	return out, week, err
}

// Names returns who has ordered since a day, and who orders every week, each once.
func (s *Store) Names(ctx context.Context, since string) (out []string, err error) {
	err = s.db.WithContext(ctx).Raw("SELECT DISTINCT who FROM orders WHERE day >= ? AND NOT gone UNION "+
		"SELECT DISTINCT who FROM standing_orders ORDER BY who LIMIT 2000", since).Scan(&out).Error
	return out, err
}

// ClosedDays returns when the house is closed, the next first.
func (s *Store) ClosedDays(ctx context.Context) (out []Closed, err error) {
	err = s.db.WithContext(ctx).Order("from_day, id").Limit(MostClosed).Find(&out).Error
	return out, err
}

// CloseDays keeps when the house is closed.
func (s *Store) CloseDays(ctx context.Context, c Closed) error {
	all, err := s.ClosedDays(ctx)
	if err != nil {
		return err
	}
	if len(all) >= MostClosed {
		return ErrTooMany
	}
	for _, x := range all { // said twice it is once
		if x.FromDay == c.FromDay && x.UntilDay == c.UntilDay {
			return nil
		}
	}
	c.ID = 0
	return s.db.WithContext(ctx).Create(&c).Error
}

// OpenDays takes back that the house is closed.
func (s *Store) OpenDays(ctx context.Context, id uint64) error {
	return s.db.WithContext(ctx).Delete(&Closed{}, id).Error
}

// ClosedOn says why the house is closed on a day; false where it is open.
func (s *Store) ClosedOn(ctx context.Context, date string) (why string, closed bool, err error) {
	var rows []Closed
	err = s.db.WithContext(ctx).Where("from_day <= ? AND until_day >= ?", date, date).Limit(1).Find(&rows).Error
	if err != nil || len(rows) == 0 {
		return "", false, err
	}
	return rows[0].Why, true, nil
}
