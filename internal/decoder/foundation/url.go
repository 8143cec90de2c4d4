package foundation

import "strings"

// urlString is the absoluteString of URL(string:), false where there is no URL.
// Characters that RFC 3986 does not admit are percent-encoded as UTF-8 (since
// iOS 17 and in swift-foundation); what then is no URI-reference is refused.
func urlString(s string) (string, bool) {
	if s == "" {
		return "", false
	}
	rest := s
	scheme := ""
	if colon := strings.IndexAny(rest, ":/?#"); colon >= 0 && rest[colon] == ':' {
		if !isScheme(rest[:colon]) {
			return "", false
		}
		scheme, rest = rest[:colon+1], rest[colon+1:]
	}
	fragment, hasFragment := "", false
	rest, fragment, hasFragment = strings.Cut(rest, "#")
	query, hasQuery := "", false
	rest, query, hasQuery = strings.Cut(rest, "?")
	out := scheme
	if authority, ok := strings.CutPrefix(rest, "//"); ok {
		end := strings.IndexByte(authority, '/')
		if end < 0 {
			end = len(authority)
		}
		encoded, ok := encodeAuthority(authority[:end])
		if !ok {
			return "", false
		}
		out += "//" + encoded
		rest = authority[end:]
	}
	out += encode(rest, pathChars)
	if hasQuery {
		out += "?" + encode(query, queryChars)
	}
	if hasFragment {
		out += "#" + encode(fragment, queryChars)
	}
	return out, true
}

// isScheme: ALPHA *( ALPHA / DIGIT / "+" / "-" / "." ), RFC 3986 section 3.1.
func isScheme(s string) bool {
	for i := range len(s) {
		c := s[i]
		letter := c|0x20 >= 'a' && c|0x20 <= 'z'
		if !letter && (i == 0 || !(c >= '0' && c <= '9' || c == '+' || c == '-' || c == '.')) {
			return false
		}
	}
	return s != ""
}

// encodeAuthority takes [ userinfo "@" ] host [ ":" port ], RFC 3986 section 3.2.
func encodeAuthority(s string) (string, bool) {
	out := ""
	if at := strings.LastIndexByte(s, '@'); at >= 0 {
		out, s = encode(s[:at], userChars)+"@", s[at+1:]
	}
	host, port := s, ""
	if strings.HasPrefix(s, "[") {
		end := strings.IndexByte(s, ']')
		if end < 0 {
			return "", false
		}
		host, port = s[:end+1], s[end+1:]
		if port != "" && port[0] != ':' {
			return "", false
		}
		out += host
	} else {
		if colon := strings.IndexByte(s, ':'); colon >= 0 {
			host, port = s[:colon], s[colon:]
		}
		out += encode(host, hostChars)
	}
	if strings.Trim(strings.TrimPrefix(port, ":"), "0123456789") != "" {
		return "", false
	}
	return out + port, true
}

const (
	unreserved = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-._~"
	subDelims  = "!$&'()*+,;="
	hostChars  = unreserved + subDelims
	userChars  = unreserved + subDelims + ":"
	pathChars  = unreserved + subDelims + ":@/"
	queryChars = pathChars + "?"
)

// encode percent-encodes the bytes of s that are not allowed. An escape that is
// already there stays.
func encode(s, allowed string) string {
	var b strings.Builder
	for i := range len(s) {
		c := s[i]
		if strings.IndexByte(allowed, c) >= 0 || c == '%' && i+2 < len(s) && isHex(s[i+1]) && isHex(s[i+2]) {
			b.WriteByte(c)
			continue
		}
		const digits = "0123456789ABCDEF"
		b.WriteByte('%')
		b.WriteByte(digits[c>>4])
		b.WriteByte(digits[c&15])
	}
	return b.String()
}

func isHex(c byte) bool {
	return c >= '0' && c <= '9' || c|0x20 >= 'a' && c|0x20 <= 'f'
}
