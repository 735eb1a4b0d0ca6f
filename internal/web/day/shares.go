package day

import (
	"context"
	"errors"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"strconv"

	"hollen/internal/core/measure"
	"hollen/internal/core/order"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// served is a batch of a day with what is ordered of it.
type served struct {
	Batch         uint64
	Letter, Name  string
	Made, Ordered float64 // portions
	Words         string  // "makes 12.4 portions, 18 are ordered"
	Short         bool
	Begun         bool   // it is what it is
	To            string // portions to make it for, where that can be done by a tap; "" else
	Version       int
}

// spareShare is from what share of what is ordered on a batch that is more is offered to be made smaller. Source:
// house:
// whole eggs alone may make a fifth more.
const spareShare = 1.25

// shares says what each batch of a day makes against what is ordered of it, and which orders come short, by their
// places: of what came out where that was weighed, else of what is planned.
func (s *Room) shares(ctx context.Context, d *dayNow) (all []served, short map[int]string, err error) {
	var ids []uint64
	wanted := map[uint64][]int{}
	for i, o := range d.Orders {
		if o.Batch != nil {
			if wanted[*o.Batch] == nil {
				ids = append(ids, *o.Batch)
			}
			wanted[*o.Batch] = append(wanted[*o.Batch], i)
		}
	}
	short = map[int]string{}
	batches, err := s.Store.ByIDs(ctx, ids)
	if err != nil {
		return nil, nil, err
	}
	out, err := s.Store.CameOut(ctx, ids)
	if err != nil {
		return nil, nil, err
	}
	begun, err := s.Store.BegunOf(ctx, ids)
	if err != nil {
		return nil, nil, err
	}
	enough := s.Rules.Day.EnoughShare
	for _, id := range ids {
		b, ok := batches[id]
		if !ok {
			continue
		}
		x := served{Batch: id, Name: b.Row.Name, Made: b.Row.Portions, Begun: begun[id], Version: b.Version}
		for _, j := range d.Jobs {
			if j.Batch == id {
				x.Letter = j.Letter
			}
		}
		came := ""
		if g, weighed := out[id]; weighed {
			if p, err := plan.Make(s.RulesOf(ctx, &b.Request.Request), b.Request.Request); err == nil {
				x.Made, came = g/p.Formula.PortionG, "came to"
			}
		}
		var wants []order.Wanted
		for _, i := range wanted[id] {
			o := &d.Orders[i]
			wants = append(wants, order.Wanted{ID: o.ID, Due: o.Due, Portions: o.Portions, Said: o.Said()})
			x.Ordered += o.Portions
		}
		for k, got := range order.Shares(x.Made, enough, wants) {
			if words := wants[k].ShortWords(got, enough); words != "" {
				short[wanted[id][k]] = words
				x.Short = true
			}
		}
		if came == "" {
			came = "makes"
		}
		x.Words = fmt.Sprintf("%s %s, %s ordered of it", came, portionsSaid(x.Made), portionsSaid(x.Ordered))
		if !x.Begun && (x.Short || x.Made > spareShare*x.Ordered && x.Ordered > 0) {
			x.To = portionsWords(math.Ceil(x.Ordered - 1e-9))
		}
		all = append(all, x)
	}
	return all, short, nil
}

// portionsSaid are portions to a tenth: "12.4 portions".
func portionsSaid(n float64) string {
	return order.Amount{N: math.Round(10*n) / 10}.Words()
}

// rescale makes a batch that is not begun for as much as is ordered of it.
func (s *Room) rescale(ctx context.Context, d *dayNow, values url.Values) error {
	id, _ := strconv.ParseUint(values.Get("batch"), 10, 63)
	version, _ := strconv.Atoi(values.Get("version"))
	all, _, err := s.shares(ctx, d)
	if err != nil {
		return err
	}
	for _, x := range all {
		if x.Batch != id {
			continue
		}
		if x.To == "" {
			break
		}
		b, err := s.Store.Get(ctx, id)
		if err != nil {
			return err
		}
		p, err := s.toMakeFor(ctx, b, x.Ordered)
		if err != nil {
			return page.Refuse(http.StatusUnprocessableEntity, "It cannot be made for so many.",
				measure.Capital(err.Error()),
				page.WayOn{To: fmt.Sprintf("/batches/%d", id), Name: b.Row.Name})
		}
		_, err = s.Store.Save(ctx, id, version, p)
		var clash *store.ConflictError
		if errors.As(err, &clash) {
			return store.ErrChanged
		}
		return err
	}
	return store.ErrChanged
}

// toMakeFor is a batch at so many portions, or as few more as are enough.
func (s *Room) toMakeFor(ctx context.Context, b store.Batch, portions float64) (p *plan.Plan, err error) {
	r := b.Request.Request
	was, err := plan.Make(s.RulesOf(ctx, &r), r)
	if err != nil {
		return nil, err
	}
	ask := math.Ceil(portions - 1e-9)
	for range 7 {
		to, _, err := recipe.Scale(r, was, recipe.Want{Portions: ask})
		if err != nil {
			return nil, err
		}
		if p, err = plan.Make(s.RulesOf(ctx, &to), to); err != nil {
			return nil, err
		}
		if p.Formula.Portions >= portions*s.Rules.Day.EnoughShare {
			break
		}
		ask = math.Ceil(ask + max(portions-p.Formula.Portions, portions/50))
	}
	return p, nil
}

// shortWords are the orders of a day that come short, each with whose it is.
func (d *dayNow) shortWords(short map[int]string) (out []string) {
	for i, o := range d.Orders {
		if words := short[i]; words != "" {
			out = append(out, fmt.Sprintf("%s, %s: %s", o.Who, o.What, words))
		}
	}
	return out
}
