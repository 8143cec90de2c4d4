package shape

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"testing"
)

// benchDocument is a dense response: a list of objects with nested objects and
// lists, optional keys, escapes and numbers.
func benchDocument(n int) []byte {
	r := rand.New(rand.NewPCG(1, 2))
	var b bytes.Buffer
	b.WriteString(`{"sailings":[`)
	for i := range n {
		if i > 0 {
			b.WriteByte(',')
		}
		fmt.Fprintf(&b, `{"id":%d,"from":"SAL","departs_at":"2026-%02d-%02dT09:%02d:00Z","vessel":{"name":"Tern %d","knots":%.1f,"position":{"lat":%.5f,"lon":-2.%05d}},"status":"%s","price":%.2f`,
			r.IntN(1000000), 1+r.IntN(12), 1+r.IntN(28), r.IntN(60), r.IntN(40), 8+12*r.Float64(), 50+5*r.Float64(), r.IntN(100000), []string{"on_time", "delayed"}[r.IntN(2)], 60*r.Float64())
		if r.IntN(3) > 0 {
			b.WriteString(`,"gate":"A4"`)
		}
		b.WriteString(`,"notices":[{"text":"Low tide: use the \"upper\" ramp","severity":2}],"note":null}`)
	}
	b.WriteString(`],"page":1}`)
	return b.Bytes()
}

func BenchmarkRead(b *testing.B) {
	doc := benchDocument(2000)
	e := NewEndpoint("bench", DefaultLimits)
	var r Reader
	src := &Source{Data: doc, Line: 1, Column: 1}
	b.SetBytes(int64(len(doc)))
	b.ReportAllocs()
	for b.Loop() {
		src.Entry++
		if _, err := r.Read(e, src, 0); err != nil {
			b.Fatal(err)
		}
	}
}

// BenchmarkValid is what BenchmarkRead is compared with, over the same bytes.
func BenchmarkValid(b *testing.B) {
	doc := benchDocument(2000)
	b.SetBytes(int64(len(doc)))
	for b.Loop() {
		if !json.Valid(doc) {
			b.Fatal("not valid")
		}
	}
}
