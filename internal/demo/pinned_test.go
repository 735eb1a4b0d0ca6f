package demo

import (
	"bytes"
	"crypto/sha256"
	"encoding/json"
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"strconv"
	"strings"
	"testing"

	"hollen/internal/core/egg"
	"hollen/internal/core/knead"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
)

// repin makes the pins anew: go test ./internal/demo -repin. A change that means to change a
// plan says in its commit which stages moved, and why.
var repin = flag.Bool("repin", false, "write testdata/pins.txt anew")

const pinFile = "testdata/pins.txt"

// pinned are the stages a pin stands for, each a hash of its figures, reasons and notes.
var pinned = append(request.Stages(), "steps", "cost")

// TestPinnedPlans holds every stage of the demo's batches and of sixty more to what it was.
func TestPinnedPlans(t *testing.T) {
	var now bytes.Buffer
	fmt.Fprint(&now, "# one hash a stage:")
	for _, s := range pinned {
		fmt.Fprintf(&now, " %s", s)
	}
	fmt.Fprintln(&now)
	for _, r := range append(Batches(), assorted(60)...) {
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatalf("%s: %v", r.Name, err)
		}
		for _, s := range pinned {
			fmt.Fprintf(&now, "%s ", hash(t, p, s))
		}
		fmt.Fprintln(&now, r.Name)
	}
	if *repin {
		if err := os.WriteFile(pinFile, now.Bytes(), 0o644); err != nil {
			t.Fatal(err)
		}
		return
	}
	then, err := os.ReadFile(pinFile)
	if err != nil {
		t.Fatal(err)
	}
	was, is := strings.Split(string(then), "\n"), strings.Split(now.String(), "\n")
	if len(was) != len(is) {
		t.Fatalf("%d lines of pins, %d plans", len(was), len(is))
	}
	moved := map[request.Stage]int{}
	for i := range is {
		a, b := strings.Fields(was[i]), strings.Fields(is[i])
		for k := range min(len(a), len(b), len(pinned)) {
			if a[k] != b[k] {
				if moved[pinned[k]]++; moved[pinned[k]] <= 3 {
					t.Errorf("%s: %s moved", strings.Join(b[len(pinned):], " "), pinned[k])
				}
			}
		}
	}
	if len(moved) > 0 {
		t.Errorf("moved in all: %v", moved)
	}
}

// hash is what a stage of p comes to: its figures to nine digits, its reasons and its notes.
func hash(t *testing.T, p *plan.Plan, s request.Stage) string {
	figures := map[request.Stage]any{request.AtFormula: p.Formula, request.AtRoom: p.Room, request.AtRest: []any{p.Rest,
		p.Clock}, request.AtRoll: p.Roll,
		request.AtCut: p.Cut, request.AtDry: []any{p.Dry, p.Keep}, request.AtCook: p.Cook, "cost": p.Cost}
	figures[request.AtKnead], figures["steps"] = p.Knead, []any{p.Steps, p.Passes(1)}
	reasons := map[string]string{}
	for k, v := range p.Why {
		if strings.HasPrefix(k, string(s)+".") {
			reasons[k] = v
		}
	}
	doc, err := json.Marshal([]any{figures[s], reasons, p.At(s)})
	if err != nil {
		t.Fatal(err)
	}
	return fmt.Sprintf("%x", sha256.Sum256(nineDigits(t, doc)))[:8]
}

// nineDigits rounds every number of a document, so that another order of the same sums is the
// same plan.
func nineDigits(t *testing.T, doc []byte) []byte {
	d := json.NewDecoder(bytes.NewReader(doc))
	d.UseNumber()
	var v any
	if err := d.Decode(&v); err != nil {
		t.Fatal(err)
	}
	var round func(v any) any
	round = func(v any) any {
		switch v := v.(type) {
		case json.Number:
			n, _ := v.Float64()
			return json.Number(strconv.FormatFloat(n, 'g', 9, 64))
		case []any:
			for i := range v {
				v[i] = round(v[i])
			}
		case map[string]any:
			for k := range v {
				v[k] = round(v[k])
			}
		}
		return v
	}
	out, err := json.Marshal(round(v))
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// What the assorted requests are made of, named here so that what is added to Hollen later moves
// no pin.
var (
	pinSchools  = strings.Fields("auto long turns short hook processor")
	pinMachines = strings.Fields("hand-crank-10 mixer-8 motor-9 sheeter-mm pin-board")
	pinShapes   = strings.Fields("angel-hair tagliolini square-cut cutter-spaghetti linguine fettuccine tagliatelle " +
		"mafalde pappardelle lasagne " +
		"maltagliati quadretti farfalle garganelli ravioli ravioli-round mezzelune cappelletti agnolotti tortellini " +
		"yolk-raviolo orecchiette " +
		"cavatelli cavatelli-ridged")
	pinFlours = strings.Fields("soft-00 soft-0 plain strong semola-fine semolina-coarse wholemeal " +
		"wholemeal-flatbread wholemeal-durum spelt-white " +
		"spelt-whole emmer einkorn khorasan rye-light buckwheat sorghum millet chestnut chickpea rice maize-fine")
	pinStyles = []egg.Style{egg.WholeEggs, egg.Rich, egg.YolksOnly, egg.WholeWater, egg.NoEgg}
)

// assorted returns n requests over all schools, machines, shapes and styles.
func assorted(n int) []request.Request {
	rnd := rand.New(rand.NewPCG(10, 1))
	var out []request.Request
	for i := 0; len(out) < n; i++ {
		r := request.Default()
		r.Name = fmt.Sprintf("assorted %d", len(out)+1)
		r.MadeOn = "2026-11-28"
		r.Knead.School, r.Eggs.Style = knead.School(pinSchools[i%len(pinSchools)]), pinStyles[i%len(pinStyles)]
		r.Roll.Machine, r.Cut.Shape = pinMachines[i%len(pinMachines)], pinShapes[i%len(pinShapes)]
		r.Flours[0].Flour = pinFlours[rnd.IntN(len(pinFlours))]
		r.Room.TempC, r.Room.RH = float64(14+rnd.IntN(18)), .25+.01*float64(rnd.IntN(60))
		pick := func(list ...string) string { return list[rnd.IntN(len(list))] }
		r.Amount.By = request.By(pick("portions", "dough", "flour", "eggs"))
		r.Amount.Portions, r.Amount.FlourG = float64(2+rnd.IntN(30)), float64(200+50*rnd.IntN(60))
		r.Rest.At, r.Rest.Wrapped, r.Knead.Mix = request.Place(pick("room", "fridge")), request.Wrapped(pick("whole",
			"pieces")), request.Mix(pick("well", "bowl"))
		r.Roll.Mode, r.Roll.Divide = roll.Mode(pick("every", "fewest")), request.Divide(pick("flour", "bench"))
		r.Dry.On, r.Cook.After, r.Cut.Scraps = request.Lies(pick("rack", "board")), request.After(pick("fresh",
			"leather", "nest", "frozen")),
			request.Scraps(pick("", "soup", "back"))
		r.Oil, r.Salt = .01*float64(rnd.IntN(4)), .005*float64(rnd.IntN(4))
		if rnd.IntN(3) == 0 {
			r.Clock.RollAt = "2026-11-28T17:30"
		}
		if rnd.IntN(4) == 0 {
			r.Additions = []request.AdditionPart{{Addition: pick("spinach", "beet", "ink", "cocoa"), Share: .05}}
		}
		if rnd.IntN(4) == 0 {
			r.Keep.Where, r.Dry.Keep = "freezer", rnd.IntN(2) == 0
		}
		if r.Check(rules.Default()) == nil {
			out = append(out, r)
		}
	}
	return out
}
