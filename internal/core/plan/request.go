// Package plan is the one way through: plan.Make(Request) gives the whole Plan of a batch,
// stage by stage in the order of work. It does no sums of its own beyond carrying masses
// from one stage to the next; each stage's sums live in the package of its name.
package plan

import (
	"fmt"
	"strings"

	"hollen/internal/core/cut"
	"hollen/internal/core/dry"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/roll"
)

// RequestFormat and PlanFormat name the versions of the two documents.
const (
	RequestFormat = "hollen-request/1"
	PlanFormat    = "hollen-plan/1"
)

// Request is everything a maker says about a batch. Optional numbers are nil when Hollen is
// to choose. Shares are 0–1, moisture wet basis.
type Request struct {
	Format string      `json:"format"`
	Name   string      `json:"name"`
	Amount Amount      `json:"amount"`
	Flours []FlourPart `json:"flours"` // 1 to 5, shares adding up to 1
	Eggs   Eggs        `json:"eggs"`
	Salt   float64     `json:"salt_share"` // of flour
	Oil    float64     `json:"oil_share"`  // of flour
	Room   Room        `json:"room"`
	Knead  Knead       `json:"knead"`
	Rest   Rest        `json:"rest"`
	Roll   Roll        `json:"roll"`
	Cut    Cut         `json:"cut"`
	Dry    Dry         `json:"dry"`
	Cook   Cook        `json:"cook"`
}

// Amount says how much: By names the one of the figures that counts.
type Amount struct {
	By       string   `json:"by"` // portions, dough, flour or eggs
	Portions float64  `json:"portions"`
	PortionG *float64 `json:"portion_g"` // raw, nil: as the shape
	DoughG   float64  `json:"dough_g"`
	FlourG   float64  `json:"flour_g"`
	EggG     float64  `json:"egg_g"` // beaten, in the jug
}

// FlourPart is one flour of the blend and how it has been kept.
type FlourPart struct {
	Flour      string        `json:"flour"` // key
	Share      float64       `json:"share"` // of the flour as weighed
	Kept       flour.Keeping `json:"kept"`
	OpenDays   float64       `json:"open_days"`
	ContainsKG float64       `json:"container_kg"`
	MeasuredWB *float64      `json:"measured_moisture_wb"` // nil: estimated
	Own        *flour.Flour  `json:"own_flour,omitempty"`  // the flour itself, when it is not a shipped one
}

// Kind returns the flour: the workshop's own as it was when it was picked, or the shipped one.
func (f FlourPart) Kind() flour.Flour {
	if f.Own != nil {
		return *f.Own
	}
	kind, _ := flour.Find(f.Flour)
	return kind
}

// checkOwn returns what is wrong with the flour's own figures, nil when it is a shipped one.
func (f FlourPart) checkOwn() error {
	switch {
	case f.Own == nil:
		return nil
	case f.Own.Key != f.Flour || !strings.HasPrefix(f.Flour, flour.OwnPrefix):
		return fmt.Errorf("its key must be %q, as the part's, and begin with %s", f.Flour, flour.OwnPrefix)
	}
	return f.Own.Check()
}

// keeping is how the flour has been kept.
func (f FlourPart) keeping() flour.Kept {
	return flour.Kept{How: f.Kept, Days: f.OpenDays, MassKG: f.ContainsKG, MeasuredWB: f.MeasuredWB}
}

// Eggs says which eggs and which style.
type Eggs struct {
	Class     string    `json:"class"`
	OwnEggG   *float64  `json:"own_egg_g"`  // mean edible egg of this kitchen, nil: the class's
	OwnYolkG  *float64  `json:"own_yolk_g"` // mean yolk of this kitchen, nil: the class's
	Style     egg.Style `json:"style"`
	TopUp     egg.TopUp `json:"top_up"`
	From      string    `json:"from"` // room or fridge
	FixWhole  *float64  `json:"fix_whole_eggs"`
	FixYolks  *float64  `json:"fix_extra_yolks"`
	CrackedG  *float64  `json:"cracked_g"` // what the eggs weighed once cracked, nil: as planned
	LockFlour bool      `json:"lock_flour"`
}

// class returns the egg class with this kitchen's own means, where it has any.
func (e Eggs) class() egg.Class {
	c, _ := egg.Find(e.Class)
	if e.OwnEggG != nil {
		// A bigger egg has a bigger yolk, unless that was weighed, too.
		c.EdibleG, c.YolkG = *e.OwnEggG, c.YolkG**e.OwnEggG/c.EdibleG
	}
	if e.OwnYolkG != nil {
		c.YolkG = *e.OwnYolkG
	}
	return c
}

// Room is the air of the workshop.
type Room struct {
	TempC float64 `json:"temp_c"`
	RH    float64 `json:"rh"` // share
	Air   dry.Air `json:"air"`
}

// Knead asks for a school and, if the maker knows better, for minutes.
type Knead struct {
	School string   `json:"school"` // long
	Min    *float64 `json:"knead_min"`
}

// Rest says where the dough rests and, if the maker knows better, how long.
type Rest struct {
	At  string   `json:"at"` // room or fridge
	Min *float64 `json:"rest_min"`
}

// Roll says on which machine and how.
type Roll struct {
	Machine   string    `json:"machine"`
	TargetMM  *float64  `json:"target_mm"` // nil: as the shape
	Mode      roll.Mode `json:"mode"`
	Pieces    *float64  `json:"pieces"` // nil: about 100 g of flour each
	BenchMM   float64   `json:"bench_mm"`
	Folds     *float64  `json:"folds"`      // nil: as the school
	Careful   string    `json:"careful"`    // auto, yes or no
	LastTwice bool      `json:"last_twice"` // second pass at the last stop
}

// Cut says which shape, and what of it to change.
type Cut struct {
	Shape string   `json:"shape"`
	Width *float64 `json:"width_mm"`      // nil: as the shape
	Min   *float64 `json:"min_length_mm"` // nil: as the shape
	Max   *float64 `json:"max_length_mm"` // nil: as the shape
	NestG *float64 `json:"nest_g"`        // nil: a portion
	Tool  cut.Tool `json:"tool"`          // "": as the shape
}

// Dry says on what the sheets lie.
type Dry struct {
	On string `json:"on"` // rack or board
}

// Cook says how dry the ribbons go into the pot.
type Cook struct {
	After string `json:"after"` // fresh, leather or nest
}

// Default returns a complete request to start from: ten portions of tagliatelle on a hand
// crank in a room of 22 °C and 45 %.
func Default() Request {
	return Request{
		Format: RequestFormat, Name: "Tagliatelle",
		Amount: Amount{By: "portions", Portions: 10, DoughG: 1500, FlourG: 1000, EggG: 540},
		Flours: []FlourPart{{Flour: "soft-00", Share: 1, Kept: flour.PaperBag, OpenDays: 7, ContainsKG: 1}},
		Eggs:   Eggs{Class: "eu-l", Style: egg.WholeEggs, TopUp: egg.TopWater, From: "room"},
		Room:   Room{TempC: 22, RH: .45, Air: dry.Still},
		Knead:  Knead{School: "long"},
		Rest:   Rest{At: "room"},
		Roll:   Roll{Machine: "hand-crank-10", Mode: roll.EveryStop, BenchMM: 1200, Careful: "auto"},
		Cut:    Cut{Shape: "tagliatelle"},
		Dry:    Dry{On: "rack"},
		Cook:   Cook{After: "leather"},
	}
}
