package swift

import (
	"strings"
	"testing"

	"vetta/internal/source/scan"
)

func TestCondition(t *testing.T) {
	for text, want := range map[string]bool{
		"DEBUG":                             false,
		"!DEBUG":                            true,
		"os(iOS)":                           true,
		"DEBUG && os(iOS)":                  false,
		"!DEBUG && os(iOS)":                 true,
		"DEBUG || os(iOS)":                  true,
		"DEBUG || false":                    false,
		"!DEBUG&&os(Linux)":                 false,
		"os(iOS) || DEBUG && false":         true,
		"(DEBUG || os(macOS)) && os(iOS)":   false,
		"!(DEBUG || os(macOS))":             true,
		"!(os(iOS) && swift(>=5.9))":        false,
		"swift(>=5.9)":                      true,
		"compiler(<6) || false":             true,
		"canImport(UIKit)":                  true,
		"canImport(AppKit)":                 false,
		"!canImport(AppKit)":                true,
		"targetEnvironment(simulator)":      false,
		"arch(arm64)":                       true,
		"arch(x86_64)":                      false,
		"BETA":                              true,
		"true":                              true,
		"":                                  true,
		"((":                                true,
		"!":                                 false,
		strings.Repeat("(", 5000) + "DEBUG": true,
	} {
		f := scan.Scan("a.swift", text, dialect)
		if got := (&condition{tokens: f.Tokens(0, f.Len())}).either(); got != want {
			t.Errorf("%s: %t", text, got)
		}
	}
}

func TestBranches(t *testing.T) {
	for _, c := range [][3]string{
		{"#if DEBUG\nlet a: Int\n#else\nlet b: Int\n#endif", "b", "2 #if DEBUG"},
		{"#if DEBUG\nlet a: Int\n#elseif os(macOS)\nlet b: Int\n#elseif BETA\nlet c: Int\n#else\nlet d: Int\n#endif", "c", "2 #if DEBUG, 4 #elseif os(macOS), 8 #else"},
		{"#if BETA\nlet a: Int\n#if DEBUG\nlet b: Int\n#endif\n#else\nlet c: Int\n#if DEBUG\nlet d: Int\n#endif\n#endif\nlet e: Int", "a e", "4 #if DEBUG, 7 #else"},
		{"#else\nlet a: Int\n#endif\n#endif", "a", ""},
		{"#if DEBUG\nlet a: Int", "", "2 #if DEBUG"},
	} {
		set := Read([]scan.Source{
			{Name: "a.swift", Text: "struct M: Codable {\n" + c[0] + "\n}\n"},
			{Name: "b.swift", Text: "struct N: Codable { let n: Int }"},
		})
		var fields, passed []string
		for _, m := range set.Models {
			if m.Name == "M" {
				for _, f := range m.Fields {
					fields = append(fields, f.Name)
				}
			}
		}
		for _, p := range set.PassedOver {
			passed = append(passed, strings.TrimSuffix(strings.TrimPrefix(p.Pos.String(), "a.swift:"), ":1")+" "+strings.TrimSuffix(p.Reason, " is passed over"))
		}
		if got, over := strings.Join(fields, " "), strings.Join(passed, ", "); got != c[1] || over != c[2] {
			t.Errorf("%s\nfields %s, want %s\npassed over %s, want %s", c[0], got, c[1], over, c[2])
		}
	}
}
