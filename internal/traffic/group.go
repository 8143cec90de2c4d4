package traffic

import (
	"path"
	"path/filepath"
	"strings"
)

// Group is what the captures of one endpoint have in common by their names: folder
// and name without extension, with numbers, dates and ids taken out as *, and left
// out at the end.
func Group(file string) string { return new(Grouper).Group(file) }

// Grouper answers Group for file after file, and remembers the last folder.
type Grouper struct{ folder, group string }

// Group is the group of a file.
func (g *Grouper) Group(file string) string {
	file = filepath.ToSlash(file)
	folder, name := path.Split(file)
	if folder != g.folder || g.group == "" {
		parts := strings.Split(folder, "/")
		for i, part := range parts {
			if part != "." && part != ".." {
				parts[i] = groupPart(part)
			}
		}
		g.folder, g.group = folder, strings.Join(parts, "/")
	}
	name = Uncompressed(name)
	name = groupPart(strings.TrimSuffix(name, path.Ext(name)))
	if last := strings.TrimRight(name, "*"); last != "" {
		name = last
	}
	return g.group + name
}

// groupPart replaces the words of a name that hold digits, or are long
// hexadecimal ids. Words that only differ in such ones lead to one group:
// sailings-3, sailings_2026-03-01 and sailings (4) are sailings*.
func groupPart(name string) string {
	var out strings.Builder
	star := false
	for i := 0; i < len(name); {
		if !isWord(name[i]) {
			out.WriteByte(name[i])
			i++
			continue
		}
		start := i
		for i < len(name) && isWord(name[i]) {
			i++
		}
		word := name[start:i]
		letters := len(word) // up to the digits at the end
		for letters > 0 && isDigit(word[letters-1]) {
			letters--
		}
		digits := 0 // in all
		for k := range len(word) {
			if isDigit(word[k]) {
				digits++
			}
		}
		switch {
		case digits == 0, isVersion(word), !isDigit(word[0]) && letters == len(word) && !isHexID(word):
			out.WriteString(word)
		case letters > 0 && letters < len(word) && !isDigit(word[0]) && !isHexID(word):
			out.WriteString(word[:letters]) // sailings3: the number goes with what is around it
			star = true
			out.WriteByte('*')
		default:
			star = true
			out.WriteByte('*')
		}
	}
	if !star {
		return name
	}
	// Stars with only marks between them are one, and so are the marks before it.
	text := out.String()
	var b strings.Builder
	for i := 0; i < len(text); {
		end := i
		for end < len(text) && !isWord(text[end]) {
			end++
		}
		if run := text[i:end]; strings.Contains(run, "*") {
			b.WriteByte('*')
		} else {
			b.WriteString(run)
		}
		i = end
		for i < len(text) && isWord(text[i]) {
			b.WriteByte(text[i])
			i++
		}
	}
	return b.String()
}

func isWord(c byte) bool {
	return c >= '0' && c <= '9' || c|0x20 >= 'a' && c|0x20 <= 'z' || c >= 0x80
}

func isDigit(c byte) bool { return c >= '0' && c <= '9' }

// isVersion: v2 says which API it is, not which response.
func isVersion(word string) bool {
	return len(word) >= 2 && len(word) <= 3 && (word[0] == 'v' || word[0] == 'V') && strings.Trim(word[1:], "0123456789") == ""
}

// isHexID says whether a word is hexadecimal, long, and has digits and letters.
func isHexID(word string) bool {
	return len(word) >= 8 && strings.Trim(word, "0123456789abcdefABCDEF") == "" && strings.ContainsAny(word, "0123456789")
}

// Uncompressed is the name of a file without the ending that says how it is compressed.
func Uncompressed(path string) string {
	switch ext := strings.ToLower(filepath.Ext(path)); ext {
	case ".gz", ".br", ".zst":
		return path[:len(path)-len(ext)]
	}
	return path
}
