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

// Every rule has a doc line with its source, a value, and its row in docs/house-rules.md.
// Run with HOLLEN_WRITE_DOCS=1 to write the file anew.
func TestRulesAreDocumented(t *testing.T) {
	file, err := parser.ParseFile(token.NewFileSet(), "rules.go", nil, parser.ParseComments)
	if err != nil {
		t.Fatal(err)
	}
	values := reflect.ValueOf(Default())
	groups := map[string]string{}
	for i := range values.NumField() {
		groups[values.Type().Field(i).Type.Name()] = values.Type().Field(i).Name
	}
	var b strings.Builder
	b.WriteString("# House rules\n\nStarting values that no table settles. They stand in `internal/core/rules`; this " +
		"page is made from their " +
		"doc lines\n(`HOLLEN_WRITE_DOCS=1 go test ./internal/core/rules`).\n")
	ast.Inspect(file, func(n ast.Node) bool {
		spec, ok := n.(*ast.TypeSpec)
		if !ok || groups[spec.Name.Name] == "" {
			return true
		}
		group := values.FieldByName(groups[spec.Name.Name])
		fmt.Fprintf(&b, "\n## %s\n\n| rule | value | what it is |\n| --- | --- | --- |\n", spec.Name.Name)
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
