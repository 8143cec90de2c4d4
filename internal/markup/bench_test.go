package markup_test

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"io"
	"math/rand/v2"
	"testing"

	"vetta/internal/markup"
)

// timetable is a document such as these APIs send, of about n bytes, made from a seed.
func timetable(n int) []byte {
	r := rand.New(rand.NewPCG(1, 2))
	var b bytes.Buffer
	b.WriteString(`<?xml version="1.0" encoding="utf-8"?>` + "\n" + `<timetable xmlns="urn:saltmere:timetable" xmlns:s="urn:saltmere:stops" day="2026-03-01">` + "\n")
	for id := 0; b.Len() < n; id++ {
		fmt.Fprintf(&b, "  <sailing id=\"%d\" gate=\"%c%d\">\n    <vessel>%s</vessel>\n    <departs>2026-03-01T%02d:%02d:00Z</departs>\n    <seats>%d</seats>\n    <fare currency=\"EUR\">%d.%02d</fare>\n    <s:stops>", id, 'A'+r.IntN(4), r.IntN(9), []string{"Tern", "Gull", "Skua &amp; Sons", "Héron"}[r.IntN(4)], r.IntN(24), r.IntN(60), r.IntN(300), r.IntN(90), r.IntN(100))
		for range r.IntN(4) {
			fmt.Fprintf(&b, "<s:stop code=\"%c%c%c\"/>", 'A'+r.IntN(26), 'A'+r.IntN(26), 'A'+r.IntN(26))
		}
		b.WriteString("</s:stops>\n  </sailing>\n")
	}
	b.WriteString("</timetable>\n")
	return b.Bytes()
}

// BenchmarkConvert is what Vetta does with a document before its shape is read.
// BenchmarkTokens is the token loop of encoding/xml, which it is held to.
func BenchmarkConvert(b *testing.B) {
	data := timetable(1 << 20)
	b.SetBytes(int64(len(data)))
	b.ReportAllocs()
	for b.Loop() {
		if _, err := markup.Convert(data); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkTokens(b *testing.B) {
	data := timetable(1 << 20)
	b.SetBytes(int64(len(data)))
	b.ReportAllocs()
	for b.Loop() {
		for d := xml.NewDecoder(bytes.NewReader(data)); ; {
			if _, err := d.Token(); err == io.EOF {
				break
			} else if err != nil {
				b.Fatal(err)
			}
		}
	}
}
