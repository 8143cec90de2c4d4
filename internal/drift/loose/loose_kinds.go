// Package loose has the kinds of findings that break nothing: declared wider than anything seen, sent and
// never read.
package loose

import (
	"strings"

	"vetta/internal/drift/finding"
)

// NeverAbsent is the kind never-absent: optional, and always there.
var NeverAbsent = &finding.Kind{
	Name:  "never-absent",
	Level: finding.Loose,
	Title: "optional, and always there",
	Text: `The field is optional, and in all responses that were looked at it is there and not
null. Whether it may be absent only the API's authors know.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Port: Decodable { let code: String? }`, Sent: `{"code": "SAL"}
{"code": "MER"}
{"code": "WIC"}`},
		{In: "Kotlin, Gson", Code: `data class Port(val code: String?)`, Sent: `{"code": "SAL"}
{"code": "MER"}
{"code": "WIC"}`},
	},
	Fix: `If the API promises the key, drop the optional and the code that handles nil.`,
}

// NeverSent is the kind never-sent: never sent.
var NeverSent = &finding.Kind{
	Name:  "never-sent",
	Level: finding.Loose,
	Title: "never sent",
	Text: `No response that was looked at has the field's key: the field is always nil, or
always has its default. It may be stale, or misspelt.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Port: Decodable { let code: String; let fax: String? }`, Sent: `{"code": "SAL"}
{"code": "MER"}
{"code": "WIC"}`},
		{In: "Kotlin, Gson", Code: `data class Port(val code: String, val fax: String?)`, Sent: `{"code": "SAL"}
{"code": "MER"}
{"code": "WIC"}`},
	},
	Fix: `Remove the field, or check its key.`,
}

// NumberInText is the kind narrower-text: text that is always a number or a date.
var NumberInText = &finding.Kind{
	Name:  "narrower-text",
	Level: finding.Loose,
	Title: "text that is always a number or a date",
	Text:  `The field is declared as text, and every value is a number or a date in one form.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Fare: Decodable { let amount: String }`, Sent: `{"amount": "12.50"}
{"amount": "9.00"}
{"amount": "7.25"}`},
		{In: "Kotlin, Gson", Code: `data class Fare(val amount: String)`, Sent: `{"amount": "12.50"}
{"amount": "9.00"}
{"amount": "7.25"}`},
	},
	Fix: `Convert it once, where it is decoded, if the app computes with it.`,
}

// FewTexts is the kind few-texts: text of which only a few are ever sent.
var FewTexts = &finding.Kind{
	Name:  "few-texts",
	Level: finding.Loose,
	Title: "text of which only a few are ever sent",
	Text: `The type says string, and of many values there are no more than three texts. A union of
literals has the compiler say where one is misspelt, or forgotten. It is told of TypeScript alone.`,
	Examples: []finding.Example{
		{In: "TypeScript", Code: `interface Sailing { status: string }
const load = async () => (await (await fetch('/sailings')).json()) as Sailing;`, Sent: strings.TrimSpace(strings.Repeat(`{"status": "on_time"}
{"status": "delayed"}
`, 4))},
	},
	Fix: `Declare a union of literals, if the API promises that there are no others.`,
}
