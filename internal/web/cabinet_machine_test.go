package web

import (
	"context"
	"maps"
	"math"
	"net/url"
	"strings"
	"testing"

	"hollen/internal/core/plan"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
)

// Of a machine only the dial is known: its gaps are guessed and said so, until sheets are measured.
func TestOnlyTheDial(t *testing.T) {
	s := newSite(t)
	form := url.Values{"name": {"Quay crank"}, "tool": {"roller"}, "stops": {"0 4.6\n1 3.7"}, "dial": {"9 to nought"},
		"width_mm":       {"150"},
		"speed_mm_per_s": {"110"},
		"feed_mm":        {"15"}}
	s.wants(s.ask("POST", "/cabinet/machines", form), 422, "is no dial", `value="9 to nought"`, "0 4.6\n1 3.7",
		`aria-describedby="e-dial"`)
	form.Set("dial", "from 9 to 1")
	s.wants(s.ask("POST", "/cabinet/machines", form), 303)
	s.wants(s.ask("GET", "/cabinet/machines", nil), 200, "9 (widest) to 1", "about 5 to 0.6", "not yet; gaps guessed")
	s.wants(s.ask("GET", "/cabinet/machines/19", nil), 200, `value="from 9 to 1"`)
	r := s.typed(demo.Number(demo.Saturday))
	r.Set("at", "roll")
	r.Set("roll.machine", "own-19")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", r), 200, "guessed from the dial, so within 25 %",
		"The gaps are guessed.")
	s.wants(s.ask("GET", "/cabinet/machines/19/calibrate", nil), 200, "gap, as guessed")
	s.wants(s.ask("POST", "/cabinet/machines/19/calibrate", url.Values{"spring": {"8"}, "density": {"1.214"},
		"t0": {"4.8"}, "t4": {"1.9"}, "t8": {"0.6"},
		"keep": {"yes"}}), 303)
	r.Set("roll.machine", "own-19")
	w := s.ask("POST", batchAt(demo.Saturday)+"/work", r)
	s.wants(w, 200, "(measured, within")
	if text := w.Body.String(); strings.Contains(text, "guessed from") || strings.Contains(text, "are guessed") {
		t.Error("measured, and still called guessed")
	}
	// The same dial kept again keeps what was measured; gaps given take its place.
	form.Set("id", "19")
	form.Set("version", "2")
	s.wants(s.ask("POST", "/cabinet/machines", form), 303)
	s.wants(s.ask("GET", "/cabinet/machines", nil), 200, "3 stops")
	form.Set("version", "3")
	form.Set("dial", "")
	s.wants(s.ask("POST", "/cabinet/machines", form), 303)
	s.wants(s.ask("GET", "/cabinet/machines", nil), 200, "0 (widest) to 1", "4.6 to 3.7", "not yet")
}

// A machine whose labels fall: kept, measured by caliper, paper and a weighed square, used by
// a batch, which keeps it as it was until it asks for the newest.
func TestOwnMachine(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", "/cabinet/machines/new?like=motor-9", nil), 200, "9 6\n8 4.6", "Filled in as Motor roller")
	form := url.Values{"name": {"Quay motor"}, "tool": {"roller"},
		"stops": {"6 5\n5 3.6\n4 2.4\n3 1.6\n2 1.1\n1 0,8mm"}, "width_mm": {"180"},
		"speed_mm_per_s": {"120"}, "feed_mm": {"15"}, "motor": {"yes"}, "set_speed": {"slow"}}
	s.wants(s.ask("POST", "/cabinet/machines", form), 303)
	s.wants(s.ask("GET", "/cabinet/machines", nil), 200, "6 (widest) to 1", "not yet", "/cabinet/machines/19/calibrate")
	for typed, says := range map[string]string{"6 5 5": "a label and a gap", "6 five": "is no gap in mm",
		"6 3 5 4":     "not finer than",
		"6 3 5 2 6 1": "each needs a label of its own", "": "1 to 40 are allowed", "x 99": "0.2 to 40 mm"} {
		bad := url.Values{}
		for k, v := range form {
			bad[k] = v
		}
		bad.Set("stops", typed)
		s.wants(s.ask("POST", "/cabinet/machines", bad), 422, says, typed)
	}
	wide := maps.Clone(form)
	wide.Set("cutters", "6.5 181 0.7 1.5")
	s.wants(s.ask("POST", "/cabinet/machines", wide), 422, "does not go on rollers of 180 mm; up to 180 mm is allowed",
		"6.5 181 0.7 1.5")
	// The Roll page leads there, with what it knows of the dough.
	r := s.typed(demo.Number(demo.Saturday))
	r.Set("at", "roll")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", r), 200,
		`href="/cabinet/machines/new?like=hand-crank-10">Keep the machine as yours`)
	r.Set("roll.machine", "own-19")
	if w := s.ask("POST", batchAt(demo.Saturday)+"/work", r); !strings.Contains(w.Body.String(),
		`href="/cabinet/machines/19/calibrate?spring=`) {
		t.Error("no way to the measuring of an own machine")
	}
	s.wants(s.ask("GET", "/cabinet/machines/19/calibrate?spring=9.3&density=1.207", nil), 200, `value="9.3"`,
		`value="1.207"`)
	s.wants(s.ask("GET", "/cabinet/machines/19/calibrate?spring=x&density=", nil), 200, `value="8"`, `value="1.214"`)
	// Measured: nonsense is refused beside its stop, then worked out, then kept.
	at := "/cabinet/machines/19/calibrate"
	s.wants(s.ask("GET", at, nil), 200, "Sheet at stop 6", "10.9 g")
	s.wants(s.ask("POST", at, url.Values{"spring": {"8"}, "density": {"1.214"}, "t2": {"two spoons"}, "t4": {"400"}}),
		422,
		"leaves of paper, g of a square", `value="two spoons"`)
	s.wants(s.ask("POST", at, url.Values{"spring": {"lots"}, "density": {"10"}, "t2": {"2.7"}}), 422,
		"0 to 60 % is allowed", "1 to 1.4 g/mL")
	s.wants(s.ask("POST", at, url.Values{"spring": {"8"}, "density": {"1.214"}}), 422, "nothing is measured yet")
	s.wants(s.ask("POST", at, url.Values{"spring": {"8"}, "density": {"1.214"}, "t2": {"2"}, "t4": {"2.1"}}), 422,
		"no thinner than")
	sheets := url.Values{"spring": {"8"}, "density": {"1.214"}, "t0": {"5.7"}, "t2": {"28 leaves"}, "t4": {"15.5 g"}}
	s.wants(s.ask("POST", at, sheets), 200, "measured: 2.80 mm", "measured: 1.28 mm", "are within about")
	sheets.Set("keep", "yes")
	s.wants(s.ask("POST", at, sheets), 303)
	cab, err := s.store.Cabinet(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	m := cab.Machines[len(cab.Machines)-1]
	if len(m.Calibrated) != 3 || math.Abs(m.Stops[4].TrueMM()*1.08-roll.SquareMM(15.5, 1.214, 100, 100)) > 1e-3 ||
		m.CalibratedOn != today() {
		t.Fatalf("%+v", m)
	}
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("roll.machine", "own-19")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v), 303)
	b, _ := s.store.Get(context.Background(), demo.Number(demo.Saturday))
	p, err := plan.Make(rules.Default(), b.Request.Request)
	if err != nil || !p.Roll.Calibrated || p.Roll.Machine.Name != "Quay motor" || !strings.Contains(p.Why["roll.sheet"],
		"measured, within") {
		t.Errorf("%+v, %v: %s", p.Roll.Machine, err, p.Why["roll.sheet"])
	}
	// Measured again, the former set is history and the batch is offered the newest.
	sheets.Set("t4", "1.2")
	s.wants(s.ask("POST", at, sheets), 303)
	s.wants(s.ask("GET", at, nil), 200, "Earlier", "2: 1.28 mm")
	s.wants(s.ask("GET", batchAt(demo.Saturday), nil), 200, "Quay motor has newer figures")
	s.wants(s.ask("GET", batchAt(demo.Saturday)+"?at=roll", nil), 200, "Left out, what then?", "Widest is stop",
		"The drive seated, the slow speed set.")
	s.wants(s.ask("GET", "/cabinet/flours/1/calibrate", nil), 404)
	// Other gaps make what was measured on the old ones void.
	form.Set("id", "19")
	form.Set("version", s.open("/cabinet/machines/19"))
	form.Set("stops", "6 5 5 3.6 4 2.4 3 1.6 2 1.0 1 0.8")
	s.wants(s.ask("POST", "/cabinet/machines", form), 303)
	if cab, _ = s.store.Cabinet(context.Background()); len(cab.Machines[len(cab.Machines)-1].Calibrated) != 0 {
		t.Error("the calibration of other gaps is kept")
	}
}

// Two windows on one machine: the second is told what the first kept, loses nothing, and
// its own stands when it keeps it again.
func TestThingInTwoWindows(t *testing.T) {
	s := newSite(t)
	form := url.Values{"id": {"8"}, "version": {"1"}, "name": {"The window crank"}, "tool": {"roller"},
		"stops":    {"0 4.6\n1 3.7\n4 1.9\n7 0.9\n9 0.5"},
		"width_mm": {"140"}, "speed_mm_per_s": {"110"}, "feed_mm": {"15"}}
	s.wants(s.ask("GET", "/cabinet/machines/8", nil), 200, `name="version" value="1"`)
	first, second := maps.Clone(form), maps.Clone(form)
	first.Set("width_mm", "152")
	second.Set("name", "The door crank")
	s.wants(s.ask("POST", "/cabinet/machines", first), 303)
	s.wants(s.ask("POST", "/cabinet/machines", second), 409, "another window kept this meanwhile",
		"Width of the sheet, or length of the pin: 152",
		`value="The door crank"`, `name="version" value="2"`)
	if strings.Contains(s.ask("GET", "/cabinet/machines", nil).Body.String(), "door crank") {
		t.Error("the second is kept unasked")
	}
	second.Set("version", "2")
	s.wants(s.ask("POST", "/cabinet/machines", second), 303)
	s.wants(s.ask("GET", "/cabinet/machines/8", nil), 200, "The door crank", `value="140"`, `name="version" value="3"`)
	for _, odd := range []string{"99", "", "none"} { // no window was opened on that
		second.Set("version", odd)
		s.wants(s.ask("POST", "/cabinet/machines", second), 409)
	}
}

// A pin of one's own: no stops, a board; a batch on it has stages, and a board too small says
// so.
func TestOwnPin(t *testing.T) {
	s := newSite(t)
	form := url.Values{"name": {"Short pin"}, "tool": {"pin"}, "stops": {""}, "width_mm": {"400"},
		"board_length_mm": {"500"}, "board_width_mm": {"400"}}
	s.wants(s.ask("POST", "/cabinet/machines", form), 303)
	s.wants(s.ask("GET", "/cabinet/machines/19/calibrate", nil), 404, "A pin has no stops")
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("roll.machine", "own-19")
	v.Set("roll.pieces", "1")
	v.Set("at", "roll")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "On the board", "The board is too small",
		"Under the pin")
	form.Set("board_width_mm", "50")
	s.wants(s.ask("POST", "/cabinet/machines", form), 422, "200 to 5,000 mm")
	// The demo's stripes: the join, with what it wants of the other dough.
	s.wants(s.ask("GET", batchAt(demo.Straw)+"?at=roll", nil), 200, "One pass at stop <b>5</b>",
		"of which 201 g are planned", `class="stripe"`)
	v = s.typed(demo.Number(demo.Straw))
	for k, x := range map[string]string{"roll.stripes.base_mm": "6", "roll.stripes.stripe_mm": "3",
		"roll.machine": "mixer-8", "eggs.style": "yolk",
		"knead.knead_min": "1", "rest.rest_min": "0"} {
		v.Set(k, x)
	}
	v.Set("at", "roll")
	s.wants(s.ask("POST", batchAt(demo.Straw)+"/work", v), 200, "a thicker base, or a thinner stripe")
}
