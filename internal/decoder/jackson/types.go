package jackson

import (
	"strings"

	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// platform are the full names of the platform's classes, as messages have them.
var platform = map[string]string{
	"String": "java.lang.String", "Object": "java.lang.Object", "Number": "java.lang.Number", "BigDecimal": "java.math.BigDecimal", "BigInteger": "java.math.BigInteger",
	"Date": "java.util.Date", "URL": "java.net.URL", "URI": "java.net.URI", "UUID": "java.util.UUID", "Optional": "java.util.Optional", "Locale": "java.util.Locale", "Currency": "java.util.Currency",
	"Integer": "java.lang.Integer", "Long": "java.lang.Long", "Short": "java.lang.Short", "Byte": "java.lang.Byte", "Float": "java.lang.Float", "Double": "java.lang.Double",
	"Boolean": "java.lang.Boolean", "Character": "java.lang.Character",
}

// raw is the class of a type: what collections are made as.
func raw(t *model.Type) string {
	switch u := t.Unwrapped(); u.Kind {
	case model.List:
		if u.Name == "[]" {
			return raw(u.Args[0]) + "[]"
		}
		return "java.util.ArrayList"
	case model.Unique:
		return "java.util.HashSet"
	case model.Map:
		return "java.util.LinkedHashMap"
	default:
		if u.Model != nil {
			return strings.ReplaceAll(u.Model.Name, ".", "$")
		}
		if full := platform[u.Name]; full != "" {
			return full
		}
		return u.Name
	}
}

// full is a type with its arguments, as messages have it.
func full(t *model.Type) string {
	u := t.Unwrapped()
	if u.Kind == model.List && u.Name == "[]" {
		elem := u.Args[0]
		if code := arrayCodes[elem.Name]; code != "" && jvm.Scalar(elem) == elem.Name {
			return "[" + code
		}
		if inner := full(elem); strings.HasPrefix(inner, "[") {
			return "[" + inner
		}
		return "[L" + raw(elem) + ";"
	}
	if len(u.Args) == 0 {
		return raw(u)
	}
	var args []string
	for _, a := range u.Args {
		args = append(args, declared.Replace(full(a)))
	}
	return raw(u) + "<" + strings.Join(args, ",") + ">"
}

// arrayCodes are how the virtual machine writes arrays of primitives (JVMS 4.3.2).
var arrayCodes = map[string]string{"int": "I", "long": "J", "short": "S", "byte": "B", "float": "F", "double": "D", "boolean": "Z", "char": "C"}

// declared are the names of collections where they are arguments, and so not yet made.
var declared = strings.NewReplacer("java.util.ArrayList", "java.util.List", "java.util.HashSet", "java.util.Set", "java.util.LinkedHashMap", "java.util.Map")
