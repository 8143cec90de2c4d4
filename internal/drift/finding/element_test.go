package finding

import "testing"

// TestWithElement: what a list or a map is declared as with elements of another type, where that is plain to see.
func TestWithElement(t *testing.T) {
	for _, c := range []struct{ declared, typ, want string }{
		{"[Int]", "Double", "[Double]"},
		{"[Int?]?", "Double", "[Double?]?"},
		{"[String: Int]", "Double", "[String: Double]"},
		{"List<Int>", "Double", "List<Double>"},
		{"Map<String, Integer>", "Double", "Map<String, Double>"},
		{"Dictionary<string, int?>?", "double", "Dictionary<string, double?>?"},
		{"Record<string, number>", "string", "Record<string, string>"},
		{"readonly string[]", "number", "readonly number[]"},
		{"string[]", "number", "number[]"},
		{"Map<String, List<Int>>", "Double", ""},
		{"[[Int]]", "Double", ""},
		{"(string | null)[]", "number", ""},
		{"Fares", "Double", ""},
		{"", "Double", ""},
	} {
		if got := withElement(c.declared, c.typ); got != c.want {
			t.Errorf("%s of %s is %q, want %q", c.declared, c.typ, got, c.want)
		}
	}
}
