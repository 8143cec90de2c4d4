package cli_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"slices"
	"strings"
	"testing"
)

// files are what a project holds, by path.
type files map[string]string

// run is a command and what it must say, to the letter.
type run struct {
	command string
	code    int
	out     string
}

// story is a project and what is run in it.
type story struct {
	name  string
	files files
	runs  []run
}

// TestStories runs the program where its users would and reads all that it says. After a change that is
// meant: go test ./internal/cli -run Stories -update, and read the difference.
func TestStories(t *testing.T) {
	for _, list := range []struct {
		file    string
		stories []story
	}{{"stories_test.go", stories}, {"stories_whole_test.go", wholeStories}, {"stories_asked_test.go", askedStories}, {"stories_layers_test.go", layerStories}, {"stories_desk_test.go", deskStories}, {"stories_parts_test.go", partStories}} {
		var said []string // by run, in order
		for _, s := range list.stories {
			t.Run(s.name, func(t *testing.T) {
				p := newProject(t, s.files)
				for _, r := range s.runs {
					got := p.run(strings.Fields(r.command)...).exits(r.code)
					said = append(said, got.out)
					if got.err != "" && r.code != 2 {
						t.Errorf("vetta %s complains: %s", r.command, got.err)
					}
					if got.out != r.out && !*update {
						t.Errorf("vetta %s\ngot:\n%s\nwant:\n%s", r.command, got.out, r.out)
					}
				}
			})
		}
		if *update {
			rewrite(t, list.file, said)
		}
	}
}

// rewrite puts what the program has said into the file of some stories.
func rewrite(t *testing.T, file string, said []string) {
	set := token.NewFileSet()
	tree, err := parser.ParseFile(set, file, nil, 0)
	if err != nil {
		t.Fatal(err)
	}
	var outs []ast.Expr
	ast.Inspect(tree, func(n ast.Node) bool {
		if lit, ok := n.(*ast.CompositeLit); ok {
			if array, ok := lit.Type.(*ast.ArrayType); ok {
				if name, ok := array.Elt.(*ast.Ident); ok && name.Name == "run" {
					for _, r := range lit.Elts {
						outs = append(outs, r.(*ast.CompositeLit).Elts[2])
					}
				}
			}
		}
		return true
	})
	if len(outs) != len(said) {
		t.Fatalf("%s: %d runs in the source, %d were run", file, len(outs), len(said))
	}
	text, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	for i, e := range slices.Backward(outs) {
		quoted := "`" + strings.ReplaceAll(said[i], "`", "` + \"`\" + `") + "`"
		from, to := set.Position(e.Pos()).Offset, set.Position(e.End()).Offset
		text = slices.Concat(text[:from], []byte(quoted), text[to:])
	}
	if err := os.WriteFile(file, text, 0o644); err != nil {
		t.Fatal(err)
	}
}
