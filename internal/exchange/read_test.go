package exchange

import (
	"bytes"
	"encoding/json"
	"fmt"
	"reflect"
	"regexp"
	"strings"
	"testing"

	"hollen/internal/core/cut"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipetext"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/draw"
)

func text(t *testing.T, v any) string {
	t.Helper()
	var b bytes.Buffer
	if err := Write(&b, v); err != nil {
		t.Fatal(err)
	}
	return b.String()
}

// Everything Hollen writes of a batch reads back to the same request.
func TestEveryExportReadsBack(t *testing.T) {
	for _, r := range demo.Batches() {
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		recipe, err := RecipeOf(p)
		if err != nil {
			t.Fatal(err)
		}
		want := text(t, r)
		docs := map[string]string{"request": want, "plan": text(t, p), "older plan": strings.Replace(text(t, p),
			plan.Format, "hollen-plan/1", 1),
			"recipe": text(t, recipe), "ladder": draw.LadderFile(p, want),
			"graph": `{"@context":"https://schema.org","@graph":[{"@type":"WebPage"},` +
				text(t, recipe) + "]}"}
		for i, x := range p.Cut.Parts() {
			docs[fmt.Sprint("cut ", i)] = draw.CutFile(p, x, want)
		}
		for name, doc := range docs {
			found, err := Read(rules.Default(), strings.NewReader(doc))
			if err != nil || found.Request == nil {
				t.Fatalf("%s of %s: %v", name, r.Name, err)
			}
			if got := text(t, *found.Request); got != want {
				t.Errorf("%s of %s comes back as\n%s", name, r.Name, got)
			}
		}
	}
}

func TestCabinetReadsBack(t *testing.T) {
	c := Cabinet{Format: CabinetFormat}
	for _, x := range demo.Scenario(rules.Default(), demo.Day).Things {
		c.Put(x.Value)
	}
	c.Shapes = append(c.Shapes, cut.Shipped()...)
	c.Machines = append(c.Machines, roll.Shipped()...)
	want := text(t, c)
	found, err := Read(rules.Default(), strings.NewReader(want))
	if n := len(c.All()); n != 11+len(cut.Shipped())+len(roll.Shipped()) || c.Put(7) {
		t.Errorf("%d things", n)
	}
	if err != nil || found.Cabinet == nil || text(t, found.Cabinet) != want {
		t.Errorf("%v", err)
	}
}

func TestRecipesFromElsewhere(t *testing.T) {
	for name, doc := range map[string]string{
		"plain": `{"@context":"http://schema.org/","@type":"Recipe","name":"Sunday dough","recipeIngredient":["2 cups flour"," 3  eggs ",""]}`,
		"list":  `[{"@type":"Organization"},{"@type":["Thing","Recipe"],"name":"Sunday dough","ingredients":"2 cups flour\n3 eggs"}]`,
		"graph": `{"@graph":[{"@type":"Recipe","name":"Sunday dough","recipeIngredient":["2 cups flour","3 eggs"]}]}`,
	} {
		f, err := Read(rules.Default(), strings.NewReader("\xef\xbb\xbf"+doc))
		if err != nil || f.Recipe == nil || !reflect.DeepEqual(*f.Recipe, Recipe{"Sunday dough",
			[]string{"2 cups flour", "3 eggs"}}) {
			t.Errorf("%s: %+v %v", name, f.Recipe, err)
		}
	}
}

// The recipe is one any reader of schema.org's understands: types, names, times, a line to an
// ingredient, a step to a step.
func TestRecipeIsSchemaOrg(t *testing.T) {
	p, err := plan.Make(rules.Default(), demo.Batch("Lantern night ravioli"))
	if err != nil {
		t.Fatal(err)
	}
	r, err := RecipeOf(p)
	if err != nil {
		t.Fatal(err)
	}
	var doc struct {
		Context      string   `json:"@context"`
		Type         string   `json:"@type"`
		Name         string   `json:"name"`
		Yield        string   `json:"recipeYield"`
		Ingredients  []string `json:"recipeIngredient"`
		Prep         string   `json:"prepTime"`
		Cook         string   `json:"cookTime"`
		Total        string   `json:"totalTime"`
		Date         string   `json:"datePublished"`
		Instructions []struct {
			Type string `json:"@type"`
			Name string `json:"name"`
			Text string `json:"text"`
		} `json:"recipeInstructions"`
		Nutrition struct{ Calories string }
	}
	if err := json.Unmarshal([]byte(text(t, r)), &doc); err != nil {
		t.Fatal(err)
	}
	if doc.Context != "https://schema.org" || doc.Type != "Recipe" || doc.Name != "Lantern night ravioli" ||
		doc.Date != "2026-11-28" ||
		doc.Yield != "12 portions" || !strings.HasSuffix(doc.Nutrition.Calories, " kcal") {
		t.Errorf("%+v", doc)
	}
	minutes := func(span string) (m int) {
		if _, err := fmt.Sscanf(span, "PT%dM", &m); err != nil {
			t.Errorf("%q is no duration: %v", span, err)
		}
		return m
	}
	if prep, cook, total := minutes(doc.Prep), minutes(doc.Cook), minutes(doc.Total); prep < 40 || cook < 3 ||
		total < prep || total > prep+cook+1 {
		t.Errorf("%d, %d and %d minutes", prep, cook, total)
	}
	if len(doc.Ingredients) != len(p.ToWeigh()) || !strings.HasPrefix(doc.Ingredients[0],
		measure.Metric.Grams(p.Room.FlourG)) ||
		!strings.Contains(strings.Join(doc.Ingredients, "\n"), "nettle") {
		t.Errorf("%q", doc.Ingredients)
	}
	double := regexp.MustCompile(`(?i)\b(eggs?|flour|egg yolk|water|salt|filling) (eggs?|flour|egg yolk|water|salt|filling)\b`)
	for _, line := range doc.Ingredients {
		if double.MatchString(line) {
			t.Errorf("a word stands twice: %s", line)
		}
		if strings.Contains(line, "filling") {
			continue // what is in it is the maker's
		}
		if l := recipetext.Parse(line, recipetext.Measures{CupML: recipetext.CupMetric})[0]; l.Problem != "" ||
			l.LowG <= 0 {
			t.Errorf("%q cannot be read as a recipe: %+v", line, l)
		}
	}
	for i, s := range doc.Instructions {
		if s.Type != "HowToStep" || s.Name == "" || s.Text == "" {
			t.Errorf("step %d: %+v", i, s)
		}
	}
}

func TestBrokenAndHostile(t *testing.T) {
	good := text(t, request.Default())
	for _, c := range []struct{ name, doc, says string }{
		{"empty", " \n", "empty"},
		{"huge", strings.Repeat("[", 10) + strings.Repeat(" ", MaxBytes), "larger than"},
		{"deep", strings.Repeat("[", 100000), "deeper than"},
		{"deep object", strings.Repeat(`{"request":`, 5000) + "1" + strings.Repeat("}", 5000), "deeper than"},
		{"cut off", good[:len(good)/2], "ends in the middle"},
		{"cut off in a word", good[:strings.Index(good, "null")+2], "ends in the middle"},
		{"not JSON", "dough: 500 g", "invalid character"},
		{"no format", `{"name":"x"}`, "names no format"},
		{"a number", "7", "number"},
		{"another format", `{"format":"loaf/3"}`, "is not known"},
		{"wrong type", strings.Replace(good, `"portions": 10`, `"portions": "ten"`, 1), "line 7"},
		{"not allowed", strings.Replace(good, `"portions": 10`, `"portions": -4`, 1), "amount.portions"},
		{"unknown field", strings.Replace(good, `"cut": {`, `"cut": {"laser": 1,`, 1), "laser"},
		{"two documents", good + good, "follows it"},
		{"plan without request", `{"format":"hollen-plan/1"}`, "no request"},
		{"nothing in it", `{"format":"hollen-cabinet/1"}`, "holds nothing"},
		{"bad flour", `{"format":"hollen-cabinet/1","flours":[{"key":"x","name":"","protein_pct":900}]}`, "flours.0"},
		{"bad shape", `{"format":"hollen-cabinet/1","shapes":[{"name":"<script>","family":"soup","width_mm":-1}]}`,
			"shapes.0"},
		{"bad machine",
			`{"format":"hollen-cabinet/1","machines":[{"name":"m","tool":"roller",` +
				`"stops":[{"label":"1","gap_mm":1e9}]}]}`, "machines.0"},
		{"many", `{"format":"hollen-cabinet/1","shapes":[` + strings.Repeat("{},", 2000) + `{}]}`, "at most 2000"},
		{"no recipe", `{"@type":"Person"}`, "no schema.org Recipe"},
		{"recipe of numbers", `{"@type":"Recipe","recipeIngredient":[1]}`, "recipeIngredient.0"},
		{"empty recipe", `{"@type":"Recipe"}`, "0 ingredients"},
		{"carried rubbish",
			`{"@type":"Recipe","hasPart":[{"encodingFormat":"application/vnd.hollen-request+json","text":"{"}]}`,
			"ends in the middle"},
		{"HTML", "<html><body></body></html>", "only SVG"},
		{"foreign drawing", `<svg xmlns="http://www.w3.org/2000/svg"><rect/></svg>`, "does not carry"},
		{"broken drawing", `<svg><metadata>{}`, "no drawing"},
		{"entities", `<!DOCTYPE svg [<!ENTITY a "b">]><svg><metadata>&a;</metadata></svg>`, "no drawing"},
		{"deep drawing", "<svg>" + strings.Repeat("<g>", 3000), "deeper"},
		{"drawing of rubbish", "<svg><metadata>" + strings.Repeat("[", 9000) + "</metadata></svg>", "deeper"},
	} {
		f, err := Read(rules.Default(), strings.NewReader(c.doc))
		if err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: %.200v, want %q", c.name, err, c.says)
		}
		if f.Request != nil || f.Cabinet != nil || f.Recipe != nil {
			t.Errorf("%s: something was found all the same", c.name)
		}
	}
}

func FuzzRead(f *testing.F) {
	f.Add(`{"format":"hollen-cabinet/1","shapes":[{}]}`)
	f.Add(`<svg><metadata>{"format":"hollen-request/1"}</metadata></svg>`)
	f.Add(`{"@type":"Recipe","recipeIngredient":["x"]}`)
	f.Fuzz(func(t *testing.T, doc string) {
		found, err := Read(rules.Default(), strings.NewReader(doc))
		if err != nil && err.Error() == "" {
			t.Fatal("an error without words")
		}
		if found.Request != nil {
			if _, err := plan.Make(rules.Default(), *found.Request); err != nil {
				t.Fatalf("a request that was read is not made: %v", err)
			}
		}
	})
}

// Documents from before flour that is named stayed as it is, before letters and books were the only
// folds, and before lots were shared are read as what they meant.
func TestOlderRequestsAreRead(t *testing.T) {
	var b bytes.Buffer
	if err := Write(&b, request.Default()); err != nil {
		t.Fatal(err)
	}
	old := b.String()
	for now, then := range map[string]string{
		"    \"move_flour\": false,\n    \"by_weight\": false,\n": "    \"lock_flour\": true,\n",
		`"fold": "thirds"`: `"fold": "auto"`, "    \"shared\": false,\n": "", "    \"flat_mm\": null,\n": "",
		"    \"scale_tenths\": false,\n": "",
	} {
		if !strings.Contains(old, now) {
			t.Fatalf("%q is not in %s", now, old)
		}
		old = strings.Replace(old, now, then, 1)
	}
	r, err := ReadRequest(rules.Default(), strings.NewReader(old))
	if err != nil || r.Roll.Fold != roll.Thirds || r.Eggs.MoveFlour || len(request.Changes(r, request.Default())) != 0 {
		t.Errorf("%v: %+v", err, request.Changes(r, request.Default()))
	}
	if _, err := ReadRequest(rules.Default(), strings.NewReader(strings.Replace(old, "lock_flour", "lock_flower",
		1))); err == nil ||
		!strings.Contains(err.Error(), "lock_flower") {
		t.Errorf("an unknown part of the eggs is read: %v", err)
	}
}

// A document from before ways, shares and patterns is read, and says what it said.
func TestDocumentsFromBefore(t *testing.T) {
	r := request.Default()
	r.Cut.Also = []request.ShapePart{{Shape: "pappardelle", Portions: 3}}
	doc := text(t, r)
	for _, gone := range []string{`,
        "by": ""`, `,
        "stop": ""`, `,
      "laid": "",
      "strips": [],
      "mirrored": false,
      "third_colour": ""`, `,
    "flour_open": false`} {
		if !strings.Contains(doc, gone) && !strings.Contains(doc, strings.TrimPrefix(gone, ",")+",") {
			t.Errorf("the document does not hold %q", gone)
		}
		doc = strings.Replace(strings.Replace(doc, gone, "", 1), strings.TrimPrefix(gone, ",")+",", "", 1)
	}
	found, err := Read(rules.Default(), strings.NewReader(doc))
	if err != nil || found.Request == nil {
		t.Fatalf("%v\n%s", err, doc)
	}
	if len(request.Changes(r, *found.Request)) != 0 {
		t.Errorf("%+v", request.Changes(r, *found.Request))
	}
	var c Cabinet
	if json.Unmarshal([]byte(`{"format":"hollen-cabinet/1","shapes":[]}`), &c) != nil || c.Ways != nil {
		t.Errorf("%+v", c)
	}
}
