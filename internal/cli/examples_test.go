package cli_test

import (
	"encoding/json"
	"fmt"
	"regexp"
	"strings"
	"testing"

	"vetta/internal/drift"
)

// wrappings are what stands around the code of an example, by its language and library: %s is the type
// that is decoded.
var wrappings = map[string]struct{ file, before, call string }{
	"Swift":            {"M.swift", "import Foundation\n", "func load(_ data: Data) throws -> %[1]s { try JSONDecoder().decode(%[1]s.self, from: data) }\n"},
	"Kotlin, Gson":     {"M.kt", "package ferry.saltmere\nimport com.google.gson.*\n", "fun load(text: String): %[1]s = Gson().fromJson(text, %[1]s::class.java)\n"},
	"Kotlin, Jackson":  {"M.kt", "package ferry.saltmere\nimport com.fasterxml.jackson.module.kotlin.*\n", "fun load(text: String): %[1]s = jacksonObjectMapper().readValue<%[1]s>(text)\n"},
	"Kotlin, org.json": {"M.kt", "package ferry.saltmere\nimport org.json.*\n", "fun load(text: String): %[1]s = %[1]s(JSONObject(text))\n"},
	"Java, Gson":       {"M.java", "package ferry.saltmere;\nimport com.google.gson.*;\nimport java.util.*;\n", "class Load { static %[1]s of(String text) { return new Gson().fromJson(text, %[1]s.class); } }\n"},
	"Java, Jackson":    {"M.java", "package ferry.saltmere;\nimport com.fasterxml.jackson.annotation.*;\nimport com.fasterxml.jackson.databind.*;\nimport java.util.*;\n", "class Load { static %[1]s of(String text) throws Exception { return new ObjectMapper().readValue(text, %[1]s.class); } }\n"},
	"Java, org.json":   {"M.java", "package ferry.saltmere;\nimport org.json.*;\n", "class Load { static %[1]s of(String text) throws Exception { return new %[1]s(new JSONObject(text)); } }\n"},
}

var declares = regexp.MustCompile(`(?:struct|class|interface) (\w+)`)

// TestExamples: what help shows as an example of a kind of finding is one.
func TestExamples(t *testing.T) {
	languages := map[string]bool{}
	for _, k := range drift.Kinds() {
		if len(k.Examples) == 0 {
			t.Errorf("%s has no example", k.Name)
		}
		for _, e := range k.Examples {
			languages[e.In] = true
			t.Run(k.Name+" in "+e.In, func(t *testing.T) {
				wrap, ok := wrappings[e.In]
				if !ok {
					t.Fatal("no such language")
				}
				root := declares.FindStringSubmatch(e.Code)[1]
				source := wrap.before + e.Code + "\n"
				if !strings.Contains(e.Code, "ecoder.decode(") && !strings.Contains(e.Code, "JSONDecoder()") && !strings.Contains(e.Code, "fromJson(") {
					source += fmt.Sprintf(wrap.call, root)
				}
				project := files{"App/" + wrap.file: source}
				for i, doc := range strings.Split(e.Sent, "\n") {
					project[fmt.Sprintf("c/%s-%d.json", strings.ToLower(root), i+1)] = doc
				}
				r := newProject(t, project).run("check", "-loose", "-format", "json", "App", "c")
				var got struct {
					Models, Roots []struct{ Findings []struct{ Kind string } }
				}
				if err := json.Unmarshal([]byte(r.out), &got); err != nil {
					t.Fatalf("%v\n%s%s", err, r.out, r.err)
				}
				var kinds []string
				for _, m := range append(got.Models, got.Roots...) {
					for _, f := range m.Findings {
						kinds = append(kinds, f.Kind)
					}
				}
				for _, found := range kinds {
					if found == k.Name {
						return
					}
				}
				t.Errorf("found %v, not %s, in\n%s%s", kinds, k.Name, source, r.err)
			})
		}
	}
	if len(languages) != len(wrappings) {
		t.Errorf("examples in %d languages and libraries of %d", len(languages), len(wrappings))
	}
}
