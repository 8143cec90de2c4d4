package cli_test

import (
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

// TestStories runs the program where its users would and reads all that it says.
func TestStories(t *testing.T) {
	for _, s := range stories {
		t.Run(s.name, func(t *testing.T) {
			p := newProject(t, s.files)
			for _, r := range s.runs {
				got := p.run(strings.Fields(r.command)...).exits(r.code)
				if got.err != "" {
					t.Errorf("vetta %s complains: %s", r.command, got.err)
				}
				if got.out != r.out {
					t.Errorf("vetta %s\ngot:\n%s\nwant:\n%s", r.command, got.out, r.out)
				}
			}
		})
	}
}
