package hand_test

import (
	"fmt"
	"strings"
	"testing"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/lower"
	"vetta/internal/source/scan"
)

// crate is a vocabulary of its own: box.take("a") reads a member, box.open("a") is a part inside, box.next()
// reads the next element, and help(box) is a function of the app.
type crate struct {
	file  *scan.File
	funcs map[string]*code.Func
}

func (crate) Self() string    { return "self" }
func (crate) Missing() string { return "nothing there" }

func (c crate) Part(f *hand.Follower, e *code.Expr) (hand.Part, bool) {
	if e.Op == code.Name {
		if b, ok := f.Bound(e.Text); ok && b.Part != nil {
			return *b.Part, true
		}
		return hand.Part{}, false
	}
	receiver, name := hand.Method(e)
	if receiver == nil || name != "open" || len(e.Args) != 2 {
		return hand.Part{}, false
	}
	outer, ok := c.Part(f, receiver)
	return hand.Part{Path: outer.Below(&model.Expr{Op: model.OpAt, Key: e.Args[1].Text})}, ok
}

func (crate) Holds(hand.Part) *model.Expr {
	return &model.Expr{Op: model.OpContainer, Container: model.Keyed}
}

func (c crate) Value(f *hand.Follower, e *code.Expr) *model.Expr {
	receiver, name := hand.Method(e)
	if receiver == nil {
		return nil
	}
	p, ok := c.Part(f, receiver)
	read := &model.Expr{Op: model.OpDecode, Declared: name}
	switch {
	case !ok:
		return nil
	case name == "take" && len(e.Args) == 2 && e.Args[1].Op == code.Text:
		return hand.Wrap(p.Below(&model.Expr{Op: model.OpAt, Key: e.Args[1].Text}), read)
	case name == "next" || name == "at":
		return p.At(read)
	}
	return nil
}

func (crate) Do(*hand.Follower, *code.Expr) ([]model.Step, bool, error) { return nil, false, nil }

func (crate) Constant(_ *hand.Follower, e *code.Expr) *model.Literal {
	switch {
	case e.Op == code.Number:
		return &model.Literal{Kind: model.IntLiteral, Text: e.Text}
	case e.Op == code.Text:
		return &model.Literal{Kind: model.StringLiteral, Text: e.Text}
	case e.Op == code.List && len(e.Args) == 0:
		return &model.Literal{Kind: model.ListLiteral}
	case e.Op == code.Name && e.Text == "nil":
		return &model.Literal{Kind: model.NullLiteral}
	}
	return nil
}

func (crate) Typed(*model.Expr, *model.Type) {}

func (crate) Loop(f *hand.Follower, s *code.Stmt) (hand.Loop, bool) {
	each := hand.Part{Kind: model.Single}
	switch {
	case s.Kind == code.While && s.Heads == 1: // while box.more
		of := s.Body[0].Value.Args[0].Text
		b, ok := f.Bound(of)
		return hand.Loop{Part: *b.Part, Of: of, Each: each}, ok
	case s.Kind == code.For && s.Heads == 2: // for key in box.keys
		of := s.Body[1].Value.Args[0].Text
		b, ok := f.Bound(of)
		return hand.Loop{Part: *b.Part, Of: of, Key: s.Body[0].Value.Text, Each: each}, ok
	}
	return hand.Loop{}, false
}

func (crate) Added(e *code.Expr) (list, element *code.Expr) {
	if receiver, name := hand.Method(e); name == "push" {
		return receiver, e.Args[1]
	}
	return nil, nil
}

func (crate) KeyText(e *code.Expr) string {
	if e.Op == code.Member && e.Text == "text" {
		return e.Args[0].Text
	}
	return ""
}

func (crate) Thrown(f *hand.Follower, e *code.Expr) string { return f.Text(e) }

func (c crate) Called(_ *hand.Follower, e *code.Expr) *hand.Callee {
	_, name := hand.Method(e)
	if fn := c.funcs[name]; fn != nil {
		return &hand.Callee{Func: fn, File: c.file, Words: c}
	}
	return nil
}

// ops are the operations as these tests write them.
func written(e *model.Expr) string {
	var args []string
	for _, a := range e.Args {
		args = append(args, written(a))
	}
	inner := strings.Join(args, " ")
	switch e.Op {
	case model.OpUnknown:
		return "unknown"
	case model.OpConst:
		if e.Value.Kind == model.ListLiteral {
			return "[]"
		}
		return strings.TrimSpace(e.Value.Text + map[bool]string{true: "nil"}[e.Value.Kind == model.NullLiteral])
	case model.OpDecode:
		return e.Declared
	case model.OpAt:
		return e.Key + "/" + inner
	case model.OpContainer:
		return "a box"
	case model.OpFail:
		return "fail " + e.Why
	case model.OpCall:
		return "(" + e.Func + " " + inner + ")"
	case model.OpEach, model.OpEachKey:
		return fmt.Sprint(map[model.Op]string{model.OpEach: "each", model.OpEachKey: "member"}[e.Op], map[bool]string{true: "?"}[e.Lossy], "(", inner, ")")
	}
	return "(" + map[model.Op]string{model.OpTry: "try", model.OpElse: "else", model.OpCatch: "catch", model.OpIf: "if"}[e.Op] + " " + inner + ")"
}

func steps(all []model.Step) string {
	var out []string
	for _, s := range all {
		switch {
		case s.Do:
			out = append(out, "do {"+steps(s.Then)+"} catch {"+steps(s.Else)+"}")
		case s.Cond != nil:
			out = append(out, "if "+written(s.Cond)+" {"+steps(s.Then)+"} else {"+steps(s.Else)+"}")
		default:
			text := ""
			if s.Expr != nil {
				text = s.Field + "=" + written(s.Expr)
			}
			if s.Return {
				text += " return"
			}
			out = append(out, strings.TrimSpace(text))
		}
	}
	return strings.Join(out, "; ")
}

// TestFollow: what code does with any document, told from the tree alone; "lost: …" where it cannot be.
func TestFollow(t *testing.T) {
	const helpers = `func twice(_ b: Box, _ key: Text) -> Int { if ok == 1 { return b.take("a") } return 2 }
func safe(_ b: Box) -> Int { guard let x = try? b.take("a") else { return 0 } return x }
func deep(_ b: Box) -> Int { safe(b) }
func odd(_ b: Box) -> Int { b.shake() }
`
	for _, c := range [][2]string{
		{`x = box.take("a") ?? 1`, `x=(else a/take 1)`},
		{`self.x = box.open("p").take("a")!`, `x=(else p/a/take fail nothing there)`},
		{`let inner = try box.open("p"); x = try? inner.take("a")`, `=p/a box; x=(try p/a/take)`},
		{`var n = 1; if box.take("b") == 2 { n = 3 } else { n = 4 }; x = n`, `=1; if (== b/take 2) {=3} else {=4}; x=(if (== b/take 2) 3 4)`},
		{`guard let a = box.take("a") else { return nil }; x = a`, `if (!= nil a/take) {} else {self=nil return}; x=a/take`},
		{`if let a = try? box.take("a") { x = a } else { x = 0 }`, `x=(else (try a/take) 0)`},
		{`do { x = try box.take("a") } catch { x = 1 }`, `x=(catch a/take 1)`},
		{`do { x = try box.take("a"); y = 2 } catch { y = 1 }`, `do {x=a/take; y=2} catch {y=1}`},
		{`switch box.take("k") { case 1, 2: x = 1; case 3: throw Lost(); default: x = 2 }`, `=k/take; if (|| (== k/take 1) (== k/take 2)) {x=1} else {if (== k/take 3) {=fail Lost()} else {x=2}}`},
		{`var l = []; while box.more { l.push(box.next()) }; x = l`, `=[]; =each(next); x=each(next)`},
		{`var l = []; while box.more { if let a = try? box.next() { l.push(a) } else { _ = box.next() } }; x = l`, `=[]; =each?((try next)); x=each?((try next))`},
		{`var l = []; while box.more { if let a = try? box.next() { l.push(a) } }; x = l`, `=[]; x=unknown`}, // it never ends where one fails
		{`var l = [9]; while box.more { l.push(box.next()) }; x = l`, `=unknown; x=unknown`},                 // what was in it before is not told
		{`var m = []; for k in box.keys { m[k.text] = box.at(k) }; x = m`, `=[]; =member(at); x=member(at)`},
		{`var m = []; for k in box.keys { m[k.code] = box.at(k) }; x = m`, `=[]; x=unknown`},
		{`x = safe(box); y = deep(box)`, `x=(if (!= nil (try a/take)) (try a/take) 0); y=(if (!= nil (try a/take)) (try a/take) 0)`},
		{`x = odd(box)`, `x=unknown`},
		{`x = 1; shake(&y)`, `x=1; y=unknown`},
		{`x = 1; x += 2; y = 3`, `x=1; x=unknown; y=3`},
		{`other.shake(); y = 3`, `y=3`},
		{`x = a b`, `x=unknown`},
		{`x = ok ? box.take("a") : 2`, `x=(if unknown a/take 2)`},
		{`if shaken { throw Lost() }; x = 1`, `lost: an if statement that is not followed and may throw`},
		{`try shake(); x = 1`, `lost: a call that is not followed and may throw`},
		{`defer { x = 1 }; y = 2`, `lost: a defer block that may assign`},
		{`print(x); return; y = 1`, `return; y=1`},
		{`switch box.take("k") { case 1: x = 1; break; default: break }`, `=k/take; if (== k/take 1) {x=1} else {}`},
		{`switch box.take("k") { case 1: if shaken { break }; x = 1; default: x = 2 }`, `lost: an if statement that is not followed and may throw`},
		{`switch box.take("k") { case 1: if box.take("a") == 2 { x = 0; break }; x = 1; default: x = 2 }`, `lost: break`},
		{`switch box.take("k") { case 1: x = 1; fallthrough; default: x = 2 }`, `lost: fallthrough`},
		{`switch box.take("k") { case 1: x = 1; break outer; default: x = 2 }`, `lost: break`},
		{`var m = []; for k in box.keys { if let a = try? box.at(k) { m[k.text] = a } }; x = m`, `=[]; =member?((try at)); x=member?((try at))`},
		{`var m = []; for k in box.keys { if let a = try? box.at(k) { m[k.text] = a } else { continue } }; x = m`, `=[]; =member?((try at)); x=member?((try at))`},
		{`var m = []; for k in box.keys { if let a = try? box.at(k) { m[k.text] = a } else { break } }; x = m`, `=[]; x=unknown`},
		{`var m = []; for k in box.keys { do { m[k.text] = try box.at(k) } catch { throw Lost() } }; x = m`, `lost: a loop that is not followed and may throw`},
		{`var b = box.open("p"); if box.take("k") == 1 { b = box.open("q") }; x = b.take("a"); y = box.take("a")`, `=p/a box; if (== k/take 1) {=q/a box} else {}; x=unknown; y=a/take`},
		{`var b = box.open("p"); b = box.open("q"); x = b.take("a")`, `=p/a box; =q/a box; x=q/a/take`},
	} {
		text := helpers + c[0]
		f := scan.Scan("Crate.x", text, &scan.Dialect{Quotes: `"`, StringAt: func(s *scan.Scanner) (scan.Token, bool) { return s.Simple(0) }})
		language := lower.Language{
			Name: "swift", Resolve: func(t *model.Type, _ string, _ []string) *model.Type { return t },
			Type: func(at int) (*model.Type, int) {
				if f.KindAt(at) != scan.Ident {
					return nil, at
				}
				return &model.Type{Kind: model.Named, Name: f.Word(at)}, at + 1
			},
		}
		p := lower.NewProgram("swift")
		lower.File(p, f, language)
		words := crate{f, map[string]*code.Func{}}
		for _, fn := range p.Funcs {
			words.funcs[fn.Name] = fn
		}
		follower := &hand.Follower{Words: words, File: f, Fields: map[string]*model.Field{"x": {Name: "x"}, "y": {Name: "y"}}}
		follower.Bind("box", hand.Binding{Part: &hand.Part{}})
		got := ""
		if all, err := follower.Follow(lower.Body(f, language, f.Index(int32(len(helpers))), f.Len())); err != nil {
			got = "lost: " + err.Error()
		} else {
			got = steps(all)
		}
		if got != c[1] {
			t.Errorf("%s\n got %s\nwant %s", c[0], got, c[1])
		}
	}
}
