package source

import (
	"fmt"
	"strings"
	"testing"

	"vetta/internal/source/scan"
)

// TestDrops: which errors code drops, what then stands for the value, and of which part of a document it decodes.
func TestDrops(t *testing.T) {
	heads := map[string]string{
		"json.":   "import kotlinx.serialization.json.*\nval json = Json\n",
		"gson.":   "import com.google.gson.*\nval gson = Gson()\n",
		"mapper.": "import com.fasterxml.jackson.module.kotlin.*\nval mapper = jacksonObjectMapper()\n",
		"moshi.":  "import com.squareup.moshi.*\nval moshi = Moshi.Builder().build()\n",
	}
	for code, want := range map[string]string{
		`fun f(s: String): Port = json.decodeFromString(s)`:                                                                                       "",
		`fun f(s: String): Port? = try { json.decodeFromString<Port>(s) } catch (e: SerializationException) { null }`:                             "drops SerializationException",
		`fun f(s: String): Port = try { json.decodeFromString<Port>(s) } catch (e: Exception) { Port("?") }`:                                      "drops Exception, instead",
		`fun f(s: String): Port = try { json.decodeFromString<Port>(s) } catch (e: Exception) { throw Lost(e) }`:                                  "",
		`fun f(s: String): Port? = runCatching { json.decodeFromString<Port>(s) }.getOrNull()`:                                                    "drops",
		`fun f(s: String): Port = runCatching { json.decodeFromString<Port>(s) }.getOrElse { Port("?") }`:                                         "drops, instead",
		`fun f(s: String): Port? = try { gson.fromJson(s, Port::class.java) } catch (e: JsonSyntaxException) { log(e); null }`:                    "drops JsonSyntaxException",
		`fun f(s: String): Port? = try { moshi.adapter(Port::class.java).fromJson(s) } catch (e: JsonDataException) { null }`:                     "drops JsonDataException",
		`fun f(s: String): Port = json.decodeFromJsonElement<Port>(json.parseToJsonElement(s).jsonObject["data"]!!)`:                              "within data",
		`fun f(s: String): Port = json.decodeFromJsonElement<Port>(json.parseToJsonElement(s).jsonObject.getValue("a").jsonObject.getValue("b"))`: "within a b",
		`fun f(s: String): Port = mapper.treeToValue(mapper.readTree(s).path("data"), Port::class.java)`:                                          "within data",
		`fun f(s: String): Port = json.decodeFromJsonElement<Port>(part(s))`:                                                                      "",
	} {
		text := "data class Port(val code: String)\n" + code + "\n"
		for use, head := range heads {
			if strings.Contains(code, " "+use) || strings.Contains(code, "("+use) {
				text = head + text
			}
		}
		set := Read([]scan.Source{{Name: "Api.kt", Text: text}})
		got := "no call"
		for _, c := range set.Calls {
			if c.Type == nil || c.Type.Unwrapped().Name != "Port" {
				continue
			}
			got = ""
			if c.Swallowed {
				got = strings.TrimSpace("drops " + strings.Join(c.Catches, " "))
			}
			if c.Instead {
				got += ", instead"
			}
			if len(c.Within) > 0 {
				got += fmt.Sprintf("within %s", strings.Join(c.Within, " "))
			}
		}
		if got != want {
			t.Errorf("%s\n got %s\nwant %s", code, got, want)
		}
	}
}

// TestSwitches: an option of a Json that the source does not settle is no claim that it is off.
func TestSwitches(t *testing.T) {
	for value, want := range map[string]string{"true": "", "false": "", "ON": "", "!STRICT": "ignoreUnknownKeys = !STRICT", "BuildConfig.DEBUG": "ignoreUnknownKeys = BuildConfig.DEBUG", "(1 == 1)": "ignoreUnknownKeys = (1 == 1)"} {
		set := Read([]scan.Source{{Name: "Api.kt", Text: "import kotlinx.serialization.json.*\nconst val ON = true\n@Serializable data class Port(val code: String)\nval json = Json { prettyPrint = BuildConfig.DEBUG; ignoreUnknownKeys = " + value + " }\nfun f(s: String) = json.decodeFromString<Port>(s)\n"}})
		if got := set.Calls[0].Settings.Option("unfollowed"); got != want {
			t.Errorf("%s: unfollowed is %q, want %q", value, got, want)
		}
	}
}

// TestRootSaid: what a call says of the root is no setting, and the decoder that it is said over is found to be used.
func TestRootSaid(t *testing.T) {
	set := Read([]scan.Source{{Name: "Api.kt", Text: "import com.squareup.moshi.*\nimport kotlinx.serialization.json.Json as Format\ndata class Port(val code: String)\nval moshi = Moshi.Builder().build()\nfun f(s: String) = moshi.adapter<Port>().lenient().fromJson(s)\n"}})
	calls := 0
	for _, c := range set.Calls {
		if c.Copied {
			continue
		}
		calls++
		if c.Type == nil || !c.Settings.Root.NotNull || c.Settings.Option("lenient") != "true" || len(c.Settings.Options) != 2 {
			t.Errorf("a call is %+v by %+v", c, c.Settings)
		}
	}
	if calls != 1 {
		t.Errorf("%d calls were found, want 1", calls)
	}
}

// TestAdapters: what a Moshi.Builder is told, as models shows it.
func TestAdapters(t *testing.T) {
	set := Read([]scan.Source{{Name: "Api.kt", Text: `
import com.squareup.moshi.*
@JsonQualifier annotation class Hex
enum class Level { INFO, OTHER }
sealed interface Notice
data class Delay(val minutes: Int) : Notice
data class Port(val level: Level, @Hex val hull: Int, val notice: Notice?)
class HexAdapter { @FromJson @Hex fun read(text: String): Int = text.toInt(16) }
object OnlyWrites { @ToJson fun write(level: Level): String = level.name }
object HexFactory : JsonAdapter.Factory { override fun create(type: Type, annotations: Set<Annotation>, moshi: Moshi): JsonAdapter<*>? { val rest = Types.nextAnnotations(annotations, Hex::class.java) ?: return null; return null } }
val moshi = Moshi.Builder()
    .add(Level::class.java, EnumJsonAdapter.create(Level::class.java).withUnknownFallback(Level.OTHER).nullSafe())
    .add(PolymorphicJsonAdapterFactory.of(Notice::class.java, "kind").withSubtype(Delay::class.java, "delay").withDefaultValue(null))
    .add(HexAdapter()).add(OnlyWrites).add(HexFactory)
    .build()
fun load(text: String): Port? = moshi.adapter(Port::class.java).failOnUnknown().fromJson(text)
`}})
	s := set.Calls[0].Settings
	for name, want := range map[string]string{
		"KotlinJsonAdapterFactory": "false", "adapter.Level::class.java": "", "adapter.Level": "EnumJsonAdapter", "subtypes.Notice": "kind: delay Delay, else null",
		"adapter.@Hex Int": "HexAdapter.read", "factory.Hex": "HexFactory", "failOnUnknown": "true", "unfollowed": "",
	} {
		if got := s.Option(name); got != want {
			t.Errorf("%s is %q, want %q", name, got, want)
		}
	}
	if len(s.Adapters) != 3 || !s.Adapters[2].Factory || s.Adapters[0].Fallback != "OTHER" || !s.Adapters[0].NullSafe || s.Adapters[1].Qualifier != "Hex" || s.Adapters[1].Code == nil {
		t.Errorf("the adapters are %+v", s.Adapters)
	}
	if len(s.Families) != 1 || len(s.Families[0].Members) != 1 || !s.Families[0].Otherwise.Null {
		t.Errorf("the families are %+v", s.Families)
	}
}
