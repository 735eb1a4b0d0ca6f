package order

import (
	"slices"
	"strings"
	"unicode"

	"hollen/internal/core/filling"
	"hollen/internal/core/measure"
)

// Mark is what an order is to be without. An allergy and a wish are two marks: both are shown in red wherever the order
// stands.
type Mark struct {
	Of      string // as a label names it: egg, milk, wheat, nuts …
	Allergy bool
}

// Words say the mark: "allergy: nuts", "no egg".
func (m Mark) Words() string {
	if m.Allergy {
		return "allergy: " + m.Of
	}
	return "no " + m.Of
}

// The words of six languages by which an order rules something out; a * at the end begins a word, at the beginning ends
// one.
const (
	withoutWords = "no without senza ohne keine kein sans sin minus bina बिना niente"
	freeWords    = "free frei freie libre libero less"
	allergyWords = "allerg* anaphyla* intoleran* coeliac celiac zoliakie celiac* celiach* cœliaque coeliaque " +
		"एलर्जी unvertraglich* *allergie"
	goOn = ", or and nor oder und e o et ou y to of from auf gegen alle alla agli al ai aux an any all the " +
		"di de du le la i se से"
	veganWords   = "vegan*"
	vegetarian   = "vegetari* veggie"
	milkWords    = "dairy lactose laktose* lattosio latticin* milchprodukt* laitier* lacteo*"
	wheatWords   = "gluten glutine gluten*"
	coeliacWords = "coeliac celiac* celiach* zoliakie cœliaque coeliaque"
)

// animals are what a vegan dish is without.
var animals = []string{filling.Egg, filling.Milk, filling.Fish, filling.Crustaceans, filling.Molluscs}

// Marks are what an order is to be without, by what it says: of what is wanted and of its note. An allergy covers a
// wish
// of the same.
func Marks(texts ...string) (out []Mark) {
	add := func(of []string, allergy bool) {
		for _, x := range of {
			if i := slices.IndexFunc(out, func(m Mark) bool { return m.Of == x }); i >= 0 {
				out[i].Allergy = out[i].Allergy || allergy
			} else {
				out = append(out, Mark{x, allergy})
			}
		}
	}
	for _, text := range texts {
		said := plainWords(text)
		for i, w := range said {
			switch {
			case in(w, veganWords):
				add(animals, false)
			case in(w, vegetarian):
				add(animals[2:], false)
			case in(w, coeliacWords):
				add([]string{filling.Wheat}, true)
			case in(w, allergyWords):
				before := said[max(0, i-2):i]
				if at := slices.Index(before, ","); at >= 0 {
					before = before[at+1:]
				}
				add(ruled(before), true)
				add(ruled(run(said[i+1:])), true)
				add(ruled([]string{w}), true) // Nussallergie
			case in(w, withoutWords):
				add(ruled(run(said[i+1:])), false)
			case in(w, freeWords) && i > 0:
				add(ruled(said[i-1:i]), false)
			case strings.HasSuffix(w, "frei") || strings.HasSuffix(w, "free") || strings.HasSuffix(w, "less"):
				add(ruled([]string{strings.TrimSuffix(strings.TrimSuffix(strings.TrimSuffix(w, "frei"), "free"),
					"less")}), false)
			}
		}
	}
	return out
}

// rulesOut says whether a text rules something out by a word that does so, "no nuts", "allergic to milk", and not by
// its kind alone, as a name may: "the Vegan Corner".
func rulesOut(text string) bool {
	if len(Marks(text)) == 0 {
		return false
	}
	return slices.ContainsFunc(plainWords(text), func(w string) bool {
		return in(w, withoutWords) || in(w, freeWords) || in(w, allergyWords) || in(w, coeliacWords)
	})
}

// run are the words that belong to one that rules out: those that name something, over "or" and "and", until one does
// neither.
func run(words []string) (out []string) {
	named := func(i int) bool { return i < len(words) && len(ruled(words[i:i+1])) > 0 }
	for i, w := range words {
		switch {
		case w == ",": // goes on where a name follows that stands by itself: "no egg, milk", not "no egg, cream sauce"
			if !named(i+1) || i+2 < len(words) && !in(words[i+2], goOn) {
				return out
			}
		case !named(i) && !in(w, goOn):
			return out
		}
		out = append(out, w)
	}
	return out
}

// ruled are what words name, as a label names it.
func ruled(words []string) (out []string) {
	for _, w := range words {
		found := filling.Allergens(w)
		if trimmed := strings.TrimSuffix(w, "allergie"); trimmed != w {
			found = filling.Allergens(strings.TrimSuffix(trimmed, "s"))
			found = append(found, filling.Allergens(trimmed)...)
		}
		switch {
		case in(w, milkWords):
			found = []string{filling.Milk}
		case in(w, wheatWords):
			found = []string{filling.Wheat}
		}
		for _, f := range found {
			if !slices.Contains(out, f) {
				out = append(out, f)
			}
		}
	}
	return out
}

// in says whether a word is among those of a list.
func in(w, list string) bool {
	for _, x := range strings.Fields(list) {
		head, begins := strings.CutSuffix(x, "*")
		tail, ends := strings.CutPrefix(x, "*")
		if w == x || begins && strings.HasPrefix(w, head) || ends && strings.HasSuffix(w, tail) && w != tail {
			return true
		}
	}
	return false
}

// plainWords are the words of a text, and a comma where one part of it ends.
func plainWords(text string) []string {
	text = strings.NewReplacer(",", " , ", ";", " , ", ".", " , ", "!", " , ").Replace(text)
	return strings.FieldsFunc(measure.Plain(text), func(r rune) bool {
		return r != ',' && !unicode.IsLetter(r) && !unicode.Is(unicode.M, r)
	})
}

// MarksWords say marks in one line: "allergy: nuts; no egg"; "" of none.
func MarksWords(all []Mark) string {
	var out []string
	for _, m := range all {
		if m.Allergy {
			out = append(out, m.Words())
		}
	}
	for _, m := range all {
		if !m.Allergy {
			out = append(out, m.Words())
		}
	}
	return strings.Join(out, "; ")
}

// Holds is what something that is made contains, as far as it is known.
type Holds struct {
	In      []string // as its label names them
	May     []string // that may have come to it
	Unknown bool     // of a filling it was never said, or never held against the packs: it counts as containing
}

// With is what is made of both contains.
func (h Holds) With(other Holds) Holds {
	both := Holds{In: slices.Clone(h.In), May: slices.Clone(h.May), Unknown: h.Unknown || other.Unknown}
	for _, x := range other.In {
		if !slices.Contains(both.In, x) {
			both.In = append(both.In, x)
		}
	}
	for _, x := range other.May {
		if !slices.Contains(both.May, x) {
			both.May = append(both.May, x)
		}
	}
	return both
}

// Against are the marks of an order that what is made goes against, and how: "contains egg", "may contain nuts", "its
// filling may contain milk: nobody has said". None where nothing does.
func (h Holds) Against(marks []Mark) (out []string) {
	for _, m := range marks {
		switch {
		case holds(h.In, m.Of):
			out = append(out, m.Words()+", and it contains "+m.Of)
		case holds(h.May, m.Of):
			out = append(out, m.Words()+", and it may contain "+m.Of)
		case h.Unknown:
			out = append(out, m.Words()+", and whether its filling holds "+m.Of+" was never said for sure")
		}
	}
	return out
}

func holds(list []string, of string) bool {
	return slices.ContainsFunc(list, func(x string) bool {
		return strings.EqualFold(x, of) || slices.Contains(filling.Allergens(x), of)
	})
}

// Notice is what must not be passed over of an order: its allergies in capitals, then its note or what it is to be
// without; "" where there is neither.
func Notice(what, note string) string {
	marks := Marks(what, note)
	var allergies, wishes []string
	for _, m := range marks {
		if m.Allergy {
			allergies = append(allergies, m.Of)
		} else {
			wishes = append(wishes, m.Words())
		}
	}
	said := note
	if said == "" {
		said = strings.Join(wishes, "; ")
	}
	if len(allergies) == 0 {
		return said
	}
	return strings.TrimSuffix("ALLERGY: "+strings.Join(allergies, ", ")+". "+said, ". ")
}
