package source

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"vetta/internal/source/scan"
)

// TestAsked: through an app's own functions, closures, generics and types, what it asks for is known, and
// from which path. Each file is an app, and says at its lines what is asked there.
func TestAsked(t *testing.T) {
	files, _ := filepath.Glob("testdata/asked/*")
	if len(files) == 0 {
		t.Fatal("no apps")
	}
	for _, file := range files {
		t.Run(filepath.Base(file), func(t *testing.T) {
			text, err := os.ReadFile(file)
			if err != nil {
				t.Fatal(err)
			}
			got := map[int32]string{}
			for _, c := range Read([]scan.Source{{Name: file, Text: string(text)}}).Calls {
				if c.Type != nil {
					got[c.Pos.Line] += strings.TrimSpace(c.Declared + " " + c.Endpoint)
				} else if !c.Followed && c.Lost != "" {
					got[c.Pos.Line] += "lost: " + c.Lost
				}
			}
			for i, line := range strings.Split(string(text), "\n") {
				_, want, _ := strings.Cut(line, "// asks ")
				if got[int32(i+1)] != want {
					t.Errorf("line %d: got %q, want %q", i+1, got[int32(i+1)], want)
				}
			}
		})
	}
}
