package decoder

import (
	"slices"

	"vetta/internal/model"
)

// parents are exceptions of the platform and of libraries with what they extend.
var parents = map[string]string{
	"NumberFormatException": "IllegalArgumentException", "IllegalArgumentException": "RuntimeException", "IllegalStateException": "RuntimeException", "NoSuchElementException": "RuntimeException",
	"IndexOutOfBoundsException": "RuntimeException", "StringIndexOutOfBoundsException": "IndexOutOfBoundsException", "ClassCastException": "RuntimeException", "NullPointerException": "RuntimeException",
	"DateTimeException": "RuntimeException", "DateTimeParseException": "DateTimeException", "UnsupportedOperationException": "RuntimeException", "ArithmeticException": "RuntimeException",
	"JsonDataException": "RuntimeException", "JsonEncodingException": "IOException", "EOFException": "IOException", "FileNotFoundException": "IOException", "IOException": "Exception", "RuntimeException": "Exception", "Exception": "Throwable",
	"SerializationException": "IllegalArgumentException", "JsonDecodingException": "SerializationException", "MissingFieldException": "SerializationException", "JsonEncodingFailure": "SerializationException",
	"JsonParseException": "RuntimeException", "JsonSyntaxException": "JsonParseException", "JsonIOException": "JsonParseException", "ParseException": "Exception",
}

// IsA says whether an exception of one class, by its name without the package, is one of another; known is false where
// neither is in the list.
func IsA(kind, class string) (is, known bool) {
	for c := kind; c != ""; c = parents[c] {
		if c == class {
			return true, true
		}
		if parents[c] == "" && c != "Throwable" {
			return class == "Exception" || class == "Throwable", parents[class] != "" || class == "Exception" || class == "Throwable"
		}
	}
	return false, true
}

// Drops makes a plan that of a call whose error the app drops, nil for one that it does not; otherwise is what it gets
// then, of unknown kind where that is not told.
func (p *Plan) Drops(call *model.Call, otherwise Seen) {
	if call != nil {
		p.Swallowed, p.catches, p.otherwise = true, call.Catches, otherwise
	}
}

// drops says whether the app drops an error.
func (p *Plan) drops(err *Error) bool {
	if !p.Swallowed || err.Endless() {
		return false
	}
	return len(p.catches) == 0 || slices.ContainsFunc(p.catches, func(class string) bool {
		is, known := IsA(err.Kind, class)
		return is || !known
	})
}
