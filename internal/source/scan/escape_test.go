package scan

import "testing"

func TestCodeUnits(t *testing.T) {
	for _, c := range []struct {
		name, rest string
		several    bool
		char       rune
		size       int
		ok         bool
	}{
		{"a letter", "u0041bc", false, 'A', 5, true},
		{"the end of the text", "u00e9", false, 'é', 5, true},
		{"several u", "uuu0041", true, 'A', 7, true},
		{"several u where there may be one", "uu0041", false, 0, 1, false},
		{"too few digits", "u004", false, 0, 1, false},
		{"no digits", "uzzzz", false, 0, 1, false},
		{"nothing behind it", "u", true, 0, 1, false},
		{"two halves of a character", `ud83d\ude00x`, false, '😀', 11, true},
		{"two halves, of several u", `uud83d\uude00`, true, '😀', 13, true},
		{"one half alone", "ud83dx", false, 0xd83d, 5, true},
		{"a half and a letter", `ud83d\u0041`, false, 0xd83d, 5, true},
		{"a half and what is no escape", `ud83d\u00`, false, 0xd83d, 5, true},
		{"the halves the other way round", `ude00\ud83d`, false, 0xde00, 5, true},
	} {
		t.Run(c.name, func(t *testing.T) {
			char, size, ok := CodeUnits(c.rest, c.several)
			if char != c.char || size != c.size || ok != c.ok {
				t.Errorf("%q: got %#x of %d bytes (%v), want %#x of %d (%v)", c.rest, char, size, ok, c.char, c.size, c.ok)
			}
		})
	}
}

// TestPositions: lines and columns count from 1, columns in characters, whatever ends a line.
func TestPositions(t *testing.T) {
	for _, c := range []struct {
		src  string
		want []string // of each token
	}{
		{"a b\nc", []string{"1:1", "1:3", "2:1"}},
		{"a\r\n  b", []string{"1:1", "2:3"}},
		{"é b\n ñ c", []string{"1:1", "1:3", "2:2", "2:4"}},
		{"/* é\n */ a", []string{"2:5"}},
		{"\n\n\na", []string{"4:1"}},
		{"😀 a", []string{"1:1", "1:3"}},
		{"\ufeffa b", []string{"1:1", "1:3"}},
		{"a\n\n\n\n\n\n\n\n\n\n\n\nb\nc", []string{"1:1", "13:1", "14:1"}},
	} {
		f := Scan("x", c.src, quoted)
		cursor := &Cursor{F: f}
		for i, want := range c.want {
			if got := f.Where(i).String(); got != "x:"+want {
				t.Errorf("%q: token %d is at %s, want %s", c.src, i, got, want)
			}
			if got := cursor.Where().String(); got != "x:"+want {
				t.Errorf("%q: the cursor at token %d is at %s, want %s", c.src, i, got, want)
			}
			cursor.Advance()
		}
		if f.Len() != len(c.want) {
			t.Errorf("%q has %d tokens, want %d", c.src, f.Len(), len(c.want))
		}
	}
}
