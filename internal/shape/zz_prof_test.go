package shape

import (
	"os"
	"path/filepath"
	"testing"
	"vetta/internal/capture"
)

func BenchmarkFiles(b *testing.B) {
	var fs []*capture.File
	filepath.Walk(os.Getenv("VB"), func(p string, i os.FileInfo, e error) error {
		if !i.IsDir() {
			fs = append(fs, &capture.File{Path: p, Order: len(fs)})
			b.SetBytes(0)
		}
		return nil
	})
	var n int64
	for _, f := range fs {
		st, _ := os.Stat(f.Path)
		n += st.Size()
	}
	b.SetBytes(n)
	for b.Loop() {
		Collect(fs, 1, DefaultLimits, nil)
	}
}
