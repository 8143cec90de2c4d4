package source

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"vetta/internal/source/scan"
)

// BenchmarkRead reads 500 files of each language, as scripts/bench.go makes them.
func BenchmarkRead(b *testing.B) {
	for _, name := range []string{"Sailing.cs", "Sailing.dart", "Sailing.java", "Sailing.kt", "Sailing.swift", "Sailing.ts"} {
		text, err := os.ReadFile("testdata/bench/" + name)
		if err != nil {
			b.Fatal(err)
		}
		b.Run(LanguageOf(name).Name, func(b *testing.B) {
			var files []scan.Source
			size := 0
			for i := range 500 {
				own := strings.ReplaceAll(string(text), "NNN", fmt.Sprint(i))
				files = append(files, scan.Source{Name: fmt.Sprintf("p%d/%s", i, name), Text: own})
				size += len(own)
			}
			b.SetBytes(int64(size))
			b.ReportAllocs()
			for b.Loop() {
				if set := Read(files); len(set.Models) == 0 {
					b.Fatal("no models")
				}
			}
		})
	}
}
