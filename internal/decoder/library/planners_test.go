package library_test

import (
	"fmt"
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/decoder/library"
	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
)

// TestPlannersShare: of classes that each hold the next, every one is planned once.
func TestPlannersShare(t *testing.T) {
	const length = 200
	for name, written := range map[string]string{
		"A.swift": "struct C%d: Codable { let id: Int; let next: C%d? }\n",
		"A.cs":    "public class C%d { public int Id { get; set; } public C%d? Next { get; set; } }\n",
		"A.kt":    "data class C%d(val id: Int, val next: C%d?)\n",
		"A.java":  "class C%d { public int id; public C%d next; }\n",
	} {
		var text strings.Builder
		for i := range length {
			fmt.Fprintf(&text, written, i, (i+1)%length)
		}
		set := source.Read([]scan.Source{{Name: name, Text: text.String()}})
		for _, lib := range library.All {
			if lib.Planner == nil || set.Models[0].Language != lib.Languages[0] && set.Models[0].Language != lib.Languages[len(lib.Languages)-1] {
				continue
			}
			planners, nodes, alone := library.Planners{}, map[*decoder.Node]bool{}, map[*decoder.Node]bool{}
			for _, m := range set.Models {
				count(planners.Plan(&lib, &model.Type{Name: m.Name, Model: m}, m.Name, nil).Root, nodes)
			}
			count(lib.Plan(&model.Type{Name: set.Models[0].Name, Model: set.Models[0]}, "C0", nil).Root, alone)
			if len(nodes) > len(alone)+4*length {
				t.Errorf("%s of %s: %d plans have %d nodes, one of all that they hold %d", lib.Name, name, length, len(nodes), len(alone))
			}
		}
	}
}

func count(n *decoder.Node, seen map[*decoder.Node]bool) {
	if n == nil || seen[n] {
		return
	}
	seen[n] = true
	for _, inner := range []*decoder.Node{n.Inner, n.Second, n.Third} {
		count(inner, seen)
	}
	for _, s := range n.Steps {
		count(s.Node, seen)
	}
}
