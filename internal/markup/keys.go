package markup

import "strings"

// The JSON text of a document has a member for each name that stands in an element: for the elements of that name (a
// list, in their order), for an attribute and for the text. All such keys begin with Mark, which no key of JSON does in
// earnest, so that a key says by itself which notation it is of.
const (
	Mark     = "<"
	TextKey  = "<#" // the text of an element
	OrderKey = "<>" // in what order its elements stand, by their shown names: where the same stand together once
	attrMark = "<@"
)

// TypeKey is the key for xsi:type, whose text names a class: in the JSON text of a document as ElementKey names elements,
// without Mark, where its prefix is bound.
const TypeKey = attrMark + "{" + InstanceSpace + "}type"

// TypeText is how the JSON text of a document has an xsi:type of a name.
func TypeText(n Name) string { return n.clark() }

// ElementKey is the key for the elements of a name.
func ElementKey(n Name) string { return Mark + n.clark() }

// HasKey says whether a key is ElementKey of the name.
func (n Name) HasKey(key string) bool {
	if n.Space == "" {
		return len(key) == len(Mark)+len(n.Local) && key[:len(Mark)] == Mark && key[len(Mark):] == n.Local
	}
	return key == ElementKey(n)
}

// AttrKey is the key for an attribute.
func AttrKey(n Name) string { return attrMark + n.clark() }

func (n Name) clark() string {
	if n.Space == "" {
		return n.Local
	}
	return "{" + n.Space + "}" + n.Local
}

// IsKey says whether a key is one of an XML document.
func IsKey(key string) bool { return strings.HasPrefix(key, Mark) }

// IsAttr says whether a key is that of an attribute.
func IsAttr(key string) bool { return strings.HasPrefix(key, attrMark) }

// IsElement says whether a key is that of elements.
func IsElement(key string) bool {
	return IsKey(key) && !IsAttr(key) && key != TextKey && key != OrderKey
}

// NameOf is the name of the element or the attribute that a key is of.
func NameOf(key string) (n Name) {
	text := strings.TrimPrefix(strings.TrimPrefix(key, Mark), "@")
	if strings.HasPrefix(text, "{") {
		if end := strings.LastIndexByte(text, '}'); end > 0 {
			return Name{text[1:end], text[end+1:]}
		}
	}
	return Name{Local: text}
}

// Show is a name as people and XPath have it, with a prefix for its namespace.
func (n Name) Show() string {
	if n.Space == "" {
		return n.Local
	}
	return Prefix(n.Space) + ":" + n.Local
}

// ShowKey is a key as people and XPath have it: gate, @gate, text(); a key of JSON as it is.
func ShowKey(key string) string {
	switch {
	case !IsKey(key):
		return key
	case key == TextKey:
		return "text()"
	case key == OrderKey:
		return "the order of elements"
	case IsAttr(key):
		return "@" + NameOf(key).Show()
	}
	return NameOf(key).Show()
}

// usual are prefixes that documents have for well-known namespaces.
var usual = map[string]string{
	InstanceSpace:                                               "xsi",
	XMLSpace:                                                    "xml",
	"http://www.w3.org/2001/XMLSchema":                          "xsd",
	"http://www.w3.org/1999/xlink":                              "xlink",
	"http://www.w3.org/2005/Atom":                               "atom",
	"http://purl.org/dc/elements/1.1/":                          "dc",
	"http://www.w3.org/1999/xhtml":                              "html",
	"http://schemas.xmlsoap.org/soap/envelope/":                 "soap",
	"http://www.w3.org/2003/05/soap-envelope":                   "soap",
	"http://schemas.microsoft.com/2003/10/Serialization/Arrays": "arrays",
	"http://schemas.microsoft.com/2003/10/Serialization/":       "ser",
	"http://www.georss.org/georss":                              "georss",
	"http://search.yahoo.com/mrss/":                             "media",
	"http://purl.org/rss/1.0/modules/content/":                  "content",
	"http://www.w3.org/1999/02/22-rdf-syntax-ns#":               "rdf",
}

// Prefix is a prefix for a namespace, the same wherever it is met: the last word of its URI that can be one. Documents
// choose their own, and mean the namespace all the same.
func Prefix(space string) string {
	if p := usual[space]; p != "" {
		return p
	}
	words := strings.FieldsFunc(space, func(r rune) bool {
		return !(r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || r == '_')
	})
	for i := len(words) - 1; i >= 0; i-- {
		w := words[i]
		if c := w[0] | 0x20; c >= 'a' && c <= 'z' && !isVersion(w) {
			return w[:min(len(w), 32)] // which is ASCII
		}
	}
	return "ns"
}

// isVersion says whether a word is v1 or the like, which tells nothing of what the namespace is of.
func isVersion(w string) bool {
	return (w[0] == 'v' || w[0] == 'V') && len(w) > 1 && strings.Trim(w[1:], "0123456789") == ""
}
