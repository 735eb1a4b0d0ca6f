package web

import (
	"encoding/json"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"

	"golang.org/x/net/html"

	"hollen/internal/demo"
)

// Languages write decimals and thousands in their own way; what writes other digits, or says nothing, gets Hollen's.
func TestMarksOfLanguages(t *testing.T) {
	for lang, want := range map[string]string{"de": "1.294,5", "it": "1.294,5", "es": "1.294,5", "fr": "1\u00a0294,5",
		"sv":    "1\u00a0294,5",
		"de-CH": "1’294.5", "ja": "1,294.5",
		"en-GB": "1,294.5", "ar-EG": "1,294.5", "tlh-x": "1,294.5", "not a tag!": "1,294.5"} {
		if got := marksIn(lang).figure("1,294.5"); got != want {
			t.Errorf("%s writes %q, want %q", lang, got, want)
		}
	}
}

// Of a page only figures change: those in prose, in drawings and in fields.
func TestMarksOnAPage(t *testing.T) {
	de := marks{",", "."}
	for _, c := range [][2]string{
		{`<p>1,294 g at 54.3 %, 0.85 mm.</p>`, `<p>1.294 g at 54,3 %, 0,85 mm.</p>`},
		{`<p>1,234,567.5</p>`, `<p>1.234.567,5</p>`},
		{`<p>1, 2, 3. At 2. 5</p>`, `<p>1, 2, 3. At 2. 5</p>`},
		{`<p>v1.2, 1.2.3, stop 2.5, a/1.5 &#43;1.5</p>`, `<p>v1.2, 1.2.3, stop 2.5, a/1.5 &#43;1,5</p>`},
		{`<p translate="no">0.8 <p>1.5</p> 2.5</p>3.5`, `<p translate="no">0.8 <p>1.5</p> 2.5</p>3,5`},
		{"<td\ntranslate=\"no\">0.8 mm</td><td>1.5</td>", "<td\ntranslate=\"no\">0.8 mm</td><td>1,5</td>"},
		{
			`<input inputmode="decimal" value="54.3" placeholder="1.25">`,
			`<input inputmode="decimal" value="54,3" placeholder="1,25">`,
		},
		{
			`<input type="hidden" name="amount.flour_g" value="1.125">`,
			`<input type="hidden" name="amount.flour_g" value="1,125">`,
		},
		{`<input type="hidden" name="note" value="1.125">`, `<input type="hidden" name="note" value="1.125">`},
		{
			`<form method="post"><input name="g" inputmode="decimal" value="1.5"><input name="who" value="1.250">` +
				`</form>`,
			`<form method="post">` +
				`<input name="g" inputmode="decimal" value="1,5"><input name="who" value="1.250">` +
				`<input type="hidden" name="figures" value="g"></form>`,
		},
		{
			`<form method="get"><input name="g" inputmode="decimal" value="1.5"></form>`,
			`<form method="get"><input name="g" inputmode="decimal" value="1,5"></form>`,
		},
		{`<input name="name" value="1.125">`, `<input name="name" value="1.125">`},
		{`<input type="range" min="0.5" value="1.25">`, `<input type="range" min="0.5" value="1.25">`},
		{
			`<i data-value="1.5" data-auto="2.5"></i><b data-value="1.5">2.5</b>`,
			`<i data-value="1,5" data-auto="2,5"></i><b data-value="1.5">2,5</b>`,
		},
		{`<textarea>1.5 cups</textarea>`, `<textarea>1.5 cups</textarea>`},
		{
			`<svg width="1.5"><text data-own="">2.5</text><text>1.5</text></svg>`,
			`<svg width="1.5"><text data-own="">2.5</text><text>1,5</text></svg>`,
		},
		{`<button value="amount.flour_g=1.5">1.5</button>`, `<button value="amount.flour_g=1.5">1,5</button>`},
	} {
		in, want := c[0], c[1]
		if got := string(de.page([]byte(in))); got != want {
			t.Errorf("%s\ngot  %s\nwant %s", in, got, want)
		}
		if got := string(plain.page([]byte(in))); got != in {
			t.Errorf("plain marks changed %s to %s", in, got)
		}
	}
}

// A figure is read in the reader's marks; where it cannot be told apart, as Hollen always reads it. Words stay to the
// letter,
// whatever their field is called.
func TestMarksAreRead(t *testing.T) {
	de, fr := marks{",", "."}, marks{",", "\u202f"}
	for _, c := range []struct {
		m         marks
		key       string
		in, plain string
	}{
		{de, "a", "1.294", "1294"}, {de, "a", "1.294,5 g", "1294.5 g"}, {de, "a", "1,294", "1.294"}, {de, "a", "54,3",
			"54,3"}, {de, "a", "0.125", "0.125"},
		{de, "a", "12.5", "12.5"}, {de, "a", "1.294.5", "1.294.5"}, {de, "a", "2 kg", "2 kg"}, {de, "amount.flour_g",
			"1.294", "1294"},
		{de, "g.flours.1.share", "1.294", "1294"}, {de, "doctor.minutes", "1.294", "1294"}, {de, "doctor.amount.dry.1",
			"1,294", "1.294"},
		{de, "name", "1.294", "1.294"}, {de, "cut.filling.name", "1.294", "1.294"}, {de, "who", "1.250 Gasthof",
			"1.250 Gasthof"},
		{de, "note", "2,500 Stk Teller", "2,500 Stk Teller"}, {de, "next", "1.250 g", "1.250 g"},
		{fr, "a", "1.294", "1.294"}, {fr, "a", "1,294", "1.294"}, {plain, "a", "1,294", "1,294"}, {plain, "a", "1.294",
			"1.294"},
	} {
		form := url.Values{c.key: {c.in}, inForm: {"b a"}}
		c.m.read(form)
		if got := form.Get(c.key); got != c.plain {
			t.Errorf("%s of %s in %+v is read %q, want %q", c.in, c.key, c.m, got, c.plain)
		}
	}
}

// What a German browser sends of an order, a note in the log or a person's name comes back to the letter; its portions
// are
// a figure.
func TestWordsStayToTheLetter(t *testing.T) {
	s := newSite(t)
	german := func(r *http.Request) { r.Header.Set("Accept-Language", "de-DE,de;q=0.9") }
	at := "/days/2026-12-03/orders"
	once := formOf(t, s.ask("GET", at, nil).Body.String()).Get("once")
	s.wants(s.ask("POST", at, url.Values{"act": {"paste"}, "once": {once},
		"text": {"Gasthof; tagliatelle; 10; 12:30"}}), 303)
	forms := regexp.MustCompile(`(?s)<form[^>]*method="post".*?</form>`).FindAllString(s.ask("GET", at, nil,
		german).Body.String(), -1)
	i := slices.IndexFunc(forms, func(f string) bool { return strings.Contains(f, `name="portions"`) })
	if i < 0 {
		t.Fatal("no order can be taken down")
	}
	v := formOf(t, forms[i])
	v.Set("who", "1.250 Gasthof")
	v.Set("what", "tagliatelle")
	v.Set("portions", "1,125")
	v.Set("when", "12:30")
	v.Set("note", "2,500 Stk Teller")
	v.Set("act", "save")
	to := regexp.MustCompile(` action="([^"]*)"`).FindStringSubmatch(forms[i])[1]
	s.wants(s.ask("POST", to, v, german), 303)
	s.wants(s.ask("GET", at, nil), 200, `value="1.250 Gasthof"`, `value="2,500 Stk Teller"`, `value="1.125"`)
}

// A form that is sent back as a reader of another language was shown it says the same: every batch, at every station.
func TestMarksComeBack(t *testing.T) {
	s := newSite(t)
	german := func(r *http.Request) { r.Header.Set("Accept-Language", "de-DE,de;q=0.9,en;q=0.5") }
	for _, at := range []string{"formula", "room", "knead", "rest", "roll", "cut", "dry", "cook"} {
		path := batch(demo.Saturday)
		body := s.ask("GET", path+"?at="+at, nil, german).Body.String()
		if !strings.Contains(body, `data-point=","`) {
			t.Fatal("the page does not say how it writes decimals")
		}
		v := formOf(t, body)
		v.Set("was_at", at)
		saved := s.ask("POST", path+"/request.json", v, german).Body.String()
		plainly := s.ask("GET", path+"/request.json", nil).Body.String()
		if saved != plainly {
			t.Errorf("%s: what comes back is another batch:\n%s\n%s", at, saved, plainly)
		}
	}
	body := s.ask("GET", batch(demo.Saturday)+"?at=formula", nil, german).Body.String()
	v := formOf(t, body)
	v.Set("amount.by", "flour")
	v.Set("amount.flour_g", "1.294,5")
	var r struct {
		Amount struct {
			FlourG float64 `json:"flour_g"`
		} `json:"amount"`
	}
	if err := json.Unmarshal(s.ask("POST", batch(demo.Saturday)+"/request.json", v, german).Body.Bytes(),
		&r); err != nil || r.Amount.FlourG != 1294.5 {
		t.Errorf("1.294,5 g of flour is read as %g (%v)", r.Amount.FlourG, err)
	}
}

// formOf is what a browser would send of the batch form.
func formOf(t *testing.T, body string) url.Values {
	t.Helper()
	doc, err := html.Parse(strings.NewReader(body))
	if err != nil {
		t.Fatal(err)
	}
	out := url.Values{}
	for n := range doc.Descendants() {
		if n.Type != html.ElementNode {
			continue
		}
		attr := map[string]string{}
		for _, a := range n.Attr {
			attr[a.Key] = a.Val
		}
		switch _, on := attr["checked"]; {
		case attr["name"] == "" || n.Data == "button":
		case n.Data == "input" && (attr["type"] != "checkbox" && attr["type"] != "radio" || on):
			out.Add(attr["name"], attr["value"])
		case n.Data == "select":
			for o := range n.Descendants() {
				for _, a := range o.Attr {
					if a.Key == "selected" {
						for _, b := range o.Attr {
							if b.Key == "value" {
								out.Set(attr["name"], b.Val)
							}
						}
					}
				}
			}
		}
	}
	return out
}
