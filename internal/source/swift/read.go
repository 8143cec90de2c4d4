package swift

import (
	"runtime"
	"sort"
	"strings"
	"sync"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// Extensions are the endings of the files this reader takes.
var Extensions = []string{".swift"}

// Read reads Swift files into models, with the calls that decode them. What could
// not be read is among the set's problems; the rest is there all the same.
func Read(files []scan.Source) *model.Set {
	tops := make([]*typeDecl, len(files))
	set := &model.Set{Files: len(files)}
	var wait sync.WaitGroup
	slots := make(chan struct{}, runtime.GOMAXPROCS(0))
	for i, file := range files {
		set.Bytes += int64(len(file.Text))
		wait.Add(1)
		slots <- struct{}{}
		go func() {
			defer func() { <-slots; wait.Done() }()
			f := scan.Scan(file.Name, file.Text, dialect)
			selectBranches(f)
			tops[i] = parseFile(f)
		}()
	}
	wait.Wait()
	for _, top := range tops {
		set.Problems = append(set.Problems, top.file.Problems...)
	}
	l := newLinker(tops)
	models := l.buildModels()
	finder := &settingsFinder{l: l}
	finder.find()
	finder.resolveFormatters()
	for _, m := range models {
		if m.Reading == model.ByCode {
			l.fieldsOfSteps(m)
		}
	}
	set.Calls = finder.calls
	called := map[*model.Model]bool{}
	for _, c := range set.Calls {
		c.Type.Walk(func(t *model.Type) {
			if t.Model != nil {
				called[t.Model] = true
			}
		})
	}
	for _, m := range models {
		if m.Decodable || m.FromMap || called[m] {
			set.Models = append(set.Models, m)
		}
	}
	sort.SliceStable(set.Models, func(i, k int) bool {
		a, b := set.Models[i].Pos, set.Models[k].Pos
		if a.File != b.File {
			return a.File < b.File
		}
		return a.Line < b.Line || a.Line == b.Line && a.Col < b.Col
	})
	return set
}

// selectBranches takes out the branches of #if that a release build for a device
// would leave out, and the directives themselves ("Statements", Compiler Control
// Statements).
func selectBranches(f *scan.File) {
	type level struct{ taken, active bool }
	var stack []level
	active := func() bool {
		for _, l := range stack {
			if !l.active {
				return false
			}
		}
		return true
	}
	var kept []scan.Token
	changed := false
	for i := 0; i < len(f.Tokens); i++ {
		t := f.Tokens[i]
		if t.Is("#") && i+1 < len(f.Tokens) && f.Tokens[i+1].Kind == scan.Ident && !f.Tokens[i+1].Space {
			word := f.Tokens[i+1].Text
			if word == "if" || word == "elseif" || word == "else" || word == "endif" {
				changed = true
				end := i + 2
				for f.Tokens[end].Kind != scan.EOF && !f.Tokens[end].Newline {
					end++
				}
				holds := condition(f.Text(i+2, end))
				switch top := len(stack) - 1; {
				case word == "if":
					stack = append(stack, level{taken: holds, active: holds})
				case top < 0:
				case word == "endif":
					stack = stack[:top]
				default:
					holds = (holds || word == "else") && !stack[top].taken
					stack[top] = level{taken: stack[top].taken || holds, active: holds}
				}
				i = end - 1
				continue
			}
		}
		if active() || t.Kind == scan.EOF {
			kept = append(kept, t)
		}
	}
	if changed {
		f.Tokens = kept
		f.Repair()
	}
}

// condition says whether a condition of #if holds in a release build: DEBUG and
// false do not, nor does what is negated; everything else is taken to.
func condition(text string) bool {
	text = strings.TrimSpace(text)
	for _, op := range []string{"||", "&&"} {
		// An operator inside brackets does not divide the whole.
		if left, right, ok := strings.Cut(text, op); ok && strings.Count(left, "(") == strings.Count(left, ")") {
			if op == "||" {
				return condition(left) || condition(right)
			}
			return condition(left) && condition(right)
		}
	}
	switch text {
	case "DEBUG", "false", "targetEnvironment(simulator)", "os(Linux)", "os(Windows)":
		return false
	}
	if len(text) > 1 && text[0] == '!' {
		return !condition(text[1:])
	}
	return true
}
