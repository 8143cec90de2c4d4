package drift

var unreadKeys = &Kind{
	Name:  "unread-keys",
	Level: Ignores,
	Title: "keys that are sent and not read",
	Text: `The API sends these keys and the model does not read them. A model may be partial,
so this is normal; a key that appears here anew may be worth reading.`,
	Examples: []Example{
		{"Swift", `struct Port: Decodable { let code: String }`, `{"code": "SAL", "depth": 4.5}`},
		{"Kotlin, Gson", `data class Port(val code: String)`, `{"code": "SAL", "depth": 4.5}`},
	},
	Fix: `Nothing, or declare a field for the key.`,
}
