package day

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"hollen/internal/core/day"
	"hollen/internal/core/measure"
	"hollen/internal/core/order"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// customersView is the page of who orders.
type customersView struct {
	Find  string
	Names []customerName
}

// customerName is one who orders, and what their card says.
type customerName struct{ Name, Always, Pause string }

// recent is how far back it is looked who ordered, days.
const recent = 400

// ListCustomers shows who orders, and of whom there are cards.
func (s *Room) ListCustomers(c *page.Visit) error {
	ctx := c.Request.Context()
	names, err := s.Store.Names(ctx, s.Now().AddDate(0, 0, -recent).Format(time.DateOnly))
	if err != nil {
		return err
	}
	cards, err := s.Store.Customers(ctx)
	if err != nil {
		return err
	}
	v := customersView{Find: strings.TrimSpace(c.Query("find"))}
	seen := map[string]bool{}
	add := func(n customerName) {
		fold := order.Fold(n.Name)
		if !seen[fold] && n.Name != store.Forgotten && strings.Contains(fold, order.Fold(v.Find)) {
			seen[fold] = true
			v.Names = append(v.Names, n)
		}
	}
	for _, x := range cards {
		add(customerName{x.Name, x.Always, pauseWords(&x)})
	}
	for _, n := range names {
		add(customerName{Name: n})
	}
	s.Render(c, http.StatusOK, "customers", "Customers", v)
	return nil
}

func pauseWords(x *store.Customer) string {
	switch {
	case x.PausedFrom == "":
		return ""
	case x.PausedUntil == "":
		return "pauses from " + measure.DayWords(x.PausedFrom)
	}
	return fmt.Sprintf("pauses %s to %s", measure.DayWords(x.PausedFrom), measure.DayWords(x.PausedUntil))
}

// customerView is the card of a customer.
type customerView struct {
	store.Customer
	Marks  string
	Rows   []takenRow
	Week   []string
	Told   string
	Errors map[string]string
	Sure   bool // it is asked whether the name is to be taken out
}

// takenRow is one order a customer had.
type takenRow struct{ Date, Day, Text, State string }

// mostTaken is how many of a customer's last orders their card shows.
const mostTaken = 40

// ShowCustomer shows the card of a customer: what they take, what goes with all their orders, when they pause.
func (s *Room) ShowCustomer(c *page.Visit) error {
	name := strings.Join(strings.Fields(c.Query("name")), " ")
	if name == "" || utf8.RuneCountInString(name) > order.LongestWord {
		return page.Refuse(http.StatusNotFound, "There is no such customer.", "Their names are listed under Customers.",
			page.WayOn{To: "/customers", Name: "Customers"})
	}
	card, err := s.Store.CustomerNamed(c.Request.Context(), name)
	if err != nil {
		return err
	}
	return s.showCustomer(c, http.StatusOK, customerView{Customer: card, Sure: c.Query("sure") != ""})
}

func (s *Room) showCustomer(c *page.Visit, status int, v customerView) error {
	rows, week, err := s.Store.CustomerOrders(c.Request.Context(), v.Name, mostTaken)
	if err != nil {
		return err
	}
	for _, o := range rows {
		said := o.Said()
		v.Rows = append(v.Rows, takenRow{o.Day, measure.DayWords(o.Day), said.Words() + " of " + o.What + ", " +
			day.Time(o.Due), stateWords(&o)})
	}
	for _, w := range week {
		said := w.Said()
		v.Week = append(v.Week, fmt.Sprintf("%s: %s of %s, %s", time.Weekday(w.Weekday), said.Words(), w.What,
			day.Time(w.Due)))
	}
	v.Marks = order.MarksWords(order.Marks(v.Always))
	s.Render(c, status, "customer", v.Name, v)
	return nil
}

// cardPath is the address of a customer's card.
func cardPath(name string) string { return "/customers/card?name=" + url.QueryEscape(name) }

// named reads whose card a form is of.
func (s *Room) named(c *page.Visit) (values url.Values, name string, err error) {
	if values, err = s.Posted(c); err != nil {
		return nil, "", err
	}
	name = strings.Join(strings.Fields(values.Get("name")), " ")
	if n := utf8.RuneCountInString(name); n < 1 || n > order.LongestWord || order.Fold(name) == "" {
		err = page.Refuse(http.StatusUnprocessableEntity, "A customer needs a name.", "1 to 80 letters.",
			page.WayOn{To: "/customers", Name: "Customers"})
	}
	return values, name, err
}

// ForgetCustomer takes a customer's name out everywhere, once it is said for sure.
func (s *Room) ForgetCustomer(c *page.Visit) error {
	values, name, err := s.named(c)
	if err != nil {
		return err
	}
	if values.Get("sure") == "" {
		c.Redirect(http.StatusSeeOther, cardPath(name)+"&sure=1")
		return nil
	}
	n, err := s.Store.ForgetCustomer(c.Request.Context(), name)
	if err != nil {
		return err
	}
	s.Audit(c, "took out", fmt.Sprintf("a customer’s name, of %d orders", n))
	c.Redirect(http.StatusSeeOther, "/customers")
	return nil
}

// SaveCustomer keeps the card of a customer.
func (s *Room) SaveCustomer(c *page.Visit) error {
	values, name, err := s.named(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	card, err := s.Store.CustomerNamed(ctx, name)
	if err != nil {
		return err
	}
	v := customerView{Customer: card, Errors: map[string]string{}}
	v.Version, _ = strconv.Atoi(values.Get("version"))
	text := func(part string, most int) string {
		said := strings.Join(strings.Fields(values.Get(part)), " ")
		if utf8.RuneCountInString(said) > most {
			v.Errors[part] = fmt.Sprintf("Up to %d letters.", most)
		}
		return said
	}
	date := func(part string) string {
		said := strings.TrimSpace(values.Get(part))
		if _, err := measure.Day(said); said != "" && err != nil {
			v.Errors[part] = "A day, as 2026-12-24, or none."
		}
		return said
	}
	v.Always, v.Remark = text("always", order.LongestNote), text("remark", 600)
	v.PausedFrom, v.PausedUntil = date("paused_from"), date("paused_until")
	switch {
	case v.PausedUntil != "" && v.PausedFrom == "":
		v.Errors["paused_from"] = "From which day do they pause?"
	case v.PausedUntil != "" && v.PausedUntil < v.PausedFrom:
		v.Errors["paused_until"] = "Not before it begins."
	}
	if len(v.Errors) > 0 {
		return s.showCustomer(c, http.StatusUnprocessableEntity, v)
	}
	switch err := s.Store.SaveCustomer(ctx, v.Customer); {
	case errors.Is(err, store.ErrChanged), errors.Is(err, store.ErrNotFound):
		now, err := s.Store.CustomerNamed(ctx, name)
		if err != nil {
			return err
		}
		v.Told = fmt.Sprintf("Not kept yet: another window kept this card meanwhile; there it says “%s”, %s. What "+
			"you typed "+
			"is below.", now.Always, pauseOr(pauseWords(&now)))
		v.Customer.ID, v.Version = now.ID, now.Version
		return s.showCustomer(c, http.StatusConflict, v)
	case err != nil:
		return err
	}
	c.Redirect(http.StatusSeeOther, cardPath(name))
	return nil
}

func pauseOr(words string) string {
	if words == "" {
		return "no pause"
	}
	return words
}
