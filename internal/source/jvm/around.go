package jvm

import (
	"iter"
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// FunctionAround is the function whose body a token is in, nil where it is in none.
func FunctionAround(f *File, at int) (found *model.Method) {
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

// OfDecoder says whether a token is in a function that extends a decoder, so that what it calls
// may be the decoder's own.
func OfDecoder(f *File, at int) bool {
	m := FunctionAround(f, at)
	return m != nil && (Builders[m.Receiver] != "" || m.Receiver == "ObjectReader")
}

// IsWordByte says whether a byte is one of a name in ASCII.
func IsWordByte(b byte) bool {
	return b == '_' || b >= '0' && b <= '9' || b|0x20 >= 'a' && b|0x20 <= 'z'
}

// Last is the last name of a path: FieldNamingPolicy.IDENTITY is IDENTITY.
func Last(path string) string { return path[strings.LastIndexByte(path, '.')+1:] }

// classesAround are the classes around a token, the innermost last.
func classesAround(f *File, at int) iter.Seq[*Class] {
	return func(yield func(*Class) bool) {
		for all := f.Classes; len(all) > 0; {
			in := slices.IndexFunc(all, func(c *Class) bool { return c.Body[0] <= at && at < c.Body[1] })
			if in < 0 || !yield(all[in]) {
				return
			}
			all = all[in].Nested
		}
	}
}

// ClassAt is the innermost class around a token.
func (p *Project) ClassAt(f *File, at int) (found *Class) {
	for c := range classesAround(f, at) {
		found = c
	}
	return found
}

// Caught marks the tokens in a try block whose catch drops the error. One that throws, or
// that speaks of an error or a failure (onError, Result.failure, Fail), hands it on.
func Caught(f *File) map[int]bool {
	marked := map[int]bool{}
	for i := range f.Len() {
		if !f.Is(i, "try") {
			continue
		}
		c := &scan.Cursor{F: f.File, I: i + 1}
		if c.Is("(") {
			c.Jump()
		}
		if !c.Is("{") {
			continue
		}
		from, to := c.I, c.Shut()
		c.Jump()
		dropped := false
		for c.Is("catch") && c.Ahead(1, "(") {
			c.Advance()
			c.Jump()
			if !c.Is("{") {
				break
			}
			end := c.Shut()
			body := f.Text(c.I+1, end)
			dropped = dropped || !strings.Contains(body, "throw") && !strings.Contains(body, "rror") && !strings.Contains(body, "ail")
			c.I = end
			c.Advance()
		}
		for k := from; dropped && k < to; k++ {
			marked[k] = true
		}
	}
	for i := range f.Len() { // runCatching { … }.getOrNull()
		if shut := f.Partner(i + 1); f.Is(i, "runCatching") && f.Is(i+1, "{") && f.Is(shut+1, ".") && drops[f.Word(shut+2)] {
			for k := i + 1; k < shut; k++ {
				marked[k] = true
			}
		}
	}
	return marked
}

// drops are the methods of a result of Kotlin that drop its error.
var drops = map[string]bool{"getOrNull": true, "getOrDefault": true, "getOrElse": true}
