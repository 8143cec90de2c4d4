package report

import (
	"regexp"
	"strings"

	"vetta/internal/drift"
	"vetta/internal/wire"
)

// masked stands for a value that looks secret.
const masked = "‹masked›"

// secretWords are words in keys whose values are not for other people's eyes.
var secretWords = map[string]bool{
	"password": true, "passwd": true, "pwd": true, "secret": true, "token": true, "cookie": true, "auth": true,
	"authorization": true, "credential": true, "credentials": true, "apikey": true, "signature": true, "session": true,
	"jwt": true, "bearer": true, "pin": true, "cvv": true, "iban": true, "ssn": true, "email": true, "phone": true, "csrf": true,
	"otp": true, "passcode": true,
}

// Values that look secret whatever their key.
var (
	jwtLook    = regexp.MustCompile(`\beyJ[A-Za-z0-9_-]{5,}\.[A-Za-z0-9_-]{5,}`)
	emailLook  = regexp.MustCompile(`[A-Za-z0-9._%+-]+@[A-Za-z0-9-]+(\.[A-Za-z0-9-]+)+`)
	bearerLook = regexp.MustCompile(`(?i)\b(bearer|basic)\s+[A-Za-z0-9._~+/-]{8,}=*`)
	longLook   = regexp.MustCompile(`\b(?:[A-Za-z]+_)?(?:[0-9a-fA-F]{32,}|[A-Za-z0-9_-]{40,})\b`)
	memberLook = regexp.MustCompile(`"([^"\\]{1,60})"\s*:\s*("(?:[^"\\]|\\.)*(?:"|…|$)|-?[0-9][0-9.eE+-]*)`)
)

// Mask hides what looks secret in a literal that was sent at a place, or in the
// beginning of an object or array.
func Mask(steps []wire.Step, literal string) string {
	for _, s := range steps {
		if secretKey(s.Name) && literal != "null" && literal != "true" && literal != "false" && !strings.HasPrefix(literal, "{") && !strings.HasPrefix(literal, "[") {
			return masked
		}
	}
	if strings.HasPrefix(literal, "{") || strings.HasPrefix(literal, "[") {
		literal = memberLook.ReplaceAllStringFunc(literal, func(member string) string {
			parts := memberLook.FindStringSubmatch(member)
			if secretKey(parts[1]) {
				return `"` + parts[1] + `":` + masked
			}
			return member
		})
	}
	for _, look := range []*regexp.Regexp{jwtLook, bearerLook, emailLook, longLook} {
		literal = look.ReplaceAllString(literal, masked)
	}
	return literal
}

// secretKey says whether a name tells that its value is secret.
func secretKey(name string) bool {
	words := drift.Words(name)
	for i, w := range words {
		if secretWords[w] || w == "key" && i > 0 && (words[i-1] == "api" || words[i-1] == "private" || words[i-1] == "access") {
			return true
		}
	}
	return false
}
