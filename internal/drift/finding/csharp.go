package finding

import (
	"fmt"
	"strings"

	"vetta/internal/model"
)

// sharpWords are the keywords of C# that a name must be marked with @ to be (C# language reference, "Keywords").
var sharpWords = func() map[string]bool {
	words := map[string]bool{}
	for _, w := range strings.Fields("abstract as base bool break byte case catch char checked class const continue decimal default delegate do double else enum event explicit extern false finally fixed float for foreach goto if implicit in int interface internal is lock long namespace new null object operator out override params private protected public readonly ref return sbyte sealed short sizeof stackalloc static string struct switch this throw true try typeof uint ulong unchecked unsafe ushort using virtual void volatile while") {
		words[w] = true
	}
	return words
}()

// sharpSpeech is of System.Text.Json.
var sharpSpeech = &speech{
	declareField: declareSharp,
	declare:      func(name, typ string, _ bool) string { return typ + " " + name + ";" },
	Optional:     QuestionMark,
	List:         func(typ string) string { return "List<" + typ + ">" },
	Element:      func(list string) string { return between(list, "List<", ">") },
	Types:        map[string]string{"Int": "long", "Double": "double", "String": "string", "Bool": "bool"},
	Wide:         "long", Exact: "decimal",
	integers:   "int long short byte sbyte uint ulong ushort float double",
	Rename:     func(_, key string) string { return fmt.Sprintf("[JsonPropertyName(%q)]", key) },
	RenameBoth: func(_, key, _ string) string { return fmt.Sprintf("[JsonPropertyName(%q)]", key) },
	Renamed:    "on the property; one property is read from one key, so keep the old one beside it while both are sent",
	Constant: func(literal, _ string) string {
		return sharpConstant(literal, "JsonStringEnumMemberName(%q)")
	},
	Nested:   "mirror the nesting in classes",
	Dates:    "declare string, or read it by a JsonConverter of the form that is sent: ISO 8601 alone is taken",
	Unit:     "declare long and convert it where it is used: DateTimeOffset.FromUnixTimeSeconds",
	Kept:     "decode what is sent",
	Swallow:  "decode what is sent, and do not drop the exception",
	absent:   "let it be absent: without required, and with a default where a constructor takes it",
	Zero:     "declare a type that can be null, or give a default that holds",
	Single:   "read it by a JsonConverter that makes a list of one value too",
	Either:   "read it by a JsonConverter that looks at reader.TokenType, or declare JsonElement and look at its ValueKind",
	AsNull:   "decode what is sent",
	Fallback: "a JsonConverter that falls back for those still to come",
	change:   sharpChange("[JsonInclude]"),
}

func inNewtonsoft(s *speech) {
	s.Rename = func(_, key string) string { return fmt.Sprintf("[JsonProperty(%q)]", key) }
	s.RenameBoth = func(_, key, _ string) string { return fmt.Sprintf("[JsonProperty(%q)]", key) }
	s.Constant = func(literal, _ string) string { return sharpConstant(literal, "EnumMember(Value = %q)") }
	s.Dates = "set DateFormatString to the form that is sent, or declare string"
	s.absent = "let it be absent: without Required.Always"
	s.Either = "read it by a JsonConverter that looks at reader.TokenType, or declare JToken and look at its Type"
	s.change = sharpChange("[JsonProperty]")
	s.Fallback = "a StringEnumConverter of your own that falls back for those still to come"
}

// inSharpCode is of code that reads elements, nodes and tokens by itself: what changes is how a key is read.
func inSharpCode(s *speech) {
	s.Rename = func(_, key string) string { return fmt.Sprintf("%q", key) }
	s.RenameBoth = func(_, key, _ string) string { return fmt.Sprintf("%q", key) }
	s.Renamed = "as the key that the code asks for"
	s.Nested = "read it there, through one more key"
	s.Dates = "parse the form that is sent: TryParseExact says whether it is one"
	s.Kept = "read what is sent; ?? keeps a default for null and absent keys alone"
	s.Swallow = "read what is sent, and do not drop the exception"
	s.absent = "look first whether it is there: TryGetProperty of an element; of a node or a token cast to a type that can be null"
	s.Zero = "cast it to a type that can be null, or take a default that cannot be taken for what is sent"
	s.Single = "look whether it is an array, and make a list of one value"
	s.Either = "look what it is before it is read: ValueKind of an element, Type of a token"
	s.AsNull = "read what is sent"
	s.Fallback = "Enum.TryParse falls back for those still to come"
	s.ByCode, s.change = true, nil
}

// sharpChange is what lets a member be read that the library passes over: a setter, or the attribute by which it takes
// one that is not public.
func sharpChange(mark string) func(f *Finding) (Change, bool) {
	return func(f *Finding) (Change, bool) {
		if f.Kind.Name != "never-read" || f.Field == nil {
			return Change{}, false
		}
		p := f.Field.Property
		switch {
		case p == nil:
			return Change{Code: mark, Why: "on the field, or make it a property with a setter"}, true
		case p.Set == 0:
			return Change{Code: access(f.Field.Access) + f.Declared + " " + f.Name + " { get; init; }", Why: "it has no setter"}, true
		case p.Set != model.Public:
			return Change{Code: mark, Why: "on the property, whose setter is " + p.Set.String()}, true
		}
		return Change{}, false
	}
}

// declareSharp is a member with another type, as the kind of member it is.
func declareSharp(f *Finding, typ string) string {
	name := f.Name
	if sharpWords[name] {
		name = "@" + name
	}
	field := f.Field
	if field == nil {
		return typ + " " + name + ";"
	}
	p := field.Property
	switch {
	case p == nil:
		return access(field.Access) + typ + " " + name + ";"
	case p.Positional:
		return typ + " " + name
	}
	required := ""
	if field.Required && !strings.HasSuffix(typ, "?") {
		required = "required "
	}
	set := " set;"
	switch {
	case p.Set == 0:
		set = ""
	case p.Init:
		set = " init;"
	}
	if p.Set != 0 && p.Set != p.Get {
		set = " " + access(p.Set) + strings.TrimSpace(set)
	}
	return access(field.Access) + required + typ + " " + name + " { get;" + set + " }"
}

// access is the word for who may see a member, with a space behind it.
func access(a model.Access) string {
	switch a {
	case model.Public:
		return "public "
	case model.Package:
		return "internal "
	case model.Protected:
		return "protected "
	}
	return "private "
}

// sharpConstant is a constant of an enum that is sent as a literal: by its name where that is one, else by an attribute.
func sharpConstant(literal, attribute string) string {
	text := strings.Trim(literal, `"`)
	if text == literal { // a number
		return fmt.Sprintf("Value%s = %s,", strings.ReplaceAll(text, "-", "Minus"), text)
	}
	name := constantName(text, false)
	if name != "" {
		name = strings.ToUpper(name[:1]) + name[1:]
	}
	if name == text {
		return name + ","
	}
	return "[" + fmt.Sprintf(attribute, text) + "] " + name + ","
}
