package help

import "slices"

// Term is a word of the craft, as it is used on every page.
type Term struct{ Key, Word, Means string }

// glossary is in the order of work.
var glossary = []Term{
	{"hydration", "Hydration", "Water to flour, in per cent of the flour. Egg is three quarters water, a yolk " +
		"half."},
	{"working-hydration", "Working hydration", "All the water there is to the flour as it would be at 14 % " +
		"moisture, with the fat counted as it feels. It is what the hand feels, whatever the flour and the eggs " +
		"were."},
	{"band", "Band", "From the least to the most working hydration a dough rolls well at. Under it a dough " +
		"crumbles, over it clings. Flour, machine, filling and yolks move it."},
	{"moisture", "Moisture", "Water in 100 g of flour as it lies there. Flour takes it from the air and gives " +
		"it back, over days."},
	{"absorption", "Absorption", "How much water a flour takes up to the same softness, by the miller’s sheet " +
		"or by its kind."},
	{"held-back", "Held back", "Flour kept beside the bowl and worked in only if the dough asks for it."},
	{"by-the-board", "By the board", "Water kept at hand and given in drops if the dough stays dry."},
	{"top-up", "Top-up", "Water or milk beside the eggs, where whole eggs do not meet the target by themselves."},
	{"beaten", "Beaten and weighed", "Where no whole number of eggs serves, they are beaten in a jug and " +
		"weighed out. What is left is said."},
	{"development", "Development", "How far kneading has built the gluten, of what this flour can. Too little " +
		"and the sheet tears, more than enough only makes it tight."},
	{"school", "School", "A way of kneading: long by hand; in turns, then hours in the cold; short, then folded " +
		"passes; a mixer with a hook; the processor, then by hand."},
	{"relaxation", "Relaxation", "How far a rested dough has let go. A finger’s dent that comes half back " +
		"within seconds says it."},
	{"poke", "Poke", "A finger pressed in, and the seconds until the dent is half gone."},
	{"stop", "Stop", "A setting of the machine; its dial says it. Where the numbers run the other way, Hollen " +
		"follows your dial."},
	{"gap", "Gap", "How far the rollers stand apart at a stop. A sheet comes out a little thicker: it springs " +
		"back."},
	{"pass", "Pass", "Once through the rollers."},
	{"reduction", "Reduction", "How much thinner a pass makes the sheet. Easy is as much as this dough takes at " +
		"once, bold a little over it, tearing too much."},
	{"fold", "Fold", "The sheet laid together and rolled again: it goes on kneading, and squares the edges."},
	{"sheet", "Sheet", "What comes from the rollers; its thickness is what the cut and the pot go by."},
	{"ribbon", "Ribbon", "A strip cut from the sheet, with its length."},
	{"nest", "Nest", "So many ribbons wound up together."},
	{"trimmings", "Trimmings", "What is cut off. They go into the next piece, a soup, or the bin, as you say."},
	{"leather", "Leather", "Dry enough to cut without sticking, soft enough to bend without cracking."},
	{"window", "Window", "From when a sheet is right to when it is too dry, in this air."},
	{"batch", "Batch", "A dough that is planned. Each time it is made is a making, with its own record."},
	{"lot", "Lot", "A delivery of flour, with its dates and what was measured of it."},
	{"learned", "Learned", "What your own makings wanted other than the book. It moves the next plan a little, " +
		"stands beside the figure it moves, and can be switched off."},
	{"give-or-take", "Give or take", "How far off a figure may be. Nine times in ten it lies within."},
	{"in-hand", "In hand", "The time left before an order is due."},
}

// Glossary are the words of the craft, in the order of work.
func Glossary() []Term { return slices.Clone(glossary) }

// termOf returns the word of that key.
func termOf(key string) (Term, bool) {
	i := slices.IndexFunc(glossary, func(t Term) bool { return t.Key == key })
	if i < 0 {
		return Term{}, false
	}
	return glossary[i], true
}
