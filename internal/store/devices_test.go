package store_test

import (
	"context"
	"errors"
	"strings"
	"testing"

	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

func TestDevices(t *testing.T) {
	s := storetest.Open(t)
	ctx := context.Background()
	token, err := s.AddDevice(ctx, "scale-1", "scale")
	if err != nil || len(token) < 40 {
		t.Fatal(token, err)
	}
	if d, err := s.DeviceWith(ctx, "scale-1", token); err != nil || d.Kind != "scale" || strings.Contains(d.Token,
		token) {
		t.Errorf("%+v, %v", d, err)
	}
	for _, wrong := range [][2]string{{"scale-1", token + "x"}, {"scale-1", ""}, {"scale-2", token}, {"", ""},
		{"scale-2", "no such device"}} {
		if _, err := s.DeviceWith(ctx, wrong[0], wrong[1]); !errors.Is(err, store.ErrNotFound) {
			t.Errorf("%v: %v", wrong, err)
		}
	}
	again, err := s.AddDevice(ctx, "scale-1", "scale")
	if err != nil || again == token {
		t.Error("a new token is another one")
	}
	if _, err := s.DeviceWith(ctx, "scale-1", token); err == nil {
		t.Error("the old token still holds")
	}
	for _, bad := range [][2]string{{"", "scale"}, {"Scale!", "scale"}, {strings.Repeat("x", 41), "scale"},
		{"x", "oven"}} {
		if _, err := s.AddDevice(ctx, bad[0], bad[1]); !errors.Is(err, store.ErrDevice) {
			t.Errorf("%v: %v", bad, err)
		}
	}
	if all, err := s.Devices(ctx); err != nil || len(all) != 1 {
		t.Errorf("%v, %v", all, err)
	}
	if err := s.RemoveDevice(ctx, "scale-1"); err != nil {
		t.Error(err)
	}
	if err := s.RemoveDevice(ctx, "scale-1"); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("removed twice: %v", err)
	}
}
