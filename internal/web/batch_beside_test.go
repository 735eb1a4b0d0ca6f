package web

import (
	"testing"

	"hollen/internal/demo"
)

// A batch stands beside the same by another tool as its form stands, and the way back loses nothing.
func TestBeside(t *testing.T) {
	s := newSite(t)
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("name", "Not saved, set beside")
	v.Set("at", "roll")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/beside/tool", v), 200, "Machine and pin", "Rolling pin and board",
		"Not saved, set beside",
		`name="room.rh"`, `name="roll.machine"`, `name="at" value="roll"`)
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/beside/cut", v), 200, "Cutter and knife")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/beside/worked", v), 404, "no other way")
	s.wants(s.ask("GET", batchAt(demo.Saturday)+"/beside/nothing", nil), 404, "no other way")
	v.Set("knead.by", "own")
	v.Set("knead.own_steps.0.do", "hand")
	v.Set("knead.own_steps.0.min", "4")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/beside/worked", v), 200, "Yours and worked out", "As you do it",
		"4 min")
	v.Set("roll.machine", "pin-board")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/beside/tool", v), 200, "Hand crank, ten stops")
	v.Set("cut.shape", "orecchiette")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/beside/tool", v), 404, "Ropes are rolled by hand")
	v.Set("room.rh", "wet")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/beside/tool", v), 422, "wet")
}
