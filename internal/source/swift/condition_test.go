package swift

import "testing"

func TestCondition(t *testing.T) {
	for text, want := range map[string]bool{
		"DEBUG": false, "!DEBUG": true, "os(iOS)": true, "DEBUG && os(iOS)": false, "!DEBUG && os(iOS)": true,
		"DEBUG || os(iOS)": true, "DEBUG || false": false, "!DEBUG&&os(Linux)": false, "os(iOS) || DEBUG && false": true,
	} {
		if got := condition(text); got != want {
			t.Errorf("%s: %t", text, got)
		}
	}
}
