package report

import (
	"path"
	"regexp"
	"strings"

	"vetta/internal/decoder"
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
	jwtLook    = regexp.MustCompile(`\beyJ[A-Za-z0-9_-]{5,}\.[A-Za-z0-9_-]{5,}(\.[A-Za-z0-9_-]+)?`)
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
	if strings.HasPrefix(literal, "<") {
		literal = maskXML(literal)
	}
	for _, look := range looks {
		if look.mayHave(literal) {
			literal = look.expr.ReplaceAllString(literal, masked)
		}
	}
	return literal
}

var (
	attributeLook = regexp.MustCompile(`([\w:.-]+)(\s*=\s*)("[^"]*(?:"|$)|'[^']*(?:'|$))`)
	elementLook   = regexp.MustCompile(`<([\w:.-]+)((?:\s[^<>]*)?)>([^<]+)`)
)

// maskXML hides in the beginning of an element what stands under secret names.
func maskXML(text string) string {
	text = attributeLook.ReplaceAllStringFunc(text, func(attribute string) string {
		parts := attributeLook.FindStringSubmatch(attribute)
		if secretKey(parts[1]) {
			return parts[1] + parts[2] + `"` + masked + `"`
		}
		return attribute
	})
	return elementLook.ReplaceAllStringFunc(text, func(element string) string {
		parts := elementLook.FindStringSubmatch(element)
		if secretKey(parts[1]) {
			return "<" + parts[1] + parts[2] + ">" + masked
		}
		return element
	})
}

// looks are what looks secret whatever its key, each with a quick look whether a text may have it.
var looks = []struct {
	expr    *regexp.Regexp
	mayHave func(text string) bool
}{
	{jwtLook, func(text string) bool { return strings.Contains(text, "eyJ") }},
	{bearerLook, func(text string) bool {
		lower := strings.ToLower(text)
		return strings.Contains(lower, "bearer") || strings.Contains(lower, "basic")
	}},
	{emailLook, func(text string) bool { return strings.Contains(text, "@") }},
	{longLook, func(text string) bool { return longestWord(text) >= 32 }},
}

// longestWord is the length of the longest run of letters, digits, _ and -.
func longestWord(text string) (longest int) {
	run := 0
	for i := 0; i < len(text); i++ {
		c := text[i]
		if c|0x20 >= 'a' && c|0x20 <= 'z' || c >= '0' && c <= '9' || c == '_' || c == '-' {
			run++
			longest = max(longest, run)
		} else {
			run = 0
		}
	}
	return longest
}

// shortest is how long a text must be for its mentions in other texts to be hidden: shorter ones
// stand in many a word.
const shortest = 3

// maskIn hides in a text, an error say, what looks secret, and the mentions of a literal that was sent
// at a place where that is hidden.
func maskIn(text string, steps []wire.Step, literal string) string {
	if own := strings.Trim(literal, `"`); len(own) >= shortest && Mask(steps, literal) != literal {
		text = strings.ReplaceAll(text, own, masked)
	}
	return Mask(nil, text)
}

// maskSeen hides what looks secret in a value that the app sees at a place: by the names of its
// properties, by its look, and where it is one of the texts that were hidden where they were sent.
func maskSeen(s decoder.Seen, steps []wire.Step, hidden map[string]bool) decoder.Seen {
	switch s.Kind {
	case decoder.SeenString, decoder.SeenInt, decoder.SeenFloat, decoder.SeenDecimal, decoder.SeenEnum, decoder.SeenBytes:
		if hidden[s.Text] || Mask(steps, s.String()) != s.String() {
			return decoder.Seen{Kind: decoder.SeenString, Text: masked}
		}
	}
	if len(s.Elems) > 0 {
		elems := make([]decoder.Seen, len(s.Elems))
		for i, e := range s.Elems {
			inner := steps
			if s.Names != nil {
				inner = append(steps[:len(steps):len(steps)], wire.MemberOf(s.Names[i]))
			}
			elems[i] = maskSeen(e, inner, hidden)
		}
		s.Elems = elems
	}
	return s
}

// ownSecrets are patterns of keys that the project says are secret, beside those that look so.
var ownSecrets []string

// KeepSecret makes the values of keys secret that some patterns name, with * for any text and whatever their
// case. It is called before anything is reported.
func KeepSecret(patterns []string) {
	ownSecrets = nil
	for _, p := range patterns {
		ownSecrets = append(ownSecrets, strings.ToLower(p))
	}
}

// secretKey says whether a name tells that its value is secret.
func secretKey(name string) bool {
	for _, pattern := range ownSecrets {
		if ok, _ := path.Match(pattern, strings.ToLower(name)); ok {
			return true
		}
	}
	words := drift.Words(name)
	for i, w := range words {
		if secretWords[w] || w == "key" && i > 0 && (words[i-1] == "api" || words[i-1] == "private" || words[i-1] == "access") {
			return true
		}
	}
	return false
}
