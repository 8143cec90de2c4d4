package markup

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"math/rand"
	"reflect"
	"slices"
	"strings"
	"testing"
)

// value is a JSON value in which the lists of a key that comes again are one list.
func value(t *testing.T, d *json.Decoder) any {
	token, err := d.Token()
	if err != nil {
		t.Fatal(err)
	}
	switch token {
	case json.Delim('{'):
		members := map[string]any{}
		for d.More() {
			name, _ := d.Token()
			v := value(t, d)
			if before, again := members[name.(string)]; again {
				v = append(before.([]any), v.([]any)...)
			}
			members[name.(string)] = v
		}
		d.Token()
		return members
	case json.Delim('['):
		list := []any{}
		for d.More() {
			list = append(list, value(t, d))
		}
		d.Token()
		return list
	}
	return token
}

func valueOf(t *testing.T, text []byte) any { return value(t, json.NewDecoder(bytes.NewReader(text))) }

// someXML writes an element with whatever may be in one.
func someXML(r *rand.Rand, out *strings.Builder, depth int) {
	name := string(rune('a' + r.Intn(3)))
	out.WriteString("<" + name)
	switch r.Intn(6) {
	case 0:
		fmt.Fprintf(out, ` at="%d"`, r.Intn(10))
	case 1:
		out.WriteString(` xmlns:i="` + InstanceSpace + `" i:nil="true"`)
	}
	if r.Intn(6) == 0 {
		out.WriteString("/>")
		return
	}
	out.WriteString(">")
	for range r.Intn(8 - depth) {
		switch n := r.Intn(8); {
		case n == 0:
			out.WriteString("text")
		case n == 1:
			out.WriteString("\n  ")
		case n == 2:
			out.WriteString("<!-- what it is -->")
		case depth < 6:
			someXML(r, out, depth+1)
		}
	}
	out.WriteString("</" + name + ">")
}

func TestWindowsAreConvert(t *testing.T) {
	var docs []string
	r := rand.New(rand.NewSource(21))
	for range 400 {
		var out strings.Builder
		someXML(r, &out, 0)
		docs = append(docs, out.String())
	}
	docs = append(docs, "<a>"+strings.Repeat("<b>1</b><c/><b>2</b>", 50)+"tail</a>")
	for _, doc := range docs {
		whole, err := Convert([]byte(doc))
		if err != nil {
			t.Fatal(err)
		}
		want := valueOf(t, whole.JSON)
		for _, size := range []int{1, 30, 200, 1 << 20} {
			var text []byte
			windows := 0
			err := Windows([]byte(doc), size, func(w *Converted, last bool) error {
				windows++
				text = append(text, w.JSON...)
				for i := 1; i < len(w.Places); i++ {
					if w.Places[i-1].json > w.Places[i].json {
						t.Fatalf("%s: places out of order: %v", doc, w.Places)
					}
				}
				for _, p := range w.Places {
					if at := int(p.json); at >= 0 && w.JSON[at] == '{' && doc[p.source] != '<' {
						t.Fatalf("%s: an object at %d", doc, p.source)
					}
				}
				return nil
			})
			if err != nil {
				t.Fatal(err)
			}
			if got := valueOf(t, text); !reflect.DeepEqual(got, want) {
				t.Fatalf("%s in stretches of %d:\n%s\nwhole:\n%s", doc, size, text, whole.JSON)
			}
			if size == 1<<20 && (windows != 1 || !bytes.Equal(text, whole.JSON)) {
				t.Errorf("%s: one stretch is not the whole", doc)
			}
		}
	}
}

func TestWindowsLeadToTheDocument(t *testing.T) {
	doc := "<fleet><vessel id='1'><name>Ada</name></vessel><port/><vessel id='2'><name>Bo</name></vessel><vessel id='3'/></fleet>"
	var got []string
	err := Windows([]byte(doc), 1, func(w *Converted, last bool) error {
		for i, c := range w.JSON {
			if c != '{' || i == 0 {
				continue
			}
			if start, end := w.Places.Source(i); strings.HasPrefix(doc[start:min(end, len(doc))], "<vessel") {
				got = append(got, doc[start:min(end, len(doc))])
			}
		}
		for _, n := range w.Resumed {
			got = append(got, fmt.Sprint("from ", n))
		}
		return nil
	})
	want := []string{
		// The first is handed on when its name ends, so that its own end is not known.
		doc[strings.Index(doc, "<vessel id='1'>"):],
		"<vessel id='2'><name>Bo</name></vessel><vessel id='3'/></fleet>",
		"from 1",
		"<vessel id='3'/>",
	}
	if err != nil || !slices.Equal(got, want) {
		t.Errorf("%v\n%s", err, strings.Join(got, "\n"))
	}
}

func TestWindowsEndWithAnError(t *testing.T) {
	doc := []byte("<a>" + strings.Repeat("<b/>", 100) + "</c>")
	windows := 0
	var wrong *Error
	if err := Windows(doc, 100, func(*Converted, bool) error { windows++; return nil }); !errors.As(err, &wrong) || wrong.Offset != 403 || windows == 0 {
		t.Errorf("%v, after %d stretches", err, windows)
	}
	enough := errors.New("enough")
	if err := Windows(doc, 100, func(*Converted, bool) error { return enough }); err != enough {
		t.Error(err)
	}
}
