package dart

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// generator writes the part that a new run of the generator for @JsonSerializable would write of a class, as version
// 6.9 of it does: what the class's annotations say.
type generator struct {
	class   *code.Class
	of      func(name string) *code.Class // the class that a name means
	funcs   func(name string) *code.Func
	named   map[string]*code.Expr // what stands for expressions of the source
	enums   []string
	helpers map[string]bool
	why     string // what is not known of it, "" for nothing
}

// annotation is one of a declaration by its name, nil for none.
func annotation(marks []*code.Expr, names ...string) *code.Expr {
	for _, m := range marks {
		name := m
		if m.Op == code.Call {
			name = m.Args[0]
		}
		if slices.Contains(names, name.Text) {
			return m
		}
	}
	return nil
}

// said is what an annotation says under a name, nil for nothing.
func said(mark *code.Expr, name string) *code.Expr {
	if mark == nil || mark.Op != code.Call {
		return nil
	}
	for i, l := range mark.Labels {
		if l == name {
			return mark.Args[1+i]
		}
	}
	return nil
}

func isTrue(x *code.Expr) bool  { return x != nil && x.Op == code.Name && x.Text == "true" }
func isFalse(x *code.Expr) bool { return x != nil && x.Op == code.Name && x.Text == "false" }

// use is a name that stands for an expression of the source.
func (g *generator) use(x *code.Expr) string {
	name := fmt.Sprintf("source$%d", len(g.named))
	g.named[name] = x
	return name
}

// renamed is a field's name as fieldRename has it.
func renamed(name, how string) string {
	if how == "" || how == "none" {
		return name
	}
	var b strings.Builder
	for i, r := range name {
		upper := r >= 'A' && r <= 'Z'
		switch {
		case upper && how != "pascal" && i > 0:
			if how == "kebab" {
				b.WriteByte('-')
			} else {
				b.WriteByte('_')
			}
			b.WriteRune(r)
		case how == "pascal" && i == 0:
			b.WriteString(strings.ToUpper(string(r)))
		default:
			b.WriteRune(r)
		}
	}
	switch how {
	case "snake", "kebab":
		return strings.ToLower(b.String())
	case "screamingSnake":
		return strings.ToUpper(b.String())
	}
	return b.String()
}

// write is the text of the part, with the names of expressions of the source in it.
func (g *generator) write() string {
	mark := annotation(g.class.Marks, "JsonSerializable", "jsonSerializable")
	how := ""
	if r := said(mark, "fieldRename"); r != nil && r.Op == code.Member && r.Text != "none" {
		how = r.Text
	}
	ctorName := g.class.Name
	if c := said(mark, "constructor"); c != nil && c.Op == code.Text && c.Text != "" {
		ctorName = c.Text
	}
	var ctor *code.Func
	for _, f := range g.class.Funcs {
		if f.Init && f.Name == ctorName {
			ctor = f
		}
	}
	if ctor == nil && ctorName == g.class.Name {
		ctor = &code.Func{Name: ctorName}
	}
	if ctor == nil {
		g.why = "its constructor is not in the source"
		return ""
	}
	fields := map[string]*code.Prop{}
	var order []*code.Prop
	for c := g.class; c != nil; {
		var own []*code.Prop
		for _, p := range c.Props {
			if !p.Static {
				fields[p.Name] = p
				own = append(own, p)
			}
		}
		order = append(own, order...)
		if c.Extends == nil {
			break
		}
		c = g.of(c.Extends.Name)
	}
	read := map[string]bool{}
	reads := func(p *code.Prop, param *code.Param) (string, bool) {
		marks := p.Marks
		if param != nil && annotation(param.Marks, "JsonKey") != nil {
			marks = param.Marks
		}
		key := annotation(marks, "JsonKey")
		if isTrue(said(key, "ignore")) || isFalse(said(key, "includeFromJson")) || strings.HasPrefix(p.Name, "_") && !isTrue(said(key, "includeFromJson")) {
			return "", false
		}
		name := renamed(p.Name, how)
		if n := said(key, "name"); n != nil && n.Op == code.Text {
			name = n.Text
		}
		t := p.Type
		if param != nil && param.Type != nil {
			t = param.Type
		}
		var otherwise *code.Expr
		if param != nil {
			otherwise = param.Default
		}
		if d := said(key, "defaultValue"); d != nil {
			otherwise = d
		}
		return g.field(t, name, key, marks, otherwise), true
	}
	var args []string
	for i := range ctor.Params {
		param := &ctor.Params[i]
		p := fields[param.Name]
		if p == nil {
			p = &code.Prop{Name: param.Name, Type: param.Type}
		}
		text, ok := reads(p, param)
		read[param.Name] = true
		if !ok {
			if param.Label == "" && !param.Optional {
				args = append(args, "null")
			}
			continue
		}
		if param.Label != "" {
			text = param.Label + ": " + text
		}
		args = append(args, text)
	}
	var sets strings.Builder
	for _, p := range order {
		if read[p.Name] || p.Final && (!p.Late || p.Value != nil) {
			continue
		}
		if text, ok := reads(p, nil); ok {
			fmt.Fprintf(&sets, "\n    ..%s = %s", p.Name, text)
		}
	}
	name := g.class.Name
	if ctorName != name {
		name += "." + ctorName
	}
	var b strings.Builder
	typed, params := "", "Map<String, dynamic> json"
	if len(g.class.Generics) > 0 {
		typed = "<" + strings.Join(g.class.Generics, ", ") + ">"
		for _, t := range g.class.Generics {
			params += fmt.Sprintf(", %s Function(Object? json) fromJson%s", t, t)
		}
	}
	checks := ""
	var required, full []string
	for _, p := range order {
		key := annotation(p.Marks, "JsonKey")
		n := renamed(p.Name, how)
		if s := said(key, "name"); s != nil && s.Op == code.Text {
			n = s.Text
		}
		if isTrue(said(key, "required")) {
			required = append(required, "'"+n+"'")
		}
		if isTrue(said(key, "disallowNullValue")) {
			full = append(full, "'"+n+"'")
		}
	}
	if len(required)+len(full) > 0 {
		checks = fmt.Sprintf("  $checkKeys(json, requiredKeys: const [%s], disallowNullValues: const [%s]);\n", strings.Join(required, ", "), strings.Join(full, ", "))
	}
	fmt.Fprintf(&b, "%s%s _$%sFromJson%s(%s) {\n%s  return %s(%s)%s;\n}\n", g.class.Name, typed, g.class.Name, typed, params, checks, name+typed, strings.Join(args, ", "), sets.String())
	for _, e := range g.enums {
		b.WriteString(e)
	}
	b.WriteString("V? _$JsonConverterFromJson<J, V>(Object? json, V? Function(J json) fromJson) => json == null ? null : fromJson(json as J);\n")
	b.WriteString("T? _$nullableGenericFromJson<T>(Object? input, T Function(Object? json) fromJson) => input == null ? null : fromJson(input);\n")
	return b.String()
}

// field is how one is read.
func (g *generator) field(t *model.Type, name string, key *code.Expr, marks []*code.Expr, otherwise *code.Expr) string {
	value := "json['" + strings.ReplaceAll(name, "'", `\'`) + "']"
	if r := said(key, "readValue"); r != nil {
		value = fmt.Sprintf("%s(json, '%s')", g.use(r), name)
	}
	if f := said(key, "fromJson"); f != nil {
		cast := ""
		if f.Op == code.Name {
			if fn := g.funcs(f.Text); fn != nil && len(fn.Params) > 0 && fn.Params[0].Type != nil {
				if w := fn.Params[0].Type.Written(); w != "dynamic" && w != "Object?" {
					cast = " as " + w
				}
			}
		}
		return g.otherwise(fmt.Sprintf("%s(%s%s)", g.use(f), value, cast), otherwise)
	}
	unknown := ""
	if u := said(key, "unknownEnumValue"); u != nil {
		unknown = ", unknownValue: " + g.use(u)
	}
	null := otherwise != nil
	if text, ok := g.converted(t, value, append(append([]*code.Expr{}, marks...), g.class.Marks...)); ok {
		return g.otherwise(text, otherwise)
	}
	return g.otherwise(g.read(t, value, null, unknown, 0), otherwise)
}

func (g *generator) otherwise(text string, x *code.Expr) string {
	if x == nil {
		return text
	}
	return text + " ?? " + g.use(x)
}

// converted is how a converter among the annotations reads a value; ok is false where none is for the type.
func (g *generator) converted(t *model.Type, value string, marks []*code.Expr) (string, bool) {
	if t == nil {
		return "", false
	}
	for _, m := range marks {
		name := m
		if m.Op == code.Call {
			name = m.Args[0]
		}
		c := g.of(name.Text)
		if c == nil {
			continue
		}
		for _, s := range c.Supers {
			if s.Name != "JsonConverter" || len(s.Args) != 2 {
				continue
			}
			own, sent := s.Args[0].Written(), s.Args[1].Written()
			switch t.Written() {
			case own:
				return fmt.Sprintf("const %s().fromJson(%s as %s)", name.Text, value, sent), true
			case own + "?":
				return fmt.Sprintf("_$JsonConverterFromJson<%s, %s>(%s, const %s().fromJson)", sent, own, value, name.Text), true
			}
		}
	}
	return "", false
}

// read is how a value of a type is read; null says that it may be null though the type says not.
func (g *generator) read(t *model.Type, value string, null bool, unknown string, deep int) string {
	if t == nil || t.Name == "dynamic" {
		return value
	}
	if t.Kind == model.Optional {
		null, t = true, t.Args[0]
	}
	mark, dot := "", "."
	if null {
		mark, dot = "?", "?."
	}
	orNull := func(text string) string {
		if null {
			return fmt.Sprintf("%s == null ? null : %s", value, text)
		}
		return text
	}
	elem := fmt.Sprintf("e%d", deep)
	if slices.Contains(g.class.Generics, t.Name) {
		if null {
			return fmt.Sprintf("_$nullableGenericFromJson(%s, fromJson%s)", value, t.Name)
		}
		return fmt.Sprintf("fromJson%s(%s)", t.Name, value)
	}
	arg := func(i int) *model.Type {
		if i < len(t.Args) {
			return t.Args[i]
		}
		return nil
	}
	switch t.Name {
	case "String", "bool", "num", "Object":
		return value + " as " + t.Name + mark
	case "int":
		return fmt.Sprintf("(%s as num%s)%stoInt()", value, mark, dot)
	case "double":
		return fmt.Sprintf("(%s as num%s)%stoDouble()", value, mark, dot)
	case "DateTime", "Uri", "BigInt":
		return orNull(fmt.Sprintf("%s.parse(%s as String)", t.Name, value))
	case "Duration":
		return orNull(fmt.Sprintf("Duration(microseconds: (%s as num).toInt())", value))
	case "List", "Set", "Iterable":
		if arg(0) == nil || arg(0).Name == "dynamic" {
			return fmt.Sprintf("%s as List<dynamic>%s", value, mark)
		}
		text := fmt.Sprintf("(%s as List<dynamic>%s)%smap((%s) => %s)", value, mark, dot, elem, g.read(arg(0), elem, false, unknown, deep+1))
		switch t.Name {
		case "List":
			text += ".toList()"
		case "Set":
			text += ".toSet()"
		}
		return text
	case "Map":
		if arg(1) == nil || arg(1).Name == "dynamic" {
			return fmt.Sprintf("%s as Map<String, dynamic>%s", value, mark)
		}
		k := "k"
		switch {
		case arg(0).Name == "int":
			k = "int.parse(k)"
		case g.of(arg(0).Name) != nil && g.of(arg(0).Name).Kind == "enum":
			k = fmt.Sprintf("$enumDecode(%s, k)", g.enum(g.of(arg(0).Name)))
		}
		return fmt.Sprintf("(%s as Map<String, dynamic>%s)%smap((k, %s) => MapEntry(%s, %s))", value, mark, dot, elem, k, g.read(arg(1), elem, false, unknown, deep+1))
	}
	c := g.of(t.Name)
	if c == nil {
		g.why = "the type " + t.Written() + " is not in the source"
		return value
	}
	if c.Kind == "enum" {
		if null {
			return fmt.Sprintf("$enumDecodeNullable(%s, %s%s)", g.enum(c), value, unknown)
		}
		return fmt.Sprintf("$enumDecode(%s, %s%s)", g.enum(c), value, unknown)
	}
	cast := "Map<String, dynamic>"
	for _, f := range c.Funcs {
		if f.Name == "fromJson" && len(f.Params) > 0 {
			if p := f.Params[0].Type; p != nil {
				cast = p.Written()
			}
			more := ""
			for i := range t.Args {
				more += fmt.Sprintf(", (%s) => %s", elem, g.read(t.Args[i], elem, false, "", deep+1))
			}
			return orNull(fmt.Sprintf("%s.fromJson(%s as %s%s)", t.Written(), value, cast, more))
		}
	}
	g.why = "the class " + c.Name + " has no fromJson"
	return value
}

// enum is the name of the map of an enum's constants.
func (g *generator) enum(c *code.Class) string {
	name := "_$" + c.Name + "EnumMap"
	if g.helpers[name] {
		return name
	}
	g.helpers[name] = true
	how := ""
	if r := said(annotation(c.Marks, "JsonEnum"), "fieldRename"); r != nil && r.Op == code.Member {
		how = r.Text
	}
	var b strings.Builder
	fmt.Fprintf(&b, "const %s = {\n", name)
	for _, n := range c.Order {
		value := "'" + renamed(n, how) + "'"
		if m := annotation(c.OfCase[n], "JsonValue"); m != nil && len(m.Args) == 2 {
			value = g.use(m.Args[1])
		}
		fmt.Fprintf(&b, "  %s.%s: %s,\n", c.Name, n, value)
	}
	b.WriteString("};\n")
	g.enums = append(g.enums, b.String())
	return name
}

// unit is the part as a file that belongs to that of the class; why says what is not known of it.
func (g *generator) unit(name string) (u *code.Unit, why string) {
	text := g.write()
	if g.why != "" {
		return nil, g.why
	}
	u = Parse(scan.Scan(name, text, dialect))
	put := func(x *code.Expr) {
		if x.Op == code.Name {
			if of := g.named[x.Text]; of != nil {
				*x = *of
			}
		}
	}
	for _, f := range u.Funcs {
		code.WalkBody(f.Body, put)
	}
	for _, p := range u.Props {
		code.Walk(p.Value, put)
	}
	return u, ""
}
