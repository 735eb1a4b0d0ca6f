package web

import (
	"context"
	"fmt"
	"testing"

	"hollen/internal/demo"
)

// Every version can be looked at, set beside what is now, and taken back; compare finds any batch.
func TestVersionsOfABatch(t *testing.T) {
	s := newSite(t)
	id := demo.Number(demo.Saturday)
	at := batchAt(demo.Saturday)
	for n, bench := range []string{"900", "700"} {
		v := s.typed(id)
		v.Set("version", fmt.Sprint(n+1))
		v.Set("was_at", "roll")
		v.Set("roll.bench_mm", bench)
		s.wants(s.ask("POST", at+"/save", v), 303)
	}
	s.wants(s.ask("GET", at, nil), 200, at+"/versions")
	s.wants(s.ask("GET", at+"/versions", nil), 200, "3, now", "Bench length 700 mm, was 900 mm", "Take back version 1",
		"Today, ")
	s.wants(s.ask("GET", at+"/versions/1?at=roll", nil), 200, "As it was in version 1", "Not saved yet",
		`name="version" value="3"`, "bench 1,200")
	s.wants(s.ask("GET", at+"/versions/9", nil), 404, "no such version")
	s.wants(s.ask("GET", at+"/versions/x", nil), 404)
	s.wants(s.ask("GET", fmt.Sprintf("/compare?a=%d&b=%dv1", id, id), nil), 200, "Version 1", "Bench length", "700",
		"1,200")
	s.wants(s.ask("POST", at+"/versions/1/take", nil), 303)
	if b, err := s.store.Get(context.Background(), id); err != nil || b.Version != 4 || b.Request.Roll.BenchMM != 1200 {
		t.Errorf("version %d, %v", b.Version, err)
	}
	s.wants(s.ask("GET", "/compare?find=ravioli&a=1", nil), 200, demo.Lantern, demo.Straw, `value="ravioli"`)
}
