package sign

import (
	"errors"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"hollen/internal/account"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// firstView is the page that makes the first account.
type firstView struct {
	Name   string
	Errors map[string]string
}

// OpenFirst shows the page of the first account, to whoever has the address that was printed.
func (s *Room) OpenFirst(c *page.Visit) error {
	good, err := s.Store.Invited(c.Request.Context(), c.Param("token"))
	switch {
	case err != nil:
		return err
	case !good || !s.SignIn:
		return page.Refuse(http.StatusNotFound, "There is nothing at this address.",
			"It makes the first account, once and within a day; start Hollen again to get another.")
	default:
		s.Render(c, http.StatusOK, "first", "The first account", firstView{})
	}
	return nil
}

// MakeFirst makes the first account and signs it in.
func (s *Room) MakeFirst(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	v := firstView{Name: strings.TrimSpace(values.Get("name")), Errors: passwordErrors(strings.TrimSpace(values.Get(
		"name")), values.Get("password"),
		values.Get("again"))}
	if len(v.Errors) > 0 {
		s.Render(c, http.StatusUnprocessableEntity, "first", "The first account", v)
		return nil
	}
	ctx := c.Request.Context()
	var a store.Account
	good, err := s.Store.Invited(ctx, c.Param("token")) // before any work is done
	if err == nil && !good {
		err = store.ErrNotFound
	}
	hash := ""
	if err == nil {
		hash, err = account.Hash(ctx, values.Get("password"))
	}
	if err == nil {
		a, err = s.Store.FirstAccount(ctx, c.Param("token"), v.Name, hash)
	}
	if errors.Is(err, store.ErrNotFound) {
		return page.Refuse(http.StatusNotFound, "There is nothing at this address.",
			"It makes the first account, once and within a day; start Hollen again to get another.")
	}
	if err == nil {
		if err = errors.Join(s.loadSession(c), s.know(c, a.ID, "")); err == nil {
			err = s.begin(c, a, true)
		}
	}
	if err != nil {
		return err
	}
	s.AuditAs(c, a.Name, "account", "made the first one")
	c.Redirect(http.StatusSeeOther, "/accounts")
	return nil
}

// passwordErrors are what is wrong with a name and a new password typed twice, by field.
func passwordErrors(name, password, again string) map[string]string {
	out := map[string]string{}
	say := func(field string, err error) {
		if err != nil {
			out[field] = strings.ToUpper(err.Error()[:1]) + err.Error()[1:] + "."
		}
	}
	say("name", account.CheckName(name))
	say("password", account.CheckPassword(name, password))
	if password != again && out["password"] == "" {
		out["again"] = "The two are not the same."
	}
	return out
}

// accountRow is one account.
type accountRow struct {
	store.Account
	Role  account.Role
	Since string
	Self  bool
}

// auditRow is one line of the trail.
type auditRow struct{ When, Who, What, Detail, Address string }

// accountsView is the page of accounts and of who did what.
type accountsView struct {
	Rows   []accountRow
	Roles  []account.Role
	Name   string
	Role   account.Role
	Errors map[string]string
	Of     uint64 // the account the errors are of, 0: the new one
	Trail  []auditRow
	Older  uint64
	Here   bool // nobody signs in here: accounts are kept for when it is served to others
}

// trailPage is how many lines of the trail a page shows.
const trailPage = 60

func (s *Room) showAccounts(c *page.Visit, status int, v accountsView) error {
	ctx := c.Request.Context()
	all, err := s.Store.Accounts(ctx)
	if err != nil {
		return err
	}
	before, _ := strconv.ParseUint(c.Query("before"), 10, 63)
	trail, err := s.Store.Audits(ctx, before, trailPage)
	if err != nil {
		return err
	}
	self := c.Who
	v.Roles, v.Here = account.Roles, !s.SignIn
	if v.Role == "" {
		v.Role = account.Makes
	}
	for _, a := range all {
		v.Rows = append(v.Rows, accountRow{a, account.Role(a.Role), a.Made.Local().Format("2 January 2006"),
			self != nil && self.ID == a.ID})
	}
	for _, x := range trail {
		v.Trail = append(v.Trail, auditRow{x.At.Local().Format("Mon 2 January, 15:04:05"), x.Who, x.What, x.Detail,
			x.Address})
	}
	if len(trail) == trailPage {
		v.Older = trail[len(trail)-1].ID
	}
	s.Render(c, status, "accounts", "Accounts", v)
	return nil
}

// OpenAccounts shows the accounts.
func (s *Room) OpenAccounts(c *page.Visit) error {
	return s.showAccounts(c, http.StatusOK, accountsView{})
}

// ChangeAccounts adds an account, or gives one another role or password, or takes it away.
func (s *Room) ChangeAccounts(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	id, _ := strconv.ParseUint(values.Get("id"), 10, 63)
	role := account.Role(values.Get("role"))
	name, password := strings.TrimSpace(values.Get("name")), values.Get("password")
	v := accountsView{Name: name, Role: role, Of: id, Errors: map[string]string{}}
	var of store.Account
	if id > 0 {
		if of, err = s.Store.Account(ctx, id); err != nil {
			return err
		}
	}
	what, detail := "", ""
	switch do := values.Get("do"); {
	case do == "add":
		v.Errors = passwordErrors(name, password, password)
		if !slices.Contains(account.Roles, role) {
			v.Errors["role"] = "Keeps, makes or looks is allowed."
		}
		if len(v.Errors) == 0 {
			var hash string
			if hash, err = account.Hash(ctx, password); err == nil {
				_, err = s.Store.AddAccount(ctx, name, string(role), hash)
			}
			what, detail = "account", "made "+name+", who "+string(role)
		}
	case do == "role" && id > 0 && slices.Contains(account.Roles, role):
		err = s.Store.SetRole(ctx, id, string(role))
		what, detail = "role", of.Name+" now "+string(role)
	case do == "password" && id > 0:
		if e := account.CheckPassword(of.Name, password); e != nil {
			v.Errors["password"] = strings.ToUpper(e.Error()[:1]) + e.Error()[1:] + "."
		} else {
			var hash string
			if hash, err = account.Hash(ctx, password); err == nil {
				err = s.Store.SetPassword(ctx, id, hash)
			}
			what, detail = "password", "another for "+of.Name
		}
	case do == "remove" && id > 0:
		err = s.Store.RemoveAccount(ctx, id)
		what, detail = "account", "removed "+of.Name
	default:
		return page.Refuse(http.StatusUnprocessableEntity, "That cannot be done here.",
			"Adding, a role, a password, and taking away are understood.")
	}
	switch {
	case errors.Is(err, store.ErrAccountTaken):
		v.Errors["name"] = "There is an account of that name."
	case errors.Is(err, store.ErrFirstKeeps):
		v.Errors["role"] = "The first account keeps the workshop: nobody could make or change the others."
	case errors.Is(err, store.ErrLastKeeper):
		v.Errors["role"] = "Somebody has to keep the workshop: make another account keep it first."
	case err != nil:
		return err
	}
	if len(v.Errors) > 0 {
		return s.showAccounts(c, http.StatusUnprocessableEntity, v)
	}
	s.Audit(c, what, detail)
	c.Redirect(http.StatusSeeOther, "/accounts")
	return nil
}

// ownView is the page of one's own account.
type ownView struct {
	Name   string
	Role   account.Role
	PIN    bool
	Errors map[string]string
	Done   string
}

func (s *Room) showOwn(c *page.Visit, status int, v ownView) {
	a := c.Who
	v.Name = a.Maker
	v.Role = account.Role(a.Role)
	v.PIN = a.PIN != ""
	s.Render(c, status, "account", "Your account", v)
}

// OpenOwn shows one's own account.
func (s *Room) OpenOwn(c *page.Visit) error {
	if c.Who == nil {
		c.Redirect(http.StatusSeeOther, "/accounts")
		return nil
	}
	s.showOwn(c, http.StatusOK, ownView{Done: map[string]string{"password": "The password is another now; other " +
		"tablets are signed out.",
		"pin": "The PIN is kept.", "no-pin": "There is no PIN any more.",
		"others": "Other tablets are signed out."}[c.Query("done")]})
	return nil
}

// ChangeOwn changes one's own password or PIN, or signs out all other tablets.
func (s *Room) ChangeOwn(c *page.Visit) error {
	a := c.Who
	if a == nil {
		c.Redirect(http.StatusSeeOther, "/accounts")
		return nil
	}
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	v := ownView{Errors: map[string]string{}}
	done := values.Get("do")
	if done == "password" || done == "pin" {
		if right, err := account.Verify(ctx, a.Password, values.Get("now")); err != nil {
			return err
		} else if !right {
			v.Errors[done+"_now"] = "That is not the password this account has."
		}
	}
	switch done {
	case "password":
		for k, x := range passwordErrors(a.Name, values.Get("password"), values.Get("again")) {
			if k != "name" { // it is what it is
				v.Errors[k] = x
			}
		}
		if len(v.Errors) == 0 {
			var hash string
			if hash, err = account.Hash(ctx, values.Get("password")); err == nil {
				err = s.Store.SetPassword(ctx, a.ID, hash)
			}
		}
	case "pin":
		pin := strings.TrimSpace(values.Get("pin"))
		if pin == "" {
			done = "no-pin"
		} else if e := account.CheckPIN(pin); e != nil {
			v.Errors["pin"] = strings.ToUpper(e.Error()[:1]) + e.Error()[1:] + "."
		}
		if len(v.Errors) == 0 {
			hash := ""
			if pin != "" {
				hash, err = account.Hash(ctx, pin)
			}
			if err == nil {
				err = s.Store.SetPIN(ctx, a.ID, hash)
			}
		}
	case "others":
		err = s.Store.EndSessions(ctx, a.ID)
	default:
		return page.Refuse(http.StatusUnprocessableEntity, "That cannot be done here.",
			"A password, a PIN, and signing out elsewhere are understood.")
	}
	if len(v.Errors) > 0 {
		s.showOwn(c, http.StatusUnprocessableEntity, v)
		return nil
	}
	if err == nil && done != "pin" && done != "no-pin" { // this one goes on
		var now store.Account
		if now, err = s.Store.Account(ctx, a.ID); err == nil {
			err = s.begin(c, now, s.sessions.GetBool(ctx, inKnown))
		}
	}
	if err != nil {
		return err
	}
	s.Audit(c, map[string]string{"others": "signed out"}[done]+map[string]string{"password": "password", "pin": "PIN",
		"no-pin": "PIN"}[done],
		map[string]string{"others": "elsewhere", "password": "changed", "pin": "set", "no-pin": "taken away"}[done])
	c.Redirect(http.StatusSeeOther, "/account?done="+done)
	return nil
}
