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
			"java gson":    "make it optional: Integer seats",
			"java jackson": "make it optional: Integer seats",
			"java orgjson": "ask with has(…) and isNull(…) first, or read it with opt…",
		}},
		{missingKey, object, true, "String", map[string]string{
			"java jackson": "do not require it: without required = true, and without a feature that fails on it",
			"java orgjson": "ask with has(…) and isNull(…) first, or read it with opt…",
			"swift ":       "make it optional: seats: String?",
			"kotlin gson":  "make it optional: seats: String?",
		}},
		{missingKey, object, false, "Int", map[string]string{
			"swift ":         "no response has seats: check its spelling, or remove the field",
			"kotlin orgjson": "no response has seats: check its spelling, or remove the field",
		}},
		{nullValue, shape.Class{}, true, "Int?", map[string]string{"swift ": "decode it with decodeIfPresent"}},
		{nullValue, shape.Class{}, true, "boolean", map[string]string{"java jackson": "make it optional: Boolean seats"}},
		{wrongKind, number, false, "String", map[string]string{
			"swift ":       "declare what is sent: seats: Int",
			"kotlin gson":  "declare what is sent: seats: Long",
			"java jackson": "declare what is sent: long seats",
		}},
		{wrongKind, text, true, "int", map[string]string{
			"swift ":       "both kinds are sent: read it by hand, one kind and then the other",
			"java gson":    "both kinds are sent: read it by a JsonDeserializer, one kind and then the other, or declare JsonElement and look",
			"java jackson": "both kinds are sent: read it by a JsonDeserializer, one kind and then the other, or declare JsonNode and look",
			"java orgjson": "both kinds are sent: ask with opt(…) and look what it is",
		}},
		{wrongKind, text, false, "int", map[string]string{"java gson": "declare what is sent: String seats"}},
		{outOfRange, fraction, true, "int", map[string]string{"java gson": "declare a type with a fraction: double seats"}},
		{outOfRange, fraction, true, "List<Integer>", map[string]string{"java gson": "declare a type with a fraction: List<Double> seats"}},
		{outOfRange, fraction, true, "Int?", map[string]string{
			"swift ":      "declare a type with a fraction: seats: Double?",
			"kotlin gson": "declare a type with a fraction: seats: Double?",
		}},
		{outOfRange, number, true, "Short", map[string]string{
			"kotlin gson":  "declare a wider type: seats: Long",
			"java jackson": "declare a wider type: Long seats",
		}},
		{outOfRange, number, true, "[Int8]", map[string]string{"swift ": "declare a wider type: seats: [Int]"}},
		{outOfRange, huge, true, "long", map[string]string{
			"java jackson": "declare BigDecimal, or read it as text: no integer of 64 bits holds it",
			"swift ":       "declare Decimal, or read it as text: no integer of 64 bits holds it",
		}},
		{listMismatch, list, false, "Notice", map[string]string{
			"swift ":      "declare a list: seats: [Notice]",
			"kotlin gson": "declare a list: seats: List<Notice>",
			"java gson":   "declare a list: List<Notice> seats",
		}},
		{listMismatch, list, false, "int", map[string]string{"java jackson": "declare a list: List<Integer> seats"}},
		{listMismatch, object, false, "List<Notice>", map[string]string{"java gson": "declare a single value in place of List<Notice>"}},
		{listMismatch, object, true, "List<Notice>", map[string]string{
			"swift ":         "both come: read it by hand, the list first and then a single value put into a list",
			"kotlin gson":    "both come: read it by a JsonDeserializer that makes a list of one value too",
			"java jackson":   "both come: @JsonFormat(with = JsonFormat.Feature.ACCEPT_SINGLE_VALUE_AS_ARRAY) takes one value for a list of one",
			"kotlin orgjson": "both come: ask with opt(…) and look whether it is a JSONArray",
		}},
		{silentZero, object, true, "int", map[string]string{
			"java gson":    "declare a type that can be empty, or give a default that holds",
			"java orgjson": "ask with has(…) and isNull(…) first, or give opt… a default that cannot be taken for what is sent",
		}},
		{hiddenNull, shape.Class{}, true, "List<String>", map[string]string{"kotlin gson": "declare it with ?, since null gets in here and crashes later, somewhere else"}},
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
			"swift ":       `read ticket: rename the field, or case seats = "ticket" in its CodingKeys`,
			"kotlin gson":  `read ticket: rename the field, or @SerializedName("ticket"), with the other key as an alternate`,
			"java jackson": `read ticket: rename the field, or @JsonProperty("ticket"), with the other key as a @JsonAlias`,
			"java orgjson": `read ticket: rename the field, or read it with "ticket"`,
		}},
		{unreadableText, text, true, "URL?", map[string]string{
			"swift ":    "decode a String and convert it where it is used: seats: String?",
			"java gson": "decode a String and convert it where it is used: String seats",
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
			f := &Finding{Kind: c.kind, Name: "seats", Declared: c.declared, Model: &model.Model{Language: language}, Library: library, Rename: "ticket", Sites: []*Site{site}}
			if got := c.kind.suggest(f); got != want {
				t.Errorf("%s of %s in %s\n got %s\nwant %s", c.kind.Name, c.declared, at, got, want)
			}
		}
	}
	// A finding about what is decoded as a whole has no model.
	if got := wrongRoot.suggest(&Finding{Kind: wrongRoot}); got == "" {
		t.Error("no suggestion without a model")
	}
}
