package main

import (
	"fmt"
	"strings"
)

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
		to := n // what is assigned to
		if g.elsewhere {
			to = "p." + n
		}
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
				loop := fmt.Sprintf("for (int i = 0; i < %s.length(); i++) { %s.add(%s.%s(i)); }\n", v, to, v, get)
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
			if g.elsewhere {
				make = "Reader." + readerOf(inner)
			}
			t = typ{"", sample}
			if kind == "objects" {
				t.sample = func() *value { return &value{list: true, elems: []*value{sample(), sample()}} }
			}
			switch {
			case g.kotlin() && kind == "object":
				decl = fmt.Sprintf("val %s: %s%%s", n, inner+"?")
				read = pick(g, fmt.Sprintf("o.optJSONObject(%s)?.let { %s(it) }", q, make), fmt.Sprintf("%s(o.getJSONObject(%s))", make, q), fmt.Sprintf("if (o.isNull(%s)) null else %s(o.getJSONObject(%s))", q, make, q))
			case g.kotlin():
				decl = fmt.Sprintf("val %s: List<%s>%%s", n, inner)
				read = fmt.Sprintf("o.getJSONArray(%s).let { a -> (0 until a.length()).map { %s(a.getJSONObject(it)) } }", q, make)
			case kind == "object":
				decl = inner + " " + n
				read = pick(g, fmt.Sprintf("%s = %s(o.getJSONObject(%s));\n", to, make, q),
					fmt.Sprintf("JSONObject %s = o.optJSONObject(%s);\n        if (%s != null) { %s = %s(%s); }\n", v, q, v, to, make, v),
					fmt.Sprintf("%s = o.has(%s) ? %s(o.getJSONObject(%s)) : null;\n", to, q, make, q))
			default:
				decl = fmt.Sprintf("List<%s> %s = new ArrayList<>()", inner, n)
				read = fmt.Sprintf("JSONArray %s = o.getJSONArray(%s);\n        for (int i = 0; i < %s.length(); i++) { %s.add(%s(%s.getJSONObject(i))); }\n", v, q, v, to, make, v)
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
				exprs[i] = to + " = " + exprs[i] + ";\n"
			}
			read = pick(g, append(exprs, fmt.Sprintf("%s = o.has(%s) ? o.get%s(%s) : %s;\n", to, q, word, q, fallback), fmt.Sprintf("if (!o.isNull(%s)) { %s        }\n", q, exprs[0]),
				fmt.Sprintf("if (o.has(%s)) %s", q, exprs[0]), fmt.Sprintf("%s = o.isNull(%s) ? %s : o.get%s(%s);\n", to, q, fallback, word, q))...)
		}
		fields = append(fields, field{name: n, key: key, typ: t})
		switch {
		case g.kotlin() && g.elsewhere:
			fmt.Fprintf(&decls, "    %s,\n", fmt.Sprintf(decl, ""))
			fmt.Fprintf(&body, "        %s = %s,\n", n, read)
		case g.kotlin():
			fmt.Fprintf(&decls, "    %s\n", fmt.Sprintf(decl, " = "+read))
		default:
			fmt.Fprintf(&decls, "    %s;\n", decl)
			fmt.Fprintf(&body, "        %s", read)
		}
	}
	switch {
	case g.kotlin() && g.elsewhere:
		g.classes = append(g.classes, fmt.Sprintf("class %s(\n%s)\n", name, decls.String()))
		g.readers = append(g.readers, fmt.Sprintf("    fun %s(o: JSONObject): %s = %s(\n%s    )\n", readerOf(name), name, name, body.String()))
	case g.kotlin():
		g.classes = append(g.classes, fmt.Sprintf("class %s(o: JSONObject) {\n%s}\n", name, decls.String()))
	case g.elsewhere:
		g.classes = append(g.classes, fmt.Sprintf("class %s {\n%s}\n", name, decls.String()))
		g.readers = append(g.readers, fmt.Sprintf("    static %s %s(JSONObject o) throws JSONException {\n        %s p = new %s();\n%s        return p;\n    }\n", name, readerOf(name), name, name, body.String()))
	default:
		g.classes = append(g.classes, fmt.Sprintf("class %s {\n%s    %s(JSONObject o) throws JSONException {\n%s    }\n}\n", name, decls.String(), name, body.String()))
	}
	return g.sample(fields)
}

// readerOf is the function that reads a class where the class does not do so itself.
func readerOf(class string) string { return strings.ToLower(class[:1]) + class[1:] }

// handFile is a file of classes that read JSON objects themselves, or that a class of functions reads.
func (g *maker) handFile() (sample func() *value, root, models, api string) {
	g.elsewhere = g.chance(50)
	root = g.class("Sailing")
	sample = g.byHand(root, 2)
	make := root
	if g.elsewhere {
		make = "Reader." + readerOf(root)
		head := "class Reader {\n"
		if g.kotlin() {
			head = "object Reader {\n"
		}
		g.classes = append(g.classes, head+strings.Join(g.readers, "")+"}\n")
	}
	if g.kotlin() {
		models = "import org.json.*\n\n" + strings.Join(g.classes, "\n")
		return sample, root, models, fmt.Sprintf("import org.json.*\n\nfun load(json: String): %s = %s(JSONObject(json))\n", root, make)
	}
	if !g.elsewhere {
		make = "new " + make
	}
	models = "import java.util.*;\nimport org.json.*;\n\n" + strings.Join(g.classes, "\n")
	return sample, root, models, fmt.Sprintf("import org.json.*;\n\nclass Api {\n    %s load(String json) throws JSONException {\n        return %s(new JSONObject(json));\n    }\n}\n", root, make)
}
