package swift

import (
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// selectBranches takes out the branches of #if that a release build for a phone
// would leave out, and the directives themselves ("Statements", Compiler Control
// Statements). It answers which branches are passed over, and why.
func selectBranches(f *scan.File) (passed []model.Problem) {
	if !strings.Contains(f.Src, "#") {
		return nil
	}
	type level struct{ taken, active bool }
	var stack []level
	active := func(stack []level) bool {
		return !slices.ContainsFunc(stack, func(l level) bool { return !l.active })
	}
	var dropped map[int]bool
	drop := func(from, to int) {
		if dropped == nil {
			dropped = map[int]bool{}
		}
		for i := from; i < to; i++ {
			dropped[i] = true
		}
	}
	for i := 0; i < f.Len(); i++ {
		if f.Is(i, "#") && f.KindAt(i+1) == scan.Ident && !f.TokenAt(i+1).Space {
			word := f.TokenAt(i + 1).Text
			if word == "if" || word == "elseif" || word == "else" || word == "endif" {
				end := i + 2
				for f.KindAt(end) != scan.EOF && !f.TokenAt(end).Newline {
					end++
				}
				outer := active(stack[:max(0, len(stack)-1)])
				holds := word == "else" || (&condition{tokens: f.Tokens(i+2, end)}).either()
				switch top := len(stack) - 1; {
				case word == "if":
					outer = active(stack)
					stack = append(stack, level{taken: holds, active: holds})
				case top < 0:
				case word == "endif":
					stack = stack[:top]
				default:
					holds = holds && !stack[top].taken
					stack[top] = level{taken: stack[top].taken || holds, active: holds}
				}
				if word != "endif" && !holds && outer {
					text := "#" + word
					if end > i+2 {
						text += " " + f.Text(i+2, end)
					}
					passed = append(passed, model.Problem{Pos: f.Where(i), Reason: text + " is passed over"})
				}
				drop(i, end)
				i = end - 1
				continue
			}
		}
		if !active(stack) {
			drop(i, i+1)
		}
	}
	if dropped != nil {
		f.Keep(func(i int) bool { return !dropped[i] })
	}
	return passed
}

// condition reads a condition of #if: whether it holds in a release build for a
// phone. DEBUG, false and what asks for other systems do not; what cannot be known
// from the source, a flag of the project or a version, is taken to hold.
type condition struct {
	tokens []scan.Token
	i      int
	depth  int
}

func (c *condition) accept(text string) bool {
	for k := range len(text) {
		if c.i+k >= len(c.tokens) || !c.tokens[c.i+k].Is(text[k:k+1]) {
			return false
		}
	}
	c.i += len(text)
	return true
}

func (c *condition) either() bool {
	holds := c.both()
	for c.accept("||") {
		other := c.both()
		holds = holds || other
	}
	return holds
}

func (c *condition) both() bool {
	holds := c.single()
	for c.accept("&&") {
		other := c.single()
		holds = holds && other
	}
	return holds
}

func (c *condition) single() bool {
	if c.depth++; c.depth > maxDepth {
		c.i = len(c.tokens)
		return true
	}
	defer func() { c.depth-- }()
	switch {
	case c.accept("!"):
		return !c.single()
	case c.accept("("):
		holds := c.either()
		c.accept(")")
		return holds
	case c.i >= len(c.tokens):
		return true
	}
	word := c.tokens[c.i].Text
	c.i++
	if !c.accept("(") {
		return word != "DEBUG" && word != "false"
	}
	first := ""
	if c.i < len(c.tokens) {
		first = c.tokens[c.i].Text
	}
	for open := 1; open > 0 && c.i < len(c.tokens); c.i++ {
		switch {
		case c.tokens[c.i].Is("("):
			open++
		case c.tokens[c.i].Is(")"):
			open--
		}
	}
	switch word {
	case "os":
		return first == "iOS"
	case "targetEnvironment":
		return false // the simulator, or a phone's app on a desk
	case "canImport":
		return first != "AppKit" && first != "Cocoa" && first != "WatchKit" && first != "FoundationNetworking"
	case "arch":
		return first == "arm64"
	}
	return true
}
