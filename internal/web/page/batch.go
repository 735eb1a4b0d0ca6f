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
