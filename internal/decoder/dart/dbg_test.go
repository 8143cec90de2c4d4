package dart_test

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/decoder/library"
	"vetta/internal/source"
	"vetta/internal/source/scan"
)

func dump(n *decoder.Node, ind string, deep int) {
	if n == nil || deep > 7 {
		return
	}
	fmt.Printf("%s%d name=%q why=%q others=%v inside=%v texts=%v null=%v missing=%v\n", ind, n.Op, n.Name, n.Why, n.Others, n.Inside, n.MindsText, n.NullError != nil, n.Missing != nil)
	dump(n.Inner, ind+"  ", deep+1)
	for _, s := range n.Steps {
		dump(s.Node, ind+"  ", deep+1)
	}
}

func TestDump(t *testing.T) {
	var files []scan.Source
	filepath.Walk(os.Getenv("DIR"), func(p string, i os.FileInfo, err error) error {
		if filepath.Ext(p) == ".dart" {
			b, _ := os.ReadFile(p)
			files = append(files, scan.Source{Name: p, Text: string(b)})
		}
		return nil
	})
	set := source.Read(files)
	for _, c := range set.Calls {
		if c.Declared == os.Getenv("TYPE") {
			plan := library.For("dart", c.Settings).Plan(c.Type, c.Declared, c.Settings)
			dump(plan.Root, "", 0)
		}
	}
}
