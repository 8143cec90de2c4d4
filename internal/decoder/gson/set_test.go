package gson_test

import (
	"testing"

	"vetta/internal/decoder/gson"
	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// TestSetsOfDataClasses: a set asks each element for its hash when it is put in, which throws where a
// property of the primary constructor holds null that its type does not admit (measured with Gson 2.10
// and Kotlin 1.9.24, see internal/trial/testdata/measured/v-set-*).
func TestSetsOfDataClasses(t *testing.T) {
	const null = `NullPointerException: Cannot invoke "`
	for _, c := range []struct{ name, source, doc, want string }{
		{
			"nothing is null",
			"data class Stop(val name: String)\nclass Root(val all: Set<Stop>)",
			`{"all":[{"name":"a"},{"name":"a"}]}`,
			`{"all":[{"name":"a"}]}`,
		},
		{
			"a key is absent",
			"data class Stop(val name: String)\nclass Root(val all: Set<Stop>)",
			`{"all":[{"name":"a"},{}]}`,
			null + `String.hashCode()" because "this.name" is null at /all/1`,
		},
		{
			"null is sent",
			"data class Stop(val name: String)\nclass Root(val all: Set<Stop>)",
			`{"all":[{"name":null}]}`,
			null + `String.hashCode()" because "this.name" is null at /all/0`,
		},
		{
			"the type admits it",
			"data class Stop(val name: String?)\nclass Root(val all: Set<Stop>)",
			`{"all":[{}]}`,
			`{"all":[{"name":null}]}`,
		},
		{
			"the first of them in the order of the constructor",
			"data class Stop(val a: Int, val b: java.util.UUID, val c: String)\nclass Root(val all: Set<Stop>)",
			`{"all":[{"c":null,"b":null}]}`,
			null + `java.util.UUID.hashCode()" because "this.b" is null at /all/0`,
		},
		{
			"of an interface it is Object's",
			"data class Stop(val names: List<String>)\nclass Root(val all: Set<Stop>)",
			`{"all":[{}]}`,
			null + `Object.hashCode()" because "this.names" is null at /all/0`,
		},
		{
			"of a collection that is a class its own",
			"data class Stop(val names: ArrayList<String>)\nclass Root(val all: Set<Stop>)",
			`{"all":[{}]}`,
			null + `java.util.ArrayList.hashCode()" because "this.names" is null at /all/0`,
		},
		{
			"an array is hashed without asking it",
			"data class Stop(val names: Array<String>, val more: IntArray)\nclass Root(val all: Set<Stop>)",
			`{"all":[{}]}`,
			`{"all":[{"names":null,"more":null}]}`,
		},
		{
			"a constant that nobody knows",
			"enum class Kind { A }\ndata class Stop(val kind: Kind)\nclass Root(val all: Set<Stop>)",
			`{"all":[{"kind":"B"}]}`,
			null + `Kind.hashCode()" because "this.kind" is null at /all/0`,
		},
		{
			"inside a property",
			"data class At(val label: String)\ndata class Stop(val at: At?)\nclass Root(val all: Set<Stop>)",
			`{"all":[{"at":{}}]}`,
			null + `String.hashCode()" because "this.label" is null at /all/0`,
		},
		{
			"inside a list and a map of a property",
			"data class At(val label: String)\ndata class Stop(val list: List<At>, val map: Map<String, At>)\nclass Root(val all: Set<Stop>)",
			`{"all":[{"list":[{"label":"x"}],"map":{"k":{}}}]}`,
			null + `String.hashCode()" because "this.label" is null at /all/0`,
		},
		{
			"a property of the body is not part of it",
			"data class Stop(val name: String) { lateinit var note: String }\nclass Root(val all: Set<Stop>)",
			`{"all":[{"name":"a"}]}`,
			`{"all":[{"note":null,"name":"a"}]}`,
		},
		{
			"a value class is asked by a function of its own",
			"@JvmInline value class Code(val raw: String)\ndata class Stop(val code: Code)\nclass Root(val all: Set<Stop>)",
			`{"all":[{}]}`,
			null + `String.hashCode()" because "arg0" is null at /all/0`,
		},
		{
			"a class that is no data class is told apart by itself",
			"class Stop(val name: String)\nclass Root(val all: Set<Stop>)",
			`{"all":[{},{}]}`,
			`{"all":[{"name":null},{"name":null}]}`,
		},
		{
			"a list asks nobody",
			"data class Stop(val name: String)\nclass Root(val all: List<Stop>)",
			`{"all":[{}]}`,
			`{"all":[{"name":null}]}`,
		},
		{
			"a set of lists of them",
			"data class Stop(val name: String)\nclass Root(val all: Set<List<Stop>>)",
			`{"all":[[{"name":"a"}],[{}]]}`,
			null + `String.hashCode()" because "this.name" is null at /all/1`,
		},
		{
			"a hash by code of its own is not told",
			"data class Stop(val name: String) { override fun hashCode() = name.length }\nclass Root(val all: Set<Stop>)",
			`{"all":[{}]}`,
			`{}`,
		},
		{
			"what is wrong inside an element comes first",
			"data class Stop(val name: String, val n: Int)\nclass Root(val all: Set<Stop>)",
			`{"all":[{"n":"x"}]}`,
			`JsonSyntaxException: java.lang.NumberFormatException: For input string: "x" at /all/0/n`,
		},
	} {
		t.Run(c.name, func(t *testing.T) {
			set := source.Read([]scan.Source{{Name: "M.kt", Text: c.source}})
			root := set.Find("Root")
			plan := gson.Plan(&model.Type{Kind: model.Named, Name: "Root", Model: root}, "Root", nil)
			doc, err := wire.Parse([]byte(c.doc))
			if err != nil {
				t.Fatal(err)
			}
			out := plan.Decode(doc)
			got := ""
			if out.Err != nil {
				got = out.Err.Message + " at " + wire.Pointer(out.At)
			} else {
				text, err := out.Seen.MarshalJSON()
				if err != nil {
					t.Fatal(err)
				}
				got = string(text)
			}
			if got != c.want {
				t.Errorf("%s\n%s\n got %s\nwant %s", c.source, c.doc, got, c.want)
			}
		})
	}
}
