package draw

import (
	"fmt"
	"html"
	"math"
	"strings"
)

// DayBar is one thing in a lane: from and to in min, and what stands on it.
type DayBar struct {
	From, To    float64
	Letter      string // of the batch
	Words       string // behind the letter, where there is room
	Says        string // the whole of it in a sentence
	Class       string // done, soft, clash, off, pinned, clean
	Face, Edge  string // of the dough’s colour; "" as the class says
	Href        string // where it leads; "" nowhere
	Task        string // its key, where it may be dragged
	CleanBefore float64
}

// DayLane is one row of a day: a person, the roller, what rests.
type DayLane struct {
	Name, Small string
	Own         bool // the name is the maker’s own
	Bars        []DayBar
}

// DayFlag stands at a moment: an order that is due.
type DayFlag struct {
	At    float64
	Words string
	Late  bool
}

// Day is a day to scale in time, all in min from midnight.
type Day struct {
	Title    string
	From, To float64
	Now      float64 // none where it lies outside
	NowWords string
	Lanes    []DayLane
	Flags    []DayFlag
}

const (
	dayLabel = 112.
	dayRow   = 38.
	dayHours = 34. // under the flags
	dayFlag  = 26.
)

// scale is how many units a minute takes.
func (d *Day) scale() float64 { return max(1.35, 1112/max(d.To-d.From, 60)) }

// rows puts bars into as few rows as they need, none over another.
func rows(bars []DayBar) (out [][]DayBar) {
	for _, b := range bars {
		at := 0
		for at < len(out) && out[at][len(out[at])-1].To > b.From+.01 {
			at++
		}
		if at == len(out) {
			out = append(out, nil)
		}
		out[at] = append(out[at], b)
	}
	return out
}

// SVG returns the picture of the day.
func (d *Day) SVG() string {
	k := d.scale()
	x := func(minutes float64) float64 { return dayLabel + (minutes-d.From)*k }
	right := x(d.To)
	var b strings.Builder
	flags, head := d.placed(x)
	top := head
	b2, names := &strings.Builder{}, &strings.Builder{}
	for i, lane := range d.Lanes {
		all := rows(lane.Bars)
		h := dayRow*float64(max(1, len(all))) + 8
		own := ""
		if lane.Own {
			own = ` data-own=""`
		}
		fmt.Fprintf(b2, `<text class="lane-name" x="12" y="%s"%s>%s</text>`, num(top+24), own,
			html.EscapeString(clip(lane.Name, 13)))
		if lane.Small != "" {
			fmt.Fprintf(b2, `<text class="lane-small" x="12" y="%s">%s</text>`, num(top+40),
				html.EscapeString(clip(lane.Small, 17)))
		}
		d.name(names, lane, top)
		for r, row := range all {
			for _, bar := range row {
				d.bar(b2, bar, x, k, top+5+dayRow*float64(r))
			}
		}
		top += h
		if i < len(d.Lanes)-1 {
			fmt.Fprintf(b2, `<path class="lane-line" d="M0 %sH%s"/>`, num(top), num(right))
		}
	}
	w, hgt := right+12, top
	fmt.Fprintf(&b,
		`<div class="chart day-chart" style="--least:%.0fpx;--names:%.0fpx;--share:%.2f%%"><div class="lane-names" `+
			`aria-hidden="true" style="--high:%s">%s</div>`+
			`<svg class="draw day-lanes" viewBox="0 0 %s %s" role="group" aria-label="%s" `+
			`data-from="%s" data-scale="%s" data-left="%s">`+
			`<rect class="day-ground" x="0" y="0" width="%s" height="%s"/>`,
		w*textPX/textUnits, dayLabel*textPX/textUnits, 100*dayLabel/w, num(hgt), names, num(w), num(hgt),
		html.EscapeString(d.Title), num(d.From), num(k), num(dayLabel), num(w), num(hgt))
	step := 60.
	if k*60 < 70 {
		step = 120
	}
	for m := math.Ceil(d.From/step) * step; m <= d.To; m += step {
		fmt.Fprintf(&b, `<path class="hair" d="M%s %sV%s"/>`, num(x(m)), num(head), num(hgt))
		hidden := d.Now > d.From && d.Now < d.To && math.Abs(x(m)-x(d.Now)) < 54 // under the box of what is now
		if x(m) > dayLabel+18 && x(m) < right-14 && !hidden {
			fmt.Fprintf(&b, `<text class="m hour" x="%s" y="%s">%d:00</text>`, num(x(m)), num(head-8), int(m/60)%24)
		}
	}
	fmt.Fprintf(&b, `<path class="lane-edge" d="M0 %sH%s"/><path class="lane-line" d="M%s %sV%s"/>`, num(head), num(w),
		num(dayLabel), num(head), num(hgt))
	if d.Now > d.From && d.Now < d.To {
		fmt.Fprintf(&b, `<path class="now-line" d="M%s %sV%s"/>`, num(x(d.Now)), num(head-8), num(hgt))
	}
	for _, f := range flags { // under the bars: it crosses no words
		fmt.Fprintf(&b, `<path class="due-line" d="M%s %sV%s"/>`, num(f.at), num(f.top), num(hgt))
	}
	b.WriteString(b2.String())
	for _, f := range flags {
		f.draw(&b)
	}
	if d.Now > d.From && d.Now < d.To {
		fmt.Fprintf(&b,
			`<rect class="now-box" x="%s" y="%s" width="56" height="22" rx="3"/>`+
				`<text class="m now-word" x="%s" y="%s">%s</text>`,
			num(x(d.Now)-28), num(head-26), num(x(d.Now)), num(head-10), html.EscapeString(d.NowWords))
	}
	b.WriteString("</svg></div>")
	return b.String()
}

// name writes the name of a lane once more, for where the picture is wider than its window: it stays while the picture
// goes by under it. top is where the lane begins, of the picture's height.
func (d *Day) name(b *strings.Builder, lane DayLane, top float64) {
	own := ""
	if lane.Own {
		own = ` translate="no"`
	}
	fmt.Fprintf(b, `<b style="--top:%s"%s>%s</b>`, num(top), own, html.EscapeString(clip(lane.Name, 13)))
}

// placedFlag is a flag and where its words stand.
type placedFlag struct {
	DayFlag
	at, left, width, top float64
}

// placed puts the flags into as few rows as keep their words apart, and returns how high the head of the picture is.
func (d *Day) placed(x func(float64) float64) (out []placedFlag, head float64) {
	var ends []float64
	right := x(d.To)
	for _, f := range d.Flags {
		p := placedFlag{DayFlag: f, at: x(f.At), width: 7.4*float64(len([]rune(f.Words))) + 18}
		if p.left = p.at; p.at+p.width > right+10 {
			p.left = p.at - p.width
		}
		row := 0
		for row < len(ends) && ends[row] > p.left-4 {
			row++
		}
		if row == len(ends) {
			ends = append(ends, 0)
		}
		ends[row] = max(p.left+p.width, p.at+8)
		p.top = 4 + dayFlag*float64(row)
		out = append(out, p)
	}
	return out, dayHours + dayFlag*float64(len(ends))
}

func (f *placedFlag) draw(b *strings.Builder) {
	class := "due-flag"
	if f.Late {
		class += " is-late"
	}
	fmt.Fprintf(b, `<rect class="%s" x="%s" y="%s" width="%s" height="22"/>`, class, num(f.left), num(f.top),
		num(f.width))
	fmt.Fprintf(b, `<text class="due-word" x="%s" y="%s" data-own="">%s</text>`, num(f.left+8), num(f.top+16),
		html.EscapeString(f.Words))
}

// bar draws one thing of a lane.
func (d *Day) bar(b *strings.Builder, bar DayBar, x func(float64) float64, k, y float64) {
	left, w := x(bar.From), math.Max((bar.To-bar.From)*k, 3)
	h, r := 32., 2.
	if strings.Contains(bar.Class, "soft") {
		y = y + 4
		h = 24
		r = 12
	}
	put := func(parts ...string) {
		for _, p := range parts {
			b.WriteString(p)
		}
	}
	tag, says := "g", html.EscapeString(bar.Says)
	if bar.Href != "" {
		tag = "a"
	}
	put("<", tag, ` class="day-bar `, bar.Class, `"`)
	if bar.Href != "" {
		put(` href="`, html.EscapeString(bar.Href), `"`)
	}
	if bar.Task != "" {
		put(` data-task="`, html.EscapeString(bar.Task), `" data-start="`, num(bar.From), `"`)
	}
	if bar.Face != "" {
		put(
			` style="--dough:`,
			html.EscapeString(bar.Face),
			";--dough-edge:",
			html.EscapeString(bar.Edge),
			";--on-dough:",
			OnDough(bar.Face),
			`"`,
		)
	}
	words := ""
	if bar.Letter != "" || bar.Words != "" {
		words = fitting(bar.Words, int((w-24)/6.9))
		shown := words
		if w < 20 && bar.Letter != "" {
			shown = ""
		}
		if shown = strings.TrimSpace(bar.Letter + " " + shown); shown != "" &&
			!strings.Contains(bar.Says, shown) { // a name begins with what is read on it
			says = html.EscapeString(shown) + ". " + says
		}
	}
	put(` aria-label="`, says, `"><title data-own="">`, says, "</title>")
	if bar.CleanBefore > 0 {
		put(`<rect class="cleaning" x="`, num(left-bar.CleanBefore*k), `" y="`, num(y+8), `" width="`,
			num(bar.CleanBefore*k), `" height="`, num(h-16), `"/>`)
	}
	put(`<rect class="reach-for" x="`, num(left), `" y="`, num(y-(dayRow-h)/2), `" width="`, num(w), `" height="`,
		num(dayRow), `"/><rect class="box" x="`, num(left), `" y="`, num(y), `" width="`, num(w), `" height="`, num(h),
		`" rx="`, num(math.Min(r, w/2)), `"/>`)
	text := func(class string, x float64, words string) {
		if words != "" {
			put(`<text class="`, class, `" x="`, num(x), `" y="`, num(y+h/2+5), `" data-own="">`,
				html.EscapeString(words), "</text>")
		}
	}
	switch {
	case bar.Letter == "":
		text("bar-word", left+8, words)
	case w < 20:
		text("m bar-letter small", left+w/2, bar.Letter)
	default:
		text("bar-letter", left+6, bar.Letter)
		put(" ")
		text("bar-word", left+9+9*float64(len(bar.Letter)), words)
	}
	put("</", tag, ">")
}

// OnDough is the colour of letters on a dough, that is read best: the dark ink or the pale one.
func OnDough(face string) string {
	const dark, pale = "#2c231e", "#fdf6e6"
	var r, g, b int
	if n, err := fmt.Sscanf(face, "#%02x%02x%02x", &r, &g, &b); n != 3 || err != nil {
		return dark
	}
	linear := func(v int) float64 {
		if c := float64(v) / 255; c > .03928 {
			return math.Pow((c+.055)/1.055, 2.4)
		}
		return float64(v) / 255 / 12.92
	}
	if light := .2126*linear(r) + .7152*linear(g) + .0722*linear(b); light < .18 { // where both are read as well
		return pale
	}
	return dark
}

// fitting are words where there is room for so many letters, or the first of them; "" where there is none.
func fitting(words string, room int) string {
	if len([]rune(words)) <= room {
		return words
	}
	first, _, more := strings.Cut(words, " ")
	if first = strings.TrimRight(first, ","); more && room >= 4 && len([]rune(first)) <= room {
		return first
	}
	return ""
}

// clip cuts a name to so many letters.
func clip(s string, n int) string {
	if r := []rune(s); len(r) > n {
		return string(r[:n-1]) + "…"
	}
	return s
}
