package pairing

import (
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"sort"
	"strings"
	"testing"

	"vetta/internal/capture"
	"vetta/internal/drift"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/source/scan"
	"vetta/internal/source/swift"
	"vetta/internal/traffic"
)

// pairs are what a source of Swift and some captures are paired to: see outcome.
func pairs(t *testing.T, source string, files map[string]string, manual ...string) string {
	t.Helper()
	return outcome(t, swift.Read([]scan.Source{{Name: "M.swift", Text: source}}), files, manual...)
}

// outcome is what models and captures, by their paths, are paired to, as TYPE=ENDPOINT PLACE, and what
// found no partner.
func outcome(t *testing.T, set *model.Set, captures map[string]string, manual ...string) string {
	t.Helper()
	t.Chdir(t.TempDir()) // so that nothing but their own names groups them
	var all []*capture.File
	for i, name := range slices.Sorted(maps.Keys(captures)) {
		if err := os.MkdirAll(filepath.Dir(name), 0o755); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(name, []byte(captures[name]), 0o644); err != nil {
			t.Fatal(err)
		}
		all = append(all, &capture.File{Path: name, Order: i})
	}
	s := shape.Collect(all, shape.Reading{Workers: 1, Limits: shape.DefaultLimits})
	var hand []Manual
	for _, text := range manual {
		m, err := ParseManual(text)
		if err != nil {
			t.Fatal(err)
		}
		hand = append(hand, m)
	}
	r, err := Pair(set, s, hand)
	if err != nil {
		return err.Error()
	}
	r.Account(set, s, drift.Check(r.Pairs, drift.Second{}))
	var out []string
	for _, p := range r.Pairs {
		out = append(out, fmt.Sprintf("%s=%s %s", p.Plan.Declared, p.Endpoint.Name, p.Place.Path()))
	}
	for _, a := range r.Models {
		out = append(out, "no responses for "+a.Model.Name)
	}
	for _, a := range r.Endpoints {
		out = append(out, "no model for "+a.Endpoint.Name)
	}
	for _, a := range r.Unjudged {
		out = append(out, "nothing claimed of "+a.Model.Name)
	}
	sort.Strings(out)
	return strings.Join(out, "; ")
}

const (
	port    = "struct Port: Codable { let code: String; let depth: Double; let open: Bool }\n"
	vessel  = "struct Vessel: Codable { let name: String; let tonnage: Int; let home: String }\n"
	ports   = `[{"code":"SAL","depth":4,"open":true},{"code":"MER","depth":5,"open":false}]`
	vessels = `{"vessels":[{"name":"Tern","tonnage":480,"home":"SAL"}],"count":1}`
)

func TestPair(t *testing.T) {
	for _, c := range []struct {
		name, source string
		files        map[string]string
		manual       []string
		want         string
	}{
		{"by keys, through envelopes", port + vessel, map[string]string{
			"a.json": ports,
			"b.json": vessels,
		}, nil, "Port=a $[*]; Vessel=b $.vessels[*]"},
		{"by the call", port + "func f(d: Data) throws { _ = try JSONDecoder().decode([Port].self, from: d) }", map[string]string{"a.json": ports}, nil, "[Port]=a $"},
		{"a call for what an envelope holds", vessel + "func f(d: Data) throws { _ = try JSONDecoder().decode([Vessel].self, from: d) }", map[string]string{"vessels.json": vessels}, nil, "[Vessel]=vessels $; no responses for Vessel"},
		{"nested models follow their holder", port + "struct List: Codable { let ports: [Port]; let page: Int }", map[string]string{"x.json": `{"ports":` + ports + `,"page":1}`}, nil, "List=x $"},
		{"badly drifted, the name helps", port, map[string]string{"ports.json": `[{"code":"SAL","depthMetres":4,"state":"open"}]`}, nil, "Port=ports $[*]"},
		{"nothing fits", port, map[string]string{"weather.json": `{"wind":3,"sea":"calm"}`}, nil, "no model for weather; no responses for Port"},
		{"two models that fit one place", port + "struct Harbour: Codable { let code: String; let depth: Double; let open: Bool }", map[string]string{"z.json": ports}, nil, "Harbour=z $[*]; Port=z $[*]"},
		{"one model at two places", port, map[string]string{
			"ports.json": ports,
			"trip.json":  `{"id":1,"from":{"code":"SAL","depth":4,"open":true},"to":{"code":"MER","depth":2,"open":true}}`,
		}, nil, "Port=ports $[*]; Port=trip $.from; Port=trip $.to"},
		{"by hand", port + vessel, map[string]string{
			"a-1.json": ports,
			"a-2.json": ports,
			"b.json":   vessels,
		}, []string{"Vessel=a-*#$[*]"}, "Vessel=a $[*]; Vessel=b $.vessels[*]; no responses for Port"},
		{"by hand, a place that is not there", port, map[string]string{"a.json": ports}, []string{"Port=a*#$.x"}, "a has no place $.x; it has $, $[*]"},
		{"files of one name with other roots", port + vessel, map[string]string{
			"r-1.json": `{"code":"SAL","depth":4,"open":true}`,
			"r-2.json": `{"name":"Tern","tonnage":480,"home":"SAL"}`,
			"r-3.json": `{"code":"MER","depth":4}`,
		}, nil,
			"Port=r ({code, depth, open}) $; Vessel=r ({home, name, tonnage}) $"},
	} {
		t.Run(c.name, func(t *testing.T) {
			if got := pairs(t, c.source, c.files, c.manual...); got != c.want {
				t.Errorf("\n got %s\nwant %s", got, c.want)
			}
		})
	}
}

func TestParseManual(t *testing.T) {
	m, err := ParseManual("[Sailing]=captures/sailings*#$.sailings[*]")
	if err != nil || m != (Manual{Type: "[Sailing]", Glob: "captures/sailings*", Place: "$.sailings[*]"}) {
		t.Errorf("%+v %v", m, err)
	}
	for _, text := range []string{"", "Sailing", "=x", "Sailing=", "Sailing=[x"} {
		if _, err := ParseManual(text); err == nil {
			t.Errorf("%q is taken", text)
		}
	}
}

func TestGroup(t *testing.T) {
	for in, want := range map[string]string{
		"c/sailings-2026-03-01.json":                  "c/sailings",
		"c/sailings_3.json":                           "c/sailings",
		"c/sailings (4).json":                         "c/sailings",
		"c/sailings.json":                             "c/sailings",
		"c/v2/ports.json":                             "c/v2/ports",
		"2026-03-01/ports.json":                       "*/ports",
		"c/123.json":                                  "c/*",
		"c/pass-SP-0101.json":                         "c/pass-SP",
		"c/7d9f1c02-3b2a-4c5d-8e6f-000000000001.json": "c/*",
		"c/port7-berths.json":                         "c/port*berths",
		"c/deadbeef01.json":                           "c/*",
	} {
		if got := traffic.Group(in); got != want {
			t.Errorf("%s is of %s, want %s", in, got, want)
		}
	}
}
