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

// Sees says whether code at a token may name without more what is declared at another one of its file: in no class, in one
// around the code, or in the companion of such a one.
func Sees(f *File, code, declared int) bool {
	var of *Class
	for c := range classesAround(f, declared) {
		of = c
	}
	if of != nil && of.Name == "Companion" {
		of = of.Outer
	}
	if of == nil {
		return true
	}
	for c := range classesAround(f, code) {
		if c == of {
			return true
		}
	}
	return false
}

// Drop is what becomes of errors that code drops.
type Drop struct {
	Classes []string // of the errors, without their packages; nil for all
	Instead bool     // a value of the app's own takes the place of what was asked for
	// From and To are the tokens of that value, 0 and 0 where there are several, or none.
	From, To int
}

// Caught marks the tokens in a try block whose catch drops the error. One that throws, or
// that speaks of an error or a failure (onError, Result.failure, Fail), or ends with a value that holds it
// (Outcome.Bad(e)), hands it on.
func Caught(f *File) map[int]*Drop {
	marked := map[int]*Drop{}
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
		var drop *Drop
		for c.Is("catch") && c.Ahead(1, "(") {
			c.Advance()
			classes := caughtClasses(f, c.I+1, c.Shut())
			name := f.Word(c.I + 1)
			if f.Language == "java" {
				name = f.Word(c.Shut() - 1)
			}
			c.Jump()
			if !c.Is("{") {
				break
			}
			end := c.Shut()
			body := f.Text(c.I+1, end)
			if !strings.Contains(body, "throw") && !strings.Contains(body, "rror") && !strings.Contains(body, "ail") && !holds(f, c.I+1, end, name) {
				if drop == nil {
					drop = &Drop{}
				}
				drop.Classes = append(drop.Classes, classes...)
				drop.yields(f, c.I+1, end)
			}
			c.I = end
			c.Advance()
		}
		for k := from; drop != nil && k < to; k++ {
			marked[k] = drop
		}
	}
	for i := range f.Len() { // runCatching { … }.getOrNull()
		if shut := f.Partner(i + 1); f.Is(i, "runCatching") && f.Is(i+1, "{") && f.Is(shut+1, ".") && drops[f.Word(shut+2)] {
			drop := &Drop{}
			if open := shut + 3; f.Is(open, "(") || f.Is(open, "{") {
				drop.yields(f, open+1, f.Partner(open))
			}
			for k := i + 1; k < shut; k++ {
				marked[k] = drop
			}
		}
	}
	return marked
}

// caughtClasses are the classes that a catch names between its brackets: e: Lost, or Lost | Torn e.
func caughtClasses(f *File, from, to int) (classes []string) {
	for i := from; i < to; i++ {
		isName := i == from // of the exception, which stands first in Kotlin and last in Java
		if f.Language == "java" {
			isName = i == to-1
		}
		if f.KindAt(i) == scan.Ident && !isName && !f.Is(i+1, ".") && !f.Is(i, "final") {
			classes = append(classes, f.Word(i))
		}
	}
	return classes
}

// yields notes whether a block ends with a value of its own: a constructor, a list, a default; not with null, with a log
// or without anything.
func (d *Drop) yields(f *File, from, to int) {
	last := lastStatement(f, from, to)
	begins := last
	if f.Is(last, "new") {
		last++
	}
	if last >= to || f.Is(last, "null") || f.Word(last) == "" {
		return
	}
	first := f.Word(last)
	if first[0] >= 'A' && first[0] <= 'Z' {
		if !f.Is(last+1, "(") {
			return
		}
	} else if !strings.HasPrefix(first, "empty") && !strings.HasSuffix(first, "Of") && !strings.HasPrefix(first, "default") && !strings.HasPrefix(first, "fallback") {
		return
	}
	if d.From, d.To = begins, to; d.Instead {
		d.From, d.To = 0, 0
	}
	d.Instead = true
}

// lastStatement is the token at which the last statement of a block begins, without its return.
func lastStatement(f *File, from, to int) int {
	last := from
	for i := from; i < to; i++ {
		if f.Language == "kotlin" && f.TokenAt(i).Newline && !f.Is(i, ".") || f.Is(i, ";") && i+1 < to {
			last = i
		}
		if m := f.Partner(i); m > i {
			i = m
		}
	}
	for last < to && (f.Is(last, ";") || f.Is(last, "return")) {
		last++
	}
	return last
}

// loggers are classes that write down what they are given.
var loggers = map[string]bool{"Log": true, "Timber": true, "Logger": true, "System": true}

// holds says whether a block ends with an instance that is made with an exception, by its name.
func holds(f *File, from, to int, exception string) bool {
	at := lastStatement(f, from, to)
	if f.Is(at, "new") {
		at++
	}
	first := f.Word(at)
	if first == "" || first[0] < 'A' || first[0] > 'Z' || loggers[first] {
		return false
	}
	for i := at; i < to; i++ {
		if f.KindAt(i) == scan.Ident && f.Word(i) == exception && !f.Is(i-1, ".") {
			return true
		}
	}
	return false
}

// drops are the methods of a result of Kotlin that drop its error.
var drops = map[string]bool{"getOrNull": true, "getOrDefault": true, "getOrElse": true}
