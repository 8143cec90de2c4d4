package byhand

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// Much code that reads org.json makes its objects where the text arrives: an activity or a parser
// goes through the document and makes an instance of a class that knows nothing of JSON. The
// statements around such a call of a constructor are followed as a factory of the class would be.

// Sites finds for each class that code elsewhere makes by hand the first place where it does.
func Sites(p *jvm.Project) map[*jvm.Class]*jvm.Site {
	found := map[*jvm.Class]*jvm.Site{}
	for _, f := range p.Files {
		if !SpeaksOfParsed(f) {
			continue
		}
		var swallowed map[int]*jvm.Drop
		for i := range f.Len() {
			c := madeAt(p, f, i)
			if c == nil || found[c] != nil || jvm.ByHand(c) != nil {
				continue
			}
			s := siteAt(p, f, i)
			if s == nil || !givenAnswers(s) {
				continue
			}
			if swallowed == nil {
				swallowed = jvm.Caught(f)
			}
			s.Swallowed = swallowed[i] != nil
			found[c] = s
		}
	}
	return found
}

// SpeaksOfParsed says whether a file speaks of parsed objects, or has them from org.json without naming
// their class.
func SpeaksOfParsed(f *jvm.File) bool {
	return slices.ContainsFunc(f.Hits, func(i int32) bool { return jvm.IsParsed(f.Word(int(i))) }) ||
		slices.ContainsFunc(f.Imports, func(i jvm.Import) bool { return i.Path == "org.json" })
}

// madeAt is the class whose constructor is called with the name at a token, nil where that is no
// such call, or of no class that holds data.
func madeAt(p *jvm.Project, f *jvm.File, i int) *jvm.Class {
	if f.KindAt(i) != scan.Ident || !f.Is(i+1, "(") || f.Word(i)[0] < 'A' || f.Word(i)[0] > 'Z' || jvm.IsParsed(f.Word(i)) {
		return nil
	}
	start := i
	for start > 1 && f.Is(start-1, ".") && f.KindAt(start-2) == scan.Ident {
		start -= 2
	}
	switch {
	case f.Language == "java" && !f.Is(start-1, "new"):
		return nil
	case f.Language == "kotlin" && (f.Is(start-1, "fun") || f.Is(start-1, "class") || f.Is(start-1, ":") && !f.Is(start-2, "?") || f.Is(start-1, "@") || f.Is(start-1, ".")):
		return nil
	}
	c := p.Find(f, p.ClassAt(f, i), strings.ReplaceAll(f.Text(start, i+1), " ", ""))
	if c == nil || !c.IsModel() || c.Kind != "class" && c.Kind != "record" || c.Abstract || !jvm.HoldsData(c) {
		return nil
	}
	return c
}

// siteAt finds what leads to the call of a constructor at a token: from where an element of a list has a
// name, or a lambda is given a part of the document, else the function as a whole. nil where nothing is
// asked of a document there.
func siteAt(p *jvm.Project, f *jvm.File, at int) *jvm.Site {
	m := jvm.FunctionAround(f, at)
	if m == nil {
		return nil
	}
	s := &jvm.Site{File: f, Class: p.ClassAt(f, at), At: at, Called: m.Name}
	looped := false
	for _, open := range bracesAround(f, m.Body[0], at) {
		to := f.Partner(open)
		if f.Is(open-1, "try") && documentNamed(f, open+1, min(at, to)) { // whose errors are dropped, or not
			s.From, s.To, s.Whole = open+1, to, true
			return s
		}
		name, from := elementNamed(f, open+1, min(at, to))
		if name == "" {
			name, from = handedTo(f, open, to)
		}
		if name != "" && asks(f, name, from, to) {
			s.Nodes, s.From, s.To = []string{name}, from, to
			s.Whole = f.Is(open-2, ".") && f.Is(open-3, ")") && f.Is(f.Partner(open-3)-1, "JSONObject") // JSONObject(text).let {
			return s
		}
		if looped = looped || isLoop(f, open); looped {
			if list, index := elementAsked(f, open+1, to); list != "" {
				s.Nodes, s.Index, s.From, s.To = []string{list}, index, loopStart(f, open), to
				return s
			}
		}
	}
	s.From, s.To, s.IsExpression = m.Body[0], m.Body[1], m.IsExpression
	if m.Receiver == "JSONObject" {
		s.Nodes = append(s.Nodes, "this")
	}
	for _, param := range m.Params {
		if jvm.TakesParsed(param) && jvm.Last(param.Type.Unwrapped().Name) == "JSONObject" {
			s.Nodes = append(s.Nodes, param.Name)
		}
	}
	asked := len(s.Nodes) == 0 && asks(f, "", s.From, s.To)
	s.Whole = asked && slices.ContainsFunc(f.Hits, func(i int32) bool {
		return int(i) >= s.From && int(i) < s.To && f.Is(int(i), "JSONObject") && f.Is(int(i)+1, "(")
	})
	for _, name := range s.Nodes {
		asked = asked || asks(f, name, s.From, s.To)
	}
	switch {
	case !asked:
		return nil
	case looped:
		s.Whole, s.Why = false, "it is made in a loop over parts that have no name"
	case len(s.Nodes) > 1:
		s.Why = "it is made of several objects"
	}
	return s
}

// bracesAround are the braces that are open at a token, the innermost first, as far as from another.
func bracesAround(f *jvm.File, from, at int) (open []int) {
	for i := at; i >= from; i-- {
		if f.Is(i, "{") && f.Partner(i) > at {
			open = append(open, i)
		}
	}
	return open
}

// isLoop says whether a brace opens what runs for each of several values.
func isLoop(f *jvm.File, open int) bool {
	i := open - 1
	if f.Is(i, ")") {
		i = f.Partner(i) - 1
	}
	switch f.Word(i) {
	case "for", "while", "do", "map", "forEach", "mapTo", "mapNotNull", "repeat", "List", "MutableList", "Array":
		return true
	}
	return false
}

// elementNamed finds the first declaration among statements that gives a name to an element of a list of
// objects, and the token behind it: val o = list.getJSONObject(i), JSONObject o = (JSONObject) list.get(i).
func elementNamed(f *jvm.File, from, to int) (name string, after int) {
	for i := from; i < to; i++ {
		if m := f.Partner(i); m > i {
			i = m
			continue
		}
		if !f.Is(i, "=") || f.Is(i+1, "=") || f.KindAt(i-1) != scan.Ident {
			continue
		}
		named := i - 1
		if f.Is(named-1, ":") { // val o: JSONObject = …
			named -= 2
		}
		at, cast := i+1, false
		if f.Is(at, "(") && f.Is(at+1, "JSONObject") && f.Is(at+2, ")") {
			at, cast = at+3, true
		}
		for f.KindAt(at) == scan.Ident && (f.Is(at+1, ".") || f.Is(at+1, "?") && f.Is(at+2, ".")) {
			at += 2
			if f.Is(at, ".") {
				at++
			}
		}
		end := at + 4 // get(i), list[i]
		if f.Is(at+1, "[") {
			cast = f.Is(end, "as")
		} else if !f.Is(at+1, "(") {
			continue
		}
		if f.Partner(at+1) != at+3 || f.KindAt(at+2) == scan.String {
			continue
		}
		if f.Is(end, "as") && f.Is(end+1, "JSONObject") {
			end, cast = end+2, true
		}
		if !f.Is(at, "getJSONObject") && !f.Is(at, "optJSONObject") && !cast {
			continue
		}
		if end = behindStatement(f, end); end > 0 {
			return f.Ident(named), end
		}
	}
	return "", 0
}

// documentNamed says whether a declaration among statements gives a name to the document, made of its
// text: val root = JSONObject(text).
func documentNamed(f *jvm.File, from, to int) bool {
	for i := from; i < to; i++ {
		if m := f.Partner(i); m > i {
			i = m
			continue
		}
		at := i + 1
		if f.Is(at, "new") {
			at++
		}
		if f.Is(i, "=") && f.Is(at, "JSONObject") && f.Is(at+1, "(") && f.Partner(at+1) > at+2 {
			return true
		}
	}
	return false
}

// elementAsked is the list of objects that statements ask for an element by an index and that for a value
// at once, and the index: list.getJSONObject(i).getString("code").
func elementAsked(f *jvm.File, from, to int) (list, index string) {
	for i := from; i+6 < to; i++ {
		if f.KindAt(i) == scan.Ident && f.Is(i+1, ".") && f.Is(i+2, "getJSONObject") && f.Is(i+3, "(") && f.KindAt(i+4) == scan.Ident && f.Is(i+5, ")") && f.Is(i+6, ".") && asking[f.Word(i+7)] {
			return f.Ident(i), f.Ident(i + 4)
		}
	}
	return "", ""
}

// loopStart is the first token of what a brace opens: behind the parameter of a lambda, where it has one.
func loopStart(f *jvm.File, open int) int {
	if f.KindAt(open+1) == scan.Ident && f.Is(open+2, "-") && f.Is(open+3, ">") {
		return open + 4
	}
	return open + 1
}

// handedTo is the name under which what stands in braces is given a part of the document, and the token
// from which on it has it: a parameter of a lambda, or of a method of a class without a name.
func handedTo(f *jvm.File, open, to int) (name string, from int) {
	switch {
	case f.Language == "kotlin":
		if f.KindAt(open+1) == scan.Ident && f.Is(open+2, "-") && f.Is(open+3, ">") { // { response ->
			return f.Ident(open + 1), open + 4
		}
		if f.KindAt(open+1) == scan.Ident && f.Is(open+2, ":") && f.Is(open+3, "JSONObject") && f.Is(open+4, "-") {
			return f.Ident(open + 1), open + 6
		}
		if asks(f, "it", open+1, to) {
			return "it", open + 1
		}
	case f.Is(open-1, ">") && f.Is(open-2, "-"): // response -> {, (JSONObject response) -> {
		if f.Is(open-3, ")") {
			return f.Ident(open - 4), open + 1
		}
		return f.Ident(open - 3), open + 1
	}
	for i := open - 1; i > open-8 && i > 0; i-- { // void onResponse(JSONObject response) throws JSONException {
		if f.Is(i, ")") {
			for k := f.Partner(i) + 1; k < i; k++ {
				switch {
				case f.Is(k, "JSONObject") && f.KindAt(k+1) == scan.Ident:
					return f.Ident(k + 1), open + 1
				case f.Is(k, ":") && f.Is(k+1, "JSONObject"):
					return f.Ident(k - 1), open + 1
				}
			}
			break
		}
		if f.KindAt(i) != scan.Ident && !f.Is(i, ",") {
			break
		}
	}
	return "", 0
}

// behindStatement is the token behind a statement that ends at one, 0 where it goes on.
func behindStatement(f *jvm.File, end int) int {
	switch {
	case f.Is(end, ";"):
		return end + 1
	case f.Language == "kotlin" && !f.Is(end, "?") && !f.Is(end, "."):
		return end
	}
	return 0
}

// asking are the methods by which code asks an object for what is in it.
var asking = map[string]bool{
	"getString": true, "getInt": true, "getLong": true, "getDouble": true, "getBoolean": true, "getJSONObject": true, "getJSONArray": true,
	"optString": true, "optInt": true, "optLong": true, "optDouble": true, "optBoolean": true, "optJSONObject": true, "optJSONArray": true,
	"isNull": true, "has": true,
}

// asks says whether statements ask the part of a document that has a name for values, or hand it on; of
// "" whether they ask any.
func asks(f *jvm.File, name string, from, to int) bool {
	for i := from; i < to; i++ {
		called := asking[f.Word(i)] && f.Is(i+1, "(")
		switch {
		case called && name == "":
			return true
		case called && (name == "this" || f.Is(i-1, ".")):
			of := i - 2
			for f.Is(of, "?") || f.Is(of, "!") {
				of--
			}
			if name == "this" && !f.Is(i-1, ".") || f.Ident(of) == name {
				return true
			}
		case name != "" && name != "it" && f.Ident(i) == name && (f.Is(i-1, "(") || f.Is(i-1, ",")) && (f.Is(i+1, ")") || f.Is(i+1, ",")): // a helper is given it
			return true
		}
	}
	return false
}

// makes is the model that a function of one parameter makes of what it is given, where that is what its
// class is made by; nil where it makes none so.
func makes(p *jvm.Project, h *helper) *model.Model {
	if h.method.Returns == nil {
		return nil
	}
	c := p.Find(h.file, h.class, h.method.Returns.Unwrapped().Name)
	if c == nil || c.Site == nil || c.Site.File != h.file || c.Site.From != h.method.Body[0] || c.Site.Why != "" || len(c.Site.Nodes) != 1 {
		return nil
	}
	return c.Model
}

// givenAnswers says whether an instance that is made at a token is given anything that statements ask a
// document for: as an argument, by a name that holds it, in a block behind it, or by what is set later.
func givenAnswers(s *jvm.Site) bool {
	f, at, from, to := s.File, s.At, s.From, s.To
	answers := func(from, to int) bool {
		return asks(f, "", from, to) || slices.ContainsFunc(s.Nodes, func(name string) bool { return asks(f, name, from, to) })
	}
	shut := f.Partner(at + 1)
	if answers(at+2, shut) {
		return true
	}
	for f.Is(shut+1, ".") && f.Is(shut+3, "{") { // Port().apply { … }
		if answers(shut+4, f.Partner(shut+3)) {
			return true
		}
		shut = f.Partner(shut + 3)
	}
	holds := map[string]bool{} // names that answers are given to
	for i := from; i < to; i++ {
		if f.KindAt(i) == scan.Ident && f.Is(i+1, "=") && !f.Is(i+2, "=") && answers(i+2, lineEnd(f, i+2, to)) {
			holds[f.Ident(i)] = true
		}
	}
	for i := at + 2; i < shut; i++ {
		if holds[f.Ident(i)] || jvm.IsParsed(f.Word(i)) {
			return true
		}
	}
	start := at
	for f.Is(start-1, ".") || f.Is(start-1, "new") {
		start--
	}
	if !f.Is(start-1, "=") || f.KindAt(start-2) != scan.Ident {
		return false
	}
	named := start - 2
	if f.Language == "kotlin" && f.Is(start-3, ":") { // val port: Port = …
		named -= 2
	}
	for i := shut; i < to; i++ { // port.code = o.getString("code"), port.setCode(code)
		if f.Ident(i) != f.Ident(named) || !f.Is(i+1, ".") {
			continue
		}
		end := lineEnd(f, i, to)
		if answers(i, end) {
			return true
		}
		for k := i + 3; k < end; k++ {
			if holds[f.Ident(k)] {
				return true
			}
		}
	}
	return false
}

// lineEnd is the token behind the statement that a token is in: at a semicolon, or before a line break
// where those end statements.
func lineEnd(f *jvm.File, from, to int) int {
	for i := from; i < to; i++ {
		if f.Is(i, ";") || f.EndsLines() && i > from && f.TokenAt(i).Newline {
			return i
		}
		if m := f.Partner(i); m > i {
			i = m
		}
	}
	return to
}

// FollowSite makes the steps of a class from the statements that make it elsewhere; ok is false where
// it cannot.
func FollowSite(p *jvm.Project, c *jvm.Class, s *jvm.Site) (steps []model.Step, why string, at model.Pos, ok bool) {
	if s.Why != "" {
		return nil, s.Why, s.File.Where(s.At), false
	}
	w := &follower{p: p, of: c, c: s.Class, f: s.File, filled: map[string]bool{}, elsewhere: true}
	if w.c == nil {
		w.c = s.File.NewClass(jvm.Class{File: s.File})
	}
	env := map[string]*value{}
	for _, name := range s.Nodes {
		env[name] = &value{isNode: true}
	}
	if s.Index != "" {
		env[s.Index] = &value{expr: &model.Expr{Op: model.OpConst, Func: "index"}}
		w.ofElement = true
	}
	if s.IsExpression {
		v := w.expression(w.read(s.From, s.To), env)
		steps = append(w.take(), w.made(v, s.File.Where(s.From))...)
	} else {
		steps = w.statements(w.body(s.From, s.To), env)
	}
	if w.why == "" && !readsKeys(steps) {
		w.why, w.whyAt = "what it is made of", s.File.Where(s.At)
	}
	return w.withMentioned(steps), w.why, w.whyAt, w.why == ""
}

func readsKeys(steps []model.Step) bool {
	found := false
	model.WalkSteps(steps, func(field string, e *model.Expr) { found = found || field != "" && e.Op == model.OpAt })
	return found
}

// handedOn follows a statement outside of the class that does something with the instance when it is
// made, which ends what there is to follow: ports.add(port), list += Port(…), or the value of a
// lambda. ok is false where the statement is none.
func (w *follower) handedOn(s *code.Stmt, env map[string]*value) (steps []model.Step, ok bool) {
	if !w.elsewhere {
		return nil, false
	}
	f := w.f.File
	begin, end := w.tokens(s.From, s.To)
	for end > begin && f.Is(end-1, ";") {
		end--
	}
	for i := begin; i < end; i++ {
		start := i
		for f.Is(start-1, ".") && f.KindAt(start-2) == scan.Ident {
			start -= 2
		}
		if f.Is(start-1, "new") {
			start--
		}
		first := start == begin
		given := f.Is(start-1, "(") || f.Is(start-1, ",") || f.Is(start-1, "=") && !f.Is(start-2, "=")
		if !first && !given {
			continue
		}
		v := env[f.Ident(i)]
		stop := i + 1
		switch {
		case v != nil && (v.instance || v.expr != nil && v.expr.Op == model.OpNew && v.expr.Type == nil):
			if first && end != i+1 {
				continue
			}
		case madeAt(w.p, w.f, i) == w.of:
			stop = f.Partner(i+1) + 1
			for f.Is(stop, ".") && scopes[f.Word(stop+1)] && f.Is(stop+2, "{") { // Port().apply { … }
				stop = f.Partner(stop+2) + 1
			}
		default:
			continue
		}
		if stop != end && !f.Is(stop, ")") && !f.Is(stop, ",") || isDeclaration(f, begin, start) {
			continue
		}
		if v == nil || stop > i+1 {
			v = w.expression(w.read(start, stop), env)
		}
		if v == nil {
			return nil, true
		}
		steps = w.take()
		if !v.instance {
			steps = append(steps, w.made(v, f.Where(begin))...)
		}
		return append(steps, model.Step{Return: true, Pos: f.Where(begin)}), true
	}
	return nil, false
}

// scopes are the functions of Kotlin that answer what they are called on.
var scopes = map[string]bool{"apply": true, "also": true}

// isDeclaration says whether a statement gives a new name to what stands at a token: val p = …,
// Port p = ….
func isDeclaration(f *scan.File, from, at int) bool {
	if !f.Is(at-1, "=") || f.KindAt(at-2) != scan.Ident {
		return false
	}
	return f.Is(from, "val") || f.Is(from, "var") || f.Is(from, "final") || at-3 >= from && (f.KindAt(at-3) == scan.Ident || f.Is(at-3, ">"))
}
