package schedule

import (
	"fmt"

	"hollen/internal/core/measure"
)

// Proof says how near the plan is to the best there is.
func Proof(a *Answer) string {
	gap := measure.Minutes(float64(a.GapMin()))
	switch {
	case a.Proved && a.Goals.Late > 0:
		return "Proved best: with these hands nothing is less late, and then no day is shorter."
	case a.Proved:
		return "Proved best: no plan of these batches is shorter."
	case a.Bound == Goals{}:
		return "Planned anew on the way: how near it is to the best is not known."
	case a.Goals.Late > a.Bound.Late:
		return fmt.Sprintf(
			"A plan may be there that is less late, by %s at most over all orders; none was found.",
			gap,
		)
	case a.Goals.Wait > a.Bound.Wait && a.Goals.Late > 0:
		return fmt.Sprintf(
			"No plan is less late. One may be there in which the doughs wait less, by %s at most; none was found.",
			gap,
		)
	case a.Goals.Wait > a.Bound.Wait:
		return fmt.Sprintf("On time, and in no plan does the dough wait over %s less.", gap)
	case a.GapMin() == 0 && a.Goals.Late > 0:
		return "No plan is less late, and then none is shorter."
	case a.GapMin() == 0:
		return "As short as any plan could be."
	case a.Goals.Late > 0:
		return fmt.Sprintf("No plan is less late; the day is at most %s longer than the best.", gap)
	}
	return fmt.Sprintf("At most %s from the best there is.", gap)
}
