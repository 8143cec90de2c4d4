// Package xmlserializer is what XmlSerializer does with a declared type and an XML document. The rules are those of .NET
// 10 with dynamic code, measured (testdata/truth/csharp), and as the source of the runtime has them where that says more
// (System.Private.Xml, XmlReflectionImporter and XmlSerializationReader).
package xmlserializer

import (
	"fmt"
	"sync"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/decoder/sharp"
	"vetta/internal/markup"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Name is what settings call the library.
const Name = "xmlserializer"

// space is where its attributes are declared.
const space = "System.Xml.Serialization."

// Plan makes the plan by which the library reads t with these settings.
func Plan(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	return newCompiler(settings).plan(t, declared)
}

// Planner is Plan for many types with the same settings: what several of them hold is planned once.
func Planner(settings *model.Settings) func(t *model.Type, declared string) *decoder.Plan {
	classes, nodes := map[classKey]*class{}, map[*class]*decoder.Node{}
	met := &meeting{names: map[markup.Name]string{}}
	return func(t *model.Type, declared string) *decoder.Plan {
		c := newCompiler(settings)
		c.classes, c.asNodes, c.met = classes, nodes, met
		was := met.matters
		p := c.plan(t, declared)
		c.clash = c.clash || met.matters && !was // what was passed over before mattered
		if c.broken != nil || c.lost != "" || c.clash {
			for _, k := range c.fresh { // the way to a fault is told from its root
				delete(nodes, classes[k])
				delete(classes, k)
			}
		}
		if c.clash {
			return Plan(t, declared, settings)
		}
		return p
	}
}

// Options is how a serializer was made and what it reads from, as code of the app has it.
type Options = sharp.XMLOptions

// Overridden is a class, or a member of one, whose attributes are told elsewhere.
type Overridden = sharp.Overridden

// fromSettings are the options that the settings of a call tell.
func fromSettings(s *model.Settings) Options {
	o := Options{Root: s.Option("root"), Space: s.Option("namespace"), Doctype: s.Option("DtdProcessing") != "Prohibit", Strips: s.Option("namespaces") == "false"}
	if s != nil {
		if ns, ok := s.Options["rootNamespace"]; ok {
			o.RootSpace = &ns.Value
		}
	}
	return o
}

// Read reads a document, or an element of one, as a type.
func Read(t *model.Type, o Options, doc *markup.Document, from *markup.Element) decoder.Outcome {
	c := newReader(o, sharp.CodeOf(t))
	c.root(t)
	return c.read(doc, from)
}

// Accepts says whether a serializer of a type would read an element: CanDeserialize.
func Accepts(t *model.Type, o Options, from *markup.Element) bool {
	c := newReader(o, sharp.CodeOf(t))
	c.root(t)
	return c.broken == nil && c.lost == "" && c.nameOf(from.Name) == c.top.name
}

func (c *compiler) read(doc *markup.Document, from *markup.Element) decoder.Outcome {
	r := &reading{c: c, doc: doc}
	seen, err := r.top(from)
	out := decoder.Outcome{Seen: seen, Err: err}
	out.Unknown = decoder.UnknownIn(seen)
	return out
}

func (c *compiler) plan(t *model.Type, declared string) *decoder.Plan {
	c.code = sharp.CodeOf(t)
	p := &decoder.Plan{Type: t, Declared: declared, Settings: c.settings, Refuses: c.settings.Refuses("XmlSerializer"), MaxDepth: markup.MaxDepth}
	p.TooDeep = &decoder.Error{Kind: "InvalidOperationException", Reason: decoder.ReasonText, Message: "InvalidOperationException: There is an error in XML document."}
	c.root(t)
	switch {
	case c.lost != "":
		p.Root = unknown(c.lost)
		return p
	case c.broken != nil:
		would := c.nodes(t)
		p.Root = &decoder.Node{Op: decoder.OpFail, Type: declared, Model: c.breaks, Error: c.broken, Inner: would}
		broken := c.broken
		p.Run = func(*wire.Value) decoder.Outcome { return decoder.Outcome{Err: broken} }
		return p
	}
	p.Root = c.nodes(t)
	p.Part = p.Root.Inner.Inner
	p.Inexact = c.ordered
	// What the plans of a project hold is counted in classes times classes: a document is read by a compiler of its own.
	options, code := c.options, c.code
	own := sync.OnceValue(func() *compiler {
		own := newReader(options, code)
		own.root(t)
		return own
	})
	p.Run = func(doc *wire.Value) decoder.Outcome {
		if doc.Markup == nil || doc.Markup.Root == nil {
			return decoder.Outcome{Err: &decoder.Error{Kind: "InvalidOperationException", Reason: decoder.ReasonKind, Where: decoder.AtRoot,
				Message: "InvalidOperationException: There is an error in XML document (1, 1). <- XmlException: Data at the root level is invalid. Line 1, position 1.",
				Advice:  "the response is JSON: decode it by a library for that"}}
		}
		return own().read(doc.Markup, doc.Markup.Root)
	}
	return p
}

func unknown(why string) *decoder.Node { return &decoder.Node{Op: decoder.OpUnknown, Why: why} }

type compiler struct {
	settings *model.Settings
	options  Options
	code     *sharp.Code
	classes  map[classKey]*class
	byName   map[markup.Name]*model.Type // the types that have an XML type name
	top      *accessor
	path     []string // the classes and members that lead to what is looked at, for messages
	broken   *decoder.Error
	breaks   *model.Model
	lost     string
	ordered  bool
	growth   model.Growth
	asNodes  map[*class]*decoder.Node

	met       *meeting   // of a planner, whose classes hold those of other roots too; nil for one root
	fresh     []classKey // the classes that this root was the first to lead to
	seen      map[*class]bool
	extending map[*model.Model][]*class
	around    *class // the class whose members are looked at
	clash     bool   // two classes have one name, of which one is known from another root
}

func newCompiler(settings *model.Settings) *compiler {
	c := newReader(fromSettings(settings), nil)
	c.settings = settings
	return c
}

func newReader(o Options, code *sharp.Code) *compiler {
	return &compiler{options: o, code: code, classes: map[classKey]*class{}, asNodes: map[*class]*decoder.Node{}, seen: map[*class]bool{}}
}

// nameOf is a name as the reader that the serializer is given has it.
func (c *compiler) nameOf(n markup.Name) markup.Name {
	if c.options.Strips {
		n.Space = ""
	}
	return n
}

// refuse notes why no document can be read whatever it holds; the first reason counts.
func (c *compiler) refuse(m *model.Model, advice, format string, args ...any) {
	if c.broken != nil {
		return
	}
	message := "InvalidOperationException: "
	for _, p := range c.path {
		message += p + " <- InvalidOperationException: "
	}
	message += fmt.Sprintf(format, args...)
	c.breaks = m
	c.broken = &decoder.Error{Kind: "InvalidOperationException", Reason: decoder.ReasonType, Where: decoder.AtRoot, Message: message, Advice: advice}
}

// refuseBare is refuse for what the runtime tells without the way that led there.
func (c *compiler) refuseBare(m *model.Model, advice, format string, args ...any) {
	path := c.path
	c.path = nil
	c.refuse(m, advice, format, args...)
	c.path = path
}

func (c *compiler) lose(why string) {
	if c.lost == "" {
		c.lost = why
	}
}

// find is an attribute of the library's of that name among some.
func find(marks model.Annotated, name string) *model.Annotation {
	for i := range marks {
		if m := &marks[i]; m.Whole == space+name && (m.Target == "" || m.Target == "property" || m.Target == "field" || m.Target == "type") {
			return m
		}
	}
	return nil
}

// all are the attributes of that name.
func all(marks model.Annotated, name string) (out []*model.Annotation) {
	for i := range marks {
		if m := &marks[i]; m.Whole == space+name && (m.Target == "" || m.Target == "property" || m.Target == "field" || m.Target == "type") {
			out = append(out, m)
		}
	}
	return out
}

// shownName is a class as messages have it.
func shownName(t *model.Type) string { return clr.Name(t) }
