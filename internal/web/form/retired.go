package form

import (
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/store"
)

// Retired names what a request is planned with that the cabinet offers no more, and what it is there: "Dike sack (first
// flour)"; "" where there is nothing of that.
func Retired(cab store.Cabinet, r *request.Request) string {
	var out []string
	for _, f := range request.Fields() {
		has := f.KeptBy(r)
		if has == nil || offered(cab, f, r, has.Key) {
			continue
		}
		out = append(out, has.Name+" ("+strings.ToLower(f.Label)+")")
	}
	return measure.List(out)
}

func offered(cab store.Cabinet, f request.Field, r *request.Request, key string) bool {
	for _, x := range Offers(cab, f, r) {
		if x.Key == key {
			return true
		}
	}
	return false
}
