package device

import "testing"

// A line that is no reading is refused without harm; one that is read is within its bounds.
func FuzzRead(f *testing.F) {
	for _, s := range []string{`{"g": 12.5, "stable": true}`, `{"t_c": 20, "rh": 0.5}`, `{`, `{"g": 1e999}`,
		`{"g": null}`, `[]`} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, line string) {
		for _, kind := range []Kind{Scale, Room} {
			r, err := Read(kind, []byte(line))
			if err == nil && kind == Room && (r.TempC == nil || r.RH == nil || *r.RH < 0 || *r.RH > 1) {
				t.Errorf("%q: %+v", line, r)
			}
		}
	})
}
