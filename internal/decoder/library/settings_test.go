package library

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
)

// TestFinder: a type is decoded by the settings of the call that decodes it, else of one
// that decodes what holds it, else of those that all decoders that fit have.
func TestFinder(t *testing.T) {
	swift := `struct Port: Decodable { let code: String }
struct Page: Decodable { let ports: [Port] }
struct Fare: Decodable { let amount: Double }
struct Alone: Decodable { let id: Int }
`
	for _, c := range []struct {
		name  string
		files map[string]string
		want  map[string]string // by type: library, its options, and whether the error is dropped
	}{
		{"nothing decodes", map[string]string{"A.swift": swift}, map[string]string{"Port": "nil", "[Port]": "nil"}},
		{"its own call", map[string]string{"A.swift": swift + `
let a = JSONDecoder()
let b: JSONDecoder = { let d = JSONDecoder(); d.keyDecodingStrategy = .convertFromSnakeCase; return d }()
func load(x: Data) throws { _ = try a.decode(Page.self, from: x); _ = try b.decode(Fare.self, from: x); _ = try? b.decode([Port].self, from: x) }`},
			map[string]string{
				"Page": "foundation", "Fare": "foundation keys=convertFromSnakeCase", "[Port]": "foundation keys=convertFromSnakeCase dropped",
				"Port":  "foundation",         // as the first call whose values hold one
				"Alone": "foundation unknown", // by one or by the other
			}},
		{"by what holds it", map[string]string{"A.swift": swift + `
let d = JSONDecoder()
func set() { d.dateDecodingStrategy = .iso8601 }
func load(x: Data) throws { _ = try d.decode(Page.self, from: x) }`},
			map[string]string{"Port": "foundation dates=iso8601", "Alone": "foundation dates=iso8601"}},
		{"two libraries, told apart by annotations", map[string]string{"A.java": `
import com.google.gson.*; import com.google.gson.annotations.*; import com.fasterxml.jackson.annotation.*; import com.fasterxml.jackson.databind.*;
class G { @SerializedName("a") int a; }
class J { @JsonProperty("a") int a; }
class N { int a; }
class Api {
  Gson gson = new GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.UPPER_CAMEL_CASE).create();
  ObjectMapper mapper = new ObjectMapper().disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES);
}`}, map[string]string{"G": "gson naming=UPPER_CAMEL_CASE", "J": "jackson FAIL_ON_UNKNOWN_PROPERTIES=false"}},
		{"a call outweighs annotations", map[string]string{"A.java": `
import com.google.gson.*; import com.google.gson.annotations.*; import com.fasterxml.jackson.databind.*;
class G { @SerializedName("a") int a; }
class Api { ObjectMapper mapper = new ObjectMapper(); G load(String s) throws Exception { return mapper.readValue(s, G.class); } }`},
			map[string]string{"G": "jackson"}},
		{"a language's own", map[string]string{
			"A.swift": swift + "let d = JSONDecoder()\nfunc load(x: Data) throws { _ = try d.decode(Fare.self, from: x) }",
			"B.kt": `
import com.google.gson.*
data class Board(val id: Int)
val gson = GsonBuilder().setDateFormat("yyyy").create()
fun load(s: String) = gson.fromJson(s, Board::class.java)`,
		},
			map[string]string{"Board": "gson dates.pattern=yyyy", "Alone": "foundation", "Fare": "foundation"}},
		{"the converter of an HTTP client", map[string]string{"Api.kt": `
import com.google.gson.annotations.SerializedName
data class Board(@SerializedName("n") val n: Int)
interface Api { @GET("v2/boards") suspend fun boards(): Response<List<Board>> }
val client = Retrofit.Builder().addConverterFactory(GsonConverterFactory.create(GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.IDENTITY).create())).build()`},
			map[string]string{"List<Board>": "gson naming=IDENTITY", "Board": "gson naming=IDENTITY"}},
		{"a dropped error in Java", map[string]string{"A.java": `
import com.google.gson.*;
class Board { int n; } class Other { int n; }
class Api { Gson gson = new Gson();
  Board load(String s) { try { return gson.fromJson(s, Board.class); } catch (Exception e) { } return null; }
  Other other(String s) { try { return gson.fromJson(s, Other.class); } catch (Exception e) { throw new IllegalStateException(e); } } }`},
			map[string]string{"Board": "gson dropped", "Other": "gson"}},
	} {
		t.Run(c.name, func(t *testing.T) {
			var files []scan.Source
			for name, text := range c.files {
				files = append(files, scan.Source{Name: name, Text: text})
			}
			set := source.Read(files)
			finder := NewFinder(set)
			for name, want := range c.want {
				typ, err := source.ParseType(set, name)
				if err != nil {
					t.Fatal(name, err)
				}
				if got := settingsText(finder.For(typ)); got != want {
					t.Errorf("%s is decoded by %s, want %s", name, got, want)
				}
			}
		})
	}
}

func settingsText(s *model.Settings, drops *model.Call) string {
	if s == nil {
		return "nil"
	}
	words := []string{}
	for name, o := range s.Options {
		words = append(words, name+"="+o.Value)
	}
	slices.Sort(words)
	words = append([]string{s.Library}, words...)
	if s.Why != "" {
		words = append(words, "unknown")
	}
	if drops != nil {
		words = append(words, "dropped")
	}
	return strings.Join(words, " ")
}

// TestFinderOfMany: what it answers for one of many models does not hang on
// their order.
func TestFinderOfMany(t *testing.T) {
	var b strings.Builder
	b.WriteString("import com.google.gson.*\n")
	for i := range 200 {
		fmt.Fprintf(&b, "data class M%d(val n: Int, val next: M%d?)\nval g%d = GsonBuilder().setDateFormat(\"d%d\").create()\nfun f%d(s: String) = g%d.fromJson(s, M%d::class.java)\n", i, (i+1)%200, i, i, i, i, i)
	}
	set := source.Read([]scan.Source{{Name: "A.kt", Text: b.String()}})
	finder := NewFinder(set)
	for _, i := range []int{0, 7, 199} {
		typ, err := source.ParseType(set, fmt.Sprintf("M%d", i))
		if err != nil {
			t.Fatal(err)
		}
		if got, want := settingsText(finder.For(typ)), fmt.Sprintf("gson dates.pattern=d%d", i); got != want {
			t.Errorf("M%d is decoded by %s, want %s", i, got, want)
		}
	}
}

// TestFinderTogether: many may ask at once, and are answered the same settings.
func TestFinderTogether(t *testing.T) {
	set := source.Read([]scan.Source{{Name: "A.swift", Text: `struct Alone: Decodable { let id: Int }
struct Port: Decodable { let id: Int }
let a = JSONDecoder()
let b: JSONDecoder = { let d = JSONDecoder(); d.keyDecodingStrategy = .convertFromSnakeCase; return d }()
func load(x: Data) throws { _ = try a.decode(Port.self, from: x); _ = try b.decode([Port].self, from: x) }`}})
	typ, err := source.ParseType(set, "Alone")
	if err != nil {
		t.Fatal(err)
	}
	for range 50 {
		finder := NewFinder(set)
		answers := make(chan *model.Settings, 8)
		for range cap(answers) {
			go func() {
				s, _ := finder.For(typ)
				answers <- s
			}()
		}
		first := <-answers
		for range cap(answers) - 1 {
			if s := <-answers; s != first || s.Why == "" {
				t.Fatalf("%+v, before %+v", s, first)
			}
		}
	}
}

// TestAsCalled: a type is decoded as one that takes null where all calls that decode it say so.
func TestAsCalled(t *testing.T) {
	set := source.Read([]scan.Source{{Name: "Api.kt", Text: `import kotlinx.serialization.*
import kotlinx.serialization.json.Json
@Serializable class Port(val code: String)
@Serializable class Fare(val pence: Int)
fun a(text: String) = Json.decodeFromString<Port?>(text)
fun b(text: String) = Json.decodeFromString<Port?>(text)
fun c(text: String) = Json.decodeFromString<Fare?>(text)
fun d(text: String) = Json.decodeFromString<Fare>(text)
`}})
	f := NewFinder(set)
	for name, want := range map[string]bool{"Port": true, "Fare": false} {
		m := set.Find(name)
		got := f.AsCalled(&model.Type{Kind: model.Named, Name: name, Model: m})
		if (got.Kind == model.Optional) != want {
			t.Errorf("%s is decoded as %s", name, got.Written())
		}
	}
}
