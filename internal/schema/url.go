package schema

import (
	"net/netip"
	"net/url"
	"slices"
	"strconv"
	"strings"
)

// schemes are those whose URLs must name a host (URL Standard, "special scheme").
var schemes = []string{"http", "https", "ws", "wss", "ftp"}

// ParsesAsURL says whether new URL(text) takes a text without a base (URL Standard, "basic URL parser"); known is false
// where the names of domains in other scripts decide, which is not followed.
func ParsesAsURL(text string) (valid, known bool) {
	text = strings.TrimFunc(text, func(r rune) bool { return r <= ' ' })
	text = strings.NewReplacer("\t", "", "\n", "", "\r", "").Replace(text)
	scheme, rest, ok := strings.Cut(text, ":")
	if !ok || !isScheme(scheme) {
		return false, true
	}
	scheme = strings.ToLower(scheme)
	switch {
	case slices.Contains(schemes, scheme):
		return authority(strings.TrimLeft(rest, `/\`), `/\?#`, true)
	case scheme == "file":
		if len(rest) < 2 || strings.Trim(rest[:2], `/\`) != "" {
			return true, true
		}
		name := rest[2:]
		if end := strings.IndexAny(name, `/\?#`); end >= 0 {
			name = name[:end]
		}
		if name == "" || len(name) == 2 && isLetter(name[0]) && (name[1] == ':' || name[1] == '|') { // a drive
			return true, true
		}
		return domain(name)
	case strings.HasPrefix(rest, "//"):
		return authority(rest[2:], "/?#", false)
	}
	return true, true
}

func isLetter(c byte) bool { return c|0x20 >= 'a' && c|0x20 <= 'z' }

func isScheme(text string) bool {
	for i := range len(text) {
		if c := text[i]; !isLetter(c) && (i == 0 || !strings.ContainsRune("0123456789+-.", rune(c))) {
			return false
		}
	}
	return text != ""
}

// authority reads user, host and port, up to the first of some characters.
func authority(text, ends string, special bool) (valid, known bool) {
	if end := strings.IndexAny(text, ends); end >= 0 {
		text = text[:end]
	}
	at := strings.LastIndexByte(text, '@')
	host := text[at+1:]
	port := ""
	if colon := strings.LastIndexByte(host, ':'); colon > strings.LastIndexByte(host, ']') {
		if colon == 0 {
			return false, true
		}
		host, port = host[:colon], host[colon+1:]
	}
	if port != "" {
		if n, err := strconv.ParseUint(port, 10, 32); err != nil || n > 65535 || port[0] == '+' {
			return false, true
		}
	}
	switch {
	case host == "":
		return !special && at < 0, true
	case host[0] == '[':
		return isIPv6(host), true
	case special:
		return domain(host)
	}
	return !strings.ContainsAny(host, "\x00\t\n\r #/:<>?@[\\]^|"), true
}

func isIPv6(host string) bool {
	inner, ok := strings.CutSuffix(host[1:], "]")
	addr, err := netip.ParseAddr(inner)
	return ok && err == nil && addr.Is6() && addr.Zone() == ""
}

// domain says whether a host may be one of a special scheme: a domain, or an IPv4 address.
func domain(host string) (valid, known bool) {
	if host[0] == '[' {
		return isIPv6(host), true
	}
	decoded, err := url.PathUnescape(host)
	if err != nil { // what is no escape stays, and is refused
		return false, true
	}
	for i := range len(decoded) {
		if decoded[i] >= 0x80 {
			return false, false
		}
	}
	decoded = strings.ToLower(decoded)
	if strings.ContainsFunc(decoded, func(r rune) bool { return r <= ' ' || r == 0x7f || strings.ContainsRune(`#/:<>?@[\]^|%`, r) }) {
		return false, true
	}
	labels := strings.Split(strings.TrimSuffix(decoded, "."), ".")
	if slices.ContainsFunc(labels, func(l string) bool { return strings.HasPrefix(l, "xn--") }) {
		return false, false
	}
	if _, isNumber := number(labels[len(labels)-1]); isNumber || isDigits(labels[len(labels)-1]) {
		return isIPv4(labels), true
	}
	return true, true
}

func isDigits(text string) bool {
	return text != "" && strings.Trim(text, "0123456789") == ""
}

// isIPv4 says whether the parts of a host are an address, in any of the ways to write one.
func isIPv4(parts []string) bool {
	if len(parts) > 4 {
		return false
	}
	for i, p := range parts {
		n, ok := number(p)
		if !ok || i < len(parts)-1 && n > 255 || i == len(parts)-1 && n >= 1<<(8*(5-len(parts))) {
			return false
		}
	}
	return true
}

// number reads a part of an IPv4 address: decimal, octal behind 0, hexadecimal behind 0x.
func number(text string) (n uint64, ok bool) {
	base := 10
	switch {
	case text == "":
		return 0, false
	case strings.HasPrefix(text, "0x"):
		text, base = text[2:], 16
	case len(text) > 1 && text[0] == '0':
		text, base = text[1:], 8
	}
	if text == "" {
		return 0, true
	}
	if strings.ContainsAny(text, "+-_") {
		return 0, false
	}
	n, err := strconv.ParseUint(text, base, 64)
	return n, err == nil
}
