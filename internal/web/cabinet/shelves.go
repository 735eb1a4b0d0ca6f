package cabinet

import (
	"errors"
	"fmt"
	"strings"

	"hollen/internal/core/addition"
	"hollen/internal/core/cost"
	"hollen/internal/core/dough"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// shelf is one shelf of the cabinet: what stands on it, how a row reads, and the form of one
// thing.
type shelf struct {
	Path, Name, One, Lead string
	Kind                  store.Kind
	Heads                 []column
	// shipped are the things that come with Hollen, to start from.
	shipped []any
	// form returns the lines of the form for a thing, nil for a new one, filled in like the
	// shipped thing of that key; and what finishes and checks it once they are read.
	form func(c desk, v any, like string) (entries []entry, finish func() (any, error), likeName string)
	// cells are the row of a thing: its name, then one cell to a head.
	cells func(c desk, v any) []string
	// read is how what was typed of a thing is understood, where that is worth a look; nil: it is not.
	read func(c desk, v any) reading
}

// reading is how what was typed is understood: a table, and what it comes to.
type reading struct {
	Name, Side string
	Heads      []column
	Rows       [][]string
}

// column is one of a shelf: what it is called, and whether it holds figures, which stand at the right.
type column struct {
	Name   string
	Figure bool
}

// desk is the cabinet with what its pages say of it: the sign of its prices, the units shown.
type desk struct {
	store.Cabinet
	Currency string
	In       measure.System
	Rules    rules.Rules
}

// desk reads the cabinet for its pages, or shows why it cannot be read.
func (s *Room) desk(c *page.Visit) (desk, error) {
	cab, err := c.Cabinet()
	if err != nil {
		return desk{}, err
	}
	h, err := s.House(c)
	return desk{cab, h.Prices.Currency, c.Units, s.Rules}, err
}

// shelves are the shelves of the cabinet, in the order of work.
var shelves = []shelf{flourShelf, lotShelf, eggShelf, additionShelf, yieldShelf, machineShelf, shapeShelf,
	fillingShelf, wayShelf, makerShelf}

func shelfAt(path string) (shelf, bool) {
	for _, s := range shelves {
		if s.Path == path {
			return s, true
		}
	}
	return shelf{}, false
}

// boxed returns a list as things.
func boxed[T any](list []T) []any {
	out := make([]any, len(list))
	for i, v := range list {
		out[i] = v
	}
	return out
}

func money(c desk, m cost.Money) string {
	if m == 0 {
		return ""
	}
	return c.Currency + " " + m.String()
}

var sorptions = []request.Option{{Key: string(flour.Soft), Name: "Soft wheat"}, {Key: string(flour.Hard),
	Name: "Hard wheat"},
	{Key: string(flour.Durum), Name: "Durum"}}

// startFrom is the thing v itself when it is the workshop's own, or else the shipped one of
// that key to start a new one from, the usual one when there is none of that key.
func startFrom[T any](v any, find func(string) (T, bool), key, usual string) (thing T, own bool) {
	if thing, own = v.(T); own {
		return thing, true
	}
	thing, ok := find(key)
	if !ok {
		thing, _ = find(usual)
	}
	return thing, false
}

var flourShelf = shelf{Path: "flours", Name: "Flours", One: "A flour of your own", Kind: store.FlourKind,
	Lead: "By the miller’s sheet, at 14 % moisture. Shipped figures are house values until a sheet says otherwise.",
	Heads: []column{
		{"protein", true}, {"ash", true}, {"absorption", true}, {"gluten", true}, {"uptake", true},
		{"spooned / dipped / packed, g/mL", true}, {"", false},
	},
	shipped: boxed(flour.Shipped()),
	form: func(c desk, v any, like string) ([]entry, func() (any, error), string) {
		f, own := startFrom(v, flour.Find, like, "soft-00")
		likeName := f.Name
		if !own {
			f.Name = ""
		}
		if f.MilledMoistureWB == 0 {
			f.MilledMoistureWB = .135
		}
		entries := []entry{textEntry("name", "Name", "", 1, 60, &f.Name), textEntry("label_name", "Name on the label",
			"empty: as its name", 0, 60,
			&f.Label), textEntry("allergen", "Allergen, as on the label", "empty: none", 0, 60, &f.Allergen)}
		for _, x := range flour.Figures() {
			entries = append(entries, numberEntry(x.Key, x.Label, x.Unit, x.Min, x.Max, x.Show, x.At(&f)))
		}
		sorption := choiceEntry("sorption", "Takes moisture like", (*string)(&f.Sorption), sorptions...)
		entries = append(entries, sorption, priceEntry("price_per_kg", "Price", "a kg", &f.PricePerKG),
			flagEntry("durum", "Counts as durum", &f.Durum),
			flagEntry("wholegrain", "Counts as wholegrain", &f.Wholegrain))
		return entries, func() (any, error) { return f, f.Check() }, likeName
	},
	cells: func(c desk, v any) []string {
		f := v.(flour.Flour)
		var marks []string
		if f.Durum {
			marks = append(marks, "durum")
		}
		if f.Wholegrain {
			marks = append(marks, "wholegrain")
		}
		return []string{f.Name, fmt.Sprintf("%.4g %%", f.ProteinPct), fmt.Sprintf("%.3g %%", f.AshPct),
			fmt.Sprintf("%.4g %%", f.AbsorptionPct),
			fmt.Sprintf("%.3g", f.GlutenFactor), fmt.Sprintf("%.3g min", f.UptakeTauMin),
			fmt.Sprintf("%.2f / %.2f / %.2f", f.SpoonedGPerML, f.DippedGPerML, f.PackedGPerML), strings.Join(marks,
				" ")}
	}}

// flourNames are all flours, the cabinet's first, for a choice.
func flourNames(c desk) []request.Option {
	var out []request.Option
	for _, f := range append(append([]flour.Flour{}, c.Flours...), flour.Shipped()...) {
		out = append(out, request.Option{Key: f.Key, Name: f.Name})
	}
	return out
}

var lotShelf = shelf{Path: "lots", Name: "Lots", One: "A lot", Kind: store.LotKind,
	Lead: "A sack or bag of one flour: since when it is open, how it is kept, what it was measured at, what it cost. " +
		"A batch that names its " +
		"lot reckons the days itself.",
	Heads: []column{
		{"flour", false}, {"kept in", false}, {"opened", false}, {"best before", false},
		{"measured", false}, {"a kg", true},
	},
	form: func(c desk, v any, like string) ([]entry, func() (any, error), string) {
		l, own := v.(flour.Lot)
		if !own {
			l = flour.Lot{Flour: like, How: flour.PaperBag, ContainerKG: 1}
		}
		var before, after float64
		names := flourNames(c)
		if own && page.OptionName(names, l.Flour) == "a retired flour" {
			names = append(names, request.Option{Key: l.Flour, Name: "its retired flour"})
		}
		entries := []entry{textEntry("name", "Name", "how you tell it apart", 1, 60, &l.Name), choiceEntry("flour",
			"Of which flour", &l.Flour, names...),
			choiceEntry("kept", "Kept in", (*string)(&l.How), request.Keepings()...),
			numberEntry("container_kg", "In the sack or tub", "kg", .05, 1000, 1, &l.ContainerKG),
			dateEntry("opened_on", "Opened on", &l.OpenedOn), dateEntry("best_before", "Best before", &l.BestBefore),
			numberEntry("sample_before_g", "Sample before drying", "g", 1, 1000, 1, &before).optional("loss on drying"),
			numberEntry("sample_after_g", "The same, dried to the end", "g", .5, 1000, 1,
				&after).optional("130 °C, an hour and a half"),
			numberEntry("measured_moisture_wb", "Moisture, measured", "%", 5, 20, 100,
				&l.MeasuredWB).optional("or the two above"),
			dateEntry("measured_on", "Measured on", &l.MeasuredOn),
			priceEntry("price_per_kg", "Price", "a kg", &l.PricePerKG)}
		return entries, func() (any, error) {
			if before != 0 || after != 0 {
				m, err := flour.LossOnDrying(before, after)
				if err != nil {
					return l, measure.Faultf("sample_after_g", "%v", err)
				}
				l.MeasuredWB = m
			}
			return l, l.Check()
		}, ""
	},
	cells: func(c desk, v any) []string {
		l := v.(flour.Lot)
		measured := ""
		if l.MeasuredWB > 0 {
			measured = strings.TrimSpace(fmt.Sprintf("%.1f %% %s", 100*l.MeasuredWB, measure.DayWords(l.MeasuredOn)))
		}
		return []string{l.Name, page.OptionName(flourNames(c), l.Flour), fmt.Sprintf("%s of %s",
			strings.ToLower(page.OptionName(
				request.Keepings(), string(l.How))),
			c.In.KG(l.ContainerKG, measure.Shortest)), measure.DayWords(l.OpenedOn),
			measure.DayWords(l.BestBefore), measured, money(c, l.PricePerKG)}
	}}

var eggShelf = shelf{Path: "eggs", Name: "Eggs", One: "Eggs you have weighed", Kind: store.EggKind,
	Lead: "Crack ten of a tray into a jug, weigh them without shells, then their yolks: that says how many to crack and " +
		"how much water to draw, within 0.6 g an egg. Weighing the bowl of each batch is better, and free. The " +
		"shipped " +
		"means are house values; the bands in the shell are the market’s.",
	Heads: []column{
		{"without shell", true}, {"yolk", true}, {"in the shell", true}, {"yolk colour", false},
		{"each", true},
	},
	shipped: boxed(egg.Classes()),
	form: func(c desk, v any, like string) ([]entry, func() (any, error), string) {
		e, own := v.(egg.Class)
		likeName := ""
		if !own {
			from, ok := egg.Find(like)
			if !ok {
				from, _ = egg.Find("eu-l")
			}
			e, likeName = egg.Class{Of: from.Key, Weighed: egg.Weighing{Count: 10, EggsG: 10 * from.EdibleG,
				YolksG: 10 * from.YolkG}}, from.Name
		}
		w := &e.Weighed
		count := numberEntry("count", "Eggs weighed", "", 1, 60, 1, &w.Count)
		count.Kind = request.Whole
		market := []request.Option{{Key: "", Name: "no class of the market"}}
		for _, x := range egg.Classes() {
			market = append(market, request.Option{Key: x.Key, Name: x.Name})
		}
		entries := []entry{textEntry("name", "Name", "", 1, 60, &e.Name), choiceEntry("of", "Bought as", &e.Of,
			market...),
			count, numberEntry("eggs_g", "They weigh, without shells", "g", 25, 6000, 1, &w.EggsG),
			numberEntry("yolks_g",
				"Of that their yolks", "g", 8, 2400, 1, &w.YolksG),
			numberEntry("yolk_colour", "Yolk colour on the fan", "of 15", 1, 15, 1,
				&e.YolkColour).optional("empty: 10"),
			priceEntry("price_each", "Price", "an egg", &e.PriceEach)}
		return entries, func() (any, error) {
			e = e.Means(c.Rules.Measure)
			err := e.Check()
			var out []error
			for _, f := range measure.Faults(err) { // the means are wrong where the weighing is
				switch f.Field {
				case "edible_g":
					f = measure.Fault{Field: "eggs_g", Text: "an egg of " + f.Text}
				case "yolk_g":
					f = measure.Fault{Field: "yolks_g", Text: "a yolk of " + f.Text}
				}
				out = append(out, f)
			}
			return e, errors.Join(out...)
		}, likeName
	},
	cells: func(c desk, v any) []string {
		e := v.(egg.Class)
		colour := ""
		if e.YolkColour > 0 {
			colour = fmt.Sprintf("%g of 15", e.YolkColour)
		}
		shell := c.In.Prose(e.ShellG)
		if e.Weighed.Count > 0 {
			shell = fmt.Sprintf("%g weighed", e.Weighed.Count)
		}
		return []string{e.Name, c.In.G(e.EdibleG, 1), c.In.G(e.YolkG, 1), shell, colour, money(c, e.PriceEach)}
	}}

var additionKinds = []request.Option{{Key: string(addition.Puree), Name: "Purée, with the eggs"},
	{Key: string(addition.Powder), Name: "Powder, into the flour"}, {Key: string(addition.Herb), Name: "Herb, chopped"},
	{Key: string(addition.Liquid), Name: "Liquid, with the eggs"}}

var additionShelf = shelf{Path: "additions", Name: "Additions", One: "An addition of your own",
	Kind: store.AdditionKind,
	Lead: "What goes in beside flour, egg, water, salt and oil: it brings water and fat, takes water up, colours the " +
		"dough. Salt and oil " +
		"have fields of their own in a batch; milk can be the top-up, too.",
	Heads: []column{
		{"colour", false}, {"water", true}, {"fat", true}, {"takes up", true}, {"usual dose", true},
		{"a kg", true},
	},
	shipped: boxed(addition.Shipped()),
	form: func(c desk, v any, like string) ([]entry, func() (any, error), string) {
		a, own := startFrom(v, addition.Find, like, "spinach")
		likeName := a.Name
		if !own {
			a.Name = ""
		}
		colour := textEntry("colour", "Draws the dough to", "", 7, 7, &a.Colour)
		colour.Type = "color"
		entries := []entry{textEntry("name", "Name", "", 1, 60, &a.Name), choiceEntry("kind", "It goes in as",
			(*string)(&a.Kind), additionKinds...),
			colour,
			textEntry("colour_word", "Colour, in a word", "", 0, 40, &a.ColourWord)}
		for _, x := range addition.Figures() {
			entries = append(entries, numberEntry(x.Key, x.Label, x.Unit, x.Min, x.Max, x.Show, x.At(&a)))
		}
		entries = append(entries, textEntry("label_name", "Name on the label", "empty: as its name", 0, 60, &a.Label),
			textEntry("allergen", "Allergen, as on the label", "empty: none", 0, 60, &a.Allergen),
			priceEntry("price_per_kg", "Price", "a kg", &a.PricePerKG),
			textEntry("advice", "How to prepare it", "", 0, 200, &a.Advice), flagEntry("salty", "Salty by itself",
				&a.Salty))
		return entries, func() (any, error) { return a, a.Check() }, likeName
	},
	cells: func(c desk, v any) []string {
		a := v.(addition.Addition)
		uptake := ""
		if a.UptakeGPerG > 0 {
			uptake = fmt.Sprintf("%.2g g/g", a.UptakeGPerG)
		}
		return []string{a.Name, a.Colour, fmt.Sprintf("%.3g %%", 100*a.WaterShare), fmt.Sprintf("%.2g %%",
			100*a.FatShare), uptake,
			fmt.Sprintf("%.3g–%.3g %%", 100*a.LowShare, 100*a.HighShare), money(c, a.PricePerKG)}
	}}

var yieldShelf = shelf{Path: "powders", Name: "Powders", One: "A drying as it went", Kind: store.YieldKind,
	Lead: addition.Drying + " Write down what your own dryings gave; the sum above goes by them.",
	Heads: []column{
		{"dried on", false}, {"fresh", true}, {"powder", true}, {"of the fresh", true}, {"hours", true},
	},
	form: func(c desk, v any, like string) ([]entry, func() (any, error), string) {
		y, own := v.(addition.Yield)
		if !own {
			y = addition.Yield{Of: vegetableName(like), Hours: 10}
		}
		entries := []entry{textEntry("of", "What was dried", "", 1, 60, &y.Of), dateEntry("dried_on", "Dried on",
			&y.DriedOn),
			numberEntry("fresh_g", "Fresh, trimmed", "g", 10, 100000, 1, &y.FreshG),
			numberEntry("powder_g", "Powder, sieved", "g", .1, 50000, 1, &y.PowderG), numberEntry("hours", "Hours", "h",
				0, 72, 1, &y.Hours)}
		return entries, func() (any, error) { return y, y.Check() }, ""
	},
	cells: func(c desk, v any) []string {
		y := v.(addition.Yield)
		return []string{y.Of, measure.DayWords(y.DriedOn), c.In.Grams(y.FreshG), c.In.Grams(y.PowderG),
			fmt.Sprintf("%.1f %%",
				100*y.Share()), fmt.Sprintf("%.3g", y.Hours)}
	}}

func vegetableName(key string) string {
	for _, v := range addition.Vegetables() {
		if v.Key == key {
			return v.Name
		}
	}
	return ""
}

var machineTools = []request.Option{{Key: string(dough.Roller), Name: "Roller machine with stops"},
	{Key: string(dough.Sheeter), Name: "Powered sheeter"}, {Key: string(dough.Pin), Name: "Rolling pin and board"}}

var machineShelf = shelf{Path: "machines", Name: "Machines", One: "A machine of your own", Kind: store.MachineKind,
	Lead: "Stops from the widest to the finest, each with the label on the dial and its gap in mm. Labels may rise " +
		"or fall: only the order " +
		"counts. Measure a few sheets, and the plan stands on your machine.",
	Heads: []column{
		{"stops", false}, {"gaps, mm", true}, {"width", true}, {"speed", true}, {"measured", false},
	},
	shipped: boxed(roll.Shipped()),
	form: func(c desk, v any, like string) ([]entry, func() (any, error), string) {
		m, own := startFrom(v, roll.Find, like, "hand-crank-10")
		likeName := m.Name
		if !own {
			m.Name = ""
		}
		stops := stopText(m.Stops)
		cutters := cutterText(m.Cutters)
		dial := m.DialWords()
		if dial != "" {
			stops = ""
		}
		cutting := areaEntry("cutters", "Cutters", "ribbon, width it takes, sheet from and to, in mm; one to a line; "+
			"none: knife only", 0, 600, &cutters)
		cutting.Across = 4
		entries := []entry{textEntry("name", "Name", "", 1, 60, &m.Name), choiceEntry("tool", "It is a",
			(*string)(&m.Tool), machineTools...),
			areaEntry("stops", "Stops, the widest first", "label and gap in mm, one to a line; none of a pin", 0, 1200,
				&stops),
			textEntry("dial", "Or only the dial", "as in from 9 to 1; Hollen guesses the gaps until you measure", 0, 40,
				&dial),
			numberEntry("width_mm", "Width of the sheet, or length of the pin", "mm", 50, 1500, 1, &m.WidthMM),
			numberEntry("speed_mm_per_s", "Speed at the rollers", "mm/s", 5, 2000, 1,
				&m.SpeedMMPerS).optional("not of a pin"),
			numberEntry("feed_mm", "Thickest piece it takes", "mm", 2, 100, 1, &m.FeedMM).optional("not of a pin"),
			numberEntry("board_length_mm", "Board, long side", "mm", 200, 5000, 1,
				&m.BoardLengthMM).optional("of a pin"),
			numberEntry("board_width_mm", "Board, short side", "mm", 200, 5000, 1,
				&m.BoardWidthMM).optional("of a pin"),
			cutting,
			textEntry("set_speed", "Your own speed", "how you set it", 0, 60, &m.SetSpeed), flagEntry("motor",
				"Driven by a motor", &m.Motor)}
		return entries, func() (any, error) {
			was := m.Stops
			parsed, err := readStops(stops)
			if m.GapsGuessed = strings.TrimSpace(dial) != "" && m.Tool != dough.Pin; m.GapsGuessed {
				var labels []string
				if labels, err = roll.ReadDial(dial); err == nil {
					parsed = roll.GuessStops(labels)
				}
			}
			if err != nil {
				return m, err
			}
			if m.Cutters, err = readCutters(cutters); err != nil {
				return m, err
			}
			for _, x := range m.Cutters {
				if m.Tool != dough.Pin && x.WidthMM > m.WidthMM {
					return m, measure.Faultf("cutters", "a cutter that takes %g mm does not go on rollers of %g mm; "+
						"up to %g mm is allowed",
						x.WidthMM, m.WidthMM, m.WidthMM)
				}
			}
			if m.Stops = parsed; m.Tool == dough.Pin {
				m.Stops = nil
			}
			if stopText(was) != stopText(m.Stops) { // other gaps: what was measured on the old ones is void
				m.Calibrated = nil
				m.SpringThen = 0
				m.CalibratedOn = ""
			} else {
				m.Stops = was
			}
			return m, m.Check()
		}, likeName
	},
	cells: func(c desk, v any) []string {
		m := v.(roll.Machine)
		if m.Tool == dough.Pin {
			return []string{m.Name, "none", "board " + c.In.Joined(" × ", measure.MM, measure.Shortest, m.BoardLengthMM,
				m.BoardWidthMM),
				c.In.MM(m.WidthMM, measure.Shortest), "", ""}
		}
		measured := "not yet"
		if n := len(m.Calibrated); n > 0 {
			measured = measure.Plural(n, "stop", "stops") + ", " + measure.DayWords(m.CalibratedOn)
		}
		about := ""
		if m.GapsGuessed && len(m.Calibrated) == 0 {
			measured, about = "not yet; gaps guessed", "about "
		}
		return []string{m.Name, fmt.Sprintf("%s (widest) to %s", m.Widest(), m.Finest()),
			about + fmt.Sprintf("%.3g to %.3g", m.Stops[0].TrueMM(), m.Stops[len(m.Stops)-1].TrueMM()),
			c.In.MM(m.WidthMM, measure.Shortest),
			fmt.Sprintf("%g mm/s", m.SpeedMMPerS), measured}
	}}

// stopText writes stops as label and gap in turn.
func stopText(stops []roll.Stop) string {
	var out []string
	for _, s := range stops {
		out = append(out, fmt.Sprintf("%s %g", s.Label, s.GapMM))
	}
	return strings.Join(out, " ")
}

// readStops reads label and gap in turn.
func readStops(text string) ([]roll.Stop, error) {
	words := strings.Fields(text)
	if len(words)%2 != 0 {
		return nil, measure.Faultf("stops", "each line takes a label and a gap, as in 7 0.9")
	}
	var out []roll.Stop
	for i := 0; i < len(words); i += 2 {
		gap, ok := measure.ParseNumber(strings.TrimSuffix(words[i+1], "mm"))
		if !ok {
			return nil, measure.Faultf("stops", "%q, of stop %q, is no gap in mm", words[i+1], words[i])
		}
		out = append(out, roll.Stop{Label: words[i], GapMM: gap})
	}
	return out, nil
}
