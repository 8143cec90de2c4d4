package jvm

import (
	"strings"

	"vetta/internal/source/scan"
)

// BodyWords are what the bodies of methods are read for: decoders that they build, what
// they set on them, and where they decode.
var BodyWords = scan.NewWords(
	"Gson GsonBuilder ObjectMapper JsonMapper jacksonObjectMapper jacksonMapperBuilder GsonConverterFactory JacksonConverterFactory MoshiConverterFactory asConverterFactory",
	"fromJson readValue treeToValue convertValue readerFor TypeToken TypeReference typeOf jacksonTypeRef",
	"Json decodeFromString decodeFromStream decodeFromJsonElement decodeFromBufferedSource Moshi adapter",
	"JSONObject JSONArray create build apply also with",
	"setFieldNamingPolicy setPropertyNamingStrategy propertyNamingStrategy setFieldNamingStrategy fieldNamingPolicy fieldNamingStrategy",
	"excludeFieldsWithoutExposeAnnotation excludeFieldsWithModifiers setDateFormat dateFormat disableJdkUnsafe",
	"registerTypeAdapter registerTypeHierarchyAdapter registerTypeAdapterFactory addDeserializer setAnnotationIntrospector annotationIntrospector",
	"setExclusionStrategies exclusionStrategies addDeserializationExclusionStrategy setVisibility visibility",
	"findAndRegisterModules findAndAddModules registerModule registerModules registerKotlinModule addModule",
	"setNumberToNumberStrategy numberToNumberStrategy setObjectToNumberStrategy objectToNumberStrategy setVersion version",
	"enableComplexMapKeySerialization enable disable configure",
	"setDefaultPropertyInclusion defaultPropertyInclusion registerSubtypes setTimeZone defaultTimeZone addModules",
	"configOverride withConfigOverride withAllConfigOverrides coercionConfigDefaults coercionConfigFor withCoercionConfig withCoercionConfigDefaults",
	"setDefaultSetterInfo defaultSetterInfo setDefaultMergeable defaultMergeable setDefaultLeniency defaultLeniency addHandler",
	"activateDefaultTyping activateDefaultTypingAsProperty enableDefaultTyping enableDefaultTypingAsProperty setDefaultTyping",
	"addMixIn setMixIns setMixInAnnotation setMixInAnnotations addMixInAnnotations setAccessorNaming accessorNaming setConstructorDetector constructorDetector",
)

// ClassWords are those that the body of a class is read for at once: classes inside it,
// annotations of a library, and requests. Any other is read when something leads to it.
var ClassWords = scan.NewWords(
	"class interface enum record object typealias",
	"SerializedName Expose JsonAdapter Since Until Json* Serializable SerialName",
	"GET POST PUT PATCH DELETE HTTP",
)

// ReadsByHand says whether a file may read parsed objects by code of its own.
func ReadsByHand(file scan.Source) bool {
	// By rare letters first: looking for each of the names would go through the text three times.
	for text := file.Text; ; {
		at := strings.Index(text, "JSON")
		if at < 0 {
			break
		}
		if text = text[at+len("JSON"):]; strings.HasPrefix(text, "Object") || strings.HasPrefix(text, "Array") {
			return true
		}
	}
	for text := file.Text; ; {
		at := strings.Index(text, "json")
		if at < 0 {
			return false
		}
		if strings.HasSuffix(text[:at], "org.") {
			return true
		}
		text = text[at+len("json"):]
	}
}

// NamesDecoder says whether a file names the decoder of a library, as far as a quick look
// tells.
func NamesDecoder(file scan.Source) bool {
	return strings.Contains(file.Text, "Gson") || strings.Contains(file.Text, "Mapper") || strings.Contains(file.Text, "kotlinx.serialization.json") || strings.Contains(file.Text, "Moshi")
}

// Settle gives up the tokens of a file that has nothing to say but what it declares.
func (f *File) Settle() {
	for _, i := range f.Hits {
		switch word := f.Word(int(i)); {
		case Builders[word] != "", Decoding[word] != "", IsParsed(word), strings.HasSuffix(word, "onverterFactory"):
			f.Trim()
			return
		}
	}
	if f.unread == 0 {
		f.Free()
		return
	}
	f.Trim()
}

// Builders are what code makes a library's decoder with.
var Builders = map[string]string{"Gson": "gson", "GsonBuilder": "gson", "ObjectMapper": "jackson", "JsonMapper": "jackson", "jacksonObjectMapper": "jackson", "jacksonMapperBuilder": "jackson",
	"Json": Kotlinx, "Moshi": "moshi"}

// Kotlinx is the name of kotlinx.serialization in settings.
const Kotlinx = "kotlinx.serialization"

// Decoding are the methods that decode, and which of their arguments names the type.
var Decoding = map[string]string{"fromJson": "gson", "readValue": "jackson", "treeToValue": "jackson", "convertValue": "jackson", "readerFor": "jackson",
	"decodeFromString": Kotlinx, "decodeFromStream": Kotlinx, "decodeFromJsonElement": Kotlinx, "decodeFromBufferedSource": Kotlinx, "adapter": "moshi"}
