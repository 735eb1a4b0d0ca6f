package exchange

import (
	"os"
	"regexp"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"

	"hollen/internal/core/day"
	"hollen/internal/core/order"
	"hollen/internal/core/schedule"
)

// oneDay is a day of one task and one order.
func oneDay() (day.Sheet, []day.Want) {
	d := &schedule.Day{Tasks: []schedule.Task{{Key: "3.roll.1", Name: "Roll", Kind: schedule.Roll, Hands: true,
		Minutes: []int{20},
		To:      1440}},
		People: []schedule.Person{{Name: "Ada; of, the \\ quay"}}, Orders: []schedule.Order{{Name: "Pharos", Due: 720,
			Last: []int{0}}}}
	s := day.Sheet{Date: "2026-12-24", Jobs: []day.Job{{Batch: 3, Letter: "A", Name: "Tagliatelle", Part: day.FromCold,
		Cooked: true, Left: true}}, Day: d,
		Slots: []schedule.Slot{{Start: 600, Min: 20, CleanMin: 10}}, Shop: day.Shop{Breaks: []day.Span{{From: 1,
			To: 2}},
			People: []day.Hand{{Name: "Ada", From: 1, To: 2, Cannot: []schedule.Kind{schedule.Pot}}}}}
	return s, []day.Want{{ID: 5, Who: "Pharos", What: "tagliatelle", Due: 720, Jobs: []uint64{3}, Count: 8},
		{Who: "nobody yet", What: "x", Due: 800, Count: 2}}
}

// Every field of the day’s document is described, and it says when orders are ready.
func TestDayDocument(t *testing.T) {
	s, wants := oneDay()
	doc := DayDocument(s, wants, s.Slots)
	if len(doc.Orders) != 2 || *doc.Orders[0].Ready != 620 || doc.Orders[1].Ready != nil ||
		doc.Tasks[0].By != "Ada; of, the \\ quay" {
		t.Errorf("%+v", doc)
	}
	b, err := WriteDay(doc)
	if err != nil {
		t.Fatal(err)
	}
	raw, err := os.ReadFile("../../docs/formats.md")
	if err != nil {
		t.Fatal(err)
	}
	_, said, _ := strings.Cut(string(raw), "## `hollen-day/1`")
	for _, m := range regexp.MustCompile(`"([a-z0-9_]+)":`).FindAllStringSubmatch(string(b), -1) {
		if m[1] != "format" && !strings.Contains(said, "`"+m[1]+"`") {
			t.Errorf("docs/formats.md does not describe %q of a day", m[1])
		}
	}
	if bare := DayDocument(day.Sheet{Date: "2026-12-24"}, nil, nil); bare.Goals != nil || len(bare.Tasks) > 0 {
		t.Errorf("not planned: %+v", bare)
	}
}

// The calendar is read again as it was written, whatever is in a name, with the cleaning before a task.
func TestCalendar(t *testing.T) {
	s, wants := oneDay()
	midnight := time.Date(2026, 12, 24, 0, 0, 0, 0, time.FixedZone("", 3600))
	text := Calendar(DayDocument(s, wants, s.Slots), midnight, "", "abc")
	c, err := ics.ParseCalendar(strings.NewReader(text))
	if err != nil || len(c.Events()) != 2 {
		t.Fatalf("%v\n%s", err, text)
	}
	at, err := c.Events()[0].GetStartAt()
	if err != nil || !at.Equal(midnight.Add(590*time.Minute)) {
		t.Errorf("%v %v", at, err)
	}
	if got := c.Events()[0].GetProperty(ics.ComponentPropertySummary).Value; !strings.Contains(got,
		"Ada; of, the \\ quay") {
		t.Errorf("%q", got)
	}
	if again := Calendar(DayDocument(s, wants, s.Slots), midnight, "", "abc"); again != text {
		t.Error("written twice it differs")
	}
	for i, line := range strings.Split(strings.TrimSuffix(text, "\r\n"), "\r\n") {
		if len(line) > 75 || strings.Contains(line, "\n") {
			t.Errorf("line %d: %q", i+1, line)
		}
	}
}

// Orders are read as they were written.
func TestOrdersThereAndBack(t *testing.T) {
	_, wants := oneDay()
	wants[0].Who = `Mole, "the" café; quay`
	wants[1].Who, wants[1].What = `=HYPERLINK("http://quay.example")`, "-2+3 nests"
	wants[0].Said = order.Amount{N: 5500, Unit: order.Grams}
	text, err := OrdersCSV(wants, func(int) (string, string) { return "in nests", "Egg ribbons" })
	if err != nil {
		t.Fatal(err)
	}
	all, wrong := order.Read(text, time.Now())
	if len(wrong) > 0 || len(all) != 2 || all[0].Who != wants[0].Who || all[0].Amount != wants[0].Said ||
		all[0].When.Due != 720 || all[1].Amount.N != 2 ||
		all[0].Note != "in nests" ||
		all[1].Who != wants[1].Who || all[1].What != wants[1].What || strings.Contains(text, "\n\"=") ||
		strings.Contains(text, ",-2+") {
		t.Errorf("%q: %+v %v", text, all, wrong)
	}
}
