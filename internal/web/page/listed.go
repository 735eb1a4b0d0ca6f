package page

import (
	"html/template"
	"strings"

	"hollen/internal/core/plan"
)

// Listed are ingredients as a label lists them, what is an allergen in bold; what something is made of stands in
// brackets after it.
func Listed(all []plan.Ingredient) template.HTML {
	var out []string
	for _, x := range all {
		text := boldAllergen(x)
		if len(x.Of) > 0 {
			text += " (" + string(Listed(x.Of)) + ")"
		}
		out = append(out, text)
	}
	return template.HTML(strings.Join(out, ", "))
}

// boldAllergen sets the allergen off in an ingredient: within its name where it stands there, in
// brackets after it otherwise.
func boldAllergen(x plan.Ingredient) string {
	if x.Allergen == "" {
		return Esc(x.Name)
	}
	if i := strings.Index(strings.ToLower(x.Name), strings.ToLower(x.Allergen)); i >= 0 &&
		len(strings.ToLower(x.Name)) == len(x.Name) {
		return Esc(x.Name[:i]) + "<b>" + Esc(x.Name[i:i+len(x.Allergen)]) + "</b>" + Esc(x.Name[i+len(x.Allergen):])
	}
	return Esc(x.Name) + " (<b>" + Esc(x.Allergen) + "</b>)"
}
