package batch

import (
	"net/http"
	"slices"
	"strings"

	"hollen/internal/core/request"
	"hollen/internal/web/page"
)

// A station shows first what to do and the few choices that move it most; the rest stands behind one mark. Which
// stations a browser shows whole, it remembers itself: their keys in a cookie, with points between them.
const layersCookie = "layers"

// behind is what stands behind the first layer of a station, in a few words.
var behind = map[request.Stage]string{
	request.AtFormula: "reasons, colour, cost, label",
	request.AtRoom:    "reasons, day and maker, flour by flour",
	request.AtKnead:   "reasons, five schools, ways kept",
	request.AtRest:    "reasons, fridge",
	request.AtRoll:    "gaps, seconds, folds, stops left out",
	request.AtCut:     "reasons, lengths, nests, trims",
	request.AtDry:     "reasons, racks, drying to keep",
	request.AtCook:    "reasons, pots",
}

// Behind is what stands behind the first layer of the open station.
func (v *batchView) Behind() string { return behind[v.At] }

// layersOf are the stations a browser shows whole.
func layersOf(c *page.Visit) []string {
	kept, err := c.Cookie(layersCookie)
	if err != nil {
		return nil
	}
	return strings.FieldsFunc(kept, func(r rune) bool { return r == '.' })
}

// layer has a page show its station as this browser last did, whole where something in it waits; asked is what the
// station's mark was pressed for, "" where it was not.
func (v *batchView) layer(c *page.Visit, asked string) {
	whole, at := layersOf(c), string(v.At)
	if asked != "" {
		if whole = slices.DeleteFunc(whole, func(k string) bool { return k == at }); asked == "full" {
			whole = append(whole, at)
		}
		known := slices.DeleteFunc(whole, func(k string) bool { _, is := behind[request.Stage(k)]; return !is })
		http.SetCookie(c.Writer, &http.Cookie{Name: layersCookie, Value: strings.Join(known, "."), Path: "/",
			MaxAge: 365 * 24 * 3600, SameSite: http.SameSiteLaxMode})
	}
	_, has := behind[v.At] // the doctor has but one
	v.Full = !has || slices.Contains(whole, at)
	for _, w := range v.Waiting() {
		v.Full = v.Full || w.Stage == v.At
	}
}
