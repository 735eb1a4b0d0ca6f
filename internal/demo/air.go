package demo

import (
	"time"

	"hollen/internal/device/sim"
	"hollen/internal/store"
)

// airDays is for how long the stand-in for a room sensor has been there.
const airDays = 28

// air is what the stand-in for a room sensor has read by now, in means of ten minutes.
func air(now time.Time) (out []store.RoomMean) {
	for at := now.AddDate(0, 0, -airDays).UTC().Truncate(store.RoomMeanOver); at.Before(now); at = at.Add(
		store.RoomMeanOver) {
		c, rh := sim.Air(at.Add(store.RoomMeanOver / 2).Local())
		out = append(out, store.RoomMean{Device: "stand-in-room", At: at, TempC: c, RH: rh, N: 10})
	}
	return out
}
