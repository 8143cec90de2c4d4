package lower_test

import (
	"fmt"
	"strings"
	"testing"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/lower"
	"vetta/internal/source/scan"
)

// dialects are those of the languages, as far as the snippets of these tests need them.
var dialects = map[string]*scan.Dialect{
	"swift":  {Quotes: `"`, StringAt: plain, IdentStart: "$"},
	"kotlin": {Quotes: `"`, StringAt: plain, EndsLines: true},
	"java":   {Quotes: `"`, StringAt: plain},
}

func plain(s *scan.Scanner) (scan.Token, bool) { return s.Simple(0) }

// body reads statements of a language whose types are names, perhaps with one type argument.
func body(language, text string) []code.Stmt {
	f := scan.Scan("Port."+language, text, dialects[language])
	typ := func(at int) (*model.Type, int) {
		if f.KindAt(at) != scan.Ident {
			return nil, at
		}
		t := &model.Type{Kind: model.Named, Name: f.Word(at)}
		if at++; f.Is(at, "<") && f.Is(at+2, ">") {
			t.Args, at = []*model.Type{{Kind: model.Named, Name: f.Word(at + 1)}}, at+3
		}
		if f.Is(at, "?") && !f.Is(at+1, "?") {
			at++
		}
		return t, at
	}
	return lower.Body(f, lower.Language{Name: language, Type: typ, Resolve: func(t *model.Type, _ string, _ []string) *model.Type { return t }}, 0, f.Len())
}

var effects = map[code.Effect]string{
	code.Forced: "!", code.Chained: "?", code.Tried: " tried", code.Attempted: " attempted", code.Assured: " assured", code.Upcast: "", code.Thrown: " thrown", code.Returned: " returned",
}

// written is an expression with brackets around all that belongs together.
func written(e *code.Expr) string {
	if e == nil {
		return "nothing"
	}
	all := func(args []*code.Expr) string {
		var out []string
		for _, a := range args {
			out = append(out, written(a))
		}
		return strings.Join(out, " ")
	}
	text := "other(" + all(e.Args) + ")"
	switch e.Op {
	case code.Name, code.Number:
		text = e.Text
	case code.Text:
		text = fmt.Sprintf("%q", e.Text)
	case code.Member:
		text = strings.TrimSpace(all(e.Args)) + "." + e.Text
	case code.Call:
		text = written(e.Args[0]) + "("
		for i, a := range e.Args[1:] {
			if i > 0 {
				text += " "
			}
			if e.Labels[i] != "" {
				text += e.Labels[i] + ":"
			}
			text += written(a)
		}
		text += ")"
	case code.Plus:
		text = "(+ " + all(e.Args) + ")"
	case code.Binary, code.Unary:
		text = "(" + e.Text + " " + all(e.Args) + ")"
	case code.As:
		text = "(as " + all(e.Args) + " " + e.Text + ")"
	case code.Is:
		text = "(is " + all(e.Args) + " " + e.Type.Name + ")"
	case code.TypeOf:
		text = "type " + e.Text
	case code.List:
		text = "[" + all(e.Args) + "]"
	case code.Dict:
		text = "[:" + all(e.Args) + "]"
	case code.Index:
		text = written(e.Args[0]) + "[" + all(e.Args[1:]) + "]"
	case code.KeyPath:
		text = `\` + e.Text
	case code.Lambda:
		text = "{" + strings.Join(e.Labels, " ") + " -> " + statements(e.Body) + "}"
	case code.Choice:
		switch {
		case len(e.Body) == 0:
			text = "(else " + all(e.Args) + ")"
		case e.Body[0].Kind == code.Plain:
			text = "(by " + written(e.Body[0].Value) + " " + all(e.Args) + ")"
		default:
			text = "(" + statements(e.Body) + ")"
		}
	}
	for _, does := range e.Does.All() {
		text += effects[does]
	}
	return text
}

var kinds = map[code.Kind]string{
	code.If: "if", code.ElseIf: "elseif", code.Else: "else", code.Guard: "guard", code.For: "for", code.While: "while", code.Repeat: "repeat", code.Switch: "switch",
	code.Try: "try", code.Catch: "catch", code.Finally: "finally", code.Defer: "defer", code.Plain: "block", code.Local: "local",
}

func statements(all []code.Stmt) string {
	var out []string
	for i := range all {
		out = append(out, statement(&all[i]))
	}
	return strings.Join(out, "; ")
}

func statement(s *code.Stmt) (text string) {
	switch {
	case s.Kind == code.Throw:
		text = "throw " + written(s.Value)
	case s.Kind == code.Jump:
		if text = s.Name; s.Value != nil {
			text += " " + s.Value.Text
		}
	case s.Kind == code.Case && s.Value == nil:
		text = "case ? {" + statements(s.Body) + "}"
	case s.Kind == code.Case:
		text = "case " + written(s.Value) + " {" + statements(s.Body) + "}"
	case s.Op == code.Let:
		text = "let " + s.Name + " = " + written(s.Value)
	case s.Op == code.Assign:
		text = s.Name + " = " + written(s.Value)
		if s.Of != nil {
			text = written(s.Of) + "." + text
		}
		if s.Kind == code.Compound {
			text += " compound"
		}
	case s.Op == code.Return:
		text = "return " + written(s.Value)
	case s.Op == code.Block:
		heads := max(0, int(s.Heads))
		if s.Heads < 0 {
			text = "?"
		}
		if s.Value != nil {
			return written(s.Value)
		}
		text = kinds[s.Kind] + text + "(" + statements(s.Body[:heads]) + "){" + statements(s.Body[heads:]) + "}"
		if s.Kind == code.Catch && s.Name != "" {
			text = "catch " + s.Name + " " + text
		}
	default:
		text = written(s.Value)
	}
	if s.Torn {
		text += " torn"
	}
	return text
}

// TestBody: what is written in a language, as the tree has it.
func TestBody(t *testing.T) {
	for language, cases := range map[string][][2]string{
		"swift": {
			{`x = a ?? b == c && !d`, `x = (&& (== (else a b) c) (! d))`},
			{`x = a + b * -2 - c`, `x = (- (+ a (* b -2)) c)`},
			{`x = ok ? a : other ? b : c`, `x = (by ok a (by other b c))`},
			{`x = try? box.take("a") as? Int ?? 0`, `x = (else (as box.take("a") Int) 0) attempted`},
			{`x = (map["a"] as! Port)!.code?.count`, `x = (as map["a"] Port)!!.code?.count`},
			{`self.x = [1, 2]; y = ["a": 1]; z = [:]`, `self.x = [1 2]; y = [:"a" 1]; z = [:]`},
			{`x = list.map { Port($0) }.first(where: { p in p.open })`, `x = list.map({ -> Port($0)}).first(where:{p -> p.open})`},
			{`x = list.map(\.code); y = texts.map(URL.init(string:))`, `x = list.map(\code); y = texts.map(URL.init)`},
			{`guard let a = map["a"], a > 1 else { throw Lost.key(a) }`, `guard(let a = map["a"]; (> a 1)){throw Lost.key(a)}`},
			{`if let a { x = a } else if b { return nil } else { y += 1 }`, `if(let a = other()){x = a}; elseif(b){return nil}; else(){y = 1 compound}`},
			{`if case .open = gate { x = 1 }`, `if?(){.open; gate; x = 1}`},
			{`do { try a() } catch { b() }`, `try(){a() tried}; catch(){b()}`},
			{`switch kind { case .a, .b: x = 1; case let c: y = c; default: break }`, `switch(kind){case [.a .b] {x = 1}; case ? {y = c} torn; case [] {break}}`},
			{`for key in box.allKeys { out[key.text] = 1 }`, `for(key; box.allKeys){out[key.text]. = 1}`},
			{`while !list.isAtEnd { continue }`, `while((! list.isAtEnd)){continue}`},
			{`defer { shut() }; x = decode(Port.self, forKey: .port)`, `defer(){shut()}; x = decode(type Port forKey:.port)`},
			{"a = b c\nd = 1", `a = b torn; c; d = 1`},
			{`outer: for a in all { if a { continue outer }; switch b { case 1: break outer; default: fallthrough } }`, `for(a; all){if(a){continue outer}; switch(b){case [1] {break outer}; case [] {fallthrough}}}`},
			{`swap(&a); f { $0 }`, `swap((& a)); f({ -> $0})`},
		},
		"kotlin": {
			{`val x = o.optString("a") ?: return null`, `let x = (else o.optString("a") null returned)`},
			{`val x = o?.get("a")!! ?: throw Lost("a")`, `let x = (else o?.get("a")! Lost("a") thrown)`},
			{`x = if (a == null) b else if (c) d else e`, `x = (if((== a null)){b}; elseif(c){d}; else(){e})`},
			{`if (a) x = if (b) 1 else 2 else x = 3`, `if(a){x = (if(b){1}; else(){2})}; else(){x = 3}`},
			{`x = when (val k = kind) { "a", "b" -> 1; is Port -> 2; else -> throw Lost() }`, `x = (switch(let k = kind){case ["a" "b"] {1}; case [(is  Port)] {2} torn; case [] {throw Lost()}})`},
			{`x = try { a() } catch (e: Lost) { b } finally { c() }`, `x = (try(){a()}; catch e: Lost catch(e; Lost){b}; finally(){c()})`},
			{`for (i in 0 until a.length()) list.add(a[i])`, `for(let i = (until 0 a.length())){list.add(a[i])}`},
			{`o.keys().forEach { k -> by[k] = o.get(k) }`, `o.keys().forEach({k -> by[k]. = o.get(k)})`},
			{`Port().apply { code = "a" }.also { p -> all += p }`, `Port().apply({ -> code = "a"}).also({p -> all = p compound})`},
			{`val x = a as Int + 1; val y = b as? Port`, `let x = (+ (as a Int) 1); let y = (as b Port)`},
			{`x = if (a) (b) else (0 until 3).map { it }`, `x = (if(a){b}; else(){(until 0 3).map({ -> it})})`},
			{"do { a() } while (b)\nc()", `repeat(){a()}; c()`},
			{"outer@ for (a in all) { if (a) continue@outer; break }", `for(let a = all){if(a){continue outer}; break}`},
			{`val x: Int`, `let x = other()`},
		},
		"java": {
			{`int x = a > 1 ? b : c; this.y = (String) o.get("a");`, `let x = (by (> a 1) b c); this.y = (as o.get("a") )!`},
			{`for (int i = 0; i < a.length(); i++) { if (a.isNull(i)) continue; all.add(new Port(a.get(i))); }`, `for(let i = 0; (< i a.length()); (++ i)){if(a.isNull(i)){continue}; all.add(Port(a.get(i)))}`},
			{`for (String k : o.keySet()) by.put(k, 1);`, `for(let k = o.keySet()){by.put(k 1)}`},
			{`if (a) if (b) x = 1; else x = 2; y = 3;`, `if(a){if(b){x = 1}; else(){x = 2}}; y = 3`},
			{`switch (k) { case "a": case "b": x = 1; break; default: return; }`, `switch(k){case ["a"] {}; case ["b"] {x = 1; break}; case [] {return nothing}}`},
			{`int x = switch (k) { case 1, 2 -> a; default -> { yield b; } };`, `let x = (switch(k){case [1 2] {a}; case [] {block(){return b}}})`},
			{`try { a(); } catch (Lost | Torn e) { b(); }`, `try(){a()}; catch Lost | Torn e catch((| Lost Torn); e){b()}`},
			{`run(x -> x.code()); both((a, b) -> { return a; });`, `run({x -> x.code()}); both({a b -> return a})`},
			{`outer: for (String a : all) { if (a) break outer; continue; }`, `for(let a = all){if(a){break outer}; continue}`},
			{`throw new Lost("a" + b);`, `throw Lost((+ "a" b))`},
			{`boolean open = a instanceof Port && !b; synchronized (this) { c(); }`, `let open = (&& (is a Port) (! b)); block(this){c()}`},
		},
	} {
		for _, c := range cases {
			if got := statements(body(language, c[0])); got != c[1] {
				t.Errorf("%s: %s\n got %s\nwant %s", language, c[0], got, c[1])
			}
		}
	}
}

// TestPlaces: every statement and expression says where it stands.
func TestPlaces(t *testing.T) {
	text := `guard let code = map["code"] as? String else { return nil }; self.code = code ?? "none"`
	var walk func(e *code.Expr)
	places := map[string]bool{}
	walk = func(e *code.Expr) {
		places[text[e.From:e.To]] = true
		for _, a := range e.Args {
			walk(a)
		}
	}
	all := body("swift", text)
	if got := text[all[0].From:all[0].To]; got != `guard let code = map["code"] as? String else { return nil }` {
		t.Errorf("the first statement is %q", got)
	}
	walk(all[0].Body[0].Value)
	walk(all[1].Value)
	for _, want := range []string{`map["code"] as? String`, `map["code"]`, `map`, `"code"`, `code ?? "none"`, `code`, `"none"`} {
		if !places[want] {
			t.Errorf("no expression stands in %q", want)
		}
	}
}
