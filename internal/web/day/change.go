package day

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"hollen/internal/core/day"
	"hollen/internal/core/order"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/schedule"
	"hollen/internal/store"
	"hollen/internal/web/form"
	"hollen/internal/web/page"
)

// OpenDay shows a day.
func (s *Room) OpenDay(c *page.Visit) error {
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	d.All = c.Query("all") != ""
	return s.showDay(c, http.StatusOK, d, d.view(c.Units, c.Query("task")))
}

// showDay shows a day with what can be put on it.
func (s *Room) showDay(c *page.Visit, status int, d *dayNow, v *dayView) error {
	ctx := c.Request.Context()
	newest, err := s.Store.Newest(ctx, mostOffered)
	if err != nil {
		return err
	}
	for _, k := range newest {
		if !slices.ContainsFunc(d.Jobs, func(j day.Job) bool { return j.Batch == k.ID }) {
			v.Add = append(v.Add, knownRow{k.ID, k.Name})
		}
	}
	_, short, err := s.shares(ctx, d)
	if err != nil {
		return err
	}
	v.Short = d.shortWords(short)
	if d.Date <= s.Today() {
		v.Due = d.dueList("day", "", short)
	}
	if v.Retired, err = s.retired(c, d); err != nil {
		return err
	}
	if !d.Planned() && c.Request.Method == http.MethodGet {
		// of a kitchen that has planned no day yet
		from, to := s.Now().AddDate(0, 0, -guideDays), s.Now().AddDate(0, 0, guideDays)
		all, err := s.Store.Days(ctx, from.Format(time.DateOnly), to.Format(time.DateOnly))
		if err == nil && !slices.ContainsFunc(all, func(d store.Day) bool { return d.Planned() }) {
			v.Guide = c.GuideTo("day")
		}
	}
	s.Render(c, status, "day", v.Head, v)
	return nil
}

// retired says, by batch, what a day to come is planned with that the cabinet offers no more.
func (s *Room) retired(c *page.Visit, d *dayNow) (out []string, err error) {
	if d.Date < s.Today() {
		return nil, nil
	}
	var ids []uint64
	for _, j := range d.Jobs {
		if !j.Left && d.Making[j.Batch] == 0 {
			ids = append(ids, j.Batch)
		}
	}
	of, err := s.Store.ByIDs(c.Request.Context(), ids)
	if err != nil || len(ids) == 0 {
		return nil, err
	}
	cab, err := c.Cabinet()
	if err != nil {
		return nil, err
	}
	for _, j := range d.Jobs {
		if b, ok := of[j.Batch]; ok {
			if names := form.Retired(cab, &b.Request.Request); names != "" {
				out = append(out, fmt.Sprintf("%s, %s: %s", j.Letter, j.Name, names))
			}
		}
	}
	return out, nil
}

// guideDays is how many days round today are looked at for one that was planned.
const guideDays = 60

// mostOffered is how many of the newest batches an order or a day is offered, besides those that fit.
const mostOffered = 60

// known are the recipes in use that words may mean and the first besides, by name, and then all batches of none, the
// newest first; of those that words may mean it
// is known how they are kept.
func (s *Room) known(ctx context.Context, words ...string) ([]day.Known, error) {
	asked := slices.Clone(words)
	for _, w := range words {
		if _, bare := order.Keeping(order.Fold(w)); bare != "" {
			asked = append(asked, bare)
		}
	}
	recipes, err := s.Store.NamedRecipes(ctx, asked...)
	if err != nil {
		return nil, err
	}
	all, err := s.Store.NewestOfNone(ctx)
	if err != nil {
		return nil, err
	}
	if recipes, err = s.byBatch(ctx, recipes, words); err != nil {
		return nil, err
	}
	out := make([]day.Known, 0, len(recipes)+len(all))
	for _, r := range recipes {
		out = append(out, day.Known{Like: day.Like{ID: r.ID, Recipe: true}, Name: r.Name, Shape: r.Shape, Kept: r.Kept,
			Names: r.Besides.V.Names})
	}
	for _, b := range all {
		out = append(out, day.Known{Like: day.Like{ID: b.ID}, Name: b.Name, Shape: b.Shape})
	}
	meant := map[uint64]bool{}
	var ids []uint64
	for _, w := range words {
		for _, k := range day.Find(w, out).Fits {
			if !k.Recipe && !meant[k.ID] {
				meant[k.ID], ids = true, append(ids, k.ID)
			}
		}
	}
	kept, err := s.Store.Kept(ctx, ids)
	for i := range out {
		if !out[i].Recipe {
			out[i].Kept = kept[out[i].ID]
		}
	}
	return out, err
}

// byBatch has words that name a batch of a recipe mean the recipe, as what it is called besides.
func (s *Room) byBatch(ctx context.Context, recipes []store.NamedRecipe, words []string) ([]store.NamedRecipe, error) {
	of, err := s.Store.RecipesByBatch(ctx, words)
	if err != nil {
		return nil, err
	}
	for name, id := range of {
		at := slices.IndexFunc(recipes, func(r store.NamedRecipe) bool { return r.ID == id })
		if at < 0 {
			r, err := s.Store.RecipeByID(ctx, id)
			if err != nil {
				return nil, err
			}
			at = len(recipes)
			recipes = append(recipes, store.NamedRecipe{ID: id, Name: r.Name, Shape: r.Row.Shape, Besides: r.Besides,
				Kept: r.Kept()})
		}
		names := &recipes[at].Besides.V.Names
		*names = append(slices.Clone(*names), name)
	}
	return recipes, nil
}

// likeRow is what an order can be made like, as a choice shows it.
type likeRow struct {
	Like day.Like
	Name string
}

// offered is what a choice shows: what fits, then all recipes, then the newest batches.
func offered(fits, known []day.Known) (out []likeRow) {
	fits = fits[:min(len(fits), mostOffered)]
	recipes := slices.IndexFunc(known, func(k day.Known) bool { return !k.Recipe })
	if recipes < 0 {
		recipes = len(known)
	}
	seen := map[day.Like]bool{}
	for _, k := range slices.Concat(fits, known[:recipes],
		known[recipes:min(len(known), recipes+mostOffered)]) {
		if !seen[k.Like] {
			seen[k.Like] = true
			out = append(out, likeRow{k.Like, keptName(k)})
		}
	}
	return out
}

// keptName is the name of a batch, with how it is kept where that is not for today.
func keptName(k day.Known) string {
	if words := map[string]string{"freezer": ", frozen", "shelf": ", dried to keep"}[k.Kept]; words != "" {
		return k.Name + words
	}
	return k.Name
}

// requests are those of what orders may be made like, of each that can be read.
func (s *Room) requests(ctx context.Context, all []day.Like) (map[day.Like]request.Request, error) {
	var batches, recipes []uint64
	for _, l := range all {
		if l.Recipe {
			recipes = append(recipes, l.ID)
		} else if l.ID != 0 {
			batches = append(batches, l.ID)
		}
	}
	of, err := s.Store.ByIDs(ctx, batches)
	if err != nil {
		return nil, err
	}
	kept, err := s.Store.RecipesByIDs(ctx, recipes)
	out := map[day.Like]request.Request{}
	for id, b := range of {
		out[day.Like{ID: id}] = b.Request.Request
	}
	for id, r := range kept {
		out[day.Like{ID: id, Recipe: true}] = r.Request.Request
	}
	return out, err
}

// alike says of what may be meant by the orders of a day whether two are the same thing made again; two recipes never
// are.
func (s *Room) alike(ctx context.Context, wants []day.Want, known []day.Known) (func(a, b day.Like) bool, error) {
	var all []day.Like
	for _, w := range wants {
		if fits := day.Find(w.What, known).Fits; len(w.Jobs) == 0 {
			for _, k := range fits[:min(len(fits), day.MostCompared)] {
				all = append(all, k.Like)
			}
		}
	}
	of, err := s.requests(ctx, all)
	return func(a, b day.Like) bool {
		x, y := of[a], of[b]
		return !a.Recipe && !b.Recipe && request.SameDough(&x, &y) && x.Cut.Shape == y.Cut.Shape &&
			x.Cut.Filling.Called() == y.Cut.Filling.Called() && x.Cut.Filling.Safety() == y.Cut.Filling.Safety() &&
			len(x.Cut.Also) == len(y.Cut.Also)
	}, err
}

// StampDay says whether a day has moved, for windows that look at it.
func (s *Room) StampDay(c *page.Visit) error {
	d, err := s.dayAs(c, s.markDay)
	if err != nil {
		return err
	}
	minute := 0
	if d.Live {
		minute = d.Now
	}
	c.JSON(http.StatusOK, gin.H{"stamp": d.Stamp, "minute": minute})
	return nil
}

// change is what a form of the day’s page asks; it changes the day in place, and returns what was done in words, or
// why it cannot be.
type change func(s *Room, ctx context.Context, d *dayNow, values url.Values, v *dayView) (string, error)

// errRefused says that the view holds why not.
var errRefused = errors.New("refused")

// changes are what a day’s page can ask, by their names.
var changes = map[string]change{"plan": planned, "move": moved, "pin": pinned, "let_go": pinned, "wish": wished,
	"mark": marked, "kit": kitted,
	"add": added, "drop": dropped, "anew": anew,
	"leave": left, "part": parted, "cooked": cooked, "take": taken}

// ChangeDay does what was asked of a day and goes back to it; what cannot be is said there, and nothing is changed.
func (s *Room) ChangeDay(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	in, key := c.Units, values.Get("task")
	if values.Get("act") == "undo" {
		return s.undoDay(c, d, values)
	}
	if d.Damaged && values.Get("act") != "anew" {
		return page.Refuse(http.StatusConflict, "This day cannot be read.",
			"Go back to the version before, or begin it anew, first.", page.WayOn{To: "/days/" + d.Date,
				Name: "The day"})
	}
	if values.Get("act") == "plan" {
		c.Guided("day")
	}
	do, known := changes[values.Get("act")]
	if !known {
		return page.Refuse(http.StatusBadRequest, "That cannot be done to a day.", "")
	}
	if at := dayVersion(values, s.Store.Identity()); at != d.Version {
		v := d.view(in, key)
		v.Wrong = "Another window changed the day meanwhile; this is how it stands. Do it again if it is still wanted."
		return s.showDay(c, http.StatusConflict, d, v)
	}
	ctx := c.Request.Context()
	v := &dayView{}
	words, err := do(s, ctx, d, values, v)
	switch {
	case errors.Is(err, errRefused):
		full := d.view(in, key)
		full.Wrong = v.Wrong
		full.Nearest = v.Nearest
		full.Trouble = v.Trouble
		if len(v.Kit.People) > 0 {
			full.Kit = v.Kit
		}
		return s.showDay(c, http.StatusUnprocessableEntity, d, full)
	case err != nil:
		return err
	}
	d.Sheet.By = words
	keep, cancel := context.WithTimeout(context.WithoutCancel(ctx), page.DBTimeout) // the search may have taken a while
	defer cancel()
	if _, err := s.Store.SaveDay(keep, d.Date, d.Version, d.Sheet); errors.Is(err, store.ErrChanged) {
		return s.clashed(c, d.Date, key)
	} else if err != nil {
		return err
	}
	to := "/days/" + d.Date
	if values.Get("back") == "now" {
		to += "/now?who=" + url.QueryEscape(values.Get("who"))
	} else if key != "" {
		to += "?task=" + url.QueryEscape(key) + "#task"
	}
	c.Redirect(http.StatusSeeOther, to)
	return nil
}

// clashed shows the day as another window has left it.
func (s *Room) clashed(c *page.Visit, date, key string) error {
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	v := d.view(c.Units, key)
	v.Wrong = "Another window changed the day at the same moment; this is how it stands. Do it again if it is still " +
		"wanted."
	return s.showDay(c, http.StatusConflict, d, v)
}

// dayVersion is the version a day’s page was opened on; noVersion when it is none of this database’s.
func dayVersion(values url.Values, identity string) int {
	n, err := strconv.Atoi(values.Get("version"))
	if db := values.Get("db"); err != nil || n < 0 || db != "" && db != identity {
		return page.NoVersion
	}
	return n
}

func (s *Room) undoDay(c *page.Visit, d *dayNow, values url.Values) error {
	ctx := c.Request.Context()
	switch err := s.Store.UndoDay(ctx, d.Date, dayVersion(values, s.Store.Identity())); {
	case errors.Is(err, store.ErrChanged), errors.Is(err, store.ErrNotFound):
		return s.clashed(c, d.Date, "")
	case err != nil:
		return err
	default:
		c.Redirect(http.StatusSeeOther, "/days/"+d.Date)
	}
	return nil
}

// replan plans again; troubles are a refusal.
func (s *Room) replan(ctx context.Context, d *dayNow, v *dayView) error {
	trouble, err := s.PlanDay(ctx, d)
	if err != nil {
		v.Wrong = err.Error() + "."
		return errRefused
	}
	if len(trouble) == 0 {
		return nil
	}
	said := &day.Narrator{Day: d.Sheet.Day, Jobs: d.Jobs, In: d.In}
	for _, t := range trouble {
		why, nearest := said.Trouble(t)
		v.Trouble = append(v.Trouble, troubleRow{why, nearest})
	}
	v.Wrong = "There is no plan that keeps everything."
	return errRefused
}

// planned plans the day; one under way keeps what has happened, and the rest as it may still be.
func planned(s *Room, ctx context.Context, d *dayNow, _ url.Values, v *dayView) (string, error) {
	if !slices.Contains(d.Begun, true) {
		return "Planned", s.planFromStart(ctx, d, v)
	}
	old := d.Sheet.Copy()
	if err := s.again(ctx, d, v); err != nil {
		d.Sheet = old
		return "", err
	}
	return "Planned anew from now on", nil
}

// planFromStart plans a day from the beginning, keeping the old plan when there is none.
func (s *Room) planFromStart(ctx context.Context, d *dayNow, v *dayView) error {
	old := d.Sheet.Copy()
	if err := s.replan(ctx, d, v); err != nil {
		d.Sheet = old
		return err
	}
	return nil
}

// taken makes the better order the plan.
func taken(_ *Room, _ context.Context, d *dayNow, _ url.Values, v *dayView) (string, error) {
	if d.Better == nil {
		v.Wrong = "There is no better order any more: the day has moved on."
		return "", errRefused
	}
	d.lived().TakeOrder(d.Better.Slots)
	return "Took the better order", nil
}

// refused puts a refusal of the day's rules on its page; any other error is returned as it is.
func refused(err error, v *dayView) error {
	var r *day.Refused
	if !errors.As(err, &r) {
		return err
	}
	v.Wrong = r.Why
	v.Nearest = r.Nearest
	return errRefused
}

// moved starts a task at another minute, or has somebody else do it.
func moved(s *Room, ctx context.Context, d *dayNow, values url.Values, v *dayView) (string, error) {
	key := values.Get("task")
	if d.Task(key) < 0 {
		v.Wrong = "That task is not on the day any more."
		return "", errRefused
	}
	to, ok := order.ParseTime(values.Get("to"))
	if later := values.Get("later"); later != "" {
		by, err := strconv.Atoi(later)
		if to = d.Shown[d.Task(key)].Start + by; err != nil || by < -mostLater || by > mostLater || to < 0 {
			v.Wrong = fmt.Sprintf("By whole minutes, at most %d, and not before midnight.", mostLater)
			return "", errRefused
		}
		ok = true
	} else if n, err := strconv.Atoi(values.Get("to_min")); err == nil && n >= 0 && n < 48*60 {
		to, ok = n, true
	} else if ok && to < d.Shop.OpenAt-240 {
		to += 24 * 60 // past midnight
	}
	if !ok {
		v.Wrong = "It needs a time of the day, as 10:40."
		return "", errRefused
	}
	said := d.narrator()
	err := d.lived().Move(said, key, to, values.Get("by"), func(wishes []day.Wish) (*schedule.Day, error) {
		free := *d
		free.Jobs = slices.Clone(d.Jobs)
		plans, err := s.work(ctx, &free)
		if err != nil {
			return nil, err
		}
		return day.Put(s.Rules.Day, d.Shop, free.Jobs, plans, wishes, d.Wants), nil
	})
	if err != nil {
		return "", refused(err, v)
	}
	return fmt.Sprintf("%s to %s", said.Task(d.Task(key)), day.Time(to)), nil
}

// mostLater is the most a task is moved by one press, min.
const mostLater = 240

// anew begins a day that cannot be read with nothing on it; of any other nothing is asked so.
func anew(_ *Room, _ context.Context, d *dayNow, _ url.Values, v *dayView) (string, error) {
	if !d.Damaged {
		v.Wrong = "This day can be read."
		return "", errRefused
	}
	return "Begun anew", nil
}

// pinned holds a task where it stands, or lets it go.
func pinned(_ *Room, _ context.Context, d *dayNow, values url.Values, v *dayView) (string, error) {
	i := d.Task(values.Get("task"))
	if i < 0 {
		v.Wrong = "That task is not on the day any more."
		return "", errRefused
	}
	words := d.narrator().Task(i)
	if values.Get("act") == "let_go" {
		d.lived().LetGo(values.Get("task"))
		return words + " let go", nil
	}
	d.lived().Pin(values.Get("task"))
	return words + " pinned", nil
}

// wished says who does not do a task, and between what hours it lies; the day is planned again.
func wished(s *Room, ctx context.Context, d *dayNow, values url.Values, v *dayView) (string, error) {
	i := d.Task(values.Get("task"))
	if i < 0 {
		v.Wrong = "That task is not on the day any more."
		return "", errRefused
	}
	words := d.narrator().Task(i)
	old := d.Sheet.Copy()
	var notBy []string
	for _, h := range d.Shop.People {
		if slices.Contains(values["not_by"], h.Name) {
			notBy = append(notBy, h.Name)
		}
	}
	var before, after int
	for name, to := range map[string]*int{"not_before": &before, "not_after": &after} {
		if text := strings.TrimSpace(values.Get(name)); text != "" {
			at, ok := order.ParseTime(text)
			if !ok {
				v.Wrong = "The hours of a task are times of the day, as 10:40, or empty."
				return "", errRefused
			}
			*to = at
		}
	}
	d.lived().NotBy(values.Get("task"), notBy, before, after)
	if err := s.again(ctx, d, v); err != nil {
		d.Sheet = old
		return "", err
	}
	return "Said how " + words + " may be done", nil
}

// again plans a day whose wishes or kit have changed: whole before it begins, then from now on.
func (s *Room) again(ctx context.Context, d *dayNow, v *dayView) error {
	if !d.Planned() {
		d.Sheet.Day, d.Slots = nil, nil
		return nil
	}
	if !slices.Contains(d.Begun, true) {
		return s.replan(ctx, d, v)
	}
	plans, err := s.work(ctx, d)
	if err != nil {
		v.Wrong = err.Error() + "."
		return errRefused
	}
	put := day.Put(s.Rules.Day, d.Shop, d.Jobs, plans, d.Wishes, d.Wants)
	if err := d.lived().Again(put, replanNodes); err != nil {
		return refused(err, v)
	}
	return nil
}

// marked says that a task was begun, or done, now, or that it was not.
func marked(_ *Room, _ context.Context, d *dayNow, values url.Values, v *dayView) (string, error) {
	key, what := values.Get("task"), values.Get("what")
	if err := d.lived().Mark(key, what); err != nil {
		return "", refused(err, v)
	}
	words := d.narrator().Task(d.Task(key))
	if what == "not" {
		return words + ": not yet", nil
	}
	return words + " " + what, nil
}

// kitted changes the hours, the people and the kit.
func kitted(s *Room, ctx context.Context, d *dayNow, values url.Values, v *dayView) (string, error) {
	old := d.Sheet.Copy()
	v.Kit = readKit(values, &d.Shop, d.In)
	if v.Kit.Wrong {
		d.Sheet = old
		v.Wrong = "Something in the hours, people and kit is not right; nothing was changed."
		return "", errRefused
	}
	d.Forget()
	if err := s.again(ctx, d, v); err != nil {
		d.Sheet = old
		return "", err
	}
	return "Changed the hours, people and kit", nil
}

// mostJobs is how many batches a day may have.
const mostJobs = 80

// added puts a batch on the day.
func added(s *Room, ctx context.Context, d *dayNow, values url.Values, v *dayView) (string, error) {
	id, err := strconv.ParseUint(values.Get("batch"), 10, 63)
	if err != nil {
		v.Wrong = "Choose a batch."
		return "", errRefused
	}
	if len(d.Jobs) >= mostJobs {
		v.Wrong = fmt.Sprintf("A day has up to %d batches.", mostJobs)
		return "", errRefused
	}
	old := d.Sheet.Copy()
	if err := s.put(ctx, d, id); err != nil {
		if errors.Is(err, store.ErrNotFound) || errors.Is(err, store.ErrDeleted) {
			v.Wrong = "That batch is not there any more."
			return "", errRefused
		}
		return "", err
	}
	if err := s.again(ctx, d, v); err != nil {
		d.Sheet = old
		return "", err
	}
	return "Put a batch on the day", nil
}

// put adds a batch to a day’s jobs, once.
func (s *Room) put(ctx context.Context, d *dayNow, id uint64) error {
	if slices.ContainsFunc(d.Jobs, func(j day.Job) bool { return j.Batch == id }) {
		return nil
	}
	b, err := s.Store.Get(ctx, id)
	if err != nil {
		return err
	}
	d.job(id, b.Version, b.Row.Summary)
	return nil
}

// job adds a batch in that version to a day’s jobs.
func (d *dayNow) job(id uint64, version int, row plan.Summary) {
	d.Jobs = append(
		d.Jobs,
		day.Job{
			Batch:    id,
			Version:  version,
			Letter:   day.Letters(len(d.Jobs)),
			Name:     row.Name,
			Shape:    row.Shape,
			DoughG:   row.DoughG,
			Portions: row.Portions,
			Face:     row.Colour.Face,
			Edge:     row.Colour.Edge,
		},
	)
	d.Versions[id] = version
}

// named is the job a form names.
func (d *dayNow) named(values url.Values) *day.Job {
	id, _ := strconv.ParseUint(values.Get("batch"), 10, 63)
	for i := range d.Jobs {
		if d.Jobs[i].Batch == id {
			return &d.Jobs[i]
		}
	}
	return nil
}

// onJob changes one job and plans again.
func onJob(s *Room, ctx context.Context, d *dayNow, values url.Values, v *dayView,
	do func(j *day.Job) string) (string, error) {
	old := d.Sheet.Copy()
	j := d.named(values)
	if j == nil {
		v.Wrong = "That batch is not on the day any more."
		return "", errRefused
	}
	if slices.ContainsFunc(d.Sheet.TasksOf(j.Batch), func(i int) bool { return d.Begun[i] }) {
		v.Wrong = "Its work has begun: it stays on the day."
		return "", errRefused
	}
	words := do(j)
	if err := s.again(ctx, d, v); err != nil {
		d.Sheet = old
		return "", err
	}
	return words, nil
}

func dropped(s *Room, ctx context.Context, d *dayNow, values url.Values, v *dayView) (string, error) {
	return onJob(s, ctx, d, values, v, func(j *day.Job) string {
		words := "Took " + j.Letter + " off the day"
		id := j.Batch
		d.Jobs = slices.DeleteFunc(d.Jobs, func(x day.Job) bool { return x.Batch == id })
		return words
	})
}

func left(s *Room, ctx context.Context, d *dayNow, values url.Values, v *dayView) (string, error) {
	return onJob(s, ctx, d, values, v, func(j *day.Job) string {
		if j.Left = values.Get("back") == ""; j.Left {
			return j.Letter + " left out today"
		}
		return j.Letter + " taken in again"
	})
}

func parted(s *Room, ctx context.Context, d *dayNow, values url.Values, v *dayView) (string, error) {
	part := day.Part(values.Get("part"))
	if part != day.Whole && part != day.DoughOnly && part != day.FromCold {
		v.Wrong = "All of it, the dough, or from the fridge on."
		return "", errRefused
	}
	return onJob(s, ctx, d, values, v, func(j *day.Job) string {
		j.Part = part
		return "Said what of " + j.Letter + " is done today"
	})
}

func cooked(s *Room, ctx context.Context, d *dayNow, values url.Values, v *dayView) (string, error) {
	return onJob(s, ctx, d, values, v, func(j *day.Job) string {
		if j.Cooked = values.Get("cooked") != ""; j.Cooked {
			return j.Letter + " is cooked for its orders"
		}
		return j.Letter + " goes out raw"
	})
}
