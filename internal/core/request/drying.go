package request

import (
	"encoding/json"

	"hollen/internal/core/dry"
)

// Drying is one moment at which pasta dries: not at all, for so many minutes of the maker's, or as it is worked out.
type Drying struct {
	By    DryBy    `json:"by"`
	Min   *float64 `json:"min"`    // of the maker's own
	ToMin *float64 `json:"to_min"` // the end of a range of them, nil: no range
	Air   dry.Air  `json:"air"`    // "": as the room's
}

// OnDrying is a drying with what it lies on.
type OnDrying struct {
	Drying
	On Lies `json:"on"`
}

// Said says whether anything dries then.
func (d *Drying) Said() bool { return d.By == DryWorked || d.By == DrySaid && d.Min != nil }

// OwnMin is the maker's own time, min, from and to; false where it is worked out.
func (d *Drying) OwnMin() (from, to float64, own bool) {
	if d.By != DrySaid || d.Min == nil {
		return 0, 0, false
	}
	return *d.Min, max(*d.Min, Or(d.ToMin, *d.Min)), true
}

// DriesNow turns what a request from before says of the pot into what it now says of drying: nothing where it went in
// fresh or at leather, the nests until they are firm, or dried to keep.
func (r *Request) DriesNow() {
	switch r.Cook.After {
	case FirmNests:
		if !r.Dry.Pieces.Said() {
			r.Dry.Pieces.By, r.Dry.Pieces.On = DryWorked, OnNests
		}
	case DriedHard:
		r.Dry.Keep = true
	case Fresh, AtLeather:
	default:
		return
	}
	r.Cook.After = AsDried
}

// DriesAsBefore leaves a making that was begun before drying was said as it was begun: doc is its request as it was
// written, and every sheet for a ribbon dried to leather before the cut.
func (r *Request) DriesAsBefore(doc []byte) {
	var was struct {
		Dry struct {
			Sheet *struct{} `json:"sheet"`
		} `json:"dry"`
	}
	if json.Unmarshal(doc, &was) == nil && was.Dry.Sheet == nil {
		r.Dry.Sheet.By = DryWorked
	}
}
