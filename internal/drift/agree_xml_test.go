package drift_test

import (
	"bytes"
	"path/filepath"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/markup"
	"vetta/internal/wire"
)

// document is a document of a fixture as it is decoded and as it is counted: JSON, or XML.
func document(t *testing.T, doc []byte) (v *wire.Value, counted []byte) {
	t.Helper()
	if !bytes.HasPrefix(doc, []byte("<")) {
		v, err := wire.Parse(doc)
		if err != nil {
			t.Fatalf("%s: %v", doc, err)
		}
		return v, doc
	}
	c, err := markup.Convert(doc)
	if err != nil {
		t.Fatalf("%s: %v", doc, err)
	}
	if v, err = wire.Parse(c.JSON); err != nil {
		t.Fatal(err)
	}
	tree, err := c.Tree()
	if err != nil {
		t.Fatal(err)
	}
	v.Attach(tree)
	return v, c.JSON
}

// TestCheckIsTrialXML: of measured models what check counts over the documents of each is what trial finds one by one.
func TestCheckIsTrialXML(t *testing.T) {
	dirs, _ := filepath.Glob("../../testdata/truth/csharp/forms/xml-*")
	made, _ := filepath.Glob("../../testdata/truth/csharp/made/xml/*")
	compared := 0
	for _, dir := range append(dirs, made...) {
		plan, docs := measuredXML(t, dir)
		if plan == nil || plan.Root == nil || !isContract(plan) || plan.Unclaimed() != "" || plan.Otherwise != "" || plan.Swallowed {
			continue
		}
		lostBefore := filepath.Base(dir) == "018" // what would not be read stands in an element that its order loses
		t.Run(filepath.Base(dir), func(t *testing.T) {
			fails := int64(0)
			var all [][]byte
			for _, doc := range docs {
				v, counted := document(t, doc)
				all = append(all, counted)
				out := plan.Decode(v)
				_, lost, exact := counts(t, plan, [][]byte{counted})
				if out.Err != nil {
					fails++
				}
				if exact && (lost > 0) != (out.Err != nil) || lost > 0 && out.Err == nil && !lostBefore {
					t.Errorf("check says %d would not decode, trial says %v\n%s", lost, out.Err, doc)
				}
				compared++
			}
			_, lost, exact := counts(t, plan, all)
			if exact && lost != fails || lost > fails && !lostBefore {
				t.Errorf("%d would not decode by check (exact %v), %d by trial", lost, exact, fails)
			}
		})
	}
	if compared < 870 {
		t.Errorf("only %d documents were compared", compared)
	}
}

func isContract(p *decoder.Plan) bool {
	if p.Settings == nil {
		return false
	}
	switch p.Settings.Library {
	case "xmlserializer", "datacontract", "datacontractjson":
		return true
	}
	return false
}

// measuredXML is a folder of the tables: its plan, and the documents that .NET was given.
func measuredXML(t *testing.T, dir string) (*decoder.Plan, [][]byte) {
	t.Helper()
	plan, _, rows := formOf(t, dir)
	if plan == nil {
		return nil, nil
	}
	var docs [][]byte
	for _, row := range rows {
		doc := []byte(row[0])
		if bytes.HasPrefix(doc, []byte("<")) {
			if _, err := markup.Parse(doc); err != nil {
				continue
			}
		} else if _, err := wire.Parse(doc); err != nil {
			continue
		}
		docs = append(docs, doc)
	}
	return plan, docs
}
