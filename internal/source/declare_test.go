package source

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/source/java"
	sourcejvm "vetta/internal/source/jvm"
	"vetta/internal/source/kotlin"
	"vetta/internal/source/scan"
)

// declared writes what a reader has made of a file, a declaration a line: what a class is and
// extends, and below it its fields, constants, constructors, methods and the classes inside it.
func declared(f *sourcejvm.File) string {
	var b strings.Builder
	if f.Package != "" {
		fmt.Fprintf(&b, "package %s\n", f.Package)
	}
	for _, i := range f.Imports {
		fmt.Fprintf(&b, "import %s.%s as %s\n", i.Path, i.Name, i.As)
	}
	for _, name := range slices.Sorted(maps.Keys(f.Aliases)) {
		a := f.Aliases[name]
		fmt.Fprintf(&b, "alias %s%s = %s\n", name, params(a.Params), jvm.TypeText(a.Type))
	}
	for _, m := range f.Functions {
		fmt.Fprintf(&b, "function %s\n", signature(m))
	}
	for _, c := range f.Classes {
		writeClass(&b, c, "")
	}
	for _, p := range f.Problems {
		fmt.Fprintf(&b, "problem %d:%d %s\n", p.Pos.Line, p.Pos.Col, p.Reason)
	}
	return strings.TrimSuffix(b.String(), "\n")
}

func writeClass(b *strings.Builder, c *sourcejvm.Class, indent string) {
	fmt.Fprintf(b, "%s%s %s%s", indent, c.Kind, c.Name, params(c.Params))
	for _, flag := range []struct {
		on   bool
		word string
	}{
		{c.Access != model.Public, c.Access.String()}, {c.Static, "static"}, {c.Abstract, "abstract"},
		{c.Data, "data"}, {c.Inline, "value"}, {c.AllDefaults, "all-defaults"}, {c.Computed, "computed"},
	} {
		if flag.on {
			b.WriteString(" " + flag.word)
		}
	}
	if c.Super != nil {
		b.WriteString(" extends " + jvm.TypeText(c.Super))
	}
	for _, t := range c.Implements {
		b.WriteString(" is " + jvm.TypeText(t))
	}
	b.WriteString(marks(c.Marks) + "\n")
	indent += "  "
	for _, f := range c.Fields {
		fmt.Fprintf(b, "%sfield %s %s", indent, f.Name, jvm.TypeText(f.Type))
		for _, flag := range []struct {
			on   bool
			word string
		}{
			{f.Access != model.Public, f.Access.String()}, {f.Static, "static"}, {f.Final, "final"}, {f.Transient, "transient"},
		} {
			if flag.on {
				b.WriteString(" " + flag.word)
			}
		}
		if f.Default != nil {
			b.WriteString(" = " + f.Default.Source)
		}
		b.WriteString(marks(f.Marks) + "\n")
	}
	for _, k := range c.Cases {
		var args []string
		for _, a := range k.Args {
			args = append(args, a.Source)
		}
		fmt.Fprintf(b, "%sconstant %s(%s)%s\n", indent, k.Name, strings.Join(args, ", "), marks(k.Marks))
	}
	for _, m := range c.Ctors {
		fmt.Fprintf(b, "%sconstructor %s\n", indent, signature(m))
	}
	for _, m := range c.Methods {
		fmt.Fprintf(b, "%smethod %s\n", indent, signature(m))
	}
	for _, n := range c.Nested {
		writeClass(b, n, indent)
	}
}

func params(names []string) string {
	if len(names) == 0 {
		return ""
	}
	return "<" + strings.Join(names, ", ") + ">"
}

// signature is a function with what is known of its parameters: = where one has a default.
func signature(m *model.Method) string {
	var all []string
	for _, p := range m.Params {
		text := p.Name + " " + jvm.TypeText(p.Type) + marks(p.Marks)
		if p.Default {
			text += " ="
		}
		all = append(all, text)
	}
	text := m.Name + "(" + strings.Join(all, ", ") + ")"
	if m.Receiver != "" {
		text = m.Receiver + "." + text
	}
	if m.Returns != nil {
		text += " " + jvm.TypeText(m.Returns)
	}
	if m.Access != model.Public {
		text += " " + m.Access.String()
	}
	if m.Static {
		text += " static"
	}
	if m.Sets != "" {
		text += " sets " + m.Sets
	}
	return text + marks(m.Marks)
}

func marks(all model.Annotated) string {
	text := ""
	for _, a := range all {
		text += " @"
		if a.Target != "" {
			text += a.Target + ":"
		}
		text += a.Name
		for _, arg := range a.Args {
			text += fmt.Sprintf(" %s=%s", arg.Name, strings.Join(arg.Texts, "|"))
			text += marks(arg.Marks)
		}
	}
	return text
}

// declaration is source with what a reader is to make of it.
type declaration struct{ name, source, want string }

func testDeclarations(t *testing.T, file string, parse func(scan.Source, *sourcejvm.Rooms) *sourcejvm.File, all []declaration) {
	for _, c := range all {
		t.Run(c.name, func(t *testing.T) {
			got := declared(parse(scan.Source{Name: file, Text: c.source, Whole: true}, nil))
			if want := strings.ReplaceAll(strings.Trim(c.want, "\n"), "\t", "  "); got != want {
				t.Errorf("\n%s\ngot:\n%s\nwant:\n%s", c.source, got, want)
			}
		})
	}
}

func TestKotlinDeclarations(t *testing.T) {
	testDeclarations(t, "A.kt", kotlin.Parse, kotlinDeclarations)
}

func TestJavaDeclarations(t *testing.T) { testDeclarations(t, "A.java", java.Parse, javaDeclarations) }
