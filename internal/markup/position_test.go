package markup

import (
	"math/rand"
	"strings"
	"testing"
	"unicode/utf8"
)

// TestPosition: as counted from the beginning, over several stretches and at their edges.
func TestPosition(t *testing.T) {
	var text strings.Builder
	r := rand.New(rand.NewSource(3))
	for text.Len() < 3*lineStretch+5 {
		text.WriteString([]string{"a", "é", "\n", "quay", "→"}[r.Intn(5)])
	}
	src := Source{Text: text.String()}
	for range 400 {
		at := r.Intn(len(src.Text) + 1)
		if r.Intn(3) == 0 {
			at = lineStretch*(1+r.Intn(3)) + r.Intn(3) - 1
		}
		before := src.Text[:at]
		line, column := src.Position(at)
		wantLine, wantColumn := 1+strings.Count(before, "\n"), 1+utf8.RuneCountInString(before[1+strings.LastIndex(before, "\n"):])
		if line != wantLine || column != wantColumn {
			t.Fatalf("at %d: %d:%d, want %d:%d", at, line, column, wantLine, wantColumn)
		}
	}
}
