package report

import (
	"fmt"
	"strings"

	"vetta/internal/drift"
	"vetta/internal/drift/finding"
)

// FindingsDoc is docs/findings.md, made of what the kinds of finding say of themselves.
func FindingsDoc() string {
	var b strings.Builder
	b.WriteString(`# Kinds of finding

*Seen* is the value that the app gets, *sent* the one on the wire. No value is a break; seen
other than sent is a misread. A default that the class itself declares for an absent key is
what its author asked for, and no finding. This page is written by ` + "`go run scripts/findings_doc.go`" + `
from the text that ` + "`vetta help KIND`" + ` shows.

| kind | level | meaning |
| --- | --- | --- |
`)
	for _, k := range drift.Kinds() {
		fmt.Fprintf(&b, "| [%s](#%s) | %s | %s |\n", k.Name, k.Name, k.Level, k.Title)
	}
	for _, k := range drift.Kinds() {
		fmt.Fprintf(&b, "\n## %s\n\n%s: %s.\n\n%s\n", k.Name, strings.ToUpper(string(k.Level[:1]))+string(k.Level[1:]), k.Title, k.Text)
		for _, e := range k.Examples {
			fmt.Fprintf(&b, "\nIn %s%s:\n\n    %s\n", e.In, posted(e), strings.ReplaceAll(e.Code+"\n"+e.Sent, "\n", "\n    "))
		}
		fmt.Fprintf(&b, "\nWhat to do: %s\n", k.Fix)
	}
	return b.String()
}

// posted tells an example of what is sent from one of what is decoded.
func posted(e finding.Example) string {
	if e.Posted {
		return ", beside accepted requests"
	}
	return ""
}
