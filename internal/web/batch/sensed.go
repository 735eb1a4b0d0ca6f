package batch

import (
	"fmt"

	"hollen/internal/device"
)

// Sensed is the air a room sensor says, to take with a tap, and how old that is.
type Sensed struct{ Words, Set, Age string }

// sensed is what the room sensor says; nil where there is none, or it is silent.
func (s *Room) sensed(v *batchView) *Sensed {
	l, ok := s.Devices.Of(device.Room)
	now := s.Now()
	if !ok || l.Silent(now) {
		return nil
	}
	age := "just now"
	if minutes := int(now.Sub(l.Heard).Minutes()); minutes > 0 {
		age = fmt.Sprintf("%d min ago", minutes)
	}
	return &Sensed{fmt.Sprintf("%s and %.0f %%", v.In.C(*l.Read.TempC, 1), 100**l.Read.RH),
		fmt.Sprintf("room.temp_c=%.1f&room.rh=%.0f", *l.Read.TempC, 100**l.Read.RH), age}
}
