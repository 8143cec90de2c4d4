package trial

import (
	"fmt"
	"testing"

	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// TestCircles takes documents through classes that extend each other, which no compiler takes but
// source that is being written may hold: whatever is said of them, it is said.
func TestCircles(t *testing.T) {
	const java = " class R { java.util.Set<A> s; java.util.Map<A, B> m; A a; } class A extends B { int x; final int z = Y; } class B extends A { int y; }"
	doubling := ""
	for i := range 40 {
		doubling += fmt.Sprintf("\ntypealias A%d = Map<A%d, A%d>", i+1, i, i)
	}
	for _, c := range [][2]string{
		{"M.java", "import com.google.gson.*;" + java},
		{"M.java", "import com.fasterxml.jackson.annotation.*;" + java},
		{"M.java", "import lombok.*; import com.fasterxml.jackson.annotation.*; @Data class R extends R { int a; }"},
		{"M.java", "import org.json.*; class R extends B { R(JSONObject o) throws JSONException { super(o); } } class B extends R { int x; B(JSONObject o) throws JSONException { super(o); read(o); } void read(JSONObject o) { read(o); } }"},
		{"M.kt", "import com.google.gson.*\nclass R(val s: Set<A>) : A()\nopen class A : B() { val x = Y }\nopen class B : A()"},
		{"M.kt", "import com.google.gson.*\ntypealias A = List<A>\ntypealias B = Map<C, C>\ntypealias C = Map<B, A>\nclass R(val a: A, val b: B, val s: C)"},
		{"M.kt", "import com.google.gson.*\ntypealias A0 = Map<String, String>" + doubling + "\nclass R(val a: A40)"},
		{"M.swift", "typealias A = [A]\ntypealias B = [String: C]\ntypealias C = [B]\nstruct R: Decodable { let a: A; let b: B? }"},
		{"M.kt", "import org.json.*\nclass R(o: JSONObject) : A(o)\nopen class A(o: JSONObject) : R(o) { val x = o.getInt(\"x\") }"},
		{"M.swift", "class R: A, Decodable { var s: Set<A> = [] }\nclass A: R, Decodable { var x = 1 }"},
	} {
		set := source.Read([]scan.Source{{Name: c[0], Text: c[1]}})
		plan, err := For(set, "R")
		if err != nil {
			t.Fatal(err)
		}
		for _, document := range []string{`{}`, `{"s":[{"x":1},{"x":1}],"m":{"a":{}},"a":{"y":1},"x":"2"}`, `[]`} {
			doc, err := wire.Parse([]byte(document))
			if err != nil {
				t.Fatal(err)
			}
			agrees(t, plan, document, plan.Decode(doc))
		}
	}
}
