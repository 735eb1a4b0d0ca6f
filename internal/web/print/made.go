package print

import (
	"strconv"

	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// paperMade is the making the paper of a batch is of: the last that ended of the batch as it stands, unless the plan is
// asked for; nil where
// there is none, or the form says something else than what was made.
func (s *Room) paperMade(c *page.Visit, b *page.BatchForm) (*page.Made, error) {
	want := c.DefaultQuery("made", c.PostForm("made"))
	if want == asPlanned {
		return nil, nil
	}
	id, _ := strconv.ParseUint(want, 10, 64)
	return s.LastMade(c.Request.Context(), c.Units, b.Batch.ID, func(x *store.Making) bool {
		if id != 0 {
			return x.ID == id
		}
		return x.BatchVersion == b.Batch.Version && len(request.Changes(b.Batch.Request.Request, b.Request)) == 0
	})
}

// asPlanned asks for the paper of the plan, whatever was made.
const asPlanned = "planned"
