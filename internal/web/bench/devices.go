package bench

import (
	"bufio"
	"context"
	"errors"
	"net/http"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"hollen/internal/clock"
	"hollen/internal/device"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// deviceIdle is how long a device may keep its line open without a reading.
const deviceIdle = 2 * time.Minute

// TakeReadings takes readings from a device, JSON one a line, one at a time or a line kept open. Its token stands
// in the Authorization header and allows this and nothing else.
func (s *Room) TakeReadings(c *page.Visit) error {
	token, _ := strings.CutPrefix(c.GetHeader("Authorization"), "Bearer ")
	d, err := s.Store.DeviceWith(c.Request.Context(), c.Param("name"), token)
	if errors.Is(err, store.ErrNotFound) {
		c.String(http.StatusUnauthorized, "no such device, or another token\n")
		return nil
	}
	if err != nil {
		s.Log.Error("device", "err", err)
		c.String(http.StatusServiceUnavailable, "the database does not answer\n")
		return nil
	}
	rc := http.NewResponseController(c.Writer)
	var gone atomic.Bool
	defer context.AfterFunc(c.Request.Context(), func() { // the server stops: wait for no further line
		gone.Store(true)
		_ = rc.SetReadDeadline(clock.Deadline(0))
	})()
	lines := bufio.NewScanner(c.Request.Body)
	lines.Buffer(make([]byte, 0, 256), device.MaxLine)
	taken := 0
	for {
		now := s.Now()
		_ = rc.SetReadDeadline(clock.Deadline(deviceIdle)) // where it cannot be set, the server's own holds
		_ = rc.SetWriteDeadline(clock.Deadline(2 * deviceIdle))
		if gone.Load() || !lines.Scan() {
			break
		}
		if strings.TrimSpace(lines.Text()) == "" {
			continue
		}
		r, err := device.Read(device.Kind(d.Kind), lines.Bytes())
		if err != nil {
			c.String(http.StatusUnprocessableEntity, "%v\n", err)
			return nil
		}
		if !s.Devices.Hear(d.Name, device.Kind(d.Kind), r, s.Now()) {
			continue
		}
		taken++
		if device.Kind(d.Kind) == device.Room && s.roomDue(d.Name, now) {
			if err := s.Store.HearRoom(c.Request.Context(), d.Name, *r.TempC, *r.RH, now); err != nil {
				s.Log.Error("device", "err", err) // the reading itself is there; a mean lacks it
			}
		}
	}
	if err := lines.Err(); err != nil && taken == 0 {
		c.String(http.StatusBadRequest, "that is no line of a reading: %v\n", err)
		return nil
	}
	c.String(http.StatusOK, "%d taken\n", taken)
	return nil
}

// roomEvery is how often a reading of one sensor goes into its mean, at most.
const roomEvery = 20 * time.Second

// roomDue says whether a reading of a sensor goes into its mean, and notes that it does.
func (s *Room) roomDue(name string, now time.Time) bool {
	s.heard.Lock()
	defer s.heard.Unlock()
	if s.heard.last == nil {
		s.heard.last = map[string]time.Time{}
	}
	if now.Sub(s.heard.last[name]) < roomEvery {
		return false
	}
	s.heard.last[name] = now
	return true
}

// roomTimes is when each sensor last went into its mean.
type roomTimes struct {
	sync.Mutex
	last map[string]time.Time
}

// scaleNews is what a screen at the bench is told of the scale.
type scaleNews struct {
	G      float64 `json:"g"`
	Steady bool    `json:"steady"`
	Silent bool    `json:"silent"`
}

// scale is the scale that spoke last; nil where none ever did.
func (s *Room) scale() *scaleNews {
	l, ok := s.Devices.Of(device.Scale)
	if !ok {
		return nil
	}
	return &scaleNews{*l.Read.G, l.Steady || l.Read.Steady, l.Silent(s.Now())}
}
