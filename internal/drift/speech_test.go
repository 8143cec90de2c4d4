package drift

import (
	"testing"

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
		kind     *Kind
		sent     shape.Class
		mixed    bool // values of the declared kind are sent too
		declared string
		want     map[string]string // by language and library
	}{
		{missingKey, object, true, "int", map[string]string{
			"java gson":    "Integer seats;  // make it optional",
			"java jackson": "Integer seats;  // make it optional",
			"java orgjson": "ask with has(…) and isNull(…) first, or read it with opt…",
		}},
		{missingKey, object, true, "String", map[string]string{
			"java jackson": "do not require it: without required = true, and without a feature that fails on it",
			"java orgjson": "ask with has(…) and isNull(…) first, or read it with opt…",
			"swift ":       "let seats: String?  // make it optional",
			"kotlin gson":  "val seats: String?  // make it optional",
		}},
		{missingKey, object, false, "Int", map[string]string{
			"swift ":         "no response has seats: check its spelling, or remove the field",
			"kotlin orgjson": "no response has seats: check its spelling, or remove the field",
		}},
		{nullValue, shape.Class{}, true, "Int?", map[string]string{"swift ": "decode it with decodeIfPresent"}},
		{nullValue, shape.Class{}, true, "boolean", map[string]string{"java jackson": "Boolean seats;  // make it optional"}},
		{wrongKind, number, false, "String", map[string]string{
			"swift ":       "let seats: Int  // as it is sent",
			"kotlin gson":  "val seats: Long  // as it is sent",
			"java jackson": "long seats;  // as it is sent",
		}},
		{wrongKind, text, true, "int", map[string]string{
			"swift ":       "both kinds are sent: read it by hand, one kind and then the other",
			"java gson":    "both kinds are sent: read it by a JsonDeserializer, one kind and then the other, or declare JsonElement and look",
			"java jackson": "both kinds are sent: read it by a JsonDeserializer, one kind and then the other, or declare JsonNode and look",
			"java orgjson": "both kinds are sent: ask with opt(…) and look what it is",
		}},
		{wrongKind, text, false, "int", map[string]string{"java gson": "String seats;  // as it is sent"}},
		{outOfRange, fraction, true, "int", map[string]string{"java gson": "double seats;  // a type with a fraction"}},
		{outOfRange, fraction, true, "List<Integer>", map[string]string{"java gson": "List<Double> seats;  // a type with a fraction"}},
		{outOfRange, fraction, true, "Int?", map[string]string{
			"swift ":      "let seats: Double?  // a type with a fraction",
			"kotlin gson": "val seats: Double?  // a type with a fraction",
		}},
		{outOfRange, number, true, "Short", map[string]string{
			"kotlin gson":  "val seats: Long  // a wider type",
			"java jackson": "Long seats;  // a wider type",
		}},
		{outOfRange, number, true, "[Int8]", map[string]string{"swift ": "let seats: [Int]  // a wider type"}},
		{outOfRange, huge, true, "long", map[string]string{
			"java jackson": "BigDecimal seats;  // or read it as text: no integer of 64 bits holds it",
			"swift ":       "let seats: Decimal  // or read it as text: no integer of 64 bits holds it",
		}},
		{listMismatch, list, false, "Notice", map[string]string{
			"swift ":      "let seats: [Notice]  // a list",
			"kotlin gson": "val seats: List<Notice>  // a list",
			"java gson":   "List<Notice> seats;  // a list",
		}},
		{listMismatch, list, false, "int", map[string]string{"java jackson": "List<Integer> seats;  // a list"}},
		{listMismatch, object, false, "List<Notice>", map[string]string{"java gson": "Notice seats;  // one value"}},
		{listMismatch, object, true, "List<Notice>", map[string]string{
			"swift ":         "both come: read it by hand, the list first and then a single value put into a list",
			"kotlin gson":    "both come: read it by a JsonDeserializer that makes a list of one value too",
			"java jackson":   "both come: @JsonFormat(with = JsonFormat.Feature.ACCEPT_SINGLE_VALUE_AS_ARRAY) takes one value for a list of one",
			"kotlin orgjson": "both come: ask with opt(…) and look whether it is a JSONArray",
		}},
		{silentZero, object, true, "int", map[string]string{
			"java gson":    "Integer seats;  // or give it a default that holds",
			"java orgjson": "ask with has(…) and isNull(…) first, or give opt… a default that cannot be taken for what is sent",
		}},
		{hiddenNull, shape.Class{}, true, "List<String>", map[string]string{"kotlin gson": "val seats: List<String>?  // null gets in here and crashes later, somewhere else"}},
		{constantAsNull, text, true, "Level", map[string]string{"java gson": "add the constant, with the text that is sent in its annotation"}},
		{lostDigits, huge, true, "int", map[string]string{
			"java gson": "declare a type that holds all digits: long, double or BigDecimal",
			"swift ":    "declare a type that holds all digits: Int, Double or Decimal",
		}},
		{unreadableDate, text, true, "Date", map[string]string{
			"java gson":    "set the date format to the form that is sent: GsonBuilder.setDateFormat",
			"java jackson": "give it @JsonFormat(pattern = …), or set the mapper's date format",
			"swift ":       "set the date strategy to the form that is sent, or try several forms",
		}},
		{wrongUnit, number, true, "Date", map[string]string{
			"swift ":       "set dateDecodingStrategy to the unit that is sent",
			"java jackson": "declare long and convert it where it is used",
		}},
		{keptDefault, text, true, "boolean", map[string]string{
			"kotlin orgjson": "read what is sent; has(…) and get… keep the default for absent keys alone",
			"swift ":         "decode what is sent, or keep the default for absent keys alone: try c.decodeIfPresent(…) ?? …",
		}},
		{keptDefault, shape.Class{Kind: wire.Null}, true, "String", map[string]string{
			"kotlin orgjson": "ask with isNull(…) first: opt… makes a value of null too",
			"swift ":         "decode what is sent, or keep the default for absent keys alone: try c.decodeIfPresent(…) ?? …",
		}},
		{neverFits, shape.Class{Kind: wire.Null}, false, "String", map[string]string{
			"java orgjson": "ask with isNull(…) first: opt… makes a value of null too",
			"swift ":       "decode what is sent",
		}},
		{swallowedError, text, true, "Port?", map[string]string{"kotlin orgjson": "read what is sent; opt… hides every other kind, get… does not"}},
		{neverFits, text, false, "Int", map[string]string{"swift ": "decode what is sent: String"}},
		{mixedValues, fraction, true, "int", map[string]string{
			"java gson": "declare double for numbers with a fraction",
			"swift ":    "declare Double for numbers with a fraction",
		}},
		{renamedKey, object, true, "String", map[string]string{
			"swift ":       `case seats = "ticket"  // in CodingKeys; while both keys are sent, try one and then the other in an init(from:)`,
			"kotlin gson":  `@SerializedName(value = "ticket", alternate = ["seats"])  // on the field, or rename it`,
			"java jackson": `@JsonProperty("ticket") @JsonAlias("seats")  // on the field, or rename it`,
			"java orgjson": `"ticket"  // as the name that the code asks for`,
		}},
		{unreadableText, text, true, "URL?", map[string]string{
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
			site := &Site{Values: 2, Of: 2, Sent: []Sent{{class: c.sent}}}
			if c.mixed {
				site.Of = 3
			}
			f := &Finding{Kind: c.kind, Name: "seats", Declared: c.declared, Model: &model.Model{Language: language}, Library: library, Rename: "ticket", given: "ticket", Sites: []*Site{site}}
			if got := c.kind.suggest(f).String(); got != want {
				t.Errorf("%s of %s in %s\n got %s\nwant %s", c.kind.Name, c.declared, at, got, want)
			}
		}
	}
	// A finding about what is decoded as a whole has no model.
	if got := wrongRoot.suggest(&Finding{Kind: wrongRoot}); got.Why == "" {
		t.Error("no suggestion without a model")
	}
}
