package jvm

import (
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// Literal is the value of the expression between two tokens, as far as it is one that
// source tells: literals, constants by name, empty lists and maps, lists of literals.
func Literal(f *scan.File, from, to int) *model.Literal {
	l := &model.Literal{Source: f.Text(from, to)}
	at := from
	negative := to-from > 1 && f.Is(from, "-")
	if negative {
		at++
	}
	first := f.TokenAt(at)
	switch single := to-at == 1; {
	case single && first.Kind == scan.String && first.Plain:
		l.Kind, l.Text = model.StringLiteral, first.Text
	case single && first.Kind == scan.Number:
		text := strings.ToLower(strings.ReplaceAll(first.Text, "_", ""))
		l.Kind = model.IntLiteral
		if !strings.HasPrefix(text, "0x") && strings.ContainsAny(text, ".efd") {
			l.Kind = model.FloatLiteral
			text = strings.TrimRight(text, "fd")
		}
		l.Text = strings.TrimRight(text, "lu")
		if negative {
			l.Text = "-" + l.Text
		}
	case single && first.Is("null"):
		l.Kind = model.NullLiteral
	case single && (first.Is("true") || first.Is("false")):
		l.Kind, l.Text = model.BoolLiteral, first.Text
	case isPath(f, at, to):
		l.Kind, l.Text = model.CaseLiteral, f.TokenAt(to-1).Text
	default:
		collection(f, from, to, l)
		if l.Kind != model.OtherLiteral {
			break
		}
		parts := Parts(f, from, to)
		if text, plain := plainText(parts); plain {
			l.Kind, l.Text = model.StringLiteral, text
		} else {
			l.Elems = parts
		}
	}
	return l
}

// isPath says whether tokens are names with dots between them.
func isPath(f *scan.File, from, to int) bool {
	for i := from; i < to; i++ {
		if (i-from)%2 == 0 && f.KindAt(i) != scan.Ident || (i-from)%2 == 1 && !f.Is(i, ".") {
			return false
		}
	}
	return (to-from)%2 == 1
}

// emptyMakers make empty collections when they are given nothing, and lists of what
// they are given otherwise.
var listMakers = map[string]bool{
	"ArrayList": true, "LinkedList": true, "HashSet": true, "LinkedHashSet": true, "TreeSet": true, "emptyList": true, "emptySet": true, "listOf": true, "mutableListOf": true,
	"arrayListOf": true, "setOf": true, "mutableSetOf": true, "hashSetOf": true, "of": true, "asList": true, "arrayOf": true, "intArrayOf": true, "emptyArray": true, "listOfNotNull": true,
}

var mapMakers = map[string]bool{
	"HashMap": true, "LinkedHashMap": true, "TreeMap": true, "emptyMap": true, "mapOf": true, "mutableMapOf": true, "hashMapOf": true,
}

// collection reads new ArrayList<>(), List.of(1, 2), emptyList(), mutableMapOf().
func collection(f *scan.File, from, to int, l *model.Literal) {
	c := &scan.Cursor{F: f, I: from}
	c.Accept("new")
	name, owner := "", ""
	for c.I < to && c.Kind() == scan.Ident {
		owner, name = name, c.Text()
		c.Advance()
		if c.Is("<") {
			SkipAngles(c)
		}
		if !c.Accept(".") {
			break
		}
		if c.Is("<") { // Collections.<String>emptyList()
			SkipAngles(c)
		}
	}
	if !c.Is("(") || c.Shut() != to-1 {
		return
	}
	isMap := mapMakers[name] || name == "of" && owner == "Map"
	if !isMap && !listMakers[name] || name == "of" && Collections[owner] == 0 && owner != "List" || name == "asList" && owner != "Arrays" {
		return
	}
	l.Kind = model.ListLiteral
	if isMap {
		l.Kind = model.MapLiteral
	}
	end := c.Shut()
	if c.I+1 < end && (isMap || name != "of" && !strings.HasSuffix(name, "Of") && name != "asList") {
		// new ArrayList<>(List.of(9)) holds what the other does; a number is a capacity.
		inner := Literal(f, c.I+1, end)
		if inner.Kind == model.ListLiteral && !isMap {
			l.Elems = inner.Elems
		} else if inner.Kind != model.IntLiteral {
			l.Kind = model.OtherLiteral
		}
		return
	}
	c.Advance()
	for c.I < end {
		start := c.I
		for c.I < end && !c.Is(",") {
			c.Jump()
		}
		l.Elems = append(l.Elems, Literal(f, start, c.I))
		c.Accept(",")
	}
}
