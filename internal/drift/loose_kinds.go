package drift

var neverAbsent = &Kind{
	Name:  "never-absent",
	Level: Loose,
	Title: "optional, and always there",
	Text: `The field is optional, and in all responses that were looked at it is there and not
null. Whether it may be absent only the API's authors know.`,
	Examples: []Example{
		{"Swift", `struct Port: Decodable { let code: String? }`, `{"code": "SAL"}
{"code": "MER"}
{"code": "WIC"}`},
		{"Kotlin, Gson", `data class Port(val code: String?)`, `{"code": "SAL"}
{"code": "MER"}
{"code": "WIC"}`},
	},
	Fix: `If the API promises the key, drop the optional and the code that handles nil.`,
}

var neverSent = &Kind{
	Name:  "never-sent",
	Level: Loose,
	Title: "never sent",
	Text: `No response that was looked at has the field's key: the field is always nil, or
always has its default. It may be stale, or misspelt.`,
	Examples: []Example{
		{"Swift", `struct Port: Decodable { let code: String; let fax: String? }`, `{"code": "SAL"}
{"code": "MER"}
{"code": "WIC"}`},
		{"Kotlin, Gson", `data class Port(val code: String, val fax: String?)`, `{"code": "SAL"}
{"code": "MER"}
{"code": "WIC"}`},
	},
	Fix: `Remove the field, or check its key.`,
}

var numberInText = &Kind{
	Name:  "narrower-text",
	Level: Loose,
	Title: "text that is always a number or a date",
	Text:  `The field is declared as text, and every value is a number or a date in one form.`,
	Examples: []Example{
		{"Swift", `struct Fare: Decodable { let amount: String }`, `{"amount": "12.50"}
{"amount": "9.00"}
{"amount": "7.25"}`},
		{"Kotlin, Gson", `data class Fare(val amount: String)`, `{"amount": "12.50"}
{"amount": "9.00"}
{"amount": "7.25"}`},
	},
	Fix: `Convert it once, where it is decoded, if the app computes with it.`,
}
