package plan

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"hollen/internal/core/addition"
	"hollen/internal/core/cook"
	"hollen/internal/core/cut"
	"hollen/internal/core/dry"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// PurposeWords say what is planned of drying, and what it would be for by the shape.
func (p *Plan) PurposeWords() string {
	d := &p.Dry
	what := map[string]string{
		cut.HoldShape: "Where it should hold its shape, it dries after the cut until it is firm to the touch.",
		cut.Handle:    "Where the pieces stick to each other, they dry after the cut until they no longer do.",
		cut.ForCutter: "A cutter mats what is too moist and breaks what is too dry: a test strip tells.",
		cut.NoDrying:  "This shape needs none.",
	}[d.Purpose]
	if d.Purpose == cut.HoldShape && p.shape.Traits().Lengths {
		what = "Where nests should hold their shape, they dry after the cut until they are firm."
	}
	if len(d.Moments) == 0 {
		return "Nothing dries: it is cut as it comes, and straight to the pot is fine. " + what
	}
	return fmt.Sprintf("As said on the left: %s. It has lost %.0f %% by then. %s", p.DryWords(),
		100*p.DriedLoss(0, asPlanned), what)
}

// dryingWords are head, text, sign and test of the step of one drying.
func (p *Plan) dryingWords(d *Drying) (s Step) {
	on := d.On.Words() + map[dry.Air]string{dry.Fan: ", in moving air", dry.Still: ", in still air"}[d.Air]
	right, brittle := "it cuts cleanly", "Like soft leather: the edge is firm, the sheet still bends."
	switch d.When {
	case SheetDries:
		s.Head = "Dry the sheet"
		s.Sign = brittle
		s.Test = "It does not stick to itself."
		if !d.Own {
			s.Head, s.Text = "To leather", fmt.Sprintf("Right from %.0f to %.0f min: bends, does not stick.",
				d.Right.FromMin, d.Right.ToMin)
			return s
		}
	case PiecesDry:
		s.Head = "Dry the " + p.DriedNames(d)
		right = map[bool]string{true: "they are firm",
			false: "they no longer stick"}[d.Right.Loss > p.rules.Dry.CutLoss]
		s.Sign, s.Test = "Firm to the touch, and they still bend.", "Lift a few: they fall apart by themselves."
		if d.On == request.OnNests {
			s.Sign, s.Test = "The nest keeps its form when it is lifted.", "Turn it over once on the way."
		}
	default:
		s.Head, right = "Dry before packing", "it is firm"
		s.Sign, s.Test = "Firm and dry to the touch.", "Nothing presses out of shape, nothing sticks."
	}
	if d.Own && d.Brittle.Will && d.Min > d.Brittle.FromMin && d.When != SheetDries { // long past firm
		s.Sign = "Hard and light; nothing in it bends any more."
		s.Test = "Break the thickest: it snaps, and is dry inside."
	}
	window := fmt.Sprintf("In this air %s from %s to %s.", right, measure.Minutes(d.Right.FromMin),
		measure.Minutes(d.Right.ToMin))
	switch {
	case !d.Right.Will:
		window = "This air takes too little for more than that."
	case d.Right.FromMin <= 0:
		window = measure.Capital(right) + " already."
	}
	if !d.Own {
		s.Text = measure.Capital(on) + ". " + window
		return s
	}
	s.Text = fmt.Sprintf("%s, as you say, %s. %s", d.ownMin(), on, window)
	return s
}

// DryingSays is the sentence of a drying that is right from and to so many minutes, as it was measured.
func (p *Plan) DryingSays(d *Drying, fromMin, toMin float64) string {
	as := *d
	as.Min = fromMin
	as.ToMin = toMin
	as.Right.FromMin = fromMin
	as.Right.ToMin = toMin
	as.Right.Will = true
	return p.dryingWords(&as).Text
}

// ownMin is the maker's own time as it was said: "20 min", "10 to 30 min".
func (d *Drying) ownMin() string {
	if d.ToMin > d.Min {
		return strings.TrimSuffix(measure.Exactly(d.Min), " min") + " to " + measure.Exactly(d.ToMin)
	}
	return measure.Exactly(d.Min)
}

// DriedNames are what dries after the cut: "ribbons", "nests", "pieces"; by name where not all of it dries alike.
func (p *Plan) DriedNames(d *Drying) string {
	parts := p.Cut.Parts()
	if len(d.Parts) < len(parts) {
		var out []string
		for _, i := range d.Parts {
			out = append(out, measure.Lower(parts[i].Shape.Name))
		}
		return measure.List(out)
	}
	ribbons := true
	for _, x := range parts {
		ribbons = ribbons && x.Shape.Traits().Lengths
	}
	switch {
	case ribbons && d.On == request.OnNests:
		return "nests"
	case ribbons:
		return "ribbons"
	}
	return "pieces"
}

// DryWords say in a few words what dries when: "cut as it comes", "sheet 10 min, pieces 20 min".
func (p *Plan) DryWords() string {
	var out []string
	for i := range p.Dry.Moments {
		d := &p.Dry.Moments[i]
		what := map[Moment]string{SheetDries: "sheet ", PiecesDry: "pieces ", BeforePacked: "packing "}[d.When]
		if d.When == PiecesDry && len(d.Parts) < len(p.Cut.Parts()) {
			what = measure.Lower(p.Cut.Parts()[d.Parts[0]].Shape.Name) + " "
		}
		out = append(out, what+d.Span())
	}
	switch {
	case len(out) > 0:
		return strings.Join(out, ", ")
	case p.Dry.ToKeep != nil:
		return "to keep"
	case len(p.neverDry) > 0:
		return "will not dry"
	}
	return "as it comes"
}

// Span is how long it dries: the maker's time, or the window in which it is right.
func (d *Drying) Span() string {
	if d.Own {
		return d.ownMin()
	}
	return fmt.Sprintf("%.0f–%.0f min", d.Min, d.ToMin)
}

// explainDry gives the reasons of drying and keeping.
func (p *Plan) explainDry() {
	say := p.say
	d, ru := &p.Dry, &p.rules.Dry
	if d.Leather.Will {
		say("dry.window", "%.1f g/m³ between dough and air takes %.2f %% of the sheet a minute; %.0f %% off and it "+
			"cuts without sticking.",
			d.Rate.DeltaGM3, 100*d.Rate.PerMin, 100*d.Leather.Loss)
	} else {
		say("dry.window", "Only %.1f g/m³ between dough and air: it will not dry here in two hours.", max(0,
			d.Rate.DeltaGM3))
	}
	for _, when := range []Moment{SheetDries, PiecesDry, BeforePacked} {
		var all []string
		for i := range d.Moments {
			if x := &d.Moments[i]; x.When == when {
				all = append(all, p.dryingWords(x).Text)
			}
		}
		say("dry."+string(when), "%s", strings.Join(all, " "))
	}
	say("dry.close", "On the board, one face open: with %.0f %% gone the seam no longer takes; damp it, or cover "+
		"what waits.", 100*ru.CutLoss)
	if d.Nest.Will {
		say("dry.nest", "%.0f %% of the mass gone: a wound nest keeps its form.", 100*d.Nest.Loss)
	} else {
		say("dry.nest", "%.0f %% of the mass would have to go; this air does not take it in two hours.",
			100*d.Nest.Loss)
	}
	say("dry.brittle", "From %.0f %% of the mass gone the edges no longer bend.", 100*d.Brittle.Loss)
	say("dry.warm",
		"Mixing, kneading, what rest is out of the fridge, rolling, drying and cutting, one after the other.")
	if d.Covered.Will {
		say("dry.covered", "Under a damp cloth or film: then it is at leather all the same.")
	} else {
		say("dry.covered", "Under a damp cloth or film it loses %.0f %% of what it would on a rack.",
			100*ru.CoverFaces/ru.RackFaces)
	}
	say("dry.space", "Sheets hung side by side, %s of rod. In one layer, not touching: %s of %s.", p.in.M(d.RodM, 1),
		measure.Plural(d.Trays, "tray", "trays"), p.in.Joined(" × ", measure.MM, measure.Shortest, ru.TrayLongMM,
			ru.TrayWideMM))
	if d.TrayEach == 0 && !p.Roped() {
		say("dry.space", "Sheets hung side by side, %s of rod. Too large for a tray of %s.", p.in.M(d.RodM, 1),
			p.in.Joined(" × ", measure.MM, measure.Shortest, ru.TrayLongMM, ru.TrayWideMM))
	} else if p.Roped() {
		say("dry.space", "In one layer, not touching: %s of %s, dusted.", measure.Plural(d.Trays, "tray", "trays"),
			p.in.Joined(" × ", measure.MM, measure.Shortest, ru.TrayLongMM, ru.TrayWideMM))
	}
	if k := d.ToKeep; k != nil {
		say("dry.keep", "%s raw, of which %.0f %% is water, weigh this when only %.1f %% is.", p.in.Grams(k.RawG),
			100*p.Formula.Dough.WaterShare,
			100*ru.KeepWB)
	}
	k := &p.Keep
	switch {
	case k.Where == "":
		say("keep.use_by", "Cooked the same day.")
	case len(p.keptNot()) > 0:
		say("keep.use_by", "%s", strings.Join(p.keptNot(), " "))
	case k.Where == cook.Shelf && k.UseBy == "":
		say("keep.use_by", "%s from %s.", measure.Capital(measure.Days(k.Days)), k.Parts[0].Since)
	case k.UseBy == "":
		say("keep.use_by", "%s; say when it is made and the date follows.", measure.DaysWords(k.FromDays, k.ToDays))
	case k.Own:
		say("keep.use_by", "%s by your own plan; %s is usual.", measure.Capital(measure.Days(k.Days)),
			measure.DaysWords(k.FromDays, k.ToDays))
	default:
		text := "%s is usual, the later end counted; by this kitchen’s clock."
		if k.Where == cook.Fridge && p.Request.AnyKeepsAsRaw() {
			text = "No longer than %s, for what is raw inside; by this kitchen’s clock."
		}
		say("keep.use_by", text, measure.Capital(measure.DaysWords(k.FromDays, k.ToDays)))
	}
}

func (p *Plan) adviseDry() {
	d := &p.Dry
	p.adviseMoments()
	drying := d.AllMin()
	switch {
	case d.ToKeep != nil || !p.Perishable(): // drying to keep has its own note
	case d.OutMin > d.DiscardAt && d.OutMin-drying <= d.DiscardAt && drying > 0:
		p.note(request.AtDry, "dry.warm", Caution, "dried_long", "Hours in the open, with egg in it.",
			"It dries for %s as you say, and is out of the fridge for %s over all stages; past %s a dough with egg is "+
				"usually thrown away: what some germs leave in it no cooking undoes. Some hang it overnight "+
				"all the same: thin, in moving air, never a piece that smells. Your food authority’s rules come "+
				"first.",
			measure.Minutes(drying), measure.Minutes(d.OutMin), measure.Minutes(d.DiscardAt))
	case d.OutMin > d.DiscardAt:
		p.note(request.AtDry, "dry.warm", Warning, "discard", "Too long out of the fridge.",
			"%s over all stages; past %s a dough with egg is usually thrown away. Work in smaller batches, or chill "+
				"what waits at every stage.",
			measure.Minutes(d.OutMin), measure.Minutes(d.DiscardAt))
	case d.OutMin > d.CautionAt && p.Rest.OutMin <= d.CautionAt:
		p.note(request.AtDry, "dry.warm", Warning, "warm", "Long out of the fridge.",
			"%s over all stages; past %s take care: chill what waits.", measure.Minutes(d.OutMin),
			measure.Minutes(d.CautionAt))
	}
	if has := p.Request.Bench.RodM; has != nil && p.Request.Dry.On != request.OnBoard && d.RodM > *has+1e-9 {
		p.note(request.AtDry, "dry.space", Warning, "rods", "More than the racks take.",
			"All sheets want %s of rod, there are %s: hang %d at a time, the rest under the bowl.", p.in.M(d.RodM, 1),
			p.in.M(*has, measure.Shortest),
			max(1, int(float64(p.Roll.SheetsAll)**has/d.RodM)))
	}
	if has := p.Request.Bench.Trays; has != nil && float64(d.Trays) > *has {
		p.note(request.AtDry, "dry.space", Warning, "trays", "More than the trays take.",
			"It wants %d trays, there are %g: freeze or cook a load before the next.", d.Trays, *has)
	}
	p.adviseKeepDry()
	if k := &p.Keep; k.Own && k.Where != "" && k.Days > k.ToDays {
		p.note(request.AtDry, "keep.use_by", Warning, "keep_longer", "Longer than the usual advice.",
			"%s where %s is usual: by your own plan (%s).",
			measure.Days(k.Days), measure.Days(k.ToDays), strings.TrimSuffix(p.Request.Keep.Note, "."))
	}
	some := "; some keep it 3–5 days, but listeria grows in the cold and nothing shows"
	if p.Request.AnyKeepsAsRaw() {
		some = ", for what is raw inside"
	}
	p.note(request.AtDry, "dry.warm", Caution, "keep", "Keeping.",
		"Covered at {5 °C} or less %s%s. Frozen at {−18 °C} one "+
			"to two months, hard on a tray first, then bagged. These are usual advice: your food authority’s rules "+
			"and your own food-safety plan come first.",
		p.FridgeWords(), some)
}

// adviseKeepDry is the advice on drying to keep.
func (p *Plan) adviseKeepDry() {
	k := p.Dry.ToKeep
	if k == nil {
		return
	}
	if p.Cut.Filled() {
		p.note(request.AtDry, "dry.keep", Warning, "keep_filled", "Not filled pasta.",
			"A filling does not dry through: freeze it, or cook it fresh.")
	}
	p.note(request.AtDry, "dry.keep", Warning, "keep_dried", "Drying egg pasta to keep is a risk.",
		"Past the usual advice: it lies for hours between {5 and 60 °C} with raw egg in it, and drying does not "+
			"kill what grows. Some do it. "+
			"Safer: cook it fresh, or freeze it. If you do: thin, in moving air, to the target weight, never a "+
			"piece that smells; your food "+
			"authority’s rules come first.")
	if k.Never {
		p.note(request.AtDry, "dry.keep", Warning, "keep_never", "This air never gets it there.",
			"It stops at %.1f %% moisture where %.1f keeps: dry the air.", 100*p.Formula.Blend.EquilibriumWB,
			100*p.rules.Dry.KeepWB)
	}
}

// adviseMoments compares what is said of drying with this air, and offers it where the sheet would stick.
func (p *Plan) adviseMoments() {
	d := &p.Dry
	asked := slices.ContainsFunc(d.Moments, func(x Drying) bool { return x.When == SheetDries })
	r := &p.Request.Dry
	for _, said := range []*request.Drying{&r.Sheet, &r.Pieces.Drying, &r.Packing.Drying} {
		if said.By == request.DrySaid && said.Min == nil {
			p.note(request.AtDry, "dry.window", Remark, "dry_how_long", "How long?",
				"So many minutes, and none are said yet: until then nothing dries.")
			break
		}
	}
	switch {
	case r.Sheet.Said() && p.Roped():
		p.note(request.AtDry, "dry.window", Remark, "dry_no_sheet", "No sheet to dry.",
			"It is formed from ropes: what dries are the pieces, after.")
	case r.Sheet.By == request.DryWorked && len(p.cutDry()) == 0:
		p.note(request.AtDry, "dry.window", Remark, "dry_not_worked", "No sheet wants drying here.",
			"Filled shapes close while the sheet is soft, and pieces are cut as it comes. Say minutes of your own, "+
				"and it dries all the same.")
	}
	if len(p.neverDry) > 0 {
		air := map[bool]string{true: "dry the air", false: "let a fan blow over it"}[p.Request.Room.Air == dry.Fan]
		if d.Rate.DeltaGM3 <= p.rules.Dry.LeastGM3 {
			p.note(request.AtDry, "dry.window", Warning, "will_not_dry", "It will not dry here.",
				"The air is too damp. Dust it, cut and cook at once, or dry the air.")
		} else {
			p.note(request.AtDry, "dry.window", Warning, "will_not_dry", "It will not dry here in two hours.",
				"The air takes too little. Dust it, cut and cook at once, or %s.", air)
		}
	} else if !d.Leather.Will && len(d.Moments) == 0 {
		p.note(request.AtDry, "dry.window", Remark, "stays_damp", "It stays damp here.",
			"No matter where it goes straight to the pot; dust the trays with %s or it sticks to them.",
			cmp.Or(p.Dusting().Name, "the dough’s flour"))
	}
	for i := range d.Moments {
		x := &d.Moments[i]
		if x.Own && x.Brittle.Will && x.Min > x.Brittle.FromMin && d.ToKeep == nil {
			p.note(request.AtDry, "dry.brittle", Remark, "own_dry", "Its edges crack by then.",
				"By this air from about %s; your %s stands. What is brittle is not bent any more, and cooks longer.",
				measure.Minutes(x.Brittle.FromMin), x.ownMin())
			break
		}
	}
	if why := p.sticks(); why != "" && !asked && len(p.neverDry) == 0 {
		remedy := fmt.Sprintf("Dust it, or let the sheet dry first, here %.0f to %.0f min (the sheet, before the cut, "+
			"under Dry).", d.Leather.FromMin, d.Leather.ToMin)
		if !d.Leather.Will {
			remedy = "This air takes too little to dry it first: dust well between the layers, and cut at once."
		}
		p.note(request.AtCut, "cut.across", Remark, "may_stick", "It may stick as it is cut.", "%s. %s", why, remedy)
		if n := &p.Notes[len(p.Notes)-1]; d.Leather.Will {
			n.Offer, n.Set = "Dry it first", "dry.sheet.by="+string(request.DryWorked)
		}
	}
}

// sticks says why a sheet for ribbons may stick at knife or cutter: softer than the band, or with what brings water of
// its own; "" where it should not.
func (p *Plan) sticks() string {
	f := &p.Formula
	if !slices.ContainsFunc(p.Cut.Parts(), func(x *CutPart) bool { return x.Shape.Traits().Lengths }) {
		return ""
	}
	if out := f.Target.Outside(f.Dough.Hw); out > .05 {
		return fmt.Sprintf("The dough is %s softer than its band", measure.Plural(int(math.Ceil(out)), "point",
			"points"))
	}
	for _, x := range f.Additions {
		if x.Kind == addition.Puree && x.MassG > 0 {
			name := x.Name
			if strings.Contains(name, ",") { // "Spinach, cooked and squeezed," gives off water
				name += ","
			}
			return name + " gives off water as it is rolled"
		}
	}
	return ""
}
