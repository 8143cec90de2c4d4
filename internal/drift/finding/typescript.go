package finding

import (
	"fmt"
	"regexp"
	"strings"
	"unicode"

	"vetta/internal/shape"
	"vetta/internal/wire"
)

// scriptSpeech is of TypeScript, where nothing decodes: a change makes the type say what is sent.
var scriptSpeech = &speech{
	declare:  func(name, typ string, _ bool) string { return memberName(name) + ": " + typ + ";" },
	Optional: orNull,
	List:     scriptList,
	Element:  scriptElement,
	Types:    map[string]string{"Int": "number", "Double": "number", "String": "string", "Bool": "boolean"},
	Wide:     "number", Exact: "string",
	integers:   "number",
	Rename:     func(_, key string) string { return memberName(key) },
	RenameBoth: func(_, key, _ string) string { return memberName(key) },
	Constant:   func(literal, _ string) string { return "| " + strings.ReplaceAll(literal, `"`, "'") },
	Nested:     "mirror the nesting in the type",
	Dates:      "declare string, and make a Date of it where it is used",
	Unit:       "declare number, and make a Date of it where it is used",
	Kept:       "declare what is sent",
	Swallow:    "declare what is sent",
	absent:     "declare it with ?",
	Zero:       "declare what is sent",
	Single:     "declare both, and ask Array.isArray where it is read",
	Either:     "declare both, and ask typeof where it is read",
	AsNull:     "declare null",
	Fallback:   "a default where it is read, for those still to come",
	change:     scriptChange,
}

// redeclared is a member with another type.
func redeclared(f *Finding, typ, why string) Change {
	return Change{Code: memberName(f.Name) + ": " + typ + ";", Why: why}
}

// scriptList is the type of lists of a type.
func scriptList(elem string) string {
	if strings.ContainsAny(elem, " |&") {
		elem = "(" + elem + ")"
	}
	return elem + "[]"
}

// scriptElement is the type of the elements of a list, "" where that is not plain to see.
func scriptElement(list string) string {
	list = strings.TrimPrefix(list, "readonly ")
	if inner := between(list, "Array<", ">"); inner != "" {
		return inner
	}
	elem, ok := strings.CutSuffix(list, "[]")
	if !ok {
		return ""
	}
	return strings.TrimSuffix(strings.TrimPrefix(elem, "("), ")")
}

// orNull is a type that also admits null.
func orNull(typ string) string {
	if nullWord.MatchString(typ) {
		return typ
	}
	return typ + " | null"
}

var nullWord = regexp.MustCompile(`\bnull\b`)

// memberName is a name as a type writes it: in quotes where it is no word.
func memberName(name string) string {
	for i, r := range name {
		if r != '_' && r != '$' && !unicode.IsLetter(r) && (i == 0 || !unicode.IsDigit(r)) {
			return fmt.Sprintf("%q", name)
		}
	}
	if name == "" {
		return `""`
	}
	return name
}

// scriptRead is what to write in code that reads a value which has no type.
func scriptRead(f *Finding) (Change, bool) {
	where := "where it is read"
	switch f.Kind.Name {
	case "missing-key":
		if f.Never() {
			return Say(fmt.Sprintf("no response has %s: check its spelling %s, or read it no more", f.Key(), where)), true
		}
		return Say("give it a default " + where + ", by ??, or declare that it may be undefined"), true
	case "renamed-key", "renamed-optional":
		return Say(fmt.Sprintf("read %s in place of %s", f.Rename, f.Key())), true
	case "null-value":
		return Say("give it a default " + where + ", by ??, or declare that it may be null"), true
	case "wrong-kind", "mixed-values":
		return Say("convert it " + where + ", or declare what is sent"), true
	case "list-mismatch":
		return Say("ask Array.isArray " + where), true
	}
	return Change{}, false
}

// scriptChange is what to write in a type for a finding.
func scriptChange(f *Finding) (Change, bool) {
	if f.Model != nil && f.Model.FromMap {
		return scriptRead(f)
	}
	switch f.Kind.Name {
	case "missing-key":
		switch {
		case f.Advice != "" || f.Field == nil:
			return Change{}, false
		case f.Never():
			return Say(fmt.Sprintf("no response has %s: check its spelling, or remove it", f.Key())), true
		}
		return Change{Code: memberName(f.Name) + "?: " + f.Declared + ";", Why: "and say what happens where it is undefined"}, true
	case "renamed-key", "renamed-optional":
		mark := ""
		if f.Kind.Name == "renamed-optional" {
			mark = "?"
		}
		return Change{Code: memberName(f.Rename) + mark + ": " + f.Declared + ";", Why: "and use it under that name, or map it where the response is read"}, true
	case "unknown-constant":
		if literal := f.Literal(); literal != "" {
			return Change{Code: "| " + strings.ReplaceAll(literal, `"`, "'"), Why: "to the union; and a default where it is read, for those still to come"}, true
		}
	case "null-value":
		if f.Element {
			if elem := scriptElement(f.Declared); elem != "" {
				return Change{Code: memberName(f.Name) + ": " + scriptList(orNull(elem)) + ";", Why: "its elements may be null"}, true
			}
			return Change{}, false
		}
		return redeclared(f, orNull(f.Declared), "and say what happens where it is null"), true
	case "list-mismatch":
		if elem := scriptElement(f.Declared); elem != "" {
			return redeclared(f, f.Declared+" | "+elem, "and ask Array.isArray where it is read"), true
		}
		if f.Declared != "" && f.Field != nil {
			one := strings.TrimSuffix(strings.TrimPrefix(f.Declared, "null | "), " | null")
			return redeclared(f, f.Declared+" | "+scriptList(one), "and ask Array.isArray where it is read"), true
		}
	case "wrong-kind", "mixed-values":
		if f.Element || f.Field == nil {
			return Change{}, false
		}
		sent := kindsOf(f.Classes())
		if sent == "" {
			return Change{}, false
		}
		for _, s := range f.Sites {
			if s.Values < s.Of {
				return redeclared(f, f.Declared+" | "+sent, "both are sent: ask typeof where it is read"), true
			}
		}
		return redeclared(f, sent, "as it is sent"), true
	}
	return Change{}, false
}

// kindsOf are the types of values of some classes, "" where one is not plain to say.
func kindsOf(classes []shape.Class) string {
	names := map[wire.Kind]string{wire.Null: "null", wire.Bool: "boolean", wire.Number: "number", wire.String: "string"}
	var all []string
	for _, c := range classes {
		name := names[c.Kind]
		if name == "" {
			return ""
		}
		if len(all) == 0 || all[len(all)-1] != name {
			all = append(all, name)
		}
	}
	return strings.Join(all, " | ")
}

// inZod is of schemas, where a change is made to what a key is held to.
func inZod(s *speech) {
	s.Dates = "hold it to the form that is sent, or transform it"
	s.Either = "hold it to z.union of both kinds, and ask typeof where it is read"
	s.Single = "hold it to z.union of a list and one value, and transform one into a list"
	s.Kept = "hold it to what is sent"
	s.Fallback = "a .catch(…) for those still to come"
	s.change = schemaChange(schemaWords{optional: ".optional()", nullable: ".nullable()", kind: "z.%s()", union: "z.union([%s])", rest: ".loose()"})
}

// inValibot is the same in the words of valibot, whose functions wrap others.
func inValibot(s *speech) {
	inZod(s)
	s.Either = "hold it to v.union of both kinds, and ask typeof where it is read"
	s.Fallback = "v.fallback(…, …) for those still to come"
	s.change = schemaChange(schemaWords{optional: "v.optional(…)", nullable: "v.nullable(…)", kind: "v.%s()", union: "v.union([%s])", rest: "v.looseObject(…)"})
}

// schemaWords are how a validator says what a key is held to.
type schemaWords struct{ optional, nullable, kind, union, rest string }

func schemaChange(w schemaWords) func(f *Finding) (Change, bool) {
	return func(f *Finding) (Change, bool) {
		where := "for " + f.Name
		switch f.Kind.Name {
		case "missing-key":
			if f.Advice != "" {
				return Change{}, false
			}
			if f.Never() {
				return Say(fmt.Sprintf("no response has %s: check its spelling, or remove it", f.Key())), true
			}
			return Change{Code: w.optional, Why: where}, true
		case "null-value":
			return Change{Code: w.nullable, Why: where}, true
		case "renamed-key", "renamed-optional":
			return Change{Code: memberName(f.Rename) + ": …", Why: "in place of " + f.Name + ", or hold both to it as optional"}, true
		case "unknown-constant":
			if literal := f.Literal(); literal != "" {
				return Change{Code: strings.ReplaceAll(literal, `"`, "'"), Why: "among the values " + where}, true
			}
		case "unknown-key":
			return Change{Code: w.rest, Why: "lets keys through that the schema does not have"}, true
		case "wrong-kind", "mixed-values":
			sent := kindsOf(f.Classes())
			if f.Field == nil || sent == "" {
				return Change{}, false
			}
			var all []string
			for _, kind := range strings.Split(sent, " | ") {
				all = append(all, fmt.Sprintf(w.kind, kind))
			}
			for _, s := range f.Sites {
				if s.Values < s.Of {
					all = append([]string{"…"}, all...)
					break
				}
			}
			if len(all) == 1 {
				return Change{Code: memberName(f.Name) + ": " + all[0], Why: "as it is sent"}, true
			}
			return Change{Code: memberName(f.Name) + ": " + fmt.Sprintf(w.union, strings.Join(all, ", ")), Why: "both are sent: ask typeof where it is read"}, true
		}
		return Change{}, false
	}
}

// inClasses is of classes whose decorators check what they are made of.
func inClasses(s *speech) {
	s.change = func(f *Finding) (Change, bool) {
		switch f.Kind.Name {
		case "missing-key", "null-value":
			if f.Kind.Name == "missing-key" && f.Never() {
				return Say(fmt.Sprintf("no response has %s: check its spelling, or remove it", f.Key())), true
			}
			return Change{Code: "@IsOptional()", Why: "on " + f.Name}, true
		case "renamed-key", "renamed-optional":
			return Change{Code: fmt.Sprintf("@Expose({ name: %q })", f.Rename), Why: "on " + f.Name}, true
		case "wrong-kind", "mixed-values":
			if sent := kindsOf(f.Classes()); sent != "" && !strings.Contains(sent, " ") && f.Values() == f.Sites[0].Of {
				return Change{Code: "@Is" + strings.ToUpper(sent[:1]) + sent[1:] + "()", Why: "on " + f.Name + ", as it is sent"}, true
			}
			return Say("convert it before it is checked: @Type(() => …), or @Transform"), true
		case "unknown-constant":
			return Say("add the constant, or let others through: @IsString()"), true
		}
		return Change{}, false
	}
}
