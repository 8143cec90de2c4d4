package capture

import (
	"bytes"
	"compress/zlib"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/andybalholm/brotli"
	"github.com/klauspost/compress/gzip"
	"github.com/klauspost/compress/zstd"

	"vetta/internal/traffic"
	"vetta/internal/wire"
)

// reading is what a reader answers of a file: a line for each document with what is known of how it was
// sent, each problem and each body that was passed over.
func reading(r *Reader, f *File) []string {
	var out []string
	known := func(x *traffic.Exchange) string {
		if x == nil {
			return ""
		}
		text := strings.TrimSpace(fmt.Sprintf("%s %s%s", x.Method, x.Host, x.Path))
		if x.Op != "" {
			text += "?op=" + x.Op
		}
		if x.Status > 0 {
			text += fmt.Sprint(" ", x.Status)
		}
		if !x.Time.IsZero() {
			text += x.Time.UTC().Format(" 2006-01-02T15:04:05")
		}
		if x.Request {
			text += " request"
		}
		return " [" + strings.TrimSpace(text) + "]"
	}
	name := func(path string) string { return strings.TrimPrefix(path, filepath.Dir(f.Path)+"/") }
	problem := func(p Problem) {
		out = append(out, fmt.Sprintf("%s:%d:%d#%d %s", name(p.File), p.Line, p.Column, p.Entry, p.Reason))
	}
	passed := func(p Passed) {
		out = append(out, fmt.Sprintf("%s#%d %s%s", name(p.File.Path), p.Entry, p.Kind, known(p.Exchange)))
	}
	sink := Sink{Problem: problem, Passed: passed, Document: func(d Document) (int, error) {
		_, end, err := wire.ParseNext(d.Data, d.Start)
		if err != nil {
			return 0, err
		}
		line, column := d.Where(d.Start)
		out = append(out, fmt.Sprintf("%s#%d %d:%d %s%s", name(d.File.Path), d.Entry, line, column, d.Data[d.Start:end], known(d.Exchange)))
		return end, nil
	}}
	r.Passed = passed
	r.Read(f, func(c *Chunk) (int, error) { return c.Documents(&sink), nil }, problem)
	return out
}

// holds reads bytes as a file of a name, and compares what comes of it; then in small pieces, of which the
// same must come, but for positions in entries that are not held as they stand.
func holds(t *testing.T, file, text string, want ...string) {
	t.Helper()
	path := filepath.Join(t.TempDir(), file)
	if err := os.WriteFile(path, []byte(text), 0o644); err != nil {
		t.Fatal(err)
	}
	read := func(how sizes) string {
		return strings.Join(reading(&Reader{sizes: how}, &File{Path: path, Unsure: !IsCapture(file)}), "\n")
	}
	got := read(sizes{})
	for _, how := range []sizes{{}, {whole: 8, chunk: 600, giant: 1 << 20}} {
		if again := strings.Join(reading(&Reader{Alone: true, sizes: how}, &File{Path: path, Unsure: !IsCapture(file)}), "\n"); again != got {
			t.Errorf("%s alone, in pieces of %d\n got %s\nwant %s", file, how.chunk, again, got)
		}
	}
	if want := strings.Join(want, "\n"); got != want {
		t.Errorf("%s\n got %s\nwant %s", file, got, want)
	}
	if again := read(sizes{whole: 8, chunk: 600, giant: 1 << 20}); again != got {
		t.Errorf("%s in pieces\n got %s\nwant %s", file, again, got)
	}
	if again := read(sizes{whole: 8, chunk: 600, giant: 700}); positions.ReplaceAllString(again, "") != positions.ReplaceAllString(got, "") {
		t.Errorf("%s as a stream\n got %s\nwant %s", file, again, got)
	}
}

var positions = regexp.MustCompile(`[: ]\d+:\d+`)

// har is a HAR file of some entries.
func har(entries ...string) string {
	return `{"log":{"version":"1.2","creator":{"name":"a","version":"1"},"entries":[` + "\n" + strings.Join(entries, ",\n") + "\n]}}\n"
}

func TestHAR(t *testing.T) {
	text := func(body string) string {
		out, _ := json.Marshal(body)
		return string(out)
	}
	entry := func(method, url string, status int, media, content string) string {
		return fmt.Sprintf(`{"_id":{"x":["}"]},"startedDateTime":"2026-03-09T09:00:01.5+01:00","request":{"method":%q,"url":%q,"headers":[{"name":"Authorization","value":"Bearer s3cret \"}"}]},"response":{"status":%d,"content":{"size":9,"mimeType":%q%s}},"_more":null}`, method, url, status, media, content)
	}
	port := `{"code":"SAL","name":"Salt \"mere\" é 😀\\","open":true}`
	all := har(
		entry("GET", "https://api.saltmere.example:443/v2/ports?token=s3cret", 200, "application/json; charset=utf-8", `,"text":`+text(port)),
		entry("get", "http://api.saltmere.example:8080/v2/ports/7", 200, "", `,"encoding":"base64","text":"`+base64.StdEncoding.EncodeToString([]byte(port))+`"`),
		entry("GET", "https://api.saltmere.example/logo.png", 200, "image/png", `,"text":"iVBOR","encoding":"base64"`),
		entry("GET", "https://api.saltmere.example/v2/ports", 502, "application/json", `,"text":"<html><body>bad gateway</body></html>"`),
		entry("GET", "https://api.saltmere.example/v2/ports", 200, "", ``),
		entry("GET", "https://api.saltmere.example/v2/ports", 204, "", ``),
		entry("GET", "https://api.saltmere.example/v2/ports", 0, "", ``),
		entry("GET", "https://api.saltmere.example/v2/tides", 200, "text/xml", `,"text":"<?xml version=\"1.0\"?><tides/>"`),
		entry("GET", "https://api.saltmere.example/v2/ports", 200, "application/json", `,"text":"{\"code\":"`),
		entry("GET", "https://api.saltmere.example/v2/log", 200, "application/x-ndjson", `,"text":"{\"a\":1}\n{\"a\":2}\n"`),
		entry("GET", "https://api.saltmere.example/v2/ports", 200, "application/json", `,"text":")]}'\n[1]"`),
	)
	lines := strings.Split(all, "\n")
	at := func(line int) string { // of the text of the entry on a line
		return fmt.Sprintf("%d:%d", line, strings.Index(lines[line-1], `"text":`)+len(`"text":`)+1)
	}
	holds(t, "session.har", all,
		`session.har#1 `+at(2)+` `+port+` [GET api.saltmere.example/v2/ports 200 2026-03-09T08:00:01]`,
		`session.har#2 `+at(3)+` `+port+` [GET api.saltmere.example:8080/v2/ports/7 200 2026-03-09T08:00:01]`,
		`session.har#3 image [GET api.saltmere.example/logo.png 200 2026-03-09T08:00:01]`,
		`session.har:`+at(5)+`#4 it is a web page, status 502, where its headers say JSON`,
		`session.har#5 body that was not saved [GET api.saltmere.example/v2/ports 200 2026-03-09T08:00:01]`,
		`session.har#6 empty body [GET api.saltmere.example/v2/ports 204 2026-03-09T08:00:01]`,
		`session.har#7 request without an answer [GET api.saltmere.example/v2/ports 2026-03-09T08:00:01]`,
		`session.har#8 9:280 {"<tides":{"<#":""}} [GET api.saltmere.example/v2/tides 200 2026-03-09T08:00:01]`,
		`session.har:`+at(10)+`#9 the document ends where a value should come, in line 1, column 9 of the body`,
		`session.har#10 `+at(11)+` {"a":1} [GET api.saltmere.example/v2/log 200 2026-03-09T08:00:01]`,
		`session.har#10 `+at(11)+` {"a":2} [GET api.saltmere.example/v2/log 200 2026-03-09T08:00:01]`,
		`session.har#11 `+at(12)+` [1] [GET api.saltmere.example/v2/ports 200 2026-03-09T08:00:01]`,
	)
	// A browser that shows what was sent, and a GraphQL request.
	holds(t, "graph.har", har(
		`{"request":{"method":"POST","url":"https://api.saltmere.example/graphql","postData":{"mimeType":"application/json","text":"{\"query\":\"query Board($day: Date) { sailings { id } }\"}"}},"response":{"status":200,"content":{"mimeType":"application/json","text":"{}"}}}`,
		`{"request":{"method":"POST","url":"https://api.saltmere.example/graphql","postData":{"text":"{\"operationName\":\"Pass\",\"query\":\"…\"}"}},"response":{"status":400,"content":{"text":"{}"}}}`,
		`{"request":{"method":"GET","url":"https://api.saltmere.example/rpc?key=s3cret&op=ports.list"},"response":{"status":200,"content":{"text":"{}"}}}`,
	),
		`graph.har#1 2:123 {"query":"query Board($day: Date) { sailings { id } }"} [POST api.saltmere.example/graphql?op=Board 200 request]`,
		`graph.har#1 2:260 {} [POST api.saltmere.example/graphql?op=Board 200]`,
		`graph.har#2 3:93 {"operationName":"Pass","query":"…"} [POST api.saltmere.example/graphql?op=Pass 400 request]`,
		`graph.har#2 3:187 {} [POST api.saltmere.example/graphql?op=Pass 400]`,
		`graph.har#3 4:138 {} [GET api.saltmere.example/rpc?op=ports.list 200]`,
	)
	// The list may come first, and members of a program's own before all.
	holds(t, "odd.json", `{"_by":1,"log":{"entries":[{"request":{"url":"https://a.example/p"},"response":{"status":200,"content":{"text":"1"}}}],"version":"1.2"}}`, `odd.json#1 1:112 1 [a.example/p 200]`)
	// Files that end too early are read up to there.
	one := entry("GET", "https://api.saltmere.example/v2/a", 200, "application/json", `,"text":"1"`)
	whole := har(one, one)
	for cut, want := range map[int]string{
		len(whole) - 3:                "session.har:4:2#0 the file ends before its end; 2 entries were read",
		len(whole) - 60:               "session.har:3:1#2 the file ends inside entry 2; 1 entry was read",
		strings.Index(whole, one) + 9: "session.har:2:1#1 the file ends inside entry 1; 0 entries were read",
	} {
		path := filepath.Join(t.TempDir(), "session.har")
		os.WriteFile(path, []byte(whole[:cut]), 0o644)
		got := reading(&Reader{}, &File{Path: path})
		if last := got[len(got)-1]; last != want {
			t.Errorf("cut at %d: %s, want %s", cut, last, want)
		}
	}
	holds(t, "session.har", har(), "session.har:0:0#0 it holds no entries")
	holds(t, "session.har", har(`{"request":{"url" 1}}`, one), "session.har:2:19#1 the entry is not as HAR 1.2 has it: something else stands where ':' should come", "session.har#2 3:"+fmt.Sprint(strings.Index(one, `"text"`)+8)+" 1 [GET api.saltmere.example/v2/a 200 2026-03-09T08:00:01]")
}

func TestMessages(t *testing.T) {
	const asked = "GET /v2/ports?token=s3cret HTTP/1.1\r\nHost: API.saltmere.example\r\nAuthorization: Bearer s3cret\r\n\r\n"
	const answered = "HTTP/1.1 200 OK\r\nDate: Mon, 09 Mar 2026 09:00:00 GMT\r\nContent-Type: application/json\r\nSet-Cookie: s3cret\r\n"
	const known = " [GET api.saltmere.example/v2/ports 200 2026-03-09T09:00:00]"
	for _, c := range []struct {
		name, text string
		want       []string
	}{
		{"curl -i", answered + "\r\n{\"a\":1}", []string{`x.txt#1 6:1 {"a":1} [200 2026-03-09T09:00:00]`}},
		{"with the request", asked + answered + "Content-Length: 7\r\n\r\n{\"a\":1}", []string{`x.txt#1 11:1 {"a":1}` + known}},
		{
			"several, with lines between", asked + answered + "Content-Length: 7\r\n\r\n{\"a\":1}\n\n=====\n" + asked + answered + "\r\n[2]\n-----\n",
			[]string{`x.txt#1 11:1 {"a":1}` + known, `x.txt#2 23:1 [2]` + known},
		},
		{"a length that was true of what was compressed", answered + "Content-Encoding: gzip\r\nContent-Length: 3\r\n\r\n{\"a\":1}\n" + answered + "\r\n2", []string{`x.txt#1 8:1 {"a":1} [200 2026-03-09T09:00:00]`, `x.txt#2 14:1 2 [200 2026-03-09T09:00:00]`}},
		{"chunks", answered + "Transfer-Encoding: chunked\r\n\r\n4\r\n{\"a\"\r\n3;x=y\r\n:1}\r\n0\r\n\r\n", []string{`x.txt#1 7:1 {"a":1} [200 2026-03-09T09:00:00]`}},
		{"chunks that were put together", answered + "Transfer-Encoding: chunked\r\n\r\n{\"a\":1}", []string{`x.txt#1 7:1 {"a":1} [200 2026-03-09T09:00:00]`}},
		{"gzip", answered + "Content-Encoding: gzip\r\n\r\n" + compressed(t, "gzip", `{"a":1}`), []string{`x.txt#1 7:1 {"a":1} [200 2026-03-09T09:00:00]`}},
		{"brotli", answered + "Content-Encoding: br\r\n\r\n" + compressed(t, "br", `{"a":1}`), []string{`x.txt#1 7:1 {"a":1} [200 2026-03-09T09:00:00]`}},
		{"zstd", answered + "Content-Encoding: zstd\r\n\r\n" + compressed(t, "zst", `{"a":1}`), []string{`x.txt#1 7:1 {"a":1} [200 2026-03-09T09:00:00]`}},
		{"deflate", answered + "Content-Encoding: deflate\r\n\r\n" + compressed(t, "zlib", `{"a":1}`), []string{`x.txt#1 7:1 {"a":1} [200 2026-03-09T09:00:00]`}},
		{"damaged", answered + "Content-Encoding: br\r\n\r\n\x01\x02\x03\x04", []string{`x.txt:7:1#1 the body is said to be compressed (br), and cannot be expanded: unexpected EOF`}},
		{"line feeds alone, and no reason", "HTTP/2 200\ncontent-type: application/json\n\n1", []string{`x.txt#1 4:1 1 [200]`}},
		{"a redirect, and the answer", "HTTP/1.1 302 Found\r\nLocation: /b\r\nContent-Length: 0\r\n\r\n" + answered + "\r\n1", []string{"x.txt#1 empty body [302]", "x.txt#2 10:1 1 [200 2026-03-09T09:00:00]"}},
		{"continue", "HTTP/1.1 100 Continue\r\n\r\n" + answered + "\r\n1", []string{"x.txt#1 8:1 1 [200 2026-03-09T09:00:00]"}},
		{"no content", asked + "HTTP/1.1 204 No Content\r\n\r\n", []string{"x.txt#1 empty body [GET api.saltmere.example/v2/ports 204]"}},
		{"HEAD", strings.Replace(asked, "GET", "HEAD", 1) + answered + "Content-Length: 99\r\n\r\n", []string{"x.txt#1 empty body [HEAD api.saltmere.example/v2/ports 200 2026-03-09T09:00:00]"}},
		{
			"what was sent", "POST https://api.saltmere.example/v2/passes HTTP/1.1\r\nContent-Type: application/json\r\nContent-Length: 7\r\n\r\n{\"n\":1}\r\n\r\nHTTP/1.1 201 Created\r\n\r\n{}",
			[]string{`x.txt#1 5:1 {"n":1} [POST api.saltmere.example/v2/passes 201 request]`, `x.txt#1 9:1 {} [POST api.saltmere.example/v2/passes 201]`},
		},
		{"no answer", asked, []string{"x.txt#1 request without an answer [GET api.saltmere.example/v2/ports]"}},
		{"a page", "HTTP/1.1 502 Bad Gateway\r\nContent-Type: text/html\r\n\r\n<html>no</html>", []string{"x.txt#1 web page [502]"}},
		{"plain text", "HTTP/1.1 500 Error\r\nContent-Type: application/json\r\n\r\nupstream timed out", []string{"x.txt:4:1#1 it is plain text, status 500, where its headers say JSON"}},
		{"comments", "# captured on Monday\n\n" + asked + answered + "\r\n1\n\n### the next one\n" + asked + answered + "\r\n2\n", []string{"x.txt#1 12:1 1" + known, "x.txt#2 24:1 2" + known}},
		{"text before", "captured on Monday\n" + answered + "\r\n1", []string{"x.txt:1:1#0 text between HTTP messages that is of none was passed over", "x.txt#1 7:1 1 [200 2026-03-09T09:00:00]"}},
		{"malformed", answered + "\r\n{\"a\":}\n", []string{"x.txt:6:6#1 '}' where a value should come"}},
		{"folded", "HTTP/1.1 200 OK\r\nContent-Type:\r\n application/json\r\n\r\n1", []string{"x.txt#1 5:1 1 [200]"}},
	} {
		t.Run(c.name, func(t *testing.T) { holds(t, "x.txt", c.text, c.want...) })
	}
}

// compressed is a text compressed in one way.
func compressed(t testing.TB, how, text string) string {
	t.Helper()
	var out bytes.Buffer
	var w io.WriteCloser
	switch how {
	case "gzip":
		w = gzip.NewWriter(&out)
	case "br":
		w = brotli.NewWriter(&out)
	case "zlib":
		w = zlib.NewWriter(&out)
	case "zst":
		var err error
		if w, err = zstd.NewWriter(&out); err != nil {
			t.Fatal(err)
		}
	}
	io.WriteString(w, text)
	w.Close()
	return out.String()
}
