// Package traffic says how responses were sent, what that makes of them, and which endpoint they are of: by
// what was requested, or by the names of the files that hold them.
package traffic

import (
	"net/url"
	"strings"
	"time"
)

// Exchange is what a capture says of how a body was sent. Headers and the values of queries are not
// kept: they hold tokens and names. The zero Exchange is one of which nothing is known, as of a bare
// JSON file.
type Exchange struct {
	Method  string    // in capitals, "" where it is not known
	Host    string    // in small letters, with the port where it is not that of the scheme
	Path    string    // as it was requested, from its first slash on; "" where it is not known
	Op      string    // the operation that a query or a GraphQL request names
	Status  int       // 0 where it is not known
	Time    time.Time // of the request, or of the response where that is what is known; zero for neither
	Media   string    // media type (RFC 9110 section 8.3.1) in small letters, without its parameters
	Request bool      // the body is what was sent, not what was answered
}

// Known says whether it is known what was requested: then that names the endpoint, and not the file.
func (x *Exchange) Known() bool { return x != nil && x.Path != "" }

// Failed says whether the body is that of an error, or of a request that was answered with one (RFC 9110
// sections 15.5 and 15.6).
func (x *Exchange) Failed() bool { return x != nil && x.Status >= 400 }

// Asks takes what an absolute URL, or the target of a request with the host beside it, says.
func (x *Exchange) Asks(target, host string) {
	u, err := url.Parse(strings.TrimSpace(target))
	if err != nil {
		return
	}
	if u.Host != "" {
		host = u.Host
	}
	switch u.Scheme {
	case "http":
		host = strings.TrimSuffix(host, ":80")
	case "https", "":
		host = strings.TrimSuffix(host, ":443")
	case "data", "blob", "file", "about":
		return
	}
	x.Host = strings.ToLower(host)
	if x.Path = u.EscapedPath(); !strings.HasPrefix(x.Path, "/") {
		x.Path = "/" + x.Path
	}
	// Of the query nothing is kept but a name that tells one operation of a path from others.
	for _, key := range operationKeys {
		if op := u.Query().Get(key); IsOperation(op) {
			x.Op = op
			break
		}
	}
}

// operationKeys are the names under which queries and GraphQL requests name an operation.
var operationKeys = []string{"op", "operationName", "operation"}

// IsOperation says whether a text is the name of an operation rather than a value.
func IsOperation(text string) bool {
	if text == "" || len(text) > 80 || isDigit(text[0]) {
		return false
	}
	for i := range len(text) {
		if c := text[i]; c >= 0x80 || !isWord(c) && c != '_' && c != '.' && c != '-' {
			return false
		}
	}
	return !isValue(text)
}

// MediaOf is the media type of a Content-Type.
func MediaOf(contentType string) string {
	text, _, _ := strings.Cut(contentType, ";")
	return strings.ToLower(strings.TrimSpace(text))
}

// IsJSON says whether a media type is one of JSON (RFC 8259, RFC 6839 section 3.1).
func IsJSON(media string) bool {
	switch media {
	case "application/json", "text/json", "application/x-json", "application/ndjson", "application/x-ndjson", "application/jsonl", "application/json-seq":
		return true
	}
	return strings.HasSuffix(media, "+json")
}

// isXML says whether a media type is one of XML (RFC 7303) that is no picture or page.
func isXML(media string) bool {
	switch media {
	case "application/xml", "text/xml":
		return true
	case "image/svg+xml", "application/xhtml+xml":
		return false
	}
	return strings.HasSuffix(media, "+xml")
}

// KindOfMedia is what a body of a media type is called that holds no model's data, "" where its bytes
// must tell.
func KindOfMedia(media string) string {
	top, sub, _ := strings.Cut(media, "/")
	switch {
	case IsJSON(media), isXML(media):
		return ""
	case top == "image":
		return Image
	case top == "audio", top == "video":
		return Sound
	case top == "font", strings.HasPrefix(sub, "font"), sub == "vnd.ms-fontobject":
		return Font
	case sub == "css":
		return Stylesheet
	case strings.HasSuffix(sub, "javascript"), sub == "ecmascript", sub == "wasm":
		return Script
	case sub == "pdf", sub == "zip", sub == "x-protobuf", sub == "protobuf", sub == "grpc", sub == "x-www-form-urlencoded", top == "multipart":
		return Other
	}
	return ""
}

// DateOf reads a time as captures write it; zero for what is none.
func DateOf(text string, layouts ...string) time.Time {
	for _, layout := range layouts {
		if t, err := time.Parse(layout, strings.TrimSpace(text)); err == nil {
			return t
		}
	}
	return time.Time{}
}
