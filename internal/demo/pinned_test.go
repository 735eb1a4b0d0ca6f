package demo

import (
	"bytes"
	"crypto/sha256"
	"encoding/json"
	"flag"
	"fmt"
	"maps"
	"math/rand/v2"
	"os"
	"slices"
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
var repin = flag.Bool("repin", false, "write testdata/pins.json anew")

const pinFile = "testdata/pins.json"

// pinned are the stages a pin stands for.
var pinned = append(request.Stages(), "steps", "cost")

// pin is what a stage of a plan comes to: its figures to nine digits, and a hash of its reasons, notes and words.
type pin struct {
	Figures json.RawMessage `json:"figures"`
	Words   string          `json:"words"`
}

// TestPinnedPlans holds every stage of the demo's batches and of sixty more to what it was, and names the figures that
// moved.
func TestPinnedPlans(t *testing.T) {
	now, order := map[string]pin{}, []string{}
	for _, r := range append(Batches(), assorted(60)...) {
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatalf("%s: %v", r.Name, err)
		}
		for _, s := range pinned {
			key := r.Name + ": " + string(s)
			now[key], order = pinOf(t, p, s), append(order, key)
		}
	}
	if *repin {
		if err := os.WriteFile(pinFile, onLines(t, now, order), 0o644); err != nil {
			t.Fatal(err)
		}
		return
	}
	doc, err := os.ReadFile(pinFile)
	if err != nil {
		t.Fatal(err)
	}
	var then map[string]pin
	if err := json.Unmarshal(doc, &then); err != nil {
		t.Fatal(err)
	}
	if len(then) != len(now) {
		t.Fatalf("%d pins of %d stages", len(then), len(now))
	}
	told := 0
	for _, key := range order {
		was, is := then[key], now[key]
		moves := moved("", decoded(t, was.Figures), decoded(t, is.Figures))
		if was.Words != is.Words {
			moves = append(moves, "its words")
		}
		if len(moves) == 0 {
			continue
		}
		if told++; told <= 12 {
			t.Errorf("%s moved: %s", key, strings.Join(moves[:min(len(moves), 4)], ", "))
		}
	}
	if told > 12 {
		t.Errorf("%d stages moved in all", told)
	}
}

// onLines writes pins a stage a line, in this order, so that a diff says what moved.
func onLines(t *testing.T, pins map[string]pin, order []string) []byte {
	var out bytes.Buffer
	for i, key := range order {
		name, err := json.Marshal(key)
		if err != nil {
			t.Fatal(err)
		}
		doc, err := json.Marshal(pins[key])
		if err != nil {
			t.Fatal(err)
		}
		fmt.Fprintf(&out, "%s%s: %s", map[bool]string{true: "{\n", false: ",\n"}[i == 0], name, doc)
	}
	out.WriteString("\n}\n")
	return out.Bytes()
}

// decoded reads figures back, their digits as they are written.
func decoded(t *testing.T, doc []byte) any {
	t.Helper()
	d := json.NewDecoder(bytes.NewReader(doc))
	d.UseNumber()
	var v any
	if err := d.Decode(&v); err != nil {
		t.Fatal(err)
	}
	return v
}

// moved names the figures in which two documents differ, each by its path.
func moved(path string, was, is any) (out []string) {
	a, isMap := was.(map[string]any)
	b, both := is.(map[string]any)
	if isMap && both {
		keys := slices.Sorted(maps.Keys(a))
		for k := range b {
			if _, old := a[k]; !old {
				keys = append(keys, k)
			}
		}
		for _, k := range keys {
			out = append(out, moved(path+"."+k, a[k], b[k])...)
		}
		return out
	}
	x, isList := was.([]any)
	y, bothLists := is.([]any)
	if isList && bothLists && len(x) == len(y) {
		for i := range x {
			out = append(out, moved(fmt.Sprintf("%s[%d]", path, i), x[i], y[i])...)
		}
		return out
	}
	if fmt.Sprint(was) != fmt.Sprint(is) {
		out = append(out, fmt.Sprintf("%s %.40v → %.40v", strings.TrimPrefix(path, "."), was, is))
	}
	return out
}

// pinOf is what a stage of p comes to.
func pinOf(t *testing.T, p *plan.Plan, s request.Stage) pin {
	figures := map[request.Stage]any{
		request.AtFormula: p.Formula, request.AtRoom: p.Room, request.AtKnead: p.Knead, request.AtRest: []any{p.Rest,
			p.Clock},
		request.AtRoll: p.Roll, request.AtCut: p.Cut, request.AtDry: []any{p.Dry, p.Keep}, request.AtCook: p.Cook,
		"steps": []any{p.Steps, p.Passes(1)}, "cost": p.Cost,
	}
	reasons := map[string]string{}
	for k, v := range p.Why {
		if strings.HasPrefix(k, string(s)+".") {
			reasons[k] = v
		}
	}
	doc, err := json.Marshal(figures[s])
	if err != nil {
		t.Fatal(err)
	}
	words, err := json.Marshal([]any{reasons, p.At(s)})
	if err != nil {
		t.Fatal(err)
	}
	bare, said := apart(decoded(t, nineDigits(t, doc)))
	out, err := json.Marshal(bare)
	if err != nil {
		t.Fatal(err)
	}
	return pin{out, fmt.Sprintf("%x", sha256.Sum256(append(nineDigits(t, words), strings.Join(said, "\n")...)))[:8]}
}

// apart takes the sentences out of figures: what is longer than a name.
func apart(v any) (bare any, said []string) {
	const name = 24 // letters
	switch v := v.(type) {
	case string:
		if len(v) > name {
			return nil, []string{v}
		}
	case []any:
		for i := range v {
			var more []string
			v[i], more = apart(v[i])
			said = append(said, more...)
		}
	case map[string]any:
		for _, k := range slices.Sorted(maps.Keys(v)) {
			part, more := apart(v[k])
			if v[k] = part; part == nil || part == "" || part == false {
				delete(v, k)
			}
			said = append(said, more...)
		}
	}
	return v, said
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
