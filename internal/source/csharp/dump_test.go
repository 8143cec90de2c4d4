package csharp

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"vetta/internal/code"
	"vetta/internal/source/scan"
)

func TestDump(t *testing.T) {
	dir := os.Getenv("CSDIR")
	if dir == "" {
		t.Skip()
	}
	torn, n := 0, 0
	filepath.Walk(dir, func(p string, i os.FileInfo, err error) error {
		if filepath.Ext(p) != ".cs" {
			return nil
		}
		b, _ := os.ReadFile(p)
		text, _ := directives(string(b))
		f := scan.Source{Name: p, Text: text, Whole: true}.Scan(dialect)
		u := Parse(f)
		n++
		for _, pr := range f.Problems {
			fmt.Println("PROBLEM", pr.Pos, pr.Reason)
		}
		var walk func(all []code.Stmt, where string)
		var expr func(e *code.Expr, where string)
		expr = func(e *code.Expr, where string) {
			if e == nil {
				return
			}
			if e.Op == code.Other && len(e.Args) == 0 {
				fmt.Println("OTHER", where, e.Pos)
				torn++
			}
			for _, a := range e.Args {
				expr(a, where)
			}
			walk(e.Body, where)
		}
		walk = func(all []code.Stmt, where string) {
			for _, s := range all {
				if s.Torn {
					torn++
					fmt.Println("TORN", where, f.At(s.From))
				}
				expr(s.Value, where)
				walk(s.Body, where)
			}
		}
		for _, c := range u.Classes {
			for _, fn := range c.Funcs {
				walk(fn.Do(), c.Name+"."+fn.Name)
				walk(fn.Inits, fn.Name)
			}
			for _, pr := range c.Props {
				expr(pr.Value, c.Name+"."+pr.Name)
				for _, a := range pr.Accessors {
					if a.Fn != nil {
						walk(a.Fn.Do(), c.Name+"."+pr.Name)
					}
				}
			}
		}
		for _, fn := range u.Funcs {
			walk(fn.Do(), fn.Name)
		}
		if os.Getenv("CSV") != "" {
			for _, c := range u.Classes {
				fmt.Println(p, c.Space, c.Kind, c.Name, c.Mods, len(c.Props), len(c.Funcs), c.Order)
				for _, pr := range c.Props {
					fmt.Println("    ", pr.Mods, pr.Type.Written(), pr.Name, len(pr.Accessors), pr.Value != nil)
				}
			}
		}
		return nil
	})
	fmt.Println(n, "files", torn, "torn")
}
