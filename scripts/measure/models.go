//go:build ignore

// Writes model files from a seed, for Measure.java to run:
//
//	go run scripts/measure/models.go -kind gson -n 100 -seed 1 -o DIR
//
// A file holds the model classes, the code that decodes them and a number of documents:
// one as the model wants it, an empty one, and changed ones.
package main

import (
	"flag"
	"fmt"
	"log"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
)

func main() {
	kind := flag.String("kind", "gson", "gson, jackson, orgjson, kotlin, kotlin-orgjson, lombok-gson, lombok-jackson")
	n := flag.Int("n", 100, "how many models")
	seed := flag.Uint64("seed", 1, "the seed")
	dir := flag.String("o", "", "the folder that the files are written to")
	flag.Parse()
	if *dir == "" {
		log.Fatal("which folder? say -o DIR")
	}
	if err := os.MkdirAll(*dir, 0o755); err != nil {
		log.Fatal(err)
	}
	for i := range *n {
		g := &maker{Rand: rand.New(rand.NewPCG(*seed, uint64(i))), kind: *kind, wires: wires}
		name := fmt.Sprintf("%s-%d-%03d.txt", *kind, *seed, i)
		if err := os.WriteFile(filepath.Join(*dir, name), []byte(g.file()), 0o644); err != nil {
			log.Fatal(err)
		}
	}
}

// value is what a document holds at a place: text for a scalar, or members or elements.
type value struct {
	text  string
	keys  []string
	elems []*value
	list  bool
}

func (v *value) String() string {
	if v.text != "" {
		return v.text
	}
	var items []string
	for i, e := range v.elems {
		if v.list {
			items = append(items, e.String())
		} else {
			items = append(items, fmt.Sprintf("%q:%s", v.keys[i], e))
		}
	}
	if v.list {
		return "[" + strings.Join(items, ",") + "]"
	}
	return "{" + strings.Join(items, ",") + "}"
}

// a type of a field: how the source writes it and what a good value of it is.
type typ struct {
	src    string
	sample func() *value
}

type maker struct {
	*rand.Rand
	kind    string
	classes []string // their sources
	names   int
	keys    []string
	kinds   []kindOf
	wires   []string
}

func (g *maker) chance(percent int) bool { return g.IntN(100) < percent }

func pick[T any](g *maker, of ...T) T { return of[g.IntN(len(of))] }

func (g *maker) kotlin() bool { return strings.HasPrefix(g.kind, "kotlin") }

func (g *maker) jackson() bool { return strings.HasSuffix(g.kind, "jackson") }

func scalar(texts ...string) func(g *maker) func() *value {
	return func(g *maker) func() *value {
		return func() *value { return &value{text: pick(g, texts...)} }
	}
}

var javaScalars = []struct {
	src  string
	make func(g *maker) func() *value
}{
	{"int", scalar("1", "12", "-7")}, {"Integer", scalar("1", "12")}, {"long", scalar("1", "1772357400000")},
	{"Long", scalar("1", "9007199254740993")}, {"short", scalar("3")}, {"Short", scalar("3")}, {"byte", scalar("3")}, {"Byte", scalar("3", "-3")},
	{"float", scalar("1.5")}, {"Float", scalar("1.5")}, {"double", scalar("1.5", "12")}, {"Double", scalar("1.5", "12")},
	{"boolean", scalar("true", "false")}, {"Boolean", scalar("true")}, {"char", scalar(`"x"`)}, {"Character", scalar(`"x"`)},
	{"String", scalar(`"a"`, `"SAL"`, `""`)}, {"BigDecimal", scalar("12.50", "1e3")}, {"BigInteger", scalar("12", "18446744073709551616")},
	{"Number", scalar("1", "1.5")}, {"Object", scalar("1", `"a"`, "true", `{"a":1}`, "[1]")}, {"URL", scalar(`"https://saltmere.test/a"`)},
	{"URI", scalar(`"https://saltmere.test/a"`)}, {"UUID", scalar(`"123e4567-e89b-12d3-a456-426614174000"`)},
	{"CharSequence", scalar(`"a"`)}, {"StringBuilder", scalar(`"a"`)}, {"Locale", scalar(`"en_GB"`)}, {"Currency", scalar(`"EUR"`)},
	{"Date", scalar(`"2026-03-01T09:30:00Z"`)}, {"Date", scalar(`"2026-03-01T09:30:00.000+00:00"`)}, {"AtomicInteger", scalar("3")}, {"AtomicBoolean", scalar("true")}, {"AtomicLong", scalar("3")},
}

var kotlinScalars = []struct {
	src  string
	make func(g *maker) func() *value
}{
	{"Int", scalar("1", "12", "-7")}, {"Long", scalar("1", "1772357400000")}, {"Short", scalar("3")}, {"Byte", scalar("3")},
	{"Float", scalar("1.5")}, {"Double", scalar("1.5", "12")}, {"Boolean", scalar("true", "false")}, {"Char", scalar(`"x"`)},
	{"String", scalar(`"a"`, `"SAL"`, `""`)}, {"java.math.BigDecimal", scalar("12.50", "1e3")}, {"java.math.BigInteger", scalar("12")},
	{"Number", scalar("1", "1.5")}, {"Any", scalar("1", `"a"`, "true", `{"a":1}`, "[1]")}, {"java.net.URL", scalar(`"https://saltmere.test/a"`)},
	{"java.util.UUID", scalar(`"123e4567-e89b-12d3-a456-426614174000"`)}, {"String", scalar(`"a"`)}, {"Int", scalar("4")}, {"String", scalar(`"b"`)},
	{"UInt", scalar("3")}, {"IntArray", scalar("[1,2]", "[]")}, {"BooleanArray", scalar("[true]")}, {"ByteArray", scalar("[1]")},
}

func (g *maker) scalar() typ {
	list := javaScalars
	if g.kotlin() {
		list = kotlinScalars
	}
	n := len(list)
	if !g.kotlin() && g.chance(60) {
		n = 17 // mostly the common ones
	}
	s := list[g.IntN(n)]
	return typ{s.src, s.make(g)}
}

func (g *maker) class(name string) string {
	g.names++
	return fmt.Sprintf("%s%d", name, g.names)
}

var boxed = map[string]string{"int": "Integer", "long": "Long", "short": "Short", "byte": "Byte", "float": "Float", "double": "Double", "boolean": "Boolean", "char": "Character"}

func box(src string) string {
	if b, ok := boxed[src]; ok {
		return b
	}
	return src
}

// typ makes a type, at most so many levels deep.
func (g *maker) typ(depth int) typ {
	if depth == 0 || g.chance(55) {
		return g.null(g.scalar())
	}
	switch g.IntN(9) {
	case 0, 1:
		name, sample := g.enum()
		return g.null(typ{name, sample})
	case 2, 3:
		name, sample := g.model("Part", depth-1)
		return g.null(typ{name, sample})
	case 4:
		of := g.typ(depth - 1)
		name := pick(g, "List", "List", "ArrayList", "Set", "Collection", "LinkedList", "Iterable")
		if g.kotlin() {
			name = pick(g, "List", "List", "MutableList", "ArrayList", "Set", "Collection", "HashSet")
		} else if name == "Iterable" {
			name = "List"
		}
		return g.null(typ{name + "<" + box(of.src) + ">", func() *value {
			v := &value{list: true}
			for range 1 + g.IntN(2) {
				v.elems = append(v.elems, of.sample())
			}
			return v
		}})
	case 5:
		of := g.typ(depth - 1)
		key := pick(g, "String", "String", "String", "Integer", "Long")
		name := pick(g, "Map", "Map", "HashMap", "LinkedHashMap", "TreeMap")
		if g.kotlin() {
			key = pick(g, "String", "String", "Int")
			name = pick(g, "Map", "MutableMap", "HashMap")
		}
		return g.null(typ{name + "<" + key + ", " + box(of.src) + ">", func() *value {
			v := &value{}
			for i := range 1 + g.IntN(2) {
				k := string(rune('a' + i))
				if key != "String" {
					k = fmt.Sprint(i + 1)
				}
				v.keys, v.elems = append(v.keys, k), append(v.elems, of.sample())
			}
			return v
		}})
	case 6:
		of := g.typ(depth - 1)
		src := of.src + "[]"
		if g.kotlin() {
			src = "Array<" + of.src + ">"
		} else if strings.Contains(of.src, "<") {
			src = "List<" + of.src + ">"
		}
		return g.null(typ{src, func() *value { return &value{list: true, elems: []*value{of.sample()}} }})
	case 7:
		of := g.typ(depth - 1)
		name, sample := g.generic(of)
		return g.null(typ{name + "<" + box(of.src) + ">", sample})
	}
	return g.null(g.scalar())
}

func (g *maker) null(t typ) typ {
	if g.kotlin() && g.chance(40) {
		t.src += "?"
	}
	return t
}

func (g *maker) enum() (string, func() *value) {
	name := g.class("Kind")
	good := []string{"RED", "GREEN", "DARK_BLUE"}
	sent := append([]string(nil), good...)
	var consts []string
	style := g.IntN(5)
	for i, c := range good {
		if style == 1 && g.chance(60) {
			sent[i] = strings.ToLower(c)
			if g.jackson() {
				c = fmt.Sprintf("@JsonProperty(%q) %s", sent[i], c)
			} else if g.chance(30) {
				c = fmt.Sprintf("@SerializedName(value = %q, alternate = [%q]) %s", sent[i], "x"+sent[i], c)
			} else {
				c = fmt.Sprintf("@SerializedName(%q) %s", sent[i], c)
			}
			if !g.kotlin() {
				c = strings.NewReplacer("alternate = [", "alternate = {", "])", "})").Replace(c)
			}
		}
		consts = append(consts, c)
	}
	body := ""
	if g.jackson() {
		switch style {
		case 2: // a value of its own
			for i, c := range good {
				sent[i] = strings.ToLower(c[:1])
				consts[i] = fmt.Sprintf("%s(%q)", c, sent[i])
			}
			body = fmt.Sprintf("; private final String code; %s(String code) { this.code = code; } @JsonValue public String getCode() { return code; }", name)
		case 3:
			consts[2] = "@JsonEnumDefaultValue " + consts[2]
		case 4:
			if g.chance(50) {
				body = fmt.Sprintf("; @JsonCreator public static %s of(String s) { return s == null ? null : valueOf(s.toUpperCase()); }", name)
			}
		}
	} else if style == 2 {
		for i, c := range consts {
			consts[i] = fmt.Sprintf("%s(%d)", c, i)
		}
		body = fmt.Sprintf("; private final int code; %s(int code) { this.code = code; } @Override public String toString() { return \"k\" + code; }", name)
		if g.kotlin() {
			body = ";"
		}
	}
	head := "enum " + name
	if g.kotlin() {
		head = "enum class " + name
		if style == 2 {
			head += "(val code: Int)"
		}
	}
	g.classes = append(g.classes, head+" { "+strings.Join(consts, ", ")+body+" }\n")
	return name, func() *value { return &value{text: fmt.Sprintf("%q", pick(g, sent...))} }
}

var fieldNames = []string{"id", "name", "portCode", "seats", "isActive", "URL", "imageUrl", "aFare", "vessel", "departsAt", "x", "deck_no", "_rev", "hasCafe", "ID", "notes", "mURL", "open", "isbn", "getaway", "setting", "maxLOAD", "p2p", "stop2"}

// field is one of a class.
type field struct {
	name, key string
	typ       typ
}

func (g *maker) fields(depth int) []field {
	names := append([]string(nil), fieldNames...)
	g.Shuffle(len(names), func(i, j int) { names[i], names[j] = names[j], names[i] })
	var out []field
	for _, n := range names[:2+g.IntN(4)] {
		out = append(out, field{n, n, g.typ(depth)})
	}
	return out
}

func (g *maker) sample(fields []field) func() *value {
	return func() *value {
		v := &value{}
		for _, f := range fields {
			v.keys, v.elems = append(v.keys, f.key), append(v.elems, f.typ.sample())
			g.keys = append(g.keys, f.key)
		}
		for _, k := range g.kinds {
			if len(k.fields) > 0 && len(fields) > 0 && &k.fields[0] == &fields[0] {
				v.keys = append([]string{k.key}, v.keys...)
				v.elems = append([]*value{{text: fmt.Sprintf("%q", pick(g, k.ids...))}}, v.elems...)
			}
		}
		if g.chance(15) {
			g.Shuffle(len(v.keys), func(i, j int) {
				v.keys[i], v.keys[j] = v.keys[j], v.keys[i]
				v.elems[i], v.elems[j] = v.elems[j], v.elems[i]
			})
		}
		return v
	}
}

// generic makes a class with a type parameter, which stands for the type given.
func (g *maker) generic(of typ) (string, func() *value) {
	name := g.class("Page")
	if g.kotlin() {
		g.classes = append(g.classes, fmt.Sprintf("class %s<T>(val items: List<T>, val first: T?)\n", name))
	} else {
		g.classes = append(g.classes, fmt.Sprintf("class %s<T> { public List<T> items; public T first; }\n", name))
	}
	return name, func() *value {
		return &value{keys: []string{"items", "first"}, elems: []*value{{list: true, elems: []*value{of.sample()}}, of.sample()}}
	}
}

// wires are values to put where others were.
var wires = []string{"null", "null", "null", "true", "false", "0", "1", "-1", "-0", "12", "300", "40000", "2147483648", "9007199254740993", "9223372036854775808",
	"18446744073709551616", "12.0", "12.5", "1e2", "1.5e1", "0.1234567890123456789", "1e400", `"12"`, `"12.0"`, `"12.5"`, `" 12 "`, `"1,234"`, `"abc"`, `"x"`, `""`, `" "`,
	`"null"`, `"true"`, `"TRUE"`, `"false"`, `"yes"`, `"1"`, `"0"`, `"RED"`, `"red"`, `"BLUE"`, `"NaN"`, `"2026-03-01T09:30:00Z"`, `"09:30"`, "1772357400000",
	"[]", "[1,2]", "[1]", `[1,"x"]`, "[1,null]", "[1.5]", "[null]", `["a","b"]`, `["RED","BLUE"]`, "[[1],[2]]", "{}", `{"a":1}`, `{"a":"x"}`, `{"a":null}`,
	`{"a":{"a":1}}`, `[{"a":1}]`, `[{}]`, `{"id":1}`, `{"name":"x"}`, `[[]]`, `{"items":[]}`, `{"1":1}`}

// change alters a document in one place.
func (g *maker) change(v *value) {
	for v.text == "" && len(v.elems) > 0 && g.chance(60) {
		var inner []*value
		for _, e := range v.elems {
			if e.text == "" && len(e.elems) > 0 {
				inner = append(inner, e)
			}
		}
		if len(inner) == 0 {
			break
		}
		v = pick(g, inner...)
	}
	if v.text != "" || len(v.elems) == 0 {
		*v = value{text: pick(g, g.wires...)}
		return
	}
	i := g.IntN(len(v.elems))
	switch g.IntN(10) {
	case 0: // absent
		v.elems = append(v.elems[:i:i], v.elems[i+1:]...)
		if !v.list {
			v.keys = append(v.keys[:i:i], v.keys[i+1:]...)
		}
	case 1: // twice, or an element of another kind
		v.elems = append(v.elems[:len(v.elems):len(v.elems)], &value{text: pick(g, g.wires...)})
		if !v.list {
			v.keys = append(v.keys[:len(v.keys):len(v.keys)], v.keys[i])
		}
	case 2: // an unknown key
		if !v.list {
			v.keys = append([]string{pick(g, "zz", "extra", "kind")}, v.keys...)
			v.elems = append([]*value{{text: pick(g, g.wires...)}}, v.elems...)
			return
		}
		v.elems[i] = &value{text: pick(g, g.wires...)}
	case 3: // another spelling
		if !v.list {
			k := v.keys[i]
			v.keys = append([]string(nil), v.keys...)
			v.keys[i] = pick(g, strings.ToLower(k), strings.ToUpper(k), strings.ToUpper(k[:1])+k[1:], strings.ToLower(k[:1])+k[1:], "_"+k)
			return
		}
		v.elems[i] = &value{text: "null"}
	default:
		v.elems[i] = &value{text: pick(g, g.wires...)}
	}
}

// byHand makes a class that reads a JSON object itself.
func (g *maker) byHand(name string, depth int) func() *value {
	var decls, body strings.Builder
	var fields []field
	names := append([]string(nil), fieldNames...)
	g.Shuffle(len(names), func(i, j int) { names[i], names[j] = names[j], names[i] })
	for i, n := range names[:2+g.IntN(5)] {
		key := pick(g, n, n, "k_"+n)
		v := fmt.Sprintf("v%d", i)
		kind := pick(g, "int", "long", "double", "boolean", "String", "String", "Object", "list", "objects", "object")
		if depth == 0 && strings.HasPrefix(kind, "object") {
			kind = "String"
		}
		q := fmt.Sprintf("%q", key)
		var t typ
		decl, read := "", ""
		switch kind {
		case "list":
			elem := pick(g, "String", "Integer")
			get := map[string]string{"String": pick(g, "getString", "optString"), "Integer": pick(g, "getInt", "optInt")}[elem]
			t = typ{"", func() *value {
				return &value{list: true, elems: []*value{{text: map[string]string{"String": `"a"`, "Integer": "3"}[elem]}, {text: `"7"`}}}
			}}
			if g.kotlin() {
				decl = fmt.Sprintf("val %s: List<%s>%%s", n, map[string]string{"String": "String", "Integer": "Int"}[elem])
				read = pick(g,
					fmt.Sprintf("o.getJSONArray(%s).let { a -> (0 until a.length()).map { i -> a.%s(i) } }", q, get),
					fmt.Sprintf("o.getJSONArray(%s).let { a -> List(a.length()) { a.%s(it) } }", q, get),
					fmt.Sprintf("o.optJSONArray(%s)?.let { a -> (0 until a.length()).map { a.%s(it) } } ?: emptyList()", q, get))
			} else {
				decl = fmt.Sprintf("List<%s> %s = new ArrayList<>()", elem, n)
				array := fmt.Sprintf("JSONArray %s = o.getJSONArray(%s);\n", v, q)
				loop := fmt.Sprintf("for (int i = 0; i < %s.length(); i++) { %s.add(%s.%s(i)); }\n", v, n, v, get)
				if g.chance(50) {
					array = fmt.Sprintf("JSONArray %s = o.optJSONArray(%s);\n", v, q)
					loop = fmt.Sprintf("if (%s != null) {\n            %s        }\n", v, loop)
				}
				read = array + "        " + loop
			}
		case "object", "objects":
			inner := g.class("Part")
			sample := g.byHand(inner, depth-1)
			make := "new " + inner
			if g.kotlin() {
				make = inner
			}
			t = typ{"", sample}
			if kind == "objects" {
				t.sample = func() *value { return &value{list: true, elems: []*value{sample(), sample()}} }
			}
			switch {
			case g.kotlin() && kind == "object":
				decl = fmt.Sprintf("val %s: %s%%s", n, inner+"?")
				read = pick(g, fmt.Sprintf("o.optJSONObject(%s)?.let { %s(it) }", q, inner), fmt.Sprintf("%s(o.getJSONObject(%s))", inner, q), fmt.Sprintf("if (o.isNull(%s)) null else %s(o.getJSONObject(%s))", q, inner, q))
			case g.kotlin():
				decl = fmt.Sprintf("val %s: List<%s>%%s", n, inner)
				read = fmt.Sprintf("o.getJSONArray(%s).let { a -> (0 until a.length()).map { %s(a.getJSONObject(it)) } }", q, inner)
			case kind == "object":
				decl = inner + " " + n
				read = pick(g, fmt.Sprintf("%s = %s(o.getJSONObject(%s));\n", n, make, q),
					fmt.Sprintf("JSONObject %s = o.optJSONObject(%s);\n        if (%s != null) { %s = %s(%s); }\n", v, q, v, n, make, v),
					fmt.Sprintf("%s = o.has(%s) ? %s(o.getJSONObject(%s)) : null;\n", n, q, make, q))
			default:
				decl = fmt.Sprintf("List<%s> %s = new ArrayList<>()", inner, n)
				read = fmt.Sprintf("JSONArray %s = o.getJSONArray(%s);\n        for (int i = 0; i < %s.length(); i++) { %s.add(%s(%s.getJSONObject(i))); }\n", v, q, v, n, make, v)
			}
		default:
			word := map[string]string{"int": "Int", "long": "Long", "double": "Double", "boolean": "Boolean", "String": "String", "Object": ""}[kind]
			fallback := map[string]string{"int": "3", "long": "4L", "double": "0.5", "boolean": "true", "String": `"d"`, "Object": "null"}[kind]
			t = typ{"", scalar(map[string]string{"int": "12", "long": "1772357400000", "double": "1.5", "boolean": "true", "String": `"a"`, "Object": "1"}[kind])(g)}
			exprs := []string{fmt.Sprintf("o.get%s(%s)", word, q), fmt.Sprintf("o.opt%s(%s)", word, q)}
			if word != "" {
				exprs = append(exprs, fmt.Sprintf("o.opt%s(%s, %s)", word, q, fallback))
			}
			if g.kotlin() {
				decl = fmt.Sprintf("val %s: %s%%s", n, map[string]string{"int": "Int", "long": "Long", "double": "Double", "boolean": "Boolean", "String": "String", "Object": "Any"}[kind]+"?")
				read = pick(g, append(exprs, fmt.Sprintf("if (o.has(%s)) %s else %s", q, exprs[0], fallback), fmt.Sprintf("if (o.isNull(%s)) null else %s", q, exprs[0]),
					fmt.Sprintf("if (o.has(%s) && !o.isNull(%s)) %s else null", q, q, exprs[0]))...)
				break
			}
			decl = kind + " " + n + pick(g, "", g.initial(kind))
			for i := range exprs {
				exprs[i] = n + " = " + exprs[i] + ";\n"
			}
			read = pick(g, append(exprs, fmt.Sprintf("%s = o.has(%s) ? o.get%s(%s) : %s;\n", n, q, word, q, fallback), fmt.Sprintf("if (!o.isNull(%s)) { %s        }\n", q, exprs[0]),
				fmt.Sprintf("if (o.has(%s)) %s", q, exprs[0]), fmt.Sprintf("%s = o.isNull(%s) ? %s : o.get%s(%s);\n", n, q, fallback, word, q))...)
		}
		fields = append(fields, field{n, key, t})
		if g.kotlin() {
			fmt.Fprintf(&decls, "    %s\n", fmt.Sprintf(decl, " = "+read))
		} else {
			fmt.Fprintf(&decls, "    %s;\n", decl)
			fmt.Fprintf(&body, "        %s", read)
		}
	}
	if g.kotlin() {
		g.classes = append(g.classes, fmt.Sprintf("class %s(o: JSONObject) {\n%s}\n", name, decls.String()))
	} else {
		g.classes = append(g.classes, fmt.Sprintf("class %s {\n%s    %s(JSONObject o) throws JSONException {\n%s    }\n}\n", name, decls.String(), name, body.String()))
	}
	return g.sample(fields)
}

// handFile is a file of classes that read JSON objects themselves.
func (g *maker) handFile() (sample func() *value, root, models, api string) {
	root = g.class("Sailing")
	sample = g.byHand(root, 2)
	if g.kotlin() {
		models = "import org.json.*\n\n" + strings.Join(g.classes, "\n")
		return sample, root, models, fmt.Sprintf("import org.json.*\n\nfun load(json: String): %s = %s(JSONObject(json))\n", root, root)
	}
	models = "import java.util.*;\nimport org.json.*;\n\n" + strings.Join(g.classes, "\n")
	return sample, root, models, fmt.Sprintf("import org.json.*;\n\nclass Api {\n    %s load(String json) throws JSONException {\n        return new %s(new JSONObject(json));\n    }\n}\n", root, root)
}

func (g *maker) file() string {
	ending := ".java"
	if g.kotlin() {
		ending = ".kt"
	}
	var sample func() *value
	var root, models, api string
	if strings.HasSuffix(g.kind, "orgjson") {
		sample, root, models, api = g.handFile()
	} else {
		root, sample = g.model("Sailing", 2)
		if g.kotlin() {
			models, api = g.kotlinFiles(root)
		} else {
			models, api = g.java(root)
		}
	}
	docs := []string{sample().String(), sample().String(), "{}"}
	for range 12 {
		v := sample()
		if strings.HasSuffix(g.kind, "orgjson") {
			g.wires = slices.DeleteFunc(slices.Clone(wires), func(w string) bool { return w == "1e400" }) // which it refuses anywhere
		}
		g.change(v)
		if g.chance(20) {
			g.change(v)
		}
		docs = append(docs, v.String())
	}
	if g.chance(30) {
		docs = append(docs, pick(g, "null", "[]", `"x"`, "1", "["+sample().String()+"]"))
	}
	return fmt.Sprintf("-- Models%s --\n%s-- Api%s --\n%s-- root --\n%s\n-- docs --\n%s\n", ending, models, ending, api, root, strings.Join(docs, "\n"))
}

func capital(s string) string { return strings.ToUpper(s[:1]) + s[1:] }

// model makes a class and all that it needs.
func (g *maker) model(prefix string, depth int) (string, func() *value) {
	name := g.class(prefix)
	fields := g.fields(depth)
	switch {
	case g.kotlin():
		g.classes = append(g.classes, g.kotlinModel(name, fields))
	case g.jackson():
		g.classes = append(g.classes, g.jacksonModel(name, fields))
	default:
		g.classes = append(g.classes, g.gsonModel(name, fields))
	}
	return name, g.sample(fields)
}

func (g *maker) initial(src string) string {
	switch src {
	case "int", "Integer", "short", "byte":
		return " = 7"
	case "long", "Long":
		return " = 7L"
	case "double", "Double":
		return " = 0.5"
	case "boolean", "Boolean":
		return " = true"
	case "String":
		return ` = "d"`
	case "Number", "Object":
		return " = 7"
	}
	if strings.HasPrefix(src, "List<") {
		return " = new ArrayList<>()"
	}
	return ""
}

// lombok makes a class whose accessors and constructors Lombok writes.
func (g *maker) lombok(name string, fields []field) string {
	var b strings.Builder
	marks := pick(g, "@Data", "@Data", "@Value", "@Getter @Setter", "@Getter", "@Setter", "@Data @Builder", "@Data @NoArgsConstructor @AllArgsConstructor", "@Data @AllArgsConstructor", "@Value @Builder", "@Getter @NoArgsConstructor",
		"@Data @RequiredArgsConstructor", "@Getter @AllArgsConstructor", "@Data @Builder @NoArgsConstructor @AllArgsConstructor", "@Data @Accessors(chain = true)", "@Data @Accessors(fluent = true)", "@Value @NoArgsConstructor(force = true)")
	if g.jackson() && g.chance(30) {
		marks = pick(g, "@Value @Builder @Jacksonized", "@Data @Builder @Jacksonized")
	}
	fmt.Fprintf(&b, "%s\nclass %s {\n", marks, name)
	for i := range fields {
		f := &fields[i]
		mark := ""
		switch g.IntN(8) {
		case 0:
			f.key = "k_" + f.name
			mark = fmt.Sprintf("@SerializedName(%q) ", f.key)
			if g.jackson() {
				mark = fmt.Sprintf("@JsonProperty(%q) ", f.key)
			}
		case 1:
			if !strings.Contains(marks, "Value") {
				mark = pick(g, "@NonNull ", "@Setter ", "@Getter ", "@Getter(AccessLevel.NONE) ", "@Setter(AccessLevel.NONE) ")
			}
			if boxed[f.typ.src] != "" && strings.Contains(mark, "NonNull") {
				mark = ""
			}
		case 2:
			if strings.Contains(marks, "Builder") && g.initial(f.typ.src) != "" {
				mark = "@Builder.Default "
			}
		}
		initial := pick(g, "", "", g.initial(f.typ.src))
		if strings.Contains(mark, "Default") {
			initial = g.initial(f.typ.src)
		} else if strings.Contains(marks, "Builder") {
			initial = ""
		}
		fmt.Fprintf(&b, "    %s%s%s %s%s;\n", mark, pick(g, "private ", "private ", ""), f.typ.src, f.name, initial)
	}
	return b.String() + "}\n"
}

func (g *maker) gsonModel(name string, fields []field) string {
	if strings.HasPrefix(g.kind, "lombok") {
		return g.lombok(name, fields)
	}
	var b strings.Builder
	if g.chance(12) { // a record
		var parts []string
		for i := range fields {
			f := &fields[i]
			mark := ""
			if g.chance(25) {
				f.key = "r_" + f.name
				mark = fmt.Sprintf("@SerializedName(%q) ", f.key)
			}
			parts = append(parts, mark+f.typ.src+" "+f.name)
		}
		return fmt.Sprintf("record %s(%s) {}\n", name, strings.Join(parts, ", "))
	}
	head := "class " + name
	if g.chance(15) {
		base := g.class("Base")
		t := g.scalar()
		g.classes = append(g.classes, fmt.Sprintf("%sclass %s { protected %s baseKey%s; }\n", pick(g, "", "abstract "), base, t.src, pick(g, "", g.initial(t.src))))
		head += " extends " + base
	}
	fmt.Fprintf(&b, "%s {\n", head)
	for i := range fields {
		f := &fields[i]
		switch g.IntN(8) {
		case 0:
			f.key = pick(g, "k_"+f.name, "some-"+f.name, f.name+".x")
			fmt.Fprintf(&b, "    @SerializedName(%q)\n", f.key)
		case 1:
			f.key = pick(g, f.name, "k_"+f.name, "alt_"+f.name)
			fmt.Fprintf(&b, "    @SerializedName(value = %q, alternate = {%q, %q})\n", "k_"+f.name, "alt_"+f.name, f.name)
		case 2:
			fmt.Fprintf(&b, "    @Expose%s\n", pick(g, "", "(deserialize = false)", "(serialize = false)"))
		}
		fmt.Fprintf(&b, "    %s%s %s%s;\n", pick(g, "", "private ", "public ", "protected ", "transient ", "volatile ", "private ", "", "public "), f.typ.src, f.name, pick(g, "", g.initial(f.typ.src)))
	}
	switch g.IntN(6) {
	case 0:
		fmt.Fprintf(&b, "    %s(%s q) { this.%s = q; }\n", name, fields[0].typ.src, fields[0].name)
	case 1:
		fmt.Fprintf(&b, "    private %s() { }\n", name)
	case 2:
		if in := g.initial(fields[0].typ.src); in != "" {
			fmt.Fprintf(&b, "    %s() { this.%s%s; }\n", name, fields[0].name, in)
		}
	}
	return b.String() + "}\n"
}

func (g *maker) jacksonModel(name string, fields []field) string {
	if strings.HasPrefix(g.kind, "lombok") {
		return g.lombok(name, fields)
	}
	var b strings.Builder
	if g.chance(10) {
		var parts []string
		for i := range fields {
			f := &fields[i]
			mark := ""
			if g.chance(25) {
				f.key = "r_" + f.name
				mark = fmt.Sprintf("@JsonProperty(%q) ", f.key)
			}
			parts = append(parts, mark+f.typ.src+" "+f.name)
		}
		return pick(g, "", "", "@JsonNaming(PropertyNamingStrategies.SnakeCaseStrategy.class)\n", "@JsonIgnoreProperties(ignoreUnknown = true)\n") + fmt.Sprintf("record %s(%s) {}\n", name, strings.Join(parts, ", "))
	}
	if g.chance(35) {
		fmt.Fprintf(&b, "%s\n", pick(g, "@JsonIgnoreProperties(ignoreUnknown = true)", "@JsonInclude(JsonInclude.Include.NON_NULL)",
			fmt.Sprintf("@JsonIgnoreProperties({%q})", fields[0].name), fmt.Sprintf("@JsonIgnoreProperties(value = {%q, \"zz\"}, ignoreUnknown = true)", fields[1].name),
			"@JsonNaming(PropertyNamingStrategies.SnakeCaseStrategy.class)", "@JsonNaming(PropertyNamingStrategies.UpperCamelCaseStrategy.class)",
			"@JsonNaming(PropertyNamingStrategies.KebabCaseStrategy.class)", "@JsonNaming(PropertyNamingStrategies.LowerCaseStrategy.class)",
			"@JsonAutoDetect(fieldVisibility = JsonAutoDetect.Visibility.ANY)", "@JsonAutoDetect(setterVisibility = JsonAutoDetect.Visibility.NONE)",
			"@JsonAutoDetect(fieldVisibility = JsonAutoDetect.Visibility.ANY, getterVisibility = JsonAutoDetect.Visibility.NONE)",
			"@JsonPropertyOrder(alphabetic = true)"))
	}
	if g.chance(8) {
		return g.subtypes(name, fields)
	}
	creator := g.IntN(12)
	head := "class " + name
	if g.chance(12) && creator > 2 {
		base := g.class("Base")
		t := g.scalar()
		g.classes = append(g.classes, fmt.Sprintf("%sclass %s { %s%s baseKey%s; }\n", pick(g, "", "abstract "), base, pick(g, "public ", "protected "), t.src, pick(g, "", g.initial(t.src))))
		head += " extends " + base
	}
	fmt.Fprintf(&b, "%s {\n", head)
	for i := range fields {
		f := &fields[i]
		c := capital(f.name)
		access := pick(g, "public ", "public ", "private ", "private ", "", "protected ", "public final ", "transient ", "private ")
		if strings.Contains(access, "final") && (g.initial(f.typ.src) == "" || creator <= 2 || creator == 4 || creator == 5) {
			access = "public "
		}
		initial := pick(g, "", g.initial(f.typ.src))
		if strings.Contains(access, "final") {
			initial = g.initial(f.typ.src)
		}
		on := pick(g, "field", "field", "getter", "setter")
		mark := ""
		switch g.IntN(14) {
		case 0:
			f.key = pick(g, "k_"+f.name, "some-"+f.name)
			mark = fmt.Sprintf("@JsonProperty(%q) ", f.key)
		case 1:
			mark = "@JsonProperty "
		case 2:
			mark = fmt.Sprintf("@JsonAlias({%q, %q}) ", "k_"+f.name, "alt_"+f.name)
			f.key = pick(g, f.name, "k_"+f.name, "alt_"+f.name)
		case 3:
			mark = pick(g, "@JsonIgnore ", "@JsonIgnore(false) ", "@JsonIgnore ")
		case 4:
			mark = "@JsonSetter(nulls = Nulls." + pick(g, "SKIP", "FAIL", "AS_EMPTY", "SET") + ") "
		case 5:
			mark = "@JsonProperty(access = JsonProperty.Access." + pick(g, "READ_ONLY", "WRITE_ONLY", "READ_WRITE", "AUTO") + ") "
		case 6:
			mark = fmt.Sprintf("@JsonProperty(value = %q, required = %v) ", f.name, g.chance(50))
		case 7:
			if strings.Contains(f.typ.src, "<") {
				mark = "@JsonSetter(contentNulls = Nulls." + pick(g, "SKIP", "FAIL", "AS_EMPTY") + ") "
			} else if !strings.Contains(f.typ.src, "[") {
				mark = "@JsonFormat(shape = JsonFormat.Shape." + pick(g, "STRING", "NUMBER", "ANY") + ") "
			}
		case 9:
			if strings.HasPrefix(f.typ.src, "Part") {
				mark = pick(g, "@JsonUnwrapped ", `@JsonUnwrapped(prefix = "p_") `, `@JsonIgnoreProperties({"id", "name"}) `, `@JsonIgnoreProperties(ignoreUnknown = true) `)
			}
		case 8:
			if strings.HasPrefix(f.typ.src, "List<") || strings.HasSuffix(f.typ.src, "[]") {
				mark = "@JsonFormat(with = JsonFormat.Feature.ACCEPT_SINGLE_VALUE_AS_ARRAY) "
			}
		}
		has := map[string]bool{"field": true, "getter": g.chance(45), "setter": g.chance(45)}
		if strings.Contains(access, "final") {
			has["setter"] = false
		}
		if !has[on] {
			on = "field"
		}
		at := func(where string) string {
			if where == on {
				return mark
			}
			return ""
		}
		fmt.Fprintf(&b, "    %s%s%s %s%s;\n", at("field"), access, f.typ.src, f.name, initial)
		if has["getter"] {
			get := "get" + c
			if f.typ.src == "boolean" && g.chance(70) {
				get = "is" + c
			}
			fmt.Fprintf(&b, "    %s%s%s %s() { return %s; }\n", at("getter"), pick(g, "public ", "public ", "public ", ""), f.typ.src, get, f.name)
		}
		if has["setter"] {
			ret := pick(g, "void", "void", "void", name)
			end := ""
			if ret == name {
				end = " return this;"
			}
			fmt.Fprintf(&b, "    %s%s%s set%s(%s q) { this.%s = q;%s }\n", at("setter"), pick(g, "public ", "public ", "public ", "private ", ""), ret, c, f.typ.src, f.name, end)
		}
	}
	switch creator {
	case 0:
		var ps, as []string
		for i, f := range fields[:1+g.IntN(len(fields))] {
			ps = append(ps, fmt.Sprintf("@JsonProperty(%q) %s p%d", f.key, f.typ.src, i))
			as = append(as, fmt.Sprintf("this.%s = p%d;", f.name, i))
		}
		fmt.Fprintf(&b, "    @JsonCreator %s(%s) { %s }\n", name, strings.Join(ps, ", "), strings.Join(as, " "))
	case 1:
		var ps, as []string
		for i, f := range fields[:1+g.IntN(len(fields))] {
			ps = append(ps, fmt.Sprintf("@JsonProperty(%q) %s p%d", f.key, f.typ.src, i))
			as = append(as, fmt.Sprintf("if (p%d != q.%s) q.%s = p%d;", i, f.name, f.name, i))
		}
		fmt.Fprintf(&b, "    @JsonCreator static %s make(%s) { %s q = new %s(); %s return q; }\n", name, strings.Join(ps, ", "), name, name, strings.Join(as, " "))
	case 2:
		fmt.Fprintf(&b, "    public %s(%s q) { this.%s = q; }\n", name, fields[0].typ.src, fields[0].name)
		if g.chance(60) {
			fmt.Fprintf(&b, "    %s%s() { }\n", pick(g, "public ", "private ", ""), name)
		}
	case 3:
		fmt.Fprintf(&b, "    private %s() { }\n", name)
	case 4:
		fmt.Fprintf(&b, "    %s() { }\n    @JsonCreator(mode = JsonCreator.Mode.DELEGATING) %s(%s q) { this.%s = q; }\n", name, name, fields[0].typ.src, fields[0].name)
	case 5:
		fmt.Fprintf(&b, "    %s() { }\n    @JsonCreator public %s(%s q) { this.%s = q; }\n", name, name, fields[0].typ.src, fields[0].name)
	}
	switch g.IntN(12) {
	case 0:
		b.WriteString("    private final Map<String, Object> others = new HashMap<>();\n    @JsonAnySetter public void put(String key, Object v) { others.put(key, v); }\n")
	case 1:
		b.WriteString("    public Map<String, Object> getRest() { return null; }\n")
	case 2:
		b.WriteString("    private final List<String> marks = new ArrayList<>();\n    public List<String> getMarks() { return marks; }\n")
		fields[0] = field{fields[0].name, fields[0].key, fields[0].typ}
	case 3:
		b.WriteString("    public boolean isNew() { return true; }\n")
	}
	return b.String() + "}\n"
}

// subtypes makes a class whose instances tell their class by a key.
func (g *maker) subtypes(name string, fields []field) string {
	one, two := g.class("Delay"), g.class("Stop")
	property := pick(g, `, property = "kind"`, `, property = "kind"`, "")
	visible := pick(g, "", ", visible = true")
	byDefault := pick(g, "", "", ", defaultImpl = "+one+".class")
	id := pick(g, `, name = "one"`, `, name = "one"`, "")
	if id == "" && g.chance(50) {
		id = ", name = \"\""
	}
	head := fmt.Sprintf("@JsonTypeInfo(use = JsonTypeInfo.Id.NAME%s%s%s)\n@JsonSubTypes({@JsonSubTypes.Type(value = %s.class%s), @JsonSubTypes.Type(value = %s.class, name = \"two\")})\n", property, visible, byDefault, one, id, two)
	kind := pick(g, "abstract class ", "class ")
	own := fields[:1+g.IntN(len(fields)-1)]
	body := ""
	for _, f := range own {
		body += fmt.Sprintf("    public %s %s%s;\n", f.typ.src, f.name, pick(g, "", g.initial(f.typ.src)))
	}
	rest := ""
	for _, f := range fields[len(own):] {
		rest += fmt.Sprintf("    public %s %s;\n", f.typ.src, f.name)
	}
	g.classes = append(g.classes, fmt.Sprintf("%sclass %s extends %s {\n%s}\n", pick(g, "", "@JsonIgnoreProperties(ignoreUnknown = true) "), one, name, rest), fmt.Sprintf("class %s extends %s { public String reason; }\n", two, name))
	key := "kind"
	if property == "" {
		key = "@type"
	}
	g.kinds = append(g.kinds, kindOf{fields, key, []string{"one", "two", one}})
	return head + kind + name + " {\n" + body + "}\n"
}

// kindOf is a class whose documents name their class.
type kindOf struct {
	fields []field
	key    string
	ids    []string
}

func (g *maker) java(root string) (models, api string) {
	imports := ""
	if strings.HasPrefix(g.kind, "lombok") {
		imports = "import lombok.*;\nimport lombok.experimental.Accessors;\nimport lombok.extern.jackson.Jacksonized;\n"
	}
	imports += "import java.math.*;\nimport java.net.*;\nimport java.util.*;\nimport java.util.concurrent.atomic.*;\n"
	if g.jackson() {
		models = imports + "import com.fasterxml.jackson.annotation.*;\nimport com.fasterxml.jackson.databind.*;\nimport com.fasterxml.jackson.databind.annotation.*;\n\n" + strings.Join(g.classes, "\n")
		setup := ""
		switch {
		case g.chance(35):
			setup = ".configure(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES, false)"
		case g.chance(25):
			setup = ".disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)"
		}
		if g.chance(45) {
			setup += "." + pick(g, "enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)", "enable(DeserializationFeature.ACCEPT_SINGLE_VALUE_AS_ARRAY)",
				"enable(DeserializationFeature.READ_UNKNOWN_ENUM_VALUES_AS_NULL)", "enable(DeserializationFeature.READ_UNKNOWN_ENUM_VALUES_USING_DEFAULT_VALUE)",
				"enable(DeserializationFeature.ACCEPT_EMPTY_STRING_AS_NULL_OBJECT)", "disable(DeserializationFeature.ACCEPT_FLOAT_AS_INT)",
				"enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)", "enable(DeserializationFeature.USE_LONG_FOR_INTS)",
				"enable(DeserializationFeature.UNWRAP_SINGLE_VALUE_ARRAYS)", "enable(DeserializationFeature.FAIL_ON_NUMBERS_FOR_ENUMS)",
				"enable(DeserializationFeature.ACCEPT_EMPTY_ARRAY_AS_NULL_OBJECT)", "enable(DeserializationFeature.FAIL_ON_MISSING_CREATOR_PROPERTIES)",
				"enable(DeserializationFeature.FAIL_ON_NULL_CREATOR_PROPERTIES)", "enable(DeserializationFeature.FAIL_ON_IGNORED_PROPERTIES)",
				"enable(DeserializationFeature.READ_ENUMS_USING_TO_STRING)", "disable(MapperFeature.ALLOW_COERCION_OF_SCALARS)",
				"enable(MapperFeature.ACCEPT_CASE_INSENSITIVE_PROPERTIES)", "enable(MapperFeature.ACCEPT_CASE_INSENSITIVE_ENUMS)",
				"setPropertyNamingStrategy(PropertyNamingStrategies.SNAKE_CASE)", "setPropertyNamingStrategy(PropertyNamingStrategies.LOWER_CAMEL_CASE)",
				"setPropertyNamingStrategy(PropertyNamingStrategies.UPPER_CAMEL_CASE)", "setVisibility(com.fasterxml.jackson.annotation.PropertyAccessor.FIELD, JsonAutoDetect.Visibility.ANY)",
				"enable(DeserializationFeature.USE_JAVA_ARRAY_FOR_JSON_ARRAY)", "enable(DeserializationFeature.FAIL_ON_READING_DUP_TREE_KEY)")
		}
		field := "new ObjectMapper()" + setup
		if strings.Contains(setup, "MapperFeature.A") {
			field = "JsonMapper.builder()" + strings.ReplaceAll(strings.ReplaceAll(setup, "setPropertyNamingStrategy", "propertyNamingStrategy"), "setVisibility", "visibility") + ".build()"
		}
		api = fmt.Sprintf("import com.fasterxml.jackson.annotation.*;\nimport com.fasterxml.jackson.databind.*;\nimport com.fasterxml.jackson.databind.json.JsonMapper;\n\nclass Api {\n    private final ObjectMapper mapper = %s;\n\n    %s load(String json) throws Exception {\n        return mapper.readValue(json, %s.class);\n    }\n}\n", field, root, root)
		return models, api
	}
	models = imports + "import com.google.gson.annotations.*;\n\n" + strings.Join(g.classes, "\n")
	return models, fmt.Sprintf("import com.google.gson.*;\n\nclass Api {\n    private final Gson gson = %s;\n\n    %s load(String json) {\n        return gson.fromJson(json, %s.class);\n    }\n}\n", g.builder(), root, root)
}

func (g *maker) builder() string {
	if g.chance(50) {
		return "new Gson()"
	}
	setup := ""
	for range 1 + g.IntN(2) {
		setup += "." + pick(g, "setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES)", "setFieldNamingPolicy(FieldNamingPolicy.UPPER_CAMEL_CASE)",
			"setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_DASHES)", "setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_DOTS)",
			"setFieldNamingPolicy(FieldNamingPolicy.UPPER_CAMEL_CASE_WITH_SPACES)", "setFieldNamingPolicy(FieldNamingPolicy.UPPER_CASE_WITH_UNDERSCORES)", "serializeNulls()", "setPrettyPrinting()",
			"excludeFieldsWithoutExposeAnnotation()", "setLenient()", "excludeFieldsWithModifiers(java.lang.reflect.Modifier.STATIC)",
			"excludeFieldsWithModifiers(java.lang.reflect.Modifier.PROTECTED)", "setObjectToNumberStrategy(ToNumberPolicy.LONG_OR_DOUBLE)",
			"setObjectToNumberStrategy(ToNumberPolicy.BIG_DECIMAL)", "setNumberToNumberStrategy(ToNumberPolicy.DOUBLE)", "enableComplexMapKeySerialization()", "disableHtmlEscaping()", "disableJdkUnsafe()")
	}
	return "new GsonBuilder()" + setup + ".create()"
}

func (g *maker) kotlinInitial(src string) string {
	if strings.HasSuffix(src, "?") {
		return pick(g, " = null", " = null", g.kotlinInitial(strings.TrimSuffix(src, "?")))
	}
	switch src {
	case "Int", "Short", "Byte", "Number", "Any":
		return " = 7"
	case "Long":
		return " = 7L"
	case "Double":
		return " = 0.5"
	case "Boolean":
		return " = true"
	case "String":
		return ` = "d"`
	}
	if strings.HasPrefix(src, "List<") {
		return " = emptyList()"
	}
	return ""
}

func (g *maker) kotlinModel(name string, fields []field) string {
	all := g.chance(25) // every parameter has a default
	var params, body []string
	for i := range fields {
		f := &fields[i]
		mark := ""
		target := pick(g, "@", "@", "@field:")
		switch g.IntN(8) {
		case 0:
			f.key = pick(g, "k_"+f.name, "some-"+f.name)
			mark = fmt.Sprintf("%sSerializedName(%q) ", target, f.key)
		case 1:
			f.key = pick(g, f.name, "k_"+f.name, "alt_"+f.name)
			mark = fmt.Sprintf("%sSerializedName(value = %q, alternate = [%q, %q]) ", target, "k_"+f.name, "alt_"+f.name, f.name)
		case 2:
			mark = pick(g, "@Transient ", "@Expose ", "@Expose(deserialize = false) ")
			if strings.HasPrefix(mark, "@T") {
				mark = "@kotlin.jvm.Transient "
			}
		}
		initial := g.kotlinInitial(f.typ.src)
		if !all && g.chance(60) {
			initial = ""
		}
		access := pick(g, "", "", "private ", "internal ")
		if all && initial == "" && g.chance(70) {
			f.typ.src = strings.TrimSuffix(f.typ.src, "?") + "?"
			initial = " = null"
		}
		decl := fmt.Sprintf("%s%s%s %s: %s%s", mark, access, pick(g, "val", "val", "var"), f.name, f.typ.src, initial)
		if initial == "" && g.chance(15) && !strings.HasSuffix(f.typ.src, "?") && !primitive(f.typ.src) {
			body = append(body, fmt.Sprintf("%slateinit var %s: %s", mark, f.name, f.typ.src))
			continue
		}
		if initial != "" && g.chance(25) {
			body = append(body, decl)
			continue
		}
		params = append(params, decl)
	}
	if g.chance(20) {
		body = append(body, pick(g, "val label: String get() = \"x\"", "val twice get() = 2", "val lazyOne: String by lazy { \"q\" }", "companion object { val shared = 3; const val MAX = 9 }",
			"init { println() }", "fun describe(): String { val inner = 3; return \"$inner\" }", "var count = 0\n        private set", "val sum = 1 + 2"))
		if strings.HasPrefix(body[len(body)-1], "init") {
			body = body[:len(body)-1]
		}
	}
	head := pick(g, "data class ", "data class ", "class ", "open class ") + name
	if len(params) == 0 {
		head = "class " + name
		if g.chance(30) {
			head += "()"
		}
	} else {
		head += "(" + strings.Join(params, pick(g, ", ", ",\n    ")) + pick(g, "", ",") + ")"
	}
	if len(body) > 0 {
		head += " {\n    " + strings.Join(body, "\n    ") + "\n}"
	}
	return head + "\n"
}

func primitive(src string) bool {
	switch src {
	case "Int", "Long", "Short", "Byte", "Float", "Double", "Boolean", "Char", "UInt":
		return true
	}
	return false
}

func (g *maker) kotlinFiles(root string) (models, api string) {
	models = "import com.google.gson.annotations.*\n\n" + strings.Join(g.classes, "\n")
	models = strings.ReplaceAll(models, `[\"`, `["`)
	api = fmt.Sprintf("import com.google.gson.*\nimport com.google.gson.reflect.TypeToken\n\nprivate val gson: Gson = %s\n\nfun load(json: String): %s? = gson.fromJson(json, %s)\n", strings.Replace(g.builder(), "new ", "", 1), root,
		pick(g, root+"::class.java", "object : TypeToken<"+root+">() {}.type"))
	return models, api
}
