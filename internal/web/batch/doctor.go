package batch

import (
	"fmt"
	"html/template"
	"math"
	"net/url"
	"strings"

	"hollen/internal/core/doctor"
	"hollen/internal/core/measure"
	"hollen/internal/core/practice"
	"hollen/internal/core/request"
	"hollen/internal/draw"
	"hollen/internal/web/form"
)

// atDoctor is where the batch page shows the doctor: beside the stations, not one of them.
const atDoctor request.Stage = "doctor"

// fewSigns is under how many signs of a station all are shown.
const fewSigns = 4

// consultation is what was told the doctor, and what it says.
type consultation struct {
	Stage, Text string
	Signs       []signRow // to pick from
	Sign        *doctor.Sign
	Look        template.HTML
	Answers     map[string]string
	MinutesErr  string
	Waited      string // what a wait means for the egg
	Discard     bool
	Findings    []findingRow
}

// signRow is a sign to pick.
type signRow struct {
	doctor.Sign
	Look    template.HTML
	At, Set string // stations, in words; what picks it
}

// findingRow is a cause with what records its act.
type findingRow struct {
	doctor.Finding
	Set    string
	Amount actAmount // altered here before it is recorded
}

// toldDoctor are the values of a form that are for the doctor, typed or set by a button.
func toldDoctor(values url.Values) url.Values {
	told := url.Values{}
	take := func(from url.Values) {
		for k, x := range from {
			if strings.HasPrefix(k, "doctor.") && len(x) > 0 {
				told.Set(k, x[len(x)-1])
			}
		}
	}
	take(values)
	for _, set := range values["set"] {
		if q, err := url.ParseQuery(set); err == nil {
			take(q)
		}
	}
	return told
}

// consult hears what the doctor was told and fills in what it says.
func (v *batchView) consult(values url.Values) {
	if v.At != atDoctor {
		return
	}
	told := toldDoctor(values)
	if !told.Has("doctor.stage") { // come from a station: that is where it was seen
		from := orWord(values.Get("from"), values.Get("was_at"))
		if len(doctor.Search(from, "", v.Plan.Patient().On)) >= fewSigns {
			told.Set("doctor.stage", from)
		}
	}
	d := &consultation{Stage: told.Get("doctor.stage"), Text: told.Get("doctor.q"), Answers: map[string]string{}}
	if _, ok := stations[request.Stage(d.Stage)]; !ok || d.Stage == string(atDoctor) {
		d.Stage = ""
	}
	v.Doctor = d
	for _, s := range doctor.Search(d.Stage, d.Text, v.Plan.Patient().On) {
		var at []string
		for _, stage := range s.Stages {
			at = append(at, stations[request.Stage(stage)].name)
		}
		d.Signs = append(d.Signs, signRow{s, template.HTML(draw.Sign(s.Look)), strings.Join(at, ", "),
			url.Values{"doctor.sign": {s.Key}, "doctor.a": {""}}.Encode()})
	}
	if s, ok := doctor.Find(told.Get("doctor.sign")); ok {
		v.diagnose(s, told)
	}
}

// diagnose asks a sign with the answers told.
func (v *batchView) diagnose(s doctor.Sign, told url.Values) {
	d, patient := v.Doctor, v.Plan.Patient()
	d.Sign, d.Look = &s, template.HTML(draw.Sign(s.Look))
	for pair := range strings.SplitSeq(told.Get("doctor.a"), ",") {
		if key, answer, ok := strings.Cut(pair, ":"); ok {
			d.Answers[key] = answer
		}
	}
	if typed := told.Get(form.DoctorMinutes); typed != "" {
		n, err := measure.Read(typed, measure.MIN, nil)
		if err == nil && n >= 1 && n <= 2880 {
			d.Waited, d.Discard = patient.Waited(n, d.Answers["lay"] == "cold")
		} else {
			d.MinutesErr = request.FieldError{Value: typed, Allowed: "1 to 2,880 min is allowed"}.ForPage()
		}
		d.Answers["minutes"] = typed
	}
	if d.Discard { // nothing else is to be done
		return
	}
	stage := d.Stage
	if stage == "" {
		stage = s.Stages[0]
	}
	free := v.freeAct()
	for _, f := range s.Ask(patient, d.Answers) {
		row := findingRow{Finding: f}
		if f.Act != doctor.Nothing && free < request.MaxActs {
			p := fmt.Sprintf("acts.%d.", free)
			row.Amount = v.actAmount(f, fmt.Sprintf("%s%s.%d", form.DoctorAmount, s.Key, f.Cause), p+"amount", told)
			row.Set = url.Values{p + "kind": {string(f.Act)}, p + "amount": {"@" + row.Amount.Name + "|" +
				row.Amount.Auto}, p + "sign": {s.Key}, p + "stage": {stage},
				"doctor.recorded": {row.Amount.Name}}.Encode()
		}
		d.Findings = append(d.Findings, row)
	}
}

// actAmount is the amount or the minutes of an act, to be altered before it is recorded.
type actAmount struct{ Name, ID, Value, Auto, Unit, Label, Error string }

// actAmount returns it as the doctor says, or as it was typed; field is where it will be recorded.
func (v *batchView) actAmount(f doctor.Finding, name, field string, told url.Values) actAmount {
	a := actAmount{Name: name, ID: "f-" + strings.ReplaceAll(name, ".", "-"),
		Auto: measure.Trim(math.Round(10*f.Amount) / 10), Unit: "g", Label: "Amount"}
	if f.Act == doctor.Knead || f.Act == doctor.Rest {
		a.Unit, a.Label = "min", "Minutes"
	}
	if e, refused := v.Errors[field]; refused && told.Get("doctor.recorded") == name {
		a.Error = e.ForPage()
	}
	if typed := told.Get(name); typed != "" && (a.Error != "" || told.Get("doctor.recorded") != name) {
		a.Value = typed
	}
	return a
}

// PracticeCall is the call that the sign that was picked can be practised as; "" where there is none.
func (v *batchView) PracticeCall() practice.Call {
	if v.Doctor == nil || v.Doctor.Sign == nil {
		return ""
	}
	return practice.OfSign(v.Doctor.Sign.Key)
}

// freeAct is the first slot of the acts that holds none, MaxActs when all are taken.
func (v *batchView) freeAct() int {
	for i, a := range v.Page.Acts {
		if a.Kind == "" {
			return i
		}
	}
	return request.MaxActs
}

// Asked is one question as the page asks it; without options a number of minutes is typed.
type Asked struct {
	doctor.Question
	Given   string
	Options []AskedAnswer
}

// AskedAnswer is one answer to press.
type AskedAnswer struct {
	Text, Set string
	On        bool
}

// Questions returns the questions of the sign picked.
func (d *consultation) Questions() (out []Asked) {
	for _, q := range d.Sign.Questions {
		a := Asked{Question: q, Given: d.Answers[q.Key]}
		for _, o := range q.Answers {
			answers := []string{q.Key + ":" + o.Key}
			for _, other := range d.Sign.Questions {
				if given := d.Answers[other.Key]; other.Key != q.Key && given != "" && len(other.Answers) > 0 {
					answers = append(answers, other.Key+":"+given)
				}
			}
			a.Options = append(a.Options, AskedAnswer{o.Text, url.Values{"doctor.a": {strings.Join(answers,
				",")}}.Encode(), a.Given == o.Key})
		}
		out = append(out, a)
	}
	return out
}

// Carried returns the answers as the form carries them.
func (d *consultation) Carried() string {
	var out []string
	if d.Sign != nil {
		for _, q := range d.Sign.Questions {
			if given := d.Answers[q.Key]; given != "" && len(q.Answers) > 0 {
				out = append(out, q.Key+":"+given)
			}
		}
	}
	return strings.Join(out, ",")
}

// Stations are the stages to look at, for the doctor's choice.
func (d *consultation) Stations() []request.Option {
	out := []request.Option{{Key: "", Name: "Any station"}}
	for _, s := range request.Stages() {
		out = append(out, request.Option{Key: string(s), Name: stations[s].name})
	}
	return out
}

// ActRow is one act that was recorded.
type ActRow struct{ Words, Seen, At, Undo string }

// Acts returns what was done at the board so far.
func (v *batchView) Acts() (out []ActRow) {
	for i, a := range v.Page.Acts {
		if a.Kind == "" {
			continue
		}
		r := ActRow{Words: actWords(v.In, a), At: stations[a.Stage].name, Undo: fmt.Sprintf("acts.%d.kind=", i)}
		if s, ok := doctor.Find(a.Sign); ok {
			r.Seen = s.Name
		}
		out = append(out, r)
	}
	return out
}

func actWords(in measure.System, a request.Act) string {
	switch a.Kind {
	case doctor.Knead:
		return measure.Minutes(a.Amount) + " kneaded on"
	case doctor.Rest:
		return measure.Minutes(a.Amount) + " rested on"
	}
	for _, o := range request.ActOptions() {
		if o.Key == string(a.Kind) {
			return in.Grams(a.Amount) + " of " + strings.ToLower(o.Name)
		}
	}
	return ""
}
