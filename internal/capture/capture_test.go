package capture

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"vetta/internal/wire"
)

// read reads a file and answers a line for each document (where it stands and how it
// begins) and each problem.
func read(t *testing.T, name, text string) []string {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	if err := os.WriteFile(path, []byte(text), 0o644); err != nil {
		t.Fatal(err)
	}
	var out []string
	problem := func(p Problem) {
		out = append(out, fmt.Sprintf("problem %d:%d#%d %s", p.Line, p.Column, p.Entry, p.Reason))
	}
	f := &File{Path: path}
	sink := Sink{Problem: problem, Document: func(d Document) (int, error) {
		_, end, err := wire.ParseNext(d.Data, d.Start)
		if err != nil {
			return 0, err
		}
		line, column := d.Where(d.Start)
		text := string(d.Data[d.Start:end])
		out = append(out, fmt.Sprintf("%d %d:%d %s", d.Entry, line, column, text[:min(len(text), 12)]))
		return end, nil
	}}
	err := new(Reader).Read(f, func(c *Chunk) (int, error) { return c.Documents(&sink), nil }, problem)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func TestSmallFiles(t *testing.T) {
	for _, c := range []struct{ name, text, want string }{
		{"a.json", `{"a":1}`, `1 1:1 {"a":1}`},
		{"a.json", "\n  [1]\n", "1 2:3 [1]"},
		{"a.json", "\ufeff[1]", "1 1:2 [1]"},
		{"a.json", "", "problem 0:0#0 it is empty"},
		{"a.json", "\ufeff \n", "problem 0:0#0 it is empty"},
		{"a.json", "1 2\n3", "1 1:1 1|2 1:3 2|3 2:1 3"},
		{"a.json", "{}{}", "1 1:1 {}|2 1:3 {}"},
		{"a.ndjson", "1\n\n2\n", "1 1:1 1|2 3:1 2"},
		{"a.json", "{\"a\":1}\n{\"b\"\n{\"c\":2}\n", `1 1:1 {"a":1}|problem 2:5#2 the line ends inside a document|3 3:1 {"c":2}`},
		{"a.json", "{\n\"a\":\n", "problem 3:1#0 the document ends where a value should come"},
		{"a.json", "[1]x[2]", "1 1:1 [1]|problem 1:4#2 'x' where a value should come"},
		{"a.jsonl", "x", "problem 1:1#1 'x' where a value should come"},
	} {
		if got := strings.Join(read(t, c.name, c.text), "|"); got != c.want {
			t.Errorf("%q\n got %s\nwant %s", c.text, got, c.want)
		}
	}
}

// TestLargeFiles reads files beyond what is held at once, in each of the three ways.
func TestLargeFiles(t *testing.T) {
	pad := strings.Repeat("é", 8000)
	var lines, rows strings.Builder
	lineCount, rowCount := 0, 0
	for lines.Len() < usual.whole+usual.chunk/2 {
		fmt.Fprintf(&lines, "{\"n\":%d,\"pad\":%q}\n", lineCount, pad)
		lineCount++
		if lineCount == 100 {
			lines.WriteString("{\"broken\"\n\n")
		}
	}
	for rows.Len() < usual.whole+usual.chunk/2 {
		fmt.Fprintf(&rows, "{\n  \"n\": %d,\n  \"pad\": %q\n}\n", rowCount, pad)
		rowCount++
	}
	got := read(t, "a.json", lines.String())
	if len(got) != lineCount+1 {
		t.Fatalf("%d documents and problems of %d lines", len(got), lineCount+1)
	}
	if want := "problem 101:10#101 the line ends inside a document"; got[100] != want {
		t.Errorf("got %s, want %s", got[100], want)
	}
	if want := fmt.Sprintf("%d %d:1 {\"n\":%d,", lineCount+1, lineCount+2, lineCount-1); !strings.HasPrefix(got[lineCount], want) {
		t.Errorf("got %s, want %s", got[lineCount], want)
	}
	got = read(t, "a.json", rows.String())
	if len(got) != rowCount {
		t.Fatalf("%d documents of %d", len(got), rowCount)
	}
	if want := fmt.Sprintf("%d %d:1 {\n  \"n\": ", rowCount, 4*(rowCount-1)+1); !strings.HasPrefix(got[rowCount-1], want) {
		t.Errorf("got %s, want %s", got[rowCount-1], want)
	}
	// One document larger than what is held at once, and one that ends in the middle.
	big := "[" + strings.Repeat("\""+pad+"\",\n", 700) + "1]"
	if got := read(t, "a.json", big); len(got) != 1 || !strings.HasPrefix(got[0], "1 1:1 [") {
		t.Errorf("%.80q", got)
	}
	if got := read(t, "a.json", big[:len(big)-1]); len(got) != 1 || got[0] != "problem 701:2#0 the document ends where ',' or the end of the array should come" {
		t.Errorf("%.200q", got)
	}
}

func TestUnreadableFiles(t *testing.T) {
	for path, want := range map[string]string{
		filepath.Join(t.TempDir(), "none.json"): "it cannot be read: no such file or directory",
		t.TempDir():                             "it is no regular file",
	} {
		var got []string
		new(Reader).Read(&File{Path: path}, func(*Chunk) (int, error) { return 0, nil }, func(p Problem) { got = append(got, p.Reason) })
		if len(got) != 1 || got[0] != want {
			t.Errorf("%s: %q, want %s", path, got, want)
		}
	}
}

func TestNames(t *testing.T) {
	for name, want := range map[string]bool{"a.json": true, "a.JSON": true, "a.ndjson": true, "a.jsonl": true, "a.txt": false, "json": false} {
		if IsCapture(name) != want {
			t.Errorf("%s: %v", name, !want)
		}
	}
	a, b := Problem{File: "a", Line: 2, Column: 1}, Problem{File: "a", Line: 2, Column: 9}
	if !a.Before(b) || b.Before(a) || !a.Before(Problem{File: "b"}) || (Problem{File: "a"}).Before(Problem{File: "a"}) {
		t.Error("problems are not in the order of the captures")
	}
}

// TestForeign: what is no JSON at all is called what it is.
func TestForeign(t *testing.T) {
	for text, want := range map[string]string{
		"<!DOCTYPE html>\n<title>Sign in</title>": "web page",
		"  <html><body>502</body></html>":         "web page",
		"<?xml version=\"1.0\"?><port/>":          "XML",
		"\xff\xfe{\x00\"\x00a\x00\"\x00":          "UTF-16",
		"\x00{\x00\"\x00a\x00\"\x00:\x001\x00}":   "UTF-16",
		"{\"a\": <b>}":                            "",
		"upstream connect error or disconnect":    "plain text",
		"undefined":                               "",
	} {
		if got := foreign([]byte(text)); want == "" && got != "" || !strings.Contains(got, want) {
			t.Errorf("%q: %q, want it to speak of %q", text, got, want)
		}
	}
}
