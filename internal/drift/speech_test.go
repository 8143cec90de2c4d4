package drift

import (
	"testing"

	"vetta/internal/drift/breaks"
	"vetta/internal/drift/finding"
	"vetta/internal/drift/misreads"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// TestSuggestionsSpeakTheLanguage: what to change is said in the language of the model and
// in the words of its library.
func TestSuggestionsSpeakTheLanguage(t *testing.T) {
	number := shape.Class{Kind: wire.Number}
	fraction := shape.Class{Kind: wire.Number, Facts: shape.Broken}
	huge := shape.Class{Kind: wire.Number, Facts: shape.Beyond63}
	text := shape.Class{Kind: wire.String}
	list := shape.Class{Kind: wire.Array}
	object := shape.Class{Kind: wire.Object}
	for _, c := range []struct {
		kind     *finding.Kind
		sent     shape.Class
		mixed    bool // values of the declared kind are sent too
		declared string
		want     map[string]string // by language and library
	}{
		{breaks.MissingKey, object, true, "int", map[string]string{
			"java gson":    "Integer seats;  // make it optional",
			"java jackson": "Integer seats;  // make it optional",
			"java orgjson": "ask with has(…) and isNull(…) first, or read it with opt…",
		}},
		{breaks.MissingKey, object, true, "String", map[string]string{
			"java jackson": "do not require it: without required = true, and without a feature that fails on it",
			"java orgjson": "ask with has(…) and isNull(…) first, or read it with opt…",
			"swift ":       "let seats: String?  // make it optional",
			"kotlin gson":  "val seats: String?  // make it optional",
		}},
		{breaks.MissingKey, object, false, "Int", map[string]string{
			"swift ":         "no response has seats: check its spelling, or remove the field",
			"kotlin orgjson": "no response has seats: check its spelling, or remove the field",
		}},
		{breaks.NullValue, shape.Class{}, true, "Int?", map[string]string{"swift ": "decode it with decodeIfPresent"}},
		{breaks.NullValue, shape.Class{}, true, "boolean", map[string]string{"java jackson": "Boolean seats;  // make it optional"}},
		{breaks.WrongKind, number, false, "String", map[string]string{
			"swift ":       "let seats: Int  // as it is sent",
			"kotlin gson":  "val seats: Long  // as it is sent",
			"java jackson": "long seats;  // as it is sent",
		}},
		{breaks.WrongKind, text, true, "int", map[string]string{
			"swift ":       "both kinds are sent: read it by hand, one kind and then the other",
			"java gson":    "both kinds are sent: read it by a JsonDeserializer, one kind and then the other, or declare JsonElement and look",
			"java jackson": "both kinds are sent: read it by a JsonDeserializer, one kind and then the other, or declare JsonNode and look",
			"java orgjson": "both kinds are sent: ask with opt(…) and look what it is",
		}},
		{breaks.WrongKind, text, false, "int", map[string]string{"java gson": "String seats;  // as it is sent"}},
		{breaks.OutOfRange, fraction, true, "int", map[string]string{"java gson": "double seats;  // a type with a fraction"}},
		{breaks.OutOfRange, fraction, true, "List<Integer>", map[string]string{"java gson": "List<Double> seats;  // a type with a fraction"}},
		{breaks.OutOfRange, fraction, true, "Int?", map[string]string{
			"swift ":      "let seats: Double?  // a type with a fraction",
			"kotlin gson": "val seats: Double?  // a type with a fraction",
		}},
		{breaks.OutOfRange, number, true, "Short", map[string]string{
			"kotlin gson":  "val seats: Long  // a wider type",
			"java jackson": "Long seats;  // a wider type",
		}},
		{breaks.OutOfRange, number, true, "[Int8]", map[string]string{"swift ": "let seats: [Int]  // a wider type"}},
		{breaks.OutOfRange, huge, true, "long", map[string]string{
			"java jackson": "BigDecimal seats;  // or read it as text: no integer of 64 bits holds it",
			"swift ":       "let seats: Decimal  // or read it as text: no integer of 64 bits holds it",
		}},
		{breaks.ListMismatch, list, false, "Notice", map[string]string{
			"swift ":      "let seats: [Notice]  // a list",
			"kotlin gson": "val seats: List<Notice>  // a list",
			"java gson":   "List<Notice> seats;  // a list",
		}},
		{breaks.ListMismatch, list, false, "int", map[string]string{"java jackson": "List<Integer> seats;  // a list"}},
		{breaks.ListMismatch, object, false, "List<Notice>", map[string]string{"java gson": "Notice seats;  // one value"}},
		{breaks.ListMismatch, object, true, "List<Notice>", map[string]string{
			"swift ":         "both come: read it by hand, the list first and then a single value put into a list",
			"kotlin gson":    "both come: read it by a JsonDeserializer that makes a list of one value too",
			"java jackson":   "both come: @JsonFormat(with = JsonFormat.Feature.ACCEPT_SINGLE_VALUE_AS_ARRAY) takes one value for a list of one",
			"kotlin orgjson": "both come: ask with opt(…) and look whether it is a JSONArray",
		}},
		{misreads.SilentZero, object, true, "int", map[string]string{
			"java gson":    "Integer seats;  // or give it a default that holds",
			"java orgjson": "ask with has(…) and isNull(…) first, or give opt… a default that cannot be taken for what is sent",
		}},
		{misreads.HiddenNull, shape.Class{}, true, "List<String>", map[string]string{"kotlin gson": "val seats: List<String>?  // null gets in here and crashes later, somewhere else"}},
		{misreads.ConstantAsNull, text, true, "Level", map[string]string{"java gson": "add the constant, with the text that is sent in its annotation"}},
		{misreads.LostDigits, huge, true, "int", map[string]string{
			"java gson": "declare a type that holds all digits: long, double or BigDecimal",
			"swift ":    "declare a type that holds all digits: Int, Double or Decimal",
		}},
		{breaks.UnreadableDate, text, true, "Date", map[string]string{
			"java gson":    "set the date format to the form that is sent: GsonBuilder.setDateFormat",
			"java jackson": "give it @JsonFormat(pattern = …), or set the mapper's date format",
			"swift ":       "set the date strategy to the form that is sent, or try several forms",
		}},
		{misreads.WrongUnit, number, true, "Date", map[string]string{
			"swift ":       "set dateDecodingStrategy to the unit that is sent",
			"java jackson": "declare long and convert it where it is used",
		}},
		{misreads.KeptDefault, text, true, "boolean", map[string]string{
			"kotlin orgjson": "read what is sent; has(…) and get… keep the default for absent keys alone",
			"swift ":         "decode what is sent, or keep the default for absent keys alone: try c.decodeIfPresent(…) ?? …",
		}},
		{misreads.KeptDefault, shape.Class{Kind: wire.Null}, true, "String", map[string]string{
			"kotlin orgjson": "ask with isNull(…) first: opt… makes a value of null too",
			"swift ":         "decode what is sent, or keep the default for absent keys alone: try c.decodeIfPresent(…) ?? …",
		}},
		{misreads.NeverFits, shape.Class{Kind: wire.Null}, false, "String", map[string]string{
			"java orgjson": "ask with isNull(…) first: opt… makes a value of null too",
			"swift ":       "decode what is sent",
		}},
		{misreads.SwallowedError, text, true, "Port?", map[string]string{"kotlin orgjson": "read what is sent; opt… hides every other kind, get… does not"}},
		{misreads.NeverFits, text, false, "Int", map[string]string{"swift ": "decode what is sent: String"}},
		{misreads.MixedValues, fraction, true, "int", map[string]string{
			"java gson": "declare double for numbers with a fraction",
			"swift ":    "declare Double for numbers with a fraction",
		}},
		{breaks.RenamedKey, object, true, "String", map[string]string{
			"swift ":       `case seats = "ticket"  // in CodingKeys; while both keys are sent, try one and then the other in an init(from:)`,
			"kotlin gson":  `@SerializedName(value = "ticket", alternate = ["seats"])  // on the field, or rename it`,
			"java jackson": `@JsonProperty("ticket") @JsonAlias("seats")  // on the field, or rename it`,
			"java orgjson": `"ticket"  // as the name that the code asks for`,
		}},
		{breaks.UnreadableText, text, true, "URL?", map[string]string{
			"swift ":    "let seats: String?  // and convert it where it is used",
			"java gson": "String seats;  // and convert it where it is used",
		}},
	} {
		for at, want := range c.want {
			var language, library string
			for i := range at {
				if at[i] == ' ' {
					language, library = at[:i], at[i+1:]
				}
			}
			site := &finding.Site{Values: 2, Of: 2, Sent: []finding.Sent{{Class: c.sent}}}
			if c.mixed {
				site.Of = 3
			}
			f := &finding.Finding{Kind: c.kind, Name: "seats", Declared: c.declared, Model: &model.Model{Language: language}, Library: library, Rename: "ticket", Given: "ticket", Sites: []*finding.Site{site}}
			if got := c.kind.Suggest(f).String(); got != want {
				t.Errorf("%s of %s in %s\n got %s\nwant %s", c.kind.Name, c.declared, at, got, want)
			}
		}
	}
	// A finding about what is decoded as a whole has no model.
	if got := breaks.WrongRoot.Suggest(&finding.Finding{Kind: breaks.WrongRoot}); got.Why == "" {
		t.Error("no suggestion without a model")
	}
}
