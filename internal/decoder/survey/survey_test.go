package survey_test

import (
	"strconv"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/decoder/survey"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// code reads a Port as an app would by hand: the name must be there, berths are 0 where they are absent, and what a kind of
// "pier" or another means is told by the text alone.
type code struct{ asked map[*wire.Value]*survey.Asked }

func (c *code) ask(v *wire.Value) *survey.Asked {
	if c.asked[v] == nil {
		c.asked[v] = &survey.Asked{}
	}
	return c.asked[v]
}

func fails(reason decoder.Reason, key string, at ...wire.Step) decoder.Outcome {
	return decoder.Outcome{Err: &decoder.Error{Kind: "AppException", Reason: reason, Key: key, Message: "AppException: " + key}, At: at}
}

func run(doc *wire.Value) (decoder.Outcome, map[*wire.Value]*survey.Asked, bool) {
	c := &code{map[*wire.Value]*survey.Asked{}}
	if doc.Kind != wire.Object {
		c.ask(doc).Object = true
		return fails(decoder.ReasonKind, ""), c.asked, true
	}
	c.ask(doc).Names = []string{"name", "berths", "at"}
	name := doc.At(wire.MemberOf("name"))
	if name == nil {
		return fails(decoder.ReasonMissing, "name"), c.asked, true
	}
	c.ask(name)
	if name.Kind != wire.String {
		return fails(decoder.ReasonKind, "", wire.MemberOf("name")), c.asked, true
	}
	text, _ := strconv.Unquote(string(name.Raw))
	seen := decoder.Seen{Kind: decoder.SeenObject, Type: "Port", Names: []string{"Name", "Berths", "Lat"}, Elems: []decoder.Seen{{Kind: decoder.SeenString, Text: text}, {Kind: decoder.SeenInt, Text: "0"}, {Kind: decoder.SeenNull}}}
	if berths := doc.At(wire.MemberOf("berths")); berths != nil {
		c.ask(berths)
		if berths.Kind != wire.Number {
			return fails(decoder.ReasonKind, "", wire.MemberOf("berths")), c.asked, true
		}
		seen.Elems[1].Text = string(berths.Raw)
	}
	if at := doc.At(wire.MemberOf("at")); at != nil && at.Kind == wire.Object {
		c.ask(at).Names = []string{"lat"}
		if lat := at.At(wire.MemberOf("lat")); lat != nil {
			c.ask(lat)
			seen.Elems[2] = decoder.Seen{Kind: decoder.SeenFloat, Text: string(lat.Raw)}
		}
	}
	return decoder.Outcome{Seen: seen}, c.asked, true
}

// TestSurvey: the nodes that are found say of documents what the code does with them.
func TestSurvey(t *testing.T) {
	port := &model.Model{Name: "Port", Language: "csharp", Fields: []*model.Field{{Name: "Name", Type: &model.Type{Name: "string"}}, {Name: "Berths", Type: &model.Type{Name: "int"}}, {Name: "Lat", Type: &model.Type{Name: "double"}}}}
	n := survey.Of(run, func(name string) *model.Model {
		if name == "Port" {
			return port
		}
		return nil
	}, []string{"pier"})
	if n == nil {
		t.Fatal("nothing was found")
	}
	plan := &decoder.Plan{Root: n, Type: &model.Type{Name: "Port", Model: port}}
	for _, text := range []string{
		`{"name":"Saltmere","berths":4,"at":{"lat":54.1}}`, `{"name":"Saltmere"}`, `{"name":"Saltmere","berths":0,"at":{}}`,
		`{"berths":4}`, `{"name":null}`, `{"name":7}`, `{"name":"Saltmere","berths":"4"}`, `{"name":"Saltmere","berths":null}`,
		`{"name":"Saltmere","berths":-2147483649}`, `[]`, `5`, `null`,
	} {
		doc, err := wire.Parse([]byte(text))
		if err != nil {
			t.Fatal(err)
		}
		want, _, _ := run(doc)
		got := plan.Decode(doc)
		if (got.Err != nil) != (want.Err != nil) {
			t.Errorf("%s: nodes fail: %v, the code %v", text, got.Err, want.Err)
		} else if got.Err == nil && got.Seen.String() != want.Seen.String() {
			t.Errorf("%s: nodes see %s, the code %s", text, got.Seen, want.Seen)
		}
	}
	if survey.Of(func(*wire.Value) (decoder.Outcome, map[*wire.Value]*survey.Asked, bool) {
		return decoder.Outcome{}, nil, false
	}, func(string) *model.Model { return nil }, nil) != nil {
		t.Error("code that is not followed was surveyed")
	}
}
