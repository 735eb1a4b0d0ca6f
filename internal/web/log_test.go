package web

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"html"
	"image"
	"image/jpeg"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"hollen/internal/exchange"
	"hollen/internal/store/storetest"
	"hollen/internal/web/log"
	"hollen/internal/workshop"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/store"
)

// counting has a site's plans take what is learned.
func (s site) counting() site {
	s.Helper()
	if err := s.store.ChangeLogSettings(context.Background(),
		func(l *store.LogSettings) { l.Off = false }); err != nil {
		s.Fatal(err)
	}
	return s
}

// A batch made without the bench is logged on one short form; what it says moves the next plan, with its reason beside
// the number; left
// out, switched off for the flour, for the batch or altogether, it does not.
func TestLoggedAfterwards(t *testing.T) {
	s := newSite(t).counting()
	const moved = "wanted"
	at := batchAt(demo.Saturday)
	s.wants(s.ask("POST", "/log/learned", url.Values{"do": {"leave"}, "making": {"1"}}), 303)
	if body := s.ask("GET", at, nil).Body.String(); strings.Contains(body, moved) {
		t.Error("nothing counts, and it has learned something")
	}
	s.wants(s.ask("GET", at+"/log", nil), 200, "How the dough felt", "every line may stay empty", `name="knead_min"`)
	begun := storetest.Now().Add(-3 * time.Hour).Format(measure.ClockForm)
	s.wants(s.ask("POST", at+"/log", url.Values{"when": {"tomorrow"}, "poke_s": {"soon"}, "out_g": {"1,480"},
		"next": {"finer"}}), 422, "A moment that has passed",
		"0.1 to 60 s, or empty is allowed", `value="soon"`, `value="1,480"`, `value="finer"`)
	w := s.ask("POST", at+"/log", url.Values{"when": {begun}, "felt": {"-1"}, "poke_s": {"4"}, "rest_min": {"30"},
		"out_g": {"1,480 g"}, "maker": {"Linde"},
		"next": {"roll a stop finer"}})
	s.wants(w, 303)
	s.wants(s.ask("GET", w.Header().Get("Location"), nil), 200, "felt a little dry; 1,480 g came out",
		"roll a stop finer")
	s.wants(s.ask("GET", at, nil), 200, "Your one batch wanted", "points more than the book", "more water here")
	s.wants(s.ask("GET", "/log/learned", nil), 200, "Soft wheat 00", "a little dry", "Rest of Soft wheat 00",
		"left out")
	s.wants(s.ask("GET", "/log?find=linde+tagl", nil), 200, demo.Saturday, "roll a stop finer")
	s.wants(s.ask("GET", "/log?find=nonesuch", nil), 200, "Nothing of that kind")
	s.wants(s.ask("GET", "/log?felt=2", nil), 200, "Nothing of that kind")
	off := s.typed(demo.Number(demo.Saturday))
	off.Set("by_the_book", "yes")
	if body := s.ask("POST", at+"/work", off).Body.String(); strings.Contains(body, moved) {
		t.Error("by the book it counts all the same")
	}
	for do, undo := range map[string]string{"off": "on", "flour_off": "flour_on", "reset": "again"} {
		v := url.Values{"do": {do}, "flour": {"soft-00"}}
		s.wants(s.ask("POST", "/log/learned", v), 303)
		if body := s.ask("GET", at, nil).Body.String(); strings.Contains(body, moved) {
			t.Errorf("%s, and it counts all the same", do)
		}
		v.Set("do", undo)
		s.wants(s.ask("POST", "/log/learned", v), 303)
		s.wants(s.ask("GET", at, nil), 200, moved)
	}
	for _, bad := range []url.Values{{}, {"do": {"dance"}}, {"do": {"leave"}, "making": {"x"}}, {"do": {"flour_off"}}} {
		s.wants(s.ask("POST", "/log/learned", bad), 422)
	}
	s.wants(s.ask("GET", "/log.csv", nil), 200, "making,batch,name", "roll a stop finer")
	var doc struct {
		Format  string
		Makings []exchange.Logged
	}
	if err := json.Unmarshal(s.ask("GET", "/log.json", nil).Body.Bytes(), &doc); err != nil ||
		doc.Format != "hollen-log/2" || len(doc.Makings) != 2 ||
		doc.Makings[0].Summary.OutG != 1480 {
		t.Errorf("%v: %+v", err, doc)
	}
}

// The two documents of a batch give the page’s figures to the digit, from the command line, too, once there is a log.
func TestDocumentsHaveWhatIsLearned(t *testing.T) {
	s := newSite(t).counting()
	at := batchAt(demo.Saturday)
	s.logAgain()
	doc := s.ask("GET", at+"/plan.json", nil).Body.String()
	if !strings.Contains(doc, `"learned": {`) || !strings.Contains(doc, `"points": `) {
		t.Fatal("the plan’s document does not say what was learned")
	}
	dir := t.TempDir()
	for name, path := range map[string]string{"plan.json": "/plan.json", "request.json": "/request.json"} {
		if err := os.WriteFile(filepath.Join(dir, name), s.ask("GET", at+path, nil).Body.Bytes(), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	made := func(names ...string) string {
		t.Helper()
		ru := rules.Default()
		var r request.Request
		for i, name := range names {
			f, err := os.Open(filepath.Join(dir, name))
			if err != nil {
				t.Fatal(err)
			}
			asked, learned, err := exchange.ReadPlanned(ru, f)
			f.Close()
			if err != nil {
				t.Fatal(err)
			}
			if ru.Learned = learned; i == 0 {
				r = asked
			}
		}
		p, err := plan.Make(ru, r)
		if err != nil {
			t.Fatal(err)
		}
		var b bytes.Buffer
		if err := exchange.Write(&b, p); err != nil {
			t.Fatal(err)
		}
		return b.String()
	}
	if made("plan.json") != doc || made("request.json", "plan.json") != doc {
		t.Error("the documents give other figures than the page")
	}
	if made("request.json") == doc {
		t.Error("nothing was learned in this test")
	}
	hostile := strings.Replace(doc, `"nine_in_ten_points": `, `"nine_in_ten_points": 1e9, "was": `, 1)
	if _, _, err := exchange.ReadPlanned(rules.Default(), strings.NewReader(hostile)); err == nil {
		t.Error("a document teaches what no log does")
	}
}

// Off beside one flour’s water is off for that alone: gaps, drying and hands of its batches count on.
func TestOffForOneFlourIsItsWaterAlone(t *testing.T) {
	s := newSite(t).counting()
	s.logAgain()
	b, err := s.store.Get(context.Background(), demo.Number(demo.Saturday))
	if err != nil {
		t.Fatal(err)
	}
	r := b.Request.Request
	if err := s.store.ChangeLogSettings(context.Background(), func(l *store.LogSettings) {
		l.Flours = []string{
			plan.FlourLabel(r.Flours)}
	}); err != nil {
		t.Fatal(err)
	}
	page := s.ask("GET", batchAt(demo.Saturday)+"/plan.json", nil).Body.String()
	if strings.Contains(page, `"batches": `) {
		t.Error("its water counts all the same")
	}
	if !strings.Contains(page, `"looks": `) && !strings.Contains(page, `"sheets": `) {
		t.Errorf("nothing else counts, either: %s", between(page, `"learned"`, `"why"`))
	}
}

// A making keeps what had been learned when it was begun, whatever is learned later; more may be said of it afterwards.
func TestLearnedIsFrozen(t *testing.T) {
	s := newSite(t).counting()
	at := s.begin(demo.Saturday)
	before, err := s.store.Making(context.Background(), newMade)
	if err != nil || before.Rules.Learned.Hw.N != 1 {
		t.Fatalf("%+v, %v", before.Rules.Learned, err)
	}
	s.wants(s.ask("POST", "/bench/1/log", url.Values{"felt": {"2"}, "out_g": {"1400"}}), 303)
	s.wants(s.ask("GET", "/bench/1/made", nil), 200, "felt too wet; 1,400 g came out")
	s.logAgain()
	after, _ := s.store.Making(context.Background(), newMade)
	p, err := after.Plan()
	if err != nil || p.Rules().Learned.Hw.Points != before.Rules.Learned.Hw.Points {
		t.Errorf("%v: %v, was %v", err, p.Rules().Learned.Hw, before.Rules.Learned.Hw)
	}
	s.wants(s.ask("GET", batchAt(demo.Chandler)+"/makings", nil), 200, "As last time, by now", "Hydration aimed at",
		"Your one batch wanted")
	next := s.begin(demo.Saturday)
	if m, _ := s.store.Making(context.Background(), newMade+1); next == at ||
		m.Rules.Learned.Hw.Points >= before.Rules.Learned.Hw.Points {
		t.Errorf("too wet, and the next is begun with %v, the one before with %v", m.Rules.Learned.Hw.Points,
			before.Rules.Learned.Hw.Points)
	}
}

// logAgain waits until a change of the log is seen.
func (s site) logAgain() { time.Sleep(workshop.PressedTwice + 100*time.Millisecond) }

// The last word of a batch stands on top of its next, and of a copy of it, until it is seen to; Hollen asks one thing
// at a time, and no
// more once it is sent away.
func TestLastWordAndQuestions(t *testing.T) {
	s := newSite(t).counting()
	s.wants(s.ask("GET", batchAt(demo.Chandler), nil), 200, "Last time you said:", "roll it a stop finer",
		`id="last-word"`)
	w := s.ask("POST", batchAt(demo.Chandler)+"/duplicate", url.Values{"version": {"1"}})
	s.wants(w, 303)
	if body := s.ask("GET", batchAt(demo.Saturday), nil).Body.String(); strings.Contains(body, "Last time you said") {
		t.Error("what was said of another stands here, too")
	}
	tick := url.Values{"do": {"tick"}, "making": {"1"}, "back": {batchAt(demo.Chandler)}}
	if got := s.ask("POST", "/log/learned", tick).Header().Get("Location"); got != batchAt(demo.Chandler) {
		t.Errorf("seen to, it leads to %s", got)
	}
	if body := s.ask("GET", batchAt(demo.Chandler), nil).Body.String(); strings.Contains(body, "Last time you said") {
		t.Error("it is seen to, and stands there still")
	}
	if got := s.ask("POST", "/log/learned", url.Values{"do": {"on"}, "back": {"//elsewhere.example/"}}).Header().Get(
		"Location"); got != "/log/learned" {
		t.Errorf("it leads away: %s", got)
	}
	s.wants(s.ask("POST", batchAt(demo.Chandler)+"/log", url.Values{"when": {storetest.Now().Add(-time.Hour).Format(
		measure.ClockForm)}, "felt": {"-2"}}), 303)
	s.wants(s.ask("GET", "/log", nil), 200, "Weigh the moisture of Durum semola, fine?", `value="moisture:semola-fine"`)
	s.wants(s.ask("POST", "/log/learned", url.Values{"do": {"away"}, "question": {"moisture:semola-fine"},
		"back": {"/log"}}), 303)
	if body := s.ask("GET", "/log", nil).Body.String(); strings.Contains(body, "Weigh the moisture") {
		t.Error("sent away, it is asked again")
	}
}

// A picture of a making is kept small and drawn anew: where it was taken does not come along. Others than small JPEGs
// are refused with
// the reason; so many, no more.
func TestPictures(t *testing.T) {
	s := newSite(t)
	send := func(doc []byte) *httptest.ResponseRecorder {
		r := httptest.NewRequest("POST", "http://127.0.0.1/bench/1/pictures", bytes.NewReader(doc))
		r.Header.Set("Content-Type", "image/jpeg")
		w := httptest.NewRecorder()
		s.h.ServeHTTP(w, r)
		return w
	}
	drawn := func(side int) []byte {
		var b bytes.Buffer
		if err := jpeg.Encode(&b, image.NewGray(image.Rect(0, 0, side, side)), nil); err != nil {
			t.Fatal(err)
		}
		return b.Bytes()
	}
	doc := drawn(300)
	where := []byte("Exif\x00\x00GPS 54.1 N")
	tagged := append(append(append([]byte{}, doc[:2]...), 0xff, 0xe1, 0, byte(len(where)+2)), append(where,
		doc[2:]...)...)
	s.wants(send(tagged), 201, "1")
	w := s.ask("GET", "/bench/1/pictures/1", nil)
	if s.wants(w, 200); bytes.Contains(w.Body.Bytes(), []byte("GPS")) ||
		w.Header().Get("Content-Type") != "image/jpeg" {
		t.Error("where it was taken is kept")
	}
	s.wants(send([]byte("a picture, honest")), 422, "A JPEG of at most")
	s.wants(send(drawn(log.PictureSide+1)), 422)
	s.wants(send(bytes.Repeat([]byte{1}, store.MaxPicture+1)), 413)
	s.wants(send(doc[:len(doc)/2]), 422)
	scans := slices.Concat(doc[:len(doc)-2], bytes.Repeat([]byte{0xff, 0xda}, 1000), doc[len(doc)-2:])
	s.wants(send(scans), 422, "in at most 20 scans is kept; this one comes in 1001.")
	for range store.MostPictures - 1 {
		s.wants(send(doc), 201)
	}
	s.wants(send(doc), 409, "take one away first")
	s.wants(s.ask("GET", "/bench/1/made", nil), 200, `src="/bench/1/pictures/6"`, "Take picture 1 away")
	s.wants(s.ask("POST", "/bench/1/pictures/1/remove", url.Values{}), 303)
	s.wants(s.ask("GET", "/bench/1/pictures/1", nil), 404)
	s.wants(s.ask("GET", "/bench/1/pictures/x", nil), 404)
	s.wants(send(doc), 201, "7")
}

// A making that left as JSON comes in again: to the batch of its name, or with its batch where there is none; what is
// no making is
// refused with the reason.
func TestMakingsComeIn(t *testing.T) {
	s := newSite(t)
	doc := s.ask("GET", "/bench/1/made.json", nil).Body.String()
	w := s.ask("POST", "/import", url.Values{"text": {doc}})
	s.wants(w, 200, "A making:", "is here", "It goes to", "Add it once more")
	other := strings.Replace(doc, `"name": "`+demo.Chandler, `"name": "Another kitchen’s linguine`, 2)
	w = s.ask("POST", "/import", url.Values{"text": {other}})
	s.wants(w, 200, "Its batch is made of it, too", "Add this making")
	take := between(w.Body.String(), `name="take" value="`, `"`)
	w = s.ask("POST", "/import/take", url.Values{"text": {other}, "take": {take}})
	s.wants(w, 303)
	at := w.Header().Get("Location")
	s.wants(s.ask("GET", at, nil), 200, "Another kitchen’s linguine", "felt a little dry", "roll it a stop finer")
	a, b := madeState(t, s.ask("GET", "/bench/1/made.json", nil).Body.Bytes()), madeState(t, s.ask("GET",
		strings.TrimSuffix(at, "made")+"made.json",
		nil).Body.Bytes())
	if a != b {
		t.Errorf("it comes in as another:\n%.300s\n%.300s", a, b)
	}
	s.wants(s.ask("POST", "/import/take", url.Values{"text": {other}, "take": {"making.99"}}), 409)
	for _, bad := range []string{`{"format":"hollen-making/1"}`, `{"format":"hollen-making/1","request":{}}`,
		strings.Replace(doc, `"what": "done"`, `"what": "danced"`, 1), strings.Replace(doc, `"Points": 0`,
			`"Points": 90`, 1)} {
		s.wants(s.ask("POST", "/import", url.Values{"text": {bad}}), 422)
	}
}

func between(s, a, b string) string {
	_, s, _ = strings.Cut(s, a)
	s, _, _ = strings.Cut(s, b)
	return html.UnescapeString(s)
}

func madeState(t *testing.T, doc []byte) string {
	t.Helper()
	var m struct{ State json.RawMessage }
	if err := json.Unmarshal(doc, &m); err != nil {
		t.Fatal(err)
	}
	return string(m.State)
}

// The ledger adds up what was weighed, by week, month and shape; days that are none are said beside them. Two makings
// stand side by side.
func TestLedgerAndBeside(t *testing.T) {
	s := newSite(t)
	for _, g := range []string{"1,400", "1,450"} {
		s.wants(s.ask("POST", batchAt(demo.Saturday)+"/log", url.Values{"when": {storetest.Now().Add(
			-4 * time.Hour).Format(measure.ClockForm)}, "out_g": {g},
			"felt": {"0"}}), 303)
	}
	s.wants(s.ask("GET", "/log/ledger", nil), 200, "week of")
	s.wants(s.ask("GET", "/log/ledger?by=shape", nil), 200, "Tagliatelle", "2.9 kg", "Linguine", "In all")
	s.wants(s.ask("GET", "/log/ledger?by=month", nil), 200, storetest.Now().Add(-4*time.Hour).Format("January 2006"))
	s.wants(s.ask("GET", "/log/ledger?from=soon", nil), 422, "Days as 2026-11-28 are read")
	s.wants(s.ask("GET", "/log/ledger?from=2026-05-02&to=2026-05-01", nil), 422, "comes after the last")
	s.wants(s.ask("GET", "/log/ledger?from=2001-01-01&to=2001-02-01", nil), 200, "Nothing was made in that time")
	s.wants(s.ask("GET", fmt.Sprintf("/bench/%d/beside?with=%d", newMade+1, newMade), nil), 200, "<b>1,450 g</b>",
		"<b>1,400 g</b>", "Working hydration")
	s.wants(s.ask("GET", "/bench/1/beside", nil), 200, "There is no other ended making")
	s.wants(s.ask("GET", "/bench/99/beside", nil), 404)
	s.wants(s.ask("POST", fmt.Sprintf("/bench/%d/events", newMade), nil), 400)
}

// What the form shows as known is not said once more when it is sent as it stands: a poke counts once.
func TestNothingCountsTwice(t *testing.T) {
	s := newSite(t)
	said := url.Values{"felt": {"-1"}, "poke_s": {"4"}, "out_g": {"1,500"}, "next": {"finer"}}
	s.wants(s.ask("POST", "/bench/1/log", said), 303)
	events := func() int {
		all, _, err := s.store.Events(context.Background(), 1, 0)
		if err != nil {
			t.Fatal(err)
		}
		return len(all)
	}
	n := events()
	s.wants(s.ask("GET", "/bench/1/log", nil), 200, `value="4"`, `value="finer"`)
	s.wants(s.ask("POST", "/bench/1/log", said), 303)
	if events() != n {
		t.Errorf("%d events more, and nothing new was said", events()-n)
	}
	said.Set("next", "a stop finer still")
	s.wants(s.ask("POST", "/bench/1/log", said), 303)
	s.wants(s.ask("GET", "/bench/1/made", nil), 200, "1,500 g came out", "a stop finer still")
	if events() != n+1 {
		t.Errorf("%d events more for one thing said", events()-n)
	}
}

// Both doughs are begun as last time, too.
func TestBothAsLastTime(t *testing.T) {
	s := newSite(t)
	at := s.begin(demo.Straw)
	time.Sleep(workshop.PressedTwice + 50*time.Millisecond)
	s.wants(s.ask("POST", at+"/again", url.Values{}), 303)
	open, err := s.store.UnderWay(context.Background())
	if err != nil || len(open) != 5 {
		t.Errorf("%d under way, %v", len(open), err)
	}
}

// The log leaves as one document and comes in again: nothing twice; in another workshop with its batches, each making
// as it was.
func TestLogComesIn(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/log", url.Values{"when": {storetest.Now().Add(-time.Hour).Format(
		measure.ClockForm)}, "felt": {"1"}}), 303)
	doc := s.ask("GET", "/log.json", nil).Body.String()
	s.wants(s.ask("POST", "/import", url.Values{"text": {doc}}), 200, "2 makings", "All of it is here already.")
	other := strings.ReplaceAll(strings.ReplaceAll(doc, demo.Chandler, "Another kitchen’s linguine"), demo.Saturday,
		"Another kitchen’s ribbons")
	w := s.ask("POST", "/import", url.Values{"text": {other}})
	s.wants(w, 200, "2 makings to add. 2 batches are made of them.")
	take := between(w.Body.String(), `name="take" value="`, `"`)
	s.wants(s.ask("POST", "/import/take", url.Values{"text": {other}, "take": {take}}), 303)
	s.wants(s.ask("GET", "/log", nil), 200, "Another kitchen’s linguine", "Another kitchen’s ribbons",
		"roll it a stop finer")
	s.wants(s.ask("POST", "/import", url.Values{"text": {other}}), 200, "All of it is here already.")
	s.wants(s.ask("POST", "/import/take", url.Values{"text": {other}, "take": {take}}), 409)
	var was, is exchange.Log
	if json.Unmarshal([]byte(other), &was) != nil || json.Unmarshal(s.ask("GET", "/log.json?find=another",
		nil).Body.Bytes(), &is) != nil || len(is.Makings) != 2 {
		t.Fatalf("%d come back", len(is.Makings))
	}
	for i := range is.Makings {
		a, b := is.Makings[i].Summary, was.Makings[i].Summary
		if !reflect.DeepEqual(a, b) {
			t.Errorf("%+v\n%+v", a, b)
		}
	}
	s.wants(s.ask("POST", "/import", url.Values{"text": {`{"format":"hollen-log/1","makings":[]}`}}), 422,
		"holds figures and no makings")
	s.wants(s.ask("POST", "/import", url.Values{"text": {`{"format":"hollen-log/2","makings":[]}`}}), 422,
		"holds no making")
	s.wants(s.ask("POST", "/import", url.Values{"text": {strings.Replace(doc, `"what":"`, `"what":"x`, 1)}}), 422,
		"akings.0")
}

// The form is filled with what the bench knows; what is said otherwise counts instead of it, not besides; sent twice it
// counts once.
func TestLogFormIsFilled(t *testing.T) {
	s := newSite(t)
	at := s.begin(demo.Saturday)
	s.wants(s.tell(at, `{"events":[{"id":"a","what":"left","text":"flour","g":20,"at":"2026-11-26T08:00:00Z"},
		{"id":"b","what":"added","text":"water","g":9,"at":"2026-11-26T08:01:00Z"},{"id":"c","what":"left","text":"trimmings","g":70,"at":"2026-11-26T08:02:00Z"},
		{"id":"d","what":"left","text":"trimmings","of":"kneaded in","g":30,"at":"2026-11-26T08:03:00Z"}]}`), 200)
	page := s.ask("GET", at+"/log", nil).Body.String()
	for key, want := range map[string]string{"flour_left": "20", "water_added": "9", "trim_g": "100",
		"trim_back_g": "30"} {
		if !strings.Contains(page, `name="`+key+`" value="`+want+`"`) {
			t.Errorf("%s is not filled with %s", key, want)
		}
	}
	once := between(page, `name="once" value="`, `"`)
	form := url.Values{"once": {once}, "flour_left": {"20"}, "water_added": {"14"}, "trim_g": {"100"},
		"trim_back_g": {"45"},
		"cut_mm":      {"300"}, "settled_mm": {"282"}}
	for range 2 {
		s.wants(s.ask("POST", at+"/log", form), 303)
	}
	page = s.ask("GET", at+"/log", nil).Body.String()
	for key, want := range map[string]string{"flour_left": "20", "water_added": "14", "trim_g": "100",
		"trim_back_g": "45"} {
		if !strings.Contains(page, `name="`+key+`" value="`+want+`"`) {
			t.Errorf("then %s is not %s", key, want)
		}
	}
	s.wants(s.ask("POST", at+"/log", url.Values{"cut_mm": {"300"}}), 422, "Both lengths, or neither.")
	s.wants(s.ask("POST", at+"/log", url.Values{"cut_mm": {"300"}, "settled_mm": {"100"}}), 422, "From seven tenths")
	s.wants(s.ask("POST", at+"/log", url.Values{"trim_g": {"10"}, "trim_back_g": {"20"}}), 422,
		"No more than the trimmings")
	form = url.Values{"once": {"a-form-sent-twice"}, "when": {storetest.Now().Add(-time.Hour).Format(
		measure.ClockForm)}, "felt": {"0"}}
	one, two := s.ask("POST", batchAt(demo.Saturday)+"/log", form), s.ask("POST", batchAt(demo.Saturday)+"/log", form)
	if one.Code != 303 || one.Header().Get("Location") != two.Header().Get("Location") {
		t.Errorf("sent twice: %s and %s", one.Header().Get("Location"), two.Header().Get("Location"))
	}
}

// Whose batch it is counts in what is learned of it, and is set by a maker of the cabinet.
func TestWhoMakesIt(t *testing.T) {
	s := newSite(t).counting()
	at := batchAt(demo.Saturday)
	begun := storetest.Now().Add(-3 * time.Hour).Format(measure.ClockForm)
	s.wants(s.ask("POST", at+"/log", url.Values{"when": {begun}, "felt": {"-1"}, "knead_min": {"14"}, "poke_s": {"4"},
		"maker": {"Linde"}}), 303)
	s.logAgain()
	s.wants(s.ask("GET", at+"?at=room", nil), 200, `value="made_by=Linde"`, `name="made_by"`)
	by := func(who string) string {
		v := s.typed(demo.Number(demo.Saturday))
		v.Set("made_by", who)
		return s.ask("POST", at+"/work", v).Body.String()
	}
	if page := by("Linde"); !strings.Contains(page, "maker +0.1") {
		t.Error("Linde’s own part is not said")
	}
	if page := by("Somebody else"); strings.Contains(page, "maker +") {
		t.Error("Linde’s part counts for somebody else")
	}
}
