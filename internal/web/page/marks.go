package page

import (
	"bytes"
	"fmt"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"sync"

	"github.com/gin-gonic/gin"
	"golang.org/x/net/html"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
	"golang.org/x/text/number"

	"hollen/internal/core/request"
	"hollen/internal/web/form"
)

// Figures are worked out and worded with a point before decimals and a comma between thousands.
// A browser whose language writes them otherwise is shown them so, and what is typed there is read
// so: both at this one edge, on every page. Within, in documents and in drawings for download, a
// number is written one way.

// Marks are the signs of a language before decimals and between thousands.
type Marks struct{ Point, Group string }

// plain are the marks Hollen writes by itself.
var plain = Marks{".", ","}

// known keeps the marks of languages asked for: a few in the life of a server. Bounded by mostKnown.
var known = struct {
	sync.Mutex
	by map[string]Marks
}{by: map[string]Marks{}}

const mostKnown = 200

// marksOf returns the marks of the language a browser likes best; plain where it says none, or one
// that writes other digits.
func marksOf(c *gin.Context) Marks {
	said, _, _ := strings.Cut(c.GetHeader("Accept-Language"), ",")
	said, _, _ = strings.Cut(said, ";")
	if said = strings.TrimSpace(said); said == "" || said == "*" || strings.HasPrefix(said, "en") {
		return plain
	}
	known.Lock()
	defer known.Unlock()
	m, ok := known.by[said]
	if !ok {
		m = marksIn(said)
		if len(known.by) < mostKnown {
			known.by[said] = m
		}
	}
	return m
}

// sampled takes the marks out of 1234567.5 as a language writes it.
var sampled = regexp.MustCompile(`^1(\D+)234\D+567(\D+)5$`)

func marksIn(lang string) Marks {
	tag, err := language.Parse(lang)
	if err != nil {
		return plain
	}
	found := sampled.FindStringSubmatch(message.NewPrinter(tag).Sprint(number.Decimal(1234567.5)))
	if found == nil {
		return plain
	}
	return Marks{found[2], found[1]}
}

// figure is a number with decimals or thousands as Hollen writes it. What stands before may not be
// part of it, nor what follows.
var figure = regexp.MustCompile(`[0-9]{1,3}(?:,[0-9]{3})+(?:\.[0-9]+)?|[0-9]+\.[0-9]+`)

// text writes the figures of a text with these marks. What is no figure stays: a number that hangs
// on a letter, a sign or another number, and what stands on a dial.
func (m Marks) text(s []byte) []byte {
	at := figure.FindAllIndex(s, -1)
	if at == nil {
		return s
	}
	var out bytes.Buffer
	end := 0
	for _, x := range at {
		from, to := x[0], x[1]
		if hangs(s, from, to) || bytes.HasSuffix(bytes.TrimRight(s[:from], " "), []byte("stop")) {
			continue
		}
		out.Write(s[end:from])
		out.WriteString(m.figure(string(s[from:to])))
		end = to
	}
	out.Write(s[end:])
	return out.Bytes()
}

// hangs says whether s[from:to] is only a part of something longer.
func hangs(s []byte, from, to int) bool {
	if from > 0 {
		if b := s[from-1]; b == '.' || b == ',' || b == '#' || b == '_' || b == '/' || b >= '0' && b <= '9' ||
			b >= 'A' && b <= 'Z' || b >= 'a' && b <= 'z' {
			return true
		}
	}
	if to+1 < len(s) {
		b, next := s[to], s[to+1]
		return b >= '0' && b <= '9' || (b == '.' || b == ',') && next >= '0' && next <= '9'
	}
	return to < len(s) && s[to] >= '0' && s[to] <= '9'
}

// figure writes one figure with these marks.
func (m Marks) figure(s string) string {
	whole, part, has := strings.Cut(s, plain.Point)
	if whole = strings.ReplaceAll(whole, plain.Group, m.Group); has {
		whole += m.Point + part
	}
	return whole
}

// typed are the attributes of a field that hold what is, or might be, typed into it.
var typed = regexp.MustCompile(`\b(value|placeholder|data-value|data-auto)="([+-]?[0-9]+\.[0-9]+)"`)

// inForm is the name of a hidden field that says which of the others of its form hold figures: those typed with a
// keyboard
// of digits. What stands in any other is words, and stays to the letter.
const inForm = "figures"

// holdsFigure says whether a field holds a figure, of those that come and go in a form by their names alone.
func holdsFigure(name string) bool {
	if strings.HasPrefix(name, form.DoctorAmount) || name == form.DoctorMinutes {
		return true
	}
	f, ok := request.FieldAt(strings.TrimPrefix(name, form.WeightPrefix))
	return ok && (f.Kind == request.Number || f.Kind == request.Whole || f.Kind == request.Price)
}

// page writes the figures of a page with these marks, in its text and in its fields, and has its forms say which of
// their
// fields those are. What is marked translate="no", in drawings data-own, is the maker's own and stays to the letter.
func (m Marks) page(doc []byte) []byte {
	if m == plain {
		return doc
	}
	var out bytes.Buffer
	out.Grow(len(doc) + len(doc)/50)
	z := html.NewTokenizer(bytes.NewReader(doc))
	own, deep := "", 0   // the element that stays, and how many of its name are open in it
	var figures []string // of the form that is open
	posted := false      // that form is
	for {
		kind := z.Next()
		if kind == html.ErrorToken {
			return out.Bytes()
		}
		raw := z.Raw()
		switch kind {
		case html.TextToken:
			if own == "" {
				raw = m.text(raw)
			}
		case html.StartTagToken, html.SelfClosingTagToken:
			name, has := z.TagName()
			if own != "" {
				if kind == html.StartTagToken && string(name) == own {
					deep++
				}
				break
			}
			if string(name) == "form" {
				figures, posted = nil, says(raw, `method="post"`)
			}
			if has {
				if kind == html.StartTagToken && staysToTheLetter(string(name), raw) {
					own, deep = string(name), 1
				}
				switch {
				case string(name) == "i":
					raw = m.fields(raw)
				case string(name) == "input" && (says(raw, `inputmode="decimal"`) || says(raw, "data-figure")):
					raw = m.fields(raw)
					figures = append(figures, nameOf(raw))
				case string(name) == "input" && says(raw, `type="hidden"`) && holdsFigure(nameOf(raw)):
					raw = m.fields(raw)
				}
			} else if letters[string(name)] {
				own, deep = string(name), 1
			}
		case html.EndTagToken:
			name, _ := z.TagName()
			if string(name) == own {
				if deep--; deep == 0 {
					own = ""
				}
			}
			if string(name) == "form" && posted && len(figures) > 0 {
				fmt.Fprintf(&out, `<input type="hidden" name="%s" value="%s">`, inForm, strings.Join(figures, " "))
				figures = nil
			}
		}
		out.Write(raw)
	}
}

// letters are the elements whose text is no prose of Hollen's.
var letters = map[string]bool{"textarea": true, "script": true, "style": true, "code": true}

func staysToTheLetter(name string, tag []byte) bool {
	return letters[name] || says(tag, `translate="no"`) || bytes.Contains(tag, []byte(` data-own="">`))
}

// named is the name of a field.
var named = regexp.MustCompile(`\sname="([^" ]*)"`)

// says says whether a tag has an attribute, which may stand on a line of its own.
func says(tag []byte, attribute string) bool {
	at := bytes.Index(tag, []byte(attribute))
	return at > 0 && (tag[at-1] == ' ' || tag[at-1] == '\n')
}

func nameOf(tag []byte) string {
	if found := named.FindSubmatch(tag); found != nil {
		return string(found[1])
	}
	return ""
}

// fields writes what stands in a field with the sign before decimals of these marks.
func (m Marks) fields(tag []byte) []byte {
	return typed.ReplaceAllFunc(tag, func(b []byte) []byte {
		return bytes.Replace(b, []byte(plain.Point),
			[]byte(m.Point), 1)
	})
}

// thousands is a number with marks between thousands, and maybe decimals, in a language that writes
// a point there: 1.294 or 1.294,5.
var thousands = regexp.MustCompile(`^\s*[+-]?[1-9][0-9]{0,2}(?:\.[0-9]{3})+(?:,[0-9]+)?(?:[^0-9.,]|$)`)

// decimal is a number whose comma could be taken for one between thousands: 1,294.
var decimal = regexp.MustCompile(`^\s*[+-]?[0-9]+,[0-9]{3}(?:[^0-9.,]|$)`)

// read turns the figures typed with these marks, a form's worth, into what Hollen reads. Words stay.
func (m Marks) read(typed url.Values) {
	if m.Point != "," {
		return
	}
	said := strings.Fields(typed.Get(inForm))
	delete(typed, inForm)
	for key, values := range typed {
		if !slices.Contains(said, key) && !holdsFigure(key) {
			continue
		}
		for i, v := range values {
			switch {
			case m.Group == "." && thousands.MatchString(v):
				values[i] = strings.Replace(strings.ReplaceAll(v, ".", ""), ",", ".", 1)
			case decimal.MatchString(v):
				values[i] = strings.Replace(v, ",", ".", 1)
			}
		}
	}
}
