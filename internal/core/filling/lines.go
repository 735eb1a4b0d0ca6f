package filling

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"hollen/internal/core/cost"
	"hollen/internal/core/measure"
)

// ReadLines reads lines as they are typed, one thing to a line: its name with how much of it, and after semicolons what
// the maker says of it: its allergens or "none", what a kilo costs, what 100 g hold.
//
//	500 g ricotta
//	80 g hard cheese; milk, egg; 18.50 a kg
//	120 g smoked curd; per 100 g 21 fat, 3 carbohydrate, 14 protein, 1.2 salt
//
// The error names the line and says what is allowed.
func ReadLines(text string) (out []Line, err error) {
	n := 0
	for typed := range strings.Lines(text) {
		n++
		if strings.TrimSpace(typed) == "" {
			continue
		}
		l, err := readLine(typed)
		if err != nil {
			return nil, fmt.Errorf("line %d, “%s”: %v", n, shortened(strings.TrimSpace(typed)), err)
		}
		if out = append(out, l); len(out) > MostLines {
			return nil, fmt.Errorf("at most %d lines are allowed", MostLines)
		}
	}
	return out, nil
}

// amount is a mass at the beginning of a line or, after a name, at its end.
var amount = regexp.MustCompile(`(?i)^((?:[\d.,'’\s/½¼¾⅓⅔]|half a|a half)+(?:kilo(?:gram)?s?|kg|grams?|gr|g|` +
	`pounds?|lbs?|ounces?|oz)\b\.?` +
	`(?:\s*\d+(?:[.,]\d+)?\s*(?:ounces?|oz|g)\b)?)\s*(?:of\s+)?(.+)$`)

func readLine(typed string) (l Line, err error) {
	said := strings.Split(typed, ";")
	if l.G, l.Name, err = readAmount(strings.Join(strings.Fields(said[0]), " ")); err != nil {
		return l, err
	}
	for _, part := range said[1:] {
		if part = strings.Join(strings.Fields(part), " "); part == "" {
			continue
		}
		if err := l.take(part); err != nil {
			return l, err
		}
	}
	return l, l.check()
}

// readAmount parts how much a line says from what it is of.
func readAmount(text string) (g float64, name string, err error) {
	if m := amount.FindStringSubmatch(text); m != nil {
		if g, ok := measure.ParseMass(strings.TrimSpace(m[1])); ok {
			return g, m[2], nil
		}
	}
	words := strings.FieldsFunc(text, func(r rune) bool { return r == ' ' || r == ',' })
	for k := min(4, len(words)-1); k > 0; k-- { // the longest end that is a mass: "ricotta 1 lb 2 oz"
		tail := strings.Join(words[len(words)-k:], " ")
		if g, ok := measure.ParseMass(tail); ok && strings.ContainsAny(tail, "kgzbKGZB") {
			at := strings.LastIndex(text, words[len(words)-k])
			return g, strings.TrimRight(text[:at], " ,:–-"), nil
		}
	}
	return 0, "", fmt.Errorf("say how much in g, kg, oz or lb, as in “500 g ricotta”")
}

var (
	price = regexp.MustCompile(`(?i)^(.*\d.*?)\s*(?:/|a|per|the)\s*(kg|kilo|lb|pound)$`)
	per   = regexp.MustCompile(`(?i)^per 100 g:?\s*(.+)$`)
	part  = regexp.MustCompile(`(?i)^([\d.,]+)\s*(?:g\s+)?(?:of\s+)?(fat|carbohydrates?|carbs?|protein|salt)$|^` +
		`(fat|carbohydrates?|carbs?|protein|salt)\s*([\d.,]+)(?:\s*g)?$`)
)

// take reads one thing a maker says of a line: what a kilo costs, what 100 g hold, or its allergens.
func (l *Line) take(said string) error {
	if m := per.FindStringSubmatch(said); m != nil {
		food, err := readFood(m[1])
		l.Food = food
		return err
	}
	if m := price.FindStringSubmatch(said); m != nil {
		money, err := cost.Parse(m[1])
		if err == nil && strings.HasPrefix(strings.ToLower(m[2]), "kg") || strings.EqualFold(m[2], "kilo") {
			l.PricePerKG = money
			return err
		}
		l.PricePerKG = money.Times(1 / .45359237)
		return err
	}
	if strings.ContainsAny(said, "0123456789") {
		return fmt.Errorf("“%s” is not understood; after a semicolon stand allergens or “none”, a price as “7.80 a "+
			"kg”, or “per 100 g 11 fat, 3.5 carbohydrate, 9 protein, 0.3 salt”", shortened(said))
	}
	if l.Contains != "" {
		l.Contains += ", "
	}
	l.Contains += said
	return nil
}

// readFood reads what 100 g hold: all of fat, carbohydrate, protein and salt, in any order.
func readFood(text string) (*Food, error) {
	var f Food
	at := map[string]*float64{"fat": &f.Fat, "car": &f.Carb, "pro": &f.Protein, "sal": &f.Salt}
	for item := range strings.SplitSeq(text, ", ") {
		m := part.FindStringSubmatch(strings.TrimSpace(strings.TrimSuffix(item, ".")))
		if m == nil {
			return nil, fmt.Errorf("“%s” is not understood; per 100 g stand fat, carbohydrate, protein and salt",
				shortened(item))
		}
		number, of := m[1]+m[4], strings.ToLower(m[2]+m[3])
		v, ok := measure.ParseNumber(number)
		if at[of[:3]] == nil || !ok {
			return nil, fmt.Errorf("“%s” is said twice, or is no number", shortened(item))
		}
		*at[of[:3]] = v
		delete(at, of[:3])
	}
	if len(at) > 0 {
		return nil, fmt.Errorf("per 100 g say all of fat, carbohydrate, protein and salt, also what is 0")
	}
	return &f, nil
}

// Text is the line as ReadLines reads it.
func (l Line) Text() string {
	number := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	out := number(l.G) + " g " + l.Name
	if l.Contains != "" {
		out += "; " + l.Contains
	}
	if l.PricePerKG > 0 {
		out += "; " + l.PricePerKG.String() + " a kg"
	}
	if f := l.Food; f != nil {
		out += fmt.Sprintf("; per 100 g %s fat, %s carbohydrate, %s protein, %s salt", number(f.Fat), number(f.Carb),
			number(f.Protein), number(f.Salt))
	}
	return out
}

// Text is the lines of a filling as ReadLines reads them.
func (f *Filling) Text() string {
	var out []string
	for _, l := range f.Lines {
		out = append(out, l.Text())
	}
	return strings.Join(out, "\n")
}

// shortened is a text as an error repeats it.
func shortened(s string) string {
	if r := []rune(s); len(r) > 40 {
		return string(r[:39]) + "…"
	}
	return s
}
