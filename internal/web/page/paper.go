package page

// Paper is what a page is printed on.
type Paper struct{ Key, Name string }

// SheetPapers are the papers of a batch sheet and of a wall list.
var SheetPapers = []Paper{{"a4", "A4"}, {"letter", "US letter"}}

// PaperOf is the paper of that key, the first where it is none.
func PaperOf(list []Paper, key string) Paper {
	for _, p := range list {
		if p.Key == key {
			return p
		}
	}
	return list[0]
}
