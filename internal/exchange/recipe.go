package exchange

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"unicode/utf8"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/rules"
)

// Recipe is a recipe of another program: its name and its ingredients, a line each.
type Recipe struct {
	Name  string
	Lines []string
}

// requestType is the media type under which a recipe carries the request it was made from.
const requestType = "application/vnd.hollen-request+json"

// recipeLD is a schema.org Recipe.
type recipeLD struct {
	Context      string    `json:"@context"`
	Type         string    `json:"@type"`
	Name         string    `json:"name"`
	Description  string    `json:"description"`
	Date         string    `json:"datePublished,omitempty"`
	Category     string    `json:"recipeCategory"`
	Yield        string    `json:"recipeYield"`
	PrepTime     string    `json:"prepTime"`
	CookTime     string    `json:"cookTime"`
	TotalTime    string    `json:"totalTime"`
	Ingredients  []string  `json:"recipeIngredient"`
	Instructions []howTo   `json:"recipeInstructions"`
	Nutrition    nutrition `json:"nutrition"`
	Parts        []carrier `json:"hasPart"`
}

type howTo struct {
	Type string `json:"@type"`
	Name string `json:"name"`
	Text string `json:"text"`
}

type nutrition struct {
	Type     string `json:"@type"`
	Serving  string `json:"servingSize"`
	Calories string `json:"calories"`
}

type carrier struct {
	Type     string `json:"@type"`
	Encoding string `json:"encodingFormat"`
	Text     string `json:"text"`
}

// RecipeOf returns a plan as a schema.org Recipe that carries its request.
func RecipeOf(p *plan.Plan) (any, error) {
	var req bytes.Buffer
	if err := Write(&req, p.Request); err != nil {
		return nil, err
	}
	r := recipeLD{Context: "https://schema.org", Type: "Recipe", Name: p.Request.Name, Date: p.Request.MadeOn,
		Category: "Fresh pasta",
		Description: fmt.Sprintf("%s. Contains %s.", p.Cut.Shape.Sized(p.In()), strings.Join(p.Formula.Allergens,
			", ")),
		Yield: fmt.Sprintf("%.0f portions", math.Max(1, math.Floor(p.Formula.Portions+.05))),
		Nutrition: nutrition{"NutritionInformation", "100 g of raw dough", fmt.Sprintf("%.0f kcal",
			p.Formula.Dough.KcalPer100G)},
		Parts: []carrier{{"CreativeWork", requestType, req.String()}}}
	for _, x := range p.ToWeigh() {
		if x.Line != "" {
			r.Ingredients = append(r.Ingredients, x.Line)
		}
	}
	minutes := 0.
	for _, x := range p.Card() {
		text := x.Text
		if x.Min >= 1 {
			text = strings.TrimSpace(measure.Minutes(x.Min) + ". " + text)
		}
		if x.Test != "" && !strings.Contains(text, x.Test) {
			text += " " + x.Test
		}
		r.Instructions = append(r.Instructions, howTo{"HowToStep", x.Head, text})
		minutes = math.Max(minutes, x.FromMin+x.Min-p.BeginMin())
	}
	span := func(m float64) string { return fmt.Sprintf("PT%.0fM", math.Max(1, math.Round(m))) }
	r.PrepTime = span(minutes)
	r.CookTime = span(p.PotS() / 60)
	r.TotalTime = span(minutes + p.PotS()/60)
	return r, nil
}

// Most a recipe from elsewhere may hold.
const (
	maxLines = 60
	maxLine  = 200 // letters
)

// recipes reads the first recipe of a JSON-LD document: one object, a list, or a graph.
func recipes(ru rules.Rules, raw []byte) (Found, error) {
	var doc any
	if err := json.Unmarshal(raw, &doc); err != nil {
		return Found{}, place(raw, err)
	}
	o := firstRecipe(doc, 0)
	if o == nil {
		return Found{}, PlaceError{Text: "there is no schema.org Recipe in it"}
	}
	if text := carried(o); text != "" {
		if err := shallow([]byte(text)); err != nil {
			return Found{}, err
		}
		return of(readRequest(ru, []byte(text)))
	}
	r := &Recipe{Name: cutTo(textOf(o["name"]), 80)}
	lines := o["recipeIngredient"]
	if lines == nil {
		lines = o["ingredients"]
	}
	switch v := lines.(type) {
	case string:
		r.Lines = strings.Split(v, "\n")
	case []any:
		for i, x := range v {
			s, ok := x.(string)
			if !ok {
				return Found{}, PlaceError{Text: fmt.Sprintf("recipeIngredient.%d: a text belongs here", i)}
			}
			r.Lines = append(r.Lines, s)
		}
	}
	var kept []string
	for _, l := range r.Lines {
		if l = strings.Join(strings.Fields(l), " "); l != "" {
			kept = append(kept, cutTo(l, maxLine))
		}
	}
	if r.Lines = kept; len(kept) == 0 || len(kept) > maxLines {
		return Found{}, PlaceError{Text: fmt.Sprintf("the recipe lists %d ingredients; 1 to %d are read", len(kept),
			maxLines)}
	}
	return Found{Recipe: r}, nil
}

// firstRecipe returns the first object of type Recipe.
func firstRecipe(v any, depth int) map[string]any {
	if depth > 4 {
		return nil
	}
	switch v := v.(type) {
	case []any:
		for _, x := range v {
			if o := firstRecipe(x, depth+1); o != nil {
				return o
			}
		}
	case map[string]any:
		switch t := v["@type"].(type) {
		case string:
			if t == "Recipe" {
				return v
			}
		case []any:
			for _, x := range t {
				if x == "Recipe" {
					return v
				}
			}
		}
		return firstRecipe(v["@graph"], depth+1)
	}
	return nil
}

// carried returns the request a recipe of Hollen's carries, "" when it carries none.
func carried(o map[string]any) string {
	parts, _ := o["hasPart"].([]any)
	for _, p := range parts {
		if w, ok := p.(map[string]any); ok && w["encodingFormat"] == requestType {
			return textOf(w["text"])
		}
	}
	return ""
}

func textOf(v any) string {
	s, _ := v.(string)
	return strings.ToValidUTF8(s, "")
}

func cutTo(s string, letters int) string {
	if utf8.RuneCountInString(s) > letters {
		return string([]rune(s)[:letters])
	}
	return s
}
