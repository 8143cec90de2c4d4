package drift

import (
	"vetta/internal/decoder"
)

var unknownKey = &Kind{
	Name:  "unknown-key",
	Level: Breaks,
	Title: "a key that the model does not have fails the whole document",
	Text: `The library is set, as it is by default, to fail on keys that no property takes. An API
that adds a key breaks the app.`,
	Examples: []Example{
		{"Java, Jackson", `class Port { public String code; }`, `{"code": "SAL", "zone": 2}`},
		{"Kotlin, Jackson", `data class Port(val code: String)`, `{"code": "SAL", "zone": 2}`},
	},
	Fix: `Set the mapper not to fail on unknown properties, or annotate the class so that it ignores
them; or declare the key.`,
	takes: reason(decoder.ReasonUnknown),
	suggest: func(f *Finding) Change {
		return Change{"@JsonIgnoreProperties(ignoreUnknown = true)", "on the class lets unknown keys pass, as FAIL_ON_UNKNOWN_PROPERTIES off does; or declare the key"}
	},
}
