package day

import (
	"fmt"
	"strings"

	"hollen/internal/core/field"
	"hollen/internal/core/measure"
	"hollen/internal/core/schedule"
)

// The stores of a day, by their place in its list.
const (
	AtRack = iota
	AtTrays
	AtFridge
	AtMixer
	AtPot
	AtRollers
)

// StoreKind is all a day knows of a store: what it is called, what a shop has of it and how that is typed, and how it
// is
// said that there is not enough. A store more is a row of storeKinds, a figure of Shop, and the holds of what uses it.
type StoreKind struct {
	Name  string
	Field field.Field          // of the kit
	Of    func(shop *Shop) any // the figure of a shop
	cap   func(shop *Shop) int // how much of it there is, in its own unit
	full  func(s *Narrator, task string, over int) string
	small func(s *Narrator, batch string, need int) (why, nearest string)
}

// MostRackM is the most rod a rack may have, m.
const MostRackM = 500

// storeKinds are the stores, each at its place.
var storeKinds = [...]StoreKind{
	AtRack: {
		Name: "Rack",
		Field: field.Field{Path: "rack", Label: "Rack", Unit: string(measure.M), Kind: field.Number, Max: MostRackM,
			Rounded: true, Digits: 2},
		Of:  func(shop *Shop) any { return &shop.RackM },
		cap: func(shop *Shop) int { return int(10 * shop.RackM) }, // dm
		full: func(s *Narrator, task string, over int) string {
			return fmt.Sprintf("The rack is full then: %s wants %s of rod more.", task, s.In.M(float64(over)/10, 1))
		},
		small: func(s *Narrator, batch string, need int) (why, nearest string) {
			return fmt.Sprintf("%s needs %s of rack at once, and there is not as much.", batch,
				s.In.M(float64(need)/10, 1)), "More rack, or a smaller batch, or two of them."
		},
	},
	AtTrays: counted("Trays", "trays", "Trays", "", 500, func(shop *Shop) *int { return &shop.Trays }),
	AtFridge: {
		Name:  "Fridge",
		Field: field.Field{Path: "fridge", Label: "Fridge", Unit: "doughs", Kind: field.Whole, Max: 100},
		Of:    func(shop *Shop) any { return &shop.Fridge },
		cap:   func(shop *Shop) int { return shop.Fridge },
		full: func(_ *Narrator, task string, over int) string {
			return fmt.Sprintf("The fridge has no place left then: %s wants %s more.", task,
				measure.Plural(over, "place", "places"))
		},
		small: tooFew("Fridge"),
	},
	AtMixer:   counted("Mixer", "mixers", "Mixers", "", 4, func(shop *Shop) *int { return &shop.Mixers }),
	AtPot:     counted("Pot", "pots", "Pots", "", 10, func(shop *Shop) *int { return &shop.Pots }),
	AtRollers: counted("Rollers", "rollers", "Rollers", "", 4, func(shop *Shop) *int { return &shop.Rollers }),
}

// KitStores are the stores in the order the kit asks for them.
func KitStores() []StoreKind {
	var out []StoreKind
	for _, at := range []int{AtRollers, AtMixer, AtRack, AtTrays, AtFridge, AtPot} {
		out = append(out, storeKinds[at])
	}
	return out
}

// counted is a store whose things are counted and are in use or not.
func counted(name, path, label, unit string, most float64, of func(*Shop) *int) StoreKind {
	return StoreKind{
		Name:  name,
		Field: field.Field{Path: path, Label: label, Unit: unit, Kind: field.Whole, Max: most},
		Of:    func(shop *Shop) any { return of(shop) },
		cap:   func(shop *Shop) int { return *of(shop) },
		full: func(_ *Narrator, task string, _ int) string {
			return fmt.Sprintf("The %s is in use then: %s has to wait for it.",
				measure.Lower(strings.TrimSuffix(name, "s")), task)
		},
		small: tooFew(name),
	}
}

func tooFew(name string) func(*Narrator, string, int) (why, nearest string) {
	return func(_ *Narrator, batch string, need int) (why, nearest string) {
		return fmt.Sprintf("%s needs more of this than there is: %s.", batch, measure.Lower(name)),
			fmt.Sprintf("%d would do.", need)
	}
}

// storesOf are the stores of a shop.
func storesOf(shop *Shop) []schedule.Store {
	out := make([]schedule.Store, len(storeKinds))
	for i, k := range storeKinds {
		out[i] = schedule.Store{Name: k.Name, Cap: k.cap(shop)}
	}
	return out
}
