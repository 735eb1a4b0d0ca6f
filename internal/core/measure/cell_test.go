package measure

import (
	"strings"
	"testing"
)

// No cell is worked out by a spreadsheet, and each is read back as it was; numbers and all other texts stand as they
// are.
func TestCells(t *testing.T) {
	for text, cell := range map[string]string{"Harbour café": "Harbour café", "": "", "-2": "-2", "+1.5": "+1.5",
		"=1+1": "'=1+1", "+49 1": "'+49 1",
		"-2 nests": "'-2 nests", "@SUM(A1)": "'@SUM(A1)", "\t=1": "'\t=1", "\r=1": "'\r=1", "'t Huis": "'t Huis",
		"'=1": "''=1", "＝1": "'＝1", "−3 °C": "'−3 °C"} {
		if got := Cell(text); got != cell {
			t.Errorf("%q is written %q, want %q", text, got, cell)
		}
	}
	if got := Uncell("'t Huis"); got != "'t Huis" {
		t.Errorf("by hand: %q", got)
	}
}

func FuzzCell(f *testing.F) {
	for _, s := range []string{"=1", "''=1", "-0", "'", "x", "'-2"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		cell := Cell(text)
		if back := Uncell(cell); back != text {
			t.Errorf("%q is written %q and read %q", text, cell, back)
		}
		if cell != text && !strings.HasPrefix(cell, "'") {
			t.Errorf("%q is written %q", text, cell)
		}
	})
}
