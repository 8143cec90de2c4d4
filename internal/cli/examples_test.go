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
	"Swift":                {"M.swift", "import Foundation\n", "func load(_ data: Data) throws -> %[1]s { try JSONDecoder().decode(%[1]s.self, from: data) }\n"},
	"Kotlin, Gson":         {"M.kt", "package ferry.saltmere\nimport com.google.gson.*\n", "fun load(text: String): %[1]s = Gson().fromJson(text, %[1]s::class.java)\n"},
	"Kotlin, Jackson":      {"M.kt", "package ferry.saltmere\nimport com.fasterxml.jackson.module.kotlin.*\n", "fun load(text: String): %[1]s = jacksonObjectMapper().readValue<%[1]s>(text)\n"},
	"Kotlin, org.json":     {"M.kt", "package ferry.saltmere\nimport org.json.*\n", "fun load(text: String): %[1]s = %[1]s(JSONObject(text))\n"},
	"Java, Gson":           {"M.java", "package ferry.saltmere;\nimport com.google.gson.*;\nimport java.util.*;\n", "class Load { static %[1]s of(String text) { return new Gson().fromJson(text, %[1]s.class); } }\n"},
	"Java, Jackson":        {"M.java", "package ferry.saltmere;\nimport com.fasterxml.jackson.annotation.*;\nimport com.fasterxml.jackson.databind.*;\nimport java.util.*;\n", "class Load { static %[1]s of(String text) throws Exception { return new ObjectMapper().readValue(text, %[1]s.class); } }\n"},
	"TypeScript":           {"m.ts", "", "export const load = async (): Promise<%[1]s> => (await fetch('/v2/' + id)).json();\n"},
	"TypeScript, zod":      {"m.ts", "import { z } from 'zod';\n", "export const load = async () => %[1]s.parse(await (await fetch('/v2/' + id)).json());\n"},
	"C#, System.Text.Json": {"M.cs", "using System.Text.Json;\nusing System.Text.Json.Serialization;\n", "public static class Load { public static %[1]s? Of(string text) => JsonSerializer.Deserialize<%[1]s>(text); }\n"},
	"C#, Newtonsoft.Json":  {"M.cs", "using Newtonsoft.Json;\n", "public static class Load { public static %[1]s? Of(string text) => JsonConvert.DeserializeObject<%[1]s>(text); }\n"},
	"C#, XmlSerializer":    {"M.cs", "using System.Xml.Serialization;\n", "public static class Load { public static %[1]s Of(string text) => (%[1]s)new XmlSerializer(typeof(%[1]s)).Deserialize(new StringReader(text)); }\n"},
	"Dart":                 {"m.dart", "import 'dart:convert';\n", "%[1]s load(String text) => %[1]s.fromJson(jsonDecode(text));\n"},
	"Java, org.json":       {"M.java", "package ferry.saltmere;\nimport org.json.*;\n", "class Load { static %[1]s of(String text) throws Exception { return new %[1]s(new JSONObject(text)); } }\n"},
}

// sending is what sends the type of an example, in place of what decodes it.
var sending = map[string]string{
	"Swift":           "func send(_ body: %s) throws {\n  var request = URLRequest(url: URL(string: \"https://api.saltmere.example/v2/bookings\")!)\n  request.httpMethod = \"POST\"\n  request.httpBody = try JSONEncoder().encode(body)\n}\n",
	"Kotlin, Gson":    "interface Api { @POST(\"v2/bookings\") fun send(@Body body: %s): Call<Unit> }\n",
	"Kotlin, Jackson": "fun send(body: %s) = http.send(\"POST\", \"v2/bookings\", jacksonObjectMapper().writeValueAsString(body))\n",
	"Java, Gson":      "class Send { void of(%s body) { http.put(\"POST\", \"/v2/bookings\", new Gson().toJson(body)); } }\n",
}

// requestTexts are requests with a body each, as HTTP messages, each of which is accepted.
func requestTexts(bodies []string) string {
	var b strings.Builder
	for _, body := range bodies {
		fmt.Fprintf(&b, "POST /v2/bookings HTTP/1.1\r\nHost: api.saltmere.example\r\nContent-Type: application/json\r\nContent-Length: %d\r\n\r\n%s", len(body), body)
		b.WriteString("HTTP/1.1 201 Created\r\nContent-Type: application/json\r\nContent-Length: 2\r\n\r\n{}")
	}
	return b.String()
}

var declares = regexp.MustCompile(`(?:struct|class|interface|const) (\w+)`)

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
				if e.Posted {
					source += fmt.Sprintf(sending[e.In], root)
				} else if !strings.Contains(e.Code, "ecoder.decode(") && !strings.Contains(e.Code, "JSONDecoder()") && !strings.Contains(e.Code, "fromJson(") && !strings.Contains(e.Code, ".parse(") {
					source += fmt.Sprintf(wrap.call, root)
				}
				project := files{"App/" + wrap.file: source}
				sent := strings.Split(e.Sent, "\n")
				if e.Posted {
					project["c/requests.txt"], sent = requestTexts(sent), nil
				}
				for i, doc := range sent {
					ending := "json"
					if strings.HasPrefix(doc, "<") {
						ending = "xml"
					}
					project[fmt.Sprintf("c/%s-%d.%s", strings.ToLower(root), i+1, ending)] = doc
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
