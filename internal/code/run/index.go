package run

import (
	"slices"
	"strings"

	"vetta/internal/code"
)

// index says which functions of a program use a name. Bodies that were passed over are read where the name stands in
// their text.
type index struct {
	all    []*code.Func // the values of variables among them
	named  map[string][]*code.Func
	units  []*code.Unit
	unread map[*code.Unit][]*code.Func
}

// indexed is the index of the program; it is made and asked while the source is read, by one goroutine.
func (p *Program) indexed() *index {
	if p.index != nil {
		return p.index
	}
	ix := &index{named: map[string][]*code.Func{}, units: p.Units(), unread: map[*code.Unit][]*code.Func{}}
	p.index = ix
	value := func(v *code.Prop, c *code.Class) {
		if v.Value != nil {
			ix.add(&code.Func{Name: v.Name, Class: c, Static: v.Static || c == nil, File: v.File, Pos: v.Pos, Body: []code.Stmt{{Op: code.Return, Value: v.Value}}}, nil)
		}
	}
	for _, u := range ix.units {
		for _, f := range u.Funcs {
			ix.add(f, u)
		}
		for _, v := range u.Props {
			value(v, nil)
		}
		for _, c := range u.Classes {
			for _, f := range c.Funcs {
				ix.add(f, u)
			}
			for _, v := range c.Props {
				value(v, c)
			}
		}
	}
	return ix
}

// Forget gives up what is only needed while the source is read.
func (p *Program) Forget() { p.index = nil }

func (ix *index) add(f *code.Func, u *code.Unit) {
	ix.all = append(ix.all, f)
	if u != nil && f.Unread != nil && u.Unread != nil {
		ix.unread[u] = append(ix.unread[u], f)
	} else {
		ix.use(f)
	}
}

func (ix *index) use(f *code.Func) {
	for name := range usedNames(f) {
		ix.named[name] = append(ix.named[name], f)
	}
}

// users are the functions that use a name; one that begins with a point is that of a member.
func (ix *index) users(name string) []*code.Func {
	word := strings.TrimPrefix(name, ".")
	for _, u := range ix.units {
		if rest := ix.unread[u]; len(rest) > 0 && u.Unread(word) {
			ix.unread[u] = slices.DeleteFunc(rest, func(f *code.Func) bool {
				if !f.Unread.Has(name) {
					return false
				}
				ix.use(f)
				return true
			})
		}
	}
	return ix.named[word]
}

// sinks are the names by which code gets at the body of an answer, those of members of it with their point.
var sinks = []string{"jsonDecode", "decode", "convert", "decodeFromString", "fetch", ".data", ".body", ".bodyBytes"}

// asking are the functions that may lead to where a response is decoded: those that name a sink, and those that name
// such a function.
func (ix *index) asking() []*code.Func {
	seen := map[*code.Func]bool{}
	var queue []*code.Func
	push := func(f *code.Func) {
		if !seen[f] && !f.Setter && (!f.Init || f.Factory) {
			seen[f] = true
			queue = append(queue, f)
		}
	}
	for _, name := range sinks {
		for _, f := range ix.users(name) {
			push(f)
		}
	}
	for _, f := range ix.all {
		for _, mark := range f.Marks {
			if mark.Op == code.Call && isVerb(strings.ToUpper(mark.Args[0].Text)) {
				push(f)
			}
		}
	}
	for i := 0; i < len(queue) && len(queue) < maxEntries; i++ {
		for _, f := range ix.users(queue[i].Name) {
			push(f)
		}
	}
	slices.SortFunc(queue, byPlace)
	return queue
}

func byPlace(a, b *code.Func) int {
	if c := strings.Compare(a.File, b.File); c != 0 {
		return c
	}
	if a.Pos.Line != b.Pos.Line {
		return int(a.Pos.Line - b.Pos.Line)
	}
	return int(a.Pos.Col - b.Pos.Col)
}

// usedNames are the names in the body of a function.
func usedNames(f *code.Func) map[string]bool {
	out := map[string]bool{}
	visit := func(x *code.Expr) {
		if x.Op == code.Name || x.Op == code.Member {
			out[x.Text] = true
		}
	}
	code.WalkBody(f.Do(), visit)
	code.WalkBody(f.Inits, visit)
	code.Walk(f.Redirect, visit)
	return out
}
