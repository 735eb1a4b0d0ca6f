// Package exchange reads and writes Hollen's open formats. docs/formats.md describes them.
package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// MaxBytes is the largest document read, bytes.
const MaxBytes = 1 << 20

// PlaceError is a document that cannot be read, and where.
type PlaceError struct {
	Line, Column int
	Text         string
}

func (e PlaceError) Error() string {
	if e.Line == 0 {
		return e.Text
	}
	return fmt.Sprintf("line %d, column %d: %s", e.Line, e.Column, e.Text)
}

// ReadRequest reads one request as JSON and checks it. A document that is not one gives a
// PlaceError with the place; values that are not allowed give joined errors, each naming
// its path and what is allowed. Fields left out keep the value of plan.Default, except that
// the flours are as given; unknown fields are refused.
func ReadRequest(ru rules.Rules, r io.Reader) (request.Request, error) {
	raw, err := readAll(r)
	if err != nil {
		return request.Request{}, err
	}
	return readRequest(ru, raw)
}

// ReadPlanned reads what is to be planned: a request, with nothing learned, or a plan’s document, whose request and
// what was learned make it again
// to the digit.
func ReadPlanned(ru rules.Rules, r io.Reader) (req request.Request, learned rules.Learned, err error) {
	raw, err := readAll(r)
	if err != nil {
		return req, learned, err
	}
	var doc struct {
		Format  string            `json:"format"`
		Request json.RawMessage   `json:"request"`
		Learned *rules.LearnedDoc `json:"learned"`
	}
	if json.Unmarshal(raw, &doc) != nil || doc.Format != plan.Format {
		req, err = readRequest(ru, raw)
		return req, learned, err
	}
	learned = doc.Learned.Learned()
	if err := soundLearned(learned); err != nil {
		return req, rules.Learned{}, err
	}
	req, err = readRequest(ru, doc.Request)
	return req, learned, err
}

// readAll reads a document of at most MaxBytes.
func readAll(r io.Reader) ([]byte, error) {
	raw, err := io.ReadAll(io.LimitReader(r, MaxBytes+1))
	if err == nil && len(raw) > MaxBytes {
		err = PlaceError{Text: fmt.Sprintf("the document is larger than %d bytes", MaxBytes)}
	}
	return raw, err
}

// readRequest reads a request from a whole document.
func readRequest(ru rules.Rules, raw []byte) (request.Request, error) {
	req := request.Default()
	if err := decode(raw, &req); err != nil {
		return request.Request{}, err
	}
	req.DriesNow()
	if err := req.Check(ru); err != nil {
		return request.Request{}, err
	}
	return req, nil
}

// readBegun is readRequest of a making, which keeps how it dried when it was begun.
func readBegun(ru rules.Rules, raw []byte) (request.Request, error) {
	req := request.Default()
	if err := decode(raw, &req); err != nil {
		return request.Request{}, err
	}
	req.DriesAsBefore(raw)
	return req, req.Check(ru)
}

// decode reads one JSON value into v; unknown fields and anything after it are refused.
func decode(raw []byte, v any) error {
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.DisallowUnknownFields()
	if err := dec.Decode(v); err != nil {
		return place(raw, err)
	}
	if rest := bytes.TrimLeft(raw[dec.InputOffset():], " \t\r\n"); len(rest) > 0 {
		return at(raw, int64(len(raw)-len(rest)), "only one document a file; this follows it")
	}
	return nil
}

// place turns an error of encoding/json into one that names the place.
func place(raw []byte, err error) error {
	var syntax *json.SyntaxError
	var kind *json.UnmarshalTypeError
	switch {
	case errors.As(err, &syntax) && (strings.HasPrefix(syntax.Error(), "unexpected end") ||
		// cut off inside null, true or false
		syntax.Offset >= int64(len(raw)) && strings.Contains(syntax.Error(), "' ' in literal")):
		return at(raw, int64(len(raw)), "the document ends in the middle")
	case errors.As(err, &syntax) && strings.HasSuffix(syntax.Error(), "after top-level value"):
		return at(raw, syntax.Offset-1, "only one document a file; this follows it")
	case errors.As(err, &syntax):
		return at(raw, syntax.Offset-1, strings.TrimPrefix(syntax.Error(), "json: "))
	case errors.As(err, &kind):
		return at(
			raw,
			kind.Offset-1,
			fmt.Sprintf(
				"%s: %s stands where %s belongs",
				kind.Field,
				article(kind.Value),
				article(word(kind.Type.Kind().String())),
			),
		)
	case errors.Is(err, io.EOF):
		return PlaceError{Text: "the document is empty"}
	case errors.Is(err, io.ErrUnexpectedEOF):
		return at(raw, int64(len(raw)), "the document ends in the middle")
	}
	text := strings.TrimPrefix(err.Error(), "json: ")
	if name, ok := strings.CutPrefix(text, "unknown field "); ok {
		return at(raw, max(0, int64(bytes.Index(raw, []byte(name)))), "unknown field "+name)
	}
	return PlaceError{Text: text}
}

// word turns a Go kind into what a JSON author calls it.
func word(kind string) string {
	switch kind {
	case "float64", "int":
		return "number"
	case "struct", "map":
		return "object"
	case "slice":
		return "list"
	case "bool":
		return "true or false"
	}
	return kind
}

// at returns a PlaceError at a byte offset of raw.
func at(raw []byte, offset int64, text string) PlaceError {
	offset = min(max(offset, 0), int64(len(raw)))
	before := raw[:offset]
	line := 1 + bytes.Count(before, []byte("\n"))
	return PlaceError{line, len([]rune(string(before[bytes.LastIndexByte(before, '\n')+1:]))) + 1, text}
}

// Write writes a request or a plan as indented JSON, numbers to six decimals.
func Write(w io.Writer, v any) error {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	e.SetIndent("", "  ")
	if err := e.Encode(v); err != nil {
		return err
	}
	_, err := w.Write(short(b.Bytes()))
	return err
}

// short rounds every number of a JSON document to six decimals, leaving strings alone.
func short(doc []byte) []byte {
	out := make([]byte, 0, len(doc))
	inString := false
	for i := 0; i < len(doc); i++ {
		c := doc[i]
		switch {
		case inString && c == '\\':
			out = append(out, c)
			i++
			c = doc[i]
		case c == '"':
			inString = !inString
		case !inString && (c == '-' || c >= '0' && c <= '9'):
			end := i
			for end < len(doc) && bytes.IndexByte([]byte("+-.eE0123456789"), doc[end]) >= 0 {
				end++
			}
			out = append(out, number(string(doc[i:end]))...)
			i = end - 1
			continue
		}
		out = append(out, c)
	}
	return out
}

func number(s string) string {
	n, err := strconv.ParseFloat(s, 64)
	if err != nil || !strings.ContainsAny(s, ".eE") {
		return s
	}
	n = math.Round(n*1e6) / 1e6
	if n == 0 {
		return "0"
	}
	return strconv.FormatFloat(n, 'f', -1, 64)
}

// article puts a or an before a word.
func article(word string) string {
	if word != "" && strings.ContainsRune("aeio", rune(word[0])) {
		return "an " + word
	}
	return "a " + word
}
