package order

import (
	"strings"
	"unicode"

	"hollen/internal/core/measure"
)

// Fold is a name as names are told apart: in small letters, without marks and points, without the last s of each word.
func Fold(name string) string {
	words := strings.FieldsFunc(measure.Plain(name), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r) && !unicode.Is(unicode.M, r)
	})
	for i, w := range words {
		if len(w) > 2 {
			words[i] = strings.TrimSuffix(w, "s")
		}
	}
	return strings.Join(words, " ")
}

// keeping are the words by which an order asks for what is dried or frozen, folded: by where it is kept.
var keeping = map[string]string{"freezer": "frozen gefroren tiefgekuhlt gefrostet surgelato surgelata surgelati " +
	"surgelate " +
	"congelato congelata congelati congelate surgele surgelee congelado congelada",
	"shelf": "dried dry getrocknet trocken secco secca secchi secche essiccato sec seche seco seca"}

// Keeping is how an order says that what it wants is kept, "freezer" or "shelf", and its words without that; "" where
// it says nothing of it.
func Keeping(folded string) (place, rest string) {
	var out []string
	for _, w := range strings.Fields(folded) {
		of := ""
		for p, words := range keeping {
			for _, k := range strings.Fields(words) {
				if strings.TrimSuffix(k, "s") == w {
					of = p
				}
			}
		}
		if of == "" {
			out = append(out, w)
		} else {
			place = of
		}
	}
	if len(out) == 0 {
		return "", folded
	}
	return place, strings.Join(out, " ")
}

// endings are those by which names of shapes differ, however alike they look: tortellini are no tortelloni.
var endings = []string{"ini", "oni", "elli", "ello", "acci", "ine", "one", "elle", "ette", "etti"}

// OtherShape says whether two folded names end in two of the endings by which shapes differ.
func OtherShape(a, b string) bool {
	of := func(name string) string {
		for _, e := range endings {
			if strings.HasSuffix(name, e) {
				return e
			}
		}
		return ""
	}
	x, y := of(a), of(b)
	return x != "" && y != "" && x != y
}
