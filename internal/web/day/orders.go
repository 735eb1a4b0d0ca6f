package day

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"hollen/internal/core/cut"
	"hollen/internal/core/day"
	"hollen/internal/core/measure"
	"hollen/internal/core/order"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/core/request"
	"hollen/internal/exchange"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// orderRow is an order as its page shows it: as kept, or as typed where that is not allowed.
type orderRow struct {
	ID                              uint64
	Version                         int
	Who, What, Portions, When, Note string
	Weekday                         int
	Standing                        uint64
	Batch                           uint64
	BatchName                       string
	Short                           string // its batch makes less than is ordered of it
	Always                          string // what goes with every order of its customer
	Night                           string // of what is due after midnight: when that is
	From, Until                     string // of an order of the week
	Marks                           string // what it is to be without
	Allergy                         bool   // and that is an allergy
	Against                         string // what its batch is made of, against that
	Agreed                          string // what was agreed with the customer of that, by whom and when
	Beside                          string // of an allergy: what is in it, and what else is made that day
	State                           string // packed, delivered or not taken, and when
	Lost                            string // its batch was thrown away, and why
	Errors                          map[string]string
}

// proposalRow is a batch the orders need.
type proposalRow struct {
	At      int
	Text    string
	What    string
	Source  day.Like
	Chosen  string // what it is made like as chosen before, as in the form
	From    []likeRow
	IDs     string
	With    []withRow // proposals whose dough it can be cut from, too
	Err     string
	Here    []knownRow // batches that are on the day already
	Ask     string     // why nothing is chosen
	Before  string     // what the same customer took for the same words, which is proposed
	None    bool       // nothing is called that
	Notes   []string
	Marks   string   // what some of them are to be without
	Against []string // what of the choice goes against that
	Agreed  string   // as typed
}

// offer has a thing be among those it may be made like.
func (p *proposalRow) offer(l day.Like, name string) {
	if !slices.ContainsFunc(p.From, func(r likeRow) bool { return r.Like == l }) {
		p.From = append([]likeRow{{l, name}}, p.From...)
	}
}

// tookSame is what the customers of all of those orders took for their words before, where it is one and the same.
func tookSame(orders []store.Order, taken map[[2]string]store.Taken) (was store.Taken, same bool) {
	for i, o := range orders {
		t, ok := taken[o.TakenKey()]
		if !ok || i > 0 && t.RecipeID != was.RecipeID {
			return was, false
		}
		was = t
	}
	return was, len(orders) > 0
}

// withRow is another proposal, by its orders.
type withRow struct{ IDs, What string }

// ordersView is the page of a day’s orders.
type ordersView struct {
	Date, Head string
	Rows       []orderRow
	New        orderRow
	Text       string   // pasted, with lines that could not be read
	Wrong      []string // of those lines
	Told       string
	Proposals  []proposalRow
	Chosen     map[string]string // what proposals are made like as chosen before, by their orders
	Unmade     map[string]string // why not, by their orders
	Served     []served          // the batches that serve orders, with what is ordered of them
	Left       *knownRow         // a batch whose order was just dropped, which stays on the day
	Agreed     map[string]string // what was agreed with their customers, likewise
	Planned    bool
	Version    int  // of the day
	Doubled    bool // some of what was pasted is there already
	CopyTo     string
	CopyErr    string
	Closed     string // why the house is closed that day, where it is
}

func rowOfOrder(o store.Order) orderRow {
	r := orderRow{ID: o.ID, Version: o.Version, Who: o.Who, What: o.What, Portions: o.Said().Text(),
		When: order.Clock(o.Due), Note: o.Note}
	r.State = stateWords(&o)
	if t, err := measure.Day(o.Day); err == nil && o.Due >= 24*60 {
		r.Night = fmt.Sprintf("That is %s on %s.", day.Time(o.Due),
			measure.DayWords(t.AddDate(0, 0, 1).Format(time.DateOnly)))
	}
	marks := order.Marks(o.What, o.Noted())
	r.Always = o.Always
	r.Marks = order.MarksWords(marks)
	r.Allergy = slices.ContainsFunc(marks, func(m order.Mark) bool { return m.Allergy })
	if o.Agreed != "" {
		r.Agreed = "“" + o.Agreed + "”"
		if o.AgreedBy != "" {
			r.Agreed += ", " + o.AgreedBy
		}
		if o.AgreedAt != nil {
			r.Agreed += ", " + measure.TimeWords(o.AgreedAt.Local())
		}
	}
	if o.Standing != nil {
		r.Standing = *o.Standing
	}
	if o.Batch != nil {
		r.Batch = *o.Batch
	}
	return r
}

func portionsWords(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

// OpenOrders shows what is ordered for a day.
func (s *Room) OpenOrders(c *page.Visit) error {
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	var v ordersView
	if id, err := strconv.ParseUint(c.Query("left"), 10, 63); err == nil {
		for _, j := range d.Jobs {
			if j.Batch == id && !j.Left {
				v.Left = &knownRow{id, j.Letter + ", " + j.Name}
			}
		}
	}
	return s.showOrders(c, http.StatusOK, d, v)
}

// leftBy is the part of an address that names the batch an order that is dropped leaves on the day with nothing else
// ordered of it; "" where it leaves none.
func (d *dayNow) leftBy(values url.Values) string {
	at := slices.IndexFunc(d.Orders, func(o store.Order) bool { return orderMark(o) == values.Get("order") })
	if at < 0 || d.Orders[at].Batch == nil {
		return ""
	}
	id := *d.Orders[at].Batch
	for i, o := range d.Orders {
		if i != at && o.Batch != nil && *o.Batch == id {
			return ""
		}
	}
	return fmt.Sprintf("?left=%d", id)
}

// showOrders shows a day’s orders, what of them was typed wrong, and the batches they need.
func (s *Room) showOrders(c *page.Visit, status int, d *dayNow, v ordersView) error {
	ctx := c.Request.Context()
	v.Date = d.Date
	v.Head = dateWords(d.Date)
	v.Planned, v.Version = d.Planned(), d.Version
	if why, closed, err := s.Store.ClosedOn(ctx, d.Date); err != nil {
		return err
	} else if closed {
		v.Closed = cmp.Or(why, "no reason said")
	}
	typed := v.Rows
	v.Rows = nil
	var ids []uint64
	for _, o := range d.Orders {
		r := rowOfOrder(o)
		if o.Lost != nil {
			r.Lost = cmp.Or(d.Thrown[*o.Lost], "no reason said")
		}
		if r.Batch != 0 {
			ids = append(ids, r.Batch)
		}
		for _, t := range typed {
			if orderMarkOf(t) == orderMarkOf(r) {
				t.Batch = r.Batch
				t.Standing = r.Standing
				t.Version = r.Version
				r = t
			}
		}
		v.Rows = append(v.Rows, r)
	}
	batches, err := s.Store.ByIDs(ctx, ids)
	if err == nil {
		err = s.propose(ctx, d, &v)
	}
	if err != nil {
		return err
	}
	all, short, err := s.shares(ctx, d)
	if err != nil {
		return err
	}
	v.Served = all
	s.withHolds(ctx, d, batches, v.Rows)
	for i := range v.Rows {
		r := &v.Rows[i]
		b, ok := batches[r.Batch]
		if !ok {
			continue
		}
		r.BatchName, r.Short = b.Row.Name, measure.Capital(short[i])
	}
	s.Render(c, status, "orders", "Orders, "+v.Head, v)
	return nil
}

// propose finds the batches the orders that have none need.
func (s *Room) propose(ctx context.Context, d *dayNow, v *ordersView) error {
	wants := d.Wants
	var words []string
	for _, w := range wants {
		if len(w.Jobs) == 0 {
			words = append(words, w.What)
		}
	}
	known, err := s.known(ctx, words...)
	if err != nil {
		return err
	}
	for i := range wants {
		wants[i].ID = uint64(i + 1)
	}
	alike, err := s.alike(ctx, wants, known)
	if err != nil {
		return err
	}
	taken, err := s.Store.TakenBefore(ctx, slices.DeleteFunc(slices.Clone(d.Orders), func(o store.Order) bool {
		return o.Batch != nil
	}), d.Date)
	if err != nil {
		return err
	}
	for i, p := range day.Propose(wants, known, alike) {
		var orders []store.Order
		for _, at := range p.Orders {
			orders = append(orders, d.Orders[at-1])
		}
		said := ""
		if p.Source != (day.Like{}) {
			if p.Portions, err = s.reckoned(ctx, orders, p.Source, d.Date); err != nil {
				said = measure.Capital(err.Error())
			}
		}
		row := proposalRow{At: i, What: p.What, Source: p.Source, Ask: p.Ask, Notes: p.Notes, From: offered(p.Fits,
			known)}
		for _, j := range d.Jobs {
			row.Here = append(row.Here, knownRow{j.Batch, j.Letter + ", " + j.Name})
		}
		if p.Source != (day.Like{}) && said == "" {
			if made, err := s.scaled(ctx, p.Source, p.Portions, d.Date, ""); err == nil {
				p.Made = made.Formula.Portions
			}
		}
		row.Text = p.Words()
		var of []string
		for _, at := range p.Orders {
			of = append(of, orderSeen(d.Orders[at-1]))
		}
		row.IDs = strings.Join(of, ",")
		row.Chosen, row.Err = v.Chosen[row.IDs], cmp.Or(v.Unmade[row.IDs], said)
		if row.Chosen == "" && p.Source != (day.Like{}) {
			row.Chosen = p.Source.String()
		}
		row.Agreed = v.Agreed[row.IDs]
		if row.Marks, row.Against, err = s.against(ctx, orders, row.Chosen, d.Date); err != nil {
			return err
		}
		if p.Source == (day.Like{}) {
			if err := s.undecided(ctx, &row, &p, orders, taken); err != nil {
				return err
			}
		}
		v.Proposals = append(v.Proposals, row)
	}
	for i := range wants {
		wants[i].ID = d.Orders[i].ID
	}
	for marks, why := range v.Unmade {
		if !slices.ContainsFunc(v.Proposals, func(p proposalRow) bool { return p.IDs == marks }) {
			v.Told = why // what it was said of stands otherwise now
		}
	}
	return s.sharedDoughs(ctx, v.Proposals)
}

// undecided says of a proposal nothing is chosen for what tells apart those it may be, and what its customers took
// before.
func (s *Room) undecided(ctx context.Context, row *proposalRow, p *day.Proposal, orders []store.Order,
	taken map[[2]string]store.Taken) error {
	row.None = len(p.Fits) == 0
	if len(p.Fits) > 1 {
		if err := s.tellApart(ctx, p.Fits, row.From); err != nil {
			return err
		}
	}
	if was, same := tookSame(orders, taken); same {
		row.Before = fmt.Sprintf("%s took %s for it on %s.", was.Who, was.Name, measure.DayWords(was.Day))
		row.Chosen = cmp.Or(row.Chosen, day.Like{ID: was.RecipeID, Recipe: true}.String())
		row.offer(day.Like{ID: was.RecipeID, Recipe: true}, was.Name)
	}
	return nil
}

// sharedDoughs finds which proposals can be cut from the dough of one before them: the same dough, and a sheet that
// takes no filling.
func (s *Room) sharedDoughs(ctx context.Context, all []proposalRow) error {
	var likes []day.Like
	for _, p := range all {
		likes = append(likes, p.Source)
	}
	of, err := s.requests(ctx, likes)
	if err != nil {
		return err
	}
	for i := range all {
		b, ok := of[all[i].Source]
		if !ok || !fromSheet(&b) {
			continue
		}
		for _, p := range all[:i] {
			a, ok := of[p.Source]
			if ok && len(a.Cut.Also) == 0 && fromSheet(&a) && sameDough(a, b) {
				all[i].With = append(all[i].With, withRow{p.IDs, p.What})
			}
		}
	}
	return nil
}

// sameDough says whether two are of one dough, whatever the day each was made on.
func sameDough(a, b request.Request) bool {
	a, b = recipe.Of(a), recipe.Of(b)
	return request.SameDough(&a, &b)
}

// fromSheet says whether all a batch makes is cut from sheets and takes no filling.
func fromSheet(r *request.Request) bool {
	return !slices.ContainsFunc(r.Shapes(), func(x cut.Shape) bool { return x.Traits().Filling || x.Traits().Rope })
}

// orderMark names an order in a form: by its own number, or by that of the week’s.
func orderMark(o store.Order) string { return orderMarkOf(rowOfOrder(o)) }

// orderSeen names an order as it stood when a page was made of it.
func orderSeen(o store.Order) string { return fmt.Sprintf("%s.%d", orderMark(o), o.Version) }

func orderMarkOf(r orderRow) string {
	if r.ID == 0 && r.Standing != 0 {
		return fmt.Sprint("w", r.Standing)
	}
	return fmt.Sprint(r.ID)
}

// scaled is a recipe or a batch made for a day and so many portions, those of other shapes among them: what is made at
// the maker’s word keeps its ratios, and whole eggs lead. Where it comes out short of them, it is made for some more.
func (s *Room) scaled(ctx context.Context, source day.Like, portions float64, date, name string,
	also ...request.ShapePart) (*plan.Plan, error) {
	r, _, err := s.source(ctx, source, date)
	if err != nil {
		return nil, err
	}
	was, err := plan.Make(s.RulesOf(ctx, &r), r)
	if err != nil {
		return nil, err
	}
	portions = math.Ceil(portions - 1e-9) // half a portion is ordered, and no batch is planned for it
	of := func(portions float64) (*plan.Plan, error) {
		to, _, err := recipe.Scale(r, was, recipe.Want{Portions: portions})
		if err != nil {
			return nil, err
		}
		to.Cut.Also = append(slices.Clone(to.Cut.Also), also...)
		to.Name = cmp.Or(name, to.Name)
		return plan.Make(s.RulesOf(ctx, &to), to)
	}
	p, err := of(portions)
	enough := s.Rules.Day.EnoughShare
	for ask, tries := portions, 0; err == nil && p.Formula.Portions < portions*enough && tries < 6; tries++ {
		ask = math.Ceil(ask + max(portions-p.Formula.Portions, portions/50))
		p, err = of(ask)
	}
	return p, err
}

// source is the request of a recipe in use, or of a batch, for a day; an error, store.ErrNotFound, where it is gone.
func (s *Room) source(ctx context.Context, like day.Like, date string) (request.Request, store.Recipe, error) {
	if !like.Recipe {
		b, err := s.Store.Get(ctx, like.ID)
		r := b.Request.Request.Again(date)
		r.Clock = request.Clock{}
		return r, store.Recipe{}, err
	}
	of, err := s.Store.RecipeByID(ctx, like.ID)
	if err == nil && of.RetiredAt != nil {
		err = store.ErrNotFound
	}
	if err != nil {
		return request.Request{}, of, err
	}
	start, err := s.Starts(ctx)
	r := recipe.On(of.Request.Request, start)
	r.MadeOn = date
	return r, of, err
}

// readOrder reads a posted order; what is not allowed stands in the row’s errors, with everything as typed.
func readOrder(values url.Values, today time.Time) (order.Asked, orderRow) {
	id, _ := strconv.ParseUint(values.Get("id"), 10, 63)
	version, _ := strconv.Atoi(values.Get("version"))
	r := orderRow{ID: id, Version: version, Who: values.Get("who"), What: values.Get("what"),
		Portions: values.Get("portions"), When: values.Get("when"),
		Note: values.Get("note"), Errors: map[string]string{}}
	a, bad := order.One(r.Who, r.What, r.Portions, r.When, r.Note, today)
	for _, e := range bad {
		if e.Part == "how much" {
			e.Part = "portions"
		}
		r.Errors[e.Part] = measure.Capital(e.Text)
	}
	return a, r
}

// ChangeOrders adds, changes and drops orders, takes over the week’s, and makes the batches they need.
func (s *Room) ChangeOrders(c *page.Visit) error {
	if c.ContentType() == gin.MIMEMultipartPOSTForm {
		if err := c.Request.ParseMultipartForm(page.MaxBody); err != nil {
			return page.Refuse(http.StatusRequestEntityTooLarge, "That is too much at once.",
				fmt.Sprintf("A list may have %d kB.", page.MaxBody>>10))
		}
	}
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	switch values.Get("act") {
	case "add":
		a, row := readOrder(values, s.Now())
		if len(row.Errors) > 0 {
			return s.showOrders(c, http.StatusUnprocessableEntity, d, ordersView{New: row})
		}
		o := orderOn(a, d.Date)
		if err = s.Store.AddOrders(ctx, onceMarked([]store.Order{o}, page.OnceOf(values))); err == nil &&
			o.Day != d.Date {
			c.Redirect(http.StatusSeeOther, "/days/"+o.Day+"/orders") // where it was said to be
			return nil
		}
	case "save", "drop":
		if err = s.saveOrder(ctx, c, d, values); err == nil && values.Get("act") == "drop" {
			c.Redirect(http.StatusSeeOther, "/days/"+d.Date+"/orders"+d.leftBy(values))
			return nil
		}
	case "rescale":
		err = s.rescale(ctx, d, values)
	case "copy":
		return s.copyDay(c, d, values)
	case "tick":
		if err = s.tick(ctx, d, values); err == nil {
			to := "/days/" + d.Date
			if values.Get("back") == "now" {
				to += "/now?who=" + url.QueryEscape(values.Get("who"))
			}
			c.Redirect(http.StatusSeeOther, to+"#due")
			return nil
		}
	case "paste":
		err = s.pasteOrders(ctx, c, d, values)
	case "make":
		err = s.makeBatches(ctx, c, d, values)
	default:
		return page.Refuse(http.StatusBadRequest, "That cannot be done to orders.", "")
	}
	switch {
	case errors.Is(err, store.ErrTooMany):
		return s.showOrders(c, http.StatusUnprocessableEntity, d,
			ordersView{Told: fmt.Sprintf("A day has up to %d orders; "+
				"nothing was added.", store.MostOrders)})
	case errors.Is(err, store.ErrChanged), errors.Is(err, store.ErrNotFound):
		d, err := s.dayOf(c)
		if err != nil {
			return err
		}
		return s.showOrders(c, http.StatusConflict, d,
			ordersView{Told: "Another window changed that order meanwhile; " +
				"this is how it stands."})
	case err != nil:
		return err
	default:
		c.Redirect(http.StatusSeeOther, "/days/"+d.Date+"/orders")
	}
	return nil
}

// onceMarked gives orders of one form the marks by which they come once.
func onceMarked(orders []store.Order, once string) []store.Order {
	if once == "" {
		return orders
	}
	for i := range orders {
		mark := once
		if i > 0 {
			mark = fmt.Sprintf("%.34s.%d", once, i)
		}
		orders[i].Once = &mark
	}
	return orders
}

// orderOn is an order of a day, to be kept.
func orderOn(a order.Asked, date string) store.Order {
	o := store.Order{Day: cmp.Or(a.When.Date, date), Who: a.Who, What: a.What, Due: a.When.Due, Note: a.Note}
	o.Say(a.Amount)
	return o
}

// saveOrder keeps a changed order, or drops it. One of the week becomes the day’s own by that.
func (s *Room) saveOrder(ctx context.Context, c *page.Visit, d *dayNow, values url.Values) error {
	drop := values.Get("act") == "drop"
	at := slices.IndexFunc(d.Orders, func(o store.Order) bool { return orderMark(o) == values.Get("order") })
	if at < 0 {
		return store.ErrNotFound
	}
	o := d.Orders[at]
	if !drop {
		a, row := readOrder(values, s.Now())
		if a.When.Date != "" && a.When.Date != d.Date {
			row.Errors["when"] = "A time of this day. For another day, add it there and drop it here."
		}
		if row.ID, row.Standing = o.ID, rowOfOrder(o).Standing; len(row.Errors) > 0 {
			return page.Answered(s.showOrders(c, http.StatusUnprocessableEntity, d, ordersView{Rows: []orderRow{row}}))
		}
		changed := orderOn(a, d.Date)
		changed.ID = o.ID
		changed.Standing = o.Standing
		changed.Batch = cmp.Or(
			o.Batch,
			o.Lost,
		)
		changed.Version = row.Version
		changed.Message = o.Message
		changed.State, changed.StateAt = o.State, o.StateAt
		if order.MarksWords(order.Marks(o.What, o.Note)) == order.MarksWords(order.Marks(changed.What, changed.Note)) {
			changed.Agreed, changed.AgreedBy, changed.AgreedAt = o.Agreed, o.AgreedBy, o.AgreedAt
		}
		if changed.Batch != nil {
			n, err := s.reckoned(ctx, []store.Order{changed}, day.Like{ID: *changed.Batch}, d.Date)
			if err == nil {
				changed.Portions = n
			}
		}
		o = changed
	} else {
		o.Version, _ = strconv.Atoi(values.Get("version"))
		o.Gone = true
	}
	if o.ID == 0 {
		return s.Store.AddOrders(ctx, []store.Order{o})
	}
	return s.Store.SaveOrder(ctx, o)
}

// pasteOrders adds the orders of a text or a file; lines that cannot be read stay in the box, each with its reason.
func (s *Room) pasteOrders(ctx context.Context, c *page.Visit, d *dayNow, values url.Values) error {
	text := values.Get("text")
	if f, _, err := c.Request.FormFile("file"); err == nil {
		defer f.Close()
		b, err := io.ReadAll(io.LimitReader(f, page.MaxBody))
		if err != nil {
			return err
		}
		file, err := exchange.Text(b)
		if err != nil {
			return page.Answered(s.showOrders(c, http.StatusUnprocessableEntity, d, ordersView{Text: text,
				Wrong: []string{measure.Capital(err.Error()) + "."}}))
		}
		if text = strings.TrimSpace(text); text != "" {
			text += "\n"
		}
		text += file
	}
	all, wrong, err := readOrders(text, s.Now())
	if err != nil {
		return page.Answered(s.showOrders(c, http.StatusUnprocessableEntity, d, ordersView{Text: text,
			Wrong: []string{measure.Capital(err.Error()) + "."}}))
	}
	fresh, doubled, err := s.notThere(ctx, all, d.Date, values.Get("double") != "", page.OnceOf(values))
	if err != nil {
		return err
	}
	elsewhere, err := s.addSaid(ctx, fresh, d.Date, page.OnceOf(values))
	if err != nil {
		return err
	}
	wrong = append(wrong, doubled...)
	slices.SortStableFunc(wrong, func(a, b order.LineError) int { return a.Line - b.Line })
	if len(wrong) == 0 && len(all) > 0 && elsewhere == "" {
		return nil
	}
	v := ordersView{Doubled: len(doubled) > 0, Told: fmt.Sprintf("%s added%s.", measure.Plural(len(fresh), "order",
		"orders"), elsewhere)}
	if len(wrong) == 0 && len(all) > 0 {
		d, err := s.dayOf(c)
		if err != nil {
			return err
		}
		return page.Answered(s.showOrders(c, http.StatusOK, d, v))
	}
	for _, e := range wrong {
		v.Wrong = append(v.Wrong, e.Error())
	}
	v.Text = keptOf(text, all, wrong)
	if len(wrong) == 0 {
		v.Wrong = []string{"There is no order in it. One a line: who; what; how much; when."}
	} else {
		v.Wrong = append(v.Wrong, "The lines stand above as they were, and count from the top of what was given. "+
			"Said as “who; what; how much; when; note”, a line is taken as it stands.")
	}
	if d, err = s.dayOf(c); err != nil {
		return err
	}
	return page.Answered(s.showOrders(c, http.StatusUnprocessableEntity, d, v))
}

// makeBatches makes the batches that orders need, one proposal or all of them, and puts them on the day. What cannot be
// made is told by its
// proposal, and holds the others up no more than that.
func (s *Room) makeBatches(ctx context.Context, c *page.Visit, d *dayNow, values url.Values) error {
	if d.Damaged {
		return page.Refuse(
			http.StatusConflict,
			"This day cannot be read.",
			"Go back to the version before, or begin it anew, first.",
			page.WayOn{To: "/days/" + d.Date, Name: "The day"},
		)
	}
	v := ordersView{Chosen: map[string]string{}, Unmade: map[string]string{}, Agreed: map[string]string{}}
	for i, marks := range values["orders"] {
		if i < len(values["agreed"]) {
			v.Agreed[marks] = strings.Join(strings.Fields(values["agreed"][i]), " ")
		}
		if v.Chosen[marks] = ""; i < len(values["source"]) {
			v.Chosen[marks] = values["source"][i]
		}
	}
	wanted := values["orders"]
	if n, err := strconv.Atoi(values.Get("one")); err == nil && n >= 0 && n < len(wanted) {
		// makes the one it goes with, too
		if wanted = wanted[n : n+1]; strings.HasPrefix(v.Chosen[wanted[0]], fromDoughOf) {
			wanted = []string{strings.TrimPrefix(v.Chosen[wanted[0]], fromDoughOf), wanted[0]}
		}
	}
	var all []toMake
	for _, marks := range wanted {
		if doughOf(marks, wanted, v.Chosen) != marks {
			continue // it is cut from that one
		}
		var also []string
		for _, other := range wanted {
			if other != marks && doughOf(other, wanted, v.Chosen) == marks {
				also = append(also, other)
			}
		}
		x, err := s.toMake(ctx, d, marks, v.Chosen[marks], also)
		if err == nil {
			err = s.agree(ctx, c, d, &x, v.Chosen[marks], append([]string{marks}, also...), v.Agreed)
		}
		var no *notMade
		switch {
		case errors.As(err, &no):
			v.Unmade[marks] = no.Error()
		case err != nil:
			return err
		default:
			all = append(all, x)
		}
	}
	if err := s.keepMade(ctx, d, all); err != nil || len(v.Unmade) == 0 {
		return err
	}
	again, err := s.ReadDay(ctx, d.Date, d.Midnight)
	if err != nil {
		return err
	}
	return page.Answered(s.showOrders(c, http.StatusUnprocessableEntity, again, v))
}

// fromDoughOf begins what a batch is made like where it is cut from the dough of another proposal, named by its orders.
const fromDoughOf = "with-"

// doughOf is the proposal from whose dough another is cut, over any that are cut from one in turn; itself where it has
// its own.
func doughOf(marks string, all []string, chosen map[string]string) string {
	for range all {
		of, with := strings.CutPrefix(chosen[marks], fromDoughOf)
		if !with || !slices.Contains(all, of) {
			break
		}
		marks = of
	}
	return marks
}

// notMade is why a batch that orders need is not made.
type notMade struct{ why string }

func (n *notMade) Error() string { return n.why }

// toMake is a batch that orders need, or one that is on the day and serves them, before anything is kept.
type toMake struct {
	orders []store.Order
	batch  uint64 // on the day already; of a new one the number reserved for it
	plan   *plan.Plan
	of     store.Recipe // that it is made of; without a number: of none
	second bool         // the second dough of another, which is the first-th
	first  int
}

// toMake works out the batch that orders need like another, or has one serve them that is on the day. What other
// orders want is cut from the same
// dough. Its error may be a *notMade.
func (s *Room) toMake(ctx context.Context, d *dayNow, marks, like string, also []string) (x toMake, err error) {
	number, here := strings.CutPrefix(like, "on-") // from one that is on the day
	source, err := day.ReadLike(number)
	if err != nil {
		return x, &notMade{"Say what it is made like."}
	}
	orders, err := d.ordersOf(marks)
	if err != nil {
		return x, err
	}
	r, of, err := s.source(ctx, source, d.Date)
	if errors.Is(err, store.ErrNotFound) || errors.Is(err, store.ErrDeleted) {
		return x, &notMade{"That is not there any more: choose another."}
	} else if err != nil {
		return x, err
	}
	total, err := s.reckoned(ctx, orders, source, d.Date)
	if err != nil {
		return x, &notMade{measure.Capital(err.Error())}
	}
	if here {
		if len(also) > 0 {
			return x, &notMade{
				"A batch that is on the day cannot take another shape from here: change it on its own page.",
			}
		}
		return toMake{orders: orders, batch: source.ID}, nil
	}
	own := request.ShapePart{Shape: r.Cut.Shape, Own: r.Cut.Own}
	shapes, parts := []string{own.Kind().Name}, []request.ShapePart{}
	for _, other := range also {
		more, err := d.ordersOf(other)
		if err != nil {
			return x, err
		}
		portions, err := s.reckoned(ctx, more, source, d.Date)
		if err != nil {
			return x, &notMade{measure.Capital(err.Error())}
		}
		part, err := s.shapeOf(ctx, more[0].What, &r)
		if err != nil {
			return x, err
		}
		orders, total = append(orders, more...), total+portions
		same := func(x request.ShapePart) bool { return x.Kind().Key == part.Kind().Key }
		if at := slices.IndexFunc(parts, same); at >= 0 {
			parts[at].Portions += portions
			// else it is more of the first
		} else if !same(own) {
			part.Portions = portions
			shapes, parts = append(shapes, measure.Lower(part.Kind().Name)), append(parts, part)
		}
	}
	var who []string
	for _, o := range orders {
		if !slices.Contains(who, o.Who) {
			who = append(who, o.Who)
		}
	}
	p, err := s.scaled(ctx, source, total, d.Date, page.Suffixed(measure.List(shapes)+" for "+measure.List(who), ""),
		parts...)
	if err != nil {
		return x, &notMade{
			fmt.Sprintf("%s for %s portions cannot be worked out: %s", r.Name, portionsWords(total), err),
		}
	}
	return toMake{orders: orders, plan: p, of: of}, nil
}

// ordersOf are the orders named in a form; an error, a *notMade, where one has changed.
func (d *dayNow) ordersOf(marks string) (orders []store.Order, err error) {
	for _, mark := range strings.Split(marks, ",") {
		at := slices.IndexFunc(d.Orders, func(o store.Order) bool { return orderSeen(o) == mark })
		if at < 0 || d.Orders[at].Batch != nil {
			return nil, &notMade{"The orders have changed meanwhile; this is how they stand."}
		}
		orders = append(orders, d.Orders[at])
	}
	return orders, nil
}

// shapeOf is the shape an order asks for, to be cut from the dough of another batch; an error, a *notMade, where it
// cannot be.
func (s *Room) shapeOf(ctx context.Context, what string, dough *request.Request) (request.ShapePart, error) {
	known, err := s.known(ctx, what)
	if err != nil {
		return request.ShapePart{}, err
	}
	f := day.Find(what, known)
	if len(f.Fits) == 0 || f.Nearly || !fromSheet(dough) {
		return request.ShapePart{}, &notMade{what + " cannot be cut from that dough."}
	}
	r, _, err := s.source(ctx, f.Fits[0].Like, "")
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return request.ShapePart{}, err
	}
	if err != nil || !fromSheet(&r) {
		return request.ShapePart{}, &notMade{what + " cannot be cut from that dough."}
	}
	return request.ShapePart{Shape: r.Cut.Shape, Own: r.Cut.Own}, nil
}

// keepMade keeps new batches, which orders they serve, and the day they are put on, planned anew where it was planned:
// all of it or nothing.
// store.ErrChanged where an order or the day is another meanwhile.
func (s *Room) keepMade(ctx context.Context, d *dayNow, all []toMake) (err error) {
	if len(all) == 0 {
		return nil
	}
	if all, err = s.withSeconds(ctx, d.Date, all); err != nil {
		return err
	}
	var fresh []*toMake
	for i := range all {
		if all[i].plan != nil {
			fresh = append(fresh, &all[i])
		}
	}
	var names []string
	if len(fresh) > 0 {
		ids, err := s.Store.Reserve(ctx, fresh[0].plan, len(fresh))
		if err != nil {
			return err
		}
		d.New = map[uint64]*plan.Plan{}
		for i, x := range fresh {
			x.batch = ids[i]
			row := x.plan.Summary()
			d.New[x.batch] = x.plan
			d.job(x.batch, 1, row)
			names = append(names, row.Name)
		}
	}
	for _, x := range all {
		for _, o := range x.orders {
			for i := range d.Orders {
				if orderSeen(d.Orders[i]) == orderSeen(o) {
					d.Orders[i].Batch, d.Orders[i].Lost = &x.batch, nil
				}
			}
		}
	}
	if d.Wants = wantsOf(d.Orders); len(fresh) > 0 {
		if d.Sheet.By = "Put " + measure.List(names) + " on the day"; len(names) > 2 {
			d.Sheet.By = fmt.Sprintf("Put %d batches on the day", len(names))
		}
		var v dayView
		if err := s.again(ctx, d, &v); errors.Is(
			err,
			errRefused,
		) { // it is on the day; the plan is asked for on its page
			d.Sheet.Day, d.Slots = nil, nil
		} else if err != nil {
			return err
		}
	}
	keep, cancel := context.WithTimeout(context.WithoutCancel(ctx), page.DBTimeout) // the search may have taken a while
	defer cancel()
	return s.Store.Atomically(keep, func(tx *store.Store) error {
		for _, x := range all {
			if x.plan != nil {
				b, err := tx.CreateAs(keep, x.batch, x.plan)
				if err == nil && x.of.ID != 0 {
					err = tx.TieBatch(keep, &b, x.of.ID, x.of.Version)
				}
				if err != nil {
					return err
				}
			}
			if x.second {
				if err := tx.TieBatches(keep, all[x.first].batch, x.batch); err != nil {
					return err
				}
			}
			if err := tx.ServeOrders(keep, x.orders, x.batch); err != nil {
				return err
			}
		}
		if len(fresh) == 0 {
			return nil
		}
		_, err := tx.SaveDay(keep, d.Date, d.Version, d.Sheet)
		return err
	})
}

// weekView is the page of the orders of every week.
type weekView struct {
	Days []weekDay
	New  orderRow
	Told string
	All  []weekDay // to choose from
	// Closed is when the house is closed; Close and Copy are what was typed of that, with what is wrong with it.
	Closed      []closedRow
	Close, Copy spanForm
}

type weekDay struct {
	N    int
	Name string
	Rows []orderRow
}

// OpenWeek shows what is ordered every week.
func (s *Room) OpenWeek(c *page.Visit) error {
	return s.showWeek(c, http.StatusOK, orderRow{Weekday: 6}, "")
}

func (s *Room) showWeek(c *page.Visit, status int, typed orderRow, told string) error {
	v, err := s.weekRows(c.Request.Context(), typed)
	if err != nil {
		return err
	}
	v.Told = told
	return s.renderWeek(c, status, v)
}

// weekRows are the orders of every week, with what of one was typed.
func (s *Room) weekRows(ctx context.Context, typed orderRow) (weekView, error) {
	all, err := s.Store.Week(ctx)
	if err != nil {
		return weekView{}, err
	}
	v := weekView{New: orderRow{Weekday: typed.Weekday}}
	if typed.ID == 0 && typed.Errors != nil {
		v.New = typed
	}
	for i := range 7 {
		n := (i + 1) % 7
		w := weekDay{N: n, Name: time.Weekday(n).String()}
		v.All = append(v.All, w)
		for _, o := range all {
			r := orderRow{ID: o.ID, Version: o.Version, Who: o.Who, What: o.What, Portions: o.Said().Text(),
				When: order.Clock(o.Due), Note: o.Note, From: o.FromDay, Until: o.UntilDay,
				Weekday: o.Weekday}
			if typed.ID == o.ID {
				typed.Version = o.Version
				r = typed
			}
			if o.Weekday == n {
				w.Rows = append(w.Rows, r)
			}
		}
		if len(w.Rows) > 0 {
			v.Days = append(v.Days, w)
		}
	}
	return v, nil
}

// ChangeWeek keeps or ends an order of the week.
func (s *Room) ChangeWeek(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	a, row := readOrder(values, s.Now())
	if a.When.Date != "" {
		row.Errors["when"] = "A time of the day: which day is said beside it."
	}
	n, err := strconv.Atoi(values.Get("weekday"))
	if err != nil || n < 0 || n > 6 {
		row.Errors["weekday"] = "A day of the week."
	}
	row.Weekday = n
	ctx := c.Request.Context()
	row.From, row.Until = strings.TrimSpace(values.Get("from")), strings.TrimSpace(values.Get("until"))
	for part, at := range map[string]string{"from": row.From, "until": row.Until} {
		if _, err := measure.Day(at); at != "" && err != nil {
			row.Errors[part] = "A day, as 2026-12-24, or none."
		}
	}
	if row.Errors["until"] == "" && row.Until != "" && row.Until < row.From {
		row.Errors["until"] = "Not before it begins."
	}
	switch act := values.Get("act"); act {
	case "close", "open", "copy":
		return s.changeHouse(c, values)
	}
	if values.Get("act") == "drop" {
		err = s.Store.DropStanding(ctx, row.ID, row.Version)
	} else if len(row.Errors) > 0 {
		return s.showWeek(c, http.StatusUnprocessableEntity, row, "")
	} else {
		w := store.Standing{ID: row.ID, Version: row.Version, Weekday: n, Who: a.Who, What: a.What, Due: a.When.Due,
			Note: a.Note, FromDay: row.From, UntilDay: row.Until}
		w.Say(a.Amount)
		if once := page.OnceOf(values); once != "" {
			w.Once = &once
		}
		err = s.Store.SaveStanding(ctx, w)
	}
	switch {
	case errors.Is(err, store.ErrChanged), errors.Is(err, store.ErrNotFound):
		return s.showWeek(c, http.StatusConflict, orderRow{Weekday: n},
			"Another window changed that order meanwhile; this "+
				"is how it stands.")
	case errors.Is(err, store.ErrTooMany):
		return s.showWeek(c, http.StatusUnprocessableEntity, row, fmt.Sprintf("A week has up to %d orders.",
			store.MostStanding))
	case err != nil:
		return err
	default:
		c.Redirect(http.StatusSeeOther, "/orders/week")
	}
	return nil
}

// DownloadOrders writes a day’s orders as CSV, as they are read again.
func (s *Room) DownloadOrders(c *page.Visit) error {
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	var ids []uint64
	for _, o := range d.Orders {
		if o.Batch != nil {
			ids = append(ids, *o.Batch)
		}
	}
	batches, err := s.Store.ByIDs(c.Request.Context(), ids)
	if err != nil {
		return err
	}
	text, err := exchange.OrdersCSV(d.Wants, func(i int) (note, served string) {
		o := &d.Orders[i]
		if o.Batch != nil {
			served = batches[*o.Batch].Row.Name
		}
		return o.Note, served
	})
	if err != nil {
		return page.Refuse(http.StatusInternalServerError, "These orders cannot be written.", "")
	}
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="orders-%s.csv"`, d.Date))
	c.Data(http.StatusOK, "text/csv; charset=utf-8", []byte(text))
	return nil
}
