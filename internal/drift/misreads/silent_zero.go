package misreads

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// SilentZero is the kind silent-zero: 0, false or empty where the key is absent or null.
var SilentZero = &finding.Kind{
	Name:  "silent-zero",
	Level: finding.Misreads,
	Title: "0, false or empty where the key is absent or null",
	Text: `A field of a primitive type cannot be empty. Where its key is absent or null the library
leaves 0 or false in it, which looks like a value that was sent. In Kotlin this also
happens to a non-null Int, Boolean and the like, and to a default value that does not run
because not every parameter of the constructor has one. Code that asks an org.json object
by opt… gets 0, false or an empty text in the same way.`,
	Examples: []finding.Example{
		{In: "Java, Gson", Code: `class Fare { int amount; boolean refundable; }`, Sent: `{"amount": 5}`},
		{In: "Kotlin, Gson", Code: `data class Fare(val amount: Int, val refundable: Boolean)`, Sent: `{"amount": 5}`},
		{In: "Java, Jackson", Code: `class Fare { public int amount; public boolean refundable; }`, Sent: `{"amount": 5}`},
		{In: "Java, org.json", Code: `class Fare {
    String name;
    int amount;
    Fare(JSONObject o) throws JSONException {
        name = o.getString("name");
        amount = o.optInt("amount");
    }
}`, Sent: `{"name": "adult"}`},
		{In: "C#, System.Text.Json", Code: `public class Fare { public int Amount { get; set; } public bool Refundable { get; set; } }`, Sent: `{"Amount": 5}`},
	},
	Fix: `Declare the class that holds the value (Integer, Boolean; in Kotlin Int?) and decide what
its absence means; or give a default that holds: in Kotlin one for every parameter. In code
that asks for keys, ask with has and isNull first.`,
	Takes: finding.Loss(decoder.Zeroed),
	Suggest: func(f *finding.Finding) finding.Change {
		if typ := f.Speech().Optional(f.Declared); typ != f.Declared && !f.Speech().ByCode {
			return f.Redeclare(typ, "or give it a default that holds")
		}
		return finding.Say(f.Speech().Zero)
	},
}
