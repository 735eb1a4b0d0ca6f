// Package flour answers: what is this flour, how moist is it today, and how much flour
// of the 14 % basis is in the bowl?
//
// F14 = Σ F_i·(1−m_i)/0.86 brings every flour to the moisture its figures are given for.
package flour

import (
	"errors"
	"strings"

	"hollen/internal/core/cost"
	"hollen/internal/core/measure"
)

// Sorption names the set of coefficients by which a flour takes moisture from the air.
type Sorption string

// The three published sorption classes of wheat.
const (
	Soft  Sorption = "soft"
	Hard  Sorption = "hard"
	Durum Sorption = "durum"
)

// Flour is one kind of flour. Figures are at 14 % moisture, wet basis.
type Flour struct {
	Key              string   `json:"key"`
	Name             string   `json:"name"`
	ProteinPct       float64  `json:"protein_pct"`        // % of flour, 0–25
	AshPct           float64  `json:"ash_pct"`            // % of flour, 0–4
	AbsorptionPct    float64  `json:"absorption_pct"`     // farinograph style, %, 45–80
	GlutenFactor     float64  `json:"gluten_factor"`      // share of the protein that forms gluten, 0–1
	UptakeTauMin     float64  `json:"uptake_tau_min"`     // time constant of water uptake, min
	SpoonedGPerML    float64  `json:"spooned_g_per_ml"`   // bulk density spooned into a cup, g/mL
	DippedGPerML     float64  `json:"dipped_g_per_ml"`    // bulk density dipped, g/mL
	PackedGPerML     float64  `json:"packed_g_per_ml"`    // bulk density packed, g/mL
	Durum            bool     `json:"durum"`              // counts as durum in kneading and rolling
	Wholegrain       bool     `json:"wholegrain"`         // counts as wholegrain in kneading
	Sorption         Sorption `json:"sorption"`           // soft, hard or durum
	Allergen         string   `json:"allergen,omitempty"` // as written on a label, empty when none
	MilledMoistureWB float64  `json:"milled_moisture_wb,omitempty"`

	PricePerKG cost.Money `json:"price_per_kg,omitempty"` // 0: not known
	Label      string     `json:"label_name,omitempty"`   // as a label lists it, "" where its name serves
}

// LabelName is what a label calls the flour among its ingredients.
func (f *Flour) LabelName() string {
	if f.Label != "" {
		return f.Label
	}
	name := strings.ToLower(f.Name)
	if !strings.Contains(name, "flour") && !strings.Contains(name, "semol") {
		name += " flour"
	}
	return name
}

// labels are what labels call the shipped flours: the grain, and how it was milled.
var labels = map[string]string{
	"soft-00": "wheat flour", "soft-0": "wheat flour", "plain": "wheat flour", "strong": "wheat flour",
	"semola-fine":     "durum wheat semola",
	"semolina-coarse": "durum wheat semolina", "wholemeal": "wholemeal wheat flour",
	"wholemeal-flatbread": "wholemeal wheat flour",
	"wholemeal-durum":     "wholemeal durum wheat flour", "spelt-white": "spelt flour",
	"spelt-whole": "wholegrain spelt flour", "emmer": "wholegrain emmer flour",
	"einkorn": "wholegrain einkorn flour", "khorasan": "khorasan wheat flour", "rye-light": "rye flour",
	"buckwheat": "buckwheat flour",
	"sorghum":   "sorghum flour", "millet": "millet flour", "chestnut": "chestnut flour", "chickpea": "chickpea flour",
	"rice":       "rice flour",
	"maize-fine": "maize flour",
}

// Shipped returns the flours that come with Hollen, in the order a list shows them.
// Protein, ash, absorption, gluten factor, uptake and densities are house values until a
// miller's sheet says otherwise.
func Shipped() []Flour {
	all := []Flour{
		{"soft-00", "Soft wheat 00", 10.5, .5, 55, 1, 6, .50, .58, .68, false, false, Soft, "wheat", 0, 0, ""},
		{"soft-0", "Soft wheat 0", 11, .6, 56, 1, 6, .51, .59, .68, false, false, Soft, "wheat", 0, 0, ""},
		{"plain", "Plain wheat", 11, .55, 58, 1, 7, .51, .59, .68, false, false, Soft, "wheat", 0, 0, ""},
		{"strong", "Strong bread wheat", 13, .6, 62, 1, 8, .53, .60, .69, false, false, Hard, "wheat", 0, 0, ""},
		{"semola-fine", "Durum semola, fine", 12.5, .85, 62, .9, 14, .68, .74, .79, true, false, Durum, "durum wheat",
			0, 0, ""},
		{"semolina-coarse", "Durum semolina, coarse", 12.5, .85, 58, .9, 22, .72, .77, .80, true, false, Durum,
			"durum wheat", 0, 0, ""},
		{"wholemeal", "Wholemeal wheat", 12.5, 1.6, 66, .85, 16, .50, .56, .65, false, true, Soft, "wheat", 0, 0, ""},
		{"wholemeal-flatbread", "Fine wholemeal for flatbread", 12, 1.5, 70, .85, 14, .50, .57, .66, false, true, Hard,
			"wheat", 0, 0, ""},
		{"wholemeal-durum", "Wholemeal durum", 13, 1.7, 67, .8, 20, .55, .62, .70, true, true, Durum, "durum wheat", 0,
			0, ""},
		{"spelt-white", "Spelt, white", 12, .65, 57, .75, 7, .50, .56, .65, false, false, Soft, "spelt (wheat)", 0, 0,
			""},
		{"spelt-whole", "Spelt, wholegrain", 13.5, 1.8, 62, .65, 14, .50, .56, .65, false, true, Soft, "spelt (wheat)",
			0, 0, ""},
		{"emmer", "Emmer", 12.5, 1.7, 60, .55, 14, .52, .58, .66, false, true, Hard, "emmer (wheat)", 0, 0, ""},
		{"einkorn", "Einkorn", 13, 1.8, 55, .45, 12, .52, .58, .66, false, true, Soft, "einkorn (wheat)", 0, 0, ""},
		{"khorasan", "Khorasan", 13.5, .9, 62, .8, 14, .60, .66, .74, true, false, Durum, "khorasan wheat", 0, 0, ""},
		{"rye-light", "Rye, light", 8, .8, 65, .15, 12, .48, .54, .62, false, false, Soft, "rye", 0, 0, ""},
		{"buckwheat", "Buckwheat", 12, 1.8, 60, 0, 12, .52, .58, .66, false, false, Soft, "", 0, 0, ""},
		{"sorghum", "Sorghum", 10, 1.4, 60, 0, 12, .52, .58, .66, false, false, Soft, "", 0, 0, ""},
		{"millet", "Millet", 10, 1.5, 60, 0, 12, .52, .58, .66, false, false, Soft, "", 0, 0, ""},
		{"chestnut", "Chestnut", 6, 2.2, 60, 0, 12, .45, .52, .62, false, false, Soft, "", 0, 0, ""},
		{"chickpea", "Chickpea", 21, 2.8, 60, 0, 12, .45, .52, .62, false, false, Soft, "", 0, 0, ""},
		{"rice", "Rice", 7, .5, 58, 0, 12, .45, .52, .62, false, false, Soft, "", 0, 0, ""},
		{"maize-fine", "Maize, fine", 7, .6, 58, 0, 12, .45, .52, .62, false, false, Soft, "", 0, 0, ""},
	}
	for i := range all {
		all[i].Label = labels[all[i].Key]
	}
	return all
}

var shipped = func() map[string]Flour {
	m := map[string]Flour{}
	for _, f := range Shipped() {
		m[f.Key] = f
	}
	return m
}()

// OwnPrefix begins the key of a flour a workshop keeps itself.
const OwnPrefix = "own-"

// Figures returns the numbers of a flour, as on a miller's sheet first.
func Figures() []measure.Figure[Flour] {
	return []measure.Figure[Flour]{
		measure.FigureOf("protein_pct", "Protein", "%", 3, 25, 1, func(f *Flour) *float64 { return &f.ProteinPct }),
		measure.FigureOf("ash_pct", "Ash", "%", .2, 4, 1, func(f *Flour) *float64 { return &f.AshPct }),
		measure.FigureOf("milled_moisture_wb", "Moisture as milled", "%", 8, 16, 100,
			func(f *Flour) *float64 { return &f.MilledMoistureWB }),
		measure.FigureOf("absorption_pct", "Absorption", "%", 45, 85, 1,
			func(f *Flour) *float64 { return &f.AbsorptionPct }),
		measure.FigureOf("gluten_factor", "Gluten factor", "", 0, 1, 1,
			func(f *Flour) *float64 { return &f.GlutenFactor }),
		measure.FigureOf("uptake_tau_min", "Water uptake", "min", 2, 60, 1,
			func(f *Flour) *float64 { return &f.UptakeTauMin }),
		measure.FigureOf("spooned_g_per_ml", "Spooned", "g/mL", .3, 1, 1,
			func(f *Flour) *float64 { return &f.SpoonedGPerML }),
		measure.FigureOf("dipped_g_per_ml", "Dipped", "g/mL", .3, 1.1, 1,
			func(f *Flour) *float64 { return &f.DippedGPerML }),
		measure.FigureOf("packed_g_per_ml", "Packed", "g/mL", .3, 1.2, 1,
			func(f *Flour) *float64 { return &f.PackedGPerML }),
	}
}

// Check returns an error for everything in f that cannot be right: a name of 1–60 letters,
// every figure within its bounds, a known sorption class.
func (f *Flour) Check() error {
	var errs []error
	if n := len([]rune(f.Name)); n < 1 || n > 60 {
		errs = append(errs, measure.Faultf("name", "%d letters; 1 to 60 are allowed", n))
	}
	errs = append(errs, measure.Allowed(Figures(), f)...)
	if _, ok := henderson[f.Sorption]; !ok {
		errs = append(errs, measure.Faultf("sorption", "%q; soft, hard or durum is allowed", f.Sorption))
	}
	if len(f.Allergen) > 60 {
		errs = append(errs, measure.Faultf("allergen", "at most 60 letters"))
	}
	if len([]rune(f.Label)) > 60 {
		errs = append(errs, measure.Faultf("label_name", "at most 60 letters are allowed"))
	}
	return errors.Join(errs...)
}

// Find returns the shipped flour of that key and whether there is one.
func Find(key string) (Flour, bool) {
	f, ok := shipped[key]
	return f, ok
}
