package web

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"hollen/internal/store"
)

// A picture is at most so wide or high, as it is kept.
const pictureSide = 1600

// addPicture keeps a picture of a making: a JPEG the page has made small. It is drawn anew here, so that nothing but the picture is kept,
// not where or with what it was taken.
func (s *Server) addPicture(c *gin.Context) {
	kept, _, ok := s.making(c)
	if !ok {
		return
	}
	refuse := func(status int, words string) { c.String(status, words) }
	raw, err := io.ReadAll(io.LimitReader(c.Request.Body, store.MaxPicture+1))
	switch {
	case err != nil:
		refuse(http.StatusBadRequest, "The picture did not come through; try again.")
		return
	case len(raw) > store.MaxPicture:
		refuse(http.StatusRequestEntityTooLarge, "A picture of at most 500 kB is kept.")
		return
	}
	size, err := jpeg.DecodeConfig(bytes.NewReader(raw))
	if err != nil || size.Width < 1 || size.Height < 1 || size.Width > pictureSide || size.Height > pictureSide {
		refuse(http.StatusUnprocessableEntity, fmt.Sprintf("A JPEG of at most %d by %d points is kept.", pictureSide, pictureSide))
		return
	}
	img, err := jpeg.Decode(bytes.NewReader(raw))
	if err != nil {
		refuse(http.StatusUnprocessableEntity, "That is no picture that can be read.")
		return
	}
	doc, err := small(img)
	if err != nil {
		refuse(http.StatusRequestEntityTooLarge, "A picture of at most 500 kB is kept.")
		return
	}
	n, err := s.store.AddPicture(c.Request.Context(), kept.ID, doc)
	switch {
	case errors.Is(err, store.ErrPictures):
		refuse(http.StatusConflict, fmt.Sprintf("%d pictures of a making are kept; take one away first.", store.MostPictures))
	case err != nil:
		s.log.Error("picture", "making", kept.ID, "err", err)
		refuse(http.StatusServiceUnavailable, "The database does not answer; nothing was kept.")
	default:
		c.String(http.StatusCreated, fmt.Sprint(n))
	}
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

// showPicture hands out a picture of a making.
func (s *Server) showPicture(c *gin.Context) {
	id, ok := makingID(c)
	n, err := strconv.Atoi(c.Param("n"))
	if !ok || err != nil {
		c.Status(http.StatusNotFound)
		return
	}
	doc, err := s.store.Picture(c.Request.Context(), id, n)
	switch {
	case errors.Is(err, store.ErrNotFound):
		c.Status(http.StatusNotFound)
	case err != nil:
		s.log.Error("picture", "making", id, "err", err)
		c.Status(http.StatusServiceUnavailable)
	default:
		c.Header("Cache-Control", "private, max-age=86400")
		c.Data(http.StatusOK, "image/jpeg", doc)
	}
}

// removePicture takes a picture away.
func (s *Server) removePicture(c *gin.Context) {
	id, ok := makingID(c)
	n, err := strconv.Atoi(c.Param("n"))
	if !ok || err != nil {
		s.fail(c, http.StatusNotFound, "There is no such picture.", "It may have been taken away.")
		return
	}
	if err := s.store.RemovePicture(c.Request.Context(), id, n); err != nil {
		s.failStore(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bench/%d/made", id))
}
