package batch

import (
	"html/template"
	"net/url"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/form"
	"hollen/internal/web/page"
)

// batchView is the frame of the batch page: the form, the plan and what every station shows. What
// one station alone shows stands in the file of that station.
type batchView struct {
	form.Form
	ID        uint64
	Version   int // the version the form was opened at
	At        request.Stage
	Unsaved   bool
	Saved     bool            // just saved
	Conflict  []request.Clash // what another window saved meanwhile
	Newer     int             // its version
	Gone      bool            // deleted meanwhile
	Opened    int             // an earlier version that was opened, 0 none
	Refused   bool            // to be saved or taken further, and waits for fields
	KeptWay   string          // the name of a way that has just been kept
	KeepErr   string          // why one is not kept
	Guide     *page.Guide     // what is said at the first batch
	Full      bool            // the station with what stands behind its first layer
	Lean      bool            // only what changes with the figures: the page has the rest
	Sensed    *Sensed         // the air a sensor says
	Sacks     []sackCurve     // lots of which something was measured
	Last      *store.Made     // the last making with a word for this time, nil when there is none
	Rooms     []roomRow
	Cabinet   store.Cabinet // what may be picked from
	PartnerID *uint64
	Doctor    *consultation  // at the doctor's alone
	Partner   *partnerView   // the other dough of this batch, nil when there is none
	Recipe    *page.OfRecipe // it is of; nil where it is of none
	Base      string         // the address of what stands at the stations
	IsRecipe  bool           // that is a recipe
	Retired   string         // what it is planned with that the cabinet offers no more
	of        store.Batch    // as it is saved

	posted url.Values // what the page sent, where it did
	open   any        // the view of the station, made once
}

// newView is the page of a form at a station; saved is the request it was opened on.
func newView(id uint64, version int, at string, saved request.Request, f form.Form) *batchView {
	v := &batchView{Form: f, ID: id, Version: version, At: request.AtFormula}
	if _, ok := stations[request.Stage(at)]; ok {
		v.At = request.Stage(at)
	}
	v.Unsaved = len(f.Errors) > 0 || len(request.Changes(saved, f.Request)) > 0
	return v
}

// station is what the rail and the sheet of the open station are drawn from.
func (v *batchView) station() any {
	if v.open == nil {
		v.open = stations[v.At].view(v)
	}
	return v.open
}

// Req is the request as the form stands, errors at their last good value.
func (v *batchView) Req() *request.Request { return &v.Request }

// station is one station of a batch: its name, its number on the spine, and what its rail and
// sheet are drawn from. The templates are called rail-key and sheet-key.
type station struct {
	name string
	view func(*batchView) any
	key  func(*plan.Plan) string // the figure on the spine
}

// stations are the stations by their key, the doctor among them.
var stations = map[request.Stage]station{
	request.AtFormula: {"Formula", func(v *batchView) any { return &formulaView{batchView: v} }, formulaKey},
	request.AtRoom:    {"Room", func(v *batchView) any { return &roomView{formulaView{batchView: v}} }, roomKey},
	request.AtKnead:   {"Knead", func(v *batchView) any { return kneadView{v} }, kneadKey},
	request.AtRest:    {"Rest", func(v *batchView) any { return kneadView{v} }, restKey},
	request.AtRoll:    {"Roll", func(v *batchView) any { return rollView{v} }, rollKey},
	request.AtCut:     {"Cut", func(v *batchView) any { return cutView{v} }, cutKey},
	request.AtDry:     {"Dry", func(v *batchView) any { return dryView{v} }, dryKey},
	request.AtCook:    {"Cook", func(v *batchView) any { return cookView{v} }, cookKey},
	atDoctor:          {"Something wrong", func(v *batchView) any { return v }, nil},
}

// Here is the open station; nil at the doctor.
func (v *batchView) Here() *Station {
	for _, s := range v.Stations() {
		if s.Current {
			return &s
		}
	}
	return nil
}

// Short is the batch in one line, as the list has it: flour, eggs and water, minutes, and where the roller ends.
func (v *batchView) Short() []string {
	p := v.Plan
	out := []string{v.In.Grams(p.Formula.FlourG) + " flour"}
	if p.Formula.Pick.EggG > 0 {
		out = append(out, p.EggWords())
	}
	if g := p.Room.LiquidG; g > .5 {
		out = append(out, v.In.Whole(g)+" "+p.TopWord())
	}
	out = append(out, measure.Minutes(p.Knead.Min)+" + "+measure.Minutes(p.Rest.Min))
	if stops := p.Roll.Passes; len(stops) > 0 && !p.Pinned() && !p.Roped() {
		out = append(out, "to stop "+stops[len(stops)-1].Label)
	}
	return out
}

// Station is one station of the spine.
type Station struct {
	N        int
	Key      request.Stage
	Name     string
	Figure   string
	Warnings int
	Errors   int
	Current  bool
}

// Stations returns the spine.
func (v *batchView) Stations() []Station {
	var out []Station
	waiting := v.Waiting()
	for i, s := range request.Stages() {
		x := Station{i + 1, s, stations[s].name, stations[s].key(v.Plan), v.Plan.Warnings(s), 0, s == v.At}
		for _, w := range waiting {
			if w.Stage == s && w.Label != "Name" {
				x.Errors++
			}
		}
		out = append(out, x)
	}
	return out
}

// funcs are what the templates of a batch are put together with.
func funcs(t *template.Template) template.FuncMap {
	return template.FuncMap{
		"stationName": func(s request.Stage) string { return stations[s].name },
		// the rail or the sheet of the open station, by the template of its name
		"station": func(kind string, v *batchView) (template.HTML, error) {
			var b strings.Builder
			err := t.ExecuteTemplate(&b, kind+"-"+string(v.At), v.station())
			return template.HTML(b.String()), err
		},
	}
}
