package addition

import "hollen/internal/core/measure"

// PowderWater is the water left in a crisp powder, share of its mass.
// Source: dried vegetable powders, 4 to 6 %.
const PowderWater = .05

// Drying says how a powder is dried. Source: house.
const Drying = "About 50 °C, 8 to 12 hours, until crisp; milled, sieved, kept dry and dark."

// PowderG returns how much powder freshG g of a vegetable of waterShare (0–1, below 0.95)
// gives, g: fresh·(1 − water)/0.95.
func PowderG(freshG, waterShare float64) float64 {
	return freshG * (1 - waterShare) / (1 - PowderWater)
}

// FreshG returns how much of the vegetable gives powderG g of powder, g.
func FreshG(powderG, waterShare float64) float64 {
	return powderG * (1 - PowderWater) / (1 - waterShare)
}

// Vegetable is one that is dried to a powder, by the water it holds when fresh, 0–1.
type Vegetable struct {
	Key, Name  string
	WaterShare float64
}

// Vegetables returns the vegetables with their water, trimmed and raw.
// Source: food composition tables, rounded.
func Vegetables() []Vegetable {
	return []Vegetable{{"spinach", "Spinach leaves", .914}, {"beet", "Beetroot", .876}, {"tomato", "Tomato", .945},
		{"pumpkin", "Pumpkin", .916},
		{"carrot", "Carrot", .883}, {"onion", "Onion", .891}, {"mushroom", "Mushrooms", .924}, {"herbs", "Soft herbs",
			.88}, {"nettle", "Nettle tops", .877}}
}

// Yield is one drying as it went.
type Yield struct {
	Of      string  `json:"of"` // what was dried
	FreshG  float64 `json:"fresh_g"`
	PowderG float64 `json:"powder_g"`
	Hours   float64 `json:"hours"`
	DriedOn string  `json:"dried_on,omitempty"` // yyyy-mm-dd
}

// Share returns powder over fresh, 0–1.
func (y Yield) Share() float64 { return y.PowderG / y.FreshG }

// Check returns an error when y cannot be right.
func (y *Yield) Check() error {
	switch {
	case len([]rune(y.Of)) < 1 || len([]rune(y.Of)) > 60:
		return measure.Faultf("of", "1 to 60 letters are allowed")
	case !(y.FreshG >= 10 && y.FreshG <= 100000):
		return measure.Faultf("fresh_g", "%g; 10 to 100000 g is allowed", y.FreshG)
	case !(y.PowderG >= .1 && y.PowderG < y.FreshG):
		return measure.Faultf("powder_g", "%g; it must be over 0.1 g and under the fresh mass", y.PowderG)
	case !(y.Hours >= 0 && y.Hours <= 72):
		return measure.Faultf("hours", "%g; 0 to 72 is allowed", y.Hours)
	}
	return nil
}

// MeanShare returns powder over fresh of several dryings, by mass, 0 when there are none.
func MeanShare(all []Yield) float64 {
	var fresh, powder float64
	for _, y := range all {
		fresh, powder = fresh+y.FreshG, powder+y.PowderG
	}
	if fresh == 0 {
		return 0
	}
	return powder / fresh
}
