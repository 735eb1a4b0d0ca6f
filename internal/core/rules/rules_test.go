package rules

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"reflect"
	"strings"
	"testing"
)

// docs is where the table of house rules stands, made from the doc lines.
const docs = "../../../docs/house-rules.md"

// tests are how a kitchen can test the rules of a group.
var tests = map[string]string{
	"Flour": "spread 100.0 g on a scale of a tenth of a gram in steady air and weigh it after three and after six " +
		"hours: " +
		"of the three moistures m₀, m₁, m₂ the end is (m₀m₂ − m₁²)/(m₀ + m₂ − 2m₁) and the time constant 3 h over " +
		"ln((m₀ − m₁)/(m₁ − m₂)). A sack weighed between two takings, and a sample dried, say the same of a month.",
	"Measure": "dry two samples of one sack at once, weigh one thing twice, crack two trays of one class, let two " +
		"people say " +
		"the words of the same three doughs, and set a sitting of small doughs beside the batch that follows it.",
	"Room": "weigh a dough before and after ten minutes at the board; weigh what is left of the flour held back.",
	"Hydration": "say how the dough of every batch felt: What is learned moves by it. Of one share alone (fat, yolk, " +
		"semola) " +
		"make two small doughs that differ in it, beside each other.",
	"Eggs": "weigh ten of a tray without their shells, then their yolks; the bowl of each batch as it is beaten.",
	"Dough": "length × width × thickness × density of a sheet against its mass; bowl and board before and after; a " +
		"pan of " +
		"warm water for the specific heat is no kitchen’s work.",
	"Knead": "poke the dough at the end of the rest and ten minutes later; look for the window as it is kneaded; " +
		"read its " +
		"temperature as it comes together and as it leaves the hands or the hook.",
	"Roll": "measure the sheet at three stops of one dough (A machine measured): off to the same side at all it is " +
		"how far " +
		"dough springs back, else it is the dial. Time a piece from the first stop to the last.",
	"Cut": "time a tray of pieces, weigh a nest and the trimmings, measure a ribbon as it is cut and a minute later.",
	"Dry": "the minutes to leather, on the rack and before a fan, and a nest weighed as it dries.",
	"Cook": "the pot by your own tooth, with a thin shape and a thick one: the first says the base, both what a " +
		"millimetre is worth.",
	"Bench": "weigh the same bowl twice, and splash ten times into a cup on the scale.",
	"Day":   "set a day’s taps beside its plan: hands, turns of the roller, minutes of cleaning.",
	"Learn": "A sheet to try it by, five batches one after another; Does it hold? says which ranges were too narrow.",
	"Practice": "a screen’s dough is no dough: let two people who knead beside each other write the word each " +
		"sign would " +
		"have, over twenty doughs; the spread of their words is a sign’s.",
	"Safety": "not by a kitchen: what local food rules say comes first, and nothing here is ever moved by the log.",
}

// Every rule has a doc line with its source, a value, and its row in docs/house-rules.md.
// Run with HOLLEN_WRITE_DOCS=1 to write the file anew.
func TestRulesAreDocumented(t *testing.T) {
	var decls []ast.Decl
	for _, name := range []string{"rules.go", "practice.go"} {
		file, err := parser.ParseFile(token.NewFileSet(), name, nil, parser.ParseComments)
		if err != nil {
			t.Fatal(err)
		}
		decls = append(decls, file.Decls...)
	}
	values := reflect.ValueOf(Default())
	groups := map[string]string{}
	for i := range values.NumField() {
		groups[values.Type().Field(i).Type.Name()] = values.Type().Field(i).Name
	}
	var b strings.Builder
	b.WriteString("# House rules\n\nStarting values that no table settles. They stand in `internal/core/rules`; this " +
		"page is made from their " +
		"doc lines\n(`HOLLEN_WRITE_DOCS=1 go test ./internal/core/rules`). What has the house for its source a " +
		"kitchen can " +
		"test; over each group stands how.\n")
	ast.Inspect(&ast.File{Name: ast.NewIdent("rules"), Decls: decls}, func(n ast.Node) bool {
		spec, ok := n.(*ast.TypeSpec)
		if !ok || groups[spec.Name.Name] == "" {
			return true
		}
		group := values.FieldByName(groups[spec.Name.Name])
		test := tests[spec.Name.Name]
		if test == "" {
			t.Errorf("how can a kitchen test %s?", spec.Name.Name)
		}
		fmt.Fprintf(&b, "\n## %s\n\n*To test it:* %s\n\n| rule | value | what it is |\n| --- | --- | --- |\n",
			spec.Name.Name, test)
		for _, f := range spec.Type.(*ast.StructType).Fields.List {
			doc := strings.Join(strings.Fields(f.Doc.Text()), " ")
			var names, vals []string
			for _, name := range f.Names {
				names = append(names, name.Name)
				v := group.FieldByName(name.Name)
				vals = append(vals, strings.Trim(fmt.Sprint(v.Interface()), "{}"))
				if v.IsZero() {
					t.Errorf("%s.%s has no value", spec.Name.Name, name.Name)
				}
			}
			if !strings.Contains(doc, "Source:") || !strings.HasPrefix(doc, names[0]) {
				t.Errorf("%s.%s: the doc line must begin with the name and give the source: %q", spec.Name.Name,
					names[0], doc)
			}
			_, what, _ := strings.Cut(doc, " ")
			fmt.Fprintf(&b, "| %s | %s | %s |\n", strings.Join(names, ", "), strings.Join(vals, ", "), what)
		}
		return true
	})
	if os.Getenv("HOLLEN_WRITE_DOCS") != "" {
		if err := os.WriteFile(docs, []byte(b.String()), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	if got, err := os.ReadFile(docs); err != nil || string(got) != b.String() {
		t.Errorf("docs/house-rules.md is not what the rules say (%v); run with HOLLEN_WRITE_DOCS=1", err)
	}
}
