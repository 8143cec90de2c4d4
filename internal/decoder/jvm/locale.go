package jvm

import (
	"strings"

	"golang.org/x/text/currency"
)

// Locale is what language, country and variant become as a java.util.Locale: its
// toString.
func Locale(parts ...string) string {
	for len(parts) < 3 {
		parts = append(parts, "")
	}
	language, country, variant := strings.ToLower(parts[0]), strings.ToUpper(parts[1]), parts[2]
	out := language
	if country != "" || language != "" && variant != "" {
		out += "_" + country
	}
	if variant != "" {
		out += "_" + variant
	}
	return out
}

// IsCurrency says whether a text is a code that java.util.Currency knows: one of ISO
// 4217, in capitals.
func IsCurrency(text string) bool {
	_, err := currency.ParseISO(text)
	return err == nil && strings.ToUpper(text) == text
}
