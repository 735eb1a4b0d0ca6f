package schedule

import (
	"encoding/json"
	"os"
	"strings"
	"testing"
)

// written is a day as the reference file writes it.
type written struct {
	Name       string
	Horizon    int
	SetupFirst int `json:"setup_first"`
	Setup      [][]int
	Tasks      []struct {
		Name    string
		Batch   int
		Hands   bool
		Minutes []int
		Class   int `json:"roller_class"`
		From    int
		To      int
	}
	Lags []struct {
		From, To string
		Min      int
		Max      *int
	}
	Holds []struct {
		From, To, Resource string
		Qty                int
	}
	Resources []struct {
		Name string
		Cap  int
	}
	Persons []struct {
		Name string
		Off  [][2]int
	}
	Orders []struct {
		Name string
		Due  int
		Last []string
	}
	Waits []struct {
		From, To string
		Limit    int
	}
	Optimal Goals
}

func (w *written) day() *Day {
	d := &Day{Setup: w.Setup, First: w.SetupFirst}
	task := map[string]int{}
	store := map[string]int{}
	for i, t := range w.Tasks {
		task[t.Name] = i
		if w.Setup == nil && t.Class >= 0 {
			d.Setup = [][]int{{0}}
		}
		d.Tasks = append(d.Tasks, Task{Name: t.Name, Batch: t.Batch, Hands: t.Hands, Minutes: t.Minutes, Class: t.Class,
			From: t.From, To: t.To})
	}
	point := func(s string) Point {
		name, at, _ := strings.Cut(s, "@")
		return Point{task[name], at == "end"}
	}
	for _, l := range w.Lags {
		lag := Lag{A: point(l.From), B: point(l.To), Min: l.Min, Max: NoLimit}
		if l.Max != nil {
			lag.Max = *l.Max
		}
		d.Lags = append(d.Lags, lag)
	}
	for i, r := range w.Resources {
		store[r.Name] = i
		d.Stores = append(d.Stores, Store{r.Name, r.Cap})
	}
	for _, h := range w.Holds {
		d.Holds = append(d.Holds, Hold{From: point(h.From), To: point(h.To), Store: store[h.Resource], Quantity: h.Qty})
	}
	for _, p := range w.Persons {
		d.People = append(d.People, Person{p.Name, p.Off})
	}
	for _, o := range w.Orders {
		var last []int
		for _, l := range o.Last {
			last = append(last, task[l])
		}
		d.Orders = append(d.Orders, Order{o.Name, o.Due, last})
	}
	for _, x := range w.Waits {
		d.Waits = append(d.Waits, Wait{task[x.From], task[x.To], x.Limit})
	}
	return d
}

func references(t testing.TB) []written {
	t.Helper()
	text, err := os.ReadFile("testdata/reference-days.json")
	if err != nil {
		t.Fatal(err)
	}
	var all []written
	if err := json.Unmarshal(text, &all); err != nil {
		t.Fatal(err)
	}
	return all
}

// The best of these six days is known: every start and every person was tried.
func TestReferenceDays(t *testing.T) {
	all := references(t)
	if len(all) != 6 {
		t.Fatalf("%d days", len(all))
	}
	for _, w := range all {
		d := w.day()
		a, err := d.Solve(10_000)
		if err != nil {
			t.Errorf("%s: %v", w.Name, err)
			continue
		}
		if !a.Proved || a.Goals != w.Optimal {
			t.Errorf("%s: %+v proved %v in %d nodes, want %+v", w.Name, a.Goals, a.Proved, a.Nodes, w.Optimal)
		}
		if f := d.Faults(a.Slots); len(f) > 0 {
			t.Errorf("%s breaks %+v", w.Name, f)
		}
		t.Log(w.Name, a.Nodes)
	}
}
