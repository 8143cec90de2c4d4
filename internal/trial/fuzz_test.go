package trial

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// FuzzPlans makes plans of whatever source declares and takes a document through them:
// no source and no document may make a library's rules fail.
func FuzzPlans(f *testing.F) {
	for _, s := range [][3]string{
		{"M.java", "class M { int a; java.util.List<M> m; Level l; } enum Level { A, B }", `{"a":1,"m":[{}],"l":"A"}`},
		{"M.kt", "import com.google.gson.*\ndata class M(val a: Int, val m: Map<String, M?>, val b: Array<IntArray>)", `{"a":"1","m":{"x":null},"b":[[1,null]]}`},
		{"M.java", "import com.fasterxml.jackson.annotation.*; @JsonIgnoreProperties(\"x\") class M { @JsonUnwrapped public M m; @JsonProperty private int a; M(String s) { } M(int a) { } }", `{"m":5}`},
		{"M.java", "import org.json.*; class M { int a; M(JSONObject o) { if (o.has(\"a\")) a = o.optInt(\"a\", 3); } }", `{"a":{}}`},
		{"M.java", "import org.json.*; class M { int a; M b; java.util.List<M> c; } class P { static M m(JSONObject o) throws JSONException { M x = new M(); x.a = o.getInt(\"a\"); x.b = m(o); JSONArray l = o.getJSONArray(\"c\"); for (int i = 0; i < l.length(); i++) { x.c.add(m(l.getJSONObject(i))); } return x; } void n(String s) { JSONObject o = new JSONObject(s); list.add(new M(o.optInt(\"a\"))); } }", `{"a":1,"c":[{}]}`},
		{"M.kt", "import org.json.*\nclass M(val a: Int, val b: M?)\nfun JSONObject.toM(): M = M(getInt(\"a\"), optJSONObject(\"b\")?.toM() ?: toM())\nfun all(a: JSONArray) = (0 until a.length()).map { val o = a.getJSONObject(it); M(o.getInt(\"a\"), null) }\nfun f(s: String) = JSONObject(s).toM()", `{"a":1,"b":{}}`},
		// Declarations that lead back to themselves.
		{"M.kt", "import com.google.gson.*\ntypealias X = List<X>\ntypealias P = Q\ntypealias Q = P\nclass A : B()\nopen class B : A() { val b = 0 }\nopen class G<T> : G<List<T>>() { val g: T? = null; val n: G<G<T>>? = null }\n@JvmInline value class V(val v: V)\ndata class M(val m: M?, val v: V, val g: G<Int>, val a: A, val p: P?, val x: X)", `{"m":{"m":null},"g":{"g":1,"n":{}},"x":[[]]}`},
		{"M.java", "import com.fasterxml.jackson.annotation.*; class A extends B { } class B extends A { public int b; } class G<T> extends G<java.util.List<T>> { public T g; public G<G<T>> n; } @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = \"k\") @JsonSubTypes(@JsonSubTypes.Type(value = Z2.class, name = \"z\")) class Z { public Z z; } class Z2 extends Z { @JsonCreator Z2(Z z) { } } class M { @JsonCreator M(M m) { } @JsonUnwrapped public A a; public G<Z> g; }", `{"k":"z","g":{"n":{}},"b":1}`},
		{"M.kt", "import com.fasterxml.jackson.annotation.*\nimport com.fasterxml.jackson.module.kotlin.*\nval mapper = jacksonObjectMapper()\nopen class G<T>(val g: T, val n: G<List<T>>?) : H(g)\nopen class H(x: Any?) : G<Int>(1, null)\n@JvmInline value class V(val v: V)\nclass M(val m: M?, val isOn: Boolean, val v: V?, @JsonUnwrapped val g: G<M>, @get:JsonProperty(\"k\") internal var aFare: Array<IntArray?>) { @JsonAnySetter fun put(k: String, v: Any?) { } lateinit var l: List<M> }", `{"m":{"m":null},"isOn":null,"k":[[1,null]],"l":[{}]}`},
		{"M.kt", "import kotlinx.serialization.*\nimport kotlinx.serialization.json.*\nimport kotlinx.serialization.modules.*\nval j = Json { ignoreUnknownKeys = true; serializersModule = SerializersModule { polymorphic(N::class) { subclass(D::class); defaultDeserializer { P.serializer() } } } }\n@Serializable(with = S::class) data class M(val a: Int, val m: M? = null) { init { require(a > 0) { \"none\" } } }\n@Serializable data class J(val a: String, val m: M?, val n: N?, val s: Z<J>?)\nobject S : KSerializer<M> { override fun deserialize(decoder: Decoder): M { val x = decoder.decodeSerializableValue(J.serializer()); return M(x.a.toInt(), x.m) } }\ninterface N\n@Serializable data class D(@Serializable(with = T::class) val l: List<N> = emptyList()) : N\n@Serializable data class P(val type: String) : N\n@Serializable sealed class Z<T> { @Serializable class Y<T>(val t: T) : Z<T>() }\nobject T : JsonTransformingSerializer<List<N>>(ListSerializer(N.serializer())) { override fun transformDeserialize(element: JsonElement) = if (element is JsonArray) element else JsonArray(listOf(element)) }\nfun f(t: String) = j.decodeFromString<M>(t)", `{"a":{"a":1},"k":"y","type":"D","m":[{"a":"2"}],"l":{}}`},
		{"M.kt", "import com.squareup.moshi.*\n@JsonQualifier annotation class Q\nclass A { @FromJson fun a(p: M): M2 = M2(p.a) ; @FromJson fun b(p: M2): M = M(p.a, null, null) ; @FromJson @Q fun q(s: String): Int = s.toInt() ; @FromJson fun r(r: JsonReader, d: JsonAdapter<B>): B? { while (r.hasNext()) { r.skipValue() }; return d.fromJson(r) } }\ndata class M(val a: String, @Q val q: Int?, val b: B?)\ndata class M2(val a: String)\nclass B { var m: M? = null ; lateinit var l: Map<String, B> }\nval moshi = Moshi.Builder().add(A()).add(PolymorphicJsonAdapterFactory.of(Z::class.java, \"k\").withSubtype(Y::class.java, \"y\").withDefaultValue(null)).addLast(KotlinJsonAdapterFactory()).build()\nsealed interface Z\ndata class Y(val z: Z, val m: M) : Z\nfun f(t: String) = moshi.adapter<Z>().fromJson(t)", `{"a":{"a":1},"k":"y","type":"D","m":[{"a":"2"}],"l":{}}`},
		{"M.kt", "import com.google.gson.*\nclass R : JsonDeserializer<M> { override fun deserialize(j: JsonElement, t: Type, c: JsonDeserializationContext): M = if (j.isJsonObject) c.deserialize(j.asJsonObject.get(\"a\"), M::class.java) else M(j.asInt, null) }\ndata class M(val a: Int, val n: N?)\ndata class N(val m: List<M>?)\nval gson = GsonBuilder().registerTypeAdapter(M::class.java, R()).create()\nfun f(t: String) = gson.fromJson(t, N::class.java)", `{"a":{"a":1},"k":"y","type":"D","m":[{"a":"2"}],"l":{}}`},
		{"M.dart", "import 'dart:convert';\nclass M { final int a; final List<M>? l; final K? k; late M self = M.fromJson({'a': a}); M({required this.a, this.l, this.k}); factory M.fromJson(Map<String, dynamic> j) => M(a: j['a'] ?? 0, l: (j['l'] as List?)?.map((e) => M.fromJson(e)).toList(), k: K.values.firstWhere((k) => k.name == j['id'])); }\nenum K { x, y }\nM load(String s) => M.fromJson(jsonDecode(s));", `{"a":1,"l":[{"a":2}],"id":"x"}`},
		{"M.dart", "class M<T> extends N<T> with O { T? a; Map<String, M<M<T>>> m = {}; M.fromJson(json, [T Function(dynamic)? f]) : a = f?.call(json['a']), super(json) { for (var i = 0; i < 3; i++) { m['$i'] = M.fromJson(json['l'][i], f as dynamic); } ; while (json['a'] != null) { json = json['a']; } try { switch (json) { case {'a': [int x, ...var r]} when x > 0: m.addAll({for (final y in r) '$y': y}); break; default: throw json; } } on Object catch (e, s) { rethrow; } finally { m..clear()..remove('a'); } } M get self => this; operator [](x) => self[x]; }\nabstract class N<T> { final T? n; N(j) : n = j as T?; factory N.of(j) = M<T>.fromJson; }\nmixin O on N { int get x => x; set x(int v) => x = v; }\nextension E on Map { M get m => M.fromJson(this); int call(int n) => call(n + 1); }\ntypedef F<T> = F<F<T>> Function(T);", `{"a":{"a":{"a":null}},"l":[{"l":[]}]}`},
		{"M.cs", "using System.Text.Json; using System.Text.Json.Serialization; public class M : N { public M? Self { get; set; } public List<M>? L { get; init; } = []; public Dictionary<K, M> D { get; } = new(); [JsonPropertyName(\"id\")] public K? Id { get; set; } [JsonConverter(typeof(C))] public int A { get; set; } [JsonExtensionData] public Dictionary<string, JsonElement> R { get; set; } } public abstract class N { public required string Name { get; init; } } public enum K { X, Y = 3 } public class C : JsonConverter<int> { public override int Read(ref Utf8JsonReader r, Type t, JsonSerializerOptions o) { while (r.Read()) { if (r.TokenType == JsonTokenType.EndObject) break; } return r.TokenType switch { JsonTokenType.Number => r.GetInt32(), _ => throw new JsonException() }; } } public class Api { public M F(string s) => JsonSerializer.Deserialize<M>(s); }", `{"Self":{"A":{"a":1}},"L":[{}],"D":{"X":null},"id":"1","name":5}`},
		{"M.cs", "using Newtonsoft.Json; using Newtonsoft.Json.Linq; public class M<T> : G<M<T>> { [JsonProperty(Required = Required.Always)] public T A; public M<T> B => this; [JsonConstructor] public M(M<T> b, int c = 3) { A = b.A; for (;;) { c++; } } } public class G<T> : M<G<T>> { public T H { get; set; } } public record struct V(V? X, (int, V) Y); public class P { public V v; public static P Of(JObject o) { var p = new P(); foreach (var (k, t) in o) { p = Of((JObject)t); } return p with { v = o[\"v\"]?.ToObject<V>() ?? default }; } public static P Load(string s) => Of(JObject.Parse(s)); }", `{"v":{"X":null},"A":[1],"b":{"b":{}},"n":"x"}`},
		{"M.ts", "export interface M<T = M> extends N, Partial<O> { a?: T | null; m: { [K in keyof M]: M[K] }; u: { k: 'x'; a: 1 } | { k: 'y' } | M[]; t: [M, ...string[]]; r: Record<'a' | `b${number}`, M>; c: T extends (infer U)[] ? U : never } interface N { n: X } type X = X[] | Y; type Y = Y & X; type Z<T> = Z<T[]>; interface O extends O { z: Z<O> } enum E { A = 1 << 2, B = A | E.B, C = 'x'.length } class P<T> extends P<P<T>> { constructor(public p = new P<T>(), private q: typeof v) { super() } e = E.A; get g() { return this.g } } const v = { v: v, w: [v, 1] as const } as const; type D<T> = T extends object ? { [K in keyof T as `${K & string}x`]?: D<T[K]> } : T; export const f = async <T,>(x: T): Promise<D<M>> => (await fetch(`/m/${x}`)).json()", `{"a":{"a":1},"m":{},"u":{"k":"x"},"t":[{}],"n":[[]]}`},
		{"M.ts", "import { z } from 'zod'; import * as v from 'valibot'; const A = z.object({ a: z.lazy(() => A).optional(), b: z.union([z.string().min(1), z.array(A)]), c: z.preprocess((x) => x ?? [x], z.coerce.number()), d: z.record(z.enum(['x']), A), e: z.discriminatedUnion('k', [z.object({ k: z.literal('y') })]) }).strict().transform((w) => ({ ...w, n: w.b.map((x) => A.parse(x)) })); export type M = z.infer<typeof A>; const f = (x) => f(f(x)); const B = z.string().transform(f).pipe(B); const C = v.object({ ...C.entries, l: v.lazy(() => C), p: v.pipe(v.string(), v.transform(f)) }); export const load = (s: string) => [A.parse(JSON.parse(s)), v.parse(C, s), B.parse(s)]", `{"a":{"a":1},"b":["x"],"c":"1","d":{"x":null},"e":{"k":"y"}}`},
		// Factories that make adapters of each other, ids, mix-ins that lend each other, code that reads what has no type.
		{"M.kt", "import com.squareup.moshi.*\nobject F : JsonAdapter.Factory { val l = mutableListOf<Any?>(); override fun create(type: Type, annotations: Set<Annotation>, moshi: Moshi): JsonAdapter<*>? { val d = moshi.nextAdapter<Any>(this, type, annotations); val e = moshi.adapter<Any>(Types.newParameterizedType(List::class.java, type)); return object : JsonAdapter<Any>() { val n = Types.getRawType(type).name; override fun fromJson(reader: JsonReader): Any? { l.add(n); return d.fromJsonValue(reader.readJsonValue()) ?: e.fromJson(reader) } override fun toJson(w: JsonWriter, v: Any?) {} } } }\nclass G(private val f: JsonAdapter.Factory) : JsonAdapter.Factory { override fun create(type: Type, annotations: Set<Annotation>, moshi: Moshi) = f.create(type, annotations, moshi) ?: create(type, annotations, moshi) }\ndata class M(val a: Int, val m: M?, val l: List<M> = emptyList(), val s: Map<String, Any?>?)\nval moshi = Moshi.Builder().add(F).add(G(F)).add { t, a, m -> m.adapter<Any>(t).nullSafe() }.addLast(KotlinJsonAdapterFactory()).build()\nfun f(t: String) = moshi.adapter(M::class.java).fromJson(t)", `{"a":{"a":1},"m":{"a":1,"l":[{}]},"l":{},"s":{"x":[1]}}`},
		{"M.java", "import com.fasterxml.jackson.annotation.*; import com.fasterxml.jackson.databind.*; import java.time.*; @JsonIdentityInfo(generator = ObjectIdGenerators.PropertyGenerator.class, property = \"id\") class M extends N { public int id; public M m; public java.util.List<M> l; @JsonFormat(pattern = \"yyyy[-MM]['x'\") public LocalDate d; public Instant i; @JsonFormat(timezone = \"Europe/London\") public java.util.Date z; } @JsonIdentityInfo(generator = ObjectIdGenerators.IntSequenceGenerator.class, scope = M.class) class N { public N n; public OffsetDateTime o; } abstract class X extends Y { @JsonProperty(\"x\") int id; } abstract class Y extends X { @JsonIgnore M m; } class P { static final ObjectMapper A = new ObjectMapper().registerModule(new JavaTimeModule()).addMixIn(M.class, X.class).addMixIn(X.class, M.class).addMixIn(N.class, N.class); M f(String s) throws Exception { return A.readValue(s, M.class); } }", `{"id":1,"m":{"id":2,"m":1,"l":[2,3,{"id":3}]},"d":"2026","i":1e99,"n":{"@id":1,"n":1},"z":"x","o":[1]}`},
		{"M.ts", "export class M { id = 1; m?: M; l: M[] = []; n!: N; constructor(j: any, k?: any) { Object.assign(this, j); this.id = j.a ?? k?.b.c; this.l = (j.l ?? []).map(M.of).concat(j.l.map((x: any) => new M(x, j))); for (const x of j.l) { this.m = new M(x.m) } const { a, b: [c, { d }], ...e } = j; this.n = to(j.n); if (j.m) this.m = M.of(j.m.m) } static of(j: any): M { return j.x ? new M(j) : M.of(j.y) } } interface N { n: N[] } const to = ({ n, m }: any): N => ({ n: n.map(to), ...m }); export const f = async () => new M(await (await fetch('/m')).json()); export const g = async (): Promise<M[]> => (await (await fetch('/g')).json()).map((x: any) => ({ id: +x.id, l: [x.l], n: `${x.n}` }))", `{"id":1,"l":[{"m":{"m":{}}}],"n":{"n":[]},"x":1,"a":{"b":1}}`},
		{"M.swift", "typealias X = [X]\ntypealias P = Q\ntypealias Q = P\nclass A: B { }\nclass B: A { var b = 0 }\nindirect enum E: Decodable { case e(E) }\nfinal class G<T: Decodable>: Decodable { let n: G<[T]>? }\nstruct M: Decodable { let a: E; let s: G<X>?; let l: P; init(from d: Decoder) throws { self = try d.singleValueContainer().decode(M.self) } }", `{"a":{"e":{"_0":{}}},"s":{"n":{}},"l":1}`},
		{"M.swift", "struct M: Codable { let a: [String: M?]; init(from d: Decoder) throws { a = [:] } }", `{"a":1}`},
	} {
		f.Add(s[0], s[1], s[2])
	}
	files, err := filepath.Glob("testdata/measured/*.txt")
	dart, _ := filepath.Glob("testdata/measured/dart/*.txt")
	files = append(files, dart...)
	if err != nil {
		f.Fatal(err)
	}
	const each = 20 // of the measured models, which show far more forms than are written here
	for i := 0; i < len(files); i += each {
		text, err := os.ReadFile(files[i])
		if err != nil {
			f.Fatal(err)
		}
		for name, source := range sections(string(text)) {
			if strings.HasPrefix(name, "Models.") || strings.HasSuffix(name, "models.dart") {
				f.Add(name, source, `{"a":{},"l":["x"],"id":"1","s":null,"name":5}`)
			}
		}
	}
	f.Fuzz(func(t *testing.T, name, text, document string) {
		if !strings.HasSuffix(name, ".java") && !strings.HasSuffix(name, ".kt") && !strings.HasSuffix(name, ".dart") && !strings.HasSuffix(name, ".cs") && !strings.HasSuffix(name, ".ts") {
			name = "M.swift"
		}
		set := source.Read([]scan.Source{{Name: name, Text: text}})
		doc, err := wire.Parse([]byte(document))
		if err != nil {
			return
		}
		for _, m := range set.Models {
			if plan, err := For(set, m.Name); err == nil {
				out := plan.Decode(doc)
				agrees(t, plan, document, out)
			}
		}
	})
}
