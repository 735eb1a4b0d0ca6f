package bench

// EventKinds are the kinds of event, in the order of docs/formats.md.
var EventKinds = []EventKind{
	kindOf[Weighed]("`step`, `g`; `scale` where a scale said it"),
	kindOf[Started]("`step`"),
	kindOf[Done]("`step`"),
	kindOf[Skipped]("`step` is left out"),
	kindOf[Paused]("`step`: its clock stands"),
	kindOf[Resumed]("`step`"),
	kindOf[MoreMin]("`min` more, or fewer, on the clock of `step`, or on the one of one’s own that `of` began"),
	kindOf[ClockSet]("a clock of one’s own: `text` its name, `min`"),
	kindOf[ClockPutAway]("the clock that the event `of` began"),
	kindOf[PutIn]("a step before `step`, last where there is none: `of` `step`, `knead`, `rest`, `fridge`, `pass` or " +
		"`lay`, `text`, `min`; of a pass `n` the piece"),
	kindOf[LastStop]("the piece of `step` ends with it"),
	kindOf[Poked]("`step`, `s` to half recovery"),
	kindOf[Flexed]("`step`, `text` `yes` or `no`: it bends without cracking"),
	kindOf[Stretched]("`step`, `text` `yes` or `no`: light shines through before it tears"),
	kindOf[Looked]("`step`, `text` `not yet`, `right` or `past`"),
	kindOf[Measured]("`step`, `mm`, or `n` leaves of paper, or `g` of a square of 100 mm"),
	kindOf[Dried]("`step`, `g` now of `from_g` raw"),
	kindOf[Shrunk]("`step`, a ribbon cut `from_mm` long, `mm` now"),
	kindOf[Made]("`step`, `n` nests, pieces or handfuls more, `g` they weigh; 0: not weighed"),
	kindOf[Shaped]("piece `n` becomes `text`; `own_shape` where that is the workshop’s own"),
	kindOf[Added]("`text` what, `g`; `of` `splash`, `spray`, `wet_hands` or `dusting` where it is a house estimate"),
	kindOf[Left]("`text` what, `g`; trimmings `of` `kneaded in` went into the next piece"),
	kindOf[Seen]("`sign` its key, `text` it and what was done about it; `of` what went in, `g`"),
	kindOf[Noted]("`text`"),
	kindOf[Felt]("`n`, −2 too dry to 2 too wet"),
	kindOf[Named]("`of` `lot`, `eggs` or `hands`, `text` which"),
	kindOf[SackWeighed]("`text` the lot, `g` what is in its sack, `of` `before` flour is taken or `taken`"),
	kindOf[PutBy]("`text` `dough` or `sheets`, `g`, `n` pieces, `of` `room`, `fridge` or `freezer`"),
	kindOf[Packed]("`text` what, `g`, `n` pieces, `of` where"),
	kindOf[Ended]("`g` out, `n` pieces, `text` for next time; `of` says how: left out, what came out was weighed " +
		"where `g` says so; `weighed`, `g` is what came out, also nothing; `thrown_away`, `g` of it, all where " +
		"nothing is said, `text` why"),
	kindOf[TakenBack]("`of` an event: it no longer counts"),
	kindOf[Damaged]("it was kept and cannot be read; no screen says this"),
}
