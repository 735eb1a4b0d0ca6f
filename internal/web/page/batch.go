package page

import (
	"html/template"

	"hollen/internal/core/plan"
	"hollen/internal/store"
	"hollen/internal/web/form"
)

// BatchForm is a batch as the form of its page stands, for a page beside it.
type BatchForm struct {
	form.Form
	Batch store.Batch   // as it is saved
	Other *OtherDough   // that is laid on it as stripes; nil where there is none
	Along template.HTML // the whole form, in fields that are not shown
}

// OtherDough is the other dough of a batch.
type OtherDough struct {
	ID   uint64
	Plan *plan.Plan
}

// OfRecipe is which recipe a batch is of, and what it has otherwise.
type OfRecipe struct {
	ID      uint64
	Name    string
	Version int      // the batch was taken at
	Newer   int      // there is this one now; 0: there is none
	Here    []string // what is otherwise here
	More    int      // and so many more
	Retired bool
}
