package capture

import "regexp"

// foreign names what a document is in place of JSON, where its first bytes tell; "" where they do not.
func foreign(data []byte) string {
	switch is := look(data); is {
	case isPage:
		return "it is a web page, not JSON: an error or a login page, perhaps"
	case isMarkup:
		return "it is an XML document, not JSON"
	case isPicture:
		return "it is an image, not JSON"
	case isWide:
		return "it goes on in UTF-16 or UTF-32, not in UTF-8"
	case isOther:
		if prose.Match(data[:min(len(data), 256)]) {
			return "it is plain text, not JSON: a message of a server or a proxy, perhaps"
		}
	}
	return ""
}

// prose is how text begins that people read: two words at least.
var prose = regexp.MustCompile(`^\s*\pL{2,}[,.:;]? +[\pL\d(]`)
