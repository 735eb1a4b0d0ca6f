package exchange

import (
	"errors"
	"fmt"

	"hollen/internal/core/addition"
	"hollen/internal/core/cut"
	"hollen/internal/core/egg"
	"hollen/internal/core/filling"
	"hollen/internal/core/flour"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// CabinetFormat names the version of the document.
const CabinetFormat = "hollen-cabinet/1"

// MaxThings is how many things of a kind one document may hold.
const MaxThings = 2000

// Cabinet is things of a workshop's own, to hand to another. Keys are those of the workshop it
// comes from; they mean nothing elsewhere.
type Cabinet struct {
	Format    string              `json:"format"`
	Flours    []flour.Flour       `json:"flours,omitempty"`
	Eggs      []egg.Class         `json:"eggs,omitempty"`
	Additions []addition.Addition `json:"additions,omitempty"`
	Machines  []roll.Machine      `json:"machines,omitempty"`
	Shapes    []cut.Shape         `json:"shapes,omitempty"`
	Fillings  []filling.Filling   `json:"fillings,omitempty"`
	Ways      []request.Way       `json:"ways,omitempty"`
}

// Put adds a thing; it reports false for what is not handed on, as lots are not.
func (c *Cabinet) Put(v any) bool {
	switch v := v.(type) {
	case flour.Flour:
		c.Flours = append(c.Flours, v)
	case egg.Class:
		c.Eggs = append(c.Eggs, v)
	case addition.Addition:
		c.Additions = append(c.Additions, v)
	case roll.Machine:
		c.Machines = append(c.Machines, v)
	case cut.Shape:
		c.Shapes = append(c.Shapes, v)
	case filling.Filling:
		c.Fillings = append(c.Fillings, v)
	case request.Way:
		c.Ways = append(c.Ways, v)
	default:
		return false
	}
	return true
}

// things is one list of the document.
type things struct {
	path string
	all  []any
	errs []error // what is wrong with each, nil when nothing is
}

func listed[T any](path string, list []T, check func(*T) error) things {
	t := things{path: path}
	for i := range list {
		t.all, t.errs = append(t.all, list[i]), append(t.errs, check(&list[i]))
	}
	return t
}

// lists returns the lists of the document in its order.
func (c *Cabinet) lists() []things {
	return []things{listed("flours", c.Flours, (*flour.Flour).Check), listed("eggs", c.Eggs, (*egg.Class).Check),
		listed("additions", c.Additions, (*addition.Addition).Check), listed("machines", c.Machines, checkMachine),
		listed("shapes", c.Shapes, (*cut.Shape).Check),
		listed("fillings", c.Fillings, (*filling.Filling).Check),
		listed("ways", c.Ways, (*request.Way).Check)}
}

func checkMachine(m *roll.Machine) error {
	if n := len(m.History); n > roll.MaxHistory {
		return fmt.Errorf("history: %d given; at most %d are allowed", n, roll.MaxHistory)
	}
	return m.Check()
}

// All returns everything in it, in the order of the document.
func (c *Cabinet) All() (out []any) {
	for _, l := range c.lists() {
		out = append(out, l.all...)
	}
	return out
}

// Check returns an error for every thing that cannot be used, with its place in the document.
func (c *Cabinet) Check() error {
	var errs []error
	count := 0
	for _, l := range c.lists() {
		count += len(l.all)
		if n := len(l.all); n > MaxThings {
			errs = append(errs, fmt.Errorf("%s: %d given; at most %d are allowed", l.path, n, MaxThings))
			continue
		}
		for i, err := range l.errs {
			if err != nil {
				errs = append(errs, fmt.Errorf("%s.%d: %w", l.path, i, err))
			}
		}
	}
	if count == 0 {
		errs = append(errs, errors.New("the document holds nothing"))
	}
	return errors.Join(errs...)
}

func readCabinet(raw []byte) (*Cabinet, error) {
	var c Cabinet
	if err := decode(raw, &c); err != nil {
		return nil, err
	}
	if err := c.Check(); err != nil {
		return nil, err
	}
	return &c, nil
}
