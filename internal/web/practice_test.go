package web

import (
	"bytes"
	"context"
	"fmt"
	"log/slog"
	"net/http"
	"net/url"
	"reflect"
	"regexp"
	"strings"
	"testing"

	"hollen/internal/core/rules"
)

var roundID = regexp.MustCompile(`/practice/\d+`)

// as is a browser of that name.
func as(name string) func(*http.Request) {
	return func(r *http.Request) {
		r.AddCookie(&http.Cookie{Name: "practises", Value: name + strings.Repeat("x", 20)})
	}
}

// begins begins a form and returns its address.
func (s site) begins(form url.Values, change ...func(*http.Request)) string {
	s.Helper()
	w := s.ask("POST", "/practice", form, change...)
	if w.Code != http.StatusSeeOther {
		s.Fatalf("%v: %d\n%s", form, w.Code, w.Body)
	}
	return w.Header().Get("Location")
}

// acts does one thing to a round as a page that has seen so many acts would.
func (s site) acts(at string, seq int, form url.Values, change ...func(*http.Request)) int {
	s.Helper()
	form.Set("seq", fmt.Sprint(seq))
	return s.ask("POST", at+"/act", form, change...).Code
}

// Of two hundred doughs no page, header or address tells one from another that shows the same signs.
func TestNothingGivesADoughAway(t *testing.T) {
	s := newSite(t)
	seen := map[string]string{}
	alike := 0
	signs := regexp.MustCompile(`<dt>([^<]*)</dt>\s*<dd>([^<]*)</dd>`)
	for i := range 200 {
		form := url.Values{"form": {"call"}, "call": {"kneaded"}, "level": {"2"}, "dough": {"usual"}}
		if i%2 == 1 {
			form = url.Values{"form": {"batch"}, "level": {"2"}, "dough": {"usual"}}
		}
		at := s.begins(form)
		if i%4 == 1 {
			if code := s.acts(at, 0, url.Values{"do": {"knead"}, "n": {"2"}}); code != http.StatusSeeOther {
				t.Fatalf("kneading: %d", code)
			}
		}
		w := s.ask("GET", at, nil)
		page := roundID.ReplaceAllString(w.Body.String(), "/practice/0")
		head := w.Header().Clone()
		head.Del("Content-Length")
		shown := between(page, "<h1>", `<section class="signs"`) // the question and the picture
		shown = between(shown, "", `<div class="dough-board">`)
		for _, m := range signs.FindAllStringSubmatch(page, -1) {
			shown += "|" + m[1] + "=" + m[2]
		}
		whole := fmt.Sprint(w.Code, head) + page
		if was, met := seen[shown]; met {
			alike++
			if was != whole {
				t.Fatalf("two doughs that show %q are told apart:\n%s\n\n%s", shown, was, whole)
			}
		}
		seen[shown] = whole
	}
	if alike < 60 {
		t.Errorf("only %d pages of 200 showed what another had shown", alike)
	}
}

// What is practised stays with whoever practises, and touches nothing else that is kept.
func TestPracticeKeepsToItself(t *testing.T) {
	s := newSite(t)
	rows := func() map[string]int {
		var b bytes.Buffer
		is, err := s.store.Backup(context.Background(), &b, true)
		if err != nil {
			t.Fatal(err)
		}
		delete(is.Rows, "practice_rounds")
		delete(is.Rows, "practice_calls")
		return is.Rows
	}
	before := rows()
	one, other := as("one"), as("other")
	at := s.begins(url.Values{"form": {"call"}, "level": {"1"}, "dough": {"usual"}}, one)
	for n := range 6 {
		if code := s.acts(at, 2*n, url.Values{"do": {"choose"}, "n": {"1"}}, one); code != http.StatusSeeOther {
			t.Fatalf("answer %d: %d", n, code)
		}
		if n < 5 && s.acts(at, 2*n+1, url.Values{"do": {"on"}}, one) != http.StatusSeeOther {
			t.Fatalf("on from %d", n)
		}
	}
	if page := s.ask("GET", at+"/opened", nil, one).Body.String(); strings.Count(page, "<li value=") != 6 {
		t.Errorf("a sitting opened: %s", page)
	}
	for _, path := range []string{at, at + "/opened"} {
		if w := s.ask("GET", path, nil, other); w.Code != http.StatusNotFound {
			t.Errorf("another's %s: %d", path, w.Code)
		}
	}
	if w := s.ask("POST", at+"/act", url.Values{"seq": {"11"}, "do": {"choose"}, "n": {"0"}},
		other); w.Code != http.StatusNotFound {
		t.Errorf("another's answer: %d", w.Code)
	}
	mine := s.ask("GET", "/practice", nil, one).Body.String()
	if strings.Count(mine, "not met yet") != 4 || !strings.Contains(mine, "six calls") {
		t.Errorf("six of ten calls were met, and one dough: %s", mine)
	}
	if theirs := s.ask("GET", "/practice", nil, other).Body.String(); strings.Count(theirs, "not met yet") != 10 {
		t.Error("another stands as the one does")
	}
	if w := s.ask("POST", "/practice/forget", url.Values{}, one); w.Code != http.StatusSeeOther {
		t.Errorf("forgetting: %d", w.Code)
	}
	if page := s.ask("GET", "/practice", nil, one).Body.String(); strings.Count(page, "not met yet") != 10 ||
		s.ask("GET", at, nil, one).Code != http.StatusNotFound {
		t.Error("it is not deleted")
	}
	if after := rows(); !reflect.DeepEqual(before, after) {
		t.Errorf("other rows changed: %v, were %v", after, before)
	}
}

// A dough ends with the rules it began with, whatever a later version of Hollen has.
func TestPracticeKeepsItsRules(t *testing.T) {
	s := newSite(t)
	at := s.begins(url.Values{"form": {"batch"}, "level": {"2"}, "dough": {"usual"}})
	for i, act := range []url.Values{{"do": {"knead"}, "n": {"6"}}, {"do": {"look"}, "sign": {"flex"}},
		{"do": {"wrap"}}} {
		if code := s.acts(at, i, act); code != http.StatusSeeOther {
			t.Fatalf("%v: %d", act, code)
		}
	}
	was := s.ask("GET", at, nil).Body.String()
	later := rules.Default()
	later.Knead.W63Min *= 2
	later.Practice.SkinGM2, later.Practice.HandSD, later.Practice.Lost.Water = 4, 2, 40
	s.h = New(s.store, later, slog.New(slog.NewTextHandler(s.log, nil)), Access{})
	if is := s.ask("GET", at, nil).Body.String(); is != was {
		t.Errorf("another dough by later rules:\n%s\n\n%s", was, is)
	}
}

// What cannot be is said beside what was pressed, and the dough stays as it was; what another window did first counts.
func TestPracticeRefusals(t *testing.T) {
	s := newSite(t)
	for name, form := range map[string]url.Values{
		"level": {"form": {"call"}, "level": {"9"}, "dough": {"usual"}}, "form": {"form": {"tango"}, "level": {"1"}},
		"no batch": {"form": {"call"}, "level": {"1"}, "dough": {"99999"}}, "no egg": {"form": {"batch"},
			"level": {"1"}, "dough": {"5"}},
		"a filling": {"form": {"batch"}, "level": {"1"}, "dough": {"8"}},
	} {
		w := s.ask("POST", "/practice", form)
		if w.Code != http.StatusUnprocessableEntity || !strings.Contains(w.Body.String(), `class="err"`) {
			t.Errorf("%s: %d", name, w.Code)
		}
	}
	at := s.begins(url.Values{"form": {"batch"}, "level": {"2"}, "dough": {"usual"}})
	for name, form := range map[string]url.Values{"minus": {"do": {"water"}, "n": {"-5"}}, "much": {"do": {"knead"},
		"n": {"1e99"}},
		"words": {"do": {"knead"}, "n": {"a while"}}, "early": {"do": {"drain"}}, "unknown": {"do": {"tango"}},
		"no sign": {"do": {"look"}, "sign": {"tooth"}}, "NaN": {"do": {"flour"}, "n": {"NaN"}}} {
		form.Set("seq", "0")
		w := s.ask("POST", at+"/act", form)
		page := w.Body.String()
		if w.Code != http.StatusUnprocessableEntity || !strings.Contains(page, `role="alert"`) {
			t.Errorf("%s: %d", name, w.Code)
		}
		if n := form.Get("n"); n != "" && form.Get("do") != "drain" && !strings.Contains(page, `value="`+n+`"`) {
			t.Errorf("%s: what was typed is lost", name)
		}
	}
	if code := s.acts(at, 0, url.Values{"do": {"knead"}, "n": {"3"}}); code != http.StatusSeeOther {
		t.Fatalf("kneading: %d", code)
	}
	w := s.ask("POST", at+"/act", url.Values{"seq": {"0"}, "do": {"water"}, "n": {"8"}})
	if w.Header().Get("Location") != at+"?moved=1" {
		t.Errorf("a window that had not followed: %d %v", w.Code, w.Header())
	}
	page := s.ask("GET", at+"?moved=1", nil).Body.String()
	if !strings.Contains(page, "another window") || !strings.Contains(page, "kneaded 3 min") ||
		strings.Contains(page, "water 8 g") {
		t.Error("the other window's water went in, or it is not said")
	}
	if w := s.ask("GET", at+"/opened", nil); w.Header().Get("Location") != at {
		t.Errorf("opened before it is over: %d", w.Code)
	}
	if w := s.ask("POST", at+"/open", url.Values{}); w.Header().Get("Location") != at+"/opened" {
		t.Errorf("opened: %d", w.Code)
	}
	if page := s.ask("GET", at+"/opened", nil).Body.String(); !strings.Contains(page, "nothing of it counts") ||
		!strings.Contains(page, "by the doctor") {
		t.Error("a dough opened early does not say so")
	}
	for _, id := range []string{"0", "-1", "999999", "x", "1e3"} {
		if w := s.ask("GET", "/practice/"+id, nil); w.Code != http.StatusNotFound {
			t.Errorf("/practice/%s: %d", id, w.Code)
		}
	}
	if w := s.ask("GET", "/practice/lumps?dough=8", nil); w.Code != http.StatusUnprocessableEntity {
		t.Errorf("lumps of a filled dough: %d", w.Code)
	}
}
