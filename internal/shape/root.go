package shape

import (
	"errors"
	"slices"
	"sort"
	"strings"

	"vetta/internal/wire"
)

// ErrOtherRoot says that a document does not belong to the endpoint: its root
// object has keys that those of the endpoint do not have.
var ErrOtherRoot = errors.New("the root has other keys")

// Root tells the root of the document that was read last from others: its kind
// and, of an object, its keys. Captures of one name whose roots differ are of
// different endpoints.
func (r *Reader) Root(src *Source, offset int) string {
	s := r.root
	if s == nil {
		root, _ := RootOf(src.Data, offset)
		return root
	}
	if s.root == "" {
		var names []string
		for i, has := range s.Keys {
			if has {
				names = append(names, r.e.Root.Keys[i].Name)
			}
		}
		s.root = rootText(names)
	}
	return s.root
}

func rootText(names []string) string {
	sort.Strings(names)
	names = slices.Compact(names)
	if len(names) == 1 && names[0] == "" { // which is another root than that of no key
		return "{\x00"
	}
	return "{" + strings.Join(names, "\x00")
}

// RootOf is what Reader.Root answers for a document that has not been read. The
// error is that of the wire.
func RootOf(data []byte, offset int) (string, error) {
	var r wire.Reader
	r.Reset(data, offset)
	var names []string
	root := "."
	for {
		ev, err := r.Next()
		if err != nil {
			return "", err
		}
		switch {
		case ev.Kind == wire.EndDocument:
			if root == "{" {
				return rootText(names), nil
			}
			return root, nil
		case ev.Kind == wire.BeginObject && r.Depth() == 1:
			root = "{"
		case ev.Kind == wire.BeginArray && r.Depth() == 1:
			root = "["
		case ev.Kind == wire.KeyName && r.Depth() == 1:
			name, _ := wire.Unquote(data[ev.Start:ev.End])
			names = append(names, name)
		}
	}
}

// TakeBack undoes the reading of a document that has just been read.
func (r *Reader) TakeBack(e *Endpoint, src *Source, offset int) {
	e.combos.remove(e.lastCombo)
	r.takeBack(e, src, offset, e.freshFile)
}
