package scan

import "vetta/internal/model"

// Cursor walks the tokens of one file. Its methods leave it behind what they read;
// none of them goes beyond the file's last token.
type Cursor struct {
	F    *File
	I    int
	line int // of a token not far from the cursor, to look for its line from
}

// Tok is the token at the cursor.
func (c *Cursor) Tok() Token { return c.F.TokenAt(c.I) }

// Text, Newline and Spaced are what the token at the cursor has under these names, Spaced under
// Space.
func (c *Cursor) Text() string { return c.F.text(&c.F.tokens[min(c.I, c.F.Len())]) }

// Newline is described at Text.
func (c *Cursor) Newline() bool { return c.F.tokens[min(c.I, c.F.Len())].flags&hasNewline != 0 }

// Spaced is described at Text.
func (c *Cursor) Spaced() bool { return c.F.tokens[min(c.I, c.F.Len())].flags&hasSpace != 0 }

// Where is the position of the token at the cursor.
func (c *Cursor) Where() model.Pos {
	offset := c.F.tokens[min(c.I, c.F.Len())].start
	c.line = c.F.lineOf(offset, c.line)
	return c.F.position(offset, c.line)
}

// Kind is what the token at the cursor is.
func (c *Cursor) Kind() Kind { return c.F.KindAt(c.I) }

// At is the token n tokens ahead, the EOF where there is none.
func (c *Cursor) At(n int) Token { return c.F.TokenAt(c.I + n) }

// Is says whether the token is that word or character.
func (c *Cursor) Is(text string) bool { return c.F.Is(c.I, text) }

// Ahead says whether the token n tokens ahead is that word or character.
func (c *Cursor) Ahead(n int, text string) bool { return c.F.Is(c.I+n, text) }

// KindAhead is what the token n tokens ahead is.
func (c *Cursor) KindAhead(n int) Kind { return c.F.KindAt(c.I + n) }

// Advance passes over one token.
func (c *Cursor) Advance() {
	if c.I < c.F.Len() {
		c.I++
	}
}

// Accept passes over the token if it is that word or character.
func (c *Cursor) Accept(text string) bool {
	if c.Is(text) {
		c.Advance()
		return true
	}
	return false
}

// Operator says whether the characters of op come next with nothing between them.
func (c *Cursor) Operator(op string) bool {
	for n := range len(op) {
		if c.I+n >= len(c.F.tokens) {
			return false
		}
		if t := &c.F.tokens[c.I+n]; t.kind != Punct || c.F.Src[t.start] != op[n] || n > 0 && t.flags&hasSpace != 0 {
			return false
		}
	}
	return true
}

// Shut is the index of the bracket that closes the one at the cursor. Where a brace
// is never closed it is the end of what is around it; a round or square bracket that
// is never closed is taken to be a slip that ends nothing.
func (c *Cursor) Shut() int {
	m := c.F.Partner(c.I)
	if m > c.I && (c.Is("{") || c.F.Partner(m) == c.I) {
		return m
	}
	return c.I
}

// Jump passes over a bracketed stretch, or over one token.
func (c *Cursor) Jump() {
	c.I = c.Shut()
	c.Advance()
}
