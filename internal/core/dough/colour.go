package dough

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/flour"
)

// Colour is the predicted colour of the raw dough as #rrggbb, with a darker edge and a
// lighter face for drawing, and in words. It is an estimate for recognising a batch.
type Colour struct {
	Face  string `json:"face"`
	Edge  string `json:"edge"`
	Lit   string `json:"lit"`
	Words string `json:"words"`
}

type rgb [3]float64

func (a rgb) to(b rgb, k float64) rgb {
	k = min(max(k, 0), 1)
	for i := range a {
		a[i] += (b[i] - a[i]) * k
	}
	return a
}

// parse reads #rrggbb.
func parse(s string) (rgb, bool) {
	var r, g, b int
	n, err := fmt.Sscanf(s, "#%02x%02x%02x", &r, &g, &b)
	return rgb{float64(r), float64(g), float64(b)}, n == 3 && err == nil
}

func (a rgb) String() string {
	return fmt.Sprintf("#%02x%02x%02x", int(math.Round(a[0])), int(math.Round(a[1])), int(math.Round(a[2])))
}

var (
	paste = rgb{240, 228, 196} // flour and water
	straw = rgb{239, 204, 114} // whole egg, about 11 % yolk in the dough
	gold  = rgb{230, 166, 50}  // all yolk, about 42 %
	cream = rgb{236, 214, 140} // durum lends its own yellow
	bran  = rgb{182, 140, 92}  // wholegrain
	dark  = rgb{112, 74, 20}
	light = rgb{255, 246, 224}
)

// UsualYolk is the yolk colour taken when none is said, on the fan of 1 to 15.
const UsualYolk = 10

// Stain is what an addition does to the colour: it draws the dough to #rrggbb, 1−e^(−Depth·
// share) of the way, where share is its part of the dough.
type Stain struct {
	Colour string
	Depth  float64
	G      float64
	Word   string // of the colour it gives
	Name   string
}

// Tint returns the colour of a dough of massG g with yolkG g of yolk in it (whole eggs'
// yolks included) of colour yolkScore (1–15, 0 counts as 10), on blend b, after stains. House
// estimate, by eye from mixed doughs.
func Tint(b flour.Blend, yolkG, massG, yolkScore float64, stains ...Stain) Colour {
	share := 0.
	if massG > 0 {
		share = yolkG / massG
	}
	if yolkScore > 0 {
		share *= yolkScore / UsualYolk
	}
	const wholeEgg, allYolk = .114, .42
	c, words := paste.to(straw, share/wholeEgg), "pale straw"
	switch {
	case share > wholeEgg:
		c = straw.to(gold, (share-wholeEgg)/(allYolk-wholeEgg))
		words = "warm straw"
		if share > .30 {
			words = "deep gold"
		} else if share > .17 {
			words = "gold"
		}
	case share > .09:
		words = "straw"
	case share < .02:
		words = "ivory"
	}
	if share < wholeEgg {
		c = c.to(cream, .5*b.DurumShare*(1-share/wholeEgg))
	}
	if b.DurumShare > .15 {
		words += ", the semola warms it"
	}
	if b.WholegrainShare > 0 {
		c = c.to(bran, .75*b.WholegrainShare)
		words += ", flecked with bran"
	}
	for _, s := range stains {
		to, ok := parse(s.Colour)
		if !ok || massG <= 0 {
			continue
		}
		k := 1 - math.Exp(-s.Depth*s.G/massG)
		c = c.to(to, k)
		if k > .08 {
			name, _, _ := strings.Cut(s.Name, ",")
			words = s.Word + " from " + strings.ToLower(name)
		}
	}
	return Colour{c.String(), c.to(dark, .52).String(), c.to(light, .45).String(), words}
}
