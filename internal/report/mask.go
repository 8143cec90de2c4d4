package report

import (
	"path"
	"regexp"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/drift"
	"vetta/internal/wire"
)

// masked stands for a value that looks secret.
const masked = "‹masked›"

// secretWords are words in keys whose values are not for other people's eyes, in the singular.
var secretWords = map[string]bool{
	"password": true, "passwd": true, "pwd": true, "secret": true, "token": true, "cookie": true, "auth": true,
	"authorization": true, "credential": true, "apikey": true, "signature": true, "session": true,
	"jwt": true, "bearer": true, "pin": true, "cvv": true, "cvc": true, "iban": true, "ssn": true, "email": true, "phone": true, "csrf": true, "xsrf": true,
	"otp": true, "passcode": true, "passphrase": true, "sid": true, "mobile": true, "telephone": true, "msisdn": true,
}

// secretPairs are words that tell it together.
var secretPairs = map[[2]string]bool{
	{"api", "key"}: true, {"private", "key"}: true, {"access", "key"}: true, {"encryption", "key"}: true, {"card", "number"}: true, {"tax", "id"}: true,
	{"account", "number"}: true, {"passport", "number"}: true, {"e", "mail"}: true, {"pass", "phrase"}: true, {"pass", "word"}: true,
}

// secretEnds are how words end in which several are written as one.
var secretEnds = []string{"token", "password", "passwd", "secret", "cookie", "apikey", "sessionid", "sessid", "passphrase", "cardnumber", "signature", "credential", "privatekey", "accesskey"}

// Values that look secret whatever their key.
var (
	jwtLook    = regexp.MustCompile(`\beyJ[A-Za-z0-9_-]{5,}\.[A-Za-z0-9_-]{5,}(\.[A-Za-z0-9_-]+)?`)
	emailLook  = regexp.MustCompile(`[A-Za-z0-9._%+-]+@[A-Za-z0-9-]+(\.[A-Za-z0-9-]+)+`)
	bearerLook = regexp.MustCompile(`(?i)\b(bearer|basic)\s+[A-Za-z0-9._~+/-]{8,}=*`)
	longLook   = regexp.MustCompile(`\b(?:[A-Za-z]+_)?(?:[0-9a-fA-F]{32,}|[A-Za-z0-9_-]{40,})\b`)
	// Keys that services hand out are told by how they begin.
	keyLook     = regexp.MustCompile(`\b(?:(?:AKIA|ASIA)[0-9A-Z]{16}|gh[pousr]_[A-Za-z0-9]{20,}|glpat-[\w-]{16,}|xox[abprs]-[\w-]{10,}|(?:sk|pk|rk)_(?:live|test)_[A-Za-z0-9]{10,}|sk-[A-Za-z0-9_-]{20,}|AIza[\w-]{30,}|ya29\.[\w-]{10,}|SG\.[\w-]{10,}\.[\w-]{10,})`)
	pemLook     = regexp.MustCompile(`(?s)-----BEGIN [A-Z ]+-----.*?(?:-----END [A-Z ]+-----|$)`)
	cardLook    = regexp.MustCompile(`\b[3-6](?:[ -]?[0-9]){11,18}\b`)
	ibanLook    = regexp.MustCompile(`\b[A-Z]{2}[0-9]{2}(?: ?[A-Z0-9]{4}){2,7}(?: ?[A-Z0-9]{1,4})?\b`)
	phoneLook   = regexp.MustCompile(`\+[0-9](?:[ ().-]{0,2}[0-9]){7,14}\b`)
	queryLook   = regexp.MustCompile(`([?&])([\w.%-]{1,60})=([^&#"\s\\]+)`)
	settingLook = regexp.MustCompile(`[\w.-]{1,60}=[\w%~-]+`)
	userLook    = regexp.MustCompile(`(://)[^/@\s"]*:[^/@\s"]*@`)
	memberLook  = regexp.MustCompile(`"((?:[^"\\]|\\.){1,60})"\s*:\s*("(?:[^"\\]|\\.)*(?:"|…|$)|-?[0-9][0-9.eE+-]*)`)
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
			if name, _ := wire.Unquote([]byte(`"` + parts[1] + `"`)); secretKey(name) {
				return `"` + parts[1] + `":` + masked
			}
			return member
		})
	}
	if strings.HasPrefix(literal, "<") {
		literal = maskXML(literal)
	}
	// What is written with escapes is looked at as it is meant.
	if len(literal) > 1 && literal[0] == '"' && literal[len(literal)-1] == '"' && strings.Contains(literal, `\`) {
		if text, _ := wire.Unquote([]byte(literal)); byLook(text) != text {
			return `"` + Safe(byLook(text)) + `"`
		}
	}
	return byLook(literal)
}

// byLook hides what looks secret whatever its key.
func byLook(text string) string {
	for _, look := range looks {
		if look.mayHave(text) {
			text = look.hide(text)
		}
	}
	return text
}

// MaskName hides what looks secret in the name of a file or a folder. Names of many letters and digits are what
// tools call captures by, and stay.
func MaskName(path string) string {
	hide := func(text string) string {
		for _, look := range looks {
			if !look.content && look.mayHave(text) {
				text = look.hide(text)
			}
		}
		return text
	}
	parts := strings.Split(hide(path), "_") // which divides words in names
	for i := range parts {
		parts[i] = hide(parts[i])
	}
	return settingLook.ReplaceAllStringFunc(strings.Join(parts, "_"), func(found string) string {
		if name, _, _ := strings.Cut(found, "="); secretKey(name) {
			return name + "=" + masked
		}
		return found
	})
}

// each hides what an expression finds and a check holds to be what it looks like, nil for all.
func each(expr *regexp.Regexp, is func(found string) bool) func(string) string {
	return func(text string) string {
		return expr.ReplaceAllStringFunc(text, func(found string) string {
			if is == nil || is(found) {
				return masked
			}
			return found
		})
	}
}

// isCard says whether the digits of a text have the check digit of a payment card (ISO/IEC 7812-1, annex B).
func isCard(text string) bool {
	sum, count := 0, 0
	for i := len(text) - 1; i >= 0; i-- {
		if text[i] < '0' || text[i] > '9' {
			continue
		}
		d := int(text[i] - '0')
		if count++; count%2 == 0 {
			if d *= 2; d > 9 {
				d -= 9
			}
		}
		sum += d
	}
	return count >= 13 && sum%10 == 0
}

// isNoUUID says whether what is long is none of the UUIDs of RFC 9562 without their dashes, which name things and
// guard nothing.
func isNoUUID(text string) bool {
	return len(text) != 32 || strings.IndexByte("12345678", text[12]) < 0 || strings.IndexByte("89abAB", text[16]) < 0
}

// isIBAN says whether a text has the check digits of an international bank account number (ISO 13616-1).
func isIBAN(text string) bool {
	text = strings.ReplaceAll(text, " ", "")
	if len(text) < 15 {
		return false
	}
	rest := 0
	for _, c := range text[4:] + text[:4] {
		switch {
		case c >= '0' && c <= '9':
			rest = (rest*10 + int(c-'0')) % 97
		default:
			rest = (rest*100 + int(c-'A') + 10) % 97
		}
	}
	return rest == 1
}

// hideQuery hides the values of a query whose names tell that they are secret.
func hideQuery(text string) string {
	return queryLook.ReplaceAllStringFunc(text, func(found string) string {
		parts := queryLook.FindStringSubmatch(found)
		if name := strings.ToLower(parts[2]); secretKey(parts[2]) || name == "sig" || name == "code" || name == "key" {
			return parts[1] + parts[2] + "=" + masked
		}
		return found
	})
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
	hide    func(text string) string
	mayHave func(text string) bool
	content bool // of values and texts alone, and not of the names of files
}{
	{each(pemLook, nil), func(text string) bool { return strings.Contains(text, "-----BEGIN") }, false},
	{each(jwtLook, nil), func(text string) bool { return strings.Contains(text, "eyJ") }, false},
	{each(bearerLook, nil), func(text string) bool {
		lower := strings.ToLower(text)
		return strings.Contains(lower, "bearer") || strings.Contains(lower, "basic")
	}, false},
	{func(text string) string { return userLook.ReplaceAllString(text, "${1}"+masked+"@") }, func(text string) bool { return strings.Contains(text, "://") && strings.Contains(text, "@") }, false},
	{each(emailLook, nil), func(text string) bool { return strings.Contains(text, "@") }, false},
	{hideQuery, func(text string) bool { return strings.Contains(text, "=") && strings.ContainsAny(text, "?&") }, false},
	{each(keyLook, nil), func(text string) bool { return longestWord(text) >= 10 }, false},
	{each(longLook, isNoUUID), func(text string) bool { return longestWord(text) >= 32 }, true},
	{each(ibanLook, isIBAN), func(text string) bool { return digitsIn(text) >= 10 }, false},
	{each(cardLook, isCard), func(text string) bool { return digitsIn(text) >= 13 }, false},
	{each(phoneLook, nil), func(text string) bool { return strings.Contains(text, "+") && digitsIn(text) >= 8 }, false},
}

// digitsIn is how many digits a text has.
func digitsIn(text string) (n int) {
	for i := 0; i < len(text); i++ {
		if text[i] >= '0' && text[i] <= '9' {
			n++
		}
	}
	return n
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

// maskApp hides what the app sees of a value that is hidden where it was sent: most of its digits may be left. What says
// that nothing is there, 0 or "", is shown.
func maskApp(seen string, steps []wire.Step) string {
	if strings.Trim(seen, `"-0.`) == "" || seen[0] != '"' && seen[0] != '-' && (seen[0] < '0' || seen[0] > '9') {
		return Mask(nil, seen)
	}
	return Mask(steps, seen)
}

// maskSeen hides what looks secret in a value that the app sees at a place: by the names of its
// properties, by its look, and where it is one of the texts that were hidden where they were sent. What is
// shorter than any secret, a 0 that nothing was sent for say, is shown.
func maskSeen(s decoder.Seen, steps []wire.Step, hidden map[string]bool) decoder.Seen {
	switch s.Kind {
	case decoder.SeenString, decoder.SeenInt, decoder.SeenFloat, decoder.SeenDecimal, decoder.SeenEnum, decoder.SeenBytes:
		if hidden[s.Text] || len(s.Text) >= shortest && Mask(steps, s.String()) != s.String() {
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
		if w = singular(w); secretWords[w] || i > 0 && secretPairs[[2]string{singular(words[i-1]), w}] {
			return true
		}
		if slices.ContainsFunc(secretEnds, func(end string) bool { return strings.HasSuffix(w, end) }) {
			return true
		}
	}
	return false
}

// maskDefault hides the texts in what a field is given in source, where its name tells that they are secret, or their look.
func maskDefault(name, source string) string {
	if secretKey(name) {
		source = textLook.ReplaceAllString(source, `"`+masked+`"`)
	}
	return byLook(source)
}

// textLook is a text in source.
var textLook = regexp.MustCompile(`"(?:[^"\\]|\\.)+"|'(?:[^'\\]|\\.)+'`)

// singular is a word without the ending of its plural.
func singular(word string) string {
	// Sessions, pins, phones and mobiles are things that apps list.
	if len(word) > 3 && strings.HasSuffix(word, "s") && !strings.HasSuffix(word, "ss") && word != "sessions" && word != "pins" && word != "phones" && word != "mobiles" {
		return word[:len(word)-1]
	}
	return word
}
