//go:build ignore

// Writes docs/findings.md from what the kinds of finding say of themselves:
// go run scripts/findings_doc.go
package main

import (
	"log"
	"os"

	"vetta/internal/report"
)

func main() {
	if err := os.WriteFile("docs/findings.md", []byte(report.FindingsDoc()), 0o644); err != nil {
		log.Fatal(err)
	}
}
