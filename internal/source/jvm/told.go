package jvm

import (
	"strings"

	"vetta/internal/model"
)

// decodes is a function of the app that decodes what its type parameter says: inline fun
// <reified T> Gson.from(text: String): T.
type decodes struct {
	name string
	call *model.Call // in it
}

// functionAround is the function whose body a token is in, nil where it is in none.
func functionAround(f *File, at int) (found *model.Method) {
	within := func(all []*model.Method) {
		for _, m := range all {
			if m.Body[0] <= at && at < m.Body[1] {
				found = m
			}
		}
	}
	within(f.Functions)
	for c := range classesAround(f, at) {
		within(c.Methods)
	}
	return found
}

// ofDecoder says whether a token is in a function that extends a decoder, so that what it calls
// may be the decoder's own.
func ofDecoder(f *File, at int) bool {
	m := functionAround(f, at)
	return m != nil && (builders[m.Receiver] != "" || m.Receiver == "ObjectReader")
}

// maxHelped is how many calls of helpers are looked for.
const maxHelped = 10_000

// helped are the calls of helpers that are told a type: from<Port>(text). Where one is not told
// it, what it decodes is told by classes that are handed to it, or not at all.
func (p *project) helped() (calls []*model.Call) {
	seen := map[string]bool{}
	for _, h := range p.decoders {
		if h.name == "" || seen[h.name] { // a function without a name is not called by it
			continue
		}
		seen[h.name] = true
		for _, f := range p.files {
			for at := 0; len(calls) < maxHelped; {
				n := strings.Index(f.Src[at:], h.name+"<")
				if n < 0 {
					break
				}
				start := at + n
				at = start + len(h.name)
				if start > 0 && isWordByte(f.Src[start-1]) {
					continue
				}
				text := angled(f.Src[at:])
				if text == "" {
					continue
				}
				told := text[1 : len(text)-1]
				t, _ := f.again(f.Name, told).parse(0)
				if t == nil || isParameter(t) {
					continue
				}
				pos := f.At(int32(start))
				t.Walk(func(t *model.Type) { t.Pos = pos })
				p.resolve(f, nil, nil, t)
				calls = append(calls, &model.Call{Pos: pos, Language: f.Language, Type: t, Declared: told, Settings: h.call.Settings})
			}
		}
	}
	return calls
}

func isWordByte(b byte) bool {
	return b == '_' || b >= '0' && b <= '9' || b|0x20 >= 'a' && b|0x20 <= 'z'
}

// maxAngled is how long type arguments may be.
const maxAngled = 300

// angled is the text from one angle bracket to its partner, where a call follows; else "".
func angled(text string) string {
	depth := 0
	for i := 0; i < min(len(text), maxAngled); i++ {
		switch c := text[i]; {
		case c == '<':
			depth++
		case c == '>':
			if depth--; depth == 0 {
				if i+1 < len(text) && text[i+1] == '(' {
					return text[:i+1]
				}
				return ""
			}
		case !isWordByte(c) && !strings.ContainsRune(" .,?*[]", rune(c)):
			return ""
		}
	}
	return ""
}
