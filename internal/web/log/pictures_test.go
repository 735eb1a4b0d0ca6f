package log

import (
	"bytes"
	"context"
	"errors"
	"image"
	"image/jpeg"
	"testing"
)

// A picture is read no further when nobody waits for it.
func TestPictureNobodyWaitsFor(t *testing.T) {
	var b bytes.Buffer
	if err := jpeg.Encode(&b, image.NewGray(image.Rect(0, 0, 300, 300)), nil); err != nil {
		t.Fatal(err)
	}
	doc := b.Bytes()
	ended, end := context.WithCancel(t.Context())
	end()
	if _, err := jpeg.Decode(untilDone{ended, bytes.NewReader(doc)}); !errors.Is(err, context.Canceled) {
		t.Errorf("a picture is read on when nobody waits: %v", err)
	}
}
