package exchange

import (
	"bytes"
	"encoding/json"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// Found is what a document turned out to hold: one of the six.
type Found struct {
	Log     []*Making        // the makings of a log
	Making  *Making          // one making
	Request *request.Request // of a request, a plan, a drawing or a recipe Hollen wrote
	Cabinet *Cabinet         // flours, eggs, additions, machines and shapes
	Recipes []KeptRecipe     // that a kitchen keeps
	Recipe  *Recipe          // of another program
}

// MaxDepth is how deep a document may nest.
const MaxDepth = 40

// olderPlans are the plans before shapes came in families and before the list of steps; the request
// in them is read all the same.
var olderPlans = []string{"hollen-plan/1", "hollen-plan/2"}

// Read reads any document Hollen writes, and recipes in schema.org's JSON-LD from elsewhere. It
// goes by what is in the document, not by its name. Errors say what is wrong and where.
func Read(ru rules.Rules, r io.Reader) (Found, error) {
	raw, err := readAll(r)
	if err != nil {
		return Found{}, err
	}
	raw = bytes.TrimSpace(bytes.TrimPrefix(raw, []byte("\xef\xbb\xbf")))
	switch {
	case len(raw) == 0:
		return Found{}, PlaceError{Text: "the document is empty"}
	case raw[0] == '<':
		return drawing(ru, raw)
	}
	if err := shallow(raw); err != nil {
		return Found{}, err
	}
	var head struct {
		Format  string          `json:"format"`
		Request json.RawMessage `json:"request"`
		Context any             `json:"@context"`
		Type    any             `json:"@type"`
		Graph   any             `json:"@graph"`
	}
	if raw[0] == '[' {
		return recipes(ru, raw)
	}
	if err := json.Unmarshal(raw, &head); err != nil {
		return Found{}, place(raw, err)
	}
	switch {
	case head.Format == request.Format:
		return of(readRequest(ru, raw))
	case head.Format == plan.Format, slices.Contains(olderPlans, head.Format):
		if len(head.Request) == 0 {
			return Found{}, PlaceError{Text: "the plan holds no request"}
		}
		return of(readRequest(ru, head.Request))
	case head.Format == MakingFormat:
		m, err := readMaking(ru, raw)
		return Found{Making: m}, err
	case head.Format == LogFormat:
		all, err := readLog(ru, raw)
		return Found{Log: all}, err
	case head.Format == oldLog:
		return Found{}, PlaceError{Text: "a log of the first version holds figures and no makings; hand it out anew " +
			"where it was made"}
	case head.Format == CabinetFormat:
		c, err := readCabinet(raw)
		return Found{Cabinet: c}, err
	case head.Format == RecipesFormat:
		all, err := readRecipes(ru, raw)
		return Found{Recipes: all}, err
	case head.Format != "":
		return Found{}, PlaceError{Text: fmt.Sprintf("format %.40q is not known; %s, %s, %s, %s, %s and %s are",
			head.Format, request.Format, plan.Format, MakingFormat, LogFormat, CabinetFormat, RecipesFormat)}
	case head.Context != nil, head.Type != nil, head.Graph != nil:
		return recipes(ru, raw)
	}
	return Found{}, PlaceError{Text: "it names no format; " + request.Format + ", " + plan.Format + ", " +
		CabinetFormat + " or a schema.org Recipe is read"}
}

func of(r request.Request, err error) (Found, error) {
	if err != nil {
		return Found{}, err
	}
	return Found{Request: &r}, nil
}

// shallow refuses JSON that nests deeper than MaxDepth, before anything reads it whole.
func shallow(raw []byte) error {
	depth, inString := 0, false
	for i := 0; i < len(raw); i++ {
		switch c := raw[i]; {
		case inString && c == '\\':
			i++
		case c == '"':
			inString = !inString
		case inString:
		case c == '{' || c == '[':
			if depth++; depth > MaxDepth {
				return at(raw, int64(i), fmt.Sprintf("it nests deeper than %d", MaxDepth))
			}
		case c == '}' || c == ']':
			depth--
		}
	}
	return nil
}

// drawing reads the request in the metadata of a drawing.
func drawing(ru rules.Rules, raw []byte) (Found, error) {
	d := xml.NewDecoder(bytes.NewReader(raw))
	d.Strict = true
	var meta strings.Builder
	depth, in := 0, false
	for {
		t, err := d.Token()
		if err == io.EOF {
			break
		}
		var syntax *xml.SyntaxError
		if errors.As(err, &syntax) {
			return Found{}, PlaceError{Line: syntax.Line, Column: 1, Text: "this is no drawing that can be read: " +
				syntax.Msg}
		} else if err != nil {
			return Found{}, PlaceError{Text: "this is no drawing that can be read: " + err.Error()}
		}
		switch t := t.(type) {
		case xml.StartElement:
			if depth++; depth > MaxDepth {
				return Found{}, PlaceError{Text: fmt.Sprintf("it nests deeper than %d", MaxDepth)}
			}
			if depth == 1 && t.Name.Local != "svg" {
				return Found{}, PlaceError{Text: "of drawings only SVG is read"}
			}
			in = depth == 2 && t.Name.Local == "metadata"
		case xml.EndElement:
			depth--
			in = false
		case xml.CharData:
			if in {
				meta.Write(t)
			}
		}
	}
	text := strings.TrimSpace(meta.String())
	if text == "" {
		return Found{}, PlaceError{Text: "this drawing does not carry its batch"}
	}
	if err := shallow([]byte(text)); err != nil {
		return Found{}, err
	}
	return of(readRequest(ru, []byte(text)))
}
