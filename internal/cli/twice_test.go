package cli_test

import "testing"

// A key that stands twice in one object is said on standard error, with its place; which one counts
// is the library's affair, and what it does is told.
func TestKeysTwice(t *testing.T) {
	p := newProject(t, map[string]string{
		"App/Fare.kt": `import com.google.gson.Gson
data class Fare(val pence: Int, val zones: Map<String, Int>)
fun fare(text: String): Fare = Gson().fromJson(text, Fare::class.java)
`,
		"fare.json": `{"pence": 100, "pence": 200, "zones": {"a": 1, "a": 2}}`,
	})
	p.run("check", "App", "fare.json").exits(1).complains(
		`fare.json:1:25: the key "pence" stands more than once in one object`,
		`fare.json:1:53: the key "a" stands more than once in one object`,
	).says("1 of 1 response would not decode", "a key that stands more than once in one object [repeated-key]", "throws    JsonSyntaxException: duplicate key: a")
	p.run("trial", "App", "fare.json").exits(1).says("JsonSyntaxException: duplicate key: a  at $.zones", "$.pence  pence: Int               200       200")
}
