package config

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"github.com/bmatcuk/doublestar/v4"

	"vetta/internal/model"
	"vetta/internal/words"
)

// reader makes a File of the values in one, and notes what is wrong with them.
type reader struct {
	file   *File
	words  Words
	places *places
	errs   []error
}

func (r *reader) wrong(at model.Pos, format string, args ...any) {
	r.errs = append(r.errs, &Error{at, fmt.Sprintf(format, args...)})
}

// known are the keys of each table.
var (
	rootKeys    = []string{"models", "captures", "pass-over", "skip", "secrets", "fail-on", "pair", "decoder"}
	pairKeys    = []string{"type", "captures", "place"}
	decoderKeys = []string{"path", "library", "settings"}
)

// keys are those of a table in their order, without those that it must not have.
func (r *reader) keys(table map[string]any, in string, index int, known []string) (names []string) {
	for _, name := range slices.Sorted(maps.Keys(table)) {
		if slices.Contains(known, name) {
			names = append(names, name)
			continue
		}
		where := "the file"
		if in != "" {
			where = "[[" + in + "]]"
		}
		hint := words.Nearest(name, known)
		if hint == "" {
			hint = "; there are " + strings.Join(known, ", ")
		}
		r.wrong(r.places.of(in, index, name), "%s has no key %s%s", where, strconv.Quote(name), hint)
	}
	return names
}

func (r *reader) root(all map[string]any) {
	f := r.file
	for _, name := range r.keys(all, "", 0, rootKeys) {
		at := r.places.of("", 0, name)
		value := all[name]
		switch name {
		case "models":
			f.Models = r.list(value, name, at)
		case "captures":
			f.Captures = r.list(value, name, at)
		case "pass-over":
			f.PassOver = r.patterns(value, name, at)
		case "skip":
			f.Skip = r.list(value, name, at)
		case "secrets":
			f.Secrets = r.list(value, name, at)
		case "fail-on":
			if text := r.text(value, name, at); text != "" {
				if !slices.Contains(r.words.Levels, text) {
					r.wrong(at, "fail-on is one of %s%s", strings.Join(r.words.Levels, ", "), words.Nearest(text, r.words.Levels))
					continue
				}
				f.FailOn = Word{text, at}
			}
		case "pair":
			for i, table := range r.tables(value, name, at) {
				r.pair(table, i)
			}
		case "decoder":
			for i, table := range r.tables(value, name, at) {
				r.decoder(table, i)
			}
		}
	}
}

func (r *reader) pair(table map[string]any, i int) {
	p := Pair{Pos: r.places.of("pair", i, "")}
	for _, name := range r.keys(table, "pair", i, pairKeys) {
		text := r.text(table[name], name, r.places.of("pair", i, name))
		switch name {
		case "type":
			p.Type = text
		case "captures":
			p.Captures = text
		case "place":
			p.Place = text
		}
	}
	for _, needed := range pairKeys[:2] {
		if _, ok := table[needed]; !ok {
			r.wrong(p.Pos, "the pair has no %s: it is written as type = \"Sailing\", captures = \"GET /v2/sailings\", place = \"$.sailings[*]\"", needed)
			return
		}
	}
	if p.Type != "" && p.Captures != "" {
		r.file.Pairs = append(r.file.Pairs, p)
	}
}

func (r *reader) decoder(table map[string]any, i int) {
	d := Decoder{Pos: r.places.of("decoder", i, ""), Settings: map[string]string{}}
	for _, name := range r.keys(table, "decoder", i, decoderKeys) {
		at := r.places.of("decoder", i, name)
		switch name {
		case "path":
			if d.Path = r.text(table[name], name, at); !doublestar.ValidatePattern(d.Path) {
				r.wrong(at, "%q is no pattern for file names", d.Path)
			}
		case "library":
			d.Library = r.text(table[name], name, at)
			if d.Library != "" && !slices.Contains(r.words.Libraries, d.Library) {
				r.wrong(at, "library is one of %s%s", strings.Join(r.words.Libraries, ", "), words.Nearest(d.Library, r.words.Libraries))
				return
			}
		case "settings":
			r.settings(table[name], &d, i, at)
		}
	}
	if d.Path == "" {
		r.wrong(d.Pos, "the decoder has no path: a file, a folder or a pattern of those whose classes it decodes")
		return
	}
	if d.Library == "" {
		r.wrong(d.Pos, "the decoder has no library: one of %s", strings.Join(r.words.Libraries, ", "))
		return
	}
	if r.words.Assumed != nil {
		d.Assumed = r.words.Assumed(d.Library, d.Settings)
	}
	r.file.Decoders = append(r.file.Decoders, d)
}

// settings reads those of a decoder: texts, numbers and truth values by names that its library knows.
func (r *reader) settings(value any, d *Decoder, i int, at model.Pos) {
	table, ok := value.(map[string]any)
	if !ok {
		r.wrong(at, "settings is a table, as in settings = { keys = \"convertFromSnakeCase\" }, and not %s", kind(value))
		return
	}
	known := r.words.Settings(d.Library)
	for _, name := range slices.Sorted(maps.Keys(table)) {
		at := r.places.of("decoder", i, name)
		if !settable(name, known) {
			r.wrong(at, "%s has no setting %q%s", d.Library, name, words.Nearest(name, known))
			continue
		}
		switch v := table[name].(type) {
		case string:
			d.Settings[name] = v
		case bool, int64:
			d.Settings[name] = fmt.Sprint(v)
		default:
			r.wrong(at, "%s is a text, a number or true or false, and not %s", name, kind(v))
		}
	}
}

// settable says whether a library has a setting: one that it names, or a feature whose name begins as one
// does that ends in *.
func settable(name string, known []string) bool {
	return slices.ContainsFunc(known, func(k string) bool {
		prefix, open := strings.CutSuffix(k, "*")
		return name == k || open && strings.HasPrefix(name, prefix) && (prefix != "" || name == strings.ToUpper(name))
	})
}

func (r *reader) text(value any, name string, at model.Pos) string {
	text, ok := value.(string)
	switch {
	case !ok:
		r.wrong(at, "%s is a text in quotes, and not %s", name, kind(value))
	case text == "":
		r.wrong(at, "%s is empty", name)
	}
	return text
}

func (r *reader) list(value any, name string, at model.Pos) Listed {
	l := Listed{Pos: at}
	all, ok := value.([]any)
	if text, one := value.(string); one {
		all, ok = []any{text}, true
	}
	if !ok {
		r.wrong(at, "%s is a list of texts, as in %s = [\"…\"], and not %s", name, name, kind(value))
		return l
	}
	for _, v := range all {
		if text, ok := v.(string); ok && text != "" {
			l.Values = append(l.Values, text)
			continue
		}
		r.wrong(at, "%s is a list of texts, and has %s in it", name, kind(v))
	}
	return l
}

func (r *reader) patterns(value any, name string, at model.Pos) Listed {
	l := r.list(value, name, at)
	l.Values = slices.DeleteFunc(l.Values, func(p string) bool {
		if doublestar.ValidatePattern(p) {
			return false
		}
		r.wrong(at, "%q is no pattern for file names", p)
		return true
	})
	return l
}

func (r *reader) tables(value any, name string, at model.Pos) (all []map[string]any) {
	switch v := value.(type) {
	case []map[string]any:
		return v
	case []any:
		for _, e := range v {
			table, ok := e.(map[string]any)
			if !ok {
				r.wrong(at, "%s is a list of tables, each headed [[%s]], and has %s in it", name, name, kind(e))
				continue
			}
			all = append(all, table)
		}
	case map[string]any:
		r.wrong(at, "there may be several: head it [[%s]] rather than [%s]", name, name)
	default:
		r.wrong(at, "%s is a list of tables, each headed [[%s]], and not %s", name, name, kind(value))
	}
	return all
}

// kind is what a value of TOML is, in words.
func kind(value any) string {
	switch v := value.(type) {
	case string:
		if v == "" {
			return "an empty text"
		}
		return "a text"
	case bool:
		return strconv.FormatBool(v)
	case int64, float64:
		return fmt.Sprintf("the number %v", v)
	case []any, []map[string]any:
		return "a list"
	case map[string]any:
		return "a table"
	}
	return "a date or time"
}
