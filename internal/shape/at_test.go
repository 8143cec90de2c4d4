package shape

import (
	"testing"

	"vetta/internal/wire"
)

// TestNearest: steps lead as far as there are places.
func TestNearest(t *testing.T) {
	e := NewEndpoint("ports", DefaultLimits)
	var r Reader
	doc := []byte(`{"ports":[{"code":"SAL","at":{"lat":54.1}}],"total":1}`)
	if _, err := r.Read(e, &Source{Origin: Origin{File: "ports"}, Data: doc, Line: 1, Column: 1}, 0); err != nil {
		t.Fatal(err)
	}
	member, element := wire.MemberOf, wire.Step{Index: 3}
	for _, c := range []struct {
		steps []wire.Step
		want  string
	}{
		{nil, "$"},
		{[]wire.Step{member("total")}, "$.total"},
		{[]wire.Step{member("ports"), element, member("at"), member("lat")}, "$.ports[*].at.lat"},
		{[]wire.Step{member("ports"), element, member("name")}, "$.ports[*]"},
		{[]wire.Step{member("notices"), element}, "$"},
		{[]wire.Step{member("total"), element}, "$.total"},
	} {
		if got := e.Root.Nearest(c.steps).Path(); got != c.want {
			t.Errorf("%s: %s, want %s", wire.Path(c.steps), got, c.want)
		}
	}
}
