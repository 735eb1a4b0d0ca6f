package draw

import (
	"fmt"
	"html"
	"strings"

	"hollen/internal/core/plan"
)

// file begins a drawing for other programs: true to scale in mm, styled by attributes alone, with
// meta in its metadata.
func file(b *strings.Builder, title, meta string, wMM, hMM float64) {
	fmt.Fprintf(b,
		`<svg xmlns="http://www.w3.org/2000/svg" width="%smm" height="%smm" viewBox="0 0 %s %s">`+
			"\n<title>%s</title>\n<metadata>%s</metadata>\n",
		num(wMM), num(hMM), num(wMM), num(hMM), html.EscapeString(title), html.EscapeString(meta))
}

func fileText(b *strings.Builder, x, y, size float64, text string) {
	fmt.Fprintf(b, `<text x="%s" y="%s" font-family="sans-serif" font-size="%s" fill="#29241e">%s</text>`+"\n", num(x),
		num(y), num(size),
		html.EscapeString(text))
}

// CutFile draws one sheet of a part and everything cut from it as an SVG document, 1 unit to
// 1 mm: the sheet under id sheet, each cutout in the group cutouts.
func CutFile(p *plan.Plan, x *plan.CutPart, meta string) string {
	const caption = 10.
	var b strings.Builder
	long, wide := x.SheetMM()
	file(&b, sheetTitle(p, x), meta, long, wide+caption)
	fmt.Fprintf(&b, `<rect id="sheet" width="%s" height="%s" fill="#fbf7ec" stroke="#8f8268" stroke-width="0.2"/>`+"\n",
		num(long),
		num(wide))
	fmt.Fprintf(&b, `<g id="cutouts" fill="%s" stroke="#29241e" stroke-width="0.15">`+"\n", p.Formula.Colour.Face)
	for _, o := range x.Cutouts() {
		if o.Round {
			fmt.Fprintf(&b, `<circle cx="%s" cy="%s" r="%s"/>`+"\n", num(o.X+o.W/2), num(o.Y+o.H/2), num(o.W/2))
		} else {
			fmt.Fprintf(&b, `<rect x="%s" y="%s" width="%s" height="%s"/>`+"\n", num(o.X), num(o.Y), num(o.W), num(o.H))
		}
	}
	b.WriteString("</g>\n")
	fileText(&b, 1, wide+6, 4, fmt.Sprintf("%s: %s, sheet %.2f mm, true to scale", p.Request.Name, x.Shape.Name,
		x.ThickMM()))
	b.WriteString("</svg>\n")
	return b.String()
}

// LadderFile draws the way down as a card to hold a sheet's edge against, an SVG document 1
// unit to 1 mm: one bar to a pass in the group sheets, each as high as its sheet is thick, and a
// line of 50 mm under id check to measure the print by.
func LadderFile(p *plan.Plan, meta string) string {
	const (
		wide = 120.
		bar  = 40.
		left = 6.
	)
	var rows strings.Builder
	var marks strings.Builder
	y := 14.
	for i, x := range p.Roll.Passes {
		fmt.Fprintf(&rows, `<rect x="%s" y="%s" width="%s" height="%s"/>`+"\n", num(left), num(y), num(bar),
			num(x.OutMM))
		stop := ""
		if x.Label != "" {
			stop = fmt.Sprintf("stop %s, gap %.2g: ", x.Label, x.GapMM)
		}
		fileText(&marks, left+bar+4, y+x.OutMM/2+1.2, 3.4, fmt.Sprintf("%d. %s%.2f mm", i+1, stop, x.OutMM))
		y += max(x.OutMM, 3) + 4
	}
	var b strings.Builder
	file(&b, "The way down of "+p.Request.Name+", sheets in their true thickness", meta, wide, y+12)
	fileText(&b, left, 8, 4.5, p.Request.Name+", "+p.Roll.Machine.Name)
	fmt.Fprintf(&b, `<g id="sheets" fill="%s" stroke="none">`+"\n%s</g>\n%s", p.Formula.Colour.Face, rows.String(),
		marks.String())
	fmt.Fprintf(&b, `<path id="check" d="M%s %sh50" stroke="#29241e" stroke-width="0.3"/>`+"\n", num(left), num(y+2))
	fileText(&b, left, y+7, 3.2, "This line is 50 mm; if not, the print is not true to scale.")
	b.WriteString("</svg>\n")
	return b.String()
}
