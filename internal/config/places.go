package config

import (
	"regexp"
	"strings"
	"unicode/utf8"

	"vetta/internal/model"
)

// places tell where keys stand in a file that is well-formed: the module that reads TOML does not say it
// of those that it has read.
type places struct {
	file string
	at   map[place]model.Pos
}

// place is a key of a table: of the one of a number among those of its name, key is "" for its head.
type place struct {
	table string
	index int
	key   string
}

var (
	headLook = regexp.MustCompile(`^\s*\[{1,2}\s*"?([A-Za-z0-9_-]+)"?\s*(?:\.\s*"?([A-Za-z0-9_-]+)"?\s*)?\]`)
	keyLook  = regexp.MustCompile(`(?:^|[{,])\s*"?([A-Za-z0-9_.-]+)"?\s*=`)
)

// placesOf goes through the lines of a file. What stands in a text over several lines may be taken for keys;
// the first of a name is the one that counts.
func placesOf(file, text string) *places {
	p := &places{file: file, at: map[place]model.Pos{}}
	table, index := "", map[string]int{}
	for i, line := range strings.Split(text, "\n") {
		pos := func(offset int) model.Pos {
			return model.Pos{File: file, Line: int32(i + 1), Col: int32(utf8.RuneCountInString(line[:offset]) + 1)}
		}
		if m := headLook.FindStringSubmatchIndex(line); m != nil {
			table = line[m[2]:m[3]]
			if m[4] < 0 { // and not decoder.settings, which goes on with the one before
				if strings.HasPrefix(strings.TrimSpace(line), "[[") {
					index[table]++
				}
				head := strings.IndexByte(line, '[')
				p.note(place{table, max(0, index[table]-1), ""}, pos(head))
				p.note(place{"", 0, table}, pos(head))
			}
			continue
		}
		for _, m := range keyLook.FindAllStringSubmatchIndex(line, -1) {
			name := line[m[2]:m[3]]
			if table == "" {
				p.note(place{"", 0, name}, pos(m[2]))
			}
			p.note(place{table, max(0, index[table]-1), name}, pos(m[2]))
		}
	}
	return p
}

func (p *places) note(at place, pos model.Pos) {
	if _, known := p.at[at]; !known {
		p.at[at] = pos
	}
}

// of is where a key of a table stands, or the table, or the file.
func (p *places) of(table string, index int, key string) model.Pos {
	for _, at := range []place{{table, index, key}, {table, index, ""}, {"", 0, table}} {
		if pos, ok := p.at[at]; ok {
			return pos
		}
	}
	return model.Pos{File: p.file, Line: 1, Col: 1}
}
