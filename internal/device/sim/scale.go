// Package sim holds stand-ins for a scale and a room sensor. They send what a real one would, to the same address,
// and say on their own page that they are stand-ins.
package sim

import (
	"context"
	_ "embed"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"math/rand/v2"
	"net"
	"net/http"
	"sync"
	"time"
)

// These describe how a bowl on a kitchen scale behaves.
const (
	perSecond = 10  // readings
	pourGPerS = 55  // while the key is held
	spoonG    = 7.5 // a spoon
	spillG    = 12. // off the scale again
	noiseG    = .3  // either way
	settleS   = .8  // until a load is shown whole
	driftGMin = .05 // in a minute
)

// Bowl is a bowl on a scale: what lies in it, and what the scale shows of it.
type Bowl struct {
	mu      sync.Mutex
	loadG   float64
	shownG  float64 // lags behind
	tareG   float64
	driftG  float64
	pouring bool
	rand    *rand.Rand
}

// NewBowl is an empty bowl; its noise goes by the seed.
func NewBowl(seed uint64) *Bowl { return &Bowl{rand: rand.New(rand.NewPCG(seed, 1))} }

// Do does what a key says: pour, stop, spoon, spill, tare, empty.
func (b *Bowl) Do(what string) bool {
	b.mu.Lock()
	defer b.mu.Unlock()
	switch what {
	case "pour":
		b.pouring = true
	case "stop":
		b.pouring = false
	case "spoon":
		b.loadG += spoonG
	case "spill":
		b.loadG = math.Max(0, b.loadG-spillG)
	case "tare":
		b.tareG = b.loadG
		b.driftG = 0
	case "empty":
		b.loadG = 0
		b.tareG = 0
		b.pouring = false
	default:
		return false
	}
	return true
}

// Step lets so many seconds pass and returns what the scale shows, g to a tenth.
func (b *Bowl) Step(s float64) float64 {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.pouring {
		b.loadG += pourGPerS * s
	}
	b.driftG += driftGMin * s / 60
	b.shownG += (b.loadG - b.shownG) * (1 - math.Exp(-3*s/settleS))
	noise := (2*b.rand.Float64() - 1) * noiseG
	return math.Round(10*(b.shownG-b.tareG+b.driftG+noise)) / 10
}

// Sender sends readings to Hollen: where to, as which device, with which token.
type Sender struct{ URL, Name, Token string }

// Stream keeps one request open and sends what next gives, every so often, until ctx ends; it begins anew when the
// line breaks.
func (s Sender) Stream(ctx context.Context, every time.Duration, next func() any) {
	for ctx.Err() == nil {
		r, w := io.Pipe()
		req, err := http.NewRequestWithContext(ctx, http.MethodPost, s.URL+"/devices/"+s.Name+"/readings", r)
		if err != nil {
			return
		}
		req.Header.Set("Authorization", "Bearer "+s.Token)
		req.Header.Set("Content-Type", "application/x-ndjson")
		over := make(chan struct{})
		go func() {
			defer close(over)
			if resp, err := http.DefaultClient.Do(req); err == nil {
				io.Copy(io.Discard, resp.Body)
				resp.Body.Close()
			}
			r.Close()
		}()
		s.write(ctx, w, every, next, over)
		w.Close()
		<-over
		select {
		case <-ctx.Done():
		case <-time.After(time.Second):
		}
	}
}

func (s Sender) write(ctx context.Context, w io.Writer, every time.Duration, next func() any, over <-chan struct{}) {
	tick := time.NewTicker(every)
	defer tick.Stop()
	for {
		line, err := json.Marshal(next())
		if err != nil {
			return
		}
		if _, err := w.Write(append(line, '\n')); err != nil {
			return
		}
		select {
		case <-ctx.Done():
			return
		case <-over:
			return
		case <-tick.C:
		}
	}
}

//go:embed scale.html
var scalePage []byte

//go:embed scale.js
var scaleScript []byte

// Scale serves the bowl's page on l and sends its readings until ctx ends.
func Scale(ctx context.Context, l net.Listener, to Sender) error {
	b := NewBowl(uint64(time.Now().UnixNano()))
	mux := http.NewServeMux()
	serve := func(kind string, body []byte) http.HandlerFunc {
		return func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Type", kind+"; charset=utf-8")
			w.Header().Set("Content-Security-Policy", "default-src 'none'; script-src 'self'; style-src "+
				"'unsafe-inline'; connect-src 'self'")
			w.Write(body)
		}
	}
	mux.HandleFunc("GET /{$}", serve("text/html", scalePage))
	mux.HandleFunc("GET /scale.js", serve("text/javascript", scaleScript))
	var shown struct {
		sync.Mutex
		g float64
	}
	mux.HandleFunc("GET /g", func(w http.ResponseWriter, _ *http.Request) {
		shown.Lock()
		defer shown.Unlock()
		fmt.Fprintf(w, "%.1f", shown.g)
	})
	mux.HandleFunc("POST /do/{what}", func(w http.ResponseWriter, r *http.Request) {
		if !b.Do(r.PathValue("what")) {
			http.NotFound(w, r)
		}
	})
	srv := &http.Server{Handler: http.NewCrossOriginProtection().Handler(mux), ReadHeaderTimeout: 5 * time.Second}
	go func() {
		<-ctx.Done()
		srv.Close()
	}()
	go to.Stream(ctx, time.Second/perSecond, func() any {
		g := b.Step(1. / perSecond)
		shown.Lock()
		shown.g = g
		shown.Unlock()
		return map[string]any{"at": time.Now().UTC(), "g": g}
	})
	if err := srv.Serve(l); err != http.ErrServerClosed {
		return err
	}
	return nil
}

// Air is the room at a moment: a day's curve, some weather, damp and dry weeks, some noise. °C, and humidity as a
// share.
func Air(at time.Time) (tempC, rh float64) {
	h := float64(at.Hour()) + float64(at.Minute())/60
	day := math.Sin((h - 9) / 24 * 2 * math.Pi)
	weather := math.Sin(float64(at.YearDay()) * .7)
	noise := math.Sin(float64(at.Unix()) * 12.9898)
	weeks := math.Sin(float64(at.Unix()) / (6.5 * 86400))
	tempC = 21 + 1.8*day + .8*weather + .05*noise
	rh = .46 - .05*day + .04*weather + .06*weeks + .003*noise
	return math.Round(10*tempC) / 10, math.Round(1000*rh) / 1000
}

// RoomSensor sends the air of the room once a minute until ctx ends.
func RoomSensor(ctx context.Context, to Sender) {
	to.Stream(ctx, time.Minute, func() any {
		now := time.Now()
		t, rh := Air(now)
		return map[string]any{"at": now.UTC(), "t_c": t, "rh": rh}
	})
}
