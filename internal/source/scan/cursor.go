package scan

// Cursor walks the tokens of one file. Its methods leave it behind what they read;
// none of them goes beyond the file's last token.
type Cursor struct {
	F *File
	I int
}

// Tok is the token at the cursor.
func (c *Cursor) Tok() Token { return c.F.Tokens[c.I] }

// At is the token n tokens ahead, the EOF where there is none.
func (c *Cursor) At(n int) Token {
	if k := c.I + n; k >= 0 && k < len(c.F.Tokens) {
		return c.F.Tokens[k]
	}
	return c.F.Tokens[len(c.F.Tokens)-1]
}

// Is says whether the token is that word or character.
func (c *Cursor) Is(text string) bool { return c.Tok().Is(text) }

// Advance passes over one token.
func (c *Cursor) Advance() {
	if c.I < len(c.F.Tokens)-1 {
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
		t := c.At(n)
		if t.Kind != Punct || t.Text != op[n:n+1] || n > 0 && t.Space {
			return false
		}
	}
	return true
}

// Shut is the index of the bracket that closes the one at the cursor. Where a brace
// is never closed it is the end of what is around it; a round or square bracket that
// is never closed is taken to be a slip that ends nothing.
func (c *Cursor) Shut() int {
	m := int(c.F.Match[c.I])
	if m > c.I && (c.Is("{") || int(c.F.Match[m]) == c.I) {
		return m
	}
	return c.I
}

// Jump passes over a bracketed stretch, or over one token.
func (c *Cursor) Jump() {
	c.I = c.Shut()
	c.Advance()
}

// TokenAt is a token by its index, the EOF where there is none.
func (f *File) TokenAt(i int) Token {
	if i < 0 || i >= len(f.Tokens) {
		return f.Tokens[len(f.Tokens)-1]
	}
	return f.Tokens[i]
}

// Partner is the index of the bracket that pairs with the one at an index, -1 where there
// is none.
func (f *File) Partner(i int) int {
	if i < 0 || i >= len(f.Match) {
		return -1
	}
	return int(f.Match[i])
}
