package main

import (
	"fmt"
	"strings"
)

// reading is one way in which code of Dart reads a value: j stands for it in expr.
type reading struct {
	declared string // the type of the field
	expr     string
	sample   func() *value
}

func texts(of ...string) func(g *maker) func() *value { return scalar(of...) }

// dartScalars are readings of a scalar.
var dartScalars = []struct {
	declared, expr string
	make           func(g *maker) func() *value
}{
	{"int", "j", texts("1", "12", "-7")}, {"int", "j as int", texts("3")}, {"int?", "j", texts("3", "null")}, {"int?", "j as int?", texts("4")},
	{"int", "j ?? 7", texts("1")}, {"int", "(j as num).toInt()", texts("1", "2.5")}, {"int?", "(j as num?)?.toInt()", texts("1")},
	{"int", "j?.toInt() ?? 0", texts("1")}, {"int", "int.parse(j)", texts(`"12"`)}, {"int", "int.tryParse('$j') ?? -1", texts("1", `"3"`)},
	{"int", "j is int ? j : 0", texts("1")}, {"int", "j is String ? int.parse(j) : j as int", texts("1", `"4"`)}, {"int", "j * 2", texts("2")},
	{"int", "j.round()", texts("1.6")}, {"int", "(j ?? 0) + 1", texts("1")}, {"int", "j.length", texts(`"abc"`, "[1]")},
	{"double", "j", texts("1.5")}, {"double", "j as double", texts("2.5")}, {"double", "(j as num).toDouble()", texts("1", "2.5")}, {"double", "j.toDouble()", texts("1")},
	{"double?", "(j as num?)?.toDouble()", texts("1.5")}, {"double", "j == null ? 0.0 : j + 0.0", texts("1.5")}, {"double", "double.parse('$j')", texts("1", `"2.5"`)},
	{"double", "j / 100", texts("150")}, {"num", "j", texts("1", "1.5")}, {"num?", "num.tryParse(j.toString())", texts("1", `"x"`)},
	{"bool", "j", texts("true")}, {"bool", "j as bool? ?? false", texts("true")}, {"bool", "j == 1", texts("1", "0")}, {"bool", "j == 1 || j == true || j == '1'", texts("1", "true")},
	{"bool", "j != null", texts("1")}, {"bool?", "j", texts("false")}, {"bool", "j.toString() == 'true'", texts("true")}, {"bool", "!(j ?? false)", texts("true")},
	{"String", "j", texts(`"a"`)}, {"String", "j as String", texts(`"SAL"`)}, {"String?", "j", texts(`"a"`, "null")}, {"String", "j ?? ''", texts(`"a"`)}, {"String", "j.toString()", texts(`"a"`, "1")},
	{"String", "'$j!'", texts(`"a"`)}, {"String", "j.trim()", texts(`" a "`)}, {"String?", "(j as String?)?.toUpperCase()", texts(`"a"`)}, {"String", "j.split(',').first", texts(`"a,b"`)},
	{"String", "(j as String).substring(0, 2)", texts(`"abc"`)}, {"String", "j['a']", texts(`{"a":"x"}`)}, {"String?", "j?['a']?['b']", texts(`{"a":{"b":"x"}}`)}, {"String", "j[0]", texts(`["x"]`, `"xyz"`)},
	{"String", "(j as List).isEmpty ? 'none' : j.first", texts(`["x"]`, "[]")}, {"String", "j is Map ? j['name'] : j", texts(`{"name":"x"}`, `"y"`)},
	{"DateTime", "DateTime.parse(j)", texts(`"2026-03-01T09:30:00Z"`, `"2026-03-01"`)}, {"DateTime?", "DateTime.tryParse(j ?? '')", texts(`"2026-03-01"`)}, {"DateTime?", "j == null ? null : DateTime.parse(j as String)", texts(`"2026-03-01"`)},
	{"DateTime", "DateTime.fromMillisecondsSinceEpoch(j)", texts("1772357400000")}, {"DateTime", "DateTime.fromMillisecondsSinceEpoch((j as int) * 1000, isUtc: true)", texts("1772357400")},
	{"dynamic", "j", texts("1", `"a"`, "[1]", `{"a":1}`)}, {"Object?", "j", texts("1")}, {"Object", "j", texts("1")}, {"List", "j", texts("[1]")}, {"List<dynamic>", "j ?? []", texts("[1]")},
	{"Map<String, dynamic>", "j", texts(`{"a":1}`)}, {"Map<String, dynamic>?", "j as Map<String, dynamic>?", texts(`{"a":1}`)}, {"List<int>", "j ?? <int>[]", texts("[1]")},
	{"int", "switch (j) { int n => n, String s => s.length, [int n, ...] => n, {'a': int a} => a, null => -1, _ => -2 }", texts("1", `"abc"`, `{"a":4}`)},
	{"String", "switch (j) { 'a' || 'b' => 'first', num n when n > 10 => 'large', num _ => 'small', _ => 'other' }", texts(`"a"`, "12")},
	{"int", "(() { try { return j as int; } catch (_) { return -9; } })()", texts("1")},
	{"int?", "quiet(() => int.parse(j))", texts(`"1"`)}, {"String", "pick<String>(j, 'none')", texts(`"a"`)}, {"int", "pick<int>(j, 3)", texts("1")}, {"int?", "asT<int>(j)", texts("1")},
}

// dartLists are readings of a list whose elements are read by {e} into {T}.
var dartLists = []struct{ declared, expr string }{
	{"List<{T}>", "(j as List).map((e) => {e}).toList()"}, {"List<{T}>?", "(j as List<dynamic>?)?.map((e) => {e}).toList()"}, {"List<{T}>", "j.map((e) => {e}).toList()"},
	{"List<{T}>", "j.map<{T}>((e) => {e}).toList()"}, {"List<{T}>", "List<{T}>.from(j.map((e) => {e}))"}, {"List<{T}>", "[for (final e in j) {e}]"}, {"List<{T}>", "[for (final e in j as List) if (e != null) {e}]"},
	{"List<{T}>", "j == null ? [] : List.from(j).map((e) => {e}).toList()"}, {"List<{T}>", "((j ?? []) as List).map((e) => {e}).toList()"}, {"Set<{T}>", "(j as List).map((e) => {e}).toSet()"},
	{"{T}?", "(j as List).isEmpty ? null : (j as List).map((e) => {e}).first"}, {"List<{T}>", "List.generate(j.length, (i) { final e = j[i]; return {e}; })"},
	{"Iterable<{T}>", "(j as List).map((e) => {e})"}, {"List<{T}>", "collect(j, (e) => {e})"}, {"List<{T}>", "(j as Iterable).map((e) => {e}).toList(growable: false)"},
	{"int", "(j as List).map((e) => {e}).length"}, {"List<{T}>", "tryEach(j, (e) => {e})"},
}

var dartMaps = []struct{ declared, expr string }{
	{"Map<String, {T}>", "(j as Map<String, dynamic>).map((k, e) => MapEntry(k, {e}))"}, {"Map<String, {T}>?", "(j as Map<String, dynamic>?)?.map((k, e) => MapEntry(k, {e}))"},
	{"Map<String, {T}>", "{for (final m in (j as Map<String, dynamic>).entries) m.key: ((e) => {e})(m.value)}"}, {"Map<int, {T}>", "(j as Map<String, dynamic>).map((k, e) => MapEntry(int.parse(k), {e}))"},
	{"Map<String, {T}>", "Map<String, {T}>.from(j.map((k, e) => MapEntry(k, {e})))"}, {"List<{T}>", "(j as Map).values.map((e) => {e}).toList()"},
}

func (g *maker) dartScalar() reading {
	s := dartScalars[g.IntN(len(dartScalars))]
	return reading{declared: s.declared, expr: s.expr, sample: s.make(g)}
}

// dartReading makes a way of reading a value.
func (g *maker) dartReading(depth int) reading {
	if depth == 0 || g.chance(50) {
		return g.dartScalar()
	}
	fill := func(s string, of reading) string {
		return strings.NewReplacer("{T}", of.declared, "{e}", replaceJ(of.expr, "e")).Replace(s)
	}
	switch g.IntN(6) {
	case 0:
		return g.dartEnum()
	case 1, 2:
		of := g.dartReading(depth - 1)
		l := dartLists[g.IntN(len(dartLists))]
		declared := fill(l.declared, of)
		if strings.HasSuffix(declared, "??") || declared == "dynamic?" {
			declared = strings.TrimSuffix(declared, "?")
		}
		return reading{declared: declared, expr: fill(l.expr, of), sample: func() *value {
			v := &value{list: true}
			for range 1 + g.IntN(2) {
				v.elems = append(v.elems, of.sample())
			}
			return v
		}}
	case 3:
		of := g.dartReading(depth - 1)
		m := dartMaps[g.IntN(len(dartMaps))]
		keys := []string{"a", "b"}
		if strings.Contains(m.declared, "<int") {
			keys = []string{"1", "2"}
		}
		return reading{declared: fill(m.declared, of), expr: fill(m.expr, of), sample: func() *value {
			v := &value{}
			for _, k := range keys[:1+g.IntN(2)] {
				v.keys, v.elems = append(v.keys, k), append(v.elems, of.sample())
			}
			return v
		}}
	default:
		name, sample := g.dartModel("Part", depth-1)
		make := name + ".fromJson"
		if g.chance(20) {
			return reading{declared: name, expr: fmt.Sprintf("%s(j as Map<String, dynamic>)", make), sample: sample}
		}
		return pick(g,
			reading{declared: name, expr: make + "(j)", sample: sample},
			reading{declared: name + "?", expr: fmt.Sprintf("j == null ? null : %s(j)", make), sample: sample},
			reading{declared: name + "?", expr: fmt.Sprintf("j is Map<String, dynamic> ? %s(j) : null", make), sample: sample},
			reading{declared: name + "?", expr: fmt.Sprintf("quiet(() => %s(j))", make), sample: sample},
		)
	}
}

// replaceJ puts another name in the place of j in an expression.
func replaceJ(expr, name string) string {
	var b strings.Builder
	for i := 0; i < len(expr); i++ {
		c := expr[i]
		word := func(c byte) bool { return c == '_' || c|0x20 >= 'a' && c|0x20 <= 'z' || c >= '0' && c <= '9' }
		if c == 'j' && (i == 0 || !word(expr[i-1])) && (i+1 == len(expr) || !word(expr[i+1])) {
			if i > 0 && expr[i-1] == '$' {
				b.WriteString("{" + name + "}")
			} else {
				b.WriteString(name)
			}
			continue
		}
		b.WriteByte(c)
	}
	return b.String()
}

func (g *maker) dartEnum() reading {
	name := g.class("Kind")
	good := []string{"red", "green", "darkBlue"}
	sent := good
	src := fmt.Sprintf("enum %s { red, green, darkBlue }\n", name)
	expr := ""
	switch g.IntN(7) {
	case 0:
		expr = name + ".values.byName(j)"
	case 1:
		expr = fmt.Sprintf("%s.values.firstWhere((x) => x.name == j)", name)
	case 2:
		expr = fmt.Sprintf("%s.values.firstWhere((x) => x.name == j, orElse: () => %s.red)", name, name)
	case 3:
		sent = []string{"r", "g", "b"}
		src = fmt.Sprintf("enum %s { red('r'), green('g'), darkBlue('b'); const %s(this.code); final String code;\n  static %s of(String s) => values.firstWhere((x) => x.code == s, orElse: () => throw ArgumentError('no %s $s'));\n}\n", name, name, name, name)
		expr = name + ".of(j)"
	case 4:
		sent = []string{"r", "g", "b"}
		src += fmt.Sprintf("const by%s = {'r': %s.red, 'g': %s.green, 'b': %s.darkBlue};\n", name, name, name, name)
		g.classes = append(g.classes, src)
		return reading{declared: name, expr: fmt.Sprintf("by%s[j]!", name), sample: func() *value { return &value{text: fmt.Sprintf("%q", pick(g, sent...))} }}
	case 5:
		src += fmt.Sprintf("%s to%s(dynamic v) { switch (v) { case 'red': return %s.red; case 'green': case 'GREEN': return %s.green; default: return %s.darkBlue; } }\n", name, name, name, name, name)
		expr = fmt.Sprintf("to%s(j)", name)
	default:
		src += fmt.Sprintf("extension On%s on String { %s as%s() => switch (this) { 'red' => %s.red, 'green' => %s.green, _ => throw FormatException(this) }; }\n", name, name, name, name, name)
		expr = fmt.Sprintf("(j as String).as%s()", name)
	}
	g.classes = append(g.classes, src)
	return reading{declared: name, expr: expr, sample: func() *value { return &value{text: fmt.Sprintf("%q", pick(g, sent...))} }}
}

// dartModel makes a class with the code that reads it.
func (g *maker) dartModel(prefix string, depth int) (string, func() *value) {
	name := g.class(prefix)
	names := append([]string(nil), fieldNames...)
	g.Shuffle(len(names), func(i, j int) { names[i], names[j] = names[j], names[i] })
	var fields []field
	var reads []reading
	for _, n := range names[:2+g.IntN(4)] {
		n = strings.TrimPrefix(n, "_")
		key := pick(g, n, n, "k_"+n)
		r := g.dartReading(depth)
		fields, reads = append(fields, field{name: n, key: key, typ: typ{r.declared, r.sample}}), append(reads, r)
	}
	j := func(f field) string { return fmt.Sprintf("json['%s']", f.key) }
	var decls, args, inits, body, params strings.Builder
	style := g.IntN(6)
	var b strings.Builder
	for i, f := range fields {
		expr := replaceJ(reads[i].expr, j(f))
		if strings.Contains(reads[i].expr, "'$j") {
			expr = replaceJ(reads[i].expr, j(f))
		}
		final := "final "
		if style == 3 || style == 4 {
			final = pick(g, "late ", "late final ")
			if style == 4 || strings.HasSuffix(f.typ.src, "?") {
				final = "late "
			}
		}
		fmt.Fprintf(&decls, "  %s%s %s;\n", final, f.typ.src, f.name)
		fmt.Fprintf(&args, "%s: %s, ", f.name, expr)
		if i > 0 {
			inits.WriteString(",\n        ")
		}
		fmt.Fprintf(&inits, "%s = %s", f.name, expr)
		if style == 3 {
			local := fmt.Sprintf("v%d", i)
			fmt.Fprintf(&body, "    final %s = %s;\n    %s = %s;\n", local, j(f), f.name, replaceJ(reads[i].expr, local))
		} else {
			fmt.Fprintf(&body, "    %s = %s;\n", f.name, expr)
		}
		required := "required "
		if strings.HasSuffix(f.typ.src, "?") || f.typ.src == "dynamic" {
			required = pick(g, "required ", "")
		}
		fmt.Fprintf(&params, "%sthis.%s, ", required, f.name)
	}
	fmt.Fprintf(&b, "class %s {\n%s", name, decls.String())
	switch style {
	case 0, 1:
		fmt.Fprintf(&b, "  %s({%s});\n  factory %s.fromJson(Map<String, dynamic> json) => %s(%s);\n", name, params.String(), name, name, args.String())
	case 2:
		fmt.Fprintf(&b, "  %s.fromJson(Map<String, dynamic> json)\n      : %s;\n", name, inits.String())
	case 3:
		fmt.Fprintf(&b, "  %s.fromJson(Map<String, dynamic> json) {\n%s  }\n", name, body.String())
	case 4:
		fmt.Fprintf(&b, "  %s();\n  static %s fromJson(Map<String, dynamic> json) {\n    final it = %s();\n", name, name, name)
		for i, f := range fields {
			fmt.Fprintf(&b, "    it.%s = %s;\n", f.name, replaceJ(reads[i].expr, j(f)))
		}
		b.WriteString("    return it;\n  }\n")
	default:
		fmt.Fprintf(&b, "  const %s({%s});\n  factory %s.fromJson(Map<String, dynamic> json) {\n", name, params.String(), name)
		for i, f := range fields {
			fmt.Fprintf(&b, "    final %s v%d = %s;\n", f.typ.src, i, replaceJ(reads[i].expr, j(f)))
		}
		b.WriteString("    return " + name + "(")
		for i, f := range fields {
			fmt.Fprintf(&b, "%s: v%d, ", f.name, i)
		}
		b.WriteString(");\n  }\n")
	}
	b.WriteString("}\n")
	g.classes = append(g.classes, b.String())
	var show strings.Builder
	fmt.Fprintf(&show, "  if (v is %s) return '{", name)
	for i, f := range fields {
		if i > 0 {
			show.WriteString(",")
		}
		fmt.Fprintf(&show, "\"%s\":${show(v.%s)}", f.name, f.name)
	}
	show.WriteString("}';\n")
	g.shows = append(g.shows, show.String())
	return name, g.sample(fields)
}

const dartHelpers = `T? asT<T>(dynamic x) => x is T ? x : null;
T pick<T>(dynamic x, T or) { if (x is T) { return x; } return or; }
T? quiet<T>(T Function() f) { try { return f(); } catch (_) { return null; } }
List<T> collect<T>(dynamic v, T Function(dynamic) one) {
  final out = <T>[];
  if (v != null) {
    v.forEach((x) { out.add(one(x)); });
  }
  return out;
}
List<T> tryEach<T>(dynamic v, T Function(dynamic) one) {
  final out = <T>[];
  for (final x in (v as List? ?? const [])) {
    try { out.add(one(x)); } on TypeError { continue; } catch (e) { break; }
  }
  return out;
}
`

// dartFile makes the files of one model.
func (g *maker) dartFile() string {
	root, sample := g.dartModel("Sailing", 2)
	docs := []string{sample().String(), sample().String(), "{}"}
	for range 12 {
		v := sample()
		g.change(v)
		for g.chance(30) {
			g.change(v)
		}
		docs = append(docs, v.String())
	}
	if g.chance(30) {
		docs = append(docs, pick(g, "null", "[]", `"x"`, "1", "["+sample().String()+"]"))
	}
	enums := ""
	for _, c := range g.classes {
		if strings.HasPrefix(c, "enum ") {
			enums += fmt.Sprintf("  if (v is %s) return '\"${v.name}\"';\n", strings.Fields(c)[1])
		}
	}
	models := dartHelpers + strings.Join(g.classes, "")
	api := fmt.Sprintf("import 'dart:convert';\nimport 'models.dart';\n\n%s load(String body) => %s.fromJson(jsonDecode(body));\n", root, root)
	return fmt.Sprintf("-- lib/models.dart --\n%s-- lib/api.dart --\n%s-- show --\n%s%s-- root --\n%s\n-- docs --\n%s\n", models, api, strings.Join(g.shows, ""), enums, root, strings.Join(docs, "\n"))
}
