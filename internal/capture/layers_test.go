package capture

import (
	"archive/tar"
	"archive/zip"
	"bytes"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"golang.org/x/text/encoding/unicode"
	"golang.org/x/text/encoding/unicode/utf32"
	"vetta/internal/traffic"
)

// zipped is a zip file of names with what they hold, one behind the other.
func zipped(t testing.TB, members ...string) string {
	t.Helper()
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for i := 0; i < len(members); i += 2 {
		m, err := w.Create(members[i])
		if err != nil {
			t.Fatal(err)
		}
		m.Write([]byte(members[i+1]))
	}
	w.Close()
	return out.String()
}

func tarred(t testing.TB, members ...string) string {
	t.Helper()
	var out bytes.Buffer
	w := tar.NewWriter(&out)
	for i := 0; i < len(members); i += 2 {
		if err := w.WriteHeader(&tar.Header{Name: members[i], Size: int64(len(members[i+1])), Mode: 0o644}); err != nil {
			t.Fatal(err)
		}
		w.Write([]byte(members[i+1]))
	}
	w.Close()
	return out.String()
}

// TestLayers: what is compressed, archived or in wide characters gives what it holds.
func TestLayers(t *testing.T) {
	const doc = `{"code":"é"}`
	meta := `{"method":"GET","url":"https://api.saltmere.example/v2/ports?x=1","status":200,"time":"2026-03-09T09:00:00Z"}`
	for _, c := range []struct {
		file, text string
		want       []string
	}{
		{"p.json.gz", compressed(t, "gzip", doc), []string{"p.json.gz#1 1:1 " + doc}},
		{"p.json.br", compressed(t, "br", doc), []string{"p.json.br#1 1:1 " + doc}},
		{"p.json.zst", compressed(t, "zst", doc), []string{"p.json.zst#1 1:1 " + doc}},
		{"p.json", compressed(t, "gzip", doc), []string{"p.json#1 1:1 " + doc}},
		{"p.ndjson.gz", compressed(t, "gzip", "1\n2\nx\n3"), []string{"p.ndjson.gz#1 1:1 1", "p.ndjson.gz#2 2:1 2", "p.ndjson.gz:3:1#3 'x' where a value should come", "p.ndjson.gz#4 4:1 3"}},
		{"s.har.gz", compressed(t, "gzip", har(`{"request":{"method":"GET","url":"https://a.example/p"},"response":{"status":200,"content":{"text":"1"}}}`)), []string{"s.har.gz#1 2:100 1 [GET a.example/p 200]"}},
		{"p.json.gz", compressed(t, "gzip", doc)[:20], []string{"p.json.gz:0:0#0 it cannot be read: the compressed data ends before its end", "p.json.gz:1:6#0 the document ends inside a string"}},
		{"p.json.gz", "\x1f\x8bno gzip at all", []string{"p.json.gz:0:0#0 it cannot be expanded: gzip: invalid header"}},
		{
			"c.zip", zipped(t, "b/ports-10.json", doc, "b/ports-9.json", "2", "b/", "", "b/.hidden.json", "3", "b/note.txt", "hello", "curl.txt", "HTTP/1.1 200 OK\n\n4"),
			[]string{"c.zip/b/note.txt#0 plain text", "c.zip/b/ports-9.json#1 1:1 2", "c.zip/b/ports-10.json#1 1:1 " + doc, "c.zip/curl.txt#1 3:1 4 [200]"},
		},
		{"c.tar", tarred(t, "ports-10.json", doc, "ports-9.json", "2"), []string{"c.tar/ports-10.json#1 1:1 " + doc, "c.tar/ports-9.json#1 1:1 2"}},
		{"c.tgz", compressed(t, "gzip", tarred(t, "p.json.gz", compressed(t, "gzip", "1"))), []string{"c.tgz/p.json.gz#1 1:1 1"}},
		{"c.zip", zipped(t, "p.body", doc, "p.meta.json", meta, "q.json", "1", "q.json.headers", "HTTP/1.1 404 Not Found\r\nContent-Type: application/json\r\nAuthorization: s3cret\r\n"), []string{"c.zip/p.body#1 1:1 " + doc + " [GET api.saltmere.example/v2/ports 200 2026-03-09T09:00:00]", "c.zip/q.json#1 1:1 1 [404]"}},
		{
			"c.zip", zipped(t, "a.json", "", "a.meta.json", `{"status":204}`, "b.json", "<html>no</html>", "b.headers", "HTTP/1.1 502 Bad Gateway\nContent-Type: application/json\n", "c.json", "1\n2\n", "c.meta.json", `{"status":200}`, "d.png", "{}", "d.headers", "Content-Type: image/png\n"),
			[]string{"c.zip/a.json#1 empty body [204]", "c.zip/b.json:1:1#1 it is a web page, status 502, where its headers say JSON", "c.zip/c.json#1 1:1 1 [200]", "c.zip/c.json#2 2:1 2 [200]", "c.zip/d.png#0 image []"},
		},
		{"c.tar", tarred(t, "p.meta.json", meta, "p.body", doc), []string{"c.tar/p.body#1 1:1 " + doc + " [GET api.saltmere.example/v2/ports 200 2026-03-09T09:00:00]"}},
		{
			"c.zip", zipped(t, "../../p-1.json", "1", "/q.json", "2"),
			[]string{"c.zip/p-1.json:0:0#0 its name in the archive leads out of it, and was made to stay inside", "c.zip/p-1.json#1 1:1 1", "c.zip/q.json:0:0#0 its name in the archive leads out of it, and was made to stay inside", "c.zip/q.json#1 1:1 2"},
		},
		{"c.zip", zipped(t, "in.zip", zipped(t, "p.json", "1")), []string{"c.zip/in.zip/p.json#1 1:1 1"}},
		{"c.zip", zipped(t, "in.zip", zipped(t, "in.zip", zipped(t, "p.json", "1"))), []string{"c.zip/in.zip/in.zip:0:0#0 archives and compressed files lie inside each other more than once: unpack them"}},
		{"c.zip", zipped(t, "p.json", doc)[:40], []string{"c.zip:0:0#0 it cannot be read: zip: not a valid zip file"}},
		{"c.tar", tarred(t, "p.json", "1", "q.json", "2")[:1200], []string{"c.tar:0:0#0 it cannot be read: unexpected EOF", "c.tar/p.json#1 1:1 1"}},
		{"p.json", ")]}',\n" + doc, []string{"p.json#1 2:1 " + doc}},
		{"p.json", "while(1);" + doc, []string{"p.json#1 1:10 " + doc}},
		{"p.txt", "\x1e{\"a\":1}\n\x1e{\"a\":2}\n", []string{"p.txt#1 1:2 {\"a\":1}", "p.txt#2 2:2 {\"a\":2}"}},
		{"p.json", "for (;;); [1]\n", []string{"p.json#1 1:11 [1]"}},
		{"picture.bin", "\x89PNG\r\n\x1a\n", []string{"picture.bin#0 image"}},
		{"list.txt", "3 ports are open", []string{"list.txt#0 plain text"}},
		{"tides.txt", "<?xml version='1.0'?><tides/>", []string{`tides.txt#1 1:22 {"<tides":{"<#":""}}`}},
	} {
		path := filepath.Join(t.TempDir(), c.file)
		if err := os.WriteFile(path, []byte(c.text), 0o644); err != nil {
			t.Fatal(err)
		}
		got := reading(&Reader{}, &File{Path: path, Unsure: !IsCapture(c.file)})
		if got, want := strings.Join(got, "\n"), strings.Join(c.want, "\n"); got != want {
			t.Errorf("%s\n got %s\nwant %s", c.file, got, want)
		}
	}
}

func TestWide(t *testing.T) {
	const doc = `{"name":"Mérrow 😀","n":1}`
	for name, enc := range map[string]interface{ String(string) (string, error) }{
		"UTF-16LE with its mark": unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewEncoder(),
		"UTF-16BE with its mark": unicode.UTF16(unicode.BigEndian, unicode.UseBOM).NewEncoder(),
		"UTF-16LE":               unicode.UTF16(unicode.LittleEndian, unicode.IgnoreBOM).NewEncoder(),
		"UTF-16BE":               unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM).NewEncoder(),
		"UTF-32LE with its mark": utf32.UTF32(utf32.LittleEndian, utf32.UseBOM).NewEncoder(),
		"UTF-32BE":               utf32.UTF32(utf32.BigEndian, utf32.IgnoreBOM).NewEncoder(),
	} {
		text, err := enc.String(doc + "\n")
		if err != nil {
			t.Fatal(err)
		}
		path := filepath.Join(t.TempDir(), "p.json")
		os.WriteFile(path, []byte(text), 0o644)
		for _, how := range []sizes{{}, {whole: 8, chunk: 16, giant: 99}} {
			if got := reading(&Reader{sizes: how}, &File{Path: path}); fmt.Sprint(got) != "[p.json#1 1:1 "+doc+"]" {
				t.Errorf("%s: %q", name, got)
			}
		}
	}
}

// TestBounds: what would take without end is named, and the rest is read.
func TestBounds(t *testing.T) {
	bomb := filepath.Join(t.TempDir(), "bomb.ndjson.gz")
	os.WriteFile(bomb, []byte(compressed(t, "gzip", strings.Repeat("{\"a\":1}\n", 12<<20))), 0o644)
	var read int
	var problems []string
	problem := func(p Problem) { problems = append(problems, p.Reason) }
	new(Reader).Read(&File{Path: bomb}, func(c *Chunk) (int, error) {
		read += len(c.Data)
		return len(c.Data), nil
	}, problem)
	if len(problems) != 1 || !strings.Contains(problems[0], "it expands to more than 300 times its size") || read < anyway-(1<<20) || read > anyway+(4<<20) {
		t.Errorf("%d bytes, %q", read, problems)
	}
	var many bytes.Buffer
	w := zip.NewWriter(&many)
	for i := range 150_000 {
		w.CreateRaw(&zip.FileHeader{Name: fmt.Sprintf("a-rather-long-name-of-a-folder/%d.json", i)})
	}
	w.Close()
	path := filepath.Join(t.TempDir(), "many.zip")
	os.WriteFile(path, many.Bytes(), 0o644)
	if got := reading(&Reader{}, &File{Path: path}); len(got) != 1 || !strings.Contains(got[0], "its directory is larger than 8 MB") {
		t.Errorf("%.200q", got)
	}
}

func TestBesides(t *testing.T) {
	b := Besides([]string{"a.json", "a.json.headers", "b.body", "b.meta.json", "b.headers", "c.meta.json", "d.txt"})
	if got := fmt.Sprint(b.Of("a.json"), b.Of("b.body"), b.Of("d.txt"), b.Tells("c.meta.json"), b.Tells("b.headers")); got != "[a.json.headers] [b.headers b.meta.json] [] false true" {
		t.Error(got)
	}
	f := &File{}
	f.tell("b.headers", []byte("GET /v2/ports HTTP/1.1\nHost: api.saltmere.example\n\nHTTP/1.1 302 Found\n\nHTTP/1.1 200 OK\nDate: Mon, 09 Mar 2026 09:00:00 GMT\nContent-Type: application/json\nContent-Encoding: br\n"))
	f.tell("b.meta.json", []byte(`{"status":201,"url":"http://api.saltmere.example:80/v2/ports?key=s3cret"}`))
	if x := f.sent; x.Method != "GET" || x.Host != "api.saltmere.example" || x.Path != "/v2/ports" || x.Status != 201 || x.Media != "application/json" || x.Time.IsZero() || f.coding != "br" {
		t.Errorf("%+v, coding %s", x, f.coding)
	}
	f = &File{}
	f.tell("x.meta.json", []byte("no JSON"))
	f.tell("x.headers", nil)
	if *f.sent != (traffic.Exchange{}) {
		t.Errorf("%+v", f.sent)
	}
}
