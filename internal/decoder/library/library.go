// Package library lists the decoding libraries that Vetta knows, and finds which of them,
// set how, decodes a type.
package library

import (
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/decoder/dart"
	"vetta/internal/decoder/datacontract"
	"vetta/internal/decoder/foundation"
	"vetta/internal/decoder/gson"
	"vetta/internal/decoder/jackson"
	"vetta/internal/decoder/jvm"
	"vetta/internal/decoder/kotlinx"
	"vetta/internal/decoder/moshi"
	"vetta/internal/decoder/newtonsoft"
	"vetta/internal/decoder/orgjson"
	"vetta/internal/decoder/sharp"
	"vetta/internal/decoder/systemtextjson"
	"vetta/internal/decoder/typescript"
	"vetta/internal/decoder/xmlserializer"
	"vetta/internal/encoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Library is a decoding library: its name in settings, the languages whose models
// it decodes unless the source says otherwise, and how it decodes a type.
type Library struct {
	Name      string
	Title     string // as people call it
	Languages []string
	Plan      func(t *model.Type, declared string, settings *model.Settings) *decoder.Plan
	Text      func(t *model.Type) string // a type as the language writes it
	// Writes is what the library writes for a type; nil for one of which that is not known.
	Writes func(t *model.Type, settings *model.Settings) *encoder.Value
	// Settable are the settings that a project may name where its source does not tell them, each as models
	// shows it; a * at the end stands for any that begin so, alone for any in capitals.
	Settable []string
	// Planner is Plan for many types with the same settings, which share what they hold; nil where each is planned alone.
	Planner func(settings *model.Settings) func(t *model.Type, declared string) *decoder.Plan
	// Outline says of many classes with the same settings how their own fields are read; nil where that is
	// taken from a plan of each.
	Outline func(settings *model.Settings) func(m *model.Model) decoder.Outline
}

// All are the libraries, the default one of each language first.
var All = []Library{
	{Name: foundation.Name, Title: "Foundation JSONDecoder", Languages: []string{"swift"}, Plan: foundation.Plan, Planner: foundation.Planner, Text: foundation.Text, Writes: foundation.Writes, Settable: foundationSettings},
	{Name: gson.Name, Title: "Gson", Languages: []string{"java", "kotlin"}, Plan: gson.Plan, Planner: gson.Planner, Outline: gson.Outline, Text: jvm.TypeText, Writes: gson.Writes, Settable: gsonSettings},
	{Name: jackson.Name, Title: "Jackson", Languages: []string{"java", "kotlin"}, Plan: jackson.Plan, Planner: jackson.Planner, Text: jvm.TypeText, Writes: jackson.Writes, Settable: jacksonSettings},
	{Name: orgjson.Name, Title: "org.json by hand", Languages: []string{"java", "kotlin"}, Plan: orgjson.Plan, Text: jvm.TypeText},
	{Name: "moshi", Title: "Moshi", Languages: []string{"java", "kotlin"}, Plan: moshi.Plan, Planner: moshi.Planner, Text: jvm.TypeText, Writes: moshi.Writes, Settable: moshiSettings},
	{Name: kotlinx.Name, Title: "kotlinx.serialization", Languages: []string{"kotlin"}, Plan: kotlinx.Plan, Planner: kotlinx.Planner, Text: jvm.TypeText, Writes: kotlinx.Writes, Settable: kotlinxSettings},
	{Name: systemtextjson.Name, Title: "System.Text.Json", Languages: []string{"csharp"}, Plan: eitherXML, Planner: systemtextjson.Planner, Text: clr.Text, Settable: systemTextJSONSettings},
	{Name: newtonsoft.Name, Title: "Newtonsoft.Json", Languages: []string{"csharp"}, Plan: newtonsoft.Plan, Planner: newtonsoft.Planner, Text: clr.Text, Settable: newtonsoftSettings},
	{Name: xmlserializer.Name, Title: "XmlSerializer", Languages: []string{"csharp"}, Plan: xmlserializer.Plan, Planner: xmlserializer.Planner, Text: clr.Text, Settable: xmlSettings},
	{Name: datacontract.Name, Title: "DataContractSerializer", Languages: []string{"csharp"}, Plan: datacontract.Plan, Planner: datacontract.Planner, Text: clr.Text, Settable: []string{"root", "rootNamespace"}},
	{Name: datacontract.JSONName, Title: "DataContractJsonSerializer", Languages: []string{"csharp"}, Plan: datacontract.PlanJSON, Text: clr.Text, Settable: []string{"UseSimpleDictionaryFormat"}},
	{Name: sharp.Name, Title: "C# by its own code", Languages: []string{"csharp"}, Plan: sharp.Plan, Text: clr.Text},
	{Name: typescript.Name, Title: "TypeScript by its types", Languages: []string{"typescript"}, Plan: typescript.Plan, Planner: typescript.Planner, Text: typescript.Text, Settable: typescriptSettings},
	{Name: "zod", Title: "zod", Languages: []string{"typescript"}, Plan: validated("zod"), Planner: typescript.Validated("zod"), Text: typescript.Text},
	{Name: "valibot", Title: "valibot", Languages: []string{"typescript"}, Plan: validated("valibot"), Planner: typescript.Validated("valibot"), Text: typescript.Text},
	{Name: "class-validator", Title: "class-transformer and class-validator", Languages: []string{"typescript"}, Plan: validated("class-validator"), Planner: typescript.Validated("class-validator"), Text: typescript.Text},
	{Name: "io-ts", Title: "io-ts", Languages: []string{"typescript"}, Plan: validated("io-ts"), Planner: typescript.Validated("io-ts"), Text: typescript.Text},
	{Name: dart.Name, Title: "Dart by its own code", Languages: []string{"dart"}, Plan: dart.Plan, Text: dart.Text, Settable: dartSettings},
}

var (
	newtonsoftSettings     = []string{"naming", "enums", "dates", "NullValueHandling", "DefaultValueHandling", "MissingMemberHandling", "ObjectCreationHandling", "DateParseHandling", "DateTimeZoneHandling", "DateFormatString", "FloatParseHandling", "ConstructorHandling", "MaxDepth"}
	systemTextJSONSettings = []string{"PropertyNameCaseInsensitive", "PropertyNamingPolicy", "NumberHandling", "IncludeFields", "RespectNullableAnnotations", "RespectRequiredConstructorParameters", "UnmappedMemberHandling", "AllowDuplicateProperties", "MaxDepth", "IgnoreNullValues", "AllowOutOfOrderMetadataProperties", "enums"}
	xmlSettings            = []string{"root", "rootNamespace", "namespace", "namespaces", "DtdProcessing"}
	typescriptSettings     = []string{"strictNullChecks"}
	dartSettings           = []string{"numbers"}
	kotlinxSettings        = []string{"ignoreUnknownKeys", "isLenient", "coerceInputValues", "explicitNulls", "namingStrategy", "classDiscriminator", "useAlternativeNames", "decodeEnumsCaseInsensitive", "allowStructuredMapKeys", "allowSpecialFloatingPointValues"}
	moshiSettings          = []string{"KotlinJsonAdapterFactory", "lenient", "failOnUnknown", "nonNull"}
	foundationSettings     = []string{"keys", "dates", "dates.pattern", "dates.zone", "data", "floats", "floats.positiveInfinity", "floats.negativeInfinity", "floats.nan"}
	gsonSettings           = []string{"naming", "exposed", "excluded", "dates.pattern", "complexKeys", "unsafe", "setNumberToNumberStrategy", "setObjectToNumberStrategy"}
	jacksonSettings        = []string{"naming", "dates.pattern", "module.*", "visibility.*", "*"}
)

func init() {
	sharp.Serializers.ReadObject, sharp.Serializers.ReadJSONDoc = datacontract.Read, datacontract.ReadJSON
	sharp.Serializers.ReadXML, sharp.Serializers.Accepts = xmlserializer.Read, xmlserializer.Accepts
	sharp.PlanOf = func(t *model.Type, library string, settings *model.Settings, from *decoder.Seen) *decoder.Plan {
		if from != nil {
			return newtonsoft.Into(t, settings, from)
		}
		for _, l := range All {
			if l.Name == library {
				return l.Plan(t, t.Written(), settings)
			}
		}
		return nil
	}
}

// Names are those of all libraries.
func Names() (names []string) {
	for _, l := range All {
		names = append(names, l.Name)
	}
	return names
}

// Settings are those that may be set of the library of a name.
func Settings(name string) []string {
	for _, l := range All {
		if l.Name == name {
			return l.Settable
		}
	}
	return nil
}

// Assumed are the settings that hold of a library that the user names where he leaves them open and the source
// says nothing: a mapper of Jackson's has the modules that apps in Kotlin give it.
func Assumed(name string, said map[string]string) map[string]string {
	if name != jackson.Name {
		return nil
	}
	for setting := range said {
		if strings.HasPrefix(setting, "module.") {
			return nil
		}
	}
	return map[string]string{"module.all": "true"}
}

// For is the library that decodes a model: the one its settings name, or the
// default of its language.
func For(language string, settings *model.Settings) *Library {
	for i := range All {
		if settings != nil && settings.Library == All[i].Name {
			return &All[i]
		}
	}
	for i := range All {
		for _, l := range All[i].Languages {
			if l == language {
				return &All[i]
			}
		}
	}
	return nil
}

// eitherXML is what System.Text.Json does; of a client that reads XML with XmlSerializer where XML comes, that.
func eitherXML(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	p := systemtextjson.Plan(t, declared, settings)
	if !strings.HasPrefix(settings.Option("client"), "RestSharp") {
		return p
	}
	own := *p
	p.Run = func(doc *wire.Value) decoder.Outcome {
		if doc.Markup == nil {
			return own.Decode(doc)
		}
		out := xmlserializer.Read(t, xmlserializer.Options{Doctype: true}, doc.Markup, doc.Markup.Root)
		if out.Err != nil && p.Swallowed {
			return decoder.Outcome{Changes: []decoder.Change{{Loss: decoder.Swallowed, Sent: doc, Err: out.Err}}}
		}
		return out
	}
	return p
}

// validated is the plan of a validator of TypeScript.
func validated(library string) func(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	return func(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
		return typescript.Validated(library)(settings)(t, declared)
	}
}
