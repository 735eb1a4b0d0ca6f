package order

import (
	"fmt"
	"math"
	"strings"
	"testing"
	"time"
)

// a Tuesday
var today = time.Date(2026, 12, 1, 9, 0, 0, 0, time.UTC)

func TestAmounts(t *testing.T) {
	for text, want := range map[string]Amount{
		"24": {24, Portions}, "24 portions": {24, Portions}, "2,5": {2.5, Portions}, "1,200": {1200, Portions},
		"5 kg": {5000, Grams}, "500g": {500, Grams}, "1.2 kilos": {1200, Grams}, "half a kilo": {500, Grams},
		"1 lb 2 oz": {510.29, Grams}, "40 pieces": {40, Pieces}, "40 pcs": {40, Pieces}, "2 dozen": {24, Pieces},
		"2 boxes": {2, Boxes}, "a box": {1, Boxes}, "½ box": {.5, Boxes}, "6 Portionen": {6, Portions},
	} {
		got, err := ReadAmount(text)
		if err != nil || math.Abs(got.N-want.N) > .01 || got.Unit != want.Unit {
			t.Errorf("%q: %+v, %v", text, got, err)
			continue
		}
		if again, err := ReadAmount(got.Text()); err != nil || again.Unit != got.Unit || math.Abs(again.N-got.N) > .01 {
			t.Errorf("%q: written as %q, read as %+v, %v", text, got.Text(), again, err)
		}
	}
	for text, says := range map[string]string{"": "number of portions", "many": "number of portions",
		"5 trays":  "said in trays",
		"5 wheels": "number of portions", "0": "above 0", "-3": "number of portions", "500 kg": "several orders",
		"1e9":        "number of portions",
		"2.5 pieces": "whole pieces", "3000": "2,000 portions", "9 g": "20 g to 100 kg"} {
		if got, err := ReadAmount(text); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %+v, %v", text, got, err)
		}
	}
}

func TestMoments(t *testing.T) {
	for text, want := range map[string]When{
		"12:30": {"", 750}, "9": {"", 540}, "6 pm": {"", 1080}, "noon": {"", 720}, "half past ten": {"", 630},
		"quarter to eleven": {"", 645}, "ten o'clock": {"", 600}, "midnight": {"", 1440}, "24:01": {"", 1441},
		"0:01":       {"", 1},
		"tomorrow 9": {"2026-12-02", 540}, "tomorrow at noon": {"2026-12-02", 720}, "noon tomorrow": {"2026-12-02",
			720},
		"today 18h": {"2026-12-01", 1080}, "friday 11:00": {"2026-12-04", 660},
		"on Friday at half past ten": {"2026-12-04", 630},
		"2026-12-24 10:15":           {"2026-12-24", 615}, "24 Dec 10:15": {"2026-12-24", 615}, "3rd Jan, " +
			"9": {"2027-01-03", 540},
		"halb elf": {"", 630}, "viertel vor elf": {"", 645}, "fünf nach halb elf": {"", 635},
		"zehn nach zehn": {"", 610}, "18 Uhr 30": {"", 1110}, "alle 13 e mezza": {"", 810},
		"undici meno un quarto": {"", 645},
		"midi et demi":          {"", 750}, "dix heures vingt": {"", 620}, "a las once menos cuarto": {"", 645},
		"once y diez": {"", 670},
		"पौने ग्यारह": {"", 645}, "9 de la mañana": {"", 540}, "mañana a las 9": {"2026-12-02", 540},
		"9 at night": {"", 1260}, "tonight at 9": {"2026-12-01", 1260}, "11:00 on Friday": {"2026-12-04", 660},
		"11 Dec 9": {"2026-12-11", 540}, "am 24. Dezember um 10:15": {"2026-12-24", 615}, "01:30": {"", 90},
		"5 am": {"", 300}, "half past two in the afternoon": {"", 870}, "12:30 in the afternoon": {"", 750},
		"2026-12-24T10:15": {"2026-12-24", 615}, "Samstag mittag": {"2026-12-05", 720},
		"the day after tomorrow at half past ten": {"2026-12-03", 630},
		"6 in the evening":                        {"", 1080}, "domani 9": {"2026-12-02", 540},
	} {
		got, err := ReadWhen(text, today)
		if err != nil || got != want {
			t.Errorf("%q: %+v, %v", text, got, err)
		}
		if again, err := ReadWhen(Clock(got.Due), today); err != nil || again.Due != got.Due {
			t.Errorf("%q: written as %q", text, Clock(got.Due))
		}
	}
	for due := range LastMin + 1 { // as forms, lists and files write it
		if got, err := ReadWhen(Clock(due), today); err != nil || got != (When{Due: due}) {
			t.Fatalf("%d is written as %q and read as %+v, %v", due, Clock(due), got, err)
		}
	}
	for _, text := range []string{"1:30", "3 Uhr", "half past six", "7", "halb zwei", "2 at night",
		"noon in the evening", "31 Feb 9", "le 9 mars",
		"2/12 9", "next friday 9", "", "25:61", "36:00", "soon", "quarter to one", "half past two", "half past",
		"half past noonish", "tomorrow", "2026-13-01 9", "12:75"} {
		if got, err := ReadWhen(text, today); err == nil {
			t.Errorf("%q: %+v", text, got)
		}
	}
}

func TestSentences(t *testing.T) {
	for text, want := range map[string][]Asked{
		"24 tagliatelle for the Pharos at 12:30": {{Who: "the Pharos", What: "tagliatelle", Amount: Amount{24,
			Portions},
			When: When{"", 750}}},
		"12 portions of yolk tagliolini for us by 7 pm": {{Who: "us", What: "yolk tagliolini", Amount: Amount{12,
			Portions},
			When: When{"", 1140}}},
		"5 kg linguine, no egg for the Mole at noon (nut allergy)": {{Who: "the Mole", What: "linguine, no egg",
			Amount: Amount{5000, Grams}, When: When{"", 720}, Note: "nut allergy"}},
		"24 tagliatelle and 2 kg pappardelle for the Pharos tomorrow 9": {{Who: "the Pharos", What: "tagliatelle",
			Amount: Amount{24, Portions}, When: When{"2026-12-02", 540}, Message: 1}, {Who: "the Pharos",
			What:   "pappardelle",
			Amount: Amount{2000, Grams}, When: When{"2026-12-02", 540}, Message: 1}},
		"Quay inn: 40 pieces of ravioli, 6 orecchiette, half past ten": {{Who: "Quay inn", What: "ravioli",
			Amount: Amount{40, Pieces}, When: When{"", 630}, Message: 1}, {Who: "Quay inn", What: "orecchiette",
			Amount: Amount{6, Portions}, When: When{"", 630}, Message: 1}},
		"8 linguine for Room 9 at 11": {{Who: "Room 9", What: "linguine", Amount: Amount{8, Portions}, When: When{"",
			660}}},
		"Pharos; tagliatelle; 24; 12:30; no egg": {{Who: "Pharos", What: "tagliatelle", Amount: Amount{24, Portions},
			When: When{"", 750}, Note: "no egg"}},
		"Wann\tKunde\tWas\tMenge\tEinheit\n24:01\tHotel Düne\tTagliatelle\t5\tkg": {{Who: "Hotel Düne",
			What:   "Tagliatelle",
			Amount: Amount{5000, Grams}, When: When{"", 1441}}},
		"who,what,amount,date,when,note\n\"A, B\",lasagne,6,2026-12-05,9,\"two\nlines\"": {{Who: "A, B",
			What:   "lasagne",
			Amount: Amount{6, Portions}, When: When{"2026-12-05", 540}, Note: "two lines"}},
	} {
		got, wrong := Read(text, today)
		if len(wrong) > 0 || len(got) != len(want) {
			t.Errorf("%q: %+v, %v", text, got, wrong)
			continue
		}
		for i := range got {
			got[i].Line = 0
			if got[i] != want[i] {
				t.Errorf("%q: %+v, want %+v", text, got[i], want[i])
			}
		}
	}
	for text, want := range map[string]string{ // over several lines
		"Hi,\n\nNet loft, tomorrow 9:\n- 6 tagliatelle\n\n- 4 ravioli (no egg)\nThank you!": "Net loft;tagliatelle;6;" +
			"2026-12-02 9:00;\nNet loft;ravioli;4;2026-12-02 9:00;no egg\n",
		"Order for Hotel Düne:\n• 1,5 kg Bandnudeln\n• 12 Ravioli und 3 Lasagne\nFreitag um halb elf": "Hotel Düne;" +
			"Bandnudeln;1.5 kg;2026-12-04 10:30;\nHotel Düne;Ravioli;12;2026-12-04 10:30;\nHotel Düne;Lasagne;3;" +
			"2026-12-04 10:30;\n",
		"domani alle 9, Locanda:\n6 tagliatelle\n8 linguine for Anna at noon": "Locanda;tagliatelle;6;" +
			"2026-12-02 9:00;\nAnna;linguine;8;12:00;\n",
		"Net loft, noon:\n6 tagliatelle\n4 ravioli (no egg)\n\n(nut allergy!)": "Net loft;tagliatelle;6;12:00;" +
			"nut allergy!\nNet loft;ravioli;4;12:00;\"no egg; nut allergy!\"\n",
		"6 tagliatelle for Anna at noon\nNet loft, tomorrow 9: 3 trays of lasagne": "Anna;tagliatelle;6;" +
			"12:00;\n?2",
		"Net loft (nut allergy), noon:\n6 tagliatelle": "Net loft;tagliatelle;6;12:00;nut allergy\n",
		"6 tagliatelle for Anna at noon\nnut allergy!": "Anna;tagliatelle;6;12:00;\n?2",
		"Quay inn: 6 tagliatelle, noon\n4 ravioli":     "Quay inn;tagliatelle;6;12:00;\n?2",
		"Net loft:\n6 tagliatelle\n4 ravioli":          "?1", // no moment
		"Net loft, noon:\n6 tagliatelle\nat 1 pm":      "?1", // two
		"Net loft, noon:\n6 tagliatelle\n4 trays of lasagne\n\n2 kg linguine for Anna at 9": "Anna;linguine;" +
			"2 kg;9:00;\n?3",
		"for Friday:\n6 tagliatelle": "?1",
	} {
		got, wrong := Read(text, today)
		said := ""
		for _, a := range got {
			said += a.Row()
		}
		for _, e := range wrong {
			said += fmt.Sprintf("?%d", e.Line)
		}
		if said != want {
			t.Errorf("%q: %s %v", text, said, wrong)
		}
		if again, still := Read(Kept(text, wrong), today); len(again) > 0 || len(still) != len(wrong) {
			t.Errorf("%q: %q stays, read as %v, %v", text, Kept(text, wrong), again, still)
		}
	}
	for text, says := range map[string]string{
		"3 trays of lasagne for Pharos at 11":                  "said in trays",
		"tagliatelle for Pharos at 11":                         "says no amount",
		"6 tagliatelle 4 nastri for the Mole at 12:30":         "second number",
		"6 tagliatelle for the Mole":                           "when is it wanted",
		"500 kg tagliatelle for the Mole at 9":                 "several orders",
		"6 tagliatelle and some ravioli for the Mole at 25:61": "when",
		"A; tagliatelle; six wheels; 9":                        "number of portions",
		"just words":                                           "it wants who",
	} {
		if got, wrong := Read(text, today); len(got) > 0 || len(wrong) == 0 || !strings.Contains(wrong[0].Text, says) {
			t.Errorf("%q: %+v, %v", text, got, wrong)
		}
	}
	// Line numbers are those of the text, over blank lines and quoted breaks.
	_, wrong := Read("\ufeffwho;what;portions;when\r\n\r\nA;\"x\ny\";0;9\r\nB;z;4;never\n", today)
	if len(wrong) != 2 || wrong[0].Line != 3 || wrong[1].Line != 5 {
		t.Errorf("%+v", wrong)
	}
	if got, wrong := Read(strings.Repeat("A; b; 1; 9\n", 2000), today); len(got) != MostLines || len(wrong) != 1 {
		t.Errorf("%d orders, %v", len(got), wrong)
	}
	for _, long := range []string{strings.Repeat("friday ", 20000), strings.Repeat("a:\n", 20000),
		"a:\n" + strings.Repeat("1 x, ", 20000), "1 x for " + strings.Repeat("y, ", 20000) + " at 9",
		strings.Repeat("a:\n1 friday at nine\n", 5000)} {
		if got, wrong := Read(long, today); len(got) > 0 || len(wrong) == 0 {
			t.Errorf("%.40q: %d orders, %d faults", long, len(got), len(wrong))
		}
	}
	got, _ := Read("🍝 bar; tagliatelle; 4; 9\n\u202eevil\u202c; x; 1; 9\nمطعم; y; 2; 10", today)
	if len(got) != 3 || got[0].Who != "🍝 bar" || got[1].Who != "evil" || got[2].Who != "مطعم" {
		t.Errorf("%+v", got)
	}
}

// TestNeed: 6 portions at 120 g and 5 kg are 5,720 g; of filled, 40 pieces and 4 portions of 13 pieces of 11.6 g are
// 1,067 g.
func TestNeed(t *testing.T) {
	ribbons := Yield{PortionG: 120}
	sum := 0.
	for _, a := range []Amount{{6, Portions}, {5000, Grams}} {
		n, err := a.Portions(ribbons)
		if err != nil {
			t.Fatal(err)
		}
		sum += n * ribbons.PortionG
	}
	if math.Abs(sum-5720) > 1e-6 {
		t.Errorf("%g g", sum)
	}
	filled := Yield{PortionG: 13 * 11.6, Pieces: 13}
	sum = 0
	for _, a := range []Amount{{40, Pieces}, {4, Portions}} {
		n, _ := a.Portions(filled)
		sum += n * filled.PortionG
	}
	if math.Abs(sum-1067.2) > 1e-6 {
		t.Errorf("%g g", sum)
	}
	dried := Yield{PortionG: 100, DryShare: .28, BoxG: 500}
	if n, err := (Amount{2, Boxes}).Portions(dried); err != nil || math.Abs(n-1000/.72/100) > 1e-9 {
		t.Errorf("%g, %v", n, err)
	}
	for _, a := range []Amount{{2, Boxes}, {4, Pieces}} {
		if _, err := a.Portions(ribbons); err == nil {
			t.Errorf("%+v is guessed", a)
		}
	}
}

func FuzzRead(f *testing.F) {
	f.Add("24 tagliatelle for the Pharos at 12:30\nA;b;1;9")
	f.Add("who,what,portions,when\n\"x\",y,1e3,24:00")
	f.Add("Net loft, tomorrow 9:\n- 6 tagliatelle\n- 4 ravioli (no egg)\nThank you!")
	f.Add("Hallo, 1,5 kg x für Hotel Düne am 4.12. um Viertel nach zehn; ohne Ei")
	f.Add("Pharos: 2 kg x and half a dozen y, tomorrow at half past ten (no egg)")
	f.Fuzz(func(t *testing.T, text string) {
		all, _ := Read(text, today)
		if len(all) > mostItems*MostLines {
			t.Errorf("%d orders", len(all))
		}
		for _, a := range all {
			if a.Who == "" || a.What == "" || a.Amount.check() != nil || a.When.Due < 0 || a.When.Due > LastMin ||
				strings.ContainsAny(a.Who+a.What+a.Note, "\n\r\x00") {
				t.Errorf("%q: %+v", text, a)
			}
		}
	})
}

// TestShares: the earliest due is filled first, and what is lacking is said in the order's own unit.
func TestShares(t *testing.T) {
	all := []Wanted{{1, 720, 8, Amount{8, Portions}}, {2, 660, 10, Amount{1.2e3, Grams}}, {3, 720, 4, Amount{40,
		Pieces}}}
	for made, want := range map[float64][]float64{22: {8, 10, 4}, 21.6: {8, 10, 4}, 19: {8, 10, 1}, 12: {2, 10, 0},
		5: {0, 5, 0}, 0: {0, 0, 0}} {
		got := Shares(made, .98, all)
		for i := range got {
			if math.Abs(got[i]-want[i]) > 1e-9 {
				t.Errorf("of %g: %v, want %v", made, got, want)
				break
			}
		}
	}
	for i, c := range []struct {
		w   Wanted
		got float64
		say string
	}{{all[0], 8, ""}, {all[0], 5, "gets 5 of 8 portions, 3 short"}, {all[1], 5, "gets 600 g of 1.2 kg, 600 g short"},
		{all[2], 1, "gets 10 pieces of 40 pieces, 30 pieces short"}, {all[0], 7.9, ""}} {
		if said := c.w.ShortWords(c.got, .98); said != c.say {
			t.Errorf("%d: %q", i, said)
		}
	}
}

// What stays of a text that is wrong in places reads as it stood: under its head, with its line breaks, and with all
// that is beyond what is read at once.
func TestKept(t *testing.T) {
	today := time.Date(2026, 12, 1, 9, 0, 0, 0, time.UTC)
	text := "when,note,who,what,amount\n10:30,,Anna,tagliatelle,4\n" +
		"late,\"ring\ntwice\",Bruno,linguine,6\n11:00,,Cleo,orecchiette,2"
	all, wrong := Read(text, today)
	if len(all) != 2 || len(wrong) != 1 || wrong[0].Line != 3 || wrong[0].Part != "when" {
		t.Fatalf("%+v, %v", all, wrong)
	}
	kept := Kept(text, wrong)
	all, wrong = Read(strings.Replace(kept, "late", "9", 1), today)
	if len(all) != 1 || len(wrong) > 0 || all[0].Who != "Bruno" || all[0].What != "linguine" ||
		all[0].When.Due != 540 || all[0].Note != "ring twice" {
		t.Fatalf("kept %q, read as %+v, %v", kept, all, wrong)
	}
	row := all[0]
	row.When.Date, row.When.Due, row.Note = "2026-12-03", 1441, `"loud"; twice`
	if back, wrong := Read(row.Row(), today); len(back) != 1 || len(wrong) > 0 || back[0].Row() != row.Row() ||
		back[0].When != row.When || back[0].Note != row.Note {
		t.Errorf("%q is read as %+v, %v", row.Row(), back, wrong)
	}
	line := "%d tagliatelle for C%d at noon\n"
	var many strings.Builder
	for i := range 450 {
		fmt.Fprintf(&many, line, i%9+1, i)
	}
	left, read := many.String(), 0
	for range 3 {
		all, wrong = Read(left, today)
		left, read = Kept(left, wrong), read+len(all)
	}
	if read != 450 || left != "" {
		t.Errorf("%d read, %q left", read, left)
	}
}
