package batch

import (
	"bytes"
	"net/http"
	"strconv"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/draw"
	"hollen/internal/exchange"
	"hollen/internal/web/page"
)

// Downloads of a batch send it as saved or, asked by POST, as the form stands.

// DownloadRequest hands out the request of a batch.
func (s *Room) DownloadRequest(c *page.Visit) error {
	return s.download(c, "request.json", func(p *plan.Plan) (any, error) { return p.Request, nil })
}

// DownloadPlan hands out all that was worked out of it.
func (s *Room) DownloadPlan(c *page.Visit) error {
	return s.download(c, "plan.json", func(p *plan.Plan) (any, error) { return p, nil })
}

// DownloadRecipe hands it out as a recipe that other programs read, schema.org JSON-LD.
func (s *Room) DownloadRecipe(c *page.Visit) error {
	return s.download(c, "recipe.json", exchange.RecipeOf)
}

func (s *Room) download(c *page.Visit, kind string, of func(*plan.Plan) (any, error)) error {
	a, err := s.askSound(c)
	if err != nil {
		return err
	}
	var b bytes.Buffer
	p, err := s.metricPlan(a.view.Plan)
	if err != nil {
		return s.FailPlan(c, a.batch.ID, err)
	}
	v, err := of(p)
	if err == nil {
		err = exchange.Write(&b, v)
	}
	if err != nil {
		return s.FailPlan(c, a.batch.ID, err)
	}
	page.Send(c, "application/json; charset=utf-8", page.Slug(a.view.Request.Name)+"-"+kind, b.Bytes())
	return nil
}

// metricPlan is the plan as documents and drawings have it: in metric, whatever the page shows.
func (s *Room) metricPlan(p *plan.Plan) (*plan.Plan, error) {
	if p.In() == measure.Metric {
		return p, nil
	}
	return plan.Make(p.Rules(), p.Request)
}

const svgType = "image/svg+xml; charset=utf-8"

// drawn is a batch to draw and what its drawing carries: the request it is made from.
func (s *Room) drawn(c *page.Visit) (p *plan.Plan, meta string, err error) {
	a, err := s.askSound(c)
	if err != nil {
		return nil, "", err
	}
	var b bytes.Buffer
	if err := exchange.Write(&b, a.view.Request); err != nil {
		return nil, "", s.FailPlan(c, a.batch.ID, err)
	}
	p, err = s.metricPlan(a.view.Plan)
	if err != nil {
		return nil, "", s.FailPlan(c, a.batch.ID, err)
	}
	return p, b.String(), nil
}

// DownloadCut hands out the sheet of a shape with what is cut from it, in mm.
func (s *Room) DownloadCut(c *page.Visit) error {
	p, meta, err := s.drawn(c)
	if err != nil {
		return err
	}
	part, err := strconv.Atoi(c.DefaultQuery("part", "0"))
	parts := p.Cut.Parts()
	if err != nil || part < 0 || part >= len(parts) || len(parts[part].Cutouts()) == 0 {
		return page.Refuse(http.StatusNotFound, "There is no such sheet to draw.",
			"A batch draws the sheets of each shape that is cut from one.")
	}
	page.Send(c, svgType, page.Slug(p.Request.Name+" "+parts[part].Shape.Name)+"-cut.svg", []byte(draw.CutFile(p,
		parts[part],
		meta)))
	return nil
}

// DownloadLadder hands out the way down as a card, in mm.
func (s *Room) DownloadLadder(c *page.Visit) error {
	p, meta, err := s.drawn(c)
	if err != nil {
		return err
	}
	page.Send(c, svgType, page.Slug(p.Request.Name)+"-ladder.svg", []byte(draw.LadderFile(p, meta)))
	return nil
}
