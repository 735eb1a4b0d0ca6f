package measure

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// Plural returns "1 egg", "3 eggs".
func Plural(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return Thousands(float64(n)) + " " + many
}

// List returns "a, b and c".
func List(s []string) string {
	if len(s) < 2 {
		return strings.Join(s, "")
	}
	return strings.Join(s[:len(s)-1], ", ") + " and " + s[len(s)-1]
}

// Capital returns s with a capital first letter.
func Capital(s string) string {
	first, n := utf8.DecodeRuneInString(s)
	if n == 0 {
		return s
	}
	return strings.ToUpper(string(first)) + s[n:]
}

// Quote returns what was typed between quotation marks, cut to what an eye takes in.
func Quote(s string) string {
	if utf8.RuneCountInString(s) > 24 {
		s = string([]rune(s)[:24]) + "…"
	}
	return "“" + s + "”"
}

// Lower begins s with a small letter, for the middle of a sentence.
func Lower(s string) string {
	r, n := utf8.DecodeRuneInString(s)
	if n == 0 {
		return s
	}
	return string(unicode.ToLower(r)) + s[n:]
}

// Uncapital returns a sentence as it goes on after a colon: its first letter small, unless a figure or a type of flour
// stands there.
func Uncapital(s string) string {
	first, n := utf8.DecodeRuneInString(s)
	if n == 0 {
		return s
	}
	return strings.ToLower(string(first)) + s[n:]
}

// Does returns names and what they do: "spinach settles", "herbs settle", "herbs and beetroot settle". A name in s is
// taken for many.
func Does(names []string, one, many string) string {
	if len(names) == 1 && !strings.HasSuffix(names[0], "s") {
		return names[0] + " " + one
	}
	return List(names) + " " + many
}

// Plain is a text in small letters without marks, by which names are told apart: "Mole Café" is "mole cafe".
func Plain(text string) string { return folded.Replace(strings.ToLower(text)) }

// folded are letters with marks as the words above are written.
var folded = strings.NewReplacer(
	"à", "a", "á", "a", "â", "a", "ä", "a", "ã", "a", "è", "e", "é", "e", "ê", "e", "ë", "e", "ì", "i", "í", "i",
	"î", "i", "ï", "i", "ò", "o", "ó", "o", "ô", "o", "ö", "o", "õ", "o", "ù", "u", "ú", "u", "û", "u", "ü", "u",
	"ç", "c", "ñ", "n", "ß", "ss",
)
