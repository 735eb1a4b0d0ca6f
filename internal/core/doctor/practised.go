package doctor

// Right is what the doctor says where nothing is wrong, or where only time is wanted: of a judgement call, by its key
// and the key of its answer. ok is false where a sign's remedy says it.
func Right(call, answer string) (c Cause, ok bool) {
	c, ok = right[call+" "+answer]
	return c, ok
}

var right = map[string]Cause{
	"shaggy wrap": {
		Why:     "Flour that has not drunk yet comes to it by lying as well as by kneading.",
		Act:     Rest,
		Minutes: 10,
		Do:      "Press it into one heap, wrap it, {amount}.",
		Expect:  "The crumbs hold when you squeeze them.",
		Stop:    "Then knead before you judge it.",
	},
	"water leave": {
		Why:     "It is near enough: what is left to feel is water not taken up yet, or kneading not done.",
		Act:     Knead,
		Minutes: 2,
		Do:      "Knead {amount} more and feel again.",
		Expect:  "Less crumb, less stick, nothing added.",
		Stop:    "Add only what it still asks for after six minutes.",
	},
	"kneaded enough": {Why: "Smooth, springs back, bends: the hands have done their part.",
		Do: "Wrap it tight now.", Expect: "It feels tight, and lets go as it lies.",
		Stop: "What is still missing the rest and the folds bring."},
	"kneaded more": {Why: "Nearly: it springs, but not at once, or is not smooth all over.", Act: Knead, Minutes: 2,
		Do: "{amount} more, then look again.", Expect: "The same face all round, like the inside of a cheek.",
		Stop: "Smooth and springing: wrap it."},
	"kneaded five": {Why: "Kneaded too little: the commonest fault, and the dearest.", Act: Knead, Minutes: 5,
		Do:     "{amount} more; a minute under the bowl first if the arms are tired.",
		Expect: "Rough, then even, then smooth.",
		Stop:   "Look again before the next five."},
	"rested enough": {Why: "The dent closes slowly: the tension has gone out of it.", Do: "Press it flat and roll it.",
		Expect: "It stays where the rollers put it.", Stop: "If it pulls in, cover it ten minutes more."},
	"rested more": {
		Why: "Nearly: the dent is back within two seconds or three.", Act: Rest, Minutes: 10,
		Do:     "Leave it covered, {amount}, then poke it again.",
		Expect: "It gives to the thumb, and the dent stays for a breath.",
		Stop:   "At four seconds roll it.",
	},
	"rested long": {
		Why:     "The dent jumps back: it is as tight as when it was kneaded. A poke reads the other way round now.",
		Act:     Rest,
		Minutes: 30,
		Do:      "Leave it covered, {amount}.",
		Expect:  "A dent that takes three or four seconds.",
		Stop:    "Time mends this one by itself.",
	},
	"skin enough": {
		Why:    "Moist all over: no skin.",
		Do:     "Go on.",
		Expect: "Straight edges.",
		Stop:   "Cover what waits.",
	},
	"skin wrap": {Why: "A breath of skin, no crust.", Act: Rest, Minutes: 10, Do: "Wrap it tight, {amount}.",
		Expect: "It is moist to the touch again.", Stop: "A crust does not soften in: pare it."},
	"folds enough": {Why: "The edges are straight and it was kneaded long enough.", Do: "Go down, stop by stop.",
		Expect: "No holes.", Stop: "After a short kneading straight edges still want two folds."},
	"step next": {Why: "A stop at a time is what it bears; one left out saves half a minute and risks a hole.",
		Do: "The next stop, fed straight.", Expect: "It comes out whole, a little longer.",
		Stop: "If it resists, wait, do not push."},
	"step one": {
		Why:    "Rested, elastic and smooth, it bears a larger step.",
		Do:     "Leave one stop out, then take every one.",
		Expect: "One pass fewer.",
		Stop:   "Never under a millimetre.",
	},
	"step two": {Why: "Still thick, and well rested: the first gaps are close together for it.",
		Do: "Leave two stops out here, then take every one.", Expect: "Two passes fewer.",
		Stop: "Never under a millimetre."},
	"thin enough": {Why: "It is as thin as is wanted, by paper and by what shows through.", Do: "End here.",
		Expect: "It swells by an eighth in the pot.", Stop: "One pass too many is not taken back."},
	"thin finer": {Why: "It looks thin and is not: it still has to swell in the pot.", Do: "One stop finer.",
		Expect: "A hand shows through; under the dial’s last stops, print.", Stop: "Lay it beside paper again."},
	"thin two": {Why: "It is far thicker than it looks.", Do: "Two stops finer, one after the other.",
		Expect: "A hand shows through.", Stop: "Lay it beside paper after each."},
	"dry enough": {
		Why:    "It bends, and its faces no longer cling.",
		Do:     "Go on now.",
		Expect: "Ribbons fall apart when lifted.",
		Stop:   "Ten minutes later the edges may crack.",
	},
	"dry more": {Why: "Still damp: its faces cling.", Act: Rest, Minutes: 5, Do: "{amount} more, then touch it again.",
		Expect: "Dry like soft leather.", Stop: "As soon as it no longer clings."},
	"dry long": {
		Why:     "Wet through, and this air takes little.",
		Act:     Rest,
		Minutes: 15,
		Do:      "{amount} more, turned once.",
		Expect:  "Dry like soft leather.",
		Stop:    "Touch it before the time is out.",
	},
	"pot enough": {
		Why:    "Tender with a bite: it cooks on while it drains.",
		Do:     "Drain it now.",
		Expect: "No line inside.",
		Stop:   "Soft is not mended; hard is.",
	},
	"pot more": {
		Why:    "A hard line inside.",
		Do:     "Fifteen seconds more, and taste again.",
		Expect: "The line goes from the edge in.",
		Stop:   "As soon as it is tender.",
	},
	"pot long": {Why: "Raw inside.", Do: "Forty-five seconds more, and taste again.", Expect: "The line gets thin.",
		Stop: "As soon as it is tender."},
}

// Measured is one cause with its act measured for d.
func (c Cause) Measured(d Dough) Finding {
	c.If, c.On = "", Anything
	return Sign{Causes: []Cause{c}}.Ask(d, nil)[0]
}
