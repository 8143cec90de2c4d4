package drift

import (
	"vetta/internal/decoder"
)

var silentZero = &Kind{
	Name:  "silent-zero",
	Level: Misreads,
	Title: "0, false or empty where the key is absent or null",
	Text: `A field of a primitive type cannot be empty. Where its key is absent or null the library
leaves 0 or false in it, which looks like a value that was sent. In Kotlin this also
happens to a non-null Int, Boolean and the like, and to a default value that does not run
because not every parameter of the constructor has one. Code that asks an org.json object
by opt… gets 0, false or an empty text in the same way.`,
	Examples: []Example{
		{"Java, Gson", `class Fare { int amount; boolean refundable; }`, `{"amount": 5}`},
		{"Kotlin, Gson", `data class Fare(val amount: Int, val refundable: Boolean)`, `{"amount": 5}`},
		{"Java, Jackson", `class Fare { public int amount; public boolean refundable; }`, `{"amount": 5}`},
		{"Java, org.json", `class Fare {
    String name;
    int amount;
    Fare(JSONObject o) throws JSONException {
        name = o.getString("name");
        amount = o.optInt("amount");
    }
}`, `{"name": "adult"}`},
	},
	Fix: `Declare the class that holds the value (Integer, Boolean; in Kotlin Int?) and decide what
its absence means; or give a default that holds: in Kotlin one for every parameter. In code
that asks for keys, ask with has and isNull first.`,
	takes: loss(decoder.Zeroed),
	suggest: func(f *Finding) Change {
		if typ := f.speech().optional(f.Declared); typ != f.Declared && !f.speech().byCode {
			return f.redeclare(typ, "or give it a default that holds")
		}
		return say(f.speech().zero)
	},
}
