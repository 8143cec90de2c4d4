package csharp

import (
	"strings"

	"vetta/internal/source/scan"
)

// directives takes the lines that are told to the compiler out of a file ("Pre-processing directives"), and what
// stands in branches of #if that it would pass over: symbols that the file defines hold, and those of a current
// version of the platform; others, DEBUG among them, do not, as in what is released. What is taken out leaves its
// line breaks and as many blanks. passed are the lines at which something was left out, with the condition.
func directives(src string) (text string, passed []branch) {
	if !strings.Contains(src, "#") {
		return src, nil
	}
	var out []byte
	blank := func(from, to int) {
		if out == nil {
			out = []byte(src)
		}
		for i := from; i < to; i++ {
			if out[i] != '\n' && out[i] != '\r' {
				out[i] = ' '
			}
		}
	}
	defined := map[string]bool{}
	type level struct{ outer, live, taken bool }
	var open []level
	live := true
	line := 0
	for pos := 0; pos < len(src); line++ {
		end := strings.IndexByte(src[pos:], '\n')
		if end < 0 {
			end = len(src)
		} else {
			end += pos
		}
		word, rest := directive(src[pos:end])
		switch word {
		case "":
			if !live {
				blank(pos, end)
				break
			}
			if next := codeLine(src, pos, end); next > end { // a string or a comment of several lines
				line += strings.Count(src[pos:next], "\n")
				if end = strings.IndexByte(src[next:], '\n'); end < 0 {
					end = len(src)
				} else {
					end += next
				}
			}
		case "if":
			open = append(open, level{outer: live})
			l := &open[len(open)-1]
			l.live = live && holds(rest, defined)
			l.taken = l.live
			if live && !l.live {
				passed = append(passed, branch{line + 1, rest})
			}
			live = l.live
		case "elif", "else":
			if len(open) > 0 {
				l := &open[len(open)-1]
				l.live = l.outer && !l.taken && (word == "else" || holds(rest, defined))
				if l.outer && !l.live {
					passed = append(passed, branch{line + 1, strings.TrimSpace(word + " " + rest)})
				}
				l.taken = l.taken || l.live
				live = l.live
			}
		case "endif":
			if len(open) > 0 {
				live = open[len(open)-1].outer
				open = open[:len(open)-1]
			}
		case "define", "undef":
			if live {
				defined[rest] = word == "define"
			}
		}
		if word != "" {
			blank(pos, end)
		}
		pos = end + 1
	}
	if out == nil {
		return src, passed
	}
	return string(out), passed
}

// branch is one that is passed over: the line of its directive, and its condition.
type branch struct {
	line      int
	condition string
}

var directiveWords = map[string]bool{
	"if": true, "elif": true, "else": true, "endif": true, "define": true, "undef": true, "region": true, "endregion": true, "pragma": true,
	"nullable": true, "warning": true, "error": true, "line": true, "r": true, "load": true,
}

// directive is the word of a line that is a directive, "" where it is none, and what stands behind it.
func directive(line string) (word, rest string) {
	line = strings.TrimSpace(strings.TrimPrefix(line, "\ufeff"))
	if !strings.HasPrefix(line, "#") {
		return "", ""
	}
	line = strings.TrimSpace(line[1:])
	n := 0
	for n < len(line) && line[n]|0x20 >= 'a' && line[n]|0x20 <= 'z' {
		n++
	}
	if word = line[:n]; !directiveWords[word] {
		return "", ""
	}
	rest, _, _ = strings.Cut(line[n:], "//")
	return word, strings.TrimSpace(rest)
}

// codeLine is where a line of code ends, with what goes on behind it: strings and comments over several lines.
func codeLine(src string, pos, end int) int {
	for i := pos; i < end; {
		switch c := src[i]; {
		case c == '/' && strings.HasPrefix(src[i:], "//"):
			return end
		case c == '/' && strings.HasPrefix(src[i:], "/*"):
			n := strings.Index(src[i+2:], "*/")
			if n < 0 {
				return len(src)
			}
			i += n + 4
		case c == '"' || c == '\'' || c == '$' || c == '@':
			l, ok := literalAt(src, i)
			if !ok {
				i++
				continue
			}
			i, _ = l.end(src)
		default:
			i++
		}
		if i > end {
			return i
		}
	}
	return end
}

// holds evaluates the condition of #if: names, !, &&, ||, ==, != and brackets.
func holds(condition string, defined map[string]bool) bool {
	c := &conditions{scan.Cursor{F: scan.Scan("", condition, dialect)}, defined, 0}
	return c.or()
}

type conditions struct {
	scan.Cursor
	defined map[string]bool
	depth   int
}

func (c *conditions) or() bool {
	v := c.and()
	for c.Operator("||") {
		c.I += 2
		right := c.and()
		v = v || right
	}
	return v
}

func (c *conditions) and() bool {
	v := c.same()
	for c.Operator("&&") {
		c.I += 2
		right := c.same()
		v = v && right
	}
	return v
}

func (c *conditions) same() bool {
	v := c.not()
	for c.Operator("==") || c.Operator("!=") {
		not := c.Operator("!=")
		c.I += 2
		v = (v == c.not()) != not
	}
	return v
}

func (c *conditions) not() bool {
	if c.depth++; c.depth > maxDepth {
		return false
	}
	defer func() { c.depth-- }()
	switch {
	case c.Accept("!"):
		return !c.not()
	case c.Accept("("):
		v := c.or()
		c.Accept(")")
		return v
	}
	name := c.Text()
	c.Advance()
	if v, told := c.defined[name]; told {
		return v
	}
	// https://learn.microsoft.com/dotnet/csharp/language-reference/preprocessor-directives: the symbols of a target
	return name == "true" || name == "NET" || name == "TRACE" || name == "NETCOREAPP" ||
		strings.HasSuffix(name, "_OR_GREATER") && (strings.HasPrefix(name, "NET") && !strings.HasPrefix(name, "NETSTANDARD") && !strings.HasPrefix(name, "NETFRAMEWORK"))
}
