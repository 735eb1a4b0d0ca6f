package egg

import (
	"math"

	"hollen/internal/core/rules"
)

// TrayMean returns what an egg of a tray holds without shell, g, and how sure that is, from n of them that weigh totalG
// together: their mean, drawn to the class's by how far trays of one class differ. n under 1 is the class's own.
// k = σ_tray²/(σ_tray² + σ_egg²/n). Source of the spreads: rules.Measure.
func TrayMean(me rules.Measure, classG float64, n int, totalG float64) (meanG, sd float64) {
	tray := me.TraySD * me.TraySD
	if n < 1 {
		return classG, me.TraySD
	}
	each := me.EggSD * me.EggSD / float64(n)
	k := tray / (tray + each)
	return classG + k*(totalG/float64(n)-classG), math.Sqrt(1 / (1/tray + 1/each))
}
