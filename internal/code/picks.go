package code

import (
	"slices"
	"strings"
	"unicode"
)

// Picks says whether the last of some statements is run only where something that was sent is a certain value, or of some
// kind. of is what they stand in, nil for none; about says of a name whether it stands for something that was sent.
func Picks(all []Stmt, of *Stmt, about func(name string) bool) bool {
	for i := len(all) - 1; i >= 0; i-- {
		switch s := &all[i]; s.Kind {
		case Case:
			if of == nil || !mentions(of.Value, about) && (len(of.Body) == 0 || !mentions(of.Body[0].Value, about)) {
				return false
			}
			if s.Value != nil && (s.Value.Op != List || len(s.Value.Args) > 0) {
				return isCertain(s)
			}
			return slices.ContainsFunc(all[:i], func(s Stmt) bool { return isCertain(&s) }) // all others
		case ElseIf:
			if decides(s, about) {
				return true
			}
		case If:
			return decides(s, about)
		case Else:
		default: // behind those that leave where it is another, and do not throw
			return i == len(all)-1 && slices.ContainsFunc(all[:i], func(s Stmt) bool { return s.Kind == If && leaves(s.Body) && decides(&s, about) })
		}
	}
	return false
}

// isCertain says whether a case is for a certain value, or for those of a kind.
func isCertain(s *Stmt) (is bool) {
	Walk(s.Value, func(e *Expr) { is = is || isConstant(e) || isOfType(e) })
	return is
}

// isOfType says whether a pattern takes values of a type.
func isOfType(e *Expr) bool { return (e.Op == Bind || e.Op == Record) && e.Type != nil }

// decides says whether a statement runs by what something that was sent is compared with.
func decides(s *Stmt, about func(name string) bool) bool {
	return len(s.Body) > 0 && (Compares(s.Body[0].Value, about) || Compares(s.Value, about))
}

// leaves says whether the last of some statements leaves those that they stand in, without an error.
func leaves(all []Stmt) bool {
	if len(all) == 0 {
		return false
	}
	s := &all[len(all)-1]
	return s.Op == Return || s.Kind == Jump || s.Op == Block && leaves(s.Body)
}

// chooses says whether an expression is one of several by what something that was sent is.
func chooses(e *Expr, about func(name string) bool) (found bool) {
	for i := range e.Body {
		s := &e.Body[i]
		if s.Kind == Switch {
			found = found || len(s.Body) > 0 && mentions(s.Body[0].Value, about) && slices.ContainsFunc(s.Body, func(s Stmt) bool { return s.Kind == Case && isCertain(&s) })
		} else {
			found = found || Compares(s.Value, about) || decides(s, about)
		}
	}
	return found
}

// Compares says whether an expression compares something that was sent with a certain value, or asks of what kind it is.
// about is as Picks has it.
func Compares(e *Expr, about func(name string) bool) (found bool) {
	Walk(e, func(x *Expr) {
		asks := false
		switch {
		case found:
		case x.Op == Binary:
			asks = len(x.Args) == 2 && (strings.HasPrefix(x.Text, "==") || strings.HasPrefix(x.Text, "!=")) && !slices.ContainsFunc(x.Args, isSize) && slices.ContainsFunc(x.Args, isConstant)
		case x.Op == Match && len(x.Args) > 1:
			Walk(x.Args[1], func(x *Expr) { asks = asks || isConstant(x) || isOfType(x) })
		case x.Op == Call:
			of := append(x.Args[0].Args[:len(x.Args[0].Args):len(x.Args[0].Args)], x.Args[1:]...) // "fog".equals(kind), too
			asks = strings.HasSuffix(strings.ToLower(called(x)), "equals") && slices.ContainsFunc(of, isConstant) ||
				isPredicate(called(x)) && slices.ContainsFunc(x.Args[1:], func(a *Expr) bool { return a.Op == Name && about(a.Text) })
		default:
			asks = x.Op == Is
		}
		found = found || asks && mentions(x, about)
	})
	return found
}

// isPredicate says whether a name is one of a function that tells what it is given, isFog(row); whether there is anything
// at all does not tell one class from another.
func isPredicate(name string) bool {
	rest, ok := strings.CutPrefix(strings.ToLower(name), "is")
	return ok && len(rest) > 0 && !unicode.IsLower(rune(name[2])) && !strings.Contains(rest, "null") && !strings.Contains(rest, "empty") && !strings.Contains(rest, "blank")
}

// isConstant says whether an expression is a value that is written in the source: a text, a number, a constant of an enum.
func isConstant(e *Expr) bool {
	switch e.Op {
	case Text, Number:
		return true
	case Member:
		if len(e.Args) == 0 || e.Args[0].Op != Name && e.Args[0].Op != Member {
			return false
		}
		of := e.Args[0].Text
		return of != "" && unicode.IsUpper(rune(of[0])) && of != "StringComparison"
	}
	return false
}

// isSize says whether an expression is how many a collection holds.
func isSize(e *Expr) bool {
	name := e.Text
	if e.Op == Call && len(e.Args) > 0 {
		name = e.Args[0].Text
	}
	return slices.Contains([]string{"count", "length", "size", "getarraylength"}, strings.ToLower(name))
}

// givenAs begins how a name is called that a call is given, among those that something is about.
const givenAs = "given "

// mentions says whether a name stands in an expression of which about says so.
func mentions(e *Expr, about func(name string) bool) (found bool) {
	Walk(e, func(x *Expr) {
		found = found || x.Op == Name && about(x.Text)
		if x.Op == Call {
			found = found || slices.ContainsFunc(x.Args[1:], func(a *Expr) bool { return a.Op == Name && about(givenAs+a.Text) })
		}
	})
	return found
}
