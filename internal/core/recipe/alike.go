package recipe

import (
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// Alike parts requests into those that are the same thing made again: equal in the recipe's part at one amount,
// whatever each is called. It returns their places, the groups and what is in them in the order they came.
func Alike(all []request.Request) (groups [][]int) {
	met := map[string][]int{} // groups of one key
next:
	for i, r := range all {
		key := keyOf(r)
		for _, g := range met[key] {
			// the key has all but what an own recipe holds to its flour
			if len(Differences(measure.Metric, all[groups[g][0]], r)) == 0 {
				groups[g] = append(groups[g], i)
				continue next
			}
		}
		met[key] = append(met[key], len(groups))
		groups = append(groups, []int{i})
	}
	return groups
}

// keyOf holds all that a recipe says apart from its name and its amounts.
func keyOf(r request.Request) string {
	var b strings.Builder
	if r.Amount.By == request.ByOwn {
		b.WriteString("own")
	}
	padded := request.Padded(r)
	for _, f := range request.Fields() {
		if PartOf(f) == OfRecipe && f.Path != "name" {
			b.WriteString("\x00" + f.Get(&padded))
		}
	}
	return b.String()
}

// copyMark ends the name of a batch that was made as a copy of another.
const copyMark = ", copy"

// Called is what a batch's name calls the thing: without the marks of copies.
func Called(name string) string {
	for strings.HasSuffix(name, copyMark) {
		name = strings.TrimSuffix(name, copyMark)
	}
	return strings.TrimSpace(name)
}
