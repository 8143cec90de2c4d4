package capture

import (
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"vetta/internal/traffic"
)

// agree reads bytes as a file of a name, whole and in pieces: neither may panic or go on without end, and
// both find the same documents where nothing is wrong with the file.
func agree(t *testing.T, file string, data []byte) {
	path := filepath.Join(t.TempDir(), file)
	if err := os.WriteFile(path, data, 0o644); err != nil {
		t.Fatal(err)
	}
	whole := reading(&Reader{}, &File{Path: path})
	for _, how := range []sizes{{}, {whole: 8, chunk: 700, giant: 1 << 20}} {
		// Positions are told for texts on one line: a line break in one, which JSON does not admit, moves them.
		many := positions.ReplaceAllString(strings.Join(reading(&Reader{sizes: how}, &File{Path: path}), "\n"), "")
		if alone := positions.ReplaceAllString(strings.Join(reading(&Reader{Alone: true, sizes: how}, &File{Path: path}), "\n"), ""); many != alone {
			t.Errorf("%q\nby many  %s\nby one   %s", data, many, alone)
		}
	}
	for _, how := range []sizes{{whole: 8, chunk: 700, giant: 1 << 20}, {whole: 8, chunk: 700, giant: 800}} {
		pieces := reading(&Reader{sizes: how}, &File{Path: path})
		if faulty(whole) || faulty(pieces) {
			continue // what comes behind a fault depends on how much of it was at hand
		}
		a, b := positions.ReplaceAllString(strings.Join(whole, "\n"), ""), positions.ReplaceAllString(strings.Join(pieces, "\n"), "")
		if a != b {
			t.Errorf("%q\nwhole     %s\nin pieces %s", data, a, b)
		}
	}
}

// faulty says whether a reading has found problems.
func faulty(lines []string) bool {
	return slices.ContainsFunc(lines, func(line string) bool {
		name, _, _ := strings.Cut(line, " ")
		return strings.Contains(name, ":")
	})
}

func FuzzHAR(f *testing.F) {
	f.Add([]byte(har(`{"startedDateTime":"2026-03-09T09:00:00Z","request":{"method":"GET","url":"https://a.example/p"},"response":{"status":200,"content":{"mimeType":"application/json","text":"{\\"a\\":\\"\\\\u00e9\\"}"}}}`)))
	f.Add([]byte(har(`{"request":{"method":"POST","url":"x","postData":{"text":"{\"operationName\":\"A\",\"query\":\"\"}"}},"response":{"status":-1,"content":{"text":"eyJhIjoxfQ==","encoding":"base64"}}}`, `{"response":{"status":204}}`)))
	f.Add([]byte(har(strings.Repeat(`{"x":[`, 3) + strings.Repeat(`]}`, 3))))
	f.Add([]byte(har(`{"request":{},"response":{"status":200,"content":{"text":"` + strings.Repeat(`\\n\"`, 400) + `"}}}`)))
	f.Fuzz(func(t *testing.T, data []byte) { agree(t, "a.har", data) })
}

func FuzzMessages(f *testing.F) {
	f.Add([]byte("GET /p HTTP/1.1\r\nHost: a.example\r\n\r\nHTTP/1.1 200 OK\r\nContent-Length: 2\r\n\r\n[]\n---\nHTTP/2 204\n\n"))
	f.Add([]byte("HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n2\r\n[]\r\n0\r\n\r\n"))
	f.Add([]byte("HTTP/1.1 200 OK\nContent-Encoding: gzip, br\n\n" + compressed(f, "br", "[1]")))
	f.Add([]byte("POST /p HTTP/1.1\nContent-Length: 99999999999\n\n{}\nHTTP/1.1 100 Continue\n\nHTTP/1.1 200 OK\n"))
	f.Fuzz(func(t *testing.T, data []byte) { agree(t, "a.http", data) })
}

func FuzzLayers(f *testing.F) {
	f.Add([]byte(zipped(f, "a/p.json", "1", "b.body", "2", "b.meta.json", `{"status":200,"url":"https://a.example/p"}`, "../q.json", "3")))
	f.Add([]byte(tarred(f, "p.json", "1", "p.json.headers", "HTTP/1.1 200 OK\n")))
	f.Add([]byte(compressed(f, "gzip", tarred(f, "p.json", "1"))))
	f.Add([]byte(compressed(f, "zst", "{}\n{}\n")))
	f.Add([]byte("\xff\xfe{\x00}\x00"))
	f.Add([]byte(")]}'\n[1]"))
	f.Fuzz(func(t *testing.T, data []byte) { agree(t, "a.json", data) })
}

func FuzzBeside(f *testing.F) {
	f.Add("GET /p HTTP/1.1\nHost: a\n\nHTTP/1.1 200 OK\nDate: x\n\n", `{"url":"https://a.example/p?op=x","status":"1","time":"2026-03-09"}`)
	f.Fuzz(func(t *testing.T, headers, meta string) {
		file := &File{}
		file.tell("a.headers", []byte(headers))
		file.tell("a.meta.json", []byte(meta))
		if file.sent.Known() {
			route := file.sent.Route()
			if again := (&traffic.Exchange{Method: route.Method, Path: route.Path}).Route(); again.Path != route.Path {
				t.Errorf("%q has the route %q, and that %q", file.sent.Path, route.Path, again.Path)
			}
		}
	})
}
