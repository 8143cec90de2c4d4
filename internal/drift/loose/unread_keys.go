package loose

import (
	"vetta/internal/drift/finding"
)

// UnreadKeys is the kind unread-keys: keys that are sent and not read.
var UnreadKeys = &finding.Kind{
	Name:  "unread-keys",
	Level: finding.Ignores,
	Title: "keys that are sent and not read",
	Text: `The API sends these keys and the model does not read them. A model may be partial,
so this is normal; a key that appears here anew may be worth reading.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Port: Decodable { let code: String }`, Sent: `{"code": "SAL", "depth": 4.5}`},
		{In: "Kotlin, Gson", Code: `data class Port(val code: String)`, Sent: `{"code": "SAL", "depth": 4.5}`},
	},
	Fix: `Nothing, or declare a field for the key.`,
}
