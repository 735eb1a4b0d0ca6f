package practice

import "math"

// longMin is how long the steps are in which good work is foretold, min: hundreds of doughs are only compared by it.
const longMin = 1

// finish goes on with good work from a call to the plate, with open eyes, and says what is lost: the mean over us, each
// of which decides the tears of one way down. enough says that the option was the one that calls it done, after which
// nobody looks again.
func finish(d *Dough, c Call, enough bool, us ...float64) Lost {
	d.long, d.know.LongMin = longMin, longMin
	switch c {
	case Shaggy, Water:
		d.goodWork(c == Shaggy)
		d.goodRest(true)
		d.goodFolds()
	case Kneaded:
		if !enough {
			d.kneadOut(.25)
		}
		d.Rest(d.b.Rules.Practice.GoodRestMin, false, false)
		d.restOut(.1)
		d.twoFolds()
	case Rested, SkinFound:
		if !enough || c == SkinFound {
			d.restOut(.1)
		}
		d.twoFolds()
	case Folds:
		if !enough {
			d.goodFolds()
		}
	case Thin:
		d.X, d.RackMin = 0, 0
		if !enough {
			d.finer(.9)
		}
		d.plate()
		return d.Lost()
	case Dry:
		if !enough {
			d.dryOut(60)
		}
		if d.b.Before {
			d.Cut()
		}
		d.Cook(d.NeedS())
		return d.Lost()
	case Pot:
		if !enough {
			d.Bite = max(d.Bite, 0)
		}
		return d.Lost()
	}
	var mean Lost
	for _, u := range us {
		way := *d
		way.down(u)
		way.plate()
		for i, v := range way.Lost() {
			mean[i] += v / float64(len(us))
		}
	}
	return mean
}

// goodWork kneads it to where it is enough; what was put in wrong is half mended first where fix is said.
func (d *Dough) goodWork(fix bool) {
	if off := math.Abs(d.Dev); fix && off > d.b.Rules.Practice.Lost.WaterFree {
		d.give(-.5 * d.Dev)
		d.Knead(min(4, off/d.b.Rules.Practice.Lost.WaterFree))
	}
	d.kneadOut(0)
}

// kneadOut kneads minute by minute to where it is enough, each with a look.
func (d *Dough) kneadOut(look float64) {
	p := &d.b.Rules.Practice
	for d.D() < p.GoodD && d.Hands < p.GoodHandsMin {
		d.Knead(1)
		d.clock(look, true)
	}
}

// goodRest rests it to where it no longer springs.
func (d *Dough) goodRest(first bool) {
	if first && d.Credit == 0 {
		d.Rest(d.b.Rules.Practice.GoodRestMin, false, false)
	}
	d.restOut(0)
}

// restOut rests on by fives, each with a look.
func (d *Dough) restOut(look float64) {
	p := &d.b.Rules.Practice
	for n := 0; d.T > p.GoodT && n < p.GoodRests; n++ {
		d.Rest(5, false, false)
		d.clock(look, true)
	}
}

func (d *Dough) twoFolds() {
	for d.Folds < 2 {
		d.Fold()
	}
}

// goodFolds folds twice, and on until it holds together.
func (d *Dough) goodFolds() {
	p := &d.b.Rules.Practice
	for d.Folds < 2 || d.D() < p.GoodFoldD && d.Folds < p.GoodFolds {
		d.Fold()
	}
}

// down takes every stop that is left to the plan's, and one more where the sheet is too thick by then.
func (d *Dough) down(u float64) {
	for i := max(1, d.Stop+1); i <= d.b.Last; i++ {
		d.Pass(i, u)
	}
	d.finer(u)
}

// finer takes one more stop where the sheet is too thick.
func (d *Dough) finer(u float64) {
	if d.Stop < len(d.b.Gaps)-1 && d.MM > d.b.AimMM*d.b.Rules.Practice.GoodOver {
		d.Pass(d.Stop+1, u)
	}
}

// dryOut waits until it is dry enough, minutes at most; what is dusted and not too soft need not be.
func (d *Dough) dryOut(most int) {
	p := &d.b.Rules.Practice
	for n := 0; n < most && d.X < p.GoodLoss && (d.b.Before || d.Weld > 0); n++ {
		d.Wait(1)
	}
}

// plate dusts, dries and cuts it, or cuts and then dries it, and cooks it as long as it needs.
func (d *Dough) plate() {
	p := &d.b.Rules.Practice
	if d.Dust == 0 {
		d.Dust = 1
	}
	if !d.b.Before {
		d.Cut()
	}
	d.dryOut(p.GoodWaits)
	if d.b.Before {
		d.Cut()
	}
	d.Cook(d.NeedS())
}
