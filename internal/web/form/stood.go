package form

import (
	"encoding/json"
	"net/url"

	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// stoodKey names the field in which a page carries the request as it was last worked out, so that a field that
// cannot be read counts as it was last good, saved or not.
const stoodKey = "stood"

// Stood is the request as the page carries it.
func (f *Form) Stood() string {
	doc, err := json.Marshal(f.Request)
	if err != nil {
		return ""
	}
	return string(doc)
}

// LastGood is what posted values are bound to: the request the page was last worked out from, or the saved one
// where it carries none that is allowed.
func LastGood(saved request.Request, v url.Values, ru rules.Rules) request.Request {
	doc := v.Get(stoodKey)
	if doc == "" {
		return saved
	}
	var stood request.Request
	if json.Unmarshal([]byte(doc), &stood) != nil || stood.Check(ru) != nil {
		return saved
	}
	return stood
}

// Waits is one field that is waited for: what it is called, where it stands, what it counts as meanwhile.
type Waits struct {
	Path               string // the field's
	Label, As, Allowed string
	Stage              request.Stage
}

// Waiting lists the fields that cannot be read, in the order of work.
func (f *Form) Waiting() (out []Waits) {
	for _, field := range request.Fields() {
		for _, path := range []string{field.Path, WeightPrefix + field.Path} {
			e, wrong := f.Errors[path]
			if !wrong {
				continue
			}
			w := Waits{Path: field.Path, Label: field.Label, Allowed: e.Allowed, Stage: field.Stage}
			if shown := field.In(f.In); path == field.Path {
				if w.As = shown.Get(&f.Request); w.As != "" && shown.Unit != "" {
					w.As += " " + shown.Unit
				}
				for _, o := range field.Options {
					if o.Key == field.Get(&f.Request) {
						w.As = f.In.Prose(o.Name)
					}
				}
			} else {
				w.As = f.In.Grams(ShareG(field, &f.Request, f.Request.Amount.FlourG))
			}
			out = append(out, w)
		}
	}
	return out
}
