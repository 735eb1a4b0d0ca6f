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
		path := batchAt(demo.Saturday)
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
	body := s.ask("GET", batchAt(demo.Saturday)+"?at=formula", nil, german).Body.String()
	v := formOf(t, body)
	v.Set("amount.by", "flour")
	v.Set("amount.flour_g", "1.294,5")
	var r struct {
		Amount struct {
			FlourG float64 `json:"flour_g"`
		} `json:"amount"`
	}
	if err := json.Unmarshal(s.ask("POST", batchAt(demo.Saturday)+"/request.json", v, german).Body.Bytes(),
		&r); err != nil || r.Amount.FlourG != 1294.5 {
		t.Errorf("1.294,5 g of flour is read as %g (%v)", r.Amount.FlourG, err)
	}
}

// formOf is what a browser would send of the forms of a page.
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
		case n.Data == "textarea" && n.FirstChild != nil:
			out.Add(attr["name"], n.FirstChild.Data)
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

// An amount with its unit comes back from a reader of another language as it was.
func TestAmountsComeBack(t *testing.T) {
	s := newSite(t)
	german := func(r *http.Request) { r.Header.Set("Accept-Language", "de-DE,de;q=0.9") }
	at := "/days/" + after(12) + "/orders"
	s.wants(s.ask("POST", at, url.Values{"act": {"paste"}, "text": {"Gasthof; tagliatelle; 5.5 kg; 12:30"}}), 303)
	page := s.ask("GET", at, nil, german).Body.String()
	forms := regexp.MustCompile(`(?s)<form[^>]*method="post".*?</form>`).FindAllString(page, -1)
	i := slices.IndexFunc(forms, func(f string) bool { return strings.Contains(f, "Gasthof") })
	v := formOf(t, forms[i])
	v.Set("act", "save")
	t.Log(v.Get("portions"))
	s.wants(s.ask("POST", at, v, german), 303)
	s.wants(s.ask("GET", at, nil), 200, `value="5.5 kg"`)
	forms = regexp.MustCompile(`(?s)<form[^>]*method="post".*?</form>`).FindAllString(s.ask("GET", at, nil,
		german).Body.String(), -1)
	v = formOf(t, forms[slices.IndexFunc(forms, func(f string) bool { return strings.Contains(f, "Gasthof") })])
	v.Set("portions", "7,25 kg")
	v.Set("act", "save")
	s.wants(s.ask("POST", at, v, german), 303)
	s.wants(s.ask("GET", at, nil), 200, `value="7.25 kg"`)
}
