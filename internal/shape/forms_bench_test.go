package shape

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"testing"

	"github.com/klauspost/compress/gzip"

	"vetta/internal/capture"
)

// archive is a HAR file of dense responses.
func archive(entries int) []byte {
	var b bytes.Buffer
	b.WriteString(`{"log":{"version":"1.2","creator":{"name":"bench","version":"1"},"entries":[`)
	for i := range entries {
		if i > 0 {
			b.WriteByte(',')
		}
		text, _ := json.Marshal(string(benchDocument(100)))
		fmt.Fprintf(&b, "\n{\"startedDateTime\":\"2026-03-09T09:%02d:00Z\",\"request\":{\"method\":\"GET\",\"url\":\"https://api.saltmere.example/v2/sailings?page=%d\",\"headers\":[]},\"response\":{\"status\":200,\"headers\":[],\"content\":{\"mimeType\":\"application/json\",\"text\":%s}}}", i%60, i, text)
	}
	b.WriteString("]}}\n")
	return b.Bytes()
}

// collects measures how fast a file of some bytes is read into a shape; size is what the rate is of.
func collects(b *testing.B, name string, data []byte, size int) {
	path := filepath.Join(b.TempDir(), name)
	if err := os.WriteFile(path, data, 0o644); err != nil {
		b.Fatal(err)
	}
	b.SetBytes(int64(size))
	for b.Loop() {
		if s := Collect([]*capture.File{{Path: path}}, Reading{Workers: 1, Limits: DefaultLimits}); s.Documents == 0 {
			b.Fatal("nothing was read")
		}
	}
}

func BenchmarkArchive(b *testing.B) {
	data := archive(400)
	collects(b, "session.har", data, len(data))
}

// BenchmarkArchiveValid is what BenchmarkArchive is compared with, over the same bytes.
func BenchmarkArchiveValid(b *testing.B) {
	data := archive(400)
	b.SetBytes(int64(len(data)))
	for b.Loop() {
		if !json.Valid(data) {
			b.Fatal("not valid")
		}
	}
}

func compressedLines() (data []byte, size int) {
	var out bytes.Buffer
	z := gzip.NewWriter(&out)
	doc := append(benchDocument(100), '\n')
	for range 400 {
		z.Write(doc)
		size += len(doc)
	}
	z.Close()
	return out.Bytes(), size
}

func BenchmarkGzip(b *testing.B) {
	data, size := compressedLines()
	collects(b, "log.ndjson.gz", data, size)
}

// BenchmarkGunzip is the decompressor alone, over what BenchmarkGzip reads.
func BenchmarkGunzip(b *testing.B) {
	data, size := compressedLines()
	b.SetBytes(int64(size))
	for b.Loop() {
		z, err := gzip.NewReader(bytes.NewReader(data))
		if err != nil {
			b.Fatal(err)
		}
		io.Copy(io.Discard, z)
	}
}
