package finding

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// dartSpeech is of code that reads a decoded map by itself: what changes is how a key is read.
var dartSpeech = &speech{
	declare: func(name, typ string, constant bool) string {
		return keyword(constant, "final", "") + typ + " " + name + ";"
	},
	Optional: QuestionMark,
	List:     func(typ string) string { return "List<" + typ + ">" },
	Element:  func(list string) string { return between(list, "List<", ">") },
	Types:    map[string]string{"Int": "int", "Double": "double", "String": "String", "Bool": "bool"},
	Wide:     "int", Exact: "String",
	integers:   "int double num BigInt",
	Rename:     func(_, key string) string { return read(key) },
	RenameBoth: func(_, key, before string) string { return read(key) + " ?? " + read(before) },
	Renamed:    "where it is read",
	Constant:   func(literal, _ string) string { return constantName(strings.Trim(literal, `"`), false) + "," },
	Nested:     "read it there, with ?[…] where what is around it may be absent",
	Dates:      "read the form that is sent; DateTime.tryParse gives null for what is no date",
	Unit:       "multiply seconds by 1000: DateTime.fromMillisecondsSinceEpoch takes milliseconds",
	Kept:       "read what is sent; ?? keeps a default for null and absent keys alone",
	Swallow:    "read what is sent, and do not catch the error",
	absent:     "give it a default where it is read: ?? …",
	Zero:       "declare a type that can be null, or give a default that cannot be taken for what is sent",
	ByCode:     true,
	Single:     "look whether it is a List, and make a list of one value",
	Either:     "look what it is before it is read: is int, is String",
	AsNull:     "read what is sent",
	Fallback:   "orElse: () => … for those still to come",
	change:     dartChange,
}

// read is how code reads a key.
func read(key string) string { return "json['" + strings.ReplaceAll(key, "'", `\'`) + "']" }

// dartChange is what to write in place of what reads a key, by what was sent for it.
func dartChange(f *Finding) (Change, bool) {
	if f.Field == nil || f.Element || f.Key() == "" {
		return Change{}, false
	}
	if f.Field.Stale != "" { // nobody changes what is generated
		return Change{Code: "dart run build_runner build", Why: "the generated part is older than the class"}, true
	}
	own, nullable := strings.CutSuffix(f.Declared, "?")
	key := read(f.Key())
	if deep := f.Field.Deep; len(deep) > 1 && (f.Asked == "" || f.Asked == deep[len(deep)-1]) {
		key = ""
		for _, k := range deep {
			key += strings.TrimPrefix(read(k), "json")
		}
		key = "json" + key
	}
	switch f.Kind.Name {
	case "missing-key", "null-value":
		return dartDefault(f, key, own), !f.Never()
	case "int-for-double":
		if nullable {
			return Change{Code: fmt.Sprintf("(%s as num?)?.toDouble()", key), Why: "a whole number is an int, and no double, but on the web"}, true
		}
		return Change{Code: fmt.Sprintf("(%s as num).toDouble()", key), Why: "a whole number is an int, and no double, but on the web"}, true
	case "lost-digits":
		if own == "int" && !slices.ContainsFunc(f.Classes(), func(c shape.Class) bool { return c.Facts&shape.Broken != 0 }) {
			return Say("have it sent as a text: on the web no number holds all of its digits"), true
		}
	case "untyped-list":
		elem := between(own, "List<", ">")
		if elem == "" {
			return Change{}, false
		}
		if m := f.Field.Type.Unwrapped(); len(m.Args) == 1 && m.Args[0].Model != nil {
			return Change{Code: fmt.Sprintf("(%s as List? ?? []).map((e) => %s.fromJson(e)).toList()", key, elem), Why: "a decoded list is a List<dynamic>, whatever is in it"}, true
		}
		return Change{Code: fmt.Sprintf("List<%s>.from(%s ?? [])", elem, key), Why: "a decoded list is a List<dynamic>, whatever is in it"}, true
	case "wrong-kind":
		return dartKind(f, key, own)
	case "unknown-constant":
		if m := f.Field.Type.Unwrapped().Model; m == nil {
			return Say("read it as a case of its own, and have one for those still to come"), true
		}
	case "unreadable-date":
		if only(f.Classes(), wire.Number) {
			return Change{Code: fmt.Sprintf("DateTime.fromMillisecondsSinceEpoch(%s * 1000, isUtc: true)", key), Why: "seconds since 1970; without * 1000 where it is milliseconds"}, true
		}
	}
	return Change{}, false
}

// dartDefault reads a key that may be absent or null.
func dartDefault(f *Finding, key, own string) Change {
	if d := f.Field.Default; d != nil && d.Text != "" && d.Text != "null" {
		return Change{Code: key + " ?? " + d.Text, Why: "a parameter's default counts only where the argument is left out, and not for null"}
	}
	why := "or declare " + own + "?, and read it as one"
	switch own {
	case "int":
		return Change{Code: key + " ?? 0", Why: why}
	case "double":
		return Change{Code: fmt.Sprintf("(%s as num?)?.toDouble() ?? 0", key), Why: why}
	case "String":
		return Change{Code: key + " ?? ''", Why: why}
	case "bool":
		return Change{Code: key + " ?? false", Why: why}
	case "DateTime":
		return Say("read it only where it is there, with DateTime? declared: " + key + " == null ? null : …")
	}
	switch t := f.Field.Type.Unwrapped(); {
	case strings.HasPrefix(own, "List<") && len(t.Args) == 1 && t.Args[0].Model != nil:
		return Change{Code: fmt.Sprintf("(%s as List? ?? []).map((e) => %s.fromJson(e)).toList()", key, t.Args[0].Model.Name), Why: "an empty list where there is none"}
	case strings.HasPrefix(own, "List<"):
		return Change{Code: fmt.Sprintf("%s.from(%s ?? [])", own, key), Why: "an empty list where there is none"}
	case t.Model != nil && len(t.Model.Cases) == 0:
		return Change{Code: fmt.Sprintf("%s == null ? null : %s.fromJson(%s)", key, own, key), Why: "with " + own + "? declared"}
	}
	return Say("give it a default where it is read, or declare " + own + "?")
}

// dartKind reads what comes of another kind.
func dartKind(f *Finding, key, own string) (Change, bool) {
	classes := f.Classes()
	switch {
	case strings.Contains(f.Error, "of 'index'"):
		return Say("a list came where an object is read: read each of its elements, or take one: " + key + "[0]"), true
	case own == "int" && only(classes, wire.Number):
		return Change{Code: fmt.Sprintf("(%s as num).toInt()", key), Why: "which drops the fraction; num keeps it"}, true
	case own == "int" && only(classes, wire.String):
		return Change{Code: fmt.Sprintf("int.parse('${%s}')", key), Why: "takes the number and its text"}, true
	case own == "double" && only(classes, wire.String):
		return Change{Code: fmt.Sprintf("double.parse('${%s}')", key), Why: "takes the number and its text"}, true
	case own == "String" && (only(classes, wire.Number) || only(classes, wire.Bool)):
		return Change{Code: fmt.Sprintf("'${%s}'", key), Why: "takes whatever is sent as a text"}, true
	case own == "bool" && only(classes, wire.Number):
		return Change{Code: fmt.Sprintf("%s == true || %s == 1", key, key), Why: "takes both"}, true
	case own == "bool" && only(classes, wire.String):
		return Change{Code: fmt.Sprintf("'${%s}' == 'true'", key), Why: "takes both"}, true
	}
	return Change{}, false
}

// only says whether all classes are of one kind.
func only(classes []shape.Class, kind wire.Kind) bool {
	for _, c := range classes {
		if c.Kind != kind {
			return false
		}
	}
	return len(classes) > 0
}

// Throws is the Takes of a kind whose errors hold a text.
func Throws(text string) func(*Event) bool {
	return func(ev *Event) bool {
		return ev.Err != nil && ev.Err.Reason == decoder.ReasonKind && strings.Contains(ev.Err.Message, text)
	}
}
