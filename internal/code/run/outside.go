package run

import (
	"slices"
	"strings"

	"vetta/internal/code"
)

// verbs are the names of methods by which clients send a request.
var verbs = map[string]string{
	"get": "GET", "post": "POST", "put": "PUT", "patch": "PATCH", "delete": "DELETE", "head": "HEAD",
	"getUri": "GET", "postUri": "POST", "putUri": "PUT", "patchUri": "PATCH", "deleteUri": "DELETE",
	"read": "GET", "readBytes": "GET", "fetch": "", "request": "", "requestUri": "", "send": "", "getUrl": "GET", "openUrl": "", "fetchUrl": "",
}

// bodies are the names of what clients have the body of an answer in.
var bodies = words("body bodyBytes bodyString data content text payload responseBody")

// outside is a value of a type of which only the world outside of the code knows what it is.
func (m *Machine) outside(t *Type, _ int) Value {
	return Value{Kind: Unknown, Static: t, Out: &Outside{}}
}

// outsideField is a property of an instance that comes from outside.
func (m *Machine) outsideField(of Value, t *Type) Value {
	v := Value{Kind: Unknown, Static: t, Out: &Outside{Request: of.Out.Request}}
	return v
}

// instance is an instance of a class of the app, of which only what it is declared with is known; ok is false where
// it is not told which class it is of.
func (m *Machine) instance(t *Type) (Value, bool) {
	c := m.concrete(t.Class, 0)
	if c == nil || c.Kind == "enum" {
		return Value{}, false
	}
	own := t
	if c != t.Class {
		own = &Type{Name: c.Name, Class: c}
		for range c.Generics {
			own.Args = append(own.Args, nil)
		}
	}
	if v, ok := m.instances[c]; ok && len(own.Args) == 0 {
		return v, true
	}
	o := &Object{Type: own, Fields: map[string]*Value{}}
	v := Value{Kind: Obj, Ref: o, Static: own, Out: &Outside{}}
	if m.instances == nil {
		m.instances = map[*code.Class]Value{}
	}
	m.instances[c] = v
	m.fields(own, 0, func(p *code.Prop, in *Type) {
		u := m.p.unitOf(p.File)
		of := m.resolve(p.Type, u, m.own(in))
		var f Value
		if p.Value != nil && !p.Late {
			got, err := m.expr(p.Value, &frame{unit: u, of: in, by: m.own(in)}, nil, of)
			if err == nil {
				f = got
				if p.Type != nil {
					f.Static = of
				}
			} else {
				f = m.outside(of, 0)
			}
		} else if p.Late && p.Value != nil {
			return
		} else {
			f = m.outside(of, 0)
		}
		o.Fields[p.Name] = &f
	})
	m.defaults(c, o)
	m.built(c, o, v)
	return v, true
}

// built gives properties what the constructors above give them in any case, by running them with arguments of which
// nothing is known.
func (m *Machine) built(c *code.Class, o *Object, v Value) {
	fn := static(c, c.Name)
	if fn == nil || fn.Factory || fn.Redirect != nil || c.Extends == nil {
		return
	}
	by := m.own(o.Type)
	fresh := &Object{Type: o.Type, Fields: map[string]*Value{}}
	var err error
	m.quietly(func() {
		dry := m.dry
		m.dry = 0
		err = m.fill(fresh, Value{Kind: Obj, Ref: fresh, Static: o.Type, Out: v.Out}, fn, o.Type, m.anyArgs(fn, by))
		m.dry = dry
	})
	if err != nil {
		return
	}
	for name, f := range fresh.Fields {
		if f.Kind == String || f.Kind == Obj || f.Kind == Fn || f.isUnknown() && f.S != "" {
			o.Fields[name] = f
		}
	}
}

// defaults gives properties of which nothing is known what a constructor gives them in any case.
func (m *Machine) defaults(c *code.Class, o *Object) {
	fn := static(c, c.Name)
	if fn == nil || fn.Factory {
		return
	}
	u := m.p.unitOf(c.File)
	f := &frame{fn: fn, unit: u, of: o.Type, by: m.own(o.Type)}
	e := inside(nil)
	for i := range fn.Params {
		p := &fn.Params[i]
		t := m.paramType(fn, p, u, f.by)
		v := m.outside(t, 0)
		if p.Default != nil {
			if d, err := m.expr(p.Default, f, nil, t); err == nil {
				v = d
			}
		}
		if p.Field {
			o.Fields[p.Name] = &v
		}
		e.set(p.Name, &cell{v: v, t: t, depth: m.forks})
	}
	for i := range fn.Inits {
		s := &fn.Inits[i]
		if s.Op != code.Assign {
			continue
		}
		if v, err := m.expr(s.Value, f, e, m.typeOfField(o.Type, s.Name)); err == nil {
			o.Fields[s.Name] = &v
		}
	}
}

// concrete is the class whose instances stand for one that has none of its own: the only one that is it.
func (m *Machine) concrete(c *code.Class, deep int) *code.Class {
	if c == nil || deep > 5 {
		return nil
	}
	if !c.Abstract && c.Kind == "class" {
		return c
	}
	var found *code.Class
	for _, s := range m.p.inherits[c.Name] {
		if of := m.concrete(s, deep+1); of != nil {
			if found != nil && found != of {
				return c // its own methods, then
			}
			found = of
		}
	}
	if found == nil {
		return c
	}
	return found
}

// solid is an instance that comes from outside, with what is known of it.
func (m *Machine) solid(v Value) Value {
	if v.isUnknown() && v.Out != nil && v.At == nil && v.Static != nil && v.Static.Class != nil && len(v.From) == 0 {
		if i, ok := m.instance(v.Static.solid()); ok {
			return i
		}
	}
	return v
}

// outsideMember is a property of what comes from outside.
func (m *Machine) outsideMember(of Value, name string) Value {
	out := *of.Out
	v := Value{Kind: Unknown, Out: &out}
	switch {
	case name == "statusCode" && out.Request != nil:
		return intOf(200)
	case out.Request != nil && (name == "ok" || name == "isOk" || name == "isSuccessful"):
		return boolOf(true)
	case out.Request != nil && bodies[name]:
		out.Text = true
		switch {
		case name == "body":
			v.Static = stringType
		case name == "data" && out.Type != nil:
			v.Static = out.Type.nullable()
		}
	case out.Request == nil && of.S != "":
		v.S = of.S
	}
	return v
}

// callOutside calls a function or a method that the app does not declare.
func (m *Machine) callOutside(of Value, name string, a Args, f *frame, ctx *Type) (Value, error) {
	switch name {
	case "then":
		return m.Apply(a.at(0), of)
	case "catchError", "whenComplete", "timeout", "onError", "toString", "asBroadcastStream", "trim":
		return of, nil
	}
	out := Outside{Request: of.Out.Request, Method: of.Out.Method, Texts: slices.Clone(of.Out.Texts), Text: of.Out.Text}
	for i, v := range a.List {
		label := ""
		if k := i - len(a.plain()); k >= 0 {
			label = a.Names[k]
		}
		switch {
		case label == "method" && v.Kind == String:
			out.Method = strings.ToUpper(v.S)
		case label == "" || label == "path" || label == "url" || label == "uri":
			if i == 0 && v.Kind == String && isVerb(v.S) {
				out.Method = v.S
				continue
			}
			if text := textIn(v); text != "" {
				out.Texts = append(out.Texts, text)
			} else if v.Kind == Unknown && v.Out == nil || v.isUnknown() && v.Out != nil && len(v.Out.Texts) == 0 && v.Static.is("String") {
				out.Texts = append(out.Texts, "{}")
			}
		}
		if v.Out != nil && v.isUnknown() {
			if v.S == "" {
				out.Texts = append(out.Texts, v.Out.Texts...)
			}
			if v.Out.Method != "" {
				out.Method = v.Out.Method
			}
			if v.Out.Request != nil && out.Request == nil { // what is made of an answer
				out.Request = v.Out.Request
			}
		}
	}
	v := Value{Kind: Unknown, Out: &out, From: nil}
	verb, isVerb := verbs[name]
	if isVerb && out.Request == nil {
		if path := pathIn(out.Texts); path != "" {
			if verb == "" {
				if verb = out.Method; verb == "" {
					verb = "GET"
				}
			}
			out.Request = &Request{Method: verb, Path: path}
			out.Text = name == "read" || name == "readBytes"
			if len(a.Types) == 1 && a.Types[0] != nil && !a.Types[0].is("ResponseBody") {
				out.Type = a.Types[0]
			}
			return v, nil
		}
	}
	if of.Out.Request != nil && (name == "json" || name == "text" || name == "bytesToString" || name == "transform" || name == "join") {
		out.Text = true
		return v, nil
	}
	if m.looking {
		for _, fn := range a.List {
			m.handed(fn)
		}
	}
	for _, fn := range a.plain() { // what runs a function, and hands on what it yields
		if c, ok := fn.Ref.(*Closure); ok && fn.Kind == Fn && c.Fn != nil && len(c.Fn.Params) == 0 {
			r, err := m.Apply(fn)
			if err != nil {
				return r, err
			}
			if r.Out != nil && r.Out.Request != nil || len(r.places()) > 0 {
				return r, nil
			}
		}
	}
	if out.Request == nil && len(pathIn(out.Texts)) == 0 { // what a function makes of a part of the document is not known
		for _, arg := range a.List {
			v.From = union(v.From, arg.places())
		}
		if len(v.From) > 0 {
			v.Out = nil
		}
	}
	return v, nil
}

// handed runs a function that the app hands to the outside, which may call it at any time with anything.
func (m *Machine) handed(fn Value) {
	c, ok := fn.Ref.(*Closure)
	if !ok || fn.Kind != Fn || c.Fn == nil || len(m.calls) > 20 {
		return
	}
	a := m.anyArgs(c.Fn, m.bindingsOf(c))
	_ = m.fork(&frame{fn: noFunc}, nil, func() error {
		_, err := m.apply(c, a)
		return err
	}, func() error { return nil })
}

func isVerb(s string) bool {
	switch s {
	case "GET", "POST", "PUT", "PATCH", "DELETE":
		return true
	}
	return false
}

// textIn is as much of the text of a value as is known.
func textIn(v Value) string {
	switch {
	case v.Kind == String:
		return v.S
	case v.Kind == Hosts:
		if u, ok := v.Ref.(URI); ok {
			return u.Text
		}
	}
	return v.S
}

// pathIn is the path among some texts: the last one that looks like one.
func pathIn(texts []string) string {
	path := ""
	for _, t := range texts {
		if strings.Contains(t, "/") || path == "" {
			path = t
		}
	}
	return path
}

// requested is what an abstract method yields that an annotation says a request for; ok is false where none does, or
// that is not followed.
func (m *Machine) requested(fn *code.Func, of, wants *Type) (v Value, ok bool, err error) {
	for _, mark := range fn.Marks {
		if mark.Op != code.Call || mark.Args[0].Op != code.Name {
			continue
		}
		verb := strings.ToUpper(mark.Args[0].Text)
		if !isVerb(verb) {
			continue
		}
		p := Value{Kind: String}
		for i, arg := range mark.Args[1:] {
			if mark.Labels[i] == "" && i == 0 || mark.Labels[i] == "path" || mark.Labels[i] == "url" {
				v, err := m.expr(arg, &frame{unit: m.p.unitOf(fn.File), of: of}, nil, stringType)
				if err == nil && v.Kind == String {
					p = v
				}
			}
		}
		p.S = m.baseOf(fn.Class) + p.S
		t := wants
		if t.is("Future", "FutureOr") {
			t = t.arg(0)
		}
		if t.is("HttpResponse", "Response") && len(t.Args) == 1 {
			t = t.arg(0)
		}
		doc, err := m.document(Value{Kind: Unknown, Out: &Outside{Request: &Request{Method: verb, Path: p.S}, Text: true}}, nil)
		if err != nil {
			return Value{}, false, nil
		}
		v, ok, err := m.MadeOf(t, doc)
		if _, thrown := err.(*Thrown); err != nil && !thrown {
			return v, false, nil
		}
		return v, ok && err == nil, err
	}
	return Value{}, false, nil
}

// baseOf is what an annotation of a class says that the paths of its requests begin with.
func (m *Machine) baseOf(c *code.Class) string {
	if c == nil {
		return ""
	}
	for _, mark := range c.Marks {
		if mark.Op != code.Call {
			continue
		}
		for i, l := range mark.Labels {
			if l != "baseUrl" {
				continue
			}
			v, err := m.expr(mark.Args[1+i], &frame{unit: m.p.unitOf(c.File)}, nil, stringType)
			if err == nil && v.Kind == String && strings.HasPrefix(v.S, "/") {
				return strings.TrimSuffix(v.S, "/")
			}
		}
	}
	return ""
}
