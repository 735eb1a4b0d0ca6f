package cabinet

import (
	"bytes"
	"net/http"

	"hollen/internal/exchange"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// ExportCabinet sends everything the workshop keeps that another can use, exportShelf what is
// on one shelf.
func (s *Room) ExportCabinet(c *page.Visit) error {
	return s.export(c, "cabinet", func(store.Kind) bool { return true })
}

// ExportShelf sends what the workshop keeps on one shelf.
func (s *Room) ExportShelf(c *page.Visit) error {
	sh, err := s.atShelf(c)
	if err != nil {
		return err
	}
	return s.export(c, sh.Path, func(k store.Kind) bool { return k == sh.Kind })

}

func (s *Room) export(c *page.Visit, name string, wanted func(store.Kind) bool) error {
	ctx := c.Request.Context()
	things, err := s.Store.Things(ctx, false)
	if err != nil {
		return err
	}
	doc := exchange.Cabinet{Format: exchange.CabinetFormat}
	for _, t := range things {
		if wanted(t.Kind) {
			doc.Put(t.Value)
		}
	}
	if doc.Check() != nil {
		return page.Refuse(http.StatusNotFound, "There is nothing of your own to download here.",
			"Flours, eggs, additions, machines and shapes of your own can be handed on; lots and powders belong to "+
				"this workshop.")
	}
	var b bytes.Buffer
	if err := exchange.Write(&b, doc); err != nil {
		return err
	}
	page.Send(c, "application/json; charset=utf-8", page.Slug(s.Place(c)+" "+name)+".json", b.Bytes())
	return nil
}
