package trial

import (
	"fmt"
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// nodesOf is a plan's outcome of a document as a list of a class that holds more of itself, in short: what Newtonsoft.Json
// makes of $id, $ref and $values.
func nodesOf(t *testing.T, sent string) string {
	t.Helper()
	set := source.Read([]scan.Source{{Name: "Node.cs", Text: `using Newtonsoft.Json;
public class Node { public int No { get; set; } public List<Node>? Next { get; set; } }
public static class Api { public static List<Node>? Load(string s) => JsonConvert.DeserializeObject<List<Node>>(s); }`}})
	plan, err := For(set, "List<Node>")
	if err != nil {
		t.Fatal(err)
	}
	doc, err := wire.Parse([]byte(sent))
	if err != nil {
		t.Fatal(err)
	}
	switch out := plan.Decode(doc); {
	case out.Err != nil:
		return out.Err.Message
	case len(out.Unknown) > 0:
		return "unknown"
	default:
		return out.Seen.String()
	}
}

func TestReferences(t *testing.T) {
	for _, c := range []struct{ name, sent, want string }{
		{"an object that stands twice", `[{"$id":"a","No":1},{"$ref":"a"}]`, `[{"No":1,"Next":null},{"No":1,"Next":null}]`},
		{"one that holds the other", `[{"$id":"a","No":1},{"$id":"b","No":2,"Next":[{"$ref":"a"}]}]`, `[{"No":1,"Next":null},{"No":2,"Next":[{"No":1,"Next":null}]}]`},
		{"a list by its values", `[{"No":1,"Next":{"$id":"l","$values":[{"No":2}]}}]`, `[{"No":1,"Next":[{"No":2,"Next":null}]}]`},
		{"a name that none has", `[{"$ref":"a"}]`, `[null]`},
		{"an object in itself", `[{"$id":"a","No":1,"Next":[{"$ref":"a"}]}]`, "unknown"},
		{"more beside a reference", `[{"$id":"a"},{"$ref":"a","No":2}]`, "JsonSerializationException: Additional content found in JSON reference object. A JSON reference object should only have a $ref property. Path '$[1].No'."},
	} {
		if got := nodesOf(t, c.sent); got != c.want {
			t.Errorf("%s: %s\n got %s\nwant %s", c.name, c.sent, got, c.want)
		}
	}
}

// TestReferencesThatDouble: each object stands for two of the one before it, which comes to more than fits in memory.
func TestReferencesThatDouble(t *testing.T) {
	all := []string{`{"$id":"0"}`}
	for i := range 60 {
		all = append(all, fmt.Sprintf(`{"$id":"%d","Next":[{"$ref":"%[2]d"},{"$ref":"%[2]d"}]}`, i+1, i))
	}
	if got := nodesOf(t, "["+strings.Join(all, ",")+"]"); got != "unknown" {
		t.Errorf("%.80s", got)
	}
}

// TestTooDeep: the message names a place, in every library that has a limit.
func TestTooDeep(t *testing.T) {
	for _, decode := range []string{"System.Text.Json.JsonSerializer.Deserialize<List<Node>>(s)", "Newtonsoft.Json.JsonConvert.DeserializeObject<List<Node>>(s)"} {
		set := source.Read([]scan.Source{{Name: "Node.cs", Text: "public class Node { public List<Node>? Next { get; set; } }\npublic static class Api { public static List<Node>? Load(string s) => " + decode + "; }"}})
		plan, err := For(set, "List<Node>")
		if err != nil {
			t.Fatal(err)
		}
		doc, err := wire.Parse([]byte(strings.Repeat("[", 70) + strings.Repeat("]", 70)))
		if err != nil {
			t.Fatal(err)
		}
		if out := plan.Decode(doc); out.Err == nil || strings.Contains(out.Err.Message, decoder.PathMark) || !strings.Contains(out.Err.Message, "epth of 64") {
			t.Errorf("%s: %v", decode, out.Err)
		}
	}
}

// TestHeld: what Newtonsoft.Json adds to what a member holds, by how the source makes that and by how attributes say the key.
func TestHeld(t *testing.T) {
	for _, c := range []struct{ name, members, sent, want string }{
		{"a list by an interface", `public IReadOnlyList<string> Marks { get; } = new List<string> { "a" };`, `{"Marks":["b"]}`, `{"Marks":["a","b"]}`},
		{"the same by its full name", `public IReadOnlyList<string> Marks { get; } = new global::System.Collections.Generic . List<string> { "a" };`, `{"Marks":["b"]}`, `{"Marks":["a","b"]}`},
		{"an array, which takes no more", `public IReadOnlyList<string> Marks { get; set; } = new[] { "a" };`, `{"Marks":["b"]}`, `{"Marks":["b"]}`},
		{"a key by the parameter's name", `[JsonProperty(propertyName: "m")] public int No { get; set; }`, `{"m":1}`, `{"No":1}`},
		{"an attribute of the field behind", `[field: NonSerialized] public int No { get; set; }`, `{"No":1}`, `{"No":1}`},
		{"an attribute of the app's with such a parameter", `[Tag(order: 1, name: "m")] public int No { get; set; }`, `{"No":1}`, `{"No":1}`},
	} {
		set := source.Read([]scan.Source{{Name: "M.cs", Text: `using Newtonsoft.Json;
public class TagAttribute : System.Attribute { public TagAttribute(int order, string name) { } }
public class M { ` + c.members + ` }
public static class Api { public static M? Load(string s) => JsonConvert.DeserializeObject<M>(s); }`}})
		plan, err := For(set, "M")
		if err != nil {
			t.Fatal(c.name, err)
		}
		doc, err := wire.Parse([]byte(c.sent))
		if err != nil {
			t.Fatal(err)
		}
		if out := plan.Decode(doc); out.Err != nil || out.Seen.String() != c.want {
			t.Errorf("%s: %v %v, want %s", c.name, out.Seen, out.Err, c.want)
		}
	}
}
