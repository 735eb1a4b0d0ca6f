package page

import (
	"net/url"
	"testing"
)

// Languages write decimals and thousands in their own way; what writes other digits, or says nothing, gets Hollen's.
func TestMarksOfLanguages(t *testing.T) {
	for lang, want := range map[string]string{"de": "1.294,5", "it": "1.294,5", "es": "1.294,5", "fr": "1\u00a0294,5",
		"sv":    "1\u00a0294,5",
		"de-CH": "1’294.5", "ja": "1,294.5",
		"en-GB": "1,294.5", "ar-EG": "1,294.5", "tlh-x": "1,294.5", "not a tag!": "1,294.5"} {
		if got := marksIn(lang).figure("1,294.5"); got != want {
			t.Errorf("%s writes %q, want %q", lang, got, want)
		}
	}
}

// Of a page only figures change: those in prose, in drawings and in fields.
func TestMarksOnAPage(t *testing.T) {
	de := Marks{",", "."}
	for _, c := range [][2]string{
		{`<p>1,294 g at 54.3 %, 0.85 mm.</p>`, `<p>1.294 g at 54,3 %, 0,85 mm.</p>`},
		{`<p>1,234,567.5</p>`, `<p>1.234.567,5</p>`},
		{`<p>1, 2, 3. At 2. 5</p>`, `<p>1, 2, 3. At 2. 5</p>`},
		{`<p>v1.2, 1.2.3, stop 2.5, a/1.5 &#43;1.5</p>`, `<p>v1.2, 1.2.3, stop 2.5, a/1.5 &#43;1,5</p>`},
		{`<p translate="no">0.8 <p>1.5</p> 2.5</p>3.5`, `<p translate="no">0.8 <p>1.5</p> 2.5</p>3,5`},
		{"<td\ntranslate=\"no\">0.8 mm</td><td>1.5</td>", "<td\ntranslate=\"no\">0.8 mm</td><td>1,5</td>"},
		{
			`<input inputmode="decimal" value="54.3" placeholder="1.25">`,
			`<input inputmode="decimal" value="54,3" placeholder="1,25">`,
		},
		{
			`<input type="hidden" name="amount.flour_g" value="1.125">`,
			`<input type="hidden" name="amount.flour_g" value="1,125">`,
		},
		{`<input type="hidden" name="note" value="1.125">`, `<input type="hidden" name="note" value="1.125">`},
		{
			`<form method="post"><input name="g" inputmode="decimal" value="1.5"><input name="who" value="1.250">` +
				`</form>`,
			`<form method="post">` +
				`<input name="g" inputmode="decimal" value="1,5"><input name="who" value="1.250">` +
				`<input type="hidden" name="figures" value="g"></form>`,
		},
		{
			`<form method="get"><input name="g" inputmode="decimal" value="1.5"></form>`,
			`<form method="get"><input name="g" inputmode="decimal" value="1,5"></form>`,
		},
		{`<input name="name" value="1.125">`, `<input name="name" value="1.125">`},
		{`<input type="range" min="0.5" value="1.25">`, `<input type="range" min="0.5" value="1.25">`},
		{
			`<i data-value="1.5" data-auto="2.5"></i><b data-value="1.5">2.5</b>`,
			`<i data-value="1,5" data-auto="2,5"></i><b data-value="1.5">2,5</b>`,
		},
		{`<textarea>1.5 cups</textarea>`, `<textarea>1.5 cups</textarea>`},
		{
			`<svg width="1.5"><text data-own="">2.5</text><text>1.5</text></svg>`,
			`<svg width="1.5"><text data-own="">2.5</text><text>1,5</text></svg>`,
		},
		{`<button value="amount.flour_g=1.5">1.5</button>`, `<button value="amount.flour_g=1.5">1,5</button>`},
	} {
		in, want := c[0], c[1]
		if got := string(de.page([]byte(in))); got != want {
			t.Errorf("%s\ngot  %s\nwant %s", in, got, want)
		}
		if got := string(plain.page([]byte(in))); got != in {
			t.Errorf("plain marks changed %s to %s", in, got)
		}
	}
}

// A figure is read in the reader's marks; where it cannot be told apart, as Hollen always reads it. Words stay to the
// letter,
// whatever their field is called.
func TestMarksAreRead(t *testing.T) {
	de, fr := Marks{",", "."}, Marks{",", "\u202f"}
	for _, c := range []struct {
		m         Marks
		key       string
		in, plain string
	}{
		{de, "a", "1.294", "1294"}, {de, "a", "1.294,5 g", "1294.5 g"}, {de, "a", "1,294", "1.294"}, {de, "a", "54,3",
			"54,3"}, {de, "a", "0.125", "0.125"},
		{de, "a", "12.5", "12.5"}, {de, "a", "1.294.5", "1.294.5"}, {de, "a", "2 kg", "2 kg"}, {de, "amount.flour_g",
			"1.294", "1294"},
		{de, "g.flours.1.share", "1.294", "1294"}, {de, "doctor.minutes", "1.294", "1294"}, {de, "doctor.amount.dry.1",
			"1,294", "1.294"},
		{de, "name", "1.294", "1.294"}, {de, "cut.filling.name", "1.294", "1.294"}, {de, "who", "1.250 Gasthof",
			"1.250 Gasthof"},
		{de, "note", "2,500 Stk Teller", "2,500 Stk Teller"}, {de, "next", "1.250 g", "1.250 g"},
		{fr, "a", "1.294", "1.294"}, {fr, "a", "1,294", "1.294"}, {plain, "a", "1,294", "1,294"}, {plain, "a", "1.294",
			"1.294"},
	} {
		form := url.Values{c.key: {c.in}, inForm: {"b a"}}
		c.m.read(form)
		if got := form.Get(c.key); got != c.plain {
			t.Errorf("%s of %s in %+v is read %q, want %q", c.in, c.key, c.m, got, c.plain)
		}
	}
}
