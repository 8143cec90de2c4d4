package cli_test

import "testing"

// TestTwoAppsFail: two apps that fail at different responses of one endpoint fail at all of those together.
func TestTwoAppsFail(t *testing.T) {
	p := newProject(t, files{
		"App/Fare.swift":       "import Foundation\nstruct Fare: Decodable { let pence: Int; let zone: String }\nfunc fare(_ d: Data) throws -> Fare { try JSONDecoder().decode(Fare.self, from: d) }\n",
		"Android/Fare.kt":      "package ferry.saltmere\nimport com.google.gson.Gson\ndata class Fare(val seats: Int, val zone: String)\nfun fare(text: String): Fare = Gson().fromJson(text, Fare::class.java)\n",
		"captures/fare-1.json": `{"pence":"none","seats":1,"zone":"a"}`,
		"captures/fare-2.json": `{"pence":100,"seats":"none","zone":"a"}`,
		"captures/fare-3.json": `{"pence":100,"seats":1,"zone":"a"}`,
	})
	p.run("check", ".").exits(1).says("2 of 3 responses would not decode: 2 breaks")
}

// TestDecided: what code does by more than one value of a document is told by decoding the documents, from
// files, lines and archives alike; of a saved shape it is the least that it can be.
func TestDecided(t *testing.T) {
	const source = `package ferry.saltmere
import org.json.*
class Berth(json: JSONObject) {
    val number: Int = if (json.optBoolean("open")) json.getInt("number") else 0
}
fun berth(text: String) = Berth(JSONObject(text))
`
	docs := []string{`{"open":true,"number":4}`, `{"open":false}`, `{"open":true}`, `{"open":true,"number":"x"}`, `{"open":false,"number":"x"}`}
	bare := files{"App/Berth.kt": source}
	for i, d := range docs {
		bare["c/berth-"+string(rune('1'+i))+".json"] = d
	}
	p := newProject(t, bare)
	p.run("check", "App", "c").exits(1).says("2 of 5 responses would not decode").lacks("at least 2 of 5 responses would not decode:")
	p.run("shape", "-o", "a.shape", "c").exits(0)
	p.run("check", "App", "a.shape").says("of 5 responses would not decode")
}

// TestAnotherLibrarysMethod: fromJson of a Moshi adapter is no Gson's, and what Moshi does with the class is said of it.
func TestAnotherLibrarysMethod(t *testing.T) {
	api := func(builder string) files {
		return files{
			"app/Api.kt": `package ferry.saltmere
import com.squareup.moshi.JsonAdapter
import com.squareup.moshi.Moshi
import com.squareup.moshi.kotlin.reflect.KotlinJsonAdapterFactory
private val adapter: JsonAdapter<Page> by lazy { ` + builder + `.build().adapter(Page::class.java) }
fun load(text: String): Page? = adapter.fromJson(text)
`,
			"app/Page.kt":   "package ferry.saltmere\ndata class Page(val count: Int, val port: String)\n",
			"c/page-1.json": `{"count":null,"port":4}`,
		}
	}
	p := newProject(t, api("Moshi.Builder()"))
	p.run("models", "app").exits(0).says("Moshi · KotlinJsonAdapterFactory false").lacks("Gson")
	p.run("check", "app", "c").exits(1).says("Cannot serialize Kotlin type ferry.saltmere.Page", "mark it @JsonClass(generateAdapter = true)").lacks("breaks    count")
	p = newProject(t, api("Moshi.Builder().addLast(KotlinJsonAdapterFactory())"))
	p.run("check", "app", "c").exits(1).says("breaks    count", "JsonDataException: Expected an int but was NULL").lacks("port  ")
}
