package form

import (
	"fmt"
	"math"
	"net/url"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// way is a way of working as its maker would tell it: fields and what is typed in them, steps of kneading
// as "hand 8, rest 25 bowl", the way down as "0, 0x2 thirds, 3x3, 7 halve".
type way struct {
	name, set, knead, down string
	grams                  string // of whole egg, yolk and liquid, oil, as they come out; "" not said
}

var ways = []way{
	{"pin, folded like a letter three times", "roll.machine=pin-board&amount.flour_g=300&eggs.fix_whole_eggs=3",
		"mix 6, hand 12, rest 45 bowl",
		"12, 10x3 thirds, 4 turn, 2, 1", "180 0 0 0"},
	{"kneaded short, rested short, thrice, then a night cold", "amount.flour_g=400&eggs.fix_whole_eggs=4",
		"mix 5, hand 3, pause 8, hand 3, pause 8, hand 3, fridge 660 film, temper 35",
		"0, 0x4 thirds, 1, 2, 3, 4, 5, 6, 7", "240 0 0 0"},
	{"twice at every stop, not to the finest", "amount.flour_g=500&eggs.fix_whole_eggs=5", "mix 5, hand 10, rest 30",
		"0x2, 1x2, 2x2, 3x2, 4x2, 5x2, 6x2, 7x2", ""},
	{"folded in half twice, next stop, cutter",
		"amount.flour_g=300&eggs.fix_whole_eggs=3&cut.tool=cutter&cut.shape=fettuccine", "mix 5, hand 9, rest 20",
		"0, 0x2 half, 1, 2, 3, 4, 5, 6", ""},
	{"all in a mixer, one more egg on the way, no rest, pin",
		"amount.flour_g=500&eggs.fix_whole_eggs=6&roll.machine=pin-board&bench.hook_g=2000",
		"mix_mixer 2, hook 4, mix_mixer 1, hook 3", "8, 4, 2, 1", "360 0 0 0"},
	{"a fifth semolina, whole eggs and one yolk, fridge, a few passes at the widest",
		"amount.flour_g=500&flours.1.flour=semola-fine&flours.1.share=20&eggs.fix_whole_eggs=4&eggs.fix_extra_yolks=1",
		"mix 5, hand 10, fridge 120, temper 15",
		"0x4, 2, 4, 6", ""},
	{"pin to semi-transparent, flour held back",
		"amount.flour_g=400&amount.flour_open=yes&eggs.cracked_g=228&roll.machine=pin-board",
		"mix 8, hand 15, rest 60 bowl", "10, 5, 2, 1, 0.6",
		"228 0 0 0"},
	{"powder in the dough, yolks alone",
		"amount.flour_g=250&eggs.fix_extra_yolks=8&additions.0.addition=beet-powder&additions.0.share=3" +
			"&eggs.liquid_g=a splash",
		"mix 6, hand 10, rest 40 film", "0, 0x3 thirds, 2, 4, 5", "0 146.4 5 0"},
	{"folds at the first and the second stop, three or four passes at each that follow",
		"amount.flour_g=400&eggs.fix_whole_eggs=4", "mix 5, hand 6, rest 30",
		"0x2, 0x3 half, 1x2, 1x3 half, 2x3, 3x4, 4x3, 5x4", ""},
	{"eggs and three times as many yolks, letter fold, rolled thin by hand, thick and thin ribbons",
		"amount.flour_g=400&eggs.fix_whole_eggs=2&eggs.fix_extra_yolks=6&roll.machine=pin-board&cut.shape=pappardelle&cut.also.0.shape=tagliolini" +
			"&cut.also.0.portions=2",
		"mix 5, hand 12, rest 60", "10, 10 thirds, 5, 2, 0.8", "120 109.8 0 0"},
	{"twice a stop, refolded in three on the way, halved", "amount.flour_g=500&eggs.fix_whole_eggs=5",
		"mix 5, hand 10, rest 30",
		"0x2, 2x2, 4x2, 0 thirds, 2x2, 4x2, 6x2 halve, 7x2", ""},
	{"two unequal kneadings without a rest between, two stops left out each time",
		"amount.flour_g=400&eggs.fix_whole_eggs=4&cut.min_length_mm=300&cut.max_length_mm=300",
		"mix 5, hand 8, hand 5, rest 25", "0x3, 3x3, 6x2", ""},
	{"half without gluten, half wholemeal, purée as the only liquid, no egg",
		"amount.flour_g=300&flours.0.flour=wholemeal&flours.1.flour=buckwheat&flours.1.share=50&eggs.style=none&additions.0.addition=spinach" +
			"&additions.0.share=62&cut.shape=farfalle",
		"mix 5, hand 8, rest 30", "0, 2, 4, 5", "0 0 0 0"},
	{"two flours, a splash of water, one pass a stop",
		"amount.flour_g=400&flours.1.flour=semola-fine&flours.1.share=30&eggs.fix_whole_eggs=4" +
			"&eggs.liquid_g=a splash",
		"mix 5, hand 10, rest 30", "0, 1, 2, 3, 4, 5, 6", "240 0 5 0"},
	{"the belt joined, twice through at every stop", "amount.flour_g=1000&eggs.fix_whole_eggs=10",
		"mix 5, hand 12, rest 30",
		"0x2 belt, 1x2, 2x2, 3x2, 4x2, 5x2", ""},
	{"by hand to see-through, eight shapes from one dough",
		"amount.flour_g=600&eggs.fix_whole_eggs=6&roll.machine=pin-board&cut.also.0.shape=pappardelle&cut.also.0.portions=1&cut.also.1.shape=farfalle" +
			"&cut.also.1.portions=1" +
			"&cut.also.2.shape=quadretti&cut.also.2.portions=1&cut.also.3.shape=ravioli&cut.also.3.portions=1&cut.also.4.shape=fettuccine&cut.also.4.portions=1" +
			"&cut.also.5.shape=maltagliati&cut.also.5.portions=1&cut.also.6.shape=tagliolini&cut.also.6.portions=1",
		"mix 8, hand 15, rest 60",
		"10, 5, 2, 0.7", ""},
	{"one extra yolk and a spoon of oil, a night cold, pin first, then rollers, frozen in portions",
		"amount.flour_g=400&eggs.fix_whole_eggs=4&eggs.fix_extra_yolks=1&oil_share=1 spoon" +
			"&keep.where=freezer",
		"mix 5, hand 10, fridge 600 pieces, temper 20", "8_mm, 0x2, 1, 3, 5, 6", "240 18.3 0 11.2"},
	{"big eggs weighed, milk for a missing one, rest under a bowl; the processor for a minute",
		"amount.flour_g=500&eggs.class=eu-xl&eggs.cracked_g=263&eggs.top_up=milk&eggs.liquid_g=3 " +
			"tbsp&bench.processor_g=900",
		"mix_processor 30 s, processor 60 s, hand 2, rest 45 bowl",
		"0, 2, 4, 6", "263 0 46.35 0"},
	{"two minutes' kneading, a short rest, a dozen folds, to the finest, knife on stacked sheets",
		"amount.flour_g=300&eggs.fix_whole_eggs=3&cut.tool=knife",
		"mix 4, hand 2, rest 15", "0x12 half, 2, 4, 6, 8, 9", ""},
	{"a dial that falls, folded in three once, cutter",
		"amount.flour_g=400&eggs.fix_whole_eggs=4&roll.machine=motor-9&cut.tool=cutter&cut.shape=fettuccine",
		"mix 5, hand 10, rest 30", "9, 9 thirds, 8, 7, 6, 5, 4", ""},
	{"drizzles and pinches, no rest, every second stop, cooked at once",
		"amount.flour_g=200&eggs.fix_whole_eggs=2&oil_share=2 drizzles&salt_share=a pinch&cook.after=fresh",
		"mix 5, hand 10", "0, 2, 4, 6", "120 0 0 8"},
}

// typedIn puts a way into a form as it is typed.
func (w way) typedIn(v url.Values) (kneads, passes []string) {
	for _, field := range strings.Split(w.set, "&") {
		path, value, _ := strings.Cut(field, "=")
		v.Set(path, value)
	}
	v.Set("knead.by", "own")
	for i, s := range strings.Split(w.knead, ", ") {
		part := strings.Fields(s)
		p := fmt.Sprintf("knead.own_steps.%d.", i)
		v.Set(p+"do", part[0])
		v.Set(p+"min", part[1])
		kneads = append(kneads, part[0]+" "+part[1])
		if len(part) > 2 && part[2] == "s" {
			v.Set(p+"min", part[1]+" s")
			kneads[i] += " s"
		} else if len(part) > 2 {
			v.Set(p+"cover", part[2])
		}
	}
	v.Set("roll.by", "own")
	for i, s := range strings.Split(w.down, ", ") {
		part := strings.Fields(s)
		p := fmt.Sprintf("roll.own_passes.%d.", i)
		stop, times, many := strings.Cut(strings.ReplaceAll(part[0], "_", " "), "x")
		v.Set(p+"stop", stop)
		if v.Set(p+"passes", "1"); many {
			v.Set(p+"passes", times)
		}
		n := 1
		_, _ = fmt.Sscan(times, &n)
		fold := ""
		for _, x := range part[1:] {
			if x == "half" || x == "thirds" {
				v.Set(p+"fold", x)
				fold = " " + x
			} else {
				v.Set(p+"first", x)
			}
		}
		for range n {
			passes = append(passes, stop+fold)
		}
	}
	return kneads, passes
}

// Twenty-one ways of working are typed into the form and planned step for step as they are typed.
func TestTwentyOneWays(t *testing.T) {
	base := request.Default()
	base.Amount.By = request.ByOwn
	if len(ways) != 21 {
		t.Fatalf("%d ways", len(ways))
	}
	for _, w := range ways {
		v := posted(base)
		kneads, passes := w.typedIn(v)
		f, err := Bind(base, v, With{Rules: rules.Default()}, time.Now())
		if err != nil || len(f.Errors) > 0 {
			t.Errorf("%s: %v %v", w.name, err, f.Errors)
			continue
		}
		p := f.Plan
		var got []string
		for i, s := range p.Request.Knead.Steps {
			text := fmt.Sprintf("%s %g", s.Do, s.Min)
			if strings.HasSuffix(kneads[i], " s") {
				text = fmt.Sprintf("%s %g s", s.Do, math.Round(60*s.Min))
			}
			got = append(got, text)
		}
		if strings.Join(got, ", ") != strings.Join(kneads, ", ") {
			t.Errorf("%s: kneaded %q, not %q", w.name, got, kneads)
		}
		takes := 0.
		for _, s := range p.Request.Knead.Steps {
			takes += s.Min
		}
		if k := p.Knead.Way; math.Abs(k.ElapsedMin-k.WaitMin-takes) > 1e-6 ||
			p.Formula.FlourG != p.Request.Amount.FlourG && p.Formula.OpenG == 0 {
			t.Errorf("%s: %g min for %g, %g g of flour", w.name, k.ElapsedMin, takes, p.Formula.FlourG)
		}
		got = nil
		for _, x := range p.Roll.Passes {
			text := x.Label
			if p.Pinned() {
				text = fmt.Sprintf("%g", x.OutMM)
			}
			got = append(got, text+map[int]string{2: " half", 3: " thirds"}[x.Fold])
		}
		if strings.Join(got, ", ") != strings.Join(passes, ", ") {
			t.Errorf("%s: rolled %q, not %q", w.name, got, passes)
		}
		if w.grams != "" {
			if g := fmt.Sprintf("%.4g %.4g %.4g %.3g", p.Formula.WholeG, p.Formula.YolkG, p.Formula.TopG,
				p.Formula.OilG); g != w.grams {
				t.Errorf("%s: %s g, not %s", w.name, g, w.grams)
			}
		}
		t.Logf("%s: %s; %s; %s", w.name, p.KneadWords(), plan.StopWords(p.Roll.Passes), p.Formula.Feel)
	}
}
