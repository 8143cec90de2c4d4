package finding

import (
	"fmt"
	"strings"
)

// speech is how suggestions name things: in the language of the model, and in the words of
// the library that decodes it.
type speech struct {
	declare func(name, typ string, constant bool) string
	// declareField is declare where the kind of member decides, nil where it does not.
	declareField func(f *Finding, typ string) string
	Optional     func(typ string) string // a type that also admits null; the type itself where it does already
	List         func(typ string) string
	Element      func(list string) string // of the type of a list that of an element, "" where that is not plain to see
	Types        map[string]string        // the language's names of Int, Double, String and Bool
	Wide         string                   // its widest usual integer
	Exact        string                   // a type that holds any number as it is written
	integers     string                   // its types of numbers, that another takes the place of
	// rename is how a field is read from another key, renameBoth from one that is tried beside the one
	// that it has, and renamed where that goes.
	Rename     func(name, key string) string
	RenameBoth func(name, key, before string) string
	Renamed    string
	// constant is how an enum gets one that is sent as a literal.
	Constant func(literal, library string) string
	Nested   string // how code reads what lies deeper
	Dates    string // what to do about dates in another form
	Unit     string // and about times in another unit
	Kept     string // about a default that takes the place of what was sent
	Swallow  string // about an error that is dropped
	absent   string // about a key that must be there, where null is admitted already
	Zero     string // about 0, false or empty for what is not sent
	ByCode   bool   // the code asks for keys: another declaration alone would change nothing
	Single   string // about one value that comes where a list is declared, or the reverse
	Either   string // about values of two kinds
	AsNull   string // about null that becomes a value
	Fallback string // about constants that the enum does not have yet
	Order    string // about elements that stand out of their order
	// lacking is the default by which a key may be absent, "" where a type that admits null is enough.
	lacking string
	// change is what to write for a finding, where the language has it better than its kind; ok is false where not.
	change func(f *Finding) (c Change, ok bool)
}

var swiftSpeech = &speech{
	declare: func(name, typ string, constant bool) string {
		return keyword(constant, "let", "var") + name + ": " + typ
	},
	Optional: QuestionMark,
	List:     func(typ string) string { return "[" + typ + "]" },
	Element:  func(list string) string { return between(list, "[", "]") },
	Types:    map[string]string{"Int": "Int", "Double": "Double", "String": "String", "Bool": "Bool"},
	Wide:     "Int", Exact: "Decimal",
	integers:   "Int Int8 Int16 Int32 Int64 UInt UInt8 UInt16 UInt32 UInt64 Float Double",
	Rename:     func(name, key string) string { return fmt.Sprintf("case %s = %q", name, key) },
	RenameBoth: func(name, key, _ string) string { return fmt.Sprintf("case %s = %q", name, key) },
	Renamed:    "in CodingKeys; while both keys are sent, try one and then the other in an init(from:)",
	Constant: func(literal, _ string) string {
		text := strings.Trim(literal, `"`)
		if name := constantName(text, false); name != text || text != literal[min(1, len(literal)):max(1, len(literal)-1)] {
			return fmt.Sprintf("case %s = %s", name, literal)
		}
		return "case " + text
	},
	Nested:   "mirror the nesting, or read it through a nested container",
	Dates:    "set the date strategy to the form that is sent, or try several forms",
	Unit:     "set dateDecodingStrategy to the unit that is sent",
	Kept:     "decode what is sent, or keep the default for absent keys alone: try c.decodeIfPresent(…) ?? …",
	Swallow:  "decode what is sent; for a key that may be absent, decodeIfPresent does not hide other errors",
	absent:   "decode it with decodeIfPresent",
	Zero:     "declare a type that can be empty, or give a default that holds",
	Single:   "read it by hand, the list first and then a single value put into a list",
	Either:   "read it by hand, one kind and then the other",
	AsNull:   "decode what is sent",
	Fallback: "a fallback for those still to come",
}

// kotlinWords are Kotlin's hard keywords, which are no names ("Keywords and operators").
var kotlinWords = func() map[string]bool {
	words := map[string]bool{}
	for _, w := range strings.Fields("as break class continue do else false for fun if in interface is null object package return super this throw true try typealias typeof val var when while") {
		words[w] = true
	}
	return words
}()

var kotlinSpeech = &speech{
	declare: func(name, typ string, constant bool) string {
		if kotlinWords[name] || strings.ContainsAny(name, " -.") { // which source must quote
			name = "`" + name + "`"
		}
		return keyword(constant, "val", "var") + name + ": " + typ
	},
	Optional: QuestionMark,
	List:     func(typ string) string { return "List<" + typ + ">" },
	Element:  func(list string) string { return between(list, "List<", ">") },
	Types:    map[string]string{"Int": "Long", "Double": "Double", "String": "String", "Bool": "Boolean"},
	Wide:     "Long", Exact: "BigDecimal",
	integers: "Int Long Short Byte UInt ULong UShort UByte Float Double BigInteger",
	Rename:   func(_, key string) string { return fmt.Sprintf("@SerializedName(%q)", key) },
	RenameBoth: func(_, key, before string) string {
		return fmt.Sprintf("@SerializedName(value = %q, alternate = [%q])", key, before)
	},
	Renamed:  "on the field, or rename it",
	Constant: func(literal, library string) string { return annotated(literal, library) },
	Nested:   "mirror the nesting in classes",
	Dates:    "set the date format to the form that is sent: GsonBuilder.setDateFormat",
	Unit:     "declare Long and convert it where it is used",
	Kept:     "decode what is sent",
	Swallow:  "decode what is sent, and do not drop the error",
	absent:   "let it be absent",
	Zero:     "declare a type that can be empty, or give a default that holds",
	Single:   "read it by a JsonDeserializer that makes a list of one value too",
	Either:   "read it by a JsonDeserializer, one kind and then the other, or declare JsonElement and look",
	AsNull:   "decode what is sent",
	Fallback: "null, or a constant of its own, for those still to come",
}

var javaSpeech = kotlinSpeech.of(func(s *speech) {
	s.declare = func(name, typ string, _ bool) string { return typ + " " + name + ";" }
	s.RenameBoth = func(_, key, before string) string {
		return fmt.Sprintf("@SerializedName(value = %q, alternate = {%q})", key, before)
	}
	s.Optional = boxed
	s.List = func(typ string) string { return "List<" + boxed(typ) + ">" }
	s.Types = map[string]string{"Int": "long", "Double": "double", "String": "String", "Bool": "boolean"}
	s.Wide = "long"
	s.integers = "int Integer long Long short Short byte Byte float Float double Double BigInteger AtomicInteger AtomicLong"
	s.Unit = "declare long and convert it where it is used"
})

// of is speech with what a library has other words for.
func (s speech) of(change func(*speech)) *speech {
	change(&s)
	return &s
}

func inJackson(s *speech) {
	s.Rename = func(_, key string) string { return fmt.Sprintf("@JsonProperty(%q)", key) }
	s.RenameBoth = func(_, key, before string) string {
		return fmt.Sprintf("@JsonProperty(%q) @JsonAlias(%q)", key, before)
	}
	s.Dates = "give it @JsonFormat(pattern = …), or set the mapper's date format"
	s.Kept = "decode what is sent, or add the constant"
	s.Single = "@JsonFormat(with = JsonFormat.Feature.ACCEPT_SINGLE_VALUE_AS_ARRAY) takes one value for a list of one"
	s.Either = "read it by a JsonDeserializer, one kind and then the other, or declare JsonNode and look"
	s.absent = "do not require it: without required = true, and without a feature that fails on it"
	s.Fallback = "@JsonEnumDefaultValue for those still to come"
}

func inMoshi(s *speech) {
	s.Rename = func(_, key string) string { return fmt.Sprintf("@Json(name = %q)", key) }
	s.RenameBoth = func(_, key, _ string) string { return fmt.Sprintf("@Json(name = %q)", key) }
	s.Renamed = "on the property, or rename it; a property is read from one key, so keep the old one beside it while both are sent"
	s.Dates = "add an adapter of the form that is sent: .add(Date::class.java, Rfc3339DateJsonAdapter())"
	s.Single = "read it by an adapter that makes a list of one value too: a JsonAdapter.Factory for a qualifier"
	s.Either = "read it by an adapter that looks with reader.peek(), one kind and then the other"
	s.absent = "give it a default"
	s.Fallback = "EnumJsonAdapter.create(…).withUnknownFallback(…) for those still to come"
}

func inKotlinx(s *speech) {
	s.Rename = func(_, key string) string { return fmt.Sprintf("@SerialName(%q)", key) }
	s.RenameBoth = func(_, key, before string) string { return fmt.Sprintf("@SerialName(%q) @JsonNames(%q)", key, before) }
	s.Renamed = "on the property, or rename it"
	s.Dates = "read it by a KSerializer of the form that is sent"
	s.Single = "read it by a JsonTransformingSerializer that puts one value into a list"
	s.Either = "read it by a KSerializer that looks with decodeJsonElement(), or declare JsonElement and look"
	s.absent = "give it a default, or set explicitNulls = false"
	s.Fallback = "coerceInputValues = true and a default for those still to come"
	s.lacking = " = null"
}

func inCode(s *speech) {
	s.Rename = func(_, key string) string { return fmt.Sprintf("%q", key) }
	s.RenameBoth = func(_, key, _ string) string { return fmt.Sprintf("%q", key) }
	s.Renamed = "as the name that the code asks for"
	s.Nested = "read it through another getJSONObject"
	s.Kept = "read what is sent; has(…) and get… keep the default for absent keys alone"
	s.Single = "ask with opt(…) and look whether it is a JSONArray"
	s.Either = "ask with opt(…) and look what it is"
	s.AsNull = "ask with isNull(…) first: opt… makes a value of null too"
	s.Swallow = "read what is sent; opt… hides every other kind, get… does not"
	s.absent = "ask with has(…) and isNull(…) first, or read it with opt…"
	s.Zero = "ask with has(…) and isNull(…) first, or give opt… a default that cannot be taken for what is sent"
	s.ByCode = true
}

// speeches are by language and library, with a language alone for what is not known.
var speeches = map[[2]string]*speech{
	{"swift", ""}:                       swiftSpeech,
	{"kotlin", ""}:                      kotlinSpeech,
	{"kotlin", "jackson"}:               kotlinSpeech.of(inJackson),
	{"kotlin", "orgjson"}:               kotlinSpeech.of(inCode),
	{"kotlin", "moshi"}:                 kotlinSpeech.of(inMoshi),
	{"java", "moshi"}:                   javaSpeech.of(inMoshi),
	{"kotlin", "kotlinx.serialization"}: kotlinSpeech.of(inKotlinx),
	{"java", ""}:                        javaSpeech,
	{"java", "jackson"}:                 javaSpeech.of(inJackson),
	{"java", "orgjson"}:                 javaSpeech.of(inCode),
	{"dart", ""}:                        dartSpeech,
	{"csharp", ""}:                      sharpSpeech,
	{"typescript", ""}:                  scriptSpeech,
	{"typescript", "zod"}:               scriptSpeech.of(inZod),
	{"typescript", "class-validator"}:   scriptSpeech.of(inClasses),
	{"typescript", "valibot"}:           scriptSpeech.of(inValibot),
	{"csharp", "csharp"}:                sharpSpeech.of(inSharpCode),
	{"csharp", "newtonsoft.json"}:       sharpSpeech.of(inNewtonsoft),
	{"csharp", "xmlserializer"}:         sharpSpeech.of(inXML),
	{"csharp", "datacontract"}:          sharpSpeech.of(inDataContract),
	{"csharp", "datacontractjson"}:      sharpSpeech.of(inContractJSON),
}

// Speech is that of the finding's model.
func (f *Finding) Speech() *speech {
	language := f.Language
	if f.Model != nil {
		language = f.Model.Language
	}
	if s := speeches[[2]string{language, f.Library}]; s != nil {
		return s
	}
	if s := speeches[[2]string{language, ""}]; s != nil {
		return s
	}
	return swiftSpeech
}

// Own is the change that the model's language has for a finding; ok is false where it is the kind's affair.
func (f *Finding) Own() (c Change, ok bool) {
	if s := f.Speech(); s.change != nil {
		return s.change(f)
	}
	return c, false
}

// declared is how the finding's field would be declared with another type.
func (f *Finding) declared(typ string) string {
	if f.Model == nil { // the type of the whole response
		return typ
	}
	if declare := f.Speech().declareField; declare != nil {
		return declare(f, typ)
	}
	return f.Speech().declare(f.Name, typ, f.Field == nil || f.Field.Final)
}

// keyword is the word before a declaration, with a space behind it.
func keyword(constant bool, is, isNot string) string {
	if constant {
		return is + " "
	}
	return isNot + " "
}

// between is what stands between two ends of a text, "" where these are not its ends.
func between(text, open, shut string) string {
	inner, ok := strings.CutPrefix(text, open)
	if !ok {
		return ""
	}
	inner, ok = strings.CutSuffix(inner, shut)
	if !ok || strings.ContainsAny(inner, ":,") {
		return ""
	}
	return inner
}

// annotated is a constant of an enum of Java or Kotlin that is sent as a literal.
func annotated(literal, library string) string {
	text := strings.Trim(literal, `"`)
	name := constantName(text, true)
	switch {
	case name == text:
		return name + ","
	case library == "jackson":
		return fmt.Sprintf("@JsonProperty(%q) %s,", text, name)
	case library == "moshi":
		return fmt.Sprintf("@Json(name = %q) %s,", text, name)
	case library == "kotlinx.serialization":
		return fmt.Sprintf("@SerialName(%q) %s,", text, name)
	}
	return fmt.Sprintf("@SerializedName(%q) %s,", text, name)
}

// constantName makes a name of a text: in capitals with underscores, or as one word with capitals inside.
func constantName(text string, capitals bool) string {
	all := WordsIn(text)
	for i, w := range all {
		switch {
		case capitals:
			all[i] = strings.ToUpper(w)
		case i > 0:
			all[i] = strings.ToUpper(w[:1]) + w[1:]
		}
	}
	glue := ""
	if capitals {
		glue = "_"
	}
	name := strings.Join(all, glue)
	if name == "" || name[0] >= '0' && name[0] <= '9' {
		return "_" + name
	}
	return name
}

// NullableElement is a list type whose elements also admit null, "" where that is not plain to see.
func (s *speech) NullableElement(declared string) string {
	inner, marks := declared, ""
	if cut, ok := strings.CutSuffix(declared, "?"); ok {
		inner, marks = cut, "?"
	}
	elem := s.Element(inner)
	if elem == "" || s.Optional(elem) == elem {
		return ""
	}
	return s.List(s.Optional(elem)) + marks
}

// AsBefore is another type, which admits null where the declared one says that it does; of an element of a list or a
// map the whole with that in it, "" where that is not plain to see.
func (f *Finding) AsBefore(typ string) string {
	if f.Element {
		list := f.Speech().List(typ) // which has the type as one that stands inside another: Double for double
		if open := strings.IndexAny(list, "<["); open >= 0 && !strings.HasSuffix(list, "[]") {
			typ = list[open+1 : len(list)-1]
		}
		return withElement(f.Declared, typ)
	}
	if strings.HasSuffix(f.Declared, "?") {
		return f.Speech().Optional(typ)
	}
	return typ
}

// withElement is a list or a map as it is declared, of elements of another type: Map<String, Int> of Double is
// Map<String, Double>; "" where what it holds is not one plain type.
func withElement(declared, typ string) string {
	whole, marks := strings.CutSuffix(declared, "?")
	open, shut := strings.IndexAny(whole, "<["), len(whole)-1
	switch {
	case strings.HasSuffix(whole, "[]") && !strings.ContainsAny(whole[:len(whole)-2], "<[|"):
		if strings.HasPrefix(whole, "readonly ") {
			typ = "readonly " + typ
		}
		whole = typ + "[]"
	case open < 0 || shut <= open || whole[shut] != '>' && whole[shut] != ']' || whole[shut] == ']' && open > 0:
		return ""
	default:
		inner := whole[open+1 : shut]
		from := strings.LastIndexAny(inner, ",:") + 1
		for from < len(inner) && inner[from] == ' ' {
			from++
		}
		if elem := inner[from:]; strings.ContainsAny(inner, "<[(") || elem == "" {
			return ""
		} else if strings.HasSuffix(elem, "?") {
			typ += "?"
		}
		whole = whole[:open+1] + inner[:from] + typ + whole[shut:]
	}
	if marks {
		whole += "?"
	}
	return whole
}

// Optional suggests a declaration that admits null and an absent key.
func (f *Finding) Optional() Change {
	s := f.Speech()
	if typ := s.Optional(f.Declared) + s.lacking; s.lacking != "" && f.Declared != "" {
		return f.Redeclare(typ, "a default, so that it may be absent")
	}
	if typ := s.Optional(f.Declared); typ != f.Declared && !s.ByCode {
		return f.Redeclare(typ, "make it optional")
	}
	return Say(s.absent)
}

// QuestionMark is a type of Swift or Kotlin that also admits null.
func QuestionMark(declared string) string {
	if declared == "" || declared[len(declared)-1] == '?' || declared[len(declared)-1] == '!' {
		return declared
	}
	return declared + "?"
}

// boxes are the classes of Java's primitives.
var boxes = map[string]string{
	"int": "Integer", "long": "Long", "short": "Short", "byte": "Byte", "float": "Float", "double": "Double", "boolean": "Boolean", "char": "Character",
}

// boxed is a type of Java that also admits null: all do that are not primitive.
func boxed(declared string) string {
	if box := boxes[declared]; box != "" {
		return box
	}
	return declared
}

// ReplaceNumber puts another type in the place of the type of numbers in a declared one,
// in a box where that was one.
func (s *speech) ReplaceNumber(declared, with string) string {
	words := strings.Fields(s.integers)
	start := -1
	for i := 0; i <= len(declared); i++ {
		letter := i < len(declared) && (declared[i]|0x20 >= 'a' && declared[i]|0x20 <= 'z' || declared[i] >= '0' && declared[i] <= '9')
		if letter && start < 0 {
			start = i
		}
		if start < 0 || letter {
			continue
		}
		for _, w := range words {
			if word := declared[start:i]; word == w {
				if boxes[with] != "" && word[0] <= 'Z' {
					with = boxes[with]
				}
				return declared[:start] + with + declared[i:]
			}
		}
		start = -1
	}
	return with
}
