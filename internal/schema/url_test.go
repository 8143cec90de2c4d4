package schema_test

import (
	"testing"

	"vetta/internal/schema"
)

// TestParsesAsURL: as URL.canParse of Node answers.
func TestParsesAsURL(t *testing.T) {
	for _, text := range urlsTaken {
		if valid, known := schema.ParsesAsURL(text); !valid || !known {
			t.Errorf("%q: %v (known %v), Node takes it", text, valid, known)
		}
	}
	for _, text := range urlsRefused {
		if valid, known := schema.ParsesAsURL(text); valid || !known {
			t.Errorf("%q: %v (known %v), Node refuses it", text, valid, known)
		}
	}
	for _, text := range []string{"https://häfen.example", "https://xn--hfen-loa.example/", "https://saltmere%C3%A4.example"} {
		if _, known := schema.ParsesAsURL(text); known {
			t.Errorf("%q: known, though its domain is of another script", text)
		}
	}
}
