package breaks

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// UnknownKey is the kind unknown-key: a key that the model does not have fails the whole document.
var UnknownKey = &finding.Kind{
	Name:  "unknown-key",
	Level: finding.Breaks,
	Title: "a key that the model does not have fails the whole document",
	Text: `The library is set, as it is by default, to fail on keys that no property takes. An API
that adds a key breaks the app.`,
	Examples: []finding.Example{
		{In: "Java, Jackson", Code: `class Port { public String code; }`, Sent: `{"code": "SAL", "zone": 2}`},
		{In: "Kotlin, Jackson", Code: `data class Port(val code: String)`, Sent: `{"code": "SAL", "zone": 2}`},
	},
	Fix: `Set the mapper not to fail on unknown properties, or annotate the class so that it ignores
them; or declare the key.`,
	Takes: finding.Reason(decoder.ReasonUnknown),
	Suggest: func(f *finding.Finding) finding.Change {
		return finding.Change{Code: "@JsonIgnoreProperties(ignoreUnknown = true)", Why: "on the class lets unknown keys pass, as FAIL_ON_UNKNOWN_PROPERTIES off does; or declare the key"}
	},
}
