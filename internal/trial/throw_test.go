package trial

import (
	"testing"

	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// TestThrows takes a document through constructors that throw of their own, always or where
// something holds: check counts what trial says of the document.
func TestThrows(t *testing.T) {
	const document = `{"a":{},"id":"1","name":5}`
	doc, err := wire.Parse([]byte(document))
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range [][2]string{
		{`throw new IllegalStateException("x");`, "IllegalStateException: x"},
		{`if (o.has("name")) throw new IllegalStateException("x");`, "IllegalStateException: x"},
		{`if (o.has("zz")) throw new IllegalStateException("x");`, ""},
		{`if (o.isNull("name")) throw new IllegalStateException("x");`, ""},
		{`if (o.optInt("name") == 5) throw new IllegalStateException("x");`, "IllegalStateException: x"},
		{`if (o.optInt("name") == 6) throw new IllegalStateException("x");`, ""},
		{`s = Objects.requireNonNull(null);`, "NullPointerException: null"},
		{`s = Objects.requireNonNull(o.optString("zz", null));`, "NullPointerException: null"},
		{`s = Objects.requireNonNull(o.optString("id", null), "none");`, ""},
		{`s = stub(o);`, "IllegalStateException: stub"},
		{`s = o.has("id") ? null : stub(o);`, ""},
		{`s = o.has("zz") ? null : stub(o);`, "IllegalStateException: stub"},
		{`if (part != null) { n = 3; } n = o.getInt("zz");`, "JSONException: No value for zz"},
	} {
		text := "import org.json.*; class M { int n; String s; JSONObject part; M(JSONObject o) throws JSONException { " + c[0] + " } static String stub(JSONObject o) { throw new IllegalStateException(\"stub\"); } }"
		set := source.Read([]scan.Source{{Name: "M.java", Text: text}})
		plan, err := For(set, "M")
		if err != nil {
			t.Fatal(err)
		}
		out := plan.Decode(doc)
		got := ""
		if out.Err != nil {
			got = out.Err.Message
		}
		if got != c[1] {
			t.Errorf("%s\n got %s\nwant %s", c[0], got, c[1])
		}
		agrees(t, plan, document, out)
	}
}
