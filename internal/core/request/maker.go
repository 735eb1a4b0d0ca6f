package request

import (
	"strings"
	"unicode/utf8"

	"hollen/internal/core/measure"
)

// MaxMaker is how many letters the name of a maker may have: it stands on a key at the bench.
const MaxMaker = 24

// Maker is somebody whose hands make the dough.
type Maker struct {
	Key  string `json:"key"`
	Name string `json:"name"`
	Note string `json:"note,omitempty"` // as the maker likes: days, hands, what to be asked for
}

// Check returns what is wrong with a maker; a measure.Fault.
func (m *Maker) Check() error {
	switch n := utf8.RuneCountInString(strings.TrimSpace(m.Name)); {
	case n < 1 || n > MaxMaker:
		return measure.Faultf("name", "1 to %d letters are allowed", MaxMaker)
	case utf8.RuneCountInString(m.Note) > 120:
		return measure.Faultf("note", "120 letters at most")
	}
	return nil
}
