package source_test

import (
	"regexp"
	"strings"
	"testing"

	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
)

// position is where a reason says that the code stands.
var position = regexp.MustCompile(` \(\S+:\d+:\d+\)`)

// reason is why a class, or the first of its fields that is not, is not followed; "" where
// all of it is.
func reason(t *testing.T, name, text string) string {
	t.Helper()
	set := source.Read([]scan.Source{{Name: name, Text: text}})
	m := set.Find("M")
	if m == nil {
		t.Fatalf("no model M in %s", text)
	}
	if m.Reading == model.Unfollowed {
		_, why, _ := strings.Cut(m.Why, "not followed: ")
		return "class: " + why
	}
	for _, f := range m.Fields {
		if f.Reading == model.Unfollowed {
			return f.Name + ": " + position.ReplaceAllString(f.Why, "")
		}
	}
	return ""
}

// TestUnfollowedJava: what is not followed in a constructor is named, and spoils no more than
// it must.
func TestUnfollowedJava(t *testing.T) {
	for _, c := range []struct{ body, want string }{
		{`a = o.getInt("a");`, ""},
		{`a = o.getInt("a") + 1;`, ""},
		{`a = o.getInt("a") / o.getInt("b");`, "a: a division"},
		{`a = o.getInt("a") + odd(o);`, "a: a call of odd"},
		{`a = Integer.parseInt(o.getString("a"));`, ""},
		{`s = o.getString("s").trim();`, ""},
		{`s = o.getString(key());`, "s: a key that is computed"},
		{`a = (int) o.getDouble("a");`, "a: a cast to int"},
		{`a = (int) o.getInt("a");`, ""},
		{`s = o.getString("s" + 1);`, "s: a key that is computed"},
		{`s = o.optString("s", other());`, "s: a fallback that is computed"},
		{`a = o.getJSONArray("l").length();`, "a: how many elements there are"},
		{`a = o.getJSONArray("l").getInt(0);`, ""},
		{`p = new Port(o.getString("c"), o.getInt("n"));`, "p: what the constructor of Port does with its parameters"},
		{`l.add(o.getString("s"));`, "l: what is added to l"},
		{`for (int i = 0; i < 3; i++) { l.add("x"); }`, "l: a loop over something else than all indexes of an array"},
		{`for (String k : names) { l.add(k); }`, "l: a loop over something else than all indexes of an array"},
		{`for (int i = 0; i < o.getJSONArray("l").length(); i++) { JSONArray x = o.getJSONArray("l"); l.add(x.getString(i)); }`, ""},
		{`while (true) { a = 1; break; }`, "a: while"},
		{`do { a = o.getInt("a"); } while (a < 3);`, "a: do"},
		{`switch (o.optString("k")) { case "x": a = 1; case "y": a = 2; break; }`, "class: a case that goes on with the next"},
		{`switch (o.optString("k")) { case "x": a = 1; continue; }`, "class: a case that goes on with the next"},
		{`switch (o.getJSONObject("k")) { default: a = 1; }`, "a: a choice by something else than a value"},
		{`switch (o.optInt("k")) { case A: a = 1; break; }`, "class: a case that is no constant"},
		{`try { a = o.getInt("a"); } finally { a = 2; }`, "a: try without catch"},
		{`try { a = o.getInt("a"); } catch (java.io.IOException e) { a = 2; }`, "a: a catch of another error"},
		{`try { a = o.getInt("a"); } catch (JSONException e) { a = 1; } finally { s = "x"; }`, "a: several catch blocks"},
		{`try { s = odd(o); } catch (JSONException e) { s = null; }`, "s: a try block that is not followed"},
		{`a = o.getInt("a") > 3 ? 3 : 4;`, ""},
		{`if (odd(o)) { a = 1; } else { s = "x"; }`, "a: a condition"},
		{`if (o.getJSONObject("p").length() > 0) a = 1;`, "a: a condition"},
		{`s = twice(o, "s");`, "s: a loop over something else than all indexes of an array"},
		{`fill(o);`, "a: a return inside fill"},
		{`unknown(o);`, "a: a call of unknown"},
		{`other.a = o.getInt("a");`, "a: an assignment to a"},
		{`super(o);`, "class: what it makes"},
		{`Iterator<String> it = o.keys(); while (it.hasNext()) { m.put(it.next(), 1); }`, "m: a loop whose key has no name"},
		{`Iterator<String> it = o.keys(); while (it.hasNext()) { String k = it.next(); m.put(k, 1); }`, "m: what is put into m"},
		{`Iterator<String> it = o.keys(); while (it.hasNext()) { String k = it.next(); if (k.isEmpty()) return; m.put(k, o.getInt(k)); }`, "class: a condition"},
		{`JSONObject d = o.has("d") ? o.getJSONObject("d") : o; a = d.getInt("a");`, "a: a call of getInt"},
		{`Object x = o; s = x.toString();`, "s: a call of toString"},
		{`a = o.get("a");`, ""},
		{`setA(o.getInt("a"));`, "a: a call of setA"},
		{`s = null; l = null; a = 5;`, ""},
		{`int n; n = o.getInt("a"); a = n;`, ""},
		{`System.out.println(o); Log.d("M", "x"); a = o.getInt("a");`, ""},
		{`throw new IllegalStateException("never");`, ""},
		{`return;`, ""},
		{`assert o != null; a = o.getInt("a");`, ""},
		{`synchronized (this) { a = o.getInt("a"); }`, "a: a statement"},
		{`l = Arrays.asList(o.getString("s"));`, "l: a call of Arrays.asList"},
		{`s = o.toString();`, "s: a call of toString"},
		{`l.add("x"); JSONArray d = o.getJSONArray("l"); for (int i = 0; i < d.length(); i++) l.add(d.getString(i));`, "l: what is added to l"},
		{`JSONArray d = o.getJSONArray("l"); for (int i = 0; i < d.length(); i++) l.add(d.getString(i)); JSONArray e = o.getJSONArray("k"); for (int i = 0; i < e.length(); i++) l.add(e.getString(i));`, "l: a collection that held something before"},
		{`JSONArray d = o.getJSONArray("l"); for (int i = 0; i < d.length(); i++) { if (d.isNull(i)) continue; l.add(d.getString(i)); }`, ""},
		{`JSONArray d = o.getJSONArray("l"); for (int i = 0; i < d.length(); i++) { if (d.isNull(i)) return; l.add(d.getString(i)); }`, "class: a condition of one element"},
		{`JSONArray d = o.getJSONArray("l"); for (int i = 0; i < d.length(); i++) { if (d.isNull(i)) { if (a > 1) continue; } l.add(d.getString(i)); }`, "l: a condition"},
		{`JSONArray d = o.getJSONArray("l"); for (int i = 0; i < d.length(); i++) a++;`, "a: a statement"},
		{`int n = o.getInt("a"); n += 2; a = n;`, "a: a call of add"},
		{`a = o.getInt("a"); int twice = a * 2;`, ""},
		{`s = Objects.requireNonNull(o.optString("s", null));`, ""},
		{`Objects.requireNonNull(o.getJSONObject("p"));`, ""},
		{`any = o.opt("s");`, ""},
		{`any = Objects.requireNonNull(o.opt("s"));`, "any: null of what may be anything"},
		{`s = (String) o.get("s");`, "s: a cast of what may be anything"},
		{`s = o.isNull("s") ? null : o.getString("s");`, ""},
	} {
		text := "import org.json.*; import java.util.*; class M { int a; String s; Object any; List<String> l = new ArrayList<>(); Map<String, Integer> m = new HashMap<>(); Port p; M(JSONObject o) throws JSONException { " + c.body + " } " +
			"static String twice(JSONObject o, String k) throws JSONException { for (;;) { } } void fill(JSONObject o) throws JSONException { if (o.has(\"a\")) return; a = o.getInt(\"a\"); } } " +
			"class Port { String code; int n; Port(String code, int n) { this.code = code.trim(); this.n = n; } }"
		if got := reason(t, "M.java", text); got != c.want {
			t.Errorf("%s\n got %s\nwant %s", c.body, got, c.want)
		}
	}
}

// TestUnfollowedKotlin is TestUnfollowedJava for a function of a companion.
func TestUnfollowedKotlin(t *testing.T) {
	for _, c := range []struct{ body, want string }{
		{`= M().apply { a = o.getInt("a") }`, ""},
		{`= M().apply { a = o.getInt("a") + 1 }`, ""},
		{`= M().apply { s = "${o.getInt("a")} of ${odd(o)}" }`, "s: a call of odd"},
		{`= M().apply { a = o.getInt("a") / o.getInt("b") }`, "a: a division"},
		{`= M().also { x -> x.a = o.getInt("a"); x.s = odd(o) }`, "s: a call of odd"},
		{`= M().apply { return M() }`, "class: a return inside apply"},
		{`= with(o) { M() }`, ""},
		{`= with(o) { getInt("a").let { n -> M().apply { a = n } } }`, "class: the property let"},
		{`= o.let { M().apply { a = it.getInt("a") } }`, ""},
		{`{ val m = M(); m.a = o.getInt("a"); m.s = o.odd("s"); return m }`, "s: while in a function that is called"},
		{`{ val m = M(); with(m) { a = o.getInt("a") }; return m }`, ""},
		{`{ val m = M(); m.s = when (o.optString("k")) { "x" -> "y" }; return m }`, "s: a choice without else"},
		{`{ val m = M(); m.s = when (o.optString("k")) { in names -> "y"; else -> "z" }; return m }`, "s: a case that is no constant"},
		{`{ val m = M(); m.s = when (o.optString("k")) { is String -> "y"; else -> "z" }; return m }`, "s: a case that is no constant"},
		{`{ val m = M(); m.s = when { odd(o) -> "y"; else -> "z" }; return m }`, "s: a condition"},
		{`{ val m = M(); m.l = o.getJSONArray("l").map { it.toString() }; return m }`, "l: the property map"},
		{`{ val m = M(); m.l = (0 until 3).map { "x" }; return m }`, "l: an expression"},
		{`{ val m = M(); val l = o.getJSONArray("l"); m.l = (0 until l.length()).map { i -> l.getString(i) }.sorted(); return m }`, "l: a call of sorted"},
		{`{ val m = M(); val l = o.getJSONArray("l"); m.l = (0 until l.length()).map { "x" }; return m }`, "l: what a list is made of"},
		{`{ val m = M(); m.p = o.optJSONObject("p")?.let { Port(it.getString("code"), it.getInt("n")) }; return m }`, "p: what Port does besides"},
		{`{ val m = M(); m.s = o.optString("s").takeIf { odd(it) }; return m }`, "s: a condition"},
		{`{ val m = M(); m.s = o.optString("s").ifEmpty { odd(o) }; return m }`, "s: a call of odd"},
		{`{ val m = M(); m.s = runCatching { o.getString("s") }.fold({ it }, { null }); return m }`, "s: what becomes of a result"},
		{`{ val m = M(); m.s = runCatching { o.getString("s") }.getOrNull(); return m }`, ""},
		{`{ val m = M(); m.s = try { o.getString("s") } catch (e: java.io.IOException) { null }; return m }`, "s: a catch of another error"},
		{`{ val m = M(); m.s = if (o.has("s")) o.getString("s") else null; return m }`, ""},
		{`{ val m = M(); m.s = if (odd(o)) "x" else "y"; return m }`, "s: a condition"},
		{`{ val d = o.optJSONObject("d") ?: o; val m = M(); m.a = d.getInt("a"); return m }`, "a: a call of getInt"},
		{`{ val d = o.optJSONObject("d") ?: return M(); val m = M(); m.a = d.getInt("a"); return m }`, ""},
		{`{ val d = o.optJSONObject("d") ?: throw IllegalStateException("d"); val m = M(); m.a = d.getInt("a"); return m }`, ""},
		{`{ val d = o.optJSONObject("d") ?: JSONObject(); val m = M(); m.a = d.getInt("a"); return m }`, "a: a value of what may be empty"},
		{`{ require(o.has("a")); val m = M(); m.a = o.getInt("a"); return m }`, ""},
		{`{ require(odd(o)) { "x" }; val m = M(); m.a = o.getInt("a"); return m }`, "class: a condition"},
		{`{ val m = M(); for (k in o.keys()) { m.a = o.getInt(k) }; return m }`, "a: the value of one element of a loop"},
		{`{ val m = M(); for (x in listOf(1, 2)) { m.a = x }; return m }`, "class: what it returns"},
		{`{ val m = M(); o.optJSONObject("p")?.let { m.a = it.getInt("a") }; return m }`, ""},
		{`{ val m = M(); o.optJSONObject("p")?.let { return M() }; return m }`, "class: a return inside let"},
		{`{ val m = M(); val (x, y) = odd(o); m.a = x; return m }`, "a: a call of odd"},
		{`= Gson().fromJson(o.toString(), M::class.java)`, "class: a call of Gson"},
		{`= TODO()`, "class: a call of TODO"},
	} {
		text := "import org.json.*\nclass M { var a = 0; var s: String? = null; var l: List<String> = emptyList(); var p: Port? = null\n companion object { fun of(o: JSONObject): M " + c.body + " } }\n" +
			"class Port(val code: String, val n: Int) { init { check(n > 0) } }\nfun JSONObject.odd(k: String): String { while (true) { } }"
		if got := reason(t, "M.kt", text); got != c.want {
			t.Errorf("%s\n got %s\nwant %s", c.body, got, c.want)
		}
	}
}
