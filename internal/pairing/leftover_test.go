package pairing

import (
	"testing"

	"vetta/internal/source"
	"vetta/internal/source/scan"
)

// TestLeftOver: what is paired by other signs than the keys that a type asks for.
func TestLeftOver(t *testing.T) {
	const gson = "import com.google.gson.Gson\n"
	const jackson = "import com.fasterxml.jackson.annotation.*; import com.fasterxml.jackson.databind.*;\n"
	for _, c := range []struct {
		name, file, source string
		captures           map[string]string
		want               string
	}{
		{
			"captures in a folder have its name", "A.kt",
			gson + "data class Booking(val id: Int)\nfun f(s: String) = Gson().fromJson(s, Booking::class.java)",
			map[string]string{"booking/1.json": `{"id":"B"}`, "booking/2.json": `{"id":2}`},
			"Booking=booking/* $",
		},
		{
			"the path of a request is that of a folder", "A.kt",
			"data class Line(val a: Int, val b: Int)\ninterface Api { @GET(\"v2/lines/{id}\") suspend fun line(): Line }\nval c = GsonConverterFactory.create()",
			map[string]string{"v2/lines/1.json": `{"a":1,"z":2}`, "v2/lines/2.json": `{"a":3,"z":2}`},
			"Line=v2/lines/* $",
		},
		{
			"all keys in another case", "A.kt",
			gson + "data class Sailing(val departsAt: String, val seatsLeft: Int, val vesselName: String)\nfun f(s: String) = Gson().fromJson(s, Sailing::class.java)",
			map[string]string{"x.json": `{"departs_at":"a","seats_left":1,"vessel_name":"b"}`},
			"Sailing=x $",
		},
		{
			"a typo in one of two keys", "A.kt",
			gson + "data class Port(val code: String, val nmae: String)\nfun f(s: String) = Gson().fromJson(s, Port::class.java)",
			map[string]string{"p.json": `{"code":"a","name":"b"}`},
			"Port=p $",
		},
		{
			"names alone are not enough", "A.kt",
			gson + "data class Port(val code: String, val name: String)\nfun f(s: String) = Gson().fromJson(s, Port::class.java)",
			map[string]string{"weather.json": `{"wind":3,"sea":"calm"}`},
			"no model for weather; no responses for Port",
		},
		{
			"another name and one key of many", "A.kt",
			gson + "data class Port(val code: String, val name: String, val depth: Double, val berths: Int)\nfun f(s: String) = Gson().fromJson(s, Port::class.java)",
			map[string]string{"weather.json": `{"wind":3,"sea":"calm","code":5}`},
			"no model for weather; no responses for Port",
		},
		{
			"a class that Jackson refuses goes by its name", "A.java",
			jackson + "class Fare { public final int pence; Fare(int a, int b) { pence = a; } static Fare of(String s) throws Exception { return new ObjectMapper().readValue(s, Fare.class); } }",
			map[string]string{"fares.json": `{"pence":1}`},
			"Fare=fares $",
		},
		{
			"a refused class goes by its keys as well", "A.java",
			jackson + "class Fare { public final int pence; Fare(int a, int b) { pence = a; } static Fare of(String s) throws Exception { return new ObjectMapper().readValue(s, Fare.class); } }",
			map[string]string{"tariff.json": `{"pence":1}`},
			"Fare=tariff $",
		},
		{
			"a list of what nothing is claimed of", "A.java",
			jackson + "@com.fasterxml.jackson.databind.annotation.JsonDeserialize(using = F.class) class Fare { public int pence; static Fare[] of(String s) throws Exception { return new ObjectMapper().readValue(s, Fare[].class); } }",
			map[string]string{"fares.json": `[{"pence":1}]`},
			"nothing claimed of Fare",
		},
		{
			"kinds that a key tells, and none of them alone", "A.java",
			jackson + "@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = \"kind\") @JsonSubTypes(@JsonSubTypes.Type(value = Delay.class, name = \"delay\")) abstract class Event { static Event of(String s) throws Exception { return new ObjectMapper().readValue(s, Event.class); } } class Delay extends Event { public int minutes; }",
			map[string]string{"event/1.json": `{"kind":"fog"}`, "event/2.json": `{"kind":"delay","minutes":5}`},
			"Event=event/* $; nothing claimed of Delay",
		},
		{
			"responses that were set apart", "A.kt",
			gson + "data class Sailing(val departsAt: String, val seats: Int, val vessel: String)\nfun f(s: String) = Gson().fromJson(s, Sailing::class.java)",
			map[string]string{"s/1.json": `{"departsAt":"a","seats":1,"vessel":"b"}`, "s/2.json": `{"departs_at":"a","seats":1,"ship":"b","gate":1,"deck":2}`},
			"Sailing=s/* ({deck, departs_at, gate, …}) $; Sailing=s/* ({departsAt, seats, vessel}) $",
		},
		{
			"an error among the others", "A.kt",
			gson + "data class Line(val id: Int, val stops: List<String>)\nfun f(s: String) = Gson().fromJson(s, Line::class.java)",
			map[string]string{"line/1.json": `{"id":1,"stops":[]}`, "line/2.json": `{"error":"gone","status":404}`},
			"Line=line/* ({id, stops}) $; no model for line/* ({error, status})",
		},
		{
			"a model made elsewhere, wherever it lies", "A.kt",
			"import org.json.*\nclass Port(val code: String, val berths: Int)\nfun ports(a: JSONArray) = (0 until a.length()).map { val o = a.getJSONObject(it)\n Port(o.getString(\"code\"), o.getInt(\"berths\")) }",
			map[string]string{"p.json": `{"hits":[{"code":"a","berths":1}]}`},
			"Port=p $.hits[*]",
		},
	} {
		t.Run(c.name, func(t *testing.T) {
			set := source.Read([]scan.Source{{Name: c.file, Text: c.source}})
			if got := outcome(t, set, c.captures); got != c.want {
				t.Errorf("\n got %s\nwant %s", got, c.want)
			}
		})
	}
}
