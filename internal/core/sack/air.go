package sack

import (
	"math"
	"slices"
	"time"

	"hollen/internal/core/rules"
)

// Reading is the air at a moment: the mean of ten minutes of a sensor, or typed.
type Reading struct {
	At     time.Time
	TempC  float64
	RH     float64 // share 0–1
	Sensor string  // its name; "" where it was typed
}

// Room is air that stands for what nobody measured.
type Room struct{ TempC, RH float64 }

// slot is how long a mean of a sensor is.
const slot = 10 * time.Minute

// Air is what is known of the air over a time.
type Air struct {
	me     rules.Measure
	named  Room
	points []Reading
	week   time.Time // from when on the air of seven days before is assumed again, zero: never
	// Sunny is how many readings were of a sensor in the sun: of them the vapour was kept, not the humidity.
	Sunny int
	// Apart are moments at which a typed reading and a sensor say what cannot both be.
	Apart []time.Time
}

// NewAir puts readings in order: means of ten minutes, the median of several sensors, a sensor's before one typed
// within half an hour of it. named stands where nothing was read.
func NewAir(me rules.Measure, readings []Reading, named Room) *Air {
	a := &Air{me: me, named: named}
	var sensed, typed []Reading
	for _, r := range readings {
		switch {
		case math.IsNaN(r.TempC) || math.IsNaN(r.RH):
		case r.Sensor == "":
			typed = append(typed, r)
		default:
			sensed = append(sensed, r)
		}
	}
	sensed = bySlot(sensed)
	a.outOfTheSun(sensed)
	a.points = sensed
	beside := time.Duration(me.TypedHours * float64(time.Hour))
	for _, r := range typed {
		i, _ := slices.BinarySearchFunc(sensed, r.At, func(x Reading, at time.Time) int { return x.At.Compare(at) })
		beaten := false
		for _, k := range []int{i - 1, i} {
			if k < 0 || k >= len(sensed) || sensed[k].At.Sub(r.At).Abs() > beside {
				continue
			}
			beaten = true
			if math.Abs(sensed[k].RH-r.RH) > .10 {
				a.Apart = append(a.Apart, r.At)
			}
			break
		}
		if !beaten {
			a.points = append(a.points, r)
		}
	}
	slices.SortStableFunc(a.points, func(x, y Reading) int { return x.At.Compare(y.At) })
	return a
}

// In returns the same air with another room for what nobody read.
func (a *Air) In(named Room) *Air {
	b := *a
	b.named = named
	b.week = time.Time{}
	return &b
}

// bySlot returns a mean of each sensor's readings in ten minutes, and of several sensors the median.
func bySlot(all []Reading) (out []Reading) {
	type place struct {
		at     int64
		sensor string
	}
	type sum struct{ t, rh, n float64 }
	means := map[place]*sum{}
	slots := map[int64][]string{}
	for _, r := range all {
		p := place{r.At.UnixNano() / int64(slot), r.Sensor}
		if means[p] == nil {
			means[p] = &sum{}
			slots[p.at] = append(slots[p.at], r.Sensor)
		}
		means[p].t += r.TempC
		means[p].rh += r.RH
		means[p].n++
	}
	for at, sensors := range slots {
		var t, rh []float64
		for _, s := range sensors {
			m := means[place{at, s}]
			t = append(t, m.t/m.n)
			rh = append(rh, m.rh/m.n)
		}
		out = append(out, Reading{time.Unix(0, at*int64(slot)+int64(slot)/2), median(t), median(rh), sensors[0]})
	}
	slices.SortFunc(out, func(x, y Reading) int { return x.At.Compare(y.At) })
	return out
}

func median(v []float64) float64 {
	slices.Sort(v)
	if n := len(v); n%2 == 0 {
		return (v[n/2-1] + v[n/2]) / 2
	}
	return v[len(v)/2]
}

// saturated is the vapour pressure of saturated air, Pa. Source: Magnus.
func saturated(c float64) float64 { return 611.2 * math.Exp(17.62*c/(243.12+c)) }

// inShade is the humidity of the room, share, of air that a sensor in the sun reads as sunC and rh: its vapour is the
// room's.
func inShade(sunC, rh, roomC float64) float64 { return min(1, rh*saturated(sunC)/saturated(roomC)) }

// outOfTheSun puts right what a sensor in the sun read.
func (a *Air) outOfTheSun(all []Reading) {
	byHour := map[int][]Reading{}
	for _, r := range all {
		byHour[r.At.Local().Hour()] = append(byHour[r.At.Local().Hour()], r)
	}
	usual := map[int]float64{} // of an hour, the median of all its days; of one day alone none
	for hour, rs := range byHour {
		days := map[string]bool{}
		var t []float64
		for _, r := range rs {
			days[r.At.Local().Format(time.DateOnly)] = true
			t = append(t, r.TempC)
		}
		if len(days) > 2 {
			usual[hour] = median(t)
		}
	}
	for i := range all {
		r := &all[i]
		room, known := usual[r.At.Local().Hour()]
		if !known {
			room = a.named.TempC
		}
		if r.TempC > a.me.SunC || known && r.TempC > room+a.me.SunOverC {
			r.RH = inShade(r.TempC, r.RH, room)
			r.TempC = room
			a.Sunny++
		}
	}
}

// Repeat has the air from a moment on be that of the seven days before it, over and over; false where less than half of
// them were read, which leaves it to the named room.
func (a *Air) Repeat(from time.Time) bool {
	read := 0
	const tries = 28
	for i := range tries {
		if _, _, bridged := a.At(from.Add(-time.Duration(i) * 6 * time.Hour)); !bridged {
			read++
		}
	}
	if 2*read < tries {
		return false
	}
	a.week = from
	return true
}

// At returns the air at a moment, and whether nobody measured it.
func (a *Air) At(at time.Time) (c, rh float64, bridged bool) {
	if !a.week.IsZero() && at.After(a.week) {
		const week = 7 * 24 * time.Hour
		c, rh, _ = a.read(at.Add(-week * (1 + at.Sub(a.week)/week)))
		return c, rh, true
	}
	return a.read(at)
}

// read is the air at a moment by what was read round it.
func (a *Air) read(at time.Time) (c, rh float64, bridged bool) {
	i, _ := slices.BinarySearchFunc(a.points, at, func(x Reading, at time.Time) int { return x.At.Compare(at) })
	if len(a.points) == 0 || i == 0 {
		if len(a.points) > 0 && a.points[0].At.Sub(at) <= a.short() {
			return a.points[0].TempC, a.points[0].RH, false
		}
		return a.named.TempC, a.named.RH, true
	}
	p := a.points[i-1]
	if i == len(a.points) {
		switch since := at.Sub(p.At); {
		case since <= a.short():
			return p.TempC, p.RH, false
		case since <= a.long() && p.Sensor != "":
			c, rh = a.day(p.At.Add(-24*time.Hour), p.At)
			return c, rh, true
		case since <= a.long():
			return p.TempC, p.RH, true
		}
		return a.named.TempC, a.named.RH, true
	}
	q := a.points[i]
	gap := q.At.Sub(p.At)
	share := float64(at.Sub(p.At)) / float64(max(gap, 1))
	typed := p.Sensor == "" || q.Sensor == ""
	switch {
	case gap <= a.short(), typed && gap <= a.long():
		return p.TempC + share*(q.TempC-p.TempC), p.RH + share*(q.RH-p.RH), false
	case gap <= a.long():
		c0, rh0 := a.day(p.At.Add(-24*time.Hour), p.At)
		c1, rh1 := a.day(q.At, q.At.Add(24*time.Hour))
		return c0 + share*(c1-c0), rh0 + share*(rh1-rh0), true
	}
	return a.named.TempC, a.named.RH, true
}

func (a *Air) short() time.Duration { return time.Duration(a.me.HoleHours * float64(time.Hour)) }

func (a *Air) long() time.Duration { return time.Duration(a.me.HoleDays * 24 * float64(time.Hour)) }

// day is the mean of what was read from one moment to another.
func (a *Air) day(from, to time.Time) (c, rh float64) {
	n := 0.
	i, _ := slices.BinarySearchFunc(a.points, from, func(x Reading, at time.Time) int { return x.At.Compare(at) })
	for ; i < len(a.points) && !a.points[i].At.After(to); i++ {
		c += a.points[i].TempC
		rh += a.points[i].RH
		n++
	}
	return c / n, rh / n
}

// leastTyped is how many readings that were typed make a history; fewer say no more than the room they were typed for.
const leastTyped = 3

// Read says whether enough was read to follow: anything by a sensor, or what was typed a few times.
func (a *Air) Read() bool {
	return len(a.points) >= leastTyped || slices.ContainsFunc(a.points, func(r Reading) bool { return r.Sensor != "" })
}
