package bench

import (
	"strings"
	"testing"
)

// An address is drawn to point a camera at; one longer than a picture holds is not.
func TestQRPicture(t *testing.T) {
	picture, err := qrPicture("http://192.0.2.7:8080/bench/12")
	if err != nil || strings.Count(string(picture), "M") < 150 {
		t.Errorf("%v: %.200s", err, picture)
	}
	if _, err := qrPicture(strings.Repeat("x", 5000)); err == nil {
		t.Error("more than a picture holds is drawn")
	}
}
