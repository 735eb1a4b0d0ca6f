package web

import (
	"context"
	"net/http/httptest"
	"strings"
	"testing"

	"hollen/internal/demo"
	"hollen/internal/device"
)

// Readings are taken with a device's own token, a line each; nonsense and other tokens are refused, a flood is passed
// over.
func TestReadingsOfDevices(t *testing.T) {
	s := newSite(t)
	ctx := context.Background()
	scale, err := s.store.AddDevice(ctx, "scale-1", "scale")
	if err != nil {
		t.Fatal(err)
	}
	room, err := s.store.AddDevice(ctx, "room-1", "room")
	if err != nil {
		t.Fatal(err)
	}
	send := func(name, token, lines string) *httptest.ResponseRecorder {
		r := httptest.NewRequest("POST", "http://127.0.0.1/devices/"+name+"/readings", strings.NewReader(lines))
		r.Header.Set("Authorization", "Bearer "+token)
		w := httptest.NewRecorder()
		s.h.ServeHTTP(w, r)
		return w
	}
	s.wants(send("scale-1", scale, "{\"g\":541.5}\n\n{\"g\":541.7,\"steady\":true}\n"), 200, "2 taken")
	s.wants(send("scale-1", scale, "{\"g\":1e9}"), 422, "200,000 g")
	s.wants(send("scale-1", scale, "weights"), 422, "no JSON")
	s.wants(send("scale-1", scale, strings.Repeat("x", device.MaxLine+10)), 400, "no line")
	for _, wrong := range [][2]string{{"scale-1", room}, {"scale-1", ""}, {"scale-9", scale}} {
		s.wants(send(wrong[0], wrong[1], "{\"g\":1}"), 401)
	}
	s.wants(send("scale-1", scale, strings.Repeat("{\"g\":5}\n", 3000)), 200)
	s.wants(send("room-1", room, "{\"t_c\":23.4,\"rh\":0.61}"), 200, "1 taken")
	s.wants(s.ask("GET", batchAt(demo.Saturday)+"?at=room", nil), 200, "Take 23.4 °C and 61 %", "just now",
		"room.temp_c=23.4&amp;room.rh=61")
}
