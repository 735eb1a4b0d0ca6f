package cut

import (
	"cmp"
	"math"

	"hollen/internal/core/rules"
)

// Filling is what goes into filled pieces.
type Filling struct {
	PieceG   float64 `json:"piece_g"`
	FitsG    float64 `json:"fits_g"`
	TotalG   float64 `json:"total_g"` // with the margin
	HeightMM float64 `json:"height_mm"`
	SeamMM   float64 `json:"seam_mm"` // two sheets at the seam
	Thick    bool    `json:"seam_thick"`
	Yolks    int     `json:"yolks"`   // set in, over all pieces
	YolksG   float64 `json:"yolks_g"` // beside the filling
}

// SeamMM returns what the seams take of a filled piece of that width, both sides together, mm.
func SeamMM(r rules.Cut, widthMM float64) float64 {
	if widthMM < r.SmallMM {
		return r.SeamSmallMM
	}
	return r.SeamMM
}

// FillG returns the filling of one piece, g, and how high it stands, mm: 1.05·0.6·A·h/1000, A
// the area the seam leaves free (side less 16 mm, less 12 under 40; half of it where the
// piece is folded over, of a half-moon π(d/2−8)²/2), h the lesser of 10 mm and 0.18 of the size. House rule.
func FillG(r rules.Cut, c PieceCut) (g, heightMM float64) {
	seam := SeamMM(r, c.WidthMM)
	h := min(r.FillHighMM, r.FillHighShare*c.WidthMM)
	var area float64
	switch {
	case c.Outline == Round && c.Close == FoldedPiece:
		area = math.Pi * math.Pow(max(0, c.WidthMM/2-seam/2), 2) / 2
	case c.Outline == Round:
		area = math.Pi * math.Pow(max(0, c.WidthMM/2-seam/2), 2)
	default:
		area = max(0, c.WidthMM-seam) * max(0, cmp.Or(c.LongMM, c.WidthMM)-seam)
		if c.Close == FoldedPiece { // one half lies on the other: the filling has the face of one
			area /= 2
		}
	}
	return r.FillDensity * r.FillShape * area * h / 1000, h
}

// Fill adds the filling to pieces cut from a sheet of sheetMM mm: each g grams, nil as much as
// fits; and as many whole yolks of yolkG g each.
func (o *Layout) Fill(r rules.Cut, c PieceCut, sheetMM float64, g *float64, yolks, yolkG float64) {
	o.Family = Filled
	f := Filling{SeamMM: 2 * sheetMM}
	f.PieceG, f.HeightMM = FillG(r, c)
	f.FitsG = f.PieceG
	if g != nil {
		f.PieceG = *g
	}
	f.Thick = f.SeamMM > r.SeamMaxMM*(1+r.CutterSlack)+1e-9 // no finer than the gaps are known
	o.FillG = f.PieceG * float64(o.Count)
	f.TotalG = o.FillG * (1 + r.FillMargin)
	f.Yolks = int(yolks) * o.Count
	f.YolksG = float64(f.Yolks) * yolkG
	o.MadeG = o.DoughG + o.FillG + f.YolksG
	o.CutMin = (float64(o.Count)*r.FilledS + float64(f.Yolks)*r.YolkSetS) / 60
	o.Filling = &f
}

// FillMin is how long making g grams of filling takes, min: 8 and 6 more for each kg; 0 of none. House rule.
func FillMin(r rules.Cut, g float64) float64 {
	if g <= 0 {
		return 0
	}
	return r.FillMakeMin + r.FillMakePerKGMin*g/1000
}
