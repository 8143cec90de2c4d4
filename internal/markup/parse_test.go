package markup_test

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"vetta/internal/markup"
	"vetta/internal/wire"
)

// TestMalformed: what is no XML is told with its place.
func TestMalformed(t *testing.T) {
	deep := strings.Repeat("<a>", 1001)
	var many strings.Builder
	for i := range 10001 {
		fmt.Fprintf(&many, ` a%d=""`, i)
	}
	bomb := `<!DOCTYPE a [<!ENTITY a "` + strings.Repeat("tern", 100) + `">`
	for i, name := range strings.Split("bcdefgh", "") {
		bomb += fmt.Sprintf(`<!ENTITY %s "%s">`, name, strings.Repeat("&"+"abcdefgh"[i:i+1]+";", 10))
	}
	for _, c := range []struct{ doc, reason, place string }{
		{"", "it ends before its root element", "1:1"},
		{"<a>", "before <a> is closed", "1:4"},
		{"<a>\n <b></a>", "</a> where <b> is open", "2:5"},
		{"<a b=1/>", "a quote is missing in the attribute b", "1:6"},
		{`<a b="1" b="2"/>`, "the attribute b stands twice", "1:10"},
		{`<a xmlns:x="u" xmlns:y="u" x:b="" y:b=""/>`, "the attribute y:b stands twice", "1:35"},
		{"<a>&nbsp;</a>", "the entity &nbsp; is not declared", "1:4"},
		{"<a>&amp</a>", "a reference without its semicolon", "1:4"},
		{"<a>&#0;</a>", "is no character that XML admits", "1:4"},
		{"<a>Tern\n & Gull</a>", "the name of an entity", "2:3"},
		{"<a>]]></a>", "]]> in text", "1:4"},
		{"<a/><b/>", "a second root element", "1:5"},
		{"<a/>tern", "something stands behind the root element", "1:5"},
		{"tern<a/>", "text before the root element", "1:1"},
		{"<a><!-- -- --></a>", "a comment with -- in it", "1:4"},
		{" <?xml version='1.0'?><a/>", "an XML declaration that is not at the very beginning", "1:2"},
		{"<?xml version='1.1'?><a/>", `version "1.1": only 1.0 is read`, "1:16"},
		{"<a>\x01</a>", "a character that XML does not admit", "1:4"},
		{"<a>h\xe9ron</a>", "a byte that is not UTF-8", "1:5"},
		{`<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><a>&x;</a>`, "stands outside the document, which is not read", "1:58"},
		{`<!DOCTYPE a [<!ENTITY x "<b>">]><a>&x;</a>`, "an entity that opens <b> and does not close it", "1:36"},
		{`<!DOCTYPE a [<!ENTITY x "&y;"><!ENTITY y "&x;">]><a>&x;</a>`, "holds itself", "1:53"},
		{bomb + "]><a>&h;</a>", "entities that expand to more than 10 MB", ""},
		{deep, "more than 1000 elements inside each other", "1:3001"},
		{"<a" + many.String() + "/>", "more than 10000 attributes of one element", ""},
	} {
		_, err := markup.Parse([]byte(c.doc))
		var wrong *markup.Error
		if !errors.As(err, &wrong) || !strings.Contains(wrong.Reason, c.reason) {
			t.Errorf("%.60q: %v, want %q", c.doc, err, c.reason)
			continue
		}
		line, column := wire.LineColumn([]byte(c.doc), wrong.Offset)
		if at := fmt.Sprintf("%d:%d", line, column); c.place != "" && at != c.place {
			t.Errorf("%.60q: %s at %s, want %s", c.doc, wrong.Reason, at, c.place)
		}
	}
}

// TestGrowth: a name of a namespace stands in each key, which makes much of little; that is bounded.
func TestGrowth(t *testing.T) {
	space := strings.Repeat("u", 20000)
	for _, doc := range []string{
		`<a xmlns="` + space + `">` + strings.Repeat("<b><c/></b>", 20000) + `</a>`,
		`<a xmlns="` + space + `">` + strings.Repeat("<b><c/><d/></b>", 20000) + `</a>`,
		`<a xmlns:x="` + space + `">` + strings.Repeat(`<b x:c=""/>`, 20000) + `</a>`,
	} {
		_, err := markup.Convert([]byte(doc))
		if err == nil || !strings.Contains(err.Error(), "more than 64 times as long") {
			t.Errorf("%.40s: %v", doc[len(doc)-40:], err)
		}
	}
	if _, err := markup.Convert([]byte(`<a xmlns="` + space + `">` + strings.Repeat("<b/>", 20000) + `</a>`)); err != nil {
		t.Error(err)
	}
}

// TestEncodings: the byte order mark, the charset that a message tells and the declaration say which encoding it is.
func TestEncodings(t *testing.T) {
	wide := func(text string) string {
		var b strings.Builder
		for _, r := range text {
			b.WriteByte(0)
			b.WriteByte(byte(r))
		}
		return b.String()
	}
	for _, c := range []struct{ name, doc, charset, text, wrong string }{
		{"nothing told", "<a>héron</a>", "", "<a>héron</a>", ""},
		{"mark of UTF-8", "\ufeff<a>héron</a>", "", "<a>héron</a>", ""},
		{"declared latin", "<?xml version='1.0' encoding='iso-8859-1'?><a>h\xe9ron</a>", "", "<?xml version='1.0' encoding='iso-8859-1'?><a>héron</a>", ""},
		{"told, and declared otherwise", "<?xml version='1.0' encoding='utf-8'?><a>h\xe9ron</a>", "iso-8859-1", "<?xml version='1.0' encoding='utf-8'?><a>héron</a>", ""},
		{"UTF-16 with a mark", "\xfe\xff" + wide("<a/>"), "", "<a/>", ""},
		{"UTF-16 without one", wide("<?xml version='1.0'?><a/>"), "", "<?xml version='1.0'?><a/>", ""},
		{"an encoding that nobody knows", "<?xml version='1.0' encoding='ferry-8'?><a>\xe9</a>", "", "", "ferry-8"},
		{"declared wide, and is not", "<?xml version='1.0' encoding='utf-16'?><a/>", "", "", "utf-16"},
	} {
		got, err := markup.Decode([]byte(c.doc), c.charset)
		if c.wrong != "" {
			if err == nil || !strings.Contains(err.Error(), c.wrong) {
				t.Errorf("%s: %v, want one about %s", c.name, err, c.wrong)
			}
			continue
		}
		if err != nil || string(got) != c.text {
			t.Errorf("%s: %q %v, want %q", c.name, got, err, c.text)
		}
	}
}

// TestJSON: the JSON text of documents, which shapes are made of, and where in the document each value stands.
func TestJSON(t *testing.T) {
	for _, c := range []struct{ doc, want string }{
		{`<a/>`, `{"<a":{"<#":""}}`},
		{`<a> x </a>`, `{"<a":{"<#":" x "}}`},
		{`<a><b/> <c/><b/></a>`, `{"<a":{"<b":[{"<#":""},{"<#":""}],"<c":[{"<#":""}],"<>":"b c b"}}`},
		{`<a><b>1</b>tern</a>`, `{"<a":{"<b":[{"<#":"1"}],"<#":"tern"}}`},
		{`<a b="1&#10;2"><![CDATA[<&]]>&lt;<!-- c --></a>`, `{"<a":{"<@b":"1\n2","<#":"<&<"}}`},
		{`<a xmlns="urn:s" xmlns:p="urn:p" p:q="1" r="2"><p:b/></a>`, `{"<{urn:s}a":{"<@{urn:p}q":"1","<@r":"2","<{urn:p}b":[{"<#":""}]}}`},
		{`<a xmlns:i="http://www.w3.org/2001/XMLSchema-instance"><b i:nil="true"/><c i:type="i:d" i:schemaLocation="x"/></a>`, `{"<a":{"<b":[null],"<c":[{"<@{http://www.w3.org/2001/XMLSchema-instance}type":"{http://www.w3.org/2001/XMLSchema-instance}d","<#":""}],"<>":"b c"}}`},
		{`<!DOCTYPE a [<!ENTITY s "<b>&t;</b>"><!ENTITY t "Tern">]><a>&s;&s;</a>`, `{"<a":{"<b":[{"<#":"Tern"},{"<#":"Tern"}]}}`},
	} {
		converted, err := markup.Convert([]byte(c.doc))
		if err != nil {
			t.Errorf("%s: %v", c.doc, err)
			continue
		}
		doc, err := converted.Tree()
		if err != nil {
			t.Fatal(err)
		}
		got, places := converted.JSON, converted.Places
		if string(got) != c.want {
			t.Errorf("%s\n got %s\nwant %s", c.doc, got, c.want)
		}
		if start, end := places.Source(strings.Index(c.want, ":") + 1); start != doc.Root.Start || end != doc.Root.End {
			t.Errorf("%s: the root stands at %d to %d, want %d to %d", c.doc, start, end, doc.Root.Start, doc.Root.End)
		}
	}
	const text = `<a gate="A1"><b>Tern</b></a>`
	doc, err := markup.Convert([]byte(text))
	if err != nil {
		t.Fatal(err)
	}
	out, places := doc.JSON, doc.Places
	for _, c := range []struct{ value, source string }{{`"A1"`, "A1"}, {`"Tern"`, "Tern"}, {`{"<#":"Tern"}`, "<b>"}} {
		start, _ := places.Source(strings.Index(string(out), c.value))
		if !strings.HasPrefix(text[start:], c.source) {
			t.Errorf("%s is said to stand at %q", c.value, text[start:])
		}
	}
}

// FuzzParse: no bytes make the reader panic, and what it takes is JSON text with a place for each value.
func FuzzParse(f *testing.F) {
	for _, doc := range []string{"<a b='1'><c>x</c><!-- --><![CDATA[y]]><?p q?></a>", `<!DOCTYPE a [<!ENTITY x "<b>&y;</b>"><!ENTITY y "z"><!ATTLIST a n CDATA "v">]><a>&x;&#65;</a>`, "\xff\xfe<\x00a\x00/\x00>\x00", "<?xml version='1.0' encoding='iso-8859-1'?><a>\xe9</a>", `<p:a xmlns:p="u" xmlns="v"><b p:c=""/></p:a>`, `<a xmlns:i="http://www.w3.org/2001/XMLSchema-instance" i:nil="1"/>`, "<a><b>1</b> <c/>x<b d=\"2\"><b/><e>3</e><b>4</b></b><c>5</c></a>", `<!DOCTYPE a [<!ENTITY x "<b/><c>1</c>">]><a>&x;<b>2</b>&x;</a>`} {
		f.Add([]byte(doc))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		text, err := markup.Decode(data, "")
		if err != nil {
			return
		}
		doc, err := markup.Convert(text)
		if err != nil {
			var wrong *markup.Error
			if !errors.As(err, &wrong) || wrong.Offset < 0 || wrong.Offset > len(text) {
				t.Fatalf("%v, at no place of the document", err)
			}
			return
		}
		out, places := doc.JSON, doc.Places
		v, err := wire.Parse(out)
		if err != nil {
			t.Fatalf("%q: %v", out, err)
		}
		tree, err := doc.Tree()
		if err != nil {
			t.Fatal(err)
		}
		v.Attach(tree)
		if said := differs(tree.Root, v.Members[0].Value); v.Members[0].Name != markup.ElementKey(tree.Root.Name) || said != "" {
			t.Fatalf("%q is written as %q: %s", data, out, said)
		}
		for at := range out {
			if start, end := places.Source(at); start < 0 || end < start || end > len(doc.Text) {
				t.Fatalf("offset %d of %q is from %d to %d", at, out, start, end)
			}
		}
		doc.Position(len(doc.Text))
	})
}

// differs is where the JSON text of an element is not what stands in the tree, "" for nowhere.
func differs(e *markup.Element, v *wire.Value) string {
	if e.Nil() {
		if v.Kind != wire.Null {
			return e.Name.Show() + " is nil"
		}
		return ""
	}
	taken := map[string]int{}
	find := func(key string) *wire.Value {
		for i := range v.Members {
			if v.Members[i].Name == key {
				return v.Members[i].Value
			}
		}
		return nil
	}
	for i := range e.Attrs {
		a := &e.Attrs[i]
		if a.Name.Space == markup.InstanceSpace {
			continue
		}
		found := find(markup.AttrKey(a.Name))
		if found == nil {
			return "no attribute " + a.Name.Show()
		}
		if text, _ := found.Text(); text != a.Value {
			return "the attribute " + a.Name.Show()
		}
	}
	for _, inner := range e.Elements() {
		key := markup.ElementKey(inner.Name)
		list := find(key)
		if list == nil || taken[key] >= len(list.Elems) {
			return "no element " + inner.Name.Show()
		}
		if said := differs(inner, list.Elems[taken[key]]); said != "" {
			return said
		}
		taken[key]++
	}
	for key, n := range taken {
		if len(find(key).Elems) != n {
			return "more of " + key
		}
	}
	if (find(markup.OrderKey) != nil) != (len(taken) > 1) {
		return "the order"
	}
	own := e.OwnText()
	if len(taken) > 0 && strings.Trim(own, " \t\r\n") == "" {
		return ""
	}
	text := find(markup.TextKey)
	if text == nil {
		return "no text"
	}
	if got, _ := text.Text(); got != own {
		return "the text"
	}
	return ""
}
