package source

import (
	"fmt"
	"os"
	"testing"

	"vetta/internal/source/scan"
)

// BenchmarkRead reads the fixture of each language many times over, as files of their
// own.
func BenchmarkRead(b *testing.B) {
	for _, name := range []string{"Fields.java", "Fields.kt", "../swift/testdata/fields.swift"} {
		text, err := os.ReadFile("testdata/" + name)
		if name[0] == '.' {
			text, err = os.ReadFile("swift/testdata/fields.swift")
		}
		if err != nil {
			b.Fatal(err)
		}
		b.Run(LanguageOf(name).Name, func(b *testing.B) {
			var files []scan.Source
			size := 0
			for i := range 500 {
				files = append(files, scan.Source{Name: fmt.Sprintf("p%d/%s", i, name), Text: string(text)})
				size += len(text)
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
