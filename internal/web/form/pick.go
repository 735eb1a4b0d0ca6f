package form

import (
	"fmt"
	"strings"

	"hollen/internal/core/request"
	"hollen/internal/store"
)

// Anew, behind the key of a thing of the workshop's own, takes its figures from the cabinet
// once more.
const Anew = "@now"

// pick puts a thing of the cabinet into a field, as it is now. A batch that holds it already
// keeps the figures it was made with, unless they are asked for anew.
func (f *Form) pick(field request.Field, text string) error {
	key, fresh := strings.CutSuffix(text, Anew)
	if has := field.KeptBy(&f.Page); has != nil && has.Key == key && !fresh {
		return nil
	}
	for _, x := range Offers(f.with.Cabinet, field, &f.Page) {
		if x.Key == key && field.Pick(&f.Page, key, x.Value) {
			if fresh {
				f.Typed[field.Path] = text // the form asks for it until it is saved
			}
			return nil
		}
	}
	return request.FieldError{Path: field.Path, Label: field.Label, Value: text,
		Allowed: "it is not in the cabinet any more, or does not go here; pick another"}
}

// Offers returns what of the cabinet a field may hold: lots only of the flour beside it.
func Offers(cab store.Cabinet, field request.Field, r *request.Request) (out []request.Kept) {
	switch path := field.Group + "." + field.Part; {
	case path == "flours.flour":
		for _, x := range cab.Flours {
			out = append(out, request.Kept{Key: x.Key, Name: x.Name, Value: x})
		}
	case path == "flours.lot":
		for _, x := range cab.Lots {
			if x.Flour == r.Flours[field.Slot].Flour {
				out = append(out, request.Kept{Key: x.Key, Name: x.Name, Value: x.Bare()})
			}
		}
	case path == "additions.addition":
		for _, x := range cab.Additions {
			out = append(out, request.Kept{Key: x.Key, Name: x.Name, Value: x})
		}
	case path == "cut.also.shape", field.Path == "cut.shape":
		for _, x := range cab.Shapes {
			out = append(out, request.Kept{Key: x.Key, Name: x.Set(), Value: x})
		}
	case field.Path == "cut.filling.of":
		for _, x := range cab.Fillings {
			out = append(out, request.Kept{Key: x.Key, Name: x.Name, Value: x})
		}
	case field.Path == "roll.machine":
		for _, x := range cab.Machines {
			out = append(out, request.Kept{Key: x.Key, Name: x.Name, Value: x})
		}
	case path == "eggs.also.class", field.Path == "eggs.class":
		for _, x := range cab.Eggs {
			out = append(out, request.Kept{Key: x.Key, Name: fmt.Sprintf("%s, {%.1f g}", x.Name, x.EdibleG), Value: x})
		}
	}
	return out
}
