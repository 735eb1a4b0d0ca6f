package form

import (
	"net/url"
	"slices"
	"strconv"
	"strings"

	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// ownPasses is the group of the maker's own way down.
const ownPasses = "roll.own_passes"

// ownSteps is the group of the maker's own steps of kneading.
const ownSteps = "knead.own_steps"

// takeOver gives a maker who has just said "as I do it", and nothing of it yet, the steps that were
// worked out, to change: of kneading, of the way down. was_by and was_way are how it was when the form
// was drawn.
func (f *Form) takeOver(v url.Values) {
	fresh := func(was, now, own, name string) bool {
		group, _ := request.GroupNamed(name)
		return v.Has(was) && v.Get(was) != own && now == own && group.Filled(&f.Page) == 0
	}
	steps := fresh("was_by", string(f.Page.Knead.By), string(request.KneadOwn), ownSteps)
	passes := fresh("was_way", string(f.Page.Roll.By), string(request.WayOwn), ownPasses)
	if !steps && !passes {
		return
	}
	p, err := f.plainly(f.withoutEmpty())
	if err != nil {
		return
	}
	if steps {
		copy(f.Page.Knead.Steps, p.OwnSteps())
	}
	if passes {
		copy(f.Page.Roll.Steps, p.OwnPasses())
	}
}

// rearrange moves, repeats, takes out or adds a line of a group: "knead.own_steps:up:2", "…:down:2",
// "…:again:2", "…:out:2", "…:add:hand", where the last is what heads the new line; of a way down also
// "…:tap:3" for one more pass at that stop, where it belongs, and "…:fold:2" for the next fold.
func (f *Form) rearrange(list string) {
	part := strings.Split(list, ":")
	if len(part) != 3 {
		return
	}
	group, ok := request.GroupNamed(part[0])
	slot, err := strconv.Atoi(part[2])
	switch {
	case !ok || !group.Rows || part[1] != "add" && part[1] != "tap" && (err != nil || !group.Holds(&f.Page, slot)):
		return
	case part[1] == "add":
		f.added(group, part[2])
		if _, pin := request.PinMM(part[2]); pin { // a pin comes before the rollers
			for i := group.Filled(&f.Page) - 1; i > 0 && group.Name == ownPasses; i-- {
				group.Up(&f.Page, i)
			}
		}
		return
	case part[1] == "tap":
		f.tapped(group, part[2])
		return
	case part[1] == "fold":
		f.folded(slot)
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

// nextFold is the fold a tap on a pass goes to.
var nextFold = map[request.OwnFold]request.OwnFold{request.NoFold: request.FoldHalf,
	request.FoldHalf:  request.FoldThree,
	request.FoldThree: request.NoFold, request.FoldBook: request.NoFold}

// folded gives a line of the way down its next fold: flat, in half, in three.
func (f *Form) folded(slot int) {
	if slot < len(f.Page.Roll.Steps) {
		s := &f.Page.Roll.Steps[slot]
		s.Fold = nextFold[s.Fold]
	}
}

// tapped puts one more pass at a stop of the machine into the way down: after those that are there, or
// else before the first finer stop.
func (f *Form) tapped(group request.Group, label string) {
	stops, held := f.Page.Roll.Kind().Stops, group.Filled(&f.Page)
	index := func(label string) int {
		return slices.IndexFunc(stops, func(s roll.Stop) bool { return s.Label == label })
	}
	at, stop := held, index(label)
	if group.Name != ownPasses || stop < 0 {
		return
	}
	for i := held - 1; i >= 0; i-- {
		if here := index(f.Page.Roll.Steps[i].Stop); here == stop {
			at = i + 1
			break
		} else if here > stop {
			at = i
		}
	}
	f.added(group, label)
	for i := group.Filled(&f.Page) - 1; held < group.Filled(&f.Page) && i > at; i-- {
		group.Up(&f.Page, i)
	}
}

// added puts a line headed so after the last.
func (f *Form) added(group request.Group, head string) {
	slot := group.Filled(&f.Page)
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
