package web

import (
	"bytes"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"regexp"
	"strings"

	"github.com/gin-gonic/gin"
	"golang.org/x/net/html"

	"hollen/internal/core/plan"
)

// system is how measures are shown. Inside everything is metric; only what a page says and
// what is typed into its fields is turned into ounces, inches and °F here.
type system string

// The systems of units.
const (
	metric    system = "metric"
	customary system = "us"
)

// unitCookie remembers the choice in the browser.
const unitCookie = "units"

// shownIn is the system a browser has chosen.
func shownIn(c *gin.Context) system {
	if v, err := c.Cookie(unitCookie); err == nil && v == string(customary) {
		return customary
	}
	return metric
}

// typedIn is the system a form was typed in, which a draft kept from before may say differs
// from the one shown.
func typedIn(c *gin.Context, v url.Values) system {
	switch u := system(v.Get(unitCookie)); u {
	case metric, customary:
		return u
	}
	return shownIn(c)
}

// chooseUnits remembers the other system and goes back to where the choice was made.
func (s *Server) chooseUnits(c *gin.Context) {
	to := customary
	if shownIn(c) == customary {
		to = metric
	}
	c.SetSameSite(http.SameSiteLaxMode)
	c.SetCookie(unitCookie, string(to), 365*24*3600, "/", "", false, true)
	back := "/"
	if u, err := url.Parse(c.GetHeader("Referer")); err == nil && u.Host == c.Request.Host && strings.HasPrefix(u.Path, "/") && !strings.HasPrefix(u.Path, "//") {
		back = u.RequestURI()
	}
	c.Redirect(http.StatusSeeOther, back)
}

// conversion is one unit turned into another: shown = metric·by + add.
type conversion struct {
	unit    string
	by, add float64
}

// customaryUnits are the conversions of fields.
var customaryUnits = map[string]conversion{
	"g": {"oz", 1 / 28.349523125, 0}, "kg": {"lb", 1 / .45359237, 0}, "mm": {"in", 1 / 25.4, 0}, "°C": {"°F", 1.8, 32},
	"L": {"qt", quartsPerL, 0}, "m": {"ft", 1 / .3048, 0},
}

// quartsPerL is US quarts to a litre.
const quartsPerL = 1.0567

// in returns a field as this system shows and reads it. Bounds stay where they are; steps
// are rounded to ones a thumb understands.
func (u system) in(f plan.Field) plan.Field {
	k, ok := customaryUnits[f.Unit]
	if u != customary || !ok || f.Show != 0 {
		return f
	}
	f.Unit, f.Show, f.Offset, f.Rounded = k.unit, k.by, k.add, true
	step := f.Step * k.by
	grid := math.Pow(10, math.Floor(math.Log10(step)))
	for _, n := range []float64{1, 2, 5, 10} {
		if n*grid >= step*.7 {
			step = n * grid
			break
		}
	}
	f.Step = step / k.by
	f.Digits = max(0, int(math.Ceil(-math.Log10(step)-1e-9))) + 1
	if f.Unit != "in" { // exact enough to turn back into whole grams and degrees
		f.Digits++
	}
	if k.add != 0 {
		f.Digits = 1
	}
	return f
}

// auto turns what Hollen chose for a field, as metric, into what this system shows of it.
func (u system) auto(f plan.Field, chosen string) string {
	if !f.Rounded {
		return chosen
	}
	n, ok := plan.ParseNumber(chosen)
	if !ok {
		return chosen
	}
	return f.Shown(n)
}

// quantity is a number, or several of one unit (a range, sides), with a unit, in running text.
// Compound units are listed first so that their parts are left alone.
var (
	quantity = regexp.MustCompile(`([−+-]?)(\d[\d,]*(?:\.\d+)?(?:(?: × |–| to )\d[\d,]*(?:\.\d+)?)*)([  ]?)(g/mL|g/m³|g/g|mm/s|kg|g|mm|m|L|°C)(\W|$)`)
	between  = regexp.MustCompile(` × |–| to `)
)

// say returns a text with its measures in this system.
func (u system) say(text string) string {
	if u != customary || !strings.ContainsAny(text, "0123456789") {
		return text
	}
	return quantity.ReplaceAllStringFunc(text, func(m string) string {
		p := quantity.FindStringSubmatch(m)
		sign, numbers, unit, after := p[1], p[2], p[4], p[5]
		if strings.Contains(unit, "/") {
			return m
		}
		seps := append(between.FindAllString(numbers, -1), "")
		values, names := make([]string, len(seps)), make([]string, len(seps))
		same := true
		for i, n := range between.Split(numbers, -1) {
			v, _ := plan.ParseNumber(n)
			values[i], names[i] = turned(v, unit)
			same = same && names[i] == names[0]
		}
		out := sign
		for i, v := range values {
			if out += v; !same || i == len(values)-1 {
				out += " " + names[i]
			}
			out += seps[i]
		}
		return out + after
	})
}

// turned returns a metric value in customary units, to three figures.
func turned(v float64, unit string) (value, name string) {
	figures := func(v float64) string {
		digits := 2 - int(math.Floor(math.Log10(max(v, .01))))
		s := fmt.Sprintf("%.*f", min(max(digits, 0), 3), v)
		if strings.Contains(s, ".") {
			s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
		}
		return s
	}
	switch unit {
	case "°C":
		return fmt.Sprintf("%.0f", v*1.8+32), "°F"
	case "mm":
		return figures(v / 25.4), "in"
	case "m":
		return figures(v / .3048), "ft"
	case "L":
		return figures(v * quartsPerL), "qt"
	case "kg":
		v *= 1000
	}
	oz := v / 28.349523125
	if oz < 32 {
		return figures(oz), "oz"
	}
	lb, rest := math.Floor(oz/16), math.Mod(oz, 16)
	if rest = math.Round(rest*10) / 10; rest >= 16 {
		lb, rest = lb+1, 0
	}
	return fmt.Sprintf("%.0f lb %.1f", lb, rest), "oz"
}

// page returns a whole page with its measures in this system. Pictures stay as they are
// drawn, in grams and millimetres.
func (u system) page(doc []byte) ([]byte, error) {
	if u != customary {
		return doc, nil
	}
	root, err := html.Parse(bytes.NewReader(doc))
	if err != nil {
		return nil, err
	}
	u.walk(root)
	var out bytes.Buffer
	err = html.Render(&out, root)
	return out.Bytes(), err
}

func (u system) walk(n *html.Node) {
	if n.Type == html.ElementNode {
		switch n.Data {
		case "svg", "script", "style", "textarea", "template":
			return
		}
		for i, a := range n.Attr {
			if a.Key == "aria-label" || a.Key == "title" {
				n.Attr[i].Val = u.say(a.Val)
			}
		}
	}
	if n.Type == html.TextNode {
		n.Data = u.sayBefore(n.Data, n.NextSibling)
	}
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		u.walk(c)
	}
}

// sayBefore is say for a text whose unit may stand in the small element after it.
func (u system) sayBefore(text string, next *html.Node) string {
	if next == nil || next.Type != html.ElementNode || next.FirstChild == nil || next.FirstChild.Type != html.TextNode || !isUnit(next) {
		return u.say(text)
	}
	unit, rest, _ := strings.Cut(strings.TrimSpace(next.FirstChild.Data), " ")
	joined := strings.TrimSpace(text) + " " + unit
	said := u.say(joined)
	if said == joined {
		return text
	}
	at := strings.LastIndexByte(said, ' ')
	next.FirstChild.Data = strings.TrimSpace(said[at+1:] + " " + rest)
	return said[:at]
}

func isUnit(n *html.Node) bool {
	for _, a := range n.Attr {
		if a.Key == "class" && a.Val == "unit" {
			return true
		}
	}
	return false
}
