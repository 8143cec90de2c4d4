package wire

import (
	"bytes"
	"errors"
	"io"
	"testing"

	"github.com/go-json-experiment/json/jsontext"
)

// token is what both readers are asked for at each step.
type token struct {
	kind       byte
	start, end int
}

// ours reads a document with the Reader; ok says whether it was accepted.
func ours(data []byte) (tokens []token, ok bool) {
	r := Reader{MaxDepth: 10000}
	r.Reset(data, 0)
	for {
		ev, err := r.Next()
		if err != nil {
			return tokens, false
		}
		kind := map[EventKind]byte{
			BeginObject: '{', EndObject: '}', BeginArray: '[', EndArray: ']', KeyName: '"', StringValue: '"',
			NumberValue: '0', TrueValue: 't', FalseValue: 'f', NullValue: 'n',
		}[ev.Kind]
		if ev.Kind == EndDocument {
			return tokens, skipSpace(data, ev.End) == len(data)
		}
		tokens = append(tokens, token{kind, ev.Start, ev.End})
	}
}

// theirs reads it with the module that the Reader is held to.
func theirs(data []byte) (tokens []token, ok bool) {
	dec := jsontext.NewDecoder(bytes.NewBuffer(bytes.Clone(data)), jsontext.AllowDuplicateNames(true))
	for depth := -1; ; {
		kind := dec.PeekKind()
		var size int
		if kind == '{' || kind == '}' || kind == '[' || kind == ']' {
			if _, err := dec.ReadToken(); err != nil {
				return tokens, false
			}
			size = 1
		} else {
			v, err := dec.ReadValue()
			if errors.Is(err, io.EOF) && depth == 0 {
				return tokens, true
			}
			if err != nil {
				return tokens, false
			}
			size = len(v)
		}
		if depth == 0 && dec.StackDepth() >= 0 && len(tokens) > 0 {
			return tokens, false // a second document
		}
		end := int(dec.InputOffset())
		tokens = append(tokens, token{byte(kind), end - size, end})
		depth = dec.StackDepth()
	}
}

// halfPair says whether a string in the data names half a surrogate pair: the
// module refuses those as no UTF-8, the Reader leaves them to the library.
func halfPair(data []byte) bool {
	r := Reader{MaxDepth: 10000}
	r.Reset(data, 0)
	for {
		ev, err := r.Next()
		if err != nil || ev.Kind == EndDocument {
			return false
		}
		if ev.Kind == StringValue || ev.Kind == KeyName {
			if _, whole := Unquote(data[ev.Start:ev.End]); !whole {
				return true
			}
		}
	}
}

func compare(t *testing.T, data []byte) {
	t.Helper()
	got, ok := ours(data)
	want, wantOK := theirs(data)
	if ok != wantOK {
		if ok && halfPair(data) {
			return
		}
		t.Fatalf("%q: accepted %v, by the module %v", data, ok, wantOK)
	}
	if !ok {
		return
	}
	if len(got) != len(want) {
		t.Fatalf("%q: %d tokens, by the module %d", data, len(got), len(want))
	}
	for i := range got {
		if got[i] != want[i] {
			t.Fatalf("%q: token %d is %v, by the module %v", data, i, got[i], want[i])
		}
	}
}

func TestReaderAgreesWithModule(t *testing.T) {
	for _, docs := range [][]string{accepted, refused} {
		for _, doc := range docs {
			compare(t, []byte(doc))
		}
	}
}

func FuzzReader(f *testing.F) {
	for _, docs := range [][]string{accepted, refused} {
		for _, doc := range docs {
			f.Add([]byte(doc))
		}
	}
	f.Add([]byte(`{"sailings":[{"id":1,"vessel":{"name":"Tern \"x\""},"seats":12.5,"gate":null}]}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		compare(t, data)
		if v, err := Parse(data); err == nil && v.End > len(data) {
			t.Fatalf("%q: the value ends behind the data", data)
		}
	})
}
