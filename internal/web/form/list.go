package form

import (
	"net/url"
	"strconv"
	"strings"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
)

// ownSteps is the group of the maker's own steps of kneading.
const ownSteps = "knead.own_steps"

// takeOver gives a maker who has just said "as I do it", and nothing of it yet, the steps that were
// worked out, to change. was_by is how it was when the form was drawn.
func (f *Form) takeOver(v url.Values) {
	was, said := v["was_by"]
	group, _ := request.GroupNamed(ownSteps)
	if !said || request.KneadBy(was[0]) == request.KneadOwn || f.Page.Knead.By != request.KneadOwn || group.Held(&f.Page) > 0 {
		return
	}
	if p, err := plan.Make(f.with.Rules, f.whole()); err == nil {
		copy(f.Page.Knead.Steps, p.OwnSteps())
	}
}

// rearrange moves, repeats, takes out or adds a line of a group: "knead.own_steps:up:2", "…:down:2",
// "…:again:2", "…:out:2", "…:add:hand", where the last is what heads the new line.
func (f *Form) rearrange(list string) {
	part := strings.Split(list, ":")
	if len(part) != 3 {
		return
	}
	group, ok := request.GroupNamed(part[0])
	slot, err := strconv.Atoi(part[2])
	switch {
	case !ok || part[1] != "add" && (err != nil || !group.Holds(&f.Page, slot)):
		return
	case part[1] == "add":
		f.added(group, part[2])
		return
	}
	order := make([]int, group.Most) // which slot each has become
	for i := range order {
		order[i] = i
	}
	switch part[1] {
	case "up", "down":
		if part[1] == "down" {
			slot++
		}
		if slot == 0 || !group.Holds(&f.Page, slot) {
			return
		}
		group.Up(&f.Page, slot)
		order[slot], order[slot-1] = slot-1, slot
	case "again":
		if !group.Again(&f.Page, slot) {
			f.full(group)
			return
		}
		for i := slot + 1; i < group.Most; i++ {
			order[i] = i + 1
		}
	case "out":
		group.Out(&f.Page, slot)
		order[slot] = -1
		for i := slot + 1; i < group.Most; i++ {
			order[i] = i - 1
		}
	}
	f.follow(group, order)
}

// added puts a line headed so after the last.
func (f *Form) added(group request.Group, head string) {
	slot := group.Held(&f.Page)
	if slot >= group.Most {
		f.full(group)
		return
	}
	was := f.Page
	field, _ := request.FieldAt(group.Path(slot, group.Head))
	group.Empty(&f.Page, slot)
	if field.Set(&f.Page, head) == nil {
		request.Start(&f.Page, &was)
	}
}

// full says that a group has no more room.
func (f *Form) full(group request.Group) {
	field, _ := request.FieldAt(group.Path(group.Most-1, group.Head))
	f.refuse(request.FieldError{Path: field.Path, Label: field.Label, Value: field.Get(&f.Page),
		Allowed: strings.Replace(group.TooMany, "%d", strconv.Itoa(group.Most), 1)}, field.Get(&f.Page))
}

// follow moves what is wrong in the lines of a group with them.
func (f *Form) follow(group request.Group, order []int) {
	typed, errs := map[string]string{}, map[string]request.FieldError{}
	for path, e := range f.Errors {
		to, text := path, f.Typed[path]
		if field, ok := request.FieldAt(path); ok && field.Group == group.Name {
			if order[field.Slot] < 0 || order[field.Slot] >= group.Most {
				continue
			}
			to = group.Path(order[field.Slot], field.Part)
			e.Path = to
		}
		errs[to], typed[to] = e, text
	}
	f.Errors, f.Typed = errs, typed
}
