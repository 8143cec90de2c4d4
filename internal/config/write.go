package config

import (
	"bytes"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"strings"

	"github.com/BurntSushi/toml"

	"vetta/internal/whole"
)

// Noted is a pair with a remark that is written above it.
type Noted struct {
	Pair
	Note string
}

// Add writes pairs behind what a file says already, all of them or none, and answers how many there were
// that it did not say. A file that is not there yet is begun. What people have written in it stays as it is.
func (f *File) Add(pairs []Noted) (added int, err error) {
	text := f.text
	if text == "" {
		old, err := os.ReadFile(f.Path)
		if err != nil && !errors.Is(err, fs.ErrNotExist) {
			return 0, err
		}
		text = string(old)
	}
	var b strings.Builder
	b.WriteString(text)
	if text != "" && !strings.HasSuffix(text, "\n") {
		b.WriteByte('\n')
	}
	for _, p := range pairs {
		if f.has(p.Pair) {
			continue
		}
		added++
		if b.Len() > 0 {
			b.WriteByte('\n')
		}
		if p.Note != "" {
			fmt.Fprintf(&b, "# %s\n", strings.Join(strings.Fields(p.Note), " "))
		}
		entry := struct {
			Type     string `toml:"type"`
			Captures string `toml:"captures"`
			Place    string `toml:"place,omitempty"`
		}{p.Type, p.Captures, p.Place}
		var table bytes.Buffer
		if err := toml.NewEncoder(&table).Encode(entry); err != nil {
			return 0, err
		}
		b.WriteString("[[pair]]\n" + table.String())
	}
	if added == 0 {
		return 0, nil
	}
	return added, whole.Write(whole.File{Path: f.Path, Data: []byte(b.String())})
}

// has says whether a file says a pair.
func (f *File) has(p Pair) bool {
	for _, known := range f.Pairs {
		if known.Type == p.Type && known.Captures == p.Captures && root(known.Place) == root(p.Place) {
			return true
		}
	}
	return false
}

func root(place string) string {
	if place == "$" {
		return ""
	}
	return place
}
