package web

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"golang.org/x/net/html"

	"hollen/internal/core/request"
	"hollen/internal/demo"
	"hollen/internal/store/storetest"
)

// walk calls f with every element under n, and those it stands in, the nearest first.
func walk(n *html.Node, in []*html.Node, f func(n *html.Node, in []*html.Node)) {
	if n.Type == html.ElementNode {
		f(n, in)
		in = append([]*html.Node{n}, in...)
	}
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		walk(c, in, f)
	}
}

func attr(n *html.Node, key string) (string, bool) {
	for _, a := range n.Attr {
		if a.Key == key {
			return a.Val, true
		}
	}
	return "", false
}

// said is the text of an element.
func said(n *html.Node) string {
	var b strings.Builder
	var text func(*html.Node)
	text = func(n *html.Node) {
		if n.Type == html.TextNode {
			b.WriteString(n.Data)
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			text(c)
		}
	}
	text(n)
	return strings.Join(strings.Fields(b.String()), " ")
}

// phrasing are elements that hold words alone, and blocks what does not go into them.
var (
	phrasing = []string{"span", "p", "b", "small", "label", "a", "h1", "h2", "h3", "summary", "button"}
	blocks   = []string{"form", "div", "p", "table", "ul", "ol", "section", "h1", "h2", "h3", "main", "nav", "header",
		"fieldset", "details"}
)

// htmlFaults are what is wrong with the HTML of a page: ids twice, references to none, blocks within words, headings
// that leave a step out, tables without a head or a name, what is pressed without a name.
func htmlFaults(page string) (out []string) {
	doc, err := html.Parse(strings.NewReader(page))
	if err != nil {
		return []string{err.Error()}
	}
	ids, level, mains := map[string]int{}, 0, 0
	bad := func(format string, a ...any) { out = append(out, fmt.Sprintf(format, a...)) }
	walk(doc, nil, func(n *html.Node, in []*html.Node) {
		if id, ok := attr(n, "id"); ok {
			if ids[id]++; ids[id] == 2 {
				bad("id %q twice", id)
			}
		}
		if slices.Contains(blocks, n.Data) && len(in) > 0 && slices.Contains(phrasing, in[0].Data) {
			bad("%s in %s: %.40s", n.Data, in[0].Data, said(n))
		}
		switch n.Data {
		case "main":
			mains++
		case "h1", "h2", "h3", "h4":
			now := int(n.Data[1] - '0')
			if now > level+1 {
				bad("%s after h%d: %s", n.Data, level, said(n))
			}
			level = now
		case "table":
			head, name := false, false
			walk(n, nil, func(c *html.Node, _ []*html.Node) {
				head = head || c.Data == "th"
				name = name || c.Data == "caption"
			})
			if _, labelled := attr(n, "aria-label"); !name && !labelled {
				bad("a table without a name: %.50s", said(n))
			}
			if !head {
				bad("a table without a head: %.50s", said(n))
			}
		case "th":
			if _, scope := attr(n, "scope"); said(n) == "" && !scope {
				bad("an empty head")
			}
		case "button", "a", "summary":
			if label, _ := attr(n, "aria-label"); said(n) == "" && label == "" && !strings.Contains(fmt.Sprint(in),
				"hidden") {
				bad("a %s without a name", n.Data)
			}
		case "img":
			if _, ok := attr(n, "alt"); !ok {
				bad("an img without alt")
			}
		case "section":
			_, labelled := attr(n, "aria-label")
			headed := false
			walk(n, nil, func(c *html.Node, _ []*html.Node) {
				headed = headed || strings.HasPrefix(c.Data, "h") && len(c.Data) == 2
			})
			if !labelled && !headed {
				bad("a section without a heading: %.40s", said(n))
			}
		}
	})
	walk(doc, nil, func(n *html.Node, _ []*html.Node) {
		for _, key := range []string{"for", "aria-describedby", "aria-labelledby"} {
			if to, ok := attr(n, key); ok && ids[to] == 0 {
				bad("%s=%q leads nowhere", key, to)
			}
		}
	})
	if mains != 1 {
		bad("%d mains", mains)
	}
	return out
}

// Every page is sound HTML.
func TestPagesAreSoundHTML(t *testing.T) {
	s := newSite(t)
	paths := []string{"/", "/batches", "/recipe", "/compare?a=7&b=6", "/import", "/rooms", "/cabinet/flours",
		"/cabinet/lots",
		"/cabinet/eggs", "/cabinet/additions",
		"/cabinet/powders", "/cabinet/machines", "/cabinet/shapes", "/cabinet/ways", "/cabinet/flours/new",
		"/cabinet/machines/8", "/cabinet/shapes/9",
		"/cabinet/ways/10", "/cabinet/machines/8/calibrate", "/cabinet/house", "/batches/new", "/batches/new?as=own",
		batchAt(demo.Saturday) + "/versions",
		batchAt(demo.Saturday) + "/beside/tool", batchAt(demo.Saturday) + "/sheet", batchAt(demo.Lantern) + "/label",
		"/nothing"}
	for _, st := range append(request.Stages(), "doctor") {
		for _, id := range []int{1, 3, 6, 8, 9, 10} {
			paths = append(paths, fmt.Sprintf("/batches/%d?at=%s", id, st))
		}
	}
	said := map[string]bool{}
	for _, path := range paths {
		for _, fault := range htmlFaults(s.ask("GET", path, nil).Body.String()) {
			if !said[fault] {
				t.Errorf("%s: %s", path, fault)
			}
			said[fault] = true
		}
	}
}

// today is the day tests are run on, by their clock.
func today() string { return storetest.Now().Format(time.DateOnly) }
