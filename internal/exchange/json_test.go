package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"os"
	"reflect"
	"regexp"
	"strings"
	"testing"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
)

func TestRoundTrip(t *testing.T) {
	for _, r := range append(demo.Batches(), request.Default()) {
		var b bytes.Buffer
		if err := Write(&b, r); err != nil {
			t.Fatal(err)
		}
		back, err := ReadRequest(rules.Default(), &b)
		if err != nil || len(request.Changes(r, back)) > 0 {
			t.Errorf("%s comes back with %v, %v", r.Name, request.Changes(r, back), err)
		}
	}
}

func TestReadNamesThePlace(t *testing.T) {
	for doc, want := range map[string]string{
		"":                               "the document is empty",
		"{\n  \"room\": {\"rh\": .5}\n}": "line 2, column 18: invalid character '.'",
		"{\"room\": {\"rh\": \"damp\"}}": "room.rh: a string stands where a number belongs",
		"{\n\n  \"rooms\": {}}":          "line 3, column 3: unknown field \"rooms\"",
		"{\"room\": {\"rh\": 1e999}}":    "room.rh",
		"{\"amount\":":                   "the document ends in the middle",
		"{} {}":                          "line 1, column 4: only one document",
		"[]":                             "an array stands where an object belongs",
		"{\"room\": {\"rh\": 1.4, \"temp_c\": 22, \"air\": \"still\"}}": "room.rh: “1.4” is not allowed here; 0.05 " +
			"to 0.99 (a share) is allowed",
		"{\"flours\": []}":                   "1 to 5 flours are allowed",
		"{\"format\": \"hollen-request/9\"}": "only hollen-request/1 is",
		"null":                               "", // the same as an empty object: everything as usual
	} {
		_, err := ReadRequest(rules.Default(), strings.NewReader(doc))
		if want == "" {
			if err != nil {
				t.Errorf("%q: %v", doc, err)
			}
			continue
		}
		if err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %v, want %q", doc, err, want)
		}
	}
	var place PlaceError
	if _, err := ReadRequest(rules.Default(), strings.NewReader(strings.Repeat(" ", MaxBytes+1))); !errors.As(err,
		&place) {
		t.Errorf("too large: %v", err)
	}
}

func TestWriteShortensNumbersOnly(t *testing.T) {
	var b bytes.Buffer
	in := map[string]any{"a": 1.0 / 3, "b": "0.123456789 \"1e-9\" \\", "c": 1e-12, "d": -2.5, "e": 1200000.0, "f": 7}
	if err := Write(&b, in); err != nil {
		t.Fatal(err)
	}
	var back map[string]any
	if err := json.Unmarshal(b.Bytes(), &back); err != nil {
		t.Fatal(err)
	}
	want := map[string]any{"a": .333333, "b": in["b"], "c": 0., "d": -2.5, "e": 1200000., "f": 7.}
	if !reflect.DeepEqual(back, want) {
		t.Errorf("%v, want %v", back, want)
	}
}

// Every field of the request and the plan is described in docs/formats.md, and the example
// there is what --example prints.
func TestFormatsAreDescribed(t *testing.T) {
	raw, err := os.ReadFile("../../docs/formats.md")
	if err != nil {
		t.Fatal(err)
	}
	doc := string(raw)
	p, err := plan.Make(rules.Default(), request.Default())
	if err != nil {
		t.Fatal(err)
	}
	var b bytes.Buffer
	if err := Write(&b, p); err != nil {
		t.Fatal(err)
	}
	body, _, _ := strings.Cut(b.String(), `"why": {`)
	for _, m := range regexp.MustCompile(`"([a-z0-9_]+)":`).FindAllStringSubmatch(body, -1) {
		if !strings.Contains(doc, "`"+m[1]+"`") {
			t.Errorf("docs/formats.md does not describe %q", m[1])
		}
	}
	for _, f := range request.Fields() {
		for _, o := range f.Options {
			if !strings.Contains(doc, "`"+o.Key+"`") && o.Key != "" {
				t.Errorf("docs/formats.md does not say that %s may be %q", f.Path, o.Key)
			}
		}
	}
	b.Reset()
	if err := Write(&b, request.Default()); err != nil {
		t.Fatal(err)
	}
	if !strings.Contains(doc, b.String()) {
		t.Errorf("docs/formats.md does not hold the example request:\n%s", b.String())
	}
}

func FuzzReadRequest(f *testing.F) {
	var b bytes.Buffer
	if err := Write(&b, request.Default()); err != nil {
		f.Fatal(err)
	}
	f.Add(b.Bytes())
	f.Add([]byte(`{"flours":[{"flour":"soft-00","share":1}]}`))
	f.Add([]byte(`{"cut":{"shape":"","width_mm":-1}}`))
	f.Fuzz(func(t *testing.T, doc []byte) {
		r, err := ReadRequest(rules.Default(), bytes.NewReader(doc))
		if err != nil {
			if err.Error() == "" {
				t.Fatal("an error without words")
			}
			return
		}
		if _, err := plan.Make(rules.Default(), r); err != nil {
			t.Fatalf("a request that was read is not made: %v", err)
		}
	})
}
