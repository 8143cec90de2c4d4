package pairing

import (
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"vetta/internal/capture"
	"vetta/internal/shape"
	"vetta/internal/source"
	"vetta/internal/source/scan"
)

// BenchmarkPair pairs as many types as endpoints, whose keys are mostly the same common ones, as those of a
// large API are: the time per type should grow little with their number.
func BenchmarkPair(b *testing.B) {
	for _, n := range []int{100, 1000} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			dir := b.TempDir()
			r := rand.New(rand.NewPCG(14, 2))
			common := strings.Fields("name title code status createdAt updatedAt label kind owner phone email url capacity depth length width colour note active priority level region number reference")
			var files []scan.Source
			var captures []*capture.File
			for i := range n {
				var fields, members []string
				for _, k := range append([]string{"id"}, common[r.IntN(12):12+r.IntN(12)]...) {
					fields, members = append(fields, "let "+k+": String"), append(members, fmt.Sprintf("%q:\"x\"", k))
				}
				for k := range 5 {
					own := fmt.Sprintf("%s%d", common[r.IntN(len(common))], 10*i+k)
					fields, members = append(fields, "let "+own+": Int"), append(members, fmt.Sprintf("%q:1", own))
				}
				files = append(files, scan.Source{Name: fmt.Sprintf("M%d.swift", i), Text: fmt.Sprintf("struct Model%d: Decodable { %s }", i, strings.Join(fields, "; "))})
				path := filepath.Join(dir, fmt.Sprintf("end%cpoint%c%c", 'a'+i%26, 'a'+i/26%26, 'a'+i/676%26), "1.json")
				if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
					b.Fatal(err)
				}
				if err := os.WriteFile(path, []byte(`{"data":[{`+strings.Join(members, ",")+`}],"total":1}`), 0o644); err != nil {
					b.Fatal(err)
				}
				captures = append(captures, &capture.File{Path: path, Order: i})
			}
			set := source.Read(files)
			s := shape.Collect(captures, shape.Reading{Workers: 2, Limits: shape.DefaultLimits})
			for b.Loop() {
				result, err := Pair(set, s, nil)
				if err != nil || len(result.Pairs) < n*9/10 {
					b.Fatal(err, len(result.Pairs))
				}
			}
			b.ReportMetric(float64(b.Elapsed().Microseconds())/float64(b.N)/float64(n), "µs/type")
		})
	}
}
