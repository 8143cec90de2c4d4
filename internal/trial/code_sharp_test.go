package trial

import (
	"encoding/json"
	"strings"
	"testing"

	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// TestCodeSharp: what code of the language makes of a document, form by form. body stands in a function that is given
// the root as e, an element, or as o, a token; the rules are those of the language (ECMA-334, 7th edition).
func TestCodeSharp(t *testing.T) {
	for _, c := range []struct{ name, body, sent, want string }{
		{"a member that is there", `return new M { Id = e.GetProperty("id").GetInt32() };`, `{"id":7}`, `{"Id":7,"Name":null,"Tags":[]}`},
		{"a member that is not", `return new M { Id = e.GetProperty("id").GetInt32() };`, `{}`, `KeyNotFoundException`},
		{"an out variable", `var m = new M(); if (e.TryGetProperty("id", out var id) && id.TryGetInt32(out int n)) m.Id = n; else m.Id = -1; return m;`, `{"id":1.5}`, `{"Id":-1,"Name":null,"Tags":[]}`},
		{"a switch expression", `return new M { Name = e.GetProperty("n").ValueKind switch { JsonValueKind.Number => "number", JsonValueKind.String or JsonValueKind.Null => "text", _ => "other" } };`, `{"n":null}`, `{"Id":0,"Name":"text","Tags":[]}`},
		{"a switch that falls to none", `return new M { Id = e.GetProperty("n").GetString() switch { "a" => 1, "b" when true => 2 } };`, `{"n":"c"}`, `SwitchExpressionException`},
		{"a switch in a loop", `var m = new M(); foreach (var p in e.EnumerateObject()) { switch (p.Name) { case "a": case "b": m.Id += 1; break; case "c" when p.Value.ValueKind == JsonValueKind.Number: m.Id += 10; continue; } m.Tags.Add(p.Name); } return m;`, `{"a":1,"c":2,"d":3,"b":4}`, `{"Id":12,"Name":null,"Tags":["a","d","b"]}`},
		{"a switch that ends a function", `switch (e.GetProperty("n").GetInt32()) { case 1: return new M { Id = 1 }; case > 5: throw new ArgumentException("n"); default: break; } return new M { Id = 9 };`, `{"n":3}`, `{"Id":9,"Name":null,"Tags":[]}`},
		{"a loop within a loop", `var m = new M(); for (var i = 0; i < 3; i++) { foreach (var x in e.GetProperty("t").EnumerateArray()) { if (x.GetInt32() > i) break; m.Id++; } } do { m.Id += 100; } while (m.Id < 250); return m;`, `{"t":[0,1,2]}`, `{"Id":306,"Name":null,"Tags":[]}`},
		{"a record that is changed", `var r = new R(1, "a") with { Name = "b" }; var (id, name) = r; return new M { Id = id, Name = name + (r == new R(1, "b")) };`, `{}`, `{"Id":1,"Name":"bTrue","Tags":[]}`},
		{"a generic method", `return new M { Id = Pick(e, "n", x => x.GetInt32(), -1), Name = Pick(e, "s", x => x.GetString(), "none") }; static T Pick<T>(JsonElement e, string key, Func<JsonElement, T> read, T otherwise) => e.TryGetProperty(key, out var v) ? read(v) : otherwise;`, `{"n":4}`, `{"Id":4,"Name":"none","Tags":[]}`},
		{"a dictionary", `var d = new Dictionary<string, int>(StringComparer.Ordinal); foreach (var p in e.EnumerateObject()) d[p.Name] = d.GetValueOrDefault(p.Name) + p.Value.GetInt32(); return new M { Id = d.TryGetValue("a", out var a) ? a : 0, Tags = d.Keys.OrderBy(k => k).ToList() };`, `{"b":2,"a":1}`, `{"Id":1,"Name":null,"Tags":["a","b"]}`},
		{"groups", `return new M { Tags = e.GetProperty("t").EnumerateArray().GroupBy(x => x.GetProperty("k").GetString()).Select(g => g.Key + g.Sum(x => x.GetProperty("n").GetInt32())).ToList() };`, `{"t":[{"k":"a","n":1},{"k":"b","n":2},{"k":"a","n":3}]}`, `{"Id":0,"Name":null,"Tags":["a4","b2"]}`},
		{"a cast before a switch", `return new M { Id = (int?)o["n"] switch { null => -1, < 10 => 1, >= 10 and < 20 => 2, var other => other.Value } };`, `{"n":12}`, `{"Id":2,"Name":null,"Tags":[]}`},
		{"whole numbers divide", `var n = e.GetProperty("n").GetInt32(); return new M { Id = n / 2 + n % 2 * 100 };`, `{"n":7}`, `{"Id":103,"Name":null,"Tags":[]}`},
		{"a cast cuts a fraction", `return new M { Id = (int)e.GetProperty("n").GetDouble() };`, `{"n":-2.9}`, `{"Id":-2,"Name":null,"Tags":[]}`},
		{"texts", `var s = e.GetProperty("s").GetString() ?? ""; return new M { Name = s.Trim().ToUpperInvariant().Replace('-', '_')[..3] + s.Length };`, `{"s":" a-b-c "}`, `{"Id":0,"Name":"A_B7","Tags":[]}`},
		{"a value in a text", `return new M { Name = $"{e.GetProperty("a").GetInt32():D3}/{(e.TryGetProperty("b", out _) ? "b" : "-")}" };`, `{"a":7}`, `{"Id":0,"Name":"007/-","Tags":[]}`},
		{"a sequence", `return new M { Tags = e.GetProperty("t").EnumerateArray().Where(x => x.ValueKind == JsonValueKind.String).Select(x => x.GetString()!).Distinct().OrderByDescending(x => x.Length).ToList() };`, `{"t":["a",1,"bcd","a","ef"]}`, `{"Id":0,"Name":null,"Tags":["bcd","ef","a"]}`},
		{"a query", `return new M { Tags = (from x in e.GetProperty("t").EnumerateArray() let s = x.GetString() where s != "b" select s + "!").ToList() };`, `{"t":["a","b"]}`, `{"Id":0,"Name":null,"Tags":["a!"]}`},
		{"the first of nothing", `return new M { Id = e.GetProperty("t").EnumerateArray().First().GetInt32() };`, `{"t":[]}`, `InvalidOperationException`},
		{"loops", `var m = new M(); foreach (var p in e.EnumerateObject()) { if (p.Name == "skip") continue; if (m.Tags.Count == 2) break; m.Tags.Add(p.Name); } for (int i = 0; i < 3; i++) m.Id += i; while (m.Id < 10) m.Id *= 2; return m;`, `{"a":1,"skip":2,"b":3,"c":4}`, `{"Id":12,"Name":null,"Tags":["a","b"]}`},
		{"an error that is caught", `try { return new M { Id = int.Parse(e.GetProperty("n").GetString()!) }; } catch (FormatException) { return new M { Name = "format" }; } catch (OverflowException x) when (x.Message != "") { return new M { Name = "overflow" }; }`, `{"n":"99999999999"}`, `{"Id":0,"Name":"overflow","Tags":[]}`},
		{"an error of another class", `try { return new M { Id = e.GetProperty("n").GetInt32() }; } catch (FormatException) { return new M(); }`, `{"n":"1"}`, `InvalidOperationException`},
		{"an error told by a pattern", `try { return new M { Id = e.GetProperty("n").GetInt32() }; } catch (KeyNotFoundException) { return new M(); } catch (Exception x) when (x is FormatException or InvalidOperationException) { return new M { Id = -2 }; }`, `{"n":"1"}`, `{"Id":-2,"Name":null,"Tags":[]}`},
		{"finally", `var m = new M(); try { m.Id = e.GetProperty("n").GetInt32(); } catch { m.Id = -1; } finally { m.Name = "done"; } return m;`, `{"n":"1"}`, `{"Id":-1,"Name":"done","Tags":[]}`},
		{"a chain over null", `return new M { Name = (string?)o["a"]?["b"]?["c"] ?? "none" };`, `{"a":{}}`, `{"Id":0,"Name":"none","Tags":[]}`},
		{"a chain that ends early", `return new M { Tags = o["a"]?["t"]?.Select(x => (string)x!).OrderBy(x => x).ToList() ?? new List<string> { "none" } };`, `{"a":{}}`, `{"Id":0,"Name":null,"Tags":["none"]}`},
		{"a token of another kind", `return new M { Id = (int)o["a"]! };`, `{"a":"x"}`, `FormatException`},
		{"a local function and a closure", `int total = 0; void Add(int n) => total += n; foreach (var x in e.GetProperty("t").EnumerateArray()) Add(x.GetInt32()); Func<int, int> twice = n => n * 2; return new M { Id = twice(total) };`, `{"t":[1,2,3]}`, `{"Id":12,"Name":null,"Tags":[]}`},
		{"a tuple", `var (a, b) = (e.GetProperty("a").GetInt32(), e.GetProperty("b").GetString()); return new M { Id = a, Name = b };`, `{"a":1,"b":"x"}`, `{"Id":1,"Name":"x","Tags":[]}`},
		{"an enum by name", `return new M { Id = Enum.TryParse<K>(e.GetProperty("k").GetString(), true, out var k) ? (int)k : -1 };`, `{"k":"HIGH"}`, `{"Id":5,"Name":null,"Tags":[]}`},
		{"a property pattern", `return e.GetProperty("a") is { ValueKind: JsonValueKind.Object } a && a.TryGetProperty("b", out var b) ? new M { Id = b.GetInt32() } : new M { Id = -1 };`, `{"a":{"b":3}}`, `{"Id":3,"Name":null,"Tags":[]}`},
		{"code that does not end", `var m = new M(); while (true) { m.Id++; } return m;`, `{}`, `unknown`},
	} {
		t.Run(c.name, func(t *testing.T) {
			text := `using System.Text.Json;
using Newtonsoft.Json.Linq;
public record R(int Id, string Name);
public enum K { Low = 1, High = 5 }
public class M { public int Id { get; set; } public string? Name { get; set; } public List<string> Tags { get; set; } = new(); }
public static class Api { public static M Load(string json) { var e = JsonDocument.Parse(json).RootElement; ` + c.body + ` } }`
			if strings.Contains(c.body, "o[") {
				text = strings.Replace(text, "var e = JsonDocument.Parse(json).RootElement;", "var o = JObject.Parse(json);", 1)
			}
			set := source.Read([]scan.Source{{Name: "M.cs", Text: text}})
			if len(set.Problems) > 0 {
				t.Fatal(set.Problems)
			}
			plan, err := For(set, "M")
			if err != nil {
				t.Fatal(err)
			}
			doc, err := wire.Parse([]byte(c.sent))
			if err != nil {
				t.Fatal(err)
			}
			out := plan.Decode(doc)
			got, seen := sharpOutcome(out)
			switch got {
			case "fails":
				got = out.Err.Kind
			case "ok":
				shown, _ := json.Marshal(seen)
				got = string(shown)
			}
			if got != c.want {
				t.Errorf("%s\n got %s %v\nwant %s", c.sent, got, out.Err, c.want)
			}
		})
	}
}

// TestSharpHanded: a converter reads what is in a value with the settings of the call, which it is handed.
func TestSharpHanded(t *testing.T) {
	for _, c := range []struct{ name, code, sent, want string }{
		{"options are handed on", `public class C : JsonConverter<Berth> {
  public override Berth Read(ref Utf8JsonReader r, Type t, JsonSerializerOptions o) => new Berth { Of = JsonSerializer.Deserialize<Port>(ref r, o) };
  public override void Write(Utf8JsonWriter w, Berth b, JsonSerializerOptions o) { } }
public class Port { public string Code { get; set; } }
public class Berth { public Port Of { get; set; } }
public class M { public Berth At { get; set; } }`, `{"at":{"CODE":"SAL"}}`, `{"At":{"Of":{"Code":"SAL"}}}`},
		{"through a helper", `public class C : JsonConverter<Berth> {
  public override Berth Read(ref Utf8JsonReader r, Type t, JsonSerializerOptions o) => new Berth { Of = Port(ref r, o) };
  static Port Port(ref Utf8JsonReader r, JsonSerializerOptions given) => JsonSerializer.Deserialize<Port>(ref r, given);
  public override void Write(Utf8JsonWriter w, Berth b, JsonSerializerOptions o) { } }
public class Port { public string Code { get; set; } }
public class Berth { public Port Of { get; set; } }
public class M { public Berth At { get; set; } }`, `{"at":{"CODE":"SAL"}}`, `{"At":{"Of":{"Code":"SAL"}}}`},
		{"a converter in what a converter reads", `public class C : JsonConverter<Berth> {
  public override Berth Read(ref Utf8JsonReader r, Type t, JsonSerializerOptions o) => r.TokenType == JsonTokenType.String ? new Berth { No = r.GetString() } : JsonSerializer.Deserialize<Held>(ref r, o).Inner;
  public override void Write(Utf8JsonWriter w, Berth b, JsonSerializerOptions o) { } }
public class Held { public Berth Inner { get; set; } }
public class Berth { public string No { get; set; } }
public class M { public Berth At { get; set; } }`, `{"at":{"inner":{"Inner":"b1"}}}`, `{"At":{"No":"b1"}}`},
		{"a converter that asks for itself", `public class C : JsonConverter<Berth> {
  public override Berth Read(ref Utf8JsonReader r, Type t, JsonSerializerOptions o) => JsonSerializer.Deserialize<Berth>(ref r, o);
  public override void Write(Utf8JsonWriter w, Berth b, JsonSerializerOptions o) { } }
public class Berth { public int No { get; set; } }
public class M { public Berth At { get; set; } }`, `{"at":{"no":1}}`, `unknown /At`},
	} {
		t.Run(c.name, func(t *testing.T) {
			set := source.Read([]scan.Source{{Name: "M.cs", Text: "using System.Text.Json;\nusing System.Text.Json.Serialization;\n" + c.code + `
public static class Api {
  static readonly JsonSerializerOptions Options = new(JsonSerializerDefaults.Web) { Converters = { new C() } };
  public static M Load(string json) => JsonSerializer.Deserialize<M>(json, Options);
}`}})
			plan, err := For(set, "M")
			if err != nil {
				t.Fatal(err)
			}
			doc, err := wire.Parse([]byte(c.sent))
			if err != nil {
				t.Fatal(err)
			}
			out := plan.Decode(doc)
			_, seen := sharpOutcome(out)
			got := ""
			switch {
			case out.Err != nil:
				got = out.Err.Message
			case len(out.Unknown) > 0:
				got = "unknown " + wire.Pointer(out.Unknown[0])
			default:
				shown, _ := json.Marshal(seen)
				got = string(shown)
			}
			if got != c.want {
				t.Errorf("%s\n got %s\nwant %s", c.sent, got, c.want)
			}
		})
	}
}
