package request

import "hollen/internal/core/measure"

// Clash is one thing another window changed meanwhile, and what is kept of ours; Mine is empty
// where theirs is.
type Clash struct{ Label, Was, Theirs, Mine string }

// Merge puts what changed from base to mine onto theirs. Where both changed a field, mine
// stands; a group that mine changed is taken whole. The list tells what happened meanwhile, in the units of in.
func Merge(in measure.System, base, mine, theirs Request) (merged Request, meanwhile []Clash) {
	merged = theirs
	ours, taken := map[string]Change{}, map[string]bool{}
	for _, c := range ChangesIn(in, base, mine) {
		ours[c.Field.Path] = c
		switch kept := c.Field.KeptBy(&mine); {
		case c.Field.Group != "":
			taken[c.Field.Group] = true
		case kept != nil:
			c.Field.Pick(&merged, kept.Key, kept.Value)
		default:
			_ = c.Field.Set(&merged, c.To) // it stood in a request that was allowed
		}
	}
	for _, g := range groups {
		if taken[g.Name] {
			g.copy(&merged, &mine)
		}
	}
	for _, c := range ChangesIn(in, base, theirs) {
		x := Clash{Label: c.Field.Label, Was: c.FromShown, Theirs: c.ToShown}
		if o, both := ours[c.Field.Path]; both && o.To != c.To {
			x.Mine = o.ToShown
		} else if taken[c.Field.Group] {
			x.Mine = c.FromShown
		}
		meanwhile = append(meanwhile, x)
	}
	return merged, meanwhile
}
