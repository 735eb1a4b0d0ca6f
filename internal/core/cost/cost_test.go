package cost

import (
	"encoding/json"
	"testing"
)

func TestParse(t *testing.T) {
	for typed, want := range map[string]string{"1.85": "1.85", "1,85": "1.85", "€ 0.3": "0.30", "12": "12.00",
		".5": "0.50", "0.3125": "0.3125",
		"1000000": "1000000.00", "£2": "2.00"} {
		m, err := Parse(typed)
		if err != nil || m.String() != want {
			t.Errorf("%q: %v, %v, want %s", typed, m, err, want)
		}
	}
	for _, typed := range []string{"", "-1", "1.2.3", "1e9", "cheap", "1000001", "0.00001", "1,000.50", "€"} {
		if m, err := Parse(typed); err == nil {
			t.Errorf("%q is read as %v", typed, m)
		}
	}
}

// Money adds up: a thousand times a third of a cent is what it is, to the last digit.
func TestSums(t *testing.T) {
	p, _ := Parse("1.85")
	if got := p.Per(1234.5); got.String() != "2.2838" || got.Rounded().String() != "2.28" {
		t.Errorf("1,234.5 g: %v", got)
	}
	var sum Money
	for range 1000 {
		sum += p.Per(100)
	}
	if sum != p.Per(100000) || sum.String() != "185.00" {
		t.Errorf("a thousand times 100 g: %v", sum)
	}
	if got := p.Times(9); got.String() != "16.65" {
		t.Errorf("nine: %v", got)
	}
	if got := (Money(10000)).Over(3); got.String() != "0.3333" || Money(1).Over(0) != 0 {
		t.Errorf("a third: %v", got)
	}
	if got := Money(-150).Rounded(); got != -200 {
		t.Errorf("rounded: %d", got)
	}
}

func TestJSON(t *testing.T) {
	var v struct{ A, B *Money }
	if err := json.Unmarshal([]byte(`{"A":"0.32","B":null}`), &v); err != nil || v.A.String() != "0.32" || v.B != nil {
		t.Errorf("%+v, %v", v, err)
	}
	if b, err := json.Marshal(v); err != nil || string(b) != `{"A":"0.32","B":null}` {
		t.Errorf("%s, %v", b, err)
	}
	if json.Unmarshal([]byte(`{"A":-2}`), &v) == nil {
		t.Error("a negative price is read")
	}
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{"1.85", "1,85", "€ 3", "9999999.9999", "..", "٣"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		m, err := Parse(s)
		if err != nil {
			return
		}
		if again, err := Parse(m.String()); err != nil || again != m || m < 0 || m > Max {
			t.Fatalf("%q: %v, again %v, %v", s, m, again, err)
		}
	})
}
