package request

import (
	"errors"
	"fmt"
	"strconv"
	"strings"
	"unicode/utf8"

	"hollen/internal/core/measure"
	"hollen/internal/core/roll"
)

// WayOf is what a kept way is a way of.
type WayOf string

// A kept way is a way of one of these.
const (
	WayOfKneading WayOf = "knead" // from mixing to the roller
	WayDown       WayOf = "roll"  // down the stops of a machine, or under a pin
)

// WayKinds are what a kept way may be a way of.
func WayKinds() []Option {
	return []Option{{Key: string(WayOfKneading), Name: "From mixing to the roller"},
		{Key: string(WayDown), Name: "Down the stops, or under a pin"}}
}

// Way is a way of working a workshop keeps under a name: its steps of kneading, or its way down on a kind of
// machine.
type Way struct {
	Key     string      `json:"key"`
	Name    string      `json:"name"`
	Of      WayOf       `json:"of"`
	Machine string      `json:"machine,omitempty"` // the kind a way down was made on, in words
	Steps   []KneadStep `json:"own_steps,omitempty"`
	Passes  []RollStep  `json:"own_passes,omitempty"`
}

// Goes says whether a way down can be taken on a machine: every stop of it is there, or every line is in mm
// under a pin. A way of kneading goes anywhere.
func (w *Way) Goes(m roll.Machine) bool {
	r := Roll{Own: &m, By: WayOwn, Steps: w.Passes}
	return len(r.checkOwn()) == 0
}

// Lines are the steps of the way as a maker writes them, one to a line: "Knead by hand, 8 min", "0, 3 passes,
// folded in half".
func (w *Way) Lines() string {
	var out []string
	for _, s := range w.Steps {
		out = append(out, s.line())
	}
	for _, s := range w.Passes {
		out = append(out, s.line())
	}
	return strings.Join(out, "\n")
}

// Words are Lines in one, for a list.
func (w *Way) Words() string { return strings.ReplaceAll(w.Lines(), "\n", "; ") }

// slotOptions are the options of a part of a group's slots.
func slotOptions(group, part string) []Option {
	g, _ := GroupNamed(group)
	f, _ := FieldAt(g.Path(0, part))
	return f.Options
}

// plain is an option's name as it stands in a line, where commas part what stands there.
func plain(name string) string { return strings.ReplaceAll(name, ",", "") }

func optionNamed(options []Option, key string) string {
	for _, o := range options {
		if o.Key == key {
			return plain(o.Name)
		}
	}
	return key
}

func (s KneadStep) line() string {
	out := []string{optionNamed(KneadDoOptions(), string(s.Do)), minutesText(s.Min)}
	if s.Cover != "" {
		out = append(out, strings.ToLower(optionNamed(slotOptions("knead.own_steps", "cover"), string(s.Cover))))
	}
	if s.Hands != "" {
		out = append(out, strings.ToLower(optionNamed(slotOptions("knead.own_steps", "hands"), string(s.Hands))))
	}
	if s.Add != "" {
		out = append(out, "with "+plain(s.Add))
	}
	return strings.Join(out, ", ")
}

// minutesText is a time to the second, as it would be typed.
func minutesText(minutes float64) string {
	trim := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	switch s := 60 * minutes; {
	case minutes >= 120 && minutes/60 == float64(int(minutes/60)):
		return trim(minutes/60) + " h"
	case minutes < 2 && s == float64(int(s+.5)) && minutes != float64(int(minutes)):
		return trim(s) + " s"
	}
	return trim(minutes) + " min"
}

func (s RollStep) line() string {
	passes := "1 pass"
	if s.Passes != 1 {
		passes = fmt.Sprintf("%.0f passes", s.Passes)
	}
	out := []string{s.Stop, passes}
	if s.Fold != "" {
		out = append(out, strings.ToLower(optionNamed(slotOptions("roll.own_passes", "fold"), string(s.Fold))))
	}
	if s.First != "" {
		out = append(out, strings.ToLower(optionNamed(slotOptions("roll.own_passes", "first"), string(s.First))))
	}
	if s.RestMin > 0 {
		out = append(out, "rest "+minutesText(s.RestMin))
	}
	if s.Dust {
		out = append(out, "dusted")
	}
	return strings.Join(out, ", ")
}

// ReadLines takes the steps of the way from lines as Lines writes them; capitals do not count, minutes may be
// seconds or hours. What cannot be read is an error that names its line and what is allowed there.
func (w *Way) ReadLines(text string) error {
	w.Steps, w.Passes = nil, nil
	var errs []error
	n := 0
	for _, line := range strings.FieldsFunc(text, func(r rune) bool { return r == '\n' || r == ';' }) {
		if line = strings.TrimSpace(line); line == "" {
			continue
		}
		n++
		var parts []string
		for _, part := range strings.Split(line, ",") {
			parts = append(parts, strings.TrimSpace(part))
		}
		var err error
		if w.Of == WayDown {
			var s RollStep
			s, err = readRoll(parts)
			w.Passes = append(w.Passes, s)
		} else {
			var s KneadStep
			s, err = readKnead(parts)
			w.Steps = append(w.Steps, s)
		}
		if err != nil {
			errs = append(errs, measure.Faultf("lines", "line %d, %s: %v", n, measure.Quote(line), err))
		}
	}
	return errors.Join(errs...)
}

// keyOf finds the option a text names; the whole name, or its beginning where that is clear.
func keyOf(options []Option, text string) (key string, ok bool) {
	text = strings.ToLower(text)
	for _, o := range options {
		name := strings.ToLower(plain(o.Name))
		if o.Key == "" {
			continue
		}
		if name == text || o.Key == text {
			return o.Key, true
		}
		if text != "" && strings.HasPrefix(name, text) {
			if ok {
				return "", false // two of them
			}
			key, ok = o.Key, true
		}
	}
	return key, ok
}

// names lists what may stand there.
func names(options []Option) string {
	var out []string
	for _, o := range options {
		if o.Key != "" {
			out = append(out, strings.ToLower(plain(o.Name)))
		}
	}
	return strings.Join(out, ", ")
}

func readKnead(parts []string) (s KneadStep, err error) {
	do, ok := keyOf(KneadDoOptions(), parts[0])
	if !ok {
		return s, errors.New("it begins with what is done: " + names(KneadDoOptions()))
	}
	s.Do = KneadDo(do)
	s.Min = s.Do.UsualMin()
	covers, hands := slotOptions("knead.own_steps", "cover"), slotOptions("knead.own_steps", "hands")
	for _, part := range parts[1:] {
		cover, isCover := keyOf(covers, part)
		hand, isHands := keyOf(hands, part)
		minutes, noMin := measure.Read(part, measure.MIN, nil)
		switch {
		case noMin == nil:
			s.Min = minutes
		case isCover:
			s.Cover = Cover(cover)
		case isHands:
			s.Hands = Hands(hand)
		case strings.HasPrefix(part, "with "):
			s.Add = strings.TrimPrefix(part, "with ")
		case part != "":
			return s, errors.New("after what is done stand minutes, and " + names(covers) + ", " + names(hands) +
				", or with and what is added")
		}
	}
	return s, nil
}

func readRoll(parts []string) (s RollStep, err error) {
	s.Stop, s.Passes = strings.TrimPrefix(parts[0], "stop "), 1
	folds, firsts := slotOptions("roll.own_passes", "fold"), slotOptions("roll.own_passes", "first")
	for _, part := range parts[1:] {
		low := strings.ToLower(part)
		count, isPasses := strings.CutSuffix(strings.TrimSuffix(low, "es"), "pass")
		rest, isRest := strings.CutPrefix(low, "rest ")
		first, isFirst := keyOf(firsts, part)
		fold, isFold := keyOf(folds, part)
		minutes, noMin := measure.Read(rest, measure.MIN, nil)
		passes, isNumber := measure.ParseNumber(strings.TrimSpace(count))
		switch {
		case isPasses && isNumber:
			s.Passes = passes
		case isRest && noMin == nil:
			s.RestMin = minutes
		case isFirst:
			s.First = roll.First(first)
		case isFold:
			s.Fold = OwnFold(fold)
		case low == "dusted" || low == "dust":
			s.Dust = true
		case part != "":
			return s, errors.New("after the stop stand passes, as in “2 passes”, and " + names(folds) + ", " +
				names(firsts) + ", “rest 10 min”, dusted")
		}
	}
	return s, nil
}

// Check returns an error, naming the field, for every part of the way that cannot be used.
func (w *Way) Check() error {
	var errs []error
	if n := utf8.RuneCountInString(w.Name); n < 1 || n > 60 || strings.ContainsAny(w.Name, "\n\r") {
		errs = append(errs, measure.Faultf("name", "1 to 60 letters on one line are allowed"))
	}
	r := Default()
	group := "knead.own_steps"
	switch w.Of {
	case WayOfKneading:
		r.Knead.Steps = w.Steps
	case WayDown:
		group, r.Roll.Steps = "roll.own_passes", w.Passes
	default:
		return errors.Join(append(errs, measure.Faultf("of", "%q; knead or roll", string(w.Of)))...)
	}
	g, _ := GroupNamed(group)
	n := g.length(&r)
	if n < 1 || n > g.Most || len(w.Steps) > 0 && len(w.Passes) > 0 {
		errs = append(errs, measure.Faultf("lines", "1 to %d lines are allowed", g.Most))
		return errors.Join(errs...)
	}
	for i := range n {
		for _, f := range Fields() {
			if f.Group != group || f.Slot != i {
				continue
			}
			var fe FieldError
			if err := f.Check(&r); errors.As(err, &fe) {
				errs = append(errs, measure.Faultf("lines", "line %d: %s %s; %s", i+1, f.Label, measure.Quote(fe.Value),
					f.Allowed()))
			}
		}
		if !g.holds(&r, i) {
			errs = append(errs, measure.Faultf("lines", "line %d holds nothing", i+1))
		}
	}
	return errors.Join(errs...)
}

// Sets is what puts the way into a batch, as the fields and what is typed in them.
func (w *Way) Sets() map[string]string {
	r := Padded(Default())
	group, by := "knead.own_steps", map[string]string{"knead.by": string(KneadOwn)}
	copy(r.Knead.Steps, w.Steps)
	if w.Of == WayDown {
		group, by = "roll.own_passes", map[string]string{"roll.by": string(WayOwn)}
		copy(r.Roll.Steps, w.Passes)
	}
	g, _ := GroupNamed(group)
	for _, f := range Fields() {
		if f.Group != group || f.Part != g.Head && !g.holds(&r, f.Slot) {
			continue
		}
		by[f.Path] = f.Get(&r)
	}
	return by
}

// Take puts the way into a request.
func (w *Way) Take(r *Request) {
	if w.Of == WayDown {
		r.Roll.By, r.Roll.Steps = WayOwn, append([]RollStep{}, w.Passes...)
		return
	}
	r.Knead.By, r.Knead.Steps = KneadOwn, append([]KneadStep{}, w.Steps...)
}

// TakenIn says whether a batch is worked exactly so.
func (w *Way) TakenIn(r *Request) bool {
	same := *w
	if w.Of == WayDown {
		same.Passes = r.Roll.Steps
		return r.Roll.IsOwn() && same.Lines() == w.Lines()
	}
	same.Steps = r.Knead.Steps
	return r.Knead.Own() && same.Lines() == w.Lines()
}
