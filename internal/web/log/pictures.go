package log

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"net/http"
	"strconv"

	"hollen/internal/store"
	"hollen/internal/web/page"
)

// A picture is at most so wide or high, as it is kept.
const PictureSide = 1600

// A picture that comes in ever finer scans has about ten of them; each takes as long as the whole picture.
const mostScans = 20

var startOfScan = []byte{0xff, 0xda} // and of the small picture within a picture

// untilDone reads until a context ends: what reads from it cannot be stopped otherwise.
type untilDone struct {
	ctx context.Context
	r   io.Reader
}

func (u untilDone) Read(p []byte) (int, error) {
	if err := u.ctx.Err(); err != nil {
		return 0, err
	}
	return u.r.Read(p)
}

// AddPicture keeps a picture of a making: a JPEG the page has made small. It is drawn anew here, so that nothing but
// the picture is kept,
// not where or with what it was taken.
func (s *Room) AddPicture(c *page.Visit) error {
	kept, _, err := s.Making(c)
	if err != nil {
		return err
	}
	refuse := func(status int, words string) { c.String(status, words) }
	raw, err := io.ReadAll(io.LimitReader(c.Request.Body, store.MaxPicture+1))
	switch {
	case err != nil:
		refuse(http.StatusBadRequest, "The picture did not come through; try again.")
		return nil
	case len(raw) > store.MaxPicture:
		refuse(http.StatusRequestEntityTooLarge, "A picture of at most 500 kB is kept.")
		return nil
	}
	size, err := jpeg.DecodeConfig(bytes.NewReader(raw))
	if err != nil || size.Width < 1 || size.Height < 1 || size.Width > PictureSide || size.Height > PictureSide {
		refuse(http.StatusUnprocessableEntity, fmt.Sprintf("A JPEG of at most %d by %d points is kept.", PictureSide,
			PictureSide))
		return nil
	}
	if n := bytes.Count(raw, startOfScan); n > mostScans {
		refuse(http.StatusUnprocessableEntity,
			fmt.Sprintf("A picture in at most %d scans is kept; this one comes in %d.", mostScans, n))
		return nil
	}
	ctx := c.Request.Context()
	select {
	case s.drawing <- struct{}{}:
		defer func() { <-s.drawing }()
	case <-ctx.Done():
		refuse(http.StatusServiceUnavailable, "Other pictures are being read; try again in a moment.")
		return nil
	}
	img, err := jpeg.Decode(untilDone{ctx, bytes.NewReader(raw)})
	switch {
	case ctx.Err() != nil:
		refuse(http.StatusUnprocessableEntity, "That picture takes too long to be read; one saved anew is kept.")
		return nil
	case err != nil:
		refuse(http.StatusUnprocessableEntity, "That is no picture that can be read.")
		return nil
	}
	doc, err := small(img)
	if err != nil {
		refuse(http.StatusRequestEntityTooLarge, "A picture of at most 500 kB is kept.")
		return nil
	}
	n, err := s.Store.AddPicture(c.Request.Context(), kept.ID, doc)
	switch {
	case errors.Is(err, store.ErrPictures):
		refuse(http.StatusConflict, fmt.Sprintf("%d pictures of a making are kept; take one away first.",
			store.MostPictures))
	case err != nil:
		s.Log.Error("picture", "making", kept.ID, "err", err)
		refuse(http.StatusServiceUnavailable, "The database does not answer; nothing was kept.")
	default:
		c.String(http.StatusCreated, fmt.Sprint(n))
	}
	return nil
}

// small is a picture as a JPEG of at most MaxPicture bytes.
func small(img image.Image) ([]byte, error) {
	for _, quality := range []int{85, 70, 50} {
		var b bytes.Buffer
		if err := jpeg.Encode(&b, img, &jpeg.Options{Quality: quality}); err != nil {
			return nil, err
		}
		if b.Len() <= store.MaxPicture {
			return b.Bytes(), nil
		}
	}
	return nil, store.ErrFull
}

// ShowPicture hands out a picture of a making.
func (s *Room) ShowPicture(c *page.Visit) error {
	id, ok := page.MakingID(c)
	n, err := strconv.Atoi(c.Param("n"))
	if !ok || err != nil {
		c.Status(http.StatusNotFound)
		return nil
	}
	doc, err := s.Store.Picture(c.Request.Context(), id, n)
	switch {
	case errors.Is(err, store.ErrNotFound):
		c.Status(http.StatusNotFound)
	case err != nil:
		s.Log.Error("picture", "making", id, "err", err)
		c.Status(http.StatusServiceUnavailable)
	default:
		c.Header("Cache-Control", "private, max-age=86400")
		c.Data(http.StatusOK, "image/jpeg", doc)
	}
	return nil
}

// RemovePicture takes a picture away.
func (s *Room) RemovePicture(c *page.Visit) error {
	id, ok := page.MakingID(c)
	n, err := strconv.Atoi(c.Param("n"))
	if !ok || err != nil {
		return page.Refuse(http.StatusNotFound, "There is no such picture.", "It may have been taken away.")
	}
	if err := s.Store.RemovePicture(c.Request.Context(), id, n); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bench/%d/made", id))
	return nil
}
