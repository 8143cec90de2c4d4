package capture

import (
	"cmp"
	"encoding/json"
	"path"
	"slices"
	"strings"
	"time"
	"vetta/internal/traffic"
)

// A body may lie in a file of its own, with a file beside it that tells how it was sent: NAME.headers
// with the headers as text, or NAME.meta.json with {"method", "url", "status", "time"}. NAME is that of
// the body's file, with or without its ending.

const (
	headersEnding = ".headers"
	metaEnding    = ".meta.json"
	mostBeside    = 1 << 20 // bytes of such a file that are read
)

// Beside says which of some files tell how the bodies in others were sent.
type Beside struct {
	of    map[string][]string // by the body's file, sorted
	tells map[string]bool
}

// Of are the files that tell of a body's file.
func (b *Beside) Of(body string) []string { return b.of[body] }

// Tells says whether a file tells of another one.
func (b *Beside) Tells(file string) bool { return b.tells[file] }

// Besides finds out which of some files, of one folder or of an archive, tell of others.
func Besides(files []string) (b Beside) {
	if !slices.ContainsFunc(files, tells) {
		return b
	}
	b.of, b.tells = map[string][]string{}, map[string]bool{}
	there, stems := map[string]bool{}, map[string]string{}
	for _, f := range files {
		there[f] = true
		stem := strings.TrimSuffix(f, path.Ext(f))
		if !tells(f) && (stems[stem] == "" || f < stems[stem]) {
			stems[stem] = f
		}
	}
	for _, f := range files {
		body := toldOf(f)
		if body != "" && !there[body] {
			body = stems[body]
		}
		if body != "" {
			b.of[body] = append(b.of[body], f)
			slices.Sort(b.of[body])
			b.tells[f] = true
		}
	}
	return b
}

func tells(file string) bool { return toldOf(file) != "" }

// toldOf is the name of the body, with its ending or without, that a file by its name tells of; "" for none.
func toldOf(file string) string {
	for _, ending := range []string{headersEnding, metaEnding} {
		if body, ok := strings.CutSuffix(file, ending); ok && body != "" && !strings.HasSuffix(body, "/") {
			return body
		}
	}
	return ""
}

// tell takes what a file beside the body says of how it was sent. What it does not say stays unknown.
func (f *File) tell(name string, text []byte) {
	if f.sent == nil {
		f.sent = &traffic.Exchange{}
	}
	if strings.HasSuffix(name, metaEnding) {
		takeMeta(f.sent, text)
		return
	}
	f.coding = takeHeaders(f.sent, text)
}

// takeMeta takes what a NAME.meta.json says.
func takeMeta(x *traffic.Exchange, text []byte) {
	var in struct {
		Method, URL, Time, MediaType string
		Status                       any
	}
	if json.Unmarshal(text, &in) != nil {
		return
	}
	x.Method = cmp.Or(strings.ToUpper(in.Method), x.Method)
	x.Media = cmp.Or(traffic.MediaOf(in.MediaType), x.Media)
	if status, ok := in.Status.(float64); ok {
		x.Status = int(status)
	}
	if in.URL != "" {
		x.Asks(in.URL, "")
	}
	if t := traffic.DateOf(in.Time, time.RFC3339Nano, time.RFC1123, "2006-01-02 15:04:05", time.DateOnly); !t.IsZero() {
		x.Time = t
	}
}

// takeHeaders takes what a NAME.headers says: the headers of the response, with its first line or without,
// and of the request before it, if it is there. Of several responses, as of a redirect, the last counts. The answer is the content coding that the body may have.
func takeHeaders(x *traffic.Exchange, text []byte) (coding string) {
	var asked message
	for pos := 0; pos < len(text); {
		m, _ := head(text, pos)
		if m.body <= pos {
			break
		}
		pos = m.body
		if m.method != "" {
			asked = m
			continue
		}
		found := m.exchange(&asked)
		found.Method, found.Host, found.Path, found.Op = cmp.Or(found.Method, x.Method), cmp.Or(found.Host, x.Host), cmp.Or(found.Path, x.Path), cmp.Or(found.Op, x.Op)
		if found.Status = cmp.Or(found.Status, x.Status); found.Time.IsZero() {
			found.Time = x.Time
		}
		found.Media, found.Request = cmp.Or(found.Media, x.Media), false
		*x = *found
		coding = m.headers["content-encoding"]
	}
	return coding
}
