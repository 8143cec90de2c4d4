package eval_test

import (
	"errors"
	"testing"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/eval"
	"vetta/internal/model"
	"vetta/internal/source/lower"
	"vetta/internal/source/scan"
)

var dialects = map[string]*scan.Dialect{
	"kotlin": {Quotes: `"`, StringAt: func(s *scan.Scanner) (scan.Token, bool) { return s.Simple(0) }, EndsLines: true},
	"java":   {Quotes: `"`, StringAt: func(s *scan.Scanner) (scan.Token, bool) { return s.Simple(0) }},
}

// body reads statements of a language whose types are names, perhaps nullable.
func body(language, text string) []code.Stmt {
	f := scan.Scan("Kind."+language, text, dialects[language])
	typ := func(at int) (*model.Type, int) {
		if f.KindAt(at) != scan.Ident {
			return nil, at
		}
		t := &model.Type{Kind: model.Named, Name: f.Word(at)}
		if at++; f.Is(at, "<") && f.Is(at+2, ">") {
			at += 3
		}
		return t, at
	}
	return lower.Body(f, lower.Language{Name: language, Type: typ, Resolve: func(t *model.Type, _ string, _ []string) *model.Type { return t }}, 0, f.Len())
}

// app is the scope of the snippets: an enum of kinds of berths, and a port.
type app struct{ language string }

var kind = &model.Model{Name: "Kind", Language: "kotlin", Kind: model.Enum, Cases: []*model.Case{
	{Name: "QUAY", Args: []*model.Literal{{Kind: model.IntLiteral, Text: "1", Source: "1"}}},
	{Name: "BUOY", Args: []*model.Literal{{Kind: model.IntLiteral, Text: "2", Source: "2"}}},
}, Ctors: []*model.Method{{Params: []*model.Parameter{{Name: "code", Type: &model.Type{Kind: model.Named, Name: "Int"}}}}}}

var port = &model.Model{Name: "Port", Language: "kotlin", Kind: model.Class,
	Fields: []*model.Field{{Name: "code", Type: &model.Type{Kind: model.Named, Name: "String"}}, {Name: "depth", Type: &model.Type{Kind: model.Named, Name: "Double"}}},
	Ctors:  []*model.Method{{Params: []*model.Parameter{{Name: "code"}, {Name: "depth"}}}},
}

func (a app) Class(name string) *model.Model {
	return map[string]*model.Model{"Kind": kind, "Port": port}[name]
}

func (a app) Value(name string) (*code.Expr, code.Scope) {
	if name != "unit" {
		return nil, nil
	}
	return body(a.language, `"m"`)[0].Value, a
}

func (a app) Routine(name string) *code.Routine {
	switch name {
	case "metres":
		return &code.Routine{Name: name, Params: []string{"s"}, Body: body(a.language, `return s.removeSuffix(unit).toDouble()`), Scope: a}
	case "forever":
		return &code.Routine{Name: name, Params: []string{"s"}, Body: body(a.language, `return forever(s)`), Scope: a}
	}
	return nil
}

// TestRun: what code makes of a value x, what it throws, and what of it is not followed.
func TestRun(t *testing.T) {
	text, number, list := eval.Text("4.5m"), eval.Int(2), eval.List(eval.Int(3), eval.Value{}, eval.Int(1))
	for _, c := range []struct {
		language, code string
		x              eval.Value
		want           string
	}{
		{"kotlin", `return x.removeSuffix("m").trim().toDouble()`, text, `4.5`},
		{"kotlin", `return x.toInt()`, text, `NumberFormatException: For input string: "4.5m"`},
		{"kotlin", `return x.toIntOrNull() ?: -1`, text, `-1`},
		{"kotlin", `return metres(x)`, text, `4.5`},
		{"kotlin", `return forever(x)`, text, `?`},
		{"kotlin", `return Kind.entries.find { it.code == x } ?: throw Lost("no kind")`, number, `"BUOY"`},
		{"kotlin", `return Kind.entries.find { it.code == x } ?: throw Lost("no kind")`, eval.Int(7), `Lost: no kind`},
		{"kotlin", `return Kind.valueOf("PIER")`, number, `IllegalArgumentException: No enum constant Kind.PIER`},
		{"kotlin", `val kind = when (x) { 1 -> "a"; 2, 3 -> "b"; else -> "c" }; return kind`, number, `"b"`},
		{"kotlin", `return when (x) { is String -> 1; is Int -> 2; else -> 3 }`, text, `1`},
		{"kotlin", `return if (x in 1..3) "near" else "far"`, number, `"near"`},
		{"kotlin", `require(x > 2) { "too few" }; return x`, number, `IllegalArgumentException: too few`},
		{"kotlin", `return x?.length ?: 0`, eval.Value{}, `0`},
		{"kotlin", `return x!!`, eval.Value{}, `NullPointerException: null`},
		{"kotlin", `return Port(x.uppercase(), 3)`, eval.Text("sal"), `{"code":"SAL","depth":3.0}`},
		{"kotlin", `return Port(depth = 2.5, code = x).code`, eval.Text("sal"), `"sal"`},
		{"kotlin", `return x.filterNotNull().map { it * 2 }`, list, `[6,2]`},
		{"kotlin", `val all = mutableListOf<Int>(); for (i in x) { if (i == null) continue; all.add(i) }; return all`, list, `[3,1]`},
		{"kotlin", `var n = 0; while (true) { n = n + 1; if (n > 4) break }; return n`, number, `5`},
		{"kotlin", `while (true) { }`, number, `?`},
		{"kotlin", `return try { x.toInt() } catch (e: NumberFormatException) { null }`, text, `null`},
		{"kotlin", `return try { x.toInt() } catch (e: IllegalStateException) { null }`, text, `NumberFormatException: For input string: "4.5m"`},
		{"kotlin", `return runCatching { x.toInt() }.getOrDefault(9)`, text, `9`},
		{"kotlin", `return LocalDate.parse(x)`, eval.Text("2026-02-30"), `DateTimeParseException: Text '2026-02-30' could not be parsed: Invalid date 'FEBRUARY 30'`},
		{"kotlin", `return LocalDate.parse(x)`, eval.Text("2026-03-01 by the tide table of the harbour office, first printing of"), `DateTimeParseException: Text '2026-03-01 by the tide table of the harbour office, first printi...' could not be parsed, unparsed text found at index 10`},
		{"kotlin", `return LocalDate.parse(x)`, eval.Text("+12026-01-01"), `"+12026-01-01"`},
		{"kotlin", `return LocalTime.parse(x)`, eval.Text("09:30:00"), `"09:30"`},
		{"java", `return LocalDateTime.parse(x);`, eval.Text("2026-03-01T09:30:05.1234"), `"2026-03-01T09:30:05.123400"`},
		{"java", `return LocalDateTime.parse(x);`, eval.Text("2026-02-30T10:00:00+01:00"), `DateTimeParseException: Text '2026-02-30T10:00:00+01:00' could not be parsed, unparsed text found at index 19`},
		{"java", `return OffsetDateTime.parse(x);`, eval.Text("2026-03-01T09:30+00:00"), `"2026-03-01T09:30Z"`},
		{"java", `return OffsetDateTime.parse(x);`, eval.Text("2026-03-01T09:30"), `DateTimeParseException: Text '2026-03-01T09:30' could not be parsed at index 16`},
		{"kotlin", `return LocalDate.parse(x)`, eval.Text("2026-03-01"), `"2026-03-01"`},
		{"kotlin", `return x.let { it + 1 }.takeIf { it > 9 }`, number, `null`},
		{"kotlin", `return tides.heightOf(x)`, number, `?`},
		{"kotlin", `return mapOf("a" to 1, "b" to 3).filterValues { it > x }`, number, `{"b":3}`},
		{"kotlin", `return mapOf("a" to 1, "b" to 3).filterNot { it.value > x }`, number, `{"a":1}`},
		{"kotlin", `return mapOf("a" to 1, "b" to 3).mapValues { (k, v) -> k + v }`, number, `{"a":"a1","b":"b3"}`},
		{"kotlin", `return mapOf("a" to 1, "b" to 3).map { (k, v) -> if (v > x) k else null }`, number, `[null,"b"]`},
		{"kotlin", `return mapOf("a" to 1, "b" to 3).mapNotNull { (k, v) -> if (v > x) k else null }`, number, `["b"]`},
		{"kotlin", `return mapOf("a" to 1, "b" to 3).any { it.value > x }`, number, `true`},
		{"kotlin", `return mapOf("a" to 1, "b" to 3).none { it.key == "c" }`, number, `true`},
		{"kotlin", `return mapOf("a" to 1, "b" to 3).entries.first { it.value > x }.key`, number, `"b"`},
		{"kotlin", `return x.reversed()`, text, `?`},
		{"java", `return x.equals("4.5m") ? Integer.parseInt("7") : 0;`, text, `7`},
		{"java", `for (Kind k : Kind.values()) { if (k.code() == x) { return k; } } throw new IllegalStateException("no kind");`, number, `"BUOY"`},
		{"java", `int n = 0; while (true) { switch (x) { case 2: n = 5; break; default: n = 9; } return n; }`, number, `5`},
		{"java", `if (x == null) return "none"; return x.trim();`, eval.Value{}, `"none"`},
	} {
		r := &code.Routine{Name: "read", Language: c.language, Params: []string{"x"}, Body: body(c.language, c.code), Scope: app{c.language}}
		v, err := eval.Run(r, nil, c.x)
		var thrown *eval.Thrown
		var unfollowed *eval.Unfollowed
		got := ""
		switch {
		case errors.As(err, &thrown):
			got = thrown.Error()
		case errors.As(err, &unfollowed):
			got = "?"
		case err != nil:
			t.Errorf("%s: %T", c.code, err)
		default:
			seen, known := v.Result()
			if got = seen.String(); !known {
				got = "?"
			}
		}
		if got != c.want {
			t.Errorf("%s\n got %s (%v)\nwant %s", c.code, got, err, c.want)
		}
	}
}

// TestChecks: init blocks throw of an instance, and nothing of what they do not know.
func TestChecks(t *testing.T) {
	m := *port
	m.Init = &code.Routine{Name: "init", Params: []string{"code", "depth"}, Body: body("kotlin", `check(code.length == 3) { "no code" }`), Scope: app{"kotlin"}}
	instance := func(code decoder.Seen) decoder.Seen {
		return decoder.Seen{Kind: decoder.SeenObject, Type: "Port", Names: []string{"code", "depth"}, Elems: []decoder.Seen{code, {}}}
	}
	check := eval.Checks(&m)
	if err := check(instance(decoder.Seen{Kind: decoder.SeenString, Text: "SALT"})); err == nil || err.Message != "IllegalStateException: no code" {
		t.Errorf("of SALT %v is thrown", err)
	}
	for _, s := range []decoder.Seen{{Kind: decoder.SeenString, Text: "SAL"}, {Kind: decoder.SeenUnknown}} {
		if err := check(instance(s)); err != nil {
			t.Errorf("of %v %v is thrown", s, err)
		}
	}
	if eval.Checks(port) != nil {
		t.Error("a class without blocks is checked")
	}
}

// FuzzRun: no code is run for ever, and none panics.
func FuzzRun(f *testing.F) {
	for _, s := range []string{`return x.toInt() ?: -1`, `for (i in x) { x.add(i) }`, `val f = { f() }; f()`, `when (x) { is Int -> x; in 1..2 -> 3 }`, `return x.map { it!!.a?.b }`, `return "a" + Kind.entries[x]`} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		for language := range dialects {
			r := &code.Routine{Name: "read", Params: []string{"x"}, Body: body(language, text), Scope: app{language}}
			for _, x := range []eval.Value{eval.Text("1"), eval.Int(1), eval.List(eval.Int(1)), {}} {
				eval.Run(r, nil, x)
			}
		}
	})
}

// calling is a library that calls what is a Reader.
type calling struct{}

func (calling) Calls(super string) bool { return super == "Reader" }

func (calling) Static(eval.Value, string, []eval.Value, []*model.Type) (eval.Value, bool, error) {
	return eval.Value{}, false, nil
}

// TestCalled: what a class is decides whether a library calls it, not what its functions are named.
func TestCalled(t *testing.T) {
	for super, want := range map[string]string{"Reader": "?", "Parcelable": `{"code":"SAL","depth":3.0}`} {
		m := *port
		m.Conforms = []string{super}
		r := &code.Routine{Name: "read", Language: "kotlin", Body: body("kotlin", `return Port("SAL", 3)`), Scope: harbour{app{"kotlin"}, &m}}
		v, err := eval.Run(r, calling{})
		if err != nil {
			t.Fatalf("%s: %v", super, err)
		}
		seen, known := v.Result()
		got := seen.String()
		if !known {
			got = "?"
		}
		if got != want {
			t.Errorf("of a Port that is %s: got %s, want %s", super, got, want)
		}
		_, called, _ := v.Invoke(calling{}, "create")
		if called != (super == "Reader") {
			t.Errorf("of a Port that is %s: called %v", super, called)
		}
	}
}

// harbour is a scope with a port that has a function create.
type harbour struct {
	app
	port *model.Model
}

func (h harbour) Class(name string) *model.Model {
	if name == "Port" {
		return h.port
	}
	return h.app.Class(name)
}

func (h harbour) Routine(name string) *code.Routine {
	if name == "Port.create" {
		return &code.Routine{Name: "create", Language: "kotlin", Body: body("kotlin", `return null`), Scope: h}
	}
	return h.app.Routine(name)
}
