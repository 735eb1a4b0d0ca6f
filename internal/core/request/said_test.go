package request

import (
	"math"
	"strconv"
	"testing"
)

// Figures are read as they are said: with their unit, another unit of the same kind, or alone.
func TestFiguresAsTheyAreSaid(t *testing.T) {
	for _, x := range []struct {
		path, typed string
		want        float64
	}{{"bench.hook_g", "5 kg", 5000}, {"bench.hook_g", "11 lb", 4989.51607}, {"bench.hook_g", "5000", 5000},
		{"room.rh", "60 %", 60},
		{"room.rh", "60%", 60}, {"room.rh", "60", 60}, {"room.temp_c", "71.6 °F", 22}, {"salt_share", "1.2 %", 1.2},
		{"bench.pot_l", "8 l", 8}} {
		f, _ := FieldAt(x.path)
		r := Default()
		if err := f.Set(&r, x.typed); err != nil {
			t.Errorf("%s, %q: %v", x.path, x.typed, err)
		} else if got, err := strconv.ParseFloat(f.Get(&r), 64); err != nil || math.Abs(got-x.want) > 1e-4 {
			t.Errorf("%s, %q: %s", x.path, x.typed, f.Get(&r))
		}
	}
	for _, bad := range []string{"%", "60 % %", "%60", "60 g"} {
		f, _ := FieldAt("room.rh")
		r := Default()
		if err := f.Set(&r, bad); err == nil {
			t.Errorf("%q is a humidity: %v", bad, r.Room.RH)
		}
	}
}
