package learn

import (
	"bytes"
	"encoding/binary"
	"encoding/json"
	"errors"
	"math"

	"hollen/internal/core/bench"
	"hollen/internal/core/rules"
)

// kept is a Log as a document: what it stands on, and how that was weighed.
type kept struct {
	Rules   rules.Learn `json:"rules"`
	Version int         `json:"summary_version"`
	Entries []Entry     `json:"makings"`
	Water   []int       `json:"water"`
	Doughs  []Sitting   `json:"doughs,omitempty"`
	Timed   []int       `json:"timed"`
	Hw      keptFit     `json:"hydration"`
	Hands   keptFit     `json:"hands"`
	Losses  keptFit     `json:"losses"`
	Trims   keptFit     `json:"trimmings"`
	Shrinks keptFit     `json:"shrinkage"`
}

// keptFit is a Fitted as a document. Inverse is its matrix row by row, eight bytes a figure, the least first.
type keptFit struct {
	Seen    []Seen    `json:"seen"`
	Weights []float64 `json:"weights"`
	Alpha   []float64 `json:"alpha"`
	Scale   float64   `json:"scale"`
	Inverse []byte    `json:"inverse"`
}

// ErrOther says that a kept log was made by other rules, or cannot be read as one.
var ErrOther = errors.New("the log was weighed otherwise")

// MarshalJSON writes a log with what it stands on, to be recalled.
func (l *Log) MarshalJSON() ([]byte, error) {
	return json.Marshal(kept{Rules: l.ru, Version: bench.SummaryVersion, Entries: l.entries, Water: l.water,
		Doughs: l.doughs,
		Timed:  l.timed,
		Hw:     l.hw.keep(), Hands: l.hands.keep(), Losses: l.losses.keep(), Trims: l.trims.keep(),
		Shrinks: l.shrinks.keep()})
}

func (f *Fitted) keep() keptFit {
	k := keptFit{Seen: f.seen, Weights: f.solved.w, Alpha: f.solved.alpha, Scale: f.solved.scale}
	for _, row := range f.solved.h {
		for _, x := range row {
			k.Inverse = binary.LittleEndian.AppendUint64(k.Inverse, math.Float64bits(x))
		}
	}
	return k
}

// Recall returns a log that was kept, to the last digit as it was weighed; ErrOther where it was weighed by other
// rules, or cannot be read.
func Recall(ru rules.Learn, doc []byte) (*Log, error) {
	var k kept
	if err := json.Unmarshal(doc, &k); err != nil {
		return nil, errors.Join(ErrOther, err)
	}
	now, err := json.Marshal(ru)
	if err != nil {
		return nil, err
	}
	was, err := json.Marshal(k.Rules)
	if err != nil || !bytes.Equal(now, was) || k.Version != bench.SummaryVersion {
		return nil, ErrOther
	}
	for _, places := range [][]int{k.Water, k.Timed} {
		for _, i := range places {
			if i < 0 || i >= len(k.Entries) {
				return nil, ErrOther
			}
		}
	}
	l := &Log{ru: ru, entries: k.Entries, water: k.Water, timed: k.Timed, doughs: k.Doughs}
	for _, x := range []struct {
		of     **Fitted
		causes rules.Causes
		kept   keptFit
	}{{&l.hw, ru.Hydration, k.Hw}, {&l.hands, ru.Hands, k.Hands}, {&l.losses, ru.Loss, k.Losses}, {&l.trims, ru.Trim,
		k.Trims},
		{&l.shrinks, ru.Shrink, k.Shrinks}} {
		if *x.of, err = x.kept.recall(x.causes); err != nil {
			return nil, err
		}
	}
	if len(l.water)+len(l.doughs) != len(l.hw.seen) || len(l.timed) != len(l.hands.seen) {
		return nil, ErrOther
	}
	return l, nil
}

func (k *keptFit) recall(c rules.Causes) (*Fitted, error) {
	n := len(k.Seen)
	if len(k.Weights) != n || len(k.Alpha) != n || len(k.Inverse) != 8*n*n {
		return nil, ErrOther
	}
	f := unfitted(c, k.Seen)
	f.solved = solved{alpha: k.Alpha, w: k.Weights, v: make([]float64, n), scale: k.Scale}
	for i := range n {
		f.solved.v[i] = k.Seen[i].V
		row := make([]float64, n)
		for j := range n {
			row[j] = math.Float64frombits(binary.LittleEndian.Uint64(k.Inverse[8*(i*n+j):]))
		}
		f.solved.h = append(f.solved.h, row)
	}
	return f, nil
}
