package ops

import (
	"dusha/core/fault"
	"dusha/core/gates"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/wetarea"
)

// Surveys are the operations round a survey: its form, copies, files and local rules.
func Surveys() []Op {
	return []Op{
		Make("survey.ask", "Reads a survey form as far as it is typed.", surveyAsk),
		Make("survey.reshape", "Gives the answers to one form as answers to another one of the same area.", surveyReshape),
		Make("survey.mirror", "Gives the form of the same area seen in a mirror.", surveyMirror),
		Make("survey.outline", "Reads a floor outline from a CSV of corners or an ASCII DXF.", surveyOutline),
		Make("survey.rooms", "Reads many rectangular rooms from one CSV.", surveyRooms),
		Make("survey.table", "Writes an area as CSV.", surveyTable),
		Make("survey.volume", "Water in a basin or tank up to a level.", surveyVolume),
		Make("area.names", "Counts names of copies up.", areaNames),
		Make("rules.shipped", "Lists the local-rules profiles that ship.", rulesShipped),
		Make("rules.ask", "Reads a local-rules profile as far as it is typed.", rulesAsk),
	}
}

type surveyAskIn struct {
	Form  string            `json:"form"`
	Typed map[string]string `json:"typed"`
	Rules *rules.Profile    `json:"rules,omitempty"` // local rules for the gates; the generic ones where none are given
}

type surveyAskOut struct {
	Form
	Survey *wetarea.Survey `json:"survey"` // complete, ready to be kept
	Sketch *wetarea.Area   `json:"sketch"` // what it measures so far; whole once there is a survey
	Run    *wetarea.Run    `json:"run"`    // walls laid one after the other, until they close
	Gates  []gates.Gate    `json:"gates"`  // what the survey itself finds
}

func surveyAsk(in surveyAskIn) (surveyAskOut, error) {
	asked, err := wetarea.Ask(in.Form, in.Typed)
	if err != nil {
		return surveyAskOut{}, err
	}
	out := surveyAskOut{Form: formOf(asked.Form), Sketch: asked.Sketch, Run: asked.Run, Gates: []gates.Gate{}}
	if asked.Sketch != nil {
		profile := rules.Generic()
		if in.Rules != nil {
			profile = *in.Rules
		}
		out.Gates = gates.Of(*asked.Sketch, gates.Findings{Rules: profile})
	}
	if asked.Area != nil {
		out.Survey = &wetarea.Survey{Form: in.Form, Answers: asked.Form.Answers()}
	}
	return out, nil
}

type typedForm struct {
	Form  string            `json:"form"`
	Typed map[string]string `json:"typed"`
}

type reshapeIn struct {
	Form  string            `json:"form"`
	To    string            `json:"to"`
	Typed map[string]string `json:"typed"`
}

func surveyReshape(in reshapeIn) (typedForm, error) {
	return typedForm{in.To, wetarea.Reshape(in.Form, in.To, in.Typed)}, nil
}

func surveyMirror(in typedForm) (typedForm, error) {
	typed, err := wetarea.Mirror(in.Form, in.Typed)
	return typedForm{in.Form, typed}, err
}

type outlineIn struct {
	Format string `json:"format"` // "csv" or "dxf"
	Text   string `json:"text" maxLength:"2097152"`
}

type outlineOut struct {
	Typed map[string]string `json:"typed"`
}

func surveyOutline(in outlineIn) (out outlineOut, err error) {
	out.Typed, err = wetarea.ReadOutline(in.Format, in.Text)
	return out, err
}

type roomsIn struct {
	Text string `json:"text" maxLength:"200000"`
}

type roomsOut struct {
	Rooms []wetarea.RoomRow `json:"rooms"`
}

func surveyRooms(in roomsIn) (out roomsOut, err error) {
	out.Rooms, err = wetarea.ReadRooms(in.Text)
	return out, err
}

type surveyIn struct {
	Survey wetarea.Survey `json:"survey"`
}

type tableOut struct {
	CSV string `json:"csv"`
}

func surveyTable(in surveyIn) (tableOut, error) {
	area, err := in.Survey.Read()
	if err != nil {
		return tableOut{}, err
	}
	return tableOut{area.Table()}, nil
}

type volumeIn struct {
	surveyIn
	Below float64 `json:"below_water_line_mm"`
}

type volumeOut struct {
	Volume float64 `json:"volume_L"`
}

func surveyVolume(in volumeIn) (volumeOut, error) {
	area, err := in.Survey.Read()
	if err != nil {
		return volumeOut{}, err
	}
	volume, err := area.VolumeAt(in.Below)
	return volumeOut{volume}, err
}

type namesIn struct {
	Name  string   `json:"name"`
	Count int      `json:"count"`
	Taken []string `json:"taken"`
}

type namesOut struct {
	Names []string `json:"names"`
}

func areaNames(in namesIn) (namesOut, error) {
	const mostCopies = 100
	switch {
	case in.Count < 1:
		return namesOut{}, fault.At("count", "number.too_small", "value", in.Count, "least", 1)
	case in.Count > mostCopies:
		return namesOut{}, fault.At("count", "number.too_large", "value", in.Count, "most", mostCopies)
	}
	return namesOut{wetarea.CountUp(in.Name, in.Count, in.Taken)}, nil
}

type none struct{}

type shippedOut struct {
	Profiles []rules.Profile `json:"profiles"`
}

func rulesShipped(none) (shippedOut, error) { return shippedOut{rules.Shipped()}, nil }

type rulesAskIn struct {
	Base  rules.Profile     `json:"base"`
	ID    string            `json:"id"` // of the new profile
	Typed map[string]string `json:"typed"`
}

type rulesAskOut struct {
	Form
	Profile *rules.Profile `json:"profile"`
}

func rulesAsk(in rulesAskIn) (rulesAskOut, error) {
	if in.Base.Numbers == nil {
		in.Base.Numbers = map[string]sheet.Said{}
	}
	for name, said := range rules.Generic().Numbers {
		if _, is := in.Base.Numbers[name]; !is {
			in.Base.Numbers[name] = said
		}
	}
	form, own := rules.Ask(in.Base, in.ID, in.Typed)
	return rulesAskOut{Form: formOf(form), Profile: own}, nil
}
