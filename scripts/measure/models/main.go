// Command models writes model files from a seed, for Measure.java, or the VM of Dart, to run:
//
//	go run ./scripts/measure/models -kind gson -n 100 -seed 1 -o DIR
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
	kind := flag.String("kind", "gson", "gson, jackson, orgjson, kotlin, kotlin-jackson, kotlin-moshi, kotlin-kotlinx, kotlin-orgjson, lombok-gson, lombok-jackson, dart")
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
	kind      string
	classes   []string // their sources
	names     int
	keys      []string
	kinds     []kindOf
	wires     []string
	elsewhere bool     // classes that are read by hand are read by functions of another
	readers   []string // which are these
	shows     []string // of Dart: how instances are written
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
	if g.strict() {
		return g.strictScalar()
	}
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
	if g.kotlin() && g.jackson() && style != 1 {
		style = pick(g, 0, 3)
	}
	for i, c := range good {
		if style == 1 && g.chance(60) {
			sent[i] = strings.ToLower(c)
			if g.moshi() {
				c = fmt.Sprintf("@Json(name = %q) %s", sent[i], c)
			} else if g.kotlinx() {
				c = fmt.Sprintf("@SerialName(%q) %s", sent[i], c)
			} else if g.jackson() {
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
	unwrapped bool   // its members are those of the object around it
	prefix    string // of their names then
}

func (g *maker) fields(depth int) []field {
	names := append([]string(nil), fieldNames...)
	g.Shuffle(len(names), func(i, j int) { names[i], names[j] = names[j], names[i] })
	var out []field
	for _, n := range names[:2+g.IntN(4)] {
		out = append(out, field{name: n, key: n, typ: g.typ(depth)})
	}
	return out
}

func (g *maker) sample(fields []field) func() *value {
	return func() *value {
		v := &value{}
		for _, f := range fields {
			s := f.typ.sample()
			g.keys = append(g.keys, f.key)
			if f.unwrapped && s.text == "" && !s.list {
				for i, k := range s.keys {
					v.keys, v.elems = append(v.keys, f.prefix+k), append(v.elems, s.elems[i])
				}
				continue
			}
			v.keys, v.elems = append(v.keys, f.key), append(v.elems, s)
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
			v.keys[i] = pick(g, strings.ToLower(k), strings.ToUpper(k), strings.ToUpper(k[:1])+k[1:], strings.ToLower(k[:1])+k[1:], "_"+k, parted(k, "_"), parted(k, "-"), parted(k, "."), strings.ToUpper(parted(k, "_")), joined(k))
			return
		}
		v.elems[i] = &value{text: "null"}
	default:
		v.elems[i] = &value{text: pick(g, g.wires...)}
	}
}

func (g *maker) file() string {
	if g.kind == "dart" {
		return g.dartFile()
	}
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
		for g.chance(30) { // which of several faults is told shows in what order members are read
			g.change(v)
		}
		docs = append(docs, v.String())
	}
	if g.chance(30) {
		docs = append(docs, pick(g, "null", "[]", `"x"`, "1", "["+sample().String()+"]"))
	}
	build := ""
	if g.kind == "kotlin-jackson" { // its Kotlin module does one thing or another by its version
		build = "-- build.gradle.kts --\ndependencies { implementation(\"com.fasterxml.jackson.module:jackson-module-kotlin:2.14.0\") }\n"
	}
	return build + fmt.Sprintf("-- Models%s --\n%s-- Api%s --\n%s-- root --\n%s\n-- docs --\n%s\n", ending, models, ending, api, root, strings.Join(docs, "\n"))
}

// parted is a name with something between its words, all of them small; joined is it without
// anything between them.
func parted(name, by string) string {
	var b strings.Builder
	for i, r := range name {
		if r >= 'A' && r <= 'Z' && i > 0 && name[i-1] >= 'a' && name[i-1] <= 'z' {
			b.WriteString(by)
		}
		b.WriteRune(r)
	}
	return strings.ToLower(strings.ReplaceAll(b.String(), "_", by))
}

func joined(name string) string {
	words := strings.Split(name, "_")
	for i := 1; i < len(words); i++ {
		if words[i] != "" {
			words[i] = capital(words[i])
		}
	}
	return strings.Join(words, "")
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
