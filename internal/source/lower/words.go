package lower

import "vetta/internal/code"

// paths are what apps call the path of a request.
var paths = []string{"path", "url", "endpoint", "route", "uri", "resource", "relative", "urlstring", "relativepath", "pathname", "address"}

// swiftWords are those of Swift, Foundation and what apps use beside them.
var swiftWords = &code.Words{
	Self: "self", Super: "super", Init: "init", Raw: "rawValue", Meta: ".Type", OwnType: "Self", Decoder: []string{"decoder", "using"}, Paths: append([]string{"request", "urlrequest"}, paths...),
	Alone:    []string{"shared", "default"},
	Yields:   []string{"run", "async", "sync", "perform", "defer", "Result", "Task"},
	Each:     []string{"map", "compactMap"},
	AnyValue: []string{"Any", "Encodable", "Codable", "some Encodable", "any Encodable", "some Codable", "any Codable"},
	Hands:    []string{"send", "onNext", "onSuccess", "success", "resume"},
	Texts:    []string{"URL", "URLRequest", "format"},
	Joins:    []string{"appendingPathComponent", "appending"}, JoinLabels: []string{"path", "component"},
}

// jvmWords are those of Java, Kotlin and the libraries by which their apps decode and wait.
var jvmWords = &code.Words{
	Self: "this", Super: "super", Invoke: "invoke", Paths: paths,
	Types:    []string{"Class", "KClass", "TypeToken", "TypeReference", "ParameterizedTypeReference", "KType"},
	AnyType:  []string{"Type", "JavaType", "Class", "KClass", "KType", "TypeToken", "TypeReference"},
	ByClass:  []string{"Class", "KClass"},
	AnyValue: []string{"Any", "Object", "Serializable"},
	OfType:   []string{"type", "getType", "java", "javaType", "javaObjectType", "kotlin"},
	Alone:    []string{"INSTANCE"},
	Nodes:    []string{"JsonNode", "ObjectNode", "ArrayNode", "readTree", "valueToTree"},
	Yields: []string{
		"withContext", "runCatching", "run", "let", "use", "with", "coroutineScope", "supervisorScope", "withTimeout", "withTimeoutOrNull",
		"runBlocking", "async", "withLock", "synchronized", "lazy", "fromCallable", "supplyAsync", "submit", "defer",
	},
	Each:     []string{"map", "mapNotNull", "mapIndexed"},
	Hands:    []string{"emit", "send", "onNext", "onSuccess", "success", "resume"},
	Texts:    []string{"URL", "format"},
	Segments: []string{"path", "appendPathSegments", "appendEncodedPathSegments", "pathSegments"},
	Joins:    []string{"addPathSegment", "addPathSegments", "addEncodedPathSegment", "addEncodedPathSegments", "appendPath", "appendEncodedPath"},
	Keeps: []string{
		"toHttpUrl", "toHttpUrlOrNull", "newBuilder", "build", "buildUpon", "addQueryParameter", "addEncodedQueryParameter",
		"setQueryParameter", "appendQueryParameter", "toUri", "toURI", "toURL", "toUrl", "toString", "trim",
	},
}

// words are those of a language.
func words(language string) *code.Words {
	if language == "swift" {
		return swiftWords
	}
	return jvmWords
}

// NewProgram is a program without any code, of a language or one that shares its classes.
func NewProgram(language string) *code.Program { return code.NewProgram(words(language)) }
