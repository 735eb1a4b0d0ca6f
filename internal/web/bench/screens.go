package bench

import (
	"fmt"
	"html/template"
	"net"
	"net/http"
	"strings"

	"rsc.io/qr"

	"hollen/internal/web/page"
)

// ShowScreens shows how the same making is opened on another screen: its address, as this page was reached, and a
// picture of it to point a camera at.
func (s *Room) ShowScreens(c *page.Visit) error {
	kept, _, err := s.Making(c)
	if err != nil {
		return err
	}
	scheme := "http"
	if c.Request.TLS != nil {
		scheme = "https"
	}
	address := fmt.Sprintf("%s://%s/bench/%d", scheme, c.Request.Host, kept.ID)
	picture, err := qrPicture(address)
	if err != nil {
		s.Log.Error("qr", "err", err)
		return page.Refuse(http.StatusInternalServerError, "This page could not be drawn.", "The address is "+address)
	}
	host, _, err := net.SplitHostPort(c.Request.Host)
	if err != nil {
		host = c.Request.Host
	}
	ip := net.ParseIP(host)
	s.Render(c, http.StatusOK, "screens", "On another screen", struct {
		ID      uint64
		Name    string
		Address string
		Picture template.HTML
		Here    bool // on this machine alone
	}{kept.ID, kept.Request.Name, address, picture, host == "localhost" || ip != nil && ip.IsLoopback()})
	return nil
}

// qrPicture draws an address as squares a camera reads, four empty ones round them.
func qrPicture(address string) (template.HTML, error) {
	code, err := qr.Encode(address, qr.M)
	if err != nil {
		return "", err
	}
	const quiet = 4
	var d strings.Builder
	for y := range code.Size {
		for x := range code.Size {
			if code.Black(x, y) {
				fmt.Fprintf(&d, "M%d %dh1v1h-1z", x+quiet, y+quiet)
			}
		}
	}
	all := code.Size + 2*quiet
	return template.HTML(fmt.Sprintf(`<svg class="qr" viewBox="0 0 %d %d" role="img" aria-label="The address as a QR picture">`+
		`<rect width="%d" height="%d" fill="#fff"/>`+
		`<path d="%s" fill="#000"/></svg>`, all, all, all, all, d.String())), nil
}
