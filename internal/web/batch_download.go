package web

import (
	"bytes"
	"fmt"
	"net/http"
	"regexp"
	"strconv"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/draw"
	"hollen/internal/exchange"
	"hollen/internal/store"
)

// Downloads of a batch send it as saved or, asked by POST, as the form stands.

func (s *Server) downloadRequest(c *Visit) error {
	return s.download(c, "request.json", func(p *plan.Plan) (any, error) { return p.Request, nil })
}

func (s *Server) downloadPlan(c *Visit) error {
	return s.download(c, "plan.json", func(p *plan.Plan) (any, error) { return p, nil })
}

func (s *Server) downloadRecipe(c *Visit) error {
	return s.download(c, "recipe.json", exchange.RecipeOf)
}

func (s *Server) download(c *Visit, kind string, of func(*plan.Plan) (any, error)) error {
	a, err := s.askSound(c)
	if err != nil {
		return err
	}
	var b bytes.Buffer
	p, err := s.metricPlan(a.view.Plan)
	if err != nil {
		return s.failPlan(c, a.batch.ID, err)
	}
	v, err := of(p)
	if err == nil {
		err = exchange.Write(&b, v)
	}
	if err != nil {
		return s.failPlan(c, a.batch.ID, err)
	}
	send(c, "application/json; charset=utf-8", slug(a.view.Request.Name)+"-"+kind, b.Bytes())
	return nil
}

// metricPlan is the plan as documents and drawings have it: in metric, whatever the page shows.
func (s *Server) metricPlan(p *plan.Plan) (*plan.Plan, error) {
	if p.In() == measure.Metric {
		return p, nil
	}
	return plan.Make(p.Rules(), p.Request)
}

// send hands a file over to be kept.
func send(c *Visit, kind, name string, doc []byte) {
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="%s"`, name))
	c.Data(http.StatusOK, kind, doc)
}

const svgType = "image/svg+xml; charset=utf-8"

// drawn is a batch to draw and what its drawing carries: the request it is made from.
func (s *Server) drawn(c *Visit) (p *plan.Plan, meta string, err error) {
	a, err := s.askSound(c)
	if err != nil {
		return nil, "", err
	}
	var b bytes.Buffer
	if err := exchange.Write(&b, a.view.Request); err != nil {
		return nil, "", s.failPlan(c, a.batch.ID, err)
	}
	p, err = s.metricPlan(a.view.Plan)
	if err != nil {
		return nil, "", s.failPlan(c, a.batch.ID, err)
	}
	return p, b.String(), nil
}

func (s *Server) downloadCut(c *Visit) error {
	p, meta, err := s.drawn(c)
	if err != nil {
		return err
	}
	part, err := strconv.Atoi(c.DefaultQuery("part", "0"))
	parts := p.Cut.Parts()
	if err != nil || part < 0 || part >= len(parts) || len(parts[part].Cutouts()) == 0 {
		return refuse(http.StatusNotFound, "There is no such sheet to draw.",
			"A batch draws the sheets of each shape that is cut from one.")
	}
	send(c, svgType, slug(p.Request.Name+" "+parts[part].Shape.Name)+"-cut.svg", []byte(draw.CutFile(p, parts[part],
		meta)))
	return nil
}

func (s *Server) downloadLadder(c *Visit) error {
	p, meta, err := s.drawn(c)
	if err != nil {
		return err
	}
	send(c, svgType, slug(p.Request.Name)+"-ladder.svg", []byte(draw.LadderFile(p, meta)))
	return nil
}

// exportCabinet sends everything the workshop keeps that another can use, exportShelf what is
// on one shelf.
func (s *Server) exportCabinet(c *Visit) error {
	return s.export(c, "cabinet", func(store.Kind) bool { return true })
}

func (s *Server) exportShelf(c *Visit) error {
	sh, err := s.atShelf(c)
	if err != nil {
		return err
	}
	return s.export(c, sh.Path, func(k store.Kind) bool { return k == sh.Kind })

}

func (s *Server) export(c *Visit, name string, wanted func(store.Kind) bool) error {
	ctx := c.Request.Context()
	things, err := s.store.Things(ctx, false)
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
		return refuse(http.StatusNotFound, "There is nothing of your own to download here.",
			"Flours, eggs, additions, machines and shapes of your own can be handed on; lots and powders belong to "+
				"this workshop.")
	}
	var b bytes.Buffer
	if err := exchange.Write(&b, doc); err != nil {
		return err
	}
	send(c, "application/json; charset=utf-8", slug(s.place(c)+" "+name)+".json", b.Bytes())
	return nil
}

var notWord = regexp.MustCompile(`[^a-z0-9]+`)

// slug returns a name fit for a file.
func slug(name string) string {
	out := strings.Trim(notWord.ReplaceAllString(strings.ToLower(name), "-"), "-")
	if out == "" {
		return "batch"
	}
	return out[:min(len(out), 60)]
}
