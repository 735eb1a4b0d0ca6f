package exchange

import (
	"encoding/json"
	"fmt"

	"hollen/internal/core/bench"
	"hollen/internal/core/rules"
)

// LogFormat names the version of the document. The first version held what lists read of makings, and no makings.
const LogFormat = "hollen-log/2"

const oldLog = "hollen-log/1"

// MostLogged is how many makings a log may bring.
const MostLogged = 1000

// Log is makings that have ended, the newest first. Older is where the next file of them is, "" when there is none.
type Log struct {
	Format  string   `json:"format"`
	Older   string   `json:"older,omitempty"`
	Makings []Logged `json:"makings"`
}

// Logged is one making of a log: its document without what follows from the rest, and what lists read of it, which is
// not read again.
type Logged struct {
	Making
	Steps   *struct{}     `json:"steps,omitempty"`
	State   *struct{}     `json:"state,omitempty"`
	Number  uint64        `json:"number"`
	Summary bench.Summary `json:"summary"`
}

// readLog reads the makings of a log; errors say which making they are of.
func readLog(ru rules.Rules, raw []byte) ([]*Making, error) {
	var doc struct {
		Makings []json.RawMessage `json:"makings"`
	}
	if err := json.Unmarshal(raw, &doc); err != nil {
		return nil, place(raw, err)
	}
	if len(doc.Makings) == 0 {
		return nil, PlaceError{Text: "the log holds no making"}
	}
	if len(doc.Makings) > MostLogged {
		return nil, PlaceError{Text: fmt.Sprintf("%d makings given; at most %d are allowed", len(doc.Makings),
			MostLogged)}
	}
	out := make([]*Making, len(doc.Makings))
	for i, x := range doc.Makings {
		m, err := readMaking(ru, x)
		if err != nil {
			return nil, fmt.Errorf("makings.%d: %w", i, err)
		}
		out[i] = m
	}
	return out, nil
}
