package exchange

import (
	"errors"
	"fmt"

	"hollen/internal/core/addition"
	"hollen/internal/core/cut"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/roll"
)

// CabinetFormat names the version of the document.
const CabinetFormat = "hollen-cabinet/1"

// MaxThings is how many things of a kind one document may hold.
const MaxThings = 500

// Cabinet is things of a workshop's own, to hand to another. Keys are those of the workshop it
// comes from; they mean nothing elsewhere.
type Cabinet struct {
	Format    string              `json:"format"`
	Flours    []flour.Flour       `json:"flours,omitempty"`
	Eggs      []egg.Class         `json:"eggs,omitempty"`
	Additions []addition.Addition `json:"additions,omitempty"`
	Machines  []roll.Machine      `json:"machines,omitempty"`
	Shapes    []cut.Shape         `json:"shapes,omitempty"`
}

// Check returns an error for every thing that cannot be used, with its place in the document.
func (c *Cabinet) Check() error {
	var errs []error
	many := func(kind string, n int) {
		if n > MaxThings {
			errs = append(errs, fmt.Errorf("%s: %d given; at most %d are allowed", kind, n, MaxThings))
		}
	}
	many("flours", len(c.Flours))
	many("eggs", len(c.Eggs))
	many("additions", len(c.Additions))
	many("machines", len(c.Machines))
	many("shapes", len(c.Shapes))
	add := func(kind string, i int, err error) {
		if err != nil {
			errs = append(errs, fmt.Errorf("%s.%d: %w", kind, i, err))
		}
	}
	for i, x := range c.Flours {
		add("flours", i, x.Check())
	}
	for i, x := range c.Eggs {
		add("eggs", i, x.Check())
	}
	for i, x := range c.Additions {
		add("additions", i, x.Check())
	}
	for i, x := range c.Machines {
		add("machines", i, x.Check())
		if n := len(x.History); n > roll.MaxHistory {
			add("machines", i, fmt.Errorf("history: %d given; at most %d are allowed", n, roll.MaxHistory))
		}
	}
	for i, x := range c.Shapes {
		add("shapes", i, x.Check())
	}
	if len(errs) == 0 && len(c.Flours)+len(c.Eggs)+len(c.Additions)+len(c.Machines)+len(c.Shapes) == 0 {
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
