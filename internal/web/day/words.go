package day

import (
	"html/template"
)

// boxOf is one box of a form of the day’s pages.
type boxOf struct {
	At                             any
	Part, Label, Value, Empty, Err string
}

// orderFormOf is an order’s line of a page: where it is sent, and what names it.
type orderFormOf struct {
	To, Mark string
	At       string
	R        orderRow
	New      bool
	Quiet    bool // another key of the page is the one to press
	Week     []weekDay
}

// dayFuncs are what the templates of the days are put together with.
var dayFuncs = template.FuncMap{
	"dayTask": func(d *dayView, t *taskView) any {
		return struct {
			D *dayView
			T *taskView
		}{d, t}
	},
	"handBox": func(r handRow, part, label, value, empty string) boxOf {
		return boxOf{r.At, part, label, value, empty, r.Errors[part]}
	},
	"orderForm": func(date string, r orderRow, quiet bool) orderFormOf {
		f := orderFormOf{To: "/days/" + date + "/orders", Mark: orderMarkOf(r), R: r, Quiet: quiet}
		f.New = r.ID == 0 && r.Standing == 0
		if f.At = f.Mark; f.New {
			f.At = "new"
		}
		return f
	},
	"weekForm": func(week []weekDay, r orderRow) orderFormOf {
		f := orderFormOf{To: "/orders/week", Mark: orderMarkOf(r), At: orderMarkOf(r), R: r, New: r.ID == 0, Week: week}
		if f.New {
			f.At = "new"
		}
		return f
	},
	"orderBox": func(f orderFormOf, part, label, value string) boxOf {
		return boxOf{f.At, part, label, value, "", f.R.Errors[part]}
	},
	"needs": func(head string, rows []outRow) any {
		return struct {
			Head string
			Rows []outRow
		}{head, rows}
	},
}
